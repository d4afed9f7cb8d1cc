import { createEvents, type DateArray } from 'ics'
import type { DueRow } from '@/core/job/due'

/** What is due again as a calendar, each on its whole day. */
export function dueCalendar(rows: readonly DueRow[]): string {
  const { error, value } = createEvents(
    rows.map(({ job, title, place, what, on }, i) => ({
      uid: `due-${job}-${i}@synthema`,
      title: `${what}: ${title}`,
      location: place,
      start: on.split('-').map(Number) as unknown as DateArray,
      duration: { days: 1 },
      productId: 'synthema',
    })),
  )
  if (error || value == null) throw error ?? new Error('The calendar could not be written.')
  return value
}
