import { systemOf } from '../design/endings'
import type { Installation } from '../installation/installation'
import type { Board, Way } from '../job/board'
import { worlds } from '../region/worlds'
import { legOf } from '../survey/board'
import type { Worked } from '../build/cores'
import { barOf, type Laid, SHORT_OHM, tie } from './laid'

/* The boards of a job, and the devices of every way of them, those that stay as they are too. */

type Poles = readonly { readonly line: string; readonly load: string }[]
/** A residual device; one of which nobody read what it trips at is passed as a switch is, and said not to trip. */
function makeResidual(id: string, name: string, poles: Poles, tripMa: number | null, { make, notes }: Laid): void {
  if (tripMa !== null) return make({ id, kind: 'rcd', poles: [...poles], tripMa })
  notes.add(`${name}: trip current not read, so it is assumed not to trip.`)
  make({ id, kind: 'switch', poles: poles.map((p) => ({ a: p.line, b: p.load })) })
}

/** The board of the supply: its main switch, the conductors behind it, and the residual devices that are in it. */
export function wireBoard(job: Installation, laid: Laid): void {
  const { make, switching } = laid
  const { splitPhase, says, words } = worlds[job.region]
  const board = job.boards[0]!
  const lines = splitPhase ? (['L1', 'L2'] as const) : (['L'] as const)
  const both = board.mainSwitch === 'double-pole' && !splitPhase
  const poles = [...lines.map((l) => ({ a: l, b: `${board.id}|${l}` })), ...(both ? [{ a: 'N', b: barOf(board.id, 'N') }] : [])]
  make({ id: 'main', kind: 'switch', poles })
  if (!both) make(tie('main neutral', 'N', barOf(board.id, 'N')))
  make(tie('main earth', 'PE', barOf(board.id, 'PE')))
  switching.push({ element: 'main', name: `main ${says.mainDevice}`, kind: 'main', circuit: null })
  for (const d of job.residualDevices) {
    const id = `rcd ${d.id}`
    const name = d.name || words.rcd
    const through = [...lines.map((l) => `${d.board}|${l}`), barOf(d.board, 'N')].map((line, i) => ({
      line,
      load: `${id}|${[...lines, 'N'][i]}`,
    }))
    makeResidual(id, name, through, d.tripMa, laid)
    switching.push({ element: id, name, kind: 'residual', circuit: null })
  }
}

/** A sub-board that is there, fed as if its feeder were short: nobody has said how long it is. */
export function wireSubBoard(job: Installation, board: Board, ways: Ways, { make, notes }: Laid): void {
  const lines = worlds[job.region].splitPhase ? ['L1', 'L2'] : ['L']
  const way = job.ways.find((w) => w.id === board.fedFrom)
  const from = way ? ways.get(way.id) : undefined
  const main = way?.board ?? job.boards[0]!.id
  const fed = [
    ...lines.map((l, i) => [from ? ([from.line, from.line2][i] ?? from.line) : `${main}|${l}`, l] as const),
    [from?.neutral ?? barOf(main, 'N'), 'N'] as const,
    [barOf(main, 'PE'), 'PE'] as const,
  ]
  for (const [a, bar] of fed) make({ id: `feed ${board.id} ${bar}`, kind: 'wire', a, b: `${board.id}|${bar}`, ohm: SHORT_OHM })
  notes.add(`${board.name || 'A board that is there'}: its feeder is taken as having no impedance.`)
}

/** Where the conductors of a way begin, behind its devices. */
export interface FromBoard {
  readonly line: string
  readonly line2: string
  readonly neutral: string
}
/** Ways of the boards by their id, as far as they are wired. */
export type Ways = ReadonlyMap<string, FromBoard>

/** What is between the bars of a board and the conductors of one way. */
interface Devices {
  readonly id: string
  readonly name: string
  readonly circuit: string | null
  /** The ways it is, by their id. */
  readonly ways: readonly string[]
  readonly board: string
  /** The bars it takes its lines from, those used first. */
  readonly lines: readonly string[]
  readonly used: number
  /** A residual device of its own, with what it trips at where somebody read it; that of a group; or none. */
  readonly residual: { readonly own: number | null } | { readonly group: string } | null
  /** Its rating, null where not read; none: it is not there yet. */
  readonly breaker: { readonly ratingA: number | null; readonly type: Way['curve'] } | null
  readonly bar: string | null
  /** Taken off before the main switch. */
  readonly ahead: boolean
}

/** The devices of a way: the residual device of its own or the one it is behind, its breaker, and the bar its neutral is on. */
function wireDevices(job: Installation, d: Devices, laid: Laid): FromBoard {
  const { make, switching, notes } = laid
  const { words } = worlds[job.region]
  const used = d.lines.slice(0, d.used)
  const bar = (l: string) => (d.ahead ? l : `${d.board}|${l}`)
  const neutralBar = d.ahead ? 'N' : barOf(d.board, 'N')
  const group = d.residual === null ? null : 'own' in d.residual ? `rcd ${d.id}` : `rcd ${d.residual.group}`
  if (d.residual && 'own' in d.residual) {
    const pole = (l: string) => ({ line: l === 'N' ? neutralBar : bar(l), load: `${group}|${l}` })
    const name = `${words.rcd} of ${d.name}`
    makeResidual(group!, name, [...used, 'N'].map(pole), d.residual.own, laid)
    switching.push({ element: group!, name, kind: 'residual', circuit: d.circuit })
  }
  const load = (l: string) => `${d.id}|${l}`
  if (d.breaker) {
    const element = `breaker ${d.id}`
    const poles = used.map((l) => ({ line: group ? `${group}|${l}` : bar(l), load: load(l) }))
    const { ratingA, type } = d.breaker
    if (ratingA !== null) make({ id: element, kind: 'breaker', poles, ratingA, ...(type ? { type } : {}) })
    else {
      notes.add(`${d.name}: its ${words.breaker} was not read, so it is assumed not to trip.`)
      make({ id: element, kind: 'switch', poles: poles.map((p) => ({ a: p.line, b: p.load })) })
    }
    switching.push({
      element,
      name: `${words.breaker} of ${d.name}`,
      kind: 'breaker',
      circuit: d.circuit,
      ways: d.ways,
      load: load(d.lines[0]!),
    })
  }
  // A bar that somebody saw stands for itself; one not looked at is taken to be the one of its device.
  const ofDevice = d.bar !== null && job.residualDevices.some((x) => x.id === d.bar)
  const seenOnMain = d.bar === 'main' && d.residual !== null && 'group' in d.residual
  const neutral = ofDevice ? `rcd ${d.bar}|N` : group && !seenOnMain ? `${group}|N` : neutralBar
  return { line: load(d.lines[0]!), line2: d.used > 1 ? load(d.lines[1]!) : `${d.id}|loose`, neutral }
}

/** The lines of a board in the order a way takes them: down a board they change places every second space. */
const linesAt = (splitPhase: boolean, second: boolean): readonly string[] => (splitPhase ? (second ? ['L2', 'L1'] : ['L1', 'L2']) : ['L'])

/** The way of a circuit of this job. */
export function wireWay(job: Installation, report: Worked, leg: number, laid: Laid): FromBoard {
  const { circuit, chosen } = report
  const { splitPhase, typedBreakers } = worlds[job.region]
  const way = circuit.ways[0]
  const both = splitPhase && systemOf(job.region, circuit, report.ends) !== 'line-neutral'
  if (splitPhase && !both && !way?.position)
    laid.notes.add(`${circuit.name}: its space is not known, so the line it is on is taken by its order.`)
  const device = job.residualDevices.find((d) => d.id === circuit.behind)
  const own = !device && (circuit.behind === 'own' || (circuit.behind === null && chosen.design.residual.at === 'board'))
  const ratingA = chosen.result?.breakerA ?? way?.ratingA ?? null
  return wireDevices(
    job,
    {
      id: circuit.id,
      name: circuit.name,
      circuit: circuit.id,
      ways: circuit.ways.map((w) => w.id),
      board: circuit.board,
      lines: linesAt(splitPhase, way?.position ? legOf(way.position) === 'B' : leg % 2 === 1),
      used: both ? 2 : 1,
      residual: device ? { group: device.id } : own ? { own: chosen.design.residual.ma } : null,
      // Of a way that is to be put in one is taken that has no space yet.
      breaker: ratingA === null ? null : { ratingA, type: typedBreakers ? (way?.curve ?? chosen.design.breakerType) : null },
      bar: way?.bar ?? null,
      ahead: way?.ahead ?? false,
    },
    laid,
  )
}

/** A way that is there and stays as it is. */
export function wireStaying(job: Installation, way: Way, laid: Laid): FromBoard {
  const { splitPhase, typedBreakers } = worlds[job.region]
  const name = way.label
  const device = job.residualDevices.find((d) => d.id === way.residual)
  if (splitPhase && way.position === null && way.poles === 1)
    laid.notes.add(`${name}: its space is not known, so the line it is on is not known; L1 is taken.`)
  return wireDevices(
    job,
    {
      id: `way ${way.id}`,
      name,
      circuit: null,
      ways: [way.id],
      board: way.board,
      lines: linesAt(splitPhase, way.position !== null && legOf(way.position) === 'B'),
      used: splitPhase && way.poles === 2 ? 2 : 1,
      residual: device ? { group: device.id } : way.residual === 'own' ? { own: null } : null,
      breaker: { ratingA: way.ratingA, type: typedBreakers ? way.curve : null },
      bar: way.bar,
      ahead: way.ahead,
    },
    laid,
  )
}
