import { sentence } from '../job/part'
import { marks } from './scale'
import { endingsOf } from '../design/endings'
import { linkNames } from '../calculate/select-circuit'
import type { DesignReport } from '../evaluate'
import { type Finding, worstSeverity } from '../finding'
import type { Circuit, Design, Installation } from '../installation/installation'
import { formatA, formatLength, formatSize, type UnitSystem } from '../quantity/format'
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
  'plug-needs-outlet': 'outlet',
  'cord-below-load': 'cord',
  'cord-below-breaker': 'cord',
  'cord-needs-fuse': 'cord',
}
export const findingPart = (f: Finding): ChainPart => partOfRule[f.rule] ?? 'cable'

const steps = [5, 10, 15, 20, 25, 30, 40, 50, 60, 80, 100, 120, 160, 200, 240, 300, 400, 600, 1000]
const base = 284
const top = 46
/** The same chain on a desk and on a phone: there fewer words stand under it, and larger. */
const formats = {
  wide: { left: 54, right: 806, breaker: 1, outlet: 1.35, cable: 2.4, details: true, small: 14.5 },
  narrow: { left: 44, right: 436, breaker: 1.12, outlet: 1.52, cable: 1.3, details: false, small: 15 },
} as const

/**
 * The chain from breaker to appliance. Every link stands on one scale of amperes; the load runs through all of them,
 * and the lowest link is the one that decides.
 */
/** How far a circuit runs: over how many points or stretches, or how long. */
function runInWords(circuit: Circuit, design: Design, units: UnitSystem): string {
  if (circuit.points.length) return `, ${circuit.points.length} points`
  if (design.stretches.length) return `, ${design.stretches.length} stretches`
  return design.lengthM === null ? ', length ?' : `, ${formatLength(design.lengthM, units)}`
}

export function chainDrawing(
  job: Installation,
  circuit: Circuit,
  report: DesignReport,
  units: UnitSystem,
  format: keyof typeof formats = 'wide',
): Drawing {
  const { right, breaker, outlet, cable, details, small } = formats[format]
  const { design, result } = report
  const words = worlds[job.region].words
  const endings = endingsOf(circuit, design)
  // Of several kinds the lowest rated that a plug goes into, or the lowest of all, stands in the chain.
  const fitted = endings
    .map((e) => e.fitted)
    .toSorted((a, b) => Number(a.outlets === 0) - Number(b.outlets === 0) || a.ratingA - b.ratingA)[0]
  const rating = (link: string): number | null => result?.links.find((l) => l.link === link)?.ratingA ?? null
  const blocks: { part: ChainPart; name: string; detail: string; ratingA: number | null; weight: number }[] = [
    {
      part: 'breaker',
      name: words.breaker,
      detail: (
        `${worlds[job.region].typedBreakers ? `type ${design.breakerType}` : ''}` +
        `${design.residual.at === 'board' ? ` ${words.rcd} ${design.residual.ma} mA` : ''}`
      ).trim(),
      ratingA: rating('breaker') ?? result?.breakerA ?? null,
      weight: breaker,
    },
    {
      part: 'cable',
      name: result?.size ? formatSize(result.size) : words.cable,
      detail: `${cableNames[design.cable] ?? design.cable}` + runInWords(circuit, design, units),
      ratingA: rating('cable'),
      weight: cable,
    },
    // A feeder ends in a board.
    ...(circuit.kind === 'feeder'
      ? []
      : [
          {
            part: 'outlet' as const,
            name: fitted ? (fitted.outlets ? words.socketOutlet : fitted.kind) : `${words.socketOutlet} ?`,
            detail: fitted ? (endings.length > 1 ? `the least of ${endings.length} kinds: ${fitted.name}` : fitted.name) : 'not chosen',
            ratingA: fitted ? (rating('outlet') ?? fitted.ratingA) : null,
            weight: outlet,
          },
        ]),
    ...(design.extension !== null
      ? [
          {
            part: 'cord' as const,
            name: 'extension',
            detail: `${formatLength(design.extension.lengthM, units)}, ${formatSize(design.extension.size)}`,
            ratingA: design.extension.ratingA,
            weight: 1,
          },
        ]
      : []),
    ...(design.cordA !== null
      ? [{ part: 'cord' as const, name: words.cord, detail: 'plug and cord', ratingA: design.cordA, weight: 1 }]
      : []),
    {
      part: 'load',
      name: circuit.load.name || (circuit.kind === 'feeder' ? 'sub-board ?' : 'appliance ?'),
      detail:
        circuit.kind === 'feeder'
          ? `what hangs on its ${words.board}`
          : circuit.load.continuous
            ? 'three hours or more'
            : circuit.load.connection === 'plug'
              ? 'plugged in'
              : 'fixed',
      ratingA: result?.loadA ?? null,
      weight: 1.3,
    },
  ]
  const loadA = result?.loadA ?? null
  const highest = Math.max(10, ...blocks.map((b) => b.ratingA ?? 0), result?.requiredA ?? 0)
  const max = steps.find((s) => s >= highest * 1.12) ?? highest * 1.12
  const y = (a: number) => base - ((base - top) * a) / max
  const tick = max <= 30 ? 5 : max <= 80 ? 10 : max <= 200 ? 20 : 50
  const left = Math.max(formats[format].left, wideAs(String(Math.round(max)), small) + 12)
  const unit = (right - left - 8) / blocks.reduce((sum, b) => sum + b.weight, 0)

  const shapes: Shape[] = []
  for (const a of marks(max, tick)) {
    shapes.push(line(left, y(a), right, y(a), { stroke: 'rule', width: a === 0 ? 0 : 1 }))
    shapes.push(text(left - 8, y(a) + 4, String(a), small, { anchor: 'end', fill: 'ink2' }))
  }
  shapes.push(text(left - 8, top - 18, 'A', small, { anchor: 'end', fill: 'ink2' }))

  const weakest = result?.weakestLink ?? null
  // What is written on the chain stands over its lines.
  const over: Shape[] = []
  // A long name takes a second line, on a narrow screen four.
  const names = blocks.map((b) => wrapText(sentence(b.name), b.weight * unit - 6, 15, details ? 2 : 4))
  const longest = Math.max(...names.map((n) => n.length))
  let x = left + 8
  for (const [place, b] of blocks.entries()) {
    const w = b.weight * unit
    const own = report.findings.filter((f) => findingPart(f) === b.part)
    const worst = worstSeverity(own)
    // Of an extension and a cord alike the first.
    const isWeakest = b === blocks.find((x) => x.part === weakest?.link && x.ratingA === weakest.ratingA)
    const known = b.ratingA !== null
    const h = base - y(b.ratingA ?? max * 0.35)
    shapes.push({
      kind: 'rect',
      x: x + 3,
      y: base - h,
      w: w - 6,
      h,
      r: b.part === 'load' ? 0 : 2,
      fill: b.part === 'load' ? 'wash' : known ? 'sheet' : 'none',
      stroke: known ? 'ink' : 'ink3',
      width: isWeakest ? 4 : 1.5,
      ...(known ? {} : { dash: '5 4' }),
      part: b.part,
    })
    if (known && loadA !== null && b.part !== 'load')
      shapes.push({
        kind: 'rect',
        x: x + 3,
        y: y(Math.min(loadA, b.ratingA!)),
        w: w - 6,
        h: base - y(Math.min(loadA, b.ratingA!)),
        fill: 'wash',
        part: b.part,
      })
    const labelY = base - h - 9
    const rated = known ? formatA(b.ratingA!) : '?'
    // A verdict stands after the rating, and both of them over the middle of the block.
    const half = rated.length * 4.8
    const middle = x + w / 2 - (worst ? 11 : 0)
    over.push(...grounded(text(middle, labelY, rated, 17, { anchor: 'middle', bold: true, part: b.part })))
    // In the block, or over its rating where the block is too low for it; a narrow one has its thick outline alone.
    if (isWeakest && (h > 36 || w > 84)) {
      const tag = h > 36 ? base - h + 8 : labelY - 38
      over.push(
        { kind: 'rect', x: x + w / 2 - 36, y: tag, w: 72, h: 22, r: 2, fill: 'ink', part: b.part },
        text(x + w / 2, tag + 16, 'weakest', small, { anchor: 'middle', bold: true, fill: 'sheet', part: b.part }),
      )
    }
    if (worst) over.push(...verdictGlyph(worst, middle + half + 14, labelY - 6, b.part))
    names[place]!.forEach((n, i) => shapes.push(text(x + w / 2, base + 22 + i * 18, n, 15, { anchor: 'middle', bold: true, part: b.part })))
    if (details)
      wrapText(b.detail, w - 6, small, 3).forEach((l, i) =>
        shapes.push(text(x + w / 2, base + 23 + longest * 18 + i * 17, l, small, { anchor: 'middle', fill: 'ink2', part: b.part })),
      )
    x += w
  }
  shapes.push(line(left, base, right, base, { width: 2 }))
  if (result && loadA !== null) {
    shapes.push(line(left, y(loadA), right, y(loadA), { width: 2.5 }))
    if (result.requiredA > loadA * 1.001)
      shapes.push(line(left, y(result.requiredA), right, y(result.requiredA), { width: 1.5, dash: '2 4' }))
  }
  shapes.push(...over)
  return {
    width: right + 14,
    height: (details ? 354 : 304) + longest * 18,
    title: 'The chain of ratings from breaker to appliance',
    shapes,
    parts: Object.fromEntries(
      blocks.map((b) => [
        b.part,
        `${sentence(b.name)}: ` +
          `${b.ratingA === null ? 'not known' : formatA(b.ratingA)}${weakest?.link === b.part ? ', the weakest link' : ''}`,
      ]),
    ),
  }
}
