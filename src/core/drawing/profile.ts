import type { LayoutReport, PointReport } from '../design/layout'
import type { Circuit } from '../job/schema'
import { formatA, formatLength, formatPercent, formatSize, trim, type UnitSystem } from '../quantity/format'
import { verdictGlyph } from './glyph'
import { type Drawing, fitText, line, type Shape, text } from './shape'

const WIDTH = 860
const LEFT = 60
const RIGHT = 830
const TOP = 40
const BASE = 300

/**
 * Every point of a circuit where it stands along the cable, hanging as low as the voltage it has lost; the limit is a line.
 * Cables run from point to point, thicker where they carry more.
 */
export function profileDrawing(circuit: Circuit, layout: LayoutReport, limitPercent: number, units: UnitSystem): Drawing {
  const ring = circuit.kind === 'ring'
  const along = placesAlong(circuit, layout)
  const longest = Math.max(1, ...along.values(), ring ? (circuit.closeM ?? 0) + Math.max(0, ...along.values()) : 0)
  const most = Math.max(limitPercent * 1.25, ...layout.points.map((p) => p.dropPercent * 1.15))
  const x = (m: number) => LEFT + ((RIGHT - LEFT) * m) / longest
  const y = (percent: number) => TOP + ((BASE - TOP) * percent) / most
  const heaviest = Math.max(1, ...layout.points.map((p) => p.throughA))
  const thick = (amps: number) => 1.5 + (6 * amps) / heaviest
  const shapes: Shape[] = []
  const step = most > 4 ? 1 : most > 1.6 ? 0.5 : 0.2
  for (let p = 0; p <= most; p += step) shapes.push(line(LEFT, y(p), RIGHT, y(p), { stroke: 'rule', width: 1 }), text(LEFT - 8, y(p) + 4, `${trim(p, 1)} %`, 12, { anchor: 'end', fill: 'ink2' }))
  shapes.push(line(LEFT, y(limitPercent), RIGHT, y(limitPercent), { width: 2, dash: '8 5' }), text(RIGHT, y(limitPercent) - 6, `limit ${limitPercent} %`, 13, { anchor: 'end', bold: true }))
  const report = new Map(layout.points.map((p) => [p.point.id, p]))
  const at = (id: string | null): [number, number] => (id === null ? [x(0), y(0)] : [x(along.get(id) ?? 0), y(Math.max(0, report.get(id)?.dropPercent ?? 0))])
  const inRing = circuit.points.filter((p) => p.from === null)
  for (const p of layout.points) {
    const before = ring && p.point.from === null ? (inRing[inRing.indexOf(p.point) - 1]?.id ?? null) : p.point.from
    const [x1, y1] = at(before)
    const [x2, y2] = at(p.point.id)
    shapes.push({ kind: 'path', d: `M${x1} ${y1}L${x2} ${y2}`, stroke: 'ink', width: thick(p.throughA), fill: 'none', cap: 'round' })
    const where = (y1 + y2) / 2 - 8
    const aside = ring && p.point.from !== null
    if (x2 - x1 > 46 && !aside) shapes.push(text((x1 + x2) / 2, where, `${formatA(p.throughA)}${p.point.size ? `, ${formatSize(p.size)}` : ''}`, 12, { anchor: 'middle', fill: 'ink2' }))
  }
  if (ring && inRing.length) {
    const last = at(inRing.at(-1)!.id)
    shapes.push({ kind: 'path', d: `M${last[0]} ${last[1]}L${x(longest)} ${y(0)}`, stroke: 'ink', width: thick(Math.abs(layout.legsA?.back ?? 0)), fill: 'none', cap: 'round' })
    shapes.push({ kind: 'rect', x: x(longest) - 7, y: y(0) - 7, w: 14, h: 14, fill: 'wash', stroke: 'ink', width: 2 }, text(x(longest), y(0) - 12, 'board', 13, { anchor: 'end' }))
  }
  shapes.push({ kind: 'rect', x: x(0) - 7, y: y(0) - 7, w: 14, h: 14, fill: 'wash', stroke: 'ink', width: 2 }, text(x(0) + 2, y(0) - 12, 'board', 13))
  const parts: Record<string, string> = {}
  layout.points.forEach((p, i) => {
    const [cx, cy] = at(p.point.id)
    const part = `stop:${p.point.id}`
    const worst = p === layout.worstDrop
    parts[part] = `${p.point.name}, loses ${formatPercent(p.dropPercent)}`
    const wide = Math.min(130, p.point.name.length * 7)
    const leftOf = cx > RIGHT - 60 ? Math.min(cx, RIGHT - 20) - wide : cx < LEFT + 50 ? cx : cx - wide / 2
    // The whole of point and name answers to a touch.
    shapes.push({ kind: 'rect', x: Math.min(leftOf, cx - 9), y: cy - 9, w: Math.max(leftOf + wide, cx + 9) - Math.min(leftOf, cx - 9), h: 38 + (i % 3) * 15, fill: 'none', part })
    shapes.push({ kind: 'rect', x: cx - 9, y: cy - 9, w: 18, h: 18, r: 9, fill: p.point.fuseA ? 'wash' : 'sheet', stroke: 'ink', width: worst ? 4 : 2, part })
    // Names stand under their points, by turns on two lines, so that near neighbours do not cover each other.
    const under = cy + 24 + (i % 3) * 15
    shapes.push(text(Math.min(cx, RIGHT - 20), under, fitText(p.point.name, 130, 13), 13, { anchor: cx > RIGHT - 60 ? 'end' : cx < LEFT + 50 ? 'start' : 'middle', bold: worst, part }))
    if (over(p, limitPercent)) shapes.push(...verdictGlyph('error', cx + 18, cy - 12, part))
  })
  shapes.push(text(LEFT, BASE + 58, `0`, 12, { fill: 'ink2' }), text(RIGHT, BASE + 58, `${formatLength(longest, units)} along the cable`, 12, { anchor: 'end', fill: 'ink2' }))
  return { width: WIDTH, height: BASE + 66, title: `Voltage lost at ${layout.points.length} points along the circuit`, shapes, parts, ring: 'box' }
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
