'use client'
import { PaperLink } from '../fields/paper-link'
import { Maximize2, Minus, Plus } from 'lucide-react'
import { type ReactNode, useMemo, useState } from 'react'
import { TransformComponent, TransformWrapper } from 'react-zoom-pan-pinch'
import { treeDrawing } from '@/core/drawing/tree'
import { DrawingView, leastSize } from '@/ui/drawing'
import { Section, Stage } from '@/ui/panel'
import { useJob } from '../sync/context'
import { Findings } from '../fields/findings'
import { KeptTraces } from './kept-traces'
import { PracticeSection } from './practice-section'
import { Sightings } from './sightings'
import { TakenOver } from './taken-over'
import { ToldLayout } from './told-layout'
import { Tracer } from './tracer'
import { worlds } from '@/core/region/worlds'

/** What feeds what: the next test on one side, the tree as it sharpens on the other. */
export function TraceSheet() {
  const findings = useJob((s) => s.report.survey.findings).filter((f) => f.rule === 'trace-contradiction')
  const id = useJob((s) => s.id)
  const begun = useJob((s) => s.job.ways.length > 0 && s.job.points.length > 0)
  return (
    <Stage
      title="Survey"
      sheet="Tests"
      raised={begun}
      drawing={
        begun ? (
          <TreeOfAll>
            <PaperLink className="btn" job={id} file="trace.pdf" name="Tree">
              Circuit map
            </PaperLink>
            <PaperLink className="btn" job={id} file="trace.svg" name="Tree">
              SVG
            </PaperLink>
          </TreeOfAll>
        ) : (
          <p className="text-ink-2">
            Nothing is surveyed yet. List the ways on the Board sheet and the points in the rooms on the Points sheet; then switch off, look
            what died, and the tree draws itself.
          </p>
        )
      }
      working={
        <>
          <PracticeSection />
          <Tracer />
          {findings.length > 0 && (
            <Section title="What cannot be">
              <Findings stage="survey" findings={findings} empty="" />
            </Section>
          )}
          <Sightings />
          {begun && <ToldLayout />}
          <TakenOver />
          <KeptTraces />
        </>
      }
    />
  )
}

/** The whole tree, as far as it is known, at first; nearer by button, pinch or Ctrl and wheel, and then dragged about. */
function TreeOfAll({ children }: { children: ReactNode }) {
  const survey = useJob((s) => s.job)
  const report = useJob((s) => s.report.survey)
  const board = useJob((s) => s.job.supply.board || worlds[s.job.region].words.board)
  const tree = useMemo(() => treeDrawing(survey, report, board), [survey, report, board])
  const [scale, setScale] = useState(1)
  return (
    <TransformWrapper
      minScale={1}
      maxScale={6}
      wheel={{ step: 0.1, activationKeys: ['Control'] }}
      panning={{ disabled: scale <= 1, velocityDisabled: true }}
      onTransform={(_, { scale }) => setScale(scale)}
    >
      {({ zoomIn, zoomOut, resetTransform }) => (
        <>
          <div className="no-print mb-2 flex flex-wrap gap-2">
            {children}
            <span className="flex-1" />
            {(
              [
                ['Nearer', Plus, () => zoomIn()],
                ['Farther', Minus, () => zoomOut()],
                ['Whole tree', Maximize2, () => resetTransform()],
              ] as const
            ).map(([name, Icon, act]) => (
              <button key={name} type="button" className="btn px-2" aria-label={name} title={name} onClick={act}>
                <Icon size={16} aria-hidden />
              </button>
            ))}
          </div>
          <div
            className="overflow-x-auto print:overflow-visible"
            tabIndex={0}
            role="region"
            aria-label="The tree, as wide as it can be read"
          >
            <TransformComponent
              wrapperClass="print:!min-w-0"
              wrapperStyle={{ width: '100%', minWidth: leastSize(tree).minWidth, touchAction: scale > 1 ? 'none' : 'pan-x pan-y' }}
              contentStyle={{ width: '100%' }}
            >
              <DrawingView drawing={tree} className="w-full" />
            </TransformComponent>
          </div>
        </>
      )}
    </TransformWrapper>
  )
}
