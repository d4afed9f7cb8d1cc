import { marks } from './scale'
import { isMeasured, type LayoutReport, type MeasuredPoint } from '../design/layout'
import type { Circuit } from '../installation/installation'
import { formatA, formatLength, formatPercent, formatSize, trim, type UnitSystem } from '../base/format'
import { verdictGlyph } from './glyph'
import { type Drawing, fitText, grounded, line, type Shape, text, wideAs } from './shape'

const TOP = 40
const BASE = 300
/** On a desk, and on a phone. A thumb needs so much, in the drawing's own measure where it is smallest. */
const formats = {
  wide: { WIDTH: 860, LEFT: 60, RIGHT: 830, THUMB: 56 },
  narrow: { WIDTH: 344, LEFT: 58, RIGHT: 330, THUMB: 44 },
} as const

type Place = readonly [x: number, y: number]
/** What is written takes this much room about its middle. */
interface Room {
  readonly x: number
  readonly y: number
  readonly wide: number
}
const SIZE = 15

/** What is drawn: the points that every length to is known of. */
interface Laid extends Pick<LayoutReport, 'legsA' | 'worstDrop'> {
  readonly points: readonly MeasuredPoint[]
}

/** Where everything is: metres along, percent down. */
interface Frame {
  readonly circuit: Circuit
  readonly layout: Laid
  readonly limitPercent: number
  readonly left: number
  readonly right: number
  readonly longestM: number
  readonly mostPercent: number
  readonly x: (m: number) => number
  readonly y: (percent: number) => number
  /** Where a point is; null is the board at the start. */
  readonly at: (id: string | null) => Place
  /** Of a point, the one its cable comes from. */
  readonly before: (p: MeasuredPoint) => string | null
  readonly circles: readonly Place[]
}

function frameOf(circuit: Circuit, layout: Laid, limitPercent: number, left: number, right: number): Frame {
  const ring = circuit.kind === 'ring'
  const along = placesAlong(circuit, layout)
  const longestM = Math.max(1, ...along.values(), ring ? (circuit.closeM ?? 0) + Math.max(0, ...along.values()) : 0)
  const mostPercent = Math.max(limitPercent * 1.25, ...layout.points.map((p) => p.dropPercent * 1.15))
  const x = (m: number) => left + ((right - left) * m) / longestM
  const y = (percent: number) => TOP + ((BASE - TOP) * percent) / mostPercent
  const report = new Map(layout.points.map((p) => [p.point.id, p]))
  const at = (id: string | null): Place =>
    id === null ? [x(0), y(0)] : [x(along.get(id) ?? 0), y(Math.max(0, report.get(id)?.dropPercent ?? 0))]
  const inRing = ringOf(circuit)
  return {
    circuit,
    layout,
    limitPercent,
    left,
    right,
    longestM,
    mostPercent,
    x,
    y,
    at,
    before: ({ point }) => (ring && point.from === null ? (inRing[inRing.indexOf(point) - 1]?.id ?? null) : point.from),
    circles: layout.points.map((p) => at(p.point.id)),
  }
}
/** Points that are in the ring itself, in order. */
const ringOf = ({ points }: Circuit) => points.filter((p) => p.from === null)

/** Lines of the scale, and the limit. */
function scaleShapes({ left, right, y, mostPercent, limitPercent }: Frame): Shape[] {
  const step = mostPercent > 4 ? 1 : mostPercent > 1.6 ? 0.5 : 0.2
  return [
    ...marks(mostPercent, step).flatMap((p) => [
      line(left, y(p), right, y(p), { stroke: 'rule', width: 1 }),
      text(left - 12, y(p) + 5, `${trim(p, 1)} %`, SIZE, { anchor: 'end', fill: 'ink2' }),
    ]),
    line(left, y(limitPercent), right, y(limitPercent), { width: 2, dash: '8 5' }),
  ]
}

/** The words of the limit: at the left, or at the right where a point is there. */
function limitName({ left, right, y, limitPercent, circles }: Frame): Room & { readonly words: string } {
  const words = `limit ${limitPercent} %`
  const wide = wideAs(words, SIZE)
  const at = y(limitPercent) + (y(limitPercent) - y(0) < 40 ? 17 : -7)
  const crowded = circles.some(([px, py]) => px < left + 8 + wide + 10 && Math.abs(py - at + 5) < 22)
  return { words, x: crowded ? right - wide / 2 : left + 8 + wide / 2, y: at, wide }
}

/** Where a verdict is: beside a point that is over a limit, and clear of the board's own name. */
function glyphAt({ x, y, longestM }: Frame, [cx, cy]: Place): Place {
  const atBoard = cy - y(0) < 16 && (cx - x(0) < 60 || x(longestM) - cx < 80)
  return [cx + 18, atBoard ? cy + 4 : cy - 12]
}

/** What is where it is, so that names make room for it. */
function fixedIn(frame: Frame, limit: Room): Room[] {
  const { circuit, layout, x, y, at, longestM, limitPercent } = frame
  return [
    limit,
    ...(circuit.kind === 'ring' ? [{ x: x(longestM) - 20, y: y(0) - 12, wide: 46 }] : []),
    ...layout.points.flatMap((p) => {
      if (!over(p, limitPercent)) return []
      const [gx, gy] = glyphAt(frame, at(p.point.id))
      return [{ x: gx, y: gy + 6, wide: 20 }]
    }),
  ]
}

/** The name of a point, whether there is room for it or not. */
interface Name extends Room {
  readonly of: MeasuredPoint
  readonly above: boolean
  readonly shown: boolean
}
/**
 * Names are under their points, above one where that is taken or where all falls from it, or else on the next line that is free; of
 * a crowd some have none, the worst always has.
 */
function namesOf({ layout, left, right, y, at, before, circles }: Frame, fixed: readonly Room[]): Name[] {
  const names: Name[] = []
  // The worst is placed first, since it always has its name.
  for (const p of layout.points.toSorted((a, b) => Number(b === layout.worstDrop) - Number(a === layout.worstDrop))) {
    const [cx, cy] = at(p.point.id)
    const ends = [before(p), ...layout.points.filter((o) => before(o) === p.point.id).map((o) => o.point.id)].map((id) => at(id)[1])
    const peak = ends.length > 1 && ends.every((end) => end > cy + 12)
    const wide = Math.min(150, p.point.name.length * 8)
    const x = cx > right - 60 ? Math.min(cx, right - 20) - wide / 2 : cx < left + 50 ? cx + wide / 2 : cx
    const free = (row: number) =>
      !names.some((n) => n.shown && Math.abs(n.x - x) < (n.wide + wide) / 2 + 6 && Math.abs(n.y - row) < 15) &&
      !fixed.some((n) => Math.abs(n.x - x) < (n.wide + wide) / 2 + 4 && Math.abs(n.y - row) < 17) &&
      !circles.some(([px, py]) => Math.abs(px - x) < wide / 2 + 9 && Math.abs(py - row + 5) < 14)
    const [under, higher] = [cy + 25, cy - 15]
    const row = [...(peak ? [higher] : []), under, ...(higher < y(0) + 15 ? [] : [higher]), under + 17, under + 34, under + 51].find(free)
    names.push({ of: p, x, y: row ?? under, wide, above: (row ?? under) < cy, shown: row !== undefined || p === layout.worstDrop })
  }
  return names
}

/** Cables from point to point, thicker where they carry more, and what each carries where there is room to say so. */
function cableShapes(frame: Frame, names: readonly Name[], fixed: readonly Room[]): { cables: Shape[]; said: Shape[] } {
  const { circuit, layout, x, y, at, before, circles, longestM } = frame
  const ring = circuit.kind === 'ring'
  const back = Math.abs(layout.legsA?.back ?? 0)
  const heaviest = Math.max(1, ...layout.points.map((p) => p.throughA), back)
  const cable = ([x1, y1]: Place, [x2, y2]: Place, amps: number): Shape => ({
    kind: 'path',
    d: `M${x1} ${y1}L${x2} ${y2}`,
    stroke: 'ink',
    width: 1.5 + (6 * amps) / heaviest,
    fill: 'none',
    cap: 'round',
  })
  const carried = (p: MeasuredPoint) => `${formatA(p.throughA)}${p.point.size ? `, ${formatSize(p.size)}` : ''}`
  const written: Place[] = [[x(0) + 22, y(0) - 12]]
  /** Where a few letters about a place are clear of every point, its name and what is written already; none where they nowhere are. */
  const clear = (cx: number, cy: number, wide: number) =>
    [-8, -22, 24]
      .map((dy) => cy + dy)
      .find(
        (ty) =>
          circles.every(([px, py]) => Math.abs(px - cx) > wide / 2 + 10 || Math.abs(py - ty + 5) > 17) &&
          !names.some((n) => n.shown && Math.abs(n.x - cx) < (n.wide + wide) / 2 && Math.abs(n.y - ty) < 14) &&
          !fixed.some((n) => Math.abs(n.x - cx) < (n.wide + wide) / 2 && Math.abs(n.y - ty) < 17) &&
          !written.some(([wx, wy]) => Math.abs(wx - cx) < 70 && Math.abs(wy - ty) < 14),
      )
  const cables: Shape[] = []
  const said: Shape[] = []
  for (const p of layout.points) {
    const [from, to] = [at(before(p)), at(p.point.id)]
    cables.push(cable(from, to, p.throughA))
    const middle = (from[0] + to[0]) / 2
    const where = clear(middle, (from[1] + to[1]) / 2, wideAs(carried(p), SIZE))
    const aside = ring && p.point.from !== null
    if (to[0] - from[0] <= 46 || aside || where === undefined) continue
    written.push([middle, where])
    said.push(...grounded(text(middle, where, carried(p), SIZE, { anchor: 'middle', fill: 'ink2' })))
  }
  const last = ring ? ringOf(circuit).at(-1) : undefined
  if (last) cables.push(cable(at(last.id), [x(longestM), y(0)], back))
  return { cables, said }
}

/** The board, at both ends of a ring. */
function boardShapes({ circuit, x, y, longestM }: Frame): Shape[] {
  const box = (m: number): Shape => ({ kind: 'rect', x: x(m) - 7, y: y(0) - 7, w: 14, h: 14, fill: 'wash', stroke: 'ink', width: 2 })
  const far = circuit.kind === 'ring' && ringOf(circuit).length > 0
  return [
    ...(far ? [box(longestM), ...grounded(text(x(longestM), y(0) - 12, 'board', SIZE, { anchor: 'end' }))] : []),
    box(0),
    ...grounded(text(x(0) + 2, y(0) - 12, 'board', SIZE)),
  ]
}

/** A point: what answers to a touch, its circle, its name where there is room, its verdict. */
function pointShapes(frame: Frame, name: Name, thumb: number): Shape[] {
  const { layout, left, right, at, limitPercent } = frame
  const p = name.of
  const part = partOf(p)
  const [cx, cy] = at(p.point.id)
  const worst = p === layout.worstDrop
  // Smaller in a crowd.
  const r = Math.max(4, Math.min(9, (right - left) / layout.points.length / 2))
  // One without a name on the drawing answers to a touch on its circle.
  const { x: middle, wide, above, y: under } = name.shown ? name : { x: cx, wide: 0, above: false, y: cy }
  const [from, to] = [Math.min(middle - wide / 2, cx - 9), Math.max(middle + wide / 2, cx + 9)]
  // The whole of point and name answers to a touch, and as much about them as a thumb needs.
  const [top, high] = above ? [under - 15, 36] : [cy - 9, under - cy + 15]
  const more = Math.max(0, thumb - high) / 2
  return [
    { kind: 'rect', x: from, y: top - more, w: to - from, h: high + 2 * more, fill: 'none', part },
    {
      kind: 'rect',
      x: cx - r,
      y: cy - r,
      w: 2 * r,
      h: 2 * r,
      r,
      fill: p.point.fuseA ? 'wash' : 'sheet',
      stroke: 'ink',
      width: worst ? 4 : 2,
      part,
    },
    ...(name.shown ? grounded(text(middle, under, fitText(p.point.name, 150, SIZE), SIZE, { anchor: 'middle', bold: worst, part })) : []),
    ...(over(p, limitPercent) ? verdictGlyph('error', ...glyphAt(frame, [cx, cy]), part) : []),
  ]
}
const partOf = (p: MeasuredPoint): string => `stop:${p.point.id}`

/**
 * Every measured point of a circuit where it is along the cable, hanging as low as the voltage it has lost; the limit is a line.
 * Cables run from point to point, thicker where they carry more.
 */
export function profileDrawing(
  circuit: Circuit,
  { points, legsA, worstDrop }: LayoutReport,
  limitPercent: number,
  units: UnitSystem,
  format: keyof typeof formats = 'wide',
): Drawing {
  const layout: Laid = { points: points.filter(isMeasured), legsA, worstDrop }
  const { WIDTH, LEFT, RIGHT, THUMB } = formats[format]
  const frame = frameOf(circuit, layout, limitPercent, LEFT, RIGHT)
  const limit = limitName(frame)
  const fixed = fixedIn(frame, limit)
  const names = namesOf(frame, fixed)
  const { cables, said } = cableShapes(frame, names, fixed)
  return {
    width: WIDTH,
    height: BASE + 66,
    title: `Voltage lost at ${layout.points.length} points along the circuit`,
    shapes: [
      ...scaleShapes(frame),
      ...cables,
      ...boardShapes(frame),
      ...said,
      ...grounded(text(limit.x, limit.y, limit.words, SIZE, { anchor: 'middle', bold: true })),
      ...layout.points.flatMap((p) =>
        pointShapes(
          frame,
          names.find((n) => n.of === p)!,
          THUMB,
        ),
      ),
      text(LEFT, BASE + 58, `0`, SIZE, { fill: 'ink2' }),
      text(RIGHT, BASE + 58, `${formatLength(frame.longestM, units)} along the cable`, SIZE, { anchor: 'end', fill: 'ink2' }),
    ],
    parts: Object.fromEntries(layout.points.map((p) => [partOf(p), `${p.point.name}, loses ${formatPercent(p.dropPercent)}`])),
    ring: 'box',
  }
}

const over = (p: MeasuredPoint, limit: number): boolean => p.dropPercent > limit + 1e-9 || p.throughA > p.ampacityA + 1e-9

/** How far along the cable each point is; in a ring, the way round from its first leg. */
function placesAlong(circuit: Circuit, layout: Laid): Map<string, number> {
  if (circuit.kind !== 'ring') return new Map(layout.points.map((p) => [p.point.id, p.distanceM]))
  const places = new Map<string, number>()
  let at = 0
  for (const p of circuit.points.filter((p) => p.from === null)) places.set(p.id, (at += p.lengthM ?? 0))
  for (const p of layout.points) if (p.point.from !== null) places.set(p.point.id, (places.get(p.point.from) ?? 0) + p.spanM)
  return places
}
