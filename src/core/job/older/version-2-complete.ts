import { newBoard, newPoint, newSurvey, newWay } from './version-2-survey'
import type { RegionId } from '../../region/types'
import { type Job, newCircuit, newCircuitPoint, newDesign, newJob, newRaceway } from './version-2'

type Plain = Record<string, unknown>
const isPlain = (x: unknown): x is Plain => typeof x === 'object' && x !== null && !Array.isArray(x)
const each = (list: unknown, complete: (item: Plain) => unknown): unknown =>
  Array.isArray(list) ? list.map((x) => (isPlain(x) ? complete(x) : x)) : list
/** An object with what it lacks, at its beginnings; what is there is never changed. */
const filled = (fresh: object, found: unknown): unknown => (isPlain(found) ? { ...fresh, ...found } : (found ?? fresh))

function upgradeCircuit(region: RegionId, circuit: Plain): unknown {
  const fresh = newCircuit(region, '', '')
  const design = newDesign(region, '', '')
  return {
    ...fresh,
    ...circuit,
    load: filled(fresh.load, circuit.load),
    points: each(circuit.points ?? fresh.points, (p) => ({ ...newCircuitPoint('', ''), ...p })),
    designs: each(circuit.designs, (d) => ({ ...design, ...d, residual: filled(design.residual, d.residual) })),
  }
}

/** Jobs that were found to have everything already, so that reading one twice costs nothing. */
const whole = new WeakSet<object>()

/**
 * A job as an older version wrote it, with what later versions added to it at their beginnings; one that has it all is
 * returned as it is. What is there is never changed, and what is wrong is left for the schema to name.
 */
export function upgradeJob(stored: unknown): Job {
  if (!isPlain(stored) || !isPlain(stored.survey) || whole.has(stored)) return stored as Job
  const region = stored.region as RegionId
  const fresh = newJob(['north-america', 'united-kingdom', 'southern-africa'].includes(region) ? region : 'north-america', '', '')
  const { survey } = stored
  const job = {
    ...fresh,
    ...stored,
    brief: filled(fresh.brief, stored.brief),
    supply: filled(fresh.supply, stored.supply),
    survey: {
      ...newSurvey(),
      boards: [newBoard('main')],
      ...survey,
      demand: filled(newSurvey().demand, survey.demand),
      ways: each(survey.ways, (w) => ({ ...newWay('', ''), ...w })),
      points: each(survey.points, (p) => ({ ...newPoint('', ''), ...p })),
      sightings: each(survey.sightings, (s) => ({ ...s, looked: s.looked ?? null })),
    },
    raceways: each(stored.raceways ?? fresh.raceways, (r) => ({ ...newRaceway('', ''), ...r })),
    circuits: each(stored.circuits, (c) => upgradeCircuit(fresh.region, c)),
  } as unknown as Job
  whole.add(job)
  return job
}
