import { type Accessory, hasGuardedLoad } from '../catalogue/accessories'
import { applianceManner } from '../catalogue/appliances'
import { fittedAt } from '../design/endings'
import { behindFirst, behindOutlets } from '../design/guards'
import type { Circuit, CircuitPoint, Design, Installation, Site as Stands } from '../installation/installation'
import { boardProtection, protectedAtBoard } from '../installation/protection'
import type { Load } from '../job/load'

/** Where the device is that protects a point: at the board, in the first outlet, in another outlet upstream of it, or its own. */
export type Placement = 'board' | 'first' | 'ahead' | 'own'

/** One point as the rules on its types see it: what it does not say itself, its circuit says. */
export interface Site extends Stands {
  /** Null: the one point at the end of a circuit without named points. */
  readonly point: CircuitPoint | null
  readonly name: string
  /** What is there; not said where it is not chosen. */
  readonly kind: Accessory | undefined
  /** Whether anything can be plugged in there. */
  readonly outlet: boolean
  /** Of the outlet, in amperes; 0 while it is not chosen. */
  readonly ratingA: number
  readonly appliance: string | null
  readonly nature: Load['nature']
  readonly fitted: Design['fitted']
  readonly residual: Placement | null
  /** A residual device is counted on, and whether it is there is not known. */
  readonly presumed: boolean
  /** What the device that protects it trips at, in milliamperes; null: not read. */
  readonly residualMa: number | null
  readonly arcFault: Placement | null
}

/** The points of a circuit with all that decides their types; one where none is named. */
export function sitesOf(job: Installation, circuit: Circuit, design: Design): Site[] {
  const first = behindFirst(circuit)
  const ahead = behindOutlets(circuit, design)
  const arcAt = (point: CircuitPoint | null): Placement | null =>
    design.arcFault === 'board' ? 'board' : design.arcFault === 'outlet' && (point === null || first.has(point.id)) ? 'first' : null
  const board = protectedAtBoard(job, circuit, design)
  const { at } = design.residual
  const shared = boardProtection(job, circuit)
  const boardMa = shared.kind === 'device' ? shared.device.tripMa : design.residual.ma
  // A device "in the first outlet" guards those downstream where the device there has load terminals; otherwise it is only claimed.
  const begins = fittedAt(design, circuit.points[0] ?? null)
  const inFirst =
    at === 'first' &&
    begins !== undefined &&
    (circuit.points.length < 2 ? begins.residual : hasGuardedLoad(begins)) &&
    (begins.kind === 'connection-unit' || (circuit.points[0]?.outlets ?? 1) > 0)
  const notChosen = at === 'first' ? begins === undefined : false
  const site = (point: CircuitPoint | null): Site => {
    const kind = fittedAt(design, point)
    const plugged = circuit.load.connection === 'plug' && !circuit.load.lighting
    const outlet = circuit.kind !== 'feeder' && (kind ? kind.outlets > 0 : plugged) && (point === null || point.outlets > 0)
    const appliance = point ? point.appliance : circuit.load.kind
    const own = outlet && kind?.residual === true
    const behindIt = inFirst && (point === null || first.has(point.id))
    const residual: Placement | null = own ? 'own' : board ? 'board' : behindIt ? 'first' : point && ahead.has(point.id) ? 'ahead' : null
    const mayHave = at === 'outlet' && outlet && kind === undefined
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
      presumed: residual === null && (board === null || notChosen || mayHave),
      residualMa: residual === 'board' ? boardMa : Math.min(30, design.residual.ma),
      // An arc-fault device "at the outlet" is one in the first outlet of the circuit.
      arcFault: arcAt(point),
    }
  }
  return circuit.points.length ? circuit.points.map(site) : [site(null)]
}
