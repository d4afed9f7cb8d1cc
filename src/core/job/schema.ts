import { z } from 'zod'
import { fitnessAnswers } from '../catalogue/fitness'
import { breakerTypes, conductorMetals, type RegionId, regionIds } from '../region/types'
import { newSurvey, surveySchema } from '../survey/schema'

const text = (max: number) => z.string().max(max, `at most ${max} characters`)
const idField = z.string().min(1).max(64)
const amount = z.number().nonnegative().max(1e6)

export const environments = ['dry', 'damp', 'wet', 'outdoors'] as const
export const earthings = ['tn-c-s', 'tn-s', 'tt'] as const
export const residualPlaces = ['none', 'board', 'outlet'] as const

export const briefSchema = z.strictObject({
  request: text(2000),
  askedBy: text(200),
  through: text(200),
  existing: text(2000),
  finish: text(1000),
  later: text(1000),
  environment: z.enum(environments).nullable(),
  fitness: z.record(z.string().max(64), z.enum(fitnessAnswers)),
})

export const supplySchema = z.strictObject({
  earthing: z.enum(earthings).nullable(),
  /** External earth fault loop impedance, in ohms, as measured at the board. */
  zeOhm: amount.nullable(),
  board: text(200),
})

/** What is to be powered, as the nameplate says it. */
export const loadSchema = z.strictObject({
  kind: z.string().max(64).nullable(),
  name: text(200),
  volts: z.number().positive().max(1000).nullable(),
  basis: z.enum(['watts', 'amps']),
  amount: amount.nullable(),
  connection: z.enum(['plug', 'fixed']),
  continuous: z.boolean(),
  lighting: z.boolean(),
})

/** One way to build a circuit. Null is undecided, and is shown so. */
export const designSchema = z.strictObject({
  id: idField,
  name: text(80),
  cable: z.string().max(40),
  conductor: z.enum(conductorMetals),
  lengthM: amount.nullable(),
  ambientC: z.number().min(-50).max(100),
  loadedConductors: z.int().min(1).max(100),
  terminalC: z.literal([60, 75]),
  method: z.string().max(60).nullable(),
  groupedCircuits: z.int().min(1).max(100),
  insulationMm: amount,
  accessory: z.string().max(64).nullable(),
  accessories: z.int().min(1).max(100),
  cordA: z.number().positive().max(1000).nullable(),
  wantedBreakerA: amount.nullable(),
  minSize: z.string().max(20).nullable(),
  breakerType: z.enum(breakerTypes),
  residual: z.strictObject({ at: z.enum(residualPlaces), ma: z.number().positive().max(1000) }),
})

export const boxSchema = z.strictObject({
  kind: z.string().max(64).nullable(),
  cables: z.int().min(1).max(12),
  /** Null: as the catalogue says of the box. */
  internalClamps: z.boolean().nullable(),
  supportFittings: z.int().min(0).max(4),
})

export const wiringSchema = z.strictObject({
  colours: z.enum(['new', 'old']),
  /** Steps done, by their id. */
  done: z.array(z.string().max(64)).max(200),
})

export const sourceKinds = ['board', 'extend', 'ring', 'fused-spur'] as const
export const sourceSchema = z.strictObject({
  kind: z.enum(sourceKinds),
  /** The board, or the point it is extended from. */
  from: idField,
  words: text(300),
  reason: text(1000),
  at: z.iso.datetime(),
})

export const circuitSchema = z.strictObject({
  id: idField,
  name: text(120),
  /** Way in the board it leaves from, as labelled. */
  way: text(40),
  /** Where it takes its power from and why, once that was weighed; null: not weighed. */
  source: sourceSchema.nullable(),
  load: loadSchema,
  designs: z.array(designSchema).min(1).max(3),
  chosen: idField,
  reason: text(1000),
  box: boxSchema,
  wiring: wiringSchema,
})

export const JOB_VERSION = 2
export const jobSchema = z.strictObject({
  title: z.string().trim().min(1, 'a job needs a title').max(120),
  place: text(200),
  region: z.enum(regionIds),
  brief: briefSchema,
  supply: supplySchema,
  survey: surveySchema,
  circuits: z.array(circuitSchema).min(1).max(2000),
})

/** Everything known and decided about one piece of work; plain and immutable. */
export type Job = z.infer<typeof jobSchema>
export type Brief = z.infer<typeof briefSchema>
export type Load = z.infer<typeof loadSchema>
export type Design = z.infer<typeof designSchema>
export type Box = z.infer<typeof boxSchema>
export type Circuit = z.infer<typeof circuitSchema>

/** A measurement or a confirmed step. Never edited: a correction is a new reading that names the old. */
export const readingSchema = z.strictObject({
  id: idField,
  circuit: idField,
  test: z.string().min(1).max(64),
  /** In the unit of the test; null where the reading is a mark alone. */
  value: z.number().nullable(),
  /** yes/no for a step or observation; `over` for more than the value; `open` where the meter shows no circuit. */
  mark: z.enum(['yes', 'no', 'over', 'open']).nullable(),
  unit: z.string().max(12),
  at: z.iso.datetime(),
  by: text(120),
  instrument: text(120),
  note: text(500),
  corrects: idField.nullable(),
})
export type Reading = z.infer<typeof readingSchema>

/** What is written to disk and read back: the job with its readings. */
export const jobFileSchema = z.strictObject({
  format: z.literal('synthema-job'),
  version: z.literal(JOB_VERSION),
  job: jobSchema,
  readings: z.array(readingSchema).max(100_000),
})
export type JobFile = z.infer<typeof jobFileSchema>

const defaultCable: Record<RegionId, string> = { 'north-america': 'nm-b', 'united-kingdom': 'twin-earth', 'southern-africa': 'flat-twin-earth' }
const defaultMethod: Record<RegionId, string | null> = { 'north-america': null, 'united-kingdom': 'clipped-direct', 'southern-africa': 'C' }

export function newLoad(region: RegionId): Load {
  return { kind: null, name: '', volts: region === 'north-america' ? 120 : 230, basis: 'watts', amount: null, connection: 'plug', continuous: false, lighting: false }
}

export function newDesign(region: RegionId, id: string, name: string): Design {
  return {
    id,
    name,
    cable: defaultCable[region],
    conductor: 'copper',
    lengthM: null,
    ambientC: 30,
    loadedConductors: 2,
    terminalC: 60,
    method: defaultMethod[region],
    groupedCircuits: 1,
    insulationMm: 0,
    accessory: null,
    accessories: 1,
    cordA: null,
    wantedBreakerA: null,
    minSize: null,
    breakerType: 'B',
    residual: region === 'north-america' ? { at: 'none', ma: 5 } : { at: 'board', ma: 30 },
  }
}

export function newCircuit(region: RegionId, id: string, name: string): Circuit {
  return {
    id,
    name,
    way: '',
    source: null,
    load: newLoad(region),
    designs: [newDesign(region, 'a', 'A')],
    chosen: 'a',
    reason: '',
    box: { kind: null, cables: 1, internalClamps: null, supportFittings: 0 },
    wiring: { colours: 'new', done: [] },
  }
}

export function newJob(region: RegionId, title: string, place: string): Job {
  return {
    title,
    place,
    region,
    brief: { request: '', askedBy: '', through: '', existing: '', finish: '', later: '', environment: null, fitness: {} },
    supply: { earthing: null, zeOhm: null, board: '' },
    survey: newSurvey(),
    circuits: [newCircuit(region, 'c1', 'Circuit 1')],
  }
}

export const chosenDesign = (circuit: Circuit): Design => circuit.designs.find((d) => d.id === circuit.chosen) ?? circuit.designs[0]!
