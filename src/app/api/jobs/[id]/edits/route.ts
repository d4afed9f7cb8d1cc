import { hand, store } from '@/server/data'
import { requests } from '@/server/requests'
import { changed, type IdContext, readBody, route } from '@/server/respond'
import { editJob } from '@/store/jobs'
import { mayBeSigned } from '@/store/signing'

export const POST = route<IdContext>(async (request, { params }) => {
  const { revision, seen, edit, act, at, by, over } = await readBody(request, requests.edit)
  const { id } = await params
  if (edit.kind === 'issue.sign') mayBeSigned(store(), id, edit)
  return changed(
    editJob(store(), id, revision, edit, await hand(at, by), {
      act: act ?? null,
      seen: seen ?? revision,
      over: new Set(over),
    }),
  )
})
