'use client'
import { useMemo } from 'react'
import { wiringOf } from '@/core/fault/as-wired'
import { type FaultsAsked, faultsOf } from '@/core/fault/ask'
import { testsBesides } from '@/core/fault/besides'
import { useWorker } from '@/ui/use-worker'
import { useCircuit, useSeenJob } from '../job/context'

const begin = () => new Worker(new URL('../../workers/faults.ts', import.meta.url), { type: 'module' })

/** The circuit in hand with every mistake of it tried in a worker; `asked` is null while its wiring is not known. */
export function useFaults(of: FaultsAsked['of']) {
  const job = useSeenJob()
  const report = useCircuit()
  const key = JSON.stringify({ wiring: wiringOf(job, report), tests: report.tests, besides: testsBesides(job, report), of })
  const asked = useMemo(() => {
    const question = JSON.parse(key) as FaultsAsked
    return question.wiring ? question : null
  }, [key])
  const { answer, thinking, ...at } = useWorker(begin, asked, faultsOf)
  return { asked, report, found: thinking || at.stopped ? null : answer, at }
}
