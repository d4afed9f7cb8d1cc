import { z } from 'zod'
import { type Finding, findingSchema } from '../base/finding'
import { InputError } from '../base/input-error'
import { formatOhm, trim } from '../base/format'
import { atMost } from '../base/tolerance'
import { unitedKingdom } from '../region/metric'
import { nonNegative } from './fields'

const reading = z.union([nonNegative, z.literal('open')])
export const ringContinuityInput = z.strictObject({
  lengthM: nonNegative,
  lineSize: z.string(),
  protectiveSize: z.string(),
  measured: z.strictObject({ r1: reading, rn: reading, r2: reading }).optional(),
})
export type RingContinuityInput = z.infer<typeof ringContinuityInput>
export const ringContinuityOutput = z.strictObject({
  expected: z.strictObject({
    r1: z.number(),
    rn: z.number(),
    r2: z.number(),
    atEachOutletLineNeutral: z.number(),
    atEachOutletLineEarth: z.number(),
  }),
  findings: z.array(findingSchema),
})

/** Line and neutral of one ring are alike; more than this between them, in ohms, wants explaining. */
const LINE_NEUTRAL_OHM = 0.05
/** The part by which r2 / r1 may miss the ratio of the tabled resistances. */
const RATIO_PART = 0.15
const CLAUSE = '643.2.1; 433.1.204; OSG continuity of ring final circuit conductors'

/**
 * What a ring should read end to end and, with line and neutral cross-joined, at each outlet; and what a reading tells.
 * @throws InputError at `lineSize` (2.5 mm² or larger) or `protectiveSize`. BS 7671 433.1.204, 643.2.1.
 */
export function ringContinuity(input: RingContinuityInput): z.infer<typeof ringContinuityOutput> {
  const milliohm = (size: string, path: string) => {
    const value = unitedKingdom.usual.milliOhmPerMetre20C[size]
    if (value === undefined) throw new InputError(path, `No resistance is listed for ${size}.`)
    return value
  }
  const line = milliohm(input.lineSize, 'lineSize')
  if (Number.parseFloat(input.lineSize) < 2.5) throw new InputError('lineSize', 'A ring is wired in 2.5 mm² or larger (433.1.204).')
  const protective = milliohm(input.protectiveSize, 'protectiveSize')
  const r1 = (line * input.lengthM) / 1000
  const r2 = (protective * input.lengthM) / 1000
  return {
    expected: { r1, rn: r1, r2, atEachOutletLineNeutral: (r1 + r1) / 4, atEachOutletLineEarth: (r1 + r2) / 4 },
    findings: input.measured ? judge(input.measured, protective / line) : [],
  }
}

function judge({ r1, rn, r2 }: NonNullable<RingContinuityInput['measured']>, ratio: number): Finding[] {
  const open = (value: number | 'open', rule: string, name: string): Finding[] =>
    value === 'open'
      ? [
          {
            rule,
            severity: 'error',
            clause: CLAUSE,
            message: `The ${name} conductor is not continuous round the ring. Find the break: each half alone would be overloaded.`,
          },
        ]
      : []
  const findings = [...open(r1, 'open-line', 'line'), ...open(rn, 'open-neutral', 'neutral'), ...open(r2, 'open-protective', 'protective')]
  if (r1 !== 'open' && rn !== 'open' && !atMost(Math.abs(r1 - rn), LINE_NEUTRAL_OHM))
    findings.push({
      rule: 'line-neutral-differ',
      severity: 'error',
      clause: CLAUSE,
      message:
        `Line ${formatOhm(r1)} and neutral ${formatOhm(rn)} should be alike. Look for a bridge across the ring, a loose terminal, ` +
        'or another circuit’s conductor.',
    })
  if (r1 !== 'open' && r2 !== 'open' && !atMost(Math.abs(r2 - ratio * r1), RATIO_PART * ratio * r1))
    findings.push({
      rule: 'protective-ratio-off',
      severity: 'warning',
      clause: CLAUSE,
      message:
        `The protective conductor should read about ${trim(ratio, 2)} times the line. Look for a parallel path through metalwork, ` +
        'or a conductor of another size.',
    })
  return findings
}
