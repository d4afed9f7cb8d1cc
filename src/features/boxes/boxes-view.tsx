'use client'
import { boxDrawing } from '@/core/drawing/box'
import type { BoxPatch } from '@/core/job/box'
import { formatVolume } from '@/core/base/format'
import { naClauses } from '@/core/region/north-america/awg'
import { FittingDrawing } from '@/ui/drawing'
import { Section, Stage } from '@/ui/panel'
import { useCircuit, useJob, useUnits } from '../sync/context'
import { Findings } from '../fields/findings'
import { useEnd } from '../fields/end-picker'
import { BoxFields, describe, nothingFound, useThere } from './box-fields'
import { InBox } from './in-box'
import { worlds } from '@/core/region/worlds'

export function BoxesView() {
  const { end, picker } = useEnd('boxes', 'size')
  const { box: chosen, boxReport: report } = end
  const region = useJob((s) => s.job.region)
  const commit = useJob((s) => s.commit)
  const units = useUnits()
  const na = worlds[region].boxesBy === 'volume'
  const { circuit, ends } = useCircuit()
  // Other points with the same accessory whose box is another, or none.
  const alike = ends.filter(
    (e) =>
      e.built?.id !== end.built?.id &&
      e.lead &&
      e.built?.points.length === 1 &&
      e.joint === end.joint &&
      e.fitted?.id === end.fitted?.id &&
      e.box.kind !== chosen.kind,
  )
  const set = (patch: BoxPatch) => commit({ kind: 'box.set', boxes: [chosen.id], patch })
  const there = useThere(chosen.id)
  // Of a box that is there what was found stays; another is put in its place.
  const use = (kind: string) => set(there ? { planned: { kind } } : { kind })
  const inUse = chosen.planned?.kind ?? chosen.kind
  const offers = [
    { title: 'Smallest that fits', box: report.smallest },
    { title: 'One with room', box: report.withRoom },
  ]
  return (
    <Stage
      title="Boxes"
      drawing={
        <div className="flex min-h-full flex-col gap-3">
          {picker && <div className="flex flex-wrap items-center gap-2">{picker}</div>}
          <div className="flex shrink-0 overflow-x-auto" tabIndex={0} role="region" aria-label="The box, drawn">
            <FittingDrawing draw={(format) => boxDrawing(report, units, format)} className="max-h-[30rem] w-full" />
          </div>
          <div className="grid gap-3 sm:grid-cols-2">
            {offers.map(({ title, box }) => (
              <div key={title} className="flex items-center gap-3 border border-rule px-3 py-2">
                <div className="min-w-0 flex-1">
                  <p className="text-[0.85rem] text-ink-2">{title}</p>
                  <p className="font-bold">
                    {box
                      ? describe(box, units, na)
                      : report.kind && !report.fill && !report.depth
                        ? 'not known yet'
                        : 'none in the catalogue'}
                  </p>
                  {box && <p className="text-[0.85rem] text-ink-2">{box.mounting}</p>}
                </div>
                {box && box.id !== inUse && (
                  <button type="button" className="btn" onClick={() => use(box.id)}>
                    {there ? 'Fit this one instead' : 'Use this box'}
                  </button>
                )}
                {box && box.id === inUse && <span className="text-ink-2">chosen</span>}
              </div>
            ))}
          </div>
        </div>
      }
      working={
        <>
          <Section title="The box">
            <BoxFields box={chosen} kind={report.kind} cables={end.cables - chosen.others} />
          </Section>
          <InBox box={chosen.id} from={end.points[0] ?? null} circuit={circuit} />
          {chosen.kind !== null && end.built?.points.length === 1 && alike.length > 0 && (
            <button
              type="button"
              className="btn mb-4 w-full whitespace-normal"
              onClick={() => commit({ kind: 'box.set', boxes: alike.map((e) => e.box.id), patch: { kind: chosen.kind } })}
            >
              Use this box for{' '}
              {alike.length === 1
                ? alike[0]!.where || 'the other point'
                : `${alike.length} more points with ${end.fitted?.name ?? 'joints only'}`}
            </button>
          )}
          <Section title="Findings">
            <Findings stage="boxes" findings={report.findings} empty={nothingFound(report)} />
          </Section>
          {report.fill && (
            <Section title="How it is counted">
              <table className="w-full text-[0.95rem]">
                <tbody>
                  {report.fill.output.allowances.map((a) => (
                    <tr key={a.what} className="border-b border-rule">
                      <td className="py-0.5">{a.what}</td>
                      <td className="px-2 text-right">{a.count} ×</td>
                      <td className="text-right">{formatVolume(a.totalCm3 / a.count, units)}</td>
                      <td className="pl-2 text-right font-bold">{formatVolume(a.totalCm3, units)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
              <p className="mt-1 text-[0.85rem] text-ink-2">314.16(B)(1) to (5); {naClauses.boxFill}</p>
            </Section>
          )}
          {report.depth && (
            <p className="text-[0.9rem] text-ink-2">
              The depth an accessory needs is its maker’s to say; these are usual figures. Read the one in your hand.
            </p>
          )}
        </>
      }
    />
  )
}
