import { type Bay, facing } from './bays'
import {
  covers,
  countUpTo,
  headOver,
  HOT_CLEAR_M,
  joistsCrossed,
  joistsMade,
  joistsOf,
  type Obstacle,
  openRooms,
  type Overhead,
  type Room,
  sides,
} from './house'
import { distance } from './search'
import { ATTIC_M, between, inSpace, Builder, onWall, type WayKind, type Where } from './ways'

/* Attic, crawl space, and what lies above suspended ceilings. */

/** Where one cannot stand; and where nobody reaches. */
const STANDING_M = 1.7
const REACHED_M = 0.1
/** Places that are walked on in an attic or a crawl space, a row from the west after another from the south. */
interface Grid {
  readonly west: number
  readonly south: number
  readonly wide: number
  /** The node of each place; -1 where nobody gets. */
  readonly node: Int32Array
  /** Which of the open rooms it belongs to, and whether one cannot stand there. */
  readonly owner: Int16Array
  readonly tight: Uint8Array
}
type Barred = (x: number, y: number, p: number, q: number) => boolean

function gridOver(
  b: Builder,
  rooms: readonly Room[],
  open: readonly Room[],
  levelOf: (r: Room) => number,
  headAt: (x: number, y: number) => number,
  barred: Barred | null,
): Grid {
  const { gridM } = b.building
  const [west, south] = [Math.min(...rooms.map((r) => r.west)), Math.min(...rooms.map((r) => r.south))]
  const [east, north] = [Math.max(...rooms.map((r) => r.east)), Math.max(...rooms.map((r) => r.north))]
  const wide = Math.ceil((east - west) / gridM) + 3
  const size = wide * (Math.ceil((north - south) / gridM) + 3)
  const grid: Grid = { west, south, wide, node: new Int32Array(size).fill(-1), owner: new Int16Array(size), tight: new Uint8Array(size) }
  for (const [owner, r] of open.entries()) {
    const z = levelOf(r)
    for (let j = Math.ceil((r.south - south) / gridM - 1e-9); south + j * gridM < r.north + 1e-9; j++)
      for (let i = Math.ceil((r.west - west) / gridM - 1e-9); west + i * gridM < r.east + 1e-9; i++) {
        const at = j * wide + i
        const x = west + i * gridM
        const y = south + j * gridM
        const headM = headAt(x, y)
        if (grid.node[at] !== -1 || headM < REACHED_M || barred?.(x, y, x, y)) continue
        grid.node[at] = b.node(x, y, z)
        grid.owner[at] = owner
        grid.tight[at] = headM < STANDING_M ? 1 : 0
      }
  }
  return grid
}

/** How many joists are crossed between two places of a grid that are next to each other: from a column and a row so many over and up. */
type Crossed = (at: number, to: number, column: number, row: number, over: number, up: number) => number
function joistsOnGrid(b: Builder, rooms: readonly Room[], open: readonly Room[], grid: Grid): Crossed | null {
  const { building, at: places } = b
  const { gridM } = building
  const { west, south, wide, node, owner } = grid
  const exactly = joistsCrossed(building, rooms, open)
  if (!exactly) return null
  const tall = node.length / wide
  /** Within one room: of each row, or each column, how many lie between it and the next. */
  const between = open.map((room) => {
    const northward = joistsMade(building, room)?.runs === 'east'
    const [from, count] = northward ? [south, tall] : [west, wide]
    const upTo = countUpTo(joistsOf(building, rooms, room))
    return { northward, each: Uint8Array.from({ length: count }, (_, k) => upTo(from + (k + 1) * gridM) - upTo(from + k * gridM)) }
  })
  return (at, to, i, j, over, up) => {
    const of = owner[at]!
    if (of === owner[to]) {
      const { northward, each } = between[of]!
      if (northward) return up === 0 ? 0 : each[up < 0 ? j - 1 : j]!
      return over === 0 ? 0 : each[over < 0 ? i - 1 : i]!
    }
    const [p, q] = [3 * node[at]!, 3 * node[to]!]
    return exactly(places[p]!, places[p + 1]!, places[q]!, places[q + 1]!).length
  }
}

function alongGrid(
  b: Builder,
  space: 'attic' | 'crawl',
  hot: number,
  { wide, node, tight }: Grid,
  barred: Barred | null,
  crossed: Crossed | null,
): void {
  b.reserve(strides.length * node.reduce((count, n) => (n < 0 ? count : count + 1), 0))
  const lain = [1, b.weights.cramped].map((times) => ({
    times: times * hot,
    label: b.labelled(space, inSpace(space), null, times * hot).at,
  }))
  const tall = node.length / wide
  for (let row = 0; row < tall; row++)
    for (let column = 0; column < wide; column++) {
      const at = row * wide + column
      const here = node[at]!
      if (here < 0) continue
      for (let k = 0; k < strides.length; k++) {
        const { over, up } = strides[k]!
        const to = at + up * wide + over
        const there = to < 0 || to >= node.length ? -1 : node[to]!
        if (there < 0) continue
        if (barred?.(b.at[3 * here]!, b.at[3 * here + 1]!, b.at[3 * there]!, b.at[3 * there + 1]!)) continue
        const { label, times } = lain[tight[at]! | tight[to]!]!
        b.edge(space, label, here, there, times, crossed ? crossed(at, to, column, row, over, up) : 0)
      }
    }
}
/** From a place of a grid to those beside it that were not joined to it yet. */
const strides = [
  { over: 1, up: 0 },
  { over: 0, up: 1 },
  { over: 1, up: 1 },
  { over: 1, up: -1 },
] as const

/** Attic or crawl space: a grid over the rooms it lies above or below, reached through the plates of their walls. */
export function openSpace(
  b: Builder,
  bays: readonly Bay[],
  rooms: readonly Room[],
  space: 'attic' | 'crawl',
  ceilings: readonly OnRoom[],
  obstacles: readonly Obstacle[],
): void {
  const up = space === 'attic'
  const hot = up && b.building.attic!.hot ? b.weights.hot : 1
  const open = openRooms(rooms, up)
  const barred = barredIn(rooms, obstacles)
  const headAt = up ? headOver(b.building, rooms) : () => b.building.crawl!.headM
  const grid = gridOver(b, rooms, open, (r) => (up ? r.head + ATTIC_M : r.foot - 0.3), headAt, barred)
  const { west, south, wide, node } = grid
  const { gridM } = b.building
  const cramped = (x: number, y: number) => headAt(x, y) < STANDING_M
  alongGrid(b, space, hot, grid, barred, joistsOnGrid(b, rooms, open, grid))
  /** The grid's place nearest to a node under or over it. */
  const gridAt = (n: number): number | undefined => {
    const [x, y] = b.place(n)
    if (!open.some((r) => covers(r, x, y))) return undefined
    const at = Math.floor((y - south) / gridM) * wide + Math.floor((x - west) / gridM)
    const around = [at, at + 1, at + wide, at + wide + 1].flatMap((k) =>
      node[k]! >= 0 && !barred?.(x, y, b.at[3 * node[k]!]!, b.at[3 * node[k]! + 1]!) ? [node[k]!] : [],
    )
    return nearestTo(b, n, around)
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

/** How far a cable keeps from what is in an attic or under a floor. */
const CLEAR_M = 0.02
/** Whether a straight piece of cable in a space, from x and y to p and q, would go through what is there; null: nothing does. */
export function barredIn(rooms: readonly Room[], obstacles: readonly Obstacle[]): Barred | null {
  const those = obstacles.flatMap((o) => {
    const room = rooms.find((r) => r.id === o.room)
    if (!room) return []
    const [west, south] = [room.west + o.eastM, room.south + o.northM]
    const clear = o.hot ? HOT_CLEAR_M : CLEAR_M
    return [{ west: west - clear, south: south - clear, east: west + o.lengthM + clear, north: south + o.widthM + clear }]
  })
  if (those.length === 0) return null
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
/** A point that is at no wall. */
interface OnRoom {
  readonly room: Room
  readonly node: number
  readonly underfoot: boolean
}
/** A point on a ceiling: reached over its face from the head of each wall, and from what lies above; one out of the floor from below. */
export function onCeilings(b: Builder, bays: readonly Bay[], rooms: readonly Room[]): readonly OnRoom[] {
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

/** Of some nodes the one nearest to a node: the first of several that are. */
function nearestTo(b: Builder, node: number, some: readonly number[]): number | undefined {
  const at = b.place(node)
  let nearest: number | undefined
  let least = Number.POSITIVE_INFINITY
  for (const n of some) {
    const far = distance(b.place(n), at)
    if (far < least) [nearest, least] = [n, far]
  }
  return nearest
}

/** Above suspended ceilings: a grid over each room, reached from its walls and ceiling points; through the walls between two of them. */
export function voids(b: Builder, bays: readonly Bay[], rooms: readonly Room[], ceilings: readonly OnRoom[]): void {
  const grids = new Map(rooms.flatMap((r) => (r.voidM === null ? [] : [[r, voidOver(b, r)] as const])))
  if (grids.size === 0) return
  const nearest = (room: Room, n: number) => nearestTo(b, n, grids.get(room) ?? [])
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
