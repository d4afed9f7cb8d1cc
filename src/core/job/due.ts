import { z } from 'zod'
import { idField, text } from './fields'
import { addTo, EditError, edits, inList } from './part'

/** Something to be done again after the job: an inspection and test, the test of a residual device. */
const dueSchema = z.strictObject({
  id: idField,
  what: text(120),
  on: z.iso.date(),
  /** When it was done; null: it is still due. */
  doneOn: z.iso.date().nullable(),
})
export const duesSchema = z.array(dueSchema).max(60)
export type Due = z.infer<typeof dueSchema>

/** Something due again, with the job it is of. */
export interface DueRow {
  readonly job: string
  readonly title: string
  readonly place: string
  readonly what: string
  /** The day, as an ISO date. */
  readonly on: string
}

const edit = edits<{ due?: Due[] | undefined }>()
const named = (what: string | undefined, path: string) => {
  if (what !== undefined && what.trim() === '') throw new EditError(path, 'What is due again?')
}

export const dueEdits = {
  'due.add': edit(
    { item: dueSchema },
    (job, { item }) => {
      named(item.what, 'item.what')
      addTo((job.due ??= []), item, 'item.id')
    },
    ({ item }) => `Due on ${item.on}: ${item.what}`,
  ),
  'due.set': edit(
    { id: idField, patch: dueSchema.omit({ id: true }).partial() },
    (job, { id, patch }) => {
      named(patch.what, 'patch.what')
      Object.assign(inList(job.due ?? [], id, 'date'), patch)
    },
    ({ id, patch }, _, { due }) => {
      const what = due?.find((d) => d.id === id)?.what ?? 'What is due'
      return patch.doneOn ? `${what}: done on ${patch.doneOn}` : `${what}: ${patch.on ? `due on ${patch.on}` : 'due again'}`
    },
  ),
  'due.remove': edit(
    { id: idField },
    (job, { id }) => {
      inList(job.due ?? [], id, 'date')
      job.due = job.due!.filter((d) => d.id !== id)
    },
    ({ id }, _, { due }) => `${due?.find((d) => d.id === id)?.what ?? 'What is due'}: no longer due`,
  ),
}
