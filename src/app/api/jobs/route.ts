import { applianceKinds } from '@/core/catalogue/appliances'
import { applyEdit } from '@/core/job/edits'
import { loadOfKind } from '@/core/job/load'
import { EditError } from '@/core/job/part'
import { type Job, newJob } from '@/core/job/schema'
import { practiceJob } from '@/core/practice/practice'
import { hand, store } from '@/server/data'
import { requests } from '@/server/requests'
import { readBody, route } from '@/server/respond'
import { createJob } from '@/store/jobs'

/** A job with what it is about to power, as it usually is, to be corrected from the nameplate. */
function powering(job: Job, appliance: string): Job {
  const kind = applianceKinds(job.region).find((k) => k.id === appliance)
  if (!kind) throw new EditError('appliance', 'This kind of appliance is not listed for where the job is.')
  return applyEdit(job, { kind: 'load.set', circuit: job.circuits[0]!.id, patch: loadOfKind(kind) }).job
}

export const POST = route(async (request) => {
  const { region, title, place, practice, appliance } = await readBody(request, requests.newJob)
  const id = crypto.randomUUID()
  const begun = practice ? practiceJob(region, title, practice) : newJob(region, title, place)
  createJob(store(), id, appliance === undefined || practice ? begun : powering(begun, appliance), [], await hand())
  return { id }
})
