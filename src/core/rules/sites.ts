import type { Accessory } from '../catalogue/accessories'
import { applianceManner } from '../catalogue/appliances'
import { fittedAt } from '../design/endings'
import type { Circuit, CircuitPoint, Design, Installation, Site as Stands } from '../installation/installation'
import type { Load } from '../job/load'

/** What guards a point: a device at the board, one in the first outlet, one in another outlet ahead of it, or one of its own. */
export type Guard = 'board' | 'first' | 'ahead' | 'own'

/** One point as the rules on its types see it: what it does not say itself, its circuit says. */
export interface Site extends Stands {
  /** Null: the one point at the end of a circuit without named points. */
  readonly point: CircuitPoint | null
  readonly name: string
  /** What stands there; not said where it is not chosen. */
  readonly kind: Accessory | undefined
  /** Whether anything can be plugged in there. */
  readonly outlet: boolean
  /** Of the outlet, in amperes; 0 while it is not chosen. */
  readonly ratingA: number
  readonly appliance: string | null
  readonly nature: Load['nature']
  readonly fitted: Design['fitted']
  readonly residual: Guard | null
  /** What the device that guards it trips at, in milliamperes. */
  readonly residualMa: number
  readonly arcFault: Guard | null
}

/**
 * Points that a device in the first outlet guards: itself and those fed through it. A ring is fed from both ends, so
 * that there only what hangs on the first outlet as a spur is behind it.
 */
export const behindFirst = (circuit: Wired): ReadonlySet<string> => (circuit.points[0] ? reachedThrough(circuit, circuit.points[0].id) : noPoints)

type Wired = Pick<Circuit, 'kind' | 'points'>
/** Whether a device in one outlet can guard those after it: not along a ring, nor where its neutral carries another line's current and would trip it. */
export const guardsDownstream = ({ kind }: Pick<Circuit, 'kind'>): boolean => kind !== 'ring' && kind !== 'shared-neutral'

/** A point and all that is fed through it alone. */
function reachedThrough({ kind, points }: Wired, id: string): Set<string> {
  const behind = new Set([id])
  if (kind === 'shared-neutral') return behind
  for (let grown = true; grown; ) {
    grown = false
    for (const p of points)
      if (p.from !== null && behind.has(p.from) && !behind.has(p.id)) {
        behind.add(p.id)
        grown = true
      }
  }
  return behind
}

/** Points that hang on the load side of a residual device in an outlet ahead of them. */
function behindOutlets(circuit: Wired, design: Design): ReadonlySet<string> {
  const guarding = circuit.points.filter((p) => {
    const kind = p.guardsOn && p.outlets > 0 ? fittedAt(design, p) : undefined
    return kind?.residual && kind.onward !== 'none'
  })
  if (guarding.length === 0) return noPoints
  return new Set(guarding.flatMap((p) => [...reachedThrough(circuit, p.id)].filter((id) => id !== p.id)))
}
const noPoints: ReadonlySet<string> = new Set()

/** The points of a circuit with all that decides their types; one where none is named. */
export function sitesOf(job: Installation, circuit: Circuit, design: Design): Site[] {
  const first = behindFirst(circuit)
  const ahead = behindOutlets(circuit, design)
  const guards = (at: Design['residual']['at'], point: CircuitPoint | null, outlet: boolean): Guard | null => {
    if (at === 'board') return 'board'
    if (at === 'outlet') return outlet ? 'own' : null
    return at === 'first' && (point === null || first.has(point.id)) ? 'first' : null
  }
  const site = (point: CircuitPoint | null): Site => {
    const kind = fittedAt(design, point)
    const plugged = circuit.load.connection === 'plug' && !circuit.load.lighting
    const outlet = circuit.kind !== 'feeder' && (kind ? kind.outlets > 0 : plugged) && (point === null || point.outlets > 0)
    const appliance = point ? point.appliance : circuit.load.kind
    const own = outlet && kind?.residual === true
    const residual = own ? 'own' : (guards(design.residual.at, point, outlet) ?? (point && ahead.has(point.id) ? 'ahead' : null))
    return {
      point,
      name: point?.name ?? circuit.name,
      kind,
      place: point?.place ?? circuit.place,
      environment: point?.environment ?? circuit.environment ?? job.brief.environment,
      nearWater: point?.nearWater ?? circuit.nearWater,
      outOfReach: point?.outOfReach ?? circuit.outOfReach,
      outlet,
      ratingA: outlet ? (kind?.ratingA ?? 0) : 0,
      appliance,
      nature: applianceManner(point?.appliance ?? null)?.nature ?? circuit.load.nature,
      fitted: point?.fitted ?? design.fitted,
      residual,
      // An outlet with a device of its own is made for the protection of persons.
      residualMa: own || residual === 'ahead' ? Math.min(30, design.residual.ma) : design.residual.ma,
      // An arc-fault device "at the outlet" is one in the first outlet of the circuit.
      arcFault: guards(design.arcFault === 'outlet' ? 'first' : design.arcFault, point, outlet),
    }
  }
  return circuit.points.length ? circuit.points.map(site) : [site(null)]
}
