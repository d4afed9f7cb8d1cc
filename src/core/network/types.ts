import { z } from 'zod'
import { breakerTypes, regionIds } from '../region/types'
import { nonNegative, positive } from '../calculate/fields'

const id = z.string().min(1)
const node = z.string().min(1)
const poles = z.array(z.strictObject({ line: node, load: node })).min(1)

export const elementSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    id,
    kind: z.literal('wire'),
    a: node,
    b: node,
    ohm: nonNegative.optional(),
    region: z.enum(regionIds).optional(),
    size: z.string().optional(),
    lengthM: nonNegative.optional(),
  }),
  z.strictObject({ id, kind: z.literal('breaker'), poles, ratingA: positive, type: z.enum(breakerTypes).optional() }),
  z.strictObject({ id, kind: z.literal('switch'), poles: z.array(z.strictObject({ a: node, b: node })).min(1) }),
  z.strictObject({ id, kind: z.literal('rcd'), poles, tripMa: positive }),
  z.strictObject({
    id,
    kind: z.literal('load'),
    a: node,
    b: node,
    watts: nonNegative,
    volts: positive,
    powerFactor: positive.max(1).default(1),
  }),
  z.strictObject({ id, kind: z.literal('impedance'), a: node, b: node, ohm: nonNegative, reactanceOhm: z.number().default(0) }),
])
export type Element = z.output<typeof elementSchema>

export const networkInput = z.strictObject({
  supply: z.strictObject({
    system: z.enum(['split-phase', 'single-phase']),
    volts: positive,
    frequencyHz: positive,
    sourceOhm: positive,
    earthing: z.enum(['tn', 'tt']),
    electrodeOhm: positive.optional(),
  }),
  elements: z.array(elementSchema),
  state: z.strictObject({ open: z.array(z.string()).optional() }).optional(),
  probes: z.array(
    z.discriminatedUnion('kind', [
      z.strictObject({ id, kind: z.literal('volts'), a: node, b: node }),
      z.strictObject({ id, kind: z.literal('ohms'), a: node, b: node }),
      z.strictObject({ id, kind: z.literal('amps'), a: z.string() }),
    ]),
  ),
})
export type NetworkInput = z.output<typeof networkInput>

export const networkOutput = z.strictObject({
  nodes: z.record(z.string(), z.number()),
  amps: z.record(z.string(), z.number()),
  residualMa: z.record(z.string(), z.number()),
  trips: z.array(z.strictObject({ id: z.string(), cause: z.enum(['residual', 'overload', 'magnetic']) })),
  probes: z.record(z.string(), z.union([z.number(), z.literal('open')])),
})
export type NetworkState = z.infer<typeof networkOutput>
