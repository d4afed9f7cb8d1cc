'use client'
import clsx from 'clsx'
import { useState } from 'react'
import { chainDrawing, findingPart } from '@/core/drawing/chain'
import { designWorkings } from '@/core/documents/sheet'
import type { WorkingKey } from '@/core/design/working'
import { runLengthM } from '@/core/design/conditions'
import type { DesignReport } from '@/core/evaluate/evaluate'
import type { Finding } from '@/core/base/finding'
import { FittingDrawing } from '@/ui/drawing'
import { Section, Stage } from '@/ui/panel'
import { useCircuit, useSeenJob, useUnits } from '../sync/context'
import { useLed } from '../fields/use-led'
import { useAbout } from '../fields/use-about'
import { Findings, OpenList } from '../fields/findings'
import { Alternatives } from './alternatives'
import { figures } from './figures'
import { FoundBeside, FoundPanel } from './found'
import { LinkFields, type Part, partNames } from './link-fields'
import { PointPanel, PointsAlong, PointTools } from './points-along'
import { DivideIt, StretchesAlong, StretchFields, stretchKey } from './stretches'
import { WorkingCard } from './working-card'

/** What is picked in the drawing, and so what is next to it: a link of the chain, a point, a stretch of cable, or what is there. */
type Picked =
  | { readonly kind: 'part'; readonly part: Part }
  | { readonly kind: 'point' | 'stretch'; readonly id: string }
  | { kind: 'found' }

const pickedBy = (kind: string, id: string): Picked => {
  if (kind === 'found') return { kind }
  return kind === 'point' ? { kind, id } : { kind: 'part', part: id in partNames ? (id as Part) : 'cable' }
}

/** One circuit whole: its chain of ratings, what is there beside it, the points along it and the stretches of its cable. */
export function ThisSheet() {
  const about = useAbout('circuit')
  const report = useCircuit()
  const job = useSeenJob()
  const units = useUnits()
  const [picked, setPicked] = useState<Picked>({ kind: 'part', part: 'cable' })
  useLed('circuit', 'this', (kind, id) => setPicked(pickedBy(kind, id)))
  const [number, setNumber] = useState<WorkingKey | null>(null)
  const { circuit, chosen } = report
  const point = picked.kind === 'point' ? circuit.points.find((p) => p.id === picked.id) : undefined
  const stretch = picked.kind === 'stretch' ? chosen.design.stretches.find((s) => stretchKey(s) === picked.id) : undefined
  const part = picked.kind === 'part' ? picked.part : point || stretch || picked.kind === 'found' ? null : 'cable'
  const open = report.open.filter((o) => o.stage === 'circuit' || o.stage === 'brief')
  const pickPoint = (id: string) => setPicked({ kind: 'point', id })
  const pickStretch = (id: string) => setPicked({ kind: 'stretch', id })
  const backToCable = () => setPicked({ kind: 'part', part: 'cable' })
  const concerns = (f: Finding): boolean =>
    point ? f.message.includes(point.name) : part !== null ? findingPart(f) === part : /^(old|existing|way)-/.test(f.rule)
  return (
    <Stage
      title="Circuit"
      about={about}
      // What is asked first is under the thumb.
      raised={runLengthM(circuit, chosen.design) === null ? 'half' : false}
      drawing={
        <div className="flex min-h-full flex-col gap-3">
          {circuit.source && (
            <p>
              {circuit.source.words}
              {circuit.source.reason && <span className="text-ink-2">, because {circuit.source.reason}</span>}
            </p>
          )}
          {open.length > 0 && <OpenList items={open} stage="circuit" />}
          <FittingDrawing
            draw={(format) => chainDrawing(job, circuit, chosen, units, format)}
            narrowBelow="xl"
            selected={part}
            onSelect={(p) => setPicked({ kind: 'part', part: p as Part })}
            className="max-h-[25rem] w-full shrink-0"
          />
          <Figures report={chosen} selected={number} onSelect={setNumber} />
          <FoundBeside report={report} onPick={() => setPicked({ kind: 'found' })} />
          <section aria-label="Points along it" className="flex flex-col gap-2">
            {(circuit.kind !== 'feeder' || circuit.points.length > 0) && <PointTools picked={point?.id ?? null} onPick={pickPoint} />}
            <PointsAlong picked={point?.id ?? null} onPick={pickPoint} />
          </section>
          <StretchesAlong picked={stretch ? stretchKey(stretch) : null} onPick={pickStretch} />
          <Alternatives report={report} />
        </div>
      }
      working={
        <>
          {point ? (
            <PointPanel point={point} onGone={backToCable} onPickStretch={pickStretch} />
          ) : stretch ? (
            <StretchFields key={stretchKey(stretch)} stretch={stretch} onGone={backToCable} />
          ) : picked.kind === 'found' ? (
            <FoundPanel />
          ) : (
            <Section title={partNames[part!]}>
              <LinkFields part={part!} report={report} />
              {part === 'cable' && circuit.points.length === 0 && <DivideIt cable={circuit.cables[0]} onPick={pickStretch} />}
            </Section>
          )}
          {number && <NumberWorking report={chosen} of={number} onClose={() => setNumber(null)} />}
          <Section title="Findings">
            <Findings
              stage="circuit"
              standing={part ? `part:${part}` : picked.kind}
              findings={chosen.findings.toSorted((a, b) => Number(concerns(b)) - Number(concerns(a)))}
              empty={
                chosen.result
                  ? 'Nothing is wrong with this circuit as it is described.'
                  : 'Nothing can be said until the open values are known.'
              }
            />
          </Section>
        </>
      }
    />
  )
}
function Figures({ report, selected, onSelect }: { report: DesignReport; selected: WorkingKey | null; onSelect: (k: WorkingKey) => void }) {
  return (
    <dl className="flex flex-wrap gap-px border border-rule bg-rule" aria-label="Figures; each opens its working">
      {figures(report).map((f) => (
        <div key={f.name} className="min-w-22 flex-1 bg-paper">
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
