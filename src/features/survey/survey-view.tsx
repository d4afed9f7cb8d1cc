'use client'
import dynamic from 'next/dynamic'
import { type SheetTab, Sheets } from '@/ui/sheets'
import { useJob } from '../job/context'
import { BoardSheet } from './board-sheet'

const tabs = [
  { id: 'board', name: 'Board', view: BoardSheet },
  { id: 'points', name: 'Points', view: dynamic(() => import('./points-sheet').then((m) => m.PointsSheet)) },
  { id: 'trace', name: 'Trace', view: dynamic(() => import('./trace-sheet').then((m) => m.TraceSheet)) },
  { id: 'report', name: 'Report', view: dynamic(() => import('./report-sheet').then((m) => m.ReportSheet)) },
  { id: 'walls', name: 'Walls', view: dynamic(() => import('./walls-sheet').then((m) => m.WallsSheet)) },
  { id: 'source', name: 'Source', view: dynamic(() => import('./source-sheet').then((m) => m.SourceSheet)) },
  { id: 'time', name: 'Time', view: dynamic(() => import('./time-sheet').then((m) => m.TimeSheet)) },
] as const satisfies readonly SheetTab<string>[]

/** The survey in sheets, in the order a person walks it: board, rooms, what feeds what; then what follows from it. */
export function SurveyView() {
  const begun = useJob((s) => s.job.ways.length > 0 && s.job.points.length > 0)
  return <Sheets of="survey" tabs={tabs} first={begun ? 'trace' : 'board'} />
}
