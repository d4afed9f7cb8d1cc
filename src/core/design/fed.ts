import type { Circuit, Installation } from '../installation/installation'
import type { SelectedCircuit } from '../calculate/select-circuit'
import { worlds } from '../region/worlds'

/** The feeder whose sub-board a circuit leaves from. */
export interface Fed {
  readonly name: string
  /** Lost from the supply to the sub-board, all feeders on the way counted; null while they are not worked out. */
  readonly dropPercent: number | null
}

/** What the board at the end of a feeder is called. */
export const subBoardName = ({ load, name }: Pick<Circuit, 'load' | 'name'>): string => load.name || name

/** What is upstream of a circuit. */
export interface Upstream {
  /** The supply as it is at the board the circuit leaves from. */
  readonly supply: Installation['supply']
  readonly fed: Fed | null
}

/**
 * The supply at the end of a feeder: its loop as Ze, its breaker as the device upstream. The prospective fault current stays
 * that of the main board, which the sub-board never exceeds. BS 7671 Appendix 4 6.4, 536.4; NFPA 70 215.2, 240.12.
 */
export function upstreamOf(before: Upstream, feeder: Circuit, result: SelectedCircuit | null): Upstream {
  const sum = result?.dropPercent == null || before.fed?.dropPercent === null ? null : result.dropPercent + (before.fed?.dropPercent ?? 0)
  return {
    supply: {
      ...before.supply,
      board: subBoardName(feeder),
      zeOhm: before.supply.zeOhm === null ? null : (result?.zsOhm ?? null),
      upstream: result?.breakerA == null ? null : { kind: 'breaker', ratingA: result.breakerA },
    },
    fed: { name: feeder.name, dropPercent: sum },
  }
}

/**
 * Percent that may be lost from the supply to the last point, feeders counted. NFPA 70 215.2, 210.19 notes; BS 7671 Appendix 4 6.4;
 * SANS 10142-1.
 */
export function totalDropLimit({ region }: Pick<Installation, 'region'>, { load }: Pick<Circuit, 'load'>): number {
  return worlds[region].drop.totalPercent(load.lighting)
}

/** Circuits that leave from the sub-board of a feeder. */
export const fedBy = (job: Pick<Installation, 'circuits'>, feeder: Pick<Circuit, 'id'>): Circuit[] =>
  job.circuits.filter((c) => c.feeder === feeder.id)

/** The circuit that leads back to itself if `circuit` were fed by `feeder`, or null. */
export function loopOfFeeders(circuits: readonly Circuit[], circuit: string, feeder: string): string | null {
  for (let at: string | null = feeder, steps = 0; at !== null; steps++) {
    if (at === circuit || steps > circuits.length) return at
    at = circuits.find((c) => c.id === at)?.feeder ?? null
  }
  return null
}

/** The job as a circuit sees it: with the supply of the board it leaves from. */
export const seenBy = (job: Installation, { upstream }: { readonly upstream: Upstream }): Installation =>
  upstream.fed ? { ...job, supply: upstream.supply } : job
