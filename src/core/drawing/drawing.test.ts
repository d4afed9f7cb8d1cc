import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { accessories } from '../catalogue/accessories'
import { wiringPlan } from '../build/plan'
import { verdictGlyph } from './glyph'
import { fitText, line, text, wrapText } from './shape'
import { svgFile } from './svg'
import { wiringDrawing } from './wiring'

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

describe.each(accessories.map((a) => ({ name: a.name, region: a.region, a })))('the wiring of $name, $region', ({ a }) => {
  const plan = wiringPlan(a.region, a, 'new', null, 'metric')
  const { shapes, width, height } = wiringDrawing(a.region, a, plan, '2.5 mm2')
  it('marks every terminal and letters every conductor, inside the picture', () => {
    const words = shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : []))
    for (const t of a.terminals) expect(words.some((w) => w.startsWith(t.mark))).toBe(true)
    const letters = words.filter((w) => /^(BK|RD|WH|BARE|GN|BN|BU|GY|GNYE)$/.test(w))
    expect(letters.length).toBe(plan.feed.length + plan.load.length)
    for (const s of shapes) if (s.kind === 'text') expect(s.x >= 0 && s.x <= width && s.y > 0 && s.y <= height).toBe(true)
  })
  it('no two terminal marks overlap', () => {
    const labels = shapes.flatMap((s, i) =>
      s.kind === 'rect' && s.fill === 'sheet' && s.stroke === undefined && shapes[i + 1]?.kind === 'text' ? [s] : [],
    )
    for (const [i, p] of labels.entries())
      for (const q of labels.slice(i + 1))
        expect(p.x + p.w <= q.x + 1 || q.x + q.w <= p.x + 1 || p.y + p.h <= q.y || q.y + q.h <= p.y, `${i}`).toBe(true)
  })
})
