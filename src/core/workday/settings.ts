import { z } from 'zod'
import { taskKinds } from './task-kinds'
import type { UnitSystem } from '../base/format'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'
import { abbreviationSchema } from '../job/label'

/** What a person sets once for all jobs. `world` shows each job in its own world's units. */
export const settingsSchema = z.strictObject({
  units: z.enum(['world', 'metric', 'imperial']),
  theme: z.enum(['system', 'light', 'dark']),
  name: z.string().max(120),
  /** Minutes the firm takes for one of each kind of task, where it knows its own. */
  minutes: z.partialRecord(z.enum(taskKinds), z.number().positive().max(600)),
  /** How the firm shortens words on a label that is too long for its place. */
  abbreviations: z.array(abbreviationSchema).max(200),
})
export type Settings = z.infer<typeof settingsSchema>
export const defaultSettings: Settings = { units: 'world', theme: 'system', name: '', minutes: {}, abbreviations: [] }

/** The units to show a world's job in. */
export function unitsFor(setting: Settings['units'], region: RegionId): UnitSystem {
  if (setting !== 'world') return setting
  return worlds[region].units
}
