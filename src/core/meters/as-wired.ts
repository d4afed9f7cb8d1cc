import type { Element, NetworkInput } from '../network/types'
import { terminals as nodesOf } from '../network/network'
import type { ConductorRole } from '../region/colours'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'

/* A circuit as a network that may differ from its design: what a conductor is made off at, how well, and what touches. */

export type Role = Extract<ConductorRole, 'line' | 'line-2' | 'neutral' | 'pe'>
export const BOARD = 'board'

/** A conductor of a cable, between the joints it is made off at; null where it is capped. */
export interface CoreConductor {
  /** By what it carries; a second one of the same kind by its number. */
  readonly key: string
  readonly role: ConductorRole
  readonly ohm: number
  readonly a: string | null
  readonly b: string | null
}
/** A cable as its conductors lie between two places. */
export interface Core {
  readonly id: string
  readonly from: string
  readonly to: string
  readonly lengthM: number
  readonly conductors: readonly CoreConductor[]
}
export interface Place {
  readonly id: string
  readonly name: string
  readonly watts: number
  /** A box where cables are joined, and nothing else. */
  readonly joint: boolean
  /** The box it is in, where one was opened. */
  readonly box: string | null
  /** Where a meter is put to each conductor, by terminal; none of a conductor that does not come here. */
  readonly face: Readonly<Partial<Record<Role, string>>>
  /** The terminals of its own devices, by the conductor each is for. */
  readonly sides: Readonly<Partial<Record<Role, readonly string[]>>>
  /** Tabs between two halves of its outlet with a cable on either side. */
  readonly tabs: readonly { readonly element: string; readonly role: Role }[]
  /** The conductors that its loads are across: two of them at a board that two lines feed; none at a switch. */
  readonly across: readonly (readonly [Role, Role])[]
  /** The rating of the smallest fuse before it, in amperes; null: there is none. */
  readonly mostA: number | null
}
export interface OutletDevice {
  readonly place: string
  readonly ma: number
  readonly guards: readonly string[]
  /** The test of the plan that presses its button. */
  readonly test: string
}
/** A circuit conductor by conductor, as its boxes are built: what is not known of it is not in it, and then there is none. */
export interface Wiring {
  readonly circuit: string
  readonly region: RegionId
  readonly roles: readonly Role[]
  readonly places: readonly Place[]
  readonly cores: readonly Core[]
  /** What is in the boxes, by terminals: fuses, residual devices, tabs, and contacts where every load is on. */
  readonly devices: readonly Element[]
  /** The joint of each terminal. */
  readonly terminals: Readonly<Record<string, string>>
  /** Places of one box, of which the first feeds the second there. */
  readonly within: readonly (readonly [from: string, to: string])[]
  readonly ring: boolean
  /** Volts from line to neutral, or from line to line where no neutral comes. */
  readonly volts: number
  readonly breaker: { readonly ratingA: number; readonly type: 'B' | 'C' | 'D' | null }
  readonly rcdMa: number | null
  /** It has a residual device whose rating was not read: it is taken never to trip, and results say so. */
  readonly residualUnread: boolean
  /** Residual devices in its outlets, with the places that each is to guard, its own among them. */
  readonly outletDevices: readonly OutletDevice[]
  readonly supply: NetworkInput['supply']
  /** Whether the loop outside was measured; without it no loop reading is expected. */
  readonly loopKnown: boolean
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
export const coreEnd = (cable: string, end: 'a' | 'b', key: string): string => `${cable} ${end} ${key}`
/** Where a conductor is made off: at which joint, and how well. */
export interface Made {
  readonly at: string | null
  /** Of a joint that is not tight. */
  readonly ohm: number
}
/** What differs from the design: ends made off elsewhere, badly or not at all, and conductors that touch. */
export interface Difference {
  readonly ends: Readonly<Record<string, Made>>
  /** Terminals of devices that are joined elsewhere in their box, badly or not at all. */
  readonly terminals: Readonly<Record<string, Made>>
  readonly touching: readonly { readonly cable: string; readonly keys: readonly [string, string] }[]
  /** Tabs that are broken out. */
  readonly tabsOut: readonly string[]
  /** The neutral lies on the bar ahead of the residual device. */
  readonly wrongBar: boolean
  /** The bar of the protective conductors is joined to nothing. */
  readonly noBond: boolean
  /** The place whose neutral is joined with that of another circuit. */
  readonly joinedNeutral: string | null
}
export const asDesigned: Difference = {
  ends: {},
  terminals: {},
  touching: [],
  tabsOut: [],
  wrongBar: false,
  noBond: false,
  joinedNeutral: null,
}

/** The joint that a terminal of a device is at, as the wiring differs; of any other name that name. */
export function jointOf(w: Pick<Wiring, 'terminals'>, d: Pick<Difference, 'terminals'>, name: string): string {
  const made = d.terminals[name]
  if (!made) return w.terminals[name] ?? name
  return made.at === null || made.ohm > 0 ? `${name} alone` : made.at
}
/** Where a meter is put to a conductor of a place; null where none of it comes there. */
export function faceOf(w: Wiring, d: Difference, place: string, role: Role): string | null {
  if (place === BOARD) return terminal(BOARD, role)
  const at = w.places.find((p) => p.id === place)?.face[role]
  return at === undefined ? null : jointOf(w, d, at)
}
/** The line that a place takes its load from. */
export const lineAt = (w: Wiring, place: string): Role => (place === BOARD ? 'line' : (acrossAt(w, place)[0]?.[0] ?? 'line'))

/** Ohms of the neutral of another circuit back to the board, where two are joined. */
const OTHER_NEUTRAL_OHM = 0.3

/** The state of the circuit while something is measured. */
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

/** Where an end of a conductor lies: at the joint it is made off at, with what that has of resistance; or by itself. */
function endOf(k: Core, end: 'a' | 'b', c: CoreConductor, d: Difference, s: State): readonly [node: string, ohm: number] {
  const own = coreEnd(k.id, end, c.key)
  if (s.ringOut && (end === 'a' ? k.from : k.to) === BOARD) return [own, 0]
  const { at, ohm } = d.ends[own] ?? { at: c[end], ohm: 0 }
  return at === null ? [own, 0] : [at, ohm]
}

/** The cable by which a place is fed, or another that ends there. */
export const cableTo = (w: Wiring, place: string): Core | undefined => {
  const fed = w.cores.find((k) => k.to === place) ?? w.cores.find((k) => k.from === place)
  const within = fed ? undefined : w.within.find(([, to]) => to === place)
  return fed ?? (within ? cableTo(w, within[0]) : undefined)
}
/** The conductor of a cable that is at a line, the neutral or the protective conductor. */
export const conductorOf = (k: Core, role: Role): CoreConductor | undefined =>
  k.conductors.find((c) => c.role === role) ?? (role === 'line' ? k.conductors.find((c) => c.role === 'switched-line') : undefined)
export const wireOf = (k: Core, c: CoreConductor): string => `wire ${k.id} ${c.key}`

/** The conductors of one cable, where they touch, and what else is joined at the place it feeds. */
export function cableElements(w: Wiring, k: Core, d: Difference, s: State): Element[] {
  const wires = k.conductors.map((c): Element => {
    const [[a, atA], [b, atB]] = [endOf(k, 'a', c, d, s), endOf(k, 'b', c, d, s)]
    return { id: wireOf(k, c), kind: 'wire', a, b, ohm: c.ohm + atA + atB }
  })
  const touches = d.touching.flatMap((t, i): Element[] => {
    const pair = t.cable === k.id ? t.keys.flatMap((key) => k.conductors.find((c) => c.key === key) ?? []) : []
    if (pair.length < 2) return []
    const [[a], [b]] = [endOf(k, 'b', pair[0]!, d, s), endOf(k, 'b', pair[1]!, d, s)]
    return [{ id: `touch ${i}`, kind: 'wire', a, b, ohm: 0.01 }]
  })
  const other = d.joinedNeutral
  const neutral = other === null || cableTo(w, other) !== k ? null : faceOf(w, d, other, 'neutral')
  if (neutral !== null) touches.push({ id: 'other neutral', kind: 'wire', a: neutral, b: 'N', ohm: OTHER_NEUTRAL_OHM })
  return [...wires, ...touches]
}

/** Farads between two conductors of a cable, for each metre of it. */
const COUPLED_F = 100e-12
/** What couples the conductors of each cable, half of it at either end: through it a conductor that floats picks up what is beside it. */
export const couplings = (w: Wiring, d: Difference, s: State): Element[] =>
  w.cores.flatMap((k) =>
    (['a', 'b'] as const).flatMap((end) =>
      k.conductors.flatMap((p, i) =>
        k.conductors.slice(i + 1).flatMap((q): Element[] => {
          const farad = (COUPLED_F * Math.max(k.lengthM, 0.01)) / 2
          const [[a], [b]] = [endOf(k, end, p, d, s), endOf(k, end, q, d, s)]
          const reactanceOhm = -1 / (2 * Math.PI * w.supply.frequencyHz * farad)
          return a === b ? [] : [{ id: `coupled ${k.id} ${end} ${p.key} ${q.key}`, kind: 'impedance', a, b, ohm: 0, reactanceOhm }]
        }),
      ),
    ),
  )

/** Every joint that an end of a cable may be made off at. */
export const mayEndAt = (w: Wiring, k: Core, s: State): string[] => [
  ...k.conductors.flatMap((c) => [c.a ?? [], c.b ?? []].flat()),
  ...[k.from, k.to].flatMap((place) => w.roles.flatMap((role) => faceOf(w, asDesigned, place, role) ?? [])),
  ...(s.ringOut ? (['a', 'b'] as const).flatMap((end) => k.conductors.map((c) => coreEnd(k.id, end, c.key))) : []),
  // Where the neutral of another circuit comes from.
  'N',
]

/** The element of the residual device in an outlet; that of the board is `rcd`. */
export const deviceIn = (place: string): string => `rcd ${place}`
export const isResidual = (element: string): boolean => element === 'rcd' || element.startsWith('rcd ')

/** How the load of a board is shared by its two lines, as it may come to be at any time. */
const UNEVEN = [0.8, 0.2] as const

/** A test load is kept to this part of the fuse before it. */
const FUSE_PART = 0.8

/** The loads of one state, where they are across their conductors. */
export function loadsOf(w: Wiring, d: Difference, { load, loadAt }: Pick<State, 'load' | 'loadAt'>): Element[] {
  if (load === 'none') return []
  return w.places.flatMap(({ id, watts: own, across, mostA }) =>
    loadAt !== undefined && id !== loadAt
      ? []
      : across.flatMap((pair, i): Element[] => {
          // A test load is no more than the fuse before it carries.
          const most = mostA === null ? Infinity : FUSE_PART * mostA * voltsAcross(w, pair)
          const watts = load === 'own' ? own * (across.length === 1 ? 1 : UNEVEN[i]!) : Math.min(load, most)
          const [a, b] = [faceOf(w, d, id, pair[0]), faceOf(w, d, id, pair[1])]
          return watts > 0 && a !== null && b !== null
            ? [{ id: `load ${id} ${i}`, kind: 'load', a, b, watts, volts: voltsAcross(w, pair), powerFactor: 1 }]
            : []
        }),
  )
}

/** The devices in the boxes at the joints of their terminals; a terminal that is not tight has its own wire. */
function devicesIn(w: Wiring, d: Difference): Element[] {
  const at = (name: string) => jointOf(w, d, name)
  const poor = Object.entries(d.terminals).flatMap(([name, made]): Element[] =>
    made.at !== null && made.ohm > 0 ? [{ id: `made ${name}`, kind: 'wire', a: made.at, b: at(name), ohm: made.ohm }] : [],
  )
  const devices = w.devices.flatMap((e): Element[] => {
    if (d.tabsOut.includes(e.id)) return []
    if (e.kind === 'switch') return [{ ...e, poles: e.poles.map((p) => ({ a: at(p.a), b: at(p.b) })) }]
    if (e.kind === 'rcd' || e.kind === 'breaker') return [{ ...e, poles: e.poles.map((p) => ({ line: at(p.line), load: at(p.load) })) }]
    return [e]
  })
  return [...devices, ...poor]
}

/** All of the wiring besides the cables, as it stands: the board, what is linked at it, loads, and what was put to it. */
function besidesCables(w: Wiring, d: Difference, s: State): Element[] {
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
  elements.push(...devicesIn(w, d))
  for (const [i, [a, b]] of s.linked.entries())
    elements.push({ id: `link ${i}`, kind: 'switch', poles: [{ a: terminal(BOARD, a), b: terminal(BOARD, b) }] })
  return [...elements, ...loadsOf(w, d, s), ...(s.extra ?? [])]
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
  // A joint that nothing leads to is there all the same.
  const there = new Set(elements.flatMap(nodesOf))
  for (const p of [BOARD, ...w.places.map((x) => x.id)])
    for (const role of w.roles) {
      const a = faceOf(w, d, p, role)
      if (a === null || there.has(a)) continue
      there.add(a)
      elements.push({ id: `at ${a}`, kind: 'impedance', a, b: `${a} alone`, ohm: 1, reactanceOhm: 0 })
    }
  return elements
}

/** The cable and the conductor of an end, out of its name. */
export function ofEnd(end: string): { readonly cable: string; readonly key: string } {
  const key = end.lastIndexOf(' ')
  return { cable: end.slice(0, end.lastIndexOf(' ', key - 1)), key: end.slice(key + 1) }
}

/** With more cables out than these there is nothing left to share. */
const MOST_OUT = 4
/**
 * The cables to leave out so that all of a difference can be wired in: those of the one place that it is at, so that every mistake at a
 * place has the same; else those that it alters. None where it alters the board, or too many.
 */
export function cablesAltered(w: Wiring, d: Difference): readonly Core[] {
  if (d.wrongBar || d.noBond || d.tabsOut.length > 0 || Object.keys(d.terminals).length > 0) return []
  const altered = new Set<string>(d.touching.map((t) => t.cable))
  const places = new Set<string | null>([d.joinedNeutral])
  for (const end of Object.keys(d.ends)) altered.add(ofEnd(end).cable)
  for (const k of w.cores) {
    if (!altered.has(k.id)) continue
    const made = (side: 'a' | 'b') => k.conductors.some((c) => coreEnd(k.id, side, c.key) in d.ends)
    if (made('a')) places.add(k.from)
    if (made('b') || !made('a')) places.add(k.to)
  }
  places.delete(null)
  const near = w.cores.filter((k) => places.has(k.from) || places.has(k.to))
  const cables = places.size === 1 && near.length <= MOST_OUT ? near : w.cores.filter((k) => altered.has(k.id))
  return places.size > 1 && d.joinedNeutral !== null ? [] : cables.length <= MOST_OUT ? cables : []
}

export const openWhere = (s: State): string[] => [...(s.closed ? [] : ['breaker']), ...(s.opened ?? [])]
