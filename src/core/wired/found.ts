import type { Installation } from '../installation/installation'
import { type Cable, cableM } from '../job/cable'
import { once } from '../base/memory'
import { formatLength } from '../base/format'
import { worlds } from '../region/worlds'
import { cablesTraced, evaluateSurvey, type TracedCable } from '../survey/traced'
import { perMetre } from './conductor'
import { type Laid, PRESUMED_M, PRESUMED_OHM_PER_M } from './laid'
import type { FromBoard, Ways } from './ways'

/** A place that was found, on the way that tracing showed; its box was not opened here. */
export interface FoundPoint {
  readonly point: string
  readonly name: string
  readonly way: string
  /** The two conductors that come to it. */
  readonly line: string
  readonly other: string
  readonly mustHold: boolean
}
export interface Found {
  readonly points: readonly FoundPoint[]
  /** Places whose feed is not known: neither live nor dead. */
  readonly untraced: readonly { readonly id: string; readonly name: string }[]
}

/** Where a point that was found is fed from: the place before it, or its way where the order is not known. */
type Feed = { readonly point: string } | { readonly way: string }

/** What feeds each point that is there, as the trace or a cable tells it. What is only left over is no proof. */
const feedsOf = once((job: Installation): ReadonlyMap<string, Feed> => {
  const { trace, proved } = evaluateSurvey(job)
  const feed = new Map<string, Feed>()
  const led = (from: Cable['from'] | TracedCable['from']): Feed | null =>
    from.kind === 'way' ? { way: from.id } : from.kind === 'point' ? { point: from.id } : null
  const put = (point: string, from: Feed | null, proof: Cable['proof']) => {
    if (from !== null && proof !== null && proof !== 'left-over') feed.set(point, from)
  }
  // Only its way is known: it is on that, in an unknown order.
  for (const p of job.standing) {
    const way = trace.feeds[p.id]
    if (way && proved.has(way)) feed.set(p.id, { way })
  }
  for (const k of job.foundCables) if (k.to.kind === 'point') put(k.to.id, led(k.from), k.proof)
  for (const k of cablesTraced(job)) put(k.point, led(k.from), k.proof)
  return feed
})

/** The way at the root of a point, by the places before it; null where they lead nowhere, or round. */
function rootOf(point: string, feeds: ReadonlyMap<string, Feed>): string | null {
  let at = feeds.get(point)
  for (let steps = 0; at !== undefined && steps <= feeds.size; steps++) {
    if ('way' in at) return at.way
    at = feeds.get(at.point)
  }
  return null
}

/** The way that each point that is there hangs on, as far as it was traced. */
export const waysTraced = once((job: Installation): ReadonlyMap<string, string> => {
  const feeds = feedsOf(job)
  return new Map(
    [...feeds.keys()].flatMap((p) => [[p, rootOf(p, feeds)] as const]).filter((x): x is readonly [string, string] => x[1] !== null),
  )
})

/**
 * Circuits that are there, as far as they were traced: each point on its way, with what was entered that it draws. Whether earth
 * reaches it, and what is joined in its box, is not known and not in it.
 */
export function wireFound(job: Installation, ways: Ways, boxed: ReadonlyMap<string, string>, { make, notes, lineV, trial }: Laid): Found {
  const [feeds, roots] = [feedsOf(job), waysTraced(job)]
  const cables = new Map(job.foundCables.flatMap((k): [string, Cable][] => (k.to.kind === 'point' ? [[k.to.id, k]] : [])))
  const { splitPhase } = worlds[job.region]
  const points: FoundPoint[] = []
  const untraced: { id: string; name: string }[] = []
  let presumed = false
  for (const p of job.standing) {
    if (boxed.has(p.id)) continue
    const root = roots.get(p.id)
    const from = root === undefined ? undefined : ways.get(root)
    if (root === undefined || !from) {
      untraced.push({ id: p.id, name: p.name })
      continue
    }
    const way = job.ways.find((w) => w.id === root)
    const both = splitPhase && way?.poles === 2 && p.leg === 'AB'
    const feed = feeds.get(p.id)!
    // What is fed beyond a box that is opened here comes to the way itself: which of its joints it continues through is not recorded.
    const before = 'point' in feed && !boxed.has(feed.point) ? feed.point : null
    const begin = (side: 'line' | 'other'): string => (before === null ? ofWay(from, side, both) : foundNode(before, side))
    const cable = cables.get(p.id)
    const metres = cable ? cableM(cable) : null
    if (metres === null || cable?.size == null) presumed = true
    const ohm = Math.max(
      1e-6,
      (metres ?? PRESUMED_M) * ((cable?.size && perMetre(job.region, cable.type ?? '', cable.size)) || PRESUMED_OHM_PER_M),
    )
    for (const side of ['line', 'other'] as const)
      make({ id: `found ${p.id} ${side}`, kind: 'wire', a: begin(side), b: foundNode(p.id, side), ohm })
    const [line, other] = [foundNode(p.id, 'line'), foundNode(p.id, 'other')]
    if (p.watts && trial.drawing)
      make({ id: `found ${p.id} load`, kind: 'load', a: line, b: other, watts: p.watts, volts: both ? 2 * lineV : lineV, powerFactor: 1 })
    points.push({ point: p.id, name: p.name, way: root, line, other, mustHold: p.mustHold })
  }
  if (presumed)
    notes.add(
      `Existing cables that were not measured are calculated as ${formatLength(PRESUMED_M, worlds[job.region].units)} of the ` +
        `thinnest ${worlds[job.region].words.cable}.`,
    )
  if (points.length) notes.add('Joints in unopened boxes of existing circuits are assumed standard; their earths are not included.')
  if (untraced.length)
    notes.add(
      `${untraced.length} ${untraced.length === 1 ? 'point that is there is' : 'points that are there are'} on no traced circuit: ` +
        'shown neither live nor dead.',
    )
  return { points, untraced }
}
const ofWay = (from: FromBoard, side: 'line' | 'other', both: boolean): string =>
  side === 'line' ? from.line : both ? from.line2 : from.neutral
/** A conductor at a place that was found. */
export const foundNode = (point: string, side: 'line' | 'other'): string => `${point}|found ${side}`
