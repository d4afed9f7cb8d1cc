import { type Accessory, sharing } from '../catalogue/accessories'
import { type BoxKind, boxesBySize, boxKind } from '../catalogue/boxes'
import { type Finding, listed } from '../base/finding'
import type { BoxRecord } from '../job/box'
import type { Circuit, CircuitPoint, Installation } from '../installation/installation'
import { formatSmallLength } from '../base/format'
import { grouped } from '../base/grouped'
import { atMost } from '../base/tolerance'
import { type BoxFill, boxFill, type BoxFillInput } from '../calculate/box-fill'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'

export interface DepthNeed {
  readonly neededMm: number
  readonly availableMm: number
  readonly parts: readonly { what: string; mm: number }[]
}

export interface BoxReport {
  readonly kind: BoxKind | null
  /** North America: counted volume. */
  readonly fill: { input: BoxFillInput; output: BoxFill } | null
  /** 230 V worlds: depth behind the accessory. */
  readonly depth: DepthNeed | null
  readonly smallest: BoxKind | null
  readonly withRoom: BoxKind | null
  readonly findings: readonly Finding[]
}

/** What the box must hold, from the circuits as they are designed. */
export interface BoxContents {
  /** What is in it; none in a joint box. */
  readonly fitted: readonly Accessory[]
  /** Points that are in it and that no circuit of the job wires: what they bring with them is not known. */
  readonly unknown: readonly string[]
  /** Widths in gangs of all that is in it side by side. */
  readonly gangs: readonly (1 | 2)[]
  /** The thickest line conductor that comes to the accessory. */
  readonly size: string
  readonly protectiveSize: string
  /** The cables that enter it: size, and conductors besides the protective one. */
  readonly cables: readonly { readonly size: string; readonly conductors: number }[]
}

/** What shares plates, as many on each as one gang of its kind takes: three plate switches, or two modules of a grid plate. */
export function platesOf<T>(
  those: readonly T[],
  fitted: (of: T) => Accessory | undefined,
): readonly { readonly as: keyof typeof sharing; readonly on: readonly T[] }[] {
  return [
    ...grouped(
      those.filter((x) => fitted(x)?.shares),
      (x) => fitted(x)!.shares!,
    ),
  ].flatMap(([as, of]) =>
    Array.from({ length: Math.ceil(of.length / sharing[as]) }, (_, i) => ({ as, on: of.slice(i * sharing[as], (i + 1) * sharing[as]) })),
  )
}
/**
 * Widths in gangs of what is in a box side by side. A light is no device on a yoke; in the metric worlds plate switches and modules of
 * a grid share plates.
 */
export function widthsOf(fitted: readonly (Accessory | undefined)[]): readonly (1 | 2)[] {
  const rest = fitted.filter((a) => !a?.shares && (a?.kind !== 'light' || a.boxDepthMm > 0)).map((a) => a?.gangs ?? 1)
  return [...rest, ...platesOf(fitted, (a) => a).map(() => 1 as const)]
}

/** Full to this part, a box still leaves room for one more cable another day. */
const ROOMY_FRACTION = 0.8

/** Counted allowances for this box. NFPA 70 314.16(B). */
function fillInput(box: BoxRecord, kind: BoxKind, { gangs, size, protectiveSize, cables }: BoxContents): BoxFillInput {
  const bySize = new Map<string, number>()
  for (const k of cables) bySize.set(k.size, (bySize.get(k.size) ?? 0) + k.conductors)
  return {
    boxVolumeCm3: kind.volumeCm3,
    conductors: [...bySize].map(([of, count]) => ({ size: of, count })),
    internalClamps: box.internalClamps ?? kind.internalClamps,
    supportFittings: box.supportFittings,
    devices: gangs.map((gangWidth) => ({ size, gangWidth })),
    grounding: { count: cables.length, largestSize: protectiveSize },
  }
}

/** Depth that joints take, of the usual kinds. */
const CONNECTORS_MM = 20
const sizeMm2 = (size: string): number => Number.parseFloat(size)

/** The box that is there or will be: the one planned in place of what was found, one of the catalogue, or as it was measured. */
export function enclosureOf(
  region: RegionId,
  { kind, planned, measured }: Pick<BoxRecord, 'kind' | 'planned' | 'measured'>,
): BoxKind | null {
  if (planned) return boxKind(planned.kind) ?? null
  if (!measured) return boxKind(kind) ?? null
  const { volumeCm3, depthMm, gangs, metal } = measured
  // What decides whether it holds its contents was not measured.
  if (worlds[region].boxesBy === 'volume' ? volumeCm3 === null : depthMm === null) return null
  return {
    id: 'measured',
    name: 'Box as measured',
    regions: [region],
    gangs,
    shape: 'rectangular',
    depthMm: depthMm ?? 0,
    volumeCm3: volumeCm3 ?? 0,
    mounting: 'screws to framing',
    internalClamps: false,
    weatherproof: false,
    metal: metal !== false,
  }
}

/** Whether an accessory is made for conductors that take room to turn: that of a heavy load, and for so large a size. */
const madeFor = (a: BoxContents['fitted'][number] | undefined, mm2: number): boolean =>
  a !== undefined && a.ratingA > 20 && sizeMm2(a.largestSize) >= mm2

/** Depth behind the plate: what the accessory asks for, and the room that stiffer and further cables need to turn. */
function depthNeed({ fitted, size, cables }: Pick<BoxContents, 'fitted' | 'size' | 'cables'>): Omit<DepthNeed, 'availableMm'> {
  const mm2 = sizeMm2(size)
  const deepest = fitted.toSorted((a, b) => b.boxDepthMm - a.boxDepthMm)[0]
  const parts = [
    deepest ? { what: deepest.name, mm: deepest.boxDepthMm } : { what: 'connectors', mm: CONNECTORS_MM },
    // The depth that a maker asks for is for the conductors its terminals are made for.
    { what: `bend of ${size.replace('mm2', 'mm²')} conductors`, mm: madeFor(deepest, mm2) ? 0 : mm2 >= 10 ? 12 : mm2 >= 6 ? 6 : 0 },
    {
      what: cables.length === 3 ? '1 cable beyond two' : `${Math.max(0, cables.length - 2)} cables beyond two`,
      mm: 10 * Math.max(0, cables.length - 2),
    },
  ].filter((p) => p.mm > 0)
  return { neededMm: parts.reduce((sum, p) => sum + p.mm, 0), parts }
}

/** What an accessory asks for that its box is not deep enough for; null: it is, or boxes are judged by volume, or the box is not chosen. */
export function tooShallowFor(
  job: Installation,
  box: BoxRecord,
  contents: Pick<BoxContents, 'fitted' | 'size' | 'cables'>,
): Finding | null {
  const kind = worlds[job.region].boxesBy === 'depth' ? enclosureOf(job.region, box) : null
  const { neededMm } = depthNeed(contents)
  return kind && !atMost(neededMm, kind.depthMm) ? shallow(job, neededMm, kind.depthMm) : null
}
const shallow = (job: Installation, neededMm: number, availableMm: number, better = ''): Finding => ({
  rule: 'box-too-shallow',
  severity: 'error',
  clause: worlds[job.region].cites.boxDepth,
  message:
    `The accessory and its cable need ${formatSmallLength(neededMm, 'metric')} of depth and the box has ` +
    `${formatSmallLength(availableMm, 'metric')}.${better}`,
})

/** NEC box fill has rows only to 6 AWG; larger conductors are sized by 314.28 instead. */
const fillListed = (size: string): boolean => ['14 AWG', '12 AWG', '10 AWG', '8 AWG', '6 AWG'].includes(size)

const allListed = ({ size, protectiveSize, cables }: BoxContents): boolean =>
  [size, protectiveSize, ...cables.map((k) => k.size)].every(fillListed)

type Need = ReturnType<typeof depthNeed>

function use(
  job: Installation,
  box: BoxRecord,
  kind: BoxKind,
  contents: BoxContents,
  need: Need,
): { fits: boolean; fraction: number; fill: BoxReport['fill']; depth: DepthNeed | null } {
  if (worlds[job.region].boxesBy === 'volume') {
    if (!allListed(contents)) return { fits: false, fraction: Number.POSITIVE_INFINITY, fill: null, depth: null }
    const input = fillInput(box, kind, contents)
    const output = boxFill(input)
    return { fits: output.fits, fraction: output.fillFraction, fill: { input, output }, depth: null }
  }
  const depth = { availableMm: kind.depthMm, ...need }
  return { fits: atMost(depth.neededMm, depth.availableMm), fraction: depth.neededMm / depth.availableMm, fill: null, depth }
}

type Environment = Installation['brief']['environment']
const isWet = (environment: Environment): boolean => environment === 'wet' || environment === 'outdoors'

/** The wettest place that any of these points of a circuit is in; null while none is known to be wet and one is not known. */
export function wettestOf(
  job: Installation,
  circuit: Pick<Circuit, 'environment' | 'points'>,
  points: readonly Pick<CircuitPoint, 'environment'>[] = circuit.points,
): Environment {
  const all = circuit.environment ?? job.brief.environment
  const places = points.length ? points.map((p) => p.environment ?? all) : [all]
  return places.find(isWet) ?? (places.includes(null) ? null : (places.find((e) => e === 'damp') ?? 'dry'))
}

const weatherClause: Record<Installation['region'], string> = {
  'north-america': '314.15; 406.9(B)',
  'united-kingdom': '512.2',
  'southern-africa': 'SANS 10142-1 degrees of protection; IEC 60529',
}

/** Judges the chosen box and names the smallest that fits and one with room, of the same mounting where there is one. */
export function evaluateBox(
  job: Installation,
  box: BoxRecord,
  contents: BoxContents | null,
  environment: Environment = job.brief.environment,
): BoxReport {
  const kind = enclosureOf(job.region, box)
  if (contents === null) return { kind, fill: null, depth: null, smallest: null, withRoom: null, findings: [] }
  const need = depthNeed(contents)
  const gangs = contents.gangs.reduce<number>((sum, g) => sum + g, 0)
  const suits = (b: BoxKind) =>
    b.gangs >= gangs &&
    (!isWet(environment) || b.weatherproof) &&
    b.mounting !== 'ceiling' &&
    b.mounting !== 'set in a floor' &&
    b.shape !== 'round'
  const plain = { ...box, internalClamps: null }
  const byVolume = worlds[job.region].boxesBy === 'volume'
  const fitsWithin = (b: BoxKind, limit: number) => {
    if (!byVolume) return atMost(need.neededMm, b.depthMm) && atMost(need.neededMm / b.depthMm, limit)
    const used = use(job, plain, b, contents, need)
    return used.fits && atMost(used.fraction, limit)
  }
  const ranked = boxesBySize(job.region)
  const first = (limit: number, mounting?: BoxKind['mounting']) =>
    ranked.find((b) => (mounting === undefined || b.mounting === mounting) && suits(b) && fitsWithin(b, limit)) ?? null
  const sameMounting = kind ? first(1, kind.mounting) : null
  const mounting = sameMounting ? kind!.mounting : undefined
  const smallest = sameMounting ?? first(1)
  const withRoom = first(ROOMY_FRACTION, mounting)
  if (!kind) return { kind, fill: null, depth: null, smallest, withRoom, findings: [] }

  const used = use(job, box, kind, contents, need)
  const better = smallest ? ` ${smallest.name} is the smallest that fits.` : ''
  const findings: Finding[] = (used.fill?.output.findings ?? []).map((f) => ({ ...f, message: f.message + better }))
  if (worlds[job.region].boxesBy === 'volume' && !allListed(contents))
    findings.push({
      rule: 'box-fill-not-listed',
      severity: 'unknown',
      clause: '314.16(B); 314.28',
      message:
        `Box fill has no allowance for ${contents.size}; a box for conductors of 4 AWG and larger is sized by its dimensions. Work ` +
        'it out by 314.28.',
    })
  if (kind.gangs < gangs)
    findings.push({
      rule: 'box-too-narrow',
      severity: 'error',
      clause: worlds[job.region].cites.boxWidth,
      message:
        `${contents.gangs.length === 1 && contents.fitted[0] ? `${contents.fitted[0].name} is` : 'Its accessories together are'} ` +
        `${gangs} gangs wide and this ` +
        `box takes ${kind.gangs}. Fit a wider box.`,
    })
  if (contents.unknown.length)
    findings.push({
      rule: 'box-contents-unknown',
      severity: 'unknown',
      clause: worlds[job.region].cites[worlds[job.region].boxesBy === 'volume' ? 'boxWidth' : 'boxDepth'],
      message:
        `${listed(contents.unknown)} ${contents.unknown.length === 1 ? 'is' : 'are'} in this box too, on no circuit of this ` +
        'job: the space their cables take is not counted. Open the box, and enter the other cables in it.',
    })
  if (used.depth && !used.fits) findings.push(shallow(job, used.depth.neededMm, used.depth.availableMm, better))
  if (isWet(environment) && !kind.weatherproof)
    findings.push({
      rule: 'box-not-weatherproof',
      severity: 'error',
      clause: weatherClause[job.region],
      message: `Where it is ${environment} this box keeps no water out. Fit a weatherproof enclosure there.`,
    })
  return { kind, fill: used.fill, depth: used.depth, smallest, withRoom, findings }
}
