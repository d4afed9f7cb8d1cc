import type { Survey } from '../survey/schema'
import type { Observation, TraceTest } from './types'

/** The names people gave to ways and points, by id. */
export function placeNames(survey: Survey): (id: string) => string {
  const names = new Map([...survey.ways.map((w) => [w.id, w.label] as const), ...survey.points.map((p) => [p.id, p.name] as const)])
  return (id) => names.get(id) ?? id
}

export function testInWords(survey: Survey, test: TraceTest): string {
  const name = placeNames(survey)
  return test.kind === 'breaker-off' ? `Switch off ${name(test.breaker)}` : `Part the onward cables at ${name(test.point)}`
}

export function sightingInWords(survey: Survey, seen: Observation): string {
  const name = placeNames(survey)
  if (seen.kind === 'cables') return `${seen.onward} onward ${seen.onward === 1 ? 'cable' : 'cables'} at ${name(seen.point)}`
  const dead = seen.dead.length ? seen.dead.map(name).join(', ') : 'nothing'
  return seen.kind === 'breaker-off' ? `${name(seen.breaker)} off, ${dead} dead` : `${name(seen.point)} parted, ${dead} dead beyond`
}
