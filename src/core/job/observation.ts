import { z } from 'zod'
import { observationSchema as seenSchema } from '../trace/types'
import type { Way } from './board'
import { type Cable, newCable, proofs } from './cable'
import { idField, text } from './fields'
import { addTo, EditError, edits, inList } from './part'
import type { PointRecord } from './point'

/**
 * What showed that a point was dead or live. A non-contact detector alone proves nothing; `told` is an earlier drawing or the wiring
 * seen laid open.
 */
export const instruments = ['contact', 'lamp', 'non-contact', 'told'] as const
/**
 * Something seen while tracing. `later`: points listed since, of which it says nothing until somebody says whether they were
 * dead; kept instead of all that were looked at, so that a large survey stays small.
 */
export const observationSchema = z.strictObject({
  id: idField,
  at: z.iso.datetime(),
  instrument: z.enum(instruments),
  withdrawn: z.boolean(),
  seen: seenSchema,
  later: z.array(idField).max(1000),
})
export type ObservationRecord = z.infer<typeof observationSchema>

/** A trace as it stood on a day, by name, so that it can be read whatever happens to the survey. */
export const keptTraceSchema = z.strictObject({
  id: idField,
  at: z.iso.datetime(),
  title: text(120),
  points: z.array(z.strictObject({ id: idField, name: text(120), feed: text(120).nullable(), parent: text(120).nullable() })).max(1000),
})
export type KeptTrace = z.infer<typeof keptTraceSchema>

interface Doc {
  ways: Way[]
  points: PointRecord[]
  cables: Cable[]
  observations: ObservationRecord[]
  traces: KeptTrace[]
}
const edit = edits<Doc>()

/** Points that are there and stay there; those still to be put in, and those to be taken out, are not. */
export const isThere = ({ state }: Pick<PointRecord, 'state'>): boolean => state === 'existing' || state === 'altered'
/** Points that are there now, and so are traced: those to be taken out too. */
export const stands = ({ state }: Pick<PointRecord, 'state'>): boolean => state !== 'new'

/** A point listed after an observation was made was not looked at then. */
export function listedLater(doc: Pick<Doc, 'observations'>, points: readonly string[]): void {
  for (const o of doc.observations) if (o.seen.kind !== 'cables') o.later = [...new Set([...o.later, ...points])]
}

export const observationEdits = {
  'observation.add': edit(
    {
      items: z
        .array(observationSchema.partial({ later: true }))
        .min(1)
        .max(500),
    },
    (job, { items }) => {
      const places = new Set([...job.ways, ...job.points].map((x) => x.id))
      for (const [i, o] of items.entries()) {
        const named = [o.seen.kind === 'breaker-off' ? o.seen.breaker : o.seen.point, ...(o.seen.kind === 'cables' ? [] : o.seen.dead)]
        if (named.some((n) => !places.has(n)))
          throw new EditError(`items.${i}.seen`, 'It names a way or point that is no longer in the survey.')
        // A person who looks, looks at every point that is listed by then.
        if (!job.observations.some((known) => known.id === o.id)) job.observations.push({ ...o, later: o.later ?? [] })
      }
    },
    ({ items }, say) => `Seen: ${items.map((o) => seenInWords(o.seen, (id) => say.name(id))).join('; ')}`,
  ),
  'observation.complete': edit(
    { ids: z.array(idField).min(1).max(5000), dead: z.array(idField).max(1000) },
    (job, { ids, dead }) => {
      for (const one of ids) {
        const o = inList(job.observations, one, 'observation')
        // Only what was not looked at then can be said of it now.
        if (o.seen.kind !== 'cables') o.seen.dead.push(...dead.filter((d) => o.later.includes(d)))
        o.later = []
      }
    },
    ({ ids, dead }, say) =>
      `${ids.length === 1 ? 'An observation' : `${ids.length} observations`} completed: ` +
      `${dead.length ? `${dead.map((d) => say.name(d)).join(', ')} dead, the rest live` : 'what was listed later was live'}`,
  ),
  'observation.withdraw': edit(
    { id: idField, withdrawn: z.boolean() },
    (job, { id, withdrawn }) => {
      inList(job.observations, id, 'observation').withdrawn = withdrawn
    },
    ({ withdrawn }) => `Observation ${withdrawn ? 'withdrawn' : 'taken up again'}`,
  ),
  'trace.keep': edit(
    { trace: keptTraceSchema, restart: z.boolean() },
    (job, { trace, restart }) => {
      addTo(job.traces, trace, 'trace.id')
      if (restart) job.observations = []
    },
    ({ trace, restart }) => `Trace kept as “${trace.title}”${restart ? ', and started again' : ''}`,
  ),
  'trace.forget': edit(
    { id: idField },
    (job, { id }) => {
      inList(job.traces, id, 'kept trace')
      job.traces = job.traces.filter((t) => t.id !== id)
    },
    ({ id }, say, { traces }) => `Kept trace “${traces.find((t) => t.id === id)?.title ?? say.name(id)}” forgotten`,
  ),
  /** The cables that the trace says are there, each with what proved it; they take the place of what an earlier trace said. */
  'trace.take': edit(
    {
      cables: z
        .array(
          z.strictObject({ point: idField, from: z.strictObject({ kind: z.enum(['way', 'point']), id: idField }), proof: z.enum(proofs) }),
        )
        .min(1)
        .max(1000),
    },
    (job, { cables }) => {
      for (const [i, k] of cables.entries()) {
        inList(job.points, k.point, 'point', `cables.${i}.point`)
        inList<{ id: string }>(k.from.kind === 'way' ? job.ways : job.points, k.from.id, k.from.kind, `cables.${i}.from`)
      }
      const reached = new Set(cables.map((k) => k.point))
      const kept = new Map(job.cables.map((k) => [k.id, k]))
      job.cables = job.cables.filter(
        (k) => !(k.state === 'existing' && k.circuit === null && k.to.kind === 'point' && reached.has(k.to.id)),
      )
      for (const { point, from, proof } of cables) {
        const id = `found-${point}`
        job.cables.push({ ...(kept.get(id) ?? newCable(id, from, { kind: 'point', id: point }, { state: 'existing' })), from, proof })
      }
    },
    ({ cables }) => `${cables.length === 1 ? 'A cable' : `${cables.length} cables`} taken from the trace`,
  ),
}

/** What was seen, in words; `name` says what an id is called. */
export function seenInWords(seen: z.infer<typeof seenSchema>, name: (id: string) => string): string {
  if (seen.kind === 'cables') return `${seen.onward} onward ${seen.onward === 1 ? 'cable' : 'cables'} at ${name(seen.point)}`
  const dead = seen.dead.length ? seen.dead.map(name).join(', ') : 'nothing'
  return seen.kind === 'breaker-off' ? `${name(seen.breaker)} off, ${dead} dead` : `${name(seen.point)} parted, ${dead} dead beyond`
}
