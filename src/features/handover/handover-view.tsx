'use client'
import { FileText, Tag } from 'lucide-react'
import { labelDrawing } from '@/core/drawing/label'
import { circuitLabels } from '@/core/documents/labels'
import { DrawingView } from '@/ui/drawing'
import { papers } from '@/core/evaluate/papers'
import { inRegion } from '@/core/region/spelling'
import { Section, Stage } from '@/ui/panel'
import { formatDate } from '@/ui/when'
import { useCircuit, useJob, useSeenJob, useUnits } from '../sync/context'
import { Findings, OpenList } from '../fields/findings'
import { AllPhotographs } from '../photographs/photographs'
import { PaperLink } from '../fields/paper-link'
import { worlds } from '@/core/region/worlds'

export function HandoverView() {
  const id = useJob((s) => s.id)
  const job = useJob((s) => s.job)
  const seen = useSeenJob()
  const report = useJob((s) => s.report)
  const updatedAt = useJob((s) => s.saved.updatedAt)
  const circuit = useCircuit()
  const units = useUnits()
  const photographed = useJob((s) => s.photographs.length > 0)
  const open = report.stages.filter((s) => s.id !== 'handover').flatMap((s) => s.open)
  const labels = circuitLabels(seen, circuit, formatDate(updatedAt), units)
  return (
    <Stage
      title="Handover"
      drawing={
        <div className="mx-auto max-w-[56rem]">
          <Section title="Papers and files">
            <ul className="grid gap-px border border-rule bg-rule sm:grid-cols-2">
              {papers
                .filter(
                  ({ file }) =>
                    (file !== 'reply.pdf' || job.defects.length > 0) &&
                    (file !== 'photographs.pdf' || photographed) &&
                    (file !== 'building.dxf' || job.rooms.some((r) => r.measured)) &&
                    (file !== 'bending.pdf' || report.raceways.some((r) => r.bending)),
                )
                .map(({ file, name, about }) => ({ file, name: inRegion(job.region, name), about: inRegion(job.region, about) }))
                .map(({ file, name, about }) => (
                  <li key={file} className="bg-paper sm:last:odd:col-span-2">
                    <PaperLink job={id} file={file} name={name} className="flex gap-3 p-3 hover:bg-wash">
                      {file.startsWith('labels') ? (
                        <Tag size={20} aria-hidden className="mt-0.5 shrink-0" />
                      ) : (
                        <FileText size={20} aria-hidden className="mt-0.5 shrink-0" />
                      )}
                      <span>
                        <span className="block font-bold underline">{name}</span>
                        <span className="block text-[0.9rem] text-ink-2">{about}</span>
                      </span>
                    </PaperLink>
                  </li>
                ))}
            </ul>
          </Section>
          <Section title={`Labels for ${circuit.circuit.name}`}>
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
          <AllPhotographs />
        </div>
      }
      working={
        <>
          <Section title="Before it is handed over">
            {open.length === 0 ? <p>Nothing is open. Everything asked for is recorded.</p> : <OpenList items={open} stage="handover" />}
          </Section>
          <Section title="Findings that go into the record">
            <Findings stage="handover" findings={report.stages.flatMap((s) => s.findings)} empty="None." />
          </Section>
          <p className="text-[0.9rem] text-ink-2">
            The record says what was measured and what was not; it does not say that the installation is safe. Local code, the inspector and
            licensed practice at the {worlds[job.region].words.board} come first.
          </p>
        </>
      }
    />
  )
}
