'use client'
import { clock } from '@/core/job/day'
import { useRef, useState } from 'react'
import { planDays } from '@/core/workday/days'
import type { Task } from '@/core/workday/tasks'
import type { DayPlan } from '@/core/schedule/day'
import { api, ApiError } from '@/ui/api'
import { useJob } from '../sync/context'
import { useDay } from './use-day'

export interface Planner {
  readonly thinking: boolean
  readonly wrong: string | null
  /** What moved since the plan before, in words; nothing for a first plan. */
  readonly moved: readonly string[]
  /** With `seconds` it is wanted at once. */
  readonly run: (tasks: readonly Task[], fromMin: number, seconds?: number) => Promise<void>
  readonly stop: () => void
}

/** The planner of the server: one plan at a time, which can be given up. */
export function usePlanner(done: ReadonlySet<string>): Planner {
  const { day } = useDay()
  const commit = useJob((s) => s.commit)
  const [thinking, setThinking] = useState(false)
  const [wrong, setWrong] = useState<string | null>(null)
  const [moved, setMoved] = useState<readonly string[]>([])
  const running = useRef<AbortController | null>(null)
  const run = async (tasks: readonly Task[], fromMin: number, seconds?: number) => {
    running.current?.abort()
    const mine = (running.current = new AbortController())
    setThinking(true)
    setWrong(null)
    try {
      const found = await planDays(
        { tasks, day, done, fromMin, at: new Date().toISOString(), ...(seconds === undefined ? {} : { seconds }) },
        (input) => api<DayPlan>('POST', '/api/calc/day-plan', input, false, mine.signal),
      )
      if ('wrong' in found) setWrong(found.wrong)
      else {
        const { planned } = found
        const kept = day.planned?.tasks.filter((t) => done.has(t.id)) ?? []
        const was = new Map(day.planned?.tasks.map((t) => [t.id, t.startMin]))
        setMoved(
          planned.tasks.flatMap(({ id, startMin }) => {
            const [before, name] = [was.get(id), tasks.find((t) => t.id === id)?.name]
            return before === undefined || before === startMin || !name ? [] : [`${name} ${clock(before)} to ${clock(startMin)}`]
          }),
        )
        commit({ kind: 'day.plan', planned: { ...planned, tasks: [...kept, ...planned.tasks] } })
      }
    } catch (e) {
      if (!mine.signal.aborted) setWrong(e instanceof ApiError ? e.message : 'It could not be worked out.')
    }
    if (running.current === mine) {
      running.current = null
      setThinking(false)
    }
  }
  return { thinking, wrong, moved, run, stop: () => running.current?.abort() }
}
