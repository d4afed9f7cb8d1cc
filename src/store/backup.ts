import { createHash } from 'node:crypto'
import {
  createReadStream,
  createWriteStream,
  existsSync,
  fsyncSync,
  mkdirSync,
  openSync,
  closeSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs'
import path from 'node:path'
import { pipeline } from 'node:stream/promises'
import { crc32 } from 'node:zlib'
import Database from 'better-sqlite3'
import yauzl from 'yauzl'
import yazl from 'yazl'
import { z } from 'zod'

/*
 * Everything of a data folder in one file, a zip: the database as it stood at one moment, taken while it is in use (SQLite online backup),
 * the photographs that it names, and a list of all of them with their sizes and SHA-256.
 */

const FORMAT = 'synthema-backup'
const DATABASE = 'synthema.db'
const LIST = 'contents.json'

const listSchema = z.object({
  format: z.literal(FORMAT),
  version: z.literal(1),
  at: z.iso.datetime(),
  jobs: z.int().nonnegative(),
  /** Photographs that the database names and whose file was not there, or was not what its name says. */
  missing: z.array(z.string()),
  files: z.array(z.object({ name: z.string(), bytes: z.int().nonnegative(), sha256: z.string() })),
})
type Contents = z.output<typeof listSchema>

export interface Backup {
  readonly at: string
  readonly bytes: number
  readonly jobs: number
  readonly photographs: number
  readonly missing: readonly string[]
}

/** Why a backup was not made or not restored; nothing was changed. */
export class BackupError extends Error {
  override name = 'BackupError'
}

const PHOTOGRAPH = /^photographs\/[0-9a-f]{64}\.jpg$/
const isKept = (name: string): boolean => name === DATABASE || name === LIST || PHOTOGRAPH.test(name)

async function sha256Of(file: string): Promise<string> {
  const hash = createHash('sha256')
  for await (const part of createReadStream(file)) hash.update(part as Uint8Array)
  return hash.digest('hex')
}
function toDisk(file: string): void {
  const open = openSync(file, 'r')
  fsyncSync(open)
  closeSync(open)
}

/** Pages copied before others are let at the database again. */
const PAGES = 2000
/** The database as it stands at one moment. A copy that writers make start over too often is taken in one step. */
async function copyDatabase(from: string, to: string): Promise<void> {
  const source = new Database(from, { readonly: true, fileMustExist: true })
  try {
    let [least, again] = [Number.POSITIVE_INFINITY, 0]
    await source.backup(to, {
      progress: ({ totalPages, remainingPages }) => {
        if (remainingPages > least) again++
        least = remainingPages
        return again > 2 ? totalPages + 1 : PAGES
      },
    })
  } finally {
    source.close()
  }
  // As one file: what is opened in it later leaves no log beside it.
  const copy = new Database(to)
  copy.pragma('journal_mode = DELETE')
  copy.close()
}

/** What a copy of the database holds. @throws BackupError where it is damaged */
function heldIn(file: string): { readonly jobs: number; readonly photographs: readonly string[] } {
  const db = new Database(file, { readonly: true, fileMustExist: true })
  try {
    if (db.pragma('quick_check', { simple: true }) !== 'ok') throw new BackupError('The database is damaged: SQLite’s own check fails.')
    const jobs = db.prepare('SELECT count(*) FROM jobs').pluck().get() as number
    return { jobs, photographs: db.prepare('SELECT DISTINCT hash FROM photographs ORDER BY hash').pluck().all() as string[] }
  } catch (e) {
    if (e instanceof BackupError) throw e
    throw new BackupError(`This is no database of Synthema: ${e instanceof Error ? e.message : String(e)}`)
  } finally {
    db.close()
  }
}

/**
 * Writes a backup of a data folder while it is in use, and reads it back before it counts. A file that is there already is replaced only by
 * one that was found right, and only where it is a backup itself.
 * @throws BackupError
 */
export async function backUp(folder: string, file: string, at = new Date().toISOString()): Promise<Backup> {
  const database = path.join(folder, DATABASE)
  if (!existsSync(database)) throw new BackupError(`There is no ${DATABASE} in ${folder}.`)
  if (existsSync(file)) await contentsOf(file).catch(() => refuse(`${file} is there already and is no backup: name another file.`))
  mkdirSync(path.dirname(path.resolve(file)), { recursive: true, mode: 0o700 })
  const [part, copy] = [`${file}.part`, `${file}.db.part`]
  try {
    rmSync(copy, { force: true })
    await copyDatabase(database, copy)
    const { jobs, photographs } = heldIn(copy)
    const missing: string[] = []
    const files: { from: string; name: string; bytes: number; sha256: string }[] = [
      { from: copy, name: DATABASE, bytes: statSync(copy).size, sha256: await sha256Of(copy) },
    ]
    for (const hash of photographs) {
      const from = path.join(folder, 'photographs', `${hash}.jpg`)
      if (!existsSync(from) || (await sha256Of(from)) !== hash) missing.push(hash)
      else files.push({ from, name: `photographs/${hash}.jpg`, bytes: statSync(from).size, sha256: hash })
    }
    const list: Contents = { format: FORMAT, version: 1, at, jobs, missing, files: files.map(({ from: _, ...f }) => f) }
    const zip = new yazl.ZipFile()
    zip.addBuffer(Buffer.from(`${JSON.stringify(list, null, 2)}\n`), LIST)
    // A JPEG is not made smaller.
    for (const f of files) zip.addFile(f.from, f.name, { compress: f.name === DATABASE })
    zip.end()
    await pipeline(zip.outputStream, createWriteStream(part, { mode: 0o600 }))
    toDisk(part)
    await verifyBackup(part)
    renameSync(part, file)
    return { at, bytes: statSync(file).size, jobs, photographs: photographs.length - missing.length, missing }
  } finally {
    for (const left of [part, copy]) rmSync(left, { force: true })
  }
}

function refuse(words: string): never {
  throw new BackupError(words)
}

/** Some entries of a zip whole, by their names; others are passed over. @throws BackupError where one is damaged or too large */
export async function readEntries(file: string, names: readonly string[], most: number): Promise<ReadonlyMap<string, Uint8Array>> {
  return opened(file, async (zip) => {
    const found = new Map<string, Uint8Array>()
    await entriesOf(
      zip,
      async (entry) => {
        if (!names.includes(entry.fileName)) return true
        if (entry.uncompressedSize > most) throw new BackupError(`${entry.fileName} is too large.`)
        const parts: Uint8Array[] = []
        try {
          for await (const part of await streamOf(zip, entry)) parts.push(part as unknown as Uint8Array)
        } catch (e) {
          throw new BackupError(`${entry.fileName} is damaged: ${e instanceof Error ? e.message : String(e)}`)
        }
        const bytes = Buffer.concat(parts)
        // The reader of the zip does not look at its checksums.
        if (crc32(bytes) >>> 0 !== entry.crc32 >>> 0) throw new BackupError(`${entry.fileName} is damaged: its checksum does not hold.`)
        found.set(entry.fileName, bytes)
        return found.size < names.length
      },
      () => true,
    )
    return found
  })
}

/** A zip opened entry by entry. @throws BackupError where it is none */
async function opened<T>(file: string, read: (zip: yauzl.ZipFile) => Promise<T>): Promise<T> {
  if (!existsSync(file)) throw new BackupError(`There is no file ${file}.`)
  const zip = await new Promise<yauzl.ZipFile>((resolve, reject) =>
    yauzl.open(file, { lazyEntries: true, autoClose: false }, (e, z_) =>
      e ? reject(new BackupError(`${file} is no zip file: ${e.message}`)) : resolve(z_),
    ),
  )
  try {
    return await read(zip)
  } finally {
    zip.close()
  }
}
/** Entries in turn. Names that no backup has are refused before anything is read of them. */
function entriesOf(
  zip: yauzl.ZipFile,
  each: (entry: yauzl.Entry) => Promise<boolean>,
  known: (name: string) => boolean = isKept,
): Promise<void> {
  return new Promise((resolve, reject) => {
    zip.on('error', (e: Error) => reject(new BackupError(`The file is damaged: ${e.message}`)))
    zip.on('end', resolve)
    zip.on('entry', (entry: yauzl.Entry) => {
      if (!known(entry.fileName)) return reject(new BackupError(`${entry.fileName} is in the file and belongs to no backup.`))
      each(entry).then((more) => (more ? zip.readEntry() : resolve()), reject)
    })
    zip.readEntry()
  })
}
const streamOf = (zip: yauzl.ZipFile, entry: yauzl.Entry): Promise<NodeJS.ReadableStream> =>
  new Promise((resolve, reject) =>
    zip.openReadStream(entry, (e, stream) => (e ? reject(new BackupError(`${entry.fileName} is damaged: ${e.message}`)) : resolve(stream))),
  )
/** The list of contents is small, whatever a file says of itself. */
const MOST_LIST = 10_000_000

/** What a backup says it holds. @throws BackupError */
export async function contentsOf(file: string): Promise<Contents> {
  return opened(file, async (zip) => {
    let found: Contents | null = null
    await entriesOf(zip, async (entry) => {
      if (entry.fileName !== LIST) return true
      if (entry.uncompressedSize > MOST_LIST) throw new BackupError('Its list of contents is too large.')
      const parts: Uint8Array[] = []
      for await (const part of await streamOf(zip, entry)) parts.push(part as unknown as Uint8Array)
      found = listed(Buffer.concat(parts).toString('utf8'))
      return false
    })
    return found ?? refuse(`${file} is no backup: it has no ${LIST}.`)
  })
}
function listed(text: string): Contents {
  try {
    return listSchema.parse(JSON.parse(text))
  } catch {
    throw new BackupError('Its list of contents is damaged, or of a later version.')
  }
}

/**
 * Reads all of a backup, writing each file out where asked to, and holds it against its list.
 * @throws BackupError at the first that differs
 */
async function readThrough(file: string, list: Contents, into: string | null): Promise<void> {
  const expected = new Map(list.files.map((f) => [f.name, f]))
  const seen = new Set<string>()
  await opened(file, (zip) =>
    entriesOf(zip, async (entry) => {
      const { fileName: name } = entry
      if (name === LIST) return true
      const known = expected.get(name) ?? refuse(`${name} is not in the list of contents.`)
      if (seen.has(name)) throw new BackupError(`${name} is in the file twice.`)
      seen.add(name)
      const hash = createHash('sha256')
      let bytes = 0
      const check = async function* (source: AsyncIterable<Uint8Array>) {
        for await (const part of source) {
          bytes += part.length
          if (bytes > known.bytes) throw new BackupError(`${name} is damaged: it is longer than the list says.`)
          hash.update(part)
          yield part
        }
      }
      try {
        const stream = (await streamOf(zip, entry)) as unknown as AsyncIterable<Uint8Array>
        if (into === null) for await (const _ of check(stream));
        else await pipeline(stream, check, createWriteStream(path.join(into, name), { mode: 0o600, flags: 'wx' }))
      } catch (e) {
        if (e instanceof BackupError || (e instanceof Error && 'code' in e && e.code === 'ENOSPC')) throw e
        throw new BackupError(`${name} is damaged: ${e instanceof Error ? e.message : String(e)}`)
      }
      if (bytes !== known.bytes || hash.digest('hex') !== known.sha256)
        throw new BackupError(`${name} is damaged: its contents are not what was written.`)
      if (into !== null) toDisk(path.join(into, name))
      return true
    }),
  )
  const lost = list.files.find((f) => !seen.has(f.name))
  if (lost) throw new BackupError(`${lost.name} is in the list of contents and not in the file.`)
}

/** Reads a backup from end to end and holds all of it against its list. @throws BackupError at the first that differs */
export async function verifyBackup(file: string): Promise<Contents> {
  const list = await contentsOf(file)
  if (!list.files.some((f) => f.name === DATABASE)) throw new BackupError('There is no database in it.')
  await readThrough(file, list, null)
  return list
}

/**
 * Puts a backup into a folder that is empty or not there; it appears there whole, or not at all.
 * @throws BackupError
 */
export async function restoreBackup(file: string, folder: string): Promise<Contents> {
  if (existsSync(folder) && (!statSync(folder).isDirectory() || readdirSync(folder).length > 0))
    throw new BackupError(`${folder} is not empty: a backup is restored into an empty folder, beside what is there.`)
  const list = await contentsOf(file)
  const part = `${path.resolve(folder)}.part`
  rmSync(part, { recursive: true, force: true })
  mkdirSync(path.join(part, 'photographs'), { recursive: true, mode: 0o700 })
  try {
    await readThrough(file, list, part)
    if (!existsSync(path.join(part, DATABASE))) throw new BackupError('There is no database in it.')
    const { jobs } = heldIn(path.join(part, DATABASE))
    if (jobs !== list.jobs) throw new BackupError(`It has ${jobs} jobs, and its list says ${list.jobs}.`)
    if (existsSync(folder)) rmSync(folder, { recursive: true })
    renameSync(part, folder)
    return list
  } catch (e) {
    rmSync(part, { recursive: true, force: true })
    throw e
  }
}
