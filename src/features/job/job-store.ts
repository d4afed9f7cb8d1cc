'use client'
import { createStore } from 'zustand'
import { evaluate, type Report } from '@/core/evaluate'
import { type Installation, read } from '@/core/installation/installation'
import type { Patch } from 'immer'
import { applyEdit, type Edit, patchJob } from '@/core/job/edits'
import type { Job } from '@/core/job/schema'
import type { Reading } from '@/core/job/reading'
import { api, ApiError } from '@/ui/api'
import { dropUnsent, keepUnsent, takeUnsent } from './unsent'

/** A job as the server sends it. */
export interface LoadedJob {
  id: string
  revision: number
  job: Job
  readings: Reading[]
  undoLabel: string | null
  redoLabel: string | null
  updatedAt: string
}
/** What a change answers: the patches to the job as it stood at the revision that was sent. */
type Changed = Omit<LoadedJob, 'job' | 'readings'> & { patches: Patch[] }

/** What a change left alone keeps its identity, so that it is not judged again. */
const afterChange = (saved: LoadedJob, { patches, ...rest }: Changed): LoadedJob => ({
  ...saved,
  ...rest,
  job: patchJob(saved.job, patches),
})

interface ChangeLine {
  revision: number
  label: string
  at: string
  by: string
}
/** Two hands wrote at once: mine is kept here, theirs is on the server, and a person decides. */
export interface Conflict {
  mine: Edit[]
  current: LoadedJob
  since: ChangeLine[]
}

type Saving = 'saved' | 'saving' | 'unreachable' | 'refused' | 'conflict'

interface JobState {
  id: string
  saved: LoadedJob
  /** The record as it stands here, read. */
  job: Installation
  report: Report
  pending: Edit[]
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
  addReading: (reading: Omit<Reading, 'at' | 'by'>) => Promise<void>
  settleConflict: (keep: 'mine' | 'theirs') => void
  pickCircuit: (id: string) => void
  dismiss: () => void
  /** Sends what a reload or a lost connection left unsent on this device. */
  takeUp: () => void
}

const RETRY_MS = 2000

/** What was seen only adds to what stands, whoever wrote meanwhile; the same observation sent twice counts once. */
const onlyAdds = (edit: Edit): boolean => edit.kind === 'observation.add'

export function createJobStore(loaded: LoadedJob) {
  return createStore<JobState>()((set, get) => {
    const base = `/api/jobs/${loaded.id}`
    let sending: Promise<void> | null = null

    /** What stands on the server, then what is on its way, then what is being typed. An edit that no longer fits is left out. */
    const project = (saved: LoadedJob, pending: readonly Edit[], preview: Edit | null): Job =>
      [...pending, ...(preview ? [preview] : [])].reduce((job, edit) => {
        try {
          return applyEdit(job, edit).job
        } catch {
          return job
        }
      }, saved.job)

    const refresh = (patch: Partial<JobState>) =>
      set((s) => {
        const next = { ...s, ...patch }
        const record = project(next.saved, next.pending, next.preview)
        const job = read(record)
        const circuitId = job.circuits.some((c) => c.id === next.circuitId) ? next.circuitId : job.circuits[0]!.id
        if (next.pending !== s.pending) keepUnsent(s.id, next.saved.revision, next.pending)
        return { ...patch, job, circuitId, report: evaluate(record, next.saved.readings) }
      })

    const send = async () => {
      while (get().pending.length > 0 && get().conflict === null) {
        const { pending, saved } = get()
        set({ saving: 'saving' })
        try {
          const reply = await api<Changed>('POST', `${base}/edits`, { revision: saved.revision, edit: pending[0] })
          const rest = get().pending.slice(1)
          refresh({ saved: afterChange(saved, reply), pending: rest, saving: rest.length ? 'saving' : 'saved', problem: null })
        } catch (e) {
          if (!(e instanceof ApiError)) throw e
          if (e.status === 409) {
            const { current, since } = e.body as { current: LoadedJob; since: ChangeLine[] }
            if (pending.every(onlyAdds)) refresh({ saved: current })
            else set({ saving: 'conflict', conflict: { mine: get().pending, current, since } })
          } else if (e.status === 0 || e.status >= 500) {
            set({ saving: 'unreachable', problem: e.message })
            keepUnsent(loaded.id, saved.revision, get().pending)
            await new Promise((r) => setTimeout(r, RETRY_MS))
          } else refresh({ pending: get().pending.slice(1), saving: 'refused', problem: e.message })
        }
      }
    }
    const flush = () => {
      sending ??= send().finally(() => {
        sending = null
      })
      return sending
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
        const reply = await api<Changed>('POST', `${base}/${path}`, { revision: get().saved.revision, ...body })
        refresh({ saved: afterChange(get().saved, reply), preview: null, saving: 'saved', problem: null, said: words })
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
      job: read(loaded.job),
      report: evaluate(loaded.job, loaded.readings),
      pending: [],
      preview: null,
      saving: 'saved',
      problem: null,
      said: null,
      conflict: null,
      circuitId: loaded.job.circuits[0]!.id,
      show: (preview) => refresh({ preview }),
      commit: (edit) => {
        refresh({ pending: [...get().pending, edit], preview: null, said: null })
        void flush()
      },
      undo: () => ask('undo', {}, (s) => (s.saved.undoLabel ? `Undone: ${s.saved.undoLabel}` : 'Nothing to undo')),
      redo: () => ask('redo', {}, (s) => (s.saved.redoLabel ? `Done again: ${s.saved.redoLabel}` : 'Nothing to redo')),
      restore: (to) => ask('restore', { to }, () => `Gone back to revision ${to}`),
      addReading: async (reading) => {
        await flush()
        set({ saving: 'saving' })
        for (;;) {
          try {
            const reply = await api<Pick<LoadedJob, 'readings'>>('POST', `${base}/readings`, reading)
            refresh({ saved: { ...get().saved, readings: reply.readings }, saving: 'saved', problem: null })
            return
          } catch (e) {
            if (!(e instanceof ApiError)) throw e
            set({ saving: e.status === 0 ? 'unreachable' : 'refused', problem: e.message })
            if (e.status !== 0) return
            await new Promise((r) => setTimeout(r, RETRY_MS))
          }
        }
      },
      settleConflict: (keep) => {
        const { conflict } = get()
        if (!conflict) return
        refresh({
          saved: conflict.current,
          pending: keep === 'mine' ? conflict.mine : [],
          preview: null,
          conflict: null,
          saving: 'saved',
          problem: null,
        })
        if (keep === 'mine') void flush()
      },
      pickCircuit: (circuitId) => set({ circuitId }),
      dismiss: () => set({ said: null, problem: null }),
      takeUp: () => {
        const kept = get().pending.length ? null : takeUnsent(loaded.id)
        if (!kept) return
        refresh({ saved: { ...get().saved, revision: kept.revision }, pending: kept.edits })
        dropUnsent(kept.key)
        void flush()
      },
    }
  })
}
export type JobStore = ReturnType<typeof createJobStore>
