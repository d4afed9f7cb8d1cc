import { SqliteError } from 'better-sqlite3'
import { and, asc, count, desc, eq, gt, inArray, isNotNull, isNull, lte, max, or, sql } from 'drizzle-orm'
import { accessory } from '../core/catalogue/accessories'
import { evaluate } from '@/core/evaluate/evaluate'
import { read } from '../core/installation/installation'
import type { Patch } from 'immer'
import { applyEdit, describeEdit, differenceOf, type Edit, EditError, patchJob } from '../core/job/edits'
import { stageOfEdit, type Step } from '@/core/evaluate/edit-stages'
import type { Reading } from '../core/job/reading'
import { stageIds } from '@/core/report/stages'
import { type Hit, hitsOf, wordsOf } from '../core/documents/hits'
import { photographsOf } from '../core/verify/photograph'
import { bringUpJob, SetAsideError } from './bring-up'
import { digestOf } from './chain'
import { checkChanged, type Job, JOB_VERSION, jobSchema } from '../core/job/schema'
import { type Held, heldAt, hold, patchesBetween } from './held'
import { asked, prepared } from './prepared'
import type { Store } from './open'
import { type DueAgain, jobChanges, jobs, photographs, readings } from './schema'

/** Who changes something, and when; the store has no clock of its own. */
export interface Hand {
  readonly by: string
  readonly at: string
}

export interface StoredJob {
  readonly id: string
  readonly revision: number
  readonly job: Job
  readonly readings: readonly Reading[]
  readonly undo: Step | null
  readonly redo: Step | null
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
  /** Whether they were counted since it was changed last. */
  readonly counted: boolean
  /** Why it could not be brought up to this version; null: it could, or was not tried yet. */
  readonly setAside: string | null
  readonly updatedAt: string
}

export interface ChangeRow {
  readonly revision: number
  readonly kind: string
  readonly label: string
  readonly at: string
  readonly by: string
}

/** Optimistic concurrency: the edit names a revision that is no longer the newest; nothing was written. */
export class StaleError extends Error {
  constructor(
    readonly current: StoredJob,
    readonly since: ChangeRow[],
  ) {
    super('The job has changed since.')
    this.name = 'StaleError'
  }
}

/** An act with this name was done already, and it was another. */
export class AnotherActError extends Error {
  constructor() {
    super('Something else was recorded under this name already; this was not. Do it again.')
    this.name = 'AnotherActError'
  }
}

export class NotFoundError extends Error {
  constructor() {
    super('There is no such job.')
    this.name = 'NotFoundError'
  }
}

/** What the list shows of a job that need not be worked out; the rest is counted when somebody looks, or in a quiet moment. */
const namesOf = (job: Job, lastBy: string) => ({
  title: job.title,
  place: job.place,
  region: job.region,
  due: dueIn(job),
  lastBy,
  counted: false,
})
/** What of a job is due again and was not done; null: nothing. */
function dueIn({ due = [] }: Job): readonly DueAgain[] | null {
  const left = due.flatMap(({ what, on, doneOn }) => (doneOn === null ? [{ what, on }] : []))
  return left.length ? left : null
}

/** Counts what is wrong and open in a job as it stands. */
function countJob(store: Store, id: string): void {
  store.transaction(
    () => {
      const { job, readings: taken } = heldAt(store, rowOf(store, id))
      const report = evaluate(job, taken)
      const open = report.stages.reduce((sum, s) => sum + s.open.length, 0)
      const { error: errors, warning: warnings } = report.counts
      store.update(jobs).set({ stage: report.reached, errors, warnings, open, counted: true }).where(eq(jobs.id, id)).run()
    },
    { behavior: 'immediate' },
  )
}

/** Counts one job; one that cannot be worked out stays as it is, and stops no other. Whether it was counted. */
function counted(store: Store, id: string): boolean {
  try {
    countJob(store, id)
    return true
  } catch (e) {
    if (e instanceof SqliteError) throw e
    if (!(e instanceof SetAsideError)) console.error(`Synthema: job ${id} could not be worked out.`, e)
    return false
  }
}

/** Counts jobs that were changed since they were counted, those changed last first, until `enough`. How many it counted. */
export function countJobs(store: Store, enough: (done: number) => boolean = () => false): number {
  const left = store
    .select({ id: jobs.id })
    .from(jobs)
    .where(and(sql`not ${jobs.counted}`, isNull(jobs.deletedAt), isNull(jobs.setAside)))
    .orderBy(desc(jobs.updatedAt))
    .all()
  let done = 0
  for (const { id } of left) {
    if (enough(done)) break
    if (counted(store, id)) done++
  }
  return done
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
    ...(job.issues ?? []).flatMap((i) => i.signatures.map((x) => x.name)),
    ...job.raceways.map((r) => r.name),
    ...(job.day?.own ?? []).map((t) => t.name),
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

type Indexed = Record<'title' | 'place' | 'words', string>
const indexed = prepared(({ $client }) => $client.prepare<[number], Indexed>('SELECT title, place, words FROM jobs_fts WHERE rowid = ?'))

/** Puts the words of a job into the index, where they are others than those that are there. The row they are in. */
function index(store: Store, id: string, job: Job, row: number | null): number {
  const words = searchWords(job)
  if (row !== null) {
    const there = indexed(store).get(row)
    if (there?.title === job.title && there.place === job.place && there.words === words) return row
    store.run(sql`DELETE FROM jobs_fts WHERE rowid = ${row}`)
  }
  const { lastInsertRowid } = store.run(
    sql`INSERT INTO jobs_fts (job_id, title, place, words) VALUES (${id}, ${job.title}, ${job.place}, ${words})`,
  )
  return Number(lastInsertRowid)
}

const rowFor = ({ on, ...reading }: Reading, jobId: string) => ({ ...reading, takenOn: on, jobId })

/**
 * Puts a new job in, with its readings and what became of it where it comes from elsewhere: what was done there is listed, and is not taken
 * back here.
 * @throws ZodError where it could not be read back.
 */
export function createJob(
  store: Store,
  id: string,
  job: Job,
  read: readonly Reading[],
  hand: Hand,
  label = 'Job made',
  history: readonly Pick<typeof jobChanges.$inferInsert, 'kind' | 'label' | 'at' | 'by'>[] = [],
): void {
  jobSchema.parse(job)
  const revision = history.length + 1
  store.transaction(() => {
    const searchRow = index(store, id, job, null)
    store
      .insert(jobs)
      .values({
        id,
        revision,
        snapshot: revision,
        broughtUpAt: history.length ? revision : 0,
        version: JOB_VERSION,
        job,
        searchRow,
        ...namesOf(job, hand.by),
        stage: stageIds[0],
        errors: 0,
        warnings: 0,
        undoHead: 0,
        redo: [],
        createdAt: hand.at,
        updatedAt: hand.at,
      })
      .run()
    const none = { jobId: id, edit: null, patches: [], inverse: [], parent: 0 }
    for (const [i, { kind, label: told, at, by }] of history.entries())
      store
        .insert(jobChanges)
        .values({ ...none, revision: i + 1, kind, label: told, at, by })
        .run()
    store
      .insert(jobChanges)
      .values({ ...none, revision, kind: 'create', label, at: hand.at, by: hand.by })
      .run()
    for (const r of read) store.insert(readings).values(rowFor(r, id)).run()
  })
}

const rowColumns = {
  id: jobs.id,
  revision: jobs.revision,
  snapshot: jobs.snapshot,
  searchRow: jobs.searchRow,
  undoHead: jobs.undoHead,
  redo: jobs.redo,
  broughtUpAt: jobs.broughtUpAt,
  version: jobs.version,
  updatedAt: jobs.updatedAt,
}
const rowById = prepared((store) =>
  store
    .select(rowColumns)
    .from(jobs)
    .where(and(eq(jobs.id, asked('id')), isNull(jobs.deletedAt)))
    .prepare(),
)
/**
 * All that is kept of a job but the job itself, which is brought up to this version where it is of an older one.
 * @throws NotFoundError, SetAsideError
 */
export function rowOf(store: Store, id: string) {
  const row = rowById(store).get({ id })
  if (!row) throw new NotFoundError()
  if (row.version >= JOB_VERSION) return row
  bringUpJob(store.$client, id)
  return rowById(store).get({ id })!
}

const stepAt = prepared((store) =>
  store
    .select({ label: jobChanges.label, edit: jobChanges.edit })
    .from(jobChanges)
    .where(and(eq(jobChanges.jobId, asked('id')), eq(jobChanges.revision, asked('revision'))))
    .prepare(),
)
/** What somebody signed stays: what changes later is signed again. */
const isSignature = (edit: Edit | null): boolean => edit?.kind === 'issue.sign' || edit?.kind === 'isolation.sign'
/** A job as it stood once, with every signature that was given since. */
const withSignatures = (then: Job, { issues, day }: Job): Job => ({
  ...then,
  ...(issues ? { issues } : {}),
  ...(day?.signatures.length ? { day: { ...(then.day ?? day), signatures: day.signatures } } : {}),
})

function stepOf(store: Store, id: string, revision: number | undefined): Step | null {
  if (!revision) return null
  const made = stepAt(store).get({ id, revision })
  // A signature is not taken back: there is nothing to undo under it.
  if (!made || isSignature(made.edit)) return null
  return { label: made.label, stage: made.edit ? stageOfEdit(made.edit.kind) : null }
}

/** @throws NotFoundError */
export function loadJob(store: Store, id: string): StoredJob {
  const row = rowOf(store, id)
  const held = heldAt(store, row)
  hold(store, id, held)
  return {
    id,
    revision: row.revision,
    job: held.job,
    readings: held.readings,
    undo: stepOf(store, id, row.undoHead),
    redo: stepOf(store, id, row.redo[0]),
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

type Row = ReturnType<typeof rowOf> & { readonly job: Job }
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

/** What is made, or, where it no longer fits what others made of the job meanwhile, what `instead` throws. */
function madeOr<T>(make: () => T, instead: (() => Error) | null): T {
  try {
    return make()
  } catch (e) {
    if (instead && e instanceof EditError) throw instead()
    throw e
  }
}

/** The whole job is written once in so many changes; between, its state follows from its changes. */
const SNAPSHOT_EVERY = 40

/** Writes a change down; the job as it stands then. */
function write(store: Store, row: Row, made: Change, held: Held, hand: Hand, act: string | null): Held {
  checkChanged(row.job, made.job)
  const next = row.revision + 1
  store
    .insert(jobChanges)
    .values({
      jobId: row.id,
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
      act,
    })
    .run()
  store
    .update(jobs)
    .set({
      revision: next,
      ...(next - row.snapshot >= SNAPSHOT_EVERY && { job: made.job, snapshot: next }),
      ...namesOf(made.job, hand.by),
      searchRow: index(store, row.id, made.job, row.searchRow),
      undoHead: made.undoHead(next),
      redo: made.redo,
      updatedAt: hand.at,
    })
    .where(eq(jobs.id, row.id))
    .run()
  return { ...held, revision: next, job: made.job }
}

/** An act of a device: what it had seen of the job, and acts of its own that it did it on top of. */
interface Done {
  readonly act: string | null
  readonly seen: number
  readonly over: ReadonlySet<string>
}
const noActs: ReadonlySet<string> = new Set()

/** One transaction a change: the row is read, checked for its revision, changed and logged, or nothing is. */
function change(
  store: Store,
  id: string,
  revision: number,
  hand: Hand,
  make: (row: Row) => Change | null,
  { act, seen, over }: Done = { act: null, seen: revision, over: noActs },
): ChangedJob {
  const { patches, stands } = store.transaction(
    (): { patches: readonly Patch[]; stands: Held } => {
      const bare = rowOf(store, id)
      const held = heldAt(store, bare)
      const row = { ...bare, job: held.job }
      const since = row.revision === revision ? [] : patchesAfter(store, id, revision)
      const done = act === null ? undefined : actDone(store, id, act)
      const stale = () => new StaleError(loadJob(store, id), changesAfter(store, id, revision))
      // What others did after the revision it was done on; what the device itself did then it had before it.
      const unseen = row.revision === seen ? [] : patchesOfOthers(store, id, seen, over)
      const made = madeOr(() => make(row), row.revision === seen ? null : stale)
      if (done) {
        // Sent again because the answer was lost: it is stored once, and is answered as if it had just been done.
        if (JSON.stringify(done.edit) !== JSON.stringify(made?.edit ?? null)) throw new AnotherActError()
        if (since === null) throw stale()
        return { patches: since, stands: held }
      }
      const fits = row.revision === seen || made === null || (made.kind === 'edit' && unseen !== null && apart(made.patches, unseen))
      if (since === null || !fits) throw stale()
      if (!made) return { patches: since, stands: held }
      return { patches: [...since, ...made.patches], stands: write(store, row, made, held, hand, act) }
    },
    { behavior: 'immediate' },
  )
  // Only now is it on the disk.
  hold(store, id, stands)
  return { ...loadJob(store, id), patches }
}

/** @throws StaleError, NotFoundError, EditError; and ZodError where the edit leaves the job not valid. */
export function editJob(
  store: Store,
  id: string,
  revision: number,
  edit: Edit,
  hand: Hand,
  { act = null, seen = revision, over = noActs }: Partial<Done> = {},
): ChangedJob {
  const make = (row: Row): Change | null => {
    const { job, patches, inverse } = applyEdit(row.job, edit)
    if (patches.length === 0) return null
    return { kind: 'edit', label: describeEdit(row.job, edit), edit, job, patches, inverse, target: null, undoHead: (r) => r, redo: [] }
  }
  // An act that was done already is not made again: what it would make of the job now says nothing.
  const repeated = (row: Row): Change | null => {
    const done = act === null ? undefined : actDone(store, id, act)
    if (!done) return make(row)
    return { kind: 'edit', label: '', edit, job: row.job, patches: [], inverse: [], target: null, undoHead: (r) => r, redo: [] }
  }
  return change(store, id, revision, hand, repeated, { act, seen, over })
}

const editOfAct = prepared((store) =>
  store
    .select({ edit: jobChanges.edit })
    .from(jobChanges)
    .where(and(eq(jobChanges.jobId, asked('id')), eq(jobChanges.act, asked('act'))))
    .prepare(),
)
const actDone = (store: Store, id: string, act: string) => editOfAct(store).get({ id, act })

/** What changed after a revision, in order; null where that revision is not one of this job's, or lies before it was brought up. */
function patchesAfter(store: Store, id: string, revision: number): Patch[] | null {
  const row = rowOf(store, id)
  if (revision > row.revision || revision < row.broughtUpAt || revision < 1) return null
  return patchesBetween(store, id, revision, row.revision)
}

/** What changed after a revision but for acts of one device; null as above. */
function patchesOfOthers(store: Store, id: string, revision: number, own: ReadonlySet<string>): readonly Patch[] | null {
  if (own.size === 0) return patchesAfter(store, id, revision)
  const row = rowOf(store, id)
  if (revision > row.revision || revision < row.broughtUpAt || revision < 1) return null
  return store
    .select({ act: jobChanges.act, patches: jobChanges.patches })
    .from(jobChanges)
    .where(and(eq(jobChanges.jobId, id), gt(jobChanges.revision, revision)))
    .orderBy(asc(jobChanges.revision))
    .all()
    .flatMap((c) => (c.act !== null && own.has(c.act) ? [] : c.patches))
}

/** What a device that holds a job as it stood at a revision lacks of it; null where it must load the job again. @throws NotFoundError */
export function changedSince(store: Store, id: string, revision: number): ChangedJob | null {
  const patches = patchesAfter(store, id, revision)
  return patches && { ...loadJob(store, id), patches }
}

/**
 * Whether two sets of patches touch different things: no place of one lies at, in or about a place of the other. Two things put at the end
 * of one list do not touch each other; the length of a list does.
 */
export function apart(mine: readonly Patch[], theirs: readonly Patch[]): boolean {
  const within = (a: Patch['path'], b: Patch['path']) => a.length <= b.length && a.every((k, i) => k === b[i])
  const listOf = (p: Patch) => (p.path.at(-1) === 'length' ? p.path.slice(0, -1) : null)
  return mine.every((m) =>
    theirs.every((t) => {
      const [mineCut, theirsCut] = [listOf(m), listOf(t)]
      if (mineCut && within(mineCut, t.path)) return false
      if (theirsCut && within(theirsCut, m.path)) return false
      if (m.op === 'add' && t.op === 'add' && typeof m.path.at(-1) === 'number') return true
      return !within(m.path, t.path) && !within(t.path, m.path)
    }),
  )
}

function changeAt(store: Store, id: string, revision: number) {
  return store
    .select()
    .from(jobChanges)
    .where(and(eq(jobChanges.jobId, id), eq(jobChanges.revision, revision)))
    .get()!
}

/** Takes the newest standing edit back; with nothing to undo, or a signature, the job stays as it is. */
export function undoJob(store: Store, id: string, revision: number, hand: Hand): ChangedJob {
  return change(store, id, revision, hand, (row) => {
    if (row.undoHead <= row.broughtUpAt) return null
    const undone = changeAt(store, id, row.undoHead)
    if (isSignature(undone.edit)) return null
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
  return change(store, id, revision, hand, (row) => {
    const [next, ...rest] = row.redo
    if (next === undefined) return null
    const redone = changeAt(store, id, next)
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
  return change(store, id, revision, hand, (row) => {
    if (to < row.broughtUpAt)
      throw new EditError(
        'to',
        'That revision is from before the job was brought up to this version; it is in the copy of the database kept then.',
      )
    const target = changeAt(store, id, to)
    if (!target) throw new NotFoundError()
    const since = store
      .select({ inverse: jobChanges.inverse })
      .from(jobChanges)
      .where(and(eq(jobChanges.jobId, id), gt(jobChanges.revision, to), lte(jobChanges.revision, row.revision)))
      .orderBy(desc(jobChanges.revision))
      .all()
    const then = withSignatures(
      patchJob(
        row.job,
        since.flatMap((c) => c.inverse),
      ),
      row.job,
    )
    const { job, patches, inverse } = differenceOf(row.job, then)
    if (patches.length === 0) return null
    return {
      kind: 'restore',
      label: `Gone back to ${to}: ${target.label}`,
      edit: null,
      job,
      patches,
      inverse,
      target: to,
      undoHead: (r) => r,
      redo: [],
    }
  })
}

/**
 * The job as it stood when an issue of it was signed, with the readings taken until then.
 * @throws NotFoundError
 */
export function jobAtIssue(store: Store, id: string, n: number): StoredJob {
  const now = loadJob(store, id)
  const issue = now.job.issues?.find((i) => i.n === n)
  const last = issue?.signatures.at(-1)
  if (!issue || !last) throw new NotFoundError()
  const since = store
    .select({ revision: jobChanges.revision, inverse: jobChanges.inverse, edit: jobChanges.edit, at: jobChanges.at })
    .from(jobChanges)
    .where(eq(jobChanges.jobId, id))
    .orderBy(desc(jobChanges.revision))
    .all()
  const signed = since.findIndex(({ edit }) => edit?.kind === 'issue.sign' && edit.signature.id === last.id)
  // Signed elsewhere and brought in: nothing of that time is here but what came with it.
  if (signed < 0) return now
  const job = patchJob(
    now.job,
    since.slice(0, signed).flatMap((c) => c.inverse),
  )
  const known = now.readings.length
  const upTo = Array.from({ length: known + 1 }, (_, i) => known - i).find((m) => digestOf(job, now.readings.slice(0, m)) === issue.digest)
  return { ...now, job, readings: now.readings.slice(0, upTo ?? known), revision: since[signed]!.revision, updatedAt: since[signed]!.at }
}

/** A job as it was when it was signed last; null: it was not signed yet. @throws NotFoundError */
export function lastSigned(store: Store, id: string): StoredJob | null {
  const last = loadJob(store, id).job.issues?.at(-1)
  return last ? jobAtIssue(store, id, last.n) : null
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

/** Appends a reading; the same one sent again is stored once. @throws AnotherActError where its name is another's. */
export function addReading(store: Store, id: string, reading: Reading): StoredJob {
  store.transaction(
    () => {
      const { readings: taken } = heldAt(store, rowOf(store, id))
      const known = store
        .select({ seq: readings.seq })
        .from(readings)
        .where(and(eq(readings.jobId, id), eq(readings.id, reading.id)))
        .get()
      const there = known && taken.find((r) => r.id === reading.id)
      const told = ({ at: _, by: __, ...rest }: Reading) => JSON.stringify(Object.entries(rest).toSorted(([a], [b]) => a.localeCompare(b)))
      if (there && told(there) !== told(reading)) throw new AnotherActError()
      if (there) return
      store.insert(readings).values(rowFor(reading, id)).run()
      store.update(jobs).set({ lastBy: reading.by, counted: false, updatedAt: reading.at }).where(eq(jobs.id, id)).run()
    },
    { behavior: 'immediate' },
  )
  return loadJob(store, id)
}

/** The state of a job, in few words, for a person who looks at it. @throws NotFoundError where there never was one */
export function standing(store: Store, id: string): { revision: number; readings: number; photographs: number; deleted: boolean } {
  const row = store.select({ revision: jobs.revision, deletedAt: jobs.deletedAt }).from(jobs).where(eq(jobs.id, id)).get()
  if (!row) throw new NotFoundError()
  const taken = store.select({ n: count() }).from(readings).where(eq(readings.jobId, id)).get()!.n
  const photographed = store.select({ n: count() }).from(photographs).where(eq(photographs.jobId, id)).get()!.n
  return { revision: row.revision, readings: taken, photographs: photographed, deleted: row.deletedAt !== null }
}

export function deleteJob(store: Store, id: string, at: string): void {
  rowOf(store, id)
  store.update(jobs).set({ deletedAt: at }).where(eq(jobs.id, id)).run()
}

export function undeleteJob(store: Store, id: string): void {
  const { changes } = store.update(jobs).set({ deletedAt: null }).where(eq(jobs.id, id)).run()
  if (changes === 0) throw new NotFoundError()
}

export const PAGE_SIZE = 20
const listColumns = {
  id: jobs.id,
  title: jobs.title,
  place: jobs.place,
  region: jobs.region,
  stage: jobs.stage,
  errors: jobs.errors,
  warnings: jobs.warnings,
  counted: jobs.counted,
  setAside: jobs.setAside,
  updatedAt: jobs.updatedAt,
}

/** More is no search: it is cut there. */
const MOST_WORDS = 8
const MOST_LETTERS = 200

/** Every word typed must be at the start of some word of the job, or in what was read, noted or photographed for it. */
function matching(store: Store, search: string) {
  const words = wordsOf(search.slice(0, MOST_LETTERS)).slice(0, MOST_WORDS)
  if (words.length === 0) return undefined
  return and(
    ...words.map((w) => {
      // A number with a point is two words to the index, one after the other.
      const query = `${(w.match(/[\p{L}\p{N}]+/gu) ?? []).map((part) => `"${part}"`).join(' + ')}*`
      return or(
        sql`${jobs.searchRow} IN (SELECT rowid FROM jobs_fts WHERE jobs_fts MATCH ${query})`,
        sql`${jobs.id} IN (SELECT job_id FROM noted_fts WHERE noted_fts MATCH ${query})`,
      )
    }),
  )
}

/** Where the words of a search are in a job that is listed. */
export function hitsIn(store: Store, id: string, search: string): readonly Hit[] {
  const { job, readings: taken } = loadJob(store, id)
  const rows = store.select().from(photographs).where(eq(photographs.jobId, id)).orderBy(asc(photographs.seq)).all()
  return hitsOf(read(job), { readings: taken, photographs: photographsOf(rows) }, search)
}

/** Which jobs are listed; what is not said narrows nothing. */
export interface Listed {
  readonly search?: string
  readonly page?: number
  readonly deleted?: boolean
  readonly world?: string
  readonly stage?: string
  /** Only those in which something is wrong. */
  readonly wrong?: boolean
  /** Only those this person worked on last, with something still open. */
  readonly waitsFor?: string
}

/** A page of the list; what was changed is counted first, until `enough`: what is left is counted later, and its row says so. */
export function listJobs(
  store: Store,
  options: Listed = {},
  enough: (done: number) => boolean = () => false,
): { rows: JobRow[]; total: number } {
  try {
    countJobs(store, enough)
  } catch (e) {
    // Of a disk that takes nothing what stands on it is still shown; a job that could not be counted says so.
    if (!(e instanceof SqliteError)) throw e
  }
  const found = options.search ? matching(store, options.search) : undefined
  // Where words were typed, what they find is looked at, and not every job for whether it is found: a plus keeps the other index out of it.
  const gone = found ? sql`+${jobs.deletedAt}` : jobs.deletedAt
  const where = and(
    options.deleted ? isNotNull(gone) : isNull(gone),
    options.world ? eq(jobs.region, options.world) : undefined,
    options.stage ? eq(jobs.stage, options.stage) : undefined,
    options.wrong ? gt(jobs.errors, 0) : undefined,
    options.waitsFor === undefined ? undefined : and(eq(jobs.lastBy, options.waitsFor), or(isNull(jobs.open), gt(jobs.open, 0))),
    found,
  )
  const order = [desc(found ? sql`+${jobs.updatedAt}` : jobs.updatedAt), desc(jobs.id)] as const
  const shown = store
    .select({ id: jobs.id })
    .from(jobs)
    .where(where)
    .orderBy(...order)
    .limit(PAGE_SIZE)
    .offset(PAGE_SIZE * ((options.page ?? 1) - 1))
  const rows = store
    .select(listColumns)
    .from(jobs)
    .where(inArray(jobs.id, shown))
    .orderBy(...order)
    .all()
  const total = store.select({ n: count() }).from(jobs).where(where).get()!.n
  return { rows, total }
}

/** How many jobs that can be worked out are not counted since they were changed. */
export const uncounted = (store: Store): number =>
  store
    .select({ n: count() })
    .from(jobs)
    .where(and(sql`not ${jobs.counted}`, isNull(jobs.deletedAt), isNull(jobs.setAside)))
    .get()!.n

/** When a job of this title, place and world was changed last; null where there is none. */
export const twinOf = (store: Store, { title, place, region }: Pick<Job, 'title' | 'place' | 'region'>): string | null =>
  store
    .select({ at: max(jobs.updatedAt) })
    .from(jobs)
    .where(and(isNull(jobs.deletedAt), eq(jobs.region, region), eq(jobs.title, title), eq(jobs.place, place)))
    .get()?.at ?? null

/** The stage a job has reached, or null where there is no such job. */
export function stageOf(store: Store, id: string): string | null {
  const row = () => store.select({ stage: jobs.stage, counted: jobs.counted, gone: jobs.deletedAt }).from(jobs).where(eq(jobs.id, id)).get()
  const there = row()
  if (there?.counted === false && there.gone === null) counted(store, id)
  return there ? row()!.stage : null
}
