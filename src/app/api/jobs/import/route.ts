import { readJobFile } from '@/core/job/file'
import { hand, store } from '@/server/data'
import { readJson, receivedFile, route } from '@/server/respond'
import { readArchive } from '@/store/archived'
import { createJob, twinOf } from '@/store/jobs'
import { bringBack } from '@/store/photographs'

/** A job from a file, or, sent as `application/zip`, from an archive, with its photographs and what became of it. */
export const POST = route(async (request) => {
  const id = crypto.randomUUID()
  if (request.headers.get('content-type') !== 'application/zip') {
    const file = readJobFile(await readJson(request))
    const twin = twinOf(store(), file.job)
    createJob(store(), id, file.job, file.readings, await hand(), 'Job brought in from a file')
    return { id, title: file.job.title, twin }
  }
  return receivedFile(request, async (file) => {
    const { job, readings, history, pictures } = await readArchive(file)
    const twin = twinOf(store(), job)
    const now = await hand()
    createJob(store(), id, job, readings, now, 'Job brought in from an archive', history.toReversed())
    bringBack(store(), id, pictures)
    const lost = pictures.filter((p) => !p.jpeg).length
    return { id, title: job.title, twin, lost }
  })
})
