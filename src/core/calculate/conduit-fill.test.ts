import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { InputError } from '../base/input-error'
import { unitedKingdomTables } from '../region/united-kingdom/tables'
import { conduitFill, conduitSizes } from './conduit-fill'

const size = fc.constantFrom('1.5 mm2', '2.5 mm2', '4 mm2', '6 mm2', '10 mm2', '16 mm2')
const conductors = fc.array(fc.record({ size, count: fc.integer({ min: 1, max: 6 }) }), { minLength: 1, maxLength: 3 })
const sizeMm = fc.constantFrom(...conduitSizes)
const fill = (lengthM: number, bends: number, mm: (typeof conduitSizes)[number] = '20', list = [{ size: '2.5 mm2', count: 6 }]) =>
  conduitFill({ sizeMm: mm, lengthM, bends, conductors: list })

describe('cables drawn into a conduit', () => {
  it('go by short factors in a short straight run, and by long ones beyond it or round a bend', () => {
    expect(fill(3, 0)).toEqual({ cableFactor: 6 * 43, conduitFactor: 460, fits: true, smallestMm: '16' })
    expect(fill(3.1, 0)).toMatchObject({ cableFactor: 6 * 30, conduitFactor: 290 })
    expect(fill(2, 1)).toMatchObject({ cableFactor: 180, conduitFactor: 286 })
  })
  it('fit up to the factor of the conduit, and the smallest that takes them is named', () => {
    // 6 × 30 = 180 in 8 m with two bends: 16 mm takes 97, 20 mm 159, 25 mm 292.
    expect(fill(8, 2)).toMatchObject({ fits: false, smallestMm: '25' })
    expect(fill(8, 2, '25')).toMatchObject({ fits: true })
    expect(fill(10, 2, '32', [{ size: '16 mm2', count: 9 }])).toMatchObject({ fits: false, smallestMm: null })
  })
  it('by the next listed length up', () => {
    expect(fill(5.2, 1).conduitFactor).toBe(fill(6, 1).conduitFactor)
    expect(fill(4, 1).conduitFactor).toBe(256)
  })
  it.each([
    [1, 5, 'bends'],
    [10.5, 0, 'lengthM'],
    [5.1, 3, 'lengthM'],
    [2.6, 4, 'lengthM'],
  ])('%f m with %i bends is listed nowhere and said so at its field', (lengthM, bends, path) => {
    expect(() => fill(lengthM, bends)).toThrow(InputError)
    try {
      fill(lengthM, bends)
    } catch (e) {
      expect((e as InputError).path).toBe(path)
    }
  })
  it('of a size that is not listed are refused at that size', () => {
    expect(() =>
      fill(5, 1, '20', [
        { size: '2.5 mm2', count: 1 },
        { size: '25 mm2', count: 1 },
      ]),
    ).toThrow(expect.objectContaining({ path: 'conductors.1.size' }))
  })

  it('never fit more for a longer run, a further bend, more cables or a smaller conduit', () => {
    fc.assert(
      fc.property(
        sizeMm,
        fc.double({ min: 0.1, max: 2.4, noNaN: true }),
        fc.integer({ min: 0, max: 3 }),
        conductors,
        (mm, lengthM, bends, list) => {
          const at = (m: number, b: number, cables = list, s = mm) => conduitFill({ sizeMm: s, lengthM: m, bends: b, conductors: cables })
          const base = at(lengthM, bends)
          if (bends > 0) expect(at(Math.min(2.5, lengthM * 1.2), bends).conduitFactor).toBeLessThanOrEqual(base.conduitFactor)
          expect(at(lengthM, bends + 1).conduitFactor).toBeLessThanOrEqual(base.conduitFactor)
          if (base.fits)
            for (const larger of conduitSizes.slice(conduitSizes.indexOf(mm))) expect(at(lengthM, bends, list, larger).fits).toBe(true)
          const more = at(lengthM, bends, [...list, { size: '1.5 mm2', count: 1 }])
          expect(more.cableFactor).toBeGreaterThan(base.cableFactor)
          if (base.smallestMm && !base.fits) expect(conduitSizes.indexOf(base.smallestMm)).toBeGreaterThan(conduitSizes.indexOf(mm))
        },
      ),
      { numRuns: 300 },
    )
  })

  it('the listed factors fall evenly: each within rounding of one curve', () => {
    // A check against slips of the pen: every row is a constant over the length with one bend and a second constant.
    const curves = { '16': [3000, 15], '20': [5000, 15.5], '25': [9500, 16.5], '32': [18_000, 18] } as const
    const { withOneBendM, conduit } = unitedKingdomTables.conduitFactors.long
    for (const mm of conduitSizes)
      for (const [i, m] of withOneBendM.entries())
        expect(Math.abs(conduit[mm][i]! - curves[mm][0] / (curves[mm][1] + m))).toBeLessThanOrEqual(1)
  })
})
