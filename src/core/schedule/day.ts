import { z } from 'zod'
import { findingSchema } from '../base/finding'

const minute = z.int().min(0).max(100_000)
const id = z.string().min(1)
const weight = z.number().min(0).max(1000)
export const powers = ['any', 'off', 'on'] as const
const taskSchema = z.strictObject({
  id,
  minutes: z.int().min(1).max(10_000),
  crew: z.int().min(1).max(100).default(1),
  after: z.array(id).max(40).default([]),
  power: z.enum(powers),
  earliestMin: minute.optional(),
  latestMin: minute.optional(),
  /** So many of its hands must be skilled. */
  skilled: z.int().min(0).max(100).optional(),
  /** What a minute costs that it begins later; and each minute that it goes on after a time. */
  wish: z.strictObject({ soon: weight.optional(), notPast: minute.optional(), past: weight.optional() }).optional(),
})
const awaySchema = z.strictObject({ fromMin: minute, toMin: minute, crew: z.int().min(1).max(100), skilled: z.int().min(0).max(100) })
/**
 * Beside the contract: how many of the crew are skilled (else all), hands that are not there for a while, and how many of the crew are one
 * person (else one), who is skilled or not, and stays at a task from its begin to its end.
 */
export const dayPlanInput = z.strictObject({
  startMin: minute,
  crew: z.int().min(1).max(100),
  skilled: z.int().min(0).max(100).optional(),
  person: z.int().min(1).max(100).optional(),
  /** So long it may think, in seconds: less for a plan that is wanted at once. */
  seconds: z.number().min(0.1).max(4).optional(),
  away: z.array(awaySchema).max(24).optional(),
  tasks: z.array(taskSchema).max(40),
})
export const dayPlanOutput = z.strictObject({
  tasks: z.array(
    z.strictObject({
      id,
      startMin: z.number(),
      endMin: z.number(),
      /** Of its hands so many are skilled ones; where not all are. */
      skilled: z.number().optional(),
    }),
  ),
  finishMin: z.number(),
  outages: z.array(z.strictObject({ fromMin: z.number(), toMin: z.number() })),
  outageMin: z.number(),
  optimal: z.boolean(),
  findings: z.array(findingSchema),
  /** Where it is not proved the best: what no plan is better than. */
  bound: z.strictObject({ finishMin: z.number(), outageMin: z.number() }).optional(),
})
export type DayPlanInput = z.output<typeof dayPlanInput>
export type DayPlan = z.output<typeof dayPlanOutput>
export type DayTask = DayPlanInput['tasks'][number]

export type Away = z.output<typeof awaySchema>
/** Hands: those of people who are skilled, and of people who are not. */
export interface Hands {
  readonly able: number
  readonly help: number
}

/** A day ready to be planned: tasks by number, each with those before it, its window, and what must still follow it. */
export interface Day {
  readonly startMin: number
  /** All hands, by whether they are skilled. */
  readonly hands: Hands
  readonly away: readonly Away[]
  readonly tasks: readonly DayTask[]
  /** The ways each task may be manned; the one with the fewest skilled hands first. */
  readonly manned: readonly (readonly Hands[])[]
  readonly before: readonly (readonly number[])[]
  /** The earliest start of each as what goes before it and its own bound allow, crew and power set aside. */
  readonly earliest: readonly number[]
  /** Minutes from the start of each to the end of the last of what waits for it. */
  readonly tail: readonly number[]
}

/** Minutes that isolating again and proving dead take before every outage but the first. */
export const ISOLATION_MIN = 10

export interface Span {
  readonly fromMin: number
  readonly toMin: number
}
export const overlap = (a: Span, b: Span): boolean => a.fromMin < b.toMin && b.fromMin < a.toMin

const spanOf = (tasks: readonly DayTask[], starts: readonly number[], power: DayTask['power']): readonly Span[] =>
  tasks.flatMap((t, i) => (t.power === power ? [{ fromMin: starts[i]!, toMin: starts[i]! + t.minutes }] : []))

/** The outages of tasks that start so, with the fewest minutes; null where a task that needs the supply would be in one. */
export function outagesOf(tasks: readonly DayTask[], starts: readonly number[]): readonly Span[] | null {
  const live = spanOf(tasks, starts, 'on')
  const outages: Span[] = []
  for (const dead of spanOf(tasks, starts, 'off').toSorted((a, b) => a.fromMin - b.fromMin)) {
    const last = outages.at(-1)
    const gap = last && { fromMin: last.toMin, toMin: dead.fromMin }
    const between = gap !== undefined && live.some((l) => overlap(l, gap))
    if (last && !between && dead.fromMin - last.toMin <= ISOLATION_MIN)
      outages[outages.length - 1] = { fromMin: last.fromMin, toMin: Math.max(last.toMin, dead.toMin) }
    else if (last && dead.fromMin - last.toMin < ISOLATION_MIN) return null
    else outages.push({ fromMin: dead.fromMin - (last ? ISOLATION_MIN : 0), toMin: dead.toMin })
  }
  return outages.some((o) => live.some((l) => overlap(l, o))) ? null : outages
}

/** The hands that are there at a minute. */
export function handsAt({ hands, away }: Pick<Day, 'hands' | 'away'>, min: number): Hands {
  const gone = away.filter((a) => a.fromMin <= min && min < a.toMin)
  return {
    able: gone.reduce((n, a) => n - a.skilled, hands.able),
    help: gone.reduce((n, a) => n - (a.crew - a.skilled), hands.help),
  }
}

/** What it costs that tasks start so, by what is wished of them. */
export const wishCost = (tasks: readonly DayTask[], startMin: number, starts: readonly number[]): number =>
  tasks.reduce((sum, t, i) => sum + costOfStart(t, startMin, starts[i]!), 0)
export function costOfStart({ wish, minutes }: DayTask, startMin: number, start: number): number {
  if (!wish) return 0
  const late = wish.notPast === undefined ? 0 : Math.max(0, start + minutes - wish.notPast)
  return (wish.soon ?? 0) * (start - startMin) + (wish.past ?? 0) * Math.min(late, minutes)
}

export const minutesOf = (spans: readonly Span[]): number => spans.reduce((sum, s) => sum + s.toMin - s.fromMin, 0)

/** Starts of all tasks, and by whom each is done, with what they come to. */
export interface Plan {
  readonly starts: readonly number[]
  readonly by: readonly Hands[]
  readonly finishMin: number
  readonly outages: readonly Span[]
  readonly outageMin: number
  readonly wishes: number
}

/** A plan from its starts, or null where a rule of power is broken. */
export function planOf({ tasks, startMin }: Day, { starts, by }: Pick<Plan, 'starts' | 'by'>): Plan | null {
  const outages = outagesOf(tasks, starts)
  if (!outages) return null
  const finishMin = Math.max(startMin, ...tasks.map((t, i) => starts[i]! + t.minutes))
  return { starts, by, finishMin, outages, outageMin: minutesOf(outages), wishes: wishCost(tasks, startMin, starts) }
}
/** Whether one plan is better than another: earlier over, else off for less, else nearer to what is wished. */
export const better = (a: Plan, b: Plan): boolean =>
  a.finishMin !== b.finishMin
    ? a.finishMin < b.finishMin
    : a.outageMin !== b.outageMin
      ? a.outageMin < b.outageMin
      : a.wishes < b.wishes - 1e-9
