import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { verdictGlyph } from './glyph'
import { fitText, line, text, wrapText } from './shape'
import { svgFile } from './svg'

describe('text', () => {
  it('is cut to its width and says so', () => {
    expect(fitText('short', 200, 14)).toBe('short')
    expect(fitText('a very long name for a kiln', 80, 14)).toMatch(/^a very lon?…$/)
  })
  it('wraps at words, never loses the first, and keeps to its lines', () => {
    fc.assert(
      fc.property(fc.lorem({ maxCount: 12 }), fc.integer({ min: 60, max: 300 }), fc.integer({ min: 1, max: 4 }), (words, width, lines) => {
        const wrapped = wrapText(words, width, 14, lines)
        expect(wrapped.length).toBeLessThanOrEqual(lines)
        expect(words.startsWith(wrapped[0]!.replace('…', '').trimEnd())).toBe(true)
        for (const l of wrapped) expect(l.length * 14 * 0.52).toBeLessThanOrEqual(width + 14)
      }),
    )
  })
})

describe('verdicts', () => {
  it('have five different shapes', () => {
    const drawn = (['error', 'warning', 'unknown', 'note', 'met'] as const).map((v) =>
      JSON.stringify(verdictGlyph(v, 0, 0).map((s) => [s.kind, 'd' in s ? s.d : 'r' in s ? s.r : ''])),
    )
    expect(new Set(drawn).size).toBe(5)
  })
})

describe('SVG', () => {
  it('stands alone, and user text is never markup', () => {
    fc.assert(
      fc.property(fc.string(), (words) => {
        const svg = svgFile({ width: 10, height: 10, title: words, shapes: [text(0, 0, words, 5), line(0, 0, 1, 1)] })
        expect(svg.startsWith('<?xml')).toBe(true)
        expect(svg.match(/<[a-z]+/g)!.toSorted()).toEqual(['<g', '<path', '<svg', '<text', '<title'])
      }),
    )
  })
})
