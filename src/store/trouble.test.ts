import Database from 'better-sqlite3'
import { spawn } from 'node:child_process'
import { mkdirSync, mkdtempSync, readdirSync, renameSync, rmSync, unlinkSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { newJob } from '../core/job/schema'
import { addReading, createJob, editJob, loadJob } from './jobs'
import { holdFolder, onDisk, openStore } from './open'
import { storageTrouble, type Trouble } from './trouble'

let folder: string
beforeEach(() => (folder = mkdtempSync(path.join(tmpdir(), 'synthema-trouble-'))))
afterEach(() => rmSync(folder, { recursive: true, force: true }))

const hand = { by: 'Tester', at: '2026-11-20T08:00:00.000Z' }
const withJob = () => {
  const store = openStore(folder)
  createJob(store, 'j', newJob('united-kingdom', 'A job', ''), [], hand)
  return store
}
const edit = (store: ReturnType<typeof openStore>, request: string) =>
  editJob(store, 'j', loadJob(store, 'j').revision, { kind: 'brief.set', patch: { request } }, hand)
const requestOf = (store: ReturnType<typeof openStore>) => loadJob(store, 'j').job.brief.request

/** What befalls somebody who does this. */
function befalls(act: () => unknown): Trouble | null {
  try {
    act()
    return null
  } catch (e) {
    const trouble = storageTrouble(e, folder)
    if (!trouble) throw e
    // What happened, where, and what to do.
    expect(trouble.message).toContain(folder)
    expect(trouble.message.split('. ').length).toBeGreaterThan(1)
    return trouble.trouble
  }
}

describe('storage that fails says so', () => {
  it('full: nothing is written, and it continues when there is room', () => {
    const store = withJob()
    edit(store, 'before')
    const pages = store.$client.pragma('page_count', { simple: true }) as number
    store.$client.pragma(`max_page_count = ${pages}`)
    const long = 'x'.repeat(1500)
    let refused: Trouble | null = null
    for (let i = 0; i < 400 && !refused; i++) refused = befalls(() => edit(store, `${i} ${long}`))
    expect(refused).toBe('full')
    // What is held in memory is what the disk says.
    const kept = requestOf(store)
    const other = openStore(folder)
    expect(requestOf(other)).toBe(kept)
    other.$client.close()
    store.$client.pragma('max_page_count = 1000000')
    edit(store, 'after')
    expect(requestOf(store)).toBe('after')
    store.$client.close()
  })

  it('locked by another program: nothing is written, and it continues when that is gone', () => {
    const store = withJob()
    store.$client.pragma('busy_timeout = 50')
    const other = new Database(path.join(folder, 'synthema.db'))
    other.exec('BEGIN IMMEDIATE')
    expect(befalls(() => edit(store, 'meanwhile'))).toBe('locked')
    other.exec('ROLLBACK')
    other.close()
    expect(befalls(() => edit(store, 'then'))).toBeNull()
    store.$client.close()
  })

  it.each(['no database at all, only words, many of them '.repeat(200), `SQLite format 3\0${'\x07'.repeat(5000)}`])(
    'rubbish in the file',
    (text) => {
      writeFileSync(path.join(folder, 'synthema.db'), text, 'latin1')
      expect(befalls(() => openStore(folder))).toBe('rubbish')
    },
  )

  it('deleted while it runs: nothing more is acknowledged, and what stood in it is written out', () => {
    const store = withJob()
    onDisk(store, folder)
    edit(store, 'kept')
    onDisk(store, folder)
    unlinkSync(path.join(folder, 'synthema.db'))
    edit(store, 'on no disk')
    expect(befalls(() => onDisk(store, folder))).toBe('gone')
    expect(befalls(() => onDisk(store, folder))).toBe('gone')
    store.$client.close()
    const [rescued, ...more] = readdirSync(folder).filter((f) => f.startsWith('synthema.rescued-'))
    expect(more).toEqual([])
    for (const f of readdirSync(folder)) if (f.startsWith('synthema.db')) unlinkSync(path.join(folder, f))
    renameSync(path.join(folder, rescued!), path.join(folder, 'synthema.db'))
    const again = openStore(folder)
    expect(requestOf(again)).toBe('on no disk')
    again.$client.close()
  })

  it('a rescued copy that is newer than what is there is not passed over, and a person chooses which is used', () => {
    const lost = (at: string) => {
      const store = openStore(at)
      createJob(store, 'j', newJob('united-kingdom', 'A job', ''), [], hand)
      store.$client.pragma('wal_checkpoint(TRUNCATE)')
      onDisk(store, at)
      editJob(store, 'j', 1, { kind: 'brief.set', patch: { request: 'newer' } }, hand)
      // Its log goes: what was written last is in this process alone.
      unlinkSync(path.join(at, 'synthema.db-wal'))
      expect(befalls(() => onDisk(store, at))).toBe('gone')
      store.$client.close()
      return at
    }
    const at = (name: string) => {
      mkdirSync(path.join(folder, name))
      return lost(path.join(folder, name))
    }
    const told = (f: string) => {
      try {
        return openStore(f)
      } catch (e) {
        return (e as Error).message
      }
    }
    // What closes writes its log out where it can; one that could not is like this.
    const older = (f: string) => {
      const db = new Database(path.join(f, 'synthema.db'))
      db.exec('DELETE FROM job_changes WHERE revision > 1')
      db.close()
      return f
    }
    const first = older(at('asked'))
    expect(told(first)).toMatch(/newer than its synthema\.db.*RESCUED=use.*1 changes and 0 readings more/)
    vi.stubEnv('RESCUED', 'use')
    const used = openStore(first)
    expect(requestOf(used)).toBe('newer')
    used.$client.close()
    expect(readdirSync(first).some((f) => f.startsWith('synthema.older-'))).toBe(true)
    vi.stubEnv('RESCUED', 'keep')
    const second = older(at('kept'))
    openStore(second).$client.close()
    expect(readdirSync(second).some((f) => f.endsWith('.db.kept'))).toBe(true)
    vi.unstubAllEnvs()
    openStore(second).$client.close()
  })

  it('its log deleted, or another file in its place, is as bad', () => {
    for (const harm of ['log', 'other'] as const) {
      const here = path.join(folder, harm)
      mkdirSync(here)
      const store = openStore(here)
      createJob(store, 'j', newJob('united-kingdom', 'A job', ''), [], hand)
      onDisk(store, here)
      if (harm === 'log') unlinkSync(path.join(here, 'synthema.db-wal'))
      else {
        renameSync(path.join(here, 'synthema.db'), path.join(here, 'moved.db'))
        writeFileSync(path.join(here, 'synthema.db'), '')
      }
      expect(befalls(() => onDisk(store, here))).toBe('gone')
      store.$client.close()
    }
  })

  it('two servers on one folder: the second is refused, until the first ends, however it ends', async () => {
    const other = spawn(process.execPath, [
      '--input-type=module',
      '-e',
      `import Database from 'better-sqlite3'
       const lock = new Database(${JSON.stringify(path.join(folder, 'server.lock'))})
       lock.exec('BEGIN EXCLUSIVE'); console.log('held'); setInterval(() => lock, 1000)`,
    ])
    await new Promise((resolve) => other.stdout.once('data', resolve))
    expect(befalls(() => holdFolder(folder))).toBe('taken')
    other.kill('SIGKILL')
    await new Promise((resolve) => other.once('close', resolve))
    expect(befalls(() => holdFolder(folder).close())).toBeNull()
  })

  it.each([
    ['SQLITE_READONLY', 'read-only'],
    ['SQLITE_READONLY_DBMOVED', 'gone'],
    ['EROFS', 'read-only'],
    ['EACCES', 'read-only'],
    ['ENOSPC', 'full'],
    ['SQLITE_IOERR_FSYNC', 'failing'],
    ['SQLITE_BUSY_SNAPSHOT', 'locked'],
    ['SQLITE_CORRUPT_VTAB', 'rubbish'],
  ] as const)('%s is %s, also beneath another error', (code, trouble) => {
    const e = Object.assign(new Error('x'), { code })
    expect(
      befalls(() => {
        throw e
      }),
    ).toBe(trouble)
    expect(
      befalls(() => {
        throw new Error('a query failed', { cause: e })
      }),
    ).toBe(trouble)
  })

  it('what is no trouble of the storage is none', () => {
    const store = withJob()
    expect(storageTrouble(new TypeError('x'), folder)).toBeNull()
    expect(storageTrouble('x', folder)).toBeNull()
    expect(storageTrouble(Object.assign(new Error('x'), { code: 'SQLITE_CONSTRAINT_UNIQUE' }), folder)).toBeNull()
    expect(() => addReading(store, 'nobody', {} as never)).toThrow()
    store.$client.close()
  })
})
