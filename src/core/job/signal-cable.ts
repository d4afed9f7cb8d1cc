import { z } from 'zod'
import { signalKinds } from '../region/types'
import { amount, idField, text } from './fields'
import { addTo, EditError, edits, inList } from './part'

/** A cable of extra-low voltage or telecommunication that is laid with the work, or that the work meets. */
export const signalCableSchema = z.strictObject({
  id: idField,
  name: text(120),
  kind: z.enum(signalKinds),
  state: z.enum(['existing', 'new']),
  from: text(120),
  to: text(120),
  /** Cores of thermostat and bell cable; null: not said. */
  cores: z.int().min(1).max(30).nullable(),
  lengthM: amount.nullable(),
  /** Raceways and boxes with power conductors that it shares, by id; null: not looked at, or not decided. */
  shares: z.array(idField).max(50).nullable(),
  /** Whether a barrier parts it from the power conductors there; null: not known. */
  barrier: z.boolean().nullable(),
  /** Whether it is insulated for the highest voltage present; null: not known. */
  insulated: z.boolean().nullable(),
  /** The least distance to cables of power along its run, in millimetres; null: not known. */
  apartMm: amount.nullable(),
})
export type SignalCable = z.infer<typeof signalCableSchema>

export const newSignalCable = (id: string, name: string, more: Partial<SignalCable> = {}): SignalCable => ({
  id,
  name,
  kind: 'data',
  state: 'new',
  from: '',
  to: '',
  cores: null,
  lengthM: null,
  shares: null,
  barrier: null,
  insulated: null,
  apartMm: null,
  ...more,
})

interface Doc {
  signalCables?: SignalCable[] | undefined
  raceways: { id: string }[]
  boxes: { id: string }[]
}
const edit = edits<Doc>()

function mustBeThere({ raceways, boxes }: Doc, shares: readonly string[] | null | undefined, path: string): void {
  for (const [i, id] of (shares ?? []).entries())
    if (![...raceways, ...boxes].some((x) => x.id === id)) throw new EditError(`${path}.${i}`, 'It is no longer in the job.')
}

/** A raceway or box that is gone is shared by nothing; where it was all that was shared, what it runs with now is to be said again. */
export function forgetShared(job: Pick<Doc, 'signalCables'>, gone: ReadonlySet<string>): void {
  for (const cable of job.signalCables ?? [])
    if (cable.shares?.some((id) => gone.has(id))) {
      const left = cable.shares.filter((id) => !gone.has(id))
      cable.shares = left.length ? left : null
    }
}

export const signalCableEdits = {
  'signal-cable.add': edit(
    { item: signalCableSchema },
    (job, { item }) => {
      mustBeThere(job, item.shares, 'item.shares')
      addTo((job.signalCables ??= []), item, 'item.id')
    },
    ({ item }) => `${item.name} added`,
  ),
  'signal-cable.set': edit(
    { id: idField, patch: signalCableSchema.omit({ id: true }).partial() },
    (job, { id, patch }) => {
      mustBeThere(job, patch.shares, 'patch.shares')
      Object.assign(inList(job.signalCables ?? [], id, 'cable'), patch)
    },
    ({ id, patch }, say) => `${say.name(id, 'Data or control cable')}: ${say.fields(patch)}`,
  ),
  'signal-cable.remove': edit(
    { id: idField },
    (job, { id }) => {
      inList(job.signalCables ?? [], id, 'cable')
      job.signalCables = job.signalCables!.filter((c) => c.id !== id)
    },
    ({ id }, say) => `${say.name(id, 'Data or control cable')} removed`,
  ),
}
