import type { Accessory } from '../catalogue/accessories'
import type { Finding, Severity } from '../base/finding'
import { grouped } from '../base/grouped'
import type { Box } from '../build/box'
import type { BoxReport } from '../build/choose-box'
import type { Fed, Upstream } from '../design/fed'
import type { WorkedDesign } from '../design/work'
import type { Circuit, Design } from '../installation/installation'
import type { BoxRecord } from '../job/box'
import type { RacewayReport } from '../rules/raceway'
import type { BoardReport } from '../survey/board'
import type { SurveyReport } from '../survey/traced'
import type { TestReport } from '../verify/judge'
import type { Test } from '../verify/tests'
import type { StageId } from './stages'

export interface OpenItem {
  readonly stage: StageId
  readonly circuit: string | null
  readonly field: string
  readonly ask: string
  /** What of the record it is about, as `point:ID`, where that is not its circuit. */
  readonly about?: string
}
export interface PlacedFinding extends Finding {
  readonly stage: StageId
  readonly circuit: string | null
}

export interface DesignReport extends WorkedDesign {
  /** The feeder it is on. */
  readonly fed: Fed | null
  readonly design: Design
}

/** The box of a point: what will be in it, whether it fits, and the order of work. */
export interface EndReport {
  readonly fitted: Accessory | undefined
  /** The point, as edits name it; none while a circuit has no box. */
  readonly points: readonly string[]
  /** The name of its point; empty where the circuit has no other. */
  readonly where: string
  /** Its box is reported here; of several in one box, at the first. */
  readonly lead: boolean
  /** The box as it will be wired; null at the end of a feeder. */
  readonly built: Box | null
  /** A joint, which has no accessory. */
  readonly joint: boolean
  /** The thickest line conductor that comes to it; null while the circuit is not worked out. */
  readonly size: string | null
  /** Cables that enter its box: those of the record, and those said to be there besides. */
  readonly cables: number
  readonly box: BoxRecord
  readonly boxReport: BoxReport
  /** Wiring steps by their id, and those that are done. */
  readonly steps: readonly string[]
  readonly done: readonly string[]
}

/** A circuit as it is designed, before its boxes are built. */
export interface DesignedCircuit {
  readonly circuit: Circuit
  readonly upstream: Upstream
  readonly designs: readonly DesignReport[]
  readonly chosen: DesignReport
  readonly ends: readonly { readonly fitted: Accessory | undefined }[]
  readonly tests: readonly Test[]
  readonly untested: TestReport
  readonly findings: readonly PlacedFinding[]
  readonly open: readonly OpenItem[]
}

export interface CircuitReport {
  readonly circuit: Circuit
  /** What is upstream of it: the supply, or a feeder of this job. */
  readonly upstream: Upstream
  readonly designs: readonly DesignReport[]
  readonly chosen: DesignReport
  /** Its boxes, point by point; one without an accessory while none is chosen. */
  readonly ends: readonly EndReport[]
  readonly tests: readonly Test[]
  /** The tests as they stand before any reading. */
  readonly untested: TestReport
  /** What it says before any reading, by stage. */
  readonly said: { readonly findings: Parted<PlacedFinding>; readonly open: Parted<OpenItem>; readonly counts: Counts }
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
  readonly counts: Readonly<Counts>
}

export interface Staged {
  readonly stage: StageId
}
/** A list parted by stage. */
export type Parted<T> = readonly { readonly stage: StageId; readonly list: readonly T[] }[]
export const partedOf = <T extends Staged>(all: readonly T[]): Parted<T> =>
  Array.from(
    grouped(all, (x) => x.stage),
    ([stage, list]) => ({ stage, list }),
  )

export type Counts = Record<Severity, number>
/** How many findings of each severity lists hold. */
export function countOf(...lists: readonly (readonly Finding[])[]): Counts {
  const counts: Counts = { error: 0, warning: 0, unknown: 0, note: 0 }
  for (const list of lists) for (const f of list) counts[f.severity]++
  return counts
}
export function addCounts(to: Counts, more: Counts): void {
  to.error += more.error
  to.warning += more.warning
  to.unknown += more.unknown
  to.note += more.note
}

/** A finding with the stage and the circuit it is of. */
export const placedAt = (f: Finding, stage: StageId, circuit: string): PlacedFinding => {
  const { rule, severity, clause, message, asks, about } = f
  // Named one by one: most findings have neither, and copied as wholes they are slow to read.
  return asks || about
    ? { rule, severity, clause, message, asks, about, stage, circuit }
    : { rule, severity, clause, message, stage, circuit }
}

export function leftToTest(circuit: string, { judged }: TestReport): OpenItem[] {
  if (judged.length === 0)
    return [{ stage: 'test', circuit, field: 'tests', ask: 'Tests follow from the circuit, which is not worked out yet' }]
  const left = judged.filter((j) => !j.test.optional && j.verdict === 'unknown').length
  return left ? [{ stage: 'test', circuit, field: 'tests', ask: `${left} tests to make and record` }] : []
}
