import { applyPatches, type Draft, enablePatches, type Patch, produceWithPatches } from 'immer'
import { z } from 'zod'
import { benchEdits } from './bench'
import { boardEdits } from './board'
import { boxEdits } from './box'
import { briefEdits } from './brief'
import { buildingEdits, type Otherwise } from './building'
import { coilEdits } from './coil'
import { dueEdits } from './due'
import { cableEdits, type End, leadFrom, sourcesOf, takeOut } from './cable'
import { circuitEdits } from './circuit'
import { dayEdits } from './day'
import { issueEdits } from './issue'
import { labelEdits } from './label'
import { listedLater, observationEdits, stands } from './observation'
import { mountEdits } from './mount'
import type { EditKind } from './part'
import { pointEdits } from './point'
import { racewayEdits } from './raceway'
import { signalCableEdits } from './signal-cable'
import { reportEdits } from './report'
import { roomEdits } from './room'
import type { Job } from './schema'
import { sayOf } from './words'

enablePatches()

/** Everything a user can do to a Job, as data, put together from the parts of the document. */
const kinds = {
  ...briefEdits,
  ...roomEdits,
  ...buildingEdits,
  ...boardEdits,
  ...pointEdits,
  ...boxEdits,
  ...cableEdits,
  ...coilEdits,
  ...dueEdits,
  ...benchEdits,
  ...mountEdits,
  ...dayEdits,
  ...issueEdits,
  ...labelEdits,
  ...circuitEdits,
  ...racewayEdits,
  ...signalCableEdits,
  ...observationEdits,
  ...reportEdits,
}
type Kinds = typeof kinds
export type EditKindName = keyof Kinds
/** The same edits come from the screens, the demo and a program. */
export type Edit = { [K in EditKindName]: { kind: K } & z.output<z.ZodObject<Kinds[K]['shape'], z.core.$strict>> }[EditKindName]

const options = Object.entries(kinds).map(([kind, { shape }]) => z.strictObject({ kind: z.literal(kind), ...shape }))
export const editSchema = z.discriminatedUnion('kind', options as [(typeof options)[number]]) as unknown as z.ZodType<Edit> & {
  options: readonly { shape: { kind: { value: EditKindName } } }[]
}

export { EditError } from './part'

export interface Applied {
  readonly job: Job
  readonly patches: Patch[]
  readonly inverse: Patch[]
}

/** The ids of a list that are no longer in it. */
function gone(before: readonly { id: string }[], after: readonly { id: string }[]): string[] {
  if (before === after) return []
  const left = new Set(after.map((x) => x.id))
  return before.flatMap((x) => (left.has(x.id) ? [] : [x.id]))
}

/** Points that are there and were not, so that what was seen before says nothing of them. */
function come(before: Job, after: Job): string[] {
  if (before.points === after.points || after.observations.length === 0) return []
  const known = new Set(before.points.filter(stands).map((p) => p.id))
  return after.points.flatMap((p) => (stands(p) && !known.has(p.id) ? [p.id] : []))
}

/** Points that are taken away now, and were not. */
function takenAway(before: Job, after: Job): string[] {
  if (before.points === after.points) return []
  const standing = new Set(before.points.flatMap((p) => (p.state === 'removed' ? [] : [p.id])))
  return after.points.flatMap((p) => (p.state === 'removed' && standing.has(p.id) ? [p.id] : []))
}

/** What else follows once things are gone: nothing of the record names what is not in it. */
function follow(before: Job, after: Job): ((doc: Draft<Job>) => void) | null {
  const ways = gone(before.ways, after.ways)
  const points = gone(before.points, after.points)
  const devices = gone(before.residualDevices, after.residualDevices)
  const walls = gone(before.walls, after.walls)
  const boards = gone(before.boards, after.boards)
  const rooms = gone(before.rooms, after.rooms)
  const fresh = come(before, after)
  const taken = takenAway(before, after)
  if ([ways, points, devices, walls, boards, rooms, fresh, taken].every((list) => list.length === 0)) return null
  return (doc) => {
    for (const id of ways) dropWay(doc, id)
    for (const id of points) dropPoint(doc, id)
    for (const id of taken) offCircuits(doc, id)
    for (const w of doc.ways) {
      if (devices.includes(w.residual)) w.residual = 'unknown'
      if (w.planned && devices.includes(w.planned.residual)) delete w.planned
      if (w.bar !== null && devices.includes(w.bar)) w.bar = null
    }
    for (const p of [...doc.boxes, ...doc.boards]) if (p.wall && walls.includes(p.wall.wall)) p.wall = null
    for (const id of rooms) dropRoom(doc, id)
    for (const c of doc.circuits) {
      if (c.source && [...points, ...boards].includes(c.source.from)) c.source = null
      if (boards.some((b) => doc.cables.some((k) => k.circuit === c.id && k.from.id === b))) leadFrom(doc, c.id, mainBoard(doc))
    }
    listedLater(doc, fresh)
  }
}

/** A way that is gone takes with it what was seen of it; what it fed is fed from an unknown place. */
function dropWay(doc: Draft<Job>, id: string): void {
  const sources = sourcesOf(doc)
  for (const c of doc.circuits) {
    if (c.ways.includes(id)) c.ways = c.ways.filter((w) => w !== id)
    if (sources.get(c.id)?.id === id) leadFrom(doc, c.id, c.ways[0] ? { kind: 'way', id: c.ways[0] } : mainBoard(doc))
  }
  doc.cables = doc.cables.filter((k) => k.from.id !== id && k.to.id !== id)
  doc.observations = doc.observations.filter((o) => o.seen.kind !== 'breaker-off' || o.seen.breaker !== id)
  for (const b of doc.boards) if (b.fedFrom === id) b.fedFrom = null
}

/** A room that is gone holds nothing: its walls and points are in none, and no way leads through it. */
function dropRoom(doc: Draft<Job>, id: string): void {
  for (const r of doc.rooms) if (r.measured?.beside?.room === id) r.measured.beside = null
  if (doc.building?.obstacles?.some((o) => o.room === id)) doc.building.obstacles = doc.building.obstacles.filter((o) => o.room !== id)
  const madeSo = (o: Otherwise) => 'room' in o.of && o.of.room === id
  if (doc.building?.otherwise?.some(madeSo)) doc.building.otherwise = doc.building.otherwise.filter((o) => !madeSo(o))
  for (const w of doc.walls)
    if (w.room === id) {
      w.room = null
      delete w.side
    }
  for (const b of doc.boxes)
    if (b.room === id) {
      b.room = null
      delete b.overhead
    }
  for (const k of doc.cables) if (k.route?.elements.some((e) => e.room === id || e.beyond === id)) delete k.route
}

const mainBoard = (doc: Draft<Job>): End => ({ kind: 'board', id: doc.boards[0]!.id })

/** A point that is gone is passed by no circuit, and a circuit that was extended from it begins at an unknown place. */
function offCircuits(doc: Draft<Job>, id: string): void {
  for (const p of doc.points) if (p.controls?.includes(id)) p.controls = p.controls.filter((c) => c !== id)
  takeOut(doc, id)
  for (const [circuit, source] of sourcesOf(doc))
    if (circuit !== null && source.kind === 'point' && source.id === id) leadFrom(doc, circuit, mainBoard(doc))
}

/** What was seen of a point goes with it, and the cables counted upstream of it; what was seen of others stays, without it. */
function dropPoint(doc: Draft<Job>, id: string): void {
  offCircuits(doc, id)
  doc.cables = doc.cables.filter((k) => k.circuit !== null || (k.to.id !== id && k.from.id !== id))
  const above = new Set(
    doc.observations.flatMap(({ seen }) => (seen.kind === 'disconnected' && seen.dead.includes(id) ? [seen.point] : [])),
  )
  doc.observations = doc.observations.filter(
    ({ seen }) => seen.kind === 'breaker-off' || (seen.point !== id && !(seen.kind === 'cables' && above.has(seen.point))),
  )
  for (const o of doc.observations) {
    if (o.seen.kind !== 'cables') o.seen.dead = o.seen.dead.filter((d) => d !== id)
    o.later = o.later.filter((d) => d !== id)
  }
  for (const d of doc.defects) if (d.work?.id === id) Object.assign(d, { work: null, state: 'open' })
  if (doc.day?.holds) delete doc.day.holds[id]
}

/**
 * The job after an edit, with the patches both ways; the given job is untouched and shares what did not change.
 * @throws EditError where the edit names something the job lacks or breaks a rule of the document.
 */
export function applyEdit(job: Job, { kind, ...carried }: Edit): Applied {
  const { apply } = kinds[kind] as unknown as EditKind<z.core.$ZodLooseShape, Draft<Job>>
  const [next, patches, inverse] = produceWithPatches(job, (draft) => void apply(draft, carried))
  const rest = follow(job, next)
  if (!rest) return { job: next, patches, inverse }
  const [whole, more, back] = produceWithPatches(next, rest)
  return { job: whole, patches: [...patches, ...more], inverse: [...back, ...inverse] }
}

export const patchJob = (job: Job, patches: readonly Patch[]): Job => applyPatches(job, patches as Patch[])

/** One line for the history, in the user's words. `job` is the state before the edit. */
export function describeEdit(job: Job, { kind, ...carried }: Edit): string {
  const { tell } = kinds[kind] as unknown as EditKind<z.core.$ZodLooseShape, Job>
  return tell(carried, sayOf(job), job)
}

/** Makes one value into another by the fewest assignments, so that what is alike is left alone. */
function become(draft: Record<string, unknown>, to: Record<string, unknown>): void {
  const thing = (x: unknown): x is Record<string, unknown> => typeof x === 'object' && x !== null
  for (const key of Object.keys(draft)) if (!(key in to) && !Array.isArray(draft)) delete draft[key]
  if (Array.isArray(draft) && Array.isArray(to) && draft.length > to.length) draft.length = to.length
  for (const [key, value] of Object.entries(to)) {
    const now = draft[key]
    if (thing(now) && thing(value) && Array.isArray(now) === Array.isArray(value)) become(now, value)
    else if (now !== value) draft[key] = value
  }
}

/** What makes one job of another, and back: the net difference, whatever lies between them. */
export function differenceOf(from: Job, to: Job): Applied {
  const [job, patches, inverse] = produceWithPatches(from, (draft) => become(draft as never, to as never))
  return { job, patches, inverse }
}
