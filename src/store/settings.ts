import { eq } from 'drizzle-orm'
import { defaultSettings, type Settings, settingsSchema } from '@/core/workday/settings'
import type { Store } from './open'
import { settings } from './schema'

const KEY = 'person'

export function loadSettings(store: Store): Settings {
  const row = store.select().from(settings).where(eq(settings.key, KEY)).get()
  const parsed = settingsSchema.safeParse({ ...defaultSettings, ...(row ? JSON.parse(row.value) : {}) })
  return parsed.success ? parsed.data : defaultSettings
}

export function saveSettings(store: Store, patch: Partial<Settings>): Settings {
  const next = { ...loadSettings(store), ...patch }
  const value = JSON.stringify(next)
  store.insert(settings).values({ key: KEY, value }).onConflictDoUpdate({ target: settings.key, set: { value } }).run()
  return next
}
