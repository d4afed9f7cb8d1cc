import { z } from 'zod'
import { idField } from './fields'
import { edits, inList } from './part'

/** What a wall or ceiling is made of where a box goes in, from the face that one sees inwards. */
export const layerKinds = ['board', 'plaster', 'tile', 'panelling', 'cabinet', 'gap', 'insulation', 'masonry'] as const
const mm = (most: number) => z.number().positive().max(most)

/** How a box is held where it is. Null: not looked at. */
export const mountSchema = z.strictObject({
  /** Framing behind boards that are up, framing that is still open, masonry, or a surface to screw to. */
  behind: z.enum(['finished', 'open', 'masonry', 'surface']).nullable(),
  layers: z.array(z.strictObject({ what: z.enum(layerKinds), mm: mm(400) })).max(8),
  /** Free room behind the layers, to what is there. */
  cavityMm: z.number().nonnegative().max(1000).nullable(),
  /** From the middle of the box to the nearest stud’s face. */
  studMm: z.number().nonnegative().max(2000).nullable(),
  /** The outline of the box in the hand, as measured: what is traced. */
  outlineMm: z.tuple([mm(400), mm(400)]).nullable(),
  /** What the clamp of the box in the hand grips, as its maker says. */
  gripMm: z.tuple([z.number().nonnegative().max(200), mm(200)]).nullable(),
  /** How far its front lies behind the finished face, in millimetres; null or absent: not measured. */
  setBackMm: z.number().nonnegative().max(200).nullable().optional(),
  /** At the middle of a ceiling: whether a fan may ever hang there. */
  fan: z.boolean().nullable(),
})
export type MountRecord = z.infer<typeof mountSchema>
export const newMount = (): MountRecord => ({
  behind: null,
  layers: [],
  cavityMm: null,
  studMm: null,
  outlineMm: null,
  gripMm: null,
  fan: null,
})

const edit = edits<{ boxes: { id: string; mount?: MountRecord | undefined }[] }>()
export const mountEdits = {
  /** Of one box, or of several whose walls are alike. */
  'mount.set': edit(
    { boxes: z.array(idField).min(1).max(500), patch: mountSchema.partial() },
    (job, { boxes, patch }) => {
      for (const [i, id] of boxes.entries()) {
        const box = inList(job.boxes, id, 'box', `boxes.${i}`)
        box.mount = { ...(box.mount ?? newMount()), ...patch }
      }
    },
    ({ boxes, patch }, say) =>
      `${boxes.length === 1 ? say.name(boxes[0]!, 'A box') : `${boxes.length} boxes`}: how the box is held, ${say.fields(patch)}`,
  ),
}
