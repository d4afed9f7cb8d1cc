import { demoJobs } from '@/core/demo/demo'
import { store } from '@/server/data'
import { requests } from '@/server/requests'
import { readBody, route } from '@/server/respond'
import { makeDemo } from '@/store/demo'
import { stageOf, undeleteJob } from '@/store/jobs'

/** A demo job by name: made, brought back where it was deleted, or the one that is there. */
export const POST = route(async (request) => {
  const { id } = await readBody(request, requests.demo)
  if (stageOf(store(), id) === null)
    makeDemo(
      store(),
      demoJobs.find((d) => d.id === id)!,
    )
  else undeleteJob(store(), id)
  return { id }
})
