import { feasible, gather, nested, regions } from './regions'
import type { Contradiction, Observation, TraceInput } from './types'

/** Whether some layout agrees with all these observations. */
export function consistent(input: TraceInput, observations: readonly Observation[]): boolean {
  const facts = gather(observations)
  return facts !== null && nested(input, facts) && regions(input, facts).every(feasible)
}

/** Sets of three are tried as long as this lasts: points looked at, in all. */
const BUDGET_FOR_TRIPLES = 250_000

/**
 * A smallest set of observations that cannot all be true, or null. Sets of one and of two are all tried; of three within a budget. No
 * observation at all is to blame where there are points and no breaker that could feed them: then the set is empty.
 */
export function contradiction(input: TraceInput): Contradiction | null {
  const { observations } = input
  if (consistent(input, observations)) return null
  const clash: Clash = (indexes) =>
    !consistent(
      input,
      indexes.map((i) => observations[i]!),
    )
  return clash([]) ? { observations: [], smallest: true } : smallest(input, clash)
}

/** What to say of observations that cannot all be true, each given in words. */
export function clashInWords(told: readonly string[], smallest: boolean): string {
  if (told.length === 0) return 'No breaker is listed that could feed these points.'
  return (
    `These cannot all be true: ${told.join('; ')}. One was misread, or something was switched or joined in between. ` +
    `Do one of them again, or withdraw it.${smallest ? '' : ' Fewer of them may do: not every set was tried.'}`
  )
}

type Clash = (indexes: readonly number[]) => boolean

function smallest(input: TraceInput, clash: Clash): Contradiction {
  const few = one(input, clash) ?? two(input, clash)
  if (few) return { observations: few, smallest: true }
  const irreducible = concerned(input)
    .map((about) => leaveOut(clash(about) ? about : [...input.observations.keys()], clash))
    .reduce((a, b) => (b.length < a.length ? b : a))
  if (irreducible.length === 3) return { observations: irreducible, smallest: true }
  const { found, all } = three(input, clash)
  return found ? { observations: found, smallest: true } : { observations: irreducible, smallest: all && irreducible.length === 4 }
}

const deadOf = (o: Observation): readonly string[] => (o.kind === 'cables' ? [] : o.dead)

/** One that cannot be by itself: dead beyond itself, more cables than there are points, or all breakers off and something live. */
function one({ observations, breakers, points }: TraceInput, clash: Clash): number[] | null {
  const i = observations.findIndex(
    (o, i) =>
      (breakers.length < 2 ||
        (o.kind === 'cables' && o.onward >= points.length) ||
        (o.kind === 'disconnected' && (o.dead.includes(o.point) || o.dead.length >= points.length))) &&
      clash([i]),
  )
  return i < 0 ? null : [i]
}

/** Whether two can bear on each other at all, in few steps: what passes here is tried. */
function meets({ breakers, points }: TraceInput, observations: readonly Observation[]) {
  const dead = observations.map((o) => new Set(deadOf(o)))
  const place = (o: Observation) => (o.kind === 'breaker-off' ? o.breaker : o.point)
  return (i: number, k: number): boolean => {
    const [a, b] = [observations[i]!, observations[k]!]
    if (breakers.length < 3 || (a.kind === b.kind && place(a) === place(b))) return true
    if (a.kind === 'cables' && b.kind === 'cables') return a.onward + b.onward >= points.length
    if (b.kind === 'cables') return counted(b, a, dead[i]!)
    if (a.kind === 'cables') return counted(a, b, dead[k]!)
    const [small, large] = dead[i]!.size < dead[k]!.size ? [a, dead[k]!] : [b, dead[i]!]
    return [place(a), place(b)].some((x) => dead[i]!.has(x) || dead[k]!.has(x)) || deadOf(small).some((x) => large.has(x))
  }
  function counted(count: Observation & { kind: 'cables' }, other: Observation, beyond: ReadonlySet<string>): boolean {
    if (place(other) === count.point) return true
    if (beyond.has(count.point)) return count.onward >= beyond.size
    return count.onward >= points.length - beyond.size
  }
}

function two(input: TraceInput, clash: Clash): number[] | null {
  const { observations } = input
  const may = meets(input, observations)
  for (const a of observations.keys()) for (let b = a + 1; b < observations.length; b++) if (may(a, b) && clash([a, b])) return [a, b]
  return null
}

/** Where no two clash, three do so only by a count of cables, or by three breakers that leave points over. */
function three(input: TraceInput, clash: Clash): { found: number[] | null; all: boolean } {
  const { observations, breakers, points } = input
  const counts = observations.map((o) => o.kind === 'cables')
  let left = BUDGET_FOR_TRIPLES
  for (const a of observations.keys())
    for (let b = a + 1; b < observations.length; b++)
      for (let c = b + 1; c < observations.length; c++) {
        if (breakers.length > 3 && !counts[a] && !counts[b] && !counts[c]) continue
        left -= points.length
        if (left < 0) return { found: null, all: false }
        if (clash([a, b, c])) return { found: [a, b, c], all: true }
      }
  return { found: null, all: true }
}

/** The observations that bear on each region no layout is left for; all breakers where they leave points over. */
function concerned(input: TraceInput): number[][] {
  const { observations, breakers } = input
  const facts = gather(observations)
  if (!facts || !nested(input, facts)) return [[...observations.keys()]]
  return regions(input, facts)
    .filter((r) => !feasible(r))
    .map(({ roots, members }) => {
      const places = new Set([...roots, ...members])
      const rest = roots.every((r) => breakers.includes(r) && !facts.fed.has(r))
      return [...observations.keys()].filter((i) => {
        const o = observations[i]!
        return o.kind === 'breaker-off' ? rest || places.has(o.breaker) : places.has(o.point)
      })
    })
}

/** A set from which nothing can be left out, of the newest where there is a choice; found by halving. Junker 2004, QuickXplain. */
function leaveOut(all: readonly number[], clash: Clash): number[] {
  const explain = (held: readonly number[], grown: boolean, open: readonly number[]): readonly number[] => {
    if (grown && clash(held)) return []
    if (open.length === 1) return open
    const [first, second] = [open.slice(0, open.length >> 1), open.slice(open.length >> 1)]
    const late = explain([...held, ...first], true, second)
    return [...explain([...held, ...late], late.length > 0, first), ...late]
  }
  return explain([], false, all.toReversed()).toSorted((a, b) => a - b)
}

const names = (dead: readonly string[]): string => (dead.length ? dead.join(', ') : 'nothing')

export function seenInWords(o: Observation): string {
  if (o.kind === 'breaker-off') return `with ${o.breaker} off, ${names(o.dead)} dead`
  if (o.kind === 'disconnected') return `beyond ${o.point}, ${names(o.dead)} dead`
  return `${o.onward} onward ${o.onward === 1 ? 'cable' : 'cables'} in ${o.point}`
}
