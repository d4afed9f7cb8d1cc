import type { Finding, Severity } from '../base/finding'
import { listed } from '../base/finding'
import { grouped } from '../base/grouped'
import { boxPoints, type CircuitPlan, isSwitched, passedThrough, switchedBy, type Place, planOf, type Signal } from '../build/carries'
import { type Box, pointOf } from '../build/box'
import type { Worked } from '../build/cores'
import { hasGuardedLoad } from '../catalogue/accessories'
import { connector } from '../catalogue/connectors'
import { guardingDevices } from '../design/guards'
import type { Installation } from '../installation/installation'
import { CAP, terminalName } from '../job/bench'
import { worlds } from '../region/worlds'
import { type Contact, type Contacts, type Graph, graphOf, type Joined, joinedIn, type Load, type Source } from './graph'
import { nodeOf } from './laid'
import { endWords, placeWords } from '../build/words'

/*
 * Does what will be there do what was asked? The request says which point has which accessory, what controls it, what guards it, what must
 * stay on. Each of these is put to the conductors as they are joined, state by state; what differs is a finding at the box where it is
 * mended. The wiring that is checked, standard or by hand, is never asked what is expected.
 */

/** A finding at a box, with the ends or terminals it is about. */
export interface AskedFinding extends Finding {
  readonly point: string
  readonly at: readonly string[]
}

interface Check {
  readonly job: Installation
  readonly report: Worked
  readonly plan: CircuitPlan
  readonly graph: Graph
  /** The box of each point. */
  readonly boxes: ReadonlyMap<string, Box>
  /** Each box once. */
  readonly opened: readonly Box[]
  /** With every contact closed that may be closed at once, and every switch on. */
  readonly on: Joined
  readonly say: (rule: string, severity: Severity, point: string, message: string, at?: readonly string[], clause?: string) => void
}

/** What of a circuit does not do what was asked; empty for one that does. Pure. */
export function askedOf(
  job: Installation,
  report: Worked,
  all: readonly Box[],
  graph = graphOf(job, report, all),
): readonly AskedFinding[] {
  const found = new Map<string, AskedFinding>()
  const boxes = new Map(all.flatMap((b) => b.points.map((p) => [p.id, b] as const)))
  const check: Check = {
    job,
    report,
    plan: planOf(job.region, report),
    graph: ofCircuit(graph, report),
    boxes,
    opened: all,
    on: joinedIn(graph, new Map()),
    say: (rule, severity, point, message, at = [], clause = 'what the wiring does') => {
      const key = `${rule} ${point} ${at.join()}`
      if (!found.has(key)) found.set(key, { rule, severity, point, message, at, clause })
    },
  }
  shorts(check)
  acrossCircuits(check)
  lackingCores(check)
  const bad = supplied(check)
  bodies(check)
  switching(check, bad)
  series(check, bad)
  guards(check)
  mustStayOn(check)
  ring(check)
  protectiveCapped(check, [...found.values()])
  missing(check)
  return [...found.values()]
}

/** The graph with the loads of one circuit alone: those of others in its boxes are asked of theirs. */
const ofCircuit = (graph: Graph, { circuit }: Worked): Graph => {
  const own = new Set(boxPoints({ circuit }).map((p) => p.id))
  return graph.loads.every((l) => own.has(l.point)) ? graph : { ...graph, loads: graph.loads.filter((l) => own.has(l.point)) }
}

const isLine = (s: Source): boolean => s === 'L' || s === 'L2'
const words = ({ job }: Check) => worlds[job.region].words
const called = ({ boxes }: Check, point: string): string => boxes.get(point)?.points.find((p) => p.id === point)?.name ?? 'A point'
/** The point that a box is reported at: one of the circuit that is asked. */
const pointOfBox = ({ report }: Check, box: Box): string =>
  box.points.find((p) => p.circuit === report.circuit.id)?.id ?? box.points[0]?.id ?? box.id

/** Sources that meet, and the box in which they first meet. */
function shorts(c: Check): void {
  const { graph, say } = c
  const any = joinedIn(graph, new Map(), { all: true })
  const [l, l2, n, pe] = ['L', 'L2', 'N', 'PE'].map((s) => graph.sources.get(s)!) as [number, number, number, number]
  const pairs = [
    [l, n, `${words(c).line} and ${words(c).neutral}`],
    [l2, n, `${words(c).line} and ${words(c).neutral}`],
    [l, l2, `the two ${words(c).line} conductors`],
    [l, pe, `${words(c).line} and ${words(c).protective}`],
    [l2, pe, `${words(c).line} and ${words(c).protective}`],
    [n, pe, `${words(c).neutral} and ${words(c).protective}`],
  ] as const
  for (const [a, b, what] of pairs) {
    if (!any.same(a, b)) continue
    const state = shortingState(graph, a, b)
    if (!state) continue
    const at = placeOfJoin(c, a, b)
    const neutral = a === n && b === pe
    const when = state.size ? ' in one position of a switch' : ''
    const [short, to] = neutral
      ? ['neutral-to-earth', 'residual devices trip and its current returns by earth']
      : ['short-circuit', 'the breaker trips']
    const where = at.at ? ` at ${placeWords(c.boxes.get(at.point)!, at.at)}` : ''
    say(
      short,
      'error',
      at.point,
      `${called(c, at.point)}: ${what} are joined${where}${when}, so ${to}. Separate them.`,
      at.at ? [at.at] : [],
    )
  }
}

/** A state of the contacts in which two places are joined; null: none (up to 12 contacts are tried in all positions). */
function shortingState(graph: Graph, a: number, b: number): Contacts | null {
  if (joinedIn(graph, new Map()).same(a, b)) return new Map()
  const moving = graph.contacts.filter((c) => c.positions.length > 1).slice(0, 12)
  for (let n = 0; n < 2 ** moving.length; n++) {
    const state = new Map(moving.map((c, i) => [c.key, (n >> i) & 1 ? c.positions.length - 1 : 0]))
    if (joinedIn(graph, state).same(a, b)) return state
  }
  return null
}

/** The box and the joint or terminal where two sources meet: the one without which they would not. */
function placeOfJoin(c: Check, a: number, b: number): { readonly point: string; readonly at: string | null } {
  for (const box of c.opened) {
    const meeting = grouped(box.bench.ends, (e) => e.to)
    for (const [to, ends] of meeting) {
      if (to === CAP) continue
      const here = c.graph.nodes.get(nodeOf(box.id, to))!
      const cut = new Set(ends.map((e) => `${c.graph.nodes.get(nodeOf(box.id, e.end))} ${here}`))
      const without = { ...c.graph, fixed: c.graph.fixed.filter(([x, y]) => !cut.has(`${x} ${y}`)) }
      if (!joinedIn(without, new Map(), { all: true }).same(a, b)) return { point: pointOfBox(c, box), at: to }
    }
  }
  return { point: c.boxes.keys().next().value ?? '', at: null }
}

/** Lines and neutrals of two circuits joined in a box. */
function acrossCircuits(c: Check): void {
  const any = joinedIn(c.graph, new Map(), { all: true })
  for (const [source, node] of c.graph.sources) {
    const [s, other] = source.split(' of ') as [Source, string | undefined]
    if (other === undefined) continue
    const met = any.sourcesAt(node).filter((x) => !x.includes(' of ') && x !== 'PE')
    if (!met.length) continue
    const own = c.graph.sources.get(met[0]!)!
    const { point, at } = placeOfJoin(c, own, node)
    const name = c.job.circuits.find((x) => x.id === other)?.name ?? 'another circuit'
    const both = s === 'N' && met.includes('N')
    const rule = both ? 'neutrals-joined' : 'circuits-joined'
    const what = both ? `neutrals of ${c.report.circuit.name} and ${name}` : `conductors of ${c.report.circuit.name} and ${name}`
    const harm = both ? 'Current of one returns by the other, and residual devices trip' : 'Switching one off leaves the other live here'
    const where = at ? ` at ${placeWords(c.boxes.get(point)!, at)}` : ''
    c.say(rule, 'error', point, `${called(c, point)}: ${what} are joined${where}. ${harm}. Separate them.`, at ? [at] : [])
  }
}

const signalWords = (c: Check, s: Signal): string =>
  isSwitched(s) ? `switched ${words(c).line}` : s.startsWith('traveller') ? 'traveller' : s === 'neutral' ? words(c).neutral : words(c).line
/** Cables with fewer cores than what they are to carry. */
function lackingCores(c: Check): void {
  for (const [point, place] of c.plan.places)
    for (const k of [place.feed]) {
      const lacking = (k && c.plan.cables.get(k.id)?.lacking) ?? []
      if (!lacking.length) continue
      const missing = listed([...new Set(lacking.map((s) => signalWords(c, s)))])
      const say =
        `The cable to ${called(c, point)} has too few cores: it has none for ${missing}. Choose a cable with more cores, ` +
        'or run a second one.'
      c.say('cores-missing', 'error', point, say, [], 'what it has to carry')
    }
}

interface Stands {
  readonly line: readonly Source[]
  readonly other: readonly Source[]
  readonly earth: readonly Source[] | null
}
const standsAt = (j: Joined, l: Load): Stands => ({
  line: j.sourcesAt(l.a),
  other: j.sourcesAt(l.b),
  earth: l.earth === null ? null : j.sourcesAt(l.earth),
})
/** Whether a load runs: a line on one side, and on the other the neutral, or the other line where it takes two. */
function runs(s: Stands, { across }: Load): boolean {
  const one = s.line.filter(isLine)
  return across
    ? one.length === 1 && s.other.filter(isLine).length === 1 && one[0] !== s.other.find(isLine)
    : one.length === 1 && s.other.includes('N') && !s.other.some(isLine)
}

/** Every outlet and every load with all switches on: voltage, polarity, protective conductor. Says which are wrong already. */
function supplied(c: Check): ReadonlySet<string> {
  const bad = new Set<string>()
  // Of a light with two-way switches the state in which it burns is looked for where switching is.
  const set = new Set(c.plan.sets.filter((s) => s.switches.length > 1).flatMap((s) => s.loads))
  const through = joinedIn(c.graph, new Map(), { loads: true })
  for (const l of c.graph.loads) {
    const s = standsAt(c.on, l)
    earthOf(c, l, s)
    if (runs(s, l) || set.has(l.point)) continue
    bad.add(l.id)
    // What is in a box without being the point's own accessory is for a person to wire.
    if (s.line.length > 1 || s.other.length > 1) continue
    const [line, other] = [s.line[0], s.other[0]]
    const name = l.name
    if (!l.across && line === 'N' && other !== undefined && isLine(other))
      c.say(
        'reversed',
        'error',
        l.point,
        `${name}: ${words(c).line} and ${words(c).neutral} are exchanged (reversed polarity): what is switched off ` +
          'there stays live. Exchange them.',
      )
    else if (line !== undefined && isLine(line) && other !== undefined && isLine(other)) sameSides(c, l, line === other)
    else if (line === 'PE' || other === 'PE') onEarth(c, l, line === 'PE')
    else broken(c, l, s, through)
  }
  return bad
}

/** A protective conductor in the place of a live one. */
function onEarth(c: Check, l: Load, line: boolean): void {
  const { protective } = words(c)
  const what = line ? words(c).line : words(c).neutral
  const node = line ? l.a : l.b
  const met = placeOfJoin(c, node, c.graph.sources.get('PE')!)
  const where = met.at ? ` at ${placeWords(c.boxes.get(met.point)!, met.at)} in the box of ${called(c, met.point)}` : ''
  c.say(
    'on-earth',
    'error',
    met.point,
    `${l.name} has no supply: its ${what} is joined to the ${protective}${where}: a fault as soon as it is fed. Separate them.`,
    met.at ? [met.at] : [],
  )
}

/** Lines on both sides: the same one, or both. */
function sameSides(c: Check, l: Load, same: boolean): void {
  const { line, neutral } = words(c)
  if (same)
    c.say(
      'both-alike',
      'error',
      l.point,
      `${l.name}: both sides are on the same ${line}, so nothing works and everything is live. Put the ${neutral} on its own terminal.`,
    )
  else
    c.say(
      'wrong-voltage',
      'error',
      l.point,
      `${l.name}: it is between two ${line} conductors, at ${2 * worlds[c.job.region].lineV} V. Use one ${line} and the ${neutral}.`,
    )
}

function earthOf(c: Check, l: Load, s: Stands): void {
  if (s.earth === null) return
  const own = c.report.circuit.cables.some((k) => k.to.id === l.point || k.from.id === l.point)
  const { point } = l
  if (s.earth.some(isLine))
    c.say(
      'earth-live',
      'error',
      point,
      `${l.name}: its ${words(c).protective} is joined to a ${words(c).line} conductor, so exposed metal is live. Separate them.`,
    )
  else if (s.earth.length === 0 && own) {
    const end = breakOf(c, 'pe', 'PE', point)
    const at = end.end ? `: the ${endWords(c.boxes.get(end.point)!, end.end)} is ${whereEnds(c.boxes.get(end.point)!, end.end)}` : ''
    c.say(
      'no-earth',
      'error',
      end.point,
      `${l.name} has no ${words(c).protective}${at ? `. In the box of ${called(c, end.point)}${at}` : ''}. Connect it.`,
      end.end ? [end.end] : [],
    )
  }
}

const whereEnds = (box: Box, end: string): string => {
  const to = box.bench.ends.find((e) => e.end === end)?.to
  return to === undefined ? 'connected to nothing' : to === CAP ? 'capped' : `on ${placeWords(box, to)}`
}

/** A load that gets no power: which conductor is missing, and where it ends. */
function broken(c: Check, l: Load, s: Stands, through: Joined): void {
  const place = c.plan.places.get(l.point)
  const lineMissing = !s.line.some(isLine)
  const role: Signal = lineMissing ? (place?.line ?? 'line') : l.across ? 'line-2' : 'neutral'
  const source = role === 'neutral' ? 'N' : role === 'line-2' ? 'L2' : 'L'
  const what = role === 'neutral' ? words(c).neutral : isSwitched(role) ? `switched ${words(c).line}` : words(c).line
  const lone = lineMissing ? l.a : l.b
  if (through.sourcesAt(lone).length > 0 && !c.on.sourcesAt(lone).length && c.graph.loads.length > 1 && throughAnother(c, l, lone))
    return c.say(
      'half-voltage',
      'error',
      l.point,
      `${l.name}: it is in series with another load, so neither gets its voltage. Connect its ${what} directly.`,
    )
  const end = breakOf(c, role, source, l.point)
  const box = c.boxes.get(end.point)!
  const live = role === 'neutral' ? ' It does not work, yet one side of it is live.' : ''
  const at = end.end ? ` In the box of ${called(c, end.point)} the ${endWords(box, end.end)} is ${whereEnds(box, end.end)}.` : ''
  const rule = role === 'neutral' ? 'one-side-open' : 'dead-outlet'
  c.say(
    rule,
    'error',
    end.point,
    `${l.name} has no supply: its ${what} reaches no source.${at}${live} Connect it.`,
    end.end ? [end.end] : [l.id],
  )
}

/** Whether it is another load, not its own, that a place is joined through. */
function throughAnother(c: Check, own: Load, node: number): boolean {
  const others = { ...c.graph, loads: c.graph.loads.filter((l) => l !== own) }
  return joinedIn(others, new Map(), { loads: true }).sourcesAt(node).length > 0
}

/** Where a potential that should reach a point stops: the box in which it arrives and from which it does not go on, and that conductor. */
function breakOf(c: Check, signal: Signal, source: Source, point: string): { readonly point: string; readonly end: string | null } {
  let lost: string | null = null
  let at = point
  for (let steps = 0; steps <= c.boxes.size; steps++) {
    const box = c.boxes.get(at)
    const feed = c.plan.places.get(at)?.feed
    // Fed from another accessory in the same box: the conductor arrives there.
    if (feed?.inside === 'joint' && feed.from.kind === 'point' && c.boxes.get(feed.from.id) === box) {
      at = feed.from.id
      continue
    }
    const core = box?.cables
      .find((k) => k.id === feed?.id)
      ?.ends.find((e) => e.signal === signal || (signal === 'line' && e.conductor.role === 'line'))
    if (!box || !feed || !core) break
    const node = c.graph.nodes.get(nodeOf(box.id, core.name))
    if (node !== undefined && c.on.sourcesAt(node).some((s) => (signal === 'line' || isSwitched(signal) ? isLine(s) : s === source)))
      return { point: at, end: lost ?? core.name }
    lost = core.name
    if (feed.from.kind !== 'point' || !c.boxes.has(feed.from.id)) break
    at = feed.from.id
  }
  // A switched conductor comes from elsewhere: the first of its set that ends nowhere is named.
  for (const box of c.opened)
    for (const k of box.cables)
      for (const e of k.ends) {
        const to = box.bench.ends.find((x) => x.end === e.name)?.to
        if (
          (to === undefined || to === CAP) &&
          e.signal !== null &&
          (e.signal === signal || e.signal === 'line' || e.signal.startsWith('traveller'))
        )
          return { point: k.point, end: e.name }
      }
  return { point, end: null }
}

const contactOf = (g: Graph, point: string): readonly Contact[] => g.contacts.filter((x) => x.point === point && x.kind === 'actuator')

/** Each switch turns its loads on and off, of a set each from any state of the others. */
function switching(c: Check, bad: ReadonlySet<string>): void {
  for (const set of c.plan.sets) {
    const moving = set.switches.flatMap((p) => contactOf(c.graph, p).slice(0, 1))
    const loads = c.graph.loads.filter(
      (l) => set.loads.includes(l.point) && isOf(c, l, set.id) && (!set.switches.includes(l.point) || l.id === `${l.point} appliance`),
    )
    if (loads.length === 0 || moving.length === 0) continue
    const several = moving.length > 1
    const states = Array.from({ length: 2 ** Math.min(moving.length, 6) }, (_, n) =>
      moving.map((x, i) => ((n >> i) & 1 ? x.positions.length - 1 : 0)),
    )
    const joined = states.map((s) => joinedIn(c.graph, new Map(moving.map((x, i) => [x.key, s[i]!]))))
    const name = set.switches.map((p) => called(c, p)).join(' and ')
    for (const l of loads) {
      const isOn = joined.map((j) => runs(standsAt(j, l), l))
      if (isOn.every((x) => !x)) {
        if (several && !bad.has(l.id)) neverOn(c, l, name)
        continue
      }
      if (isOn.every(Boolean)) {
        c.say(
          'switch-bypassed',
          'error',
          set.switches[0]!,
          `${called(c, set.switches[0]!)}: ${l.name} stays on whatever the switch does. Both its conductors are on one ` +
            'side of it; put one on each.',
        )
        continue
      }
      // Off it is dead: the line is what opens, not the neutral.
      const liveOff = joined.some((j, i) => !isOn[i] && j.sourcesAt(l.a).some(isLine))
      if (liveOff && !l.across)
        c.say(
          'off-yet-live',
          'error',
          set.switches[0]!,
          `${l.name}: switched off it is still live, because its ${words(c).neutral} is switched and not its ` +
            `${words(c).line}. Put the ${words(c).line} on the switch.`,
        )
      const dull = moving.findIndex((_, i) => states.some((_s, n) => isOn[n] === isOn[n ^ (1 << i)]))
      if (several && dull >= 0)
        c.say(
          'switch-not-independent',
          'error',
          set.switches[dull]!,
          `${called(c, set.switches[dull]!)} does not switch ${l.name} in every position of the others. Check the ` +
            `travellers and the common terminals of ${name}.`,
        )
    }
  }
}

/** Of a fan and its light with a switch each: which of them a set turns on. */
function isOf(c: Check, l: Load, set: string): boolean {
  const place = c.plan.places.get(l.point)
  if (!place || place.line === place.second) return true
  return (/ (fan|timer)$/.test(l.id) ? place.second : place.line) === switchedBy(set)
}

function neverOn(c: Check, l: Load, name: string): void {
  const end = breakOf(c, c.plan.places.get(l.point)?.line ?? 'line', 'L', l.point)
  const box = c.boxes.get(end.point)
  const at = end.end && box ? ` In the box of ${box.name} the ${endWords(box, end.end)} is ${whereEnds(box, end.end)}.` : ''
  c.say('dead-outlet', 'error', end.point, `${l.name} cannot be switched on by ${name}.${at} Connect it.`, end.end ? [end.end] : [l.id])
}

/** Points fed through the device of a place, its own appliance first. */
function dependents(c: Check, place: Place): readonly string[] {
  const beyond = (p: Place): readonly string[] => p.onward.flatMap((k) => (k.to.kind === 'point' ? [k.to.id, ...beyondOf(k.to.id)] : []))
  const beyondOf = (id: string): readonly string[] => {
    const p = c.plan.places.get(id)
    return p ? beyond(p) : []
  }
  return [...(place.appliance ? [place.point.id] : []), ...(place.behind ? beyond(place) : [])]
}

/** Isolators, thermostats, connection units and their fuses are in series with what they feed, and open what they should. */
function series(c: Check, bad: ReadonlySet<string>): void {
  for (const place of c.plan.places.values()) {
    const { point, fitted } = place
    const devices = c.graph.contacts.filter((x) => x.point === point.id && x.kind !== 'residual')
    const isSeries = place.fused || fitted?.kind === 'connection-unit' || fitted?.kind === 'isolator' || (fitted?.poles ?? 0) >= 2
    if (!isSeries) continue
    const named = dependents(c, place)
    const opens = passedThrough(place.kind)
    const ahead = c.boxes.get(point.id)?.devices.find((d) => d.point === point.id)?.id
    for (const contact of devices) {
      const open = joinedIn(c.graph, new Map([[contact.key, 0]]))
      const unit = place.fused && contact.device === ahead
      const feeds = (l: Load) => (l.point === point.id ? unit || l.id === `${point.id} appliance` : named.includes(l.point))
      for (const l of c.graph.loads) {
        if (bad.has(l.id) || !feeds(l)) continue
        const s = standsAt(open, l)
        const what = contact.kind === 'fuse' ? 'fuse' : 'switch'
        const name = called(c, point.id)
        if (runs(s, l))
          c.say(
            `${what}-bypassed`,
            'error',
            point.id,
            `${name}: the ${what} of the ${unit ? 'fused connection unit' : (fitted?.name ?? 'unit')} is bypassed: ` +
              `${l.name} stays on with it open. Supply on its supply side, load on its load side.`,
          )
        else if (contact.kind === 'fuse' && s.line.some(isLine))
          c.say(
            'fuse-in-neutral',
            'error',
            point.id,
            `${name}: the fuse is in the ${words(c).neutral}: with it blown ${l.name} is still live. Exchange supply ` +
              `${words(c).line} and ${words(c).neutral}.`,
          )
        else if (
          contact.kind === 'actuator' &&
          fitted &&
          fitted.poles >= 2 &&
          (s.line.some(isLine) || (opens.has(l.across ? 'line-2' : 'neutral') && s.other.length > 0))
        )
          c.say(
            'one-pole-bypassed',
            'error',
            point.id,
            `${name}: with the ${fitted.name} open one conductor of ${l.name} is still connected. Take both through it.`,
          )
      }
      reversedUnit(c, place, contact)
    }
  }
}

/** A unit fed on its load side: what it feeds works, and its fuse stays live with the switch off. */
function reversedUnit(c: Check, { point, kind }: Place, contact: Contact): void {
  if (contact.kind !== 'fuse' || !kind) return
  // What is ahead of its fuse: its switch, or its residual device.
  const ahead = c.graph.contacts.filter((x) => x.point === point.id && x.device === contact.device && x.kind !== 'fuse')
  const open = joinedIn(c.graph, new Map(ahead.map((x) => [x.key, 0])))
  const load = kind.terminals.find((t) => t.takes?.cable === 'load' && t.takes.role === 'line')
  const device = c.boxes.get(point.id)?.devices.find((d) => d.kind === kind && d.point === point.id)
  const box = c.boxes.get(point.id)
  const node = load && device && box && c.graph.nodes.get(nodeOf(box.id, terminalName(device.id, load.id)))
  if (node !== undefined && open.sourcesAt(node).some(isLine))
    c.say(
      'supply-on-load',
      'error',
      point.id,
      `${called(c, point.id)}: the supply is on LOAD and the load on SUPPLY: with it off, its fuse is still live. Exchange them.`,
    )
}

/** Each point that the design guards loses power with its guard, and only what is there can guard. */
function guards(c: Check): void {
  const { job, report } = c
  const rcd = worlds[job.region].says.aResidual
  for (const g of guardingDevices(job, report.circuit, report.chosen.design)) {
    const at = g.point?.id ?? (report.circuit.points.length === 0 && !g.atBoard ? report.circuit.end?.id : undefined)
    if (g.atBoard || at === undefined || !c.boxes.has(at)) continue
    const devices = c.graph.contacts.filter((x) => x.point === at && x.kind === 'residual')
    if (devices.length === 0) {
      c.say(
        'guard-missing',
        'error',
        at,
        `${called(c, at)}: the design needs ${rcd} here and the box has none. Fit one, or protect it elsewhere.`,
        ['guard'],
      )
      continue
    }
    const open = joinedIn(c.graph, new Map(devices.map((x) => [x.key, 0])))
    const guarded = new Set([at, ...g.guards.map((p) => p.id)])
    const alive = c.graph.loads.filter((l) => guarded.has(l.point) && runs(standsAt(c.on, l), l) && standsAt(open, l).line.some(isLine))
    const fitted = c.plan.places.get(at)?.fitted
    const unable = fitted !== null && fitted !== undefined && !hasGuardedLoad(fitted)
    // Both halves of an outlet are reported once.
    for (const [, [l, more]] of grouped(alive, (x) => x.point)) {
      if (!l) continue
      const own = l.point === at
      const mend = own
        ? 'LINE and LOAD are exchanged: put the feed on LINE'
        : unable
          ? `The ${fitted.name} has no load terminals: fit one that has, or protect the circuit at the board`
          : 'Put the cable that goes on to it on LOAD'
      c.say(
        'guard-bypassed',
        'error',
        at,
        `${more ? called(c, l.point) : l.name} is not protected by ${rcd} at ${called(c, at)}: when it trips, this stays live. ${mend}.`,
        [l.id],
      )
    }
  }
}

/** What must stay on is behind no switch that somebody uses. */
function mustStayOn(c: Check): void {
  const off = joinedIn(
    c.graph,
    new Map(c.graph.contacts.flatMap((x) => (x.kind === 'actuator' && switchesByHand(c, x.point) ? [[x.key, 0] as const] : []))),
  )
  for (const l of c.graph.loads) {
    const p = c.plan.places.get(l.point)?.point
    if (!p?.mustHold || !runs(standsAt(c.on, l), l) || runs(standsAt(off, l), l)) continue
    c.say(
      'must-hold-switched',
      'error',
      l.point,
      `${l.name} must stay on and is behind a switch. Feed it from the permanent ${words(c).line}.`,
    )
  }
}
const switchesByHand = (c: Check, point: string): boolean => {
  const kind = c.plan.places.get(point)?.fitted?.kind
  return kind === 'switch' || kind === 'thermostat'
}

/** With one leg of a ring lifted off the board every conductor still reaches its end. */
function ring(c: Check): void {
  if (c.report.circuit.kind !== 'ring' || c.graph.closing.length === 0) return
  const open = joinedIn(c.graph, new Map(), { lifted: true })
  for (const { role, node, source } of c.graph.closing) {
    if (open.same(node, source)) continue
    const box = c.opened.find((b) => b.cables.some((k) => k.ends.some((e) => e.conductor.role === role && endsNowhere(b, e.name))))
    const end = box?.cables.flatMap((k) => k.ends).find((e) => e.conductor.role === role && endsNowhere(box, e.name))
    const what = role === 'pe' ? words(c).protective : role === 'neutral' ? words(c).neutral : words(c).line
    const at = box && end ? ` In the box of ${box.name} the ${endWords(box, end.name)} is ${whereEnds(box, end.name)}.` : ''
    const point = box ? pointOfBox(c, box) : c.boxes.keys().next().value!
    c.say('ring-open', 'error', point, `The ${what} of the ring is not closed: one leg carries everything.${at} Connect it end to end.`, [
      role,
    ])
  }
}
const endsNowhere = (box: Box, end: string): boolean => (box.bench.ends.find((e) => e.end === end)?.to ?? CAP) === CAP

/** Where two feeds come to a box, one protective conductor left off still leaves a path to earth: each is joined all the same. */
function protectiveCapped(c: Check, said: readonly AskedFinding[]): void {
  for (const box of c.opened) {
    if (box.usual) continue
    const all = box.cables.flatMap((k) => k.ends.filter((e) => e.conductor.role === 'pe').map((e) => ({ k, e })))
    for (const { k, e } of all) {
      if (all.length < 2 || k.circuit !== c.report.circuit.id || !endsNowhere(box, e.name)) continue
      if (said.some((f) => f.rule === 'no-earth' && f.at.includes(e.name))) continue
      const { protective } = words(c)
      c.say(
        'protective-capped',
        'error',
        k.point,
        `${box.name}: the ${endWords(box, e.name)} is the ${protective} and is joined to nothing here. Join every ` +
          `${protective} in the box.`,
        [e.name],
        c.job.region === 'north-america' ? '250.148' : 'what the wiring does',
      )
    }
  }
}

/** What a hand can touch of a device, and its box, are bonded: its own terminal for that reaches the protective conductor. */
function bodies(c: Check): void {
  for (const box of c.opened) {
    const metal = box.bench.connectors.find((x) => connector(x.kind).ofBox)
    if (metal && !box.usual && box.points.some((p) => p.circuit === c.report.circuit.id)) {
      const node = c.graph.nodes.get(nodeOf(box.id, metal.id))
      if (node === undefined || !c.on.sourcesAt(node).includes('PE'))
        c.say('no-earth', 'error', pointOfBox(c, box), `${box.name}: the metal box has no ${words(c).protective}. Connect its terminal.`, [
          metal.id,
        ])
    }
    for (const d of box.devices) {
      if (!c.plan.places.has(d.point) && pointOf(box, d)?.circuit !== c.report.circuit.id) continue
      // An outlet or a light says it of itself.
      if (d.kind.body === null || d.kind.inside.some((x) => x.kind === 'socket' || x.kind === 'load')) continue
      const node = c.graph.nodes.get(nodeOf(box.id, terminalName(d.id, d.kind.body)))
      if (node !== undefined && c.on.sourcesAt(node).includes('PE')) continue
      const end = breakOf(c, 'pe', 'PE', d.point)
      const where = end.end ? `: the ${endWords(c.boxes.get(end.point)!, end.end)} is ${whereEnds(c.boxes.get(end.point)!, end.end)}` : ''
      c.say(
        'no-earth',
        'error',
        end.point,
        `${called(c, d.point)}: the ${d.kind.name} has no ${words(c).protective}${where}. Connect it.`,
        end.end ? [end.end] : [d.id],
      )
    }
  }
}

/** Accessories that the record has and the box has not, or others in their place. */
function missing(c: Check): void {
  for (const [point, { kind, fitted }] of c.plan.places) {
    const box = c.boxes.get(point)
    if (!box || box.usual || !kind) continue
    const fittedHere = box.devices.filter((d) => d.point === point)
    if (fittedHere.length === 0)
      c.say(
        'device-missing',
        'error',
        point,
        `${called(c, point)}: nothing is fitted for it in its box, and the record has ${fitted?.name ?? kind.name}. Fit it, or change ` +
          'the point.',
      )
    else if (!fittedHere.some((d) => d.kind.id === kind.id))
      c.say(
        'device-differs',
        'warning',
        point,
        `${called(c, point)}: ${listed(fittedHere.map((d) => d.kind.name))} is in its box, and the record has ` +
          `${fitted?.name ?? kind.name}. Fit what was chosen, or change the point.`,
      )
  }
}
