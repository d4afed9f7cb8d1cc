import { applyPatches, type Draft, enablePatches, type Patch, produceWithPatches } from 'immer'
import { z } from 'zod'
import { accessory } from '../catalogue/accessories'
import { applianceKinds } from '../catalogue/appliances'
import { boxKind } from '../catalogue/boxes'
import { fitnessAnswers, fitnessFor, fitnessQuestions } from '../catalogue/fitness'
import { loopOfFeeders } from '../design/fed'
import { formatSize } from '../quantity/format'
import { sightingInWords } from '../trace/words'
import { defectKind } from '../survey/defects'
import { boardSchema, defectSchema, guardSchema, MAIN_BOARD, newPoint, pointSchema, pointsThere, roomSchema, runSchema, sightingSchema, type Survey, surveySchema, waySchema } from '../survey/schema'
import { snapshot } from '../trace/kept'
import { boxSchema, briefSchema, type Circuit, circuitKinds, circuitPointSchema, circuitSchema, designSchema, type Job, jobSchema, loadSchema, newBox, newCircuit, newDesign, racewaySchema, sourceSchema, supplySchema, wiringSchema } from './schema'

enablePatches()

const id = z.string().min(1).max(64)
const inCircuit = { circuit: id }
const inDesign = { circuit: id, design: id }
/** Which accessory of the circuit, where it is not the one the circuit ends on. */
const atEnd = { end: id.optional() }

/** Everything a user can do to a Job, as data: the same edits come from the screens, the demo and a program. */
export const editSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('job.set'), patch: jobSchema.pick({ title: true, place: true }).partial() }),
  z.strictObject({ kind: z.literal('brief.set'), patch: briefSchema.omit({ fitness: true }).partial() }),
  z.strictObject({ kind: z.literal('fitness.answer'), question: id, answer: z.enum(fitnessAnswers).nullable() }),
  z.strictObject({ kind: z.literal('supply.set'), patch: supplySchema.partial() }),
  z.strictObject({ kind: z.literal('circuit.add'), id, name: z.string().max(120), of: z.enum(circuitKinds).optional() }),
  z.strictObject({ kind: z.literal('circuit.remove'), ...inCircuit }),
  z.strictObject({ kind: z.literal('circuit.set'), ...inCircuit, patch: circuitSchema.pick({ name: true, way: true, reason: true, kind: true, work: true, place: true, environment: true, nearWater: true, outOfReach: true, closeM: true, feeder: true, guard: true }).partial() }),
  z.strictObject({ kind: z.literal('stop.add'), ...inCircuit, points: z.array(circuitPointSchema).min(1).max(100) }),
  z.strictObject({ kind: z.literal('stop.set'), ...inCircuit, id, patch: circuitPointSchema.omit({ id: true }).partial() }),
  z.strictObject({ kind: z.literal('stop.remove'), ...inCircuit, id }),
  z.strictObject({ kind: z.literal('stop.move'), ...inCircuit, id, to: z.int().min(0).max(199) }),
  z.strictObject({ kind: z.literal('old.answer'), ...inCircuit, question: id, answer: z.enum(fitnessAnswers).nullable() }),
  z.strictObject({ kind: z.literal('load.set'), ...inCircuit, patch: loadSchema.partial() }),
  z.strictObject({ kind: z.literal('design.set'), ...inDesign, patch: designSchema.omit({ id: true }).partial() }),
  z.strictObject({ kind: z.literal('design.copy'), ...inDesign, id, name: z.string().max(80) }),
  z.strictObject({ kind: z.literal('design.remove'), ...inDesign }),
  z.strictObject({ kind: z.literal('design.choose'), ...inDesign }),
  z.strictObject({ kind: z.literal('design.take'), ...inDesign, id, name: z.string().max(80), patch: designSchema.omit({ id: true, name: true }).partial(), reason: z.string().max(1000) }),
  z.strictObject({ kind: z.literal('raceway.add'), item: racewaySchema }),
  z.strictObject({ kind: z.literal('raceway.set'), id, patch: racewaySchema.omit({ id: true }).partial() }),
  z.strictObject({ kind: z.literal('raceway.remove'), id }),
  z.strictObject({ kind: z.literal('price.set'), name: z.string().min(1).max(64), amount: z.number().nonnegative().max(1e6).nullable() }),
  z.strictObject({ kind: z.literal('ways.move'), moves: z.array(z.strictObject({ id, position: z.int().min(1).max(84) })).min(1).max(84) }),
  z.strictObject({ kind: z.literal('box.set'), ...inCircuit, ...atEnd, patch: boxSchema.partial() }),
  z.strictObject({ kind: z.literal('way.add'), way: waySchema }),
  z.strictObject({ kind: z.literal('way.set'), id, patch: waySchema.omit({ id: true }).partial() }),
  z.strictObject({ kind: z.literal('way.remove'), id }),
  z.strictObject({ kind: z.literal('point.add'), points: z.array(pointSchema).min(1).max(500) }),
  z.strictObject({ kind: z.literal('point.set'), id, patch: pointSchema.omit({ id: true }).partial() }),
  z.strictObject({ kind: z.literal('point.remove'), id }),
  z.strictObject({ kind: z.literal('sighting.add'), sightings: z.array(sightingSchema.extend({ looked: sightingSchema.shape.looked.optional() })).min(1).max(500) }),
  z.strictObject({ kind: z.literal('sighting.complete'), ids: z.array(id).min(1).max(5000), dead: z.array(id).max(1000) }),
  z.strictObject({ kind: z.literal('sighting.withdraw'), id, withdrawn: z.boolean() }),
  z.strictObject({ kind: z.literal('survey.set'), patch: surveySchema.pick({ reportBy: true, demand: true, weights: true, answers: true, practice: true }).partial() }),
  z.strictObject({ kind: z.literal('board.add'), item: boardSchema }),
  z.strictObject({ kind: z.literal('board.set'), id, patch: boardSchema.omit({ id: true }).partial() }),
  z.strictObject({ kind: z.literal('board.remove'), id }),
  z.strictObject({ kind: z.literal('guard.add'), item: guardSchema }),
  z.strictObject({ kind: z.literal('guard.set'), id, patch: guardSchema.omit({ id: true }).partial() }),
  z.strictObject({ kind: z.literal('guard.remove'), id }),
  z.strictObject({ kind: z.literal('room.set'), room: roomSchema }),
  z.strictObject({ kind: z.literal('run.add'), item: runSchema }),
  z.strictObject({ kind: z.literal('run.set'), id, patch: runSchema.omit({ id: true }).partial() }),
  z.strictObject({ kind: z.literal('run.remove'), id }),
  z.strictObject({ kind: z.literal('trace.keep'), id, at: z.iso.datetime(), title: z.string().max(120), restart: z.boolean() }),
  z.strictObject({ kind: z.literal('trace.forget'), id }),
  z.strictObject({ kind: z.literal('defect.add'), items: z.array(defectSchema).min(1).max(500) }),
  z.strictObject({ kind: z.literal('defect.set'), id, patch: defectSchema.pick({ text: true, place: true, kind: true, state: true, reason: true }).partial() }),
  z.strictObject({ kind: z.literal('defect.work'), id, work: id }),
  z.strictObject({ kind: z.literal('defect.remove'), id }),
  z.strictObject({
    kind: z.literal('source.choose'),
    ...inCircuit,
    source: sourceSchema.nullable(),
    /** What the choice settles in the circuit and its chosen design. */
    way: z.string().max(40).optional(),
    design: designSchema.pick({ lengthM: true, wantedBreakerA: true, residual: true }).partial(),
  }),
  z.strictObject({ kind: z.literal('wiring.set'), ...inCircuit, patch: wiringSchema.pick({ colours: true }).partial() }),
  z.strictObject({ kind: z.literal('wiring.step'), ...inCircuit, ...atEnd, step: id, done: z.boolean() }),
])
export type Edit = z.infer<typeof editSchema>
type EditKind = Edit['kind']
type EditOf<K extends EditKind> = Extract<Edit, { kind: K }>

/** An edit that cannot be made on this job; nothing has changed. */
export class EditError extends Error {
  constructor(
    readonly path: string,
    message: string,
  ) {
    super(message)
    this.name = 'EditError'
  }
}

export interface Applied {
  readonly job: Job
  readonly patches: Patch[]
  readonly inverse: Patch[]
}

function circuitOf(job: Draft<Job>, id: string): Draft<Circuit> {
  const found = job.circuits.find((c) => c.id === id)
  if (!found) throw new EditError('circuit', 'This circuit is no longer in the job.')
  return found
}

function designOf(job: Draft<Job>, edit: { circuit: string; design: string }) {
  const circuit = circuitOf(job, edit.circuit)
  const index = circuit.designs.findIndex((d) => d.id === edit.design)
  if (index < 0) throw new EditError('design', 'This alternative is no longer in the circuit.')
  return { circuit, index, design: circuit.designs[index]! }
}

function mustBeListed(job: Draft<Job>, chosen: string | null | undefined, path: string): void {
  if (chosen && accessory(chosen)?.region !== job.region) throw new EditError(path, 'This accessory is not listed for the job’s world.')
}

/** Box and wiring of a further kind of accessory, begun when first said; null for the one the circuit ends on. */
function endOf(job: Draft<Job>, { circuit, end }: { circuit: string; end?: string | undefined }) {
  if (end === undefined) return null
  mustBeListed(job, end, 'end')
  return (circuitOf(job, circuit).ends[end] ??= { box: newBox(), done: [] })
}

function inList<T extends { id: string }>(list: T[], id: string, what: string): T {
  const found = list.find((x) => x.id === id)
  if (!found) throw new EditError('id', `This ${what} is no longer in the survey.`)
  return found
}

function addTo<T extends { id: string }>(list: T[], item: T, path: string): void {
  if (list.some((x) => x.id === item.id)) throw new EditError(path, 'There is one with this id already.')
  list.push(item)
}

/** Takes a way out with what was seen of it; a board fed from it is then fed from nobody knows where. */
function dropWay(survey: Draft<Survey>, gone: string): void {
  survey.ways = survey.ways.filter((w) => w.id !== gone)
  survey.sightings = survey.sightings.filter((s) => s.seen.kind !== 'breaker-off' || s.seen.breaker !== gone)
  for (const b of survey.boards) if (b.fedFrom === gone) b.fedFrom = null
}

/** How each kind of edit changes the draft; one row a kind. */
const reducers: { [K in EditKind]: (job: Draft<Job>, edit: EditOf<K>) => void } = {
  'job.set': (job, { patch }) => void Object.assign(job, patch),
  'brief.set': (job, { patch }) => void Object.assign(job.brief, patch),
  'fitness.answer': (job, { question, answer }) => {
    if (!fitnessQuestions.some((q) => q.id === question)) throw new EditError('question', 'There is no such question.')
    if (answer === null) delete job.brief.fitness[question]
    else job.brief.fitness[question] = answer
  },
  'supply.set': (job, { patch }) => void Object.assign(job.supply, patch),
  'circuit.add': (job, edit) => {
    if (job.circuits.some((c) => c.id === edit.id)) throw new EditError('id', 'There is a circuit with this id already.')
    const made = newCircuit(job.region, edit.id, edit.name)
    const across = edit.of === 'feeder' && job.region === 'north-america'
    // Residual devices stand on the circuits of the sub-board, not on the feeder, where one fault would darken all.
    const designs = edit.of === 'feeder' ? made.designs.map((d) => ({ ...d, residual: { ...d.residual, at: 'none' as const } })) : made.designs
    job.circuits.push({ ...made, designs, kind: edit.of ?? 'radial', load: { ...made.load, ...(across ? { volts: 240 } : {}), ...(edit.of === 'feeder' ? { connection: 'fixed' as const } : {}) } })
  },
  'circuit.remove': (job, edit) => {
    circuitOf(job, edit.circuit)
    if (job.circuits.length === 1) throw new EditError('circuit', 'A job keeps at least one circuit.')
    job.circuits = job.circuits.filter((c) => c.id !== edit.circuit)
    for (const r of job.raceways) r.circuits = r.circuits.filter((c) => c !== edit.circuit)
    for (const c of job.circuits) if (c.feeder === edit.circuit) c.feeder = null
  },
  'circuit.set': (job, edit) => {
    const { feeder, guard, kind } = edit.patch
    if (feeder) {
      if (circuitOf(job, feeder).kind !== 'feeder') throw new EditError('patch.feeder', 'Only a feeder ends in a board that others leave from.')
      if (loopOfFeeders(job.circuits, edit.circuit, feeder)) throw new EditError('patch.feeder', 'A feeder cannot be fed by its own sub-board.')
    }
    const circuit = circuitOf(job, edit.circuit)
    Object.assign(circuit, edit.patch)
    if (guard && guard !== 'own') {
      const { tripMa } = inList(job.survey.guards, guard, 'residual device')
      // What stands behind a device trips as it does.
      for (const d of circuit.designs) if (d.residual.at === 'board') d.residual.ma = tripMa
    }
    // What is no feeder any more has no sub-board.
    if (kind && kind !== 'feeder') for (const c of job.circuits) if (c.feeder === edit.circuit) c.feeder = null
  },
  'stop.add': (job, edit) => {
    const { points } = circuitOf(job, edit.circuit)
    for (const [i, p] of edit.points.entries()) {
      if (p.from !== null) inList([...points], p.from, 'point')
      mustBeListed(job, p.accessory, `points.${i}.accessory`)
      addTo(points, p, `points.${i}.id`)
    }
  },
  'stop.set': (job, edit) => {
    const { points } = circuitOf(job, edit.circuit)
    const point = inList(points, edit.id, 'point')
    mustBeListed(job, edit.patch.accessory, 'patch.accessory')
    Object.assign(point, edit.patch)
    for (let at = point, steps = 0; at.from !== null; at = inList(points, at.from, 'point'), steps++) if (at.from === point.id || steps > points.length) throw new EditError('patch.from', 'A point cannot hang from itself.')
  },
  'stop.remove': (job, edit) => {
    const circuit = circuitOf(job, edit.circuit)
    const gone = inList(circuit.points, edit.id, 'point')
    for (const p of circuit.points) if (p.from === gone.id) p.from = gone.from
    circuit.points = circuit.points.filter((p) => p.id !== edit.id)
  },
  'stop.move': (job, edit) => {
    const { points } = circuitOf(job, edit.circuit)
    const point = inList(points, edit.id, 'point')
    points.splice(points.indexOf(point), 1)
    points.splice(edit.to, 0, point)
  },
  'old.answer': (job, { circuit, question, answer }) => {
    const { old } = circuitOf(job, circuit)
    if (answer === null) delete old[question]
    else old[question] = answer
  },
  'load.set': (job, edit) => void Object.assign(circuitOf(job, edit.circuit).load, edit.patch),
  'design.set': (job, edit) => {
    const { design } = designOf(job, edit)
    mustBeListed(job, edit.patch.accessory, 'patch.accessory')
    Object.assign(design, edit.patch)
  },
  'design.copy': (job, edit) => {
    const { circuit, design } = designOf(job, edit)
    if (circuit.designs.length >= 3) throw new EditError('id', 'Three alternatives stand side by side at most; remove one first.')
    if (circuit.designs.some((d) => d.id === edit.id)) throw new EditError('id', 'There is an alternative with this id already.')
    circuit.designs.push({ ...newDesign(job.region, edit.id, edit.name), ...JSON.parse(JSON.stringify(design)), id: edit.id, name: edit.name })
  },
  'design.remove': (job, edit) => {
    const { circuit, index } = designOf(job, edit)
    if (circuit.designs.length === 1) throw new EditError('design', 'A circuit keeps at least one design.')
    circuit.designs.splice(index, 1)
    if (circuit.chosen === edit.design) circuit.chosen = circuit.designs[0]!.id
  },
  'design.choose': (job, edit) => {
    designOf(job, edit).circuit.chosen = edit.design
  },
  'design.take': (job, edit) => {
    const { circuit, design } = designOf(job, edit)
    const taken = { ...(JSON.parse(JSON.stringify(design)) as typeof design), ...edit.patch, id: edit.id, name: edit.name }
    // The last of three makes room: what is taken is worth more than what was laid beside it.
    if (circuit.designs.length >= 3) circuit.designs.splice(circuit.designs.findLastIndex((d) => d.id !== circuit.chosen), 1)
    addTo(circuit.designs, taken, 'id')
    circuit.chosen = edit.id
    circuit.reason = edit.reason
  },
  'raceway.add': (job, { item }) => addTo(job.raceways, item, 'item.id'),
  'raceway.set': (job, edit) => {
    const raceway = inList(job.raceways, edit.id, 'raceway')
    Object.assign(raceway, edit.patch)
    for (const c of raceway.circuits) circuitOf(job, c)
  },
  'raceway.remove': (job, edit) => {
    inList(job.raceways, edit.id, 'raceway')
    job.raceways = job.raceways.filter((r) => r.id !== edit.id)
  },
  'price.set': (job, { name, amount }) => {
    if (amount === null) delete job.prices[name]
    else job.prices[name] = amount
  },
  'ways.move': (job, { moves }) => {
    for (const m of moves) inList(job.survey.ways, m.id, 'way').position = m.position
  },
  'box.set': (job, edit) => {
    if (edit.patch.kind && !boxKind(edit.patch.kind)?.regions.includes(job.region)) throw new EditError('patch.kind', 'This box is not listed for the job’s world.')
    Object.assign(endOf(job, edit)?.box ?? circuitOf(job, edit.circuit).box, edit.patch)
  },
  'way.add': (job, { way }) => {
    inList(job.survey.boards, way.board, 'board')
    addTo(job.survey.ways, way, 'way.id')
  },
  'way.set': (job, edit) => void Object.assign(inList(job.survey.ways, edit.id, 'way'), edit.patch),
  'way.remove': (job, edit) => {
    inList(job.survey.ways, edit.id, 'way')
    dropWay(job.survey, edit.id)
  },
  'point.add': (job, { points }) => {
    for (const [i, p] of points.entries()) addTo(job.survey.points, p, `points.${i}.id`)
  },
  'point.set': (job, edit) => void Object.assign(inList(job.survey.points, edit.id, 'point'), edit.patch),
  'point.remove': (job, edit) => {
    inList(job.survey.points, edit.id, 'point')
    job.survey.points = job.survey.points.filter((p) => p.id !== edit.id)
    // What was seen of it goes with it, and the cables counted above it; what was seen of others stands, without it.
    const above = new Set(job.survey.sightings.flatMap(({ seen }) => (seen.kind === 'disconnected' && seen.dead.includes(edit.id) ? [seen.point] : [])))
    job.survey.sightings = job.survey.sightings.filter(({ seen }) => seen.kind === 'breaker-off' || (seen.point !== edit.id && !(seen.kind === 'cables' && above.has(seen.point))))
    for (const s of job.survey.sightings) {
      if (s.seen.kind !== 'cables') s.seen.dead = s.seen.dead.filter((d) => d !== edit.id)
      s.looked = s.looked?.filter((d) => d !== edit.id) ?? null
    }
    for (const d of job.survey.defects) if (d.work?.id === edit.id) Object.assign(d, { work: null, state: 'open' })
  },
  'sighting.add': (job, { sightings }) => {
    const places = new Set([...job.survey.ways, ...job.survey.points].map((x) => x.id))
    for (const [i, s] of sightings.entries()) {
      const named = [s.seen.kind === 'breaker-off' ? s.seen.breaker : s.seen.point, ...(s.seen.kind === 'cables' ? [] : s.seen.dead)]
      if (named.some((n) => !places.has(n))) throw new EditError(`sightings.${i}.seen`, 'It names a way or point that is no longer in the survey.')
      // Whoever looks, looks at every point that is listed by then.
      if (!job.survey.sightings.some((known) => known.id === s.id)) job.survey.sightings.push({ ...s, looked: s.looked ?? pointsThere(job.survey).map((p) => p.id) })
    }
  },
  'sighting.complete': (job, edit) => {
    const there = pointsThere(job.survey).map((p) => p.id)
    for (const one of edit.ids) {
      const sighting = inList(job.survey.sightings, one, 'observation')
      const { seen, looked } = sighting
      // Only what was not looked at then can be said of it now.
      if (seen.kind !== 'cables' && looked) seen.dead.push(...edit.dead.filter((d) => there.includes(d) && !looked.includes(d)))
      sighting.looked = [...new Set([...(looked ?? []), ...there])]
    }
  },
  'sighting.withdraw': (job, edit) => {
    inList(job.survey.sightings, edit.id, 'observation').withdrawn = edit.withdrawn
  },
  'survey.set': (job, { patch }) => void Object.assign(job.survey, patch),
  'board.add': (job, { item }) => {
    addTo(job.survey.boards, item, 'item.id')
    if (item.fedFrom) inList(job.survey.ways, item.fedFrom, 'way').kind = 'feeder'
  },
  'board.set': (job, edit) => {
    if (edit.id === MAIN_BOARD && edit.patch.fedFrom) throw new EditError('patch.fedFrom', 'The main board is fed from the supply.')
    Object.assign(inList(job.survey.boards, edit.id, 'board'), edit.patch)
  },
  'board.remove': (job, { id: gone }) => {
    if (gone === MAIN_BOARD) throw new EditError('id', 'The main board stays.')
    inList(job.survey.boards, gone, 'board')
    for (const w of job.survey.ways.filter((x) => x.board === gone)) dropWay(job.survey, w.id)
    job.survey.guards = job.survey.guards.filter((g) => g.board !== gone)
    job.survey.boards = job.survey.boards.filter((b) => b.id !== gone)
  },
  'guard.add': (job, { item }) => {
    inList(job.survey.boards, item.board, 'board')
    addTo(job.survey.guards, item, 'item.id')
  },
  'guard.set': (job, edit) => void Object.assign(inList(job.survey.guards, edit.id, 'residual device'), edit.patch),
  'guard.remove': (job, { id: gone }) => {
    inList(job.survey.guards, gone, 'residual device')
    job.survey.guards = job.survey.guards.filter((g) => g.id !== gone)
    for (const w of job.survey.ways) {
      if (w.guard === gone) w.guard = 'unknown'
      if (w.bar === gone) w.bar = null
    }
    for (const c of job.circuits) if (c.guard === gone) c.guard = null
  },
  'room.set': (job, { room }) => {
    const at = job.survey.rooms.findIndex((r) => r.name === room.name)
    if (at < 0) job.survey.rooms.push(room)
    else job.survey.rooms[at] = room
  },
  'run.add': (job, { item }) => addTo(job.survey.runs, item, 'item.id'),
  'run.set': (job, edit) => void Object.assign(inList(job.survey.runs, edit.id, 'wall'), edit.patch),
  'run.remove': (job, edit) => {
    inList(job.survey.runs, edit.id, 'wall')
    job.survey.runs = job.survey.runs.filter((r) => r.id !== edit.id)
  },
  'trace.keep': (job, edit) => {
    job.survey.traces.push(snapshot(job as Job, edit.id, edit.at, edit.title))
    if (edit.restart) job.survey.sightings = []
  },
  'trace.forget': (job, edit) => {
    inList(job.survey.traces, edit.id, 'kept trace')
    job.survey.traces = job.survey.traces.filter((t) => t.id !== edit.id)
  },
  'defect.add': (job, { items }) => {
    for (const [i, d] of items.entries()) addTo(job.survey.defects, d, `items.${i}.id`)
  },
  'defect.set': (job, edit) => {
    const defect = inList(job.survey.defects, edit.id, 'finding')
    Object.assign(defect, edit.patch)
    if (defect.state === 'declined' && defect.reason.trim() === '') throw new EditError('patch.reason', 'Say why it is declined: the reply gives the reason.')
  },
  'defect.work': (job, edit) => {
    const defect = inList(job.survey.defects, edit.id, 'finding')
    const kind = defectKind(job.region, defect.kind)
    if (!kind) throw new EditError('id', 'Say of what kind the finding is first.')
    defect.state = 'work'
    if (kind.makes === 'nothing') return
    const name = (defect.place || kind.name).slice(0, 110)
    if (kind.makes === 'circuit') {
      job.circuits.push(newCircuit(job.region, edit.work, name))
    } else addTo(job.survey.points, newPoint(edit.work, name, { room: defect.place, kind: kind.makes === 'box' ? 'box' : 'outlet', hidden: kind.makes === 'box', planned: kind.makes === 'point' }), 'work')
    defect.work = { kind: kind.makes, id: edit.work }
  },
  'defect.remove': (job, edit) => {
    inList(job.survey.defects, edit.id, 'finding')
    job.survey.defects = job.survey.defects.filter((d) => d.id !== edit.id)
  },
  'source.choose': (job, edit) => {
    const circuit = circuitOf(job, edit.circuit)
    circuit.source = edit.source
    if (edit.way !== undefined) circuit.way = edit.way
    for (const d of circuit.designs) Object.assign(d, edit.design)
  },
  'wiring.set': (job, edit) => void Object.assign(circuitOf(job, edit.circuit).wiring, edit.patch),
  'wiring.step': (job, edit) => {
    const at = endOf(job, edit) ?? circuitOf(job, edit.circuit).wiring
    at.done = edit.done ? [...new Set([...at.done, edit.step])] : at.done.filter((s) => s !== edit.step)
  },
}

/**
 * The job after an edit, with the patches both ways; the given job is untouched and shares what did not change.
 * @throws EditError where the edit names something the job lacks or breaks a rule of the document.
 */
export function applyEdit(job: Job, edit: Edit): Applied {
  const reduce = reducers[edit.kind] as (draft: Draft<Job>, edit: Edit) => void
  const [next, patches, inverse] = produceWithPatches(job, (draft) => reduce(draft, edit))
  return { job: next, patches, inverse }
}

export const patchJob = (job: Job, patches: readonly Patch[]): Job => applyPatches(job, patches as Patch[])

/** What the history calls a field whose key does not say it. */
const fieldNames: Readonly<Record<string, string>> = {
  askedBy: 'asked by',
  later: 'wishes for later',
  zeOhm: 'Ze',
  basis: 'load given in',
  amount: 'load',
  lengthM: 'length',
  ambientC: 'ambient',
  loadedConductors: 'loaded conductors',
  terminalC: 'terminals',
  groupedCircuits: 'circuits grouped',
  insulationMm: 'length in insulation',
  accessories: 'number of outlets',
  cordA: 'cord rating',
  wantedBreakerA: 'wanted breaker',
  minSize: 'smallest size',
  breakerType: 'breaker type',
  residual: 'residual protection',
  nearWater: 'near water',
  outOfReach: 'out of reach',
  cables: 'cables entering',
  internalClamps: 'internal clamps',
  supportFittings: 'support fittings',
  reportBy: 'who wrote the report',
  answers: 'answers about time',
  weights: 'weights of the sources',
  demand: 'facts for the demand',
  practice: 'practice building',
  ratingA: 'rating',
  mustHold: 'must hold',
  heightMm: 'height',
  mainA: 'main rating',
  mainSwitch: 'main switch',
  fedFrom: 'fed from',
  tripMa: 'trips at',
  guard: 'behind',
  bar: 'neutral bar',
  pscKa: 'fault current',
  breakingKa: 'breaking capacity',
  selectiveKa: 'discriminates up to',
  recordedA: 'highest current recorded',
  fuseA: 'fuse',
  closeM: 'length back to the board',
  guardsOn: 'guards what hangs beyond it',
  watts: 'load',
  leg: 'line',
  minC: 'lowest temperature',
  maxC: 'highest temperature',
  segments: 'stretches of the run',
  feeder: 'fed from',
}

/** A field in the words of the history: its name, or its key taken apart, without the unit. */
export const fieldWords = (key: string): string =>
  fieldNames[key] ??
  key
    .replace(/(?<=[a-z])(M|Mm|A|Ma|Ka|C|W|V|Ohm|Min)$/, '')
    .replace(/(?<=[a-z])[A-Z]/g, (c) => ` ${c.toLowerCase()}`)

/** Fields that name something else of the job by its id, and what they say where they name nothing. */
const pointing: Readonly<Record<string, string>> = { from: 'the board', feeder: 'the board', fedFrom: 'the supply', guard: 'not said', bar: 'not known', board: 'none', appliance: 'anything' }

/** What a circuit or a way may stand behind without its having a name. */
const unnamedGuards: Readonly<Record<string, string>> = { own: 'a device of its own', none: 'nothing', unknown: 'not known' }

/** What every id of a job is called. */
function namesIn(job: Job): ReadonlyMap<string, string> {
  const { boards, guards, ways, points } = job.survey
  const named = [...job.circuits, ...job.circuits.flatMap((c) => c.points), ...boards, ...guards, ...points]
  return new Map([...named.map((x) => [x.id, x.name] as const), ...ways.map((w) => [w.id, w.label] as const), ...applianceKinds(job.region).map((k) => [k.id, k.name] as const)])
}

function inWords(job: Job, key: string, value: unknown): string {
  if (key === 'guard' && String(value) in unnamedGuards) return unnamedGuards[String(value)]!
  if (key in pointing) return value === null ? pointing[key]! : (namesIn(job).get(String(value)) ?? String(value))
  if (key === 'accessory' && value === null) return 'as the circuit says'
  if (value === null || value === '') return 'none'
  if (typeof value === 'boolean') return value ? 'yes' : 'no'
  if (key === 'accessory') return accessory(String(value))?.name ?? String(value)
  if (key === 'kind') return boxKind(String(value))?.name ?? String(value)
  if (Array.isArray(value)) return value.every((v) => typeof v === 'string') ? value.join(', ') || 'none' : String(value.length)
  if (typeof value === 'object') return Object.values(value).filter((v) => v !== null).join(' ')
  const words = formatSize(String(value))
  return words.length > 60 ? `${words.slice(0, 57)}…` : words
}

const inPatch = (job: Job, patch: object): string =>
  Object.entries(patch)
    .map(([k, v]) => `${fieldWords(k)} ${inWords(job, k, v)}`)
    .join(', ')

const sentence = (s: string): string => s.charAt(0).toUpperCase() + s.slice(1)

const ofEnd = ({ end }: { readonly end?: string | undefined }): string => (end === undefined ? '' : ` of the ${accessory(end)?.name ?? end}`)
const wayName = (job: Job, id: string): string => job.survey.ways.find((w) => w.id === id)?.label ?? id
const pointName = (job: Job, id: string): string => job.survey.points.find((p) => p.id === id)?.name ?? id
const named = (list: readonly { id: string; name: string }[], id: string, other: string): string => list.find((x) => x.id === id)?.name || other
const defectWords = (job: Job, id: string): string => {
  const words = job.survey.defects.find((d) => d.id === id)?.text ?? ''
  return `Finding “${words.length > 40 ? `${words.slice(0, 39)}…` : words}”`
}

/** One line for the history, in the user's words. `job` is the state before the edit. */
export function describeEdit(job: Job, edit: Edit): string {
  const circuit = 'circuit' in edit ? job.circuits.find((c) => c.id === edit.circuit) : undefined
  const inName = circuit && job.circuits.length > 1 ? ` (${circuit.name})` : ''
  const designName = 'design' in edit ? (circuit?.designs.find((d) => d.id === edit.design)?.name ?? edit.design) : ''
  switch (edit.kind) {
    case 'job.set':
    case 'brief.set':
    case 'supply.set':
      return sentence(inPatch(job, edit.patch))
    case 'fitness.answer':
      return `${fitnessFor(job.region).find((q) => q.id === edit.question)?.ask ?? edit.question} ${edit.answer ?? 'left open'}`
    case 'circuit.add':
      return `${edit.name} added`
    case 'circuit.remove':
      return `${circuit?.name ?? 'Circuit'} removed`
    case 'load.set':
      return `${sentence(edit.patch.name !== undefined && edit.patch.amount !== undefined ? `appliance ${edit.patch.name}` : inPatch(job, edit.patch))}${inName}`
    case 'circuit.set':
      return `${sentence(inPatch(job, edit.patch))}${inName}`
    case 'design.set':
      return `${sentence(inPatch(job, edit.patch))}${circuit && circuit.designs.length > 1 ? `, alternative ${designName}` : ''}${inName}`
    case 'design.copy':
      return `Alternative ${edit.name} laid beside ${designName}${inName}`
    case 'design.remove':
      return `Alternative ${designName} removed${inName}`
    case 'design.choose':
      return `Alternative ${designName} chosen${inName}`
    case 'stop.add':
      return `${edit.points.length === 1 ? `Point ${edit.points[0]!.name}` : `${edit.points.length} points`} put on the circuit${inName}`
    case 'stop.set':
      return `${named(circuit?.points ?? [], edit.id, 'Point')}: ${inPatch(job, edit.patch)}${inName}`
    case 'stop.remove':
      return `${named(circuit?.points ?? [], edit.id, 'Point')} taken off the circuit${inName}`
    case 'stop.move':
      return `${named(circuit?.points ?? [], edit.id, 'Point')} moved along the circuit${inName}`
    case 'old.answer':
      return `Old work, ${edit.question}: ${edit.answer ?? 'left open'}${inName}`
    case 'design.take':
      return `Alternative ${edit.name} taken${inName}`
    case 'raceway.add':
      return `${edit.item.name} added`
    case 'raceway.set':
      return `${named(job.raceways, edit.id, 'Raceway')}: ${Object.keys(edit.patch).map(fieldWords).join(', ')}`
    case 'raceway.remove':
      return `${named(job.raceways, edit.id, 'Raceway')} removed`
    case 'price.set':
      return `Price of ${edit.name}: ${edit.amount ?? 'the usual one'}`
    case 'ways.move':
      return edit.moves.length === 1 ? `${wayName(job, edit.moves[0]!.id)} moved to ${edit.moves[0]!.position}` : `${edit.moves.length} breakers moved`
    case 'box.set':
      return `Box${ofEnd(edit)}: ${inPatch(job, edit.patch)}${inName}`
    case 'way.add':
      return `Way ${edit.way.label} added`
    case 'way.set':
      return `Way ${wayName(job, edit.id)}: ${inPatch(job, edit.patch)}`
    case 'way.remove':
      return `Way ${wayName(job, edit.id)} removed`
    case 'point.add':
      return edit.points.length === 1 ? `Point ${edit.points[0]!.name} added` : `${edit.points.length} points added`
    case 'point.set':
      return `${pointName(job, edit.id)}: ${inPatch(job, edit.patch)}`
    case 'point.remove':
      return `Point ${pointName(job, edit.id)} removed`
    case 'sighting.add':
      return `Seen: ${edit.sightings.map((s) => sightingInWords(job.survey, s.seen)).join('; ')}`
    case 'sighting.complete':
      return `${edit.ids.length === 1 ? 'An observation' : `${edit.ids.length} observations`} completed: ${edit.dead.length ? `${edit.dead.map((d) => pointName(job, d)).join(', ')} dead, the rest live` : 'what was listed later was live'}`
    case 'sighting.withdraw':
      return `Observation ${edit.withdrawn ? 'withdrawn' : 'taken up again'}`
    case 'survey.set':
      return `Survey: ${Object.keys(edit.patch).map(fieldWords).join(', ')} changed`
    case 'board.add':
      return `Board ${edit.item.name || 'without a name'} added`
    case 'board.set':
      return `${named(job.survey.boards, edit.id, 'Board')}: ${inPatch(job, edit.patch)}`
    case 'board.remove':
      return `${named(job.survey.boards, edit.id, 'Board')} removed`
    case 'guard.add':
      return `${edit.item.name} added`
    case 'guard.set':
      return `${named(job.survey.guards, edit.id, 'Residual device')}: ${inPatch(job, edit.patch)}`
    case 'guard.remove':
      return `${named(job.survey.guards, edit.id, 'Residual device')} removed`
    case 'room.set':
      return `${edit.room.name}: where it lies`
    case 'run.add':
      return `${edit.item.name} added`
    case 'run.set':
      return `${named(job.survey.runs, edit.id, 'Wall')}: ${Object.keys(edit.patch).map(fieldWords).join(', ')}`
    case 'run.remove':
      return `${named(job.survey.runs, edit.id, 'Wall')} removed`
    case 'trace.keep':
      return `Trace kept as “${edit.title}”${edit.restart ? ', and begun anew' : ''}`
    case 'trace.forget':
      return `Kept trace “${job.survey.traces.find((t) => t.id === edit.id)?.title ?? ''}” forgotten`
    case 'defect.add':
      return edit.items.length === 1 ? `Finding added: ${inWords(job, 'text', edit.items[0]!.text)}` : `${edit.items.length} findings added`
    case 'defect.set':
      return `${defectWords(job, edit.id)}: ${inPatch(job, edit.patch)}`
    case 'defect.work':
      return `${defectWords(job, edit.id)} made work`
    case 'defect.remove':
      return `${defectWords(job, edit.id)} removed`
    case 'source.choose':
      return edit.source ? `Power taken from: ${edit.source.words}${inName}` : `Where to take power left open${inName}`
    case 'wiring.set':
      return `Wiring: ${inPatch(job, edit.patch)} colours${inName}`
    case 'wiring.step':
      return `Wiring step ${edit.step}${ofEnd(edit)} ${edit.done ? 'done' : 'taken back'}${inName}`
  }
}
