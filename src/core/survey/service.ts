import { applianceKinds } from '../catalogue/appliances'
import { dwellingDemand, type DwellingDemandInput } from '../calculate/dwelling-demand'
import { designLoad, nameplateA } from '../design/load'
import { listed } from '../finding'
import { chosenDesign, type Circuit, type Installation, type Point } from '../installation/installation'
import { trim } from '../quantity/format'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'

export interface ServiceDemand {
  /** Null where a fact is missing; `ask` says which. */
  readonly result: ReturnType<typeof dwellingDemand> | null
  readonly ask: string | null
  /** Where no method is published for the world: what is connected, with no allowance. */
  readonly connectedA: number
  /** The loads that are not in it, as nobody said how much they are; null where all are. */
  readonly unsaid: string | null
  /** What heating and the like that is added draws at once, which no allowance makes less. */
  readonly atLeastA: number
}

interface Added {
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
      return { name: c.name, va, load: c.load, unsaid: amps === null }
    })

/** The loads that are missing, in words; null where none is. */
function missing(points: readonly Point[], added: readonly Added[]): string | null {
  const open = points.filter((p) => p.watts === null).length
  const whose = [...(open ? [`${open} ${open === 1 ? 'point' : 'points'}`] : []), ...added.filter((a) => a.unsaid).map((a) => a.name)]
  return whose.length ? `the load of ${listed(whose)}` : null
}

/** The demand of the service with what is surveyed and the new circuits, and what is left of it. */
export function serviceDemand(job: Installation): ServiceDemand {
  const { region, demand, brief } = job
  const { serviceV: volts, demandMethod } = worlds[region]
  // What a circuit of this job passes counts with the circuit.
  const points = job.points.filter((p) => !p.planned && !job.circuitOfPoint.has(p.id))
  const { mainA } = job.boards.find((b) => b.fedFrom === null)!
  const added = addedBy(job, volts)
  const connectedA = (points.reduce((sum, p) => sum + (p.watts ?? 0), 0) + added.reduce((sum, a) => sum + a.va, 0)) / volts
  const atLeastA = added.filter((a) => a.load.nature === 'heating' && a.load.continuous).reduce((sum, a) => sum + a.va, 0) / volts
  const unsaid = missing(points, added)
  const answer = (result: ServiceDemand['result'], ask: string | null = null) => ({ result, ask, connectedA, unsaid, atLeastA })
  // With a load missing the rest is the least it can be: too much already, that is said; else what is missing is asked for.
  const unless = (ask: string | null, least: NonNullable<ServiceDemand['result']>) =>
    ask === null || least.spareA < 0 ? answer(least) : answer(null, ask)

  if (mainA === null) return answer(null, 'the rating of the main switch or service')
  if (demand.recordedA !== null) {
    const more = added.map((a) => a.va / volts)
    return unless(missing([], added), recordedDemand(region, demand.recordedA, more, mainA, volts))
  }
  // The published allowances are for dwellings: elsewhere what is connected is reckoned whole, which is never too little.
  if (brief.premises === null) return answer(null, 'what kind of premises it is')
  if (brief.premises !== 'dwelling')
    return connectedA > mainA ? answer(null, overAsk(connectedA, mainA)) : unless(unsaid, wholeLoad(connectedA, mainA))
  if (demandMethod === null) return answer(null)
  if (demandMethod === 'floor-area') {
    if (demand.floorAreaM2 === null) return answer(null, 'the floor area')
    const [fixed, own] = [points.filter((p) => p.kind === 'fixed'), added.filter((a) => !a.load.lighting)]
    return unless(missing(fixed, own), dwellingDemand(floorAreaInput(job, demand.floorAreaM2, fixed, own, mainA)))
  }
  const [counted, own] = [points.filter((p) => p.kind === 'fixed' || p.kind === 'light'), added.filter(countsByLoad)]
  return unless(missing(counted, own), dwellingDemand(diversityInput(job, points, own, mainA)))
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
function recordedDemand(
  region: RegionId,
  recordedA: number,
  addedA: readonly number[],
  serviceA: number,
  volts: number,
): NonNullable<ServiceDemand['result']> {
  const { recordedFactor: factor, demandUnit } = worlds[region]
  const perA = demandUnit === 'VA' ? volts : 1
  const added = addedA.reduce((sum, a) => sum + a, 0)
  const demandA = factor * recordedA + added
  const parts = [
    { what: 'highest demand recorded', connected: recordedA * perA, counted: factor * recordedA * perA },
    { what: 'what is added', connected: added * perA, counted: added * perA },
  ]
  return { demandA, spareA: serviceA - demandA, parts, findings: [] }
}

/** A circuit that things are plugged into counts by the device it stands behind, whatever is plugged in today. OSG Table A1. */
const feedsPlugs = ({ load, kind }: Circuit): boolean => load.connection === 'plug' && !load.lighting && kind !== 'feeder'
const socketA = (c: Circuit): number =>
  Math.max(
    chosenDesign(c).wantedBreakerA ?? 0,
    c.ways.find((w) => w.state !== 'new')?.ratingA ?? 0,
    c.kind === 'ring' ? 32 : 0,
    nameplateA(c.load) ?? 0,
  )

/** What is connected, with no allowance. */
const wholeLoad = (connectedA: number, serviceA: number): NonNullable<ServiceDemand['result']> => ({
  demandA: connectedA,
  spareA: serviceA - connectedA,
  parts: [{ what: 'all that is connected', connected: connectedA, counted: connectedA }],
  findings: [],
})
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
      ...job.ways
        .filter(
          (w) =>
            w.kind === 'circuit' &&
            w.ratingA !== null &&
            w.ratingA >= 16 &&
            w.shape === 'ring' &&
            !job.circuits.some((c) => c.ways.some((x) => x.id === w.id)),
        )
        .map((w) => w.ratingA!),
      ...job.circuits.filter(feedsPlugs).map(socketA),
    ],
    fixedA: list.filter((x) => x.fixed && !special(x)).map((x) => x.amps),
    serviceA,
  }
}
