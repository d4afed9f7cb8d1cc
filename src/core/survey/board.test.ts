import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { boardDrawing } from '../drawing/board'
import { evaluate } from '../evaluate/evaluate'
import { after, applyShort as applyEdit, type Short as Edit } from '../../../tests/support/shorthand'
import type { Installation as Job } from '../installation/installation'
import { newJob, placed } from '../../../tests/support/shorthand'
import type { RegionId } from '../region/types'
import { pairOf } from '../job/circuit'
import { doorSchedule } from '../documents/door'
import { legOf, notLookedAt, unreadOn } from './board'
import { type Board, newBoard, newWay, type Way } from '../job/board'
import { blankPoint } from '../job/point'
import { serviceDemand } from './service'
import { serviceFindings } from '../rules/board'

const put = (id: string, position: number | null, more: Partial<Way> = {}): Edit => ({
  kind: 'way.add',
  way: newWay(id, id, { ratingA: 20, position, residual: 'none', ...more }),
})
const make = (region: RegionId, spaces: number | null, ...edits: Edit[]): Job =>
  [
    {
      kind: 'board.set',
      id: 'main',
      patch: {
        spaces,
        free: spaces === null ? null : Array.from({ length: spaces }, (_, i) => i + 1),
        mainA: 100,
        mainSwitch: 'double-pole',
      },
    } as Edit,
    ...edits,
  ].reduce((job, e) => applyEdit(job, e).job, newJob(region, 'x', ''))
const reportOf = (job: Job) => evaluate(job, []).boards[0]!
const rulesOf = (job: Job) => reportOf(job).findings.map((f) => f.rule)
const demo = (i: number): Job => demoJobs[i]!.edits.reduce((job, e) => applyEdit(job, e).job, newJob(demoJobs[i]!.region, 'x', ''))

describe('spaces of a panel', () => {
  it('alternate legs row by row', () => {
    expect([1, 2, 3, 4, 5, 6].map(legOf).join('')).toBe('AABBAA')
    expect(pairOf('north-america', 2)).toBe(4)
    expect(pairOf('united-kingdom', 2)).toBe(3)
  })

  it('are free where nothing is, two-pole breakers taking two', () => {
    const { free, pair } = reportOf(make('north-america', 8, put('a', 1, { poles: 2 }), put('b', 2)))
    expect(free).toEqual([4, 5, 6, 7, 8])
    expect(pair).toEqual({ pair: [4, 6], moves: [] })
  })

  it('are not known while a place is not noted or the spaces are not counted', () => {
    expect(reportOf(make('north-america', 8, put('a', null)))).toMatchObject({
      free: null,
      pair: null,
      noPair: expect.stringContaining('place of 1'),
    })
    expect(reportOf(make('north-america', null, put('a', 1))).noPair).toContain('count the spaces')
  })

  it('are brought side by side by the fewest moves', () => {
    // Free: 3 and 6. Moving what is in 1, 5 (left of 3) or 2, 4 … one move makes a pair.
    const job = make('north-america', 6, put('a', 1), put('b', 2), put('c', 4), put('d', 5))
    const { pair } = reportOf(job)
    expect(pair!.moves).toHaveLength(1)
    const moved = applyEdit(job, { kind: 'way.set', id: pair!.moves[0]!.way.id, patch: { position: pair!.moves[0]!.to } }).job
    expect(reportOf(moved).pair).toEqual({ pair: pair!.pair, moves: [] })
  })

  it('cannot be paired past what may not be moved', () => {
    expect(reportOf(make('north-america', 4, put('a', 1, { kind: 'feeder' }), put('b', 4, { kind: 'feeder' })))).toMatchObject({
      pair: null,
      free: [2, 3],
      noPair: expect.stringContaining('cannot be brought'),
    })
    expect(reportOf(make('north-america', 2, put('a', 1), put('b', 2))).noPair).toBe('no space is free')
  })
})

describe('what is wrong in a board', () => {
  it('two ways in one space, unless they are the halves of a tandem', () => {
    expect(rulesOf(make('north-america', 8, put('a', 1), put('b', 1)))).toContain('space-taken-twice')
    expect(rulesOf(make('north-america', 8, put('a', 1, { half: 'a' }), put('b', 1, { half: 'b' })))).not.toContain('space-taken-twice')
    expect(rulesOf(make('north-america', 8, put('a', 1, { half: 'a' }), put('b', 1, { half: 'a' })))).toContain('space-taken-twice')
    expect(rulesOf(make('north-america', 8, put('a', 1, { half: 'a', poles: 2 })))).toContain('tandem-two-pole')
  })

  it('a place beyond the board', () => {
    expect(rulesOf(make('united-kingdom', 6, put('a', 9)))).toContain('space-beyond-board')
    expect(rulesOf(make('united-kingdom', 6, put('a', 6)))).toEqual([])
  })

  it('a neutral on another bar than its device’s; where that is not known it is not said to be right', () => {
    const guard: Edit = {
      kind: 'residual-device.add',
      item: { id: 'g', board: 'main', name: 'Earth leakage', ratingA: 63, tripMa: 30, type: null, delayed: null },
    }
    const on = (guardOf: string, bar: string | null) => rulesOf(make('southern-africa', 8, guard, put('a', 1, { residual: guardOf, bar })))
    expect(on('g', 'main')).toContain('wrong-neutral-bar')
    expect(on('none', 'g')).toContain('wrong-neutral-bar')
    expect(on('g', 'g')).toEqual([])
    expect(on('own', 'main')).toEqual([])
    expect(on('unknown', 'g')).toEqual(['neutral-bar-unknown'])
    expect(on('g', null)).toEqual([])
  })

  it('the honey house has just that one', () => {
    const report = reportOf(demo(2))
    expect(report.findings.map((f) => f.rule)).toEqual(['wrong-neutral-bar'])
    expect(report.findings[0]!.message).toContain('Plugs, store')
  })
})

describe('the board at once', () => {
  it('says what stays live with the main off', () => {
    const one = make('united-kingdom', 8, put('a', 1, { ahead: true }))
    const single = applyEdit(one, { kind: 'board.set', id: 'main', patch: { mainSwitch: 'single-pole' } }).job
    expect(reportOf(single).liveWithMainOff.join(' ')).toMatch(/neutral stays joined/)
    expect(reportOf(one).liveWithMainOff.join(' ')).toContain('a')
    expect(rulesOf(applyEdit(one, { kind: 'board.set', id: 'main', patch: { mainSwitch: 'unknown' } }).job)).toContain(
      'main-switch-unknown',
    )
  })

  it('knows the service’s spare once its facts are there, and asks for them before', () => {
    const unrecorded = applyEdit(demo(0), { kind: 'survey.set', patch: { demand: { ...demo(0).demand, recordedA: null } } }).job
    const job = applyEdit(unrecorded, { kind: 'brief.set', patch: { premises: 'dwelling' } }).job
    const { result } = serviceDemand(job)
    // 33 × 130 + 4500 + 5760 + 600 + 2700 + 1100 VA: 8 kVA whole and 40 % of the rest, at 240 V.
    expect(result!.demandA).toBeCloseTo((8000 + 0.4 * (33 * 130 + 4500 + 5760 + 600 + 2700 + 1100 - 8000)) / 240, 6)
    const dwelling = (region: RegionId) => applyEdit(make(region, 8), { kind: 'brief.set', patch: { premises: 'dwelling' } }).job
    expect(serviceDemand(dwelling('north-america'))).toMatchObject({ ask: 'the floor area', asks: 'floorArea' })
    expect(serviceDemand(make('north-america', 8))).toMatchObject({ ask: 'what kind of premises it is', asks: 'premises' })
    expect(serviceDemand(newJob('united-kingdom', 'x', ''))).toMatchObject({ ask: expect.stringContaining('main switch'), asks: 'main' })
    expect(serviceDemand(dwelling('southern-africa')).result).toBeNull()
    // A workshop has no published allowance: all that is connected counts whole, and is enough only where it fits.
    const workshop = (mainA: number) =>
      after(
        unrecorded,
        { kind: 'point.set', id: 'p2', patch: { watts: 0 } },
        { kind: 'point.set', id: 'p15', patch: { watts: 0 } },
        { kind: 'way.set', id: 'w3', patch: { kind: 'spare' } },
        { kind: 'way.set', id: 'w4', patch: { kind: 'spare' } },
        { kind: 'board.set', id: 'main', patch: { mainA } },
      )
    expect(serviceDemand(workshop(200)).result!.demandA).toBeCloseTo(
      (600 + 300 + 1400 + 500 + 100 + 100 + 900 + 200 + 4500 + 60 + 5760 + 600 + 300 + 2700 + 1100) / 240,
      6,
    )
    expect(serviceDemand(workshop(60)).result).toBeNull()
  })

  it('is not known while the board was not looked at', () => {
    const set: Edit[] = [
      { kind: 'brief.set', patch: { premises: 'workshop' } },
      { kind: 'board.set', id: 'main', patch: { mainA: 100, free: null } },
      { kind: 'load.set', circuit: 'c1', patch: { amount: 500, volts: 120 } },
    ]
    expect(serviceDemand(after(make('north-america', 8), ...set))).toMatchObject({ result: null, asks: 'ways' })
    const looked: Edit = { kind: 'board.set', id: 'main', patch: { free: [3] } }
    expect(serviceDemand(after(make('north-america', 8), ...set, looked)).result!.spareA).toBeGreaterThan(97)
  })

  it('is not known while a load that counts is not, unless what is known is too much already', () => {
    const house = (region: RegionId, ...more: Edit[]) =>
      after(
        make(region, 8),
        { kind: 'brief.set', patch: { premises: 'dwelling' } },
        { kind: 'survey.set', patch: { demand: { ...demo(0).demand, recordedA: null, floorAreaM2: 130 } } },
        { kind: 'load.set', circuit: 'c1', patch: { amount: 2400, volts: region === 'north-america' ? 240 : 230, connection: 'fixed' } },
        ...more,
      )
    const point = (kind: 'fixed' | 'light' | 'outlet', watts: number | null): Edit => ({
      kind: 'point.add',
      points: [blankPoint(`${kind}${watts}`, kind, { kind, watts })],
    })
    for (const region of ['north-america', 'united-kingdom'] as const) {
      const known = serviceDemand(house(region, point('fixed', 1000)))
      expect(known.result!.spareA, region).toBeGreaterThan(0)
      expect(serviceDemand(house(region, point('fixed', 1000), point('outlet', null))).result, region).toEqual(known.result)
      const open = serviceDemand(house(region, point('fixed', 1000), point('fixed', null)))
      expect(open, region).toMatchObject({ result: null, ask: 'the load of 1 point', asks: 'pointLoads' })
      const much = house(region, point('fixed', 90_000), point('fixed', null))
      expect(serviceDemand(much).result!.spareA, region).toBeLessThan(0)
      expect(serviceDemand(house(region, { kind: 'load.set', circuit: 'c1', patch: { amount: null } })), region).toMatchObject({
        ask: expect.stringMatching(/^the load of \S/),
        asks: 'load',
      })
    }
    // Floor area counts lighting by itself; diversity by the lamps.
    expect(serviceDemand(house('north-america', point('light', null))).result).not.toBeNull()
    expect(serviceDemand(house('united-kingdom', point('light', null))).ask).toBe('the load of 1 point')
    // What was recorded holds all that is there, known or not, and nothing that comes.
    const recorded = { kind: 'survey.set', patch: { demand: { ...demo(0).demand, recordedA: 20 } } } as const
    expect(serviceDemand(house('united-kingdom', point('fixed', null), recorded)).result).not.toBeNull()
    // Its parts add up to it, in volt-amperes at 240 V, the record with its quarter more (220.87).
    const { demandA, parts } = serviceDemand(house('north-america', recorded)).result!
    expect(parts[0]).toMatchObject({ what: 'highest demand recorded', connected: 20 * 240, counted: 1.25 * 20 * 240 })
    expect(parts.reduce((sum, p) => sum + p.counted, 0) / 240).toBeCloseTo(demandA, 9)
    const none = { kind: 'load.set', circuit: 'c1', patch: { amount: null } } as const
    expect(serviceDemand(house('united-kingdom', recorded, none)).ask).toMatch(/^the load of /)
  })

  it('is not known while what is on a breaker is not recorded, where that may be more than is reckoned', () => {
    const premises = (kind: 'dwelling' | 'workshop'): Edit => ({ kind: 'brief.set', patch: { premises: kind } })
    const area: Edit = { kind: 'survey.set', patch: { demand: { ...demo(0).demand, recordedA: null, floorAreaM2: 130 } } }
    const small: Edit = { kind: 'load.set', circuit: 'c1', patch: { amount: 500, volts: 230 } }
    const of = (region: RegionId, ...edits: Edit[]) => serviceDemand(after(make(region, 8), small, ...edits))
    const mainOf = (mainA: number): Edit => ({ kind: 'board.set', id: 'main', patch: { mainA } })
    // A main that all its breakers together do not reach is judged without.
    const ask = (region: RegionId, ...edits: Edit[]) => of(region, mainOf(region === 'north-america' ? 50 : 30), ...edits).ask
    const seen = (breaker: string, instrument: 'contact' | 'told', dead: string[] = []): Edit => ({
      kind: 'observation.add',
      items: [
        { id: `o-${breaker}`, at: '2026-11-14T12:00:00.000Z', instrument, withdrawn: false, seen: { kind: 'breaker-off', breaker, dead } },
      ],
    })
    const lamp: Edit = { kind: 'point.add', points: [blankPoint('lamp', 'Lamp', { watts: 60 })] }
    for (const region of ['north-america', 'united-kingdom', 'southern-africa'] as const) {
      const shop = [premises('workshop'), put('Lathe', 1, { ratingA: 50 })]
      expect(ask(region, ...shop), region).toBe('the loads on Lathe')
      // Traced is what hangs there, once a point is listed.
      const low = mainOf(region === 'north-america' ? 50 : 30)
      expect(of(region, low, ...shop).asks, region).toBe('pointLoads')
      expect(of(region, low, ...shop, lamp, seen('Lathe', 'told')).asks, region).toBe('behindWays')
      expect(ask(region, ...shop, put('Kiln', 3)), region).toBe('the loads on 2 breakers')
      // Switched off, and nothing died; or a point there was reported on it.
      expect(ask(region, ...shop, lamp, seen('Lathe', 'contact')), region).toBeNull()
      expect(ask(region, ...shop, lamp, seen('Lathe', 'told', ['lamp'])), region).toBeNull()
      expect(ask(region, ...shop, lamp, seen('Lathe', 'told')), region).toBe('the loads on Lathe')
      // The lamp is left over for it, since it died with no other: that does not say what else does.
      const leftOver = of(region, low, ...shop, put('Kiln', 3), lamp, seen('Kiln', 'contact'))
      expect([leftOver.ask, leftOver.asks], region).toEqual(['the loads on Lathe', 'behindWays'])
      for (const kind of ['spare', 'feeder', 'source'] as const)
        expect(ask(region, premises('workshop'), put('x', 1, { kind })), region).toBeNull()
    }
    // By floor area lights and outlets are in it; an appliance across two lines is not.
    const house = [premises('dwelling'), area]
    expect(ask('north-america', ...house, put('Outlets', 1))).toBeNull()
    expect(ask('north-america', ...house, put('Dryer', 1, { poles: 2, ratingA: 40 }))).toBe('the loads on Dryer')
    // By diversity a ring counts by its device, where that was read.
    expect(ask('united-kingdom', ...house, put('Ring', 1, { shape: 'ring', ratingA: 32 }))).toBeNull()
    expect(ask('united-kingdom', ...house, put('Ring', 1, { shape: 'ring', ratingA: null }))).toBe('the loads on Ring')
    expect(ask('united-kingdom', ...house, put('Shower', 1, { ratingA: 40 }))).toBe('the loads on Shower')
    // What its breakers let through is the most it can be: where even that is held, it is counted so, and said.
    for (const region of ['north-america', 'united-kingdom', 'southern-africa'] as const) {
      const shop = [premises('workshop'), put('Lathe', 1, { ratingA: 20 }), put('Kiln', 3, { ratingA: 40 })]
      const volts = region === 'north-america' ? 240 : 230
      const { result } = of(region, mainOf(80), ...shop)
      // The lathe is on one line and the kiln on the other.
      const most = region === 'north-america' ? 40 : 60
      expect(result?.demandA, region).toBeCloseTo(most + 500 / volts, 9)
      const unit = region === 'north-america' ? volts : 1
      expect(result?.parts.map((p) => [p.what, p.connected, p.counted])).toEqual([
        ['all that is connected', expect.closeTo((unit * 500) / volts, 9), expect.closeTo((unit * 500) / volts, 9)],
        ['circuits that were not checked, by their breakers', most * unit, most * unit],
      ])
      expect(of(region, mainOf(most), ...shop), region).toMatchObject({
        result: null,
        ask: 'the loads on 2 breakers',
        asks: 'pointLoads',
      })
      const unread = put('Old', 5, { ratingA: null })
      expect(of(region, mainOf(200), ...shop, unread), region).toMatchObject({ result: null, ask: 'the loads on 3 breakers' })
      const point: Edit = { kind: 'point.add', points: [blankPoint('p', 'Press', { watts: null })] }
      expect(of(region, mainOf(200), ...shop, point).ask, region).toBe('the loads on 2 breakers, the load of 1 point')
    }
    // What was recorded holds whatever it is.
    const recorded: Edit = { kind: 'survey.set', patch: { demand: { ...demo(0).demand, recordedA: 20 } } }
    expect(ask('united-kingdom', premises('workshop'), put('Lathe', 1, { ratingA: 32 }), recorded)).toBeNull()
  })

  it('says what the amperes on the legs are without', () => {
    const { legs } = reportOf(demo(0))
    const on = (id: string) => reportOf(after(demo(0), { kind: 'point.set', id, patch: { watts: null } })).legs!
    expect(unreadOn(legs!)).toBe(', without 1 point whose load was not read and 2 breakers whose circuits were not checked')
    const without = on('p1')
    expect(without.unread).toBe(legs!.unread + 1)
    expect(without.A + without.B).toBeLessThan(legs!.A + legs!.B)
    expect(unreadOn({ ...legs!, unlooked: 0 })).toBe(', without 1 point whose load was not read')
    expect(unreadOn({ ...legs!, unread: 2, unlooked: 1 })).toBe(
      ', without 2 points whose load was not read and 1 breaker whose circuits were not checked',
    )
    expect(unreadOn({ ...legs!, unread: 0, unlooked: 0 })).toBe('')
    // A spare breaker feeds nothing, and of one that was switched off it is known.
    const spare = after(demo(0), { kind: 'way.set', id: 'w3', patch: { kind: 'spare' } })
    expect(reportOf(spare).legs!.unlooked).toBe(1)
    expect(evaluate(demo(0), []).survey.loads.flatMap((l) => (l.proved ? [] : [l.way.id]))).toEqual(['w3', 'w4'])
  })

  it('is what was recorded where it was, with what is added whole', () => {
    const recorded = (region: RegionId, recordedA: number, watts: number) => {
      const job = make(region, 8, put('a', 1), {
        kind: 'load.set',
        circuit: 'c1',
        patch: { amount: watts, volts: region === 'north-america' ? 240 : 230 },
      })
      return applyEdit(job, { kind: 'survey.set', patch: { demand: { ...job.demand, recordedA } } }).job
    }
    // NFPA 70 220.87: a quarter more of what was recorded.
    expect(serviceDemand(recorded('north-america', 60, 4800)).result).toMatchObject({ demandA: 1.25 * 60 + 20, spareA: 5 })
    expect(serviceDemand(recorded('southern-africa', 60, 4600)).result).toMatchObject({ demandA: 80, spareA: 20 })
    expect(serviceDemand(recorded('united-kingdom', 30, 2300)).result).toMatchObject({ demandA: 40, spareA: 60 })
    const service = (job: Job) =>
      evaluate(job, [])
        .stages.flatMap((s) => s.findings)
        .find((f) => f.rule === 'service-demand')
    expect(service(recorded('southern-africa', 60, 4600))).toBeUndefined()
    expect(service(recorded('southern-africa', 90, 4600))).toMatchObject({
      severity: 'error',
      message: expect.stringContaining('10 A more than it is rated'),
    })
  })

  it('asks what is on the service where a circuit or a point alone adds load to a board that was not surveyed', () => {
    const say = (...edits: Parameters<typeof after>[1][]) =>
      serviceFindings(after(newJob('united-kingdom'), ...edits)).map((f) => f.severity)
    const points = (watts: number | null) => ({
      kind: 'circuit-point.add' as const,
      circuit: 'c1',
      points: [placed('p', 'Point', { watts })],
    })
    expect(say()).toEqual([])
    expect(say(points(null))).toEqual([])
    expect(say(points(500))).toEqual(['unknown'])
    expect(say({ kind: 'load.set', circuit: 'c1', patch: { amount: 500 } })).toEqual(['unknown'])
    // One circuit that draws is enough, whatever the others are still without.
    expect(say(points(500), { kind: 'circuit.add', id: 'c2', name: 'Not said yet' })).toEqual(['unknown'])
  })

  it('names on the door what was proved, what is left over, and what was not looked at', () => {
    const job = demo(0)
    const report = evaluate(job, [])
    const lines = doorSchedule(job, report.boards[0]!, report)
    expect(lines.find((l) => l.place === '1')!.feeds).toContain('Yard light')
    expect(lines.find((l) => l.place === '5')!.feeds).toBe('not proved')
    expect(lines.find((l) => l.place === '2-4')!.rating).toContain('2P')
    const sure = applyEdit(job, {
      kind: 'observation.add',
      items: [
        {
          id: 'z',
          at: '2026-11-14T12:00:00.000Z',
          instrument: 'told',
          withdrawn: false,
          seen: { kind: 'breaker-off', breaker: 'w3', dead: ['p7'] },
        },
      ],
    }).job
    const then = evaluate(sure, [])
    expect(doorSchedule(sure, then.boards[0]!, then).find((l) => l.place === '5')!.feeds).toContain('not switched off')
  })

  it.each([0, 1, 2])('is drawn without a hole, every way a part (%i)', (i) => {
    const job = demo(i)
    const { boards, survey } = evaluate(job, [])
    const drawing = boardDrawing({ job, report: boards[0]!, loads: survey.loads, proved: survey.proved })
    expect(JSON.stringify(drawing)).not.toMatch(/NaN|undefined|null,/)
    for (const w of job.ways) expect(drawing.parts![`way:${w.id}`]).toContain(w.label)
  })
})

it('no way of a consumer unit is drawn as free while that was not looked at', () => {
  const words = (free: number[] | null) => {
    const job = make('united-kingdom', 8, put('a', 1), { kind: 'board.set', id: 'main', patch: { free } })
    const { boards, survey } = evaluate(job, [])
    const { shapes } = boardDrawing({ job, report: boards[0]!, loads: survey.loads, proved: survey.proved })
    return shapes.flatMap((s) => (s.kind === 'text' ? [s.text] : []))
  }
  expect(words([3])).toContain('free')
  expect(words(null)).not.toContain('free')
  expect(words(null)).toEqual(expect.arrayContaining(['not', 'looked', 'at']))
})

describe('what was not looked at on a board', () => {
  const unseen = (region: RegionId, ...edits: Edit[]) => notLookedAt(region, reportOf(make(region, 8, ...edits)))
  const set = (patch: Partial<Board>): Edit => ({ kind: 'board.set', id: 'main', patch })

  it('is its free spaces, its main, and breakers whose rating was not read; not a space with a blank in it', () => {
    expect(unseen('united-kingdom', put('a', 1))).toEqual([])
    expect(unseen('united-kingdom', set({ free: null }))).toEqual(['which ways are free'])
    expect(unseen('north-america', set({ mainA: null }))).toEqual(['the rating of the main'])
    expect(unseen('north-america', put('a', 1, { ratingA: null }))).toEqual(['the rating of one breaker'])
    const unread = { ratingA: null }
    expect(
      unseen('north-america', put('a', 1, unread), put('b', 2, unread), put('c', 3, { ...unread, kind: 'spare' }), set({ free: null })),
    ).toEqual(['which spaces are free', 'the rating of 2 breakers'])
    // A way whose place was not noted may be in any space that is left.
    expect(unseen('southern-africa', put('a', null))).toEqual(['which ways are free'])
  })
})

describe('sub-boards', () => {
  it('are fed from a way, which then roots no points; taking the way out leaves them fed from an unknown place', () => {
    const job = [
      put('f', 2),
      { kind: 'board.add', item: newBoard('s', { name: 'Shed', spaces: 6, mainA: 40, fedFrom: 'f' }) } as Edit,
    ].reduce((j, e) => applyEdit(j, e).job, make('united-kingdom', 8))
    expect(job.ways[0]!.kind).toBe('feeder')
    expect(evaluate(job, []).boards).toHaveLength(2)
    expect(applyEdit(job, { kind: 'way.remove', id: 'f' }).job.boards[1]!.fedFrom).toBeNull()
    expect(applyEdit(job, { kind: 'board.remove', id: 's' }).job.boards).toHaveLength(1)
    expect(() => applyEdit(job, { kind: 'board.remove', id: 'main' })).toThrow(/stays/)
  })
})
