import { hand, store } from '@/server/data'
import { requests } from '@/server/requests'
import { changed, type IdContext, readBody, route } from '@/server/respond'
import { undoJob } from '@/store/jobs'

export const POST = route<IdContext>(async (request, { params }) => {
  const { revision } = await readBody(request, requests.step)
  return changed(undoJob(store(), (await params).id, revision, await hand()))
})
