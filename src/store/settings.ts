import { eq } from 'drizzle-orm'
import { z } from 'zod'
import type { Store } from './open'
import { settings } from './schema'

/** What a person sets once for all jobs. `world` shows each job in its own world's units. */
export const settingsSchema = z.strictObject({
  units: z.enum(['world', 'metric', 'imperial']),
  theme: z.enum(['system', 'light', 'dark']),
  name: z.string().max(120),
})
export type Settings = z.infer<typeof settingsSchema>
const defaults: Settings = { units: 'world', theme: 'system', name: '' }
const KEY = 'person'

export function loadSettings(store: Store): Settings {
  const row = store.select().from(settings).where(eq(settings.key, KEY)).get()
  const parsed = settingsSchema.safeParse({ ...defaults, ...(row ? JSON.parse(row.value) : {}) })
  return parsed.success ? parsed.data : defaults
}

export function saveSettings(store: Store, patch: Partial<Settings>): Settings {
  const next = { ...loadSettings(store), ...patch }
  const value = JSON.stringify(next)
  store.insert(settings).values({ key: KEY, value }).onConflictDoUpdate({ target: settings.key, set: { value } }).run()
  return next
}
