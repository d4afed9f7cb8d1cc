import { z } from 'zod'
import { conduitSizes } from '../calculate/conduit-fill'
import { racewayKinds } from '../calculate/tables'
import { amount, idField, text, word } from './fields'
import { addTo, EditError, edits, inList } from './part'
import { forgetShared, type SignalCable } from './signal-cable'

export const racewaySchema = z.strictObject({
  id: idField,
  name: text(120),
  /** North America; elsewhere a round conduit of `conduitMm`. */
  kind: z.enum(racewayKinds),
  tradeSize: word(10),
  conduitMm: z.enum(conduitSizes),
  /** Quarter bends between draw-in points, where they are counted and not marked out. */
  bendCount: z.int().min(0).max(20),
  nipple: z.boolean(),
  lengthM: amount.nullable(),
  /** Lowest and highest temperature of the site over the year. */
  minC: z.number().min(-60).max(90),
  maxC: z.number().min(-60).max(90),
  circuits: z.array(idField).max(60),
  /** The piece of a cable's chosen route that it was marked out from, as that was then; null or not said: it was measured by itself. */
  along: z
    .strictObject({ cable: idField, piece: z.int().min(1).max(200), lengthM: amount, bends: z.int().min(0).max(400) })
    .nullable()
    .optional(),
  /** The lengths its pipe comes in; not said: it is bent in one piece. */
  stockM: z.number().positive().max(100).nullable().optional(),
  /** To the middle of the pipe, of the former it is bent round, where no table gives it; not said: nothing is marked out. */
  formerMm: z.number().positive().max(2000).nullable().optional(),
  bends: z
    .array(
      z.discriminatedUnion('kind', [
        z.strictObject({ id: idField, kind: z.literal('offset'), riseMm: amount, angleDeg: z.number().positive().max(90) }),
        z.strictObject({ id: idField, kind: z.literal('stub-90'), heightMm: amount }),
        z.strictObject({ id: idField, kind: z.literal('straight'), lengthMm: amount }),
      ]),
    )
    .max(40),
})
export type Raceway = z.infer<typeof racewaySchema>

export const newRaceway = (id: string, name: string, more: Partial<Raceway> = {}): Raceway => ({
  id,
  name,
  kind: 'emt',
  tradeSize: '3/4',
  conduitMm: '20',
  bendCount: 0,
  nipple: false,
  lengthM: null,
  minC: 0,
  maxC: 35,
  circuits: [],
  bends: [],
  ...more,
})

interface Doc {
  circuits: { id: string }[]
  raceways: Raceway[]
  signalCables?: SignalCable[] | undefined
  prices: Record<string, number>
}
const edit = edits<Doc>()
function mustBeThere({ circuits }: Doc, named: readonly string[] | undefined, path: string): void {
  for (const [i, id] of (named ?? []).entries())
    if (!circuits.some((c) => c.id === id)) throw new EditError(`${path}.${i}`, 'This circuit is no longer in the job.')
}

export const racewayEdits = {
  'raceway.add': edit(
    { item: racewaySchema },
    (job, { item }) => {
      mustBeThere(job, item.circuits, 'item.circuits')
      addTo(job.raceways, item, 'item.id')
    },
    ({ item }) => `${item.name} added`,
  ),
  'raceway.set': edit(
    { id: idField, patch: racewaySchema.omit({ id: true }).partial() },
    (job, { id, patch }) => {
      mustBeThere(job, patch.circuits, 'patch.circuits')
      Object.assign(inList(job.raceways, id, 'raceway'), patch)
    },
    ({ id, patch }, say) => `${say.name(id, 'Raceway')}: ${say.fields(patch)}`,
  ),
  'raceway.remove': edit(
    { id: idField },
    (job, { id }) => {
      inList(job.raceways, id, 'raceway')
      job.raceways = job.raceways.filter((r) => r.id !== id)
      forgetShared(job, new Set([id]))
    },
    ({ id }, say) => `${say.name(id, 'Raceway')} removed`,
  ),
  'price.set': edit(
    { name: idField, amount: z.number().nonnegative().max(1e6).nullable() },
    (job, { name, amount: price }) => {
      if (price === null) delete job.prices[name]
      else job.prices[name] = price
    },
    ({ name, amount: price }) => `Price of ${name}: ${price ?? 'the usual one'}`,
  ),
}
