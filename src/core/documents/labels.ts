import { sentence } from '../job/part'
import { boxPoints } from '../build/carries'
import { removedFrom } from '../build/removed'
import { fittedAt } from '../design/endings'
import { replacedWithoutEarth } from '../design/replaced'
import { CAP } from '../job/bench'
import { runLengthM } from '../design/conditions'
import type { Box } from '../build/box'
import { type CableAt, isPutIn } from '../build/cores'
import { colourName } from '../build/words'
import type { Cable } from '../job/cable'
import { type Legs, legsOf, legsWords } from '../wired/legs'
import type { CircuitReport, EndReport } from '../evaluate/evaluate'
import { listed } from '../base/finding'
import type { Installation } from '../installation/installation'
import { formatA, formatLength, formatSize, type UnitSystem } from '../base/format'
import { worlds } from '../region/worlds'

export const labelPlaces = ['cover-outside', 'cover-inside', 'cable-board', 'cable-point', 'board', 'found'] as const
export type LabelPlace = (typeof labelPlaces)[number]

/** Text for one label, longest line first in importance; the drawing fits it to the tape or sticker. */
export interface Label {
  readonly id: string
  readonly place: LabelPlace
  /** The circuit it tells of; null: what was taken out is on none. */
  readonly circuit: string | null
  readonly where: string
  /** The point, way or board it is stuck at, by its id. */
  readonly at: string
  /** The cable whose end it is on; null: it is on no cable. */
  readonly cable: string | null
  readonly widthMm: number
  readonly heightMm: number
  readonly lines: readonly string[]
  /** The address in its QR code; none: it has no code. */
  readonly link?: string
  /** What is left free round its words, where that is not as on a sticker, in millimetres. */
  readonly edgeMm?: number
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
    from: `${job.supply.board || words.board} ${words.space} ${way}`,
    load: circuit.load.name || circuit.name,
    breaker: result?.breakerA ? `${typedBreakers ? design.breakerType : ''}${result.breakerA} A` : null,
    cable: result?.size ? `${formatSize(result.size)} / ${formatSize(result.protectiveSize!)}` : null,
  }
}
const written = (...lines: (string | null)[]): string[] => lines.filter((l): l is string => l !== null && l !== '')
const sharedNeutral = ({ report: { circuit } }: Told): string | null =>
  circuit.kind === 'shared-neutral' ? 'Two lines share its neutral: open both' : null

/** Conductors whose colour is not what they are, as they are marked in the box. */
function remarks({ job, report }: Told, { built }: EndReport): readonly string[] {
  const { line, neutral } = worlds[job.region].words
  const marked = built?.cables.flatMap((k) => k.ends.filter((e) => built.bench.marked.includes(e.name) && e.conductor.role !== 'pe')) ?? []
  // A neutral of another circuit is written on that one's label.
  const own = marked.filter((e) => report.circuit.cables.some((k) => e.name.startsWith(`${k.id} `)) || e.name.startsWith('load-'))
  return [...new Set(own.map((e) => `${colourName(e.conductor.colour)} is ${e.conductor.role === 'neutral' ? neutral : line}`))]
}

/** An outlet rated above its breaker, where that is meant so. */
function onPurpose({ chosen: { result, findings } }: CircuitReport, { fitted }: EndReport): string | null {
  const larger = fitted && fitted.outlets > 0 && result?.breakerA && fitted.ratingA > result.breakerA
  return larger && findings.some((f) => f.rule === 'outlet-larger-than-breaker')
    ? `Outlet ${formatA(fitted.ratingA)}, breaker ${result.breakerA} A, on purpose`
    : null
}

/** What else a hand finds in a box: circuits that pass through it, and lines that no switch there turns off. */
function besides(job: Installation, { circuit }: CircuitReport, { built }: EndReport, legs: Legs): readonly string[] {
  const others = [...new Set(built?.cables.map((k) => k.circuit))].filter((id) => id !== circuit.id)
  const names = job.circuits
    .filter((c) => others.includes(c.id))
    .map((c) => (c.way ? `${c.name}, ${worlds[job.region].words.space} ${c.way}` : c.name))
  const met = built ? legsWords(built, legs) : null
  return [
    ...names.map((n) => `Also in here: ${n}`),
    ...(met ? [`Always live: ${listed(met.always, 3)}`, `Switched: ${listed(met.switched, 3)}`] : []),
  ]
}

function insideLines(told: Told, end: EndReport, legs: Legs, date: string): string[] {
  const { job, report, units, from, cable } = told
  const { circuit, chosen } = report
  const lengthM = runLengthM(circuit, chosen.design)
  const run = lengthM ? `, ${formatLength(lengthM, units)}` : circuit.points.length > 1 ? `, ${circuit.points.length} points` : ''
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

/** What a cable is at one of its ends: a permanent feed, a switched leg, or both. */
function legWords(box: Box, cable: CableAt, legs: Legs): string | null {
  const of = cable.ends.filter((e) => e.conductor.role !== 'pe')
  const has = (leg: ReturnType<Legs>) => of.some((e) => legs(box.id, e.name) === leg)
  const travels = of.some((e) => e.conductor.role === 'traveller')
  const switched = travels ? 'travellers' : has('switched') ? 'switched leg' : null
  if (has('permanent')) return switched ? `Permanent feed and ${switched}` : 'Permanent feed'
  return switched ? `${switched[0]!.toUpperCase()}${switched.slice(1)}` : null
}
/** Whether every conductor of a cable but the protective one is capped in its box: it is laid for later. */
const isParked = ({ bench }: Box, { ends }: CableAt): boolean => {
  const to = new Map(bench.ends.map((e) => [e.end, e.to]))
  const live = ends.filter((e) => e.conductor.role !== 'pe')
  return live.length > 0 && live.every((e) => (to.get(e.name) ?? CAP) === CAP)
}
/** Conductors of a cable in use that are capped where it arrives, though something may send power to them. */
function cappedWords(box: Box, cable: CableAt, legs: Legs): string | null {
  const capped = cable.ends.filter(
    (e) => !['pe', 'spare'].includes(e.conductor.role) && box.bench.ends.some((x) => x.end === e.name && x.to === CAP),
  )
  const named = capped.map((e) => colourName(e.conductor.colour))
  const live = capped.some((e) => legs(box.id, e.name) !== 'none')
  return named.length && !isParked(box, cable) ? `Capped at ${box.name}${live ? ', live' : ''}: ${named.join(', ')}` : null
}
const spareWords = (cable: CableAt): string | null => {
  const spare = cable.ends.filter((e) => e.conductor.role === 'spare').map((e) => colourName(e.conductor.colour))
  return spare.length ? `Spare, capped: ${spare.join(', ')}` : null
}

/** A label for each end of each new cable of the circuit: from, to, what it is, circuit, date. */
function cableLabels({ job, report, way, cable }: Told, legs: Legs, date: string): Label[] {
  const { circuit } = report
  const board = job.supply.board || worlds[job.region].words.board
  const boxes = new Map(report.ends.flatMap((e) => (e.built ? [[e.points[0]!, e.built] as const] : [])))
  const nameAt = (e: Cable['from']) =>
    e.kind === 'point'
      ? (boxes.get(e.id)?.points.find((p) => p.id === e.id)?.name ?? job.points.find((p) => p.id === e.id)?.name ?? 'a point')
      : e.kind === 'way' || e.id === circuit.board
        ? `${board} ${worlds[job.region].words.space} ${way}`
        : 'the sub-board'
  return circuit.cables
    .filter((k) => !k.inside && isPutIn(job, report, k))
    .flatMap((k) => {
      const [from, to] = [nameAt(k.from), nameAt(k.to)]
      const box = [k.to, k.from].flatMap((e) => (e.kind === 'point' ? (boxes.get(e.id) ?? []) : []))[0]
      const there = box?.cables.find((x) => x.id === k.id)
      const size = k.size ? formatSize(k.size) : cable
      return ([k.from, k.to] as const).map((end, i): Label => {
        const atBox = end.kind === 'point'
        return {
          id: `${circuit.id}-${k.id}-${i === 0 ? 'from' : 'to'}`,
          place: atBox ? 'cable-point' : 'cable-board',
          circuit: circuit.id,
          where: atBox ? `Cable at ${nameAt(end)}` : job.supply.board ? `Cable at ${board}` : `Cable at the ${board}`,
          at: (atBox && boxes.get(end.id)?.id) || end.id,
          cable: k.id,
          widthMm: 60,
          heightMm: 18,
          lines: written(
            `${way}  ${circuit.name}`,
            `From ${from} to ${to}`,
            box && there ? (isParked(box, there) ? 'Not in use, capped: may be live' : legWords(box, there, legs)) : null,
            there ? spareWords(there) : null,
            box && there ? cappedWords(box, there, legs) : null,
            written(size, date).join(', '),
          ),
        }
      })
    })
}

/** Of a box that was found and that a circuit of the job begins at: what is in it now besides. */
function foundLabels({ job, report, from }: Told, date: string): Label[] {
  const { circuit } = report
  const own = new Set(boxPoints(report).map((p) => p.id))
  const begins = circuit.cables.flatMap((k) => (k.from.kind === 'point' && !own.has(k.from.id) ? [k.from.id] : []))
  return job.points
    .filter((p) => begins.includes(p.id))
    .map((p) => ({
      id: `${circuit.id}-found-${p.id}`,
      place: 'found',
      circuit: circuit.id,
      where: `Inside of the cover of ${p.name}, which was there`,
      at: p.box.id,
      cable: null,
      widthMm: 70,
      heightMm: 18,
      lines: written(`Feeds ${circuit.name} too`, `From ${from}`, date),
    }))
}

/** Over a joint that is hidden: where it is, for a person who looks for it. */
function hiddenLabels({ report, from }: Told, date: string): Label[] {
  return boxPoints(report)
    .filter((p) => p.hidden && (p.kind === 'box' || !fittedAt(report.chosen.design, p)))
    .map((p) => ({
      id: `${report.circuit.id}-hidden-${p.id}`,
      place: 'found',
      circuit: report.circuit.id,
      where: `Over the hidden joint, ${p.name || report.circuit.name}`,
      at: p.box.id,
      cable: null,
      widthMm: 60,
      heightMm: 12,
      lines: written(`Joint behind here: ${p.name || report.circuit.name}`, `From ${from}`, date),
    }))
}

/** Where something was taken out and its conductors stay: what the blank cover hides. */
function removedLabels(job: Installation, date: string): Label[] {
  return removedFrom(job)
    .filter((r) => r.left === 'capped' && !r.stays)
    .map(({ point, through, way }) => ({
      id: `removed-${point.id}`,
      place: 'found',
      circuit: null,
      where: `Blank cover where ${point.name} was`,
      at: point.box.id,
      cable: null,
      widthMm: 70,
      heightMm: 18,
      lines: written(
        through.length
          ? `Joint, was ${point.name}: goes on to ${listed(
              through.map((p) => p.name),
              3,
            )}`
          : `Capped, was ${point.name}: may be live`,
        job.ways.find((w) => w.id === way)?.label ?? null,
        date,
      ),
    }))
}

/** A label for each end of each new cable of extra-low voltage or telecommunication. */
function signalLabels(job: Installation, date: string): Label[] {
  const { kindNames } = worlds[job.region].separation
  return (job.record.signalCables ?? [])
    .filter((k) => k.state === 'new')
    .flatMap((k) =>
      (['from', 'to'] as const).map((end): Label => ({
        id: `signal-${k.id}-${end}`,
        place: 'cable-point',
        circuit: null,
        where: k[end] ? `${k.name}, at ${k[end]}` : `${k.name}, ${end === 'from' ? 'first' : 'other'} end`,
        at: `${k.id}-${end}`,
        cable: k.id,
        widthMm: 60,
        heightMm: 18,
        lines: written(
          k.name,
          k.from || k.to ? `From ${k.from || '?'} to ${k.to || '?'}` : null,
          written(kindNames[k.kind], date).join(', '),
        ),
      })),
    )
}

/** Labels that belong to no one circuit. */
export const otherLabels = (job: Installation, date: string): Label[] => [...removedLabels(job, date), ...signalLabels(job, date)]

/** On the cover of each outlet that takes the place of an old one without a protective conductor, once a residual device protects it. */
function noEarthLabels(job: Installation, { circuit, chosen }: CircuitReport): readonly Pick<Label, 'id' | 'where' | 'at' | 'lines'>[] {
  if (!chosen.findings.some((f) => f.rule === 'old-no-earth' && f.severity === 'warning')) return []
  return replacedWithoutEarth(job, circuit).map((p) => ({
    id: `${p.id}-no-earth`,
    where: `Cover of ${p.name}`,
    at: p.box.id,
    lines: worlds[job.region].says.noEarthMarks,
  }))
}

/** Labels for one circuit. What is not known yet is left out, never guessed. */
export function circuitLabels(job: Installation, report: CircuitReport, date: string, units: UnitSystem): Label[] {
  const { circuit, chosen, ends } = report
  const boxes = [...new Map(ends.flatMap((e) => (e.built ? [[e.built.id, e.built] as const] : []))).values()]
  const legs = legsOf(job, report, boxes)
  const { words } = worlds[job.region]
  const told = toldOf(job, report, units)
  const { way, from, load, breaker } = told
  const { residual } = chosen.design
  const label = (place: LabelPlace, where: string, at: string, widthMm: number, heightMm: number, lines: string[]): Label => ({
    id: `${circuit.id}-${place}`,
    place,
    circuit: circuit.id,
    where,
    at,
    cable: null,
    widthMm,
    heightMm,
    lines,
  })
  const called = `${way}  ${circuit.name}${load && load !== circuit.name ? `: ${load}` : ''}`
  const guarded = breaker && `${breaker}${residual.at === 'board' ? `, ${words.rcd} ${residual.ma} mA` : ''}`
  const first = boxes[0]?.id ?? circuit.board
  return [
    label(
      'cover-outside',
      'Outside of the cover',
      first,
      70,
      18,
      written(sentence(from), breaker && `${breaker}, ${circuit.load.volts ?? '?'} V`, load),
    ),
    ...ends
      .filter((e) => e.lead)
      .map((e, i) => ({
        ...label(
          'cover-inside',
          `Inside of the cover${e.where && `, ${e.built?.name ?? e.where}`}`,
          e.built?.id ?? circuit.board,
          70,
          36,
          insideLines(told, e, legs, date),
        ),
        id: `${circuit.id}-cover-inside${i === 0 ? '' : `-${i + 1}`}`,
      })),
    ...noEarthLabels(job, report).map((l) => ({ ...label('cover-outside', l.where, l.at, 50, 12, []), ...l })),
    ...cableLabels(told, legs, date),
    ...foundLabels(told, date),
    ...hiddenLabels(told, date),
    label(
      'board',
      `Entry at the ${words.board}`,
      circuit.ways[0]?.id ?? circuit.board,
      90,
      12,
      written(called, sharedNeutral(told), guarded),
    ),
  ]
}
