import type { BoxReport } from '../build/choose-box'
import { formatSmallLength, formatVolume, trim, type UnitSystem } from '../base/format'
import { atMost } from '../base/tolerance'
import { verdictGlyph } from './glyph'
import { type Drawing, grounded, line, type Shape, text, wrapText } from './shape'

/** On a narrow screen what is said of a layer takes two lines, and the sum is under its share. */
const formats = {
  wide: { width: 640, left: 60, vessel: 190, words: 250, row: 18, head: 36, section: 420, legend: 300, told: 320, name: 300 },
  narrow: { width: 348, left: 20, vessel: 92, words: 206, row: 52, head: 60, section: 212, legend: 110, told: 226, name: 330 },
} as const
type Format = keyof typeof formats

/** The box as a vessel: each counted allowance a layer, the brim the volume it has. */
export function boxDrawing(report: BoxReport, units: UnitSystem, format: Format = 'wide'): Drawing {
  if (report.fill) return fillDrawing(report, units, format)
  if (report.depth) return depthDrawing(report, units, format)
  const middle = formats.narrow.width / 2
  return {
    width: 2 * middle,
    height: 420,
    title: 'Box not chosen',
    shapes: [
      { kind: 'rect', x: middle - 140, y: 90, w: 280, h: 240, r: 6, fill: 'none', stroke: 'ink3', width: 2, dash: '6 5' },
      text(middle, 205, report.kind ? 'The circuit is not worked out yet.' : 'No box chosen yet.', 16, { anchor: 'middle', fill: 'ink2' }),
      text(middle, 228, report.kind ? 'Its conductors decide the fill.' : 'Choose a box.', 14, {
        anchor: 'middle',
        fill: 'ink2',
      }),
    ],
  }
}

/** Heights from the lowest up, each at least a row over the one before, none below `lowest` and none over `highest`. */
function apart(heights: readonly number[], row: number, lowest: number, highest: number): readonly number[] {
  const down = heights.toReversed().reduce<number[]>((out, y) => [...out, Math.max(y, (out.at(-1) ?? 0) + row, highest)], [])
  return down.map((y, i) => Math.min(y, lowest - (down.length - 1 - i) * row)).toReversed()
}

/** What is needed of what there is, at the head of a drawing: beside the verdict, or below it where there is no room. */
const sum = (words: string, format: Format): Shape =>
  format === 'wide' ? text(formats.wide.width - 12, 36, words, 16, { anchor: 'end' }) : text(48, 60, words, 15)

function fillDrawing(report: BoxReport, units: UnitSystem, format: Format): Drawing {
  const { output } = report.fill!
  const { width, left: x, vessel: w, words, row: apartBy, head } = formats[format]
  const full = Math.max(output.requiredCm3, output.availableCm3)
  const most = Math.max(300, output.allowances.length * apartBy)
  const bottom = head + 34 + most
  const tall = (cm3: number) => (most * cm3) / full
  const brim = bottom - tall(output.availableCm3)
  const shapes: Shape[] = []
  const rows = apart(
    output.allowances.map((_, i) => {
      const below = output.allowances.slice(0, i).reduce((sum, a) => sum + a.totalCm3, 0)
      return bottom - tall(below + output.allowances[i]!.totalCm3 / 2)
    }),
    apartBy,
    bottom - 6 - (format === 'narrow' ? 30 : 0),
    head + 30,
  )
  let y = bottom
  output.allowances.forEach((a, i) => {
    const h = tall(a.totalCm3)
    y -= h
    const over = y < brim - 0.01
    shapes.push({ kind: 'rect', x, y, w, h, fill: over ? 'sheet' : i % 2 ? 'wash' : 'paper', stroke: 'ink2', width: 1 })
    if (over) for (let d = 8; d < w + h; d += 12) shapes.push(hatch(x, y, w, h, d))
    const row = rows[i]!
    const said = wrapText(`${trim(a.count, 2)} × ${a.what}`, words, 14, format === 'wide' ? 1 : 2)
    shapes.push(
      line(x + w, y + h / 2, x + w + 22, row, { stroke: 'ink3', width: 1 }),
      ...said.map((l, n) => text(x + w + 28, row + 4 + 16 * n, l, 14)),
      format === 'wide'
        ? text(width - 12, row + 4, formatVolume(a.totalCm3, units), 14, { anchor: 'end', fill: 'ink2' })
        : text(x + w + 28, row + 4 + 16 * said.length, formatVolume(a.totalCm3, units), 14, { fill: 'ink2' }),
    )
  })
  shapes.push({
    kind: 'path',
    d: `M${x - 4} ${brim}L${x - 4} ${bottom + 4}L${x + w + 4} ${bottom + 4}L${x + w + 4} ${brim}`,
    stroke: 'ink',
    width: 5,
    fill: 'none',
  })
  shapes.push(line(x - 22, brim, x + w + 12, brim, { width: 2, dash: '7 4' }))
  const state = output.fits ? 'met' : 'error'
  shapes.push(...verdictGlyph(state, 30, 30))
  shapes.push(text(48, 36, `${trim(output.fillFraction * 100, 0)} % full`, 22, { bold: true }))
  shapes.push(sum(`needs ${formatVolume(output.requiredCm3, units)} of ${formatVolume(output.availableCm3, units)}`, format))
  shapes.push(...named(report, x, bottom + 28, format))
  return { width, height: bottom + 50, title: `Box fill, ${trim(output.fillFraction * 100, 0)} percent`, shapes }
}

/** What the box is called, in as many lines as its width wants. */
const named = (report: BoxReport, x: number, y: number, format: Format): Shape[] =>
  wrapText(report.kind!.name, formats[format].name, 15, 2).map((l, i) => text(x, y + i * 18, l, 15, { bold: true }))

/** One hatching stroke, cut to its rectangle. */
function hatch(x: number, y: number, w: number, h: number, d: number): Shape {
  const x1 = x + Math.min(d, w)
  const y1 = y + Math.max(0, d - w)
  const x2 = x + Math.max(0, d - h)
  const y2 = y + Math.min(d, h)
  return line(x1, y1, x2, y2, { stroke: 'error', width: 1.5 })
}

/** A section through the wall: the box's depth to scale, and what is behind the plate. */
function depthDrawing(report: BoxReport, units: UnitSystem, format: Format): Drawing {
  const { neededMm, availableMm, parts } = report.depth!
  const { width, left, head, section, legend, told } = formats[format]
  const scale = section / Math.max(neededMm, availableMm, 30)
  const [x0, y0, h] = [left + 44, head + 74, 150]
  const fits = atMost(neededMm, availableMm)
  const shapes: Shape[] = [
    { kind: 'rect', x: x0 - 16, y: y0 - 26, w: 16, h: h + 52, fill: 'sheet', stroke: 'ink', width: 2 },
    text(x0 - 21, y0 + h / 2 + 5, 'plate', 14, { anchor: 'end', fill: 'ink2' }),
    {
      kind: 'path',
      d: `M${x0} ${y0}L${x0 + availableMm * scale} ${y0}L${x0 + availableMm * scale} ${y0 + h}L${x0} ${y0 + h}`,
      stroke: 'ink',
      width: 5,
      fill: 'none',
    },
  ]
  const written: Shape[] = []
  const apart = format === 'wide' ? 22 : 38
  let x = x0
  for (const [i, p] of parts.entries()) {
    const w = p.mm * scale
    const over = !atMost(x + w, x0 + availableMm * scale)
    shapes.push({
      kind: 'rect',
      x,
      y: y0 + 22,
      w,
      h: h - 44,
      fill: over ? 'sheet' : i % 2 ? 'paper' : 'wash',
      stroke: over ? 'error' : 'ink2',
      width: over ? 2 : 1,
    })
    if (over) for (let d = 8; d < w + h - 44; d += 12) shapes.push(hatch(x, y0 + 22, w, h - 44, d))
    // The first is labelled lowest, so that no line down to another's words goes through its own.
    const row = y0 + h + 34 + (parts.length - 1 - i) * apart
    const said = wrapText(p.what, told, 14, format === 'wide' ? 1 : 2)
    shapes.push(line(x + w / 2, y0 + h - 22, x + w / 2, row, { stroke: 'ink3', width: 1 }))
    written.push(
      ...grounded(
        text(x + w / 2, y0 + h / 2 + 5 + 22 * (i - (parts.length - 1) / 2), formatSmallLength(p.mm, units), 15, {
          anchor: 'middle',
          bold: true,
        }),
        over ? 'sheet' : 'paper',
      ),
      ...said.flatMap((l, n) => grounded(text(Math.min(x + w / 2 + 6, legend), row + 5 + 16 * n, l, 14))),
    )
    x += w
  }
  shapes.push(...written)
  shapes.push(line(x0, y0 - 22, x0 + availableMm * scale, y0 - 22, { width: 1.5 }))
  shapes.push(line(x0, y0 - 28, x0, y0 - 16, {}), line(x0 + availableMm * scale, y0 - 28, x0 + availableMm * scale, y0 - 16, {}))
  shapes.push(text(x0 + (availableMm * scale) / 2, y0 - 34, `box ${formatSmallLength(availableMm, units)}`, 14, { anchor: 'middle' }))
  shapes.push(...verdictGlyph(fits ? 'met' : 'error', 30, 30))
  shapes.push(text(48, 36, fits ? 'deep enough' : 'too shallow', 22, { bold: true }))
  shapes.push(sum(`needs ${formatSmallLength(neededMm, units)} of ${formatSmallLength(availableMm, units)}`, format))
  const foot = Math.max(y0 + h + 34 + parts.length * apart + 26, 396)
  shapes.push(...named(report, format === 'wide' ? x0 : left, foot, format))
  return { width, height: foot + 24, title: `Box depth: needs ${neededMm} mm of ${availableMm} mm`, shapes }
}
