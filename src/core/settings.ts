import { z } from 'zod'

/** What a person sets once for all jobs. `world` shows each job in its own world's units. */
export const settingsSchema = z.strictObject({
  units: z.enum(['world', 'metric', 'imperial']),
  theme: z.enum(['system', 'light', 'dark']),
  name: z.string().max(120),
})
export type Settings = z.infer<typeof settingsSchema>
export const defaultSettings: Settings = { units: 'world', theme: 'system', name: '' }
