import type { Lead } from '@/features/leads/leads'
import equal from 'fast-deep-equal'
import type { Patch } from 'immer'
import type { Report } from '@/core/evaluate/evaluate'
import type { Installation } from '@/core/installation/installation'
import { applyEdit, type Edit, patchJob } from '@/core/job/edits'
import type { Job } from '@/core/job/schema'
import type { StockItem, StockMove } from '@/core/workday/stock'
import type { Step } from '@/core/evaluate/edit-stages'
import type { Reading } from '@/core/job/reading'
import type { PhotographRow } from '@/core/verify/photograph'
import type { Act, SentPhotograph } from './act'

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
export type Changed = Omit<LoadedJob, 'job' | 'readings'> & { patches: Patch[] }

/** The rows of photographs a device lacked, from one of them on. */
export type Rows = { readonly from: number; readonly rows: readonly PhotographRow[] }

/** The readings a device lacked, from one of them on. */
export type Lacking = { readonly from: number; readonly readings: readonly Reading[] }
export const withLacking = (held: readonly Reading[], { from, readings }: Lacking): readonly Reading[] =>
  readings.length || from < held.length ? [...held.slice(0, from), ...readings] : held

/**
 * What a change left alone keeps its identity, so that it is not judged again; and so does all of it where the server says no more than
 * what is here already.
 */
export function afterChange(saved: LoadedJob, { patches, ...rest }: Changed, here = saved.job): LoadedJob {
  const job = patchJob(saved.job, patches)
  return { ...saved, ...rest, job: equal(job, here) ? here : job }
}

const madeOf = new WeakMap<Job, { readonly edit: Edit; readonly job: Job }>()
/** What an edit makes of a job; one that no longer fits changes nothing. What waits is gone through at each key and each answer. */
export function afterEdit(job: Job, edit: Edit): Job {
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

/** What was asked first may be answered last: of two states of one job the later counts, and no reading is forgotten. */
export const later = (held: LoadedJob, got: LoadedJob): LoadedJob => ({
  ...(got.revision < held.revision ? held : got),
  readings: got.readings.length < held.readings.length ? held.readings : got.readings,
})

export interface ChangeLine {
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

/** An act that the server would not take, and why. */
export interface Refused {
  readonly act: Act
  readonly why: string
}

/** `looking`: what this device kept of an earlier page is not looked up yet, so nothing is said of it. */
type Saving = 'looking' | 'saved' | 'saving' | 'unreachable' | 'refused' | 'conflict'

export interface Standing {
  readonly revision: number
  readonly readings: number
  readonly photographs: number
  readonly deleted: boolean
}

export interface JobState {
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
  /** Who does what is done here, as far as this device knows. */
  by: string
  actAs: (name: string) => void
  /** What the server would not take, and why: kept here until a person decides. */
  refused: readonly Refused[]
  /** Sends it again, or gives it up. */
  settleRefused: (how: 'again' | 'drop') => void
  /** When this device last had the state of the job from the server. */
  asOf: string
  /** Whether the server is heard now. */
  connected: boolean
  hear: (connected: boolean) => void
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
  /** Takes over what others did, where the server says that it has changed. */
  catchUp: (standing: Standing) => Promise<void>
  settleConflict: (keep: 'mine' | 'theirs') => void
  pickCircuit: (id: string) => void
  /** The point or box that is worked on, on every sheet that works on one; null: the first of the circuit. */
  boxInHand: string | null
  pickBox: (id: string | null) => void
  /** What was gone to last, for the sheet that shows it; a new one each time, so that the same one can be followed again. */
  led: { readonly lead: Lead } | null
  lead: (lead: Lead, circuit: string | null) => void
  /** What it leads to is picked. */
  taken: () => void
  dismiss: () => void
  /** Sends what a reload or a lost connection left unsent on this device. */
  takeUp: () => Promise<void>
}

/** Readings with those that are on their way, as they will be. */
export const readingsWith = (saved: readonly Reading[], pending: readonly Act[]): readonly Reading[] => {
  const known = new Set(saved.map((r) => r.id))
  const waiting = pending.flatMap((a) => (a.kind === 'reading' && !known.has(a.id) ? [{ ...a.reading, at: a.at, by: a.by ?? '' }] : []))
  return waiting.length ? [...saved, ...waiting] : saved
}

/** What was seen only adds to what is there, whoever wrote meanwhile; the same observation sent twice counts once. */
export const onlyAdds = (act: Act): boolean => act.kind !== 'edit' || act.edit.kind === 'observation.add'
