'use client'
import type ElkConstructor from 'elkjs/lib/elk.bundled'
import { useEffect, useState } from 'react'
import type { Drawing } from '@/core/drawing/shape'
import { treeDrawing, treeGraph } from '@/core/drawing/tree'
import { vocabularies } from '@/core/region/vocabulary'
import { DrawingView } from '@/ui/drawing'
import { Section, Stage } from '@/ui/panel'
import { FindingList } from '@/ui/verdict'
import { useJob } from '../job/context'
import { PointsTable } from './points-table'
import { Sightings } from './sightings'
import { Tracer } from './tracer'
import { WaysTable } from './ways-table'

export function SurveyView() {
  const findings = useJob((s) => s.report.stages.find((x) => x.id === 'survey')!.findings)
  const tree = useTree()
  const id = useJob((s) => s.id)
  const empty = useJob((s) => s.job.survey.ways.length === 0 && s.job.survey.points.length === 0)
  return (
    <Stage
      title="Survey"
      drawing={
        <div className="flex flex-col gap-5">
          {empty ? (
            <p className="text-ink-2">Nothing is surveyed yet. List the ways of the board and the points in the rooms below; then switch off, look what died, and the tree draws itself.</p>
          ) : (
            <div>
              <p className="no-print mb-1 flex gap-2">
                <a className="btn" href={`/api/jobs/${id}/trace.pdf`} target="_blank" rel="noreferrer">
                  Tree for the board’s door
                </a>
                <a className="btn" href={`/api/jobs/${id}/trace.svg`} target="_blank" rel="noreferrer">
                  SVG
                </a>
              </p>
              {tree && (
                <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="The traced tree, to be moved sideways">
                  <DrawingView drawing={tree} className="w-full max-md:min-w-[40rem]" />
                </div>
              )}
            </div>
          )}
          <WaysTable />
          <PointsTable />
        </div>
      }
      working={
        <>
          <Tracer />
          <Section title="Findings">
            <FindingList findings={findings} empty="Nothing wrong was found in what is surveyed so far." />
          </Section>
          <Sightings />
        </>
      }
    />
  )
}

/** The drawing of the tree; laid out apart from the page, so the last one stands until the next is ready. */
function useTree(): Drawing | null {
  const survey = useJob((s) => s.job.survey)
  const report = useJob((s) => s.report.survey)
  const board = useJob((s) => s.job.supply.board || vocabularies[s.job.region].board)
  const [tree, setTree] = useState<Drawing | null>(null)
  useEffect(() => {
    let wanted = true
    void (async () => {
      const { default: Elk } = (await import('elkjs/lib/elk.bundled')) as { default: typeof ElkConstructor }
      const laid = await new Elk().layout(treeGraph(survey, report))
      if (wanted) setTree(treeDrawing(survey, report, laid, board))
    })()
    return () => {
      wanted = false
    }
  }, [survey, report, board])
  return tree
}
