import { perMetre, supplyOf } from '../wired/conductor'
import { device } from '../catalogue/devices'
import { fittedAt, systemOf } from '../design/endings'
import type { CircuitReport } from '../evaluate/evaluate'
import { guardingDevices } from '../design/guards'
import type { Circuit, Installation } from '../installation/installation'
import { cableM, feederBoardId } from '../job/cable'
import { terminals as nodesOf } from '../network/network'
import type { Element, NetworkInput } from '../network/types'
import { cableConductors, type CircuitSystem, type ConductorRole } from '../region/colours'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'

export type Role = Extract<ConductorRole, 'line' | 'line-2' | 'neutral' | 'pe'>
export const BOARD = 'board'

/** A cable as its cores lie between two places. */
export interface Core {
  readonly id: string
  readonly from: string
  readonly to: string
  readonly ohm: Readonly<Partial<Record<Role, number>>>
  readonly lengthM: number
  /** A joint between two accessories of one box, and no cable. */
  readonly joint: boolean
}
export interface Place {
  readonly id: string
  readonly name: string
  readonly watts: number
  /** A box where cables are joined, and nothing else. */
  readonly joint: boolean
  /** Its outlet has two halves, joined by tabs that may be broken out. */
  readonly tabs: boolean
  /** The conductors that its loads are across: two of them at a board that two lines feed. */
  readonly across: readonly (readonly [Role, Role])[]
}
export interface OutletDevice {
  readonly place: string
  readonly ma: number
  readonly guards: readonly string[]
  /** The test of the plan that presses its button. */
  readonly test: string
}
/** A circuit conductor by conductor, as its design says it is wired: what is not known of it is not in it, and then there is none. */
export interface Wiring {
  readonly circuit: string
  readonly region: RegionId
  readonly roles: readonly Role[]
  readonly places: readonly Place[]
  readonly cores: readonly Core[]
  readonly ring: boolean
  /** Volts from line to neutral, or from line to line where no neutral comes. */
  readonly volts: number
  readonly breaker: { readonly ratingA: number; readonly type: 'B' | 'C' | 'D' | null }
  readonly rcdMa: number | null
  /** A residual device stands on it whose rating nobody read: it is reckoned to trip at nothing, and who shows a result says so. */
  readonly residualUnread: boolean
  /** Residual devices in its outlets, with the places that each is to guard, its own among them. */
  readonly outletDevices: readonly OutletDevice[]
  readonly supply: NetworkInput['supply']
  /** Whether the loop outside was measured; without it no loop reading is expected. */
  readonly loopKnown: boolean
}

/** What the loads of a place are across: what stands there says, and of two lines with one neutral the one its leg says, or both. */
function acrossOf(roles: readonly Role[], leg: 'A' | 'B' | 'AB' | 'each', system?: CircuitSystem): Place['across'] {
  const two = roles.includes('line-2')
  if (!roles.includes('neutral') || (two && (leg === 'AB' || system === 'line-line'))) return [['line', 'line-2']]
  const [first, second] = [['line', 'neutral'] as const, ['line-2', 'neutral'] as const]
  return two && leg === 'each' ? [first, second] : two && leg === 'B' ? [second] : [first]
}

type Chosen = CircuitReport['chosen']['design']
const hasTabs = (accessory: string | undefined): boolean =>
  accessory !== undefined && (device(accessory)?.inside.some((x) => x.kind === 'tab') ?? false)

/** Where a circuit leads: to its points, to its one end, or of a feeder to the board it feeds. */
function placesOf(circuit: Circuit, design: Chosen, roles: readonly Role[]): readonly Place[] {
  const board = feederBoardId(circuit.id)
  if (circuit.kind === 'feeder')
    return [{ id: board, name: `the board of ${circuit.name}`, watts: 0, joint: true, tabs: false, across: acrossOf(roles, 'each') }]
  return (circuit.points.length ? circuit.points : circuit.end ? [circuit.end] : []).map((p) => ({
    id: p.id,
    name: p.name || circuit.name || 'its end',
    watts: p.watts ?? 0,
    joint: p.kind === 'box',
    tabs: hasTabs(fittedAt(design, p)?.id),
    across: acrossOf(roles, p.leg, fittedAt(design, p)?.system),
  }))
}

/** The conductors of the cables of a circuit; null while what it ends on is not known. */
function rolesOf(job: Installation, { circuit, ends }: CircuitReport): readonly Role[] | null {
  const unknown = ends.filter((e) => !e.joint && !e.fitted)
  if (circuit.kind !== 'feeder' && (!ends.some((e) => e.fitted) || (circuit.kind !== 'shared-neutral' && unknown.length > 0))) return null
  const cores = cableConductors(job.region, systemOf(job.region, circuit, ends), 'new')
  return cores.flatMap((c) => (c.role === 'switched-line' ? [] : [c.role as Role]))
}

/** The circuit as a network, or null while a length, a size or what it ends on is not known. */
export function wiringOf(job: Installation, report: CircuitReport): Wiring | null {
  const { circuit, chosen } = report
  const { result, design } = chosen
  const roles = rolesOf(job, report)
  if (!roles || !result?.size || !result.protectiveSize || !result.breakerA) return null
  const places = placesOf(circuit, design, roles)
  const cores: Core[] = []
  for (const k of circuit.cables) {
    const metres = cableM(k)
    const size = k.size ?? result.size
    const ohms = [size, result.protectiveSize].map((s) => perMetre(job.region, design.cable, s))
    if (metres === null || ohms.some((o) => o === null)) return null
    const at = (end: typeof k.from) => (places.some((p) => p.id === end.id) ? end.id : BOARD)
    const ohm = Object.fromEntries(roles.map((r) => [r, Math.max(1e-6, metres * (r === 'pe' ? ohms[1]! : ohms[0]!))]))
    cores.push({ id: k.id, from: at(k.from), to: at(k.to), ohm, lengthM: metres, joint: k.inside === 'joint' })
  }
  if (cores.length === 0 || places.length === 0) return null
  const volts = (roles.includes('neutral') ? 1 : 2) * worlds[job.region].lineV
  return {
    circuit: circuit.id,
    region: job.region,
    roles,
    places: places.length === 1 ? [{ ...places[0]!, watts: places[0]!.watts || result.loadA * volts }] : places,
    cores,
    ring: circuit.kind === 'ring',
    volts,
    breaker: { ratingA: result.breakerA, type: worlds[job.region].typedBreakers ? design.breakerType : null },
    ...devicesOf(job, circuit, design, places),
    ...supplyOf(job),
  }
}

/** The residual devices that the circuit stands behind, and those in its outlets. */
function devicesOf(
  job: Installation,
  circuit: Circuit,
  design: Chosen,
  places: readonly Place[],
): Pick<Wiring, 'rcdMa' | 'residualUnread' | 'outletDevices'> {
  const devices = guardingDevices(job, circuit, design)
  return {
    rcdMa: devices.find((d) => d.atBoard)?.tripMa ?? null,
    residualUnread: devices.some((d) => d.tripMa === null),
    outletDevices: devices.flatMap((d, n): OutletDevice[] => {
      const place = d.point?.id ?? (circuit.points.length === 0 ? places[0]!.id : null)
      if (d.atBoard || place === null || d.tripMa === null) return []
      const guards = d.guards.length ? d.guards.map((p) => p.id) : [place]
      return [{ place, ma: d.tripMa, guards, test: n === 0 ? 'residual-button' : `residual-button-${d.point?.id ?? n}` }]
    }),
  }
}

/** Volts that a load across two conductors is for. */
export const voltsAcross = (w: Pick<Wiring, 'region'>, [, other]: readonly [Role, Role]): number =>
  (other === 'line-2' ? 2 : 1) * worlds[w.region].lineV
/** The conductors of the loads of a place. */
export const acrossAt = (w: Pick<Wiring, 'places'>, place: string): Place['across'] => w.places.find((p) => p.id === place)!.across

const terminals = new Map<string, Map<Role, string>>()
const MOST_NAMES = 2000
/** The name of a terminal: the same string each time, as it is looked up far more often than it is made. */
export function terminal(place: string, role: Role): string {
  let names = terminals.get(place)
  if (!names) {
    if (terminals.size >= MOST_NAMES) terminals.clear()
    terminals.set(place, (names = new Map()))
  }
  let name = names.get(role)
  if (name === undefined) names.set(role, (name = `${place} ${role}`))
  return name
}
/** Where a residual device in an outlet is fed; what it feeds, its own slots among it, is at the terminals of the place. */
const lineSide = (w: Wiring, place: string, role: Role): string => {
  const device = w.outletDevices.some((d) => d.place === place)
  return device && acrossAt(w, place).flat().includes(role) ? `${place} in ${role}` : terminal(place, role)
}
export const coreEnd = (cable: string, end: 'a' | 'b', role: Role): string => `${cable} ${end} ${role}`
/** Where a core is made off: at which terminal, and how well. */
export interface Made {
  readonly at: Role | null
  /** Of a joint that is not tight. */
  readonly ohm: number
}
/** What differs from the design: ends made off elsewhere, badly or not at all, and conductors that touch. */
export interface Difference {
  readonly ends: Readonly<Record<string, Made>>
  readonly touching: readonly { readonly cable: string; readonly roles: readonly [Role, Role] }[]
  /** The neutral lies on the bar ahead of the residual device. */
  readonly wrongBar: boolean
  /** The bar of the protective conductors is joined to nothing. */
  readonly noBond: boolean
  /** The place whose neutral is joined with that of another circuit. */
  readonly joinedNeutral: string | null
  /** The place whose residual device is fed on its load side, and feeds from its line side. */
  readonly exchanged: string | null
}
export const asDesigned: Difference = {
  ends: {},
  touching: [],
  wrongBar: false,
  noBond: false,
  joinedNeutral: null,
  exchanged: null,
}

/** Ohms of the neutral of another circuit back to the board, where two are joined. */
const OTHER_NEUTRAL_OHM = 0.3

/** How the circuit stands while something is measured. */
export interface State {
  readonly closed: boolean
  readonly neutralLifted: boolean
  /** Conductors joined at the board for a test. */
  readonly linked: readonly (readonly [Role, Role])[]
  /** Loads as they are, a test load of so many watts at each place, or nothing plugged in. */
  readonly load: 'own' | 'none' | number
  /** The only place where the test load is; without it at every one. */
  readonly loadAt?: string
  /** Devices that are open besides, by their element. */
  readonly opened?: readonly string[]
  /** Both ends of a ring out of the board. */
  readonly ringOut?: boolean
  readonly extra?: readonly Element[]
}

/** Where an end of a core lies: at the terminal it is made off at, with what the joint has of resistance; or by itself. */
function endOf(w: Wiring, k: Core, end: 'a' | 'b', role: Role, d: Difference, s: State): readonly [node: string, ohm: number] {
  const [place, other] = end === 'a' ? [k.from, k.to] : [k.to, k.from]
  const own = coreEnd(k.id, end, role)
  if (s.ringOut && place === BOARD) return [own, 0]
  const { at, ohm } = d.ends[own] ?? { at: role, ohm: 0 }
  if (at === null) return [own, 0]
  const device = w.outletDevices.find((x) => x.place === place)
  const feeds = device ? !device.guards.includes(other) !== (d.exchanged === place) : false
  return [feeds ? lineSide(w, place, at) : terminal(place, at), ohm]
}

/** The cable by which a place is fed, or another that ends there. */
export const cableTo = (w: Wiring, place: string): Core | undefined =>
  w.cores.find((k) => k.to === place) ?? w.cores.find((k) => k.from === place)

/** The conductors of one cable, where they touch, and what else is joined at the place it feeds. */
export function cableElements(w: Wiring, k: Core, d: Difference, s: State): Element[] {
  const wires = w.roles.map((role): Element => {
    const [[a, atA], [b, atB]] = [endOf(w, k, 'a', role, d, s), endOf(w, k, 'b', role, d, s)]
    return { id: `wire ${k.id} ${role}`, kind: 'wire', a, b, ohm: k.ohm[role]! + atA + atB }
  })
  const touches = d.touching.flatMap((t, i): Element[] => {
    if (t.cable !== k.id) return []
    const [[a], [b]] = [endOf(w, k, 'b', t.roles[0], d, s), endOf(w, k, 'b', t.roles[1], d, s)]
    return [{ id: `touch ${i}`, kind: 'wire', a, b, ohm: 0.01 }]
  })
  const other = d.joinedNeutral
  if (other !== null && cableTo(w, other) === k)
    touches.push({ id: 'other neutral', kind: 'wire', a: terminal(other, 'neutral'), b: 'N', ohm: OTHER_NEUTRAL_OHM })
  return [...wires, ...touches]
}

/** Farads between two conductors of a cable, for each metre of it. */
const COUPLED_F = 100e-12
/** What couples the conductors of each cable, half of it at either end: through it a conductor that floats picks up what is beside it. */
export const couplings = (w: Wiring, d: Difference, s: State): Element[] =>
  w.cores.flatMap((k) =>
    (['a', 'b'] as const).flatMap((end) =>
      w.roles.flatMap((p, i) =>
        w.roles.slice(i + 1).flatMap((q): Element[] => {
          const farad = (COUPLED_F * Math.max(k.lengthM, 0.01)) / 2
          const [[a], [b]] = [endOf(w, k, end, p, d, s), endOf(w, k, end, q, d, s)]
          const reactanceOhm = -1 / (2 * Math.PI * w.supply.frequencyHz * farad)
          return a === b ? [] : [{ id: `coupled ${k.id} ${end} ${p} ${q}`, kind: 'impedance', a, b, ohm: 0, reactanceOhm }]
        }),
      ),
    ),
  )

/** Every place that an end of a cable may be made off at. */
export const mayEndAt = (w: Wiring, k: Core, s: State): string[] => [
  ...[k.from, k.to].flatMap((place) => w.roles.flatMap((role) => [terminal(place, role), lineSide(w, place, role)])),
  ...(s.ringOut ? (['a', 'b'] as const).flatMap((end) => w.roles.map((role) => coreEnd(k.id, end, role))) : []),
  // Where the neutral of another circuit comes from.
  'N',
]

/** The element of the residual device in an outlet; that of the board is `rcd`. */
export const deviceIn = (place: string): string => `rcd ${place}`
export const isResidual = (element: string): boolean => element === 'rcd' || element.startsWith('rcd ')

/** How the load of a board is shared by its two lines, as it may come to be at any time. */
const UNEVEN = [0.8, 0.2] as const

/** The loads of one state, where they are across their conductors. */
export function loadsOf(w: Wiring, { load, loadAt }: Pick<State, 'load' | 'loadAt'>): Element[] {
  if (load === 'none') return []
  return w.places.flatMap(({ id, watts: own, across }) =>
    loadAt !== undefined && id !== loadAt
      ? []
      : across.flatMap((pair, i): Element[] => {
          const watts = load === 'own' ? own * (across.length === 1 ? 1 : UNEVEN[i]!) : load
          const [a, b] = [terminal(id, pair[0]), terminal(id, pair[1])]
          return watts > 0 ? [{ id: `load ${id} ${i}`, kind: 'load', a, b, watts, volts: voltsAcross(w, pair), powerFactor: 1 }] : []
        }),
  )
}

/** All of the wiring besides the cables, as it stands: the board, what is linked at it, loads, and what was put to it. */
function besidesCables(w: Wiring, d: Pick<Difference, 'wrongBar' | 'noBond'>, s: State): Element[] {
  const elements: Element[] = []
  const rcd = w.rcdMa !== null
  const upstream = (role: Role): string =>
    role === 'line' ? (w.supply.system === 'split-phase' ? 'L1' : 'L') : role === 'line-2' ? 'L2' : role === 'neutral' ? 'N' : 'PE'
  const lines = w.roles.filter((r) => r === 'line' || r === 'line-2')
  const behind = (role: Role): string => (rcd && role !== 'pe' ? `rcd ${role}` : upstream(role))
  if (rcd) {
    const poles = w.roles.filter((r) => r !== 'pe').map((r) => ({ line: upstream(r), load: `rcd ${r}` }))
    elements.push({ id: 'rcd', kind: 'rcd', poles, tripMa: w.rcdMa! })
  }
  const { ratingA, type } = w.breaker
  const poles = lines.map((r) => ({ line: behind(r), load: terminal(BOARD, r) }))
  elements.push({ id: 'breaker', kind: 'breaker', poles, ratingA, ...(type ? { type } : {}) })
  if (w.roles.includes('neutral') && !s.neutralLifted)
    elements.push({ id: 'bar', kind: 'switch', poles: [{ a: d.wrongBar ? 'N' : behind('neutral'), b: terminal(BOARD, 'neutral') }] })
  if (!d.noBond) elements.push({ id: 'earth', kind: 'switch', poles: [{ a: 'PE', b: terminal(BOARD, 'pe') }] })
  for (const { place, ma } of w.outletDevices) {
    const through = [...new Set(acrossAt(w, place).flat())].map((r) => ({ line: lineSide(w, place, r), load: terminal(place, r) }))
    elements.push({ id: deviceIn(place), kind: 'rcd', poles: through, tripMa: ma })
  }
  for (const [i, [a, b]] of s.linked.entries())
    elements.push({ id: `link ${i}`, kind: 'switch', poles: [{ a: terminal(BOARD, a), b: terminal(BOARD, b) }] })
  return [...elements, ...loadsOf(w, s), ...(s.extra ?? [])]
}

/** The elements of the wiring as designed, in one state: those of each cable, and all others. */
export interface Parted {
  readonly besides: readonly Element[]
  readonly cables: readonly (readonly [Core, readonly Element[]])[]
}
export const parted = (w: Wiring, s: State): Parted => ({
  besides: besidesCables(w, asDesigned, s),
  cables: w.cores.map((k) => [k, cableElements(w, k, asDesigned, s)]),
})

/** The elements of the wiring, as it differs and as it stands. */
export function elementsOf(w: Wiring, d: Difference, s: State): Element[] {
  const elements = [...besidesCables(w, d, s), ...w.cores.flatMap((k) => cableElements(w, k, d, s))]
  // A terminal that nothing leads to is there all the same.
  const there = new Set(elements.flatMap(nodesOf))
  for (const p of [BOARD, ...w.places.map((x) => x.id)])
    for (const role of w.roles) {
      const a = terminal(p, role)
      if (!there.has(a)) elements.push({ id: `at ${a}`, kind: 'impedance', a, b: `${a} alone`, ohm: 1, reactanceOhm: 0 })
    }
  return elements
}

/** The cable and the role of an end, out of its name. */
export function ofEnd(end: string): { readonly cable: string; readonly role: Role } {
  const role = end.lastIndexOf(' ')
  return { cable: end.slice(0, end.lastIndexOf(' ', role - 1)), role: end.slice(role + 1) as Role }
}

/** With more cables out than these there is nothing left to share. */
const MOST_OUT = 4
/**
 * The cables to leave out so that all of a difference can be wired in: those of the one place that it is at, so that every mistake at a
 * place has the same; else those that it alters. None where it alters the board, or too many.
 */
export function cablesAltered(w: Wiring, d: Difference): readonly Core[] {
  if (d.wrongBar || d.noBond) return []
  const altered = new Set<string>(d.touching.map((t) => t.cable))
  const places = new Set<string | null>([d.joinedNeutral, d.exchanged])
  for (const end of Object.keys(d.ends)) altered.add(ofEnd(end).cable)
  for (const k of w.cores) {
    if (!altered.has(k.id)) continue
    const made = (side: 'a' | 'b') => w.roles.some((role) => coreEnd(k.id, side, role) in d.ends)
    if (made('a')) places.add(k.from)
    if (made('b') || !made('a')) places.add(k.to)
  }
  places.delete(null)
  const near = w.cores.filter((k) => places.has(k.from) || places.has(k.to))
  const cables = places.size === 1 && near.length <= MOST_OUT ? near : w.cores.filter((k) => altered.has(k.id))
  return places.size > 1 && (d.joinedNeutral !== null || d.exchanged !== null) ? [] : cables.length <= MOST_OUT ? cables : []
}

export const openWhere = (s: State): string[] => [...(s.closed ? [] : ['breaker']), ...(s.opened ?? [])]
