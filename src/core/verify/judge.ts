import { listed } from '../base/finding'
import { grouped } from '../base/grouped'
import type { Reading } from '../job/reading'
import { trim } from '../base/format'
import { atLeast, atMost } from '../base/tolerance'
import { outdated } from './taken-on'
import type { Phase, Test, TestPoint } from './tests'

/** `off`: measured, and not what was expected. `unknown`: not measured. Nothing here ever says "safe". */
export type Verdict = 'met' | 'off' | 'unknown'

export interface Judged {
  readonly test: Test
  readonly reading: Reading | null
  /** Earlier readings of the same test, newest first. */
  readonly earlier: readonly Reading[]
  readonly verdict: Verdict
  readonly message: string
  /** Point by point, where a reading names one; `reading` is then the gravest of those that count. */
  readonly points?: readonly JudgedAt[]
}
/** A test at one of its points, judged by what is expected there. */
export interface JudgedAt extends Pick<Judged, 'test' | 'reading' | 'verdict' | 'message'> {
  readonly id: string
  readonly name: string
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
  if (expect.kind === 'confirm') return reading.mark === 'yes' ? { verdict: 'met', message: 'done' } : { verdict: 'off', message: 'failed' }
  if (expect.kind === 'unknown') return { verdict: 'unknown', message: `kept, not judged: ${expect.ask} is not known` }
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
  // Of two taken at one time the one that arrived last counts first.
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

type Standing = Pick<Judged, 'verdict' | 'message'>
/** A reading judged by what is expected and by what is there now. */
function judgeNow(test: Test, reading: Reading | null, now: Reading['on']): Standing {
  const stale = reading && now ? outdated(reading, test.phase, now) : null
  const judgement = judge(test, reading)
  // What was found wanting stays so until it is measured again; only what passed must have passed on what is there.
  return stale && judgement.verdict === 'met' ? { verdict: 'unknown', message: stale } : judgement
}

const gravest: readonly Verdict[] = ['off', 'unknown', 'met']
/**
 * A test made point by point: at each its own newest reading counts, or a later one for all. It is met when it is at every point. Of
 * readings that are equally grave the highest is the one that is shown.
 */
function judgePoints(test: Test, at: readonly TestPoint[], taken: readonly Reading[], now: Reading['on']): Judged {
  const whole = taken.findIndex((r) => r.point === null)
  const since = whole < 0 ? taken : taken.slice(0, whole)
  const points = at.map((p): JudgedAt => {
    const own = since.find((r) => r.point === p.id)
    const reading = own ?? taken[whole] ?? null
    const here = reading && !own ? test : { ...test, expect: p.expect }
    return { id: p.id, name: p.name, test: here, reading, ...judgeNow(here, reading, now) }
  })
  const verdict = gravest.find((v) => points.some((p) => p.verdict === v))!
  const those = points.filter((p) => p.verdict === verdict)
  const unread = those.filter((p) => p.reading === null)
  const high = (p: JudgedAt) => (p.reading && (inUnitOf(test, p.reading) ?? 0)) ?? -1
  const shown = (those.length > unread.length ? those : points).toSorted((a, b) => high(b) - high(a))[0]!
  const standing = new Set(points.map((p) => p.reading))
  return {
    test,
    reading: shown.reading,
    earlier: taken.filter((r) => !standing.has(r)),
    verdict,
    message:
      verdict === 'met'
        ? shown.message
        : unread.length && unread.length === those.length
          ? `not measured at ${listed(unread.map((p) => p.name))}`
          : `at ${shown.name} ${shown.message}`,
    points,
  }
}

/** Where readings of a circuit may have been taken, and the points that a test of it is made at. */
export interface Pointwise {
  readonly places: ReadonlySet<string> | null
  readonly pointsOf: (test: Test) => readonly TestPoint[]
}
const whole: Pointwise = { places: null, pointsOf: () => [] }

/**
 * Every test with its standing reading (the newest), and which phase may be entered.
 * Live steps stay shut until every isolation and dead test is met and nothing stops the job. A reading that was taken on
 * another way, or before cable or wiring was changed (`now` is what is there), does not count; nor does one taken at a point that is
 * none of the circuit’s.
 */
export function judgeTests(
  tests: readonly Test[],
  readings: readonly Reading[],
  circuit: string,
  stop: string | null,
  now: Reading['on'] = null,
  { places, pointsOf }: Pointwise = whole,
): TestReport {
  const there = places ? readings.filter((r) => r.point === null || places.has(r.point)) : readings
  const byTest = there.length ? readingsByTest(there, circuit) : null
  const judged = tests.map((test): Judged => {
    const taken = byTest?.get(test.id)
    if (!taken) return unread(test)
    const at = taken.some((r) => r.point !== null) ? pointsOf(test) : []
    if (at.length > 0) return judgePoints(test, at, taken, now)
    const [reading = null, ...earlier] = taken
    return { test, reading, earlier, ...judgeNow(test, reading, now) }
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
