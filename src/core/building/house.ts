import { z } from 'zod'
import { InputError } from '../base/input-error'

/*
 * A building as it is measured: rooms that are boxes beside each other, what is in their walls, and how it is built. Metres; x to the
 * east, y to the north, z up from the lowest floor.
 */
export const sides = ['north', 'east', 'south', 'west'] as const
export type Side = (typeof sides)[number]

const measure = z.number().positive().max(200)
const joistsInput = z.strictObject({ runs: z.enum(['east', 'north']), spacingM: z.number().min(0.2).max(1.5) })
const place = { room: z.string().max(64), side: z.enum(sides), atM: z.number().min(0).max(200) }

export const roomInput = z.strictObject({
  id: z.string().min(1).max(64),
  floor: z.int().min(-3).max(20).default(0),
  /** Along x and along y. */
  lengthM: measure,
  widthM: measure,
  heightM: z.number().min(0.5).max(20),
  /** Its ceiling is suspended, so far below what is above it; tiles of it are lifted. */
  voidM: z.number().min(0.05).max(5).optional(),
  /** Its joists, where they are not as the others; and that it has no attic above it, or no crawl space below. */
  joists: joistsInput.optional(),
  flat: z.boolean().optional(),
  slab: z.boolean().optional(),
  /** Its south-west corner; of a room that is given none, from what it is next to. */
  at: z.tuple([z.number().min(-1000).max(1000), z.number().min(-1000).max(1000)]).optional(),
  /**
   * It is on this side of another room; `shiftM` along that side, east or north, from flush with its west or south end. `over`: on
   * another floor, so far to the east and north of that room's south-west corner.
   */
  beside: z
    .strictObject({
      room: z.string().max(64),
      side: z.enum([...sides, 'over']),
      shiftM: z.number().min(-200).max(200).default(0),
      northM: z.number().min(-200).max(200).default(0),
      /** No wall between the two where they meet: one room round a corner, entered as its parts. */
      open: z.boolean().default(false),
    })
    .optional(),
})
export type RoomInput = z.output<typeof roomInput>

/** What is in a wall so that no cable goes through it: from `sillM` to `headM` above the floor. */
const opening = z.strictObject({
  id: z.string().min(1).max(64),
  ...place,
  /** What is hidden bars the inside of the wall, and not its face; base cabinets its face, but for what is led behind them. */
  what: z.enum(['door', 'window', 'fixed', 'hidden', 'cabinets', 'stairs']),
  widthM: measure,
  sillM: z.number().min(0).max(20).default(0),
  headM: z.number().min(0).max(20).default(2.1),
})
const fixture = z.strictObject({
  id: z.string().min(1).max(64),
  ...place,
  heightM: z.number().min(0).max(20),
  /** On the outer face of its wall. */
  outside: z.boolean().optional(),
})
export type Fixture = z.output<typeof fixture>
/** On a ceiling, or out of the floor, so far from the south-west corner of its room. */
const overhead = z.strictObject({
  id: z.string().min(1).max(64),
  room: z.string().max(64),
  eastM: z.number().min(0).max(200),
  northM: z.number().min(0).max(200),
  underfoot: z.boolean().optional(),
})
export type Overhead = z.output<typeof overhead>

/** What a wall is: hollow between studs so far apart, or solid. */
const built = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('timber'),
    studM: z.number().min(0.2).max(1.5),
    /** Of a stud, from face to face of the lining; null: not measured. */
    depthMm: z.number().positive().max(1000).nullable().optional(),
    /** How high above the floor noggings are between its studs; null: there are none; missing: not recorded. */
    noggingM: z.number().positive().max(20).nullable().optional(),
  }),
  z.strictObject({ kind: z.literal('masonry') }),
])
/**
 * What was found of a side: that it is built as others are not; where one of its studs is, which gives the others; how high its
 * noggings are, null where it has none; and whether its face may be opened.
 */
const found = z.strictObject({
  room: z.string().max(64),
  side: z.enum(sides),
  built: built.optional(),
  studM: z.number().min(0).max(200).optional(),
  noggingM: z.number().positive().max(20).nullable().optional(),
  closed: z.boolean().default(false),
})
/** What is in an attic or a crawl space, over a rectangle of a room, from its south-west corner. */
const obstacle = z.strictObject({
  id: z.string().min(1).max(64),
  space: z.enum(['attic', 'crawl']),
  room: z.string().max(64),
  eastM: z.number().min(-200).max(200),
  northM: z.number().min(-200).max(200),
  lengthM: measure,
  widthM: measure,
  hot: z.boolean().optional(),
})
export type Obstacle = z.output<typeof obstacle>
/** A cable keeps so far from what gets hot. */
export const HOT_CLEAR_M = 0.15

export const buildingInput = z.strictObject({
  rooms: z.array(roomInput).min(1).max(60),
  openings: z.array(opening).max(400).default([]),
  points: z
    .array(z.union([fixture, overhead]))
    .max(400)
    .default([]),
  boards: z.array(fixture).max(20).default([]),
  /** What its walls are, but for those that were found to be built otherwise. */
  walls: built,
  /** Places above the uppermost and below the lowest floor that one can get into; null: there is none. */
  attic: z
    .strictObject({
      headM: z.number().min(0.2).max(5),
      hot: z.boolean(),
      /** Under a roof that slopes: which way its ridge runs, in the middle, and the head room that is left at the eaves. */
      roof: z.strictObject({ ridge: z.enum(['east', 'north']), eavesM: z.number().min(0).max(5) }).optional(),
    })
    .nullable(),
  crawl: z.strictObject({ headM: z.number().min(0.2).max(5) }).nullable(),
  /** Whether cable may be led along the outside of the walls, in conduit. */
  outside: z.boolean().default(false),
  found: z.array(found).max(480).default([]),
  /** The joists of floors and ceilings: which way they run, and how far apart; null: not looked at. */
  joists: joistsInput.nullable().default(null),
  /** One joist that was found, which gives the others over and under its room: off its south wall where they run east, else its west. */
  foundJoists: z
    .array(z.strictObject({ room: z.string().max(64), atM: z.number().min(0).max(200) }))
    .max(60)
    .default([]),
  obstacles: z.array(obstacle).max(100).default([]),
  /** How fine the grid is on which attic and crawl space are crossed. */
  gridM: z.number().min(0.05).max(2).default(0.6),
})
export type BuildingInput = z.output<typeof buildingInput>

export interface Room {
  readonly id: string
  readonly floor: number
  readonly west: number
  readonly south: number
  readonly east: number
  readonly north: number
  readonly voidM: number | null
  /** As entered: joists of its own, no attic above it, no crawl space below. */
  readonly joists?: BuildingInput['joists'] | undefined
  readonly flat?: boolean | undefined
  readonly slab?: boolean | undefined
  /** Of its floor and of its ceiling. */
  readonly foot: number
  readonly head: number
}

/**
 * Where each room lies, from those that are placed or are next to one that is; the first lies at the origin where none is placed.
 * @throws InputError at a room that names no other, or that is next to nothing.
 */
export function placed({ rooms }: Pick<BuildingInput, 'rooms'>): readonly Room[] {
  const known = new Map<string, Room>()
  const byId = new Map(rooms.map((r) => [r.id, r]))
  if (byId.size < rooms.length) throw new InputError('building.rooms', 'Two rooms have one id.')
  const foot = footOfFloors(rooms)
  const origin = rooms.some((r) => r.at) ? null : rooms.find((r) => !r.beside)
  const lay = (r: RoomInput, west: number, south: number) =>
    known.set(r.id, {
      id: r.id,
      floor: r.floor,
      west,
      south,
      east: west + r.lengthM,
      north: south + r.widthM,
      foot: foot.get(r.floor)!,
      head: foot.get(r.floor)! + r.heightM,
      voidM: r.voidM ?? null,
      joists: r.joists,
      flat: r.flat,
      slab: r.slab,
    })
  for (let grown = true; grown;) {
    grown = false
    for (const [i, r] of rooms.entries()) {
      if (known.has(r.id)) continue
      const path = `building.rooms.${i}`
      if (r.at) lay(r, ...r.at)
      else if (r.beside) {
        if (!byId.has(r.beside.room)) throw new InputError(`${path}.beside.room`, `There is no room ${r.beside.room}.`)
        const by = known.get(r.beside.room)
        if (!by) continue
        lay(r, ...cornerBeside(r, by))
      } else if (r === origin) lay(r, 0, 0)
      else throw new InputError(path, 'It has no place yet. Choose the room next to it, or enter where it is.')
      grown = true
    }
  }
  const lost = rooms.findIndex((r) => !known.has(r.id))
  if (lost >= 0) throw new InputError(`building.rooms.${lost}.beside`, 'It is placed next to a room that is placed next to it in turn.')
  return rooms.map((r) => known.get(r.id)!)
}

/** Floors stand on each other, each as high as its highest room and what lies between; the lowest at zero. */
function footOfFloors(rooms: readonly RoomInput[]): ReadonlyMap<number, number> {
  const floors = [...new Set(rooms.map((r) => r.floor))].toSorted((a, b) => a - b)
  let z = 0
  return new Map(
    floors.map((floor) => {
      const here = z
      z += Math.max(...rooms.filter((r) => r.floor === floor).map((r) => r.heightM + (r.voidM ?? 0))) + BETWEEN_FLOORS_M
      return [floor, here]
    }),
  )
}
/** Ceiling, joists and floor between two storeys. */
export const BETWEEN_FLOORS_M = 0.3

function cornerBeside({ lengthM, widthM, beside }: RoomInput, by: Room): [west: number, south: number] {
  const { side, shiftM, northM } = beside!
  if (side === 'over') return [by.west + shiftM, by.south + northM]
  if (side === 'east') return [by.east, by.south + shiftM]
  if (side === 'west') return [by.west - lengthM, by.south + shiftM]
  if (side === 'north') return [by.west + shiftM, by.north]
  return [by.west + shiftM, by.south - widthM]
}

/** How long a side is, and where a place along it is: from its west or its south end. */
export const sideLength = (r: Room, side: Side): number => (side === 'north' || side === 'south' ? r.east - r.west : r.north - r.south)
export function along(r: Room, side: Side, atM: number): readonly [x: number, y: number] {
  if (side === 'north') return [r.west + atM, r.north]
  if (side === 'south') return [r.west + atM, r.south]
  return side === 'east' ? [r.east, r.south + atM] : [r.west, r.south + atM]
}

export const opposite: Record<Side, Side> = { north: 'south', south: 'north', east: 'west', west: 'east' }
const lengthwise = (side: Side): boolean => side === 'north' || side === 'south'
/** Walls that are entered from two rooms lie this near each other. */
const ONE_WALL_M = 0.3

/**
 * How far along a side of a room the same side is that another room measures from its own end; null where it is another wall. A wall of two
 * rooms is one wall, from whichever of them something in it was entered.
 */
function sameWall(rooms: readonly Room[], room: Room, side: Side, by: { readonly room: string; readonly side: Side }): number | null {
  if (by.room === room.id && by.side === side) return 0
  const other = rooms.find((r) => r.id === by.room)
  if (!other || by.side !== opposite[side] || other.floor !== room.floor) return null
  const [[x0, y0], [x, y]] = [along(room, side, 0), along(other, by.side, 0)]
  const [shift, aside] = lengthwise(side) ? [x - x0, y - y0] : [y - y0, x - x0]
  return Math.abs(aside) > ONE_WALL_M ? null : shift
}

/** What is in a stretch of wall, as its room measures along it. */
export interface Gap {
  readonly fromM: number
  readonly toM: number
  readonly sillM: number
  readonly headM: number
  readonly what: BuildingInput['openings'][number]['what']
}
/** Openings in a side of a room, those too that were entered from the room behind it. */
export const gapsIn = (building: Pick<BuildingInput, 'openings'>, rooms: readonly Room[], room: Room, side: Side): Gap[] =>
  building.openings.flatMap((o) => {
    const shift = sameWall(rooms, room, side, o)
    if (shift === null) return []
    const fromM = shift + o.atM
    return [{ fromM, toM: fromM + o.widthM, sillM: o.sillM, headM: o.headM, what: o.what }]
  })

/** Where two rooms meet with no wall between: along a side of each. */
export interface Open {
  readonly rooms: readonly [Room, Room]
  /** The side of the first that is open, and so far along it; of the second the side that faces it. */
  readonly side: Side
  readonly fromM: number
  readonly toM: number
}
export function opensOf({ rooms: given }: Pick<BuildingInput, 'rooms'>, rooms: readonly Room[]): Open[] {
  return given.flatMap(({ id, beside }): Open[] => {
    if (!beside?.open || beside.side === 'over') return []
    const [own, by] = [rooms.find((r) => r.id === id), rooms.find((r) => r.id === beside.room)]
    if (!own || !by) return []
    const level = lengthwise(beside.side)
    const [from, to] = level
      ? [Math.max(own.west, by.west) - by.west, Math.min(own.east, by.east) - by.west]
      : [Math.max(own.south, by.south) - by.south, Math.min(own.north, by.north) - by.south]
    return to - from > 0.05 ? [{ rooms: [by, own], side: beside.side, fromM: from, toM: to }] : []
  })
}
/** The stretches of a side of a room where there is no wall. */
export const openIn = (opens: readonly Open[], room: Room, side: Side): readonly { readonly fromM: number; readonly toM: number }[] =>
  opens.flatMap(({ rooms: [by, own], side: open, fromM, toM }) => {
    if (by.id === room.id && open === side) return [{ fromM, toM }]
    if (own.id !== room.id || opposite[open] !== side) return []
    const shift = lengthwise(side) ? by.west - own.west : by.south - own.south
    return [{ fromM: fromM + shift, toM: toM + shift }]
  })

/** How a side of a room is built: as it was found, from whichever of its two rooms, else as the others are. */
export function builtOf(building: BuildingInput, rooms: readonly Room[], room: Room, side: Side): BuildingInput['walls'] {
  return building.found.find((f) => f.built && sameWall(rooms, room, side, f) !== null)?.built ?? building.walls
}

/** Bays of a solid wall, along which a cable lies on its face. */
export const SOLID_BAY_M = 0.6
/** A bay narrower than this is none. */
const LEAST_BAY_M = 0.08
/**
 * The row of studs of a side of a room, both ends included: in step with one that was found; where none was, evenly. Of a solid wall, where
 * it is parted for a cable on its face.
 */
export function studRow(building: BuildingInput, rooms: readonly Room[], room: Room, side: Side): readonly number[] {
  const wide = sideLength(room, side)
  const made = builtOf(building, rooms, room, side)
  const pitchM = made.kind === 'timber' ? made.studM : SOLID_BAY_M
  const seen =
    made.kind === 'timber'
      ? building.found.flatMap((f) => {
          const shift = f.studM === undefined ? null : sameWall(rooms, room, side, f)
          return shift === null ? [] : [shift + f.studM!]
        })[0]
      : undefined
  if (seen === undefined) {
    const count = Math.max(1, Math.round(wide / pitchM))
    return Array.from({ length: count + 1 }, (_, i) => (i * wide) / count)
  }
  const first = seen - Math.floor(seen / pitchM) * pitchM
  const studs = Array.from({ length: Math.ceil(wide / pitchM) + 1 }, (_, i) => first + i * pitchM)
  return [0, ...studs.filter((m) => m > LEAST_BAY_M && m < wide - LEAST_BAY_M), wide]
}

/**
 * Where the bays of a side of a room begin and end: its row of studs, and those that are at both sides of each door and window, in whose
 * place no stud of the row is.
 */
export function baysOf(building: BuildingInput, rooms: readonly Room[], room: Room, side: Side): readonly number[] {
  const row = studRow(building, rooms, room, side)
  const framed = gapsIn(building, rooms, room, side).filter((g) => g.what === 'door' || g.what === 'window')
  if (framed.length === 0) return row
  const wide = row.at(-1)!
  const apart = (list: readonly number[], m: number) => list.every((o) => Math.abs(o - m) > LEAST_BAY_M)
  const edges: number[] = []
  for (const m of framed.flatMap((g) => [g.fromM, g.toM])) if (m > LEAST_BAY_M && m < wide - LEAST_BAY_M && apart(edges, m)) edges.push(m)
  return [0, ...[...row.slice(1, -1).filter((m) => apart(edges, m)), ...edges].toSorted((p, q) => p - q), wide]
}

/** How high the noggings of a side of a room are: as found, else as the walls are built; null where there are none, or not looked at. */
export function noggingOf(building: BuildingInput, rooms: readonly Room[], room: Room, side: Side): number | null {
  const made = builtOf(building, rooms, room, side)
  if (made.kind !== 'timber') return null
  const seen = building.found.find((f) => f.noggingM !== undefined && sameWall(rooms, room, side, f) !== null)
  return (seen ? seen.noggingM : made.noggingM) ?? null
}

/** Whether anybody looked for noggings in a side of a room; a solid wall has none. */
export function noggingsKnown(building: BuildingInput, rooms: readonly Room[], room: Room, side: Side): boolean {
  const made = builtOf(building, rooms, room, side)
  if (made.kind !== 'timber' || made.noggingM !== undefined) return true
  return building.found.some((f) => f.noggingM !== undefined && sameWall(rooms, room, side, f) !== null)
}

type Joisted = Pick<BuildingInput, 'joists' | 'foundJoists'>
/** The joists over and under a room: its own, else as they are elsewhere; null: not looked at. */
export const joistsMade = ({ joists }: Joisted, room: Room): BuildingInput['joists'] => room.joists ?? joists
/**
 * Where joists over and under a room lie, across the way they run: in step with one that was found, else from the edge of the room where
 * they are its own, of the building where they are not.
 */
export function joistsOf(building: Joisted, rooms: readonly Room[], room: Room): readonly number[] {
  const joists = joistsMade(building, room)
  const { foundJoists } = building
  if (!joists) return []
  const edge = joists.runs === 'east' ? 'south' : 'west'
  const [from, to] = joists.runs === 'east' ? [room.south, room.north] : [room.west, room.east]
  const seen = foundJoists.find((f) => f.room === room.id)
  const start = seen ? room[edge] + seen.atM : room.joists ? room[edge] : Math.min(...rooms.map((r) => r[edge]))
  const first = start + Math.ceil((from - start) / joists.spacingM + 1e-9) * joists.spacingM
  const at: number[] = []
  for (let m = first; m < to - 1e-9; m += joists.spacingM) at.push(m)
  return at
}

export const covers = (r: Room, x: number, y: number): boolean =>
  x > r.west - 1e-6 && x < r.east + 1e-6 && y > r.south - 1e-6 && y < r.north + 1e-6
export const overlaps = (a: Room, b: Room): boolean =>
  a.west < b.east - 1e-6 && b.west < a.east - 1e-6 && a.south < b.north - 1e-6 && b.south < a.north - 1e-6
/** Rooms with nothing on the storey above them, or below, that have an attic or a crawl space there if the building has one. */
export const openRooms = (rooms: readonly Room[], up: boolean): readonly Room[] =>
  rooms.filter((r) => !(up ? r.flat : r.slab) && !rooms.some((o) => o.floor === r.floor + (up ? 1 : -1) && overlaps(o, r)))

const noJoist: readonly number[] = []
/**
 * Which part of a straight piece of cable, from x and y to u and v, lies at each joist that it crosses over or under open rooms; null where
 * none is known.
 */
export function joistsCrossed(
  building: Joisted,
  rooms: readonly Room[],
  open: readonly Room[],
): ((x: number, y: number, u: number, v: number) => readonly number[]) | null {
  const byRoom = open.map((room) => ({
    at: joistsOf(building, rooms, room),
    northward: joistsMade(building, room)?.runs === 'east',
  }))
  if (byRoom.every(({ at }) => at.length === 0)) return null
  /** Whether a place lies under or over a room, and under or over none before it: where two lie over each other it is one joist. */
  const firstAt = (i: number, x: number, y: number): boolean => {
    if (!covers(open[i]!, x, y)) return false
    for (let k = 0; k < i; k++) if (covers(open[k]!, x, y)) return false
    return true
  }
  return (x, y, u, v) => {
    let parts: number[] | null = null
    for (let r = 0; r < byRoom.length; r++) {
      const { at, northward } = byRoom[r]!
      const from = northward ? y : x
      const far = (northward ? v : u) - from
      if (Math.abs(far) < 1e-9) continue
      const low = Math.min(from, from + far) + 1e-6
      const high = Math.max(from, from + far) + 1e-6
      if (at.length === 0 || at[0]! > high || at.at(-1)! <= low) continue
      for (let i = firstAbove(at, low); i < at.length && at[i]! <= high; i++) {
        const part = (at[i]! - from) / far
        if (firstAt(r, x + part * (u - x), y + part * (v - y))) (parts ??= []).push(part)
      }
    }
    return parts ?? noJoist
  }
}
/** Of joists in their order, how many lie up to a place, what lies on it among them. */
export const countUpTo = (sorted: readonly number[]) => (m: number) => firstAbove(sorted, m + 1e-6)
/** Of figures that rise, the place of the first that is more than another. */
function firstAbove(sorted: readonly number[], than: number): number {
  let [from, to] = [0, sorted.length]
  while (from < to) {
    const mid = (from + to) >> 1
    if (sorted[mid]! <= than) from = mid + 1
    else to = mid
  }
  return from
}

/** The head room over a place in the attic: less towards the eaves under a roof that slopes. */
export function headOver({ attic }: Pick<BuildingInput, 'attic'>, rooms: readonly Room[]): (x: number, y: number) => number {
  const headM = attic?.headM ?? 0
  const roof = attic?.roof
  const open = openRooms(rooms, true)
  if (!roof || open.length === 0) return () => headM
  const level = roof.ridge === 'east'
  const from = Math.min(...open.map((r) => (level ? r.south : r.west)))
  const to = Math.max(...open.map((r) => (level ? r.north : r.east)))
  const [middle, half] = [(from + to) / 2, Math.max((to - from) / 2, 1e-6)]
  const eavesM = Math.min(roof.eavesM, headM)
  return (x, y) => Math.max(headM - ((headM - eavesM) * Math.abs((level ? y : x) - middle)) / half, 0)
}

/** Whether the face of a side may be opened: not where somebody said that it stays closed. */
export const mayOpen = (building: Pick<BuildingInput, 'found'>, room: string | null, side: Side | null): boolean =>
  !building.found.some((f) => f.closed && f.room === room && f.side === side)
