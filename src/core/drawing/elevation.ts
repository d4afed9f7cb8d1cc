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
  studRow,
} from '../building/house'
import { holesOf } from '../building/holes'
import { boredAt, type Part } from '../building/steps'
import { formatLength, formatMark, formatSmallLength, type UnitSystem } from '../base/format'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'
import { labels } from './labels'
import { type Drawing, fitText, line, pipe, type Shape, wideAs } from './shape'

export interface ElevationAsked {
  readonly input: BuildingInput
  readonly rooms: readonly Room[]
  readonly room: Room
  readonly side: Side
  readonly names: ReadonlyMap<string, string>
  readonly parts: readonly Part[]
  /** Parts over whose holes steel plates go, by their place in the way. */
  readonly plates: ReadonlySet<number>
  /** Parts that lie in pipe, by their place in the way. */
  readonly pipes?: ReadonlySet<number>
  readonly units: UnitSystem
  readonly region: RegionId
  readonly format: 'wide' | 'narrow'
}

const PAD = { left: 16, right: 16, top: 30, foot: 58 }
/** So wide is what a hand takes hold of. */
const GRASP = 16
type Spot = readonly [number, number, number]
const atHeight = ([x, y]: Spot, z: number): Spot => [x, y, z]
const openingNames = { door: 'door', window: 'window', fixed: 'fixed', cabinets: 'cabinets', stairs: 'stairs', hidden: 'hidden' } as const

/** How a wall comes to the sheet: metres along it from its west or south end, and metres above its floor. */
interface Frame {
  readonly whole: number
  readonly tall: number
  readonly width: number
  readonly height: number
  readonly scale: number
  readonly left: number
  readonly floor: number
  /** One faces it with its west or south end to the right. */
  readonly mirrored: boolean
  readonly x: (along: number) => number
  readonly y: (m: number) => number
  readonly put: ReturnType<typeof labels>
  readonly noggingM: number | null
}
function frameOf({ input, rooms, room, side, format }: ElevationAsked): Frame {
  const [whole, tall] = [sideLength(room, side), room.head - room.foot]
  const width = format === 'wide' ? 680 : 350
  const scale = Math.min((width - PAD.left - PAD.right) / whole, 300 / tall)
  const left = (width - whole * scale) / 2
  const floor = PAD.top + tall * scale
  const height = floor + PAD.foot
  const mirrored = side === 'east' || side === 'south'
  return {
    whole,
    tall,
    width,
    height,
    scale,
    left,
    floor,
    mirrored,
    x: (along) => left + (mirrored ? whole - along : along) * scale,
    y: (m) => floor - m * scale,
    put: labels(width, height, 'sheet'),
    noggingM: noggingOf(input, rooms, room, side),
  }
}

/** What is drawn, the words over it, and what of it can be taken hold of. */
interface Layer {
  readonly shapes: readonly Shape[]
  readonly said: readonly Shape[]
  readonly members?: Readonly<Record<string, string>>
}

/** Studs, plates and noggings, and the stud that was found. */
function framing({ input, rooms, room, side, units, region }: ElevationAsked, f: Frame): Layer {
  if (builtOf(input, rooms, room, side).kind !== 'timber') return { shapes: [], said: [] }
  const { x, y, left, floor, whole, tall, scale, put, noggingM } = f
  const [studs, noggings] = [`studs:${side}:${room.id}`, `noggings:${side}:${room.id}`]
  const members: Record<string, string> = { [studs]: 'Its studs' }
  const shapes: Shape[] = []
  const said: Shape[] = []
  const row = new Set(studRow(input, rooms, room, side))
  for (const m of baysOf(input, rooms, room, side).slice(1, -1)) {
    shapes.push(line(x(m), PAD.top, x(m), floor, { stroke: 'rule', width: 3 }))
    if (row.has(m)) shapes.push({ kind: 'rect', x: x(m) - GRASP / 2, y: PAD.top, w: GRASP, h: tall * scale, fill: 'none', part: studs })
  }
  shapes.push(line(left, y(tall) + 4, left + whole * scale, y(tall) + 4, { stroke: 'rule', width: 6 }))
  shapes.push(line(left, floor - 3, left + whole * scale, floor - 3, { stroke: 'rule', width: 4 }))
  if (noggingM !== null && noggingM < tall) {
    const [at, called] = [y(noggingM), worlds[region].words.noggings]
    members[noggings] = `Its ${called}`
    shapes.push(line(left, at, left + whole * scale, at, { stroke: 'rule', width: 4 }))
    shapes.push({ kind: 'rect', x: left, y: at - GRASP / 2, w: whole * scale, h: GRASP, fill: 'none', part: noggings })
    const places = [
      [left + 6, at - 6],
      [left + 6, at + 16],
      [left + (whole * scale) / 2, at - 6],
    ] as const
    said.push(...put.put(`${called} ${formatMark(noggingM, units)} up`, 12.5, places, { fill: 'ink2' }))
  }
  const found = input.found.find((o) => o.room === room.id && o.side === side)
  if (found?.studM !== undefined) {
    shapes.push(line(x(found.studM), PAD.top, x(found.studM), floor, { stroke: 'ink2', width: 3 }))
    const words = `stud found ${formatMark(f.mirrored ? whole - found.studM : found.studM, units)} from the left`
    const half = wideAs(words, 12.5) / 2 + 2
    said.push(...put.put(words, 12.5, [[Math.min(Math.max(x(found.studM), half), f.width - half), PAD.top - 10]], { anchor: 'middle' }))
  }
  return { shapes, said, members }
}

/** Where there is no wall, and what is in it. */
function openings({ input, rooms, room, side, names, units }: ElevationAsked, { x, y, floor, tall, scale, put }: Frame): Layer {
  const shapes: Shape[] = []
  const said: Shape[] = []
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
  return { shapes, said }
}

/** The way as far as it leads through this wall, with its holes and what is opened for it. */
function wayIn(
  { input, rooms, room, side, parts, plates, pipes, units }: ElevationAsked,
  { x, y, floor, tall, whole, mirrored, put, noggingM }: Frame,
): Layer {
  const shapes: Shape[] = []
  const said: Shape[] = []
  const along = ([px, py]: Spot): number => (side === 'north' || side === 'south' ? px - room.west : py - room.south)
  const at = (spot: Spot): readonly [number, number] => [
    x(Math.min(Math.max(along(spot), 0), whole)),
    y(Math.min(Math.max(spot[2] - room.foot, -0.2), tall + 0.25)),
  ]
  for (const [i, p] of parts.entries()) {
    const mine = (p.room === room.id && (p.side === side || p.beyond === side)) || (p.beyond === room.id && p.kind === 'partition')
    if (!mine) continue
    const points = p.path.map(at)
    const d = points.map(([a, b], i) => `${i ? 'L' : 'M'}${a.toFixed(1)} ${b.toFixed(1)}`).join('')
    // What lies on the other side of the wall is seen through it.
    const beyond = p.kind === 'outside' || p.kind === 'outside-corner'
    if (pipes?.has(i) && !beyond) shapes.push(...pipe(d))
    else shapes.push({ kind: 'path', d, stroke: 'ink', width: beyond ? 3 : 5, ...(beyond ? { dash: '6 5' } : { cap: 'round' as const }) })
    const bored = p.kind === 'nogging' && noggingM !== null ? atHeight(boredAt(p), room.foot + noggingM) : boredAt(p)
    const [bx, by] = at(bored)
    for (const hole of p.kind === 'stud' ? holesOf(p, input, rooms) : p.holes > 0 ? [bored] : []) {
      const [hx, hy] = at(hole)
      shapes.push({ kind: 'circle', x: hx, y: hy, r: 6, fill: 'sheet', stroke: 'ink', width: 2 })
      if (plates.has(i)) shapes.push(line(hx - 9, hy - 10, hx + 9, hy - 10, { width: 4 }))
    }
    if (p.openings > 0) {
      const xs = points.map((q) => q[0])
      const [from, to] = [Math.min(...xs) - 8, Math.max(...xs) + 8]
      shapes.push({ kind: 'rect', x: from, y: by - 14, w: to - from, h: 28, fill: 'none', stroke: 'ink', width: 1.5, dash: '4 3' })
      said.push(...put.put('lining opened', 12.5, [[(from + to) / 2, by - 20]], { anchor: 'middle' }))
    }
    if (p.kind === 'top-plates' || p.kind === 'sole-plate') {
      const fromLeft = mirrored ? whole - along(bored) : along(bored)
      const high = p.kind === 'top-plates' ? PAD.top - 10 : floor + 36
      said.push(...put.put(`${formatMark(fromLeft, units)} from the left`, 12.5, [[bx, high]], { anchor: 'middle', bold: true }))
    }
  }
  return { shapes, said }
}

/** Points and boards on it. */
function standing({ input, room, side, names, units }: ElevationAsked, { x, y, left, put }: Frame): Layer {
  const shapes: Shape[] = []
  const said: Shape[] = []
  for (const f of [...input.points, ...input.boards]) {
    if (!('side' in f) || f.room !== room.id || f.side !== side) continue
    const [px, py] = [x(f.atM), y(f.heightM)]
    shapes.push({
      kind: 'rect',
      x: px - 8,
      y: py - 8,
      w: 16,
      h: 16,
      fill: 'sheet',
      stroke: 'ink',
      width: 2,
      ...(f.outside ? { dash: '4 3' } : {}),
    })
    put.keep(px - 10, py - 10, 20, 20)
    const high = `${formatSmallLength(f.heightM * 1000, units)} up${f.outside ? ', outside' : ''}`
    const words = `${fitText(names.get(f.id) ?? f.id, 150, 12.5)}, ${high}`
    const places = [
      [px + 14, py + 5],
      [px + 14, py - 12],
      [px + 14, py + 24],
      [Math.max(px - 12 - words.length * 7.2, left + 4), py + 5],
    ] as const
    said.push(...put.put(words, 12.5, places, {}))
  }
  return { shapes, said }
}

/** A wall as one faces it from inside its room: framing light, what is in it, and the way through it with every hole. */
export function elevationDrawing(asked: ElevationAsked): Drawing {
  const { input, room, side, names, units } = asked
  const frame = frameOf(asked)
  const { whole, tall, width, height, left, scale } = frame
  const wall: Shape = { kind: 'rect', x: left, y: PAD.top, w: whole * scale, h: tall * scale, fill: 'sheet', stroke: 'ink', width: 2 }
  const layers = [framing, openings, wayIn, standing].map((layer) => layer(asked, frame))
  const closed = mayOpen(input, room.id, side) ? '' : '; its face stays closed'
  const ends = `${formatLength(whole, units)} long, ${formatLength(tall, units)} high${closed}`
  return {
    width,
    height,
    title: `${names.get(room.id) ?? room.id}, ${side} wall as you face it`,
    parts: Object.assign({}, ...layers.map((l) => l.members)) as Record<string, string>,
    ring: 'box',
    shapes: [
      wall,
      ...layers.flatMap((l) => l.shapes),
      ...layers.flatMap((l) => l.said),
      ...frame.put.put(ends, 13, [[left, height - 6]], { fill: 'ink2' }),
    ],
    mmPerUnit: 1000 / scale,
  }
}
