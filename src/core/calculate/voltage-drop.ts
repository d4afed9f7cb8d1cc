import { z } from 'zod'
import { InputError } from '../base/input-error'
import { type CableData, metricRegions } from '../region/metric'
import { M_PER_KFT, naOhmPerKft } from '../region/north-america/awg'
import { conductorField, copperOnly, naRegion, nonNegative, positive, ukRegion, zaRegion } from './fields'

const common = { size: z.string(), lengthM: nonNegative, currentA: nonNegative, systemV: positive }
export const voltageDropInput = z.discriminatedUnion('region', [
  z.strictObject({ region: naRegion, conductor: conductorField, ...common }),
  z.strictObject({ region: ukRegion, conductor: copperOnly, ...common, ring: z.boolean().default(false) }),
  z.strictObject({ region: zaRegion, conductor: copperOnly, ...common }),
])
export type VoltageDropInput = z.infer<typeof voltageDropInput>
export const voltageDropOutput = z.strictObject({ dropV: z.number(), dropPercent: z.number() })
export type VoltageDrop = z.infer<typeof voltageDropOutput>

/** A ring's midpoint is fed by two half-length legs side by side: a quarter of the whole loop's drop. */
const RING_FRACTION = 1 / 4

/**
 * Volts lost along a two-wire run, and as a percentage of `systemV`. `lengthM` is one way (the whole loop for a ring).
 * @throws InputError at `size` where the resistance table lacks it.
 * Sources: NFPA 70 Chapter 9 Table 8; BS 7671 Appendix 4 (mV/A/m); SANS 10142-1.
 */
export function voltageDrop(input: VoltageDropInput): VoltageDrop {
  const dropV = voltsPerAmpere(input) * input.currentA
  return { dropV, dropPercent: (dropV / input.systemV) * 100 }
}

function voltsPerAmpere(input: VoltageDropInput): number {
  if (input.region === 'north-america') {
    const ohm = naOhmPerKft(input.conductor, input.size)
    if (ohm === undefined) throw new InputError('size', `No resistance is listed for ${input.size} in ${input.conductor}.`)
    return (2 * input.lengthM * ohm) / M_PER_KFT
  }
  return cableDropPerA(metricRegions[input.region].usual, input) * ('ring' in input && input.ring ? RING_FRACTION : 1)
}

/** Volts an ampere loses along a cable, there and back. @throws InputError at `size` where its table lacks it. */
export function cableDropPerA(data: CableData, { size, lengthM }: Pick<VoltageDropInput, 'size' | 'lengthM'>): number {
  const mv = data.milliVoltPerAmpereMetre[size]
  if (mv === undefined) throw new InputError('size', `No voltage drop is listed for ${size}.`)
  return (mv * lengthM) / 1000
}
