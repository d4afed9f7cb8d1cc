import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { evaluate } from '../evaluate/evaluate'

import type { Installation as Job } from '../installation/installation'
import { newRaceway } from '../job/raceway'
import { newStretch } from '../job/design'
import type { RegionId } from '../region/types'
import { voltageDrop } from '../calculate/voltage-drop'
import { pointWorkings } from '../documents/sheet'
import type { Reading } from '../job/reading'
import { judge } from '../verify/judge'
import { applyShort as applyEdit, newJob, type Placed, placed, type Short as Edit } from '../../../tests/support/shorthand'

const at = { circuit: 'c1' } as const
const stop = (id: string, more: Partial<Placed>): Placed => placed(id, `Point ${id}`, more)
function make(region: RegionId, points: Placed[], ...edits: Edit[]): Job {
  return [
    { kind: 'supply.set', patch: { zeOhm: 0.35 } } as Edit,
    {
      kind: 'design.set',
      ...at,
      design: 'a',
      patch: {
        lengthM: 10,
        accessory: region === 'north-america' ? 'na-duplex-20' : region === 'united-kingdom' ? 'uk-socket-13-twin' : 'za-socket-16',
        residual: { at: 'none', ma: 30, type: 'A' },
      },
    } as Edit,
    ...(points.length ? [{ kind: 'circuit-point.add', ...at, points } as Edit] : []),
    ...edits,
  ].reduce((job, e) => applyEdit(job, e).job, newJob(region, 'x', ''))
}
const chosen = (job: Job) => evaluate(job, []).circuits[0]!.chosen
const rulesOf = (job: Job) =>
  chosen(job)
    .findings.filter((f) => f.severity === 'error')
    .map((f) => f.rule)

describe('a radial with several points', () => {
  it('loses at each point what the current beyond it loses on the way', () => {
    const { layout, result } = chosen(
      make('united-kingdom', [stop('a', { lengthM: 10, watts: 1150 }), stop('b', { from: 'a', lengthM: 8, watts: 920 })]),
    )
    expect(result!.size).toBe('1.5 mm2')
    // 9 A over 10 m, then 4 A over 8 m, at 29 mV/A/m.
    expect(layout!.points[0]).toMatchObject({ throughA: 9, dropV: expect.closeTo((29 * 10 * 9) / 1000, 9) })
    expect(layout!.points[1]).toMatchObject({ throughA: 4, dropV: expect.closeTo((29 * (10 * 9 + 8 * 4)) / 1000, 9) })
    expect(layout!.worstDrop!.point.id).toBe('b')
    // r1 + r2 of 1.5/1.0 mm², hot.
    expect(layout!.points[1]!.zsOhm).toBeCloseTo(0.35 + (1.2 * (12.1 + 18.1) * 18) / 1000, 9)
  })

  it('is one point the same as one run', () => {
    fc.assert(
      fc.property(
        fc.constantFrom<RegionId>('north-america', 'united-kingdom', 'southern-africa'),
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 100, max: 1400 }),
        (region, lengthM, watts) => {
          const along = chosen(make(region, [stop('a', { lengthM, watts })])).result!
          const alone = chosen(
            make(
              region,
              [],
              { kind: 'load.set', ...at, patch: { amount: watts } },
              { kind: 'design.set', ...at, design: 'a', patch: { lengthM } },
            ),
          ).result!
          expect(along.size).toBe(alone.size)
          expect(along.breakerA).toBe(alone.breakerA)
          expect(along.dropPercent).toBeCloseTo(alone.dropPercent!, 9)
        },
      ),
      { numRuns: 60 },
    )
  })

  it('takes a larger cable until the worst point is within its limit', () => {
    const near = chosen(make('united-kingdom', [stop('a', { lengthM: 10, watts: 3000 })])).result!
    const far = chosen(make('united-kingdom', [stop('a', { lengthM: 10, watts: 100 }), stop('b', { from: 'a', lengthM: 60, watts: 2900 })]))
    expect(Number.parseFloat(far.result!.size!)).toBeGreaterThan(Number.parseFloat(near.size!))
    expect(far.layout!.worstDrop!.dropPercent).toBeLessThanOrEqual(5)
  })

  it('says which branch is too thin for what guards it', () => {
    const branch = (more: Partial<Placed>) =>
      rulesOf(
        make(
          'united-kingdom',
          [stop('a', { lengthM: 5, watts: 2000 }), stop('b', { from: 'a', lengthM: 5, watts: 200, size: '1.0 mm2', ...more })],
          {
            kind: 'design.set',
            ...at,
            design: 'a',
            patch: { wantedBreakerA: 20, minSize: '2.5 mm2', method: 'conduit-in-insulated-wall' },
          },
        ),
      )
    expect(branch({})).toContain('branch-not-protected')
    expect(branch({ fuseA: 3 })).not.toContain('branch-not-protected')
    expect(branch({ watts: 3000 })).toContain('branch-overloaded')
  })

  it('feeds no more through a fuse than the fuse lets through', () => {
    const { layout } = chosen(make('united-kingdom', [stop('a', { lengthM: 5, watts: 5000, fuseA: 13 })]))
    expect(layout!.points[0]!.throughA).toBe(13)
  })

  it('asks for lengths and loads that are missing and says nothing else', () => {
    const report = evaluate(
      make('united-kingdom', [stop('a', { lengthM: null, watts: 100 }), stop('b', { from: 'a', lengthM: 3, watts: null })]),
      [],
    )
    expect(report.circuits[0]!.open.filter((o) => o.field === 'points')).toHaveLength(2)
    expect(report.circuits[0]!.chosen.result).toBeNull()
  })
})

const ring = (points: Placed[], closeM: number | null = 10, ...edits: Edit[]) =>
  make(
    'united-kingdom',
    [],
    // A ring first: the lengths of points that were on a radial are not those between them in a ring.
    { kind: 'circuit.set', ...at, patch: { kind: 'ring' } },
    { kind: 'circuit-point.add', ...at, points },
    { kind: 'run.set', ...at, patch: { closeM } },
    { kind: 'design.set', ...at, design: 'a', patch: { residual: { at: 'board', ma: 30, type: 'A' } } },
    ...edits,
  )

describe('a length not measured', () => {
  const along = (lengthM: number | null) =>
    make('united-kingdom', [
      stop('a', { lengthM: 10, watts: 1150 }),
      stop('b', { from: 'a', lengthM, watts: 920 }),
      stop('c', { from: 'b', lengthM: 4, watts: 460 }),
    ])
  it('leaves drop and loop unknown at all that is fed beyond it, and known before it', () => {
    const { layout, result } = chosen(along(null))
    expect(layout!.points.map((p) => [p.distanceM, p.dropV === null, p.zsOhm === null])).toEqual([
      [10, false, false],
      [null, true, true],
      [null, true, true],
    ])
    // What its load is does not depend on it.
    expect(layout!.points[0]!.throughA).toBeCloseTo(11, 9)
    expect(result).toMatchObject({ dropPercent: null, zsOhm: null })
    expect(chosen(along(0.5)).result).toMatchObject({ dropPercent: expect.any(Number), zsOhm: expect.any(Number) })
  })
  it('is asked for by what is read there, and a reading is kept without a judgement', () => {
    const plan = (lengthM: number | null) => evaluate(along(lengthM), []).circuits[0]!.tests.find((t) => t.id === 'continuity-protective')!
    expect(plan(5).expect.kind).toBe('range')
    expect(plan(null).expect.kind).toBe('unknown')
    expect(judge(plan(null), { mark: null, value: 0.55, unit: 'Ω' } as Reading).verdict).toBe('unknown')
    expect(judge(plan(5), { mark: null, value: 0.55, unit: 'Ω' } as Reading).verdict).toBe('met')
  })
  it('in a ring leaves how its load divides unknown', () => {
    const of = (closeM: number | null) => chosen(ring([stop('a', { lengthM: 10, watts: 2300 })], closeM)).layout!
    expect(of(null)).toMatchObject({ legsA: null, measured: false, worstDrop: null })
    expect(of(null).points[0]).toMatchObject({ throughA: null, dropV: null })
    expect(of(5)).toMatchObject({ legsA: { out: expect.any(Number) }, measured: true })
  })
})

describe('a ring', () => {
  it('shares its load between the legs by distance, and is behind 32 A on 2.5 mm²', () => {
    const { layout, result } = chosen(ring([stop('a', { lengthM: 10, watts: 2300 }), stop('b', { lengthM: 20, watts: 2300 })], 10))
    // 40 m round: 10 A at 10 m and 10 A at 30 m.
    expect(layout!.legsA).toEqual({ out: 10, back: 10 })
    expect(result).toMatchObject({ breakerA: 32, size: '2.5 mm2' })
    expect(layout!.points[0]!.dropV).toBeCloseTo((18 * 10 * 10) / 1000, 9)
    expect(layout!.points[1]!.dropV).toBeCloseTo((18 * 10 * 10) / 1000, 9)
  })

  it('has the drop of the calculator for one load at its midpoint, and a quarter of the loop', () => {
    fc.assert(
      fc.property(fc.integer({ min: 5, max: 60 }), fc.integer({ min: 200, max: 3000 }), (half, watts) => {
        const { layout } = chosen(ring([stop('a', { lengthM: half, watts })], half))
        const byCalculator = voltageDrop({
          region: 'united-kingdom',
          size: '2.5 mm2',
          conductor: 'copper',
          lengthM: 2 * half,
          currentA: watts / 230,
          systemV: 230,
          ring: true,
        })
        expect(layout!.points[0]!.dropV).toBeCloseTo(byCalculator.dropV, 9)
        expect(layout!.points[0]!.zsOhm).toBeCloseTo(0.35 + (1.2 * (7.41 + 12.1) * 2 * half) / 4 / 1000, 9)
      }),
      { numRuns: 40 },
    )
  })

  it('closes: the drop walked round from one side comes back to nothing', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ lengthM: fc.integer({ min: 1, max: 15 }), watts: fc.integer({ min: 0, max: 1500 }) }), {
          minLength: 1,
          maxLength: 6,
        }),
        fc.integer({ min: 1, max: 15 }),
        (list, closeM) => {
          const { layout } = chosen(
            ring(
              list.map((p, i) => stop(`p${i}`, p)),
              closeM,
            ),
          )
          const last = layout!.points.at(-1)!
          expect(last.dropV).toBeCloseTo(((18 * closeM) / 1000) * layout!.legsA!.back, 6)
          expect(Math.min(...layout!.points.map((p) => p.dropV!))).toBeGreaterThanOrEqual(-1e-9)
        },
      ),
      { numRuns: 60 },
    )
  })

  const two = [stop('a', { lengthM: 10, watts: 500 }), stop('b', { lengthM: 10, watts: 500 })]
  it.each<[string, () => Job, () => Job]>([
    ['ring-device', () => ring(two, 10, { kind: 'design.set', ...at, design: 'a', patch: { wantedBreakerA: 20 } }), () => ring(two)],
    [
      'ring-capacity',
      () => ring(two, 10, { kind: 'design.set', ...at, design: 'a', patch: { ambientC: 60, groupedCircuits: 20 } }),
      () => ring(two),
    ],
    [
      'ring-leg-overloaded',
      () =>
        ring([stop('a', { lengthM: 1, watts: 7000 })], 60, {
          kind: 'design.set',
          ...at,
          design: 'a',
          patch: { groupedCircuits: 20, ambientC: 60 },
        }),
      () => ring(two),
    ],
    [
      'spur-on-spur',
      () => ring([...two, stop('s', { from: 'a', lengthM: 2, watts: 100 }), stop('t', { from: 's', lengthM: 2, watts: 100 })]),
      () => ring([...two, stop('s', { from: 'a', lengthM: 2, watts: 100, fuseA: 13 }), stop('t', { from: 's', lengthM: 2, watts: 100 })]),
    ],
    [
      'spur-too-many',
      () => ring([...two, stop('s', { from: 'a', lengthM: 2, watts: 100, outlets: 3 })]),
      () => ring([...two, stop('s', { from: 'a', lengthM: 2, watts: 100, outlets: 2 })]),
    ],
    [
      'too-many-spurs',
      () =>
        ring([
          ...two,
          stop('s', { from: 'a', lengthM: 2, watts: 1 }),
          stop('t', { from: 'a', lengthM: 2, watts: 1 }),
          stop('u', { from: 'b', lengthM: 2, watts: 1 }),
        ]),
      () => ring([...two, stop('s', { from: 'a', lengthM: 2, watts: 1 })]),
    ],
    [
      'point-voltage-drop',
      () => ring([stop('a', { lengthM: 10, watts: 500 }), stop('s', { from: 'a', lengthM: 900, watts: 3000 })]),
      () => ring(two),
    ],
    [
      'point-loop-too-high',
      () =>
        ring(
          two,
          10,
          { kind: 'design.set', ...at, design: 'a', patch: { residual: { at: 'none', ma: 30, type: 'A' } } },
          { kind: 'supply.set', patch: { zeOhm: 3 } },
        ),
      () => ring(two),
    ],
  ])('%s is raised and not raised', (rule, raises, quiet) => {
    expect(rulesOf(raises())).toContain(rule)
    expect(rulesOf(quiet())).not.toContain(rule)
  })
})

describe('two lines with a shared neutral', () => {
  const shared = (points: Placed[], way = '14-16') =>
    make('north-america', points, { kind: 'circuit.set', ...at, patch: { kind: 'shared-neutral', way } })
  it('lose less when balanced, and the neutral carries the difference', () => {
    const even = chosen(shared([stop('a', { lengthM: 20, watts: 1200, leg: 'A' }), stop('b', { lengthM: 20, watts: 1200, leg: 'B' })]))
    expect(even.layout!.linesA).toEqual({ A: 10, B: 10, neutral: 0 })
    const both = chosen(
      shared([
        stop('j', { lengthM: 20, watts: 0, leg: 'A' }),
        stop('a', { from: 'j', lengthM: 1, watts: 1200, leg: 'A' }),
        stop('b', { from: 'j', lengthM: 1, watts: 1200, leg: 'B' }),
      ]),
    )
    const alone = chosen(
      shared([stop('j', { lengthM: 20, watts: 0, leg: 'A' }), stop('a', { from: 'j', lengthM: 1, watts: 1200, leg: 'A' })]),
    )
    const dropOf = (r: typeof both) => r.layout!.points.find((p) => p.point.id === 'a')!.dropV!
    expect(dropOf(both)).toBeLessThan(dropOf(alone))
    // Alone: there and back over 21 m at 1.93 Ω per 1000 ft (12 AWG).
    expect(dropOf(alone)).toBeCloseTo(
      (2 * 21 * 10 * ({ '14 AWG': 3.07, '12 AWG': 1.93 } as Record<string, number>)[alone.result!.size!]!) / 304.8,
      6,
    )
  })
  it('open together, on different legs', () => {
    const pts = [stop('a', { lengthM: 5, watts: 600 }), stop('b', { lengthM: 5, watts: 600, leg: 'B' as const })]
    expect(rulesOf(shared(pts))).not.toContain('shared-neutral-tie')
    expect(rulesOf(shared(pts, '14-15'))).toContain('shared-neutral-tie')
    expect(rulesOf(shared(pts, '14'))).toContain('shared-neutral-tie')
    expect(chosen(shared(pts, '')).findings.find((f) => f.rule === 'shared-neutral-tie')!.severity).toBe('unknown')
  })
})

describe('a run of stretches', () => {
  const seg = (job: Job, list: Partial<ReturnType<typeof newStretch>>[]): Edit => ({
    kind: 'design.set',
    ...at,
    design: 'a',
    patch: { stretches: list.map((s, i) => ({ ...newStretch(job.circuits[0]!.designs[0]!, `s${i}`), ...s })) },
  })
  it('is governed by the worst, and says what moving it would win', () => {
    const base = make('united-kingdom', [], { kind: 'load.set', ...at, patch: { amount: 5000 } })
    const { stretches, governing, without, result, input } = chosen(
      applyEdit(base, seg(base, [{ lengthM: 5 }, { lengthM: 4, ambientC: 45, method: 'ceiling-insulation-over-100mm', place: 'attic' }]))
        .job,
    )
    expect(governing).toBe(1)
    expect(stretches[0]!.ampacityA).toBeGreaterThan(stretches[1]!.ampacityA)
    expect(input!.run.lengthM).toBe(9)
    expect(Number.parseFloat(without!)).toBeLessThan(Number.parseFloat(result!.size!))
  })
  it('is the same as one run where all its stretches are alike', () => {
    const base = make('north-america', [], { kind: 'load.set', ...at, patch: { amount: 1400 } })
    const one = chosen(applyEdit(base, { kind: 'design.set', ...at, design: 'a', patch: { lengthM: 30 } }).job).result
    expect(chosen(applyEdit(base, seg(base, [{ lengthM: 10 }, { lengthM: 20 }])).job).result).toEqual(one)
  })
  it('counts every circuit of a raceway on the stretch in conduit', () => {
    const base = make(
      'north-america',
      [],
      { kind: 'load.set', ...at, patch: { amount: 1400 } },
      { kind: 'circuit.add', id: 'c2', name: 'B' },
      { kind: 'circuit.add', id: 'c3', name: 'C' },
      { kind: 'raceway.add', item: newRaceway('r', 'Raceway', { lengthM: 5, circuits: ['c1', 'c2', 'c3'] }) },
    )
    const inConduit = applyEdit(base, seg(base, [{ lengthM: 10, place: 'conduit' }])).job
    expect((chosen(inConduit).input!.run as { loadedConductors: number }).loadedConductors).toBe(6)
    expect(
      (
        chosen(applyEdit(inConduit, { kind: 'raceway.set', id: 'r', patch: { nipple: true, lengthM: 0.6 } }).job).input!.run as {
          loadedConductors: number
        }
      ).loadedConductors,
    ).toBe(2)
  })
})

describe('the workings of the points', () => {
  it('say what the report says, number by number', () => {
    const job = make('united-kingdom', [stop('a', { lengthM: 10, watts: 1150 }), stop('b', { from: 'a', lengthM: 8, watts: 920 })])
    const list = pointWorkings(job, job.circuits[0]!, chosen(job))
    expect(list).toHaveLength(4)
    expect(list[2]!.numbers).toBe('2.61 V + 29 × 8 m × 4 A / 1000 = 3.538 V, of 230 V')
    expect(list[3]!.numbers).toMatch(/^0\.35 \+ 0\.3624 \+ 8 m × 36\.24 mΩ\/m = 1\.0023 Ω$/)
  })
})
