import { waysTraced } from '../wired/found'
import { removedFrom } from '../build/removed'
import { boxesOpened, type Isolating, isolating, type WorkPlaces } from '../wired/isolate'
import type { Switching } from '../wired/laid'
import type { CircuitReport, Report } from '../report/report'
import type { Installation } from '../installation/installation'
import { evaluateSurvey } from '../survey/traced'
import { listedWords } from '../base/finding'
import type { Test } from '../verify/tests'
import type { DayRecord, Signature } from '../job/day'
import { overlap, type Span } from '../schedule/day'
import { worlds } from '../region/worlds'
import type { Task } from './tasks'

/** One outage: where hands go in it, what was not looked at, and whether it is proved dead. */
export interface IsolationCard {
  readonly key: string
  /** When, on the plan; null while none is taken over. */
  readonly span: Span | null
  readonly circuits: readonly CircuitReport[]
  readonly places: WorkPlaces
  /** What was not looked at, and must be before anything is switched off. */
  readonly unknown: readonly string[]
  /** Breaks within it, after which it is proved dead again. */
  readonly breaks: readonly string[]
  /** Every isolation test of every circuit concerned is recorded, still counts, and is met. */
  readonly proved: boolean
  readonly signatures: readonly Signature[]
}

interface OffWork {
  readonly span: Span | null
  readonly tasks: readonly Task[]
}

/** The outages of the day with what is done in them; while there is no plan, one with all that is done dead. */
function offWork(day: DayRecord, tasks: readonly Task[]): readonly OffWork[] {
  const dead = tasks.filter((t) => t.power === 'off')
  const { planned } = day
  if (!planned) return dead.length ? [{ span: null, tasks: dead }] : []
  const at = new Map(planned.tasks.map((t) => [t.id, { fromMin: t.startMin, toMin: t.endMin }]))
  return planned.outages.map((span) => ({ span, tasks: dead.filter((t) => at.has(t.id) && overlap(at.get(t.id)!, span)) }))
}

/** What must be known before a board is opened, or before a way of it is switched off for work. */
function notLooked(
  job: Installation,
  circuits: readonly CircuitReport[],
  boards: readonly string[],
  tasks: readonly Task[],
): readonly string[] {
  // What is taken out is proved dead with a circuit of the job, or not at all.
  const gone = tasks.flatMap((t) => (t.kind === 'remove' && t.circuit === null ? (t.points ?? []) : []))
  const unproved = removedFrom(job).flatMap(({ point, way }) => {
    if (!gone.includes(point.id)) return []
    const label = job.ways.find((w) => w.id === way)?.label
    return label === undefined
      ? [`What feeds ${point.name}, which is taken out, is not known: trace it first.`]
      : [`${point.name} is taken out and no circuit of this job is on its way, ${label}: add it as an altered circuit, to be proved dead.`]
  })
  if (unproved.length) return unproved
  // A point of a circuit that is there is opened too: with it comes whatever feeds it.
  const begins = circuits.flatMap((c) => {
    const own = new Set([...c.circuit.points.map((p) => p.id), c.circuit.end?.id])
    const from = boxesOpened(c).filter((id) => !own.has(id) && !waysTraced(job).has(id) && !job.circuitOfPoint.has(id))
    return from.map((id) => {
      const name = job.points.find((p) => p.id === id)?.name ?? 'A point'
      return `What feeds ${name}, where ${c.circuit.name} begins, is not known: trace it first.`
    })
  })
  if (begins.length) return begins
  if (boards.length === 0)
    return circuits.flatMap(({ circuit }) =>
      circuit.ways.some((w) => w.state !== 'new') ? [] : [`Which way feeds ${circuit.name} is not known: trace it first.`],
    )
  const main = job.boards[0]!
  const name = job.supply.board || worlds[job.region].words.board
  if (main.mainSwitch === 'unknown') return [`Not checked: which poles the main switch of ${name} opens.`]
  return main.mainSwitch === 'none' ? [`${name} has no main switch: it is made dead upstream, by who may do that.`] : []
}

/** What stays alive beside hands, of what no device of the board opens. */
function aliveBeside(job: Installation, boards: readonly string[]): readonly string[] {
  const { words } = worlds[job.region]
  if (boards.length === 0) return [`everything else in the ${words.board}, behind its covers`]
  const single = job.boards[0]!.mainSwitch === 'single-pole'
  return [
    `the incoming conductors of the ${words.board}, up to its main switch`,
    ...(single ? [`the ${words.neutral} conductors: the main switch opens the ${words.line} alone`] : []),
    ...job.ways.filter((w) => w.ahead).map((w) => `${w.label}: taken off ahead of the main switch`),
    ...job.ways.filter((w) => w.kind === 'source').map((w) => `${w.label}: feeds the ${words.board} from another source`),
  ]
}

/** What makes the places of a card dead, by the solved wiring, in words; each name as it stands on the board. */
export interface IsolationFound {
  /** Null: no devices of the boards leave them dead. */
  readonly opens: readonly string[] | null
  /** Places of work that are not in the wiring: what is opened says nothing of them. */
  readonly notJudged: readonly string[]
  readonly staysLive: readonly string[]
  /** Points that lose power besides; those that must hold apart. */
  readonly loses: readonly string[]
  readonly mustHold: readonly string[]
  /** What must hold on other ways of a residual device that the work is behind: the device may trip while conductors are moved. */
  readonly mayTrip: readonly string[]
  readonly ways: Isolating['ways']
}

/**
 * A step of isolation as the card of an outage has it: what is switched off is what the card opens, the same devices as in its list and its
 * drawing, whatever one circuit by itself would ask for.
 */
export const stepTitle = (test: Pick<Test, 'id' | 'title'>, { opens }: Pick<IsolationFound, 'opens'>): string =>
  test.id === 'iso-off' && opens !== null && opens.length > 0 ? `Switch off ${listedWords(opens)}` : test.title

export const NOTHING_ISOLATES =
  'No devices of the boards leave it dead, as the wiring is known: look for another source, and who may open it.'

/** Asks the wiring what to open. Heavy on large jobs: run it in a worker. */
export function isolationFound(job: Installation, circuits: readonly CircuitReport[], places: WorkPlaces): IsolationFound {
  const { words } = worlds[job.region]
  const found = isolating(job, circuits, places)
  const board = job.supply.board && job.supply.board !== words.board ? job.supply.board : `the ${words.board}`
  const called = (s: Switching): string => {
    if (s.kind === 'main') return `the ${s.name} of ${board}`
    const way = job.ways.find((w) => s.ways?.includes(w.id))
    return `the ${s.name}${way?.position ? `, ${words.space} ${way.position}` : ''}`
  }
  const points = job.points.filter((p) => found.loses.includes(p.id))
  const alive = [...found.ways].flatMap(([id, state]) => {
    const way = state === 'live' && places.boards.length ? job.ways.find((w) => w.id === id) : undefined
    return way && !way.ahead ? [`${way.label || 'a way'}: fed past the main switch`] : []
  })
  const named = (ids: readonly string[]) => job.standing.filter((p) => ids.includes(p.id))
  return {
    opens: found.opens && found.opens.map(called),
    notJudged: job.standing
      .concat(job.points.filter((p) => p.planned))
      .filter((p) => found.missing.includes(p.id))
      .map((p) => p.name),
    staysLive: [...aliveBeside(job, places.boards), ...alive],
    loses: points.filter((p) => !p.mustHold && !places.points.includes(p.id)).map((p) => p.name),
    mustHold: [
      ...points.filter((p) => p.mustHold).map((p) => p.name),
      ...named(found.untraced)
        .filter((p) => p.mustHold)
        .map((p) => `${p.name}: not traced, so it may lose power`),
    ],
    mayTrip: mayTrip(job, circuits, places),
    ways: found.ways,
  }
}

/** Residual devices that the opened boxes are behind, with what else is behind them and must not lose power. */
function mayTrip(job: Installation, circuits: readonly CircuitReport[], { points }: WorkPlaces): readonly string[] {
  const opened = circuits.filter(({ circuit }) => circuit.points.some((p) => points.includes(p.id)))
  const behind = new Set(opened.flatMap(({ circuit: c }) => [c.behind, ...c.ways.map((w) => w.residual)]))
  const ways = new Set(opened.flatMap(({ circuit: c }) => c.ways.map((w) => w.id)))
  return job.residualDevices
    .filter((d) => behind.has(d.id))
    .flatMap((d) => {
      const beside = evaluateSurvey(job).loads.filter((l) => l.way.residual === d.id && !ways.has(l.way.id))
      const names = job.points.filter((p) => p.mustHold && beside.some((l) => l.points.includes(p.id))).map((p) => p.name)
      const { neutral, protective } = worlds[job.region].words
      return names.length
        ? [`${listedWords(names)}, behind ${d.name} too: it trips if a ${neutral} touches ${protective} while its circuits are parted`]
        : []
    })
}

/** A card for each outage of the day. */
export function isolationCards(
  job: Installation,
  report: Pick<Report, 'byCircuit'>,
  day: DayRecord,
  tasks: readonly Task[],
): readonly IsolationCard[] {
  return offWork(day, tasks).map(({ span, tasks: done }): IsolationCard => {
    const ids = [...new Set(done.flatMap((t) => (t.circuit === null ? [] : [t.circuit])))]
    const circuits = ids.flatMap((id) => report.byCircuit.get(id) ?? [])
    const atBoard = new Set(done.flatMap((t) => (t.kind === 'board' && t.circuit !== null ? [t.circuit] : [])))
    const boards = [...new Set(circuits.filter((c) => atBoard.has(c.circuit.id)).map((c) => c.circuit.board))]
    const breaks = span && day.planned ? day.planned.tasks.filter((t) => overlap(span, { fromMin: t.startMin, toMin: t.endMin })) : []
    const named = new Map(tasks.map((t) => [t.id, t]))
    const key = ids.toSorted().join(' ')
    return {
      key,
      span,
      circuits,
      places: { points: [...new Set([...circuits.flatMap(boxesOpened), ...done.flatMap((t) => t.points ?? [])])], boards },
      unknown: notLooked(job, circuits, boards, done),
      breaks: breaks.flatMap((b) => (named.get(b.id)?.kind === 'break' ? [named.get(b.id)!.name] : [])),
      proved: circuits.length > 0 && circuits.every((c) => c.testReport.phase.isolation.met),
      // Who signed before it was last proved signed for something else.
      signatures: day.signatures.filter((s) => s.circuits.toSorted().join(' ') === key && s.at >= provedAt(circuits)),
    }
  })
}

/** When the last of what proves these circuits dead was read; empty: nothing was. */
const provedAt = (circuits: readonly CircuitReport[]): string =>
  circuits
    .flatMap((c) => c.testReport.judged)
    .reduce((last, j) => (j.test.phase === 'isolation' && j.reading && j.reading.at > last ? j.reading.at : last), '')

/** Why work that is done dead may not begin yet; null: it may. */
export function shutFor(task: Task, cards: readonly IsolationCard[]): string | null {
  if (task.power !== 'off') return null
  if (task.circuit === null)
    return cards.some((c) => c.proved && c.unknown.length === 0 && c.signatures.length > 0)
      ? null
      : 'No isolation is proved dead and signed under which it could be done.'
  const card = cards.find((c) => c.circuits.some((x) => x.circuit.id === task.circuit))
  if (!card) return 'No isolation is planned for it.'
  if (card.unknown.length) return card.unknown[0]!
  const open = card.circuits.find((c) => !c.testReport.phase.isolation.met)
  if (open) return `${open.circuit.name} is not proved dead: its isolation tests come first.`
  return card.signatures.length ? null : 'The isolation card is not signed.'
}
