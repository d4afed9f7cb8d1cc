import { createHash } from 'node:crypto'
import { mkdirSync, mkdtempSync, readdirSync, rmSync, statSync, writeFileSync, writeSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { newJob } from '../core/job/schema'
import { type Mark, MOST_MARKS, MOST_PX, photographsOf } from '@/core/verify/photograph'
import { jpeg } from '../../tests/support/jpeg'
import { AnotherActError, createJob, NotFoundError, standing } from './jobs'
import { openStore, type Store } from './open'
import { addPhotograph, photographFile, photographRows, pictures, type SentPhotograph, type Write } from './photographs'

/** A disk that takes so much of a write. */
const taking =
  (takes: (length: number) => number): Write =>
  (to, data, at) => {
    const most = Math.min(takes(data.length - at), data.length - at)
    return most <= 0 ? 0 : writeSync(to, data, at, most)
  }

const hand = { by: 'The potter', at: '2026-11-20T08:00:00.000Z' }
let folder: string
let store: Store
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'synthema-photographs-'))
  store = openStore(folder, path.resolve('src/store/migrations'))
  createJob(store, 'j', newJob('united-kingdom', 'Tea kitchen', 'Hall'), [], hand)
})
afterEach(() => {
  store.$client.close()
  rmSync(folder, { recursive: true, force: true })
})

const row = (more: Partial<SentPhotograph> = {}): SentPhotograph => ({
  id: 'a',
  photograph: 'a',
  of: { kind: 'board', id: 'main' },
  words: '',
  out: false,
  ...more,
})
const take = (more: Partial<SentPhotograph> = {}, write?: Write) =>
  addPhotograph(store, 'j', row({ data: jpeg(40, 30), ...more }), hand, write)
const files = () => readdirSync(path.join(folder, 'photographs'))

describe('a photograph', () => {
  it('is a file of its owner alone, named by what is in it, with a row that measures it', () => {
    take()
    const [kept] = photographRows(store, 'j')
    expect(kept).toMatchObject({ ...hand, photograph: 'a', of: { kind: 'board', id: 'main' }, widthPx: 40, heightPx: 30, out: false })
    expect(files()).toEqual([`${kept!.hash}.jpg`])
    expect(statSync(path.join(folder, 'photographs', files()[0]!)).mode & 0o077).toBe(0)
    expect(photographFile(store, 'j', 'a')).toEqual(new Uint8Array(jpeg(40, 30)))
    expect(standing(store, 'j').photographs).toBe(1)
  })
  it('is written whole by a disk that takes a little at a time', () => {
    let writes = 0
    take(
      {},
      taking(() => {
        writes++
        return 7
      }),
    )
    expect(writes).toBe(Math.ceil(jpeg(40, 30).length / 7))
    expect(photographFile(store, 'j', 'a')).toEqual(new Uint8Array(jpeg(40, 30)))
  })
  it('is not acknowledged by a disk that takes no more, and leaves nothing behind', () => {
    let left = 20
    const full = taking((length) => {
      const took = Math.min(left, length)
      left -= took
      return took
    })
    expect(() => take({}, full)).toThrow('The disk takes no more.')
    expect(files()).toEqual([])
    expect(photographRows(store, 'j')).toEqual([])
    take()
    expect(photographRows(store, 'j')).toHaveLength(1)
  })
  it('replaces a wrong file that is under its name', () => {
    const data = jpeg(40, 30)
    const name = `${createHash('sha256').update(data).digest('hex')}.jpg`
    mkdirSync(path.join(folder, 'photographs'))
    writeFileSync(path.join(folder, 'photographs', name), data.slice(0, 20))
    take()
    expect(photographFile(store, 'j', 'a')).toEqual(new Uint8Array(data))
  })
  it('sent again is stored once; another under its name is refused', () => {
    take()
    take()
    expect(photographRows(store, 'j')).toHaveLength(1)
    expect(() => take({ words: 'the door' })).toThrow(AnotherActError)
    expect(() => take({ data: jpeg(41, 30) })).toThrow(AnotherActError)
    expect(photographRows(store, 'j')).toHaveLength(1)
  })
  it('keeps the marks of two who draw on it at once, apart from the picture, and the caption that a third gives it', () => {
    take({ moment: 'before' })
    const arrow: Mark = { id: 'm1', kind: 'arrow', words: 'loose', from: [0.2, 0.2], to: [0.5, 0.5] }
    const length: Mark = { id: 'm2', kind: 'length', words: '', from: [0, 1], to: [1, 1], lengthM: 1.2 }
    // Each saw the photograph before the other drew; the third did not see either.
    addPhotograph(store, 'j', row({ id: 'b', mark: arrow }), hand)
    addPhotograph(store, 'j', row({ id: 'c', mark: length, words: 'stale' }), hand)
    addPhotograph(store, 'j', row({ id: 'd', words: 'the door', moment: 'before' }), hand)
    expect(pictures(store, 'j')).toMatchObject([{ words: 'the door', moment: 'before', marks: [arrow, length] }])
    addPhotograph(store, 'j', row({ id: 'e', unmarked: 'm1' }), hand)
    expect(pictures(store, 'j')).toMatchObject([{ words: 'the door', marks: [length] }])
    expect(photographFile(store, 'j', 'a')).toEqual(new Uint8Array(jpeg(40, 30)))
    for (let n = 1; n < MOST_MARKS; n++) addPhotograph(store, 'j', row({ id: `f${n}`, mark: { ...arrow, id: `n${n}` } }), hand)
    expect(() => addPhotograph(store, 'j', row({ id: 'g', mark: { ...arrow, id: 'last' } }), hand)).toThrow(/40 marks/)
  })
  it('is given words, put away and brought back by rows that are added, and stays as it was taken', () => {
    take()
    const later = { by: 'The electrician', at: '2026-11-21T08:00:00.000Z' }
    for (const [id, words, out] of [
      ['b', 'the door', false],
      ['c', 'the door', true],
    ] as const)
      addPhotograph(store, 'j', row({ id, words, out }), later)
    const [now] = photographsOf(photographRows(store, 'j'))
    expect(now).toMatchObject({ ...hand, words: 'the door', out: true, widthPx: 40 })
    expect(pictures(store, 'j')).toEqual([])
    addPhotograph(store, 'j', row({ id: 'd', words: 'the door' }), later)
    expect(pictures(store, 'j')).toMatchObject([{ words: 'the door', out: false }])
    expect(photographRows(store, 'j', 2).map((r) => r.id)).toEqual(['c', 'd'])
  })
  it('is refused where it is none, too large, or said of none', () => {
    expect(() => take({ data: new Uint8Array([1, 2, 3]) })).toThrow(/JPEG/)
    expect(() => take({ data: jpeg(MOST_PX + 1, 10) })).toThrow(/JPEG/)
    expect(() => take({ data: new Uint8Array(3_000_001) })).toThrow(/MB/)
    expect(() => addPhotograph(store, 'j', row(), hand)).toThrow(/no photograph/)
    expect(() => addPhotograph(store, 'j', row({ id: 'x', photograph: 'nobody' }), hand)).toThrow(/no photograph/)
    expect(() => addPhotograph(store, 'k', row({ data: jpeg(4, 4) }), hand)).toThrow(NotFoundError)
    take({ data: jpeg(MOST_PX, 10) })
    expect(photographRows(store, 'j')).toHaveLength(1)
  })
  it('whose file is gone is reported, and is not there', () => {
    take()
    rmSync(path.join(folder, 'photographs'), { recursive: true })
    expect(() => photographFile(store, 'j', 'a')).toThrow(NotFoundError)
    expect(pictures(store, 'j')).toMatchObject([{ photograph: 'a', file: null }])
  })
  it('is not acknowledged where its file cannot be written', () => {
    writeFileSync(path.join(folder, 'photographs'), 'no folder')
    expect(() => take()).toThrow()
    expect(photographRows(store, 'j')).toEqual([])
    rmSync(path.join(folder, 'photographs'))
    take()
    expect(files()).toHaveLength(1)
  })
})
