import { formatLength, formatSmallLength, type UnitSystem } from '../base/format'
import type { Wall } from '../installation/installation'
import { pieceStarts, runLength, type RunReport } from '../survey/walls'
import { type Drawing, grounded, line, type Shape, text, type TextShape, wideAs } from './shape'

const WALL = { left: 30, floor: 178, top: 30, storeyMm: 2400 } as const
const wide = { wide: 760, narrow: 300 } as const
type Format = keyof typeof wide
/** Drawing units in a metre along the wall. */
const wallScale = (run: Wall, format: Format): number => wide[format] / Math.max(runLength(run), 0.5)
/** How far along the wall a place of the drawing is, in metres. */
export const alongWall = (run: Wall, x: number, format: Format): number => (x - WALL.left) / wallScale(run, format)
const heightAt = (mm: number): number => WALL.floor - (mm / WALL.storeyMm) * (WALL.floor - WALL.top)

const pieceNames: Record<Wall['pieces'][number]['what'], string> = {
  wall: '',
  door: 'door',
  window: 'window',
  fixed: 'fixed',
  cabinets: 'cabinets',
  stairs: 'stairs',
  sink: 'sink',
  basin: 'basin',
  bath: 'bath',
  shower: 'shower',
}
/** How high each piece is, in millimetres. */
const tall: Record<Wall['pieces'][number]['what'], number> = {
  wall: 0,
  door: 2000,
  window: 2100,
  fixed: 2000,
  cabinets: 900,
  stairs: 2000,
  sink: 900,
  basin: 850,
  bath: 550,
  shower: 2250,
}

/** Lengths of a scale bar, in metres. */
const bars: Record<UnitSystem, readonly number[]> = {
  metric: [1, 0.5, 0.2, 0.1, 0.05, 0.02],
  imperial: [0.9144, 0.3048, 0.1524, 0.0762, 0.0254],
}

const SIZE = 14.5
/** Words over their middle, in the first height where they have room; left out where none has any, as the list beside tells them too. */
function placer(width: number) {
  const taken: { readonly from: number; readonly to: number; readonly y: number }[] = []
  const reserve = (x: number, y: number, half: number) => taken.push({ from: x - half, to: x + half, y })
  const put = (words: string, middle: number, heights: readonly number[], more: Partial<TextShape> = {}): readonly Shape[] => {
    const half = wideAs(words, SIZE) / 2
    const x = Math.min(Math.max(middle, half), width - half)
    const y = heights.find((h) => taken.every((t) => x + half <= t.from || x - half >= t.to || Math.abs(t.y - h) > SIZE))
    if (y === undefined) return []
    taken.push({ from: x - half, to: x + half, y })
    return grounded(text(x, y, words, SIZE, { anchor: 'middle', ...more }), 'sheet')
  }
  return { put, reserve }
}
const lowestOf = (shapes: readonly Shape[]): number => Math.max(...shapes.map((s) => (s.kind === 'text' ? s.y : 0)))

/** A wall seen from the front: its breaks, the stretches too far from an outlet, the outlets there and those that are missing. */
export function wallDrawing(run: Wall, report: RunReport, units: UnitSystem, format: Format = 'wide'): Drawing {
  const scale = wallScale(run, format)
  const span = wide[format]
  const at = (m: number): number => WALL.left + m * scale
  const starts = pieceStarts(run)
  const width = WALL.left * 2 + span
  const { put, reserve } = placer(width)
  const shapes: Shape[] = [
    { kind: 'rect', x: WALL.left, y: WALL.top, w: span, h: WALL.floor - WALL.top, fill: 'sheet', stroke: 'ink', width: 1.5 },
  ]
  const said: Shape[] = []
  const high = run.kind === 'counter' || run.kind === 'island' ? 1050 : 400
  for (const m of report.missing) reserve(at(m), heightAt(high) + 5, 12)
  for (const g of report.gaps) {
    shapes.push({
      kind: 'rect',
      x: at(g.fromM),
      y: WALL.floor - 26,
      w: (g.toM - g.fromM) * scale,
      h: 26,
      fill: 'none',
      stroke: 'error',
      width: 2,
    })
    for (let x = at(g.fromM) + 8; x < at(g.toM); x += 10)
      shapes.push(line(x, WALL.floor - 1, Math.min(x + 10, at(g.toM)), WALL.floor - 25, { stroke: 'error', width: 1 }))
    const words = `gap ${formatLength(g.toM - g.fromM, units)}`
    said.push(...put(words, (at(g.fromM) + at(g.toM)) / 2, [WALL.floor - 64, WALL.floor - 84, WALL.floor - 104], { bold: true }))
  }
  run.pieces.forEach((p, i) => {
    const x = at(starts[i]!)
    const w = p.lengthM * scale
    if (p.what !== 'wall') {
      const y = heightAt(p.headM === undefined ? tall[p.what] : Math.min(p.headM * 1000, WALL.storeyMm))
      const foot = heightAt(p.what === 'window' ? Math.min((p.sillM ?? 0.9) * 1000, WALL.storeyMm) : 0)
      shapes.push({ kind: 'rect', x, y, w, h: Math.max(foot - y, 2), fill: 'wash', stroke: 'ink', width: 1.5 })
      said.push(...put(pieceNames[p.what], x + w / 2, [WALL.floor - 44, WALL.floor - 8], { bold: true }))
    }
    shapes.push(line(x, WALL.floor, x, WALL.floor + 8, { width: 1 }))
    const rows = [WALL.floor + 20, WALL.floor + 36, WALL.floor + 52]
    said.push(...put(formatLength(p.lengthM, units), x + w / 2, rows, { fill: 'ink2' }))
  })
  shapes.push(line(WALL.left + span, WALL.floor, WALL.left + span, WALL.floor + 8, { width: 1 }))
  shapes.push(line(WALL.left - 8, WALL.floor, WALL.left + span + 8, WALL.floor, { width: 3 }))
  for (const m of report.missing) {
    shapes.push({ kind: 'circle', x: at(m), y: heightAt(high), r: 11, fill: 'sheet', stroke: 'ink', width: 2, dash: '4 3' })
    if (!report.missing.some((o) => o < m && at(m) - at(o) < 16))
      shapes.push(text(at(m), heightAt(high) + 5, '+', 16, { anchor: 'middle', bold: true }))
    said.push(...put(formatLength(m, units), at(m), [heightAt(high) - 17, heightAt(high) - 34]))
  }
  const foot = Math.max(WALL.floor + 20, lowestOf(said)) + 14
  const bar = bars[units].find((m) => m * scale < span / 3) ?? bars[units].at(-1)!
  shapes.push(line(WALL.left, foot, at(bar), foot, { width: 3 }), text(at(bar) + 8, foot + 5, formatLength(bar, units), 14.5))
  const parts: Record<string, string> = {}
  for (const o of run.outlets) {
    const [x, y] = [at(Math.min(o.atM, report.lengthM)), heightAt(Math.min(o.heightMm ?? high, WALL.storeyMm))]
    const part = `outlet:${o.id}`
    parts[part] = `Outlet at ${formatLength(o.atM, units)}${o.heightMm === null ? '' : `, ${formatSmallLength(o.heightMm, units)} high`}`
    // A thumb needs more than is drawn.
    shapes.push({ kind: 'rect', x: x - 27, y: y - 27, w: 54, h: 54, fill: 'none', part })
    shapes.push({ kind: 'rect', x: x - 12, y: y - 12, w: 24, h: 24, r: 4, fill: 'ink', stroke: 'ink', width: 1.5, part })
    shapes.push({ kind: 'circle', x: x - 4, y, r: 2.5, fill: 'sheet', part }, { kind: 'circle', x: x + 4, y, r: 2.5, fill: 'sheet', part })
    said.push(...put(formatLength(o.atM, units), x, [y - 17, y - 34], { bold: true, part }))
  }
  return {
    width,
    height: foot + 14,
    title: `${run.name}: outlets along ${formatLength(report.lengthM, units)}`,
    shapes: [...shapes, ...said],
    parts,
    ring: 'box',
  }
}
