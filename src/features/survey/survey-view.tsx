'use client'
import dynamic from 'next/dynamic'
import type { ComponentType } from 'react'
import { type SheetId, sheetsOf } from '@/core/report/stages'
import { Sheets } from '@/ui/sheets'
import { useJob } from '../sync/context'
import { BoardSheet } from './board-sheet'

type Id = SheetId<'survey'>
const views: Record<Id, ComponentType> = {
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
  const begun = useJob((s) => s.job.ways.length > 0 && s.job.points.length > 0)
  return <Sheets<Id> of="survey" tabs={sheetsOf('survey')} views={views} first={begun ? 'trace' : 'board'} />
}
