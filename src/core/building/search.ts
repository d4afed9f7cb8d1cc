/*
 * The cheapest route over a graph whose nodes have coordinates: A* with an admissible heuristic (Hart, Nilsson and Raphael 1968), so that
 * what it finds is what Dijkstra's algorithm finds.
 */

export type Place = readonly [x: number, y: number, z: number]
/** Nodes with a place and edges that join two of them at a cost, in columns: a building has hundreds of thousands of them. */
export interface Graph {
  /** x, y and z of each node after those of the one before. */
  readonly at: Float64Array
  readonly nodes: number
  readonly a: Int32Array
  readonly b: Int32Array
  readonly cost: Float64Array
  readonly edges: number
}
export const placeAt = ({ at }: Pick<Graph, 'at'>, n: number): [x: number, y: number, z: number] => [
  at[3 * n]!,
  at[3 * n + 1]!,
  at[3 * n + 2]!,
]
/** The node at the other end of an edge. */
export const beyond = ({ a, b }: Pick<Graph, 'a' | 'b'>, edge: number, node: number): number => (a[edge] === node ? b[edge]! : a[edge]!)
/** Edges at each node, as offsets into one list: nothing else grows with the graph. */
export interface Adjacency {
  readonly from: Int32Array
  readonly edge: Int32Array
  /** Where each leads, and what it costs: beside each other in memory, as a search looks at little else. */
  readonly next: Int32Array
  readonly cost: Float64Array
  /** What a way costs at the least: so much for each metre to the side, and so much for each up or down. */
  readonly least: { readonly aside: number; readonly upright: number }
}

export function adjacencyOf(graph: Graph): Adjacency {
  const { nodes, edges, a, b, cost } = graph
  const from = new Int32Array(nodes + 1)
  for (let i = 0; i < edges; i++) {
    from[a[i]! + 1]!++
    from[b[i]! + 1]!++
  }
  for (let i = 0; i < nodes; i++) from[i + 1]! += from[i]!
  const at = from.slice()
  const [edge, next, costs] = [new Int32Array(2 * edges), new Int32Array(2 * edges), new Float64Array(2 * edges)]
  for (let i = 0; i < edges; i++) {
    const p = at[a[i]!]!++
    const q = at[b[i]!]!++
    edge[p] = edge[q] = i
    next[p] = b[i]!
    next[q] = a[i]!
    costs[p] = costs[q] = cost[i]!
  }
  return { from, edge, next, cost: costs, least: leastOf(graph) }
}

/**
 * The largest costs per metre sideways and per metre up or down at which no edge costs less than the heuristic says of it: the heuristic is
 * admissible and consistent.
 */
function leastOf({ at, edges, a, b, cost }: Graph): Adjacency['least'] {
  /** The square of how far apart the ends of an edge are, seen from above. */
  const wide2 = (i: number): number => {
    const dx = at[3 * a[i]!]! - at[3 * b[i]!]!
    const dy = at[3 * a[i]! + 1]! - at[3 * b[i]! + 1]!
    return dx * dx + dy * dy
  }
  let aside2 = Number.POSITIVE_INFINITY
  for (let i = 0; i < edges; i++) {
    const wide = wide2(i)
    const each = cost[i]! * cost[i]!
    if (wide > 0 && each < aside2 * wide) aside2 = each / wide
  }
  const aside = Number.isFinite(aside2) ? Math.sqrt(aside2) : 0
  let upright = Number.POSITIVE_INFINITY
  for (let i = 0; i < edges; i++) {
    const tall = Math.abs(at[3 * a[i]! + 2]! - at[3 * b[i]! + 2]!)
    if (tall > 0) upright = Math.min(upright, (cost[i]! - aside * Math.sqrt(wide2(i))) / tall)
  }
  return { aside, upright: Number.isFinite(upright) ? Math.max(0, upright) : 0 }
}
/** A hair less than a bound may be, so that what is rounded up never makes it too high. */
const HAIR = 1 - 1e-12
const left = ({ aside, upright }: Adjacency['least'], x: number, y: number, z: number, [p, q, r]: Place): number =>
  (aside * Math.sqrt((x - p) * (x - p) + (y - q) * (y - q)) + upright * Math.abs(z - r)) * HAIR

export const distance = ([x, y, z]: Place, [p, q, r]: Place): number => Math.sqrt((x - p) ** 2 + (y - q) ** 2 + (z - r) ** 2)

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
  graph: Graph,
  { from: offsets, edge: at, next: leads, cost: costs, least }: Adjacency,
  from: number,
  to: ReadonlySet<number>,
  costOf?: (edge: number) => number,
): Way | null {
  const { at: places } = graph
  const goals = [...to].map((t) => placeAt(graph, t))
  const bounds = new Float64Array(graph.nodes).fill(-1)
  const bound = (n: number): number => {
    const known = bounds[n]!
    if (known >= 0) return known
    let near = Number.POSITIVE_INFINITY
    const [x, y, z] = [places[3 * n]!, places[3 * n + 1]!, places[3 * n + 2]!]
    for (let i = 0; i < goals.length; i++) near = Math.min(near, left(least, x, y, z, goals[i]!))
    return (bounds[n] = near)
  }
  const cost = new Float64Array(graph.nodes).fill(Number.POSITIVE_INFINITY)
  const by = new Int32Array(graph.nodes).fill(-1)
  const done = new Uint8Array(graph.nodes)
  const heap = new Heap(graph.nodes)
  cost[from] = 0
  heap.push(from, bound(from))
  for (let n = heap.pop(); n >= 0; n = heap.pop()) {
    if (done[n]) continue
    done[n] = 1
    if (to.has(n)) return { edges: walkedTo(n, from, by, graph), cost: cost[n]! }
    const here = cost[n]!
    for (let k = offsets[n]!; k < offsets[n + 1]!; k++) {
      const next = leads[k]!
      const total = here + (costOf ? costOf(at[k]!) : costs[k]!)
      if (done[next] || !(total < cost[next]!)) continue
      cost[next] = total
      by[next] = at[k]!
      heap.push(next, total + bound(next))
    }
  }
  return null
}

function walkedTo(to: number, from: number, by: Int32Array, graph: Graph): number[] {
  const back: number[] = []
  for (let n = to; n !== from;) {
    const i = by[n]!
    back.push(i)
    n = beyond(graph, i, n)
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
  graph: Graph,
  { from: offsets, edge: at, least }: Adjacency,
  from: number,
  targets: readonly number[],
  sets: readonly ReadonlySet<number>[],
  allowed: (edge: number) => boolean,
): Way | null {
  const count = graph.nodes
  const whole = (1 << (targets.length + sets.length)) - 1
  const bitAt = new Map(targets.map((t, i) => [t, 1 << i]))
  const bitsOf = (edge: number) => sets.reduce((bits, set, i) => (set.has(edge) ? bits | (1 << (targets.length + i)) : bits), 0)
  const bound = (node: number, mask: number) => {
    let far = 0
    for (const [i, t] of targets.entries())
      if (!(mask & (1 << i))) far = Math.max(far, left(least, ...placeAt(graph, node), placeAt(graph, t)))
    return far
  }
  const cost = new Float64Array(count * (whole + 1)).fill(Number.POSITIVE_INFINITY)
  const by = new Int32Array(cost.length).fill(-1)
  const before = new Int32Array(cost.length).fill(-1)
  const done = new Uint8Array(cost.length)
  const heap = new Heap(count)
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
      const next = beyond(graph, i, node)
      const then = mask | bitsOf(i) | (bitAt.get(next) ?? 0)
      const to = then * count + next
      const total = cost[s]! + graph.cost[i]!
      if (done[to] || !(total < cost[to]!)) continue
      cost[to] = total
      by[to] = i
      before[to] = s
      heap.push(to, total + bound(next, then))
    }
  }
  return null
}

/** A heap of nodes by what they are expected to cost, four to a level, in two flat lists that grow as they must. */
class Heap {
  private nodes: Int32Array
  private keys: Float64Array
  private size = 0
  constructor(room: number) {
    this.nodes = new Int32Array(Math.max(16, room))
    this.keys = new Float64Array(Math.max(16, room))
  }
  push(node: number, key: number): void {
    if (this.size === this.nodes.length) this.grow()
    const { nodes, keys } = this
    let i = this.size++
    while (i > 0) {
      const up = (i - 1) >> 2
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
    if (this.size === 0) return -1
    const { nodes, keys } = this
    const least = nodes[0]!
    const size = --this.size
    const [node, key] = [nodes[size]!, keys[size]!]
    let i = 0
    for (let first = 1; first < size; first = 4 * i + 1) {
      let child = first
      for (let k = first + 1; k < Math.min(first + 4, size); k++) if (keys[k]! < keys[child]!) child = k
      if (keys[child]! >= key) break
      nodes[i] = nodes[child]!
      keys[i] = keys[child]!
      i = child
    }
    nodes[i] = node
    keys[i] = key
    return least
  }
  private grow(): void {
    const [nodes, keys] = [new Int32Array(2 * this.size), new Float64Array(2 * this.size)]
    nodes.set(this.nodes)
    keys.set(this.keys)
    this.nodes = nodes
    this.keys = keys
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
  placeOf: (edge: number) => number,
): Way[] {
  const { cost: costs } = graph
  const taken = new Map<number, number>()
  const found: { readonly way: Way; readonly places: ReadonlyMap<number, number> }[] = []
  for (let tries = 0; found.length <= more && tries < 4 * (more + 1); tries++) {
    const costOf = (i: number) =>
      allowed(i) ? costs[i]! * (1 + PENALTY * (taken.size ? (taken.get(placeOf(i)) ?? 0) : 0)) : Number.POSITIVE_INFINITY
    const walked = cheapest(graph, near, from, to, costOf)
    if (!walked || !Number.isFinite(walked.cost)) break
    const places = new Map<number, number>()
    for (const i of walked.edges) places.set(placeOf(i), (places.get(placeOf(i)) ?? 0) + costs[i]!)
    for (const place of places.keys()) taken.set(place, (taken.get(place) ?? 0) + 1)
    const cost = walked.edges.reduce((sum, i) => sum + costs[i]!, 0)
    const same = (other: (typeof found)[number]) => {
      const common = [...places].reduce((sum, [place, part]) => sum + Math.min(part, other.places.get(place) ?? 0), 0)
      return common > SAME_PART * Math.max(cost, other.way.cost)
    }
    if (!found.some(same)) found.push({ way: { edges: walked.edges, cost }, places })
  }
  return found.map((f) => f.way).toSorted((a, b) => a.cost - b.cost)
}
