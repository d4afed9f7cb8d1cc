import { z } from 'zod'
import { accessory } from '../catalogue/accessories'
import { boxKind } from '../catalogue/boxes'
import type { RegionId } from '../region/types'
import { amount, fittedTypes, idField, noSite, site, states, text } from './fields'
import { benchSchema } from './bench'
import { mountSchema } from './mount'
import { addTo, EditError, edits, inList, type Say } from './part'
import { type Room, roomNamed, type WallRecord } from './room'

export const pointKinds = ['outlet', 'switch', 'light', 'fixed', 'box'] as const
export const conditions = ['sound', 'worn', 'damaged'] as const
export const loadSources = ['nameplate', 'measured', 'assumed'] as const

/** The enclosure of a point. */
export const boxSchema = z.strictObject({
  /** By the catalogue; null: not chosen, or not looked at. */
  kind: z.string().max(64).nullable(),
  /** Null: as the catalogue says of the box. */
  internalClamps: z.boolean().nullable(),
  supportFittings: z.int().min(0).max(4),
  /** Cables that enter it besides those of this record. */
  others: z.int().min(0).max(11),
})
export type BoxRecord = z.infer<typeof boxSchema>

/** A place where a conductor can end outside a board, with all that stands there. */
export const pointSchema = z.strictObject({
  ...site,
  id: idField,
  /** Empty: it is called as its circuit. */
  name: text(120),
  kind: z.enum(pointKinds),
  state: z.enum(states),
  room: idField.nullable(),
  /** Where it stands along a wall, from its start. */
  wall: z.strictObject({ wall: idField, atM: amount, outside: z.literal(true).optional() }).nullable(),
  /** On the ceiling of its room, or out of its floor, so far from its south-west corner, in place of a wall. */
  overhead: z.strictObject({ eastM: amount, northM: amount, underfoot: z.literal(true).optional() }).optional(),
  /** Centre above the finished floor, in millimetres. */
  heightMm: amount.nullable(),
  condition: z.enum(conditions).nullable(),
  /** Found behind plaster or above a ceiling; to be made accessible. */
  hidden: z.boolean(),
  /** Must not lose power: a freezer, an alarm. */
  mustHold: z.boolean(),
  /** The cable that arrives, as seen. */
  cable: text(80),
  watts: amount.nullable(),
  /** How the load is known; null: nobody said. */
  wattsFrom: z.enum(loadSources).nullable(),
  /** What it feeds, by the catalogue; null: anything. */
  appliance: text(64).nullable(),
  /** What stands there where it is not what its circuit ends on. */
  accessory: z.string().max(64).nullable(),
  outlets: z.int().min(0).max(20),
  /** Fed through a fused connection unit of this rating. */
  fuseA: z.number().positive().max(100).nullable(),
  /** Whether what hangs beyond it is on the load side of a residual device in it. */
  guardsOn: z.boolean(),
  /** What is fitted here where it is not what is fitted along the circuit. */
  fitted: z.array(z.enum(fittedTypes)).max(3).nullable(),
  /** Of a switch: the points it turns on and off. Not said: what is fed beyond it, or else the light it hangs from. */
  controls: z.array(idField).max(50).optional(),
  /** Of two lines that share a neutral; `AB` is across both. */
  leg: z.enum(['A', 'B', 'AB']),
  box: boxSchema,
  /** Wiring steps done there, by their id. */
  done: z.array(z.string().max(64)).max(200),
  /** The box as it is wired; none: the usual way. */
  bench: benchSchema.optional(),
  /** How its box is held in the wall; none: nobody looked. */
  mount: mountSchema.optional(),
})
export type PointRecord = z.infer<typeof pointSchema>

export const newBox = (): BoxRecord => ({ kind: null, internalClamps: null, supportFittings: 0, others: 0 })
export const newPoint = (id: string, name: string, more: Partial<PointRecord> = {}): PointRecord => ({
  ...noSite,
  id,
  name,
  kind: 'outlet',
  state: 'existing',
  room: null,
  wall: null,
  heightMm: null,
  condition: null,
  hidden: false,
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
  box: newBox(),
  done: [],
  ...more,
})

/** A point as it is typed: its room by name. */
export const typedPoint = pointSchema.omit({ room: true, bench: true, mount: true }).extend({ room: text(120) })
export type TypedPoint = z.infer<typeof typedPoint>
/** A point to be typed in. */
export const blankPoint = (id: string, name: string, more: Partial<TypedPoint> = {}): TypedPoint => {
  const { room = '', ...rest } = more
  return { ...newPoint(id, name, rest), room }
}

interface Doc {
  region: RegionId
  rooms: Room[]
  walls: WallRecord[]
  points: PointRecord[]
}
const edit = edits<Doc>()

export function mustBeListed({ region }: { region: RegionId }, chosen: string | null | undefined, path: string): void {
  if (chosen && accessory(chosen)?.region !== region) throw new EditError(path, 'This accessory is not listed for where the job is.')
}

export function typedToPoint(job: Doc, { room, ...point }: TypedPoint, path: string): PointRecord {
  mustBeListed(job, point.accessory, `${path}.accessory`)
  if (point.wall) inList(job.walls, point.wall.wall, 'wall', `${path}.wall`)
  return { ...point, room: roomNamed(job, room) }
}

export function setPoint(job: Doc, point: PointRecord, { room, ...patch }: Partial<TypedPoint>): void {
  mustBeListed(job, patch.accessory, 'patch.accessory')
  if (patch.wall) inList(job.walls, patch.wall.wall, 'wall', 'patch.wall')
  Object.assign(point, patch, room === undefined ? {} : { room: roomNamed(job, room) })
}

const named = (points: readonly string[], say: Say) => (points.length === 1 ? say.name(points[0]!) : `${points.length} points`)

export const pointEdits = {
  'point.add': edit(
    { points: z.array(typedPoint).min(1).max(500) },
    (job, { points }) => {
      for (const [i, p] of points.entries()) addTo(job.points, typedToPoint(job, p, `points.${i}`), `points.${i}.id`)
    },
    ({ points }) => (points.length === 1 ? `Point ${points[0]!.name} added` : `${points.length} points added`),
  ),
  'point.set': edit(
    { id: idField, patch: typedPoint.omit({ id: true, box: true, done: true }).partial() },
    (job, { id, patch }) => setPoint(job, inList(job.points, id, 'point'), patch),
    ({ id, patch }, say) => `${say.name(id)}: ${say.patch(patch)}`,
  ),
  'point.remove': edit(
    { id: idField },
    (job, { id }) => {
      inList(job.points, id, 'point')
      job.points = job.points.filter((p) => p.id !== id)
    },
    ({ id }, say) => `Point ${say.name(id)} removed`,
  ),
  /** Of one point, or of several that are alike. */
  'box.set': edit(
    { points: z.array(idField).min(1).max(500), patch: boxSchema.partial() },
    (job, { points, patch }) => {
      if (patch.kind && !boxKind(patch.kind)?.regions.includes(job.region))
        throw new EditError('patch.kind', 'This box is not listed for where the job is.')
      for (const [i, id] of points.entries()) Object.assign(inList(job.points, id, 'point', `points.${i}`).box, patch)
    },
    ({ points, patch }, say) => `Box of ${named(points, say)}: ${say.patch(patch)}`,
  ),
  'wiring.step': edit(
    { points: z.array(idField).min(1).max(500), step: idField, done: z.boolean() },
    (job, { points, step, done }) => {
      for (const [i, id] of points.entries()) {
        const point = inList(job.points, id, 'point', `points.${i}`)
        point.done = done ? [...new Set([...point.done, step])] : point.done.filter((s) => s !== step)
      }
    },
    ({ points, step, done }, say) => `Wiring step ${step} at ${named(points, say)} ${done ? 'done' : 'taken back'}`,
  ),
  /** Several steps at once, where somebody ticks them after the work. */
  'wiring.done': edit(
    { points: z.array(idField).min(1).max(500), steps: z.array(idField).min(1).max(100) },
    (job, { points, steps }) => {
      for (const [i, id] of points.entries()) {
        const point = inList(job.points, id, 'point', `points.${i}`)
        point.done = [...new Set([...point.done, ...steps])]
      }
    },
    ({ points, steps }, say) => `Wiring at ${named(points, say)}: ${steps.length} steps done`,
  ),
}
