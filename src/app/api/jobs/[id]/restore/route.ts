import { z } from 'zod'
import { hand, store } from '@/server/data'
import { changed, type IdContext, readBody, route } from '@/server/respond'
import { restoreJob } from '@/store/jobs'

export const POST = route<IdContext>(async (request, { params }) => {
  const { revision, to } = await readBody(request, z.strictObject({ revision: z.int().positive(), to: z.int().positive() }))
  return changed(restoreJob(store(), (await params).id, revision, to, await hand()))
})
