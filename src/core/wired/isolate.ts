import type { Installation } from '../installation/installation'
import { magnitude, subtract } from '../network/complex'
import { atSource, solution } from '../network/network'
import { tailEndName, terminalName } from '../job/bench'
import { boxPoints } from '../build/box'
import type { Worked } from '../build/cores'
import { foundNode } from './found'
import { bothWays, type House } from './house'
import { nodeOf, type Switching } from './laid'
import { LIVE_V } from './live'
import { closedWays, reachedFrom } from './reach'

/** Where hands go: boxes that are opened, by their point, and boards whose covers come off. */
export interface WorkPlaces {
  readonly points: readonly string[]
  readonly boards: readonly string[]
}

/** What makes places of work dead, as the solved wiring tells it. */
export interface Isolating {
  /** Devices that together leave nothing alive there, of which none can stay closed; null: not even all of them do. */
  readonly opens: readonly Switching[] | null
  /** Points that lose power, those worked at too, by their id. */
  readonly loses: readonly string[]
  /** Points worked at that are not in the wiring: of them nothing is said. */
  readonly missing: readonly string[]
  /** Points that are there whose feed is not known. */
  readonly untraced: readonly string[]
  /** Ways of the boards by their id, and the main switch: opened, dead because something before them is, or alive all the same. */
  readonly ways: ReadonlyMap<string, 'opened' | 'dead' | 'live'>
}

const reference = 'PE'
/**
 * The places of a wiring that are alive with some of its devices open: those that are at a voltage, and those that conductors lead to
 * from a line or another source, whatever voltage a short may leave there.
 */
export function aliveIn({ input, sources }: House, open: readonly string[]): (node: string) => boolean {
  const { live, nodes } = solution({ ...input, state: { open: [...open] } })
  const joined = reachedFrom(input.elements, open, [...linesOf(input), ...sources], closedWays)
  const stands = (node: string): boolean => magnitude(subtract(live.voltsAt(node), live.voltsAt(reference))) > LIVE_V
  return (node) => joined.has(node) || (nodes.has(node) && atSource(live, node) && stands(node))
}
const linesOf = ({ supply }: House['input']): readonly string[] => (supply.system === 'split-phase' ? ['L1', 'L2'] : ['L'])

/** Every point that is in a box, whether a circuit of the job wires it or not. */
const standIn = (b: House['boxes'][number]): readonly string[] => [...b.points.map((p) => p.id), ...b.besides]
/** A person who opens a box for one point has all that is in it in front of them. */
const openedWith = ({ boxes }: House, { points, boards }: WorkPlaces): WorkPlaces => ({
  points: [...new Set([...points, ...boxes.map(standIn).flatMap((ids) => (ids.some((p) => points.includes(p)) ? ids : []))])],
  boards,
})

/** Every place that a hand can touch in what is opened. */
function touched({ boxes, found, input }: House, { points, boards }: WorkPlaces): readonly string[] {
  const inBoxes = boxes
    .filter((b) => standIn(b).some((p) => points.includes(p)))
    .flatMap((b) =>
      [
        ...b.cables.flatMap((k) => k.ends.map((e) => e.name)),
        ...b.bench.tails.flatMap((t) => (['a', 'b'] as const).map((side) => tailEndName(t.id, side))),
        ...b.devices.flatMap((d) => d.kind.terminals.map((t) => terminalName(d.id, t.id))),
      ].map((name) => nodeOf(b.id, name)),
    )
  const asFound = found.points
    .filter((p) => points.includes(p.point))
    .flatMap((p) => (['line', 'other'] as const).map((side) => foundNode(p.point, side)))
  return [...inBoxes, ...asFound, ...boards.flatMap((b) => linesOf(input).map((l) => `${b}|${l}`))]
}

/**
 * The devices of the boards that make places of work dead and no more: from all of them open, each is closed again that can be, those that
 * feed most first. Nothing of it is a proof: it says what to switch off, and what to look for; a tester proves.
 */
export function isolating(job: Installation, circuits: readonly Worked[], asked: WorkPlaces): Isolating {
  const houses = bothWays(job, circuits)
  const [house] = houses as [House]
  const places = openedWith(house, asked)
  const targets = touched(house, places)
  // What is in a box guards what is beyond it, and is no place to isolate.
  const devices = house.switching.filter((s) => s.point === undefined)
  const dead = (open: readonly string[]): boolean => {
    const alive = houses.map((h) => aliveIn(h, open))
    return !targets.some((t) => alive.some((is) => is(t)))
  }
  const known = new Set([...house.boxes.flatMap((b) => b.points.map((p) => p.id)), ...house.found.points.map((p) => p.point)])
  const missing = places.points.filter((p) => !known.has(p))
  const untraced = house.found.untraced.map((p) => p.id)
  const all = devices.map((s) => s.element)
  if (targets.length === 0 || !dead(all)) return { opens: null, loses: [], missing, untraced, ways: new Map() }
  const rank = { main: 0, residual: 1, breaker: 2 }
  let open: readonly string[] = all
  for (const s of devices.toSorted((a, b) => rank[a.kind] - rank[b.kind])) {
    const without = open.filter((o) => o !== s.element)
    if (dead(without)) open = without
  }
  const [before, after] = [aliveIn(house, []), aliveIn(house, open)]
  const outlets = house.outlets.filter((o) => before(o.line) && !after(o.line)).map((o) => o.point)
  const found = house.found.points.filter((p) => before(p.line) && !after(p.line)).map((p) => p.point)
  return {
    opens: devices.filter((s) => open.includes(s.element)),
    loses: [...new Set([...outlets, ...found])],
    missing,
    untraced,
    ways: new Map(
      devices.flatMap((s) =>
        (s.kind === 'main' ? [s.element] : (s.ways ?? [])).map(
          (way) => [way, open.includes(s.element) ? 'opened' : s.load && after(s.load) ? 'live' : 'dead'] as const,
        ),
      ),
    ),
  }
}

/** The boxes that work on a circuit opens: its own, and the one it begins at where that is a point. */
export function boxesOpened(report: Worked): readonly string[] {
  const own = boxPoints(report).map((p) => p.id)
  const begins = report.circuit.cables.flatMap((k) => (k.from.kind === 'point' ? [k.from.id] : []))
  return [...new Set([...own, ...begins])]
}
