import { z } from 'zod'
import { nonNegative } from './fields'
import { InputError } from '../base/input-error'
import { atLeast, atMost } from '../base/tolerance'
import { northAmericaTables } from '../region/north-america/tables'

const t = northAmericaTables.outletSpacing
export const outletSpacingInput = z.strictObject({
  kind: z.enum(['wall', 'counter', 'hallway']),
  spaces: z.array(z.strictObject({ id: z.string(), lengthM: nonNegative, outletsAtM: z.array(nonNegative) })),
})
export type OutletSpacingInput = z.infer<typeof outletSpacingInput>
const gapSchema = z.strictObject({ id: z.string(), fromM: z.number(), toM: z.number() })
export const outletSpacingOutput = z.strictObject({
  gaps: z.array(gapSchema),
  missing: z.array(z.strictObject({ id: z.string(), atM: z.array(z.number()) })),
  passes: z.boolean(),
})
export type OutletSpacing = z.infer<typeof outletSpacingOutput>
type Space = OutletSpacingInput['spaces'][number]

const limits = {
  wall: { reachM: t.wallMaxToOutletMm / 1000, shortestM: t.wallMinSpaceMm / 1000 },
  counter: { reachM: t.counterMaxToOutletMm / 1000, shortestM: t.counterMinSpaceMm / 1000 },
}

/**
 * Stretches of wall or counter too far from an outlet, and a smallest set of outlets that closes them.
 * @throws InputError at `spaces.N.outletsAtM.M` for an outlet beyond the end. NFPA 70 210.52(A), (C), (H).
 */
export function outletSpacing(input: OutletSpacingInput): OutletSpacing {
  input.spaces.forEach((s, i) =>
    s.outletsAtM.forEach((at, k) => {
      if (!atMost(at, s.lengthM)) throw new InputError(`spaces.${i}.outletsAtM.${k}`, `The outlet lies beyond the end of ${s.id}.`)
    }),
  )
  const { kind } = input
  if (kind === 'hallway') {
    const missing = input.spaces
      .filter((s) => atLeast(s.lengthM, t.hallwayMm / 1000) && s.outletsAtM.length === 0)
      .map((s) => ({ id: s.id, atM: [s.lengthM / 2] }))
    return { gaps: [], missing, passes: missing.length === 0 }
  }
  const { reachM, shortestM } = limits[kind]
  const gaps = input.spaces.filter((s) => atLeast(s.lengthM, shortestM)).flatMap((s) => gapsOf(s, reachM))
  const missing = input.spaces.flatMap((s) => {
    const atM = gaps.filter((g) => g.id === s.id).flatMap((g) => spread(g.fromM, g.toM, reachM))
    return atM.length ? [{ id: s.id, atM }] : []
  })
  return { gaps, missing, passes: gaps.length === 0 }
}

const FIRST_M2 = 9 * 0.3048 ** 2
const EACH_M2 = 18 * 0.3048 ** 2

/**
 * Outlets that the counter of an island or peninsula takes by its area: one for the first 9 square feet or part of them, one more for each
 * 18 or part of them. NFPA 70 (2020) 210.52(C)(2); the 2023 edition asks for none, but for provision for one.
 * @param areaM2 of its surface
 */
export const islandOutlets = (areaM2: number): number =>
  areaM2 <= 0 ? 0 : 1 + (atMost(areaM2, FIRST_M2) ? 0 : Math.ceil((areaM2 - FIRST_M2) / EACH_M2 - 1e-9))

function gapsOf(space: Space, reachM: number): OutletSpacing['gaps'] {
  const outlets = space.outletsAtM.toSorted((a, b) => a - b)
  const starts = [0, ...outlets.map((o) => o + reachM)]
  const ends = [...outlets.map((o) => o - reachM), space.lengthM]
  return starts.flatMap((fromM, i) => (atMost(ends[i]!, fromM) ? [] : [{ id: space.id, fromM, toM: ends[i]! }]))
}

function spread(fromM: number, toM: number, reachM: number): number[] {
  const gap = toM - fromM
  const n = Math.ceil(gap / (2 * reachM) - 1e-9)
  return Array.from({ length: n }, (_, i) => fromM + (gap * (2 * i + 1)) / (2 * n))
}
