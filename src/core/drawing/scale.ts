/** Marks of a scale that would crowd it, or never end, are spread: no scale has more than these. */
const MOST_MARKS = 14

/** Marks from zero to `max`: every `step`, or, where that would be too many, every 1, 2 or 5 times a power of ten. */
export function marks(max: number, step: number): number[] {
  if (!(max > 0) || !Number.isFinite(max)) return [0]
  const rough = Math.max(step, max / MOST_MARKS)
  const ten = 10 ** Math.floor(Math.log10(rough))
  const wide = step >= max / MOST_MARKS ? step : ten * ([1, 2, 5, 10].find((m) => m * ten >= rough) ?? 10)
  return Array.from({ length: Math.floor(max / wide + 1e-9) + 1 }, (_, i) => Number((i * wide).toPrecision(12)))
}
