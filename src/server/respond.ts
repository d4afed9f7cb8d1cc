import 'server-only'
import { isUtf8 } from 'node:buffer'
import { createReadStream, createWriteStream, mkdtempSync, rmSync, statSync } from 'node:fs'
import { tmpdir } from 'node:os'
import path from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { z } from 'zod'
import { countWhenQuiet } from './counting'
import { storageTroubleHere, written } from './data'
import { TooManyError } from './too-many'
import { firstNotUtf8 } from './utf8'
import { tell } from './watchers'
import { firstIssue } from '@/core/base/input-error'
import { EditError } from '@/core/job/edits'
import { JobFileError } from '@/core/job/file'
import { BackupError } from '@/store/backup'
import { SetAsideError } from '@/store/bring-up'
import { AnotherActError, type ChangedJob, NotFoundError, StaleError } from '@/store/jobs'

/** Uploads and posts are cut off here, before anything is parsed. */
const MAX_BYTES = 10 * 1024 * 1024

class BodyError extends Error {
  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message)
  }
}

/** The text of a request, at most 10 MB of UTF-8. */
export async function readText(request: Request): Promise<string> {
  const tooLarge = new BodyError(413, 'The file is larger than 10 MB.')
  if (Number(request.headers.get('content-length') ?? 0) > MAX_BYTES) throw tooLarge
  const parts: Uint8Array[] = []
  let size = 0
  for await (const chunk of (request.body ?? []) as AsyncIterable<Uint8Array>) {
    size += chunk.byteLength
    if (size > MAX_BYTES) throw tooLarge
    parts.push(chunk)
  }
  const whole = Buffer.concat(parts)
  if (isUtf8(whole)) return new TextDecoder().decode(whole)
  const at = firstNotUtf8(whole)
  throw new BodyError(400, `This is not UTF-8: byte ${at} is ${whole[at]!.toString(16).padStart(2, '0')} in hexadecimal. Save it as UTF-8.`)
}

/** The JSON of a request, at most 10 MB. */
export async function readJson(request: Request): Promise<unknown> {
  const text = await readText(request)
  try {
    return JSON.parse(text)
  } catch (e) {
    throw new BodyError(400, `This is not JSON: ${(e as Error).message}`)
  }
}

/** An archive is cut off here. */
const MAX_ARCHIVE = 200 * 1024 * 1024

/** The body of a request as a file for as long as it is read; it is never whole in memory. */
export async function receivedFile<T>(request: Request, read: (file: string) => Promise<T>): Promise<T> {
  const folder = mkdtempSync(path.join(tmpdir(), 'synthema-'))
  const file = path.join(folder, 'received.zip')
  try {
    let size = 0
    const counted = async function* (source: AsyncIterable<Uint8Array>) {
      for await (const chunk of source) {
        size += chunk.byteLength
        if (size > MAX_ARCHIVE) throw new BodyError(413, 'The file is larger than 200 MB; nothing was brought in.')
        yield chunk
      }
    }
    await pipeline((request.body ?? []) as AsyncIterable<Uint8Array>, counted, createWriteStream(file, { mode: 0o600 }))
    return await read(file)
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
}

export async function readBody<T extends z.ZodType>(request: Request, schema: T): Promise<z.output<T>> {
  return schema.parse(await readJson(request))
}

/** What a change answers: the patches to the job the asker holds at the revision it named, not the job. Others who look at it are told. */
export function changed({ job: _, readings: __, ...rest }: ChangedJob) {
  tell(rest.id)
  return rest
}

/** The readings a device lacks that holds so many of them: `from` there on. One that holds more than there are gets them all. */
export function lacking({ readings }: Pick<ChangedJob, 'readings'>, held: number) {
  const from = held <= readings.length ? held : 0
  return { from, readings: readings.slice(from) }
}

const problem = (status: number, path: string, message: string, more: object = {}) =>
  Response.json({ error: { path, message }, ...more }, { status })

/** Wraps a route: every refusal becomes a status with the path and the message, every answer JSON. */
export function route<C>(handle: (request: Request, context: C) => unknown): (request: Request, context: C) => Promise<Response> {
  return async (request, context) => {
    try {
      const answer = await handle(request, context)
      if (request.method !== 'GET') {
        written()
        countWhenQuiet()
      }
      return answer instanceof Response ? answer : Response.json(answer ?? { ok: true })
    } catch (e) {
      if (e instanceof StaleError) return problem(409, 'revision', e.message, { current: e.current, since: e.since })
      if (e instanceof SetAsideError) return problem(422, 'id', e.message)
      if (e instanceof AnotherActError) return problem(409, 'id', e.message)
      if (e instanceof NotFoundError) return problem(404, 'id', e.message)
      if (e instanceof EditError || e instanceof JobFileError) return problem(422, e.path, e.message)
      if (e instanceof TooManyError) return problem(503, '', e.message)
      if (e instanceof BackupError) return problem(422, '', e.message)
      if (e instanceof DOMException || (e instanceof Error && e.name === 'AbortError')) return problem(499, '', 'The client disconnected.')
      if (e instanceof BodyError) return problem(e.status, '', e.message)
      if (e instanceof z.ZodError) {
        const { path, message } = firstIssue(e)
        return problem(422, path, message)
      }
      const trouble = storageTroubleHere(e)
      if (trouble) return problem(trouble.trouble === 'full' ? 507 : 503, '', trouble.message)
      console.error(e)
      return problem(500, '', 'Something went wrong on the server; nothing was changed.')
    }
  }
}

export type IdContext = { params: Promise<{ id: string }> }

/** A download has a name that is plain ASCII, whatever the title. */
function named(type: string, name: string) {
  const safe = name.replace(/[^\w.-]+/g, '-').replace(/^-+|-+$/g, '') || 'file'
  return { 'content-type': type, 'content-disposition': `attachment; filename="${safe}"`, 'cache-control': 'no-store' }
}

export const download = (body: BodyInit, type: string, name: string): Response => new Response(body, { headers: named(type, name) })

/** Sends a file from the disk, then deletes its folder, also where the client disconnects before the end. */
export function downloadFile(file: string, type: string, name: string): Response {
  const read = createReadStream(/* turbopackIgnore: true */ file)
  read.on('close', () => rmSync(path.dirname(file), { recursive: true, force: true }))
  const length = String(statSync(/* turbopackIgnore: true */ file).size)
  return new Response(Readable.toWeb(read) as ReadableStream, { headers: { ...named(type, name), 'content-length': length } })
}
