import { z } from 'zod'
import { sides } from '../building/house'
import { idField, text } from './fields'
import { addTo, EditError, edits, inList } from './part'

const span = z.number().positive().max(200)
const shift = z.number().min(-200).max(200)
/** A room as it was measured inside, along east and along north, and what it lies beside; null: nothing, the others lie by it. */
export const measuredSchema = z.strictObject({
  lengthM: span,
  widthM: span,
  heightM: z.number().min(0.5).max(20),
  /** Its ceiling is suspended, so far below what is above it. */
  voidM: z.number().min(0.05).max(5).optional(),
  beside: z
    .strictObject({
      room: idField,
      side: z.enum([...sides, 'over']),
      shiftM: shift,
      northM: shift,
      /** No wall between the two where they meet: one room round a corner, entered as its parts. */
      open: z.boolean().optional(),
    })
    .nullable(),
})
export type Measured = z.infer<typeof measuredSchema>

/** Where a room lies from the board: paced, rough, and null until somebody paces it. */
export const roomSchema = z.strictObject({
  id: idField,
  name: text(120),
  floor: z.int().min(-5).max(50),
  alongM: z.number().min(-1000).max(1000).nullable(),
  acrossM: z.number().min(-1000).max(1000).nullable(),
  finished: z.boolean().nullable(),
  /** Where a joist over or under it was found: off its south wall where they run east, else its west; the others lie in step. */
  joistAtM: z.number().min(0).max(200).nullable().optional(),
  measured: measuredSchema.optional(),
})
export type Room = z.infer<typeof roomSchema>

export const wallKinds = ['wall', 'counter', 'island', 'hallway'] as const
export const pieceKinds = ['wall', 'door', 'window', 'fixed', 'cabinets', 'stairs', 'sink', 'basin', 'bath', 'shower'] as const
/** A piece of a wall; one that does not stand on the floor from its sill, one that does not reach the ceiling to its head. */
const pieceSchema = z.strictObject({
  id: idField,
  what: z.enum(pieceKinds),
  lengthM: z.number().positive().max(200),
  sillM: z.number().min(0).max(20).optional(),
  headM: z.number().min(0).max(20).optional(),
  /** Of base cabinets: the room behind their drawers when they are shut; null: not looked at. */
  behindMm: z.number().min(0).max(1000).nullable().optional(),
})
export const hiddenKinds = ['pipe', 'duct', 'cables', 'flue'] as const
/** What is inside a wall, behind its face: from so far from the left; up to the ceiling where its head is not known. */
const hiddenSchema = z.strictObject({
  id: idField,
  what: z.enum(hiddenKinds),
  atM: z.number().min(0).max(200),
  widthM: z.number().positive().max(200),
  sillM: z.number().min(0).max(20),
  headM: z.number().min(0).max(20).optional(),
})
export type Hidden = z.infer<typeof hiddenSchema>
/** What a wall is made of: hollow, on studs so far apart and so deep, or solid. */
export const builtSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('timber'),
    studM: z.number().min(0.2).max(1.5),
    depthMm: z.number().min(30).max(400).nullable(),
    /** Whether it is filled with insulation; null: not looked at. */
    filled: z.boolean().nullable().optional(),
    /** How high above the floor noggings are; null: not looked at. */
    noggingM: z
      .union([z.literal('none'), z.number().min(0.1).max(20)])
      .nullable()
      .optional(),
  }),
  z.strictObject({ kind: z.literal('masonry') }),
])
export type Built = z.infer<typeof builtSchema>
const inside = {
  /** It is built as the other walls are not; null: as they are. */
  built: builtSchema.nullable().optional(),
  /** Where a stud of it was found, from the left as one faces it; the others stand in step with that one. Null: none was looked for. */
  studAtM: z.number().min(0).max(200).nullable().optional(),
  /** How high above the floor its noggings were found; null: none were looked for. */
  noggingAtM: z
    .union([z.literal('none'), z.number().min(0.05).max(20)])
    .nullable()
    .optional(),
  /** Its face is finished and must not be opened. */
  closed: z.boolean().optional(),
  hidden: z.array(hiddenSchema).max(20).optional(),
}

/** A wall or counter as a string of pieces along its floor line, from the left as one faces it; the points are along it. */
export const wallSchema = z.strictObject({
  id: idField,
  room: idField.nullable(),
  name: text(120),
  kind: z.enum(wallKinds),
  pieces: z.array(pieceSchema).min(1).max(60),
  /** Which side of its room it is; a room has one wall a side. */
  side: z.enum(sides).optional(),
  /** Of an island or a peninsula: how deep its counter is, in metres; null: not measured. */
  depthM: z.number().positive().max(20).nullable().optional(),
  /** Of an island or a peninsula: whether something is left there so that an outlet can be added; null: not said. */
  forLater: z.boolean().nullable().optional(),
  ...inside,
})
export type WallRecord = z.infer<typeof wallSchema>

export const newRoom = (id: string, name: string, more: Partial<Room> = {}): Room => ({
  id,
  name,
  floor: 0,
  alongM: null,
  acrossM: null,
  finished: null,
  ...more,
})
export const newWall = (id: string, name: string, more: Partial<WallRecord> = {}): WallRecord => ({
  id,
  room: null,
  name,
  kind: 'wall',
  pieces: [{ id: `${id}-1`, what: 'wall', lengthM: 4 }],
  ...more,
})

/** The id a room gets from its name, so that two hands that name one room make one. */
const roomId = (name: string): string =>
  `room-${name
    .trim()
    .toLowerCase()
    .replaceAll(/[^\p{L}\p{N}]+/gu, '-')
    .slice(0, 50)}`

/** The room of this name, made where there is none; null for no name. */
export function roomNamed(doc: { rooms: Room[] }, name: string): string | null {
  if (name.trim() === '') return null
  const known = doc.rooms.find((r) => r.name === name)
  if (known) return known.id
  let id = roomId(name)
  for (let n = 2; doc.rooms.some((r) => r.id === id); n++) id = `${roomId(name)}-${n}`
  doc.rooms.push(newRoom(id, name))
  return id
}

interface Doc {
  rooms: Room[]
  walls: WallRecord[]
}
const edit = edits<Doc>()
const patchOfRoom = roomSchema.omit({ id: true, measured: true }).partial()

/** Two walls on one side of a room would be one wall twice. */
function oneASide({ walls }: Doc, wall: WallRecord, path: string): void {
  if (wall.side === undefined || wall.room === null) return
  if (walls.some((w) => w.id !== wall.id && w.room === wall.room && w.side === wall.side))
    throw new EditError(path, 'This side of the room has a wall already.')
}

/** Whether a room would lie beside itself, through those it lies beside. */
function liesOnItself({ rooms }: Doc, id: string, beside: string): boolean {
  const seen = new Set([id])
  for (let at: string | undefined = beside; at !== undefined; at = rooms.find((r) => r.id === at)?.measured?.beside?.room) {
    if (seen.has(at)) return true
    seen.add(at)
  }
  return false
}

/** How long a side of a measured room is. */
export const sideOf = ({ lengthM, widthM }: Pick<Measured, 'lengthM' | 'widthM'>, side: (typeof sides)[number]): number =>
  side === 'north' || side === 'south' ? lengthM : widthM

/** The wall on a side of a room, made with one clear piece where there is none. @throws EditError where the room is not measured. */
export function wallOn(doc: Doc, room: string, side: (typeof sides)[number], id: string, path: string): WallRecord {
  const { measured, name } = inList(doc.rooms, room, 'room', path)
  if (!measured) throw new EditError(path, 'Measure this room first.')
  const known = doc.walls.find((w) => w.room === room && w.side === side)
  if (known) return known
  const more = { room, side, pieces: [{ id: 'p1', what: 'wall' as const, lengthM: sideOf(measured, side) }] }
  addTo(doc.walls, newWall(id, `${name}, ${side} wall`.slice(0, 120), more), 'wall')
  return doc.walls.at(-1)!
}

/** A piece put into the clear length it lies in. */
function putPiece(wall: WallRecord, piece: WallRecord['pieces'][number], atM: number): void {
  let start = 0
  const at = wall.pieces.findIndex((p) => {
    const within = p.what === 'wall' && atM >= start - 1e-6 && atM + piece.lengthM <= start + p.lengthM + 1e-6
    if (!within) start += p.lengthM
    return within
  })
  if (at < 0) throw new EditError('atM', 'There is no clear length of wall for it there.')
  const whole = wall.pieces[at]!
  const [before, after] = [atM - start, start + whole.lengthM - atM - piece.lengthM]
  const clear = (id: string, lengthM: number) => (lengthM > 1e-6 ? [{ id, what: 'wall' as const, lengthM }] : [])
  wall.pieces.splice(at, 1, ...clear(whole.id, before), piece, ...clear(`${piece.id.slice(0, 60)}-r`, after))
  if (wall.pieces.length > 60) throw new EditError('piece', 'A wall holds at most 60 pieces.')
}

export const roomEdits = {
  /** By name: a room that is not there yet is made. */
  'room.set': edit(
    { name: text(120), patch: patchOfRoom },
    (job, { name, patch }) => {
      const id = roomNamed(job, name)
      if (id === null) throw new EditError('name', 'A room needs a name.')
      if (patch.name !== undefined && (patch.name.trim() === '' || job.rooms.some((r) => r.id !== id && r.name === patch.name)))
        throw new EditError('patch.name', 'A room needs a name that no other has.')
      Object.assign(inList(job.rooms, id, 'room'), patch)
    },
    ({ name }) => `${name}: where it lies`,
  ),
  /** By name, as it was measured; a room that is not there yet is made. Null takes its measures away. */
  'room.measure': edit(
    { name: text(120), floor: roomSchema.shape.floor.optional(), measured: measuredSchema.nullable() },
    (job, { name, floor, measured }) => {
      const id = roomNamed(job, name)
      if (id === null) throw new EditError('name', 'A room needs a name.')
      const room = inList(job.rooms, id, 'room')
      if (floor !== undefined) room.floor = floor
      if (measured?.beside) {
        if (!inList(job.rooms, measured.beside.room, 'room', 'measured.beside.room').measured)
          throw new EditError('measured.beside.room', 'That room is not measured yet.')
        if (liesOnItself(job, id, measured.beside.room))
          throw new EditError('measured.beside.room', 'That room lies by this one: one of them must come first.')
      }
      if (measured) room.measured = measured
      else delete room.measured
    },
    ({ name, measured }) => (measured ? `${name}: measured` : `${name}: measures taken away`),
  ),
  /** Rooms that are not there yet, as a drawing has them; each lies beside one that is there, or is before it in the list. */
  'room.draw': edit(
    {
      rooms: z
        .array(z.strictObject({ id: idField, name: text(120), floor: roomSchema.shape.floor, measured: measuredSchema }))
        .min(1)
        .max(60),
    },
    (job, { rooms }) => {
      for (const [i, { id, name, floor, measured }] of rooms.entries()) {
        if (name.trim() === '' || job.rooms.some((r) => r.name === name))
          throw new EditError(`rooms.${i}.name`, 'A room needs a name that no other has.')
        if (measured.beside && !inList(job.rooms, measured.beside.room, 'room', `rooms.${i}.measured.beside.room`).measured)
          throw new EditError(`rooms.${i}.measured.beside.room`, 'That room is not measured yet.')
        addTo(job.rooms, newRoom(id, name, { floor, measured }), `rooms.${i}.id`)
      }
    },
    ({ rooms }) => `${rooms.length} ${rooms.length === 1 ? 'room' : 'rooms'} from a drawing`,
  ),
  'room.remove': edit(
    { id: idField },
    (job, { id }) => {
      inList(job.rooms, id, 'room')
      job.rooms = job.rooms.filter((r) => r.id !== id)
    },
    ({ id }, _, { rooms }) => `Room ${rooms.find((r) => r.id === id)?.name ?? ''} removed`,
  ),
  /** A door, a window or something fixed, so far from the left as one faces the wall; a wall that is not there yet is made. */
  'wall.open': edit(
    { room: idField, side: z.enum(sides), wall: idField, piece: pieceSchema, atM: z.number().min(0).max(200) },
    (job, { room, side, wall, piece, atM }) => {
      const into = wallOn(job, room, side, wall, 'room')
      if (into.pieces.some((p) => p.id === piece.id)) throw new EditError('piece.id', 'There is one with this id already.')
      putPiece(into, piece, atM)
    },
    ({ room, side, piece }, _, { rooms }) => `${rooms.find((r) => r.id === room)?.name ?? 'Room'}, ${side} wall: ${piece.what} added`,
  ),
  /** What was found of the inside of a side of a room; a wall that is not there yet is made. */
  'wall.inside': edit(
    { room: idField, side: z.enum(sides), wall: idField, patch: z.strictObject(inside) },
    (job, { room, side, wall, patch }) => {
      const into = wallOn(job, room, side, wall, 'room')
      const whole = sideOf(inList(job.rooms, room, 'room').measured!, side)
      if (patch.studAtM != null && patch.studAtM > whole + 1e-6) throw new EditError('patch.studAtM', 'The wall is not so long.')
      for (const [i, h] of (patch.hidden ?? []).entries()) {
        if (h.atM + h.widthM > whole + 1e-6) throw new EditError(`patch.hidden.${i}.atM`, 'The wall is not so long.')
        if (patch.hidden!.some((o, k) => k < i && o.id === h.id))
          throw new EditError(`patch.hidden.${i}.id`, 'There is one with this id already.')
      }
      Object.assign(into, patch)
    },
    ({ room, side, patch }, say, { rooms }) => `${rooms.find((r) => r.id === room)?.name ?? 'Room'}, ${side} wall: ${say.fields(patch)}`,
  ),
  'wall.add': edit(
    { item: wallSchema.omit({ room: true }).extend({ room: text(120) }) },
    (job, { item }) => {
      const wall = { ...item, room: roomNamed(job, item.room) }
      oneASide(job, wall, 'item.side')
      addTo(job.walls, wall, 'item.id')
    },
    ({ item }) => `${item.name} added`,
  ),
  'wall.set': edit(
    {
      id: idField,
      patch: wallSchema
        .omit({ id: true, room: true })
        .extend({ room: text(120) })
        .partial(),
    },
    (job, { id, patch: { room, ...patch } }) => {
      const wall = Object.assign(inList(job.walls, id, 'wall'), patch, room === undefined ? {} : { room: roomNamed(job, room) })
      oneASide(job, wall, 'patch.side')
    },
    ({ id, patch }, say) => `${say.name(id, 'Wall')}: ${say.fields(patch)}`,
  ),
  'wall.remove': edit(
    { id: idField },
    (job, { id }) => {
      inList(job.walls, id, 'wall')
      job.walls = job.walls.filter((w) => w.id !== id)
    },
    ({ id }, say) => `${say.name(id, 'Wall')} removed`,
  ),
}
