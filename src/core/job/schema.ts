import { z } from 'zod'
import { type RegionId, regionIds } from '../region/types'
import { boardSchema, MAIN_BOARD, newBoard, residualDeviceSchema, waySchema } from './board'
import { briefSchema, newBrief, newSupply, supplySchema, titleFields } from './brief'
import { cableSchema } from './cable'
import { addCircuit, circuitSchema } from './circuit'
import { keptTraceSchema, observationSchema } from './observation'
import { pointSchema } from './point'
import { racewaySchema } from './raceway'
import { readingSchema } from './reading'
import { defectSchema, newSurveyFacts, surveyFacts } from './report'
import { roomSchema, wallSchema } from './room'

export const JOB_VERSION = 3

/** One record of the installation as it was found, as it will be and as it became, and of the work on it. */
export const jobSchema = z.strictObject({
  ...titleFields,
  region: z.enum(regionIds),
  brief: briefSchema,
  supply: supplySchema,
  rooms: z.array(roomSchema).max(400),
  walls: z.array(wallSchema).max(100),
  boards: z.array(boardSchema).min(1).max(60),
  residualDevices: z.array(residualDeviceSchema).max(40),
  ways: z.array(waySchema).max(3000),
  points: z.array(pointSchema).max(20_000),
  cables: z.array(cableSchema).max(25_000),
  circuits: z.array(circuitSchema).min(1).max(2000),
  raceways: z.array(racewaySchema).max(100),
  observations: z.array(observationSchema).max(5000),
  traces: z.array(keptTraceSchema).max(50),
  defects: z.array(defectSchema).max(500),
  ...surveyFacts,
  /** Prices of one's own, by name, in place of the usual ones. */
  prices: z.record(z.string().max(64), z.number().nonnegative().max(1e6)),
})

/** Everything known and decided about one piece of work; plain and immutable. */
export type Job = z.infer<typeof jobSchema>

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
