import { OHM_TOLERANCE, type Test } from '../verify/tests'
import { asDesigned, type Difference, type Wiring } from '../meters/as-wired'
import type { Told } from '../base/told'
import { type Sign, signsOf } from './campaign'
import { gravestOf, madeAtEach, meets, type Shown, shownAt, shownBy } from '../meters/measure'
import { loadedAt, type Mistake, mistakesOf, ofEach } from './mistakes'

/** What was read of a test. */
export interface Read {
  readonly test: string
  readonly shown: Shown
  /** The point it was taken at; null: of the circuit as a whole, where the one farthest from what is expected counts. */
  readonly point?: string | null
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
   * The test that parts them best for the minutes it takes, at one point or as a whole (`point` null), dead before live, and live only once
   * every dead one is met; null where none that may be made parts them any further.
   */
  readonly next: { readonly test: string; readonly bits: number; readonly point: string | null } | null
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
/** A reading that may be taken: of a test as a whole, or at one point. */
export interface Question {
  readonly test: Test
  readonly point: string | null
  /** What each mistake shows, in the order of the hypotheses. */
  readonly shown: readonly Shown[]
  /** What it takes about. */
  readonly minutes: number
}
/** What is shown of each test by each mistake: worked out once, asked many times. */
export interface Known {
  readonly tests: readonly Test[]
  readonly hypotheses: readonly Hypothesis[]
  /** What stands for each test by each mistake. */
  readonly shown: readonly (readonly Shown[])[]
  readonly questions: readonly Question[]
  /** What each gives to be felt without an instrument. */
  readonly signs: readonly (readonly Sign[])[]
}
/** Minutes to set an instrument up, and to go to a place and read it. */
const SET_UP_MIN = 3
const EACH_MIN = 2
export function knownOf(w: Wiring, tests: readonly Test[], told?: Told): Known {
  const places = w.places.map((p) => p.id)
  const able = tests.filter((t) => shownBy(w, asDesigned, t, places) !== null)
  const pointsOf = able.map((t) => (madeAtEach(t.id) ? w.places.filter((p) => !p.joint && shownAt(w, asDesigned, t, p.id) !== null) : []))
  const mistakes = mistakesOf(w)
  const given = (d: Difference, loadAt: string) => {
    const each = able.map((t, i) => pointsOf[i]!.map((p) => shownAt(w, d, t, p.id) ?? 'open'))
    return {
      each,
      shown: able.map((t, i) => (pointsOf[i]!.length ? gravestOf(t, each[i]!) : shownBy(w, d, t, places))!),
      signs: signsOf(w, d, places, loadAt),
    }
  }
  const all = [given(asDesigned, places[0]!), ...ofEach(mistakes, (m) => given(m.difference, loadedAt(w, m)), told)]
  const questions = able.flatMap((test, i): Question[] => {
    const points = pointsOf[i]!
    const whole = { test, point: null, shown: all.map((x) => x.shown[i]!), minutes: SET_UP_MIN + EACH_MIN * Math.max(1, points.length) }
    if (points.length < 2) return [whole]
    const at = points.map((p, n) => ({ test, point: p.id, shown: all.map((x) => x.each[i]![n]!), minutes: SET_UP_MIN + EACH_MIN }))
    return [whole, ...at]
  })
  return {
    tests: able,
    questions,
    hypotheses: [
      { id: null, words: 'Nothing: it is wired as designed', prior: SOUND, difference: asDesigned },
      ...mistakes.map((m) => ({ id: m.id, words: m.words, prior: usual[m.kind], difference: m.difference })),
    ],
    shown: all.map((x) => x.shown),
    signs: all.map((x) => x.signs),
  }
}

/** The question that a reading answers; a point that is the only one of its test stands for the whole. */
export const questionOf = ({ questions }: Pick<Known, 'questions'>, r: Read): Question | undefined =>
  questions.find((q) => q.test.id === r.test && q.point === (r.point ?? null)) ??
  (questions.some((q) => q.test.id === r.test && q.point !== null) ? undefined : questions.find((q) => q.test.id === r.test))

/**
 * Bayesian update over single-fault hypotheses: prior by how common each mistake is, likelihood by how well each reading fits; the next
 * reading is the one with the most expected information (bits) for each minute it takes.
 */
export function diagnose(known: Known, reads: readonly Read[], complaints: readonly Sign[] = []): Diagnosis {
  const { hypotheses, signs } = known
  const used = reads.flatMap((r): Used[] => {
    const question = questionOf(known, r)
    return question ? [{ question, shown: r.shown }] : []
  })
  // A complaint is a reading without an instrument, and less sure than one; each of several counts for itself.
  const heard = (k: number): number => complaints.reduce((p, c) => (signs[k]!.includes(c) ? p : p * UNHEARD), 1)
  const likely = hypotheses.map((_, k) => used.reduce((p, r) => p * fits(r.shown, r.question.shown[k]!), heard(k)))
  const weight = hypotheses.map((h, k) => h.prior * likely[k]!)
  const sum = weight.reduce((a, b) => a + b, 0)
  const belief = weight.map((x) => (sum > 0 ? ((1 - TWO_AT_ONCE) * x) / sum : 0))
  const causes = hypotheses
    .map((h, k) => ({ id: h.id, words: h.words, belief: belief[k]! }))
    .filter((c) => c.belief > 0.001)
    .toSorted((a, b) => b.belief - a.belief)
  const best = Math.max(...likely)
  return { causes, next: nextTest(known, belief, used), several: used.length > 0 && best < 10 * UNLIKELY }
}

interface Used {
  readonly question: Question
  readonly shown: Shown
}
/** A test is made once it was read as a whole, or at every one of its points. */
function madeOf({ questions }: Pick<Known, 'questions'>, test: Test, used: readonly Used[]): boolean {
  const own = questions.filter((q) => q.test === test)
  const read = (q: Question) => used.some((u) => u.question === q)
  return own.some((q) => q.point === null && read(q)) || (own.length > 1 && own.every((q) => q.point === null || read(q)))
}
/** Whether live tests may be made: every dead one was, and is met. */
const maySwitchOn = (known: Pick<Known, 'tests' | 'questions'>, used: readonly Used[]): boolean =>
  known.tests.every((t) => t.phase !== 'dead' || madeOf(known, t, used)) && !used.some(isOffDead)
const isOffDead = ({ question, shown }: Used): boolean => question.test.phase === 'dead' && !metAt(question, shown)
/** Whether a reading is as expected where it was taken: nearer the board a loop is less than at the farthest point. */
export function metAt({ test, point, shown: [sound] }: Question, shown: Shown): boolean {
  if (point === null || test.unit !== 'Ω' || typeof shown !== 'number' || typeof sound !== 'number') return meets(test, shown)
  return Math.abs(shown - sound) <= OHM_TOLERANCE.fixed + OHM_TOLERANCE.part * sound
}

/** Live tests stay shut while a dead one is not made, or is off. */
export const liveShut = (known: Pick<Known, 'tests' | 'questions'>, reads: readonly Read[]): boolean =>
  !maySwitchOn(
    known,
    reads.flatMap((r) => {
      const question = questionOf(known, r)
      return question ? [{ question, shown: r.shown }] : []
    }),
  )

function nextTest(known: Known, belief: readonly number[], used: readonly Used[]): Diagnosis['next'] {
  const bitsOf = ({ shown }: Question): number => {
    const answers = new Map<string, number>()
    for (const [k, b] of belief.entries()) answers.set(answerOf(shown[k]!), (answers.get(answerOf(shown[k]!)) ?? 0) + b)
    return [...answers.values()].reduce((n, p) => (p > 0 ? n - p * Math.log2(p) : n), 0)
  }
  const left = known.questions
    .filter((q) => !used.some((u) => u.question === q))
    .map((q) => ({ test: q.test.id, point: q.point, phase: q.test.phase, bits: bitsOf(q), minutes: q.minutes, whole: q.test }))
  const best = (list: typeof left) => list.toSorted((a, b) => b.bits / b.minutes - a.bits / a.minutes)[0]
  const asked = (q: (typeof left)[number]) => ({ test: q.test, bits: q.bits, point: q.point })
  const dead = best(left.filter((q) => q.phase === 'dead'))
  if (dead && dead.bits > LEAST_BITS) return asked(dead)
  if (!maySwitchOn(known, used)) {
    // What is off dead is put right dead. What was not made yet, and must be before power, is made though it tells little.
    const due = best(left.filter((q) => q.phase === 'dead' && q.point === null && !madeOf(known, q.whole, used)))
    return due && !used.some(isOffDead) ? asked(due) : null
  }
  const live = best(left.filter((q) => q.phase !== 'dead'))
  return live && live.bits > LEAST_BITS ? asked(live) : null
}
/** Less than this is no news. */
const LEAST_BITS = 0.01
