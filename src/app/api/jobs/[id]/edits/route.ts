import { z } from 'zod'
import { editSchema } from '@/core/job/edits'
import { idField } from '@/core/job/fields'
import { doneAt, hand, store } from '@/server/data'
import { changed, type IdContext, readBody, route } from '@/server/respond'
import { editJob } from '@/store/jobs'

const body = z.strictObject({
  revision: z.int().positive(),
  seen: z.int().positive().optional(),
  edit: editSchema,
  act: idField.optional(),
  at: doneAt.optional(),
})

export const POST = route<IdContext>(async (request, { params }) => {
  const { revision, seen, edit, act, at } = await readBody(request, body)
  return changed(editJob(store(), (await params).id, revision, edit, await hand(at), { act: act ?? null, seen: seen ?? revision }))
})
