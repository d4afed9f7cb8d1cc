import { formatLength } from '../base/format'
import { worlds } from '../region/worlds'
import type { CircuitReport, Report } from '../report/report'
import { stepsOfWay } from '../installation/building'
import type { Installation } from '../installation/installation'
import { newDay, type OwnTask } from '../job/day'
import { removedFrom } from '../build/removed'
import { runLengthM } from '../design/conditions'
import type { TaskKind } from './task-kinds'

/** Minutes of one of each: of a metre run, a box, an accessory, a circuit at its board, a test. A careful hand's usual ones. */
export const usualMinutes: Readonly<Record<Exclude<TaskKind, 'bore' | 'pull' | 'close'>, number>> = {
  run: 4,
  remove: 20,
  box: 15,
  fit: 12,
  board: 30,
  dead: 3,
  live: 4,
  label: 10,
  clear: 20,
}
export type MinutesTable = Readonly<Partial<Record<TaskKind, number>>>

/** A piece of work on the day. */
export interface Task {
  readonly id: string
  readonly name: string
  readonly kind: TaskKind | OwnTask['kind']
  /** Null for what is no circuit’s. */
  readonly circuit: string | null
  readonly minutes: number
  /** Where the minutes come from: said for this job, the firm's own table, its way, or usual figures of ours. */
  readonly from: 'said' | 'table' | 'way' | 'usual' | 'own'
  /** What is not known and was reckoned with all the same; empty: nothing. */
  readonly presumed: string
  readonly people: number
  readonly power: OwnTask['power']
  readonly after: readonly string[]
  readonly earliestMin: number | null
  readonly latestMin: number | null
  /** Under a hot roof. */
  readonly hot: boolean
  /** Lying or on hands and knees. */
  readonly cramped: boolean
  /** Above what is reached from the floor: a ladder, and a hand that holds it. */
  readonly high: boolean
  /** Under the open sky. */
  readonly outside: boolean
  /** So many of its people do electrical work. */
  readonly skilled: number
  /** Points that are opened for it besides those of its circuit. */
  readonly points?: readonly string[]
}

/** What is higher is reached from a ladder. */
const REACH_MM = 2000
/** A run of unknown length is reckoned with as this many metres, and says so. */
const PRESUMED_M = 15
const presumedLength = (job: Installation): string => `length not known, ${formatLength(PRESUMED_M, worlds[job.region].units)} assumed`

interface Drawn {
  readonly kind: TaskKind
  readonly name: string
  readonly count: number
  readonly minutes?: number
  readonly people?: number
  readonly power?: Task['power']
  readonly presumed?: string
  readonly hot?: boolean
  readonly cramped?: boolean
  readonly high?: boolean
}

/** Ways of a circuit as work: bored, pulled and closed; or its run, by its length. */
function laying(job: Installation, report: CircuitReport): Drawn[] {
  const { circuit, chosen } = report
  const routed = circuit.cables.flatMap((k) => (k.route && k.state !== 'existing' ? [k.route.elements] : []))
  if (routed.length === 0) {
    const known = circuit.points.length
      ? circuit.points.reduce<number | null>((sum, p) => (sum === null || p.lengthM === null ? null : sum + p.lengthM), 0)
      : runLengthM(circuit, chosen.design)
    return [{ kind: 'run', name: 'run the cable', count: known ?? PRESUMED_M, presumed: known === null ? presumedLength(job) : '' }]
  }
  const steps = routed.flatMap((parts) => stepsOfWay(job, parts, 'metric'))
  const sum = (list: typeof steps) => Math.round(list.reduce((n, s) => n + s.minutes, 0))
  const [bored, pulled, closed] = [
    steps.filter((s) => s.mark === 'hole' || s.mark === 'opening'),
    steps.filter((s) => s.mark === 'cable'),
    steps.filter((s) => s.mark === 'close'),
  ]
  const attic = job.building?.attic
  const hot =
    attic !== null && attic !== undefined && attic !== 'none' && attic.hot && routed.some((p) => p.some((e) => e.kind === 'attic'))
  const cramped = routed.some((p) => p.some((e) => e.kind === 'crawl'))
  return [
    ...(bored.length
      ? [{ kind: 'bore' as const, name: 'bore and open the way', count: bored.length, minutes: sum(bored), hot, cramped }]
      : []),
    ...(pulled.length
      ? [
          {
            kind: 'pull' as const,
            name: 'pull the cable',
            count: pulled.length,
            minutes: sum(pulled),
            people: Math.max(...pulled.map((s) => s.people)),
            hot,
            cramped,
          },
        ]
      : []),
    ...(closed.length ? [{ kind: 'close' as const, name: 'close and make good', count: closed.length, minutes: sum(closed) }] : []),
  ]
}

/** What the design of a circuit asks for, in the order it is done. */
function drawn(job: Installation, report: CircuitReport): Drawn[] {
  const { circuit, ends, tests } = report
  const altered = circuit.work === 'altered'
  const power = altered ? ('off' as const) : ('any' as const)
  const listed = new Map(job.points.map((p) => [p.id, p]))
  const mine = ends.filter((e) => e.fitted || e.joint)
  const toDo = mine.reduce((n, e) => n + e.points.filter((id) => listed.get(id)?.state !== 'existing').length, 0)
  const left = (phase: 'dead' | 'live') => tests.filter((t) => t.phase === phase && !t.optional).length
  const lays = laying(job, report)
  const aloft = (id: string) => {
    const p = listed.get(id)
    return p?.overhead !== undefined || p?.kind === 'light' || (p?.heightMm ?? 0) > REACH_MM
  }
  const high = mine.some((e) => e.points.some((id) => listed.get(id)?.state !== 'existing' && aloft(id)))
  return [
    ...lays.filter((l) => l.kind !== 'close'),
    ...(toDo ? [{ kind: 'box' as const, name: toDo === 1 ? 'set the box' : `set ${toDo} boxes`, count: toDo, power, high }] : []),
    ...(toDo
      ? [{ kind: 'fit' as const, name: toDo === 1 ? 'connect the accessory' : `connect ${toDo} accessories`, count: toDo, power, high }]
      : []),
    { kind: 'board', name: `connect it at the ${worlds[job.region].words.board}`, count: 1, power: 'off' },
    ...(left('dead') ? [{ kind: 'dead' as const, name: 'test it dead', count: left('dead'), power: 'off' as const }] : []),
    ...lays.filter((l) => l.kind === 'close'),
    ...(left('live') ? [{ kind: 'live' as const, name: 'energise and test it live', count: left('live'), power: 'on' as const }] : []),
    { kind: 'label', name: 'label it', count: 1 },
  ]
}

/** Kinds of task that one of those who do electrical work is at. */
const electrical: ReadonlySet<TaskKind> = new Set(['fit', 'board', 'dead', 'live'])
/** Kinds that are done where the points are. */
const atPoints: ReadonlySet<TaskKind> = new Set(['bore', 'run', 'pull', 'close', 'box', 'fit'])

/** Whether all that is worked at of a circuit is under the open sky. */
function allOutdoors(job: Installation, { circuit }: CircuitReport): boolean {
  const points: readonly { readonly environment: string | null }[] = circuit.points.length
    ? circuit.points.filter((p) => p.state !== 'existing')
    : circuit.end
      ? [circuit.end]
      : []
  return points.length > 0 && points.every((p) => (p.environment ?? circuit.environment ?? job.brief.environment) === 'outdoors')
}

/** What each kind of task waits for. */
const needs: Readonly<Partial<Record<TaskKind, readonly TaskKind[]>>> = {
  pull: ['bore'],
  // Holes for boxes stay open until all is pulled.
  box: ['pull', 'run'],
  fit: ['box', 'pull', 'run'],
  board: ['fit', 'pull', 'run'],
  dead: ['board'],
  close: ['dead'],
  live: ['dead', 'board'],
  label: ['live'],
}

/** A task that no circuit's design asks for, timed by so many of its kind. */
function lone(
  job: Installation,
  table: MinutesTable,
  kind: 'remove' | 'run',
  count: number,
  of: Pick<Task, 'id' | 'name'> & Partial<Task>,
): Task {
  const day = job.day ?? newDay()
  const { id } = of
  return {
    kind,
    circuit: null,
    minutes: day.minutes[id] ?? Math.max(1, Math.round(count * (table[kind] ?? usualMinutes[kind]))),
    from: day.minutes[id] === undefined ? (table[kind] === undefined ? 'usual' : 'table') : 'said',
    people: 1,
    power: 'any',
    after: [],
    earliestMin: day.notBefore?.[id] ?? null,
    latestMin: null,
    hot: false,
    cramped: false,
    high: false,
    outside: false,
    skilled: 0,
    ...of,
    presumed: day.minutes[id] === undefined ? (of.presumed ?? '') : '',
  }
}

/** What is taken out, each as work of its own: on the circuit of this job that leaves from its way, where there is one. */
const removals = (job: Installation, report: Pick<Report, 'circuits'>, table: MinutesTable): readonly Task[] =>
  removedFrom(job).map(({ point, way }) =>
    lone(job, table, 'remove', 1, {
      id: `remove ${point.id}`,
      name: `${point.name}: take it out, and leave it safe`,
      circuit: report.circuits.find((c) => way !== null && c.circuit.ways.some((w) => w.id === way))?.circuit.id ?? null,
      power: 'off',
      high: point.overhead !== undefined || (point.heightMm ?? 0) > REACH_MM,
      outside: (point.environment ?? job.brief.environment) === 'outdoors',
      skilled: 1,
      points: [point.id],
    }),
  )

/** New cables of extra-low voltage and telecommunication, each run by itself. */
const signalRuns = (job: Installation, table: MinutesTable): readonly Task[] =>
  (job.record.signalCables ?? [])
    .filter((k) => k.state === 'new')
    .map((k) =>
      lone(job, table, 'run', k.lengthM ?? PRESUMED_M, {
        id: `run ${k.id}`,
        name: `${k.name}: run it, apart from power`,
        presumed: k.lengthM === null ? presumedLength(job) : '',
      }),
    )

/** Every task of the day: what the design asks for, what was added, and clearing up at its end. */
export function tasksOf(job: Installation, report: Pick<Report, 'circuits'>, table: MinutesTable = {}): readonly Task[] {
  const day = job.day ?? newDay()
  const crew = day.people.length
  const tasks = report.circuits.flatMap((c): Task[] => {
    const list = drawn(job, c)
    const outdoors = allOutdoors(job, c)
    const idOf = (kind: TaskKind) => `${kind} ${c.circuit.id}`
    return list.map((d) => {
      const id = idOf(d.kind)
      const each = d.minutes ?? d.count * (table[d.kind] ?? usualMinutes[d.kind as keyof typeof usualMinutes])
      const from = d.minutes !== undefined ? 'way' : table[d.kind] === undefined ? 'usual' : 'table'
      return {
        id,
        name: `${c.circuit.name || 'Circuit'}: ${d.name}`,
        kind: d.kind,
        circuit: c.circuit.id,
        minutes: day.minutes[id] ?? Math.max(1, Math.round(each)),
        from: day.minutes[id] === undefined ? from : 'said',
        presumed: day.minutes[id] === undefined ? (d.presumed ?? '') : '',
        people: Math.min(d.people ?? 1, crew),
        power: d.power ?? 'any',
        after: (needs[d.kind] ?? []).filter((k) => list.some((x) => x.kind === k)).map(idOf),
        earliestMin: day.notBefore?.[id] ?? null,
        latestMin: null,
        hot: d.hot ?? false,
        cramped: d.cramped ?? false,
        high: d.high ?? false,
        outside: outdoors && atPoints.has(d.kind),
        skilled: electrical.has(d.kind) ? 1 : 0,
      }
    })
  })
  const gone = [...removals(job, report, table), ...signalRuns(job, table)]
  // At a hold point all that walls hide is there to be seen, and nothing is closed before it is passed.
  const holds = day.own.filter((t) => t.kind === 'hold').map((t) => t.id)
  const hidden = [...gone, ...tasks].filter((t) => t.kind === 'pull' || t.kind === 'run' || t.kind === 'box').map((t) => t.id)
  const own = day.own.map((t): Task => ({
    ...t,
    ...(t.kind === 'hold' ? { after: [...new Set([...t.after, ...hidden])] } : {}),
    circuit: null,
    from: 'own',
    presumed: '',
    hot: false,
    cramped: false,
    high: false,
    outside: t.outside ?? false,
    skilled: t.skilled && t.people > 0 ? 1 : 0,
  }))
  const clear: Task = {
    id: 'clear',
    name: 'Clear up and load',
    kind: 'clear',
    circuit: null,
    minutes: day.minutes.clear ?? table.clear ?? usualMinutes.clear,
    from: day.minutes.clear === undefined ? (table.clear === undefined ? 'usual' : 'table') : 'said',
    presumed: '',
    people: 1,
    power: 'any',
    after: [...[...gone, ...tasks].filter((t) => ['live', 'close', 'label', 'remove'].includes(t.kind)).map((t) => t.id), ...holds],
    earliestMin: day.notBefore?.clear ?? null,
    latestMin: null,
    hot: false,
    cramped: false,
    high: false,
    outside: false,
    skilled: 0,
  }
  const all = [...gone, ...tasks.map((t) => (t.kind === 'close' ? { ...t, after: [...t.after, ...holds] } : t))]
  return all.length + own.length ? [...all, ...own, ...(all.length ? [clear] : [])] : []
}
