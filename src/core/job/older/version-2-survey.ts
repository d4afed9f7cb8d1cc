import { z } from 'zod'
import { breakerTypes } from '../../region/types'
import { observationSchema } from '../../trace/types'

const text = (max: number) => z.string().max(max, `at most ${max} characters`)
const idField = z.string().min(1).max(64)
const amount = z.number().nonnegative().max(1e6)

/** The one board every job begins with. */
export const MAIN_BOARD = 'main'

export const mainSwitches = ['double-pole', 'single-pole', 'none', 'unknown'] as const
/** A board as it is found. `fedFrom` is the way that feeds a sub-board; the main board has none. */
export const boardSchema = z.strictObject({
  id: idField,
  name: text(120),
  /** Spaces (NA) or modules for ways, null until counted. */
  spaces: z.int().min(1).max(84).nullable(),
  /** Rating of the main switch or breaker, in amperes. */
  mainA: z.number().positive().max(1000).nullable(),
  mainSwitch: z.enum(mainSwitches),
  fedFrom: idField.nullable(),
})
export type Board = z.infer<typeof boardSchema>

/** A residual current device with ways, and a neutral bar, behind it. */
export const guardSchema = z.strictObject({
  id: idField,
  board: idField,
  name: text(80),
  ratingA: z.number().positive().max(1000).nullable(),
  tripMa: z.number().positive().max(1000),
})

export const wayKinds = ['circuit', 'feeder', 'source', 'spare'] as const
export const wayShapes = ['radial', 'ring', 'unknown'] as const
export const waySchema = z.strictObject({
  id: idField,
  board: idField,
  /** As found; trusted only once what it feeds is proved. */
  label: text(80),
  ratingA: z.number().positive().max(1000).nullable(),
  poles: z.union([z.literal(1), z.literal(2)]),
  curve: z.enum(breakerTypes).nullable(),
  position: z.int().min(1).max(84).nullable(),
  /** Which half of a tandem breaker; null for one that has its space to itself. */
  half: z.enum(['a', 'b']).nullable(),
  kind: z.enum(wayKinds),
  shape: z.enum(wayShapes),
  /** Fed from ahead of the main switch, so live with it off. */
  ahead: z.boolean(),
  /** `none`, `own` (its breaker has one), `unknown`, or the id of the residual device it is behind. */
  guard: idField,
  /** Neutral bar its neutral was found on: `main`, or the id of the device whose bar it is; null: not looked. */
  bar: idField.nullable(),
})
export type Way = z.infer<typeof waySchema>

export const pointKinds = ['outlet', 'switch', 'light', 'fixed', 'box'] as const
export const conditions = ['sound', 'worn', 'damaged'] as const
export const pointSchema = z.strictObject({
  id: idField,
  name: text(120),
  room: text(120),
  kind: z.enum(pointKinds),
  watts: amount.nullable(),
  /** Kind of appliance, from the catalogue. */
  appliance: text(64).nullable(),
  /** Must not lose power: a freezer, an alarm. */
  mustHold: z.boolean(),
  /** Found behind plaster or above a ceiling; to be made accessible. */
  hidden: z.boolean(),
  /** To be put in: nothing is there to trace yet. */
  planned: z.boolean(),
  /** Centre above the finished floor, in millimetres. */
  heightMm: amount.nullable(),
  condition: z.enum(conditions).nullable(),
  /** The cable that arrives, as seen. */
  cable: text(80),
})
export type SurveyPoint = z.infer<typeof pointSchema>

/**
 * What showed that a point was dead or live. A non-contact detector alone proves nothing; `told` is an earlier drawing or the wiring
 * seen laid open.
 */
export const instruments = ['contact', 'lamp', 'non-contact', 'told'] as const
/**
 * `looked`: the points that were listed when it was seen; one listed later was not looked at, so it says nothing of it. Null: written
 * before that was kept.
 */
export const sightingSchema = z.strictObject({
  id: idField,
  at: z.iso.datetime(),
  instrument: z.enum(instruments),
  withdrawn: z.boolean(),
  seen: observationSchema,
  looked: z.array(idField).max(1000).nullable(),
})

/** Where a room lies from the board: paced, rough, and null until somebody paces it. */
export const roomSchema = z.strictObject({
  name: text(120),
  floor: z.int().min(-5).max(50),
  alongM: z.number().min(-1000).max(1000).nullable(),
  acrossM: z.number().min(-1000).max(1000).nullable(),
  finished: z.boolean().nullable(),
})

/** A trace as it stood on a day, by name, so that it can be read whatever happens to the survey. */
export const keptTraceSchema = z.strictObject({
  id: idField,
  at: z.iso.datetime(),
  title: text(120),
  points: z.array(z.strictObject({ id: idField, name: text(120), feed: text(120).nullable(), parent: text(120).nullable() })).max(1000),
})

export const runKinds = ['wall', 'counter', 'hallway'] as const
export const pieceKinds = ['wall', 'door', 'fixed', 'sink', 'basin', 'bath', 'shower'] as const
/** A wall or counter as a string of pieces, and the outlets along it; distances from its start. */
export const runSchema = z.strictObject({
  id: idField,
  room: text(120),
  name: text(120),
  kind: z.enum(runKinds),
  pieces: z
    .array(z.strictObject({ id: idField, what: z.enum(pieceKinds), lengthM: z.number().positive().max(200) }))
    .min(1)
    .max(60),
  outlets: z.array(z.strictObject({ id: idField, atM: amount, heightMm: amount.nullable() })).max(200),
})

export const defectStates = ['open', 'work', 'declined', 'done'] as const
export const defectSchema = z.strictObject({
  id: idField,
  text: text(1000),
  place: text(200),
  /** Kind from the catalogue of defects; null where not sorted yet. */
  kind: text(64).nullable(),
  state: z.enum(defectStates),
  reason: text(1000),
  work: z.strictObject({ kind: z.enum(['point', 'circuit', 'box']), id: idField }).nullable(),
})

const weight = z.int().min(0).max(5)
export const weightsSchema = z.strictObject({
  spare: weight,
  length: weight,
  minutes: weight,
  disturbance: weight,
  protection: weight,
  later: weight,
})

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

/** What was found in the building. */
export const surveySchema = z.strictObject({
  boards: z.array(boardSchema).min(1).max(20),
  guards: z.array(guardSchema).max(40),
  ways: z.array(waySchema).max(200),
  rooms: z.array(roomSchema).max(200),
  points: z.array(pointSchema).max(1000),
  sightings: z.array(sightingSchema).max(5000),
  traces: z.array(keptTraceSchema).max(50),
  runs: z.array(runSchema).max(100),
  reportBy: text(200),
  defects: z.array(defectSchema).max(500),
  demand: demandFactsSchema,
  weights: weightsSchema,
  /** Answers to the questions about time, by question. */
  answers: z.record(text(64), text(64)),
  practice: practiceSchema.nullable(),
})
export type Survey = z.infer<typeof surveySchema>

export const newBoard = (id: string, more: Partial<Board> = {}): Board => ({
  id,
  name: '',
  spaces: null,
  mainA: null,
  mainSwitch: 'unknown',
  fedFrom: null,
  ...more,
})
export const newWay = (id: string, label: string, more: Partial<Way> = {}): Way => ({
  id,
  board: MAIN_BOARD,
  label,
  ratingA: null,
  poles: 1,
  curve: null,
  position: null,
  half: null,
  kind: 'circuit',
  shape: 'unknown',
  ahead: false,
  guard: 'unknown',
  bar: null,
  ...more,
})
export const newPoint = (id: string, name: string, more: Partial<SurveyPoint> = {}): SurveyPoint => ({
  id,
  name,
  room: '',
  kind: 'outlet',
  watts: null,
  appliance: null,
  mustHold: false,
  hidden: false,
  planned: false,
  heightMm: null,
  condition: null,
  cable: '',
  ...more,
})

export const newSurvey = (): Survey => ({
  boards: [newBoard(MAIN_BOARD)],
  guards: [],
  ways: [],
  rooms: [],
  points: [],
  sightings: [],
  traces: [],
  runs: [],
  reportBy: '',
  defects: [],
  demand: { floorAreaM2: null, smallApplianceCircuits: 0, laundryCircuits: 0, hvacKind: null, hvacVa: 0, recordedA: null },
  weights: { spare: 3, length: 2, minutes: 2, disturbance: 3, protection: 2, later: 1 },
  answers: {},
  practice: null,
})
