import { store } from '@/server/data'
import { readBody, route } from '@/server/respond'
import { settingsSchema } from '@/core/workday/settings'
import { saveSettings } from '@/store/settings'

export const POST = route(async (request) => saveSettings(store(), await readBody(request, settingsSchema.partial())))
