'use client'
import { createStore, type StoreApi } from 'zustand'
import type { StockItem } from '@/core/workday/stock'
import { stepInWords } from '@/core/evaluate/edit-stages'
import { evaluate } from '@/core/evaluate/evaluate'
import { read } from '@/core/installation/installation'
import type { Job } from '@/core/job/schema'
import { api, ApiError } from '@/ui/api'
import { type Here, sendingOf, takeRows } from './job-sending'
import {
  afterChange,
  afterEdit,
  type ChangeLine,
  type Changed,
  type JobState,
  type Lacking,
  later,
  type LoadedJob,
  readingsWith,
  type Rows,
  type Standing,
  withLacking,
} from './job-state'
import { deviceOutbox, type Outbox } from './outbox'

/** What is on the server, then what is on its way, then what is being typed. */
function projected({ saved, conflict, pending, preview }: JobState): Job {
  const acts = [...(conflict?.mine ?? []), ...pending]
  return [...acts.flatMap((a) => (a.kind === 'edit' ? [a.edit] : [])), ...(preview ? [preview] : [])].reduce(afterEdit, saved.job)
}

/** The record and its report as a job is loaded, and how they follow what is set. */
function following(loaded: LoadedJob, set: StoreApi<JobState>['setState']) {
  /** What was judged last: an answer that says what is here already is not judged again. */
  let judged = { job: read(loaded.job), readings: loaded.readings }
  const refresh = (patch: Partial<JobState>) =>
    set((s) => {
      const next = { ...s, ...patch }
      const job = read(projected(next))
      const readings = readingsWith(next.saved.readings, next.pending)
      const circuitId = job.circuits.some((c) => c.id === next.circuitId) ? next.circuitId : job.circuits[0]!.id
      if (job === judged.job && readings === judged.readings) return { ...patch, circuitId }
      judged = { job, readings }
      return { ...patch, job, circuitId, report: evaluate(job, readings) }
    })
  return { job: judged.job, report: evaluate(judged.job, judged.readings), refresh }
}

type Ask = (path: string, body: object, said: (before: JobState) => string | null) => Promise<void>

/** Changes the server makes by itself, one after another however fast they are asked for. What is still on its way goes first. */
function asking({ base, get, set, refresh }: Here, flush: () => Promise<void>): Ask {
  let turn: Promise<void> = Promise.resolve()
  const askNow: Ask = async (path, body, said) => {
    await flush()
    if (get().conflict) return
    set({ saving: 'saving' })
    try {
      const words = said(get())
      const { saved } = get()
      const reply = await api<Changed>('POST', `${base}/${path}`, { revision: saved.revision, ...body })
      refresh({ saved: later(get().saved, afterChange(saved, reply)), preview: null, saving: 'saved', problem: null, said: words })
    } catch (e) {
      if (!(e instanceof ApiError)) throw e
      if (e.status === 409) {
        const { current, since } = e.body as { current: LoadedJob; since: ChangeLine[] }
        set({ saving: 'conflict', conflict: { mine: [], current, since } })
      } else set({ saving: e.status === 0 ? 'unreachable' : 'refused', problem: e.message })
    }
  }
  return (...asked) => (turn = turn.then(() => askNow(...asked)))
}

/** Takes over what others did, where the server says that the job has changed. */
async function catchUp(here: Here, underWay: () => Promise<void> | null, { revision, readings, photographs, deleted }: Standing) {
  const { base, get, set, refresh } = here
  if (deleted !== get().gone) set({ gone: deleted })
  if (deleted) return
  // What is on its way brings back what others did with its own answer.
  await underWay()
  const held = get().photographs.length
  if (photographs > held) takeRows(here, await api<Rows>('GET', `${base}/photographs?held=${held}`))
  for (;;) {
    const { saved, conflict } = get()
    if (conflict || (revision <= saved.revision && readings === saved.readings.length)) return
    const asked = `${base}/changes?after=${saved.revision}&held=${saved.readings.length}`
    const { job, patches, from, readings: fresh, ...rest } = await api<Changed & Lacking & { job?: Job }>('GET', asked)
    // What was done here meanwhile is not taken back by an answer from before it.
    if (get().saved !== saved) {
      await underWay()
      continue
    }
    const taken = withLacking(saved.readings, { from, readings: fresh })
    refresh({ saved: { ...(job ? { ...saved, ...rest, job } : afterChange(saved, { patches, ...rest })), readings: taken } })
    return
  }
}

interface Opened {
  /** When the server gave the state of the job; of a page that just came, now. */
  readonly asOf?: string
  /** Who does what is done here, as far as the device knows. */
  readonly by?: string
}

export function createJobStore(loaded: LoadedJob, outbox: Outbox = deviceOutbox, { asOf, by = '' }: Opened = {}) {
  return createStore<JobState>()((set, get) => {
    const { job, report, refresh } = following(loaded, set)
    const here: Here = { id: loaded.id, base: `/api/jobs/${loaded.id}`, outbox, get, set, refresh }
    const { put, flush, underWay, takeUp } = sendingOf(here)
    const ask = asking(here, flush)
    const stamp = () => {
      const over = get().pending.flatMap((a) => (a.kind === 'edit' ? [a.id] : []))
      const { by: who } = get()
      return {
        id: crypto.randomUUID(),
        at: new Date().toISOString(),
        seen: get().saved.revision,
        ...(who ? { by: who } : {}),
        ...(over.length ? { over } : {}),
      }
    }
    /** The state of the job by the server; asked for again when what held it back has ended. */
    let heard: Standing | null = null

    return {
      id: loaded.id,
      saved: loaded,
      job,
      report,
      pending: [],
      preview: null,
      saving: 'looking',
      problem: null,
      said: null,
      conflict: null,
      by,
      actAs: (name) => set({ by: name }),
      refused: [],
      settleRefused: (how) => {
        const { refused, pending } = get()
        for (const { act } of refused) void (how === 'again' ? outbox.setAside(loaded.id, act.id, null) : outbox.drop(loaded.id, act.id))
        const again = how === 'again' ? refused.map((r) => r.act) : []
        refresh({ refused: [], pending: [...again, ...pending], saving: again.length || pending.length ? 'saving' : 'saved' })
        void flush()
      },
      asOf: asOf ?? new Date().toISOString(),
      connected: asOf === undefined,
      hear: (connected) => set(connected ? { connected, asOf: new Date().toISOString() } : { connected }),
      circuitId: loaded.job.circuits[0]!.id,
      show: (preview) => refresh({ preview }),
      commit: (edit) => put({ ...stamp(), kind: 'edit', edit }),
      undo: () => ask('undo', {}, (s) => (s.saved.undo ? stepInWords('Undone', s.saved.undo) : 'Nothing to undo')),
      redo: () => ask('redo', {}, (s) => (s.saved.redo ? stepInWords('Done again', s.saved.redo) : 'Nothing to redo')),
      restore: (to) => ask('restore', { to }, () => `Gone back to revision ${to}`),
      addReading: (reading) => {
        const { over: _, ...done } = stamp()
        put({ ...done, id: reading.id, kind: 'reading', reading })
      },
      photographs: loaded.photographs ?? [],
      addPhotograph: (row) => {
        const { over: _, id, ...done } = stamp()
        put({ ...done, id: row.id ?? id, kind: 'photograph', row: { ...row, id: row.id ?? id } })
      },
      stock: null,
      lookIntoVan: async () => {
        const stock = await api<readonly StockItem[]>('GET', '/api/stock').catch(() => null)
        if (stock) set({ stock })
      },
      moveStock: (move) => {
        const { over: _, ...done } = stamp()
        put({ ...done, kind: 'stock', move: { ...move, id: done.id } })
      },
      gone: false,
      bringBack: async () => {
        await api('POST', `${here.base}/undelete`)
        set({ gone: false })
        void flush()
      },
      catchUp: (standing) => {
        heard = standing
        get().hear(true)
        return catchUp(here, underWay, standing)
      },
      settleConflict: (keep) => {
        const { conflict, saved, pending, refused } = get()
        if (!conflict) return
        const now = later(saved, conflict.current)
        const kept = keep === 'mine' ? conflict.mine.map((a) => ({ ...a, seen: now.revision })) : []
        refresh({
          saved: now,
          pending: [...kept, ...pending],
          preview: null,
          conflict: null,
          // What is put on top of theirs has still to be sent.
          saving: kept.length + pending.length > 0 ? 'saving' : refused.length > 0 ? 'refused' : 'saved',
          problem: null,
        })
        if (keep === 'theirs') for (const a of conflict.mine) void outbox.drop(loaded.id, a.id)
        // What others did while a person decided was not taken over.
        void flush().then(() => heard && catchUp(here, underWay, heard).catch(() => {}))
      },
      pickCircuit: (circuitId) => set({ circuitId }),
      boxInHand: null,
      pickBox: (boxInHand) => set({ boxInHand }),
      led: null,
      lead: (lead, circuit) => {
        const of = circuit ?? (lead.at?.startsWith('circuit:') ? lead.at.slice('circuit:'.length) : null)
        set((s) => ({ led: { lead }, circuitId: of ?? s.circuitId }))
      },
      taken: () => set({ led: null }),
      dismiss: () => set({ said: null, problem: null }),
      takeUp,
    }
  })
}
export type JobStore = ReturnType<typeof createJobStore>
