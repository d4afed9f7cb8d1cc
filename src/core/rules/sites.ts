import { accessory } from '../catalogue/accessories'
import { applianceManner } from '../catalogue/appliances'
import type { Circuit, CircuitPoint, Design, Job, Load, Site as Stands } from '../job/schema'

/** What guards a point: a device at the board, one in the first outlet ahead of it, or one of its own. */
export type Guard = 'board' | 'first' | 'own'

/** One point as the rules on its types see it: what it does not say itself, its circuit says. */
export interface Site extends Stands {
  /** Null: the one point at the end of a circuit without named points. */
  readonly point: CircuitPoint | null
  readonly name: string
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
export function behindFirst({ points }: Pick<Circuit, 'points'>): ReadonlySet<string> {
  const first = points[0]
  if (!first) return new Set()
  const behind = new Set([first.id])
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

/** The points of a circuit with all that decides their types; one where none is named. */
export function sitesOf(job: Job, circuit: Circuit, design: Design): Site[] {
  const kind = accessory(design.accessory)
  const behind = behindFirst(circuit)
  const guards = (at: Design['residual']['at'], point: CircuitPoint | null, outlet: boolean, own: boolean): Guard | null => {
    if (outlet && own) return 'own'
    if (at === 'board') return 'board'
    if (at === 'outlet') return outlet ? 'own' : null
    return at === 'first' && (point === null || behind.has(point.id)) ? 'first' : null
  }
  const site = (point: CircuitPoint | null): Site => {
    const plugged = circuit.load.connection === 'plug' && !circuit.load.lighting
    const outlet = circuit.kind !== 'feeder' && (kind ? kind.outlets > 0 : plugged) && (point === null || point.outlets > 0)
    const appliance = point ? point.appliance : circuit.load.kind
    return {
      point,
      name: point?.name ?? circuit.name,
      place: point?.place ?? circuit.place,
      environment: point?.environment ?? circuit.environment ?? job.brief.environment,
      nearWater: point?.nearWater ?? circuit.nearWater,
      outOfReach: point?.outOfReach ?? circuit.outOfReach,
      outlet,
      ratingA: outlet ? (kind?.ratingA ?? 0) : 0,
      appliance,
      nature: applianceManner(point?.appliance ?? null)?.nature ?? circuit.load.nature,
      fitted: point?.fitted ?? design.fitted,
      residual: guards(design.residual.at, point, outlet, kind?.residual ?? false),
      // An outlet with a device of its own is made for the protection of persons.
      residualMa: outlet && kind?.residual ? Math.min(30, design.residual.ma) : design.residual.ma,
      // An arc-fault device "at the outlet" is one in the first outlet of the circuit.
      arcFault: guards(design.arcFault === 'outlet' ? 'first' : design.arcFault, point, outlet, false),
    }
  }
  return circuit.points.length ? circuit.points.map(site) : [site(null)]
}
