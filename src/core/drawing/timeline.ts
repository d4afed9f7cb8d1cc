import { hour } from '../job/day'
import { type Placed } from '../day/plan'
import type { Daylight } from '../day/daylight'
import type { DayRecord } from '../job/day'
import type { Span } from '../planning/day'
import { labels } from './labels'
import { type Drawing, fitText, line, type RectShape, type Shape, text } from './shape'

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

const wide = { width: 680, names: 74, top: 44, row: 54, foot: 34 }
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

/** The day by the clock: a row a person, across on a desk and down on a phone; a band over all rows where the supply is off. */
export function timelineDrawing(asked: TimelineAsked): Drawing {
  const { placed, outages, people, format } = asked
  const { from, to } = drawnHours(asked)
  const others = placed.some((p) => p.people.length === 0)
  const rows = [...people.map((p, i) => p.name || `Person ${i + 1}`), ...(others ? ['Others'] : [])]
  const across = format === 'wide'
  const width = across ? wide.width : narrow.width
  const height = across ? wide.top + rows.length * wide.row + wide.foot : narrow.top + ((to - from) / 60) * narrow.perHour + 14
  const span = across ? width - wide.names - 14 : height - narrow.top - 14
  const along = (min: number): number => (across ? wide.names : narrow.top) + ((min - from) / (to - from)) * span
  const column = (width - narrow.times - 8) / rows.length
  /** A stretch of time in a row, as a rectangle of the sheet. */
  const box = (a: number, b: number, row: number, thick: number, inset: number): Pick<RectShape, 'x' | 'y' | 'w' | 'h'> =>
    across
      ? { x: along(a), y: wide.top + row * wide.row + inset, w: Math.max(along(b) - along(a), 2), h: thick * wide.row - 2 * inset }
      : { x: narrow.times + row * column + inset, y: along(a), w: thick * column - 2 * inset, h: Math.max(along(b) - along(a), 2) }
  const put = labels(width, height)
  const shapes: Shape[] = []
  const said: Shape[] = []
  // What is dark of the hours drawn: a bar along the foot across, along the hours down.
  for (const [a, b] of darkOf(asked.light ?? null, from, to)) {
    const foot = wide.top + rows.length * wide.row
    shapes.push(
      across
        ? { kind: 'rect', x: along(a), y: foot + 1, w: along(b) - along(a), h: 4, fill: 'ink2' }
        : { kind: 'rect', x: narrow.times - 4, y: along(a), w: 4, h: along(b) - along(a), fill: 'ink2' },
    )
  }
  for (const o of outages) {
    const band = box(o.fromMin, o.toMin, 0, rows.length, 0)
    shapes.push({ kind: 'rect', ...band, fill: 'wash' })
    const edge = (min: number) =>
      across
        ? line(along(min), wide.top - 6, along(min), wide.top + rows.length * wide.row, { width: 2 })
        : line(narrow.times - 6, along(min), width - 8, along(min), { width: 2 })
    shapes.push(edge(o.fromMin), edge(o.toMin))
    const words = `off ${hour(o.fromMin)} to ${hour(o.toMin)}`
    if (across)
      said.push(...put.put(words, 12.5, [[(along(o.fromMin) + along(o.toMin)) / 2, wide.top - 12]], { anchor: 'middle', bold: true }))
  }
  for (let min = from; min <= to; min += 60) {
    if (across) {
      shapes.push(line(along(min), wide.top, along(min), wide.top + rows.length * wide.row, { stroke: 'rule', width: 1 }))
      const every = to - from > 720 ? 120 : 60
      if ((min - from) % every === 0)
        said.push(...put.put(hour(min), 12.5, [[along(min), wide.top + rows.length * wide.row + 18]], { anchor: 'middle', fill: 'ink2' }))
    } else {
      shapes.push(line(narrow.times, along(min), width - 8, along(min), { stroke: 'rule', width: 1 }))
      said.push(text(narrow.times - 8, along(min) + 4, hour(min), 12.5, { anchor: 'end', fill: 'ink2' }))
    }
  }
  for (const [i, name] of rows.entries()) {
    if (across) {
      said.push(text(0, wide.top + i * wide.row + wide.row / 2 + 5, fitText(name, wide.names - 8, 13), 13, { bold: true }))
      shapes.push(line(wide.names, wide.top + i * wide.row, width - 14, wide.top + i * wide.row, { stroke: 'rule', width: 1 }))
    } else said.push(text(narrow.times + i * column + 4, 18, fitText(name, column - 6, 13), 13, { bold: true }))
  }
  const parts: Record<string, string> = {}
  for (const [i, p] of placed.entries()) {
    const part = `task:${p.task.id}`
    const no = (asked.before ?? 0) + i + 1
    parts[part] = `${no}: ${p.task.name}, ${hour(p.startMin)} to ${hour(p.endMin)}`
    const own = p.people.length ? p.people : [people.length]
    for (const [k, row] of own.entries()) {
      const at = box(p.startMin, p.endMin, row, 1, across ? 8 : 3)
      const done = asked.done.has(p.task.id)
      const doing = asked.doing.has(p.task.id)
      shapes.push({
        kind: 'rect',
        ...at,
        fill: done ? 'rule' : p.task.circuit === null ? 'paper' : 'sheet',
        stroke: 'ink',
        width: doing ? 4 : p.task.power === 'any' ? 1.5 : 2.5,
        ...(p.task.power === 'off' ? { dash: '5 3' } : {}),
        part,
      })
      const number = String(no)
      const fitting = (words: string) => at.h >= 16 && at.w >= 7.6 * words.length + 8
      const words = [fitText(`${number} ${p.task.name}`, at.w - 12, 12.5), number].find((w, n) => fitting(w) && (n === 1 || at.w > 90))
      if (k === 0 && words) said.push(text(at.x + 4, at.y + Math.min(at.h / 2 + 5, at.h - 4), words, 12.5, { part }))
    }
  }
  return { width, height, title: 'The day by the clock', shapes: [...shapes, ...said], parts, ring: 'box' }
}
