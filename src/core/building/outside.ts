import { along, type Fixture, type Room, type Side, sideLength, sides } from './house'

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
/** Whether what is said to stand on an outer face has the open behind its wall. */
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
 * Where the outer face of a stretch ends: on round a corner that stands out, at one that stands in, or straight on along the next room.
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
