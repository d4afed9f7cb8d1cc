import { z } from 'zod'
import { count, positive } from './fields'
import { findingSchema } from '../base/finding'
import { InputError } from '../base/input-error'
import { formatVolume } from '../base/format'
import { atMost } from '../base/tolerance'
import { cm3FromIn3 } from '../base/units'
import { naBoxFillIn3, naBoxFillSizes, naClauses } from '../region/north-america/awg'

const size = z.enum(naBoxFillSizes as [string, ...string[]], 'this size has no box fill allowance')
export const boxFillInput = z.strictObject({
  boxVolumeCm3: positive,
  conductors: z.array(z.strictObject({ size, count })),
  internalClamps: z.boolean(),
  supportFittings: count,
  devices: z.array(z.strictObject({ size, gangWidth: z.literal([1, 2]) })),
  grounding: z.strictObject({ count, largestSize: size }).optional(),
})
export type BoxFillInput = z.infer<typeof boxFillInput>
const allowanceSchema = z.strictObject({ what: z.string(), count: z.number(), totalCm3: z.number() })
export const boxFillOutput = z.strictObject({
  requiredCm3: z.number(),
  availableCm3: z.number(),
  fillFraction: z.number(),
  fits: z.boolean(),
  allowances: z.array(allowanceSchema),
  findings: z.array(findingSchema),
})
export type BoxFill = z.infer<typeof boxFillOutput>

/** One allowance, in cm³, for a conductor of this size. Table 314.16(B)(1). */
export const allowanceCm3 = (s: string): number => cm3FromIn3(naBoxFillIn3(s))

/** Up to four grounding conductors count one; each above four adds a quarter. 314.16(B)(5). */
const groundingCount = (n: number): number => (n === 0 ? 0 : 1 + Math.max(0, n - 4) / 4)

/**
 * Volume a box must have, counted allowance by allowance. NFPA 70 314.16(B)(1) to (5).
 * @throws InputError at `conductors` where clamps or fittings are counted but no conductor gives them a size.
 */
export function boxFill(input: BoxFillInput): BoxFill {
  const present = [
    ...input.conductors.filter((c) => c.count > 0).map((c) => c.size),
    ...(input.grounding && input.grounding.count > 0 ? [input.grounding.largestSize] : []),
  ]
  const largest = naBoxFillSizes.findLast((s) => present.includes(s))
  const atLargest = (what: string, n: number): Counted[] => {
    if (n === 0) return []
    if (!largest) throw new InputError('conductors', 'Clamps and fittings count at the largest conductor; give the conductors in the box.')
    return [{ what: `${what}, ${largest}`, count: n, size: largest }]
  }
  const allowances = [
    ...input.conductors.filter((c) => c.count > 0).map((c) => ({ what: `conductors, ${c.size}`, count: c.count, size: c.size })),
    ...atLargest('internal clamps', input.internalClamps ? 1 : 0),
    ...atLargest('support fittings', input.supportFittings),
    ...input.devices.map((d) => ({ what: `device on ${d.size}`, count: 2 * d.gangWidth, size: d.size })),
    ...(input.grounding && input.grounding.count > 0
      ? [
          {
            what: `grounding conductors, ${input.grounding.largestSize}`,
            count: groundingCount(input.grounding.count),
            size: input.grounding.largestSize,
          },
        ]
      : []),
  ].map(priced)
  const requiredCm3 = allowances.reduce((sum, a) => sum + a.totalCm3, 0)
  const fits = atMost(requiredCm3, input.boxVolumeCm3)
  return {
    requiredCm3,
    availableCm3: input.boxVolumeCm3,
    fillFraction: requiredCm3 / input.boxVolumeCm3,
    fits,
    allowances,
    findings: fits
      ? []
      : [
          {
            rule: 'box-overfilled',
            severity: 'error',
            clause: `314.16(B); ${naClauses.boxFill}`,
            message:
              `The box needs ${formatVolume(requiredCm3, 'imperial')} and has ${formatVolume(input.boxVolumeCm3, 'imperial')}. Fit ` +
              'a larger or deeper box, or bring fewer conductors into it.',
          },
        ],
  }
}

interface Counted {
  what: string
  count: number
  size: string
}

function priced(a: Counted): z.infer<typeof allowanceSchema> {
  return { what: a.what, count: a.count, totalCm3: a.count * allowanceCm3(a.size) }
}
