import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'

/** Typical figures only: the nameplate in front of the user always wins. */
export interface ApplianceKind {
  readonly id: string
  readonly name: string
  readonly group: 'heat' | 'cooking' | 'water' | 'motors' | 'cooling' | 'light' | 'workshop' | 'office' | 'other'
  readonly volts: number
  readonly watts: number
  readonly connection: 'plug' | 'fixed'
  /** Expected to run three hours or more at a stretch. */
  readonly continuous: boolean
  readonly lighting: boolean
}

type Row = readonly [
  id: string,
  name: string,
  group: ApplianceKind['group'],
  na: readonly [volts: number, watts: number],
  metricWatts: number,
  connection: 'plug' | 'fixed',
  continuous: 0 | 1,
]

const rows: readonly Row[] = [
  ['kiln-small', 'Kiln, small test', 'workshop', [120, 1800], 2300, 'plug', 1],
  ['kiln-medium', 'Kiln, medium top-loading', 'workshop', [240, 5760], 5750, 'plug', 1],
  ['kiln-large', 'Kiln, large front-loading', 'workshop', [240, 11520], 9200, 'fixed', 1],
  ['pottery-wheel', 'Pottery wheel', 'workshop', [120, 600], 550, 'plug', 0],
  ['pug-mill', 'Pug mill', 'workshop', [120, 1100], 1100, 'plug', 0],
  ['air-compressor', 'Air compressor', 'workshop', [240, 3000], 2200, 'plug', 0],
  ['table-saw', 'Table saw', 'workshop', [120, 1800], 1800, 'plug', 0],
  ['dust-extractor', 'Dust extractor', 'workshop', [120, 1400], 1500, 'plug', 0],
  ['welder', 'Welder', 'workshop', [240, 7200], 5000, 'plug', 0],
  ['bench-grinder', 'Bench grinder', 'workshop', [120, 500], 450, 'plug', 0],
  ['loom-drive', 'Loom, powered', 'workshop', [120, 750], 750, 'plug', 0],
  ['honey-extractor', 'Honey extractor', 'workshop', [120, 550], 550, 'plug', 0],
  ['honey-warmer', 'Honey warming cabinet', 'heat', [120, 1200], 1500, 'plug', 1],
  ['uncapping-tank', 'Uncapping tank, heated', 'heat', [120, 1000], 1200, 'plug', 0],
  ['wax-melter', 'Wax melter', 'heat', [120, 1500], 2000, 'plug', 1],
  ['room-heater', 'Room heater, portable', 'heat', [120, 1500], 2000, 'plug', 1],
  ['panel-heater', 'Panel heater, wall', 'heat', [240, 1500], 1500, 'fixed', 1],
  ['baseboard-heater', 'Baseboard heater', 'heat', [240, 2000], 2000, 'fixed', 1],
  ['storage-heater', 'Storage heater', 'heat', [240, 3400], 3400, 'fixed', 1],
  ['underfloor-heat', 'Underfloor heating mat', 'heat', [240, 1200], 1200, 'fixed', 1],
  ['towel-rail', 'Heated towel rail', 'heat', [120, 300], 300, 'fixed', 1],
  ['infrared-heater', 'Infrared heater, ceiling', 'heat', [240, 3000], 3000, 'fixed', 1],
  ['water-heater-storage', 'Water heater, storage', 'water', [240, 4500], 3000, 'fixed', 1],
  ['water-heater-instant', 'Water heater, instant, at a basin', 'water', [240, 3500], 3000, 'fixed', 0],
  ['shower-instant', 'Shower, instant', 'water', [240, 9000], 9500, 'fixed', 0],
  ['tea-urn', 'Tea urn', 'water', [120, 1500], 3000, 'plug', 0],
  ['kettle', 'Kettle', 'water', [120, 1400], 2800, 'plug', 0],
  ['coffee-machine', 'Coffee machine, counter', 'water', [120, 1500], 1450, 'plug', 0],
  ['dishwasher', 'Dishwasher', 'water', [120, 1400], 2200, 'plug', 0],
  ['glass-washer', 'Glass washer, bar', 'water', [240, 3300], 3000, 'plug', 0],
  ['washing-machine', 'Washing machine', 'water', [120, 1200], 2200, 'plug', 0],
  ['tumble-dryer', 'Tumble dryer', 'heat', [240, 5600], 2500, 'plug', 0],
  ['range', 'Range or cooker', 'cooking', [240, 9600], 10500, 'fixed', 0],
  ['oven', 'Oven, built in', 'cooking', [240, 3600], 3000, 'fixed', 0],
  ['hob', 'Hob or cooktop', 'cooking', [240, 7200], 7200, 'fixed', 0],
  ['microwave', 'Microwave oven', 'cooking', [120, 1500], 1300, 'plug', 0],
  ['toaster', 'Toaster', 'cooking', [120, 1200], 1400, 'plug', 0],
  ['hot-plate', 'Hot plate, counter', 'cooking', [120, 1500], 2000, 'plug', 0],
  ['food-warmer', 'Food warming cabinet', 'cooking', [120, 1400], 1500, 'plug', 1],
  ['fryer', 'Fryer, counter', 'cooking', [120, 1800], 3000, 'plug', 0],
  ['extractor-hood', 'Extractor hood', 'motors', [120, 250], 250, 'fixed', 0],
  ['refrigerator', 'Refrigerator', 'cooling', [120, 400], 200, 'plug', 0],
  ['freezer', 'Freezer', 'cooling', [120, 500], 250, 'plug', 0],
  ['cold-room', 'Cold room unit', 'cooling', [240, 2400], 2300, 'fixed', 1],
  ['room-cooler', 'Room air conditioner', 'cooling', [120, 1400], 1600, 'plug', 1],
  ['split-unit', 'Split air conditioner', 'cooling', [240, 2400], 2200, 'fixed', 1],
  ['dehumidifier', 'Dehumidifier', 'cooling', [120, 600], 500, 'plug', 1],
  ['extract-fan', 'Extract fan', 'motors', [120, 60], 40, 'fixed', 1],
  ['ceiling-fan', 'Ceiling fan', 'motors', [120, 80], 70, 'fixed', 1],
  ['well-pump', 'Well or borehole pump', 'motors', [240, 1500], 1500, 'fixed', 0],
  ['sump-pump', 'Sump pump', 'motors', [120, 900], 800, 'plug', 0],
  ['macerator-pump', 'Macerator pump', 'motors', [120, 600], 500, 'fixed', 0],
  ['waste-disposer', 'Waste disposer', 'motors', [120, 750], 550, 'plug', 0],
  ['gate-drive', 'Gate drive', 'motors', [120, 350], 350, 'fixed', 0],
  ['hoist', 'Hoist', 'motors', [120, 1100], 1100, 'fixed', 0],
  ['vehicle-charger', 'Vehicle charger', 'other', [240, 7680], 7360, 'fixed', 1],
  ['hand-dryer', 'Hand dryer', 'heat', [120, 1500], 1600, 'fixed', 0],
  ['stage-dimmer', 'Stage dimmer pack', 'light', [120, 2400], 2300, 'plug', 1],
  ['stage-flood', 'Stage flood lights', 'light', [120, 1000], 1000, 'plug', 1],
  ['room-lights', 'Room lights', 'light', [120, 300], 300, 'fixed', 1],
  ['yard-light', 'Yard light', 'light', [120, 100], 100, 'fixed', 1],
  ['sign', 'Lit sign', 'light', [120, 200], 200, 'fixed', 1],
  ['computer', 'Computer and screen', 'office', [120, 400], 400, 'plug', 1],
  ['copier', 'Copier', 'office', [120, 1400], 1500, 'plug', 0],
  ['network-cabinet', 'Network cabinet', 'office', [120, 600], 600, 'plug', 1],
  ['sound-desk', 'Sound desk and amplifiers', 'office', [120, 1200], 1200, 'plug', 1],
  ['sockets-general', 'General outlets', 'other', [120, 1440], 2300, 'plug', 0],
  ['alarm', 'Alarm or fire panel', 'other', [120, 100], 50, 'fixed', 1],
]

function toKind(region: RegionId, [id, name, group, na, metricWatts, connection, continuous]: Row): ApplianceKind {
  const [volts, watts] = worlds[region].splitPhase ? na : [worlds[region].lineV, metricWatts]
  return { id, name, group, volts, watts, connection, continuous: continuous === 1, lighting: group === 'light' }
}

/** Kinds of appliance with typical figures for a world. */
export const applianceKinds = (region: RegionId): ApplianceKind[] => rows.map((row) => toKind(region, row))

type LoadNature = 'general' | 'heating' | 'lighting' | 'motor' | 'cooking' | 'duty' | 'charging' | 'electronic'
const byGroup: Record<ApplianceKind['group'], LoadNature> = {
  heat: 'heating',
  cooking: 'cooking',
  water: 'heating',
  motors: 'motor',
  cooling: 'motor',
  light: 'lighting',
  workshop: 'motor',
  office: 'electronic',
  other: 'general',
}
const byId: Readonly<Record<string, LoadNature>> = {
  'kiln-small': 'heating',
  'kiln-medium': 'heating',
  'kiln-large': 'heating',
  welder: 'duty',
  'vehicle-charger': 'charging',
  'stage-dimmer': 'electronic',
  'washing-machine': 'motor',
  sign: 'electronic',
}

/** How an appliance of this kind draws its current. */
export const natureOf = (kind: Pick<ApplianceKind, 'id' | 'group'>): LoadNature => byId[kind.id] ?? byGroup[kind.group]

const manners: ReadonlyMap<string, { readonly nature: LoadNature; readonly continuous: boolean }> = new Map(
  rows.map(([id, , group, , , , continuous]) => [id, { nature: natureOf({ id, group }), continuous: continuous === 1 }]),
)
/** How an appliance draws its current and whether for three hours or more, by its id; undefined where the catalogue lacks it. */
export const applianceManner = (id: string | null) => (id === null ? undefined : manners.get(id))

/** Appliances that need a GFCI wherever they are and however they are connected. NFPA 70 210.8(D). */
export const protectedAppliances: ReadonlySet<string> = new Set([
  'sump-pump',
  'dishwasher',
  'range',
  'oven',
  'hob',
  'tumble-dryer',
  'microwave',
])
/** Appliances whose drives are often frequency-controlled, and so want a residual device of type F. IEC 60755; BS 7671 531.3.3. */
export const frequencyDriven: ReadonlySet<string> = new Set(['washing-machine', 'split-unit', 'room-cooler', 'cold-room', 'gate-drive'])
/** Heating elements on electronics: type AC is blind to what they may leak. */
export const heatsByElectronics: ReadonlySet<string> = new Set(['hob', 'underfloor-heat', 'shower-instant'])
