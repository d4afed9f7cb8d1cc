import 'server-only'
import { existsSync, mkdirSync, readdirSync, rmSync, statSync } from 'node:fs'
import path from 'node:path'
import { Piscina } from 'piscina'
import type { BackupState, KeptBackup } from '@/core/base/backup-state'
import { type Backup, BackupError } from '@/store/backup'
import make from './backup-worker'
import { folder } from './data'
import { TooManyError } from './too-many'

/* Backups of the running server: on asking, and as often as BACKUP_EVERY says, into BACKUP_DIR. */

const holder = globalThis as typeof globalThis & { synthemaBackup?: Promise<unknown>; synthemaBackupFailed?: string | null }
const worker = path.join(/* turbopackIgnore: true */ process.cwd(), '.next', 'workers', 'backup.mjs')
/** So many are kept; older ones of the same folder go. */
const KEPT = 30
const DAY_MS = 24 * 3600 * 1000
/** From this age on a person is reminded; with a schedule, once two of its rounds were missed. */
const OLD_MS = 7 * DAY_MS
const NAMED = /^synthema-(\d{4}-\d{2}-\d{2})T(\d{2})-(\d{2})-(\d{2})Z\.backup\.zip$/

export const backupFolder = (): string => path.resolve(/* turbopackIgnore: true */ process.env.BACKUP_DIR || path.join(folder(), 'backups'))

/** "12h", "1d", "30m": how often backups are made. @throws Error where it is neither */
export function everyMs(text = process.env.BACKUP_EVERY): number | null {
  if (!text) return null
  const [, count, unit] = /^(\d{1,4})\s*([mhd])$/.exec(text.trim()) ?? []
  const ms = Number(count) * ({ m: 60_000, h: 3_600_000, d: DAY_MS }[unit ?? ''] ?? Number.NaN)
  if (!(ms > 0)) throw new Error(`BACKUP_EVERY=${text}: give minutes, hours or days, as 30m, 12h or 1d.`)
  return ms
}

/** The backups there are, the newest first. */
export function keptBackups(): readonly KeptBackup[] {
  const where = backupFolder()
  if (!existsSync(/* turbopackIgnore: true */ where)) return []
  return readdirSync(/* turbopackIgnore: true */ where)
    .flatMap((name): KeptBackup[] => {
      const m = NAMED.exec(name)
      if (!m) return []
      const { size } = statSync(/* turbopackIgnore: true */ path.join(where, name))
      return [{ name, at: `${m[1]}T${m[2]}:${m[3]}:${m[4]}Z`, bytes: size }]
    })
    .toSorted((a, b) => b.at.localeCompare(a.at))
}

export function backupState(now = Date.now()): BackupState {
  const [last = null] = keptBackups()
  const every = everyMs()
  const limit = every === null ? OLD_MS : 2 * every
  return {
    last,
    old: last === null || now - Date.parse(last.at) > limit,
    every: process.env.BACKUP_EVERY || null,
    running: holder.synthemaBackup !== undefined,
    failed: holder.synthemaBackupFailed ?? null,
  }
}

async function inWorker(asked: { folder: string; file: string }): Promise<Awaited<ReturnType<typeof make>>> {
  if (!existsSync(/* turbopackIgnore: true */ worker)) return make(asked)
  const pool = new Piscina({ filename: worker, maxThreads: 1 })
  try {
    return (await pool.run(asked)) as Awaited<ReturnType<typeof make>>
  } finally {
    await pool.destroy()
  }
}

/** Makes a backup now, one at a time. @throws BackupError, TooManyError */
export async function backUpNow(): Promise<Backup & { readonly name: string }> {
  if (holder.synthemaBackup) throw new TooManyError('A backup is being made')
  const where = backupFolder()
  const name = `synthema-${new Date().toISOString().slice(0, 19).replaceAll(':', '-')}Z.backup.zip`
  const task = (async () => {
    mkdirSync(/* turbopackIgnore: true */ where, { recursive: true, mode: 0o700 })
    const answer = await inWorker({ folder: folder(), file: path.join(where, name) })
    if ('refused' in answer) throw new BackupError(answer.refused)
    for (const old of keptBackups().slice(KEPT)) rmSync(/* turbopackIgnore: true */ path.join(where, old.name), { force: true })
    return { ...answer.made!, name }
  })()
  holder.synthemaBackup = task
  try {
    const made = await task
    holder.synthemaBackupFailed = null
    return made
  } catch (e) {
    holder.synthemaBackupFailed = e instanceof Error ? e.message : String(e)
    throw e
  } finally {
    delete holder.synthemaBackup
  }
}

/** The longest that a timer counts, in milliseconds. */
const MOST_TIMER_MS = 2 ** 31 - 1
/** Makes backups as often as is asked, the first when the newest is as old as that. */
export function keepBackingUp(): void {
  const every = everyMs()
  if (every === null) return
  const round = async () => {
    const [last] = keptBackups()
    const due = last ? Date.parse(last.at) + every - Date.now() : 0
    if (due <= 0)
      await backUpNow().catch((e: unknown) => console.error(`Synthema: no backup was made: ${e instanceof Error ? e.message : String(e)}`))
    // After a failure it is tried again at the next round, and not at once.
    const next = due > 0 ? due : every
    setTimeout(() => void round(), Math.min(next, MOST_TIMER_MS)).unref()
  }
  void round()
}
