import { readingSchema } from '@/core/job/reading'
import { hand, store } from '@/server/data'
import { type IdContext, readBody, route } from '@/server/respond'
import { addReading } from '@/store/jobs'

/** When it was taken and by whom is the server's to say. */
export const POST = route<IdContext>(async (request, { params }) => {
  const reading = await readBody(request, readingSchema.omit({ at: true, by: true }))
  const { job: _, ...rest } = addReading(store(), (await params).id, { ...reading, ...(await hand()) })
  return rest
})
