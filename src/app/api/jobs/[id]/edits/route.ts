import { z } from 'zod'
import { editSchema } from '@/core/job/edits'
import { idField } from '@/core/job/fields'
import { doneAt, doneBy, hand, store } from '@/server/data'
import { changed, type IdContext, readBody, route } from '@/server/respond'
import { editJob } from '@/store/jobs'

const body = z.strictObject({
  revision: z.int().positive(),
  seen: z.int().positive().optional(),
  edit: editSchema,
  act: idField.optional(),
  at: doneAt.optional(),
  by: doneBy.optional(),
  /** Acts of the same device that it was done on top of and that the server had not answered. */
  over: z.array(idField).max(2000).optional(),
})

export const POST = route<IdContext>(async (request, { params }) => {
  const { revision, seen, edit, act, at, by, over } = await readBody(request, body)
  return changed(
    editJob(store(), (await params).id, revision, edit, await hand(at, by), {
      act: act ?? null,
      seen: seen ?? revision,
      over: new Set(over),
    }),
  )
})
