import dayjs from 'dayjs'

/** A moment as people say it: the time today, else the date and time. */
export function formatWhen(iso: string, now = new Date()): string {
  const at = dayjs(iso)
  return at.format(at.isSame(now, 'day') ? 'HH:mm' : 'D MMM YYYY, HH:mm')
}

export const formatDate = (iso: string): string => dayjs(iso).format('D MMMM YYYY')
