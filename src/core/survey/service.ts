import { applianceKinds } from '../catalogue/appliances'
import { dwellingDemand, type DwellingDemandInput } from '../calculate/dwelling-demand'
import { designLoad, nameplateA } from '../design/load'
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
  /** What heating and the like that is added draws at once, which no allowance makes less. */
  readonly atLeastA: number
}

/** The demand of the service with what is surveyed and the new circuits, and what is left of it. */
export function serviceDemand(job: Installation): ServiceDemand {
  const { region } = job
  // What a circuit of this job passes counts with the circuit.
  const points = job.points.filter((p) => !p.planned && !job.circuitOfPoint.has(p.id))
  const main = job.boards.find((b) => b.fedFrom === null)!
  const { serviceV: volts, demandMethod } = worlds[region]
  const added = job.circuits.flatMap((c) => {
    const amps = c.kind === 'feeder' ? null : designLoad(job, c)?.nameplateA
    return amps == null
      ? []
      : [{ va: c.points.length ? c.points.reduce((sum, p) => sum + (p.watts ?? 0), 0) : amps * (c.load.volts ?? volts), load: c.load }]
  })
  const connectedA = (points.reduce((sum, p) => sum + (p.watts ?? 0), 0) + added.reduce((sum, a) => sum + a.va, 0)) / volts
  const atLeastA = added.filter((a) => a.load.nature === 'heating' && a.load.continuous).reduce((sum, a) => sum + a.va, 0) / volts
  if (main.mainA === null) return { result: null, ask: 'the rating of the main switch or service', connectedA, atLeastA }
  const { demand } = job
  if (demand.recordedA !== null)
    return {
      result: recordedDemand(
        region,
        demand.recordedA,
        added.map((a) => a.va / volts),
        main.mainA,
        volts,
      ),
      ask: null,
      connectedA,
      atLeastA,
    }
  // The published allowances are for dwellings: elsewhere what is connected is reckoned whole, which is never too little.
  if (job.brief.premises !== 'dwelling')
    return {
      result:
        job.brief.premises === null
          ? null
          : wholeLoad(
              connectedA,
              main.mainA,
              points.some((p) => p.watts === null),
            ),
      ask:
        job.brief.premises === null
          ? 'what kind of premises it is'
          : wholeAsk(connectedA, main.mainA, points.filter((p) => p.watts === null).length),
      connectedA,
      atLeastA,
    }
  if (demandMethod === 'floor-area') {
    if (demand.floorAreaM2 === null) return { result: null, ask: 'the floor area', connectedA, atLeastA }
    const appliancesVa = [
      ...points.filter((p) => p.kind === 'fixed' && p.watts).map((p) => p.watts!),
      ...added.filter((a) => !a.load.lighting).map((a) => a.va),
    ]
    const input: DwellingDemandInput = {
      method: 'existing',
      floorAreaM2: demand.floorAreaM2,
      smallApplianceCircuits: demand.smallApplianceCircuits,
      laundryCircuits: demand.laundryCircuits,
      appliancesVa,
      ...(demand.hvacKind ? { hvac: { kind: demand.hvacKind, va: demand.hvacVa } } : {}),
      serviceA: main.mainA,
      volts,
    }
    return { result: dwellingDemand(input), ask: null, connectedA, atLeastA }
  }
  if (demandMethod === null) return { result: null, ask: null, connectedA, atLeastA }
  return { result: dwellingDemand(diversityInput(job, points, added, main.mainA)), ask: null, connectedA, atLeastA }
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

/** What is connected, with no allowance; null where something is not known and what is known does not exceed the service. */
function wholeLoad(connectedA: number, serviceA: number, open: boolean): ServiceDemand['result'] {
  if (open && connectedA <= serviceA) return null
  return connectedA > serviceA
    ? null
    : {
        demandA: connectedA,
        spareA: serviceA - connectedA,
        parts: [{ what: 'all that is connected', connected: connectedA, counted: connectedA }],
        findings: [],
      }
}
function wholeAsk(connectedA: number, serviceA: number, open: number): string | null {
  if (connectedA > serviceA)
    return (
      `all that is connected comes to ${trim(connectedA, 0)} A against ${trim(serviceA, 0)} A, no allowance is published for such ` +
      'premises, and the highest demand recorded'
    )
  return open ? `the load of ${open} ${open === 1 ? 'point' : 'points'}` : null
}

function diversityInput(
  job: Installation,
  points: readonly Point[],
  added: readonly { va: number; load: Installation['circuits'][number]['load'] }[],
  serviceA: number,
): DwellingDemandInput {
  const groups = new Map(applianceKinds(job.region).map((k) => [k.id, k]))
  const list = [
    ...points
      .filter((p) => p.watts)
      .map((p) => ({ amps: p.watts! / 230, kind: p.appliance, lighting: p.kind === 'light', fixed: p.kind === 'fixed' })),
    ...added
      .filter((a) => a.load.connection !== 'plug' || a.load.lighting)
      .map((a) => ({ amps: a.va / 230, kind: a.load.kind, lighting: a.load.lighting, fixed: a.load.connection === 'fixed' })),
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
