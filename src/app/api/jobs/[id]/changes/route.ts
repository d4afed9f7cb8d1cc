import { z } from 'zod'
import { store } from '@/server/data'
import { type IdContext, lacking, route } from '@/server/respond'
import { changedSince, loadJob } from '@/store/jobs'

const asked = z.object({ after: z.coerce.number().int().positive(), held: z.coerce.number().int().nonnegative().default(0) })

/** What a device that holds a job as it stood after a revision lacks: patches and readings, or the whole job where patches do not reach. */
export const GET = route<IdContext>(async (request, { params }) => {
  const { id } = await params
  const { after, held } = asked.parse(Object.fromEntries(new URL(request.url).searchParams))
  const changed = changedSince(store(), id, after)
  if (!changed) return { ...loadJob(store(), id), from: 0 }
  const { job: _, ...rest } = changed
  return { ...rest, ...lacking(rest, held) }
})
