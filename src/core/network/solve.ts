import { type Admittances, type Factored, factored, type Values, valuesOf } from './admittance'
import { add, type Complex, divide, magnitude, multiply, subtract, ZERO } from './complex'

/** Something current may flow through, between two nodes; of no impedance where it is a closed pole. */
export interface Branch {
  readonly a: string
  readonly b: string
  readonly ohms: Complex
}
/** The star point of the source. */
export const STAR = ' star'

/** A solved network (nodal analysis, phasors): potentials to the star point, currents, and connected components. */
export interface Solved {
  readonly voltsAt: (node: string) => Complex
  /** Volts between two nodes; none where nothing leads from one to the other. */
  readonly voltsBetween: (a: string, b: string) => number
  readonly currentIn: (branch: Branch) => Complex
  /** Whether some way for current leads from one to the other. */
  readonly joined: (a: string, b: string) => boolean
  /**
   * The same with one more branch between two nodes that are connected to the source, by a rank-one update (Sherman–Morrison): the matrix
   * is not factorised again. Null where the update does not apply and the network must be solved afresh.
   */
  readonly withBranch: (branch: Branch) => Solved | null
  /** Volts across one more branch, from the Thévenin equivalent between its ends; null where `withBranch` is null. */
  readonly acrossWith: (branch: Branch) => number | null
  /** Driving-point impedance between two nodes, in ohms; null where they are not connected. */
  readonly impedanceBetween: (a: string, b: string) => Complex | null
}

/** A network reduced to the nodes where branches are added later (Kron reduction). */
export interface Prepared {
  /**
   * The whole with branches of some impedance put between the nodes that wait, and others that are new.
   * @throws RangeError at a branch of none, or between nodes that were not said to wait.
   */
  readonly with: (more: readonly Branch[]) => Solved
}

const solid = ({ ohms }: Branch): boolean => ohms.re === 0 && ohms.im === 0

/** Connected components of things by number: union–find with path halving. */
class Components {
  private readonly up = new Map<number, number>()
  of(i: number): number {
    let at = i
    for (let next = this.up.get(at); next !== undefined; next = this.up.get(at)) {
      const further = this.up.get(next)
      if (further !== undefined) this.up.set(at, further)
      at = next
    }
    return at
  }
  join(a: number, b: number): void {
    const [x, y] = [this.of(a), this.of(b)]
    if (x !== y) this.up.set(x, y)
  }
}

/** Potentials and currents with some branches driven by volts of their own; what is connected to no source is at zero. */
export const solve = (branches: readonly Branch[], driven: ReadonlyMap<Branch, number>): Solved => prepared(branches, driven, []).with([])

/** Branches of some impedance, by the groups that their ends are in. */
interface Resisting extends Admittances {
  readonly branch: readonly Branch[]
}
const resisting = () => ({ branch: [] as Branch[], a: [] as number[], b: [] as number[], re: [] as number[], im: [] as number[] })
function put(list: ReturnType<typeof resisting>, branch: Branch, a: number, b: number): void {
  const through = divide({ re: 1, im: 0 }, branch.ohms)
  list.branch.push(branch)
  list.a.push(a)
  list.b.push(b)
  list.re.push(through.re)
  list.im.push(through.im)
}

/** What all solutions of one network share. */
interface Grid {
  readonly branches: readonly Branch[]
  readonly driven: ReadonlyMap<Branch, number>
  /** Nodes by number, and the group of nodes joined by closed poles that each is in: the reference first, then those that wait. */
  readonly numbers: ReadonlyMap<string, number>
  readonly groups: Int32Array
  readonly count: number
  readonly waiting: number
  /** Connected component of each node, by a representative node. */
  readonly islands: Int32Array
  readonly list: Resisting
  readonly network: Factored
  /** Norton injections of the sources, after forward substitution onto the retained groups. */
  readonly gathered: Values
  /** A unit injection between two groups after forward substitution, and its impedance in the eliminated part. */
  readonly ampere: (x: number, y: number) => Ampere
  readonly poles: () => Poles
  /** Two lists of so many values at zero, the same each time: what is in them is used up at once. */
  readonly room: (size: number) => readonly [Values, Values]
}
interface Ampere {
  readonly met: Complex
  /** What is driven into the groups that wait. */
  readonly re: Float64Array
  readonly im: Float64Array
}

/** Factorises a network, retaining the nodes where branches are added later. */
export function prepared(branches: readonly Branch[], driven: ReadonlyMap<Branch, number>, waiting: readonly string[]): Prepared {
  const numbers = new Map<string, number>([[STAR, 0]])
  const numberOf = (node: string): number => {
    const known = numbers.get(node)
    if (known !== undefined) return known
    numbers.set(node, numbers.size)
    return numbers.size - 1
  }
  const [fused, islands] = [new Components(), new Components()]
  const kept = [0, ...waiting.map(numberOf)]
  for (const b of branches) {
    const [x, y] = [numberOf(b.a), numberOf(b.b)]
    islands.join(x, y)
    if (solid(b)) fused.join(x, y)
  }
  const compact = new Map<number, number>()
  const groupOf = (node: number): number => {
    const at = fused.of(node)
    const known = compact.get(at)
    if (known !== undefined) return known
    compact.set(at, compact.size)
    return compact.size - 1
  }
  for (const node of kept) groupOf(node)
  const least = compact.size
  const groups = Int32Array.from({ length: numbers.size }, (_, node) => groupOf(node))
  const list = resisting()
  for (const b of branches) {
    const [x, y] = [groups[numbers.get(b.a)!]!, groups[numbers.get(b.b)!]!]
    if (x !== y && !solid(b)) put(list, b, x, y)
  }
  const count = compact.size
  const network = factored(count, list, least)
  const gathered = drivenInto(count, list, driven)
  network.forward(gathered)
  let poles: Poles | undefined
  const grid: Grid = {
    branches,
    driven,
    numbers,
    groups,
    count,
    waiting: least,
    islands: Int32Array.from({ length: numbers.size }, (_, node) => islands.of(node)),
    list,
    network,
    gathered,
    ampere: amperes(count, least, network),
    poles: () => (poles ??= polesOf(grid)),
    room: rooms(),
  }
  return { with: (more) => whole(grid, more) }
}

/** Each pair is gathered once, whatever is put in later. */
function amperes(count: number, waiting: number, network: Factored): Grid['ampere'] {
  const known = new Map<number, Ampere>()
  const into = valuesOf(count)
  return (x, y) => {
    const key = x * (count + 1) + y
    let ampere = known.get(key)
    if (!ampere) {
      into.re.fill(0)
      into.im.fill(0)
      // Groups that come with what is put in later take up nothing here.
      if (x < count) into.re[x] = 1
      if (y < count) into.re[y] = into.re[y]! - 1
      known.set(key, (ampere = { met: network.forward(into), re: into.re.slice(0, waiting), im: into.im.slice(0, waiting) }))
    }
    return ampere
  }
}

function rooms(): (size: number) => readonly [Values, Values] {
  const known = new Map<number, readonly [Values, Values]>()
  return (size) => {
    let room = known.get(size)
    if (!room) known.set(size, (room = [valuesOf(size), valuesOf(size)]))
    for (const { re, im } of room) {
      re.fill(0)
      im.fill(0)
    }
    return room
  }
}

function drivenInto(count: number, list: Resisting, driven: ReadonlyMap<Branch, number>): Values {
  const into = valuesOf(count)
  if (driven.size === 0) return into
  for (const [k, b] of list.branch.entries()) {
    const volts = driven.get(b)
    if (!volts) continue
    for (const [at, sign] of [
      [list.a[k]!, -1],
      [list.b[k]!, 1],
    ] as const) {
      into.re[at] = into.re[at]! + sign * volts * list.re[k]!
      into.im[at] = into.im[at]! + sign * volts * list.im[k]!
    }
  }
  return into
}

/** A network with what was put in. */
interface Whole {
  readonly grid: Grid
  readonly more: readonly Branch[]
  /** The group of a node, those that came with what was put in after all others; undefined: there is no such node. */
  readonly groupOf: (node: string) => number | undefined
  readonly islandOf: (node: string) => number | undefined
  /** What is on the star point. */
  readonly home: number
  /** Potentials under currents driven into the groups, which are used up. */
  readonly potentials: (driven: Values) => Values
  readonly impedance: (x: number, y: number) => Complex
}

function whole(grid: Grid, more: readonly Branch[]): Solved {
  const { numbers, groups, count, waiting } = grid
  const added = new Map<string, number>()
  // What hung together before may now be one.
  const islands = new Components()
  const islandOf = (number: number): number => islands.of(number < numbers.size ? grid.islands[number]! : number)
  const numberIn = (node: string): number | undefined => numbers.get(node) ?? added.get(node)
  const numberOf = (node: string): number => {
    const known = numberIn(node)
    if (known !== undefined) return known
    added.set(node, numbers.size + added.size)
    return numbers.size + added.size - 1
  }
  // A node that was not there has a group of its own.
  const groupOf = (number: number): number => (number < numbers.size ? groups[number]! : count + number - numbers.size)
  const { reduced } = grid.network
  const kept = { branch: [], a: [...reduced.a], b: [...reduced.b], re: [...reduced.re], im: [...reduced.im] }
  /** A group's node in the reduced network: the retained groups first, then the new ones. */
  const reducedNode = (group: number): number => (group < waiting ? group : group - count + waiting)
  for (const b of more) {
    const [x, y] = [numberOf(b.a), numberOf(b.b)]
    islands.join(islandOf(x), islandOf(y))
    const [from, to] = [groupOf(x), groupOf(y)]
    if (solid(b) || [from, to].some((g) => g >= waiting && g < count))
      throw new RangeError(`A branch from ${b.a} to ${b.b} cannot be put in.`)
    if (from !== to) put(kept, b, reducedNode(from), reducedNode(to))
  }
  const size = count + added.size
  const small = factored(waiting + added.size, kept)
  /** Injections after forward substitution, by the nodes of the reduced network. */
  const reducedInjections = (gathered: Values, into: Values): Values => {
    for (let i = 0; i < into.re.length; i++) {
      const from = i < waiting ? i : count + i - waiting
      // Into what is new nothing is driven.
      into.re[i] = gathered.re[from] ?? 0
      into.im[i] = gathered.im[from] ?? 0
    }
    return into
  }
  const potentialsOf = (gathered: Values): Values => {
    const [[into, at], out] = [grid.room(waiting + added.size), valuesOf(size)]
    small.forward(reducedInjections(gathered, into))
    small.back(into, at)
    for (let i = 0; i < at.re.length; i++) {
      const to = i < waiting ? i : count + i - waiting
      out.re[to] = at.re[i]!
      out.im[to] = at.im[i]!
    }
    grid.network.back(gathered, out)
    return out
  }
  const state: Whole = {
    grid,
    more,
    groupOf: (node) => {
      const number = numberIn(node)
      return number === undefined ? undefined : groupOf(number)
    },
    islandOf: (node) => {
      const number = numberIn(node)
      return number === undefined ? undefined : islandOf(number)
    },
    home: islandOf(0),
    potentials: (driven) => {
      grid.network.forward(driven)
      return potentialsOf(driven)
    },
    impedance: (x, y) => {
      const [into] = grid.room(waiting + added.size)
      const { met, re, im } = grid.ampere(Math.min(x, count), Math.min(y, count))
      into.re.set(re)
      into.im.set(im)
      // What is new comes after what waits.
      if (x >= count) into.re[reducedNode(x)] = 1
      if (y >= count) into.re[reducedNode(y)] = -1
      return add(met, small.forward(into))
    },
  }
  // Asked for by who reads volts: an ohmmeter does not.
  let stands: Values | undefined
  const volts = () => (stands ??= potentialsOf(grid.gathered))
  return solvedOf(state, volts, null)
}

function solvedOf(state: Whole, stands: () => Values, more: Branch | null): Solved {
  const { grid, groupOf, islandOf, home } = state
  const alive = (node: string): boolean => islandOf(node) === home
  const voltsAt = (node: string): Complex => {
    const g = groupOf(node)
    if (g === undefined || !alive(node)) return ZERO
    const volts = stands()
    return { re: volts.re[g]!, im: volts.im[g]! }
  }
  const through = (b: Branch): Complex => {
    const across = subtract(voltsAt(b.a), voltsAt(b.b))
    return divide({ re: across.re + (grid.driven.get(b) ?? 0), im: across.im }, b.ohms)
  }
  let poles: ReadonlyMap<Branch, Complex> | null = null
  const joined = (a: string, b: string): boolean => {
    const [x, y] = [islandOf(a), islandOf(b)]
    return a === b || (x !== undefined && x === y)
  }
  /** One more branch by the groups of its ends, with the open-circuit (Thévenin) voltage between them; null: the update does not apply. */
  const between = (branch: Branch) => {
    if (more !== null || solid(branch) || !alive(branch.a) || !alive(branch.b)) return null
    const [x, y, volts] = [groupOf(branch.a)!, groupOf(branch.b)!, stands()]
    return x === y ? null : { x, y, volts: { re: volts.re[x]! - volts.re[y]!, im: volts.im[x]! - volts.im[y]! } }
  }
  return {
    voltsAt,
    voltsBetween: (a, b) => {
      // What is connected to no source is at zero, and nothing is read from it to what does.
      if (!alive(a) || !alive(b)) return 0
      const [x, y, { re, im }] = [groupOf(a)!, groupOf(b)!, stands()]
      return magnitude({ re: re[x]! - re[y]!, im: im[x]! - im[y]! })
    },
    joined,
    currentIn: (b) => {
      if (!alive(b.a)) return ZERO
      if (solid(b)) return (poles ??= shared(state, through, more)).get(b) ?? ZERO
      return groupOf(b.a) === groupOf(b.b) ? ZERO : through(b)
    },
    impedanceBetween: (a, b) => {
      if (!joined(a, b)) return null
      const [x, y] = [groupOf(a), groupOf(b)]
      return x === undefined || y === undefined ? null : x === y ? ZERO : state.impedance(x, y)
    },
    acrossWith: (branch) => {
      const at = between(branch)
      return at && magnitude(multiply(divide(at.volts, add(branch.ohms, state.impedance(at.x, at.y))), branch.ohms))
    },
    withBranch: (branch) => {
      const at = between(branch)
      if (!at) return null
      const { x, y } = at
      const volts = stands()
      const into = valuesOf(volts.re.length)
      into.re[x] = 1
      into.re[y] = -1
      const per = state.potentials(into)
      const seen = { re: per.re[x]! - per.re[y]!, im: per.im[x]! - per.im[y]! }
      // What flows in it: the open-circuit voltage there, over its own impedance and that of the network as it sees it.
      const amps = divide(at.volts, add(branch.ohms, seen))
      const next = valuesOf(volts.re.length)
      for (let i = 0; i < next.re.length; i++) {
        const fall = multiply(amps, { re: per.re[i]!, im: per.im[i]! })
        next.re[i] = volts.re[i]! - fall.re
        next.im[i] = volts.im[i]! - fall.im
      }
      return solvedOf(state, () => next, branch)
    },
  }
}

/** Nodes that closed poles join, taken apart as if all of the poles were alike. */
interface PoleGroup {
  readonly branches: readonly Branch[]
  readonly ends: readonly (readonly [number, number])[]
  /** Of its nodes, from zero, the number of each among all that closed poles join. */
  readonly nodes: readonly number[]
  readonly alike: Factored
}
interface Poles {
  readonly groups: readonly PoleGroup[]
  readonly nodes: ReadonlyMap<string, number>
  /** What of some impedance ends at one of these nodes. */
  readonly touching: readonly Branch[]
}
function polesOf({ branches, numbers, groups, list }: Grid): Poles {
  const byGroup = new Map<number, Branch[]>()
  const nodes = new Map<string, number>()
  for (const b of branches) {
    if (!solid(b)) continue
    for (const n of [b.a, b.b]) if (!nodes.has(n)) nodes.set(n, nodes.size)
    const at = groups[numbers.get(b.a)!]!
    const those = byGroup.get(at)
    if (those) those.push(b)
    else byGroup.set(at, [b])
  }
  return {
    nodes,
    touching: list.branch.filter((b) => nodes.has(b.a) || nodes.has(b.b)),
    groups: [...byGroup.values()].map((those) => {
      const own = new Map<string, number>()
      for (const b of those) for (const n of [b.a, b.b]) if (!own.has(n)) own.set(n, own.size)
      const ends = those.map((b) => [own.get(b.a)!, own.get(b.b)!] as const)
      const [a, b] = [ends.map((e) => e[0]), ends.map((e) => e[1])]
      return {
        branches: those,
        ends,
        nodes: [...own.keys()].map((n) => nodes.get(n)!),
        alike: factored(own.size, { a, b, re: those.map(() => 1), im: those.map(() => 0) }),
      }
    }),
  }
}

/** Currents in what has no impedance: what enters each group is shared as if all its poles were alike. */
function shared({ grid, more }: Whole, through: (b: Branch) => Complex, one: Branch | null): ReadonlyMap<Branch, Complex> {
  const poles = grid.poles()
  const leaving = valuesOf(poles.nodes.size)
  const leave = (node: string, amps: Complex, sign: 1 | -1) => {
    const at = poles.nodes.get(node)
    if (at === undefined) return
    leaving.re[at] = leaving.re[at]! + sign * amps.re
    leaving.im[at] = leaving.im[at]! + sign * amps.im
  }
  for (const list of [poles.touching, more, one ? [one] : []])
    for (const b of list) {
      const amps = through(b)
      leave(b.a, amps, 1)
      leave(b.b, amps, -1)
    }
  const result = new Map<Branch, Complex>()
  for (const { branches, ends, nodes, alike } of poles.groups) {
    const [into, at] = [valuesOf(nodes.length), valuesOf(nodes.length)]
    for (const [k, n] of nodes.entries()) {
      into.re[k] = -leaving.re[n]!
      into.im[k] = -leaving.im[n]!
    }
    alike.forward(into)
    alike.back(into, at)
    for (const [k, b] of branches.entries()) {
      const [x, y] = ends[k]!
      result.set(b, { re: at.re[x]! - at.re[y]!, im: at.im[x]! - at.im[y]! })
    }
  }
  return result
}
