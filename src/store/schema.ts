import { sql } from 'drizzle-orm'
import { index, integer, real, sqliteTable, text, uniqueIndex } from 'drizzle-orm/sqlite-core'
import type { Patch } from 'immer'
import type { Edit } from '../core/job/edits'
import { moveKinds } from '@/core/workday/stock'
import type { Mark, Photographed, PhotographRow } from '@/core/verify/photograph'
import type { Reading } from '../core/job/reading'
import type { Job } from '../core/job/schema'

/** Each job as it stood lately. What the list shows is kept beside it, so that listing evaluates nothing. */
export const jobs = sqliteTable(
  'jobs',
  {
    id: text('id').primaryKey(),
    revision: integer('revision').notNull(),
    /** The job as it stood at the revision `snapshot`; what came after is in its changes. */
    job: text('job', { mode: 'json' }).$type<Job>().notNull(),
    snapshot: integer('snapshot').notNull().default(1),
    /** Its row in the index of words. */
    searchRow: integer('search_row'),
    title: text('title').notNull(),
    place: text('place').notNull(),
    region: text('region').notNull(),
    stage: text('stage').notNull(),
    errors: integer('errors').notNull(),
    warnings: integer('warnings').notNull(),
    /** Things still asked for or to be done; null: not counted since that is kept. */
    open: integer('open'),
    /** Whether stage, errors, warnings and what is open were counted since it was changed last. */
    counted: integer('counted', { mode: 'boolean' }).notNull().default(true),
    /** What is due again and not done; null: nothing. */
    due: text('due', { mode: 'json' }).$type<readonly DueAgain[]>(),
    /** Whose act was the last. */
    lastBy: text('last_by').notNull().default(''),
    /** The revision of the edit that undo would take back; 0 when there is none. */
    undoHead: integer('undo_head').notNull(),
    /** Revisions of edits that redo would bring back, next first. */
    redo: text('redo', { mode: 'json' }).$type<number[]>().notNull(),
    /** The revision at which it was brought up from an older version; changes before it cannot be taken back. */
    broughtUpAt: integer('brought_up_at').notNull().default(0),
    /** The version of the document in `job`; 0: an older one, which is brought up when somebody asks for it, or meanwhile. */
    version: integer('version').notNull().default(0),
    /** Why it could not be brought up; null: it could, or was not tried yet. */
    setAside: text('set_aside'),
    createdAt: text('created_at').notNull(),
    updatedAt: text('updated_at').notNull(),
    deletedAt: text('deleted_at'),
  },
  // A list is put in order out of these alone: a row is read, past its job, only where it is shown.
  (t) => [
    index('jobs_by_update').on(t.deletedAt, t.updatedAt, t.id),
    index('jobs_by_kind').on(t.deletedAt, t.region, t.stage, t.errors, t.updatedAt, t.id),
    index('jobs_by_hand').on(t.deletedAt, t.lastBy, t.open, t.updatedAt, t.id),
    index('jobs_by_version').on(t.version, t.setAside),
    index('jobs_to_count')
      .on(t.updatedAt, t.id)
      .where(sql`not counted`),
    index('jobs_by_search').on(t.searchRow, t.deletedAt, t.updatedAt, t.id),
  ],
)

/** One thing of a job that is to be done again, and the day it is due. */
export interface DueAgain {
  readonly what: string
  readonly on: string
}

export const changeKinds = ['create', 'edit', 'undo', 'redo', 'restore'] as const

/** Append-only: every change with the patches both ways. Undo, redo and history are this one table. */
export const jobChanges = sqliteTable(
  'job_changes',
  {
    id: integer('id').primaryKey({ autoIncrement: true }),
    jobId: text('job_id')
      .notNull()
      .references(() => jobs.id),
    revision: integer('revision').notNull(),
    kind: text('kind', { enum: changeKinds }).notNull(),
    label: text('label').notNull(),
    edit: text('edit', { mode: 'json' }).$type<Edit | null>(),
    patches: text('patches', { mode: 'json' }).$type<Patch[]>().notNull(),
    inverse: text('inverse', { mode: 'json' }).$type<Patch[]>().notNull(),
    /** The undo head before this change. */
    parent: integer('parent').notNull(),
    /** The revision that was undone, redone or gone back to. */
    target: integer('target'),
    at: text('at').notNull(),
    by: text('by').notNull(),
    /** The name the device gave this act, so that it is done once however often it is sent; null: of a program that gave none. */
    act: text('act'),
  },
  (t) => [uniqueIndex('change_by_revision').on(t.jobId, t.revision), uniqueIndex('change_by_act').on(t.jobId, t.act)],
)

/** Append-only rows; a correction is a new row that names the old one. */
export const readings = sqliteTable(
  'readings',
  {
    seq: integer('seq').primaryKey({ autoIncrement: true }),
    id: text('id').notNull(),
    jobId: text('job_id')
      .notNull()
      .references(() => jobs.id),
    circuit: text('circuit').notNull(),
    point: text('point'),
    test: text('test').notNull(),
    value: real('value'),
    mark: text('mark', { enum: ['yes', 'no', 'over', 'open'] }),
    unit: text('unit').notNull(),
    at: text('at').notNull(),
    by: text('by').notNull(),
    instrument: text('instrument').notNull(),
    note: text('note').notNull(),
    corrects: text('corrects'),
    takenOn: text('taken_on', { mode: 'json' }).$type<Reading['on']>(),
  },
  // With the row's own number at its end: those that came after one are found without looking at those before.
  (t) => [uniqueIndex('reading_by_id').on(t.jobId, t.id), index('readings_by_job').on(t.jobId)],
)

/** Append-only rows; the last of a photograph gives its state. Its picture is a file beside the database, by its hash. */
export const photographs = sqliteTable(
  'photographs',
  {
    seq: integer('seq').primaryKey({ autoIncrement: true }),
    id: text('id').notNull(),
    jobId: text('job_id')
      .notNull()
      .references(() => jobs.id),
    photograph: text('photograph').notNull(),
    of: text('of', { mode: 'json' }).$type<Photographed>().notNull(),
    words: text('words').notNull(),
    out: integer('out', { mode: 'boolean' }).notNull(),
    hash: text('hash').notNull(),
    widthPx: integer('width_px').notNull(),
    heightPx: integer('height_px').notNull(),
    at: text('at').notNull(),
    by: text('by').notNull(),
    moment: text('moment').$type<PhotographRow['moment']>(),
    mark: text('mark', { mode: 'json' }).$type<Mark>(),
    unmarked: text('unmarked'),
  },
  (t) => [uniqueIndex('photograph_by_id').on(t.jobId, t.id)],
)

/** The van's book, of the firm and not of a job: append-only rows. */
export const stockMoves = sqliteTable(
  'stock_moves',
  {
    seq: integer('seq').primaryKey({ autoIncrement: true }),
    id: text('id').notNull(),
    item: text('item').notNull(),
    what: text('what').notNull(),
    unit: text('unit', { enum: ['', 'm'] }).notNull(),
    kind: text('kind', { enum: moveKinds }).notNull(),
    count: real('count').notNull(),
    job: text('job'),
    at: text('at').notNull(),
    by: text('by').notNull(),
  },
  (t) => [uniqueIndex('stock_move_by_id').on(t.id), index('stock_moves_by_item').on(t.item)],
)

export const settings = sqliteTable('settings', { key: text('key').primaryKey(), value: text('value').notNull() })
