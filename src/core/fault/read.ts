import type { Judged } from '../record/judge'
import type { Read } from './diagnose'

/** A reading that stands, as an instrument showed it; none where nothing was read. */
export function readOf({ test, reading }: Pick<Judged, 'test' | 'reading'>): Read[] {
  if (!reading) return []
  if (reading.mark === 'yes' || reading.mark === 'no') return [{ test: test.id, shown: reading.mark }]
  if (reading.mark === 'open') return [{ test: test.id, shown: 'open' }]
  return reading.value === null ? [] : [{ test: test.id, shown: reading.value }]
}
