'use client'
import { buildingOf, placeNames } from '@/core/installation/building'
import { newBuilding } from '@/core/job/building'
import { useJob } from '../sync/context'

/** The building of the job as it is read, how it is made, and what everything that is in it is called. */
export function useBuilding() {
  const job = useJob((s) => s.job)
  return { job, read: buildingOf(job.record), names: placeNames(job), made: job.building ?? newBuilding() }
}
export type Building = ReturnType<typeof useBuilding>
