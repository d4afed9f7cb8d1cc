import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { after, made, newJob, placed, type Placed, type Short } from '../../../tests/support/shorthand'
import { evaluate } from '../evaluate/evaluate'
import type { WayKind } from '../building/ways'
import { cableM, MOST_STRETCHES, type Stretch } from '../job/cable'
import { newStretch } from '../job/design'
import type { RegionId } from '../region/types'
import { stretchName } from './stretch-names'

const start = (region: RegionId) => newJob(region).circuits[0]!.designs[0]!
const stretch = (id: string, lengthM: number | null, more: Partial<Stretch> = {}, region: RegionId = 'united-kingdom'): Stretch => ({
  ...newStretch(start(region), id),
  lengthM,
  ...more,
})
const divided = (point: string, ...stretches: readonly Stretch[]): Short => ({
  kind: 'cable.set',
  id: `to-${point}`,
  patch: { stretches: [...stretches], lengthM: null },
})
const laid = (points: readonly Placed[], before: readonly Short[], ...more: readonly Short[]) =>
  made(
    'united-kingdom',
    { kind: 'supply.set', patch: { zeOhm: 0.35 } },
    { kind: 'load.set', circuit: 'c1', patch: { volts: 230 } },
    ...before,
    { kind: 'circuit-point.add', circuit: 'c1', points: [...points] },
    { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'uk-socket-13-twin', wantedBreakerA: 20, minSize: '2.5 mm2' } },
    ...more,
  )
const circuit = (points: readonly Placed[], ...more: readonly Short[]) => laid(points, [], ...more)
const ringOf = (points: readonly Placed[], closeM: number, ...more: readonly Short[]) =>
  laid(
    points,
    [{ kind: 'circuit.set', circuit: 'c1', patch: { kind: 'ring' } }],
    { kind: 'run.set', circuit: 'c1', patch: { closeM } },
    ...more,
  )
const two = (b: Partial<Placed> = {}) => [
  placed('a', 'Bench', { lengthM: 5, watts: 1500 }),
  placed('b', 'Stage', { from: 'a', lengthM: 5, watts: 500, ...b }),
]
const chosen = (job: ReturnType<typeof circuit>) => evaluate(job, []).circuits[0]!.chosen
const rules = (job: ReturnType<typeof circuit>) => chosen(job).findings.map((f) => f.rule)
const hot = (lengthM: number | null, more: Partial<Stretch> = {}) =>
  divided('b', stretch('s1', 2), stretch('s2', lengthM, { ambientC: 60, place: 'attic', ...more }))

describe('stretches of the cables beyond the first', () => {
  it('decide the size of the circuit where it is theirs too, and are named', () => {
    const [cool, warm] = [circuit(two()), circuit(two(), hot(3))]
    expect([chosen(cool).result!.size, chosen(warm).result!.size]).toEqual(['2.5 mm2', '6 mm2'])
    const { stretches, governing, without, design } = chosen(warm)
    expect(stretches.map((s) => stretchName(warm.circuits[0]!, design, s.conditions))).toEqual([
      'what lies in one manner',
      'along a wall, clipped, to Stage',
      'in the attic, to Stage',
    ])
    expect([governing, without]).toEqual([2, '2.5 mm2'])
    // What is lost along the way is of the size that was chosen, and of all of its length.
    expect(chosen(warm).layout!.points.map((p) => [p.distanceM, p.size])).toEqual([
      [5, '6 mm2'],
      [10, '6 mm2'],
    ])
    expect(chosen(warm).layout!.points.map((p) => p.ampacityA > 30)).toEqual([true, false])
  })
  it('leave the size of the circuit alone where the cable has its own, or lies behind a fuse; the cable is judged by itself', () => {
    const own = circuit(two({ size: '4 mm2' }), hot(3))
    expect(chosen(own).result!.size).toBe('2.5 mm2')
    expect(rules(own)).toContain('branch-not-protected')
    expect(rules(circuit(two({ size: '6 mm2' }), hot(3)))).not.toContain('branch-not-protected')
    const fused = (fuseA: number, groupedCircuits: number) => circuit(two({ fuseA }), hot(3, { groupedCircuits }))
    expect(chosen(fused(13, 2)).result!.size).toBe('2.5 mm2')
    expect(rules(fused(13, 2))).toContain('branch-not-protected')
    expect(rules(fused(3, 2))).not.toContain('branch-not-protected')
    expect(rules(fused(13, 1))).not.toContain('branch-not-protected')
  })
  it('are asked for where one has no length, and the cable is none of no metres', () => {
    const job = circuit(two(), hot(null))
    expect(job.circuits[0]!.points.map((p) => p.lengthM)).toEqual([5, null])
    expect(evaluate(job, []).circuits[0]!.open.map((o) => o.ask)).toContain('How long is the cable to one point?')
    expect(rules(job)).toContain('length-not-known')
  })
  it('go when a length is given that is not theirs, and stay with one that is', () => {
    const given = (lengthM: number | null, more: { size?: string; from?: string | null } = {}) =>
      after(circuit(two(), hot(3)), { kind: 'circuit-point.set', circuit: 'c1', id: 'b', patch: { lengthM, ...more } }).record.cables.find(
        (k) => k.id === 'to-b',
      )!
    expect([given(5).stretches.length, given(5, { from: null }).stretches.length]).toEqual([2, 2])
    expect([given(7), given(7, { from: null })].map((k) => [k.stretches.length, k.lengthM])).toEqual([
      [0, 7],
      [0, 7],
    ])
    expect(cableM(given(null))).toBeNull()
  })
  it('change no figure where they only divide what lies in one manner', () => {
    const cuts = fc.array(fc.double({ min: 0.1, max: 0.9, noNaN: true }), { minLength: 1, maxLength: 3 })
    fc.assert(
      fc.property(
        fc.constantFrom('radial' as const, 'ring' as const),
        fc.array(fc.record({ lengthM: fc.integer({ min: 1, max: 20 }), watts: fc.integer({ min: 50, max: 900 }) }), {
          minLength: 2,
          maxLength: 4,
        }),
        fc.array(fc.option(cuts, { nil: null }), { minLength: 5, maxLength: 5 }),
        (kind, list, divisions) => {
          const points = list.map((p, i) => placed(`p${i}`, `P${i}`, { ...p, from: kind === 'ring' || i === 0 ? null : `p${i - 1}` }))
          const whole = kind === 'ring' ? ringOf(points, 6) : circuit(points)
          const parts = after(
            whole,
            ...whole.record.cables.flatMap((k, i): Short[] => {
              const cut = divisions[i]
              if (!cut || k.circuit !== 'c1') return []
              const shares = [...cut, 1].map((c) => c / (cut.reduce((a, b) => a + b, 0) + 1))
              const stretches = shares.map((s, n) => stretch(`s${n}`, k.lengthM! * s))
              return [{ kind: 'cable.set', id: k.id, patch: { stretches, lengthM: null } }]
            }),
          )
          const [a, b] = [chosen(whole), chosen(parts)]
          expect([b.result!.size, b.result!.breakerA, b.result!.ampacityA]).toEqual([
            a.result!.size,
            a.result!.breakerA,
            a.result!.ampacityA,
          ])
          for (const [i, p] of b.layout!.points.entries())
            for (const key of ['distanceM', 'dropV', 'zsOhm', 'ampacityA'] as const)
              expect(p[key]).toBeCloseTo(a.layout!.points[i]![key]!, 6)
        },
      ),
      { numRuns: 60 },
    )
  })
})

describe('a way taken over by a cable beyond the first', () => {
  const at = '2026-11-27T08:00:00.000Z'
  const way = (...kinds: readonly WayKind[]) => ({
    cutM: 2 * kinds.length,
    at,
    elements: kinds.map((kind) => ({
      kind,
      room: null,
      side: null,
      beyond: null,
      lengthM: 1,
      minutes: 1,
      holes: 0,
      openings: 0,
      path: [[0, 0, 0] as [number, number, number], [1, 0, 0] as [number, number, number]],
    })),
  })
  const building: Short = { kind: 'building.set', patch: { attic: { headM: 1.2, hot: true, filled: false, ambientC: 55 } } }
  const taken = (...kinds: readonly WayKind[]) => circuit(two(), building, { kind: 'route.take', cable: 'to-b', route: way(...kinds) })
  it('gives it stretches of its own, as warm as it gets there', () => {
    const job = taken('cavity', 'attic', 'attic', 'cavity')
    const cable = job.record.cables.find((k) => k.id === 'to-b')!
    expect(cable.stretches.map((s) => [s.place, s.lengthM, s.ambientC])).toEqual([
      ['wall', 2, 30],
      ['attic', 4, 55],
      ['wall', 2, 30],
    ])
    expect(job.circuits[0]!.points[1]!.lengthM).toBe(8)
    expect(chosen(job).stretches[chosen(job).governing]!.conditions).toMatchObject({ cable: 'to-b', ambientC: 55 })
  })
  it('is as long as what is cut for it however often it changes its manner', () => {
    const changes = (n: number) => taken(...Array.from({ length: n }, (_, i) => (i % 2 ? 'attic' : 'cavity') as WayKind))
    for (const n of [MOST_STRETCHES, MOST_STRETCHES + 1, 61]) {
      const cable = changes(n).record.cables.find((k) => k.id === 'to-b')!
      expect(cable.stretches.length).toBe(n <= MOST_STRETCHES ? n : 2)
      expect(cableM(cable)).toBeCloseTo(2 * n, 6)
    }
  })
})

describe('a ring whose legs are divided', () => {
  const ring = (...more: readonly Short[]) =>
    ringOf([placed('a', 'Bench', { lengthM: 20, watts: 1500 }), placed('b', 'Stage', { lengthM: 10, watts: 500 })], 15, ...more)
  it('is reckoned with all of its first leg', () => {
    const loop = (job: ReturnType<typeof ring>) => chosen(job).layout!.points.map((p) => p.zsOhm)
    expect(loop(ring(divided('a', stretch('s1', 12), stretch('s2', 8))))).toEqual(loop(ring()))
  })
  it('needs 20 A in each leg as it lies there, and its spurs need what they carry', () => {
    expect(rules(ring())).not.toContain('ring-capacity')
    const warm = (ambientC: number) => ring(divided('b', stretch('s1', 10, { ambientC })))
    expect(chosen(warm(45)).result!.size).toBe('2.5 mm2')
    expect(chosen(warm(45)).stretches.map((s) => s.size)).toEqual(['2.5 mm2', '2.5 mm2'])
    const { result } = chosen(warm(50))
    expect(result!.size).not.toBe('2.5 mm2')
    expect(result!.ampacityA!).toBeGreaterThanOrEqual(20)
    const spur = circuit(
      [placed('a', 'Bench', { lengthM: 20, watts: 1500 }), placed('b', 'Stage', { from: 'a', lengthM: 10, watts: 500, outlets: 1 })],
      { kind: 'circuit.set', circuit: 'c1', patch: { kind: 'ring', closeM: 15 } },
      divided('b', stretch('s1', 10, { ambientC: 50 })),
    )
    expect(chosen(spur).result!.size).toBe('2.5 mm2')
  })
})
