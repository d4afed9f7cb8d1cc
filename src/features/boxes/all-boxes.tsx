'use client'
import { useState } from 'react'
import type { EndReport } from '@/core/evaluate/evaluate'
import type { Point } from '@/core/installation/installation'
import { enclosureOf } from '@/core/build/choose-box'
import { listedWords } from '@/core/base/finding'
import { formatSmallLength } from '@/core/base/format'
import { Section, Stage } from '@/ui/panel'
import { Table } from '@/ui/table'
import { useJob, useUnits } from '../sync/context'
import { Findings } from '../fields/findings'
import { BoxFields, nothingFound } from './box-fields'
import { Photographs } from '../photographs/photographs'
import { InBox } from './in-box'

/** What becomes of a box, by what is in it. */
function stateOf(points: readonly Point[], replaced: boolean): string {
  if (points.every((p) => p.state === 'new')) return 'new'
  if (points.every((p) => p.state === 'removed')) return 'taken out'
  return replaced ? 'there, another in its place' : points.some((p) => p.state === 'new') ? 'there, with something new in it' : 'there'
}
/** How full it is, in a word. */
function fullness({ fill, depth, findings }: EndReport['boxReport']): string {
  if (findings.some((f) => f.severity === 'error')) return 'does not hold it'
  if (fill) return `${Math.round(fill.output.fillFraction * 100)} % full`
  return depth ? 'deep enough' : '?'
}

/** Every box of the job, found or new, with what is in it. */
export function AllBoxes() {
  const job = useJob((s) => s.job)
  const circuits = useJob((s) => s.report.circuits)
  const units = useUnits()
  const [picked, setPicked] = useState<string | null>(null)
  const leads = new Map(circuits.flatMap((c) => c.ends.flatMap((e) => (e.built && e.lead ? [[e.built.id, { end: e, c }] as const] : []))))
  const all = [...job.points, ...job.standing.filter((p) => p.state === 'removed')]
  const known = job.boxes.flatMap((box) => {
    const points = all.filter((p) => p.box.id === box.id)
    return points.length ? [{ box, points, told: leads.get(box.id) }] : []
  })
  // Those that are worked at come first.
  const rows = [...known.filter((r) => r.told), ...known.filter((r) => !r.told)]
  const chosen = rows.find((r) => r.box.id === picked) ?? rows[0]
  if (!chosen)
    return (
      <Stage
        title="Boxes"
        drawing={<p className="m-auto max-w-sm text-center text-ink-2">No box yet: each point that is added comes with one.</p>}
        working={<p className="text-ink-2">Nothing to choose.</p>}
      />
    )
  return (
    <Stage
      title="Boxes"
      drawing={
        <Table minRem={40} heads={['In it', 'Where', 'Box', 'Gangs', 'Cables', 'Fill', 'It is']}>
          {rows.map(({ box, points, told }) => {
            const kind = enclosureOf(job.region, box)
            const height = box.heightMm === null ? '' : `${formatSmallLength(box.heightMm, units)} high`
            return (
              <tr key={box.id} className={`border-b border-rule ${box.id === chosen.box.id ? 'bg-wash' : ''}`}>
                <td>
                  <button
                    type="button"
                    className="tap w-full text-left font-bold hover:underline"
                    aria-pressed={box.id === chosen.box.id}
                    data-opens
                    onClick={() => setPicked(box.id)}
                  >
                    {listedWords(points.map((p) => p.name))}
                  </button>
                </td>
                <td className="pr-2">{[points[0]!.room, height].filter(Boolean).join(', ') || '?'}</td>
                <td className="pr-2">{kind?.name ?? '?'}</td>
                <td>{kind?.gangs ?? '?'}</td>
                <td>{told ? told.end.cables : '?'}</td>
                <td className="pr-2">{told ? fullness(told.end.boxReport) : '?'}</td>
                <td>{stateOf(points, box.planned !== undefined)}</td>
              </tr>
            )
          })}
        </Table>
      }
      working={
        <>
          <Section title={listedWords(chosen.points.map((p) => p.name))}>
            <BoxFields
              key={chosen.box.id}
              box={chosen.box}
              kind={enclosureOf(job.region, chosen.box)}
              cables={chosen.told ? chosen.told.end.cables - chosen.box.others : null}
            />
          </Section>
          <Photographs of={{ kind: 'box', id: chosen.box.id }} hint="The box open, conductors terminated, before the plate goes on." />
          <InBox box={chosen.box.id} from={chosen.told?.end.points[0] ?? null} circuit={chosen.told?.c.circuit ?? null} />
          {chosen.told && (
            <Section title="Findings">
              <Findings stage="boxes" findings={chosen.told.end.boxReport.findings} empty={nothingFound(chosen.told.end.boxReport)} />
            </Section>
          )}
        </>
      }
    />
  )
}
