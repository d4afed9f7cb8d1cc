import { hand, store } from '@/server/data'
import { requests } from '@/server/requests'
import { changed, type IdContext, readBody, route } from '@/server/respond'
import { restoreJob } from '@/store/jobs'

export const POST = route<IdContext>(async (request, { params }) => {
  const { revision, to } = await readBody(request, requests.restore)
  return changed(restoreJob(store(), (await params).id, revision, to, await hand()))
})
