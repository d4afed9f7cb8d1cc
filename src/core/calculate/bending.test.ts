import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { InputError } from '../base/input-error'
import { bending, type BendItem, openedBy, strapsAlong } from './bending'
import { anyBends } from '../../../tests/support/any-bends'
import { racewayBends } from './raceway-bends'

const R = 4.5 * 25.4
const asked = (items: readonly BendItem[], more: object = {}) => ({ items, radiusMm: R, takeUpMm: 6 * 25.4, stockMm: null, ...more })

type At = { x: number; y: number; heading: number }
const RIGHT: At = { x: 0, y: 0, heading: 0 }
const ahead = ({ x, y, heading }: At, mm: number): At => ({ x: x + mm * Math.cos(heading), y: y + mm * Math.sin(heading), heading })
/** Where the way ends, along its sharp corners as they were measured. */
function measuredEnd(items: readonly BendItem[]): At {
  let at = RIGHT
  const turn = (deg: number) => (at = { ...at, heading: at.heading + (deg * Math.PI) / 180 })
  for (const [n, i] of items.entries()) {
    if (i.kind === 'straight') at = ahead(at, i.lengthMm)
    else if (i.kind === 'stub-90') {
      if (n === 0) at = ahead(at, i.heightMm)
      turn(90)
      if (n > 0) at = ahead(at, i.heightMm)
    } else {
      turn(i.angleDeg)
      at = ahead(at, i.riseMm / Math.sin((i.angleDeg * Math.PI) / 180))
      turn(-i.angleDeg)
    }
  }
  return at
}
/** Where a pipe ends that is cut to its length and bent at its marks, arc by arc. */
function bentEnd({ cutMm, bends }: ReturnType<typeof bending>): At {
  let [at, done] = [RIGHT, 0]
  for (const b of bends) {
    at = ahead(at, b.fromMm - done)
    const [angle, side] = [(b.degrees * Math.PI) / 180, b.turn === 'left' ? 1 : -1]
    const chord = 2 * R * Math.sin(angle / 2)
    at = { ...ahead({ ...at, heading: at.heading + (side * angle) / 2 }, chord), heading: at.heading + side * angle }
    done = b.toMm
  }
  return ahead(at, cutMm - done)
}

describe('a pipe bent by its marks', () => {
  it('ends where it was measured to end', () => {
    fc.assert(
      fc.property(anyBends, (items) => {
        const [is, wanted] = [bentEnd(bending(asked(items))), measuredEnd(items)]
        expect(Math.hypot(is.x - wanted.x, is.y - wanted.y)).toBeLessThan(1e-6)
        expect(is.heading).toBeCloseTo(wanted.heading, 9)
      }),
      { numRuns: 300 },
    )
  })
  it('is cut to the length that the calculator gives', () => {
    fc.assert(
      fc.property(anyBends, (items) => {
        const { cutLengthMm, totalDegrees } = racewayBends({ tradeSize: '3/4', items: [...items] })
        expect(bending(asked(items))).toMatchObject({
          cutMm: expect.closeTo(cutLengthMm, 6),
          totalDegrees: expect.closeTo(totalDegrees, 6),
        })
      }),
    )
  })
  it('comes in pieces no longer than the pipe, joined in no bend', () => {
    fc.assert(
      fc.property(anyBends, fc.constantFrom(2000, 3048, 3750), (items, stockMm) => {
        const { cutMm, bends, pieces } = bending(asked(items, { stockMm }))
        expect(pieces.reduce((sum, p) => sum + p.lengthMm, 0)).toBeCloseTo(cutMm, 6)
        expect(pieces.flatMap((p) => p.bends.map((b) => b.no))).toEqual(bends.map((_, i) => i + 1))
        for (const [n, p] of pieces.entries()) {
          expect(p.lengthMm).toBeLessThanOrEqual(stockMm + 1e-3)
          for (const b of p.bends) {
            if (n > 0) expect(b.fromMm).toBeGreaterThanOrEqual(50 - 1e-3)
            if (n < pieces.length - 1) expect(p.lengthMm - b.toMm).toBeGreaterThanOrEqual(50 - 1e-3)
          }
        }
      }),
    )
  })
  it('with a quarter bend at an end is marked by the bender’s arrow there, and in its middle not', () => {
    const stub = { kind: 'stub-90' as const, heightMm: 300 }
    const run = { kind: 'straight' as const, lengthMm: 1000 }
    expect(bending(asked([run, stub])).arrows).toEqual([{ item: 1, fromEndMm: expect.closeTo(300 - 152.4, 6) }])
    expect(bending(asked([stub, run])).arrows).toEqual([{ item: 0, fromEndMm: expect.closeTo(300 - 152.4, 6) }])
    expect(bending(asked([run, stub, run])).arrows).toEqual([])
    expect(bending(asked([run, stub], { takeUpMm: null })).arrows).toEqual([])
    // A stub at the first end is before its bend: the bend begins where the stub leaves it.
    expect(bending(asked([stub, run])).bends[0]!.fromMm).toBeCloseTo(300 - R, 6)
    expect(bending(asked([run, stub])).bends[0]!.fromMm).toBeCloseTo(1000 - R, 6)
  })
  it('turns by no more than 360 degrees between two pull points, an offset twice by its angle', () => {
    const degrees = (i: BendItem) => (i.kind === 'straight' ? 0 : i.kind === 'stub-90' ? 90 : 2 * i.angleDeg)
    fc.assert(
      fc.property(anyBends, (items) => {
        const { pullAfter } = bending(asked(items))
        const cuts = [-1, ...pullAfter, items.length - 1]
        const turned = cuts.slice(1).map((to, n) => items.slice(cuts[n]! + 1, to + 1).reduce((sum, i) => sum + degrees(i), 0))
        for (const t of turned) expect(t).toBeLessThanOrEqual(360 + 1e-9)
        // As late as may be: the bend after each pull point would have been too much.
        for (const [n, to] of pullAfter.entries()) expect(turned[n]! + degrees(items[to + 1]!)).toBeGreaterThan(360)
      }),
      { numRuns: 300 },
    )
    const straight = { kind: 'straight' as const, lengthMm: 2000 }
    const offset = (angleDeg: number): BendItem => ({ kind: 'offset', riseMm: 200, angleDeg })
    const four = (angleDeg: number) => Array.from({ length: 4 }, () => [straight, offset(angleDeg)]).flat()
    expect(bending(asked([...four(45), straight])).pullAfter).toEqual([])
    expect(bending(asked([...four(45), straight, offset(10), straight])).pullAfter).toEqual([8])
  })
  it('that has no room for a bend says which', () => {
    const offset = { kind: 'offset' as const, riseMm: 100, angleDeg: 30 }
    const at = (items: readonly BendItem[], more: object = {}) => {
      try {
        bending(asked(items, more))
        return null
      } catch (e) {
        return (e as InputError).path
      }
    }
    expect(at([offset, { kind: 'straight', lengthMm: 500 }])).toBe('items.0')
    expect(at([{ kind: 'straight', lengthMm: 500 }, offset])).toBe('items.1')
    expect(at([{ kind: 'straight', lengthMm: 500 }, offset, { kind: 'straight', lengthMm: 500 }])).toBeNull()
    expect(
      at([
        { kind: 'straight', lengthMm: 500 },
        { kind: 'stub-90', heightMm: R },
      ]),
    ).toBeNull()
    expect(
      at([
        { kind: 'straight', lengthMm: 500 },
        { kind: 'stub-90', heightMm: R - 1 },
      ]),
    ).toBe('items.1')
    expect(
      at(
        [
          { kind: 'straight', lengthMm: 500 },
          { kind: 'stub-90', heightMm: 900 },
        ],
        { stockMm: 100 },
      ),
    ).toBe('stockMm')
  })
  it('is pulled through no more than four quarter bends', () => {
    const run = { kind: 'straight' as const, lengthMm: 700 }
    const stubs = (n: number): BendItem[] => [
      run,
      ...Array.from({ length: n }, (): BendItem[] => [{ kind: 'stub-90', heightMm: 700 }]).flat(),
    ]
    expect(bending(asked(stubs(4))).pullAfter).toEqual([])
    expect(bending(asked(stubs(5))).pullAfter).toEqual([4])
    expect(bending(asked(stubs(9))).pullAfter).toEqual([4, 8])
  })
})

describe('straps', () => {
  const rule = { near: 900, apart: 3000 }
  const held = (lengthMm: number, at: readonly number[]) => {
    expect(at[0]!).toBeLessThanOrEqual(900)
    expect(lengthMm - at.at(-1)!).toBeLessThanOrEqual(900 + 1e-6)
    for (const [i, x] of at.entries()) if (i > 0) expect(x - at[i - 1]!).toBeLessThanOrEqual(3000 + 1e-6)
  }
  it('are near both ends and no further apart than is allowed', () => {
    fc.assert(fc.property(fc.double({ min: 100, max: 30_000, noNaN: true }), (lengthMm) => held(lengthMm, strapsAlong(lengthMm, rule))))
    expect(strapsAlong(4800, rule)).toEqual([900, 3900])
    expect(strapsAlong(4801, rule)).toHaveLength(3)
    expect(strapsAlong(900, rule)).toHaveLength(1)
  })
  it('keep to that round bends, and sit on none', () => {
    fc.assert(
      fc.property(anyBends, (items) => {
        const { cutMm, bends } = bending(asked(items))
        const at = strapsAlong(cutMm, rule, bends)
        held(cutMm, at)
        for (const x of at) expect(bends.some((b) => x > b.fromMm + 1e-9 && x < b.toMm - 1e-9)).toBe(false)
      }),
      { numRuns: 500 },
    )
  })
})

describe('an expansion fitting', () => {
  it('is shut in the greatest heat and open by all of the change in the greatest cold', () => {
    const year = { minC: -10, maxC: 50 }
    expect(openedBy(12, { ...year, nowC: 50 })).toBe(0)
    expect(openedBy(12, { ...year, nowC: -10 })).toBe(12)
    expect(openedBy(12, { ...year, nowC: 20 })).toBe(6)
    expect(openedBy(0, { minC: 20, maxC: 20, nowC: 20 })).toBe(0)
    expect(() => openedBy(12, { ...year, nowC: 51 })).toThrow(expect.objectContaining({ path: 'nowC' }))
    expect(() => openedBy(12, { ...year, nowC: -11 })).toThrow(InputError)
  })
})
