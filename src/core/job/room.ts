import { z } from 'zod'
import { idField, text } from './fields'
import { addTo, EditError, edits, inList } from './part'

/** Where a room lies from the board: paced, rough, and null until somebody paces it. */
export const roomSchema = z.strictObject({
  id: idField,
  name: text(120),
  floor: z.int().min(-5).max(50),
  alongM: z.number().min(-1000).max(1000).nullable(),
  acrossM: z.number().min(-1000).max(1000).nullable(),
  finished: z.boolean().nullable(),
})
export type Room = z.infer<typeof roomSchema>

export const wallKinds = ['wall', 'counter', 'hallway'] as const
export const pieceKinds = ['wall', 'door', 'fixed', 'sink', 'basin', 'bath', 'shower'] as const
/** A wall or counter as a string of pieces along its floor line; what stands along it are points. */
export const wallSchema = z.strictObject({
  id: idField,
  room: idField.nullable(),
  name: text(120),
  kind: z.enum(wallKinds),
  pieces: z
    .array(z.strictObject({ id: idField, what: z.enum(pieceKinds), lengthM: z.number().positive().max(200) }))
    .min(1)
    .max(60),
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
const patchOfRoom = roomSchema.omit({ id: true }).partial()

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
  'wall.add': edit(
    { item: wallSchema.omit({ room: true }).extend({ room: text(120) }) },
    (job, { item }) => addTo(job.walls, { ...item, room: roomNamed(job, item.room) }, 'item.id'),
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
    (job, { id, patch: { room, ...patch } }) =>
      void Object.assign(inList(job.walls, id, 'wall'), patch, room === undefined ? {} : { room: roomNamed(job, room) }),
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
