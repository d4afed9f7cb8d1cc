import { readJobFile } from '@/core/job/file'
import { hand, store } from '@/server/data'
import { readJson, route } from '@/server/respond'
import { createJob, twinOf } from '@/store/jobs'

export const POST = route(async (request) => {
  const file = readJobFile(await readJson(request))
  const id = crypto.randomUUID()
  const twin = twinOf(store(), file.job)
  createJob(store(), id, file.job, file.readings, await hand(), 'Job brought in from a file')
  return { id, title: file.job.title, twin }
})
