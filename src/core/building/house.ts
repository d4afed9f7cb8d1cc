import { z } from 'zod'
import { InputError } from '../input-error'

/*
 * A building as it is measured: rooms that are boxes beside each other, what stands in their walls, and how it is built. Metres; x to the
 * east, y to the north, z up from the lowest floor.
 */
export const sides = ['north', 'east', 'south', 'west'] as const
export type Side = (typeof sides)[number]

const measure = z.number().positive().max(200)
const place = { room: z.string().max(64), side: z.enum(sides), atM: z.number().min(0).max(200) }

export const roomInput = z.strictObject({
  id: z.string().min(1).max(64),
  floor: z.int().min(-3).max(20).default(0),
  /** Along x and along y. */
  lengthM: measure,
  widthM: measure,
  heightM: z.number().min(0.5).max(20),
  /** Its south-west corner; of a room that is given none, from what it stands beside. */
  at: z.tuple([z.number().min(-1000).max(1000), z.number().min(-1000).max(1000)]).optional(),
  /**
   * It stands on this side of another room; `shiftM` along that side, east or north, from flush with its west or south end. `over`: on
   * another floor, so far to the east and north of that room's south-west corner.
   */
  beside: z
    .strictObject({
      room: z.string().max(64),
      side: z.enum([...sides, 'over']),
      shiftM: z.number().min(-200).max(200).default(0),
      northM: z.number().min(-200).max(200).default(0),
    })
    .optional(),
})
export type RoomInput = z.output<typeof roomInput>

/** What stands in a wall so that no cable goes through it: from `sillM` to `headM` above the floor. */
const opening = z.strictObject({
  id: z.string().min(1).max(64),
  ...place,
  what: z.enum(['door', 'window', 'fixed']),
  widthM: measure,
  sillM: z.number().min(0).max(20).default(0),
  headM: z.number().min(0).max(20).default(2.1),
})
const fixture = z.strictObject({ id: z.string().min(1).max(64), ...place, heightM: z.number().min(0).max(20) })
export type Fixture = z.output<typeof fixture>
/** On a ceiling, so far from the south-west corner of its room. */
const overhead = z.strictObject({
  id: z.string().min(1).max(64),
  room: z.string().max(64),
  eastM: z.number().min(0).max(200),
  northM: z.number().min(0).max(200),
})
export type Overhead = z.output<typeof overhead>

export const buildingInput = z.strictObject({
  rooms: z.array(roomInput).min(1).max(60),
  openings: z.array(opening).max(400).default([]),
  points: z
    .array(z.union([fixture, overhead]))
    .max(400)
    .default([]),
  boards: z.array(fixture).max(20).default([]),
  /** What its walls are: hollow between studs so far apart, or solid. */
  walls: z.discriminatedUnion('kind', [
    z.strictObject({ kind: z.literal('timber'), studM: z.number().min(0.2).max(1.5) }),
    z.strictObject({ kind: z.literal('masonry') }),
  ]),
  /** Places above the uppermost and below the lowest floor that one can get into; null: there is none. */
  attic: z.strictObject({ headM: z.number().min(0.2).max(5), hot: z.boolean() }).nullable(),
  crawl: z.strictObject({ headM: z.number().min(0.2).max(5) }).nullable(),
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
  /** Of its floor and of its ceiling. */
  readonly foot: number
  readonly head: number
}

/**
 * Where each room lies, from those that are placed or stand beside one that is; the first lies at the origin where none is placed.
 * @throws InputError at a room that names no other, or that hangs on nothing.
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
      else throw new InputError(path, 'It has no place: say what it stands beside, or where it lies.')
      grown = true
    }
  }
  const lost = rooms.findIndex((r) => !known.has(r.id))
  if (lost >= 0) throw new InputError(`building.rooms.${lost}.beside`, 'It stands beside a room that stands beside it in turn.')
  return rooms.map((r) => known.get(r.id)!)
}

/** Floors stand on each other, each as high as its highest room and what lies between; the lowest at nought. */
function footOfFloors(rooms: readonly RoomInput[]): ReadonlyMap<number, number> {
  const floors = [...new Set(rooms.map((r) => r.floor))].toSorted((a, b) => a - b)
  let z = 0
  return new Map(
    floors.map((floor) => {
      const here = z
      z += Math.max(...rooms.filter((r) => r.floor === floor).map((r) => r.heightM)) + BETWEEN_FLOORS_M
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
