'use client'
import { FileText, Tag } from 'lucide-react'
import { papersFor } from '@/core/evaluate/papers'
import { inRegion } from '@/core/region/spelling'
import { Section, Stage } from '@/ui/panel'
import { useJob } from '../sync/context'
import { Findings, OpenList } from '../fields/findings'
import { DueAgain } from './due'
import { AllPhotographs } from '../photographs/photographs'
import { PaperLink } from '../fields/paper-link'
import { Labels } from './labels'
import { PackParts } from './pack-parts'
import { SignOff } from './sign-off'
import { worlds } from '@/core/region/worlds'

export function HandoverView() {
  const id = useJob((s) => s.id)
  const job = useJob((s) => s.job)
  const report = useJob((s) => s.report)
  const photographs = useJob((s) => s.photographs.length)
  const open = report.stages.filter((s) => s.id !== 'handover').flatMap((s) => s.open)
  return (
    <Stage
      title="Handover"
      drawing={
        <div className="mx-auto max-w-[56rem]">
          <Section title="Papers and files">
            <ul className="grid gap-px border border-rule bg-rule sm:grid-cols-2">
              {papersFor({
                defects: job.defects.length,
                photographs,
                measuredRooms: job.rooms.some((r) => r.measured),
                bent: report.raceways.some((r) => r.bending),
              })
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
          <Labels />
          <PackParts />
          <AllPhotographs />
        </div>
      }
      working={
        <>
          <Section title="Before it is handed over">
            {open.length === 0 ? <p>Nothing open: everything asked for is recorded.</p> : <OpenList items={open} stage="handover" />}
          </Section>
          <SignOff />
          <DueAgain />
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
