import { z } from 'zod'
import { nonNegative, positive } from './fields'
import { InputError } from '../base/input-error'
import { atLeast, atMost } from '../base/tolerance'
import { MM_PER_IN } from '../base/units'
import { bendRadiusIn, maxDegreesBetweenPulls, takeUpIn, tradeOffset, tradeSizes } from './tables'

const item = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('offset'), riseMm: positive, angleDeg: z.number().positive().max(90) }),
  z.strictObject({ kind: z.literal('stub-90'), heightMm: positive }),
  z.strictObject({ kind: z.literal('straight'), lengthMm: nonNegative }),
])
export const racewayBendsInput = z.strictObject({ tradeSize: z.enum(tradeSizes as [string, ...string[]]), items: z.array(item).min(1) })
export type RacewayBendsInput = z.infer<typeof racewayBendsInput>
const marks = z.strictObject({ betweenBendsMm: z.number(), shrinkMm: z.number() })
export const racewayBendsOutput = z.strictObject({
  totalDegrees: z.number(),
  withinLimit: z.boolean(),
  cutLengthMm: z.number(),
  items: z.array(z.strictObject({ exact: marks.optional(), trade: marks.optional(), markFromEndMm: z.number().optional() })),
})
type RacewayBends = z.infer<typeof racewayBendsOutput>

interface Bent {
  degrees: number
  /** Length along the sharp-cornered path, before the bends take theirs off. */
  pathMm: number
  bends: number
  angle: number
  marks: RacewayBends['items'][number]
}

/**
 * Marks, total bend and cut length of a run between two pull points.
 * @throws InputError at `tradeSize` for a size with no take-up, at `items.N` for an offset its bends do not fit in, at
 * `items.N.heightMm` for a stub under its take-up. NFPA 70 358.24, 358.26, 352.24, 352.26; Chapter 9 Table 2.
 */
export function racewayBends(input: RacewayBendsInput): RacewayBends {
  const radiusMm = bendRadiusIn(input.tradeSize) * MM_PER_IN
  const bent = input.items.map((one, i): Bent => {
    if (one.kind === 'straight') return { degrees: 0, pathMm: one.lengthMm, bends: 0, angle: 0, marks: {} }
    if (one.kind === 'offset') return offset(one.riseMm, one.angleDeg, radiusMm, i)
    const takeUp = takeUpIn(input.tradeSize)
    if (takeUp === undefined) throw new InputError('tradeSize', `No take-up is listed for trade size ${input.tradeSize}.`)
    const markFromEndMm = one.heightMm - takeUp * MM_PER_IN
    if (!atLeast(one.heightMm, takeUp * MM_PER_IN))
      throw new InputError(`items.${i}.heightMm`, `The stub is lower than the bender’s take-up of ${takeUp} in.`)
    return { degrees: 90, pathMm: one.heightMm, bends: 1, angle: Math.PI / 2, marks: { markFromEndMm } }
  })
  const totalDegrees = bent.reduce((sum, b) => sum + b.degrees, 0)
  return {
    totalDegrees,
    withinLimit: atMost(totalDegrees, maxDegreesBetweenPulls),
    cutLengthMm: bent.reduce((sum, b) => sum + b.pathMm - b.bends * radiusMm * (2 * Math.tan(b.angle / 2) - b.angle), 0),
    items: bent.map((b) => b.marks),
  }
}

function offset(riseMm: number, angleDeg: number, radiusMm: number, i: number): Bent {
  const angle = (angleDeg * Math.PI) / 180
  const betweenBendsMm = riseMm / Math.sin(angle)
  if (!atLeast(betweenBendsMm, 2 * radiusMm * Math.tan(angle / 2)))
    throw new InputError(`items.${i}`, 'The offset is too small for its two bends; take a flatter angle.')
  const marked = tradeOffset(angleDeg)
  return {
    degrees: 2 * angleDeg,
    pathMm: betweenBendsMm,
    bends: 2,
    angle,
    marks: {
      exact: { betweenBendsMm, shrinkMm: riseMm * Math.tan(angle / 2) },
      ...(marked ? { trade: { betweenBendsMm: riseMm * marked.multiplier, shrinkMm: riseMm * marked.shrinkPerInch } } : {}),
    },
  }
}
