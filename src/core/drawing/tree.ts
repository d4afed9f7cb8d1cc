import { hierarchy, tree } from 'd3-hierarchy'
import type { Installation, Point } from '../installation/installation'
import type { Way } from '../job/board'
import { cablesTraced, type SurveyReport, type TracedCable } from '../survey/traced'
import { proofInWords } from '../survey/words'
import { verdictGlyph } from './glyph'
import { type Drawing, fitText, line, type Shape, text, wrapText } from './shape'

const NODE = { width: 140, height: 60 }
/** The board leaves room for what is fed from it. */
const BOARD = 84
const GAP = { across: 24, down: 14 }
const ROOT = 'board'
const MARGIN = 16
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

/** A board, a way or a point, and what is fed from it. */
interface Branch {
  readonly id: string
  readonly children: readonly Branch[]
}

/** The known part of what feeds what: the board with all that is fed from it, and under it the loose twigs. */
function branches(survey: Installation, { trace }: SurveyReport): readonly Branch[] {
  const known = survey.standing.filter((p) => trace.parents[p.id] !== null)
  const places = new Set([ROOT, ...survey.ways.map((w) => w.id), ...known.map((p) => p.id)])
  // A point whose own place is known below one whose place is not still shows, at the end of a loose twig.
  const loose = new Set(known.map((p) => trace.parents[p.id]!).filter((parent) => !places.has(parent)))
  const below = new Map<string, string[]>()
  const hang = (id: string, from: string) => below.set(from, [...(below.get(from) ?? []), id])
  for (const w of survey.ways) {
    const feeder = survey.boards.find((b) => b.id === w.board)?.fedFrom
    hang(w.id, feeder && places.has(feeder) ? feeder : ROOT)
  }
  for (const p of known) hang(p.id, trace.parents[p.id]!)
  const reached = new Set<string>()
  const branch = (id: string): Branch => {
    reached.add(id)
    return { id, children: (below.get(id) ?? []).filter((b) => !reached.has(b)).map(branch) }
  }
  const roots = [ROOT, ...loose].map(branch)
  // A circle, should somebody enter one, is shown all the same.
  return [...roots, ...[...places].flatMap((id) => (reached.has(id) ? [] : [branch(id)]))]
}

interface Node {
  readonly id: string
  readonly x: number
  readonly y: number
  readonly w: number
}
interface Laid {
  readonly nodes: readonly Node[]
  readonly edges: readonly (readonly [Node, Node])[]
  readonly width: number
  readonly height: number
}

/** Branches one under the other, each a tidy tree that grows to the right. */
function layOut(roots: readonly Branch[]): Laid {
  const [nodes, edges]: [Node[], [Node, Node][]] = [[], []]
  let foot = MARGIN
  for (const root of roots) {
    const laid = tree<Branch>()
      .nodeSize([NODE.height + GAP.down, NODE.width + GAP.across])
      .separation(() => 1)(hierarchy(root, (b) => b.children))
    const over = foot - Math.min(...laid.descendants().map((n) => n.x))
    const wide = root.id === ROOT ? BOARD : NODE.width
    const placed = new Map(
      laid.descendants().map((n) => {
        const [x, w] = n.depth === 0 ? [MARGIN, wide] : [MARGIN + n.y - NODE.width + wide, NODE.width]
        return [n, { id: n.data.id, x, y: n.x + over, w }]
      }),
    )
    nodes.push(...placed.values())
    edges.push(...laid.links().map(({ source, target }): [Node, Node] => [placed.get(source)!, placed.get(target)!]))
    foot = Math.max(...[...placed.values()].map((n) => n.y)) + NODE.height + GAP.down
  }
  return { nodes, edges, width: Math.max(...nodes.map((n) => n.x + n.w)) + MARGIN, height: foot - GAP.down + MARGIN }
}

/** The day each point was last seen dead or parted, of what counts. */
function lastSeen(survey: Installation, counted: readonly string[]): Map<string, string> {
  const counts = new Set(counted)
  const dates = new Map<string, string>()
  for (const s of survey.observations.filter((x) => counts.has(x.id)).toSorted((a, b) => a.at.localeCompare(b.at))) {
    const places = s.seen.kind === 'cables' ? [s.seen.point] : [...s.seen.dead, ...(s.seen.kind === 'disconnected' ? [s.seen.point] : [])]
    for (const p of places) dates.set(p, `${Number(s.at.slice(8, 10))} ${MONTHS[Number(s.at.slice(5, 7)) - 1]} ${s.at.slice(2, 4)}`)
  }
  return dates
}

/** What was not looked at is dashed. */
function edgeShape([from, to]: readonly [Node, Node], leftOver: boolean): Shape {
  const [x1, y1] = [from.x + from.w, from.y + NODE.height / 2]
  const [x2, y2] = [to.x, to.y + NODE.height / 2]
  const middle = (x1 + x2) / 2
  const d = `M${x1} ${y1}C${middle} ${y1} ${middle} ${y2} ${x2} ${y2}`
  return { kind: 'path', d, stroke: 'ink', width: 2, fill: 'none', ...(leftOver ? { dash: '4 4' } : {}) }
}

/** What is at a node: the board, a way or a point, with up to two lines under its name. */
interface Told {
  readonly kind: 'board' | 'way' | 'point'
  readonly name: string
  readonly lines: readonly string[]
  readonly hidden: boolean
  readonly mustHold: boolean
}
/** When it was last seen or reported; what is left over was neither. */
const proofTold = (proof: TracedCable['proof'] = 'seen', date = ''): string =>
  [proofInWords[proof], proof === 'left-over' ? '' : date].filter(Boolean).join(' ')
const pointTold = (p: Point, seen: string | undefined): Told => ({
  kind: 'point',
  name: p.name,
  lines: [
    [p.room, p.kind === 'outlet' ? '' : p.kind].filter(Boolean).join(', '),
    [p.state === 'removed' ? 'goes' : '', p.cable, seen].filter(Boolean).join(' · '),
  ],
  hidden: p.hidden,
  mustHold: p.mustHold,
})
const wayTold = (w: Way, trusted: boolean): Told => ({
  kind: 'way',
  name: w.label,
  lines: [w.ratingA ? `${w.ratingA} A` : 'rating ?', trusted ? '' : 'label not trusted'],
  hidden: false,
  mustHold: false,
})

function nodeShapes({ x, y, w }: Node, { kind, name, lines, hidden, mustHold }: Told): Shape[] {
  const h = NODE.height
  const under = lines.filter(Boolean).map((words) => fitText(words, w - 8, 12))
  const names = wrapText(name, w - 8, 14, 3 - under.length)
  const top = y + h / 2 + 5 - 8 * (names.length + under.length - 1)
  return [
    {
      kind: 'rect',
      x,
      y,
      w,
      h,
      r: kind === 'point' ? 12 : 2,
      fill: kind === 'point' ? 'sheet' : 'wash',
      stroke: 'ink',
      width: hidden ? 2.5 : 1.5,
      ...(hidden ? { dash: '5 4' } : {}),
    },
    ...names.map((words, i) => text(x + w / 2, top + 16 * i, words, 14, { anchor: 'middle', bold: true })),
    ...under.map((words, i) => text(x + w / 2, top + 16 * (names.length + i), words, 12, { anchor: 'middle', fill: 'ink2' })),
    ...(mustHold ? [line(x + 6, y + h - 4, x + w - 6, y + h - 4, { width: 3 })] : []),
  ]
}

/** A point not placed yet, with what it may be fed from. */
function openShapes(p: Point, from: string, y: number, width: number): Shape[] {
  return [
    ...verdictGlyph('unknown', MARGIN + 9, y - 5),
    text(MARGIN + 26, y, fitText([p.name, p.room].filter(Boolean).join(', '), 200, 14), 14),
    text(MARGIN + 236, y, fitText(from, width - MARGIN - 252, 13), 13, { fill: 'ink2' }),
  ]
}

/** The traced tree, its `board` named; points not placed yet are below with what they may be fed from. */
export function treeDrawing(survey: Installation, report: SurveyReport, board: string): Drawing {
  const { trace, proved } = report
  const laid = layOut(branches(survey, report))
  const dates = lastSeen(survey, report.counted)
  const proofs = new Map(cablesTraced(survey).map((c) => [c.point, c.proof]))
  const ways = new Map(survey.ways.map((w) => [w.id, w]))
  const points = new Map(survey.standing.map((p) => [p.id, p]))
  const told = (id: string): Told => {
    const [way, point] = [ways.get(id), points.get(id)]
    if (way) return wayTold(way, proved.has(way.id))
    return point
      ? pointTold(point, proofTold(proofs.get(id), dates.get(id)))
      : { kind: 'board', name: board, lines: [], hidden: false, mustHold: false }
  }
  /** What a point that is not placed may be fed from, in words. */
  const mayHang = (id: string): string => {
    const names = (trace.candidates[id] ?? []).map((c) => ways.get(c)?.label ?? points.get(c)?.name ?? c)
    const feed = trace.feeds[id]
    return `${feed ? `on ${ways.get(feed)?.label}; ` : ''}${names.length ? `from ${names.join(', ')}` : 'nothing seen yet'}`
  }
  const width = Math.max(640, laid.width)
  const foot = laid.height + 18
  const known = laid.nodes.filter((n) => points.has(n.id) && trace.parents[n.id] !== null).length
  const open = survey.standing.filter((p) => trace.parents[p.id] === null)
  const lowest = open.length ? foot + 12 + 24 * open.length : foot
  return {
    width,
    height: lowest + MARGIN,
    title: `The traced tree: ${known} of ${known + open.length} points known`,
    shapes: [
      ...laid.edges.map((edge) => edgeShape(edge, proofs.get(edge[1].id) === 'left-over')),
      ...laid.nodes.flatMap((n) => nodeShapes(n, told(n.id))),
      ...(open.length
        ? [
            line(MARGIN, foot - 18, width - MARGIN, foot - 18, { stroke: 'rule', width: 1 }),
            text(MARGIN, foot, 'Not known yet', 14, { bold: true }),
          ]
        : []),
      ...open.flatMap((p, i) => openShapes(p, mayHang(p.id), foot + 12 + 24 * (i + 1), width)),
    ],
  }
}
