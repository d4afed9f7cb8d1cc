import {
  along,
  baysOf,
  builtOf,
  type Fixture,
  type Gap,
  gapsIn,
  mayOpen,
  noggingOf,
  type Open,
  openIn,
  opposite,
  type Room,
  type Side,
  sides,
} from './house'
import { distance } from './search'
import { between, Builder, onWall, roundCorner, type WayKind, type Where } from './ways'

/* Walls as what they are between their studs: joined along, round corners, through to the next room and up to the next storey. */

/** Height of what runs along a wall between the floor and the head. */
export const MID_M = 0.45

/** Three heights of a wall; null where an opening is. */
interface Heights {
  readonly foot: number | null
  readonly mid: number | null
  readonly head: number
}
export interface Bay {
  /** Inside the wall; null of a solid one. */
  readonly cavity: Heights | null
  /** On its face, as far from it as a conduit is. */
  readonly face: Heights
  /** Behind a base cabinet that is before it, at the floor; null: there is none. */
  readonly behind: number | null
  readonly room: Room
  readonly side: Side
  readonly atM: number
  /** From stud to stud along its side. */
  readonly fromM: number
  readonly toM: number
  readonly midM: number
  /** How high up a nogging is in it; null: there is none, as far as is known. */
  readonly noggingM: number | null
  /** Whether nothing is in it between two heights above its floor; and whether nothing is before its face. */
  readonly clear: (low: number, high: number) => boolean
  readonly clearFace: (low: number, high: number) => boolean
  /** And on its outer face, of an outer wall. */
  readonly clearOut: (low: number, high: number) => boolean
}

/** Whether nothing is in a stretch of wall between two heights. */
const free = (gaps: readonly Gap[], fromM: number, toM: number, low: number, high: number): boolean =>
  !gaps.some((g) => g.fromM < toM - 1e-9 && g.toM > fromM + 1e-9 && g.sillM < high + 1e-9 && g.headM > low + 1e-9)

/** The bays of each side of a room, joined up, along and round the corners; none where there is no wall. */
export function walls(b: Builder, room: Room, opens: readonly Open[]): Bay[] {
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

/** A bay from stud to stud, with what is in it and before it. */
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
  // There is room for a cable behind cabinets, where nothing else is at the floor.
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
export const FACE_M = 0.06
export function inward(r: Room, side: Side, atM: number, by: number): readonly [number, number] {
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
export function acrossOpens(b: Builder, bays: readonly Bay[], opens: readonly Open[], pitchM: number): void {
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
export function facing(b: Builder, bays: readonly Bay[]): readonly (readonly [Bay, Bay])[] {
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
export function partitions(b: Builder, bays: readonly Bay[]): void {
  for (const [bay, near] of facing(b, bays)) {
    const where = between(bay.room.id, near.room.id, bay.side)
    if (bay.cavity?.mid != null && near.cavity?.mid != null) b.join('partition', where, bay.cavity.mid, near.cavity.mid)
    else if (bay.face.mid !== null && near.face.mid !== null) b.join('wall-hole', where, bay.face.mid, near.face.mid)
  }
}

/** From the head of a wall to the foot of the one that stands on it. */
export function storeys(b: Builder, bays: readonly Bay[]): void {
  const feet = new Map<number, { readonly above: Bay; readonly foot: number; readonly x: number; readonly y: number }[]>()
  for (const above of bays) {
    const { foot } = above.cavity ?? above.face
    if (foot === null) continue
    const [x, y] = b.place(foot)
    const { floor } = above.room
    if (!feet.has(floor)) feet.set(floor, [])
    feet.get(floor)!.push({ above, foot, x, y })
  }
  for (const bay of bays) {
    const { head } = bay.cavity ?? bay.face
    const [u, v] = b.place(head)
    for (const { above, foot, x, y } of feet.get(bay.room.floor + 1) ?? [])
      if ((x - u) * (x - u) + (y - v) * (y - v) < ABOVE_M * ABOVE_M)
        b.join('storey', between(bay.room.id, above.room.id, bay.side), head, foot)
  }
}
/** A wall stands on another where it is so near to it, seen from above. */
const ABOVE_M = 0.35

/** A point or a board is in a bay of its wall, at its own height. */
export function fixture(b: Builder, bays: readonly Bay[], f: Fixture, opens: readonly Open[]): void {
  const room = b.rooms.find((r) => r.id === f.room)
  // Where there is no wall nothing can be on one.
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
  // Up or down its bay, past nothing that is in it.
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
