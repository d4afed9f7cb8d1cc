import type { Reading } from '../job/reading'
import { formatOhm, trim } from '../base/format'
import type { Test } from './tests'

const number = (v: number, unit: string): string => (unit === 'Ω' ? formatOhm(v) : `${trim(v, v >= 100 ? 0 : 2)} ${unit}`)

/** What a test should show, in a few characters. */
export function expectedWords({ expect, unit }: Test): string {
  if (expect.kind === 'confirm') return 'done'
  if (expect.kind === 'unknown') return 'not known yet'
  const { min, max, nominal } = expect
  if (min !== null && max !== null && min > 0)
    return nominal === null ? `${number(min, unit)} to ${number(max, unit)}` : `${number(nominal, unit)} (${trim(min, 2)}–${trim(max, 2)})`
  if (max !== null) return nominal ? `${number(nominal, unit)} (up to ${trim(max, 2)})` : `up to ${number(max, unit)}`
  return min === null ? '' : `at least ${number(min, unit)}`
}

export function readingWords(r: Pick<Reading, 'value' | 'mark' | 'unit'>): string {
  if (r.mark === 'yes') return 'done'
  if (r.mark === 'no') return 'wanting'
  if (r.mark === 'open') return 'open'
  if (r.value === null) return '–'
  return `${r.mark === 'over' ? '> ' : ''}${trim(r.value, 3)} ${r.unit}`
}
