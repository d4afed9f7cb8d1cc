import { z } from 'zod'
import { MOST_BYTES, photographSchema } from '@/core/verify/photograph'
import { doneAt, doneBy, hand, store } from '@/server/data'
import { type IdContext, readBody, route } from '@/server/respond'
import { tell } from '@/server/watchers'
import { addPhotograph, photographRows } from '@/store/photographs'

const held = z.int().nonnegative().default(0)
const body = photographSchema.pick({ id: true, photograph: true, of: true, words: true, out: true }).extend({
  at: doneAt.optional(),
  by: doneBy.optional(),
  held,
  /** The JPEG in base 64. */
  data: z
    .base64()
    .max(Math.ceil(MOST_BYTES / 3) * 4 + 4)
    .optional(),
})

/** The rows that a device lacks which holds so many. */
export const GET = route<IdContext>(async (request, { params }) => {
  const from = z.coerce
    .number()
    .int()
    .nonnegative()
    .default(0)
    .parse(new URL(request.url).searchParams.get('held') ?? undefined)
  return { from, rows: photographRows(store(), (await params).id, from) }
})

/** Keeps a photograph, or says that one is called otherwise or put away; answers the rows the device lacks. */
export const POST = route<IdContext>(async (request, { params }) => {
  const { at, by, held: from, data, ...row } = await readBody(request, body)
  const { id } = await params
  addPhotograph(store(), id, { ...row, ...(data ? { data: Buffer.from(data, 'base64') } : {}) }, await hand(at, by))
  tell(id)
  return { from, rows: photographRows(store(), id, from) }
})
