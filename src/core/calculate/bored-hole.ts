import { z } from 'zod'
import { nonNegative, positive } from './fields'
import { type Finding, findingSchema } from '../base/finding'
import { InputError } from '../base/input-error'
import { formatSmallLength, trim } from '../base/format'
import { atLeast, atMost } from '../base/tolerance'
import { northAmericaTables } from '../region/north-america/tables'
import { unitedKingdomTables } from '../region/united-kingdom/tables'
import { regionIds } from '../region/types'
import { worlds } from '../region/worlds'

export const boredHoleInput = z.strictObject({
  region: z.enum(regionIds),
  member: z.strictObject({ kind: z.enum(['joist', 'stud-bearing', 'stud-non-bearing']), depthMm: positive, spanMm: positive.optional() }),
  hole: z.strictObject({
    diameterMm: positive,
    edgeMm: nonNegative,
    fromSupportMm: nonNegative.optional(),
    nextHoleMm: nonNegative.optional(),
  }),
})
export type BoredHoleInput = z.infer<typeof boredHoleInput>
export const boredHoleOutput = z.strictObject({ allowed: z.boolean(), plateNeeded: z.boolean(), findings: z.array(findingSchema) })
type BoredHole = z.infer<typeof boredHoleOutput>

const na = northAmericaTables.boredHoles
const uk = unitedKingdomTables.holes
/** The span rules were drawn for joists up to this depth; a deeper one counts as this. */
const DEEPEST_COUNTED_MM = 250

/**
 * Whether a hole for cable may be bored there, and whether it needs a steel plate.
 * @throws InputError at `hole` where it does not fit the member, at `hole.fromSupportMm` past the span.
 * Sources: NFPA 70 300.4(A), IRC R502.8 and R602.6; the OSG drilling figure, good practice elsewhere.
 */
export function boredHole(input: BoredHoleInput): BoredHole {
  const { member, hole } = input
  if (!atMost(hole.diameterMm + 2 * hole.edgeMm, member.depthMm))
    throw new InputError('hole', 'The hole and its edges are deeper than the timber.')
  const northAmerica = input.region === 'north-america'
  const findings = northAmerica ? naFindings(input) : metricFindings(input)
  return {
    allowed: findings.every((f) => f.severity !== 'error'),
    plateNeeded: !atLeast(hole.edgeMm, northAmerica ? na.edgeClearMm : uk.cableBelowSurfaceMm),
    findings,
  }
}

function naFindings({ member, hole }: BoredHoleInput): Finding[] {
  const mm = (x: number) => formatSmallLength(x, 'imperial')
  const rule = (id: string, message: string): Finding => ({ rule: id, severity: 'error', clause: na.clause, message })
  const limits = { joist: na.joist, 'stud-bearing': na.studBearing, 'stud-non-bearing': na.studNonBearing }[member.kind]
  const largest = limits.maxHoleFraction * member.depthMm
  return [
    ...(atMost(hole.diameterMm, largest)
      ? []
      : [rule('hole-too-large', `At most ${mm(largest)} may be bored through this timber. Bore smaller, or two holes apart.`)]),
    ...(atLeast(hole.edgeMm, limits.minEdgeMm)
      ? []
      : [rule('hole-too-near-edge', `Leave at least ${mm(limits.minEdgeMm)} of timber to the edge. Bore nearer the middle.`)]),
    ...(member.kind === 'joist' && hole.nextHoleMm !== undefined && !atLeast(hole.nextHoleMm - hole.diameterMm, na.joist.minEdgeMm)
      ? [rule('holes-too-close', `Leave at least ${mm(na.joist.minEdgeMm)} of timber between holes.`)]
      : []),
  ]
}

function metricFindings({ region, member, hole }: BoredHoleInput): Finding[] {
  if (member.kind !== 'joist') return []
  const severity = worlds[region].boredHoles
  const rule = (id: string, message: string): Finding => ({ rule: id, severity, clause: uk.clause, message })
  const largest = uk.holeMaxDepthFraction * Math.min(member.depthMm, DEEPEST_COUNTED_MM)
  return [
    ...(atMost(hole.diameterMm, largest)
      ? []
      : [rule('hole-too-large', `At most ${trim(largest, 1)} mm may be bored through this joist. Bore smaller.`)]),
    ...spanFinding(member.spanMm, hole.fromSupportMm, rule),
    ...(hole.nextHoleMm === undefined || atLeast(hole.nextHoleMm, uk.holeSpacingDiameters * hole.diameterMm)
      ? []
      : [rule('holes-too-close', `Keep holes at least ${uk.holeSpacingDiameters} diameters apart, centre to centre.`)]),
  ]
}

function spanFinding(spanMm: number | undefined, fromMm: number | undefined, rule: (id: string, message: string) => Finding): Finding[] {
  if (spanMm === undefined || fromMm === undefined)
    return [
      {
        rule: 'span-zone-not-checked',
        severity: 'note',
        clause: uk.clause,
        message: 'Whether the hole lies in the allowed part of the span is not checked: give the span and the distance from the support.',
      },
    ]
  if (!atMost(fromMm, spanMm)) throw new InputError('hole.fromSupportMm', 'The hole lies beyond the span.')
  const from = Math.min(fromMm, spanMm - fromMm)
  const [low, high] = [uk.holeFromSpan * spanMm, uk.holeToSpan * spanMm]
  return atLeast(from, low) && atMost(from, high)
    ? []
    : [
        rule(
          'hole-outside-span-zone',
          `Bore between ${trim(low, 0)} and ${trim(high, 0)} mm from a support, where the joist is least stressed.`,
        ),
      ]
}
