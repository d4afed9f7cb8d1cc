import type { Circuit, Design, Installation } from '../installation/installation'
import { allEndsChosen, endingsOf, fittedAt } from './endings'
import { type Conditions, conditionsOf, runLengthM } from './conditions'
import { type DesignLoad, designLoad, motorRowOf, shaftHp } from './load'
import type { RegionId } from '../region/types'
import type { SelectCircuitInput } from '../calculate/select-circuit'
import { InputError } from '../base/input-error'
import { worlds } from '../region/worlds'

/** A fact that must be known before the circuit can be worked out, and where it is given. */
export interface OpenFact {
  readonly field: string
  readonly stage: 'brief' | 'circuit'
  readonly ask: string
}

/** What is still to be decided for this design. */
export function openFacts(region: RegionId, circuit: Circuit, design: Design): OpenFact[] {
  const open: OpenFact[] = []
  const { load, points } = circuit
  if (points.length === 0 && load.amount === null)
    open.push({ field: 'amount', stage: 'brief', ask: 'What does the appliance draw? Read its nameplate.' })
  if (points.length === 0 && load.basis === 'kwh' && load.hours === null)
    open.push({ field: 'hours', stage: 'brief', ask: 'In how many hours does it use that energy?' })
  if (points.length === 0 && load.amount !== null && load.volts !== null && shaftHp(load) !== null) {
    if (worlds[region].motorRow === undefined) {
      if (load.powerFactor === null)
        open.push({ field: 'powerFactor', stage: 'brief', ask: 'What is the motor’s power factor? See its plate (cos φ).' })
      if (load.efficiency === null)
        open.push({
          field: 'efficiency',
          stage: 'brief',
          ask: 'What is the motor’s efficiency? See its plate (η) or the maker’s data.',
        })
    } else if (motorRowOf(load, region) === null)
      open.push({
        field: 'amount',
        stage: 'brief',
        ask: 'The table of full-load currents has no row for this power and voltage: enter the current on the motor’s plate instead.',
      })
  }
  if (load.volts === null) open.push({ field: 'volts', stage: 'brief', ask: 'At what voltage does the appliance run?' })
  if (runLengthM(circuit, design) === null) open.push({ field: 'lengthM', stage: 'circuit', ask: 'How long is the run from the board?' })
  const unmeasured =
    points.filter((p) => p.lengthM === null).length + Number(circuit.kind === 'ring' && points.length > 0 && circuit.closeM === null)
  if (unmeasured)
    open.push({
      field: 'points',
      stage: 'circuit',
      ask: `How long ${unmeasured === 1 ? 'is the cable to one point' : `are the cables to ${unmeasured} points`}?`,
    })
  const unread = points.filter((p) => p.watts === null).length
  if (unread) open.push({ field: 'points', stage: 'circuit', ask: `What ${unread === 1 ? 'does one point' : `do ${unread} points`} draw?` })
  if (circuit.kind === 'ring' && points.length === 0)
    open.push({ field: 'points', stage: 'circuit', ask: 'Which points does the ring pass?' })
  if (circuit.kind !== 'feeder' && !allEndsChosen(circuit, design))
    open.push({ field: 'accessory', stage: 'circuit', ask: 'Which accessory is at this point?' })
  return open
}

/**
 * The calculator's inputs for a design, one a stretch of its cables, or null while a fact is open.
 * @throws InputError at `cable` where the world lists no such cable; all else the record's own schema holds within the contract.
 */
export function selectInputs(
  job: Installation,
  circuit: Circuit,
  design: Design,
): { readonly load: DesignLoad; readonly conditions: Conditions; readonly input: SelectCircuitInput }[] | null {
  const load = designLoad(job, circuit)
  const conditions = conditionsOf(job, circuit, design)
  if (load === null || conditions === null || circuit.load.volts === null) return null
  if (!worlds[job.region].cables.includes(design.cable))
    throw new InputError('cable', `No figures of “${design.cable}” are known where the job is: choose a cable that is listed.`)
  // With points of its own, what is lost along it is worked out point by point.
  const length = circuit.points.length > 0 ? 0 : conditions.reduce((sum, c) => sum + c.lengthM!, 0)
  return conditions.map((c) => ({ load, conditions: c, input: inputFor(job, circuit, design, load, { ...c, lengthM: length }) }))
}

/**
 * The outlet as a link of the chain: of several kinds the lowest rated. In the 230 V worlds each of several points is judged by what it
 * draws itself.
 */
function outletLink(job: Installation, circuit: Circuit, design: Design): { ratingA: number; single: boolean } | null {
  const { points } = circuit
  const outlets = endingsOf(circuit, design).filter(
    (e) => e.fitted.outlets > 0 && (points.length === 0 || e.points.some((p) => p.outlets > 0)),
  )
  if (outlets.length === 0 || ((points.length > 0 || circuit.kind === 'ring') && worlds[job.region].metric)) return null
  const lowest = outlets.reduce((low, e) => (e.fitted.ratingA < low.fitted.ratingA ? e : low)).fitted
  const count = points.length
    ? points.reduce((sum, p) => sum + Math.max(p.outlets, p.outlets && (fittedAt(design, p)?.outlets ?? 0)), 0)
    : lowest.outlets * design.accessories
  return { ratingA: lowest.ratingA, single: count === 1 }
}

function inputFor(
  job: Installation,
  circuit: Circuit,
  design: Design,
  { amps, quarterMore, nameplateA, leastBreakerA }: DesignLoad,
  at: Conditions & { readonly lengthM: number },
): SelectCircuitInput {
  const outlet = outletLink(job, circuit, design)
  const { load } = circuit
  const plainWatts = load.basis === 'watts' && load.powerFactor === null && circuit.points.length === 0 && amps === nameplateA
  const { lighting } = load
  const continuous = quarterMore !== null
  const volts = circuit.kind === 'shared-neutral' ? 120 : load.volts!
  const cordA = Math.min(design.cordA ?? Number.POSITIVE_INFINITY, design.extension?.ratingA ?? Number.POSITIVE_INFINITY)
  const wantedBreakerA = Math.max(design.wantedBreakerA ?? 0, leastBreakerA)
  const { lengthM, ambientC, groupedCircuits, insulationMm, loadedConductors } = at
  const { metric } = worlds[job.region]
  // What is not asked for stays out: a field with `undefined` in it is none of the contract's.
  const input: Record<string, unknown> = {
    region: job.region,
    load: plainWatts ? { volts, watts: load.amount!, continuous, lighting } : { volts, amps, continuous, lighting },
    cable: design.cable,
    conductor: metric ? 'copper' : design.conductor,
  }
  if (outlet) input.outlet = outlet
  if (Number.isFinite(cordA)) input.cord = { ratingA: cordA }
  if (design.minSize !== null) input.minSize = design.minSize
  if (wantedBreakerA !== 0) input.wantedBreakerA = wantedBreakerA
  if (metric === null) {
    input.run = { lengthM, ambientC, loadedConductors }
    input.terminalC = design.terminalC
    return input as SelectCircuitInput
  }
  const method = at.method ?? ''
  input.breakerType = design.breakerType
  input.run = metric.usual.insulation
    ? { lengthM, ambientC, groupedCircuits, method, insulationMm }
    : { lengthM, ambientC, groupedCircuits, method }
  const { zeOhm } = job.supply
  // A device at an outlet guards what is plugged in there, not the cable that feeds it: the loop is then the breaker's to clear.
  if (zeOhm !== null) input.supply = design.residual.at === 'board' ? { zeOhm, rcdMa: design.residual.ma } : { zeOhm }
  return input as SelectCircuitInput
}
