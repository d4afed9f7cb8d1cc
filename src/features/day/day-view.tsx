'use client'
import dynamic from 'next/dynamic'
import type { ComponentType } from 'react'
import { type SheetId, sheetsOf } from '@/core/report/stages'
import { inRegion } from '@/core/region/spelling'
import { useJob } from '../sync/context'
import { Sheets } from '@/ui/sheets'
import { PlanSheet } from './plan-sheet'

type Id = SheetId<'day'>
const views: Record<Id, ComponentType> = {
  plan: PlanSheet,
  isolation: dynamic(() => import('./isolation-sheet').then((m) => m.IsolationSheet)),
  needed: dynamic(() => import('./needed-sheet').then((m) => m.NeededSheet)),
  offer: dynamic(() => import('./offer-sheet').then((m) => m.OfferSheet)),
}

/** The day of the work: its plan, what is switched off for it, what is needed, what it costs. */
export function DayView() {
  const region = useJob((s) => s.job.region)
  return <Sheets<Id> of="day" tabs={sheetsOf('day').map((s) => ({ ...s, name: inRegion(region, s.name) }))} views={views} first="plan" />
}
