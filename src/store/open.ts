import { chmodSync, existsSync, mkdirSync } from 'node:fs'
import path from 'node:path'
import Database from 'better-sqlite3'
import { type BetterSQLite3Database, drizzle } from 'drizzle-orm/better-sqlite3'
import { migrate } from 'drizzle-orm/better-sqlite3/migrator'
import { bringUp } from './bring-up'
import * as schema from './schema'

export type Store = BetterSQLite3Database<typeof schema> & { $client: Database.Database }

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
  client.pragma('busy_timeout = 5000')
  for (const file of ['synthema.db', 'synthema.db-wal', 'synthema.db-shm'])
    if (existsSync(path.join(folder, file))) chmodSync(path.join(folder, file), 0o600)
  const store = drizzle(client, { schema })
  migrate(store, { migrationsFolder: migrations })
  bringUp(client, folder)
  return store as Store
}
