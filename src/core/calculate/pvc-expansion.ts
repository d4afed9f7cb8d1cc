import { z } from 'zod'
import { nonNegative } from './fields'
import { atLeast } from '../base/tolerance'
import { pvcExpansionTable } from './tables'

export const pvcExpansionInput = z
  .strictObject({ lengthM: nonNegative, minC: z.number(), maxC: z.number() })
  .refine((i) => i.maxC >= i.minC, { path: ['maxC'], message: 'the warmest cannot be colder than the coldest' })
export const pvcExpansionOutput = z.strictObject({ changeMm: z.number(), fittingNeeded: z.boolean() })

/** Change of length of plastic conduit over the site's range, in millimetres. NFPA 70 352.44. */
export function pvcExpansion(input: z.infer<typeof pvcExpansionInput>): z.infer<typeof pvcExpansionOutput> {
  const changeMm = input.lengthM * 1000 * pvcExpansionTable.perC * (input.maxC - input.minC)
  return { changeMm, fittingNeeded: atLeast(changeMm, pvcExpansionTable.fittingAtMm) }
}
