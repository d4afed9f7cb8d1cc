import { z } from 'zod'
import { boxKind } from '../catalogue/boxes'
import type { RegionId } from '../region/types'
import { benchSchema } from './bench'
import { amount, idField, word } from './fields'
import { mountSchema } from './mount'
import { EditError, edits, inList, type Say } from './part'
import { forgetShared, type SignalCable } from './signal-cable'

/** Where a box is, whatever is in it. */
export const placeFields = {
  room: idField.nullable(),
  /** Where it is along a wall, from its start. */
  wall: z.strictObject({ wall: idField, atM: amount, outside: z.literal(true).optional() }).nullable(),
  /** On the ceiling of its room, or out of its floor, so far from its south-west corner, in place of a wall. */
  overhead: z.strictObject({ eastM: amount, northM: amount, underfoot: z.literal(true).optional() }).optional(),
  /** Centre above the finished floor, in millimetres. */
  heightMm: amount.nullable(),
  /** Found behind plaster or above a ceiling; to be made accessible. */
  hidden: z.boolean(),
}
export const noPlace = { room: null, wall: null, heightMm: null, hidden: false } as const

/** Of a box that no catalogue has: what was measured on it. Null: not measured. */
export const measuredBoxSchema = z.strictObject({
  volumeCm3: z.number().positive().max(100_000).nullable(),
  depthMm: z.number().positive().max(500).nullable(),
  gangs: z.int().min(1).max(4),
  metal: z.boolean().nullable(),
})
export type MeasuredBox = z.infer<typeof measuredBoxSchema>

/** What is left where a box is taken out of use; null: not decided. */
export const leftBehind = ['capped', 'pulled-out', 'made-good'] as const

/** An enclosure, with what is known of it and how it is wired. Its contents are the points that name it. */
export const boxSchema = z.strictObject({
  id: idField,
  ...placeFields,
  /** By the catalogue; null: not chosen, or not looked at. */
  kind: word(64).nullable(),
  /** Measured, where it is none of the catalogue. */
  measured: measuredBoxSchema.optional(),
  /** The box to be put in place of one that was found, which stays as it was recorded. */
  planned: z.strictObject({ kind: word(64) }).optional(),
  /** Null: as the catalogue says of the box. */
  internalClamps: z.boolean().nullable(),
  supportFittings: z.int().min(0).max(4),
  /** Cables that enter it besides those of this record. */
  others: z.int().min(0).max(11),
  /** What is left where all that stood in it is taken out; none: not decided. */
  left: z.enum(leftBehind).optional(),
  /** Wiring steps done there, by their id. */
  done: z.array(word(64)).max(300),
  /** The box as it is wired; none: the standard way. */
  bench: benchSchema.optional(),
  /** How it is held in the wall; none: not looked at. */
  mount: mountSchema.optional(),
})
export type BoxRecord = z.infer<typeof boxSchema>

export const newBox = (id: string, more: Partial<BoxRecord> = {}): BoxRecord => ({
  id,
  ...noPlace,
  kind: null,
  internalClamps: null,
  supportFittings: 0,
  others: 0,
  done: [],
  ...more,
})

/** A box with nothing in it is not kept in the record. */
export function dropEmptyBoxes(job: Pick<Doc, 'points' | 'boxes' | 'signalCables'>): void {
  const used = new Set(job.points.map((p) => p.box))
  const gone = new Set(job.boxes.flatMap((b) => (used.has(b.id) ? [] : [b.id])))
  if (gone.size === 0) return
  job.boxes = job.boxes.filter((b) => used.has(b.id))
  forgetShared(job, gone)
}

interface Doc {
  region: RegionId
  signalCables?: SignalCable[] | undefined
  boxes: BoxRecord[]
  points: { id: string; box: string; state: string }[]
}
const edit = edits<Doc>()

/** What boxes are called: as what is in them. */
export const boxesNamed = (boxes: readonly string[], say: Say): string =>
  boxes.length === 1 ? say.name(boxes[0]!, 'a box') : `${boxes.length} boxes`

const mustBeListed = (region: RegionId, kind: string | null | undefined, path: string): void => {
  if (kind && !boxKind(kind)?.regions.includes(region)) throw new EditError(path, 'This box is not listed for where the job is.')
}

/** What is said of a box besides where it is and how it is wired; null of `measured`, `planned` or `left` takes it back. */
const patchOfBox = boxSchema
  .pick({ kind: true, internalClamps: true, supportFittings: true, others: true })
  .extend({
    measured: measuredBoxSchema.nullable(),
    planned: boxSchema.shape.planned.unwrap().nullable(),
    left: z.enum(leftBehind).nullable(),
  })
  .partial()
export type BoxPatch = z.infer<typeof patchOfBox>

function setBox(box: BoxRecord, { measured, planned, left, ...patch }: BoxPatch): void {
  Object.assign(box, patch)
  // A box is of a kind or measured, never both.
  if (patch.kind) delete box.measured
  for (const [key, value] of Object.entries({ measured, planned, left }))
    if (value === null) delete box[key as 'measured']
    else if (value !== undefined) Object.assign(box, { [key]: value })
  if (measured) box.kind = null
}

export const boxEdits = {
  /** Of one box, or of several that are alike. */
  'box.set': edit(
    { boxes: z.array(idField).min(1).max(500), patch: patchOfBox },
    (job, { boxes, patch }) => {
      mustBeListed(job.region, patch.kind, 'patch.kind')
      mustBeListed(job.region, patch.planned?.kind, 'patch.planned.kind')
      for (const [i, id] of boxes.entries()) setBox(inList(job.boxes, id, 'box', `boxes.${i}`), patch)
    },
    ({ boxes, patch }, say) => `Box of ${boxesNamed(boxes, say)}: ${say.patch(patch)}`,
  ),
  /** A point put into the box of others; null: into one of its own, where it is. */
  'box.share': edit(
    { point: idField, box: idField.nullable() },
    (job, { point: id, box }) => {
      const point = inList(job.points, id, 'point', 'point')
      const was = inList(job.boxes, point.box, 'box', 'point')
      if (box === null) {
        const others = job.points.filter((p) => p.box === point.box && p.id !== id)
        if (others.length === 0) throw new EditError('point', 'It has a box of its own already.')
        const { room, wall, overhead, heightMm, hidden } = was
        const own = job.boxes.some((b) => b.id === id) ? `${id}-box`.slice(0, 64) : id
        if (job.boxes.some((b) => b.id === own)) throw new EditError('point', 'There is a box with this id already.')
        job.boxes.push(newBox(own, { room, wall, heightMm, hidden, ...(overhead ? { overhead } : {}) }))
        point.box = own
        return
      }
      const into = inList(job.boxes, box, 'box', 'box')
      if (into === was) throw new EditError('box', 'It is in this box already.')
      const there = job.points.filter((p) => p.box === box)
      // What was found in a box of its own is not in one that is still to be put in.
      if (point.state !== 'new' && there.every((p) => p.state === 'new'))
        throw new EditError('box', 'This box is new. Put the new point into the existing box, and replace that one.')
      if (there.length >= 8) throw new EditError('box', 'A box holds at most eight accessories.')
      point.box = box
      dropEmptyBoxes(job)
    },
    ({ point, box }, say) =>
      box === null ? `${say.name(point, 'A point')}: in a box of its own` : `${say.name(point, 'A point')}: in the box of ${say.name(box)}`,
  ),
  'wiring.step': edit(
    { boxes: z.array(idField).min(1).max(500), step: idField, done: z.boolean() },
    (job, { boxes, step, done }) => {
      for (const [i, id] of boxes.entries()) {
        const box = inList(job.boxes, id, 'box', `boxes.${i}`)
        box.done = done ? [...new Set([...box.done, step])] : box.done.filter((s) => s !== step)
      }
    },
    ({ boxes, step, done }, say) => `Wiring step ${step} at ${boxesNamed(boxes, say)} ${done ? 'done' : 'taken back'}`,
  ),
  /** Several steps at once, where somebody ticks them after the work. */
  'wiring.done': edit(
    { boxes: z.array(idField).min(1).max(500), steps: z.array(idField).min(1).max(300) },
    (job, { boxes, steps }) => {
      for (const [i, id] of boxes.entries()) {
        const box = inList(job.boxes, id, 'box', `boxes.${i}`)
        box.done = [...new Set([...box.done, ...steps])]
      }
    },
    ({ boxes, steps }, say) => `Wiring at ${boxesNamed(boxes, say)}: ${steps.length} steps done`,
  ),
}
