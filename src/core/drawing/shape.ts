/** Ink by meaning; the renderer knows what each looks like by day, by night and on paper. Hex is for real conductor colours. */
export type Paint = 'ink' | 'ink2' | 'ink3' | 'rule' | 'sheet' | 'paper' | 'wash' | 'error' | 'warning' | 'none' | `#${string}`

interface Common {
  /** Shapes of one part are selected together. */
  readonly part?: string
}
export interface RectShape extends Common {
  readonly kind: 'rect'
  readonly x: number
  readonly y: number
  readonly w: number
  readonly h: number
  readonly r?: number
  readonly fill?: Paint
  readonly stroke?: Paint
  readonly width?: number
  readonly dash?: string
}
export interface PathShape extends Common {
  readonly kind: 'path'
  readonly d: string
  readonly fill?: Paint
  readonly stroke?: Paint
  readonly width?: number
  readonly dash?: string
  readonly cap?: 'round' | 'butt'
  /** Its dashes move along it, where motion is wanted. */
  readonly moves?: 'on' | 'back'
}
export interface CircleShape extends Common {
  readonly kind: 'circle'
  readonly x: number
  readonly y: number
  readonly r: number
  readonly fill?: Paint
  readonly stroke?: Paint
  readonly width?: number
  readonly dash?: string
}
export interface TextShape extends Common {
  readonly kind: 'text'
  readonly x: number
  readonly y: number
  readonly text: string
  readonly size: number
  readonly fill?: Paint
  readonly anchor?: 'start' | 'middle' | 'end'
  readonly bold?: boolean
  readonly mono?: boolean
  /** As somebody wrote it: not put into the terms of a world. */
  readonly written?: boolean
}
export type Shape = RectShape | PathShape | CircleShape | TextShape

/** A picture that lies under a drawing on the screen, turned to the left about its upper left corner. */
export interface Backdrop {
  readonly src: string
  readonly x: number
  readonly y: number
  readonly w: number
  readonly h: number
  readonly turnedDeg: number
}

/** A drawing is data: laid out here, rendered on the screen, on paper and as SVG elsewhere. */
export interface Drawing {
  readonly width: number
  readonly height: number
  readonly title: string
  readonly shapes: readonly Shape[]
  readonly backdrop?: Backdrop
  /** What each selectable part is, for those who hear the drawing. */
  readonly parts?: Readonly<Record<string, string>>
  /** How a part is framed when it has the focus: over the whole height, or round itself. */
  readonly ring?: 'column' | 'box'
  /** Millimetres of what is drawn that one unit is; of a drawing to scale. */
  readonly mmPerUnit?: number
}

export const line = (x1: number, y1: number, x2: number, y2: number, more: Omit<PathShape, 'kind' | 'd'> = {}): PathShape => ({
  kind: 'path',
  d: `M${x1} ${y1}L${x2} ${y2}`,
  stroke: 'ink',
  width: 1.5,
  ...more,
})

export const text = (x: number, y: number, words: string, size: number, more: Partial<TextShape> = {}): TextShape => ({
  kind: 'text',
  x,
  y,
  text: words,
  size,
  fill: 'ink',
  ...more,
})

/** Words with a ground of their own, so that no line drawn before them goes through them. */
export function grounded(words: TextShape, ground: Paint = 'paper'): readonly [RectShape, TextShape] {
  const w = wideAs(words.text, words.size)
  const x = words.anchor === 'middle' ? words.x - w / 2 : words.anchor === 'end' ? words.x - w : words.x
  const { size, y, part } = words
  return [{ kind: 'rect', x, y: y - 0.8 * size, w, h: 1.1 * size, fill: ground, ...(part === undefined ? {} : { part }) }, words]
}
/** How wide words are at the most, about. */
export const wideAs = (words: string, size: number): number => words.length * size * 0.58 + 4

/** Cuts words to a width, judged at half an em a letter, with an ellipsis. */
export function fitText(words: string, width: number, size: number): string {
  const letters = Math.floor(width / (size * 0.52))
  return words.length <= letters ? words : `${words.slice(0, Math.max(1, letters - 1)).trimEnd()}…`
}

/** Breaks words into at most `lines` lines of a width. */
export function wrapText(words: string, width: number, size: number, lines: number): string[] {
  const letters = Math.floor(width / (size * 0.52))
  const out: string[] = ['']
  // A word that has a hyphen may be broken after it.
  for (const word of words.split(/\s+|(?<=\p{L}-)(?=\p{L})/u)) {
    const last = out[out.length - 1]!
    const joined = last === '' || last.endsWith('-') ? last + word : `${last} ${word}`
    if (last === '' || joined.length <= letters) out[out.length - 1] = joined
    else out.push(word)
  }
  const kept =
    out.length > lines
      ? [
          ...out.slice(0, lines - 1),
          out
            .slice(lines - 1)
            .join(' ')
            .replaceAll(/(?<=\p{L}-) (?=\p{L})/gu, ''),
        ]
      : out
  return kept.map((l) => fitText(l, width, size))
}

/** A piece of pipe along a path: two edges, and the conductors between them. */
export const pipe = (d: string): readonly Shape[] => [
  { kind: 'path', d, stroke: 'ink', width: 9 },
  { kind: 'path', d, stroke: 'sheet', width: 6 },
  { kind: 'path', d, stroke: 'ink', width: 1.5 },
]
