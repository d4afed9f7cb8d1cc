import { clock, DAY_MIN, type DayRecord, noWishes, type Planned } from '../job/day'
import { type DayPlan, type DayPlanInput, ISOLATION_MIN, overlap, type Span } from '../schedule/day'
import type { Task } from './tasks'

/** The most tasks that one plan is worked out for. */
export const MOST_TASKS = 40
/** How long the supply stays on between two outages that were parted, so that what must hold recovers. */
export const BACK_ON_MIN = 10

/** One task of the plan may stand for several of the list: those of a circuit that follow each other alone. */
interface Joined {
  readonly task: Task
  readonly of: readonly Task[]
}

/** Where there are more tasks than are planned at once, those of one circuit that follow each other and ask for the same are one. */
function joined(tasks: readonly Task[], most: number, mostOffMin: number | null): readonly Joined[] {
  let list: Joined[] = tasks.map((task) => ({ task, of: [task] }))
  // What is done dead is not joined to more than one outage bears.
  const fits = (a: Task, b: Task) => a.power !== 'off' || mostOffMin === null || a.minutes + b.minutes <= mostOffMin - ISOLATION_MIN
  while (list.length > most) {
    const at = list.findIndex(({ task }, i) => {
      const next = list[i + 1]?.task
      return (
        next !== undefined &&
        next.circuit !== null &&
        next.circuit === task.circuit &&
        next.power === task.power &&
        next.people === task.people &&
        fits(task, next)
      )
    })
    if (at < 0) return list
    const [a, b] = [list[at]!, list[at + 1]!]
    const one = {
      ...a.task,
      minutes: a.task.minutes + b.task.minutes,
      after: [...new Set([...a.task.after, ...b.task.after.filter((x) => x !== a.task.id)])],
    }
    const renamed = (id: string) => (id === b.task.id ? a.task.id : id)
    list = list
      .filter((_, i) => i !== at + 1)
      .map((j, i) =>
        i === at ? { task: one, of: [...a.of, ...b.of] } : { ...j, task: { ...j.task, after: [...new Set(j.task.after.map(renamed))] } },
      )
  }
  return list
}

export interface DayAsked {
  readonly input: DayPlanInput
  readonly joined: readonly Joined[]
  /** Tasks that keep the supply off longer than it may be, each by itself. */
  readonly tooLong: readonly Task[]
  /** More than can be planned at once. */
  readonly tooMany: boolean
}

/**
 * The day as the planner wants it. People who only wait take no hand: hands are counted in so many parts that all who wait together are
 * less than one. Where the supply may not be off for long, what is done dead is parted into lots with the supply back on between them.
 */
export function dayAsked(tasks: readonly Task[], day: DayRecord, done: ReadonlySet<string> = new Set(), fromMin = day.startMin): DayAsked {
  const open = tasks.filter((t) => !done.has(t.id))
  const most = mostOff(day)
  const lotted = (at: number) => {
    const list = joined(open, at, most)
    const dead = list.map((j) => j.task).filter((t) => t.power === 'off')
    return { list, lots: most === null ? [] : lotsOf(dead, most) }
  }
  // Between lots the supply comes back, which are tasks too: what they take of the plan is joined away.
  let { list, lots } = lotted(MOST_TASKS)
  for (let room = MOST_TASKS; list.length + lots.length - 1 > MOST_TASKS && room > MOST_TASKS / 2; room--) ({ list, lots } = lotted(room))
  const known = new Set(list.map((j) => j.task.id))
  const waiting = list.filter((j) => j.task.people === 0).length
  const parts = waiting + 1
  const crew = day.people.length
  const skilled = day.people.filter((p) => !p.helper).length
  const between = lots.slice(1).map((lot, i) => ({ id: `back on ${i + 1}`, after: lots[i]!, before: lot }))
  const input: DayPlanInput = {
    startMin: fromMin,
    crew: crew * parts + waiting,
    ...(skilled < crew || day.people.some((p) => p.fromMin != null || p.untilMin != null)
      ? { skilled: skilled * parts + waiting, person: parts, away: awayOf(day, parts, fromMin) }
      : {}),
    tasks: [
      ...list.map(({ task: t }) => ({
        id: t.id,
        minutes: t.minutes,
        crew: t.people === 0 ? 1 : Math.min(t.people, crew) * parts,
        after: [
          ...new Set([
            ...t.after.filter((a) => known.has(a)),
            ...between.filter((b) => b.before.includes(t)).map((b) => b.id),
            ...(t.kind === 'clear'
              ? list.filter((j) => j.task.kind !== 'break' && j.task !== t && j.task.circuit !== null).map((j) => j.task.id)
              : []),
          ]),
        ].slice(0, 40),
        power: t.power,
        ...(t.skilled ? { skilled: t.skilled * parts } : {}),
        ...wishOf(t, day),
        ...(t.earliestMin === null ? {} : { earliestMin: Math.max(t.earliestMin, fromMin) }),
        ...(t.latestMin === null ? {} : { latestMin: t.latestMin }),
      })),
      ...between.map((b) => ({ id: b.id, minutes: BACK_ON_MIN, crew: parts, after: b.after.map((t) => t.id), power: 'on' as const })),
    ],
  }
  return {
    input,
    joined: list,
    tooLong: most === null ? [] : list.map((j) => j.task).filter((t) => t.power === 'off' && t.minutes > most - ISOLATION_MIN),
    tooMany: input.tasks.length > MOST_TASKS,
  }
}

/** The longest that the supply may be off at a time: as said, and as what must hold bears; null: as long as it takes. */
export function mostOff({ mostOffMin, holds }: Pick<DayRecord, 'mostOffMin' | 'holds'>): number | null {
  const all = [...Object.values(holds ?? {}), ...(mostOffMin === null ? [] : [mostOffMin])]
  return all.length ? Math.min(...all) : null
}

/** People who come later or leave earlier, as hands that are not there; who leaves is back the next morning. */
const awayOf = (day: DayRecord, parts: number, fromMin: number): NonNullable<DayPlanInput['away']> =>
  day.people.flatMap((p) => {
    const gone = { crew: parts, skilled: p.helper ? 0 : parts }
    return [
      ...(p.fromMin != null && p.fromMin > fromMin ? [{ ...gone, fromMin: 0, toMin: p.fromMin }] : []),
      ...(p.untilMin != null && p.untilMin < DAY_MIN ? [{ ...gone, fromMin: p.untilMin, toMin: DAY_MIN }] : []),
    ]
  })

/** What is wished of a task: inside soon, outside over before the rain. */
function wishOf(t: Task, { wishes }: DayRecord): Pick<DayPlanInput['tasks'][number], 'wish'> {
  if (!wishes || (t.circuit === null && t.kind !== 'work')) return {}
  const { rainFromMin, outsideBeforeRain, insideBeforeOutside } = wishes
  if (t.outside) return rainFromMin !== null && outsideBeforeRain ? { wish: { notPast: rainFromMin, past: outsideBeforeRain } } : {}
  return insideBeforeOutside ? { wish: { soon: insideBeforeOutside } } : {}
}

/** What is done dead, in lots that each fit into one outage, in the order of the list. */
function lotsOf(tasks: readonly Task[], most: number): Task[][] {
  const lots: Task[][] = []
  let left = 0
  for (const t of tasks) {
    if (lots.length === 0 || t.minutes > left) {
      lots.push([])
      // Isolating and proving dead are minutes without supply too.
      left = most - ISOLATION_MIN
    }
    lots.at(-1)!.push(t)
    left -= t.minutes
  }
  return lots
}

/** A plan as it was found, its joined tasks taken apart again one after another. */
export function plannedOf(
  { joined: list, input: { person = 1 } }: Pick<DayAsked, 'joined' | 'input'>,
  found: {
    readonly tasks: Planned['tasks']
    readonly outages: readonly Span[]
    readonly optimal: boolean
    readonly bound?: DayPlan['bound']
  },
  at: string,
): Planned {
  const starts = new Map(found.tasks.map((t) => [t.id, t]))
  const tasks = list.flatMap(({ task, of }) => {
    const { startMin, skilled } = starts.get(task.id)!
    let from = startMin
    const by = skilled === undefined || task.people === 0 ? {} : { skilled: Math.round(skilled / person) }
    return of.map((t) => {
      const span = { id: t.id, startMin: from, endMin: from + t.minutes, ...by }
      from += t.minutes
      return span
    })
  })
  return {
    at,
    tasks,
    outages: found.outages.map((o) => ({ ...o })),
    optimal: found.optimal,
    ...(found.bound ? { bound: found.bound } : {}),
  }
}

export interface Placed {
  readonly task: Task
  readonly startMin: number
  readonly endMin: number
  /** Who does it, by their place among the people; none for what nobody of ours does. */
  readonly people: readonly number[]
  /** Why it begins then and not earlier; empty at the begin of the day. */
  readonly why: string
}

/** So many ways to share tasks out are tried; where none of them serves, the first is shown, and is said not to serve. */
const MOST_TRIED = 20_000

type Timed = { readonly startMin: number; readonly endMin: number; readonly task: Task; readonly skilled?: number | undefined }
/** Whether somebody is there all through a task, by the clock of its day. */
const isThere = (p: DayRecord['people'][number], { startMin, endMin }: Pick<Timed, 'startMin' | 'endMin'>): boolean => {
  const shift = Math.floor(startMin / DAY_MIN) * DAY_MIN
  return startMin - shift >= (p.fromMin ?? 0) - 1e-9 && endMin - shift <= (p.untilMin ?? DAY_MIN) + 1e-9
}

/** Who does each task: who is free all through, helpers where nobody else is asked for, those last at its circuit before others. */
function sharedOut(rows: readonly Timed[], day: DayRecord): readonly (readonly number[])[] {
  const everybody = day.people.map((_, i) => i)
  let tried = 0
  let first: (readonly number[])[] | null = null
  const done: (readonly number[])[] = []
  const free = (i: number, r: Timed): boolean =>
    isThere(day.people[i]!, r) && done.every((who, k) => !who.includes(i) || rows[k]!.endMin <= r.startMin + 1e-9)
  const last = (i: number) => done.findLastIndex((who) => who.includes(i))
  /** Those who may do it in the order they are asked, so many of them as it wants with as many of them who do electrical work. */
  function* teams(r: Timed): Generator<readonly number[]> {
    const able = (i: number) => !day.people[i]!.helper
    const wanted = Math.min(r.task.people, day.people.length)
    const order = everybody
      .filter((i) => free(i, r))
      .map((i) => ({ i, at: last(i) }))
      .toSorted(
        (a, b) =>
          (r.task.skilled ? Number(able(b.i)) - Number(able(a.i)) : Number(able(a.i)) - Number(able(b.i))) ||
          Number(b.at >= 0 && rows[b.at]!.task.circuit === r.task.circuit) -
            Number(a.at >= 0 && rows[a.at]!.task.circuit === r.task.circuit) ||
          b.at - a.at ||
          a.i - b.i,
      )
      .map((x) => x.i)
    const pick = function* (from: number, team: readonly number[]): Generator<readonly number[]> {
      if (team.length === wanted) {
        const skills = team.filter(able).length
        // As the plan has it, where that says so: else somebody who is asked for elsewhere is taken here.
        if (skills >= Math.min(r.task.skilled, wanted) && (r.skilled === undefined || skills === Math.min(r.skilled, wanted))) yield team
        return
      }
      for (let k = from; k < order.length; k++) yield* pick(k + 1, [...team, order[k]!])
    }
    yield* pick(0, [])
  }
  const place = (n: number): boolean => {
    if (n === rows.length) return true
    for (const team of teams(rows[n]!)) {
      if (++tried > MOST_TRIED) break
      done.push(team)
      if (place(n + 1)) return true
      if (!first || done.length > first.length) first = [...done]
      done.pop()
    }
    return false
  }
  const found = place(0) ? done : (first ?? [])
  return rows.map((_, n) => (found[n] ?? []).toSorted((a, b) => a - b))
}

/** Who does what: each task by those who are free, and why it begins when it does. */
export function placedOn(planned: Planned, tasks: readonly Task[], day: DayRecord): readonly Placed[] {
  const byId = new Map(tasks.map((t) => [t.id, t]))
  const rows = planned.tasks
    .flatMap((p) => (byId.has(p.id) ? [{ ...p, task: byId.get(p.id)! }] : []))
    .toSorted((a, b) => a.startMin - b.startMin)
  const who = sharedOut(rows, day)
  return rows.map((r, n) => ({
    task: r.task,
    startMin: r.startMin,
    endMin: r.endMin,
    people: who[n]!,
    why: whyThen(r, rows, planned, day),
  }))
}

type Row = { readonly task: Task; readonly startMin: number; readonly endMin: number }
function whyThen(r: Row, rows: readonly Row[], planned: Planned, day: DayRecord): string {
  if (r.startMin % DAY_MIN <= day.startMin) return ''
  const ended = rows.filter((x) => Math.abs(x.endMin - r.startMin) < 1e-9 && x !== r)
  const waited = ended.find((x) => r.task.after.includes(x.task.id))
  if (waited) return `after “${waited.task.name}”`
  if (r.task.earliestMin !== null && Math.abs(r.task.earliestMin - r.startMin) < 1e-9) return 'not before then, as was said'
  if (r.task.power === 'off' && planned.outages.some((o) => overlap(o, { fromMin: r.startMin, toMin: r.endMin }))) {
    const same = ended.find((x) => x.task.power === 'off')
    if (same) return `one outage with “${same.task.name}”`
    return 'when the supply is off'
  }
  if (r.task.power === 'on' && planned.outages.some((o) => Math.abs(o.toMin - r.startMin) < 1e-9)) return 'once the supply is back'
  const { rainFromMin, outsideBeforeRain } = day.wishes ?? noWishes
  if (r.task.outside && outsideBeforeRain && rainFromMin !== null && r.endMin <= rainFromMin)
    return 'outside before the rain, as was wished'
  if (ended[0]) return `after “${ended[0].task.name}”`
  return 'so that the supply is off as short as may be'
}

/** The days of a plan on which power that is promised at an hour is off all through it. */
function brokenPromise({ name, power, minutes, earliestMin, latestMin }: Task, planned: Planned): readonly string[] {
  if (power !== 'on' || latestMin === null || latestMin > DAY_MIN) return []
  const days = Math.ceil(Math.max(0, ...planned.tasks.map((x) => x.endMin)) / DAY_MIN)
  return Array.from({ length: days }, (_, n) => n).flatMap((n) => {
    const [from, to] = [(earliestMin ?? 0) + n * DAY_MIN, latestMin + n * DAY_MIN]
    // The promise is kept where it fits between the outages.
    let free = from
    for (const o of planned.outages.filter((x) => x.fromMin < to && x.toMin > from).toSorted((a, b) => a.fromMin - b.fromMin)) {
      if (o.fromMin - free >= minutes - 1e-9) return []
      free = Math.max(free, o.toMin)
    }
    return to - free >= minutes - 1e-9 ? [] : [`“${name}” is promised every day, and on day ${n + 1} the supply is off then.`]
  })
}

/** What a plan breaks of what was asked; empty: nothing. A plain reading of it, sharing nothing with the planner. */
export function brokenRules(planned: Planned, tasks: readonly Task[], day: DayRecord): readonly string[] {
  const byId = new Map(planned.tasks.map((t) => [t.id, t]))
  const broken: string[] = []
  for (const t of tasks) {
    const span = byId.get(t.id)
    if (!span) continue
    for (const a of t.after)
      if (byId.has(a) && byId.get(a)!.endMin > span.startMin + 1e-9) broken.push(`“${t.name}” begins before what it waits for.`)
    if (t.earliestMin !== null && span.startMin < t.earliestMin - 1e-9) broken.push(`“${t.name}” begins too early.`)
    if (t.latestMin !== null && span.endMin > t.latestMin + 1e-9) broken.push(`“${t.name}” ends too late.`)
    const whole = { fromMin: span.startMin, toMin: span.endMin }
    if (t.power === 'on' && planned.outages.some((o) => overlap(o, whole))) broken.push(`“${t.name}” needs the supply, and it is off.`)
    if (t.power === 'off' && !planned.outages.some((o) => o.fromMin <= whole.fromMin + 1e-9 && o.toMin >= whole.toMin - 1e-9))
      broken.push(`“${t.name}” is done dead, and the supply is on.`)
  }
  const most = mostOff(day)
  if (most !== null)
    for (const o of planned.outages) if (o.toMin - o.fromMin > most + 1e-9) broken.push('The supply is off longer than it may be.')
  const times = [...new Set(planned.tasks.map((t) => t.startMin))]
  for (const at of times) {
    const busy = tasks.reduce((n, t) => {
      const s = byId.get(t.id)
      return s && s.startMin <= at && s.endMin > at ? n + t.people : n
    }, 0)
    if (busy > day.people.length) broken.push(`At ${clock(at)} more hands are asked for than there are.`)
  }
  // Where there are too few hands that is said already.
  const crowded = broken.some((b) => b.includes('more hands'))
  for (const { people, task: t } of crowded ? [] : placedOn(planned, tasks, day)) {
    const able = people.filter((i) => !day.people[i]!.helper).length
    const wanted = Math.min(t.people, day.people.length)
    if (people.length < wanted || able < Math.min(t.skilled, wanted))
      broken.push(`“${t.name}” needs a person who may do it and is there throughout.`)
  }
  for (const t of tasks) if (t.kind === 'promise') broken.push(...brokenPromise(t, planned))
  const past = (t: Planned['tasks'][number]) => t.endMin - Math.floor(t.startMin / DAY_MIN) * DAY_MIN > day.endMin + 1e-9
  if (planned.tasks.some(past)) broken.push('The day is too short for it.')
  return [...new Set(broken)]
}
