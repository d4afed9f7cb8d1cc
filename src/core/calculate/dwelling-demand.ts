import { z } from 'zod'
import { type Finding, findingSchema } from '../base/finding'
import { formatA } from '../base/format'
import { atMost } from '../base/tolerance'
import { northAmericaTables } from '../region/north-america/tables'
import { unitedKingdomTables } from '../region/united-kingdom/tables'
import { count, nonNegative, positive } from './fields'

const na = northAmericaTables.dwellingDemand
const uk = unitedKingdomTables.diversity
const hvacKinds = Object.keys(na.hvac) as [keyof typeof na.hvac, ...(keyof typeof na.hvac)[]]
const naFields = {
  floorAreaM2: nonNegative,
  smallApplianceCircuits: count,
  laundryCircuits: count,
  appliancesVa: z.array(nonNegative),
  hvac: z.strictObject({ kind: z.enum(hvacKinds), va: nonNegative }).optional(),
  serviceA: positive,
  volts: positive.default(240),
}
const diversity = z.strictObject({
  method: z.literal('diversity'),
  lightingA: nonNegative,
  cookers: z.array(z.strictObject({ amps: nonNegative, socket: z.boolean() })),
  heatingA: nonNegative,
  instantHeatersA: z.array(nonNegative),
  storageHeaterA: nonNegative,
  vehicleA: nonNegative,
  socketCircuitsA: z.array(nonNegative),
  fixedA: z.array(nonNegative),
  serviceA: positive,
})
export const dwellingDemandInput = z.discriminatedUnion('method', [
  z.strictObject({ method: z.literal('whole'), ...naFields }),
  z.strictObject({ method: z.literal('existing'), ...naFields }),
  diversity,
])
export type DwellingDemandInput = z.infer<typeof dwellingDemandInput>
const partSchema = z.strictObject({ what: z.string(), connected: z.number(), counted: z.number() })
type Part = z.infer<typeof partSchema>
export const dwellingDemandOutput = z.strictObject({
  demandA: z.number(),
  spareA: z.number(),
  parts: z.array(partSchema),
  findings: z.array(findingSchema),
})

/**
 * The demand of a whole dwelling on its service, part by part (VA by the North American methods, A by diversity).
 * NFPA 70 220.82 and 220.83; OSG Table A1.
 */
export function dwellingDemand(input: DwellingDemandInput): z.infer<typeof dwellingDemandOutput> {
  const parts = input.method === 'diversity' ? diversityParts(input) : naParts(input)
  const counted = parts.reduce((sum, p) => sum + p.counted, 0)
  const demandA = input.method === 'diversity' ? counted : counted / input.volts
  return {
    demandA,
    spareA: input.serviceA - demandA,
    parts,
    findings: exceeded(demandA, input.serviceA, input.method === 'diversity' ? uk.clause : na.clause),
  }
}

function exceeded(demandA: number, serviceA: number, clause: string): Finding[] {
  if (atMost(demandA, serviceA)) return []
  return [
    {
      rule: 'service-exceeded',
      severity: 'error',
      clause,
      message:
        `The demand of ${formatA(demandA)} is over the service of ${formatA(serviceA)}. Add less, manage the load, or have the ` +
        'service enlarged.',
    },
  ]
}

/** The first part whole, a fraction of the rest. */
const firstThen = (value: number, first: number, remainder: number): number =>
  Math.min(value, first) + remainder * Math.max(0, value - first)

function naParts(input: Exclude<DwellingDemandInput, { method: 'diversity' }>): Part[] {
  const rule = input.method === 'whole' ? na.optional : na.existing
  const general =
    na.generalVaPerM2 * input.floorAreaM2 +
    na.smallApplianceVa * input.smallApplianceCircuits +
    na.laundryVa * input.laundryCircuits +
    input.appliancesVa.reduce((a, b) => a + b, 0)
  const { hvac } = input
  return [
    { what: 'general load', connected: general, counted: firstThen(general, rule.firstVa, rule.remainder) },
    ...(hvac
      ? [{ what: 'heating or cooling', connected: hvac.va, counted: hvac.va * (input.method === 'whole' ? na.hvac[hvac.kind] : 1) }]
      : []),
  ]
}

function diversityParts(input: z.infer<typeof diversity>): Part[] {
  const { cooker, heating } = uk
  const largestFirst = (list: readonly number[], fractions: (i: number) => number) =>
    list.toSorted((a, b) => b - a).map((a, i) => ({ a, counted: a * fractions(i) }))
  const group = (what: string, list: readonly { a: number; counted: number }[]): Part[] =>
    list.map(({ a, counted }) => ({ what, connected: a, counted }))
  const parts: Part[] = [
    { what: 'lighting', connected: input.lightingA, counted: uk.lighting * input.lightingA },
    ...input.cookers.map((c) => ({
      what: 'cooker',
      connected: c.amps,
      counted: firstThen(c.amps, cooker.firstA, cooker.remainder) + (c.socket ? cooker.socketA : 0),
    })),
    { what: 'heating', connected: input.heatingA, counted: firstThen(input.heatingA, heating.firstA, heating.remainder) },
    ...group(
      'instant water heater',
      largestFirst(input.instantHeatersA, (i) => (i < 2 ? uk.instantWaterHeater.first : uk.instantWaterHeater.remaining)),
    ),
    { what: 'storage water heater', connected: input.storageHeaterA, counted: uk.storageWaterHeater * input.storageHeaterA },
    { what: 'vehicle charging', connected: input.vehicleA, counted: uk.vehicleCharging * input.vehicleA },
    ...group(
      'socket circuit',
      largestFirst(input.socketCircuitsA, (i) => (i === 0 ? uk.socketCircuits.largest : uk.socketCircuits.others)),
    ),
    ...group(
      'fixed equipment',
      largestFirst(input.fixedA, (i) => (i === 0 ? uk.fixedEquipment.largest : uk.fixedEquipment.others)),
    ),
  ]
  return parts.filter((p) => p.connected > 0 || p.counted > 0)
}
