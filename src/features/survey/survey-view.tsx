'use client'
import dynamic from 'next/dynamic'
import { useSearchParams } from 'next/navigation'
import type { ComponentType } from 'react'
import { useJob } from '../job/context'
import { BoardSheet } from './board-sheet'

const sheets = [
  { id: 'board', name: 'Board' },
  { id: 'points', name: 'Points' },
  { id: 'trace', name: 'Trace' },
  { id: 'report', name: 'Report' },
  { id: 'walls', name: 'Walls' },
  { id: 'source', name: 'Source' },
  { id: 'time', name: 'Time' },
] as const
type SheetId = (typeof sheets)[number]['id']

const views: Record<SheetId, ComponentType> = {
  board: BoardSheet,
  points: dynamic(() => import('./points-sheet').then((m) => m.PointsSheet)),
  trace: dynamic(() => import('./trace-sheet').then((m) => m.TraceSheet)),
  report: dynamic(() => import('./report-sheet').then((m) => m.ReportSheet)),
  walls: dynamic(() => import('./walls-sheet').then((m) => m.WallsSheet)),
  source: dynamic(() => import('./source-sheet').then((m) => m.SourceSheet)),
  time: dynamic(() => import('./time-sheet').then((m) => m.TimeSheet)),
}

/** The survey in sheets, in the order a person walks it: board, rooms, what feeds what; then what follows from it. */
export function SurveyView() {
  const params = useSearchParams()
  const begun = useJob((s) => s.job.survey.ways.length > 0 && s.job.survey.points.length > 0)
  const asked = sheets.find((s) => s.id === params.get('sheet'))?.id
  const current: SheetId = asked ?? (begun ? 'trace' : 'board')
  const View = views[current]
  const go = (id: SheetId) => window.history.replaceState(null, '', `?sheet=${id}`)
  return (
    <div className="flex min-h-0 flex-1 flex-col print:!block">
      <nav aria-label="Sheets of the survey" className="no-print flex shrink-0 gap-px overflow-x-auto border-b border-rule bg-paper px-4 pt-2 max-md:px-2">
        {sheets.map((s) => (
          <button
            key={s.id}
            type="button"
            aria-current={s.id === current ? 'page' : undefined}
            onClick={() => go(s.id)}
            className={`min-h-9 shrink-0 border border-b-0 px-3 max-md:min-h-11 ${s.id === current ? 'border-ink bg-sheet font-bold' : 'border-transparent text-ink-2 hover:bg-wash'}`}
          >
            {s.name}
          </button>
        ))}
      </nav>
      <View />
    </div>
  )
}
