import type { WayLoad } from './traced'
import { type BoardReport, legOf } from './board'
import type { Way } from '../job/board'

export interface Rebalance {
  readonly moves: readonly { readonly way: Way; readonly to: number }[]
  readonly before: number
  readonly after: number
}

interface Step {
  readonly moves: { way: Way; to: number }[]
  /** What it takes from leg A and gives to leg B, in amperes. */
  readonly shift: number
}

/**
 * The fewest moves of one-pole breakers that bring the legs of a panel nearest each other: into free spaces on the
 * other leg, or two changing places. Null where the spaces are not known or nothing is won.
 */
export function rebalance({ free, legs, ways }: BoardReport, loads: readonly WayLoad[]): Rebalance | null {
  if (free === null || legs === null) return null
  const amps = new Map(loads.map((l) => [l.way.id, l.amps]))
  const movable = ways.filter(
    (w) => w.position !== null && w.poles === 1 && w.half === null && w.kind === 'circuit' && (amps.get(w.id) ?? 0) > 0,
  )
  const on = (leg: 'A' | 'B') => movable.filter((w) => legOf(w.position!) === leg)
  const sign = (w: Way) => (legOf(w.position!) === 'A' ? 1 : -1)
  const singles: Step[] = movable.flatMap((w) => {
    const to = free.find((f) => legOf(f) !== legOf(w.position!))
    return to === undefined ? [] : [{ moves: [{ way: w, to }], shift: sign(w) * amps.get(w.id)! }]
  })
  const swaps: Step[] = on('A').flatMap((a) =>
    on('B').map((b): Step => ({
      moves: [
        { way: a, to: b.position! },
        { way: b, to: a.position! },
      ],
      shift: amps.get(a.id)! - amps.get(b.id)!,
    })),
  )
  const steps = [...singles, ...swaps]
  const apart = (shift: number) => Math.abs(legs.A - legs.B - 2 * shift)
  /** Two steps at once; a free space that both would take is left to the first, and the second takes the next one. */
  const together = (a: Step, b: Step): Step | null => {
    const gone = new Set(a.moves.map((m) => m.to))
    const rest = b.moves.map((m) => (gone.has(m.to) ? { ...m, to: free.find((f) => legOf(f) === legOf(m.to) && !gone.has(f)) ?? m.to } : m))
    const ways = [...a.moves, ...rest]
    return new Set(ways.map((m) => m.way.id)).size === ways.length && new Set(ways.map((m) => m.to)).size === ways.length
      ? { moves: ways, shift: a.shift + b.shift }
      : null
  }
  const before = apart(0)
  let best: Step = { moves: [], shift: 0 }
  // Another move must win a good part of what is left: a fifth of the whole difference.
  const better = (s: Step) => apart(s.shift) < apart(best.shift) - 1e-9 - Math.max(0, s.moves.length - best.moves.length) * 0.1 * before
  for (const s of steps.toSorted((a, b) => a.moves.length - b.moves.length)) if (better(s)) best = s
  for (const a of steps)
    for (const b of singles) {
      const both = together(a, b)
      if (both && better(both)) best = both
    }
  return best.moves.length && apart(best.shift) < before - 0.05 ? { moves: best.moves, before, after: apart(best.shift) } : null
}
