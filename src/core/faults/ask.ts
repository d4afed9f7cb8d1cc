import type { Test } from '../verify/tests'
import type { Told } from '../base/told'
import type { Wiring } from '../meters/as-wired'
import { type Campaign, campaign } from './campaign'
import { type Known, knownOf } from './diagnose'

export interface FaultsAsked {
  readonly wiring: Wiring
  readonly tests: readonly Test[]
  /** Tests that may be put into the plan and are not. */
  readonly besides: readonly Test[]
  /** What every mistake does and what catches it, or what each shows of each test. */
  readonly of: 'effects' | 'readings'
}
export interface FaultsFound {
  readonly campaign: Campaign | null
  readonly known: Known | null
}
export const faultsOf = ({ wiring, tests, besides, of }: FaultsAsked, told?: Told): FaultsFound => ({
  campaign: of === 'effects' ? campaign(wiring, tests, besides, told) : null,
  known: of === 'readings' ? knownOf(wiring, tests, told) : null,
})
