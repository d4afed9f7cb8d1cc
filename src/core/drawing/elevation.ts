import {
  baysOf,
  builtOf,
  type BuildingInput,
  mayOpen,
  noggingOf,
  openIn,
  opensOf,
  type Room,
  type Side,
  sideLength,
} from '../building/house'
import { boredAt, type Part } from '../building/steps'
import { formatLength, formatMark, formatSmallLength, type UnitSystem } from '../quantity/format'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'
import { labels } from './labels'
import { type Drawing, fitText, line, type Shape, wideAs } from './shape'

export interface ElevationAsked {
  readonly input: BuildingInput
  readonly rooms: readonly Room[]
  readonly room: Room
  readonly side: Side
  readonly names: ReadonlyMap<string, string>
  readonly parts: readonly Part[]
  readonly units: UnitSystem
  readonly region: RegionId
  readonly format: 'wide' | 'narrow'
}

const PAD = { left: 16, right: 16, top: 30, foot: 58 }
/** So wide is what a hand takes hold of. */
const GRASP = 16
const atHeight = ([x, y]: readonly [number, number, number], z: number) => [x, y, z] as const
const openingNames = { door: 'door', window: 'window', fixed: 'fixed', cabinets: 'cabinets', stairs: 'stairs', hidden: 'hidden' } as const

/** A wall as one faces it from inside its room: framing light, what stands in it, and the way through it with every hole. */
export function elevationDrawing({ input, rooms, room, side, names, parts, units, region, format }: ElevationAsked): Drawing {
  const whole = sideLength(room, side)
  const tall = room.head - room.foot
  const width = format === 'wide' ? 680 : 350
  const scale = Math.min((width - PAD.left - PAD.right) / whole, 300 / tall)
  const left = (width - whole * scale) / 2
  const height = PAD.top + tall * scale + PAD.foot
  const floor = PAD.top + tall * scale
  const mirrored = side === 'east' || side === 'south'
  const x = (along: number): number => left + (mirrored ? whole - along : along) * scale
  const y = (m: number): number => floor - m * scale
  const put = labels(width, height, 'sheet')
  const shapes: Shape[] = [{ kind: 'rect', x: left, y: PAD.top, w: whole * scale, h: tall * scale, fill: 'sheet', stroke: 'ink', width: 2 }]
  const said: Shape[] = []
  const noggingM = noggingOf(input, rooms, room, side)
  const members: Record<string, string> = {}
  const hollow = builtOf(input, rooms, room, side).kind === 'timber'
  if (hollow) {
    const [studs, noggings] = [`studs:${side}:${room.id}`, `noggings:${side}:${room.id}`]
    members[studs] = 'Its studs'
    for (const m of baysOf(input, rooms, room, side).slice(1, -1)) {
      shapes.push(line(x(m), PAD.top, x(m), floor, { stroke: 'rule', width: 3 }))
      shapes.push({ kind: 'rect', x: x(m) - GRASP / 2, y: PAD.top, w: GRASP, h: tall * scale, fill: 'none', part: studs })
    }
    shapes.push(line(left, y(tall) + 4, left + whole * scale, y(tall) + 4, { stroke: 'rule', width: 6 }))
    shapes.push(line(left, floor - 3, left + whole * scale, floor - 3, { stroke: 'rule', width: 4 }))
    if (noggingM !== null && noggingM < tall) {
      members[noggings] = `Its ${worlds[region].words.noggings}`
      const at = y(noggingM)
      shapes.push(line(left, at, left + whole * scale, at, { stroke: 'rule', width: 4 }))
      shapes.push({ kind: 'rect', x: left, y: at - GRASP / 2, w: whole * scale, h: GRASP, fill: 'none', part: noggings })
      const words = `${worlds[region].words.noggings} ${formatMark(noggingM, units)} up`
      said.push(
        ...put.put(
          words,
          12.5,
          [
            [left + 6, at - 6],
            [left + 6, at + 16],
            [left + (whole * scale) / 2, at - 6],
          ],
          { fill: 'ink2' },
        ),
      )
    }
  }
  const found = input.found.find((f) => f.room === room.id && f.side === side)
  if (hollow && found?.studM !== undefined) {
    shapes.push(line(x(found.studM), PAD.top, x(found.studM), floor, { stroke: 'ink2', width: 3 }))
    const left = mirrored ? whole - found.studM : found.studM
    const words = `stud found ${formatMark(left, units)} from the left`
    const half = wideAs(words, 12.5) / 2 + 2
    said.push(...put.put(words, 12.5, [[Math.min(Math.max(x(found.studM), half), width - half), PAD.top - 10]], { anchor: 'middle' }))
  }
  for (const o of openIn(opensOf(input, rooms), room, side)) {
    const [a, b] = [Math.min(x(o.fromM), x(o.toM)), Math.max(x(o.fromM), x(o.toM))]
    shapes.push({ kind: 'rect', x: a, y: PAD.top, w: b - a, h: tall * scale, fill: 'paper', stroke: 'ink2', width: 1, dash: '4 3' })
    said.push(...put.put('no wall here', 13, [[(a + b) / 2, PAD.top + (tall * scale) / 2]], { anchor: 'middle', fill: 'ink2' }))
  }
  for (const o of input.openings) {
    if (o.room !== room.id || o.side !== side) continue
    const [a, b] = [Math.min(x(o.atM), x(o.atM + o.widthM)), Math.max(x(o.atM), x(o.atM + o.widthM))]
    const top = y(Math.min(o.headM, tall))
    const hidden = o.what === 'hidden' ? { stroke: 'ink2' as const, width: 1.5, dash: '4 3' } : { stroke: 'ink' as const, width: 1.5 }
    shapes.push({ kind: 'rect', x: a, y: top, w: b - a, h: y(o.sillM) - top, fill: 'wash', ...hidden })
    const what = o.what === 'hidden' ? `${names.get(o.id) ?? 'something'} inside` : openingNames[o.what]
    said.push(...put.put(what, 13, [[(a + b) / 2, top + 20]], { anchor: 'middle', fill: 'ink2' }))
    said.push(...put.put(formatLength(o.widthM, units), 12.5, [[(a + b) / 2, floor + 18]], { anchor: 'middle', fill: 'ink2' }))
  }
  const along = ([px, py]: readonly [number, number, number]): number =>
    side === 'north' || side === 'south' ? px - room.west : py - room.south
  for (const p of parts) {
    const mine = (p.room === room.id && (p.side === side || p.beyond === side)) || (p.beyond === room.id && p.kind === 'partition')
    if (!mine) continue
    const inside = (m: number) => Math.min(Math.max(m, -0.2), tall + 0.25)
    const points = p.path.map((at) => [x(Math.min(Math.max(along(at), 0), whole)), y(inside(at[2] - room.foot))] as const)
    const d = points.map(([a, b], i) => `${i ? 'L' : 'M'}${a.toFixed(1)} ${b.toFixed(1)}`).join('')
    shapes.push({ kind: 'path', d, stroke: 'ink', width: 5, cap: 'round' })
    const bored = p.kind === 'nogging' && noggingM !== null ? atHeight(boredAt(p), room.foot + noggingM) : boredAt(p)
    const [bx, by] = [x(Math.min(Math.max(along(bored), 0), whole)), y(inside(bored[2] - room.foot))]
    if (p.holes > 0) shapes.push({ kind: 'circle', x: bx, y: by, r: 6, fill: 'sheet', stroke: 'ink', width: 2 })
    if (p.openings > 0) {
      const xs = points.map((q) => q[0])
      const [from, to] = [Math.min(...xs) - 8, Math.max(...xs) + 8]
      shapes.push({
        kind: 'rect',
        x: from,
        y: by - 14,
        w: to - from,
        h: 28,
        fill: 'none',
        stroke: 'ink',
        width: 1.5,
        dash: '4 3',
      })
      said.push(...put.put('lining opened', 12.5, [[(from + to) / 2, by - 20]], { anchor: 'middle' }))
    }
    if (p.kind === 'top-plates' || p.kind === 'sole-plate') {
      const fromLeft = mirrored ? whole - along(bored) : along(bored)
      const at = p.kind === 'top-plates' ? PAD.top - 10 : floor + 36
      said.push(...put.put(`${formatMark(fromLeft, units)} from the left`, 12.5, [[bx, at]], { anchor: 'middle', bold: true }))
    }
  }
  for (const f of [...input.points, ...input.boards]) {
    if (!('side' in f) || f.room !== room.id || f.side !== side) continue
    const [px, py] = [x(f.atM), y(f.heightM)]
    shapes.push({ kind: 'rect', x: px - 8, y: py - 8, w: 16, h: 16, fill: 'sheet', stroke: 'ink', width: 2 })
    put.keep(px - 10, py - 10, 20, 20)
    const words = `${fitText(names.get(f.id) ?? f.id, 150, 12.5)}, ${formatSmallLength(f.heightM * 1000, units)} up`
    const places = [
      [px + 14, py + 5],
      [px + 14, py - 12],
      [px + 14, py + 24],
      [Math.max(px - 12 - words.length * 7.2, left + 4), py + 5],
    ] as const
    said.push(...put.put(words, 12.5, places, {}))
  }
  const closed = mayOpen(input, room.id, side) ? '' : '; its face stays closed'
  const ends = `${formatLength(whole, units)} long, ${formatLength(tall, units)} high${closed}`
  return {
    width,
    height,
    title: `${names.get(room.id) ?? room.id}, ${side} wall as you face it`,
    parts: members,
    ring: 'box',
    shapes: [...shapes, ...said, ...put.put(ends, 13, [[left, height - 6]], { fill: 'ink2' })],
    mmPerUnit: 1000 / scale,
  }
}
