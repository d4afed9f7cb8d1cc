import { createRequire } from 'node:module'
import path from 'node:path'
import { openSync, type Font } from 'fontkit'
import type { Drawing, PathShape, Shape, TextShape } from '../../src/core/drawing/shape'

/*
 * What of a drawing lies on what: its texts as wide as the face they are set in makes them.
 */
const folder = path.dirname(createRequire(import.meta.url).resolve('@expo-google-fonts/atkinson-hyperlegible-next/package.json'))
const face = (weight: string) => openSync(path.join(folder, weight, `AtkinsonHyperlegibleNext_${weight}.ttf`)) as Font
const [regular, bold] = [face('400Regular'), face('700Bold')]
const widths = new Map<string, number>()
/** Ems that words are wide. */
function ems(words: string, heavy: boolean): number {
  const key = `${heavy ? 'b' : 'r'}${words}`
  let known = widths.get(key)
  if (known === undefined) {
    const font = heavy ? bold : regular
    known = font.layout(words).advanceWidth / font.unitsPerEm
    widths.set(key, known)
  }
  return known
}

interface Box {
  readonly left: number
  readonly right: number
  readonly top: number
  readonly bottom: number
}
/** Where the letters of a text are, from the height of a capital to the foot of a g. */
function boxOf(s: TextShape): Box {
  const wide = s.mono ? s.text.length * 0.62 * s.size : ems(s.text, s.bold === true) * s.size
  const left = s.anchor === 'middle' ? s.x - wide / 2 : s.anchor === 'end' ? s.x - wide : s.x
  return { left, right: left + wide, top: s.y - 0.7 * s.size, bottom: s.y + 0.2 * s.size }
}
const overlap = (a: Box, b: Box, least: number): boolean =>
  Math.min(a.right, b.right) - Math.max(a.left, b.left) > least && Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > least

/** Points along a path of lines and curves, a few units apart. */
function along({ d }: PathShape): (readonly [number, number])[] {
  const points: (readonly [number, number])[] = []
  let [x, y] = [0, 0]
  let first: readonly [number, number] = [0, 0]
  const to = (x2: number, y2: number) => {
    const n = Math.max(1, Math.ceil(Math.hypot(x2 - x, y2 - y) / 3))
    for (let i = 0; i <= n; i++) points.push([x + ((x2 - x) * i) / n, y + ((y2 - y) * i) / n])
    ;[x, y] = [x2, y2]
  }
  for (const [, command, rest] of d.matchAll(/([MLCHVZ])([^MLCHVZ]*)/g)) {
    const n = (rest!.match(/-?[\d.]+(?:e-?\d+)?/g) ?? []).map(Number)
    if (command === 'M') {
      ;[x, y] = [n[0]!, n[1]!]
      first = [x, y]
    } else if (command === 'L') for (let i = 0; i < n.length; i += 2) to(n[i]!, n[i + 1]!)
    else if (command === 'H') to(n[0]!, y)
    else if (command === 'V') to(x, n[0]!)
    else if (command === 'Z') to(...first)
    else {
      const [a, b, c, e, f, g] = n as [number, number, number, number, number, number]
      for (let i = 1; i <= 24; i++) {
        const [t, u] = [i / 24, 1 - i / 24]
        points.push([
          u ** 3 * x + 3 * u * u * t * a + 3 * u * t * t * c + t ** 3 * f,
          u ** 3 * y + 3 * u * u * t * b + 3 * u * t * t * e + t ** 3 * g,
        ])
      }
      ;[x, y] = [f, g]
    }
  }
  return points
}

/** What is drawn over a line, so that a text on it is read: something filled, drawn between the two, that holds the text. */
const grounded = (shapes: readonly Shape[], from: number, to: number, box: Box): boolean =>
  shapes.slice(from + 1, to).some((s) => {
    if (s.kind === 'text' || s.fill === undefined || s.fill === 'none') return false
    const ground = extentOf(s)
    return ground.left <= box.left + 1.5 && ground.right >= box.right - 1.5 && ground.top <= box.top + 2 && ground.bottom >= box.bottom - 2
  })
function extentOf(s: Exclude<Shape, TextShape>): Box {
  if (s.kind === 'rect') return { left: s.x, right: s.x + s.w, top: s.y, bottom: s.y + s.h }
  if (s.kind === 'circle') return { left: s.x - s.r, right: s.x + s.r, top: s.y - s.r, bottom: s.y + s.r }
  return around(along(s))
}
function around(points: readonly (readonly [number, number])[]): Box {
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity]
  for (const [x, y] of points) {
    if (x < left) left = x
    if (x > right) right = x
    if (y < top) top = y
    if (y > bottom) bottom = y
  }
  return { left, right, top, bottom }
}

export interface Collisions {
  /** Texts that lie on each other. */
  readonly texts: readonly string[]
  /** Texts that run over the edge. */
  readonly cut: readonly string[]
  /** Lines through a text. */
  readonly crossed: readonly string[]
}

/** Every collision in a drawing, each given in words. */
export function collisionsIn(drawing: Drawing): Collisions {
  const { shapes, width, height, title } = drawing
  const texts = shapes.flatMap((s, at) => (s.kind === 'text' && s.text.trim() ? [{ s, at, box: boxOf(s) }] : []))
  const lines = shapes.flatMap((s, at) => {
    if (s.kind !== 'path' || s.stroke === undefined || s.stroke === 'none' || s.width === 0) return []
    const points = along(s)
    return [{ s, at, points, within: around(points) }]
  })
  return {
    texts: texts.flatMap((a, i) => {
      const under: string[] = []
      for (let k = i + 1; k < texts.length; k++)
        if (overlap(a.box, texts[k]!.box, 1.2)) under.push(`${title}: "${a.s.text}" on "${texts[k]!.s.text}"`)
      return under
    }),
    cut: texts
      .filter(({ box }) => box.left < -0.5 || box.right > width + 0.5 || box.top < -0.5 || box.bottom > height + 2)
      .map(({ s }) => `${title}: "${s.text}"`),
    crossed: texts.flatMap(({ s, at, box }) =>
      lines.flatMap((l) => {
        const half = (l.s.width ?? 1) / 2
        const [left, right, top, bottom] = [box.left + 1 - half, box.right - 1 + half, box.top + 1 - half, box.bottom - 1 + half]
        // Most lines are nowhere near.
        if (l.within.right <= left || l.within.left >= right || l.within.bottom <= top || l.within.top >= bottom) return []
        const through = l.points.some(([x, y]) => x > left && x < right && y > top && y < bottom)
        return through && !(l.at < at && grounded(shapes, l.at, at, box)) ? [`${title}: a line through "${s.text}"`] : []
      }),
    ),
  }
}
