import { northAmerica } from './north-america/world'
import { southernAfricaWorld } from './southern-africa/world'
import type { RegionId } from './types'
import { unitedKingdomWorld } from './united-kingdom/world'
import type { World } from './world'

/** The electrical worlds by their name in a job. */
export const worlds: Readonly<Record<RegionId, World>> = {
  'north-america': northAmerica,
  'united-kingdom': unitedKingdomWorld,
  'southern-africa': southernAfricaWorld,
}
