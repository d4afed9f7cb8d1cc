import type { Reading } from '../job/reading'
import { trim } from '../quantity/format'
import { atLeast, atMost } from '../quantity/tolerance'
import { type Phase, phases, type Test } from './tests'

/** `off`: measured, and not what was expected. `unknown`: not measured. Nothing here ever says "safe". */
export type Verdict = 'met' | 'off' | 'unknown'

export interface Judged {
  readonly test: Test
  readonly reading: Reading | null
  /** Earlier readings of the same test, newest first. */
  readonly earlier: readonly Reading[]
  readonly verdict: Verdict
  readonly message: string
}

export interface TestReport {
  readonly judged: readonly Judged[]
  readonly phase: Readonly<Record<Phase, { readonly open: boolean; readonly met: boolean; readonly why: string }>>
}

/** Judges one reading against what the design expects. */
export function judge(test: Test, reading: Reading | null): { verdict: Verdict; message: string } {
  if (reading === null) return { verdict: 'unknown', message: 'not measured' }
  const { expect } = test
  if (expect.kind === 'confirm') return reading.mark === 'yes' ? { verdict: 'met', message: 'done' } : { verdict: 'off', message: 'found wanting' }
  if (reading.mark === 'open') return { verdict: 'off', message: 'the meter shows an open circuit' }
  const { value } = reading
  if (value === null) return { verdict: 'unknown', message: 'no value' }
  if (reading.mark === 'over')
    return expect.max === null && (expect.min === null || atLeast(value, expect.min))
      ? { verdict: 'met', message: `more than ${trim(value, 2)} ${test.unit}` }
      : { verdict: 'off', message: `more than ${trim(value, 2)} ${test.unit} says too little` }
  if (expect.max !== null && !atMost(value, expect.max)) return { verdict: 'off', message: `above the expected ${trim(expect.max, 2)} ${test.unit}` }
  if (expect.min !== null && !atLeast(value, expect.min)) return { verdict: 'off', message: `below the expected ${trim(expect.min, 2)} ${test.unit}` }
  return { verdict: 'met', message: 'as expected' }
}

/** The readings of one circuit by test, newest first. */
export function readingsByTest(readings: readonly Reading[], circuit: string): Map<string, Reading[]> {
  const map = new Map<string, Reading[]>()
  for (const r of readings) if (r.circuit === circuit) map.set(r.test, [r, ...(map.get(r.test) ?? [])])
  return map
}

/**
 * Every test with its standing reading (the newest), and which phase may be entered.
 * Live steps stay shut until every isolation and dead test is met and nothing stops the job.
 */
export function judgeTests(tests: readonly Test[], readings: readonly Reading[], circuit: string, stop: string | null): TestReport {
  const byTest = readingsByTest(readings, circuit)
  const judged = tests.map((test): Judged => {
    const [reading = null, ...earlier] = byTest.get(test.id) ?? []
    return { test, reading, earlier, ...judge(test, reading) }
  })
  const missing = (phase: Phase) => judged.filter((j) => j.test.phase === phase && !j.test.optional && j.verdict !== 'met')
  const met = (phase: Phase) => tests.length > 0 && missing(phase).length === 0
  const shut = (before: Phase) => `${missing(before).length} of the ${before} steps ${missing(before).length === 1 ? 'is' : 'are'} not met: ${missing(before)[0]?.test.title ?? ''}`
  const gates = phases.map((phase, i) => {
    const blocking = phases.slice(0, i).find((p) => !met(p))
    const why = stop ?? (tests.length === 0 ? 'the circuit is not worked out yet' : blocking ? shut(blocking) : '')
    return [phase, { open: why === '', met: met(phase), why }] as const
  })
  return { judged, phase: Object.fromEntries(gates) as TestReport['phase'] }
}
