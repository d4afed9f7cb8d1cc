import type { Test } from '../verify/tests'
import { asDesigned, type Difference, type Wiring } from '../meters/as-wired'
import type { Told } from '../base/told'
import { type Sign, signsOf } from './campaign'
import { meets, type Shown, shownBy } from '../meters/measure'
import { loadedAt, type Mistake, mistakesOf, ofEach } from './mistakes'

/** What was read of a test. */
export interface Read {
  readonly test: string
  readonly shown: Shown
}
export interface Cause {
  /** Null: nothing is wrong with the wiring. */
  readonly id: string | null
  readonly words: string
  /** Part of all belief, from 0 to 1; a little is always left for two mistakes at once. */
  readonly belief: number
}
export interface Diagnosis {
  readonly causes: readonly Cause[]
  /**
   * The test that parts them best for the minutes it takes, dead before live, and live only once every dead one is met; null where none is
   * to be made.
   */
  readonly next: { readonly test: string; readonly bits: number } | null
  /** No single mistake explains the readings: two at once are likelier. */
  readonly several: boolean
}

/** Part of a reading, and ohms or volts, by which it may be off. */
const OFF = { part: 0.1, fixed: 0.08 }
const UNLIKELY = 1e-4
/** That somebody complains of what a mistake does not do. */
const UNHEARD = 0.02
/** How usual each mistake is beside another. */
const usual: Readonly<Record<Mistake['kind'], number>> = {
  swapped: 1,
  misplaced: 0.8,
  open: 1.5,
  loose: 1.2,
  touching: 0.8,
  reversed: 1,
  'tab-out': 0.8,
  'joined-neutral': 0.8,
  'line-load': 1,
  'wrong-bar': 1,
  'no-bond': 0.7,
}
const SOUND = 1
/** That two mistakes at once make the readings of one: so much is never given to any one. */
const TWO_AT_ONCE = 0.03

/** How well a reading fits what would be shown, from nearly nothing to one. */
export function fits(read: Shown, expected: Shown): number {
  if (typeof read !== 'number' || typeof expected !== 'number') return read === expected ? 1 : UNLIKELY
  // An insulation tester that counts no further shows as much as one that does.
  if (read >= 100 && expected >= 100) return 1
  const spread = OFF.fixed + OFF.part * Math.abs(expected)
  const far = Math.abs(read - expected) / spread
  return Math.max(UNLIKELY, Math.exp(-0.5 * far * far))
}

/** Two readings that nobody could tell from each other are one answer. */
function answerOf(shown: Shown): string {
  if (typeof shown !== 'number') return shown
  if (shown >= 100) return `${Math.round(shown / 40)} tens`
  return shown < 0.02 ? '0' : String(Math.round(Math.log(shown) / Math.log(1.35)))
}

interface Hypothesis {
  readonly id: string | null
  readonly words: string
  readonly prior: number
  readonly difference: Difference
}
/** What is shown of each test by each mistake: worked out once, asked many times. */
export interface Known {
  readonly tests: readonly Test[]
  readonly hypotheses: readonly Hypothesis[]
  readonly shown: readonly (readonly Shown[])[]
  /** Minutes that each test takes about. */
  readonly minutes: readonly number[]
  /** What each gives to be felt without an instrument. */
  readonly signs: readonly (readonly Sign[])[]
}
/** Minutes to set an instrument up, and to go to a place and read it. */
const SET_UP_MIN = 3
const EACH_MIN = 2
/** Whether a test is made at every point, and not at the board or at one point alone. */
const atEachPlace = (id: string): boolean =>
  ['continuity-protective', 'polarity', 'zs', 'extra-neutral-lifted', 'extra-loaded-fall', 'residual-button'].includes(id) ||
  id.startsWith('live-')
export function knownOf(w: Wiring, tests: readonly Test[], told?: Told): Known {
  const places = w.places.map((p) => p.id)
  const able = tests.filter((t) => shownBy(w, asDesigned, t, places) !== null)
  const mistakes = mistakesOf(w)
  const given = (d: Difference, loadAt: string) => ({
    shown: able.map((t) => shownBy(w, d, t, places)!),
    signs: signsOf(w, d, places, loadAt),
  })
  const all = [given(asDesigned, places[0]!), ...ofEach(mistakes, (m) => given(m.difference, loadedAt(w, m)), told)]
  return {
    tests: able,
    minutes: able.map((t) => SET_UP_MIN + EACH_MIN * (atEachPlace(t.id) ? places.length : 1)),
    hypotheses: [
      { id: null, words: 'Nothing: it is wired as designed', prior: SOUND, difference: asDesigned },
      ...mistakes.map((m) => ({ id: m.id, words: m.words, prior: usual[m.kind], difference: m.difference })),
    ],
    shown: all.map((x) => x.shown),
    signs: all.map((x) => x.signs),
  }
}

/** Which mistakes explain all that was read, and what to measure next. */
export function diagnose(
  { tests, hypotheses, shown, signs, minutes }: Known,
  reads: readonly Read[],
  complaints: readonly Sign[] = [],
): Diagnosis {
  const at = new Map(tests.map((t, i) => [t.id, i]))
  const used = reads.flatMap((r) => (at.has(r.test) ? [{ i: at.get(r.test)!, shown: r.shown }] : []))
  // A complaint is a reading without an instrument, and less sure than one; each of several counts for itself.
  const heard = (k: number): number => complaints.reduce((p, c) => (signs[k]!.includes(c) ? p : p * UNHEARD), 1)
  const likely = hypotheses.map((_, k) => used.reduce((p, r) => p * fits(r.shown, shown[k]![r.i]!), heard(k)))
  const weight = hypotheses.map((h, k) => h.prior * likely[k]!)
  const sum = weight.reduce((a, b) => a + b, 0)
  const belief = weight.map((x) => (sum > 0 ? ((1 - TWO_AT_ONCE) * x) / sum : 0))
  const causes = hypotheses
    .map((h, k) => ({ id: h.id, words: h.words, belief: belief[k]! }))
    .filter((c) => c.belief > 0.001)
    .toSorted((a, b) => b.belief - a.belief)
  const best = Math.max(...likely)
  return { causes, next: nextTest(tests, shown, minutes, belief, used), several: used.length > 0 && best < 10 * UNLIKELY }
}

interface Used {
  readonly i: number
  readonly shown: Shown
}
/** Whether live tests may be made: every dead one was, and is met. */
const maySwitchOn = (tests: readonly Test[], used: readonly Used[]): boolean =>
  tests.every((t, i) => t.phase !== 'dead' || used.some((u) => u.i === i && meets(t, u.shown)))

/** Live tests stay shut while a dead one is not made, or is off. */
export const liveShut = ({ tests }: Pick<Known, 'tests'>, reads: readonly Read[]): boolean =>
  !maySwitchOn(
    tests,
    reads.flatMap((r) => {
      const i = tests.findIndex((t) => t.id === r.test)
      return i < 0 ? [] : [{ i, shown: r.shown }]
    }),
  )

function nextTest(
  tests: readonly Test[],
  shown: Known['shown'],
  minutes: readonly number[],
  belief: readonly number[],
  used: readonly Used[],
): Diagnosis['next'] {
  const bitsOf = (i: number): number => {
    const answers = new Map<string, number>()
    for (const [k, b] of belief.entries()) answers.set(answerOf(shown[k]![i]!), (answers.get(answerOf(shown[k]![i]!)) ?? 0) + b)
    return [...answers.values()].reduce((n, p) => (p > 0 ? n - p * Math.log2(p) : n), 0)
  }
  const left = tests.flatMap((t, i) =>
    used.some((u) => u.i === i) ? [] : [{ test: t.id, phase: t.phase, bits: bitsOf(i), minutes: minutes[i]! }],
  )
  const best = (list: typeof left) => list.toSorted((a, b) => b.bits / b.minutes - a.bits / a.minutes)[0]
  const dead = best(left.filter((t) => t.phase === 'dead'))
  if (dead && dead.bits > LEAST_BITS) return { test: dead.test, bits: dead.bits }
  if (!maySwitchOn(tests, used)) {
    // What is off dead is put right dead. What was not made yet, and must be before power, is made though it tells little.
    const off = used.some((u) => tests[u.i]!.phase === 'dead' && !meets(tests[u.i]!, u.shown))
    return dead && !off ? { test: dead.test, bits: dead.bits } : null
  }
  const live = best(left)
  return live && live.bits > LEAST_BITS ? { test: live.test, bits: live.bits } : null
}
/** Less than this is no news. */
const LEAST_BITS = 0.01
