import { store } from '@/server/data'
import { type IdContext, route } from '@/server/respond'
import { undeleteJob } from '@/store/jobs'

export const POST = route<IdContext>(async (_, { params }) => undeleteJob(store(), (await params).id))
