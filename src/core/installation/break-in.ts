import { cutAt, JOINT_MIN, type JointSpot, turnedRound } from '../building/breaking'
import { cutFor, type Route, type WaysAsked } from '../building/route'
import type { Part } from '../building/steps'
import { behind, type Cable, type CableRoute, listOf } from '../job/cable'
import type { Job } from '../job/schema'
import { newBuilding, weightsIn } from '../job/building'
import { asElements, buildingOf } from './building'

type Place = [number, number, number]
const placesOf = ({ elements }: CableRoute): Place[] =>
  elements.flatMap((e, i) => e.path.slice(i ? 1 : 0).map(([x, y, z]): Place => [x, y, z]))

/** Cables of the same circuit whose way is known, that are not fed through the point that a cable leads to. */
function mayBreak(job: Job, branch: Cable): readonly Cable[] {
  if (branch.circuit === null || branch.to.kind !== 'point') return []
  const fed = behind(listOf(job, branch.circuit), branch.to.id)
  return job.cables.filter(
    (k) =>
      k.circuit === branch.circuit && k.id !== branch.id && k.route && k.to.kind === 'point' && !fed.has(k.to.id) && !fed.has(k.from.id),
  )
}

/** The way to ask for from a point to whatever place of a cable of its circuit is nearest by it; null where there is none. */
export function breakWanted(job: Job, branch: string): WaysAsked | null {
  const cable = job.cables.find((k) => k.id === branch)
  const { input, standing } = buildingOf(job)
  if (!cable || !input || !standing.has(cable.to.id)) return null
  const along = mayBreak(job, cable).map((k) => placesOf(k.route!))
  if (along.length === 0) return null
  const { forbid } = job.building ?? newBuilding()
  const weights = weightsIn(job.building)
  return { building: input, from: { point: cable.to.id }, to: [{ along }], weights, forbid: [...forbid], alternatives: 1 }
}

/** A way as it was chosen, but for when. */
type Chosen = Omit<CableRoute, 'at'>
/** A cable in two with a joint box between, and the way from there. */
export interface Broken {
  readonly cable: string
  readonly spot: JointSpot
  /** The way to the joint box, on to where the cable leads, and to the point. */
  readonly toJoint: Chosen
  readonly onward: Chosen
  readonly way: Chosen
  readonly minutes: number
  /** What it counts for, with the box and the circuit off while it is wired. */
  readonly cost: number
}
const metres = (parts: readonly Part[]): number => parts.reduce((sum, p) => sum + p.lengthM, 0)
const recorded = (parts: readonly Part[], cutM: number): Chosen => ({ cutM, elements: asElements(parts) })

/** Which cable a way that was found breaks into, and what then leads where; null where it ends in none of them any more. */
export function brokenBy(job: Job, branch: string, found: Route): Broken | null {
  const cable = job.cables.find((k) => k.id === branch)
  if (!cable || !found.joint) return null
  const end = found.elements.at(-1)!.to
  for (const k of mayBreak(job, cable)) {
    const halves = cutAt(k.route!.elements, end)
    if (!halves) continue
    const whole = metres(k.route!.elements)
    // A cable that is there is not cut again; of one that is to come each piece is.
    const cutM = (parts: readonly Part[]) => (k.state === 'new' ? cutFor(metres(parts)) : (k.route!.cutM * metres(parts)) / whole)
    const way = turnedRound(found.elements)
    return {
      cable: k.id,
      spot: found.joint,
      toJoint: recorded(halves[0], cutM(halves[0])),
      onward: recorded(halves[1], cutM(halves[1])),
      way: recorded(way, cutFor(metres(way))),
      minutes: found.minutes,
      cost: found.cost + JOINT_MIN * (weightsIn(job.building).minute + weightsIn(job.building).outage),
    }
  }
  return null
}
