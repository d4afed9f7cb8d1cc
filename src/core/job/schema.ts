import { z } from 'zod'
import { word } from './fields'
import { type RegionId, regionIds } from '../region/types'
import { boardSchema, MAIN_BOARD, newBoard, residualDeviceSchema, waySchema } from './board'
import { briefSchema, newBrief, newSupply, supplySchema, titleFields } from './brief'
import { buildingSchema } from './building'
import { cableSchema } from './cable'
import { boxSchema } from './box'
import { coilSchema } from './coil'
import { duesSchema } from './due'
import { addCircuit, circuitSchema } from './circuit'
import { daySchema } from './day'
import { issuesSchema } from './issue'
import { labelsSchema } from './label'
import { keptTraceSchema, observationSchema } from './observation'
import { pointSchema } from './point'
import { racewaySchema } from './raceway'
import { signalCableSchema } from './signal-cable'
import { readingSchema } from './reading'
import { defectSchema, newSurveyFacts, surveyFacts } from './report'
import { roomSchema, wallSchema } from './room'

export const JOB_VERSION = 4

/** One record of the installation as it was found, as it will be and as it became, and of the work on it. */
export const jobSchema = z.strictObject({
  ...titleFields,
  region: z.enum(regionIds),
  brief: briefSchema,
  supply: supplySchema,
  rooms: z.array(roomSchema).max(400),
  walls: z.array(wallSchema).max(100),
  /** How the building is made; none: not entered. */
  building: buildingSchema.optional(),
  boards: z.array(boardSchema).min(1).max(60),
  residualDevices: z.array(residualDeviceSchema).max(40),
  ways: z.array(waySchema).max(3000),
  boxes: z.array(boxSchema).max(20_000),
  points: z.array(pointSchema).max(20_000),
  cables: z.array(cableSchema).max(25_000),
  circuits: z.array(circuitSchema).min(1).max(2000),
  raceways: z.array(racewaySchema).max(100),
  signalCables: z.array(signalCableSchema).max(200).optional(),
  coils: z.array(coilSchema).max(200).optional(),
  day: daySchema.optional(),
  /** The record as it was handed over and signed, afresh each time. */
  issues: issuesSchema.optional(),
  /** What is to be done again after the job, and when. */
  due: duesSchema.optional(),
  /** How labels are printed, and which were stuck. */
  labels: labelsSchema.optional(),
  observations: z.array(observationSchema).max(5000),
  traces: z.array(keptTraceSchema).max(50),
  defects: z.array(defectSchema).max(500),
  ...surveyFacts,
  /** Prices of one's own, by name, in place of the usual ones. */
  prices: z.record(word(64), z.number().nonnegative().max(1e6)),
})

/** Everything known and decided about one piece of work; plain and immutable. */
export type Job = z.infer<typeof jobSchema>

type Checked = (part: unknown, before: unknown, at: string) => void
/** What was there before is not checked again: of a list only what came into it, and how long it is. */
const checks: Readonly<Record<string, Checked>> = Object.fromEntries(
  Object.entries<z.ZodType>(jobSchema.shape).map(([at, schema]): [string, Checked] => {
    if (!(schema instanceof z.ZodArray)) return [at, (part) => within([at], () => schema.parse(part))]
    const { element } = schema as z.ZodArray<z.ZodType>
    const bounds = new z.ZodArray({ ...schema.def, element: z.unknown() })
    const list: Checked = (part, before) => {
      within([at], () => bounds.parse(part))
      const known = new Set(before as unknown[])
      for (const [i, x] of (part as unknown[]).entries()) if (!known.has(x)) within([at, i], () => element.parse(x))
    }
    return [at, list]
  }),
)
function within(path: (string | number)[], check: () => void): void {
  try {
    check()
  } catch (e) {
    throw e instanceof z.ZodError ? new z.ZodError(e.issues.map((issue) => ({ ...issue, path: [...path, ...issue.path] }))) : e
  }
}

/** Holds what a change made of a valid job against the schema, without looking again at what it left alone. @throws ZodError */
export function checkChanged(before: Job, after: Job): void {
  for (const [at, part] of Object.entries(after)) {
    if (part === before[at as keyof Job]) continue
    const check = checks[at]
    // A part that no job has is refused by the whole schema, in its words.
    if (!check) return void jobSchema.parse(after)
    check(part, before[at as keyof Job], at)
  }
}

/** What is written to disk and read back: the job with its readings. */
export const jobFileSchema = z.strictObject({
  format: z.literal('synthema-job'),
  version: z.literal(JOB_VERSION),
  job: jobSchema,
  readings: z.array(readingSchema).max(100_000),
})
export type JobFile = z.infer<typeof jobFileSchema>

/** A job with nothing in it yet. */
export const bareJob = (region: RegionId, title: string, place: string): Job => ({
  title,
  place,
  region,
  brief: newBrief(),
  supply: newSupply(),
  rooms: [],
  walls: [],
  boards: [newBoard(MAIN_BOARD)],
  residualDevices: [],
  ways: [],
  boxes: [],
  points: [],
  cables: [],
  circuits: [],
  raceways: [],
  observations: [],
  traces: [],
  defects: [],
  ...newSurveyFacts(),
  prices: {},
})

/** A job as it begins: a board, and one circuit from it to one point. */
export function newJob(region: RegionId, title: string, place: string): Job {
  const job = bareJob(region, title, place)
  addCircuit(job, 'c1', 'Circuit 1')
  return job
}
