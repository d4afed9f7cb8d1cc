import { outlineOf } from '../catalogue/boxes'
import { CUT_OUTSIDE_MM, type MountReport } from '../enclosure/mounting'
import { formatSmallLength, type UnitSystem } from '../quantity/format'
import { type Drawing, fitText, grounded, line, type Paint, type Shape, text, wideAs, wrapText } from './shape'

const layerFill: Readonly<Record<string, Paint>> = { gap: 'none', insulation: 'wash', cabinet: 'sheet', masonry: 'wash' }
const layerWords: Readonly<Record<string, string>> = {
  board: 'board',
  plaster: 'plaster',
  tile: 'tile',
  panelling: 'panelling',
  cabinet: 'cabinet',
  gap: 'gap',
  insulation: 'insulation',
  masonry: 'masonry',
}
export const nameOfLayer = (what: string): string => layerWords[what] ?? what

/** The wall cut through where the box goes in: each layer to scale, what the clamp grips, how deep the box goes, and the stud beside it. */
export function mountingDrawing(
  report: MountReport,
  heightMm: number | null,
  units: UnitSystem,
  format: 'wide' | 'narrow' = 'wide',
): Drawing {
  const { mount, box, thickMm, gripMm } = report
  const narrow = format === 'narrow'
  // Beside the cut through the wall the box from the front; on a narrow screen below it.
  const below = narrow ? 130 + 20 * mount.layers.length : 0
  const [width, height] = narrow ? [344, 460 + below] : [560, 430]
  const mm = (x: number) => formatSmallLength(x, units)
  const shapes: Shape[] = []
  const depth = box && box.mounting !== 'surface' ? box.depthMm : 0
  const whole = Math.max(60, thickMm + (mount.cavityMm ?? 40), depth + 15)
  const scale = (narrow ? 220 : 300) / whole
  const [x0, top, tall] = [60, 70, 150]
  let x = x0
  for (const [i, l] of mount.layers.entries()) {
    const w = l.mm * scale
    shapes.push({
      kind: 'rect',
      x,
      y: top,
      w,
      h: tall,
      fill: layerFill[l.what] ?? (i % 2 ? 'paper' : 'sheet'),
      stroke: 'ink2',
      width: 1.5,
      ...(l.what === 'gap' ? { dash: '3 3' } : {}),
    })
    // The first is told lowest, so that no line down to another's words goes through its own.
    const row = top + tall + 24 + (mount.layers.length - 1 - i) * 20
    shapes.push(line(x + w / 2, top + tall, x + w / 2, row - 10, { stroke: 'ink3', width: 1 }))
    shapes.push(text(x + w / 2, row + 3, fitText(`${nameOfLayer(l.what)} ${mm(l.mm)}`, 220, 14), 14))
    x += w
  }
  if (mount.layers.length === 0) {
    shapes.push({ kind: 'rect', x: x0, y: top, w: 60, h: tall, fill: 'none', stroke: 'ink3', width: 1.5, dash: '6 5' })
    shapes.push(text(x0 + 8, top + tall + 22, 'not looked at yet', 14, { fill: 'ink2' }))
  }
  if (mount.cavityMm !== null) {
    const end = x + mount.cavityMm * scale
    shapes.push(line(end, top - 8, end, top + tall + 8, { width: 3 }))
    shapes.push(text((x + end) / 2, top + tall - 10, `${mm(mount.cavityMm)} free`, 14, { anchor: 'middle', fill: 'ink2' }))
  }
  if (box && depth > 0) {
    const w = depth * scale
    shapes.push({
      kind: 'path',
      d: `M${x0} ${top + 32}L${x0 + w} ${top + 32}L${x0 + w} ${top + tall - 32}L${x0} ${top + tall - 32}`,
      stroke: 'ink',
      width: 4,
      fill: 'none',
    })
    const words = `box ${mm(depth)}`
    const middle = x0 + Math.max(w / 2, wideAs(words, 14) / 2 + 4)
    shapes.push(...grounded(text(middle, top + tall / 2 + 5, words, 14, { anchor: 'middle', bold: true })))
    if (box.mounting === 'clamps to a finished wall') {
      const [from, to] = gripMm
      const at = x0 + Math.min(Math.max(thickMm, from), to) * scale
      for (const y of [top + 22, top + tall - 22]) shapes.push(line(at, y - 14, at, y + 14, { width: 4 }))
      shapes.push(line(x0 + from * scale, top - 30, x0 + to * scale, top - 30, { width: 5 }))
      shapes.push(text(x0, top - 46, `its clamp grips ${mm(from)} to ${mm(to)}`, 14))
      shapes.push(line(x0 + thickMm * scale, top - 38, x0 + thickMm * scale, top - 20, { width: 2.5 }))
    }
  }
  shapes.push(text(x0 - 10, top + tall / 2, 'face', 14, { anchor: 'end', fill: 'ink2' }))
  const outline = mount.outlineMm ?? (box && outlineOf(box))
  const foot = 380 + (narrow ? below + 30 : 0)
  if (outline) {
    // Seen from the front: the box, the stud beside it, and the floor below.
    const s = 110 / Math.max(outline[1], 80)
    const cx = narrow ? 180 : 445
    const cy = top + tall / 2 + (narrow ? below + 60 : 0)
    const [w, h] = [outline[0] * s, outline[1] * s]
    if (box?.shape === 'round') shapes.push({ kind: 'circle', x: cx, y: cy, r: w / 2, fill: 'sheet', stroke: 'ink', width: 2.5 })
    else shapes.push({ kind: 'rect', x: cx - w / 2, y: cy - h / 2, w, h, r: 3, fill: 'sheet', stroke: 'ink', width: 2.5 })
    shapes.push(line(cx - 95, cy, cx + 95, cy, { stroke: 'ink3', width: 1, dash: '8 4' }))
    shapes.push(text(cx, cy + h / 2 + 20, `${mm(outline[0])} × ${mm(outline[1])}`, 14, { anchor: 'middle', bold: true }))
    shapes.push(text(cx, cy + h / 2 + 38, report.measured ? 'as measured' : 'usual: measure yours', 13, { anchor: 'middle', fill: 'ink2' }))
    if (mount.studMm !== null) {
      const sx = cx - Math.min(narrow ? 110 : 90, mount.studMm * s)
      shapes.push({ kind: 'rect', x: sx - 12, y: cy - 89, w: 12, h: 178, fill: 'wash', stroke: 'ink2', width: 1 })
      shapes.push(text(sx - 6, cy + 105, `stud ${mm(mount.studMm)}`, 13, { anchor: 'middle' }))
    }
    if (heightMm !== null) {
      shapes.push(
        line(cx + 78, cy, cx + 78, foot, { width: 1.5 }),
        line(cx + 70, cy, cx + 86, cy, {}),
        line(cx + 70, foot, cx + 86, foot, {}),
      )
      shapes.push(text(cx + 72, (cy + foot) / 2 + 60, `${mm(heightMm)} up`, 14, { anchor: 'end' }))
    }
    shapes.push(line(cx - 100, foot, cx + 100, foot, { width: 3 }))
    shapes.push(text(cx - 100, foot + 18, heightMm === null ? 'floor: its height is not entered' : 'floor', 13, { fill: 'ink2' }))
  }
  const name = wrapText(box ? box.name : 'no box chosen yet', 300, 15, 2)
  const [nameX, nameY] = narrow ? [24, foot + 46] : [x0, foot + 18]
  shapes.push(...name.map((w, i) => text(nameX, nameY + i * 18, w, 15, { bold: true })))
  return { width, height, title: 'How the box is held', shapes }
}

const PT = 72 / 25.4
/** Paper is one to one: a unit of this drawing is a point, so that a printer that does not shrink cuts true. */
export function templateDrawing(report: MountReport, name: string, heightMm: number | null, units: UnitSystem): Drawing | null {
  const { cutMm, box } = report
  if (!cutMm || !box) return null
  const [w, h] = [cutMm[0] * PT, cutMm[1] * PT]
  const width = 500
  const [cx, cy] = [width / 2, 70 + h / 2]
  const out = CUT_OUTSIDE_MM * PT
  const round = box.shape === 'round'
  const ring = (grow: number, dash?: string): Shape =>
    round
      ? { kind: 'circle', x: cx, y: cy, r: w / 2 - grow, fill: 'none', stroke: 'ink', width: dash ? 0.75 : 1.25, ...(dash ? { dash } : {}) }
      : {
          kind: 'rect',
          x: cx - w / 2 + grow,
          y: cy - h / 2 + grow,
          w: w - 2 * grow,
          h: h - 2 * grow,
          fill: 'none',
          stroke: 'ink',
          width: dash ? 0.75 : 1.25,
          ...(dash ? { dash } : {}),
        }
  const corner = (sx: 1 | -1, sy: 1 | -1): Shape[] => {
    const [x, y] = [cx + (sx * w) / 2, cy + (sy * h) / 2]
    return [line(x, y, x + sx * 14, y, { width: 1 }), line(x, y, x, y + sy * 14, { width: 1 })]
  }
  const rule = cy + h / 2 + 70
  const ruleLeft = cx - 50 * PT
  const mm = (x: number) => formatSmallLength(x, units)
  const shapes: Shape[] = [
    ring(0),
    ring(out, '4 3'),
    line(20, cy, width - 20, cy, { width: 0.75, dash: '12 4' }),
    line(cx, cy - h / 2 - 34, cx, cy + h / 2 + 34, { width: 0.75, dash: '12 4' }),
    text(24, cy - 6, 'level', 12),
    text(cx + 6, cy - h / 2 - 24, 'up', 12),
    ...(round ? [] : ([1, -1] as const).flatMap((sx) => ([1, -1] as const).flatMap((sy) => corner(sx, sy)))),
    line(ruleLeft, rule, ruleLeft + 100 * PT, rule, { width: 1 }),
    ...Array.from({ length: 11 }, (_, i) =>
      line(ruleLeft + i * 10 * PT, rule - (i % 5 ? 5 : 9), ruleLeft + i * 10 * PT, rule, { width: 0.75 }),
    ),
    text(cx, rule + 18, '100 mm: measure this line first. If it is not 100 mm, print again without fitting to the page.', 11, {
      anchor: 'middle',
    }),
    text(cx, rule + 42, fitText(`${name}: ${box.name}`, width - 20, 14), 14, { anchor: 'middle', bold: true }),
    text(
      cx,
      rule + 60,
      `Cut on the whole line, ${mm(cutMm[0])} × ${mm(cutMm[1])}; the broken line is the box` +
        `${report.measured ? ', as measured' : ': a usual size, hold yours to it first'}.`,
      11,
      { anchor: 'middle' },
    ),
    ...(heightMm === null ? [] : [text(cx, rule + 78, `The level line is ${mm(heightMm)} above the floor.`, 11, { anchor: 'middle' })]),
  ]
  return { width, height: rule + 92, title: `Template for ${name}`, shapes }
}
