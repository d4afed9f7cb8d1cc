import type { DueRow } from '@/core/job/due'
import { and, asc, desc, eq, isNotNull, isNull, ne, sql } from 'drizzle-orm'
import { rowOf } from './jobs'
import type { Store } from './open'
import { jobs } from './schema'

/** Jobs that are looked at for what is due, and those of one place that are listed. */
const MOST_JOBS = 2000
const MOST_AT_A_PLACE = 8

/** What is due again over all jobs and not done, the earliest first. */
export function dueAgain(store: Store): readonly DueRow[] {
  const rows = store
    .select({ id: jobs.id, title: jobs.title, place: jobs.place, due: jobs.due })
    .from(jobs)
    .where(and(isNull(jobs.deletedAt), isNotNull(jobs.due)))
    .orderBy(asc(jobs.id))
    .limit(MOST_JOBS)
    .all()
  return rows
    .flatMap(({ id, title, place, due }) => due!.map(({ what, on }) => ({ job: id, title, place, what, on })))
    .toSorted((a, b) => a.on.localeCompare(b.on) || a.title.localeCompare(b.title))
}

/**
 * Other jobs at the place of one, by its words whatever their case, the latest first; none where no place is said.
 * @throws NotFoundError
 */
export function samePlace(
  store: Store,
  id: string,
): readonly { readonly id: string; readonly title: string; readonly updatedAt: string }[] {
  rowOf(store, id)
  const { place } = store.select({ place: jobs.place }).from(jobs).where(eq(jobs.id, id)).get()!
  if (place.trim() === '') return []
  return store
    .select({ id: jobs.id, title: jobs.title, updatedAt: jobs.updatedAt })
    .from(jobs)
    .where(and(isNull(jobs.deletedAt), ne(jobs.id, id), eq(sql`lower(trim(${jobs.place}))`, sql`lower(trim(${place}))`)))
    .orderBy(desc(jobs.updatedAt))
    .limit(MOST_AT_A_PLACE)
    .all()
}
