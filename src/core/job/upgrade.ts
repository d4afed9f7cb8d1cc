import { newBoard, newPoint, newSurvey, newWay } from '../survey/schema'
import type { Job } from './schema'

type Plain = Record<string, unknown>
const isPlain = (x: unknown): x is Plain => typeof x === 'object' && x !== null && !Array.isArray(x)
const each = (list: unknown, complete: (item: Plain) => unknown): unknown => (Array.isArray(list) ? list.map((x) => (isPlain(x) ? complete(x) : x)) : list)

/**
 * A job as an older version wrote it, with what later versions added to it at their beginnings; one that has it all is
 * returned as it is. What is there is never changed, and what is wrong is left for the schema to name.
 */
export function upgradeJob(stored: unknown): Job {
  if (!isPlain(stored) || !isPlain(stored.survey)) return stored as Job
  const { survey } = stored
  const fresh = newSurvey()
  const all = (list: unknown, key: string) => Array.isArray(list) && list.every((x) => isPlain(x) && key in x)
  if (Object.keys(fresh).every((k) => k in survey) && all(survey.ways, 'board') && all(survey.points, 'planned') && all(stored.circuits, 'source')) return stored as unknown as Job
  return {
    ...stored,
    survey: {
      ...fresh,
      boards: [newBoard('main')],
      ...survey,
      ways: each(survey.ways, (w) => ({ ...newWay('', ''), ...w })),
      points: each(survey.points, (p) => ({ ...newPoint('', ''), ...p })),
    },
    circuits: each(stored.circuits, (c) => ({ source: null, ...c })),
  } as unknown as Job
}
