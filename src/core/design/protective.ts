import type { SelectedCircuit } from '../calculate/select-circuit'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'

/** The protective conductor of a cable of a circuit whose size is its own; of any other that of the circuit. Null: not worked out. */
export function protectiveOf(
  region: RegionId,
  cable: string,
  r: Pick<SelectedCircuit, 'size' | 'protectiveSize' | 'breakerA'>,
  own: string | null,
): string | null {
  if (own === null || own === r.size || r.breakerA === null) return r.protectiveSize
  const { sizes, protectiveSize } = worlds[region]
  return sizes(cable, 'copper').includes(own) ? protectiveSize(cable, own, r.breakerA) : r.protectiveSize
}
