import { formatLength, formatSmallLength, type UnitSystem } from '../quantity/format'
import type { Wall } from '../installation/installation'
import { pieceStarts, runLength, type RunReport } from '../survey/walls'
import { type Drawing, line, type Shape, text } from './shape'

export const WALL = { left: 30, width: 760, floor: 178, top: 30, storeyMm: 2400 } as const
/** Drawing units in a metre along the wall. */
export const wallScale = (run: Wall): number => WALL.width / Math.max(runLength(run), 0.5)
const heightAt = (mm: number): number => WALL.floor - (mm / WALL.storeyMm) * (WALL.floor - WALL.top)

const pieceNames: Record<Wall['pieces'][number]['what'], string> = {
  wall: '',
  door: 'door',
  fixed: 'fixed',
  sink: 'sink',
  basin: 'basin',
  bath: 'bath',
  shower: 'shower',
}
/** How high each piece stands, in millimetres. */
const tall: Record<Wall['pieces'][number]['what'], number> = {
  wall: 0,
  door: 2000,
  fixed: 2000,
  sink: 900,
  basin: 850,
  bath: 550,
  shower: 2250,
}

/** A wall seen from the front: its breaks, the stretches too far from an outlet, the outlets there and those that are missing. */
export function wallDrawing(run: Wall, report: RunReport, units: UnitSystem): Drawing {
  const scale = wallScale(run)
  const at = (m: number): number => WALL.left + m * scale
  const starts = pieceStarts(run)
  const shapes: Shape[] = [
    { kind: 'rect', x: WALL.left, y: WALL.top, w: WALL.width, h: WALL.floor - WALL.top, fill: 'sheet', stroke: 'ink', width: 1.5 },
  ]
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
    shapes.push(
      text((at(g.fromM) + at(g.toM)) / 2, WALL.floor - 64, `gap ${formatLength(g.toM - g.fromM, units)}`, 14.5, {
        anchor: 'middle',
        bold: true,
      }),
    )
  }
  run.pieces.forEach((p, i) => {
    const x = at(starts[i]!)
    const w = p.lengthM * scale
    if (p.what !== 'wall') {
      const y = heightAt(tall[p.what])
      shapes.push({ kind: 'rect', x, y, w, h: WALL.floor - y, fill: 'wash', stroke: 'ink', width: 1.5 })
      shapes.push(text(x + w / 2, WALL.floor - 44, pieceNames[p.what], 14.5, { anchor: 'middle', bold: true }))
    }
    shapes.push(line(x, WALL.floor, x, WALL.floor + 8, { width: 1 }))
    shapes.push(text(x + w / 2, WALL.floor + 20, formatLength(p.lengthM, units), 14.5, { anchor: 'middle', fill: 'ink2' }))
  })
  shapes.push(line(WALL.left + WALL.width, WALL.floor, WALL.left + WALL.width, WALL.floor + 8, { width: 1 }))
  shapes.push(line(WALL.left - 8, WALL.floor, WALL.left + WALL.width + 8, WALL.floor, { width: 3 }))
  const high = run.kind === 'counter' ? 1050 : 400
  for (const m of report.missing) {
    shapes.push({ kind: 'circle', x: at(m), y: heightAt(high), r: 11, fill: 'sheet', stroke: 'ink', width: 2, dash: '4 3' })
    shapes.push(text(at(m), heightAt(high) + 5, '+', 16, { anchor: 'middle', bold: true }))
    shapes.push(text(at(m), heightAt(high) - 17, formatLength(m, units), 14.5, { anchor: 'middle' }))
  }
  // A scale bar: one metre, or three feet.
  const bar = units === 'metric' ? 1 : 0.9144
  shapes.push(
    line(WALL.left, WALL.floor + 34, at(bar), WALL.floor + 34, { width: 3 }),
    text(at(bar) + 8, WALL.floor + 39, units === 'metric' ? '1 m' : '3 ft', 14.5),
  )
  const parts: Record<string, string> = {}
  for (const o of run.outlets) {
    const [x, y] = [at(Math.min(o.atM, report.lengthM)), heightAt(o.heightMm ?? high)]
    const part = `outlet:${o.id}`
    parts[part] = `Outlet at ${formatLength(o.atM, units)}${o.heightMm === null ? '' : `, ${formatSmallLength(o.heightMm, units)} high`}`
    // A thumb needs more than is drawn.
    shapes.push({ kind: 'rect', x: x - 27, y: y - 27, w: 54, h: 54, fill: 'none', part })
    shapes.push({ kind: 'rect', x: x - 12, y: y - 12, w: 24, h: 24, r: 4, fill: 'ink', stroke: 'ink', width: 1.5, part })
    shapes.push({ kind: 'circle', x: x - 4, y, r: 2.5, fill: 'sheet', part }, { kind: 'circle', x: x + 4, y, r: 2.5, fill: 'sheet', part })
    shapes.push(text(x, y - 17, formatLength(o.atM, units), 14.5, { anchor: 'middle', bold: true }))
  }
  return {
    width: WALL.left * 2 + WALL.width,
    height: WALL.floor + 48,
    title: `${run.name}: outlets along ${formatLength(report.lengthM, units)}`,
    shapes,
    parts,
    ring: 'box',
  }
}
