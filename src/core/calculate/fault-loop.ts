import { z } from 'zod'
import { findingSchema, type Finding } from '../base/finding'
import { InputError } from '../base/input-error'
import { formatOhm, formatSize, trim } from '../base/format'
import { atMost } from '../base/tolerance'
import { type CableData, type MetricRegion, metricRegions } from '../region/metric'
import { type BreakerType, breakerTypes } from '../region/types'
import { nonNegative, positive, ukRegion, zaRegion } from './fields'

export const faultLoopInput = z.strictObject({
  region: z.union([ukRegion, zaRegion]),
  zeOhm: nonNegative,
  size: z.string(),
  protectiveSize: z.string(),
  lengthM: nonNegative,
  breaker: z.strictObject({ type: z.enum(breakerTypes), ratingA: positive }),
  rcdMa: positive.optional(),
  clearSeconds: positive.default(0.1),
})
export type FaultLoopInput = z.infer<typeof faultLoopInput>
export const faultLoopOutput = z.strictObject({
  r1r2At20Ohm: z.number(),
  r1r2Ohm: z.number(),
  zsOhm: z.number(),
  maxZsOhm: z.number(),
  rcdMaxZsOhm: z.number().optional(),
  passes: z.boolean(),
  faultA: z.number(),
  minProtectiveMm2: z.number(),
  findings: z.array(findingSchema),
})
export type FaultLoop = z.infer<typeof faultLoopOutput>

/** R1 + R2 at 20 °C in ohms. @throws InputError at `size` or `protectiveSize`. Source: IEC 60228 maxima; OSG. */
export function r1r2At20(data: CableData, size: string, protectiveSize: string, lengthM: number): number {
  const at = (s: string, path: string) => {
    const milliohm = data.milliOhmPerMetre20C[s]
    if (milliohm === undefined) throw new InputError(path, `No resistance is listed for ${s}.`)
    return milliohm
  }
  return ((at(size, 'size') + at(protectiveSize, 'protectiveSize')) * lengthM) / 1000
}

/** The highest loop impedance at which the breaker's magnetic release acts, in ohms. BS 7671 411.4.4 with Cmin. */
export function maxBreakerZs(region: MetricRegion, type: BreakerType, ratingA: number): number {
  return (region.nominalV * region.cmin) / (region.magneticMultiple[type] * ratingA)
}

/** The highest loop impedance for a residual device, in ohms: 50 V over its rated residual current. */
export const maxRcdZs = (region: MetricRegion, rcdMa: number): number => region.rcdTouchVoltageV / (rcdMa / 1000)

/** Says that the loop is too high for the breaker: a warning where a residual device covers it, else an error. */
export function zsTooHigh(region: MetricRegion, zsOhm: number, maxOhm: number, rcdMaxOhm?: number): Finding {
  const covered = rcdMaxOhm !== undefined && atMost(zsOhm, rcdMaxOhm)
  return {
    rule: 'zs-too-high',
    severity: covered ? 'warning' : 'error',
    clause: covered ? region.rcdClause : region.loopClause,
    message: covered
      ? `The loop of ${formatOhm(zsOhm)} is over the ${formatOhm(maxOhm)} the breaker needs; only the residual current device ` +
        'clears an earth fault in time. Prove it by its trip test.'
      : `The loop of ${formatOhm(zsOhm)} is over the ${formatOhm(maxOhm)} limit; a fault to earth would not be cleared in time. ` +
        'Use a larger cable, a shorter run, a less sluggish breaker, or a residual current device.',
  }
}

/**
 * The earth fault loop of a final circuit: impedance, its limit, fault current, and the least protective conductor.
 * Conductors are taken at operating temperature (20 °C figure × 1.20).
 * @throws InputError at `size`, `protectiveSize`, or `zeOhm` where the whole loop is 0 Ω.
 */
export function faultLoop(input: FaultLoopInput): FaultLoop {
  const region = metricRegions[input.region]
  const { usual } = region
  const at20 = r1r2At20(usual, input.size, input.protectiveSize, input.lengthM)
  const r1r2Ohm = at20 * usual.operatingMultiplier
  const zsOhm = input.zeOhm + r1r2Ohm
  if (zsOhm === 0) throw new InputError('zeOhm', 'A loop of 0 Ω has no finite fault current; give the measured external impedance.')
  const maxZsOhm = maxBreakerZs(region, input.breaker.type, input.breaker.ratingA)
  const rcdMaxZsOhm = input.rcdMa === undefined ? undefined : maxRcdZs(region, input.rcdMa)
  const faultA = region.nominalV / zsOhm
  const minProtectiveMm2 = Math.sqrt(faultA * faultA * input.clearSeconds) / usual.adiabaticK
  const findings: Finding[] = []
  if (!atMost(zsOhm, maxZsOhm)) findings.push(zsTooHigh(region, zsOhm, maxZsOhm, rcdMaxZsOhm))
  if (!atMost(minProtectiveMm2, Number.parseFloat(input.protectiveSize)))
    findings.push({
      rule: 'protective-conductor-too-small',
      severity: 'error',
      clause: usual.adiabaticClause,
      message:
        `A fault of ${trim(faultA, 0)} A for ${input.clearSeconds} s needs at least ${trim(minProtectiveMm2, 2)} mm²; ` +
        `${formatSize(input.protectiveSize)} would overheat. Use a larger protective conductor or a device that clears faster.`,
    })
  return {
    r1r2At20Ohm: at20,
    r1r2Ohm,
    zsOhm,
    maxZsOhm,
    ...(rcdMaxZsOhm === undefined ? {} : { rcdMaxZsOhm }),
    passes: findings.every((f) => f.severity !== 'error'),
    faultA,
    minProtectiveMm2,
    findings,
  }
}
