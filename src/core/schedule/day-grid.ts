import type { Row, Sum } from '../calculate/integer-program'
import { type Day, type DayTask, type Hands, handsAt, ISOLATION_MIN } from './day'

/** Starts among which a program may still choose. */
const MOST_STARTS = 3500
/**
 * Factors of a program for each second there is: the solver keeps to its time only once it has read and thinned the program, about 4 µs a
 * factor with writing it, and that is to be less than half of the time.
 */
export const FACTORS_A_SECOND = 100_000

/** A time-indexed mixed-integer program: one binary variable for each task, start slot and manning. */
export interface Grid {
  readonly step: number
  readonly slots: number
  /** Of each task the slots that it may start in and how it may be manned, with the variable of each. */
  readonly starts: readonly (readonly Choice[])[]
  readonly rows: readonly Row[]
  readonly variables: number
  readonly off: Sum
}

interface Choice {
  readonly slot: number
  readonly by: Hands
  readonly variable: number
}

/** What the rows are written of. */
interface Slots extends Pick<Grid, 'step' | 'slots' | 'starts'> {
  readonly day: Day
  /** The slots that each task takes. */
  readonly long: readonly number[]
  readonly choices: number
}

const gcd = (a: number, b: number): number => (b === 0 ? a : gcd(b, a % b))
const every = ({ slots }: Pick<Slots, 'slots'>): readonly number[] => Array.from({ length: slots }, (_, s) => s)
/** The starts of a task within slots, each with as many hands as are counted. */
const within = ({ starts }: Slots, i: number, from: number, to: number, of: (h: Hands) => number = () => 1): Sum =>
  starts[i]!.flatMap(({ slot, by, variable }) => (slot >= from && slot <= to && of(by) ? [[of(by), variable] as const] : []))
/** The starts by which a task runs in a slot. */
const running = (of: Slots, i: number, slot: number, hands?: (h: Hands) => number): Sum =>
  within(of, i, slot - of.long[i]! + 1, slot, hands)

/** The greatest step that every time of the day is whole in. */
function stepOf({ tasks, startMin, earliest, away }: Day, endMin: number): number {
  const windows = tasks.flatMap((t, i) => [
    t.minutes,
    earliest[i]! - startMin,
    ...(t.latestMin === undefined ? [] : [t.latestMin - startMin]),
  ])
  const gone = away.flatMap((a) => [a.fromMin, a.toMin].filter((m) => m > startMin && m < endMin).map((m) => m - startMin))
  const dead = tasks.filter((t) => t.power === 'off').length
  return [...windows, ...gone, ...(dead > 1 ? [ISOLATION_MIN] : [])].reduce((a, b) => gcd(Math.abs(b), a), 0) || 1
}

function slotsOf(day: Day, endMin: number): Slots {
  const { tasks, startMin, earliest, tail, manned } = day
  const step = stepOf(day, endMin)
  const slots = Math.floor((endMin - startMin) / step)
  const long = tasks.map((t) => t.minutes / step)
  let choices = 0
  const starts = tasks.map((t, i) => {
    const last = Math.min(slots - tail[i]! / step, t.latestMin === undefined ? Infinity : (t.latestMin - startMin) / step - long[i]!)
    const those: Choice[] = []
    for (let slot = (earliest[i]! - startMin) / step; slot <= last; slot++)
      for (const by of manned[i]!) those.push({ slot, by, variable: choices++ })
    return those
  })
  return { day, step, slots, starts, long, choices }
}

/** Each task starts once; none before what it waits for has ended; no more hands than are there. */
function* rowsOfWork(of: Slots): Generator<Row> {
  const { day, step, slots, long } = of
  for (const i of day.tasks.keys()) yield { sum: within(of, i, 0, slots), is: '=', than: 1 }
  for (const [j, list] of day.before.entries())
    for (const i of list)
      for (const s of every(of)) {
        const sum = [...within(of, i, s - long[i]! + 1, slots), ...within(of, j, 0, s)]
        if (sum.length > 1) yield { sum, is: '<=', than: 1 }
      }
  for (const s of every(of)) {
    const there = handsAt(day, day.startMin + s * step)
    for (const kind of ['able', 'help'] as const) {
      const used = [...day.tasks.keys()].flatMap((i) => running(of, i, s, (h) => h[kind]))
      if (used.length) yield { sum: used, is: '<=', than: there[kind] }
    }
  }
}

/** Per slot a variable each: the supply is off; the first outage begins; a later one does. */
const outageOf = ({ choices, slots }: Slots) =>
  [0, 1, 2].map((k) => (s: number) => choices + k * slots + s) as [(s: number) => number, (s: number) => number, (s: number) => number]

const withPower = ({ day }: Slots, kind: DayTask['power']): readonly number[] =>
  [...day.tasks.keys()].filter((i) => day.tasks[i]!.power === kind)

/** What is done dead is in an outage, what is done live in none, and each after the first takes its minutes to isolate. */
function* rowsOfPower(of: Slots): Generator<Row> {
  const [deads, lives] = [withPower(of, 'off'), withPower(of, 'on')]
  const [off, first, again] = outageOf(of)
  const lead = ISOLATION_MIN / of.step
  for (const s of every(of)) {
    for (const i of deads) if (running(of, i, s).length) yield { sum: [...running(of, i, s), [-1, off(s)]], is: '<=', than: 0 }
    for (const i of lives) if (running(of, i, s).length) yield { sum: [...running(of, i, s), [1, off(s)]], is: '<=', than: 1 }
    const before: Sum = s ? [[-1, off(s - 1)]] : []
    yield { sum: [[1, off(s)], ...before, [-1, first(s)], [-1, again(s)]], is: '<=', than: 0 }
    yield {
      sum: [
        [1, again(s)],
        ...every(of)
          .slice(0, s)
          .map((t) => [-1, first(t)] as const),
      ],
      is: '<=',
      than: 0,
    }
    for (const i of deads)
      for (let t = s; t < Math.min(of.slots, s + lead); t++)
        if (running(of, i, t).length) yield { sum: [...running(of, i, t), [1, again(s)]], is: '<=', than: 1 }
  }
  yield { sum: every(of).map((s) => [1, first(s)]), is: '<=', than: 1 }
}

/** Rows as long as they are no more than fit into a time; null where they are more. */
function readIn(seconds: number, ...parts: readonly Generator<Row>[]): readonly Row[] | null {
  const rows: Row[] = []
  let left = seconds * FACTORS_A_SECOND
  for (const part of parts)
    for (const row of part) {
      left -= row.sum.length
      if (left < 0) return null
      rows.push(row)
    }
  return rows
}

/**
 * The program of a day that ends by a minute; null where it is too large for the time there is, in seconds. An empty list of starts means
 * that there is no plan.
 */
export function gridOf(day: Day, endMin: number, seconds: number): Grid | null {
  const of = slotsOf(day, endMin)
  if (of.choices > MOST_STARTS) return null
  const dead = withPower(of, 'off').length > 0
  const rows = readIn(seconds, rowsOfWork(of), ...(dead ? [rowsOfPower(of)] : []))
  if (!rows) return null
  const { step, slots, starts, choices } = of
  const [off] = outageOf(of)
  return {
    step,
    slots,
    starts,
    rows,
    variables: choices + (dead ? 3 * slots : 0),
    off: dead ? every(of).map((s) => [1, off(s)] as const) : [],
  }
}
