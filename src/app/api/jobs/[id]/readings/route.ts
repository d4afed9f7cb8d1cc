import { hand, store } from '@/server/data'
import { requests } from '@/server/requests'
import { type IdContext, lacking, readBody, route } from '@/server/respond'
import { tell } from '@/server/watchers'
import { addReading } from '@/store/jobs'

/** Who took it is the server's to say, and when where the device does not. Answers the readings that the device lacks. */
export const POST = route<IdContext>(async (request, { params }) => {
  const { at, by, held = 0, ...reading } = await readBody(request, requests.reading)
  const { id } = await params
  const { job: _, readings, ...rest } = addReading(store(), id, { ...reading, ...(await hand(at, by)) })
  tell(id)
  return { ...rest, ...lacking({ readings }, held) }
})
