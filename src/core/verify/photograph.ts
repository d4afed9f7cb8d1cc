import { z } from 'zod'
import type { Installation } from '../installation/installation'
import { MAIN_BOARD } from '../job/board'
import { sentence } from '../job/part'
import { worlds } from '../region/worlds'
import { idField, text } from '../job/fields'

/** What a photograph may show. */
export const photographed = ['job', 'room', 'board', 'point', 'circuit'] as const
export type Photographed = { readonly kind: (typeof photographed)[number]; readonly id: string }

/** The longest side of a photograph that is kept, in pixels: a terminal's screw can be read on it. */
export const MOST_PX = 1600
/** Bytes of one photograph, and photographs of one job. */
export const MOST_BYTES = 3_000_000
export const MOST_OF_A_JOB = 400

/**
 * One row of what was photographed: taken, given other words, or put away. Rows are only added; the last of a photograph says how it
 * stands.
 * The picture itself is a file beside the database, named by what is in it.
 */
export const photographSchema = z.strictObject({
  id: idField,
  /** The photograph: the row it was taken with. */
  photograph: idField,
  of: z.strictObject({ kind: z.enum(photographed), id: idField }),
  words: text(300),
  /** Put away; it is kept all the same, and can be brought back. */
  out: z.boolean(),
  /** SHA-256 of the file, in hexadecimal. */
  hash: z.string().regex(/^[0-9a-f]{64}$/),
  widthPx: z.int().positive(),
  heightPx: z.int().positive(),
  at: z.iso.datetime(),
  by: text(120),
})
export type PhotographRow = z.infer<typeof photographSchema>

/** A photograph as it stands, with when it was taken and by whom. */
export type Photograph = Omit<PhotographRow, 'id'>

/** Photographs as they stand, in the order they were taken. */
export function photographsOf(rows: readonly PhotographRow[]): readonly Photograph[] {
  const known = new Map<string, Photograph>()
  for (const { id: _, ...row } of rows) {
    const first = known.get(row.photograph)
    known.set(row.photograph, first ? { ...row, at: first.at, by: first.by } : row)
  }
  return [...known.values()]
}

export const isOf = (of: Photographed, p: Pick<Photograph, 'of'>): boolean => p.of.kind === of.kind && p.of.id === of.id

/** What a photograph shows, by name; what is no longer in the job is said to be so. */
export function subjectWords({ rooms, boards, points, circuits, title, supply, region }: Installation, { kind, id }: Photographed): string {
  if (kind === 'job') return title
  if (kind === 'board' && id === MAIN_BOARD) return supply.board || worlds[region].words.board
  const lists = { room: rooms, board: boards, circuit: circuits, point: points }
  const known = lists[kind].find((x) => x.id === id)
  if (!known) return `${sentence(kind)} that is no longer in the job`
  return 'room' in known && typeof known.room === 'string' && known.room !== '' ? `${known.room}, ${known.name}` : known.name
}
