import { z } from 'zod'
import { ampacity, ampacityInput, ampacityOutput } from '../calculate/ampacity'
import { cutList, cutListInput, cutListOutput } from '../calculate/cut-list'
import { faultLoop, faultLoopInput, faultLoopOutput } from '../calculate/fault-loop'
import { selectCircuit, selectCircuitInput, selectCircuitOutput } from '../calculate/select-circuit'
import { motorCircuit, motorCircuitInput, motorCircuitOutput } from '../calculate/motor-circuit'
import { voltageDrop, voltageDropInput, voltageDropOutput } from '../calculate/voltage-drop'
import { boxFill, boxFillInput, boxFillOutput } from '../calculate/box-fill'
import { racewayFill, racewayFillInput, racewayFillOutput } from '../calculate/raceway-fill'
import { conduitFill, conduitFillInput, conduitFillOutput } from '../calculate/conduit-fill'
import { racewayBends, racewayBendsInput, racewayBendsOutput } from '../calculate/raceway-bends'
import { pvcExpansion, pvcExpansionInput, pvcExpansionOutput } from '../calculate/pvc-expansion'
import { boredHole, boredHoleInput, boredHoleOutput } from '../calculate/bored-hole'
import { route, routeInput, routeOutput } from '../building/route'
import { outletSpacing, outletSpacingInput, outletSpacingOutput } from '../calculate/outlet-spacing'
import { ringContinuity, ringContinuityInput, ringContinuityOutput } from '../calculate/ring-continuity'
import { dwellingDemand, dwellingDemandInput, dwellingDemandOutput } from '../calculate/dwelling-demand'
import { network } from '../network/network'
import { networkInput, networkOutput } from '../network/types'
import { dayPlanInput, dayPlanOutput } from '../schedule/day'
import { dayPlan } from '../schedule/day-plan'
import { trace } from '../trace/trace'
import { traceInput, traceOutput } from '../trace/types'
import { firstIssue, InputError } from '../base/input-error'
import {
  campaignInput,
  campaignOutput,
  diagnoseInput,
  diagnoseOutput,
  instrumentInput,
  instrumentOutput,
  judgeInstrument,
  judgeMaterials,
  judgeMistakes,
  judgeReadings,
  materialsInput,
  materialsOutput,
} from './judge-faults'
import { jobInput, jobOutput, judgeJob } from './judge-job'

interface Calculator<I extends z.ZodType = z.ZodType, O extends z.ZodType = z.ZodType> {
  readonly summary: string
  /** It may take seconds for one input: a server works it out aside. */
  readonly slow?: true
  readonly input: I
  readonly output: O
  readonly run: (input: z.output<I>) => z.output<O> | Promise<z.output<O>>
}

/** Ties input, function and output together while their types are still known. */
function define<I extends z.ZodType, O extends z.ZodType>(c: Calculator<I, O>): Calculator {
  return c as unknown as Calculator
}

/** Every computation the application offers by name: screens, server, workers and command line all call these. */
export const calculators: Readonly<Record<string, Calculator>> = {
  ampacity: define({ summary: 'What a cable may carry as it is run', input: ampacityInput, output: ampacityOutput, run: ampacity }),
  'voltage-drop': define({ summary: 'Volts lost along a run', input: voltageDropInput, output: voltageDropOutput, run: voltageDrop }),
  'select-circuit': define({
    summary: 'The smallest breaker and cable that serve a load',
    input: selectCircuitInput,
    output: selectCircuitOutput,
    run: selectCircuit,
  }),
  'motor-circuit': define({
    summary: 'Conductors, breaker, overload protection and disconnect of one motor (North America)',
    input: motorCircuitInput,
    output: motorCircuitOutput,
    run: motorCircuit,
  }),
  'box-fill': define({ summary: 'The volume a box must have', input: boxFillInput, output: boxFillOutput, run: boxFill }),
  'fault-loop': define({
    summary: 'Earth fault loop, its limit, and the protective conductor',
    input: faultLoopInput,
    output: faultLoopOutput,
    run: faultLoop,
  }),
  'raceway-fill': define({
    summary: 'How full a raceway is, and the smallest that takes its conductors',
    input: racewayFillInput,
    output: racewayFillOutput,
    run: racewayFill,
  }),
  'conduit-fill': define({
    summary: 'Whether single-core cables go into a round conduit (United Kingdom)',
    input: conduitFillInput,
    output: conduitFillOutput,
    run: conduitFill,
  }),
  'raceway-bends': define({
    summary: 'Marks, total bend and cut length of a bent raceway',
    input: racewayBendsInput,
    output: racewayBendsOutput,
    run: racewayBends,
  }),
  'pvc-expansion': define({
    summary: 'Change of length of plastic conduit over a range of temperature',
    input: pvcExpansionInput,
    output: pvcExpansionOutput,
    run: pvcExpansion,
  }),
  'bored-hole': define({
    summary: 'Whether a hole may be bored through a timber there',
    input: boredHoleInput,
    output: boredHoleOutput,
    run: boredHole,
  }),
  'outlet-spacing': define({
    summary: 'Gaps along a wall or counter, and the fewest outlets that close them',
    input: outletSpacingInput,
    output: outletSpacingOutput,
    run: outletSpacing,
  }),
  'ring-continuity': define({
    summary: 'What a ring should read, and what its readings tell',
    input: ringContinuityInput,
    output: ringContinuityOutput,
    run: ringContinuity,
  }),
  'dwelling-demand': define({
    summary: 'The demand of a dwelling on its service',
    input: dwellingDemandInput,
    output: dwellingDemandOutput,
    run: dwellingDemand,
  }),
  'cut-list': define({
    summary: 'Which lengths of cable to buy, and what to cut from each',
    input: cutListInput,
    output: cutListOutput,
    run: cutList,
    slow: true,
  }),
  route: define({
    summary: 'The ways a cable can take through a building, the cheapest first',
    input: routeInput,
    output: routeOutput,
    run: route,
    slow: true,
  }),
  trace: define({ summary: 'Which breaker feeds what, and which point feeds which', input: traceInput, output: traceOutput, run: trace }),
  'day-plan': define({
    summary: 'Tasks on the clock: the earliest finish, then the least time without power',
    input: dayPlanInput,
    output: dayPlanOutput,
    run: dayPlan,
    slow: true,
  }),
  network: define({
    summary: 'The electrical state of wiring as built: potentials, currents, what trips, what a meter reads',
    input: networkInput,
    output: networkOutput,
    run: network,
  }),
  campaign: define({
    summary: 'Every single wrong connection of a circuit: what it does, and which of its tests catch it',
    input: campaignInput,
    output: campaignOutput,
    run: judgeMistakes,
    slow: true,
  }),
  diagnose: define({
    summary: 'Which wrong connections explain the readings of a circuit, and what to measure next',
    input: diagnoseInput,
    output: diagnoseOutput,
    run: judgeReadings,
    slow: true,
  }),
  instrument: define({
    summary: 'What an instrument shows between two conductors of a circuit, as designed or with a mistake',
    input: instrumentInput,
    output: instrumentOutput,
    run: judgeInstrument,
  }),
  materials: define({
    summary: 'What the design of a job asks for, counted',
    input: materialsInput,
    output: materialsOutput,
    run: judgeMaterials,
  }),
  job: define({
    summary: 'A whole job, judged: every finding, what is open, tests and boards',
    input: jobInput,
    output: jobOutput,
    run: judgeJob,
  }),
}

export interface CalculatorError {
  error: { path: string; message: string }
}

/** Runs one input through a calculator, some at once and some in a while; bad input comes back as the first thing wrong. */
export function calculateOne(calculator: Calculator, input: unknown): unknown {
  const parsed = calculator.input.safeParse(input)
  if (!parsed.success) return { error: firstIssue(parsed.error) } satisfies CalculatorError
  const refused = (e: unknown): CalculatorError => {
    if (e instanceof InputError) return { error: { path: e.path, message: e.message } }
    throw e
  }
  try {
    const output = calculator.run(parsed.data)
    return output instanceof Promise ? output.catch(refused) : output
  } catch (e) {
    return refused(e)
  }
}

/** An array in gives an array out, element by element. */
export async function calculate(calculator: Calculator, input: unknown): Promise<unknown> {
  if (!Array.isArray(input)) return calculateOne(calculator, input)
  const all: unknown[] = []
  // One after another: those that take long have a time of their own.
  for (const one of input) all.push(await calculateOne(calculator, one))
  return all
}

export const isCalculatorError = (output: unknown): output is CalculatorError =>
  typeof output === 'object' && output !== null && 'error' in output

/** Both JSON Schemas of a calculator, for people who write inputs by hand or by program. */
export function calculatorSchemas(calculator: Calculator): { input: unknown; output: unknown } {
  return { input: z.toJSONSchema(calculator.input, { io: 'input' }), output: z.toJSONSchema(calculator.output) }
}
