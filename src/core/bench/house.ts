import type { Inside } from '../catalogue/devices'
import { grouped } from '../grouped'
import type { Board } from '../job/board'
import type { Installation } from '../installation/installation'
import { feederBoardId } from '../job/cable'
import { CAP, tailEndName, terminalName } from '../job/bench'
import type { Element, NetworkInput } from '../network/types'
import { worlds } from '../region/worlds'
import { legOf } from '../survey/board'
import { type Box, boxOf, boxPoints, type DeviceAt } from './box'
import { perMetre, supplyOf } from './conductor'
import { type CableAt, coresOf, metresOf, systemOf, type Worked } from './cores'

/** What a hand tries on the wiring: nothing of it is in the record. */
export interface Trial {
  /** Devices of the board and isolators that are open, by element. */
  readonly open: readonly string[]
  /** Positions of actuators, by `point device actuator`; none: the first. */
  readonly positions: Readonly<Record<string, number>>
  /** Watts plugged in, by `point device socket`. */
  readonly plugged: Readonly<Record<string, number>>
  /** Ends that are not tight. */
  readonly loose: readonly string[]
}
export const noTrial: Trial = { open: [], positions: {}, plugged: {}, loose: [] }

/** A cable whose length is not entered is reckoned so long, and said to be. */
const PRESUMED_M = 10
/** Of a terminal that was not tightened. */
export const LOOSE_OHM = 1.5
/** Of a feeder nobody measured, a conductor. */
const SHORT_OHM = 0.01
/** Of a core of a cord to an appliance, about. */
const CORD_OHM = 0.02
/** What a light that nobody asked about is taken to draw. */
const LIGHT_W = 60

/** A part of the network that a hand can switch or that opens by itself. */
export interface Switching {
  readonly element: string
  readonly name: string
  readonly kind: 'main' | 'breaker' | 'residual'
  readonly circuit: string | null
  /** The box it stands in; none: the board. */
  readonly point?: string
}
/** A place where something draws power or may be plugged in. */
export interface Outlet {
  readonly id: string
  readonly point: string
  readonly name: string
  readonly line: string
  readonly other: string
  readonly earth: string | null
  readonly socket: boolean
  /** Of the load on it, where there is one. */
  readonly element: string | null
  /** The residual device that stands in the same accessory, where there is one. */
  readonly guard: string | null
}
/** All boxes of a job as one network. */
export interface House {
  readonly input: NetworkInput
  readonly boxes: readonly Box[]
  readonly switching: readonly Switching[]
  readonly outlets: readonly Outlet[]
  /** What is not in it, or is reckoned on a presumption, in words. */
  readonly notes: readonly string[]
}

/** The name of a place of a box in the network. */
export const nodeOf = (point: string, name: string): string => `${point}|${name}`
/** The core of a cable from a device to its appliance, at the appliance. */
const atAppliance = (point: string, core: string): string => `${point}|appliance ${core}`
const barOf = (board: string, bar: 'N' | 'PE'): string => `${board}|${bar}`
export const positionKey = (point: string, deviceId: string, actuator: string): string => `${point} ${deviceId} ${actuator}`

/** What a network is put together with. */
interface Laid {
  readonly trial: Trial
  readonly lineV: number
  /** What a residual device is called there. */
  readonly rcd: string
  readonly make: (e: Element) => void
  readonly outlets: Outlet[]
  readonly switching: Switching[]
  readonly notes: Set<string>
}
const tie = (id: string, a: string, b: string): Element => ({ id, kind: 'switch', poles: [{ a, b }] })

/** Everything of one box: its joints, the insides of its devices, what it draws. */
function wireBox(box: Box, laid: Laid): void {
  const { trial, make } = laid
  const at = (name: string) => nodeOf(box.point, name)
  const id = (name: string) => `${box.point} ${name}`
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
const insideName = (box: Box, d: DeviceAt, i: number): string => `${box.point} ${d.id} ${i}`

function wireInside(box: Box, d: DeviceAt, x: Inside, element: string, laid: Laid): void {
  const { trial, make } = laid
  const on = (terminal: string) => nodeOf(box.point, terminalName(d.id, terminal))
  if (x.kind === 'joined') return make(tie(element, on(x.a), on(x.b)))
  if (x.kind === 'tab') return d.broken.includes(x.id) ? undefined : make(tie(element, on(x.a), on(x.b)))
  if (x.kind === 'pole') {
    const joins = x.joins[trial.positions[positionKey(box.point, d.id, x.by)] ?? 0]
    return joins ? make(tie(element, on(joins[0]), on(joins[1]))) : undefined
  }
  if (x.kind === 'numbered') {
    const pairs = d.pairing === undefined ? null : x.ways[d.pairing]!
    if (!pairs) laid.notes.add(`${box.name}: which terminals of the ${d.kind.name.toLowerCase()} join is not known, so nothing passes it.`)
    if (!pairs || (trial.positions[positionKey(box.point, d.id, x.by)] ?? 0) === 0) return
    for (const [i, [a, b]] of pairs.entries()) make(tie(`${element} ${i}`, on(a), on(b)))
    return
  }
  if (x.kind === 'residual') {
    const poles = x.poles.map((p) => ({ line: on(p.line), load: on(p.load) }))
    laid.switching.push({ element, name: `${laid.rcd}, ${box.name}`, kind: 'residual', circuit: box.circuit, point: box.point })
    return make({ id: element, kind: 'rcd', poles, tripMa: x.ma })
  }
  if (x.kind === 'fuse') return make({ id: element, kind: 'breaker', poles: [{ line: on(x.a), load: on(x.b) }], ratingA: x.ratingA })
  const key = `${box.point} ${d.id} ${x.id}`
  const [a, b] = x.kind === 'socket' ? [x.line, x.other] : [x.a, x.b]
  const watts = x.kind === 'socket' ? (trial.plugged[key] ?? 0) : (x.watts ?? box.watts ?? LIGHT_W)
  if (x.kind === 'load' && x.watts === null && box.watts === null)
    laid.notes.add(`${box.name}: its load is not entered; reckoned as ${LIGHT_W} W.`)
  const earth = x.kind === 'socket' ? x.earth : d.kind.body
  const guard = x.kind === 'socket' ? d.kind.inside.findIndex((y) => y.kind === 'residual') : -1
  // Between two lines there is twice what there is from one to neutral.
  const volts = d.kind.terminals.some((t) => t.id === b && t.takes?.role === 'line-2') ? 2 * laid.lineV : laid.lineV
  laid.outlets.push({
    id: key,
    point: box.point,
    name: `${box.name}, ${x.name}`,
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
  const [line, other, pe] = [core('line'), core('neutral') ?? core('line-2'), core('pe')]
  for (const e of k.ends)
    make({ id: `${box.point} ${e.name}`, kind: 'wire', a: nodeOf(box.point, e.name), b: atAppliance(box.point, e.core), ohm: CORD_OHM })
  if (line === undefined || other === undefined) return
  const watts = box.watts ?? 0
  const element = `${box.point} appliance`
  const [a, b] = [atAppliance(box.point, line), atAppliance(box.point, other)]
  if (watts > 0) make({ id: element, kind: 'load', a, b, watts, volts, powerFactor: 1 })
  else notes.add(`${box.name}: what it draws is not entered; nothing flows there.`)
  outlets.push({
    id: element,
    point: box.point,
    name: `${box.name}, the appliance`,
    line: a,
    other: b,
    earth: pe === undefined ? null : atAppliance(box.point, pe),
    socket: false,
    element: watts > 0 ? element : null,
    guard: null,
  })
}

/** The board of the supply: its main switch, the conductors behind it, and the residual devices that stand in it. */
function wireBoard(job: Installation, { make, switching, notes }: Laid): void {
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
    if (d.tripMa !== null) make({ id, kind: 'rcd', poles: through, tripMa: d.tripMa })
    else {
      notes.add(`${name}: nobody read what it trips at, so it is not taken to trip.`)
      make({ id, kind: 'switch', poles: through.map((p) => ({ a: p.line, b: p.load })) })
    }
    switching.push({ element: id, name, kind: 'residual', circuit: null })
  }
}

/** A sub-board that is there, fed as if its feeder were short: nobody has said how long it is. */
function wireSubBoard(job: Installation, board: Board, { make, notes }: Laid): void {
  const from = job.ways.find((w) => w.id === board.fedFrom)?.board ?? job.boards[0]!.id
  const lines = worlds[job.region].splitPhase ? ['L1', 'L2'] : ['L']
  for (const bar of [...lines, 'N', 'PE'])
    make({ id: `feed ${board.id} ${bar}`, kind: 'wire', a: `${from}|${bar}`, b: `${board.id}|${bar}`, ohm: SHORT_OHM })
  notes.add(`${board.name || 'A board that is there'}: its feeder is reckoned as short.`)
}

interface FromBoard {
  readonly line: string
  readonly line2: string
  readonly neutral: string
}
/** The way of a circuit: the residual device of its own or the one it stands behind, its breaker, and the bar its neutral is on. */
function wireWay(job: Installation, report: Worked, leg: number, { make, switching, notes }: Laid): FromBoard {
  const { circuit, chosen } = report
  const { splitPhase, words, typedBreakers, lineV } = worlds[job.region]
  const { board, behind } = circuit
  const way = circuit.ways[0]
  // Down a board the lines change places every second space; of a way that has none yet, one is taken.
  const second = way?.position ? legOf(way.position) === 'B' : leg % 2 === 1
  const lines: readonly string[] = splitPhase ? (second ? ['L2', 'L1'] : ['L1', 'L2']) : ['L']
  const both = splitPhase && systemOf(report, lineV) !== 'line-neutral'
  if (splitPhase && !both && !way?.position)
    notes.add(`${circuit.name}: its space is not known, so the line it is on is taken by its order.`)
  const used = both ? lines : lines.slice(0, 1)
  const device = job.residualDevices.find((d) => d.id === behind)
  const own = !device && (behind === 'own' || (behind === null && chosen.design.residual.at === 'board'))
  const group = device ? `rcd ${device.id}` : own ? `rcd ${circuit.id}` : null
  if (own) {
    const pole = (l: string) => ({ line: l === 'N' ? barOf(board, 'N') : `${board}|${l}`, load: `${group}|${l}` })
    make({ id: group!, kind: 'rcd', poles: [...used, 'N'].map(pole), tripMa: chosen.design.residual.ma })
    switching.push({ element: group!, name: `${words.rcd} of ${circuit.name}`, kind: 'residual', circuit: circuit.id })
  }
  const load = (l: string) => `${circuit.id}|${l}`
  const ratingA = chosen.result?.breakerA ?? way?.ratingA ?? null
  if (ratingA !== null) {
    const type = typedBreakers ? (way?.curve ?? chosen.design.breakerType) : null
    const poles = used.map((l) => ({ line: group ? `${group}|${l}` : `${board}|${l}`, load: load(l) }))
    make({ id: `breaker ${circuit.id}`, kind: 'breaker', poles, ratingA, ...(type ? { type } : {}) })
    switching.push({ element: `breaker ${circuit.id}`, name: `${words.breaker} of ${circuit.name}`, kind: 'breaker', circuit: circuit.id })
  }
  // A bar that somebody saw stands for itself; one that nobody looked at is taken to be the one of its device.
  const bar = way?.bar ?? null
  const ofDevice = bar !== null && job.residualDevices.some((d) => d.id === bar)
  const seenOnMain = bar === 'main' && device !== undefined
  const neutral = ofDevice ? `rcd ${bar}|N` : group && !seenOnMain ? `${group}|N` : barOf(board, 'N')
  return { line: load(lines[0]!), line2: both ? load(lines[1]!) : `${circuit.id}|loose`, neutral }
}

/** Cables of a circuit as their cores, between the board and the boxes. */
function wireCables(
  job: Installation,
  report: Worked,
  from: FromBoard,
  into: ReadonlyMap<string, readonly CableAt[]>,
  boxed: ReadonlySet<string>,
  { make, notes }: Laid,
): void {
  const { circuit, chosen } = report
  const { result, design } = chosen
  const feeds = feederBoardId(circuit.id)
  for (const k of circuit.cables) {
    const at = into.get(k.id)?.[0]
    const metres = at ? metresOf(at) : (k.lengthM ?? null)
    if (metres === null) notes.add(`${circuit.name}: a length is not entered; reckoned as ${PRESUMED_M} m.`)
    for (const c of coresOf(job, report, k)) {
      const size = c.role === 'pe' ? result!.protectiveSize! : (k.size ?? result!.size!)
      const ohm = Math.max(1e-6, (metres ?? PRESUMED_M) * (perMetre(job.region, design.cable, size) ?? 0.01))
      const end = (e: typeof k.from): string => {
        if (e.kind === 'point' && boxed.has(e.id)) return nodeOf(e.id, `${k.id} ${c.id}`)
        // It begins at a point of a circuit that is there: what lies between that and the board is not known to the network.
        if (e.kind === 'point') notes.add(`${circuit.name}: what lies before the point it begins at is reckoned as short.`)
        if (e.kind === 'board' && e.id === feeds && k.to === e) return boardNode(e.id, c.role, worlds[job.region].splitPhase)
        if (c.role === 'pe') return barOf(circuit.board, 'PE')
        if (c.role === 'neutral') return from.neutral
        return c.role === 'line-2' ? from.line2 : from.line
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
 * The job as one network: its supply, its board, every circuit that is worked out, core by core into every box, and what stands in them.
 * What is not known is left out and named, or reckoned on a presumption that is named too.
 */
export function houseOf(job: Installation, circuits: readonly Worked[], trial: Trial): House {
  const { loopKnown, supply } = supplyOf(job)
  const { lineV, words } = worlds[job.region]
  const elements: Element[] = []
  const boxes: Box[] = []
  const notes = new Set<string>()
  const laid: Laid = { trial, lineV, rcd: words.rcd, make: (e) => void elements.push(e), outlets: [], switching: [], notes }
  if (!loopKnown) notes.add('The loop of the supply was not measured: fault currents are reckoned on a presumed one.')
  wireBoard(job, laid)
  for (const b of job.boards.slice(1)) wireSubBoard(job, b, laid)
  const byCircuit = new Map(circuits.map((c) => [c.circuit.id, c]))
  const worked = circuits.filter((c) => c.chosen.result?.size && c.chosen.result.protectiveSize)
  const boxed = new Set(worked.flatMap((c) => boxPoints(c).map((p) => p.id)))
  for (const [i, r] of circuits.entries()) {
    const { circuit } = r
    if (!worked.includes(r)) {
      notes.add(`${circuit.name} is not in it: its breaker and cable are not worked out.`)
      continue
    }
    const points = boxPoints(r).map((p) => boxOf(job, byCircuit, r, p))
    // A box that two circuits come to is opened once, with the cables of both.
    const fresh = points.filter((b) => !boxes.some((x) => x.point === b.point))
    const into = grouped(
      points.flatMap((b) => b.cables),
      (k) => k.id,
    )
    wireCables(job, r, wireWay(job, r, i, laid), into, boxed, laid)
    for (const box of fresh) {
      wireBox(box, laid)
      const k = box.cables.find((c) => c.side === 'load')
      if (k) wireAppliance(box, k, circuit.load.volts ?? lineV, laid)
      boxes.push(box)
    }
  }
  const stay = job.ways.filter((w) => w.state === 'existing' && !circuits.some((r) => r.circuit.ways.some((x) => x.id === w.id)))
  if (stay.length > 0)
    notes.add(`What the ${stay.length} ${stay.length === 1 ? 'circuit' : 'circuits'} that stay as they are feed is not in it.`)
  const known = new Set(elements.map((e) => e.id))
  return {
    input: { supply, elements, state: { open: trial.open.filter((o) => known.has(o)) }, probes: [] },
    boxes,
    switching: laid.switching,
    outlets: laid.outlets,
    notes: [...notes],
  }
}
