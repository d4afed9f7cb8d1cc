import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { laid, newJob } from '../../../tests/support/shorthand'
import { atMost } from '../base/tolerance'
import {
  celsiusFromFahrenheit,
  cm3FromIn3,
  fahrenheitFromCelsius,
  feetFromMetres,
  in3FromCm3,
  inchesFromMillimetres,
  metresFromFeet,
  millimetresFromInches,
} from '../base/units'
import type { RegionId } from '../region/types'
import { metricRegions } from '../region/metric'
import { naCables, naCableSizes } from '../region/north-america/awg'
import { ampacity } from '../calculate/ampacity'
import { selectCircuit, type SelectCircuitInput } from '../calculate/select-circuit'
import { voltageDrop } from '../calculate/voltage-drop'
import { workLayout } from './layout'
import { workDesign } from './work'

const naRun = fc.record({
  lengthM: fc.double({ min: 0, max: 200, noNaN: true }),
  ambientC: fc.integer({ min: -10, max: 55 }),
  loadedConductors: fc.integer({ min: 1, max: 40 }),
})
const naInput = fc.record({
  region: fc.constant('north-america' as const),
  load: fc.record({ volts: fc.constantFrom(120, 240), amps: fc.double({ min: 0, max: 190, noNaN: true }), continuous: fc.boolean() }),
  cable: fc.constantFrom(...naCables),
  conductor: fc.constantFrom('copper' as const, 'aluminium' as const),
  run: naRun,
  terminalC: fc.constantFrom(60 as const, 75 as const),
})
const ukInput = fc.record({
  region: fc.constant('united-kingdom' as const),
  load: fc.record({ volts: fc.constant(230), amps: fc.double({ min: 0, max: 60, noNaN: true }), continuous: fc.boolean() }),
  cable: fc.constant('twin-earth' as const),
  conductor: fc.constant('copper' as const),
  run: fc.record({
    lengthM: fc.double({ min: 0, max: 120, noNaN: true }),
    ambientC: fc.integer({ min: 0, max: 60 }),
    method: fc.constantFrom(...metricRegions['united-kingdom'].cables['twin-earth']!.methods),
    groupedCircuits: fc.integer({ min: 1, max: 20 }),
    insulationMm: fc.constant(0),
  }),
  breakerType: fc.constantFrom('B' as const, 'C' as const, 'D' as const),
})
const anyInput = fc.oneof(naInput, ukInput) as fc.Arbitrary<SelectCircuitInput>

const withLoad = (input: SelectCircuitInput, amps: number): SelectCircuitInput =>
  ({ ...input, load: { ...input.load, amps } }) as SelectCircuitInput

describe('a selected circuit', () => {
  it('never gets a smaller breaker for more load', () => {
    fc.assert(
      fc.property(anyInput, fc.double({ min: 0, max: 40, noNaN: true }), (input, more) => {
        const [a, b] = [selectCircuit(input), selectCircuit(withLoad(input, input.load.amps! + more))]
        expect(b.breakerA ?? Number.POSITIVE_INFINITY).toBeGreaterThanOrEqual(a.breakerA ?? Number.POSITIVE_INFINITY)
      }),
    )
  })

  it('carries its load through every link it chose, and names the lowest of them', () => {
    fc.assert(
      fc.property(anyInput, (input) => {
        const r = selectCircuit(input)
        if (r.size === null) return
        expect(atMost(r.requiredA, r.breakerA!)).toBe(true)
        expect(atMost(r.loadA, r.ampacityA!)).toBe(true)
        expect(r.weakestLink!.ratingA).toBe(Math.min(...r.links.map((l) => l.ratingA)))
      }),
    )
  })

  it('is the smallest: the size below does not serve', () => {
    fc.assert(
      fc.property(naInput, (input) => {
        const r = selectCircuit(input as SelectCircuitInput)
        const sizes = naCableSizes(input.cable, input.conductor)
        const at = r.size === null ? -1 : sizes.indexOf(r.size)
        if (at <= 0) return
        const again = selectCircuit({ ...input, minSize: sizes[at - 1] } as SelectCircuitInput)
        expect(again.size).toBe(r.size)
      }),
    )
  })
})

describe('capacity and drop', () => {
  it('hotter or more grouped never carries more', () => {
    fc.assert(
      fc.property(naRun, fc.integer({ min: 0, max: 20 }), fc.integer({ min: 0, max: 10 }), (run, hotter, more) => {
        const at = (ambientC: number, loadedConductors: number) =>
          ampacity({
            region: 'north-america',
            cable: 'thwn-2',
            size: '8 AWG',
            conductor: 'copper',
            ambientC,
            loadedConductors,
            terminalC: 75,
          }).ampacityA
        expect(at(run.ambientC + hotter, run.loadedConductors + more)).toBeLessThanOrEqual(at(run.ambientC, run.loadedConductors))
      }),
    )
  })

  it('longer never drops less', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 500, noNaN: true }), fc.double({ min: 0, max: 500, noNaN: true }), (lengthM, more) => {
        const drop = (m: number) =>
          voltageDrop({ region: 'southern-africa', conductor: 'copper', size: '4 mm2', lengthM: m, currentA: 20, systemV: 230 }).dropV
        expect(drop(lengthM + more)).toBeGreaterThanOrEqual(drop(lengthM))
      }),
    )
  })
})

describe('a larger cable', () => {
  const sizes = {
    'united-kingdom': ['2.5 mm2', '4 mm2', '6 mm2', '10 mm2', '16 mm2'],
    'southern-africa': ['2.5 mm2', '4 mm2', '6 mm2', '10 mm2', '16 mm2', '25 mm2'],
    'north-america': ['12 AWG', '10 AWG', '8 AWG', '6 AWG', '4 AWG'],
  } as const
  it('never fails what a smaller one passed: drop, loop and load at every point', () => {
    fc.assert(
      fc.property(
        fc.constantFrom<RegionId>('north-america', 'united-kingdom', 'southern-africa'),
        fc.array(fc.record({ lengthM: fc.integer({ min: 1, max: 40 }), watts: fc.integer({ min: 0, max: 2500 }), branch: fc.boolean() }), {
          minLength: 1,
          maxLength: 5,
        }),
        fc.boolean(),
        fc.double({ min: 0.1, max: 1.2, noNaN: true }),
        (region, list, closed, zeOhm) => {
          const job = newJob(region, 'x', '')
          const ring = closed && region === 'united-kingdom'
          const points = list.map((p, i) =>
            laid(`p${i}`, `P${i}`, { lengthM: p.lengthM, watts: p.watts, from: i === 0 || ring ? null : p.branch ? 'p0' : `p${i - 1}` }),
          )
          const circuit = { ...job.circuits[0]!, kind: ring ? ('ring' as const) : ('radial' as const), closeM: 10, points }
          const design = { ...circuit.designs[0]!, residual: { at: 'none' as const, ma: 30, type: null } }
          const errorsAt = (size: string) =>
            workLayout({
              job: { ...job, supply: { ...job.supply, zeOhm } },
              circuit,
              design,
              size,
              breakerA: 32,
              carries: (s) => Number.parseFloat(s) * (region === 'north-america' ? -5 : 8) + (region === 'north-america' ? 90 : 4),
              protective: (s) => s,
            })
              .findings.filter((f) => f.severity !== 'note')
              .map((f) => f.rule)
          const order = sizes[region]
          for (let i = 1; i < order.length; i++) for (const rule of errorsAt(order[i]!)) expect(errorsAt(order[i - 1]!)).toContain(rule)
        },
      ),
      { numRuns: 150 },
    )
  })

  it('is never chosen for less load, nor a smaller breaker for more, with points along the way', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 100, max: 2500 }),
        fc.integer({ min: 0, max: 2500 }),
        fc.integer({ min: 1, max: 60 }),
        (watts, more, lengthM) => {
          const worked = (w: number) => {
            const job = newJob('united-kingdom', 'x', '')
            const circuit = {
              ...job.circuits[0]!,
              points: [laid('a', 'A', { lengthM, watts: w }), laid('b', 'B', { from: 'a', lengthM: 5, watts: 100 })],
            }
            return workDesign({ ...job, supply: { ...job.supply, zeOhm: 0.3 } }, circuit, circuit.designs[0]!).result!
          }
          const [less, greater] = [worked(watts), worked(watts + more)]
          expect(greater.breakerA!).toBeGreaterThanOrEqual(less.breakerA!)
          expect(Number.parseFloat(greater.size!)).toBeGreaterThanOrEqual(Number.parseFloat(less.size!))
        },
      ),
      { numRuns: 100 },
    )
  })
})

it('units convert both ways to the last digit that a number holds', () => {
  fc.assert(
    fc.property(fc.double({ min: 1e-6, max: 1e6, noNaN: true }), (v) => {
      for (const [there, back] of [
        [feetFromMetres, metresFromFeet],
        [inchesFromMillimetres, millimetresFromInches],
        [in3FromCm3, cm3FromIn3],
      ] as const)
        expect(Math.abs(back(there(v)) - v)).toBeLessThanOrEqual(Math.abs(v) * Number.EPSILON * 2)
      expect(celsiusFromFahrenheit(fahrenheitFromCelsius(v))).toBeCloseTo(v, 6)
    }),
  )
})
