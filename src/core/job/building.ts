import { z } from 'zod'
import { type Side, sides } from '../building/house'
import { lieOf } from '../building/picture'
import { usualWeights, type WayKind, type Weights } from '../building/ways'
import { once } from '../base/memory'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'
import type { Board } from './board'
import type { BoxRecord } from './box'
import {
  behind,
  type Cable,
  type CableRoute,
  cableRouteSchema,
  lay,
  type Laying,
  listOf,
  MOST_STRETCHES,
  sourceOf,
  type Stretch,
} from './cable'
import { newStretch } from './design'
import type { CircuitRecord } from './circuit'
import { amount, idField, text } from './fields'
import { edits, EditError, inList } from './part'
import { newPoint, type PointRecord, putPoint } from './point'
import { type Built, builtSchema, type Room, sideOf, type WallRecord, wallOn } from './room'

const weight = z.number().min(0).max(1000)
/** What is in an attic or a crawl space, over a rectangle of a room, from its south-west corner as one stands in the room. */
const obstacleSchema = z.strictObject({
  id: idField,
  name: text(60),
  space: z.enum(['attic', 'crawl']),
  room: idField,
  eastM: amount.max(200),
  northM: amount.max(200),
  lengthM: amount.positive().max(200),
  widthM: amount.positive().max(200),
  /** It gets hot: a flue, a duct of warm air. */
  hot: z.literal(true).optional(),
})
/** Which way joists run, how far apart they are, and how deep. */
const joistsSchema = z.strictObject({
  runs: z.enum(['east', 'north']),
  spacingM: z.number().min(0.2).max(1.5),
  depthMm: z.number().min(50).max(600).nullable(),
})
export type Joists = z.infer<typeof joistsSchema>
/** What a storey, or a room, is made of otherwise than the rest; what is not said is as elsewhere. */
const otherwiseSchema = z.strictObject({
  id: idField,
  of: z.union([z.strictObject({ room: idField }), z.strictObject({ floor: z.int().min(-5).max(50) })]),
  walls: builtSchema.optional(),
  joists: joistsSchema.optional(),
  /** No attic above it, but a flat roof; no crawl space below, but a slab. */
  attic: z.literal('none').optional(),
  crawl: z.literal('none').optional(),
})
export type Otherwise = z.infer<typeof otherwiseSchema>
const fraction = z.number().min(0).max(10)
const onPicture = z.tuple([fraction, fraction])
const onGround = z.tuple([z.number().min(-2000).max(2000), z.number().min(-2000).max(2000)])
/** A photograph that lies under the plan of a storey: two places on it, the width of it being 1, and where they are in the building. */
const pictureSchema = z.strictObject({
  floor: z.int().min(-5).max(50),
  photograph: idField,
  /** Its height for its width. */
  aspect: z.number().positive().max(10),
  marks: z.tuple([onPicture, onPicture]),
  places: z.tuple([onGround, onGround]),
})
export type PictureRecord = z.infer<typeof pictureSchema>
export type ObstacleRecord = z.infer<typeof obstacleSchema>

/** How the building is made. Null: not looked at. */
export const buildingSchema = z.strictObject({
  walls: builtSchema.nullable(),
  attic: z
    .union([
      z.literal('none'),
      z.strictObject({
        headM: z.number().min(0.2).max(5),
        hot: z.boolean(),
        /** How warm it gets, in °C; and whether a cable there lies in insulation. Null: nobody looked. */
        ambientC: z.number().min(-20).max(100).nullable().optional(),
        filled: z.boolean().nullable().optional(),
        /** Under a roof that slopes: which way its ridge runs, and the head room left at the eaves; null: not measured. */
        roof: z.strictObject({ ridge: z.enum(['east', 'north']), eavesM: z.number().min(0).max(5).nullable() }).optional(),
      }),
    ])
    .nullable(),
  crawl: z.union([z.literal('none'), z.strictObject({ headM: z.number().min(0.2).max(5) })]).nullable(),
  /** Conduit outside of the walls: whether it may be; null: not said. */
  outside: z.enum(['none', 'there']).nullable().optional(),
  /** The joists of floors and ceilings: which way they run, how far apart, and how deep. */
  joists: joistsSchema.nullable().optional(),
  /** Storeys and rooms that are made otherwise; of a room its own comes before that of its storey. */
  otherwise: z.array(otherwiseSchema).max(60).optional(),
  /** What is bored for a cable, in millimetres. */
  holeMm: z.number().min(6).max(80),
  /** Of the cable, its larger side; null: not measured. */
  cableMm: z.number().min(3).max(80).nullable().optional(),
  weights: z.strictObject({
    minute: weight,
    metre: weight,
    hole: weight,
    opening: weight,
    hot: weight.min(1),
    cramped: weight.min(1),
    /** As usual where they are not said. */
    second: weight.optional(),
    outage: weight.optional(),
  }),
  /** Places that no cable may take, and that one must, as routes name them. */
  forbid: z.array(text(200)).max(100),
  force: z.array(text(200)).max(4),
  /** Cables that take one way are kept apart by their own thickness, so that none warms another. */
  apart: z.boolean().optional(),
  /** What no cable goes through above and below the rooms: ducts, tanks, what nobody can get past. */
  obstacles: z.array(obstacleSchema).max(100).optional(),
  /** Pictures under the plan, one a storey. */
  pictures: z.array(pictureSchema).max(20).optional(),
})
export type BuildingRecord = z.infer<typeof buildingSchema>

export const newBuilding = (): BuildingRecord => ({
  walls: null,
  attic: null,
  crawl: null,
  holeMm: 20,
  weights: { ...usualWeights },
  forbid: [],
  force: [],
})

interface Doc extends Laying {
  region: RegionId
  building?: BuildingRecord | undefined
  rooms: Room[]
  walls: WallRecord[]
  boards: Board[]
  points: PointRecord[]
  circuits: CircuitRecord[]
}
const edit = edits<Doc>()

const sameScope = (a: Otherwise['of'], b: Otherwise['of']): boolean =>
  'room' in a ? 'room' in b && a.room === b.room : 'floor' in b && a.floor === b.floor

const weightsOf = once((made: BuildingRecord): Weights => ({ ...usualWeights, ...made.weights }))
/** What counts in a way, as it was set, else as usual. */
export const weightsIn = (made: BuildingRecord | undefined): Weights => (made ? weightsOf(made) : usualWeights)

type Made = Pick<BuildingRecord, 'otherwise' | 'joists'>
/** What is said of a room otherwise than of the rest: of itself, else of its storey; null: nothing. */
export function otherwiseIn<K extends 'walls' | 'joists' | 'attic' | 'crawl'>(
  made: Pick<BuildingRecord, 'otherwise'> | undefined,
  { id, floor }: Pick<Room, 'id' | 'floor'>,
  what: K,
): NonNullable<Otherwise[K]> | null {
  const said = (made?.otherwise ?? []).filter((o) => o[what] !== undefined)
  const own = said.find((o) => 'room' in o.of && o.of.room === id) ?? said.find((o) => 'floor' in o.of && o.of.floor === floor)
  return own?.[what] ?? null
}
/** The joists over and under a room; null: not looked at. */
export const joistsIn = (made: Made | undefined, room: Pick<Room, 'id' | 'floor'>): Joists | null =>
  otherwiseIn(made, room, 'joists') ?? made?.joists ?? null

/** What a cable lies in, by the part of its way. */
export const placeOf: Readonly<Record<WayKind, Stretch['place']>> = {
  cavity: 'wall',
  stud: 'wall',
  nogging: 'wall',
  corner: 'wall',
  'top-plates': 'wall',
  'ceiling-hole': 'attic',
  'sole-plate': 'wall',
  'floor-hole': 'underfloor',
  storey: 'wall',
  partition: 'wall',
  attic: 'attic',
  crawl: 'underfloor',
  'ceiling-void': 'attic',
  'into-void': 'wall',
  'void-wall': 'attic',
  surface: 'surface',
  'surface-corner': 'surface',
  emerge: 'surface',
  cabinets: 'surface',
  'wall-hole': 'surface',
  outside: 'outdoors',
  'outside-corner': 'outdoors',
  'out-hole': 'wall',
}

interface Part {
  readonly place: Stretch['place']
  readonly lengthM: number
  /** As warm as it gets there; null: as the design has it. */
  readonly ambientC: number | null
  readonly insulationMm: number
}
/** Where a cable lies under the roof itself. */
const underRoof: readonly WayKind[] = ['attic', 'ceiling-hole']
/** How a wall is built, as its room knows it. */
export function builtAt(doc: Pick<Doc, 'building' | 'rooms' | 'walls'>, room: string | null, side: Side | null): Built | null {
  const found = doc.walls.find((w) => w.room === room && w.side === side)?.built
  const own = doc.rooms.find((r) => r.id === room)
  return found ?? (own ? otherwiseIn(doc.building, own, 'walls') : null) ?? doc.building?.walls ?? null
}
/** Whether a part of a way lies in insulation; null: not looked at; not said: there is none where it lies. */
export function inInsulation(
  doc: Pick<Doc, 'building' | 'rooms' | 'walls'>,
  { kind, room, side }: Pick<CableRoute['elements'][number], 'kind' | 'room' | 'side'>,
): boolean | null | undefined {
  const attic = doc.building?.attic
  if (kind === 'attic') return attic && attic !== 'none' ? (attic.filled ?? null) : undefined
  if (kind !== 'cavity' && kind !== 'stud' && kind !== 'nogging') return undefined
  const built = builtAt(doc, room, side)
  return built?.kind === 'timber' ? (built.filled ?? null) : undefined
}
/** A way as stretches of one manner each, together as long as what is cut for it. */
function partsOf(doc: Doc, { elements, cutM }: NonNullable<Cable['route']>): Part[] {
  const walked = elements.reduce((sum, e) => sum + e.lengthM, 0)
  const attic = doc.building?.attic
  // What was given while it was said to be hot counts only as long as it is.
  const roofC = attic && attic !== 'none' && attic.hot ? (attic.ambientC ?? null) : null
  const each = elements.map((e): Part => {
    const lengthM = walked > 0 ? (e.lengthM * cutM) / walked : cutM / elements.length
    const insulationMm = inInsulation(doc, e) ? lengthM * 1000 : 0
    return { place: placeOf[e.kind], lengthM, ambientC: underRoof.includes(e.kind) ? roofC : null, insulationMm }
  })
  const alike = (a: Part, b: Part): boolean => a.place === b.place && a.ambientC === b.ambientC
  const joined = (one: (parts: readonly Part[], p: Part) => Part | undefined): Part[] => {
    const parts: Part[] = []
    for (const p of each) {
      const known = one(parts, p)
      if (known) Object.assign(known, { lengthM: known.lengthM + p.lengthM, insulationMm: known.insulationMm + p.insulationMm })
      else parts.push({ ...p })
    }
    return parts
  }
  const inOrder = joined((parts, p) => (parts.length > 0 && alike(parts.at(-1)!, p) ? parts.at(-1) : undefined))
  // More than a cable may have: each manner once, however often the way comes back to it.
  const parts = inOrder.length <= MOST_STRETCHES ? inOrder : joined((known, p) => known.find((k) => alike(k, p)))
  return parts.map((p) => ({ ...p, lengthM: Math.round(p.lengthM * 1000) / 1000, insulationMm: Math.round(p.insulationMm) }))
}

/** Lengths and stretches of a cable as its way gives them. */
function asRouted(doc: Doc, cable: Cable): void {
  const parts = partsOf(doc, cable.route!)
  const total = parts.reduce((sum, p) => sum + p.lengthM, 0)
  const circuit = doc.circuits.find((c) => c.id === cable.circuit)
  if (!circuit || (parts.length === 1 && parts[0]!.ambientC === null && parts[0]!.insulationMm === 0)) {
    cable.lengthM = total
    cable.stretches = []
    return
  }
  const design = circuit.designs.find((d) => d.id === circuit.chosen) ?? circuit.designs[0]!
  const { metric } = worlds[doc.region]
  // A length in insulation goes with cable clipped to a surface; every other method counts its own.
  const counted = metric?.usual.insulation?.method === design.method
  cable.lengthM = null
  cable.stretches = parts.map(({ ambientC, insulationMm, ...p }, i): Stretch => ({
    ...newStretch(design, `r${i + 1}`),
    ...p,
    ...(ambientC === null ? {} : { ambientC }),
    insulationMm: counted ? insulationMm : 0,
  }))
}

const onWall = z.strictObject({
  side: z.enum(sides),
  atM: amount,
  heightMm: amount,
  wall: idField,
  /** On its outer face. */
  outside: z.literal(true).optional(),
})
const onCeiling = z.strictObject({ eastM: amount, northM: amount, underfoot: z.literal(true).optional() })

type Spot = z.infer<typeof onWall> | z.infer<typeof onCeiling>
/** What is on an outer face is outdoors; when it is brought in again that is asked again. */
function siteFollows({ points }: Doc, box: BoxRecord, outside: boolean): void {
  for (const p of points)
    if (p.box !== box.id) continue
    else if (outside) Object.assign(p, { place: 'outdoors', environment: 'outdoors' })
    else if (box.wall?.outside) Object.assign(p, { place: null, environment: null })
}
/** Something put to a wall or a ceiling of a room that is measured. */
function put(job: Doc, thing: Board | BoxRecord, room: string, spot: Spot): void {
  const { measured } = inList(job.rooms, room, 'room', 'room')
  if (!measured) throw new EditError('room', 'Measure this room first.')
  if ('side' in spot) {
    if (spot.atM > sideOf(measured, spot.side) + 1e-6) throw new EditError('spot.atM', 'The wall is not so long.')
    if (spot.heightMm > measured.heightM * 1000) throw new EditError('spot.heightMm', 'The room is not so high.')
    const wall = wallOn(job, room, spot.side, spot.wall, 'room')
    const outside = spot.outside ? { outside: spot.outside } : {}
    if ('hidden' in thing) siteFollows(job, thing, spot.outside === true)
    Object.assign(thing, { wall: { wall: wall.id, atM: spot.atM, ...outside }, heightMm: spot.heightMm })
    if ('overhead' in thing) delete thing.overhead
  } else {
    if (spot.eastM > measured.lengthM + 1e-6) throw new EditError('spot.eastM', 'The room is not so long.')
    if (spot.northM > measured.widthM + 1e-6) throw new EditError('spot.northM', 'The room is not so wide.')
    if ('hidden' in thing) siteFollows(job, thing, false)
    Object.assign(thing, { overhead: { ...spot }, wall: null })
  }
}

/** Refuses a way through rooms that are not there. */
function mustLeadThrough(job: Doc, { elements }: CableRoute, path: string): void {
  const rooms = new Set(job.rooms.map((r) => r.id))
  for (const [i, { room, kind, beyond }] of elements.entries()) {
    if (room !== null && !rooms.has(room)) throw new EditError(`${path}.elements.${i}.room`, 'This room is no longer in the job.')
    if (
      (kind === 'partition' || kind === 'storey' || kind === 'wall-hole' || kind === 'void-wall') &&
      (beyond === null || !rooms.has(beyond))
    )
      throw new EditError(`${path}.elements.${i}.beyond`, 'This room is no longer in the job.')
  }
}

/** A joint box in the middle of a cable, and another point fed from it. */
function breakIn(job: Doc, cable: Cable, branch: Cable, joint: PointRecord, room: string): void {
  const circuit = job.circuits.find((c) => c.id === cable.circuit)
  if (!circuit || branch.circuit !== circuit.id) throw new EditError('branch', 'It is on another circuit.')
  const list = listOf(job, circuit.id)
  const [beyond, fed] = [list.find((p) => p.id === cable.to.id), list.find((p) => p.id === branch.to.id)]
  if (!beyond || !fed) throw new EditError('cable', 'This cable leads to no point of the circuit.')
  // What is fed through the point itself cannot feed it.
  if (behind(list, fed.id).has(beyond.id)) throw new EditError('cable', 'This cable is fed through the point itself.')
  putPoint(job, joint, { room }, 'joint.id')
  const ring = circuit.kind === 'ring'
  const next = list.flatMap((p) => {
    if (p.id === beyond.id) {
      const from = ring && p.from === null ? null : joint.id
      return [
        { id: joint.id, from: p.from, lengthM: null, size: p.size },
        { ...p, from },
      ]
    }
    return [p.id === fed.id ? { ...p, from: joint.id } : p]
  })
  const { state, type, size, metal, live, proof, cores } = cable
  lay(job, circuit.id, sourceOf(job, circuit.id), next, ring)
  const own = job.cables.find((k) => k.circuit === circuit.id && k.to.id === joint.id)!
  Object.assign(own, { state, type, size, metal, live, proof }, cores ? { cores } : {})
}

export const buildingEdits = {
  'building.set': edit(
    { patch: buildingSchema.partial() },
    (job, { patch }) => {
      for (const [i, o] of (patch.obstacles ?? []).entries()) inList(job.rooms, o.room, 'room', `patch.obstacles.${i}.room`)
      for (const [i, p] of (patch.pictures ?? []).entries()) {
        if (lieOf(p) === null) throw new EditError(`patch.pictures.${i}.marks`, 'The two places are too near to each other.')
        if (patch.pictures!.some((o, k) => k < i && o.floor === p.floor))
          throw new EditError(`patch.pictures.${i}.floor`, 'A picture lies under this storey already.')
      }
      for (const [i, { of }] of (patch.otherwise ?? []).entries()) {
        if ('room' in of) inList(job.rooms, of.room, 'room', `patch.otherwise.${i}.of`)
        if (patch.otherwise!.some((o, k) => k < i && sameScope(o.of, of)))
          throw new EditError(`patch.otherwise.${i}.of`, 'There is an exception for this already: change that one.')
      }
      const made = { ...(job.building ?? newBuilding()), ...patch }
      // Where a joist was found is measured across the way they run.
      for (const r of job.rooms) {
        const runs = joistsIn(made, r)?.runs
        if (runs !== undefined && runs !== joistsIn(job.building, r)?.runs) delete r.joistAtM
      }
      job.building = made
    },
    ({ patch }, say) => `Building: ${say.fields(patch)}`,
  ),
  /** Where a point or a board is in the building: on a wall, from the left as one faces it, or on the ceiling. */
  'place.put': edit(
    { what: z.enum(['point', 'board']), id: idField, room: idField, spot: z.union([onWall, onCeiling]) },
    (job, { what, id, room, spot }) => {
      if (what === 'board' && (!('side' in spot) || spot.outside)) throw new EditError('spot', 'A board is mounted on a wall, indoors.')
      if (what === 'board') put(job, inList(job.boards, id, 'board'), room, spot)
      else {
        const box = inList(job.boxes, inList(job.points, id, 'point').box, 'box')
        put(job, box, room, spot)
        box.room = room
      }
    },
    ({ id, room }, say, { rooms }) => `${say.name(id, 'Point')}: placed in ${rooms.find((r) => r.id === room)?.name ?? 'a room'}`,
  ),
  /** The way a cable takes; its lengths and stretches follow. */
  'route.take': edit(
    { cable: idField, route: cableRouteSchema },
    (job, { cable, route }) => {
      const known = inList(job.cables, cable, 'cable', 'cable')
      mustLeadThrough(job, route, 'route')
      known.route = route
      asRouted(job, known)
    },
    ({ route: { cutM, elements } }) => {
      const holes = elements.reduce((n, e) => n + e.holes, 0)
      return `Route chosen: ${cutM.toFixed(2)} m, ${holes} ${holes === 1 ? 'hole' : 'holes'}`
    },
  ),
  /** A joint box put into a cable, and another point of the circuit fed from it; the cable is two then, each with its part of the way. */
  'route.break': edit(
    {
      cable: idField,
      branch: idField,
      joint: z.strictObject({ id: idField, name: text(120) }),
      room: idField,
      spot: z.union([onWall, onCeiling]),
      toJoint: cableRouteSchema,
      onward: cableRouteSchema,
      way: cableRouteSchema,
    },
    (job, { cable, branch, joint, room, spot, toJoint, onward, way }) => {
      const broken = inList(job.cables, cable, 'cable', 'cable')
      const led = inList(job.cables, branch, 'cable', 'branch')
      const [to, fed] = [broken.to.id, led.to.id]
      const point = newPoint(joint.id, joint.name, { kind: 'box', state: 'new', outlets: 0 })
      breakIn(job, broken, led, point, room)
      put(job, inList(job.boxes, point.box, 'box'), room, spot)
      const ways = [
        [joint.id, toJoint, 'toJoint'],
        [to, onward, 'onward'],
        [fed, way, 'way'],
      ] as const
      for (const [end, route, path] of ways) {
        mustLeadThrough(job, route, path)
        const known = job.cables.find((k) => k.circuit === broken.circuit && k.to.id === end)!
        known.route = route
        asRouted(job, known)
      }
    },
    ({ joint }) => `${joint.name}: a joint box put into a cable`,
  ),
  'route.drop': edit(
    { cable: idField },
    (job, { cable }) => void delete inList(job.cables, cable, 'cable', 'cable').route,
    () => 'Route withdrawn; the lengths stay as they are',
  ),
}
