import { createHash, randomUUID } from 'node:crypto'
import { closeSync, existsSync, fsyncSync, mkdirSync, openSync, readFileSync, renameSync, rmSync, writeSync } from 'node:fs'
import path from 'node:path'
import { and, asc, eq } from 'drizzle-orm'
import { imageSize } from 'image-size'
import { EditError } from '../core/job/part'
import {
  MOST_BYTES,
  MOST_MARKS,
  MOST_OF_A_JOB,
  MOST_PX,
  type NewRow,
  type Photograph,
  photographsOf,
  type PhotographRow,
} from '@/core/verify/photograph'
import { pictureAlone } from './jpeg'
import { AnotherActError, type Hand, NotFoundError, rowOf } from './jobs'
import type { Store } from './open'
import { photographs } from './schema'

/** A row as a device sends it; `data` with the first row of a photograph alone. */
export type SentPhotograph = NewRow & { readonly data?: Uint8Array }

/** Rows of one job: each photograph is given words and put away a few times at most, and some are marked. */
const MOST_ROWS = 12 * MOST_OF_A_JOB

const folderOf = ({ $client }: Store): string => path.join(path.dirname($client.name), 'photographs')

/** How a file is written: so much of the data from a place on, as `writeSync` does. @returns how much the disk took */
export type Write = (to: number, data: Uint8Array, at: number) => number

const hashOf = (data: Uint8Array): string => createHash('sha256').update(data).digest('hex')
/** All of it, however little the disk takes at a time. @throws what the disk says */
function writeWhole(to: number, data: Uint8Array, write: Write): void {
  for (let at = 0; at < data.length;) {
    const took = write(to, data, at)
    if (took === 0) throw new Error('The disk takes no more.')
    at += took
  }
}

/**
 * Written out whole, read back and found right before any row names it; the same picture is stored once, and a wrong file under its name is
 * replaced.
 * @throws what the disk says; nothing of the file is left then
 */
function keepFile(store: Store, hash: string, data: Uint8Array, write: Write): void {
  const folder = folderOf(store)
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  const file = path.join(folder, `${hash}.jpg`)
  if (existsSync(file) && hashOf(readFileSync(file)) === hash) return
  const written = `${file}.part`
  try {
    const to = openSync(written, 'w', 0o600)
    try {
      writeWhole(to, data, write)
      fsyncSync(to)
    } finally {
      closeSync(to)
    }
    if (hashOf(readFileSync(written)) !== hash) throw new Error('The disk did not keep what was written.')
  } catch (e) {
    rmSync(written, { force: true })
    throw e
  }
  renameSync(written, file)
  const within = openSync(folder, 'r')
  fsyncSync(within)
  closeSync(within)
}

/** @throws EditError where it is no picture that is kept here */
function measured(data: Uint8Array): { widthPx: number; heightPx: number } {
  if (data.length > MOST_BYTES) throw new EditError('data', `A photograph of more than ${MOST_BYTES / 1e6} MB is not kept.`)
  try {
    const { width, height, type } = imageSize(data)
    if (type === 'jpg' && width > 0 && height > 0 && Math.max(width, height) <= MOST_PX) return { widthPx: width, heightPx: height }
  } catch {
    // Said below.
  }
  throw new EditError('data', `A photograph is a JPEG of at most ${MOST_PX} pixels a side.`)
}

const sameAct = ({ id, photograph, of, words, out, moment, mark, unmarked }: SentPhotograph): string =>
  JSON.stringify([id, photograph, of.kind, of.id, words, out, moment ?? null, mark ?? null, unmarked ?? null])

/** Rows of a job in the order they came, from one of them on. @throws NotFoundError */
export function photographRows(store: Store, id: string, held = 0): readonly PhotographRow[] {
  rowOf(store, id)
  const rows = store
    .select()
    .from(photographs)
    .where(eq(photographs.jobId, id))
    .orderBy(asc(photographs.seq))
    .limit(MOST_ROWS)
    .offset(held)
    .all()
  return rows.map(({ seq: _, jobId: __, ...row }) => row)
}

/**
 * Adds a row; the same one sent again is stored once.
 * @throws AnotherActError where its name is another's, EditError where it is no photograph, or of none, or one too many
 */
export function addPhotograph(
  store: Store,
  id: string,
  { data: whole, ...sent }: SentPhotograph,
  hand: Hand,
  write: Write = writeSync,
): void {
  // Where it was taken is nobody's business; the same bytes sent again are still the same.
  const data = whole && pictureAlone(whole)
  const rows = photographRows(store, id)
  const known = rows.find((r) => r.id === sent.id)
  if (known) {
    const other = data && hashOf(data) !== known.hash
    if (sameAct(known) !== sameAct(sent) || other) throw new AnotherActError()
    return
  }
  const first = rows.find((r) => r.photograph === sent.photograph)
  if (!first && (!data || sent.photograph !== sent.id)) throw new EditError('data', 'There is no photograph with this row.')
  if (rows.length >= MOST_ROWS || (!first && new Set(rows.map((r) => r.photograph)).size >= MOST_OF_A_JOB))
    throw new EditError('id', `A job keeps ${MOST_OF_A_JOB} photographs.`)
  if (sent.mark && (photographsOf(rows).find((p) => p.photograph === sent.photograph)?.marks.length ?? 0) >= MOST_MARKS)
    throw new EditError('mark', `A photograph takes ${MOST_MARKS} marks.`)
  const picture = first ?? { hash: hashOf(data!), ...measured(data!) }
  if (!first) keepFile(store, picture.hash, data!, write)
  const { hash, widthPx, heightPx } = picture
  store
    .insert(photographs)
    .values({ ...sent, jobId: id, hash, widthPx, heightPx, ...hand })
    .run()
}

/** Photographs out of an archive, each with its marks; one whose file is gone is left out. */
export function bringBack(
  store: Store,
  id: string,
  pictures: readonly (Omit<Photograph, 'hash' | 'widthPx' | 'heightPx' | 'out'> & { readonly jpeg: Uint8Array | null })[],
): void {
  for (const { photograph, of, words, moment, marks, jpeg, at, by } of pictures) {
    if (!jpeg) continue
    const row = { photograph, of, words, moment, out: false }
    addPhotograph(store, id, { ...row, id: photograph, data: jpeg }, { at, by })
    for (const mark of marks) addPhotograph(store, id, { ...row, id: randomUUID(), mark }, { at, by })
  }
}

/** The picture of a photograph of a job. @throws NotFoundError where there is none, or its file is gone */
export function photographFile(store: Store, id: string, photograph: string): Uint8Array<ArrayBuffer> {
  rowOf(store, id)
  const row = store
    .select({ hash: photographs.hash })
    .from(photographs)
    .where(and(eq(photographs.jobId, id), eq(photographs.id, photograph)))
    .get()
  const file = row && path.join(folderOf(store), `${row.hash}.jpg`)
  if (!file || !existsSync(/* turbopackIgnore: true */ file)) throw new NotFoundError()
  return new Uint8Array(readFileSync(/* turbopackIgnore: true */ file))
}

/** A photograph with the path of its file; null where the file is gone. */
export interface Filed extends Photograph {
  readonly file: string | null
}
/** Photographs of a job that were not put away, each with its file. */
export const pictures = (store: Store, id: string): readonly Filed[] =>
  photographsOf(photographRows(store, id))
    .filter((p) => !p.out)
    .map((p) => {
      const file = path.join(folderOf(store), `${p.hash}.jpg`)
      return { ...p, file: existsSync(/* turbopackIgnore: true */ file) ? file : null }
    })
