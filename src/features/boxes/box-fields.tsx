'use client'
import { type BoxKind, boxesFor } from '@/core/catalogue/boxes'
import type { BoxReport } from '@/core/build/choose-box'
import { pointsThere } from '@/core/installation/installation'
import type { BoxPatch, BoxRecord, MeasuredBox } from '@/core/job/box'
import { formatSmallLength, formatVolume, type UnitSystem } from '@/core/base/format'
import { worlds } from '@/core/region/worlds'
import { CheckField, ChoiceField, SelectField } from '@/ui/fields'
import { SmallLengthField, VolumeField } from '../fields/measure-fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid } from '@/ui/panel'
import { useJob, useUnits } from '../sync/context'

/** A kind of box by its name and what it holds. */
export const describe = (b: BoxKind, units: UnitSystem, na: boolean): string =>
  `${b.name} (${na ? formatVolume(b.volumeCm3, units) : formatSmallLength(b.depthMm, units)})`

/** Whether a box is there already: something that was found is in it. */
export const useThere = (box: string): boolean => {
  const points = useJob((s) => s.job.points)
  return pointsThere(points).some((p) => p.box.id === box)
}

/** What is said of a box: its kind or its measures, another in its place, and what is in it besides. */
export function BoxFields({ box, kind, cables }: { box: BoxRecord; kind: BoxKind | null; cables: number | null }) {
  const region = useJob((s) => s.job.region)
  const commit = useJob((s) => s.commit)
  const show = useJob((s) => s.show)
  const units = useUnits()
  const there = useThere(box.id)
  const na = worlds[region].boxesBy === 'volume'
  const edit = (patch: BoxPatch) => ({ kind: 'box.set' as const, boxes: [box.id], patch })
  const set = (patch: BoxPatch) => commit(edit(patch))
  const kinds = boxesFor(region).map((b) => ({ value: b.id, label: describe(b, units, na), group: b.mounting as string }))
  return (
    <FieldGrid>
      <SelectField
        wide
        label={there ? 'Box that is there' : 'Box'}
        value={box.measured ? 'measured' : (box.kind ?? '')}
        placeholder={there ? 'Not checked' : 'Choose a box'}
        options={[...kinds, { value: 'measured', label: 'None of these: measured', group: 'Other' }]}
        onCommit={(id) => set(id === 'measured' ? { measured: { volumeCm3: null, depthMm: null, gangs: 1, metal: null } } : { kind: id })}
      />
      {box.measured && <MeasuredFields measured={box.measured} na={na} onSet={(measured) => set({ measured })} />}
      {there && (
        <SelectField
          wide
          label="Fit another in its place"
          value={box.planned?.kind ?? ''}
          options={[{ value: '', label: 'No: it stays' }, ...kinds]}
          onCommit={(id) => set({ planned: id ? { kind: id } : null })}
        />
      )}
      <NumberField
        label="Other cables in it"
        {...(cables === null ? {} : { hint: `In addition to the ${cables} of this job` })}
        value={box.others}
        whole
        max={11}
        onPreview={(others) => others !== null && show(edit({ others }))}
        onCommit={(others) => others !== null && set({ others })}
      />
      {na && (
        <>
          <NumberField
            label="Fixture studs and hickeys"
            value={box.supportFittings}
            whole
            max={4}
            onCommit={(supportFittings) => supportFittings !== null && set({ supportFittings })}
          />
          <CheckField
            label="Clamps inside the box"
            value={box.internalClamps ?? kind?.internalClamps ?? false}
            onCommit={(internalClamps) => set({ internalClamps })}
          />
        </>
      )}
    </FieldGrid>
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
        <VolumeField
          label="Volume, as marked or measured"
          value={measured.volumeCm3}
          max={100_000}
          onCommit={(volumeCm3) => set({ volumeCm3: volumeCm3 || null })}
        />
      ) : (
        <SmallLengthField
          label="Depth inside"
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

/** What a list of findings on a box says where it is empty. */
export function nothingFound({ kind, fill, depth }: Pick<BoxReport, 'kind' | 'fill' | 'depth'>): string {
  if (!kind) return 'Choose a box to have it judged.'
  return fill || depth ? 'Fill OK.' : 'The fill is not known until the circuit is worked out.'
}
