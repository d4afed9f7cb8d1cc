import 'server-only'
import { DxfWriter, point2d, point3d, Units } from '@tarikjabiri/dxf'
import type { Drawing, Shape } from '@/core/drawing/shape'

/** What is drawn, each on a layer of its own: the house and what is in it, the way through it, and words. */
const layers = { house: 7, way: 1, words: 8 } as const
/** Between two sheets, in millimetres. */
const APART_MM = 1000

/** Corners of a path of straight lines. */
const cornersOf = (d: string): (readonly [number, number])[] =>
  [...d.matchAll(/[ML]\s*(-?[\d.]+)[ ,]+(-?[\d.]+)/g)].map(([, x, y]) => [Number(x), Number(y)] as const)

/** A way, or a pipe, ends round; a wall does not. */
const layerOf = (s: Shape): keyof typeof layers => (s.kind === 'text' ? 'words' : s.kind === 'path' && s.cap === 'round' ? 'way' : 'house')

/**
 * Drawings to scale as one file for a drawing program, in millimetres, beside each other under their names; one that has no scale is left
 * out.
 */
export function dxfFile(sheets: readonly { readonly name: string; readonly drawing: Drawing }[]): string {
  const file = new DxfWriter()
  file.setUnits(Units.Millimeters)
  for (const [name, colour] of Object.entries(layers)) file.addLayer(name, colour, 'Continuous')
  let left = 0
  for (const { name, drawing } of sheets) {
    const mm = drawing.mmPerUnit
    if (mm === undefined) continue
    const [x0, high] = [left, drawing.height * mm]
    const at = (x: number, y: number) => point3d(x0 + x * mm, high - y * mm)
    const polyline = (corners: readonly (readonly [number, number])[], layerName: string, shut: boolean) =>
      file.addLWPolyline(
        corners.map(([x, y]) => ({ point: point2d(x0 + x * mm, high - y * mm) })),
        { layerName, ...(shut ? { flags: 1 } : {}) },
      )
    for (const s of drawing.shapes) {
      const layerName = layerOf(s)
      if (s.kind === 'text')
        file.addText(
          at(s.x - (s.anchor === 'middle' ? s.text.length * s.size * 0.25 : s.anchor === 'end' ? s.text.length * s.size * 0.5 : 0), s.y),
          s.size * mm * 0.7,
          s.text,
          { layerName },
        )
      else if (!s.stroke || s.stroke === 'none') continue
      else if (s.kind === 'circle') file.addCircle(at(s.x, s.y), s.r * mm, { layerName })
      else if (s.kind === 'rect')
        polyline(
          [
            [s.x, s.y],
            [s.x + s.w, s.y],
            [s.x + s.w, s.y + s.h],
            [s.x, s.y + s.h],
          ],
          layerName,
          true,
        )
      else if (cornersOf(s.d).length > 1) polyline(cornersOf(s.d), layerName, false)
    }
    file.addText(point3d(x0, high + 200), 150, name, { layerName: 'words' })
    left += drawing.width * mm + APART_MM
  }
  return file.stringify()
}
