import { impossibleLoad } from '../../src/core/job/load'
import fc from 'fast-check'
import { accessoriesFor } from '../../src/core/catalogue/accessories'
import { applianceKinds } from '../../src/core/catalogue/appliances'
import { boxesFor } from '../../src/core/catalogue/boxes'
import {
  arcPlaces,
  type Circuit,
  circuitKinds,
  circuitWorks,
  type Design,
  environments,
  fittedTypes,
  type Job,
  type Load,
  loadBases,
  loadNatures,
  newCircuit,
  newCircuitPoint,
  newDesign,
  newJob,
  newLoad,
  newSegment,
  placeKinds,
  premisesKinds,
  residualPlaces,
  residualTypes,
  runPlaces,
} from '../../src/core/job/older/version-2'
import { metricRegions } from '../../src/core/region/metric'
import { naCables, naCableSizes } from '../../src/core/region/north-america/awg'
import { fromVersion2 } from '../../src/core/job/older/bring-up'
import { breakerTypes, type RegionId, regionIds } from '../../src/core/region/types'
import { oldQuestionsFor } from '../../src/core/rules/old-work'

/*
 * Jobs as users may have entered them so far, however odd, for the tests that hold of any of them.
 */

export const maybe = <T>(a: fc.Arbitrary<T>) => fc.option(a, { nil: null, freq: 3 })
const length = fc.oneof(fc.constant(0), fc.integer({ min: 1, max: 90 }), fc.double({ min: 0, max: 400, noNaN: true }))
export const some = <T>(list: readonly T[]) => fc.constantFrom(...list)

const siteOf = {
  place: maybe(some(placeKinds)),
  environment: maybe(some(environments)),
  nearWater: maybe(fc.boolean()),
  outOfReach: maybe(fc.boolean()),
}
const kindsOf = (region: RegionId) => applianceKinds(region).map((k) => k.id)

const loadOf = (region: RegionId): fc.Arbitrary<Load> =>
  fc
    .record({
      kind: maybe(some(kindsOf(region))),
      volts: maybe(some(region === 'north-america' ? [120, 240, 208, 12] : [230, 400])),
      basis: some(loadBases),
      amount: maybe(fc.double({ min: 0, max: 25_000, noNaN: true })),
      hours: maybe(fc.integer({ min: 1, max: 24 })),
      powerFactor: maybe(fc.constantFrom(0.1, 0.8, 1)),
      nature: some(loadNatures),
      startFactor: maybe(fc.constantFrom(1, 7, 40)),
      duty: maybe(fc.constantFrom(0.01, 0.3, 1)),
      hoursPerYear: maybe(fc.constantFrom(0, 8784)),
      connection: some(['plug', 'fixed'] as const),
      continuous: fc.boolean(),
      lighting: fc.boolean(),
    })
    .map((l) => ({ ...newLoad(region), name: 'Thing', ...l }))

const sizesOf = (region: RegionId, cable: string) =>
  region === 'north-america' ? naCableSizes(cable as 'nm-b', 'copper') : Object.keys(metricRegions[region].cables[cable]!.rows)
const designOf = (region: RegionId): fc.Arbitrary<Design> => {
  const cables = region === 'north-america' ? [...naCables] : Object.keys(metricRegions[region].cables)
  return some(cables).chain((cable) => {
    const methods = region === 'north-america' ? [null] : [null, ...metricRegions[region].cables[cable]!.methods]
    const run = {
      lengthM: maybe(length),
      ambientC: fc.integer({ min: -50, max: 100 }),
      method: some(methods),
      loadedConductors: fc.integer({ min: 1, max: 50 }),
      groupedCircuits: fc.integer({ min: 1, max: 25 }),
      insulationMm: fc.constantFrom(0, 0, 60, 900),
    }
    return fc
      .record({
        cable: fc.constant(cable),
        conductor: some(region === 'north-america' ? (['copper', 'aluminium'] as const) : (['copper'] as const)),
        ...run,
        terminalC: some([60, 75] as const),
        accessory: maybe(some(accessoriesFor(region).map((a) => a.id))),
        accessories: fc.integer({ min: 1, max: 12 }),
        cordA: maybe(fc.constantFrom(0.5, 13, 30)),
        wantedBreakerA: maybe(fc.constantFrom(0, 20, 63, 300)),
        minSize: maybe(some(sizesOf(region, cable))),
        breakerType: some(breakerTypes),
        residual: fc.record({ at: some(residualPlaces), ma: fc.constantFrom(5, 30, 300), type: maybe(some(residualTypes)) }),
        fuseA: maybe(fc.constantFrom(3, 13)),
        arcFault: some(arcPlaces),
        breakingKa: maybe(fc.constantFrom(0.5, 6, 25)),
        fitted: fc.subarray([...fittedTypes]),
        segments: fc.array(fc.record({ place: some(runPlaces), ...run }), { maxLength: 3 }),
        extension: maybe(
          fc.record({
            ratingA: fc.constantFrom(3, 13),
            lengthM: fc.constantFrom(0, 50),
            size: fc.constant(region === 'north-america' ? '14 AWG' : '1.5 mm2'),
          }),
        ),
      })
      .map(({ segments, ...d }) => ({
        ...newDesign(region, 'a', 'A'),
        ...d,
        segments: segments.map((s, i) => ({ ...newSegment(newDesign(region, 'a', 'A'), `s${i}`), ...s })),
      }))
  })
}

const circuitOf = (region: RegionId, id: string): fc.Arbitrary<Circuit> =>
  fc
    .record({
      load: loadOf(region).map((l) => (impossibleLoad(l) ? { ...l, amount: 900 } : l)),
      design: designOf(region),
      kind: some(circuitKinds),
      work: some(circuitWorks),
      ...siteOf,
      closeM: maybe(length),
      way: fc.constantFrom('', '3', '5-7', '1, 2', 'x', '99'),
      old: fc.dictionary(some(oldQuestionsFor(region).map((q) => q.id)), some(['yes', 'no', 'unknown'] as const)),
      box: fc.record({
        kind: maybe(some(boxesFor(region).map((b) => b.id))),
        cables: fc.integer({ min: 1, max: 12 }),
        internalClamps: maybe(fc.boolean()),
        supportFittings: fc.integer({ min: 0, max: 4 }),
      }),
      points: fc.array(
        fc.record({
          lengthM: maybe(length),
          watts: maybe(fc.integer({ min: 0, max: 6000 })),
          leg: some(['A', 'B', 'AB'] as const),
          hangs: fc.nat(9),
          fuseA: maybe(fc.constantFrom(3, 13)),
          outlets: fc.integer({ min: 0, max: 4 }),
          accessory: maybe(some(accessoriesFor(region).map((a) => a.id))),
          guardsOn: fc.boolean(),
          appliance: maybe(some(kindsOf(region))),
          fitted: maybe(fc.subarray([...fittedTypes])),
          thick: fc.nat(3),
          ...siteOf,
        }),
        { maxLength: 5 },
      ),
    })
    .map(({ design, points, ...c }) => ({
      ...newCircuit(region, id, `Circuit ${id}`),
      ...c,
      designs: [design],
      points: points.map(({ hangs, thick, ...p }, i) =>
        newCircuitPoint(`p${i}`, `Point ${i}`, {
          ...p,
          from: hangs % (i + 1) === 0 ? null : `p${(hangs % (i + 1)) - 1}`,
          size: thick ? null : (sizesOf(region, design.cable)[hangs] ?? null),
        }),
      ),
    }))

/** Any job of two circuits, in any world, as version 2 held it. */
export const anyOldJob: fc.Arbitrary<Job> = some(regionIds).chain((region) =>
  fc
    .record({
      circuits: fc.tuple(circuitOf(region, 'c1'), circuitOf(region, 'c2')),
      brief: fc.record({ environment: maybe(some(environments)), premises: maybe(some(premisesKinds)) }),
      supply: fc.record({
        earthing: maybe(some(['tn-s', 'tn-c-s', 'tt'] as const)),
        zeOhm: maybe(fc.constantFrom(0, 0.35, 80)),
        pscKa: maybe(fc.constantFrom(0.1, 6, 200)),
        upstream: maybe(fc.record({ kind: some(['breaker', 'fuse'] as const), ratingA: fc.constantFrom(16, 100) })),
      }),
    })
    .map(({ circuits, brief, supply }) => {
      const job = newJob(region, 'Anything', '')
      return {
        ...job,
        circuits: circuits.map((c, i) => (i === 1 && circuits[0].kind === 'feeder' ? { ...c, feeder: 'c1' } : c)),
        brief: { ...job.brief, ...brief },
        supply: { ...job.supply, ...supply },
      }
    }),
)

/** The same, brought up. */
export const anyJob = anyOldJob.map(fromVersion2)
