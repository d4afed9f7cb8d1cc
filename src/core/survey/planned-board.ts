import { subBoardName } from '../design/fed'
import { nameplateW, voltsAt } from '../design/load'
import type { Circuit, Installation } from '../installation/installation'
import { type BoardReport, legOf, plannedIn, spacesGiven } from './board'
import { newBoard } from '../job/board'
import { feederBoardId } from '../job/cable'
import { worlds } from '../region/worlds'

/** Fewer ways are not sold, or leave none for later. */
const LEAST_WAYS = 8
const SPARE_WAYS = 2

/**
 * The board at the end of a feeder that is still to be bought: the ways its circuits were given, and as many free ones as leave room
 * for later.
 */
export function plannedBoard(job: Installation, feeder: Circuit): BoardReport {
  const given = plannedIn(job, feederBoardId(feeder.id)).flatMap((p) => p.spaces)
  const spaces = Math.max(LEAST_WAYS, 2 * Math.ceil((Math.max(0, ...given) + SPARE_WAYS) / 2))
  const free = Array.from({ length: spaces }, (_, i) => i + 1).filter((s) => !given.includes(s))
  const board = newBoard(feederBoardId(feeder.id), { name: subBoardName(feeder), spaces, free, fedFrom: feeder.id })
  return {
    board,
    ways: [],
    newWays: job.newWays.filter((w) => w.board === feederBoardId(feeder.id)),
    devices: [],
    left: free,
    free,
    pair: null,
    noPair: null,
    liveWithMainOff: [],
    legs: worlds[job.region].splitPhase ? plannedLegs(job, feeder) : null,
    findings: [],
  }
}

/** Amperes that the circuits of a planned board put on each leg if all runs at once; null while one is not known or has no way. */
export function plannedLegs(job: Pick<Installation, 'circuits' | 'region'>, feeder: Pick<Circuit, 'id'>): BoardReport['legs'] {
  const sum = { A: 0, B: 0, unread: 0, unlooked: 0 }
  for (const c of job.circuits.filter((x) => x.feeder === feeder.id)) {
    const [first] = spacesGiven(job.region, c)
    const watts = nameplateW(c, job.region)
    if (first === undefined || watts === null) return null
    const [near, far] = legOf(first) === 'A' ? (['A', 'B'] as const) : (['B', 'A'] as const)
    if (c.kind === 'shared-neutral')
      for (const p of c.points) {
        const amps = (p.watts ?? 0) / voltsAt(c, p)
        if (p.leg !== 'B') sum[near] += amps
        if (p.leg !== 'A') sum[far] += amps
      }
    else if ((c.load.volts ?? 0) > 150) {
      sum.A += watts / c.load.volts!
      sum.B += watts / c.load.volts!
    } else sum[near] += watts / (c.load.volts ?? 120)
  }
  return sum
}
