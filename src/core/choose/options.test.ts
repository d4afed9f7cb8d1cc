import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { chosenDesign, type Circuit, type CircuitPoint } from '../installation/installation'
import type { Installation as Job } from '../installation/installation'
import { type Load, newLoad } from '../job/load'
import { formatMoney } from '../region/money'
import { timeCurrent } from './curves'
import { designLoad, hoursPerYear, nameplateA, startCurrent, startOf } from '../design/load'
import { layOutOptions, type Option } from './options'
import { placements } from './placements'
import { areaMm2, cablePrice, priceNames, priceOf } from '../design/prices'
import { applyShort as applyEdit, newJob, laid, type Short as Edit } from '../../../tests/support/shorthand'

const demo = (i: number, ...more: Edit[]): Job =>
  [...demoJobs[i]!.edits, ...more].reduce((job, e) => applyEdit(job, e).job, newJob(demoJobs[i]!.region, 'x', ''))
const optionsOf = (job: Job, at: number): Option[] => layOutOptions(job, job.circuits[at]!, chosenDesign(job.circuits[at]!))!

describe('the ways to build a circuit', () => {
  const hall = demo(1)
  const list = optionsOf(hall, 1)
  const good = list.filter((o) => !o.refused.length && o.beatenBy === null)

  it('are of several sizes, manners of running and places of protection, none twice', () => {
    expect(new Set(list.map((o) => o.size)).size).toBeGreaterThanOrEqual(3)
    expect(new Set(list.map((o) => o.protection))).toEqual(new Set(['none', 'board', 'outlet']))
    expect(new Set(list.map((o) => o.id)).size).toBe(list.length)
  })

  it('have a front: none on it is beaten by another, and whatever is beaten is beaten by one that is no worse', () => {
    const measures = (o: Option) => [o.cost, o.kwhAYear, -o.marginA, -o.laterA, -{ none: 0, outlet: 1, first: 1, board: 2 }[o.protection]]
    const beats = (a: Option, b: Option) =>
      measures(a).every((v, i) => v <= measures(b)[i]! + 1e-9) && measures(a).some((v, i) => v < measures(b)[i]! - 1e-9)
    const allowed = list.filter((o) => !o.refused.length)
    for (const o of good) expect(allowed.some((x) => x.id !== o.id && beats(x, o))).toBe(false)
    for (const o of allowed.filter((x) => x.beatenBy))
      expect(
        beats(
          allowed.find((x) => x.words === o.beatenBy)!,
          o,
        ),
      ).toBe(true)
  })

  it('that a rule forbids are refused with the rule, and never on the front', () => {
    const bare = list.filter((o) => o.protection === 'none')
    expect(bare.length).toBeGreaterThan(0)
    for (const o of bare) expect(o.refused.map((f) => f.rule)).toContain('socket-residual-protection')
    expect(good.some((o) => o.protection === 'none')).toBe(false)
  })

  it('do not hold against one of them what is wrong with all of them', () => {
    const kiln = optionsOf(demo(0), 0)
    expect(kiln.flatMap((o) => o.refused.map((f) => f.rule))).not.toContain('outlet-below-breaker')
  })

  it('cost more where the copper is thicker, and waste less', () => {
    const same = list
      .filter((o) => o.protection === 'board' && o.words.includes('Clipped direct'))
      .toSorted((a, b) => areaMm2(a.size) - areaMm2(b.size))
    for (let i = 1; i < same.length; i++) {
      expect(same[i]!.cost).toBeGreaterThan(same[i - 1]!.cost)
      expect(same[i]!.kwhAYear).toBeLessThan(same[i - 1]!.kwhAYear)
      expect(same[i]!.laterA).toBeGreaterThanOrEqual(same[i - 1]!.laterA)
    }
  })

  it('waste the square of the current in the cable, over the hours of the year', () => {
    const [o] = list
    const circuit = hall.circuits[1]!
    const amps = designLoad(hall, circuit)!.amps
    expect(o!.wattsLost).toBeCloseTo((o!.dropPercent / 100) * 230 * amps, 9)
    expect(o!.kwhAYear).toBeCloseTo((o!.wattsLost * hoursPerYear(circuit.load)) / 1000, 9)
  })

  it('become a design that is chosen, as it was laid out', () => {
    const option = good.at(-1)!
    const taken = applyEdit(hall, {
      kind: 'design.take',
      circuit: 'c2',
      design: 'a',
      id: 'n',
      name: 'N',
      patch: option.patch,
      reason: 'why',
    }).job
    const { chosen } = evaluate(taken, []).circuits[1]!
    expect(chosen.result!.size).toBe(option.size)
    expect(chosen.design.residual.at).toBe(option.protection)
    expect(taken.circuits[1]).toMatchObject({ chosen: 'n', reason: 'why' })
    const three = ['p', 'q', 'r'].reduce(
      (job, id) =>
        applyEdit(job, { kind: 'design.take', circuit: 'c2', design: job.circuits[1]!.chosen, id, name: id, patch: {}, reason: '' }).job,
      taken,
    )
    expect(three.circuits[1]!.designs).toHaveLength(3)
    expect(three.circuits[1]!.chosen).toBe('r')
  })

  it('are not laid out while something is missing', () => {
    const open = demo(0)
    expect(layOutOptions(open, open.circuits[2]!, chosenDesign(open.circuits[2]!))).toBeNull()
  })

  it('are not laid out with a length not measured taken for none: of one point among several, or the way back of a ring', () => {
    const at = hall.circuits.findIndex((c) => c.kind === 'ring')
    const { id: circuit, points } = hall.circuits[at]!
    const options = (...edits: Edit[]) => optionsOf(demo(1, ...edits), at)
    expect(options()).not.toBeNull()
    expect(options({ kind: 'circuit-point.set', circuit, id: points[1]!.id, patch: { lengthM: null } })).toBeNull()
    expect(options({ kind: 'circuit.set', circuit, patch: { closeM: null } })).toBeNull()
  })
})

describe('prices', () => {
  it('of one’s own come before the usual ones, for one job', () => {
    const job = applyEdit(demo(1), { kind: 'price.set', name: 'an hour', amount: 99 }).job
    expect(priceOf(job, 'an hour')).toBe(99)
    expect(priceOf(demo(1), 'an hour')).not.toBe(99)
    expect(priceOf(applyEdit(job, { kind: 'price.set', name: 'an hour', amount: null }).job, 'an hour')).toBe(priceOf(demo(1), 'an hour'))
    for (const region of ['north-america', 'united-kingdom', 'southern-africa'] as const)
      for (const n of priceNames) expect(priceOf({ region, prices: {} }, n)).toBeGreaterThan(0)
  })
  it('of cable grow with its copper', () => {
    expect(areaMm2('12 AWG')).toBeCloseTo(3.309, 3)
    expect(areaMm2('2.5 mm2')).toBe(2.5)
    expect(cablePrice({ region: 'united-kingdom', prices: {} }, 'twin-earth', '4 mm2')).toBeGreaterThan(
      cablePrice({ region: 'united-kingdom', prices: {} }, 'twin-earth', '2.5 mm2'),
    )
    expect(cablePrice({ region: 'united-kingdom', prices: { 'twin-earth 4 mm2': 9 } }, 'twin-earth', '4 mm2')).toBe(9)
  })
  it('are written in the money of their world', () => {
    expect([formatMoney(12.5, 'north-america'), formatMoney(219.4, 'united-kingdom'), formatMoney(0, 'southern-africa')]).toEqual([
      '$12.50',
      '£219',
      'R 0.00',
    ])
  })
})

describe('the load as it is', () => {
  const base = newJob('united-kingdom', 'x', '').circuits[0]!.load
  it.each([
    [{ basis: 'watts', amount: 2300 }, 10],
    [{ basis: 'watts', amount: 1840, powerFactor: 0.8 }, 10],
    [{ basis: 'va', amount: 2300 }, 10],
    [{ basis: 'amps', amount: 10 }, 10],
    [{ basis: 'kwh', amount: 18.4, hours: 8 }, 10],
    [{ basis: 'kwh', amount: 18.4, hours: null }, null],
    [{ basis: 'watts', amount: null }, null],
  ] as const)('%o draws %s A', (patch, amps) => {
    const got = nameplateA({ ...base, ...patch }, 'united-kingdom')
    if (amps === null) expect(got).toBeNull()
    else expect(got).toBeCloseTo(amps, 9)
  })

  const designed = (region: 'north-america' | 'united-kingdom', patch: object, premises: Job['brief']['premises'] = null) => {
    const job = newJob(region, 'x', '')
    const circuit = { ...job.circuits[0]!, load: { ...job.circuits[0]!.load, ...patch } }
    return designLoad({ ...job, brief: { ...job.brief, premises } }, circuit)!
  }
  it('takes each kind’s allowance, with its clause', () => {
    expect(designed('north-america', { basis: 'amps', amount: 10, nature: 'motor' })).toMatchObject({
      amps: 10,
      quarterMore: 'motor',
      steps: [{ clause: '430.22' }],
    })
    expect(designed('united-kingdom', { basis: 'amps', amount: 10, nature: 'motor' })).toMatchObject({ amps: 10, quarterMore: null })
    expect(designed('north-america', { basis: 'amps', amount: 32, nature: 'charging' }).quarterMore).toBe('charging')
    expect(designed('united-kingdom', { basis: 'amps', amount: 20, nature: 'duty', duty: 0.25 }).amps).toBeCloseTo(10, 9)
    expect(designed('united-kingdom', { basis: 'amps', amount: 20, nature: 'duty' }).amps).toBe(20)
    // First 10 A whole, 30 % of the rest, in one household only.
    expect(designed('united-kingdom', { basis: 'amps', amount: 40, nature: 'cooking' }, 'dwelling').amps).toBeCloseTo(10 + 0.3 * 30, 9)
    expect(designed('united-kingdom', { basis: 'amps', amount: 40, nature: 'cooking' }, 'hall').amps).toBe(40)
    expect(designed('united-kingdom', { basis: 'amps', amount: 8, nature: 'cooking' }, 'dwelling').amps).toBe(8)
  })
  it.each([
    // A 12 kW plate counts 8 kW, and 5 % more for each kilowatt over, or the greater part of one.
    [12_000, 8_000, 40],
    [8_750, 8_000, 40],
    [8_700, 6_960, 0],
    [12_400, 8_000, 40],
    [12_500, 8_400, 40],
    [16_000, 9_600, 40],
    [27_000, 14_000, 40],
    [1_500, 1_500, 0],
  ])('a household range of %i W counts %i W on a breaker of at least %i A', (plate, counted, leastBreakerA) => {
    const load = { kind: 'range', nature: 'cooking', volts: 240, basis: 'watts', amount: plate }
    const got = designed('north-america', load, 'dwelling')
    expect(got.amps).toBeCloseTo(counted / 240, 9)
    expect(got.leastBreakerA).toBe(leastBreakerA)
    expect(designed('north-america', load, 'hall').amps).toBeCloseTo(plate / 240, 9)
    expect(designed('north-america', { ...load, kind: 'oven' }, 'dwelling')).toMatchObject({ steps: [{ clause: 'Table 220.55 note 4' }] })
    expect(designed('north-america', { ...load, kind: 'oven' }, 'dwelling').amps).toBeCloseTo(plate / 240, 9)
  })
  it('never counts a larger range for less, nor for more than its plate', () => {
    const counted = (amount: number) =>
      designed('north-america', { kind: 'range', nature: 'cooking', volts: 240, basis: 'watts', amount }, 'dwelling').amps
    fc.assert(
      fc.property(
        fc.integer({ min: 8750, max: 26_900 }),
        fc.integer({ min: 0, max: 100 }),
        (w, more) => counted(w + more) >= counted(w) - 1e-9 && counted(w) <= w / 240,
      ),
    )
  })
  it('sets the breaker of a range to what the rule asks for', () => {
    const job = demo(
      0,
      { kind: 'brief.set', patch: { premises: 'dwelling' } },
      {
        kind: 'load.set',
        circuit: 'c1',
        patch: { kind: 'range', nature: 'cooking', amount: 9000, continuous: false, connection: 'fixed' },
      },
      { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'na-50-4w', cordA: null } },
    )
    expect(evaluate(job, []).circuits[0]!.chosen.result!.breakerA).toBe(40)
  })
  it('counts a quarter more for those of several points that run for hours', () => {
    const of = (
      region: 'north-america' | 'united-kingdom',
      appliance: string | null,
      load: Partial<Job['circuits'][number]['load']> = {},
    ) => {
      const job = newJob(region, 'x', '')
      const points = [laid('a', 'Bench', { watts: 960, lengthM: 5 }), laid('b', 'Drier', { watts: 960, lengthM: 5, from: 'a', appliance })]
      return designLoad(job, { ...job.circuits[0]!, points, load: { ...job.circuits[0]!.load, ...load } })!
    }
    expect(of('north-america', 'dehumidifier')).toMatchObject({
      amps: 16,
      leastBreakerA: 8 + 1.25 * 8,
      steps: [{ clause: '210.20(A); 430.24', words: expect.stringContaining('Drier') }],
    })
    // A heater that runs for hours is no motor and charges nothing.
    expect(of('north-america', 'honey-warmer').leastBreakerA).toBe(18)
    expect(of('north-america', 'toaster').leastBreakerA).toBe(0)
    expect(of('north-america', 'pottery-wheel').leastBreakerA).toBe(18)
    expect(of('north-america', null).leastBreakerA).toBe(0)
    // All of it counts already where the whole circuit runs for hours, and nothing of it in a world without the rule.
    expect(of('north-america', 'dehumidifier', { continuous: true }).leastBreakerA).toBe(0)
    expect(of('united-kingdom', 'dehumidifier').leastBreakerA).toBe(0)
  })
  it('counts of several motors the largest of each line', () => {
    const job = newJob('north-america', 'x', '')
    const points = (['A', 'A', 'B'] as const).map((leg, i) =>
      laid(`m${i}`, `Wheel ${i}`, { leg, lengthM: 5, watts: [600, 960, 480][i]!, appliance: 'pottery-wheel' }),
    )
    expect(designLoad(job, { ...job.circuits[0]!, kind: 'shared-neutral', points })).toMatchObject({
      amps: 13,
      leastBreakerA: 5 + 1.25 * 8,
    })
    expect(designLoad(job, { ...job.circuits[0]!, points: points.map((p) => ({ ...p, leg: 'A' as const })) })!.leastBreakerA).toBeCloseTo(
      5 + 10 + 4,
      9,
    )
  })
  it('knows what switching on draws, by the nameplate or as usual', () => {
    expect(startCurrent({ ...base, basis: 'amps', amount: 4, nature: 'motor' }, 'united-kingdom')).toMatchObject({ amps: 24, given: false })
    expect(startCurrent({ ...base, basis: 'amps', amount: 4, nature: 'motor', startFactor: 8 }, 'united-kingdom')).toMatchObject({
      amps: 32,
      given: true,
    })
    expect(startCurrent({ ...base, amount: null }, 'united-kingdom')).toBeNull()
  })

  it('is of one among several points while the rest of its line runs, and of lights together', () => {
    const circuit = (
      kind: 'radial' | 'shared-neutral',
      nature: Load['nature'],
      volts: number,
      ...points: Partial<CircuitPoint>[]
    ): Circuit => ({
      ...newJob('north-america').circuits[0]!,
      kind,
      load: { ...newLoad('north-america'), volts, nature },
      points: points.map((p, i) => laid(`p${i}`, `P${i}`, p)),
    })
    // 5 A of something else, 10 A of a motor that takes six times that to start.
    const shop = circuit(
      'radial',
      'general',
      120,
      { watts: 600 },
      { watts: 1200, appliance: 'pottery-wheel' },
      { watts: 120, appliance: 'pottery-wheel' },
    )
    expect(startOf(shop, 'north-america')).toMatchObject({ amps: 5 + 1 + 6 * 10, factor: 6, given: false, point: { id: 'p1' } })
    expect(startOf(circuit('radial', 'general', 120, { watts: 600 }), 'north-america')).toBeNull()
    const lit = startOf(circuit('radial', 'lighting', 120, { watts: 240, outlets: 0 }, { watts: 360, outlets: 0 }), 'north-america')!
    expect(lit).toMatchObject({ amps: 10 * 5, seconds: 0.005 })
    expect(lit.point).toBeUndefined()
    // What is on the other line of two does not run through this breaker pole.
    const bench = circuit(
      'shared-neutral',
      'general',
      120,
      { watts: 1200, leg: 'A' },
      { watts: 600, leg: 'B', appliance: 'pottery-wheel' },
      { watts: 480, leg: 'AB' },
    )
    expect(startOf(bench, 'north-america')).toMatchObject({ amps: 6 * 5 + 2, point: { id: 'p1' } })
    // Across both: each pole carries it besides its own line alone.
    const across = circuit(
      'shared-neutral',
      'general',
      120,
      { watts: 1200, leg: 'A' },
      { watts: 600, leg: 'B' },
      { watts: 480, leg: 'AB', appliance: 'pottery-wheel' },
    )
    expect(startOf(across, 'north-america')).toMatchObject({ amps: 10 + 6 * 2, point: { id: 'p2' } })
  })
})

describe('time against current', () => {
  const curves = (i: number, at: number) => {
    const job = demo(i)
    const { chosen } = evaluate(job, []).circuits[at]!
    return { c: timeCurrent(job, job.circuits[at]!, chosen.design, chosen.result)!, result: chosen.result! }
  }
  it.each([
    [0, 0],
    [1, 0],
    [2, 1],
  ])('falls as the current grows, the breaker holding before it trips (%i, %i)', (i, at) => {
    const { c, result } = curves(i, at)
    for (const line of [c.breaker.holds, c.breaker.trips, c.cable, ...(c.upstream ? [c.upstream.holds] : [])])
      for (let k = 1; k < line.length; k++) {
        expect(line[k]![0]).toBeGreaterThanOrEqual(line[k - 1]![0])
        expect(line[k]![1]).toBeLessThanOrEqual(line[k - 1]![1] + 1e-9)
      }
    // The cable withstands k² S² = I² t: the same energy all along its line.
    const energy = c.cable.map(([i, t]) => i * i * t)
    for (const e of energy) expect(e).toBeCloseTo(energy[0]!, -1)
    expect(Math.max(...energy) / Math.min(...energy)).toBeCloseTo(1, 6)
    // It carries its rating continuously.
    expect(c.breaker.holds[0]![0]).toBeGreaterThan(result.breakerA!)
    expect(c.breaker.trips[0]![0]).toBeGreaterThan(c.breaker.holds[0]![0])
    expect(c.magnetic.sure).toBeGreaterThan(c.magnetic.from)
  })
  it('stands for the fault by the loop, and is not drawn before the circuit is worked out', () => {
    const { c, result } = curves(1, 0)
    expect(c.faultA).toBeCloseTo(230 / result.zsOhm!, 9)
    const job = demo(0)
    expect(timeCurrent(job, job.circuits[2]!, chosenDesign(job.circuits[2]!), null)).toBeNull()
  })
})

describe('places for residual protection', () => {
  it('cost by the outlet, and darken what is behind them', () => {
    const job = demo(1)
    const ring = job.circuits[2]!
    const circuit = {
      ...ring,
      kind: 'radial' as const,
      points: ring.points.map((p, i) => ({ ...p, from: ring.points[i - 1]?.id ?? null })),
    }
    const list = placements(job, circuit, chosenDesign(circuit))
    expect(list.map((p) => p.at)).toEqual(['none', 'board', 'first', 'outlet'])
    const [none, board, first, each] = list
    expect(none!.cost).toBe(0)
    // Six outlets; the seventh point has a connection unit.
    expect(each!.cost).toBeCloseTo(6 * first!.cost, 9)
    expect(board!.dark).toContain('all 7 points')
    expect(first!.dark).toContain('all 7 points')
    const branched = { ...circuit, points: circuit.points.map((p, i) => (i === 4 ? { ...p, from: null } : p)) }
    expect(placements(job, branched, chosenDesign(circuit))[2]).toMatchObject({
      dark: '4 of 7 points; reset at the first outlet',
      guards: expect.stringContaining('nor the 3 fed past it'),
    })
    // Nothing along a ring is behind its first outlet alone.
    expect(placements(job, ring, chosenDesign(ring)).map((p) => p.at)).toEqual(['none', 'board', 'outlet'])
  })
  it('say what outlets with a device of their own have already, and offer it no second time', () => {
    const bench = demo(0).circuits.find((c) => c.id === 'c4')!
    const some = placements(demo(0), bench, chosenDesign(bench))
    expect(some.map((p) => [p.at, p.words])).toEqual([
      ['none', 'In 2 of 3 outlets'],
      ['board', 'At the board'],
      ['outlet', 'In each outlet'],
    ])
    const all = { ...bench, points: bench.points.map((p) => ({ ...p, accessory: null })) }
    expect(placements(demo(0), all, chosenDesign(all)).map((p) => p.words)).toEqual(['In each outlet', 'At the board'])
    const laid = layOutOptions(demo(0), all, chosenDesign(all))!
    expect(laid.every((o) => !o.words.includes('no GFCI'))).toBe(true)
    expect(new Set(laid.map((o) => o.protection))).toEqual(new Set(['outlet', 'board']))
  })
  it('are two for what has no outlet', () => {
    const job = demo(1)
    expect(placements(job, job.circuits[3]!, chosenDesign(job.circuits[3]!)).map((p) => p.at)).toEqual(['none', 'board'])
  })
})

it('money is never less than nothing, whatever the load and length', () => {
  fc.assert(
    fc.property(fc.integer({ min: 50, max: 3000 }), fc.integer({ min: 1, max: 80 }), (watts, lengthM) => {
      const job = demo(
        1,
        { kind: 'load.set', circuit: 'c2', patch: { amount: watts } },
        { kind: 'design.set', circuit: 'c2', design: 'a', patch: { lengthM } },
      )
      for (const o of layOutOptions(job, job.circuits[1]!, chosenDesign(job.circuits[1]!)) ?? [])
        expect(Math.min(o.cost, o.kwhAYear, o.wattsLost)).toBeGreaterThan(0)
    }),
    { numRuns: 12 },
  )
})
