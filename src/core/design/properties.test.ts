import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { atMost } from '../quantity/tolerance'
import { metricRegions } from '../region/metric'
import { naCables, naCableSizes } from '../region/north-america'
import { ampacity } from './ampacity'
import { selectCircuit, type SelectCircuitInput } from './select-circuit'
import { voltageDrop } from './voltage-drop'

const naRun = fc.record({ lengthM: fc.double({ min: 0, max: 200, noNaN: true }), ambientC: fc.integer({ min: -10, max: 55 }), loadedConductors: fc.integer({ min: 1, max: 40 }) })
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

const withLoad = (input: SelectCircuitInput, amps: number): SelectCircuitInput => ({ ...input, load: { ...input.load, amps } }) as SelectCircuitInput

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
        const at = (ambientC: number, loadedConductors: number) => ampacity({ region: 'north-america', cable: 'thwn-2', size: '8 AWG', conductor: 'copper', ambientC, loadedConductors, terminalC: 75 }).ampacityA
        expect(at(run.ambientC + hotter, run.loadedConductors + more)).toBeLessThanOrEqual(at(run.ambientC, run.loadedConductors))
      }),
    )
  })

  it('longer never drops less', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 500, noNaN: true }), fc.double({ min: 0, max: 500, noNaN: true }), (lengthM, more) => {
        const drop = (m: number) => voltageDrop({ region: 'southern-africa', conductor: 'copper', size: '4 mm2', lengthM: m, currentA: 20, systemV: 230 }).dropV
        expect(drop(lengthM + more)).toBeGreaterThanOrEqual(drop(lengthM))
      }),
    )
  })
})
