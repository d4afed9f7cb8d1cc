'use client'
import { createContext, type ReactNode, useCallback, useContext, useEffect, useMemo, useState } from 'react'
import { useStore } from 'zustand'
import { seenBy } from '@/core/design/fed'
import type { CircuitReport } from '@/core/evaluate/evaluate'
import type { Installation } from '@/core/installation/installation'
import type { UnitSystem } from '@/core/base/format'
import { unitsFor } from '@/core/workday/settings'
import { useSettings } from '@/ui/settings'
import { WordedProvider } from '@/ui/worded'
import { inJob } from '@/core/region/spelling'
import type { LoadedJob } from './job-state'
import { createJobStore, type JobStore } from './job-store'
import { deviceJobs, deviceOutbox } from './outbox'

const Context = createContext<JobStore | null>(null)

interface Provided {
  loaded: LoadedJob
  /** When the server said so, where the device kept it; absent: it came with the page. */
  asOf?: string
  children: ReactNode
}
export function JobProvider({ loaded, asOf, children }: Provided) {
  const { settings, person } = useSettings()
  const who = person ?? settings.name
  const [store] = useState(() => createJobStore(loaded, deviceOutbox, { by: who, ...(asOf ? { asOf } : {}) }))
  useEffect(() => store.getState().actAs(who), [store, who])
  useEffect(() => keepOnDevice(store), [store])
  const job = useStore(store, (s) => s.job)
  const worded = useCallback((text: string) => inJob(job.record, text), [job.record])
  return (
    <Context value={store}>
      <WordedProvider value={worded}>{children}</WordedProvider>
    </Context>
  )
}

/** So long after the server was heard with nothing new, in milliseconds, the device writes down when. */
const HEARD_MS = 400
/** Keeps the job on this device in the state the server last gave; ends when it is called. */
function keepOnDevice(store: JobStore): () => void {
  let timer: ReturnType<typeof setTimeout> | undefined
  const keep = () => {
    clearTimeout(timer)
    const { id, saved, photographs, asOf } = store.getState()
    void deviceJobs.keep({ id, loaded: { ...saved, photographs }, asOf }).catch(() => {})
  }
  keep()
  const off = store.subscribe((s, before) => {
    // What is new at once: the page may be left the next moment.
    if (s.saved !== before.saved || s.photographs !== before.photographs) keep()
    else if (s.asOf !== before.asOf) {
      clearTimeout(timer)
      timer = setTimeout(keep, HEARD_MS)
    }
  })
  return () => {
    off()
    clearTimeout(timer)
  }
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
