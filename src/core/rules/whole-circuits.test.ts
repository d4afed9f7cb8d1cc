import { newResidualDevice } from '../job/board'
import { describe, expect, it } from 'vitest'
import { evaluate } from '../evaluate/evaluate'

import type { RegionId } from '../region/types'
import { applyShort as applyEdit, newJob, type Placed, placed, type Short as Edit } from '../../../tests/support/shorthand'

/*
 * Whole circuits as the trade would tell of them. All that the rules have against each is known by heart; it is put right
 * one thing after another, and every time what was put right is gone and nothing else has come.
 */

const c1 = { circuit: 'c1' } as const
const design = (patch: Extract<Edit, { kind: 'design.set' }>['patch']): Edit => ({ kind: 'design.set', ...c1, design: 'a', patch })
const circuit = (patch: Extract<Edit, { kind: 'circuit.set' }>['patch']): Edit => ({ kind: 'circuit.set', ...c1, patch })
const load = (patch: Extract<Edit, { kind: 'load.set' }>['patch']): Edit => ({ kind: 'load.set', ...c1, patch })
const stop = (id: string, patch: Extract<Edit, { kind: 'circuit-point.set' }>['patch']): Edit => ({
  kind: 'circuit-point.set',
  ...c1,
  id,
  patch,
})
/** Somebody looked at the board, and these spaces are free. */
const seenFree = (...free: number[]): Edit => ({ kind: 'board.set', id: 'main', patch: { spaces: 12, free } })
/** Points one after another from the board. */
const chain = (...points: (Partial<Placed> & { id: string; name: string })[]): Edit => ({
  kind: 'circuit-point.add',
  ...c1,
  points: points.map((p, i) => placed(p.id, p.name, { from: points[i - 1]?.id ?? null, lengthM: 3, ...p })),
})

/** Errors, warnings and what is not known, after each step. */
function told(region: RegionId, start: readonly Edit[], ...steps: readonly (readonly Edit[])[]): string[][] {
  let job = start.reduce((j, e) => applyEdit(j, e).job, newJob(region, 'x', ''))
  const said = () =>
    evaluate(job, [])
      .circuits[0]!.chosen.findings.filter((f) => f.severity !== 'note')
      .map((f) => `${f.severity} ${f.rule}`)
      .toSorted()
  return [
    said(),
    ...steps.map((step) => {
      job = step.reduce((j, e) => applyEdit(j, e).job, job)
      return said()
    }),
  ]
}
/** What each step took away, and that it brought nothing. */
function gone(lists: readonly string[][]): string[][] {
  return lists.slice(1).map((now, i) => {
    const before = [...lists[i]!]
    for (const n of now) {
      const at = before.indexOf(n)
      expect(at, `${n} came with step ${i + 1}`).toBeGreaterThanOrEqual(0)
      before.splice(at, 1)
    }
    return before
  })
}

describe('a kitchen of a dwelling, North America', () => {
  const start: Edit[] = [
    { kind: 'brief.set', patch: { environment: 'dry', premises: 'dwelling' } },
    { kind: 'supply.set', patch: { pscKa: 5, upstream: { kind: 'breaker', ratingA: 200 } } },
    circuit({ way: '7', place: 'kitchen', nearWater: true }),
    load({ name: 'Counter', connection: 'plug' }),
    design({ accessory: 'na-duplex-20', breakingKa: 10, wantedBreakerA: 15, selectiveKa: 6 }),
    chain(
      { id: 'a', name: 'Counter, left', watts: 200 },
      { id: 'b', name: 'Counter, right', watts: 200 },
      { id: 'c', name: 'Table', watts: 200, place: 'living', accessory: 'na-duplex-15' },
      { id: 'd', name: 'Hot tap', watts: 1000, outlets: 0, accessory: 'na-switch-1p' },
    ),
  ]
  it('is put right thing by thing', () => {
    const lists = told(
      'north-america',
      start,
      [design({ wantedBreakerA: 20 })],
      [design({ fitted: ['tamper'] })],
      [stop('a', { accessory: 'na-gfci-20', guardsOn: true })],
      [design({ arcFault: 'board' })],
      [stop('c', { place: 'kitchen' })],
      [seenFree(7)],
    )
    expect(gone(lists)).toEqual([
      // On 15 A: no kitchen's circuit, no place for 20 A receptacles, and half of it too little for the tap.
      ['error receptacle-of-point', 'error room-circuit-rating', 'error share-of-circuit'],
      ['error tamper-resistant'],
      // In the kitchen, and near its sink though at the table.
      ['error residual-protection-needed', 'error residual-protection-needed'],
      ['error arc-fault-protection', 'error arc-fault-protection'],
      ['warning room-circuit-alone'],
      ['unknown way-taken'],
    ])
    expect(lists.at(-1)).toEqual([])
  })
})

describe('a ring of a dwelling, United Kingdom', () => {
  const guard = (id: string, tripMa: number): Edit => ({
    kind: 'residual-device.add',
    item: newResidualDevice(id, id, { ratingA: 63, tripMa, type: 'A' }),
  })
  const start: Edit[] = [
    { kind: 'brief.set', patch: { environment: 'dry', premises: 'dwelling' } },
    { kind: 'supply.set', patch: { zeOhm: 0.35, pscKa: 1, upstream: { kind: 'fuse', ratingA: 100 } } },
    guard('g1', 30),
    guard('g2', 100),
    circuit({ kind: 'ring', way: '1', place: 'kitchen', closeM: 8 }),
    load({ name: 'Sockets', connection: 'plug' }),
    design({
      accessory: 'uk-socket-13-twin',
      breakingKa: 6,
      wantedBreakerA: 20,
      method: 'stud-wall-insulated-not-touching',
      residual: { at: 'none', ma: 30, type: null },
    }),
    {
      kind: 'circuit-point.add',
      ...c1,
      points: [
        ['a', 'Counter', {}],
        ['b', 'Window', {}],
        ['c', 'Water heater', { outlets: 0, watts: 2800, accessory: 'uk-fcu', fuseA: 3 }],
        ['d', 'Spur', { from: 'b', outlets: 3 }],
      ].map(([id, name, more]) =>
        placed(id as string, name as string, { lengthM: 6, watts: 400, outlets: 2, ...(more as Partial<Placed>) }),
      ),
    },
    circuit({ closeM: 8 }),
  ]
  it('is put right thing by thing', () => {
    const lists = told(
      'united-kingdom',
      start,
      [design({ selectiveKa: 1.5 })],
      [design({ wantedBreakerA: 32 })],
      [design({ method: 'clipped-direct' })],
      [stop('d', { outlets: 2 })],
      [stop('c', { fuseA: 13 })],
      // What leads on from another point afterwards is measured again.
      [{ kind: 'circuit-point.remove', ...c1, id: 'c' }, circuit({ closeM: 8 })],
      [design({ residual: { at: 'board', ma: 30, type: 'A' } }), circuit({ behind: 'g1' })],
      [seenFree(2, 1)],
    )
    expect(gone(lists)).toEqual([
      ['unknown selectivity'],
      ['error ring-device'],
      // In the insulated wall a ring asks for 6 mm², which no socket takes; and a nail would find it live.
      ['error terminal-too-small', 'warning concealed-cable'],
      ['error spur-too-many'],
      ['error fuse-not-right'],
      ['warning fixed-load-on-ring'],
      ['error socket-residual-protection'],
      ['unknown way-taken'],
    ])
    expect(lists.at(-1)).toEqual([])
  })

  it('is not put behind the device that trips too late for sockets', () => {
    const right = [
      ...start,
      seenFree(1),
      design({ selectiveKa: 1.5, wantedBreakerA: 32, method: 'clipped-direct', residual: { at: 'board', ma: 30, type: 'A' } }),
      stop('d', { outlets: 2 }),
      { kind: 'circuit-point.remove', ...c1, id: 'c' } as Edit,
      circuit({ closeM: 8 }),
    ]
    expect(told('united-kingdom', right, [circuit({ behind: 'g2' })])).toEqual([
      ['unknown residual-device-not-said'],
      ['error socket-residual-protection'],
    ])
  })
})

describe('a motor on a plug, southern Africa', () => {
  const start: Edit[] = [
    { kind: 'brief.set', patch: { environment: 'dry', premises: 'farm' } },
    { kind: 'supply.set', patch: { zeOhm: 0.5, pscKa: 8, upstream: { kind: 'breaker', ratingA: 60 } } },
    circuit({ way: '4', place: 'workshop' }),
    load({ name: 'Extractor', basis: 'va', amount: 1500, nature: 'motor', startFactor: 8, connection: 'plug' }),
    design({
      accessory: 'za-socket-16',
      lengthM: 20,
      method: 'C',
      breakerType: 'B',
      breakingKa: 6,
      cordA: 6,
      residual: { at: 'none', ma: 30, type: null },
      stretches: [
        { id: 'g', place: 'buried', lengthM: 20, ambientC: 30, method: 'C', loadedConductors: 2, groupedCircuits: 1, insulationMm: 0 },
      ],
    }),
  ]
  it('is put right thing by thing', () => {
    // 6.52 A eight times over is 52 A; behind 10 A a type B breaker trips from 50 A surely, a type D not below 100 A.
    const lists = told(
      'southern-africa',
      start,
      [design({ cordA: 16 })],
      [design({ breakerType: 'D' })],
      [design({ breakingKa: 10, selectiveKa: 10 })],
      [design({ stretches: [] })],
      [design({ residual: { at: 'board', ma: 30, type: 'A' } }), circuit({ behind: 'own' })],
      [seenFree(4)],
    )
    expect(gone(lists)).toEqual([
      ['error cord-below-load'],
      ['error start-trips'],
      ['error breaking-capacity'],
      ['error cable-not-for-place'],
      ['error socket-residual-protection'],
      ['unknown way-taken'],
    ])
    expect(lists.at(-1)).toEqual([])
  })
})
