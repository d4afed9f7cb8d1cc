'use client'
import dynamic from 'next/dynamic'
import { type ComponentType, useState } from 'react'
import { type SheetId, sheetsOf } from '@/core/report/stages'
import { Sheets } from '@/ui/sheets'
import { useJob } from '../sync/context'
import { HouseSheet } from './house-sheet'

type Id = SheetId<'route'>
const views: Record<Id, ComponentType> = {
  house: HouseSheet,
  way: dynamic(() => import('./way-sheet').then((m) => m.WaySheet)),
  signal: dynamic(() => import('./signal-sheet').then((m) => m.SignalSheet)),
  cut: dynamic(() => import('./cut-sheet').then((m) => m.CutSheet)),
}

/** The building as it is measured, then the way of each cable through it. */
export function RouteView() {
  const measured = useJob((s) => s.job.rooms.some((r) => r.measured))
  // As it was when the stage was opened: nobody who measures the first room is taken away from the sheet.
  const [first] = useState<Id>(measured ? 'way' : 'house')
  return <Sheets<Id> of="route" tabs={sheetsOf('route')} views={views} first={first} />
}
