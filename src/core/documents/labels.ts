import { runLengthM } from '../design/conditions'
import { type Legs, legsIn } from '../bench/legs'
import { cablesAt } from '../enclosure/alike'
import type { CircuitReport, EndReport } from '../evaluate'
import { listed } from '../finding'
import type { Installation } from '../installation/installation'
import { formatA, formatLength, formatSize, type UnitSystem } from '../quantity/format'
import { colourName, wiringPlan } from '../wiring/plan'
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

/** Labels for one circuit. What is not known yet is left out, never guessed. */
export function circuitLabels(job: Installation, report: CircuitReport, date: string, units: UnitSystem): Label[] {
  const { circuit, chosen, ends } = report
  const mayLie = ends.some((e) => e.fitted?.poles) || circuit.points.some((p) => p.kind === 'switch' || p.bench)
  const legs: ReadonlyMap<string, Legs> = mayLie ? legsIn(job, [report]) : new Map()
  const words = worlds[job.region].words
  const { result, design } = chosen
  const lengthM = runLengthM(circuit, design)
  const way = circuit.way ? `${circuit.way}` : '?'
  const from = `${job.supply.board || words.board} way ${way}`
  const load = circuit.load.name || circuit.name
  const breaker = result?.breakerA ? `${worlds[job.region].typedBreakers ? design.breakerType : ''}${result.breakerA} A` : null
  const cable = result?.size ? `${formatSize(result.size)} / ${formatSize(result.protectiveSize!)}` : null
  const list = (...lines: (string | null)[]) => lines.filter((l): l is string => l !== null && l !== '')
  const remarks = ({ fitted }: EndReport) =>
    fitted
      ? wiringPlan(job.region, fitted, circuit.colours, result?.size ?? null, units)
          .feed.filter((c) => c.remark && c.role !== 'pe')
          .map((c) => `${colourName(c.colour)} is ${c.role === 'neutral' ? 'neutral' : words.line}`)
      : []
  const weakest = result?.weakestLink
  const onPurpose = ({ fitted }: EndReport) =>
    fitted &&
    fitted.outlets > 0 &&
    result?.breakerA &&
    fitted.ratingA > result.breakerA &&
    chosen.findings.some((f) => f.rule === 'outlet-larger-than-breaker')
      ? `Outlet ${formatA(fitted.ratingA)}, breaker ${result.breakerA} A, on purpose`
      : null
  const heldToCord = weakest?.link === 'cord' ? `Cord is the weak link: ${formatA(weakest.ratingA)}` : null
  const shared = circuit.kind === 'shared-neutral' ? 'Two lines share its neutral: open both' : null
  /** What else a hand finds in a box: circuits that pass through it, and lines that no switch there turns off. */
  const besides = ({ points }: EndReport) => {
    const others = [...new Set(points.flatMap((p) => cablesAt(job, p)).map((k) => k.circuit))].filter((id) => id && id !== circuit.id)
    const names = job.circuits.filter((c) => others.includes(c.id)).map((c) => (c.way ? `${c.name}, way ${c.way}` : c.name))
    const met = points.flatMap((p) => legs.get(p) ?? [])
    const each = (of: (l: Legs) => readonly string[]) => listed([...new Set(met.flatMap(of))], 3)
    return [
      ...names.map((n) => `Also in here: ${n}`),
      ...(met.length ? [`Always live: ${each((l) => l.always)}`, `Switched: ${each((l) => l.switched)}`] : []),
    ]
  }
  const label = (place: LabelPlace, where: string, widthMm: number, heightMm: number, lines: string[]): Label => ({
    id: `${circuit.id}-${place}`,
    place,
    where,
    widthMm,
    heightMm,
    lines,
  })
  return [
    label('cover-outside', 'Outside of the cover', 70, 18, list(from, breaker ? `${breaker}, ${circuit.load.volts ?? '?'} V` : null, load)),
    ...ends.map((e, i) => ({
      ...label(
        'cover-inside',
        `Inside of the cover${e.where && `, ${e.where}`}`,
        70,
        36,
        list(
          circuit.name,
          `From ${from}`,
          cable &&
            `${cable}${lengthM ? `, ${formatLength(lengthM, units)}` : circuit.points.length ? `, ${circuit.points.length} points` : ''}`,
          ...remarks(e),
          shared,
          ...besides(e),
          heldToCord,
          onPurpose(e),
          date,
        ),
      ),
      id: `${circuit.id}-cover-inside${i === 0 ? '' : `-${i + 1}`}`,
    })),
    label('cable-board', `Cable at the ${words.board}`, 60, 12, list(`${way}  ${load}`, cable)),
    label('cable-point', 'Cable at the point', 60, 12, list(`From ${from}`, date)),
    label(
      'board',
      `Entry at the ${words.board}`,
      90,
      12,
      list(
        `${way}  ${circuit.name}${load && load !== circuit.name ? `: ${load}` : ''}`,
        shared,
        breaker && `${breaker}${design.residual.at === 'board' ? `, ${words.rcd} ${design.residual.ma} mA` : ''}`,
      ),
    ),
  ]
}
