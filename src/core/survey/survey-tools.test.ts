import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { demoJobs } from '../demo/demo'
import { applyShort as applyEdit, type Short as Edit } from '../../../tests/support/shorthand'
import { type Installation as Job, read } from '../installation/installation'
import { after, newJob } from '../../../tests/support/shorthand'
import { compareTraces, snapshot } from './kept'
import { evaluateSurvey, nextTests } from './traced'
import { toldLayout, toldProblem } from './told'
import { readDefects, readPoints } from './csv'
import { defectKinds, sortDefect } from '../catalogue/defects'
import { plugIn } from './plug-in'
import { cablesAt, compareWithTruth, practiceBuilding, practiceJob, probe } from '../practice/practice'
import { newWall } from '../job/room'
import type { Wall } from '../installation/installation'
import { waysOfAll } from '../building/route'
import { waysWanted } from '../installation/building'
import { sourceCandidates, whereItStands, wantedBy } from './sources'
import { runReport } from './walls'

const apply = (job: Job, ...edits: Edit[]): Job => edits.reduce((j, e) => applyEdit(j, e).job, job)
const demo = (i: number, ...more: Edit[]): Job => apply(newJob(demoJobs[i]!.region, 'x', ''), ...demoJobs[i]!.edits, ...more)
let n = 0
const id = () => `id${n++}`

describe('a pasted list of points', () => {
  it('is read with or without headings, in any order, by comma or tab', () => {
    const named = readPoints('Room,Point,Load\nHall,By the door,500\nHall,Lamp,?', 'united-kingdom', id)
    expect(named.map((r) => r.item)).toMatchObject([
      { name: 'By the door', room: 'Hall', watts: 500, kind: 'outlet' },
      { name: 'Lamp', watts: null },
    ])
    const plain = readPoints('By the door\tHall\tsocket\t500 W', 'united-kingdom', id)
    expect(plain[0]!.item).toMatchObject({ name: 'By the door', room: 'Hall', kind: 'outlet', watts: 500 })
  })

  it('is read in the units it is written in', () => {
    const rows = readPoints('Point;Load;Height\nA;4,5 kW;1.2 m\nB;1,200;45 cm\nC;2 m;300', 'united-kingdom', id)
    expect(rows.map((r) => [r.item?.watts, r.item?.heightMm])).toEqual([
      [4500, 1200],
      [1200, 450],
      [undefined, undefined],
    ])
    expect(rows[2]!.problem).toContain('2 m')
  })

  it('names each bad row by its line and lets the others pass', () => {
    const rows = readPoints(
      'Point,Kind,Load,Height\nA,outlet,100,300\n,outlet,100,300\nB,teapot,100,300\nC,light,lots,300\nD,light,100,-4',
      'united-kingdom',
      id,
    )
    expect(rows.map((r) => [r.line, r.item?.name ?? null])).toEqual([
      [2, 'A'],
      [3, null],
      [4, null],
      [5, null],
      [6, null],
    ])
    expect(rows.slice(1).map((r) => r.problem)).toEqual([
      'no name',
      expect.stringContaining('teapot'),
      expect.stringContaining('lots'),
      expect.stringContaining('-4'),
    ])
  })

  it('never throws, whatever is pasted', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), (csv) => {
        for (const r of readPoints(csv, 'north-america', id)) expect((r.item === null) !== (r.problem === null)).toBe(true)
      }),
    )
  })
})

describe('findings of an inspection', () => {
  it('are of at least 25 kinds, each with a cure and a clause in every world', () => {
    expect(defectKinds.length).toBeGreaterThanOrEqual(25)
    for (const k of defectKinds) for (const c of Object.values(k.clause)) expect(`${k.cure}${c}`.length).toBeGreaterThan(12)
  })

  it.each([
    ['Extension lead run under the carpet as permanent wiring to the office', 'cord-as-wiring'],
    ['Receptacle by the sink has no GFCI protection', 'no-residual'],
    ['RCD trip time 480 ms, fails', 'residual-fails'],
    ['Hidden junction box above plasterboard', 'buried-joint'],
    ['Polarity reversed at the hall socket', 'reversed-polarity'],
    ['Exposed live parts in the switch', 'bare-live'],
    ['32 A MCB too large for the 2.5 mm² cable', 'overfused'],
    ['Two wires under one terminal in the panel', 'double-tap'],
    ['Borrowed neutral between lighting circuits', 'shared-neutral'],
    ['Aluminum branch wiring in the addition', 'aluminium'],
    ['Main bonding to the water pipe missing', 'bonding'],
    ['Rodent damage: chewed cable in the loft', 'damaged-cable'],
    ['Smoke alarm on a switched leg', 'smoke-alarm'],
  ])('“%s” is sorted', (words, kind) => {
    expect(sortDefect(words)).toBe(kind)
  })

  it('that nothing is known of stay unsorted', () => {
    expect(sortDefect('The kettle is ugly')).toBeNull()
    expect(readDefects('Finding,Place\nThe kettle is ugly,Kitchen\n,Hall', id)).toMatchObject([
      { item: { kind: null, place: 'Kitchen' } },
      { item: null, problem: 'no finding' },
    ])
  })

  it('become work in the job, or are declined with a reason', () => {
    const job = demo(1)
    const made = apply(
      job,
      { kind: 'defect.work', id: 'd3', work: 'box1' },
      { kind: 'defect.work', id: 'd2', work: 'pt1' },
      { kind: 'defect.work', id: 'd4', work: 'none' },
    )
    expect(made.defects.find((d) => d.id === 'd3')).toMatchObject({ state: 'work', work: { kind: 'box', id: 'box1' } })
    expect(made.points.find((p) => p.id === 'box1')).toMatchObject({ kind: 'box', hidden: true, planned: false })
    expect(made.points.find((p) => p.id === 'pt1')).toMatchObject({ state: 'new' })
    expect(made.defects.find((d) => d.id === 'd4')).toMatchObject({ state: 'work', work: null })
    expect(() => apply(job, { kind: 'defect.set', id: 'd2', patch: { state: 'declined' } })).toThrow(/why/)
    expect(apply(made, { kind: 'point.remove', id: 'pt1' }).defects.find((d) => d.id === 'd2')).toMatchObject({ state: 'open', work: null })
  })
})

/** As if nothing had been seen, and all of it were hearsay. */
const hearsay = (job: Job): Job => ({ ...job, observations: job.observations.map((o) => ({ ...o, instrument: 'told' as const })) })

describe('what if it is plugged in here', () => {
  const job = demo(2)
  const report = evaluateSurvey(job)
  it('fits while the circuit has room, and says how much is left', () => {
    // 750 + 1500 W on 20 A at 230 V.
    expect(plugIn(job, report, 'e1', 1000, false)).toMatchObject({ verdict: 'fits', way: 'z1', afterA: (750 + 1500 + 1000) / 230 })
    expect(plugIn(job, report, 'e1', 3000, false).verdict).toBe('too-much')
  })
  it('is never said to fit while something is not known', () => {
    const dairy = demo(0)
    const r = evaluateSurvey(dairy)
    expect(plugIn(dairy, r, 'p7', 100, false)).toMatchObject({ verdict: 'unknown', way: null })
    expect(plugIn(dairy, r, 'p1', 100, false).verdict).toBe('unknown')
    const unrated = apply(job, { kind: 'way.set', id: 'z1', patch: { ratingA: null } })
    expect(plugIn(unrated, evaluateSurvey(unrated), 'e1', 100, false).verdict).toBe('unknown')
    // All that is known of it is hearsay; it was not seen to die.
    const told = hearsay(job)
    expect(plugIn(told, evaluateSurvey(told), 'e1', 100, false)).toMatchObject({
      verdict: 'unknown',
      message: expect.stringContaining('switch it off and check'),
    })
    expect(plugIn(told, evaluateSurvey(told), 'e1', 3000, false).verdict).toBe('too-much')
  })
  it('counts 80 % of the breaker for what runs for hours in North America', () => {
    const full = demo(0, { kind: 'point.set', id: 'p10', patch: { watts: 0 } })
    const r = evaluateSurvey(full)
    expect(plugIn(full, r, 'p10', 120 * 17, true)).toMatchObject({ verdict: 'too-much', limitA: 16 })
    expect(plugIn(full, r, 'p10', 120 * 17, false).verdict).not.toBe('too-much')
  })
})

describe('where to take power from', () => {
  const hall = demo(1)
  const wanted = wantedBy(hall, hall.circuits[1]!, 'Stage')!
  const all = sourceCandidates(hall, evaluateSurvey(hall), wanted)
  it('offers the board, points, the ring and fused spurs, those that cannot serve last', () => {
    expect(new Set(all.map((c) => c.kind))).toEqual(new Set(['board', 'extend', 'ring', 'fused-spur']))
    const firstRefused = all.findIndex((c) => c.refused)
    expect(all.slice(firstRefused).every((c) => c.refused)).toBe(true)
    const scores = all.slice(0, firstRefused).map((c) => c.score)
    expect(scores).toEqual(scores.toSorted((a, b) => a - b))
  })
  it('refuses the board that would be over its rating, and no board of which that is not known', () => {
    const dairy = demo(0)
    const board = (recordedA: number | null) => {
      const job = after(dairy, { kind: 'survey.set', patch: { demand: { ...dairy.demand, recordedA } } })
      return sourceCandidates(job, evaluateSurvey(job), wantedBy(job, job.circuits[1]!, 'Wheel room')!).find((c) => c.kind === 'board')!
    }
    expect(board(26)).toMatchObject({ refused: null, unknown: [] })
    expect(board(60).refused).toMatch(/is rated 100 A, and would be over it by/)
    expect(board(null)).toMatchObject({ refused: null, spareA: null })
    expect(board(null).unknown).toContain('the existing load of the board')
  })
  it('knows what a circuit has left once somebody saw what is on it, and every load on it was read', () => {
    const at = (job: Job) => sourceCandidates(job, evaluateSurvey(job), wanted).find((c) => c.id === 'ring:k1')!
    const seen = at(hall)
    expect(seen.spareA).toBeGreaterThan(0)
    expect(seen.unknown).not.toContain('what else hangs on its circuit')
    expect(at(hearsay(hall))).toMatchObject({
      spareA: null,
      refused: null,
      unknown: expect.arrayContaining(['other loads on its circuit']),
      later: expect.stringContaining('not known: what the circuit can still carry'),
    })
    const unread = after(hall, { kind: 'point.set', id: 'k1', patch: { watts: null } })
    expect(at(unread)).toMatchObject({ spareA: null, refused: null, unknown: expect.arrayContaining(['load of 1 of its points']) })
    // Too much by what is known is too much, whatever else there is.
    const much = hearsay(after(hall, { kind: 'point.set', id: 'k1', patch: { watts: 9000 } }))
    expect(at(much).refused).toMatch(/over its rating/)
  })
  it('tells of a point that must not lose power only where it goes dark', () => {
    const from = (id: string) => all.find((c) => c.from === id)!.disturbance
    const held = hall.points.filter((p) => p.mustHold).map((p) => p.name)
    expect(held.length).toBeGreaterThan(0)
    const dark = all.filter((c) => c.kind !== 'board' && held.some((h) => c.disturbance.includes(`${h} among them`)))
    expect(dark.length).toBeLessThan(all.filter((c) => c.kind !== 'board').length)
    expect(from('k1')).toMatch(/dark meanwhile/)
  })
  it('tells of a point that must not lose power behind the same residual device', () => {
    const device = hall.ways.find((w) => hall.residualDevices.some((d) => d.id === w.residual))!.residual
    const held = hall.points.find((p) => p.mustHold)!
    const told = all.filter((c) => c.disturbance.includes('trips') && c.disturbance.includes(held.name))
    expect(told.length).toBeGreaterThan(0)
    const apart = after(
      hall,
      ...hall.ways.filter((w) => w.residual === device).map((w): Edit => ({ kind: 'way.set', id: w.id, patch: { residual: 'own' } })),
    )
    expect(sourceCandidates(apart, evaluateSurvey(apart), wanted).filter((c) => c.disturbance.includes('trips'))).toEqual([])
  })
  it('offers the spaces that the circuit itself was given', () => {
    const dairy = demo(0)
    const of = (job: Job) =>
      sourceCandidates(job, evaluateSurvey(job), wantedBy(job, job.circuits[0]!, null)!).find((c) => c.id === 'board:main')!
    const given = dairy.circuits[0]!.ways.filter((w) => w.state === 'new')
    expect(given.length).toBeGreaterThan(0)
    expect(of(dairy).refused).toBeNull()
    expect(of(dairy).prefill.way).not.toBe('')
  })
  it('offers a ring to no circuit that is that ring, and no point to a circuit that is a ring or passes it', () => {
    const ring = hall.circuits.find((c) => c.kind === 'ring') ?? { ...hall.circuits[1]!, kind: 'ring' as const }
    const of = (circuit: (typeof hall.circuits)[number]) => sourceCandidates(hall, evaluateSurvey(hall), { ...wanted, circuit })
    expect(of(ring).every((c) => c.kind === 'board')).toBe(true)
    const own = { ...hall.circuits[1]!, ways: hall.ways.filter((w) => w.shape === 'ring') }
    expect(of(own).some((c) => c.kind === 'ring')).toBe(false)
    expect(all.some((c) => c.kind === 'ring')).toBe(true)
    const passing = { ...hall.circuits[1]!, points: hall.points.filter((p) => p.id === 'k1') as never }
    expect(of(passing).some((c) => c.from === 'k1')).toBe(false)
  })
  it('puts what is hidden after all that can be reached', () => {
    const hidden = after(hall, { kind: 'point.set', id: 'k1', patch: { hidden: true } })
    const serving = sourceCandidates(hidden, evaluateSurvey(hidden), wanted).filter((c) => !c.refused)
    const first = serving.findIndex((c) => c.from === 'k1')
    expect(serving.slice(first).every((c) => c.hidden)).toBe(true)
    expect(all.find((c) => c.from === 'k1')!.hidden).toBe(false)
  })
  it('refuses a spur from a spur', () => {
    expect(all.find((c) => c.id === 'fused-spur:m3')!.refused).toContain('spur')
    expect(all.find((c) => c.id === 'ring:m3')!.refused).toContain('spur')
    expect(all.find((c) => c.id === 'ring:k1')!.refused).toBeNull()
  })
  it('leads both legs of a broken ring there and back', () => {
    const [spur, ring] = ['fused-spur:k1', 'ring:k1'].map((i) => all.find((c) => c.id === i)!)
    expect(ring!.lengthM).toBeCloseTo(2 * spur!.lengthM!, 9)
  })
  it('refuses a circuit that would be over its rating, and 240 V from a 120 V circuit', () => {
    const dairy = demo(0)
    const kiln = sourceCandidates(dairy, evaluateSurvey(dairy), wantedBy(dairy, dairy.circuits[0]!, 'Kiln room')!)
    expect(kiln.filter((c) => !c.refused).map((c) => c.kind)).toEqual(['board'])
    const wheel = sourceCandidates(dairy, evaluateSurvey(dairy), wantedBy(dairy, dairy.circuits[1]!, 'Wheel room')!)
    expect(wheel.find((c) => c.id === 'extend:p1')!.refused).toContain('over its rating')
    expect(wheel.find((c) => c.id === 'extend:p15')!.unknown.join()).toContain('which breaker')
  })
  it('runs by its best way where both ends are in the building, and is paced where not', () => {
    const dairy = demo(0)
    const kiln = dairy.circuits[0]!
    const stands = whereItStands(dairy, kiln)!
    const at = (room: string) =>
      sourceCandidates(dairy, evaluateSurvey(dairy), wantedBy(dairy, kiln, room)!).find((c) => c.id === 'board:main')!
    const here = at(stands.room)
    const [way] = waysOfAll(waysWanted(dairy.record, kiln.id)!)
    const best = 'routes' in way! ? way.routes[0]! : null
    expect(here.lengthM).toBeCloseTo(best!.pieces[0]!.lengthM, 6)
    expect(here.run).toEqual({ holes: best!.holes, openings: best!.openings })
    expect(here.minutes).toBe(Math.round(75 + 25 + best!.minutes))
    const elsewhere = at('Store')
    expect(elsewhere.run).toBeNull()
    // What is forbidden is gone round here too.
    const barred = after(dairy, { kind: 'building.set', patch: { forbid: ['attic', 'crawl'] } })
    const other = sourceCandidates(barred, evaluateSurvey(barred), wantedBy(barred, kiln, stands.room)!).find((c) => c.id === 'board:main')!
    expect(other.minutes).toBeGreaterThan(here.minutes!)
  })
  it('follows the weights', () => {
    const only = (name: string) =>
      apply(hall, {
        kind: 'survey.set',
        patch: { weights: { ...Object.fromEntries(Object.keys(hall.weights).map((k) => [k, 0])), [name]: 5 } as Job['weights'] },
      })
    const short = sourceCandidates(only('length'), evaluateSurvey(hall), wanted).filter((c) => !c.refused)
    expect(short[0]!.lengthM).toBe(Math.min(...short.map((c) => c.lengthM!)))
    const quick = sourceCandidates(only('minutes'), evaluateSurvey(hall), wanted).filter((c) => !c.refused)
    expect(quick[0]!.minutes).toBe(Math.min(...quick.map((c) => c.minutes!)))
  })
  it('is not asked while the load is not known', () => {
    expect(wantedBy(hall, { ...hall.circuits[0]!, load: { ...hall.circuits[0]!.load, amount: null } }, null)).toBeNull()
  })
})

describe('walls', () => {
  const wall = (
    kind: Wall['kind'],
    pieces: [Wall['pieces'][number]['what'], number][],
    outlets: number[],
    heightMm: number | null = 450,
    state: Wall['outlets'][number]['state'] = 'new',
  ): Wall => ({
    ...newWall('r', 'Wall', { kind, pieces: pieces.map(([what, lengthM], i) => ({ id: `p${i}`, what, lengthM })) }),
    room: '',
    finished: null,
    outlets: outlets.map((atM, i) => ({ id: `o${i}`, kind: 'outlet', state, atM, heightMm })),
  })
  it('are closed by the outlets proposed, along the run and not the stretch', () => {
    const run = wall(
      'wall',
      [
        ['wall', 4],
        ['door', 1],
        ['wall', 6],
      ],
      [],
    )
    const report = runReport('north-america', run, 'metric')
    expect(report.missing.length).toBeGreaterThan(1)
    expect(report.missing.some((m) => m > 5)).toBe(true)
    const closed = {
      ...run,
      outlets: report.missing.map((atM, i) => ({ id: `n${i}`, kind: 'outlet', state: 'new', atM, heightMm: null }) as const),
    }
    expect(runReport('north-america', closed, 'metric')).toMatchObject({ gaps: [], missing: [], findings: [] })
  })
  it('keep outlets out of doors and on the wall', () => {
    const rules = (run: Wall) => runReport('north-america', run, 'metric').findings.map((f) => f.rule)
    expect(
      rules(
        wall(
          'wall',
          [
            ['wall', 1],
            ['door', 1],
          ],
          [1.5],
        ),
      ),
    ).toContain('outlet-in-break')
    expect(rules(wall('wall', [['wall', 1]], [1.5]))).toContain('outlet-off-wall')
  })
  it('are an error by what is listed along them; with nothing listed it is not known', () => {
    const said = (outletsAt: number[]) =>
      runReport('north-america', wall('wall', [['wall', 7]], outletsAt), 'metric').findings.filter((f) => f.rule === 'outlet-spacing')
    expect(said([]).map((f) => f.severity)).toEqual(['unknown'])
    expect(said([])[0]!.message).toMatch(/no outlets are recorded along it.*2 more/)
    expect(said([1.8]).map((f) => f.severity)).toEqual(['error'])
    expect(said([1.8])[0]!.message).toContain('1 part of the wall is too far from an outlet; 1 more closes it')
    expect(said([3.5])[0]!.message).toContain('2 parts of the wall are too far from an outlet; 2 more close them')
    expect(said([1.8, 5.2])).toEqual([])
  })
  it('that are finished keep the spacing they have; new outlets, and a wall that is open, are held to the rule', () => {
    const said = (state: 'new' | 'existing', finished: boolean | null) =>
      runReport('north-america', { ...wall('wall', [['wall', 9]], [0.5], 450, state), finished }, 'metric').findings.map((f) => f.severity)
    expect(said('existing', true)).toEqual(['note'])
    expect(said('existing', null)).toEqual(['unknown'])
    expect(said('existing', false)).toEqual(['error'])
    expect(said('new', true)).toEqual(['error'])
  })
  it('on an island go by the area of its counter, the edition in force, and what is left there for later', () => {
    const FT = 0.3048
    const of = (lengthFt: number, more: Partial<Wall>, outletsAtM: number[] = []) =>
      runReport('north-america', { ...wall('island', [['wall', lengthFt * FT]], outletsAtM), depthM: 3 * FT, ...more }, 'imperial')
        .findings.filter((f) => f.rule.startsWith('island-'))
        .map((f) => `${f.severity}: ${f.message}`)
        .join()
    expect(of(3, { depthM: null })).toMatch(/^unknown: .*depth of its counter is not known/)
    expect(of(3, {})).toMatch(/^unknown: .*9 ft² needs 1 outlet; it has none.*say whether a cable or a raceway was left/)
    expect(of(3, { forLater: false })).toMatch(/^error: .*leave a cable or a raceway/)
    expect(of(3, { forLater: true })).toMatch(/^note: /)
    expect(of(3, { finished: true, forLater: false })).toMatch(/^note: .*new wiring/)
    expect(of(3, {}, [0.3])).toBe('')
    // One for the first 9 square feet, one more for each 18 or part of them.
    expect(of(3.1, {}, [0.3])).toMatch(/^note: .*9.3 ft² needs 2 outlets; it has 1/)
    expect(of(9, {}, [0.3, 0.6])).toBe('')
    expect(of(9.1, {}, [0.3, 0.6])).toMatch(/needs 3 outlets; it has 2/)
    const elsewhere = runReport('united-kingdom', { ...wall('island', [['wall', 2]], []), depthM: null }, 'metric')
    expect(elsewhere.findings).toEqual([])
    expect(of(0.1, {}, [])).not.toContain('210.52(A)')
  })
  it('count outlets alone: a switch or one that is taken out serves nothing', () => {
    const run = wall('wall', [['wall', 3]], [1.5])
    const as = (change: Partial<Wall['outlets'][number]>) =>
      runReport('north-america', { ...run, outlets: run.outlets.map((o) => ({ ...o, ...change })) }, 'metric').findings.map((f) => f.rule)
    expect(as({})).toEqual([])
    expect(as({ kind: 'switch' })).toContain('outlet-spacing')
    expect(as({ state: 'removed' })).toContain('outlet-spacing')
  })
  it('keep sockets from water and at the height asked for, and say when it is not known', () => {
    const rules = (run: Wall) => runReport('united-kingdom', run, 'metric').findings.map((f) => f.rule)
    expect(
      rules(
        wall(
          'wall',
          [
            ['bath', 1.7],
            ['wall', 4],
          ],
          [3],
        ),
      ),
    ).toContain('outlet-near-water')
    expect(
      rules(
        wall(
          'wall',
          [
            ['bath', 1.7],
            ['wall', 4],
          ],
          [4.3],
        ),
      ),
    ).not.toContain('outlet-near-water')
    expect(rules(wall('wall', [['wall', 4]], [2], 200))).toEqual(['outlet-height'])
    expect(runReport('united-kingdom', wall('wall', [['wall', 4]], [2], null), 'metric').findings[0]!.severity).toBe('unknown')
    expect(
      runReport(
        'southern-africa',
        wall(
          'counter',
          [
            ['wall', 1],
            ['sink', 1],
          ],
          [0.9],
        ),
        'metric',
      ).findings.map((f) => f.rule),
    ).toEqual(['outlet-near-sink'])
  })
})

describe('a layout entered as known', () => {
  it('is what would be seen in it, and is not proved by it', () => {
    const job = apply(newJob('north-america', 'x', ''), ...demoJobs[0]!.edits.filter((e) => e.kind !== 'observation.add'))
    const told = toldLayout('w3', { p7: 'w3', p8: 'p7' })
    const next = apply(job, {
      kind: 'observation.add',
      items: told.map((seen, i) => ({ id: `t${i}`, at: '2026-11-14T10:00:00.000Z', instrument: 'told', withdrawn: false, seen })),
    })
    const { trace, proved } = evaluateSurvey(next)
    expect(trace.parents).toMatchObject({ p7: 'w3', p8: 'p7' })
    expect(proved.has('w3')).toBe(false)
  })
  it('must lead back to its way', () => {
    const survey = demo(0)
    expect(toldProblem(survey, 'w3', { p7: 'p8', p8: 'p7' })).toContain('does not lead back')
    expect(toldProblem(survey, 'w3', { p7: 'p8' })).toContain('does not lead back')
    expect(toldProblem(survey, 'w3', { p7: 'w3', p8: 'p7' })).toBeNull()
  })
})

describe('kept traces', () => {
  it('tell what changed since, point by point', () => {
    const job = demo(0)
    const before = snapshot(job, 'a', '2026-11-14T10:00:00.000Z', 'before')
    const after = apply(
      job,
      {
        kind: 'observation.add',
        items: [
          {
            id: 'z',
            at: '2026-11-15T10:00:00.000Z',
            instrument: 'contact',
            withdrawn: false,
            seen: { kind: 'breaker-off', breaker: 'w3', dead: ['p7', 'p8'] },
          },
        ],
      },
      { kind: 'point.remove', id: 'p10' },
    )
    const changes = compareTraces(before, snapshot(after, 'b', '2026-11-15T10:00:00.000Z', 'after'))
    expect(changes.find((c) => c.point === 'Freezer')).toMatchObject({ what: 'learnt' })
    expect(changes.find((c) => c.point === 'Wash bench')).toMatchObject({ what: 'gone' })
    expect(changes.some((c) => c.point === 'Yard light')).toBe(false)
    expect(compareTraces(before, before)).toEqual([])
  })
  it('call a point learnt, lost or moved by what was known of it before and after', () => {
    const trace = (feed: string | null, parent: string | null) =>
      ({ id: 't', at: '2026-11-14T10:00:00.000Z', name: 't', points: [{ id: 'p', name: 'Bench', feed, parent }] }) as unknown as Parameters<
        typeof compareTraces
      >[0]
    const what = (before: [string | null, string | null], after: [string | null, string | null]) =>
      compareTraces(trace(...before), trace(...after)).map((c) => c.what)[0]
    expect(what([null, null], ['w', null])).toBe('learnt')
    expect(what(['w', null], ['w', 'q'])).toBe('learnt')
    expect(what(['w', 'q'], ['w', null])).toBe('lost')
    expect(what(['w', 'q'], [null, 'q'])).toBe('lost')
    expect(what(['w', 'q'], [null, null])).toBe('lost')
    expect(what(['w', 'q'], ['v', null])).toBe('moved')
    expect(what(['w', 'q'], [null, 'r'])).toBe('moved')
    expect(what(['w', 'q'], ['w', 'r'])).toBe('moved')
    expect(what(['w', 'q'], ['w', 'q'])).toBeUndefined()
  })
  it('stay whatever happens to the survey, and a new trace may begin', () => {
    const job = demo(0, { kind: 'trace.keep', trace: snapshot(demo(0), 'k', '2026-11-14T10:00:00.000Z', 'Before'), restart: true })
    expect(job.observations).toEqual([])
    expect(job.traces[0]!.points).toHaveLength(15)
    expect(apply(job, { kind: 'trace.forget', id: 'k' }).traces).toEqual([])
  })
})

describe('a practice building', () => {
  it('is the same for the same seed, whole, and never traced by itself', () => {
    fc.assert(
      fc.property(fc.nat(2 ** 32 - 1), (seed) => {
        const a = practiceBuilding(seed)
        expect(practiceBuilding(seed)).toEqual(a)
        for (const p of a.points) expect([...a.house.breakers, ...a.house.points]).toContain(a.house.parent[p.id])
        const job = read(practiceJob('united-kingdom', 'x', { seed, misleading: true }))
        expect(evaluateSurvey(job).untraced).toBe(a.points.length)
      }),
      { numRuns: 40 },
    )
  })

  it('is traced to its truth by asking what is asked next, with a contact tester', () => {
    for (let seed = 0; seed < 12; seed++) {
      let job = read(practiceJob('north-america', 'x', { seed, misleading: true }))
      const building = practiceBuilding(seed)
      for (let i = 0; i < 40 && evaluateSurvey(job).untraced > 0; i++) {
        const { test } = nextTests(job, null)[0]!
        const shown = probe(building, test, 'contact', true, seed)
        const dead = building.points
          .map((p) => p.id)
          .filter((p) => shown[p] === 'dead' && !(test.kind === 'disconnected' && p === test.point))
        const sightings = [
          { ...test, dead },
          ...(test.kind === 'disconnected' ? [{ kind: 'cables' as const, point: test.point, onward: cablesAt(building, test.point) }] : []),
        ]
        job = apply(job, {
          kind: 'observation.add',
          items: sightings.map((seen, k) => ({
            id: `s${i}-${k}`,
            at: '2026-11-14T10:00:00.000Z',
            instrument: 'contact',
            withdrawn: false,
            seen,
          })),
        })
      }
      expect(compareWithTruth(building, evaluateSurvey(job).trace.parents)).toEqual({ right: 12, wrong: [], open: 0 })
    }
  })

  it('may mislead the non-contact detector, and only it', () => {
    let misled = 0
    for (let seed = 0; seed < 20; seed++) {
      const building = practiceBuilding(seed)
      for (const breaker of building.house.breakers) {
        const truth = probe(building, { kind: 'breaker-off', breaker }, 'contact', true, seed)
        expect(probe(building, { kind: 'breaker-off', breaker }, 'non-contact', false, seed)).toEqual(truth)
        const shown = probe(building, { kind: 'breaker-off', breaker }, 'non-contact', true, seed)
        for (const p of building.house.points) if (shown[p] !== truth[p]) misled += truth[p] === 'dead' ? 1 : 100_000
      }
    }
    expect(misled).toBeGreaterThan(5)
    expect(misled).toBeLessThan(100_000)
  })
})
