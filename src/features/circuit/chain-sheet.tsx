'use client'
import clsx from 'clsx'
import { useState } from 'react'
import { chainDrawing, findingPart } from '@/core/drawing/chain'
import { designWorkings } from '@/core/documents/sheet'
import type { WorkingKey } from '@/core/design/working'
import type { DesignReport } from '@/core/evaluate'
import { DrawingView } from '@/ui/drawing'
import { Section, Stage } from '@/ui/panel'
import { FindingList } from '@/ui/verdict'
import { CircuitPicker } from '../job/circuit-picker'
import { useCircuit, useSeenJob, useUnits } from '../job/context'
import { Alternatives } from './alternatives'
import { figures } from './figures'
import { LinkFields, type Part, partNames } from './link-fields'
import { WorkingCard } from './working-card'

export function ChainSheet() {
  const report = useCircuit()
  const job = useSeenJob()
  const units = useUnits()
  const [part, setPart] = useState<Part>('cable')
  const [number, setNumber] = useState<WorkingKey | null>(null)
  const { circuit, chosen } = report
  const open = report.open.filter((o) => o.stage === 'circuit' || o.stage === 'brief')
  return (
    <Stage
      title="Circuit"
      drawing={
        <div className="flex min-h-full flex-col gap-2">
          <div className="flex flex-wrap items-center gap-3">
            <CircuitPicker />
            {circuit.source && (
              <p>
                {circuit.source.words}
                {circuit.source.reason && <span className="text-ink-2">, because {circuit.source.reason}</span>}
              </p>
            )}
            {open.length > 0 && <p className="text-ink-2">Still open: {open.map((o) => o.ask).join(' ')}</p>}
          </div>
          {(['wide', 'narrow'] as const).map((format) => (
            <DrawingView
              key={format}
              drawing={chainDrawing(job, circuit, chosen, units, format)}
              selected={part}
              onSelect={(p) => setPart(p as Part)}
              className={clsx('max-h-[25rem] min-h-0 w-full flex-1', format === 'wide' ? 'max-md:hidden' : 'md:hidden')}
            />
          ))}
          <Figures report={chosen} selected={number} onSelect={setNumber} />
          <Alternatives report={report} />
        </div>
      }
      working={
        <>
          <Section title={partNames[part]}>
            <LinkFields part={part} report={report} />
          </Section>
          {number && <NumberWorking report={chosen} of={number} onClose={() => setNumber(null)} />}
          <Section title="Findings">
            <FindingList
              findings={sortFirst(chosen.findings, part)}
              empty={
                chosen.result
                  ? 'Nothing is wrong with this chain as it is described.'
                  : 'Nothing can be said until the open values are known.'
              }
            />
          </Section>
        </>
      }
    />
  )
}

/** Findings about the selected link stand first among their equals. */
const sortFirst = (findings: DesignReport['findings'], part: Part) =>
  findings.toSorted((a, b) => Number(findingPart(b) === part) - Number(findingPart(a) === part))

function Figures({ report, selected, onSelect }: { report: DesignReport; selected: WorkingKey | null; onSelect: (k: WorkingKey) => void }) {
  return (
    <dl className="flex flex-wrap gap-px border border-rule bg-rule" aria-label="Figures; each opens its working">
      {figures(report).map((f) => (
        <div key={f.key} className="min-w-22 flex-1 bg-paper">
          <dt className="sr-only">{f.name}</dt>
          <dd>
            <button
              type="button"
              disabled={f.value === null}
              aria-pressed={selected === f.key}
              onClick={() => onSelect(f.key)}
              className={clsx('block w-full px-2 py-1 text-left enabled:hover:bg-wash', selected === f.key && 'bg-wash')}
            >
              <span className="block truncate text-[0.82rem] text-ink-2">{f.name}</span>
              <span key={f.value} className="changed block truncate font-bold">
                {f.value ?? '?'}
              </span>
            </button>
          </dd>
        </div>
      ))}
    </dl>
  )
}

function NumberWorking({ report, of, onClose }: { report: DesignReport; of: WorkingKey; onClose: () => void }) {
  const job = useSeenJob()
  const { circuit } = useCircuit()
  const working = designWorkings(job, circuit, report)[of]
  return working ? <WorkingCard working={working} onClose={onClose} /> : null
}
