import type { Circuit, CircuitPoint, Installation } from '../installation/installation'

/** New outlets of a circuit that take the place of an outlet taken out of the same box. */
export function replacingOutlets(job: Installation, circuit: Circuit): readonly CircuitPoint[] {
  const emptied = new Set(job.standing.filter((p) => p.state === 'removed' && p.kind === 'outlet').map((p) => p.box.id))
  return emptied.size === 0 ? [] : circuit.points.filter((p) => p.state === 'new' && p.outlets > 0 && emptied.has(p.box.id))
}

/**
 * Outlets that only take the place of old ones, on wiring without a protective conductor that is not extended: what may be fitted there is
 * asked of the world. None where anything else is new on the circuit. NFPA 70 250.130(C), 406.4(D)(2).
 */
export function replacedWithoutEarth(job: Installation, circuit: Circuit): readonly CircuitPoint[] {
  if (circuit.work !== 'altered' || circuit.old['no-earth'] !== 'yes') return []
  const replacing = replacingOutlets(job, circuit)
  return circuit.points.every((p) => p.state !== 'new' || replacing.includes(p)) ? replacing : []
}
