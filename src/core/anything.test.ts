import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { accessoriesFor } from './catalogue/accessories'
import { applianceKinds } from './catalogue/appliances'
import { fitnessFor } from './catalogue/fitness'
import { boxesFor } from './catalogue/boxes'
import { compareDesigns } from './design/compare'
import { timeCurrent } from './design/curves'
import { layOutOptions } from './design/options'
import { placements } from './design/placements'
import { designWorkings, pointWorkings, sheetTables } from './design/sheet'
import { boxDrawing } from './drawing/box'
import { chainDrawing } from './drawing/chain'
import { profileDrawing } from './drawing/profile'
import { wiringDrawing } from './drawing/wiring'
import { evaluate } from './evaluate'
import { severities } from './finding'
import { arcPlaces, type Circuit, circuitKinds, circuitWorks, type Design, environments, fittedTypes, type Job, jobSchema, type Load, loadBases, loadNatures, newCircuit, newCircuitPoint, newDesign, newJob, newLoad, newSegment, placeKinds, premisesKinds, residualPlaces, residualTypes, runPlaces } from './job/schema'
import { oldQuestionsFor } from './rules/old-work'
import { circuitLabels } from './record/labels'
import { metricRegions } from './region/metric'
import { naCables, naCableSizes } from './region/north-america'
import { breakerTypes, type RegionId, regionIds } from './region/types'
import { needsTable } from './rules/needs-table'
import { defectKindsFor } from './survey/defects'
import { wiringPlan } from './wiring/plan'

/*
 * Whatever a user may have entered so far, however odd, is answered: by a figure, by a finding or by "not known", and
 * never by an exception, a NaN or a word that only a program would say.
 */

const maybe = <T>(a: fc.Arbitrary<T>) => fc.option(a, { nil: null, freq: 3 })
const length = fc.oneof(fc.constant(0), fc.integer({ min: 1, max: 90 }), fc.double({ min: 0, max: 400, noNaN: true }))
const some = <T>(list: readonly T[]) => fc.constantFrom(...list)

const siteOf = { place: maybe(some(placeKinds)), environment: maybe(some(environments)), nearWater: maybe(fc.boolean()), outOfReach: maybe(fc.boolean()) }
const kindsOf = (region: RegionId) => applianceKinds(region).map((k) => k.id)

const loadOf = (region: RegionId): fc.Arbitrary<Load> =>
  fc.record({ kind: maybe(some(kindsOf(region))), volts: maybe(some(region === 'north-america' ? [120, 240, 208, 12] : [230, 400])), basis: some(loadBases), amount: maybe(fc.double({ min: 0, max: 25_000, noNaN: true })), hours: maybe(fc.integer({ min: 1, max: 24 })), powerFactor: maybe(fc.constantFrom(0.1, 0.8, 1)), nature: some(loadNatures), startFactor: maybe(fc.constantFrom(1, 7, 40)), duty: maybe(fc.constantFrom(0.01, 0.3, 1)), hoursPerYear: maybe(fc.constantFrom(0, 8784)), connection: some(['plug', 'fixed'] as const), continuous: fc.boolean(), lighting: fc.boolean() }).map((l) => ({ ...newLoad(region), name: 'Thing', ...l }))

const sizesOf = (region: RegionId, cable: string) => (region === 'north-america' ? naCableSizes(cable as 'nm-b', 'copper') : Object.keys(metricRegions[region].cables[cable]!.rows))
const designOf = (region: RegionId): fc.Arbitrary<Design> => {
  const cables = region === 'north-america' ? [...naCables] : Object.keys(metricRegions[region].cables)
  return some(cables).chain((cable) => {
    const methods = region === 'north-america' ? [null] : [null, ...metricRegions[region].cables[cable]!.methods]
    const run = { lengthM: maybe(length), ambientC: fc.integer({ min: -50, max: 100 }), method: some(methods), loadedConductors: fc.integer({ min: 1, max: 50 }), groupedCircuits: fc.integer({ min: 1, max: 25 }), insulationMm: fc.constantFrom(0, 0, 60, 900) }
    return fc
      .record({ cable: fc.constant(cable), conductor: some(region === 'north-america' ? (['copper', 'aluminium'] as const) : (['copper'] as const)), ...run, terminalC: some([60, 75] as const), accessory: maybe(some(accessoriesFor(region).map((a) => a.id))), accessories: fc.integer({ min: 1, max: 12 }), cordA: maybe(fc.constantFrom(0.5, 13, 30)), wantedBreakerA: maybe(fc.constantFrom(0, 20, 63, 300)), minSize: maybe(some(sizesOf(region, cable))), breakerType: some(breakerTypes), residual: fc.record({ at: some(residualPlaces), ma: fc.constantFrom(5, 30, 300), type: maybe(some(residualTypes)) }), fuseA: maybe(fc.constantFrom(3, 13)), arcFault: some(arcPlaces), breakingKa: maybe(fc.constantFrom(0.5, 6, 25)), fitted: fc.subarray([...fittedTypes]), segments: fc.array(fc.record({ place: some(runPlaces), ...run }), { maxLength: 3 }), extension: maybe(fc.record({ ratingA: fc.constantFrom(3, 13), lengthM: fc.constantFrom(0, 50), size: fc.constant(region === 'north-america' ? '14 AWG' : '1.5 mm2') })) })
      .map(({ segments, ...d }) => ({ ...newDesign(region, 'a', 'A'), ...d, segments: segments.map((s, i) => ({ ...newSegment(newDesign(region, 'a', 'A'), `s${i}`), ...s })) }))
  })
}

const circuitOf = (region: RegionId, id: string): fc.Arbitrary<Circuit> =>
  fc
    .record({
      load: loadOf(region),
      design: designOf(region),
      kind: some(circuitKinds),
      work: some(circuitWorks),
      ...siteOf,
      closeM: maybe(length),
      way: fc.constantFrom('', '3', '5-7', '1, 2', 'x', '99'),
      old: fc.dictionary(some(oldQuestionsFor(region).map((q) => q.id)), some(['yes', 'no', 'unknown'] as const)),
      box: fc.record({ kind: maybe(some(boxesFor(region).map((b) => b.id))), cables: fc.integer({ min: 1, max: 12 }), internalClamps: maybe(fc.boolean()), supportFittings: fc.integer({ min: 0, max: 4 }) }),
      points: fc.array(fc.record({ lengthM: maybe(length), watts: maybe(fc.integer({ min: 0, max: 6000 })), leg: some(['A', 'B', 'AB'] as const), hangs: fc.nat(9), fuseA: maybe(fc.constantFrom(3, 13)), outlets: fc.integer({ min: 0, max: 4 }), accessory: maybe(some(accessoriesFor(region).map((a) => a.id))), guardsOn: fc.boolean(), appliance: maybe(some(kindsOf(region))), fitted: maybe(fc.subarray([...fittedTypes])), thick: fc.nat(3), ...siteOf }), { maxLength: 5 }),
    })
    .map(({ design, points, ...c }) => ({
      ...newCircuit(region, id, `Circuit ${id}`),
      ...c,
      designs: [design],
      points: points.map(({ hangs, thick, ...p }, i) => newCircuitPoint(`p${i}`, `Point ${i}`, { ...p, from: hangs % (i + 1) === 0 ? null : `p${(hangs % (i + 1)) - 1}`, size: thick ? null : (sizesOf(region, design.cable)[hangs] ?? null) })),
    }))

const jobOf: fc.Arbitrary<Job> = some(regionIds).chain((region) =>
  fc
    .record({
      circuits: fc.tuple(circuitOf(region, 'c1'), circuitOf(region, 'c2')),
      brief: fc.record({ environment: maybe(some(environments)), premises: maybe(some(premisesKinds)) }),
      supply: fc.record({ earthing: maybe(some(['tn-s', 'tn-c-s', 'tt'] as const)), zeOhm: maybe(fc.constantFrom(0, 0.35, 80)), pscKa: maybe(fc.constantFrom(0.1, 6, 200)), upstream: maybe(fc.record({ kind: some(['breaker', 'fuse'] as const), ratingA: fc.constantFrom(16, 100) })) }),
    })
    .map(({ circuits, brief, supply }) => {
      const job = newJob(region, 'Anything', '')
      return { ...job, circuits: circuits.map((c, i) => (i === 1 && circuits[0].kind === 'feeder' ? { ...c, feeder: 'c1' } : c)), brief: { ...job.brief, ...brief }, supply: { ...job.supply, ...supply } }
    }),
)

/** Words for people, numbers that are numbers. */
const nonsense = /\bNaN\b|undefined|\bnull\b|Infinity|\[object|∞/
function sane(words: string, where: string) {
  if (nonsense.test(words)) throw new Error(`${where}: ${words}`)
}

/** Words of the other worlds' trades. */
const foreign: Readonly<Record<RegionId, RegExp>> = {
  'north-america': /aluminium|colour|\b(earth\w*|RCDs?|consumer unit|socket-outlets?|circuit-breakers?|distribution board|back box|live conductor)\b/i,
  'united-kingdom': /\b(GFCI|AFCI|receptacles?|ground(ed|ing|s)?|AWG|panels?|earth leakage|wall box|aluminum|color)\b/i,
  'southern-africa': /\b(GFCI|AFCI|receptacles?|ground(ed|ing|s)?|AWG|panels?|RCD|consumer unit|CPC|aluminum|color)\b/i,
}

describe('anything that can be entered', () => {
  it('is answered in the words of its own world', () => {
    const said = (job: Job, where: string, words: string) => {
      const word = foreign[job.region].exec(words)?.[0]
      if (word) throw new Error(`${where} says “${word}” in ${job.region}: ${words}`)
    }
    fc.assert(
      fc.property(jobOf, (job) => {
        const report = evaluate(job, [])
        for (const s of report.stages) for (const words of [...s.findings.map((f) => f.message), ...s.open.map((o) => o.ask)]) said(job, s.id, words)
        for (const q of [...oldQuestionsFor(job.region), ...fitnessFor(job.region)]) said(job, q.id, q.ask)
        for (const q of fitnessFor(job.region)) said(job, q.id, q.reason)
        for (const k of defectKindsFor(job.region)) said(job, k.id, `${k.name}. ${k.cure}`)
        for (const c of report.circuits) {
          for (const t of c.tests) said(job, t.id, `${t.title} ${t.how}`)
          for (const e of c.ends) if (e.fitted) for (const step of wiringPlan(job.region, e.fitted, c.circuit.wiring.colours, e.size, 'metric').steps) said(job, step.id, step.text)
          for (const w of [...Object.values(designWorkings(job, c.circuit, c.chosen)), ...pointWorkings(job, c.circuit, c.chosen)]) said(job, 'working', `${w.title} ${w.formula} ${w.numbers}`)
          for (const p of placements(job, c.circuit, c.chosen.design)) said(job, 'placement', `${p.words} ${p.dark} ${p.guards}`)
          for (const r of compareDesigns(job.region, [c.chosen], 'metric')) if (r.name !== 'Findings') said(job, 'comparison', `${r.name} ${r.values.join(' ')}`)
          for (const l of circuitLabels(job, c, '2026-11-20', 'metric')) said(job, 'label', `${l.where} ${l.lines.join(' ')}`)
        }
      }),
      { numRuns: 400 },
    )
  })


  it('is answered, in words and figures, on every sheet of the circuit', () => {
    let [worked, charts, tables] = [0, 0, 0]
    fc.assert(
      fc.property(jobOf, some(['metric', 'imperial'] as const), (job, units) => {
        expect(jobSchema.safeParse(job).error).toBeUndefined()
        const report = evaluate(job, [])
        for (const s of report.stages) for (const f of s.findings) {
          expect(severities).toContain(f.severity)
          expect(f.clause.length).toBeGreaterThan(1)
          expect(f.message).toMatch(/^\S.*[.…:]$/)
          sane(f.message, f.rule)
        }
        for (const o of report.stages.flatMap((s) => s.open)) sane(o.ask, o.field)
        for (const { circuit, chosen, ends } of report.circuits) {
          const drawings = [chainDrawing(job, circuit, chosen, units), chainDrawing(job, circuit, chosen, units, 'narrow'), ...(chosen.layout ? [profileDrawing(circuit, chosen.layout, 5, units)] : []), ...ends.flatMap((e) => [boxDrawing(e.boxReport, units), ...(e.fitted ? [wiringDrawing(job.region, e.fitted, wiringPlan(job.region, e.fitted, circuit.wiring.colours, chosen.result?.size ?? null, units), chosen.result?.size ?? null)] : [])])]
          for (const d of drawings) for (const shape of d.shapes) sane(Object.values(shape).join(' '), d.title)
          for (const w of [...Object.values(designWorkings(job, circuit, chosen)), ...pointWorkings(job, circuit, chosen)]) sane(Object.values(w).flat().map((x) => (typeof x === 'string' ? x : x.value)).join(' | '), w.title)
          for (const t of sheetTables(chosen, units, () => 'there')) sane(t.rows.flat().join(' | '), t.title)
          const needs = needsTable(job, circuit, chosen)
          expect(needs.rows.every((r) => r.length === needs.columns.length)).toBe(true)
          sane([...needs.rows.flat(), ...needs.clauses].join(' | '), 'needs')
          tables += needs.rows.length
          for (const p of placements(job, circuit, chosen.design)) sane(`${p.words} ${p.cost} ${p.dark} ${p.guards}`, 'placement')
          sane(compareDesigns(job.region, [chosen, chosen], units).flatMap((r) => Object.values(r)).join(' | '), 'comparison')
          for (const l of circuitLabels(job, report.byCircuit.get(circuit.id)!, '2026-11-20', units)) sane(l.lines.join(' | '), 'label')
          const curves = timeCurrent(job, circuit, chosen.design, chosen.result)
          if (curves) {
            charts++
            expect([...curves.breaker.holds, ...curves.breaker.trips, ...curves.cable].flat().every((n) => Number.isFinite(n) && n > 0)).toBe(true)
          }
          if (chosen.result?.size) worked++
        }
      }),
      { numRuns: 400 },
    )
    expect(Math.min(worked, charts)).toBeGreaterThan(20)
    expect(tables).toBeGreaterThan(500)
  })

  it('has its ways to build it laid out, or is told that it cannot be', () => {
    let laid = 0
    fc.assert(
      fc.property(jobOf, (job) => {
        const options = layOutOptions(job, job.circuits[0]!, job.circuits[0]!.designs[0]!)
        for (const o of options ?? []) {
          laid++
          sane(o.words, 'option')
          for (const n of [o.cost, o.dropPercent, o.marginA, o.wattsLost, o.kwhAYear, o.laterA]) expect(Number.isFinite(n)).toBe(true)
        }
      }),
      { numRuns: 300 },
    )
    expect(laid).toBeGreaterThan(10)
  })
})
