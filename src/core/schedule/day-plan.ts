import { type Program, type Row, solveProgram } from '../calculate/integer-program'
import { type Finding, listed } from '../base/finding'
import { InputError } from '../base/input-error'
import { atMost } from '../base/tolerance'
import {
  better,
  costOfStart,
  type Day,
  type DayPlan,
  type DayPlanInput,
  type DayTask,
  type Hands,
  ISOLATION_MIN,
  type Plan,
  planOf,
} from './day'
import { planByRule } from './day-by-rule'
import { type Grid, gridOf } from './day-grid'

/** Seconds for one day; a plan not proved best by then says so. */
const SECONDS = 3.6

const impossible = (message: string): Finding => ({ rule: 'plan-impossible', severity: 'error', clause: 'Plan of the day', message })
/** Tasks that clash, in words, as an answer: a plan is not made of them. */
class Clash extends Error {}

/** Topological order of the tasks, each after what it waits for. @throws Clash naming those on a cycle. */
function inOrder(tasks: readonly DayTask[], before: readonly (readonly number[])[]): readonly number[] {
  const order: number[] = []
  const left = new Set(tasks.keys())
  for (;;) {
    const next = [...left].filter((i) => before[i]!.every((b) => !left.has(b)))
    if (next.length === 0) break
    for (const i of next) {
      order.push(i)
      left.delete(i)
    }
  }
  // What only waits for a circle is not in it: only tasks that are waited for by others left are named.
  let circle = [...left]
  for (let size = -1; size !== circle.length;) {
    size = circle.length
    circle = circle.filter((i) => circle.some((k) => before[k]!.includes(i)))
  }
  if (circle.length) throw new Clash(`${listed(circle.map((i) => tasks[i]!.id))} wait on each other.`)
  return order
}

/** A day with its windows. @throws InputError at a wrong name, Clash where a task never fits within its own bounds. */
export function dayOf({ startMin, crew, skilled = crew, person = 1, away = [], tasks }: DayPlanInput): Day {
  const numbers = new Map<string, number>()
  for (const [i, t] of tasks.entries()) {
    if (numbers.has(t.id)) throw new InputError(`tasks.${i}.id`, 'There is a task with this id already.')
    numbers.set(t.id, i)
  }
  const before = tasks.map((t, i) =>
    t.after.map((id, k) => {
      const number = numbers.get(id)
      if (number === undefined) throw new InputError(`tasks.${i}.after.${k}`, 'There is no task with this id.')
      return number
    }),
  )
  const order = inOrder(tasks, before)
  for (const t of tasks) {
    if (t.crew > crew) throw new Clash(`${t.id} takes ${t.crew} people, and there are ${crew}.`)
    if ((t.skilled ?? 0) > skilled) throw new Clash(`${t.id} takes skilled hands, and of those there are ${skilled}.`)
  }
  const earliest = tasks.map(() => startMin)
  for (const i of order)
    earliest[i] = Math.max(startMin, tasks[i]!.earliestMin ?? 0, ...before[i]!.map((b) => earliest[b]! + tasks[b]!.minutes))
  const tail = tasks.map((t) => t.minutes)
  for (const i of order.toReversed()) for (const b of before[i]!) tail[b] = Math.max(tail[b]!, tasks[b]!.minutes + tail[i]!)
  for (const [i, t] of tasks.entries())
    if (t.latestMin !== undefined && earliest[i]! + t.minutes > t.latestMin) {
      const waits = before[i]!.map((b) => tasks[b]!.id)
      throw new Clash(`${t.id} cannot end in time${waits.length ? `, after ${listed(waits)}` : ''}.`)
    }
  return {
    startMin,
    hands: { able: skilled, help: crew - skilled },
    away,
    tasks,
    manned: tasks.map((t) => mannedBy(t, crew - skilled, person)),
    before,
    earliest,
    tail,
  }
}

/** The ways a task may be manned: from as few skilled hands as it asks for, a person more at a time. */
function mannedBy({ crew, skilled = 0 }: DayTask, helpers: number, person: number): readonly Hands[] {
  if (helpers === 0 || crew < person) return [{ able: crew, help: 0 }]
  const ways: Hands[] = []
  for (let able = skilled; able <= crew; able += person) if (crew - able <= helpers) ways.push({ able, help: crew - able })
  return ways.length ? ways : [{ able: crew, help: 0 }]
}

const sum = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0)

/** Minutes that tasks that cannot run in parallel take at the least: the longest, all of their hands, or one after another. */
function leastMinutes({ tasks, hands: all, before, earliest }: Day, which: readonly number[]): number {
  if (which.length === 0) return 0
  const chain = new Map<number, number>()
  // In order of their earliest starts each comes after those it waits for.
  for (const i of [...tasks.keys()].toSorted((a, b) => earliest[a]! - earliest[b]!)) {
    const longest = Math.max(0, ...before[i]!.map((b) => chain.get(b) ?? 0))
    chain.set(i, longest + (which.includes(i) ? tasks[i]!.minutes : 0))
  }
  const hands = sum(which.map((i) => tasks[i]!.minutes * tasks[i]!.crew)) / (all.able + all.help)
  const able = all.able > 0 ? sum(which.map((i) => tasks[i]!.minutes * (tasks[i]!.skilled ?? 0))) / all.able : 0
  return Math.max(...which.map((i) => tasks[i]!.minutes), Math.ceil(hands), Math.ceil(able), ...chain.values())
}

interface Bounds {
  readonly finishMin: number
  readonly outageMin: number
}
/** What no plan of a day can be better than. */
export function boundsOf(day: Day): Bounds {
  const { tasks, startMin, earliest, tail } = day
  const of = (power: DayTask['power']) => [...tasks.keys()].filter((i) => tasks[i]!.power === power)
  const outageMin = leastMinutes(day, of('off'))
  const hands = leastMinutes(day, [...tasks.keys()])
  return {
    outageMin,
    finishMin: Math.max(
      startMin,
      startMin + hands,
      startMin + outageMin + leastMinutes(day, of('on')),
      ...tasks.map((_, i) => earliest[i]! + tail[i]!),
    ),
  }
}

/** A better plan than one that there is, `better`: proved that there is none, or not. */
async function improved(day: Day, grid: Grid, more: Pick<Program, 'rows' | 'least'>, seconds: number) {
  if (grid.starts.some((s) => s.length === 0)) return { plan: null, proved: true }
  const upTo = Array.from({ length: grid.variables }, () => 1)
  const { status, values } = await solveProgram({ least: more.least, rows: [...grid.rows, ...more.rows], upTo }, seconds)
  const chosen = values && grid.starts.map((those) => those.find((c) => values[c.variable] === 1)!)
  const found = chosen && { starts: chosen.map((c) => day.startMin + grid.step * c.slot), by: chosen.map((c) => c.by) }
  return { plan: found && planOf(day, found), proved: status !== 'limit' }
}

/** The end of the last task, by the slots of those that nothing waits for. */
function endProgram(day: Day, grid: Grid): Pick<Program, 'rows' | 'least'> & { readonly variables: number } {
  const last = [...day.tasks.keys()].filter((i) => !day.before.some((b) => b.includes(i)))
  // A slot counts while something that nothing waits for ends after it.
  const late = (s: number) => grid.variables + s
  const rows: Row[] = []
  for (const i of last)
    for (const { slot, variable: v } of grid.starts[i]!) {
      const end = slot + day.tasks[i]!.minutes / grid.step
      rows.push({
        sum: [
          [1, v],
          [-1, late(end - 1)],
        ],
        is: '<=',
        than: 0,
      })
    }
  for (let s = 1; s < grid.slots; s++)
    rows.push({
      sum: [
        [1, late(s)],
        [-1, late(s - 1)],
      ],
      is: '<=',
      than: 0,
    })
  return { rows, least: Array.from({ length: grid.slots }, (_, s) => [1, late(s)] as const), variables: grid.variables + grid.slots }
}

/** When the day is surely over if it can be done at all. */
const atLast = ({ tasks, startMin, away }: Day): number =>
  Math.max(startMin, ...tasks.map((t) => t.earliestMin ?? 0), ...away.map((a) => a.toMin)) +
  sum(tasks.map((t) => t.minutes + ISOLATION_MIN))

interface Best {
  readonly plan: Plan | null
  readonly proved: boolean
  /** What no plan is better than. */
  readonly bounds: Bounds
}
/** The best plan, and whether it is proved; a plan of null is proved impossible, or not found. */
async function best(day: Day, most: number): Promise<Best> {
  const until = performance.now() + most * 1000
  const seconds = () => Math.max(0, (until - performance.now()) / 1000)
  const bounds = boundsOf(day)
  const least = leastWishes(day)
  const enough = (p: Plan) => p.finishMin === bounds.finishMin && p.outageMin === bounds.outageMin && atMost(p.wishes, least)
  // Where a plan is wanted at once, rules of thumb have half of the time.
  let plan = planByRule(day, enough, most < 1 ? { seconds: most / 2, from: null } : undefined)
  let proved = true
  if (!plan || plan.finishMin > bounds.finishMin) {
    const grid = gridOf(day, plan ? plan.finishMin - 1 : atLast(day), seconds() * 0.6)
    if (!grid) {
      // Too large to be proved: the time is for more tries.
      proved = false
      plan = planByRule(day, enough, { seconds: seconds(), from: plan })
    } else {
      const { variables, ...end } = endProgram(day, grid)
      const found = await improved(day, { ...grid, variables }, end, seconds() * 0.6)
      plan = found.plan ?? plan
      proved = found.proved
    }
  }
  if (!plan) return { plan, proved, bounds }
  const ends = proved ? plan.finishMin : bounds.finishMin
  const shorter = await offForLess(day, plan, bounds, seconds() * (least < plan.wishes ? 0.6 : 1))
  plan = shorter.plan
  proved &&= shorter.proved
  const offs = proved ? plan.outageMin : bounds.outageMin
  const nearer = await asWished(day, plan, least, seconds())
  return { plan: nearer.plan, proved: proved && nearer.proved, bounds: { finishMin: ends, outageMin: offs } }
}

interface Tried {
  readonly plan: Plan
  readonly proved: boolean
}
const taken = (plan: Plan, found: { readonly plan: Plan | null; readonly proved: boolean }): Tried => ({
  plan: found.plan && better(found.plan, plan) ? found.plan : plan,
  proved: found.proved,
})

/** A plan that ends no later and is off for less. */
async function offForLess(day: Day, plan: Plan, bounds: Bounds, seconds: number): Promise<Tried> {
  if (plan.outageMin <= bounds.outageMin) return { plan, proved: true }
  const grid = gridOf(day, plan.finishMin, seconds)
  if (!grid) {
    // Too large to be proved by a program: the time is for more tries, and one that meets the bound is proved by it.
    const tried = planByRule(day, (p) => p.finishMin <= plan.finishMin && p.outageMin <= bounds.outageMin, { seconds, from: plan }) ?? plan
    const kept = better(tried, plan) ? tried : plan
    return { plan: kept, proved: kept.outageMin <= bounds.outageMin }
  }
  const fewer: Row = { sum: grid.off, is: '<=', than: Math.ceil(plan.outageMin / grid.step) - 1 }
  return taken(plan, await improved(day, grid, { rows: [fewer], least: grid.off }, seconds))
}

/** What wishes cost at the least, each task for itself. */
const leastWishes = ({ tasks, startMin, earliest }: Day): number =>
  tasks.reduce((sum, t, i) => sum + costOfStart(t, startMin, earliest[i]!), 0)

/** A plan that ends no later, is off for no longer, and is nearer to what is wished. */
async function asWished(day: Day, plan: Plan, least: number, seconds: number): Promise<Tried> {
  if (atMost(plan.wishes, least)) return { plan, proved: true }
  const grid = gridOf(day, plan.finishMin, seconds)
  if (!grid) return { plan, proved: false }
  const noLonger: readonly Row[] = grid.off.length ? [{ sum: grid.off, is: '<=', than: Math.floor(plan.outageMin / grid.step) }] : []
  const cost = day.tasks.flatMap((t, i) =>
    t.wish
      ? grid.starts[i]!.map(({ slot, variable }) => [costOfStart(t, day.startMin, day.startMin + slot * grid.step), variable] as const)
      : [],
  )
  return taken(plan, await improved(day, grid, { rows: noLonger, least: cost }, seconds))
}

const none = (startMin: number, optimal: boolean, finding: Finding): DayPlan => ({
  tasks: [],
  finishMin: startMin,
  outages: [],
  outageMin: 0,
  optimal,
  findings: [finding],
})

/**
 * Tasks on the clock: the least finish, then the least minutes without power. Minutes are those of `startMin`'s clock.
 * @throws InputError at an id that is there twice, or that is not there.
 */
export async function dayPlan(input: DayPlanInput): Promise<DayPlan> {
  try {
    const day = dayOf(input)
    const { plan, proved, bounds } = await best(day, input.seconds ?? SECONDS)
    if (!plan) {
      const bound = input.tasks.filter((t) => t.latestMin !== undefined).map((t) => t.id)
      if (!proved)
        return none(input.startMin, false, {
          rule: 'plan-not-found',
          severity: 'unknown',
          clause: 'Plan of the day',
          message: 'No plan was found in the time there is; that there is none is not proved.',
        })
      return none(input.startMin, true, impossible(`${listed(bound)} cannot all end in time with these hands.`))
    }
    return {
      tasks: input.tasks.map((t, i) => ({
        id: t.id,
        startMin: plan.starts[i]!,
        endMin: plan.starts[i]! + t.minutes,
        ...(day.hands.help > 0 ? { skilled: plan.by[i]!.able } : {}),
      })),
      finishMin: plan.finishMin,
      outages: plan.outages.map((o) => ({ fromMin: o.fromMin, toMin: o.toMin })),
      outageMin: plan.outageMin,
      optimal: proved,
      findings: [],
      ...(proved ? {} : { bound: bounds }),
    }
  } catch (e) {
    if (e instanceof Clash) return none(input.startMin, true, impossible(e.message))
    throw e
  }
}
