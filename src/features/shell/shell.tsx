'use client'
import dynamic from 'next/dynamic'
import { useParams, useRouter } from 'next/navigation'
import { type ReactNode, useEffect, useRef, useState } from 'react'
import { tinykeys } from 'tinykeys'
import { stageIds, stages } from '@/core/report/stages'
import { Alive } from '@/ui/alive'
import { formatDate } from '@/ui/when'
import { Banners } from './banners'
import { JobProvider, useJob } from '../sync/context'
import type { LoadedJob } from '../sync/job-state'
import { keepForOffline } from '../sync/offline'
import { deviceJobs } from '../sync/outbox'
import { api } from '@/ui/api'
import { Strand } from './strand'
import { TopBar } from './top-bar'

const HistoryPanel = dynamic(() => import('./history-panel').then((m) => m.HistoryPanel))
const PhonePanel = dynamic(() => import('./phone-panel').then((m) => m.PhonePanel))
const ShortcutsPanel = dynamic(() => import('./shortcuts-panel').then((m) => m.ShortcutsPanel))
const ScanLabel = dynamic(() => import('@/ui/scan-label').then((m) => m.ScanLabel))
const Palette = dynamic(() => import('./palette').then((m) => m.Palette))

/** The circuit in hand is in the address and on this device, so that it is the same after a reload and on another stage. */
function useCircuitInAddress(id: string, stage: string) {
  const circuitId = useJob((s) => s.circuitId)
  const first = useJob((s) => s.job.circuits[0]!.id)
  const known = useJob((s) => s.report.byCircuit)
  const pick = useJob((s) => s.pickCircuit)
  // Where a lead is on its way to another stage the address is about to change by itself.
  const underWay = useJob((s) => s.led !== null)
  const [looked, setLooked] = useState(false)
  useEffect(() => {
    if (looked) return
    setLooked(true)
    const wanted = new URLSearchParams(window.location.search).get('circuit') ?? sessionStorage.getItem(IN_HAND + id)
    if (wanted !== null && known.has(wanted)) pick(wanted)
  }, [looked, id, known, pick])
  useEffect(() => {
    if (!looked) return
    sessionStorage.setItem(IN_HAND + id, circuitId)
    if (underWay) return
    const address = new URLSearchParams(window.location.search)
    if (circuitId === first) address.delete('circuit')
    else address.set('circuit', circuitId)
    const query = address.size > 0 ? `?${address}` : ''
    if (query !== window.location.search) window.history.replaceState(null, '', window.location.pathname + query)
  }, [looked, id, stage, circuitId, first, underWay])
}
const IN_HAND = 'synthema.circuit.'

/** Goes to what a scanned label names; the circuit of this job is taken in hand, since its address was read already. */
function useOpenLabel(id: string) {
  const router = useRouter()
  const known = useJob((s) => s.report.byCircuit)
  const pick = useJob((s) => s.pickCircuit)
  return (path: string) => {
    const circuit = new URLSearchParams(path.split('?')[1]).get('circuit')
    if (path.startsWith(`/jobs/${id}/`) && circuit !== null && known.has(circuit)) pick(circuit)
    router.push(path)
  }
}

/** A job with its stages; a page that was kept on the device holds none, and reads it from the device's own store. */
export function JobShell({ id, loaded, children }: { id: string; loaded: LoadedJob | null; children: ReactNode }) {
  if (loaded === null) return <FromDevice id={id}>{children}</FromDevice>
  return (
    <JobProvider loaded={loaded}>
      <Frame>{children}</Frame>
    </JobProvider>
  )
}

/** The job as this device last heard of it; one it never heard of is asked of the server. */
function FromDevice({ id, children }: { id: string; children: ReactNode }) {
  const [kept, setKept] = useState<{ loaded: LoadedJob; asOf?: string } | 'missing' | null>(null)
  useEffect(() => {
    void deviceJobs
      .of(id)
      .catch(() => undefined)
      .then((job) => job ?? api<LoadedJob>('GET', `/api/jobs/${id}`).then((loaded) => ({ loaded })))
      .then(setKept, () => setKept('missing'))
  }, [id])
  useEffect(() => {
    if (kept !== null && kept !== 'missing') document.title = `${kept.loaded.job.title} · Synthema`
  }, [kept])
  if (kept === null) return <p className="p-6 text-ink-2">Opening the job from this device…</p>
  if (kept === 'missing')
    return (
      <main className="mx-auto max-w-[40rem] p-6">
        <h1 className="text-xl font-bold">This job is not on this device</h1>
        <p className="mt-2">There is no connection, and the job was not opened here before. What you did elsewhere is not lost.</p>
        <a className="btn mt-4" href="/">
          All jobs
        </a>
      </main>
    )
  return (
    <JobProvider loaded={kept.loaded} {...(kept.asOf ? { asOf: kept.asOf } : {})}>
      <Frame>{children}</Frame>
    </JobProvider>
  )
}

type Open = 'history' | 'palette' | 'shortcuts' | 'phone' | 'scan' | null

function Frame({ children }: { children: ReactNode }) {
  const { id, stage } = useParams<{ id: string; stage: string }>()
  const router = useRouter()
  const undo = useJob((s) => s.undo)
  const redo = useJob((s) => s.redo)
  const takeUp = useJob((s) => s.takeUp)
  const catchUp = useJob((s) => s.catchUp)
  const hear = useJob((s) => s.hear)
  const unsaved = useJob((s) => s.pending.length > 0)
  const [open, setOpen] = useState<Open>(null)
  const [onlineOnly, setOnlineOnly] = useState(false)

  // Read when a key is pressed, so that moving on does not break a sequence of keys that is half typed.
  const here = useRef(stage)
  useEffect(() => {
    here.current = stage
  }, [stage])

  useEffect(() => {
    const go = (to: string) => () => router.push(`/jobs/${id}/${to}`)
    // While a person types in a field, plain letters are text and only chords with Ctrl are commands.
    const unlessTyping = (act: () => void) => (e: KeyboardEvent) => {
      if ((e.target as HTMLElement).closest('input:not([type=radio]):not([type=checkbox]), textarea, select')) return
      e.preventDefault()
      act()
    }
    const always = (act: () => void) => (e: KeyboardEvent) => {
      e.preventDefault()
      act()
    }
    // Where something was typed since the field was entered, what is taken back is typing; the browser does that.
    let typedIn: EventTarget | null = null
    const unlessTyped = (act: () => void) => (e: KeyboardEvent) => {
      if (e.target === typedIn) return
      e.preventDefault()
      act()
    }
    const typed = ({ target }: Event) => {
      if ((target as HTMLElement).matches('input:not([type=radio]):not([type=checkbox]):not([type=range]), textarea')) typedIn = target
    }
    const entered = () => (typedIn = null)
    window.addEventListener('input', typed)
    window.addEventListener('focusin', entered)
    const step = (by: number) => {
      const next = stageIds[stageIds.findIndex((s) => s === here.current) + by]
      if (next) go(next)()
    }
    const off = tinykeys(window, {
      '$mod+KeyZ': unlessTyped(() => void undo()),
      '$mod+Shift+KeyZ': unlessTyped(() => void redo()),
      '$mod+KeyY': unlessTyped(() => void redo()),
      '$mod+KeyK': always(() => setOpen('palette')),
      'Shift+?': unlessTyping(() => setOpen('shortcuts')),
      '?': unlessTyping(() => setOpen('shortcuts')),
      BracketLeft: unlessTyping(() => step(-1)),
      BracketRight: unlessTyping(() => step(1)),
      'g y': unlessTyping(() => setOpen('history')),
      'g j': unlessTyping(() => router.push('/')),
      ...Object.fromEntries(stages.map((s) => [`g ${s.key}`, unlessTyping(go(s.id))])),
    })
    return () => {
      off()
      window.removeEventListener('input', typed)
      window.removeEventListener('focusin', entered)
    }
  }, [id, router, undo, redo])

  // Fetched while nothing else is asked for, so that letters typed right after Ctrl+K are not lost.
  useEffect(() => {
    const timer = setTimeout(() => void import('./palette'), 1500)
    return () => clearTimeout(timer)
  }, [])

  useEffect(() => void takeUp(), [takeUp])
  useCircuitInAddress(id, stage)
  const openLabel = useOpenLabel(id)
  useEffect(() => {
    // After what the person waits for.
    const timer = setTimeout(() => void keepForOffline(id).then((kept) => setOnlineOnly(!kept && !onOwnMachine())), 2500)
    return () => clearTimeout(timer)
  }, [id])

  // What others do comes by itself; after a lost connection the browser asks again, and gets the present state of the job.
  useEffect(() => {
    const events = new EventSource(`/api/jobs/${id}/events`)
    events.addEventListener('message', (e) => void catchUp(JSON.parse(e.data as string) as Parameters<typeof catchUp>[0]).catch(() => null))
    events.addEventListener('open', () => hear(true))
    events.addEventListener('error', () => hear(false))
    return () => events.close()
  }, [id, catchUp, hear])

  useEffect(() => {
    if (!unsaved) return
    const warn = (e: BeforeUnloadEvent) => e.preventDefault()
    window.addEventListener('beforeunload', warn)
    return () => window.removeEventListener('beforeunload', warn)
  }, [unsaved])

  return (
    <Alive className="flex h-dvh flex-col print:h-auto">
      <TopBar onOpen={setOpen} />
      <PrintHead />
      <Banners />
      {onlineOnly && <OnlineOnly />}
      <div className="flex min-h-0 flex-1 print:!block">
        <Strand />
        <main className="flex min-h-0 min-w-0 flex-1 flex-col max-md:pb-(--foot) print:!block">{children}</main>
      </div>
      {open === 'history' && <HistoryPanel onClose={() => setOpen(null)} />}
      {open === 'phone' && <PhonePanel onClose={() => setOpen(null)} />}
      {open === 'shortcuts' && <ShortcutsPanel onClose={() => setOpen(null)} />}
      {open === 'scan' && <ScanLabel onClose={() => setOpen(null)} onFound={openLabel} />}
      {open === 'palette' && <Palette onClose={() => setOpen(null)} onOpen={setOpen} />}
    </Alive>
  )
}

/** What is at the head of a printed page, where the bar with its buttons does not. */
function PrintHead() {
  const job = useJob((s) => s.job)
  const { revision, updatedAt } = useJob((s) => s.saved)
  return (
    <header className="mb-3 hidden border-b border-ink print:block">
      <p className="text-lg font-bold">{job.title}</p>
      <p>{[job.place, formatDate(updatedAt), `revision ${revision}`].filter(Boolean).join(', ')}</p>
    </header>
  )
}

/** Behind no door: the server is on the same machine, and is there whenever the page is. */
const onOwnMachine = (): boolean =>
  window.location.protocol === 'http:' && ['localhost', '127.0.0.1', '[::1]'].includes(window.location.hostname)
const UNDERSTOOD_KEY = 'synthema.online-only'

/** Said once, where the browser will not open the application without a connection. */
function OnlineOnly() {
  const [understood, setUnderstood] = useState(() => sessionStorage.getItem(UNDERSTOOD_KEY) !== null)
  if (understood) return null
  return (
    <div role="status" className="flex flex-wrap items-center gap-3 border-b border-rule-2 bg-sheet px-4 py-2">
      <p className="min-w-60 flex-1">
        <b>This device does not know this server.</b> While the page is open everything works, and what you do waits here if the connection
        goes. Without a connection the page cannot be opened again. “Open it on the phone” explains how the device gets to trust the server.
      </p>
      <button
        type="button"
        className="btn"
        onClick={() => {
          sessionStorage.setItem(UNDERSTOOD_KEY, '1')
          setUnderstood(true)
        }}
      >
        Understood
      </button>
    </div>
  )
}
