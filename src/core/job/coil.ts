import { z } from 'zod'
import { idField, word } from './fields'
import { addTo, edits, inList } from './part'

/** A length of cable that is in the van or may be bought, to cut pieces from. */
export const coilSchema = z.strictObject({
  id: idField,
  /** Kind of cable, by the catalogue, and its size. */
  cable: word(40),
  size: word(20),
  lengthM: z.number().positive().max(10_000),
  /** Null: not known. */
  price: z.number().nonnegative().max(1e6).nullable(),
  onHand: z.boolean(),
})
export type Coil = z.infer<typeof coilSchema>

const edit = edits<{ coils?: Coil[] | undefined }>()

export const coilEdits = {
  'coil.add': edit(
    { item: coilSchema },
    (job, { item }) => addTo((job.coils ??= []), item, 'item.id'),
    ({ item }) => `${item.onHand ? 'In the van' : 'To buy'}: ${item.lengthM} m of ${item.size}`,
  ),
  'coil.set': edit(
    { id: idField, patch: coilSchema.omit({ id: true, cable: true, size: true }).partial() },
    (job, { id, patch }) => void Object.assign(inList(job.coils ?? [], id, 'coil'), patch),
    ({ patch }, say) => `Coil: ${say.patch(patch)}`,
  ),
  'coil.remove': edit(
    { id: idField },
    (job, { id }) => {
      inList(job.coils ?? [], id, 'coil')
      job.coils = job.coils!.filter((c) => c.id !== id)
    },
    () => 'Coil removed',
  ),
}
