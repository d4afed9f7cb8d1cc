import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { calculateOne, calculators, isCalculatorError } from '../contract/calculators'
import { northAmericaTables } from '../region/north-america/tables'
import { southernAfricaTables } from '../region/southern-africa/tables'
import { unitedKingdomTables } from '../region/united-kingdom/tables'

/*
 * The contract of the calculators read a second time, plainly, straight from the published figures and without the code
 * that it checks. The two readings meet on inputs nobody chose by hand.
 */

type Found = readonly (readonly [severity: string, rule: string])[]
type Row<T> = Readonly<Record<string, T>>
const NA = northAmericaTables
const METRIC = { 'united-kingdom': unitedKingdomTables, 'southern-africa': southernAfricaTables } as const
const le = (a: number, b: number) => a <= b + 1e-9 * Math.max(Math.abs(a), Math.abs(b))
const mils = Object.fromEntries(Object.entries(NA.circularMils).filter(([k]) => k !== 'clause')) as Row<number>
const IN3 = 16.387064

/** What came out, with findings as words in order. */
function answer(name: string, input: unknown): Record<string, unknown> {
  const out = calculateOne(calculators[name]!, input) as Record<string, unknown>
  return Array.isArray(out.findings)
    ? { ...out, findings: (out.findings as { severity: string; rule: string }[]).map((f) => `${f.severity} ${f.rule}`).toSorted() }
    : out
}
const words = (found: Found) => found.map((f) => f.join(' ')).toSorted()
/** Numbers within a millionth, all else the same; what the contract does not name is not looked at. */
function agree(got: Record<string, unknown>, want: Readonly<Record<string, unknown>>, input: unknown) {
  for (const [key, value] of Object.entries(want)) {
    const same =
      typeof value === 'number' && typeof got[key] === 'number'
        ? Math.abs((got[key] as number) - value) <= 1e-6 * Math.max(1, Math.abs(value))
        : JSON.stringify(got[key]) === JSON.stringify(value)
    if (!same) expect({ key, got: got[key], input }).toEqual({ key, got: value, input })
  }
}
const refused = (got: unknown): void => void expect(isCalculatorError(got)).toBe(true)
const nothing = { size: null, tabulatedA: null, ampacityA: null, dropPercent: null, protectiveSize: null, weakestLink: null, links: [] }
const nearest = (links: readonly { link: string; ratingA: number }[]) =>
  ['cord', 'outlet', 'cable', 'breaker']
    .flatMap((name) => links.filter((l) => l.link === name))
    .reduce((low, l) => (l.ratingA < low.ratingA * (1 - 1e-9) ? l : low))

interface NaInput {
  load: { volts: number; amps: number; continuous: boolean }
  cable: keyof typeof NA.cables
  conductor: 'copper' | 'aluminium'
  terminalC: 60 | 75
  run: { lengthM: number; ambientC: number; loadedConductors: number }
  outlet?: { ratingA: number; single: boolean }
  cord?: { ratingA: number }
  wantedBreakerA?: number
  minSize?: string
}

function northAmerica(x: NaInput): Record<string, unknown> | 'error' {
  const column = (c: number) => NA.ampacity.columnsC.indexOf(c as 60)
  const kind = NA.cables[x.cable]
  const table = NA.ampacity[x.conductor] as unknown as Row<readonly number[]>
  const row = NA.ambientFactor.upperBoundC.findIndex((u) => x.run.ambientC <= u)
  const hot = (NA.ambientFactor as unknown as Row<readonly number[]>)[`insulation${kind.insulationC}C`]![row]
  if (hot === undefined) return 'error'
  const grouped = NA.groupingFactor.factor[NA.groupingFactor.upperBound.findIndex((u) => u === null || x.run.loadedConductors <= u)]!
  const { amps } = x.load
  const needed = x.load.continuous ? amps * 1.25 : amps
  const ratings: readonly number[] = NA.standardOvercurrentRatingsA.values
  const next = (a: number) => ratings.find((r) => le(a, r))
  const wanted = next(Math.max(needed, x.wantedBreakerA ?? 0))
  const base = { loadA: amps, requiredA: needed }
  if (wanted === undefined) return { ...base, breakerA: null, ...nothing, findings: ['error no-breaker-serves'] }
  const sizes = Object.keys(table)
  const last = 'largest' in kind ? sizes.indexOf(kind.largest) : sizes.length
  const limitColumn = kind.limitColumnC === 'terminal' ? x.terminalC : kind.limitColumnC
  const serves = (size: string): number | null => {
    const tabulated = table[size]![column(kind.insulationC)]!
    const limit = table[size]![column(limitColumn)]!
    const carries = Math.min(tabulated * hot * grouped, limit)
    const small = (NA.smallConductorLimitA[x.conductor] as Row<number>)[size]
    const single = x.outlet === undefined || x.outlet.single
    const up = next(carries)
    const held = le(wanted, carries) || (single && up !== undefined && le(wanted, up))
    return le(needed, limit) && le(amps, carries) && held && (small === undefined || wanted <= small) ? carries : null
  }
  const smallest = (from: string | undefined) =>
    sizes.slice(0, last + 1).find((s) => (from === undefined || mils[s]! >= mils[from]!) && serves(s) !== null)
  const size = smallest(x.minSize)
  if (size === undefined) return { ...base, breakerA: wanted, ...nothing, findings: ['error no-size-serves'] }
  const found: [string, string][] = []
  let breaker = wanted
  if (x.cord && x.cord.ratingA < breaker) {
    const lower = ratings.filter((r) => le(needed, r) && r <= x.cord!.ratingA)
    if (lower.length) {
      breaker = lower.at(-1)!
      found.push(['note', 'breaker-held-to-cord'])
    } else found.push(le(amps, x.cord.ratingA) ? ['warning', 'cord-below-breaker'] : ['error', 'cord-below-load'])
  }
  if (x.outlet?.single && x.outlet.ratingA < breaker) found.push(['error', 'outlet-below-breaker'])
  if (
    x.outlet &&
    !x.outlet.single &&
    !((NA.receptacleOnBranchCircuit.allowedReceptacleA as unknown as Row<readonly number[]>)[breaker] ?? []).includes(x.outlet.ratingA)
  )
    found.push(['error', 'outlet-not-allowed-on-circuit'])
  const ohm = (NA.dcResistanceOhmPerKft[x.conductor] as unknown as Row<number>)[size]!
  const dropPercent = (100 * 2 * x.run.lengthM * amps * ohm) / 304.8 / x.load.volts
  if (!le(dropPercent, 3)) found.push(['warning', 'voltage-drop-over-3-percent'])
  const ground = NA.equipmentGroundingConductor
  let protectiveSize: string = ground.copper[ground.upperBoundA.findIndex((u) => breaker <= u)]!
  const plain = smallest(undefined)!
  if (mils[size]! > mils[plain]!)
    protectiveSize = Object.keys(mils).find((s) => le((mils[protectiveSize]! * mils[size]!) / mils[plain]!, mils[s]! * 1.01))!
  if (mils[protectiveSize]! > mils[size]!) protectiveSize = size
  const links = [
    { link: 'breaker', ratingA: breaker },
    { link: 'cable', ratingA: serves(size)! },
    ...(x.outlet ? [{ link: 'outlet', ratingA: x.outlet.ratingA }] : []),
    ...(x.cord ? [{ link: 'cord', ratingA: x.cord.ratingA }] : []),
  ]
  return {
    ...base,
    breakerA: breaker,
    size,
    tabulatedA: table[size]![column(kind.insulationC)],
    ampacityA: serves(size),
    dropPercent,
    protectiveSize,
    weakestLink: nearest(links),
    findings: words(found),
  }
}

interface MetricInput {
  region: keyof typeof METRIC
  load: { volts: number; amps: number; continuous: boolean; lighting: boolean }
  cable: string
  run: { lengthM: number; ambientC: number; method: string; groupedCircuits: number; insulationMm?: number }
  breakerType: 'B' | 'C' | 'D'
  outlet?: { ratingA: number; single: boolean }
  cord?: { ratingA: number }
  wantedBreakerA?: number
  minSize?: string
  supply?: { zeOhm: number; rcdMa?: number }
}
const tableOf = (region: keyof typeof METRIC, cable: string) =>
  (region === 'southern-africa'
    ? southernAfricaTables.ampacity
    : cable === 'twin-earth'
      ? unitedKingdomTables.ampacityTwinEarth
      : unitedKingdomTables.ampacitySingles) as unknown as Row<readonly number[]> & { methods: readonly string[] }
const mm2 = (size: string) => Number.parseFloat(size)

function metric(x: MetricInput): Record<string, unknown> {
  const t = METRIC[x.region]
  const table = tableOf(x.region, x.cable)
  const stepUp = (bounds: readonly number[], factors: readonly number[], value: number) => factors[bounds.findIndex((b) => value <= b)]!
  const hot = stepUp(t.ambientFactor.C, t.ambientFactor.factor, x.run.ambientC)
  const grouped = stepUp(t.groupingFactor.circuits, t.groupingFactor.factor, x.run.groupedCircuits)
  const mm = x.run.insulationMm ?? 0
  const wrapped =
    mm === 0
      ? 1
      : mm > 500
        ? unitedKingdomTables.insulationFactor.over500
        : stepUp(unitedKingdomTables.insulationFactor.lengthMm, unitedKingdomTables.insulationFactor.factor, mm)
  const { amps } = x.load
  const breaker = t.circuitBreakerRatingsA.find((r) => le(Math.max(amps, x.wantedBreakerA ?? 0), r))
  const base = { loadA: amps, requiredA: amps }
  const own = breaker === undefined ? null : (230 * 0.95) / (t.magneticMultiple[x.breakerType] * breaker)
  const maxZsOhm = x.supply?.rcdMa === undefined ? own : 50 / (x.supply.rcdMa / 1000)
  const loops = (zsOhm: number | null) => (x.supply ? { zsOhm, maxZsOhm } : {})
  if (breaker === undefined) return { ...base, breakerA: null, ...nothing, findings: ['error no-breaker-serves'], ...loops(null) }
  const sizes = Object.keys(table).filter((k) => k.endsWith('mm2'))
  const protective = (s: string) =>
    x.region === 'united-kingdom' && x.cable === 'twin-earth' ? (unitedKingdomTables.twinEarthProtectiveConductor as Row<string>)[s]! : s
  const milliohm = t.resistanceMilliohmPerM20C as unknown as Row<number>
  const stands = (s: string) => {
    const tabulated = table[s]![table.methods.indexOf(x.run.method)]!
    const ampacityA = tabulated * hot * grouped * wrapped
    const dropPercent = (100 * (((t.voltDropMvPerAm as unknown as Row<number>)[s]! * amps * x.run.lengthM) / 1000)) / x.load.volts
    const zs = x.supply ? x.supply.zeOhm + ((milliohm[s]! + milliohm[protective(s)]!) / 1000) * x.run.lengthM * 1.2 : null
    const fits =
      le(breaker, ampacityA) &&
      le(dropPercent, 100 * t.voltDropLimit[x.load.lighting ? 'lighting' : 'other']) &&
      (zs === null || le(zs, maxZsOhm!))
    return { tabulated, ampacityA, dropPercent, zs, fits }
  }
  const size = sizes.find(
    (s) =>
      (x.minSize === undefined || mm2(s) >= mm2(x.minSize)) &&
      (x.region === 'southern-africa' || x.load.lighting || mm2(s) >= 1.5) &&
      stands(s).fits,
  )
  if (size === undefined) return { ...base, breakerA: breaker, ...nothing, findings: ['error no-size-serves'], ...loops(null) }
  const s = stands(size)
  const found: [string, string][] = []
  if (x.supply?.rcdMa !== undefined && !le(s.zs!, own!)) found.push(['warning', 'zs-too-high'])
  if (x.outlet && !le(amps, x.outlet.ratingA)) found.push(['error', 'outlet-below-load'])
  if (x.cord && !le(amps, x.cord.ratingA)) found.push(['error', 'cord-below-load'])
  else if (x.cord && !le(breaker, x.cord.ratingA)) found.push(['note', 'cord-needs-fuse'])
  const links = [
    { link: 'breaker', ratingA: breaker },
    { link: 'cable', ratingA: s.ampacityA },
    ...(x.outlet ? [{ link: 'outlet', ratingA: x.outlet.ratingA }] : []),
    ...(x.cord ? [{ link: 'cord', ratingA: x.cord.ratingA }] : []),
  ]
  return {
    ...base,
    breakerA: breaker,
    size,
    tabulatedA: s.tabulated,
    ampacityA: s.ampacityA,
    dropPercent: s.dropPercent,
    protectiveSize: protective(size),
    weakestLink: nearest(links),
    findings: words(found),
    ...loops(s.zs),
  }
}

const amps = fc.oneof(
  fc.constantFrom(8, 12, 15, 16, 20, 24, 25, 30, 32, 38.4, 40, 48, 63, 64, 80),
  fc.double({ min: 0.5, max: 210, noNaN: true }),
)
const outlet = fc.option(fc.record({ ratingA: fc.constantFrom(13, 15, 16, 20, 30, 32, 40, 50), single: fc.boolean() }), { nil: undefined })
const cord = fc.option(fc.record({ ratingA: fc.constantFrom(3, 6, 10, 13, 15, 16, 20, 25, 30, 50) }), { nil: undefined })
const given = <T extends object>(x: T): T => Object.fromEntries(Object.entries(x).filter(([, v]) => v !== undefined)) as T

describe('a circuit, chosen twice', () => {
  it('in North America', () => {
    const input = fc
      .record({
        region: fc.constant('north-america' as const),
        load: fc.record({ volts: fc.constantFrom(120, 208, 240), amps, continuous: fc.boolean() }),
        cable: fc.constantFrom(...(Object.keys(NA.cables) as NaInput['cable'][])),
        conductor: fc.constantFrom('copper' as const, 'copper' as const, 'aluminium' as const),
        terminalC: fc.constantFrom(60 as const, 75 as const),
        run: fc.record({
          lengthM: fc.double({ min: 0, max: 90, noNaN: true }),
          ambientC: fc.constantFrom(-5, 20, 25, 30, 31, 40, 50, 55, 60.5, 85),
          loadedConductors: fc.constantFrom(1, 3, 4, 6, 7, 9, 10, 20, 21, 41),
        }),
        outlet,
        cord,
        wantedBreakerA: fc.option(fc.constantFrom(15, 20, 22, 30, 50, 90), { nil: undefined }),
        minSize: fc.option(fc.constantFrom('14 AWG', '12 AWG', '10 AWG', '8 AWG', '4 AWG'), { nil: undefined }),
      })
      .map(given)
    let chosen = 0
    fc.assert(
      fc.property(input, (x) => {
        const [got, want] = [answer('select-circuit', x), northAmerica(x)]
        if (want === 'error') return refused(got)
        if (want.size !== null) chosen++
        agree(got, want, x)
      }),
      { numRuns: 1200 },
    )
    expect(chosen).toBeGreaterThan(300)
  })

  it('in the United Kingdom and southern Africa', () => {
    const run = (methods: readonly string[]) =>
      fc.record({
        lengthM: fc.double({ min: 0, max: 80, noNaN: true }),
        ambientC: fc.constantFrom(20, 25, 30, 31, 40, 45, 60),
        method: fc.constantFrom(...methods),
        groupedCircuits: fc.constantFrom(1, 1, 2, 3, 5, 9, 10, 20),
      })
    const common = {
      load: fc.record({ volts: fc.constantFrom(230, 240), amps, continuous: fc.boolean(), lighting: fc.boolean() }),
      breakerType: fc.constantFrom('B' as const, 'C' as const, 'D' as const),
      outlet,
      cord,
      wantedBreakerA: fc.option(fc.constantFrom(16, 18, 20, 32, 40), { nil: undefined }),
      minSize: fc.option(fc.constantFrom('1.5 mm2', '2.5 mm2', '6 mm2'), { nil: undefined }),
      supply: fc.option(
        fc
          .record({ zeOhm: fc.constantFrom(0.1, 0.35, 0.8, 20), rcdMa: fc.option(fc.constantFrom(30, 100, 300), { nil: undefined }) })
          .map(given),
        { nil: undefined },
      ),
    }
    const kinds = [
      ['united-kingdom', 'twin-earth', unitedKingdomTables.ampacityTwinEarth.methods],
      ['united-kingdom', 'singles', unitedKingdomTables.ampacitySingles.methods],
      ['southern-africa', 'flat-twin-earth', ['A2', 'B2', 'C']],
      ['southern-africa', 'singles', ['A1', 'B1']],
    ] as const
    const input = fc.oneof(
      ...kinds.map(([region, cable, methods]) =>
        fc.record({ region: fc.constant(region), cable: fc.constant(cable), run: run(methods), ...common }).map(given),
      ),
    )
    const wrapped = fc
      .tuple(input, fc.constantFrom(0, 40, 50, 100, 150, 500, 600))
      .map(([x, mm]) =>
        x.region === 'united-kingdom' ? { ...x, run: { ...x.run, insulationMm: x.run.method === 'clipped-direct' ? mm : 0 } } : x,
      )
    let chosen = 0
    fc.assert(
      fc.property(wrapped, (x) => {
        const want = metric(x)
        if (want.size !== null) chosen++
        agree(answer('select-circuit', x), want, x)
      }),
      { numRuns: 1200 },
    )
    expect(chosen).toBeGreaterThan(200)
  })
})

describe('the smaller calculators, read twice', () => {
  it('box fill', () => {
    const size = fc.constantFrom('18 AWG', '14 AWG', '12 AWG', '10 AWG', '8 AWG', '6 AWG')
    const allowance = NA.boxFillAllowanceIn3 as unknown as Row<number>
    const input = fc.record({
      boxVolumeCm3: fc.constantFrom(12.5, 18, 21, 30.3, 42).map((v) => v * IN3),
      conductors: fc.array(fc.record({ size, count: fc.integer({ min: 1, max: 8 }) }), { minLength: 1, maxLength: 3 }),
      internalClamps: fc.boolean(),
      supportFittings: fc.integer({ min: 0, max: 2 }),
      devices: fc.array(fc.record({ size, gangWidth: fc.constantFrom(1 as const, 2 as const) }), { maxLength: 2 }),
      grounding: fc.record({ count: fc.integer({ min: 1, max: 7 }), largestSize: size }),
    })
    fc.assert(
      fc.property(input, (x) => {
        const largest = [...x.conductors.map((c) => c.size), x.grounding.largestSize].toSorted((a, b) => mils[b]! - mils[a]!)[0]!
        const inches =
          x.conductors.reduce((sum, c) => sum + allowance[c.size]! * c.count, 0) +
          allowance[largest]! * (Number(x.internalClamps) + x.supportFittings) +
          x.devices.reduce((sum, d) => sum + 2 * d.gangWidth * allowance[d.size]!, 0) +
          allowance[x.grounding.largestSize]! * (1 + 0.25 * Math.max(0, x.grounding.count - 4))
        const fits = le(inches * IN3, x.boxVolumeCm3)
        agree(
          answer('box-fill', x),
          {
            requiredCm3: inches * IN3,
            fits,
            fillFraction: (inches * IN3) / x.boxVolumeCm3,
            findings: fits ? [] : ['error box-overfilled'],
          },
          x,
        )
      }),
      { numRuns: 400 },
    )
  })

  it('raceway fill, with its note for conductors all alike', () => {
    const areas = NA.conductorAreaIn2 as unknown as Row<Row<number>>
    const conductor = fc.constantFrom('thwn-2', 'thwn-2', 'bare').chain((insulation) =>
      fc.record({
        insulation: fc.constant(insulation),
        size: fc.constantFrom(...Object.keys(areas[insulation]!).filter((s) => s !== 'clause')),
        count: fc.integer({ min: 1, max: 12 }),
      }),
    )
    const input = fc.record({
      raceway: fc.constantFrom('emt', 'pvc-40', 'pvc-80', 'fmc'),
      tradeSize: fc.constantFrom('1/2', '3/4', '1', '1-1/4', '1-1/2', '2'),
      conductors: fc.array(conductor, { minLength: 1, maxLength: 3 }),
      nipple: fc.boolean(),
    })
    fc.assert(
      fc.property(input, (x) => {
        const inside = (NA.racewayInternalAreaIn2 as unknown as Row<Row<number>>)[x.raceway]!
        const total = x.conductors.reduce((sum, c) => sum + areas[c.insulation]![c.size]! * c.count, 0)
        const count = x.conductors.reduce((sum, c) => sum + c.count, 0)
        const limit = x.nipple ? 0.6 : count === 1 ? 0.53 : count === 2 ? 0.31 : 0.4
        const alike = new Set(x.conductors.map((c) => `${c.insulation} ${c.size}`)).size === 1
        const one = areas[x.conductors[0]!.insulation]![x.conductors[0]!.size]!
        const takes = (size: string) =>
          alike ? count <= Math.floor((limit * inside[size]!) / one + 0.2 + 1e-9) : le(total / inside[size]!, limit)
        const smallest =
          Object.keys(inside)
            .filter((s) => s !== 'clause')
            .toSorted((a, b) => inside[a]! - inside[b]!)
            .find(takes) ?? null
        agree(
          answer('raceway-fill', x),
          { fillFraction: total / inside[x.tradeSize]!, limitFraction: limit, fits: takes(x.tradeSize), smallestTradeSize: smallest },
          x,
        )
      }),
      { numRuns: 400 },
    )
  })

  it('the earth fault loop', () => {
    const size = fc.constantFrom('1.5 mm2', '2.5 mm2', '4 mm2', '6 mm2', '10 mm2', '16 mm2')
    const input = fc
      .record({
        region: fc.constantFrom('united-kingdom' as const, 'southern-africa' as const),
        zeOhm: fc.constantFrom(0.05, 0.35, 0.8, 20),
        size,
        protectiveSize: size,
        lengthM: fc.double({ min: 0.5, max: 120, noNaN: true }),
        breaker: fc.record({
          type: fc.constantFrom('B' as const, 'C' as const, 'D' as const),
          ratingA: fc.constantFrom(10, 20, 32, 40, 63),
        }),
        rcdMa: fc.option(fc.constantFrom(30, 100, 500), { nil: undefined }),
        clearSeconds: fc.constantFrom(0.01, 0.1, 0.4, 5),
      })
      .map(given)
    fc.assert(
      fc.property(input, (x) => {
        const milliohm = METRIC[x.region].resistanceMilliohmPerM20C as unknown as Row<number>
        const cold = ((milliohm[x.size]! + milliohm[x.protectiveSize]!) * x.lengthM) / 1000
        const zsOhm = x.zeOhm + cold * 1.2
        const maxZsOhm = (230 * 0.95) / ({ B: 5, C: 10, D: 20 }[x.breaker.type] * x.breaker.ratingA)
        const faultA = 230 / zsOhm
        const minProtectiveMm2 = Math.sqrt(faultA ** 2 * x.clearSeconds) / 115
        const covered = x.rcdMa !== undefined && le(zsOhm, 50 / (x.rcdMa / 1000))
        const found: [string, string][] = [
          ...(le(zsOhm, maxZsOhm) ? [] : [[covered ? 'warning' : 'error', 'zs-too-high'] as [string, string]]),
          ...(le(minProtectiveMm2, mm2(x.protectiveSize)) ? [] : [['error', 'protective-conductor-too-small'] as [string, string]]),
        ]
        agree(
          answer('fault-loop', x),
          {
            r1r2At20Ohm: cold,
            zsOhm,
            maxZsOhm,
            faultA,
            minProtectiveMm2,
            findings: words(found),
            passes: !found.some(([s]) => s === 'error'),
          },
          x,
        )
      }),
      { numRuns: 400 },
    )
  })

  it('bored holes', () => {
    const input = fc.record({
      region: fc.constantFrom('north-america' as const, 'united-kingdom' as const, 'southern-africa' as const),
      member: fc
        .record({
          kind: fc.constantFrom('joist' as const, 'stud-bearing' as const, 'stud-non-bearing' as const),
          depthMm: fc.constantFrom(89, 140, 184, 200, 235, 250, 300),
          spanMm: fc.option(fc.constantFrom(2400, 3000, 4000), { nil: undefined }),
        })
        .map(given),
      hole: fc
        .record({
          diameterMm: fc.constantFrom(12, 19, 25, 37.5, 50, 62.5, 78),
          edgeMm: fc.constantFrom(10, 15.875, 20, 31.75, 40, 50, 50.8, 100),
          fromSupportMm: fc.option(fc.constantFrom(600, 750, 1000, 1200, 1600, 2250), { nil: undefined }),
          nextHoleMm: fc.option(fc.constantFrom(50, 75, 82.8, 150), { nil: undefined }),
        })
        .map(given),
    })
    fc.assert(
      fc.property(input, (x) => {
        const { member: m, hole: h } = x
        const got = answer('bored-hole', x)
        if (!le(h.diameterMm + 2 * h.edgeMm, m.depthMm)) return refused(got)
        const found: [string, string][] = []
        const joist = m.kind === 'joist'
        if (x.region === 'north-america') {
          const [fraction, edge] = joist ? [1 / 3, 50.8] : [m.kind === 'stud-bearing' ? 0.4 : 0.6, 15.875]
          if (!le(h.diameterMm, m.depthMm * fraction)) found.push(['error', 'hole-too-large'])
          if (!le(edge, h.edgeMm)) found.push(['error', 'hole-too-near-edge'])
          if (joist && h.nextHoleMm !== undefined && !le(50.8, h.nextHoleMm - h.diameterMm)) found.push(['error', 'holes-too-close'])
        } else if (joist) {
          const severity = x.region === 'united-kingdom' ? 'error' : 'warning'
          if (!le(h.diameterMm, Math.min(250, m.depthMm) / 4)) found.push([severity, 'hole-too-large'])
          if (m.spanMm === undefined || h.fromSupportMm === undefined) found.push(['note', 'span-zone-not-checked'])
          else {
            const along = Math.min(h.fromSupportMm, m.spanMm - h.fromSupportMm) / m.spanMm
            if (!le(0.25, along) || !le(along, 0.4)) found.push([severity, 'hole-outside-span-zone'])
          }
          if (h.nextHoleMm !== undefined && !le(3 * h.diameterMm, h.nextHoleMm)) found.push([severity, 'holes-too-close'])
        }
        agree(
          got,
          {
            allowed: !found.some(([s]) => s === 'error'),
            plateNeeded: !le(x.region === 'north-america' ? 31.75 : 50, h.edgeMm),
            findings: words(found),
          },
          x,
        )
      }),
      { numRuns: 500 },
    )
  })

  it('bends of a raceway', () => {
    const item = fc.oneof(
      fc.record({
        kind: fc.constant('offset' as const),
        riseMm: fc.constantFrom(50, 101.6, 152.4, 300),
        angleDeg: fc.constantFrom(10, 15, 22.5, 30, 45, 60),
      }),
      fc.record({ kind: fc.constant('stub-90' as const), heightMm: fc.constantFrom(127, 200, 300, 609.6) }),
      fc.record({ kind: fc.constant('straight' as const), lengthMm: fc.constantFrom(0, 500, 3048) }),
    )
    const input = fc.record({
      tradeSize: fc.constantFrom('1/2', '3/4', '1', '1-1/4', '2'),
      items: fc.array(item, { minLength: 1, maxLength: 4 }),
    })
    fc.assert(
      fc.property(input, (x) => {
        const radius = (NA.bends.radiusIn as Row<number>)[x.tradeSize]! * 25.4
        const takeUp = (NA.bends.takeUpIn as Row<number>)[x.tradeSize]
        const got = answer('raceway-bends', x)
        let [degrees, cut, made] = [0, 0, true]
        for (const i of x.items) {
          if (i.kind === 'straight') cut += i.lengthMm
          else if (i.kind === 'stub-90') {
            if (takeUp === undefined || !le(takeUp * 25.4, i.heightMm)) made = false
            degrees += 90
            cut += i.heightMm - radius * (2 - Math.PI / 2)
          } else {
            const a = (i.angleDeg * Math.PI) / 180
            if (!le(2 * radius * Math.tan(a / 2), i.riseMm / Math.sin(a))) made = false
            degrees += 2 * i.angleDeg
            cut += i.riseMm / Math.sin(a) - 2 * radius * (2 * Math.tan(a / 2) - a)
          }
        }
        if (!made) return refused(got)
        agree(got, { totalDegrees: degrees, withinLimit: degrees <= 360, cutLengthMm: cut }, x)
      }),
      { numRuns: 400 },
    )
  })
})
