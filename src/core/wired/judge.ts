import type { Box } from '../build/box'
import type { Worked } from '../build/cores'
import type { Installation } from '../installation/installation'
import { askedOf, type AskedFinding } from './asked'
import { type Carries, type CarriedAt, checkBox } from './check'
import { graphOf, type Graph, joinedIn } from './graph'

const carriesOf = (source: string): Carries => (source.startsWith('L') ? 'line' : source.startsWith('N') ? 'neutral' : 'earth')
/** What each place may be joined to in any position of any switch. */
function carriedBy(graph: Graph): CarriedAt {
  const any = joinedIn(graph, new Map(), { all: true })
  const none: ReadonlySet<Carries> = new Set()
  return (name) => {
    const node = graph.nodes.get(name)
    return node === undefined ? none : new Set(any.sourcesAt(node).map(carriesOf))
  }
}

/** What the wiring of a circuit does that was not asked, and what is wrong with joints made by hand. */
export function wiringFindings(job: Installation, report: Worked, boxes: readonly Box[]): readonly AskedFinding[] {
  if (boxes.length === 0) return []
  const graph = graphOf(job, report, boxes)
  const byHand = boxes.filter((b) => !b.usual && b.points[0]?.circuit === report.circuit.id)
  const carried = byHand.length ? carriedBy(graph) : null
  const joints = carried
    ? byHand.flatMap((b) =>
        checkBox(job, b, carried).map((f) => ({ ...f, message: f.message.startsWith(b.name) ? f.message : `${b.name}: ${f.message}` })),
      )
    : []
  return [...askedOf(job, report, boxes, graph), ...joints].map((f) => ({ ...f, clause: f.clause || 'what the wiring does' }))
}
