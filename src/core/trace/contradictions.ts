import { feasible, gather, nested, regions } from './regions'
import type { Observation, Trace, TraceInput } from './types'

/** Whether some layout agrees with all these observations. */
export function consistent(input: TraceInput, observations: readonly Observation[]): boolean {
  const facts = gather(observations)
  return facts !== null && nested(input, facts) && regions(input, facts).every(feasible)
}

/** Triples are tried one by one up to this many observations; beyond, a set from which nothing can be left out will do. */
const MOST_FOR_TRIPLES = 40

/** A smallest set of observations that cannot all be true, or none. */
export function contradictions(input: TraceInput): Trace['contradictions'] {
  const { observations } = input
  if (consistent(input, observations)) return []
  const clash = (indexes: readonly number[]) =>
    !consistent(
      input,
      indexes.map((i) => observations[i]!),
    )
  const irreducible = leaveOut(observations.length, clash)
  const smallest = smaller(observations.length, irreducible.length, clash) ?? irreducible
  return [
    {
      observations: smallest,
      message:
        `These cannot all be true: ${smallest.map((i) => inWords(observations[i]!)).join('; ')}. One was misread, or something was ` +
        'switched or joined in between. Do one of them again, or withdraw it.',
    },
  ]
}

/** Drops observations, oldest first, as long as the others still clash. */
function leaveOut(count: number, clash: (indexes: readonly number[]) => boolean): number[] {
  let kept = Array.from({ length: count }, (_, i) => i)
  for (let i = 0; i < count; i++) {
    const without = kept.filter((k) => k !== i)
    if (clash(without)) kept = without
  }
  return kept
}

function smaller(count: number, size: number, clash: (indexes: readonly number[]) => boolean): number[] | null {
  const all = Array.from({ length: count }, (_, i) => i)
  if (size > 1) for (const a of all) if (clash([a])) return [a]
  if (size > 2) for (const a of all) for (const b of all.slice(a + 1)) if (clash([a, b])) return [a, b]
  if (size > 3 && count <= MOST_FOR_TRIPLES)
    for (const a of all) for (const b of all.slice(a + 1)) for (const c of all.slice(b + 1)) if (clash([a, b, c])) return [a, b, c]
  return null
}

const names = (dead: readonly string[]): string => (dead.length ? dead.join(', ') : 'nothing')

function inWords(o: Observation): string {
  if (o.kind === 'breaker-off') return `with ${o.breaker} off, ${names(o.dead)} dead`
  if (o.kind === 'disconnected') return `beyond ${o.point}, ${names(o.dead)} dead`
  return `${o.onward} onward ${o.onward === 1 ? 'cable' : 'cables'} in ${o.point}`
}
