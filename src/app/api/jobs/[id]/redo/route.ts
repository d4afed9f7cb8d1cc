import { hand, store } from '@/server/data'
import { requests } from '@/server/requests'
import { changed, type IdContext, readBody, route } from '@/server/respond'
import { redoJob } from '@/store/jobs'

export const POST = route<IdContext>(async (request, { params }) => {
  const { revision } = await readBody(request, requests.step)
  return changed(redoJob(store(), (await params).id, revision, await hand()))
})
