import type { Installation } from '../installation/installation'
import { seenInWords } from '../job/observation'
import type { Observation, TraceTest } from '../trace/types'

type Named = Pick<Installation, 'ways' | 'points' | 'standing'>

/** The names people gave to ways and points, by id. */
export function placeNames(survey: Named): (id: string) => string {
  const names = new Map([
    ...survey.ways.map((w) => [w.id, w.label] as const),
    ...[...survey.points, ...survey.standing].map((p) => [p.id, p.name] as const),
  ])
  return (id) => names.get(id) ?? id
}

export function testInWords(survey: Named, test: TraceTest): string {
  const name = placeNames(survey)
  return test.kind === 'breaker-off' ? `Switch off ${name(test.breaker)}` : `Disconnect the outgoing cables at ${name(test.point)}`
}

/** What proves something, said beside it; nothing where it was seen. */
export const proofInWords = { seen: '', told: 'told', 'left-over': 'left over' } as const

export const observationInWords = (survey: Named, seen: Observation): string => seenInWords(seen, placeNames(survey))
