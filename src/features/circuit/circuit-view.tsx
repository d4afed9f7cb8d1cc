'use client'
import dynamic from 'next/dynamic'
import { type SheetTab, Sheets } from '@/ui/sheets'
import { ChainSheet } from './chain-sheet'

const tabs = [
  { id: 'all', name: 'All circuits', view: dynamic(() => import('./all-sheet').then((m) => m.AllSheet)) },
  { id: 'chain', name: 'Chain', view: ChainSheet },
  { id: 'points', name: 'Points', view: dynamic(() => import('./stops-sheet').then((m) => m.StopsSheet)) },
  { id: 'run', name: 'Run', view: dynamic(() => import('./run-sheet').then((m) => m.RunSheet)) },
  { id: 'protection', name: 'Protection', view: dynamic(() => import('./protection-sheet').then((m) => m.ProtectionSheet)) },
  { id: 'raceways', name: 'Raceways', view: dynamic(() => import('./raceways-sheet').then((m) => m.RacewaysSheet)) },
  { id: 'choices', name: 'Choices', view: dynamic(() => import('./choices-sheet').then((m) => m.ChoicesSheet)) },
  { id: 'old', name: 'Old work', view: dynamic(() => import('./old-sheet').then((m) => m.OldSheet)) },
  { id: 'board', name: 'Board', view: dynamic(() => import('./place-sheet').then((m) => m.PlaceSheet)) },
] as const satisfies readonly SheetTab<string>[]

/** The circuit in sheets: the chain of ratings first, and each side of it that decides something. */
export const CircuitView = () => <Sheets of="circuit" tabs={tabs} first="chain" />
