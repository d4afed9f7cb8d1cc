import type { Complex } from './complex'

/** Branches of some admittance between nodes by number: amperes a volt drives, real and imaginary part. */
export interface Admittances {
  readonly a: readonly number[]
  readonly b: readonly number[]
  readonly re: readonly number[]
  readonly im: readonly number[]
}
/** One complex number for each node. */
export interface Values {
  readonly re: Float64Array
  readonly im: Float64Array
}
export const valuesOf = (count: number): Values => ({ re: new Float64Array(count), im: new Float64Array(count) })

/** A factorised nodal admittance matrix: each right-hand side then costs little more than the number of its nodes. */
export interface Factored {
  /**
   * Forward substitution onto the retained nodes, in place: injected currents of eliminated nodes become injections at retained ones.
   * Returns the sum of i²/y over the eliminated nodes, in ohms for an ampere: with the impedance of the reduced network, the driving-point
   * impedance between the ends of that injection.
   */
  readonly forward: (injected: Values) => Complex
  /** Back substitution: potentials of the eliminated nodes, written beside those of the retained ones, from currents after `forward`. */
  readonly back: (forwarded: Values, potentials: Values) => void
  /** The reduced network between the retained nodes (Kron reduction). */
  readonly reduced: Admittances
}

/**
 * Nodal analysis: Gaussian elimination of a nodal admittance matrix, all nodes but the first `kept`; node 0 is the reference. Nodes are
 * eliminated in minimum-degree order, so that wiring, which is nearly a tree, fills in hardly at all. Each elimination is a star-mesh
 * transformation (Kron reduction by one node): off-diagonal admittances are only ever added, never subtracted, so that a small one beside
 * a large one loses no digits. In an island without a retained node the last node eliminated has no neighbour: it is put at 0 V, and the
 * others follow from it.
 */
export function factored(count: number, branches: Admittances, kept = 1): Factored {
  if (kept === 1 && count <= DENSE_TO) return factoredDense(count, branches)
  const next: Map<number, number>[] = Array.from({ length: count }, () => new Map<number, number>())
  const edgeRe: number[] = []
  const edgeIm: number[] = []
  const home = valuesOf(count)
  const edge = (x: number, y: number): number => {
    const known = next[x]!.get(y)
    if (known !== undefined) return known
    const made = edgeRe.push(0) - 1
    edgeIm.push(0)
    next[x]!.set(y, made)
    next[y]!.set(x, made)
    return made
  }
  const toHome = (x: number, re: number, im: number) => {
    home.re[x] = home.re[x]! + re
    home.im[x] = home.im[x]! + im
  }
  for (let i = 0; i < branches.a.length; i++) {
    const [x, y, re, im] = [branches.a[i]!, branches.b[i]!, branches.re[i]!, branches.im[i]!]
    if (x === y) continue
    if (x === 0 || y === 0) {
      toHome(x + y, re, im)
      continue
    }
    const e = edge(x, y)
    edgeRe[e] = edgeRe[e]! + re
    edgeIm[e] = edgeIm[e]! + im
  }
  const order = new Int32Array(Math.max(0, count - kept))
  const own = valuesOf(count)
  const beside: number[] = []
  const through = { re: [] as number[], im: [] as number[] }
  const first = new Int32Array(order.length + 1)
  const byDegree = new DegreeBuckets(next.map((n) => n.size))
  for (let node = 0; node < Math.min(kept, count); node++) byDegree.drop(node)
  for (let step = 0; step < order.length; step++) {
    const node = byDegree.least()
    byDegree.drop(node)
    order[step] = node
    const list = next[node]!
    let [pr, pi] = [home.re[node]!, home.im[node]!]
    for (const e of list.values()) {
      pr += edgeRe[e]!
      pi += edgeIm[e]!
    }
    own.re[node] = pr
    own.im[node] = pi
    const size = pr * pr + pi * pi
    const from = beside.length
    for (const [x, e] of list) {
      beside.push(x)
      through.re.push((edgeRe[e]! * pr + edgeIm[e]! * pi) / size)
      through.im.push((edgeIm[e]! * pr - edgeRe[e]! * pi) / size)
    }
    const [hr, hi] = [home.re[node]!, home.im[node]!]
    let k = from
    for (const x of list.keys()) {
      const [mr, mi] = [through.re[k]!, through.im[k]!]
      next[x]!.delete(node)
      toHome(x, mr * hr - mi * hi, mr * hi + mi * hr)
      let j = from
      for (const [y, f] of list) {
        // Each pair once: what joins two is the same both ways.
        if (j++ >= k) break
        const into = edge(x, y)
        edgeRe[into] = edgeRe[into]! + (mr * edgeRe[f]! - mi * edgeIm[f]!)
        edgeIm[into] = edgeIm[into]! + (mr * edgeIm[f]! + mi * edgeRe[f]!)
      }
      k++
    }
    for (let i = from; i < beside.length; i++) byDegree.move(beside[i]!, next[beside[i]!]!.size)
    first[step + 1] = beside.length
  }
  return { ...substitutions({ order, first, beside, through, own }), reduced: reducedOf(kept, home, next, edgeRe, edgeIm) }
}

/** Up to so many nodes the matrix is held dense. */
const DENSE_TO = 40
/** Zeroed scratch matrices by size, real and imaginary parts; the last caller's contents are overwritten. */
const tables = new Map<number, Values>()
function tableOf(count: number): Values {
  let table = tables.get(count)
  if (!table) tables.set(count, (table = valuesOf(count * count)))
  table.re.fill(0)
  table.im.fill(0)
  return table
}
/** The same elimination on a dense matrix, from the last node to the first: faster for few nodes than keeping adjacency lists. */
function factoredDense(count: number, branches: Admittances): Factored {
  const { re, im } = tableOf(count)
  for (let i = 0; i < branches.a.length; i++) {
    const [a, b] = [branches.a[i]!, branches.b[i]!]
    if (a === b) continue
    // Each pair once, in the row of the greater.
    const at = a > b ? a * count + b : b * count + a
    re[at] = re[at]! + branches.re[i]!
    im[at] = im[at]! + branches.im[i]!
  }
  const own = valuesOf(count)
  const order = new Int32Array(Math.max(0, count - 1))
  const first = new Int32Array(order.length + 1)
  const beside: number[] = []
  const through = { re: [] as number[], im: [] as number[] }
  for (let node = count - 1, step = 0; node > 0; node--, step++) {
    const row = node * count
    const from = beside.length
    let [pr, pi] = [re[row]!, im[row]!]
    for (let x = 1; x < node; x++) {
      const [er, ei] = [re[row + x]!, im[row + x]!]
      if (er === 0 && ei === 0) continue
      pr += er
      pi += ei
      beside.push(x)
    }
    order[step] = node
    first[step + 1] = beside.length
    own.re[node] = pr
    own.im[node] = pi
    const size = pr * pr + pi * pi
    if (size === 0) continue
    const [hr, hi] = [re[row]!, im[row]!]
    for (let k = from; k < beside.length; k++) {
      const x = beside[k]!
      const [er, ei] = [re[row + x]!, im[row + x]!]
      const [mr, mi] = [(er * pr + ei * pi) / size, (ei * pr - er * pi) / size]
      through.re.push(mr)
      through.im.push(mi)
      const into = x * count
      re[into] = re[into]! + (mr * hr - mi * hi)
      im[into] = im[into]! + (mr * hi + mi * hr)
      for (let j = from; j < k; j++) {
        const y = beside[j]!
        const [fr, fi] = [re[row + y]!, im[row + y]!]
        re[into + y] = re[into + y]! + (mr * fr - mi * fi)
        im[into + y] = im[into + y]! + (mr * fi + mi * fr)
      }
    }
  }
  return { ...substitutions({ order, first, beside, through, own }), reduced: { a: [], b: [], re: [], im: [] } }
}

/** The reduced network: admittances between the retained nodes. */
function reducedOf(
  kept: number,
  home: Values,
  next: readonly ReadonlyMap<number, number>[],
  edgeRe: readonly number[],
  edgeIm: readonly number[],
): Admittances {
  const left = { a: [] as number[], b: [] as number[], re: [] as number[], im: [] as number[] }
  const joins = (a: number, b: number, re: number, im: number) => {
    if (re === 0 && im === 0) return
    left.a.push(a)
    left.b.push(b)
    left.re.push(re)
    left.im.push(im)
  }
  for (let x = 1; x < kept; x++) {
    joins(0, x, home.re[x]!, home.im[x]!)
    for (const [y, e] of next[x]!) if (y > x) joins(x, y, edgeRe[e]!, edgeIm[e]!)
  }
  return left
}

/**
 * The factors: eliminated nodes in their order, with the remaining neighbours of each and the share of its current that goes to each. The
 * neighbours of a step are those from `first[step]` to `first[step + 1]`.
 */
interface Factors {
  readonly order: Int32Array
  readonly first: Int32Array
  readonly beside: readonly number[]
  readonly through: { readonly re: readonly number[]; readonly im: readonly number[] }
  readonly own: Values
}
function substitutions({ order, first, beside, through, own }: Factors): Omit<Factored, 'reduced'> {
  return {
    forward: ({ re, im }) => {
      let [metRe, metIm] = [0, 0]
      for (let step = 0; step < order.length; step++) {
        const node = order[step]!
        const [r, i] = [re[node]!, im[node]!]
        if (r === 0 && i === 0) continue
        const [pr, pi] = [own.re[node]!, own.im[node]!]
        const size = pr * pr + pi * pi
        if (size === 0) continue
        const [sr, si] = [r * r - i * i, 2 * r * i]
        metRe += (sr * pr + si * pi) / size
        metIm += (si * pr - sr * pi) / size
        for (let k = first[step]!; k < first[step + 1]!; k++) {
          const x = beside[k]!
          re[x] = re[x]! + (through.re[k]! * r - through.im[k]! * i)
          im[x] = im[x]! + (through.re[k]! * i + through.im[k]! * r)
        }
      }
      return { re: metRe, im: metIm }
    },
    back: ({ re, im }, out) => {
      for (let step = order.length - 1; step >= 0; step--) {
        const node = order[step]!
        const [pr, pi] = [own.re[node]!, own.im[node]!]
        const size = pr * pr + pi * pi
        if (size === 0) continue
        let r = (re[node]! * pr + im[node]! * pi) / size
        let i = (im[node]! * pr - re[node]! * pi) / size
        for (let k = first[step]!; k < first[step + 1]!; k++) {
          const x = beside[k]!
          r += through.re[k]! * out.re[x]! - through.im[k]! * out.im[x]!
          i += through.re[k]! * out.im[x]! + through.im[k]! * out.re[x]!
        }
        out.re[node] = r
        out.im[node] = i
      }
    },
  }
}

/** Nodes by degree, for minimum-degree ordering. */
class DegreeBuckets {
  private readonly buckets: Set<number>[] = []
  private readonly degree: number[]
  private lowest = 0
  constructor(degrees: readonly number[]) {
    this.degree = [...degrees]
    for (const [node, d] of degrees.entries()) this.of(d).add(node)
  }
  private of(degree: number): Set<number> {
    while (this.buckets.length <= degree) this.buckets.push(new Set())
    return this.buckets[degree]!
  }
  move(node: number, degree: number): void {
    if (this.degree[node] === degree || !this.of(this.degree[node]!).delete(node)) return
    this.of(degree).add(node)
    this.degree[node] = degree
    if (degree < this.lowest) this.lowest = degree
  }
  drop(node: number): void {
    this.buckets[this.degree[node]!]!.delete(node)
  }
  least(): number {
    while (this.buckets[this.lowest]!.size === 0) this.lowest++
    return this.buckets[this.lowest]!.values().next().value!
  }
}
