'use client'
import { Plus, ScanQrCode, Search, Upload } from 'lucide-react'
import dynamic from 'next/dynamic'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useCallback, useEffect, useOptimistic, useRef, useState, useTransition } from 'react'
import type { RegionId } from '@/core/region/types'
import { Alive } from '@/ui/alive'
import { api, ApiError } from '@/ui/api'
import { formatWhen } from '@/ui/when'
import { DropZone } from './drop-zone'
import { JobRowMenu, ReachedSigns } from './job-row'
import { NewJob } from './new-job'
import { type JobLine, listAt, type Shown } from './job-line'
import { stages } from '@/core/report/stages'
import { SettingsBar } from './settings-bar'
import { worldNames } from '@/core/region/names'

const ScanLabel = dynamic(() => import('@/ui/scan-label').then((m) => m.ScanLabel))

interface Notice {
  text: string
  undo?: () => void
  open?: () => void
  alert?: boolean
}

/** What is done with jobs from the list, each telling what became of it. */
function useJobActs(setNotice: (notice: Notice) => void, refresh: () => void) {
  const router = useRouter()
  const report = (e: unknown) =>
    setNotice({ text: e instanceof ApiError ? [e.path, e.message].filter(Boolean).join(': ') : String(e), alert: true })

  const importFile = useCallback(
    async (file: File) => {
      try {
        const archive = file.name.toLowerCase().endsWith('.zip')
        const most = archive ? 200 : 10
        if (file.size > most * 1024 * 1024) throw new ApiError(413, '', `The file is larger than ${most} MB; nothing was brought in.`)
        const { id, title, twin, lost } = await api<{ id: string; title: string; twin: string | null; lost?: number }>(
          'POST',
          '/api/jobs/import',
          archive ? file : await file.text(),
        )
        if (lost) {
          setNotice({
            text: `${title} brought in. ${lost} of its photographs ${lost === 1 ? 'has' : 'have'} no picture in the archive.`,
            open: () => router.push(`/jobs/${id}`),
          })
          return router.refresh()
        }
        // Two of one name are reported here, where both are seen; otherwise the job opens.
        if (twin) {
          setNotice({
            text: `${title} brought in. There was one of this title and place already, changed ${formatWhen(twin)}: both are kept.`,
            open: () => router.push(`/jobs/${id}`),
          })
          return router.refresh()
        }
        setNotice({ text: `${title} brought in.` })
        router.push(`/jobs/${id}`)
      } catch (e) {
        if (e instanceof ApiError)
          setNotice({ text: `${file.name} was not brought in. ${e.path ? `At ${e.path}: ` : ''}${e.message}`, alert: true })
        else throw e
      }
    },
    [router, setNotice],
  )

  const remove = async (row: JobLine) => {
    try {
      await api('DELETE', `/api/jobs/${row.id}`)
      setNotice({ text: `${row.title} deleted.`, undo: () => void restore(row) })
      refresh()
    } catch (e) {
      report(e)
    }
  }
  const restore = async (row: JobLine) => {
    try {
      await api('POST', `/api/jobs/${row.id}/undelete`, {})
      setNotice({ text: `${row.title} is back.` })
      refresh()
    } catch (e) {
      report(e)
    }
  }
  const duplicate = async (row: JobLine) => {
    try {
      await api<{ id: string }>('POST', `/api/jobs/${row.id}/duplicate`, {})
      setNotice({ text: `${row.title} copied, without its readings.` })
      refresh()
    } catch (e) {
      report(e)
    }
  }
  return { importFile, remove, restore, duplicate, report }
}

export function JobsView({
  rows,
  total,
  page,
  pages,
  shown,
  pending,
  demos,
  person,
}: {
  rows: JobLine[]
  total: number
  page: number
  pages: number
  shown: Shown
  pending: Pending
  /** Worked examples: offered where there is nothing yet; each says what it shows. */
  demos: readonly Demo[]
  person: string | null
}) {
  const { search, deleted } = shown
  const router = useRouter()
  const [busy, startTransition] = useTransition()
  const [making, setMaking] = useState(false)
  const [scanning, setScanning] = useState(false)
  const [notice, setNotice] = useState<Notice | null>(null)
  const picker = useRef<HTMLInputElement>(null)
  const refresh = () => startTransition(() => router.refresh())
  // Shown as chosen at once, the list follows. Search and narrowing choose of the same: else the later of two takes back the earlier.
  const [chosen, setChosen] = useOptimistic(shown)
  const choose = (more: Partial<Shown>) =>
    startTransition(() => {
      const next = { ...chosen, ...more }
      setChosen(next)
      router.replace(listAt(next))
    })
  const { importFile, remove, restore, duplicate, report } = useJobActs(setNotice, refresh)
  const empty = rows.length === 0 && !search && !narrowed(shown) && !deleted

  return (
    <DropZone onFile={(f) => void importFile(f)}>
      <ReachedSigns />
      <Alive className="mx-auto flex min-h-dvh max-w-[76rem] flex-col px-5 py-4 max-md:px-3">
        <header className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
          <Wordmark />
          <SearchBox shown={shown} onSearch={(text) => choose({ search: text })} />
          {!empty && (
            <button type="button" className="btn" onClick={() => setScanning(true)}>
              <ScanQrCode size={17} aria-hidden /> Scan a label
            </button>
          )}
          <button type="button" className="btn" onClick={() => picker.current?.click()}>
            <Upload size={17} aria-hidden /> Import
          </button>
          <input
            ref={picker}
            type="file"
            accept=".json,.zip,application/json,application/zip"
            className="hidden"
            aria-label="Job file or archive"
            onChange={(e) => e.target.files?.[0] && void importFile(e.target.files[0])}
          />
          <button type="button" className="btn btn-ink" onClick={() => setMaking(true)}>
            <Plus size={17} aria-hidden /> New job
          </button>
        </header>
        {scanning && <ScanLabel onFound={(path) => router.push(path)} onClose={() => setScanning(false)} />}
        {notice && <NoticeBar notice={notice} onClose={() => setNotice(null)} />}
        {making && <NewJob onDone={(path) => (path ? router.push(path) : setMaking(false))} />}
        <main className="flex-1" aria-busy={busy}>
          <h1 className="sr-only">{deleted ? 'Deleted jobs' : 'Jobs'}</h1>
          {(total > FEW || narrowed(shown)) && <Filters chosen={chosen} total={total} choose={choose} />}
          <StillToDo pending={pending} refresh={refresh} />
          {empty ? (
            <Beginning demos={demos} onNew={() => setMaking(true)} onFail={report} />
          ) : rows.length === 0 ? (
            <p className="mt-16 text-center text-ink-2">
              {search || narrowed(shown)
                ? `No job ${search ? `has “${search}” in it` : 'is like that'}${search && narrowed(shown) ? ' and is like that' : ''}.`
                : 'Nothing has been deleted.'}
            </p>
          ) : (
            <ul className="border-t border-rule-2">
              {rows.map((row) => (
                <JobRowMenu
                  key={row.id}
                  row={row}
                  world={worldNames[row.region as RegionId].name}
                  when={formatWhen(row.updatedAt)}
                  about={demos.find((d) => d.id === row.id)?.about}
                  deleted={deleted}
                  onDelete={() => void remove(row)}
                  onDuplicate={() => void duplicate(row)}
                  onRestore={() => void restore(row)}
                />
              ))}
            </ul>
          )}
          {pages > 1 && <Pages page={page} pages={pages} shown={shown} total={total} />}
        </main>
        <SettingsBar deleted={deleted} person={person} />
      </Alive>
    </DropZone>
  )
}

function NoticeBar({ notice, onClose }: { notice: Notice; onClose: () => void }) {
  return (
    <div role={notice.alert ? 'alert' : 'status'} className="mb-3 flex items-center gap-3 border-l-4 border-ink bg-sheet px-3 py-2">
      <p className="flex-1">{notice.text}</p>
      {notice.open && (
        <button type="button" className="btn" onClick={notice.open}>
          Open the one brought in
        </button>
      )}
      {notice.undo && (
        <button type="button" className="btn" onClick={notice.undo}>
          Undo
        </button>
      )}
      <button type="button" className="btn" onClick={onClose}>
        Close
      </button>
    </div>
  )
}

type Demo = Pick<JobLine, 'id' | 'title' | 'place' | 'region'> & { readonly about: string }

/** Nothing is there yet: what to do first, and examples to look at. */
function Beginning({ demos, onNew, onFail }: { demos: readonly Demo[]; onNew: () => void; onFail: (e: unknown) => void }) {
  const router = useRouter()
  const open = async (id: string) => {
    try {
      await api('POST', '/api/jobs/demo', { id })
      router.push(`/jobs/${id}`)
    } catch (e) {
      onFail(e)
    }
  }
  return (
    <section className="mx-auto mt-12 max-w-[36rem]">
      <h2 className="text-xl">Start with a request for power</h2>
      <p className="mt-1 mb-3 text-ink-2">
        A job begins with that request: where it is, what it powers. Then the survey, the circuit, boxes, wiring, tests, papers. A Job file
        from elsewhere can be dropped anywhere on this page.
      </p>
      <button type="button" className="btn btn-ink" onClick={onNew}>
        <Plus size={17} aria-hidden /> Make the first job
      </button>
      <h3 className="mt-6 mb-1 text-[1rem]">Or open an example</h3>
      <ul className="border-t border-rule-2">
        {demos.map((d) => (
          <li key={d.id} className="border-b border-rule">
            <button type="button" className="tap w-full py-2 text-left hover:bg-wash" onClick={() => void open(d.id)}>
              <b>{d.title}</b>
              <span className="block text-ink-2">
                {d.place} · {worldNames[d.region as RegionId].name}
              </span>
              <span className="block text-[0.9rem] text-ink-2">{d.about}</span>
            </button>
          </li>
        ))}
      </ul>
    </section>
  )
}

/** What the server still does with jobs in the background; the list is asked for again as long as that goes forward. */
interface Pending {
  readonly toBringUp: number
  readonly toCount: number
}
const AGAIN_MS = 1500
function StillToDo({ pending: { toBringUp, toCount }, refresh }: { pending: Pending; refresh: () => void }) {
  const again = useRef(refresh)
  useEffect(() => {
    again.current = refresh
  })
  useEffect(() => {
    if (toBringUp + toCount === 0) return
    const timer = setTimeout(() => again.current(), AGAIN_MS)
    return () => clearTimeout(timer)
  }, [toBringUp, toCount])
  if (toBringUp === 0) return null
  return (
    <p role="status" className="mb-2 border-l-4 border-rule-2 bg-sheet px-3 py-2">
      Jobs of an older version are being brought up to this one: {toBringUp} left. Any of them can be opened meanwhile.
    </p>
  )
}

function Wordmark() {
  return (
    <Link href="/" prefetch={false} className="mr-auto flex tap items-center gap-2 text-xl font-bold">
      <svg width={26} height={30} viewBox="0 0 26 30" aria-hidden>
        <path d="M6 3v8c0 6 14 2 14 9v7" fill="none" stroke="var(--ink)" strokeWidth={3.5} strokeLinecap="round" />
        <circle cx={6} cy={4} r={3.5} fill="var(--ink)" />
        <circle cx={20} cy={26} r={3} fill="var(--paper)" stroke="var(--ink)" strokeWidth={2.2} />
      </svg>
      Synthema
    </Link>
  )
}

/** Searches while typing, after a breath; the address keeps the search so that it can be gone back to. */
function SearchBox({ shown, onSearch }: { shown: Shown; onSearch: (search: string) => void }) {
  const field = useRef<HTMLInputElement>(null)
  const [text, setText] = useState(shown.search)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const search = useRef(onSearch)
  useEffect(() => {
    search.current = onSearch
  })
  useEffect(() => () => clearTimeout(timer.current), [])
  // Gone back, or to all jobs: the field follows, unless somebody is typing in it.
  useEffect(() => {
    if (document.activeElement !== field.current) setText(shown.search)
  }, [shown.search])
  const typed = (value: string) => {
    setText(value)
    clearTimeout(timer.current)
    timer.current = setTimeout(() => search.current(value), 250)
  }
  return (
    <div className="relative w-72 max-md:order-last max-md:w-full">
      <Search size={17} aria-hidden className="absolute top-1/2 left-2 -translate-y-1/2 text-ink-2" />
      <input
        ref={field}
        type="search"
        aria-label="Search jobs"
        placeholder="Search title, place, people, loads"
        value={text}
        onChange={(e) => typed(e.target.value)}
        className="field pl-8"
      />
    </div>
  )
}

/** So many jobs are overlooked without being narrowed down. */
const FEW = 8
const narrowed = ({ world, stage, wrong, mine }: Shown): boolean => world !== '' || stage !== '' || wrong || mine

/** Narrows the list: by world, by where the work is, to what is wrong, and to what one had in hand last and left open. */
function Filters({ chosen, total, choose }: { chosen: Shown; total: number; choose: (more: Partial<Shown>) => void }) {
  const select = (label: string, any: string, value: string, options: readonly (readonly [string, string])[], on: (v: string) => void) => (
    <select aria-label={label} className="field w-auto" value={value} onChange={(e) => on(e.target.value)}>
      <option value="">{any}</option>
      {options.map(([id, name]) => (
        <option key={id} value={id}>
          {name}
        </option>
      ))}
    </select>
  )
  const tick = (label: string, of: 'wrong' | 'mine') => (
    <label className="flex tap items-center gap-2 px-1">
      <input
        type="checkbox"
        className="size-5 accent-[var(--ink)]"
        checked={chosen[of]}
        onChange={(e) => choose({ [of]: e.target.checked })}
      />
      {label}
    </label>
  )
  const worlds = Object.entries(worldNames).map(([id, w]) => [id, w.name] as const)
  const reached = stages.map((s) => [s.id, s.name] as const)
  return (
    <div className="mb-2 flex flex-wrap items-center gap-2">
      {select('Where', 'Anywhere', chosen.world, worlds, (world) => choose({ world }))}
      {select('Reached', 'At any stage', chosen.stage, reached, (stage) => choose({ stage }))}
      {tick('Only with errors', 'wrong')}
      {tick('Waits for me', 'mine')}
      {narrowed(chosen) && (
        <button type="button" className="btn" onClick={() => choose({ world: '', stage: '', wrong: false, mine: false })}>
          Show all
        </button>
      )}
      <span className="ml-auto text-ink-2" role="status">
        {total} {total === 1 ? 'job' : 'jobs'}
      </span>
    </div>
  )
}

function Pages({ page, pages, shown, total }: { page: number; pages: number; shown: Shown; total: number }) {
  const to = (p: number) => listAt(shown, p)
  return (
    <nav aria-label="Pages" className="flex items-center justify-center gap-3 py-3">
      {page > 1 && (
        <Link className="btn" href={to(page - 1)} prefetch={false}>
          Before
        </Link>
      )}
      <span className="text-ink-2">
        Page {page} of {pages}, {total} jobs
      </span>
      {page < pages && (
        <Link className="btn" href={to(page + 1)} prefetch={false}>
          After
        </Link>
      )}
    </nav>
  )
}
