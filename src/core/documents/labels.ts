import { runLengthM } from '../design/conditions'
import { type Legs, legsIn } from '../wired/legs'
import { cablesAt } from '../build/alike'
import type { CircuitReport, EndReport } from '../evaluate/evaluate'
import { listed } from '../base/finding'
import type { Installation } from '../installation/installation'
import { formatA, formatLength, formatSize, type UnitSystem } from '../base/format'
import { colourName, wiringPlan } from '../build/plan'
import { worlds } from '../region/worlds'

export const labelPlaces = ['cover-outside', 'cover-inside', 'cable-board', 'cable-point', 'board'] as const
export type LabelPlace = (typeof labelPlaces)[number]

/** Text for one label, longest line first in importance; the drawing fits it to the tape or sticker. */
export interface Label {
  readonly id: string
  readonly place: LabelPlace
  readonly where: string
  readonly widthMm: number
  readonly heightMm: number
  readonly lines: readonly string[]
}

/** What labels of one circuit are written from. */
interface Told {
  readonly job: Installation
  readonly report: CircuitReport
  readonly units: UnitSystem
  readonly way: string
  readonly from: string
  readonly load: string
  readonly breaker: string | null
  readonly cable: string | null
}
function toldOf(job: Installation, report: CircuitReport, units: UnitSystem): Told {
  const { circuit, chosen } = report
  const { result, design } = chosen
  const { words, typedBreakers } = worlds[job.region]
  const way = circuit.way ? `${circuit.way}` : '?'
  return {
    job,
    report,
    units,
    way,
    from: `${job.supply.board || words.board} way ${way}`,
    load: circuit.load.name || circuit.name,
    breaker: result?.breakerA ? `${typedBreakers ? design.breakerType : ''}${result.breakerA} A` : null,
    cable: result?.size ? `${formatSize(result.size)} / ${formatSize(result.protectiveSize!)}` : null,
  }
}
const written = (...lines: (string | null)[]): string[] => lines.filter((l): l is string => l !== null && l !== '')
const sharedNeutral = ({ report: { circuit } }: Told): string | null =>
  circuit.kind === 'shared-neutral' ? 'Two lines share its neutral: open both' : null

/** Conductors whose colour is not what they are. */
function remarks({ job, report, units }: Told, { fitted }: EndReport): readonly string[] {
  if (!fitted) return []
  const { circuit, chosen } = report
  return wiringPlan(job.region, fitted, circuit.colours, chosen.result?.size ?? null, units)
    .feed.filter((c) => c.remark && c.role !== 'pe')
    .map((c) => `${colourName(c.colour)} is ${c.role === 'neutral' ? 'neutral' : worlds[job.region].words.line}`)
}

/** An outlet rated above its breaker, where that is meant so. */
function onPurpose({ chosen: { result, findings } }: CircuitReport, { fitted }: EndReport): string | null {
  const larger = fitted && fitted.outlets > 0 && result?.breakerA && fitted.ratingA > result.breakerA
  return larger && findings.some((f) => f.rule === 'outlet-larger-than-breaker')
    ? `Outlet ${formatA(fitted.ratingA)}, breaker ${result.breakerA} A, on purpose`
    : null
}

/** What else a hand finds in a box: circuits that pass through it, and lines that no switch there turns off. */
function besides(job: Installation, { circuit }: CircuitReport, { points }: EndReport, legs: ReadonlyMap<string, Legs>): readonly string[] {
  const others = [...new Set(points.flatMap((p) => cablesAt(job, p)).map((k) => k.circuit))].filter((id) => id && id !== circuit.id)
  const names = job.circuits.filter((c) => others.includes(c.id)).map((c) => (c.way ? `${c.name}, way ${c.way}` : c.name))
  const met = points.flatMap((p) => legs.get(p) ?? [])
  const each = (of: (l: Legs) => readonly string[]) => listed([...new Set(met.flatMap(of))], 3)
  return [
    ...names.map((n) => `Also in here: ${n}`),
    ...(met.length ? [`Always live: ${each((l) => l.always)}`, `Switched: ${each((l) => l.switched)}`] : []),
  ]
}

function insideLines(told: Told, end: EndReport, legs: ReadonlyMap<string, Legs>, date: string): string[] {
  const { job, report, units, from, cable } = told
  const { circuit, chosen } = report
  const lengthM = runLengthM(circuit, chosen.design)
  const run = lengthM ? `, ${formatLength(lengthM, units)}` : circuit.points.length ? `, ${circuit.points.length} points` : ''
  const weakest = chosen.result?.weakestLink
  return written(
    circuit.name,
    `From ${from}`,
    cable && `${cable}${run}`,
    ...remarks(told, end),
    sharedNeutral(told),
    ...besides(job, report, end, legs),
    weakest?.link === 'cord' ? `Cord is the weak link: ${formatA(weakest.ratingA)}` : null,
    onPurpose(report, end),
    date,
  )
}

/** Labels for one circuit. What is not known yet is left out, never guessed. */
export function circuitLabels(job: Installation, report: CircuitReport, date: string, units: UnitSystem): Label[] {
  const { circuit, chosen, ends } = report
  const mayLie = ends.some((e) => e.fitted?.poles) || circuit.points.some((p) => p.kind === 'switch' || p.bench)
  const legs: ReadonlyMap<string, Legs> = mayLie ? legsIn(job, [report]) : new Map()
  const { words } = worlds[job.region]
  const told = toldOf(job, report, units)
  const { way, from, load, breaker, cable } = told
  const { residual } = chosen.design
  const label = (place: LabelPlace, where: string, widthMm: number, heightMm: number, lines: string[]): Label => ({
    id: `${circuit.id}-${place}`,
    place,
    where,
    widthMm,
    heightMm,
    lines,
  })
  const called = `${way}  ${circuit.name}${load && load !== circuit.name ? `: ${load}` : ''}`
  const guarded = breaker && `${breaker}${residual.at === 'board' ? `, ${words.rcd} ${residual.ma} mA` : ''}`
  return [
    label('cover-outside', 'Outside of the cover', 70, 18, written(from, breaker && `${breaker}, ${circuit.load.volts ?? '?'} V`, load)),
    ...ends.map((e, i) => ({
      ...label('cover-inside', `Inside of the cover${e.where && `, ${e.where}`}`, 70, 36, insideLines(told, e, legs, date)),
      id: `${circuit.id}-cover-inside${i === 0 ? '' : `-${i + 1}`}`,
    })),
    label('cable-board', `Cable at the ${words.board}`, 60, 12, written(`${way}  ${load}`, cable)),
    label('cable-point', 'Cable at the point', 60, 12, written(`From ${from}`, date)),
    label('board', `Entry at the ${words.board}`, 90, 12, written(called, sharedNeutral(told), guarded)),
  ]
}
