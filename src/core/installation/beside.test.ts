import { describe, expect, it } from 'vitest'
import { after, newJob, placed, type Short } from '../../../tests/support/shorthand'
import { togetherM } from '../building/beside'
import type { WayKind } from '../building/ways'
import { evaluate } from '../evaluate/evaluate'
import type { CableRoute } from '../job/cable'
import { conditionsOf } from '../design/conditions'
import { newStretch } from '../job/design'
import { routeFindings } from './building'

type Place = [number, number, number]
const part = (kind: WayKind, ...path: Place[]) => ({ kind, path })

describe('ways that lie together', () => {
  const level = [part('attic', [0, 0, 2.5], [6, 0, 2.5])]
  it('are measured along the one of them, by what it is there', () => {
    expect(togetherM(level, [part('attic', [2, 0, 2.5], [9, 0, 2.5])]).get('attic')).toBeCloseTo(4, 1)
    expect(togetherM(level, [part('attic', [3, -3, 2.5], [3, 3, 2.5])]).get('attic')).toBeLessThan(0.4)
    expect(togetherM(level, [part('cavity', [0, 0, 2.5], [6, 0, 2.5])]).get('attic')).toBeCloseTo(6, 1)
  })
  it('are apart from 150 mm on', () => {
    const beside = (y: number) => togetherM(level, [part('attic', [0, y, 2.5], [6, y, 2.5])]).get('attic') ?? 0
    expect(beside(0.149)).toBeCloseTo(6, 6)
    expect(beside(0.151)).toBe(0)
  })
})

const at = '2026-11-27T08:00:00.000Z'
const way = (lengthM: number): CableRoute => ({
  cutM: lengthM,
  at,
  elements: [
    {
      kind: 'attic',
      room: null,
      side: null,
      beyond: null,
      lengthM,
      minutes: 9,
      holes: 0,
      openings: 0,
      path: [
        [0, 0, 2.5],
        [lengthM, 0, 2.5],
      ],
    },
  ],
})
const two = (region: 'united-kingdom' | 'north-america', ...more: readonly Short[]) => {
  const load = (circuit: string): Short => ({
    kind: 'load.set',
    circuit,
    patch: { name: 'x', volts: region === 'north-america' ? 120 : 230, basis: 'watts', amount: 1500, connection: 'plug' },
  })
  const fitted = (circuit: string): Short => ({
    kind: 'design.set',
    circuit,
    design: 'a',
    patch: { accessory: region === 'north-america' ? 'na-duplex-20' : 'uk-socket-13' },
  })
  return after(
    newJob(region),
    { kind: 'circuit.add', id: 'c2', name: 'Second' },
    load('c1'),
    load('c2'),
    fitted('c1'),
    fitted('c2'),
    { kind: 'route.take', cable: 'to-end-c1', route: way(12) },
    ...more,
  )
}
const taken = (lengthM: number): Short => ({ kind: 'route.take', cable: 'to-end-c2', route: way(lengthM) })
const runOf = (job: ReturnType<typeof two>, circuit: number) =>
  evaluate(job, []).circuits[circuit]!.chosen.input!.run as Record<string, unknown>

describe('circuits whose cables take one way', () => {
  it('are reckoned together, each by the other, however few were said, and no longer once one goes elsewhere', () => {
    expect(runOf(two('united-kingdom'), 0).groupedCircuits).toBe(1)
    const job = two('united-kingdom', taken(5))
    expect([0, 1].map((i) => runOf(job, i).groupedCircuits)).toEqual([2, 2])
    expect(runOf(after(job, { kind: 'route.drop', cable: 'to-end-c2' }), 0).groupedCircuits).toBe(1)
    // In one session the verdict of the first follows what is done to the second.
    evaluate(job, [])
    expect(runOf(after(job, { kind: 'circuit.remove', circuit: 'c2' }), 0).groupedCircuits).toBe(1)
    expect(runOf(two('north-america', taken(5)), 0).loadedConductors).toBe(4)
  })
  it('count where the cable lies with them, and along all of it where that is none of its stretches', () => {
    const job = two('united-kingdom')
    const cable = job.circuits[0]!.cables[0]!.id
    const beside = [{ circuit: 'c2', lengthM: 5, cables: new Map([[cable, new Set(['attic' as const])]]) }]
    const circuit = { ...job.circuits[0]!, beside }
    const lies = (...places: readonly ('attic' | 'wall')[]) => {
      const stretches = places.map((place, i) => ({ ...newStretch(circuit.designs[0]!, `s${i}`), place, lengthM: 3, cable }))
      return conditionsOf(job, circuit, { ...circuit.designs[0]!, stretches })!.map((c) => c.groupedCircuits)
    }
    expect([lies('wall', 'attic'), lies('wall'), lies('attic')]).toEqual([[1, 2], [2], [2]])
  })
  it('count for the cable they lie with, and not for another of the circuit', () => {
    const points = ['p1', 'p2'].map((id, i) => placed(id, id, { from: i ? 'p1' : null, lengthM: 5, watts: 100 }))
    const job = two('united-kingdom', { kind: 'circuit-point.add', circuit: 'c1', points })
    const beside = [{ circuit: 'c2', lengthM: 5, cables: new Map([['to-p2', new Set(['wall' as const])]]) }]
    const circuit = { ...job.circuits[0]!, beside }
    const found = conditionsOf(job, circuit, circuit.designs[0]!)!.map((c) => [c.cable, c.groupedCircuits, c.governs])
    expect(found).toEqual([
      [null, 1, true],
      ['to-p2', 2, true],
    ])
  })
  it('are not for so little as 600 mm, nor where they are kept apart', () => {
    expect(runOf(two('united-kingdom', taken(0.6)), 0).groupedCircuits).toBe(1)
    expect(runOf(two('united-kingdom', taken(0.7)), 0).groupedCircuits).toBe(2)
    const apart = two('united-kingdom', taken(5), { kind: 'building.set', patch: { apart: true } })
    expect(runOf(apart, 0).groupedCircuits).toBe(1)
    expect(routeFindings(apart.record).filter((f) => f.rule === 'beside-on-way')).toEqual([])
  })
  it('say so, each of the other', () => {
    const said = routeFindings(two('united-kingdom', taken(5)).record).filter((f) => f.rule === 'beside-on-way')
    expect(said.map((f) => [f.circuit, f.severity])).toEqual([
      ['c1', 'note'],
      ['c2', 'note'],
    ])
    expect(said[0]!.message).toContain('For 5 m it lies together with the cable of Second')
  })
})
