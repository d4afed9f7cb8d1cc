import { existsSync } from 'node:fs'
import path from 'node:path'
import type Database from 'better-sqlite3'
import { readStoredJob, versionStored } from '../core/job/file'
import { JOB_VERSION } from '../core/job/schema'

/** Where the database of an older version is kept aside; an earlier copy is never written over. */
function asideIn(folder: string, version: number): string {
  for (let n = 1; ; n++) {
    const file = path.join(folder, `synthema.version-${version}${n === 1 ? '' : `-${n}`}.db`)
    if (!existsSync(file)) return file
  }
}

function upToDate({ id, job }: { id: string; job: string }) {
  try {
    return readStoredJob(JSON.parse(job))
  } catch (e) {
    throw new Error(`The job ${id} cannot be brought up to version ${JOB_VERSION}, and none was: ${(e as Error).message}`, { cause: e })
  }
}

/**
 * Brings every stored job up to this version, once, all or none, with a copy of the database kept aside. The changes before
 * it stay in the history and are no longer taken back: their patches are of another document.
 */
export function bringUp(client: Database.Database, folder: string): void {
  const version = client.pragma('user_version', { simple: true }) as number
  if (version >= JOB_VERSION) return
  const rows = client.prepare('SELECT id, job FROM jobs').all() as { id: string; job: string }[]
  const old = rows.filter((r) => versionStored(JSON.parse(r.job)) < JOB_VERSION)
  if (old.length) {
    const aside = asideIn(folder, Math.max(2, version))
    client.prepare('VACUUM INTO ?').run(aside)
    console.log(`The jobs were brought up to version ${JOB_VERSION}. The database as it was is kept as ${path.basename(aside)}.`)
  }
  const put = client.prepare(
    "UPDATE jobs SET job = ?, snapshot = revision, brought_up_at = revision, undo_head = revision, redo = '[]' WHERE id = ?",
  )
  client.transaction(() => {
    for (const r of old) put.run(JSON.stringify(upToDate(r)), r.id)
    client.pragma(`user_version = ${JOB_VERSION}`)
  })()
}
