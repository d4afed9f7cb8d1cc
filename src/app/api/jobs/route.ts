import { z } from 'zod'
import { jobSchema, newJob } from '@/core/job/schema'
import { hand, store } from '@/server/data'
import { readBody, route } from '@/server/respond'
import { createJob } from '@/store/jobs'

export const POST = route(async (request) => {
  const { region, title, place } = await readBody(request, z.strictObject(jobSchema.pick({ region: true, title: true, place: true }).shape))
  const id = crypto.randomUUID()
  createJob(store(), id, newJob(region, title, place), [], hand())
  return { id }
})
