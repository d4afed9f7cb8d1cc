import { chmodSync, existsSync, mkdirSync, readdirSync, renameSync, statSync } from 'node:fs'
import path from 'node:path'
import Database from 'better-sqlite3'
import { type BetterSQLite3Database, drizzle } from 'drizzle-orm/better-sqlite3'
import { migrate } from 'drizzle-orm/better-sqlite3/migrator'
import { keepOlder } from './bring-up'
import * as schema from './schema'
import { StorageError } from './trouble'

export type Store = BetterSQLite3Database<typeof schema> & { $client: Database.Database }

/** So long a program that only glances at the database is waited for. */
const LOCKED_MS = 2000

/** A file of the data folder: what the build packs with the server is not looked for behind it. */
const inFolder = (folder: string, name: string): string => path.join(/*turbopackIgnore: true*/ folder, name)

/**
 * Opens, and creates or brings up to date, the database in a data folder.
 * WAL with synchronous=FULL: what has been acknowledged is on the disk, whatever happens to the process.
 */
export function openStore(folder: string, migrations = path.join(process.cwd(), 'src/store/migrations')): Store {
  // What is in the folder is the household's own: the database, its log, the door's file and photographs are their owner's alone.
  process.umask(0o077)
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  settleRescue(folder, process.env.RESCUED)
  const client = new Database(path.join(folder, 'synthema.db'))
  client.pragma('journal_mode = WAL')
  client.pragma('synchronous = FULL')
  client.pragma('foreign_keys = ON')
  client.pragma(`busy_timeout = ${LOCKED_MS}`)
  for (const file of ['synthema.db', 'synthema.db-wal', 'synthema.db-shm']) {
    const at = inFolder(folder, file)
    if (existsSync(/*turbopackIgnore: true*/ at)) chmodSync(/*turbopackIgnore: true*/ at, 0o600)
  }
  const store = drizzle(client, { schema })
  migrate(store, { migrationsFolder: migrations })
  keepOlder(client, folder)
  return store as Store
}

const files = ['synthema.db', 'synthema.db-wal'] as const
const opened = new WeakMap<object, Map<string, number>>()

/**
 * Refuses where the files that are written to are no longer those of the folder: what is written then is on no disk. What stood in them is
 * written out once more, while this process still has it.
 * @throws StorageError
 */
export function onDisk({ $client }: Store, folder: string): void {
  const known = opened.get($client) ?? new Map<string, number>()
  opened.set($client, known)
  for (const name of files) {
    const now = statSync(/*turbopackIgnore: true*/ inFolder(folder, name), { throwIfNoEntry: false })?.ino
    const before = known.get(name)
    if (before === undefined && now !== undefined) known.set(name, now)
    else if (before !== now) throw new StorageError('gone', folder, undefined, rescued($client, folder))
  }
}

const RESCUED = /^synthema\.rescued-.*\.db$/
interface Holds {
  readonly changes: number
  readonly readings: number
  readonly last: string
}
/** What a database holds, by its append-only tables; null: it cannot be read. */
function heldBy(file: string): Holds | null {
  if (!existsSync(/*turbopackIgnore: true*/ file)) return { changes: 0, readings: 0, last: '' }
  try {
    const db = new Database(file, { readonly: true, fileMustExist: true })
    try {
      const one = (sql: string) => db.prepare(sql).pluck().get()
      return {
        changes: one('SELECT count(*) FROM job_changes') as number,
        readings: one('SELECT count(*) FROM readings') as number,
        last: (one("SELECT coalesce(max(at), '') FROM job_changes") as string).slice(0, 16).replace('T', ' '),
      }
    } finally {
      db.close()
    }
  } catch {
    return null
  }
}
/**
 * A copy that was rescued when the database went away and that is newer than what is there now is not passed over: it is said what it
 * has, and a person says which of the two goes on.
 * @throws StorageError
 */
function settleRescue(folder: string, choice: string | undefined): void {
  const copy = readdirSync(/*turbopackIgnore: true*/ folder)
    .filter((f) => RESCUED.test(f))
    .toSorted()
    .at(-1)
  if (copy === undefined) return
  const [there, rescue] = [heldBy(inFolder(folder, 'synthema.db')), heldBy(inFolder(folder, copy))]
  if (!there || !rescue || (rescue.changes <= there.changes && rescue.readings <= there.readings)) return
  if (choice === 'keep') return renameSync(inFolder(folder, copy), inFolder(folder, `${copy}.kept`))
  if (choice !== 'use') {
    const [changes, taken] = [rescue.changes - there.changes, rescue.readings - there.readings]
    const more = ` ${copy} has ${changes} changes and ${taken} readings more; its last change is of ${rescue.last}.`
    throw new StorageError('rescued', folder, undefined, more)
  }
  const aside = `synthema.older-${new Date().toISOString().replaceAll(/[:.]/g, '-')}.db`
  for (const end of ['', '-wal', '-shm'])
    if (existsSync(/*turbopackIgnore: true*/ inFolder(folder, `synthema.db${end}`)))
      renameSync(inFolder(folder, `synthema.db${end}`), inFolder(folder, `${aside}${end}`))
  renameSync(inFolder(folder, copy), inFolder(folder, 'synthema.db'))
}

const rescues = new WeakMap<object, string>()
function rescued(client: Database.Database, folder: string): string {
  let told = rescues.get(client)
  if (told === undefined) {
    const file = path.join(folder, `synthema.rescued-${new Date().toISOString().replaceAll(/[:.]/g, '-')}.db`)
    try {
      mkdirSync(folder, { recursive: true, mode: 0o700 })
      client.prepare('VACUUM INTO ?').run(file)
      told = ` What stood in it was written out as ${path.basename(file)}: rename that to synthema.db, if the file itself is lost.`
    } catch {
      told = ''
    }
    rescues.set(client, told)
  }
  return told
}

/**
 * Holds a data folder for this process as long as it runs, however it ends.
 * @throws StorageError where another holds it.
 */
export function holdFolder(folder: string): Database.Database {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const lock = new Database(path.join(folder, 'server.lock'))
  try {
    lock.pragma('busy_timeout = 0')
    lock.exec('BEGIN EXCLUSIVE')
  } catch (e) {
    lock.close()
    if (e instanceof Error && 'code' in e && e.code === 'SQLITE_BUSY') throw new StorageError('taken', folder, e)
    throw e
  }
  return lock
}
