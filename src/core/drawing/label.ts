import qrcode from 'qrcode-generator'
import { LEAST_CODE_MM } from '../documents/label-tape'
import { ems, LARGEST, LEADING, READ_WELL, SMALLEST } from '../documents/label-type'
import type { Label } from '../documents/labels'
import { type Drawing, type Shape, text } from './shape'

/** A line broken at its spaces, or in a word that is longer than the label. */
function broken(line: string, wide: number): string[] {
  const out: string[] = []
  let rest = line
  while (ems(rest) > wide + 1e-9) {
    const signs = [...rest]
    let n = signs.length
    while (n > 1 && ems(signs.slice(0, n).join('')) > wide + 1e-9) n--
    const space = signs.slice(0, n + 1).lastIndexOf(' ')
    const at = space > 0 ? space : n
    out.push(signs.slice(0, at).join(''))
    rest = signs.slice(at).join('').trimStart()
  }
  return [...out, rest]
}

/** The largest type that shows every line; in the smallest, the longest line gives way. */
function set(
  label: Label,
  inset: number,
  code: number,
): { size: number; lines: readonly { readonly text: string; readonly bold: boolean }[] } {
  const [wide, high] = [label.widthMm - 2 * inset - code, label.heightMm - 2 * inset]
  const at = (size: number) => label.lines.map((l, i) => broken(l, wide / size).map((words) => ({ text: words, bold: i === 0 })))
  const fits = (size: number) => at(size).flat().length * LEADING * size <= high + 1e-9
  // One line each, as long as that can be read well; else broken into more lines, as large as they go.
  const single = Math.min(LARGEST, wide / Math.max(...label.lines.map(ems)), high / (LEADING * label.lines.length))
  const tried = Array.from({ length: 1 + Math.round((LARGEST - SMALLEST) * 10) }, (_, i) => LARGEST - i / 10)
  const size = single >= READ_WELL ? single : Math.max(single, tried.find(fits) ?? 0)
  if (size >= SMALLEST) return { size, lines: at(size).flat() }
  const parts = at(SMALLEST)
  const room = Math.max(parts.length, Math.floor(high / (LEADING * SMALLEST)))
  while (parts.flat().length > room) {
    const longest = parts.reduce((a, b) => (b.length > a.length ? b : a))
    longest.pop()
    const last = longest.at(-1)!
    longest[longest.length - 1] = { ...last, text: `${last.text.replace(/…$/, '').slice(0, -1).trimEnd()}…` }
  }
  return { size: SMALLEST, lines: parts.flat() }
}

/** A QR code (ISO/IEC 18004) of a side, its upper left corner at a place: dark modules, those of a row together. */
function codeShape(words: string, left: number, top: number, side: number): Shape {
  const code = qrcode(0, 'M')
  code.addData(words)
  code.make()
  const n = code.getModuleCount()
  const step = side / n
  const runs: string[] = []
  for (let row = 0; row < n; row++)
    for (let from = 0; from < n; from++) {
      let to = from
      while (to < n && code.isDark(row, to)) to++
      if (to > from) {
        const [x, y] = [left + from * step, top + row * step].map((v) => v.toFixed(3))
        runs.push(`M${x} ${y}h${((to - from) * step).toFixed(3)}v${step.toFixed(3)}h-${((to - from) * step).toFixed(3)}z`)
        from = to
      }
    }
  return { kind: 'path', d: runs.join(''), fill: '#000000' }
}

/** A label at its real size: one unit is one millimetre. Its QR code is at the right, where there is room for one. */
export function labelDrawing(label: Label): Drawing {
  const inset = label.edgeMm ?? 2
  const side = label.link && label.heightMm >= LEAST_CODE_MM ? Math.min(label.heightMm - 2 * inset, 22) : 0
  const { size, lines } = set(label, inset, side && side + 1)
  const block = size * LEADING * lines.length
  const first = (label.heightMm - block) / 2 + size
  const shapes: Shape[] = [
    { kind: 'rect', x: 0.2, y: 0.2, w: label.widthMm - 0.4, h: label.heightMm - 0.4, r: 1, fill: '#ffffff', stroke: '#000000', width: 0.3 },
    ...lines.map((l, i) => text(inset, first + i * size * LEADING, l.text, size, { mono: true, bold: l.bold, fill: '#000000' })),
    ...(side ? [codeShape(label.link!, label.widthMm - inset - side, (label.heightMm - side) / 2, side)] : []),
  ]
  return { width: label.widthMm, height: label.heightMm, title: `${label.where}: ${label.lines.join(', ')}`, shapes }
}
