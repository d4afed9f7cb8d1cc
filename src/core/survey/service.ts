import { applianceKinds } from '../catalogue/appliances'
import { dwellingDemand, type DwellingDemandInput } from '../calculate/dwelling-demand'
import { designLoad, nameplateA } from '../design/load'
import { listed } from '../base/finding'
import { chosenDesign, type Circuit, type Installation, type Point } from '../installation/installation'
import type { Way } from '../job/board'
import { trim } from '../base/format'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'
import { legOf } from './board'
import { evaluateSurvey, isUnlooked } from './traced'

type Demand = ReturnType<typeof dwellingDemand>

/** What a demand may wait for, by where it is given. */
export const demandFacts = ['main', 'premises', 'floorArea', 'recorded', 'ways', 'behindWays', 'pointLoads', 'load'] as const
export type DemandFact = (typeof demandFacts)[number]
interface Missing {
  readonly words: string
  readonly fact: DemandFact
  /** The first thing of which it is missing, as `way:ID`. */
  readonly about: string | null
}

export interface ServiceDemand {
  /** Null where a fact is missing; `ask` says which. */
  readonly result: Demand | null
  readonly ask: string | null
  /** The fact that is given first of what `ask` says. */
  readonly asks: DemandFact | null
  /** The first thing of which it is missing, as `way:ID`. */
  readonly about: string | null
  /** Where no method is published for the world: what is connected, with no allowance. */
  readonly connectedA: number
  /** The loads that are not in it, as nobody said how much they are; null where all are. */
  readonly unsaid: string | null
  /** What heating and the like that is added draws at once, which no allowance makes less. */
  readonly atLeastA: number
}

interface Added {
  readonly id: string
  readonly name: string
  readonly va: number
  readonly load: Circuit['load']
  /** Nobody said how much it is, or how much part of it is. */
  readonly unsaid: boolean
}
/** What each circuit of the job draws by its nameplates. */
const addedBy = (job: Installation, volts: number): Added[] =>
  job.circuits
    .filter((c) => c.kind !== 'feeder')
    .map((c) => {
      const amps = designLoad(job, c)?.nameplateA ?? null
      const va = c.points.length ? c.points.reduce((sum, p) => sum + (p.watts ?? 0), 0) : (amps ?? 0) * (c.load.volts ?? volts)
      return { id: c.id, name: c.name, va, load: c.load, unsaid: amps === null }
    })

/** What is missing of the loads; null where nothing is. */
function missing(points: readonly Point[], added: readonly Added[], unlooked: readonly Way[]): Missing | null {
  const [open, unsaid] = [points.filter((p) => p.watts === null), added.filter((a) => a.unsaid)]
  const whose = [...(open.length ? [`${open.length} ${open.length === 1 ? 'point' : 'points'}`] : []), ...unsaid.map((a) => a.name)]
  const ways = unlooked.length ? [`the loads on ${unlooked.length === 1 ? unlooked[0]!.label : `${unlooked.length} breakers`}`] : []
  const words = listed([...ways, ...(whose.length ? [`the load of ${listed(whose)}`] : [])])
  if (!words) return null
  if (unlooked[0]) return { words, fact: 'behindWays', about: `way:${unlooked[0].id}` }
  if (open[0]) return { words, fact: 'pointLoads', about: `point:${open[0].id}` }
  return { words, fact: 'load', about: `circuit:${unsaid[0]!.id}` }
}

/** Parts of a demand are given in volt-amperes or in amperes: so many to an ampere. */
const perAmpere = (region: RegionId): number => (worlds[region].demandUnit === 'VA' ? worlds[region].serviceV : 1)

/** A demand with what was not looked at: no more for long than its breakers let through. Null where one of them was not read. */
function byBreakers(region: RegionId, least: Demand, unlooked: readonly Way[]): Demand | null {
  if (unlooked.some((w) => w.ratingA === null)) return null
  // A one-pole breaker loads one line; on which one is not known where its place was not noted.
  const on = (line: 'A' | 'B') =>
    unlooked.filter((w) => w.poles === 2 || w.position === null || legOf(w.position) === line).reduce((sum, w) => sum + w.ratingA!, 0)
  const amps = worlds[region].splitPhase ? Math.max(on('A'), on('B')) : unlooked.reduce((sum, w) => sum + w.ratingA!, 0)
  const part = amps * perAmpere(region)
  return {
    ...least,
    demandA: least.demandA + amps,
    spareA: least.spareA - amps,
    parts: [...least.parts, { what: 'circuits that were not checked, by their breakers', connected: part, counted: part }],
  }
}

/** The demand of the service with what is surveyed and the new circuits, and what is left of it. */
export function serviceDemand(job: Installation): ServiceDemand {
  const { region, demand, brief } = job
  const { serviceV: volts, demandMethod } = worlds[region]
  // What a circuit of this job passes counts with the circuit.
  const points = job.points.filter((p) => !p.planned && !job.circuitOfPoint.has(p.id))
  const main = job.boards.find((b) => b.fedFrom === null)!
  const { mainA } = main
  const added = addedBy(job, volts)
  const connectedA = (points.reduce((sum, p) => sum + (p.watts ?? 0), 0) + added.reduce((sum, a) => sum + a.va, 0)) / volts
  const atLeastA = added.filter((a) => a.load.nature === 'heating' && a.load.continuous).reduce((sum, a) => sum + a.va, 0) / volts
  const unlooked = evaluateSurvey(job)
    .loads.filter(isUnlooked)
    .map((l) => l.way)
  const unsaid = missing(points, added, unlooked)
  const answer = (result: ServiceDemand['result'], asked: Missing | null = null): ServiceDemand => ({
    result,
    ask: asked?.words ?? null,
    // Nothing is traced before there is a point to see die.
    asks: asked?.fact === 'behindWays' && points.length === 0 ? 'pointLoads' : (asked?.fact ?? null),
    about: asked?.about ?? null,
    connectedA,
    unsaid: unsaid?.words ?? null,
    atLeastA,
  })
  const judge = (least: Demand, of: readonly Point[], more: readonly Added[], unknown: readonly Way[]) => {
    // With a load missing the rest is the least it can be: too much already, that is said.
    if (least.spareA < 0) return answer(least)
    const ask = missing(of, more, unknown)
    if (ask === null) return answer(least)
    const most = missing(of, more, []) === null ? byBreakers(region, least, unknown) : null
    return most && most.spareA >= 0 ? answer(most) : answer(null, ask)
  }

  if (mainA === null) return answer(null, { words: 'the rating of the main switch or service', fact: 'main', about: null })
  if (demand.recordedA !== null) {
    const more = added.map((a) => a.va / volts)
    return judge(recordedDemand(region, demand.recordedA, more, mainA), [], added, [])
  }
  const looked = points.length > 0 || main.free !== null || job.ways.some((w) => w.board === main.id)
  if (!looked && job.circuits.every((c) => c.work === 'new'))
    return answer(null, { words: 'the existing load of the board: its ways are not checked', fact: 'ways', about: null })
  // The published allowances are for dwellings: elsewhere what is connected is reckoned whole, which is never too little.
  if (brief.premises === null) return answer(null, { words: 'what kind of premises it is', fact: 'premises', about: null })
  if (brief.premises !== 'dwelling')
    return connectedA > mainA
      ? answer(null, { words: overAsk(connectedA, mainA), fact: 'recorded', about: null })
      : judge(wholeLoad(region, connectedA, mainA), points, added, unlooked)
  if (demandMethod === null) return answer(null)
  if (demandMethod === 'floor-area') {
    if (demand.floorAreaM2 === null) return answer(null, { words: 'the floor area', fact: 'floorArea', about: null })
    const [fixed, own] = [points.filter((p) => p.kind === 'fixed'), added.filter((a) => !a.load.lighting)]
    // The area stands for lights and outlets; across two lines there is an appliance.
    const across = unlooked.filter((w) => w.poles === 2)
    return judge(dwellingDemand(floorAreaInput(job, demand.floorAreaM2, fixed, own, mainA)), fixed, own, across)
  }
  const [counted, own] = [points.filter((p) => p.kind === 'fixed' || p.kind === 'light'), added.filter(countsByLoad)]
  const alone = unlooked.filter((w) => !countsByDevice(w))
  return judge(dwellingDemand(diversityInput(job, points, own, mainA)), counted, own, alone)
}

function floorAreaInput(
  { region, demand }: Installation,
  floorAreaM2: number,
  fixed: readonly Point[],
  added: readonly Added[],
  serviceA: number,
): DwellingDemandInput {
  return {
    method: 'existing',
    floorAreaM2,
    smallApplianceCircuits: demand.smallApplianceCircuits,
    laundryCircuits: demand.laundryCircuits,
    appliancesVa: [...fixed.map((p) => p.watts ?? 0), ...added.map((a) => a.va)].filter((va) => va > 0),
    ...(demand.hvacKind ? { hvac: { kind: demand.hvacKind, va: demand.hvacVa } } : {}),
    serviceA,
    volts: worlds[region].serviceV,
  }
}

/**
 * What was recorded counts a quarter more in North America; what is added counts whole. NFPA 70 220.87; elsewhere a record is evidence
 * for 311.1.
 */
function recordedDemand(region: RegionId, recordedA: number, addedA: readonly number[], serviceA: number): Demand {
  const { recordedFactor: factor } = worlds[region]
  const perA = perAmpere(region)
  const added = addedA.reduce((sum, a) => sum + a, 0)
  const demandA = factor * recordedA + added
  const parts = [
    { what: 'highest demand recorded', connected: recordedA * perA, counted: factor * recordedA * perA },
    { what: 'what is added', connected: added * perA, counted: added * perA },
  ]
  return { demandA, spareA: serviceA - demandA, parts, findings: [] }
}

/** A circuit that things are plugged into counts by the device it is behind, whatever is plugged in today. OSG Table A1. */
const feedsPlugs = ({ load, kind }: Circuit): boolean => load.connection === 'plug' && !load.lighting && kind !== 'feeder'
/** A ring that is there counts by its device, whatever hangs on it. OSG Table A1. */
const countsByDevice = ({ kind, ratingA, shape }: Way): boolean =>
  kind === 'circuit' && ratingA !== null && ratingA >= 16 && shape === 'ring'
const socketA = (c: Circuit, region: RegionId): number =>
  Math.max(
    chosenDesign(c).wantedBreakerA ?? 0,
    c.ways.find((w) => w.state !== 'new')?.ratingA ?? 0,
    c.kind === 'ring' ? 32 : 0,
    nameplateA(c.load, region) ?? 0,
  )

/** What is connected, with no allowance. */
function wholeLoad(region: RegionId, connectedA: number, serviceA: number): Demand {
  const part = connectedA * perAmpere(region)
  return {
    demandA: connectedA,
    spareA: serviceA - connectedA,
    parts: [{ what: 'all that is connected', connected: part, counted: part }],
    findings: [],
  }
}
const overAsk = (connectedA: number, serviceA: number): string =>
  `all that is connected comes to ${trim(connectedA, 0)} A against ${trim(serviceA, 0)} A, no allowance is published for such ` +
  'premises, and the highest demand recorded'

/** Whether an addition counts by what it draws, and not by the device of a circuit that things are plugged into. */
const countsByLoad = ({ load }: Pick<Added, 'load'>): boolean => load.connection !== 'plug' || load.lighting

function diversityInput(job: Installation, points: readonly Point[], added: readonly Added[], serviceA: number): DwellingDemandInput {
  const groups = new Map(applianceKinds(job.region).map((k) => [k.id, k]))
  const list = [
    ...points
      .filter((p) => p.watts)
      .map((p) => ({ amps: p.watts! / 230, kind: p.appliance, lighting: p.kind === 'light', fixed: p.kind === 'fixed' })),
    ...added.map((a) => ({ amps: a.va / 230, kind: a.load.kind, lighting: a.load.lighting, fixed: a.load.connection === 'fixed' })),
  ]
  const total = (items: readonly { amps: number }[]) => items.reduce((sum, x) => sum + x.amps, 0)
  const groupOf = (x: (typeof list)[number]) => (x.kind ? groups.get(x.kind)?.group : undefined)
  const special = (x: (typeof list)[number]) =>
    x.lighting || ['cooking', 'heat', 'water'].includes(groupOf(x) ?? '') || x.kind === 'vehicle-charger'
  const instant = (x: (typeof list)[number]) => x.kind === 'shower-instant' || x.kind === 'water-heater-instant'
  return {
    method: 'diversity',
    lightingA: total(list.filter((x) => x.lighting)),
    cookers: list.filter((x) => groupOf(x) === 'cooking' && !x.lighting && x.fixed).map((x) => ({ amps: x.amps, socket: false })),
    heatingA: total(list.filter((x) => groupOf(x) === 'heat' && x.fixed)),
    instantHeatersA: list.filter(instant).map((x) => x.amps),
    storageHeaterA: total(list.filter((x) => x.kind === 'water-heater-storage')),
    vehicleA: total(list.filter((x) => x.kind === 'vehicle-charger')),
    socketCircuitsA: [
      ...job.ways.filter((w) => countsByDevice(w) && !job.circuits.some((c) => c.ways.some((x) => x.id === w.id))).map((w) => w.ratingA!),
      ...job.circuits.filter(feedsPlugs).map((c) => socketA(c, job.region)),
    ],
    fixedA: list.filter((x) => x.fixed && !special(x)).map((x) => x.amps),
    serviceA,
  }
}
