import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import Database from 'better-sqlite3'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { newJob } from '../core/job/schema'
import { addReading, createJob, editJob, historyOf, loadJob, undoJob } from './jobs'
import { openStore, type Store } from './open'

const hand = { by: 'tester', at: '2026-11-20T08:00:00.000Z' }
const file2 = JSON.parse(readFileSync('tests/support/job-file-2.json', 'utf8')) as { job: Record<string, unknown> }
let folder: string
let store: Store
const copies = () => readdirSync(folder).filter((f) => f.includes('.version-2'))

/** A database as version 2 left it: a job of that version with two changes behind it. */
function asVersion2(job: unknown): void {
  store = openStore(folder)
  createJob(store, 'old', newJob('southern-africa', 'Wax melter', 'Honey house'), [], hand)
  editJob(store, 'old', 1, { kind: 'brief.set', patch: { later: 'x' } }, hand)
  store.$client.prepare('UPDATE jobs SET job = ? WHERE id = ?').run(JSON.stringify(job), 'old')
  store.$client.pragma('user_version = 0')
  store.$client.close()
}

beforeEach(() => {
  folder = mkdtempSync(path.join(tmpdir(), 'synthema-'))
  vi.spyOn(console, 'log').mockImplementation(() => {})
})
afterEach(() => {
  store.$client.close()
  rmSync(folder, { recursive: true })
  vi.restoreAllMocks()
})

describe('a database of version 2', () => {
  it('is brought up once, with a copy of it as it was kept aside', () => {
    asVersion2(file2.job)
    store = openStore(folder)
    const { job, revision } = loadJob(store, 'old')
    expect(job.title).toBe(file2.job.title)
    expect(job.points.length).toBeGreaterThan(0)
    expect(job).not.toHaveProperty('survey')
    expect(copies()).toEqual(['synthema.version-2.db'])
    const aside = new Database(path.join(folder, copies()[0]!), { readonly: true })
    expect(JSON.parse((aside.prepare('SELECT job FROM jobs').get() as { job: string }).job)).toEqual(file2.job)
    aside.close()
    // Changes before it are told and no longer taken back: they were made to another document.
    expect(historyOf(store, 'old').length).toBe(2)
    expect(undoJob(store, 'old', revision, hand).revision).toBe(revision)
    // It takes edits and readings as any job does, and those are taken back.
    const after = editJob(store, 'old', revision, { kind: 'brief.set', patch: { later: 'y' } }, hand)
    addReading(store, 'old', {
      id: 'r',
      circuit: 'c1',
      point: null,
      on: null,
      test: 'polarity',
      value: null,
      mark: 'yes',
      unit: '',
      instrument: '',
      note: '',
      corrects: null,
      ...hand,
    })
    expect(undoJob(store, 'old', after.revision, hand).job.brief.later).toBe(job.brief.later)
    store.$client.close()
    store = openStore(folder)
    expect(copies()).toEqual(['synthema.version-2.db'])
  })

  it('that cannot be read stays as it was, and says which job', () => {
    asVersion2({ ...file2.job, region: 'nowhere' })
    expect(() => openStore(folder)).toThrow(/old/)
    store = { $client: new Database(path.join(folder, 'synthema.db')) } as Store
    expect(JSON.parse((store.$client.prepare('SELECT job FROM jobs').get() as { job: string }).job).region).toBe('nowhere')
    expect(store.$client.pragma('user_version', { simple: true })).toBe(0)
  })
})
