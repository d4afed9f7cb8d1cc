import dayjs from 'dayjs'
import { getTimes } from 'suncalc'
import type { DayRecord } from '../job/day'
import type { Placed } from './plan'

/** When it is light by the clock of the place, in minutes after midnight; where it stays dark all day both are noon. */
export interface Daylight {
  readonly fromMin: number
  readonly untilMin: number
}

const minuteOf = (d: Date): number => d.getHours() * 60 + d.getMinutes()

/** From the rising to the setting of the sun on the date and at the place of a job; null where one of them was not said. */
export function daylightOn({ date, place }: Pick<DayRecord, 'date' | 'place'>): Daylight | null {
  if (date === null || place?.north == null || place.east === null) return null
  const noon = dayjs(`${date}T12:00:00`).toDate()
  const { sunrise, sunset, alwaysUp } = getTimes(noon, place.north, place.east)
  if (!sunrise || !sunset) return alwaysUp ? { fromMin: 0, untilMin: 1440 } : { fromMin: 720, untilMin: 720 }
  return { fromMin: minuteOf(sunrise), untilMin: minuteOf(sunset) }
}

/** Work under the open sky that falls in the dark; by the clock of its own day. */
export const inTheDark = (placed: readonly Placed[], light: Daylight | null): readonly Placed[] =>
  light === null ? [] : placed.filter((p) => p.task.outside && (p.startMin < light.fromMin || p.endMin > light.untilMin))
