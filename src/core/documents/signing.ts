import type { CircuitReport, Report } from '../evaluate/evaluate'
import { listed } from '../base/finding'
import type { Job } from '../job/schema'
import type { Reading } from '../job/reading'

/** A value as text that is the same however its keys are ordered: JSON with sorted keys. */
export const canonical = (value: unknown): string =>
  JSON.stringify(value, (_, x: unknown) =>
    x !== null && typeof x === 'object' && !Array.isArray(x)
      ? Object.fromEntries(Object.entries(x).toSorted(([a], [b]) => (a < b ? -1 : a > b ? 1 : 0)))
      : x,
  )

/**
 * What a signature is put under: the job without the signatures themselves, without how labels are printed and what is due again
 * afterwards, and every reading.
 */
export const signedText = ({ issues: _, labels: __, due: ___, ...job }: Job, readings: readonly Reading[]): string =>
  canonical({ job, readings })

/** Why the record cannot be signed yet, in words; empty: it can. Required tests and isolation steps come first. */
export function whyNotSigned({ circuits, stages, stop }: Pick<Report, 'circuits' | 'stages' | 'stop'>): readonly string[] {
  const errors = stages.flatMap((s) => s.findings).filter((f) => f.severity === 'error')
  return [
    ...(stop ? [stop] : []),
    ...circuits.flatMap(testsLeft),
    ...(errors.length ? [`${errors.length} ${errors.length === 1 ? 'error is' : 'errors are'} still among the findings.`] : []),
  ]
}

function testsLeft({ circuit, testReport }: CircuitReport): readonly string[] {
  if (testReport.judged.length === 0) return [`${circuit.name}: its tests are not worked out, because the circuit is not complete.`]
  const left = testReport.judged.filter((j) => !j.test.optional && j.verdict !== 'met')
  const phases = (['isolation', 'dead', 'live'] as const).flatMap((phase) => {
    const own = left.filter((j) => j.test.phase === phase)
    const named = listed(
      own.map((j) => j.test.title),
      3,
    )
    return own.length
      ? [`${own.length} ${phase === 'isolation' ? 'isolation' : `${phase} test`} ${own.length === 1 ? 'step' : 'steps'} not met (${named})`]
      : []
  })
  return phases.length ? [`${circuit.name}: ${phases.join('; ')}.`] : []
}
