'use client'
import { Plus, Search, Upload } from 'lucide-react'
import Link from 'next/link'
import { useRouter } from 'next/navigation'
import { useCallback, useEffect, useRef, useState, useTransition } from 'react'
import type { RegionId } from '@/core/region/types'
import { Alive } from '@/ui/alive'
import { api, ApiError } from '@/ui/api'
import { formatWhen } from '@/ui/when'
import { DropZone } from './drop-zone'
import { JobRowMenu, ReachedSigns } from './job-row'
import { NewJob } from './new-job'
import type { JobLine } from './job-line'
import { SettingsBar } from './settings-bar'
import { worldNames } from '@/core/region/names'

interface Notice {
  text: string
  undo?: () => void
  alert?: boolean
}

export function JobsView({
  rows,
  total,
  page,
  pages,
  search,
  deleted,
  person,
}: {
  rows: JobLine[]
  total: number
  page: number
  pages: number
  search: string
  deleted: boolean
  person: string | null
}) {
  const router = useRouter()
  const [busy, startTransition] = useTransition()
  const [making, setMaking] = useState(false)
  const [notice, setNotice] = useState<Notice | null>(null)
  const picker = useRef<HTMLInputElement>(null)
  const refresh = () => startTransition(() => router.refresh())
  const report = (e: unknown) =>
    setNotice({ text: e instanceof ApiError ? [e.path, e.message].filter(Boolean).join(': ') : String(e), alert: true })

  const importFile = useCallback(
    async (file: File) => {
      try {
        if (file.size > 10 * 1024 * 1024) throw new ApiError(413, '', 'The file is larger than 10 MB; nothing was brought in.')
        const { id, title } = await api<{ id: string; title: string }>('POST', '/api/jobs/import', await file.text())
        setNotice({ text: `${title} brought in.` })
        router.push(`/jobs/${id}`)
      } catch (e) {
        if (e instanceof ApiError)
          setNotice({ text: `${file.name} was not brought in. ${e.path ? `At ${e.path}: ` : ''}${e.message}`, alert: true })
        else throw e
      }
    },
    [router],
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

  return (
    <DropZone onFile={(f) => void importFile(f)}>
      <ReachedSigns />
      <Alive className="mx-auto flex min-h-dvh max-w-[76rem] flex-col px-5 py-4 max-md:px-3">
        <header className="mb-3 flex flex-wrap items-center gap-x-4 gap-y-2">
          <Wordmark />
          <SearchBox search={search} deleted={deleted} />
          <button type="button" className="btn" onClick={() => picker.current?.click()}>
            <Upload size={17} aria-hidden /> Bring in a file
          </button>
          <input
            ref={picker}
            type="file"
            accept=".json,application/json"
            className="hidden"
            aria-label="Job file"
            onChange={(e) => e.target.files?.[0] && void importFile(e.target.files[0])}
          />
          <button type="button" className="btn btn-ink" onClick={() => setMaking(true)}>
            <Plus size={17} aria-hidden /> New job
          </button>
        </header>
        {notice && (
          <div role={notice.alert ? 'alert' : 'status'} className="mb-3 flex items-center gap-3 border-l-4 border-ink bg-sheet px-3 py-2">
            <p className="flex-1">{notice.text}</p>
            {notice.undo && (
              <button type="button" className="btn" onClick={notice.undo}>
                Undo
              </button>
            )}
            <button type="button" className="btn" onClick={() => setNotice(null)}>
              Close
            </button>
          </div>
        )}
        {making && <NewJob onDone={(path) => (path ? router.push(path) : setMaking(false))} />}
        <main className="flex-1" aria-busy={busy}>
          <h1 className="sr-only">{deleted ? 'Deleted jobs' : 'Jobs'}</h1>
          {rows.length === 0 ? (
            <p className="mt-16 text-center text-ink-2">
              {search
                ? `No job has “${search}” in it.`
                : deleted
                  ? 'Nothing has been deleted.'
                  : 'No jobs yet. Make one, or drop a Job file anywhere on this page.'}
            </p>
          ) : (
            <ul className="border-t border-rule-2">
              {rows.map((row) => (
                <JobRowMenu
                  key={row.id}
                  row={row}
                  world={worldNames[row.region as RegionId].name}
                  when={formatWhen(row.updatedAt)}
                  deleted={deleted}
                  onDelete={() => void remove(row)}
                  onDuplicate={() => void duplicate(row)}
                  onRestore={() => void restore(row)}
                />
              ))}
            </ul>
          )}
          {pages > 1 && <Pages page={page} pages={pages} search={search} total={total} />}
        </main>
        <SettingsBar deleted={deleted} person={person} />
      </Alive>
    </DropZone>
  )
}

function Wordmark() {
  return (
    <Link href="/" className="mr-auto flex tap items-center gap-2 text-xl font-bold">
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
function SearchBox({ search, deleted }: { search: string; deleted: boolean }) {
  const router = useRouter()
  const [text, setText] = useState(search)
  const first = useRef(true)
  useEffect(() => {
    if (first.current) {
      first.current = false
      return
    }
    const timer = setTimeout(
      () => router.replace(`/?${new URLSearchParams({ ...(text ? { q: text } : {}), ...(deleted ? { deleted: '1' } : {}) })}`),
      250,
    )
    return () => clearTimeout(timer)
  }, [text, deleted, router])
  return (
    <div className="relative w-72 max-md:order-last max-md:w-full">
      <Search size={17} aria-hidden className="absolute top-1/2 left-2 -translate-y-1/2 text-ink-2" />
      <input
        type="search"
        aria-label="Search jobs"
        placeholder="Search title, place, people, appliances"
        value={text}
        onChange={(e) => setText(e.target.value)}
        className="field pl-8"
      />
    </div>
  )
}

function Pages({ page, pages, search, total }: { page: number; pages: number; search: string; total: number }) {
  const to = (p: number) => `/?${new URLSearchParams({ ...(search ? { q: search } : {}), page: String(p) })}`
  return (
    <nav aria-label="Pages" className="flex items-center justify-center gap-3 py-3">
      {page > 1 && (
        <Link className="btn" href={to(page - 1)}>
          Before
        </Link>
      )}
      <span className="text-ink-2">
        Page {page} of {pages}, {total} jobs
      </span>
      {page < pages && (
        <Link className="btn" href={to(page + 1)}>
          After
        </Link>
      )}
    </nav>
  )
}
