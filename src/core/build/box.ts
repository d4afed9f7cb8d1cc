import type { Accessory } from '../catalogue/accessories'
import { boxTerminal, connectorFor, mostJoined } from '../catalogue/connectors'
import { device, type DeviceKind, type DeviceTerminal } from '../catalogue/devices'
import { followed } from '../catalogue/schools'
import { areaMm2 } from '../design/prices'
import { grouped } from '../base/grouped'
import { listedWords } from '../base/finding'
import { once } from '../base/memory'
import type { Circuit, Installation, PlacedPoint } from '../installation/installation'
import { type BenchRecord, CAP, tailEndName, terminalName } from '../job/bench'
import type { PointRecord } from '../job/point'
import type { ConductorRole, WireColour } from '../region/colours'
import { worlds } from '../region/worlds'
import { enclosureOf } from './choose-box'
import { boxPoints, type CircuitPlan, passedThrough, type Place, planOf, type Signal } from './carries'
import { applianceCable, type CableAt, cablesInto, type CoreEnd, type Worked } from './cores'

export { boxPoints }

/** A device in a box. */
export interface DeviceAt {
  readonly id: string
  /** The point it is for. */
  readonly point: string
  readonly kind: DeviceKind
  readonly broken: readonly string[]
  /** Which of the ways of numbering was found; none: not tested. */
  readonly pairing?: number
  /** Torque of its terminals as it was read, in newton metres. */
  readonly torqueNm?: number
}
/** A point that is in a box, with what its accessory runs on. */
export interface StandsIn {
  readonly id: string
  readonly name: string
  readonly circuit: string
  readonly state: PointRecord['state']
  /** What draws power here, in watts; null: not recorded. */
  readonly watts: number | null
  /** The fuse of its connection unit, in amperes; null: as its accessory has it. */
  readonly fuseA: number | null
  readonly fitted: Accessory | undefined
  /** It holds joints alone. */
  readonly joint: boolean
}
/** One box opened: what comes into it, what is in it, and where each end goes. */
export interface Box {
  readonly id: string
  /** Called as what is in it. */
  readonly name: string
  /** Points of circuits of the job that are in it, of one circuit or several. */
  readonly points: readonly StandsIn[]
  /** Points that are in it too and that no circuit of the job wires. */
  readonly besides: readonly string[]
  readonly cables: readonly CableAt[]
  readonly devices: readonly DeviceAt[]
  readonly bench: BenchRecord
  /** Standard wiring, and not by hand. */
  readonly usual: boolean
}

const FUSED_UNIT = 'uk-fcu'

/** What is known of the point that a device is for. */
export const pointOf = (box: Box, { point }: Pick<DeviceAt, 'point'>): StandsIn | undefined => box.points.find((p) => p.id === point)

/** Fused connection units ahead of another accessory of the same point: each is in an enclosure of its own beside it. */
export const unitsAhead = ({ devices }: Pick<Box, 'devices'>): readonly DeviceAt[] =>
  devices.filter(
    (d) =>
      d.kind.id === FUSED_UNIT && devices.find((o) => o.point === d.point) === d && devices.some((o) => o.point === d.point && o !== d),
  )

interface Joining {
  readonly connectors: BenchRecord['connectors'][number][]
  readonly tails: BenchRecord['tails'][number][]
  readonly ends: BenchRecord['ends'][number][]
}
/** An end that is made off in a box, with its cross-section where it is known. */
interface LooseEnd {
  readonly name: string
  readonly mm2: number | null
  readonly colour: WireColour
}

/** Colour of a short tail for what it carries. */
const tailColour = ({ conductor: c }: CoreEnd): WireColour =>
  c.role === 'pe' ? (c.remark ?? (c.colour === 'bare' || c.colour === 'green' ? c.colour : 'greenYellow')) : (c.remark ?? c.colour)

/** Terminals that are joined inside their device: one conductor on any of them serves all. */
function clustersOf(kind: DeviceKind, terminals: readonly DeviceTerminal[]): readonly (readonly DeviceTerminal[])[] {
  const joined = kind.inside.flatMap((x) => (x.kind === 'joined' || x.kind === 'tab' ? [[x.a, x.b] as const] : []))
  const clusters: DeviceTerminal[][] = []
  for (const t of terminals) {
    const with_ = clusters.find((c) => c.some((o) => joined.some(([a, b]) => (a === t.id && b === o.id) || (b === t.id && a === o.id))))
    if (with_) with_.push(t)
    else clusters.push([t])
  }
  return clusters
}

/** Joins ends in connectors, with pigtails to terminals, and puts ends on terminals where they have room. */
class Joiner {
  readonly made: Joining = { connectors: [], tails: [], ends: [] }
  constructor(
    private readonly region: Installation['region'],
    private readonly twist: boolean,
  ) {}

  /** A pigtail to a terminal: the end that is left to be joined. */
  linkTo(to: string, like: LooseEnd): LooseEnd {
    const { a, b } = this.tail(like)
    this.made.ends.push({ end: b, to })
    return a
  }

  private tail(like: LooseEnd): { readonly a: LooseEnd; readonly b: string } {
    const id = `t${this.made.tails.length + 1}`
    this.made.tails.push({ id, colour: like.colour })
    return { a: { ...like, name: tailEndName(id, 'a') }, b: tailEndName(id, 'b') }
  }

  /** One joint of these ends; more than a connector takes are parted over several, linked by a tail. */
  private join(ends: readonly LooseEnd[]): void {
    const most = mostJoined(this.region)
    let rest = ends
    while (rest.length > 0) {
      const here = rest.length > most ? rest.slice(0, most - 1) : rest
      const link = rest.length > most ? this.tail(rest[0]!) : null
      rest = link ? [{ ...rest[0]!, name: link.b }, ...rest.slice(most - 1)] : []
      const inside = link ? [...here, link.a] : here
      const id = `j${this.made.connectors.length + 1}`
      const areas = inside.flatMap((e) => e.mm2 ?? [])
      this.made.connectors.push({ id, kind: connectorFor(this.region, inside.length, this.twist, areas).id })
      for (const e of inside) this.made.ends.push({ end: e.name, to: id })
    }
  }

  /** Ends that belong together, on terminals that belong to them: `joint` where they meet in a connector in any case. */
  place({ ends, clusters, joint, colour }: Net): void {
    const [first] = ends
    if (clusters.length === 0) {
      if (first) this.made.ends.push(...(ends.length === 1 ? [{ end: first.name, to: CAP }] : []))
      return ends.length > 1 ? this.join(ends) : undefined
    }
    if (!first && clusters.length < 2) return
    const room = clusters.flat().flatMap((t) => Array.from({ length: t.most }, (_, i) => ({ to: t.to, i })))
    if (clusters.length === 1 && ends.length <= room.length && !(joint && ends.length > 1)) {
      const inTurn = room.toSorted((a, b) => a.i - b.i)
      for (const [i, e] of ends.entries()) this.made.ends.push({ end: e.name, to: inTurn[i]!.to })
      return
    }
    const like = first ?? { name: '', mm2: null, colour }
    // A link from one device to the next needs no connector.
    if (!first && clusters.length === 2) {
      const { a, b } = this.tail(like)
      this.made.ends.push({ end: a.name, to: clusters[0]![0]!.to }, { end: b, to: clusters[1]![0]!.to })
      return
    }
    const tails = clusters.map((c) => {
      const { a, b } = this.tail(like)
      this.made.ends.push({ end: b, to: c[0]!.to })
      return a
    })
    this.join([...ends, ...tails])
  }
}

/** What is at one potential in a box: ends of conductors, and terminals by what is joined inside their device. */
interface Net {
  readonly role: ConductorRole
  readonly ends: LooseEnd[]
  readonly clusters: { readonly to: string; readonly most: number }[][]
  joint: boolean
  /** Of a link where no core says one. */
  readonly colour: WireColour
}

const roles: readonly ConductorRole[] = ['pe', 'neutral', 'line-2', 'line', 'switched-line', 'traveller']
const roleRank = (r: ConductorRole): number => (roles.includes(r) ? roles.indexOf(r) : roles.length)

/** Leads of what is fed twice: on the line that its switch sends, and on a second one. */
const leads: Readonly<Record<string, readonly [string, string]>> = { 'fan-light': ['l', 'fan'], 'fan-overrun': ['sl', 'l'] }

/** The potential of a terminal of a device at a place; null: nothing goes there. */
function signalAt(plan: CircuitPlan, place: Place, kind: DeviceKind, t: DeviceTerminal): Signal | null {
  const multi = plan.ways.get(`${place.point.id} ${t.id}`)
  if (multi !== undefined) return multi
  if (t.takes === null) {
    const [first, second] = leads[kind.pattern ?? ''] ?? []
    return t.id === first ? place.line : t.id === second ? place.second : null
  }
  const { cable, role } = t.takes
  if (role === 'pe' || role === 'neutral' || role === 'line-2') return role
  if (role === 'switched-line' && passedThrough(kind).has(role)) return place.through
  if (role === 'switched-line' && cable === 'load') return place.out
  // What switches takes the line as it arrives; what is switched runs from what its switch sends.
  return place.out === null ? place.line : place.lineIn
}

const roleIn = (t: DeviceTerminal, s: Signal): ConductorRole => t.takes?.role ?? (s.startsWith('traveller') ? 'traveller' : 'switched-line')

/** The devices of a place from the feed outward. */
const devicesAt = (place: Place): readonly DeviceKind[] => [
  ...(place.fused ? [device(FUSED_UNIT)!] : []),
  ...(place.kind ? [place.kind] : []),
]

/** What a device passes on from its feed side to its load side. */
interface Split {
  readonly device: string
  readonly signals: ReadonlySet<Signal>
}
/** A place of a circuit in a box, behind the devices of the same box that feed it there. */
interface PlaceIn {
  readonly place: Place
  readonly circuit: Circuit
  readonly plan: CircuitPlan
  readonly devices: readonly { readonly id: string; readonly kind: DeviceKind }[]
  /** The first place of those that feed each other within the box. */
  readonly root: string
  /** The devices between the feed of the box and this place, its own after them. */
  readonly before: readonly Split[]
  readonly own: readonly Split[]
}

/** How many of its own devices a cable of a place is behind. */
function levelOf({ place, devices }: PlaceIn, id: string, side: CableAt['side']): number {
  if (side === 'feed' || place.loop.has(id)) return 0
  return side === 'load' || place.behind ? devices.length : place.fused ? 1 : 0
}

/** The places of a box, each after the one that feeds it there. */
function placesIn(job: Installation, reports: readonly (readonly [Place, Worked])[]): readonly PlaceIn[] {
  const made = new Map<string, PlaceIn>()
  let n = 0
  const fedHere = ([{ feed }]: readonly [Place, Worked]) =>
    feed?.from.kind === 'point' && reports.some(([p]) => p.point.id === feed.from.id) && !made.has(feed.from.id)
  for (let left = [...reports]; left.length > 0;) {
    const [place, report] = left.find((r) => !fedHere(r)) ?? left[0]!
    left = left.filter(([p]) => p !== place)
    const plan = planOf(job.region, report)
    const devices = devicesAt(place).map((kind) => ({ id: `d${++n}`, kind }))
    const own = devices.map(({ id, kind }): Split => {
      const passed = passedThrough(kind)
      const taken = kind.terminals.flatMap((t) =>
        t.takes?.cable === 'feed' && passed.has(t.takes.role) ? (signalAt(plan, place, kind, t) ?? []) : [],
      )
      return { device: id, signals: new Set(taken) }
    })
    const { feed } = place
    const up = feed?.from.kind === 'point' ? made.get(feed.from.id) : undefined
    const before = up ? [...up.before, ...up.own.slice(0, levelOf(up, feed!.id, 'onward'))] : []
    made.set(place.point.id, { place, circuit: report.circuit, plan, devices, root: up?.root ?? place.point.id, before, own })
  }
  return [...made.values()]
}

/** The potential of a signal behind so many of the devices of a place, by a name. */
const keyAt = ({ root, before, own }: PlaceIn, signal: Signal, level: number): string =>
  signal === 'pe'
    ? 'pe'
    : `${root} ${signal} ${[...before, ...own.slice(0, level)].flatMap((s) => (s.signals.has(signal) ? [s.device] : [])).join(' ')}`

/**
 * Standard wiring of a box: every potential is one joint, with all terminals that take it and all cores that carry it. What is fed through
 * a device is on its load side: the appliance, and the points beyond where they are behind it. Places of one circuit that are fed within
 * the box share their potentials; circuits share the protective conductor alone. The terminal of a metal box is on the protective conductor
 * (NFPA 70 250.148(C); BS 7671 411.3.1.1).
 */
export function standardWiring(
  job: Installation,
  reports: readonly (readonly [Place, Worked])[],
  all: readonly CableAt[],
  metal: boolean,
): BenchRecord {
  const places = placesIn(job, reports)
  const joiner = new Joiner(job.region, followed(job.brief.schools, 'joints') === 'twist')
  const placeOf = (k: CableAt) =>
    places.find(({ place, circuit }) => place.point.id === k.point && (k.circuit === circuit.id || begins(job, k, place)))
  const own = all.flatMap((k) => {
    const at = placeOf(k)
    return at ? [{ k, at }] : []
  })
  const nets = new Map<string, Net>()
  const colours = new Map<ConductorRole, WireColour>()
  for (const { k } of own) for (const e of k.ends) if (!colours.has(e.conductor.role)) colours.set(e.conductor.role, tailColour(e))
  const net = (key: string, role: ConductorRole, at: PlaceIn | null): Net => {
    const made = nets.get(key) ?? { role, ends: [], clusters: [], joint: false, colour: colours.get(role) ?? 'black' }
    nets.set(key, made)
    // The neutral of two lines never depends on a device: 300.13(B).
    if (at?.circuit.kind === 'shared-neutral' && role === 'neutral') made.joint = true
    if (at?.place.fitted?.joints.some((j) => j.role === made.role)) made.joint = true
    return made
  }
  const loose = (k: CableAt, e: CoreEnd): LooseEnd => {
    const size = e.conductor.role === 'pe' ? k.protectiveSize : k.size
    return { name: e.name, mm2: size === null ? null : areaMm2(size), colour: tailColour(e) }
  }
  for (const { k, at } of own)
    for (const e of k.ends)
      if (e.signal === null) joiner.made.ends.push({ end: e.name, to: CAP })
      else net(keyAt(at, e.signal, levelOf(at, k.id, k.side)), e.conductor.role, at).ends.push(loose(k, e))
  for (const at of places)
    for (const [i, { id, kind }] of at.devices.entries()) {
      const byKey = grouped(
        kind.terminals.flatMap((t) => {
          const signal = signalAt(at.plan, at.place, kind, t)
          return signal === null ? [] : [{ t, signal, key: keyAt(at, signal, i + (t.takes?.cable === 'load' ? 1 : 0)) }]
        }),
        (x) => x.key,
      )
      for (const [key, list] of byKey) {
        const known = net(key, roleIn(list[0]!.t, list[0]!.signal), at)
        for (const c of clustersOf(
          kind,
          list.map((x) => x.t),
        ))
          known.clusters.push(c.map((t) => ({ to: terminalName(id, t.id), most: t.most })))
      }
    }
  // Protective conductors of all circuits in a box are joined; whatever else only passes through keeps to itself.
  const passing = all.filter((k) => !own.some((o) => o.k === k))
  const pe = net('pe', 'pe', null)
  for (const k of passing) for (const e of k.ends) if (e.conductor.role === 'pe') pe.ends.push(loose(k, e))
  const ofBox = metal && pe.ends.length > 0 ? { id: BOX_TERMINAL, kind: boxTerminal(job.region).id } : null
  // A short lead from the accessory's own terminal to the box, where that takes it with the rest; otherwise all meet in a joint.
  const room = pe.clusters.flat().reduce((n, t) => n + t.most, 0)
  if (ofBox && worlds[job.region].boxesBy === 'depth' && pe.clusters.length === 1 && pe.ends.length < room)
    pe.ends.push(joiner.linkTo(ofBox.id, pe.ends[0]!))
  else if (ofBox) pe.clusters.push([{ to: ofBox.id, most: 1 }])
  for (const n of [...nets.values()].toSorted((a, b) => roleRank(a.role) - roleRank(b.role))) joiner.place(n)
  for (const [, of] of grouped(passing, (k) => k.circuit)) {
    const ends = of.flatMap((k) => k.ends.filter((e) => e.conductor.role !== 'pe').map((e) => ({ e, k })))
    for (const [, together] of grouped(ends, ({ e }) => e.signal ?? e.name))
      joiner.place({ role: 'spare', ends: together.map(({ e, k }) => loose(k, e)), clusters: [], joint: false, colour: 'black' })
  }
  const devices = places.flatMap(({ place, devices: those }) =>
    those.map(({ id, kind }) => ({ id, kind: kind.id, broken: [], ...(places.length > 1 ? { point: place.point.id } : {}) })),
  )
  // Last, so that joints keep their numbers.
  if (ofBox) joiner.made.connectors.push(ofBox)
  return { devices, ...joiner.made, marked: marksOf(all) }
}

/** The terminal of the metal box itself, in the record of its wiring. */
const BOX_TERMINAL = 'box'

/** Whether the circuit of a cable takes its power from this point. */
function begins(job: Installation, k: CableAt, { point }: Place): boolean {
  const source = job.circuits.find((c) => c.id === k.circuit)?.source
  return source !== null && source !== undefined && source.kind !== 'board' && source.from === point.id && k.recorded?.from.id === point.id
}

/** Cores whose colour says something else than they carry are marked at both ends. */
const marksOf = (cables: readonly CableAt[]): string[] => cables.flatMap((k) => k.ends.filter((e) => e.conductor.remark).map((e) => e.name))

const inBox = once((points: Installation['points']): ReadonlyMap<string, readonly string[]> => {
  const map = new Map<string, string[]>()
  for (const p of points) map.set(p.box.id, [...(map.get(p.box.id) ?? []), p.id])
  return map
})

/** The circuits that wire what is in a box, each point once; the one that asks has the first say of a point that two reach. */
function standing(job: Installation, of: ReadonlyMap<string, Worked>, report: Worked, box: string) {
  const ids = inBox(job.points).get(box) ?? []
  const circuits = ids.map((id) => (boxPoints(report).some((p) => p.id === id) ? report : of.get(job.circuitOfPoint.get(id) ?? '')))
  const wired = [...new Set([...circuits.filter((r) => r !== undefined), report])].flatMap((r) => {
    const plan = planOf(job.region, r)
    // From the feed outward.
    const order = [...plan.places.keys()]
    const mine = boxPoints(r).filter((p) => p.box.id === box && circuits[ids.indexOf(p.id)] === r)
    return mine
      .toSorted((a, b) => order.indexOf(a.id) - order.indexOf(b.id))
      .map((point) => ({ point, report: r, place: plan.places.get(point.id) ?? unreached(point) }))
  })
  return { wired, besides: ids.filter((id) => !wired.some((w) => w.point.id === id)) }
}

/** The box in which a point of a circuit is, as it will be wired: as it was recorded, or the standard way. */
export function boxOf(job: Installation, of: ReadonlyMap<string, Worked>, report: Worked, { box }: PlacedPoint): Box {
  const { wired, besides } = standing(job, of, report, box.id)
  const here = new Set(wired.map((w) => w.point.id))
  const cables = wired.flatMap(({ point, report: r, place }) => {
    const into = cablesInto(job, of, r.circuit, point.id)
    const own = applianceCable(job, r, place)
    return own ? [...into, own] : into
  })
  const bench =
    box.bench ??
    standardWiring(
      job,
      wired.map((w) => [w.place, w.report] as const),
      cables,
      enclosureOf(job.region, box)?.metal === true,
    )
  const known = new Set(cables.flatMap((k) => k.ends.map((e) => e.name)))
  for (const t of bench.tails) for (const side of ['a', 'b'] as const) known.add(tailEndName(t.id, side))
  const points = wired.map(({ point, report: r, place }): StandsIn => {
    const lone = r.circuit.points.length === 0
    return {
      id: point.id,
      name: point.name || r.circuit.load.name || r.circuit.name,
      circuit: r.circuit.id,
      state: point.state,
      watts: point.watts ?? (lone ? loadWatts(r, worlds[job.region].lineV) : null),
      fuseA: point.fuseA ?? (lone ? r.chosen.design.fuseA : null),
      fitted: place.fitted,
      joint: point.kind === 'box',
    }
  })
  return {
    id: box.id,
    name: listedWords([...new Set(points.map((p) => p.name))]),
    points,
    besides,
    cables,
    // What belonged to a cable that no longer comes here is not in the box any more.
    bench: { ...bench, ends: bench.ends.filter((e) => known.has(e.end)), marked: bench.marked.filter((m) => known.has(m)) },
    devices: bench.devices.flatMap((d) => {
      const kind = device(d.kind)
      return kind ? [{ ...d, kind, point: d.point !== undefined && here.has(d.point) ? d.point : (points[0]?.id ?? box.id) }] : []
    }),
    usual: box.bench === undefined,
  }
}

/** A point that no cable of its circuit leads to. */
const unreached = (point: PlacedPoint): Place => ({
  point,
  fitted: undefined,
  kind: null,
  fused: false,
  feed: null,
  onward: [],
  inLoop: false,
  loop: new Set(),
  lineIn: 'line',
  lineOut: 'line',
  line: 'line',
  second: 'line',
  through: null,
  out: null,
  switches: false,
  behind: false,
  appliance: false,
})

function loadWatts({ chosen, circuit }: Worked, lineV: number): number | null {
  const amps = chosen.result?.loadA
  return amps === undefined ? null : amps * (circuit.load.volts || lineV)
}
