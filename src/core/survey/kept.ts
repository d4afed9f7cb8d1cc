import type { Installation } from '../installation/installation'
import type { KeptTrace } from '../job/observation'
import { evaluateSurvey } from './traced'
import { placeNames } from './words'

/** What is known now of what feeds what, by name, to be read and compared on a later day. */
export function snapshot(job: Installation, id: string, at: string, title: string): KeptTrace {
  const { feeds, parents } = evaluateSurvey(job).trace
  const name = placeNames(job)
  const named = (place: string | null | undefined) => (place == null ? null : name(place).slice(0, 120))
  return {
    id,
    at,
    title,
    points: job.standing.map((p) => ({ id: p.id, name: p.name, feed: named(feeds[p.id]), parent: named(parents[p.id]) })),
  }
}

export interface TraceChange {
  readonly point: string
  readonly what: 'new' | 'gone' | 'moved' | 'learnt' | 'lost'
  readonly words: string
}

const words = (place: string | null): string => place ?? 'not known'

/** What changed from one trace to a later one, point by point; what stayed is left out. */
export function compareTraces(before: KeptTrace, after: KeptTrace): TraceChange[] {
  const was = new Map(before.points.map((p) => [p.id, p]))
  const is = new Set(after.points.map((p) => p.id))
  const gone = before.points
    .filter((p) => !is.has(p.id))
    .map((p): TraceChange => ({ point: p.name, what: 'gone', words: `was on ${words(p.feed)}, from ${words(p.parent)}` }))
  const rest = after.points.flatMap((p): TraceChange[] => {
    const old = was.get(p.id)
    if (!old) return [{ point: p.name, what: 'new', words: `on ${words(p.feed)}, from ${words(p.parent)}` }]
    if (old.feed === p.feed && old.parent === p.parent) return []
    const learnt = (old.feed === null || old.feed === p.feed) && (old.parent === null || old.parent === p.parent)
    const lost = (p.feed === null || old.feed === p.feed) && (p.parent === null || old.parent === p.parent)
    return [
      {
        point: p.name,
        what: learnt ? 'learnt' : lost ? 'lost' : 'moved',
        words: `was on ${words(old.feed)}, from ${words(old.parent)}; now on ${words(p.feed)}, from ${words(p.parent)}`,
      },
    ]
  })
  return [...gone, ...rest]
}
