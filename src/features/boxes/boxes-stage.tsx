'use client'
import dynamic from 'next/dynamic'
import type { ComponentType } from 'react'
import { type SheetId, sheetsOf } from '@/core/report/stages'
import { Sheets } from '@/ui/sheets'
import { BoxesView } from './boxes-view'

type Id = SheetId<'boxes'>
const views: Record<Id, ComponentType> = {
  size: BoxesView,
  all: dynamic(() => import('./all-boxes').then((m) => m.AllBoxes)),
  mount: dynamic(() => import('./mount-sheet').then((m) => m.MountSheet)),
}

/** The box of each point: large enough, and held where it is. */
export function BoxesStage() {
  return <Sheets<Id> of="boxes" tabs={sheetsOf('boxes')} views={views} first="size" />
}
