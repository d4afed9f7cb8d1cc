import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import type { Circuit } from '../installation/installation'
import type { Installation as Job } from '../installation/installation'
import { newStretch } from '../job/design'
import type { RegionId } from '../region/types'
import { designWorkings, pointWorkings, sheetTables } from './sheet'
import type { Working } from '../design/working'
import { applyShort as applyEdit, newJob, type Placed, placed, type Short as Edit } from '../../../tests/support/shorthand'

/*
 * Every line of a design sheet that says `this = that` is worked out again from its words alone, as an inspector would
 * with a pocket calculator: units struck out, × and − read as signs, the left side against the right.
 */
const UNITS = /(?<=[\d)]) ?(Ω\/kft|kW|W|V|A|mm|ft|m|Ω|mA)(?![\wΩ/])/g
/** A point named before what it draws. */
const NAMES = /[A-Za-z’][A-Za-z’, ]*\d* (?=[\d.]+ W)/g
const value = (expression: string): number => {
  const plain = expression
    .replace(NAMES, '')
    .replace(/([\d.]+) mΩ\/m/g, '($1 / 1000)')
    .replace(UNITS, '')
    .replaceAll('×', '*')
    .replaceAll('−', '-')
    .trim()
  if (!/^[\d.\s+\-*/()]+$/.test(plain)) throw new Error(`not arithmetic: ${expression}`)
  return Number(new Function(`return (${plain})`)())
}
/** The equations in the numbers of a working, each side as words. */
function equations(numbers: string): [left: string, right: string][] {
  const held = /^min\((.*) = (.*?), (\d+) °C column\) = (.*)$/.exec(numbers)
  if (held) return [[held[1]!, held[2]!]]
  return numbers
    .split(/; |, of /)
    .filter((part) => part.includes(' = '))
    .map((part) => {
      const sides = part.split(' = ')
      return [sides[0]!, sides.at(-1)!]
    })
}
/** The first equation that does not hold, in words; figures are printed to four decimals. */
function wrong(w: Working): string | null {
  for (const [left, right] of equations(w.numbers)) {
    const [l, r] = [value(left), value(right)]
    if (!(Math.abs(l - r) <= 2e-3 * Math.abs(r) + 5e-3)) return `${w.title}: ${w.numbers} (${l} against ${r})`
  }
  return null
}
const allOf = (job: Job, circuit: Circuit, report: ReturnType<typeof evaluate>['circuits'][number]['chosen']): Working[] => [
  ...Object.values(designWorkings(job, circuit, report)),
  ...pointWorkings(job, circuit, report),
]

const at = { circuit: 'c1' } as const
const accessories: Record<RegionId, string> = {
  'north-america': 'na-duplex-20',
  'united-kingdom': 'uk-socket-13-twin',
  'southern-africa': 'za-socket-16',
}
const made = (region: RegionId, points: readonly Placed[], kind: Circuit['kind'], closeM: number | null, ...edits: Edit[]) =>
  [
    { kind: 'supply.set', patch: { zeOhm: 0.35 } } as Edit,
    { kind: 'circuit.set', ...at, patch: { kind, closeM, way: '5-7' } } as Edit,
    { kind: 'design.set', ...at, design: 'a', patch: { lengthM: 10, accessory: accessories[region] } } as Edit,
    ...(points.length ? [{ kind: 'circuit-point.add', ...at, points: [...points] } as Edit] : []),
    ...edits,
  ].reduce((job, e) => applyEdit(job, e).job, newJob(region, 'x', ''))

describe('a design sheet adds up', () => {
  it('of every circuit of the demo jobs, with something to add up in each that is worked out', () => {
    for (const demo of demoJobs) {
      const job = demo.edits.reduce((j, e) => applyEdit(j, e).job, newJob(demo.region, demo.title, demo.place))
      for (const { circuit, chosen } of evaluate(job, []).circuits) {
        const list = allOf(job, circuit, chosen)
        expect(list.map(wrong).filter(Boolean)).toEqual([])
        if (chosen.result?.size) expect(list.flatMap((w) => equations(w.numbers)).length).toBeGreaterThan(1)
      }
    }
  })

  const point = fc.record({
    lengthM: fc.integer({ min: 1, max: 25 }),
    watts: fc.integer({ min: 0, max: 1200 }),
    from: fc.nat(4),
    leg: fc.constantFrom<NonNullable<Placed['leg']>>('A', 'B', 'AB'),
    big: fc.boolean(),
  })
  it.each<[Circuit['kind'], RegionId[]]>([
    ['radial', ['north-america', 'united-kingdom', 'southern-africa']],
    ['ring', ['united-kingdom']],
    ['shared-neutral', ['north-america']],
  ])('of any %s, at every point', (kind, regions) => {
    let lines = 0
    fc.assert(
      fc.property(
        fc.constantFrom(...regions),
        fc.array(point, { minLength: 1, maxLength: 6 }),
        fc.integer({ min: 1, max: 25 }),
        fc.integer({ min: 1, max: 4 }),
        (region, list, closeM, roots) => {
          const larger = region === 'north-america' ? '8 AWG' : '6 mm2'
          const points = list.map((p, i) =>
            placed(`p${i}`, `P${i}`, {
              lengthM: p.lengthM,
              watts: p.watts,
              leg: p.leg,
              size: p.big ? larger : null,
              from: i === 0 || (kind === 'ring' && i < roots) ? null : `p${p.from % i}`,
            }),
          )
          const job = made(region, points, kind, kind === 'ring' ? closeM : null)
          const { circuit, chosen } = evaluate(job, []).circuits[0]!
          const all = allOf(job, circuit, chosen)
          lines += all.length
          expect(all.map(wrong).filter(Boolean)).toEqual([])
        },
      ),
      { numRuns: 80 },
    )
    expect(lines).toBeGreaterThan(300)
  })

  it('would notice one that does not', () => {
    const line = (numbers: string): Working => ({ title: 'x', result: '', formula: '', numbers, inputs: [], clauses: [] })
    expect(wrong(line('2 × 100 ft × 24 A × 1.21 Ω/kft / 1000 = 5.808 V, of 240 V'))).toBeNull()
    expect(wrong(line('2 × 100 ft × 24 A × 1.21 Ω/kft / 1000 = 5.9 V, of 240 V'))).toContain('5.9')
    expect(wrong(line('0.5 V − 18 × 8 m × 2 A / 1000 = 0.212 V, of 230 V'))).toBeNull()
    expect(wrong(line('min(40 × 0.91 × 0.8 = 30.12 A, 75 °C column) = 29.12 A'))).toContain('30.12')
  })
})

describe('the tables of a design sheet', () => {
  it('list the stretches with the one that governs, and every point', () => {
    const job = made('united-kingdom', [placed('a', 'Bench', { lengthM: 5, watts: 1000 })], 'radial', null)
    const stretches = [{ lengthM: 4 }, { lengthM: 6, ambientC: 45 }].map((s, i) => ({
      ...newStretch(job.circuits[0]!.designs[0]!, `s${i}`),
      ...s,
    }))
    const hot = applyEdit(job, { kind: 'design.set', ...at, design: 'a', patch: { stretches } }).job
    const tables = (j: typeof job) => {
      const { circuit, chosen } = evaluate(j, []).circuits[0]!
      return sheetTables(circuit, chosen, 'metric')
    }
    const [run, points] = tables(hot)
    expect(run!.rows.map((r) => [r[0], r[1], r[2], r[5]])).toEqual([
      ['along a wall, clipped, to Bench', '4 m', '30 °C', ''],
      ['along a wall, clipped, to Bench', '6 m', '45 °C', 'governs'],
    ])
    expect(points!.rows).toHaveLength(1)
    expect(points!.rows[0]!.slice(0, 2)).toEqual(['Bench', '15 m'])
  })
  it('leave out what there is not', () => {
    const { circuit, chosen } = evaluate(made('united-kingdom', [], 'radial', null), []).circuits[0]!
    expect(sheetTables(circuit, chosen, 'metric')).toEqual([])
  })
})
