import { type StageId, stageOf } from '@/core/report/stages'
import { useCircuit, useJob } from '../sync/context'

/** What a stage is for, while nothing was entered in it; null after. */
export function useAbout(stage: StageId): string | null {
  const { circuit, chosen } = useCircuit()
  const empty = useJob(({ job }) => {
    if (stage === 'brief') return job.brief.request === '' && circuit.load.amount === null
    if (stage === 'survey') return job.ways.length === 0 && job.points.length === 0
    if (stage === 'day') return job.day === undefined
    if (stage === 'route') return job.rooms.every((r) => !r.measured)
    return stage === 'circuit' && circuit.load.amount === null && chosen.design.lengthM === null
  })
  return empty ? stageOf(stage).about : null
}
