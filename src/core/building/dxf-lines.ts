import DxfParser from 'dxf-parser'
import type { Line } from './from-lines'

/** The lines of a drawing, by the layer they lie on, in the unit that the drawing is in. */
export interface DxfLines {
  readonly layers: readonly { readonly name: string; readonly lines: readonly Line[] }[]
  /** Metres of the unit; null: the drawing does not say. */
  readonly unitM: number | null
  /** What else was in it, by its kind, and how many of each; blocks among them. */
  readonly leftOut: readonly (readonly [kind: string, count: number])[]
}
export type DxfRead = DxfLines | { readonly wrong: string }

/** Larger files are not read, in bytes. */
export const MOST_BYTES = 10_000_000

/** Metres of a unit, by its number in the head of a drawing. */
const unitsM: Readonly<Record<number, number>> = { 1: 0.0254, 2: 0.3048, 4: 0.001, 5: 0.01, 6: 1 }
const kinds: Readonly<Record<string, string>> = {
  INSERT: 'block',
  ARC: 'arc',
  CIRCLE: 'circle',
  ELLIPSE: 'ellipse',
  SPLINE: 'curve',
  TEXT: 'text',
  MTEXT: 'text',
  DIMENSION: 'dimension',
  HATCH: 'hatching',
}

interface Vertex {
  readonly x: number
  readonly y: number
  readonly bulge?: number
}
const isVertex = (v: unknown): v is Vertex =>
  typeof v === 'object' && v !== null && 'x' in v && 'y' in v && Number.isFinite(v.x) && Number.isFinite(v.y)

function parsed(text: string): ReturnType<DxfParser['parseSync']> {
  // The package tells its woes line by line: what is no drawing at all is not given to it.
  if (!/^\s*(?:999\s*\r?\n[^\n]*\n\s*)*0\s*\r?\n\s*SECTION/.test(text.slice(0, 5000))) return null
  try {
    return new DxfParser().parseSync(text)
  } catch {
    return null
  }
}

/** Reads lines and polylines out of a DXF; all else is counted. */
export function dxfLines(text: string): DxfRead {
  if (text.length > MOST_BYTES) return { wrong: 'A drawing of more than 10 MB is not read: leave out what is not walls.' }
  const read = parsed(text)
  if (!read || !Array.isArray(read.entities)) return { wrong: 'This is no DXF as text, or it is cut short.' }
  const layers = new Map<string, Line[]>()
  const leftOut = new Map<string, number>()
  const leave = (kind: string) => leftOut.set(kind, (leftOut.get(kind) ?? 0) + 1)
  for (const e of read.entities) {
    const given: unknown = 'vertices' in e ? e.vertices : null
    if (!['LINE', 'LWPOLYLINE', 'POLYLINE'].includes(e.type) || !Array.isArray(given)) {
      leave(kinds[e.type] ?? 'other')
      continue
    }
    const corners = given.filter(isVertex)
    const shut = e.type !== 'LINE' && 'shape' in e && e.shape === true
    const list = layers.get(e.layer) ?? []
    layers.set(e.layer, list)
    for (const [i, from] of corners.entries()) {
      const to = corners[i + 1] ?? (shut && corners.length > 2 ? corners[0] : undefined)
      if (!to) continue
      if (from.bulge) leave('arc')
      else list.push({ a: [from.x, from.y], b: [to.x, to.y] })
    }
  }
  const unit = read.header?.$INSUNITS
  return {
    layers: [...layers]
      .flatMap(([name, lines]) => (lines.length ? [{ name, lines }] : []))
      .toSorted((p, q) => q.lines.length - p.lines.length),
    unitM: typeof unit === 'number' ? (unitsM[unit] ?? null) : null,
    leftOut: [...leftOut].toSorted((p, q) => q[1] - p[1]),
  }
}
