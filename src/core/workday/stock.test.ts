import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  againstVan,
  coilItem,
  coilsIn,
  laidOut,
  moveKinds,
  type NeedLayout,
  refused,
  shortOf,
  type StockMove,
  stockOf,
  takenOf,
} from './stock'

const move = (more: Partial<StockMove>): StockMove => ({
  id: 'm',
  item: 'box a',
  what: 'Box',
  unit: '',
  kind: 'in',
  count: 1,
  job: null,
  at: '2026-11-20T08:00:00.000Z',
  by: 'x',
  ...more,
})
const line = {
  id: 'box a',
  what: 'Box',
  count: 5,
  unit: '' as const,
  where: ['Kiln'],
  price: null,
  priceName: null,
  usual: false,
  kind: 'other' as const,
  at: [],
}

describe('the van', () => {
  it('holds what its book comes to, and a count outweighs what stood before it', () => {
    const moves = [move({ count: 3 }), move({ kind: 'out', count: 1 })]
    expect(stockOf(moves)).toMatchObject([{ count: 2, counted: false, minimum: null }])
    expect(stockOf([...moves, move({ kind: 'counted', count: 9 }), move({ kind: 'out', count: 2, job: 'j' })])).toMatchObject([
      { count: 7, counted: true, taken: { j: 2 } },
    ])
  })
  it('gives out no more than there is, and takes back no more than was taken', () => {
    const stock = stockOf([move({ kind: 'counted', count: 2 }), move({ kind: 'out', count: 1, job: 'j' })])
    expect(refused(stock, move({ kind: 'out', count: 1 }))).toBeNull()
    expect(refused(stock, move({ kind: 'out', count: 2 }))).toContain('Only 1')
    expect(refused(stock, move({ kind: 'out', item: 'other' }))).toContain('no Box left')
    expect(refused(stock, move({ kind: 'in', count: 1, job: 'j' }))).toBeNull()
    expect(refused(stock, move({ kind: 'in', count: 2, job: 'j' }))).toContain('not taken')
    expect(refused(stock, move({ kind: 'in', count: 50 }))).toBeNull()
  })
  it('is never below nothing, whatever is asked in any order', () => {
    const any = fc.record({
      kind: fc.constantFrom(...moveKinds),
      count: fc.integer({ min: 0, max: 6 }),
      job: fc.constantFrom(null, 'j', 'k'),
      item: fc.constantFrom('a', 'b'),
    })
    fc.assert(
      fc.property(fc.array(any, { maxLength: 30 }), (asked) => {
        const book: StockMove[] = []
        for (const a of asked) if (refused(stockOf(book), move(a)) === null) book.push(move(a))
        for (const s of stockOf(book)) {
          expect(s.count).toBeGreaterThanOrEqual(0)
          for (const n of Object.values(s.taken)) expect(n).toBeGreaterThanOrEqual(0)
        }
      }),
    )
  })
  it('says what is still to be taken and what to be bought, and what it leaves below what is kept', () => {
    const stock = (count: number) =>
      stockOf([move({ kind: 'counted', count: count + 2 }), move({ kind: 'minimum', count: 2 }), move({ kind: 'out', count: 2, job: 'j' })])
    expect(againstVan([line], stock(1), 'j')).toMatchObject([{ taken: 2, inVan: 1, toTake: 1, toBuy: 2, left: 0, minimum: 2 }])
    expect(againstVan([line], stock(9), 'j')).toMatchObject([{ toTake: 3, toBuy: 0, left: 6 }])
    // What the book does not know is not none: it is bought, and said not to be known.
    expect(againstVan([line], [], 'j')).toMatchObject([{ taken: 0, inVan: null, toTake: 0, toBuy: 5 }])
    expect(shortOf(stock(1))).toMatchObject([{ short: 1 }])
    expect(shortOf(stock(2))).toEqual([])
  })
  it('keeps each length of cable by itself: cut from, the rest is one still, and all of them count towards what is needed', () => {
    const reel = { cable: 'flat-twin-earth', size: '2.5 mm2' }
    const [a, b] = [coilItem(reel, 'a'), coilItem(reel, 'b')]
    const cable = { ...line, id: 'cable flat-twin-earth 2.5 mm2', what: 'Cable', unit: 'm' as const, count: 20 }
    const book = [
      move({ item: a, unit: 'm', kind: 'counted', count: 25 }),
      move({ item: b, unit: 'm', kind: 'in', count: 6.5 }),
      move({ item: a, unit: 'm', kind: 'out', count: 12.3, job: 'j' }),
      move({ item: cable.id, unit: 'm', kind: 'minimum', count: 25 }),
    ]
    const stock = stockOf(book)
    expect(coilsIn(stock)).toMatchObject([
      { id: a, ...reel, lengthM: 12.7, onHand: true },
      { id: b, ...reel, lengthM: 6.5 },
    ])
    expect(takenOf(stock, cable.id, 'j')).toBe(12.3)
    expect(takenOf(stock, cable.id, 'k')).toBe(0)
    expect(againstVan([cable], stock, 'j')).toMatchObject([{ taken: 12.3, inVan: 19.2, toTake: 7.7, toBuy: 0, minimum: 25 }])
    expect(shortOf(stock)).toMatchObject([{ short: 5.8 }])
    // Of one length no more is cut than it has.
    expect(refused(stock, move({ item: b, unit: 'm', kind: 'out', count: 7 }))).toContain('Only 6.5')
    expect(coilsIn(stockOf([...book, move({ item: b, unit: 'm', kind: 'out', count: 6.5 })]))).toHaveLength(1)
  })
  it('is laid out for the shop by its counters, what is to be bought alone, and by where it goes', () => {
    const lines = [line, { ...line, id: 'cable x 2.5', what: 'Cable', unit: 'm' as const, where: ['Kiln', 'Yard'] }]
    const against = againstVan(lines, stockOf([move({ kind: 'counted', count: 9 })]), 'j')
    const titles = (how: NeedLayout) => laidOut(against, how).map((g) => [g.title, g.lines.map((l) => l.what)])
    expect(titles('all')).toEqual([['', ['Box', 'Cable']]])
    expect(titles('shop')).toEqual([['Cable', ['Cable']]])
    expect(titles('where')).toEqual([
      ['Kiln', ['Box', 'Cable']],
      ['Yard', ['Cable']],
    ])
  })
})
