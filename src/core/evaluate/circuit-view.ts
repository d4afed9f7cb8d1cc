import { type Upstream, fedBy } from '../design/fed'
import { racewaysOf } from '../design/conditions'
import { pointsOrEnd } from '../design/replaced'
import { cablesAt } from '../installation/cables-at'
import { grouped } from '../base/grouped'
import { type Circuit, type Installation, type Point, read } from '../installation/installation'
import { MAIN_BOARD, type Way } from '../job/board'
import { newBrief } from '../job/brief'
import { type Cable, endPointId } from '../job/cable'
import { bareJob } from '../job/schema'
import { lruCache, once, oneFor, oneList, type Parts, remembered } from '../base/memory'
import type { RegionId } from '../region/types'
import type { OnItsWays } from '../rules/engine'
import { cablesThatStay, onItsWays } from '../rules/existing'
import { spacesGiven, spacesOf } from '../survey/board'
import type { SurveyReport } from '../survey/traced'

/**
 * What the verdict on one circuit may look at: the installation with only what bears on it. What is not in the view cannot be looked at,
 * so a circuit whose view is made of the same parts has the same verdict, whatever else was done to the job.
 */
export interface CircuitView {
  readonly parts: Parts
  readonly there: OnItsWays
  readonly job: () => Installation
}

const empty = new Map<RegionId, Installation>()
/** An installation of a world in which nothing is. */
function emptyOf(region: RegionId): Installation {
  const known = empty.get(region) ?? read(bareJob(region, 'x', ''))
  empty.set(region, known)
  return known
}

const bare = lruCache<Installation>()
/** The same with what of a brief bears upon circuits; one for all circuits of a job. */
const bareWith = (region: RegionId, { environment, premises, schools }: Installation['brief']): Installation =>
  bare([region, environment, premises, schools], () => ({
    ...emptyOf(region),
    brief: { ...newBrief(), environment, premises, ...(schools ? { schools } : {}) },
  }))

const key = (board: string, space: number): string => `${space} ${board}`

const inSpaces = remembered<readonly Way[], ReadonlyMap<string, readonly Way[]>>()
/** Ways that were found in a space of a board. */
const waysIn = ({ ways, region }: Installation, board: string, space: number): readonly Way[] => {
  const bySpace = inSpaces(ways, [region], () => {
    const placed = ways.flatMap((way) => spacesOf(region, way).map((at) => ({ at: key(way.board, at), way })))
    return new Map([...grouped(placed, (p) => p.at)].map(([at, list]) => [at, list.map((p) => p.way)]))
  })
  return bySpace.get(key(board, space)) ?? []
}

const givenSpaces = remembered<readonly Circuit[], ReadonlyMap<string, readonly Circuit[]>>()
/** Circuits of this job that were given a space of a board. */
const circuitsIn = ({ circuits, region }: Installation, board: string, space: number): readonly Circuit[] => {
  const bySpace = givenSpaces(circuits, [region], () => {
    const placed = circuits.flatMap((c) => spacesGiven(region, c).map((at) => ({ at: key(c.board, at), c })))
    return new Map([...grouped(placed, (p) => p.at)].map(([at, list]) => [at, list.map((p) => p.c)]))
  })
  return bySpace.get(key(board, space)) ?? []
}

const places = once((list: readonly object[]): ReadonlyMap<object, number> => new Map(list.map((x, i) => [x, i])))
/** Each once, in the order of the whole list. */
function inOrderOf<T extends object>(whole: readonly T[], some: readonly T[]): readonly T[] {
  if (some.length < 2) return some
  const at = places(whole)
  return [...new Set(some)].toSorted((a, b) => at.get(a)! - at.get(b)!)
}

function cablesSeen(job: Installation, circuit: Circuit): readonly Cable[] {
  const points = [...circuit.points.map((p) => p.id), endPointId(circuit.id)]
  return inOrderOf(
    job.cables,
    points.flatMap((p) => cablesAt(job, p)),
  )
}

/** The circuits it is judged with: its feeder and what it feeds, what shares its raceways, what was given the same space. */
function circuitsSeen(job: Installation, circuit: Circuit, spaces: readonly number[]): readonly Circuit[] {
  const feeder = circuit.feeder === null ? [] : job.circuits.filter((c) => c.id === circuit.feeder)
  return inOrderOf(job.circuits, [
    circuit,
    ...feeder,
    ...(circuit.kind === 'feeder' ? fedBy(job, circuit) : []),
    ...(job.raceways.length ? racewaysOf(job, circuit).flatMap((r) => r.circuits) : []),
    ...spaces.flatMap((s) => circuitsIn(job, circuit.board, s)),
  ])
}

const supplyParts = (job: Installation, { supply, fed }: Upstream): Parts => [
  job.supply,
  ...(fed ? [fed.name, fed.dropPercent, supply.board, supply.zeOhm, supply.upstream?.ratingA] : []),
]

const sameHanging = oneList<unknown>()
/** How circuits hang together: all that decides which others one is judged with. */
const hanging = once((circuits: readonly Circuit[]): Parts => {
  const parts: unknown[] = []
  for (const c of circuits) parts.push(c.id, c.feeder, c.kind, c.ways.length, ...c.ways)
  return sameHanging(parts)
})
const apart = lruCache<ReadonlySet<string>>()
/** Circuits that are judged with no other: no feeder, no raceway and no space of theirs is anybody else’s. */
const apartIn = (job: Installation): ReadonlySet<string> =>
  apart(
    [hanging(job.circuits), job.region, job.raceways],
    () => new Set(job.circuits.filter((c) => circuitsSeen(job, c, spacesGiven(job.region, c)).length === 1).map((c) => c.id)),
  )

const listsOfViews = oneFor()
/** One object for all that the view of a circuit is taken from; none where it is judged with others, of which any may have changed. */
export function amongAll(job: Installation, survey: SurveyReport): (circuit: Circuit) => object | null {
  const { environment, premises, schools } = job.brief
  const { region, supply, boards, ways, residualDevices, raceways, foundCables, cables, points, standing } = job
  const lists = [supply, boards, ways, residualDevices, raceways, foundCables, cables, points, standing, survey, hanging(job.circuits)]
  const all = listsOfViews([region, environment, premises, schools, job.building?.attic, ...lists])
  const alone = apartIn(job)
  return ({ id }) => (alone.has(id) ? all : null)
}

/** Points that are taken out of the boxes of a circuit: what is put there instead is judged as a replacement. */
function takenOutOf(job: Installation, circuit: Circuit): readonly Point[] {
  const removed = job.standing.filter((p) => p.state === 'removed')
  return removed.length === 0 ? removed : removed.filter((p) => pointsOrEnd(circuit).some((x) => x.box.id === p.box.id))
}

function placedAround(job: Installation, circuit: Circuit) {
  const spaces = spacesGiven(job.region, circuit)
  const boards = job.boards.filter((b) => b.id === MAIN_BOARD || b.id === circuit.board)
  const feeding = boards.flatMap((b) => (b.fedFrom === null ? [] : job.ways.filter((w) => w.id === b.fedFrom)))
  const ways = inOrderOf(job.ways, [...feeding, ...spaces.flatMap((s) => waysIn(job, circuit.board, s))])
  const residualDevices = job.residualDevices.filter((d) => d.id === circuit.behind || d.board === circuit.board)
  const raceways = job.raceways.filter((r) => r.circuits.includes(circuit.id))
  const foundCables = cablesThatStay(job, circuit)
  const cables = cablesSeen(job, circuit)
  const standing = takenOutOf(job, circuit)
  const parts: unknown[] = []
  for (const list of [boards, ways, residualDevices, raceways, foundCables, cables, standing] as Parts[]) {
    parts.push(list.length)
    for (const thing of list) parts.push(thing)
  }
  return { spaces, parts, seen: { boards, ways, residualDevices, raceways, foundCables, cables: [...cables], standing } }
}

/** What a circuit is judged by, besides itself. */
export function viewOf(job: Installation, circuit: Circuit, upstream: Upstream): CircuitView {
  const { environment, premises, schools } = job.brief
  const { spaces, parts, seen } = placedAround(job, circuit)
  const circuits = circuitsSeen(job, circuit, spaces)
  const there = onItsWays(job, circuit)
  const { already, proved } = there
  return {
    parts: [
      job.region,
      environment,
      premises,
      schools,
      job.building?.attic,
      proved,
      already?.amps,
      already?.unknown,
      already?.unread,
      already?.points,
      ...parts,
      circuits.length,
      ...circuits,
      ...supplyParts(job, upstream),
    ],
    there,
    job: () => ({
      ...bareWith(job.region, job.brief),
      ...(job.building ? { building: job.building } : {}),
      supply: upstream.supply,
      boards: seen.boards,
      ways: seen.ways,
      residualDevices: seen.residualDevices,
      raceways: seen.raceways,
      foundCables: seen.foundCables,
      cables: seen.cables,
      standing: seen.standing,
      circuits,
    }),
  }
}
