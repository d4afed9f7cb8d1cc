import { z } from 'zod'
import { grouped } from '../base/grouped'
import type { Coil } from '../job/coil'
import { idField, text } from '../job/fields'
import { atLeast } from '../base/tolerance'
import type { Material } from './materials'

/** What was done to one kind of thing in the van. */
export const moveKinds = ['counted', 'in', 'out', 'minimum'] as const

/** One row of the van's book: rows are only added, and what is in the van is what they come to. */
export const stockMoveSchema = z.strictObject({
  id: idField,
  /** The kind of thing, as the list of what is needed calls it. */
  item: z.string().min(1).max(160),
  what: text(200).min(1),
  unit: z.enum(['', 'm']),
  kind: z.enum(moveKinds),
  /** Of pieces, or in metres: how many were counted, put in, taken out, or are to be kept. */
  count: z.number().nonnegative().max(100_000),
  /** The job it was taken for or came back from; null: none. */
  job: idField.nullable(),
  at: z.iso.datetime(),
  by: text(120),
})
export type StockMove = z.infer<typeof stockMoveSchema>

/** One kind of thing in the van. */
export interface StockItem {
  readonly item: string
  readonly what: string
  readonly unit: '' | 'm'
  readonly count: number
  /** Somebody counted it once; if not there is at least so much, of which the book knows. */
  readonly counted: boolean
  /** To be kept; null: not said. */
  readonly minimum: number | null
  /** Taken for each job, less what came back. */
  readonly taken: Readonly<Record<string, number>>
}

/** A length of cable is a thing of its own in the book: its kind as the list of what is needed calls it, and a name. */
const COIL = ' #'
export const coilItem = ({ cable, size }: Pick<Coil, 'cable' | 'size'>, name: string): string => `cable ${cable} ${size}${COIL}${name}`
/** What a thing of the book is of, as the list of what is needed calls it. */
const kindOf = (item: string): string => item.split(COIL)[0]!

/** Lengths of cable in the van, by what the book calls each; what is left of one that was cut from is one still. */
export const coilsIn = (stock: readonly StockItem[]): readonly Coil[] =>
  stock.flatMap((s) => {
    const named = /^cable (\S+) (.+) #./.exec(s.item)
    return named && s.count > 0 ? [{ id: s.item, cable: named[1]!, size: named[2]!, lengthM: s.count, price: null, onHand: true }] : []
  })

/** How much of a kind of cable was taken for a job, in metres, from whatever length. */
export const takenOf = (stock: readonly StockItem[], kind: string, job: string): number =>
  cents(stock.reduce((sum, s) => sum + (kindOf(s.item) === kind ? Math.max(0, s.taken[job] ?? 0) : 0), 0))

const cents = (n: number): number => Math.round(n * 100) / 100

/** What the book comes to, in the order things first came into it; of rows that add to what is there, with that. */
export function stockOf(moves: readonly Omit<StockMove, 'at' | 'by'>[], before: readonly StockItem[] = []): readonly StockItem[] {
  const items = new Map(before.map((s) => [s.item, s]))
  for (const m of moves) {
    const was = items.get(m.item) ?? { item: m.item, what: m.what, unit: m.unit, count: 0, counted: false, minimum: null, taken: {} }
    const by = m.kind === 'in' ? m.count : m.kind === 'out' ? -m.count : 0
    const count = m.kind === 'counted' ? m.count : cents(was.count + by)
    const taken = m.job === null || by === 0 ? was.taken : { ...was.taken, [m.job]: cents((was.taken[m.job] ?? 0) - by) }
    items.set(m.item, {
      ...was,
      what: m.what,
      count,
      counted: was.counted || m.kind === 'counted',
      minimum: m.kind === 'minimum' ? m.count : was.minimum,
      taken,
    })
  }
  return [...items.values()]
}

/** Why a row cannot be written; null where it can: nobody takes out what is not there, or brings back what was not taken. */
export function refused(stock: readonly StockItem[], { item, kind, count, job, what }: StockMove): string | null {
  const there = stock.find((s) => s.item === item)
  if (kind === 'out' && !atLeast(there?.count ?? 0, count))
    return there?.count
      ? `Only ${there.count} of ${what} are left in the van. Nothing was taken.`
      : `There is no ${what} left in the van. Nothing was taken.`
  if (kind === 'in' && job !== null && !atLeast(there?.taken[job] ?? 0, count)) return `So much ${what} was not taken for this job.`
  return null
}

/** What is needed of one thing, against the van. */
export interface Against extends Material {
  /** What the book has of it: one thing, or the lengths of a cable. */
  readonly items: readonly StockItem[]
  readonly taken: number
  /** Null: the van's book does not know it. */
  readonly inVan: number | null
  readonly counted: boolean
  readonly toTake: number
  readonly toBuy: number
  /** What is left once this job has taken what it still needs, and what is to be kept of it. */
  readonly left: number
  readonly minimum: number | null
}

/** What is needed for a job against what it took already and what is in the van. */
export function againstVan(lines: readonly Material[], stock: readonly StockItem[], job: string): readonly Against[] {
  const by = grouped(stock, (s) => kindOf(s.item))
  return lines.map((l) => {
    const items = by.get(l.id) ?? []
    const there = cents(items.reduce((sum, s) => sum + s.count, 0))
    const taken = takenOf(items, l.id, job)
    const still = Math.max(0, cents(l.count - taken))
    const toTake = Math.min(still, there)
    return {
      ...l,
      items,
      taken,
      inVan: items.length ? there : null,
      counted: items.length > 0 && items.every((s) => s.counted),
      toTake,
      toBuy: cents(still - toTake),
      left: cents(there - toTake),
      minimum: items.find((s) => s.item === l.id)?.minimum ?? null,
    }
  })
}

/** Things of which less is there than is to be kept, and how many are short. */
export const shortOf = (stock: readonly StockItem[]): readonly { readonly item: StockItem; readonly short: number }[] =>
  stock.flatMap((s) => {
    // Of a cable all lengths count.
    const there = cents(stock.reduce((sum, x) => sum + (kindOf(x.item) === s.item ? x.count : 0), 0))
    return s.minimum !== null && there < s.minimum ? [{ item: s, short: cents(s.minimum - there) }] : []
  })

/** How a list of what is needed is laid out: as it is counted, for the shop, or by where it is used. */
export type NeedLayout = 'all' | 'shop' | 'where'

/** Where in a shop a kind of thing lies, by the first word of what the list calls it. */
const counters: Readonly<Record<string, string>> = { breaker: 'For the board', cable: 'Cable', box: 'Boxes', accessory: 'Accessories' }

/** The list in groups; for the shop what is to be bought alone, by where use everything at each place it is for. */
export function laidOut(
  lines: readonly Against[],
  how: NeedLayout,
): readonly { readonly title: string; readonly lines: readonly Against[] }[] {
  if (how === 'all') return [{ title: '', lines }]
  const keys = how === 'where' ? [...new Set(lines.flatMap((l) => l.where))] : Object.values(counters)
  const of = (l: Against): readonly string[] => (how === 'where' ? l.where : [counters[l.id.split(' ')[0]!] ?? 'Else'])
  const wanted = how === 'shop' ? lines.filter((l) => l.toBuy > 0) : lines
  return keys.map((title) => ({ title, lines: wanted.filter((l) => of(l).includes(title)) })).filter((g) => g.lines.length > 0)
}
