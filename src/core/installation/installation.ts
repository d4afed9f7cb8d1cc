import type { Board, Way } from '../job/board'
import { type Cable, endPointId, type LaidPoint, layOf, type Stretch } from '../job/cable'
import { boardOf, cablesOfCircuit, type CircuitRecord, feederOf, typedWay } from '../job/circuit'
import type { DesignRecord } from '../job/design'
import { isThere, stands } from '../job/observation'
import { once, oneList, remembered } from '../memory'
import type { PointRecord } from '../job/point'
import type { Room, WallRecord } from '../job/room'
import type { Job } from '../job/schema'

/*
 * The record, read: each circuit with its points along its cables, each point with its room by name, each wall with what
 * stands along it. All of it follows from the record and nothing is stored; what an edit left alone keeps its identity.
 */

/** A design with the run of its circuit, which all alternatives share. */
export interface Design extends DesignRecord {
  /** Of the run where it is one manner of running; null: not known. */
  readonly lengthM: number | null
  readonly stretches: readonly Stretch[]
  /** Of `residual`, which is what the device in the board does: what somebody reckoned with. */
  readonly reckonedMa: number
}

export type CircuitPoint = LaidPoint

/** A circuit as its cables and ways form it. */
export interface Circuit extends Omit<CircuitRecord, 'designs' | 'ways'> {
  readonly designs: readonly Design[]
  /** Points in order; in a ring, in the order of the ring. None: one load at the end of one run. */
  readonly points: readonly CircuitPoint[]
  /** The point a circuit without named ones ends on; null for a feeder. */
  readonly end: PointRecord | null
  /** Of a ring: from its last point back to the board. */
  readonly closeM: number | null
  readonly cables: readonly Cable[]
  readonly ways: readonly Way[]
  /** Its way as it is written on the board: "14-16"; empty while it has none. */
  readonly way: string
  /** The board it leaves from. */
  readonly board: string
  /** The feeder of this job at whose board it begins; null: a board that is there. */
  readonly feeder: string | null
  /** What stands upstream of it: the id of a residual device, `own`, `none`; null: not looked, or not said. */
  readonly behind: string | null
}

/** A point with its room by name, called as its circuit where it has no name of its own. */
export interface Point extends Omit<PointRecord, 'room'> {
  readonly room: string
  /** To be put in: nothing is there to trace yet. */
  readonly planned: boolean
}

/** A wall with the outlets along it. */
export interface Wall extends Omit<WallRecord, 'room'> {
  readonly room: string
  readonly outlets: readonly { readonly id: string; readonly atM: number; readonly heightMm: number | null }[]
}

/** One record of the installation, read. */
export interface Installation extends Omit<Job, 'circuits' | 'points' | 'walls' | 'boards' | 'ways'> {
  readonly record: Job
  /** Boards that are there; those at the end of feeders of this job come with their feeder. */
  readonly boards: readonly Board[]
  /** Ways that were found. */
  readonly ways: readonly Way[]
  /** Ways to be put in, called as their circuit. */
  readonly newWays: readonly Way[]
  readonly circuits: readonly Circuit[]
  readonly points: readonly Point[]
  /** Points that stand there now, to be traced: those that this job takes out too. */
  readonly standing: readonly Point[]
  readonly walls: readonly Wall[]
  /** Cables that were found, as far as they are known. */
  readonly foundCables: readonly Cable[]
  /** The circuit of this job that a point is on. */
  readonly circuitOfPoint: ReadonlyMap<string, string>
}

export type Site = Pick<PointRecord, 'place' | 'environment' | 'nearWater' | 'outOfReach'>

export const chosenDesign = (circuit: Pick<Circuit, 'designs' | 'chosen'>): Design =>
  circuit.designs.find((d) => d.id === circuit.chosen) ?? circuit.designs[0]!

const byId = once(<T extends { id: string }>(list: readonly T[]) => new Map(list.map((x) => [x.id, x]))) as <T extends { id: string }>(
  list: readonly T[],
) => ReadonlyMap<string, T>
const cablesBy = once(cablesOfCircuit)

const circuitMemory = remembered<CircuitRecord, Circuit>()

/** Where no list that a circuit is read from changed, it is as it was; else what it reads of them is looked at. */
const readCircuit = (job: Job, record: CircuitRecord): Circuit =>
  circuitAmong(record, [job.region, job.residualDevices, job.boards, job.ways, job.cables, job.points], () => readAnew(job, record))
const circuitAmong = remembered<CircuitRecord, Circuit>()

function readAnew(job: Job, record: CircuitRecord): Circuit {
  const cables = cablesBy(job.cables).get(record.id) ?? []
  const known = byId(job.points)
  const ways = record.ways.flatMap((id) => byId(job.ways).get(id) ?? [])
  const board = boardOf({ ways, cables }, record)
  const feeder = feederOf(job, board)?.id ?? null
  const points = cables.flatMap((k) => (k.to.kind === 'point' ? (known.get(k.to.id) ?? []) : []))
  return circuitMemory(record, [job.region, job.residualDevices, board, feeder, ...ways, ...cables, ...points], () => {
    const laid = layOf(cables, known)
    const end = endPointId(record.id)
    const residual = ways[0]?.residual ?? 'unknown'
    const run = { lengthM: laid.run?.lengthM ?? null, stretches: laid.run?.stretches ?? [] }
    const device = byId(job.residualDevices).get(residual)
    const behindDevice = (d: DesignRecord): DesignRecord['residual'] =>
      device && d.residual.at === 'board'
        ? { at: 'board', ma: device.tripMa ?? d.residual.ma, type: device.type ?? d.residual.type }
        : d.residual
    return {
      ...record,
      designs: record.designs.map((d) => ({ ...d, ...run, residual: behindDevice(d), reckonedMa: d.residual.ma })),
      points: laid.points.filter((p) => p.id !== end),
      end: known.get(end) ?? null,
      closeM: laid.closeM,
      cables,
      ways,
      way: typedWay(job, record),
      board,
      feeder,
      behind: residual === 'unknown' ? null : residual,
    }
  })
}

const pointMemory = remembered<PointRecord, Point>()

function readPoints(job: Job, circuitOfPoint: ReadonlyMap<string, string>): readonly Point[] {
  const rooms = byId(job.rooms)
  const circuits = byId(job.circuits)
  return job.points.map((p) => {
    const room = p.room === null ? '' : (rooms.get(p.room)?.name ?? '')
    const circuit = p.name === '' ? circuits.get(circuitOfPoint.get(p.id) ?? '') : undefined
    const name = p.name || circuit?.load.name || circuit?.name || 'Point'
    return pointMemory(p, [room, name], () => ({ ...p, name, room, planned: !stands(p) }))
  })
}

const wallMemory = remembered<WallRecord, Wall>()
function readWalls(job: Job, points: readonly Point[]): readonly Wall[] {
  return job.walls.map((w) => {
    const along = points.filter((p) => p.wall?.wall === w.id)
    const room: string = w.room === null ? '' : (byId<Room>(job.rooms).get(w.room)?.name ?? '')
    return wallMemory(w, [room, ...along], () => ({
      ...w,
      room,
      outlets: along.map((p) => ({ id: p.id, atM: p.wall!.atM, heightMm: p.heightMm })),
    }))
  })
}

const wayMemory = remembered<Way, Way>()
/** Ways that are there, or to be put in; one without a label is called as its circuit. */
function readWays(job: Job, put: boolean): readonly Way[] {
  const names = new Map(job.circuits.flatMap((c) => c.ways.map((id) => [id, c.name] as const)))
  return job.ways.flatMap((w) => {
    if ((w.state === 'new') !== put) return []
    const name = put || w.label === '' ? names.get(w.id) || `Way ${w.position ?? '?'}` : w.label
    return name === w.label ? [w] : [wayMemory(w, [name], () => ({ ...w, label: name }))]
  })
}

/** Lists that stay the same object while edits leave them alone. */
const keep = {
  foundCables: oneList<Cable>(),
  ways: oneList<Way>(),
  newWays: oneList<Way>(),
  circuits: oneList<Circuit>(),
  points: oneList<Point>(),
  standing: oneList<Point>(),
  walls: oneList<Wall>(),
  boards: oneList<Board>(),
}

const readRecord = once((job: Job): Installation => {
  const circuitOfPoint = new Map(
    job.cables.flatMap((k) => (k.circuit !== null && k.to.kind === 'point' ? [[k.to.id, k.circuit] as const] : [])),
  )
  const all = readPoints(job, circuitOfPoint)
  const points = keep.points(all.filter((p) => p.state !== 'removed'))
  return {
    ...job,
    record: job,
    foundCables: keep.foundCables(job.cables.filter((k) => k.state === 'existing')),
    ways: keep.ways(readWays(job, false)),
    newWays: keep.newWays(readWays(job, true)),
    circuits: keep.circuits(job.circuits.map((c) => readCircuit(job, c))),
    points,
    standing: keep.standing(all.filter(stands)),
    walls: keep.walls(readWalls(job, points)),
    boards: keep.boards(job.boards.filter((b) => b.state !== 'new')),
    circuitOfPoint,
  }
})

/** Reads the record; one that is read already is itself. Pure: the same record gives the same reading. */
export const read = (job: Job | Installation): Installation => ('record' in job ? job : readRecord(job))

/** Points that are there and stay there. */
export const pointsThere = once((points: readonly Point[]): readonly Point[] => points.filter(isThere))
