import type { Accessory } from '../catalogue/accessories'
import { device, type DeviceKind } from '../catalogue/devices'
import { singleCores } from '../design/conditions'
import { guardsDownstream } from '../design/guards'
import { fittedAt, systemOf } from '../design/endings'
import type { Circuit, Design } from '../installation/installation'
import { grouped } from '../base/grouped'
import { once, remembered } from '../base/memory'
import type { Cable } from '../job/cable'
import type { PlacedPoint } from '../job/point'
import {
  cableConductors,
  type CircuitSystem,
  type Conductor,
  type ConductorRole,
  markOf,
  drawnInConductors,
  meaningOf,
  threeCores,
} from '../region/colours'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'

/*
 * What each core of a circuit has to carry. The request says which accessory is at which point and which switch controls what; from that
 * follows, cable by cable, which potentials must reach its far end: the line, the neutral, a switched line, a pair of travellers. Each is
 * carried along the tree of cables from where it is made to wherever it is used, and given a core by its colour.
 */

/** A potential that a core carries, by name: `pe`, `neutral`, `line`, `line-2`, `switched SET`, `traveller SET N M`. */
export type Signal = string
export const switchedBy = (set: string): Signal => `switched ${set}`
const traveller = (set: string, leg: number, n: 1 | 2): Signal => `traveller ${set} ${leg} ${n}`
export const isSwitched = (s: Signal): boolean => s.startsWith('switched ')

/** What a core is for, by the potential that it carries. */
const roleOf = (s: Signal): ConductorRole =>
  isSwitched(s) ? 'switched-line' : s.startsWith('traveller ') ? 'traveller' : (s as ConductorRole)

/** A core of a cable with what it carries; none: it is spare. */
export interface Carried extends Conductor {
  readonly signal: Signal | null
}
/** A cable of the circuit with its cores, and what it should carry besides and has no core for. */
export interface CarryingCable {
  readonly cores: readonly Carried[]
  readonly lacking: readonly Signal[]
}

/** Switches that turn the same loads on and off: one, or a two-way or multi-way set from the feed outward. */
export interface SwitchSet {
  readonly id: string
  readonly switches: readonly string[]
  /** Points that it turns on and off; the appliance of a switch's own point is named by that point. */
  readonly loads: readonly string[]
}

/** A point of a circuit and what its box has to do. */
export interface Place {
  readonly point: PlacedPoint
  readonly fitted: Accessory | undefined
  readonly kind: DeviceKind | null
  /** A fused connection unit before what is here, where the point is fed through a fuse and its accessory is none. */
  readonly fused: boolean
  readonly feed: Cable | null
  readonly onward: readonly Cable[]
  /** In the loop of a ring, which passes here undivided. */
  readonly inLoop: boolean
  /** Cables that leave here for the next point of the loop. */
  readonly loop: ReadonlySet<string>
  /** The line as it arrives, and as it continues to the points beyond. */
  readonly lineIn: Signal
  readonly lineOut: Signal
  /** The line that what is here runs from: switched, where a switch elsewhere controls it; a fan and a light may have one each. */
  readonly line: Signal
  readonly second: Signal
  /** The switched line of what is beyond, where a three-pole isolator is here for it to pass through. */
  readonly through: Signal | null
  /** What leaves the switch or thermostat that is here. */
  readonly out: Signal | null
  /** It makes a switched line of the line. */
  readonly switches: boolean
  /** Points beyond are fed through the device that is here: behind its contacts, its fuse or its residual device. */
  readonly behind: boolean
  /** A cord or cable goes from here to the appliance of this point. */
  readonly appliance: boolean
}

export interface CircuitPlan {
  readonly system: CircuitSystem
  readonly places: ReadonlyMap<string, Place>
  readonly cables: ReadonlyMap<string, CarryingCable>
  readonly sets: readonly SwitchSet[]
  /** Signal of a terminal of a multi-way switch, by point and terminal. */
  readonly ways: ReadonlyMap<string, Signal>
}

/** A circuit with the design that was chosen for it. */
export interface Designed {
  readonly circuit: Circuit
  readonly chosen: { readonly design: Design }
  readonly ends: readonly { readonly fitted: Accessory | undefined }[]
}

/** The points of a circuit that have a box. */
export const boxPoints = ({ circuit }: { readonly circuit: Circuit }): readonly PlacedPoint[] =>
  circuit.points.length ? circuit.points : circuit.kind !== 'feeder' && circuit.end ? [circuit.end] : []

const isMultiWay = (kind: DeviceKind | null): 'two-way' | 'intermediate' | null =>
  kind?.pattern === 'two-way' || kind?.pattern === 'intermediate' ? kind.pattern : null
const noRoles: ReadonlySet<ConductorRole> = new Set()
const passing = once((kind: DeviceKind): ReadonlySet<ConductorRole> => {
  const side = (cable: 'feed' | 'load') => new Set(kind.terminals.flatMap((t) => (t.takes?.cable === cable ? [t.takes.role] : [])))
  const feed = side('feed')
  return new Set([...side('load')].filter((r) => r !== 'pe' && feed.has(r)))
})
/** Roles that enter at a feed terminal of a device and leave at a load terminal. */
export const passedThrough = (kind: DeviceKind | null): ReadonlySet<ConductorRole> => (kind ? passing(kind) : noRoles)
const makesSwitched = (kind: DeviceKind | null): boolean =>
  !passedThrough(kind).has('switched-line') &&
  (kind?.terminals.some((t) => t.takes?.cable === 'load' && t.takes.role === 'switched-line') ?? false)

/** The tree of cables of a circuit. */
interface Tree {
  readonly order: readonly PlacedPoint[]
  readonly feed: ReadonlyMap<string, Cable>
  readonly onward: ReadonlyMap<string, readonly Cable[]>
  readonly parent: ReadonlyMap<string, string | null>
}
function treeOf(circuit: Circuit, points: readonly PlacedPoint[]): Tree {
  const known = new Map(points.map((p) => [p.id, p]))
  const cables = circuit.cables.filter((k) => k.state !== 'removed')
  const onward = new Map<string, Cable[]>()
  const feed = new Map<string, Cable>()
  const parent = new Map<string, string | null>()
  const order: PlacedPoint[] = []
  for (const k of cables) if (k.from.kind === 'point' && known.has(k.from.id)) onward.set(k.from.id, [...(onward.get(k.from.id) ?? []), k])
  const reach = (k: Cable, from: string | null): void => {
    const point = k.to.kind === 'point' ? known.get(k.to.id) : undefined
    if (!point || feed.has(point.id)) return
    feed.set(point.id, k)
    parent.set(point.id, from)
    order.push(point)
    for (const next of onward.get(point.id) ?? []) reach(next, point.id)
  }
  for (const k of cables) if (k.from.kind !== 'point' || !known.has(k.from.id)) reach(k, null)
  return { order, feed, onward, parent }
}

const plans = remembered<Circuit, CircuitPlan>()
/** Of a circuit as it was worked out: asked for at every cable and every box of it. */
const ofReport = new WeakMap<Designed['chosen'], CircuitPlan>()
/** What each conductor of a circuit carries, and what each of its boxes has to do. Pure; kept while circuit and design are the same. */
export function planOf(region: RegionId, { circuit, chosen, ends }: Designed): CircuitPlan {
  const known = ofReport.get(chosen)
  if (known) return known
  const { design } = chosen
  const system = systemOf(region, circuit, ends)
  const plan = plans(circuit, [region, design.accessory, design.cable, design.residual.at, system], () =>
    workOut(region, circuit, design, system),
  )
  ofReport.set(chosen, plan)
  return plan
}

function workOut(region: RegionId, circuit: Circuit, design: Design, system: CircuitSystem): CircuitPlan {
  const points = boxPoints({ circuit })
  const tree = treeOf(circuit, points)
  const loop = new Set(circuit.kind === 'ring' ? circuit.points.filter((p) => p.from === null).map((p) => p.id) : [])
  const drafts = tree.order.map((point) => draftOf(region, circuit, design, point, tree, loop))
  const sets = setsOf(drafts, tree)
  const places = linesOf(drafts, tree, sets, system)
  const ways = new Map<string, Signal>()
  const signals = signalsOf(region, circuit, places, tree, sets, ways, system)
  const cables = new Map<string, CarryingCable>()
  for (const k of circuit.cables)
    if (k.state !== 'removed')
      cables.set(
        k.id,
        k.inside === 'joint'
          ? unlaid
          : singleCores.includes(k.type ?? design.cable)
            ? drawnIn(region, signals.get(k.id)?.must ?? mainsOf(system))
            : coresFor(region, circuit.colours, k.cores, system, signals.get(k.id) ?? { must: mainsOf(system), may: [] }),
      )
  return { system, places, cables, sets, ways }
}

/** What feeds one accessory from another in the same box has no cores of its own: their terminals are joined. */
const unlaid: CarryingCable = { cores: [], lacking: [] }

/** The potentials that a circuit of a make-up is fed with. */
export const mainsOf = (system: CircuitSystem): readonly Signal[] =>
  system === 'line-neutral' ? ['line', 'neutral'] : system === 'line-line' ? ['line', 'line-2'] : ['line', 'line-2', 'neutral']

interface Draft extends Omit<Place, 'lineIn' | 'lineOut' | 'line' | 'second' | 'through' | 'out'> {
  readonly multiWay: 'two-way' | 'intermediate' | null
}
function draftOf(region: RegionId, circuit: Circuit, design: Design, point: PlacedPoint, tree: Tree, loop: ReadonlySet<string>): Draft {
  const fitted = fittedAt(design, point)
  const kind = fitted ? (device(fitted.id) ?? null) : null
  const onward = tree.onward.get(point.id) ?? []
  const inLoop = loop.has(point.id)
  const multiWay = isMultiWay(kind)
  const switches = makesSwitched(kind)
  const controls = (point.controls?.length ?? 0) > 0
  const unit = fitted?.kind === 'connection-unit'
  const guards =
    fitted?.residual === true &&
    guardsDownstream(circuit) &&
    (point.guardsOn || (design.residual.at === 'first' && circuit.points[0]?.id === point.id))
  const series = passedThrough(kind).size > 0
  const leads = fitted?.onward === 'cord' || fitted?.onward === 'cable'
  const drawn = (point.watts ?? 0) > 0 && point.kind !== 'switch'
  return {
    point,
    fitted,
    kind,
    multiWay,
    switches,
    fused: point.fuseA !== null && !unit && worlds[region].fusedUnits,
    feed: tree.feed.get(point.id) ?? null,
    onward,
    inLoop,
    loop: new Set(inLoop ? onward.filter((k) => k.to.kind !== 'point' || loop.has(k.to.id)).map((k) => k.id) : []),
    behind:
      !inLoop &&
      (unit ? point.fuseA !== null || guards : fitted?.onward === 'optional-cable' ? guards : switches ? !controls : series && leads),
    appliance:
      leads &&
      multiWay === null &&
      !(point.box.bench && onward.length > 0 && !point.box.bench.ends.some((e) => e.end.startsWith(`load-${point.id} `))) &&
      (onward.length === 0 ? !controls && !(point.kind === 'switch' && lightBefore(point, tree)) : drawn),
  }
}

/** The light that feeds a switch at the end of a leg. */
function lightBefore(point: PlacedPoint, { parent, order }: Tree): PlacedPoint | null {
  for (let at = parent.get(point.id) ?? null; at !== null; at = parent.get(at) ?? null) {
    const before = order.find((p) => p.id === at)
    if (before?.kind === 'light') return before
  }
  return null
}

/** Which switches control what: as it was said, or else as the tree of cables has it. */
function setsOf(drafts: readonly Draft[], tree: Tree): readonly SwitchSet[] {
  const known = new Set(drafts.map((d) => d.point.id))
  const said = (d: Draft) => (d.point.controls?.length ? d.point.controls.filter((id) => known.has(id)) : null)
  const taken = new Set(drafts.flatMap((d) => said(d) ?? []))
  const single: SwitchSet[] = drafts
    .filter((d) => d.switches)
    .map((d) => {
      const own = d.appliance ? [d.point.id] : []
      const chosen = said(d)
      if (chosen) return { id: d.point.id, switches: [d.point.id], loads: [...chosen, ...own] }
      const before = d.onward.length === 0 && !d.appliance ? lightBefore(d.point, tree) : null
      return { id: d.point.id, switches: [d.point.id], loads: before ? [before.id] : own }
    })
  for (const s of single) for (const l of s.loads) taken.add(l)
  const several = drafts.filter((d) => d.multiWay !== null)
  const groups = new Map<string, Draft[]>()
  for (const d of several) {
    const key = (said(d) ?? []).toSorted().join(' ')
    groups.set(key, [...(groups.get(key) ?? []), d])
  }
  const multi = [...groups.values()].map((of): SwitchSet => {
    const first = of.find((d) => d.multiWay === 'two-way')
    const chosen = of.flatMap((d) => said(d) ?? [])
    const lights = drafts.filter((d) => d.point.kind === 'light' && d.multiWay === null && !d.switches && !taken.has(d.point.id))
    const loads = chosen.length ? [...new Set(chosen)] : lights.map((d) => d.point.id)
    return { id: (first ?? of[0]!).point.id, switches: inLine(of, tree).map((d) => d.point.id), loads }
  })
  return [...single, ...multi]
}

/** A set of switches from the feed outward: a two-way at each end, the intermediates between them by their place along the cables. */
function inLine(of: readonly Draft[], { order }: Tree): readonly Draft[] {
  const at = (d: Draft) => order.findIndex((p) => p.id === d.point.id)
  const ends = of.filter((d) => d.multiWay === 'two-way').toSorted((a, b) => at(a) - at(b))
  const between = of.filter((d) => d.multiWay === 'intermediate').toSorted((a, b) => at(a) - at(b))
  return [...ends.slice(0, 1), ...between, ...ends.slice(1)]
}

/** The line that arrives at each place and continues from it, and the one its load runs from. */
function linesOf(drafts: readonly Draft[], tree: Tree, sets: readonly SwitchSet[], system: CircuitSystem): ReadonlyMap<string, Place> {
  const by = grouped(
    sets.flatMap((s) => s.loads.flatMap((load) => (s.switches.includes(load) ? [] : [{ load, set: s.id }]))),
    (x) => x.load,
  )
  const places = new Map<string, Place>()
  const beyond = (id: string): readonly string[] =>
    (tree.onward.get(id) ?? []).flatMap((k) => (k.to.kind === 'point' ? [k.to.id, ...beyond(k.to.id)] : []))
  for (const d of drafts) {
    const before = tree.parent.get(d.point.id)
    const arrives = before == null ? 'line' : places.get(before)!.lineOut
    // A second line is there only where the circuit has two.
    const onB = d.point.leg === 'B' && system === 'line-line-neutral' && (d.fitted?.system ?? 'line-neutral') === 'line-neutral'
    const lineIn = arrives === 'line' && onB ? 'line-2' : arrives
    const out = d.switches ? switchedBy(d.point.id) : null
    const [first, second] = (by.get(d.point.id) ?? []).map((x) => switchedBy(x.set))
    places.set(d.point.id, {
      lineIn,
      lineOut: d.switches && d.behind ? out! : arrives,
      line: first ?? lineIn,
      // A fan with an overrun timer runs on from a line that no switch opens.
      second: d.kind?.pattern === 'fan-overrun' ? lineIn : (second ?? first ?? lineIn),
      through: passedThrough(d.kind).has('switched-line')
        ? (beyond(d.point.id)
            .flatMap((id) => by.get(id) ?? [])
            .map((x) => switchedBy(x.set))[0] ?? null)
        : null,
      out,
      ...d,
    })
  }
  return places
}

interface Wanted {
  /** What has to reach the far end, and what may where a core is left. */
  readonly must: readonly Signal[]
  readonly may: readonly Signal[]
}

/** What each cable carries: every potential along the cables from where it is made to where it is used. */
function signalsOf(
  region: RegionId,
  circuit: Circuit,
  places: ReadonlyMap<string, Place>,
  tree: Tree,
  sets: readonly SwitchSet[],
  ways: Map<string, Signal>,
  system: CircuitSystem,
): ReadonlyMap<string, Wanted> {
  const must = new Map<string, Set<Signal>>()
  const may = new Map<string, Set<Signal>>()
  const add = (to: Map<string, Set<Signal>>, cable: Cable | undefined, s: Signal) => {
    if (cable) to.set(cable.id, (to.get(cable.id) ?? new Set()).add(s))
  }
  const up = (from: string | null): (string | null)[] => {
    const path: (string | null)[] = [from]
    for (let at = from; at !== null;) path.push((at = tree.parent.get(at) ?? null))
    return path
  }
  /** Along the cables between two places; null: where the circuit begins. */
  const carry = (to: Map<string, Set<Signal>>, s: Signal, from: string | null, at: string | null) => {
    const [a, b] = [up(from), up(at)]
    const meet = a.find((x) => b.includes(x)) ?? null
    for (const path of [a, b])
      for (const x of path)
        if (x === meet) break
        else if (x !== null) add(to, tree.feed.get(x), s)
  }
  const maker = new Map<Signal, string | null>([
    ['line', null],
    ['line-2', null],
    ['neutral', null],
  ])
  for (const p of places.values()) if (p.out) maker.set(p.out, p.point.id)
  const multi = sets.filter((s) => isMultiWay(places.get(s.switches[0] ?? '')?.kind ?? null) !== null)
  for (const s of multi) threadSet(s, places, ways, (signal, a, b) => carry(must, signal, a, b))
  for (const s of multi) maker.set(switchedBy(s.id), s.switches.at(-1) ?? null)
  const use = (s: Signal, at: string) => carry(must, s, maker.get(s) ?? null, at)
  for (const p of places.values()) {
    const id = p.point.id
    const alone = p.onward.length === 0 && !p.appliance && (p.switches || isMultiWay(p.kind) !== null)
    if (alone) {
      // A switch at the end of a leg takes the line and sends it back; its neutral is for what may be fitted there later.
      if (p.switches || ways.get(`${id} com`) === p.lineIn) use(p.lineIn, id)
      const neutral = p.kind!.terminals.some((t) => t.takes?.cable === 'feed' && t.takes.role === 'neutral')
      if (neutral) use('neutral', id)
      else if (worlds[region].neutralAtSwitches) carry(may, 'neutral', null, id)
      continue
    }
    for (const s of usedAt(p, ways, system)) use(s, id)
  }
  // The last leg of a ring leads back to the board.
  const all = new Map<string, Wanted>()
  for (const k of circuit.cables) {
    const list = [...(must.get(k.id) ?? [])]
    // A cable that nothing is asked of yet is laid as its circuit is fed, and so is what brings one potential alone.
    const wanted = list.length > 1 ? list : [...new Set([...list, ...mainsOf(system)])].slice(0, Math.max(2, mainsOf(system).length))
    all.set(k.id, { must: wanted, may: [...(may.get(k.id) ?? [])].filter((s) => !wanted.includes(s)) })
  }
  return all
}

/** What the box of a place needs: what its device takes, what its appliance runs from; at the end of a cable all that it can bring. */
function usedAt(p: Place, ways: ReadonlyMap<string, Signal>, system: CircuitSystem): readonly Signal[] {
  // Of two lines the cable carries both all along, whichever a point is on.
  const mains = mainsOf(system).map((s) => (s === 'line' && isSwitched(p.lineIn) ? p.lineIn : s))
  const ends = p.kind === null && p.onward.length === 0
  if (ends || system !== 'line-neutral') return [...new Set([...mains, p.line, p.second])]
  // What passes through a three-pole isolator is asked for beyond it.
  if (passedThrough(p.kind).has('switched-line')) return p.appliance ? mains : ['neutral']
  if (isMultiWay(p.kind)) return ways.get(`${p.point.id} com`) === p.lineIn ? [p.lineIn] : []
  const takes = (role: ConductorRole) => p.kind?.terminals.some((t) => t.takes?.cable === 'feed' && t.takes.role === role) ?? false
  const needsLine = takes('line') || takes('switched-line') || p.appliance || p.kind?.terminals.some((t) => t.takes === null)
  const lines = p.switches ? [p.lineIn] : [...new Set([p.line, p.second])]
  return [...(needsLine ? lines : []), ...(takes('neutral') || p.appliance ? ['neutral'] : [])]
}

/** Travellers from switch to switch of a set, and what its terminals are. */
function threadSet(
  set: SwitchSet,
  places: ReadonlyMap<string, Place>,
  ways: Map<string, Signal>,
  carry: (s: Signal, from: string, to: string) => void,
): void {
  const { switches } = set
  const put = (point: string, terminal: string, s: Signal) => void ways.set(`${point} ${terminal}`, s)
  const last = switches.length - 1
  for (const [i, point] of switches.entries()) {
    const place = places.get(point)!
    const pair = (leg: number) => [traveller(set.id, leg, 1), traveller(set.id, leg, 2)] as const
    if (isMultiWay(place.kind) === 'intermediate') {
      const [before, after] = [pair(i - 1), pair(i)]
      put(point, 'in-1', before[0])
      put(point, 'in-2', before[1])
      put(point, 'out-1', after[0])
      put(point, 'out-2', after[1])
    } else if (last === 0) {
      put(point, 'com', place.lineIn)
      put(point, 'one', switchedBy(set.id))
    } else {
      const [one, two] = pair(i === 0 ? 0 : last - 1)
      put(point, 'com', i === 0 ? place.lineIn : switchedBy(set.id))
      put(point, 'one', one)
      put(point, 'two', two)
    }
    const next = switches[i + 1]
    if (next !== undefined) for (const s of pair(i)) carry(s, point, next)
  }
}

/** Single conductors, one for each potential: none is lacking, and none is spare. */
export function drawnIn(region: RegionId, signals: readonly Signal[]): CarryingCable {
  const inOrder = [...signals].toSorted((a, b) => rank(a) - rank(b))
  const cores = drawnInConductors(
    region,
    inOrder.map((s) => roleOf(s) as Exclude<ConductorRole, 'pe' | 'spare'>),
  )
  return { cores: cores.map((c, i) => ({ ...c, signal: c.role === 'pe' ? 'pe' : inOrder[i]! })), lacking: [] }
}

/** Neutral first, then lines as they are named, then what is switched. */
const rank = (s: Signal): number => (s === 'neutral' ? 0 : s === 'line' ? 1 : s === 'line-2' ? 2 : isSwitched(s) ? 3 : 4)

/** The cores of a cable, each with what it carries, by colour as far as colours go. */
export function coresFor(
  region: RegionId,
  colours: 'new' | 'old',
  recorded: Cable['cores'],
  system: CircuitSystem,
  { must, may }: Wanted,
): CarryingCable {
  const three = recorded ? recorded === 'three' : must.length + may.length > 2
  const plain = system === 'line-line-neutral' ? 'line-neutral' : system
  const cores = three ? threeCores(region, colours) : cableConductors(region, must.includes('line-2') ? system : plain, colours)
  const free = cores.filter((c) => c.role !== 'pe')
  const given = new Map<string, Signal>()
  const lacking: Signal[] = []
  const means = (c: Conductor) => meaningOf(region, colours, c.colour)
  const give = (s: Signal, core: Conductor | undefined) => {
    if (!core) return void lacking.push(s)
    free.splice(free.indexOf(core), 1)
    given.set(core.id, s)
  }
  // The white core of a switch leg supplies the switch, and never brings its line back: 200.7(C)(2).
  const leg = region === 'north-america' && !three && !must.includes('neutral') && must.some(isSwitched)
  const wanted = [...[...must].toSorted((a, b) => rank(a) - rank(b)), ...may]
  for (const s of wanted) {
    if (free.length === 0) {
      if (must.includes(s)) lacking.push(s)
      continue
    }
    const named = free.find((c) => c.role === s)
    if (s === 'neutral') give(s, free.find((c) => means(c) === 'neutral') ?? named ?? free[0])
    else if (leg && !isSwitched(s)) give(s, free.find((c) => means(c) === 'neutral') ?? free[0])
    else give(s, named ?? free.find((c) => means(c) === 'line') ?? free.find((c) => means(c) !== 'neutral') ?? free[0])
  }
  return {
    cores: cores.map((c): Carried => {
      if (c.role === 'pe') return { ...c, signal: 'pe' }
      const signal = given.get(c.id) ?? null
      const role = signal === null ? 'spare' : roleOf(signal)
      return { id: c.id, role, colour: c.colour, ...markOf(region, colours, c.colour, role), signal }
    }),
    lacking,
  }
}
