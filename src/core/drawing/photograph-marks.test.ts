import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { type Mark, photographSchema } from '../verify/photograph'
import { type DrawnMark, markWords, photographMarks } from './photograph-marks'
import { wideAs } from './shape'

const spot = fc.tuple(fc.double({ min: 0, max: 1, noNaN: true }), fc.double({ min: 0, max: 1, noNaN: true }))
const words = fc.string({ maxLength: 80 })
const anyMark: fc.Arbitrary<Mark> = fc.oneof(
  fc.record({ id: fc.constant('m'), kind: fc.constantFrom('arrow' as const, 'ring' as const), words, from: spot, to: spot }),
  fc.record({ id: fc.constant('m'), kind: fc.constant('words' as const), words, from: spot }),
  fc.record({
    id: fc.constant('m'),
    kind: fc.constant('length' as const),
    words,
    from: spot,
    to: spot,
    lengthM: fc.double({ min: 0.001, max: 999, noNaN: true }),
  }),
)

describe('marks over a photograph', () => {
  it('keep their words within the picture, whatever its shape and wherever they are put', () => {
    fc.assert(
      fc.property(anyMark, fc.double({ min: 0.4, max: 2.5, noNaN: true }), (mark, aspect) => {
        const { width, height, shapes } = photographMarks([mark], aspect, 'metric')
        for (const s of shapes) {
          if (s.kind === 'path') expect(s.d).not.toMatch(/NaN|Infinity/)
          if (s.kind !== 'text') continue
          const half = wideAs(s.text, s.size) / 2
          expect(s.x - half).toBeGreaterThanOrEqual(0)
          expect(s.x + half).toBeLessThanOrEqual(width)
          expect(s.y).toBeGreaterThan(0)
          expect(s.y).toBeLessThan(height)
          expect(s.written).toBe(true)
        }
      }),
    )
  })
  it('say a measured length in the units of the place, with what was measured', () => {
    const mark: Mark = { id: 'm', kind: 'length', words: 'to the sink', from: [0, 0], to: [1, 0], lengthM: 0.9144 }
    expect(markWords(mark, 'imperial')).toBe('3 ft: to the sink')
    expect(photographMarks([mark], 1, 'imperial').shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : []))).toEqual(['3 ft, to the sink'])
    expect(markWords(mark, 'metric')).toBe('0.91 m: to the sink')
  })
  it('show a length that was not entered yet as unknown, and as no figure', () => {
    const draft = { id: 'm', kind: 'length', words: '', from: [0, 0], to: [1, 0], lengthM: null } satisfies DrawnMark
    expect(photographMarks([draft], 1, 'metric').shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : []))).toEqual(['?'])
  })
  it('lie on the picture: a place beyond its edge is refused, and so is a length of nothing', () => {
    const taken = { id: 'a', photograph: 'a', of: { kind: 'job', id: 'job' }, words: '', out: false, hash: 'a'.repeat(64) }
    const row = { ...taken, widthPx: 4, heightPx: 3, at: '2026-12-01T08:00:00.000Z', by: '' }
    const arrow = (x: number) => ({ id: 'm', kind: 'arrow', words: '', from: [0, 0], to: [x, 0] })
    expect(photographSchema.safeParse({ ...row, mark: arrow(1) }).success).toBe(true)
    expect(photographSchema.safeParse({ ...row, mark: arrow(1.01) }).success).toBe(false)
    const length = (lengthM: number) => ({ ...arrow(1), kind: 'length', lengthM })
    expect(photographSchema.safeParse({ ...row, mark: length(0.001) }).success).toBe(true)
    expect(photographSchema.safeParse({ ...row, mark: length(0) }).success).toBe(false)
  })
})
