import { describe, expect, it } from 'vitest'
import { inCircuit } from '../demo/kit'
import { evaluate } from '../evaluate/evaluate'
import type { Box } from '../build/box'
import { applyEdit, type Edit } from '../job/edits'
import { type BenchRecord, CAP } from '../job/bench'
import { type Job, newJob } from '../job/schema'
import type { RegionId } from '../region/types'

/*
 * Wiring mistakes planted in the boxes of whole jobs, one at a time: a conductor left capped, two conductors exchanged. Each changes
 * what the wiring does, and each is a finding of the job.
 */

const made = (edits: readonly Edit[], from: Job): Job => edits.reduce((job, e) => applyEdit(job, e).job, from)
const c = inCircuit('c2')
type Placed = Extract<Edit, { kind: 'circuit-point.add' }>['points'][number]
const at = (id: string, from: string | null, more: Partial<Placed> = {}): Placed => ({
  id,
  name: id,
  from,
  lengthM: 6,
  watts: 100,
  ...more,
})
const light = (id: string, from: string | null): Placed => at(id, from, { kind: 'light', outlets: 0 })
const sw = (id: string, from: string | null, accessory: string | null = null): Placed =>
  at(id, from, { kind: 'switch', outlets: 0, watts: 0, accessory })
type Kind = 'radial' | 'ring' | 'shared-neutral'
const jobs: readonly (readonly [name: string, region: RegionId, accessory: string, points: readonly Placed[], kind?: Kind])[] = [
  ['a chain of receptacles', 'north-america', 'na-duplex-20', [at('a', null), at('b', 'a'), at('d', 'b')]],
  [
    'a GFCI that protects those after it',
    'north-america',
    'na-duplex-20',
    [at('a', null, { accessory: 'na-gfci-20', guardsOn: true }), at('b', 'a'), at('d', 'b')],
  ],
  ['two lines with a shared neutral', 'north-america', 'na-duplex-20', [at('a', null), at('b', 'a', { leg: 'B' })], 'shared-neutral'],
  ['a three-way pair', 'north-america', 'na-duplex-15', [sw('s', null, 'na-two-way'), sw('t', 's', 'na-two-way'), light('l', 't')]],
  ['a light before its switch', 'north-america', 'na-duplex-15', [light('l', null), sw('s', 'l')]],
  ['a ring with a spur', 'united-kingdom', 'uk-socket-13-twin', [at('a', null), at('b', null), at('d', null), at('e', 'b')], 'ring'],
  [
    'a fused unit after a light',
    'united-kingdom',
    'uk-socket-13-twin',
    [{ ...sw('s', null), controls: ['l'] }, light('l', 's'), at('f', 'l', { kind: 'fixed', accessory: 'uk-fcu', fuseA: 3, outlets: 0 })],
  ],
  ['two-way switching', 'united-kingdom', 'uk-socket-13-twin', [sw('s', null, 'uk-two-way'), light('l', 's'), sw('t', 'l', 'uk-two-way')]],
  [
    'a fan with overrun behind its isolator',
    'united-kingdom',
    'uk-socket-13-twin',
    [
      { ...sw('s', null), controls: ['l', 'f'] },
      light('l', 's'),
      at('i', 'l', { kind: 'switch', watts: 0, outlets: 0, accessory: 'uk-fan-isolator' }),
      { ...light('f', 'i'), accessory: 'uk-fan-overrun' },
    ],
  ],
  [
    'a cooker control unit',
    'united-kingdom',
    'uk-socket-13-twin',
    [at('k', null, { kind: 'fixed', watts: 7000, accessory: 'uk-cooker-45', outlets: 1 })],
  ],
  [
    'plugs and an isolator',
    'southern-africa',
    'za-socket-16',
    [at('a', null), at('i', 'a', { kind: 'fixed', accessory: 'za-isolator-20', outlets: 0 })],
  ],
]

function built([, region, accessory, points, kind = 'radial']: (typeof jobs)[number]): Job {
  return made(
    [
      c.add('Circuit', kind),
      c.load({ volts: region === 'north-america' ? 120 : 230, amount: 0, connection: 'plug' }),
      c.design({ accessory }),
      c.points(...points),
      ...(kind === 'ring' ? [c.run({ closeM: 9 })] : []),
    ],
    newJob(region, 'Kiln room', 'A former dairy'),
  )
}
const boxesOf = (job: Job): readonly Box[] =>
  evaluate(job, [])
    .byCircuit.get('c2')!
    .ends.flatMap((e) => e.built ?? [])
const said = (job: Job): readonly string[] =>
  evaluate(job, [])
    .stages.find((s) => s.id === 'wiring')!
    .findings.filter((f) => f.severity === 'error' || f.severity === 'warning')
    .map((f) => f.rule)
const drawn = (job: Job, box: Box, bench: BenchRecord): Job => made([{ kind: 'bench.take', box: box.id, bench }], job)

/** Whether nothing beyond needs what a core brings: the other line after the last point on it, a neutral parked at a switch. */
function idle(job: Job, end: Box['cables'][number]['ends'][number]): boolean {
  const cable = job.cables.find((k) => end.name.startsWith(`${k.id} `))
  const far = job.points.find((p) => p.id === cable?.to.id)
  const onward = job.cables.some((k) => k.from.id === far?.id)
  if (!far || onward) return false
  return (end.signal === 'line' && far.leg === 'B') || (end.signal === 'neutral' && far.kind === 'switch')
}
/** Cores that may change places: the lines of two, and the two of a switch at the end of a leg. */
function eitherWay(job: Job, a: Box['cables'][number]['ends'][number], b: typeof a): boolean {
  const both = [a.signal, b.signal]
  if (both.includes('line') && both.includes('line-2')) return true
  const cable = job.cables.find((k) => a.name.startsWith(`${k.id} `))
  const far = job.points.find((p) => p.id === cable?.to.id)
  const last = far?.kind === 'switch' && !job.cables.some((k) => k.from.id === far.id)
  return last && both.includes('line') && both.some((s) => s?.startsWith('switched '))
}

let planted = 0
describe.each(jobs)('%s', (...job) => {
  const record = built(job as unknown as (typeof jobs)[number])
  const boxes = boxesOf(record)
  it('is sound as it is, standard or drawn by hand', () => {
    expect(said(record)).toEqual([])
    expect(said(boxes.reduce((j, b) => drawn(j, b, b.bench), record))).toEqual([])
  })
  it('says which conductor was left capped', () => {
    for (const box of boxes)
      for (const end of box.cables.flatMap((k) => k.ends)) {
        if (end.signal === null || box.bench.ends.find((e) => e.end === end.name)?.to === CAP || idle(record, end)) continue
        const bench = { ...box.bench, ends: box.bench.ends.map((e) => (e.end === end.name ? { ...e, to: CAP } : e)) }
        expect(said(drawn(record, box, bench)), `${box.id} ${end.name} capped`).not.toEqual([])
        planted++
      }
  })
  it('says where two conductors were exchanged', () => {
    for (const box of boxes) {
      const made_ = new Map(box.bench.ends.map((e) => [e.end, e.to]))
      const ends = box.cables.flatMap((k) => k.ends.map((e) => ({ ...e, cable: k.id })))
      for (const [i, a] of ends.entries())
        for (const b of ends.slice(i + 1)) {
          // Travellers change places without harm, and a core of the same cable for the other half of a pair likewise.
          const pair = a.conductor.role === 'traveller' && b.conductor.role === 'traveller'
          if (a.signal === b.signal || pair || made_.get(a.name) === made_.get(b.name) || a.cable !== b.cable) continue
          if (a.signal === null || b.signal === null || eitherWay(record, a, b)) continue
          const to = (end: string) => (end === a.name ? made_.get(b.name)! : end === b.name ? made_.get(a.name)! : made_.get(end)!)
          const bench = { ...box.bench, ends: box.bench.ends.map((e) => ({ ...e, to: to(e.end) })) }
          expect(said(drawn(record, box, bench)), `${box.id}: ${a.name} and ${b.name} exchanged`).not.toEqual([])
          planted++
        }
    }
  })
})
it('plants at least 60', () => {
  console.log(`planted wiring mistakes: ${planted}, all found`)
  expect(planted).toBeGreaterThanOrEqual(60)
})
