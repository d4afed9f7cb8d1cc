import { magnitude } from './complex'
import { residualMa, solution, type Solution, tripOf } from './network'
import type { Element, NetworkInput, NetworkState } from './types'

/** A device that opens, why, and after how long at the least and at the most. */
export interface Trip {
  readonly id: string
  readonly cause: NetworkState['trips'][number]['cause']
  readonly fromS: number
  readonly toS: number
}

const HOUR_S = 3600
/** A residual device of the general kind at one, two and five times its rating. IEC 61008-1. */
function residualS(tripMa: number, ma: number): readonly [number, number] {
  // One that guards persons in North America is timed by what flows: UL 943.
  if (tripMa <= 6) return [0, Math.min(7.26, (20 / Math.max(ma, tripMa)) ** 1.43)]
  const times = ma / tripMa
  return [0, times >= 5 ? 0.04 : times >= 2 ? 0.15 : 0.3]
}
/** A breaker above its rating: sure within an hour from 1.45 times, within a minute or two from 2.55 times. IEC 60898-1. */
function overloadS(ratingA: number, amps: number): readonly [number, number] {
  const times = amps / ratingA
  if (times >= 2.55) return [1, ratingA > 32 ? 120 : 60]
  return [60, times >= 1.45 ? HOUR_S : Number.POSITIVE_INFINITY]
}
function timesOf(e: Element, polesA: readonly number[], ma: number, cause: Trip['cause']): readonly [number, number] {
  if (e.kind === 'rcd') return residualS(e.tripMa, ma)
  if (e.kind !== 'breaker' || cause === 'magnetic') return [0, 0.1]
  return overloadS(e.ratingA, Math.max(0, ...polesA))
}

/**
 * What opens one after another in wiring as built, the soonest first, each solved again without those before it; what is open in the
 * end, and the wiring solved as it stands then. Devices that nobody can tell apart by their times open in the order of the elements.
 */
export function sequence(input: NetworkInput): {
  readonly trips: readonly Trip[]
  readonly open: readonly string[]
  readonly end: Solution
} {
  const trips: Trip[] = []
  let open = [...(input.state?.open ?? [])]
  for (;;) {
    const end = solution({ ...input, state: { open } })
    const { polesOf } = end
    const due = input.elements.flatMap((e): Trip[] => {
      const poles = polesOf(e.id)
      const cause = open.includes(e.id) ? null : tripOf(e, poles)
      if (!cause) return []
      const [fromS, toS] = timesOf(e, poles.map(magnitude), residualMa(poles), cause)
      return [{ id: e.id, cause, fromS, toS }]
    })
    const first = due.toSorted((a, b) => a.toS - b.toS || a.fromS - b.fromS)[0]
    // Each step opens one more, so there is an end.
    if (!first) return { trips, open, end }
    trips.push(first)
    open = [...open, first.id]
  }
}
