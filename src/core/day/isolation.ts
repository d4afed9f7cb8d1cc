import type { CircuitReport, Report } from '../evaluate'
import type { Installation } from '../installation/installation'
import type { DayRecord, Signature } from '../job/day'
import { overlap, type Span } from '../planning/day'
import { worlds } from '../region/worlds'
import type { Task } from './tasks'

/** What is opened for work, what it leaves alive beside it, and whether it is proved dead. */
export interface IsolationCard {
  readonly key: string
  /** When, on the plan; null while none is taken over. */
  readonly span: Span | null
  readonly circuits: readonly CircuitReport[]
  readonly opens: readonly string[]
  readonly staysLive: readonly string[]
  /** What nobody looked at, and must be before anything is switched off. */
  readonly unknown: readonly string[]
  /** What loses power though it should hold. */
  readonly mustHold: readonly string[]
  /** Breaks within it, after which it is proved dead again. */
  readonly breaks: readonly string[]
  /** Every isolation test of every circuit concerned is recorded, stands, and is met. */
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

/** Whether something of the board itself is opened, so that a breaker of its own does not make it safe. */
const inBoard = (tasks: readonly Task[]): boolean => tasks.some((t) => t.kind === 'board')

function boardOpened(job: Installation): Pick<IsolationCard, 'opens' | 'staysLive' | 'unknown'> {
  const words = worlds[job.region].words
  const board = job.boards[0]!
  const name = job.supply.board || words.board
  const { mainSwitch } = board
  const live = [`the incoming conductors of the ${words.board}, up to its main switch`]
  if (mainSwitch === 'single-pole') live.push(`the ${words.neutral} conductors: the main switch opens the ${words.line} alone`)
  for (const w of job.ways) if (w.ahead) live.push(`${w.label}: taken off ahead of the main switch`)
  for (const w of job.ways) if (w.kind === 'source') live.push(`${w.label}: feeds the ${words.board} from another source`)
  if (mainSwitch === 'unknown') return { opens: [], staysLive: live, unknown: [`Nobody looked what the main switch of ${name} opens.`] }
  if (mainSwitch === 'none')
    return { opens: [], staysLive: live, unknown: [`${name} has no main switch: it is made dead upstream, by who may do that.`] }
  return { opens: [`the main switch of ${name}`], staysLive: live, unknown: [] }
}

function waysOpened(job: Installation, circuits: readonly CircuitReport[]): Pick<IsolationCard, 'opens' | 'staysLive' | 'unknown'> {
  const words = worlds[job.region].words
  const opens: string[] = []
  const unknown: string[] = []
  for (const { circuit } of circuits) {
    const found = circuit.ways.filter((w) => w.state !== 'new')
    if (found.length === 0) unknown.push(`Which way feeds ${circuit.name} is not known: trace it first.`)
    for (const w of found) opens.push(`the ${words.breaker} of ${w.label}${w.position === null ? '' : `, ${words.space} ${w.position}`}`)
  }
  return { opens, staysLive: [`everything else in the ${words.board}, behind its covers`], unknown }
}

/** Points that must not lose power and do: all of them where the board is opened, else those the circuits feed. */
function holding(job: Installation, circuits: readonly CircuitReport[], all: boolean): string[] {
  const mine = new Set(circuits.flatMap((c) => c.circuit.points.map((p) => p.id)))
  return job.points.filter((p) => p.mustHold && (all || mine.has(p.id))).map((p) => p.name)
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
    const board = inBoard(done)
    const breaks = span && day.planned ? day.planned.tasks.filter((t) => overlap(span, { fromMin: t.startMin, toMin: t.endMin })) : []
    const named = new Map(tasks.map((t) => [t.id, t]))
    const key = ids.toSorted().join(' ')
    return {
      key,
      span,
      circuits,
      ...(board ? boardOpened(job) : waysOpened(job, circuits)),
      mustHold: holding(job, circuits, board),
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
  return card.signatures.length ? null : 'Nobody has signed the isolation yet.'
}
