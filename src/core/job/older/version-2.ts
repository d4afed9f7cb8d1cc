/*
 * The document of version 2 as it was, frozen: it reads older files and is written by nothing.
 */
import { z } from 'zod'
import { fitnessAnswers } from '../../catalogue/fitness'
import { breakerTypes, conductorMetals, type RegionId, regionIds } from '../../region/types'
import { conduitSizes } from '../../calculate/conduit-fill'
import { racewayKinds } from '../../calculate/tables'
import { newSurvey, surveySchema } from './version-2-survey'

const text = (max: number) => z.string().max(max, `at most ${max} characters`)
const idField = z.string().min(1).max(64)
const amount = z.number().nonnegative().max(1e6)

export const environments = ['dry', 'damp', 'wet', 'outdoors'] as const
export const earthings = ['tn-c-s', 'tn-s', 'tt'] as const
/** `first`: an outlet with a device of its own that guards those downstream of it. */
export const residualPlaces = ['none', 'board', 'first', 'outlet'] as const
export const premisesKinds = ['dwelling', 'workshop', 'hall', 'farm', 'other'] as const
/** Where the points of a circuit are, as the rules on protection name places. */
export const placeKinds = [
  'living',
  'bedroom',
  'kitchen',
  'bathroom',
  'laundry',
  'garage',
  'basement',
  'workshop',
  'hall',
  'outdoors',
  'other',
] as const
export const loadBases = ['watts', 'va', 'amps', 'kwh'] as const
export const loadNatures = ['general', 'heating', 'lighting', 'motor', 'cooking', 'duty', 'charging', 'electronic'] as const
export const circuitKinds = ['radial', 'ring', 'shared-neutral', 'feeder'] as const
export const circuitWorks = ['new', 'altered'] as const
export const runPlaces = ['surface', 'wall', 'insulation', 'attic', 'underfloor', 'conduit', 'buried', 'outdoors'] as const
/** Types of outlet and cover, and protection against surges, that are fitted. */
export const fittedTypes = ['tamper', 'weather', 'surge'] as const
/** What a residual device sees: IEC 60755; each sees all that those before it see. */
export const residualTypes = ['AC', 'A', 'F', 'B'] as const
export const arcPlaces = ['none', 'board', 'outlet'] as const

export const briefSchema = z.strictObject({
  request: text(2000),
  askedBy: text(200),
  through: text(200),
  existing: text(2000),
  finish: text(1000),
  later: text(1000),
  environment: z.enum(environments).nullable(),
  premises: z.enum(premisesKinds).nullable(),
  fitness: z.record(z.string().max(64), z.enum(fitnessAnswers)),
})

export const supplySchema = z.strictObject({
  earthing: z.enum(earthings).nullable(),
  /** External earth fault loop impedance, in ohms, as measured at the board. */
  zeOhm: amount.nullable(),
  board: text(200),
  /** Prospective fault current at the board, in kiloamperes, as measured or as the supplier says. */
  pscKa: z.number().positive().max(200).nullable(),
  /** The device ahead of the final circuits, against which they must discriminate. */
  upstream: z.strictObject({ kind: z.enum(['breaker', 'fuse']), ratingA: z.number().positive().max(1000) }).nullable(),
})

/** What is to be powered, as the nameplate says it. */
export const loadSchema = z.strictObject({
  kind: z.string().max(64).nullable(),
  name: text(200),
  volts: z.number().positive().max(1000).nullable(),
  basis: z.enum(loadBases),
  /** In the unit of the basis: W, VA, A, or kWh used in `hours`. */
  amount: amount.nullable(),
  hours: z.number().positive().max(8760).nullable(),
  powerFactor: z.number().min(0.1).max(1).nullable(),
  nature: z.enum(loadNatures),
  /** Current at switching on, in times the running current; null: as usual for its nature. */
  startFactor: z.number().min(1).max(40).nullable(),
  /** Share of the time it draws its current, of duty-cycled equipment. */
  duty: z.number().positive().max(1).nullable(),
  /** Hours of use a year, for what its cable wastes; null: as usual. */
  hoursPerYear: z.number().min(0).max(8784).nullable(),
  connection: z.enum(['plug', 'fixed']),
  continuous: z.boolean(),
  lighting: z.boolean(),
})

/** A stretch of the run with one manner of running it. */
export const segmentSchema = z.strictObject({
  id: idField,
  place: z.enum(runPlaces),
  lengthM: amount.nullable(),
  ambientC: z.number().min(-50).max(100),
  method: z.string().max(60).nullable(),
  loadedConductors: z.int().min(1).max(100),
  groupedCircuits: z.int().min(1).max(100),
  insulationMm: amount,
})
export type Segment = z.infer<typeof segmentSchema>

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
  residual: z.strictObject({
    at: z.enum(residualPlaces),
    ma: z.number().positive().max(1000),
    /** As marked on the device; null: not looked. */
    type: z.enum(residualTypes).nullable(),
  }),
  /** Stretches from the board to the (first) point; none: one run as said above. */
  segments: z.array(segmentSchema).max(20),
  /** Fuse in the connection unit or plug, in amperes. */
  fuseA: z.number().positive().max(1000).nullable(),
  /** An extension cord between outlet and appliance. */
  extension: z.strictObject({ ratingA: z.number().positive().max(1000), lengthM: amount, size: z.string().max(20) }).nullable(),
  arcFault: z.enum(arcPlaces),
  /** What the breaker can break, in kiloamperes, as marked on it. */
  breakingKa: z.number().positive().max(200).nullable(),
  /** Up to what fault current it alone trips, in kiloamperes, by the makers' tables for it and the device ahead; null: not looked up. */
  selectiveKa: z.number().positive().max(200).nullable(),
  fitted: z.array(z.enum(fittedTypes)).max(3),
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

/** Where outlets are, as far as rules on their types ask. Null: of a point, as its circuit; of a circuit, not said. */
const site = {
  place: z.enum(placeKinds).nullable(),
  environment: z.enum(environments).nullable(),
  /** North America: within 1.8 m of the edge of a sink, bath or shower. Elsewhere: within 2.5 m of that of a bath or shower. */
  nearWater: z.boolean().nullable(),
  /** Higher than 1.7 m, or behind an appliance that is not easily moved. */
  outOfReach: z.boolean().nullable(),
}

/** A point along a circuit: what it draws and the cable that reaches it. */
export const circuitPointSchema = z.strictObject({
  ...site,
  id: idField,
  name: text(120),
  /** The point it is fed from; null: the board, or the ring itself. */
  from: idField.nullable(),
  /** Of the cable from there; in a ring from the point before. */
  lengthM: amount.nullable(),
  watts: amount.nullable(),
  /** Of two lines that share a neutral; `AB` is across both. */
  leg: z.enum(['A', 'B', 'AB']),
  /** Another size than the circuit's, for the cable that reaches it. */
  size: z.string().max(20).nullable(),
  /** Fed through a fused connection unit of this rating. */
  fuseA: z.number().positive().max(100).nullable(),
  outlets: z.int().min(0).max(20),
  /** What is there where it is not what the circuit ends on. */
  accessory: z.string().max(64).nullable(),
  /** Whether what is fed beyond it is on the load side of a residual device in it. */
  guardsOn: z.boolean(),
  /** What it feeds, by the catalogue; null: anything. */
  appliance: z.string().max(64).nullable(),
  /** What is fitted here where it is not what is fitted along the circuit. */
  fitted: z.array(z.enum(fittedTypes)).max(3).nullable(),
})
export type CircuitPoint = z.infer<typeof circuitPointSchema>

export const racewaySchema = z.strictObject({
  id: idField,
  name: text(120),
  /** North America; elsewhere a round conduit of `conduitMm`. */
  kind: z.enum(racewayKinds),
  tradeSize: z.string().max(10),
  conduitMm: z.enum(conduitSizes),
  /** Quarter bends between draw-in points, where they are counted and not marked out. */
  bendCount: z.int().min(0).max(20),
  nipple: z.boolean(),
  lengthM: amount.nullable(),
  /** Lowest and highest temperature of the site over the year. */
  minC: z.number().min(-60).max(90),
  maxC: z.number().min(-60).max(90),
  circuits: z.array(idField).max(60),
  bends: z
    .array(
      z.discriminatedUnion('kind', [
        z.strictObject({ id: idField, kind: z.literal('offset'), riseMm: amount, angleDeg: z.number().positive().max(90) }),
        z.strictObject({ id: idField, kind: z.literal('stub-90'), heightMm: amount }),
        z.strictObject({ id: idField, kind: z.literal('straight'), lengthMm: amount }),
      ]),
    )
    .max(40),
})
export type Raceway = z.infer<typeof racewaySchema>

export const circuitSchema = z.strictObject({
  id: idField,
  name: text(120),
  kind: z.enum(circuitKinds),
  work: z.enum(circuitWorks),
  ...site,
  /** Points in order; in a ring, in the order of the ring. None: one load at the end of one run. */
  points: z.array(circuitPointSchema).max(200),
  /** Of a ring: from its last point back to the board. */
  closeM: amount.nullable(),
  /** What is known of old wiring that stays, by question. */
  old: z.record(z.string().max(64), z.enum(fitnessAnswers)),
  /** The feeder of this job whose sub-board it leaves from; null: a board that is there. */
  feeder: idField.nullable(),
  /** The residual device of the board it is behind, or `own` for one of its own; null: not said. */
  guard: idField.nullable(),
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
  /** The same for each further kind of accessory on the circuit, by its name in the catalogue. */
  ends: z.record(z.string().max(64), z.strictObject({ box: boxSchema, done: wiringSchema.shape.done })),
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
  raceways: z.array(racewaySchema).max(100),
  /** Prices of one's own, by name, in place of the usual ones. */
  prices: z.record(text(64), z.number().nonnegative().max(1e6)),
})

/** Everything known and decided about one piece of work; plain and immutable. */
export type Job = z.infer<typeof jobSchema>
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

const defaultCable: Record<RegionId, string> = {
  'north-america': 'nm-b',
  'united-kingdom': 'twin-earth',
  'southern-africa': 'flat-twin-earth',
}
const defaultVolts: Record<RegionId, number> = { 'north-america': 120, 'united-kingdom': 230, 'southern-africa': 230 }
const atBoard = { at: 'board', ma: 30, type: null } as const
const defaultResidual: Record<RegionId, Design['residual']> = {
  'north-america': { at: 'none', ma: 5, type: null },
  'united-kingdom': atBoard,
  'southern-africa': atBoard,
}
const defaultMethod: Record<RegionId, string | null> = { 'north-america': null, 'united-kingdom': 'clipped-direct', 'southern-africa': 'C' }

export function newLoad(region: RegionId): Load {
  return {
    kind: null,
    name: '',
    volts: defaultVolts[region],
    basis: 'watts',
    amount: null,
    hours: null,
    powerFactor: null,
    nature: 'general',
    startFactor: null,
    duty: null,
    hoursPerYear: null,
    connection: 'plug',
    continuous: false,
    lighting: false,
  }
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
    residual: { ...defaultResidual[region] },
    segments: [],
    fuseA: null,
    extension: null,
    arcFault: 'none',
    breakingKa: null,
    selectiveKa: null,
    fitted: [],
  }
}

export const newBox = (): Box => ({ kind: null, cables: 1, internalClamps: null, supportFittings: 0 })

const noSite = { place: null, environment: null, nearWater: null, outOfReach: null } as const

export function newCircuit(region: RegionId, id: string, name: string): Circuit {
  return {
    id,
    name,
    kind: 'radial',
    work: 'new',
    ...noSite,
    points: [],
    closeM: null,
    old: {},
    feeder: null,
    guard: null,
    way: '',
    source: null,
    load: newLoad(region),
    designs: [newDesign(region, 'a', 'A')],
    chosen: 'a',
    reason: '',
    box: newBox(),
    wiring: { colours: 'new', done: [] },
    ends: {},
  }
}

export function newJob(region: RegionId, title: string, place: string): Job {
  return {
    title,
    place,
    region,
    brief: { request: '', askedBy: '', through: '', existing: '', finish: '', later: '', environment: null, premises: null, fitness: {} },
    supply: { earthing: null, zeOhm: null, board: '', pscKa: null, upstream: null },
    survey: newSurvey(),
    circuits: [newCircuit(region, 'c1', 'Circuit 1')],
    raceways: [],
    prices: {},
  }
}

export const newSegment = (design: Design, id: string): Segment => ({
  id,
  place: 'surface',
  lengthM: null,
  ambientC: design.ambientC,
  method: design.method,
  loadedConductors: design.loadedConductors,
  groupedCircuits: design.groupedCircuits,
  insulationMm: 0,
})
export const newCircuitPoint = (id: string, name: string, more: Partial<CircuitPoint> = {}): CircuitPoint => ({
  id,
  name,
  from: null,
  lengthM: null,
  watts: null,
  leg: 'A',
  size: null,
  fuseA: null,
  outlets: 1,
  accessory: null,
  guardsOn: false,
  ...noSite,
  appliance: null,
  fitted: null,
  ...more,
})
export const newRaceway = (id: string, name: string, more: Partial<Raceway> = {}): Raceway => ({
  id,
  name,
  kind: 'emt',
  tradeSize: '3/4',
  conduitMm: '20',
  bendCount: 0,
  nipple: false,
  lengthM: null,
  minC: 0,
  maxC: 35,
  circuits: [],
  bends: [],
  ...more,
})
