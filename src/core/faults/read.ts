import { inUnitOf, type Judged, type JudgedAt } from '../verify/judge'
import type { Read } from './diagnose'

/** One reading as an instrument showed it, in the unit of its test; undefined where it shows none. */
function shownOf({ test, reading }: Pick<Judged, 'test' | 'reading'>): Read['shown'] | undefined {
  if (!reading) return undefined
  if (reading.mark === 'yes' || reading.mark === 'no' || reading.mark === 'open') return reading.mark
  return inUnitOf(test, reading) ?? undefined
}

/** The readings of a test that are still valid: point by point each with its point, and the one for all where that still holds. */
export function readOf(judged: Pick<Judged, 'test' | 'reading' | 'points'>): Read[] {
  const { test, points } = judged
  const standing: readonly Pick<JudgedAt, 'test' | 'reading'>[] = points ?? [judged]
  return [...new Map(standing.map((j) => [j.reading, j])).values()].flatMap((j) => {
    const shown = shownOf(j)
    return shown === undefined ? [] : [{ test: test.id, shown, point: j.reading?.point ?? null }]
  })
}
