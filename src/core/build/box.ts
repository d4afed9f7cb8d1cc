import { accessory, type Accessory, type Joint } from '../catalogue/accessories'
import { connectorFor } from '../catalogue/connectors'
import { device, type DeviceKind, deviceForKind, type DeviceTerminal } from '../catalogue/devices'
import { followed } from '../catalogue/schools'
import { fittedAt } from '../design/endings'
import { grouped } from '../base/grouped'
import type { Installation } from '../installation/installation'
import { type BenchRecord, CAP, tailEndName, terminalName } from '../job/bench'
import type { PointRecord } from '../job/point'
import type { ConductorRole, WireColour } from '../region/colours'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'
import { type CableAt, cablesInto, type CoreEnd, loadOf, type Worked } from './cores'

/** A device as it stands in a box. */
export interface DeviceAt {
  readonly id: string
  readonly kind: DeviceKind
  readonly broken: readonly string[]
  /** Which of the ways of numbering was found; none: nobody tested it. */
  readonly pairing?: number
  /** Torque of its terminals as it was read, in newton metres. */
  readonly torqueNm?: number
}
/** One box opened: what comes into it, what stands in it, and where each end goes. */
export interface Box {
  readonly point: string
  readonly name: string
  readonly circuit: string
  readonly cables: readonly CableAt[]
  readonly devices: readonly DeviceAt[]
  readonly bench: BenchRecord
  /** Wired the usual way, and not by hand. */
  readonly usual: boolean
  /** What draws power here, in watts; null: nobody said. */
  readonly watts: number | null
}

/** What stands at a point before anybody opens its box. */
function standsAt(
  job: Installation,
  report: Worked,
  point: PointRecord,
): { readonly kind: DeviceKind | null; readonly fitted: Accessory | undefined } {
  if (point.kind === 'box') return { kind: null, fitted: undefined }
  const own = accessory(point.accessory)
  const fitted = own ?? fittedAt(report.chosen.design, point)
  if (!own && point.kind === 'light') return { kind: deviceForKind(job.region, 'light'), fitted: undefined }
  if (!own && point.kind === 'switch' && fitted?.kind !== 'switch') {
    const plain = deviceForKind(job.region, 'switch')
    return { kind: plain, fitted: accessory(plain.id) }
  }
  return { kind: fitted ? device(fitted.id)! : null, fitted }
}

type Side = 'feed' | 'load'
interface Joining {
  readonly connectors: BenchRecord['connectors'][number][]
  readonly tails: BenchRecord['tails'][number][]
  readonly ends: BenchRecord['ends'][number][]
}

/** Colour of a short tail for what it carries. */
const tailColour = (like: CoreEnd | undefined): WireColour => {
  const c = like?.conductor
  return c === undefined ? 'black' : c.role === 'pe' ? (c.remark ?? (c.colour === 'bare' ? 'bare' : 'greenYellow')) : c.colour
}

/** A hand that joins: ends in a connector, with a tail to a terminal; ends where they have room. */
interface Joiner {
  readonly made: Joining
  readonly place: (ends: readonly CoreEnd[], terminals: readonly DeviceTerminal[], joint?: Pick<Joint, 'pigtail'>) => void
}
function joiner(region: RegionId, twist: boolean): Joiner {
  const made: Joining = { connectors: [], tails: [], ends: [] }
  const join = (ends: readonly CoreEnd[], to: DeviceTerminal | undefined) => {
    const id = `j${made.connectors.length + 1}`
    made.connectors.push({ id, kind: connectorFor(region, ends.length + (to ? 1 : 0), twist).id })
    for (const e of ends) made.ends.push({ end: e.name, to: id })
    if (!to) return
    const tail = `t${made.tails.length + 1}`
    made.tails.push({ id: tail, colour: tailColour(ends[0]) })
    made.ends.push({ end: tailEndName(tail, 'a'), to: id }, { end: tailEndName(tail, 'b'), to: terminalName('d1', to.id) })
  }
  const place: Joiner['place'] = (ends, terminals, joint) => {
    if (ends.length === 0) return
    if (joint && ends.length > 1) return join(ends, joint.pigtail ? terminals[0] : undefined)
    if (terminals.length === 0 && ends.length === 1) return void made.ends.push({ end: ends[0]!.name, to: CAP })
    const room = terminals.flatMap((t) => Array.from({ length: t.most }, (_, i) => ({ t, i }))).toSorted((a, b) => a.i - b.i)
    if (ends.length > room.length) return join(ends, terminals[0])
    for (const [i, e] of ends.entries()) made.ends.push({ end: e.name, to: terminalName('d1', room[i]!.t.id) })
  }
  return { made, place }
}

/** The box of a point wired as it is usually done: roles to their terminals, what does not fit there in a connector with a tail. */
export function usualBench(
  job: Installation,
  circuit: string,
  all: readonly CableAt[],
  kind: DeviceKind | null,
  fitted: Accessory | undefined,
  { guardsOn, leg }: Pick<PointRecord, 'guardsOn' | 'leg'>,
): BenchRecord {
  const { made, place } = joiner(job.region, followed(job.brief.schools, 'joints') === 'twist')
  const cables = all.filter((k) => k.circuit === circuit)
  const terminalsFor = (side: Side, roles: readonly ConductorRole[]) =>
    kind?.terminals.filter((t) => t.takes?.cable === side && roles.includes(t.takes.role)) ?? []
  // Of two lines that share a neutral, a point stands on one: its own is what its terminal takes.
  const legRole = (role: ConductorRole): ConductorRole =>
    leg !== 'B' ? role : role === 'line' ? 'line-2' : role === 'line-2' ? 'line' : role
  for (const role of ['pe', 'neutral', 'line-2', 'line', 'switched-line'] as const) {
    const cores = (of: readonly CableAt[]) => of.flatMap((k) => k.ends.filter((e) => legRole(e.conductor.role) === role))
    const roles = role === 'line' ? (['line', 'switched-line'] as const) : [role]
    const [feed, onward] = [terminalsFor('feed', roles), terminalsFor('load', roles)]
    // A load side is used for what the device feeds; along a circuit only where it is said to guard what hangs beyond.
    const passes = fitted?.onward === 'optional-cable' && !guardsOn
    if (onward.length > 0 && !passes && role !== 'pe') {
      place(cores(cables.filter((k) => k.side === 'feed')), feed)
      place(cores(cables.filter((k) => k.side !== 'feed')), onward)
    } else
      place(
        cores(cables),
        role === 'pe' ? [...feed, ...onward] : feed,
        fitted?.joints.find((j) => j.role === role),
      )
  }
  // What only passes through keeps to itself: nothing of another circuit is joined to this one, neither line, nor neutral.
  const others = all.filter((k) => k.circuit !== circuit)
  for (const [, passing] of grouped(others, (k) => k.circuit)) {
    const ends = passing.flatMap((k) => k.ends)
    for (const [, together] of grouped(ends, (e) => e.core)) place(together, [])
  }
  return { devices: kind ? [{ id: 'd1', kind: kind.id, broken: [] }] : [], ...made, marked: marksOf(all) }
}

/** Cores whose colour says something else than they carry are marked at both ends. */
const marksOf = (cables: readonly CableAt[]): string[] => cables.flatMap((k) => k.ends.filter((e) => e.conductor.remark).map((e) => e.name))

/** The box of a point of a circuit as it is wired: as it was drawn, or the usual way. */
export function boxOf(job: Installation, of: ReadonlyMap<string, Worked>, report: Worked, point: PointRecord): Box {
  const { kind, fitted } = standsAt(job, report, point)
  const into = cablesInto(job, of, report.circuit, point.id)
  const goesOn = into.some((k) => k.side === 'onward')
  const own = goesOn ? null : loadOf(job, report, point.id, fitted)
  const cables = own ? [...into, own] : into
  const bench = point.bench ?? usualBench(job, report.circuit.id, cables, kind, fitted, point)
  const known = new Set(cables.flatMap((k) => k.ends.map((e) => e.name)))
  for (const t of bench.tails) for (const side of ['a', 'b'] as const) known.add(tailEndName(t.id, side))
  const lone = report.circuit.points.length === 0
  return {
    point: point.id,
    name: point.name || report.circuit.load.name || report.circuit.name,
    circuit: report.circuit.id,
    cables,
    // What belonged to a cable that no longer comes here is not in the box any more.
    bench: { ...bench, ends: bench.ends.filter((e) => known.has(e.end)), marked: bench.marked.filter((m) => known.has(m)) },
    devices: bench.devices.flatMap((d) => {
      const of = device(d.kind)
      return of ? [{ ...d, kind: of }] : []
    }),
    usual: point.bench === undefined,
    watts: point.watts ?? (lone ? loadWatts(report, worlds[job.region].lineV) : null),
  }
}

function loadWatts({ chosen, circuit }: Worked, lineV: number): number | null {
  const amps = chosen.result?.loadA
  return amps === undefined ? null : amps * (circuit.load.volts || lineV)
}

/** The points of a circuit that have a box. */
export const boxPoints = ({ circuit }: Worked): readonly PointRecord[] =>
  circuit.kind === 'feeder' ? [] : circuit.points.length ? circuit.points : circuit.end ? [circuit.end] : []
