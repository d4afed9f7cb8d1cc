import { store } from '@/server/data'
import { type IdContext, route } from '@/server/respond'
import { tell } from '@/server/watchers'
import { undeleteJob } from '@/store/jobs'

export const POST = route<IdContext>(async (_, { params }) => {
  const { id } = await params
  undeleteJob(store(), id)
  tell(id)
})
