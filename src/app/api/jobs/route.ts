import { z } from 'zod'
import { jobSchema, newJob } from '@/core/job/schema'
import { practiceJob } from '@/core/survey/practice'
import { practiceSchema } from '@/core/job/report'
import { hand, store } from '@/server/data'
import { readBody, route } from '@/server/respond'
import { createJob } from '@/store/jobs'

const body = z.strictObject({ ...jobSchema.pick({ region: true, title: true, place: true }).shape, practice: practiceSchema.optional() })

export const POST = route(async (request) => {
  const { region, title, place, practice } = await readBody(request, body)
  const id = crypto.randomUUID()
  createJob(store(), id, practice ? practiceJob(region, title, practice) : newJob(region, title, place), [], await hand())
  return { id }
})
