import { designLoad } from '../design/load'
import { formatA, trim } from '../quantity/format'
import { atMost } from '../tolerance'
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
  /** A board, or the point it goes on from. */
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

/** A new thing to power: what it draws, and the room it stands in. */
export interface Wanted {
  readonly amps: number
  readonly volts: number
  readonly poles: 1 | 2
  readonly continuous: boolean
  readonly room: string | null
  /** The point that it is for, where that stands in the building: ways begin there. */
  readonly at: string | null
}

/** The first point of a circuit that stands in the building, with its room; null where none does. */
export function whereItStands(job: Installation, { points, end }: Circuit): { readonly point: string; readonly room: string } | null {
  const { standing } = buildingOf(job.record)
  const p = [...points, ...(end ? [end] : [])].find((x) => standing.has(x.id))
  const room = p && roomOf(job, p.id)
  return p && room ? { point: p.id, room } : null
}
/** The name of the room that a point is in. */
function roomOf(job: Installation, point: string): string | null {
  const { points, walls, rooms } = job.record
  const p = points.find((x) => x.id === point)
  const id = p?.room ?? walls.find((w) => w.id === p?.wall?.wall)?.room
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
  }
}

/** How far a place is from the new thing: by its best way where both stand in the building, else as it was paced. */
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
  const survey = job
  const raw = [
    ...survey.boards.map((b) => fromBoard(job, report, b, wanted)),
    ...pointsThere(survey.points)
      .filter((p) => p.kind === 'outlet' || p.kind === 'box')
      .flatMap((p) => fromPoint(job, report, p, wanted)),
  ]
  return rank(raw, survey.weights)
}

type Raw = Omit<Candidate, 'parts' | 'score'> & { readonly disturbed: number; readonly closes: number; readonly guarded: number }

/**
 * What a board has left with the addition: of the main one what the board sheet says of the service; of a sub-board its main less what
 * was traced on it.
 */
function boardSpare(job: Installation, report: SurveyReport, board: Board, wanted: Wanted): number | null {
  if (board.fedFrom === null) return serviceDemand(job).result?.spareA ?? null
  const ways = job.ways.filter((w) => w.board === board.id)
  const loads = report.loads.filter((l) => ways.some((w) => w.id === l.way.id))
  const known =
    board.mainA !== null &&
    ways.length > 0 &&
    loads.every((l) => l.unknown === 0) &&
    ways.every((w) => w.kind !== 'circuit' || report.proved.has(w.id))
  return known ? board.mainA! - loads.reduce((sum, l) => sum + l.amps, 0) - wanted.amps : null
}

function fromBoard(job: Installation, report: SurveyReport, board: Board, wanted: Wanted): Raw {
  const survey = job
  const { free, pair, noPair } = boardReport(job, board, report.loads)
  const said = worlds[job.region].words
  const run = runTo(job, wanted, board.id, board.fedFrom === null ? runFromBoard(survey, wanted.room) : null)
  const { lengthM } = run
  const feeder = survey.ways.find((w) => w.id === board.fedFrom)
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
      ...(spareMain === null ? [board.mainA === null ? 'rating of the board' : 'what the board carries already'] : []),
    ],
    spareA: spareMain,
    protection: 'a device of its own, chosen for the load',
    lengthM,
    run: run.way,
    boxes: 1,
    minutes: minutesFor(survey, wanted.room, 75 + 20 * moves.length, 1, run),
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
    disturbed: 0.5 + 0.25 * moves.length + (feeder ? 0.1 : 0),
    closes: left === 0 ? 1 : 0.2,
    guarded: 0,
  }
}

function fromPoint(job: Installation, report: SurveyReport, point: Point, wanted: Wanted): Raw[] {
  const survey = job
  const { region } = job
  const feed = report.trace.feeds[point.id] ?? null
  const way = survey.ways.find((w) => w.id === feed)
  const load = report.loads.find((l) => l.way.id === feed)
  const run = runTo(job, wanted, point.id, runBetween(survey, point.room, wanted.room))
  const { lengthM } = run
  const where = `${point.name}${point.room && point.room !== point.name ? `, ${point.room}` : ''}`
  const share = wanted.continuous ? worlds[region].continuousShare : 1
  const spareA = way && way.ratingA !== null && load ? share * way.ratingA - load.amps - wanted.amps : null
  const hidden = point.hidden ? 1 : 0
  const hold = load ? survey.points.filter((p) => p.mustHold && load.points.includes(p.id)) : []
  const base = {
    from: point.id,
    unknown: [
      ...(way ? [] : ['which breaker feeds it']),
      ...(way && way.ratingA === null ? ['rating of its breaker'] : []),
      ...(load && load.unknown > 0 ? [`load of ${load.unknown} of its points`] : []),
      ...(lengthM === null ? ['how far it is'] : []),
      ...(report.untraced > 0 && way ? ['whether untraced points hang on it too'] : []),
    ],
    spareA,
    protection: behindWords(survey, way),
    disturbance:
      `${load ? `${load.points.length} ${load.points.length === 1 ? 'point' : 'points'} dark meanwhile` : 'what goes dark is not known'}` +
      `${hold.length ? `, ${hold.map((p) => p.name).join(' and ')} among them, which must not lose power` : ''}`,
    disturbed: (load ? Math.min(1, 0.15 + 0.05 * load.points.length) : 0.6) + (hold.length ? 0.6 : 0),
    guarded: way === undefined || way.residual === 'unknown' ? 0.6 : way.residual === 'none' ? 1 : 0,
  }
  const refusedFor = (limit: string | null): string | null =>
    wanted.poles === 2 || Math.abs(wanted.volts - worlds[region].lineV) > 30
      ? `the circuit there is not of ${wanted.volts} V`
      : point.condition === 'damaged'
        ? 'the point is damaged: put it right first'
        : spareA !== null && !atMost(0, spareA)
          ? `its circuit would be over its rating by ${formatA(-spareA)}`
          : limit
  const prefill = {
    way: way?.label.slice(0, 40) ?? '',
    wantedBreakerA: way?.ratingA ?? null,
    residualAt: way === undefined || way.residual === 'unknown' ? null : way.residual === 'none' ? ('none' as const) : ('board' as const),
  }
  const floor = storey(survey, point.room, wanted.room)
  const list: Raw[] = []
  const add = (
    kind: Kind,
    words: string,
    legs: 1 | 2,
    boxes: number,
    limit: string | null,
    later: string,
    closes: number,
    breaker = prefill.wantedBreakerA,
    more: readonly string[] = [],
  ) => {
    const times = (m: number | null) => (m === null ? null : legs * m)
    const both: Run = {
      lengthM: times(run.lengthM),
      minutes: times(run.minutes),
      way: run.way && { holes: legs * run.way.holes, openings: legs * run.way.openings },
    }
    list.push({
      ...base,
      unknown: [...base.unknown, ...more],
      id: `${kind}:${point.id}`,
      kind,
      words: `${words} ${where}${floor}`,
      refused: refusedFor(limit),
      lengthM: both.lengthM,
      run: both.way,
      boxes,
      minutes: minutesFor(survey, wanted.room, 30, boxes, both),
      later,
      closes,
      prefill: { ...prefill, wantedBreakerA: breaker, lengthM: both.lengthM },
    })
  }
  const left = spareA === null ? 'not known: what the circuit can still carry' : `leaves ${trim(Math.max(0, spareA), 1)} A on that circuit`
  if (worlds[region].rings && way?.shape === 'ring') {
    // With the ring whole, a point of its own hangs from the way itself; one that hangs from a point is on a spur.
    const parent = report.trace.parents[point.id] ?? null
    const onSpur =
      parent !== null && parent !== way.id ? 'it hangs on a spur, not in the ring, and a spur takes no other (Appendix 15)' : null
    const more = parent === null ? ['whether it is in the ring or on a spur'] : []
    add('ring', 'Break into the ring at', 2, 2 + hidden, onSpur, `${left}; the ring grows longer`, 0.3, prefill.wantedBreakerA, more)
    add(
      'fused-spur',
      'Fused connection unit spurred from',
      1,
      2 + hidden,
      atMost(wanted.amps, LIMIT_FUSED_SPUR_A) ? onSpur : `a fused spur gives 13 A, and this draws ${formatA(wanted.amps)}`,
      `${left}; no second spur from that point`,
      0.6,
      prefill.wantedBreakerA,
      more,
    )
  } else
    add(
      'extend',
      point.kind === 'box' ? 'Go on from the box' : 'Extend from',
      1,
      2 + hidden,
      null,
      left,
      0.4,
      prefill.wantedBreakerA,
      worlds[region].rings && way?.shape === 'unknown' ? ['whether it is a ring or a radial'] : [],
    )
  return list
}

function behindWords(survey: Installation, way: Way | undefined): string {
  if (!way) return 'not known: not traced'
  if (way.residual === 'unknown') return 'not known: what it stands behind was not looked at'
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
    .toSorted((a, b) => Number(a.refused !== null) - Number(b.refused !== null) || a.score - b.score || a.id.localeCompare(b.id))
}
