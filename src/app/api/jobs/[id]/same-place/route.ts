import { store } from '@/server/data'
import { type IdContext, route } from '@/server/respond'
import { samePlace } from '@/store/due'

/** Other jobs at the same place. */
export const GET = route<IdContext>(async (_, { params }) => samePlace(store(), (await params).id))
