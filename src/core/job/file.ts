import { firstIssue } from '../input-error'
import { MAIN_BOARD } from '../survey/schema'
import { loopOfFeeders } from '../design/fed'
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
  checkPoints(job)
  checkSurvey(job)
  return parsed.data
}

const refuse = (path: string, message: string): never => {
  throw new JobFileError(path, message)
}

/** Points of a circuit lead back to its beginning, and raceways hold circuits that are there. */
function checkPoints(job: Job) {
  job.circuits.forEach(({ points }, i) => {
    requireUnique(points, `job.circuits.${i}.points`)
    const byId = new Map(points.map((p) => [p.id, p]))
    points.forEach((p, k) => {
      const path = `job.circuits.${i}.points.${k}.from`
      for (let at = p, steps = 0; at.from !== null; steps++) {
        if (steps > points.length) refuse(path, `${p.name} leads back to itself, never to the board`)
        at = byId.get(at.from) ?? refuse(path, `there is no point called ${at.from}`)
      }
    })
  })
  job.circuits.forEach((circuit, i) => {
    if (circuit.feeder === null) return
    const path = `job.circuits.${i}.feeder`
    if (job.circuits.find((c) => c.id === circuit.feeder)?.kind !== 'feeder') refuse(path, `there is no feeder called ${circuit.feeder}`)
    if (loopOfFeeders(job.circuits, circuit.id, circuit.feeder)) refuse(path, `${circuit.name} would be fed by its own sub-board`)
  })
  requireUnique(job.raceways, 'job.raceways')
  const circuits = new Set(job.circuits.map((c) => c.id))
  job.raceways.forEach((r, i) => r.circuits.forEach((c, k) => circuits.has(c) || refuse(`job.raceways.${i}.circuits.${k}`, `there is no circuit called ${c}`)))
}

/** Everything in the survey speaks of what is in the survey. */
function checkSurvey({ survey }: Job) {
  const lists = ['boards', 'guards', 'ways', 'points', 'sightings', 'traces', 'runs', 'defects'] as const
  for (const list of lists) requireUnique(survey[list], `job.survey.${list}`)
  if (survey.boards[0]!.id !== MAIN_BOARD || survey.boards[0]!.fedFrom !== null) refuse('job.survey.boards.0', 'the first board is the main one, fed from the supply')
  const [boards, ways, points] = [survey.boards, survey.ways, survey.points].map((list) => new Set<string>(list.map((x) => x.id)))
  const need = (known: ReadonlySet<string>, id: string, path: string) => known.has(id) || refuse(path, `there is no ${id} in the survey`)
  survey.boards.forEach((b, i) => b.fedFrom === null || need(ways!, b.fedFrom, `job.survey.boards.${i}.fedFrom`))
  survey.guards.forEach((g, i) => need(boards!, g.board, `job.survey.guards.${i}.board`))
  survey.ways.forEach((w, i) => need(boards!, w.board, `job.survey.ways.${i}.board`))
  survey.sightings.forEach(({ seen }, i) => {
    const path = `job.survey.sightings.${i}.seen`
    if (seen.kind === 'breaker-off') need(ways!, seen.breaker, `${path}.breaker`)
    else need(points!, seen.point, `${path}.point`)
    if (seen.kind !== 'cables') seen.dead.forEach((d, k) => need(points!, d, `${path}.dead.${k}`))
  })
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
