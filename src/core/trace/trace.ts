import { InputError } from '../base/input-error'
import { clashInWords, contradiction, seenInWords } from './contradictions'
import { gather, parentCandidates, regions } from './regions'
import { suggest } from './suggest'
import type { Deduction, Trace, TraceInput } from './types'

/**
 * Which breaker feeds what and which point feeds which, from what was seen: exactly what every layout that agrees with
 * the observations shares, and the tests that would tell most next.
 * @throws InputError at an id that is not listed, or listed twice.
 */
export function trace(input: TraceInput): Trace {
  const { told, found } = deduceFrom(input)
  const { contradiction: clash, ...known } = told
  const contradictions = clash
    ? [
        {
          observations: [...clash.observations],
          message: clashInWords(
            clash.observations.map((i) => seenInWords(input.observations[i]!)),
            clash.smallest,
          ),
        },
      ]
    : []
  return { ...known, contradictions, nextTests: found ? suggest(input, found, told.parents, told.feeds) : [] }
}

/** The same without the tests to make next, which are most of the work. */
export const deduce = (input: TraceInput): Deduction => deduceFrom(input).told

/** What was observed, and the regions that follow from it; no regions where the observations contradict each other. */
function deduceFrom(input: TraceInput): { told: Deduction; found: ReturnType<typeof regions> | null } {
  check(input)
  const clash = contradiction(input)
  const none = Object.fromEntries(input.points.map((p) => [p, null]))
  if (clash) return { told: { feeds: none, parents: none, candidates: {}, contradiction: clash }, found: null }

  const found = regions(input, gather(input.observations)!)
  const parents: Record<string, string | null> = {}
  const candidates: Record<string, string[]> = {}
  for (const r of found)
    for (const x of r.members) {
      const from = parentCandidates(r, x)
      parents[x] = from.length === 1 ? from[0]! : null
      if (from.length > 1) candidates[x] = from
    }
  const inOrder = <V>(record: Readonly<Record<string, V>>) =>
    Object.fromEntries(input.points.filter((p) => p in record).map((p) => [p, record[p]!])) as Record<string, V>
  const told = {
    feeds: inOrder(feedsOf(input, found)),
    parents: Object.fromEntries(input.points.map((p) => [p, parents[p] ?? null])),
    candidates: inOrder(candidates),
    contradiction: null,
  }
  return { told, found }
}

/** A point's breaker: that of the root it hangs below, where the root is, or hangs below, a single breaker. */
function feedsOf(input: TraceInput, found: ReturnType<typeof regions>): Record<string, string | null> {
  const isBreaker = new Set(input.breakers)
  const regionOf = new Map(found.flatMap((r) => r.members.map((x) => [x, r] as const)))
  const feed = (x: string): string | null => {
    const { roots } = regionOf.get(x)!
    if (roots.length !== 1) return null
    return isBreaker.has(roots[0]!) ? roots[0]! : feed(roots[0]!)
  }
  return Object.fromEntries(input.points.map((p) => [p, feed(p)]))
}

function check({ breakers, points, observations, goal }: TraceInput) {
  const seen = new Set<string>()
  const once = (ids: readonly string[], path: string) =>
    ids.forEach((id, i) => {
      if (seen.has(id)) throw new InputError(`${path}.${i}`, `${id} occurs twice.`)
      seen.add(id)
    })
  once(breakers, 'breakers')
  once(points, 'points')
  const isBreaker = new Set(breakers)
  const isPoint = new Set(points)
  const need = (set: ReadonlySet<string>, id: string, path: string) => {
    if (!set.has(id)) throw new InputError(path, `There is no ${id} here.`)
  }
  observations.forEach((o, i) => {
    if (o.kind === 'breaker-off') need(isBreaker, o.breaker, `observations.${i}.breaker`)
    else need(isPoint, o.point, `observations.${i}.point`)
    if (o.kind !== 'cables') o.dead.forEach((d, k) => need(isPoint, d, `observations.${i}.dead.${k}`))
  })
  goal?.points.forEach((p, i) => need(isPoint, p, `goal.points.${i}`))
}
