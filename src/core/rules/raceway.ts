import type { Finding } from '../finding'
import { InputError } from '../input-error'
import type { Circuit, Job, Raceway } from '../job/schema'
import { formatPercent, formatSmallLength, type UnitSystem } from '../quantity/format'
import { naCircularMils, naGroundingSize } from '../region/north-america'
import { pvcExpansion } from '../raceway/pvc-expansion'
import { racewayBends } from '../raceway/raceway-bends'
import { racewayFill } from '../raceway/raceway-fill'

/** What a circuit puts into a raceway, once it is worked out. */
export interface InRaceway {
  readonly circuit: Circuit
  readonly size: string | null
  readonly breakerA: number | null
  readonly cable: string
}

export interface RacewayReport {
  readonly raceway: Raceway
  readonly inside: readonly InRaceway[]
  readonly conductors: readonly { readonly insulation: 'thwn-2' | 'bare'; readonly size: string; readonly count: number }[]
  /** One protective conductor for all, sized for the largest breaker. */
  readonly protectiveSize: string | null
  readonly fill: ReturnType<typeof racewayFill> | null
  readonly loadedConductors: number
  readonly bends: ReturnType<typeof racewayBends> | null
  readonly bendProblem: { readonly path: string; readonly message: string } | null
  readonly expansion: ReturnType<typeof pvcExpansion> | null
  readonly findings: readonly Finding[]
}

const insulatedIn = (c: Circuit): number => (c.kind === 'shared-neutral' || c.kind === 'feeder' ? 3 : 2)

/** A raceway with its circuits: fill, grouping, bends and expansion. NFPA 70 Chapter 9, 250.122(C), 352.44, 358.26. */
export function racewayReport(job: Job, raceway: Raceway, sizes: (id: string) => InRaceway | undefined, units: UnitSystem = 'metric'): RacewayReport {
  const inside = raceway.circuits.flatMap((id) => sizes(id) ?? [])
  const single = (i: InRaceway) => i.cable === 'thwn-2' || i.cable === 'singles'
  const sheathed = inside.filter((i) => !single(i))
  const drawn = inside.filter(single)
  const known = drawn.every((i) => i.size !== null && i.breakerA !== null)
  const na = job.region === 'north-america'
  const protectiveSize = na && known && drawn.length ? drawn.map((i) => naGroundingSize(i.breakerA!)).toSorted((a, b) => naCircularMils(b) - naCircularMils(a))[0]! : null
  const bySize = new Map<string, number>()
  if (na && known) for (const i of drawn) bySize.set(i.size!, (bySize.get(i.size!) ?? 0) + insulatedIn(i.circuit))
  const conductors = [...[...bySize].map(([size, count]) => ({ insulation: 'thwn-2' as const, size, count })), ...(protectiveSize ? [{ insulation: 'thwn-2' as const, size: protectiveSize, count: 1 }] : [])]
  const merged = mergeSame(conductors)
  const fill = merged.length ? attempt(() => racewayFill({ raceway: raceway.kind, tradeSize: raceway.tradeSize, nipple: raceway.nipple, conductors: merged })) : null
  const bent = raceway.bends.length ? attempt(() => racewayBends({ tradeSize: raceway.tradeSize, items: raceway.bends.map(({ id: _, ...item }) => item) })) : null
  const expansion = raceway.kind.startsWith('pvc') && raceway.lengthM !== null && raceway.maxC >= raceway.minC ? pvcExpansion({ lengthM: raceway.lengthM, minC: raceway.minC, maxC: raceway.maxC }) : null
  const bends = bent && 'value' in bent ? bent.value : null
  const filled = fill && 'value' in fill ? fill.value : null
  const at = (rule: string, severity: Finding['severity'], clause: string, message: string): Finding => ({ rule, severity, clause, message: `${raceway.name}: ${message}` })
  return {
    raceway,
    inside,
    conductors: merged,
    protectiveSize,
    fill: filled,
    loadedConductors: inside.reduce((sum, i) => sum + (i.circuit.kind === 'feeder' ? 3 : 2), 0),
    bends,
    bendProblem: bent && 'problem' in bent ? bent.problem : null,
    expansion,
    findings: [
      ...(inside.length && (!known || !na) ? [at('raceway-fill-not-known', 'unknown', na ? 'Chapter 9 Table 1' : '522.8; maker’s factors', na ? 'its fill is not judged until every circuit in it is worked out.' : 'no fill table is published here; draw in as many as the maker’s factors allow, and no cable by force.')] : []),
      ...(sheathed.length ? [at('raceway-sheathed-cable', 'warning', na ? '300.15; Chapter 9 note 9' : '521.10; 522.8', `${sheathed.map((i) => i.circuit.name).join(', ')} ${sheathed.length === 1 ? 'is' : 'are'} in sheathed cable, which the fill does not count. Draw single conductors in, or run the cable outside it.`)] : []),
      ...(filled && !filled.fits ? [at('raceway-overfilled', 'error', 'Chapter 9 Table 1, note 7', `it is filled to ${formatPercent(100 * filled.fillFraction)}, and ${formatPercent(100 * filled.limitFraction)} is allowed. ${filled.smallestTradeSize ? `Trade size ${filled.smallestTradeSize} holds it.` : 'No listed size holds it: divide the circuits over two.'}`)] : []),
      ...(fill && 'problem' in fill ? [at('raceway-fill-not-known', 'unknown', 'Chapter 9', fill.problem.message)] : []),
      ...(bends && !bends.withinLimit ? [at('raceway-bends', 'error', '358.26; 352.26', `${bends.totalDegrees}° of bend lie between pull points, and 360° is the most. Put a pull box or an access fitting between.`)] : []),
      ...(bent && 'problem' in bent ? [at('raceway-bends', 'error', '358.24', bent.problem.message)] : []),
      ...(expansion?.fittingNeeded ? [at('raceway-expansion', 'warning', '352.44', `it changes its length by ${formatSmallLength(expansion.changeMm, units)} over the year. Put an expansion fitting in the straight run, set by the day’s temperature, its fixed end at one side and the pipe free to slide in its straps.`)] : []),
    ],
  }
}

function mergeSame<T extends { insulation: string; size: string; count: number }>(list: readonly T[]): T[] {
  const out: T[] = []
  for (const c of list) {
    const at = out.findIndex((x) => x.size === c.size && x.insulation === c.insulation)
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
