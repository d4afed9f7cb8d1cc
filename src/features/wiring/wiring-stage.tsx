'use client'
import dynamic from 'next/dynamic'
import type { ComponentType } from 'react'
import { type SheetId, sheetsOf } from '@/core/report/stages'
import { Sheets } from '@/ui/sheets'
import { WiringView } from './wiring-view'

type Id = SheetId<'wiring'>
const views: Record<Id, ComponentType> = {
  order: WiringView,
  bench: dynamic(() => import('./bench-sheet').then((m) => m.BenchSheet)),
}

/** The order of work at each accessory, and each box opened on the bench. */
export function WiringStage() {
  return <Sheets<Id> of="wiring" tabs={sheetsOf('wiring')} views={views} first="order" />
}
