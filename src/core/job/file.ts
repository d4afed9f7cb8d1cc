import { z } from 'zod'
import { firstIssue } from '../base/input-error'
import { type Fault, faultIn } from './check'
import { fromVersion2, readingFromVersion2 } from './older/bring-up'
import { jobFileSchema as fileOfVersion2 } from './older/version-2'
import { faultInVersion2 } from './older/version-2-check'
import { upgradeJob } from './older/version-2-complete'
import { jobOfVersion3, withBoxes } from './older/version-3'
import type { Reading } from './reading'
import { JOB_VERSION, type Job, type JobFile, jobFileSchema, jobSchema } from './schema'

type Plain = Record<string, unknown>
type Migration = (file: Plain) => Plain
/** Brings a file of version `key` to a later one. */
const migrations: Readonly<Record<number, Migration>> = {
  1: (file) => ({ ...file, version: 2, job: upgradeJob(file.job) }),
  2: (file) => {
    const { job, readings } = parsed(fileOfVersion2, { ...file, job: upgradeJob(file.job) })
    refuseAt('job', faultInVersion2(job))
    return { format: 'synthema-job', version: JOB_VERSION, job: fromVersion2(job), readings: readings.map(readingFromVersion2) }
  },
  3: (file) => ({ ...file, version: 4, job: withBoxes(parsed(jobOfVersion3, file.job, 'job')) }),
}

export class JobFileError extends Error {
  constructor(
    readonly path: string,
    message: string,
  ) {
    super(message)
    this.name = 'JobFileError'
  }
}

function parsed<S extends z.ZodType>(schema: S, json: unknown, at = ''): z.output<S> {
  const result = schema.safeParse(json)
  if (result.success) return result.data
  const { path, message } = firstIssue(result.error)
  throw new JobFileError([at, path].filter(Boolean).join('.'), message)
}

function refuseAt(where: string, fault: Fault | null): void {
  if (fault) throw new JobFileError(`${where}.${fault.path}`, fault.message)
}

/** A Job file as it is written: key order is the schema's, so equal jobs give equal files. */
export function writeJobFile(job: Job, readings: readonly Reading[]): JobFile {
  return jobFileSchema.parse({ format: 'synthema-job', version: JOB_VERSION, job, readings })
}

/**
 * Reads a Job file of this or an older version.
 * @throws JobFileError naming the path in the file, before anything has been changed.
 */
export function readJobFile(json: unknown): JobFile {
  refuseNames(json)
  const file = parsed(jobFileSchema, brought(json))
  refuseAt('job', faultIn(file.job))
  const seen = new Set<string>()
  file.readings.forEach((r, i) => {
    if (seen.has(r.id)) throw new JobFileError(`readings.${i}.id`, `the id ${r.id} occurs twice`)
    seen.add(r.id)
  })
  file.readings.forEach((r, i) => {
    if (r.corrects !== null && !seen.has(r.corrects))
      throw new JobFileError(`readings.${i}.corrects`, `there is no reading ${r.corrects} that it could correct`)
  })
  return file
}

/** What is called by names of its own choosing is never called as every object of the language is: such a name would be dropped unseen. */
function refuseNames(json: unknown): void {
  const job = (json as { job?: Plain } | null)?.job
  for (const part of ['prices', 'answers'] as const) {
    const list = job?.[part]
    if (typeof list === 'object' && list !== null && Object.hasOwn(list, '__proto__'))
      throw new JobFileError(`job.${part}.__proto__`, 'this name is not free')
  }
}

/** The version of a job as the store kept it, which writes none beside it. */
export function versionStored(stored: unknown): number {
  if (typeof stored !== 'object' || stored === null || 'survey' in stored) return 2
  return 'boxes' in stored ? JOB_VERSION : 3
}

/** A job as the store kept it, of whatever version. @throws JobFileError */
export function readStoredJob(stored: unknown): Job {
  const version = versionStored(stored)
  if (version === JOB_VERSION) return parsed(jobSchema, stored)
  return readJobFile({ format: 'synthema-job', version, job: stored, readings: [] }).job
}

function brought(json: unknown): unknown {
  if (typeof json !== 'object' || json === null || Array.isArray(json)) throw new JobFileError('', 'a Job file is a JSON object')
  let file = json as Plain
  if (file.format !== 'synthema-job') throw new JobFileError('format', 'this is not a Job file: its format is not synthema-job')
  while (typeof file.version === 'number' && file.version < JOB_VERSION) {
    const step = migrations[file.version]
    if (!step) throw new JobFileError('version', `files of version ${file.version} cannot be read`)
    file = step(file)
  }
  if (file.version !== JOB_VERSION)
    throw new JobFileError('version', `this file is of version ${String(file.version)}; this application reads up to ${JOB_VERSION}`)
  return file
}
