import type { EditKindName } from '../job/edits'
import { type StageId, stageOf } from '../report/stages'

type Subject = EditKindName extends infer K ? (K extends `${infer S}.${string}` ? S : never) : never

/** On which stage what an edit is about is worked on. */
const stageOfSubject: Readonly<Record<Subject, StageId>> = {
  job: 'brief',
  brief: 'brief',
  fitness: 'brief',
  board: 'survey',
  supply: 'survey',
  'residual-device': 'survey',
  survey: 'survey',
  observation: 'survey',
  trace: 'survey',
  way: 'survey',
  ways: 'survey',
  wall: 'survey',
  point: 'survey',
  source: 'survey',
  defect: 'survey',
  old: 'survey',
  circuit: 'circuit',
  'circuit-point': 'circuit',
  design: 'circuit',
  load: 'circuit',
  run: 'circuit',
  cable: 'circuit',
  raceway: 'circuit',
  school: 'circuit',
  building: 'route',
  room: 'route',
  place: 'route',
  route: 'route',
  coil: 'route',
  'signal-cable': 'route',
  box: 'boxes',
  mount: 'boxes',
  wiring: 'wiring',
  bench: 'wiring',
  day: 'day',
  task: 'day',
  isolation: 'day',
  price: 'day',
  quotation: 'day',
  variation: 'day',
  issue: 'handover',
  due: 'handover',
  labels: 'handover',
}
/** Null for a kind that only an older version knew. */
export const stageOfEdit = (kind: string): StageId | null =>
  (stageOfSubject as Partial<Record<string, StageId>>)[kind.slice(0, kind.indexOf('.'))] ?? null

/** What an undo or a redo would take back or do again: in words, and on which stage it was done; null where it was on no one stage. */
export interface Step {
  readonly label: string
  readonly stage: StageId | null
}
/** "Undone in Survey: Kiln removed": a step can be undone on any stage, so it says where it was made. */
export const stepInWords = (verb: string, { label, stage }: Step): string =>
  `${verb}${stage === null ? '' : ` in ${stageOf(stage).name}`}: ${label}`
