import type { Inside } from '../catalogue/devices'
import { grouped } from '../base/grouped'
import type { Installation } from '../installation/installation'
import { cableM, feederBoardId } from '../job/cable'
import { CAP, tailEndName, terminalName } from '../job/bench'
import type { Element, NetworkInput } from '../network/types'
import { protectiveOf } from '../design/protective'
import { formatLength } from '../base/format'
import { worlds } from '../region/worlds'
import { type Box, boxOf, boxPoints, type DeviceAt, pointOf } from '../build/box'
import { perMetre, supplyOf } from './conductor'
import { type CableAt, coresOf, metresOf, type Worked } from '../build/cores'
import { type Found, foundNode, wireFound } from './found'
import {
  barOf,
  type Laid,
  nodeOf,
  type Outlet,
  noTrial,
  positionKey,
  PRESUMED_M,
  PRESUMED_OHM_PER_M,
  type Switching,
  tie,
  type Trial,
} from './laid'
import { type FromBoard, wireBoard, wireStaying, wireSubBoard, wireWay } from './ways'

/** Of a terminal that was not tightened. */
export const LOOSE_OHM = 1.5
/** Of a core of a cord to an appliance, about. */
const CORD_OHM = 0.02
/** What a light whose load was not asked for is taken to draw. */
const LIGHT_W = 60

/** All boxes of a job as one network. */
export interface House {
  readonly input: NetworkInput
  readonly boxes: readonly Box[]
  readonly switching: readonly Switching[]
  readonly outlets: readonly Outlet[]
  /** What is there and stays as it is, as far as it was traced. */
  readonly found: Found
  /** Where other sources feed in, behind their breakers: what they keep alive is not solved, and is never called dead. */
  readonly sources: readonly string[]
  /** What is not in it, or is reckoned on a presumption, in words. */
  readonly notes: readonly string[]
}

/** The core of a cable from a device to its appliance, at the appliance. */
const atAppliance = (point: string, core: string): string => `${point}|appliance ${core}`

/** Everything of one box: its joints, the insides of its devices, what it draws. */
function wireBox(box: Box, laid: Laid): void {
  const { trial, make } = laid
  const at = (name: string) => nodeOf(box.id, name)
  const id = (name: string) => `${box.id} ${name}`
  for (const { end, to } of box.bench.ends) {
    if (to === CAP) continue
    const loose = trial.loose.includes(at(end))
    const joint = id(`joint ${end}`)
    make(loose ? { id: joint, kind: 'wire', a: at(end), b: at(to), ohm: LOOSE_OHM } : tie(joint, at(end), at(to)))
  }
  for (const t of box.bench.tails) make(tie(id(`tail ${t.id}`), at(tailEndName(t.id, 'a')), at(tailEndName(t.id, 'b'))))
  for (const d of box.devices) {
    for (const [i, x] of d.kind.inside.entries()) wireInside(box, d, x, insideName(box, d, i), laid)
    // A terminal that nothing leads to is there all the same.
    for (const t of d.kind.terminals) {
      const a = at(terminalName(d.id, t.id))
      make({ id: id(`${d.id} at ${t.id}`), kind: 'impedance', a, b: `${a} alone`, ohm: 1, reactanceOhm: 0 })
    }
  }
}

/** What joins the terminals of a device, by its place among what does. */
const insideName = (box: Box, d: DeviceAt, i: number): string => `${box.id} ${d.id} ${i}`

function wireInside(box: Box, d: DeviceAt, x: Inside, element: string, laid: Laid): void {
  const { trial, make } = laid
  const on = (terminal: string) => nodeOf(box.id, terminalName(d.id, terminal))
  const point = pointOf(box, d)
  const name = point?.name ?? box.name
  if (x.kind === 'joined') return make(tie(element, on(x.a), on(x.b)))
  if (x.kind === 'tab') return d.broken.includes(x.id) ? undefined : make(tie(element, on(x.a), on(x.b)))
  if (x.kind === 'pole') {
    const joins = x.joins[trial.positions[positionKey(box.id, d.id, x.by)] ?? 0]
    return joins ? make(tie(element, on(joins[0]), on(joins[1]))) : undefined
  }
  if (x.kind === 'numbered') {
    const pairs = d.pairing === undefined ? null : x.ways[d.pairing]!
    if (!pairs) laid.notes.add(`${name}: which terminals of the ${d.kind.name.toLowerCase()} join is not known, so nothing passes it.`)
    if (!pairs || (trial.positions[positionKey(box.id, d.id, x.by)] ?? 0) === 0) return
    for (const [i, [a, b]] of pairs.entries()) make(tie(`${element} ${i}`, on(a), on(b)))
    return
  }
  if (x.kind === 'residual') {
    const poles = x.poles.map((p) => ({ line: on(p.line), load: on(p.load) }))
    laid.switching.push({ element, name: `${laid.rcd}, ${name}`, kind: 'residual', circuit: point?.circuit ?? null, point: d.point })
    return make({ id: element, kind: 'rcd', poles, tripMa: x.ma })
  }
  if (x.kind === 'fuse')
    return make({ id: element, kind: 'breaker', poles: [{ line: on(x.a), load: on(x.b) }], ratingA: point?.fuseA ?? x.ratingA })
  const key = `${box.id} ${d.id} ${x.id}`
  const drawn = point?.watts ?? null
  const [a, b] = x.kind === 'socket' ? [x.line, x.other] : [x.a, x.b]
  const watts = x.kind === 'socket' ? (trial.plugged[key] ?? 0) : (x.watts ?? drawn ?? LIGHT_W)
  if (x.kind === 'load' && x.watts === null && drawn === null) laid.notes.add(`${name}: its load is not entered; ${LIGHT_W} W is assumed.`)
  const earth = x.kind === 'socket' ? x.earth : d.kind.body
  const guard = x.kind === 'socket' ? d.kind.inside.findIndex((y) => y.kind === 'residual') : -1
  // Between two lines there is twice what there is from one to neutral.
  const volts = d.kind.terminals.some((t) => t.id === b && t.takes?.role === 'line-2') ? 2 * laid.lineV : laid.lineV
  laid.outlets.push({
    id: key,
    point: d.point,
    name: `${name}, ${x.name}`,
    line: on(a),
    other: on(b),
    earth: earth === null ? null : on(earth),
    socket: x.kind === 'socket',
    element: watts > 0 ? element : null,
    guard: guard < 0 ? null : insideName(box, d, guard),
  })
  if (watts > 0) make({ id: element, kind: 'load', a: on(a), b: on(b), watts, volts, powerFactor: 1 })
}

/** The appliance at the end of a cord or of a cable that the record has not. */
function wireAppliance(box: Box, k: CableAt, volts: number, { make, outlets, notes }: Laid): void {
  const core = (role: string) => k.ends.find((e) => e.conductor.role === role)?.core
  const [line, other, pe] = [core('line') ?? core('switched-line'), core('neutral') ?? core('line-2'), core('pe')]
  for (const e of k.ends)
    make({ id: `${k.point} ${e.name}`, kind: 'wire', a: nodeOf(box.id, e.name), b: atAppliance(k.point, e.core), ohm: CORD_OHM })
  if (line === undefined || other === undefined) return
  const at = box.points.find((p) => p.id === k.point)
  const watts = at?.watts ?? 0
  const name = at?.name ?? box.name
  const element = `${k.point} appliance`
  const [a, b] = [atAppliance(k.point, line), atAppliance(k.point, other)]
  if (watts > 0) make({ id: element, kind: 'load', a, b, watts, volts, powerFactor: 1 })
  else notes.add(`${name}: what it draws is not entered; nothing flows there.`)
  outlets.push({
    id: element,
    point: k.point,
    name: `${name}, the appliance`,
    line: a,
    other: b,
    earth: pe === undefined ? null : atAppliance(k.point, pe),
    socket: false,
    element: watts > 0 ? element : null,
    guard: null,
  })
}

/** Points that cables come to: those whose boxes are opened, and those that were found and traced. */
interface Beginnings {
  /** Their box, by the point. */
  readonly boxed: ReadonlyMap<string, string>
  readonly found: ReadonlySet<string>
}
/** Cables of a circuit as their cores, between the board and the boxes. */
function wireCables(
  job: Installation,
  report: Worked,
  from: FromBoard,
  into: ReadonlyMap<string, readonly CableAt[]>,
  at: Beginnings,
  { make, notes }: Laid,
): void {
  const { circuit, chosen } = report
  const { result, design } = chosen
  const feeds = feederBoardId(circuit.id)
  for (const k of circuit.cables) {
    if (k.inside === 'joint') continue
    const cable = into.get(k.id)?.[0]
    const metres = cable ? metresOf(cable) : cableM(k)
    if (metres === null)
      notes.add(`${circuit.name}: a length is not entered; ${formatLength(PRESUMED_M, worlds[job.region].units)} is assumed.`)
    for (const c of coresOf(job, report, k)) {
      const protective = c.role === 'pe'
      const size = protective ? protectiveOf(job.region, design.cable, result!, k.size)! : (k.size ?? result!.size!)
      const perM = perMetre(job.region, design.cable, size, protective ? 'copper' : design.conductor) ?? PRESUMED_OHM_PER_M
      const ohm = Math.max(1e-6, (metres ?? PRESUMED_M) * perM)
      const end = (e: typeof k.from): string => {
        const box = e.kind === 'point' ? at.boxed.get(e.id) : undefined
        if (box !== undefined) return nodeOf(box, `${k.id} ${c.id}`)
        // It begins at a point of a circuit that is there: at what was traced to it, or, where it was not traced, as if at the board.
        if (e.kind === 'point' && at.found.has(e.id)) {
          notes.add(`${circuit.name}: whether the point it is fed from is earthed is not known; it is calculated as if it were.`)
          if (c.role === 'line' || c.role === 'neutral') return foundNode(e.id, c.role === 'line' ? 'line' : 'other')
        } else if (e.kind === 'point')
          notes.add(`${circuit.name}: the cable ahead of the point it is fed from is taken as having no impedance.`)
        if (e.kind === 'board' && e.id === feeds && k.to === e) return boardNode(e.id, c.role, worlds[job.region].splitPhase)
        if (c.role === 'pe') return barOf(circuit.board, 'PE')
        if (c.role === 'neutral') return from.neutral
        if (c.role === 'line' || c.role === 'line-2') return c.role === 'line' ? from.line : from.line2
        // A core that carries nothing from the board is capped there.
        return `${k.id} ${c.id} capped`
      }
      make({ id: `wire ${k.id} ${c.id}`, kind: 'wire', a: end(k.from), b: end(k.to), ohm })
    }
  }
}
const boardNode = (board: string, role: string, split: boolean): string =>
  role === 'pe'
    ? barOf(board, 'PE')
    : role === 'neutral'
      ? barOf(board, 'N')
      : `${board}|${split ? (role === 'line-2' ? 'L2' : 'L1') : 'L'}`

/**
 * The job as one network: its supply, its board, every circuit that is worked out, core by core into every box, and what is in them.
 * What is not known is left out and named, or reckoned on a presumption that is named too.
 */
export function houseOf(job: Installation, circuits: readonly Worked[], trial: Trial): House {
  const { loopKnown, supply } = supplyOf(job)
  const { lineV, words } = worlds[job.region]
  const elements: Element[] = []
  const boxes: Box[] = []
  const notes = new Set<string>()
  const laid: Laid = { trial, lineV, rcd: words.rcd, make: (e) => void elements.push(e), outlets: [], switching: [], notes }
  if (!loopKnown) notes.add('The loop impedance of the supply was not measured: fault currents are calculated from an assumed one.')
  const byCircuit = new Map(circuits.map((c) => [c.circuit.id, c]))
  const worked = circuits.filter((c) => c.chosen.result?.size && c.chosen.result.protectiveSize)
  const boxed = new Map(worked.flatMap((c) => boxPoints(c).map((p) => [p.id, p.box.id] as const)))
  wireBoard(job, laid)
  const { ofCircuit, ofWay, sources } = wireWays(job, circuits, worked, laid)
  for (const b of job.boards.slice(1)) wireSubBoard(job, b, ofWay, laid)
  const found = wireFound(job, ofWay, boxed, laid)
  const at: Beginnings = { boxed, found: new Set(found.points.map((p) => p.point)) }
  for (const r of circuits) {
    const { circuit } = r
    if (!worked.includes(r)) {
      notes.add(`${circuit.name} is not in it: its breaker and cable are not worked out.`)
      continue
    }
    const points = boxPoints(r).map((p) => boxOf(job, byCircuit, r, p))
    // A box that two circuits come to is opened once, with the cables of both.
    const fresh = [...new Map(points.map((b) => [b.id, b])).values()].filter((b) => !boxes.some((x) => x.id === b.id))
    const into = grouped(
      points.flatMap((b) => b.cables),
      (k) => k.id,
    )
    wireCables(job, r, ofCircuit.get(circuit.id)!, into, at, laid)
    for (const box of fresh) {
      wireBox(box, laid)
      for (const k of box.cables) if (k.side === 'load') wireAppliance(box, k, byCircuit.get(k.circuit)?.circuit.load.volts ?? lineV, laid)
      boxes.push(box)
    }
  }
  const known = new Set(elements.map((e) => e.id))
  return {
    input: { supply, elements, state: { open: trial.open.filter((o) => known.has(o)) }, probes: [] },
    boxes,
    switching: laid.switching,
    outlets: laid.outlets,
    found,
    sources,
    notes: [...notes],
  }
}

/** Every way of the boards: those of circuits of this job, each once, and those that stay as they are. */
function wireWays(job: Installation, circuits: readonly Worked[], worked: readonly Worked[], laid: Laid) {
  const ofWay = new Map<string, FromBoard>()
  const ofCircuit = new Map<string, FromBoard>()
  for (const [i, r] of circuits.entries()) {
    if (!worked.includes(r)) continue
    const there = r.circuit.ways.filter((w) => w.state !== 'new')
    // Two circuits on one way have one breaker.
    const from = there.flatMap((w) => ofWay.get(w.id) ?? [])[0] ?? wireWay(job, r, i, laid)
    ofCircuit.set(r.circuit.id, from)
    for (const w of there) ofWay.set(w.id, from)
  }
  for (const w of job.ways) if (w.state === 'existing' && !ofWay.has(w.id)) ofWay.set(w.id, wireStaying(job, w, laid))
  const sources = job.ways.flatMap((w) => {
    const from = w.kind === 'source' ? ofWay.get(w.id) : undefined
    return from ? [from.line, from.line2] : []
  })
  for (const w of job.ways)
    if (w.kind === 'source')
      laid.notes.add(`${w.label} feeds the board from another source: that is not in it, and what it keeps alive is not shown.`)
  return { ofCircuit, ofWay, sources }
}

/** The wiring with every switch one way, and the other: what one of them leaves dead the other may not. */
export function bothWays(job: Installation, circuits: readonly Worked[]): readonly House[] {
  const first = houseOf(job, circuits, noTrial)
  const positions = Object.fromEntries(
    first.boxes.flatMap((b) =>
      b.devices.flatMap((d) => d.kind.actuators.map((a) => [positionKey(b.id, d.id, a.id), a.positions.length - 1] as const)),
    ),
  )
  return Object.keys(positions).length ? [first, houseOf(job, circuits, { ...noTrial, positions })] : [first]
}
