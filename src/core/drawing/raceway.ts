import { conductorAreaIn2, racewayAreaIn2, type RacewayKind } from '../calculate/tables'
import { type Drawing, type Shape, text } from './shape'

interface Inside {
  readonly insulation: 'thwn-2' | 'bare'
  readonly size: string
  readonly count: number
}

const R = 120
const CENTRE = 150

/** A raceway cut across, to scale: its conductors laid on its floor as they would lie. */
export function racewayDrawing(kind: RacewayKind, tradeSize: string, conductors: readonly Inside[]): Drawing {
  const area = racewayAreaIn2(kind, tradeSize)
  const scale = R / Math.sqrt(area / Math.PI)
  const circles = conductors.flatMap((c) =>
    Array.from({ length: c.count }, () => ({
      r: scale * Math.sqrt((conductorAreaIn2(c.insulation, c.size) ?? 0) / Math.PI),
      size: c.size,
    })),
  )
  const shapes: Shape[] = [{ kind: 'circle', x: CENTRE, y: CENTRE, r: R, fill: 'sheet', stroke: 'ink', width: 4 }]
  const placed: { x: number; y: number; r: number }[] = []
  for (const c of circles.toSorted((a, b) => b.r - a.r)) {
    const at = lay(c.r, placed)
    placed.push({ ...at, r: c.r })
    shapes.push({ kind: 'circle', x: CENTRE + at.x, y: CENTRE + at.y, r: c.r, fill: 'wash', stroke: 'ink', width: 1.5 })
    // A size that would be too small to read is left to the list beside.
    if (c.r > 12) shapes.push(text(CENTRE + at.x, CENTRE + at.y + 5, c.size.replace(' AWG', ''), 14, { anchor: 'middle' }))
  }
  return { width: 2 * CENTRE, height: 2 * CENTRE, title: `${circles.length} conductors in ${tradeSize} ${kind}`, shapes }
}

/** The lowest place inside where a circle touches nothing; over the rim where there is none. */
function lay(r: number, placed: readonly { x: number; y: number; r: number }[]): { x: number; y: number } {
  let best = { x: 0, y: -R - r }
  for (let gy = R - r; gy >= -R + r; gy -= 3)
    for (let gx = 0; gx <= R - r; gx += 3)
      for (const x of gx === 0 ? [0] : [gx, -gx])
        if (Math.hypot(x, gy) <= R - r && placed.every((p) => Math.hypot(p.x - x, p.y - gy) >= p.r + r) && gy > best.y) best = { x, y: gy }
  return best
}
