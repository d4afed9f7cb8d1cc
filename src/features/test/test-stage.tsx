'use client'
import dynamic from 'next/dynamic'
import type { ComponentType } from 'react'
import { type SheetId, sheetsOf } from '@/core/report/stages'
import { Sheets } from '@/ui/sheets'
import { TestView } from './test-view'

type Id = SheetId<'test'>
const views: Record<Id, ComponentType> = {
  tests: TestView,
  mistakes: dynamic(() => import('./mistakes-sheet').then((m) => m.MistakesSheet)),
  fault: dynamic(() => import('./fault-sheet').then((m) => m.FaultSheet)),
}

/** The tests of the circuit in hand, what they would catch, and what to make of readings that are off. */
export function TestStage() {
  return <Sheets<Id> of="test" tabs={sheetsOf('test')} views={views} first="tests" />
}
