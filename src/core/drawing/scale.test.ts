import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { applyShort as applyEdit, newJob, type Short as Edit } from '../../../tests/support/shorthand'
import { evaluate } from '../evaluate/evaluate'
import { chainDrawing } from './chain'
import { profileDrawing } from './profile'
import { marks } from './scale'

describe('the marks of a scale', () => {
  it('are at every step where that is not too many', () => {
    expect(marks(30, 5)).toEqual([0, 5, 10, 15, 20, 25, 30])
    expect(marks(1, 0.2)).toEqual([0, 0.2, 0.4, 0.6, 0.8, 1])
  })
  it('are few, rise from zero and stay within, whatever the scale', () => {
    fc.assert(
      fc.property(fc.double({ min: 1e-9, max: 1e15, noNaN: true }), fc.double({ min: 1e-6, max: 1e3, noNaN: true }), (max, step) => {
        const list = marks(max, step)
        expect(list.length).toBeLessThanOrEqual(16)
        expect(list[0]).toBe(0)
        expect(list.at(-1)!).toBeLessThanOrEqual(max * (1 + 1e-6))
        for (const [i, m] of list.entries()) if (i) expect(m).toBeGreaterThan(list[i - 1]!)
      }),
    )
    expect(marks(Number.NaN, 5)).toEqual([0])
    expect(marks(Number.POSITIVE_INFINITY, 5)).toEqual([0])
  })
})

describe('what cannot be', () => {
  const made = (...edits: Edit[]) => edits.reduce((j, e) => applyEdit(j, e).job, newJob('united-kingdom', 'Too much', ''))
  const load = (patch: Extract<Edit, { kind: 'load.set' }>['patch']): Edit => ({ kind: 'load.set', circuit: 'c1', patch })
  it('is refused at its field: a mistyped energy, a mistyped current', () => {
    expect(() => made(load({ basis: 'kwh', amount: 1_000_000, hours: 0.01 }))).toThrow(/mistyped/)
    expect(() => made(load({ basis: 'kwh', amount: 1000, hours: 1 }))).not.toThrow()
    expect(() => made(load({ basis: 'kwh', amount: 1001, hours: 1 }))).toThrow(/mistyped/)
    expect(() => made(load({ basis: 'amps', amount: 10_000 }))).not.toThrow()
    expect(() => made(load({ basis: 'amps', amount: 10_001 }))).toThrow(/mistyped/)
  })
  it('however large the figures that can be, drawings stay small', () => {
    const job = made(
      load({ basis: 'amps', amount: 10_000 }),
      { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'uk-socket-13', cordA: 1000 } },
      { kind: 'circuit-point.add', circuit: 'c1', points: [{ id: 'p', name: 'Far', from: null, lengthM: 1e6, watts: 1e6 }] } as Edit,
    )
    const { chosen, circuit } = evaluate(job, []).circuits[0]!
    expect(chainDrawing(job, circuit, chosen, 'metric').shapes.length).toBeLessThan(120)
    if (chosen.layout) expect(profileDrawing(circuit, chosen.layout, 5, 'metric').shapes.length).toBeLessThan(120)
  })
})
