import { type Finding, listed } from '../base/finding'
import { areaMm2 } from '../design/prices'
import { InputError } from '../base/input-error'
import type { Circuit, Installation } from '../installation/installation'
import type { Raceway } from '../job/raceway'
import { formatLength, formatPercent, formatSmallLength, type UnitSystem } from '../base/format'
import { naGroundingSize } from '../region/north-america/awg'
import { tubesOf } from '../calculate/from-way'
import { pvcExpansion } from '../calculate/pvc-expansion'
import { isNipple, loadedIn, NIPPLE_M } from '../design/conditions'
import { conduitFill, type ConduitFill } from '../calculate/conduit-fill'
import { bending, type Bending, type BendingAsked, strapsAlong } from '../calculate/bending'
import { bendRadiusIn, takeUpIn } from '../calculate/tables'
import { MM_PER_IN } from '../base/units'
import { racewayBends } from '../calculate/raceway-bends'
import { racewayFill } from '../calculate/raceway-fill'
import { naGroupingFactor } from '../region/north-america/awg'
import { worlds } from '../region/worlds'

/** What a circuit puts into a raceway, once it is worked out. */
export interface InRaceway {
  readonly circuit: Circuit
  readonly size: string | null
  readonly breakerA: number | null
  readonly protectiveSize: string | null
  readonly cable: string
}

export interface RacewayReport {
  readonly raceway: Raceway
  readonly inside: readonly InRaceway[]
  readonly conductors: readonly { readonly insulation: 'thwn-2' | 'bare'; readonly size: string; readonly count: number }[]
  /** The same in the United Kingdom, protective conductor among them. */
  readonly singles: readonly { readonly size: string; readonly count: number }[]
  /** One protective conductor for all, sized for the largest breaker. */
  readonly protectiveSize: string | null
  readonly fill: ReturnType<typeof racewayFill> | null
  /** By factors, in the United Kingdom. */
  readonly conduit: ConduitFill | null
  readonly loadedConductors: number
  /** What is left of what each carries, for their heat; null: counted otherwise here, or in a nipple. */
  readonly groupingFactor: number | null
  readonly bends: ReturnType<typeof racewayBends> | null
  /** How the pipe is marked, cut and bent; null where it is straight, flexible, or the radius of its bends is not known. */
  readonly bending: Bending | null
  /** Where it is strapped, in millimetres along the straight pipe; null where no table says how far apart. */
  readonly straps: readonly number[] | null
  /** Why it cannot be marked out as it is measured: that is no finding, as what is short may be beyond what was measured. */
  readonly bendProblem: { readonly path: string; readonly message: string } | null
  readonly expansion: ReturnType<typeof pvcExpansion> | null
  readonly findings: readonly Finding[]
}

const fillClause: Record<Installation['region'], string> = {
  'north-america': 'Chapter 9 Table 1',
  'united-kingdom': '522.8; OSG Appendix E',
  'southern-africa': 'SANS 10142-1 wireways; maker’s factors',
}
const expansionClause: Record<Installation['region'], string> = {
  'north-america': '352.44',
  'united-kingdom': '522.1; maker’s instructions',
  'southern-africa': 'SANS 10142-1 external influences; maker’s instructions',
}
/** Insulated conductors a circuit draws in, without its protective one: of a ring both legs, of two lines their neutral too. */
const insulatedIn = (region: Installation['region'], { kind }: Circuit): number =>
  worlds[region].sharedNeutrals ? (kind === 'shared-neutral' || kind === 'feeder' ? 3 : 2) : kind === 'ring' ? 4 : 2

type Problem = { readonly path: string; readonly message: string }
/** What was worked out, or why it could not be; null where nothing asks for it. */
type Tried<T> = { readonly value: T } | { readonly problem: Problem } | null
const valueOf = <T>(tried: Tried<T>): T | null => (tried && 'value' in tried ? tried.value : null)
const problemOf = (tried: Tried<unknown>): Problem | null => (tried && 'problem' in tried ? tried.problem : null)

/** What is drawn into a raceway, counted by size. */
interface DrawnIn {
  readonly single: readonly InRaceway[]
  readonly sheathed: readonly InRaceway[]
  /** Whether the size of every conductor is known. */
  readonly known: boolean
  readonly protectiveSize: string | null
  readonly counted: readonly { readonly size: string; readonly count: number }[]
}
function drawnInto({ region }: Installation, inside: readonly InRaceway[]): DrawnIn {
  const isSingle = (i: InRaceway) => i.cable === 'thwn-2' || i.cable === 'singles'
  const single = inside.filter(isSingle)
  const fillBy = worlds[region].racewayFill
  const known = single.every((i) => i.size !== null && i.breakerA !== null)
  const counts = known && fillBy !== null
  const protectives = single.map((i) => (fillBy === 'area' ? naGroundingSize(i.breakerA ?? 0) : (i.protectiveSize ?? '')))
  const protectiveSize = counts ? (protectives.toSorted((a, b) => areaMm2(b) - areaMm2(a))[0] ?? null) : null
  return {
    single,
    sheathed: inside.filter((i) => !isSingle(i)),
    known,
    protectiveSize,
    counted: counts
      ? mergeSame([
          ...single.map((i) => ({ size: i.size!, count: insulatedIn(region, i.circuit) })),
          ...(protectiveSize ? [{ size: protectiveSize, count: 1 }] : []),
        ])
      : [],
  }
}

/** A raceway as its checks see it. */
interface Seen {
  readonly job: Installation
  readonly raceway: Raceway
  readonly units: UnitSystem
  readonly inside: readonly InRaceway[]
  readonly drawn: DrawnIn
  readonly fill: Tried<ReturnType<typeof racewayFill>>
  readonly conduit: Tried<ConduitFill>
  readonly bends: Tried<ReturnType<typeof racewayBends>>
  readonly bending: Tried<Bending>
  readonly expansion: ReturnType<typeof pvcExpansion> | null
}
function seenOf(job: Installation, raceway: Raceway, inside: readonly InRaceway[], units: UnitSystem): Seen {
  const { kind, tradeSize, conduitMm, lengthM, bendCount, minC, maxC } = raceway
  const drawn = drawnInto(job, inside)
  const fillBy = worlds[job.region].racewayFill
  const na = fillBy === 'area'
  const { counted } = drawn
  const radiusMm = na ? bendRadiusIn(tradeSize) * MM_PER_IN : (raceway.formerMm ?? null)
  const items = raceway.bends.map(({ id: _, ...item }) => item)
  return {
    job,
    raceway,
    units,
    inside,
    drawn,
    fill:
      na && counted.length
        ? attempt(() =>
            racewayFill({
              raceway: kind,
              tradeSize,
              nipple: isNipple(raceway),
              conductors: counted.map((c) => ({ insulation: 'thwn-2', ...c })),
            }),
          )
        : null,
    conduit:
      fillBy === 'factors' && counted.length && lengthM !== null
        ? attempt(() => conduitFill({ sizeMm: conduitMm, lengthM, bends: bendCount, conductors: [...counted] }))
        : null,
    bends: na && items.length ? attempt(() => racewayBends({ tradeSize, items })) : null,
    bending: items.length && radiusMm !== null && kind !== 'fmc' ? attempt(() => bending(askedOf(raceway, radiusMm, na))) : null,
    expansion: kind.startsWith('pvc') && lengthM !== null && maxC >= minC ? pvcExpansion({ lengthM, minC, maxC }) : null,
  }
}

/** What may be wrong with a raceway, each with one function; null where it is not. */
const checks: readonly ((seen: Seen) => Finding | null)[] = [
  fillNotKnown,
  nippleTooLong,
  sheathedInside,
  ({ fill }) => overArea(valueOf(fill)),
  ({ raceway, conduit }) => overFactor(raceway, valueOf(conduit)),
  ({ conduit }) => notFilled(problemOf(conduit), fillClause['united-kingdom']),
  ({ fill }) => notFilled(problemOf(fill), 'Chapter 9'),
  ({ bends }) => tooManyBends(valueOf(bends)),
  ({ bends }) => {
    const problem = problemOf(bends)
    return problem && { rule: 'raceway-bends', severity: 'error', clause: '358.24', message: problem.message }
  },
  expansionFitting,
  routeChanged,
]

const notFilled = (problem: Problem | null, clause: string): Finding | null =>
  problem && { rule: 'raceway-fill-not-known', severity: 'unknown', clause, message: problem.message }

function fillNotKnown({ job, raceway, inside, drawn }: Seen): Finding | null {
  const fillBy = worlds[job.region].racewayFill
  const say = (message: string) => notFilled({ path: '', message }, fillClause[job.region])
  if (inside.length === 0) return null
  if (fillBy === null) return say('no fill table is published here; draw in as many as the maker’s factors allow, and no cable by force.')
  if (!drawn.known) return say('its fill is not judged until every circuit in it is worked out.')
  return fillBy === 'factors' && drawn.single.length && raceway.lengthM === null
    ? say('its fill is not judged until the length between draw-in points is known.')
    : null
}

function nippleTooLong({ raceway, units }: Seen): Finding | null {
  if (!raceway.nipple || isNipple(raceway)) return null
  const clause = 'Chapter 9 note 4; 310.15(C)(1)'
  const most = units === 'metric' ? `${formatSmallLength(NIPPLE_M * 1000, units)} (24 in)` : formatSmallLength(NIPPLE_M * 1000, units)
  if (raceway.lengthM === null)
    return {
      rule: 'raceway-nipple',
      severity: 'unknown',
      clause,
      message:
        `whether it is a nipple is not judged: it is one up to ${most}, and its length is not known. Until then it is filled and ` +
        'derated as a raceway.',
    }
  return {
    rule: 'raceway-nipple',
    severity: 'error',
    clause,
    message:
      `a nipple is no longer than ${most}, and this is ${formatSmallLength(raceway.lengthM * 1000, units)}. It is filled to 40 % ` +
      'and its conductors are derated as in any raceway.',
  }
}

function sheathedInside({ job, drawn: { sheathed } }: Seen): Finding | null {
  if (sheathed.length === 0) return null
  return {
    rule: 'raceway-sheathed-cable',
    severity: 'warning',
    clause: worlds[job.region].racewayFill === 'area' ? '300.15; Chapter 9 note 9' : '521.10; 522.8',
    message:
      `${listed(sheathed.map((i) => i.circuit.name))} ${sheathed.length === 1 ? 'is' : 'are'} in sheathed cable, which ` +
      'the fill does not count. Draw single conductors in, or run the cable outside it.',
  }
}

function overArea(fill: ReturnType<typeof racewayFill> | null): Finding | null {
  if (!fill || fill.fits) return null
  const remedy = fill.smallestTradeSize
    ? `Trade size ${fill.smallestTradeSize} holds it.`
    : 'No listed size holds it: divide the circuits over two.'
  return {
    rule: 'raceway-overfilled',
    severity: 'error',
    clause: 'Chapter 9 Table 1, note 7',
    message:
      `it is filled to ${formatPercent(100 * fill.fillFraction)}, and ${formatPercent(100 * fill.limitFraction)} is ` +
      `allowed. ${remedy}`,
  }
}

function overFactor({ conduitMm }: Raceway, conduit: ConduitFill | null): Finding | null {
  if (!conduit || conduit.fits) return null
  const { cableFactor, conduitFactor, smallestMm } = conduit
  const remedy = smallestMm
    ? `${smallestMm} mm holds them.`
    : 'No listed size holds them: divide the circuits over two, or put a draw-in box between.'
  return {
    rule: 'raceway-overfilled',
    severity: 'warning',
    clause: fillClause['united-kingdom'],
    message: `its cables come to a factor of ${cableFactor}, and ${conduitMm} mm takes ${conduitFactor} there. ${remedy}`,
  }
}

function tooManyBends(bends: ReturnType<typeof racewayBends> | null): Finding | null {
  if (!bends || bends.withinLimit) return null
  return {
    rule: 'raceway-bends',
    severity: 'error',
    clause: '358.26; 352.26',
    message: `${bends.totalDegrees}° of bend lie between pull points, and 360° is the most. Put a pull box or an access fitting between.`,
  }
}

function expansionFitting({ job, units, expansion }: Seen): Finding | null {
  if (!expansion?.fittingNeeded) return null
  return {
    rule: 'raceway-expansion',
    severity: 'warning',
    clause: expansionClause[job.region],
    message:
      `it changes its length by ${formatSmallLength(expansion.changeMm, units)} over the year. Put an expansion fitting ` +
      'in the straight run, set by the day’s temperature, its fixed end at one side and the pipe free to slide in its straps.',
  }
}

/** A raceway that was marked out from a route which is another since, or no longer chosen. */
function routeChanged({ job, raceway: { along }, units }: Seen): Finding | null {
  if (!along) return null
  const finding = (message: string): Finding => ({
    rule: 'raceway-route-changed',
    severity: 'warning',
    clause: worlds[job.region].cites.workmanship,
    message,
  })
  const route = job.record.cables.find((k) => k.id === along.cable)?.route
  const piece = route && tubesOf(route.elements)[along.piece - 1]
  if (!piece) return finding('it was marked out from a route that is no longer chosen. Mark it out again, or unlink it from the route.')
  const said = (lengthM: number, bends: number) =>
    `${formatLength(lengthM, units)} with ${bends === 1 ? 'one quarter bend' : `${bends} quarter bends`}`
  return Math.abs(piece.lengthM - along.lengthM) < ROUTE_M && piece.bends === along.bends
    ? null
    : finding(
        `its route has changed: ${said(piece.lengthM, piece.bends)} now, ${said(along.lengthM, along.bends)} when it was marked out. ` +
          'Mark it out again.',
      )
}
/** A difference of a route that no bender could follow, in metres. */
const ROUTE_M = 0.01

/** A raceway with its circuits: fill, grouping, bends and expansion. NFPA 70 Chapter 9, 250.122(C), 352.44, 358.26; OSG Appendix E. */
export function racewayReport(
  job: Installation,
  raceway: Raceway,
  sizes: (id: string) => InRaceway | undefined,
  units: UnitSystem = 'metric',
): RacewayReport {
  const inside = raceway.circuits.flatMap((id) => sizes(id) ?? [])
  const seen = seenOf(job, raceway, inside, units)
  const { counted, protectiveSize } = seen.drawn
  const fillBy = worlds[job.region].racewayFill
  const bendingOut = valueOf(seen.bending)
  return {
    raceway,
    inside,
    conductors: fillBy === 'area' ? counted.map((c) => ({ insulation: 'thwn-2' as const, ...c })) : [],
    singles: fillBy === 'factors' ? counted : [],
    protectiveSize,
    fill: valueOf(seen.fill),
    conduit: valueOf(seen.conduit),
    ...loadedTogether(raceway, inside, fillBy === 'area'),
    bends: valueOf(seen.bends),
    bending: bendingOut,
    straps: fillBy === 'area' && bendingOut ? strapsAlong(bendingOut.cutMm, strapRule(raceway), bendingOut.bends) : null,
    bendProblem: problemOf(seen.bending),
    expansion: seen.expansion,
    findings: checks
      .flatMap((check) => check(seen) ?? [])
      .map((f) => ({
        ...f,
        message: `${raceway.name}: ${f.message}`,
        about: `raceway:${raceway.id}`,
      })),
  }
}

/** Loaded conductors together, and what that leaves of what each carries; the equipment ground is none of them. NFPA 70 310.15(C)(1). */
function loadedTogether(
  raceway: Raceway,
  inside: readonly InRaceway[],
  counts: boolean,
): Pick<RacewayReport, 'loadedConductors' | 'groupingFactor'> {
  const loadedConductors = inside.reduce((sum, i) => sum + loadedIn(i.circuit), 0)
  return { loadedConductors, groupingFactor: !counts || isNipple(raceway) ? null : naGroupingFactor(loadedConductors) }
}

const askedOf = ({ bends, tradeSize, stockM }: Raceway, radiusMm: number, na: boolean): BendingAsked => {
  const takeUp = na ? takeUpIn(tradeSize) : undefined
  return {
    items: bends.map(({ id: _, ...item }) => item),
    radiusMm,
    takeUpMm: takeUp === undefined ? null : takeUp * MM_PER_IN,
    stockMm: stockM == null ? null : stockM * 1000,
  }
}

/** Near an end, and apart, in millimetres. NFPA 70 358.30(A), 352.30 with its table, 350.30(A). */
function strapRule({ kind, tradeSize }: Raceway): { near: number; apart: number; clause: string } {
  if (kind === 'emt') return { near: 900, apart: 3000, clause: '358.30(A)' }
  if (kind === 'fmc') return { near: 300, apart: 1400, clause: '350.30(A)' }
  return { near: 900, apart: ['1/2', '3/4', '1'].includes(tradeSize) ? 900 : 1500, clause: '352.30, Table 352.30' }
}
/** Straps on straight runs of pipe, each from box to box, metres; none where the world has no published spacing. */
export const strapsOnRuns = ({ region }: Pick<Installation, 'region'>, raceway: Raceway, runsM: readonly number[]): number =>
  worlds[region].racewayFill === 'area' ? runsM.reduce((n, m) => n + strapsAlong(m * 1000, strapRule(raceway)).length, 0) : 0
export const strapClause = (raceway: Raceway): string => strapRule(raceway).clause

function mergeSame<T extends { size: string; count: number }>(list: readonly T[]): T[] {
  const out: T[] = []
  for (const c of list) {
    const at = out.findIndex((x) => x.size === c.size)
    if (at < 0) out.push(c)
    else out[at] = { ...out[at]!, count: out[at]!.count + c.count }
  }
  return out
}

function attempt<T>(work: () => T): Tried<T> {
  try {
    return { value: work() }
  } catch (e) {
    if (!(e instanceof InputError)) throw e
    return { problem: { path: e.path, message: e.message } }
  }
}
