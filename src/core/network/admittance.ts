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

/** A network taken apart once; what it stands at under any currents driven into it then costs little more than its size. */
export interface Factored {
  /** Potentials of the nodes with these currents driven into them, the reference at nought. The currents are used up. */
  readonly potentials: (driven: Values) => Values
}

/**
 * Takes nodes joined by admittances apart; every node hangs together with the reference, which is node 0. Nodes are eliminated, the one
 * with fewest neighbours first, so that wiring, which is nearly a tree, fills up hardly at all. Each star becomes a mesh: admittances are
 * only ever added, never taken from one another, so that a weak one beside a strong one keeps all its figures.
 */
export function factored(count: number, branches: Admittances): Factored {
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
  const order = new Int32Array(Math.max(0, count - 1))
  const own = valuesOf(count)
  const beside: Int32Array[] = []
  const through: Values[] = []
  const byDegree = new Buckets(next.map((n) => n.size))
  byDegree.drop(0)
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
    const others = new Int32Array(list.size)
    const part: Values = { re: new Float64Array(list.size), im: new Float64Array(list.size) }
    let k = 0
    for (const [x, e] of list) {
      others[k] = x
      part.re[k] = (edgeRe[e]! * pr + edgeIm[e]! * pi) / size
      part.im[k] = (edgeIm[e]! * pr - edgeRe[e]! * pi) / size
      k++
    }
    const [hr, hi] = [home.re[node]!, home.im[node]!]
    k = 0
    for (const x of list.keys()) {
      const [mr, mi] = [part.re[k]!, part.im[k]!]
      next[x]!.delete(node)
      toHome(x, mr * hr - mi * hi, mr * hi + mi * hr)
      let j = 0
      for (const [y, f] of list) {
        // Each pair once: what joins two is the same both ways.
        if (j++ >= k) break
        const into = edge(x, y)
        edgeRe[into] = edgeRe[into]! + (mr * edgeRe[f]! - mi * edgeIm[f]!)
        edgeIm[into] = edgeIm[into]! + (mr * edgeIm[f]! + mi * edgeRe[f]!)
      }
      k++
    }
    for (let i = 0; i < others.length; i++) byDegree.move(others[i]!, next[others[i]!]!.size)
    beside.push(others)
    through.push(part)
  }
  return { potentials: (driven) => backThrough(order, beside, through, own, driven) }
}

function backThrough(order: Int32Array, beside: readonly Int32Array[], through: readonly Values[], own: Values, driven: Values): Values {
  const { re, im } = driven
  for (let step = 0; step < order.length; step++) {
    const node = order[step]!
    const [r, i, others, part] = [re[node]!, im[node]!, beside[step]!, through[step]!]
    if (r === 0 && i === 0) continue
    for (let k = 0; k < others.length; k++) {
      const x = others[k]!
      re[x] = re[x]! + (part.re[k]! * r - part.im[k]! * i)
      im[x] = im[x]! + (part.re[k]! * i + part.im[k]! * r)
    }
  }
  const out = valuesOf(re.length)
  for (let step = order.length - 1; step >= 0; step--) {
    const node = order[step]!
    const [others, part, pr, pi] = [beside[step]!, through[step]!, own.re[node]!, own.im[node]!]
    const size = pr * pr + pi * pi
    let r = (re[node]! * pr + im[node]! * pi) / size
    let i = (im[node]! * pr - re[node]! * pi) / size
    for (let k = 0; k < others.length; k++) {
      const x = others[k]!
      r += part.re[k]! * out.re[x]! - part.im[k]! * out.im[x]!
      i += part.re[k]! * out.im[x]! + part.im[k]! * out.re[x]!
    }
    out.re[node] = r
    out.im[node] = i
  }
  return out
}

/** Nodes by how many neighbours they have. */
class Buckets {
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
