import { type Box, type DeviceAt, pointOf } from '../build/box'
import { type CableAt, coresOf, type Worked } from '../build/cores'
import type { Installation } from '../installation/installation'
import { CAP, tailEndName, terminalName } from '../job/bench'
import { nodeOf } from './laid'

/*
 * The conductors of one circuit as a graph: conductors and joints are edges, contacts and fuses are edges that a state opens, loads are
 * none. Which sources a place is joined to in a state of its contacts says what is there, without solving for currents: every fault of
 * connection (dead, reversed, bypassed, short) is one of what is joined to what.
 */

/** A source of the circuit, at its way: lines, neutral, protective conductor; of another circuit in the same box, with its name. */
export type Source = string
export const ownSources = ['L', 'L2', 'N', 'PE'] as const

/** A contact that a hand, a trip or a blown fuse opens. */
export interface Contact {
  /** Box, device and what moves it; all contacts of the same key move together. */
  readonly key: string
  readonly point: string
  readonly device: string
  readonly kind: 'actuator' | 'residual' | 'fuse'
  /** The pairs it joins in each of its positions; the last is taken as on. */
  readonly positions: readonly (readonly (readonly [number, number])[])[]
}
/** Where something draws power. */
export interface Load {
  readonly id: string
  readonly point: string
  readonly name: string
  readonly socket: boolean
  readonly a: number
  readonly b: number
  readonly earth: number | null
  /** It takes both lines, or one and the neutral. */
  readonly across: boolean
}
export interface Graph {
  readonly nodes: ReadonlyMap<string, number>
  readonly sources: ReadonlyMap<Source, number>
  readonly contacts: readonly Contact[]
  readonly loads: readonly Load[]
  /** What is joined whatever moves. */
  readonly fixed: readonly (readonly [number, number])[]
  /** The last leg of a ring at the board, core by core; not joined to the board in `open` states. */
  readonly closing: readonly { readonly role: string; readonly node: number; readonly source: number }[]
}

/** Contacts by key with the position they are in; a key that is not in it is on. */
export type Contacts = ReadonlyMap<string, number>

class Unions {
  private readonly up: Int32Array
  constructor(size: number) {
    this.up = new Int32Array(size)
    for (let i = 0; i < size; i++) this.up[i] = i
  }
  root(n: number): number {
    let at = n
    while (this.up[at] !== at) at = this.up[at] = this.up[this.up[at]!]!
    return at
  }
  join(a: number, b: number): void {
    this.up[this.root(a)] = this.root(b)
  }
}

/** What is joined to what in a state (union–find). */
export interface Joined {
  readonly sourcesAt: (node: number) => readonly Source[]
  readonly same: (a: number, b: number) => boolean
  readonly root: (node: number) => number
}

interface Also {
  /** Contacts that join in every position at once. */
  readonly all?: boolean
  /** The last leg of a ring is lifted off the board. */
  readonly lifted?: boolean
  /** Loads lead too. */
  readonly loads?: boolean
}
export function joinedIn(graph: Graph, state: Contacts, { all = false, lifted = false, loads = false }: Also = {}): Joined {
  const u = new Unions(graph.nodes.size)
  for (const [a, b] of graph.fixed) u.join(a, b)
  if (!lifted) for (const c of graph.closing) u.join(c.node, c.source)
  for (const c of graph.contacts) {
    const at = state.get(c.key) ?? c.positions.length - 1
    for (const [a, b] of all ? c.positions.flat() : (c.positions[at] ?? [])) u.join(a, b)
  }
  if (loads) for (const l of graph.loads) u.join(l.a, l.b)
  const of = new Map<number, Source[]>()
  for (const [s, n] of graph.sources) {
    const at = u.root(n)
    of.set(at, [...(of.get(at) ?? []), s])
  }
  const none: readonly Source[] = []
  return { sourcesAt: (n) => of.get(u.root(n)) ?? none, same: (a, b) => u.root(a) === u.root(b), root: (n) => u.root(n) }
}

const sourceOfRole: Readonly<Record<string, Source>> = { line: 'L', 'line-2': 'L2', neutral: 'N', pe: 'PE' }

/** The graph of a circuit from its boxes. */
export function graphOf(job: Installation, report: Worked, boxes: readonly Box[]): Graph {
  const nodes = new Map<string, number>()
  const node = (name: string): number => {
    const known = nodes.get(name)
    if (known !== undefined) return known
    nodes.set(name, nodes.size)
    return nodes.size - 1
  }
  const sources = new Map<Source, number>(ownSources.map((s) => [s, node(`source ${s}`)]))
  const foreign = (s: Source): number => {
    const at = node(`source ${s}`)
    sources.set(s, at)
    return at
  }
  const fixed: [number, number][] = []
  const contacts: Contact[] = []
  const loads: Load[] = []
  const closing: Graph['closing'][number][] = []
  const boxed = new Map(boxes.flatMap((b) => b.points.map((p) => [p.id, b.id] as const)))
  const { circuit } = report
  for (const k of circuit.cables) {
    if (k.state === 'removed' || k.inside === 'joint') continue
    const closes = k.to.kind !== 'point' && k.from.kind === 'point' && boxed.has(k.from.id)
    for (const c of coresOf(job, report, k)) {
      const end = (e: typeof k.from): number | null =>
        e.kind === 'point' && boxed.has(e.id)
          ? node(nodeOf(boxed.get(e.id)!, `${k.id} ${c.id}`))
          : c.role in sourceOfRole
            ? sources.get(sourceOfRole[c.role]!)!
            : null
      const [a, b] = [end(k.from), end(k.to)]
      if (a === null || b === null) continue
      if (closes) closing.push({ role: c.role, node: a, source: b })
      else fixed.push([a, b])
    }
  }
  for (const box of boxes) {
    const at = (name: string) => node(nodeOf(box.id, name))
    for (const { end, to } of box.bench.ends) if (to !== CAP) fixed.push([at(end), at(to)])
    for (const t of box.bench.tails) fixed.push([at(tailEndName(t.id, 'a')), at(tailEndName(t.id, 'b'))])
    for (const k of box.cables) {
      if (k.circuit === circuit.id) continue
      // Another circuit in this box brings its own sources, unless it takes its power from here.
      if (beginsHere(job, k.circuit, k.point)) continue
      for (const e of k.ends) {
        const s = sourceOfRole[e.conductor.role]
        if (s) fixed.push([at(e.name), s === 'PE' ? sources.get('PE')! : foreign(`${s} of ${k.circuit}`)])
      }
    }
    for (const d of box.devices) addDevice(box, d, at, fixed, contacts, loads)
    for (const own of box.cables) if (own.side === 'load') addAppliance(box, own, at, loads)
  }
  return { nodes, sources, contacts, loads, fixed, closing }
}

function addAppliance(box: Box, own: CableAt, at: (name: string) => number, loads: Load[]): void {
  const core = (...roles: string[]) => own.ends.find((e) => roles.includes(e.conductor.role))?.name
  const [line, other, pe] = [core('line', 'switched-line'), core('neutral') ?? core('line-2'), core('pe')]
  if (line === undefined || other === undefined) return
  loads.push({
    id: `${own.point} appliance`,
    point: own.point,
    name: box.points.find((p) => p.id === own.point)?.name ?? box.name,
    socket: false,
    a: at(line),
    b: at(other),
    earth: pe === undefined ? null : at(pe),
    across: core('line-2') !== undefined,
  })
}

export const beginsHere = (job: Installation, circuit: string, point: string): boolean => {
  const source = job.circuits.find((c) => c.id === circuit)?.source
  return source !== null && source !== undefined && source.kind !== 'board' && source.from === point
}

function addDevice(
  box: Box,
  d: DeviceAt,
  at: (name: string) => number,
  fixed: [number, number][],
  contacts: Contact[],
  loads: Load[],
): void {
  const on = (t: string) => at(terminalName(d.id, t))
  const name = pointOf(box, d)?.name ?? box.name
  const moved = new Map<string, { kind: Contact['kind']; positions: (readonly [number, number])[][] }>()
  const contact = (key: string, kind: Contact['kind'], positions: readonly (readonly (readonly [number, number])[])[]) => {
    const known = moved.get(key) ?? { kind, positions: positions.map(() => []) }
    for (const [i, p] of positions.entries()) known.positions[i]?.push(...p)
    moved.set(key, known)
  }
  const pair = (j: readonly [string, string] | null) => (j ? [[on(j[0]), on(j[1])] as const] : [])
  for (const x of d.kind.inside) {
    if (x.kind === 'joined') fixed.push([on(x.a), on(x.b)])
    else if (x.kind === 'tab') {
      if (!d.broken.includes(x.id)) fixed.push([on(x.a), on(x.b)])
    } else if (x.kind === 'pole') contact(x.by, 'actuator', x.joins.map(pair))
    else if (x.kind === 'numbered') {
      const pairs = d.pairing === undefined ? [] : x.ways[d.pairing]!
      contact(x.by, 'actuator', [[], pairs.map(([a, b]) => [on(a), on(b)] as const)])
    } else if (x.kind === 'residual') contact('residual', 'residual', [[], x.poles.map((p) => [on(p.line), on(p.load)] as const)])
    else if (x.kind === 'fuse') contact('fuse', 'fuse', [[], [[on(x.a), on(x.b)]]])
    else {
      const [a, b] = x.kind === 'socket' ? [x.line, x.other] : [x.a, x.b]
      const earth = x.kind === 'socket' ? x.earth : d.kind.body
      loads.push({
        id: `${box.id} ${d.id} ${x.id}`,
        point: d.point,
        name: x.kind === 'socket' && d.kind.inside.filter((y) => y.kind === 'socket').length > 1 ? `${name}, ${x.name}` : name,
        socket: x.kind === 'socket',
        a: on(a),
        b: on(b),
        earth: earth === null ? null : on(earth),
        across: d.kind.terminals.some((t) => t.id === b && t.takes?.role === 'line-2'),
      })
    }
  }
  for (const [key, { kind, positions }] of moved)
    contacts.push({ key: `${box.id} ${d.id} ${key}`, point: d.point, device: d.id, kind, positions })
}
