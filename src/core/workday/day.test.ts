import { clock, hour } from '../job/day'
import { readFileSync } from 'node:fs'
import fc from 'fast-check'
import { applyEdit, type Edit } from '../job/edits'
import { readJobFile } from '../job/file'
import { read } from '../installation/installation'
import { describe, expect, it } from 'vitest'
import { begunAt, timelineDrawing } from '../drawing/timeline'
import { after, newJob } from '../../../tests/support/shorthand'
import { collisionsIn } from '../../../tests/support/collisions'
import { demoJobs } from '../demo/demo'
import { evaluate } from '../evaluate/evaluate'
import { type DayRecord, newDay, type OwnTask } from '../job/day'
import { dayPlan } from '../schedule/day-plan'
import { dayPlanInput } from '../schedule/day'
import { readClock } from './clock'
import { isolationCards, isolationFound, shutFor } from './isolation'
import { LEAST_JOBS, learnt, type LoggedTask } from './log'
import { agreedOf, amountWords, materialsOf, offerOf } from './materials'
import { daysOf, planDays } from './days'
import { dayFindings } from './judge'
import { daylightOn, inTheDark } from './daylight'
import { brokenRules, dayAsked, MOST_TASKS, mostOff, placedOn, plannedOf } from './plan'
import { type Task, tasksOf, usualMinutes } from './tasks'
import { toolsOf } from './tools'

const demo = (i: number, ...edits: Parameters<typeof after>[1][]) =>
  after(newJob(demoJobs[i]!.region, demoJobs[i]!.title, ''), ...demoJobs[i]!.edits, ...edits)
const at = '2026-11-27T08:00:00.000Z'
const two: DayRecord['people'] = [
  { id: 'a', name: 'Ann' },
  { id: 'b', name: 'Ben' },
]
const task = (id: string, more: Partial<Task> = {}): Task => ({
  id,
  name: id,
  kind: 'work',
  circuit: 'c',
  minutes: 30,
  from: 'own',
  presumed: '',
  people: 1,
  power: 'any',
  after: [],
  earliestMin: null,
  latestMin: null,
  hot: false,
  cramped: false,
  high: false,
  outside: false,
  skilled: 0,
  ...more,
})
async function plan(tasks: readonly Task[], day: DayRecord) {
  const asked = dayAsked(tasks, day)
  const found = await dayPlan(dayPlanInput.parse(asked.input))
  return { asked, found, planned: found.tasks.length ? plannedOf(asked, found, at) : null }
}

/** Days that are planned and read back; `DAYS=200 npx vitest run src/core/day` for as many as one has time for. */
const DAYS = Number(process.env.DAYS ?? 12)

describe('tasks', () => {
  it('come from the design, in the order they are done, with minutes that say where they come from', () => {
    const job = demo(2)
    const tasks = tasksOf(job, evaluate(job, []))
    const mine = tasks.filter((t) => t.circuit === 'c1')
    expect(mine.map((t) => t.kind)).toEqual(['run', 'box', 'fit', 'board', 'dead', 'live', 'label'])
    expect(mine[0]).toMatchObject({ minutes: 17 * usualMinutes.run, from: 'usual', presumed: '' })
    expect(mine.find((t) => t.kind === 'board')).toMatchObject({ power: 'off', after: ['fit c1', 'run c1'] })
    expect(mine.find((t) => t.kind === 'live')).toMatchObject({ power: 'on', after: ['dead c1', 'board c1'] })
    expect(tasksOf(job, evaluate(job, []), { run: 2 })[0]).toMatchObject({ minutes: 34, from: 'table' })
    const said = demo(2, { kind: 'task.minutes', task: 'run c1', minutes: 50 })
    expect(tasksOf(said, evaluate(said, []))[0]).toMatchObject({ minutes: 50, from: 'said' })
  })
  it('never take an unknown length for none: it is presumed, and said', () => {
    const job = demo(2, { kind: 'run.set', circuit: 'c1', patch: { lengthM: null } })
    expect(tasksOf(job, evaluate(job, []))[0]).toMatchObject({ minutes: 60, presumed: expect.stringContaining('not known') })
  })
  it('say what is up a ladder, and electrical, and outside', () => {
    const of = (...edits: Parameters<typeof demo>[1][]) => {
      const job = demo(2, ...edits)
      return tasksOf(job, evaluate(job, [])).filter((t) => t.circuit === 'c1')
    }
    expect(
      of()
        .filter((t) => t.skilled)
        .map((t) => t.kind),
    ).toEqual(['fit', 'board', 'dead', 'live'])
    expect(of().some((t) => t.high || t.outside)).toBe(false)
    const end = { kind: 'point.set' as const, id: 'end-c1' }
    expect(
      of({ ...end, patch: { heightMm: 2100 } } as never)
        .filter((t) => t.high)
        .map((t) => t.kind),
    ).toEqual(['box', 'fit'])
    expect(of({ ...end, patch: { heightMm: 2000 } } as never).some((t) => t.high)).toBe(false)
    expect(
      of({ ...end, patch: { environment: 'outdoors' } } as never)
        .filter((t) => t.outside)
        .map((t) => t.kind),
    ).toEqual(['run', 'box', 'fit'])
  })
  it('of an altered circuit are done dead where it is fed already', () => {
    const job = demo(2)
    const mine = tasksOf(job, evaluate(job, [])).filter((t) => t.circuit === 'c3')
    expect(mine.filter((t) => t.power === 'off').map((t) => t.kind)).toEqual(['box', 'fit', 'board', 'dead'])
  })
})

describe('the plan of a day', () => {
  it(
    'keeps every rule as a plain reader sees it, in days of all sorts',
    async () => {
      let [found, none] = [0, 0]
      await fc.assert(
        fc.asyncProperty(
          fc.record({
            tasks: fc.array(
              fc.record({
                minutes: fc.integer({ min: 5, max: 60 }),
                people: fc.integer({ min: 0, max: 2 }),
                power: fc.constantFrom('any', 'any', 'off', 'on') as fc.Arbitrary<Task['power']>,
                skilled: fc.integer({ min: 0, max: 1 }),
                before: fc.option(fc.nat(5), { nil: null }),
                earliest: fc.option(fc.integer({ min: 480, max: 600 }), { nil: null }),
                latest: fc.option(fc.integer({ min: 600, max: 900 }), { nil: null }),
              }),
              { minLength: 1, maxLength: 6 },
            ),
            crew: fc.integer({ min: 1, max: 2 }),
            helper: fc.boolean(),
            until: fc.option(fc.integer({ min: 520, max: 700 }), { nil: null }),
            mostOffMin: fc.option(fc.integer({ min: 40, max: 120 }), { nil: null }),
          }),
          async ({ tasks: list, crew, helper, until, mostOffMin }) => {
            const people = [two[0]!, { ...two[1]!, helper, untilMin: until }].slice(0, crew)
            const day = { ...newDay(), people, mostOffMin, endMin: 3000 }
            const tasks = list.map(({ before, earliest, latest, ...t }, i) =>
              task(`t${i}`, {
                ...t,
                people: Math.min(t.people, crew),
                skilled: Math.min(t.people, t.skilled),
                after: before !== null && before < i ? [`t${before}`] : [],
                earliestMin: earliest,
                latestMin: latest,
              }),
            )
            const { asked, planned } = await plan(tasks, day)
            if (!planned || asked.tooLong.length) return void none++
            found++
            const broken = brokenRules(planned, tasks, day)
            // How long an outage lasts is not the planner's to bound where other things must be done within it; it is said.
            expect(broken.filter((b) => !b.includes('off longer'))).toEqual([])
            for (const p of placedOn(planned, tasks, day)) expect(p.people).toHaveLength(p.task.people)
          },
        ),
        { numRuns: DAYS, seed: Number(process.env.SEED ?? 5) },
      )
      expect(found).toBeGreaterThan(0.3 * DAYS)
      if (DAYS >= 50) expect(none).toBeGreaterThan(0)
    },
    Math.max(120_000, DAYS * 3000),
  )
  it('parts what is done dead, where the supply must not be off for long', async () => {
    const tasks = [task('a', { power: 'off' }), task('b', { power: 'off' }), task('c', { power: 'off' })]
    const whole = await plan(tasks, newDay())
    expect(whole.planned!.outages).toHaveLength(1)
    const day = { ...newDay(), mostOffMin: 45 }
    const parted = await plan(tasks, day)
    expect(parted.planned!.outages.map((o) => o.toMin - o.fromMin)).toEqual([30, 40, 40])
    expect(brokenRules(parted.planned!, tasks, day)).toEqual([])
    expect(dayAsked(tasks, { ...newDay(), mostOffMin: 39 }).tooLong).toHaveLength(3)
    expect(dayAsked(tasks, { ...newDay(), mostOffMin: 40 }).tooLong).toHaveLength(0)
  })
  it('joins what follows each other alone where there is too much for one plan, and takes it apart again', async () => {
    const tasks = Array.from({ length: 60 }, (_, i) =>
      task(`t${i}`, { circuit: `c${Math.floor(i / 4)}`, minutes: 5, after: i % 4 ? [`t${i - 1}`] : [] }),
    )
    const asked = dayAsked(tasks, newDay())
    expect(asked.input.tasks.length).toBeLessThanOrEqual(MOST_TASKS)
    const starts = asked.joined.reduce<{ id: string; startMin: number; endMin: number }[]>((list, { task: t }) => {
      const startMin = list.at(-1)?.endMin ?? 480
      return [...list, { id: t.id, startMin, endMin: startMin + t.minutes }]
    }, [])
    const planned = plannedOf(asked, { tasks: starts, outages: [], optimal: false }, at)
    expect(planned.tasks.map((t) => t.id)).toEqual(tasks.map((t) => t.id))
    expect(brokenRules(planned, tasks, newDay())).toEqual([])
  })
  it('gives electrical work to those who do it, and nobody work while he is not there', async () => {
    const people = [
      { id: 'a', name: 'Ann', untilMin: 600 },
      { id: 'b', name: 'Ben', helper: true as const },
    ]
    const day = { ...newDay(), people }
    const tasks = [
      task('fit', { skilled: 1, minutes: 60 }),
      task('dig', { minutes: 60 }),
      task('test', { skilled: 1, minutes: 60, after: ['dig'] }),
    ]
    const { planned } = await plan(tasks, day)
    expect(brokenRules(planned!, tasks, day)).toEqual([])
    const who = new Map(placedOn(planned!, tasks, day).map((p) => [p.task.id, p]))
    expect([who.get('fit')!.people, who.get('dig')!.people, who.get('test')!.people]).toEqual([[0], [1], [0]])
    expect(who.get('test')!.endMin).toBe(600)
    // An hour less of the one who may do it, and the rest waits for tomorrow.
    const shorter = { ...day, people: [{ ...people[0]!, untilMin: 570 }, people[1]!] }
    const found = await planDays({ tasks, day: shorter, done: new Set(), fromMin: 480, at }, (input) => dayPlan(dayPlanInput.parse(input)))
    expect('planned' in found && found.planned.tasks.map((t) => Math.floor(t.startMin / 1440)).toSorted()).toEqual([0, 0, 1])
    expect('planned' in found && brokenRules(found.planned, tasks, shorter)).toEqual([])
    const nobody = { ...day, people: [people[1]!] }
    expect((await plan(tasks, nobody)).found.findings[0]!.message).toContain('skilled hands')
    // Read by hand: what nobody who may is there for is said.
    const span = (id: string, startMin: number) => ({ id, startMin, endMin: startMin + 60 })
    expect(
      brokenRules({ at, tasks: [span('fit', 580), span('dig', 480), span('test', 640)], outages: [], optimal: false }, tasks, day),
    ).toEqual([
      '“fit” needs a person who may do it and is there throughout.',
      '“test” needs a person who may do it and is there throughout.',
    ])
  })
  it('has the outside before the rain and the inside before the outside, by what either matters', async () => {
    const tasks = [task('in'), task('out', { outside: true })]
    const order = async (wishes: NonNullable<DayRecord['wishes']>) => {
      const { planned } = await plan(tasks, { ...newDay(), wishes })
      return planned!.tasks.toSorted((a, b) => a.startMin - b.startMin).map((t) => t.id)
    }
    expect(await order({ rainFromMin: 515, outsideBeforeRain: 5, insideBeforeOutside: 0 })).toEqual(['out', 'in'])
    expect(await order({ rainFromMin: null, outsideBeforeRain: 5, insideBeforeOutside: 1 })).toEqual(['in', 'out'])
    // Half an hour in the rain at five a minute, against half an hour of waiting at six.
    expect(await order({ rainFromMin: 510, outsideBeforeRain: 5, insideBeforeOutside: 6 })).toEqual(['in', 'out'])
    expect(await order({ rainFromMin: 510, outsideBeforeRain: 7, insideBeforeOutside: 6 })).toEqual(['out', 'in'])
  })
  it('is off no longer than the point that bears the least', async () => {
    const day = { ...newDay(), mostOffMin: 60, holds: { fridge: 45, alarm: 90 } }
    const tasks = [task('a', { power: 'off' }), task('b', { power: 'off' })]
    const { planned } = await plan(tasks, day)
    expect(planned!.outages).toHaveLength(2)
    expect(brokenRules(planned!, tasks, day)).toEqual([])
    expect(mostOff({ mostOffMin: null, holds: {} })).toBeNull()
  })
  it('says what is done outside in the dark, by where it is and on which day', () => {
    const noon = daylightOn({ date: '2026-06-21', place: { north: 0, east: -new Date(2026, 5, 21).getTimezoneOffset() / 4 } })!
    // On the equator, by its own clock, the sun is up for half of the day.
    expect(noon.untilMin - noon.fromMin).toBeGreaterThan(715)
    expect(noon.untilMin - noon.fromMin).toBeLessThan(735)
    expect(daylightOn({ date: null, place: { north: 0, east: 0 } })).toBeNull()
    expect(daylightOn({ date: '2026-06-21', place: { north: 50, east: null } })).toBeNull()
    expect(daylightOn({ date: '2026-06-21', place: { north: 80, east: 0 } })).toEqual({ fromMin: 0, untilMin: 1440 })
    expect(daylightOn({ date: '2026-12-21', place: { north: 80, east: 0 } })).toEqual({ fromMin: 720, untilMin: 720 })
    const at8 = (outside: boolean) => ({ task: task('x', { outside }), startMin: 480, endMin: 510, people: [0], why: '' })
    expect(inTheDark([at8(true), at8(false)], { fromMin: 490, untilMin: 1000 })).toEqual([at8(true)])
    expect(inTheDark([at8(true)], { fromMin: 480, untilMin: 510 })).toEqual([])
  })
  it('is seen to break what it breaks', () => {
    const tasks = [
      task('a'),
      task('b', { after: ['a'], power: 'off', latestMin: 500 }),
      task('c', { power: 'on' }),
      task('d', { people: 2 }),
    ]
    const span = (id: string, startMin: number) => ({ id, startMin, endMin: startMin + 30 })
    const planned = {
      at,
      tasks: [span('a', 480), span('b', 490), span('c', 510), span('d', 1000)],
      outages: [{ fromMin: 500, toMin: 520 }],
      optimal: true,
    }
    expect(brokenRules(planned, tasks, { ...newDay(), mostOffMin: 10 })).toEqual([
      '“b” begins before what it waits for.',
      '“b” ends too late.',
      '“b” is done dead, and the supply is on.',
      '“c” needs the supply, and it is off.',
      'The supply is off longer than it may be.',
      'At 8:10 more hands are asked for than there are.',
      'At 8:30 more hands are asked for than there are.',
      'At 16:40 more hands are asked for than there are.',
      'The day is too short for it.',
    ])
  })
})

describe('isolation', () => {
  const card = (i: number, ...edits: Parameters<typeof after>[1][]) => {
    const job = demo(i, ...edits)
    const report = evaluate(job, [])
    const tasks = tasksOf(job, report)
    return { tasks, cards: isolationCards(job, report, job.day ?? newDay(), tasks) }
  }
  const found = (i: number, ...edits: Parameters<typeof after>[1][]) => {
    const job = demo(i, ...edits)
    const report = evaluate(job, [])
    const [first] = isolationCards(job, report, job.day ?? newDay(), tasksOf(job, report))
    return isolationFound(job, report.circuits, first!.places)
  }
  it('of work in the board opens its main switch, and says what stays live and what must hold', () => {
    const whole = found(1)
    expect(whole.opens).toEqual(['the main switch of Hall consumer unit'])
    expect(whole.staysLive[0]).toContain('incoming')
    expect(whole.mustHold).toEqual(['Fridge'])
    expect(whole.loses).toEqual(expect.arrayContaining(['Hall lights', 'Stage left']))
    expect([...whole.ways.values()]).not.toContain('live')
    expect(card(1).cards[0]!.proved).toBe(false)
    const ahead = found(1, { kind: 'way.set', id: 'h4', patch: { ahead: true } })
    expect(ahead.staysLive).toContain('Lights, stage?: taken off ahead of the main switch')
    expect(ahead.ways.get('h4')).toBe('live')
    expect(ahead.loses).not.toContain('Stage lights')
    expect(found(1, { kind: 'board.set', id: 'main', patch: { mainSwitch: 'single-pole' } }).staysLive[1]).toContain('neutral')
  })
  it('is not known while the main switch was not looked at, and is shut then', () => {
    const { cards, tasks } = card(1, { kind: 'board.set', id: 'main', patch: { mainSwitch: 'unknown' } })
    expect(cards[0]!.unknown).toEqual(['Not checked: which poles the main switch of Hall consumer unit opens.'])
    const board = tasks.find((t) => t.kind === 'board')!
    expect(shutFor(board, cards)).toContain('Not checked')
    expect(
      shutFor(
        tasks.find((t) => t.power === 'any')!,
        cards,
      ),
    ).toBeNull()
  })
  it('lets work on it begin once it is proved and signed, and not before', () => {
    const { cards, tasks } = card(1)
    const board = tasks.find((t) => t.kind === 'board')!
    expect(shutFor(board, cards)).toMatch(/not proved dead/)
    const met = { isolation: { open: true, met: true, why: '' } }
    const proved = cards.map((c) => ({
      ...c,
      proved: true,
      circuits: c.circuits.map((x) => ({ ...x, testReport: { ...x.testReport, phase: { ...x.testReport.phase, ...met } } })),
    }))
    expect(shutFor(board, proved)).toMatch(/not signed/)
    const signature = { id: 's', circuits: ['c1'], name: 'Ann', told: '', at }
    expect(
      shutFor(
        board,
        proved.map((c) => ({ ...c, signatures: [signature] })),
      ),
    ).toBeNull()
  })
})

describe('a signature', () => {
  const readings = (at: string) =>
    evaluate(demo(2), [])
      .byCircuit.get('c1')!
      .tests.filter((t) => t.phase === 'isolation')
      .map((t, i) => ({ id: `r${i}`, circuit: 'c1', point: null, test: t.id, at, by: '', instrument: '', note: '', corrects: null }))
  const signed = (at: string) => ({ kind: 'isolation.sign' as const, signature: { id: 's', circuits: ['c1'], name: 'Ann', told: '', at } })
  it('that is older than the last proof counts no more', () => {
    const cardsOf = (proof: string, signature: string) => {
      const job = demo(2, signed(signature))
      const report = evaluate(job, readings(proof).map((r) => ({ ...r, value: 0, mark: null, unit: '', on: null })) as never)
      const tasks = tasksOf(job, report).filter((t) => t.circuit === 'c1')
      return isolationCards(job, report, job.day!, tasks)[0]!.signatures.length
    }
    expect(cardsOf('2026-11-27T08:00:00.000Z', '2026-11-27T09:00:00.000Z')).toBe(1)
    expect(cardsOf('2026-11-27T09:30:00.000Z', '2026-11-27T09:00:00.000Z')).toBe(0)
  })
  it('is wanted for work of one’s own that is done dead, too', () => {
    const job = demo(2)
    const tasks = tasksOf(job, evaluate(job, []))
    const cards = isolationCards(job, evaluate(job, []), newDay(), tasks)
    expect(shutFor(task('own', { circuit: null, power: 'off' }), cards)).toMatch(/No isolation is proved/)
    expect(shutFor(task('own', { circuit: null, power: 'any' }), cards)).toBeNull()
  })
})

describe('what is needed', () => {
  it('is counted from the design, alike things together, and what cannot be counted is said', () => {
    const job = demo(2)
    const { lines, unknown } = materialsOf(job, evaluate(job, []))
    const line = (id: RegExp) => lines.find((l) => id.test(l.id))!
    expect(line(/^accessory za-socket-16$/)).toMatchObject({ count: 2, where: ['Warming cabinet', 'Extractor'] })
    expect(line(/^box za-surface-50$/).count).toBe(3)
    expect(line(/^cable/).unit).toBe('m')
    // What is there already is not bought: the altered circuit has its breaker.
    expect(lines.filter((l) => l.id.startsWith('breaker')).reduce((n, l) => n + l.count, 0)).toBe(3)
    expect(unknown).toEqual([])
    const open = demo(2, { kind: 'run.set', circuit: 'c1', patch: { lengthM: null } })
    expect(materialsOf(open, evaluate(open, [])).unknown).toContainEqual(expect.stringContaining('Warming cabinet'))
  })
  it('says usual figures, reckons with the firm’s own, and adds margin and tax only where they are said', () => {
    const of = (job: ReturnType<typeof demo>) => offerOf(job, materialsOf(job, evaluate(job, [])), tasksOf(job, evaluate(job, [])))
    const bare = of(demo(2))
    expect(bare).toMatchObject({ usual: true, margin: 0, tax: 0 })
    expect(bare.unknown.filter((u) => u.startsWith('No '))).toHaveLength(3)
    const own = of(
      demo(2, { kind: 'price.set', name: 'an hour', amount: 100 }, { kind: 'day.set', patch: { marginPercent: 10, taxPercent: 20 } }),
    )
    expect(own.labour).toBeCloseTo(own.labourH * 100, 9)
    expect(own.margin).toBeCloseTo((own.labour + own.materials) / 10, 9)
    expect(own.total).toBeCloseTo((own.labour + own.materials) * 1.1 * 1.2, 9)
  })
  it('is in the reader’s units', () => {
    expect(amountWords({ count: 3.048, unit: 'm' }, 'imperial')).toBe('10 ft')
    expect(amountWords({ count: 3, unit: '' }, 'imperial')).toBe('3')
  })
})

describe('the log', () => {
  const row = (job: string, tookMin: number, expectedMin = 10): LoggedTask => ({ job, kind: 'box', expectedMin, tookMin, note: '' })
  it('says how many times what was thought a task takes, by the middle, what lies far off left out and counted', () => {
    const rows = [row('1', 12), row('2', 13), row('3', 13), row('4', 14), row('5', 300)]
    expect(learnt(rows)).toMatchObject([{ kind: 'box', factor: 1.3, times: 4, jobs: 5, leftOut: 1, enough: true }])
  })
  it('learns nothing from too few jobs, however many tasks', () => {
    const of = (jobs: number) => learnt(Array.from({ length: 9 }, (_, i) => row(String(i % jobs), 12)))[0]!.enough
    expect([of(LEAST_JOBS - 1), of(LEAST_JOBS)]).toEqual([false, true])
  })
})

describe('a time of the day', () => {
  it.each([
    ['8', 480],
    ['8:30', 510],
    ['8.05', 485],
    ['1630', 990],
    ['0:00', 0],
    ['23:59', 1439],
  ])('%s is %d minutes after midnight', (typed, min) => expect(readClock(typed)).toBe(min))
  it.each(['', '24:00', '8:60', 'noon', '-1', '12345'])('%s is none', (typed) => expect(readClock(typed)).toBeUndefined())
})

const own: OwnTask = {
  id: 'o1',
  name: 'Lunch',
  kind: 'break',
  minutes: 30,
  people: 2,
  power: 'on',
  after: [],
  earliestMin: 720,
  latestMin: 780,
}
it('what was added is on the day, and no outage crosses a break that wants the supply', async () => {
  const day = { ...newDay(), people: two, own: [own] }
  const tasks = [task('a', { power: 'off', minutes: 200 }), task('o1', { ...own, circuit: null, skilled: 0 })]
  const { planned } = await plan(tasks, day)
  expect(brokenRules(planned!, tasks, day)).toEqual([])
  const [a, lunch] = ['a', 'o1'].map((id) => planned!.tasks.find((t) => t.id === id)!)
  expect(a!.endMin <= lunch!.startMin || a!.startMin >= lunch!.endMin).toBe(true)
})

describe('the day, drawn', () => {
  it('says when a task begins that is let go with its middle where it is drawn, to five minutes', () => {
    const job = demo(2)
    const day = { ...newDay(), people: [newDay().people[0]!] }
    let from = day.startMin
    const tasks = tasksOf(job, evaluate(job, []))
    const spans = tasks.map((t) => ({ id: t.id, startMin: from, endMin: (from += t.minutes) }))
    const placed = placedOn({ at: '', tasks: spans, outages: [], optimal: false }, tasks, day)
    const asked = { placed, outages: [], ...day, done: new Set<string>(), doing: new Set<string>(), format: 'wide' as const }
    const { shapes } = timelineDrawing(asked)
    for (const p of placed) {
      const drawn = shapes.find((s) => s.kind === 'rect' && s.part === `task:${p.task.id}`)!
      if (drawn.kind !== 'rect') continue
      expect(Math.abs(begunAt(asked, drawn.x + drawn.w / 2, p.task.minutes) - p.startMin)).toBeLessThanOrEqual(2.5 + 1e-6)
    }
    expect(begunAt(asked, -1000, 10)).toBe(day.startMin)
  })
  it('names every outage, however close upon each other they come, on nothing that is written already', () => {
    const job = demo(2)
    const day = { ...newDay(), people: [newDay().people[0]!] }
    const tasks = tasksOf(job, evaluate(job, []))
    const spans = tasks.map((t, i) => ({ id: t.id, startMin: 480 + 10 * i, endMin: 490 + 10 * i }))
    for (const many of [1, 3, 8]) {
      const outages = Array.from({ length: many }, (_, i) => ({ fromMin: 575 + 52 * i, toMin: 605 + 52 * i }))
      const placed = placedOn({ at: '', tasks: spans, outages, optimal: false }, tasks, day)
      const asked = { placed, outages, ...day, done: new Set<string>(), doing: new Set<string>(), format: 'wide' as const }
      const drawn = timelineDrawing(asked)
      const said = drawn.shapes.flatMap((s) => (s.kind === 'text' && s.text.startsWith('off ') ? [s.text] : []))
      expect(said).toEqual(outages.map((o) => `off ${hour(o.fromMin)} to ${hour(o.toMin)}`))
      expect(collisionsIn(drawn)).toMatchObject({ texts: [], cut: [] })
    }
  })
  it('names a task in as many lines as it is long, and by its number alone where it is narrow', () => {
    const long = 'Store plugs, lengthened: run the cable'
    const day = { ...newDay(), people: [newDay().people[0]!] }
    const said = (format: 'wide' | 'narrow', minutes: number) => {
      const tasks = [{ ...task('a', { minutes }), name: long }]
      const spans = [{ id: 'a', startMin: day.startMin, endMin: day.startMin + minutes }]
      const placed = placedOn({ at: '', tasks: spans, outages: [], optimal: false }, tasks, day)
      const { shapes } = timelineDrawing({ placed, outages: [], ...day, done: new Set(), doing: new Set(), format })
      const drawn = shapes.find((s) => s.kind === 'rect' && s.part === 'task:a')!
      const lines = shapes.flatMap((s) => (s.kind === 'text' && s.part === 'task:a' ? [s] : []))
      // Each line within the task.
      if (drawn.kind === 'rect')
        for (const l of lines) {
          expect(l.y).toBeGreaterThan(drawn.y + 9)
          expect(l.y).toBeLessThanOrEqual(drawn.y + drawn.h - 4)
        }
      return lines.map((l) => l.text).join(' ')
    }
    expect(said('narrow', 60)).toBe(`1 ${long}`)
    expect(said('wide', 300)).toBe(`1 ${long}`)
    expect(said('narrow', 16)).toMatch(/^1 Store plugs, .*…$/)
    expect(said('narrow', 13)).toBe('')
    expect(said('wide', 60)).toBe('1')
  })
  it('has a task begin no earlier than it was put', () => {
    const day = { ...newDay(), notBefore: { clear: 900 } }
    const job = demo(2, { kind: 'task.hold', task: 'clear', earliestMin: 900 })
    const tasks = tasksOf(job, evaluate(job, []))
    expect(tasks.find((t) => t.id === 'clear')!.earliestMin).toBe(900)
    const asked = dayAsked(tasks, day)
    expect(asked.input.tasks.find((t) => t.id === 'clear')!.earliestMin).toBe(900)
  })
})

describe('a day that cannot be done', () => {
  const own = (patch: Partial<OwnTask> = {}): Parameters<typeof after>[1] => ({
    kind: 'task.add',
    item: {
      id: 'z',
      name: 'Z',
      kind: 'work',
      minutes: 60,
      people: 1,
      power: 'any',
      after: [],
      earliestMin: null,
      latestMin: null,
      ...patch,
    },
  })
  const set = (patch: Partial<DayRecord>): Parameters<typeof after>[1] => ({ kind: 'day.set', patch })
  const said = (...edits: Parameters<typeof after>[1][]) => {
    const job = demo(2, set({ startMin: 480 }), ...edits)
    return dayFindings(job, evaluate(job, [])).flatMap((f) => (f.severity === 'error' || f.severity === 'warning' ? [f.rule] : []))
  }
  const people = (untilMin: number): DayRecord['people'] => [{ id: 'p1', name: 'Ada', untilMin }]
  const longest = () => {
    const job = demo(2, set({ startMin: 480 }))
    const tasks = tasksOf(job, evaluate(job, []))
    const most = (list: readonly Task[]) => Math.max(...list.map((t) => t.minutes))
    return { any: most(tasks.filter((t) => t.people > 0)), off: most(tasks.filter((t) => t.power === 'off')) }
  }
  it('says whose window, whose hours and which outage is too short, on either side of each limit', () => {
    expect(said()).toEqual([])
    expect(said(own({ earliestMin: 600, latestMin: 660 }))).toEqual([])
    expect(said(own({ earliestMin: 600, latestMin: 659 }))).toEqual(['day-window-too-short'])
    expect(said(set({ people: people(480 + longest().any) }))).toEqual([])
    expect(said(set({ people: people(480 + longest().any - 1) }))).toEqual(['day-person-leaves'])
    expect(said(set({ mostOffMin: longest().off + 10 }))).toEqual([])
    expect(said(set({ mostOffMin: longest().off + 9 }))).toEqual(['day-off-too-short'])
  })
})

describe('a quotation that was accepted', () => {
  const at2 = '2026-12-01T09:00:00.000Z'
  const accept = (total: number, by = 'The beekeeper'): Parameters<typeof after>[1] => ({
    kind: 'quotation.accept',
    accepted: { at: at2, by, total },
  })
  const vary = (id: string, amount: number): Parameters<typeof after>[1] => ({
    kind: 'variation.add',
    item: { id, at: at2, words: 'One more outlet', amount, agreedBy: 'The beekeeper' },
  })
  const agreed = (...edits: Parameters<typeof after>[1][]) => agreedOf(demo(2, ...edits).record.day ?? newDay(), { total: 1000 })
  it('is the sum of what was accepted and agreed since, against what the work comes to now', () => {
    expect(agreed()).toBeNull()
    expect(agreed(accept(900))).toEqual({ total: 900, notAgreed: 100 })
    expect(agreed(accept(900), vary('a', 150), vary('b', -50))).toEqual({ total: 1000, notAgreed: 0 })
    expect(agreed(accept(900), vary('a', 150), { kind: 'variation.remove', id: 'a' })).toEqual({ total: 900, notAgreed: 100 })
  })
  it('has somebody who accepted it, and is not taken back under what was agreed on top of it', () => {
    expect(() => demo(2, accept(900, ' '))).toThrow('Who accepted it?')
    expect(() => demo(2, vary('a', 1))).toThrow('Nothing was accepted yet')
    const back = { kind: 'quotation.accept', accepted: null } as const
    expect(() => demo(2, accept(900), vary('a', 1), back)).toThrow('take those off first')
    expect(agreed(accept(900), back)).toBeNull()
  })
})

describe('a hold point', () => {
  it('comes after all that walls hide, and nothing is closed before it', () => {
    const hold = {
      id: 'look',
      name: 'Inspection',
      kind: 'hold',
      minutes: 30,
      people: 1,
      power: 'any',
      after: [],
      earliestMin: null,
      latestMin: null,
    } as const
    const routed = read(readJobFile(JSON.parse(readFileSync('tests/jobs/sound3-na-routed-house-walls-only.json', 'utf8'))).job)
    const set = (...edits: Edit[]) => read(edits.reduce((j, e) => applyEdit(j, e).job, routed.record))
    const job = set({ kind: 'task.add', item: { ...hold, after: [] } })
    const report = evaluate(job, [])
    const tasks = tasksOf(job, report)
    const closing = tasks.filter((t) => t.kind === 'close')
    expect(closing.length).toBeGreaterThan(0)
    expect(closing.every((t) => t.after.includes('look'))).toBe(true)
    const look = tasks.find((t) => t.id === 'look')!
    expect(look.after).toEqual(expect.arrayContaining(tasks.filter((t) => t.kind === 'pull' || t.kind === 'box').map((t) => t.id)))
    const said = (j: ReturnType<typeof read>) => dayFindings(j, evaluate(j, [])).map((f) => f.rule)
    expect(said(job)).not.toContain('day-no-hold-point')
    expect(said(set({ kind: 'day.set', patch: { startMin: 480 } }))).toContain('day-no-hold-point')
  })
})

describe('work of more than one day', () => {
  const plan = (input: Parameters<typeof dayPlan>[0]) => Promise.resolve(dayPlan(dayPlanInput.parse(input)))
  const asked = (tasks: readonly Task[], day: DayRecord) => ({ tasks, day, done: new Set<string>(), fromMin: day.startMin, at })
  const short = { ...newDay(), startMin: 480, endMin: 600 }

  it('goes on the next morning, in order, each day within its hours, and breaks no rule', async () => {
    const chain = ['a', 'b', 'c', 'd', 'e'].map((id, i, all) => task(id, { minutes: 50, after: i ? [all[i - 1]!] : [] }))
    const found = await planDays(asked(chain, short), plan)
    if ('wrong' in found) throw new Error(found.wrong)
    const { planned } = found
    expect(planned.tasks.map((t) => [t.id, t.startMin])).toEqual([
      ['a', 480],
      ['b', 530],
      ['c', 1920],
      ['d', 1970],
      ['e', 3360],
    ])
    expect(brokenRules(planned, chain, short)).toEqual([])
    const days = daysOf(placedOn(planned, chain, short), planned.outages)
    expect(days.map((d) => [d.before, d.placed.map((p) => `${p.task.id} ${clock(p.startMin)}`)])).toEqual([
      [0, ['a 8:00', 'b 8:50']],
      [2, ['c 8:00', 'd 8:50']],
      [4, ['e 8:00']],
    ])
    expect(placedOn(planned, chain, short)[2]!.why).toBe('')
    expect(clock(planned.tasks[2]!.startMin)).toBe('day 2, 8:00')
  })
  it('is one day where it fits to the minute, and two where it does not', async () => {
    const days = async (minutes: number) => {
      const found = await planDays(asked([task('a', { minutes: 60 }), task('b', { minutes, after: ['a'] })], short), plan)
      return 'wrong' in found ? found.wrong : daysOf(placedOn(found.planned, [task('a'), task('b')], short), []).length
    }
    expect(await days(60)).toBe(1)
    expect(await days(61)).toBe(2)
    expect(await days(121)).toMatch(/^Nothing of what is left ends by 10:00: b/)
  })
  it('begins at its time when the rest is planned: on the second day, or the morning after where an evening is over', async () => {
    const from = async (fromMin: number) => {
      const found = await planDays({ ...asked([task('a', { minutes: 60 })], short), fromMin }, plan)
      return 'wrong' in found ? found.wrong : found.planned.tasks[0]!.startMin
    }
    expect(await from(500)).toBe(500)
    expect(await from(1440 + 510)).toBe(1950)
    expect(await from(1440 + 560)).toBe(2 * 1440 + 480)
  })
  it('keeps a promise of power at an hour on every day', async () => {
    const day = { ...newDay(), startMin: 480, endMin: 780 }
    const noon = task('noon', {
      kind: 'promise',
      name: 'Power at noon',
      people: 0,
      power: 'on',
      minutes: 60,
      earliestMin: 600,
      latestMin: 660,
    })
    const dead = ['a', 'b', 'c', 'd'].map((id) => task(id, { power: 'off', minutes: 100 }))
    const found = await planDays(asked([noon, ...dead], day), plan)
    if ('wrong' in found) throw new Error(found.wrong)
    const { planned } = found
    expect(planned.tasks.map((t) => t.id).toSorted()).toEqual(['a', 'b', 'c', 'd', 'noon'])
    expect(Math.max(...planned.tasks.map((t) => t.endMin))).toBeGreaterThan(1440)
    for (const o of planned.outages) {
      const [from, to] = [o.fromMin % 1440, ((o.toMin - 1) % 1440) + 1]
      expect(to <= 600 || from >= 660, `${clock(o.fromMin)} to ${clock(o.toMin)}`).toBe(true)
    }
    expect(brokenRules(planned, [noon, ...dead], day)).toEqual([])
    const broken = { ...planned, outages: [...planned.outages, { fromMin: 1440 + 590, toMin: 1440 + 670 }] }
    expect(brokenRules(broken, [noon, ...dead], day).join()).toMatch(
      /“Power at noon” is promised every day, and on day 2 the supply is off/,
    )
  })
  it('that was put on a later day waits for it, with all that waits for it', async () => {
    const list = [task('a', { earliestMin: 1440 + 500, minutes: 30 }), task('b', { after: ['a'], minutes: 30 }), task('c', { minutes: 30 })]
    const found = await planDays(asked(list, short), plan)
    if ('wrong' in found) throw new Error(found.wrong)
    const starts = Object.fromEntries(found.planned.tasks.map((t) => [t.id, t.startMin]))
    expect(starts).toEqual({ c: 480, a: 1940, b: 1970 })
  })
})

describe('the tools of a day', () => {
  const toolsIn = (i: number) => {
    const job = demo(i)
    const report = evaluate(job, [])
    const tasks = tasksOf(job, report)
    const named = (list: readonly Task[]) => toolsOf(job, report, list).map((t) => t.name)
    return { names: named(tasks), hot: named(tasks.map((t) => ({ ...t, hot: true }))), none: named([]) }
  }
  it('are those its tasks ask for: what proves dead always, a saw only for a finished wall, a bender only for bent pipe', () => {
    for (const i of [0, 1, 2]) {
      const { names } = toolsIn(i)
      expect(names[0]).toBe('Two-pole voltage tester, and what proves it')
      expect(names).toContain('Torque screwdriver')
      expect(names.includes('Loop tester')).toBe(i > 0)
      expect(names.includes('Bender or former of its size')).toBe(i === 0)
      expect(new Set(names).size).toBe(names.length)
    }
    const lamp = 'Head lamp, knee pads and water, for the hot space'
    expect([toolsIn(0).names.includes(lamp), toolsIn(0).hot.includes(lamp)]).toEqual([false, true])
    expect(toolsIn(2).names).not.toContain('Pad saw, and the template of the box')
  })
  it('are none for a day on which nothing is done', () => {
    expect(toolsIn(2).none).toEqual([])
  })
})
