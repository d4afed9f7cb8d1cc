import type { Installation } from '../installation/installation'
import { formatA } from '../quantity/format'
import { barFor, boardName, type BoardReport, legOf, spacesOf } from '../survey/board'
import type { Way } from '../job/board'
import type { WayLoad } from '../survey/traced'
import { verdictGlyph } from './glyph'
import { type Drawing, fitText, line, type Shape, text, wrapText } from './shape'
import { worlds } from '../region/worlds'

interface Facts {
  readonly job: Installation
  readonly report: BoardReport
  readonly loads: readonly WayLoad[]
  readonly proved: ReadonlySet<string>
  /** New circuits that are to stand in it, by the spaces they were given. */
  readonly planned?: readonly { readonly name: string; readonly spaces: readonly number[] }[]
}

const rating = (w: Way): string => (w.ratingA === null ? '? A' : `${w.curve ?? ''}${formatA(w.ratingA)}`)
const fedWords = ({ job, loads, proved }: Facts, w: Way): string => {
  if (w.kind === 'feeder') return `feeds ${boardName(job.region, job.boards.find((b) => b.fedFrom === w.id) ?? { name: 'another board' })}`
  if (w.kind === 'source') return 'a source: feeds back'
  const load = loads.find((l) => l.way.id === w.id)
  if (!load || load.points.length === 0) return proved.has(w.id) ? 'feeds nothing found' : 'not proved'
  const names = load.points.map((p) => job.points.find((x) => x.id === p)?.name ?? p)
  return names.join(', ')
}
const wayInWords = (facts: Facts, w: Way): string => `${w.label}, ${rating(w)}${w.poles === 2 ? ', two-pole' : ''}: ${fedWords(facts, w)}`

/** The board as it is found: columns with legs, or a rail of modules behind their residual devices. */
export function boardDrawing(facts: Facts): Drawing {
  return worlds[facts.job.region].boardManner === 'columns' ? columns(facts) : rail(facts)
}

/** Beyond this a number is a slip of the finger, and is found as such. */
const MOST_SPACES = 84
const ROW = 52
const CELL = 330
const SPINE = 84

/** Two columns; space numbers run across, so legs alternate down each column. */
function columns(facts: Facts): Drawing {
  const { report, job } = facts
  const most = Math.max(
    report.board.spaces ?? 0,
    ...report.ways.flatMap((w) => spacesOf(job.region, w)),
    ...(facts.planned ?? []).flatMap((p) => p.spaces.filter((s) => s <= MOST_SPACES)),
    8,
  )
  const rows = Math.ceil(most / 2)
  const width = 2 * CELL + SPINE + 24
  const top = 70
  const shapes: Shape[] = []
  const parts: Record<string, string> = {}
  const x0 = 12
  shapes.push({ kind: 'rect', x: 4, y: 4, w: width - 8, h: top + rows * ROW + 8, r: 4, fill: 'sheet', stroke: 'ink', width: 2 })
  shapes.push({ kind: 'rect', x: width / 2 - 90, y: 14, w: 180, h: 40, r: 2, fill: 'wash', stroke: 'ink', width: 1.5 })
  shapes.push(
    text(width / 2, 40, `MAIN ${report.board.mainA === null ? '? A' : formatA(report.board.mainA)}`, 18, { anchor: 'middle', bold: true }),
  )
  shapes.push(
    text(x0 + 2, 40, fitText(boardName(job.region, report.board, report.board.fedFrom === null ? job.supply.board : ''), 250, 17), 17, {
      bold: true,
    }),
  )
  const cellAt = (space: number) => ({ x: space % 2 === 1 ? x0 : x0 + CELL + SPINE, y: top + (Math.ceil(space / 2) - 1) * ROW })
  const taken = new Set(report.ways.flatMap((w) => spacesOf(job.region, w)))
  for (let row = 0; row < rows; row++) {
    const leg = legOf(row * 2 + 1)
    const y = top + row * ROW
    shapes.push({
      kind: 'rect',
      x: x0 + CELL + 4,
      y: y + 2,
      w: SPINE - 8,
      h: ROW - 4,
      fill: leg === 'A' ? 'ink' : 'sheet',
      stroke: 'ink',
      width: 1.5,
    })
    shapes.push(
      text(x0 + CELL + SPINE / 2, y + ROW / 2 + 7, leg, 19, { anchor: 'middle', bold: true, fill: leg === 'A' ? 'sheet' : 'ink' }),
    )
  }
  for (let space = 1; space <= most; space++) {
    if (taken.has(space)) continue
    const { x, y } = cellAt(space)
    const seen = report.board.free?.includes(space) === true
    const part = `free:${space}`
    const given = facts.planned?.find((p) => p.spaces.includes(space))
    parts[part] = given ? `Space ${space}, for ${given.name}` : `Space ${space}, ${seen ? 'free' : 'not looked at'}`
    shapes.push({
      kind: 'rect',
      x: x + 2,
      y: y + 3,
      w: CELL - 4,
      h: ROW - 6,
      r: 2,
      fill: 'paper',
      stroke: 'rule',
      width: 1.5,
      dash: '6 5',
      part,
    })
    const numberX = space % 2 === 1 ? x + CELL - 12 : x + 12
    shapes.push(text(numberX, y + 30, String(space), 19, { anchor: space % 2 === 1 ? 'end' : 'start', bold: true, fill: 'ink2', part }))
    shapes.push(
      text(x + CELL / 2, y + 29, given ? fitText(`new: ${given.name}`, CELL - 90, 15) : seen ? 'free' : 'not looked at', 15, {
        anchor: 'middle',
        bold: given !== undefined,
        fill: given ? 'ink' : 'ink2',
        part,
      }),
    )
  }
  for (const w of report.ways) {
    const spaces = spacesOf(job.region, w)
    if (spaces.length === 0) continue
    const { x, y } = cellAt(spaces[0]!)
    const halves = w.half === null ? 1 : 2
    const h = (spaces.length * ROW - 6) / halves
    const top2 = y + 3 + (w.half === 'b' ? h : 0)
    drawCell(facts, shapes, parts, w, {
      x: x + 2,
      y: top2,
      w: CELL - 4,
      h,
      left: spaces[0]! % 2 === 1,
      number: spaces.join('-') + (w.half ?? ''),
    })
  }
  const y = unplaced(facts, shapes, parts, top + rows * ROW + 34, width)
  return { width, height: y, title: `The ${worlds[job.region].words.board} as found`, shapes, parts, ring: 'box' }
}

function drawCell(
  facts: Facts,
  shapes: Shape[],
  parts: Record<string, string>,
  w: Way,
  at: { x: number; y: number; w: number; h: number; left: boolean; number: string },
): void {
  const part = `way:${w.id}`
  parts[part] = wayInWords(facts, w)
  const trusted = facts.proved.has(w.id)
  shapes.push({
    kind: 'rect',
    x: at.x,
    y: at.y,
    w: at.w,
    h: at.h,
    r: 2,
    fill: w.kind === 'spare' ? 'paper' : 'wash',
    stroke: 'ink',
    width: 1.5,
    part,
  })
  const middle = at.y + at.h / 2
  const small = at.h < 30
  const numberW = 40 + 9 * Math.max(0, at.number.length - 2)
  const inner = at.left ? at.x + at.w - 8 : at.x + 8
  shapes.push(text(inner, middle + 7, at.number, small ? 14 : 19, { anchor: at.left ? 'end' : 'start', bold: true, part }))
  const ratingX = at.left ? at.x + at.w - numberW - 10 : at.x + numberW + 10
  shapes.push(text(ratingX, middle + 6, rating(w), small ? 13.6 : 17, { anchor: at.left ? 'end' : 'start', bold: true, part }))
  const wordsX = at.left ? at.x + 8 : at.x + numberW + 84
  const wordsW = at.w - numberW - 92
  if (small) shapes.push(text(wordsX, middle + 5, fitText(`${w.label}${trusted ? '' : ' (not trusted)'}`, wordsW, 13.6), 13.6, { part }))
  else {
    shapes.push(text(wordsX, middle - 3, fitText(w.label, wordsW, 15), 15, { bold: true, part }))
    shapes.push(
      text(wordsX, middle + 15, fitText(trusted || w.kind !== 'circuit' ? fedWords(facts, w) : 'label not trusted', wordsW, 13.6), 13.6, {
        fill: 'ink2',
        part,
      }),
    )
  }
}

/** Ways whose place in the board was not noted stand below it, to be put in. */
function unplaced(facts: Facts, shapes: Shape[], parts: Record<string, string>, from: number, width: number): number {
  const list = facts.report.ways.filter((w) => w.position === null)
  if (list.length === 0) return from - 14
  let y = from
  shapes.push(text(12, y, 'Place not noted', 15, { bold: true }))
  y += 10
  list.forEach((w, i) => {
    const [x, top] = [12 + (i % 2) * ((width - 24) / 2), y + Math.floor(i / 2) * ROW]
    drawCell(facts, shapes, parts, w, { x: x + 2, y: top + 3, w: (width - 24) / 2 - 4, h: ROW - 6, left: true, number: '?' })
  })
  return y + Math.ceil(list.length / 2) * ROW + 14
}

const MODULE = 74
const TALL = 150
const GAP = 14

/** Groups on the rail: what stands behind each residual device, then what stands behind none, then what is not known. */
function groupsOf({ report, job }: Facts) {
  const sorted = report.ways.toSorted((a, b) => (a.position ?? 999) - (b.position ?? 999))
  const words = worlds[job.region].words
  return [
    ...report.devices.map((g) => ({
      id: g.id,
      title: `${g.name}, ${g.tripMa ?? '?'} mA`,
      device: g,
      ways: sorted.filter((w) => w.residual === g.id),
    })),
    { id: 'own', title: `Own ${words.rcd}`, device: null, ways: sorted.filter((w) => w.residual === 'own') },
    { id: 'none', title: `Behind no ${words.rcd}`, device: null, ways: sorted.filter((w) => w.residual === 'none') },
    {
      id: 'unknown',
      title: 'Behind what? Not looked at',
      device: null,
      ways: sorted.filter((w) => w.residual === 'unknown' || !['own', 'none', ...report.devices.map((g) => g.id)].includes(w.residual)),
    },
  ].filter((g) => g.device !== null || g.ways.length > 0)
}

/** Main switch, then each residual device with its ways, and the neutral bars below with what hangs on each. */
function rail(facts: Facts): Drawing {
  const { report, job } = facts
  const groups = groupsOf(facts)
  const width = 780
  const shapes: Shape[] = []
  const parts: Record<string, string> = {}
  let x = 24
  let y = 62
  const rowsAt: number[] = []
  const top = (): number => y
  const need = (w: number) => {
    if (x + w <= width - 16) return
    x = 24
    y += TALL + 118
  }
  shapes.push(
    text(18, 34, fitText(boardName(job.region, report.board, report.board.fedFrom === null ? job.supply.board : ''), 500, 18), 18, {
      bold: true,
    }),
  )
  shapes.push({ kind: 'rect', x, y: top(), w: MODULE, h: TALL, r: 3, fill: 'wash', stroke: 'ink', width: 2 })
  shapes.push(text(x + MODULE / 2, y + 60, 'MAIN', 16, { anchor: 'middle', bold: true }))
  shapes.push(
    text(x + MODULE / 2, y + 84, report.board.mainA === null ? '? A' : formatA(report.board.mainA), 17, { anchor: 'middle', bold: true }),
  )
  shapes.push(
    text(
      x + MODULE / 2,
      y + 108,
      report.board.mainSwitch === 'double-pole' ? '2-pole' : report.board.mainSwitch === 'single-pole' ? '1-pole' : report.board.mainSwitch,
      13,
      { anchor: 'middle', fill: 'ink2' },
    ),
  )
  x += MODULE + GAP
  rowsAt.push(y)
  const anchors: { way: Way; x: number; y: number }[] = []
  for (const g of groups) {
    need(MODULE * Math.min(3, g.ways.length + (g.device ? 1 : 0)))
    const start = x
    const startY = y
    shapes.push(text(x, y - 10, fitText(g.title, Math.max(MODULE * (g.ways.length + 1), 150), 14), 14, { bold: true }))
    if (g.device) {
      const part = `device:${g.id}`
      parts[part] = g.title
      shapes.push({ kind: 'rect', x, y, w: MODULE, h: TALL, r: 3, fill: 'sheet', stroke: 'ink', width: 3, part })
      shapes.push(text(x + MODULE / 2, y + 60, worlds[job.region].says.residualShort, 17, { anchor: 'middle', bold: true, part }))
      shapes.push(text(x + MODULE / 2, y + 84, `${g.device.tripMa ?? '?'} mA`, 15, { anchor: 'middle', part }))
      shapes.push(
        text(x + MODULE / 2, y + 106, g.device.ratingA === null ? '? A' : formatA(g.device.ratingA), 15, { anchor: 'middle', part }),
      )
      x += MODULE
    }
    for (const w of g.ways) {
      const wide = MODULE * w.poles
      if (x + wide > width - 16) {
        shapes.push(line(start, y + TALL + 6, x, y + TALL + 6, { width: 3 }))
        x = 24
        y += TALL + 118
      }
      const part = `way:${w.id}`
      parts[part] = wayInWords(facts, w)
      shapes.push({
        kind: 'rect',
        x,
        y,
        w: wide,
        h: TALL,
        r: 3,
        fill: w.kind === 'spare' ? 'paper' : 'wash',
        stroke: 'ink',
        width: 1.5,
        part,
      })
      shapes.push(text(x + wide / 2, y + 28, w.position === null ? '?' : String(w.position), 20, { anchor: 'middle', bold: true, part }))
      shapes.push({ kind: 'rect', x: x + wide / 2 - 11, y: y + 40, w: 22, h: 30, r: 2, fill: 'sheet', stroke: 'ink', width: 1.5, part })
      shapes.push(text(x + wide / 2, y + 94, rating(w), 17, { anchor: 'middle', bold: true, part }))
      if (w.shape === 'ring') shapes.push(text(x + wide / 2, y + 112, 'ring', 13.6, { anchor: 'middle', fill: 'ink2', part }))
      wrapText(w.label, wide - 6, 13.6, 2).forEach((words, i) =>
        shapes.push(text(x + wide / 2, y + 130 + 16 * i, words, 13.6, { anchor: 'middle', part })),
      )
      shapes.push(
        text(x + wide / 2, y + TALL + 22, facts.proved.has(w.id) ? 'proved' : 'not trusted', 13.6, {
          anchor: 'middle',
          fill: 'ink2',
          part,
        }),
      )
      anchors.push({ way: w, x: x + wide / 2, y: y + TALL })
      x += wide
    }
    if (y === startY) shapes.push(line(start, y - 5, Math.max(x - 4, start + MODULE - 4), y - 5, { width: 3 }))
    x += GAP
  }
  const taken = new Set((facts.planned ?? []).flatMap((p) => p.spaces))
  const frees = report.free?.filter((f) => !taken.has(f)) ?? null
  const slots = [
    ...(facts.planned ?? [])
      .filter((p) => p.spaces.length > 0)
      .map((p) => ({ key: p.spaces[0]!, big: String(p.spaces[0]), small: p.name, bold: true })),
    ...(frees === null
      ? [{ key: 0, big: '?', small: 'free', bold: false }]
      : facts.planned
        ? frees.map((f) => ({ key: f, big: String(f), small: 'free', bold: false }))
        : frees.length
          ? [{ key: frees[0]!, big: String(frees.length), small: 'free', bold: false }]
          : []),
  ]
  for (const slot of slots) {
    if (x + MODULE > width - 16) {
      x = 24
      y += TALL + 90
    }
    const part = `free:${slot.key}`
    parts[part] = slot.bold
      ? `Way ${slot.big}, for ${slot.small}`
      : frees === null
        ? 'Free ways: not known'
        : facts.planned
          ? `Way ${slot.big}, free`
          : `${slot.big} free ways`
    shapes.push({
      kind: 'rect',
      x,
      y,
      w: MODULE,
      h: TALL,
      r: 3,
      fill: 'paper',
      stroke: slot.bold ? 'ink' : 'rule',
      width: 1.5,
      dash: '6 5',
      part,
    })
    shapes.push(
      text(x + MODULE / 2, y + (slot.bold ? 28 : 70), slot.big, 20, {
        anchor: 'middle',
        bold: true,
        fill: slot.bold ? 'ink' : 'ink2',
        part,
      }),
    )
    const words = slot.bold ? ['new:', ...wrapText(slot.small, MODULE - 6, 13.6, 3)] : [slot.small]
    words.forEach((w, i) =>
      shapes.push(
        text(x + MODULE / 2, y + 94 + 16 * i, w, slot.bold ? 13.6 : 15, { anchor: 'middle', fill: slot.bold ? 'ink' : 'ink2', part }),
      ),
    )
    x += MODULE
  }
  const height = neutralBars(facts, shapes, anchors, y + TALL + 52, width)
  return { width, height, title: `The ${worlds[job.region].words.board} as found`, shapes, parts, ring: 'box' }
}

/** Each neutral bar with the ways whose neutral was found on it; one that belongs elsewhere is marked. */
function neutralBars({ report }: Facts, shapes: Shape[], anchors: readonly { way: Way }[], from: number, width: number): number {
  const bars = [{ id: 'main', name: 'Main neutral bar' }, ...report.devices.map((g) => ({ id: g.id, name: `Neutral bar of ${g.name}` }))]
  let y = from
  for (const bar of bars) {
    const on = anchors.filter(({ way }) => way.bar === bar.id)
    shapes.push({ kind: 'rect', x: 24, y, w: width - 48, h: 30, r: 15, fill: 'sheet', stroke: 'ink', width: 2 })
    shapes.push(text(40, y + 21, fitText(bar.name, 220, 15), 15, { bold: true }))
    let x = 270
    for (const { way } of on) {
      const wrong = barFor(way) !== null && barFor(way) !== bar.id
      const label = `${way.position ?? '?'} ${way.label}`
      const w = Math.min(200, 34 + label.length * 7.5)
      if (x + w > width - 60) {
        shapes.push(text(x, y + 20, '…', 15))
        break
      }
      shapes.push(
        ...(wrong
          ? verdictGlyph('error', x + 8, y + 15)
          : [{ kind: 'circle' as const, x: x + 8, y: y + 15, r: 7, fill: 'wash' as const, stroke: 'ink' as const, width: 1.5 }]),
      )
      shapes.push(text(x + 20, y + 20, fitText(label, w - 22, 14), 14, { bold: wrong }))
      x += w
    }
    if (on.length === 0) shapes.push(text(270, y + 20, 'no neutral noted on it', 14, { fill: 'ink2' }))
    y += 40
  }
  return y + 10
}
