import type { Drawing, Paint, Shape, TextShape } from './shape'

/** Ink on white: what a label maker or a printer is given. */
const paints: Record<string, string> = {
  ink: '#000',
  ink2: '#333',
  ink3: '#666',
  rule: '#bbb',
  sheet: '#fff',
  paper: '#fff',
  wash: '#ddd',
  error: '#a3005c',
  warning: '#785000',
}

// What XML has no place for, though it can be typed or brought in: control signs, halves of a pair.
// oxlint-disable-next-line no-control-regex
const unwritable = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|\p{Surrogate}/gu
const escape = (s: string): string => s.replace(unwritable, '\ufffd').replace(/[&<>"']/g, (c) => `&#${c.charCodeAt(0)};`)
const paint = (p: Paint | undefined): string => (p === undefined ? 'none' : (paints[p] ?? p))

/** A place to a hundredth of the drawing's unit. */
const at = (n: number): number => Math.round(n * 100) / 100

/** The runs a text is set in, each in its family. */
export type Setting = (s: TextShape) => readonly { readonly text: string; readonly family: string }[]
const asTheReaderHas: Setting = (s) => [{ text: s.text, family: s.mono ? 'monospace' : 'sans-serif' }]

function words(s: TextShape, setting: Setting): string {
  const runs = setting(s)
  const [first, ...rest] = runs
  const family = rest.length ? '' : ` font-family="${first?.family ?? ''}"`
  const said = rest.length
    ? runs.map((r) => `<tspan font-family="${r.family}">${escape(r.text)}</tspan>`).join('')
    : escape(first?.text ?? '')
  return (
    `<text x="${at(s.x)}" y="${at(s.y)}" font-size="${s.size}" fill="${paint(s.fill)}"` +
    `${s.anchor && s.anchor !== 'start' ? ` text-anchor="${s.anchor}"` : ''}${s.bold ? ' font-weight="700"' : ''}${family}>${said}</text>`
  )
}

function element(s: Exclude<Shape, TextShape>): string {
  // What is left out is taken for granted by every reader, and what is not written is not read.
  const drawn = s.stroke !== undefined && s.stroke !== 'none'
  const line = drawn ? ` stroke="${paint(s.stroke)}" stroke-width="${s.width ?? 1}"${s.dash ? ` stroke-dasharray="${s.dash}"` : ''}` : ''
  const look = `fill="${paint(s.fill)}"${line}`
  if (s.kind === 'rect')
    return `<rect x="${at(s.x)}" y="${at(s.y)}" width="${at(s.w)}" height="${at(s.h)}"${s.r ? ` rx="${s.r}"` : ''} ${look}/>`
  if (s.kind === 'circle') return `<circle cx="${at(s.x)}" cy="${at(s.y)}" r="${s.r}" ${look}/>`
  return `<path d="${s.d}"${s.cap === 'round' ? ' stroke-linecap="round"' : ''} ${look}/>`
}

const group = (d: Drawing, dx: number, dy: number, setting = asTheReaderHas): string =>
  `<g transform="translate(${dx} ${dy})"><title>${escape(d.title)}</title>` +
  `${d.shapes.map((s) => (s.kind === 'text' ? words(s, setting) : element(s))).join('')}</g>`

const open = (width: number, height: number, unit: string): string =>
  `<?xml version="1.0" encoding="UTF-8"?>\n<svg xmlns="http://www.w3.org/2000/svg" width="${width}${unit}" ` +
  `height="${height}${unit}" viewBox="0 0 ${width} ${height}">`

/** One drawing as a standalone SVG. User text is escaped. */
export const svgFile = (d: Drawing, setting?: Setting): string => `${open(d.width, d.height, '')}${group(d, 0, 0, setting)}</svg>\n`

/** Drawings whose unit is the millimetre, one below the other on one sheet, as a standalone SVG. User text is escaped. */
export function svgSheetMm(drawings: readonly Drawing[], gap = 4): string {
  const width = Math.max(1, ...drawings.map((d) => d.width))
  let y = 0
  const body = drawings.map((d) => {
    const placed = group(d, 0, y)
    y += d.height + gap
    return placed
  })
  const height = Math.max(1, y - gap)
  return `${open(width, height, 'mm')}${body.join('')}</svg>\n`
}
