import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { newResidualDevice } from '../job/board'
import { applyShort as applyEdit, type Short as Edit } from '../../../tests/support/shorthand'
import type { Installation as Job } from '../installation/installation'
import { newJob } from '../../../tests/support/shorthand'
import { placed } from '../../../tests/support/shorthand'
import { wallDrawing } from './wall'
import { runReport } from '../survey/walls'
import { profileDrawing } from './profile'
import { chainDrawing } from './chain'
import { boardDrawing } from './board'
import { plannedIn } from '../survey/board'

const demo = (i: number, ...more: Edit[]): Job =>
  [...demoJobs[i]!.edits, ...more].reduce((job, e) => applyEdit(job, e).job, newJob(demoJobs[i]!.region, 'x', ''))

describe('the voltage along a circuit', () => {
  it.each([
    [0, 3],
    [1, 2],
    [1, 3],
    [2, 2],
  ])('is drawn with every point a part, the worst the heaviest (%i, %i)', (i, at) => {
    const job = demo(i)
    const { chosen, circuit } = evaluate(job, []).circuits[at]!
    const drawing = profileDrawing(circuit, chosen.layout!, 5, 'metric')
    expect(JSON.stringify(drawing)).not.toMatch(/NaN|undefined|Infinity/)
    expect(Object.keys(drawing.parts!)).toHaveLength(circuit.points.length)
    const heavy = drawing.shapes.filter((s) => s.kind === 'rect' && s.width === 4)
    expect(heavy.map((s) => s.part)).toEqual([`stop:${chosen.layout!.worstDrop!.point.id}`])
    for (const s of drawing.shapes) if (s.kind === 'rect') expect(s.y).toBeGreaterThanOrEqual(0)
  })

  it('hangs lower where more is lost, and marks what is over the limit', () => {
    const { chosen, circuit } = evaluate(demo(1), []).circuits[3]!
    const drawing = profileDrawing(circuit, chosen.layout!, 1, 'metric')
    const centre = (id: string) => {
      const dot = drawing.shapes.find((s) => s.kind === 'rect' && s.part === `stop:${id}` && s.w === 18) as { y: number }
      return dot.y
    }
    expect(centre('l2')).toBeGreaterThan(centre('l1'))
    expect(JSON.stringify(drawing.shapes)).toContain('"error"')
    expect(JSON.stringify(profileDrawing(circuit, chosen.layout!, 5, 'metric').shapes)).not.toContain('"error"')
  })
})

describe('names along a circuit', () => {
  /** A tree of points with names of all lengths, some close together, some far. */
  const tree = fc.array(
    fc.record({
      hangs: fc.nat(20),
      lengthM: fc.integer({ min: 1, max: 25 }),
      watts: fc.integer({ min: 0, max: 900 }),
      name: fc.constantFrom('Fan', 'Counter, left', 'By the door to the cold store', 'X', 'Bench 12'),
    }),
    { minLength: 1, maxLength: 40 },
  )
  const drawn = (kind: 'radial' | 'ring', points: readonly { hangs: number; lengthM: number; watts: number; name: string }[]) => {
    const edits: Edit[] = [
      { kind: 'circuit.set', circuit: 'c1', patch: { kind } },
      { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory: 'uk-socket-13', wantedBreakerA: 32, lengthM: 10 } },
      {
        kind: 'circuit-point.add',
        circuit: 'c1',
        points: points.map(({ hangs, ...p }, i) =>
          placed(`p${i}`, p.name, { ...p, from: hangs % (i + 1) === 0 ? null : `p${(hangs % (i + 1)) - 1}` }),
        ),
      },
      ...(kind === 'ring' ? [{ kind: 'run.set', circuit: 'c1', patch: { closeM: 10 } } as const] : []),
    ]
    const { chosen, circuit } = evaluate(
      edits.reduce((job, e) => applyEdit(job, e).job, newJob('united-kingdom', 'x', '')),
      [],
    ).circuits[0]!
    return chosen.layout && { layout: chosen.layout, drawing: profileDrawing(circuit, chosen.layout, 5, 'metric') }
  }

  it('never stand on each other, and the worst always has its own', () => {
    let several = 0
    fc.assert(
      fc.property(fc.constantFrom('radial' as const, 'ring' as const), tree, (kind, points) => {
        const out = drawn(kind, points)
        if (!out) return
        const { drawing, layout } = out
        const names = drawing.shapes.flatMap((s) => (s.kind === 'text' && s.part ? [{ ...s, wide: s.text.length * 6 }] : []))
        expect(names.some((n) => n.part === `stop:${layout.worstDrop!.point.id}`)).toBe(true)
        for (const [i, a] of names.entries())
          for (const b of names.slice(i + 1))
            expect(Math.abs(a.y - b.y) >= 14 || Math.abs(a.x - b.x) >= (a.wide + b.wide) / 2, `${a.text} on ${b.text}`).toBe(true)
        for (const s of drawing.shapes)
          if (s.kind === 'text') expect(s.x >= 0 && s.x <= drawing.width && s.y > 0 && s.y <= drawing.height, s.text).toBe(true)
        expect(Object.keys(drawing.parts!)).toHaveLength(points.length)
        if (names.length > 8) several++
      }),
      { numRuns: 150 },
    )
    expect(several).toBeGreaterThan(20)
  })
})

describe('drawings of what was found', () => {
  it('show the spaces that new circuits were given', () => {
    for (const i of [0, 1]) {
      const job = demo(i)
      const { boards, survey } = evaluate(job, [])
      const drawing = boardDrawing({ job, report: boards[0]!, loads: survey.loads, proved: survey.proved, planned: plannedIn(job) })
      for (const p of plannedIn(job)) expect(drawing.parts![`free:${p.spaces[0]}`]).toContain(p.name)
    }
  })

  it('show a new circuit under the device it is to be behind, and one of which that was not said by itself', () => {
    const stage = newResidualDevice('stage', 'Stage RCD', { tripMa: 30 })
    const job = demo(1, { kind: 'residual-device.add', item: stage })
    const { boards, survey } = evaluate(job, [])
    const devices = job.residualDevices.map((d) => d.id)
    expect(devices.length).toBeGreaterThan(1)
    for (const behind of [...devices, 'own', 'none', 'gone', null])
      for (const format of ['wide', 'narrow', 'paper'] as const) {
        const planned = [{ name: 'New', spaces: [40], behind }]
        const drawing = boardDrawing({ job, report: boards[0]!, loads: survey.loads, proved: survey.proved, planned }, format)
        const order = [...new Set(drawing.shapes.flatMap((s) => s.part ?? []))]
        const at = order.indexOf('free:40')
        const over = order.slice(0, at).findLastIndex((p) => p.startsWith('device:'))
        const between = order.slice(over + 1, at).map((p) => boards[0]!.ways.find((w) => p === `way:${w.id}`)?.residual)
        expect(at, format).toBeGreaterThan(0)
        if (behind !== null && devices.includes(behind)) {
          expect(order[over], format).toBe(`device:${behind}`)
          expect(
            between.every((r) => r === behind),
            `${behind} ${format}`,
          ).toBe(true)
        } else {
          // After every device, and before what is free.
          expect(
            order.slice(at + 1).filter((p) => p.startsWith('device:')),
            format,
          ).toEqual([])
          expect(
            order.slice(0, at).filter((p) => p.startsWith('free:')),
            format,
          ).toEqual([])
          const title = { own: /^Own /, none: /^Behind no / }[behind ?? ''] ?? /^Behind what\?/
          expect(
            drawing.shapes.some((s) => s.kind === 'text' && title.test(s.text)),
            `${behind} ${format}`,
          ).toBe(true)
        }
      }
  })

  it('show a wall with its outlets and those that are missing', () => {
    const job = demo(0)
    const run = job.walls[0]!
    const drawing = wallDrawing(run, runReport('north-america', run, 'imperial'), 'imperial')
    expect(Object.keys(drawing.parts!)).toEqual(['outlet:p1', 'outlet:p2'])
    expect(drawing.shapes.filter((s) => s.kind === 'circle' && s.dash)).toHaveLength(2)
    expect(JSON.stringify(drawing)).not.toMatch(/NaN|undefined/)
  })

  it('put an extension cord into the chain as a link of its own', () => {
    const job = demo(2, {
      kind: 'design.set',
      circuit: 'c2',
      design: 'a',
      patch: { extension: { ratingA: 10, lengthM: 8, size: '1.5 mm2' } },
    })
    const { chosen, circuit } = evaluate(job, []).circuits[1]!
    const words = chainDrawing(job, circuit, chosen, 'metric').shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : []))
    expect(words.join(' ').toLowerCase()).toContain('extension')
    expect(chosen.result!.links.at(-1)).toEqual({ link: 'cord', ratingA: 10 })
  })
})
