import { type Admittances, type Factored, factored, type Values, valuesOf } from './admittance'
import { add, type Complex, divide, multiply, subtract, ZERO } from './complex'

/** Something current may flow through, between two nodes; of no impedance where it is a closed pole. */
export interface Branch {
  readonly a: string
  readonly b: string
  readonly ohms: Complex
}
/** The star point of the source. */
export const STAR = ' star'

/** Wiring solved: potentials to the star point, currents, and what hangs together. */
export interface Solved {
  readonly voltsAt: (node: string) => Complex
  readonly currentIn: (branch: Branch) => Complex
  /** Whether some way for current leads from one to the other. */
  readonly joined: (a: string, b: string) => boolean
  /**
   * The same with one branch of some impedance more, between two nodes that hang on the source: what it changes follows from what stands by
   * an update of rank one, without taking the network apart again. Null where it must be solved afresh.
   */
  readonly withBranch: (branch: Branch) => Solved | null
  /** What an ampere driven into one place and out of the other meets; null where either does not hang on the star point. */
  readonly impedanceBetween: (a: string, b: string) => Complex | null
}

const solid = ({ ohms }: Branch): boolean => ohms.re === 0 && ohms.im === 0

/** Which of many things by number hang together. */
class Groups {
  private readonly up: number[] = []
  of(i: number): number {
    while (this.up.length <= i) this.up.push(this.up.length)
    let at = i
    while (this.up[at] !== at) at = this.up[at] = this.up[this.up[at]!]!
    return at
  }
  join(a: number, b: number): void {
    const [x, y] = [this.of(a), this.of(b)]
    if (x !== y) this.up[x] = y
  }
}

/** Potentials and currents with some branches driven by volts of their own; what hangs on no source stands at nought. */
export function solve(branches: readonly Branch[], driven: ReadonlyMap<Branch, number>): Solved {
  const numbers = new Map<string, number>([[STAR, 0]])
  const numberOf = (node: string): number => {
    const known = numbers.get(node)
    if (known !== undefined) return known
    numbers.set(node, numbers.size)
    return numbers.size - 1
  }
  const [fused, islands] = [new Groups(), new Groups()]
  const ends = branches.map((b): readonly [number, number] => {
    const [x, y] = [numberOf(b.a), numberOf(b.b)]
    islands.join(x, y)
    if (solid(b)) fused.join(x, y)
    return [x, y]
  })
  const home = islands.of(0)
  const compact = new Map<number, number>([[fused.of(0), 0]])
  const groupOf = (node: number): number => {
    const at = fused.of(node)
    const known = compact.get(at)
    if (known !== undefined) return known
    compact.set(at, compact.size)
    return compact.size - 1
  }
  const alive = (node: string): boolean => {
    const n = numbers.get(node)
    return n !== undefined && islands.of(n) === home
  }
  const resisting: number[] = []
  const list = { a: [] as number[], b: [] as number[], re: [] as number[], im: [] as number[] }
  for (const [i, b] of branches.entries()) {
    const [x, y] = ends[i]!
    if (solid(b) || islands.of(x) !== home || fused.of(x) === fused.of(y)) continue
    const through = divide({ re: 1, im: 0 }, b.ohms)
    resisting.push(i)
    list.a.push(groupOf(x))
    list.b.push(groupOf(y))
    list.re.push(through.re)
    list.im.push(through.im)
  }
  const network = factored(compact.size, list)
  const base = network.potentials(injected(compact.size, list, resisting, branches, driven))
  const grid: Grid = { branches, ends, resisting, list, network, driven, fused, groupOf, home, islands, alive, numbers }
  return solvedOf(grid, base, null)
}

function injected(
  count: number,
  list: Admittances,
  resisting: readonly number[],
  branches: readonly Branch[],
  driven: ReadonlyMap<Branch, number>,
): Values {
  const into = valuesOf(count)
  for (const [k, i] of resisting.entries()) {
    const volts = driven.get(branches[i]!)
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

/** What all solutions of one network share. */
interface Grid {
  readonly branches: readonly Branch[]
  readonly ends: readonly (readonly [number, number])[]
  readonly resisting: readonly number[]
  readonly list: Admittances
  readonly network: Factored
  readonly driven: ReadonlyMap<Branch, number>
  readonly fused: Groups
  readonly groupOf: (node: number) => number
  readonly home: number
  readonly islands: Groups
  readonly alive: (node: string) => boolean
  readonly numbers: ReadonlyMap<string, number>
}

function solvedOf(grid: Grid, volts: Values, more: Branch | null): Solved {
  const { numbers, groupOf, alive, islands } = grid
  const voltsAt = (node: string): Complex => {
    if (!alive(node)) return ZERO
    const g = groupOf(numbers.get(node)!)
    return { re: volts.re[g]!, im: volts.im[g]! }
  }
  const through = (b: Branch): Complex => {
    const across = subtract(voltsAt(b.a), voltsAt(b.b))
    return divide({ re: across.re + (grid.driven.get(b) ?? 0), im: across.im }, b.ohms)
  }
  let poles: ReadonlyMap<Branch, Complex> | null = null
  const currentIn = (b: Branch): Complex => {
    if (!alive(b.a)) return ZERO
    if (solid(b)) return (poles ??= shared(grid, through, more)).get(b) ?? ZERO
    return grid.fused.of(numbers.get(b.a)!) === grid.fused.of(numbers.get(b.b)!) ? ZERO : through(b)
  }
  return {
    voltsAt,
    currentIn,
    joined: (a, b) => {
      const [x, y] = [numbers.get(a), numbers.get(b)]
      return a === b || (x !== undefined && y !== undefined && islands.of(x) === islands.of(y))
    },
    impedanceBetween: (a, b) => {
      if (!alive(a) || !alive(b)) return null
      const [x, y] = [groupOf(numbers.get(a)!), groupOf(numbers.get(b)!)]
      if (x === y) return ZERO
      const into = valuesOf(volts.re.length)
      into.re[x] = 1
      into.re[y] = -1
      const per = grid.network.potentials(into)
      return { re: per.re[x]! - per.re[y]!, im: per.im[x]! - per.im[y]! }
    },
    withBranch: (branch) => {
      if (more !== null || solid(branch) || !alive(branch.a) || !alive(branch.b)) return null
      const [x, y] = [groupOf(numbers.get(branch.a)!), groupOf(numbers.get(branch.b)!)]
      if (x === y) return null
      const count = volts.re.length
      const into = valuesOf(count)
      into.re[x] = 1
      into.re[y] = into.re[y]! - 1
      const per = grid.network.potentials(into)
      const seen = { re: per.re[x]! - per.re[y]!, im: per.im[x]! - per.im[y]! }
      // What flows in it: the voltage that stands there without it, over its own impedance and that of the network as it sees it.
      const amps = divide({ re: volts.re[x]! - volts.re[y]!, im: volts.im[x]! - volts.im[y]! }, add(branch.ohms, seen))
      const next = valuesOf(count)
      for (let i = 0; i < count; i++) {
        const fall = multiply(amps, { re: per.re[i]!, im: per.im[i]! })
        next.re[i] = volts.re[i]! - fall.re
        next.im[i] = volts.im[i]! - fall.im
      }
      return solvedOf(grid, next, branch)
    },
  }
}

/** Currents in what has no impedance: what enters each group is shared as if all its poles were alike. */
function shared(grid: Grid, through: (b: Branch) => Complex, more: Branch | null): ReadonlyMap<Branch, Complex> {
  const { branches, ends, resisting, fused, islands, home, numbers } = grid
  const leaving = new Map<number, { re: number; im: number }>()
  const leave = (node: number, amps: Complex, sign: 1 | -1) => {
    const at = leaving.get(node) ?? { re: 0, im: 0 }
    at.re += sign * amps.re
    at.im += sign * amps.im
    leaving.set(node, at)
  }
  const flows = (b: Branch, x: number, y: number) => {
    const amps = through(b)
    leave(x, amps, 1)
    leave(y, amps, -1)
  }
  for (const i of resisting) flows(branches[i]!, ...(ends[i] as [number, number]))
  if (more) flows(more, numbers.get(more.a)!, numbers.get(more.b)!)
  const groups = new Map<number, number[]>()
  for (const [i, b] of branches.entries()) {
    const [x] = ends[i]!
    if (!solid(b) || islands.of(x) !== home) continue
    const at = fused.of(x)
    const list = groups.get(at)
    if (list) list.push(i)
    else groups.set(at, [i])
  }
  const result = new Map<Branch, Complex>()
  for (const list of groups.values()) {
    const local = new Map<number, number>()
    for (const i of list) for (const n of ends[i]!) if (!local.has(n)) local.set(n, local.size)
    const into = valuesOf(local.size)
    for (const [n, k] of local) {
      const out = leaving.get(n)
      if (!out) continue
      into.re[k] = -out.re
      into.im[k] = -out.im
    }
    const [a, b] = [0, 1].map((side) => list.map((i) => local.get(ends[i]![side as 0 | 1])!)) as [number[], number[]]
    const alike = factored(local.size, { a, b, re: list.map(() => 1), im: list.map(() => 0) })
    const at = alike.potentials(into)
    for (const [k, i] of list.entries()) result.set(branches[i]!, { re: at.re[a[k]!]! - at.re[b[k]!]!, im: at.im[a[k]!]! - at.im[b[k]!]! })
  }
  return result
}
