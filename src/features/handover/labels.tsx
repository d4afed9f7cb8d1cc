'use client'
import { useMemo } from 'react'
import { asPrinted, LEAST_CODE_MM, type TapeLabel } from '@/core/documents/label-tape'
import { circuitLabels, type Label, otherLabels } from '@/core/documents/labels'
import { labelFindings, labelKey, labelStates, labelText } from '@/core/documents/stuck-labels'
import { seenBy } from '@/core/design/fed'
import { labelDrawing } from '@/core/drawing/label'
import { newLabels, tapeWidthsMm } from '@/core/job/label'
import { DrawingView } from '@/ui/drawing'
import { CheckField, SelectField, TextField } from '@/ui/fields'
import { FieldGrid, Section } from '@/ui/panel'
import { formatDate } from '@/ui/when'
import { Say } from '@/ui/worded'
import { useCircuit, useJob, useSeenJob, useUnits } from '../sync/context'
import { Findings } from '../fields/findings'
import { useSettings } from '@/ui/settings'
import { Abbreviations } from './abbreviations'

const stick = ({ place, at, cable, lines }: Label) => ({
  key: labelKey({ place, at, cable }),
  text: labelText({ lines }),
  at: new Date().toISOString(),
})

/** Every label of the job without its date, which is no news; none while none was stuck. */
function useAllLabels(): readonly Label[] {
  const circuits = useJob((s) => s.report.circuits)
  const units = useUnits()
  const job = useJob((s) => s.job)
  const any = (job.record.labels?.stuck.length ?? 0) > 0
  return useMemo(
    () => (any ? [...circuits.flatMap((c) => circuitLabels(seenBy(job, c), c, '', units)), ...otherLabels(job, '')] : []),
    [any, job, circuits, units],
  )
}

/** How labels are printed: on sheets or on tape, with a QR code or without. */
function LabelFields() {
  const record = useJob((s) => s.job.record.labels) ?? newLabels()
  const commit = useJob((s) => s.commit)
  const set = (patch: { tapeMm?: typeof record.tapeMm; address?: string | null }) => commit({ kind: 'labels.set', patch })
  return (
    <FieldGrid>
      <SelectField
        label="Printed on"
        value={record.tapeMm === null ? 'sheet' : String(record.tapeMm)}
        options={[
          { value: 'sheet', label: 'Sheets of stickers' },
          ...tapeWidthsMm.map((w) => ({ value: String(w), label: `Tape, ${w} mm` })),
        ]}
        onCommit={(v) => set({ tapeMm: tapeWidthsMm.find((w) => String(w) === v) ?? null })}
      />
      <CheckField
        label="QR code that opens this circuit"
        value={record.address !== null}
        onCommit={(on) => set({ address: on ? window.location.origin : null })}
      />
      {record.address !== null && (
        <TextField label="Address in the code" wide value={record.address} onCommit={(address) => set({ address: address.trim() })} />
      )}
      {record.address !== null && record.tapeMm !== null && record.tapeMm < LEAST_CODE_MM && (
        <p className="col-span-full text-[0.9rem] text-ink-2">
          A QR code needs tape of at least {LEAST_CODE_MM} mm; it is left out on this one.
        </p>
      )}
    </FieldGrid>
  )
}

function OneLabel({ label, bare, state }: { label: TapeLabel; bare: Label; state: 'stuck' | 'untrue' | undefined }) {
  const commit = useJob((s) => s.commit)
  return (
    <li>
      <p className="mb-0.5 text-[0.85rem] text-ink-2">
        {label.where}, {label.widthMm} × {label.heightMm} mm
      </p>
      <DrawingView
        drawing={labelDrawing(label)}
        className={label.widthMm > 75 ? 'w-[22.5rem] max-w-full' : label.widthMm > 65 ? 'w-[17.5rem]' : 'w-60'}
      />
      {label.fits === false && <p className="text-[0.9rem] font-bold text-warning">Too long for its place: use a wider tape.</p>}
      {state === 'untrue' && <p className="text-[0.9rem] font-bold text-warning">The label in place says something else.</p>}
      <CheckField
        label={state === 'untrue' ? 'Replaced by this one' : 'Stuck'}
        value={state === 'stuck'}
        onCommit={(on) => commit(on ? { kind: 'labels.stick', items: [stick(bare)] } : { kind: 'labels.unstick', key: labelKey(label) })}
      />
    </li>
  )
}

/** Labels of the circuit in hand: as they are printed, whether they were stuck, and what of that is no longer true. */
export function Labels() {
  const id = useJob((s) => s.id)
  const seen = useSeenJob()
  const updatedAt = useJob((s) => s.saved.updatedAt)
  const commit = useJob((s) => s.commit)
  const circuit = useCircuit()
  const units = useUnits()
  const record = useJob((s) => s.job.record.labels)
  const all = useAllLabels()
  const { of, gone } = useMemo(() => labelStates({ labels: record }, all), [record, all])
  const labelsOf = (date: string) => [...circuitLabels(seen, circuit, date, units), ...otherLabels(seen, date)]
  const { settings } = useSettings()
  const labels = asPrinted(labelsOf(formatDate(updatedAt)), record, id, settings.abbreviations)
  const bare = labelsOf('')
  const left = bare.filter((l) => of.get(labelKey(l)) !== 'stuck')
  const findings = labelFindings(seen, all)
  return (
    <Section title={`Labels for ${circuit.circuit.name}`}>
      <LabelFields />
      <Abbreviations />
      {findings.length > 0 && <Findings stage="handover" findings={findings} empty="" />}
      {gone.map(({ key, text }) => (
        <button key={key} type="button" className="btn mt-1" onClick={() => commit({ kind: 'labels.unstick', key })}>
          Removed: {text.split('\n')[0]}
        </button>
      ))}
      <ul className="flex flex-wrap gap-4 pt-2">
        {labels.map((l, i) => (
          <OneLabel key={l.id} label={l} bare={bare[i]!} state={of.get(labelKey(l))} />
        ))}
      </ul>
      {left.length > 1 && (
        <button type="button" className="btn mt-2" onClick={() => commit({ kind: 'labels.stick', items: left.map(stick) })}>
          <Say>{`Mark all ${left.length} remaining labels as stuck`}</Say>
        </button>
      )}
    </Section>
  )
}
