import { newBoard, newResidualDevice, newWay, unnamedResiduals } from '../board'
import { begin, type End, endPointId, feederBoardId, lay, leadFrom, MOST_STRETCHES, newCable, runOf } from '../cable'
import { type CircuitRecord, connect, newCircuit } from '../circuit'
import type { ObservationRecord } from '../observation'
import type { BoxRecord } from '../box'
import { newLoad } from '../load'
import { newPoint, putPoint } from '../point'
import type { Reading } from '../reading'
import { newRoom, roomNamed } from '../room'
import { bareJob, type Job } from '../schema'
import type { Box, Circuit, CircuitPoint, Job as Job2, Reading as Reading2 } from './version-2'

/*
 * Version 2 held one thing in several lists: a point of the survey, of a circuit and along a wall; a way of the survey and a
 * circuit's way as text; a box of a kind of accessory. Here each becomes the one record it is. What version 2 did not say is
 * not known, and nothing is guessed.
 */

/** Ids of points stood apart for each circuit; in one list they may meet. */
function idsFor(job: Job2): (circuit: string, point: string) => string {
  const count = new Map<string, number>()
  const add = (id: string) => count.set(id, (count.get(id) ?? 0) + 1)
  for (const p of job.survey.points) add(p.id)
  for (const c of job.circuits) for (const p of c.points) add(p.id)
  for (const r of job.survey.runs) for (const o of r.outlets) add(o.id)
  return (owner, point) => ((count.get(point) ?? 0) > 1 ? `${owner}-${point}`.slice(0, 64) : point)
}

const boxOf = (box: Box, others: number, done: readonly string[]): Partial<BoxRecord> => ({
  kind: box.kind,
  internalClamps: box.internalClamps,
  supportFittings: box.supportFittings,
  others,
  done: [...done],
})

/** What is at a point of a circuit: its own accessory’s box and wiring, or those of what the circuit ends on. */
function finishOf(circuit: Circuit, accessory: string | null): { box: Box; done: string[] } {
  const design = circuit.designs.find((d) => d.id === circuit.chosen) ?? circuit.designs[0]!
  const other = accessory !== null && accessory !== design.accessory ? circuit.ends[accessory] : undefined
  if (other) return { box: other.box, done: other.done }
  return accessory !== null && accessory !== design.accessory
    ? { box: { kind: null, cables: 1, internalClamps: null, supportFittings: 0 }, done: [] }
    : { box: circuit.box, done: circuit.wiring.done }
}

function putOn(job: Job, circuit: Circuit, p: CircuitPoint, id: string): void {
  const { from: _, lengthM: __, size: ___, ...rest } = p
  const { box, done } = finishOf(circuit, p.accessory)
  const kind = circuit.load.lighting && p.outlets === 0 ? 'light' : p.outlets > 0 ? 'outlet' : 'fixed'
  putPoint(job, { ...newPoint(id, p.name, { state: 'new', kind }), ...rest, id }, boxOf(box, 0, done))
}

/** The cables of a circuit: its run, its points, and the joint where a run of several stretches divides. */
function layCircuit(job: Job, circuit: Circuit, record: CircuitRecord, idOf: (circuit: string, point: string) => string): void {
  const design = circuit.designs.find((d) => d.id === circuit.chosen) ?? circuit.designs[0]!
  const source: End = { kind: 'board', id: circuit.feeder === null ? 'main' : feederBoardId(circuit.feeder) }
  const stretches = design.segments.map((s) => ({ ...s }))
  const run = { lengthM: stretches.length > 0 ? null : design.lengthM, stretches }
  if (circuit.kind === 'feeder') {
    const id = feederBoardId(circuit.id)
    job.cables.push(newCable(`to-${id}`, source, { kind: 'board', id }, { circuit: circuit.id, ...run }))
  }
  for (const p of circuit.points) putOn(job, circuit, p, idOf(circuit.id, p.id))
  if (circuit.points.length === 0) {
    if (circuit.kind === 'feeder') return
    begin(job, circuit.id, source)
    Object.assign(runOf(job, circuit.id), run)
    const end = job.points.find((p) => p.id === endPointId(circuit.id))!
    end.kind = circuit.load.connection === 'fixed' ? 'fixed' : 'outlet'
    Object.assign(
      job.boxes.find((b) => b.id === end.box)!,
      boxOf(circuit.box, circuit.box.cables - 1, circuit.wiring.done),
    )
    return
  }
  const list = circuit.points.map((p) => ({
    id: idOf(circuit.id, p.id),
    from: p.from === null ? null : idOf(circuit.id, p.from),
    lengthM: p.lengthM,
    size: p.size,
  }))
  const roots = list.filter((p) => p.from === null)
  const ring = circuit.kind === 'ring'
  if (run.stretches.length && (roots.length > 1 || ring) && circuit.kind !== 'feeder') {
    const joint = newPoint(`${circuit.id}-joint`.slice(0, 64), 'Joint', { state: 'new', kind: 'box', watts: 0 })
    putPoint(job, joint)
    if (!ring) for (const p of roots) p.from = joint.id
    list.unshift({ id: joint.id, from: null, lengthM: 0, size: null })
  }
  lay(job, record.id, source, list, ring, circuit.closeM)
  if (run.stretches.length === 0 || circuit.kind === 'feeder') return
  const first = runOf(job, circuit.id)
  // How far it is from the last stretch to the first point is unknown where it was not said.
  const rest = first.lengthM === null ? [{ ...run.stretches.at(-1)!, id: `${circuit.id}-rest`.slice(0, 64), lengthM: null }] : []
  first.stretches = [...run.stretches.slice(0, MOST_STRETCHES - rest.length), ...rest]
}

function circuitFrom(circuit: Circuit, region: Job['region']): CircuitRecord {
  const { points: _, closeM: __, feeder: ___, guard: ____, way: _____, box: ______, ends: _______, wiring, designs, ...rest } = circuit
  return {
    ...newCircuit(region, circuit.id, circuit.name),
    ...rest,
    load: { ...newLoad(region), ...rest.load },
    colours: wiring.colours,
    designs: designs.map(({ lengthM: _a, segments: _b, ...d }) => d),
  }
}

/** What somebody wrote of the device a circuit is behind is written of the device. */
function tellDevices(job: Job, old: Job2): void {
  for (const device of job.residualDevices) {
    const types = new Set(
      old.circuits
        .filter((c) => c.guard === device.id)
        .map((c) => (c.designs.find((d) => d.id === c.chosen) ?? c.designs[0]!).residual)
        .filter((r) => r.at === 'board')
        .map((r) => r.type),
    )
    if (types.size === 1) device.type = [...types][0]!
  }
}

/** A circuit connected as it was written: its way by its text, behind what it was said to be behind. */
function connectCircuit(job: Job, circuit: Circuit, record: CircuitRecord): void {
  const board = circuit.feeder === null ? 'main' : feederBoardId(circuit.feeder)
  const design = circuit.designs.find((d) => d.id === circuit.chosen) ?? circuit.designs[0]!
  // It was said only of a circuit that has its protection at the board.
  const guard =
    design.residual.at !== 'board'
      ? circuit.way.trim()
        ? 'none'
        : undefined
      : circuit.guard !== null && (unnamedResiduals.includes(circuit.guard) || job.residualDevices.some((d) => d.id === circuit.guard))
        ? circuit.guard
        : undefined
  connect(job, record, { board, way: circuit.way })
  const onOldWay = record.ways.some((id) => job.ways.find((w) => w.id === id)?.state === 'existing')
  // What an old way is behind is what was found of it, not what somebody meant.
  if (
    guard !== undefined &&
    (!onOldWay || (guard !== 'none' && job.ways.some((w) => record.ways.includes(w.id) && w.residual === 'unknown')))
  )
    connect(job, record, { residual: guard })
  // What somebody reckoned with stays, to be held against the device.
  for (const [i, d] of record.designs.entries()) d.residual = { ...circuit.designs[i]!.residual }
}

/** A whole document of version 2 as one of this version. */
export function fromVersion2(given: Job2): Job {
  // Nothing of the old document is shared: it stays as it was.
  const old = structuredClone(given)
  const job = bareJob(old.region, old.title, old.place)
  const { survey } = old
  const idOf = idsFor(old)
  Object.assign(job, {
    brief: { ...old.brief, fitness: { ...old.brief.fitness } },
    supply: old.supply,
    prices: { ...old.prices },
    reportBy: survey.reportBy,
    demand: survey.demand,
    weights: survey.weights,
    answers: { ...survey.answers },
    practice: survey.practice,
    defects: survey.defects,
    traces: survey.traces,
  })
  job.boards = survey.boards.map((b) => newBoard(b.id, b))
  job.residualDevices = survey.guards.map((g) => newResidualDevice(g.id, g.name, g))
  const devices = new Set(job.residualDevices.map((d) => d.id))
  job.ways = survey.ways.map(({ guard, bar, ...w }) =>
    newWay(w.id, w.label, {
      ...w,
      residual: unnamedResiduals.includes(guard) || devices.has(guard) ? guard : 'unknown',
      bar: bar === null || bar === 'main' || devices.has(bar) ? bar : null,
    }),
  )
  for (const { name, ...room } of survey.rooms) {
    const id = job.rooms.some((r) => r.name === name) ? null : roomNamed(job, name)
    if (id !== null) job.rooms = job.rooms.map((r) => (r.id === id ? newRoom(id, name, room) : r))
  }
  for (const { planned, room, hidden, heightMm, ...p } of survey.points) {
    const place = { room: roomNamed(job, room), heightMm, hidden }
    putPoint(job, newPoint(p.id, p.name, { ...p, state: planned ? 'new' : 'existing' }), place)
  }
  for (const { outlets, room, ...wall } of survey.runs) {
    job.walls.push({ ...wall, room: roomNamed(job, room) })
    for (const [i, o] of outlets.entries())
      putPoint(job, newPoint(idOf(wall.id, o.id), `${wall.name}, outlet ${i + 1}`.slice(0, 120)), {
        room: roomNamed(job, room),
        wall: { wall: wall.id, atM: o.atM },
        heightMm: o.heightMm,
      })
  }
  job.raceways = old.raceways
  job.observations = observationsFrom(old, job)
  tellDevices(job, old)
  for (const circuit of old.circuits) if (circuit.kind === 'feeder') job.boards.push(newBoard(feederBoardId(circuit.id), { state: 'new' }))
  job.circuits = old.circuits.map((c) => circuitFrom(c, old.region))
  for (const [i, c] of old.circuits.entries()) layCircuit(job, c, job.circuits[i]!, idOf)
  for (const [i, c] of given.circuits.entries()) connectCircuit(job, c, job.circuits[i]!)
  for (const c of job.circuits) if (c.source && ![...job.boards, ...job.points].some((x) => x.id === c.source!.from)) c.source = null
  for (const { id, kind, source } of job.circuits) {
    // What continues from a point begins there.
    const passes = source && job.cables.some((k) => k.circuit === id && k.to.id === source.from)
    if (source && source.kind !== 'board' && kind !== 'ring' && !passes) leadFrom(job, id, { kind: 'point', id: source.from })
  }
  return job
}

/** A point that was listed after an observation was not looked at then; before that was kept, nothing was said of any. */
function observationsFrom({ survey }: Job2, { points }: Job): ObservationRecord[] {
  const there = points.filter((p) => p.state === 'existing').map((p) => p.id)
  const listed = new Set(survey.points.map((p) => p.id))
  return survey.sightings.map(({ looked, ...s }) => {
    const seen = new Set([...(looked ?? listed), ...(s.seen.kind === 'cables' ? [] : s.seen.dead)])
    return { ...s, later: s.seen.kind === 'cables' ? [] : there.filter((id) => !seen.has(id)) }
  })
}

export const readingFromVersion2 = (r: Reading2): Reading => ({ ...r, point: null, on: null })
