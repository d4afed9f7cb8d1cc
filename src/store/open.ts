import { chmodSync, existsSync, mkdirSync, statSync } from 'node:fs'
import path from 'node:path'
import Database from 'better-sqlite3'
import { type BetterSQLite3Database, drizzle } from 'drizzle-orm/better-sqlite3'
import { migrate } from 'drizzle-orm/better-sqlite3/migrator'
import { bringUp } from './bring-up'
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
  bringUp(client, folder)
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
