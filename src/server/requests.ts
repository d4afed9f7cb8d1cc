import { z } from 'zod'
import { demoJobs } from '@/core/demo/demo'
import { editSchema } from '@/core/job/edits'
import { idField } from '@/core/job/fields'
import { readingSchema } from '@/core/job/reading'
import { practiceSchema } from '@/core/job/report'
import { jobSchema } from '@/core/job/schema'
import { MOST_BYTES, photographSchema } from '@/core/verify/photograph'
import { stockMoveSchema } from '@/core/workday/stock'

/*
 * What each request of the HTTP interface carries: the routes check it, and its description for other programs is made from it.
 */

const YEAR_MS = 366 * 24 * 3600 * 1000
/** When a device says something was done: no clock that was never set, and no act of another age. */
const doneAt = z.iso.datetime().refine((at) => Date.now() - Date.parse(at) < YEAR_MS, 'the clock of the device is wrong')
/** Who did something on a device, as it kept it: what waited is not the next person's who signs in there. */
const doneBy = z.string().trim().max(120)
const done = { at: doneAt.optional(), by: doneBy.optional() }
const revision = z.int().positive()
/** How many rows of a list the device holds already. */
const held = z.int().nonnegative()

const named = z
  .string()
  .regex(/^[^"\r\n]{0,64}$/)
  .default('')

export const requests = {
  newJob: z.strictObject({
    ...jobSchema.pick({ region: true, title: true, place: true }).shape,
    practice: practiceSchema.optional(),
    /** What is to be powered, by the catalogue, where that is known from the start. */
    appliance: z.string().max(64).optional(),
  }),
  edit: z.strictObject({
    revision,
    seen: revision.optional(),
    edit: editSchema,
    act: idField.optional(),
    ...done,
    /** Acts of the same device that it was done on top of and that the server had not answered. */
    over: z.array(idField).max(2000).optional(),
  }),
  step: z.strictObject({ revision }),
  restore: z.strictObject({ revision, to: revision }),
  reading: readingSchema.omit({ by: true, at: true }).extend({ ...done, held: held.optional() }),
  photograph: photographSchema
    .pick({ id: true, photograph: true, of: true, words: true, out: true, moment: true, mark: true, unmarked: true })
    .extend({
      ...done,
      held: held.default(0),
      /** The JPEG in base 64. */
      data: z
        .base64()
        .max(Math.ceil(MOST_BYTES / 3) * 4 + 4)
        .optional(),
    }),
  demo: z.strictObject({ id: z.enum(demoJobs.map((d) => d.id)) }),
  signIn: z.strictObject({
    name: z.string().trim().min(1, 'Enter your name: it is shown on your changes.').max(120),
    passphrase: z.string().max(1000),
  }),
  instrument: z.strictObject({ name: z.string().min(1).max(120), unit: z.string().max(12).default(''), circuit: named, test: named }),
  stock: stockMoveSchema.omit({ at: true, by: true }).extend(done),
} as const
