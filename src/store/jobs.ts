import { and, asc, count, desc, eq, gt, inArray, isNotNull, isNull, lte, sql } from 'drizzle-orm'
import { accessory } from '../core/catalogue/accessories'
import { evaluate } from '../core/evaluate'
import { read } from '../core/installation/installation'
import type { Patch } from 'immer'
import { applyEdit, describeEdit, type Edit, EditError, patchJob } from '../core/job/edits'
import type { Reading } from '../core/job/reading'
import { type Job, jobSchema } from '../core/job/schema'
import type { Store } from './open'
import { jobChanges, jobs, readings } from './schema'

/** Who changes something, and when; the store has no clock of its own. */
export interface Hand {
  readonly by: string
  readonly at: string
}

export interface StoredJob {
  readonly id: string
  readonly revision: number
  readonly job: Job
  readonly readings: Reading[]
  readonly undoLabel: string | null
  readonly redoLabel: string | null
  readonly updatedAt: string
}

/** A job after a change, with what it changed of the one before; nothing where it changed nothing. */
export interface ChangedJob extends StoredJob {
  readonly patches: readonly Patch[]
}

export interface JobRow {
  readonly id: string
  readonly title: string
  readonly place: string
  readonly region: string
  readonly stage: string
  readonly errors: number
  readonly warnings: number
  readonly updatedAt: string
}

export interface ChangeRow {
  readonly revision: number
  readonly kind: string
  readonly label: string
  readonly at: string
  readonly by: string
}

/** The edit was made on a revision that is no longer the newest; nothing was written. */
export class StaleError extends Error {
  constructor(
    readonly current: StoredJob,
    readonly since: ChangeRow[],
  ) {
    super('The job has changed since.')
    this.name = 'StaleError'
  }
}

export class NotFoundError extends Error {
  constructor() {
    super('There is no such job.')
    this.name = 'NotFoundError'
  }
}

const summaryOf = (job: Job, read: readonly Reading[]) => {
  const report = evaluate(job, read)
  return {
    title: job.title,
    place: job.place,
    region: job.region,
    stage: report.reached,
    errors: report.counts.error,
    warnings: report.counts.warning,
  }
}

function searchWords(record: Job): string {
  const job = read(record)
  const { brief } = job
  return [
    brief.request,
    brief.askedBy,
    brief.through,
    brief.existing,
    brief.later,
    job.supply.board,
    ...job.boards.map((b) => b.name),
    ...job.ways.map((w) => w.label),
    ...job.points.flatMap((p) => [p.name, p.room, p.cable]),
    ...job.defects.flatMap((d) => [d.text, d.place, d.reason]),
    ...job.traces.map((t) => t.title),
    ...job.circuits.flatMap((c) => [
      c.name,
      c.way,
      c.load.name,
      c.reason,
      ...[...c.designs, ...c.points].map((d) => accessory(d.accessory)?.name ?? ''),
    ]),
  ].join(' ')
}

function index(store: Store, id: string, job: Job) {
  store.run(sql`DELETE FROM jobs_fts WHERE job_id = ${id}`)
  store.run(sql`INSERT INTO jobs_fts (job_id, title, place, words) VALUES (${id}, ${job.title}, ${job.place}, ${searchWords(job)})`)
}

const rowFor = ({ on, ...reading }: Reading, jobId: string) => ({ ...reading, takenOn: on, jobId })

/** Puts a new job in, with its readings if it comes from a file. */
export function createJob(store: Store, id: string, job: Job, read: readonly Reading[], hand: Hand, label = 'Job made'): void {
  store.transaction((tx) => {
    const t = tx as unknown as Store
    t.insert(jobs)
      .values({ id, revision: 1, job, ...summaryOf(job, read), undoHead: 0, redo: [], createdAt: hand.at, updatedAt: hand.at })
      .run()
    t.insert(jobChanges)
      .values({ jobId: id, revision: 1, kind: 'create', label, edit: null, patches: [], inverse: [], parent: 0, at: hand.at, by: hand.by })
      .run()
    for (const r of read) t.insert(readings).values(rowFor(r, id)).run()
    index(t, id, job)
  })
}

function rowOf(store: Store, id: string) {
  const row = store
    .select()
    .from(jobs)
    .where(and(eq(jobs.id, id), isNull(jobs.deletedAt)))
    .get()
  if (!row) throw new NotFoundError()
  return row
}

const labelOf = (store: Store, id: string, revision: number | undefined): string | null =>
  revision
    ? (store
        .select({ label: jobChanges.label })
        .from(jobChanges)
        .where(and(eq(jobChanges.jobId, id), eq(jobChanges.revision, revision)))
        .get()?.label ?? null)
    : null

export function readingsOf(store: Store, id: string): Reading[] {
  return store
    .select()
    .from(readings)
    .where(eq(readings.jobId, id))
    .orderBy(asc(readings.seq))
    .all()
    .map(({ seq: _, jobId: __, takenOn, ...reading }) => ({ ...reading, on: takenOn }))
}

/** @throws NotFoundError */
export function loadJob(store: Store, id: string): StoredJob {
  const row = rowOf(store, id)
  return {
    id,
    revision: row.revision,
    job: row.job,
    readings: readingsOf(store, id),
    undoLabel: labelOf(store, id, row.undoHead),
    redoLabel: labelOf(store, id, row.redo[0]),
    updatedAt: row.updatedAt,
  }
}

function changesAfter(store: Store, id: string, revision: number): ChangeRow[] {
  return store
    .select({ revision: jobChanges.revision, kind: jobChanges.kind, label: jobChanges.label, at: jobChanges.at, by: jobChanges.by })
    .from(jobChanges)
    .where(and(eq(jobChanges.jobId, id), gt(jobChanges.revision, revision)))
    .orderBy(asc(jobChanges.revision))
    .all()
}

type Row = typeof jobs.$inferSelect
interface Change {
  kind: 'edit' | 'undo' | 'redo' | 'restore'
  label: string
  edit: Edit | null
  job: Job
  patches: (typeof jobChanges.$inferInsert)['patches']
  inverse: (typeof jobChanges.$inferInsert)['inverse']
  target: number | null
  undoHead: (revision: number) => number
  redo: number[]
}

/** One transaction a change: the row is read, checked for its revision, changed and logged, or nothing is. */
function change(store: Store, id: string, revision: number, hand: Hand, make: (row: Row, store: Store) => Change | null): ChangedJob {
  let patches: readonly Patch[] = []
  store.transaction(
    (tx) => {
      const t = tx as unknown as Store
      const row = rowOf(t, id)
      if (row.revision !== revision) throw new StaleError(loadJob(t, id), changesAfter(t, id, revision))
      const made = make(row, t)
      if (!made) return
      const next = row.revision + 1
      patches = made.patches
      const job = jobSchema.parse(made.job)
      t.insert(jobChanges)
        .values({
          jobId: id,
          revision: next,
          kind: made.kind,
          label: made.label,
          edit: made.edit,
          patches: made.patches,
          inverse: made.inverse,
          parent: row.undoHead,
          target: made.target,
          at: hand.at,
          by: hand.by,
        })
        .run()
      t.update(jobs)
        .set({
          revision: next,
          job,
          ...summaryOf(job, readingsOf(t, id)),
          undoHead: made.undoHead(next),
          redo: made.redo,
          updatedAt: hand.at,
        })
        .where(eq(jobs.id, id))
        .run()
      index(t, id, job)
    },
    { behavior: 'immediate' },
  )
  return { ...loadJob(store, id), patches }
}

/** @throws StaleError, NotFoundError, EditError; and ZodError where the edit leaves the job not valid. */
export function editJob(store: Store, id: string, revision: number, edit: Edit, hand: Hand): ChangedJob {
  return change(store, id, revision, hand, (row) => {
    const { job, patches, inverse } = applyEdit(row.job, edit)
    if (patches.length === 0) return null
    return { kind: 'edit', label: describeEdit(row.job, edit), edit, job, patches, inverse, target: null, undoHead: (r) => r, redo: [] }
  })
}

function changeAt(store: Store, id: string, revision: number) {
  return store
    .select()
    .from(jobChanges)
    .where(and(eq(jobChanges.jobId, id), eq(jobChanges.revision, revision)))
    .get()!
}

/** Takes the newest standing edit back; with nothing to undo the job stays as it is. */
export function undoJob(store: Store, id: string, revision: number, hand: Hand): ChangedJob {
  return change(store, id, revision, hand, (row, t) => {
    if (row.undoHead <= row.broughtUpAt) return null
    const undone = changeAt(t, id, row.undoHead)
    return {
      kind: 'undo',
      label: `Undone: ${undone.label}`,
      edit: null,
      job: patchJob(row.job, undone.inverse),
      patches: undone.inverse,
      inverse: undone.patches,
      target: undone.revision,
      undoHead: () => undone.parent,
      redo: [undone.revision, ...row.redo],
    }
  })
}

export function redoJob(store: Store, id: string, revision: number, hand: Hand): ChangedJob {
  return change(store, id, revision, hand, (row, t) => {
    const [next, ...rest] = row.redo
    if (next === undefined) return null
    const redone = changeAt(t, id, next)
    return {
      kind: 'redo',
      label: `Done again: ${redone.label}`,
      edit: null,
      job: patchJob(row.job, redone.patches),
      patches: redone.patches,
      inverse: redone.inverse,
      target: redone.revision,
      undoHead: () => redone.revision,
      redo: rest,
    }
  })
}

/** Goes back to how the job stood at an earlier revision; itself a change that can be undone. */
export function restoreJob(store: Store, id: string, revision: number, to: number, hand: Hand): ChangedJob {
  return change(store, id, revision, hand, (row, t) => {
    if (to < row.broughtUpAt)
      throw new EditError(
        'to',
        'That revision is from before the job was brought up to this version; it is in the copy of the database kept then.',
      )
    const since = t
      .select()
      .from(jobChanges)
      .where(and(eq(jobChanges.jobId, id), gt(jobChanges.revision, to), lte(jobChanges.revision, row.revision)))
      .orderBy(desc(jobChanges.revision))
      .all()
    if (since.length === 0) return null
    const target = changeAt(t, id, to)
    if (!target) throw new NotFoundError()
    const patches = since.flatMap((c) => c.inverse)
    return {
      kind: 'restore',
      label: `Gone back to ${to}: ${target.label}`,
      edit: null,
      job: patchJob(row.job, patches),
      patches,
      inverse: since.toReversed().flatMap((c) => c.patches),
      target: to,
      undoHead: (r) => r,
      redo: [],
    }
  })
}

/** Newest first. */
export function historyOf(store: Store, id: string, limit = 500): ChangeRow[] {
  rowOf(store, id)
  return store
    .select({ revision: jobChanges.revision, kind: jobChanges.kind, label: jobChanges.label, at: jobChanges.at, by: jobChanges.by })
    .from(jobChanges)
    .where(eq(jobChanges.jobId, id))
    .orderBy(desc(jobChanges.revision))
    .limit(limit)
    .all()
}

/** Appends a reading; one that is there already by its id is left as it is. */
export function addReading(store: Store, id: string, reading: Reading): StoredJob {
  store.transaction(
    (tx) => {
      const t = tx as unknown as Store
      const row = rowOf(t, id)
      t.insert(readings).values(rowFor(reading, id)).onConflictDoNothing().run()
      t.update(jobs)
        .set({ ...summaryOf(row.job, readingsOf(t, id)), updatedAt: reading.at })
        .where(eq(jobs.id, id))
        .run()
    },
    { behavior: 'immediate' },
  )
  return loadJob(store, id)
}

export function deleteJob(store: Store, id: string, at: string): void {
  rowOf(store, id)
  store.update(jobs).set({ deletedAt: at }).where(eq(jobs.id, id)).run()
}

export function undeleteJob(store: Store, id: string): void {
  const { changes } = store.update(jobs).set({ deletedAt: null }).where(eq(jobs.id, id)).run()
  if (changes === 0) throw new NotFoundError()
}

export const PAGE_SIZE = 50
const listColumns = {
  id: jobs.id,
  title: jobs.title,
  place: jobs.place,
  region: jobs.region,
  stage: jobs.stage,
  errors: jobs.errors,
  warnings: jobs.warnings,
  updatedAt: jobs.updatedAt,
}

/** Every word typed must stand at the start of some word of the job. */
function matching(store: Store, search: string) {
  const words = search.match(/[\p{L}\p{N}]+/gu) ?? []
  if (words.length === 0) return undefined
  const query = words.map((w) => `"${w}"*`).join(' ')
  const ids = store.all<{ job_id: string }>(sql`SELECT job_id FROM jobs_fts WHERE jobs_fts MATCH ${query} ORDER BY rank LIMIT 500`)
  return inArray(
    jobs.id,
    ids.map((r) => r.job_id),
  )
}

export function listJobs(
  store: Store,
  options: { search?: string; page?: number; deleted?: boolean } = {},
): { rows: JobRow[]; total: number } {
  const where = and(
    options.deleted ? isNotNull(jobs.deletedAt) : isNull(jobs.deletedAt),
    options.search ? matching(store, options.search) : undefined,
  )
  const rows = store
    .select(listColumns)
    .from(jobs)
    .where(where)
    .orderBy(desc(jobs.updatedAt), asc(jobs.id))
    .limit(PAGE_SIZE)
    .offset(PAGE_SIZE * ((options.page ?? 1) - 1))
    .all()
  const total = store.select({ n: count() }).from(jobs).where(where).get()!.n
  return { rows, total }
}

/** The stage a job has reached, or null where there is no such job. */
export const stageOf = (store: Store, id: string): string | null =>
  store.select({ stage: jobs.stage }).from(jobs).where(eq(jobs.id, id)).get()?.stage ?? null
