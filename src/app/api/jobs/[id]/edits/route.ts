import { z } from 'zod'
import { editSchema } from '@/core/job/edits'
import { hand, store } from '@/server/data'
import { changed, type IdContext, readBody, route } from '@/server/respond'
import { editJob } from '@/store/jobs'

const body = z.strictObject({ revision: z.int().positive(), edit: editSchema })

export const POST = route<IdContext>(async (request, { params }) => {
  const { revision, edit } = await readBody(request, body)
  return changed(editJob(store(), (await params).id, revision, edit, await hand()))
})
