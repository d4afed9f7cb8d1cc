import type { RegionId } from './types'

/** What a list of jobs says of a world, so that it need not bring the tables of all of them. */
export const worldNames: Readonly<Record<RegionId, { readonly name: string; readonly nominal: string; readonly rules: string }>> = {
  'north-america': { name: 'North America', nominal: '120/240 V, 60 Hz', rules: 'by the NEC; Canada is not covered' },
  'united-kingdom': { name: 'United Kingdom', nominal: '230 V, 50 Hz', rules: 'by BS 7671' },
  'southern-africa': { name: 'Southern Africa', nominal: '230 V, 50 Hz', rules: 'by SANS 10142-1' },
}
