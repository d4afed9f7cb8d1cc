import type { Observation, TraceTest } from './types'

/** A small seeded generator of numbers in [0, 1), the same on every machine. */
export function seeded(seed: number): () => number {
  let s = seed >>> 0
  return () => {
    s = (s + 0x6d2b79f5) >>> 0
    let t = s
    t = Math.imul(t ^ (t >>> 15), t | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

/** A building whose wiring is hidden from anyone who traces it, and that answers tests. */
export interface House {
  readonly breakers: readonly string[]
  readonly points: readonly string[]
  readonly parent: Readonly<Record<string, string>>
}

/** A house in which each point is fed from its breaker or, more often, from a point placed before it on the same breaker. */
export function makeHouse(seed: number, breakerCount: number, pointCount: number): House {
  const random = seeded(seed)
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)]!
  const breakers = Array.from({ length: breakerCount }, (_, i) => `b${i + 1}`)
  const points = Array.from({ length: pointCount }, (_, i) => `p${i + 1}`)
  const parent: Record<string, string> = {}
  const on = new Map<string, string[]>(breakers.map((b) => [b, []]))
  // Placed in an order of its own, so that a point's name says nothing of where it hangs.
  for (const p of points.toSorted(() => random() - 0.5)) {
    const breaker = pick(breakers)
    const there = on.get(breaker)!
    parent[p] = there.length === 0 || random() < 0.15 ? breaker : random() < 0.6 ? there.at(-1)! : pick(there)
    there.push(p)
  }
  return { breakers, points, parent }
}

/** Everything that is fed beyond a place. */
export function beyond(house: House, place: string): string[] {
  const hangs = (x: string): boolean => {
    const up = house.parent[x]
    return up !== undefined && (up === place || hangs(up))
  }
  return house.points.filter(hangs)
}

export const onwardCables = (house: House, point: string): number => house.points.filter((x) => house.parent[x] === point).length

/** What somebody sees who makes the test in this house; with `count`, they also count the cables in the opened box. */
export function answer(house: House, test: TraceTest, count = false): Observation[] {
  if (test.kind === 'breaker-off') return [{ kind: 'breaker-off', breaker: test.breaker, dead: beyond(house, test.breaker) }]
  const parted: Observation = { kind: 'disconnected', point: test.point, dead: beyond(house, test.point) }
  return count ? [parted, { kind: 'cables', point: test.point, onward: onwardCables(house, test.point) }] : [parted]
}

/**
 * The fewest tests that would prove the layout to somebody who knew it: every breaker that feeds something (or all but
 * one), and every point but a last one that hangs alone from its parent.
 */
export function fewestTests(house: House): number {
  const feeding = house.breakers.filter((b) => house.points.some((p) => house.parent[p] === b)).length
  const alone = house.points.filter(
    (p) => onwardCables(house, p) === 0 && house.points.every((q) => q === p || house.parent[q] !== house.parent[p]),
  )
  return Math.min(feeding, house.breakers.length - 1) + house.points.length - alone.length
}
