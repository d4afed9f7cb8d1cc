import { and, desc, isNull, notInArray, sql } from 'drizzle-orm'
import { demoJobs } from '@/core/demo/demo'
import { type LoggedTask, loggedIn } from '@/core/workday/log'
import { loadJob } from './jobs'
import type { Store } from './open'
import { jobs } from './schema'

/** The jobs worked on last that are looked at. */
const MOST_JOBS = 100

/** Examples say nothing of how long this firm takes. */
const examples = demoJobs.map((d) => d.id)

/** What tasks took, over the jobs worked on last that keep a log of their day, the examples left out. */
export function workLog(store: Store): readonly LoggedTask[] {
  const rows = store
    .select({ id: jobs.id })
    .from(jobs)
    .where(
      and(
        isNull(jobs.deletedAt),
        notInArray(jobs.id, examples),
        sql`exists (select 1 from job_changes c where c.job_id = ${jobs.id} and c.label = 'A task done')`,
      ),
    )
    .orderBy(desc(jobs.updatedAt))
    .limit(MOST_JOBS)
    .all()
  return rows.flatMap(({ id }) => loggedIn(id, loadJob(store, id).job))
}
