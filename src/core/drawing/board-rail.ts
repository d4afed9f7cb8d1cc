import type { ResidualDevice, Way } from '../job/board'
import { worlds } from '../region/worlds'
import { barFor } from '../survey/board'
import {
  amperes,
  type BoardFacts,
  drawn,
  inOutage,
  mainInOutage,
  nameOf,
  type Planned,
  rating,
  type Sheet,
  spaceWords,
  wayInWords,
} from './board-parts'
import { verdictGlyph } from './glyph'
import { type Drawing, fitText, line, type Shape, text, wrapText } from './shape'

const LEFT = 24
const MODULE = 74
const TALL = 150
const GAP = 14
/** From one row of modules to the next: the modules, what is said under them, and a group's name over the next. */
const PITCH = TALL + 118
/** A group's name is over its modules, on two lines where they are few. */
const NAME_WIDTH = 132

/** What is behind one residual device, behind none, or behind what is not known. */
export interface Group {
  readonly id: string
  readonly title: string
  readonly device: ResidualDevice | null
  readonly ways: readonly Way[]
  /** New circuits that were given a way. */
  readonly planned: readonly (Planned & { readonly first: number })[]
}

/** Groups on the rail: what is behind each residual device, then what is behind none, then what is not known. */
export function groupsOf({ report, job, planned = [] }: BoardFacts): readonly Group[] {
  const sorted = report.ways.toSorted((a, b) => (a.position ?? 999) - (b.position ?? 999))
  const words = worlds[job.region].words
  const given = planned.flatMap((p) => (p.spaces[0] === undefined ? [] : [{ ...p, first: p.spaces[0] }]))
  const known = ['own', 'none', ...report.devices.map((g) => g.id)]
  const group = (id: string, title: string, device: ResidualDevice | null = null): Group => ({
    id,
    title,
    device,
    ways: sorted.filter((w) => w.residual === id),
    planned: given.filter((p) => p.behind === id),
  })
  const unknown = sorted.filter((w) => !known.includes(w.residual))
  return [
    ...report.devices.map((g) => group(g.id, `${g.name}, ${g.tripMa ?? '?'} mA`, g)),
    group('own', `Own ${words.rcd}`),
    group('none', `Behind no ${words.rcd}`),
    {
      ...group('unknown', `Behind what? ${unknown.length ? 'Not checked' : 'Not said'}`),
      ways: unknown,
      planned: given.filter((p) => p.behind === null || !known.includes(p.behind)),
    },
  ].filter((g) => g.device !== null || g.ways.length + g.planned.length > 0)
}

/** A thing on the rail, so wide, that knows how to draw itself where it is placed. */
interface Module {
  readonly wide: number
  readonly at: (x: number, y: number) => readonly Shape[]
  readonly part?: readonly [string, string]
}

/** Main switch, then each residual device with its ways, and the neutral bars below with what is on each. */
export function rail(facts: BoardFacts, width: number): Drawing {
  const sheet: Sheet = { shapes: [], parts: {} }
  const { shapes } = sheet
  shapes.push(text(18, 34, fitText(nameOf(facts), 500, 18), 18, { bold: true }))
  let [x, y] = [LEFT, 78]
  /** To the next row, where so much no longer fits on this one. */
  const room = (wide: number) => {
    if (x + wide <= width - 16) return
    ;[x, y] = [LEFT, y + PITCH]
  }
  const put = ({ wide, at, part }: Module) => {
    room(wide)
    shapes.push(...at(x, y))
    if (part) sheet.parts[part[0]] = part[1]
    x += wide
  }
  put(mainSwitch(facts))
  x += GAP
  for (const g of groupsOf(facts)) {
    const modules = [
      ...(g.device ? [device(facts, g, g.device)] : []),
      ...g.ways.map((w) => wayModule(facts, w)),
      ...g.planned.map(plannedModule),
    ]
    const wide = modules.reduce((sum, m) => sum + m.wide, 0)
    room(Math.max(NAME_WIDTH, Math.min(wide, 3 * MODULE)))
    const [start, row] = [x, y]
    wrapText(g.title, 0.92 * Math.min(Math.max(wide, NAME_WIDTH), width - 16 - start), 14, 2)
      .toReversed()
      .forEach((words, i) => shapes.push(text(start, row - 10 - 16 * i, words, 14, { bold: true })))
    modules.forEach(put)
    if (y === row) shapes.push(line(start, y - 5, Math.max(x, start + MODULE) - 4, y - 5, { width: 3 }))
    else shapes.push(line(start, row - 5, width - 20, row - 5, { width: 3 }), line(LEFT, y - 5, x - 4, y - 5, { width: 3, dash: '8 5' }))
    x = (y === row ? Math.max(x, start + NAME_WIDTH) : x) + GAP
  }
  emptyWays(facts).forEach(put)
  return drawn(sheet, facts, width, neutralBars(facts, sheet, y + TALL + 52, width))
}

const middle = (x: number, y: number, words: string, size: number, more: object = {}) =>
  text(x, y, words, size, { anchor: 'middle', ...more })

const switchPoles = (pole: string): string => ({ 'double-pole': '2-pole', 'single-pole': '1-pole' })[pole] ?? pole

const mainSwitch = (facts: BoardFacts): Module => ({
  wide: MODULE,
  at: (x, y) => [
    { kind: 'rect', x, y, w: MODULE, h: TALL, r: 3, fill: 'wash', stroke: 'ink', width: mainInOutage(facts)?.width ?? 2 },
    middle(x + MODULE / 2, y + 60, 'MAIN', 16, { bold: true }),
    middle(x + MODULE / 2, y + 84, amperes(facts.report.board.mainA), 17, { bold: true }),
    middle(x + MODULE / 2, y + 108, switchPoles(facts.report.board.mainSwitch), 13.6, { fill: 'ink2' }),
    ...stateBelow(mainInOutage(facts)?.words, x + MODULE / 2, y, MODULE),
  ],
})
/** What is said below a module, in two lines at the most. */
const stateBelow = (words: string | undefined, mid: number, y: number, wide: number, more: object = {}): Shape[] =>
  words === undefined ? [] : wrapText(words, wide, 13.6, 2).map((w, i) => middle(mid, y + TALL + 17 + 16 * i, w, 13.6, more))

function device({ job }: BoardFacts, { id, title }: Group, g: ResidualDevice): Module {
  const part = `device:${id}`
  return {
    wide: MODULE,
    part: [part, title],
    at: (x, y) => [
      { kind: 'rect', x, y, w: MODULE, h: TALL, r: 3, fill: 'sheet', stroke: 'ink', width: 3, part },
      middle(x + MODULE / 2, y + 60, worlds[job.region].says.residualShort, 17, { bold: true, part }),
      middle(x + MODULE / 2, y + 84, `${g.tripMa ?? '?'} mA`, 15, { part }),
      middle(x + MODULE / 2, y + 106, amperes(g.ratingA), 15, { part }),
    ],
  }
}

function wayModule(facts: BoardFacts, w: Way): Module {
  const part = `way:${w.id}`
  const wide = MODULE * w.poles
  return {
    wide,
    part: [part, wayInWords(facts, w)],
    at: (x, y) => {
      const mid = x + wide / 2
      const off = inOutage(facts, w)
      const fill = off?.fill ?? (w.kind === 'spare' ? 'paper' : 'wash')
      return [
        { kind: 'rect', x, y, w: wide, h: TALL, r: 3, fill, stroke: 'ink', width: off?.width ?? 1.5, part },
        middle(mid, y + 28, spaceWords(w), 20, { bold: true, part }),
        { kind: 'rect', x: mid - 11, y: y + 40, w: 22, h: 30, r: 2, fill: 'sheet', stroke: 'ink', width: 1.5, part },
        middle(mid, y + 94, rating(w), 17, { bold: true, part }),
        ...(w.shape === 'ring' ? [middle(mid, y + 112, 'ring', 13.6, { fill: 'ink2', part })] : []),
        ...wrapText(w.label, wide - 6, 13.6, 2).map((words, i) => middle(mid, y + 130 + 16 * i, words, 13.6, { part })),
        ...stateBelow(off?.words ?? (facts.proved.has(w.id) ? 'proved' : 'not trusted'), mid, y, wide, {
          fill: off ? 'ink' : 'ink2',
          part,
        }),
      ]
    },
  }
}

const plannedModule = ({ first, name }: Group['planned'][number]): Module =>
  emptyWay(first, String(first), `Way ${first}, for ${name}`, name, ['new:', ...wrapText(name, MODULE - 6, 13.6, 3)])

/** What is free: each by its number where something is planned, else how many, or that nobody looked. */
function emptyWays({ report, planned }: BoardFacts): readonly Module[] {
  const taken = new Set((planned ?? []).flatMap((p) => p.spaces))
  const free = report.free?.filter((f) => !taken.has(f)) ?? null
  const open = (key: number, big: string, said: string): Module => emptyWay(key, big, said, null, ['free'])
  if (free === null) return [emptyWay(0, '?', 'Free ways: not known', null, ['not', 'looked', 'at'])]
  return planned
    ? free.map((f) => open(f, String(f), `Way ${f}, free`))
    : free.slice(0, 1).map((f) => open(f, String(free.length), `${free.length} free ways`))
}

function emptyWay(key: number, big: string, said: string, given: string | null, under: readonly string[]): Module {
  const part = `free:${key}`
  const ink = given === null ? 'ink2' : 'ink'
  return {
    wide: MODULE,
    part: [part, said],
    at: (x, y) => [
      {
        kind: 'rect',
        x,
        y,
        w: MODULE,
        h: TALL,
        r: 3,
        fill: 'paper',
        stroke: given === null ? 'rule' : 'ink',
        width: 1.5,
        dash: '6 5',
        part,
      },
      middle(x + MODULE / 2, y + (given === null ? 70 : 28), big, 20, { bold: true, fill: ink, part }),
      ...under.map((w, i) => middle(x + MODULE / 2, y + 94 + 16 * i, w, given === null ? 15 : 13.6, { fill: ink, part })),
    ],
  }
}

/** A neutral bar, and the ways whose neutral was found on it; one that belongs elsewhere is wrong there. */
export const barsOf = ({ report }: BoardFacts) =>
  [{ id: 'main', name: 'Main neutral bar' }, ...report.devices.map((g) => ({ id: g.id, name: `Neutral bar of ${g.name}` }))].map((bar) => ({
    ...bar,
    on: report.ways
      .filter((w) => w.bar === bar.id)
      .map((w) => ({ words: `${w.position ?? '?'} ${w.label}`, wrong: barFor(w) !== null && barFor(w) !== bar.id })),
  }))

/** The mark of a neutral on its bar. */
export const neutralMark = (wrong: boolean, x: number, y: number): readonly Shape[] =>
  wrong ? verdictGlyph('error', x, y) : [{ kind: 'circle', x, y, r: 7, fill: 'wash', stroke: 'ink', width: 1.5 }]

function neutralBars(facts: BoardFacts, { shapes }: Sheet, from: number, width: number): number {
  let y = from
  for (const bar of barsOf(facts)) {
    shapes.push({ kind: 'rect', x: 24, y, w: width - 48, h: 30, r: 15, fill: 'sheet', stroke: 'ink', width: 2 })
    shapes.push(text(40, y + 21, fitText(bar.name, 220, 15), 15, { bold: true }))
    let x = 270
    for (const { words, wrong } of bar.on) {
      const w = Math.min(200, 34 + words.length * 7.5)
      if (x + w > width - 60) {
        shapes.push(text(x, y + 20, '…', 15))
        break
      }
      shapes.push(...neutralMark(wrong, x + 8, y + 15), text(x + 20, y + 20, fitText(words, w - 34, 14), 14, { bold: wrong }))
      x += w
    }
    if (bar.on.length === 0) shapes.push(text(270, y + 20, 'no neutral noted on it', 14, { fill: 'ink2' }))
    y += 40
  }
  return y + 10
}
