import { z } from 'zod'
import { seenBy } from '../design/fed'
import { evaluate } from '../evaluate/evaluate'
import { severities } from '../base/finding'
import { read } from '../installation/installation'
import { builtOf, builtOutput, isolationOutput, labelsOutput, materialsOutput, removedOutput, stepsOutput } from './built'
import { readJobFile, JobFileError } from '../job/file'
import { InputError } from '../base/input-error'
import { phases, pointsOfTest } from '../verify/tests'
import { stageIds } from '../report/stages'
import { serviceDemand } from '../survey/service'

const nullableText = z.string().nullable()
const nullableNumber = z.number().nullable()
const finding = z.strictObject({
  rule: z.string(),
  severity: z.enum(severities),
  clause: z.string(),
  message: z.string(),
  circuit: nullableText,
  point: nullableText,
})

/** A Job file of any version, as it was exported. */
export const jobInput = z.record(z.string(), z.unknown())
/** The whole job, judged: what every stage says is wrong, what is open, and the figures the stages show. */
export const jobOutput = z.strictObject({
  stages: z.array(
    z.strictObject({
      id: z.enum(stageIds),
      findings: z.array(finding),
      open: z.array(z.strictObject({ ask: z.string(), circuit: nullableText, point: nullableText })),
    }),
  ),
  circuits: z.array(
    z.strictObject({
      id: z.string(),
      name: z.string(),
      breakerA: nullableNumber,
      size: nullableText,
      protectiveSize: nullableText,
      dropPercent: nullableNumber,
      zsOhm: nullableNumber,
      demandA: nullableNumber,
      behind: nullableText,
    }),
  ),
  tests: z.array(
    z.strictObject({
      circuit: z.string(),
      phase: z.enum(phases),
      open: z.boolean(),
      expected: z.array(
        z.strictObject({
          test: z.string(),
          point: nullableText,
          nominal: nullableNumber,
          min: nullableNumber,
          max: nullableNumber,
          unit: z.string(),
        }),
      ),
    }),
  ),
  boards: z.array(z.strictObject({ id: z.string(), demandA: nullableNumber, spareA: nullableNumber, freeSpaces: z.array(z.number()) })),
  stop: nullableText,
  built: builtOutput,
  steps: stepsOutput,
  labels: labelsOutput,
  materials: materialsOutput,
  isolation: isolationOutput,
  removed: removedOutput,
})
export type JudgedJob = z.infer<typeof jobOutput>

const pointOf = (about: string | undefined): string | null => (about?.startsWith('point:') ? about.slice('point:'.length) : null)

/**
 * Judges a whole job.
 * @throws InputError naming the path in the file where it cannot be read.
 */
export function judgeJob(file: unknown): JudgedJob {
  const { job, readings } = readOrSay(file)
  const report = evaluate(job, readings)
  const installation = read(job)
  const service = serviceDemand(installation)
  return {
    stages: report.stages.map(({ id, findings, open }) => ({
      id,
      findings: findings.map(({ rule, severity, clause, message, circuit, about }) => ({
        rule,
        severity,
        clause,
        message,
        circuit,
        point: pointOf(about),
      })),
      open: open.map(({ ask, circuit, about }) => ({ ask, circuit, point: pointOf(about) })),
    })),
    circuits: report.circuits.map(({ circuit, chosen: { result, load } }) => ({
      id: circuit.id,
      name: circuit.name,
      breakerA: result?.breakerA ?? null,
      size: result?.size ?? null,
      protectiveSize: result?.protectiveSize ?? null,
      dropPercent: result?.dropPercent ?? null,
      zsOhm: result?.zsOhm ?? null,
      demandA: load?.amps ?? null,
      behind: circuit.behind,
    })),
    tests: report.circuits.flatMap(({ circuit, upstream, chosen, testReport }) =>
      phases.map((phase) => ({
        circuit: circuit.id,
        phase,
        open: testReport.phase[phase].open,
        expected: testReport.judged.flatMap(({ test }) => {
          if (test.phase !== phase || test.expect.kind !== 'range') return []
          const { nominal, min, max } = test.expect
          const whole = { test: test.id, point: null, nominal, min, max, unit: test.unit }
          const at = pointsOfTest(seenBy(installation, { upstream }), circuit, chosen, test).flatMap(({ id, expect }) =>
            expect.kind === 'range' ? [{ ...whole, point: id, nominal: expect.nominal, min: expect.min, max: expect.max }] : [],
          )
          return [whole, ...at]
        }),
      })),
    ),
    boards: report.boards.map(({ board, free }) => ({
      id: board.id,
      demandA: board.fedFrom === null ? (service.result?.demandA ?? null) : null,
      spareA: board.fedFrom === null ? (service.result?.spareA ?? null) : null,
      freeSpaces: [...(free ?? [])],
    })),
    stop: report.stop,
    ...builtOf(installation, report),
  }
}

function readOrSay(file: unknown) {
  try {
    return readJobFile(file)
  } catch (e) {
    if (e instanceof JobFileError) throw new InputError(e.path, e.message)
    throw e
  }
}
