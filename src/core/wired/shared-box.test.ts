import { describe, expect, it } from 'vitest'
import { accessoriesFor } from '../catalogue/accessories'
import { inCircuit } from '../demo/kit'
import { evaluate } from '../evaluate/evaluate'
import { builtOf } from '../contract/built'
import { read } from '../installation/installation'
import { applyEdit, type Edit } from '../job/edits'
import { type Job, newJob } from '../job/schema'
import { type RegionId, regionIds } from '../region/types'

/* Two accessories in one box, of one circuit or of two: wired the standard way both do what is asked, and the box is one thing. */

const made = (edits: readonly Edit[], from: Job): Job => edits.reduce((job, e) => applyEdit(job, e).job, from)
const wiring = (job: Job): readonly string[] =>
  evaluate(job, [])
    .stages.find((s) => s.id === 'wiring')!
    .findings.map((f) => `${f.rule}: ${f.message}`)
const [one, two] = [inCircuit('c1'), inCircuit('c2')]
const ordinary: Readonly<Record<RegionId, readonly string[]>> = {
  'north-america': ['na-duplex-15', 'na-switch-1p', 'na-gfci-20'],
  'united-kingdom': ['uk-socket-13-twin', 'uk-switch-1p', 'uk-fcu'],
  'southern-africa': ['za-socket-16', 'za-switch-1p', 'za-isolator-20'],
}
const volts = (region: RegionId) => (region === 'north-america' ? 120 : 230)
const begun = (region: RegionId): readonly Edit[] => [one.load({ volts: volts(region), amount: 0, connection: 'plug' })]
const kindOf = (id: string, region: RegionId): 'outlet' | 'switch' | 'light' | 'fixed' => {
  const of = accessoriesFor(region).find((a) => a.id === id)!
  return of.kind === 'switch' ? 'switch' : of.kind === 'light' ? 'light' : of.outlets > 0 ? 'outlet' : 'fixed'
}
const placed = (region: RegionId, id: string, accessory: string, more: object) => ({
  id,
  name: id,
  kind: kindOf(accessory, region),
  outlets: accessoriesFor(region).find((a) => a.id === accessory)!.outlets,
  accessory,
  watts: 50,
  lengthM: 6,
  ...more,
})
/** A feed to `a`, `b` beside it in the same box, and a cable from `b` on to an outlet. */
const ofOne = (region: RegionId, a: string, b: string): Job => {
  const last = placed(region, 'last', ordinary[region][0]!, { from: 'b' })
  return made(
    [
      ...begun(region),
      one.points(placed(region, 'a', a, { from: null }), placed(region, 'b', b, { from: 'a', box: 'a', lengthM: null }), last),
    ],
    newJob(region, 'Honey house', ''),
  )
}
/** `a` and `b` in one box, each fed by a circuit of its own. */
const ofTwo = (region: RegionId, a: string, b: string): Job =>
  made(
    [
      ...begun(region),
      two.add('Second'),
      two.load({ volts: volts(region), amount: 0, connection: 'plug' }),
      one.points(placed(region, 'a', a, { from: null })),
      two.points(placed(region, 'b', b, { from: null, box: 'a' })),
    ],
    newJob(region, 'Honey house', ''),
  )

describe.each(regionIds)('two accessories in one box in %s', (region) => {
  it.each(accessoriesFor(region).map((a) => [a.id] as const))('%s beside each of the ordinary ones does what is asked', (id) => {
    for (const other of ordinary[region])
      for (const [a, b] of [
        [id, other],
        [other, id],
      ] as const)
        for (const job of [ofOne(region, a, b), ofTwo(region, a, b)]) {
          expect(wiring(job), `${a} and ${b}`).toEqual([])
          const { built } = builtOf(read(job), evaluate(job, []))
          const box = built.boxes.find((x) => x.id === 'a')!
          expect(box.points).toEqual(['a', 'b'])
          expect(new Set(box.accessories.map((x) => x.point)).size, `${a} and ${b}`).toBeGreaterThan(1)
        }
  })
})

const outOf = (job: Job) => {
  const report = evaluate(job, [])
  return { report, ...builtOf(read(job), report) }
}
describe('a box that holds two accessories', () => {
  const region = 'north-america'
  const kind = (id: string): Edit => ({ kind: 'box.set', boxes: ['a'], patch: { kind: id } })
  const both = made([kind('na-old-2g-34')], ofOne(region, 'na-duplex-15', 'na-switch-1p'))
  const apart = made([{ kind: 'box.share', point: 'b', box: null }], both)

  it('is bought once, with one plate, and no cable is bought between them', () => {
    const { built, materials } = outOf(both)
    expect(built.boxes.map((b) => [b.id, b.gangs])).toEqual([
      ['a', 2],
      ['last', 1],
    ])
    const bought = materials.map((m) => `${m.what} ${m.quantity}`)
    expect(bought).toContain('Plastic, clamps to wall, two gang deep 1')
    expect(bought).toContain('Cover plate, 2 gang 1')
    expect(built.cables.filter((k) => k.type !== null).map((k) => k.id)).toEqual(['to-a', 'to-last'])
    expect(materials.find((m) => m.kind === 'cable')!.quantity).toBeCloseTo(12 * 1.1, 1)
  })
  it('has one fill, with both devices and every conductor that enters', () => {
    const { fill } = outOf(both).built.boxes[0]!
    // Two cables of two conductors, two devices of two each, clamps and the protective conductors.
    expect(fill!.required).toBeCloseTo((4 + 4 + 1 + 1) * 2 * 16.387064, 2)
    expect(outOf(made([kind('na-old-20')], both)).report.stages.flatMap((s) => s.findings.map((f) => f.rule))).toContain('box-too-narrow')
  })
  it('has one page of work and one label, and each finding of it is reported once', () => {
    const { report, steps, labels } = outOf(made([kind('na-old-20')], both))
    const narrow = report.stages.flatMap((s) => s.findings).filter((f) => f.rule === 'box-too-narrow')
    expect(narrow).toHaveLength(1)
    expect(new Set(steps.map((s) => s.box))).toEqual(new Set(['a', 'last']))
    expect(labels.filter((l) => l.at === 'a' && l.cable === null && l.lines.some((x) => x.startsWith('From')))).toHaveLength(1)
    expect(labels.filter((l) => l.cable !== null).map((l) => l.at)).toEqual(['c1', 'a', 'a', 'last'].map((x) => (x === 'c1' ? 'main' : x)))
  })
  it('parted again leaves each its own, and asks how far they are apart', () => {
    const { built } = outOf(apart)
    expect(built.boxes.map((b) => b.points)).toEqual([['a'], ['b'], ['last']])
    const between = built.cables.find((k) => k.id === 'to-b')!
    expect(between.lengthM).toBeNull()
    expect(made([{ kind: 'box.share', point: 'b', box: 'a' }], apart).points).toEqual(both.points)
  })
  it('keeps what was recorded of the cable between them for when they are parted', () => {
    const measured = made([{ kind: 'circuit-point.set', circuit: 'c1', id: 'b', patch: { lengthM: 4 } }], apart)
    const joined = made([{ kind: 'box.share', point: 'b', box: 'a' }], measured)
    expect(read(joined).cables.find((k) => k.id === 'to-b')).toMatchObject({ inside: 'joint', lengthM: 0 })
    expect(made([{ kind: 'box.share', point: 'b', box: null }], joined).cables.find((k) => k.id === 'to-b')!.lengthM).toBe(4)
  })
  it('of two circuits is isolated from both, and says so on its label', () => {
    const { isolation, labels, built } = outOf(made([kind('na-old-2g-34')], ofTwo(region, 'na-duplex-15', 'na-duplex-15')))
    for (const card of isolation) expect(card.opens.length).toBeGreaterThan(0)
    expect(built.boxes).toHaveLength(1)
    expect(labels.filter((l) => l.at === 'a').flatMap((l) => l.lines)).toContain('Also in here: Second')
  })
  it('whose wiring a hand gets wrong is found, end by end', () => {
    let planted = 0
    for (const job of [both, ofTwo(region, 'na-duplex-15', 'na-gfci-20'), ofOne('united-kingdom', 'uk-fcu', 'uk-socket-13-twin')]) {
      const { ends } = evaluate(job, []).circuits[0]!
      const box = ends[0]!.built!
      for (const k of box.cables)
        for (const e of k.ends) {
          const bench = { ...box.bench, ends: box.bench.ends.map((x) => (x.end === e.name ? { ...x, to: 'cap' } : x)) }
          expect(wiring(made([{ kind: 'bench.take', box: 'a', bench }], job)), e.name).not.toEqual([])
          planted++
        }
    }
    expect(planted).toBeGreaterThan(15)
  })
  it('that is there takes a new accessory, and another box in its place', () => {
    const there = made([{ kind: 'point.set', id: 'a', patch: { state: 'existing' } }, kind('na-old-20')], both)
    const { materials, report } = outOf(there)
    expect(materials.filter((m) => m.kind === 'box').map((m) => m.where)).toEqual([])
    expect(report.stages.flatMap((s) => s.findings.map((f) => f.rule))).toContain('box-too-narrow')
    const wider = made([{ kind: 'box.set', boxes: ['a'], patch: { planned: { kind: 'na-old-2g-34' } } }], there)
    expect(wider.boxes.find((b) => b.id === 'a')!.kind).toBe('na-old-20')
    expect(outOf(wider).materials.filter((m) => m.kind === 'box')).toMatchObject([{ where: ['a'], quantity: 1 }])
    expect(outOf(wider).report.stages.flatMap((s) => s.findings.map((f) => f.rule))).not.toContain('box-too-narrow')
  })
  it('of the one load of a circuit stays as it is when its points are named: its kind, its place, its wiring by hand', () => {
    const lone = made(
      [
        ...begun(region),
        one.design({ accessory: 'na-duplex-15' }),
        { kind: 'box.set', boxes: ['end-c1'], patch: { kind: 'na-old-20' } },
        { kind: 'point.set', id: 'end-c1', patch: { heightMm: 450 } },
      ],
      newJob(region, 'Honey house', ''),
    )
    const { bench } = evaluate(lone, []).circuits[0]!.ends[0]!.built!
    const byHand = made([{ kind: 'bench.take', box: 'end-c1', bench }], lone)
    const named = made([one.points({ id: 'a', name: 'a', from: null }, { id: 'b', name: 'b', from: 'a', box: 'a' })], byHand)
    expect(named.boxes).toMatchObject([{ id: 'a', kind: 'na-old-20', heightMm: 450 }])
    expect(named.boxes[0]!.bench!.ends.map((e) => e.end)).toEqual(bench.ends.map((e) => e.end.replace('to-end-c1', 'to-a')))
    expect(named.points.map((p) => [p.id, p.box])).toEqual([
      ['a', 'a'],
      ['b', 'a'],
    ])
  })
  it('takes nothing that was found into a box that is still to be put in', () => {
    const found = made([{ kind: 'point.set', id: 'b', patch: { state: 'existing' } }], apart)
    expect(() => made([{ kind: 'box.share', point: 'b', box: 'a' }], found)).toThrow(/This box is new/)
  })
})
