import { z } from 'zod'
import { sides } from '../building/house'
import { wayKinds } from '../building/ways'
import { grouped } from '../base/grouped'
import { coreCounts } from '../region/colours'
import { conductorMetals } from '../region/types'
import { amount, idField, type State, states, word } from './fields'
import { addTo, edits, EditError, inList } from './part'
import type { BoxRecord } from './box'
import { newPoint, type PlacedPoint, type PointRecord, putPoint } from './point'

export const runPlaces = ['surface', 'wall', 'insulation', 'attic', 'underfloor', 'conduit', 'buried', 'outdoors'] as const
/** What proves that a cable is there: seen, shown on an earlier drawing, or left over when all else is placed, which is no proof. */
export const proofs = ['seen', 'told', 'left-over'] as const

/** More stretches than this no cable has. */
export const MOST_STRETCHES = 20
/** A stretch of a cable with one manner of running it. */
export const stretchSchema = z.strictObject({
  id: idField,
  place: z.enum(runPlaces),
  lengthM: amount.nullable(),
  ambientC: z.number().min(-50).max(100),
  method: word(60).nullable(),
  loadedConductors: z.int().min(1).max(100),
  groupedCircuits: z.int().min(1).max(100),
  insulationMm: amount,
})
export type Stretch = z.infer<typeof stretchSchema>

const place = z.tuple([z.number(), z.number(), z.number()])
const countOf = z.int().min(0).max(10_000)
/** A part of the way a cable takes through the building: what is crossed or followed, and where, in metres from the first room’s corner. */
export const routeElementSchema = z.strictObject({
  kind: z.enum(wayKinds),
  room: idField.nullable(),
  side: z.enum(sides).nullable(),
  beyond: word(64).nullable(),
  lengthM: amount,
  minutes: amount,
  holes: countOf,
  openings: countOf,
  path: z.array(place).min(2).max(400),
})
/** The way a cable takes, as it was chosen: a decision, which stands until another is taken. */
export const cableRouteSchema = z.strictObject({
  /** What is to be cut: the way with slack, loop and tails. */
  cutM: amount,
  elements: z.array(routeElementSchema).min(1).max(200),
  at: z.iso.datetime(),
})
export type CableRoute = z.infer<typeof cableRouteSchema>
export type RouteElement = z.infer<typeof routeElementSchema>

export const endSchema = z.strictObject({ kind: z.enum(['way', 'point', 'board']), id: idField })
export type End = z.infer<typeof endSchema>

/** A cable from an end to an end. What is null at a new one follows the design of its circuit; at one that exists it is not known. */
export const cableSchema = z.strictObject({
  id: idField,
  from: endSchema,
  to: endSchema,
  state: z.enum(states),
  /** Null: not known. */
  circuit: idField.nullable(),
  type: word(40).nullable(),
  size: word(20).nullable(),
  metal: z.enum(conductorMetals).nullable(),
  /** Of what is not described by a stretch; null: not known, never zero. */
  lengthM: amount.nullable(),
  stretches: z.array(stretchSchema).max(MOST_STRETCHES),
  live: z.enum(['permanent', 'switched']).nullable(),
  /** Cores besides the protective one; none: as its circuit asks. */
  cores: z.enum(coreCounts).optional(),
  proof: z.enum(proofs).nullable(),
  route: cableRouteSchema.optional(),
})
/**
 * `inside`, as it is read: both its ends are in one box. A `joint` is no cable: what the circuit has at both ends is joined there. A `link`
 * leads to what no circuit of the job wires, by conductors of its own.
 */
export type Cable = z.infer<typeof cableSchema> & { readonly inside?: 'joint' | 'link' }

/** What a cable is reckoned at, in metres: its stretches and what none of them describes; null where part of it is not known. */
export const cableM = ({ lengthM, stretches }: Pick<Cable, 'lengthM' | 'stretches'>): number | null =>
  stretches.length === 0
    ? lengthM
    : stretches.reduce<number | null>((sum, s) => (sum === null || s.lengthM === null ? null : sum + s.lengthM), lengthM ?? 0)

/** A cable of a length that is given: what its stretches were is not known any more, where it differs from theirs. */
export function giveLength(cable: Cable, lengthM: number | null): void {
  if (lengthM === cableM(cable)) return
  cable.lengthM = lengthM
  cable.stretches = []
}

export const newCable = (id: string, from: End, to: End, more: Partial<Cable> = {}): Cable => ({
  id,
  from,
  to,
  state: 'new',
  circuit: null,
  type: null,
  size: null,
  metal: null,
  lengthM: null,
  stretches: [],
  live: null,
  proof: null,
  ...more,
})

/** The point that a new circuit begins with: it is called as its circuit, and what it draws is the circuit’s load. */
export const endPointId = (circuit: string): string => `end-${circuit}`
const cableTo = (point: string): string => `to-${point}`
const closingCable = (circuit: string): string => `close-${circuit}`
/** The board at the end of a feeder of this job. */
export const feederBoardId = (circuit: string): string => `board-${circuit}`

/** A point with the cable that reaches it along its circuit. */
export type LaidPoint<P = PlacedPoint> = P & Along
interface Along {
  /** The point it is fed from; null: the board, or the ring itself. */
  from: string | null
  /** Of the whole cable from there; in a ring from the point before. */
  lengthM: number | null
  size: string | null
}

/** The parts of a document that say how circuits are laid. */
export interface Laying {
  points: PointRecord[]
  boxes: BoxRecord[]
  cables: Cable[]
}

/** Cables of a circuit by the point they reach, in order; a closing cable and one to a board apart. */
function own(cables: readonly Cable[]): { to: Map<string, Cable>; closing: Cable | undefined; board: Cable | undefined } {
  const [points, back] = [cables.filter((k) => k.to.kind === 'point'), cables.filter((k) => k.to.kind !== 'point')]
  const feeds = (k: Cable): boolean => k.circuit !== null && k.to.id === feederBoardId(k.circuit)
  return { to: new Map(points.map((k) => [k.to.id, k])), closing: back.find((k) => !feeds(k)), board: back.find(feeds) }
}

/** The points in the loop of a ring, in its order: from its closing cable back to the board. */
function loopOf(to: ReadonlyMap<string, Cable>, closing: Cable | undefined): Set<string> {
  const back: string[] = []
  for (let at = closing?.from; at?.kind === 'point' && to.has(at.id) && !back.includes(at.id); at = to.get(at.id)!.from) back.push(at.id)
  return new Set(back.toReversed())
}

export interface Laid<P> {
  readonly points: readonly LaidPoint<P>[]
  /** Of a ring: from its last point back to the board. */
  readonly closeM: number | null
  /** The cable that leaves the board first. */
  readonly run: Cable | undefined
}

/** The points along the cables of one circuit but `end`: a tree, or the loop of a ring with its spurs. */
export function layOf<P extends Pick<PointRecord, 'state'>>(
  cables: readonly Cable[],
  points: ReadonlyMap<string, P>,
  end: string | null = null,
): Laid<P> {
  const { to, closing, board } = own(cables)
  const loop = loopOf(to, closing)
  const laid: LaidPoint<P>[] = []
  for (const [id, cable] of to) {
    const point = id === end ? undefined : points.get(id)
    if (!point || point.state === 'removed') continue
    const from = !loop.has(id) && cable.from.kind === 'point' && to.has(cable.from.id) ? cable.from.id : null
    laid.push({ ...point, from, lengthM: cableM(cable), size: cable.size })
  }
  return {
    points: laid,
    closeM: closing ? cableM(closing) : null,
    run: board ?? [...to.values()].find((k) => k.from.kind !== 'point' || !to.has(k.from.id)),
  }
}

/** A cable of which no length is known any more, nor the route that gave it. */
function lengthUnknown(cable: Cable): void {
  cable.lengthM = null
  cable.stretches = []
  delete cable.route
}

/** The cables of a circuit written again from its points as a list; what a cable knows besides is kept. */
export function lay(
  doc: Laying,
  circuit: string,
  source: End,
  /** `given`: its length was measured from where it is now fed. */
  list: readonly (Along & { readonly id: string } & { readonly given?: boolean })[],
  ring: boolean,
  closeM?: number | null,
): void {
  const mine = doc.cables.filter((k) => k.circuit === circuit)
  const { to, closing, board } = own(mine)
  const next: Cable[] = board ? [{ ...board, from: source }] : []
  let before: string | null = null
  // Whatever first leaves the board lies as the first cable did that left it.
  const run = [...to.values()].find((k) => k.from.kind !== 'point' || !to.has(k.from.id))
  const first = list.find((p) => p.from === null)
  for (const p of list) {
    const known =
      to.get(p.id) ??
      (p === first && run && !list.some((x) => x.id === run.to.id)
        ? { ...run, id: cableTo(p.id) }
        : newCable(cableTo(p.id), source, source, { circuit }))
    const from: End = p.from !== null ? { kind: 'point', id: p.from } : ring && before !== null ? { kind: 'point', id: before } : source
    if (p.from === null) before = p.id
    const cable: Cable = { ...known, from, to: { kind: 'point', id: p.id }, size: p.size }
    // A cable that now leads from elsewhere is as long as is said of it now, or of a length not measured.
    const moved = to.has(p.id) && (known.from.kind !== from.kind || known.from.id !== from.id)
    if (moved && !p.given) lengthUnknown(cable)
    // A first point of which no length was said is reached as the load was before it.
    else if (to.has(p.id) || p.lengthM !== null || known.stretches.length === 0) giveLength(cable, p.lengthM)
    next.push(cable)
  }
  if (ring && before !== null) {
    const back: Cable = {
      ...(closing ?? newCable(closingCable(circuit), source, source, { circuit })),
      from: { kind: 'point', id: before },
      to: source,
    }
    if (closeM !== undefined) giveLength(back, closeM)
    else if (closing && closing.from.id !== before) lengthUnknown(back)
    next.push(back)
  }
  const at = doc.cables.findIndex((k) => k.circuit === circuit)
  const rest = doc.cables.filter((k) => k.circuit !== circuit)
  const cut = at < 0 ? rest.length : at
  doc.cables = [...rest.slice(0, cut), ...next, ...rest.slice(cut)]
}

/** The list of a circuit’s points as it stands, to be changed and rebuilt. */
export function listOf(doc: Pick<Laying, 'points' | 'cables'>, circuit: string): LaidPoint<PointRecord>[] {
  const mine = doc.cables.filter((k) => k.circuit === circuit)
  return [...layOf(mine, new Map(doc.points.map((p) => [p.id, p]))).points]
}

/** A point and all that is fed through it, by what each is fed from. */
export function behind(list: readonly { readonly id: string; readonly from: string | null }[], point: string): ReadonlySet<string> {
  const found = new Set([point])
  for (let size = 0; size < found.size;) {
    size = found.size
    for (const p of list) if (p.from !== null && found.has(p.from)) found.add(p.id)
  }
  return found
}

/** A circuit begins as one cable from a board to one point. */
export function begin(doc: Laying, circuit: string, source: End, state: State = 'new'): void {
  const id = endPointId(circuit)
  const known = doc.points.find((p) => p.id === id)
  if (!known) putPoint(doc, newPoint(id, '', { state }))
  else if (known.state === 'removed') known.state = state
  doc.cables.push(newCable(cableTo(id), source, { kind: 'point', id }, { circuit }))
}

/** Takes a point out of the circuits that pass it: what it fed is fed from where it was fed. */
export function takeOut(doc: Laying, point: string): void {
  for (const circuit of new Set(doc.cables.filter((k) => k.to.id === point && k.circuit !== null).map((k) => k.circuit!))) {
    const source = sourceOf(doc, circuit)
    const { closing, board } = own(doc.cables.filter((k) => k.circuit === circuit))
    const ring = closing !== undefined
    const list = listWith(doc, circuit, point)
    const gone = list.find((p) => p.id === point)
    const left = list.filter((p) => p.id !== point).map((p) => (p.from === point ? { ...p, from: gone?.from ?? null } : p))
    lay(doc, circuit, source, left, ring)
    // A feeder continues to its board.
    if (left.length === 0 && !board) begin(doc, circuit, source)
  }
}

/** The list of a circuit with one point that may be gone from the document already. */
function listWith(doc: Laying, circuit: string, point: string): LaidPoint<PointRecord>[] {
  const mine = doc.cables.filter((k) => k.circuit === circuit)
  const known = new Map(doc.points.map((p) => [p.id, p]))
  if (!known.has(point)) known.set(point, newPoint(point, ''))
  return [...layOf(mine, known).points]
}

/** Where the cables of a circuit begin. */
export const sourceOf = (doc: Pick<Laying, 'cables'>, circuit: string): End => sourceAmong(doc.cables.filter((k) => k.circuit === circuit))

/** Where the cables of each circuit begin: of all circuits in one go. */
export const sourcesOf = (doc: Pick<Laying, 'cables'>): ReadonlyMap<string | null, End> =>
  new Map([...grouped(doc.cables, (k) => k.circuit)].map(([circuit, mine]) => [circuit, sourceAmong(mine)]))

/** Where these cables, all of one circuit, begin. */
export function sourceAmong(mine: readonly Cable[]): End {
  const reached = new Set(mine.filter((k) => k.to.kind === 'point').map((k) => k.to.id))
  return mine.find((k) => k.from.kind !== 'point' || !reached.has(k.from.id))?.from ?? { kind: 'board', id: 'main' }
}

/** The cables of a circuit led from somewhere else. */
export function leadFrom(doc: Pick<Laying, 'cables'>, circuit: string, source: End): void {
  const was = sourceOf(doc, circuit)
  for (const k of doc.cables) {
    if (k.circuit !== circuit) continue
    if (k.from.kind === was.kind && k.from.id === was.id) k.from = { ...source }
    if (k.to.kind === was.kind && k.to.id === was.id && k.to.kind !== 'point') k.to = { ...source }
  }
}

const edit = edits<Laying & { readonly ways: readonly { id: string }[] }>()
const ofRun = cableSchema.pick({ lengthM: true, stretches: true })

/** What is said of a cable; a length that is given without stretches is all that is known of how long it is. */
function setCable(cable: Cable, { lengthM, stretches, ...patch }: Partial<Cable>): void {
  Object.assign(cable, patch)
  if (stretches) {
    cable.stretches = stretches
    if (lengthM !== undefined) cable.lengthM = lengthM
  } else if (lengthM !== undefined) giveLength(cable, lengthM)
}

/** The cable of a circuit that leaves the board first. */
export function runOf(doc: Laying, circuit: string): Cable {
  const { run } = layOf(
    doc.cables.filter((k) => k.circuit === circuit),
    new Map(doc.points.map((p) => [p.id, p])),
  )
  if (!run) throw new EditError('circuit', 'This circuit is no longer in the job.')
  return inList(doc.cables, run.id, 'cable')
}

export const cableEdits = {
  'cable.set': edit(
    {
      id: idField,
      patch: cableSchema.pick({ type: true, size: true, metal: true, lengthM: true, stretches: true, live: true, cores: true }).partial(),
    },
    (job, { id, patch }) => setCable(inList(job.cables, id, 'cable'), patch),
    ({ patch }, say) => `Cable: ${say.patch(patch)}`,
  ),
  /** A cable that is there and was looked at, from a way to a point that is there; one leads to a point. */
  'cable.find': edit(
    { id: idField, way: idField, point: idField },
    (job, { id, way, point }) => {
      inList([...job.ways], way, 'way', 'way')
      const to = inList(job.points, point, 'point', 'point')
      if (to.state === 'new') throw new EditError('point', 'This point is new: no cable leads to it yet.')
      if (job.cables.some((k) => k.circuit === null && k.to.kind === 'point' && k.to.id === point))
        throw new EditError('point', 'A cable that leads there is in the record already.')
      const cable = newCable(id, { kind: 'way', id: way }, { kind: 'point', id: point }, { state: 'existing', proof: 'seen' })
      addTo(job.cables, cable, 'id')
    },
    ({ point }, say) => `Cable to ${say.name(point, 'a point')}, as found`,
  ),
  /** The run from the board to the first point; of a ring, its way back too. */
  'run.set': edit(
    { circuit: idField, patch: ofRun.extend({ closeM: amount.nullable() }).partial() },
    (job, { circuit, patch: { closeM, ...patch } }) => {
      setCable(runOf(job, circuit), patch)
      if (closeM === undefined) return
      const { closing } = own(job.cables.filter((k) => k.circuit === circuit))
      if (!closing) {
        if (closeM === null) return
        throw new EditError('patch.closeM', 'Only a ring leads back to its board.')
      }
      giveLength(inList(job.cables, closing.id, 'cable'), closeM)
    },
    ({ circuit, patch }, say) => `${say.patch(patch).replace(/^./, (c) => c.toUpperCase())}${say.ofCircuit(circuit)}`,
  ),
}
