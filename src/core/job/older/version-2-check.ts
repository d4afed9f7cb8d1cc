import type { Fault } from '../check'
import type { Job } from './version-2'
import { MAIN_BOARD } from './version-2-survey'

type Refuse = (path: string, message: string) => void

/** The first thing that a document of version 2 says of something it does not hold, or null. */
export function faultInVersion2(job: Job): Fault | null {
  const faults: Fault[] = []
  const refuse: Refuse = (path, message) => void faults.push({ path, message })
  checkCircuits(job, refuse)
  checkSurvey(job, refuse)
  return faults[0] ?? null
}

function unique(items: readonly { id: string }[], path: string, refuse: Refuse): void {
  const seen = new Set<string>()
  items.forEach((item, i) => {
    if (seen.has(item.id)) refuse(`${path}.${i}.id`, `the id ${item.id} stands twice`)
    seen.add(item.id)
  })
}

function feedersLoop({ circuits }: Job, circuit: string, feeder: string): boolean {
  for (let at: string | null = feeder, steps = 0; at !== null; steps++) {
    if (at === circuit || steps > circuits.length) return true
    at = circuits.find((c) => c.id === at)?.feeder ?? null
  }
  return false
}

/** Points of a circuit lead back to its beginning, and raceways hold circuits that are there. */
function checkCircuits(job: Job, refuse: Refuse): void {
  unique(job.circuits, 'circuits', refuse)
  unique(job.raceways, 'raceways', refuse)
  job.circuits.forEach(({ designs, chosen, points }, i) => {
    unique(designs, `circuits.${i}.designs`, refuse)
    if (!designs.some((d) => d.id === chosen)) refuse(`circuits.${i}.chosen`, `there is no design called ${chosen}`)
    unique(points, `circuits.${i}.points`, refuse)
    const byId = new Map(points.map((p) => [p.id, p]))
    points.forEach((p, k) => {
      const path = `circuits.${i}.points.${k}.from`
      let at: typeof p | undefined = p
      for (let steps = 0; at && at.from !== null; steps++) {
        if (steps > points.length) return refuse(path, `${p.name} leads back to itself, never to the board`)
        const next: typeof p | undefined = byId.get(at.from)
        if (!next) refuse(path, `there is no point called ${at.from}`)
        at = next
      }
    })
  })
  job.circuits.forEach((circuit, i) => {
    if (circuit.feeder === null) return
    const path = `circuits.${i}.feeder`
    if (job.circuits.find((c) => c.id === circuit.feeder)?.kind !== 'feeder') refuse(path, `there is no feeder called ${circuit.feeder}`)
    else if (feedersLoop(job, circuit.id, circuit.feeder)) refuse(path, `${circuit.name} would be fed by its own sub-board`)
  })
  const circuits = new Set(job.circuits.map((c) => c.id))
  job.raceways.forEach((r, i) =>
    r.circuits.forEach((c, k) => circuits.has(c) || refuse(`raceways.${i}.circuits.${k}`, `there is no circuit called ${c}`)),
  )
}

/** Everything in the survey speaks of what is in the survey. */
function checkSurvey({ survey }: Job, refuse: Refuse): void {
  for (const list of ['boards', 'guards', 'ways', 'points', 'sightings', 'traces', 'runs', 'defects'] as const)
    unique(survey[list], `survey.${list}`, refuse)
  if (survey.boards[0]!.id !== MAIN_BOARD || survey.boards[0]!.fedFrom !== null)
    refuse('survey.boards.0', 'the first board is the main one, fed from the supply')
  const [boards, ways, points] = [survey.boards, survey.ways, survey.points].map((list) => new Set<string>(list.map((x) => x.id)))
  const need = (known: ReadonlySet<string>, id: string, path: string) => known.has(id) || refuse(path, `there is no ${id} in the survey`)
  survey.boards.forEach((b, i) => b.fedFrom === null || need(ways!, b.fedFrom, `survey.boards.${i}.fedFrom`))
  survey.guards.forEach((g, i) => need(boards!, g.board, `survey.guards.${i}.board`))
  survey.ways.forEach((w, i) => need(boards!, w.board, `survey.ways.${i}.board`))
  survey.sightings.forEach(({ seen }, i) => {
    const path = `survey.sightings.${i}.seen`
    if (seen.kind === 'breaker-off') need(ways!, seen.breaker, `${path}.breaker`)
    else need(points!, seen.point, `${path}.point`)
    if (seen.kind !== 'cables') seen.dead.forEach((d, k) => need(points!, d, `${path}.dead.${k}`))
  })
}
