'use client'
import { useEffect, useMemo } from 'react'
import { wiringOf } from '@/core/meters/wiring-of'
import { type FaultsAsked, type FaultsFound, faultsOf } from '@/core/faults/ask'
import { testsBesides } from '@/core/faults/besides'
import { useWorker } from '@/ui/use-worker'
import { useCircuit, useSeenJob } from '../sync/context'

const begin = () => new Worker(new URL('../../workers/faults.ts', import.meta.url), { type: 'module' })

/** What was found lately: a sheet that asks the same again has it at once. */
const recent = new Map<string, FaultsFound>()
const RECENT = 4

/**
 * The circuit in hand with every mistake of it tried in a worker; `asked` is null while its wiring is not known. `alone` tries them where
 * no worker arrives.
 */
export function useFaults(of: FaultsAsked['of'], alone: typeof faultsOf = faultsOf) {
  const job = useSeenJob()
  const report = useCircuit()
  const key = JSON.stringify({ wiring: wiringOf(job, report), tests: report.tests, besides: testsBesides(job, report), of })
  const asked = useMemo(() => {
    const question = JSON.parse(key) as FaultsAsked
    return question.wiring ? question : null
  }, [key])
  const before = recent.get(key)
  const { answer, thinking, ...at } = useWorker(begin, before ? null : asked, alone)
  const found = before ?? (thinking || at.stopped ? null : answer)
  useEffect(() => {
    if (!found?.campaign && !found?.known) return
    recent.delete(key)
    recent.set(key, found)
    for (const old of [...recent.keys()].slice(0, -RECENT)) recent.delete(old)
  }, [key, found])
  return { asked, report, found, at }
}
