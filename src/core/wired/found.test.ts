import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { read } from '../installation/installation'
import { newBoard, newResidualDevice, newWay } from '../job/board'
import { applyEdit, type Edit } from '../job/edits'
import { blankPoint } from '../job/point'
import { type Job, newJob } from '../job/schema'
import { type RegionId, regionIds } from '../region/types'
import { worlds } from '../region/worlds'
import { houseOf } from './house'
import { isolating } from './isolate'
import { noTrial, type Trial } from './laid'
import { liveOf } from './live'

const at = '2026-11-02T08:00:00.000Z'
const made = (edits: readonly Edit[], from: Job): Job => edits.reduce((job, e) => applyEdit(job, e).job, from)
const sees = (id: string, breaker: string, dead: string[]): Edit => ({
  kind: 'observation.add',
  items: [{ id, at, instrument: 'contact', withdrawn: false, seen: { kind: 'breaker-off', breaker, dead } }],
})
/** A board of two ways, three points of which two were traced, and a new circuit of one outlet. */
function house(region: RegionId, ...more: readonly Edit[]): Job {
  const accessory = { 'north-america': 'na-duplex-15', 'united-kingdom': 'uk-socket-13', 'southern-africa': 'za-socket-16' }[region]
  return made(
    [
      { kind: 'supply.set', patch: { zeOhm: 0.3, earthing: region === 'north-america' ? null : 'tn-s' } } as Edit,
      { kind: 'board.set', id: 'main', patch: { mainSwitch: 'double-pole', mainA: 63 } } as Edit,
      { kind: 'way.add', way: newWay('a', 'Lights', { ratingA: 6, position: 1 }) },
      { kind: 'way.add', way: newWay('b', 'Pump', { ratingA: null, position: 2 }) },
      { kind: 'point.add', points: ['x', 'y', 'z'].map((id) => blankPoint(id, `Place ${id}`, { watts: 100, mustHold: id === 'y' })) },
      sees('o1', 'a', ['x']),
      { kind: 'load.set', circuit: 'c1', patch: { amount: 500, volts: worlds[region].lineV, basis: 'watts' } } as Edit,
      { kind: 'design.set', circuit: 'c1', design: 'a', patch: { accessory } } as Edit,
      { kind: 'run.set', circuit: 'c1', patch: { lengthM: 12 } } as Edit,
      ...more,
    ],
    newJob(region, 'House', ''),
  )
}
function solved(record: Job, trial: Partial<Trial> = {}) {
  const job = read(record)
  const circuits = evaluate(job, []).circuits
  const all = houseOf(job, circuits, { ...noTrial, ...trial })
  const live = liveOf(all)
  const volts = (point: string) => live.potentials[all.found.points.find((p) => p.point === point)!.line] ?? 0
  return { job, circuits, house: all, live, volts }
}

describe('what is there, as far as it was traced', () => {
  for (const region of regionIds)
    it(`is alive on its way and dead with it off: ${region}`, () => {
      const { lineV } = worlds[region]
      const { volts, house: all } = solved(house(region))
      expect(volts('x')).toBeCloseTo(lineV, 0)
      // What died with nothing is on the other way only if somebody tried that: until then it is neither.
      expect(all.found.untraced.map((u) => u.id)).toEqual(['y', 'z'])
      expect(all.notes.join(' ')).toMatch(/2 points that are there are on no traced circuit/)
      expect(solved(house(region), { open: ['breaker way a'] }).volts('x')).toBeLessThan(1)
      expect(solved(house(region), { open: ['main'] }).volts('x')).toBeLessThan(1)
      const both = solved(house(region, sees('o2', 'b', ['y', 'z'])))
      expect(both.house.found.untraced).toEqual([])
      expect(both.volts('y')).toBeCloseTo(lineV, 0)
    })
  it('trips nothing whose rating was not read, draws only when that is tried, and what is too much opens its breaker', () => {
    const loaded = house(
      'united-kingdom',
      sees('o2', 'b', ['y', 'z']),
      { kind: 'point.set', id: 'x', patch: { watts: 4000 } } as Edit,
      {
        kind: 'point.set',
        id: 'y',
        patch: { watts: 9000 },
      } as Edit,
    )
    expect(solved(loaded).live.trips).toEqual([])
    const drawing = solved(loaded, { drawing: true })
    expect(drawing.live.trips.map((t) => t.id)).toEqual(['breaker way a'])
    expect(drawing.house.notes.join(' ')).toContain('Pump: its circuit-breaker was not read')
  })
  it('behind a residual device of which trip current not read is fed, and the device is not taken to trip', () => {
    const device = newResidualDevice('d', 'Front', { tripMa: null })
    const { volts, house: all } = solved(
      house('united-kingdom', { kind: 'residual-device.add', item: device }, {
        kind: 'way.set',
        id: 'a',
        patch: { residual: 'd' },
      } as Edit),
    )
    expect(volts('x')).toBeCloseTo(230, 0)
    expect(all.notes).toContain('Front: trip current not read, so it is assumed not to trip.')
    expect(all.input.elements.find((e) => e.id === 'rcd d')!.kind).toBe('switch')
  })
  it('on a sub-board dies with the way that feeds it', () => {
    const edits: Edit[] = [
      { kind: 'way.set', id: 'b', patch: { kind: 'feeder' } } as Edit,
      { kind: 'board.add', item: newBoard('shed', { name: 'Shed', fedFrom: 'b' }) },
      { kind: 'way.add', way: newWay('s', 'Shed lights', { board: 'shed', ratingA: 6 }) },
      sees('o3', 's', ['y', 'z']),
    ]
    const record = house('united-kingdom', ...edits)
    expect(solved(record).volts('z')).toBeGreaterThan(200)
    expect(solved(record, { open: ['breaker way b'] }).volts('z')).toBeLessThan(1)
    expect(solved(record, { open: ['breaker way b'] }).volts('x')).toBeGreaterThan(200)
  })
})

describe('isolating', () => {
  const asked = (record: Job, points: readonly string[], boards: readonly string[] = []) => {
    const job = read(record)
    return isolating(job, evaluate(job, []).circuits, { points, boards })
  }
  const names = (record: Job, points: readonly string[], boards: readonly string[] = []) =>
    asked(record, points, boards).opens?.map((s) => s.element)
  const all = house('united-kingdom', sees('o2', 'b', ['y', 'z']))
  it('opens the one breaker of what is worked at, and nothing that need not be', () => {
    expect(names(all, ['x'])).toEqual(['breaker way a'])
    expect(asked(all, ['x']).loses).toEqual(['x'])
    expect(names(all, ['x', 'y'])).toEqual(['breaker way a', 'breaker way b'])
    expect(names(all, ['end-c1'])).toEqual(['breaker c1'])
  })
  it('of a board opens the main, which all loses power with', () => {
    const whole = asked(all, [], ['main'])
    expect(whole.opens!.map((s) => s.element)).toEqual(['main'])
    expect(whole.loses).toEqual(expect.arrayContaining(['x', 'y', 'z']))
    expect([...whole.ways]).toEqual(
      expect.arrayContaining([
        ['main', 'opened'],
        ['a', 'dead'],
        ['b', 'dead'],
      ]),
    )
  })
  it('says what stays alive ahead of the main, and that nothing isolates what no device does', () => {
    const ahead = made([{ kind: 'way.set', id: 'b', patch: { ahead: true } } as Edit], all)
    const whole = asked(ahead, [], ['main'])
    expect(whole.ways.get('b')).toBe('live')
    expect(whole.loses).not.toContain('y')
    expect(names(ahead, ['y'])).toEqual(['breaker way b'])
    expect(asked(all, ['nowhere'])).toMatchObject({ opens: null, missing: ['nowhere'] })
  })
  it('opens another source that feeds the board, too, and says nothing of a place not traced', () => {
    const sun = made([{ kind: 'way.set', id: 'b', patch: { kind: 'source' } } as Edit], house('united-kingdom'))
    expect(names(sun, [], ['main'])).toEqual(['main', 'breaker way b'])
    // x is on the first way; what is only left over is on none, and is named.
    expect(asked(house('united-kingdom'), ['x', 'z'])).toMatchObject({ missing: ['z'], untraced: ['y', 'z'] })
    expect(names(house('united-kingdom'), ['z'])).toBeUndefined()
  })
  it('takes what a short pulls down for alive all the same', () => {
    const shorted = made(
      [
        {
          kind: 'bench.take',
          box: 'end-c1',
          bench: (() => {
            const { boxes } = solved(all).house
            const { bench } = boxes.find((b) => b.id === 'end-c1')!
            const neutral = bench.ends.find((e) => e.end.endsWith(' neutral'))!.to
            return { ...bench, ends: bench.ends.map((e) => (e.end.endsWith(' line') ? { ...e, to: neutral } : e)) }
          })(),
        } as Edit,
      ],
      all,
    )
    // Line and neutral meet there: what reaches its box is its own breaker’s, and the neutral of all others hangs on it.
    expect(names(shorted, ['end-c1'])).toContain('breaker c1')
    expect(names(shorted, ['x'])).toEqual(expect.arrayContaining(['breaker c1', 'breaker way a']))
  })
  it('leaves nothing alive at any place of work of the demo jobs, whatever switch is how, and cannot do with less', () => {
    for (const d of demoJobs) {
      const record = d.edits.reduce<Job>((job, e) => applyEdit(job, e).job, newJob(d.region, d.title, d.place))
      const job = read(record)
      const { circuits } = evaluate(job, [])
      const first = houseOf(job, circuits, noTrial)
      for (const box of first.boxes) {
        const { opens } = isolating(job, circuits, { points: [box.id], boards: [] })
        expect(opens, box.name).not.toBeNull()
        const alive = (open: readonly string[]) => {
          const { potentials } = liveOf(houseOf(job, circuits, { ...noTrial, open }))
          return Object.entries(potentials).some(([node, v]) => node.startsWith(`${box.id}|`) && (v ?? 0) > 50)
        }
        const open = opens!.map((s) => s.element)
        expect(alive(open), box.name).toBe(false)
        if (alive([])) for (const o of open) expect(alive(open.filter((x) => x !== o)), `${box.name} without ${o}`).toBe(true)
      }
    }
  })
})
