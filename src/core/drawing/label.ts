import type { Label } from '../documents/labels'
import { type Drawing, type Shape, text } from './shape'

/** Largest type, in millimetres of height, that lets every line of a label fit its width and height. */
function typeSize(label: Label, inset: number): number {
  const widest = Math.max(...label.lines.map((l) => l.length))
  // A letter of the mono face is up to 0.68 em wide; lines stand 1.25 em apart.
  return Math.min((label.widthMm - 2 * inset) / (0.68 * widest), (label.heightMm - 2 * inset) / (1.25 * label.lines.length))
}

/** A label at its real size: one unit is one millimetre. */
export function labelDrawing(label: Label): Drawing {
  const inset = 2
  const size = Math.min(6, typeSize(label, inset))
  const block = size * 1.25 * label.lines.length
  const first = (label.heightMm - block) / 2 + size
  const shapes: Shape[] = [
    { kind: 'rect', x: 0.2, y: 0.2, w: label.widthMm - 0.4, h: label.heightMm - 0.4, r: 1, fill: '#ffffff', stroke: '#000000', width: 0.3 },
    ...label.lines.map((l, i) => text(inset, first + i * size * 1.25, l, size, { mono: true, bold: i === 0, fill: '#000000' })),
  ]
  return { width: label.widthMm, height: label.heightMm, title: `${label.where}: ${label.lines.join(', ')}`, shapes }
}
