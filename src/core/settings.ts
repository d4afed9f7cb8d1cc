import { z } from 'zod'
import type { UnitSystem } from './quantity/format'
import type { RegionId } from './region/types'
import { worlds } from './region/worlds'

/** What a person sets once for all jobs. `world` shows each job in its own world's units. */
export const settingsSchema = z.strictObject({
  units: z.enum(['world', 'metric', 'imperial']),
  theme: z.enum(['system', 'light', 'dark']),
  name: z.string().max(120),
})
export type Settings = z.infer<typeof settingsSchema>
export const defaultSettings: Settings = { units: 'world', theme: 'system', name: '' }

/** The units to show a world's job in. */
export function unitsFor(setting: Settings['units'], region: RegionId): UnitSystem {
  if (setting !== 'world') return setting
  return worlds[region].units
}
