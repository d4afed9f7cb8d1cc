'use client'
import { useEffect, useRef, useState } from 'react'
import type { Goal, NextTest } from '@/core/trace/survey'
import { useJob } from '../job/context'

/**
 * The tests to make next, for everything or for one question. A question of its own is worked out in a worker; null while
 * it thinks.
 */
export function useNextTests(goal: Goal | null): readonly NextTest[] | null {
  const survey = useJob((s) => s.job.survey)
  const all = useJob((s) => s.report.survey.next)
  const worker = useRef<Worker | null>(null)
  const asked = useRef(0)
  const [answer, setAnswer] = useState<{ survey: unknown; goal: string; tests: readonly NextTest[] } | null>(null)
  const key = JSON.stringify(goal)
  useEffect(() => {
    const wanted = JSON.parse(key) as Goal | null
    if (wanted === null) return
    const thinking = (worker.current ??= new Worker(new URL('../../workers/trace.ts', import.meta.url), { type: 'module' }))
    const ask = ++asked.current
    const hear = ({ data }: MessageEvent<{ ask: number; tests: readonly NextTest[] }>) => {
      if (data.ask === ask) setAnswer({ survey, goal: key, tests: data.tests })
    }
    thinking.addEventListener('message', hear)
    thinking.postMessage({ ask, survey, goal: wanted })
    return () => thinking.removeEventListener('message', hear)
  }, [survey, key])
  useEffect(() => () => worker.current?.terminate(), [])
  if (goal === null) return all
  return answer && answer.survey === survey && answer.goal === key ? answer.tests : null
}
