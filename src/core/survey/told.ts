import type { Installation } from '../installation/installation'
import type { Observation } from '../trace/types'

/**
 * A layout that somebody knows already, written as what would be seen in it: everything on the way dead with it off, and
 * beyond each point what is fed from it. `parents` gives each point of the way its parent, a point or the way itself.
 */
export function toldLayout(way: string, parents: Readonly<Record<string, string>>): Observation[] {
  const points = Object.keys(parents)
  const hangs = (x: string, from: string, depth = 0): boolean =>
    depth < points.length && (parents[x] === from || (parents[x] !== undefined && parents[x] !== way && hangs(parents[x], from, depth + 1)))
  return [
    { kind: 'breaker-off', breaker: way, dead: points },
    ...points.map((p): Observation => ({ kind: 'disconnected', point: p, dead: points.filter((x) => x !== p && hangs(x, p)) })),
  ]
}

/** Why a layout that is entered as known cannot be: a point that leads back to itself never reaches the way. */
export function toldProblem(survey: Installation, way: string, parents: Readonly<Record<string, string>>): string | null {
  for (const start of Object.keys(parents)) {
    const seen = new Set<string>()
    for (let at = start; at !== way; at = parents[at]!) {
      if (parents[at] === undefined || seen.has(at))
        return `${survey.points.find((p) => p.id === start)?.name ?? start} does not lead back to the board.`
      seen.add(at)
    }
  }
  return null
}
