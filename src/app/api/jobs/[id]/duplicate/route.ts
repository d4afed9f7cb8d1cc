import { copyOf } from '@/core/job/copy'
import { hand, store } from '@/server/data'
import { type IdContext, route } from '@/server/respond'
import { createJob, loadJob } from '@/store/jobs'

/** A copy starts without readings: they were taken on other copper. */
export const POST = route<IdContext>(async (_request, { params }) => {
  const from = loadJob(store(), (await params).id)
  const id = crypto.randomUUID()
  createJob(store(), id, copyOf(from.job), [], await hand(), `Copied from ${from.job.title}`)
  return { id }
})
