import { grounded, type Paint, type Shape, text, type TextShape, wideAs } from './shape'

interface Box {
  readonly x: number
  readonly y: number
  readonly w: number
  readonly h: number
}
const meet = (a: Box, b: Box): boolean => a.x < b.x + b.w && b.x < a.x + a.w && a.y < b.y + b.h && b.y < a.y + a.h

/** Words put where there is room for them: at the first of several places that lies on nothing else and within the sheet, or nowhere. */
export function labels(width: number, height: number, ground: Paint = 'paper') {
  const taken: Box[] = []
  const keep = (x: number, y: number, w: number, h: number): void => void taken.push({ x, y, w, h })
  const put = (
    words: string,
    size: number,
    places: readonly (readonly [number, number])[],
    more: Partial<TextShape> = {},
  ): readonly Shape[] => {
    const w = wideAs(words, size)
    for (const [x, y] of places) {
      const left = more.anchor === 'middle' ? x - w / 2 : more.anchor === 'end' ? x - w : x
      const box = { x: left, y: y - 0.8 * size, w, h: 1.1 * size }
      if (box.x < 0 || box.y < 0 || box.x + box.w > width || box.y + box.h > height || taken.some((t) => meet(t, box))) continue
      taken.push(box)
      return grounded(text(x, y, words, size, more), ground)
    }
    return []
  }
  return { keep, put }
}
