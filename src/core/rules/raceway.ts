import { type Finding, listed } from '../finding'
import { areaMm2 } from '../design/prices'
import { InputError } from '../input-error'
import type { Circuit, Installation } from '../installation/installation'
import type { Raceway } from '../job/raceway'
import { formatPercent, formatSmallLength, type UnitSystem } from '../quantity/format'
import { naGroundingSize } from '../region/north-america/awg'
import { pvcExpansion } from '../raceway/pvc-expansion'
import { isNipple, loadedIn, NIPPLE_M } from '../design/conditions'
import { conduitFill, type ConduitFill } from '../raceway/conduit-fill'
import { bending, type Bending, type BendingAsked, strapsAlong } from '../raceway/bending'
import { bendRadiusIn, takeUpIn } from '../raceway/tables'
import { MM_PER_IN } from '../quantity/units'
import { racewayBends } from '../raceway/raceway-bends'
import { racewayFill } from '../raceway/raceway-fill'
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
  readonly bends: ReturnType<typeof racewayBends> | null
  /** How the pipe is marked, cut and bent; null where it is straight, flexible, or the radius of its bends is not known. */
  readonly bending: Bending | null
  /** Where it is strapped, in millimetres along the straight pipe; null where no table says how far apart. */
  readonly straps: readonly number[] | null
  /** Why it cannot be marked out as it is measured: that is no finding, as what is short may stand beyond what was measured. */
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

/** A raceway with its circuits: fill, grouping, bends and expansion. NFPA 70 Chapter 9, 250.122(C), 352.44, 358.26; OSG Appendix E. */
export function racewayReport(
  job: Installation,
  raceway: Raceway,
  sizes: (id: string) => InRaceway | undefined,
  units: UnitSystem = 'metric',
): RacewayReport {
  const inside = raceway.circuits.flatMap((id) => sizes(id) ?? [])
  const single = (i: InRaceway) => i.cable === 'thwn-2' || i.cable === 'singles'
  const sheathed = inside.filter((i) => !single(i))
  const drawn = inside.filter(single)
  const known = drawn.every((i) => i.size !== null && i.breakerA !== null)
  const fillBy = worlds[job.region].racewayFill
  const na = fillBy === 'area'
  const nipple = isNipple(raceway)
  const uk = fillBy === 'factors'
  const protectives = drawn.map((i) => (na ? naGroundingSize(i.breakerA ?? 0) : (i.protectiveSize ?? '')))
  const protectiveSize = known && (na || uk) ? (protectives.toSorted((a, b) => areaMm2(b) - areaMm2(a))[0] ?? null) : null
  const bySize = new Map<string, number>()
  if ((na || uk) && known) for (const i of drawn) bySize.set(i.size!, (bySize.get(i.size!) ?? 0) + insulatedIn(job.region, i.circuit))
  const all = mergeSame([
    ...[...bySize].map(([size, count]) => ({ size, count })),
    ...(protectiveSize ? [{ size: protectiveSize, count: 1 }] : []),
  ])
  const merged = na ? all.map((c) => ({ insulation: 'thwn-2' as const, ...c })) : []
  const singles = uk ? all : []
  const fill = merged.length
    ? attempt(() => racewayFill({ raceway: raceway.kind, tradeSize: raceway.tradeSize, nipple, conductors: merged }))
    : null
  const drawnIn =
    singles.length && raceway.lengthM !== null
      ? attempt(() => conduitFill({ sizeMm: raceway.conduitMm, lengthM: raceway.lengthM!, bends: raceway.bendCount, conductors: singles }))
      : null
  const conduit = drawnIn && 'value' in drawnIn ? drawnIn.value : null
  const bent =
    raceway.bends.length && na
      ? attempt(() => racewayBends({ tradeSize: raceway.tradeSize, items: raceway.bends.map(({ id: _, ...item }) => item) }))
      : null
  const radiusMm = na ? bendRadiusIn(raceway.tradeSize) * MM_PER_IN : (raceway.formerMm ?? null)
  const marked =
    raceway.bends.length && radiusMm !== null && raceway.kind !== 'fmc' ? attempt(() => bending(askedOf(raceway, radiusMm, na))) : null
  const bendingOut = marked && 'value' in marked ? marked.value : null
  const expansion =
    raceway.kind.startsWith('pvc') && raceway.lengthM !== null && raceway.maxC >= raceway.minC
      ? pvcExpansion({ lengthM: raceway.lengthM, minC: raceway.minC, maxC: raceway.maxC })
      : null
  const bends = bent && 'value' in bent ? bent.value : null
  const filled = fill && 'value' in fill ? fill.value : null
  const at = (rule: string, severity: Finding['severity'], clause: string, message: string): Finding => ({
    rule,
    severity,
    clause,
    message: `${raceway.name}: ${message}`,
  })
  const notKnown = (): Finding[] => {
    const say = (message: string) => [at('raceway-fill-not-known', 'unknown', fillClause[job.region], message)]
    if (inside.length === 0) return []
    if (fillBy === null) return say('no fill table is published here; draw in as many as the maker’s factors allow, and no cable by force.')
    if (!known) return say('its fill is not judged until every circuit in it is worked out.')
    return uk && drawn.length && raceway.lengthM === null
      ? say('its fill is not judged until the length between draw-in points is known.')
      : []
  }
  return {
    raceway,
    inside,
    conductors: merged,
    singles,
    protectiveSize,
    fill: filled,
    conduit,
    loadedConductors: inside.reduce((sum, i) => sum + loadedIn(i.circuit), 0),
    bends,
    bending: bendingOut,
    straps: na && bendingOut ? strapsAlong(bendingOut.cutMm, strapRule(raceway), bendingOut.bends) : null,
    bendProblem: marked && 'problem' in marked ? marked.problem : null,
    expansion,
    findings: [
      ...notKnown(),
      ...(raceway.nipple && !nipple
        ? [
            at(
              'raceway-nipple',
              raceway.lengthM === null ? 'unknown' : 'error',
              'Chapter 9 note 4; 310.15(C)(1)',
              raceway.lengthM === null
                ? `whether it is a nipple is not judged: it is one up to ${formatSmallLength(NIPPLE_M * 1000, units)} (24 in), and ` +
                    'its length is not known. Until then it is filled and derated as a raceway.'
                : `a nipple is no longer than ${formatSmallLength(NIPPLE_M * 1000, units)} (24 in), and this is ` +
                    `${formatSmallLength(raceway.lengthM * 1000, units)}. It is filled to 40 % and its conductors are derated as in ` +
                    'any raceway.',
            ),
          ]
        : []),
      ...(sheathed.length
        ? [
            at(
              'raceway-sheathed-cable',
              'warning',
              na ? '300.15; Chapter 9 note 9' : '521.10; 522.8',
              `${listed(sheathed.map((i) => i.circuit.name))} ${sheathed.length === 1 ? 'is' : 'are'} in sheathed cable, which ` +
                'the fill does not count. Draw single conductors in, or run the cable outside it.',
            ),
          ]
        : []),
      ...(filled && !filled.fits
        ? [
            at(
              'raceway-overfilled',
              'error',
              'Chapter 9 Table 1, note 7',
              `it is filled to ${formatPercent(100 * filled.fillFraction)}, and ${formatPercent(100 * filled.limitFraction)} is ` +
                'allowed. ' +
                (filled.smallestTradeSize
                  ? `Trade size ${filled.smallestTradeSize} holds it.`
                  : 'No listed size holds it: divide the circuits over two.'),
            ),
          ]
        : []),
      ...(conduit && !conduit.fits ? [at('raceway-overfilled', 'warning', fillClause['united-kingdom'], tooTight(raceway, conduit))] : []),
      ...(drawnIn && 'problem' in drawnIn
        ? [at('raceway-fill-not-known', 'unknown', fillClause['united-kingdom'], drawnIn.problem.message)]
        : []),
      ...(fill && 'problem' in fill ? [at('raceway-fill-not-known', 'unknown', 'Chapter 9', fill.problem.message)] : []),
      ...(bends && !bends.withinLimit
        ? [
            at(
              'raceway-bends',
              'error',
              '358.26; 352.26',
              `${bends.totalDegrees}° of bend lie between pull points, and 360° is the most. Put a pull box or an access fitting between.`,
            ),
          ]
        : []),
      ...(bent && 'problem' in bent ? [at('raceway-bends', 'error', '358.24', bent.problem.message)] : []),
      ...(expansion?.fittingNeeded
        ? [
            at(
              'raceway-expansion',
              'warning',
              expansionClause[job.region],
              `it changes its length by ${formatSmallLength(expansion.changeMm, units)} over the year. Put an expansion fitting ` +
                'in the straight run, set by the day’s temperature, its fixed end at one side and the pipe free to slide in its ' +
                'straps.',
            ),
          ]
        : []),
    ],
  }
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
export const strapClause = (raceway: Raceway): string => strapRule(raceway).clause

function tooTight({ conduitMm }: Raceway, { cableFactor, conduitFactor, smallestMm }: ConduitFill): string {
  const remedy = smallestMm
    ? `${smallestMm} mm holds them.`
    : 'No listed size holds them: divide the circuits over two, or put a draw-in box between.'
  return `its cables come to a factor of ${cableFactor}, and ${conduitMm} mm takes ${conduitFactor} there. ${remedy}`
}

function mergeSame<T extends { size: string; count: number }>(list: readonly T[]): T[] {
  const out: T[] = []
  for (const c of list) {
    const at = out.findIndex((x) => x.size === c.size)
    if (at < 0) out.push(c)
    else out[at] = { ...out[at]!, count: out[at]!.count + c.count }
  }
  return out
}

function attempt<T>(work: () => T): { value: T } | { problem: { path: string; message: string } } {
  try {
    return { value: work() }
  } catch (e) {
    if (!(e instanceof InputError)) throw e
    return { problem: { path: e.path, message: e.message } }
  }
}
