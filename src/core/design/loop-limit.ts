import type { Design, Installation } from '../installation/installation'
import { atMost } from '../base/tolerance'
import { maxBreakerZs, maxRcdZs } from '../calculate/fault-loop'
import { worlds } from '../region/worlds'

/** The highest earth fault loop impedances of a circuit, in ohms, and the one that governs. */
export interface LoopLimit {
  /** At which the breaker's magnetic release acts. */
  readonly breakerOhm: number
  /** At which the residual device at the board acts; null: there is none. */
  readonly residualOhm: number | null
  readonly governs: 'breaker' | 'residual'
  /** The one that governs. */
  readonly ohm: number
  readonly clause: string
}

/**
 * On an earth rod the residual device governs (BS 7671 411.5.3). Elsewhere the breaker does, unless the design relies on the residual
 * device because its loop is over what the breaker needs (411.4.5). Null where the world has no such limits.
 */
export function loopLimit(
  { region, supply }: Pick<Installation, 'region' | 'supply'>,
  { residual, breakerType }: Pick<Design, 'residual' | 'breakerType'>,
  breakerA: number,
  zsOhm: number | null,
): LoopLimit | null {
  const { metric } = worlds[region]
  if (metric === null) return null
  const breakerOhm = maxBreakerZs(metric, breakerType, breakerA)
  const residualOhm = residual.at === 'board' ? maxRcdZs(metric, residual.ma) : null
  const relied = residualOhm !== null && (supply.earthing === 'tt' || (zsOhm !== null && !atMost(zsOhm, breakerOhm)))
  return {
    breakerOhm,
    residualOhm,
    governs: relied ? 'residual' : 'breaker',
    ohm: relied ? residualOhm : breakerOhm,
    clause: relied ? (supply.earthing === 'tt' ? metric.rcdClause : `411.4.5; ${metric.rcdClause}`) : metric.loopClause,
  }
}
