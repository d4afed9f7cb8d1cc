import type { Finding } from '../finding'
import type { Job, Sighting, Survey } from '../job/schema'
import { formatA } from '../quantity/format'
import { atMost } from '../quantity/tolerance'
import type { RegionId } from '../region/types'
import { trace } from './trace'
import type { Trace, TraceTest } from './types'
import { placeNames, sightingInWords } from './words'

/** What a test costs in trouble: a breaker is a walk, a box must be opened and its cables parted. */
const EFFORT: Record<TraceTest['kind'], number> = { 'breaker-off': 1, disconnected: 4 }

export interface NextTest {
  readonly test: TraceTest
  readonly bits: number
  /** Points that must not lose power and might: they are, or may be, on the way that is switched off for it. Put last. */
  readonly holds: readonly string[]
}

export interface WayLoad {
  readonly way: Survey['ways'][number]
  readonly points: readonly string[]
  readonly watts: number
  readonly amps: number
  /** Traced points whose load is not known. */
  readonly unknown: number
}

export interface SurveyReport {
  readonly trace: Trace
  /** Ids of the observations that count: not withdrawn, and seen by more than a non-contact detector. */
  readonly counted: readonly string[]
  readonly next: readonly NextTest[]
  /** Observations, by id, that cannot all be true. */
  readonly clash: { readonly ids: readonly string[]; readonly message: string } | null
  readonly loads: readonly WayLoad[]
  readonly untraced: number
  readonly findings: readonly Finding[]
}

const lineV: Record<RegionId, number> = { 'north-america': 120, 'united-kingdom': 230, 'southern-africa': 230 }
const hiddenClause: Record<RegionId, string> = { 'north-america': '314.29', 'united-kingdom': '526.3', 'southern-africa': 'SANS 10142-1 accessibility of joints' }
const overloadClause: Record<RegionId, string> = { 'north-america': '210.23; 220.18', 'united-kingdom': '433.1', 'southern-africa': 'SANS 10142-1 overload protection' }

const remembered = new WeakMap<Survey, Map<RegionId, SurveyReport>>()

/** What the survey tells: the trace so far, the next test worth its trouble, what hangs on each way. */
export function evaluateSurvey(job: Job): SurveyReport {
  const known = remembered.get(job.survey) ?? new Map<RegionId, SurveyReport>()
  remembered.set(job.survey, known)
  const hit = known.get(job.region)
  if (hit) return hit
  const report = work(job.survey, job.region)
  known.set(job.region, report)
  return report
}

function work(survey: Survey, region: RegionId): SurveyReport {
  const counting = survey.sightings.filter((s) => !s.withdrawn && (s.instrument !== 'non-contact' || s.seen.kind === 'cables'))
  const result = trace({ breakers: survey.ways.map((w) => w.id), points: survey.points.map((p) => p.id), observations: counting.map((s) => s.seen) })
  const clashing = result.contradictions[0]?.observations.map((i) => counting[i]!)
  const clash = clashing ? { ids: clashing.map((s) => s.id), message: `These cannot all be true: ${clashing.map((s) => sightingInWords(survey, s.seen)).join('; ')}. Do one again, or withdraw it.` } : null
  const loads = survey.ways.map((way) => loadOn(way, survey, result, region))
  const untraced = survey.points.filter((p) => result.parents[p.id] === null).length
  return { trace: result, counted: counting.map((s) => s.id), next: rank(survey, counting, result), clash, loads, untraced, findings: findings(survey, region, loads, clash) }
}

/** Tests by what they tell for their trouble; those that may black out what must hold come last. */
function rank(survey: Survey, counting: readonly Sighting[], { nextTests, feeds }: Trace): NextTest[] {
  const must = survey.points.filter((p) => p.mustHold).map((p) => p.id)
  const tried = new Set(counting.flatMap((s) => (s.seen.kind === 'breaker-off' ? [s.seen.breaker] : [])))
  const untried = survey.ways.filter((w) => !tried.has(w.id)).map((w) => w.id)
  const mayBeOn = (point: string): readonly string[] => (feeds[point] == null ? untried : [feeds[point]])
  return nextTests
    .map(({ test, bits }): NextTest => {
      const off = test.kind === 'breaker-off' ? [test.breaker] : mayBeOn(test.point)
      const holds = must.filter((p) => mayBeOn(p).some((w) => off.includes(w)))
      return { test, bits, holds }
    })
    .toSorted((a, b) => Number(a.holds.length > 0) - Number(b.holds.length > 0) || b.bits / EFFORT[b.test.kind] - a.bits / EFFORT[a.test.kind])
}

function loadOn(way: Survey['ways'][number], survey: Survey, { feeds }: Trace, region: RegionId): WayLoad {
  const points = survey.points.filter((p) => feeds[p.id] === way.id)
  const watts = points.reduce((sum, p) => sum + (p.watts ?? 0), 0)
  return { way, points: points.map((p) => p.id), watts, amps: watts / lineV[region], unknown: points.filter((p) => p.watts === null).length }
}

function findings(survey: Survey, region: RegionId, loads: readonly WayLoad[], clash: SurveyReport['clash']): Finding[] {
  const name = placeNames(survey)
  return [
    ...(clash ? [{ rule: 'trace-contradiction', severity: 'error' as const, clause: 'What was seen', message: clash.message }] : []),
    ...survey.points.filter((p) => p.hidden).map((p): Finding => ({ rule: 'hidden-box', severity: 'warning', clause: hiddenClause[region], message: `${name(p.id)} is hidden. Joints stay reachable: bring it to a blank cover, labelled, or take it out.` })),
    ...loads
      .filter((l) => l.way.ratingA !== null && !atMost(l.amps, l.way.ratingA))
      .map((l): Finding => ({ rule: 'way-overloaded', severity: 'warning', clause: overloadClause[region], message: `What hangs on ${l.way.label} can draw ${formatA(l.amps)} at once; its breaker is ${l.way.ratingA} A. Move something to another circuit.` })),
  ]
}
