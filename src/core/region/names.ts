import type { RegionId } from './types'

/** What a list of jobs says of a world, so that it need not bring the tables of all of them. */
export const worldNames: Readonly<Record<RegionId, { readonly name: string; readonly nominal: string }>> = {
  'north-america': { name: 'North America', nominal: '120/240 V, 60 Hz' },
  'united-kingdom': { name: 'United Kingdom', nominal: '230 V, 50 Hz' },
  'southern-africa': { name: 'Southern Africa', nominal: '230 V, 50 Hz' },
}
