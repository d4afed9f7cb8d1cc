import { cpSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import yazl from 'yazl'
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import { jpeg } from '../../tests/support/jpeg'
import { demoJobs } from '../core/demo/demo'
import { backUp, BackupError, contentsOf, restoreBackup, verifyBackup } from './backup'
import { makeDemo } from './demo'
import { editJob, listJobs, loadJob } from './jobs'
import { openStore } from './open'
import { addPhotograph, photographFile } from './photographs'

const made: string[] = []
const place = (): string => {
  const folder = mkdtempSync(path.join(tmpdir(), 'synthema-backup-'))
  made.push(folder)
  return folder
}
afterEach(() => {
  for (const f of made.splice(0)) rmSync(f, { recursive: true, force: true })
})
const hand = { by: 'A', at: '2026-11-20T08:00:00.000Z' }

let template = ''
beforeAll(() => {
  template = path.join(mkdtempSync(path.join(tmpdir(), 'synthema-backup-')), 'data')
  const store = openStore(template)
  for (const demo of demoJobs) makeDemo(store, demo)
  // Counted once, for all copies of it.
  listJobs(store)
  store.$client.close()
})
afterAll(() => rmSync(path.dirname(template), { recursive: true, force: true }))

/** A data folder with the demo jobs and a photograph, in use. */
function inUse() {
  const folder = path.join(place(), 'data')
  cpSync(template, folder, { recursive: true })
  const store = openStore(folder)
  const [first] = listJobs(store).rows
  const of = { kind: 'circuit', id: 'c1' } as const
  addPhotograph(store, first!.id, { id: 'p', photograph: 'p', of, words: 'Before', out: false, data: jpeg(40, 30) }, hand)
  return { folder, store, id: first!.id, file: path.join(place(), 'all.zip') }
}

/** Pictures that come with the demo jobs. */
const DRAWN = 3
describe('a backup', () => {
  it('holds every job and photograph of a folder in use, and is restored as it stood', async () => {
    const { folder, store, id, file } = inUse()
    const before = loadJob(store, id)
    const backup = await backUp(folder, file, '2026-12-01T10:00:00.000Z')
    expect(backup).toMatchObject({ jobs: demoJobs.length, photographs: 1 + DRAWN, missing: [] })
    // What is done afterwards is not in it.
    editJob(store, id, before.revision, { kind: 'brief.set', patch: { request: 'Later' } }, hand, {
      act: null,
      seen: before.revision,
      over: new Set(),
    })
    const into = path.join(place(), 'again')
    expect((await restoreBackup(file, into)).at).toBe('2026-12-01T10:00:00.000Z')
    const again = openStore(into)
    expect(loadJob(again, id)).toEqual(before)
    expect(photographFile(again, id, 'p')).toEqual(photographFile(store, id, 'p'))
    expect(listJobs(again).total).toBe(demoJobs.length)
    for (const s of [store, again]) s.$client.close()
  })
  it('is one moment of the database, however much is written meanwhile', async () => {
    const { folder, store, id, file } = inUse()
    const { revision: first } = loadJob(store, id)
    let revision = first
    const going = new AbortController()
    const writing = (async () => {
      for (let n = 0; !going.signal.aborted && n < 2000; n++) {
        const request = `Wish ${n}`
        revision = editJob(store, id, revision, { kind: 'brief.set', patch: { request } }, hand, {
          act: null,
          seen: revision,
          over: new Set(),
        }).revision
        await new Promise((r) => setImmediate(r))
      }
    })()
    await backUp(folder, file)
    going.abort()
    await writing
    const into = path.join(place(), 'again')
    await restoreBackup(file, into)
    const again = openStore(into)
    const kept = loadJob(again, id)
    expect(kept.revision).toBeLessThanOrEqual(revision)
    // What the job says is what its last change made of it.
    if (kept.revision > first) expect(kept.job.brief.request).toBe(`Wish ${kept.revision - first - 1}`)
    for (const s of [store, again]) s.$client.close()
  })
  it('names a photograph whose file is gone or is not what it was', async () => {
    const { folder, store, file } = inUse()
    const [picture] = readdirSync(path.join(folder, 'photographs'))
    writeFileSync(path.join(folder, 'photographs', picture!), 'something else')
    expect(await backUp(folder, file)).toMatchObject({ photographs: DRAWN, missing: [picture!.replace('.jpg', '')] })
    await verifyBackup(file)
    store.$client.close()
  })
  it('is found out at any byte that was changed, and then nothing is restored', async () => {
    const { folder, store, file } = inUse()
    await backUp(folder, file)
    store.$client.close()
    const whole = readFileSync(file)
    const into = path.join(place(), 'again')
    let found = 0
    // In every part of the file: names, contents, and the table at its end.
    for (let at = 40; at < whole.length - 30; at += Math.ceil(whole.length / 30)) {
      const bent = Buffer.from(whole)
      bent[at] = bent[at]! ^ 0x55
      writeFileSync(file, bent)
      const answer = await restoreBackup(file, into).then(
        () => 'restored',
        (e: unknown) => e,
      )
      if (answer === 'restored') {
        // A byte that says nothing, such as a time of the zip itself.
        rmSync(into, { recursive: true })
        continue
      }
      expect(answer).toBeInstanceOf(BackupError)
      expect(readdirSync(path.dirname(into))).toEqual([])
      found++
    }
    expect(found).toBeGreaterThan(24)
  })
  it('is cut short and found out', async () => {
    const { folder, store, file } = inUse()
    await backUp(folder, file)
    store.$client.close()
    writeFileSync(file, readFileSync(file).subarray(0, -2000))
    await expect(verifyBackup(file)).rejects.toBeInstanceOf(BackupError)
  })
  it('is not restored over what is there, nor written over what is no backup', async () => {
    const { folder, store, file } = inUse()
    await backUp(folder, file)
    await expect(restoreBackup(file, folder)).rejects.toThrow(/not empty/)
    const other = path.join(place(), 'letter.txt')
    writeFileSync(other, 'Dear')
    await expect(backUp(folder, other)).rejects.toThrow(/no backup/)
    expect(readFileSync(other, 'utf8')).toBe('Dear')
    // One that is a backup is replaced by a newer one.
    await backUp(folder, file, '2026-12-02T10:00:00.000Z')
    expect((await contentsOf(file)).at).toBe('2026-12-02T10:00:00.000Z')
    const empty = path.join(place(), 'empty')
    mkdirSync(empty)
    await restoreBackup(file, empty)
    expect(readdirSync(empty)).toContain('synthema.db')
    store.$client.close()
  })
  it('is refused where a file in it belongs to no backup, or leads out of the folder', async () => {
    for (const name of ['notes.txt', 'photographs/x.jpg', 'synthema.db-wal']) {
      const file = path.join(place(), 'odd.zip')
      const zip = new yazl.ZipFile()
      zip.addBuffer(Buffer.from('{}'), name)
      zip.addBuffer(Buffer.from('{}'), 'contents.json')
      zip.end()
      const parts: Buffer[] = []
      for await (const p of zip.outputStream) parts.push(p as Buffer)
      writeFileSync(file, Buffer.concat(parts))
      await expect(restoreBackup(file, path.join(place(), 'x'))).rejects.toThrow(BackupError)
    }
    await expect(verifyBackup('/nowhere.zip')).rejects.toThrow(/no file/)
  })
})
