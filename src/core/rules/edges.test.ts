import { describe, expect, it } from 'vitest'
import { accessoriesFor, type Accessory } from '../catalogue/accessories'
import { boxesFor } from '../catalogue/boxes'
import { evaluateBox } from '../build/choose-box'
import { evaluate } from '../evaluate/evaluate'
import { newBox } from '../job/box'
import { read } from '../installation/installation'
import { type RegionId, regionIds } from '../region/types'
import { worlds } from '../region/worlds'
import { applyShort, newJob, type Short } from '../../../tests/support/shorthand'

/* Ratings of accessories and room in boxes at their very edge: just below, at, within 1e-9 of it, and just above. */

const ruleOf = (region: RegionId, edits: readonly Short[], rule: string): boolean => {
  const job = edits.reduce((j, edit) => applyShort(j, edit).job, newJob(region, 'A', ''))
  const [report] = evaluate(job, []).circuits
  return report!.findings.some((f) => f.rule === rule)
}
const load = (amps: number, volts: number): Short => ({
  kind: 'load.set',
  circuit: 'c1',
  patch: { name: 'x', basis: 'amps', amount: amps, volts, connection: 'fixed', nature: 'heating' },
})
const fitted = (accessory: string, wantedBreakerA: number | null): Short => ({
  kind: 'design.set',
  circuit: 'c1',
  design: 'a',
  patch: { accessory, wantedBreakerA, lengthM: 5 },
})
const switching: readonly Accessory[] = regionIds.flatMap((region) =>
  accessoriesFor(region).filter((a) => a.kind !== 'outlet' && a.kind !== 'light'),
)

describe.each(switching)('$name', (a) => {
  // What is 3 kW by name draws over 13 A: a hundredth over the rating is within what both may differ by.
  const limit = a.ratingA * 1.01
  it.each([
    ['just below', limit - 1e-6, false],
    ['at', limit, false],
    ['as good as at', limit * (1 + 4e-10), false],
    ['just above', limit * (1 + 1e-6), true],
  ])('carries what is %s its rating', (_, amps, raised) => {
    expect(ruleOf(a.region, [load(amps, a.volts), fitted(a.id, null)], 'accessory-below-load')).toBe(raised)
  })
})

const opening = switching.filter((a) => a.region !== 'north-america' && ['isolator', 'switch', 'thermostat'].includes(a.kind))
it.each(opening)('$name: said where the breaker is rated above it, and not where it is rated no higher', (a) => {
  const ratings = worlds[a.region].breakerRatingsA
  const within = ratings.filter((r) => r <= a.ratingA).at(-1)!
  const over = ratings.find((r) => r > a.ratingA)!
  const at = (breakerA: number) => ruleOf(a.region, [load(1, 230), fitted(a.id, breakerA)], 'accessory-below-breaker')
  expect([at(within), at(over)]).toEqual([false, true])
})

const metric = regionIds.filter((r) => worlds[r].boxesBy === 'depth')
describe.each(metric)('depth of boxes in %s', (region) => {
  const job = read(newJob(region, 'A', ''))
  const some = accessoriesFor(region)[0]!
  const boxes = boxesFor(region).filter((b) => b.mounting !== 'ceiling' && b.gangs >= some.gangs)
  const shallow = (depth: number, cables: number, kind: (typeof boxes)[number]) =>
    evaluateBox(job, newBox('b', { kind: kind.id }), {
      fitted: [{ ...some, boxDepthMm: depth }],
      unknown: [],
      gangs: [some.gangs],
      size: '2.5 mm2',
      protectiveSize: '1.5 mm2',
      cables: Array.from({ length: cables }, () => ({ size: '2.5 mm2', conductors: 2 })),
    }).findings.some((f) => f.rule === 'box-too-shallow')

  it.each(boxes)('$name takes what is as deep as it is and nothing deeper', (b) => {
    expect(shallow(b.depthMm - 0.001, 2, b)).toBe(false)
    expect(shallow(b.depthMm, 2, b)).toBe(false)
    expect(shallow(b.depthMm * (1 + 4e-10), 2, b)).toBe(false)
    expect(shallow(b.depthMm + 0.001, 2, b)).toBe(true)
  })
  it.each(boxes)('$name: each cable beyond two asks for ten millimetres', (b) => {
    expect([1, 2, 3, 4].map((n) => shallow(b.depthMm - 10, n, b))).toEqual([false, false, false, true])
  })
  it('asks for no more where the accessory is made for conductors of that size', () => {
    const [heavy] = accessoriesFor(region).filter((a) => a.ratingA >= 45 && a.kind === 'isolator')
    const report = evaluateBox(job, newBox('b', { kind: boxes[0]!.id }), {
      fitted: [heavy!],
      unknown: [],
      gangs: [1],
      size: '10 mm2',
      protectiveSize: '4 mm2',
      cables: [{ size: '10 mm2', conductors: 2 }],
    })
    expect(report.depth!.neededMm).toBe(heavy!.boxDepthMm)
  })
  it.each([
    ['4 mm2', 0],
    ['6 mm2', 6],
    ['10 mm2', 12],
    ['16 mm2', 12],
  ])('conductors of %s need %i mm more to turn', (size, mm) => {
    const report = evaluateBox(job, newBox('b', { kind: boxes[0]!.id }), {
      fitted: [some],
      unknown: [],
      gangs: [some.gangs],
      size,
      protectiveSize: '1.5 mm2',
      cables: [{ size, conductors: 2 }],
    })
    expect(report.depth!.neededMm).toBe(some.boxDepthMm + mm)
  })
})

describe('volume of boxes', () => {
  const region: RegionId = 'north-america'
  const job = read(newJob(region, 'A', ''))
  const some = accessoriesFor(region).find((a) => a.gangs === 1 && a.kind === 'outlet')!
  const filled = (cables: number, kind: string) =>
    evaluateBox(job, newBox('b', { kind }), {
      fitted: [some],
      unknown: [],
      gangs: [some.gangs],
      size: '14 AWG',
      protectiveSize: '14 AWG',
      cables: Array.from({ length: cables }, () => ({ size: '14 AWG', conductors: 2 })),
    })
  it.each(boxesFor(region).filter((b) => b.gangs === 1))('$name is full where its volume is reached', (b) => {
    const counts = Array.from({ length: 12 }, (_, i) => i + 1)
    for (const n of counts) {
      const { fill, findings } = filled(n, b.id)
      // Counted by hand: each conductor one, the device two, clamps inside one, protective conductors one up to four, then a quarter each.
      const allowances = 2 * n + 2 + (b.internalClamps ? 1 : 0) + 1 + Math.max(0, n - 4) / 4
      const neededCm3 = allowances * 2 * 16.387064
      expect(fill!.output.fillFraction).toBeCloseTo(neededCm3 / b.volumeCm3, 9)
      expect(findings.some((f) => f.rule === 'box-overfilled')).toBe(neededCm3 > b.volumeCm3 * (1 + 1e-9))
    }
  })
})
