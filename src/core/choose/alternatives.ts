import { accessoriesFor, accessory } from '../catalogue/accessories'
import { boxesFor, boxKind } from '../catalogue/boxes'
import { formatLength, type UnitSystem } from '../base/format'
import { evaluate, type Report } from '../evaluate/evaluate'
import { type Installation, read } from '../installation/installation'
import { applyEdit, type Edit } from '../job/edits'
import { EditError } from '../job/part'
import { cableNames } from '../region/vocabulary'
import { worlds } from '../region/worlds'
import { type Material, materialsOf, type Offer, offerOf } from '../workday/materials'
import { type MinutesTable, tasksOf } from '../workday/tasks'

/** Something else that the design can do with, by the edit that takes it. */
export interface Alternative {
  readonly id: string
  readonly name: string
  readonly edit: Edit
  /** What it costs more than what is planned, work included; below zero: less; null: more of it is not known than now. */
  readonly more: number | null
  /** One of our usual figures is part of it. */
  readonly usual: boolean
  /** What else is needed with it, and what no longer is, in words. */
  readonly changes: readonly string[]
  /** So much more is wrong, or not known, with it. */
  readonly worse: number
}

const errorsIn = (report: Report): number => report.counts.error + report.counts.unknown

/** What a job comes to. */
function costOf(job: Installation, report: Report, minutes: MinutesTable): { readonly lines: readonly Material[]; readonly offer: Offer } {
  const materials = materialsOf(job, report)
  return { lines: materials.lines, offer: offerOf(job, materials, tasksOf(job, report, minutes)) }
}

/** What is needed more of, and less, between two lists. */
function changesOf(before: readonly Material[], after: readonly Material[], but: readonly string[], units: UnitSystem): readonly string[] {
  const count = (list: readonly Material[], id: string) => list.find((l) => l.id === id)?.count ?? 0
  const all = [...before, ...after.filter((a) => !before.some((b) => b.id === a.id))]
  return all.flatMap((l) => {
    const by = Math.round((count(after, l.id) - count(before, l.id)) * 10) / 10
    if (by === 0 || but.includes(l.id)) return []
    const much = l.unit === 'm' ? `${formatLength(Math.abs(by), units)} of` : `${Math.abs(by)} ×`
    return [`${much} ${l.what} ${by > 0 ? 'more' : 'less'}`]
  })
}

interface Tried {
  readonly id: string
  readonly name: string
  readonly edit: Edit
}
/** The same job with something else: null where it is refused. */
function tried(job: Installation, report: Report, { id, name, edit }: Tried, but: string, minutes: MinutesTable): Alternative | null {
  try {
    const other = read(applyEdit(job.record, edit).job)
    const judged = evaluate(other, [])
    const [was, is] = [costOf(job, report, minutes), costOf(other, judged, minutes)]
    return {
      id,
      name,
      edit,
      more: is.offer.unknown.length > was.offer.unknown.length ? null : is.offer.total - was.offer.total,
      usual: was.offer.usual || is.offer.usual,
      changes: changesOf(was.lines, is.lines, [but, `${but.split(' ')[0]} ${id}`], worlds[job.region].units),
      worse: Math.max(0, errorsIn(judged) - errorsIn(report)),
    }
  } catch (e) {
    if (e instanceof EditError) return null
    throw e
  }
}

/** What else of the catalogue could be in place of what a line of the materials is. */
function candidates(job: Installation, line: string): readonly Tried[] {
  const [kind, ...rest] = line.split(' ')
  const what = (['accessory', 'box', 'cable'] as const).find((w) => w === kind)
  if (!what) return []
  const from = what === 'cable' ? rest[0]! : rest.join(' ')
  return likeOf(job, what, from).map(({ id, name }) => ({ id, name, edit: { kind: 'design.swap', what, from, to: id } }))
}

interface Like {
  readonly id: string
  readonly name: string
}
function likeOf(job: Installation, what: 'accessory' | 'box' | 'cable', id: string): readonly Like[] {
  if (what === 'cable') return worlds[job.region].cables.filter((k) => k !== id).map((k) => ({ id: k, name: cableNames[k] ?? k }))
  if (what === 'box') {
    const was = boxKind(id)
    // Of the same make: another shape or manner of holding is another way of building it.
    return boxesFor(job.region).filter((b) => b.id !== id && b.shape === was?.shape && b.mounting === was.mounting)
  }
  const was = accessory(id)
  return accessoriesFor(job.region).filter(
    (a) => a.id !== id && a.kind === was?.kind && a.system === was.system && a.outlets > 0 === was.outlets > 0,
  )
}

/** What could replace a line of the materials so that the design finds no more wrong than now, the cheapest first. */
export const insteadOf = (job: Installation, report: Report, line: string, minutes: MinutesTable): readonly Alternative[] =>
  candidates(job, line)
    .flatMap((c) => tried(job, report, c, line, minutes) ?? [])
    .filter((a) => a.worse === 0)
    .toSorted((a, b) => (a.more ?? Infinity) - (b.more ?? Infinity))

/** Each circuit that has alternatives, with what the job comes to with either: options side by side. */
export const sideBySide = (
  job: Installation,
  report: Report,
  minutes: MinutesTable,
): readonly (Alternative & { readonly circuit: string })[] =>
  report.circuits.flatMap(({ circuit }) =>
    circuit.designs.flatMap((d) => {
      if (d.id === circuit.chosen || circuit.designs.length < 2) return []
      const edit: Edit = { kind: 'design.choose', circuit: circuit.id, design: d.id }
      const other = tried(job, report, { id: `${circuit.id} ${d.id}`, name: d.name, edit }, '', minutes)
      return other ? [{ ...other, circuit: circuit.name }] : []
    }),
  )
