import { z } from 'zod'
import { count, nonNegative } from './fields'
import { InputError } from '../base/input-error'
import { atMost } from '../base/tolerance'
import { unitedKingdomTables } from '../region/united-kingdom/tables'

const { conduitFactors: T } = unitedKingdomTables
/** Outer diameters of round conduit, in millimetres, smallest first. */
export const conduitSizes = ['16', '20', '25', '32'] as const

export const conduitFillInput = z.strictObject({
  sizeMm: z.enum(conduitSizes),
  /** Between draw-in points, in metres. */
  lengthM: nonNegative,
  /** Bends of a quarter turn between them. */
  bends: z.int().min(0).max(20),
  /** Single-core cables, protective conductors among them. */
  conductors: z.array(z.strictObject({ size: z.string(), count })).min(1),
})
export const conduitFillOutput = z.strictObject({
  cableFactor: z.number(),
  conduitFactor: z.number(),
  fits: z.boolean(),
  smallestMm: z.enum(conduitSizes).nullable(),
})
export type ConduitFill = z.infer<typeof conduitFillOutput>

/** The factor of a conduit, by the next listed length up; undefined where the run is longer than any listed. */
function conduitFactor(size: (typeof conduitSizes)[number], lengthM: number, bends: number): number {
  if (bends === 0 && atMost(lengthM, T.short.toM)) return T.short.conduit[size]
  const withOneBendM = lengthM * 2 ** (bends - 1)
  return T.long.conduit[size][T.long.withOneBendM.findIndex((m) => atMost(withOneBendM, m))]!
}

/**
 * Whether single-core cables go into a conduit without force: the sum of their factors against the conduit's, and the
 * smallest size that takes them. Guidance, not a rule: BS 7671 522.8 asks that cables are not damaged as they are drawn in.
 * @throws InputError at `bends`, `lengthM` or `conductors.N.size` where nothing is listed. OSG Appendix E.
 */
export function conduitFill({ sizeMm, lengthM, bends, conductors }: z.infer<typeof conduitFillInput>): ConduitFill {
  const longest = T.long.toM[bends]
  if (longest === undefined)
    throw new InputError('bends', `No factor is listed for ${bends} bends between draw-in points. Put a box between.`)
  if (!atMost(lengthM, longest))
    throw new InputError(
      'lengthM',
      `No factor is listed for more than ${longest} m with ` +
        `${bends === 0 ? 'no bend' : bends === 1 ? 'one bend' : `${bends} bends`}. Put a draw-in box between.`,
    )
  const short = bends === 0 && atMost(lengthM, T.short.toM)
  const factors: Readonly<Record<string, number>> = (short ? T.short : T.long).cable
  const cableFactor = conductors.reduce((sum, c, i) => {
    const factor = factors[c.size]
    if (factor === undefined) throw new InputError(`conductors.${i}.size`, `No factor is listed for ${c.size}.`)
    return sum + factor * c.count
  }, 0)
  const takes = (size: (typeof conduitSizes)[number]) => atMost(cableFactor, conduitFactor(size, lengthM, bends))
  return {
    cableFactor,
    conduitFactor: conduitFactor(sizeMm, lengthM, bends),
    fits: takes(sizeMm),
    smallestMm: conduitSizes.find(takes) ?? null,
  }
}
