import { z } from 'zod'
import { count } from './fields'
import { InputError } from '../base/input-error'
import { atMost } from '../base/tolerance'
import { naGroupingFactor } from '../region/north-america/awg'
import { conductorAreaIn2, fillLimits, racewayAreaIn2, racewayKinds, tradeSizes } from './tables'

export const racewayFillInput = z.strictObject({
  raceway: z.enum(racewayKinds),
  tradeSize: z.enum(tradeSizes as [string, ...string[]]),
  nipple: z.boolean().default(false),
  conductors: z.array(z.strictObject({ insulation: z.enum(['thwn-2', 'bare']), size: z.string(), count })).min(1),
})
export type RacewayFillInput = z.infer<typeof racewayFillInput>
export const racewayFillOutput = z.strictObject({
  fillFraction: z.number(),
  limitFraction: z.number(),
  fits: z.boolean(),
  smallestTradeSize: z.string().nullable(),
  loadedAdvice: z.strictObject({ groupingFactor: z.number() }),
})
type RacewayFill = z.infer<typeof racewayFillOutput>

/** Chapter 9 note 7: with conductors all alike, a count that comes to 0.8 or more over a whole number is rounded up. */
const NOTE_7 = 0.2

/**
 * How full a raceway is, its limit, and the smallest trade size of its kind that takes the conductors.
 * @throws InputError at `conductors.N.size` where no area is listed. NFPA 70 Chapter 9 Tables 1, 4, 5, 8 and note 7.
 */
export function racewayFill(input: RacewayFillInput): RacewayFill {
  const areas = input.conductors.map(({ insulation, size }, i) => {
    const area = conductorAreaIn2(insulation, size)
    if (area === undefined) throw new InputError(`conductors.${i}.size`, `No area is listed for ${size} ${insulation}.`)
    return area
  })
  const total = input.conductors.reduce((n, c) => n + c.count, 0)
  if (total === 0) throw new InputError('conductors', 'Give at least one conductor.')
  const filled = input.conductors.reduce((sum, c, i) => sum + c.count * areas[i]!, 0)
  const limitFraction = input.nipple
    ? fillLimits.nipple
    : total === 1
      ? fillLimits.one
      : total === 2
        ? fillLimits.two
        : fillLimits.threeOrMore
  const present = input.conductors.filter((c) => c.count > 0)
  const alike = present.every((c) => c.size === present[0]!.size && c.insulation === present[0]!.insulation)
  const fitsIn = (tradeSize: string) => {
    const allowed = limitFraction * racewayAreaIn2(input.raceway, tradeSize)
    return atMost(filled, allowed) || (alike && atMost(total, Math.floor((allowed * total) / filled + NOTE_7 + 1e-9)))
  }
  const insulated = input.conductors.filter((c) => c.insulation !== 'bare').reduce((n, c) => n + c.count, 0)
  return {
    fillFraction: filled / racewayAreaIn2(input.raceway, input.tradeSize),
    limitFraction,
    fits: fitsIn(input.tradeSize),
    smallestTradeSize: tradeSizes.find(fitsIn) ?? null,
    loadedAdvice: { groupingFactor: input.nipple ? 1 : naGroupingFactor(insulated) },
  }
}
