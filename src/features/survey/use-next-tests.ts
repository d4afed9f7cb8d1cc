'use client'
import { useMemo } from 'react'
import { type Goal, type NextTest, nextTestsOf } from '@/core/survey/traced'
import { useWorker } from '@/ui/use-worker'
import { useJob } from '../sync/context'

const begin = () => new Worker(new URL('../../workers/trace.ts', import.meta.url), { type: 'module' })

/** The tests to make next, for everything or for one question, worked out in a worker. */
export function useNextTests(goal: Goal | null): { tests: readonly NextTest[] | null; thinking: boolean } {
  const survey = useJob((s) => s.job)
  const key = JSON.stringify(goal)
  const question = useMemo(() => ({ survey, goal: JSON.parse(key) as Goal | null }), [survey, key])
  const { answer, thinking } = useWorker(begin, question, nextTestsOf)
  return { tests: answer, thinking }
}
