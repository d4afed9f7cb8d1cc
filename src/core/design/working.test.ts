import { describe, expect, it } from 'vitest'
import { selectCircuit, type SelectCircuitInput } from '../calculate/select-circuit'
import { newJob } from '../job/schema'
import { loopLimit } from './loop-limit'
import { workings } from './working'

const of = (input: SelectCircuitInput, earthing: 'tn-s' | 'tt' = 'tn-s') => {
  const result = selectCircuit(input)
  if (input.region === 'north-america' || !input.supply) return workings(input, result)
  const { supply, breakerType, region } = input
  const residual = { at: supply.rcdMa ? ('board' as const) : ('none' as const), ma: supply.rcdMa ?? 30, type: null }
  const job = { region, supply: { ...newJob(region, 'x', '').supply, earthing } }
  return workings(input, result, null, loopLimit(job, { residual, breakerType }, result.breakerA!, result.zsOhm!))
}

describe('a North American kiln, checked by hand', () => {
  const input: SelectCircuitInput = {
    region: 'north-america',
    load: { volts: 240, watts: 5760, continuous: true },
    cable: 'thwn-2',
    conductor: 'copper',
    run: { lengthM: 30.48, ambientC: 38, loadedConductors: 5 },
    terminalC: 75,
    outlet: { ratingA: 30, single: true },
  }
  const w = of(input)
  it.each([
    ['loadA', '5760 W / 240 V = 24 A'],
    ['requiredA', '24 A × 1.25 = 30 A'],
    ['breakerA', '30 A ≥ max(30, 0) A'],
    // 10 AWG at 90 °C is 40 A; 38 °C takes the 40 °C row, 0.91; five loaded conductors 0.8.
    ['ampacityA', 'min(40 × 0.91 × 0.8 = 29.12 A, 75 °C column) = 29.12 A'],
    // 2 × 100 ft × 24 A × 1.21 Ω per 1000 ft = 5.808 V.
    ['dropPercent', '2 × 100 ft × 24 A × 1.21 Ω/kft / 1000 = 5.808 V, of 240 V'],
    ['protectiveSize', '10 AWG for 30 A → 10 AWG'],
    ['weakest', 'breaker 30 A · cable 29.1 A · outlet 30 A'],
  ] as const)('%s', (key, numbers) => {
    expect(w[key]!.numbers).toBe(numbers)
  })
  it('names its clauses', () => {
    expect(w.ampacityA!.clauses.join(' ')).toMatch(/310\.16.*310\.15\(B\).*310\.15\(C\).*110\.14\(C\)/)
    expect(w.requiredA!.clauses[0]).toContain('210.19(A)(1)')
    expect(w.dropPercent!.clauses.join(' ')).toContain('Chapter 9 Table 8')
  })
})

describe('a British urn, checked by hand', () => {
  const input: SelectCircuitInput = {
    region: 'united-kingdom',
    load: { volts: 230, watts: 2990, continuous: true },
    cable: 'twin-earth',
    conductor: 'copper',
    run: { lengthM: 20, ambientC: 31, method: 'clipped-direct', groupedCircuits: 2, insulationMm: 60 },
    breakerType: 'B',
    supply: { zeOhm: 0.35 },
  }
  const w = of(input)
  it.each([
    ['loadA', '2990 W / 230 V = 13 A'],
    ['requiredA', '13 A'],
    // 4 mm² clipped is 37 A: × 0.94 × 0.80 × 0.78 = 21.7 A; 2.5 mm² would be 15.8 A, under the 16 A breaker.
    ['ampacityA', '37 × 0.94 × 0.8 × 0.78 = 21.7027 A'],
    ['dropPercent', '11 × 20 m × 13 A / 1000 = 2.86 V, of 230 V'],
    ['zsOhm', '0.35 + (4.61 + 12.1) × 20 × 1.2 / 1000 = 0.751 Ω'],
    ['maxZsOhm', '230 × 0.95 / (5 × 16) = 2.7313 Ω'],
  ] as const)('%s', (key, numbers) => {
    expect(w[key]!.numbers).toBe(numbers)
  })
  it('says that a continuous load needs no allowance there', () => {
    expect(w.requiredA!.remark).toMatch(/no allowance/)
  })
})

describe('behind a residual device', () => {
  const input = (zeOhm: number): SelectCircuitInput => ({
    region: 'southern-africa',
    load: { volts: 230, amps: 9, continuous: false },
    cable: 'flat-twin-earth',
    conductor: 'copper',
    run: { lengthM: 0, ambientC: 30, method: 'C', groupedCircuits: 1 },
    breakerType: 'C',
    supply: { zeOhm, rcdMa: 30 },
  })
  const byBreaker = '230 × 0.95 / (10 × 10) = 2.185 Ω'
  const byResidual = '50 / 0.03 = 1666.6667 Ω'
  it.each([
    ['tn-s', 2.184, byBreaker, /breaker governs/],
    ['tn-s', 2.186, byResidual, /over what the breaker needs/],
    ['tt', 2.184, byResidual, /electrode \(TT\)/],
  ] as const)('on %s with a loop of %d Ω', (earthing, ze, numbers, remark) => {
    const w = of(input(ze), earthing)
    expect(w.maxZsOhm!.numbers).toBe(numbers)
    expect(w.maxZsOhm!.remark).toMatch(remark)
    expect(w.maxZsOhm!.inputs.map((i) => i.value)).toEqual(['2.19 Ω', '1667 Ω'])
  })
})

describe('a number that has no value', () => {
  it('has no working either', () => {
    const w = of({
      region: 'north-america',
      load: { volts: 240, amps: 240, continuous: false },
      cable: 'thwn-2',
      conductor: 'copper',
      run: { lengthM: 10, ambientC: 30, loadedConductors: 2 },
      terminalC: 75,
    })
    expect(Object.keys(w)).toEqual(['loadA', 'requiredA'])
  })
})
