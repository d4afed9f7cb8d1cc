import type { Finding } from '../base/finding'
import type { RegionId } from '../region/types'
import { isUnlooked, type WayLoad } from './traced'
import { type Board, MAIN_BOARD, type ResidualDevice, type Way } from '../job/board'
import { pairOf } from '../job/circuit'
import type { Installation } from '../installation/installation'
import { worlds } from '../region/worlds'

/** Legs alternate row by row in a two-column panel: spaces 1 and 2 on A, 3 and 4 on B. */
export const legOf = (position: number): 'A' | 'B' => (Math.ceil(position / 2) % 2 === 1 ? 'A' : 'B')

/** New circuits with the spaces they were given in a board, and what they are to be behind there. */
export const plannedIn = (job: Pick<Installation, 'circuits' | 'region'>, board = MAIN_BOARD) =>
  job.circuits
    .filter((c) => c.board === board && c.ways.some((w) => w.state === 'new'))
    .map((c) => ({ id: c.id, name: c.name, spaces: spacesGiven(job.region, c), behind: c.behind }))

/** Spaces a way takes. */
export const spacesOf = (region: RegionId, way: Pick<Way, 'position' | 'poles'>): number[] =>
  way.position === null ? [] : way.poles === 2 ? [way.position, pairOf(region, way.position)] : [way.position]

/** Spaces a circuit was given. */
export const spacesGiven = (region: RegionId, { ways }: { readonly ways: readonly Way[] }): number[] =>
  ways.flatMap((w) => spacesOf(region, w))

export interface PairMove {
  /** The pair of spaces that would be free. */
  readonly pair: readonly [number, number]
  /** Ways to move first, and where to; none where the pair is free already. */
  readonly moves: readonly { readonly way: Way; readonly to: number }[]
}

export interface BoardReport {
  readonly board: Board
  /** Ways that were found, and those that are to be put in. */
  readonly ways: readonly Way[]
  readonly newWays: readonly Way[]
  readonly devices: readonly ResidualDevice[]
  /** Spaces that nothing listed is in, seen to be free or not; null while the spaces are not counted. */
  readonly left: readonly number[] | null
  /** Spaces that somebody saw to be free and nothing was given since; null where not looked at, or a way's place was not noted. */
  readonly free: readonly number[] | null
  readonly pair: PairMove | null
  /** Why no pair can be made, or why it is not known. */
  readonly noPair: string | null
  readonly liveWithMainOff: readonly string[]
  /** Amperes on each leg, with how many points whose load was not read and ways not looked behind; North America only. */
  readonly legs: { readonly A: number; readonly B: number; readonly unread: number; readonly unlooked: number } | null
  readonly findings: readonly Finding[]
}

/** Which neutral bar a way's neutral belongs on: `main`, a device's id, or null where it is not known what it is behind. */
export function barFor(way: Pick<Way, 'residual'>): string | null {
  if (way.residual === 'unknown') return null
  return way.residual === 'none' || way.residual === 'own' ? 'main' : way.residual
}

export const barName = (survey: Pick<Installation, 'residualDevices'>, bar: string): string =>
  bar === 'main'
    ? 'main neutral bar'
    : `neutral bar of ${survey.residualDevices.find((g) => g.id === bar)?.name ?? 'a device that is gone'}`
export const boardName = (region: RegionId, board: Pick<Board, 'name'>, supply = ''): string =>
  board.name || supply || worlds[region].words.board

/** What a board offers and what is wrong in it. `loads` are what was traced on its ways. */
export function boardReport(job: Installation, board: Board, loads: readonly WayLoad[]): BoardReport {
  const { region } = job
  const ways = job.ways.filter((w) => w.board === board.id)
  const newWays = job.newWays.filter((w) => w.board === board.id)
  const devices = job.residualDevices.filter((g) => g.board === board.id)
  const taken = new Map<number, Way[]>()
  for (const w of [...ways, ...newWays]) for (const s of spacesOf(region, w)) taken.set(s, [...(taken.get(s) ?? []), w])
  const placed = ways.every((w) => w.position !== null)
  const given = new Set(newWays.flatMap((w) => spacesOf(region, w)))
  const free =
    board.free === null || !placed
      ? null
      : board.free.filter((s) => !taken.has(s) && (board.spaces === null || s <= board.spaces)).toSorted((a, b) => a - b)
  const left = board.spaces === null ? null : Array.from({ length: board.spaces }, (_, i) => i + 1).filter((s) => !taken.has(s))
  return {
    board,
    ways,
    newWays,
    devices,
    left,
    free,
    ...pairIn(region, board, ways, taken, free, given),
    liveWithMainOff: stillLive(job, board, ways),
    legs: worlds[region].splitPhase ? legLoads(ways, loads) : null,
    findings: boardFindings(job, board, [...ways, ...newWays], taken),
  }
}

/** A free pair, or the fewest moves of one-pole ways that make one. */
function pairIn(
  region: RegionId,
  board: Board,
  ways: readonly Way[],
  taken: ReadonlyMap<number, readonly Way[]>,
  free: readonly number[] | null,
  given: ReadonlySet<number>,
): Pick<BoardReport, 'pair' | 'noPair'> {
  const said = worlds[region].words
  if (free === null || board.spaces === null)
    return {
      pair: null,
      noPair:
        board.spaces === null
          ? `not known: count the ${said.spaces}`
          : board.free === null
            ? `not known: free ${said.spaces} not checked`
            : `not known: note the place of ${ways.filter((w) => w.position === null).length} ways`,
    }
  if (free.length < 2) return { pair: null, noPair: free.length === 0 ? `no ${said.space} is free` : `only one ${said.space} is free` }
  let best: PairMove | null = null
  for (let a = 1; pairOf(region, a) <= board.spaces; a++) {
    const pair = [a, pairOf(region, a)] as const
    if (pair.some((s) => given.has(s))) continue
    // What is neither seen to be free nor a way that is known may hold anything.
    if (pair.some((s) => !free.includes(s) && !taken.has(s))) continue
    const inWay = [...new Set(pair.flatMap((s) => taken.get(s) ?? []))]
    // A two-pole breaker, a tandem and what feeds a board or the building are not moved to make room for another.
    if (inWay.some((w) => w.poles === 2 || w.half !== null || w.kind === 'feeder' || w.kind === 'source')) continue
    const places = free.filter((f) => !pair.includes(f)).toSorted((x, y) => Number(legOf(y) === legOf(a)) - Number(legOf(x) === legOf(a)))
    if (places.length < inWay.length || (best && best.moves.length <= inWay.length)) continue
    best = { pair, moves: inWay.map((way, i) => ({ way, to: places[i]! })) }
  }
  return best
    ? { pair: best, noPair: null }
    : { pair: null, noPair: `the free ${said.spaces} cannot be brought side by side by moving one-pole breakers` }
}

/** What was not looked at on a board that is there, in words. */
export function notLookedAt(region: RegionId, { board, ways, free }: BoardReport): string[] {
  const said = worlds[region].words
  const unread = ways.filter((w) => w.ratingA === null && (w.kind === 'circuit' || w.kind === 'feeder')).length
  return [
    ...(free === null ? [`which ${said.spaces} are free`] : []),
    ...(board.mainA === null ? ['the rating of the main'] : []),
    ...(unread ? [`the rating of ${unread === 1 ? 'one breaker' : `${unread} breakers`}`] : []),
  ]
}

/** What the main switch does not make dead; said in words because a person must look for each. */
function stillLive(job: Installation, board: Board, ways: readonly Way[]): string[] {
  const words = worlds[job.region].words
  const upstream =
    board.fedFrom === null
      ? `the supply conductors up to the main ${worlds[job.region].says.mainDevice}`
      : 'the feeder conductors where they enter'
  const main: Record<Board['mainSwitch'], string[]> = {
    'double-pole': [upstream],
    'single-pole': [upstream, ...(worlds[job.region].splitPhase ? [] : [`${worlds[job.region].says.leftLiveOfSupply}: treat it as live`])],
    none: [`everything: this ${words.board} has no main switch${board.fedFrom ? '; it is isolated at the way that feeds it' : ''}`],
    unknown: ['not known until the main switch is checked'],
  }
  return [
    ...main[board.mainSwitch],
    ...ways.filter((w) => w.ahead).map((w) => `${w.label}: fed from ahead of the main switch`),
    ...ways.filter((w) => w.kind === 'source').map((w) => `${w.label}: a source that can feed back`),
  ]
}

/** What the amperes on the legs are without, in words that follow them. */
export function unreadOn({ unread, unlooked }: NonNullable<BoardReport['legs']>): string {
  const points = unread ? [`${unread} ${unread === 1 ? 'point' : 'points'} whose load was not read`] : []
  const ways = unlooked ? [`${unlooked} ${unlooked === 1 ? 'breaker' : 'breakers'} whose circuits were not checked`] : []
  const all = [...points, ...ways]
  return all.length ? `, without ${all.join(' and ')}` : ''
}

function legLoads(ways: readonly Way[], loads: readonly WayLoad[]): NonNullable<BoardReport['legs']> {
  const sum = { A: 0, B: 0, unread: 0, unlooked: 0 }
  for (const w of ways) {
    const load = loads.find((l) => l.way.id === w.id)
    if (!load || w.position === null) continue
    sum.unread += load.unknown
    sum.unlooked += Number(isUnlooked(load))
    if (w.poles === 2) {
      sum.A += load.amps
      sum.B += load.amps
    } else sum[legOf(w.position)] += load.amps
  }
  return sum
}

/** The main switch, and what stays live or comes back with it off. A sub-board may be switched at the way that feeds it. */
function mainFindings(region: RegionId, board: Board, ways: readonly Way[]): Finding[] {
  const { cites } = worlds[region]
  const { board: word } = worlds[region].words
  const main = board.fedFrom === null
  const about = `board:${board.id}`
  const list: Finding[] = []
  if (main && board.mainSwitch === 'none')
    list.push({
      rule: 'main-switch-missing',
      severity: 'error',
      clause: cites.mainMissing,
      about,
      message:
        `The ${word} has no main switch: nothing makes it safe to work in. Have the supply isolated upstream by ` +
        'someone qualified, and a main switch of two poles put in.',
    })
  if (main && board.mainSwitch === 'single-pole')
    list.push({
      rule: 'main-switch-single-pole',
      severity: 'error',
      clause: cites.mainOnePole,
      about,
      message:
        `The main switch of the ${word} opens one pole: ` +
        `${worlds[region].says.leftLiveOfSupply} with it off. Treat ` +
        'all behind it as live until proved dead, and have a two-pole one put in.',
    })
  const ahead = ways.filter((w) => w.ahead)
  if (ahead.length)
    list.push({
      rule: 'live-with-main-off',
      severity: 'warning',
      clause: cites.mainLeavesLive,
      message:
        `${ahead.map((w) => w.label).join(', ')} ${ahead.length === 1 ? 'is' : 'are'} fed from ahead of the main switch and stays ` +
        `live with it off. Isolate ${ahead.length === 1 ? 'it' : 'each'} by itself, prove it dead, and put a notice at the board.`,
      about: `way:${ahead[0]!.id}`,
    })
  const sources = ways.filter((w) => w.kind === 'source')
  if (sources.length)
    list.push({
      rule: 'second-source',
      severity: 'warning',
      clause: cites.otherSource,
      message:
        `${sources.map((w) => w.label).join(', ')} can feed back: with the main off the board may still be live. Switch it off and ` +
        'lock it too, prove dead, and put the notice of two supplies at the board.',
      about: `way:${sources[0]!.id}`,
    })
  return list
}

function boardFindings(job: Installation, board: Board, ways: readonly Way[], taken: ReadonlyMap<number, readonly Way[]>): Finding[] {
  const { region } = job
  return [
    ...takenTwice(region, taken),
    ...beyondBoard(region, board, ways),
    ...ways.flatMap((w) => onWrongBar(job, w) ?? []),
    ...twoPoleTandems(region, ways),
    ...mainFindings(region, board, ways),
    ...(board.mainSwitch === 'unknown' && ways.length
      ? [
          {
            rule: 'main-switch-unknown',
            severity: 'unknown' as const,
            clause: worlds[region].cites.boardSpaces,
            message: `What the main switch of the ${boardName(region, board)} makes dead is not known. Look, and say.`,
            about: `board:${board.id}`,
          },
        ]
      : []),
  ]
}

/** A way that was found is picked on the board; a space that a new circuit was given is changed with the circuit. */
const aboutWay = (w: Way | undefined): Pick<Finding, 'about'> => (w && w.state !== 'new' ? { about: `way:${w.id}` } : {})

const takenTwice = (region: RegionId, taken: ReadonlyMap<number, readonly Way[]>): Finding[] =>
  [...taken].flatMap(([space, list]): Finding[] => {
    const halves = new Set(list.map((w) => w.half))
    if (list.length < 2 || (list.length === 2 && halves.size === 2 && !halves.has(null))) return []
    const seen = list.findLast((w) => w.state !== 'new')
    return [
      {
        rule: 'space-taken-twice',
        severity: 'error',
        clause: worlds[region].cites.boardSpaces,
        message:
          `${list.map((w) => w.label).join(' and ')} are in the same ${worlds[region].words.space}, ${space}. ` +
          'Look again, or mark them as the halves of a tandem breaker.',
        ...aboutWay(seen),
      },
    ]
  })

const beyondBoard = (region: RegionId, { spaces }: Board, ways: readonly Way[]): Finding[] =>
  ways
    .filter((w) => spaces !== null && spacesOf(region, w).some((s) => s > spaces))
    .map((w) => ({
      rule: 'space-beyond-board',
      severity: 'error',
      clause: worlds[region].cites.boardSpaces,
      message:
        `${w.label} is in ${worlds[region].words.space} ${w.position} of a board of ${spaces}. ` +
        `Correct its place or the count of ${worlds[region].words.spaces}.`,
      ...aboutWay(w),
    }))

/** A neutral that is not on the bar of the device its line is behind. */
function onWrongBar(job: Installation, w: Way): Finding | null {
  const wanted = barFor(w)
  if (w.bar === null || w.kind === 'spare' || w.bar === wanted) return null
  const clause = worlds[job.region].cites.neutralBar
  const on = `${w.label}: its neutral is on the ${barName(job, w.bar)}`
  if (wanted === null)
    return {
      rule: 'neutral-bar-unknown',
      severity: 'unknown',
      clause,
      message: `${on}, and its residual device is not known. Find out which device feeds it.`,
      ...aboutWay(w),
    }
  return {
    rule: 'wrong-neutral-bar',
    severity: 'error',
    clause,
    message:
      `${on} and belongs on the ${barName(job, wanted)}. As it is the device trips as soon as there is load. Isolate, prove dead, ` +
      'move the neutral, test.',
    ...aboutWay(w),
  }
}

const twoPoleTandems = (region: RegionId, ways: readonly Way[]): Finding[] =>
  ways
    .filter((w) => w.half !== null && w.poles === 2)
    .map((w) => ({
      rule: 'tandem-two-pole',
      severity: 'error',
      clause: worlds[region].cites.tandem,
      message: `${w.label}: half of a tandem breaker cannot be two-pole: both halves are on one leg.`,
      ...aboutWay(w),
    }))
