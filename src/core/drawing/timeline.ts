import { hour } from '../job/day'
import { type Placed } from '../workday/plan'
import type { Daylight } from '../workday/daylight'
import type { DayRecord } from '../job/day'
import type { Span } from '../schedule/day'
import { labels } from './labels'
import { type Drawing, fitText, line, type RectShape, type Shape, text, wrapText } from './shape'

export interface TimelineAsked {
  readonly placed: readonly Placed[]
  readonly outages: readonly Span[]
  readonly people: DayRecord['people']
  readonly startMin: number
  readonly endMin: number
  /** Tasks that are done, and the one in hand. */
  readonly done: ReadonlySet<string>
  readonly doing: ReadonlySet<string>
  readonly format: 'wide' | 'narrow'
  /** When it is light, where that is known. */
  readonly light?: Daylight | null
  /** Tasks of the days before, which are numbered first. */
  readonly before?: number
}

const wide = { width: 680, names: 74, row: 54, foot: 34 }
/** Lines of words over the rows: one more where the supply is off so often that they are close. */
const LINE = 15
const linesOver = (outages: number): number => (outages > 3 ? 3 : 2)
const narrow = { width: 350, times: 48, top: 34, perHour: 66 }

/** The hours that are drawn, in minutes after midnight. */
const drawnHours = ({ placed, startMin, endMin }: Pick<TimelineAsked, 'placed' | 'startMin' | 'endMin'>) => ({
  from: Math.floor(Math.min(startMin, ...placed.map((p) => p.startMin)) / 60) * 60,
  to: Math.ceil(Math.max(endMin, ...placed.map((p) => p.endMin)) / 60) * 60,
})
const SNAP_MIN = 5
/** When a task begins whose middle was let go over a place of the wide drawing, in minutes after midnight. */
export function begunAt(asked: Pick<TimelineAsked, 'placed' | 'startMin' | 'endMin'>, x: number, minutes: number): number {
  const { from, to } = drawnHours(asked)
  const at = from + ((x - wide.names) / (wide.width - wide.names - 14)) * (to - from) - minutes / 2
  return Math.max(from, Math.round(Math.min(at, to) / SNAP_MIN) * SNAP_MIN)
}

/** Stretches of dark between two minutes. */
const darkOf = (light: Daylight | null, from: number, to: number): readonly (readonly [number, number])[] =>
  light === null
    ? []
    : [[from, Math.min(light.fromMin, to)] as const, [Math.max(light.untilMin, from), to] as const].filter(([a, b]) => b > a)

/** Where everything is: along the clock, and in the row of each person. */
interface Sheet {
  readonly asked: TimelineAsked
  readonly across: boolean
  readonly width: number
  readonly height: number
  readonly from: number
  readonly to: number
  readonly rows: readonly string[]
  /** Where the rows begin on a desk. */
  readonly top: number
  /** Where the rows end on a desk. */
  readonly foot: number
  /** How wide a row is on a phone. */
  readonly column: number
  readonly along: (min: number) => number
  /** A stretch of time in a row, as a rectangle of the sheet. */
  readonly box: (a: number, b: number, row: number, thick: number, inset: number) => Pick<RectShape, 'x' | 'y' | 'w' | 'h'>
}
function sheetOf(asked: TimelineAsked): Sheet {
  const { placed, people, format } = asked
  const { from, to } = drawnHours(asked)
  const others = placed.some((p) => p.people.length === 0)
  const rows = [...people.map((p, i) => p.name || `Person ${i + 1}`), ...(others ? ['Others'] : [])]
  const across = format === 'wide'
  const width = across ? wide.width : narrow.width
  const top = 14 + LINE * linesOver(asked.outages.length)
  const foot = top + rows.length * wide.row
  const height = across ? foot + wide.foot : narrow.top + ((to - from) / 60) * narrow.perHour + 14
  const span = across ? width - wide.names - 14 : height - narrow.top - 14
  const along = (min: number): number => (across ? wide.names : narrow.top) + ((min - from) / (to - from)) * span
  const column = (width - narrow.times - 8) / rows.length
  return {
    asked,
    across,
    width,
    height,
    from,
    to,
    rows,
    top,
    foot,
    column,
    along,
    box: (a, b, row, thick, inset) =>
      across
        ? { x: along(a), y: top + row * wide.row + inset, w: Math.max(along(b) - along(a), 2), h: thick * wide.row - 2 * inset }
        : { x: narrow.times + row * column + inset, y: along(a), w: thick * column - 2 * inset, h: Math.max(along(b) - along(a), 2) },
  }
}

/** What is drawn, and what is written over it. */
interface Layer {
  readonly shapes: readonly Shape[]
  readonly said: readonly Shape[]
}
const layers = (list: readonly Layer[]): Layer => ({ shapes: list.flatMap((l) => l.shapes), said: list.flatMap((l) => l.said) })
type Put = ReturnType<typeof labels>['put']

/** What is dark of the hours drawn: a bar along the foot across, along the hours down. */
const darkShapes = ({ asked, across, from, to, foot, along }: Sheet): Shape[] =>
  darkOf(asked.light ?? null, from, to).map(([a, b]) =>
    across
      ? { kind: 'rect', x: along(a), y: foot + 1, w: along(b) - along(a), h: 4, fill: 'ink2' }
      : { kind: 'rect', x: narrow.times - 4, y: along(a), w: 4, h: along(b) - along(a), fill: 'ink2' },
  )

/** A band over all rows while the supply is off, and from when to when. */
function outageLayer({ asked, top, across, width, rows, foot, along, box }: Sheet, { fromMin, toMin }: Span, put: Put): Layer {
  const edge = (min: number) =>
    across
      ? line(along(min), top - 6, along(min), foot, { width: 2 })
      : line(narrow.times - 6, along(min), width - 8, along(min), { width: 2 })
  const words = `off ${hour(fromMin)} to ${hour(toMin)}`
  // Over its band; of two that follow close upon each other the second is higher, or a little aside.
  const middle = (along(fromMin) + along(toMin)) / 2
  const lines = Array.from({ length: linesOver(asked.outages.length) }, (_, i) => top - 12 - LINE * i)
  const places = lines.flatMap((y) => [0, 20, -20, 40, -40].map((aside): [number, number] => [middle + aside, y]))
  return {
    shapes: [{ kind: 'rect', ...box(fromMin, toMin, 0, rows.length, 0), fill: 'wash' }, edge(fromMin), edge(toMin)],
    said: across ? put(words, 12.5, places, { anchor: 'middle', bold: true }) : [],
  }
}

/** An hour: its line over all rows, and what the clock says where there is room. */
function hourLayer({ top, across, width, from, to, foot, along }: Sheet, min: number, put: Put): Layer {
  const at = along(min)
  if (!across)
    return {
      shapes: [line(narrow.times, at, width - 8, at, { stroke: 'rule', width: 1 })],
      said: [text(narrow.times - 8, at + 4, hour(min), 12.5, { anchor: 'end', fill: 'ink2' })],
    }
  const every = to - from > 720 ? 120 : 60
  return {
    shapes: [line(at, top, at, foot, { stroke: 'rule', width: 1 })],
    said: (min - from) % every === 0 ? put(hour(min), 12.5, [[at, foot + 18]], { anchor: 'middle', fill: 'ink2' }) : [],
  }
}

function rowLayer({ top, across, width, column }: Sheet, name: string, i: number): Layer {
  if (!across) return { shapes: [], said: [text(narrow.times + i * column + 4, 18, fitText(name, column - 6, 13), 13, { bold: true })] }
  const y = top + i * wide.row
  return {
    shapes: [line(wide.names, y, width - 14, y, { stroke: 'rule', width: 1 })],
    said: [text(0, y + wide.row / 2 + 5, fitText(name, wide.names - 8, 13), 13, { bold: true })],
  }
}

const partOf = ({ task }: Placed): string => `task:${task.id}`
/** A letter of a name is reckoned so much wider than usual, so that no name touches the edge of its task. */
const AIR = 0.85
/** What a task is called where it is: its number and name in as many lines as there is room for, or its number alone. */
function namedIn({ w, h }: Pick<RectShape, 'w' | 'h'>, no: number, name: string): readonly string[] {
  const lines = Math.min(3, Math.floor((h - 1) / LINE))
  if (lines < 1) return []
  if (w > 90) return wrapText(`${no} ${name}`, (w - 8) * AIR, 12.5, lines)
  return w >= 7.6 * String(no).length + 8 ? [String(no)] : []
}
/** A task in the row of each who does it, named in the first. */
function taskLayer({ asked, across, box }: Sheet, p: Placed, no: number): Layer {
  const part = partOf(p)
  const boxes = (p.people.length ? p.people : [asked.people.length]).map((row) => box(p.startMin, p.endMin, row, 1, across ? 8 : 3))
  const first = boxes[0]!
  const words = namedIn(first, no, p.task.name)
  const top = first.y + Math.min(first.h / 2 + 5, first.h - 4) - (LINE / 2) * (words.length - 1)
  return {
    shapes: boxes.map((at) => ({
      kind: 'rect',
      ...at,
      fill: asked.done.has(p.task.id) ? 'rule' : p.task.circuit === null ? 'paper' : 'sheet',
      stroke: 'ink',
      width: asked.doing.has(p.task.id) ? 4 : p.task.power === 'any' ? 1.5 : 2.5,
      ...(p.task.power === 'off' ? { dash: '5 3' } : {}),
      part,
    })),
    said: words.map((said, i) => text(first.x + 4, top + LINE * i, said, 12.5, { part })),
  }
}

/** The day by the clock: a row a person, across on a desk and down on a phone; a band over all rows where the supply is off. */
export function timelineDrawing(asked: TimelineAsked): Drawing {
  const { placed, outages } = asked
  const sheet = sheetOf(asked)
  const { width, height, from, to, rows } = sheet
  const { put } = labels(width, height)
  const hours = Array.from({ length: Math.floor((to - from) / 60) + 1 }, (_, i) => from + 60 * i)
  const numberOf = (i: number): number => (asked.before ?? 0) + i + 1
  const { shapes, said } = layers([
    ...outages.map((o) => outageLayer(sheet, o, put)),
    ...hours.map((min) => hourLayer(sheet, min, put)),
    ...rows.map((name, i) => rowLayer(sheet, name, i)),
    ...placed.map((p, i) => taskLayer(sheet, p, numberOf(i))),
  ])
  return {
    width,
    height,
    title: 'The day by the clock',
    shapes: [...darkShapes(sheet), ...shapes, ...said],
    parts: Object.fromEntries(
      placed.map((p, i) => [partOf(p), `${numberOf(i)}: ${p.task.name}, ${hour(p.startMin)} to ${hour(p.endMin)}`]),
    ),
    ring: 'box',
  }
}
