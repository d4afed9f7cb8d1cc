import { sentence } from '../job/part'
import { marks } from './scale'
import { endingsOf, endsInJointsOnly } from '../design/endings'
import { linkNames } from '../calculate/select-circuit'
import type { DesignReport } from '../evaluate/evaluate'
import { type Finding, type Severity, worstSeverity } from '../base/finding'
import type { Circuit, Design, Installation } from '../installation/installation'
import { formatA, formatLength, formatSize, type UnitSystem } from '../base/format'
import { cableNames } from '../region/vocabulary'
import type { PointType } from '../rules/point-rule'
import { pointRules } from '../rules/points'
import { verdictGlyph } from './glyph'
import { type Drawing, grounded, line, type Shape, text, wideAs, wrapText } from './shape'
import { worlds } from '../region/worlds'

type ChainPart = (typeof linkNames)[number] | 'load'

const partOfType: Record<PointType, ChainPart> = {
  residual: 'breaker',
  'residual-type': 'breaker',
  'arc-fault': 'breaker',
  tamper: 'outlet',
  weather: 'outlet',
  surge: 'breaker',
  place: 'outlet',
}
/** Which link of the chain each rule is about. */
const partOfRule: Readonly<Record<string, ChainPart>> = {
  ...Object.fromEntries(pointRules.map((r) => [r.id, partOfType[r.type]])),
  'no-breaker-serves': 'breaker',
  'breaker-held-to-cord': 'breaker',
  'tt-needs-residual-device': 'breaker',
  'breaking-capacity': 'breaker',
  selectivity: 'breaker',
  'neutral-bar': 'breaker',
  'cooking-ahead-of-residual': 'breaker',
  'first-outlet-guards': 'outlet',
  'start-trips': 'breaker',
  'two-pole-space': 'breaker',
  'way-taken': 'breaker',
  'shared-neutral-tie': 'breaker',
  'ring-device': 'breaker',
  'room-circuit-rating': 'breaker',
  'lampholders-on-breaker': 'breaker',
  'room-circuit-alone': 'outlet',
  'receptacle-of-point': 'outlet',
  'share-of-circuit': 'load',
  'fixed-load-on-ring': 'load',
  'outlet-larger-than-breaker': 'outlet',
  'fuse-not-right': 'outlet',
  'extension-as-wiring': 'cord',
  'no-size-serves': 'cable',
  'voltage-drop-over-3-percent': 'cable',
  'zs-too-high': 'cable',
  'loop-not-known': 'cable',
  'outside-the-tables': 'cable',
  'outlet-below-breaker': 'outlet',
  'outlet-not-allowed-on-circuit': 'outlet',
  'outlet-below-load': 'outlet',
  'terminal-too-small': 'outlet',
  'voltage-mismatch': 'outlet',
  'accessory-below-load': 'outlet',
  'accessory-below-breaker': 'outlet',
  'industrial-outlet-below-breaker': 'outlet',
  'poles-not-opened': 'outlet',
  'alarm-on-switched-leg': 'outlet',
  'aluminium-on-terminals': 'outlet',
  'duty-not-known': 'load',
  'motor-current-not-known': 'load',
  'motor-overload': 'load',
  'motor-breaker-too-large': 'breaker',
  'motor-breaker-above-cable': 'breaker',
  'plug-needs-outlet': 'outlet',
  'cord-below-load': 'cord',
  'cord-below-breaker': 'cord',
  'cord-needs-fuse': 'cord',
}
export const findingPart = (f: Finding): ChainPart => partOfRule[f.rule] ?? 'cable'

const steps = [5, 10, 15, 20, 25, 30, 40, 50, 60, 80, 100, 120, 160, 200, 240, 300, 400, 600, 1000]
const base = 284
const top = 46
/** The same chain on a desk and on a phone: there fewer words are under it, and larger. */
const formats = {
  wide: { left: 54, right: 806, breaker: 1, outlet: 1.35, cable: 2.4, details: true, small: 14.5 },
  narrow: { left: 44, right: 436, breaker: 1.12, outlet: 1.52, cable: 1.3, details: false, small: 15 },
} as const

/** How far a circuit runs: over how many points or stretches, or how long. */
function runInWords(circuit: Circuit, design: Design, units: UnitSystem): string {
  const counted = (n: number, what: string) => `, ${n} ${what}${n === 1 ? '' : 's'}`
  if (circuit.points.length) return counted(circuit.points.length, 'point')
  if (design.stretches.length) return counted(design.stretches.length, 'section')
  return design.lengthM === null ? ', length ?' : `, ${formatLength(design.lengthM, units)}`
}

/** A block of the chain: as wide as its weight, as high as its rating. */
interface Block {
  readonly part: ChainPart
  readonly name: string
  readonly detail: string
  readonly ratingA: number | null
  readonly weight: number
}
type Format = (typeof formats)[keyof typeof formats]

/** What feeds the point: the breaker and its cable. */
function supplyBlocks(job: Installation, circuit: Circuit, report: DesignReport, units: UnitSystem, { breaker, cable }: Format): Block[] {
  const { design, result } = report
  const { words, typedBreakers } = worlds[job.region]
  const type = typedBreakers ? `type ${design.breakerType}` : ''
  const residual = design.residual.at === 'board' ? `${words.rcd} ${design.residual.ma} mA` : ''
  return [
    {
      part: 'breaker',
      name: words.breaker,
      detail: [type, residual].filter(Boolean).join('; '),
      ratingA: ratingOf(report, 'breaker') ?? result?.breakerA ?? null,
      weight: breaker,
    },
    {
      part: 'cable',
      name: result?.size ? formatSize(result.size) : words.cable,
      detail: `${cableNames[design.cable] ?? design.cable}${runInWords(circuit, design, units)}`,
      ratingA: ratingOf(report, 'cable'),
      weight: cable,
    },
  ]
}
const ratingOf = ({ result }: DesignReport, link: string): number | null => result?.links.find((l) => l.link === link)?.ratingA ?? null

/** Of several kinds the lowest rated that a plug goes into, or the lowest of all, is in the chain. */
function outletBlock(job: Installation, circuit: Circuit, report: DesignReport, weight: number): Block {
  const { socketOutlet } = worlds[job.region].words
  const endings = endingsOf(circuit, report.design)
  const fitted = endings
    .map((e) => e.fitted)
    .toSorted((a, b) => Number(a.outlets === 0) - Number(b.outlets === 0) || a.ratingA - b.ratingA)[0]
  if (!fitted) return { part: 'outlet', name: `${socketOutlet} ?`, detail: 'not chosen', ratingA: null, weight }
  return {
    part: 'outlet',
    name: fitted.outlets ? socketOutlet : fitted.kind,
    detail: endings.length > 1 ? `the least of ${endings.length} kinds: ${fitted.name}` : fitted.name,
    ratingA: ratingOf(report, 'outlet') ?? fitted.ratingA,
    weight,
  }
}

/** What is on the point: an extension and a cord where there are, and the appliance. */
function loadBlocks(job: Installation, circuit: Circuit, { design, result }: DesignReport, units: UnitSystem): Block[] {
  const { words } = worlds[job.region]
  const { extension, cordA } = design
  const feeder = circuit.kind === 'feeder'
  const parked = endsInJointsOnly(circuit)
  const fixed = circuit.load.connection === 'plug' ? 'plugged in' : 'fixed'
  return [
    ...(extension === null
      ? []
      : [
          {
            part: 'cord' as const,
            name: 'extension',
            detail: `${formatLength(extension.lengthM, units)}, ${formatSize(extension.size)}`,
            ratingA: extension.ratingA,
            weight: 1,
          },
        ]),
    ...(cordA === null ? [] : [{ part: 'cord' as const, name: words.cord, detail: 'plug and cord', ratingA: cordA, weight: 1 }]),
    {
      part: 'load',
      name: circuit.load.name || (feeder ? 'sub-board ?' : parked ? 'no load yet' : 'appliance ?'),
      detail: parked
        ? 'ends in a joint box'
        : feeder
          ? `the circuits of its ${words.board}`
          : circuit.load.continuous
            ? 'three hours or more'
            : fixed,
      ratingA: result?.loadA ?? null,
      weight: 1.3,
    },
  ]
}

/** The scale of amperes for all blocks. */
interface Scale {
  readonly max: number
  readonly tick: number
  readonly left: number
  readonly y: (a: number) => number
}
function scaleFor(blocks: readonly Block[], requiredA: number, format: Format): Scale {
  const highest = Math.max(10, ...blocks.map((b) => b.ratingA ?? 0), requiredA)
  const max = steps.find((s) => s >= highest * 1.12) ?? highest * 1.12
  return {
    max,
    tick: max <= 30 ? 5 : max <= 80 ? 10 : max <= 200 ? 20 : 50,
    left: Math.max(format.left, wideAs(String(Math.round(max)), format.small) + 12),
    y: (a) => base - ((base - top) * a) / max,
  }
}
const scaleShapes = ({ max, tick, left, y }: Scale, { right, small }: Format): Shape[] => [
  ...marks(max, tick).flatMap((a): Shape[] => [
    line(left, y(a), right, y(a), { stroke: 'rule', width: a === 0 ? 0 : 1 }),
    text(left - 8, y(a) + 4, String(a), small, { anchor: 'end', fill: 'ink2' }),
  ]),
  text(left - 8, top - 18, 'A', small, { anchor: 'end', fill: 'ink2' }),
]

/** Where a block is, and what is said of it. */
interface Placed {
  readonly block: Block
  readonly x: number
  readonly w: number
  /** Its height; of one whose rating is not known, a third of the scale. */
  readonly h: number
  readonly weakest: boolean
  readonly worst: Severity | null
}

/** The block itself, and how much of it the load takes. */
function blockShapes({ block: { part, ratingA }, x, w, h, weakest }: Placed, loadA: number | null, { y }: Scale): Shape[] {
  const load = part === 'load'
  const box: Shape = {
    kind: 'rect',
    x: x + 3,
    y: base - h,
    w: w - 6,
    h,
    r: load ? 0 : 2,
    fill: load ? 'wash' : ratingA === null ? 'none' : 'sheet',
    stroke: ratingA === null ? 'ink3' : 'ink',
    width: weakest ? 4 : 1.5,
    ...(ratingA === null ? { dash: '5 4' } : {}),
    part,
  }
  if (ratingA === null || loadA === null || load) return [box]
  const level = y(Math.min(loadA, ratingA))
  return [box, { kind: 'rect', x: x + 3, y: level, w: w - 6, h: base - level, fill: 'wash', part }]
}

/** What is written on a block: its rating, whether it is the weakest, and its worst verdict. */
function writtenOn({ block: { part, ratingA }, x, w, h, weakest, worst }: Placed, small: number): Shape[] {
  const labelY = base - h - 9
  const rated = ratingA === null ? '?' : formatA(ratingA)
  // A verdict follows the rating, and both of them over the middle of the block.
  const half = rated.length * 4.8
  const middle = x + w / 2 - (worst ? 11 : 0)
  // In the block, or over its rating where the block is too low for it; a narrow one has its thick outline alone.
  const tag = h > 36 ? base - h + 8 : labelY - 38
  const tagged: Shape[] =
    weakest && (h > 36 || w > 84)
      ? [
          { kind: 'rect', x: x + w / 2 - 36, y: tag, w: 72, h: 22, r: 2, fill: 'ink', part },
          text(x + w / 2, tag + 16, 'weakest', small, { anchor: 'middle', bold: true, fill: 'sheet', part }),
        ]
      : []
  return [
    ...grounded(text(middle, labelY, rated, 17, { anchor: 'middle', bold: true, part })),
    ...tagged,
    ...(worst ? verdictGlyph(worst, middle + half + 14, labelY - 6, part) : []),
  ]
}

/** Under a block its name and, where there is room, what it is. */
function writtenUnder({ block: { part, detail }, x, w }: Placed, name: readonly string[], longest: number, format: Format): Shape[] {
  const middle = x + w / 2
  const details = format.details ? wrapText(detail, w - 6, format.small, 3) : []
  return [
    ...name.map((n, i) => text(middle, base + 22 + i * 18, n, 15, { anchor: 'middle', bold: true, part })),
    ...details.map((l, i) => text(middle, base + 23 + longest * 18 + i * 17, l, format.small, { anchor: 'middle', fill: 'ink2', part })),
  ]
}

/** The load runs through all blocks; where it counts for more than it is, so does what it counts for. */
function loadLines(loadA: number | null, requiredA: number, { left, y }: Scale, right: number): Shape[] {
  if (loadA === null) return []
  return [
    line(left, y(loadA), right, y(loadA), { width: 2.5 }),
    ...(requiredA > loadA * 1.001 ? [line(left, y(requiredA), right, y(requiredA), { width: 1.5, dash: '2 4' })] : []),
  ]
}

/** Blocks side by side, each as wide as its weight. */
function placedAlong(blocks: readonly Block[], report: DesignReport, { max, left, y }: Scale, right: number): Placed[] {
  const weakest = report.result?.weakestLink ?? null
  // Of an extension and a cord alike the first.
  const weak = blocks.find((b) => b.part === weakest?.link && b.ratingA === weakest.ratingA)
  const unit = (right - left - 8) / blocks.reduce((sum, b) => sum + b.weight, 0)
  let x = left + 8
  return blocks.map((block) => {
    const at = x
    const w = block.weight * unit
    x += w
    return {
      block,
      x: at,
      w,
      h: base - y(block.ratingA ?? max * 0.35),
      weakest: block === weak,
      worst: worstSeverity(report.findings.filter((f) => findingPart(f) === block.part)),
    }
  })
}

/**
 * The chain from breaker to appliance. Every link is on one scale of amperes; the load runs through all of them,
 * and the lowest link is the one that decides.
 */
export function chainDrawing(
  job: Installation,
  circuit: Circuit,
  report: DesignReport,
  units: UnitSystem,
  form: keyof typeof formats = 'wide',
): Drawing {
  const format: Format = formats[form]
  const { right, outlet, details, small } = format
  const loadA = report.result?.loadA ?? null
  const requiredA = report.result?.requiredA ?? 0
  const blocks = [
    ...supplyBlocks(job, circuit, report, units, format),
    // A feeder ends in a board.
    ...(circuit.kind === 'feeder' || endsInJointsOnly(circuit) ? [] : [outletBlock(job, circuit, report, outlet)]),
    ...loadBlocks(job, circuit, report, units),
  ]
  const scale = scaleFor(blocks, requiredA, format)
  const placed = placedAlong(blocks, report, scale, right)
  // A long name takes a second line, on a narrow screen four.
  const names = placed.map((p) => wrapText(sentence(p.block.name), p.w - 6, 15, details ? 2 : 4))
  const longest = Math.max(...names.map((n) => n.length))
  const weakest = report.result?.weakestLink?.link
  return {
    width: right + 14,
    height: (details ? 354 : 304) + longest * 18,
    title: 'The chain of ratings from breaker to appliance',
    shapes: [
      ...scaleShapes(scale, format),
      ...placed.flatMap((p, i) => [...blockShapes(p, loadA, scale), ...writtenUnder(p, names[i]!, longest, format)]),
      line(scale.left, base, right, base, { width: 2 }),
      ...loadLines(loadA, requiredA, scale, right),
      // What is written on the chain is over its lines.
      ...placed.flatMap((p) => writtenOn(p, small)),
    ],
    parts: Object.fromEntries(
      blocks.map((b) => [
        b.part,
        `${sentence(b.name)}: ${b.ratingA === null ? 'not known' : formatA(b.ratingA)}${weakest === b.part ? ', the weakest link' : ''}`,
      ]),
    ),
  }
}
