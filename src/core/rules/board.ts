import { nameplateA } from '../design/load'
import { type Finding, listed } from '../finding'
import type { Installation } from '../installation/installation'
import { formatA } from '../quantity/format'
import { atMost } from '../tolerance'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'
import { serviceDemand } from '../survey/service'
import { MAIN_BOARD, type Way } from '../job/board'
import { spacesGiven, spacesOf } from '../survey/board'
import type { WayLoad } from '../survey/traced'
import type { Rule } from './engine'

const takenBy = (job: Installation, space: number): Way | undefined =>
  job.ways.find((w) => w.board === MAIN_BOARD && w.half === null && w.kind !== 'spare' && spacesOf(job.region, w).includes(space))

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
      const spaces = spacesGiven(f.job.region, f.circuit)
      const said = worlds[f.job.region].words
      const { feeder } = f.circuit
      const there = feeder === null ? spaces.map((s) => takenBy(f.job, s)).find((w) => w !== undefined) : undefined
      if (there) return `${there.label} stands in ${said.space} ${f.circuit.way}. Move it, or take another ${said.space}.`
      const other = f.job.circuits.find(
        (c) =>
          c.id !== f.circuit.id && c.feeder === feeder && c.work === 'new' && spacesGiven(f.job.region, c).some((s) => spaces.includes(s)),
      )
      if (other) return `${other.name} takes ${said.space} ${f.circuit.way} as well. Give one of them another.`
      if (feeder !== null) return null
      const { spaces: count } = f.job.boards.find((b) => b.id === MAIN_BOARD)!
      return count !== null && spaces.some((s) => s > count)
        ? `The board has ${count} ${said.spaces}, and ${f.circuit.way} is beyond them.`
        : null
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
  const say = (severity: Finding['severity'], message: string): Finding[] => [{ rule: 'service-demand', severity, clause, message }]
  const asked = job.circuits.some((c) => c.load.amount !== null || c.points.some((p) => p.watts !== null))
  // Nobody who has not looked at the board is told that it suffices.
  if (job.ways.length === 0)
    return asked
      ? say(
          'unknown',
          'What hangs on the service already was not surveyed, so whether it carries the addition is not judged. List the ways ' +
            'of the board and what they feed.',
        )
      : []
  const { result, ask, atLeastA } = serviceDemand(job)
  const mainA = job.boards[0]!.mainA
  if (mainA !== null && atLeastA > mainA)
    return say(
      'error',
      `What is added alone can draw ${formatA(atLeastA)} at once and the main is ${formatA(mainA)}. Shed load, see to it that ` +
        'not all runs together, or have the service enlarged.',
    )
  if (ask) return say('unknown', `Whether the service carries the addition is not judged: ${ask} is missing.`)
  if (result === null)
    return say(
      'unknown',
      'No allowance for diversity is published here: record the highest current of the supply over some weeks and enter it on ' +
        'the Board sheet of the survey, or add up what is used at once with somebody who knows the place.',
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
        'The kind of earthing was not looked at: what clears an earth fault, and whether a residual current device must, follows ' +
        'from it. Look at the supply, and say in the brief whether it is TN-C-S, TN-S or TT.',
    },
  ]
}

const sumClause: Partial<Record<RegionId, string>> = {
  'united-kingdom': '536.4.3.2',
  'southern-africa': 'SANS 10142-1 earth leakage protection, rating',
}

/** What stands behind each residual device, together, against its rated current; a main that lets no more through keeps it within that. */
export function residualDeviceFindings(job: Installation, loads: readonly WayLoad[]): Finding[] {
  const clause = sumClause[job.region]
  if (clause === undefined) return []
  return job.residualDevices.flatMap((device): Finding[] => {
    const mainA = job.boards.find((b) => b.id === device.board)?.mainA ?? null
    if (device.ratingA === null || (mainA !== null && atMost(mainA, device.ratingA))) return []
    const behind = job.circuits.filter((c) => c.behind === device.id)
    const added = behind.map((c) =>
      c.points.length
        ? c.points.filter((p) => p.state === 'new').reduce((w, p) => w + (p.watts ?? 0), 0) / (c.load.volts ?? 230)
        : (nameplateA(c.load) ?? 0),
    )
    const traced = loads.filter((l) => l.way.residual === device.id).reduce((sum, l) => sum + l.amps, 0)
    const amps = traced + added.reduce((sum, a) => sum + a, 0)
    return atMost(amps, device.ratingA)
      ? []
      : [
          {
            rule: 'residual-device-sum',
            severity: 'warning',
            clause,
            message:
              `What stands behind ${device.name} draws ${formatA(amps)} if all runs at ` +
              `once${behind.length ? ` (${listed(behind.map((c) => c.name))} among it)` : ''} and it is rated ` +
              `${formatA(device.ratingA)}. Divide it over two, give one a device of its own, or put a main of ` +
              `${formatA(device.ratingA)} or less upstream.`,
          },
        ]
  })
}
