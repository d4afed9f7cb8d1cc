import type { Installation } from '../installation/installation'
import { formatA, trim } from '../base/format'
import { atMost } from '../base/tolerance'
import type { SurveyReport } from './traced'
import { worlds } from '../region/worlds'

export interface PlugIn {
  readonly verdict: 'fits' | 'too-much' | 'unknown'
  readonly way: string | null
  readonly beforeA: number
  readonly afterA: number
  readonly limitA: number | null
  readonly message: string
}

/** Volts between line and neutral, at which an outlet is reckoned. */
const outletV = (job: Installation): number => worlds[job.region].lineV

/**
 * What would happen to a circuit if so much more were used at a point. Never "fits" while its breaker, its circuit or a
 * load on it is not known, or what is on it was not proved. NFPA 70 210.23, 210.20(A); BS 7671 433.1.
 */
export function plugIn(job: Installation, report: SurveyReport, point: string, watts: number, continuous: boolean): PlugIn {
  const feed = report.trace.feeds[point] ?? null
  const newA = watts / outletV(job)
  const load = report.loads.find((l) => l.way.id === feed)
  if (!load)
    return {
      verdict: 'unknown',
      way: null,
      beforeA: 0,
      afterA: newA,
      limitA: null,
      message: `Which breaker feeds this point is not known. It would add ${formatA(newA)}; trace it first.`,
    }
  const { way } = load
  const afterA = load.amps + newA
  const name = way.label
  if (way.ratingA === null)
    return {
      verdict: 'unknown',
      way: way.id,
      beforeA: load.amps,
      afterA,
      limitA: null,
      message: `${name} would carry ${formatA(afterA)}; the rating of its breaker was not read.`,
    }
  const limitA = continuous ? worlds[job.region].continuousShare * way.ratingA : way.ratingA
  const share =
    `${formatA(afterA)} of ` +
    `${formatA(limitA)}${limitA === way.ratingA ? '' : ` (80 % of ${formatA(way.ratingA)}, as it runs three hours or more)`}`
  const common = { way: way.id, beforeA: load.amps, afterA, limitA }
  if (!atMost(afterA, limitA))
    return {
      ...common,
      verdict: 'too-much',
      message: `${name} would carry ${share}: it trips once all of it is on. Use another circuit, or give it one of its own.`,
    }
  if (load.unknown > 0)
    return {
      ...common,
      verdict: 'unknown',
      message:
        `${name} would carry at least ${share}; what ${load.unknown} of its points draw is not known. Fill them in before trusting ` +
        'it.',
    }
  if (!load.proved)
    return {
      ...common,
      verdict: 'unknown',
      message: `${name} would carry at least ${share}; switch it off and check what else it feeds.`,
    }
  return { ...common, verdict: 'fits', message: `${name} would carry ${share}; ${trim(100 * (1 - afterA / limitA), 0)} % is left.` }
}
