import { z } from 'zod'
import { powers } from '../schedule/day'
import { idField, text, word } from './fields'
import { addTo, EditError, edits, inList } from './part'

/** Minutes of a plan go on from day to day: those of the second begin here. */
export const DAY_MIN = 1440
/** What a clock on the wall shows at a minute of the plan. */
export function hour(min: number): string {
  const time = Math.round(min) % DAY_MIN
  return `${Math.floor(time / 60)}:${String(time % 60).padStart(2, '0')}`
}
/** The same, with the day where it is not the first. */
export const clock = (min: number): string => (min < DAY_MIN ? '' : `day ${Math.floor(min / DAY_MIN) + 1}, `) + hour(min)

const minute = z.int().min(0).max(100_000)
const minutes = z.int().min(1).max(10_000)
export const ownTaskKinds = ['work', 'trade', 'delivery', 'wait', 'break', 'promise', 'hold'] as const

/** Something on the day besides what the design asks for; a hold point is an inspection before walls are closed. */
export const ownTaskSchema = z.strictObject({
  id: idField,
  name: text(120),
  kind: z.enum(ownTaskKinds),
  minutes,
  /** Of our own people; none for what others do, or for what dries by itself. */
  people: z.int().min(0).max(12),
  power: z.enum(powers),
  after: z.array(word(140)).max(20),
  earliestMin: minute.nullable(),
  latestMin: minute.nullable(),
  /** Under the open sky. */
  outside: z.boolean().optional(),
  /** Asks for somebody who does electrical work. */
  skilled: z.boolean().optional(),
})
export type OwnTask = z.infer<typeof ownTaskSchema>

const taskId = word(140).min(1)
const plannedSchema = z.strictObject({
  at: z.iso.datetime(),
  tasks: z
    .array(
      z.strictObject({
        id: taskId,
        startMin: z.number().min(0),
        endMin: z.number().min(0),
        /** Of its people so many do electrical work, where not all do. */
        skilled: z.int().min(0).max(12).optional(),
      }),
    )
    .max(80),
  outages: z.array(z.strictObject({ fromMin: z.number().min(0), toMin: z.number().min(0) })).max(80),
  optimal: z.boolean(),
  /** What no plan is better than, where it is not proved the best. */
  bound: z.strictObject({ finishMin: z.number().min(0), outageMin: z.number().min(0) }).optional(),
})
export type Planned = z.infer<typeof plannedSchema>
const logSchema = z.strictObject({
  task: taskId,
  /** What it was expected to take, when it was begun. */
  expectedMin: minutes,
  startedAt: z.iso.datetime(),
  endedAt: z.iso.datetime().nullable(),
  note: text(400),
})
const signatureSchema = z.strictObject({
  id: idField,
  circuits: z.array(idField).min(1).max(60),
  name: text(120),
  told: text(400),
  at: z.iso.datetime(),
})
export type Signature = z.infer<typeof signatureSchema>

/** A quotation as somebody accepted it, in the money of the place. */
const acceptedSchema = z.strictObject({
  at: z.iso.datetime(),
  by: text(120),
  total: z.number().nonnegative().max(1e9),
})
/** A change of what was accepted, agreed while the work goes on; less where its amount is below zero. */
const variationSchema = z.strictObject({
  id: idField,
  at: z.iso.datetime(),
  words: text(400),
  amount: z.number().min(-1e9).max(1e9),
  agreedBy: text(120),
})

const matters = z.int().min(0).max(10)
const wishesSchema = z.strictObject({
  /** When rain is foretold; null: it is not. */
  rainFromMin: minute.nullable(),
  outsideBeforeRain: matters,
  insideBeforeOutside: matters,
})
export type Wishes = z.infer<typeof wishesSchema>
export const noWishes: Wishes = { rainFromMin: null, outsideBeforeRain: 0, insideBeforeOutside: 0 }

/** The day the work is done on: who, from when to when, what else is on, the plan taken over, and what came of it. */
export const daySchema = z.strictObject({
  date: z.iso.date().nullable(),
  /** Minutes after midnight. */
  startMin: minute,
  endMin: minute,
  people: z
    .array(
      z.strictObject({
        id: idField,
        name: text(80),
        /** When that one is there, where it is not the whole day. */
        fromMin: minute.nullable().optional(),
        untilMin: minute.nullable().optional(),
        /** Helps, and does no electrical work. */
        helper: z.boolean().optional(),
      }),
    )
    .min(1)
    .max(12),
  /** The longest the supply may be off at a time; null: as long as it takes. */
  mostOffMin: minutes.nullable(),
  /** The longest that points may be off at a time, by their id, in minutes: what must not lose power for longer. */
  holds: z.record(idField, minutes).optional(),
  /** What is wished of the plan, with how much it matters, 0 to 10. */
  wishes: wishesSchema.optional(),
  /** Where it is, in degrees north and east: when it is light there follows from that. */
  place: z.strictObject({ north: z.number().min(-90).max(90).nullable(), east: z.number().min(-180).max(180).nullable() }).optional(),
  own: z.array(ownTaskSchema).max(60),
  /** Minutes said for a task of this job, in place of the table's. */
  minutes: z.record(taskId, minutes),
  /** When a task of the design begins at the earliest, in minutes after midnight, where somebody put it there. */
  notBefore: z.record(taskId, minute).optional(),
  planned: plannedSchema.nullable(),
  log: z.array(logSchema).max(1000),
  signatures: z.array(signatureSchema).max(200),
  /** For the offer: what is added to the cost, and the tax on all, in percent; null: not said. */
  marginPercent: z.number().min(0).max(500).nullable(),
  taxPercent: z.number().min(0).max(100).nullable(),
  accepted: acceptedSchema.nullable().optional(),
  variations: z.array(variationSchema).max(200).optional(),
})
export type DayRecord = z.infer<typeof daySchema>

export const newDay = (): DayRecord => ({
  date: null,
  startMin: 480,
  endMin: 1020,
  people: [{ id: 'p1', name: '' }],
  mostOffMin: null,
  own: [],
  minutes: {},
  planned: null,
  log: [],
  signatures: [],
  marginPercent: null,
  taxPercent: null,
})

interface Doc {
  day?: DayRecord | undefined
  circuits: readonly { id: string }[]
  points: readonly { id: string }[]
}
const edit = edits<Doc>()
const dayOf = (job: Doc): DayRecord => (job.day ??= newDay())

export const dayEdits = {
  'day.set': edit(
    {
      patch: daySchema
        .pick({
          date: true,
          startMin: true,
          endMin: true,
          people: true,
          mostOffMin: true,
          holds: true,
          wishes: true,
          place: true,
          marginPercent: true,
          taxPercent: true,
        })
        .partial(),
    },
    (job, { patch }) => {
      const day = Object.assign(dayOf(job), patch)
      if (day.endMin <= day.startMin) throw new EditError('patch.endMin', 'The day ends after it begins.')
      for (const [i, p] of day.people.entries())
        if (p.fromMin != null && p.untilMin != null && p.untilMin <= p.fromMin)
          throw new EditError(`patch.people.${i}.untilMin`, 'Somebody leaves after coming.')
      for (const id of Object.keys(patch.holds ?? {})) inList(job.points, id, 'point', 'patch.holds')
    },
    ({ patch }, say) => `Day: ${say.fields(patch)}`,
  ),
  'task.add': edit(
    { item: ownTaskSchema },
    (job, { item }) => addTo(dayOf(job).own, item, 'item.id'),
    ({ item }) => `On the day: ${item.name}`,
  ),
  'task.set': edit(
    { id: idField, patch: ownTaskSchema.omit({ id: true }).partial() },
    (job, { id, patch }) => void Object.assign(inList(dayOf(job).own, id, 'task'), patch),
    ({ id, patch }, say, { day }) => `${day?.own.find((t) => t.id === id)?.name ?? 'Task'}: ${say.fields(patch)}`,
  ),
  'task.remove': edit(
    { id: idField },
    (job, { id }) => {
      const day = dayOf(job)
      inList(day.own, id, 'task')
      day.own = day.own.filter((t) => t.id !== id)
      for (const t of day.own) t.after = t.after.filter((a) => a !== id)
    },
    ({ id }, _, { day }) => `${day?.own.find((t) => t.id === id)?.name ?? 'Task'} taken off the day`,
  ),
  /** A task of the design is fixed to a time on the day: not before then; null: as it comes. */
  'task.hold': edit(
    { task: taskId, earliestMin: minute.nullable() },
    (job, { task, earliestMin }) => {
      const held = (dayOf(job).notBefore ??= {})
      if (earliestMin === null) delete held[task]
      else held[task] = earliestMin
      if (Object.keys(held).length > 500) throw new EditError('task', 'No more tasks can be fixed to a time: the limit is reached.')
    },
    ({ earliestMin }) => (earliestMin === null ? 'A task begins as it comes' : `A task begins not before ${clock(earliestMin)}`),
  ),
  /** How long a task of the design takes here; null: as the table says. */
  'task.minutes': edit(
    { task: taskId, minutes: minutes.nullable() },
    (job, { task, minutes: of }) => {
      const day = dayOf(job)
      if (of === null) delete day.minutes[task]
      else day.minutes[task] = of
      if (Object.keys(day.minutes).length > 500)
        throw new EditError('task', 'No more tasks can have minutes of their own: the limit is reached.')
    },
    ({ minutes: of }) => (of === null ? 'A task takes what the table says' : `A task takes ${of} minutes here`),
  ),
  'day.plan': edit(
    { planned: plannedSchema.nullable() },
    (job, { planned }) => void (dayOf(job).planned = planned),
    ({ planned }) =>
      planned
        ? `Plan of the day accepted: ${planned.tasks.length} ${planned.tasks.length === 1 ? 'task' : 'tasks'}`
        : 'Plan of the day withdrawn',
  ),
  'task.start': edit(
    { row: logSchema },
    (job, { row }) => {
      const { log } = dayOf(job)
      if (log.some((r) => r.task === row.task && r.endedAt === null)) throw new EditError('row.task', 'This task is being done already.')
      log.push(row)
    },
    () => 'A task begun',
  ),
  'task.end': edit(
    { task: taskId, endedAt: z.iso.datetime(), note: text(400) },
    (job, { task, endedAt, note }) => {
      const row = dayOf(job).log.find((r) => r.task === task && r.endedAt === null)
      if (!row) throw new EditError('task', 'This task is not being done.')
      if (endedAt < row.startedAt) throw new EditError('endedAt', 'It cannot end before it began.')
      Object.assign(row, { endedAt, note })
    },
    () => 'A task done',
  ),
  /** The quotation is accepted as it comes to then; null: it was not, after all. */
  'quotation.accept': edit(
    { accepted: acceptedSchema.nullable() },
    (job, { accepted }) => {
      if (accepted && accepted.by.trim() === '') throw new EditError('accepted.by', 'Who accepted it?')
      const day = dayOf(job)
      if (accepted === null && day.variations?.length)
        throw new EditError('accepted', 'Variations were agreed on top of it: take those off first.')
      day.accepted = accepted
    },
    ({ accepted }) =>
      accepted ? `Quotation accepted by ${accepted.by}: ${accepted.total.toFixed(2)}` : 'Quotation not accepted after all',
  ),
  'variation.add': edit(
    { item: variationSchema },
    (job, { item }) => {
      const day = dayOf(job)
      if (!day.accepted) throw new EditError('item', 'Nothing was accepted yet that this could vary.')
      if (item.words.trim() === '') throw new EditError('item.words', 'Variation?')
      if (item.agreedBy.trim() === '') throw new EditError('item.agreedBy', 'Who agreed to it?')
      addTo((day.variations ??= []), item, 'item.id')
    },
    ({ item }) => `Variation agreed with ${item.agreedBy}: ${item.words}, ${item.amount.toFixed(2)}`,
  ),
  'variation.remove': edit(
    { id: idField },
    (job, { id }) => {
      const day = dayOf(job)
      inList(day.variations ?? [], id, 'variation')
      day.variations = day.variations!.filter((v) => v.id !== id)
    },
    () => 'Variation taken off',
  ),
  /** Somebody who works under an isolation signs for it; who was told is recorded with it. */
  'isolation.sign': edit(
    { signature: signatureSchema },
    (job, { signature }) => {
      if (signature.name.trim() === '') throw new EditError('signature.name', 'Who signs?')
      for (const [i, id] of signature.circuits.entries())
        if (!job.circuits.some((c) => c.id === id)) throw new EditError(`signature.circuits.${i}`, 'This circuit is no longer in the job.')
      addTo(dayOf(job).signatures, signature, 'signature.id')
    },
    ({ signature }) => `Isolation signed by ${signature.name}`,
  ),
}
