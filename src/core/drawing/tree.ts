import type { ElkNode } from 'elkjs/lib/elk-api'
import type { Installation, Point } from '../installation/installation'
import type { Way } from '../job/board'
import type { SurveyReport } from '../survey/traced'
import { verdictGlyph } from './glyph'
import { type Drawing, fitText, line, type Shape, text } from './shape'

const NODE = { width: 140, height: 56 }
const ROOT = 'board'
const MARGIN = 16
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']

/** The known part of the tree as a graph to be laid out: board → way → point → point. */
export function treeGraph(survey: Installation, { trace }: SurveyReport): ElkNode {
  const known = survey.standing.filter((p) => trace.parents[p.id] !== null)
  const places = new Set([...survey.ways.map((w) => w.id), ...known.map((p) => p.id)])
  // A point whose own place is known below one whose place is not still shows, at the end of a loose twig.
  const loose = new Set(known.map((p) => trace.parents[p.id]!).filter((parent) => !places.has(parent)))
  return {
    id: 'tree',
    layoutOptions: {
      'elk.algorithm': 'mrtree',
      'elk.direction': 'RIGHT',
      'elk.spacing.nodeNode': '14',
      'elk.mrtree.edgeRoutingMode': 'AVOID_OVERLAP',
      'elk.padding': '[top=8,left=8,bottom=8,right=8]',
    },
    children: [{ id: ROOT, width: 84, height: NODE.height }, ...[...places, ...loose].map((id) => ({ id, ...NODE }))],
    edges: [
      ...survey.ways.map((w) => ({
        id: `e-${w.id}`,
        sources: [survey.boards.find((b) => b.id === w.board)?.fedFrom ?? ROOT],
        targets: [w.id],
      })),
      ...known.map((p) => ({ id: `e-${p.id}`, sources: [trace.parents[p.id]!], targets: [p.id] })),
    ],
  }
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

type Edge = NonNullable<ElkNode['edges']>[number]
function edgeShape({ sources, targets }: Edge, nodes: ReadonlyMap<string, ElkNode>): Shape {
  const [from, to] = [nodes.get(sources[0]!)!, nodes.get(targets[0]!)!]
  const [x1, y1] = [MARGIN + from.x! + from.width!, MARGIN + from.y! + from.height! / 2]
  const [x2, y2] = [MARGIN + to.x!, MARGIN + to.y! + to.height! / 2]
  const middle = (x1 + x2) / 2
  return { kind: 'path', d: `M${x1} ${y1}C${middle} ${y1} ${middle} ${y2} ${x2} ${y2}`, stroke: 'ink', width: 2, fill: 'none' }
}

/** What stands at a node: the board, a way or a point, with up to two lines under its name. */
interface Told {
  readonly kind: 'board' | 'way' | 'point'
  readonly name: string
  readonly lines: readonly string[]
  readonly hidden: boolean
  readonly mustHold: boolean
}
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

function nodeShapes(node: ElkNode, { kind, name, lines, hidden, mustHold }: Told): Shape[] {
  const [x, y, w, h] = [MARGIN + node.x!, MARGIN + node.y!, node.width!, node.height!]
  const under = lines.filter(Boolean)
  const top = y + h / 2 + 5 - 8 * under.length
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
    text(x + w / 2, top, fitText(name, w - 10, 14), 14, { anchor: 'middle', bold: true }),
    ...under.map((words, i) => text(x + w / 2, top + 16 * (i + 1), fitText(words, w - 8, 12), 12, { anchor: 'middle', fill: 'ink2' })),
    ...(mustHold ? [line(x + 6, y + h - 4, x + w - 6, y + h - 4, { width: 3 })] : []),
  ]
}

/** A point not placed yet, with what it may hang from. */
function openShapes(p: Point, from: string, y: number, width: number): Shape[] {
  return [
    ...verdictGlyph('unknown', MARGIN + 9, y - 5),
    text(MARGIN + 26, y, fitText([p.name, p.room].filter(Boolean).join(', '), 200, 14), 14),
    text(MARGIN + 236, y, fitText(from, width - MARGIN - 252, 13), 13, { fill: 'ink2' }),
  ]
}

/** The traced tree once its graph is laid out; points not placed yet stand below with what they may hang from. */
export function treeDrawing(survey: Installation, report: SurveyReport, laid: ElkNode, board: string): Drawing {
  const { trace, proved } = report
  const dates = lastSeen(survey, report.counted)
  const ways = new Map(survey.ways.map((w) => [w.id, w]))
  const points = new Map(survey.standing.map((p) => [p.id, p]))
  const nodes = new Map((laid.children ?? []).map((n) => [n.id, n]))
  const told = (id: string): Told => {
    const [way, point] = [ways.get(id), points.get(id)]
    if (way) return wayTold(way, proved.has(way.id))
    return point ? pointTold(point, dates.get(id)) : { kind: 'board', name: board, lines: [], hidden: false, mustHold: false }
  }
  /** What a point that is not placed may hang from, in words. */
  const mayHang = (id: string): string => {
    const names = (trace.candidates[id] ?? []).map((c) => ways.get(c)?.label ?? points.get(c)?.name ?? c)
    const feed = trace.feeds[id]
    return `${feed ? `on ${ways.get(feed)?.label}; ` : ''}${names.length ? `from ${names.join(', ')}` : 'nothing seen yet'}`
  }
  const width = Math.max(640, (laid.width ?? 0) + 2 * MARGIN)
  const foot = (laid.height ?? 0) + 2 * MARGIN + 18
  const known = [...nodes.keys()].filter((id) => points.has(id) && trace.parents[id] !== null).length
  const open = survey.standing.filter((p) => trace.parents[p.id] === null)
  const lowest = open.length ? foot + 12 + 24 * open.length : foot
  return {
    width,
    height: lowest + MARGIN,
    title: `The traced tree: ${known} of ${known + open.length} points known`,
    shapes: [
      ...(laid.edges ?? []).map((e) => edgeShape(e, nodes)),
      ...[...nodes.values()].flatMap((n) => nodeShapes(n, told(n.id))),
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
