import { existsSync } from 'node:fs'
import path from 'node:path'
import type Database from 'better-sqlite3'
import { applyPatches, type Patch } from 'immer'
import { JobFileError, readStoredJob, versionStored } from '../core/job/file'
import { JOB_VERSION } from '../core/job/schema'

/** A stored job is of an older version and could not be brought up to this one; it is left as it was. */
export class SetAsideError extends Error {
  constructor(
    readonly id: string,
    reason: string,
  ) {
    super(
      `This job could not be brought up to version ${JOB_VERSION} of the record, ${reason.replace(/\.$/, '')}. ` +
        'It is kept as it was, and can be downloaded from the list of jobs.',
    )
    this.name = 'SetAsideError'
  }
}

/** Where the database of an older version is kept aside; an earlier copy is never written over. */
function asideIn(folder: string, version: number): string {
  for (let n = 1; ; n++) {
    const file = path.join(folder, `synthema.version-${version}${n === 1 ? '' : `-${n}`}.db`)
    if (!existsSync(file)) return file
  }
}

/** Keeps a copy of a database of an older version aside, once, before any of its jobs is brought up. */
export function keepOlder(client: Database.Database, folder: string): void {
  const version = client.pragma('user_version', { simple: true }) as number
  if (version >= JOB_VERSION) return
  if (howMany(client).left > 0) {
    const aside = asideIn(folder, Math.max(2, version))
    client.prepare('VACUUM INTO ?').run(aside)
    console.log(`The jobs are brought up to version ${JOB_VERSION}. The database as it was is kept as ${path.basename(aside)}.`)
  }
  client.pragma(`user_version = ${JOB_VERSION}`)
}

interface OlderRow {
  readonly job: string
  readonly revision: number
  readonly snapshot: number
}

/** A job as it stands, in the words of its own version: its snapshot with the changes after it. */
function standing(client: Database.Database, id: string, { job, revision, snapshot }: OlderRow): unknown {
  const whole = JSON.parse(job) as object
  if (snapshot >= revision) return whole
  const since = client
    .prepare('SELECT patches FROM job_changes WHERE job_id = ? AND revision > ? AND revision <= ? ORDER BY revision')
    .pluck()
    .all(id, snapshot, revision) as string[]
  return applyPatches(
    whole,
    since.flatMap((patches) => JSON.parse(patches) as Patch[]),
  )
}

/**
 * Brings one stored job up to this version. The changes before it stay in the history and are no longer taken back: their patches are of
 * another document. One that cannot be brought up stays as it was, with the reason beside it.
 * @throws SetAsideError
 */
export function bringUpJob(client: Database.Database, id: string): void {
  // What is written in the midst of something else would be taken back with it: it is noted the next time.
  const within = client.inTransaction
  const reason = client
    .transaction((): string | null => {
      const row = client.prepare('SELECT job, revision, snapshot, version, set_aside FROM jobs WHERE id = ?').get(id) as
        | (OlderRow & { version: number; set_aside: string | null })
        | undefined
      if (!row || row.version >= JOB_VERSION) return null
      if (row.set_aside !== null) return row.set_aside
      try {
        const job = readStoredJob(standing(client, id, row))
        client
          .prepare(
            `UPDATE jobs SET job = ?, version = ?, counted = 0, snapshot = revision, brought_up_at = revision, undo_head = revision,
              redo = '[]' WHERE id = ?`,
          )
          .run(JSON.stringify(job), JOB_VERSION, id)
        return null
      } catch (e) {
        if (e instanceof Error && e.name === 'SqliteError') throw e
        const at = e instanceof JobFileError && e.path ? `at ${e.path}: ` : ''
        const why = at + (e instanceof Error ? e.message : String(e))
        if (within) return why
        client.prepare('UPDATE jobs SET set_aside = ? WHERE id = ?').run(why, id)
        console.error(`Synthema: job ${id} could not be brought up to version ${JOB_VERSION}: ${why}`)
        return why
      }
    })
    .immediate()
  if (reason !== null) throw new SetAsideError(id, reason)
}

/** Brings up those changed last, until there is none or `enough` says so: how many are left. */
export function bringUpSome(client: Database.Database, enough: () => boolean): number {
  const next = client
    .prepare('SELECT id FROM jobs WHERE version < ? AND set_aside IS NULL ORDER BY deleted_at IS NOT NULL, updated_at DESC LIMIT 1')
    .pluck()
  for (let id = next.get(JOB_VERSION); id !== undefined && !enough(); id = next.get(JOB_VERSION))
    try {
      bringUpJob(client, id as string)
    } catch (e) {
      if (!(e instanceof SetAsideError)) throw e
    }
  return howMany(client).left
}

/** How many jobs are still to be brought up, and how many were set aside because they could not be. */
export function howMany(client: Database.Database): { readonly left: number; readonly setAside: number } {
  return client
    .prepare('SELECT count(*) - count(set_aside) AS left, count(set_aside) AS setAside FROM jobs WHERE version < ?')
    .get(JOB_VERSION) as { left: number; setAside: number }
}

/** A stored job that was set aside, as a job file of its own version with the readings as they lie there; null: there is none. */
export function olderFile(client: Database.Database, id: string): string | null {
  const row = client.prepare('SELECT job, revision, snapshot FROM jobs WHERE id = ? AND set_aside IS NOT NULL').get(id) as
    | OlderRow
    | undefined
  if (!row) return null
  const whole = (): unknown => {
    try {
      return standing(client, id, row)
    } catch {
      // What its changes no longer fit is given as it was before them.
      return JSON.parse(row.job)
    }
  }
  const job = whole()
  const readings = client.prepare('SELECT * FROM readings WHERE job_id = ? ORDER BY seq').all(id)
  return `${JSON.stringify({ format: 'synthema-job', version: versionStored(job), job, readings }, null, 2)}\n`
}
