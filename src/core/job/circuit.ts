import { z } from 'zod'
import { accessory } from '../catalogue/accessories'
import { boxKind } from '../catalogue/boxes'
import { fitnessAnswers } from '../catalogue/fitness'
import type { RegionId } from '../region/types'
import { type Board, MAIN_BOARD, newBoard, newWay, type ResidualDevice, unnamedResiduals, type Way } from './board'
import {
  begin,
  type Cable,
  type End,
  endPointId,
  feederBoardId,
  lay,
  type Laying,
  leadFrom,
  listOf,
  newCable,
  giveLength,
  runOf,
  sourceAmong,
  sourceOf,
  sourcesOf,
  takeOut,
} from './cable'
import { placeFields } from './box'
import { type DesignRecord, designSchema, newDesign } from './design'
import { amount, idField, noSite, site, text, word } from './fields'
import { loadPatch, loadSchema, newLoad, impossibleLoad } from './load'
import { addTo, EditError, edits, inList, sentence } from './part'
import {
  blankPoint,
  dropPoints,
  mustBeListed,
  type PointRecord,
  pointPatch,
  putTyped,
  setPoint,
  typedPoint,
  type TypedPoint,
} from './point'
import type { Room, WallRecord } from './room'
import { cableNames } from '../region/vocabulary'
import { worlds } from '../region/worlds'

export const circuitKinds = ['radial', 'ring', 'shared-neutral', 'feeder'] as const
export const circuitWorks = ['new', 'altered'] as const
export const sourceKinds = ['board', 'extend', 'ring', 'fused-spur'] as const
export const wireColours = ['new', 'old'] as const
const swaps = ['accessory', 'box', 'cable'] as const
const swapName = (id: string): string => accessory(id)?.name ?? boxKind(id)?.name ?? cableNames[id] ?? id

export const sourceSchema = z.strictObject({
  kind: z.enum(sourceKinds),
  /** The board, or the point it is extended from. */
  from: idField,
  words: text(300),
  reason: text(1000),
  at: z.iso.datetime(),
})

/** A circuit: what it is meant to be and the designs for it. Its shape, points and way are what its cables and ways form. */
/** Tests that no code asks for, which catch what those of the code let by. */
export const extraTestKinds = ['neutral-lifted', 'loaded-fall', 'clamp-all'] as const
export type ExtraTestKind = (typeof extraTestKinds)[number]

export const circuitSchema = z.strictObject({
  id: idField,
  name: text(120),
  /** What it is meant to be; what its cables form is held against it. */
  kind: z.enum(circuitKinds),
  work: z.enum(circuitWorks),
  ...site,
  /** What is known of old wiring that stays, by question. */
  old: z.record(word(64), z.enum(fitnessAnswers)),
  /** Ways of a board it leaves from: one, or two with one pole each. None: not given one yet. */
  ways: z.array(idField).max(2),
  /** Where it takes its power from and why, once that was weighed; null: not weighed. */
  source: sourceSchema.nullable(),
  load: loadSchema,
  designs: z.array(designSchema).min(1).max(3),
  chosen: idField,
  reason: text(1000),
  colours: z.enum(wireColours),
  /** Those put into its plan of tests; not said: none. */
  extraTests: z.array(z.enum(extraTestKinds)).max(extraTestKinds.length).optional(),
})
export type CircuitRecord = z.infer<typeof circuitSchema>

export const newCircuit = (region: RegionId, id: string, name: string): CircuitRecord => ({
  id,
  name,
  kind: 'radial',
  work: 'new',
  ...noSite,
  old: {},
  ways: [],
  source: null,
  load: newLoad(region),
  designs: [newDesign(region, 'a', 'A')],
  chosen: 'a',
  reason: '',
  colours: 'new',
})

interface Doc extends Laying {
  region: RegionId
  boards: Board[]
  residualDevices: ResidualDevice[]
  ways: Way[]
  rooms: Room[]
  walls: WallRecord[]
  circuits: CircuitRecord[]
  raceways: { circuits: string[] }[]
}

const circuitOf = (job: Doc, id: string, path = 'circuit'): CircuitRecord => inList(job.circuits, id, 'circuit', path)

function designOf(job: Doc, { circuit: id, design: of }: { circuit: string; design: string }) {
  const circuit = circuitOf(job, id)
  const index = circuit.designs.findIndex((d) => d.id === of)
  if (index < 0) throw new EditError('design', 'This alternative is no longer in the circuit.')
  return { circuit, index, design: circuit.designs[index]! }
}

/** The board a circuit leaves from. */
export const boardOf = (job: Pick<Doc, 'ways' | 'cables'>, circuit: Pick<CircuitRecord, 'id' | 'ways'>): string =>
  boardAmong(
    job.ways.find((w) => w.id === circuit.ways[0]),
    job.cables.filter((k) => k.circuit === circuit.id),
  )

/** The board of a circuit whose first way and whose cables these are. */
export function boardAmong(way: Pick<Way, 'board'> | undefined, cables: readonly Cable[]): string {
  if (way) return way.board
  const source = sourceAmong(cables)
  return source.kind === 'board' ? source.id : MAIN_BOARD
}

/** The board each circuit leaves from, by the id of the circuit: all of them in one go. */
export function boardsOf(job: Pick<Doc, 'ways' | 'cables' | 'circuits'>): ReadonlyMap<string, string> {
  const boardOfWay = new Map(job.ways.map((w) => [w.id, w.board]))
  const sources = sourcesOf(job)
  return new Map(
    job.circuits.map((c) => {
      const source = sources.get(c.id)
      return [c.id, boardOfWay.get(c.ways[0] ?? '') ?? (source?.kind === 'board' ? source.id : MAIN_BOARD)]
    }),
  )
}

/** The feeder whose board this is; none for a board that is there. */
export const feederOf = (job: Pick<Doc, 'boards' | 'circuits'>, board: string): CircuitRecord | undefined => {
  const fed = job.boards.find((b) => b.id === board)
  return fed?.state === 'new' ? job.circuits.find((c) => feederBoardId(c.id) === board) : undefined
}

/** The circuit that leads back to itself if `circuit` were fed by `feeder`, or null. */
function loopOfFeeders(job: Doc, circuit: string, feeder: string, boards: ReadonlyMap<string, string>): boolean {
  let at: string | undefined = feeder
  for (let steps = 0; at !== undefined; steps++) {
    if (at === circuit || steps > job.circuits.length) return true
    at = feederOf(job, boards.get(at) ?? '')?.id
  }
  return false
}

/** Spaces a way takes: two-pole breakers the next in their column (NA) or the next module (metric). */
export const pairOf = (region: RegionId, position: number): number => position + (worlds[region].boardManner === 'columns' ? 2 : 1)

interface Named {
  readonly position: number | null
  readonly poles: 1 | 2
  readonly half: 'a' | 'b' | null
  readonly label: string
}
/** What somebody typed for the way of a circuit: "14-16" is a two-pole one, "5a" half of a tandem, "9, 12" two of one pole. */
export function waysTyped(region: RegionId, typed: string): Named[] {
  const found = [...typed.matchAll(/(\d+)\s*([ab])?\b/gi)].map((m) => ({
    position: Number(m[1]),
    half: (m[2]?.toLowerCase() ?? null) as 'a' | 'b' | null,
  }))
  const [first, second] = found
  if (!first || found.length > 2 || found.some((f) => f.position < 1 || f.position > 84))
    return typed.trim() ? [{ position: null, poles: 1, half: null, label: typed.trim().slice(0, 80) }] : []
  if (!second) return [{ ...first, poles: 1, label: '' }]
  if (second.position === pairOf(region, first.position) && !first.half && !second.half)
    return [{ position: first.position, poles: 2, half: null, label: '' }]
  return found.map((f) => ({ ...f, poles: 1 as const, label: '' }))
}

const newWayId = (circuit: string, i: number): string => (i === 0 ? `way-${circuit}` : `way-${circuit}-${i + 1}`)
/** The ways that were made for a circuit and go with it. */
const itsOwnWays = (job: Pick<Doc, 'ways'>, circuit: CircuitRecord): Way[] =>
  job.ways.filter((w) => circuit.ways.includes(w.id) && [newWayId(circuit.id, 0), newWayId(circuit.id, 1)].includes(w.id))

/** Where the cables of a circuit begin: at its way, or at its board while it has none. */
const beginning = (circuit: CircuitRecord, board: string): End =>
  circuit.ways[0] ? { kind: 'way', id: circuit.ways[0] } : { kind: 'board', id: board }

export interface Connecting {
  board?: string | undefined
  way?: string | undefined
  residual?: string | undefined
}

/** Connects a circuit: to a board, to a space in it or to a way that is there, and behind a residual device. */
export function connect(job: Doc, circuit: CircuitRecord, { board: at, way: typed, residual }: Connecting): void {
  const board = at ?? boardOf(job, circuit)
  inList(job.boards, board, 'board', 'board')
  const feeder = feederOf(job, board)
  if (feeder && loopOfFeeders(job, circuit.id, feeder.id, boardsOf(job))) throw new EditError('board', FED_BY_ITSELF)
  const before = itsOwnWays(job, circuit)
  const was = before[0]?.residual
  const fromPoint = circuit.source !== null && circuit.source.kind !== 'board'
  if (typed !== undefined) {
    const named = waysTyped(job.region, typed)
    const found = circuit.work === 'altered' || fromPoint ? existingWays(job, board, named, typed) : []
    job.ways = job.ways.filter((w) => !before.includes(w))
    if (found.length) circuit.ways = found.map((w) => w.id)
    else {
      const state = circuit.work === 'altered' ? 'existing' : 'new'
      circuit.ways = named.map((_, i) => newWayId(circuit.id, i))
      for (const [i, n] of named.entries())
        job.ways.push(
          newWay(circuit.ways[i]!, n.label, {
            ...n,
            board,
            state,
            residual: was ?? 'unknown',
            kind: circuit.kind === 'feeder' ? 'feeder' : 'circuit',
          }),
        )
    }
  } else if (at !== undefined) for (const w of before) w.board = board
  if (residual !== undefined) {
    if (!unnamedResiduals.includes(residual)) inList(job.residualDevices, residual, 'residual device', 'residual')
    if (circuit.ways.length === 0 && residual !== 'unknown') {
      circuit.ways = [newWayId(circuit.id, 0)]
      job.ways.push(newWay(circuit.ways[0]!, '', { board, state: 'new', kind: circuit.kind === 'feeder' ? 'feeder' : 'circuit' }))
    }
    for (const w of job.ways) if (circuit.ways.includes(w.id)) planResidual(w, residual)
    // What is behind a device trips as it does.
    const tripMa = job.residualDevices.find((d) => d.id === residual)?.tripMa
    if (tripMa) for (const d of circuit.designs) if (d.residual.at === 'board') d.residual.ma = tripMa
  }
  if (circuit.kind === 'feeder') for (const b of job.boards) if (b.id === feederBoardId(circuit.id)) b.fedFrom = circuit.ways[0] ?? null
  if (!fromPoint) leadFrom(job, circuit.id, beginning(circuit, board))
  // Another circuit may leave from the same way, and goes with it.
  const boards = boardsOf(job)
  for (const [id, from] of boards) {
    const up = feederOf(job, from)
    if (up && loopOfFeeders(job, id, up.id, boards)) throw new EditError('board', FED_BY_ITSELF)
  }
}
/** What a way is to be behind: of one that is there what was found stays, and this is what is planned. */
function planResidual(way: Way, residual: string): void {
  if (way.state === 'new') way.residual = residual
  else if (residual === way.residual) delete way.planned
  else way.planned = { residual }
}
const FED_BY_ITSELF = 'A feeder cannot be fed by its own board.'

/** The ways that are there in the spaces that were named, or the one of that label. */
function existingWays(job: Doc, board: string, named: readonly Named[], typed: string): Way[] {
  const there = job.ways.filter((w) => w.board === board && w.state === 'existing')
  const byPlace = named.flatMap((n) => there.find((w) => n.position !== null && w.position === n.position && w.half === n.half) ?? [])
  if (byPlace.length) return byPlace
  return there.filter((w) => typed.trim() !== '' && w.label === typed.trim()).slice(0, 1)
}

function newFeederBoard(job: Doc, circuit: CircuitRecord): void {
  const id = feederBoardId(circuit.id)
  job.boards.push(newBoard(id, { state: 'new', fedFrom: circuit.ways[0] ?? null }))
  job.cables.push(newCable(`to-${id}`, beginning(circuit, boardOf(job, circuit)), { kind: 'board', id }, { circuit: circuit.id }))
}

/** A circuit that is no feeder any more has no board at its end; what left from there leaves from nowhere said. */
function dropFeederBoard(job: Doc, circuit: string): void {
  const id = feederBoardId(circuit)
  const main = job.boards[0]!.id
  const boards = boardsOf(job)
  for (const c of job.circuits)
    if (c.id !== circuit && boards.get(c.id) === id) {
      job.ways = job.ways.filter((w) => !(w.state === 'new' && c.ways.includes(w.id)))
      c.ways = []
      leadFrom(job, c.id, { kind: 'board', id: main })
    }
  job.boards = job.boards.filter((b) => b.id !== id)
  job.ways = job.ways.filter((w) => w.board !== id)
  job.residualDevices = job.residualDevices.filter((d) => d.board !== id)
  job.cables = job.cables.filter((k) => k.to.id !== id)
}

const RING_FROM_POINT = 'A ring leaves a board and comes back to it; one that goes on from a point is a radial.'

/** A change of kind lays the cables that are there in another shape. */
function reshape(job: Doc, circuit: CircuitRecord, kind: CircuitRecord['kind']): void {
  if (circuit.kind === kind) return
  const was = circuit.kind
  const source = sourceOf(job, circuit.id)
  if (kind === 'ring' && source.kind === 'point') throw new EditError('patch.kind', RING_FROM_POINT)
  const list = listOf(job, circuit.id)
  const { lengthM, stretches } = runOf(job, circuit.id)
  circuit.kind = kind
  for (const w of itsOwnWays(job, circuit)) w.kind = kind === 'feeder' ? 'feeder' : 'circuit'
  if (kind === 'feeder') {
    lay(
      job,
      circuit.id,
      source,
      list.filter((p) => p.id !== endPointId(circuit.id)),
      false,
    )
    dropPoints(job, (p) => p.id === endPointId(circuit.id))
    newFeederBoard(job, circuit)
    Object.assign(runOf(job, circuit.id), { lengthM, stretches })
    return
  }
  if (was === 'feeder') {
    dropFeederBoard(job, circuit.id)
    if (list.length === 0) begin(job, circuit.id, source)
    else lay(job, circuit.id, source, list, kind === 'ring')
    if (list.length === 0) Object.assign(runOf(job, circuit.id), { lengthM, stretches })
    return
  }
  // The loop of a ring, opened, is a chain.
  if (was === 'ring') {
    const loop = list.filter((p) => p.from === null)
    for (const [i, p] of loop.entries()) p.from = loop[i - 1]?.id ?? null
  }
  lay(job, circuit.id, source, list, kind === 'ring')
}

/** A circuit added: one cable from the board to one point, or for a feeder to one board. */
export function addCircuit(job: Doc, id: string, name: string, kind: CircuitRecord['kind'] = 'radial'): CircuitRecord {
  const made = newCircuit(job.region, id, name)
  const across = kind === 'feeder' && worlds[job.region].splitPhase
  // Residual devices are on the circuits of the sub-board, not on the feeder, where one fault would darken all.
  const designs =
    kind === 'feeder' ? made.designs.map((d): DesignRecord => ({ ...d, residual: { ...d.residual, at: 'none' } })) : made.designs
  const circuit: CircuitRecord = {
    ...made,
    designs,
    kind,
    load: { ...made.load, ...(across ? { volts: 240 } : {}), ...(kind === 'feeder' ? { connection: 'fixed' } : {}) },
  }
  job.circuits.push(circuit)
  if (kind === 'feeder') newFeederBoard(job, circuit)
  else begin(job, id, { kind: 'board', id: job.boards[0]!.id })
  return circuit
}

/** The fields of a point along a circuit, with the cable that reaches it; all but id and name may be left out. */
const placed = typedPoint
  .partial()
  .required({ id: true, name: true })
  .extend({ from: idField.nullable().optional(), lengthM: amount.nullable().optional(), size: word(20).nullable().optional() })
const placedPatch = pointPatch.extend(placed.pick({ from: true, lengthM: true, size: true }).shape)

/** What a new point on a circuit is, where it does not say. */
const kindOfNew = (circuit: CircuitRecord): PointRecord['kind'] =>
  circuit.load.lighting ? 'light' : circuit.load.connection === 'fixed' ? 'fixed' : 'outlet'

/** The place of a point, as far as it is recorded. */
const placeIn = (p: Partial<TypedPoint>): Partial<TypedPoint> =>
  Object.fromEntries(Object.entries(p).filter(([key, value]) => key in placeFields && value !== undefined))
/** The box of what a circuit ended on, called as its point is now. */
function boxCalled(job: Doc, was: string, now: string): string {
  if (was === now || job.boxes.some((b) => b.id === now)) return was
  for (const b of job.boxes) if (b.id === was) b.id = now
  for (const p of job.points) if (p.box === was) p.box = now
  return now
}
/** The ends of a cable in a box wired by hand, called as the cable is now. */
function renameEnds({ boxes }: Doc, box: string, was: string, now: string): void {
  const bench = boxes.find((b) => b.id === box)?.bench
  if (!bench || was === now) return
  const called = (end: string) => (end.startsWith(`${was} `) ? `${now} ${end.slice(was.length + 1)}` : end)
  bench.ends = bench.ends.map((e) => ({ ...e, end: called(e.end) }))
  bench.marked = bench.marked.map(called)
}

const edit = edits<Doc>()
const inCircuit = { circuit: idField }
const inDesign = { circuit: idField, design: idField }
/**
 * What the chosen design says of protection at the board, said of the way that is put in for it; a way that is there is as it was
 * found.
 */
function alignProtection(job: Doc, circuit: CircuitRecord): void {
  const design = circuit.designs.find((d) => d.id === circuit.chosen)
  for (const w of job.ways) {
    if (!circuit.ways.includes(w.id)) continue
    // What was to be fitted for the protection that is no longer chosen is not fitted.
    if (w.state !== 'new' && design?.residual.at !== 'board') delete w.planned
    if (w.state !== 'new') continue
    if (design?.residual.at === 'board') w.residual = w.residual === 'none' ? 'unknown' : w.residual
    else if (w.residual !== 'unknown') w.residual = 'none'
  }
}

/** Accessories that a choice of protection puts at points, or at the end of a circuit without named ones (null). */
const fitting = {
  fit: z
    .array(z.strictObject({ point: idField.nullable(), accessory: word(64) }))
    .max(400)
    .optional(),
}
function fitAt(job: Doc, design: DesignRecord, fit: readonly { readonly point: string | null; readonly accessory: string }[]): void {
  for (const [i, { point, accessory }] of fit.entries()) {
    mustBeListed(job, accessory, `fit.${i}.accessory`)
    if (point === null) design.accessory = accessory
    else {
      const at = inList(job.points, point, 'point', `fit.${i}.point`)
      // What was found there stays as it was found.
      if (at.state === 'existing') throw new EditError(`fit.${i}.point`, 'An existing point is not changed: mark it as altered first.')
      at.accessory = accessory
    }
  }
}

const patchOfDesign = designSchema.omit({ id: true }).partial()

export const circuitEdits = {
  'circuit.add': edit(
    { id: idField, name: text(120), of: z.enum(circuitKinds).optional() },
    (job, { id, name, of }) => {
      if (job.circuits.some((c) => c.id === id)) throw new EditError('id', 'There is a circuit with this id already.')
      addCircuit(job, id, name, of)
    },
    ({ name }) => `${name} added`,
  ),
  'circuit.remove': edit(
    inCircuit,
    (job, { circuit: id }) => {
      const circuit = circuitOf(job, id)
      if (job.circuits.length === 1) throw new EditError('circuit', 'A job keeps at least one circuit.')
      if (circuit.kind === 'feeder') dropFeederBoard(job, id)
      const gone = new Set(
        listOf(job, id)
          .filter((p) => p.state === 'new')
          .map((p) => p.id),
      )
      const ways = itsOwnWays(job, circuit)
      job.cables = job.cables.filter((k) => k.circuit !== id)
      dropPoints(job, (p) => gone.has(p.id))
      job.ways = job.ways.filter((w) => !ways.includes(w))
      job.circuits = job.circuits.filter((c) => c.id !== id)
      for (const r of job.raceways) r.circuits = r.circuits.filter((c) => c !== id)
    },
    ({ circuit }, say) => `${say.name(circuit, 'Circuit')} removed`,
  ),
  'circuit.set': edit(
    {
      ...inCircuit,
      patch: circuitSchema
        .pick({
          name: true,
          reason: true,
          kind: true,
          work: true,
          place: true,
          environment: true,
          nearWater: true,
          outOfReach: true,
          colours: true,
          extraTests: true,
        })
        .partial(),
    },
    (job, { circuit: id, patch: { kind, ...patch } }) => {
      const circuit = circuitOf(job, id)
      Object.assign(circuit, patch)
      if (kind) reshape(job, circuit, kind)
      if (patch.work) connect(job, circuit, { way: typedWay(job, circuit) })
    },
    ({ circuit, patch }, say) => `${sentence(say.patch(patch))}${say.ofCircuit(circuit)}`,
  ),
  'circuit.connect': edit(
    { ...inCircuit, board: idField.optional(), way: text(40).optional(), residual: idField.optional() },
    (job, { circuit, ...to }) => connect(job, circuitOf(job, circuit), to),
    ({ circuit, ...to }, say) => `${sentence(say.patch(to))}${say.ofCircuit(circuit)}`,
  ),
  'circuit-point.add': edit(
    { ...inCircuit, points: z.array(placed).min(1).max(100) },
    (job, { circuit: id, points }) => {
      const circuit = circuitOf(job, id)
      const end = endPointId(id)
      const list = listOf(job, id).filter((p) => p.id !== end)
      const unnamed = list.length === 0 ? job.points.find((p) => p.id === end) : undefined
      for (const [i, { from = null, lengthM = null, size = null, ...p }] of points.entries()) {
        if (from !== null) inList(list, from, 'point', `points.${i}.from`)
        const usual = blankPoint(p.id, p.name, { state: 'new', kind: kindOfNew(circuit), outlets: 1 })
        // The first that is named is what the circuit ended on so far: the box is there already.
        const taken = i === 0 && p.box === undefined && unnamed ? boxCalled(job, unnamed.box, p.id) : undefined
        const record = putTyped(job, { ...usual, ...p, ...(taken === undefined ? {} : { box: taken }) } as TypedPoint, `points.${i}`)
        if (taken !== undefined) setPoint(job, record, placeIn(p))
        list.push({ ...record, from, lengthM, size })
      }
      const run = unnamed && job.cables.find((k) => k.circuit === id && k.to.id === end)
      lay(job, id, sourceOf(job, id), list, circuit.kind === 'ring')
      const first = run && job.cables.find((k) => k.circuit === id && k.to.id === points[0]!.id)
      if (run && first) renameEnds(job, job.points.find((p) => p.id === points[0]!.id)!.box, run.id, first.id)
      dropPoints(job, (p) => p.id === end)
    },
    ({ circuit, points }, say) =>
      `${points.length === 1 ? `Point ${points[0]!.name}` : `${points.length} points`} put on the circuit${say.ofCircuit(circuit)}`,
  ),
  /** Points that are there, which the circuit is to pass: the same record, no copy of it. */
  'circuit-point.take': edit(
    {
      ...inCircuit,
      points: z
        .array(z.strictObject({ id: idField, from: idField.nullable(), lengthM: amount.nullable() }))
        .min(1)
        .max(100),
    },
    (job, { circuit: id, points }) => {
      const circuit = circuitOf(job, id)
      const end = endPointId(id)
      const list = listOf(job, id).filter((p) => p.id !== end)
      for (const [i, { id: point, from, lengthM }] of points.entries()) {
        const record = inList(job.points, point, 'point', `points.${i}.id`)
        if (job.cables.some((k) => k.circuit !== null && k.to.id === point))
          throw new EditError(`points.${i}.id`, 'This point is on a circuit of the job already.')
        if (record.state === 'removed') throw new EditError(`points.${i}.id`, 'This point is to be removed: say first that it stays.')
        if (sourceOf(job, id).id === point) throw new EditError(`points.${i}.id`, 'The circuit takes its power from this point.')
        if (from !== null) inList(list, from, 'point', `points.${i}.from`)
        list.push({ ...record, from, lengthM, size: null })
      }
      lay(job, id, sourceOf(job, id), list, circuit.kind === 'ring')
      dropPoints(job, (p) => p.id === end)
    },
    ({ circuit, points }, say) => `${points.map((p) => say.name(p.id)).join(', ')} put on the circuit${say.ofCircuit(circuit)}`,
  ),
  'circuit-point.set': edit(
    { ...inCircuit, id: idField, patch: placedPatch },
    (job, { circuit: of, id, patch: { from, lengthM, size, ...patch } }) => {
      const circuit = circuitOf(job, of)
      const list = listOf(job, of)
      const point = inList(list, id, 'point')
      setPoint(job, inList(job.points, id, 'point'), patch)
      if (from === undefined && lengthM === undefined && size === undefined) return
      if (from === undefined || from === point.from) {
        const cable = inList(job.cables, job.cables.find((k) => k.circuit === of && k.to.id === id)!.id, 'cable')
        if (lengthM !== undefined) giveLength(cable, lengthM)
        if (size !== undefined) cable.size = size
        return
      }
      if (from !== null) inList(list, from, 'point', 'patch.from')
      const next = list.map((p) =>
        p.id === id ? { ...p, from, lengthM: lengthM ?? p.lengthM, size: size ?? p.size, given: lengthM !== undefined } : p,
      )
      const byId = new Map(next.map((p) => [p.id, p]))
      for (let at: string | null = from, steps = 0; at !== null; at = byId.get(at)!.from, steps++)
        if (at === id || steps > next.length) throw new EditError('patch.from', 'A point cannot be fed from itself.')
      lay(job, of, sourceOf(job, of), next, circuit.kind === 'ring')
    },
    ({ circuit, id, patch }, say) => `${say.name(id, 'Point')}: ${say.patch(patch)}${say.ofCircuit(circuit)}`,
  ),
  'circuit-point.remove': edit(
    { ...inCircuit, id: idField },
    (job, { circuit: of, id }) => {
      const { state } = inList(listOf(job, of), id, 'point')
      // What was there before the job is there after it.
      if (state === 'new') dropPoints(job, (p) => p.id === id)
      else takeOut(job, id)
    },
    ({ circuit, id }, say) => `${say.name(id, 'Point')} taken off the circuit${say.ofCircuit(circuit)}`,
  ),
  'circuit-point.move': edit(
    { ...inCircuit, id: idField, to: z.int().min(0).max(199) },
    (job, { circuit: of, id, to }) => {
      const circuit = circuitOf(job, of)
      const list = listOf(job, of)
      const point = inList(list, id, 'point')
      list.splice(list.indexOf(point), 1)
      list.splice(to, 0, point)
      lay(job, of, sourceOf(job, of), list, circuit.kind === 'ring')
    },
    ({ circuit, id }, say) => `${say.name(id, 'Point')} moved along the circuit${say.ofCircuit(circuit)}`,
  ),
  /** All points of a circuit on one chain, in this order; of a cable that then leads elsewhere the length is not known. */
  'circuit-point.chain': edit(
    { ...inCircuit, order: z.array(idField).min(2).max(100) },
    (job, { circuit: of, order }) => {
      const circuit = circuitOf(job, of)
      const list = listOf(job, of)
      if (order.length !== list.length || new Set(order).size !== order.length)
        throw new EditError('order', 'Each point of the circuit is listed once.')
      const next = order.map((id, i) => {
        const point = inList(list, id, 'point', `order.${i}`)
        const from = i ? order[i - 1]! : null
        return from === point.from ? point : { ...point, from, lengthM: null }
      })
      lay(job, of, sourceOf(job, of), next, circuit.kind === 'ring')
    },
    ({ circuit, order }, say) => `Chained ${order.map((id) => say.name(id)).join(', ')}${say.ofCircuit(circuit)}`,
  ),
  'old.answer': edit(
    { ...inCircuit, question: idField, answer: z.enum(fitnessAnswers).nullable() },
    (job, { circuit, question, answer }) => {
      const { old } = circuitOf(job, circuit)
      if (answer === null) delete old[question]
      else old[question] = answer
    },
    ({ circuit, question, answer }, say) => `Old work, ${question}: ${answer ?? 'left open'}${say.ofCircuit(circuit)}`,
  ),
  'load.set': edit(
    { ...inCircuit, patch: loadPatch },
    (job, { circuit, patch }) => {
      const { load } = circuitOf(job, circuit)
      Object.assign(load, patch)
      const wrong = impossibleLoad(load)
      if (wrong) throw new EditError(`patch.${wrong.field}`, wrong.message)
    },
    ({ circuit, patch }, say) =>
      `${sentence(patch.name !== undefined && patch.amount !== undefined ? `appliance ${patch.name}` : say.patch(patch))}` +
      say.ofCircuit(circuit),
  ),
  'design.set': edit(
    { ...inDesign, patch: patchOfDesign, ...fitting },
    (job, edit) => {
      const { circuit, design } = designOf(job, edit)
      mustBeListed(job, edit.patch.accessory, 'patch.accessory')
      Object.assign(design, edit.patch)
      fitAt(job, design, edit.fit ?? [])
      if (edit.patch.residual) alignProtection(job, circuit)
    },
    (e, say, job) => `${sentence(say.patch(e.patch))}${ofAlternative(job, e)}${say.ofCircuit(e.circuit)}`,
  ),
  'design.copy': edit(
    { ...inDesign, id: idField, name: text(80) },
    (job, edit) => {
      const { circuit, design } = designOf(job, edit)
      if (circuit.designs.length >= 3) throw new EditError('id', 'Three alternatives stand side by side at most; remove one first.')
      if (circuit.designs.some((d) => d.id === edit.id)) throw new EditError('id', 'There is an alternative with this id already.')
      circuit.designs.push({ ...(JSON.parse(JSON.stringify(design)) as DesignRecord), id: edit.id, name: edit.name })
    },
    (e, say, job) => `Alternative ${e.name} laid beside ${nameOfDesign(job, e)}${say.ofCircuit(e.circuit)}`,
  ),
  'design.remove': edit(
    inDesign,
    (job, edit) => {
      const { circuit, index } = designOf(job, edit)
      if (circuit.designs.length === 1) throw new EditError('design', 'A circuit keeps at least one design.')
      circuit.designs.splice(index, 1)
      if (circuit.chosen === edit.design) circuit.chosen = circuit.designs[0]!.id
    },
    (e, say, job) => `Alternative ${nameOfDesign(job, e)} removed${say.ofCircuit(e.circuit)}`,
  ),
  'design.choose': edit(
    inDesign,
    (job, edit) => {
      const { circuit } = designOf(job, edit)
      circuit.chosen = edit.design
      alignProtection(job, circuit)
    },
    (e, say, job) => `Alternative ${nameOfDesign(job, e)} chosen${say.ofCircuit(e.circuit)}`,
  ),
  /** One kind of thing in place of another, wherever it is to be put in. */
  'design.swap': edit(
    { what: z.enum(swaps), from: word(64), to: word(64) },
    (job, { what, from, to }) => {
      if (what === 'accessory') mustBeListed(job, to, 'to')
      if (what === 'box' && !boxKind(to)?.regions.includes(job.region))
        throw new EditError('to', 'This box is not listed for where the job is.')
      if (what === 'cable' && !worlds[job.region].cables.includes(to))
        throw new EditError('to', 'This cable is not listed for where the job is.')
      let swapped = 0
      const take = <K extends string>(on: Record<K, string | null>, key: K) => {
        if (on[key] !== from) return
        on[key] = to
        swapped++
      }
      for (const c of job.circuits) {
        const design = c.designs.find((d) => d.id === c.chosen) ?? c.designs[0]!
        if (what !== 'box') take(design as Record<typeof what, string | null>, what)
      }
      for (const p of job.points) {
        if (p.state === 'existing') continue
        if (what === 'accessory') take(p, 'accessory')
      }
      const there = new Set(job.points.flatMap((p) => (p.state === 'existing' ? [p.box] : [])))
      if (what === 'box')
        for (const b of job.boxes)
          if (b.planned) take(b.planned, 'kind')
          else if (!there.has(b.id)) take(b, 'kind')
      if (swapped === 0) throw new EditError('from', 'There is none of it in the job any more.')
    },
    ({ from, to }) => `${swapName(from)} replaced by ${swapName(to)}`,
  ),
  'design.take': edit(
    {
      ...inDesign,
      id: idField,
      name: text(80),
      patch: designSchema.omit({ id: true, name: true }).partial(),
      ...fitting,
      reason: text(1000),
    },
    (job, edit) => {
      const { circuit, design } = designOf(job, edit)
      mustBeListed(job, edit.patch.accessory, 'patch.accessory')
      const taken = { ...(JSON.parse(JSON.stringify(design)) as DesignRecord), ...edit.patch, id: edit.id, name: edit.name }
      // The last of three makes room: what is taken is worth more than what was laid beside it.
      if (circuit.designs.length >= 3)
        circuit.designs.splice(
          circuit.designs.findLastIndex((d) => d.id !== circuit.chosen),
          1,
        )
      fitAt(job, taken, edit.fit ?? [])
      addTo(circuit.designs, taken, 'id')
      circuit.chosen = edit.id
      circuit.reason = edit.reason
      alignProtection(job, circuit)
    },
    (e, say) => `Alternative ${e.name} taken${say.ofCircuit(e.circuit)}`,
  ),
  'source.choose': edit(
    {
      ...inCircuit,
      source: sourceSchema.nullable(),
      /** What the choice settles: the way, the length of the run, and in the designs breaker and protection. */
      way: text(40).optional(),
      lengthM: amount.nullable().optional(),
      design: designSchema.pick({ wantedBreakerA: true, residual: true }).partial(),
    },
    (job, { circuit: id, source, way, lengthM, design }) => {
      const circuit = circuitOf(job, id)
      if (source && source.kind !== 'board') {
        inList(job.points, source.from, 'point', 'source.from')
        if (circuit.kind === 'ring') throw new EditError('source.kind', RING_FROM_POINT)
        if (listOf(job, id).some((p) => p.id === source.from))
          throw new EditError('source.from', 'The circuit passes this point itself; it takes its power from outside.')
      }
      if (source?.kind === 'board') inList(job.boards, source.from, 'board', 'source.from')
      circuit.source = source
      for (const d of circuit.designs) Object.assign(d, design)
      if (lengthM !== undefined) giveLength(runOf(job, id), lengthM)
      if (way !== undefined) connect(job, circuit, { way, ...(source?.kind === 'board' ? { board: source.from } : {}) })
      if (source) leadFrom(job, id, source.kind === 'board' ? beginning(circuit, source.from) : { kind: 'point', id: source.from })
    },
    ({ circuit, source }, say) =>
      source ? `Power taken from: ${source.words}${say.ofCircuit(circuit)}` : `Where to take power left open${say.ofCircuit(circuit)}`,
  ),
}

function nameOfDesign(job: Doc, { circuit, design }: { circuit: string; design: string }): string {
  return job.circuits.find((c) => c.id === circuit)?.designs.find((d) => d.id === design)?.name ?? design
}
function ofAlternative(job: Doc, e: { circuit: string; design: string }): string {
  const of = job.circuits.find((c) => c.id === e.circuit)
  return of && of.designs.length > 1 ? `, alternative ${nameOfDesign(job, e)}` : ''
}

/** The way of a circuit as somebody would type it: "14-16", "5a", or what it is called. */
export const typedWay = (job: { readonly ways: readonly Way[]; readonly region: RegionId }, circuit: Pick<CircuitRecord, 'ways'>): string =>
  wayInWords(
    job.region,
    circuit.ways.flatMap((id) => job.ways.find((w) => w.id === id) ?? []),
  )

/** Ways as they are written on the board: "14-16"; empty for none. */
export const wayInWords = (region: RegionId, ways: readonly Way[]): string =>
  ways
    .map((w) =>
      w.position === null ? w.label : w.poles === 2 ? `${w.position}-${pairOf(region, w.position)}` : `${w.position}${w.half ?? ''}`,
    )
    .join(', ')

export const cablesOfCircuit = (cables: readonly Cable[]): ReadonlyMap<string, Cable[]> => {
  const map = new Map<string, Cable[]>()
  for (const k of cables) {
    if (k.circuit === null) continue
    const list = map.get(k.circuit)
    if (list) list.push(k)
    else map.set(k.circuit, [k])
  }
  return map
}
