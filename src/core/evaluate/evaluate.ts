import { removalFindings, removedFrom } from '../build/removed'
import { fitnessFor, fitnessQuestions } from '../catalogue/fitness'
import { ringContinuity } from '../calculate/ring-continuity'
import { amongAll, viewOf } from './circuit-view'
import { openFacts } from '../design/circuit-input'
import { type Upstream, upstreamOf, type Fed, loopOfFeeders, seenBy } from '../design/fed'
import { fittedAt } from '../design/endings'
import { mountingOf } from '../build/mounting'
import { grouped } from '../base/grouped'
import { workOnFeeder } from '../design/work'
import type { Finding } from '../base/finding'
import { type Circuit, type Design, type Installation, read } from '../installation/installation'
import type { Reading } from '../job/reading'
import type { Job } from '../job/schema'
import { lruCache, once, remembered, rememberedAmong, sameParts } from '../base/memory'
import { inUnitOf, judgeTests } from '../verify/judge'
import { takenOn } from '../verify/taken-on'
import { pointsOfTest, type Test, testPlan } from '../verify/tests'
import { circuitFindings } from '../rules'
import { recordFindings } from '../rules/record'
import type { OnItsWays } from '../rules/engine'
import { residualDeviceFindings, serviceFindings, supplyFindings } from '../rules/board'
import { signalFindings } from '../rules/signal'
import { type InRaceway, racewayReport, type RacewayReport } from '../rules/raceway'
import { routeFindings } from '../installation/building'
import { type StageId, stageIds } from '../report/stages'
import { type BoardReport, boardReport } from '../survey/board'
import { runReport } from '../survey/walls'
import { evaluateSurvey, type SurveyReport } from '../survey/traced'
import { worlds } from '../region/worlds'
import { withBoxes } from './boxes'
import { dayFindings } from '../workday/judge'
import { boxPoints } from '../build/carries'
import {
  addCounts,
  type CircuitReport,
  countOf,
  type DesignedCircuit,
  type DesignReport,
  type EndReport,
  leftToTest,
  type OpenItem,
  type Parted,
  partedOf,
  placedAt,
  type PlacedFinding,
  type Report,
  type Staged,
  type StageReport,
} from '../report/report'

export type { CircuitReport, DesignReport, EndReport, OpenItem, PlacedFinding, Report, StageReport }

function evaluateDesign(job: Installation, circuit: Circuit, design: Design, fed: Fed | null, there: OnItsWays): DesignReport {
  const worked = workOnFeeder(job, circuit, design, fed)
  const { invalid, result } = worked
  const findings = [...worked.findings, ...circuitFindings({ job, circuit, design, result, worked, fed, there })]
  if (invalid)
    findings.unshift({ rule: 'outside-the-tables', severity: 'unknown', clause: 'No published figure', message: invalid.message })
  const { load, input, layout, stretches, governing, loopLimit, without, enlargedFrom } = worked
  // Named one by one: copied as a whole they cost a twentieth of an evaluation.
  return { load, input, result, layout, stretches, governing, loopLimit, without, enlargedFrom, invalid, design, fed, findings }
}

/** Whether boxes can be held where they are, of those whose wall somebody looked at. */
const mountFindings = (job: Installation, circuit: Circuit): readonly Finding[] =>
  (circuit.points.length ? circuit.points : circuit.end ? [circuit.end] : []).flatMap((p) =>
    p.box.mount
      ? mountingOf(job, circuit, p, worlds[job.region].units).findings.map((f) => ({
          ...f,
          clause: f.clause || 'what was measured',
          about: `point:${p.id}`,
          message: p.name ? `${p.name}: ${f.message}` : f.message,
        }))
      : [],
  )

/** One circuit worked out, in an installation that has the supply it is behind; its boxes are built once all circuits are. */
export function evaluateCircuit(job: Installation, circuit: Circuit, upstream: Upstream, there: OnItsWays): DesignedCircuit {
  const designs = circuit.designs.map((d) => evaluateDesign(job, circuit, d, upstream.fed, there))
  const chosen = designs.find((d) => d.design.id === circuit.chosen) ?? designs[0]!
  const { result } = chosen
  const tests = testPlan(job, circuit, result, chosen.layout)
  const at = (stage: StageId) => (f: Finding) => placedAt(f, stage, circuit.id)
  return {
    circuit,
    upstream,
    designs,
    chosen,
    ends: boxPoints({ circuit }).map((p) => ({ fitted: fittedAt(chosen.design, p) })),
    tests,
    untested: judgeTests(tests, [], circuit.id, null),
    findings: [...chosen.findings.map(at('circuit')), ...mountFindings(job, circuit).map(at('boxes'))],
    open: openFacts(job.region, circuit, chosen.design).map((o) => ({ circuit: circuit.id, ...o })),
  }
}

/** What is upstream of a circuit in this job: the supply, or the end of its feeder. */
function upstreamIn(job: Installation, circuit: Circuit, among: Among): Upstream {
  const feeder = circuit.feeder === null ? undefined : job.circuits.find((c) => c.id === circuit.feeder)
  if (!feeder || loopOfFeeders(job.circuits, circuit.id, feeder.id)) return { supply: job.supply, fed: null }
  const { upstream, chosen } = cachedCircuit(job, feeder, among)
  return upstreamOf(upstream, feeder, chosen.result)
}

type Among = ReturnType<typeof amongAll>
const reportOf = rememberedAmong<Circuit, DesignedCircuit>()

/** Circuits that an edit left alone keep their report. */
const cachedCircuit = (job: Installation, circuit: Circuit, among: Among): DesignedCircuit =>
  reportOf(circuit, among(circuit), () => {
    const upstream = upstreamIn(job, circuit, among)
    const view = viewOf(job, circuit, upstream)
    return { parts: view.parts, make: () => evaluateCircuit(view.job(), circuit, upstream, view.there) }
  })

function briefFindings(job: Installation): Finding[] {
  return fitnessFor(job.region).flatMap((q): Finding[] => {
    const answer = job.brief.fitness[q.id]
    if (answer === q.stopsOn) return [{ rule: `fitness-${q.id}`, severity: 'error', clause: q.clause, message: q.reason }]
    if (answer === 'unknown')
      return [{ rule: `fitness-${q.id}`, severity: 'unknown', clause: q.clause, message: `${q.ask} Find out before work starts.` }]
    return []
  })
}

function briefOpen(job: Installation): OpenItem[] {
  const ask = (field: string, text: string): OpenItem => ({ stage: 'brief', circuit: null, field, ask: text })
  const unanswered = fitnessQuestions.filter((q) => job.brief.fitness[q.id] === undefined)
  return [
    ...(job.brief.request.trim() === '' ? [ask('request', 'What was asked for, in the customer’s words?')] : []),
    ...(job.brief.environment === null ? [ask('environment', 'Is the place dry, damp, wet or outdoors?')] : []),
    ...(unanswered[0]
      ? [
          {
            ...ask('fitness', `${unanswered.length} of ${fitnessQuestions.length} fitness questions to answer`),
            about: `question:${unanswered[0].id}`,
          },
        ]
      : []),
  ]
}

/**
 * All that can be said about a job: every circuit worked out, every finding placed at its stage, what is open, what stops it.
 * Pure; circuits untouched since an earlier call are not worked out again.
 */
export function evaluate(record: Job | Installation, readings: readonly Reading[]): Report {
  const job = read(record)
  const brief = briefFindings(job)
  const stop = brief.find((f) => f.severity === 'error')?.message ?? null
  const mine = byCircuitOf(readings)
  const survey = evaluateSurvey(job)
  const among = amongAll(job, survey)
  const built = withBoxes(
    job,
    job.circuits.map((c) => cachedCircuit(job, c, among)),
  )
  const circuits = built.map((report): CircuitReport => {
    const own = mine.get(report.circuit.id)
    return own || stop ? judged(job, report, own ?? none, stop) : report
  })
  const boards = boardsOf(job, survey)
  const raceways = racewaysIn(job, circuits)
  const at =
    (stage: StageId) =>
    (f: Finding): PlacedFinding => ({ stage, circuit: null, ...f })
  const placed: PlacedFinding[] = [
    ...[...survey.findings, ...boards.flatMap((b) => b.findings), ...wallFindings(job), ...openDefects(job), ...removalFindings(job)].map(
      at('survey'),
    ),
    ...brief.map(at('brief')),
    ...routeFindings(job.record).map((f): PlacedFinding => ({ stage: 'route', ...f })),
    ...signalFindings(job).map(at('route')),
    ...[
      ...serviceFindings(job),
      ...supplyFindings(job),
      ...residualDeviceFindings(job, survey.loads),
      ...raceways.flatMap((r) => r.findings),
    ].map(at('circuit')),
  ]
  placed.push(
    ...recordFindings(job).map((f): PlacedFinding => ({
      stage: ofSurvey.has(f.rule) ? 'survey' : 'circuit',
      ...f,
    })),
  )
  const found = new Gathered<PlacedFinding>()
  const open = new Gathered<OpenItem>()
  const lost = lostReadings(circuits, readings)
  const counts = countOf(placed, lost)
  found.add(placed)
  open.add([...briefOpen(job), ...surveyOpen(survey, job)])
  for (const c of circuits) {
    found.addParted(c.said.findings)
    addCounts(counts, c.said.counts)
    if (c.testReport === c.untested) open.addParted(c.said.open)
    else {
      const read = [...offReadings(c), ...ringReadings(c, mine.get(c.circuit.id) ?? none)]
      found.add(read)
      addCounts(counts, countOf(read))
      open.add([...c.open, ...leftToTest(c.circuit.id, c.testReport)])
    }
  }
  const ofDay = job.day ? dayFindings(job, { circuits, byCircuit: reportsById(circuits) }).map(at('day')) : []
  found.add(ofDay)
  addCounts(counts, countOf(ofDay))
  found.add(lost)
  const before = open.count + counts.error
  if (before > 0)
    open.add([
      {
        stage: 'handover',
        circuit: null,
        field: 'record',
        ask: `The record is not complete: ${before} ${before === 1 ? 'item is' : 'items are'} still open`,
      },
    ])
  let stages: readonly StageReport[] | null = null
  return {
    survey,
    boards,
    raceways,
    circuits,
    get byCircuit() {
      return reportsById(circuits)
    },
    get stages() {
      return (stages ??= stageIds.map((id) => ({ id, findings: found.of(id), open: open.of(id) })))
    },
    stop,
    reached: stageIds.find((id) => open.any(id)) ?? 'handover',
    counts,
  }
}

/** What the parts of a job say, stage by stage, in the order they say it; put into one list where the stages are looked at. */
class Gathered<T extends Staged> {
  private readonly parts = new Map<StageId, (readonly T[])[]>()
  count = 0
  add(list: readonly T[]): void {
    this.addParted(partedOf(list))
  }
  addParted(parted: Parted<T>): void {
    for (const { stage, list } of parted) {
      const said = this.parts.get(stage)
      if (said) said.push(list)
      else this.parts.set(stage, [list])
      this.count += list.length
    }
  }
  any(stage: StageId): boolean {
    return this.parts.has(stage)
  }
  of(stage: StageId): readonly T[] {
    return this.parts.get(stage)?.flat() ?? []
  }
}

/** Rules on the record whose answer is found on the place, not in a design. */
const ofSurvey: ReadonlySet<string> = new Set(['point-above-ceiling', 'residual-delayed', 'condition-not-known'])

function racewaysIn(job: Installation, circuits: readonly CircuitReport[]): RacewayReport[] {
  if (job.raceways.length === 0) return []
  const byId = new Map(
    circuits.map((c): [string, InRaceway] => [
      c.circuit.id,
      {
        circuit: c.circuit,
        size: c.chosen.result?.size ?? null,
        breakerA: c.chosen.result?.breakerA ?? null,
        protectiveSize: c.chosen.result?.protectiveSize ?? null,
        cable: c.chosen.design.cable,
      },
    ]),
  )
  return job.raceways.map((r) => racewayReport(job, r, (id) => byId.get(id), worlds[job.region].units))
}

const boardReports = lruCache<readonly BoardReport[]>()
/** Boards as surveyed, with the spaces that new circuits were given. */
const boardsOf = (job: Installation, survey: SurveyReport): readonly BoardReport[] =>
  boardReports([survey, job.region, job.boards, job.ways, job.newWays, job.residualDevices], () =>
    job.boards.map((b) => boardReport(job, b, survey.loads)),
  )

/** Rules of outlets along walls that dwellings alone are held to. */
const ofDwellings: ReadonlySet<string> = new Set(['outlet-spacing', 'island-depth-not-known', 'island-outlets'])
const wallReports = lruCache<readonly Finding[]>()
/** What is wrong along the walls. Spacing is asked of dwellings. NFPA 70 210.52. */
const wallFindings = ({ region, brief, walls }: Installation): readonly Finding[] =>
  wallReports([region, brief.premises, walls], () =>
    walls
      .flatMap((w) => runReport(region, w, worlds[region].units).findings)
      .flatMap((f): Finding[] => {
        if (!ofDwellings.has(f.rule) || brief.premises === 'dwelling') return [f]
        return brief.premises === null
          ? [
              {
                ...f,
                severity: 'unknown',
                message: `${f.message} Whether that is asked here depends on the kind of premises: say so in the brief.`,
              },
            ]
          : []
      }),
  )

const severityOfCode = { C1: 'error', C2: 'warning', C3: 'note', FI: 'unknown' } as const
/** Findings of somebody's report that nobody has answered yet. */
function openDefects(job: Installation): Finding[] {
  const open = job.defects.filter((d) => d.state === 'open')
  const left = open.length
  const { reportCodes } = worlds[job.region]
  const coded = reportCodes
    ? job.defects.flatMap((d): Finding[] => {
        // Danger stays danger until it is put right, whatever was answered.
        const code = d.state === 'done' ? null : (d.code ?? null)
        if (code === null || (code !== 'C1' && d.state !== 'open')) return []
        const severity = severityOfCode[code]
        const what = code === 'C1' ? 'Make it safe before anything else, and tell the person responsible at once.' : ''
        return [
          {
            rule: `report-${code.toLowerCase()}`,
            severity,
            clause: 'Appendix 6, condition report',
            message: `${code}, ${reportCodes[code]}: ${d.text}${d.place ? ` (${d.place})` : ''}. ${what}`.trim(),
            about: `defect:${d.id}`,
          },
        ]
      })
    : []
  return left
    ? [
        ...coded,
        {
          rule: 'report-unanswered',
          severity: 'warning',
          clause: 'Inspection report',
          message: `${left} ${left === 1 ? 'report finding is' : 'report findings are'} neither added to this job nor declined.`,
        },
      ]
    : coded
}

/** A survey is open only once it is begun: a job on a new building may need none. */
function surveyOpen(survey: SurveyReport, job: Installation): OpenItem[] {
  const total = job.standing.length
  const undecided = removedFrom(job).filter((r) => r.left === null)
  return [
    ...(total && survey.untraced
      ? [
          {
            stage: 'survey' as const,
            circuit: null,
            field: 'sightings',
            ask: `${survey.untraced} of ${total} points are not traced yet`,
          },
        ]
      : []),
    ...undecided.map(({ point }) => ({
      stage: 'survey' as const,
      circuit: null,
      field: 'left',
      ask: `${point.name}: what is left where it is taken out?`,
      about: `point:${point.id}`,
    })),
  ]
}

type Readings = readonly Reading[]
const none: Readings = []
const reportsById = once(
  (circuits: readonly CircuitReport[]): ReadonlyMap<string, CircuitReport> => new Map(circuits.map((c) => [c.circuit.id, c])),
)
/** Readings by their circuit. */
const byCircuitOf = once((readings: Readings): ReadonlyMap<string, Readings> => grouped(readings, (r) => r.circuit))

/** Where a reading of a circuit may have been taken. */
const placesOf = ({ points, end }: Circuit): ReadonlySet<string> => new Set([...points.map((p) => p.id), ...(end ? [end.id] : [])])

const judgements = new WeakMap<CircuitReport, { readonly own: Readings; readonly stop: string | null; readonly report: CircuitReport }>()
/** A circuit with its readings judged; once for the same readings. */
function judged(job: Installation, report: CircuitReport, own: Readings, stop: string | null): CircuitReport {
  const hit = judgements.get(report)
  if (hit && hit.stop === stop && sameParts(hit.own, own)) return hit.report
  const { circuit, tests, chosen } = report
  const pointsOf = (test: Test) => pointsOfTest(seenBy(job, report), circuit, chosen, test)
  const made = {
    ...report,
    testReport: judgeTests(tests, own, circuit.id, stop, takenOn(circuit), { places: placesOf(circuit), pointsOf }),
  }
  judgements.set(report, { own, stop, report: made })
  return made
}

function offReadings(c: CircuitReport): PlacedFinding[] {
  return c.testReport.judged
    .filter((j) => j.verdict === 'off')
    .map((j) => ({
      rule: 'reading-off-expectation',
      severity: 'error',
      clause: j.test.clause,
      message: `${j.test.title}: ${j.message}. Find out why before going on; measure again when it is put right.`,
      about: `test:${j.test.id}`,
      stage: 'test',
      circuit: c.circuit.id,
    }))
}

/** The three conductors of a ring held against each other. BS 7671 643.2.1; OSG. */
function ringReadings({ circuit, chosen, testReport }: CircuitReport, readings: readonly Reading[]): PlacedFinding[] {
  const { result } = chosen
  if (circuit.kind !== 'ring' || !result?.size || !result.protectiveSize || readings.length === 0) return []
  const ends = (id: string) => {
    const judged = testReport.judged.find((j) => j.test.id === id)
    if (!judged?.reading || judged.verdict === 'unknown') return undefined
    return judged.reading.mark === 'open' ? ('open' as const) : (inUnitOf(judged.test, judged.reading) ?? undefined)
  }
  const [r1, rn, r2] = [ends('ring-line'), ends('ring-neutral'), ends('ring-protective')]
  if (r1 === undefined || rn === undefined || r2 === undefined) return []
  const lengthM = circuit.points.filter((p) => p.from === null).reduce((sum, p) => sum + (p.lengthM ?? 0), 0) + (circuit.closeM ?? 0)
  return ringContinuity({ lengthM, lineSize: result.size, protectiveSize: result.protectiveSize, measured: { r1, rn, r2 } }).findings.map(
    (f) => ({
      stage: 'test' as const,
      circuit: circuit.id,
      ...f,
      about: `test:${f.rule.startsWith('protective') ? 'ring-protective' : 'ring-neutral'}`,
    }),
  )
}

const namesOf = once((readings: Readings): ReadonlySet<string> => new Set(readings.map((r) => r.id)))
const lostOf = remembered<Readings, readonly PlacedFinding[]>()

/** Readings that belong to nothing that is in the job: they are kept, and said. */
function lostReadings(circuits: readonly CircuitReport[], readings: Readings): PlacedFinding[] {
  return [...byCircuitOf(readings)].flatMap(([id, own]) => {
    const of = reportsById(circuits).get(id)
    return lostOf(own, [of?.tests ?? null], () => lostAmong(id, own, of, readings))
  })
}

/** One finding a reason, however many readings it concerns. */
function lostAmong(circuit: string, own: Readings, of: CircuitReport | undefined, all: Readings): PlacedFinding[] {
  const tests = of?.tests ?? null
  const [plan, places] = [new Set(tests?.map((t) => t.id)), of ? placesOf(of.circuit) : null]
  const whyNot = (r: Reading): string | null => {
    if (!tests) return 'its circuit is not in the job'
    if (plan.size && !plan.has(r.test)) return `no test called ${r.test} is asked of its circuit`
    if (r.point !== null && places?.has(r.point) === false) return 'the point it was taken at is not on its circuit'
    return r.corrects !== null && !namesOf(all).has(r.corrects) ? 'the reading it corrects is not there' : null
  }
  return [...grouped(own, whyNot)].flatMap(([why, readings]): PlacedFinding[] => {
    if (why === null) return []
    const last = readings.at(-1)!
    const of = `of ${last.at.slice(0, 10)} by ${last.by || 'somebody'}`
    const which = readings.length === 1 ? `A reading ${of} is` : `${readings.length} readings, the last ${of}, are each`
    const message = `${which} not judged: ${why}. Take it again, or say what it belongs to.`
    return [
      { rule: 'reading-not-placed', severity: 'unknown', clause: 'What was recorded', message, stage: 'test', circuit: tests && circuit },
    ]
  })
}
