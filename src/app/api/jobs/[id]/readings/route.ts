import { z } from 'zod'
import { readingSchema } from '@/core/job/reading'
import { doneAt, doneBy, hand, store } from '@/server/data'
import { type IdContext, lacking, readBody, route } from '@/server/respond'
import { tell } from '@/server/watchers'
import { addReading } from '@/store/jobs'

const body = readingSchema
  .omit({ by: true, at: true })
  .extend({ at: doneAt.optional(), by: doneBy.optional(), held: z.int().nonnegative().optional() })

/** Who took it is the server's to say, and when where the device does not. Answers the readings that the device lacks. */
export const POST = route<IdContext>(async (request, { params }) => {
  const { at, by, held = 0, ...reading } = await readBody(request, body)
  const { id } = await params
  const { job: _, readings, ...rest } = addReading(store(), id, { ...reading, ...(await hand(at, by)) })
  tell(id)
  return { ...rest, ...lacking({ readings }, held) }
})
