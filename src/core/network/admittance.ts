import { add, type Complex, divide, multiply, negative, subtract, ZERO } from './complex'

/** A branch of some admittance between two nodes, by number. */
export interface Admittance {
  readonly a: number
  readonly b: number
  /** Amperes a volt drives through it. */
  readonly through: Complex
}

type Row = Map<number, Complex>

/**
 * The potentials of nodes joined by admittances, with a current driven into each and the reference node at nought; every node hangs
 * together with the reference. Nodes are eliminated, the one with fewest neighbours first, so that wiring, which is nearly a tree, costs
 * little more than its size.
 */
export function potentials(count: number, branches: readonly Admittance[], driven: readonly Complex[], reference: number): Complex[] {
  const rows: Row[] = Array.from({ length: count }, () => new Map<number, Complex>())
  const diagonal: Complex[] = Array.from({ length: count }, () => ZERO)
  for (const { a, b, through } of branches) {
    if (a === b) continue
    for (const [x, y] of [
      [a, b],
      [b, a],
    ] as const) {
      diagonal[x] = add(diagonal[x]!, through)
      if (y !== reference && x !== reference) rows[x]!.set(y, subtract(rows[x]!.get(y) ?? ZERO, through))
    }
  }
  const current = [...driven]
  const order: { node: number; row: Row; pivot: Complex }[] = []
  const byDegree = new Buckets(rows.map((r) => r.size))
  byDegree.drop(reference)
  for (let node = byDegree.least(); node !== null; node = byDegree.least()) {
    byDegree.drop(node)
    const [row, pivot] = [rows[node]!, diagonal[node]!]
    for (const [x, toX] of row) {
      const part = divide(toX, pivot)
      rows[x]!.delete(node)
      diagonal[x] = subtract(diagonal[x]!, multiply(part, toX))
      current[x] = subtract(current[x]!, multiply(part, current[node]!))
      for (const [y, toY] of row) if (y !== x) rows[x]!.set(y, subtract(rows[x]!.get(y) ?? ZERO, multiply(part, toY)))
    }
    for (const x of row.keys()) byDegree.move(x, rows[x]!.size)
    order.push({ node, row, pivot })
  }
  const volts: Complex[] = Array.from({ length: count }, () => ZERO)
  for (const { node, row, pivot } of order.toReversed()) {
    let sum = current[node]!
    for (const [x, toX] of row) sum = add(sum, negative(multiply(toX, volts[x]!)))
    volts[node] = divide(sum, pivot)
  }
  return volts
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
    this.drop(node)
    this.degree[node] = degree
    this.of(degree).add(node)
    if (degree < this.lowest) this.lowest = degree
  }
  drop(node: number): void {
    this.buckets[this.degree[node]!]!.delete(node)
  }
  least(): number | null {
    while (this.lowest < this.buckets.length && this.buckets[this.lowest]!.size === 0) this.lowest++
    return this.buckets[this.lowest]?.values().next().value ?? null
  }
}
