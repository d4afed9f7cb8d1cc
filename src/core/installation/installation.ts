import { accessory } from '../catalogue/accessories'
import { type Beside, besideOnWay } from './beside'
import type { Board, Way } from '../job/board'
import { type Cable, endPointId, type LaidPoint, layOf, type Stretch } from '../job/cable'
import { boardAmong, cablesOfCircuit, type CircuitRecord, feederOf, wayInWords } from '../job/circuit'
import type { DesignRecord } from '../job/design'
import { isThere, stands } from '../job/observation'
import { lruCache, type Look, once, oneFor, oneList, type Parts, remembered, rememberedAmong } from '../base/memory'
import { type BoxRecord, newBox } from '../job/box'
import type { PlacedPoint, PointRecord } from '../job/point'
import type { Room, WallRecord } from '../job/room'
import type { Job } from '../job/schema'

/*
 * The record, read: each circuit with its points along its cables, each point with its room by name, each wall with what
 * is along it. All of it follows from the record and nothing is stored; what an edit left alone keeps its identity.
 */

/** A stretch, with the cable of the circuit that it is part of. */
export interface LaidStretch extends Stretch {
  readonly cable: string
}

/** A design with how the cables of its circuit lie, which all alternatives share. */
export interface Design extends DesignRecord {
  /** Of the run where it is one manner of running; null: not known. */
  readonly lengthM: number | null
  /** Of all cables of the circuit that are divided into stretches. */
  readonly stretches: readonly LaidStretch[]
  /** Of `residual`, which is what the device in the board does: what somebody reckoned with. */
  readonly reckonedMa: number
}

export type CircuitPoint = LaidPoint
export type { PlacedPoint }

/** A circuit as its cables and ways form it. */
export interface Circuit extends Omit<CircuitRecord, 'designs' | 'ways'> {
  readonly designs: readonly Design[]
  /** Points in order; in a ring, in the order of the ring. None: one load at the end of one run. */
  readonly points: readonly CircuitPoint[]
  /** The point a circuit without named ones ends on; null for a feeder. */
  readonly end: PlacedPoint | null
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
  /** What is upstream of it: the id of a residual device, `own`, `none`; null: not looked, or not said. */
  readonly behind: string | null
  /** Other circuits whose cables lie together with its own on the ways they take. */
  readonly beside: readonly Beside[]
}

/** A point with its room by name, called as its circuit where it has no name of its own. */
export interface Point extends Omit<PlacedPoint, 'room'> {
  readonly room: string
  /** To be put in: nothing is there to trace yet. */
  readonly planned: boolean
}

/** A wall with the outlets along it. */
export interface Wall extends Omit<WallRecord, 'room'> {
  readonly room: string
  /** Whether the walls of its room are finished: there before this work; null: not recorded. */
  readonly finished: boolean | null
  /** What is along it, outlets or not. */
  readonly outlets: readonly (Pick<PointRecord, 'id' | 'kind' | 'state'> & { readonly atM: number; readonly heightMm: number | null })[]
}

/** One record of the installation, read. */
export interface Installation extends Omit<Job, 'circuits' | 'points' | 'walls' | 'boards' | 'ways' | 'cables'> {
  readonly record: Job
  /** Boards that are there; those at the end of feeders of this job come with their feeder. */
  readonly boards: readonly Board[]
  /** Ways that were found. */
  readonly ways: readonly Way[]
  /** Ways to be put in, called as their circuit. */
  readonly newWays: readonly Way[]
  readonly circuits: readonly Circuit[]
  readonly points: readonly Point[]
  /** Points that are there now, to be traced: those that this job takes out too. */
  readonly standing: readonly Point[]
  readonly walls: readonly Wall[]
  readonly cables: readonly Cable[]
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

/**
 * A joint box, a switch that is one and no more, and an isolator with a point of its own behind it: nobody has to say what such a point
 * draws.
 */
function drawsNothing({ kind, accessory: id }: PointRecord, feedsOn: boolean): boolean {
  if (kind !== 'switch') return kind === 'box'
  const fitted = id === null ? undefined : accessory(id)
  return id === null || fitted?.kind === 'switch' || (fitted?.kind === 'isolator' && fitted.outlets === 0 && feedsOn)
}

const placedMemory = remembered<PointRecord, PlacedPoint>()
const placedAmong = lruCache<readonly PlacedPoint[]>()
/** Points with where they are and the box they are in; the list is the same while nothing of that changed. */
const placed = ({ points, boxes, cables }: Pick<Job, 'points' | 'boxes' | 'cables'>): readonly PlacedPoint[] =>
  placedAmong([points, boxes, cables], () => {
    const known = byId(boxes)
    const feeding = feedingPoints(cables)
    return keep.placed(points.map((p) => placedIn(p, known.get(p.box) ?? newBox(p.box), feeding.has(p.id))))
  })
/** Points from which a cable continues to another. */
const feedingPoints = once(
  (cables: readonly Cable[]): ReadonlySet<string> =>
    new Set(cables.flatMap((k) => (k.state !== 'removed' && k.from.kind === 'point' && k.to.kind === 'point' ? [k.from.id] : []))),
)
function placedIn(point: PointRecord, box: BoxRecord, feedsOn: boolean): PlacedPoint {
  return placedMemory(point, [box, feedsOn], () => {
    const { room, wall, overhead, heightMm, hidden } = box
    const watts = point.watts ?? (drawsNothing(point, feedsOn) ? 0 : null)
    return { ...point, watts, room, wall, heightMm, hidden, ...(overhead ? { overhead } : {}), box }
  })
}

/** Cables as they are read: one that lies within a box has no length of its own, whatever was recorded of it before. */
const insideMemory = remembered<Cable, Cable>()
const readingsOfCables = lruCache<readonly Cable[]>()
const boxesOfPoints = once((points: readonly PointRecord[]) => keep.boxes(points.flatMap((p) => [p.id, p.box])))
const readCables = (job: Job): readonly Cable[] =>
  readingsOfCables([job.cables, boxesOfPoints(job.points)], () => {
    const of = new Map(job.points.map((p) => [p.id, p.box]))
    const within = (k: Cable): boolean => k.from.kind === 'point' && k.to.kind === 'point' && of.get(k.from.id) === of.get(k.to.id)
    if (!job.cables.some(within)) return job.cables
    const on = circuitsOfPoints(job.cables)
    return job.cables.map((k) => {
      if (!within(k)) return k
      // What no circuit wires is linked to what one does by conductors of its own.
      const joined = on.has(k.from.id)
      return insideMemory(k, [joined], () => {
        const { route: _, ...rest } = k
        return { ...rest, lengthM: 0, stretches: [], inside: joined ? ('joint' as const) : ('link' as const) }
      })
    })
  })

const circuitMemory = rememberedAmong<CircuitRecord, Circuit>()
const listsOfCircuits = oneFor()

/** Where no list that circuits are read from changed, each is as it was; else what it reads of them is looked at. */
function readCircuits(job: Job): readonly Circuit[] {
  const among = listsOfCircuits([job.region, job.residualDevices, job.boards, job.ways, readCables(job), placed(job), job.building?.apart])
  return job.circuits.map((record) => circuitMemory(record, among, () => lookAt(job, record)))
}

function lookAt(job: Job, record: CircuitRecord): Look<Circuit> {
  const cables = cablesBy(readCables(job)).get(record.id) ?? []
  const known = byId(placed(job))
  const ways = record.ways.length ? record.ways.flatMap((id) => byId(job.ways).get(id) ?? []) : noWays
  const board = boardAmong(ways[0], cables)
  const feeder = feederOf(job, board)?.id ?? null
  const parts: unknown[] = [job.region, job.residualDevices, board, feeder, ways.length, ...ways, ...cables]
  for (const k of cables) if (k.to.kind === 'point') parts.push(known.get(k.to.id))
  const beside = besideOnWay(job, record.id)
  for (const b of beside) {
    parts.push(b.circuit, b.lengthM)
    for (const [cable, places] of b.cables) parts.push(cable, ...places)
  }
  return {
    parts,
    make: () => {
      const end = endPointId(record.id)
      const laid = layOf(cables, known, end)
      const residual = ways[0]?.planned?.residual ?? ways[0]?.residual ?? 'unknown'
      const lengthM = laid.run?.lengthM ?? null
      const stretches = stretchesOf(cables)
      const device = byId(job.residualDevices).get(residual)
      const behindDevice = (d: DesignRecord): DesignRecord['residual'] =>
        device && d.residual.at === 'board'
          ? // What a design wishes for does not replace a mark that was not read.
            { at: 'board', ma: device.tripMa ?? d.residual.ma, type: device.type }
          : d.residual
      // What a reading adds comes before the record it is read from: `docs/architecture.md`, speed, says why.
      return {
        points: laid.points,
        end: known.get(end) ?? null,
        closeM: laid.closeM,
        cables,
        way: wayInWords(job.region, ways),
        board,
        feeder,
        behind: residual === 'unknown' ? null : residual,
        beside,
        ...record,
        ways,
        designs: record.designs.map((d) => ({ lengthM, stretches, reckonedMa: d.residual.ma, ...d, residual: behindDevice(d) })),
      }
    },
  }
}
const noWays: readonly Way[] = []
const noStretches: readonly LaidStretch[] = []
const stretchesOf = (cables: readonly Cable[]): readonly LaidStretch[] =>
  cables.some((k) => k.stretches.length > 0) ? cables.flatMap((k) => k.stretches.map((s) => ({ cable: k.id, ...s }))) : noStretches

/** What circuits are called and which ways are theirs: all that points and ways are read from of them. */
const namesOf = once((circuits: readonly CircuitRecord[]): Parts => {
  const parts: unknown[] = []
  for (const c of circuits) parts.push(c.id, c.name, c.load.name, c.ways.length, ...c.ways)
  return keep.names(parts)
})

const pointMemory = remembered<PlacedPoint, Point>()
const pointsAmong = lruCache<readonly Point[]>()

const readPoints = (job: Job, circuitOfPoint: ReadonlyMap<string, string>): readonly Point[] =>
  pointsAmong([placed(job), job.rooms, circuitOfPoint, namesOf(job.circuits)], () => {
    const rooms = byId(job.rooms)
    const circuits = byId(job.circuits)
    return placed(job).map((p) => {
      const room = p.room === null ? '' : (rooms.get(p.room)?.name ?? '')
      const circuit = p.name === '' ? circuits.get(circuitOfPoint.get(p.id) ?? '') : undefined
      const name = p.name || circuit?.load.name || circuit?.name || 'Point'
      return pointMemory(p, [room, name], () => ({ planned: !stands(p), ...p, name, room }))
    })
  })

const wallMemory = remembered<WallRecord, Wall>()
const wallsAmong = lruCache<readonly Wall[]>()
const readWalls = (job: Job, points: readonly Point[]): readonly Wall[] =>
  wallsAmong([job.walls, job.rooms, points], () =>
    job.walls.map((w) => {
      // What stands on its outer face is none of its outlets.
      const along = points.filter((p) => p.wall?.wall === w.id && !p.wall.outside)
      const of = w.room === null ? undefined : byId<Room>(job.rooms).get(w.room)
      const [room, finished] = [of?.name ?? '', of?.finished ?? null]
      return wallMemory(w, [room, finished, ...along], () => ({
        ...w,
        room,
        finished,
        outlets: along.map((p) => ({ id: p.id, kind: p.kind, state: p.state, atM: p.wall!.atM, heightMm: p.heightMm })),
      }))
    }),
  )

const wayMemory = remembered<Way, Way>()
const waysAmong = lruCache<{ readonly there: readonly Way[]; readonly put: readonly Way[] }>()
/** Ways that are there, and those to be put in; one without a label is called as its circuit. */
const readWays = (job: Job) =>
  waysAmong([job.ways, namesOf(job.circuits)], () => {
    const names = new Map(job.circuits.flatMap((c) => c.ways.map((id) => [id, c.name] as const)))
    const called = (w: Way, label: string): Way => (label === w.label ? w : wayMemory(w, [label], () => ({ ...w, label })))
    const nameOf = (w: Way): string => names.get(w.id) || `Way ${w.position ?? '?'}`
    const [put, there] = [job.ways.filter((w) => w.state === 'new'), job.ways.filter((w) => w.state !== 'new')]
    return {
      there: keep.ways(there.map((w) => called(w, w.label || nameOf(w)))),
      put: keep.newWays(put.map((w) => called(w, nameOf(w)))),
    }
  })

/** Lists that stay the same object while edits leave what is in them alone. */
const keep = {
  names: oneList<unknown>(),
  boxes: oneList<string>(),
  placed: oneList<PlacedPoint>(),
  foundCables: oneList<Cable>(),
  ways: oneList<Way>(),
  newWays: oneList<Way>(),
  circuits: oneList<Circuit>(),
  points: oneList<Point>(),
  standing: oneList<Point>(),
  walls: oneList<Wall>(),
  boards: oneList<Board>(),
}

const circuitsOfPoints = once(
  (cables: readonly Cable[]): ReadonlyMap<string, string> =>
    new Map(cables.flatMap((k) => (k.circuit !== null && k.to.kind === 'point' ? [[k.to.id, k.circuit] as const] : []))),
)
const foundAmong = once((cables: readonly Cable[]) => keep.foundCables(cables.filter((k) => k.state === 'existing')))
const boardsThere = once((boards: readonly Board[]) => keep.boards(boards.filter((b) => b.state !== 'new')))
const staying = once((points: readonly Point[]) => keep.points(points.filter((p) => p.state !== 'removed')))
const standing = once((points: readonly Point[]) => keep.standing(points.filter(stands)))

const readRecord = once((job: Job): Installation => {
  const circuitOfPoint = circuitsOfPoints(job.cables)
  const all = readPoints(job, circuitOfPoint)
  const points = staying(all)
  const ways = readWays(job)
  return {
    record: job,
    foundCables: foundAmong(readCables(job)),
    newWays: ways.put,
    standing: standing(all),
    circuitOfPoint,
    ...job,
    cables: readCables(job),
    ways: ways.there,
    circuits: keep.circuits(readCircuits(job)),
    points,
    walls: keep.walls(readWalls(job, points)),
    boards: boardsThere(job.boards),
  }
})

/** Reads the record; one that is read already is itself. Pure: the same record gives the same reading. */
export const read = (job: Job | Installation): Installation => ('record' in job ? job : readRecord(job))

/** Points that are there and stay there. */
export const pointsThere = once((points: readonly Point[]): readonly Point[] => points.filter(isThere))
