import { describe, expect, it } from 'vitest'
import { read } from '../../installation/installation'
import { cableM } from '../cable'
import { faultIn } from '../check'
import { jobSchema } from '../schema'
import { fromVersion2 } from './bring-up'
import { newCircuit, newCircuitPoint, newJob, newSegment, type Circuit, type Job } from './version-2'

type Survey = Job['survey']
const job2 = (survey: Partial<Survey>, ...circuits: Circuit[]): Job => {
  const job = newJob('united-kingdom', 'Hall', 'Village hall')
  return { ...job, survey: { ...job.survey, ...survey }, circuits: circuits.length ? circuits : job.circuits }
}
const circuit = (more: Partial<Circuit>, id = 'c1'): Circuit => ({ ...newCircuit('united-kingdom', id, `Circuit ${id}`), ...more })
const design = (of: Circuit, more: Partial<Circuit['designs'][number]>): Circuit => ({ ...of, designs: [{ ...of.designs[0]!, ...more }] })
const brought = (job: Job) => {
  const before = structuredClone(job)
  const after = fromVersion2(job)
  expect(job).toEqual(before)
  expect(jobSchema.safeParse(after).error).toBeUndefined()
  expect(faultIn(after)).toBeNull()
  return after
}
const way = (id: string, position: number, more: Partial<Survey['ways'][number]> = {}): Survey['ways'][number] => ({
  id,
  board: 'main',
  label: `Way ${position}`,
  ratingA: 20,
  poles: 1,
  curve: 'B',
  position,
  half: null,
  kind: 'circuit',
  shape: 'unknown',
  ahead: false,
  guard: 'unknown',
  bar: null,
  ...more,
})
const point = (id: string, more: Partial<Survey['points'][number]> = {}): Survey['points'][number] => ({
  id,
  name: id.toUpperCase(),
  room: 'Hall',
  kind: 'outlet',
  heightMm: null,
  watts: 500,
  appliance: null,
  condition: null,
  hidden: false,
  mustHold: false,
  planned: false,
  cable: '',
  ...more,
})

describe('a document of version 2', () => {
  it('says of no space that it is free: twenty spaces were a number', () => {
    const [main] = job2({}).survey.boards
    const { boards } = brought(job2({ boards: [{ ...main!, spaces: 20 }] }))
    expect(boards).toMatchObject([{ id: 'main', spaces: 20, free: null }])
  })

  it('keeps points as they were listed, their rooms by name once, what was planned as new', () => {
    const job = brought(job2({ points: [point('a'), point('b', { planned: true }), point('c', { room: '' })] }))
    expect(job.rooms.map((r) => r.name)).toEqual(['Hall'])
    expect(
      job.points.filter((p) => 'abc'.includes(p.id)).map((p) => [p.id, p.state, job.boxes.find((b) => b.id === p.box)!.room === null]),
    ).toEqual([
      ['a', 'existing', false],
      ['b', 'new', false],
      ['c', 'existing', true],
    ])
    expect(read(job).points[0]!.room).toBe('Hall')
  })

  it('lays a circuit along its points, with the box of what is at each', () => {
    const points = [
      newCircuitPoint('p', 'Left', { lengthM: 5 }),
      newCircuitPoint('q', 'Right', { from: 'p', lengthM: null, accessory: 'uk-fcu', outlets: 0 }),
    ]
    const fused = { box: { kind: 'uk-metal-25', cables: 2, internalClamps: null, supportFittings: 0 }, done: ['dead'] }
    const one = circuit({
      points,
      box: { kind: 'uk-metal-35', cables: 1, internalClamps: null, supportFittings: 0 },
      ends: { 'uk-fcu': fused },
    })
    const job = brought(job2({}, design(one, { accessory: 'uk-socket-13' })))
    expect(job.cables.map((k) => [k.from.id, k.to.id, k.lengthM])).toEqual([
      ['main', 'p', 5],
      ['p', 'q', null],
    ])
    expect(job.boxes.map((b) => [b.id, b.kind, b.done])).toEqual([
      ['p', 'uk-metal-35', []],
      ['q', 'uk-metal-25', ['dead']],
    ])
  })

  it('gives one load at the end of one run the cables that its box was said to hold, its own not counted twice', () => {
    const one = circuit({ box: { kind: 'uk-metal-35', cables: 3, internalClamps: null, supportFittings: 0 } })
    const job = brought(job2({}, design(one, { lengthM: 12 })))
    expect(job.boxes).toMatchObject([{ id: 'end-c1', kind: 'uk-metal-35', others: 2 }])
    expect(job.cables).toMatchObject([{ lengthM: 12, circuit: 'c1' }])
  })

  it('closes a ring by its way back, and divides a run of stretches at a joint', () => {
    const points = [newCircuitPoint('p', 'P', { lengthM: 5 }), newCircuitPoint('q', 'Q', { lengthM: 6 })]
    const ring = brought(job2({}, circuit({ kind: 'ring', points, closeM: 7 })))
    expect(ring.cables.map((k) => `${k.from.id} > ${k.to.id} ${k.lengthM}`)).toEqual(['main > p 5', 'p > q 6', 'q > main 7'])
    const plain = circuit({ points })
    const segments = [{ ...newSegment(plain.designs[0]!, 's1'), lengthM: 10 }]
    const divided = brought(job2({}, design(plain, { segments })))
    expect(divided.cables.map((k) => `${k.from.id} > ${k.to.id}`)).toEqual(['main > c1-joint', 'c1-joint > p', 'c1-joint > q'])
    expect(divided.cables[0]!.stretches).toMatchObject([{ id: 's1', lengthM: 10 }])
    // How far the first point lies from the last stretch was not said: it is not known, and not nothing.
    const one = (lengthM: number | null, parts = segments) =>
      brought(job2({}, design({ ...plain, kind: 'radial', points: [{ ...plain.points[0]!, lengthM }] }, { segments: parts }))).cables[0]!
    expect([cableM(one(3)), cableM(one(null))]).toEqual([13, null])
    const most = Array.from({ length: 20 }, (_, i) => ({ ...segments[0]!, id: `s${i}` }))
    expect([cableM(one(3, most)), cableM(one(null, most))]).toEqual([203, null])
    expect(divided.points.find((p) => p.id === 'c1-joint')).toMatchObject({ kind: 'box', watts: 0 })
  })

  it('finds the way of an altered circuit by its place, and makes a new one for a new circuit', () => {
    const ways = [way('w3', 3, { guard: 'none' })]
    const altered = brought(job2({ ways }, circuit({ work: 'altered', way: '3' })))
    expect(altered.circuits[0]!.ways).toEqual(['w3'])
    expect(altered.ways).toHaveLength(1)
    const fresh = brought(job2({ ways }, circuit({ way: '5' })))
    expect(fresh.ways).toMatchObject([{ id: 'w3' }, { position: 5, state: 'new', ratingA: null }])
    expect(brought(job2({ ways }, circuit({ way: '' }))).circuits[0]!.ways).toEqual([])
  })

  it('leads what continues from a point from that point', () => {
    const source = { kind: 'extend' as const, from: 'a', words: 'there', reason: '', at: '2026-11-20T08:00:00.000Z' }
    const job = brought(job2({ points: [point('a')] }, circuit({ source })))
    expect(job.cables[0]!.from).toEqual({ kind: 'point', id: 'a' })
    // A point that is gone leaves where it began unknown.
    expect(brought(job2({}, circuit({ source }))).circuits[0]!.source).toBeNull()
  })

  it('puts a feeder’s board at its end and the circuits fed by it behind that', () => {
    const job = brought(job2({}, circuit({ kind: 'feeder' }, 'f'), circuit({ feeder: 'f' }, 'c2')))
    expect(job.boards.map((b) => [b.id, b.state])).toEqual([
      ['main', 'existing'],
      ['board-f', 'new'],
    ])
    expect(read(job).circuits.map((c) => [c.id, c.board, c.feeder])).toEqual([
      ['f', 'main', null],
      ['c2', 'board-f', 'f'],
    ])
  })

  it('looks at no point with a test that was made before it was listed', () => {
    const seen = { kind: 'breaker-off' as const, breaker: 'w3', dead: ['a'] }
    const sighting = { id: 's', at: '2026-11-20T08:00:00.000Z', instrument: 'contact' as const, withdrawn: false, seen, looked: ['a', 'b'] }
    const survey = { ways: [way('w3', 3)], points: [point('a'), point('b'), point('late')], sightings: [sighting] }
    expect(brought(job2(survey)).observations).toMatchObject([{ id: 's', later: ['late'] }])
    expect(brought(job2({ ...survey, sightings: [{ ...sighting, looked: null }] })).observations[0]!.later).toEqual([])
  })

  it('keeps apart points of one name in several lists', () => {
    const job = brought(job2({ points: [point('p')] }, circuit({ points: [newCircuitPoint('p', 'P')] })))
    expect(job.points.map((p) => p.id)).toEqual(['p', 'c1-p'])
  })

  it('names nothing that is not there: a device that is gone is not known', () => {
    const job = brought(job2({ ways: [way('w3', 3, { guard: 'lost', bar: 'lost' })] }))
    expect(job.ways).toMatchObject([{ residual: 'unknown', bar: null }])
  })
})
