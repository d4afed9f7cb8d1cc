import { sql } from 'drizzle-orm'
import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import fc from 'fast-check'
import type { Patch } from 'immer'
import { z } from 'zod'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { demoJobs } from '../core/demo/demo'
import { type Edit, EditError, patchJob } from '../core/job/edits'
import { faultIn } from '../core/job/check'
import { editBy, dice } from '../../tests/support/any-edit'
import { newJob } from '../core/job/schema'
import type { Reading } from '../core/job/reading'
import {
  addReading,
  AnotherActError,
  apart,
  changedSince,
  countJobs,
  createJob,
  deleteJob,
  editJob,
  historyOf,
  type Listed,
  listJobs,
  loadJob,
  NotFoundError,
  redoJob,
  restoreJob,
  StaleError,
  stageOf,
  twinOf,
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

describe('acts of a device that waited', () => {
  const titled = (title: string): Edit => ({ kind: 'job.set', patch: { title } })
  const placed = (place: string): Edit => ({ kind: 'job.set', patch: { place } })
  const act = (id: string, e: Edit, over: readonly string[] = []) =>
    editJob(store, 'j', loadJob(store, 'j').revision, e, hand, { act: id, seen: 1, over: new Set(over) })

  it('follow what the device did before them, and clash with what others did meanwhile', () => {
    act('a1', titled('mine'))
    editJob(store, 'j', 2, placed('theirs'), hand)
    // Its own act on the same field is none of others’.
    act('a2', titled('mine again'), ['a1'])
    expect(loadJob(store, 'j').job).toMatchObject({ title: 'mine again', place: 'theirs' })
    // What others wrote after it was looked at is not written over, whatever of one’s own came between.
    expect(() => act('a3', placed('mine'), ['a1', 'a2'])).toThrow(StaleError)
    expect(loadJob(store, 'j').job.place).toBe('theirs')
    expect(() => act('a4', titled('without a word of a1'))).toThrow(StaleError)
  })
})

describe('the history', () => {
  it('undoes and redoes step by step, and says what', () => {
    edit(watts(1))
    edit(watts(2))
    edit(watts(3))
    expect(undo().undo).toEqual({ label: 'Load 2', stage: 'circuit' })
    undo()
    expect(amount()).toBe(1)
    expect(redo().redo).toEqual({ label: 'Load 3', stage: 'circuit' })
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
    expect(loadJob(store, 'j').redo).toBeNull()
    undo()
    expect(amount()).toBe(1)
    undo()
    expect(amount()).toBeNull()
    expect(undo().undo).toBeNull()
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
    addReading(store, 'j', reading)
    expect(() => addReading(store, 'j', { ...reading, mark: 'no' })).toThrow(AnotherActError)
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

  it('leaves the index of words alone where no word of a job has changed', () => {
    createJob(store, 'k', newJob('southern-africa', 'Honey warming', 'Farm'), [], hand)
    const row = () => store.get(sql`SELECT search_row FROM jobs WHERE id = 'j'`)
    const before = row()
    edit(watts(5))
    expect(row()).toEqual(before)
    edit({ kind: 'brief.set', patch: { request: 'The urn trips the lights' } })
    expect(row()).not.toEqual(before)
  })

  it('is narrowed by world, by stage and to what is wrong', () => {
    for (const demo of demoJobs) {
      createJob(store, demo.id, newJob(demo.region, demo.title, demo.place), [], hand)
      for (const e of demo.edits) editJob(store, demo.id, loadJob(store, demo.id).revision, e, hand)
    }
    const ids = (more: Listed) => listJobs(store, more).rows.map((r) => r.id)
    expect(ids({ world: 'united-kingdom' }).toSorted()).toEqual(['j', 'stage-wing', 'village-hall'])
    expect(ids({ world: 'united-kingdom', stage: 'wiring' })).toEqual(['village-hall'])
    expect(ids({ wrong: true })).toContain('former-dairy')
    expect(ids({ wrong: true })).not.toContain('j')
    expect(ids({ world: 'united-kingdom', search: 'kiln' })).toEqual([])
    expect(listJobs(store, { world: 'southern-africa' }).total).toBe(2)
  })

  it('is narrowed to what a person had in hand last and left open', () => {
    const mine = (by: string) => listJobs(store, { waitsFor: by }).rows.map((r) => r.id)
    expect(mine(hand.by)).toEqual(['j'])
    expect(mine('The potter')).toEqual([])
    editJob(store, 'j', loadJob(store, 'j').revision, { kind: 'brief.set', patch: { request: 'Sockets' } }, { ...hand, by: 'The potter' })
    expect(mine('The potter')).toEqual(['j'])
    expect(mine(hand.by)).toEqual([])
    // Nobody counted yet what is open in it: it may be anything.
    store.run(sql`UPDATE jobs SET open = NULL`)
    expect(mine('The potter')).toEqual(['j'])
    store.run(sql`UPDATE jobs SET open = 0`)
    expect(mine('The potter')).toEqual([])
  })

  it('counts what is wrong and open when somebody looks, and says what it could not count', () => {
    const row = () => listJobs(store).rows[0]!
    expect(row()).toMatchObject({ id: 'j', errors: 0, counted: true })
    edit({ kind: 'fitness.answer', question: 'isolation', answer: 'no' })
    expect(store.get(sql`SELECT counted FROM jobs`)).toEqual({ counted: 0 })
    expect(countJobs(store, (done) => done === 1)).toBe(1)
    expect(countJobs(store)).toBe(0)
    expect(row()).toMatchObject({ errors: 1, counted: true })
    edit({ kind: 'fitness.answer', question: 'isolation', answer: 'yes' })
    store.run(sql`PRAGMA query_only = 1`)
    expect(row()).toMatchObject({ errors: 1, counted: false })
    store.run(sql`PRAGMA query_only = 0`)
    expect(row()).toMatchObject({ errors: 0, counted: true })
    edit({ kind: 'fitness.answer', question: 'isolation', answer: 'no' })
    expect(stageOf(store, 'j')).toBe('brief')
    expect(row()).toMatchObject({ errors: 1, counted: true })
  })

  it('shows a job that cannot be worked out beside the others, and says that it is not counted', () => {
    createJob(store, 'k', newJob('southern-africa', 'Honey warming', 'Farm'), [], hand)
    store.run(sql`UPDATE jobs SET job = '{}' WHERE id = 'k'`)
    edit({ kind: 'fitness.answer', question: 'isolation', answer: 'no' })
    const told = vi.spyOn(console, 'error').mockImplementation(() => {})
    const rows = Object.fromEntries(listJobs(store).rows.map((r) => [r.id, r]))
    expect(rows).toMatchObject({ j: { errors: 1, counted: true }, k: { title: 'Honey warming', counted: false } })
    expect(told).toHaveBeenCalledOnce()
    told.mockRestore()
  })

  it('says when a job like one brought in was changed last', () => {
    const same = { title: 'Tea kitchen', place: loadJob(store, 'j').job.place, region: 'united-kingdom' as const }
    expect(twinOf(store, same)).toBe(loadJob(store, 'j').updatedAt)
    expect(twinOf(store, { ...same, place: 'elsewhere' })).toBeNull()
    deleteJob(store, 'j', hand.at)
    expect(twinOf(store, same)).toBeNull()
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

  it('carries the counts and the stage that the demo jobs are at', () => {
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

describe('two devices at one job', () => {
  const by = (revision: number, e: Edit, act?: string) => editJob(store, 'j', revision, e, hand, { act: act ?? null })
  const title = (t: string): Edit => ({ kind: 'job.set', patch: { title: t } })

  it('edits of different things do not ask: the later one gets what the other did as well', () => {
    by(1, watts(100))
    const late = by(1, title('Tea kitchen and stage'))
    expect(late.revision).toBe(3)
    expect(late.patches.map((p) => p.path.join('.'))).toEqual(['circuits.0.load.amount', 'title'])
    expect(loadJob(store, 'j').job).toMatchObject({ title: 'Tea kitchen and stage' })
    expect(amount()).toBe(100)
  })
  it('edits of the same thing ask, and nothing is written', () => {
    by(1, watts(100))
    expect(() => by(1, watts(200))).toThrow(StaleError)
    expect(amount()).toBe(100)
  })
  it('an edit of what is gone meanwhile asks, and is not lost in silence', () => {
    by(1, { kind: 'circuit.add', id: 'c2', name: 'Second' })
    by(2, { kind: 'circuit.remove', circuit: 'c1' })
    expect(() => by(2, watts(5))).toThrow(StaleError)
  })
  it('an act sent twice is done once and answered alike; another under its name is refused', () => {
    const first = by(1, watts(100), 'act-1')
    const again = by(1, watts(100), 'act-1')
    expect([again.revision, again.patches]).toEqual([first.revision, first.patches])
    expect(() => by(1, watts(101), 'act-1')).toThrow(AnotherActError)
    expect(historyOf(store, 'j').filter((h) => h.kind === 'edit')).toHaveLength(1)
    // Sent again after others went on: what they did comes with the answer.
    by(2, title('On'))
    expect(by(1, watts(100), 'act-1').patches).toHaveLength(2)
    expect(amount()).toBe(100)
  })
  it('what a device lacks is patches from its revision; without one, nothing', () => {
    by(1, watts(100))
    by(2, title('On'))
    expect(changedSince(store, 'j', 2)!.patches.map((p) => p.path.join('.'))).toEqual(['title'])
    expect(changedSince(store, 'j', 3)!.patches).toEqual([])
    expect(changedSince(store, 'j', 99)).toBeNull()
  })
  it('patches stand apart where none lies at, in or about a place of the other', () => {
    const patch = (op: 'add' | 'replace' | 'remove', ...path: (string | number)[]) => ({ op, path, value: 1 })
    expect(apart([patch('replace', 'a', 0, 'x')], [patch('replace', 'a', 0, 'y')])).toBe(true)
    expect(apart([patch('replace', 'a', 0)], [patch('replace', 'a', 0, 'y')])).toBe(false)
    expect(apart([patch('replace', 'a', 0, 'y')], [patch('replace', 'a')])).toBe(false)
    expect(apart([patch('add', 'a', 3)], [patch('add', 'a', 3)])).toBe(true)
    expect(apart([patch('replace', 'a', 1, 'x')], [patch('replace', 'a', 'length')])).toBe(false)
  })
  it('any edits of two hands, each on what it last saw, end in one job that both hold', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.boolean(), fc.boolean(), dice), { minLength: 2, maxLength: 14 }), (acts) => {
        const id = crypto.randomUUID()
        createJob(store, id, newJob('north-america', 'Two hands', ''), [], hand)
        const start = loadJob(store, id)
        const held = [
          { job: start.job, revision: 1 },
          { job: start.job, revision: 1 },
        ]
        const take = (i: number, { revision, patches }: { revision: number; patches: readonly Patch[] }) =>
          void (held[i] = { job: patchJob(held[i]!.job, patches), revision })
        for (const [who, look, roll] of acts) {
          const i = Number(who)
          if (look) take(i, changedSince(store, id, held[i]!.revision)!)
          try {
            take(i, editJob(store, id, held[i]!.revision, editBy(held[i]!.job, roll), hand, { act: crypto.randomUUID() }))
          } catch (e) {
            if (!(e instanceof StaleError || e instanceof EditError || e instanceof z.ZodError)) throw e
          }
        }
        for (const i of [0, 1]) take(i, changedSince(store, id, held[i]!.revision)!)
        const { job } = loadJob(store, id)
        expect(held.map((h) => h.job)).toEqual([job, job])
        expect(faultIn(job)).toBeNull()
      }),
      { numRuns: 60 },
    )
  })
})
