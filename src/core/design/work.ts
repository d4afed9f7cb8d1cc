import type { Finding } from '../base/finding'
import { formatA } from '../base/format'
import { InputError } from '../base/input-error'
import type { Circuit, Design, Installation } from '../installation/installation'
import { atLeast, atMost } from '../base/tolerance'
import { unitedKingdomTables } from '../region/united-kingdom/tables'
import { type Ampacity, ampacity } from '../calculate/ampacity'
import { selectInputs } from './circuit-input'
import { type LoopLimit, loopLimit } from './loop-limit'
import type { Conditions } from './conditions'
import { type Fed, totalDropLimit } from './fed'
import { type LayoutReport, workLayout } from './layout'
import { type DesignLoad, motorRowOf, shaftHp } from './load'
import { motorCircuit } from '../calculate/motor-circuit'
import { dropOver3Percent, type Link, selectCircuit, type SelectCircuitInput, type SelectedCircuit } from '../calculate/select-circuit'
import { worlds } from '../region/worlds'

/** One stretch of a cable, or what lies in one manner, as its size is in it. */
export interface SegmentReport {
  readonly conditions: Conditions
  readonly ampacityA: number
  /** The size this stretch alone would ask for; null: none serves, or the size is not the circuit's. */
  readonly size: string | null
}

export interface WorkedDesign {
  readonly load: DesignLoad | null
  readonly input: SelectCircuitInput | null
  readonly result: SelectedCircuit | null
  readonly layout: LayoutReport | null
  /** Each stretch of each cable; of those that follow the circuit's size the governing one decides it. */
  readonly stretches: readonly SegmentReport[]
  readonly governing: number
  /** Size that would do if the governing stretch were as the next worst; null where it would win nothing. */
  readonly without: string | null
  /** The limits of its earth fault loop, and which governs; null while Ze is not known, or where the world has none. */
  readonly loopLimit: LoopLimit | null
  /** The size that its own run asks for, where what the feeder loses asks for a larger one. */
  readonly enlargedFrom: string | null
  readonly invalid: { readonly path: string; readonly message: string } | null
  readonly findings: readonly Finding[]
}

const nothing: WorkedDesign = {
  load: null,
  input: null,
  result: null,
  layout: null,
  stretches: [],
  governing: 0,
  loopLimit: null,
  without: null,
  enlargedFrom: null,
  invalid: null,
  findings: [],
}

/** The one motor a circuit feeds for good, rated by its output, where the world has a table for it; null: the circuit is none such. */
function motorOf({ region }: Installation, { load, points, kind }: Circuit): { hp: number; volts: number } | null {
  const fits = points.length === 0 && kind !== 'feeder' && load.connection === 'fixed'
  return fits && motorRowOf(load, region) ? { hp: shaftHp(load)!, volts: load.volts! } : null
}

/** Breaker and cable for an input; the breaker of one motor may be larger than its conductors allow others. NFPA 70 430.52, 240.4(G). */
function select(input: SelectCircuitInput, motor: { hp: number; volts: number } | null): SelectedCircuit {
  if (motor === null || !('terminalC' in input) || input.outlet !== undefined || input.cord !== undefined) return selectCircuit(input)
  const { cable, conductor, run, terminalC, minSize, wantedBreakerA } = input
  const own = motorCircuit({
    motor: { ...motor, hardStart: false },
    cable,
    conductor,
    run,
    terminalC,
    ...(minSize === undefined ? {} : { minSize }),
    ...(wantedBreakerA === undefined ? {} : { wantedBreakerA }),
  })
  const { size, ampacityA, breakerA, dropPercent, protectiveSize } = own
  const links: Link[] =
    size === null
      ? []
      : [
          { link: 'breaker', ratingA: breakerA! },
          { link: 'cable', ratingA: ampacityA! },
        ]
  const findings: Finding[] = [...own.findings]
  if (size !== null && breakerA! > ampacityA!)
    findings.push({
      rule: 'motor-breaker-above-cable',
      severity: 'note',
      clause: '430.52(C)(1); 240.4(G)',
      message:
        `The ${breakerA} A breaker guards against short circuit and ground fault only, and the motor’s own overload protection keeps ` +
        `the cable (${formatA(ampacityA!)}) within its limit. Feed nothing else from this circuit.`,
    })
  return {
    loadA: own.fullLoadA,
    requiredA: own.conductorA,
    breakerA,
    size,
    tabulatedA: size === null ? null : tabledA(input, size),
    ampacityA,
    dropPercent,
    protectiveSize,
    links,
    weakestLink: links.toReversed().reduce<Link | null>((w, l) => (w === null || !atLeast(l.ratingA, w.ratingA) ? l : w), null),
    findings: [...findings, ...(dropPercent === null ? [] : dropOver3Percent(dropPercent))],
  }
}

/** The ampacity of an input's cable in a size, with the factors behind it. */
function ampacityIn(input: SelectCircuitInput, size: string): Ampacity {
  if ('terminalC' in input)
    return ampacity({
      region: input.region,
      cable: input.cable,
      size,
      conductor: input.conductor,
      ambientC: input.run.ambientC,
      loadedConductors: input.run.loadedConductors,
      terminalC: input.terminalC,
    })
  const run = withoutLength(input.run)
  return ampacity({ region: input.region, cable: input.cable, size, conductor: 'copper', ...run } as Parameters<typeof ampacity>[0])
}
/** What an input's cable may carry in a size, in amperes. */
export const carriesIn = (input: SelectCircuitInput, size: string): number => ampacityIn(input, size).ampacityA
const tabledA = (input: SelectCircuitInput, size: string): number => ampacityIn(input, size).tabulatedA

const listedSizes = ({ region, cable, conductor }: SelectCircuitInput): string[] => worlds[region].sizes(cable, conductor)

/** The protective conductor that goes with a line size. */
const protectiveOf = ({ region, cable }: SelectCircuitInput, size: string, breakerA: number): string =>
  worlds[region].protectiveSize(cable, size, breakerA)

/** Works a design out: its load, every stretch of its cables, the governing one, and every point along it. */
export function workDesign(job: Installation, circuit: Circuit, design: Design): WorkedDesign {
  let load: DesignLoad | null = null
  try {
    const laid = selectInputs(job, circuit, design)
    if (laid === null) return nothing
    load = laid[0]!.load
    const ring = isRing(job, circuit)
    const motor = motorOf(job, circuit)
    const picked = laid.flatMap((p) => {
      if (!p.conditions.governs) return []
      const result = select(p.input, motor)
      return [{ result, size: ring ? ringSize(p.input) : result.size, ...p }]
    })
    const decides = picked[governingOf(picked)]!
    const { input, result } = decides
    const governing = laid.findIndex((p) => p.input === input)
    const unserved = picked.find((p) => p.result.size === null)
    if (unserved && !ring)
      return { ...nothing, load, input: unserved.input, result: unserved.result, governing, findings: unserved.result.findings }
    const several = circuit.points.length > 0
    const done = several ? layOut(job, circuit, design, decides, laid) : alone(job, design, result)
    const size = done.result.size
    const sizes = sizesOf(circuit)
    const stretches = laid.map((p): SegmentReport => ({
      conditions: p.conditions,
      ampacityA: size ? carriesIn(p.input, sizes.get(p.conditions.cable) ?? size) : 0,
      size: picked.find((x) => x.input === p.input)?.size ?? null,
    }))
    const others = picked.filter((p) => p !== decides).map((p) => p.size)
    const order = listedSizes(input)
    const next = others.length && !others.includes(null) ? others.toSorted((a, b) => order.indexOf(b!) - order.indexOf(a!))[0]! : null
    return {
      load,
      input,
      result: done.result,
      layout: done.layout,
      loopLimit: done.loopLimit,
      stretches,
      governing,
      without: next !== null && decides.size !== null && order.indexOf(next) < order.indexOf(decides.size) ? next : null,
      enlargedFrom: null,
      invalid: null,
      findings: [...done.result.findings, ...(done.layout?.findings ?? [])],
    }
  } catch (e) {
    if (!(e instanceof InputError)) throw e
    return { ...nothing, load, input: null, invalid: { path: e.path, message: e.message } }
  }
}

/**
 * The same on a feeder: where the world sets a limit to what is lost from the supply, the smallest size with which feeder
 * and circuit together keep to it; as its own run asks where no size would.
 */
export function workOnFeeder(job: Installation, circuit: Circuit, design: Design, fed: Fed | null): WorkedDesign {
  const own = workDesign(job, circuit, design)
  const size = own.result?.size
  if (worlds[job.region].drop.severity === 'warning' || fed?.dropPercent == null || !own.input || !size) return own
  const keeps = ({ result }: WorkedDesign) =>
    result?.dropPercent != null && atMost(result.dropPercent + fed.dropPercent!, totalDropLimit(job, circuit))
  if (keeps(own)) return own
  const order = listedSizes(own.input)
  for (const larger of order.slice(order.indexOf(size) + 1)) {
    const worked = workDesign(job, circuit, { ...design, minSize: larger })
    if (keeps(worked)) return { ...worked, enlargedFrom: size }
  }
  return own
}

/** Rings are made in one world; elsewhere such a circuit is worked out as what it is, a cable. */
const isRing = (job: Installation, circuit: Circuit): boolean => circuit.kind === 'ring' && worlds[job.region].rings

/** The stretch that asks for the largest cable, or the least that a size may carry. */
function governingOf(picked: readonly { input: SelectCircuitInput; size: string | null }[]): number {
  if (picked.length === 1) return 0
  const order = listedSizes(picked[0]!.input)
  const weight = (p: (typeof picked)[number]) => (p.size === null ? Number.POSITIVE_INFINITY : order.indexOf(p.size))
  const carried = ({ input, size }: (typeof picked)[number]) => (size === null ? 0 : carriesIn(input, size))
  return picked.reduce((best, p, i) => {
    const [a, b] = [weight(p), weight(picked[best]!)]
    return a > b || (a === b && carried(p) < carried(picked[best]!)) ? i : best
  }, 0)
}

/** The smallest size that a leg of a ring may be as it lies; null where none carries enough. BS 7671 433.1.204. */
function ringSize(input: SelectCircuitInput): string | null {
  const { minSize, minCapacityA } = unitedKingdomTables.ring
  const order = listedSizes(input)
  return order.slice(order.indexOf(minSize)).find((size) => atLeast(carriesIn(input, size), minCapacityA)) ?? null
}

type Worked = Pick<WorkedDesign, 'layout' | 'loopLimit'> & { readonly result: SelectedCircuit }

/** A circuit of one run: its loop is held against the limit that governs. */
function alone(job: Installation, design: Design, result: SelectedCircuit): Worked {
  const limit = result.breakerA === null || result.zsOhm == null ? null : loopLimit(job, design, result.breakerA, result.zsOhm)
  if (limit === null) return { result, layout: null, loopLimit: null }
  // On an earth rod the residual device is how a circuit is protected: nothing to warn of.
  const expected = job.supply.earthing === 'tt' && limit.governs === 'residual'
  const findings = result.findings.filter((f) => !(expected && f.rule === 'zs-too-high' && f.severity === 'warning'))
  return { result: { ...result, maxZsOhm: limit.ohm, findings }, layout: null, loopLimit: limit }
}

interface Laid {
  readonly input: SelectCircuitInput
  readonly conditions: Conditions
}

/** Sizes of the cables that have one of their own. */
const sizesOf = ({ cables }: Circuit): ReadonlyMap<string | null, string> =>
  new Map(cables.flatMap((k) => (k.size === null ? [] : [[k.id, k.size] as const])))

/** What a size may carry as the cable to a point lies, stretch by stretch; null: where the circuit's size is decided. */
function carriesAt(circuit: Circuit, decides: Laid, laid: readonly Laid[]): (size: string, point: string | null) => number {
  const plain = laid.find((p) => p.conditions.cable === null) ?? decides
  const ways = new Map<string | null, readonly Laid[]>([[null, [decides]]])
  for (const k of circuit.cables) {
    const own = laid.filter((p) => p.conditions.cable === k.id)
    if (k.to.kind === 'point') ways.set(k.to.id, own.length > 0 ? own : [plain])
  }
  return (size, point) => Math.min(...(ways.get(point) ?? [plain]).map((p) => carriesIn(p.input, size)))
}

/** The smallest size with which every point is within its limits; the result of what decides says breaker and least size. */
function layOut(
  job: Installation,
  circuit: Circuit,
  design: Design,
  decides: Laid & { readonly result: SelectedCircuit },
  laid: readonly Laid[],
): Worked {
  const { input, result: base } = decides
  const ring = isRing(job, circuit)
  const breakerA = ring ? ringBreaker(base.requiredA, design.wantedBreakerA) : base.breakerA
  if (breakerA === null) return { result: base, layout: null, loopLimit: null }
  const order = listedSizes(input)
  const least = Math.max(
    ring ? order.indexOf(unitedKingdomTables.ring.minSize) : order.indexOf(base.size!),
    design.minSize ? order.indexOf(design.minSize) : 0,
  )
  const carries = carriesAt(circuit, decides, laid)
  const protective = (size: string) => protectiveOf(input, size, breakerA)
  let layout: LayoutReport | null = null
  let size = order[least]!
  for (const tried of order.slice(least)) {
    size = tried
    layout = workLayout({ job, circuit, design, size, breakerA, carries, protective })
    // A larger cable mends drop, loop and load; what it cannot mend is said at the first size that mends those.
    if (!layout.findings.some((f) => f.severity === 'error' && mendedBySize.has(f.rule))) break
  }
  if (layout!.findings.some((f) => f.severity === 'error' && mendedBySize.has(f.rule))) {
    size = order[least]!
    layout = workLayout({ job, circuit, design, size, breakerA, carries, protective })
  }
  const ampacityA = carries(size, null)
  const cableA = ring && atLeast(ampacityA, unitedKingdomTables.ring.minCapacityA) ? Math.max(breakerA, ampacityA) : ampacityA
  const links: Link[] = [
    { link: 'breaker', ratingA: breakerA },
    { link: 'cable', ratingA: cableA },
    ...(input.outlet ? [{ link: 'outlet' as const, ratingA: input.outlet.ratingA }] : []),
    ...(input.cord ? [{ link: 'cord' as const, ratingA: input.cord.ratingA }] : []),
  ]
  const weakestLink = links.toReversed().reduce((w, l) => (atLeast(l.ratingA, w.ratingA) ? w : l))
  const tabulatedA = 'terminalC' in input ? base.tabulatedA : tabledA(input, size)
  return {
    layout,
    loopLimit: layout!.loopLimit,
    result: {
      ...base,
      breakerA,
      size,
      tabulatedA,
      ampacityA,
      dropPercent: layout!.measured ? (layout!.worstDrop?.dropPercent ?? 0) : null,
      protectiveSize: size === base.size ? base.protectiveSize : protective(size),
      links,
      weakestLink,
      ...(layout!.loopLimit === null
        ? {}
        : { zsOhm: layout!.measured ? (layout!.worstLoop?.zsOhm ?? null) : null, maxZsOhm: layout!.loopLimit.ohm }),
      // What was found of one run of no length says nothing here.
      findings: base.findings.filter(
        (f) => !['zs-too-high', 'voltage-drop-over-3-percent', 'no-size-serves', 'no-breaker-serves'].includes(f.rule),
      ),
    },
  }
}

const withoutLength = <R extends { lengthM: number }>({ lengthM: _, ...run }: R): Omit<R, 'lengthM'> => run

const mendedBySize = new Set(['point-voltage-drop', 'point-loop-too-high', 'branch-overloaded', 'ring-capacity', 'ring-leg-overloaded'])

/** Rings are behind 30 or 32 A whatever is plugged into them; another device is taken as wanted, and found wrong. */
function ringBreaker(requiredA: number, wantedA: number | null): number | null {
  const ratings = worlds['united-kingdom'].breakerRatingsA
  if (wantedA !== null && !(unitedKingdomTables.ring.deviceA as readonly number[]).includes(wantedA))
    return ratings.find((r) => atLeast(r, wantedA)) ?? null
  return atLeast(32, requiredA) ? 32 : (ratings.find((r) => atLeast(r, requiredA)) ?? null)
}
