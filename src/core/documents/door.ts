import type { CircuitReport, Report } from '../evaluate/evaluate'
import { grouped } from '../base/grouped'
import type { Installation, Point } from '../installation/installation'
import type { Way } from '../job/board'
import { boxPoints } from '../build/carries'
import { formatA } from '../base/format'
import { boardName, type BoardReport, spacesOf } from '../survey/board'
import { worlds } from '../region/worlds'

export interface DoorLine {
  readonly place: string
  readonly rating: string
  readonly label: string
  readonly feeds: string
  readonly proved: boolean
  readonly behind: string
}

/** A way that a circuit of this job was given, as the circuit became. */
function madeLine(job: Installation, way: Way, { circuit, chosen, testReport }: CircuitReport): DoorLine {
  const breakerA = chosen.result?.breakerA ?? null
  const feeds = circuit.points.length ? circuit.points.map((p) => p.name).join('; ') : circuit.load.name || circuit.name
  const tested = testReport.phase.dead.met && testReport.phase.live.met
  return {
    place: way.position === null ? '?' : `${spacesOf(job.region, way).join('-')}${way.half ?? ''}`,
    rating:
      breakerA === null
        ? 'not worked out'
        : `${worlds[job.region].typedBreakers ? chosen.design.breakerType : ''}${formatA(breakerA)}${way.poles === 2 ? ' 2P' : ''}`,
    label: circuit.name,
    feeds: tested ? feeds : `${feeds} (new; not tested yet)`,
    proved: tested,
    behind: behindName(job, way),
  }
}

function behindName(job: Installation, { residual }: Way): string {
  if (residual === 'unknown') return 'not known'
  if (residual === 'none') return ''
  return residual === 'own' ? `its own ${worlds[job.region].words.rcd}` : (job.residualDevices.find((d) => d.id === residual)?.name ?? '')
}

/** Points by the room they are in: "Kitchen: counter; window". */
const byRoom = (points: readonly Pick<Point, 'name' | 'room'>[]): readonly string[] =>
  [...grouped(points, (p) => p.room)].map(([room, of]) => `${room && `${room}: `}${of.map((p) => p.name).join('; ')}`)

/** Points that circuits of this job put on a way that is there, and circuits that begin at what is on it. */
function addedTo(job: Installation, circuits: Report['circuits'], way: Way, found: readonly string[]): readonly string[] {
  const on = circuits.filter(
    ({ circuit }) =>
      circuit.ways.some((w) => w.id === way.id) || circuit.cables.some((k) => k.from.kind === 'point' && found.includes(k.from.id)),
  )
  return on.flatMap(({ circuit, testReport }) => {
    const fresh = boxPoints({ circuit }).filter((p) => p.state === 'new' && !found.includes(p.id))
    const names = fresh.map((p) => p.name || circuit.load.name || circuit.name)
    const tested = testReport.phase.dead.met && testReport.phase.live.met
    return names.length === 0 || tested ? names : [`${names.join('; ')} (new; not tested yet)`]
  })
}

/** The schedule for the board's door: what each way was proved to feed, beside the label found on it, and what this job puts in. */
export function doorSchedule(
  job: Installation,
  report: BoardReport,
  { survey, circuits }: Pick<Report, 'survey' | 'circuits'>,
): DoorLine[] {
  const { loads, proved } = survey
  const made = new Map(circuits.flatMap((c) => c.circuit.ways.map((w) => [w.id, c] as const)))
  const known = new Map(job.points.map((p) => [p.id, p]))
  const sorted = [...report.ways, ...report.newWays].toSorted(
    (a, b) => (a.position ?? 999) - (b.position ?? 999) || (a.half ?? '').localeCompare(b.half ?? ''),
  )
  return sorted.map((w) => {
    if (w.state === 'new' && made.has(w.id)) return madeLine(job, w, made.get(w.id)!)
    const points = loads.find((l) => l.way.id === w.id)?.points ?? []
    const sub = job.boards.find((b) => b.fedFrom === w.id)
    // What is taken out is not fed any more; what is added is fed from here once it was tested.
    const stay = byRoom(points.flatMap((p) => known.get(p) ?? []))
    const feeds = [...(sub ? [`feeds ${boardName(job.region, sub)}`] : []), ...stay, ...addedTo(job, circuits, w, points)].join('; ')
    return {
      place: w.position === null ? '?' : `${spacesOf(job.region, w).join('-')}${w.half ?? ''}`,
      rating: w.ratingA === null ? 'not read' : `${w.curve ?? ''}${formatA(w.ratingA)}${w.poles === 2 ? ' 2P' : ''}`,
      label: w.label,
      feeds:
        feeds && !proved.has(w.id) && stay.length
          ? `${feeds} (left over; not switched off)`
          : feeds || (proved.has(w.id) ? 'nothing that was found' : 'not proved'),
      proved: proved.has(w.id),
      behind: behindName(job, w),
    }
  })
}

/** How a way of the chart differs from the chart that was kept: put in, taken out, or changed. */
export interface ChartChange {
  readonly place: string
  readonly was: DoorLine | null
  readonly now: DoorLine | null
}

/** What is written in the words of the chart of one way. What was tested in the meantime is a change too. */
export const chartWords = ({ label, rating, feeds, behind }: DoorLine): string => [label, rating, feeds, behind].filter(Boolean).join('; ')

/** The chart as it is now against one that was kept, way by way; those of one place in their order. */
export function chartChanges(kept: readonly DoorLine[], now: readonly DoorLine[]): readonly ChartChange[] {
  const byPlace = (lines: readonly DoorLine[]) => grouped(lines, (l) => l.place)
  const [before, after] = [byPlace(kept), byPlace(now)]
  return [...new Set([...before.keys(), ...after.keys()])].flatMap((place) => {
    const [was, is] = [before.get(place) ?? [], after.get(place) ?? []]
    return Array.from({ length: Math.max(was.length, is.length) }, (_, i): ChartChange => ({
      place,
      was: was[i] ?? null,
      now: is[i] ?? null,
    })).filter((c) => (c.was && chartWords(c.was)) !== (c.now && chartWords(c.now)))
  })
}
