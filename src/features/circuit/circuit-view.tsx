'use client'
import dynamic from 'next/dynamic'
import type { ComponentType } from 'react'
import { type SheetId, sheetsOf } from '@/core/report/stages'
import { Sheets } from '@/ui/sheets'
import { useCircuit, useJob } from '../sync/context'
import { ThisSheet } from './this-sheet'

type Id = SheetId<'circuit'>
const views: Record<Id, ComponentType> = {
  all: dynamic(() => import('./all-sheet').then((m) => m.AllSheet)),
  this: ThisSheet,
  protection: dynamic(() => import('./protection-sheet').then((m) => m.ProtectionSheet)),
  raceways: dynamic(() => import('./raceways-sheet').then((m) => m.RacewaysSheet)),
  choices: dynamic(() => import('./choices-sheet').then((m) => m.ChoicesSheet)),
}

/** The circuit in sheets: one circuit whole first, and each side of it that decides something, where there is something to decide. */
export function CircuitView() {
  const { chosen } = useCircuit()
  const drawnIn = useJob(
    (s) =>
      s.job.raceways.length > 0 ||
      s.report.circuits.some(({ chosen: { design } }) =>
        [design.cable === 'thwn-2' || design.cable === 'singles', ...design.stretches.map((x) => x.place === 'conduit')].some(Boolean),
      ),
  )
  const shown: Partial<Record<Id, boolean>> = { raceways: drawnIn, choices: chosen.result?.size != null }
  return <Sheets<Id> of="circuit" tabs={sheetsOf('circuit').filter((t) => shown[t.id] !== false)} views={views} first="this" />
}
