import {
  along,
  type BuildingInput,
  builtOf,
  headOver,
  joistsMade,
  noggingsKnown,
  openRooms,
  placed,
  type Room,
  type Side,
  sides,
} from '../building/house'
import { onOuterFace, standsOutside } from '../building/outside'
import type { Finding } from '../base/finding'
import { bestTo, type Reached, type Route, type WaysAsked } from '../building/route'
import { InputError } from '../base/input-error'
import { type BuildingRecord, inInsulation, joistsIn, newBuilding, otherwiseIn, weightsIn } from '../job/building'
import { type Beside, besideIn } from './beside'
import { type ClearancesAsked, clearanceFindings } from '../building/clearances'
import { staleBy } from '../building/stale'
import { boringFindings, type Part, routeSteps, type Step } from '../building/steps'
import { MAIN_BOARD } from '../job/board'
import { formatLength, formatTemperature, type UnitSystem } from '../base/format'
import { worlds } from '../region/worlds'
import type { Installation } from './installation'
import { type Cable, cableM, type CableRoute, type End } from '../job/cable'
import { sentence } from '../job/part'
import { plated, zoneFindings } from '../building/guarded'
import { type Built, type Hidden, sideOf, type WallRecord } from '../job/room'
import type { BoxRecord } from '../job/box'
import type { Job } from '../job/schema'
import { lruCache, once } from '../base/memory'

/** The building of a job as its ways are searched in, and what it lacks for that. */
export interface BuildingRead {
  /** Null while a way cannot be looked for; `lacks` says why. */
  readonly input: BuildingInput | null
  readonly rooms: readonly Room[]
  readonly names: ReadonlyMap<string, string>
  /** Points and boards that are at a place of it. */
  readonly standing: ReadonlySet<string>
  readonly lacks: readonly string[]
  readonly findings: readonly Finding[]
}

/** A place along a side from its west or south end, of one that was measured from the left as one faces it; and back. */
export const turned = (side: Side, lengthM: number, atM: number): number => (side === 'north' || side === 'west' ? atM : lengthM - atM)

/** The strings of pieces and what is measured of each room beside each other: a difference lies in one of them. */
const CLOSING_M = 0.02

function closing(job: Job): Finding[] {
  return job.walls.flatMap((w): Finding[] => {
    const measured = job.rooms.find((r) => r.id === w.room)?.measured
    if (!measured || w.side === undefined) return []
    const along = w.pieces.reduce((sum, p) => sum + p.lengthM, 0)
    const side = sideOf(measured, w.side)
    if (Math.abs(along - side) <= CLOSING_M) return []
    const [more, less] = [Math.max(along, side), Math.min(along, side)]
    const message =
      `${w.name}: its pieces come to ${along.toFixed(2)} m, the side of the room to ${side.toFixed(2)} m. ` +
      `The ${(more - less).toFixed(2)} m ` +
      `lie in one of its ${w.pieces.length} pieces or in the ` +
      `${w.side === 'north' || w.side === 'south' ? 'length' : 'width'} of the room: measure again.`
    return [{ rule: 'wall-not-closed', severity: 'warning', clause: 'As measured', message, about: `side:${w.side}:${w.room}` }]
  })
}

/** Base cabinets whose height was not measured. */
const CABINET_M = 0.9

/** Where each piece of a wall begins, from the left. */
const startsOf = ({ pieces }: WallRecord): number[] => pieces.map((_, i) => pieces.slice(0, i).reduce((sum, p) => sum + p.lengthM, 0))

function openingsOf(job: Job): BuildingInput['openings'] {
  return job.walls.flatMap((w) => {
    const room = job.rooms.find((r) => r.id === w.room)
    if (!room?.measured || w.side === undefined) return []
    const { side } = w
    const whole = sideOf(room.measured, side)
    const starts = startsOf(w)
    return w.pieces.flatMap((p, i) => {
      const [from, start] = [starts[i]!, starts[i]! + p.lengthM]
      if (p.what === 'wall' || p.what === 'sink' || p.what === 'basin') return []
      const atM = Math.max(0, Math.min(turned(side, whole, from), turned(side, whole, start)))
      const what = p.what === 'door' || p.what === 'window' || p.what === 'cabinets' || p.what === 'stairs' ? p.what : ('fixed' as const)
      // What is not measured of its height bars all of it.
      return [
        {
          id: `${w.id} ${p.id}`.slice(0, 64),
          room: room.id,
          side,
          atM,
          what,
          widthM: p.lengthM,
          sillM: p.sillM ?? 0,
          // Of base cabinets it is known that they do not reach the ceiling.
          headM: p.headM ?? (what === 'cabinets' ? CABINET_M : room.measured!.heightM),
        },
      ]
    })
  })
}

const hiddenId = (w: Pick<WallRecord, 'id'>, h: Hidden): string => `${w.id} ${h.id}`.slice(0, 64)
/** What is inside walls, what was found of them, and whether their faces stay closed. */
function insideOf(job: Job): Pick<BuildingInput, 'openings' | 'found'> {
  const openings: BuildingInput['openings'] = []
  const found: BuildingInput['found'] = []
  for (const w of job.walls) {
    const measured = job.rooms.find((r) => r.id === w.room)?.measured
    if (!measured || w.side === undefined || w.room === null) continue
    const [at, whole] = [{ room: w.room, side: w.side }, sideOf(measured, w.side)]
    for (const h of w.hidden ?? []) {
      const atM = Math.max(0, Math.min(turned(w.side, whole, h.atM), turned(w.side, whole, h.atM + h.widthM)))
      const headM = h.headM ?? measured.heightM
      openings.push({ id: hiddenId(w, h), ...at, atM, what: 'hidden', widthM: h.widthM, sillM: h.sillM, headM })
    }
    const studM = w.studAtM == null ? null : Math.min(Math.max(turned(w.side, whole, w.studAtM), 0), whole)
    const nogging = w.noggingAtM == null ? {} : { noggingM: w.noggingAtM === 'none' ? null : w.noggingAtM }
    const built = w.built ? { built: wallsOf(w.built) } : {}
    if (studM !== null || w.closed || w.noggingAtM != null || w.built)
      found.push({ ...at, closed: w.closed === true, ...(studM === null ? {} : { studM }), ...nogging, ...built })
  }
  // What a room or its storey is made of comes after what was found of a wall from either side of it.
  for (const r of job.rooms) {
    const walls = r.measured ? otherwiseIn(job.building, r, 'walls') : null
    if (walls) for (const side of sides) found.push({ room: r.id, side, closed: false, built: wallsOf(walls) })
  }
  return { openings, found }
}

function wallsOf(walls: Built | null): BuildingInput['walls'] {
  if (walls?.kind !== 'timber') return { kind: 'masonry' }
  const { kind, studM, depthMm, noggingM } = walls
  return { kind, studM, depthMm, ...(noggingM == null ? {} : { noggingM: noggingM === 'none' ? null : noggingM }) }
}

/** With the eaves of a roof not measured, head room is known under its ridge alone: used there, and reported for no other place. */
function atticOf(attic: BuildingRecord['attic']): BuildingInput['attic'] {
  if (attic === null || attic === 'none') return null
  const { headM, hot, roof } = attic
  return roof && roof.eavesM !== null ? { headM, hot, roof: { ridge: roof.ridge, eavesM: roof.eavesM } } : { headM, hot }
}

type Standing = {
  readonly id: string
  readonly overhead?: BoxRecord['overhead']
  readonly wall?: { readonly wall: string; readonly atM: number; readonly outside?: true | undefined } | null | undefined
  readonly heightMm?: number | null | undefined
  readonly room?: string | null | undefined
}
type Fixture = BuildingInput['points'][number]
function fixtureOf(job: Job, walls: ReadonlyMap<string, WallRecord>, { id, wall, heightMm, overhead, room }: Standing): Fixture[] {
  if (overhead && room) return [{ id, room, ...overhead }]
  const on = wall ? walls.get(wall.wall) : undefined
  if (!on || on.side === undefined || heightMm == null) return []
  const measured = job.rooms.find((r) => r.id === on.room)?.measured
  if (!measured) return []
  const whole = sideOf(measured, on.side)
  const atM = Math.min(Math.max(turned(on.side, whole, wall!.atM), 0), whole)
  const outside = wall!.outside ? { outside: true } : {}
  return [{ id, room: on.room!, side: on.side, atM, heightM: Math.min(heightMm / 1000, measured.heightM), ...outside }]
}

/** Reads the building out of the record; what an edit left alone is the building of before. */
export const buildingOf = (job: Job): BuildingRead =>
  buildingAmong([job.rooms, job.walls, job.building, job.points, job.boxes, job.boards], () => readBuilding(job))
const bare = newBuilding()
const buildingAmong = lruCache<BuildingRead>()

function readBuilding(job: Job): BuildingRead {
  const made = job.building ?? bare
  const measured = job.rooms.filter((r) => r.measured)
  const names = new Map(job.rooms.map((r) => [r.id, r.name]))
  const walls = new Map(job.walls.map((w) => [w.id, w]))
  const lacks: string[] = []
  if (measured.length === 0) lacks.push('No room is measured yet.')
  if (made.walls === null) lacks.push('Say what the walls are made of.')
  const loose = measured.filter((r) => r.measured!.beside === null)
  if (loose.length > 1)
    lacks.push(
      `Say what ${loose
        .slice(1)
        .map((r) => r.name)
        .join(', ')} ${loose.length > 2 ? 'lie' : 'lies'} beside.`,
    )
  const nothing = { rooms: [], names, standing: new Set<string>(), findings: closing(job) }
  if (measured.length === 0 || loose.length > 1) return { ...nothing, input: null, lacks }
  const boxes = new Map(job.boxes.map((b) => [b.id, b]))
  const points = job.points.flatMap((p) => (p.state === 'removed' ? [] : fixtureOf(job, walls, { ...boxes.get(p.box), id: p.id })))
  const inside = insideOf(job)
  const boards = job.boards.flatMap((b) => fixtureOf(job, walls, b)).flatMap((f) => ('side' in f ? [f] : []))
  const input: BuildingInput = {
    rooms: measured.map((r) => {
      const { beside, ...size } = r.measured!
      const floor = Math.min(Math.max(r.floor, -3), 20)
      const joists = otherwiseIn(job.building, r, 'joists')
      const room = {
        id: r.id,
        floor,
        ...size,
        ...(joists ? { joists: { runs: joists.runs, spacingM: joists.spacingM } } : {}),
        ...(otherwiseIn(job.building, r, 'attic') ? { flat: true } : {}),
        ...(otherwiseIn(job.building, r, 'crawl') ? { slab: true } : {}),
      }
      return beside ? { ...room, beside: { ...beside, open: beside.open ?? false } } : room
    }),
    openings: [...openingsOf(job), ...inside.openings],
    found: inside.found,
    obstacles: (made.obstacles ?? []).map(({ name: _, ...o }) => o),
    points,
    boards,
    walls: wallsOf(made.walls),
    joists: made.joists ? { runs: made.joists.runs, spacingM: made.joists.spacingM } : null,
    foundJoists: measured.flatMap((r) => (r.joistAtM == null ? [] : [{ room: r.id, atM: r.joistAtM }])),
    attic: atticOf(made.attic),
    crawl: made.crawl === 'none' ? null : made.crawl,
    outside: made.outside === 'there',
    gridM: 0.6,
  }
  try {
    const rooms = placed(input)
    const inOpen = (f: Fixture) => !('side' in f && f.outside) || standsOutside(rooms, f)
    const lost = points.filter((p) => !inOpen(p)).map((p) => job.points.find((x) => x.id === p.id)!.name || 'A point')
    if (lost.length > 0) lacks.push(`${lost.join(', ')}: said to be outside, where another room is.`)
    return {
      input: made.walls === null ? null : input,
      rooms,
      names,
      standing: new Set([...points.filter(inOpen), ...boards].map((f) => f.id)),
      lacks,
      findings: nothing.findings,
    }
  } catch (e) {
    if (!(e instanceof InputError)) throw e
    return { ...nothing, input: null, lacks: [...lacks, e.message] }
  }
}

/** A cable of a circuit with what it leads from and to, as a way is asked for. */
export interface Leg {
  readonly cable: string
  readonly from: string
  readonly to: string
  /** What has no known place in the building yet. */
  readonly unplaced: readonly string[]
}

/** The board or point that an end is at. */
export const standsAt = (job: Job, end: End): string =>
  end.kind === 'way' ? (job.ways.find((w) => w.id === end.id)?.board ?? 'main') : end.id

/** The cables of a circuit, in order, as legs of its way. */
export const legsOf = (job: Job, circuit: string): readonly Leg[] =>
  job.cables.filter((k) => k.circuit === circuit).map((k) => legOf(job, k))
function legOf(job: Job, { id, from: a, to: b }: Cable): Leg {
  const { standing } = buildingOf(job)
  const [from, to] = [standsAt(job, a), standsAt(job, b)]
  return { cable: id, from, to, unplaced: [from, to].filter((end) => !standing.has(end)) }
}

const wantedLately = lruCache<readonly WaysAsked[] | null>()
/** The ways to look for: of each cable of a circuit whose ends are in the building; null for none. The same until it changes. */
export function waysWanted(job: Job, circuit: string): readonly WaysAsked[] | null {
  const { input } = buildingOf(job)
  const { forbid, force } = job.building ?? bare
  const weights = weightsIn(job.building)
  const ends = legsOf(job, circuit).flatMap((l) => (l.unplaced.length ? [] : [l.from, l.to]))
  if (!input || ends.length === 0) return null
  return wantedLately([input, weights, forbid, force, ...ends], () => {
    const end = (id: string) => (input.boards.some((b) => b.id === id) ? { board: id } : { point: id })
    return ends.flatMap((from, i) =>
      i % 2 ? [] : [{ building: input, from: end(from), to: [end(ends[i + 1]!)], weights, forbid: [...forbid], force: [...force] }],
    )
  })
}

const orderLately = lruCache<WaysAsked | null>()
/** Points one search goes through in their best order. */
const MOST_IN_ORDER = 7
/** The way through all points of a circuit in whatever order costs least; null where there is no choice, or one has no place. */
export function orderWanted(job: Job, circuit: string): WaysAsked | null {
  const { input } = buildingOf(job)
  const { forbid } = job.building ?? bare
  const weights = weightsIn(job.building)
  const record = job.circuits.find((c) => c.id === circuit)
  const legs = legsOf(job, circuit)
  const points = legs.map((l) => l.to)
  const able =
    record?.kind === 'radial' && legs.every((l) => l.unplaced.length === 0) && points.length > 1 && points.length <= MOST_IN_ORDER
  if (!input || !able) return null
  return orderLately([input, weights, forbid, ...points, legs[0]!.from], () => {
    const { from } = legs[0]!
    const start = input.boards.some((b) => b.id === from) ? { board: from } : { point: from }
    return { building: input, from: start, to: points.map((point) => ({ point })), weights, forbid: [...forbid] }
  })
}

const reachedLately = lruCache<ReadonlyMap<string, Reached>>()
/** The best ways from a point to everything else that is in the building; null where its place is not known. */
export function reachedFrom(job: Job, point: string): ReadonlyMap<string, Reached> | null {
  const { input, standing } = buildingOf(job)
  if (!input || !standing.has(point)) return null
  const { forbid } = job.building ?? bare
  const weights = weightsIn(job.building)
  return reachedLately([input, weights, forbid, point], () =>
    bestTo(
      input,
      weights,
      forbid,
      point,
      [...standing].filter((id) => id !== point),
    ),
  )
}

/** Where a point or a board is; null where its place is not known. */
function spotOf({ input, rooms }: BuildingRead, id: string): readonly [number, number, number] | null {
  const f = [...(input?.points ?? []), ...(input?.boards ?? [])].find((x) => x.id === id)
  const room = rooms.find((r) => r.id === f?.room)
  if (!f || !room) return null
  return 'side' in f
    ? [...(f.outside ? onOuterFace : along)(room, f.side, f.atM), room.foot + f.heightM]
    : [room.west + f.eastM, room.south + f.northM, f.underfoot ? room.foot : room.head]
}

/** What lies within this of where it was is where it was. */
const MOVED_M = 0.15

/** Whether a way that was taken still begins and ends where its cable does, or why not. */
function movedWay(read: BuildingRead, route: CableRoute, leg: Leg): string | null {
  if (!read.input) return null
  const ends = [
    [leg.from, route.elements[0]!.path[0]!],
    [leg.to, route.elements.at(-1)!.path.at(-1)!],
  ] as const
  for (const [id, was] of ends) {
    const now = spotOf(read, id)
    if (now === null) return 'one of its ends is no longer on the plan'
    if (Math.hypot(now[0] - was[0], now[1] - was[1], now[2] - was[2]) > MOVED_M) return 'one of its ends has moved'
  }
  return null
}

/** The studs of the wall a part is in, from face to face; null: not measured; not said: it is in no hollow wall. */
const depthIn =
  ({ rooms, input }: BuildingRead) =>
  ({ room: id, side }: Part): number | null | undefined => {
    const room = rooms.find((r) => r.id === id)
    const built = room && side && input ? builtOf(input, rooms, room, side) : null
    return built?.kind === 'timber' ? (built.depthMm ?? null) : undefined
  }

/** Parts of a way over whose holes steel plates go. */
export const platesOfWay = (job: Job, parts: readonly Part[]): ReadonlySet<number> =>
  plated(parts, job.region, (job.building ?? bare).holeMm, depthIn(buildingOf(job)))

const besideClause: Readonly<Record<Job['region'], string>> = {
  'north-america': '310.15(C)(1)',
  'united-kingdom': '523.5',
  'southern-africa': 'SANS 10142-1 grouping',
}
const besideFinding = (job: Job, { circuit, lengthM }: Beside): Finding => ({
  rule: 'beside-on-way',
  severity: 'note',
  clause: besideClause[job.region],
  message:
    `For ${formatLength(lengthM, worlds[job.region].units)} it lies together with the cable of ` +
    `${job.circuits.find((c) => c.id === circuit)?.name || 'another circuit'}, ` +
    'so each carries less. Keep them one cable thickness apart and they do not warm each other.',
})

/** The least depth of the joists over a crawl space; null where one of them was not measured. */
function shallowest(job: Job, { rooms }: BuildingRead): number | null {
  const open = new Set(openRooms(rooms, false).map((r) => r.id))
  const depths = job.rooms.flatMap((r) => (open.has(r.id) ? [joistsIn(job.building, r)?.depthMm ?? null] : []))
  return depths.length === 0 || depths.includes(null) ? null : Math.min(...depths.flatMap((d) => d ?? []))
}

/** What a way may come too near to, as it was entered. */
function clearancesOf(
  job: Job,
  { rooms, names }: BuildingRead,
): Pick<ClearancesAsked, 'rooms' | 'names' | 'region' | 'hidden' | 'cabinets' | 'baths'> {
  const at = job.walls.flatMap((w) => {
    const measured = job.rooms.find((r) => r.id === w.room)?.measured
    if (!measured || w.side === undefined || w.room === null) return []
    const { room, side } = { room: w.room, side: w.side }
    const whole = sideOf(measured, side)
    const from = (start: number, wide: number) => {
      const ends = [turned(side, whole, start), turned(side, whole, start + wide)]
      return { room, side, fromM: Math.min(...ends), toM: Math.max(...ends) }
    }
    return [{ w, from, tall: measured.heightM }]
  })
  const pieces = at.flatMap(({ w, from }) =>
    startsOf(w).map((start, i) => ({ piece: w.pieces[i]!, at: from(start, w.pieces[i]!.lengthM) })),
  )
  return {
    rooms,
    names,
    region: job.region,
    hidden: at.flatMap(({ w, from, tall }) =>
      (w.hidden ?? []).flatMap((h) =>
        h.what === 'cables'
          ? []
          : [{ ...from(h.atM, h.widthM), name: h.what, hot: h.what === 'flue', sillM: h.sillM, headM: h.headM ?? tall }],
      ),
    ),
    cabinets: pieces.flatMap(({ piece, at: a }) =>
      piece.what === 'cabinets' ? [{ ...a, name: piece.what, behindMm: piece.behindMm ?? null }] : [],
    ),
    baths: pieces.flatMap(({ piece, at: a }) => (piece.what === 'bath' || piece.what === 'shower' ? [{ ...a, name: piece.what }] : [])),
  }
}

/** Warmth and insulation of the places that a way leads through: asked for, and held against what its stretches are reckoned at. */
function warmth(job: Job, cable: Cable): Finding[] {
  const { elements } = cable.route!
  const attic = job.building?.attic
  const { thermal, units } = worlds[job.region]
  const warm = (c: number) => formatTemperature(c, units)
  const found: Finding[] = []
  if (attic && attic !== 'none' && attic.hot && elements.some((e) => e.kind === 'attic')) {
    const { ambientC } = attic
    const there = cable.stretches.flatMap((s) => (s.place === 'attic' ? [s.ambientC] : []))
    // A cable without stretches of its own is reckoned as its circuit is.
    const circuit = job.circuits.find((c) => c.id === cable.circuit)
    const design = circuit?.designs.find((d) => d.id === circuit.chosen) ?? circuit?.designs[0]
    const least = Math.min(...(there.length > 0 || !design ? there : [design.ambientC]))
    if (ambientC == null)
      found.push({
        rule: 'attic-warmth-not-known',
        severity: 'unknown',
        clause: thermal.ambient,
        message: 'It runs under a hot roof: the temperature there was not entered, so what the cable carries is not known.',
      })
    else if (least < ambientC)
      found.push({
        rule: 'attic-warmer',
        severity: 'warning',
        clause: thermal.ambient,
        message:
          `It gets ${warm(ambientC)} under the roof; the cable there is calculated at ${warm(least)}: ` +
          `${there.length > 0 ? 'choose the route again, or change the section.' : 'enter that ambient temperature for its circuit.'}`,
      })
  }
  if (thermal.insulation === null) return found
  if (elements.some((e) => inInsulation(job, e) === null))
    found.push({
      rule: 'insulation-not-known',
      severity: 'unknown',
      clause: thermal.insulation,
      message: 'Part of it is hidden where insulation was not checked: a cable in insulation carries as little as half.',
    })
  if (elements.some((e) => inInsulation(job, e)) && cable.stretches.every((s) => s.insulationMm === 0))
    found.push({
      rule: 'lies-in-insulation',
      severity: 'note',
      clause: thermal.insulation,
      message: 'Part of it lies in insulation: it is calculated by the method that was chosen, which must be one for cable in insulation.',
    })
  return found
}

/** Why a chosen route cannot be taken any more as the building is now recorded; null: nothing recorded bars it. */
function staleRoute(job: Job, { rooms, input }: BuildingRead, { elements }: CableRoute): string | null {
  if (input) return staleBy({ parts: elements, input, rooms, forbid: job.building?.forbid ?? [] })
  const through = (kind: string) => elements.some((e) => e.kind === kind)
  if (job.building?.attic === 'none' && through('attic')) return 'there is no attic'
  return job.building?.crawl === 'none' && through('crawl') ? 'there is no crawl space' : null
}

/** A length that was typed and is shorter than the route it takes. */
function shorterThanRoute(job: Job, k: Cable) {
  const typed = cableM(k)
  const routeM = k.route!.elements.reduce((sum, e) => sum + e.lengthM, 0)
  if (typed === null || typed >= routeM * 0.98) return []
  const { units } = worlds[job.region]
  return [
    {
      rule: 'route-length',
      severity: 'warning' as const,
      clause: 'As the building was entered',
      message:
        `The cable is recorded as ${formatLength(typed, units)} and its route is ${formatLength(routeM, units)} long. Use the length ` +
        'of the route, or choose the route again.',
    },
  ]
}

/** What is wrong with the building as measured, and with the ways that were taken through it. */
export const routeFindings = once((job: Job): readonly (Finding & { readonly circuit: string | null })[] => {
  const routed = job.cables.filter((k) => k.route && k.circuit !== null)
  const read = buildingOf(job)
  const made = job.building ?? bare
  const depthOf = depthIn(read)
  const joistMm = shallowest(job, read)
  const beside = besideIn(job)
  return [
    ...read.findings.map((f) => ({ circuit: null, ...f })),
    ...(beside.size ? job.circuits : []).flatMap((c) => (beside.get(c.id) ?? []).map((b) => ({ ...besideFinding(job, b), circuit: c.id }))),
    ...routed.flatMap((k) => {
      const moved = movedWay(read, k.route!, legOf(job, k)) ?? staleRoute(job, read, k.route!)
      const again = moved && {
        rule: 'way-moved',
        severity: 'warning' as const,
        clause: 'As the building was entered',
        message: `The route of this cable was chosen, and ${moved}: choose it again.`,
      }
      const bored = boringFindings({ parts: k.route!.elements, region: job.region, holeMm: made.holeMm, depthOf, joistMm })
      const hidden = read.input ? zoneFindings(k.route!.elements, read.input, read.rooms, read.names, job.region) : []
      const near = clearanceFindings({
        ...clearancesOf(job, read),
        parts: k.route!.elements,
        holeMm: made.holeMm,
        cableMm: made.cableMm ?? null,
        depthOf,
      })
      return [...(again ? [again] : []), ...shorterThanRoute(job, k), ...bored, ...hidden, ...near, ...warmth(job, k)].map((f) => ({
        circuit: k.circuit,
        about: `cable:${k.id}`,
        ...f,
      }))
    }),
  ]
})

/** The names of everything that may be in the building, and its rooms. */
export const placeNames = once(
  (job: Installation): ReadonlyMap<string, string> =>
    new Map([
      ...job.rooms.map((r) => [r.id, r.name] as const),
      ...job.points.map((p) => [p.id, p.name] as const),
      ...job.record.walls.flatMap((w) => (w.hidden ?? []).map((h) => [hiddenId(w, h), h.what] as const)),
      ...(job.building?.obstacles ?? []).map((o) => [o.id, o.name] as const),
      ...job.record.boards.map(
        (b) => [b.id, b.name || (b.id === MAIN_BOARD ? job.supply.board : '') || sentence(worlds[job.region].words.board)] as const,
      ),
    ]),
)

/** A way as work to be done, in the words and the measures of the job. */
export function stepsOfWay(job: Installation, parts: readonly Part[], units: UnitSystem): readonly Step[] {
  const { rooms, input } = buildingOf(job.record)
  const made = job.building ?? bare
  return routeSteps({
    parts,
    rooms,
    names: placeNames(job),
    region: job.region,
    units,
    holeMm: made.holeMm,
    headAt: (space, [x, y]) => {
      if (!input?.[space]) return null
      if (space === 'crawl') return input.crawl!.headM
      const sloping = made.attic !== null && made.attic !== 'none' && made.attic.roof !== undefined
      return sloping && !input.attic!.roof ? null : headOver(input, rooms)(x, y)
    },
    noggingsKnown: ({ room: id, side }) => {
      const room = rooms.find((r) => r.id === id)
      return !input || !room || !side || noggingsKnown(input, rooms, room, side)
    },
    joistsKnown: input !== null && rooms.every((r) => joistsMade(input, r) !== null),
  })
}

/** Parts of a route that was found as a cable keeps them, without what they cost. */
export const asElements = (parts: readonly Part[]): CableRoute['elements'] =>
  parts.map(({ kind, room, side, beyond, lengthM, minutes, holes, openings, path }) => ({
    kind,
    room,
    side,
    beyond,
    lengthM,
    minutes,
    holes,
    openings,
    path: path.map(([x, y, z]): [number, number, number] => [x, y, z]),
  }))

/** A route that was found, as a cable keeps it. */
export const asTaken = (route: Route, at: string): CableRoute => ({
  cutM: route.pieces.reduce((sum, p) => sum + p.lengthM, 0),
  elements: asElements(route.elements),
  at,
})

/** Whether a cable is reckoned at what its way asks for, or at what was typed since; null where it has no way. */
export function lengthFrom(
  cable: Pick<Cable, 'lengthM' | 'stretches' | 'route'>,
): { readonly way: boolean; readonly m: number | null } | null {
  if (!cable.route) return null
  const m = cableM(cable)
  return { way: m !== null && Math.abs(m - cable.route.cutM) < 0.02, m }
}
