'use client'
import type { Lead } from '@/core/leads'
import { createStore } from 'zustand'
import { evaluate, type Report } from '@/core/evaluate'
import { type Installation, read } from '@/core/installation/installation'
import equal from 'fast-deep-equal'
import type { Patch } from 'immer'
import { applyEdit, type Edit, patchJob } from '@/core/job/edits'
import type { Job } from '@/core/job/schema'
import type { StockItem, StockMove } from '@/core/day/stock'
import { type Step, stepInWords } from '@/core/edit-stages'
import type { Reading } from '@/core/job/reading'
import type { PhotographRow } from '@/core/record/photograph'
import { api, ApiError } from '@/ui/api'
import { type Act, deviceOutbox, type Outbox, type SentPhotograph } from './outbox'

/** A job as the server sends it. */
export interface LoadedJob {
  id: string
  revision: number
  job: Job
  readings: readonly Reading[]
  undo: Step | null
  redo: Step | null
  updatedAt: string
  /** Comes with the page alone; after that by itself. */
  photographs?: readonly PhotographRow[]
}
/** What a change answers: the patches to the job as it stood at the revision that was sent. */
type Changed = Omit<LoadedJob, 'job' | 'readings'> & { patches: Patch[] }

/** The rows of photographs a device lacked, from one of them on. */
type Rows = { readonly from: number; readonly rows: readonly PhotographRow[] }

/** The readings a device lacked, from one of them on. */
type Lacking = { readonly from: number; readonly readings: readonly Reading[] }
const withLacking = (held: readonly Reading[], { from, readings }: Lacking): readonly Reading[] =>
  readings.length || from < held.length ? [...held.slice(0, from), ...readings] : held

/**
 * What a change left alone keeps its identity, so that it is not judged again; and so does all of it where the server says no more than
 * what is here already.
 */
function afterChange(saved: LoadedJob, { patches, ...rest }: Changed, here = saved.job): LoadedJob {
  const job = patchJob(saved.job, patches)
  return { ...saved, ...rest, job: equal(job, here) ? here : job }
}

const madeOf = new WeakMap<Job, { readonly edit: Edit; readonly job: Job }>()
/** What an edit makes of a job; one that no longer fits changes nothing. What waits is gone through at each key and each answer. */
function afterEdit(job: Job, edit: Edit): Job {
  const made = madeOf.get(job)
  if (made?.edit === edit) return made.job
  try {
    const after = applyEdit(job, edit).job
    madeOf.set(job, { edit, job: after })
    return after
  } catch {
    return job
  }
}

/** What was asked first may be answered last: of two states of one job the later stands, and no reading is forgotten. */
const later = (held: LoadedJob, got: LoadedJob): LoadedJob => ({
  ...(got.revision < held.revision ? held : got),
  readings: got.readings.length < held.readings.length ? held.readings : got.readings,
})

interface ChangeLine {
  revision: number
  label: string
  at: string
  by: string
}
/** Two hands wrote at once: mine is kept here, theirs is on the server, and a person decides. */
export interface Conflict {
  mine: Act[]
  current: LoadedJob
  since: ChangeLine[]
}

/** `looking`: what this device kept of an earlier page is not looked up yet, so nothing is said of it. */
type Saving = 'looking' | 'saved' | 'saving' | 'unreachable' | 'refused' | 'conflict'

interface Standing {
  readonly revision: number
  readonly readings: number
  readonly photographs: number
  readonly deleted: boolean
}

interface JobState {
  id: string
  saved: LoadedJob
  /** The record as it stands here, read. */
  job: Installation
  report: Report
  /** Done here and not answered by the server yet, in the order it was done. */
  pending: Act[]
  preview: Edit | null
  saving: Saving
  problem: string | null
  /** What the last undo or redo did, to be read out and shown. */
  said: string | null
  conflict: Conflict | null
  circuitId: string
  /** Shows an edit without writing it down. */
  show: (edit: Edit | null) => void
  commit: (edit: Edit) => void
  undo: () => Promise<void>
  redo: () => Promise<void>
  restore: (to: number) => Promise<void>
  addReading: (reading: Omit<Reading, 'at' | 'by'>) => void
  /** Rows of photographs that the server has; those on their way are among `pending`. */
  photographs: readonly PhotographRow[]
  addPhotograph: (row: Omit<SentPhotograph, 'id'> & { readonly id?: string }) => void
  /** What is in the van, as the server last said; null: not asked yet. */
  stock: readonly StockItem[] | null
  lookIntoVan: () => Promise<void>
  moveStock: (move: Omit<StockMove, 'id' | 'at' | 'by'>) => void
  /** The job was deleted elsewhere; it can be brought back. */
  gone: boolean
  bringBack: () => Promise<void>
  /** Takes over what others did, where the server says that it stands elsewhere now. */
  catchUp: (standing: Standing) => Promise<void>
  settleConflict: (keep: 'mine' | 'theirs') => void
  pickCircuit: (id: string) => void
  /** What was gone to last, for the sheet that shows it; a new one each time, so that the same one can be followed again. */
  led: { readonly lead: Lead } | null
  lead: (lead: Lead, circuit: string | null) => void
  dismiss: () => void
  /** Sends what a reload or a lost connection left unsent on this device. */
  takeUp: () => Promise<void>
}

const RETRY_MS = 2000

/** Readings with those that are on their way, as they will stand. */
const readingsWith = (saved: readonly Reading[], pending: readonly Act[]): readonly Reading[] => {
  const known = new Set(saved.map((r) => r.id))
  const waiting = pending.flatMap((a) => (a.kind === 'reading' && !known.has(a.id) ? [{ ...a.reading, at: a.at, by: '' }] : []))
  return waiting.length ? [...saved, ...waiting] : saved
}

/** What was seen only adds to what stands, whoever wrote meanwhile; the same observation sent twice counts once. */
const onlyAdds = (act: Act): boolean => act.kind !== 'edit' || act.edit.kind === 'observation.add'

export function createJobStore(loaded: LoadedJob, outbox: Outbox = deviceOutbox) {
  return createStore<JobState>()((set, get) => {
    const base = `/api/jobs/${loaded.id}`
    let sending: Promise<void> | null = null
    /** How the server last said that the job stands. */
    let heard: Standing | null = null
    /** Asked for again when what held it back has ended. */
    const hear = () =>
      heard
        ? get()
            .catchUp(heard)
            .catch(() => {})
        : Promise.resolve()

    /** What stands on the server, then what is on its way, then what is being typed. */
    const project = (saved: LoadedJob, pending: readonly Act[], preview: Edit | null): Job =>
      [...pending.flatMap((a) => (a.kind === 'edit' ? [a.edit] : [])), ...(preview ? [preview] : [])].reduce(afterEdit, saved.job)

    /** What was judged last: an answer that says what is here already is not judged again. */
    let judged = { job: read(loaded.job), readings: loaded.readings }
    const refresh = (patch: Partial<JobState>) =>
      set((s) => {
        const next = { ...s, ...patch }
        const job = read(project(next.saved, [...(next.conflict?.mine ?? []), ...next.pending], next.preview))
        const readings = readingsWith(next.saved.readings, next.pending)
        const circuitId = job.circuits.some((c) => c.id === next.circuitId) ? next.circuitId : job.circuits[0]!.id
        if (job === judged.job && readings === judged.readings) return { ...patch, circuitId }
        judged = { job, readings }
        return { ...patch, job, circuitId, report: evaluate(job, readings) }
      })

    /** Sends one act, and says how the job stands with it. A reading's answer speaks of readings alone, a photograph's of photographs. */
    const sent = async (act: Act, saved: LoadedJob): Promise<LoadedJob> => {
      const { id, at, seen } = act
      if (act.kind === 'edit')
        return afterChange(
          saved,
          await api<Changed>('POST', `${base}/edits`, { revision: saved.revision, seen, edit: act.edit, act: id, at }),
          afterEdit(saved.job, act.edit),
        )
      if (act.kind === 'photograph') {
        takeRows(await api<Rows>('POST', `${base}/photographs`, { ...act.row, at, held: get().photographs.length }))
        return saved
      }
      if (act.kind === 'stock') {
        set({ stock: await api<readonly StockItem[]>('POST', '/api/stock', { ...act.move, at }) })
        return saved
      }
      const lacking = await api<Lacking>('POST', `${base}/readings`, { ...act.reading, at, held: saved.readings.length })
      return { ...saved, readings: withLacking(saved.readings, lacking) }
    }
    const takeRows = ({ from, rows }: Rows) => {
      const { photographs } = get()
      if (from + rows.length > photographs.length) set({ photographs: [...photographs.slice(0, from), ...rows] })
    }

    /** Sends the first that waits; once it is answered the device need not keep it. */
    const sendOne = async (act: Act, saved: LoadedJob) => {
      const { id } = act
      const kept = await sent(act, saved)
      const rest = get().pending.filter((a) => a.id !== id)
      refresh({
        saved: later(get().saved, kept),
        pending: rest.map((a) => ({ ...a, seen: kept.revision })),
        saving: get().conflict ? 'conflict' : rest.length ? 'saving' : 'saved',
        problem: null,
      })
      await outbox.drop(loaded.id, id)
    }

    /** What was left on the device goes before what is done now. */
    let takingUp: Promise<void> = Promise.resolve()
    const send = async () => {
      await takingUp
      for (;;) {
        const { pending, saved, conflict } = get()
        const act = pending[0]
        // What only adds need not wait until a person has decided about the rest.
        if (act === undefined || (conflict !== null && !onlyAdds(act))) return
        await keeping.get(act.id)
        set({ saving: 'saving' })
        try {
          await sendOne(act, saved)
        } catch (e) {
          if (!(e instanceof ApiError)) throw e
          const { current, since } = (e.body ?? {}) as { current?: LoadedJob; since?: ChangeLine[] }
          if (e.status === 409 && current) {
            const asks = get().pending.filter((a) => !onlyAdds(a))
            if (onlyAdds(act)) refresh({ saved: current, pending: get().pending.map((a) => ({ ...a, seen: current.revision })) })
            else refresh({ saving: 'conflict', conflict: { mine: asks, current, since: since! }, pending: get().pending.filter(onlyAdds) })
          } else if (e.status === 404) {
            // Deleted elsewhere: what was done is kept until the job is brought back.
            set({ gone: true, saving: 'unreachable' })
            return
          } else if (e.status === 0 || e.status === 401 || e.status >= 500) {
            set({ saving: 'unreachable', problem: e.message })
            await new Promise((r) => setTimeout(r, RETRY_MS))
          } else {
            refresh({ pending: get().pending.filter((a) => a.id !== act.id), saving: 'refused', problem: e.message })
            await outbox.drop(loaded.id, act.id)
          }
        }
      }
    }
    /** Acts being put on the shelf of this device; none is sent before it stands there. */
    const keeping = new Map<string, Promise<void>>()
    const put = (act: Act) => {
      keeping.set(
        act.id,
        outbox.keep(loaded.id, act).then(
          () => void keeping.delete(act.id),
          () => {
            keeping.delete(act.id)
            set({ problem: 'This device cannot keep what is done on it: stay on this page until it says “Saved”.' })
          },
        ),
      )
      refresh({ pending: [...get().pending, act], preview: null, said: null, saving: 'saving' })
      void flush()
    }
    const stamp = () => ({ id: crypto.randomUUID(), at: new Date().toISOString(), seen: get().saved.revision })
    const flush = () => {
      sending ??= send().finally(() => {
        sending = null
      })
      return sending
    }

    const takeUp = async () => {
      const left = await outbox.left(loaded.id).catch(() => [])
      const known = new Set(get().pending.map((a) => a.id))
      const fresh = left.filter((a) => !known.has(a.id))
      if (fresh.length) refresh({ pending: [...fresh, ...get().pending], saving: 'saving' })
      else if (get().saving === 'looking') set({ saving: 'saved' })
    }

    let turn: Promise<void> = Promise.resolve()
    /** A change the server makes by itself, one after another however fast they are asked for. */
    const ask = (path: string, body: object, said: (before: JobState) => string | null): Promise<void> => {
      turn = turn.then(() => askNow(path, body, said))
      return turn
    }
    const askNow = async (path: string, body: object, said: (before: JobState) => string | null) => {
      // What is still on its way goes first.
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

    return {
      id: loaded.id,
      saved: loaded,
      job: judged.job,
      report: evaluate(judged.job, judged.readings),
      pending: [],
      preview: null,
      saving: 'looking',
      problem: null,
      said: null,
      conflict: null,
      circuitId: loaded.job.circuits[0]!.id,
      show: (preview) => refresh({ preview }),
      commit: (edit) => put({ ...stamp(), kind: 'edit', edit }),
      undo: () => ask('undo', {}, (s) => (s.saved.undo ? stepInWords('Undone', s.saved.undo) : 'Nothing to undo')),
      redo: () => ask('redo', {}, (s) => (s.saved.redo ? stepInWords('Done again', s.saved.redo) : 'Nothing to redo')),
      restore: (to) => ask('restore', { to }, () => `Gone back to revision ${to}`),
      addReading: (reading) => put({ ...stamp(), id: reading.id, kind: 'reading', reading }),
      photographs: loaded.photographs ?? [],
      addPhotograph: (row) => {
        const { id, at, seen } = stamp()
        put({ id: row.id ?? id, at, seen, kind: 'photograph', row: { ...row, id: row.id ?? id } })
      },
      stock: null,
      lookIntoVan: async () => {
        const stock = await api<readonly StockItem[]>('GET', '/api/stock').catch(() => null)
        if (stock) set({ stock })
      },
      moveStock: (move) => {
        const { id, at, seen } = stamp()
        put({ id, at, seen, kind: 'stock', move: { ...move, id } })
      },
      gone: false,
      bringBack: async () => {
        await api('POST', `${base}/undelete`)
        set({ gone: false })
        void flush()
      },
      catchUp: async (standing) => {
        heard = standing
        const { revision, readings, deleted } = standing
        if (deleted !== get().gone) set({ gone: deleted })
        if (deleted) return
        // What is on its way brings back what others did with its own answer.
        await sending
        const held = get().photographs.length
        if (standing.photographs > held) takeRows(await api<Rows>('GET', `${base}/photographs?held=${held}`))
        const { saved, conflict } = get()
        if (conflict || (revision <= saved.revision && readings === saved.readings.length)) return
        const there = await api<Changed & Lacking & { job?: Job }>(
          'GET',
          `${base}/changes?after=${saved.revision}&held=${saved.readings.length}`,
        )
        const now = get().saved
        if (now !== saved) return get().catchUp(heard)
        const { job, patches, from, readings: fresh, ...rest } = there
        const taken = withLacking(saved.readings, { from, readings: fresh })
        refresh({ saved: { ...(job ? { ...saved, ...rest, job } : afterChange(saved, { patches, ...rest })), readings: taken } })
      },
      settleConflict: (keep) => {
        const { conflict } = get()
        if (!conflict) return
        refresh({
          saved: later(get().saved, conflict.current),
          pending: [...(keep === 'mine' ? conflict.mine.map((a) => ({ ...a, seen: conflict.current.revision })) : []), ...get().pending],
          preview: null,
          conflict: null,
          saving: 'saved',
          problem: null,
        })
        if (keep === 'theirs') for (const a of conflict.mine) void outbox.drop(loaded.id, a.id)
        // What others did while a person decided was not taken over.
        void flush().then(hear)
      },
      pickCircuit: (circuitId) => set({ circuitId }),
      led: null,
      lead: (lead, circuit) => set((s) => ({ led: { lead }, circuitId: circuit ?? s.circuitId })),
      dismiss: () => set({ said: null, problem: null }),
      takeUp: () => {
        takingUp = takeUp()
        return takingUp.then(() => void flush())
      },
    }
  })
}
export type JobStore = ReturnType<typeof createJobStore>
