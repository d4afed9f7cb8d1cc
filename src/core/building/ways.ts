import {
  along,
  baysOf,
  builtOf,
  covers,
  type BuildingInput,
  type Fixture,
  type Gap,
  gapsIn,
  headOver,
  HOT_CLEAR_M,
  joistsCrossed,
  mayOpen,
  noggingOf,
  type Obstacle,
  type Open,
  openIn,
  openRooms,
  opensOf,
  opposite,
  type Overhead,
  type Room,
  type Side,
  sides,
  SOLID_BAY_M,
} from './house'
import { endsOf, onOuterFace, type OuterWall, outerWalls, standsOutside } from './outside'
import { distance, type Graph, type Place, placeAt } from './search'

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

/** What edges have in common that are one thing to do in one place: they are named, forbidden, forced and told by it. */
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
/** Where one cannot stand; and where nobody reaches. */
const STANDING_M = 1.7
const REACHED_M = 0.1
/** Height of what runs along a wall between the floor and the head. */
const MID_M = 0.45

export interface Ways extends Graph {
  readonly labels: readonly Label[]
  /** Of each edge, which of the labels, and how many joists it crosses. */
  readonly label: Int32Array
  readonly across: Uint16Array
  /** The node of each point and board. */
  readonly of: ReadonlyMap<string, number>
  /** Nodes in and on walls where a box may stand, with where that is. */
  readonly boxes: ReadonlyMap<number, BoxSpot>
}
interface BoxSpot {
  readonly room: string
  readonly side: Side
  /** Along the side, from its west or south end. */
  readonly atM: number
  readonly heightM: number
}

/** Three heights of a wall; null where an opening is. */
interface Heights {
  readonly foot: number | null
  readonly mid: number | null
  readonly head: number
}
interface Bay {
  /** Inside the wall; null of a solid one. */
  readonly cavity: Heights | null
  /** On its face, as far from it as a conduit is. */
  readonly face: Heights
  /** Behind a base cabinet that stands before it, at the floor; null: none does. */
  readonly behind: number | null
  readonly room: Room
  readonly side: Side
  readonly atM: number
  /** From stud to stud along its side. */
  readonly fromM: number
  readonly toM: number
  readonly midM: number
  /** How high a nogging stands in it; null: none does, as far as is known. */
  readonly noggingM: number | null
  /** Whether nothing stands in it between two heights above its floor; and whether nothing stands before its face. */
  readonly clear: (low: number, high: number) => boolean
  readonly clearFace: (low: number, high: number) => boolean
  /** And on its outer face, of an outer wall. */
  readonly clearOut: (low: number, high: number) => boolean
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

class Builder {
  at = new Float64Array(3 * FIRST)
  private nodes = 0
  private columns = columnsFor(FIRST)
  private edges = 0
  private readonly labels: Label[] = []
  private readonly labelAt = new Map<string, { readonly at: number; readonly open: boolean }>()
  private last: { readonly label: Label; readonly at: number; readonly open: boolean } | null = null
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
  labelled(kind: WayKind, where: Where, into: Label['into'], times: number): { readonly at: number; readonly open: boolean } {
    const { last } = this
    if (last?.label.where === where && last.label.kind === kind && last.label.into === into && last.label.times === times) return last
    const key = `${kind}\n${into}\n${times}\n${where.side}\n${where.room}\n${where.beyond}\n${where.name}`
    let known = this.labelAt.get(key)
    const label = { kind, where, into, times }
    if (!known) {
      const faces =
        work[kind].openings > 0 || kind === 'emerge' || kind === 'out-hole'
          ? [where.side, kind === 'corner' ? (where.beyond as Side) : null]
          : []
      const open = faces.every((side) => mayOpen(this.building, where.room, side))
      known = { at: open ? this.labels.push(label) - 1 : -1, open }
      this.labelAt.set(key, known)
    }
    this.last = { label, ...known }
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

const onWall = (room: string, side: Side): Where => ({ name: `${room} ${side}`, room, side, beyond: null })
const roundCorner = (room: string, side: Side, next: Side): Where => ({ name: `${room} ${side} to ${next}`, room, side, beyond: next })
const between = (room: string, beyond: string, side: Side | null): Where => ({ name: `${room} to ${beyond}`, room, side, beyond })
const inSpace = (name: 'attic' | 'crawl'): Where => ({ name, room: null, side: null, beyond: null })

/** The graph of ways of a building whose rooms are placed. */
export function waysOf(building: BuildingInput, rooms: readonly Room[], weights: Weights): Ways {
  const b = new Builder(weights, building, rooms)
  const opens = opensOf(building, rooms)
  const bays = rooms.flatMap((room) => walls(b, room, opens))
  acrossOpens(b, bays, opens, building.walls.kind === 'timber' ? building.walls.studM : SOLID_BAY_M)
  partitions(b, bays)
  storeys(b, bays)
  const ceilings = onCeilings(b, bays, rooms)
  for (const space of ['attic', 'crawl'] as const) if (building[space]) openSpace(b, bays, rooms, space, ceilings)
  voids(b, bays, rooms, ceilings)
  const outer = outsides(b, bays)
  for (const f of [...building.points, ...building.boards])
    if ('side' in f) (f.outside ? fixtureOutside : fixture)(b, bays, f, opens, outer)
  return b.ways
}

/** Whether nothing stands in a stretch of wall between two heights. */
const free = (gaps: readonly Gap[], fromM: number, toM: number, low: number, high: number): boolean =>
  !gaps.some((g) => g.fromM < toM - 1e-9 && g.toM > fromM + 1e-9 && g.sillM < high + 1e-9 && g.headM > low + 1e-9)

/** The bays of each side of a room, joined up, along and round the corners; none where there is no wall. */
function walls(b: Builder, room: Room, opens: readonly Open[]): Bay[] {
  const bySide = sides.map((side) => {
    const gaps = gapsIn(b.building, b.rooms, room, side)
    const open = openIn(opens, room, side)
    const bounds = endedAt(baysOf(b.building, b.rooms, room, side), open)
    const bays = bounds.slice(1).map((to, i): Bay | null => {
      const atM = (bounds[i]! + to) / 2
      return open.some((o) => atM > o.fromM && atM < o.toM) ? null : bayOf(b, room, side, [bounds[i]!, to], gaps)
    })
    joinBays(b, onWall(room.id, side), bays)
    return bays
  })
  corners(b, room, bySide)
  return bySide.flat().filter((bay) => bay !== null)
}

/** A wall ends where it is open, and its last bay with it. */
function endedAt(bounds: readonly number[], open: readonly { readonly fromM: number; readonly toM: number }[]): readonly number[] {
  if (open.length === 0) return bounds
  const whole = bounds.at(-1)!
  const ends = open.flatMap((o) => [o.fromM, o.toM]).filter((m) => m > LEAST_WALL_M && m < whole - LEAST_WALL_M)
  const inner = bounds.slice(1, -1).filter((m) => ends.every((e) => Math.abs(e - m) > LEAST_WALL_M))
  return [0, ...[...inner, ...ends].toSorted((p, q) => p - q), whole]
}
/** A stretch of wall shorter than this is none. */
const LEAST_WALL_M = 0.02

/** A bay from stud to stud, with what stands in it and before it. */
function bayOf(b: Builder, room: Room, side: Side, [fromM, toM]: readonly [number, number], gaps: readonly Gap[]): Bay {
  const atM = (fromM + toM) / 2
  const midM = Math.min(MID_M, (room.head - room.foot) / 2)
  const clearOf = (those: readonly Gap[]) => (low: number, high: number) => free(those, fromM, toM, low, high)
  const onFace = gaps.filter((g) => g.what !== 'hidden')
  const [clear, clearFace] = [clearOf(gaps.filter((g) => g.what !== 'cabinets')), clearOf(onFace)]
  const heights = (aside: number, is: Bay['clear']): Heights => {
    const [x, y] = inward(room, side, atM, aside)
    const foot = is(0, 0) ? b.node(x, y, room.foot) : null
    const mid = is(midM, midM) ? b.node(x, y, room.foot + midM) : null
    // Into a wall whose face stays closed no box is cut.
    if (mid !== null && (aside > 0 || mayOpen(b.building, room.id, side))) b.boxes.set(mid, { room: room.id, side, atM, heightM: midM })
    return {
      foot,
      mid,
      head: b.node(x, y, room.head),
    }
  }
  // There is room for a cable behind cabinets, where nothing else stands at the floor.
  const atFloor = onFace.filter((g) => g.fromM < toM - 1e-9 && g.toM > fromM + 1e-9 && g.sillM < midM)
  const led = atFloor.length > 0 && atFloor.every((g) => g.what === 'cabinets')
  return {
    cavity: builtOf(b.building, b.rooms, room, side).kind === 'timber' ? heights(0, clear) : null,
    face: heights(FACE_M, clearFace),
    behind: led ? b.node(...inward(room, side, atM, FACE_M), room.foot) : null,
    room,
    side,
    atM,
    fromM,
    toM,
    midM,
    noggingM: noggingOf(b.building, b.rooms, room, side),
    clear,
    clearFace,
    clearOut: clearOf(gaps.filter((g) => g.what !== 'hidden' && g.what !== 'cabinets' && g.what !== 'stairs')),
  }
}

/** How far what lies on a wall is from the middle of it. */
const FACE_M = 0.06
function inward(r: Room, side: Side, atM: number, by: number): readonly [number, number] {
  const [x, y] = along(r, side, atM)
  if (side === 'north') return [x, y - by]
  if (side === 'south') return [x, y + by]
  return side === 'east' ? [x - by, y] : [x + by, y]
}

/** What leads from one height of a bay to another inside the wall: past a nogging it is bored. */
const past = ({ noggingM }: Bay, kind: 'surface' | 'cavity', low: number, high: number): WayKind =>
  kind === 'cavity' && noggingM !== null && noggingM > low && noggingM <= high ? 'nogging' : kind

function joinBays(b: Builder, where: Where, bays: readonly (Bay | null)[]): void {
  const upright = (kind: 'surface' | 'cavity', { foot, mid, head }: Heights, bay: Bay) => {
    const { midM, room } = bay
    const clear = kind === 'cavity' ? bay.clear : bay.clearFace
    const tall = room.head - room.foot
    if (foot !== null && mid !== null && clear(0, midM)) b.join(past(bay, kind, 0, midM), where, foot, mid)
    if (mid !== null && clear(midM, tall)) b.join(past(bay, kind, midM, tall), where, mid, head)
  }
  for (const [i, bay] of bays.entries()) {
    if (!bay) continue
    const { cavity, face } = bay
    upright('surface', face, bay)
    if (cavity) {
      upright('cavity', cavity, bay)
      const out = face.mid ?? bay.behind
      if (cavity.mid !== null && out !== null) b.join('emerge', where, cavity.mid, out)
    }
    const next = bays[i + 1]
    if (next) besideEachOther(b, ['stud', 'surface'], where, bay, next)
  }
}

/** Two bays that follow each other, along a wall or round a corner. */
function besideEachOther(b: Builder, [inside, on]: readonly [WayKind, WayKind], where: Where, p: Bay, q: Bay): void {
  if (p.cavity?.mid != null && q.cavity?.mid != null) b.join(inside, where, p.cavity.mid, q.cavity.mid)
  if (p.face.foot !== null && q.face.foot !== null) b.join(on, where, p.face.foot, q.face.foot)
  b.join(on, where, p.face.head, q.face.head)
  // Into the cabinets, from one to the next, and out of them again.
  const [from, to] = [p.behind ?? p.face.foot, q.behind ?? q.face.foot]
  if ((p.behind !== null || q.behind !== null) && from !== null && to !== null) b.join('cabinets', where, from, to)
}

/** Which end of each side meets which end of the next, going round. */
function corners(b: Builder, room: Room, [north, east, south, west]: readonly (Bay | null)[][]): void {
  const pairs = [
    [north!.at(-1)!, east!.at(-1)!],
    [east![0]!, south!.at(-1)!],
    [south![0]!, west![0]!],
    [west!.at(-1)!, north![0]!],
  ] as const
  for (const [p, q] of pairs) if (p && q) besideEachOther(b, ['corner', 'surface-corner'], roundCorner(room.id, p.side, q.side), p, q)
}

/** Where two parts of a room meet, the walls of one go on in those of the other: straight on, or round a corner. */
function acrossOpens(b: Builder, bays: readonly Bay[], opens: readonly Open[], pitchM: number): void {
  for (const { rooms, side, fromM, toM } of opens)
    for (const end of [fromM, toM]) {
      const at = along(rooms[0], side, end)
      /** The bay of each side of a room that ends where the wall between them does. */
      const ending = (room: Room) =>
        sides.flatMap((s) => {
          const near = bays
            .filter((bay) => bay.room.id === room.id && bay.side === s)
            .map((bay) => ({ bay, far: Math.hypot(...([0, 1] as const).map((k) => b.place(bay.face.head)[k] - at[k])) }))
            .toSorted((p, q) => p.far - q.far)[0]
          return near && near.far < pitchM ? [near.bay] : []
        })
      for (const p of ending(rooms[0]))
        for (const q of ending(rooms[1])) {
          if (p.side === opposite[q.side]) continue
          if (p.side === q.side) besideEachOther(b, ['stud', 'surface'], onWall(p.room.id, p.side), p, q)
          else besideEachOther(b, ['corner', 'surface-corner'], roundCorner(p.room.id, p.side, q.side), p, q)
        }
    }
}

/** Bays of two rooms that are the two sides of one wall. */
function facing(b: Builder, bays: readonly Bay[]): readonly (readonly [Bay, Bay])[] {
  const stands = (bay: Bay) => ({ bay, at: b.place(bay.face.head) })
  const south = bays.filter((bay) => bay.side === 'south').map(stands)
  const west = bays.filter((bay) => bay.side === 'west').map(stands)
  return bays.flatMap((bay) => {
    if (bay.side !== 'north' && bay.side !== 'east') return []
    const place = b.place(bay.face.head)
    let [near, least]: [Bay | null, number] = [null, FACING_M]
    for (const { bay: o, at } of bay.side === 'north' ? south : west) {
      if (o.room === bay.room || o.room.floor !== bay.room.floor) continue
      const far = distance(place, at)
      if (far < least) [near, least] = [o, far]
    }
    return near ? [[bay, near] as const] : []
  })
}
/** The faces of one wall lie nearer to each other than this. */
const FACING_M = 0.45

/** A wall between two rooms is one wall: its bays are reached from either. */
function partitions(b: Builder, bays: readonly Bay[]): void {
  for (const [bay, near] of facing(b, bays)) {
    const where = between(bay.room.id, near.room.id, bay.side)
    if (bay.cavity?.mid != null && near.cavity?.mid != null) b.join('partition', where, bay.cavity.mid, near.cavity.mid)
    else if (bay.face.mid !== null && near.face.mid !== null) b.join('wall-hole', where, bay.face.mid, near.face.mid)
  }
}

/** From the head of a wall to the foot of the one that stands on it. */
function storeys(b: Builder, bays: readonly Bay[]): void {
  const feet = bays.flatMap((above) => {
    const { foot } = above.cavity ?? above.face
    return foot === null ? [] : [{ above, foot, at: b.place(foot) }]
  })
  for (const bay of bays) {
    const { head } = bay.cavity ?? bay.face
    const [x, y] = b.place(head)
    for (const { above, foot, at } of feet)
      if (above.room.floor === bay.room.floor + 1 && Math.sqrt((x - at[0]) ** 2 + (y - at[1]) ** 2) < 0.35)
        b.join('storey', between(bay.room.id, above.room.id, bay.side), head, foot)
  }
}

/** Attic or crawl space: a grid over the rooms it lies above or below, reached through the plates of their walls. */
function openSpace(b: Builder, bays: readonly Bay[], rooms: readonly Room[], space: 'attic' | 'crawl', ceilings: readonly OnRoom[]): void {
  const up = space === 'attic'
  const headAt = up ? headOver(b.building, rooms) : () => b.building.crawl!.headM
  const hot = up && b.building.attic!.hot ? b.weights.hot : 1
  const cramped = (x: number, y: number) => headAt(x, y) < STANDING_M
  const { gridM } = b.building
  const open = openRooms(rooms, up)
  const [west, south] = [Math.min(...rooms.map((r) => r.west)), Math.min(...rooms.map((r) => r.south))]
  const [east, north] = [Math.max(...rooms.map((r) => r.east)), Math.max(...rooms.map((r) => r.north))]
  const barred = barredIn(b, rooms, space)
  // A row of the grid after another; -1 where nothing is to be walked on.
  const wide = Math.ceil((east - west) / gridM) + 3
  const tall = Math.ceil((north - south) / gridM) + 3
  const grid = new Int32Array(wide * tall).fill(-1)
  for (const r of open) {
    const z = up ? r.head + ATTIC_M : r.foot - 0.3
    for (let j = Math.ceil((r.south - south) / gridM - 1e-9); south + j * gridM < r.north + 1e-9; j++)
      for (let i = Math.ceil((r.west - west) / gridM - 1e-9); west + i * gridM < r.east + 1e-9; i++) {
        const [x, y] = [west + i * gridM, south + j * gridM]
        if (grid[j * wide + i] === -1 && headAt(x, y) >= REACHED_M && !barred(x, y, x, y)) grid[j * wide + i] = b.node(x, y, z)
      }
  }
  const crossed = joistsCrossed(b.building, rooms, open)
  const strides = [1, wide, wide + 1, 1 - wide]
  b.reserve(strides.length * grid.reduce((count, n) => (n < 0 ? count : count + 1), 0))
  const lain = [1, b.weights.cramped].map((tight) => ({
    times: tight * hot,
    label: b.labelled(space, inSpace(space), null, tight * hot).at,
  }))
  for (let at = 0; at < grid.length; at++) {
    const here = grid[at]!
    if (here < 0) continue
    const x = b.at[3 * here]!
    const y = b.at[3 * here + 1]!
    const tight = cramped(x, y)
    for (let k = 0; k < strides.length; k++) {
      const to = at + strides[k]!
      const there = to < 0 || to >= grid.length ? -1 : grid[to]!
      if (there < 0) continue
      const u = b.at[3 * there]!
      const v = b.at[3 * there + 1]!
      if (barred(x, y, u, v)) continue
      const { label, times } = lain[tight || cramped(u, v) ? 1 : 0]!
      b.edge(space, label, here, there, times, crossed(x, y, u, v).length)
    }
  }
  /** The grid's place nearest to a node under or over it. */
  const gridAt = (n: number): number | undefined => {
    const [x, y] = b.place(n)
    if (!open.some((r) => covers(r, x, y))) return undefined
    const at = Math.floor((y - south) / gridM) * wide + Math.floor((x - west) / gridM)
    const around = [at, at + 1, at + wide, at + wide + 1].flatMap((k) =>
      grid[k]! >= 0 && !barred(x, y, b.at[3 * grid[k]!]!, b.at[3 * grid[k]! + 1]!) ? [grid[k]!] : [],
    )
    return around.toSorted((p, q) => distance(b.place(p), b.place(n)) - distance(b.place(q), b.place(n)))[0]
  }
  const through = (kind: WayKind, place: Where, end: number | null | undefined) => {
    const at = end == null ? undefined : gridAt(end)
    if (at === undefined) return
    const [x, y] = b.place(end!)
    b.join(kind, place, end!, at, up ? (cramped(x, y) ? b.weights.cramped : 1) * hot : 1, space)
  }
  for (const { room, side, cavity, face } of bays) {
    if (!open.includes(room)) continue
    const wall = onWall(room.id, side)
    through(up ? 'top-plates' : 'sole-plate', wall, up ? cavity?.head : cavity?.foot)
    through(up ? 'ceiling-hole' : 'floor-hole', wall, up ? face.head : face.foot)
  }
  for (const { room, node, underfoot } of ceilings) {
    if (!open.includes(room) || underfoot === up || (up && room.voidM !== null)) continue
    through(up ? 'ceiling-hole' : 'floor-hole', up ? onCeiling(room.id) : onFloor(room.id), node)
  }
}

/** A cable keeps so far from what stands in an attic or under a floor. */
const CLEAR_M = 0.02
/** Whether a straight piece of cable in a space, from x and y to p and q, would go through something that stands there. */
function barredIn(
  { building }: Builder,
  rooms: readonly Room[],
  space: Obstacle['space'],
): (x: number, y: number, p: number, q: number) => boolean {
  const those = building.obstacles.flatMap((o) => {
    const room = o.space === space ? rooms.find((r) => r.id === o.room) : undefined
    if (!room) return []
    const [west, south] = [room.west + o.eastM, room.south + o.northM]
    const clear = o.hot ? HOT_CLEAR_M : CLEAR_M
    return [{ west: west - clear, south: south - clear, east: west + o.lengthM + clear, north: south + o.widthM + clear }]
  })
  return (x, y, p, q) => {
    for (let i = 0; i < those.length; i++) if (crosses(those[i]!, x, y, p, q)) return true
    return false
  }
}
/** Whether a straight line touches the inside of a rectangle. */
function crosses(r: Pick<Room, 'west' | 'south' | 'east' | 'north'>, x: number, y: number, p: number, q: number): boolean {
  if (Math.max(x, p) <= r.west || Math.min(x, p) >= r.east || Math.max(y, q) <= r.south || Math.min(y, q) >= r.north) return false
  let [from, to] = [0, 1]
  for (const [at, by, low, high] of [
    [x, p - x, r.west, r.east],
    [y, q - y, r.south, r.north],
  ] as const) {
    if (Math.abs(by) < 1e-12) {
      if (at <= low + 1e-9 || at >= high - 1e-9) return false
      continue
    }
    const [a, b] = [(low - at) / by, (high - at) / by]
    from = Math.max(from, Math.min(a, b))
    to = Math.min(to, Math.max(a, b))
  }
  return from < to - 1e-9
}

const onCeiling = (room: string): Where => ({ name: `${room} ceiling`, room, side: null, beyond: null })
const onFloor = (room: string): Where => ({ name: `${room} floor`, room, side: null, beyond: null })
/** A point that stands at no wall. */
interface OnRoom {
  readonly room: Room
  readonly node: number
  readonly underfoot: boolean
}
/** A point on a ceiling: reached over its face from the head of each wall, and from what lies above; one out of the floor from below. */
function onCeilings(b: Builder, bays: readonly Bay[], rooms: readonly Room[]): readonly OnRoom[] {
  const overhead = b.building.points.filter((p): p is Overhead => !('side' in p))
  return overhead.flatMap((p): OnRoom[] => {
    const room = rooms.find((r) => r.id === p.room)
    if (!room) return []
    const [x, y] = [Math.min(room.west + p.eastM, room.east), Math.min(room.south + p.northM, room.north)]
    const underfoot = p.underfoot === true
    const node = b.node(x, y, underfoot ? room.foot : room.head)
    b.of.set(p.id, node)
    if (underfoot) return [{ room, node, underfoot }]
    for (const side of sides) {
      const own = bays.filter((bay) => bay.room === room && bay.side === side)
      const at = side === 'north' || side === 'south' ? x - room.west : y - room.south
      const bay = own.toSorted((m, n) => Math.abs(m.atM - at) - Math.abs(n.atM - at))[0]
      if (bay) b.join('surface', onCeiling(room.id), node, bay.face.head)
    }
    return [{ room, node, underfoot }]
  })
}

/** Above suspended ceilings: a grid over each room, reached from its walls and ceiling points; through the walls between two of them. */
function voids(b: Builder, bays: readonly Bay[], rooms: readonly Room[], ceilings: readonly OnRoom[]): void {
  const grids = new Map(rooms.flatMap((r) => (r.voidM === null ? [] : [[r, voidOver(b, r)] as const])))
  if (grids.size === 0) return
  const nearest = (room: Room, n: number): number | undefined => {
    const at = b.place(n)
    return grids.get(room)?.toSorted((p, q) => distance(b.place(p), at) - distance(b.place(q), at))[0]
  }
  const into = (room: Room, where: Where, n: number) => {
    const at = nearest(room, n)
    if (at !== undefined) b.join('into-void', where, n, at)
  }
  for (const { room, side, cavity, face } of bays) {
    into(room, onWall(room.id, side), face.head)
    if (cavity) into(room, onWall(room.id, side), cavity.head)
  }
  for (const { room, node, underfoot } of ceilings) if (!underfoot) into(room, onCeiling(room.id), node)
  for (const [bay, near] of facing(b, bays)) {
    const [p, q] = [nearest(bay.room, bay.face.head), nearest(near.room, near.face.head)]
    if (p !== undefined && q !== undefined) b.join('void-wall', between(bay.room.id, near.room.id, bay.side), p, q)
  }
}
/** The nodes over one suspended ceiling, joined. */
function voidOver(b: Builder, room: Room): readonly number[] {
  const { gridM } = b.building
  const steps = (m: number) => Math.max(1, Math.round(m / gridM))
  const [wide, deep] = [steps(room.east - room.west), steps(room.north - room.south)]
  const where: Where = { name: `${room.id} void`, room: room.id, side: null, beyond: null }
  const at = (i: number, j: number) => i * (deep + 1) + j
  const nodes = Array.from({ length: (wide + 1) * (deep + 1) }, (_, k) => {
    const [i, j] = [Math.floor(k / (deep + 1)), k % (deep + 1)]
    const [x, y] = [room.west + ((room.east - room.west) * i) / wide, room.south + ((room.north - room.south) * j) / deep]
    return b.node(x, y, room.head + VOID_M)
  })
  for (let i = 0; i <= wide; i++)
    for (let j = 0; j <= deep; j++) {
      if (i < wide) b.join('ceiling-void', where, nodes[at(i, j)]!, nodes[at(i + 1, j)]!)
      if (j < deep) b.join('ceiling-void', where, nodes[at(i, j)]!, nodes[at(i, j + 1)]!)
    }
  return nodes
}
/** What lies above a suspended ceiling is so far above its tiles. */
const VOID_M = 0.05

/** A bay of an outer wall with the places on its outer face, at the middle and at the head of what is open there. */
interface OuterBay {
  readonly bay: Bay
  readonly mid: number | null
  readonly head: number
}
/** Along the outside of the walls, over doors and under windows, and round the corners; through each bay to the inside. */
function outsides(b: Builder, bays: readonly Bay[]): readonly OuterBay[] {
  if (!b.building.outside) return []
  const ends: { readonly wall: OuterWall; readonly mid: number; readonly head: number }[] = []
  const all = outerWalls(b.rooms).flatMap((wall): OuterBay[] => {
    const { room, side, fromM, toM } = wall
    const where = onWall(room.id, side)
    const midM = Math.min(MID_M, (room.head - room.foot) / 2)
    const tall = room.head - room.foot
    const stand = (x: number, y: number, heightM: number) => b.node(x, y, room.foot + heightM)
    const own = bays
      .filter((bay) => bay.room === room && bay.side === side && bay.atM > fromM && bay.atM < toM)
      .map((bay): OuterBay => {
        const [x, y] = onOuterFace(room, side, bay.atM)
        return { bay, mid: bay.clearOut(midM, midM) ? stand(x, y, midM) : null, head: stand(x, y, tall) }
      })
    for (const { bay, mid, head } of own) {
      if (mid === null) continue
      if (bay.clearOut(midM, tall)) b.join('outside', where, mid, head)
      const within = bay.cavity ? bay.cavity.mid : bay.face.mid
      if (within !== null) b.join('out-hole', where, within, mid)
    }
    const [first, last] = endsOf(wall, b.rooms).map(([x, y]) => ({ wall, mid: stand(x, y, midM), head: stand(x, y, tall) }))
    ends.push(first!, last!)
    const chain = [first!, ...own, last!]
    for (const [i, q] of chain.entries()) {
      const p = chain[i - 1]
      if (!p) continue
      if (p.mid !== null && q.mid !== null) b.join('outside', where, p.mid, q.mid)
      b.join('outside', where, p.head, q.head)
    }
    for (const end of [first!, last!]) b.join('outside', where, end.mid, end.head)
    return own
  })
  for (const [i, p] of ends.entries())
    for (const q of ends.slice(i + 1)) {
      const [[x, y], [u, v]] = [b.place(p.head), b.place(q.head)]
      const [room, other] = [p.wall.room, q.wall.room]
      if (Math.abs(other.floor - room.floor) > 1 || Math.hypot(x - u, y - v) > ROUND_M) continue
      const [low, high] = room.floor > other.floor ? [q, p] : [p, q]
      if (room.floor !== other.floor) {
        if (low.wall.side === high.wall.side) b.join('outside', onWall(high.wall.room.id, high.wall.side), low.head, high.mid)
        continue
      }
      const on = p.wall.side === q.wall.side
      const where = on ? onWall(room.id, p.wall.side) : roundCorner(room.id, p.wall.side, q.wall.side)
      for (const at of ['mid', 'head'] as const) b.join(on ? 'outside' : 'outside-corner', where, p[at], q[at])
    }
  return all
}
/** Ends of outer faces that are so near to each other go on in each other. */
const ROUND_M = 0.4

/** A point on the outer face: reached along it, or straight through the wall. */
function fixtureOutside(b: Builder, bays: readonly Bay[], f: Fixture, _: readonly Open[], outer: readonly OuterBay[]): void {
  const room = b.rooms.find((r) => r.id === f.room)
  const behind = (bay: Bay) => bay.room.id === f.room && bay.side === f.side
  if (!room || !standsOutside(b.rooms, f)) return
  const n = b.node(...onOuterFace(room, f.side, f.atM), room.foot + f.heightM)
  b.of.set(f.id, n)
  const where = onWall(f.room, f.side)
  const nearest = <T>(list: readonly T[], bayOf: (t: T) => Bay) =>
    list.filter((t) => behind(bayOf(t))).toSorted((p, q) => Math.abs(bayOf(p).atM - f.atM) - Math.abs(bayOf(q).atM - f.atM))[0]
  const at = nearest(outer, (o) => o.bay)
  for (const to of at ? [at.mid, at.head] : []) if (to !== null) b.join('outside', where, n, to)
  const bay = nearest(bays, (x) => x)
  const within = bay && (bay.cavity ?? bay.face)
  if (within) b.join('out-hole', where, within.mid ?? within.head, n)
}

/** A point or a board stands in the bay it is in, at its own height. */
function fixture(b: Builder, bays: readonly Bay[], f: Fixture, opens: readonly Open[]): void {
  const room = b.rooms.find((r) => r.id === f.room)
  // Where there is no wall nothing stands at one.
  if (!room || openIn(opens, room, f.side).some((o) => f.atM > o.fromM + 1e-9 && f.atM < o.toM - 1e-9)) return
  const own = bays.filter((bay) => bay.room.id === f.room && bay.side === f.side)
  const aside = (bay: Bay) => Math.max(bay.fromM - f.atM, f.atM - bay.toM, 0)
  const bay = own.toSorted((p, q) => aside(p) - aside(q) || Math.abs(p.atM - f.atM) - Math.abs(q.atM - f.atM))[0]
  if (!bay) return
  const wall = bay.cavity ?? bay.face
  const [x, y] = inward(bay.room, f.side, f.atM, bay.cavity ? 0 : FACE_M)
  const n = b.node(x, y, bay.room.foot + f.heightM)
  b.of.set(f.id, n)
  // What is in a cabinet is reached behind it.
  if (bay.behind !== null && !bay.clearFace(f.heightM, f.heightM)) b.join('cabinets', onWall(f.room, f.side), n, bay.behind)
  // Up or down its bay, past nothing that stands in it.
  const ends = [
    [wall.foot, 0],
    [wall.mid, bay.midM],
    [wall.head, bay.room.head - bay.room.foot],
  ] as const
  const kind = bay.cavity ? 'cavity' : 'surface'
  for (const [to, heightM] of ends) {
    const [low, high] = [Math.min(heightM, f.heightM), Math.max(heightM, f.heightM)]
    if (to !== null && (bay.cavity ? bay.clear : bay.clearFace)(low, high))
      b.join(past(bay, kind, low, high), onWall(f.room, f.side), n, to)
  }
}
