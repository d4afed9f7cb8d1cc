import type { Box } from '../build/box'
import type { Worked } from '../build/cores'
import { endWords } from '../build/words'
import type { Installation } from '../installation/installation'
import { type Contacts, graphOf, joinedIn } from './graph'
import { nodeOf } from './laid'

/** Whether an end is on a line whatever the switches do, in some position of them, or never. */
export type Leg = 'permanent' | 'switched' | 'none'
export type Legs = (box: string, end: string) => Leg

/** Which conductor ends of a circuit are permanently live and which are switched, as its boxes are wired. */
export function legsOf(job: Installation, report: Worked, boxes: readonly Box[]): Legs {
  const graph = graphOf(job, report, boxes)
  const switches = graph.contacts.filter((c) => c.kind === 'actuator')
  const all = (at: (n: number) => number): Contacts => new Map(switches.map((c) => [c.key, at(c.positions.length - 1)]))
  const states: readonly Contacts[] = [
    all((last) => last),
    all(() => 0),
    ...switches.flatMap((c) => [new Map([[c.key, 0]]), new Map([...all(() => 0), [c.key, c.positions.length - 1]])]),
  ]
  const joined = states.map((s) => joinedIn(graph, s))
  return (box, end) => {
    const node = graph.nodes.get(nodeOf(box, end))
    if (node === undefined) return 'none'
    const live = joined.filter((j) => j.sourcesAt(node).some((s) => s.startsWith('L'))).length
    return live === 0 ? 'none' : live === joined.length ? 'permanent' : 'switched'
  }
}

/** In a box where both meet: its permanently live conductors and its switched ones, in words; null where there is one kind alone. */
export function legsWords(box: Box, legs: Legs): { readonly always: readonly string[]; readonly switched: readonly string[] } | null {
  const ends = box.cables.flatMap((k) => k.ends.map((e) => e.name))
  const words = (of: Leg) => [...new Set(ends.filter((e) => legs(box.id, e) === of).map((e) => endWords(box, e)))]
  const [always, switched] = [words('permanent'), words('switched')]
  return always.length && switched.length ? { always, switched } : null
}
