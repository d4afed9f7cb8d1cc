import { behind } from '../job/cable'
import { type Accessory, accessory, guardingKind, hasGuardedLoad } from '../catalogue/accessories'
import type { Circuit, CircuitPoint, Design, Installation } from '../installation/installation'
import { boardProtection, protectedAtBoard } from '../installation/protection'
import { worlds } from '../region/worlds'
import { fittedAt } from './endings'

/* Which residual devices are on a circuit, and what each of them guards. */

/**
 * Points that a device in the first outlet guards: itself and those fed through it. A ring is fed from both ends, so
 * that there only what is on the first outlet as a spur is behind it.
 */
export const behindFirst = (circuit: Wired): ReadonlySet<string> =>
  circuit.points[0] ? reachedThrough(circuit, circuit.points[0].id) : noPoints

type Wired = Pick<Circuit, 'kind' | 'points'>
/**
 * Whether a device in one outlet can guard those after it: not along a ring, nor where its neutral carries another line's current and
 * would trip it.
 */
export const guardsDownstream = ({ kind }: Pick<Circuit, 'kind'>): boolean => kind !== 'ring' && kind !== 'shared-neutral'

/** A point and all that is fed through it alone. */
export const reachedThrough = ({ kind, points }: Wired, id: string): ReadonlySet<string> =>
  kind === 'shared-neutral' ? new Set([id]) : behind(points, id)

/** Points that hang on the load side of a residual device in an outlet ahead of them. */
export function behindOutlets(circuit: Wired, design: Design): ReadonlySet<string> {
  const guarding = circuit.points.filter((p) => {
    const kind = fittedAt(design, p)
    return kind && hasGuardedLoad(kind) && (isGuardingUnit(kind, p) || (p.guardsOn && p.outlets > 0))
  })
  if (guarding.length === 0) return noPoints
  return new Set(guarding.flatMap((p) => [...reachedThrough(circuit, p.id)].filter((id) => id !== p.id)))
}
const noPoints: ReadonlySet<string> = new Set()

/** An accessory to fit at a point, or as the one that the circuit ends on (null), so that residual protection is where it is asked for. */
export interface GuardFit {
  readonly point: string | null
  readonly accessory: string
}
/**
 * What is to be fitted so that residual protection sits in the first outlet, or in each; none where it sits elsewhere. Null where that
 * cannot be: no accessory of that rating has a residual device, or what is there stays.
 */
export function guardFits(circuit: Circuit, design: Design, at: Design['residual']['at']): readonly GuardFit[] | null {
  if (at === 'none' || at === 'board') return []
  const { points } = circuit
  // Outlets that are not named have one kind between them: none of them is the first.
  if (at === 'first' && points.length === 0 && design.accessories > 1 && !accessory(design.accessory)?.residual) return null
  const first = points[0]
  const where = points.length === 0 ? [null] : at === 'first' ? (first ? [first] : []) : points.filter((p) => p.outlets > 0)
  const fits: GuardFit[] = []
  for (const p of where) {
    const kind = fittedAt(design, p)
    if (kind === undefined) return null
    if (at === 'first' ? hasGuardedLoad(kind) : kind.residual) continue
    const guarding = guardingKind(kind, at === 'first')
    if (guarding === undefined || p?.state === 'existing') return null
    fits.push({ point: p?.id ?? null, accessory: guarding.id })
  }
  return fits
}
/** A circuit and its design as they are with these fitted. */
export function withFits(circuit: Circuit, design: Design, fits: readonly GuardFit[]): { circuit: Circuit; design: Design } {
  if (fits.length === 0) return { circuit, design }
  const at = new Map(fits.map((f) => [f.point, f.accessory]))
  return {
    circuit: { ...circuit, points: circuit.points.map((p) => (at.has(p.id) ? { ...p, accessory: at.get(p.id)! } : p)) },
    design: at.has(null) ? { ...design, accessory: at.get(null)! } : design,
  }
}
/** A fused unit with a residual device whose fuse feeds what is beyond it: that is behind the device too. */
const isGuardingUnit = ({ kind, residual }: Accessory, { fuseA }: CircuitPoint): boolean =>
  kind === 'connection-unit' && residual && fuseA !== null

/** A residual device that a circuit is behind, or that is in one of its outlets. */
export interface GuardingDevice {
  /** The outlet it is in; null: the board, or the one end of a circuit without named points. */
  readonly point: CircuitPoint | null
  readonly atBoard: boolean
  /** What it trips at, in milliamperes; null: not read. */
  readonly tripMa: number | null
  /** The points that lose power with it; none named where the circuit has no named ones. */
  readonly guards: readonly CircuitPoint[]
}

/** The residual devices of a circuit, from the board outward, each with what it guards. */
export function guardingDevices(job: Installation, circuit: Circuit, design: Design): readonly GuardingDevice[] {
  const { points } = circuit
  const { personMa } = worlds[job.region]
  const shared = boardProtection(job, circuit)
  const { at, ma } = design.residual
  const board: GuardingDevice[] =
    at === 'board' || protectedAtBoard(job, circuit, design) === true
      ? [{ point: null, atBoard: true, tripMa: shared.kind === 'device' ? shared.device.tripMa : ma, guards: points }]
      : []
  const inOutlets = points.flatMap((p): GuardingDevice[] => {
    const kind = fittedAt(design, p)
    const first = at === 'first' && p === points[0]
    if (!kind?.residual && !first) return []
    // What the design counts on, whether or not what is there can do it: that is for the wiring to show.
    const guards = first || p.guardsOn || (kind !== undefined && isGuardingUnit(kind, p))
    const beyond = guards ? reachedThrough(circuit, p.id) : new Set([p.id])
    return [{ point: p, atBoard: false, tripMa: personMa, guards: points.filter((x) => beyond.has(x.id)) }]
  })
  const atEnd = points.length === 0 && (accessory(design.accessory)?.residual || at === 'first')
  const alone: GuardingDevice[] = atEnd ? [{ point: null, atBoard: false, tripMa: personMa, guards: [] }] : []
  const all = [...board, ...inOutlets, ...alone]
  // Counted on at an outlet, and not said in which: it is asked for as one.
  return all.length === 0 && at !== 'none' ? [{ point: null, atBoard: false, tripMa: ma, guards: points }] : all
}
