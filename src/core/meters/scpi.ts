import type { Test } from '../verify/tests'
import type { Reading } from '../job/reading'

type Unit = Test['unit']
/** What an instrument is asked for by the unit of a test, in the common words of IEEE 488.2 and SCPI; it answers in the plain unit. */
const asked: Readonly<Record<string, { readonly query: string; readonly per: number }>> = {
  Ω: { query: 'MEAS:RES?', per: 1 },
  MΩ: { query: 'MEAS:RES?', per: 1e6 },
  V: { query: 'MEAS:VOLT:AC?', per: 1 },
  A: { query: 'MEAS:CURR:AC?', per: 1 },
  ms: { query: 'MEAS:PER?', per: 1e-3 },
}
/** The question for a test in this unit; null where no instrument is asked that. */
export const queryFor = (unit: Unit): string | null => asked[unit]?.query ?? null

/** Greater than any value: the instrument is over its range. 9.91E37: it has nothing to show. IEEE 488.2 and SCPI-99. */
const OVER = 9.9e37
const NOTHING = 9.91e37
/** What an instrument answered, as a reading in the unit of the test; null where that is no figure. */
export function readingOf(answer: string, unit: Unit): Pick<Reading, 'value' | 'mark'> | null {
  const text = answer.trim().split(',')[0]!
  if (!/^[+-]?(\d+\.?\d*|\.\d+)([eE][+-]?\d+)?$/.test(text)) return null
  const value = Number(text)
  if (!Number.isFinite(value) || Math.abs(value) >= NOTHING) return null
  if (Math.abs(value) >= OVER) return { value: null, mark: 'open' }
  const scaled = Math.abs(value) / (asked[unit]?.per ?? 1)
  return { value: Number(scaled.toPrecision(5)), mark: null }
}
/** A reading as an instrument answers it. */
export const answerOf = (value: number | 'open', unit: Unit): string =>
  value === 'open'
    ? '+9.90000000E+37'
    : `${value < 0 ? '-' : '+'}${(Math.abs(value) * (asked[unit]?.per ?? 1)).toExponential(6).replace('e', 'E')}`

/** How the simulated meter learns what it is connected to, which a real one sees for itself. */
export const probesWords = (circuit: string, test: string): string => `ROUT:PROB "${circuit}","${test}"`
export const probesOf = (line: string): { readonly circuit: string; readonly test: string } | null => {
  const m = /^ROUT:PROB "([^"]{1,64})","([^"]{1,64})"$/.exec(line)
  return m ? { circuit: m[1]!, test: m[2]! } : null
}
/** By this an instrument that is a simulation names itself. */
export const SIMULATED = 'Synthema,Simulated meter'
