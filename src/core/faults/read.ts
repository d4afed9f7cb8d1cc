import { inUnitOf, type Judged, type JudgedAt } from '../verify/judge'
import type { Read } from './diagnose'

const nominal = ({ test: { expect } }: JudgedAt): number => (expect.kind === 'range' ? (expect.nominal ?? 0) : 0)

/** The reading a fault is looked for by: of a loop read point by point that of the farthest; else the one that stands. */
function readingOf({ test, reading, points }: Pick<Judged, 'test' | 'reading' | 'points'>): Judged['reading'] {
  if (!points || test.unit !== 'Ω') return reading
  return points.toSorted((a, b) => nominal(b) - nominal(a))[0]?.reading ?? null
}

/** A reading that stands, as an instrument showed it in the unit of its test; none where nothing was read. */
export function readOf(judged: Pick<Judged, 'test' | 'reading' | 'points'>): Read[] {
  const { test } = judged
  const reading = readingOf(judged)
  if (!reading) return []
  if (reading.mark === 'yes' || reading.mark === 'no') return [{ test: test.id, shown: reading.mark }]
  if (reading.mark === 'open') return [{ test: test.id, shown: 'open' }]
  const value = inUnitOf(test, reading)
  return value == null ? [] : [{ test: test.id, shown: value }]
}
