import { format, isSameDay } from 'date-fns'

/** A moment as people say it: the time today, else the date and time. */
export function formatWhen(iso: string, now = new Date()): string {
  const at = new Date(iso)
  return isSameDay(at, now) ? format(at, 'HH:mm') : format(at, 'd MMM yyyy, HH:mm')
}

export const formatDate = (iso: string): string => format(new Date(iso), 'd MMMM yyyy')
