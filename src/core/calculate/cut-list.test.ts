import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { InputError } from '../base/input-error'
import { type CutListInput, cutList } from './cut-list'

const cable = 'two-core 2.5'
const pieces = (...lengths: number[]) => lengths.map((lengthM, i) => ({ id: `p${i}`, cable, lengthM }))
const sold = (id: string, lengthM: number, price: number) => ({ id, cable, lengthM, price })
const own = (id: string, lengthM: number) => ({ ...sold(id, lengthM, 99), onHand: true })

/** The least cost and bought length by trying every way, piece by piece. */
function byTrying({ pieces: all, stock }: CutListInput): readonly [number, number] | null {
  let least: readonly [number, number] | null = null
  const place = (i: number, bins: readonly { left: number }[], cost: number, bought: number): void => {
    if (least && (cost > least[0] || (cost === least[0] && bought >= least[1]))) return
    const piece = all[i]
    if (!piece) {
      least = [cost, bought]
      return
    }
    for (const [b, bin] of bins.entries())
      if (bin.left >= piece.lengthM)
        place(
          i + 1,
          bins.map((x, j) => (j === b ? { left: x.left - piece.lengthM } : x)),
          cost,
          bought,
        )
    for (const s of stock)
      if (!s.onHand && s.lengthM >= piece.lengthM)
        place(i + 1, [...bins, { left: s.lengthM - piece.lengthM }], cost + s.price, bought + s.lengthM)
  }
  place(
    0,
    stock.filter((s) => s.onHand).map((s) => ({ left: s.lengthM })),
    0,
    0,
  )
  return least
}

/** What a list must keep to, whatever its cost: each piece once, in a length that holds it, an owned one used once. */
function keeps(input: CutListInput, list: Awaited<ReturnType<typeof cutList>>): void {
  expect(list.cuts.flatMap((c) => c.pieces).toSorted()).toEqual(input.pieces.map((p) => p.id).toSorted())
  const lengthOf = new Map(input.pieces.map((p) => [p.id, p.lengthM]))
  for (const { stockId, pieces: cut, offcutM } of list.cuts) {
    const stock = input.stock.find((s) => s.id === stockId)!
    expect(offcutM).toBeCloseTo(stock.lengthM - cut.reduce((s, id) => s + lengthOf.get(id)!, 0), 9)
    expect(offcutM).toBeGreaterThanOrEqual(0)
  }
  for (const s of input.stock) {
    const used = list.cuts.filter((c) => c.stockId === s.id).length
    if (s.onHand) expect(used).toBeLessThanOrEqual(1)
    else expect(list.buy.find((b) => b.id === s.id)?.count ?? 0).toBe(used)
  }
}

describe('a cut list', () => {
  it('costs the least, and of that buys the least, as trying every way finds', async () => {
    const input = fc.record({
      pieces: fc.array(fc.integer({ min: 1, max: 14 }), { minLength: 1, maxLength: 6 }).map((l) => pieces(...l)),
      stock: fc
        .tuple(
          fc.array(fc.tuple(fc.integer({ min: 1, max: 15 }), fc.integer({ min: 0, max: 9 })), { maxLength: 3 }),
          fc.array(fc.integer({ min: 1, max: 12 }), { maxLength: 2 }),
        )
        .map(([bought, owned]) => [...bought.map(([l, p], i) => sold(`s${i}`, l, p)), ...owned.map((l, i) => own(`o${i}`, l))]),
    })
    await fc.assert(
      fc.asyncProperty(input, async (one) => {
        const wanted = byTrying(one)
        if (wanted === null) {
          await expect(cutList(one)).rejects.toBeInstanceOf(InputError)
          return
        }
        // Proved, given time: there is less of it where much else is done.
        const list = await cutList(one, 60)
        keeps(one, list)
        expect([list.cost, list.boughtLengthM, list.optimal]).toEqual([...wanted, true])
      }),
      { numRuns: 120 },
    )
  })
  it('fills a length to its very end, and not a hair beyond', async () => {
    const stock = [sold('coil', 0.3, 1)]
    expect(await cutList({ pieces: pieces(0.1, 0.2), stock })).toMatchObject({ cost: 1, cuts: [{ offcutM: 0 }] })
    expect(await cutList({ pieces: pieces(0.1, 0.200000001), stock })).toMatchObject({ cost: 2 })
  })
  it('names the piece that nothing holds, and the stock where pieces fit singly only', async () => {
    await expect(cutList({ pieces: pieces(4, 11), stock: [own('o', 10)] })).rejects.toMatchObject({ path: 'pieces.1.lengthM' })
    await expect(cutList({ pieces: pieces(6, 6), stock: [own('o', 10)] })).rejects.toMatchObject({ path: 'stock' })
    await expect(cutList({ pieces: [...pieces(1), ...pieces(1)], stock: [sold('s', 5, 1)] })).rejects.toMatchObject({ path: 'pieces.1.id' })
  })
  it('buys nothing for nothing', async () => {
    expect(await cutList({ pieces: [], stock: [] })).toEqual({ buy: [], cuts: [], cost: 0, boughtLengthM: 0, optimal: true })
  })
  it('of 60 pieces holds together, and says whether it is proved', async () => {
    const lengths = Array.from({ length: 60 }, (_, i) => 3 + ((i * 7919) % 1700) / 100)
    const input = { pieces: pieces(...lengths), stock: [sold('a', 50, 62), sold('b', 100, 110), sold('c', 25, 35), own('o', 17.3)] }
    const list = await cutList(input)
    keeps(input, list)
    const all = lengths.reduce((a, b) => a + b, 0)
    expect(list.boughtLengthM).toBeGreaterThanOrEqual(all - 17.3)
    expect(list.boughtLengthM).toBeLessThan(all * 1.15)
  })
})
