import {
  baysOf,
  type BuildingInput,
  builtOf,
  covers,
  joistsCrossed,
  mayOpen,
  opposite,
  openRooms,
  type Room,
  type Side,
  along,
} from './house'
import { barredIn } from './spaces'
import type { Part } from './steps'
import { between, onWall, type WayKind, wallsOf } from './ways'

/* Whether a route that was chosen can still be taken through the building as it is recorded now. */

/** A route as it was chosen, against the building. */
export interface ChosenRoute {
  readonly parts: readonly Part[]
  readonly input: BuildingInput
  readonly rooms: readonly Room[]
  /** Places that no cable may take, as routes name them. */
  readonly forbid: readonly string[]
}

/** Inside a wall: a solid one has none of these. */
const insideWalls: readonly WayKind[] = ['cavity', 'stud', 'nogging', 'top-plates', 'sole-plate']
/** Along the inside of one wall, in its plane. */
const inPlane: readonly WayKind[] = ['cavity', 'stud', 'nogging']
/** Parts that meet lie this near each other, and a wall this near where it was, in metres. */
const TOUCHING_M = 0.05
const MOVED_M = 0.15

const isLengthwise = (side: Side): boolean => side === 'north' || side === 'south'
type Place = Part['path'][number]
/** Along a wall from its west or south end. */
const alongOf = (room: Room, side: Side, [x, y]: Place): number => (isLengthwise(side) ? x - room.west : y - room.south)
/** How far a place lies off the plane of a wall. */
function offPlane(room: Room, side: Side, [x, y]: Place): number {
  const [wx, wy] = along(room, side, 0)
  return Math.abs(isLengthwise(side) ? y - wy : x - wx)
}
const pairs = (path: readonly Place[]): readonly (readonly [Place, Place])[] => path.slice(1).map((q, i) => [path[i]!, q])

type Check = (route: ChosenRoute) => string | null
/** The first part of which something is true. */
const first =
  (words: string, bars: (part: Part, route: ChosenRoute) => boolean): Check =>
  (route) =>
    route.parts.some((p) => bars(p, route)) ? words : null

const wallOf = ({ room: id, side }: Part, { rooms }: ChosenRoute): { readonly room: Room; readonly side: Side } | null => {
  const room = rooms.find((r) => r.id === id)
  return room && side ? { room, side } : null
}

/** A space above or below that is gone, whole or over part of the route. */
const noSpace =
  (kind: 'attic' | 'crawl', words: string): Check =>
  ({ parts, input, rooms }) => {
    const there = parts.filter((p) => p.kind === kind)
    if (there.length === 0) return null
    if (!input[kind]) return `there is no ${words}`
    const open = openRooms(rooms, kind === 'attic')
    const over = ([x, y]: Place) => open.some((r) => covers(r, x, y))
    return there.every((p) => p.path.every(over)) ? null : `there is no ${words} over part of it`
  }

/** What is in the attic or under the floor, across the route. */
const obstacle =
  (kind: 'attic' | 'crawl', words: string): Check =>
  ({ parts, input, rooms }) => {
    const barred = barredIn(
      rooms,
      input.obstacles.filter((o) => o.space === kind),
    )
    const meets = parts.some((part) => part.kind === kind && pairs(part.path).some(([p, q]) => barred?.(p[0], p[1], q[0], q[1])))
    return meets ? `an obstacle ${words} is across it` : null
  }

/** Studs or joists that it now crosses, beside those that it was reckoned with. */
const moreToBore: Check = ({ parts, input, rooms }) => {
  const crossed = joistsCrossed(input, rooms, openRooms(rooms, false))
  for (const part of parts) {
    if (part.kind === 'crawl' && crossed) {
      const now = pairs(part.path).reduce((sum, [p, q]) => sum + crossed(p[0], p[1], q[0], q[1]).length, 0)
      // A joist at the very place where two pieces of cable meet may be counted with either.
      if (now > part.holes + 1) return `it crosses ${now} joists under the floor, and was chosen with ${part.holes}`
    }
    const wall = wallOf(part, { parts, input, rooms, forbid: [] })
    if (!wall || (part.kind !== 'stud' && part.kind !== 'cavity')) continue
    if (builtOf(input, rooms, wall.room, wall.side).kind !== 'timber') continue
    const at = part.path.map((p) => alongOf(wall.room, wall.side, p))
    const [from, to] = [Math.min(...at) + TOUCHING_M, Math.max(...at) - TOUCHING_M]
    const studs = baysOf(input, rooms, wall.room, wall.side)
      .slice(1, -1)
      .filter((m) => m > from && m < to).length
    if (studs > part.holes + (part.kind === 'stud' ? 1 : 0))
      return `it crosses ${studs} ${studs === 1 ? 'stud' : 'studs'} of a wall, and was chosen with ${part.holes}`
  }
  return null
}

/** The names that a part goes by among the places that may be forbidden. */
function namesOf({ kind, room, side, beyond }: Part): readonly string[] {
  const where = room && beyond ? between(room, beyond, side).name : room && side ? onWall(room, side).name : (room ?? kind)
  const walls = wallsOf(kind, { room, side, beyond })
  return [kind, where, ...walls, ...[where, ...walls].map((name) => `${kind} ${name}`)]
}
const forbidden: Check = ({ parts, forbid }) => {
  const barred = new Set(forbid)
  return barred.size > 0 && parts.some((p) => namesOf(p).some((n) => barred.has(n))) ? 'part of it is forbidden now' : null
}

const checks: readonly Check[] = [
  ({ parts }) =>
    parts.some((e, i) => {
      const before = parts[i - 1]?.path.at(-1)
      const next = e.path[0]
      return before !== undefined && next !== undefined && Math.hypot(...before.map((v, n) => v - next[n]!)) > TOUCHING_M
    })
      ? 'its parts do not connect'
      : null,
  first('a part of it is recorded shorter than it is', (p) => {
    const measured = pairs(p.path).reduce((sum, [a, b]) => sum + Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]), 0)
    return p.lengthM < measured * 0.95 - TOUCHING_M
  }),
  first('a room on it is not measured any more', (p, { rooms }) => p.room !== null && !rooms.some((r) => r.id === p.room)),
  noSpace('attic', 'attic'),
  noSpace('crawl', 'crawl space'),
  obstacle('attic', 'in the attic'),
  obstacle('crawl', 'under the floor'),
  first('a wall on it is masonry, so no cable runs inside it', (p, route) => {
    const wall = insideWalls.includes(p.kind) ? wallOf(p, route) : null
    return wall !== null && builtOf(route.input, route.rooms, wall.room, wall.side).kind === 'masonry'
  }),
  // A wall may continue beside the next room: what counts is that one is there.
  first('a wall on it has moved', (p, { rooms }) => {
    const { side } = p
    if (side === null || !inPlane.includes(p.kind)) return false
    return p.path.some((at) => rooms.every((r) => Math.min(offPlane(r, side, at), offPlane(r, opposite[side], at)) > MOVED_M))
  }),
  first('the face of a wall on it must stay closed', (p, { input }) => p.openings > 0 && !mayOpen(input, p.room, p.side)),
  moreToBore,
  forbidden,
]

/** Why a chosen route cannot be taken any more; null: nothing that is recorded bars it. */
export function staleBy(route: ChosenRoute): string | null {
  for (const check of checks) {
    const words = check(route)
    if (words !== null) return words
  }
  return null
}
