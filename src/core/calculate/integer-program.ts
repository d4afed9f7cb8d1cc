import type { LegacyHighs } from 'highs'

/** A sum: how much of which variable. */
export type Sum = readonly (readonly [factor: number, variable: number])[]

export interface Row {
  readonly sum: Sum
  readonly is: '<=' | '>=' | '='
  readonly than: number
}

/** A mixed-integer program: integer variables by number, each from 0 to its bound; solved by branch and cut (HiGHS). */
export interface Program {
  readonly least: Sum
  readonly rows: readonly Row[]
  readonly upTo: readonly number[]
}

export interface Solved {
  /** `limit`: time ran out; what was found, if anything was, is not proved best. */
  readonly status: 'optimal' | 'limit' | 'impossible'
  /** Of each variable; null where nothing was found. */
  readonly values: readonly number[] | null
}

let loading: Promise<LegacyHighs> | undefined
const solver = (): Promise<LegacyHighs> => (loading ??= import('highs').then((m) => m.default()))

const term = ([factor, variable]: readonly [number, number]) => `${factor < 0 ? '-' : '+'} ${Math.abs(factor)} x${variable}`
/** Long sums go over several lines, as the format's readers want. */
const written = (sum: Sum) => (sum.length ? sum.map((t, i) => (i % 20 === 19 ? `${term(t)}\n` : term(t))).join(' ') : '0 x0')

/** Solves a program within a time, in seconds, to a whole step of an objective of whole factors. */
export async function solveProgram({ least, rows, upTo }: Program, seconds: number): Promise<Solved> {
  const highs = await solver()
  const text = [
    'Minimize',
    `obj: ${written(least)}`,
    'Subject To',
    ...rows.map((r, i) => `r${i}: ${written(r.sum)} ${r.is} ${r.than}`),
    'Bounds',
    ...upTo.map((most, i) => `0 <= x${i} <= ${most}`),
    'Generals',
    ...upTo.map((_, i) => `x${i}`),
    'End',
  ].join('\n')
  const solved = highs.solve(text, { time_limit: Math.max(0.05, seconds), mip_rel_gap: 0, mip_abs_gap: 0.5, output_flag: false })
  if (solved.Status === 'Infeasible') return { status: 'impossible', values: null }
  const value = (i: number): number | null => {
    const column: unknown = solved.Columns[`x${i}`]
    const primal = typeof column === 'object' && column !== null && 'Primal' in column ? column.Primal : null
    return typeof primal === 'number' && Number.isFinite(primal) ? Math.round(primal) : null
  }
  const values = upTo.map((_, i) => value(i))
  const found = values.every((v) => v !== null) ? values : null
  return { status: solved.Status === 'Optimal' && found ? 'optimal' : 'limit', values: found && holds(rows, found) ? found : null }
}

/** Whether whole numbers keep to every row, the solver's own tolerance set aside. */
const holds = (rows: readonly Row[], values: readonly number[]): boolean =>
  rows.every(({ sum, is, than }) => {
    const total = sum.reduce((s, [factor, v]) => s + factor * values[v]!, 0)
    return is === '=' ? total === than : is === '<=' ? total <= than : total >= than
  })
