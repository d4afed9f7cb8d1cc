import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { jpeg } from '../../tests/support/jpeg'
import { met, whole } from '../../tests/support/signed-job'
import { demoJobs } from '../core/demo/demo'
import { makeDemo } from './demo'
import { addReading, createJob, hitsIn, listJobs } from './jobs'
import { openStore, type Store } from './open'
import type { Mark } from '@/core/verify/photograph'
import { addPhotograph } from './photographs'

const folder = mkdtempSync(path.join(tmpdir(), 'synthema-search-'))
let store: Store
const hand = { by: 'Ada', at: '2026-11-20T08:00:00.000Z' }
beforeAll(() => {
  store = openStore(folder)
  for (const demo of demoJobs) makeDemo(store, demo)
  const job = whole()
  createJob(store, 'urn', { ...job, title: 'Small hall', place: '7 Mill Lane' }, [], hand)
  const [first] = met(job).filter((r) => r.test === 'continuity-protective')
  addReading(store, 'urn', { ...first!, value: 0.173, instrument: 'Meter 4411', note: '100% dry, under_floor' })
  addPhotograph(
    store,
    'urn',
    { id: 'p', photograph: 'p', of: { kind: 'circuit', id: 'c1' }, words: 'Behind the panelling', out: false, data: jpeg(8, 8) },
    hand,
  )
  const mark: Mark = { id: 'm', kind: 'arrow', words: 'scorched terminal', from: [0.1, 0.1], to: [0.5, 0.5] }
  addPhotograph(store, 'urn', { id: 'q', photograph: 'p', of: { kind: 'circuit', id: 'c1' }, words: '', out: false, mark }, hand)
})
afterAll(() => {
  store.$client.close()
  rmSync(folder, { recursive: true, force: true })
})
const found = (search: string) => listJobs(store, { search }).rows.map((r) => r.id)

describe('a search', () => {
  it('finds a job by a reading: its value, its instrument, its note, and who took it', () => {
    for (const words of ['0.173', '0,173', '4411', 'dry', 'under_floor', 'Ada 4411'])
      expect([words, found(words)]).toEqual([words, ['urn']])
    expect(found('0.174')).toEqual([])
    // A sign of the query language is a letter like any other.
    expect(found('100%')).toContain('urn')
    expect(found('_')).toHaveLength(demoJobs.length + 1)
  })
  it('finds a job by a photograph, an address and a point, each word in its own place', () => {
    expect(found('panelling')).toEqual(['urn'])
    expect(found('scorched')).toEqual(['urn'])
    expect(found('mill lane')).toEqual(['urn'])
    expect(found('counter mill')).toEqual(['urn'])
    expect(found('counter nowhere')).toEqual([])
  })
  it('says what feeds a point that is found, on a circuit of the job or as it was traced', () => {
    const [point] = hitsIn(store, 'urn', 'counter')
    expect(point).toMatchObject({
      what: 'Point',
      name: 'Counter',
      stage: 'circuit',
      circuit: 'c1',
      says: expect.stringContaining('fed by Circuit 1'),
    })
    const hall = demoJobs.find((d) => d.region === 'united-kingdom')!
    const hits = hitsIn(store, hall.id, 'water heater')
    expect(hits[0]).toMatchObject({ what: 'Point' })
    expect(hits[0]!.says).toMatch(/^fed (by|from) |not traced/)
    expect(hitsIn(store, 'urn', '4411')).toMatchObject([{ what: 'Reading', says: expect.stringContaining('Meter 4411') }])
    expect(hitsIn(store, 'urn', 'panelling')).toMatchObject([{ what: 'Photograph' }])
    expect(hitsIn(store, 'urn', 'scorched')).toMatchObject([{ what: 'Photograph', name: 'Behind the panelling' }])
    expect(hitsIn(store, 'urn', '   ')).toEqual([])
  })
})
