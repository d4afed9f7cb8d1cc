'use client'
import { FileText, Tag } from 'lucide-react'
import { labelDrawing } from '@/core/drawing/label'
import type { Report } from '@/core/evaluate'
import { circuitLabels } from '@/core/documents/labels'
import { vocabularies } from '@/core/region/vocabulary'
import { DrawingView } from '@/ui/drawing'
import { Section, Stage } from '@/ui/panel'
import { FindingList } from '@/ui/verdict'
import { formatDate } from '@/ui/when'
import { CircuitPicker } from '../job/circuit-picker'
import { useCircuit, useJob, useSeenJob, useUnits } from '../job/context'
import { stageNames } from '../job/stages'

const papers = [
  [
    'record.pdf',
    'Record',
    'What was asked, done and measured, with the drawings and every working; for the customer and the next electrician.',
  ],
  ['design.pdf', 'Design sheets', 'Every figure with its formula and numbers, for an inspector to check by hand.'],
  ['wiring.pdf', 'Wiring sheets', 'One page a circuit, to stick up at the work and leave behind.'],
  ['trace.pdf', 'Traced tree', 'What feeds what, on one page for the board’s door.'],
  ['door.pdf', 'Schedule for the door', 'Each board, way by way: the label found on it and what it was proved to feed.'],
  ['labels.pdf', 'Labels, PDF', 'At real size, to cut out.'],
  ['labels.svg', 'Labels, SVG', 'At real size, for a label maker or a cutter.'],
  ['readings.csv', 'Readings, CSV', 'Every reading ever taken, corrections too.'],
  ['file.json', 'Job file', 'The whole job in an open format; drop it on the jobs page to bring it in elsewhere.'],
] as const

export function HandoverView() {
  const id = useJob((s) => s.id)
  const job = useJob((s) => s.job)
  const seen = useSeenJob()
  const report = useJob((s) => s.report)
  const updatedAt = useJob((s) => s.saved.updatedAt)
  const circuit = useCircuit()
  const units = useUnits()
  const labels = circuitLabels(seen, circuit, formatDate(updatedAt), units)
  return (
    <Stage
      title="Handover"
      drawing={
        <div className="mx-auto max-w-[56rem]">
          <Section title="Papers and files">
            <ul className="grid gap-px border border-rule bg-rule sm:grid-cols-2">
              {papers.map(([path, name, what]) => (
                <li key={path} className="bg-paper sm:last:odd:col-span-2">
                  <a href={`/api/jobs/${id}/${path}`} target="_blank" rel="noreferrer" className="flex gap-3 p-3 hover:bg-wash">
                    {path.startsWith('labels') ? (
                      <Tag size={20} aria-hidden className="mt-0.5 shrink-0" />
                    ) : (
                      <FileText size={20} aria-hidden className="mt-0.5 shrink-0" />
                    )}
                    <span>
                      <span className="block font-bold underline">{name}</span>
                      <span className="block text-[0.9rem] text-ink-2">{what}</span>
                    </span>
                  </a>
                </li>
              ))}
            </ul>
          </Section>
          <Section title="Labels for" aside={<CircuitPicker />}>
            <ul className="flex flex-wrap gap-4 pt-2">
              {labels.map((l) => (
                <li key={l.id}>
                  <p className="mb-0.5 text-[0.85rem] text-ink-2">
                    {l.where}, {l.widthMm} × {l.heightMm} mm
                  </p>
                  <DrawingView
                    drawing={labelDrawing(l)}
                    className={l.widthMm > 75 ? 'w-[22.5rem] max-w-full' : l.widthMm > 65 ? 'w-[17.5rem]' : 'w-60'}
                  />
                </li>
              ))}
            </ul>
          </Section>
        </div>
      }
      working={
        <>
          <Section title="Before it is handed over">
            <OpenList report={report} />
          </Section>
          <Section title="Findings that go into the record">
            <FindingList findings={report.stages.flatMap((s) => s.findings)} empty="None." />
          </Section>
          <p className="text-[0.9rem] text-ink-2">
            The record says what was measured and what was not; it does not say that the installation is safe. Local code, the inspector and
            licensed practice at the {vocabularies[job.region].board} come first.
          </p>
        </>
      }
    />
  )
}

function OpenList({ report }: { report: Report }) {
  const open = report.stages.filter((s) => s.id !== 'handover').flatMap((s) => s.open)
  if (open.length === 0) return <p>Nothing is open. Everything asked for is recorded.</p>
  return (
    <ul>
      {open.map((o, i) => (
        <li key={i} className="flex gap-2 border-b border-rule py-1">
          <span className="w-20 shrink-0 text-ink-2">{stageNames[o.stage]}</span>
          <span>
            {o.circuit && report.circuits.length > 1 && <b>{report.byCircuit.get(o.circuit)?.circuit.name}: </b>}
            {o.ask}
          </span>
        </li>
      ))}
    </ul>
  )
}
