/*
 * The cheapest way over a graph whose nodes stand somewhere: A* under a bound that is never more than what is left, so that what it finds
 * is what the plain search finds.
 */

export interface Edge {
  readonly a: number
  readonly b: number
  readonly cost: number
}
export interface Graph<E extends Edge = Edge> {
  readonly nodes: readonly (readonly [x: number, y: number, z: number])[]
  readonly edges: readonly E[]
}

/** Edges at each node, as offsets into one list: nothing else grows with the graph. */
export interface Adjacency {
  readonly from: Int32Array
  readonly edge: Int32Array
  /** The least that a metre can cost on any edge. */
  readonly leastPerMetre: number
}

export function adjacencyOf({ nodes, edges }: Graph): Adjacency {
  const from = new Int32Array(nodes.length + 1)
  for (const { a, b } of edges) {
    from[a + 1]!++
    from[b + 1]!++
  }
  for (let i = 0; i < nodes.length; i++) from[i + 1]! += from[i]!
  const at = from.slice()
  const edge = new Int32Array(2 * edges.length)
  let leastPerMetre = Number.POSITIVE_INFINITY
  for (const [i, { a, b, cost }] of edges.entries()) {
    edge[at[a]!++] = i
    edge[at[b]!++] = i
    const metres = distance(nodes[a]!, nodes[b]!)
    if (metres > 0) leastPerMetre = Math.min(leastPerMetre, cost / metres)
  }
  return { from, edge, leastPerMetre: Number.isFinite(leastPerMetre) ? leastPerMetre : 0 }
}

type Place = Graph['nodes'][number]
export const distance = ([x, y, z]: Place, [p, q, r]: Place): number => Math.hypot(x - p, y - q, z - r)

export interface Way {
  /** Edges in the order they are walked. */
  readonly edges: readonly number[]
  readonly cost: number
}

/**
 * The cheapest way from a node to any of several, or null where there is none. `costOf` may say more than an edge's own cost, never less,
 * and infinity where it is forbidden.
 */
export function cheapest(
  { nodes, edges }: Graph,
  { from: offsets, edge: at, leastPerMetre }: Adjacency,
  from: number,
  to: ReadonlySet<number>,
  costOf: (edge: number) => number = (i) => edges[i]!.cost,
): Way | null {
  const goals = [...to].map((t) => nodes[t]!)
  // A hair less than it may be, so that what is rounded up never makes the bound too high.
  const bound = (n: number) => Math.min(...goals.map((g) => distance(nodes[n]!, g))) * leastPerMetre * (1 - 1e-12)
  const cost = new Float64Array(nodes.length).fill(Number.POSITIVE_INFINITY)
  const by = new Int32Array(nodes.length).fill(-1)
  const done = new Uint8Array(nodes.length)
  const heap = new Heap()
  cost[from] = 0
  heap.push(from, bound(from))
  for (let n = heap.pop(); n >= 0; n = heap.pop()) {
    if (done[n]) continue
    done[n] = 1
    if (to.has(n)) return { edges: walkedTo(n, from, by, edges), cost: cost[n]! }
    for (let k = offsets[n]!; k < offsets[n + 1]!; k++) {
      const i = at[k]!
      const { a, b } = edges[i]!
      const next = a === n ? b : a
      const total = cost[n]! + costOf(i)
      if (done[next] || !(total < cost[next]!)) continue
      cost[next] = total
      by[next] = i
      heap.push(next, total + bound(next))
    }
  }
  return null
}

function walkedTo(to: number, from: number, by: Int32Array, edges: readonly Edge[]): number[] {
  const back: number[] = []
  for (let n = to; n !== from;) {
    const i = by[n]!
    back.push(i)
    n = edges[i]!.a === n ? edges[i]!.b : edges[i]!.a
  }
  return back.toReversed()
}

/** More states than this are not searched. */
export const MOST_STATES = 6_000_000

/**
 * The cheapest walk from a node through every target and over at least one edge of each set, in whatever order costs least, ending at a
 * target; null where there is none. Exact: it searches places together with what was passed already.
 */
export function cheapestThrough(
  { nodes, edges }: Graph,
  { from: offsets, edge: at, leastPerMetre }: Adjacency,
  from: number,
  targets: readonly number[],
  sets: readonly ReadonlySet<number>[],
  allowed: (edge: number) => boolean,
): Way | null {
  const count = nodes.length
  const whole = (1 << (targets.length + sets.length)) - 1
  const bitAt = new Map(targets.map((t, i) => [t, 1 << i]))
  const bitsOf = (edge: number) => sets.reduce((bits, set, i) => (set.has(edge) ? bits | (1 << (targets.length + i)) : bits), 0)
  const bound = (node: number, mask: number) => {
    let far = 0
    for (const [i, t] of targets.entries()) if (!(mask & (1 << i))) far = Math.max(far, distance(nodes[node]!, nodes[t]!))
    return far * leastPerMetre * (1 - 1e-12)
  }
  const cost = new Float64Array(count * (whole + 1)).fill(Number.POSITIVE_INFINITY)
  const by = new Int32Array(cost.length).fill(-1)
  const before = new Int32Array(cost.length).fill(-1)
  const done = new Uint8Array(cost.length)
  const heap = new Heap()
  const start = (bitAt.get(from) ?? 0) * count + from
  cost[start] = 0
  heap.push(start, bound(from, 0))
  for (let s = heap.pop(); s >= 0; s = heap.pop()) {
    if (done[s]) continue
    done[s] = 1
    const [node, mask] = [s % count, Math.floor(s / count)]
    if (mask === whole && bitAt.has(node)) {
      const back: number[] = []
      for (let n = s; n !== start; n = before[n]!) back.push(by[n]!)
      return { edges: back.toReversed(), cost: cost[s]! }
    }
    for (let k = offsets[node]!; k < offsets[node + 1]!; k++) {
      const i = at[k]!
      if (!allowed(i)) continue
      const e = edges[i]!
      const next = e.a === node ? e.b : e.a
      const then = mask | bitsOf(i) | (bitAt.get(next) ?? 0)
      const to = then * count + next
      const total = cost[s]! + e.cost
      if (done[to] || !(total < cost[to]!)) continue
      cost[to] = total
      by[to] = i
      before[to] = s
      heap.push(to, total + bound(next, then))
    }
  }
  return null
}

/** A heap of nodes by what they are expected to cost, in two flat lists. */
class Heap {
  private readonly nodes: number[] = []
  private readonly keys: number[] = []
  push(node: number, key: number): void {
    const { nodes, keys } = this
    let i = keys.length
    nodes.push(node)
    keys.push(key)
    while (i > 0) {
      const up = (i - 1) >> 1
      if (keys[up]! <= key) break
      nodes[i] = nodes[up]!
      keys[i] = keys[up]!
      i = up
    }
    nodes[i] = node
    keys[i] = key
  }
  /** The least, or -1 where none is left. */
  pop(): number {
    const { nodes, keys } = this
    if (nodes.length === 0) return -1
    const least = nodes[0]!
    const [node, key] = [nodes.pop()!, keys.pop()!]
    const size = keys.length
    if (size === 0) return least
    let i = 0
    for (let child = 1; child < size; child = 2 * i + 1) {
      if (child + 1 < size && keys[child + 1]! < keys[child]!) child++
      if (keys[child]! >= key) break
      nodes[i] = nodes[child]!
      keys[i] = keys[child]!
      i = child
    }
    nodes[i] = node
    keys[i] = key
    return least
  }
}

/** How much dearer a place is made for each way that takes it already. */
const PENALTY = 0.5
/** Two ways are different that go less than this part of the longer one's cost through the same places. */
export const SAME_PART = 0.6

/**
 * The cheapest way and up to `more` others that are truly different, each with its own cost, best first. `placeOf` says which edges are one
 * place: two ways side by side through an attic are no two ways. Others come from making dearer the places that were taken; one that has
 * too much in common with a better one is left out.
 */
export function different(
  graph: Graph,
  near: Adjacency,
  from: number,
  to: ReadonlySet<number>,
  more: number,
  allowed: (edge: number) => boolean,
  placeOf: (edge: number) => string,
): Way[] {
  const { edges } = graph
  const taken = new Map<string, number>()
  const found: { readonly way: Way; readonly places: ReadonlyMap<string, number> }[] = []
  for (let tries = 0; found.length <= more && tries < 4 * (more + 1); tries++) {
    const costOf = (i: number) =>
      allowed(i) ? edges[i]!.cost * (1 + PENALTY * (taken.size ? (taken.get(placeOf(i)) ?? 0) : 0)) : Number.POSITIVE_INFINITY
    const walked = cheapest(graph, near, from, to, costOf)
    if (!walked || !Number.isFinite(walked.cost)) break
    const places = new Map<string, number>()
    for (const i of walked.edges) places.set(placeOf(i), (places.get(placeOf(i)) ?? 0) + edges[i]!.cost)
    for (const place of places.keys()) taken.set(place, (taken.get(place) ?? 0) + 1)
    const cost = walked.edges.reduce((sum, i) => sum + edges[i]!.cost, 0)
    const same = (other: (typeof found)[number]) => {
      const common = [...places].reduce((sum, [place, part]) => sum + Math.min(part, other.places.get(place) ?? 0), 0)
      return common > SAME_PART * Math.max(cost, other.way.cost)
    }
    if (!found.some(same)) found.push({ way: { edges: walked.edges, cost }, places })
  }
  return found.map((f) => f.way).toSorted((a, b) => a.cost - b.cost)
}
