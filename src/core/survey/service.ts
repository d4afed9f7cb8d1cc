import { applianceKinds } from '../catalogue/appliances'
import { dwellingDemand, type DwellingDemandInput } from '../design/dwelling-demand'
import { designLoad } from '../design/load'
import type { Installation } from '../installation/installation'
import type { RegionId } from '../region/types'

export interface ServiceDemand {
  /** Null where a fact is missing; `ask` says which. */
  readonly result: ReturnType<typeof dwellingDemand> | null
  readonly ask: string | null
  /** Where no method is published for the world: what is connected, with no allowance. */
  readonly connectedA: number
}

/** The demand of the service with what is surveyed and the new circuits, and what is left of it. */
export function serviceDemand(job: Installation): ServiceDemand {
  const survey = job
  const { region } = job
  const main = survey.boards.find((b) => b.fedFrom === null)!
  const volts = region === 'north-america' ? 240 : 230
  const added = job.circuits.flatMap((c) => {
    const amps = c.kind === 'feeder' ? null : designLoad(job, c)?.nameplateA
    return amps == null ? [] : [{ va: c.points.length ? c.points.reduce((sum, p) => sum + (p.watts ?? 0), 0) : amps * (c.load.volts ?? volts), load: c.load }]
  })
  const connectedA = (survey.points.reduce((sum, p) => sum + (p.watts ?? 0), 0) + added.reduce((sum, a) => sum + a.va, 0)) / volts
  if (main.mainA === null) return { result: null, ask: 'the rating of the main switch or service', connectedA }
  const { demand } = survey
  if (demand.recordedA !== null) return { result: recordedDemand(region, demand.recordedA, added.map((a) => a.va / volts), main.mainA, volts), ask: null, connectedA }
  if (region === 'north-america') {
    if (demand.floorAreaM2 === null) return { result: null, ask: 'the floor area', connectedA }
    const appliancesVa = [...survey.points.filter((p) => p.kind === 'fixed' && p.watts).map((p) => p.watts!), ...added.filter((a) => !a.load.lighting).map((a) => a.va)]
    const input: DwellingDemandInput = { method: 'existing', floorAreaM2: demand.floorAreaM2, smallApplianceCircuits: demand.smallApplianceCircuits, laundryCircuits: demand.laundryCircuits, appliancesVa, ...(demand.hvacKind ? { hvac: { kind: demand.hvacKind, va: demand.hvacVa } } : {}), serviceA: main.mainA, volts }
    return { result: dwellingDemand(input), ask: null, connectedA }
  }
  if (region === 'southern-africa') return { result: null, ask: null, connectedA }
  return { result: dwellingDemand(diversityInput(job, added, main.mainA)), ask: null, connectedA }
}

/** What was recorded counts a quarter more in North America; what is added counts whole. NFPA 70 220.87; elsewhere a record is evidence for 311.1. */
function recordedDemand(region: RegionId, recordedA: number, addedA: readonly number[], serviceA: number, volts: number): NonNullable<ServiceDemand['result']> {
  const [factor, perA] = region === 'north-america' ? [RECORDED_FACTOR, volts] : [1, 1]
  const added = addedA.reduce((sum, a) => sum + a, 0)
  const demandA = factor * recordedA + added
  const parts = [{ what: 'highest demand recorded', connected: recordedA * perA, counted: factor * recordedA * perA }, { what: 'what is added', connected: added * perA, counted: added * perA }]
  return { demandA, spareA: serviceA - demandA, parts, findings: [] }
}
const RECORDED_FACTOR = 1.25

function diversityInput(job: Installation, added: readonly { va: number; load: Installation['circuits'][number]['load'] }[], serviceA: number): DwellingDemandInput {
  const groups = new Map(applianceKinds(job.region).map((k) => [k.id, k]))
  const list = [
    ...job.points.filter((p) => p.watts).map((p) => ({ amps: p.watts! / 230, kind: p.appliance, lighting: p.kind === 'light', fixed: p.kind === 'fixed' })),
    ...added.map((a) => ({ amps: a.va / 230, kind: a.load.kind, lighting: a.load.lighting, fixed: a.load.connection === 'fixed' })),
  ]
  const total = (items: readonly { amps: number }[]) => items.reduce((sum, x) => sum + x.amps, 0)
  const groupOf = (x: (typeof list)[number]) => (x.kind ? groups.get(x.kind)?.group : undefined)
  const special = (x: (typeof list)[number]) => x.lighting || ['cooking', 'heat', 'water'].includes(groupOf(x) ?? '') || x.kind === 'vehicle-charger'
  const instant = (x: (typeof list)[number]) => x.kind === 'shower-instant' || x.kind === 'water-heater-instant'
  return {
    method: 'diversity',
    lightingA: total(list.filter((x) => x.lighting)),
    cookers: list.filter((x) => groupOf(x) === 'cooking' && !x.lighting && x.fixed).map((x) => ({ amps: x.amps, socket: false })),
    heatingA: total(list.filter((x) => groupOf(x) === 'heat' && x.fixed)),
    instantHeatersA: list.filter(instant).map((x) => x.amps),
    storageHeaterA: total(list.filter((x) => x.kind === 'water-heater-storage')),
    vehicleA: total(list.filter((x) => x.kind === 'vehicle-charger')),
    socketCircuitsA: job.ways.filter((w) => w.kind === 'circuit' && w.ratingA !== null && w.ratingA >= 16 && w.shape === 'ring').map((w) => w.ratingA!),
    fixedA: list.filter((x) => x.fixed && !special(x)).map((x) => x.amps),
    serviceA,
  }
}
