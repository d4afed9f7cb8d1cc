import { accessory } from '../catalogue/accessories'
import type { Circuit, Design, Job } from '../job/schema'
import type { SelectCircuitInput } from './select-circuit'

/** A fact that must be known before the circuit can be worked out, and where it is given. */
export interface OpenFact {
  readonly field: string
  readonly stage: 'brief' | 'circuit'
  readonly ask: string
}

/** What is still to be decided for this design. */
export function openFacts(circuit: Circuit, design: Design): OpenFact[] {
  const open: OpenFact[] = []
  const { load } = circuit
  if (load.amount === null) open.push({ field: 'amount', stage: 'brief', ask: 'What does the appliance draw? Read its nameplate.' })
  if (load.volts === null) open.push({ field: 'volts', stage: 'brief', ask: 'At what voltage does the appliance run?' })
  if (design.lengthM === null) open.push({ field: 'lengthM', stage: 'circuit', ask: 'How long is the run from the board?' })
  if (design.accessory === null) open.push({ field: 'accessory', stage: 'circuit', ask: 'What does the cable end on?' })
  return open
}

/** The calculator's input for a design, or null while a fact is open. */
export function selectInput(job: Job, circuit: Circuit, design: Design): SelectCircuitInput | null {
  const { load } = circuit
  if (load.amount === null || load.volts === null || design.lengthM === null) return null
  const fitted = accessory(design.accessory)
  const common = {
    load: {
      volts: load.volts,
      ...(load.basis === 'watts' ? { watts: load.amount } : { amps: load.amount }),
      continuous: load.continuous,
      lighting: load.lighting,
    },
    ...(fitted && fitted.outlets > 0 ? { outlet: { ratingA: fitted.ratingA, single: fitted.outlets * design.accessories === 1 } } : {}),
    ...(design.cordA === null ? {} : { cord: { ratingA: design.cordA } }),
    ...(design.minSize === null ? {} : { minSize: design.minSize }),
    ...(design.wantedBreakerA === null ? {} : { wantedBreakerA: design.wantedBreakerA }),
    cable: design.cable,
  }
  const { lengthM, ambientC, groupedCircuits } = design
  if (job.region === 'north-america')
    return {
      region: job.region,
      ...common,
      conductor: design.conductor,
      run: { lengthM, ambientC, loadedConductors: design.loadedConductors },
      terminalC: design.terminalC,
    } as SelectCircuitInput
  // A device at the outlet guards what is plugged in there, not the cable that feeds it: the loop is then the breaker's to clear.
  const metric = {
    ...common,
    conductor: 'copper',
    breakerType: design.breakerType,
    ...(job.supply.zeOhm === null ? {} : { supply: { zeOhm: job.supply.zeOhm, ...(design.residual.at === 'board' ? { rcdMa: design.residual.ma } : {}) } }),
  }
  const run = { lengthM, ambientC, groupedCircuits, method: design.method ?? '' }
  return (
    job.region === 'united-kingdom'
      ? { region: job.region, ...metric, run: { ...run, insulationMm: design.insulationMm } }
      : { region: job.region, ...metric, run }
  ) as SelectCircuitInput
}
