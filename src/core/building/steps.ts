import type { Finding } from '../base/finding'
import { formatLength, formatMark, formatSmallLength, type UnitSystem } from '../base/format'
import type { RegionId } from '../region/types'
import { grouped } from '../base/grouped'
import { worlds } from '../region/worlds'
import { supportsOf } from './supports'
import { boredHole } from '../calculate/bored-hole'
import { type Room, type Side, sideLength } from './house'
import type { WayKind } from './ways'

type Place = readonly [x: number, y: number, z: number]
/** A part of a way, as it was chosen. */
export interface Part {
  readonly kind: WayKind
  readonly room: string | null
  readonly side: Side | null
  readonly beyond: string | null
  readonly lengthM: number
  readonly minutes: number
  readonly holes: number
  readonly openings: number
  readonly path: readonly Place[]
}
/** What is at a step in the drawings: a hole, an opening to make good, a cable laid, a fixing. */
export type StepMark = 'hole' | 'opening' | 'cable' | 'close'
export interface Step {
  readonly mark: StepMark
  /** The parts of the way it is done at, by their place in it. */
  readonly parts: readonly number[]
  readonly at: Place
  readonly words: string
  readonly caution: { readonly words: string; readonly clause: string } | null
  /** Somebody aloft as well as somebody at the wall. */
  readonly people: 1 | 2
  readonly minutes: number
}
export interface StepsAsked {
  readonly parts: readonly Part[]
  readonly rooms: readonly Room[]
  readonly names: ReadonlyMap<string, string>
  readonly region: RegionId
  readonly units: UnitSystem
  /** Bored for the cable, in millimetres. */
  readonly holeMm: number
  /** Head room at a place of a space; null: not measured. */
  readonly headAt: (space: 'attic' | 'crawl', at: Place) => number | null
  /** Whether anybody looked for noggings in the wall of a part, and which way joists run. */
  readonly noggingsKnown: (part: Part) => boolean
  readonly joistsKnown: boolean
}

/** Where a wall's place lies from its left end, as one faces it from inside its room. */
function fromLeft(room: Room, side: Side, [x, y]: Place): number {
  const along = side === 'north' || side === 'south' ? x - room.west : y - room.south
  const whole = sideLength(room, side)
  return Math.min(Math.max(side === 'north' || side === 'west' ? along : whole - along, 0), whole)
}

type Clauses = Readonly<Record<RegionId, string>>
/** Which end of a part is bored: what leads up into an attic at its foot, what leads down into a crawl space at its head. */
export function boredAt({ kind, path }: Pick<Part, 'kind' | 'path'>): Place {
  const [first, last] = [path[0]!, path.at(-1)!]
  if (kind === 'top-plates' || kind === 'ceiling-hole') return last[2] < first[2] ? last : first
  if (kind === 'sole-plate' || kind === 'floor-hole') return last[2] > first[2] ? last : first
  return first
}

const clauses = (na: string, uk: string, za: string): Clauses => ({ 'north-america': na, 'united-kingdom': uk, 'southern-africa': za })
const sans = (what: string): string => `SANS 10142-1 ${what}`
const zones = clauses('300.4(A)(1)', '522.6.202', sans('protection against mechanical damage'))
const drilling = clauses('300.4(A)', '522.6', sans('protection against mechanical damage'))
function headRoom(part: Part, { headAt, units }: StepsAsked, space: 'attic' | 'crawl'): string {
  const m = headAt(space, boredAt(part))
  if (m === null) return 'head room not measured'
  return `head room ${m < 0.6 ? formatSmallLength(m * 1000, units) : formatLength(m, units)}${m < 1.2 ? ': angle drill' : ''}`
}

type Sayer = (part: Part, asked: StepsAsked, at: { readonly wall: string; readonly left: string; readonly high: string }) => string | null
/** What is bored or opened at each kind of part, before anything is pulled. */
const boring: Partial<Record<WayKind, Sayer>> = {
  'top-plates': (p, a, { wall, left }) =>
    `Bore ${size(a)} through both top plates of ${wall}, ${left}, in the middle of the timber (${headRoom(p, a, 'attic')}).`,
  'sole-plate': (p, a, { wall, left }) =>
    `Bore ${size(a)} through the sole plate and the floor under ${wall}, ${left}, in the middle of the timber ` +
    `(${headRoom(p, a, 'crawl')}).`,
  'ceiling-hole': (p, a, { wall, left }) =>
    `Bore ${size(a)} through the ceiling ${p.side ? `at ${wall}, ${left}` : `of ${named(a, p.room)}`} ` +
    `(${headRoom(p, a, 'attic')} above).`,
  'floor-hole': (p, a, { wall, left }) =>
    `Bore ${size(a)} through the floor ${p.side ? `at ${wall}, ${left}` : `of ${named(a, p.room)}, at the appliance`} ` +
    `(${headRoom(p, a, 'crawl')} below): look underneath first.`,
  stud: (p, a, { wall, high }) =>
    `Open the lining of ${wall} ${high}, and bore ${size(a)} through ${p.holes} ${p.holes === 1 ? 'stud' : 'studs'}, each in its middle.`,
  nogging: (p, a, { wall, left }) =>
    `Open the lining of ${wall} at its ${worlds[a.region].words.noggings}, ${left}, ` +
    `and bore ${size(a)} through in the middle of the timber, in line with the hole above.`,
  crawl: (p, a) =>
    p.holes > 0
      ? `Under the floor bore ${size(a)} through ${p.holes} ${p.holes === 1 ? 'joist' : 'joists'}, each in the middle of its depth ` +
        `and in the third of its span next to a support (${headRoom(p, a, 'crawl')}).`
      : null,
  corner: (p, a, { wall, high }) =>
    `Open the lining in the corner of ${wall} and the ${p.beyond} wall ${high}, ` +
    `and bore ${size(a)} through the corner studs from both sides.`,
  storey: (p, a, { wall, left }) =>
    `Open the lining of ${wall} below the ceiling, ${left}, ` +
    `and bore ${size(a)} up through its plates and the floor into ${named(a, p.beyond)}.`,
  partition: (p, a, { wall, left, high }) => `Lead it through ${wall} to ${named(a, p.beyond)}, ${left}, ${high}: it is one wall of both.`,
  'into-void': (p, a, { wall, left }) =>
    p.side
      ? `Lift a tile at ${wall}, ${left}, and bore ${size(a)} into the wall above it.`
      : `Lift a tile of the ceiling of ${named(a, p.room)}, and bore ${size(a)} through the one beside the box.`,
  'void-wall': (p, a, { wall, left }) =>
    `Above the suspended ceiling bore ${size(a)} through ${wall} to ${named(a, p.beyond)}, ${left}; sleeve it.`,
  'wall-hole': (p, a, { wall, left, high }) =>
    `Bore ${size(a)} through ${wall} to ${named(a, p.beyond)}, ${left}, ${high}; sleeve it, with a fall to the outside where one side ` +
    'is outdoors.',
  'out-hole': (_, a, { wall, left, high }) =>
    `Bore ${size(a)} through ${wall} to the outside, ${left}, ${high}, with a fall outward; seal it on both sides.`,
  emerge: (_, a, { wall, left, high }) => `Bring it out of ${wall} onto its face, ${left}, ${high}: a ${size(a)} hole with a bush.`,
}
/** How often it is fixed along a part. */
function fixed(p: Part, a: StepsAsked): string {
  const supports = supportsOf(p, a.region).length
  return supports === 0
    ? ''
    : ` ${supports} ${supports === 1 ? 'support' : 'supports'}, ` +
        `${formatSmallLength(worlds[a.region].supports.levelM * 1000, a.units)} apart.`
}
/** How it is laid along each kind of part. */
const laying: Partial<Record<WayKind, Sayer>> = {
  cavity: (p, a, { wall, left }) =>
    `${p.path.at(-1)![2] < p.path[0]![2] ? 'Drop' : 'Draw up'} ${formatLength(p.lengthM, a.units)} inside ${wall}, ${left}` +
    `${a.noggingsKnown(p) ? '.' : `; feel for ${worlds[a.region].words.noggings} first: not checked.`}`,
  nogging: (p, a, { wall, left }) =>
    `${p.path.at(-1)![2] < p.path[0]![2] ? 'Drop' : 'Draw up'} ${formatLength(p.lengthM, a.units)} inside ${wall}, ${left}, ` +
    `through its ${worlds[a.region].words.noggings}.`,
  attic: (p, a) =>
    `Lay ${formatLength(p.lengthM, a.units)} through the attic, along joists clipped to their sides, across them between guard strips` +
    `${a.joistsKnown ? '.' : '; joist direction not checked.'}${fixed(p, a)}`,
  crawl: (p, a) =>
    `Lay ${formatLength(p.lengthM, a.units)} through the crawl space, ` +
    `${a.joistsKnown ? 'clipped to the joists along them and through those it crosses' : 'clipped to the joists'}, off the ground.` +
    fixed(p, a),
  'ceiling-void': (p, a) =>
    `Lay ${formatLength(p.lengthM, a.units)} above the suspended ceiling of ${named(a, p.room)}, fixed to what is above it, ` +
    `never to its hangers.${fixed(p, a)}`,
  surface: (p, a, { wall }) =>
    `Fix ${formatLength(p.lengthM, a.units)} of conduit or trunking on the face of ` +
    `${p.side ? wall : `the ceiling of ${named(a, p.room)}`}.`,
  outside: (p, a, { wall }) => `Fix ${formatLength(p.lengthM, a.units)} of conduit along the outside of ${wall}, with a place to drain.`,
  'outside-corner': (p, _, { wall }) => `Go round the corner outside from ${wall} to the ${p.beyond} wall, with an access bend.`,
  cabinets: (p, a, { wall }) =>
    `Take the drawers out, and fix ${formatLength(p.lengthM, a.units)} behind the base cabinets along ${wall}, below the lowest drawer.` +
    fixed(p, a),
  'surface-corner': (p, _, { wall }) => `Go round the corner from ${wall} to the ${p.beyond} wall on the face, with an access bend.`,
}
const cautionOf: Partial<Record<WayKind, { readonly words: string; readonly clause: Clauses }>> = {
  'top-plates': {
    words: 'Measure it above and below: the bay must hold the hole and the cut-out, with no stud between. Look for pipes and cables first.',
    clause: drilling,
  },
  'sole-plate': { words: 'Know what lies under the floor before the bit comes through: pipes, ducts, other cables.', clause: drilling },
  'floor-hole': { words: 'Know what lies under the floor before the bit comes through: pipes, ducts, other cables.', clause: drilling },
  'ceiling-hole': { words: 'Bore from below with somebody watching above, clear of joists.', clause: drilling },
  stud: {
    words: 'A hidden level run lies in a prescribed zone only at the height of an accessory on that wall, or is protected.',
    clause: zones,
  },
  nogging: {
    words: 'Look for cables and pipes beside it before the lining is cut; a plate where the hole comes near its face.',
    clause: drilling,
  },
  corner: {
    words: 'Within 150 mm of a corner is a prescribed zone; a hidden level run elsewhere is none, unless an accessory is on it.',
    clause: zones,
  },
  storey: { words: 'Stop the gap again where a floor holds back fire.', clause: clauses('300.21', '527.2', sans('fire barriers')) },
  attic: {
    words: 'Tread on joists only; mask, gloves and a light; somebody knows you are up there. Crush no duct.',
    clause: clauses('334.23', '522.6', sans('protection against mechanical damage')),
  },
  crawl: {
    words: 'Look for standing water, nails and animals; somebody knows you are down there.',
    clause: clauses('334.15(C)', '522.6', sans('protection against mechanical damage')),
  },
  'ceiling-void': {
    words: 'Support the cable on wires of its own, not on the tiles. Where the void carries air, the cable must be rated for that.',
    clause: clauses('300.11; 300.22(C)', '522.8; 527.1', sans('support of cables')),
  },
  'void-wall': { words: 'Stop the gap again where the wall holds back fire.', clause: clauses('300.21', '527.2', sans('fire barriers')) },
  surface: {
    words: 'Where it can be struck it needs the stronger tube, and it is never in reach of a sink.',
    clause: clauses('300.4', '522.6', sans('protection against mechanical damage')),
  },
  cabinets: {
    words: 'Drawers, bins that pull out and vents must not foul it when they are back; it is fixed out of sight and out of reach.',
    clause: clauses('300.4; 334.30', '522.6; 522.8', sans('protection against mechanical damage')),
  },
  outside: {
    words: 'Sun and wet: tube, fittings and boxes made for it, and an expansion fitting where a long straight piece is of plastic.',
    clause: clauses('300.9', '522.3; 522.11', sans('external influences')),
  },
  'out-hole': {
    words: 'Know what is in the wall before the bit comes through, and what is behind it outside.',
    clause: drilling,
  },
  'wall-hole': { words: 'Seal it on both sides.', clause: clauses('300.7', '522.3', sans('external influences')) },
}

const named = ({ names }: StepsAsked, room: string | null): string => (room === null ? 'the next room' : (names.get(room) ?? room))
const size = ({ holeMm, units }: StepsAsked): string => formatSmallLength(holeMm, units)

function placeWords(part: Part, a: StepsAsked): { wall: string; left: string; high: string } {
  const room = a.rooms.find((r) => r.id === part.room)
  const wall = part.side === null ? named(a, part.room) : `the ${part.side} wall of ${named(a, part.room)}`
  if (!room) return { wall, left: '', high: '' }
  const from = boredAt(part)
  const left = part.side === null ? '' : `${formatMark(fromLeft(room, part.side, from), a.units)} from its left corner as you face it`
  return { wall, left, high: `${formatMark(Math.max(0, from[2] - room.foot), a.units)} above the floor` }
}

/** Of the minutes of what is opened so much goes into closing it. */
const CLOSE_PART = 0.4
/** The way as work: what is opened and bored, then what is pulled and fixed from its beginning on, then what is closed again. */
export function routeSteps(a: StepsAsked): readonly Step[] {
  const steps: Step[] = []
  const put = (mark: StepMark, i: number, words: string, share: number, people: 1 | 2 = 1) => {
    const part = a.parts[i]!
    const warned = cautionOf[part.kind]
    // Said where it is met first.
    // Where hidden cable has no prescribed zones there are none to keep to.
    const holds = warned && (warned.clause !== zones || worlds[a.region].hiddenZones !== null)
    const caution =
      warned && holds && !steps.some((x) => x.caution?.words === warned.words) ? { ...warned, clause: warned.clause[a.region] } : null
    const at = boredAt(part)
    steps.push({ mark, parts: [i], at, words, caution, people, minutes: part.minutes * share })
  }
  const said = a.parts.map((part) => {
    const at = placeWords(part, a)
    return { bored: boring[part.kind]?.(part, a, at) ?? null, laid: laying[part.kind]?.(part, a, at) ?? null }
  })
  /** What opens a surface closes it again; what is bored and laid too takes half of the rest for each. */
  const shareOf = (i: number): number =>
    (a.parts[i]!.openings > 0 ? 1 - CLOSE_PART : 1) / (said[i]!.bored !== null && said[i]!.laid !== null ? 2 : 1)
  for (const [i, part] of a.parts.entries())
    if (said[i]!.bored !== null) put(part.openings > 0 ? 'opening' : 'hole', i, said[i]!.bored, shareOf(i))
  for (const [i, part] of a.parts.entries()) {
    const nextToPlates = [a.parts[i - 1], a.parts[i + 1]].some((p) => p?.kind === 'top-plates' || p?.kind === 'sole-plate')
    const inside = part.kind === 'cavity' || part.kind === 'nogging'
    if (said[i]!.laid !== null) put('cable', i, said[i]!.laid, shareOf(i), inside && nextToPlates ? 2 : 1)
  }
  const opened = a.parts.flatMap((p, i) => (p.openings > 0 ? [i] : []))
  if (opened.length)
    steps.push({
      mark: 'close',
      parts: opened,
      at: a.parts[opened[0]!]!.path[0]!,
      words: `Test what is in the wall, then close and make good ${opened.length === 1 ? 'the opening' : `the ${opened.length} openings`}.`,
      caution: null,
      people: 1,
      minutes: opened.reduce((sum, i) => sum + CLOSE_PART * a.parts[i]!.minutes, 0),
    })
  const pulls = steps.filter((s) => s.people === 2)
  return steps.map((s) => (s === pulls[0] ? { ...s, words: `${s.words} Two people: one where it goes in, one where it comes out.` } : s))
}

interface Bored extends Pick<StepsAsked, 'parts' | 'region' | 'holeMm'> {
  /** Of the studs of the wall that a part is in, from face to face; null: not measured; not said: it is on none. */
  readonly depthOf: (part: Part) => number | null | undefined
  /** Of a joist; null: not measured. */
  readonly joistMm: number | null
}
export const inStuds: readonly WayKind[] = ['stud', 'nogging', 'corner', 'top-plates', 'storey']

/** Each timber that is crossed, held against what may be bored through it. */
export function boringFindings(a: Bored): Finding[] {
  const crossed = grouped(
    a.parts.filter((p) => inStuds.includes(p.kind)),
    a.depthOf,
  )
  return [...joistFindings(a), ...[...crossed].flatMap(([mm, parts]) => (mm === undefined ? [] : studFindings(a, mm, parts)))]
}

/** Studs of one depth. */
function studFindings({ region, holeMm }: Bored, depthMm: number | null, parts: readonly Part[]): Finding[] {
  const mm = (x: number) => formatSmallLength(x, worlds[region].units)
  const clause = drilling[region]
  if (depthMm === null)
    return [
      {
        rule: 'stud-depth-not-known',
        severity: 'unknown',
        clause,
        message:
          `${parts.reduce((n, p) => n + p.holes, 0)} holes are bored through framing whose depth was not measured: ` +
          'how near the face they come is not known.',
      },
    ]
  if (depthMm < holeMm)
    return [
      { rule: 'hole-too-large', severity: 'error', clause, message: `A hole of ${mm(holeMm)} is wider than a stud of ${mm(depthMm)}.` },
    ]
  const edgeMm = (depthMm - holeMm) / 2
  const judged = boredHole({ region, member: { kind: 'stud-bearing', depthMm }, hole: { diameterMm: holeMm, edgeMm } })
  const plate: Finding = {
    rule: 'plate-needed',
    severity: 'warning',
    clause,
    message: `A hole of ${mm(holeMm)} in a stud of ${mm(depthMm)} leaves ${mm(edgeMm)} to each face: fit a steel plate over each.`,
  }
  return [...judged.findings, ...(judged.plateNeeded ? [plate] : [])]
}

/** Joists that are crossed under a floor. */
function joistFindings({ parts, region, holeMm, joistMm }: Bored): Finding[] {
  const mm = (x: number) => formatSmallLength(x, worlds[region].units)
  const bored = parts.reduce((n, p) => (p.kind === 'crawl' ? n + p.holes : n), 0)
  if (bored === 0) return []
  if (joistMm === null)
    return [
      {
        rule: 'joist-depth-not-known',
        severity: 'unknown',
        clause: drilling[region],
        message:
          `${bored} ${bored === 1 ? 'joist is' : 'joists are'} bored whose depth was not measured: ` +
          'how large a hole one bears is not known.',
      },
    ]
  if (joistMm < holeMm)
    return [
      {
        rule: 'hole-too-large',
        severity: 'error',
        clause: drilling[region],
        message: `A hole of ${mm(holeMm)} is wider than a joist of ${mm(joistMm)} is deep.`,
      },
    ]
  const hole = { diameterMm: holeMm, edgeMm: (joistMm - holeMm) / 2 }
  return boredHole({ region, member: { kind: 'joist', depthMm: joistMm }, hole }).findings
}
