import { formatLength, type UnitSystem } from '../base/format'
import type { Mark, Spot } from '../verify/photograph'
import { type Drawing, type Paint, type Shape, wideAs } from './shape'

/* What is drawn over a photograph. Ink on a white casing stands out from whatever the picture shows, in any light and on grey paper. */

const INK: Paint = '#141414'
const CASING: Paint = '#ffffff'
/** A photograph is so wide in the measure of its marks. */
const WIDTH = 1000
const [LINE, CASED] = [7, 13]
const SIZE = 38
const HEAD = 30

type Place = readonly [x: number, y: number]

const cased = (d: string): Shape[] => [
  { kind: 'path', d, stroke: CASING, width: CASED, cap: 'round' },
  { kind: 'path', d, stroke: INK, width: LINE, cap: 'round' },
]
const straight = ([x, y]: Place, [u, v]: Place): string => `M${x.toFixed(1)} ${y.toFixed(1)}L${u.toFixed(1)} ${v.toFixed(1)}`

/** The two strokes of an arrow's head, or the bar across the end of a length. */
function strokesAt(to: Place, from: Place, angles: readonly number[]): string {
  const back = Math.atan2(from[1] - to[1], from[0] - to[0])
  return angles.map((a) => straight(to, [to[0] + HEAD * Math.cos(back + a), to[1] + HEAD * Math.sin(back + a)])).join('')
}

/** Words on a white card, kept within the picture: many are set smaller. */
function card(words: string, [x, y]: Place, height: number, written: boolean): Shape[] {
  const size = Math.min(SIZE, (SIZE * (WIDTH - 28)) / Math.max(wideAs(words, SIZE), 1))
  const wide = wideAs(words, size) + 20
  const left = Math.min(Math.max(x - wide / 2, 4), Math.max(WIDTH - wide - 4, 4))
  const top = Math.min(Math.max(y - size * 0.7, 4), Math.max(height - size * 1.4 - 4, 4))
  return [
    { kind: 'rect', x: left, y: top, w: wide, h: size * 1.4, fill: CASING, stroke: INK, width: 2.5 },
    {
      kind: 'text',
      x: left + wide / 2,
      y: top + size * 1.03,
      text: words,
      size,
      anchor: 'middle',
      bold: true,
      fill: INK,
      ...(written ? { written } : {}),
    },
  ]
}

/** Beside the middle of a line, clear of it: under one that is level, to the right of one that is plumb. */
function besideLine(from: Place, to: Place, words: string): Place {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]]
  const long = Math.max(Math.hypot(dx, dy), 1)
  const turn = dx < 0 ? -1 : 1
  const [nx, ny] = [(-dy / long) * turn, (dx / long) * turn]
  const away = Math.abs(nx) * (wideAs(words, SIZE) / 2 + 10) + Math.abs(ny) * SIZE * 0.7 + HEAD
  return [(from[0] + to[0]) / 2 + nx * away, (from[1] + to[1]) / 2 + ny * away]
}

/** A mark, or a length that is being placed and was not entered yet. */
export type DrawnMark = Mark | (Omit<Extract<Mark, { kind: 'length' }>, 'lengthM'> & { readonly lengthM: null })
const lengthWords = (lengthM: number | null, units: UnitSystem): string => (lengthM === null ? '?' : formatLength(lengthM, units))

function shapesOf(mark: DrawnMark, height: number, units: UnitSystem): Shape[] {
  const at = ([right, down]: Spot): Place => [right * WIDTH, down * height]
  const from = at(mark.from)
  if (mark.kind === 'words') return card(mark.words, from, height, true)
  const to = at(mark.to)
  const middle: Place = [(from[0] + to[0]) / 2, (from[1] + to[1]) / 2]
  if (mark.kind === 'arrow')
    return [...cased(straight(from, to) + strokesAt(to, from, [0.5, -0.5])), ...(mark.words ? card(mark.words, from, height, true) : [])]
  if (mark.kind === 'length') {
    const bars = [Math.PI / 2, -Math.PI / 2]
    const words = [lengthWords(mark.lengthM, units), mark.words].filter(Boolean).join(', ')
    return [
      ...cased(straight(from, to) + strokesAt(to, from, bars) + strokesAt(from, to, bars)),
      ...card(words, besideLine(from, to, words), height, true),
    ]
  }
  const [rx, ry] = [Math.max(Math.abs(to[0] - from[0]) / 2, HEAD / 2), Math.max(Math.abs(to[1] - from[1]) / 2, HEAD / 2)]
  const [x, y] = middle
  const half = (to: number) => `A${rx.toFixed(1)} ${ry.toFixed(1)} 0 0 1 ${to.toFixed(1)} ${y.toFixed(1)}`
  const ring = `M${(x - rx).toFixed(1)} ${y.toFixed(1)}${half(x + rx)}${half(x - rx)}`
  return [...cased(ring), ...(mark.words ? card(mark.words, [x, y + ry + SIZE], height, true) : [])]
}

/** A mark in words, for those who do not see it. */
export function markWords(mark: DrawnMark, units: UnitSystem): string {
  if (mark.kind === 'words') return mark.words
  const what = mark.kind === 'length' ? lengthWords(mark.lengthM, units) : mark.kind === 'arrow' ? 'Arrow' : 'Ring'
  return mark.words ? `${what}: ${mark.words}` : what
}

/** The marks of a photograph, in a measure in which it is 1000 wide. @param aspect its height for its width */
export function photographMarks(marks: readonly DrawnMark[], aspect: number, units: UnitSystem): Drawing {
  const height = WIDTH * aspect
  return {
    width: WIDTH,
    height,
    title: marks.map((m) => markWords(m, units)).join('; '),
    shapes: marks.flatMap((m) => shapesOf(m, height, units)),
  }
}
