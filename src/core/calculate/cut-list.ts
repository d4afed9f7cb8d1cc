import { z } from 'zod'
import { InputError } from '../base/input-error'
import { count, nonNegative, positive } from './fields'
import { type Program, type Row, solveProgram, type Sum } from './integer-program'

const id = z.string().min(1)
const pieceSchema = z.strictObject({ id, cable: id, lengthM: positive.max(100_000) })
const stockSchema = z.strictObject({
  id,
  cable: id,
  lengthM: positive.max(100_000),
  price: nonNegative.max(1e9),
  onHand: z.boolean().optional(),
})
export const cutListInput = z.strictObject({ pieces: z.array(pieceSchema).max(500), stock: z.array(stockSchema).max(200) })
export const cutListOutput = z.strictObject({
  buy: z.array(z.strictObject({ id, count })),
  cuts: z.array(z.strictObject({ stockId: id, pieces: z.array(id), offcutM: z.number() })),
  cost: z.number(),
  boughtLengthM: z.number(),
  optimal: z.boolean(),
})
export type CutListInput = z.output<typeof cutListInput>
export type CutList = z.output<typeof cutListOutput>
type Piece = CutListInput['pieces'][number]
type Stock = CutListInput['stock'][number]

/** Seconds for a whole list; what is not proved best by then says so. */
const SECONDS = 2
/** Lengths compare to 1e-9 m, prices to a millionth. */
const [LENGTH_DIGITS, PRICE_DIGITS] = [9, 6]

/** The power of ten in whose steps all these are whole. */
function steps(values: readonly number[], most: number): number {
  for (let digits = 0; digits < most; digits++)
    if (values.every((v) => Math.abs(v * 10 ** digits - Math.round(v * 10 ** digits)) < 10 ** (digits - most) / 2)) return 10 ** digits
  return 10 ** most
}

interface Kind {
  readonly stock: Stock
  readonly length: number
  readonly price: number
}
/** Pieces out of one length, an owned one or one of those bought. */
interface Bin {
  readonly kind: Kind
  readonly pieces: readonly Item[]
}
interface Item {
  readonly piece: Piece
  readonly length: number
}
/** Lengths of one cable in whole steps: what is owned, what may be bought, what is to be cut. */
interface Task {
  readonly owned: readonly Kind[]
  readonly sold: readonly Kind[]
  readonly items: readonly Item[]
}

const sum = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0)
const loadOf = (bin: Bin): number => sum(bin.pieces.map((p) => p.length))
const costOf = (bins: readonly Bin[]): number => sum(bins.map((b) => b.kind.price))
const isOwned = ({ stock }: Kind): boolean => stock.onHand === true
const boughtOf = (bins: readonly Bin[]): number => sum(bins.map((b) => (isOwned(b.kind) ? 0 : b.kind.length)))
const better = (a: readonly Bin[], b: readonly Bin[]): boolean =>
  costOf(a) - costOf(b) < 0 || (costOf(a) === costOf(b) && boughtOf(a) < boughtOf(b))

/** The longest piece first, into what has the least room for it: owned lengths, begun ones, then a new one of this kind. */
function packed({ owned, sold, items }: Task, buying: Kind | null): readonly Bin[] | null {
  const bins = owned.map((kind) => ({ kind, left: kind.length, pieces: [] as Item[] }))
  for (const item of items.toSorted((a, b) => b.length - a.length)) {
    const fitting = bins.filter((b) => b.left >= item.length).toSorted((a, b) => a.left - b.left)[0]
    const kind = fitting ? null : buying && buying.length >= item.length ? buying : sold.find((s) => s.length >= item.length)
    const bin = fitting ?? (kind ? { kind, left: kind.length, pieces: [] as Item[] } : null)
    if (!bin) return null
    if (!fitting) bins.push(bin)
    bin.left -= item.length
    bin.pieces.push(item)
  }
  // Each bought length is the cheapest that holds what is cut from it.
  return bins.flatMap((b) => {
    if (b.pieces.length === 0) return []
    const load = loadOf(b)
    return isOwned(b.kind) ? [b] : [{ ...b, kind: sold.find((s) => s.length >= load)! }]
  })
}

/** A list found by rule of thumb; null where none was. */
const atFirst = (task: Task): readonly Bin[] | null =>
  [null, ...task.sold].reduce<readonly Bin[] | null>((best, kind) => {
    const bins = packed(task, kind)
    return bins && (best === null || better(bins, best)) ? bins : best
  }, null)

/** Rows that any way to cut keeps: room for as many pieces of a length or more as there are, and for all of their length. */
function enough({ owned, items }: Task, kinds: readonly (readonly [Kind, number])[]): readonly Row[] {
  const holds = (room: (length: number) => number, than: number): Row => ({
    sum: kinds.map(([kind, variable]) => [room(kind.length), variable]),
    is: '>=',
    than: than - sum(owned.map((o) => room(o.length))),
  })
  const lengths = [...new Set(items.map((i) => i.length))]
  return [
    holds((length) => length, sum(items.map((i) => i.length))),
    ...lengths.map((l) => holds((length) => Math.floor(length / l), items.filter((i) => i.length >= l).length)),
  ]
}

/** What to buy at the very least: no way to cut costs less, nor as much for a shorter purchase. Null: nothing holds the pieces. */
async function leastCounts(task: Task, seconds: () => number): Promise<{ kinds: readonly Kind[]; cost: number; bought: number } | null> {
  const { sold, items } = task
  const numbered = sold.map((kind, i) => [kind, i] as const)
  const rows = enough(task, numbered)
  const upTo = sold.map(() => items.length)
  const of = (factor: (kind: Kind) => number): Sum => numbered.map(([kind, i]) => [factor(kind), i])
  const total = (factor: Sum, values: readonly number[]) => sum(factor.map(([f, i]) => f * values[i]!))
  const [price, length] = [of((k) => k.price), of((k) => k.length)]
  if (sold.length === 0) return { kinds: [], cost: 0, bought: 0 }
  const cheapest = await solveProgram({ least: price, rows, upTo }, seconds())
  if (!cheapest.values || cheapest.status !== 'optimal') return null
  const cost = total(price, cheapest.values)
  const shortest = await solveProgram({ least: length, rows: [...rows, { sum: price, is: '<=', than: cost }], upTo }, seconds())
  const values = shortest.status === 'optimal' ? shortest.values : null
  if (!values) return null
  return { kinds: sold.flatMap((kind, i) => Array.from({ length: values[i]! }, () => kind)), cost, bought: total(length, values) }
}

const TRIES = 1500
/** All pieces into just these lengths, by trying orders that are nearly the longest first; null where none of them did. */
function packedInto(kinds: readonly Kind[], items: readonly Item[]): readonly Bin[] | null {
  let seed = 1
  const chance = () => (seed = (seed * 1_103_515_245 + 12_345) % 2 ** 31) / 2 ** 31
  for (let turn = 0; turn < TRIES; turn++) {
    const blur = (turn % 30) / 30
    const order = items.map((item) => ({ item, rank: item.length * (1 - blur * chance()) })).toSorted((a, b) => b.rank - a.rank)
    const bins = kinds.map((kind) => ({ kind, left: kind.length, pieces: [] as Item[] }))
    const all = order.every(({ item }) => {
      let tightest: (typeof bins)[number] | null = null
      for (const b of bins) if (b.left >= item.length && (!tightest || b.left < tightest.left)) tightest = b
      if (!tightest) return false
      tightest.left -= item.length
      tightest.pieces.push(item)
      return true
    })
    if (all) return bins.filter((b) => b.pieces.length)
  }
  return null
}

/** Pieces of one length are one variable in each length that they may be cut from. */
interface Layout {
  readonly bins: readonly Kind[]
  readonly lengths: readonly number[]
  readonly program: (least: (kind: Kind) => number, more: readonly Row[]) => Program
  readonly cost: Sum
  readonly bought: Sum
}

/** The program of a task: bins are used (first variables) and hold so many of each length (the others). */
function layoutOf({ owned, sold, items }: Task, most: (kind: Kind) => number): Layout {
  const bins = [...owned, ...sold.flatMap((kind) => Array.from({ length: most(kind) }, () => kind))]
  const lengths = [...new Set(items.map((i) => i.length))].toSorted((a, b) => b - a)
  const wanted = lengths.map((l) => items.filter((i) => i.length === l).length)
  const held = (b: number, g: number) => bins.length + b * lengths.length + g
  const room = (b: number, g: number) => Math.min(wanted[g]!, Math.floor(bins[b]!.length / lengths[g]!))
  const rows: Row[] = [
    ...lengths.map((_, g): Row => ({ sum: bins.map((_, b) => [1, held(b, g)]), is: '=', than: wanted[g]! })),
    ...bins.map((kind, b): Row => ({ sum: [...lengths.map((l, g) => [l, held(b, g)] as const), [-kind.length, b]], is: '<=', than: 0 })),
    ...bins.flatMap((_, b) =>
      lengths.map((_, g): Row => ({
        sum: [
          [1, held(b, g)],
          [-room(b, g), b],
        ],
        is: '<=',
        than: 0,
      })),
    ),
    ...enough(
      { owned, sold, items },
      bins.flatMap((kind, b) => (isOwned(kind) ? [] : [[kind, b] as const])),
    ),
    // Lengths of one kind are alike: the first ones are used first.
    ...bins.flatMap((kind, b): Row[] => {
      if (isOwned(kind) || bins[b + 1] !== kind) return []
      const inOrder: Sum = [
        [1, b],
        [-1, b + 1],
      ]
      return [{ sum: inOrder, is: '>=', than: 0 }]
    }),
  ]
  const of = (factor: (kind: Kind) => number): Sum => bins.flatMap((kind, b) => (isOwned(kind) ? [] : [[factor(kind), b] as const]))
  return {
    bins,
    lengths,
    cost: of((k) => k.price),
    bought: of((k) => k.length),
    program: (least, more) => ({
      least: of(least),
      rows: [...rows, ...more],
      upTo: [...bins.map(() => 1), ...bins.flatMap((_, b) => lengths.map((_, g) => room(b, g)))],
    }),
  }
}

/** Bins as the values of a program say. */
function binsFrom({ bins, lengths }: Layout, items: readonly Item[], values: readonly number[]): readonly Bin[] {
  const left = new Map(lengths.map((l) => [l, items.filter((i) => i.length === l)]))
  return bins.flatMap((kind, b) => {
    const pieces = lengths.flatMap((l, g) => left.get(l)!.splice(0, values[bins.length + b * lengths.length + g]!))
    return pieces.length ? [{ kind, pieces }] : []
  })
}

/** The least cost, then the least bought length, of one cable; null where the pieces do not go into what there is. */
async function best(task: Task, until: number): Promise<{ bins: readonly Bin[]; proved: boolean } | null> {
  const seconds = () => (until - performance.now()) / 1000
  const least = await leastCounts(task, seconds)
  const ideal = least && packedInto([...task.owned, ...least.kinds], task.items)
  if (ideal && costOf(ideal) === least.cost && boughtOf(ideal) === least.bought) return { bins: ideal, proved: true }
  const first = atFirst(task)
  const most = (kind: Kind) => Math.min(task.items.length, first && kind.price > 0 ? Math.floor(costOf(first) / kind.price) : Infinity)
  const layout = layoutOf(task, most)
  let [bins, proved] = [first, true]
  /** Looks for a list that is less by one step at least, until there is none. */
  const improve = async (least: (kind: Kind) => number, lessThan: (found: readonly Bin[] | null) => readonly Row[]) => {
    const solved = await solveProgram(layout.program(least, lessThan(bins)), seconds())
    if (solved.values) bins = binsFrom(layout, task.items, solved.values)
    proved &&= solved.status !== 'limit'
  }
  if (!bins || !least || costOf(bins) > least.cost)
    await improve(
      (k) => k.price,
      (found) => (found ? [{ sum: layout.cost, is: '<=', than: costOf(found) - 1 }] : []),
    )
  if (!bins && !proved) throw new InputError('stock', 'No cutting plan was found in the time allowed.')
  if (!bins) return null
  const cost = costOf(bins)
  await improve(
    (k) => k.length,
    (found) => [
      { sum: layout.cost, is: '<=', than: cost },
      { sum: layout.bought, is: '<=', than: boughtOf(found!) - 1 },
    ],
  )
  return { bins, proved }
}

function checkIds(list: readonly { readonly id: string }[], path: string): void {
  const seen = new Set<string>()
  for (const [i, one] of list.entries()) {
    if (seen.has(one.id)) throw new InputError(`${path}.${i}.id`, 'There is one with this id already.')
    seen.add(one.id)
  }
}

/** One of the lengths on sale that another one, no shorter, undercuts is never bought. */
const worthBuying = (sold: readonly Kind[]): readonly Kind[] =>
  sold
    .filter((a, i) =>
      sold.every(
        (b, j) =>
          i === j ||
          b.length < a.length ||
          b.price > a.price ||
          (b.price === a.price && (b.length > a.length || (b.length === a.length && j > i))),
      ),
    )
    .toSorted((a, b) => a.price - b.price || a.length - b.length)

/**
 * Which lengths to buy, and what to cut from each: the least cost, then the least bought length. What is owned is free and used once;
 * pieces are never joined. What is not proved the least in so many `seconds` says so.
 * @throws InputError at a piece's `lengthM` that no length holds, and at `stock` where pieces that fit singly do not fit together.
 */
export async function cutList({ pieces, stock }: CutListInput, seconds = SECONDS): Promise<CutList> {
  checkIds(pieces, 'pieces')
  checkIds(stock, 'stock')
  const until = performance.now() + seconds * 1000
  const [perM, perPrice] = [
    steps(
      [...pieces, ...stock].map((x) => x.lengthM),
      LENGTH_DIGITS,
    ),
    steps(
      stock.map((s) => s.price),
      PRICE_DIGITS,
    ),
  ]
  const all: Bin[] = []
  let optimal = true
  for (const [i, p] of pieces.entries())
    if (!stock.some((s) => s.cable === p.cable && Math.round(s.lengthM * perM) >= Math.round(p.lengthM * perM)))
      throw new InputError(`pieces.${i}.lengthM`, 'No length of this cable is as long as this piece, and pieces are not joined.')
  for (const cable of new Set(pieces.map((p) => p.cable))) {
    const kinds = stock
      .filter((s) => s.cable === cable)
      .map((s): Kind => ({ stock: s, length: Math.round(s.lengthM * perM), price: s.onHand ? 0 : Math.round(s.price * perPrice) }))
    const found = await best(
      {
        owned: kinds.filter(isOwned),
        sold: worthBuying(kinds.filter((k) => !isOwned(k))),
        items: pieces.filter((p) => p.cable === cable).map((piece) => ({ piece, length: Math.round(piece.lengthM * perM) })),
      },
      until,
    )
    if (!found) throw new InputError('stock', 'Each piece fits somewhere, but not all of them together into what there is.')
    all.push(...found.bins)
    optimal &&= found.proved
  }
  const bought = all.filter((b) => !isOwned(b.kind))
  return {
    buy: stock.flatMap((s) => {
      const n = bought.filter((b) => b.kind.stock === s).length
      return n ? [{ id: s.id, count: n }] : []
    }),
    cuts: all.map((b) => ({
      stockId: b.kind.stock.id,
      pieces: b.pieces.map((p) => p.piece.id),
      offcutM: (b.kind.length - loadOf(b)) / perM,
    })),
    cost: costOf(bought) / perPrice,
    boughtLengthM: boughtOf(bought) / perM,
    optimal,
  }
}
