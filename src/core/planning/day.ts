import { z } from 'zod'
import { findingSchema } from '../finding'

const minute = z.int().min(0).max(100_000)
const id = z.string().min(1)
export const powers = ['any', 'off', 'on'] as const
const taskSchema = z.strictObject({
  id,
  minutes: z.int().min(1).max(10_000),
  crew: z.int().min(1).max(100).default(1),
  after: z.array(id).max(40).default([]),
  power: z.enum(powers),
  earliestMin: minute.optional(),
  latestMin: minute.optional(),
})
export const dayPlanInput = z.strictObject({ startMin: minute, crew: z.int().min(1).max(100), tasks: z.array(taskSchema).max(40) })
export const dayPlanOutput = z.strictObject({
  tasks: z.array(z.strictObject({ id, startMin: z.number(), endMin: z.number() })),
  finishMin: z.number(),
  outages: z.array(z.strictObject({ fromMin: z.number(), toMin: z.number() })),
  outageMin: z.number(),
  optimal: z.boolean(),
  findings: z.array(findingSchema),
})
export type DayPlanInput = z.output<typeof dayPlanInput>
export type DayPlan = z.output<typeof dayPlanOutput>
export type DayTask = DayPlanInput['tasks'][number]

/** A day ready to be planned: tasks by number, each with those before it, its window, and what must still follow it. */
export interface Day {
  readonly startMin: number
  readonly crew: number
  readonly tasks: readonly DayTask[]
  readonly before: readonly (readonly number[])[]
  /** The earliest start of each as what goes before it and its own bound allow, crew and power set aside. */
  readonly earliest: readonly number[]
  /** Minutes from the start of each to the end of the last of what waits for it. */
  readonly tail: readonly number[]
}

/** Minutes that isolating anew and proving dead take before every outage but the first. */
export const ISOLATION_MIN = 10

export interface Span {
  readonly fromMin: number
  readonly toMin: number
}
export const overlap = (a: Span, b: Span): boolean => a.fromMin < b.toMin && b.fromMin < a.toMin

const spanOf = (tasks: readonly DayTask[], starts: readonly number[], power: DayTask['power']): readonly Span[] =>
  tasks.flatMap((t, i) => (t.power === power ? [{ fromMin: starts[i]!, toMin: starts[i]! + t.minutes }] : []))

/** The outages of tasks that start so, with the fewest minutes; null where a task that needs the supply would stand in one. */
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

export const minutesOf = (spans: readonly Span[]): number => spans.reduce((sum, s) => sum + s.toMin - s.fromMin, 0)

/** Starts of all tasks, with what they come to. */
export interface Plan {
  readonly starts: readonly number[]
  readonly finishMin: number
  readonly outages: readonly Span[]
  readonly outageMin: number
}

/** A plan from its starts, or null where a rule of power is broken. */
export function planOf({ tasks, startMin }: Day, starts: readonly number[]): Plan | null {
  const outages = outagesOf(tasks, starts)
  if (!outages) return null
  const finishMin = Math.max(startMin, ...tasks.map((t, i) => starts[i]! + t.minutes))
  return { starts, finishMin, outages, outageMin: minutesOf(outages) }
}
export const earlier = (a: Plan, b: Plan): boolean =>
  a.finishMin < b.finishMin || (a.finishMin === b.finishMin && a.outageMin < b.outageMin)
