import { legOf, spacesOf } from '../survey/board'
import type { Way } from '../job/board'
import { type BoardFacts, drawCell, drawn, LOOSE, mainWords, nameOf, placedWays, type Sheet, spaceIn, spaceWords } from './board-parts'
import { type Drawing, fitText, text } from './shape'

/** Beyond this a number is a slip of the finger, and is found as such. */
const MOST_SPACES = 84
export const ROW = 52
const CELL = 296
const SPINE = 84
const X0 = 12
const TOP = 70
const WIDTH = 2 * CELL + SPINE + 24

/** The number of the last space that is drawn. */
export const spacesShown = ({ report, job, planned }: BoardFacts): number =>
  Math.max(
    report.board.spaces ?? 0,
    ...report.ways.flatMap((w) => spacesOf(job.region, w)),
    ...(planned ?? []).flatMap((p) => p.spaces.filter((s) => s <= MOST_SPACES)),
    8,
  )

/** Two columns; space numbers run across, so legs alternate down each column. */
export function columns(facts: BoardFacts): Drawing {
  const most = spacesShown(facts)
  const rows = Math.ceil(most / 2)
  const sheet: Sheet = { shapes: [], parts: {} }
  head(facts, sheet, rows)
  for (let row = 0; row < rows; row++) legBadge(sheet, legOf(row * 2 + 1), X0 + CELL + 4, TOP + row * ROW + 2, SPINE - 8, ROW - 4)
  const { placed, loose } = placedWays(facts)
  const taken = new Set(placed.flatMap((p) => p.spaces))
  for (let space = 1; space <= most; space++) if (!taken.has(space)) empty(facts, sheet, space)
  for (const { way: w, spaces } of placed) {
    const { x, y } = cellAt(spaces[0]!)
    const h = (spaces.length * ROW - 6) / (w.half === null ? 1 : 2)
    const number = spaces.join('-') + (w.half ?? '')
    drawCell(facts, sheet, w, { x: x + 2, y: y + 3 + (w.half === 'b' ? h : 0), w: CELL - 4, h, left: spaces[0]! % 2 === 1, number })
  }
  return drawn(sheet, facts, WIDTH, unplaced(facts, sheet, loose, TOP + rows * ROW + 34))
}

const cellAt = (space: number) => ({ x: space % 2 === 1 ? X0 : X0 + CELL + SPINE, y: TOP + (Math.ceil(space / 2) - 1) * ROW })

function head(facts: BoardFacts, { shapes }: Sheet, rows: number): void {
  shapes.push(
    { kind: 'rect', x: 4, y: 4, w: WIDTH - 8, h: TOP + rows * ROW + 8, r: 4, fill: 'sheet', stroke: 'ink', width: 2 },
    { kind: 'rect', x: WIDTH / 2 - 90, y: 14, w: 180, h: 40, r: 2, fill: 'wash', stroke: 'ink', width: 1.5 },
    text(WIDTH / 2, 40, mainWords(facts), 18, { anchor: 'middle', bold: true }),
    text(X0 + 2, 40, fitText(nameOf(facts), 250, 17), 17, { bold: true }),
  )
}

/** Which leg a row is on: the one leg filled, the other open, so that they differ without their letters. */
export function legBadge({ shapes }: Sheet, leg: 'A' | 'B', x: number, y: number, w: number, h: number): void {
  const [fill, ink] = leg === 'A' ? (['ink', 'sheet'] as const) : (['sheet', 'ink'] as const)
  shapes.push(
    { kind: 'rect', x, y, w, h, fill, stroke: 'ink', width: 1.5 },
    text(x + w / 2, y + h / 2 + 7, leg, 19, { anchor: 'middle', bold: true, fill: ink }),
  )
}

function empty(facts: BoardFacts, { shapes, parts }: Sheet, space: number): void {
  const { x, y } = cellAt(space)
  const part = `free:${space}`
  const { words, said, given } = spaceIn(facts, space)
  parts[part] = said
  const left = space % 2 === 1
  shapes.push(
    { kind: 'rect', x: x + 2, y: y + 3, w: CELL - 4, h: ROW - 6, r: 2, fill: 'paper', stroke: 'rule', width: 1.5, dash: '6 5', part },
    text(left ? x + CELL - 12 : x + 12, y + 30, String(space), 19, { anchor: left ? 'end' : 'start', bold: true, fill: 'ink2', part }),
    text(x + CELL / 2, y + 29, fitText(words, CELL - 90, 15), 15, { anchor: 'middle', bold: given, fill: given ? 'ink' : 'ink2', part }),
  )
}

/** Ways whose place in the board was not noted are below it, to be put in. */
function unplaced(facts: BoardFacts, sheet: Sheet, list: readonly Way[], from: number): number {
  if (list.length === 0) return from - 14
  sheet.shapes.push(text(12, from, LOOSE, 15, { bold: true }))
  const y = from + 10
  const half = (WIDTH - 24) / 2
  list.forEach((w, i) => {
    const [x, top] = [12 + (i % 2) * half, y + Math.floor(i / 2) * ROW]
    drawCell(facts, sheet, w, { x: x + 2, y: top + 3, w: half - 4, h: ROW - 6, left: true, number: spaceWords(w) })
  })
  return y + Math.ceil(list.length / 2) * ROW + 14
}
