import { cm3FromIn3, millimetresFromInches } from '../base/units'
import { type RegionId, regionIds } from '../region/types'

export type BoxMounting =
  | 'clamps to a finished wall'
  | 'nails to a stud'
  | 'screws to framing'
  | 'surface'
  | 'set in masonry'
  | 'ceiling'
  | 'set in a floor'

export interface BoxKind {
  readonly id: string
  readonly name: string
  readonly regions: readonly RegionId[]
  /** Widths of accessory it takes side by side. */
  readonly gangs: number
  readonly shape: 'rectangular' | 'square' | 'round'
  readonly depthMm: number
  readonly volumeCm3: number
  readonly mounting: BoxMounting
  readonly internalClamps: boolean
  readonly weatherproof: boolean
  /** Metal boxes are bonded to the protective conductor. */
  readonly metal: boolean
}

const na = (
  id: string,
  name: string,
  gangs: number,
  shape: BoxKind['shape'],
  depthIn: number,
  volumeIn3: number,
  mounting: BoxMounting,
  clamps: 0 | 1,
  weather: 0 | 1 = 0,
): BoxKind => ({
  id,
  name,
  regions: ['north-america'],
  gangs,
  shape,
  depthMm: millimetresFromInches(depthIn),
  volumeCm3: cm3FromIn3(volumeIn3),
  mounting,
  internalClamps: clamps === 1,
  weatherproof: weather === 1,
  metal: !name.startsWith('Plastic'),
})

/** Moulded and metal boxes of the 230 V worlds; inside face of a gang is taken as 70 × 70 mm (double 130 × 70 mm). */
const metric = (
  id: string,
  name: string,
  regions: readonly RegionId[],
  gangs: 1 | 2,
  depthMm: number,
  mounting: BoxMounting,
  weather: 0 | 1 = 0,
  shape: BoxKind['shape'] = 'square',
): BoxKind => ({
  id,
  name,
  regions,
  gangs,
  shape,
  depthMm,
  volumeCm3: ((gangs === 1 ? 70 : 130) * 70 * depthMm) / 1000,
  mounting,
  internalClamps: false,
  weatherproof: weather === 1,
  metal: /^(Metal|Steel)/.test(name),
})

const uk: readonly RegionId[] = ['united-kingdom']
const za: readonly RegionId[] = ['southern-africa']

export const boxKinds: readonly BoxKind[] = [
  na('na-device-12.5', 'Metal device, 3 × 2 × 2-1/2', 1, 'rectangular', 2.5, 12.5, 'screws to framing', 1),
  na('na-device-14', 'Metal device, 3 × 2 × 2-3/4', 1, 'rectangular', 2.75, 14, 'screws to framing', 1),
  na('na-device-18', 'Metal device, 3 × 2 × 3-1/2', 1, 'rectangular', 3.5, 18, 'screws to framing', 1),
  na('na-handy-10.3', 'Metal utility, 4 × 2-1/8 × 1-1/2', 1, 'rectangular', 1.5, 10.3, 'surface', 0),
  na('na-handy-14.5', 'Metal utility, 4 × 2-1/8 × 2-1/8', 1, 'rectangular', 2.125, 14.5, 'surface', 0),
  na('na-old-14', 'Plastic, clamps to wall, shallow', 1, 'rectangular', 2.5, 14, 'clamps to a finished wall', 1),
  na('na-old-20', 'Plastic, clamps to wall, deep', 1, 'rectangular', 3.25, 20, 'clamps to a finished wall', 1),
  na('na-new-18', 'Plastic, nails to stud', 1, 'rectangular', 2.875, 18, 'nails to a stud', 0),
  na('na-new-20.3', 'Plastic, nails to stud, deep', 1, 'rectangular', 3.25, 20.3, 'nails to a stud', 0),
  na('na-new-22.5', 'Plastic, nails to stud, extra deep', 1, 'rectangular', 3.5, 22.5, 'nails to a stud', 0),
  na('na-sealed-20', 'Plastic, nails to stud, gasketed', 1, 'rectangular', 3.25, 20, 'nails to a stud', 0),
  na('na-old-2g-25', 'Plastic, clamps to wall, two gang', 2, 'rectangular', 2.5, 25, 'clamps to a finished wall', 1),
  na('na-old-2g-34', 'Plastic, clamps to wall, two gang deep', 2, 'rectangular', 3.25, 34, 'clamps to a finished wall', 1),
  na('na-new-2g-32', 'Plastic, nails to stud, two gang', 2, 'rectangular', 3, 32, 'nails to a stud', 1),
  na('na-new-2g-42', 'Plastic, nails to stud, two gang deep', 2, 'rectangular', 3.5, 42, 'nails to a stud', 1),
  na('na-old-3g-45', 'Plastic, clamps to wall, three gang', 3, 'rectangular', 3, 45, 'clamps to a finished wall', 1),
  na('na-new-3g-54', 'Plastic, nails to stud, three gang', 3, 'rectangular', 3.5, 54, 'nails to a stud', 1),
  na('na-old-4g-64', 'Plastic, clamps to wall, four gang', 4, 'rectangular', 3.25, 64, 'clamps to a finished wall', 1),
  na('na-new-4g-72', 'Plastic, nails to stud, four gang', 4, 'rectangular', 3.5, 72, 'nails to a stud', 1),
  na('na-old-round-14', 'Plastic round, clamps to ceiling', 1, 'round', 2.5, 14, 'clamps to a finished wall', 1),
  na('na-sq-18', 'Metal square, 4 × 1-1/4', 2, 'square', 1.25, 18, 'screws to framing', 0),
  na('na-sq-21', 'Metal square, 4 × 1-1/2', 2, 'square', 1.5, 21, 'screws to framing', 0),
  na('na-sq-30', 'Metal square, 4 × 2-1/8', 2, 'square', 2.125, 30.3, 'screws to framing', 0),
  na('na-sq-29.5', 'Metal square, 4-11/16 × 1-1/2', 2, 'square', 1.5, 29.5, 'screws to framing', 0),
  na('na-sq-42', 'Metal square, 4-11/16 × 2-1/8', 2, 'square', 2.125, 42, 'screws to framing', 0),
  na('na-round-12.5', 'Metal round, 4 × 1-1/4', 1, 'round', 1.25, 12.5, 'ceiling', 0),
  na('na-round-15.5', 'Metal round, 4 × 1-1/2', 1, 'round', 1.5, 15.5, 'ceiling', 0),
  na('na-round-21.5', 'Metal round, 4 × 2-1/8, fan rated', 1, 'round', 2.125, 21.5, 'ceiling', 0),
  na('na-brace-21', 'Metal round on a brace, fan rated', 1, 'round', 2.125, 21.5, 'ceiling', 0),
  na('na-floor-24', 'Metal floor, with its cover', 1, 'rectangular', 2.875, 24, 'set in a floor', 0),
  na('na-surface-13', 'Surface metal, one gang', 1, 'rectangular', 1.875, 13, 'surface', 0),
  na('na-weather-18', 'Cast weatherproof, one gang', 1, 'rectangular', 2, 18.3, 'surface', 0, 1),
  na('na-weather-2g-31', 'Cast weatherproof, two gang', 2, 'rectangular', 2, 31, 'surface', 0, 1),
  metric('uk-metal-16', 'Metal, flush, 16 mm', uk, 1, 16, 'set in masonry'),
  metric('uk-metal-25', 'Metal, flush, 25 mm', uk, 1, 25, 'set in masonry'),
  metric('uk-metal-35', 'Metal, flush, 35 mm', uk, 1, 35, 'set in masonry'),
  metric('uk-metal-47', 'Metal, flush, 47 mm', uk, 1, 47, 'set in masonry'),
  metric('uk-metal-2g-25', 'Metal, flush, two gang 25 mm', uk, 2, 25, 'set in masonry'),
  metric('uk-metal-2g-35', 'Metal, flush, two gang 35 mm', uk, 2, 35, 'set in masonry'),
  metric('uk-metal-2g-47', 'Metal, flush, two gang 47 mm', uk, 2, 47, 'set in masonry'),
  metric('uk-dry-35', 'Dry lining, clamps to board, 35 mm', uk, 1, 35, 'clamps to a finished wall'),
  metric('uk-dry-47', 'Dry lining, clamps to board, 47 mm', uk, 1, 47, 'clamps to a finished wall'),
  metric('uk-dry-2g-35', 'Dry lining, two gang 35 mm', uk, 2, 35, 'clamps to a finished wall'),
  metric('uk-dry-2g-47', 'Dry lining, two gang 47 mm', uk, 2, 47, 'clamps to a finished wall'),
  metric('uk-dry-sealed-47', 'Dry lining, sealed, 47 mm', uk, 1, 47, 'clamps to a finished wall'),
  metric('uk-dry-round-35', 'Dry lining, round, 35 mm', uk, 1, 35, 'clamps to a finished wall', 0, 'round'),
  metric('uk-floor-80', 'Metal floor box, with its lid', uk, 2, 80, 'set in a floor'),
  metric('uk-surface-2g-35', 'Surface moulded, two gang 35 mm', uk, 2, 35, 'surface'),
  metric('uk-surface-25', 'Surface moulded, 25 mm', uk, 1, 25, 'surface'),
  metric('uk-surface-35', 'Surface moulded, 35 mm', uk, 1, 35, 'surface'),
  metric('uk-surface-47', 'Surface moulded, 47 mm', uk, 1, 47, 'surface'),
  metric('uk-surface-2g-47', 'Surface moulded, two gang 47 mm', uk, 2, 47, 'surface'),
  metric('uk-weather-55', 'Weatherproof enclosure, one gang', uk, 1, 55, 'surface', 1),
  metric('uk-weather-2g-55', 'Weatherproof enclosure, two gang', uk, 2, 55, 'surface', 1),
  metric('uk-ceiling-25', 'Ceiling, round, 25 mm', uk, 1, 25, 'ceiling', 0, 'round'),
  metric('za-steel-50', 'Steel wall box, 100 × 50, 50 mm', za, 1, 50, 'set in masonry', 0, 'rectangular'),
  metric('za-steel-100', 'Steel wall box, 100 × 100, 50 mm', za, 2, 50, 'set in masonry'),
  metric('za-steel-shallow', 'Steel wall box, 100 × 50, 35 mm', za, 1, 35, 'set in masonry', 0, 'rectangular'),
  metric('za-steel-100-shallow', 'Steel wall box, 100 × 100, 35 mm', za, 2, 35, 'set in masonry'),
  metric('za-dry-50', 'Board wall box, clamps, 100 × 50', za, 1, 50, 'clamps to a finished wall', 0, 'rectangular'),
  metric('za-dry-100', 'Board wall box, clamps, 100 × 100', za, 2, 50, 'clamps to a finished wall'),
  metric('za-dry-round-50', 'Board ceiling box, clamps, round', za, 1, 50, 'clamps to a finished wall', 0, 'round'),
  metric('za-weather-50', 'Weatherproof enclosure, 100 × 50', za, 1, 60, 'surface', 1, 'rectangular'),
  metric('za-floor-80', 'Metal floor box, with its lid', za, 2, 80, 'set in a floor'),
  metric('za-surface-50', 'Surface moulded, 100 × 50', za, 1, 45, 'surface', 0, 'rectangular'),
  metric('za-surface-100', 'Surface moulded, 100 × 100', za, 2, 45, 'surface'),
  metric('za-weather-100', 'Weatherproof enclosure, 100 × 100', za, 2, 60, 'surface', 1),
  metric('za-round-50', 'Ceiling, round, 50 mm', za, 1, 50, 'ceiling', 0, 'round'),
]

/** The outline a box is traced by, in millimetres: usual figures, until the one in the hand is measured. Surface ones have none. */
export function outlineOf(box: BoxKind): readonly [number, number] | null {
  if (box.mounting === 'surface') return null
  const inches = box.regions.includes('north-america')
  if (box.shape === 'round') return inches ? [102, 102] : [70, 70]
  if (inches) {
    if (box.shape === 'square') return box.name.includes('4-11/16') ? [119, 119] : [102, 102]
    return [box.gangs === 1 ? 57 : 102, 92]
  }
  if (box.name.includes('100 × 50')) return [52, 102]
  if (box.name.includes('100 × 100')) return [102, 102]
  return [box.gangs === 1 ? 74 : 134, 74]
}
/** What the clamp of a box in a finished wall grips, from the face, in millimetres: usual figures, its maker’s count. */
export const USUAL_GRIP_MM: readonly [number, number] = [6, 32]

export const boxesFor = (region: RegionId): BoxKind[] => boxKinds.filter((b) => b.regions.includes(region))
const bySize = new Map(regionIds.map((region) => [region, boxesFor(region).toSorted((a, b) => a.volumeCm3 - b.volumeCm3)]))
/** The boxes of a world, smallest first. */
export const boxesBySize = (region: RegionId): readonly BoxKind[] => bySize.get(region)!
export const boxKind = (id: string | null): BoxKind | undefined => boxKinds.find((b) => b.id === id)
