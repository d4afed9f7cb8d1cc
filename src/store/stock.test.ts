import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import type { StockMove } from '@/core/workday/stock'
import { EditError } from '../core/job/part'
import { AnotherActError } from './jobs'
import { openStore, type Store } from './open'
import { moveStock, stock } from './stock'

let folder: string
let [one, other]: Store[] = []
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'synthema-stock-'))
  ;[one, other] = [0, 1].map(() => openStore(folder, path.resolve('src/store/migrations')))
})
afterEach(() => {
  one!.$client.close()
  other!.$client.close()
  rmSync(folder, { recursive: true, force: true })
})
const move = (id: string, more: Partial<StockMove> = {}): StockMove => ({
  id,
  item: 'cable a',
  what: 'Coil',
  unit: '',
  kind: 'out',
  count: 1,
  job: 'j',
  at: '2026-11-20T08:00:00.000Z',
  by: 'x',
  ...more,
})

describe('the book of the van', () => {
  it('gives the last coil to one of two who take it, and tells the other', () => {
    moveStock(one!, move('a', { kind: 'counted', job: null }))
    moveStock(one!, move('b'))
    expect(() => moveStock(other!, move('c', { job: 'k' }))).toThrow(EditError)
    expect(() => moveStock(other!, move('c', { job: 'k' }))).toThrow(/no Coil left/)
    expect(stock(other!)).toMatchObject([{ count: 0, counted: true, taken: { j: 1 } }])
  })
  it('writes what is sent again once, and refuses another under its name', () => {
    moveStock(one!, move('a', { kind: 'counted', count: 5 }))
    moveStock(one!, move('b'))
    moveStock(one!, { ...move('b'), at: '2026-11-20T09:00:00.000Z', by: 'y' })
    expect(stock(one!)).toMatchObject([{ count: 4 }])
    expect(() => moveStock(one!, move('b', { count: 2 }))).toThrow(AnotherActError)
    expect(stock(one!)).toMatchObject([{ count: 4 }])
  })
})
