import type { ResidualDevice } from '../job/board'
import type { Circuit, Design, Installation } from './installation'

/**
 * What is upstream of a circuit in its board, as the record says it. `to-buy`: the breaker, or the whole board, is still
 * to be bought, and a residual current device with it. `not-said`: nobody looked, or said.
 */
export type BoardProtection =
  | { readonly kind: 'device'; readonly device: ResidualDevice }
  | { readonly kind: 'own' | 'none' | 'to-buy' | 'not-said' }

/** Worlds whose boards have residual current devices that several ways share; elsewhere each is in its own breaker. */
const sharedDevices: Readonly<Record<Installation['region'], boolean>> = {
  'north-america': false,
  'united-kingdom': true,
  'southern-africa': true,
}

export function boardProtection(
  job: Pick<Installation, 'region' | 'residualDevices'>,
  { behind, feeder, ways }: Pick<Circuit, 'behind' | 'feeder' | 'ways'>,
): BoardProtection {
  if (behind === 'own' || behind === 'none') return { kind: behind }
  const device = behind === null ? undefined : job.residualDevices.find((d) => d.id === behind)
  if (device) return { kind: 'device', device }
  const found = ways.some((w) => w.state !== 'new')
  return { kind: !found && (feeder !== null || !sharedDevices[job.region]) ? 'to-buy' : 'not-said' }
}

/** Whether a circuit is behind a residual current device at its board; null where that is counted on and not known. */
export function protectedAtBoard(
  job: Pick<Installation, 'region' | 'residualDevices'>,
  circuit: Pick<Circuit, 'behind' | 'feeder' | 'ways'>,
  { residual }: Pick<Design, 'residual'>,
): boolean | null {
  const { kind } = boardProtection(job, circuit)
  if (kind === 'device' || kind === 'own') return true
  if (kind === 'none') return false
  if (residual.at !== 'board') return circuit.ways.some((w) => w.state !== 'new') ? null : false
  return kind === 'to-buy' ? true : null
}
