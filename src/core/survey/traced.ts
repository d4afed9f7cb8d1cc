import type { Finding } from '../base/finding'
import type { Installation } from '../installation/installation'
import type { Cable } from '../job/cable'
import type { ObservationRecord } from '../job/observation'
import { formatA } from '../base/format'
import { lruCache, once } from '../base/memory'
import { atMost } from '../base/tolerance'
import type { RegionId } from '../region/types'
import { clashInWords } from '../trace/contradictions'
import { deduce, trace } from '../trace/trace'
import type { Deduction, Observation, Trace, TraceInput, TraceTest } from '../trace/types'
import { placeNames, observationInWords } from './words'
import { worlds } from '../region/worlds'

/** What a test costs in trouble: a breaker is a walk, a box must be opened and its cables parted. A box opened already costs less. */
const EFFORT = { walk: 1, open: 2, part: 2, dig: 4 } as const
export type Goal = NonNullable<TraceInput['goal']>

export interface NextTest {
  readonly test: TraceTest
  readonly bits: number
  /** In walks to the board: what the test costs in trouble. */
  readonly effort: number
  /** Points that must not lose power and might: they are, or may be, on the way that is switched off for it. Put last. */
  readonly holds: readonly string[]
}

export interface WayLoad {
  readonly way: Traced['ways'][number]
  readonly points: readonly string[]
  readonly watts: number
  readonly amps: number
  /** Traced points whose load is not known. */
  readonly unknown: number
  /** Switched off and looked at: nothing hangs on it but its points. */
  readonly proved: boolean
  /** Proved, or reported by name what dies with it. */
  readonly said: boolean
}

/** What is on a way is not recorded. Points that are left over for it, since they die with no other, do not say what else does. */
export const isUnlooked = ({ way, said }: WayLoad): boolean => way.kind === 'circuit' && !said

/** What proves that points hang on a way. */
export const proofOf = ({ proved, said }: WayLoad): TracedCable['proof'] => (proved ? 'seen' : said ? 'told' : 'left-over')

export interface SurveyReport {
  readonly trace: Deduction
  /** Ids of the observations that count: not withdrawn, and seen by more than a non-contact detector. */
  readonly counted: readonly string[]
  /** Observations, by id, that cannot all be true. */
  readonly clash: { readonly ids: readonly string[]; readonly message: string } | null
  readonly loads: readonly WayLoad[]
  readonly untraced: number
  readonly findings: readonly Finding[]
  /** Observations made before a point was listed, with those points: they say nothing of it, and do not count until they do. */
  readonly incomplete: readonly { readonly id: string; readonly missing: readonly string[] }[]
  /** Ways that a non-contact detector alone pointed to, by point: a hint where to look, never a proof. */
  readonly suspected: Readonly<Record<string, readonly string[]>>
  /** Ways that were switched off and looked at: what they feed is proved, whatever their label says. */
  readonly proved: ReadonlySet<string>
}

/** The parts of the installation that tracing looks at. */
export type Traced = Pick<Installation, 'ways' | 'points' | 'standing' | 'observations'>

const surveys = lruCache<SurveyReport>()

/** What the survey tells: the trace so far and what is on each way. What to test next is asked apart, of `nextTests`. */
export const evaluateSurvey = once((job: Installation): SurveyReport =>
  surveys([job.region, job.observations, ...job.ways, ...job.standing, ...job.points], () => work(job, job.region)),
)

/** A way that feeds a board, or the building, is no root of points: with it off, other ways' points die too. */
const isRoot = (way: Traced['ways'][number]): boolean => way.kind === 'circuit' || way.kind === 'spare'
/** Points listed since an observation was made, or to be put in then and there now. */
function missingIn(survey: Traced, { seen, later }: ObservationRecord): string[] {
  if (seen.kind === 'cables' || later.length === 0) return []
  const there = new Set(survey.standing.map((p) => p.id))
  return later.filter((id) => there.has(id))
}

/** Whatever may count: not withdrawn, seen by more than a non-contact detector, of what is there. */
function worthCounting(survey: Traced): ObservationRecord[] {
  const roots = new Set(survey.ways.filter(isRoot).map((w) => w.id))
  const there = new Set(survey.standing.map((p) => p.id))
  return survey.observations.filter(
    (s) =>
      !s.withdrawn &&
      (s.seen.kind === 'breaker-off' || there.has(s.seen.point)) &&
      (s.instrument !== 'non-contact' || s.seen.kind === 'cables') &&
      (s.seen.kind !== 'breaker-off' || roots.has(s.seen.breaker)),
  )
}
/** What counts: an observation that says of every point whether it died. */
const countingOf = (survey: Traced): ObservationRecord[] => worthCounting(survey).filter((s) => missingIn(survey, s).length === 0)

/** What a non-contact detector alone said went dead with a way off. */
function suspicions(survey: Traced): Record<string, string[]> {
  const found: Record<string, string[]> = {}
  for (const { withdrawn, instrument, seen } of survey.observations)
    if (!withdrawn && instrument === 'non-contact' && seen.kind === 'breaker-off')
      for (const p of seen.dead) found[p] = [...new Set([...(found[p] ?? []), seen.breaker])]
  return found
}
/** What was seen, of the points that are there. */
function seenOf(survey: Traced, { seen }: ObservationRecord): Observation {
  if (seen.kind === 'cables') return seen
  const there = new Set(survey.standing.map((p) => p.id))
  return { ...seen, dead: seen.dead.filter((p) => there.has(p)) }
}
const inputOf = (survey: Traced, counting: readonly ObservationRecord[], goal: Goal | null): TraceInput => ({
  breakers: survey.ways.filter(isRoot).map((w) => w.id),
  points: survey.standing.map((p) => p.id),
  observations: counting.map((s) => seenOf(survey, s)),
  ...(goal ? { goal } : {}),
})

/** The next tests worth making, for everything or for one question alone. Heavy on large surveys: run it in a worker. */
export function nextTests(survey: Traced, goal: Goal | null): readonly NextTest[] {
  const counting = countingOf(survey)
  return rank(survey, counting, trace(inputOf(survey, counting, goal)))
}

export interface NextTestsAsked {
  readonly survey: Traced
  readonly goal: Goal | null
}
export const nextTestsOf = ({ survey, goal }: NextTestsAsked): readonly NextTest[] => nextTests(survey, goal)

export interface TracedCable {
  readonly point: string
  readonly from: { readonly kind: 'way' | 'point'; readonly id: string }
  readonly proof: NonNullable<Cable['proof']>
}

/**
 * The cables that the trace found: seen, where looking alone shows them; told, where a drawing does; left over, where their way was
 * never off.
 */
export const cablesTraced = once((survey: Installation): readonly TracedCable[] => {
  const { parents } = evaluateSurvey(survey).trace
  const looked = { ...survey, observations: survey.observations.filter((o) => o.instrument !== 'told') }
  const counting = countingOf(looked)
  const alone = deduce(inputOf(looked, counting, null))
  const off = new Set(counting.flatMap((s) => (s.seen.kind === 'breaker-off' ? [s.seen.breaker] : [])))
  const ways = new Set(survey.ways.map((w) => w.id))
  return Object.entries(parents).flatMap(([point, from]) => {
    if (from == null) return []
    const proof = alone.parents[point] !== from ? 'told' : off.has(alone.feeds[point] ?? '') ? 'seen' : 'left-over'
    return [{ point, from: { kind: ways.has(from) ? ('way' as const) : ('point' as const), id: from }, proof }]
  })
})

function work(survey: Traced, region: RegionId): SurveyReport {
  const counting = countingOf(survey)
  const result = deduce(inputOf(survey, counting, null))
  // Points on a board whose ways are not listed are not traced yet; no observation is to blame.
  const clashing = result.contradiction?.observations.map((i) => counting[i]!) ?? []
  const clash = clashing.length
    ? {
        ids: clashing.map((s) => s.id),
        message: clashInWords(
          clashing.map((s) => observationInWords(survey, s.seen)),
          result.contradiction!.smallest,
        ),
      }
    : null
  const off = counting.flatMap(({ seen, instrument }) => (seen.kind === 'breaker-off' ? [{ ...seen, told: instrument === 'told' }] : []))
  const proved = new Set(off.flatMap((o) => (o.told ? [] : [o.breaker])))
  // Without a point nothing was reported.
  const said = new Set(off.flatMap((o) => (o.told && o.dead.length === 0 ? [] : [o.breaker])))
  const loads = survey.ways.map((way) => ({
    ...loadOn(way, survey, result, region),
    proved: proved.has(way.id),
    said: said.has(way.id),
  }))
  const untraced = survey.standing.filter((p) => result.parents[p.id] === null).length
  return {
    trace: result,
    counted: counting.map((s) => s.id),
    clash,
    loads,
    untraced,
    incomplete: worthCounting(survey).flatMap((s) => {
      const missing = missingIn(survey, s)
      return missing.length ? [{ id: s.id, missing }] : []
    }),
    suspected: suspicions(survey),
    findings: [...findings(survey, region, loads, clash), ...takenOut(survey, result, region)],
    proved,
  }
}

/** Tests by what they tell for their trouble; those that may black out what must hold come last. */
function rank(survey: Traced, counting: readonly ObservationRecord[], { nextTests, feeds, candidates }: Trace): NextTest[] {
  const there = survey.standing
  const must = there.filter((p) => p.mustHold).map((p) => p.id)
  const tried = new Set(counting.flatMap((s) => (s.seen.kind === 'breaker-off' ? [s.seen.breaker] : [])))
  const opened = new Set(counting.flatMap((s) => (s.seen.kind === 'cables' ? [s.seen.point] : [])))
  const untried = survey.ways.filter((w) => isRoot(w) && !tried.has(w.id)).map((w) => w.id)
  const mayBeOn = (point: string): readonly string[] => (feeds[point] == null ? untried : [feeds[point]])
  const points = new Map(survey.standing.map((p) => [p.id, p]))
  const unsure = there.filter((p) => feeds[p.id] == null || candidates[p.id])
  const suspected = suspicions(survey)
  // What is likely orders equals and decides nothing: a detector's hint, a label that names a room still open, a box with open points
  // in its room.
  const likely = (test: TraceTest): number => {
    if (test.kind === 'disconnected')
      return unsure.filter((p) => p.id !== test.point && p.room !== '' && p.room === points.get(test.point)?.room).length
    const label = survey.ways.find((w) => w.id === test.breaker)?.label.toLowerCase() ?? ''
    return (
      unsure.filter((p) => suspected[p.id]?.includes(test.breaker)).length * 2 +
      unsure.filter((p) => p.room !== '' && label.includes(p.room.toLowerCase())).length
    )
  }
  const effortOf = (test: TraceTest): number => {
    if (test.kind === 'breaker-off') return EFFORT.walk
    const opening = opened.has(test.point) ? 0 : points.get(test.point)?.hidden ? EFFORT.dig : EFFORT.open
    return EFFORT.part + opening
  }
  return nextTests
    .map(({ test, bits }) => {
      const off = test.kind === 'breaker-off' ? [test.breaker] : mayBeOn(test.point)
      const holds = must.filter((p) => mayBeOn(p).some((w) => off.includes(w)))
      const effort = effortOf(test)
      return { test, bits, holds, effort, worth: bits / effort, likely: likely(test) }
    })
    .toSorted(
      (a, b) =>
        Number(a.holds.length > 0) - Number(b.holds.length > 0) ||
        (Math.abs(a.worth - b.worth) < 1e-6 ? b.likely - a.likely : b.worth - a.worth),
    )
    .map(({ test, bits, holds, effort }): NextTest => ({ test, bits, holds, effort }))
}

function loadOn(way: Traced['ways'][number], survey: Traced, { feeds }: Deduction, region: RegionId): Omit<WayLoad, 'proved' | 'said'> {
  const points = survey.points.filter((p) => feeds[p.id] === way.id)
  const watts = points.reduce((sum, p) => sum + (p.watts ?? 0), 0)
  const { lineV, splitPhase } = worlds[region]
  return {
    way,
    points: points.map((p) => p.id),
    watts,
    amps: watts / (lineV * (splitPhase ? way.poles : 1)),
    unknown: points.filter((p) => p.watts === null).length,
  }
}

/** What hangs on a point that is to be taken out: its feed ends there. */
function takenOut(survey: Traced, { parents }: Deduction, region: RegionId): Finding[] {
  const name = placeNames(survey)
  return survey.standing.flatMap((gone): Finding[] => {
    const beyond = gone.state === 'removed' ? survey.points.filter((p) => parents[p.id] === gone.id).map((p) => p.name) : []
    if (beyond.length === 0) return []
    const message =
      `${name(gone.id)} is taken out, and ${beyond.join(', ')} ${beyond.length === 1 ? 'is' : 'are'} fed through it. ` +
      'Join the cables there in a box that stays reachable under a blank cover, or feed it from elsewhere; then test the points downstream.'
    return [
      { rule: 'fed-through-what-goes', severity: 'warning', clause: worlds[region].cites.jointReached, message, about: `point:${gone.id}` },
    ]
  })
}

function findings(survey: Traced, region: RegionId, loads: readonly WayLoad[], clash: SurveyReport['clash']): Finding[] {
  const name = placeNames(survey)
  return [
    ...(clash
      ? [
          {
            rule: 'trace-contradiction',
            severity: 'error' as const,
            clause: 'What was seen',
            message: clash.message,
            about: `observation:${clash.ids.at(-1)}`,
          },
        ]
      : []),
    ...survey.points
      .filter((p) => p.condition === 'damaged')
      .map((p): Finding => ({
        rule: 'point-damaged',
        severity: 'error',
        clause: worlds[region].cites.damaged,
        message: `${name(p.id)} is damaged. Isolate it and put it right before anything is added to its circuit.`,
        about: `point:${p.id}`,
      })),
    ...survey.points
      .filter((p) => p.hidden)
      .map((p): Finding => ({
        rule: 'hidden-box',
        severity: 'warning',
        clause: worlds[region].cites.jointReached,
        message: `${name(p.id)} is hidden. Joints stay reachable: bring it to a blank cover, labelled, or take it out.`,
        about: `point:${p.id}`,
      })),
    ...loads
      .filter((l) => l.way.ratingA !== null && !atMost(l.amps, l.way.ratingA))
      .map((l): Finding => ({
        rule: 'way-overloaded',
        severity: 'warning',
        clause: worlds[region].cites.overload,
        message:
          `The loads on ${l.way.label} can draw ${formatA(l.amps)} at once; its breaker is ${l.way.ratingA} A. Move something to ` +
          'another circuit.',
        about: `way:${l.way.id}`,
      })),
  ]
}
