import type { Element } from '../network/types'

/** The places that an element joins without a load between them, while it is closed. */
export type Joins = (e: Element) => readonly (readonly [string, string])[]
/** Conductors and switches; residual devices and breakers are none of them. */
export const conductors: Joins = (e) => (e.kind === 'wire' ? [[e.a, e.b]] : e.kind === 'switch' ? e.poles.map((p) => [p.a, p.b]) : [])
/** Whatever leads on with next to no resistance. */
export const closedWays: Joins = (e) => (e.kind === 'breaker' || e.kind === 'rcd' ? e.poles.map((p) => [p.line, p.load]) : conductors(e))

/** Every place that what joins leads to from some places, past nothing that is open. */
export function reachedFrom(
  elements: readonly Element[],
  open: readonly string[],
  from: readonly string[],
  joins: Joins,
): ReadonlySet<string> {
  const shut = new Set(open)
  const next = new Map<string, string[]>()
  for (const e of elements)
    if (!shut.has(e.id))
      for (const [a, b] of joins(e))
        for (const [x, y] of [
          [a, b],
          [b, a],
        ] as const) {
          const known = next.get(x)
          if (known) known.push(y)
          else next.set(x, [y])
        }
  const found = new Set(from)
  for (const at of found) for (const to of next.get(at) ?? []) found.add(to)
  return found
}
