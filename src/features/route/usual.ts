import { metresFromFeet } from '@/core/base/units'
import type { RegionId } from '@/core/region/types'
import { worlds } from '@/core/region/worlds'

/** Where noggings are looked for first: half way up a storey. */
export const USUAL_NOGGING_M = 1.2
/** From the middle of a stud or a joist to that of the next, where it was not measured. */
export const usualSpacingM = (region: RegionId): number => (worlds[region].units === 'imperial' ? metresFromFeet(16 / 12) : 0.4)
