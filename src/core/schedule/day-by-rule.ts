import { better, type Day, type Hands, handsAt, ISOLATION_MIN, outagesOf, type Plan, planOf } from './day'

/** A try takes longer the more tasks there are: so many that all of them take about half a second. */
const triesFor = (tasks: number): number => Math.min(4000, Math.max(60, Math.round(250_000 / tasks ** 2)))

/** A linear congruential generator: pseudorandom numbers from 0 to 1, the same for the same seed. */
function chances(from: number): () => number {
  let seed = from
  return () => (seed = (seed * 1_103_515_245 + 12_345) % 2 ** 31) / 2 ** 31
}

interface Way {
  /** The lower, the sooner a task is placed. */
  readonly rank: readonly number[]
  /** Nothing is switched off before. */
  readonly offFrom: number
}

/** Serial schedule generation: each task in order of rank at its earliest feasible start; null where one fits nowhere. */
function placed(day: Day, { rank, offFrom }: Way): Pick<Plan, 'starts' | 'by'> | null {
  const { tasks, before, earliest, startMin, away, manned } = day
  const starts: number[] = tasks.map(() => -1)
  const by: Hands[] = manned.map(([first]) => first!)
  const end = (i: number) => starts[i]! + tasks[i]!.minutes
  const left = new Set(tasks.keys())
  while (left.size) {
    const next = [...left].filter((i) => before[i]!.every((b) => !left.has(b))).toSorted((a, b) => rank[a]! - rank[b]!)[0]!
    const task = tasks[next]!
    const done = [...tasks.keys()].filter((i) => !left.has(i))
    const from = Math.max(earliest[next]!, task.power === 'off' ? offFrom : startMin, ...before[next]!.map(end))
    // A task that goes somewhere goes where another ends, or after the minutes that isolating takes.
    const times = [from, ...done.flatMap((i) => [end(i), end(i) + ISOLATION_MIN]), ...away.map((a) => a.toMin)]
      .filter((t) => t >= from)
      .toSorted((a, b) => a - b)
    const start = times.find((t) => {
      const to = t + task.minutes
      if (task.latestMin !== undefined && to > task.latestMin) return false
      const beside = done.filter((i) => starts[i]! < to && end(i) > t)
      const instants = [t, ...[...beside.map((i) => starts[i]!), ...away.map((a) => a.fromMin)].filter((s) => s > t && s < to)]
      const free = instants.map((at) => {
        const there = handsAt(day, at)
        const busy = beside.filter((i) => starts[i]! <= at && end(i) > at).map((i) => by[i]!)
        return { able: busy.reduce((n, h) => n - h.able, there.able), help: busy.reduce((n, h) => n - h.help, there.help) }
      })
      const team = manned[next]!.find((m) => free.every((f) => m.able <= f.able && m.help <= f.help))
      if (!team) return false
      by[next] = team
      const those = [...done, next].map((i) => [tasks[i]!, i === next ? t : starts[i]!] as const)
      return (
        task.power === 'any' ||
        outagesOf(
          those.map(([x]) => x),
          those.map(([, s]) => s),
        ) !== null
      )
    })
    if (start === undefined) return null
    starts[next] = start
    left.delete(next)
  }
  return { starts, by }
}

/**
 * The best plan that rules of thumb find; null where they find none. With a time it goes on for so long, in seconds, from a plan there is.
 */
export function planByRule(
  day: Day,
  enough: (plan: Plan) => boolean,
  longer?: { readonly seconds: number; readonly from: Plan | null },
): Plan | null {
  // What was tried before is not tried again.
  const chance = chances(longer?.from ? 4242 : 42)
  const { tasks, tail, startMin } = day
  let best: Plan | null = longer?.from ?? null
  const tries = triesFor(tasks.length)
  const until = longer && performance.now() + longer.seconds * 1000
  // Half of the tries without a better plan are enough.
  const goOn = (turn: number, since: number) => (until === undefined ? turn < tries && since < tries / 2 : performance.now() < until)
  for (let turn = 0, since = 0; goOn(turn, since); turn++, since++) {
    const blur = turn === 0 && !longer?.from ? 0 : 0.3 + chance()
    // What others wait for longest first; now and then what is done dead, or live, all together.
    const leaning = turn % 3
    const weight = tasks.reduce((sum, t) => sum + t.minutes, 0)
    // Now and then what is wished soon goes first, and what must be over by a time.
    const wishing = turn % 5 === 4 ? chance() : 0
    const rank = tasks.map((t, i) => {
      const wanted = wishing * weight * ((t.wish?.soon ? 1 : 0) + (t.wish?.past ? 1 : 0))
      const lean = leaning === 1 && t.power === 'off' ? weight : leaning === 2 && t.power === 'on' ? weight : 0
      return -(tail[i]! * (1 + blur * (chance() - 0.5)) + lean * chance() + wanted)
    })
    const span = best ? best.finishMin - startMin : 0
    const offFrom = turn % 4 === 3 ? startMin + Math.round(span * chance()) : startMin
    const found = placed(day, { rank, offFrom })
    const plan = found && planOf(day, found)
    if (plan && (!best || better(plan, best))) {
      best = plan
      since = 0
    }
    if (best && enough(best)) return best
  }
  return best
}
