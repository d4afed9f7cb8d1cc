import { z } from 'zod'

const id = z.string().min(1)
export const observationSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('breaker-off'), breaker: id, dead: z.array(id) }),
  z.strictObject({ kind: z.literal('disconnected'), point: id, dead: z.array(id) }),
  z.strictObject({ kind: z.literal('cables'), point: id, onward: z.int().nonnegative() }),
])
export type Observation = z.infer<typeof observationSchema>

export const traceInput = z.strictObject({
  breakers: z.array(id),
  points: z.array(id),
  observations: z.array(observationSchema),
  goal: z.strictObject({ points: z.array(id).min(1), want: z.enum(['feeds', 'parents']) }).optional(),
})
export type TraceInput = z.infer<typeof traceInput>

const testSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('breaker-off'), breaker: z.string() }),
  z.strictObject({ kind: z.literal('disconnected'), point: z.string() }),
])
export type TraceTest = z.infer<typeof testSchema>

export const traceOutput = z.strictObject({
  feeds: z.record(z.string(), z.string().nullable()),
  parents: z.record(z.string(), z.string().nullable()),
  candidates: z.record(z.string(), z.array(z.string())),
  nextTests: z.array(z.strictObject({ test: testSchema, bits: z.number() })),
  contradictions: z.array(z.strictObject({ observations: z.array(z.number()), message: z.string() })),
})
export type Trace = z.infer<typeof traceOutput>
/** Observations by their index that cannot all be true, and whether it was proved that no fewer will do. */
export interface Contradiction {
  readonly observations: readonly number[]
  readonly smallest: boolean
}

/** What a trace tells of the wiring, without the tests to make next. */
export type Deduction = Omit<Trace, 'nextTests' | 'contradictions'> & { readonly contradiction: Contradiction | null }
