import { grouped } from '../grouped'
import { InputError } from '../input-error'
import { M_PER_KFT, naOhmPerKft } from '../region/north-america/awg'
import { worlds } from '../region/worlds'
import { atLeast, atMost } from '../tolerance'
import { type Admittance, potentials } from './admittance'
import { add, type Complex, divide, magnitude, multiply, negative, subtract, ZERO } from './complex'
import type { Element, NetworkInput, NetworkState } from './types'

/** Something current may flow through, between two nodes; of no impedance where it is a closed pole. */
interface Branch {
  readonly a: string
  readonly b: string
  readonly ohms: Complex
}
const STAR = ' star'

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
  const { built, nodes, live, polesOf } = solution(input)
  const current = (id: string): Complex => polesOf(id)[0] ?? ZERO
  return {
    nodes: Object.fromEntries([...nodes].map((n) => [n, magnitude(live.voltsAt(n))])),
    amps: Object.fromEntries(input.elements.map((e) => [e.id, magnitude(current(e.id))])),
    residualMa: Object.fromEntries(input.elements.flatMap((e) => (e.kind === 'rcd' ? [[e.id, residualMa(polesOf(e.id))] as const] : []))),
    trips: input.elements.flatMap((e) => {
      const cause = tripOf(e, polesOf(e.id))
      return cause ? [{ id: e.id, cause }] : []
    }),
    probes: Object.fromEntries(
      input.probes.map((p) => {
        if (p.kind === 'amps') return [p.id, magnitude(current(p.a))]
        if (p.kind === 'ohms') return [p.id, ohmsBetween(input, built, p.a, p.b)]
        return [p.id, live.joined(p.a, p.b) ? magnitude(subtract(live.voltsAt(p.a), live.voltsAt(p.b))) : 0]
      }),
    ),
  }
}

/** What flows out through a residual device and does not come back, in milliamperes. */
export const residualMa = (poles: readonly Complex[]): number => magnitude(poles.reduce(add, ZERO)) * 1000

interface Solution {
  readonly built: readonly { readonly element: Element; readonly branches: readonly Branch[] }[]
  readonly nodes: ReadonlySet<string>
  readonly live: Solved
  /** Amperes in each pole of an element, by its id. */
  readonly polesOf: (id: string) => readonly Complex[]
}
/** Potentials and currents as complex numbers. @throws InputError */
export function solution(input: NetworkInput): Solution {
  const open = checked(input)
  const built = input.elements.map((e, i) => ({ element: e, branches: open.has(e.id) ? [] : branchesFor(e, `elements.${i}`) }))
  const supply = supplyBranches(input)
  const live = solve([...supply.map((s) => s.branch), ...built.flatMap((b) => b.branches)], driveOf(supply))
  const poles = new Map(built.map(({ element, branches }) => [element.id, branches.map(live.currentIn)]))
  return { built, nodes: nodesOf(input), live, polesOf: (id) => poles.get(id)! }
}
/** Where the source's star point is among the nodes. */
export const atSource = (live: Solved, node: string): boolean => live.joined(STAR, node)

const supplyNodes = ({ supply }: NetworkInput): readonly string[] =>
  supply.system === 'split-phase' ? ['L1', 'L2', 'N', 'PE'] : ['L', 'N', 'PE']

/** The nodes that an element stands between. */
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
    if (ids.has(id)) throw new InputError(path, `The id ${id} stands twice.`)
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

/** Joins what has nothing between it: the name of the group each node is in. */
class Groups {
  private readonly up = new Map<string, string>()
  of(node: string): string {
    let at = node
    for (let next = this.up.get(at); next !== undefined; next = this.up.get(at)) at = next
    if (at !== node) this.up.set(node, at)
    return at
  }
  join(a: string, b: string): void {
    const [x, y] = [this.of(a), this.of(b)]
    if (x !== y) this.up.set(x, y)
  }
}
const solid = ({ ohms }: Branch): boolean => ohms.re === 0 && ohms.im === 0

interface Solved {
  readonly voltsAt: (node: string) => Complex
  readonly currentIn: (branch: Branch) => Complex
  /** Whether some way for current leads from one to the other. */
  readonly joined: (a: string, b: string) => boolean
}

/** Potentials and currents with some branches driven by volts of their own; what hangs on no source stands at nought. */
function solve(branches: readonly Branch[], driven: ReadonlyMap<Branch, number>): Solved {
  const [fused, islands] = [new Groups(), new Groups()]
  for (const b of branches) {
    islands.join(b.a, b.b)
    if (solid(b)) fused.join(b.a, b.b)
  }
  const home = islands.of(STAR)
  const numbers = new Map<string, number>([[fused.of(STAR), 0]])
  const numberOf = (node: string): number => {
    const group = fused.of(node)
    if (!numbers.has(group)) numbers.set(group, numbers.size)
    return numbers.get(group)!
  }
  const alive = branches.filter((b) => islands.of(b.a) === home)
  const resisting = alive.filter((b) => !solid(b) && fused.of(b.a) !== fused.of(b.b))
  const admittances: Admittance[] = resisting.map((b) => ({
    a: numberOf(b.a),
    b: numberOf(b.b),
    through: divide({ re: 1, im: 0 }, b.ohms),
  }))
  const injected: Complex[] = Array.from({ length: numbers.size }, () => ZERO)
  for (const [i, b] of resisting.entries()) {
    const volts = driven.get(b)
    if (!volts) continue
    const amps = multiply({ re: volts, im: 0 }, admittances[i]!.through)
    injected[admittances[i]!.a] = subtract(injected[admittances[i]!.a]!, amps)
    injected[admittances[i]!.b] = add(injected[admittances[i]!.b]!, amps)
  }
  const volts = potentials(numbers.size, admittances, injected, 0)
  const voltsAt = (node: string): Complex => (islands.of(node) === home ? (volts[numberOf(node)] ?? ZERO) : ZERO)
  const currents = new Map<Branch, Complex>()
  for (const b of resisting) {
    const across = add(subtract(voltsAt(b.a), voltsAt(b.b)), { re: driven.get(b) ?? 0, im: 0 })
    currents.set(b, divide(across, b.ohms))
  }
  for (const [b, amps] of shared(alive.filter(solid), currents, fused)) currents.set(b, amps)
  return { voltsAt, currentIn: (b) => currents.get(b) ?? ZERO, joined: (a, b) => islands.of(a) === islands.of(b) }
}

/** Currents in what has no impedance: what enters each group is shared as if all its poles were alike. */
function shared(poles: readonly Branch[], currents: ReadonlyMap<Branch, Complex>, fused: Groups): Map<Branch, Complex> {
  const leaving = new Map<string, Complex>()
  for (const [b, amps] of currents) {
    leaving.set(b.a, add(leaving.get(b.a) ?? ZERO, amps))
    leaving.set(b.b, subtract(leaving.get(b.b) ?? ZERO, amps))
  }
  const groups = grouped(poles, (b) => fused.of(b.a))
  const result = new Map<Branch, Complex>()
  for (const list of groups.values()) {
    const numbers = new Map([...new Set(list.flatMap((b) => [b.a, b.b]))].map((n, i) => [n, i]))
    const entering = [...numbers.keys()].map((n) => negative(leaving.get(n) ?? ZERO))
    const alike = list.map((b) => ({ a: numbers.get(b.a)!, b: numbers.get(b.b)!, through: { re: 1, im: 0 } }))
    const at = potentials(numbers.size, alike, entering, 0)
    for (const b of list) result.set(b, subtract(at[numbers.get(b.a)!]!, at[numbers.get(b.b)!]!))
  }
  return result
}

/** Why a device opens on the currents in its poles; null: it holds. */
export function tripOf(e: Element, poles: readonly Complex[]): NetworkState['trips'][number]['cause'] | null {
  if (e.kind === 'rcd') return atLeast(magnitude(poles.reduce(add, ZERO)) * 1000, e.tripMa) ? 'residual' : null
  if (e.kind !== 'breaker') return null
  const worst = Math.max(0, ...poles.map(magnitude))
  if (atLeast(worst, e.ratingA * (e.type ? MAGNETIC[e.type]! : MAGNETIC_UNTYPED))) return 'magnetic'
  return atMost(worst, e.ratingA * (e.type ? CONVENTIONAL : 1)) ? null : 'overload'
}

/** What an ohmmeter reads with the source taken away: direct current, so reactances are nothing and loads their resistance. */
function ohmsBetween(
  { supply }: NetworkInput,
  built: readonly { readonly branches: readonly Branch[] }[],
  a: string,
  b: string,
): number | 'open' {
  const joint: Branch[] = supply.earthing === 'tn' ? [{ a: 'N', b: 'PE', ohms: ZERO }] : []
  const direct = [...joint, ...built.flatMap((x) => x.branches)].map((x) => ({ ...x, ohms: { re: x.ohms.re, im: 0 } }))
  const [ways, fused] = [new Groups(), new Groups()]
  for (const x of direct) {
    ways.join(x.a, x.b)
    if (solid(x)) fused.join(x.a, x.b)
  }
  if (fused.of(a) === fused.of(b)) return 0
  if (ways.of(a) !== ways.of(b)) return 'open'
  // The meter drives a volt through an ohm of its own.
  const meter: Branch = { a: STAR, b: a, ohms: { re: 1, im: 0 } }
  const { voltsAt, currentIn } = solve([...direct, meter, { a: STAR, b, ohms: ZERO }], new Map([[meter, 1]]))
  const ohms = magnitude(voltsAt(a)) / magnitude(currentIn(meter))
  return ohms > MOST_OHMS ? 'open' : ohms
}
