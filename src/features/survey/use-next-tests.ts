'use client'
import { useEffect, useRef, useState } from 'react'
import { type Goal, type NextTest, nextTests } from '@/core/survey/traced'
import { useJob } from '../job/context'

interface Answer {
  survey: unknown
  goal: string
  tests: readonly NextTest[]
}

/**
 * The tests to make next, for everything or for one question, worked out in a worker. While it thinks, `tests` are the
 * ones of before, or null at first: they may be shown, not acted on.
 */
export function useNextTests(goal: Goal | null): { tests: readonly NextTest[] | null; thinking: boolean } {
  const survey = useJob((s) => s.job)
  const worker = useRef<Worker | null>(null)
  const asked = useRef(0)
  const [answer, setAnswer] = useState<Answer | null>(null)
  const key = JSON.stringify(goal)
  useEffect(() => {
    const wanted = JSON.parse(key) as Goal | null
    const tell = (tests: readonly NextTest[]) => setAnswer({ survey, goal: key, tests })
    const thinking = (worker.current ??= new Worker(new URL('../../workers/trace.ts', import.meta.url), { type: 'module' }))
    const ask = ++asked.current
    const hear = ({ data }: MessageEvent<{ ask: number; tests: readonly NextTest[] }>) => {
      if (data.ask === ask) tell(data.tests)
    }
    // A worker that did not arrive, the connection being lost, must not stop the work.
    const alone = () => tell(nextTests(survey, wanted))
    thinking.addEventListener('message', hear)
    thinking.addEventListener('error', alone)
    thinking.postMessage({ ask, survey, goal: wanted })
    return () => {
      thinking.removeEventListener('message', hear)
      thinking.removeEventListener('error', alone)
    }
  }, [survey, key])
  useEffect(
    () => () => {
      worker.current?.terminate()
      worker.current = null
    },
    [],
  )
  return { tests: answer?.tests ?? null, thinking: answer?.survey !== survey || answer.goal !== key }
}
