import { z } from 'zod'
import { hand, store } from '@/server/data'
import { changed, type IdContext, readBody, route } from '@/server/respond'
import { redoJob } from '@/store/jobs'

export const POST = route<IdContext>(async (request, { params }) => {
  const { revision } = await readBody(request, z.strictObject({ revision: z.int().positive() }))
  return changed(redoJob(store(), (await params).id, revision, await hand()))
})
