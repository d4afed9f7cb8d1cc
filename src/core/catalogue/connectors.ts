import type { RegionId } from '../region/types'

export const connectorIds = ['lever-2', 'lever-3', 'lever-5', 'twist-small', 'twist-large', 'block', 'box-screw', 'box-earth'] as const
export type ConnectorId = (typeof connectorIds)[number]

/** A connector and what it takes. What it takes is its maker’s to say; these are usual figures. */
export interface Connector {
  readonly id: ConnectorId
  readonly name: string
  readonly regions: readonly RegionId[]
  /** Conductors it takes at the least and at the most. */
  readonly least: number
  readonly most: number
  /** Copper of all conductors together, in square millimetres; what is thinner than the least slips out. */
  readonly leastMm2: number
  readonly mostMm2: number
  /** The thickest single conductor. */
  readonly eachMm2: number
  readonly twisted: boolean
  /** It is part of a metal box, for the protective conductor, and is not bought. */
  readonly ofBox?: true
}

const everywhere: readonly RegionId[] = ['north-america', 'united-kingdom', 'southern-africa']
const lever = (id: 'lever-2' | 'lever-3' | 'lever-5', ways: number): Connector => ({
  id,
  name: `Lever connector, ${ways} conductors`,
  regions: everywhere,
  least: 1,
  most: ways,
  leastMm2: 0.2,
  mostMm2: 4 * ways,
  eachMm2: 4,
  twisted: false,
})

const ofMetalBox = (id: 'box-screw' | 'box-earth', name: string, regions: readonly RegionId[]): Connector => ({
  id,
  name,
  regions,
  least: 1,
  most: 2,
  leastMm2: 0,
  mostMm2: 12,
  eachMm2: 6,
  twisted: false,
  ofBox: true,
})

export const connectors: readonly Connector[] = [
  lever('lever-2', 2),
  lever('lever-3', 3),
  lever('lever-5', 5),
  {
    id: 'twist-small',
    name: 'Twist-on connector, small',
    regions: ['north-america', 'southern-africa'],
    least: 2,
    most: 3,
    leastMm2: 1.5,
    mostMm2: 7,
    eachMm2: 3.4,
    twisted: true,
  },
  {
    id: 'twist-large',
    name: 'Twist-on connector, large',
    regions: ['north-america', 'southern-africa'],
    least: 2,
    most: 6,
    leastMm2: 4,
    mostMm2: 21,
    eachMm2: 8.4,
    twisted: true,
  },
  {
    id: 'block',
    name: 'Screw connector block',
    regions: ['united-kingdom', 'southern-africa'],
    least: 1,
    most: 4,
    leastMm2: 0.5,
    mostMm2: 12,
    eachMm2: 6,
    twisted: false,
  },
  ofMetalBox('box-screw', 'Green screw of the box', ['north-america']),
  ofMetalBox('box-earth', 'Earth terminal of the box', ['united-kingdom', 'southern-africa']),
]
const byId = new Map(connectors.map((c) => [c.id, c]))
export const connector = (id: ConnectorId): Connector => byId.get(id)!
export const connectorsFor = (region: RegionId): readonly Connector[] => connectors.filter((c) => !c.ofBox && c.regions.includes(region))
/** The terminal for the protective conductor in a metal box. */
export const boxTerminal = (region: RegionId): Connector => connectors.find((c) => c.ofBox && c.regions.includes(region))!
/** The smallest that takes so many, of the kind that is preferred where one of it does; where none does, the largest. Areas in mm². */
export const connectorFor = (region: RegionId, count: number, twist: boolean, areas: readonly number[] = []): Connector => {
  const total = areas.reduce((a, b) => a + b, 0)
  const takes = (c: Connector) =>
    c.most >= count &&
    c.least <= count &&
    total <= c.mostMm2 &&
    areas.every((x) => x <= c.eachMm2) &&
    (!c.twisted || total === 0 || total >= c.leastMm2)
  const inOrder = connectorsFor(region).toSorted((a, b) => Number(b.twisted === twist) - Number(a.twisted === twist))
  const pushed = inOrder.filter((c) => c.id !== 'block')
  return pushed.find(takes) ?? inOrder.find(takes) ?? pushed.filter((c) => c.twisted === pushed[0]!.twisted).at(-1)!
}
/** So many conductors the largest connector takes. */
export const mostJoined = (region: RegionId): number => Math.max(...connectorsFor(region).map((c) => c.most))
