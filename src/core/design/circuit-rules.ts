import { accessory } from '../catalogue/accessories'
import type { Finding } from '../finding'
import type { Circuit, Design, Job } from '../job/schema'
import { formatSize, formatV } from '../quantity/format'
import { naSizes } from '../region/north-america'
import { vocabularies } from '../region/vocabulary'
import type { SelectedCircuit } from './select-circuit'

/** What a rule about a whole circuit may look at. */
export interface CircuitFacts {
  readonly job: Job
  readonly circuit: Circuit
  readonly design: Design
  readonly result: SelectedCircuit | null
}
type Rule = (facts: CircuitFacts) => Finding | null

const metricSizes = ['1.0 mm2', '1.5 mm2', '2.5 mm2', '4 mm2', '6 mm2', '10 mm2', '16 mm2', '25 mm2']
const isLarger = (a: string, b: string): boolean => {
  const order = a.endsWith('AWG') ? naSizes : metricSizes
  return order.indexOf(a) > order.indexOf(b)
}

/** The voltage of the load and of what it is connected to must be the same. */
const voltageMismatch: Rule = ({ job, circuit, design }) => {
  const fitted = accessory(design.accessory)
  const { volts } = circuit.load
  if (!fitted || volts === null) return null
  const offered = fitted.system === 'line-neutral' ? [job.region === 'north-america' ? 120 : 230] : fitted.system === 'line-line' ? [240] : [120, 240]
  if (offered.some((v) => Math.abs(volts - v) <= 0.15 * v)) return null
  return {
    rule: 'voltage-mismatch',
    severity: 'error',
    clause: job.region === 'north-america' ? '110.4; 406.4' : job.region === 'united-kingdom' ? '512.1.1' : 'SANS 10142-1 rated voltage',
    message: `The appliance wants ${formatV(volts)} and the ${fitted.name} gives ${offered.map(formatV).join(' and ')}. Choose another ${fitted.outlets ? 'outlet' : 'accessory'}, or check the nameplate.`,
  }
}

/** A terminal has a range; a cable enlarged for length may not go in. */
const terminalRange: Rule = ({ job, design, result }) => {
  const fitted = accessory(design.accessory)
  if (!fitted || !result?.size || !isLarger(result.size, fitted.largestSize)) return null
  return {
    rule: 'terminal-too-small',
    severity: 'error',
    clause: job.region === 'north-america' ? '110.14(A); 110.3(B)' : '526.2; maker’s instructions',
    message: `The terminals of the ${fitted.name} take up to ${formatSize(fitted.largestSize)} and the cable is ${formatSize(result.size)}. Choose an accessory with larger terminals, or join to a smaller tail in a box where the breaker allows it.`,
  }
}

/** Residual protection, by world, kind of outlet and place. */
const residualProtection: Rule = ({ job, design, result }) => {
  const fitted = accessory(design.accessory)
  if (!fitted || fitted.outlets === 0) return null
  const guarded = design.residual.at !== 'none' || fitted.residual
  const { environment } = job.brief
  const name = vocabularies[job.region].rcd
  if (job.region === 'north-america') {
    if (guarded || fitted.ratingA > 50) return null
    if (environment === null)
      return { rule: 'residual-protection-needed', severity: 'unknown', clause: '210.8', message: `Whether this outlet needs a ${name} depends on the place: dry, damp, wet or outdoors? Say so in the brief.` }
    if (environment === 'dry') return null
    return {
      rule: 'residual-protection-needed',
      severity: 'error',
      clause: '210.8(A), (B)',
      message: `An outlet in a ${environment === 'outdoors' ? 'place outdoors' : `${environment} place`} needs ${name} protection. Fit a ${name} breaker, or the outlet behind a ${name} receptacle.`,
    }
  }
  const uk = job.region === 'united-kingdom'
  if (fitted.ratingA > 32 || (guarded && design.residual.ma <= 30) || fitted.residual) return null
  return {
    rule: 'residual-protection-needed',
    severity: 'error',
    clause: uk ? '411.3.3' : 'SANS 10142-1 earth leakage protection of socket-outlets, 30 mA',
    message: guarded
      ? `The ${name} is of ${design.residual.ma} mA; a socket-outlet needs one of 30 mA or less.`
      : `A socket-outlet needs a ${name} of 30 mA or less. Put the circuit behind one${result?.breakerA ? `, as a ${result.breakerA} A breaker with residual protection,` : ''} or fit an outlet that has its own.`,
  }
}

/** Something that draws must meet the chain somewhere; a plug needs an outlet. */
const plugNeedsOutlet: Rule = ({ job, circuit, design }) => {
  const fitted = accessory(design.accessory)
  if (!fitted || circuit.load.connection !== 'plug' || fitted.outlets > 0 || fitted.kind !== 'switch') return null
  return {
    rule: 'plug-needs-outlet',
    severity: 'warning',
    clause: job.region === 'north-america' ? '400.10; 406.7' : job.region === 'united-kingdom' ? '553.1.7' : 'SANS 10142-1 connection of appliances',
    message: `The appliance comes with a plug and the ${fitted.name} has nowhere to put it. Fit an outlet, or say that it is connected permanently.`,
  }
}

/** Without the external impedance the loop cannot be judged: unknown, never passed. */
const loopUnknown: Rule = ({ job }) => {
  if (job.region === 'north-america' || job.supply.zeOhm !== null) return null
  return {
    rule: 'loop-not-known',
    severity: 'unknown',
    clause: job.region === 'united-kingdom' ? '411.4.4; 643.7.3' : 'IEC 60364-4-41 clause 411.4.4; SANS 10142-1 governs',
    message: 'The earth fault loop is not judged: Ze at the board is not known. Measure it and enter it under the supply.',
  }
}

/** On an earth rod the residual device is the only thing that clears an earth fault. */
const rodNeedsRcd: Rule = ({ job, design }) => {
  if (job.supply.earthing !== 'tt' || design.residual.at === 'board') return null
  return {
    rule: 'tt-needs-residual-device',
    severity: 'error',
    clause: job.region === 'united-kingdom' ? '411.5.2' : 'IEC 60364-4-41 clause 411.5; SANS 10142-1 governs',
    message: 'On an earth rod the whole circuit, not the outlet alone, must stand behind a residual current device at the board.',
  }
}

const rules: readonly Rule[] = [voltageMismatch, plugNeedsOutlet, terminalRange, residualProtection, rodNeedsRcd, loopUnknown]

/** Everything the circuit rules have to say about one design. */
export const circuitFindings = (facts: CircuitFacts): Finding[] => rules.map((rule) => rule(facts)).filter((f) => f !== null)
