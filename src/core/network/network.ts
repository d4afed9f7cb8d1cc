import { InputError } from '../base/input-error'
import { M_PER_KFT, naOhmPerKft } from '../region/north-america/awg'
import { worlds } from '../region/worlds'
import { atLeast, atMost } from '../base/tolerance'
import { add, type Complex, magnitude, ZERO } from './complex'
import { type Branch, prepared, solve, type Solved, STAR } from './solve'
import type { Element, NetworkInput, NetworkState } from './types'

/** Breakers act at once from so many times their rating on; one of no type from ten times. IEC 60898-1. */
const MAGNETIC: Readonly<Record<string, number>> = { B: 5, C: 10, D: 20 }
const MAGNETIC_UNTYPED = 10
/** One of a type carries up to this for an hour; one of none its rating. IEC 60898-1. */
const CONVENTIONAL = 1.13
/** A meter shows no circuit above this. */
const MOST_OHMS = 20e6

/**
 * The electrical state of wiring as built: potentials to the star point of the source, currents, residual currents, what would trip, and
 * what a meter between two places reads. Closed poles have no impedance, and parallel ones share equally.
 * @throws InputError at the element, the state or the probe that cannot be.
 */
export function network(input: NetworkInput): NetworkState {
  const { nodes, amps, residual, trips, volts, ohms } = standing(input)
  return {
    nodes: nodes(),
    amps: Object.fromEntries(input.elements.map((e) => [e.id, amps(e.id)])),
    residualMa: Object.fromEntries(input.elements.flatMap((e) => (e.kind === 'rcd' ? [[e.id, residual(e.id)] as const] : []))),
    trips: trips(),
    probes: Object.fromEntries(
      input.probes.map((p) => [p.id, p.kind === 'amps' ? amps(p.a) : p.kind === 'ohms' ? ohms(p.a, p.b) : volts(p.a, p.b)]),
    ),
  }
}

/** Wiring in one state, to be asked as often as is wanted: solved once, and once more for all that an ohmmeter reads. */
export interface Standing {
  /** Volts of every place to the source’s star point. */
  readonly nodes: () => NetworkState['nodes']
  readonly volts: (a: string, b: string) => number
  readonly ohms: (a: string, b: string) => number | 'open'
  /** Whether anything leads from one to the other with the source away, of whatever resistance. */
  readonly leads: (a: string, b: string) => boolean
  /** Of its first pole. */
  readonly amps: (element: string) => number
  /** Of the first poles of several that run the same way, as a clamp around all of them shows it. */
  readonly together: (elements: readonly string[]) => number
  readonly residual: (element: string) => number
  readonly trips: () => NetworkState['trips']
  /** Volts between two places with an impedance put between them; null where the state does not give it. */
  readonly voltsWith: (a: string, b: string, ohm: number) => number | null
}
/** @throws InputError at the element or the state that cannot be. */
export const standing = (input: NetworkInput): Standing => standingIn(input, checked(input), [])([])

/**
 * Wiring of which some elements are put in later, again and again, each time between nodes that wait for them or that are new: it is taken
 * apart once, and what is put in costs what it changes. What is put in has some resistance, and is no device.
 * Its names are taken to be right: they come of no hand.
 */
export const standingWith = (input: NetworkInput, waiting: readonly string[]): ((more: readonly Element[]) => Standing) =>
  standingIn(input, new Set(input.state?.open ?? []), waiting)

function standingIn(input: NetworkInput, open: ReadonlySet<string>, waiting: readonly string[]): (more: readonly Element[]) => Standing {
  const built = input.elements.map((e, i) => ({ element: e, branches: open.has(e.id) ? [] : branchesFor(e, `elements.${i}`) }))
  const branches = built.flatMap((b) => b.branches)
  const byId = new Map(built.map((b) => [b.element.id, b.branches]))
  const devices = input.elements.filter((e) => e.kind === 'rcd' || e.kind === 'breaker')
  const live = once(() => {
    const supply = supplyBranches(input)
    return prepared([...supply.map((s) => s.branch), ...branches], driveOf(supply), waiting)
  })
  const meter = once(() => prepared([...earthLink(input), ...branches.map(direct)], new Map(), waiting))
  return (elements) => {
    const added = elements.map((e, i) => ({ id: e.id, branches: branchesFor(e, `elements.${input.elements.length + i}`) }))
    const more = added.flatMap((e) => e.branches)
    const put = new Map(added.map((e) => [e.id, e.branches]))
    const on = once(() => live().with(more))
    const off = once(() => meter().with(more.map(direct)))
    const polesOf = (id: string) => (byId.get(id) ?? put.get(id)!).map(on().currentIn)
    return {
      nodes: () => Object.fromEntries([...nodesOf(input)].map((n) => [n, magnitude(on().voltsAt(n))])),
      volts: (a, b) => on().voltsBetween(a, b),
      ohms: (a, b) => ohmsBetween(off(), a, b),
      leads: (a, b) => off().joined(a, b),
      amps: (id) => magnitude(polesOf(id)[0] ?? ZERO),
      together: (ids) => magnitude(ids.map((id) => polesOf(id)[0] ?? ZERO).reduce(add, ZERO)),
      residual: (id) => residualMa(polesOf(id)),
      trips: () =>
        devices.flatMap((e) => {
          const cause = tripOf(e, polesOf(e.id))
          return cause ? [{ id: e.id, cause }] : []
        }),
      voltsWith: (a, b, ohm) => on().acrossWith({ a, b, ohms: { re: ohm, im: 0 } }),
    }
  }
}

function once<T>(made: () => T): () => T {
  let value: { readonly of: T } | undefined
  return () => (value ??= { of: made() }).of
}

/** What flows out through a residual device and does not come back, in milliamperes. */
export const residualMa = (poles: readonly Complex[]): number => magnitude(poles.reduce(add, ZERO)) * 1000

export interface Solution {
  readonly built: readonly { readonly element: Element; readonly branches: readonly Branch[] }[]
  readonly nodes: ReadonlySet<string>
  readonly live: Solved
  /** Amperes in each pole of an element, by its id. */
  readonly polesOf: (id: string) => readonly Complex[]
  /** Amperes in the poles of an element with an impedance more, between two places; null where it must be solved afresh. */
  readonly polesWith: (a: string, b: string, ohm: number) => ((id: string) => readonly Complex[]) | null
}
/** Potentials and currents as complex numbers. @throws InputError */
export function solution(input: NetworkInput): Solution {
  const open = checked(input)
  const built = input.elements.map((e, i) => ({ element: e, branches: open.has(e.id) ? [] : branchesFor(e, `elements.${i}`) }))
  const supply = supplyBranches(input)
  const live = solve([...supply.map((s) => s.branch), ...built.flatMap((b) => b.branches)], driveOf(supply))
  const byId = new Map(built.map((b) => [b.element.id, b.branches]))
  const polesIn = (solved: Solved) => (id: string) => byId.get(id)!.map(solved.currentIn)
  return {
    built,
    nodes: nodesOf(input),
    live,
    polesOf: polesIn(live),
    polesWith: (a, b, ohm) => {
      const more = live.withBranch({ a, b, ohms: { re: ohm, im: 0 } })
      return more && polesIn(more)
    },
  }
}
/** Whether a place is connected to the source at all. */
export const atSource = (live: Solved, node: string): boolean => live.joined(STAR, node)

const supplyNodes = ({ supply }: NetworkInput): readonly string[] =>
  supply.system === 'split-phase' ? ['L1', 'L2', 'N', 'PE'] : ['L', 'N', 'PE']

/** The nodes at the ends of an element. */
export function terminals(e: Element): readonly string[] {
  if ('a' in e) return [e.a, e.b]
  return e.kind === 'switch' ? e.poles.flatMap((p) => [p.a, p.b]) : e.poles.flatMap((p) => [p.line, p.load])
}
const nodesOf = (input: NetworkInput): ReadonlySet<string> => new Set([...supplyNodes(input), ...input.elements.flatMap(terminals)])

/** The elements that are open; refuses what names nothing, or names it twice. */
function checked(input: NetworkInput): ReadonlySet<string> {
  const { supply, elements, probes, state } = input
  if (supply.earthing === 'tt' && supply.electrodeOhm === undefined)
    throw new InputError('supply.electrodeOhm', 'Earthing by an electrode needs the resistance of the electrode.')
  const ids = new Set<string>()
  const once = (id: string, path: string) => {
    if (ids.has(id)) throw new InputError(path, `The id ${id} occurs twice.`)
    ids.add(id)
  }
  for (const [i, e] of elements.entries()) once(e.id, `elements.${i}.id`)
  const known = new Set(ids)
  for (const [i, id] of (state?.open ?? []).entries())
    if (!known.has(id)) throw new InputError(`state.open.${i}`, `There is no element ${id}.`)
  const nodes = nodesOf(input)
  ids.clear()
  for (const [i, p] of probes.entries()) {
    once(p.id, `probes.${i}.id`)
    if (p.kind === 'amps') {
      if (!known.has(p.a)) throw new InputError(`probes.${i}.a`, `There is no element ${p.a}.`)
    } else
      for (const end of ['a', 'b'] as const)
        if (!nodes.has(p[end])) throw new InputError(`probes.${i}.${end}`, `There is no node ${p[end]}.`)
  }
  return new Set(state?.open ?? [])
}

/** Ohms of a wire: given, or of its length at 20 °C (75 °C for AWG). NFPA 70 Chapter 9 Table 8; tabled resistances of the metric worlds. */
function wireOhms(e: Element & { kind: 'wire' }, path: string): number {
  const { ohm, region, size, lengthM } = e
  if (ohm !== undefined) {
    const extra = (['region', 'size', 'lengthM'] as const).find((k) => e[k] !== undefined)
    if (extra) throw new InputError(`${path}.${extra}`, 'A wire has its resistance, or a size and a length, and not both.')
    return ohm
  }
  if (region === undefined) throw new InputError(`${path}.ohm`, 'A wire needs its resistance, or its region, size and length.')
  if (size === undefined) throw new InputError(`${path}.size`, 'Which size is the wire?')
  if (lengthM === undefined) throw new InputError(`${path}.lengthM`, 'How long is the wire?')
  const { metric } = worlds[region]
  const perMetre = metric ? metric.usual.milliOhmPerMetre20C[size]! / 1000 : (naOhmPerKft('copper', size) ?? NaN) / M_PER_KFT
  if (!Number.isFinite(perMetre)) throw new InputError(`${path}.size`, `No resistance is listed for ${size}.`)
  return perMetre * lengthM
}

/** A load that takes its power at its voltage, as an impedance; one that takes none is no way for current. */
function loadOhms({ watts, volts, powerFactor }: Element & { kind: 'load' }): Complex | null {
  if (watts === 0) return null
  const ohms = (volts * volts * powerFactor) / watts
  return { re: ohms * powerFactor, im: ohms * Math.sqrt(Math.max(0, 1 - powerFactor * powerFactor)) }
}

/** What of an element current may flow through while it is closed. @throws InputError */
export function branchesFor(e: Element, path: string): readonly Branch[] {
  if (e.kind === 'switch') return e.poles.map((p) => ({ a: p.a, b: p.b, ohms: ZERO }))
  if (e.kind === 'breaker' || e.kind === 'rcd') return e.poles.map((p) => ({ a: p.line, b: p.load, ohms: ZERO }))
  const ohms = e.kind === 'load' ? loadOhms(e) : e.kind === 'wire' ? { re: wireOhms(e, path), im: 0 } : { re: e.ohm, im: e.reactanceOhm }
  return ohms ? [{ a: e.a, b: e.b, ohms }] : []
}

interface Source {
  readonly branch: Branch
  /** Volts that drive current from the star point to its other end. */
  readonly volts: number
}
function supplyBranches({ supply }: NetworkInput): Source[] {
  const { volts, sourceOhm, earthing, electrodeOhm } = supply
  const from = (b: string, v: number, ohm = sourceOhm): Source => ({ branch: { a: STAR, b, ohms: { re: ohm, im: 0 } }, volts: v })
  const lines = supply.system === 'split-phase' ? [from('L1', volts), from('L2', -volts)] : [from('L', volts)]
  const earth = earthing === 'tn' ? { branch: { a: 'N', b: 'PE', ohms: ZERO }, volts: 0 } : from('PE', 0, electrodeOhm!)
  return [...lines, from('N', 0), earth]
}
const driveOf = (sources: readonly Source[]): ReadonlyMap<Branch, number> => new Map(sources.map((s) => [s.branch, s.volts]))

/** Why a device opens on the currents in its poles; null: it holds. */
export function tripOf(e: Element, poles: readonly Complex[]): NetworkState['trips'][number]['cause'] | null {
  if (e.kind === 'rcd') return atLeast(magnitude(poles.reduce(add, ZERO)) * 1000, e.tripMa) ? 'residual' : null
  if (e.kind !== 'breaker') return null
  const worst = Math.max(0, ...poles.map(magnitude))
  if (atLeast(worst, e.ratingA * (e.type ? MAGNETIC[e.type]! : MAGNETIC_UNTYPED))) return 'magnetic'
  return atMost(worst, e.ratingA * (e.type ? CONVENTIONAL : 1)) ? null : 'overload'
}

/** An ohmmeter works with the source taken away and by direct current: reactances are nothing, and loads their resistance. */
const direct = (b: Branch): Branch => (b.ohms.im === 0 ? b : { ...b, ohms: { re: b.ohms.re, im: 0 } })
const earthLink = ({ supply }: NetworkInput): readonly Branch[] => (supply.earthing === 'tn' ? [{ a: 'N', b: 'PE', ohms: ZERO }] : [])

function ohmsBetween(solved: Solved, a: string, b: string): number | 'open' {
  const seen = a === b ? ZERO : solved.impedanceBetween(a, b)
  const ohms = seen === null ? Number.POSITIVE_INFINITY : magnitude(seen)
  return ohms > MOST_OHMS ? 'open' : ohms
}
