import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { InputError } from '../base/input-error'
import { type DayPlan, type DayPlanInput, dayPlanInput, outagesOf } from './day'
import { FACTORS_A_SECOND, gridOf } from './day-grid'
import { boundsOf, dayOf, dayPlan } from './day-plan'

const START = 480
type Typed = Partial<DayPlanInput['tasks'][number]> & { id: string; minutes: number }
const day = (crew: number, ...tasks: Typed[]): DayPlanInput =>
  dayPlanInput.parse({ startMin: START, crew, tasks: tasks.map((t) => ({ power: 'any', ...t })) })

/** The fewest minutes without power of tasks that start so, by trying every way to join or part them; null where a rule is broken. */
function outageByTrying(tasks: DayPlanInput['tasks'], starts: readonly number[]): number | null {
  const runs = (power: string) => {
    const minutes = new Set<number>()
    for (const [i, t] of tasks.entries()) if (t.power === power) for (let m = 0; m < t.minutes; m++) minutes.add(starts[i]! + m)
    return minutes
  }
  const [dead, live] = [runs('off'), runs('on')]
  const blocks: [number, number][] = []
  for (const m of [...dead].toSorted((a, b) => a - b)) {
    const last = blocks.at(-1)
    if (last && last[1] === m) last[1]++
    else blocks.push([m, m + 1])
  }
  let least: number | null = blocks.length ? null : 0
  const clear = (from: number, to: number) => {
    for (let m = from; m < to; m++) if (live.has(m)) return false
    return true
  }
  for (let parted = 0; parted < 2 ** Math.max(0, blocks.length - 1); parted++) {
    const spans: [number, number][] = []
    for (const [i, [from, to]] of blocks.entries())
      if (i && !(parted & (1 << (i - 1)))) spans.at(-1)![1] = to
      else spans.push([i ? from - 10 : from, to])
    if (!spans.every(([a, b], i) => clear(a, b) && (i === 0 || a >= spans[i - 1]![1]))) continue
    const all = spans.reduce((sum, [a, b]) => sum + b - a, 0)
    if (least === null || all < least) least = all
  }
  return blocks.length && least === null ? null : [...live].some((m) => dead.has(m)) ? null : least
}

/** Whether the tasks can be shared out between skilled hands and others, each at one task from its begin to its end. */
function someTeam(
  { crew, skilled, away, tasks }: Required<Pick<DayPlanInput, 'crew' | 'skilled' | 'away' | 'tasks'>>,
  starts: readonly number[],
): boolean {
  // Hands grow scarcer only where a task begins or somebody leaves.
  const instants = away.length ? [...starts, ...away.map((a) => a.fromMin)] : starts
  const share = (able: readonly number[]): boolean => {
    if (able.length < tasks.length) {
      const { crew: all, skilled: least = 0 } = tasks[able.length]!
      const ways = skilled === crew ? [all] : Array.from({ length: all - least + 1 }, (_, k) => least + k)
      return ways.some((n) => share([...able, n]))
    }
    return instants.every((m) => {
      let [skills, others] = [skilled, crew - skilled]
      for (const a of away) if (a.fromMin <= m && m < a.toMin) [skills, others] = [skills - a.skilled, others - (a.crew - a.skilled)]
      for (const [i, t] of tasks.entries())
        if (starts[i]! <= m && m < starts[i]! + t.minutes) [skills, others] = [skills - able[i]!, others - (t.crew - able[i]!)]
      return skills >= 0 && others >= 0
    })
  }
  return share([])
}

/** Whether starts keep to every rule of the day, minute by minute. */
function allowed({ crew, skilled = crew, away = [], tasks, startMin }: DayPlanInput, starts: readonly number[]): boolean {
  const end = (i: number) => starts[i]! + tasks[i]!.minutes
  const inTime = tasks.every((t, i) => {
    if (starts[i]! < Math.max(startMin, t.earliestMin ?? 0) || end(i) > (t.latestMin ?? Infinity)) return false
    return t.after.every((id) => end(tasks.findIndex((x) => x.id === id)) <= starts[i]!)
  })
  // Sharing out is much the longer question.
  return inTime && someTeam({ crew, skilled, away, tasks }, starts)
}

/** What wishes cost, minute by minute. */
const costByMinutes = (tasks: DayPlanInput['tasks'], starts: readonly number[]): number =>
  tasks.reduce((sum, { wish, minutes }, i) => {
    let cost = 0
    for (let m = START; m < starts[i]!; m++) cost += wish?.soon ?? 0
    for (let m = starts[i]!; m < starts[i]! + minutes; m++) if (wish?.notPast !== undefined && m >= wish.notPast) cost += wish.past ?? 0
    return sum + cost
  }, 0)

/** The least finish, outage and cost of wishes by trying every start on the grid. */
function byTrying(input: DayPlanInput, step: number): readonly [number, number, number] | null {
  const { tasks, away = [] } = input
  const last =
    Math.max(START, ...tasks.map((t) => t.earliestMin ?? 0), ...away.map((a) => a.toMin)) +
    tasks.reduce((sum, t) => sum + t.minutes + 10, 0)
  let least: readonly [number, number, number] | null = null
  const place = (starts: readonly number[]): void => {
    if (starts.length < tasks.length) {
      const { minutes } = tasks[starts.length]!
      for (let t = START; t + minutes <= (least ? least[0] : last); t += step) place([...starts, t])
      return
    }
    if (!allowed(input, starts)) return
    const outage = outageByTrying(tasks, starts)
    const finish = Math.max(START, ...tasks.map((t, i) => starts[i]! + t.minutes))
    if (outage === null) return
    const all = [finish, outage, costByMinutes(tasks, starts)] as const
    const at = least ? all.findIndex((x, i) => x !== least![i]) : 0
    if (!least || (at >= 0 && all[at]! < least[at]!)) least = all
  }
  place([])
  return least
}

/** A plan keeps to the rules, and its own figures are right. */
function keeps(input: DayPlanInput, plan: DayPlan): void {
  const starts = plan.tasks.map((t) => t.startMin)
  expect(allowed(input, starts)).toBe(true)
  expect(plan.tasks.map((t) => t.endMin - t.startMin)).toEqual(input.tasks.map((t) => t.minutes))
  expect(plan.finishMin).toBe(Math.max(START, ...plan.tasks.map((t) => t.endMin)))
  expect(plan.outageMin).toBe(plan.outages.reduce((sum, o) => sum + o.toMin - o.fromMin, 0))
  expect(plan.outageMin).toBe(outageByTrying(input.tasks, starts))
}

describe('a day’s plan', () => {
  const anyDay = fc
    .tuple(
      fc.integer({ min: 1, max: 2 }),
      fc.array(
        fc.record({
          minutes: fc.integer({ min: 1, max: 4 }).map((n) => n * 5),
          crew: fc.integer({ min: 1, max: 2 }),
          power: fc.constantFrom('any' as const, 'off' as const, 'on' as const),
          after: fc.array(fc.integer({ min: 0, max: 2 }), { maxLength: 2 }),
          earliest: fc.option(fc.integer({ min: 0, max: 8 }), { freq: 4 }),
          latest: fc.option(fc.integer({ min: 4, max: 14 }), { freq: 4 }),
        }),
        { minLength: 1, maxLength: 4 },
      ),
    )
    .map(([crew, list]) =>
      day(
        crew,
        ...list.map(({ earliest, latest, after, ...t }, i) => ({
          ...t,
          id: `t${i}`,
          after: [...new Set(after)].filter((k) => k < i).map((k) => `t${k}`),
          ...(earliest === null ? {} : { earliestMin: START + earliest * 5 }),
          ...(latest === null ? {} : { latestMin: START + latest * 5 }),
        })),
      ),
    )
  it('ends the soonest, with the least time without power, as trying every start finds', async () => {
    await fc.assert(
      fc.asyncProperty(anyDay, async (input) => {
        const wanted = byTrying(input, 5)
        const plan = await dayPlan({ ...input, seconds: 60 })
        if (wanted === null) {
          expect(plan).toMatchObject({ tasks: [], outages: [], findings: [{ rule: 'plan-impossible', severity: 'error' }] })
          return
        }
        expect(plan.findings).toEqual([])
        keeps(input, plan)
        expect([plan.finishMin, plan.outageMin, plan.optimal]).toEqual([wanted[0], wanted[1], true])
      }),
      { numRuns: 60 },
    )
  })
  it('with hands of which some are skilled and some come and go, and with wishes, as trying every start finds', async () => {
    const fives = (min: number, max: number) => fc.integer({ min, max }).map((n) => START + n * 5)
    const anyHands = fc.record({
      skilled: fc.integer({ min: 0, max: 2 }),
      away: fc.array(fc.record({ fromMin: fives(0, 6), more: fc.integer({ min: 1, max: 4 }), skilled: fc.integer({ min: 0, max: 1 }) }), {
        maxLength: 1,
      }),
      wishes: fc.array(
        fc.record({
          skilled: fc.integer({ min: 0, max: 1 }),
          soon: fc.integer({ min: 0, max: 3 }),
          past: fc.integer({ min: 0, max: 3 }),
          notPast: fives(0, 8),
        }),
        { minLength: 4, maxLength: 4 },
      ),
    })
    await fc.assert(
      fc.asyncProperty(anyDay, anyHands, async (plain, { skilled, away, wishes }) => {
        const able = Math.min(skilled, plain.crew)
        const input = dayPlanInput.parse({
          ...plain,
          skilled: able,
          away: away.map((a) => ({
            fromMin: a.fromMin,
            toMin: a.fromMin + 5 * a.more,
            crew: 1,
            skilled: able === plain.crew ? 1 : Math.min(a.skilled, able),
          })),
          tasks: plain.tasks.slice(0, 3).map((t, i) => {
            const { skilled: wants, ...wish } = wishes[i]!
            return { ...t, after: t.after.filter((a) => a < 't3'), skilled: wants, wish }
          }),
        })
        const wanted = byTrying(input, 5)
        const plan = await dayPlan({ ...input, seconds: 60 })
        if (wanted === null) return void expect(plan.findings[0]?.rule).toBe('plan-impossible')
        keeps(input, plan)
        const cost = costByMinutes(
          input.tasks,
          plan.tasks.map((t) => t.startMin),
        )
        expect([plan.finishMin, plan.outageMin, cost, plan.optimal]).toEqual([...wanted, true])
        // What is proved by a bound is proved only if none beats it.
        const bounds = boundsOf(dayOf(input))
        expect(bounds.finishMin).toBeLessThanOrEqual(wanted[0])
        expect(bounds.outageMin).toBeLessThanOrEqual(wanted[1])
      }),
      { numRuns: 40 },
    )
  })
  it('says what no plan is better than where it is not proved the best, and only there', async () => {
    const easy = await dayPlan(day(1, { id: 'a', minutes: 10 }))
    expect(easy.bound).toBeUndefined()
    const many = Array.from({ length: 40 }, (_, i) => ({
      id: `t${i}`,
      minutes: 7 + ((i * 31) % 11) * 3,
      power: i % 4 === 0 ? ('off' as const) : i % 4 === 2 ? ('on' as const) : ('any' as const),
      after: i > 5 ? [`t${i - 6}`] : [],
    }))
    const hard = await dayPlan({ ...day(3, ...many), seconds: 1 })
    if (hard.optimal) return void expect(hard.bound).toBeUndefined()
    expect(hard.bound!.finishMin).toBeLessThanOrEqual(hard.finishMin)
    expect(hard.bound!.finishMin === hard.finishMin && hard.bound!.outageMin > hard.outageMin).toBe(false)
  })
  it('parts an outage only where that saves minutes', () => {
    const two = day(1, { id: 'a', minutes: 10, power: 'off' }, { id: 'b', minutes: 10, power: 'off' }).tasks
    expect(outagesOf(two, [480, 500])).toEqual([{ fromMin: 480, toMin: 510 }])
    expect(outagesOf(two, [480, 501])).toEqual([
      { fromMin: 480, toMin: 490 },
      { fromMin: 491, toMin: 511 },
    ])
  })
  it('isolates again before a later outage, with nothing live meanwhile', () => {
    const three = day(
      1,
      { id: 'a', minutes: 10, power: 'off' },
      { id: 'live', minutes: 5, power: 'on' },
      { id: 'b', minutes: 10, power: 'off' },
    ).tasks
    expect(outagesOf(three, [480, 490, 505])).toEqual([
      { fromMin: 480, toMin: 490 },
      { fromMin: 495, toMin: 515 },
    ])
    expect(outagesOf(three, [480, 490, 504])).toBeNull()
  })
  it('names what clashes', async () => {
    const said = async (...tasks: Typed[]) => (await dayPlan(day(1, ...tasks))).findings[0]?.message
    expect(
      await said({ id: 'a', minutes: 5, after: ['b'] }, { id: 'b', minutes: 5, after: ['a'] }, { id: 'c', minutes: 5, after: ['a'] }),
    ).toBe('a, b wait on each other.')
    expect(await said({ id: 'a', minutes: 5 }, { id: 'b', minutes: 5, after: ['a'], latestMin: 489 })).toBe(
      'b cannot end in time, after a.',
    )
    expect(await said({ id: 'a', minutes: 5, crew: 2 })).toBe('a takes 2 people, and there are 1.')
    await expect(dayPlan(day(1, { id: 'a', minutes: 5, after: ['x'] }))).rejects.toEqual(
      new InputError('tasks.0.after.0', 'There is no task with this id.'),
    )
    await expect(dayPlan(day(1, { id: 'a', minutes: 5 }, { id: 'a', minutes: 5 }))).rejects.toMatchObject({ path: 'tasks.1.id' })
  })
  it('of nothing is over at once', async () => {
    expect(await dayPlan(day(1))).toMatchObject({ finishMin: START, outageMin: 0, optimal: true, findings: [] })
  })
  it('of forty tasks keeps every rule, and says whether it is proved', async () => {
    const tasks = Array.from({ length: 40 }, (_, i) => ({
      id: `t${i}`,
      minutes: 5 + ((i * 37) % 9) * 5,
      crew: 1 + (i % 5 === 0 ? 1 : 0),
      power: i % 6 === 0 ? ('off' as const) : i % 11 === 10 ? ('on' as const) : ('any' as const),
      after: i > 3 && i % 3 === 0 ? [`t${i - 3}`] : [],
    }))
    const input = { ...day(3, ...tasks), seconds: 1 }
    keeps(input, await dayPlan(input))
  })
  it('writes a program no larger than the solver reads in the time there is', () => {
    const of = dayOf(day(2, ...Array.from({ length: 15 }, (_, i) => ({ id: `t${i}`, minutes: 7 + i, after: i > 1 ? [`t${i - 2}`] : [] }))))
    const grid = gridOf(of, START + 200, 60)!
    const factors = grid.rows.reduce((sum, r) => sum + r.sum.length, 0)
    const enough = factors / FACTORS_A_SECOND
    expect(gridOf(of, START + 200, enough + 1e-6)?.rows).toHaveLength(grid.rows.length)
    expect(gridOf(of, START + 200, enough - 1 / FACTORS_A_SECOND)).toBeNull()
    expect(gridOf(of, START + 200, 0)).toBeNull()
  })
})
