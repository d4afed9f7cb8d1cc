import { grouped } from '../grouped'
import type { Reading } from '../job/reading'
import { trim } from '../quantity/format'
import { atLeast, atMost } from '../tolerance'
import { outdated } from './taken-on'
import type { Phase, Test } from './tests'

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

const scales: readonly Readonly<Record<string, number>>[] = [
  { mΩ: 1e-3, Ω: 1, ohm: 1, kΩ: 1e3, MΩ: 1e6, GΩ: 1e9 },
  { mV: 1e-3, V: 1, kV: 1e3 },
  { mA: 1e-3, A: 1 },
  { ms: 1, s: 1000 },
]

/**
 * The value in the unit of its test; undefined where its own unit is of something else. A reading without a unit is in that of the
 * test.
 */
export function inUnitOf({ unit }: Pick<Test, 'unit'>, reading: Pick<Reading, 'value' | 'unit'>): number | null | undefined {
  if (reading.value === null || reading.unit === '' || reading.unit === unit) return reading.value
  const scale = scales.find((x) => x[unit] !== undefined)
  const from = scale?.[reading.unit]
  return from === undefined ? undefined : (reading.value * from) / scale![unit]!
}

/** Judges one reading against what the design expects. */
export function judge(test: Test, reading: Reading | null): { verdict: Verdict; message: string } {
  if (reading === null) return notMeasured
  const { expect } = test
  if (expect.kind === 'confirm')
    return reading.mark === 'yes' ? { verdict: 'met', message: 'done' } : { verdict: 'off', message: 'found wanting' }
  if (reading.mark === 'open') return { verdict: 'off', message: 'the meter shows an open circuit' }
  const value = inUnitOf(test, reading)
  if (value === null) return { verdict: 'unknown', message: 'no value' }
  if (value === undefined) return { verdict: 'off', message: `recorded in ${reading.unit}, which is no unit of this test (${test.unit})` }
  if (reading.mark === 'over')
    return expect.max === null && (expect.min === null || atLeast(value, expect.min))
      ? { verdict: 'met', message: `more than ${trim(value, 2)} ${test.unit}` }
      : { verdict: 'off', message: `more than ${trim(value, 2)} ${test.unit} says too little` }
  if (expect.max !== null && !atMost(value, expect.max))
    return { verdict: 'off', message: `above the expected ${trim(expect.max, 2)} ${test.unit}` }
  if (expect.min !== null && !atLeast(value, expect.min))
    return { verdict: 'off', message: `below the expected ${trim(expect.min, 2)} ${test.unit}` }
  return { verdict: 'met', message: 'as expected' }
}

/** The readings of one circuit by test, the one taken last first, whenever it arrived. */
export function readingsByTest(readings: readonly Reading[], circuit: string): ReadonlyMap<string, readonly Reading[]> {
  // Of two taken at one time the one that arrived last stands first.
  const own = readings.filter((r) => r.circuit === circuit).toReversed()
  return grouped(
    own.toSorted((a, b) => Date.parse(b.at) - Date.parse(a.at)),
    (r) => r.test,
  )
}

const notMeasured = { verdict: 'unknown', message: 'not measured' } as const
const noneEarlier: readonly Reading[] = []
/** A test that nobody made yet. */
const unread = (test: Test): Judged => ({
  test,
  reading: null,
  earlier: noneEarlier,
  verdict: notMeasured.verdict,
  message: notMeasured.message,
})

/**
 * Every test with its standing reading (the newest), and which phase may be entered.
 * Live steps stay shut until every isolation and dead test is met and nothing stops the job. A reading that was taken on
 * another way, or before cable or wiring was changed (`now` is what is there), does not stand.
 */
export function judgeTests(
  tests: readonly Test[],
  readings: readonly Reading[],
  circuit: string,
  stop: string | null,
  now: Reading['on'] = null,
): TestReport {
  const byTest = readings.length ? readingsByTest(readings, circuit) : null
  const judged = tests.map((test): Judged => {
    if (!byTest?.has(test.id)) return unread(test)
    const [reading = null, ...earlier] = byTest.get(test.id) ?? []
    const stale = reading && now ? outdated(reading, test.phase, now) : null
    const judgement = judge(test, reading)
    // What was found wanting stays so until it is measured again; only what passed must have passed on what is there.
    return {
      test,
      reading,
      earlier,
      ...(stale && judgement.verdict === 'met' ? { verdict: 'unknown' as const, message: stale } : judgement),
    }
  })
  const left: Record<Phase, Judged[]> = { isolation: [], dead: [], live: [] }
  for (const j of judged) if (!j.test.optional && j.verdict !== 'met') left[j.test.phase].push(j)
  const shut = (before: Phase) =>
    `${left[before].length} of the ${before} steps ${left[before].length === 1 ? 'is' : 'are'} not met: ` +
    `${left[before][0]?.test.title ?? ''}`
  let why = stop ?? (tests.length === 0 ? 'the circuit is not worked out yet' : '')
  const gate = (phase: Phase) => {
    const made = { open: why === '', met: tests.length > 0 && left[phase].length === 0, why }
    // What is not met shuts all that comes after it.
    if (why === '' && !made.met) why = shut(phase)
    return made
  }
  return { judged, phase: { isolation: gate('isolation'), dead: gate('dead'), live: gate('live') } }
}
