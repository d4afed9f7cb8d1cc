import { firstIssue } from '../input-error'
import { upgradeJob } from './upgrade'
import { JOB_VERSION, type Job, type JobFile, jobFileSchema, type Reading } from './schema'

type Migration = (file: Record<string, unknown>) => Record<string, unknown>
/** Brings a file of version `key` to the next version. */
const migrations: Readonly<Record<number, Migration>> = {
  1: (file) => ({ ...file, version: 2, job: upgradeJob(file.job) }),
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

/** A Job file as it is written: key order is the schema's, so equal jobs give equal files. */
export function writeJobFile(job: Job, readings: readonly Reading[]): JobFile {
  return jobFileSchema.parse({ format: 'synthema-job', version: JOB_VERSION, job, readings })
}

/**
 * Reads a Job file of this or an older version.
 * @throws JobFileError naming the path in the file, before anything has been changed.
 */
export function readJobFile(json: unknown): JobFile {
  const parsed = jobFileSchema.safeParse(migrate(json))
  if (!parsed.success) {
    const { path, message } = firstIssue(parsed.error)
    throw new JobFileError(path, message)
  }
  const { job, readings } = parsed.data
  job.circuits.forEach((circuit, i) => {
    requireUnique(circuit.designs, `job.circuits.${i}.designs`)
    if (!circuit.designs.some((d) => d.id === circuit.chosen))
      throw new JobFileError(`job.circuits.${i}.chosen`, `there is no design called ${circuit.chosen}`)
  })
  requireUnique(job.circuits, 'job.circuits')
  requireUnique(readings, 'readings')
  return parsed.data
}

function requireUnique(items: readonly { id: string }[], path: string) {
  const seen = new Set<string>()
  items.forEach((item, i) => {
    if (seen.has(item.id)) throw new JobFileError(`${path}.${i}.id`, `the id ${item.id} stands twice`)
    seen.add(item.id)
  })
}

function migrate(json: unknown): unknown {
  if (typeof json !== 'object' || json === null || Array.isArray(json)) throw new JobFileError('', 'a Job file is a JSON object')
  let file = json as Record<string, unknown>
  if (file.format !== 'synthema-job') throw new JobFileError('format', 'this is not a Job file: its format is not synthema-job')
  while (typeof file.version === 'number' && file.version < JOB_VERSION) {
    const step = migrations[file.version]
    if (!step) throw new JobFileError('version', `files of version ${file.version} cannot be read`)
    file = step(file)
  }
  if (file.version !== JOB_VERSION) throw new JobFileError('version', `this file is of version ${String(file.version)}; this application reads up to ${JOB_VERSION}`)
  return file
}
