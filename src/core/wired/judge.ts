import { boxOf, boxPoints, type Box } from '../build/box'
import type { Worked } from '../build/cores'
import { cablesAt } from '../build/alike'
import { remembered } from '../base/memory'
import type { Circuit, Installation } from '../installation/installation'
import { askedOf, type AskedFinding } from './asked'
import { type Carries, type CarriedAt, checkBox } from './check'
import { graphOf, type Graph, joinedIn } from './graph'

export interface WiringFinding extends AskedFinding {
  readonly circuit: string
}

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

const memory = remembered<Circuit, readonly WiringFinding[]>()

/**
 * What the wiring of each circuit does that was not asked, and what is wrong with joints made by hand. A circuit whose build is the same
 * keeps its findings.
 */
export function wiringFindings(job: Installation, circuits: readonly Worked[]): readonly WiringFinding[] {
  const of = new Map(circuits.map((c) => [c.circuit.id, c]))
  return circuits.flatMap((report) => {
    const { circuit, chosen } = report
    const points = boxPoints(report)
    if (points.length === 0) return []
    // Other circuits whose cables come into its boxes.
    const others = points.flatMap((p) =>
      cablesAt(job, p.id).flatMap((k) => (k.circuit === circuit.id || k.circuit === null ? [] : [of.get(k.circuit)?.circuit])),
    )
    const parts = [
      job.region,
      job.brief.schools,
      chosen.design,
      chosen.result?.size,
      chosen.result?.protectiveSize,
      chosen.result?.loadA,
      ...others,
    ]
    return memory(circuit, parts, () => judge(job, of, report))
  })
}

function judge(job: Installation, of: ReadonlyMap<string, Worked>, report: Worked): readonly WiringFinding[] {
  const boxes = boxPoints(report).map((p): Box => boxOf(job, of, report, p))
  const graph = graphOf(job, report, boxes)
  const byHand = boxes.filter((b) => !b.usual)
  const carried = byHand.length ? carriedBy(graph) : () => new Set<Carries>()
  const asked = askedOf(job, report, boxes, graph)
  const found = [
    ...asked,
    ...byHand.flatMap((b) =>
      checkBox(job, b, carried).map((f) => ({ ...f, message: f.message.startsWith(b.name) ? f.message : `${b.name}: ${f.message}` })),
    ),
  ]
  return found.map((f) => ({ ...f, clause: f.clause || 'what the wiring does', circuit: report.circuit.id }))
}
