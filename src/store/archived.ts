import { z } from 'zod'
import { JobFileError, readJobFile } from '../core/job/file'
import { MOST_MARKS, markSchema, photographSchema } from '../core/verify/photograph'
import { BackupError, readEntries } from './backup'
import { changeKinds } from './schema'

/* A job as it comes back from an archive: with its readings, its photographs and what became of it. */

const historySchema = z.array(
  z.object({
    revision: z.int().positive(),
    kind: z.enum(changeKinds),
    label: z.string().max(1000),
    at: z.iso.datetime(),
    by: z.string().max(120),
  }),
)
const picturesSchema = z.array(
  z.object({
    ...photographSchema.pick({ photograph: true, of: true, words: true, moment: true }).shape,
    marks: z.array(markSchema).max(MOST_MARKS).default([]),
    hash: z.string().regex(/^[0-9a-f]{64}$/),
    at: z.iso.datetime(),
    by: z.string().max(120),
  }),
)

const MOST_BYTES = 100_000_000
const MOST_PICTURES = 400

/** What an archive holds. @throws BackupError, JobFileError */
export async function readArchive(file: string) {
  const texts = await readEntries(file, ['job.json', 'history.json', 'photographs.json'], MOST_BYTES)
  const json = <T>(name: string, read: (x: unknown) => T, none: T): T => {
    const bytes = texts.get(name)
    if (!bytes) return none
    let value: unknown
    try {
      value = JSON.parse(new TextDecoder('utf-8', { fatal: true }).decode(bytes))
      return read(value)
    } catch (e) {
      if (e instanceof JobFileError) throw e
      throw new BackupError(`${name} in it is damaged, or of a later version.`)
    }
  }
  if (!texts.has('job.json')) throw new BackupError('This is no archive of a job: it has no job.json.')
  const whole = json('job.json', readJobFile, null)!
  const history = json('history.json', (x) => historySchema.parse(x), [])
  const pictures = json('photographs.json', (x) => picturesSchema.parse(x), []).slice(0, MOST_PICTURES)
  const files = await readEntries(
    file,
    pictures.map((p) => `photographs/${p.hash}.jpg`),
    MOST_BYTES,
  )
  return { ...whole, history, pictures: pictures.map((p) => ({ ...p, jpeg: files.get(`photographs/${p.hash}.jpg`) ?? null })) }
}
