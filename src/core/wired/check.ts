import { UnionFind } from '../base/union-find'
import { connector } from '../catalogue/connectors'
import type { Inside } from '../catalogue/devices'
import type { Finding, Severity } from '../base/finding'
import { grouped } from '../base/grouped'
import type { Installation } from '../installation/installation'
import { type BenchRecord, CAP, tailEndName, terminalName } from '../job/bench'
import { areaMm2 } from '../design/prices'
import { formatSize } from '../base/format'
import { sentence } from '../job/part'
import type { Conductor, WireColour } from '../region/colours'
import { worlds } from '../region/worlds'
import { endWords, jointName, placeWords } from '../build/words'
import type { Box, DeviceAt } from '../build/box'
import { enclosureOf } from '../build/choose-box'
import type { CoreEnd } from '../build/cores'
import type { House } from './house'
import { nodeOf } from './laid'
import { LIVE_V, type Live, type OutletState } from './live'

/** What is wrong in a box, with the ends or terminals it is about. */
export interface BoxFinding extends Finding {
  readonly point: string
  readonly at: readonly string[]
}
const finding = (point: string, rule: string, severity: Severity, message: string, at: readonly string[], clause = ''): BoxFinding => ({
  rule,
  severity,
  clause,
  message,
  point,
  at,
})

/** What an actuator of a device may join in any of its positions. */
function joinable(d: DeviceAt, x: Inside): readonly (readonly [string, string])[] {
  if (x.kind === 'pole') return x.joins.flatMap((j) => (j ? [j] : []))
  return x.kind === 'numbered' && d.pairing !== undefined ? x.ways[d.pairing]! : []
}

/** What a conductor may be joined to through closed poles in any position of any switch: lines, the neutral, earth. */
export type Carries = 'line' | 'neutral' | 'earth'
export type CarriedAt = (node: string) => ReadonlySet<Carries>
export function carriedIn({ input, boxes }: Pick<House, 'input' | 'boxes'>): CarriedAt {
  const joined = new UnionFind()
  const join = (a: string, b: string) => joined.join(a, b)
  const root = (n: string) => joined.root(n)
  for (const e of input.elements) {
    if (e.kind === 'wire') join(e.a, e.b)
    else if (e.kind === 'switch') for (const p of e.poles) join(p.a, p.b)
    else if (e.kind === 'breaker' || e.kind === 'rcd') for (const p of e.poles) join(p.line, p.load)
  }
  for (const b of boxes)
    for (const d of b.devices)
      for (const [p, q] of d.kind.inside.flatMap((x) => joinable(d, x)))
        join(nodeOf(b.id, terminalName(d.id, p)), nodeOf(b.id, terminalName(d.id, q)))
  const sources: readonly (readonly [string, Carries])[] = [
    ...(input.supply.system === 'split-phase' ? (['L1', 'L2'] as const) : (['L'] as const)).map((l) => [l, 'line'] as const),
    ['N', 'neutral'],
    ['PE', 'earth'],
  ]
  const of = new Map<string, Set<Carries>>()
  for (const [node, carries] of sources) {
    const at = root(node)
    of.set(at, (of.get(at) ?? new Set()).add(carries))
  }
  const none: ReadonlySet<Carries> = new Set()
  return (node) => of.get(root(node)) ?? none
}

const neutralColours: Readonly<Record<'volume' | 'depth', Readonly<Record<'new' | 'old', readonly WireColour[]>>>> = {
  volume: { new: ['white', 'grey'], old: ['white', 'grey'] },
  depth: { new: ['blue'], old: ['black'] },
}
const earthColours: readonly WireColour[] = ['bare', 'green', 'greenYellow']

interface Held {
  readonly end: string
  readonly size: string | null
}
/** The ends made off at each place of a box, with their sizes. A tail is as thick as what it is fed from. */
function heldAt(box: Box): ReadonlyMap<string, readonly Held[]> {
  const size = new Map<string, string | null>()
  for (const k of box.cables) for (const e of k.ends) size.set(e.name, e.conductor.role === 'pe' ? k.protectiveSize : k.size)
  return new Map(
    [...grouped(box.bench.ends, (e) => e.to)].map(([to, ends]) => [to, ends.map((e) => ({ end: e.end, size: size.get(e.end) ?? null }))]),
  )
}

/** A connector, called as in the order of work: what it holds against what it takes. */
function checkConnector(
  name: string,
  { id, kind }: BenchRecord['connectors'][number],
  ends: readonly Held[],
  say: Tell,
  clause: string,
): void {
  const of = connector(kind)
  const areas = ends.flatMap((h) => (h.size === null ? [] : [areaMm2(h.size)]))
  const area = areas.reduce((a, b) => a + b, 0)
  if (ends.length === 0) say('connector-empty', 'note', `${name} holds nothing.`, [id])
  else if (ends.length === 1 && !of.ofBox) say('connector-one', 'warning', `${name} holds one conductor: it joins nothing.`, [id])
  else if (ends.length > of.most || area > of.mostMm2 || areas.some((x) => x > of.eachMm2))
    say(
      'connector-full',
      'error',
      `${name} (${of.name.toLowerCase()}) takes ${of.most} conductors at the most, each up to ` +
        `${of.eachMm2} mm², and holds ${ends.length}. ` +
        'Read what its packet says.',
      [id, ...ends.map((h) => h.end)],
      clause,
    )
  else if (of.twisted && areas.length === ends.length && area < of.leastMm2)
    say('connector-loose', 'error', `${name} is too large for what it holds: it slips off.`, [id], clause)
}

/** Ends of cores and of tails that nothing was made of. */
function checkOpenEnds(box: Box, protective: string, say: Tell): void {
  const made = new Set(box.bench.ends.map((e) => e.end))
  const all: readonly (readonly [string, Conductor | null])[] = [
    ...box.cables.flatMap((k) => k.ends.map((e): [string, Conductor] => [e.name, e.conductor])),
    ...box.bench.tails.flatMap((t) => (['a', 'b'] as const).map((s): [string, null] => [tailEndName(t.id, s), null])),
  ]
  for (const [name, conductor] of all) {
    if (made.has(name)) continue
    const protects = conductor?.role === 'pe'
    const words = `The ${endWords(box, name)} ends nowhere: make it off, or cap it.${protects ? ` It is the ${protective}.` : ''}`
    say('end-open', protects ? 'error' : 'warning', words, [name])
  }
}

function checkNeutrals(job: Installation, box: Box, held: ReadonlyMap<string, readonly Held[]>, carried: CarriedAt, say: Tell): void {
  for (const [to, ends] of held) {
    if (to === CAP) continue
    const circuits = new Set(
      ends.flatMap(({ end }) => {
        const k = box.cables.find((c) => c.ends.some((e) => e.name === end))
        return k && carried(nodeOf(box.id, end)).has('neutral') ? [k.circuit] : []
      }),
    )
    if (circuits.size < 2) continue
    const names = [...circuits].map((c) => job.circuits.find((x) => x.id === c)?.name ?? c).join(' and ')
    const harm = 'current of one comes back by the other, and residual devices trip.'
    say('neutrals-joined', 'error', `Neutrals of ${names} are joined at ${placeWords(box, to)}: ${harm}`, [to])
  }
}

/** What is wrong with the joints of a box as they are made, before anything is alive. */
export function checkBox(job: Installation, box: Box, carried: CarriedAt): BoxFinding[] {
  const { cites, boxesBy, words } = worlds[job.region]
  const list: BoxFinding[] = []
  const say: Tell = (rule, severity, message, at, clause) => void list.push(finding(calledBy(box), rule, severity, message, at, clause))
  const held = heldAt(box)
  for (const d of box.devices) {
    checkTerminals(d, held, say, cites.joints)
    if (d.pairing !== undefined || d.kind.inside.every((x) => x.kind !== 'numbered')) continue
    const which = `Which terminals of the ${d.kind.name.toLowerCase()} join differs by maker: test it open and closed.`
    say('numbers-unknown', 'unknown', which, [])
  }
  const metal = job.points.some((p) => p.box.id === box.id && enclosureOf(job.region, p.box)?.metal === true)
  if (metal && !box.usual && !box.bench.connectors.some((c) => connector(c.kind).ofBox))
    say(
      'box-bond-unknown',
      'unknown',
      `Whether the metal box is connected to the ${words.protective} is not recorded. Look, and connect it.`,
      [],
    )
  for (const c of box.bench.connectors) checkConnector(sentence(jointName(box, c)), c, held.get(c.id) ?? [], say, cites.joints)
  checkOpenEnds(box, words.protective, say)
  checkNeutrals(job, box, held, carried, say)
  for (const k of box.cables) {
    const neutral = neutralColours[boxesBy][job.circuits.find((c) => c.id === k.circuit)?.colours ?? 'new']
    for (const e of k.ends) checkColour(box, e, carried(nodeOf(box.id, e.name)), neutral, say)
  }
  return list
}

/** The point that a box is reported at. */
const calledBy = (box: Box): string => box.points[0]?.id ?? box.id

type Tell = (rule: string, severity: Severity, message: string, at: readonly string[], clause?: string) => void
function checkTerminals(d: DeviceAt, held: ReadonlyMap<string, readonly Held[]>, say: Tell, clause: string): void {
  const largest = areaMm2(d.kind.largestSize)
  for (const t of d.kind.terminals) {
    const to = terminalName(d.id, t.id)
    const ends = held.get(to) ?? []
    if (ends.length > t.most)
      say(
        'terminal-full',
        'error',
        `${t.mark} of ${d.kind.name} is made for ${t.most === 1 ? 'one conductor' : `${t.most} conductors`} and ` +
          `holds ${ends.length}: join them ` +
          'in a connector with a tail.',
        [to, ...ends.map((h) => h.end)],
        clause,
      )
    for (const h of ends)
      if (h.size !== null && areaMm2(h.size) > largest + 0.01)
        say(
          'terminal-small',
          'error',
          `${t.mark} of ${d.kind.name} takes up to ${formatSize(d.kind.largestSize)}; ${formatSize(h.size)} does not go in.`,
          [to, h.end],
          clause,
        )
  }
}

/** A conductor whose colour says something else than it carries is marked at both ends; a protective one never carries anything else. */
function checkColour(box: Box, e: CoreEnd, carries: ReadonlySet<Carries>, neutral: readonly WireColour[], say: Tell): void {
  const { colour, role, clause } = e.conductor
  const marked = box.bench.marked.includes(e.name)
  const words = endWords(box, e.name)
  const line = carries.has('line')
  if (earthColours.includes(colour) && line)
    say('earth-core-live', 'error', `The ${words} carries a line. A protective conductor is never used for that, however it is marked.`, [
      e.name,
    ])
  else if (neutral.includes(colour) && line && !carries.has('neutral') && !marked)
    say('mark-line', 'warning', `The ${words} carries a line in some position of a switch: mark it at both ends.`, [e.name], clause ?? '')
  else if (!neutral.includes(colour) && !earthColours.includes(colour) && carries.has('neutral') && !line && !marked)
    say('mark-neutral', 'warning', `The ${words} is used as a neutral and its colour says line.`, [e.name])
  else if (marked && role === 'neutral' && e.conductor.remark === undefined && carries.has('neutral') && !line)
    say('mark-wrong', 'warning', `The ${words} is marked as a line and is the neutral.`, [e.name])
}

const volts = (v: number): string => `${v >= 10 ? Math.round(v) : v.toFixed(1)} V`

/** What falls out of the solved wiring at the outlets and ends of a box. */
export function checkLive(house: House, live: Live, box: Box, lineV: number): BoxFinding[] {
  const list: BoxFinding[] = []
  const say = (rule: string, severity: Severity, message: string, at: readonly string[]) =>
    void list.push(finding(calledBy(box), rule, severity, message, at))
  for (const o of house.outlets) {
    if (!box.points.some((p) => p.id === o.point)) continue
    const state = live.outlets[o.id]!
    for (const [rule, severity, words] of outletSays(state, o.socket, lineV)) say(rule, severity, `${o.name}: ${words}`, [])
    if (o.guard !== null && state.guardedBy && !state.guardedBy.includes(o.guard))
      say('guards-nothing', 'error', `${o.name}: a leak here does not open the device it has itself. LINE and LOAD are reversed.`, [])
  }
  for (const d of box.devices) {
    if (d.kind.body === null) continue
    const at = live.potentials[nodeOf(box.id, terminalName(d.id, d.kind.body))] ?? null
    if (at !== null && at > LIVE_V)
      say('metal-live', 'error', `The metal of ${d.kind.name} is at ${volts(at)} to earth.`, [terminalName(d.id, d.kind.body)])
  }
  const made = new Map(box.bench.ends.map((e) => [e.end, e.to]))
  for (const k of box.cables)
    for (const e of k.ends) {
      const at = live.potentials[nodeOf(box.id, e.name)] ?? null
      if (at === null || at <= LIVE_V) continue
      if (!made.has(e.name)) say('bare-live', 'error', `The bare end of the ${endWords(box, e.name)} is at ${volts(at)}.`, [e.name])
    }
  for (const [end, watts] of Object.entries(live.hot)) {
    if (!end.startsWith(`${box.id}|`) || watts < 0.5) continue
    const name = end.slice(box.id.length + 1)
    say('screw-hot', 'error', `Not tight, the end of the ${endWords(box, name)} turns ${watts.toFixed(watts < 10 ? 1 : 0)} W to heat.`, [
      name,
    ])
  }
  return list
}

/** What an outlet shows that is not as it should be. */
function outletSays(s: OutletState, socket: boolean, lineV: number): readonly (readonly [string, Severity, string])[] {
  const out: [string, Severity, string][] = []
  const [line, other] = [s.line ?? 0, s.other ?? 0]
  const alive = Math.max(line, other) > LIVE_V
  if (s.earth !== null && s.earth > LIVE_V) out.push(['earth-live', 'error', `its earth is at ${volts(s.earth)}: exposed metal is live.`])
  if (s.across > LIVE_V && s.across < 0.8 * lineV)
    out.push(['half-voltage', 'error', `${volts(s.across)} where ${lineV} V or more belongs: it lies in series with something.`])
  if (alive && s.across < LIVE_V) {
    if (s.other === null || s.line === null)
      out.push([
        'one-side-open',
        'error',
        `dead, and yet ${volts(Math.max(line, other))} are on one side: the other side is not connected.`,
      ])
    else if (socket)
      out.push(['both-alike', 'error', `both sides are at ${volts(Math.max(line, other))}: nothing works and everything is live.`])
    else out.push(['off-yet-live', 'error', `off, and yet at ${volts(Math.max(line, other))}: what is switched is not the line.`])
  }
  // Across two lines both sides are live; to one line and the neutral only the one.
  const oneLine = s.across < 1.4 * lineV
  if (alive && s.across >= LIVE_V && oneLine && other > line)
    out.push(['reversed', 'error', 'line and neutral are exchanged: what is switched off there stays live.'])
  if (alive && s.across >= LIVE_V && !s.earthed) out.push(['no-earth', 'error', 'it is not earthed.'])
  return out
}
/** Kinds of what is inside a device that a hand moves or breaks. */
export const tabsOf = (d: DeviceAt): readonly Extract<Inside, { kind: 'tab' }>[] =>
  d.kind.inside.flatMap((x) => (x.kind === 'tab' ? [x] : []))
