import type { Accessory } from './catalogue/accessories'
import { fitnessFor, fitnessQuestions } from './catalogue/fitness'
import { racewaysOf } from './design/conditions'
import { openFacts } from './design/circuit-input'
import { type Ending, endingsOf, whereEnding } from './design/endings'
import { type Ahead, aheadOf, type Fed, fedBy, loopOfFeeders, seenBy } from './design/fed'
import { areaMm2 } from './design/prices'
import { type WorkedDesign, workOnFeeder } from './design/work'
import { type BoxReport, evaluateBox, wettestOf } from './enclosure/choose-box'
import { type Finding, severities, type Severity } from './finding'
import { type Box, type Circuit, type Design, type Job, newBox, type Reading } from './job/schema'
import { judgeTests, type TestReport } from './record/judge'
import { type Test, testPlan } from './record/tests'
import { circuitFindings } from './rules'
import { serviceFindings } from './rules/board'
import { type InRaceway, racewayReport, type RacewayReport } from './rules/raceway'
import { type StageId, stageIds } from './stages'
import { type BoardReport, boardReport, plannedIn } from './survey/board'
import { pointsThere } from './survey/schema'
import { evaluateSurvey, type SurveyReport } from './trace/survey'
import { wiringStepIds } from './wiring/plan'

export interface OpenItem {
  readonly stage: StageId
  readonly circuit: string | null
  readonly field: string
  readonly ask: string
}
export interface PlacedFinding extends Finding {
  readonly stage: StageId
  readonly circuit: string | null
}

export interface DesignReport extends WorkedDesign {
  /** The feeder it hangs on. */
  readonly fed: Fed | null
  readonly design: Design
}

/** What a circuit ends on at some of its points, with its box and its wiring. */
export interface EndReport {
  readonly fitted: Accessory | undefined
  /** How edits name it: null for the one the circuit ends on. */
  readonly id: string | null
  /** The points where it stands; empty where all are alike. */
  readonly where: string
  /** How many points that is. */
  readonly count: number
  /** The thickest line conductor that comes to it; null while the circuit is not worked out. */
  readonly size: string | null
  /** Where its feed comes from, in words for the drawing; undefined where that is the board itself. */
  readonly feed: string | undefined
  readonly box: Box
  readonly boxReport: BoxReport
  /** Wiring steps by their id, and those that are done. */
  readonly steps: readonly string[]
  readonly done: readonly string[]
}

export interface CircuitReport {
  readonly circuit: Circuit
  /** What stands ahead of it: the supply, or a feeder of this job. */
  readonly ahead: Ahead
  readonly designs: readonly DesignReport[]
  readonly chosen: DesignReport
  /** The kinds of accessory on it; one without an accessory while none is chosen. */
  readonly ends: readonly EndReport[]
  readonly tests: readonly Test[]
  /** The tests as they stand before any reading. */
  readonly untested: TestReport
  /** All that is open before any reading. */
  readonly openUntested: readonly OpenItem[]
  readonly findings: readonly PlacedFinding[]
  readonly open: readonly OpenItem[]
  /** The tests with the readings taken; `untested` itself while there are none. */
  readonly testReport: TestReport
}

export interface StageReport {
  readonly id: StageId
  readonly findings: readonly PlacedFinding[]
  readonly open: readonly OpenItem[]
}

export interface Report {
  readonly survey: SurveyReport
  readonly boards: readonly BoardReport[]
  readonly raceways: readonly RacewayReport[]
  readonly circuits: readonly CircuitReport[]
  readonly byCircuit: ReadonlyMap<string, CircuitReport>
  readonly stages: readonly StageReport[]
  /** The plain reason why the job may not go on, or null. */
  readonly stop: string | null
  /** The first stage that still has something to decide or do. */
  readonly reached: StageId
  readonly counts: Readonly<Record<Severity, number>>
}

function evaluateDesign(job: Job, circuit: Circuit, design: Design, fed: Fed | null): DesignReport {
  const worked = workOnFeeder(job, circuit, design, fed)
  const { invalid, result } = worked
  return {
    ...worked,
    design,
    fed,
    findings: [
      ...(invalid ? [{ rule: 'outside-the-tables', severity: 'unknown' as const, clause: 'No published figure', message: invalid.message }] : []),
      ...worked.findings,
      ...circuitFindings({ job, circuit, design, result, worked, fed }),
    ],
  }
}

/** One kind of accessory on a circuit: whether its box holds it, and how its wiring stands. */
function evaluateEnd(job: Job, circuit: Circuit, { result, design }: DesignReport, ending: Ending | null, all: readonly Ending[]): EndReport {
  const fitted = ending?.fitted
  const id = fitted && fitted.id !== design.accessory ? fitted.id : null
  const { box, done } = id === null ? { box: circuit.box, done: circuit.wiring.done } : (circuit.ends[id] ?? untouched)
  const size = result?.size ? (ending?.points ?? []).reduce((most, p) => (p.size && areaMm2(p.size) > areaMm2(most) ? p.size : most), result.size) : null
  const contents = fitted && size && result?.protectiveSize ? { fitted, size, protectiveSize: result.protectiveSize } : null
  return {
    fitted,
    id,
    where: ending ? whereEnding(ending, all) : '',
    count: ending?.points.length ?? 0,
    size,
    feed: circuit.points.length ? 'the feed' : undefined,
    box,
    boxReport: evaluateBox(job, box, contents, wettestOf(job, circuit, ending?.points ?? circuit.points)),
    steps: fitted ? wiringStepIds(job.region, fitted, circuit.wiring.colours) : [],
    done,
  }
}
const untouched: Circuit['ends'][string] = { box: newBox(), done: [] }

/** What is wrong with the box of one end, with where it stands if there are several. */
const boxFindings = ({ where, boxReport }: EndReport): readonly Finding[] => (where ? boxReport.findings.map((f) => ({ ...f, message: `${where}: ${f.message}` })) : boxReport.findings)

function evaluateCircuit(whole: Job, circuit: Circuit, ahead: Ahead): CircuitReport {
  const job = seenBy(whole, { ahead })
  const designs = circuit.designs.map((d) => evaluateDesign(job, circuit, d, ahead.fed))
  const chosen = designs.find((d) => d.design.id === circuit.chosen) ?? designs[0]!
  const endings = endingsOf(circuit, chosen.design)
  const ends = endings.length ? endings.map((e) => evaluateEnd(job, circuit, chosen, e, endings)) : [evaluateEnd(job, circuit, chosen, null, endings)]
  const { result } = chosen
  const at = (stage: StageId) => (f: Finding) => ({ ...f, stage, circuit: circuit.id })
  const open: OpenItem[] = openFacts(circuit, chosen.design).map((o) => ({ ...o, circuit: circuit.id }))
  // A feeder ends in a board, which is surveyed and wired as a board.
  if (circuit.kind !== 'feeder')
    for (const e of ends) {
      const of = e.where && e.fitted ? `${e.fitted.name}: ` : ''
      if (e.box.kind === null) open.push({ stage: 'boxes', circuit: circuit.id, field: 'kind', ask: of ? `${of}which box does it go in?` : 'Which box does it go in?' })
      const left = e.steps.filter((id) => !e.done.includes(id)).length
      if (!e.fitted) open.push({ stage: 'wiring', circuit: circuit.id, field: 'accessory', ask: 'Choose the accessory in the circuit stage first' })
      else if (left > 0) open.push({ stage: 'wiring', circuit: circuit.id, field: 'done', ask: `${of}${left} of ${e.steps.length} wiring steps to do` })
    }
  const tests = testPlan(job, circuit, result, chosen.layout)
  const untested = judgeTests(tests, [], circuit.id, null)
  return {
    circuit,
    ahead,
    designs,
    chosen,
    ends,
    tests,
    untested,
    testReport: untested,
    openUntested: [...open, ...leftToTest(circuit.id, untested)],
    findings: [...chosen.findings.map(at('circuit')), ...ends.flatMap(boxFindings).map(at('boxes'))],
    open,
  }
}

type Around = readonly unknown[]
const same = (a: Around, b: Around): boolean => a.length === b.length && a.every((x, i) => x === b[i])
let lastAround: Around = []

/** What every circuit's report depends on besides the circuit itself; the same array while nothing of it has changed. */
function aroundAll(job: Job): Around {
  const given = plannedIn(job).map((p) => `${p.id} ${p.name} ${p.spaces.join('-')}`).join()
  const around = [job.region, job.brief.environment, job.brief.premises, job.supply, job.survey.guards, job.survey.boards, job.survey.ways, job.raceways, given]
  if (!same(around, lastAround)) lastAround = around
  return lastAround
}

/** Circuits that an edit left alone keep their report. */
const cache = new WeakMap<Circuit, { readonly around: Around; readonly beside: Around; readonly report: CircuitReport }>()

/** What stands ahead of a circuit in this job: the supply, or the end of its feeder. */
function aheadIn(job: Job, circuit: Circuit, around: Around): Ahead {
  const feeder = circuit.feeder === null ? undefined : job.circuits.find((c) => c.id === circuit.feeder)
  if (!feeder || loopOfFeeders(job.circuits, circuit.id, feeder.id)) return { supply: job.supply, fed: null }
  const { ahead, chosen } = cachedCircuit(job, feeder, around)
  return aheadOf(ahead, feeder, chosen.result)
}

function cachedCircuit(job: Job, circuit: Circuit, around: Around): CircuitReport {
  const ahead = aheadIn(job, circuit, around)
  const inRaceways = job.raceways.length ? racewaysOf(job, circuit).flatMap((r) => r.circuits) : nobody
  const hanging = circuit.kind === 'feeder' ? fedBy(job, circuit) : nobody
  const beside = ahead.fed || hanging.length ? [...inRaceways, ...hanging, ahead.fed?.name, ahead.fed?.dropPercent, ahead.supply.board, ahead.supply.zeOhm, ahead.supply.upstream?.ratingA] : inRaceways
  const hit = cache.get(circuit)
  if (hit && (hit.around === around || same(hit.around, around)) && same(hit.beside, beside)) return hit.report
  const report = evaluateCircuit(job, circuit, ahead)
  cache.set(circuit, { around, beside, report })
  return report
}
const nobody: Around = []

function briefFindings(job: Job): Finding[] {
  return fitnessFor(job.region).flatMap((q): Finding[] => {
    const answer = job.brief.fitness[q.id]
    if (answer === q.stopsOn) return [{ rule: `fitness-${q.id}`, severity: 'error', clause: q.clause[job.region], message: q.reason }]
    if (answer === 'unknown') return [{ rule: `fitness-${q.id}`, severity: 'unknown', clause: q.clause[job.region], message: `${q.ask} Find out before work starts.` }]
    return []
  })
}

function briefOpen(job: Job): OpenItem[] {
  const ask = (field: string, text: string): OpenItem => ({ stage: 'brief', circuit: null, field, ask: text })
  const unanswered = fitnessQuestions.filter((q) => job.brief.fitness[q.id] === undefined).length
  return [
    ...(job.brief.request.trim() === '' ? [ask('request', 'What was asked for, in the customer’s words?')] : []),
    ...(job.brief.environment === null ? [ask('environment', 'Is the place dry, damp, wet or outdoors?')] : []),
    ...(unanswered ? [ask('fitness', `${unanswered} of ${fitnessQuestions.length} fitness questions to answer`)] : []),
  ]
}

/**
 * All that can be said about a job: every circuit worked out, every finding placed at its stage, what is open, what stops it.
 * Pure; circuits untouched since an earlier call are not worked out again.
 */
export function evaluate(job: Job, readings: readonly Reading[]): Report {
  const brief = briefFindings(job)
  const stop = brief.find((f) => f.severity === 'error')?.message ?? null
  const mine = groupByCircuit(readings)
  const around = aroundAll(job)
  const circuits = job.circuits.map((circuit): CircuitReport => {
    const report = cachedCircuit(job, circuit, around)
    const own = mine.get(circuit.id)
    return own || stop ? { ...report, testReport: judgeTests(report.tests, own ?? [], circuit.id, stop) } : report
  })
  const survey = evaluateSurvey(job)
  const boards = boardsOf(job, survey)
  const raceways = racewaysIn(job, circuits)
  const at = (stage: StageId) => (f: Finding): PlacedFinding => ({ ...f, stage, circuit: null })
  const placed: PlacedFinding[] = [
    ...[...survey.findings, ...boards.flatMap((b) => b.findings), ...openDefects(job)].map(at('survey')),
    ...brief.map(at('brief')),
    ...[...serviceFindings(job), ...raceways.flatMap((r) => r.findings)].map(at('circuit')),
  ]
  const open: OpenItem[] = [...briefOpen(job), ...surveyOpen(survey, job)]
  for (const c of circuits) {
    placed.push(...c.findings)
    if (c.testReport === c.untested) open.push(...c.openUntested)
    else {
      placed.push(...offReadings(c))
      open.push(...c.open, ...leftToTest(c.circuit.id, c.testReport))
    }
  }
  const counts = countOf(placed)
  const before = open.length + counts.error
  if (before > 0) open.push({ stage: 'handover', circuit: null, field: 'record', ask: `The record is not whole: ${before} ${before === 1 ? 'thing stands' : 'things stand'} open before it` })
  const [foundAt, openAt] = [byStage(placed), byStage(open)]
  const stages = stageIds.map((id): StageReport => ({ id, findings: foundAt.get(id) ?? [], open: openAt.get(id) ?? [] }))
  return {
    survey,
    boards,
    raceways,
    circuits,
    byCircuit: new Map(circuits.map((c) => [c.circuit.id, c])),
    stages,
    stop,
    reached: stages.find((s) => s.open.length > 0)?.id ?? 'handover',
    counts,
  }
}

function countOf(placed: readonly PlacedFinding[]): Record<Severity, number> {
  const counts = Object.fromEntries(severities.map((s) => [s, 0])) as Record<Severity, number>
  for (const f of placed) counts[f.severity]++
  return counts
}

function byStage<T extends { readonly stage: StageId }>(list: readonly T[]): Map<StageId, T[]> {
  const map = new Map<StageId, T[]>()
  for (const x of list) {
    const known = map.get(x.stage)
    if (known) known.push(x)
    else map.set(x.stage, [x])
  }
  return map
}

function racewaysIn(job: Job, circuits: readonly CircuitReport[]): RacewayReport[] {
  if (job.raceways.length === 0) return []
  const byId = new Map(circuits.map((c): [string, InRaceway] => [c.circuit.id, { circuit: c.circuit, size: c.chosen.result?.size ?? null, breakerA: c.chosen.result?.breakerA ?? null, protectiveSize: c.chosen.result?.protectiveSize ?? null, cable: c.chosen.design.cable }]))
  return job.raceways.map((r) => racewayReport(job, r, (id) => byId.get(id)))
}

const boardMemory = new WeakMap<SurveyReport, { readonly given: string; readonly boards: readonly BoardReport[] }>()
/** Boards as surveyed, with the spaces that new circuits were given. */
function boardsOf(job: Job, survey: SurveyReport): readonly BoardReport[] {
  const given = plannedIn(job).map((p) => p.spaces.join('-')).join()
  const hit = boardMemory.get(survey)
  if (hit?.given === given) return hit.boards
  const boards = job.survey.boards.map((b) => boardReport(job, b, survey.loads))
  boardMemory.set(survey, { given, boards })
  return boards
}

/** Findings of somebody's report that nobody has answered yet. */
function openDefects(job: Job): Finding[] {
  const left = job.survey.defects.filter((d) => d.state === 'open').length
  return left ? [{ rule: 'report-unanswered', severity: 'warning', clause: 'Inspection report', message: `${left} ${left === 1 ? 'finding of the report is' : 'findings of the report are'} neither made work nor declined.` }] : []
}

/** A survey is open only once it is begun: a job on a new building may need none. */
function surveyOpen(survey: SurveyReport, job: Job): OpenItem[] {
  const total = pointsThere(job.survey).length
  return total && survey.untraced ? [{ stage: 'survey', circuit: null, field: 'sightings', ask: `${survey.untraced} of ${total} points are not traced yet` }] : []
}

function groupByCircuit(readings: readonly Reading[]): Map<string, Reading[]> {
  const map = new Map<string, Reading[]>()
  for (const r of readings) {
    const list = map.get(r.circuit)
    if (list) list.push(r)
    else map.set(r.circuit, [r])
  }
  return map
}

function offReadings(c: CircuitReport): PlacedFinding[] {
  return c.testReport.judged
    .filter((j) => j.verdict === 'off')
    .map((j) => ({
      rule: 'reading-off-expectation',
      severity: 'error',
      clause: j.test.clause,
      message: `${j.test.title}: ${j.message}. Find out why before going on; measure again when it is put right.`,
      stage: 'test',
      circuit: c.circuit.id,
    }))
}

function leftToTest(circuit: string, { judged }: TestReport): OpenItem[] {
  if (judged.length === 0) return [{ stage: 'test', circuit, field: 'tests', ask: 'Tests follow from the circuit, which is not worked out yet' }]
  const left = judged.filter((j) => !j.test.optional && j.verdict === 'unknown').length
  return left ? [{ stage: 'test', circuit, field: 'tests', ask: `${left} tests to make and record` }] : []
}
