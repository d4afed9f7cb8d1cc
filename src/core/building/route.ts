import { z } from 'zod'
import { findingSchema } from '../base/finding'
import { InputError } from '../base/input-error'
import type { Told } from '../base/told'
import { type BuildingInput, buildingInput, placed, type Room, sides } from './house'
import {
  type Adjacency,
  adjacencyOf,
  beyond,
  cheapest,
  cheapestThrough,
  different,
  distance,
  MOST_STATES,
  placeAt,
  type Way,
} from './search'
import { jointNodes, jointSpot, jointSpotSchema } from './breaking'
import { type Label, labelOf, type Taken, takenBy, usualWeights, wallsOf, type WayKind, wayKinds, type Ways, type Weights } from './ways'
import { waysRound } from './ways-of'

const end = z.union([
  z.strictObject({ point: z.string() }),
  z.strictObject({ board: z.string() }),
  z.strictObject({ at: z.tuple([z.number(), z.number(), z.number()]) }),
])
type End = z.output<typeof end>
const placeXyz = z.tuple([z.number(), z.number(), z.number()])
/** Any place along the routes of cables where a joint box may be fitted: the one that is reached at least cost. */
const along = z.strictObject({ along: z.array(z.array(placeXyz).min(2).max(400)).min(1).max(60) })
const weight = z.number().min(0).max(1000)
export const routeInput = z.strictObject({
  building: buildingInput,
  from: end,
  to: z
    .array(z.union([end, along]))
    .min(1)
    .max(7),
  weights: z
    .strictObject({
      minute: weight.default(usualWeights.minute),
      metre: weight.default(usualWeights.metre),
      hole: weight.default(usualWeights.hole),
      opening: weight.default(usualWeights.opening),
      hot: weight.min(1).default(usualWeights.hot),
      cramped: weight.min(1).default(usualWeights.cramped),
      second: weight.default(usualWeights.second),
      outage: weight.default(usualWeights.outage),
    })
    .default(usualWeights),
  /** Elements by their id (`stud kitchen north`), all of a kind (`stud`), or all in one place (`kitchen north`, `attic`). */
  forbid: z.array(z.string().max(200)).max(500).default([]),
  /** Elements, by the same names, of which the way takes at least one each. */
  force: z.array(z.string().max(200)).max(4).default([]),
  alternatives: z.int().min(1).max(5).default(3),
  graph: z.boolean().default(false),
})

const elementSchema = z.strictObject({
  kind: z.enum(wayKinds),
  id: z.string(),
  where: z.string(),
  /** The room and the side of it that the place is of, and the room or the side beyond; null where it is of none. */
  room: z.string().nullable(),
  side: z.enum(sides).nullable(),
  beyond: z.string().nullable(),
  lengthM: z.number(),
  minutes: z.number(),
  holes: z.int(),
  openings: z.int(),
  from: z.tuple([z.number(), z.number(), z.number()]),
  to: z.tuple([z.number(), z.number(), z.number()]),
  /** Places it turns at, from its beginning to its end. */
  path: z.array(z.tuple([z.number(), z.number(), z.number()])),
})
const routeSchema = z.strictObject({
  cost: z.number(),
  minutes: z.number(),
  lengthM: z.number(),
  pieces: z.array(z.strictObject({ cable: z.string(), lengthM: z.number() })),
  elements: z.array(elementSchema),
  holes: z.int(),
  openings: z.int(),
  findings: z.array(findingSchema),
  /** Where the joint box is, of a way that ends in a cable. */
  joint: jointSpotSchema.optional(),
})
export const routeOutput = z.strictObject({
  routes: z.array(routeSchema),
  findings: z.array(findingSchema),
  graph: z
    .strictObject({
      nodes: z.array(z.tuple([z.number(), z.number(), z.number()])),
      edges: z.array(z.tuple([z.number(), z.number(), z.number(), z.string()])),
      from: z.number(),
      to: z.array(z.number()),
    })
    .optional(),
})
type Input = z.output<typeof routeInput>
type Output = z.output<typeof routeOutput>
export type Route = Output['routes'][number]

interface Built {
  readonly key: string
  readonly round: string
  readonly rooms: readonly Room[]
  readonly waysAbout: ReturnType<typeof waysRound>
  readonly ways: Ways
  readonly near: Adjacency
}
let last: Built | null = null
/**
 * All ways of a building. The one asked about last is kept: where one leads, and what is forbidden, changes nothing of it, and an obstacle
 * only the space that it is in.
 */
function graphOf(building: BuildingInput, weights: Weights): Built {
  const { obstacles, ...made } = building
  const key = JSON.stringify([made, weights])
  const round = JSON.stringify(obstacles)
  if (last?.key === key && last.round === round) return last
  const same = last?.key === key ? last : null
  const rooms = same?.rooms ?? placed(building)
  const waysAbout = same?.waysAbout ?? waysRound(building, rooms, weights)
  const ways = waysAbout(obstacles)
  return (last = { key, round, rooms, waysAbout, ways, near: adjacencyOf(ways) })
}

interface Targets {
  readonly to: readonly number[]
  /** What each is called. */
  readonly names: readonly string[]
  /** Whether any one of them will do. */
  readonly breaks: boolean
}
function targetsOf(input: Input, ways: Ways, near: Adjacency, rooms: readonly Room[], from: number): Targets {
  const [first] = input.to
  if (first && 'along' in first && input.to.length === 1) {
    const to = jointNodes(ways, near, first.along).filter((n) => n !== from)
    if (to.length === 0) throw new InputError('to.0.along', 'No place along this cable bears a joint box that stays in reach.')
    return { to, names: to.map(() => 'the cable'), breaks: true }
  }
  const points = input.to.map((t, i) => {
    if ('along' in t) throw new InputError(`to.${i}.along`, 'A cable is broken into for one route at a time.')
    return t
  })
  return {
    to: points.map((t, i) => nodeOf(ways, t, `to.${i}`)),
    names: points.map((t, i) => ('point' in t ? t.point : 'board' in t ? t.board : `place ${i + 1}`)),
    breaks: false,
  }
}

/** What is cut longer than the way: for work on it, for a loop by the box, and for what is made up at each end. */
const SLACK_PART = 0.1
const LOOP_M = 0.3
const TAIL_M = 0.25

/**
 * The cheapest way through a building and others that are truly different, best first; through several points in their best order.
 * @throws InputError at `building`, `from`, `to`, `to.N`, `forbid.N` or `force.N`
 */
export function route(input: Input): Output {
  const { rooms, ways, near } = graphOf(input.building, input.weights)
  const from = nodeOf(ways, input.from, 'from')
  const { to, names, breaks } = targetsOf(input, ways, near, rooms, from)
  namesKnown(ways, input.forbid)
  const allowed = allowedBut(ways, input.forbid)
  const sets = forcedSets(ways, input.force)
  const plain = input.to.length === 1 && sets.length === 0
  if (breaks && !plain) throw new InputError('force', 'Where a cable is broken into no place is forced.')
  if (!plain && ways.nodes * 2 ** (to.length + sets.length) > MOST_STATES)
    throw new InputError('to', 'Too many places for one search in a building of this size: ask for fewer at a time.')
  const walk = plain ? null : cheapestThrough(ways, near, from, to, sets, allowed)
  const found = plain ? different(ways, near, from, new Set(to), input.alternatives - 1, allowed, placesOf(ways)) : walk ? [walk] : []
  const graph = input.graph
    ? { graph: { nodes: Array.from({ length: ways.nodes }, (_, n) => placeAt(ways, n)), edges: edgesShown(ways), from, to: [...to] } }
    : {}
  if (found.length === 0) return { routes: [], findings: [noWay(ways, near, from, to, input.forbid)], ...graph }
  const routes = found.map((w) => told(ways, straightened(ways, near, w, from, allowed), from, to, names))
  const joint = (r: Route) => (breaks ? jointSpot(ways, rooms, r.elements.at(-1)!.to) : null)
  return { routes: routes.map((r) => ({ ...r, ...(joint(r) ? { joint: joint(r)! } : {}) })), findings: [], ...graph }
}

export type WaysAsked = z.input<typeof routeInput>
export type WaysFound = Output | { readonly wrong: string }
/** The ways of one cable, or in words why none could be asked for. */
function waysAsked(asked: WaysAsked): WaysFound {
  try {
    return route(routeInput.parse(asked))
  } catch (e) {
    if (e instanceof InputError) return { wrong: e.message }
    if (e instanceof z.ZodError) return { wrong: 'So large a building is not searched: at most 60 rooms, 400 openings and 400 points.' }
    throw e
  }
}

/** What the best way between two places of a building takes, with the cable that is cut for it. */
export interface Reached {
  readonly cutM: number
  readonly minutes: number
  readonly holes: number
  readonly openings: number
}
export const cutFor = (lengthM: number): number => lengthM * (1 + SLACK_PART) + LOOP_M + 2 * TAIL_M

/** The best way from one place to each of several, by their ids; of those without a place, or not reached, none. */
export function bestTo(building: BuildingInput, weights: Weights, forbid: readonly string[], from: string, to: readonly string[]) {
  const { ways, near } = graphOf(building, weights)
  const allowed = allowedBut(ways, forbid)
  const start = ways.of.get(from)
  const costOf = (i: number) => (allowed(i) ? ways.cost[i]! : Number.POSITIVE_INFINITY)
  return new Map(
    to.flatMap((id): [string, Reached][] => {
      const end = ways.of.get(id)
      const way = start === undefined || end === undefined ? null : cheapest(ways, near, start, new Set([end]), costOf)
      if (!way || !Number.isFinite(way.cost)) return []
      const taken = way.edges.map((i) => takenBy(ways, i))
      const sum = (of: keyof Taken) => taken.reduce((total, t) => total + t[of], 0)
      return [[id, { cutM: cutFor(sum('lengthM')), minutes: sum('minutes'), holes: sum('holes'), openings: sum('openings') }]]
    }),
  )
}

/** The ways of each of several cables. */
export const waysOfAll = (asked: readonly WaysAsked[], told?: Told): readonly WaysFound[] =>
  asked.map((a, i) => {
    const found = waysAsked(a)
    told?.((i + 1) / asked.length)
    return found
  })

const placeName = ({ kind, where }: Label): string => `${kind} ${where.name}`
const edgesShown = (ways: Ways) =>
  Array.from({ length: ways.edges }, (_, i): [number, number, number, string] => [
    ways.a[i]!,
    ways.b[i]!,
    ways.cost[i]!,
    labelOf(ways, i).kind,
  ])
const named = (e: Label, names: ReadonlySet<string>): boolean =>
  names.size > 0 && (names.has(placeName(e)) || names.has(e.kind) || names.has(e.where.name) || (e.into !== null && names.has(e.into)))
/** Whether a name names what the label does: a wall that is forbidden is not bored through by a partition, a corner or a storey either. */
const forbidden = (e: Label, names: ReadonlySet<string>): boolean =>
  named(e, names) || (names.size > 0 && wallsOf(e.kind, e.where).some((wall) => names.has(wall)))
/** Which edges are none of those named. */
function allowedBut({ labels, label }: Ways, names: readonly string[]): (edge: number) => boolean {
  const barred = new Set(names)
  const open = Uint8Array.from(labels, (l) => (forbidden(l, barred) ? 0 : 1))
  return (edge) => open[label[edge]!] === 1
}
/** Of which place each edge is, those of one name together. */
function placesOf({ labels, label }: Ways): (edge: number) => number {
  const names = labels.map(placeName)
  const first = Int32Array.from(names, (name) => names.indexOf(name))
  return (edge) => first[label[edge]!]!
}

/** A name that names nothing would forbid nothing, unseen; a kind of way that this building lacks may be forbidden. */
function namesKnown(ways: Ways, forbid: readonly string[]): void {
  for (const [i, name] of forbid.entries()) {
    const one = new Set([name])
    if (!(wayKinds as readonly string[]).includes(name) && !ways.labels.some((l) => forbidden(l, one)))
      throw new InputError(`forbid.${i}`, `Nothing here is called ${name}.`)
  }
}

function nodeOf(ways: Ways, at: End, path: string): number {
  if ('at' in at) {
    let [best, least] = [-1, Number.POSITIVE_INFINITY]
    for (let n = 0; n < ways.nodes; n++) {
      const far = distance(placeAt(ways, n), at.at)
      if (far < least) [best, least] = [n, far]
    }
    if (best < 0) throw new InputError(path, 'There is nothing to begin from.')
    return best
  }
  const id = 'point' in at ? at.point : at.board
  const node = ways.of.get(id)
  if (node === undefined) throw new InputError(path, `${id} is at no wall of this building.`)
  return node
}

/** For each thing that is forced, the edges it names. */
function forcedSets(ways: Ways, force: readonly string[]): ReadonlySet<number>[] {
  return force.map((name, i) => {
    const names = new Set([name])
    const those = new Set(ways.labels.flatMap((l, at) => (named(l, names) ? [at] : [])))
    const edges = new Set(Array.from(ways.label.keys()).filter((edge) => those.has(ways.label[edge]!)))
    if (edges.size === 0) throw new InputError(`force.${i}`, `Nothing here is called ${name}.`)
    return edges
  })
}

/** What bars the way: whether it is what was forbidden, or the building itself. */
function noWay(ways: Ways, near: Adjacency, from: number, to: readonly number[], forbid: readonly string[]) {
  const open = to.every((t) => cheapest(ways, near, from, new Set([t])) !== null)
  const barred = [from, ...to].some((n) => near.from[n] === near.from[n + 1])
  const message = open
    ? `No route is possible with these forbidden: ${forbid.join(', ')}. Allow one of them, or open a surface.`
    : barred
      ? 'No route can reach one of the ends: it is in a door, a window or something else that takes up the wall from floor to ceiling. ' +
        'Put it where there is wall, or measure how high that goes.'
      : 'Nothing joins these places as the building was entered: a wall between rooms, an attic or a crawl space is missing from it.'
  return { rule: 'no-way', severity: 'error' as const, clause: 'As the building was entered', message }
}

/** How an edge continues from a node, to the millimetre. */
function strideOf(ways: Ways, i: number, at: number): { readonly next: number; readonly key: string } {
  const next = beyond(ways, i, at)
  const [p, q] = [placeAt(ways, at), placeAt(ways, next)]
  return { next, key: [0, 1, 2].map((k) => Math.round((q[k]! - p[k]!) * 1000)).join(' ') }
}

/**
 * Across an attic or a crawl space many walks cost the same: the strides of each stretch of such a walk are taken kind by kind, so that it
 * turns as seldom as may be, where every stride is there to be taken.
 */
function straightened(ways: Ways, near: Adjacency, way: Way, from: number, allowed: (i: number) => boolean): Way {
  const out: number[] = []
  let at = from
  for (let k = 0; k < way.edges.length;) {
    const { kind } = labelOf(ways, way.edges[k]!)
    let end = k
    const strides: string[] = []
    let far = at
    while (end < way.edges.length && labelOf(ways, way.edges[end]!).kind === kind) {
      const { next, key } = strideOf(ways, way.edges[end]!, far)
      strides.push(key)
      far = next
      end++
    }
    const walked = way.edges.slice(k, end)
    out.push(
      ...((kind === 'attic' || kind === 'crawl') && strides.length > 2
        ? (sorted(ways, near, at, strides, kind, allowed) ?? walked)
        : walked),
    )
    at = far
    k = end
  }
  return { edges: out, cost: way.cost }
}
/** The same strides, those of one kind after each other, as edges; null where one of them is not there. */
function sorted(
  ways: Ways,
  near: Adjacency,
  from: number,
  strides: readonly string[],
  kind: WayKind,
  allowed: (i: number) => boolean,
): number[] | null {
  const kinds = [...new Set(strides)].toSorted((p, q) => strides.filter((s) => s === q).length - strides.filter((s) => s === p).length)
  const out: number[] = []
  let at = from
  for (const key of kinds.flatMap((s) => strides.filter((x) => x === s))) {
    let found = -1
    for (let n = near.from[at]!; n < near.from[at + 1]! && found < 0; n++) {
      const i = near.edge[n]!
      if (labelOf(ways, i).kind === kind && allowed(i) && strideOf(ways, i, at).key === key) found = i
    }
    if (found < 0) return null
    out.push(found)
    at = strideOf(ways, found, at).next
  }
  return out
}

/** A way as its elements, those of one kind in one place together. */
function told(ways: Ways, way: Way, from: number, to: readonly number[], names: readonly string[]): Route {
  const elements: Route['elements'] = []
  const pieces: Route['pieces'] = []
  let at = from
  let piece = 0
  const left = new Set(to)
  for (const i of way.edges) {
    const label = labelOf(ways, i)
    const { kind, where } = label
    const { lengthM, minutes, holes, openings } = takenBy(ways, i)
    const next = beyond(ways, i, at)
    const last = elements.at(-1)
    if (last && last.kind === kind && last.where === where.name) {
      last.lengthM += lengthM
      last.minutes += minutes
      last.holes += holes
      last.openings += openings
      last.to = placeAt(ways, next)
      onwards(last.path, last.to)
    } else
      elements.push({
        kind,
        id: placeName(label),
        where: where.name,
        room: where.room,
        side: where.side,
        beyond: where.beyond,
        lengthM,
        minutes,
        holes,
        openings,
        from: placeAt(ways, at),
        to: placeAt(ways, next),
        path: [placeAt(ways, at), placeAt(ways, next)],
      })
    piece += lengthM
    at = next
    if (!left.has(at)) continue
    left.delete(at)
    pieces.push({ cable: `to ${names[to.indexOf(at)]!}`, lengthM: cutFor(piece) })
    piece = 0
  }
  const sum = (of: 'lengthM' | 'minutes' | 'holes' | 'openings') => elements.reduce((total, e) => total + e[of], 0)
  return {
    cost: way.cost,
    minutes: sum('minutes'),
    lengthM: sum('lengthM'),
    pieces,
    elements,
    holes: sum('holes'),
    openings: sum('openings'),
    findings: elements.flatMap(cautionsOf),
  }
}

type Place = Route['elements'][number]['from']
/** One place more of a path; where it goes straight on, the last one is moved. */
function onwards(path: Place[], to: Place): void {
  const [before, last] = [path.at(-2), path.at(-1)!]
  const straight = before !== undefined && Math.abs(distance(before, last) + distance(last, to) - distance(before, to)) < 1e-9
  if (straight) path[path.length - 1] = to
  else path.push(to)
}

const cautions: Partial<Record<WayKind, { readonly rule: string; readonly message: string; readonly clause: string }>> = {
  'top-plates': {
    rule: 'both-plates',
    clause: '300.4(A); 522.6; SANS 10142-1 protection against mechanical damage',
    message:
      'Bore both top plates in one line, in the middle of the timber, over a bay that holds the cut-out too: measure it above and below.',
  },
  attic: {
    rule: 'attic-work',
    clause: '334.23; 522.6',
    message: 'Tread on joists only. Insulation, heat and nails: mask, gloves, light, and somebody who knows you are up there.',
  },
  stud: {
    rule: 'bore-studs',
    clause: '300.4(A)(1); 522.6',
    message: 'Each stud is bored in its middle, or plated where the hole is near its face. The lining is opened and made good.',
  },
  surface: {
    rule: 'on-the-face',
    clause: '300.4; 522.6.202',
    message: 'On the face of the wall in conduit or trunking, where it is seen and may be struck.',
  },
}
const cautionsOf = ({ kind }: Route['elements'][number], i: number, all: Route['elements']) => {
  const caution = cautions[kind as WayKind]
  return caution && all.findIndex((e) => e.kind === kind) === i ? [{ severity: 'note' as const, ...caution }] : []
}
