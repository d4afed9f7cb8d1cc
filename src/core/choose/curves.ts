import type { Circuit, Design, Installation } from '../installation/installation'
import { magneticFrom, magneticSure } from '../rules/circuit'
import type { SelectedCircuit } from '../calculate/select-circuit'
import { startOf } from '../design/load'
import { areaMm2 } from '../design/prices'
import { worlds } from '../region/worlds'
import { dataOf } from '../region/metric'

type Point = readonly [amps: number, seconds: number]

export interface Curves {
  /** Between these two the breaker may trip; below the first it holds, above the second it has tripped. */
  readonly breaker: { readonly holds: readonly Point[]; readonly trips: readonly Point[] }
  readonly upstream: { readonly words: string; readonly holds: readonly Point[]; readonly trips: readonly Point[] } | null
  /** What the cable withstands for a time before its insulation is spoilt: k² S² = I² t. */
  readonly cable: readonly Point[]
  readonly loadA: number
  readonly start: { readonly amps: number; readonly seconds: number; readonly given: boolean } | null
  /** Fault current at the far end by the loop, and at the board by what was measured; null where not known. */
  readonly faultA: number | null
  readonly boardFaultA: number | null
  readonly magnetic: { readonly from: number; readonly sure: number }
}

/** Of copper in 70 °C thermoplastic, where the world's cables do not say their own. BS 7671 Table 54.3. */
const USUAL_K = 115
const LONGEST_S = 7200
const SHORTEST_S = 0.01
const steps = (from: number, to: number, count: number): number[] =>
  Array.from({ length: count }, (_, i) => from * (to / from) ** (i / (count - 1)))

/**
 * The two ends of a breaker's band. IEC 60898-1: no trip within the hour at 1.13, trip within it at 1.45, 1 s to 60 s at
 * 2.55 times its rating, then the magnetic release. North America: usual inverse-time shape, not a maker's.
 */
function band(ratingA: number, metric: boolean, from: number, sure: number): { holds: Point[]; trips: Point[] } {
  const [low, high] = metric ? [1.13, 1.45] : [1.05, 1.35]
  const [a, b] = metric ? [2.55 ** 2 - low ** 2, 60 * (2.55 ** 2 - high ** 2)] : [8 * (4 - low ** 2), 120 * (4 - high ** 2)]
  const thermal = (start: number, scale: number, end: number): Point[] =>
    steps(start * 1.001, end, 60).map((m): Point => [
      m * ratingA,
      Math.min(LONGEST_S, Math.max(SHORTEST_S, scale / (m * m - start * start))),
    ])
  const line = (points: Point[], end: number, floor: number): Point[] => [...points, [end * ratingA, floor], [1000 * ratingA, floor]]
  return { holds: line(thermal(low, a, from), from, SHORTEST_S), trips: line(thermal(high, b, sure), sure, 0.1) }
}

/** Time against current of all that meets in a circuit, for one drawing; null while it is not worked out. */
export function timeCurrent(job: Installation, circuit: Circuit, design: Design, result: SelectedCircuit | null): Curves | null {
  if (!result?.size || result.breakerA === null) return null
  const metric = worlds[job.region].typedBreakers
  const magnetic = { from: magneticFrom({ job, design }), sure: magneticSure({ job, design }) }
  const s = areaMm2(result.size)
  const { metric: reckoned } = worlds[job.region]
  const k = reckoned ? dataOf(reckoned, design.cable).adiabaticK : USUAL_K
  const up = job.supply.upstream
  return {
    breaker: band(result.breakerA, metric, magnetic.from, magnetic.sure),
    upstream: up
      ? {
          words: `${up.ratingA} A ${up.kind} ahead`,
          ...(up.kind === 'breaker' ? band(up.ratingA, metric, metric ? 5 : 8, metric ? 10 : 12) : fuse(up.ratingA)),
        }
      : null,
    cable: steps(Math.max(result.ampacityA ?? 10, 10) * 2, 100_000, 40)
      .map((i): Point => [i, (k * k * s * s) / (i * i)])
      .filter(([, t]) => t <= 5 && t >= SHORTEST_S / 2),
    loadA: result.loadA,
    start: startOf(circuit, job.region),
    faultA: result.zsOhm ? 230 / result.zsOhm : null,
    boardFaultA: job.supply.pscKa === null ? null : job.supply.pscKa * 1000,
    magnetic,
  }
}

/** A general-purpose fuse, usual shape: about 1.6 times its rating in the hour, 5 s near 5 times, 0.1 s near 12 times. */
function fuse(ratingA: number): { holds: Point[]; trips: Point[] } {
  const shape = (m: number): Point[] =>
    steps(1.3 * m, 40 * m, 50).map((x): Point => [x * ratingA, Math.min(LONGEST_S, 1500 / (x / m) ** 4.2)])
  return { holds: shape(1), trips: shape(1.25) }
}
