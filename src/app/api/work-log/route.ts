import { store } from '@/server/data'
import { route } from '@/server/respond'
import { workLog } from '@/store/work-log'

export const GET = route(async () => workLog(store()))
