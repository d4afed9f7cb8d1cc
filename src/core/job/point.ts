import { z } from 'zod'
import { accessory } from '../catalogue/accessories'
import type { RegionId } from '../region/types'
import { amount, fittedTypes, idField, noSite, site, states, text, word } from './fields'
import { type BoxRecord, dropEmptyBoxes, newBox, noPlace, placeFields } from './box'
import { addTo, EditError, edits, inList } from './part'
import { type Room, roomNamed, type WallRecord } from './room'

export const pointKinds = ['outlet', 'switch', 'light', 'fixed', 'box'] as const
export const conditions = ['sound', 'worn', 'damaged'] as const
export const loadSources = ['nameplate', 'measured', 'assumed'] as const

/** A place where a conductor can end outside a board, with all that is installed there. */
export const pointSchema = z.strictObject({
  ...site,
  id: idField,
  /** Empty: it is called as its circuit. */
  name: text(120),
  kind: z.enum(pointKinds),
  state: z.enum(states),
  /** The box it is in, alone or with others. */
  box: idField,
  condition: z.enum(conditions).nullable(),
  /** Must not lose power: a freezer, an alarm. */
  mustHold: z.boolean(),
  /** The cable that arrives, as seen. */
  cable: text(80),
  watts: amount.nullable(),
  /** How the load is known; null: not said. */
  wattsFrom: z.enum(loadSources).nullable(),
  /** What it feeds, by the catalogue; null: anything. */
  appliance: word(64).nullable(),
  /** What is there where it is not what its circuit ends on. */
  accessory: word(64).nullable(),
  outlets: z.int().min(0).max(20),
  /** Fed through a fused connection unit of this rating. */
  fuseA: z.number().positive().max(100).nullable(),
  /** Whether what is fed beyond it is on the load side of a residual device in it. */
  guardsOn: z.boolean(),
  /** What is fitted here where it is not what is fitted along the circuit. */
  fitted: z.array(z.enum(fittedTypes)).max(3).nullable(),
  /** Of a switch: the points it turns on and off. Not said: what is fed beyond it, or else the light it is fed from. */
  controls: z.array(idField).max(50).optional(),
  /** Of two lines that share a neutral; `AB` is across both. */
  leg: z.enum(['A', 'B', 'AB']),
})
export type PointRecord = z.infer<typeof pointSchema>

/** A point as it is read: where it is, and the box it is in. */
export type PlacedPoint = Omit<PointRecord, 'box'> & BoxPlace & { readonly box: BoxRecord }
export type BoxPlace = Pick<BoxRecord, keyof typeof placeFields>

export const newPoint = (id: string, name: string, more: Partial<PointRecord> = {}): PointRecord => ({
  ...noSite,
  id,
  name,
  kind: 'outlet',
  state: 'existing',
  box: id,
  condition: null,
  mustHold: false,
  cable: '',
  watts: null,
  wattsFrom: null,
  appliance: null,
  accessory: null,
  outlets: more.kind === undefined || more.kind === 'outlet' ? 1 : 0,
  fuseA: null,
  guardsOn: false,
  fitted: null,
  leg: 'A',
  ...more,
})

/** A point as it is typed: where it is, its room by name; `box`: one that is there, which it goes into. */
export const typedPoint = pointSchema.extend({ ...placeFields, room: text(120), box: idField.optional() })
export type TypedPoint = z.infer<typeof typedPoint>
/** A point to be typed in. */
export const blankPoint = (id: string, name: string, more: Partial<TypedPoint> = {}): TypedPoint => {
  const { room = '', ...rest } = more
  const { box: _, ...point } = newPoint(id, name, { kind: rest.kind ?? 'outlet' })
  return { ...point, ...noPlace, room, ...rest }
}
/** What may be changed of a point. */
export const pointPatch = typedPoint.omit({ id: true, box: true }).partial()
export type PointPatch = z.infer<typeof pointPatch>

interface Doc {
  region: RegionId
  rooms: Room[]
  walls: WallRecord[]
  points: PointRecord[]
  boxes: BoxRecord[]
}
const edit = edits<Doc>()

export function mustBeListed({ region }: { region: RegionId }, chosen: string | null | undefined, path: string): void {
  if (chosen && accessory(chosen)?.region !== region) throw new EditError(path, 'This accessory is not listed for where the job is.')
}

/** A point with the box it comes with. */
export function putPoint(job: Pick<Doc, 'points' | 'boxes'>, point: PointRecord, box: Partial<BoxRecord> = {}, path = 'id'): void {
  addTo(job.points, point, path)
  if (!job.boxes.some((b) => b.id === point.box)) job.boxes.push(newBox(point.box, box))
}

/** Points that go, with the boxes that they leave empty. */
export function dropPoints(job: Pick<Doc, 'points' | 'boxes'>, gone: (point: PointRecord) => boolean): void {
  const left = job.points.filter((p) => !gone(p))
  if (left.length === job.points.length) return
  job.points = left
  dropEmptyBoxes(job)
}

/** A point as it was typed, put into the record, in the box that it names or in one of its own. */
export function putTyped(job: Doc, typed: TypedPoint, path: string): PointRecord {
  const { room, wall, overhead, heightMm, hidden, box, ...point } = typed
  mustBeListed(job, point.accessory, `${path}.accessory`)
  if (wall) inList(job.walls, wall.wall, 'wall', `${path}.wall`)
  if (box !== undefined) inList(job.boxes, box, 'box', `${path}.box`)
  const made: PointRecord = { ...point, box: box ?? freeBoxId(job, point.id) }
  const place = { room: roomNamed(job, room), wall, heightMm, hidden, ...(overhead ? { overhead } : {}) }
  putPoint(job, made, place, `${path}.id`)
  return made
}
const freeBoxId = ({ boxes }: Pick<Doc, 'boxes'>, point: string): string =>
  boxes.some((b) => b.id === point) ? `${point}-box`.slice(0, 64) : point

/** The record of a point; its place is that of its box, and so of all that is in it. */
export function setPoint(job: Doc, point: PointRecord, patch: PointPatch): void {
  mustBeListed(job, patch.accessory, 'patch.accessory')
  if (patch.wall) inList(job.walls, patch.wall.wall, 'wall', 'patch.wall')
  const { room, ...rest } = patch
  const box = inList(job.boxes, point.box, 'box')
  const isPlace = (key: string): boolean => key in placeFields
  for (const [key, value] of Object.entries(rest)) Object.assign(isPlace(key) ? box : point, { [key]: value })
  if (room !== undefined) box.room = roomNamed(job, room)
}

export const pointEdits = {
  'point.add': edit(
    { points: z.array(typedPoint).min(1).max(500) },
    (job, { points }) => {
      for (const [i, p] of points.entries()) putTyped(job, p, `points.${i}`)
    },
    ({ points }) => (points.length === 1 ? `Point ${points[0]!.name} added` : `${points.length} points added`),
  ),
  'point.set': edit(
    { id: idField, patch: pointPatch },
    (job, { id, patch }) => setPoint(job, inList(job.points, id, 'point'), patch),
    ({ id, patch }, say) => `${say.name(id)}: ${say.patch(patch)}`,
  ),
  'point.remove': edit(
    { id: idField },
    (job, { id }) => {
      inList(job.points, id, 'point')
      dropPoints(job, (p) => p.id === id)
    },
    ({ id }, say) => `Point ${say.name(id)} removed`,
  ),
}
