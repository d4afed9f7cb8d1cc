import { and, asc, eq, gt, lte } from 'drizzle-orm'
import type { Patch } from 'immer'
import { patchJob } from '../core/job/edits'
import type { Reading } from '../core/job/reading'
import type { Job } from '../core/job/schema'
import type { Store } from './open'
import { asked, prepared } from './prepared'
import { jobChanges, jobs, readings } from './schema'

/** A job as it stood at a revision, with the readings up to one of them. */
export interface Held {
  readonly revision: number
  readonly job: Job
  readonly readings: readonly Reading[]
  readonly lastReading: number
}

/** Jobs looked at lately stay in memory, so that what a change leaves alone keeps its identity and is not worked out again. */
const MOST_HELD = 24
const shelves = new WeakMap<object, Map<string, Held>>()
const shelfOf = ({ $client }: Store): Map<string, Held> => {
  let shelf = shelves.get($client)
  if (!shelf) shelves.set($client, (shelf = new Map()))
  return shelf
}

/** Keeps the state of a job; only ever what is on the disk. */
export function hold(store: Store, id: string, held: Held): void {
  const shelf = shelfOf(store)
  shelf.delete(id)
  shelf.set(id, held)
  if (shelf.size > MOST_HELD) shelf.delete(shelf.keys().next().value!)
}

const patchesOf = prepared((store) =>
  store
    .select({ patches: jobChanges.patches })
    .from(jobChanges)
    .where(and(eq(jobChanges.jobId, asked('id')), gt(jobChanges.revision, asked('after')), lte(jobChanges.revision, asked('upTo'))))
    .orderBy(asc(jobChanges.revision))
    .prepare(),
)
/** The patches of the changes after one revision up to another, in order. */
export const patchesBetween = (store: Store, id: string, after: number, upTo: number): Patch[] =>
  patchesOf(store)
    .all({ id, after, upTo })
    .flatMap((c) => c.patches)

const fromDisk = (store: Store, id: string, snapshot: number): Held => ({
  revision: snapshot,
  job: store.select({ job: jobs.job }).from(jobs).where(eq(jobs.id, id)).get()!.job,
  readings: [],
  lastReading: 0,
})

const readingsAfter = prepared((store) =>
  store
    .select()
    .from(readings)
    .where(and(eq(readings.jobId, asked('id')), gt(readings.seq, asked('seq'))))
    .orderBy(asc(readings.seq))
    .prepare(),
)

/**
 * A job as it stands on the disk at this revision: what is held of it, with what came since, by whatever process; else the last
 * snapshot with the changes after it.
 */
export function heldAt(store: Store, { id, revision, snapshot }: { id: string; revision: number; snapshot: number }): Held {
  const held = shelfOf(store).get(id)
  const known = held && held.revision >= snapshot && held.revision <= revision ? held : undefined
  const start = known ?? fromDisk(store, id, snapshot)
  const job = start.revision === revision ? start.job : patchJob(start.job, patchesBetween(store, id, start.revision, revision))
  const fresh = readingsAfter(store).all({ id, seq: start.lastReading })
  if (known?.revision === revision && fresh.length === 0) return known
  return {
    revision,
    job,
    readings: fresh.length
      ? [...start.readings, ...fresh.map(({ seq: _, jobId: __, takenOn, ...reading }) => ({ ...reading, on: takenOn }))]
      : start.readings,
    lastReading: fresh.at(-1)?.seq ?? start.lastReading,
  }
}
