import { hand, store } from '@/server/data'
import { type IdContext, route } from '@/server/respond'
import { createJob, loadJob } from '@/store/jobs'

/** A copy starts without readings: they were taken on other copper. */
export const POST = route<IdContext>(async (_, { params }) => {
  const from = loadJob(store(), (await params).id)
  const id = crypto.randomUUID()
  const boxes = from.job.boxes.map((b) => ({ ...b, done: [] }))
  createJob(
    store(),
    id,
    { ...from.job, boxes, title: `${from.job.title.slice(0, 112)} (copy)` },
    [],
    await hand(),
    `Copied from ${from.job.title}`,
  )
  return { id }
})
