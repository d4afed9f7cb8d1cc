import { deviceWords, endWords, jointName, leadsWords, placeWords } from '../build/words'
import type { Box } from '../build/box'
import { type CableAt, type CoreEnd, isAt } from '../build/cores'
import { nodeOf } from '../wired/laid'
import { LIVE_V, type Live, type Potential } from '../wired/live'
import { connector } from '../catalogue/connectors'
import { CAP, tailEndName, terminalName } from '../job/bench'
import { sentence } from '../job/part'
import { formatSize } from '../base/format'
import { type WireColour, wireColours } from '../region/colours'
import { labels } from './labels'
import { type Drawing, grounded, line, type Paint, type Shape, text, wideAs, wrapText } from './shape'

type Point = readonly [x: number, y: number]
const formats = {
  wide: { width: 690, spread: 46, perRow: 14, deviceW: 250, deviceH: 170 },
  narrow: { width: 344, spread: 46, perRow: 7, deviceW: 248, deviceH: 170 },
} as const
type Format = keyof typeof formats
const TAG_H = 56
const ROW = 150
const pale: readonly WireColour[] = ['white', 'yellow', 'bare', 'greenYellow', 'grey']

/** Parts of the drawing, by what they are. */
export const endPart = (name: string): string => `end ${name}`
export const placePart = (to: string): string => `to ${to}`

/** "230 V", "0 V", "floats": what is written once where a conductor ends. */
export const potentialWords = (at: Potential | undefined): string =>
  at === undefined ? '' : at === null ? 'floats' : at < 0.5 ? '0 V' : `${at >= 10 ? Math.round(at) : at.toFixed(1)} V`

interface Stroke {
  readonly from: Point
  readonly to: Point
  readonly colour: WireColour
  readonly remark: WireColour | undefined
  readonly at: Potential | undefined
  readonly amps: number
}

/** A conductor: outline, colour, stripe, and what it is at as a finer line along it. */
function conductor({ from, to, colour, remark, at, amps }: Stroke, format: Format): Shape[] {
  const [[x1, y1], [x2, y2]] = [from, to]
  const bow = Math.min(70, Math.abs(y1 - y2) * 0.5)
  const d = `M${x1} ${y1}C${x1} ${y1 - bow} ${x2} ${y2 + bow} ${x2} ${y2}`
  const stroke = (paint: Paint, width: number, more: { dash?: string; moves?: 'on' | 'back' } = {}): Shape => ({
    kind: 'path',
    d,
    stroke: paint,
    width,
    fill: 'none',
    cap: 'round',
    ...more,
  })
  const paint = wireColours[colour]
  const thick = format === 'wide' ? 8 : 7
  const fine: Paint = pale.includes(colour) ? '#1b1b1b' : '#fbfbf8'
  const live = at !== undefined && at !== null && at > LIVE_V
  return [
    stroke('ink', thick + 3),
    stroke(paint.fill, thick),
    ...('stripe' in paint ? [stroke(paint.stripe, thick, { dash: '9 9' })] : []),
    ...(remark ? mark(from, wireColours[remark].fill) : []),
    ...(live ? [stroke(fine, 2, { dash: '9 7', moves: amps < 0 ? ('back' as const) : ('on' as const) })] : []),
    ...(at === null ? [stroke(fine, 2, { dash: '1 6' })] : []),
  ]
}
const mark = ([x, y]: Point, fill: Paint): Shape[] => [
  { kind: 'rect', x: x - 7, y: y - 20, w: 14, h: 13, r: 2, fill, stroke: 'ink', width: 1.5 },
]

/** Cables in rows, so that each row fits, with where each core comes out. */
function rowsOf(cables: readonly CableAt[], perRow: number): readonly (readonly CableAt[])[] {
  const rows: CableAt[][] = [[]]
  let used = 0
  for (const k of cables) {
    if (used > 0 && used + k.ends.length > perRow) {
      rows.push([])
      used = 0
    }
    rows.at(-1)!.push(k)
    used += k.ends.length
  }
  return rows
}

const middle = (list: readonly number[]): number => (list.length ? list.reduce((a, b) => a + b, 0) / list.length : 0)

/** What is drawn, and what each end and place of it is at where the wiring was solved. */
interface Shown {
  readonly box: Box
  readonly live: Live | null
  readonly format: Format
  readonly at: (name: string) => Potential | undefined
  /** Where each end of a conductor is put to. */
  readonly target: ReadonlyMap<string, string>
}
/** A part of the drawing: its shapes, and what its parts are for those who hear it. */
interface Section {
  readonly shapes: readonly Shape[]
  readonly parts: Readonly<Record<string, string>>
}
const TOP = 62

/** Devices from behind side by side, and where each of their terminals is. */
function devicesAt({ box, format }: Shown) {
  const { width, deviceW, deviceH } = formats[format]
  const across = format === 'wide' ? Math.max(1, Math.min(2, box.devices.length)) : 1
  const rows = Math.ceil(box.devices.length / across)
  const places = new Map<string, Point>()
  const names: Shape[] = []
  const shapes = box.devices.flatMap((d, i) => {
    const x = (width / across) * ((i % across) + 0.5) - deviceW / 2
    const y = TOP + Math.floor(i / across) * (deviceH + 60)
    for (const t of d.kind.terminals) places.set(terminalName(d.id, t.id), [x + (deviceW * t.at[0]) / 100, y + (deviceH * t.at[1]) / 100])
    names.push(...deviceName(deviceWords(box, d), d.broken.length, x + deviceW / 2, y, deviceW))
    return [{ kind: 'rect', x, y, w: deviceW, h: deviceH, r: 12, fill: 'sheet', stroke: 'ink', width: 2.5 } as const]
  })
  return { shapes, names, places, bottom: TOP + rows * (deviceH + 60) + (rows ? 6 : 40) }
}

/** Where the cores of a row come out, before they are ordered. */
function roughlyAt(rows: readonly (readonly CableAt[])[], { width, spread }: { width: number; spread: number }): Map<string, number> {
  const roughly = new Map<string, number>()
  for (const row of rows) {
    const ends = row.flatMap((k) => k.ends)
    for (const [i, e] of ends.entries()) roughly.set(e.name, width / 2 + (i - (ends.length - 1) / 2) * spread)
  }
  return roughly
}

/** Where connectors are: over what comes to them, so that as few conductors as can be cross. Says how many rows they take. */
function connectorsAt(
  { box, format, target }: Shown,
  terminals: ReadonlyMap<string, Point>,
  roughly: ReadonlyMap<string, number>,
  top: number,
) {
  const { width } = formats[format]
  const perRow = format === 'wide' ? 6 : 3
  const tailsOf = (c: string): readonly number[] =>
    box.bench.tails.flatMap((t) => {
      const ends = (['a', 'b'] as const).map((side) => target.get(tailEndName(t.id, side)) ?? '')
      return ends.includes(c) ? ends.flatMap((e) => terminals.get(e)?.[0] ?? []) : []
    })
  // First by where their tails go, then by what comes up to them.
  const aim = new Map(
    box.bench.connectors.map((c) => {
      const tails = tailsOf(c.id)
      const from = box.bench.ends.flatMap((e) => (e.to === c.id && roughly.has(e.end) ? [roughly.get(e.end)!] : []))
      return [c.id, middle(tails.length ? tails : from)]
    }),
  )
  const connectors = box.bench.connectors.toSorted((a, b) => aim.get(a.id)! - aim.get(b.id)!)
  const places = new Map(
    connectors.map(({ id }, i): [string, Point] => {
      const row = Math.floor(i / perRow)
      const inRow = Math.min(perRow, connectors.length - row * perRow)
      return [id, [(width / inRow) * ((i % perRow) + 0.5), top + 40 + row * 96]]
    }),
  )
  return { connectors, places, rows: Math.ceil(connectors.length / perRow) }
}

/** One core that comes in: the conductor to where it ends, and the tag at its root. */
function coreIn(shown: Shown, k: CableAt, e: CoreEnd, [x, y]: Point, places: ReadonlyMap<string, Point>) {
  const { box, live, at, target, format } = shown
  const to = target.get(e.name)
  const amps = flowIn(box, live, k, e)
  const marked = box.bench.marked.includes(e.name)
  const words = potentialWords(at(e.name))
  const stroke: Stroke = {
    from: [x, y],
    to: (to === undefined || to === CAP ? undefined : places.get(to)) ?? [x, y - 26],
    colour: e.conductor.colour,
    remark: marked ? (e.conductor.remark ?? 'black') : e.conductor.role === 'pe' ? e.conductor.remark : undefined,
    at: at(e.name),
    amps,
  }
  const cap: Shape[] = to === CAP ? [{ kind: 'circle', x, y: y - 30, r: 7, fill: 'wash', stroke: 'ink', width: 2 }] : []
  return {
    stroke,
    tags: [...cap, ...endTag(e.name, x, y, formats[format].spread, wireColours[e.conductor.colour].letter, words, amps)],
    words: `${endWords(box, e.name)}, ${to ? `on ${placeWords(box, to)}` : 'ends nowhere'}${words ? `, ${words}` : ''}`,
  }
}

/** Cables in rows below, every core from where it comes to where it ends. */
function cablesIn(
  shown: Shown,
  rows: readonly (readonly CableAt[])[],
  roughly: ReadonlyMap<string, number>,
  places: ReadonlyMap<string, Point>,
  top: number,
) {
  const { width, spread } = formats[shown.format]
  const strokes: Stroke[] = []
  const tags: Shape[] = []
  const sheaths: Shape[] = []
  const parts: Record<string, string> = {}
  const goalOf = (e: CoreEnd): number => places.get(shown.target.get(e.name) ?? '')?.[0] ?? roughly.get(e.name)!
  for (const [r, row] of rows.entries()) {
    const y = top + 26 + r * (ROW + TAG_H)
    const count = row.reduce((n, k) => n + k.ends.length, 0)
    const gap = row.length > 1 ? Math.min(22, (width - 16 - count * spread) / (row.length - 1)) : 0
    let x = width / 2 - (count * spread + gap * (row.length - 1)) / 2 + spread / 2
    for (const k of row) {
      const left = x - spread / 2
      for (const e of k.ends.toSorted((a, b) => goalOf(a) - goalOf(b))) {
        const core = coreIn(shown, k, e, [x, y], places)
        strokes.push(core.stroke)
        tags.push(...core.tags)
        parts[endPart(e.name)] = core.words
        x += spread
      }
      sheaths.push(...sheath(shown.box, k, left, x - spread / 2, y + TAG_H + 4))
      x += gap
    }
  }
  return { strokes, tags, sheaths, parts }
}

/** Tails between what is in the box, where both their ends are in it. */
const tailsIn = ({ box, at, target }: Shown, places: ReadonlyMap<string, Point>): Stroke[] =>
  box.bench.tails.flatMap((t) => {
    const [a, b] = (['a', 'b'] as const).map((s) => places.get(target.get(tailEndName(t.id, s)) ?? ''))
    if (!a || !b) return []
    const [from, to] = a[1] > b[1] ? [a, b] : [b, a]
    return [{ from, to, colour: t.colour, remark: undefined, at: at(tailEndName(t.id, 'a')), amps: 0 }]
  })

/** A connector: how many of its ports are taken, and what it is at. */
function connectorShapes({ box, at }: Shown, c: Box['bench']['connectors'][number], [x, y]: Point): Section {
  const ends = box.bench.ends.filter((e) => e.to === c.id).length
  const part = placePart(c.id)
  const of = connector(c.kind)
  const stands = potentialWords(at(c.id))
  const held = of.ofBox ? 'own terminal' : `${of.twisted ? 'twist' : c.kind === 'block' ? 'block' : 'lever'} ${ends}/${of.most}`
  return {
    shapes: [
      { kind: 'rect', x: x - 48, y: y - 24, w: 96, h: 48, r: 24, fill: 'sheet', stroke: 'ink', width: 2, part },
      text(x, y - 4, of.ofBox ? 'metal box' : jointName(box, c), 14, { anchor: 'middle', bold: true, part }),
      text(x, y + 15, stands || held, 13, { anchor: 'middle', fill: 'ink2', part }),
    ],
    parts: { [part]: `${of.ofBox ? of.name : `${sentence(jointName(box, c))}, ${of.name}`}, holds ${ends}${stands && `, ${stands}`}` },
  }
}

/** The terminals of all devices, their marks, and what they are at. */
function terminalsIn({ box, format, at }: Shown, terminals: ReadonlyMap<string, Point>, below: number): Section {
  const { keep, put } = labels(formats[format].width, below + 600, 'sheet')
  for (const [x, y] of terminals.values()) keep(x - 11, y - 11, 22, 22)
  const shapes: Shape[] = []
  const parts: Record<string, string> = {}
  for (const d of box.devices)
    for (const t of d.kind.terminals) {
      const name = terminalName(d.id, t.id)
      const [x, y] = terminals.get(name)!
      const part = placePart(name)
      const words = potentialWords(at(name))
      shapes.push(
        { kind: 'rect', x: x - 22, y: y - 22, w: 44, h: 44, r: 4, fill: 'none', part },
        { kind: 'circle', x, y, r: 9, fill: 'sheet', stroke: 'ink', width: 2, part },
        { ...line(x - 5, y - 5, x + 5, y + 5, { width: 2 }), part },
        ...beside(put, t.mark, 14, [x, y], t.at[0] < 50, { bold: true }),
        ...(words ? beside(put, words, 13, [x, y], t.at[0] < 50, { fill: 'ink2' }) : []),
      )
      parts[part] = `${placeWords(box, name)} of ${deviceWords(box, d)}${words ? `, ${words}` : ''}`
    }
  return { shapes, parts }
}

/**
 * A box unfolded as one looks into it: devices from behind above, connectors in the middle, cables coming in below; every conductor from
 * where it comes to where it ends, with what it is at where the wiring was solved.
 */
export function benchDrawing(box: Box, live: Live | null, format: Format = 'wide'): Drawing {
  const { width, perRow } = formats[format]
  const target = new Map(box.bench.ends.map((e) => [e.end, e.to]))
  const shown: Shown = { box, live, format, target, at: (name) => live?.potentials[nodeOf(box.id, name)] }
  const rows = rowsOf(box.cables, perRow)
  const roughly = roughlyAt(rows, formats[format])
  const devices = devicesAt(shown)
  const joined = connectorsAt(shown, devices.places, roughly, devices.bottom)
  const places = new Map([...devices.places, ...joined.places])
  const bottom = devices.bottom + joined.rows * 96 + 44
  const cables = cablesIn(shown, rows, roughly, places, bottom)
  const connectors = joined.connectors.map((c) => connectorShapes(shown, c, joined.places.get(c.id)!))
  const terminals = terminalsIn(shown, devices.places, devices.bottom)
  const shapes: Shape[] = [
    { kind: 'rect', x: 6, y: 8, w: width - 12, h: bottom - 8, r: 10, fill: 'none', stroke: 'ink3', width: 2, dash: '7 5' },
    ...devices.shapes,
    ...[...cables.strokes, ...tailsIn(shown, places)].flatMap((s) => conductor(s, format)),
    ...connectors.flatMap((c) => c.shapes),
    ...devices.names,
    ...terminals.shapes,
    ...cables.tags,
    ...cables.sheaths,
    ...(box.devices.length ? [] : [text(width / 2, 34, 'no device in this box: joints only', 15, { anchor: 'middle', fill: 'ink2' })]),
  ]
  const lowest = Math.max(...shapes.map((s) => (s.kind === 'text' ? s.y : s.kind === 'rect' ? s.y + s.h : 0)))
  return {
    width,
    height: lowest + 10,
    title: `Box of ${box.name}, opened`,
    shapes,
    parts: Object.assign({}, cables.parts, ...connectors.map((c) => c.parts), terminals.parts),
    ring: 'box',
  }
}

/** Words by a terminal: inwards of it where there is room, else over or under it, and on no other’s. */
function beside(
  put: ReturnType<typeof labels>['put'],
  words: string,
  size: number,
  [x, y]: Point,
  fromLeft: boolean,
  more: { bold?: boolean; fill?: Paint },
): readonly Shape[] {
  const half = wideAs(words, size) / 2 + 13
  const [inwards, outwards] = fromLeft ? [x + half, x - half] : [x - half, x + half]
  const places = [inwards, outwards].flatMap((at) => [
    [at, y - 2],
    [at, y + 17],
  ]) as [number, number][]
  const stacked = [-17, 27, -36, 46, -55].map((dy): [number, number] => [x, y + dy])
  const shown = put(words, size, [places[0]!, places[1]!, ...stacked, places[2]!, places[3]!], { anchor: 'middle', ...more })
  // Marks are capitals, which are wider than most words: so is the ground they are on.
  return shown.map((s) => (s.kind === 'rect' ? { ...s, x: s.x - 3, w: s.w + 6 } : s))
}

/** What a device is, over it; conductors of what is above it pass behind its name. */
function deviceName(called: string, tabsOut: number, middle: number, y: number, w: number): readonly Shape[] {
  const broken = tabsOut ? `, ${tabsOut === 1 ? 'a tab' : 'tabs'} out` : ''
  const name = wrapText(`${called}${broken}`, w + 40, 15, 2)
  return name.flatMap((words, i) =>
    grounded(text(middle, y - 10 - (name.length - 1 - i) * 17, words, 15, { anchor: 'middle', bold: true })),
  )
}

/** Amperes that flow into the box in a core; below zero, out of it. */
function flowIn(box: Box, live: Live | null, k: CableAt, e: CoreEnd): number {
  const along = live?.amps[`wire ${k.id} ${e.core}`] ?? live?.amps[`${k.point} ${e.name}`] ?? 0
  return k.recorded && isAt(k.recorded.to, k.point) ? along : -along
}
const flowWords = (amps: number): string => {
  const size = Math.abs(amps)
  return `${amps > 0 ? '↑' : '↓'}${size >= 10 ? Math.round(size) : size.toFixed(1)} A`
}

/** The letters of a core with what it is at and what flows in it. */
function endTag(name: string, x: number, y: number, spread: number, letters: string, words: string, amps: number): Shape[] {
  const part = endPart(name)
  return [
    { kind: 'rect', x: x - spread / 2 + 1, y, w: spread - 2, h: TAG_H, r: 3, fill: 'sheet', stroke: 'ink', width: 1, part },
    text(x, y + 15, letters, letters.length > 3 ? 12 : 14, { anchor: 'middle', bold: true, part }),
    ...(words ? [text(x, y + 32, words, 12, { anchor: 'middle', fill: 'ink2', part })] : []),
    ...(Math.abs(amps) >= 0.05 ? [text(x, y + 49, flowWords(amps), 12, { anchor: 'middle', part })] : []),
  ]
}

function sheath(box: Box, k: CableAt, left: number, right: number, y: number): Shape[] {
  const mid = (left + right) / 2
  const words = [...wrapText(leadsWords(box, k), Math.max(110, right - left), 14, 2), ...(k.size ? [formatSize(k.size)] : [])]
  return [
    {
      kind: 'path',
      d: `M${left + 4} ${y}L${right - 4} ${y}L${mid + 16} ${y + 22}L${mid + 16} ${y + 40}L${mid - 16} ${y + 40}L${mid - 16} ${y + 22}Z`,
      fill: 'wash',
      stroke: 'ink',
      width: 2,
    },
    ...words.flatMap((w, i) => grounded(text(mid, y + 58 + i * 17, w, 14, { anchor: 'middle', bold: i === 0 }))),
  ]
}
