import { UnionFind } from '../base/union-find'
import type { Box, DeviceAt } from '../build/box'
import { type CableAt, coresOf } from '../build/cores'
import { isSwitched, type Signal } from '../build/carries'
import { fittedAt, systemOf } from '../design/endings'
import { guardingDevices } from '../design/guards'
import { protectiveOf } from '../design/protective'
import { terminalRole, type TerminalRole } from '../build/roles'
import type { CircuitReport } from '../evaluate/evaluate'
import type { Circuit, Installation } from '../installation/installation'
import { CAP, tailEndName, terminalName } from '../job/bench'
import { cableM, feederBoardId } from '../job/cable'
import type { Element } from '../network/types'
import { cableConductors, type CircuitSystem, type ConductorRole } from '../region/colours'
import { worlds } from '../region/worlds'
import { perMetre, supplyOf } from '../wired/conductor'
import { nodeOf } from '../wired/laid'
import { BOARD, type Core, type CoreConductor, deviceIn, type OutletDevice, type Place, type Role, terminal, type Wiring } from './as-wired'

/* The network of one circuit from its boxes as they are built: each joint one node, each device with what its contacts join. */

type Chosen = CircuitReport['chosen']['design']
/** Ohms below which a conductor is not taken, so that no wire is without any. */
const LEAST_OHM = 1e-6

/** What the loads of a place are across where nothing in its box says it. */
function acrossOf(roles: readonly Role[], leg: 'A' | 'B' | 'AB' | 'each', system?: CircuitSystem): Place['across'] {
  const two = roles.includes('line-2')
  if (!roles.includes('neutral') || (two && (leg === 'AB' || system === 'line-line'))) return [['line', 'line-2']]
  const [first, second] = [['line', 'neutral'] as const, ['line-2', 'neutral'] as const]
  return two && leg === 'each' ? [first, second] : two && leg === 'B' ? [second] : [first]
}

/** The conductors of the cables of a circuit; null while what it ends on is not known. */
function rolesOf(job: Installation, { circuit, ends }: CircuitReport): readonly Role[] | null {
  const unknown = ends.filter((e) => !e.joint && !e.fitted)
  if (circuit.kind !== 'feeder' && (!ends.some((e) => e.fitted) || (circuit.kind !== 'shared-neutral' && unknown.length > 0))) return null
  const cores = cableConductors(job.region, systemOf(job.region, circuit, ends), 'new')
  return cores.flatMap((c) => (c.role === 'switched-line' ? [] : [c.role as Role]))
}

const isRole = (s: string): s is Role => s === 'line' || s === 'line-2' || s === 'neutral' || s === 'pe'
/** What a potential is at when every switch before it is on; null: one of two travellers, which may be at nothing. */
const roleOf = (s: Signal): Role | null => (isRole(s) ? s : isSwitched(s) ? 'line' : null)

/** The boxes of a circuit with their joints as nodes. */
interface Joints {
  readonly node: (box: string, name: string) => string
  /** What a joint is at, by the cores that are made off there. */
  readonly roleAt: ReadonlyMap<string, Role>
}
function jointsOf(boxes: readonly Box[], circuit: Circuit): Joints {
  const joined = new UnionFind()
  for (const b of boxes) {
    const at = (name: string) => nodeOf(b.id, name)
    for (const { end, to } of b.bench.ends) if (to !== CAP) joined.join(at(end), at(to))
    for (const t of b.bench.tails) joined.join(at(tailEndName(t.id, 'a')), at(tailEndName(t.id, 'b')))
    for (const d of b.devices)
      for (const x of d.kind.inside) if (x.kind === 'joined') joined.join(at(terminalName(d.id, x.a)), at(terminalName(d.id, x.b)))
  }
  const node = (box: string, name: string) => joined.root(nodeOf(box, name))
  const roleAt = new Map<string, Role>()
  for (const b of boxes)
    for (const k of b.cables)
      for (const e of k.ends) {
        const role = k.circuit === circuit.id && e.signal !== null ? roleOf(e.signal) : null
        if (role !== null && !roleAt.has(node(b.id, e.name))) roleAt.set(node(b.id, e.name), role)
      }
  return { node, roleAt }
}

/** A contact that a hand moves: what it joins in each of its positions, by terminals. */
interface Contact {
  readonly key: string
  readonly id: string
  readonly joins: readonly (readonly [string, string] | null)[]
}
/** A device by its terminals, with the contacts whose position is still open to choice. */
interface DeviceParts {
  readonly fixed: readonly Element[]
  readonly contacts: readonly Contact[]
}
const closed = (id: string, a: string, b: string): Element => ({ id, kind: 'switch', poles: [{ a, b }] })

function partsOf(at: Opened, box: Box, d: DeviceAt, fuseA: number | null): DeviceParts {
  const on = (t: string) => terminalAt(at, box, d, t)
  const fixed: Element[] = []
  const contacts: Contact[] = []
  for (const [i, x] of d.kind.inside.entries()) {
    const id = `${box.id} ${d.id} ${i}`
    const key = 'by' in x ? `${box.id} ${d.id} ${x.by}` : id
    if (x.kind === 'tab' && !d.broken.includes(x.id)) fixed.push(closed(tabName(box, d, i), on(x.a), on(x.b)))
    else if (x.kind === 'fuse')
      fixed.push({ id: `fuse ${id}`, kind: 'breaker', poles: [{ line: on(x.a), load: on(x.b) }], ratingA: fuseA ?? x.ratingA })
    else if (x.kind === 'residual')
      fixed.push({ id: deviceIn(d.point), kind: 'rcd', poles: x.poles.map((p) => ({ line: on(p.line), load: on(p.load) })), tripMa: x.ma })
    else if (x.kind === 'pole') contacts.push({ key, id, joins: x.joins.map((j) => (j ? [on(j[0]), on(j[1])] : null)) })
    else if (x.kind === 'numbered')
      // Which pair each pole joins is found by test; whichever it is, the switch closes the same two poles.
      for (const [n, [a, b]] of x.ways[d.pairing ?? 0]!.entries()) contacts.push({ key, id: `${id} ${n}`, joins: [null, [on(a), on(b)]] })
  }
  return { fixed, contacts }
}

/** The ends of an element that conduct: those of a load do not. */
const conducting = (e: Element): readonly (readonly [string, string])[] =>
  e.kind === 'switch'
    ? e.poles.map((p) => [p.a, p.b] as const)
    : e.kind === 'rcd' || e.kind === 'breaker'
      ? e.poles.map((p) => [p.line, p.load] as const)
      : e.kind === 'wire'
        ? [[e.a, e.b] as const]
        : []

interface Draft {
  readonly place: Place
  /** The nodes that have to be at a line while every load is on. */
  readonly wants: readonly string[]
}

/** How many of the places are at a line of the board, with the contacts in their positions and one element left out. */
function reachedIn(
  { terminals }: Opened,
  elements: readonly Element[],
  cores: readonly Core[],
  drafts: readonly Draft[],
  without?: Element,
): ReadonlySet<string> {
  const node = (n: string) => terminals[n] ?? n
  const joined = new UnionFind()
  for (const k of cores) for (const c of k.conductors) if (c.a !== null && c.b !== null) joined.join(c.a, c.b)
  for (const e of elements) if (e !== without) for (const [a, b] of conducting(e)) joined.join(node(a), node(b))
  const lines = (['line', 'line-2'] as const).map((r) => terminal(BOARD, r))
  return new Set(drafts.filter((d) => d.wants.every((n) => lines.some((l) => joined.joined(node(n), l)))).map((d) => d.place.id))
}

const inPosition = (contacts: readonly Contact[], at: ReadonlyMap<string, number>): Element[] =>
  contacts.flatMap((c) => {
    const joins = c.joins[at.get(c.key) ?? c.joins.length - 1]
    return joins ? [closed(`contact ${c.id}`, joins[0], joins[1])] : []
  })

/** The contacts in positions that put on as many loads as there are: from all on, each turned where that puts on more. */
function allOn(contacts: readonly Contact[], reached: (e: readonly Element[]) => number): readonly Element[] {
  const at = new Map<string, number>()
  let best = reached(inPosition(contacts, at))
  for (const [key, positions] of new Map(contacts.map((c) => [c.key, c.joins.length] as const)))
    for (let p = positions - 2; p >= 0; p--) {
      const turned = new Map([...at, [key, p]])
      const count = reached(inPosition(contacts, turned))
      if (count <= best) continue
      best = count
      at.set(key, p)
    }
  return inPosition(contacts, at)
}

/** The circuit as a network of its boxes, or null while a length, a size or what it ends on is not known. */
export function wiringOf(job: Installation, report: CircuitReport): Wiring | null {
  const { circuit, chosen } = report
  const { result, design } = chosen
  const roles = rolesOf(job, report)
  if (!roles || !result?.size || !result.protectiveSize || !result.breakerA) return null
  const boxes = [...new Map(report.ends.flatMap((e) => (e.built ? [[e.built.id, e.built] as const] : []))).values()]
  const at: Opened = {
    job,
    report,
    roles,
    boxOf: new Map(boxes.flatMap((b) => b.points.map((p) => [p.id, b] as const))),
    joints: jointsOf(boxes, circuit),
    terminals: {},
  }
  const drafts = draftsOf(at)
  const cores = coresIn(at, drafts)
  if (cores === null || cores.length === 0 || drafts.length === 0) return null
  const devices = devicesIn(at, boxes, cores, drafts)
  const places = withFuses(at, devices, cores, drafts)
  const volts = (roles.includes('neutral') ? 1 : 2) * worlds[job.region].lineV
  return {
    circuit: circuit.id,
    region: job.region,
    roles,
    places: places.length === 1 ? [{ ...places[0]!, watts: places[0]!.watts || result.loadA * volts }] : places,
    cores,
    devices,
    terminals: at.terminals,
    within: circuit.cables.flatMap((k) => (k.inside === 'joint' ? [[k.from.id, k.to.id] as const] : [])),
    ring: circuit.kind === 'ring',
    volts,
    breaker: { ratingA: result.breakerA, type: worlds[job.region].typedBreakers ? design.breakerType : null },
    ...guardsOf(job, circuit, design, places, devices),
    ...supplyOf(job),
  }
}

/** A circuit with its boxes opened. */
interface Opened {
  readonly job: Installation
  readonly report: CircuitReport
  readonly roles: readonly Role[]
  readonly boxOf: ReadonlyMap<string, Box>
  readonly joints: Joints
  /** The joint of each terminal of a device, put in as it is met. */
  readonly terminals: Record<string, string>
}
/** A terminal of a device by its name in the network; its joint is noted. */
function terminalAt({ joints, terminals }: Opened, box: Box, d: DeviceAt, t: string): string {
  const name = nodeOf(box.id, terminalName(d.id, t))
  terminals[name] = joints.node(box.id, terminalName(d.id, t))
  return name
}

/** Where a circuit leads: to its points, to its one end, or of a feeder to the board it feeds. */
function draftsOf(at: Opened): readonly Draft[] {
  const { roles, report } = at
  const { circuit, chosen } = report
  if (circuit.kind === 'feeder') {
    const id = feederBoardId(circuit.id)
    const face = Object.fromEntries(roles.map((r) => [r, terminal(id, r)]))
    const place = { id, name: `the board of ${circuit.name}`, watts: 0, joint: true, box: null, across: acrossOf(roles, 'each') }
    return [{ place: { ...place, face, sides: {}, tabs: [], mostA: null }, wants: [terminal(id, 'line')] }]
  }
  return (circuit.points.length ? circuit.points : circuit.end ? [circuit.end] : []).map((p): Draft => {
    const fitted = fittedAt(chosen.design, p)
    const box = at.boxOf.get(p.id)
    const own = box ? faceIn(at, box, p.id, p.kind === 'box') : null
    const usual = acrossOf(roles, p.leg, fitted?.system)
    // Where no box was opened, its cables meet at the place by what they carry.
    const face = own?.face ?? Object.fromEntries(roles.map((r) => [r, terminal(p.id, r)]))
    const across = own?.across.length ? own.across : p.kind === 'switch' ? [] : usual.filter((pair) => pair.every((r) => face[r]))
    const wants = across.flatMap(([line]) => face[line] ?? [])
    return {
      place: {
        id: p.id,
        name: p.name || circuit.name || 'its end',
        watts: p.watts ?? 0,
        joint: p.kind === 'box',
        box: box?.id ?? null,
        across,
        face,
        sides: own?.sides ?? {},
        tabs: own?.tabs ?? [],
        mostA: null,
      },
      wants,
    }
  })
}

/** The conductor that a terminal is for, as a meter sees it. */
const sideOf: Readonly<Partial<Record<TerminalRole, Role>>> = {
  line: 'line',
  'load-line': 'line',
  'switched-line': 'line',
  'line-2': 'line-2',
  neutral: 'neutral',
  'load-neutral': 'neutral',
  protective: 'pe',
}

interface Face extends Pick<Place, 'across' | 'face' | 'sides' | 'tabs'> {}
/** Where a meter is put to a place: to what draws there, else to the conductors in its box. */
function faceIn(at: Opened, box: Box, point: string, joint: boolean): Face {
  const { roles, joints, report } = at
  const face: Partial<Record<Role, string>> = {}
  const sides: Partial<Record<Role, string[]>> = {}
  const across = new Map<string, readonly [Role, Role]>()
  const put = (line: string, other: string, earth: string | null, two: boolean, leg: Role) => {
    const first = joints.roleAt.get(at.terminals[line]!) ?? leg
    const pair: readonly [Role, Role] = two ? ['line', 'line-2'] : [first === 'line-2' ? 'line-2' : 'line', 'neutral']
    if (!pair.every((r) => roles.includes(r))) return
    across.set(pair.join(), pair)
    face[pair[0]] ??= line
    face[pair[1]] ??= other
    if (earth !== null) face.pe ??= earth
  }
  const leg = report.circuit.points.find((p) => p.id === point)?.leg === 'B' && roles.includes('neutral') ? 'line-2' : 'line'
  const cord = box.cables.find((k) => k.side === 'load' && k.recorded === null && k.point === point)
  if (cord) putCord(at, box, cord, put, leg)
  const devices = box.devices.filter((d) => d.point === point)
  for (const d of devices) {
    for (const t of d.kind.terminals) {
      const name = terminalAt(at, box, d, t.id)
      const role = sideOf[terminalRole(d.kind, t)]
      if (role) (sides[role] ??= []).push(name)
    }
    for (const x of d.kind.inside) {
      if (x.kind !== 'socket' && x.kind !== 'load') continue
      const [a, b] = x.kind === 'socket' ? [x.line, x.other] : [x.a, x.b]
      const earth = x.kind === 'socket' ? x.earth : d.kind.body
      const two = d.kind.terminals.some((t) => t.id === b && ['line-2', 'load-line'].includes(terminalRole(d.kind, t)))
      put(terminalAt(at, box, d, a), terminalAt(at, box, d, b), earth === null ? null : terminalAt(at, box, d, earth), two, leg)
    }
  }
  // Of what draws nothing, the conductors that come into its box.
  const capped = new Set(box.bench.ends.flatMap((e) => (e.to === CAP ? [e.end] : [])))
  const cores = box.cables.filter((k) => k.point === point).flatMap((k) => k.ends.filter((e) => joint || !capped.has(e.name)))
  for (const role of roles) {
    const own = cores.find((e) => e.signal === role) ?? cores.find((e) => e.signal !== null && roleOf(e.signal) === role)
    if (face[role] !== undefined || !own) continue
    const name = nodeOf(box.id, own.name)
    at.terminals[name] = joints.node(box.id, own.name)
    face[role] = name
  }
  return { face, sides, across: [...across.values()], tabs: devices.flatMap((d) => tabsOf(at, box, d)) }
}

function putCord(
  at: Opened,
  box: Box,
  cord: CableAt,
  put: (line: string, other: string, earth: string | null, two: boolean, leg: Role) => void,
  leg: Role,
): void {
  const core = (...of: string[]): string | null => {
    const end = cord.ends.find((e) => of.includes(e.conductor.role))
    if (!end) return null
    const name = nodeOf(box.id, end.name)
    at.terminals[name] = at.joints.node(box.id, end.name)
    return name
  }
  const [line, neutral, second, earth] = [core('line', 'switched-line'), core('neutral'), core('line-2'), core('pe')]
  const other = second ?? neutral
  if (line !== null && other !== null) put(line, other, earth, second !== null, leg)
}

/** Tabs of a device with a cable on either side of them: broken out, one feeds the other no more. */
function tabsOf({ joints, report }: Opened, box: Box, d: DeviceAt): Place['tabs'] {
  const landed = new Set(box.cables.flatMap((k) => (k.circuit === report.circuit.id ? k.ends.map((e) => joints.node(box.id, e.name)) : [])))
  const made = (t: string) => landed.has(joints.node(box.id, terminalName(d.id, t)))
  return d.kind.inside.flatMap((x, i) => {
    if (x.kind !== 'tab' || d.broken.includes(x.id) || !made(x.a) || !made(x.b)) return []
    const at = d.kind.terminals.find((t) => t.id === x.a)
    const role = at && sideOf[terminalRole(d.kind, at)]
    return role ? [{ element: tabName(box, d, i), role }] : []
  })
}
const tabName = (box: Box, d: DeviceAt, i: number): string => `tab ${box.id} ${d.id} ${i}`

const order: readonly ConductorRole[] = ['line', 'line-2', 'switched-line', 'traveller', 'neutral', 'pe']
/** The cables with their conductors, each between the joints it is made off at; null while a length or a size is not known. */
function coresIn({ job, report, boxOf, joints }: Opened, drafts: readonly Draft[]): readonly Core[] | null {
  const { circuit, chosen } = report
  const { result, design } = chosen
  const known = new Map(drafts.map((d) => [d.place.id, d.place]))
  const cores: Core[] = []
  for (const k of circuit.cables) {
    if (k.inside === 'joint' || k.state === 'removed') continue
    const metres = cableM(k)
    const line = perMetre(job.region, design.cable, k.size ?? result!.size!, design.conductor)
    const protective = perMetre(job.region, design.cable, protectiveOf(job.region, design.cable, result!, k.size)!)
    if (metres === null || line === null || protective === null) return null
    const taken = new Map<string, number>()
    const conductors = coresOf(job, report, k).flatMap((c): CoreConductor[] => {
      if (c.signal === null) return []
      const n = (taken.get(c.role) ?? 0) + 1
      taken.set(c.role, n)
      const end = (e: typeof k.from): string | null => {
        const box = boxOf.get(e.id)
        // In a box that holds joints alone a capped end is what a meter is put to.
        const capped = box?.bench.ends.every((x) => x.end !== `${k.id} ${c.id}` || x.to === CAP)
        if (box) return capped && !known.get(e.id)?.joint ? null : joints.node(box.id, `${k.id} ${c.id}`)
        if (known.has(e.id)) return roleOf(c.signal!) === null ? null : terminal(e.id, roleOf(c.signal!)!)
        // What is switched does not come from the board.
        return isRole(c.signal!) ? terminal(BOARD, c.signal) : null
      }
      const ohm = Math.max(LEAST_OHM, metres * (c.role === 'pe' ? protective : line))
      return [{ key: n > 1 ? `${c.role}-${n}` : c.role, role: c.role, ohm, a: end(k.from), b: end(k.to) }]
    })
    const at = (e: typeof k.from) => (known.has(e.id) ? e.id : BOARD)
    const inOrder = conductors.toSorted((a, b) => order.indexOf(a.role) - order.indexOf(b.role))
    cores.push({ id: k.id, from: at(k.from), to: at(k.to), lengthM: metres, conductors: inOrder })
  }
  return cores
}

/** The devices of the circuit by their terminals, with every switch where its load is on. */
function devicesIn(at: Opened, boxes: readonly Box[], cores: readonly Core[], drafts: readonly Draft[]): readonly Element[] {
  const parts = boxes.flatMap((b) =>
    b.devices
      .filter((d) => drafts.some((x) => x.place.id === d.point))
      .map((d) => partsOf(at, b, d, b.points.find((p) => p.id === d.point)?.fuseA ?? null)),
  )
  const fixed = parts.flatMap((p) => p.fixed)
  const on = allOn(
    parts.flatMap((p) => p.contacts),
    (e) => reachedIn(at, [...fixed, ...e], cores, drafts).size,
  )
  return [...fixed, ...on]
}

/** Each place with the smallest fuse that it is behind. */
function withFuses(at: Opened, devices: readonly Element[], cores: readonly Core[], drafts: readonly Draft[]): readonly Place[] {
  const reached = reachedIn(at, devices, cores, drafts)
  const behind = devices.flatMap((f) => (f.kind === 'breaker' ? [[f.ratingA, reachedIn(at, devices, cores, drafts, f)] as const] : []))
  return drafts.map(({ place }) => {
    const ratings = behind.flatMap(([a, still]) => (reached.has(place.id) && !still.has(place.id) ? [a] : []))
    return ratings.length ? { ...place, mostA: Math.min(...ratings) } : place
  })
}

/** The residual devices that the circuit is behind, and those in its outlets. */
function guardsOf(
  job: Installation,
  circuit: Circuit,
  design: Chosen,
  places: readonly Place[],
  devices: readonly Element[],
): Pick<Wiring, 'rcdMa' | 'residualUnread' | 'outletDevices'> {
  const guarding = guardingDevices(job, circuit, design)
  const built = new Set(devices.map((e) => e.id))
  return {
    rcdMa: guarding.find((d) => d.atBoard)?.tripMa ?? null,
    residualUnread: guarding.some((d) => d.tripMa === null),
    outletDevices: guarding.flatMap((d, n): OutletDevice[] => {
      const place = d.point?.id ?? (circuit.points.length === 0 ? places[0]!.id : null)
      if (d.atBoard || place === null || d.tripMa === null || !built.has(deviceIn(place))) return []
      const guards = d.guards.length ? d.guards.map((p) => p.id) : [place]
      return [{ place, ma: d.tripMa, guards, test: n === 0 ? 'residual-button' : `residual-button-${d.point?.id ?? n}` }]
    }),
  }
}
