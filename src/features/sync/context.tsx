'use client'
import { createContext, type ReactNode, useContext, useMemo, useState } from 'react'
import { useStore } from 'zustand'
import { seenBy } from '@/core/design/fed'
import type { CircuitReport } from '@/core/evaluate/evaluate'
import type { Installation } from '@/core/installation/installation'
import type { UnitSystem } from '@/core/base/format'
import { unitsFor } from '@/core/workday/settings'
import { useSettings } from '@/ui/settings'
import type { LoadedJob } from './job-state'
import { createJobStore, type JobStore } from './job-store'

const Context = createContext<JobStore | null>(null)

export function JobProvider({ loaded, children }: { loaded: LoadedJob; children: ReactNode }) {
  const [store] = useState(() => createJobStore(loaded))
  return <Context value={store}>{children}</Context>
}

export function useJob<T>(select: (state: ReturnType<JobStore['getState']>) => T): T {
  const store = useContext(Context)
  if (!store) throw new Error('useJob outside JobProvider')
  return useStore(store, select)
}

/** The circuit in hand. */
export function useCircuit(): CircuitReport {
  return useJob((s) => s.report.byCircuit.get(s.circuitId) ?? s.report.circuits[0]!)
}

/** The job as the circuit in hand sees it: with the supply of the board it leaves from. */
export function useSeenJob(): Installation {
  const job = useJob((s) => s.job)
  const { upstream } = useCircuit()
  return useMemo(() => seenBy(job, { upstream }), [job, upstream])
}

export function useUnits(): UnitSystem {
  const region = useJob((s) => s.job.region)
  return unitsFor(useSettings().settings.units, region)
}
