import { hand, store } from '@/server/data'
import { type IdContext, route } from '@/server/respond'
import { tell } from '@/server/watchers'
import { deleteJob, loadJob } from '@/store/jobs'

export const GET = route<IdContext>(async (_, { params }) => loadJob(store(), (await params).id))
export const DELETE = route<IdContext>(async (_, { params }) => {
  const { id } = await params
  deleteJob(store(), id, (await hand()).at)
  tell(id)
})
