import { describe, expect, it } from 'vitest'
import { accessoriesFor } from '../catalogue/accessories'
import { device, devices, insides } from '../catalogue/devices'
import { demoJobs } from '../demo/demo'
import { inCircuit } from '../demo/kit'
import { evaluate } from '../evaluate/evaluate'
import { read } from '../installation/installation'
import { type BenchRecord, faultOfBench, madeOff } from '../job/bench'
import { applyEdit, type Edit } from '../job/edits'
import { newBoard, newWay } from '../job/board'
import { blankPoint } from '../job/point'
import { type Job, newJob } from '../job/schema'
import { network } from '../network/network'
import { type RegionId, regionIds } from '../region/types'
import { worlds } from '../region/worlds'
import { carriedIn, checkBox, checkLive } from './check'
import { houseOf } from './house'
import { noTrial, positionKey, type Trial } from './laid'
import { liveOf } from './live'

const made = (edits: readonly Edit[], from: Job): Job => edits.reduce((job, e) => applyEdit(job, e).job, from)
const demos = demoJobs.map((d) => made(d.edits, newJob(d.region, d.title, d.place)))

/** A job solved: its boxes, what each outlet shows, and what is said of each box. */
function opened(record: Job, trial: Partial<Trial> = {}) {
  const job = read(record)
  const house = houseOf(job, evaluate(job, []).circuits, { ...noTrial, ...trial })
  const live = liveOf(house)
  const carried = carriedIn(house)
  const { lineV } = worlds[job.region]
  const findings = house.boxes.flatMap((b) => [...checkBox(job, b, carried), ...checkLive(house, live, b, lineV)])
  const box = (point: string) => house.boxes.find((b) => b.id === point)!
  const outlet = (id: string) => live.outlets[id]!
  return { job, house, live, findings, box, outlet, rules: findings.map((f) => f.rule), lineV }
}
const allOn = (record: Job): Trial['positions'] => {
  const { house } = opened(record)
  return Object.fromEntries(
    house.boxes.flatMap((b) => b.devices.flatMap((d) => d.kind.actuators.map((a) => [positionKey(b.id, d.id, a.id), 1] as const))),
  )
}
/** One conductor of a box moved, as a hand does it. */
const moved = (record: Job, point: string, ...moves: readonly (readonly [end: string, to: string | null])[]): Job => {
  const box = opened(record).box(point)
  return made(
    [{ kind: 'bench.take', box: point, bench: moves.reduce((b: BenchRecord, [end, to]) => madeOff(b, end, to), box.bench) }],
    record,
  )
}

const first: Readonly<Record<RegionId, { outlet: string; switch: string; light: string; twoWay: string; fan: string; prefix: string }>> = {
  'north-america': {
    outlet: 'na-duplex-15',
    switch: 'na-switch-1p',
    light: 'na-light',
    twoWay: 'na-two-way',
    fan: 'na-fan-light',
    prefix: 'na',
  },
  'united-kingdom': {
    outlet: 'uk-socket-13',
    switch: 'uk-switch-1p',
    light: 'uk-light',
    twoWay: 'uk-two-way',
    fan: 'uk-fan-light',
    prefix: 'uk',
  },
  'southern-africa': {
    outlet: 'za-socket-16',
    switch: 'za-switch-1p',
    light: 'za-light',
    twoWay: 'za-two-way',
    fan: 'za-fan-light',
    prefix: 'za',
  },
}
const c1 = inCircuit('c1')
type Laid = Extract<Edit, { kind: 'circuit-point.add' }>['points'][number]
/** A circuit of lights or outlets in a world, along these points. */
function lit(region: RegionId, ...points: readonly Laid[]): Job {
  const { lineV } = worlds[region]
  return made(
    [
      { kind: 'supply.set', patch: { zeOhm: 0.3, earthing: region === 'north-america' ? null : 'tn-s' } } as Edit,
      c1.load({ name: 'Lights', volts: lineV, basis: 'watts', amount: 200, connection: 'fixed', lighting: true }),
      c1.points(...points),
      c1.design({ accessory: first[region].switch }),
      c1.run({ lengthM: 12 }),
    ],
    newJob(region, 'Bench', ''),
  )
}
const chain = (region: RegionId): Job =>
  lit(
    region,
    { id: 'a', name: 'By the door', lengthM: 12, kind: 'switch', outlets: 0, watts: 0 },
    { id: 'b', name: 'By the stair', from: 'a', lengthM: 6, kind: 'switch', outlets: 0, watts: 0 },
    { id: 'l', name: 'Ceiling', from: 'b', lengthM: 4, kind: 'light', outlets: 0, watts: 60 },
  )

describe('a box wired the usual way', () => {
  it('is sound in every demo job: nothing is wrong, every outlet works, every end is made off', () => {
    let boxes = 0
    for (const record of demos) {
      const { findings, house, live } = opened(record, { positions: allOn(record) })
      expect(findings.filter((f) => f.severity !== 'note')).toEqual([])
      expect(live.trips).toEqual([])
      boxes += house.boxes.length
      for (const o of house.outlets) {
        expect(live.outlets[o.id]!.across, o.name).toBeGreaterThan(0.9 * worlds[record.region].lineV)
        expect(live.outlets[o.id]!.earthed, o.name).toBe(true)
      }
      for (const b of house.boxes) {
        const ends = b.cables.flatMap((k) => k.ends.map((e) => e.name))
        expect(new Set(b.bench.ends.map((e) => e.end))).toEqual(
          new Set([...ends, ...b.bench.tails.flatMap((t) => [`${t.id} a`, `${t.id} b`])]),
        )
        expect(faultOfBench(record.region, b.bench)).toBeNull()
      }
    }
    expect(boxes).toBeGreaterThan(20)
  })
  it.each(regionIds)('is sound for every accessory in %s, alone and with two cables that go on', (region) => {
    for (const a of accessoriesFor(region)) {
      const across = a.system === 'line-neutral' ? 1 : 2
      const base = made(
        [
          c1.load({ name: 'Load', volts: across * worlds[region].lineV, basis: 'watts', amount: 1000, connection: 'fixed' }),
          c1.points(
            { id: 'p', name: 'Here', lengthM: 10, watts: 400, accessory: a.id },
            { id: 'q', name: 'Further', from: 'p', lengthM: 5, watts: 300 },
            { id: 'r', name: 'Beyond', from: 'p', lengthM: 5, watts: 300 },
          ),
          c1.design({ accessory: a.id }),
          c1.run({ lengthM: 10 }),
        ],
        newJob(region, 'Bench', ''),
      )
      const { findings, house } = opened(base, { positions: allOn(base) })
      if (house.boxes.length === 0) continue
      const bad = findings.filter((f) => f.severity !== 'note' && f.rule !== 'terminal-small')
      expect(bad.map((f) => `${a.id}: ${f.message}`)).toEqual([])
    }
  })
  it('says what it reckons with where a length, a load or the loop is not known', () => {
    const record = made([{ kind: 'cable.set', id: 'to-b', patch: { lengthM: null } }], chain('united-kingdom'))
    const { house } = opened(made([{ kind: 'supply.set', patch: { zeOhm: null } }], record))
    expect(house.notes.join(' ')).toMatch(/a length is not entered; 10 m is assumed/)
    expect(house.notes.join(' ')).toMatch(/loop impedance of the supply was not measured/)
    const none = opened(made([{ kind: 'circuit.add', id: 'c9', name: 'Bare' }], demos[0]!))
    expect(none.house.notes.join(' ')).toMatch(/Bare is not in it/)
  })
})

describe('which line', () => {
  it('a way is on follows from its space, every second space down the board', () => {
    const plain = lit('north-america', { id: 'p', name: 'Outlet', lengthM: 12, accessory: 'na-duplex-15', watts: 0 })
    const lineOf = (way: string) => {
      const { house } = opened(made([{ kind: 'circuit.connect', circuit: 'c1', way }], plain))
      const breaker = house.input.elements.find((e) => e.id === 'breaker c1')!
      return breaker.kind === 'breaker' && breaker.poles[0]!.line.slice(-2)
    }
    expect(['1', '2', '3', '4', '5', '6', '7'].map(lineOf)).toEqual(['L1', 'L1', 'L2', 'L2', 'L1', 'L1', 'L2'])
    expect(opened(plain).house.notes.join(' ')).toMatch(/its space is not known/)
  })
})

describe('what is there already', () => {
  const alive = (record: Job, outlet: string) => opened(record).outlet(outlet)
  it('a sub-board that is there feeds what leaves it, and is said to be taken as having no impedance', () => {
    const plain = lit('united-kingdom', { id: 'p', name: 'Outlet', lengthM: 12, accessory: 'uk-socket-13', watts: 0 })
    const sub = made(
      [
        { kind: 'way.add', way: newWay('w', 'Shed', { kind: 'feeder', ratingA: 40 }) },
        { kind: 'board.add', item: newBoard('shed', { name: 'Shed', fedFrom: 'w' }) },
        { kind: 'circuit.connect', circuit: 'c1', board: 'shed' },
      ],
      plain,
    )
    expect(alive(sub, 'p d1 socket-1').across).toBeGreaterThan(220)
    expect(opened(sub).house.notes.join(' ')).toMatch(/Shed: its feeder is taken as having no impedance/)
  })
  it('a circuit that begins at a point that is there is alive, and says what is not known before it', () => {
    const plain = lit('united-kingdom', { id: 'p', name: 'Outlet', lengthM: 12, accessory: 'uk-socket-13', watts: 0 })
    const from = made([{ kind: 'point.add', points: [blankPoint('old', 'Old outlet', { state: 'existing' })] }], plain)
    const begun: Job = { ...from, cables: from.cables.map((k) => (k.id === 'to-p' ? { ...k, from: { kind: 'point', id: 'old' } } : k)) }
    expect(alive(begun, 'p d1 socket-1').across).toBeGreaterThan(220)
    expect(opened(begun).house.notes.join(' ')).toMatch(/the cable ahead of the point it is fed from/)
  })
})

describe('the network of all boxes', () => {
  it('gives the resistance of line and protective conductor that the design says: two ways to one number', () => {
    let held = 0
    for (const record of demos) {
      const job = read(record)
      const report = evaluate(job, [])
      const house = houseOf(job, report.circuits, noTrial)
      for (const { circuit, tests } of report.circuits) {
        const expected = tests.find((t) => t.id === 'continuity-protective')?.expect
        const boxes = house.boxes.filter((b) => b.points.some((p) => p.circuit === circuit.id))
        // Lamps are a way for the meter too; circuits that have some are read by hand with them out.
        const lamps = house.outlets.some((o) => !o.socket && boxes.some((b) => b.points.some((p) => p.id === o.point)))
        if (expected?.kind !== 'range' || expected.nominal === null || boxes.length === 0 || lamps || circuit.kind === 'ring') continue
        const feeds = boxes.map((b) => ({ b, feed: b.cables.find((k) => k.side === 'feed')!.id }))
        const from = house.switching.find((w) => w.element === `breaker ${circuit.id}`)!.element
        const breaker = house.input.elements.find((e) => e.id === from)!
        const line = breaker.kind === 'breaker' ? breaker.poles[0]!.load : ''
        const probes = feeds.flatMap(({ b, feed }) => [
          { id: `l ${b.id}`, kind: 'ohms' as const, a: line, b: `${b.id}|${feed} line` },
          { id: `e ${b.id}`, kind: 'ohms' as const, a: `${circuit.board}|PE`, b: `${b.id}|${feed} pe` },
        ])
        const read = network({ ...house.input, state: { open: [from] }, probes }).probes
        const far = Math.max(...feeds.map(({ b }) => Number(read[`l ${b.id}`]) + Number(read[`e ${b.id}`])))
        held++
        expect(far, circuit.name).toBeCloseTo(expected.nominal, 6)
      }
    }
    expect(held).toBeGreaterThan(5)
  })
})

describe('one conductor moved', () => {
  const wheel = demos[0]!
  const gfci = 'end-c2'
  it('line and load exchanged: its own outlets live and unguarded, and put right again', () => {
    const wrong = moved(wheel, gfci, ['to-end-c2 line', 'd1 LOAD HOT'], ['to-end-c2 neutral', 'd1 LOAD N'])
    const { findings, outlet } = opened(wrong)
    expect(outlet('end-c2 d1 socket-1')).toMatchObject({ guardedBy: [] })
    expect(outlet('end-c2 d1 socket-1').across).toBeGreaterThan(115)
    expect(findings.filter((f) => f.rule === 'guards-nothing')).toHaveLength(2)
    const right = opened(made([{ kind: 'bench.drop', box: gfci }], wrong))
    expect(right.outlet('end-c2 d1 socket-1').guardedBy).toEqual(['end-c2 d1 0'])
    expect(right.rules).not.toContain('guards-nothing')
  })
  it('is said of the job where a box was wired by hand, at the stage of the wiring, and of no box wired the usual way', () => {
    const wiring = (record: Job) => evaluate(record, []).stages.find((s) => s.id === 'wiring')!.findings
    expect(wiring(wheel)).toEqual([])
    const wrong = moved(wheel, gfci, ['to-end-c2 line', 'd1 LOAD HOT'], ['to-end-c2 neutral', 'd1 LOAD N'])
    expect(wiring(wrong)).toMatchObject([{ rule: 'guard-bypassed', severity: 'error', circuit: 'c2' }])
    expect(wiring(moved(wheel, gfci, ['to-end-c2 pe', null])).map((f) => f.rule)).toContain('no-earth')
    expect(wiring(moved(wheel, gfci))).toEqual([])
  })
  it.each(regionIds)('%s: polarity, an open neutral, a lost earth, a line on the earth', (region) => {
    const plain = lit(region, { id: 'p', name: 'Outlet', lengthM: 12, accessory: first[region].outlet, watts: 0 })
    const { box, lineV } = opened(plain)
    const to = (role: string) => box('p').bench.ends.find((e) => e.end === `to-p ${role}`)!.to
    const socket = opened(plain).house.outlets[0]!.id
    const swapped = opened(moved(plain, 'p', ['to-p line', to('neutral')], ['to-p neutral', to('line')]))
    expect(swapped.rules).toContain('reversed')
    const open = opened(moved(plain, 'p', ['to-p neutral', 'cap']))
    expect(open.rules).toContain('one-side-open')
    expect(open.outlet(socket)).toMatchObject({ other: null, across: 0 })
    const bare = opened(moved(plain, 'p', ['to-p pe', null]))
    expect(bare.findings.find((f) => f.rule === 'end-open')?.severity).toBe('error')
    expect(bare.rules).toContain('no-earth')
    // Without its earth, a line on the metal trips nothing and stays alive.
    const touching = opened(moved(plain, 'p', ['to-p pe', 'cap'], ['to-p line', to('pe')]))
    expect(touching.rules).toContain('metal-live')
    expect(touching.live.trips).toEqual([])
    // With it, what is before it opens at once, and then it is dead.
    const short = opened(moved(plain, 'p', ['to-p line', to('pe')]))
    expect(short.live.trips).toHaveLength(1)
    expect(short.live.trips[0]!.toS).toBeLessThanOrEqual(0.1)
    expect(short.outlet(socket).line ?? 0).toBeLessThan(lineV / 10)
  })
  it('a residual outlet that guards a second one: both guarded; fed on its load side, its own is not', () => {
    const two = made(
      [
        c1.load({ name: 'Outlets', volts: 120, basis: 'watts', amount: 300, connection: 'plug' }),
        c1.points(
          { id: 'g', name: 'First', lengthM: 10, accessory: 'na-gfci-15', guardsOn: true, watts: 0 },
          { id: 'h', name: 'Second', from: 'g', lengthM: 4, accessory: 'na-duplex-15', watts: 0 },
        ),
        c1.design({ accessory: 'na-duplex-15' }),
        c1.run({ lengthM: 10 }),
      ],
      newJob('north-america', 'Two', ''),
    )
    const right = opened(two)
    expect(right.outlet('g d1 socket-1').guardedBy).toEqual(['g d1 0'])
    expect(right.outlet('h d1 upper').guardedBy).toEqual(['g d1 0'])
    // The feed on LOAD, what continues from LINE: alive, the first unguarded.
    const swapped = moved(
      two,
      'g',
      ['to-g line', 'd1 LOAD HOT'],
      ['to-g neutral', 'd1 LOAD N'],
      ['to-h line', 'd1 LINE HOT'],
      ['to-h neutral', 'd1 LINE N'],
    )
    expect(opened(swapped).outlet('g d1 socket-1')).toMatchObject({ guardedBy: [] })
    expect(opened(swapped).outlet('h d1 upper').across).toBeGreaterThan(115)
    // Both on LINE: what is fed beyond is alive and guarded by nothing.
    const passed = opened(moved(two, 'g', ['to-h line', 'd1 LINE HOT'], ['to-h neutral', 'd1 LINE N']))
    expect(passed.outlet('h d1 upper')).toMatchObject({ guardedBy: [] })
    expect(passed.rules).toContain('terminal-full')
    // The neutral of what is fed beyond on LINE and its line on LOAD: it trips as soon as something is plugged in there.
    const mixed = moved(two, 'g', ['to-h neutral', 'd1 LINE N'])
    expect(opened(mixed).live.trips).toEqual([])
    expect(opened(mixed, { plugged: { 'h d1 upper': 100 } }).live.trips).toMatchObject([{ id: 'g d1 0', cause: 'residual' }])
  })
  it('a loose screw under load turns watts to heat, none without load', () => {
    const cabinet = demos[2]!
    const node = 'end-c1|to-end-c1 line'
    const loaded = opened(cabinet, { loose: [node], plugged: { 'end-c1 d1 socket-1': 1500 } })
    const amps = 1500 / 230
    expect(loaded.live.hot[node]).toBeGreaterThan(0.85 * amps * amps * 1.5)
    expect(loaded.rules).toContain('screw-hot')
    expect(opened(cabinet, { loose: [node] }).rules).not.toContain('screw-hot')
  })
  it('neutrals of two circuits joined are named, and what is before one of them trips', () => {
    // Two circuits of lights that meet in one box: the second borrows the neutral of the first on its way back.
    const c2 = inCircuit('c2')
    const both = made(
      [
        { kind: 'circuit.add', id: 'c2', name: 'Other' },
        c2.load({ name: 'Other', volts: 230, basis: 'watts', amount: 200, connection: 'fixed', lighting: true }),
        c2.points({ id: 'x', name: 'Other light', lengthM: 9, kind: 'light', outlets: 0, watts: 100 }),
        c2.design({ accessory: 'uk-switch-1p', residual: { at: 'board', ma: 30, type: 'A' } }),
        c2.run({ lengthM: 9 }),
      ],
      lit('united-kingdom', { id: 'l', name: 'Light', lengthM: 9, kind: 'light', outlets: 0, watts: 100 }),
    )
    expect(opened(both).live.trips).toEqual([])
    const meets = {
      ...both,
      cables: [...both.cables, { ...both.cables.find((k) => k.id === 'to-x')!, id: 'shared', to: { kind: 'point' as const, id: 'l' } }],
    }
    const { box } = opened(meets)
    const bench = { ...box('l').bench }
    const neutral = bench.ends.find((e) => e.end === 'to-l neutral')!.to
    const joined = opened(made([{ kind: 'bench.take', box: 'l', bench: madeOff(bench, 'shared neutral', neutral) }], meets))
    expect(joined.rules).toContain('neutrals-joined')
    expect(joined.live.trips.some((t) => t.cause === 'residual')).toBe(true)
  })
})

describe('switched legs', () => {
  it.each(regionIds)('%s: a switch before a light puts it out, and one in the neutral leaves it live', (region) => {
    const one = lit(
      region,
      { id: 's', name: 'Switch', lengthM: 9, kind: 'switch', outlets: 0, watts: 0 },
      { id: 'l', name: 'Light', from: 's', lengthM: 4, kind: 'light', outlets: 0, watts: 60 },
    )
    const lamp = 'l d1 lamp'
    expect(opened(one).outlet(lamp).watts).toBe(0)
    expect(opened(one, { positions: allOn(one) }).outlet(lamp).watts).toBeGreaterThan(50)
    expect(opened(one).rules).not.toContain('off-yet-live')
    // At the switch, the line goes straight on and the neutral through it.
    const { box } = opened(one)
    const { bench, devices } = box('s')
    const poles = devices[0]!.kind.inside.find((x) => x.kind === 'pole')!
    const [from, to] = poles.kind === 'pole' ? poles.joins[1]! : ['', '']
    const connector = bench.connectors[0]?.id
    const wrong: BenchRecord = {
      ...bench,
      connectors: [...bench.connectors, { id: 'j9', kind: 'lever-2' }],
      ends: [
        ...bench.ends.filter((e) => !/ (line|neutral)$/.test(e.end) && e.to !== connector),
        ...bench.ends.filter((e) => e.end.endsWith(' pe') && e.to === connector),
        { end: 'to-s line', to: 'j9' },
        { end: 'to-l line', to: 'j9' },
        { end: 'to-s neutral', to: `d1 ${from}` },
        { end: 'to-l neutral', to: `d1 ${to}` },
      ],
    }
    const off = opened(made([{ kind: 'bench.take', box: 's', bench: wrong }], one))
    expect(off.outlet(lamp).watts).toBeLessThan(1)
    expect(off.rules).toContain('off-yet-live')
  })

  it.each(regionIds)('%s: a two-way pair on three cores changes the light from either end', (region) => {
    const { twoWay } = first[region]
    const strung = made([{ kind: 'cable.set', id: 'to-b', patch: { cores: 'three' } }], chain(region))
    const at = (point: string): BenchRecord => {
      const { cables } = opened(strung).box(point)
      const pes = cables.flatMap((k) => k.ends.flatMap((e) => (e.core === 'pe' ? [{ end: e.name, to: 'e1' }] : [])))
      const wired = (ends: readonly (readonly [string, string])[], more: Partial<BenchRecord> = {}): BenchRecord => ({
        devices: [{ id: 'd1', kind: twoWay, broken: [] }],
        connectors: [
          { id: 'e1', kind: 'lever-5' },
          { id: 'n1', kind: 'lever-3' },
        ],
        tails: [{ id: 't1', colour: 'green' }],
        ends: [...pes, { end: 't1 a', to: 'e1' }, { end: 't1 b', to: 'd1 e' }, ...ends.map(([end, to]) => ({ end, to }))],
        marked: [],
        ...more,
      })
      // The line goes to the common of the first, two strappers between them, the common of the second to the light.
      return point === 'a'
        ? wired([
            ['to-a line', 'd1 com'],
            ['to-a neutral', 'n1'],
            ['to-b neutral', 'n1'],
            ['to-b line', 'd1 one'],
            ['to-b line-2', 'd1 two'],
          ])
        : wired([
            ['to-b neutral', 'n1'],
            ['to-l neutral', 'n1'],
            ['to-b line', 'd1 one'],
            ['to-b line-2', 'd1 two'],
            ['to-l line', 'd1 com'],
          ])
    }
    const pair = made(
      ['a', 'b'].map((point): Edit => ({ kind: 'bench.take', box: point, bench: at(point) })),
      strung,
    )
    for (const x of [0, 1])
      for (const y of [0, 1]) {
        const seen = opened(pair, { positions: { 'a d1 main': x, 'b d1 main': y } })
        expect(seen.outlet('l d1 lamp').watts > 50).toBe(x === y)
        expect(seen.findings.filter((f) => f.severity === 'error')).toEqual([])
      }
    // A strapper on the common of the second: from one end it works, from the other it does not.
    const crossed = moved(pair, 'b', ['to-b line', 'd1 com'], ['to-l line', 'd1 one'])
    const states = [0, 1].flatMap((x) =>
      [0, 1].map((y) => opened(crossed, { positions: { 'a d1 main': x, 'b d1 main': y } }).outlet('l d1 lamp').watts > 50),
    )
    expect(states.filter(Boolean)).toHaveLength(1)
  })

  it.each(regionIds)('%s: fan and light on three cores are switched apart', (region) => {
    const { prefix, fan } = first[region]
    const two = made(
      [{ kind: 'cable.set', id: 'to-l', patch: { cores: 'three' } }],
      lit(
        region,
        { id: 's', name: 'Two switches', lengthM: 9, kind: 'switch', outlets: 0, watts: 0 },
        { id: 'l', name: 'Fan', from: 's', lengthM: 4, kind: 'light', outlets: 0, watts: 110 },
      ),
    )
    const ends = (list: readonly (readonly [string, string])[]) => list.map(([end, to]) => ({ end, to }))
    const record = made(
      [
        {
          kind: 'bench.take',
          box: 's',
          bench: {
            devices: [{ id: 'd1', kind: `${prefix}-two-switches`, broken: [] }],
            connectors: [
              { id: 'n', kind: 'lever-2' },
              { id: 'e', kind: 'lever-3' },
            ],
            tails: [{ id: 't', colour: 'green' }],
            ends: ends([
              ['to-s line', 'd1 com'],
              ['to-l line', 'd1 one'],
              ['to-l line-2', 'd1 two'],
              ['to-s neutral', 'n'],
              ['to-l neutral', 'n'],
              ['to-s pe', 'e'],
              ['to-l pe', 'e'],
              ['t a', 'e'],
              ['t b', 'd1 e'],
            ]),
            marked: [],
          },
        },
        {
          kind: 'bench.take',
          box: 'l',
          bench: {
            devices: [{ id: 'd1', kind: fan, broken: [] }],
            connectors: [],
            tails: [],
            ends: ends([
              ['to-l line', 'd1 fan'],
              ['to-l line-2', 'd1 l'],
              ['to-l neutral', 'd1 n'],
              ['to-l pe', 'd1 e'],
            ]),
            marked: [],
          },
        },
      ],
      two,
    )
    const on = (positions: Record<string, number>) => {
      const { outlet, findings } = opened(record, { positions })
      expect(findings.filter((f) => f.severity === 'error')).toEqual([])
      return [outlet('l d1 fan').watts > 30, outlet('l d1 lamp').watts > 30]
    }
    expect(on({})).toEqual([false, false])
    expect(on({ 's d1 first': 1 })).toEqual([true, false])
    expect(on({ 's d1 second': 1 })).toEqual([false, true])
    expect(on({ 's d1 first': 1, 's d1 second': 1 })).toEqual([true, true])
  })

  it('a tab left in ties a switched half to one that is live all the time; broken out, they part', () => {
    const plain = lit('north-america', { id: 'p', name: 'Half switched', lengthM: 12, accessory: 'na-duplex-15', watts: 0 })
    const lower = (record: Job) => opened(record).outlet('p d1 lower')
    expect(lower(plain).across).toBeGreaterThan(115)
    const { box } = opened(plain)
    const out = made(
      [
        {
          kind: 'bench.take',
          box: 'p',
          bench: { ...box('p').bench, devices: [{ id: 'd1', kind: 'na-duplex-15', broken: ['hot-tab'] }] },
        },
      ],
      plain,
    )
    expect(lower(out)).toMatchObject({ across: 0, line: null })
    expect(opened(out).outlet('p d1 upper').across).toBeGreaterThan(115)
  })
})

describe('an isolator with numbers', () => {
  it('passes nothing until somebody tested it, and then what the test says', () => {
    const plain = lit('united-kingdom', { id: 'p', name: 'Isolator', lengthM: 12, kind: 'fixed', accessory: 'uk-dp-20', watts: 900 })
    const { box } = opened(plain)
    const wired = (pairing?: number): Job =>
      made(
        [
          {
            kind: 'bench.take',
            box: 'p',
            bench: {
              devices: [{ id: 'd1', kind: 'uk-numbered', broken: [], ...(pairing === undefined ? {} : { pairing }) }],
              connectors: [],
              tails: [],
              ends: [
                ['to-p line', 'd1 1'],
                ['to-p neutral', 'd1 2'],
                ['to-p pe', 'd1 e'],
                ['load-p line', 'd1 3'],
                ['load-p neutral', 'd1 4'],
                ['load-p pe', 'd1 e'],
              ].map(([end, to]) => ({ end: end!, to: to! })),
              marked: [],
            },
          },
        ],
        plain,
      )
    expect(box('p').cables.map((k) => k.side)).toEqual(['feed', 'load'])
    const on = { positions: { 'p d1 main': 1 } }
    const power = (pairing?: number) => opened(wired(pairing), on).outlet('p appliance').watts
    expect(power()).toBe(0)
    expect(opened(wired()).rules).toContain('numbers-unknown')
    expect(power(1)).toBeGreaterThan(800)
    expect(opened(wired(1)).outlet('p appliance').watts).toBe(0)
    // Numbered the other way, these very connections short line and neutral.
    expect(opened(wired(0), on).live.trips.length).toBeGreaterThan(0)
  })
})

describe('joints', () => {
  const plain = chain('north-america')
  const say = (point: string, change: (b: BenchRecord) => BenchRecord) => {
    const { box } = opened(plain)
    return opened(made([{ kind: 'bench.take', box: point, bench: change(box(point).bench) }], plain)).findings.filter(
      (f) => f.point === point,
    )
  }
  it('a screw for one conductor does not take two, a connector no more than it has ways', () => {
    const { box } = opened(plain)
    const on = box('a').bench.ends.find((e) => e.end === 'to-a line')!.to
    expect(say('a', (b) => madeOff(b, 'to-b line', on)).map((f) => f.rule)).toContain('terminal-full')
    const joint = (kind: 'lever-2' | 'lever-3') => say('a', (b) => ({ ...b, connectors: b.connectors.map((c) => ({ ...c, kind })) }))
    expect(joint('lever-3').map((f) => f.rule)).not.toContain('connector-full')
    expect(joint('lever-2').map((f) => f.rule)).toContain('connector-full')
  })
  it('an end that lies loose is asked for, and is live where it is', () => {
    const rules = say('a', (b) => madeOff(b, 'to-a line', null)).map((f) => f.rule)
    expect(rules).toContain('end-open')
    expect(rules).toContain('bare-live')
    expect(say('a', (b) => madeOff(b, 'to-a line', 'cap')).map((f) => f.rule)).not.toContain('end-open')
  })
  it('white that carries a line is marked, and bare copper never carries one', () => {
    const through = (end: string) => (b: BenchRecord) => madeOff(madeOff(b, end, 'd1 SW'), 'to-b line', 'cap')
    expect(say('a', through('to-b neutral')).map((f) => f.rule)).toContain('mark-line')
    const marked = (b: BenchRecord) => ({ ...through('to-b neutral')(b), marked: ['to-b neutral'] })
    // Marked at this end; the other end of the same core still asks for its mark.
    expect(say('a', marked).map((f) => f.rule)).not.toContain('mark-line')
    expect(say('a', through('to-b pe')).map((f) => f.rule)).toContain('earth-core-live')
  })
  it('refuses what names nothing of the box', () => {
    const { bench } = opened(plain).box('a')
    const refused = (b: BenchRecord) => () => made([{ kind: 'bench.take', box: 'a', bench: b }], plain)
    expect(refused({ ...bench, ends: [...bench.ends, { end: 'x y', to: 'nowhere' }] })).toThrow(/no nowhere in this box/)
    expect(refused({ ...bench, devices: [{ id: 'd1', kind: 'uk-two-way', broken: [] }] })).toThrow(/not listed/)
    expect(refused({ ...bench, connectors: [...bench.connectors, { id: 'd1', kind: 'lever-2' }] })).toThrow(/one name/)
    expect(() => made([{ kind: 'bench.connect', box: 'a', end: 'to-a line', to: null }], plain)).toThrow(/standard wiring/)
  })
})

describe('devices', () => {
  it('name only terminals they have, each once, and say what a hand moves', () => {
    for (const d of devices) {
      const ids = d.terminals.map((t) => t.id)
      expect(new Set(ids).size, d.id).toBe(ids.length)
      const actuators = new Set(d.actuators.map((a) => a.id))
      const named = d.inside.flatMap((x): string[] => {
        if (x.kind === 'pole') {
          expect(actuators.has(x.by), d.id).toBe(true)
          expect(d.actuators.find((a) => a.id === x.by)!.positions, d.id).toHaveLength(x.joins.length)
          return x.joins.flatMap((j) => j ?? [])
        }
        if (x.kind === 'numbered') return x.ways.flat(2)
        if (x.kind === 'residual') return x.poles.flatMap((p) => [p.line, p.load])
        if (x.kind === 'socket') return [x.line, x.other, ...(x.earth ? [x.earth] : [])]
        return [x.a, x.b]
      })
      for (const n of named) expect([...ids, ...Object.values(insides)], `${d.id} ${n}`).toContain(n)
      expect(d.inside.length, d.id).toBeGreaterThan(0)
    }
    expect(device('na-gfci-20')!.inside.some((x) => x.kind === 'residual')).toBe(true)
  })
})
