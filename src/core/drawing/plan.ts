import {
  along,
  type BuildingInput,
  joistsMade,
  joistsOf,
  openRooms,
  opensOf,
  type Room,
  type Side,
  sideLength,
  sides,
} from '../building/house'
import type { PictureLie } from '../building/picture'
import { onOuterFace, OUT_M } from '../building/outside'
import { holesOf } from '../building/holes'
import { distance } from '../building/search'
import { supportsOf } from '../building/supports'
import { boredAt, type Part, type Step } from '../building/steps'
import { formatLength, formatMark, type UnitSystem } from '../base/format'
import type { RegionId } from '../region/types'
import { labels } from './labels'
import { type Drawing, fitText, grounded, line, pipe, type Shape, text, wideAs } from './shape'

type Place = readonly [x: number, y: number, z: number]
/** A building seen from above, one storey of it, or from the south, all of it. */
export interface PlanAsked {
  readonly view: 'plan' | 'section'
  readonly floor: number
  readonly input: BuildingInput
  readonly rooms: readonly Room[]
  readonly names: ReadonlyMap<string, string>
  /** The way, in its parts, and what is done along it, numbered. */
  readonly parts: readonly Part[]
  readonly steps: readonly Step[]
  /** Parts over whose holes steel plates go, by their place in the way. */
  readonly plates: ReadonlySet<number>
  /** Parts that lie in pipe, by their place in the way. */
  readonly pipes?: ReadonlySet<number>
  readonly region: RegionId
  readonly units: UnitSystem
  /** A room whose length and width are drawn as dimensions, to be taken hold of. */
  readonly dimensioned?: string | null
  /** A picture that lies under this storey: how it lies, and how high it is for its width. */
  readonly picture?: PictureLie & { readonly src: string; readonly aspect: number }
  readonly format: 'wide' | 'narrow'
}

/** A building through which no way is shown. */
export const noWay: Pick<PlanAsked, 'parts' | 'steps' | 'plates'> = { parts: [], steps: [], plates: new Set() }

const SIZE = 14
const PAD = 26
const wide = { wide: 680, narrow: 350 } as const
const tallest = { wide: 470, narrow: 440 } as const
const bars: Record<UnitSystem, readonly number[]> = { metric: [5, 2, 1, 0.5, 0.2], imperial: [3.048, 1.524, 0.6096, 0.3048, 0.1524] }

interface Frame {
  readonly width: number
  readonly height: number
  readonly scale: number
  readonly at: (p: Place) => readonly [number, number]
}

/** How metres come to the sheet. */
function frameOf({ view, input, format }: PlanAsked, shown: readonly Room[]): Frame {
  const plan = view === 'plan'
  const attic = !plan && input.attic ? input.attic.headM : 0
  const crawl = !plan && input.crawl ? input.crawl.headM : 0
  const west = Math.min(...shown.map((r) => r.west))
  const east = Math.max(...shown.map((r) => r.east))
  const low = Math.min(...shown.map((r) => (plan ? r.south : r.foot))) - crawl
  const high = Math.max(...shown.map((r) => (plan ? r.north : r.head + (r.voidM ?? 0)))) + attic
  const width = wide[format]
  const scale = Math.min((width - 2 * PAD) / Math.max(east - west, 0.5), tallest[format] / Math.max(high - low, 0.5))
  const left = (width - (east - west) * scale) / 2
  const top = PAD
  return {
    width,
    height: top + (high - low) * scale + PAD + 30,
    scale,
    at: ([x, y, z]) => [left + (x - west) * scale, top + (high - (plan ? y : z)) * scale],
  }
}

const d = (points: readonly (readonly [number, number])[]): string =>
  points.map(([x, y], i) => `${i ? 'L' : 'M'}${x.toFixed(1)} ${y.toFixed(1)}`).join('')

/** What is in the walls of a room, on the plan. */
function openingsOf({ input }: PlanAsked, { at, scale }: Frame, shown: readonly Room[]): Shape[] {
  return input.openings.flatMap((o): Shape[] => {
    const room = shown.find((r) => r.id === o.room)
    if (!room) return []
    const [a, b] = [along(room, o.side, o.atM), along(room, o.side, o.atM + o.widthM)].map(([x, y]) => at([x, y, room.foot])) as [
      readonly [number, number],
      readonly [number, number],
    ]
    const level = o.side === 'north' || o.side === 'south'
    const box = (half: number, more: Partial<Extract<Shape, { kind: 'rect' }>>): Shape => ({
      kind: 'rect',
      x: Math.min(a[0], b[0]) - (level ? 0 : half),
      y: Math.min(a[1], b[1]) - (level ? half : 0),
      w: level ? o.widthM * scale : 2 * half,
      h: level ? 2 * half : o.widthM * scale,
      ...more,
    })
    if (o.what === 'door') return [box(3, { fill: 'paper' }), line(a[0], a[1], b[0], b[1], { width: 1, dash: '3 3', stroke: 'ink2' })]
    if (o.what === 'window') return [box(3, { fill: 'paper', stroke: 'ink', width: 1 }), line(a[0], a[1], b[0], b[1], { width: 1 })]
    if (o.what === 'hidden') return [box(3, { fill: 'wash', stroke: 'ink2', width: 1, dash: '2 2' })]
    return [box(5, { fill: 'wash', stroke: 'ink', width: 1 })]
  })
}

/** Where two parts of a room meet there is no wall. */
function opensBetween({ input, rooms }: PlanAsked, { at }: Frame, shown: readonly Room[]): Shape[] {
  return opensOf(input, rooms).flatMap(({ rooms: [room], side, fromM, toM }): Shape[] => {
    if (!shown.includes(room)) return []
    const [[a, b], [p, q]] = [fromM, toM].map((m) => at([...along(room, side, m), room.foot])) as [
      readonly [number, number],
      readonly [number, number],
    ]
    return [line(a, b, p, q, { stroke: 'sheet', width: 5 }), line(a, b, p, q, { stroke: 'ink3', width: 1, dash: '3 5' })]
  })
}

/** Joists as far as they are known: along the way they run on the plan, on end or lengthwise from the south. */
function joistsIn({ view, input, rooms }: PlanAsked, { at }: Frame, shown: readonly Room[]): Shape[] {
  const thin = { stroke: 'rule', width: 1.5 } as const
  return shown.flatMap((r): Shape[] => {
    const lines = joistsOf(input, rooms, r)
    const runs = joistsMade(input, r)?.runs
    if (lines.length === 0 || !runs) return []
    if (view === 'plan')
      return lines.map((m) => {
        const [p, q] = runs === 'east' ? [at([r.west, m, 0]), at([r.east, m, 0])] : [at([m, r.south, 0]), at([m, r.north, 0])]
        return line(p[0], p[1], q[0], q[1], thin)
      })
    const [, top] = at([0, 0, r.head + JOIST_DRAWN_M])
    const [, bottom] = at([0, 0, r.head])
    if (runs === 'north') return lines.map((m) => line(at([m, 0, 0])[0], top, at([m, 0, 0])[0], bottom, { ...thin, width: 3 }))
    const [west, east] = [at([r.west, 0, 0])[0], at([r.east, 0, 0])[0]]
    return [line(west, top, east, top, thin)]
  })
}
/** How deep joists are drawn from the side. */
const JOIST_DRAWN_M = 0.2

/** What is above or below the rooms that are shown, in the attic or the crawl space. */
function obstaclesOf({ input, names }: PlanAsked, { at, scale }: Frame, shown: readonly Room[], put: ReturnType<typeof labels>) {
  const shapes: Shape[] = []
  const said: Shape[] = []
  for (const o of input.obstacles) {
    const room = shown.find((r) => r.id === o.room)
    if (!room) continue
    const [x, y] = at([room.west + o.eastM, room.south + o.northM + o.widthM, room.head])
    const [w, h] = [o.lengthM * scale, o.widthM * scale]
    shapes.push({ kind: 'rect', x, y, w, h, fill: 'none', stroke: 'ink2', width: 1.5, dash: '6 3' })
    const words = fitText(`${names.get(o.id) ?? 'in the way'}, ${o.space === 'attic' ? 'above' : 'below'}`, Math.max(w, 120), 12.5)
    const middle = [x + w / 2, y + h / 2 + 5] as const
    said.push(...put.put(words, 12.5, [middle, [middle[0], y - 6], [middle[0], y + h + 16]], { anchor: 'middle', fill: 'ink2' }))
  }
  return { shapes, said }
}

/** The rooms themselves, each with its name and its measures where they have room. */
function roomsOf(
  asked: PlanAsked,
  frame: Frame,
  shown: readonly Room[],
  put: ReturnType<typeof labels>,
): { shapes: Shape[]; said: Shape[] } {
  const plan = asked.view === 'plan'
  const shapes: Shape[] = []
  const said: Shape[] = []
  for (const r of shown) {
    const [x, y] = frame.at([r.west, r.north, r.head])
    const [right, bottom] = frame.at([r.east, r.south, r.foot])
    const part = `room:${r.id}`
    const fill = asked.picture ? 'none' : 'sheet'
    shapes.push({ kind: 'rect', x, y, w: right - x, h: bottom - y, fill, stroke: 'ink', width: 2 })
    if (!plan) continue
    // Picked by all of it; drawn under the way that leads through it.
    const inset = wallsApart(r, frame) ? THUMB : 0
    shapes.push({ kind: 'rect', x: x + inset, y: y + inset, w: right - x - 2 * inset, h: bottom - y - 2 * inset, fill: 'none', part })

    const room = right - x - 12
    const middle = (x + right) / 2
    const measure = `${formatLength(r.east - r.west, asked.units)} × ${formatLength(r.north - r.south, asked.units)}`
    const mid = (y + bottom) / 2
    const spots = [
      [middle, mid - 2],
      [middle, mid + 22],
      [middle, y + 24],
    ] as const
    // Shortened until it has room: a room without a name is worse than one with half of it.
    const full = asked.names.get(r.id) ?? r.id
    for (const part of [1, 0.8, 0.6]) {
      const named = put.put(fitText(full, room * part, SIZE), SIZE, spots, { anchor: 'middle', bold: true })
      said.push(...named)
      if (named.length) break
    }
    if (room > 7.2 * measure.length && bottom - y > 54)
      said.push(
        ...put.put(
          measure,
          12.5,
          [
            [middle, mid + 16],
            [middle, mid + 36],
          ],
          { anchor: 'middle', fill: 'ink2' },
        ),
      )
  }
  return { shapes, said }
}

/** The dimensions of the room that is looked at, inside its south and west walls: each is a part, which its wall follows. */
function dimensionsOf(
  { dimensioned, units, view, names }: PlanAsked,
  frame: Frame,
  shown: readonly Room[],
  put: ReturnType<typeof labels>,
) {
  const room = view === 'plan' ? shown.find((r) => r.id === dimensioned) : undefined
  const shapes: Shape[] = []
  const parts: Record<string, string> = {}
  if (!room) return { shapes, parts }
  const [[x, y], [right, bottom]] = [frame.at([room.west, room.north, 0]), frame.at([room.east, room.south, 0])]
  const thin = { stroke: 'ink2', width: 1.5 } as const
  const tick = (u: number, v: number) => line(u - TICK, v + TICK, u + TICK, v - TICK, thin)
  for (const which of ['width', 'length'] as const) {
    const level = which === 'length'
    const metres = level ? room.east - room.west : room.north - room.south
    const words = formatMark(metres, units)
    const wide = wideAs(words, 12.5)
    if ((level ? right - x : bottom - y) < wide + 3 * DIMENSION_IN || (level ? bottom - y : right - x) < 3 * DIMENSION_IN) continue
    const [ends, middle] = level
      ? ([
          [x, bottom - DIMENSION_IN, right, bottom - DIMENSION_IN],
          [(x + right) / 2, bottom - DIMENSION_IN],
        ] as const)
      : ([
          [x + DIMENSION_IN, y, x + DIMENSION_IN, bottom],
          [x + DIMENSION_IN, (y + bottom) / 2],
        ] as const)
    const said = put.put(
      words,
      12.5,
      [0, 0.2, -0.2].map((by) => [middle[0] + (level ? by * (right - x) : wide / 2 - 6), middle[1] + 4 + (level ? 0 : by * (bottom - y))]),
      { anchor: 'middle', bold: true },
    )
    const part = `dim:${which}:${room.id}`
    const at = said.find((s) => s.kind === 'text')
    if (!at || at.kind !== 'text') continue
    parts[part] = `${which} of ${names.get(room.id) ?? room.id}, ${words}`
    // What comes after keeps off it.
    const [p, q, u, v] = ends
    keepLine(
      [
        [p, q],
        [u, v],
      ],
      put,
      TICK + 1,
    )
    shapes.push(line(...ends, thin), tick(ends[0], ends[1]), tick(ends[2], ends[3]), ...said)
    shapes.push({
      kind: 'rect',
      x: at.x - Math.max(wide, THUMB) / 2,
      y: at.y - 4 - THUMB / 2,
      w: Math.max(wide, THUMB),
      h: THUMB,
      fill: 'none',
      part,
    })
  }
  return { shapes, parts }
}
/** Dimensions are drawn so far inside a room. */
const DIMENSION_IN = 26

/** Whether a room is drawn so large that a thumb finds its walls apart from it. */
const wallsApart = (r: Room, { scale }: Frame): boolean => Math.min(r.east - r.west, r.north - r.south) * scale >= 3 * THUMB
/** What a thumb needs, in units of the drawing. */
const THUMB = 44

/** The walls of a room as parts that can be picked, on the plan; of a small room they are picked beside it. */
function wallsOf({ names }: PlanAsked, frame: Frame, shown: readonly Room[]): { shapes: Shape[]; parts: Record<string, string> } {
  const parts: Record<string, string> = {}
  const shapes: Shape[] = []
  for (const room of shown.filter((r) => wallsApart(r, frame)))
    for (const side of sides) {
      const [p, q] = [along(room, side, 0), along(room, side, sideLength(room, side))].map(([x, y]) => frame.at([x, y, 0])) as [
        readonly [number, number],
        readonly [number, number],
      ]
      const level = side === 'north' || side === 'south'
      // Inside its room, so that a wall of two rooms is picked from either.
      const inward = side === 'north' || side === 'west' ? 0 : -THUMB
      const part = `wall:${side}:${room.id}`
      parts[part] = `${names.get(room.id) ?? room.id}, ${side} wall`
      shapes.push({
        kind: 'rect',
        x: Math.min(p[0], q[0]) + (level ? THUMB : inward),
        y: Math.min(p[1], q[1]) + (level ? inward : THUMB),
        w: level ? Math.abs(q[0] - p[0]) - 2 * THUMB : THUMB,
        h: level ? THUMB : Math.abs(q[1] - p[1]) - 2 * THUMB,
        fill: 'none',
        part,
      })
    }
  return { shapes, parts }
}

/** Places for the name of what is at a wall: within the room, off its walls. */
function inside(side: Side | null, x: number, y: number, wide: number): readonly (readonly [number, number])[] {
  const [above, below] = [y - 14, y + 24]
  if (side === 'north')
    return [
      [x - 8, below],
      [x + 8 - wide, below],
      [x - 8, below + 18],
    ]
  if (side === 'south')
    return [
      [x - 8, above],
      [x + 8 - wide, above],
      [x - 8, above - 18],
    ]
  if (side === 'east')
    return [
      [x - 12 - wide, y + 5],
      [x - 12 - wide, below],
      [x - 12 - wide, above],
    ]
  return [
    [x + 12, y + 5],
    [x + 12, below],
    [x + 12, above],
  ]
}

/** What is on an outer face is drawn at least so far off its wall. */
const APART = 9
/** Points and boards where they are. */
function standing(asked: PlanAsked, frame: Frame, shown: readonly Room[], put: ReturnType<typeof labels>) {
  const shapes: Shape[] = []
  const said: Shape[] = []
  const parts: Record<string, string> = {}
  const boards = new Set(asked.input.boards.map((b) => b.id))
  for (const f of [...asked.input.points, ...asked.input.boards]) {
    const room = shown.find((r) => r.id === f.room)
    if (!room) continue
    const [px, py] =
      'side' in f
        ? onOuterFace(room, f.side, f.atM, f.outside ? Math.max(OUT_M, APART / frame.scale) : 0)
        : [room.west + f.eastM, room.south + f.northM]
    const [x, y] = frame.at([px, py, 'side' in f ? room.foot + f.heightM : f.underfoot ? room.foot : room.head])
    const board = boards.has(f.id)
    const part = asked.view === 'plan' ? `${board ? 'board' : 'point'}:${f.id}` : undefined
    const name = asked.names.get(f.id) ?? f.id
    if (part) parts[part] = name
    const of = part ? { part } : {}
    if (part) shapes.push({ kind: 'rect', x: x - THUMB / 2, y: y - THUMB / 2, w: THUMB, h: THUMB, fill: 'none', part })
    if (board) shapes.push({ kind: 'rect', x: x - 9, y: y - 6, w: 18, h: 12, fill: 'ink', ...of })
    else if ('side' in f) shapes.push({ kind: 'rect', x: x - 5, y: y - 5, w: 10, h: 10, fill: 'sheet', stroke: 'ink', width: 2, ...of })
    else shapes.push({ kind: 'circle', x, y, r: 6, fill: 'sheet', stroke: 'ink', width: 2, ...of })
    put.keep(x - 10, y - 8, 20, 16)
    const words = fitText(name, Math.min(150, Math.max(40, (room.east - room.west) * frame.scale - 30)), 12.5)
    said.push(...put.put(words, 12.5, inside('side' in f && asked.view === 'plan' ? f.side : null, x, y, wideAs(words, 12.5))))
  }
  return { shapes, said, parts }
}

const thinly = { stroke: 'ink3', width: 1.5, dash: '6 4' } as const
/** The roof over the attic, from the south: with its slope and its rafters as far as they are known, else only that there is one. */
function roofOf({ input, rooms }: PlanAsked, { at }: Frame, put: ReturnType<typeof labels>): Shape[] {
  const under = openRooms(rooms, true)
  if (!input.attic || under.length === 0) return []
  const { headM, roof } = input.attic
  const [west, east] = [Math.min(...under.map((r) => r.west)), Math.max(...under.map((r) => r.east))]
  const head = Math.max(...under.map((r) => r.head))
  const top = at([(west + east) / 2, 0, head + headM])
  const eavesM = Math.min(roof?.eavesM ?? 0, headM)
  const [left, right] = [west, east].map((x) => [at([x, 0, head]), at([x, 0, head + eavesM]), at([x, 0, head + headM])] as const)
  const lengthwise = roof?.ridge === 'east'
  const edge = lengthwise ? [left![0], left![2], right![2], right![0]] : [left![0], left![1], top, right![1], right![0]]
  // Of a ridge that runs across the view each rafter is seen from its side; they are next to the joists that run as they do.
  const rafters = lengthwise ? under.flatMap((r) => (joistsMade(input, r)?.runs === 'north' ? joistsOf(input, rooms, r) : [])) : []
  return [
    { kind: 'path', d: d(edge), ...thinly },
    ...rafters.map((x) => line(at([x, 0, 0])[0], at([x, 0, head + eavesM])[1], at([x, 0, 0])[0], top[1], { stroke: 'rule', width: 1.5 })),
    ...put.put('attic', 12.5, [[top[0], top[1] + 26]], { anchor: 'middle', fill: 'ink2' }),
  ]
}

/** What lies above and below the rooms, from the south. */
function openSpaces(asked: PlanAsked, frame: Frame, shown: readonly Room[], put: ReturnType<typeof labels>): Shape[] {
  const { input } = asked
  const { at } = frame
  const foot = Math.min(...shown.map((r) => r.foot))
  const out: Shape[] = []
  for (const r of shown) {
    if (r.voidM === null) continue
    const [[x, y], [right, bottom]] = [at([r.west, 0, r.head + r.voidM]), at([r.east, 0, r.head])]
    out.push({ kind: 'rect', x, y, w: right - x, h: bottom - y, ...thinly })
  }
  if (input.attic) out.push(...roofOf(asked, frame, put))
  const below = openRooms(shown, false)
  if (input.crawl && below.length > 0) {
    const [west, east] = [Math.min(...below.map((r) => r.west)), Math.max(...below.map((r) => r.east))]
    const low = foot - input.crawl.headM
    out.push({ kind: 'path', d: d([at([west, 0, foot]), at([west, 0, low]), at([east, 0, low]), at([east, 0, foot])]), ...thinly })
    const [x, y] = at([(west + east) / 2, 0, low])
    out.push(...put.put('crawl space', 12.5, [[x, y - 6]], { anchor: 'middle', fill: 'ink2' }))
  }
  return out
}

/** Where a step is done: what is laid, half way along it. */
function spotOf({ parts }: PlanAsked, { mark, at, parts: of }: Step): Place {
  return mark === 'cable' ? halfWay(parts[of[0]!]!.path) : at
}
function halfWay(path: readonly Place[]): Place {
  let left = path.reduce((sum, p, i) => (i ? sum + distance(path[i - 1]!, p) : 0), 0) / 2
  for (const [i, q] of path.entries()) {
    const p = path[i - 1]
    if (!p) continue
    const metres = distance(p, q)
    if (left <= metres && metres > 0) {
      const part = left / metres
      return [p[0] + part * (q[0] - p[0]), p[1] + part * (q[1] - p[1]), p[2] + part * (q[2] - p[2])]
    }
    left -= metres
  }
  return path.at(-1)!
}

/** The way as the strand itself, a part of it at a time, and the numbers of what is done along it. */
function wayOf(asked: PlanAsked, { at }: Frame, put: ReturnType<typeof labels>) {
  const shapes: Shape[] = []
  const said: Shape[] = []
  const parts: Record<string, string> = {}
  const here = (p: Place): boolean => {
    const of = asked.rooms.filter((r) => r.floor === asked.floor)
    return asked.view === 'section' || of.some((r) => p[2] >= r.foot - 1.5 && p[2] <= r.head + 1.5)
  }
  for (const [i, part] of asked.parts.entries()) {
    const points = part.path.map(at)
    const elsewhere = !part.path.some(here)
    const dash = elsewhere ? { dash: '2 7' } : part.kind === 'attic' || part.kind === 'crawl' ? { dash: '12 5' } : {}
    if (asked.pipes?.has(i) && !elsewhere) shapes.push(...pipe(d(points)))
    else shapes.push({ kind: 'path', d: d(points), stroke: 'ink', width: elsewhere ? 2.5 : 5, cap: 'round', ...dash })
    const [x, y] = at(boredAt(part))
    if (!elsewhere) shapes.push(...ticks(supportsOf(part, asked.region).map(at), points))
    const holes = holesOf(part, asked.input, asked.rooms).map(at)
    // Many are close: they are drawn small.
    for (const [hx, hy] of holes)
      shapes.push({ kind: 'circle', x: hx, y: hy, r: holes.length > 1 ? 3 : 5, fill: 'sheet', stroke: 'ink', width: 1.5 })
    if (asked.plates.has(i)) shapes.push(line(x - 9, y - 8, x + 9, y - 8, { width: 4 }))
    if (part.openings > 0)
      shapes.push({
        kind: 'rect',
        x: x - 8,
        y: y - 8,
        w: 16,
        h: 16,
        fill: 'none',
        stroke: 'ink',
        width: 1.5,
        dash: '3 2',
      })
  }
  // Steps that fall on one spot share it.
  const spots = new Map<string, { readonly x: number; readonly y: number; readonly steps: number[] }>()
  for (const [i, s] of asked.steps.entries()) {
    const spot = spotOf(asked, s)
    if (!here(spot)) continue
    const [x, y] = at(spot)
    const key = `${Math.round(x / 16)} ${Math.round(y / 16)}`
    if (!spots.has(key)) spots.set(key, { x, y, steps: [] })
    spots.get(key)!.steps.push(i)
  }
  for (const { x, y, steps } of spots.values()) {
    const part = `step:${steps[0]!}`
    const places = [
      [x + 11, y - 10],
      [x + 11, y + 21],
      [x - 26, y - 10],
      [x - 26, y + 21],
      [x + 26, y + 5],
      [x - 40, y + 5],
      [x + 11, y - 28],
      [x + 11, y + 39],
    ] as const
    const numbers = put.put(steps.map((i) => i + 1).join(', '), 13, places, { bold: true, part })
    const [spot] = numbers
    if (spot?.kind === 'rect')
      said.push({
        kind: 'rect',
        x: spot.x + spot.w / 2 - THUMB / 2,
        y: spot.y + spot.h / 2 - THUMB / 2,
        w: THUMB,
        h: THUMB,
        fill: 'none',
        part,
      })
    if (numbers.length) parts[part] = steps.map((i) => `Step ${i + 1}: ${asked.steps[i]!.words}`).join(' ')
    said.push(...numbers)
  }
  return { shapes, said, parts }
}

/** A tick across the way where it is fixed. */
function ticks(places: readonly (readonly [number, number])[], points: readonly (readonly [number, number])[]): Shape[] {
  return places.map(([x, y]) => {
    const piece = points.findIndex(([p, q], i) => {
      const [a, b] = points[i - 1] ?? [p, q]
      return i > 0 && Math.abs(Math.hypot(x - a, y - b) + Math.hypot(p - x, q - y) - Math.hypot(p - a, q - b)) < 0.5
    })
    const [[a, b], [p, q]] = [points[Math.max(piece - 1, 0)]!, points[Math.max(piece, 1)]!]
    const long = Math.max(Math.hypot(p - a, q - b), 1e-6)
    const [u, v] = [((q - b) / long) * TICK, ((p - a) / long) * TICK]
    return line(x - u, y + v, x + u, y - v, { width: 1.5 })
  })
}
/** Half of a tick. */
const TICK = 6

/** No words on the walls of a room, nor on the way. */
function keepWalls({ at }: Frame, r: Room, { keep }: ReturnType<typeof labels>): void {
  const [[x, y], [right, bottom]] = [at([r.west, r.north, r.foot]), at([r.east, r.south, r.foot])]
  keep(x, y - 3, right - x, 6)
  keep(x, bottom - 3, right - x, 6)
  keep(x - 3, y, 6, bottom - y)
  keep(right - 3, y, 6, bottom - y)
}
function keepLine(points: readonly (readonly [number, number])[], { keep }: ReturnType<typeof labels>, half = 4): void {
  for (const [i, [x, y]] of points.entries()) {
    const [p, q] = points[i + 1] ?? [x, y]
    const steps = Math.max(1, Math.ceil(Math.hypot(p - x, q - y) / 8))
    for (let k = 0; k <= steps; k++) keep(x + ((p - x) * k) / steps - half, y + ((q - y) * k) / steps - half, 2 * half, 2 * half)
  }
}

/** The picture that lies under a plan, as it comes to the sheet. */
function backdropOf({ picture, view }: PlanAsked, { at, scale }: Frame): Pick<Drawing, 'backdrop'> {
  if (!picture || view !== 'plan') return {}
  const { src, corner, widthM, aspect, turnedDeg } = picture
  const [x, y] = at([...corner, 0])
  return { backdrop: { src, x, y, w: widthM * scale, h: widthM * aspect * scale, turnedDeg } }
}

/** The plan of a storey, or the whole from the south, to scale: rooms thin, the way through them as the strand, its steps numbered. */
export function planDrawing(asked: PlanAsked): Drawing {
  const plan = asked.view === 'plan'
  const shown = plan ? asked.rooms.filter((r) => r.floor === asked.floor) : asked.rooms
  if (shown.length === 0) return { width: wide[asked.format], height: 60, title: 'No room on this floor', shapes: [] }
  const frame = frameOf(asked, shown)
  const put = labels(frame.width, frame.height - 26, 'sheet')
  const walls = plan ? wallsOf(asked, frame, shown) : { shapes: [], parts: {} }
  if (plan) for (const r of shown) keepWalls(frame, r, put)
  // Its supports are ticks across it.
  for (const { path } of asked.parts) keepLine(path.map(frame.at), put, TICK + 1)
  const dimensions = dimensionsOf(asked, frame, shown, put)
  const things = standing(asked, frame, shown, put)
  const way = wayOf(asked, frame, put)
  const house = roomsOf(asked, frame, shown, put)
  const above = plan ? obstaclesOf(asked, frame, shown, put) : { shapes: [], said: [] }
  const foot = frame.height - 12
  const bar = bars[asked.units].find((m) => m * frame.scale < frame.width / 4) ?? bars[asked.units].at(-1)!
  const scaleBar: Shape[] = [
    line(PAD, foot, PAD + bar * frame.scale, foot, { width: 3 }),
    ...grounded(text(PAD + bar * frame.scale + 8, foot + 5, formatLength(bar, asked.units), 13)),
    ...grounded(text(frame.width - PAD, foot + 5, plan ? 'north is up' : 'seen from the south', 13, { anchor: 'end', fill: 'ink2' })),
  ]
  const rooms = plan ? Object.fromEntries(shown.map((r) => [`room:${r.id}`, asked.names.get(r.id) ?? r.id])) : {}
  return {
    width: frame.width,
    height: frame.height,
    title: plan ? 'Plan' : 'Section',
    ...backdropOf(asked, frame),
    shapes: [
      ...house.shapes,
      ...joistsIn(asked, frame, shown),
      ...(plan ? [...opensBetween(asked, frame, shown), ...openingsOf(asked, frame, shown)] : openSpaces(asked, frame, shown, put)),
      ...above.shapes,
      ...walls.shapes,
      ...way.shapes,
      ...things.shapes,
      ...house.said,
      ...above.said,
      ...things.said,
      ...way.said,
      ...dimensions.shapes,
      ...scaleBar,
    ],
    parts: { ...rooms, ...walls.parts, ...things.parts, ...way.parts, ...dimensions.parts },
    ring: 'box',
    mmPerUnit: 1000 / frame.scale,
  }
}
