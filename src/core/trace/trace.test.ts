import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { answer, beyond, fewestTests, type House, makeHouse, onwardCables } from './house'
import { trace } from './trace'
import type { Observation, TraceInput } from './types'

/** Every layout of a small house. */
function layouts(breakers: readonly string[], points: readonly string[]): House[] {
  const places = [...breakers, ...points]
  const all: House[] = []
  const fill = (i: number, parent: Record<string, string>) => {
    if (i === points.length) {
      const house = { breakers, points, parent: { ...parent } }
      if (points.every((p) => reachesBreaker(house, p))) all.push(house)
      return
    }
    for (const place of places) if (place !== points[i]) fill(i + 1, { ...parent, [points[i]!]: place })
  }
  fill(0, {})
  return all
}
function reachesBreaker(house: House, point: string): boolean {
  let at: string | undefined = point
  for (let i = 0; i <= house.points.length; i++) {
    if (house.breakers.includes(at!)) return true
    at = house.parent[at!]
  }
  return false
}
const sameSet = (a: readonly string[], b: readonly string[]) => a.length === b.length && a.every((x) => b.includes(x))
function agrees(house: House, o: Observation): boolean {
  if (o.kind === 'breaker-off') return sameSet(beyond(house, o.breaker), o.dead)
  if (o.kind === 'disconnected') return sameSet(beyond(house, o.point), o.dead)
  return onwardCables(house, o.point) === o.onward
}
function breakerOf(house: House, point: string): string {
  const up = house.parent[point]!
  return house.breakers.includes(up) ? up : breakerOf(house, up)
}

const sizes = [
  { breakers: ['b1'], points: ['p', 'q', 'r', 's'] },
  { breakers: ['b1', 'b2'], points: ['p', 'q', 'r', 's'] },
  { breakers: ['b1', 'b2', 'b3'], points: ['p', 'q', 'r'] },
]
const enumerated = sizes.map((s) => ({ ...s, all: layouts(s.breakers, s.points) }))

const seen = (house: House, picks: readonly number[]): Observation[] => {
  const possible: Observation[] = [
    ...house.breakers.map((b): Observation => ({ kind: 'breaker-off', breaker: b, dead: beyond(house, b) })),
    ...house.points.map((p): Observation => ({ kind: 'disconnected', point: p, dead: beyond(house, p) })),
    ...house.points.map((p): Observation => ({ kind: 'cables', point: p, onward: onwardCables(house, p) })),
  ]
  return picks.map((i) => possible[i % possible.length]!)
}

describe('inference', () => {
  it.each(enumerated)(
    'asserts exactly what every layout shares: $breakers.length breakers, $points.length points',
    ({ breakers, points, all }) => {
      fc.assert(
        fc.property(fc.nat(), fc.array(fc.nat(), { maxLength: 7 }), (which, picks) => {
          const observations = seen(all[which % all.length]!, picks)
          const left = all.filter((h) => observations.every((o) => agrees(h, o)))
          const out = trace({ breakers: [...breakers], points: [...points], observations })
          expect(out.contradictions).toEqual([])
          for (const p of points) {
            const parents = [...new Set(left.map((h) => h.parent[p]!))].toSorted()
            const feeds = [...new Set(left.map((h) => breakerOf(h, p)))]
            expect(out.parents[p]).toBe(parents.length === 1 ? parents[0] : null)
            expect(out.feeds[p]).toBe(feeds.length === 1 ? feeds[0] : null)
            if (parents.length > 1) expect(out.candidates[p]!.toSorted()).toEqual(parents)
          }
          // Every test listed could be answered in more than one way.
          for (const { test } of out.nextTests) expect(new Set(left.map((h) => JSON.stringify(answer(h, test)))).size).toBeGreaterThan(1)
        }),
        { numRuns: 400 },
      )
    },
  )

  it.each(enumerated)(
    'finds a contradiction exactly where no layout is left: $breakers.length breakers, $points.length points',
    ({ breakers, points, all }) => {
      fc.assert(
        fc.property(fc.array(fc.tuple(fc.nat(), fc.nat()), { minLength: 1, maxLength: 4 }), (mixed) => {
          // Observations from different houses: some agree, most do not.
          const observations = mixed.map(([which, pick]) => seen(all[which % all.length]!, [pick])[0]!)
          const possible = (list: readonly Observation[]) => all.some((h) => list.every((o) => agrees(h, o)))
          const [clash] = trace({ breakers: [...breakers], points: [...points], observations }).contradictions
          expect(clash === undefined).toBe(possible(observations))
          if (!clash) return
          const named = clash.observations.map((i) => observations[i]!)
          expect(possible(named)).toBe(false)
          // No smaller set clashes: leaving any one out of the named makes them possible, and no pair does where three are named.
          for (const i of named.keys()) expect(possible(named.filter((_, k) => k !== i))).toBe(true)
          if (named.length > 2) for (const a of observations) for (const b of observations) expect(possible([a, b])).toBe(true)
        }),
        { numRuns: 400 },
      )
    },
  )
})

describe('a contradiction among many', () => {
  const house = makeHouse(3, 12, 60)
  const all = () => [
    ...house.breakers.flatMap((b) => answer(house, { kind: 'breaker-off', breaker: b }, true)),
    ...house.points.flatMap((p) => answer(house, { kind: 'disconnected', point: p }, true)),
  ]
  const clashOf = (observations: Observation[]) =>
    trace({ breakers: [...house.breakers], points: [...house.points], observations }).contradictions
  it('is named by a set from which nothing can be left out', () => {
    for (const at of [15, 40, 80]) {
      const seen = all()
      const i = seen.findIndex((o, k) => k >= at && o.kind === 'cables' && o.onward > 0)
      const count = seen[i] as Observation & { kind: 'cables' }
      seen[i] = { ...count, onward: count.onward + 1 }
      const [clash] = clashOf(seen)
      const named = clash!.observations.map((k) => seen[k]!)
      expect(named).toContain(seen[i])
      expect(clashOf(named)).toHaveLength(1)
      for (const out of named.keys()) expect(clashOf(named.filter((_, k) => k !== out))).toEqual([])
    }
  })
  it('blames no observation where no breaker is listed at all', () => {
    const parted: Observation = { kind: 'disconnected', point: 'a', dead: [] }
    for (const observations of [[], [parted], [parted, { kind: 'cables', point: 'b', onward: 0 } as const]]) {
      const [clash] = trace({ breakers: [], points: ['a', 'b'], observations }).contradictions
      expect(clash).toEqual({ observations: [], message: 'No breaker is listed that could feed these points.' })
    }
  })
  it('says so where no proof was made that fewer would not do', () => {
    const feeds = house.breakers.flatMap((b) => answer(house, { kind: 'breaker-off', breaker: b }, false))
    const one = feeds.findIndex((o) => o.kind === 'breaker-off' && o.dead.length > 0)
    const fewer = feeds.map((o, i) => (i === one && o.kind === 'breaker-off' ? { ...o, dead: o.dead.slice(1) } : o))
    const [clash] = clashOf(fewer)
    expect(clash!.observations).toHaveLength(house.breakers.length)
    expect(clash!.message).toContain('not every set was tried')
    expect(clashOf([...feeds, { kind: 'cables', point: 'p1', onward: 60 }])[0]!.message).not.toContain('not every set was tried')
  })
})

function solve(house: House, count: boolean, goal?: TraceInput['goal']) {
  const observations: Observation[] = []
  const input = (): TraceInput => ({ breakers: [...house.breakers], points: [...house.points], observations, ...(goal ? { goal } : {}) })
  let tests = 0
  for (let out = trace(input()); out.nextTests.length > 0; out = trace(input())) {
    observations.push(...answer(house, out.nextTests[0]!.test, count))
    tests++
  }
  return { tests, out: trace(input()) }
}

describe('asking', () => {
  it('ends with the true tree, whatever the house', () => {
    fc.assert(
      fc.property(
        fc.nat(),
        fc.integer({ min: 1, max: 6 }),
        fc.integer({ min: 1, max: 14 }),
        fc.boolean(),
        (seed, breakers, points, count) => {
          const house = makeHouse(seed, breakers, points)
          expect(solve(house, count).out.parents).toEqual(house.parent)
        },
      ),
      { numRuns: 60 },
    )
  })

  it('asks for a goal alone, and ends with it known in fewer tests', () => {
    fc.assert(
      fc.property(fc.nat(), fc.constantFrom('feeds' as const, 'parents' as const), (seed, want) => {
        const house = makeHouse(seed, 5, 12)
        const { tests, out } = solve(house, false, { points: ['p3'], want })
        if (want === 'parents') expect(out.parents.p3).toBe(house.parent.p3)
        else {
          expect(out.feeds.p3).toBe(breakerOf(house, 'p3'))
          expect(tests).toBeLessThanOrEqual(4)
        }
        expect(tests).toBeLessThanOrEqual(solve(house, false).tests)
      }),
      { numRuns: 40 },
    )
  })

  it('is not far from the fewest tests that would prove it', () => {
    const houses = Array.from({ length: 30 }, (_, i) => makeHouse(i, 5, 15))
    const ratios = houses.map((h) => solve(h, false).tests / fewestTests(h))
    expect(ratios.reduce((a, b) => a + b, 0) / ratios.length).toBeLessThanOrEqual(1.25)
  })
})

describe('bad input', () => {
  const base = { breakers: ['b1'], points: ['p'], observations: [] }
  const cases: [string, TraceInput, string][] = [
    ['an unknown breaker', { ...base, observations: [{ kind: 'breaker-off', breaker: 'x', dead: [] }] }, 'observations.0.breaker'],
    [
      'an unknown dead point',
      { ...base, observations: [{ kind: 'breaker-off', breaker: 'b1', dead: ['p', 'x'] }] },
      'observations.0.dead.1',
    ],
    ['a point listed twice', { ...base, points: ['p', 'p'] }, 'points.1'],
    ['a goal that is not there', { ...base, goal: { points: ['x'], want: 'feeds' } }, 'goal.points.0'],
  ]
  it.each(cases)('%s is named at its place', (_, input, path) => {
    expect(() => trace(input)).toThrow(expect.objectContaining({ path }))
  })
})
