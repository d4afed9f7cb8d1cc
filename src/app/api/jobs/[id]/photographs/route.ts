import { z } from 'zod'
import { hand, store } from '@/server/data'
import { requests } from '@/server/requests'
import { type IdContext, readBody, route } from '@/server/respond'
import { tell } from '@/server/watchers'
import { addPhotograph, photographRows } from '@/store/photographs'

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
  const { at, by, held: from, data, ...row } = await readBody(request, requests.photograph)
  const { id } = await params
  addPhotograph(store(), id, { ...row, ...(data ? { data: Buffer.from(data, 'base64') } : {}) }, await hand(at, by))
  tell(id)
  return { from, rows: photographRows(store(), id, from) }
})
