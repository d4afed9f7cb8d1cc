import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { newJob } from '../../../tests/support/shorthand'
import { read } from '../installation/installation'
import { newWay } from '../job/board'
import type { ObservationRecord } from '../job/observation'
import { newPoint } from '../job/point'
import { evaluateSurvey } from '../survey/traced'
import type { Shape } from './shape'
import { treeDrawing } from './tree'

/** A survey of so many ways and points, and what each point is fed from: a way, a point before it, or not known. */
const anyTree = fc
  .record({ ways: fc.integer({ min: 0, max: 9 }), from: fc.array(fc.integer({ min: -3, max: 30 }), { maxLength: 24 }) })
  .map(({ ways, from }) => {
    const places = [...Array.from({ length: ways }, (_, i) => `w${i}`), ...from.map((_, i) => `p${i}`)]
    const job = read({
      ...newJob('united-kingdom').record,
      ways: Array.from({ length: ways }, (_, i) => newWay(`w${i}`, `Way ${i}`, {})),
      points: from.map((_, i) => newPoint(`p${i}`, `Point ${i}`)),
    })
    const report = evaluateSurvey(job)
    const parents = Object.fromEntries(from.map((at, i) => [`p${i}`, at < 0 || ways + i === 0 ? null : places[at % (ways + i)]!]))
    return { job, report: { ...report, trace: { ...report.trace, parents } }, parents, ways }
  })

type Rect = Extract<Shape, { kind: 'rect' }>
const over = (a: Rect, b: Rect) => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h

describe('the traced tree', () => {
  it('shows each way, and each point that is known, once, apart from the others, at the end of what feeds it', () => {
    let loose = 0
    fc.assert(
      fc.property(anyTree, ({ job, report, parents, ways }) => {
        const { shapes, width, height } = treeDrawing(job, report, 'Board')
        const rects = shapes.filter((s) => s.kind === 'rect')
        const named = new Map<string, Rect>()
        for (const r of rects) {
          const name = shapes.find((s) => s.kind === 'text' && s.bold && s.x > r.x && s.x < r.x + r.w && s.y > r.y && s.y < r.y + r.h)
          if (name?.kind !== 'text' || named.has(name.text)) expect.fail(`a node without a name of its own: ${JSON.stringify(name)}`)
          named.set(name.text, r)
          expect(r.x >= 8 && r.x + r.w <= width - 8 && r.y >= 8 && r.y + r.h <= height - 8).toBe(true)
        }
        const call = (id: string) => `${id.startsWith('w') ? 'Way' : 'Point'} ${id.slice(1)}`
        const known = Object.entries(parents).flatMap(([id, from]) => (from === null ? [] : [[id, from] as const]))
        const twigs = new Set(known.flatMap(([, from]) => (parents[from] === null ? [from] : [])))
        loose += twigs.size
        expect([...named.keys()].toSorted()).toEqual(
          [
            'Board',
            ...Array.from({ length: ways }, (_, i) => `Way ${i}`),
            ...known.map(([id]) => call(id)),
            ...[...twigs].map(call),
          ].toSorted(),
        )
        for (const [i, r] of rects.entries()) expect(rects.slice(i + 1).filter((q) => over(r, q))).toEqual([])
        // An edge leaves what feeds at its right, and ends at the left of what is fed.
        const drawn = new Set(shapes.flatMap((s) => (s.kind === 'path' && s.d.includes('C') ? [s.d.replace(/C.* /, ' ')] : [])))
        const edge = (from: string, to: string) => {
          const [a, b] = [named.get(from)!, named.get(to)!]
          return drawn.has(`M${a.x + a.w} ${a.y + a.h / 2} ${b.y + b.h / 2}`) && b.x > a.x + a.w
        }
        for (let i = 0; i < ways; i++) expect(edge('Board', `Way ${i}`), `Way ${i}`).toBe(true)
        for (const [id, from] of known) expect(edge(call(from), call(id)), `${id} from ${from}`).toBe(true)
        expect(drawn.size).toBe(ways + known.length)
      }),
      { numRuns: 200 },
    )
    expect(loose).toBeGreaterThan(20)
  })
  it('shows points that are said to feed each other', () => {
    const job = read({ ...newJob('united-kingdom').record, points: ['a', 'b', 'c'].map((id) => newPoint(id, `Point ${id}`)) })
    const report = evaluateSurvey(job)
    const parents = { a: 'b', b: 'a', c: 'a' }
    const { shapes, title } = treeDrawing(job, { ...report, trace: { ...report.trace, parents } }, 'Board')
    expect(shapes.flatMap((s) => (s.kind === 'text' && s.bold ? [s.text] : [])).toSorted()).toEqual([
      'Board',
      'Point a',
      'Point b',
      'Point c',
    ])
    expect(title).toContain('3 of 3')
  })
  it('dashes what is only left over for a way not switched off, and marks what is only hearsay', () => {
    const seen = (id: string, breaker: string, dead: string[], instrument: 'contact' | 'told'): ObservationRecord => ({
      id,
      at: '2026-11-14T12:00:00.000Z',
      instrument,
      withdrawn: false,
      seen: { kind: 'breaker-off', breaker, dead },
      later: [],
    })
    const drawn = (...observations: ObservationRecord[]) => {
      const job = read({
        ...newJob('united-kingdom').record,
        ways: [newWay('w0', 'Way 0', {}), newWay('w1', 'Way 1', {})],
        points: [newPoint('p0', 'Point 0'), newPoint('p1', 'Point 1')],
        observations,
      })
      const { shapes } = treeDrawing(job, evaluateSurvey(job), 'Board')
      return {
        dashed: shapes.flatMap((s) => (s.kind === 'path' && s.d.includes('C') ? [s.dash !== undefined] : [])).filter(Boolean).length,
        words: shapes.flatMap((s) => (s.kind === 'text' && /2026|26$|left over|told/.test(s.text) ? [s.text] : [])),
      }
    }
    const [one, other] = [seen('o0', 'w0', ['p0'], 'contact'), (by: 'contact' | 'told') => seen('o1', 'w1', ['p1'], by)]
    expect(drawn(one)).toEqual({ dashed: 1, words: ['14 Nov 26', 'left over'] })
    expect(drawn(one, other('contact'))).toEqual({ dashed: 0, words: ['14 Nov 26', '14 Nov 26'] })
    expect(drawn(seen('o0', 'w0', ['p0'], 'told'), other('told'))).toEqual({ dashed: 0, words: ['told 14 Nov 26', 'told 14 Nov 26'] })
  })
})
