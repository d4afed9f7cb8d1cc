import { store } from '@/server/data'
import { type IdContext, route } from '@/server/respond'
import { historyOf } from '@/store/jobs'

export const GET = route<IdContext>(async (_, { params }) => historyOf(store(), (await params).id))
