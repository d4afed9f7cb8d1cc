import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { demoJobs } from '../core/demo/demo'
import type { Edit } from '../core/job/edits'
import { newJob } from '../core/job/schema'
import type { Reading } from '../core/job/reading'
import {
  addReading,
  createJob,
  deleteJob,
  editJob,
  historyOf,
  listJobs,
  loadJob,
  NotFoundError,
  redoJob,
  restoreJob,
  StaleError,
  stageOf,
  undeleteJob,
  undoJob,
} from './jobs'
import { openStore, type Store } from './open'
import { loadSettings, saveSettings } from './settings'

const hand = { by: 'tester', at: '2026-11-20T08:00:00.000Z' }
let folder: string
let store: Store
beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'synthema-'))
  store = openStore(folder)
  createJob(store, 'j', newJob('united-kingdom', 'Tea kitchen', 'Village hall'), [], hand)
})
afterEach(() => {
  store.$client.close()
  rmSync(folder, { recursive: true })
})

const watts = (amount: number): Edit => ({ kind: 'load.set', circuit: 'c1', patch: { amount } })
const edit = (e: Edit) => editJob(store, 'j', loadJob(store, 'j').revision, e, hand)
const undo = () => undoJob(store, 'j', loadJob(store, 'j').revision, hand)
const redo = () => redoJob(store, 'j', loadJob(store, 'j').revision, hand)
const amount = () => loadJob(store, 'j').job.circuits[0]!.load.amount

describe('the history', () => {
  it('undoes and redoes step by step, and says what', () => {
    edit(watts(1))
    edit(watts(2))
    edit(watts(3))
    expect(undo().undoLabel).toBe('Load 2')
    undo()
    expect(amount()).toBe(1)
    expect(redo().redoLabel).toBe('Load 3')
    expect(amount()).toBe(2)
    redo()
    redo()
    expect(amount()).toBe(3)
  })

  it('forgets what could be redone when a new edit is made, but keeps it in the history', () => {
    edit(watts(1))
    edit(watts(2))
    undo()
    edit(watts(9))
    expect(loadJob(store, 'j').redoLabel).toBeNull()
    undo()
    expect(amount()).toBe(1)
    undo()
    expect(amount()).toBeNull()
    expect(undo().undoLabel).toBeNull()
    expect(historyOf(store, 'j').map((h) => h.kind)).toEqual(['undo', 'undo', 'edit', 'undo', 'edit', 'edit', 'create'])
  })

  it('goes back to any revision, and back again by undo', () => {
    edit(watts(1))
    const at = edit(watts(2)).revision
    edit(watts(3))
    undo()
    edit(watts(4))
    expect(restoreJob(store, 'j', loadJob(store, 'j').revision, at, hand).job.circuits[0]!.load.amount).toBe(2)
    undo()
    expect(amount()).toBe(4)
    expect(restoreJob(store, 'j', loadJob(store, 'j').revision, 1, hand).job).toEqual(
      newJob('united-kingdom', 'Tea kitchen', 'Village hall'),
    )
  })

  it('refuses an edit made on an old revision, shows what came between, and writes nothing', () => {
    edit(watts(1))
    const before = loadJob(store, 'j')
    try {
      editJob(store, 'j', 1, watts(5), hand)
      expect.unreachable()
    } catch (e) {
      expect(e).toBeInstanceOf(StaleError)
      expect((e as StaleError).since.map((c) => c.label)).toEqual(['Load 1'])
      expect((e as StaleError).current.job).toEqual(before.job)
    }
    expect(loadJob(store, 'j')).toEqual(before)
  })

  it('writes no row for an edit that changes nothing', () => {
    edit(watts(1))
    const { revision } = loadJob(store, 'j')
    expect(edit(watts(1)).revision).toBe(revision)
  })

  it('leaves the job untouched when an edit would make it invalid', () => {
    const before = loadJob(store, 'j')
    expect(() => edit({ kind: 'job.set', patch: { title: '' } })).toThrow()
    expect(loadJob(store, 'j')).toEqual(before)
  })
})

describe('readings', () => {
  const reading: Reading = {
    id: 'r1',
    circuit: 'c1',
    point: null,
    test: 'polarity',
    value: null,
    mark: 'yes',
    unit: '',
    at: hand.at,
    by: 'x',
    instrument: '',
    note: '',
    corrects: null,
    on: null,
  }
  it('are appended, once each, in order; undo does not touch them', () => {
    edit(watts(1))
    addReading(store, 'j', reading)
    addReading(store, 'j', { ...reading, id: 'r2', mark: 'no', corrects: 'r1' })
    addReading(store, 'j', { ...reading, mark: 'no' })
    undo()
    expect(loadJob(store, 'j').readings).toEqual([reading, { ...reading, id: 'r2', mark: 'no', corrects: 'r1' }])
  })
})

describe('the list', () => {
  it('finds a job by the start of any word in it, and forgets what was changed', () => {
    createJob(store, 'k', newJob('southern-africa', 'Honey warming', 'Farm'), [], { ...hand, at: '2026-11-21T08:00:00.000Z' })
    edit({ kind: 'brief.set', patch: { request: 'The urn trips the lights' } })
    const titles = (search: string) => listJobs(store, { search }).rows.map((r) => r.title)
    expect(titles('urn')).toEqual(['Tea kitchen'])
    expect(titles('hon war')).toEqual(['Honey warming'])
    expect(titles('"* OR')).toEqual([])
    expect(listJobs(store).rows.map((r) => r.title)).toEqual(['Honey warming', 'Tea kitchen'])
    edit({ kind: 'brief.set', patch: { request: 'Sockets' } })
    expect(titles('urn')).toEqual([])
  })

  it('deletes so that it can be brought back', () => {
    deleteJob(store, 'j', hand.at)
    expect(() => loadJob(store, 'j')).toThrow(NotFoundError)
    expect(listJobs(store).total).toBe(0)
    expect(listJobs(store, { deleted: true }).rows[0]!.title).toBe('Tea kitchen')
    undeleteJob(store, 'j')
    expect(loadJob(store, 'j').job.title).toBe('Tea kitchen')
    expect(() => undeleteJob(store, 'nothing')).toThrow(NotFoundError)
  })

  it('carries the counts and the stage that the demo jobs stand at', () => {
    for (const demo of demoJobs) {
      createJob(store, demo.id, newJob(demo.region, demo.title, demo.place), [], hand)
      for (const e of demo.edits) editJob(store, demo.id, loadJob(store, demo.id).revision, e, hand)
    }
    expect(stageOf(store, 'village-hall')).toBe('wiring')
    expect(listJobs(store).rows.find((r) => r.id === 'former-dairy')).toMatchObject({ errors: 3 })
  })
})

describe('settings', () => {
  it('are kept, and fall back to what is sensible', () => {
    expect(loadSettings(store).units).toBe('world')
    saveSettings(store, { units: 'metric' })
    expect(loadSettings(store)).toMatchObject({ units: 'metric', theme: 'system' })
  })
})
