import type { Finding } from '../base/finding'
import type { Circuit, Design, Installation } from '../installation/installation'
import { formatSize, uncapitalised } from '../base/format'
import { cableNames, methodNames } from '../region/vocabulary'
import { circuitFindings } from '../rules'
import { onItsWays } from '../rules/existing'
import { type GuardFit, guardFits, guardsDownstream, withFits } from '../design/guards'
import { countFitted } from '../design/endings'
import type { Fed } from '../design/fed'
import { runLengthM } from '../design/conditions'
import { hoursPerYear } from '../design/load'
import { accessory, guardsFromOutlets } from '../catalogue/accessories'
import { ownWords } from './placements'
import { tooShallowFor } from '../build/choose-box'
import { areaMm2, cablePrice, priceOf } from '../design/prices'
import { workDesign, type WorkedDesign, workOnFeeder } from '../design/work'
import { worlds } from '../region/worlds'

/** One way to build a circuit that the application lays out by itself. */
export interface Option {
  readonly id: string
  readonly words: string
  readonly patch: Partial<Omit<Design, 'id' | 'name'>>
  /** Accessories with a residual device that it puts in place of plain ones. */
  readonly fit: readonly GuardFit[]
  readonly size: string
  readonly cost: number
  readonly dropPercent: number
  /** Amperes that the cable carries beyond what the circuit asks for. */
  readonly marginA: number
  readonly wattsLost: number
  readonly kwhAYear: number
  /** The largest breaker that this cable would allow later. */
  readonly laterA: number
  readonly protection: Design['residual']['at']
  /** What forbids it. */
  readonly refused: readonly Finding[]
  /** An option that dominates it: no worse in anything and better in something; null for those on the Pareto front. */
  readonly beatenBy: string | null
}

type Ways = { readonly words: string; readonly patch: Partial<Omit<Design, 'id' | 'name'>>; readonly inConduit: boolean }

/** Cables and manners of running that make sense to lay side by side. */
function waysToRun(job: Installation, design: Design): Ways[] {
  const now: Ways = {
    words: methodNames[design.method ?? ''] ?? cableNames[design.cable] ?? design.cable,
    patch: {},
    inConduit: design.cable === 'thwn-2' || design.cable === 'singles',
  }
  if (design.stretches.length) return [now]
  return [
    now,
    ...worlds[job.region].waysToRun
      .filter((way) => (way.cable !== design.cable || way.method !== design.method) && !(way.dryOnly && job.brief.environment !== 'dry'))
      .map(({ words, cable, method, raceway }) => ({
        words,
        patch: {
          cable,
          ...(method ? { method, insulationMm: 0 } : raceway ? { loadedConductors: Math.max(2, design.loadedConductors) } : {}),
        },
        inConduit: raceway,
      })),
  ]
}

function laterOf(job: Installation, design: Design, size: string, ampacityA: number): number {
  const world = worlds[job.region]
  const small = world.smallConductorA(design.conductor, size)
  return world.breakerRatingsA.findLast((r) => r <= Math.min(ampacityA, small) + 1e-9) ?? 0
}

function sizesAfter(job: Installation, design: Design, size: string): string[] {
  const order = worlds[job.region].sizes(design.cable, design.conductor)
  const at = order.indexOf(size)
  return order.slice(at, at + 3)
}

/** What a design costs, by the job's prices: cable, pieces and hours; null while one of its lengths is not known. */
export function costOf(job: Installation, circuit: Circuit, design: Design, worked: WorkedDesign, inConduit: boolean): number | null {
  const size = worked.result?.size
  const lengths = [
    runLengthM(circuit, design),
    ...circuit.points.map((p) => p.lengthM),
    ...(circuit.kind === 'ring' ? [circuit.closeM] : []),
  ]
  const length = lengths.includes(null) ? 0 : lengths.reduce<number>((sum, m) => sum + m!, 0)
  if (!size || length === 0) return null
  const outlets = Math.max(1, circuit.points.length || design.accessories)
  const { at } = design.residual
  const board =
    design.arcFault === 'board'
      ? priceOf(job, 'breaker with arc-fault protection')
      : at === 'board'
        ? priceOf(job, 'breaker with residual protection')
        : priceOf(job, 'breaker')
  const own = countFitted(circuit, design, (a) => a.residual)
  const guarded = at === 'outlet' ? countFitted(circuit, design, (a) => a.outlets > 0) : Math.max(own, at === 'first' ? 1 : 0)
  const pieces =
    board +
    guarded * priceOf(job, 'outlet with residual protection') +
    (outlets - guarded) * priceOf(job, 'outlet') +
    outlets * priceOf(job, 'box')
  // Thick cable and conduit take longer to lay.
  const hours = 1.5 + 0.5 * outlets + length * (0.06 + 0.004 * areaMm2(size) + (inConduit ? 0.09 : 0))
  return (
    length * 1.1 * cablePrice(job, design.cable, size) +
    (inConduit ? length * priceOf(job, 'conduit, a metre') : 0) +
    pieces +
    hours * priceOf(job, 'an hour')
  )
}

/** The circuit as it stands once protection is chosen: a way that is to be put in has a device, or none; one that is there stays. */
function asProtected(circuit: Circuit, at: Design['residual']['at']): Circuit {
  if (circuit.ways.some((w) => w.state !== 'new') || circuit.behind === null) return circuit
  if (at === 'board') return circuit.behind === 'none' ? { ...circuit, behind: null } : circuit
  return { ...circuit, behind: 'none' }
}

/** Boxes that are not deep enough for what an option fits in them. */
function boxesRefusing(job: Installation, circuit: Circuit, fit: readonly GuardFit[], size: string): readonly Finding[] {
  return fit.flatMap(({ point, accessory: id }) => {
    const p = point === null ? circuit.end : circuit.points.find((x) => x.id === point)
    const fitted = accessory(id)
    if (!p || !fitted) return []
    const cables = circuit.cables
      .filter((k) => k.state !== 'removed' && [k.from, k.to].some((e) => e.kind === 'point' && e.id === p.id))
      .map((k) => ({ size: k.size ?? size, conductors: 2 }))
    return tooShallowFor(job, p.box, { fitted: [fitted], size, cables }) ?? []
  })
}

/** The sensible set of ways to build a circuit, the good ones in front; null while it cannot be worked out. */
export function layOutOptions(job: Installation, circuit: Circuit, design: Design, fed: Fed | null = null): Option[] | null {
  const plugged = countFitted(circuit, design, (a) => a.outlets > 0)
  const own = countFitted(circuit, design, (a) => a.residual)
  const several = guardsDownstream(circuit) && (design.accessories > 1 || circuit.points.length > 1)
  const places: Design['residual']['at'][] =
    plugged && job.supply.earthing !== 'tt'
      ? [
          'none',
          'board',
          ...(several && guardsFromOutlets(job.region) ? (['first'] as const) : []),
          ...(own < plugged ? (['outlet'] as const) : []),
        ]
      : ['none', 'board']
  const name = worlds[job.region].words.rcd
  const placeWords: Record<Design['residual']['at'], string> = {
    none: own ? `${name} ${uncapitalised(ownWords(own, plugged))}` : `no ${name}`,
    board: `${name} at the ${worlds[job.region].words.board}`,
    first: `${name} in the first outlet`,
    outlet: `${name} in each outlet`,
  }
  const there = onItsWays(job, circuit)
  const raw: Omit<Option, 'beatenBy'>[] = []
  for (const way of waysToRun(job, design)) {
    const plain = { ...design, ...way.patch, minSize: null }
    const least = workOnFeeder(job, circuit, plain, fed).result?.size
    if (!least) continue
    for (const size of sizesAfter(job, plain, least))
      for (const at of places) {
        const patch = {
          ...way.patch,
          minSize: size === least ? null : size,
          residual: { ...design.residual, at, ma: worlds[job.region].personMa },
        }
        const fit = guardFits(circuit, design, at)
        if (fit === null) continue
        const { circuit: fitted, design: option } = withFits(asProtected(circuit, at), { ...design, ...patch }, fit)
        const worked = workDesign(job, fitted, option)
        const { result, load } = worked
        if (!result?.size || result.ampacityA === null || load === null) continue
        const cost = costOf(job, fitted, option, worked, way.inConduit)
        if (cost === null) continue
        const dropV = ((result.dropPercent ?? 0) / 100) * circuit.load.volts!
        const wattsLost = dropV * result.loadA
        const refused = [
          ...worked.findings,
          ...circuitFindings({ job, circuit: fitted, design: option, result, worked, fed, there }),
        ].filter((f) => f.severity === 'error')
        refused.push(...boxesRefusing(job, fitted, fit, result.size))
        raw.push({
          id: `${way.words}|${result.size}|${at}`,
          words: `${formatSize(result.size)}, ${way.words}, ${placeWords[at]}`,
          patch,
          fit,
          size: result.size,
          cost,
          dropPercent: result.dropPercent ?? 0,
          marginA: result.ampacityA - result.requiredA,
          wattsLost,
          kwhAYear: (wattsLost * hoursPerYear(circuit.load)) / 1000,
          laterA: laterOf(job, option, result.size, result.ampacityA),
          protection: at === 'none' && own > 0 && own === plugged ? 'outlet' : at,
          refused,
        })
      }
  }
  if (raw.length === 0) return null
  // What is wrong whatever is chosen is no reason against one of them.
  const always = new Set(raw[0]!.refused.map((f) => f.rule).filter((rule) => raw.every((o) => o.refused.some((f) => f.rule === rule))))
  const once = raw
    .map((o) => ({ ...o, refused: o.refused.filter((f) => !always.has(f.rule)) }))
    .filter((o, i) => raw.findIndex((x) => x.id === o.id) === i)
  return paretoFront(once).toSorted(
    (a, b) =>
      Number(a.refused.length > 0) - Number(b.refused.length > 0) ||
      Number(a.beatenBy !== null) - Number(b.beatenBy !== null) ||
      a.cost - b.cost,
  )
}

const shelter: Record<Design['residual']['at'], number> = { none: 0, outlet: 1, first: 1, board: 2 }

/** Less is better in each: cost, what the cable wastes, and the shortfall of margin, room for later and protection. */
const measures = (o: Omit<Option, 'beatenBy'>): number[] => [o.cost, o.kwhAYear, -o.marginA, -o.laterA, -shelter[o.protection]]

/** The Pareto front: an option that another dominates is marked with that one. */
function paretoFront(list: readonly Omit<Option, 'beatenBy'>[]): Option[] {
  const allowed = list.filter((o) => o.refused.length === 0)
  return list.map((o) => {
    const mine = measures(o)
    const beats = (b: Omit<Option, 'beatenBy'>) => {
      const theirs = measures(b)
      return theirs.every((v, i) => v <= mine[i]! + 1e-9) && theirs.some((v, i) => v < mine[i]! - 1e-9)
    }
    return {
      ...o,
      beatenBy: o.refused.length
        ? null
        : (allowed.filter((b) => b.id !== o.id && beats(b)).toSorted((a, b) => a.cost - b.cost)[0]?.words ?? null),
    }
  })
}
