import { z } from 'zod'
import { materialsOf } from '../workday/materials'
import { evaluate, type Report } from '../evaluate/evaluate'
import { asDesigned, BOARD, faceOf, type Role, type Wiring } from '../meters/as-wired'
import { wiringOf } from '../meters/wiring-of'
import { testsBesides } from '../faults/besides'
import { campaign, fewestMore, signs } from '../faults/campaign'
import { diagnose, knownOf } from '../faults/diagnose'
import { instrumentIds, instruments, type Probe, shownOn, type Stands } from '../meters/instruments'
import { standingAfresh } from '../meters/measure'
import { readOf } from '../faults/read'
import { mistakeKinds, mistakesOf } from '../faults/mistakes'
import { InputError } from '../base/input-error'
import { type Installation, read } from '../installation/installation'
import { readJobFile, JobFileError } from '../job/file'

/** A Job file of any version, as it was exported, and a circuit of it; the first where none is named. */
const asked = { job: z.record(z.string(), z.unknown()), circuit: z.string().optional() }
const shownSchema = z.union([z.number(), z.enum(['open', 'yes', 'no'])])

function opened(file: unknown): { readonly job: Installation; readonly report: Report; readonly readings: readonly ReadingOf[] } {
  try {
    const { job, readings } = readJobFile(file)
    return { job: read(job), report: evaluate(job, readings), readings }
  } catch (e) {
    if (e instanceof JobFileError) throw new InputError(`job.${e.path}`, e.message)
    throw e
  }
}
type ReadingOf = ReturnType<typeof readJobFile>['readings'][number]

function circuitOf(job: Installation, report: Report, circuit: string | undefined) {
  const of = circuit === undefined ? report.circuits[0]! : report.byCircuit.get(circuit)
  if (!of) throw new InputError('circuit', `There is no circuit ${circuit} in the job.`)
  const wiring = wiringOf(job, of)
  if (!wiring) throw new InputError('circuit', 'Its wiring is not known yet: lengths, sizes and what it ends on come first.')
  return { of, wiring }
}

export const campaignInput = z.strictObject(asked)
export const campaignOutput = z.strictObject({
  tried: z.array(
    z.strictObject({
      id: z.string(),
      kind: z.enum(mistakeKinds),
      words: z.string(),
      place: z.string(),
      effect: z.enum(['dangerous', 'trips', 'dead', 'unseen']),
      does: z.string(),
      caughtBy: z.array(z.string()),
      extra: z.string().nullable(),
    }),
  ),
  notTried: z.array(z.string()),
  /** The fewest tests besides the plan that catch everything dangerous which any of them catches. */
  more: z.array(z.string()),
})
/** Every single mistake of a circuit, what it does, and which tests of its plan it fails. @throws InputError */
export function judgeMistakes({ job: file, circuit }: z.output<typeof campaignInput>): z.output<typeof campaignOutput> {
  const { job, report } = opened(file)
  const { of, wiring } = circuitOf(job, report, circuit)
  const besides = testsBesides(job, of)
  const titles = new Map(besides.map((t) => [t.id, t.title]))
  const found = campaign(wiring, of.tests, besides)
  const tried = found.tried.map(({ moreBy, ...t }) => ({
    ...t,
    caughtBy: [...t.caughtBy],
    extra: moreBy[0] === undefined ? null : titles.get(moreBy[0])!,
  }))
  return { tried, notTried: [...found.notTried], more: [...fewestMore(found)] }
}

export const diagnoseInput = z.strictObject({
  ...asked,
  /** In place of the readings of the file. */
  readings: z
    .array(z.strictObject({ test: z.string(), shown: shownSchema, point: z.string().nullable().optional() }))
    .max(200)
    .optional(),
  /** What somebody complains of, who has no instrument: one thing, or several. */
  complaint: z.union([z.enum(signs), z.array(z.enum(signs)).max(signs.length)]).optional(),
})
export const diagnoseOutput = z.strictObject({
  causes: z.array(z.strictObject({ id: z.string().nullable(), words: z.string(), belief: z.number() })),
  /** `point`: where to take it; null: at all of them. */
  next: z.strictObject({ test: z.string(), bits: z.number(), point: z.string().nullable() }).nullable(),
  several: z.boolean(),
})
/** Which mistakes explain the readings of a circuit, and what to measure next. @throws InputError */
export function judgeReadings({
  job: file,
  circuit,
  readings,
  complaint,
}: z.output<typeof diagnoseInput>): z.output<typeof diagnoseOutput> {
  const { job, report } = opened(file)
  const { of, wiring } = circuitOf(job, report, circuit)
  const taken = readings ?? of.testReport.judged.flatMap(readOf)
  for (const [i, r] of (readings ?? []).entries()) {
    if (!of.tests.some((t) => t.id === r.test)) throw new InputError(`readings.${i}.test`, `This circuit has no test ${r.test}.`)
    if (r.point != null && !wiring.places.some((p) => p.id === r.point))
      throw new InputError(`readings.${i}.point`, `This circuit has no point ${r.point}.`)
  }
  const { causes, next, several } = diagnose(knownOf(wiring, of.tests), taken, complaint === undefined ? [] : [complaint].flat())
  return { causes: causes.map((c) => ({ ...c })), next, several }
}
const roles = ['line', 'line-2', 'neutral', 'pe'] as const
const probe = z.strictObject({ place: z.string(), conductor: z.enum(roles) })
export const instrumentInput = z.strictObject({
  ...asked,
  /** `voltmeter` and `ohmmeter` are without habits: nothing flows in them. */
  instrument: z.enum(['voltmeter', ...instrumentIds]),
  a: probe,
  /** Of what is put to one place alone the second probe says nothing. */
  b: probe.optional(),
  state: z
    .strictObject({
      breaker: z.enum(['on', 'off']).default('off'),
      neutralLifted: z.boolean().default(false),
      linked: z
        .array(z.tuple([z.enum(roles), z.enum(roles)]))
        .max(4)
        .default([]),
      load: z.union([z.enum(['own', 'none']), z.number().min(0).max(50_000)]).default('none'),
    })
    .prefault({}),
  /** A mistake of `campaign` by its id; without it the circuit is as designed. */
  mistake: z.string().optional(),
})
export const instrumentOutput = z.strictObject({
  /** A figure in its unit, or what is seen; `open`: no circuit. */
  shown: z.union([z.number(), z.string()]),
  unit: z.enum(['V', 'Ω', 'MΩ', 'A', 'mA', 'ms', '']),
  note: z.string().nullable(),
  trips: z.array(z.string()),
})
/** What an instrument shows between two conductors of a circuit, or at one place of it. @throws InputError */
export function judgeInstrument(input: z.output<typeof instrumentInput>): z.output<typeof instrumentOutput> {
  const { job: file, circuit, instrument, a, b, state, mistake } = input
  const { job, report } = opened(file)
  const { wiring } = circuitOf(job, report, circuit)
  const differs = mistake === undefined ? asDesigned : mistakesOf(wiring).find((m) => m.id === mistake)?.difference
  if (!differs) throw new InputError('mistake', `There is no mistake ${mistake}; the calculator campaign lists them.`)
  if (instrument !== 'voltmeter' && instruments[instrument].dead && state.breaker === 'on')
    throw new InputError('state.breaker', 'This is done dead: switch it off.')
  const two = instrument === 'voltmeter' || instruments[instrument].probes === 'two'
  if (two && !b) throw new InputError('b', 'It is put between two places: where is the other probe?')
  const at = (p: typeof a, path: string): Probe => ({ place: placed(wiring, p, path), role: p.conductor })
  const [from, to] = [at(a, 'a'), b ? at(b, 'b') : at(a, 'a')]
  const { neutralLifted, linked, load } = state
  const stands: Stands = { closed: state.breaker === 'on', neutralLifted, linked, load }
  if (instrument === 'voltmeter') {
    const { volts } = standingAfresh(wiring, differs, stands)
    return {
      shown: volts(faceOf(wiring, differs, from.place, from.role)!, faceOf(wiring, differs, to.place, to.role)!),
      unit: 'V',
      note: null,
      trips: [],
    }
  }
  const { shown, value, unit, note, trips } = shownOn(wiring, differs, instrument, from, to, stands)
  return { shown: value ?? shown, unit, note, trips: [...trips] }
}
function placed(w: Wiring, { place, conductor }: { readonly place: string; readonly conductor: Role }, path: string): string {
  if (place !== BOARD && !w.places.some((p) => p.id === place)) throw new InputError(`${path}.place`, `This circuit has no point ${place}.`)
  if (!w.roles.includes(conductor) || faceOf(w, asDesigned, place, conductor) === null)
    throw new InputError(`${path}.conductor`, `This circuit has no ${conductor}.`)
  return place
}

export const materialsInput = z.strictObject({ job: asked.job })
export const materialsOutput = z.strictObject({
  lines: z.array(
    z.strictObject({
      id: z.string(),
      what: z.string(),
      count: z.number(),
      unit: z.enum(['', 'm']),
      where: z.array(z.string()),
      price: z.number().nullable(),
      priceName: z.string().nullable(),
      usual: z.boolean(),
    }),
  ),
  unknown: z.array(z.string()),
})
/** What the design of a job asks for, counted. @throws InputError */
export function judgeMaterials({ job: file }: z.output<typeof materialsInput>): z.output<typeof materialsOutput> {
  const { job, report } = opened(file)
  const { lines, unknown } = materialsOf(job, report)
  return { lines: lines.map((l) => ({ ...l, where: [...l.where] })), unknown: [...unknown] }
}
