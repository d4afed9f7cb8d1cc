import { z } from 'zod'
import { defectKind } from '../catalogue/defects'
import { worlds } from '../region/worlds'
import type { RegionId } from '../region/types'
import { type Cable, type Laying } from './cable'
import { addCircuit, type CircuitRecord } from './circuit'
import type { Board, ResidualDevice, Way } from './board'
import { amount, idField, text, word } from './fields'
import { addTo, EditError, edits, inList } from './part'
import { newPoint, type PointRecord, putPoint } from './point'
import { type Room, roomNamed, type WallRecord } from './room'

export const defectStates = ['open', 'work', 'declined', 'done'] as const
/** Classification codes of a condition report: United Kingdom, BS 7671 Appendix 6. */
export const defectCodes = ['C1', 'C2', 'C3', 'FI'] as const
export type DefectCode = (typeof defectCodes)[number]
/** A finding of somebody's inspection report. */
export const defectSchema = z.strictObject({
  id: idField,
  text: text(1000),
  place: text(200),
  /** Kind from the catalogue of defects; null where not sorted yet. */
  kind: word(64).nullable(),
  state: z.enum(defectStates),
  reason: text(1000),
  work: z.strictObject({ kind: z.enum(['point', 'circuit', 'box']), id: idField }).nullable(),
  /** As the report codes it, where reports have codes; absent: it has none, or it was not entered. */
  code: z.enum(defectCodes).nullable().optional(),
})
export type Defect = z.infer<typeof defectSchema>
export const newDefect = (id: string, words: string, more: Partial<Defect> = {}): Defect => ({
  id,
  text: words,
  place: '',
  kind: null,
  state: 'open',
  reason: '',
  work: null,
  ...more,
})

export const weightNames = ['spare', 'length', 'minutes', 'disturbance', 'protection', 'later'] as const
const weight = z.int().min(0).max(5)
export const weightsSchema = z.strictObject({
  spare: weight,
  length: weight,
  minutes: weight,
  disturbance: weight,
  protection: weight,
  later: weight,
})
export type Weights = z.infer<typeof weightsSchema>

export const hvacKinds = [
  'airConditioning',
  'heatPump',
  'electricHeatLessThanFourUnits',
  'electricHeatFourOrMoreUnits',
  'thermalStorage',
] as const
export const demandFactsSchema = z.strictObject({
  floorAreaM2: amount.nullable(),
  smallApplianceCircuits: z.int().min(0).max(50),
  laundryCircuits: z.int().min(0).max(20),
  hvacKind: z.enum(hvacKinds).nullable(),
  hvacVa: amount,
  /** The highest current recorded at the service over a year, or over 30 days with an allowance; in place of the sums. */
  recordedA: amount.nullable(),
})
/** A building of the application's own, whose wiring is hidden from anyone who practises on it. */
export const practiceSchema = z.strictObject({ seed: z.int().min(0).max(0xffff_ffff), misleading: z.boolean() })

/** What a survey holds besides the things themselves. */
export const surveyFacts = {
  reportBy: text(200),
  demand: demandFactsSchema,
  weights: weightsSchema,
  /** Answers to the questions about time, by question. */
  answers: z.record(word(64), word(64)),
  practice: practiceSchema.nullable(),
}
export const newSurveyFacts = (): z.infer<z.ZodObject<typeof surveyFacts>> => ({
  reportBy: '',
  demand: { floorAreaM2: null, smallApplianceCircuits: 0, laundryCircuits: 0, hvacKind: null, hvacVa: 0, recordedA: null },
  weights: { spare: 3, length: 2, minutes: 2, disturbance: 3, protection: 2, later: 1 },
  answers: {},
  practice: null,
})

interface Doc extends Laying {
  region: RegionId
  boards: Board[]
  residualDevices: ResidualDevice[]
  ways: Way[]
  rooms: Room[]
  walls: WallRecord[]
  circuits: CircuitRecord[]
  raceways: { circuits: string[] }[]
  points: PointRecord[]
  cables: Cable[]
  defects: Defect[]
}
const edit = edits<Doc>()
const called = (job: Doc, id: string): string => {
  const words = job.defects.find((d) => d.id === id)?.text ?? ''
  return `Finding “${words.length > 40 ? `${words.slice(0, 39)}…` : words}”`
}

export const reportEdits = {
  'survey.set': edit(
    { patch: z.strictObject(surveyFacts).partial() },
    (job, { patch }) => void Object.assign(job, patch),
    ({ patch }, say) => `Survey: ${say.fields(patch)} changed`,
  ),
  'defect.add': edit(
    { items: z.array(defectSchema).min(1).max(500) },
    (job, { items }) => {
      for (const [i, d] of items.entries()) addTo(job.defects, d, `items.${i}.id`)
    },
    ({ items }, say) => (items.length === 1 ? `Finding added: ${say.value('text', items[0]!.text)}` : `${items.length} findings added`),
  ),
  'defect.set': edit(
    { id: idField, patch: defectSchema.pick({ text: true, place: true, kind: true, state: true, reason: true, code: true }).partial() },
    (job, { id, patch }) => {
      const defect = inList(job.defects, id, 'finding')
      if (patch.code && !worlds[job.region].reportCodes) throw new EditError('patch.code', 'Reports have no such codes where the job is.')
      Object.assign(defect, patch)
      if (defect.state === 'declined' && defect.reason.trim() === '')
        throw new EditError('patch.reason', 'Say why it is declined: the reply gives the reason.')
    },
    ({ id, patch }, say, job) => `${called(job, id)}: ${say.patch(patch)}`,
  ),
  'defect.work': edit(
    { id: idField, work: idField },
    (job, { id, work }) => {
      const defect = inList(job.defects, id, 'finding')
      const kind = defectKind(job.region, defect.kind)
      if (!kind) throw new EditError('id', 'Say of what kind the finding is first.')
      defect.state = 'work'
      if (kind.makes === 'nothing') return
      const name = (defect.place || kind.name).slice(0, 110)
      if (kind.makes === 'circuit') {
        if (job.circuits.some((c) => c.id === work)) throw new EditError('work', 'There is one with this id already.')
        addCircuit(job, work, name)
      } else
        putPoint(
          job,
          newPoint(work, name, {
            kind: kind.makes === 'box' ? 'box' : 'outlet',
            state: kind.makes === 'point' ? 'new' : 'existing',
          }),
          { room: roomNamed(job, defect.place.slice(0, 120)), hidden: kind.makes === 'box' },
          'work',
        )
      defect.work = { kind: kind.makes, id: work }
    },
    ({ id }, _, job) => `${called(job, id)} added to this job`,
  ),
  'defect.remove': edit(
    { id: idField },
    (job, { id }) => {
      inList(job.defects, id, 'finding')
      job.defects = job.defects.filter((d) => d.id !== id)
    },
    ({ id }, _, job) => `${called(job, id)} removed`,
  ),
}
