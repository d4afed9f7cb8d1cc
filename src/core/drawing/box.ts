import type { BoxReport } from '../enclosure/choose-box'
import { formatSmallLength, formatVolume, trim, type UnitSystem } from '../quantity/format'
import { atMost } from '../tolerance'
import { verdictGlyph } from './glyph'
import { type Drawing, fitText, grounded, line, type Shape, text } from './shape'

const width = 640
const height = 420

/** The box as a vessel: each counted allowance a layer, the brim the volume it has. */
export function boxDrawing(report: BoxReport, units: UnitSystem): Drawing {
  if (report.fill) return fillDrawing(report, units)
  if (report.depth) return depthDrawing(report, units)
  const middle = 190
  return {
    width: 2 * middle,
    height,
    title: 'Box not chosen',
    shapes: [
      { kind: 'rect', x: middle - 110, y: 90, w: 220, h: 240, r: 6, fill: 'none', stroke: 'ink3', width: 2, dash: '6 5' },
      text(middle, 205, report.kind ? 'The circuit is not worked out yet.' : 'No box chosen yet.', 16, { anchor: 'middle', fill: 'ink2' }),
      text(middle, 228, report.kind ? 'Its conductors decide the fill.' : 'Choose one among its values.', 14, {
        anchor: 'middle',
        fill: 'ink2',
      }),
    ],
  }
}

const LINE = 18
/** Heights from the lowest up, each at least a line over the one before and none below `lowest`. */
function apart(heights: readonly number[], lowest: number): readonly number[] {
  const highest = heights.toReversed().reduce<number[]>((out, y) => [...out, Math.max(y, (out.at(-1) ?? 0) + LINE, 66)], [])
  return highest.map((y, i) => Math.min(y, lowest - (highest.length - 1 - i) * LINE)).toReversed()
}

function fillDrawing(report: BoxReport, units: UnitSystem): Drawing {
  const { output } = report.fill!
  const full = Math.max(output.requiredCm3, output.availableCm3)
  const [x, w, bottom, most] = [60, 190, 370, 300]
  const tall = (cm3: number) => (most * cm3) / full
  const brim = bottom - tall(output.availableCm3)
  const shapes: Shape[] = []
  const rows = apart(
    output.allowances.map((_, i) => {
      const below = output.allowances.slice(0, i).reduce((sum, a) => sum + a.totalCm3, 0)
      return bottom - tall(below + output.allowances[i]!.totalCm3 / 2)
    }),
    bottom - 6,
  )
  let y = bottom
  output.allowances.forEach((a, i) => {
    const h = tall(a.totalCm3)
    y -= h
    const over = y < brim - 0.01
    shapes.push({ kind: 'rect', x, y, w, h, fill: over ? 'sheet' : i % 2 ? 'wash' : 'paper', stroke: 'ink2', width: 1 })
    if (over) for (let d = 8; d < w + h; d += 12) shapes.push(hatch(x, y, w, h, d))
    const row = rows[i]!
    shapes.push(
      line(x + w, y + h / 2, x + w + 22, row, { stroke: 'ink3', width: 1 }),
      text(x + w + 28, row + 4, fitText(`${trim(a.count, 2)} × ${a.what}`, 250, 14), 14),
      text(width - 12, row + 4, formatVolume(a.totalCm3, units), 14, { anchor: 'end', fill: 'ink2' }),
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
  shapes.push(
    text(width - 12, 36, `needs ${formatVolume(output.requiredCm3, units)} of ${formatVolume(output.availableCm3, units)}`, 16, {
      anchor: 'end',
    }),
  )
  shapes.push(text(x + w / 2, bottom + 28, fitText(report.kind!.name, 300, 15), 15, { anchor: 'middle', bold: true }))
  return { width, height, title: `Box fill, ${trim(output.fillFraction * 100, 0)} percent`, shapes }
}

/** One hatching stroke, cut to its rectangle. */
function hatch(x: number, y: number, w: number, h: number, d: number): Shape {
  const x1 = x + Math.min(d, w)
  const y1 = y + Math.max(0, d - w)
  const x2 = x + Math.max(0, d - h)
  const y2 = y + Math.min(d, h)
  return line(x1, y1, x2, y2, { stroke: 'error', width: 1.5 })
}

/** A section through the wall: the box's depth to scale, and what stands behind the plate. */
function depthDrawing(report: BoxReport, units: UnitSystem): Drawing {
  const { neededMm, availableMm, parts } = report.depth!
  const scale = 420 / Math.max(neededMm, availableMm, 30)
  const [x0, y0, h] = [90, 110, 150]
  const fits = atMost(neededMm, availableMm)
  const shapes: Shape[] = [
    { kind: 'rect', x: x0 - 16, y: y0 - 26, w: 16, h: h + 52, fill: 'sheet', stroke: 'ink', width: 2 },
    text(x0 - 8, y0 - 36, 'plate', 14, { anchor: 'middle', fill: 'ink2' }),
    {
      kind: 'path',
      d: `M${x0} ${y0}L${x0 + availableMm * scale} ${y0}L${x0 + availableMm * scale} ${y0 + h}L${x0} ${y0 + h}`,
      stroke: 'ink',
      width: 5,
      fill: 'none',
    },
  ]
  const written: Shape[] = []
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
    // The first is told lowest, so that no line down to another's words goes through its own.
    const row = y0 + h + 34 + (parts.length - 1 - i) * 22
    shapes.push(line(x + w / 2, y0 + h - 22, x + w / 2, row, { stroke: 'ink3', width: 1 }))
    written.push(
      ...grounded(
        text(x + w / 2, y0 + h / 2 + 5, formatSmallLength(p.mm, units), 15, { anchor: 'middle', bold: true }),
        over ? 'sheet' : 'paper',
      ),
      ...grounded(text(Math.min(x + w / 2 + 6, 300), row + 5, fitText(p.what, 320, 14), 14)),
    )
    x += w
  }
  shapes.push(...written)
  shapes.push(line(x0, y0 - 22, x0 + availableMm * scale, y0 - 22, { width: 1.5 }))
  shapes.push(line(x0, y0 - 28, x0, y0 - 16, {}), line(x0 + availableMm * scale, y0 - 28, x0 + availableMm * scale, y0 - 16, {}))
  shapes.push(text(x0 + (availableMm * scale) / 2, y0 - 30, `box ${formatSmallLength(availableMm, units)}`, 14, { anchor: 'middle' }))
  shapes.push(...verdictGlyph(fits ? 'met' : 'error', 30, 30))
  shapes.push(text(48, 36, fits ? 'deep enough' : 'too shallow', 22, { bold: true }))
  shapes.push(
    text(width - 12, 36, `needs ${formatSmallLength(neededMm, units)} of ${formatSmallLength(availableMm, units)}`, 16, { anchor: 'end' }),
  )
  shapes.push(text(x0, height - 24, fitText(report.kind!.name, 400, 15), 15, { bold: true }))
  return { width, height, title: `Box depth: needs ${neededMm} mm of ${availableMm} mm`, shapes }
}
