import type { Finding } from '../base/finding'
import type { Circuit, CircuitPoint, Design, Installation } from '../installation/installation'
import { formatA, formatOhm, formatPercent, formatSize, trim } from '../base/format'
import { atLeast, atMost } from '../base/tolerance'
import { unitedKingdomTables } from '../region/united-kingdom/tables'
import { fusesOver } from './conditions'
import { fittedAt } from './endings'
import { r1r2At20 } from '../calculate/fault-loop'
import { type LoopLimit, loopLimit } from './loop-limit'
import { areaMm2 } from './prices'
import { worlds } from '../region/worlds'
import { dataOf } from '../region/metric'

const { ring: RING } = unitedKingdomTables

/** One point of a circuit, worked out: what its cable carries, and how it is at its end. */
export interface PointReport {
  readonly point: CircuitPoint
  readonly size: string
  /**
   * From the board along the cable; in a ring the shorter way round. Null while a length between is not known, as is all that
   * follows from it.
   */
  readonly distanceM: number | null
  /** Null in a ring while a length of it is not known, since its load divides by them. */
  readonly throughA: number | null
  /** The same with its sign: negative where, in a ring, it comes from the other way. */
  readonly alongA: number | null
  readonly ampacityA: number
  readonly dropV: number | null
  readonly dropPercent: number | null
  readonly zsOhm: number | null
  /** Line and protective conductor from the board and back, hot, without Ze; null where the loop is not asked for. */
  readonly loopOhm: number | null
  /** Of the cable that reaches it: how long, and the volts lost before it. */
  readonly spanM: number | null
  readonly beforeV: number | null
  /**
   * On two lines with a shared neutral: what the neutral adds to its line, or takes from it where negative; across both, the other
   * line.
   */
  readonly neutralA: number | null
  /** How its loop came about, without Ze. */
  readonly loopWords: string | null
}

/** A point to which every length is known. */
export type MeasuredPoint = PointReport &
  Readonly<Record<'distanceM' | 'throughA' | 'alongA' | 'dropV' | 'dropPercent' | 'spanM' | 'beforeV', number>>
export const isMeasured = (p: PointReport): p is MeasuredPoint => p.distanceM !== null && p.throughA !== null

export interface LayoutReport {
  readonly points: readonly PointReport[]
  /** Of a ring: amperes in the leg that leaves the board first, and in the one that comes back. */
  readonly legsA: { readonly out: number; readonly back: number } | null
  /** Of two lines with a shared neutral: amperes on each, and in the neutral when all is on. */
  readonly linesA: { readonly A: number; readonly B: number; readonly neutral: number } | null
  /** Of the points that are measured. */
  readonly worstDrop: MeasuredPoint | null
  readonly worstLoop: MeasuredPoint | null
  /** Null while Ze is not known, or where the world has no limits. */
  readonly loopLimit: LoopLimit | null
  /** Whether every length is known: only then do the worst of all points stand for the circuit. */
  readonly measured: boolean
  readonly findings: readonly Finding[]
}

export interface LayoutInput {
  readonly job: Installation
  readonly circuit: Circuit
  readonly design: Design
  readonly size: string
  readonly breakerA: number
  /** What a size may carry as the cable to a point lies, or null: where all that follows the circuit's size carries least. */
  readonly carries: (size: string, point: string | null) => number
  readonly protective: (size: string) => string
}

interface Line {
  /** Volts lost a metre for an ampere, there and back. */
  readonly dropPerAm: (size: string) => number
  /** Line and protective conductor, hot, ohms a metre; null where this world does not ask for the loop. */
  readonly loopPerM: ((size: string) => number) | null
}

function lineOf({ job, design, protective }: LayoutInput): Line {
  const { metric, dropPerAm } = worlds[job.region]
  const data = metric && dataOf(metric, design.cable)
  return {
    dropPerAm: (size) => dropPerAm(size, design.conductor, design.cable),
    loopPerM: data && ((size) => r1r2At20(data, size, protective(size), 1) * data.operatingMultiplier),
  }
}

/** What a point draws through a fuse is at most the fuse. */
const ownA = (p: CircuitPoint, volts: number): number => Math.min((p.watts ?? 0) / volts, p.fuseA ?? Number.POSITIVE_INFINITY)
const childrenOf = (points: readonly CircuitPoint[], id: string | null): CircuitPoint[] => points.filter((p) => p.from === id)

/** Current through the cable that reaches a point: its own and all that is fed beyond. */
function through(points: readonly CircuitPoint[], p: CircuitPoint, volts: number): number {
  return Math.min(
    ownA(p, volts) + childrenOf(points, p.id).reduce((sum, c) => sum + through(points, c, volts), 0),
    p.fuseA ?? Number.POSITIVE_INFINITY,
  )
}

/**
 * Volt drop, current and earth fault loop at every point of a circuit.
 * Radials are trees of cables; rings share their current between two legs by the distances; of two lines with a shared
 * neutral the neutral carries the difference. BS 7671 Appendix 4 and 15, 433.1.204; NFPA 70 210.4, 310.15(E).
 */
export function workLayout(input: LayoutInput): LayoutReport {
  const line = lineOf(input)
  const { job, circuit } = input
  const ring = circuit.kind === 'ring' && worlds[job.region].rings
  const reports = ring ? ringPoints(input, line) : circuit.kind === 'shared-neutral' ? sharedPoints(input, line) : treePoints(input, line)
  const measured = reports.points.filter(isMeasured)
  const most = (of: (p: MeasuredPoint) => number | null) =>
    measured.filter((p) => of(p) !== null).toSorted((a, b) => of(b)! - of(a)!)[0] ?? null
  const worst = {
    worstDrop: most((p) => p.dropPercent),
    worstLoop: most((p) => p.zsOhm),
  }
  const limit = job.supply.zeOhm === null ? null : loopLimit(job, input.design, input.breakerA, worst.worstLoop?.zsOhm ?? null)
  return {
    ...reports,
    ...worst,
    loopLimit: limit,
    measured: measured.length === reports.points.length,
    findings: [...layoutFindings(input, reports.points, worst, limit), ...(ring ? ringFindings(input, reports.legsA) : [])],
  }
}

type Reports = Pick<LayoutReport, 'points' | 'legsA' | 'linesA'>

function report(
  input: LayoutInput,
  line: Line,
  point: CircuitPoint,
  at: {
    distanceM: number | null
    throughA: number | null
    alongA?: number | null
    dropV: number | null
    loopOhm: number | null
    size: string
    volts: number
    beforeV: number | null
    neutralA?: number
    loopWords?: string
  },
): PointReport {
  const ze = input.job.supply.zeOhm
  return {
    point,
    size: at.size,
    distanceM: at.distanceM,
    throughA: at.throughA,
    alongA: at.alongA === undefined ? at.throughA : at.alongA,
    ampacityA: input.carries(at.size, point.id),
    dropV: at.dropV,
    dropPercent: at.dropV === null ? null : (100 * at.dropV) / at.volts,
    zsOhm: line.loopPerM && ze !== null && at.loopOhm !== null ? ze + at.loopOhm : null,
    loopOhm: line.loopPerM ? at.loopOhm : null,
    spanM: point.lengthM,
    beforeV: at.beforeV,
    neutralA: at.neutralA ?? null,
    loopWords: at.loopWords ?? null,
  }
}

/** From the board to a place: null while a length on the way is not known. */
interface Upstream {
  readonly distanceM: number | null
  readonly dropV: number | null
  readonly loopOhm: number | null
}
/** What is lost so far and along one cable more; null where one of them is not known. */
const further = (before: number | null, perM: number, lengthM: number | null): number | null =>
  before === null || lengthM === null ? null : before + perM * lengthM

const atBoard: Upstream = { distanceM: 0, dropV: 0, loopOhm: 0 }

function branch(input: LayoutInput, line: Line, from: string, up: Upstream, volts: number): PointReport[] {
  return childrenOf(input.circuit.points, from).flatMap((p) => walk(input, line, p, up, volts))
}

function walk(input: LayoutInput, line: Line, p: CircuitPoint, up: Upstream, volts: number): PointReport[] {
  const size = p.size ?? input.size
  const throughA = through(input.circuit.points, p, volts)
  const { lengthM } = p
  const here: Upstream = {
    distanceM: further(up.distanceM, 1, lengthM),
    dropV: further(up.dropV, line.dropPerAm(size) * throughA, lengthM),
    loopOhm: further(up.loopOhm, line.loopPerM?.(size) ?? 0, lengthM),
  }
  const loopWords =
    line.loopPerM && up.loopOhm !== null && lengthM !== null
      ? `${trim(up.loopOhm, 4)} + ${trim(lengthM, 2)} m × ${trim(1000 * line.loopPerM(size), 2)} mΩ/m`
      : undefined
  return [
    report(input, line, p, { ...here, throughA, size, volts, beforeV: up.dropV, loopWords }),
    ...branch(input, line, p.id, here, volts),
  ]
}

function treePoints(input: LayoutInput, line: Line): Reports {
  const { points, load } = input.circuit
  const volts = load.volts!
  return { points: childrenOf(points, null).flatMap((p) => walk(input, line, p, atBoard, volts)), legsA: null, linesA: null }
}

/** A ring of which a length is missing: how its load divides, and what is lost at any point, is not known. */
function unmeasuredRing(input: LayoutInput, line: Line): Reports {
  const { points, load } = input.circuit
  const volts = load.volts!
  const unknown: Upstream = { distanceM: null, dropV: null, loopOhm: null }
  return {
    points: childrenOf(points, null).flatMap((p) => [
      report(input, line, p, { ...unknown, throughA: null, size: p.size ?? input.size, volts, beforeV: null }),
      ...branch(input, line, p.id, unknown, volts),
    ]),
    legsA: null,
    linesA: null,
  }
}

/** A ring: each load divides between the two ways to the board inversely to their resistances; of one size, to their lengths. */
function ringPoints(input: LayoutInput, line: Line): Reports {
  const { points, load, closeM } = input.circuit
  const volts = load.volts!
  const lengths = childrenOf(points, null).map((p) => p.lengthM)
  if (closeM === null || lengths.includes(null)) return unmeasuredRing(input, line)
  const perM = (size: string) => line.loopPerM?.(size) ?? 0
  /** From the board to a place of the ring the first way round: metres, volts for an ampere, ohms of the loop. */
  let [x, r, z] = [0, 0, 0]
  const lay = (lengthM: number, size: string) => {
    x += lengthM
    r += line.dropPerAm(size) * lengthM
    z += perM(size) * lengthM
    return { x, r, z }
  }
  const places = childrenOf(points, null).map((p) => ({
    p,
    size: p.size ?? input.size,
    amps: through(points, p, volts),
    ...lay(p.lengthM!, p.size ?? input.size),
  }))
  const round = lay(closeM, input.size)
  const all = places.reduce((sum, k) => sum + k.amps, 0)
  const out = round.r > 0 ? places.reduce((sum, k) => sum + (k.amps * (round.r - k.r)) / round.r, 0) : 0
  const oneSize = places.every((k) => k.size === input.size)
  let [current, lost, before] = [out, 0, 0]
  const reports = places.flatMap((k): PointReport[] => {
    const [alongA, beforeV] = [current, lost]
    lost += (k.r - before) * current
    current -= k.amps
    before = k.r
    // Both ways in parallel.
    const loopOhm = round.z > 0 ? (k.z * (round.z - k.z)) / round.z : 0
    const loopWords = oneSize
      ? `${trim(1000 * perM(input.size), 2)} mΩ/m × ${trim(k.x, 2)} × (${trim(round.x, 2)} − ${trim(k.x, 2)}) / ${trim(round.x, 2)} m`
      : `${trim(k.z, 4)} × (${trim(round.z, 4)} − ${trim(k.z, 4)}) / ${trim(round.z, 4)} Ω`
    const here: Upstream = { distanceM: Math.min(k.x, round.x - k.x), dropV: lost, loopOhm }
    return [
      report(input, line, k.p, {
        ...here,
        throughA: Math.abs(alongA),
        alongA,
        size: k.size,
        volts,
        beforeV,
        loopWords: line.loopPerM ? (round.z > 0 ? loopWords : '0') : undefined,
      }),
      ...branch(input, line, k.p.id, here, volts),
    ]
  })
  return { points: reports, legsA: { out, back: all - out }, linesA: null }
}

/** Two lines and the neutral between them: each line loses its own volts and those of the neutral's difference. */
function sharedPoints(input: LayoutInput, line: Line): Reports {
  const { points } = input.circuit
  const [line1, across] = [120, 240]
  const onLeg = (p: CircuitPoint, leg: 'A' | 'B'): number =>
    (p.leg === 'AB' ? (p.watts ?? 0) / across : p.leg === leg ? (p.watts ?? 0) / line1 : 0) +
    childrenOf(points, p.id).reduce((sum, c) => sum + onLeg(c, leg), 0)
  const roots = childrenOf(points, null)
  const sum = (leg: 'A' | 'B', list: readonly CircuitPoint[]) => list.reduce((s, p) => s + onLeg(p, leg), 0)
  const lost = (a: number, b: number, perAm: number, m: number) => ({ A: perAm * m * (a + (a - b)), B: perAm * m * (b + (b - a)) })
  type Lost = { readonly A: number; readonly B: number; readonly m: number } | null
  const visit = (p: CircuitPoint, up: Lost): PointReport[] => {
    const size = p.size ?? input.size
    const [a, b, m] = [onLeg(p, 'A'), onLeg(p, 'B'), p.lengthM]
    const more = m === null ? null : lost(a, b, line.dropPerAm(size) / 2, m)
    const here: Lost = up && more && { A: up.A + more.A, B: up.B + more.B, m: up.m + m! }
    const at = (l: Lost): number | null => l && (p.leg === 'AB' ? l.A + l.B : l[p.leg])
    return [
      report(input, line, p, {
        distanceM: here?.m ?? null,
        throughA: p.leg === 'A' ? a : p.leg === 'B' ? b : Math.max(a, b),
        dropV: at(here),
        loopOhm: null,
        size,
        volts: p.leg === 'AB' ? across : line1,
        beforeV: at(up),
        neutralA: p.leg === 'AB' ? Math.min(a, b) : p.leg === 'A' ? a - b : b - a,
      }),
      ...childrenOf(points, p.id).flatMap((c) => visit(c, here)),
    ]
  }
  const [A, B] = [sum('A', roots), sum('B', roots)]
  return { points: roots.flatMap((p) => visit(p, { A: 0, B: 0, m: 0 })), legsA: null, linesA: { A, B, neutral: Math.abs(A - B) } }
}

type Worst = Pick<LayoutReport, 'worstDrop' | 'worstLoop'>

function layoutFindings(input: LayoutInput, points: readonly PointReport[], worst: Worst, limit: LoopLimit | null): Finding[] {
  const fuses = fusesOver(input.circuit.points)
  return [
    dropTooHigh(input, worst.worstDrop),
    loopTooHigh(input, worst.worstLoop, limit),
    loopLeftToResidual(input, worst.worstLoop, limit),
    ...points.flatMap((p) => [outletBelowLoad(input, p), branchTooThin(input, p, fuses.get(p.point.id) ?? null)]),
  ].filter((f) => f !== null)
}

function dropTooHigh({ job, circuit }: LayoutInput, drop: MeasuredPoint | null): Finding | null {
  const { drop: allowed } = worlds[job.region]
  const limit = allowed.percent(circuit.load.lighting)
  if (!drop || atMost(drop.dropPercent, limit)) return null
  return {
    rule: allowed.rule,
    severity: allowed.severity,
    clause: allowed.clause,
    message:
      `${drop.point.name} loses ${formatPercent(drop.dropPercent)} of the voltage, the most of all points; the limit is ${limit} ` +
      '%. A larger cable, a shorter way round or fewer loads beyond it bring it down.',
    about: `point:${drop.point.id}`,
  }
}

function loopTooHigh({ job }: LayoutInput, loop: PointReport | null, limit: LoopLimit | null): Finding | null {
  const region = worlds[job.region].metric
  if (!loop || !region || limit === null) return null
  const mostOhm = limit.residualOhm ?? limit.breakerOhm
  if (atMost(loop.zsOhm!, mostOhm)) return null
  return {
    rule: 'point-loop-too-high',
    severity: 'error',
    clause: region.loopClause,
    message:
      `At ${loop.point.name} the loop is ${formatOhm(loop.zsOhm!)}, over the ${formatOhm(mostOhm)} allowed. Enlarge the cable, ` +
      'shorten the branch, or put the circuit behind a residual device at the board.',
    about: `point:${loop.point.id}`,
  }
}

/** Within what the residual device needs and over what the breaker would. */
function loopLeftToResidual({ job }: LayoutInput, loop: PointReport | null, limit: LoopLimit | null): Finding | null {
  const region = worlds[job.region].metric
  // On an earth rod that is how a circuit is protected.
  if (!loop || !region || limit === null || limit.residualOhm === null || job.supply.earthing === 'tt') return null
  if (atMost(loop.zsOhm!, limit.breakerOhm) || !atMost(loop.zsOhm!, limit.residualOhm)) return null
  return {
    rule: 'zs-too-high',
    severity: 'warning',
    clause: region.rcdClause,
    message:
      `At ${loop.point.name} the loop of ${formatOhm(loop.zsOhm!)} is over the ${formatOhm(limit.breakerOhm)} the breaker needs; ` +
      'only the residual current device clears an earth fault in time. Prove it by its trip test.',
  }
}

function outletBelowLoad({ job, circuit, design }: LayoutInput, { point }: PointReport): Finding | null {
  const fitted = fittedAt(design, point)
  const each = (point.watts ?? 0) / circuit.load.volts! / Math.max(1, point.outlets)
  const plugged = fitted?.kind === 'outlet' && fitted.outlets > 0 && point.outlets > 0 && point.fuseA === null
  if (!worlds[job.region].metric || !plugged || atLeast(fitted.ratingA, each)) return null
  return {
    rule: 'outlet-below-load',
    severity: 'error',
    clause: worlds[job.region].cites.outletRating,
    message:
      `At ${point.name} one outlet would feed ${formatA(each)} and is rated ${formatA(fitted.ratingA)}. Divide it, or ` +
      'connect it permanently.',
    about: `point:${point.id}`,
  }
}

/** A cable that carries more than it may, or that nothing ahead of it guards. */
function branchTooThin({ job, circuit, breakerA }: LayoutInput, p: PointReport, fuseA: number | null): Finding | null {
  const { cites } = worlds[job.region]
  if (p.throughA !== null && !atLeast(p.ampacityA, p.throughA))
    return {
      rule: 'branch-overloaded',
      severity: 'error',
      clause: cites.carries,
      message:
        `The cable to ${p.point.name} carries ${formatA(p.throughA)} and is good for ${formatA(p.ampacityA)} as it is run. ` +
        'Enlarge it, or move load elsewhere.',
      about: `point:${p.point.id}`,
    }
  const guardA = fuseA ?? breakerA
  // What is in a ring or spurred from it is judged as a ring is.
  const ofRing = circuit.kind === 'ring' && (p.point.from === null || fuseA === null)
  const branch = p.point.size !== null || fuseA !== null
  if (ofRing || !branch || atLeast(p.ampacityA, guardA)) return null
  return {
    rule: 'branch-not-protected',
    severity: 'error',
    clause: cites.branch,
    message:
      `${formatSize(p.size)} to ${p.point.name} is good for ${formatA(p.ampacityA)} behind ${formatA(guardA)}: a thinner ` +
      'branch needs a fuse of its own. Feed it through a fused unit, or keep the size.',
    about: `point:${p.point.id}`,
  }
}

const ringError = (rule: string, message: string, clause: string = RING.clause): Finding => ({ rule, severity: 'error', clause, message })

/** What is wrong with a ring. BS 7671 433.1.204, Appendix 15. */
const ringFindings = (input: LayoutInput, legs: LayoutReport['legsA']): Finding[] => [
  ...ringCables(input),
  ...(legs ? ringLegs(input, legs) : []),
  ...ringSpurs(input),
]

function ringCables({ circuit, breakerA, size, carries }: LayoutInput): Finding[] {
  const thin = circuit.points.filter(
    (p) =>
      p.from === null &&
      p.size !== null &&
      p.size !== size &&
      (areaMm2(p.size) < areaMm2(RING.minSize) || !atLeast(carries(p.size, p.id), RING.minCapacityA)),
  )
  return [
    ...((RING.deviceA as readonly number[]).includes(breakerA)
      ? []
      : [
          ringError(
            'ring-device',
            `A ring final circuit is protected at 30 or 32 A, not ${breakerA} A. Choose 32 A, or run it as a radial.`,
          ),
        ]),
    ...(atLeast(carries(size, null), RING.minCapacityA)
      ? []
      : [
          ringError(
            'ring-capacity',
            `As it is run the cable of the ring carries ${formatA(carries(size, null))}; a ring needs ${RING.minCapacityA} A in ` +
              'each leg. Move it out of the insulation or the bunch, or enlarge it.',
          ),
        ]),
    ...thin.map((p) => ({
      about: `point:${p.id}`,
      ...ringError(
        'ring-capacity',
        `The cable of the ring that reaches ${p.name} is ${formatSize(p.size!)}, which carries ${formatA(carries(p.size!, p.id))}; all ` +
          `of a ring is ${formatSize(RING.minSize)} or more and carries ${RING.minCapacityA} A. Replace that length.`,
      ),
    })),
  ]
}

function ringLegs({ size, carries }: LayoutInput, legs: { out: number; back: number }): Finding[] {
  const heavier = Math.max(Math.abs(legs.out), Math.abs(legs.back))
  if (atMost(heavier, carries(size, null))) return []
  return [
    ringError(
      'ring-leg-overloaded',
      `One leg of the ring carries ${formatA(heavier)} with everything on, and its cable ${formatA(carries(size, null))}. Move the ` +
        'heavy loads toward the middle, or give one a circuit of its own.',
      'Appendix 15',
    ),
  ]
}

function ringSpurs({ circuit }: LayoutInput): Finding[] {
  const fuses = fusesOver(circuit.points)
  const inRing = circuit.points.filter((p) => p.from === null)
  const spurs = circuit.points.filter((p) => p.from !== null && fuses.get(p.id) === null)
  const ringIds = new Set(inRing.map((p) => p.id))
  const each = spurs.flatMap((s): Finding[] =>
    [
      ...(ringIds.has(s.from!)
        ? []
        : [
            ringError(
              'spur-on-spur',
              `${s.name} is fed from a spur. An unfused spur feeds one accessory: fuse the first, or bring it into the ring.`,
              'Appendix 15',
            ),
          ]),
      ...(s.size !== null && areaMm2(s.size) < areaMm2(RING.minSize)
        ? [
            ringError(
              'spur-too-thin',
              `The unfused spur to ${s.name} is ${formatSize(s.size)}; from a ring it is ${formatSize(RING.minSize)} or more, or its ` +
                'fault and its load are not covered. Enlarge it, or feed it through a fused unit.',
              '433.1.204; Appendix 15',
            ),
          ]
        : []),
      ...(s.outlets > 2
        ? [
            ringError(
              'spur-too-many',
              `${s.name} has ${s.outlets} outlets on an unfused spur, which may feed one single or twin. Put a fused unit ahead of it.`,
              'Appendix 15',
            ),
          ]
        : []),
    ].map((f) => ({ ...f, about: `point:${s.id}` })),
  )
  const many = spurs.filter((s) => ringIds.has(s.from!)).length > inRing.length
  return many
    ? [
        ...each,
        ringError(
          'too-many-spurs',
          'There are more unfused spurs than points in the ring. Bring some into the ring, or fuse them.',
          'Appendix 15',
        ),
      ]
    : each
}
