import { type Bay, MID_M } from './bays'
import { along, type Fixture, type Room, type Side, sides, sideLength } from './house'
import { Builder, onWall, roundCorner } from './ways'

/* Where a building's walls have the open on their other side. */

/** A stretch of a side of a room behind which there is no other room of its storey. */
export interface OuterWall {
  readonly room: Room
  readonly side: Side
  readonly fromM: number
  readonly toM: number
}
/** What runs along the outer face is so far from the line of the wall, as it was measured inside. */
export const OUT_M = 0.15
/** A room that begins within this of a wall lies behind it. */
const BEHIND_M = 0.35
/** A stretch shorter than this is none. */
const LEAST_M = 0.1
const probes = [0.05, 0.2, BEHIND_M] as const

const outward: Readonly<Record<Side, readonly [x: number, y: number]>> = { north: [0, 1], east: [1, 0], south: [0, -1], west: [-1, 0] }
/** A place on the outer face of a side, so far along it. */
export function onOuterFace(room: Room, side: Side, atM: number, outM = OUT_M): readonly [x: number, y: number] {
  const [x, y] = along(room, side, atM)
  const [dx, dy] = outward[side]
  return [x + dx * outM, y + dy * outM]
}

export function outerWalls(rooms: readonly Room[]): readonly OuterWall[] {
  return rooms.flatMap((room) =>
    sides.flatMap((side) => {
      const behind = rooms.flatMap((o) => (o !== room && o.floor === room.floor ? coveredBy(room, side, o) : []))
      const whole = sideLength(room, side)
      const stretches: OuterWall[] = []
      let from = 0
      for (const [low, high] of [...behind.toSorted((p, q) => p[0] - q[0]), [whole, whole] as const]) {
        if (low - from > LEAST_M) stretches.push({ room, side, fromM: from, toM: low })
        from = Math.max(from, high)
      }
      return stretches
    }),
  )
}
/** Whether what is said to be on an outer face has the open behind its wall. */
export const standsOutside = (rooms: readonly Room[], { room, side, atM }: Pick<Fixture, 'room' | 'side' | 'atM'>): boolean =>
  outerWalls(rooms).some((w) => w.room.id === room && w.side === side && atM >= w.fromM && atM <= w.toM)
/** How much of a side another room lies behind. */
function coveredBy(room: Room, side: Side, o: Room): (readonly [from: number, to: number])[] {
  const level = side === 'north' || side === 'south'
  const near = { north: o.south - room.north, south: room.south - o.north, east: o.west - room.east, west: room.west - o.east }[side]
  if (near < -0.05 || near > BEHIND_M) return []
  const [low, high] = level ? [o.west - room.west, o.east - room.west] : [o.south - room.south, o.north - room.south]
  const [from, to] = [Math.max(low, 0), Math.min(high, sideLength(room, side))]
  return to > from ? [[from, to]] : []
}

/**
 * Where the outer face of a stretch ends: on round a corner that stands out, at one that turns in, or straight on along the next room.
 */
export function endsOf({ room, side, fromM, toM }: OuterWall, rooms: readonly Room[]): readonly (readonly [x: number, y: number])[] {
  const inside = (x: number, y: number) =>
    rooms.some((r) => r.floor === room.floor && x > r.west && x < r.east && y > r.south && y < r.north)
  return [fromM, toM].map((m, end) => {
    const on = end === 0 ? -1 : 1
    const any = (outM: (m: number) => number) => probes.some((by) => inside(...onOuterFace(room, side, m + on * by, outM(by))))
    if (any((by) => by)) return onOuterFace(room, side, m - on * OUT_M)
    return onOuterFace(room, side, any(() => -0.05) ? m : m + on * OUT_M)
  })
}

/** A bay of an outer wall with the places on its outer face, at the middle and at the head of what is open there. */
interface OuterBay {
  readonly bay: Bay
  readonly mid: number | null
  readonly head: number
}
/** Along the outside of the walls, over doors and under windows, and round the corners; through each bay to the inside. */
export function outsides(b: Builder, bays: readonly Bay[]): readonly OuterBay[] {
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
export function fixtureOutside(b: Builder, bays: readonly Bay[], f: Fixture, outer: readonly OuterBay[]): void {
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
