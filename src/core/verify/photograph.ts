import { z } from 'zod'
import { listedWords } from '../base/finding'
import type { Installation } from '../installation/installation'
import { MAIN_BOARD } from '../job/board'
import { sentence } from '../job/part'
import { worlds } from '../region/worlds'
import { idField, text } from '../job/fields'

/** What a photograph may show. */
export const photographed = ['job', 'room', 'board', 'point', 'circuit', 'box', 'cable', 'defect', 'test', 'task'] as const
export type Photographed = { readonly kind: (typeof photographed)[number]; readonly id: string }

/** The longest side of a photograph that is kept, in pixels: a terminal's screw can be read on it. */
export const MOST_PX = 1600
/** Bytes of one photograph, and photographs of one job. */
export const MOST_BYTES = 3_000_000
export const MOST_OF_A_JOB = 400

const spot = z.tuple([z.number().min(0).max(1), z.number().min(0).max(1)])
/** A place on a picture: parts of its width and of its height, from the upper left. */
export type Spot = z.infer<typeof spot>
const ofMark = { id: idField, words: text(80) }
/**
 * What is drawn over a photograph and kept apart from it: an arrow that points with its head (`to`), a ring within two corners, words, or a
 * length that was measured between two places, in metres.
 */
export const markSchema = z.discriminatedUnion('kind', [
  z.strictObject({ ...ofMark, kind: z.literal('arrow'), from: spot, to: spot }),
  z.strictObject({ ...ofMark, kind: z.literal('ring'), from: spot, to: spot }),
  z.strictObject({ ...ofMark, kind: z.literal('words'), from: spot }),
  z.strictObject({ ...ofMark, kind: z.literal('length'), from: spot, to: spot, lengthM: z.number().positive().max(10_000) }),
])
export type Mark = z.infer<typeof markSchema>
export const MOST_MARKS = 40

/** Whether it shows the place before the work or after it. */
export const moments = ['before', 'after'] as const

/**
 * One row of what was photographed: taken, given other words, put away, or one mark drawn over it or taken off. Rows are only added;
 * those of a photograph together give its state, so that two people who mark it at once both keep their marks.
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
  moment: z.enum(moments).nullable().default(null),
  /** This row draws a mark, or takes one off, and says nothing else. */
  mark: markSchema.nullable().default(null),
  unmarked: idField.nullable().default(null),
  /** SHA-256 of the file, in hexadecimal. */
  hash: z.string().regex(/^[0-9a-f]{64}$/),
  widthPx: z.int().positive(),
  heightPx: z.int().positive(),
  at: z.iso.datetime(),
  by: text(120),
})
export type PhotographRow = z.infer<typeof photographSchema>
/** A row as it is made: what it does not say is not there. */
export type NewRow = Pick<PhotographRow, 'id' | 'photograph' | 'of' | 'words' | 'out'> &
  Partial<Pick<PhotographRow, 'moment' | 'mark' | 'unmarked'>>

/** A photograph as it stands, with when it was taken and by whom. */
export type Photograph = Omit<PhotographRow, 'id' | 'mark' | 'unmarked'> & { readonly marks: readonly Mark[] }

/** Photographs as they stand, in the order they were taken. */
export function photographsOf(rows: readonly PhotographRow[]): readonly Photograph[] {
  const known = new Map<string, Photograph>()
  for (const { id: _, mark, unmarked, ...row } of rows) {
    const was = known.get(row.photograph)
    // Rows of an older device say nothing of before and after.
    if (!was) known.set(row.photograph, { ...row, moment: row.moment ?? null, marks: mark ? [mark] : [] })
    else if (mark) known.set(row.photograph, { ...was, marks: [...was.marks.filter((m) => m.id !== mark.id), mark] })
    else if (unmarked) known.set(row.photograph, { ...was, marks: was.marks.filter((m) => m.id !== unmarked) })
    else known.set(row.photograph, { ...row, moment: row.moment ?? null, marks: was.marks, at: was.at, by: was.by })
  }
  return [...known.values()]
}

export const isOf = (of: Photographed, p: Pick<Photograph, 'of'>): boolean => p.of.kind === of.kind && p.of.id === of.id

const photographedNames: Readonly<Record<Photographed['kind'], string>> = {
  job: 'job',
  room: 'room',
  board: 'board',
  point: 'point',
  circuit: 'circuit',
  box: 'box',
  cable: 'cable',
  defect: 'finding',
  test: 'test',
  task: 'task',
}
/** Kinds of task as they are called where their circuit is named beside. */
const taskNames: Readonly<Record<string, string>> = {
  bore: 'boring',
  pull: 'pulling',
  run: 'running the cable',
  close: 'making good',
  remove: 'taking out',
  box: 'setting the boxes',
  fit: 'connecting',
  board: 'at the board',
  dead: 'dead tests',
  live: 'live tests',
  label: 'labels',
  clear: 'clearing up',
}
/** What a test is called by among photographs: its circuit and its name. */
export const testSubject = (circuit: string, test: string): string => `${circuit} ${test}`

/** A test or a task by its id, with what it is of; null: that is no longer in the job. */
function doneWords(job: Installation, { kind, id }: Photographed): string | null {
  if (kind === 'task') {
    const own = job.day?.own.find((t) => t.id === id)
    if (own) return `Task: ${own.name}`
  }
  const space = id.indexOf(' ')
  const [first, rest] = space < 0 ? [id, ''] : [id.slice(0, space), id.slice(space + 1)]
  const nameOf = (of: string) => [...job.circuits, ...job.points, ...(job.record.signalCables ?? [])].find((x) => x.id === of)?.name
  if (kind === 'test') {
    const circuit = nameOf(first)
    return circuit === undefined ? null : `Test of ${circuit}: ${rest.replaceAll('-', ' ')}`
  }
  const task = taskNames[first]
  if (task === undefined) return null
  if (rest === '') return `Task: ${task}`
  const of = nameOf(rest)
  return of === undefined ? null : `Task: ${task}, ${of}`
}

/** What a photograph shows, by name; what is no longer in the job is said to be so. */
export function subjectWords(job: Installation, { kind, id }: Photographed): string {
  const { rooms, boards, points, circuits, title, supply, region } = job
  if (kind === 'job') return title
  if (kind === 'board' && id === MAIN_BOARD) return supply.board || worlds[region].words.board
  const gone = `${sentence(photographedNames[kind])} that is no longer in the job`
  if (kind === 'box') {
    const inIt = points.filter((p) => p.box.id === id).map((p) => p.name)
    return inIt.length ? `Box of ${listedWords(inIt)}` : gone
  }
  if (kind === 'test' || kind === 'task') return doneWords(job, { kind, id }) ?? gone
  if (kind === 'defect') return job.defects.find((d) => d.id === id)?.text || gone
  if (kind === 'cable') {
    const cable = job.record.cables.find((k) => k.id === id)
    const nameOf = (end: string) => points.find((p) => p.id === end)?.name ?? worlds[region].words.board
    return cable ? `Cable from ${nameOf(cable.from.id)} to ${nameOf(cable.to.id)}` : gone
  }
  const lists = { room: rooms, board: boards, circuit: circuits, point: points }
  const known = lists[kind].find((x) => x.id === id)
  if (!known) return gone
  return 'room' in known && typeof known.room === 'string' && known.room !== '' ? `${known.room}, ${known.name}` : known.name
}
