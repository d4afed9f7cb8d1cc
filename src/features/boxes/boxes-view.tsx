'use client'
import { type BoxKind, boxesFor } from '@/core/catalogue/boxes'
import { boxDrawing } from '@/core/drawing/box'
import type { BoxPatch, MeasuredBox } from '@/core/job/box'
import { pointsThere } from '@/core/installation/installation'
import { formatSmallLength, formatVolume, type UnitSystem } from '@/core/base/format'
import { naClauses } from '@/core/region/north-america/awg'
import { FittingDrawing } from '@/ui/drawing'
import { CheckField, ChoiceField, SelectField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { useCircuit, useJob, useUnits } from '../sync/context'
import { Findings } from '../fields/findings'
import { useEnd } from '../fields/end-picker'
import { InBox } from './in-box'
import { worlds } from '@/core/region/worlds'

const describe = (b: BoxKind, units: UnitSystem, na: boolean): string =>
  `${b.name} (${na ? formatVolume(b.volumeCm3, units) : formatSmallLength(b.depthMm, units)})`

export function BoxesView() {
  const { end, picker } = useEnd('boxes', 'size')
  const { box: chosen, boxReport: report } = end
  const region = useJob((s) => s.job.region)
  const points = useJob((s) => s.job.points)
  const commit = useJob((s) => s.commit)
  const show = useJob((s) => s.show)
  const units = useUnits()
  const na = worlds[region].boxesBy === 'volume'
  const { ends } = useCircuit()
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
  const edit = (patch: BoxPatch) => ({ kind: 'box.set' as const, boxes: [chosen.id], patch })
  const set = (patch: BoxPatch) => commit(edit(patch))
  const there = pointsThere(points).some((p) => p.box.id === chosen.id)
  // Of a box that is there what was found stays; another is put in its place.
  const use = (kind: string) => set(there ? { planned: { kind } } : { kind })
  const inUse = chosen.planned?.kind ?? chosen.kind
  const kinds = boxesFor(region).map((b) => ({ value: b.id, label: describe(b, units, na), group: b.mounting as string }))
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
            <FieldGrid>
              <SelectField
                wide
                label={there ? 'Box that is there' : 'Box'}
                value={chosen.measured ? 'measured' : (chosen.kind ?? '')}
                placeholder={there ? 'Not looked at' : 'Choose a box'}
                options={[...kinds, { value: 'measured', label: 'None of these: measured', group: 'Other' }]}
                onCommit={(kind) =>
                  set(kind === 'measured' ? { measured: { volumeCm3: null, depthMm: null, gangs: 1, metal: null } } : { kind })
                }
              />
              {chosen.measured && <MeasuredFields measured={chosen.measured} na={na} onSet={(measured) => set({ measured })} />}
              {there && (
                <SelectField
                  wide
                  label="Fit another in its place"
                  value={chosen.planned?.kind ?? ''}
                  options={[{ value: '', label: 'No: it stays' }, ...kinds]}
                  onCommit={(kind) => set({ planned: kind ? { kind } : null })}
                />
              )}
              <NumberField
                label="Other cables in it"
                hint={`Besides the ${end.cables - chosen.others} of this job`}
                value={chosen.others}
                whole
                max={11}
                onPreview={(others) => others !== null && show(edit({ others }))}
                onCommit={(others) => others !== null && set({ others })}
              />
              {na && (
                <>
                  <NumberField
                    label="Kinds of support fitting"
                    value={chosen.supportFittings}
                    whole
                    max={4}
                    onCommit={(supportFittings) => supportFittings !== null && set({ supportFittings })}
                  />
                  <CheckField
                    label="Clamps inside the box"
                    value={chosen.internalClamps ?? report.kind?.internalClamps ?? false}
                    onCommit={(internalClamps) => set({ internalClamps })}
                  />
                </>
              )}
            </FieldGrid>
          </Section>
          <InBox end={end} />
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
            <Findings
              stage="boxes"
              findings={report.findings}
              empty={
                report.kind
                  ? report.fill || report.depth
                    ? 'Fill OK.'
                    : 'Nothing can be said until the circuit is worked out.'
                  : 'Choose a box to have it judged.'
              }
            />
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

/** Of a box that is none of the catalogue: what was measured on it. */
function MeasuredFields({ measured, na, onSet }: { measured: MeasuredBox; na: boolean; onSet: (m: MeasuredBox) => void }) {
  const set = (patch: Partial<MeasuredBox>) => onSet({ ...measured, ...patch })
  return (
    <>
      <ChoiceField
        label="Gangs"
        value={String(measured.gangs)}
        options={['1', '2', '3', '4'].map((n) => ({ value: n, label: n }))}
        onCommit={(n) => set({ gangs: Number(n) })}
      />
      {na ? (
        <NumberField
          label="Volume, as marked or measured"
          unit="cm³"
          value={measured.volumeCm3}
          max={100_000}
          onCommit={(volumeCm3) => set({ volumeCm3: volumeCm3 || null })}
        />
      ) : (
        <NumberField
          label="Depth inside"
          unit="mm"
          value={measured.depthMm}
          max={500}
          onCommit={(depthMm) => set({ depthMm: depthMm || null })}
        />
      )}
      <ChoiceField
        label="Made of metal"
        value={measured.metal === null ? null : measured.metal ? 'yes' : 'no'}
        options={[
          { value: 'yes', label: 'Yes' },
          { value: 'no', label: 'No' },
        ]}
        onCommit={(v) => set({ metal: v === 'yes' })}
      />
    </>
  )
}
