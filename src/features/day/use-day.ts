'use client'
import { isolationCards } from '@/core/workday/isolation'
import { tasksOf } from '@/core/workday/tasks'
import { newDay } from '@/core/job/day'
import { useSettings } from '@/ui/settings'
import { useJob } from '../sync/context'

/** The day of the job, its tasks by the firm’s own minutes, and the isolation each outage asks for. */
export function useDay() {
  const job = useJob((s) => s.job)
  const report = useJob((s) => s.report)
  const { settings } = useSettings()
  const day = job.day ?? newDay()
  const tasks = tasksOf(job, report, settings.minutes)
  return { job, report, day, tasks, cards: isolationCards(job, report, day, tasks) }
}
