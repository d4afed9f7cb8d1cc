import Papa from 'papaparse'
import type { Reading } from '../job/reading'
import { readTyped } from '../base/typed'
import type { Phase, Test } from './tests'

/** Which column of what was pasted says what; null: none does. */
export interface PasteColumns {
  readonly test: number
  readonly reading: number
  readonly unit: number | null
}
export interface PastedRow {
  readonly line: number
  readonly words: string
  readonly test: Test | null
  readonly reading: Pick<Reading, 'value' | 'mark'> | null
  /** Why it is not taken; null: it is. */
  readonly why: string | null
}
const MOST_ROWS = 500

/** What was pasted as rows of cells, however they are parted. */
export const tableOf = (text: string): readonly (readonly string[])[] =>
  Papa.parse<string[]>(text.trim(), { skipEmptyLines: 'greedy', delimitersToGuess: ['\t', ';', ',', '|'] })
    .data.slice(0, MOST_ROWS)
    .map((row) => row.map((cell) => cell.trim()))

const plain = (words: string): string =>
  words
    .toLowerCase()
    .replaceAll(/[^\p{L}\p{N}]+/gu, ' ')
    .trim()
/** The test that words mean: its name or its mark, or the only one whose name begins or is held so. */
export function testNamed(words: string, tests: readonly Test[]): Test | null {
  const asked = plain(words)
  if (asked === '') return null
  const exact = tests.find((t) => t.id === words || plain(t.title) === asked)
  if (exact) return exact
  const near = tests.filter((t) => plain(t.title).startsWith(asked) || asked.startsWith(plain(t.title)))
  if (near.length === 1) return near[0]!
  // A column may be headed by one word alone.
  if (!asked.includes(' ')) return null
  const held = tests.filter((t) => ` ${plain(t.title)} `.includes(` ${asked} `))
  return held.length === 1 ? held[0]! : null
}

const isUnit = (cell: string): boolean => /^([kMmµ]?(Ω|Ω|ohms?|V|A)|ms|s)$/i.test(cell)
/** The columns as they most likely are: names where most cells name a test, figures where most read as one. */
export function guessColumns(rows: readonly (readonly string[])[], tests: readonly Test[]): PasteColumns {
  const wide = Math.max(0, ...rows.map((r) => r.length))
  const score = (of: (cell: string) => boolean) => Array.from({ length: wide }, (_, i) => rows.filter((r) => of(r[i] ?? '')).length)
  const best = (scores: readonly number[], not: readonly number[]) =>
    scores.reduce((top, s, i) => (!not.includes(i) && (top < 0 || s > scores[top]!) ? i : top), -1)
  const test = Math.max(
    0,
    best(
      score((c) => testNamed(c, tests) !== null),
      [],
    ),
  )
  const figures = score((c) => /^[<>]?\s*[+-]?[\d.,]+/.test(c) || /^(ol|open)$/i.test(c))
  const units = score(isUnit)
  const unit = best(units, [test])
  const hasUnit = unit >= 0 && units[unit]! > 0
  // A figure comes before its unit; rows may be numbered too.
  const before = hasUnit && unit > 0 && unit - 1 !== test && figures[unit - 1]! > 0
  const reading = before ? unit - 1 : best(figures, hasUnit ? [test, unit] : [test])
  return { test, reading: reading < 0 ? Math.min(1, wide) : reading, unit: hasUnit ? unit : null }
}

/** What each row says of the tests of a circuit; a phase that is shut takes none. A row of names over the columns is left out. */
export function readPasted(
  rows: readonly (readonly string[])[],
  columns: PasteColumns,
  tests: readonly Test[],
  shut: (phase: Phase) => string | null,
): readonly PastedRow[] {
  const read = rows.map((row, i): PastedRow => {
    const words = row[columns.test] ?? ''
    const figure = `${row[columns.reading] ?? ''} ${columns.unit === null ? '' : (row[columns.unit] ?? '')}`.trim()
    const test = testNamed(words, tests)
    const base = { line: i + 1, words: `${words} ${figure}`.trim(), test, reading: null }
    if (!test) return { ...base, why: 'no test of this circuit is called so' }
    if (test.expect.kind === 'confirm') return { ...base, why: 'a step is ticked where it is done, not pasted' }
    const typed = readTyped(figure, test.unit || null)
    if ('error' in typed || (typed.value === null && typed.mark === null) || (typed.value ?? 0) < 0)
      return { ...base, why: `“${figure}” is no reading in ${test.unit}` }
    const why = shut(test.phase)
    return { ...base, reading: typed, why: why === null ? null : `shut: ${why}` }
  })
  const [first] = read
  return first && first.test === null && first.reading === null && !/\d/.test(first.words) ? read.slice(1) : read
}
