import { type BuildingInput, mayOpen, opposite, type Room, type Side, sides } from './house'
import { type Graph, type Place, placeAt } from './search'

/*
 * Every way a cable can take through a building, made of what it is built of: bays between studs, plates above and below them, the attic,
 * the crawl space, the face of a wall.
 */
export const wayKinds = [
  'cavity',
  'stud',
  'nogging',
  'corner',
  'top-plates',
  'ceiling-hole',
  'sole-plate',
  'floor-hole',
  'storey',
  'partition',
  'attic',
  'crawl',
  'ceiling-void',
  'into-void',
  'void-wall',
  'surface',
  'surface-corner',
  'emerge',
  'cabinets',
  'wall-hole',
  'outside',
  'outside-corner',
  'out-hole',
] as const
export type WayKind = (typeof wayKinds)[number]

/** A place of a building: a wall, a corner, what joins two rooms, or a space; by name (`kitchen north`, `attic`) and by its parts. */
export interface Where {
  readonly name: string
  readonly room: string | null
  readonly side: Side | null
  /** The room or the side beyond: of a partition, of a storey, of a corner. */
  readonly beyond: string | null
}

/** What edges have in common that are one thing to do in one place: they are named, forbidden, forced and reported by it. */
export interface Label {
  readonly kind: WayKind
  readonly where: Where
  /** The space it leads into through a wall's plates or a ceiling. */
  readonly into: 'attic' | 'crawl' | null
  /** How many times as long the work takes as elsewhere, of heat and of want of room. */
  readonly times: number
}

/**
 * What a way costs: minutes, and what a metre, a hole, an opening to make good, heat, want of room, a minute of somebody else and one
 * without power count for beside them.
 */
export interface Weights {
  readonly minute: number
  readonly metre: number
  readonly hole: number
  readonly opening: number
  /** Times the minutes under a hot roof, and where one cannot stand. */
  readonly hot: number
  readonly cramped: number
  readonly second: number
  readonly outage: number
}
export const usualWeights: Weights = { minute: 1, metre: 0.5, hole: 3, opening: 20, hot: 1.5, cramped: 1.4, second: 0.5, outage: 0.5 }

/** Minutes for each kind of way: by the metre, and once. A careful hand's usual ones, to be replaced by a firm's own. */
interface Work {
  readonly perMetre: number
  readonly once: number
  readonly holes: number
  readonly openings: number
  /** One aloft or below, and one at the wall. */
  readonly two?: true
  /** Minutes and holes for each joist that is crossed. */
  readonly joist?: { readonly minutes: number; readonly holes: number }
}
const work: Readonly<Record<WayKind, Work>> = {
  cavity: { perMetre: 2, once: 0, holes: 0, openings: 0 },
  stud: { perMetre: 1, once: 7, holes: 1, openings: 1 },
  nogging: { perMetre: 2, once: 7, holes: 1, openings: 1 },
  corner: { perMetre: 1, once: 14, holes: 2, openings: 1 },
  'top-plates': { perMetre: 1, once: 8, holes: 2, openings: 0, two: true },
  'ceiling-hole': { perMetre: 1, once: 6, holes: 1, openings: 0, two: true },
  'sole-plate': { perMetre: 1, once: 7, holes: 2, openings: 0, two: true },
  'floor-hole': { perMetre: 1, once: 6, holes: 1, openings: 0, two: true },
  storey: { perMetre: 2, once: 18, holes: 3, openings: 1 },
  partition: { perMetre: 1, once: 6, holes: 1, openings: 0 },
  // The cable goes over the joists, with a guard strip on either side of it.
  attic: { perMetre: 1.5, once: 0, holes: 0, openings: 0, joist: { minutes: 1, holes: 0 } },
  // Each joist is bored, from below.
  crawl: { perMetre: 2, once: 0, holes: 0, openings: 0, joist: { minutes: 3, holes: 1 } },
  'ceiling-void': { perMetre: 1.8, once: 0, holes: 0, openings: 0 },
  'into-void': { perMetre: 1, once: 5, holes: 1, openings: 0 },
  'void-wall': { perMetre: 1, once: 8, holes: 1, openings: 0 },
  surface: { perMetre: 9, once: 0, holes: 0, openings: 0 },
  'surface-corner': { perMetre: 2, once: 3, holes: 0, openings: 0 },
  emerge: { perMetre: 1, once: 8, holes: 1, openings: 0 },
  cabinets: { perMetre: 5, once: 0, holes: 0, openings: 0 },
  'wall-hole': { perMetre: 1, once: 12, holes: 1, openings: 0 },
  outside: { perMetre: 8, once: 0, holes: 0, openings: 0 },
  'outside-corner': { perMetre: 2, once: 5, holes: 0, openings: 0 },
  'out-hole': { perMetre: 1, once: 14, holes: 1, openings: 0 },
}
/** Whether a kind of way takes somebody aloft, or below, as well as somebody at the wall. */
export const takesTwo = (kind: WayKind): boolean => work[kind].two === true
const minutesFor = ({ once, perMetre, joist }: Work, lengthM: number, across: number, times: number): number =>
  (once + perMetre * lengthM + (joist ? across * joist.minutes : 0)) * times
const holesFor = ({ holes, joist }: Work, across: number): number => holes + (joist ? across * joist.holes : 0)
/** What lies in an attic is so far above the ceiling. */
export const ATTIC_M = 0.1
export interface Ways extends Graph {
  readonly labels: readonly Label[]
  /** Of each edge, which of the labels, and how many joists it crosses. */
  readonly label: Int32Array
  readonly across: Uint16Array
  /** The node of each point and board. */
  readonly of: ReadonlyMap<string, number>
  /** Nodes in and on walls where a box may be, with where that is. */
  readonly boxes: ReadonlyMap<number, BoxSpot>
}
export interface BoxSpot {
  readonly room: string
  readonly side: Side
  /** Along the side, from its west or south end. */
  readonly atM: number
  readonly heightM: number
}

const FIRST = 8192
/** What is known of each edge, column by column; all of them as long as what they have room for. */
const columnsFor = (room: number) => ({
  a: new Int32Array(room),
  b: new Int32Array(room),
  cost: new Float64Array(room),
  label: new Int32Array(room),
  across: new Uint16Array(room),
})
type Columns = ReturnType<typeof columnsFor>

/** A label, where it is among them; one that is not open leads nowhere. */
interface Laid {
  readonly label: Label
  readonly at: number
  readonly open: boolean
}

export interface Mark {
  readonly nodes: number
  readonly edges: number
}
export class Builder {
  at = new Float64Array(3 * FIRST)
  private nodes = 0
  private columns = columnsFor(FIRST)
  private edges = 0
  private readonly labels: Label[] = []
  private readonly labelAt = new Map<string, Laid>()
  /** By the very place they were asked for at, which is looked up faster than its name. */
  private readonly laid = new Map<Where, readonly Laid[]>()
  readonly of = new Map<string, number>()
  readonly boxes = new Map<number, BoxSpot>()
  constructor(
    readonly weights: Weights,
    readonly building: BuildingInput,
    readonly rooms: readonly Room[],
  ) {}
  node(x: number, y: number, z: number): number {
    const n = 3 * this.nodes
    if (n === this.at.length) {
      const more = new Float64Array(2 * n)
      more.set(this.at)
      this.at = more
    }
    this.at[n] = x
    this.at[n + 1] = y
    this.at[n + 2] = z
    return this.nodes++
  }
  place(n: number): Place {
    return placeAt(this, n)
  }
  /** A face that stays closed is neither opened nor bored, on either side of a corner. */
  labelled(kind: WayKind, where: Where, into: Label['into'], times: number): Laid {
    const here = this.laid.get(where) ?? []
    for (const l of here) if (l.label.kind === kind && l.label.into === into && l.label.times === times) return l
    const key = `${kind}\n${into}\n${times}\n${where.side}\n${where.room}\n${where.beyond}\n${where.name}`
    let known = this.labelAt.get(key)
    if (!known) {
      const label = { kind, where, into, times }
      const faces =
        work[kind].openings > 0 || kind === 'emerge' || kind === 'out-hole'
          ? [where.side, kind === 'corner' ? (where.beyond as Side) : null]
          : []
      const open = faces.every((side) => mayOpen(this.building, where.room, side))
      known = { label, at: open ? this.labels.push(label) - 1 : -1, open }
      this.labelAt.set(key, known)
    }
    this.laid.set(where, [...here, known])
    return known
  }
  join(kind: WayKind, where: Where, a: number, b: number, times = 1, into: Label['into'] = null, across = 0): void {
    const { at, open } = this.labelled(kind, where, into, times)
    if (open) this.edge(kind, at, a, b, times, across)
  }
  edge(kind: WayKind, label: number, a: number, b: number, times: number, across: number): void {
    const { at, weights } = this
    const takes = work[kind]
    const lengthM = apart(at, a, b)
    const minutes = minutesFor(takes, lengthM, across, times)
    const i = this.edges++
    if (i === this.columns.a.length) this.reserve(i)
    const { columns: c } = this
    c.a[i] = a
    c.b[i] = b
    c.cost[i] =
      (weights.minute + (takes.two ? weights.second : 0)) * minutes +
      weights.metre * lengthM +
      weights.hole * holesFor(takes, across) +
      weights.opening * takes.openings
    c.label[i] = label
    c.across[i] = across
  }
  /** Room for so many edges more. */
  reserve(edges: number): void {
    if (this.edges + edges <= this.columns.a.length) return
    const [old, more] = [this.columns, columnsFor(this.edges + edges)]
    for (const name of Object.keys(old) as (keyof Columns)[]) more[name].set(old[name])
    this.columns = more
  }
  /** How far it is laid; what is laid after that can be taken up again. */
  get mark(): Mark {
    return { nodes: this.nodes, edges: this.edges }
  }
  backTo({ nodes, edges }: Mark): void {
    this.nodes = nodes
    this.edges = edges
  }
  get ways(): Ways {
    const { columns: c, edges, nodes, labels, of, boxes } = this
    return {
      at: this.at.subarray(0, 3 * nodes),
      nodes,
      a: c.a.subarray(0, edges),
      b: c.b.subarray(0, edges),
      cost: c.cost.subarray(0, edges),
      edges,
      labels,
      label: c.label.subarray(0, edges),
      across: c.across.subarray(0, edges),
      of,
      boxes,
    }
  }
}

const apart = (at: Float64Array, a: number, b: number): number => {
  const dx = at[3 * a]! - at[3 * b]!
  const dy = at[3 * a + 1]! - at[3 * b + 1]!
  const dz = at[3 * a + 2]! - at[3 * b + 2]!
  return Math.sqrt(dx * dx + dy * dy + dz * dz)
}
export const labelOf = ({ labels, label }: Ways, edge: number): Label => labels[label[edge]!]!
/** What an edge takes. */
export interface Taken {
  readonly lengthM: number
  readonly minutes: number
  readonly holes: number
  readonly openings: number
}
export function takenBy(ways: Ways, edge: number): Taken {
  const { kind, times } = labelOf(ways, edge)
  const across = ways.across[edge]!
  const lengthM = apart(ways.at, ways.a[edge]!, ways.b[edge]!)
  const takes = work[kind]
  return { lengthM, minutes: minutesFor(takes, lengthM, across, times), holes: holesFor(takes, across), openings: takes.openings }
}

export const onWall = (room: string, side: Side): Where => ({ name: `${room} ${side}`, room, side, beyond: null })
export const roundCorner = (room: string, side: Side, next: Side): Where => ({
  name: `${room} ${side} to ${next}`,
  room,
  side,
  beyond: next,
})
export const between = (room: string, beyond: string, side: Side | null): Where => ({ name: `${room} to ${beyond}`, room, side, beyond })
/**
 * The walls that a part goes through or along, by name: of a hole between two rooms the faces on both sides of it, of a storey the wall
 * below and the one on it, of a corner the two that meet there.
 */
export function wallsOf(kind: WayKind, { room, side, beyond }: Omit<Where, 'name'>): readonly string[] {
  if (room === null || side === null) return []
  const own = onWall(room, side).name
  if (beyond === null) return [own]
  if (kind === 'storey') return [own, onWall(beyond, side).name]
  return [own, isSide(beyond) ? onWall(room, beyond).name : onWall(beyond, opposite[side]).name]
}
const isSide = (text: string): text is Side => (sides as readonly string[]).includes(text)
export const inSpace = (name: 'attic' | 'crawl'): Where => ({ name, room: null, side: null, beyond: null })
