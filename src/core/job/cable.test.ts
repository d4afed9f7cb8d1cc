import { describe, expect, it } from 'vitest'
import { after, made, placed, type Short } from '../../../tests/support/shorthand'
import type { Installation } from '../installation/installation'
import { EditError } from './edits'
import { noPlace } from './box'
import { newPoint } from './point'

/** The cables of a circuit, as their ends. */
const cables = (job: Installation, circuit = 'c1'): string[] =>
  job.record.cables.filter((k) => k.circuit === circuit).map((k) => `${k.from.id} > ${k.to.id}`)
const add = (...points: Parameters<typeof placed>[]): Short => ({
  kind: 'circuit-point.add',
  circuit: 'c1',
  points: points.map((p) => placed(...p)),
})
const chain = () =>
  made('united-kingdom', add(['a', 'A', { lengthM: 4 }], ['b', 'B', { from: 'a', lengthM: 5 }], ['c', 'C', { from: 'b', lengthM: 6 }]))
const ring = () => {
  const job = made(
    'united-kingdom',
    { kind: 'circuit.set', circuit: 'c1', patch: { kind: 'ring' } },
    add(['a', 'A'], ['b', 'B'], ['c', 'C']),
  )
  return after(job, { kind: 'run.set', circuit: 'c1', patch: { closeM: 9 } })
}
const refusal = (job: Installation, edit: Short): { path: string; message: string } => {
  try {
    after(job, edit)
  } catch (e) {
    if (e instanceof EditError) return e
    throw e
  }
  throw new Error('it was taken')
}

describe('the cables of a circuit', () => {
  it('begin as one, from the board to the point that the circuit is for', () => {
    const job = made('united-kingdom')
    expect(cables(job)).toEqual(['main > end-c1'])
    expect(job.circuits[0]!.end).toMatchObject({ id: 'end-c1', state: 'new' })
    expect(job.circuits[0]!.points).toEqual([])
  })

  it('pass the points in their order, each once; the point without a name gives way to them', () => {
    const job = chain()
    expect(cables(job)).toEqual(['main > a', 'a > b', 'b > c'])
    expect(job.points.map((p) => p.id)).toEqual(['a', 'b', 'c'])
    expect(job.circuits[0]!.points.map((p) => [p.id, p.from, p.lengthM])).toEqual([
      ['a', null, 4],
      ['b', 'a', 5],
      ['c', 'b', 6],
    ])
  })

  it('close up where a point is taken out, and begin again where none is left', () => {
    const without = after(chain(), { kind: 'circuit-point.remove', circuit: 'c1', id: 'b' })
    expect(cables(without)).toEqual(['main > a', 'a > c'])
    const bare = after(
      without,
      { kind: 'circuit-point.remove', circuit: 'c1', id: 'c' },
      { kind: 'circuit-point.remove', circuit: 'c1', id: 'a' },
    )
    expect(cables(bare)).toEqual(['main > end-c1'])
  })

  it('of a ring lead back to the board; from another point the way back is of unknown length', () => {
    const job = ring()
    expect(cables(job)).toEqual(['main > a', 'a > b', 'b > c', 'c > main'])
    expect(job.circuits[0]!.closeM).toBe(9)
    const more = after(job, add(['d', 'D']))
    expect(cables(more)).toEqual(['main > a', 'a > b', 'b > c', 'c > d', 'd > main'])
    expect(more.circuits[0]!.closeM).toBeNull()
    // What stays where it was keeps its length.
    expect(more.circuits[0]!.points.map((p) => p.lengthM)).toEqual([...job.circuits[0]!.points.map((p) => p.lengthM), null])
    const moved = after(more, { kind: 'circuit-point.move', circuit: 'c1', id: 'd', to: 0 })
    expect(cables(moved)).toEqual(['main > d', 'd > a', 'a > b', 'b > c', 'c > main'])
    expect(moved.circuits[0]!.points.map((p) => p.from)).toEqual([null, null, null, null])
  })

  it('of a spur are fed from the ring and are not part of it', () => {
    const job = after(ring(), add(['s', 'Spur', { from: 'b', lengthM: 3 }]))
    expect(cables(job)).toEqual(['main > a', 'a > b', 'b > c', 'b > s', 'c > main'])
    expect(job.circuits[0]!.points.find((p) => p.id === 's')!.from).toBe('b')
  })

  it('of a ring opened are a chain, and closed again a ring', () => {
    const opened = after(ring(), { kind: 'circuit.set', circuit: 'c1', patch: { kind: 'radial' } })
    expect(cables(opened)).toEqual(['main > a', 'a > b', 'b > c'])
    expect(opened.circuits[0]!.points.map((p) => p.from)).toEqual([null, 'a', 'b'])
  })

  it('leave from the way the circuit is given, and from the board again when that is gone', () => {
    const given = after(chain(), { kind: 'circuit.set', circuit: 'c1', patch: { way: '3' } })
    const [way] = given.record.circuits[0]!.ways
    expect(cables(given)[0]).toBe(`${way} > a`)
    expect(given.newWays).toMatchObject([{ id: way, position: 3, state: 'new' }])
    const gone = after(given, { kind: 'way.remove', id: way! })
    expect(cables(gone)[0]).toBe('main > a')
    expect(gone.circuits[0]!.way).toBe('')
  })

  it('cannot lead back to themselves, whatever is asked', () => {
    expect(refusal(chain(), { kind: 'circuit-point.set', circuit: 'c1', id: 'a', patch: { from: 'c' } }).path).toBe('patch.from')
    const extend = (from: string) => ({ kind: 'extend' as const, from, words: 'there', reason: '', at: '2026-11-20T08:00:00.000Z' })
    const choose = (from: string): Short => ({ kind: 'source.choose', circuit: 'c1', source: extend(from), design: {} })
    expect(refusal(chain(), choose('b')).message).toMatch(/passes this point itself/)
    const old: Short = { kind: 'point.add', points: [{ ...blank('old'), room: '' }] }
    expect(refusal(after(ring(), old), choose('old')).message).toMatch(/^A ring leaves a board/)
    const fromOld = after(chain(), old, choose('old'))
    expect(cables(fromOld)[0]).toBe('old > a')
    expect(refusal(fromOld, { kind: 'circuit.set', circuit: 'c1', patch: { kind: 'ring' } }).path).toBe('patch.kind')
    expect(
      refusal(fromOld, { kind: 'circuit-point.take', circuit: 'c1', points: [{ id: 'old', from: null, lengthM: 1 }] }).message,
    ).toMatch(/takes its power from this point/)
  })

  it('begin at the board where the point they went on from is taken away', () => {
    const old: Short = { kind: 'point.add', points: [{ ...blank('old'), room: '' }] }
    const source = { kind: 'extend' as const, from: 'old', words: 'there', reason: '', at: '2026-11-20T08:00:00.000Z' }
    const job = after(chain(), old, { kind: 'source.choose', circuit: 'c1', source, design: {} })
    const away = after(job, { kind: 'point.set', id: 'old', patch: { state: 'removed' } })
    expect(cables(away)[0]).toBe('main > a')
    expect(cables(after(job, { kind: 'point.remove', id: 'old' }))[0]).toBe('main > a')
  })

  it('pass a point that is there without making a second of it', () => {
    const old: Short = { kind: 'point.add', points: [{ ...blank('old', 'Back wall'), room: 'Store' }] }
    const job = after(chain(), old, { kind: 'circuit-point.take', circuit: 'c1', points: [{ id: 'old', from: 'c', lengthM: 7 }] })
    expect(cables(job).at(-1)).toBe('c > old')
    expect(job.points.filter((p) => p.id === 'old')).toHaveLength(1)
    expect(job.circuits[0]!.points.at(-1)).toMatchObject({ name: 'Back wall', state: 'existing', lengthM: 7 })
    expect(refusal(job, { kind: 'circuit-point.take', circuit: 'c1', points: [{ id: 'old', from: null, lengthM: 1 }] }).message).toMatch(
      /already/,
    )
    // Taken off again it is there as it was.
    const off = after(job, { kind: 'circuit-point.remove', circuit: 'c1', id: 'old' })
    expect(off.points.find((p) => p.id === 'old')).toMatchObject({ name: 'Back wall', state: 'existing' })
    expect(off.circuitOfPoint.has('old')).toBe(false)
  })
})

describe('a feeder', () => {
  const feeder = () => made('united-kingdom', { kind: 'circuit.add', id: 'f', name: 'Shed', of: 'feeder' })

  it('ends on a board of its own, which goes with it', () => {
    const job = feeder()
    expect(cables(job, 'f')).toEqual(['main > board-f'])
    expect(job.record.boards.map((b) => [b.id, b.state])).toEqual([
      ['main', 'existing'],
      ['board-f', 'new'],
    ])
    const on = after(job, { kind: 'circuit.set', circuit: 'c1', patch: { feeder: 'f' } })
    expect(cables(on)).toEqual(['board-f > end-c1'])
    expect(on.circuits[0]!.feeder).toBe('f')
    const gone = after(on, { kind: 'circuit.remove', circuit: 'f' })
    expect(gone.record.boards.map((b) => b.id)).toEqual(['main'])
    expect(cables(gone)).toEqual(['main > end-c1'])
  })

  it('is never fed by its own board, by no way round', () => {
    expect(refusal(feeder(), { kind: 'circuit.connect', circuit: 'f', board: 'board-f' }).path).toBe('board')
    const two = after(
      feeder(),
      { kind: 'circuit.add', id: 'g', name: 'Loft', of: 'feeder' },
      { kind: 'circuit.connect', circuit: 'g', board: 'board-f' },
    )
    expect(refusal(two, { kind: 'circuit.connect', circuit: 'f', board: 'board-g' }).message).toMatch(/fed by its own board/)
  })

  it('takes the devices of its board with it', () => {
    const item = { id: 'd', board: 'board-f', name: 'RCD', ratingA: 63, tripMa: 30, type: 'A' as const, delayed: false }
    const job = after(feeder(), { kind: 'residual-device.add', item })
    expect(after(job, { kind: 'circuit.remove', circuit: 'f' }).residualDevices).toEqual([])
  })
})

function blank(id: string, name = id) {
  const { box: _, ...point } = newPoint(id, name)
  return { ...point, ...noPlace }
}
