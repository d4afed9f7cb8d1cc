import { z } from 'zod'
import { idField, text, word } from './fields'

/** A measurement or a confirmed step. Never edited: a correction is a new reading that names the old. */
export const readingSchema = z.strictObject({
  id: idField,
  circuit: idField,
  /** The point it was taken at; null: of the circuit as a whole. */
  point: idField.nullable(),
  test: word(64).min(1),
  /** In `unit`; null where the reading is a mark alone. */
  value: z.number().nullable(),
  /** yes/no for a step or observation; `over` for more than the value; `open` where the meter shows no circuit. */
  mark: z.enum(['yes', 'no', 'over', 'open']).nullable(),
  unit: word(12),
  at: z.iso.datetime(),
  by: text(120),
  instrument: text(120),
  note: text(500),
  corrects: idField.nullable(),
  /** What it was taken on: the way as it was then, and a mark of the cables and what is on them; null: not kept. */
  on: z.strictObject({ way: text(120), laid: text(16) }).nullable(),
})
export type Reading = z.infer<typeof readingSchema>
