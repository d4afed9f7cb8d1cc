import { accessory } from '../catalogue/accessories'
import { designLoad } from '../design/load'
import { formatA, trim } from '../base/format'
import { atMost } from '../base/tolerance'
import type { SurveyReport } from './traced'
import { boardName, boardReport } from './board'
import { serviceDemand } from './service'
import type { Board, Way } from '../job/board'
import { weightNames, type Weights } from '../job/report'
import { buildingOf, reachedFrom } from '../installation/building'
import { type Circuit, type Installation, type Point, pointsThere } from '../installation/installation'
import { worlds } from '../region/worlds'

type Kind = 'board' | 'extend' | 'ring' | 'fused-spur'

/** One place to take power from, with what it costs. Null is not known, and counts as the worst of the others. */
export interface Candidate {
  readonly id: string
  readonly kind: Kind
  /** A board, or the point it continues from. */
  readonly from: string
  readonly words: string
  /** What stops it; then it is listed last and cannot be chosen. */
  readonly refused: string | null
  /** What is not known about it. */
  readonly unknown: readonly string[]
  readonly spareA: number | null
  readonly protection: string
  readonly lengthM: number | null
  /** What its best way through the building takes; null where it is paced, or not known. */
  readonly run: { readonly holes: number; readonly openings: number } | null
  readonly boxes: number
  /** The box there is hidden, and must be opened up first. */
  readonly hidden: boolean
  readonly minutes: number | null
  readonly disturbance: string
  readonly later: string
  /** Each weighed part as a share of the worst candidate, 0 best to 1 worst. */
  readonly parts: Weights
  readonly score: number
  readonly prefill: {
    readonly way: string
    readonly lengthM: number | null
    readonly wantedBreakerA: number | null
    readonly residualAt: 'none' | 'board' | null
  }
}

/** A new thing to power: what it draws, and the room it is in. */
export interface Wanted {
  readonly amps: number
  readonly volts: number
  readonly poles: 1 | 2
  readonly continuous: boolean
  readonly room: string | null
  /** The point that it is for, where that is in the building: ways begin there. */
  readonly at: string | null
  readonly circuit: Circuit
}

/** The first point of a circuit that is in the building, with its room; null where none is. */
export function whereItStands(job: Installation, { points, end }: Circuit): { readonly point: string; readonly room: string } | null {
  const { standing } = buildingOf(job.record)
  const p = [...points, ...(end ? [end] : [])].find((x) => standing.has(x.id))
  const room = p && roomOf(job, p.id)
  return p && room ? { point: p.id, room } : null
}
/** The name of the room that a point is in. */
function roomOf(job: Installation, point: string): string | null {
  const { points, boxes, walls, rooms } = job.record
  const box = boxes.find((b) => b.id === points.find((x) => x.id === point)?.box)
  const id = box?.room ?? walls.find((w) => w.id === box?.wall?.wall)?.room
  return rooms.find((r) => r.id === id)?.name ?? null
}

/** What a circuit asks for, or null while its load is not known. */
export function wantedBy(job: Installation, circuit: Circuit, room: string | null): Wanted | null {
  const { load } = circuit
  const amps = designLoad(job, circuit)?.amps ?? null
  if (amps === null || load.volts === null) return null
  const stands = whereItStands(job, circuit)
  return {
    amps,
    volts: load.volts,
    poles: worlds[job.region].splitPhase && load.volts > 150 ? 2 : 1,
    continuous: load.continuous,
    room,
    at: stands?.room === room ? stands.point : null,
    circuit,
  }
}

/** How far a place is from the new thing: by its best way where both are in the building, else as it was paced. */
interface Run {
  readonly lengthM: number | null
  /** Minutes of the way itself; null where they follow from the length. */
  readonly minutes: number | null
  readonly way: Candidate['run']
}
function runTo(job: Installation, wanted: Wanted, from: string, paced: number | null): Run {
  const way = wanted.at === null ? undefined : reachedFrom(job.record, wanted.at)?.get(from)
  return way
    ? { lengthM: way.cutM, minutes: way.minutes, way: { holes: way.holes, openings: way.openings } }
    : { lengthM: paced, minutes: null, way: null }
}

const STOREY_M = 2.7
/** Up, down and round the corners of a room, on top of the distance between rooms. */
const MAKE_UP_M = 4
const LIMIT_FUSED_SPUR_A = 13

/** A rough run between two rooms: along, across, and a storey each; null where either was not paced. */
function runBetween(survey: Installation, a: string | null, b: string | null): number | null {
  if (a !== null && a === b) return MAKE_UP_M
  const [ra, rb] = [a, b].map((name) => survey.rooms.find((r) => r.name === name))
  if (!ra || !rb || ra.alongM === null || rb.alongM === null || ra.acrossM === null || rb.acrossM === null) return null
  return Math.abs(ra.alongM - rb.alongM) + Math.abs(ra.acrossM - rb.acrossM) + STOREY_M * Math.abs(ra.floor - rb.floor) + MAKE_UP_M
}

/** From the board, which stands at the origin of the paced distances. */
function runFromBoard(survey: Installation, room: string | null): number | null {
  const r = survey.rooms.find((x) => x.name === room)
  return !r || r.alongM === null || r.acrossM === null
    ? null
    : Math.abs(r.alongM) + Math.abs(r.acrossM) + STOREY_M * Math.abs(r.floor) + MAKE_UP_M
}

const finishedFactor = (survey: Installation, room: string | null): number =>
  survey.rooms.find((r) => r.name === room)?.finished === false ? 0.6 : 1
const minutesFor = (survey: Installation, room: string | null, fixed: number, boxes: number, { lengthM, minutes }: Run): number | null => {
  if (minutes !== null) return Math.round(fixed + 25 * boxes + minutes)
  return lengthM === null ? null : Math.round((fixed + 25 * boxes + 6 * lengthM) * finishedFactor(survey, room))
}

/** Through the floor or ceiling, in words. */
function storey(survey: Installation, from: string, to: string | null): string {
  const [a, b] = [from, to].map((name) => survey.rooms.find((r) => r.name === name)?.floor)
  if (a === undefined || b === undefined || a === b) return ''
  return a > b ? ', from above' : ', from below'
}

/** Every place the survey knows to take power from, best first by the weights; those that cannot serve come last with why. */
export function sourceCandidates(job: Installation, report: SurveyReport, wanted: Wanted): Candidate[] {
  const { circuit } = wanted
  const passes = new Set(circuit.points.map((p) => p.id))
  // A ring begins at its board, and no circuit takes its power from a point that it passes itself.
  const points =
    circuit.kind === 'ring'
      ? []
      : pointsThere(job.points).filter(
          (p) => (p.kind === 'outlet' || p.kind === 'box') && !passes.has(p.id) && mayGive(job, report, p, wanted),
        )
  const raw = [...job.boards.map((b) => fromBoard(job, report, b, wanted)), ...points.flatMap((p) => fromPoint(job, report, p, wanted))]
  return rank(raw, job.weights)
}

/** Whether a point is on the voltage that is wanted: one of 120 V is no source for 240 V, nor the reverse. */
function mayGive(job: Installation, report: SurveyReport, point: Point, wanted: Wanted): boolean {
  if (!worlds[job.region].splitPhase) return true
  const poles = job.ways.find((w) => w.id === report.trace.feeds[point.id])?.poles ?? null
  const system = point.accessory === null ? undefined : accessory(point.accessory)?.system
  // On two lines with a shared neutral an outlet may be on one of them.
  if (poles === 2) return wanted.poles === 2 ? system !== 'line-neutral' : system === 'line-neutral'
  if (poles === 1) return wanted.poles === 1
  return wanted.poles === 1 ? system !== 'line-line' : system === 'line-line'
}

/** The board as it would be without the circuit: the spaces it was given are free for it. */
const without = (job: Installation, { id, ways }: Circuit): Installation => ({
  ...job,
  circuits: job.circuits.filter((c) => c.id !== id),
  newWays: job.newWays.filter((w) => !ways.some((x) => x.id === w.id)),
})

type Raw = Omit<Candidate, 'parts' | 'score'> & { readonly disturbed: number; readonly closes: number; readonly guarded: number }

/**
 * What a board has left with the addition: of the main one what the board sheet says of the service; of a sub-board its main less what
 * was traced on it.
 */
function boardSpare(job: Installation, report: SurveyReport, board: Board, wanted: Wanted): number | null {
  if (board.fedFrom === null) return serviceDemand(job).result?.spareA ?? null
  const ways = job.ways.filter((w) => w.board === board.id)
  const loads = report.loads.filter((l) => ways.some((w) => w.id === l.way.id))
  const known = board.mainA !== null && ways.length > 0 && loads.every((l) => l.unknown === 0 && (l.proved || l.way.kind !== 'circuit'))
  return known ? board.mainA! - loads.reduce((sum, l) => sum + l.amps, 0) - wanted.amps : null
}

function fromBoard(job: Installation, report: SurveyReport, board: Board, wanted: Wanted): Raw {
  const { free, pair, noPair } = boardReport(without(job, wanted.circuit), board, report.loads)
  const said = worlds[job.region].words
  const run = runTo(job, wanted, board.id, board.fedFrom === null ? runFromBoard(job, wanted.room) : null)
  const { lengthM } = run
  const feeder = job.ways.find((w) => w.id === board.fedFrom)
  const spareMain = boardSpare(job, report, board, wanted)
  const moves = wanted.poles === 2 ? (pair?.moves ?? []) : []
  const moved = moves.map((m) => m.way.label).join(', ')
  const refused =
    wanted.poles === 2 && free !== null && !pair
      ? noPair
      : free !== null && free.length === 0
        ? `no ${said.space} is free`
        : spareMain !== null && spareMain < 0
          ? `the ${boardName(job.region, board)} is rated ${formatA(board.mainA!)}, and would be over it by ${formatA(-spareMain)}`
          : null
  const left = free === null ? null : free.length - wanted.poles
  return {
    id: `board:${board.id}`,
    kind: 'board',
    from: board.id,
    words: `New circuit from the ${boardName(job.region, board, job.supply.board)}`,
    refused,
    unknown: [
      ...(free === null ? [`free ${said.spaces}`] : []),
      ...(lengthM === null ? ['how far it is'] : []),
      ...(spareMain === null ? [board.mainA === null ? 'rating of the board' : 'the existing load of the board'] : []),
    ],
    spareA: spareMain,
    protection: 'a device of its own, chosen for the load',
    lengthM,
    run: run.way,
    boxes: 1,
    minutes: minutesFor(job, wanted.room, 75 + 20 * moves.length, 1, run),
    disturbance: `the board is dead while it is connected${moves.length ? `; ${moved} must move first` : ''}`,
    later:
      left === null
        ? `not known: ${said.spaces} not counted`
        : left === 0
          ? `takes the last ${said.space} of the board`
          : `leaves ${left} ${left === 1 ? said.space : said.spaces}`,
    prefill: {
      way: wanted.poles === 2 ? (pair ? pair.pair.join('-') : '') : free?.[0] ? String(free[0]) : '',
      lengthM,
      wantedBreakerA: null,
      residualAt: null,
    },
    hidden: false,
    disturbed: 0.5 + 0.25 * moves.length + (feeder ? 0.1 : 0),
    closes: left === 0 ? 1 : 0.2,
    guarded: 0,
  }
}

/** A point with the circuit it is on, as far as that was traced. */
interface PointSeen {
  readonly point: Point
  readonly way: Way | undefined
  readonly load: SurveyReport['loads'][number] | undefined
  /** What its circuit has left with the addition; null while what is on it is not known, unless what is known is too much already. */
  readonly spareA: number | null
  readonly run: Run
}
function seenAt(job: Installation, report: SurveyReport, point: Point, wanted: Wanted): PointSeen {
  const feed = report.trace.feeds[point.id] ?? null
  const way = job.ways.find((w) => w.id === feed)
  const load = report.loads.find((l) => l.way.id === feed)
  const share = wanted.continuous ? worlds[job.region].continuousShare : 1
  const mostA = way && way.ratingA !== null && load ? share * way.ratingA - load.amps - wanted.amps : null
  const known = load !== undefined && load.proved && load.unknown === 0
  return {
    point,
    way,
    load,
    spareA: mostA !== null && (known || !atMost(0, mostA)) ? mostA : null,
    run: runTo(job, wanted, point.id, runBetween(job, point.room, wanted.room)),
  }
}

/** What is not known about a point as a source. */
const unknownAt = ({ way, load, run }: PointSeen): readonly string[] => [
  ...(way ? [] : ['which breaker feeds it']),
  ...(way && way.ratingA === null ? ['rating of its breaker'] : []),
  ...(load && load.unknown > 0 ? [`load of ${load.unknown} of its points`] : []),
  ...(run.lengthM === null ? ['how far it is'] : []),
  ...(load && !load.proved ? ['other loads on its circuit'] : []),
]

/** What must not lose power behind the same residual device as a way, in words; null: nothing, or it is behind none. */
function heldBeside(job: Installation, report: SurveyReport, way: Pick<Way, 'id' | 'residual'>): string | null {
  const device = job.residualDevices.find((d) => d.id === way.residual)
  if (!device) return null
  const others = report.loads.filter((l) => l.way.residual === device.id && l.way.id !== way.id).flatMap((l) => l.points)
  const names = job.points.filter((p) => p.mustHold && others.includes(p.id)).map((p) => p.name)
  return names.length ? `${names.join(' and ')}, which must not lose power, behind ${device.name}` : null
}

/** What goes dark while power is taken there, in words, and as a share of the worst there can be. */
function disturbanceAt(
  job: Installation,
  report: SurveyReport,
  { load, point }: PointSeen,
): { readonly disturbance: string; readonly disturbed: number } {
  if (!load) return { disturbance: 'what goes dark is not known', disturbed: 0.6 }
  const hold = job.points.filter((p) => p.mustHold && load.points.includes(p.id))
  const dark = `${load.points.length} ${load.points.length === 1 ? 'point' : 'points'} dark meanwhile`
  const held = hold.length ? `, ${hold.map((p) => p.name).join(' and ')} among them, which must not lose power` : ''
  const beside = heldBeside(job, report, load.way)
  const shared = beside === null ? '' : `; a fault in the new part trips ${beside} as well`
  const hidden = point.hidden ? '; the box is hidden, and must be opened up and left where it can be reached' : ''
  return {
    disturbance: `${dark}${held}${shared}${hidden}`,
    disturbed: Math.min(1, 0.15 + 0.05 * load.points.length) + (hold.length ? 0.6 : 0) + (beside === null ? 0 : 0.3),
  }
}

/** Why a point cannot serve at all, whatever is made there; null where it can. */
function refusedAt({ region }: Installation, { point, spareA }: PointSeen, wanted: Wanted): string | null {
  if (wanted.poles === 1 && Math.abs(wanted.volts - worlds[region].lineV) > 30) return `the circuit there is not of ${wanted.volts} V`
  if (point.condition === 'damaged') return 'the point is damaged: put it right first'
  return spareA !== null && !atMost(0, spareA) ? `its circuit would be over its rating by ${formatA(-spareA)}` : null
}

/** One thing that can be made at a point. */
interface Making {
  readonly kind: Exclude<Kind, 'board'>
  readonly words: string
  /** How often the cable goes there. */
  readonly legs: 1 | 2
  /** Why this cannot be made there, where something else may. */
  readonly limit: string | null
  readonly later: string
  readonly closes: number
  readonly unknown: readonly string[]
}
function makingsAt(
  { region }: Installation,
  report: SurveyReport,
  { point, way, spareA }: PointSeen,
  { amps, circuit }: Wanted,
): readonly Making[] {
  const left = spareA === null ? 'not known: what the circuit can still carry' : `leaves ${trim(Math.max(0, spareA), 1)} A on that circuit`
  const { rings } = worlds[region]
  if (!rings || way?.shape !== 'ring')
    return [
      {
        kind: 'extend',
        words: point.kind === 'box' ? 'Go on from the box' : 'Extend from',
        legs: 1,
        limit: null,
        later: left,
        closes: 0.4,
        unknown: rings && way?.shape === 'unknown' ? ['whether it is a ring or a radial'] : [],
      },
    ]
  // With the ring whole, a point of its own is fed from the way itself; one that is fed from a point is on a spur.
  const parent = report.trace.parents[point.id] ?? null
  const isThis = circuit.ways.some((w) => w.id === way.id)
  const onSpur = parent !== null && parent !== way.id ? 'it is on a spur, not in the ring, and a spur takes no other (Appendix 15)' : null
  const unknown = parent === null ? ['whether it is in the ring or on a spur'] : []
  const breakIn: Making = {
    kind: 'ring',
    words: 'Break into the ring at',
    legs: 2,
    limit: onSpur,
    later: `${left}; the ring grows longer`,
    closes: 0.3,
    unknown,
  }
  return [
    // The circuit that is that ring already is not broken into by itself.
    ...(isThis ? [] : [breakIn]),
    {
      kind: 'fused-spur',
      words: 'Fused connection unit spurred from',
      legs: 1,
      limit: atMost(amps, LIMIT_FUSED_SPUR_A) ? onSpur : `a fused spur gives 13 A, and this draws ${formatA(amps)}`,
      later: `${left}; no second spur from that point`,
      closes: 0.6,
      unknown,
    },
  ]
}

const runTwice = ({ lengthM, minutes, way }: Run): Run => ({
  lengthM: lengthM === null ? null : 2 * lengthM,
  minutes: minutes === null ? null : 2 * minutes,
  way: way && { holes: 2 * way.holes, openings: 2 * way.openings },
})

function fromPoint(job: Installation, report: SurveyReport, point: Point, wanted: Wanted): Raw[] {
  const seen = seenAt(job, report, point, wanted)
  const { way, spareA } = seen
  const place = `${point.name}${point.room && point.room !== point.name ? `, ${point.room}` : ''}`
  const where = `${place}${storey(job, point.room, wanted.room)}`
  const refused = refusedAt(job, seen, wanted)
  const unknown = unknownAt(seen)
  const boxes = point.hidden ? 3 : 2
  const looked = way !== undefined && way.residual !== 'unknown'
  return makingsAt(job, report, seen, wanted).map((making): Raw => {
    const run = making.legs === 2 ? runTwice(seen.run) : seen.run
    return {
      id: `${making.kind}:${point.id}`,
      kind: making.kind,
      from: point.id,
      words: `${making.words} ${where}`,
      refused: refused ?? making.limit,
      unknown: [...unknown, ...making.unknown],
      spareA,
      protection: behindWords(job, way),
      lengthM: run.lengthM,
      run: run.way,
      boxes,
      minutes: minutesFor(job, wanted.room, 30, boxes, run),
      hidden: point.hidden,
      ...disturbanceAt(job, report, seen),
      later: making.later,
      closes: making.closes,
      guarded: !looked ? 0.6 : way.residual === 'none' ? 1 : 0,
      prefill: {
        way: way?.label.slice(0, 40) ?? '',
        lengthM: run.lengthM,
        wantedBreakerA: way?.ratingA ?? null,
        residualAt: !looked ? null : way.residual === 'none' ? 'none' : 'board',
      },
    }
  })
}

function behindWords(survey: Installation, way: Way | undefined): string {
  if (!way) return 'not known: not traced'
  if (way.residual === 'unknown') return 'not known: its residual device was not checked'
  if (way.residual === 'none') return 'none at the board: the new part needs its own'
  if (way.residual === 'own') return 'residual device in its own breaker'
  const device = survey.residualDevices.find((g) => g.id === way.residual)
  return device ? `${device.name}, ${device.tripMa === null ? 'rating not read' : `${device.tripMa} mA`}` : 'not known'
}

/** Shares each part out between the best and the worst candidate and adds them up by their weights. */
function rank(raw: readonly Raw[], weights: Weights): Candidate[] {
  const share = (values: readonly (number | null)[], lessIsBetter: boolean) => {
    const known = values.filter((v) => v !== null)
    const [low, high] = [Math.min(...known), Math.max(...known)]
    return (v: number | null): number =>
      v === null ? 1 : high - low < 1e-9 ? 0 : lessIsBetter ? (v - low) / (high - low) : (high - v) / (high - low)
  }
  const serving = raw.filter((r) => r.refused === null)
  const spare = share(
    serving.map((r) => (r.spareA === null ? null : Math.min(r.spareA, 40))),
    false,
  )
  const length = share(
    serving.map((r) => r.lengthM),
    true,
  )
  const minutes = share(
    serving.map((r) => r.minutes),
    true,
  )
  const total = weightNames.reduce((sum, n) => sum + weights[n], 0) || 1
  return raw
    .map(({ disturbed, closes, guarded, ...r }): Candidate => {
      const parts: Weights = {
        spare: spare(r.spareA === null ? null : Math.min(r.spareA, 40)),
        length: length(r.lengthM),
        minutes: minutes(r.minutes),
        disturbance: Math.min(1, disturbed),
        protection: guarded,
        later: closes,
      }
      return { ...r, parts, score: weightNames.reduce((sum, n) => sum + weights[n] * Math.max(0, Math.min(1, parts[n])), 0) / total }
    })
    .toSorted(
      (a, b) =>
        Number(a.refused !== null) - Number(b.refused !== null) ||
        Number(a.hidden) - Number(b.hidden) ||
        a.score - b.score ||
        a.id.localeCompare(b.id),
    )
}
