import { nameplateA } from '../design/load'
import { type Finding, listed } from '../base/finding'
import type { Circuit, Installation } from '../installation/installation'
import { formatA } from '../base/format'
import { atMost } from '../base/tolerance'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'
import { type DemandFact, serviceDemand } from '../survey/service'
import type { ResidualDevice, Way } from '../job/board'
import { spacesGiven, spacesOf } from '../survey/board'
import type { WayLoad } from '../survey/traced'
import type { Rule } from './engine'
import { foundWays } from './existing'

/** Ways that were found in a space of a board. */
const waysAt = (job: Installation, board: string, space: number): Way[] =>
  job.ways.filter((w) => w.board === board && spacesOf(job.region, w).includes(space))
const takenBy = (job: Installation, board: string, space: number): Way | undefined =>
  waysAt(job, board, space).find((w) => w.half === null && w.kind !== 'spare')

/** Rules on the way a circuit takes in the board. */
export const boardRules: readonly Rule[] = [
  {
    id: 'two-pole-space',
    about: 'A load across two lines takes two spaces one above the other.',
    clause: { 'north-america': '240.15(B); 408.36' },
    severity: 'error',
    looksAt: ['way'],
    applies: (f) => (f.circuit.load.volts ?? 0) > 150 && f.circuit.kind !== 'shared-neutral',
    raised: (f) => {
      const [a, b] = spacesGiven(f.job.region, f.circuit)
      return a !== undefined && b !== undefined && Math.abs(a - b) === 2
        ? null
        : `A ${f.circuit.load.volts} V circuit takes a two-pole breaker in two spaces of one column, as 14-16; “${f.circuit.way}” ` +
            'is not that. See the board for a free pair.'
    },
  },
  {
    id: 'way-taken',
    about: 'The way a new circuit takes is free.',
    clause: { 'north-america': '408.36; 408.54', 'united-kingdom': '314.4; 514.8', 'southern-africa': 'SANS 10142-1 distribution boards' },
    severity: 'error',
    looksAt: [],
    applies: (f) =>
      f.circuit.work === 'new' && f.circuit.way.trim() !== '' && (f.circuit.source === null || f.circuit.source.kind === 'board'),
    raised: (f) => {
      const { job, circuit } = f
      const spaces = spacesGiven(job.region, circuit)
      const said = worlds[job.region].words
      const there = spaces.map((s) => takenBy(job, circuit.board, s)).find((w) => w !== undefined)
      if (there) return `${there.label} is in ${said.space} ${circuit.way}. Move it, or take another ${said.space}.`
      const other = job.circuits.find(
        (c) =>
          c.id !== circuit.id &&
          c.board === circuit.board &&
          c.work === 'new' &&
          spacesGiven(job.region, c).some((s) => spaces.includes(s)),
      )
      if (other) return `${other.name} takes ${said.space} ${circuit.way} as well. Give one of them another.`
      const board = job.boards.find((b) => b.id === circuit.board)
      // A board that comes with its feeder is taken as large as it must be.
      if (!board) return null
      if (board.spaces !== null && spaces.some((s) => s > board.spaces!))
        return `The board has ${board.spaces} ${said.spaces}, and ${circuit.way} is beyond them.`
      const unseen = spaces.filter((s) => !board.free?.includes(s) && waysAt(job, board.id, s).length === 0)
      if (unseen.length === 0) return null
      const which = unseen.length > 1 ? `${said.spaces} ${unseen.join(' and ')} are` : `${said.space} ${unseen[0]} is`
      return {
        severity: 'unknown',
        message: `Not checked: whether ${which} free. Unlisted circuits may be there. Check, and record it on the board.`,
        about: `space:${unseen[0]}:${board.id}`,
      }
    },
  },
]

const serviceClause: Record<RegionId, Readonly<Record<'dwelling' | 'other', string>>> = {
  'north-america': { dwelling: '220.83; 220.87; 230.42', other: '220.87; 230.42' },
  'united-kingdom': { dwelling: '311.1; OSG Table A1', other: '311.1' },
  'southern-africa': { dwelling: 'SANS 10142-1 maximum demand', other: 'SANS 10142-1 maximum demand' },
}

/** Whether the service carries what is there and what is added. */
export function serviceFindings(job: Installation): Finding[] {
  const clause = serviceClause[job.region][job.brief.premises === 'dwelling' ? 'dwelling' : 'other']
  const say = (severity: Finding['severity'], message: string, fact: DemandFact | null = null, about: string | null = null): Finding[] => [
    { rule: 'service-demand', severity, clause, message, ...(fact ? { asks: [fact] } : {}), ...(about ? { about } : {}) },
  ]
  const asked = job.circuits.some((c) => c.load.amount !== null || c.points.some((p) => p.watts !== null))
  // The board is not called sufficient before it was looked at.
  if (job.ways.length === 0)
    return asked
      ? say(
          'unknown',
          'The existing load of the service was not surveyed, so whether it carries the addition is not judged. List the ways ' +
            'of the board and what they feed.',
        )
      : []
  const { result, ask, asks, about, atLeastA } = serviceDemand(job)
  const mainA = job.boards[0]!.mainA
  if (mainA !== null && atLeastA > mainA)
    return say(
      'error',
      `What is added alone can draw ${formatA(atLeastA)} at once and the main is ${formatA(mainA)}. Shed load, see to it that ` +
        'not all runs together, or have the service enlarged.',
    )
  if (ask) return say('unknown', `Whether the service carries the addition is not judged: ${ask} is missing.`, asks, about)
  if (result === null)
    return say(
      'unknown',
      'No allowance for diversity is published here: record the highest current of the supply over some weeks and enter it on ' +
        'the Board sheet of the survey, or add up what is used at once with somebody who knows the place.',
      'recorded',
    )
  return mainA !== null && !atMost(result.demandA, mainA)
    ? say(
        'error',
        `With the addition the service is asked for ${formatA(result.demandA)}, ${formatA(-result.spareA)} more than it is ` +
          'rated. Shed load, or have the service enlarged.',
      )
    : []
}

const earthingClause: Partial<Record<RegionId, string>> = {
  'united-kingdom': '312.2; 411.4 to 411.5',
  'southern-africa': 'SANS 10142-1 earthing systems; IEC 60364-1 clause 312.2',
}

/** What must be known of the supply before any circuit is judged. */
export function supplyFindings(job: Installation): Finding[] {
  const clause = earthingClause[job.region]
  if (clause === undefined || job.supply.earthing !== null) return []
  return [
    {
      rule: 'earthing-not-known',
      severity: 'unknown',
      clause,
      message:
        'The earthing arrangement is not recorded: what clears an earth fault, and whether a residual current device must, follows ' +
        'from it. Look at the supply, and say in the brief whether it is TN-C-S, TN-S or TT.',
    },
  ]
}

const sumClause: Partial<Record<RegionId, string>> = {
  'united-kingdom': '536.4.3.2',
  'southern-africa': 'SANS 10142-1 earth leakage protection, rating',
}

/** What a way or a circuit behind a residual device draws as far as it is known, and the most it can: Infinity where nothing holds it. */
interface Draw {
  readonly name: string
  readonly amps: number
  readonly mostA: number
}

/** What a circuit of the job adds; what it found there counts with its way. */
function drawOfAdded(region: RegionId, { name, load, points }: Circuit): Draw {
  const added = points.filter((p) => p.state === 'new')
  const volts = load.volts ?? 230
  const each = points.length ? added.map((p) => (p.watts === null ? null : p.watts / volts)) : [nameplateA(load, region)]
  const amps = each.reduce<number>((sum, a) => sum + (a ?? 0), 0)
  return { name, amps, mostA: each.includes(null) ? Infinity : amps }
}

/**
 * What hangs on a way that is there is known when it was switched off, what died was looked at and every load read; with what circuits
 * add to it. Else its breaker bounds it.
 */
function drawOfWay(job: Installation, loads: readonly WayLoad[], way: Way): Draw {
  const load = loads.find((l) => l.way.id === way.id)
  const added = job.circuits.filter((c) => c.ways.some((w) => w.id === way.id)).map((c) => drawOfAdded(job.region, c))
  const amps = (load?.amps ?? 0) + sumOf(added, (d) => d.amps)
  const known = load?.proved && load.unknown === 0 && added.every((d) => d.mostA === d.amps)
  return { name: way.label, amps, mostA: known ? amps : Math.max(amps, way.ratingA ?? Infinity) }
}

/**
 * What is behind a residual device against its rating. Too much already is said; where more is added, and neither the main nor the
 * breakers nor what is known of the loads hold all that may be there to the rating, that it is not known. BS 7671 536.4.3.2.
 */
export function residualDeviceFindings(job: Installation, loads: readonly WayLoad[]): Finding[] {
  const clause = sumClause[job.region]
  if (clause === undefined) return []
  return job.residualDevices.flatMap((device): Finding[] => {
    const { ratingA } = device
    const mainA = job.boards.find((b) => b.id === device.board)?.mainA ?? null
    if (ratingA === null || (mainA !== null && atMost(mainA, ratingA))) return []
    const added = job.circuits.filter((c) => c.behind === device.id)
    const ways = job.ways.filter((w) => w.board === device.board && w.kind !== 'spare')
    const drawOf = (w: Way) => drawOfWay(job, loads, w)
    const behind = [
      ...ways.filter((w) => w.residual === device.id).map(drawOf),
      ...added.filter((c) => foundWays(c).length === 0).map((c) => drawOfAdded(job.region, c)),
    ]
    const perhaps = ways.filter((w) => w.residual === 'unknown').map(drawOf)
    const amps = sumOf(behind, (d) => d.amps)
    const rated = formatA(ratingA)
    const say = (severity: Finding['severity'], message: string): Finding[] => [
      { rule: 'residual-device-sum', severity, clause, message, about: `device:${device.id}` },
    ]
    if (!atMost(amps, ratingA))
      return say(
        'warning',
        `The circuits behind ${device.name} draw ${formatA(amps)} if all runs at ` +
          `once${added.length ? ` (${listed(added.map((c) => c.name))} among it)` : ''} and it is rated ` +
          `${rated}. Divide it over two, give one a device of its own, or put a main of ` +
          `${rated} or less upstream.`,
      )
    const most = sumOf([...behind, ...perhaps], (d) => d.mostA)
    return added.length === 0 || atMost(most, ratingA) ? [] : say('unknown', notKnown(device, rated, added, behind, perhaps))
  })
}

const sumOf = (draws: readonly Draw[], of: (d: Draw) => number): number => draws.reduce((sum, d) => sum + of(d), 0)

function notKnown(
  device: ResidualDevice,
  rated: string,
  added: readonly Circuit[],
  behind: readonly Draw[],
  perhaps: readonly Draw[],
): string {
  const [unread, unplaced] = [behind.filter((d) => d.mostA > d.amps), perhaps.filter((d) => d.mostA > 0)].map((list) =>
    listed(list.map((d) => d.name)),
  )
  return [
    `Whether ${device.name}, rated ${rated}, carries its circuits with ${listed(added.map((c) => c.name))} is not known.`,
    ...(unread ? [`The load on ${unread} was not read, and the breakers let more through: trace it and read the loads.`] : []),
    ...(unplaced ? [`Whether ${unplaced} is behind it was not checked: follow the line, and enter it on the board.`] : []),
    `A main of ${rated} or less upstream would hold it.`,
  ].join(' ')
}
