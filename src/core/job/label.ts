import { z } from 'zod'
import { text } from './fields'
import { edits } from './part'

/** Widths that label tape comes in, in millimetres. */
export const tapeWidthsMm = [6, 9, 12, 18, 24] as const
export type TapeMm = (typeof tapeWidthsMm)[number]
/** The place of a label: names of the thing, the board or box, and the cable. */
const key = text(240).min(1)

/** Characters of a label that are kept. */
export const MOST_TEXT = 2000

const stuckSchema = z.strictObject({
  key,
  /** Its words when it was stuck, without the date. */
  text: text(MOST_TEXT),
  at: z.iso.datetime(),
})
export type StuckLabel = z.infer<typeof stuckSchema>

export const labelsSchema = z.strictObject({
  /** The tape that they are printed on; null: sheets of stickers, each of the size of its place. */
  tapeMm: z.literal(tapeWidthsMm).nullable(),
  /** Where this record is found, as it is written in the QR code of each label; null: labels have no code. */
  address: z
    .url({ protocol: /^https?$/, error: 'An address that begins with http:// or https://' })
    .max(200)
    .nullable(),
  stuck: z.array(stuckSchema).max(20_000),
})
export type LabelsRecord = z.infer<typeof labelsSchema>
export const newLabels = (): LabelsRecord => ({ tapeMm: null, address: null, stuck: [] })

/** A word and how it is written where room is short. */
export const abbreviationSchema = z.strictObject({ word: z.string().trim().min(1).max(60), short: z.string().trim().min(1).max(30) })
export type Abbreviation = z.infer<typeof abbreviationSchema>

const edit = edits<{ labels?: LabelsRecord }>()
export const labelEdits = {
  'labels.set': edit(
    { patch: labelsSchema.omit({ stuck: true }).partial() },
    (job, { patch }) => void Object.assign((job.labels ??= newLabels()), patch),
    ({ patch }, say) => `Labels: ${say.fields(patch)}`,
  ),
  /** Labels that were stuck, as they read then. */
  'labels.stick': edit(
    { items: z.array(stuckSchema).min(1).max(2000) },
    (job, { items }) => {
      const labels = (job.labels ??= newLabels())
      const keys = new Set(items.map((i) => i.key))
      labels.stuck = [...labels.stuck.filter((s) => !keys.has(s.key)), ...items]
    },
    ({ items }) => (items.length === 1 ? 'A label stuck' : `${items.length} labels stuck`),
  ),
  'labels.unstick': edit(
    { key },
    (job, { key: gone }) => {
      if (job.labels) job.labels.stuck = job.labels.stuck.filter((s) => s.key !== gone)
    },
    () => 'A label taken off',
  ),
}
