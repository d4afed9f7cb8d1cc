import { DAY_MIN, clock } from '../job/day'
import type { DayRecord, Planned } from '../job/day'
import type { DayPlan, DayPlanInput, Span } from '../schedule/day'
import { dayAsked, mostOff, MOST_TASKS, type Placed, plannedOf } from './plan'
import type { Task } from './tasks'

/** So many days a plan runs over at the most. */
export const MOST_DAYS = 10

/** Of several days each is thought about for so long, in seconds, once it is known that one is not enough. */
const EACH_S = 0.8

const dayAt = (min: number): number => Math.floor(min / DAY_MIN)

/**
 * Tasks as they are asked for on one of the days, by its own clock: what may not begin before a later day is left out, and so is all that
 * waits for it.
 */
export function tasksOn(tasks: readonly Task[], day: number): readonly Task[] {
  const later = new Set(tasks.flatMap((t) => (t.earliestMin !== null && dayAt(t.earliestMin) > day ? [t.id] : [])))
  for (let before = -1; before !== later.size;) {
    before = later.size
    for (const t of tasks) if (t.after.some((a) => later.has(a))) later.add(t.id)
  }
  const here = (min: number | null): number | null => (min === null ? null : min - day * DAY_MIN)
  return tasks.flatMap((t) => {
    if (later.has(t.id)) return []
    const earliest = here(t.earliestMin)
    return [{ ...t, earliestMin: earliest === null || earliest <= 0 ? null : earliest, latestMin: here(t.latestMin) }]
  })
}

/** What of a plan ends by the end of the day. As tasks come before what waits for them, that is whole in itself. */
const endedBy = ({ tasks }: Pick<Planned, 'tasks'>, endMin: number): ReadonlySet<string> =>
  new Set(tasks.flatMap((t) => (t.endMin <= endMin + 1e-9 ? [t.id] : [])))

/** Plans of days that follow each other, as one. */
function daysAsOne(plans: readonly Planned[], at: string): Planned {
  const shift = plans.map((_, n) => n * DAY_MIN)
  return {
    at,
    tasks: plans.flatMap((p, n) => p.tasks.map((t) => ({ ...t, startMin: t.startMin + shift[n]!, endMin: t.endMin + shift[n]! }))),
    outages: plans.flatMap((p, n) => p.outages.map((o) => ({ fromMin: o.fromMin + shift[n]!, toMin: o.toMin + shift[n]! }))),
    optimal: plans.length === 1 && plans[0]!.optimal,
    ...(plans.length === 1 && plans[0]!.bound ? { bound: plans[0]!.bound } : {}),
  }
}

/** One day of a plan, by its own clock, with how many tasks are before it. */
export interface OneDay {
  readonly placed: readonly Placed[]
  readonly outages: readonly Span[]
  readonly before: number
}

/** The days of a plan, each by its own clock; one day where nothing is planned. */
export function daysOf(placed: readonly Placed[], outages: readonly Span[]): readonly OneDay[] {
  const last = Math.max(0, ...placed.map((p) => dayAt(p.startMin)))
  return Array.from({ length: last + 1 }, (_, n) => {
    const shift = n * DAY_MIN
    return {
      placed: placed.filter((p) => dayAt(p.startMin) === n).map((p) => ({ ...p, startMin: p.startMin - shift, endMin: p.endMin - shift })),
      outages: outages.filter((o) => dayAt(o.fromMin) === n).map((o) => ({ fromMin: o.fromMin - shift, toMin: o.toMin - shift })),
      before: placed.filter((p) => dayAt(p.startMin) < n).length,
    }
  })
}

/** What the planner says of ids, said of names. */
const inNames = (words: string, tasks: readonly { id: string; name: string }[]): string =>
  tasks.toSorted((a, b) => b.id.length - a.id.length).reduce((said, t) => said.replaceAll(t.id, `“${t.name}”`), words)

export interface DaysAsked {
  readonly tasks: readonly Task[]
  readonly day: DayRecord
  readonly done: ReadonlySet<string>
  /** When work begins: the begin of the first day, or now, on whichever day that is. */
  readonly fromMin: number
  readonly at: string
  /** Wanted at once: it may think for so long, in seconds. */
  readonly seconds?: number
}
type Plan = (input: DayPlanInput) => Promise<DayPlan>
type Found = { readonly planned: Planned } | { readonly wrong: string }

/** One day planned, whatever the hour it ends. */
async function oneDay(tasks: readonly Task[], { day, done, at, seconds }: DaysAsked, fromMin: number, plan: Plan): Promise<Found> {
  const asked = dayAsked(tasks, day, done, fromMin)
  if (asked.tooMany) return { wrong: `More than ${MOST_TASKS} tasks stay, however they are joined: plan fewer circuits at once.` }
  if (asked.tooLong.length)
    return {
      wrong:
        `The supply may be off ${mostOff(day)} min at a time, isolating it and proving it dead included; longer takes: ` +
        `${asked.tooLong.map((t) => t.name).join(', ')}.`,
    }
  const found = await plan(seconds === undefined ? asked.input : { ...asked.input, seconds })
  return found.findings[0] ? { wrong: inNames(found.findings[0].message, tasks) } : { planned: plannedOf(asked, found, at) }
}

/** Promises of power at an hour of the day, and no other: those hold on every day. */
const dailyPromises = (tasks: readonly Task[]): readonly Task[] =>
  tasks.filter((t) => t.kind === 'promise' && t.power === 'on' && t.latestMin !== null && t.latestMin <= DAY_MIN)

/**
 * As many days as the work takes, each planned for itself: what does not end by the end of one is for the next. `plan` is the planner,
 * which may be given up.
 */
export async function planDays(asked: DaysAsked, plan: Plan): Promise<Found> {
  const { tasks, day, done, fromMin, at } = asked
  const nothing: Planned = { at, tasks: [], outages: [], optimal: true }
  const first = Math.floor(fromMin / DAY_MIN)
  const plans: Planned[] = Array.from({ length: first }, () => nothing)
  let left = tasks.filter((t) => !done.has(t.id))
  const promises = dailyPromises(tasks)
  for (let n = first; left.length > 0; n++) {
    if (n - first === MOST_DAYS) return { wrong: `It takes more than ${MOST_DAYS} days: plan fewer circuits at once.` }
    // A promise of power at some hour holds on every day of the work.
    const again = n === 0 ? [] : promises.map((t) => ({ ...t, id: `${t.id} on day ${n + 1}`, after: [] }))
    const today = tasksOn(n === 0 ? left : left.filter((t) => !promises.includes(t)), n)
    const withAgain = (list: readonly Task[]) => (list.length ? [...list, ...again] : list)
    const from = n === first ? fromMin % DAY_MIN : day.startMin
    const none: Found = { planned: nothing }
    // The first may be all there is, and is thought about for as long as one day is.
    const quick = { ...asked, seconds: asked.seconds === undefined ? EACH_S : asked.seconds / 3 }
    const whole = today.length ? await oneDay(withAgain(today), n === first ? asked : quick, from, plan) : none
    if ('wrong' in whole) return whole
    const over = endedBy(whole.planned, day.endMin)
    const ended = new Set(today.flatMap((t) => (over.has(t.id) ? [t.id] : [])))
    if (ended.size === 0 && today.length > 0 && (n > first || from <= day.startMin))
      return { wrong: `Nothing of what is left ends by ${clock(day.endMin)}: ${today.map((t) => t.name).join(', ')}.` }
    const part =
      ended.size === today.length
        ? whole
        : ended.size === 0
          ? none
          : await oneDay(withAgain(today.filter((t) => ended.has(t.id))), quick, from, plan)
    if ('wrong' in part) return part
    const repeated = new Set(again.map((t) => t.id))
    plans.push({ ...part.planned, tasks: part.planned.tasks.filter((t) => !repeated.has(t.id)) })
    left = left.filter((t) => !ended.has(t.id) && !(n > 0 && promises.includes(t)))
  }
  return { planned: daysAsOne(plans, at) }
}
