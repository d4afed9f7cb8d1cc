import { mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import Database from 'better-sqlite3'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { newJob } from '../core/job/schema'
import { bringUpSome, howMany, olderFile, SetAsideError } from './bring-up'
import { addReading, createJob, editJob, historyOf, listJobs, loadJob, undoJob } from './jobs'
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
  store.$client.prepare('UPDATE jobs SET job = ?, snapshot = revision, version = 0 WHERE id = ?').run(JSON.stringify(job), 'old')
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
    // Changes before it are listed and can no longer be undone: they were made to another document.
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

  it('keeps what was changed since the job was last written whole', () => {
    asVersion2(file2.job)
    const client = new Database(path.join(folder, 'synthema.db'))
    client.pragma('user_version = 2')
    // A change that is in the log alone, as all but every fortieth are.
    client.exec('UPDATE jobs SET revision = revision + 1')
    client
      .prepare(
        `INSERT INTO job_changes (job_id, revision, kind, label, patches, inverse, parent, at, by)
        SELECT id, revision, 'edit', 'Title', ?, '[]', 0, '', '' FROM jobs`,
      )
      .run(JSON.stringify([{ op: 'replace', path: ['title'], value: 'Wax melter, second' }]))
    client.close()
    store = openStore(folder)
    const { job, revision } = loadJob(store, 'old')
    expect([job.title, revision]).toEqual(['Wax melter, second', 3])
  })

  it('is brought up job by job: one that is asked for at once, the others meanwhile', () => {
    asVersion2(file2.job)
    const client = new Database(path.join(folder, 'synthema.db'))
    const columns = (client.pragma('table_info(jobs)') as { name: string }[]).map((c) => c.name)
    client.exec('CREATE TABLE kept AS SELECT * FROM jobs')
    for (const id of ['a', 'b', 'c']) {
      client.prepare('UPDATE kept SET id = ?, search_row = NULL').run(id)
      client.exec(`INSERT INTO jobs (${columns.join(', ')}) SELECT ${columns.join(', ')} FROM kept`)
    }
    client.exec('DROP TABLE kept')
    client.pragma('user_version = 2')
    client.close()
    store = openStore(folder)
    expect(howMany(store.$client)).toEqual({ left: 4, setAside: 0 })
    expect(loadJob(store, 'b').job.title).toBe(file2.job.title)
    expect(howMany(store.$client).left).toBe(3)
    // A run that brings them up meanwhile stops when told, and goes on later.
    let turns = 0
    expect(bringUpSome(store.$client, () => turns++ > 0)).toBe(2)
    expect(bringUpSome(store.$client, () => false)).toBe(0)
    expect(listJobs(store).rows.map((r) => r.counted)).toEqual([true, true, true, true])
  })

  it('sets aside what cannot be read, with the reason, and stops no other', () => {
    asVersion2({ ...file2.job, region: 'nowhere' })
    store = openStore(folder)
    createJob(store, 'new', newJob('united-kingdom', 'Stage sockets', 'Village hall'), [], hand)
    vi.spyOn(console, 'error').mockImplementation(() => {})
    // In the midst of something that is taken back for it, it is not noted yet.
    expect(() => editJob(store, 'old', 2, { kind: 'brief.set', patch: { later: 'z' } }, hand)).toThrow(/at .*region/)
    expect(howMany(store.$client)).toEqual({ left: 1, setAside: 0 })
    expect(bringUpSome(store.$client, () => false)).toBe(0)
    expect(howMany(store.$client)).toEqual({ left: 0, setAside: 1 })
    expect(() => loadJob(store, 'old')).toThrow(SetAsideError)
    expect(console.error).toHaveBeenCalledTimes(1)
    expect(() => editJob(store, 'old', 2, { kind: 'brief.set', patch: { later: 'z' } }, hand)).toThrow(SetAsideError)
    expect(listJobs(store).rows.map(({ id, setAside }) => [id, setAside === null])).toEqual(
      expect.arrayContaining([
        ['new', true],
        ['old', false],
      ]),
    )
    const file = JSON.parse(olderFile(store.$client, 'old')!) as { version: number; job: { region: string } }
    expect([file.version, file.job.region]).toEqual([2, 'nowhere'])
    expect(olderFile(store.$client, 'new')).toBeNull()
    // It is found as it was, and is not tried again and again.
    expect(JSON.parse(store.$client.prepare("SELECT job FROM jobs WHERE id = 'old'").pluck().get() as string).region).toBe('nowhere')
  })
})
