import type { Way } from '../job/board'
import { worlds } from '../region/worlds'
import { legOf } from '../survey/board'
import { legBadge, spacesShown } from './board-columns'
import {
  amperes,
  type BoardFacts,
  drawCell,
  drawn,
  LOOSE,
  mainWords,
  nameOf,
  placedWays,
  type Sheet,
  spaceIn,
  spaceWords,
} from './board-parts'
import { barsOf, groupsOf, neutralMark } from './board-rail'
import { type Drawing, fitText, line, text } from './shape'

const WIDTH = 344
const ROW = 54
/** What a row begins with: the leg it is on, or the line of its residual device. */
const EDGE = 34

/** A board for a narrow screen: its ways one below the other, column after column, or group after group. */
export function list(facts: BoardFacts): Drawing {
  const sheet: Sheet = { shapes: [], parts: {} }
  const { shapes } = sheet
  shapes.push(
    text(4, 24, fitText(nameOf(facts), WIDTH - 130, 17), 17, { bold: true }),
    { kind: 'rect', x: WIDTH - 118, y: 4, w: 114, h: 30, r: 2, fill: 'wash', stroke: 'ink', width: 1.5 },
    text(WIDTH - 61, 25, mainWords(facts), 16, { anchor: 'middle', bold: true }),
  )
  const manner = worlds[facts.job.region].boardManner === 'columns' ? column : grouped
  return drawn(sheet, facts, WIDTH, manner(facts, sheet, 44))
}

const heading = ({ shapes }: Sheet, words: string, y: number): number => {
  shapes.push(text(4, y + 20, fitText(words, WIDTH - 8, 15), 15, { bold: true }))
  return y + 28
}

const row = (facts: BoardFacts, sheet: Sheet, w: Way, y: number, h: number, number: string) =>
  drawCell(facts, sheet, w, { x: EDGE + 4, y: y + 3, w: WIDTH - EDGE - 6, h: h - 6, left: false, number })

function emptyRow(facts: BoardFacts, { shapes, parts }: Sheet, space: number, y: number): void {
  const part = `free:${space}`
  const { words, said, given } = spaceIn(facts, space)
  parts[part] = space === 0 ? 'Free ways: not known' : said
  const ink = given ? 'ink' : 'ink2'
  const box = { x: EDGE + 4, y: y + 3, w: WIDTH - EDGE - 6, h: ROW - 6 }
  shapes.push(
    { kind: 'rect', ...box, r: 2, fill: 'paper', stroke: given ? 'ink' : 'rule', width: 1.5, dash: '6 5', part },
    text(box.x + 8, y + 33, space === 0 ? '?' : String(space), 19, { bold: true, fill: ink, part }),
    text(box.x + 54, y + 32, fitText(words, box.w - 64, 15), 15, { bold: given, fill: ink, part }),
  )
}

/** Left column, then right, so that what takes two spaces stays in one piece; then what has no recorded place. */
function column(facts: BoardFacts, sheet: Sheet, from: number): number {
  const most = spacesShown(facts)
  const { placed, loose } = placedWays(facts)
  const taken = new Set(placed.flatMap((p) => p.spaces))
  let y = from
  for (const side of [1, 2]) {
    y = heading(sheet, side === 1 ? 'Left column' : 'Right column', y)
    const top = y
    const at = (space: number) => top + ((space - side) / 2) * ROW
    for (let space = side; space <= most; space += 2) {
      legBadge(sheet, legOf(space), 2, at(space) + 3, EDGE - 4, ROW - 6)
      if (!taken.has(space)) emptyRow(facts, sheet, space, at(space))
      y = at(space) + ROW
    }
    for (const { way, spaces } of placed.filter((p) => p.spaces[0]! % 2 === side % 2)) {
      const h = (spaces.length * ROW) / (way.half === null ? 1 : 2)
      row(facts, sheet, way, at(spaces[0]!) + (way.half === 'b' ? h : 0), h, spaces.join('-') + (way.half ?? ''))
    }
  }
  if (loose.length === 0) return y + 6
  y = heading(sheet, LOOSE, y)
  for (const w of loose) {
    row(facts, sheet, w, y, ROW, spaceWords(w))
    y += ROW
  }
  return y + 6
}

/** Each residual device with a line down its ways, then the ways behind none, the empty ones, and the neutral bars. */
function grouped(facts: BoardFacts, sheet: Sheet, from: number): number {
  const { shapes, parts } = sheet
  let y = from
  for (const g of groupsOf(facts)) {
    if (g.device) {
      const part = `device:${g.id}`
      parts[part] = g.title
      shapes.push(
        { kind: 'rect', x: 2, y: y + 6, w: WIDTH - 4, h: ROW - 10, r: 3, fill: 'sheet', stroke: 'ink', width: 3, part },
        text(12, y + 33, fitText(g.title, WIDTH - 90, 15), 15, { bold: true, part }),
        text(WIDTH - 12, y + 33, amperes(g.device.ratingA), 15, { anchor: 'end', part }),
      )
      y += ROW
    } else y = heading(sheet, g.title, y)
    const top = y
    for (const w of g.ways) {
      row(facts, sheet, w, y, ROW, spaceWords(w))
      y += ROW
    }
    for (const { first } of g.planned) {
      emptyRow(facts, sheet, first, y)
      y += ROW
    }
    if (y > top) shapes.push(line(16, top, 16, y - 6, { width: g.device ? 4 : 1.5, ...(g.id === 'unknown' ? { dash: '5 4' } : {}) }))
  }
  y = emptyOnes(facts, sheet, y)
  for (const bar of barsOf(facts)) {
    y = heading(sheet, bar.name, y + 6)
    for (const { words, wrong } of bar.on) {
      shapes.push(...neutralMark(wrong, 16, y + 12), text(EDGE, y + 17, fitText(words, WIDTH - EDGE - 8, 14), 14, { bold: wrong }))
      y += 26
    }
    if (bar.on.length === 0) {
      shapes.push(text(EDGE, y + 15, 'no neutral noted on it', 14, { fill: 'ink2' }))
      y += 26
    }
  }
  return y + 6
}

/** What is free, each by its number; nobody having looked is one row that says so. */
function emptyOnes(facts: BoardFacts, sheet: Sheet, from: number): number {
  const taken = new Set((facts.planned ?? []).flatMap((p) => p.spaces))
  const spaces = (facts.report.free ?? []).filter((f) => !taken.has(f))
  if (spaces.length === 0 && facts.report.free !== null) return from
  let y = heading(sheet, 'Free', from)
  for (const space of spaces) {
    emptyRow(facts, sheet, space, y)
    y += ROW
  }
  if (facts.report.free !== null) return y
  emptyRow(facts, sheet, 0, y)
  return y + ROW
}
