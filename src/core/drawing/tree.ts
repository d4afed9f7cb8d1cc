import type { ElkNode } from 'elkjs/lib/elk-api'
import type { Installation } from '../installation/installation'
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

/** The traced tree once its graph is laid out; points not placed yet stand below with what they may hang from. */
export function treeDrawing(survey: Installation, report: SurveyReport, laid: ElkNode, board: string): Drawing {
  const { trace, proved } = report
  const dates = lastSeen(survey, report.counted)
  const ways = new Map(survey.ways.map((w) => [w.id, w]))
  const points = new Map(survey.standing.map((p) => [p.id, p]))
  const nodes = new Map((laid.children ?? []).map((n) => [n.id, n]))
  const shapes: Shape[] = []
  for (const e of laid.edges ?? []) {
    const [from, to] = [nodes.get(e.sources[0]!)!, nodes.get(e.targets[0]!)!]
    const [x1, y1] = [MARGIN + from.x! + from.width!, MARGIN + from.y! + from.height! / 2]
    const [x2, y2] = [MARGIN + to.x!, MARGIN + to.y! + to.height! / 2]
    shapes.push({
      kind: 'path',
      d: `M${x1} ${y1}C${(x1 + x2) / 2} ${y1} ${(x1 + x2) / 2} ${y2} ${x2} ${y2}`,
      stroke: 'ink',
      width: 2,
      fill: 'none',
    })
  }
  for (const n of nodes.values()) {
    const [x, y, w, h] = [MARGIN + n.x!, MARGIN + n.y!, n.width!, n.height!]
    const way = ways.get(n.id)
    const point = points.get(n.id)
    const heading = way?.label ?? point?.name ?? board
    const third = point
      ? [point.state === 'removed' ? 'goes' : '', point.cable, dates.get(point.id)].filter(Boolean).join(' · ')
      : way && !proved.has(way.id)
        ? 'label not trusted'
        : ''
    const under = way
      ? way.ratingA
        ? `${way.ratingA} A`
        : 'rating ?'
      : point
        ? [point.room, point.kind === 'outlet' ? '' : point.kind].filter(Boolean).join(', ')
        : ''
    shapes.push({
      kind: 'rect',
      x,
      y,
      w,
      h,
      r: point ? 12 : 2,
      fill: way || !point ? 'wash' : 'sheet',
      stroke: 'ink',
      width: point?.hidden ? 2.5 : 1.5,
      ...(point?.hidden ? { dash: '5 4' } : {}),
    })
    const lines = [under, third].filter(Boolean)
    const top = y + h / 2 + 5 - 8 * lines.length
    shapes.push(text(x + w / 2, top, fitText(heading, w - 10, 14), 14, { anchor: 'middle', bold: true }))
    lines.forEach((words, i) =>
      shapes.push(text(x + w / 2, top + 16 * (i + 1), fitText(words, w - 8, 12), 12, { anchor: 'middle', fill: 'ink2' })),
    )
    if (point?.mustHold) shapes.push(line(x + 6, y + h - 4, x + w - 6, y + h - 4, { width: 3 }))
  }
  const width = Math.max(640, (laid.width ?? 0) + 2 * MARGIN)
  let y = (laid.height ?? 0) + 2 * MARGIN + 18
  const known = (laid.children ?? []).filter((n) => points.has(n.id) && trace.parents[n.id] !== null).length
  const open = survey.standing.filter((p) => trace.parents[p.id] === null)
  if (open.length) {
    shapes.push(line(MARGIN, y - 18, width - MARGIN, y - 18, { stroke: 'rule', width: 1 }))
    shapes.push(text(MARGIN, y, 'Not known yet', 14, { bold: true }))
    y += 12
    for (const p of open) {
      y += 24
      const names = (trace.candidates[p.id] ?? []).map((c) => ways.get(c)?.label ?? points.get(c)?.name ?? c)
      const feed = trace.feeds[p.id]
      shapes.push(...verdictGlyph('unknown', MARGIN + 9, y - 5))
      shapes.push(text(MARGIN + 26, y, fitText([p.name, p.room].filter(Boolean).join(', '), 200, 14), 14))
      shapes.push(
        text(
          MARGIN + 236,
          y,
          fitText(
            `${feed ? `on ${ways.get(feed)?.label}; ` : ''}${names.length ? `from ${names.join(', ')}` : 'nothing seen yet'}`,
            width - MARGIN - 252,
            13,
          ),
          13,
          { fill: 'ink2' },
        ),
      )
    }
  }
  return { width, height: y + MARGIN, title: `The traced tree: ${known} of ${known + open.length} points known`, shapes }
}
