import { marks } from './scale'
import type { LayoutReport, PointReport } from '../design/layout'
import type { Circuit } from '../installation/installation'
import { formatA, formatLength, formatPercent, formatSize, trim, type UnitSystem } from '../quantity/format'
import { verdictGlyph } from './glyph'
import { type Drawing, fitText, grounded, line, type Shape, text, wideAs } from './shape'

const TOP = 40
const BASE = 300
/** On a desk, and on a phone. A thumb needs so much, in the drawing's own measure where it is smallest. */
const formats = {
  wide: { WIDTH: 860, LEFT: 60, RIGHT: 830, THUMB: 56 },
  narrow: { WIDTH: 344, LEFT: 58, RIGHT: 330, THUMB: 44 },
} as const

/**
 * Every point of a circuit where it stands along the cable, hanging as low as the voltage it has lost; the limit is a line.
 * Cables run from point to point, thicker where they carry more.
 */
export function profileDrawing(
  circuit: Circuit,
  layout: LayoutReport,
  limitPercent: number,
  units: UnitSystem,
  format: keyof typeof formats = 'wide',
): Drawing {
  const { WIDTH, LEFT, RIGHT, THUMB } = formats[format]
  const ring = circuit.kind === 'ring'
  const along = placesAlong(circuit, layout)
  const longest = Math.max(1, ...along.values(), ring ? (circuit.closeM ?? 0) + Math.max(0, ...along.values()) : 0)
  const most = Math.max(limitPercent * 1.25, ...layout.points.map((p) => p.dropPercent * 1.15))
  const x = (m: number) => LEFT + ((RIGHT - LEFT) * m) / longest
  const y = (percent: number) => TOP + ((BASE - TOP) * percent) / most
  const heaviest = Math.max(1, ...layout.points.map((p) => p.throughA), Math.abs(layout.legsA?.back ?? 0))
  const thick = (amps: number) => 1.5 + (6 * amps) / heaviest
  const shapes: Shape[] = []
  const step = most > 4 ? 1 : most > 1.6 ? 0.5 : 0.2
  for (const p of marks(most, step))
    shapes.push(
      line(LEFT, y(p), RIGHT, y(p), { stroke: 'rule', width: 1 }),
      text(LEFT - 12, y(p) + 5, `${trim(p, 1)} %`, 15, { anchor: 'end', fill: 'ink2' }),
    )
  shapes.push(line(LEFT, y(limitPercent), RIGHT, y(limitPercent), { width: 2, dash: '8 5' }))
  const report = new Map(layout.points.map((p) => [p.point.id, p]))
  const at = (id: string | null): [number, number] =>
    id === null ? [x(0), y(0)] : [x(along.get(id) ?? 0), y(Math.max(0, report.get(id)?.dropPercent ?? 0))]
  const inRing = circuit.points.filter((p) => p.from === null)
  const before = ({ point }: PointReport) => (ring && point.from === null ? (inRing[inRing.indexOf(point) - 1]?.id ?? null) : point.from)
  const circles = layout.points.map((p) => at(p.point.id))
  const limit = {
    words: `limit ${limitPercent} %`,
    y: y(limitPercent) + (y(limitPercent) - y(0) < 40 ? 17 : -7),
    wide: wideAs(`limit ${limitPercent} %`, 15),
  }
  // At the left, or at the right where a point stands there.
  const crowded = circles.some(([px, py]) => px < LEFT + 8 + limit.wide + 10 && Math.abs(py - limit.y + 5) < 22)
  const limitX = crowded ? RIGHT - limit.wide / 2 : LEFT + 8 + limit.wide / 2
  /** Beside a point that is over a limit, and clear of the board's own name. */
  const glyphAt = ([cx, cy]: readonly [number, number]): [number, number] => {
    const atBoard = cy - y(0) < 16 && (cx - x(0) < 60 || x(longest) - cx < 80)
    return [cx + 18, atBoard ? cy + 4 : cy - 12]
  }
  /** What stands where it stands, so that names make room for it. */
  const fixed = [
    { x: limitX, y: limit.y, wide: limit.wide },
    ...(ring ? [{ x: x(longest) - 20, y: y(0) - 12, wide: 46 }] : []),
    ...layout.points.flatMap((p) => {
      if (!over(p, limitPercent)) return []
      const [gx, gy] = glyphAt(at(p.point.id))
      return [{ x: gx, y: gy + 6, wide: 20 }]
    }),
  ]
  /**
   * Names stand under their points, above one where that is taken or where all falls from it, or else on the next line that is free; of
   * a crowd some have none, the worst always has.
   */
  const names: { of: PointReport; x: number; y: number; wide: number; above: boolean; shown: boolean }[] = []
  /** Of a point's circle; smaller in a crowd. */
  const radius = Math.max(4, Math.min(9, (RIGHT - LEFT) / layout.points.length / 2))
  // The worst is placed first, since it always has its name.
  for (const p of layout.points.toSorted((a, b) => Number(b === layout.worstDrop) - Number(a === layout.worstDrop))) {
    const [cx, cy] = at(p.point.id)
    const ends = [before(p), ...layout.points.filter((o) => before(o) === p.point.id).map((o) => o.point.id)].map((id) => at(id)[1])
    const peak = ends.length > 1 && ends.every((y) => y > cy + 12)
    const wide = Math.min(150, p.point.name.length * 8)
    const x = cx > RIGHT - 60 ? Math.min(cx, RIGHT - 20) - wide / 2 : cx < LEFT + 50 ? cx + wide / 2 : cx
    const free = (y: number) =>
      !names.some((n) => n.shown && Math.abs(n.x - x) < (n.wide + wide) / 2 + 6 && Math.abs(n.y - y) < 15) &&
      !fixed.some((n) => Math.abs(n.x - x) < (n.wide + wide) / 2 + 4 && Math.abs(n.y - y) < 17) &&
      !circles.some(([px, py]) => Math.abs(px - x) < wide / 2 + 9 && Math.abs(py - y + 5) < 14)
    const [under, higher] = [cy + 25, cy - 15]
    const row = [...(peak ? [higher] : []), under, ...(higher < y(0) + 15 ? [] : [higher]), under + 17, under + 34, under + 51].find(free)
    names.push({ of: p, x, y: row ?? under, wide, above: (row ?? under) < cy, shown: row !== undefined || p === layout.worstDrop })
  }
  const written: [x: number, y: number][] = [[x(0) + 22, y(0) - 12]]
  /** Where a few letters about a place are clear of every point, its name and what is written already; null where they nowhere are. */
  const carried = (p: PointReport) => `${formatA(p.throughA)}${p.point.size ? `, ${formatSize(p.size)}` : ''}`
  const clear = (cx: number, cy: number, words: string) =>
    [-8, -22, 24]
      .map((dy) => cy + dy)
      .find(
        (ty) =>
          circles.every(([px, py]) => Math.abs(px - cx) > wideAs(words, 15) / 2 + 10 || Math.abs(py - ty + 5) > 17) &&
          !names.some((n) => n.shown && Math.abs(n.x - cx) < (n.wide + wideAs(words, 15)) / 2 && Math.abs(n.y - ty) < 14) &&
          !fixed.some((n) => Math.abs(n.x - cx) < (n.wide + wideAs(words, 15)) / 2 && Math.abs(n.y - ty) < 17) &&
          !written.some(([wx, wy]) => Math.abs(wx - cx) < 70 && Math.abs(wy - ty) < 14),
      ) ?? null
  const said: Shape[] = []
  for (const p of layout.points) {
    const [x1, y1] = at(before(p))
    const [x2, y2] = at(p.point.id)
    shapes.push({ kind: 'path', d: `M${x1} ${y1}L${x2} ${y2}`, stroke: 'ink', width: thick(p.throughA), fill: 'none', cap: 'round' })
    const where = clear((x1 + x2) / 2, (y1 + y2) / 2, carried(p))
    const aside = ring && p.point.from !== null
    if (x2 - x1 <= 46 || aside || where === null) continue
    written.push([(x1 + x2) / 2, where])
    said.push(...grounded(text((x1 + x2) / 2, where, carried(p), 15, { anchor: 'middle', fill: 'ink2' })))
  }
  if (ring && inRing.length) {
    const last = at(inRing.at(-1)!.id)
    shapes.push({
      kind: 'path',
      d: `M${last[0]} ${last[1]}L${x(longest)} ${y(0)}`,
      stroke: 'ink',
      width: thick(Math.abs(layout.legsA?.back ?? 0)),
      fill: 'none',
      cap: 'round',
    })
    shapes.push(
      { kind: 'rect', x: x(longest) - 7, y: y(0) - 7, w: 14, h: 14, fill: 'wash', stroke: 'ink', width: 2 },
      ...grounded(text(x(longest), y(0) - 12, 'board', 15, { anchor: 'end' })),
    )
  }
  shapes.push(
    { kind: 'rect', x: x(0) - 7, y: y(0) - 7, w: 14, h: 14, fill: 'wash', stroke: 'ink', width: 2 },
    ...grounded(text(x(0) + 2, y(0) - 12, 'board', 15)),
  )
  shapes.push(...said, ...grounded(text(limitX, limit.y, limit.words, 15, { anchor: 'middle', bold: true })))
  const parts: Record<string, string> = {}
  layout.points.forEach((p) => {
    const [cx, cy] = at(p.point.id)
    const part = `stop:${p.point.id}`
    const worst = p === layout.worstDrop
    parts[part] = `${p.point.name}, loses ${formatPercent(p.dropPercent)}`
    const name = names.find((n) => n.of === p)!
    // One without a name on the drawing answers to a touch on its circle.
    const { x: middle, wide, above, y: under } = name.shown ? name : { x: cx, wide: 0, above: false, y: cy }
    const leftOf = middle - wide / 2
    // The whole of point and name answers to a touch, and as much about them as a thumb needs.
    const [top, high] = above ? [under - 15, 36] : [cy - 9, under - cy + 15]
    const more = Math.max(0, THUMB - high) / 2
    shapes.push({
      kind: 'rect',
      x: Math.min(leftOf, cx - 9),
      y: top - more,
      w: Math.max(leftOf + wide, cx + 9) - Math.min(leftOf, cx - 9),
      h: high + 2 * more,
      fill: 'none',
      part,
    })
    shapes.push({
      kind: 'rect',
      x: cx - radius,
      y: cy - radius,
      w: 2 * radius,
      h: 2 * radius,
      r: radius,
      fill: p.point.fuseA ? 'wash' : 'sheet',
      stroke: 'ink',
      width: worst ? 4 : 2,
      part,
    })
    if (name.shown)
      shapes.push(...grounded(text(middle, under, fitText(p.point.name, 150, 15), 15, { anchor: 'middle', bold: worst, part })))
    if (over(p, limitPercent)) shapes.push(...verdictGlyph('error', ...glyphAt([cx, cy]), part))
  })
  shapes.push(
    text(LEFT, BASE + 58, `0`, 15, { fill: 'ink2' }),
    text(RIGHT, BASE + 58, `${formatLength(longest, units)} along the cable`, 15, { anchor: 'end', fill: 'ink2' }),
  )
  return {
    width: WIDTH,
    height: BASE + 66,
    title: `Voltage lost at ${layout.points.length} points along the circuit`,
    shapes,
    parts,
    ring: 'box',
  }
}

const over = (p: PointReport, limit: number): boolean => p.dropPercent > limit + 1e-9 || p.throughA > p.ampacityA + 1e-9

/** How far along the cable each point stands; in a ring, the way round from its first leg. */
function placesAlong(circuit: Circuit, layout: LayoutReport): Map<string, number> {
  if (circuit.kind !== 'ring') return new Map(layout.points.map((p) => [p.point.id, p.distanceM]))
  const places = new Map<string, number>()
  let at = 0
  for (const p of circuit.points.filter((p) => p.from === null)) places.set(p.id, (at += p.lengthM ?? 0))
  for (const p of layout.points) if (p.point.from !== null) places.set(p.point.id, (places.get(p.point.from) ?? 0) + p.spanM)
  return places
}
