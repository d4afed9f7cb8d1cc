import { read } from '../installation/installation'
import type { Job } from '../job/schema'
import type { WorkPlaces } from '../wired/isolate'
import { type IsolationFound, isolationFound } from '../workday/isolation'
import { evaluate } from './evaluate'

export interface IsolationAsked {
  readonly job: Job
  readonly places: WorkPlaces
}
export const isolationAsked = ({ job, places }: IsolationAsked): IsolationFound =>
  isolationFound(read(job), evaluate(job, []).circuits, places)
