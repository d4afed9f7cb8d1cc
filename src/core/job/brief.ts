import { z } from 'zod'
import { fitnessAnswers, fitnessFor, fitnessQuestions } from '../catalogue/fitness'
import { schoolsFor } from '../catalogue/schools'
import { regionIds } from '../region/types'
import { amount, environments, idField, ratingA, text, word } from './fields'
import { EditError, edits, sentence } from './part'

export const premisesKinds = ['dwelling', 'workshop', 'hall', 'farm', 'school', 'shop', 'office', 'clinic', 'other'] as const
export const earthings = ['tn-c-s', 'tn-s', 'tt'] as const

/** What was asked for, by whom, and whether the work may go on at all. */
export const briefSchema = z.strictObject({
  request: text(2000),
  askedBy: text(200),
  through: text(200),
  existing: text(2000),
  finish: text(1000),
  later: text(1000),
  environment: z.enum(environments).nullable(),
  premises: z.enum(premisesKinds).nullable(),
  fitness: z.record(word(64), z.enum(fitnessAnswers)),
  /** Which way is followed where good practice differs; a matter that is not in it follows the usual one. */
  schools: z.record(word(64), word(64)).optional(),
})
export type Brief = z.infer<typeof briefSchema>

/** What is known of the supply at the main board. */
export const supplySchema = z.strictObject({
  earthing: z.enum(earthings).nullable(),
  /** External earth fault loop impedance, in ohms, as measured at the board. */
  zeOhm: amount.nullable(),
  board: text(200),
  /** Prospective fault current at the board, in kiloamperes, as measured or as the supplier says. */
  pscKa: z.number().positive().max(200).nullable(),
  /** The device upstream of the final circuits, against which they must be selective. */
  upstream: z.strictObject({ kind: z.enum(['breaker', 'fuse']), ratingA }).nullable(),
})
export type Supply = z.infer<typeof supplySchema>

export const titleFields = { title: z.string().trim().min(1, 'a job needs a title').max(120), place: text(200) }

export const newBrief = (): Brief => ({
  request: '',
  askedBy: '',
  through: '',
  existing: '',
  finish: '',
  later: '',
  environment: null,
  premises: null,
  fitness: {},
})
export const newSupply = (): Supply => ({ earthing: null, zeOhm: null, board: '', pscKa: null, upstream: null })

interface Doc {
  title: string
  place: string
  region: (typeof regionIds)[number]
  brief: Brief
  supply: Supply
}
const edit = edits<Doc>()

export const briefEdits = {
  'job.set': edit(
    { patch: z.strictObject(titleFields).partial() },
    (job, { patch }) => void Object.assign(job, patch),
    ({ patch }, say) => sentence(say.patch(patch)),
  ),
  'brief.set': edit(
    { patch: briefSchema.omit({ fitness: true, schools: true }).partial() },
    (job, { patch }) => void Object.assign(job.brief, patch),
    ({ patch }, say) => sentence(say.patch(patch)),
  ),
  'fitness.answer': edit(
    { question: idField, answer: z.enum(fitnessAnswers).nullable() },
    (job, { question, answer }) => {
      if (!fitnessQuestions.some((q) => q.id === question)) throw new EditError('question', 'There is no such question.')
      if (answer === null) delete job.brief.fitness[question]
      else job.brief.fitness[question] = answer
    },
    ({ question, answer }, _, { region }) =>
      `${fitnessFor(region).find((q) => q.id === question)?.ask ?? question} ${answer ?? 'left open'}`,
  ),
  'school.choose': edit(
    { school: idField, option: idField.nullable() },
    (job, { school, option }) => {
      const known = schoolsFor(job.region).find((s) => s.id === school)
      if (!known) throw new EditError('school', 'There is no such matter there.')
      if (option !== null && !known.options.some((o) => o.id === option)) throw new EditError('option', 'There is no such way of doing it.')
      const { [school]: _, ...others } = job.brief.schools ?? {}
      job.brief.schools = option === null ? others : { ...others, [school]: option }
    },
    ({ school, option }, _, { region }) => {
      const known = schoolsFor(region).find((s) => s.id === school)
      return `${known?.ask ?? school}: ${(known?.options.find((o) => o.id === option)?.words ?? 'as usual').toLowerCase()}`
    },
  ),
  'supply.set': edit(
    { patch: supplySchema.partial() },
    (job, { patch }) => void Object.assign(job.supply, patch),
    ({ patch }, say) => sentence(say.patch(patch)),
  ),
}
