import type { Circuit, Installation, PlacedPoint } from '../installation/installation'

/** An outlet that takes the place of another, as it is called. */
export type Replacing = Pick<PlacedPoint, 'id' | 'name' | 'box'>

/** The points of a circuit; where none is named the one that it ends on. */
export const pointsOrEnd = ({ points, end }: Pick<Circuit, 'points' | 'end'>): readonly PlacedPoint[] =>
  points.length > 0 ? points : end ? [end] : []

/** New outlets of a circuit that take the place of an outlet taken out of the same box. */
export function replacingOutlets(job: Installation, circuit: Circuit): readonly Replacing[] {
  const emptied = new Set(job.standing.filter((p) => p.state === 'removed' && p.kind === 'outlet').map((p) => p.box.id))
  if (emptied.size === 0) return []
  return pointsOrEnd(circuit)
    .filter((p) => p.state === 'new' && p.outlets > 0 && emptied.has(p.box.id))
    .map(({ id, name, box }) => ({ id, name: name || circuit.name, box }))
}

/**
 * Outlets that only take the place of old ones, on wiring without a protective conductor that is not extended: what may be fitted there is
 * asked of the world. None where anything else is new on the circuit. NFPA 70 250.130(C), 406.4(D)(2).
 */
export function replacedWithoutEarth(job: Installation, circuit: Circuit): readonly Replacing[] {
  if (circuit.work !== 'altered' || circuit.old['no-earth'] !== 'yes') return []
  const replacing = replacingOutlets(job, circuit)
  return pointsOrEnd(circuit).every((p) => p.state !== 'new' || replacing.some((r) => r.id === p.id)) ? replacing : []
}
