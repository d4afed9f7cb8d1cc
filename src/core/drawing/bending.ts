import type { Bending, MadeBend, Piece } from '../calculate/bending'
import { formatSmallLength, type UnitSystem } from '../base/format'
import { type Drawing, grounded, line, type Shape, text, wideAs } from './shape'

const formats = { wide: 760, narrow: 348 } as const
const EDGE = 24
const STEPS = 10

interface Point {
  readonly x: number
  readonly y: number
}

/** The pipe as it lies when it is bent, in millimetres, its longest straight level; and where each bend and each coupling is on it. */
function laidOut({ cutMm, bends, pieces }: Bending): { way: Point[]; bent: Point[]; joints: Point[] } {
  const way: Point[] = [{ x: 0, y: 0 }]
  let [heading, done] = [0, 0]
  const couplings = pieces.slice(0, -1).reduce<number[]>((sum, p) => [...sum, (sum.at(-1) ?? 0) + p.lengthMm], [])
  const joints: Point[] = []
  const ahead = (mm: number): Point => {
    const last = way.at(-1)!
    return { x: last.x + mm * Math.cos(heading), y: last.y + mm * Math.sin(heading) }
  }
  let longest = { mm: -1, heading: 0 }
  const straight = (toMm: number) => {
    if (toMm - done > longest.mm) longest = { mm: toMm - done, heading }
    for (const at of couplings) if (at > done && at <= toMm) joints.push(ahead(at - done))
    way.push(ahead(toMm - done))
    done = toMm
  }
  const bent = bends.map((b): Point => {
    straight(b.fromMm)
    const angle = ((b.turn === 'left' ? 1 : -1) * b.degrees * Math.PI) / 180
    const chord = (b.toMm - b.fromMm) / STEPS
    let middle = way.at(-1)!
    for (let i = 0; i < STEPS; i++) {
      heading += angle / STEPS / 2
      way.push(ahead(chord))
      heading += angle / STEPS / 2
      if (i === STEPS / 2) middle = way.at(-1)!
    }
    done = b.toMm
    return middle
  })
  straight(cutMm)
  const [cos, sin] = [Math.cos(longest.heading), Math.sin(longest.heading)]
  const level = ({ x, y }: Point): Point => ({ x: x * cos + y * sin, y: y * cos - x * sin })
  return { way: way.map(level), bent: bent.map(level), joints: joints.map(level) }
}

/** Numbers over their places, each in the first row where it has room. */
function numbered(at: readonly { readonly x: number; readonly no: number }[], y: number, rowHigh: number): Shape[] {
  const rows: number[] = []
  return at.flatMap(({ x, no }) => {
    const half = wideAs(String(no), 14) / 2 + 2
    const free = rows.findIndex((end) => x - half > end)
    const row = free < 0 ? rows.length : free
    rows[row] = x + half
    const up = y - 14 - row * rowHigh
    return [
      line(x, y - 8, x, up + 3, { stroke: 'ink3', width: 1 }),
      ...grounded(text(x, up, String(no), 14, { anchor: 'middle', bold: true })),
    ]
  })
}

/** One piece as it lies straight to be marked: each bend from where it begins to where it ends, by its number. */
function marking(piece: Piece, name: string, y: number, scale: number, units: UnitSystem): Shape[] {
  const x = (mm: number) => EDGE + mm * scale
  const long = formatSmallLength(piece.lengthMm, units)
  return [
    { kind: 'rect', x: EDGE, y: y - 8, w: piece.lengthMm * scale, h: 16, fill: 'sheet', stroke: 'ink', width: 1.5 },
    ...piece.bends.map((b: MadeBend): Shape => ({
      kind: 'rect',
      x: x(b.fromMm),
      y: y - 8,
      w: Math.max(2, (b.toMm - b.fromMm) * scale),
      h: 16,
      fill: 'wash',
      stroke: 'ink',
      width: 1.5,
    })),
    ...numbered(
      piece.bends.map((b) => ({ x: x(b.fromMm), no: b.no })),
      y,
      17,
    ),
    text(EDGE, y + 26, `${name}: ${long}`, 14),
  ]
}

/** A run of pipe bent to scale, and under it every piece straight, as it is marked before it is bent. */
export function bendingDrawing(bending: Bending, units: UnitSystem, format: keyof typeof formats = 'wide'): Drawing {
  const width = formats[format]
  const { way, bent, joints } = laidOut(bending)
  const [left, right] = [Math.min(...way.map((p) => p.x)), Math.max(...way.map((p) => p.x))]
  const [low, high] = [Math.min(...way.map((p) => p.y)), Math.max(...way.map((p) => p.y))]
  const room = width - 2 * EDGE
  const scale = Math.min(room / Math.max(1, right - left), 240 / Math.max(1, high - low))
  const top = 44
  const at = (p: Point): Point => ({ x: EDGE + (p.x - left) * scale, y: top + (high - p.y) * scale })
  const points = way.map(at)
  const shapes: Shape[] = [
    {
      kind: 'path',
      d: `M${points.map((p) => `${p.x} ${p.y}`).join('L')}`,
      stroke: 'ink',
      width: 5,
      fill: 'none',
      cap: 'round',
    },
    ...joints.map(at).map((p): Shape => ({ kind: 'rect', x: p.x - 5, y: p.y - 7, w: 10, h: 14, fill: 'sheet', stroke: 'ink', width: 2 })),
  ]
  const said: Point[] = []
  for (const [n, b] of bent.map(at).entries()) {
    const place = { x: b.x + 12, y: b.y - 14 }
    // One that has no room is named by the piece it is on.
    if (said.some((s) => Math.abs(s.x - place.x) < 22 && Math.abs(s.y - place.y) < 18)) continue
    said.push(place)
    shapes.push(...grounded(text(place.x, place.y, String(n + 1), 14, { anchor: 'middle', bold: true })))
  }
  let y = top + (high - low) * scale + 74
  const longest = Math.max(...bending.pieces.map((p) => p.lengthMm))
  for (const [n, piece] of bending.pieces.entries()) {
    shapes.push(...marking(piece, bending.pieces.length > 1 ? `Piece ${n + 1}` : 'The pipe', y, room / longest, units))
    y += 84
  }
  return { width, height: y - 40, title: `${bending.bends.length} bends in ${bending.pieces.length} pieces, to scale`, shapes }
}
