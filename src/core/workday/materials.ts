import { accessory } from '../catalogue/accessories'
import { type Connector, connector, connectorFor } from '../catalogue/connectors'
import type { BoardWay } from '../build/boards'
import { type Box, pointOf, unitsAhead } from '../build/box'
import { enclosureOf, platesOf, widthsOf } from '../build/choose-box'
import { longScrews } from '../build/mounting'
import { connectorsLeft, removedFrom } from '../build/removed'
import { build, type BuiltCable } from '../build/build'
import type { BuiltRaceway } from '../build/raceways'
import { cablePrice, priceOf, type PriceName } from '../design/prices'
import { type WireColour, wireColours } from '../region/colours'
import { reelWords } from './pieces'
import { fittingsOf } from './raceway-fittings'
import type { Report } from '../report/report'
import type { Installation } from '../installation/installation'
import { CAP } from '../job/bench'
import type { DayRecord } from '../job/day'
import { listed } from '../base/finding'
import { formatLength, formatSize, formatSmallLength, uncapitalised, type UnitSystem } from '../base/format'
import { worlds } from '../region/worlds'
import type { Task } from './tasks'

export interface Material {
  readonly id: string
  readonly kind: MaterialKind
  readonly what: string
  readonly size?: string
  /** Cores besides the protective one. */
  readonly cores?: number
  readonly colour?: WireColour
  readonly poles?: number
  readonly ratingA?: number
  readonly count: number
  readonly unit: '' | 'm'
  /** Where it is used, in words: circuits and raceways. */
  readonly where: readonly string[]
  /** Where it goes: points, ways, cables and raceways, by their id. */
  readonly at: readonly string[]
  /** Of one, and by what name it is priced; null: no price is known for it. */
  readonly price: number | null
  readonly priceName: string | null
  /** A usual figure, not one of the firm's. */
  readonly usual: boolean
}
export interface Materials {
  readonly lines: readonly Material[]
  /** What cannot be counted yet, and why. */
  readonly unknown: readonly string[]
}

/** Of what is cut, this part more is taken along: ends are lost and lengths are longer than they are drawn. */
const SPARE_PART = 0.1

export const materialKinds = [
  'cable',
  'conductor',
  'box',
  'accessory',
  'device',
  'connector',
  'raceway',
  'fitting',
  'support',
  'plate',
  'label',
  'other',
] as const
export type MaterialKind = (typeof materialKinds)[number]

interface Wanted extends Omit<Material, 'where' | 'usual' | 'price' | 'priceName' | 'at'> {
  readonly where: string | readonly string[]
  readonly at: readonly string[]
  readonly price?: number | null
  readonly priceName?: string | null
}

const circuitName = (report: Pick<Report, 'circuits'>, id: string | null): string =>
  report.circuits.find((c) => c.circuit.id === id)?.circuit.name ?? ''
const liveCores = ({ cores }: BuiltCable): number => cores.filter((c) => c.role !== 'pe').length

/** New cable by its kind, size and cores; conductors that are drawn into a raceway by size and colour. */
function cableLines(job: Installation, report: Pick<Report, 'circuits'>, k: BuiltCable, unknown: string[]): Wanted[] {
  if (k.state !== 'new' || k.kind === 'pigtail' || k.type === null) return []
  const where = circuitName(report, k.circuit)
  const { type, size } = k
  if (size === null) {
    unknown.push(`${where}: the size of its cable is not known yet.`)
    return []
  }
  if (k.cutM === null && k.lengthM === null) {
    unknown.push(
      k.kind === 'appliance'
        ? `${where}: the length of the cable to its appliance is not known.`
        : `${where}: the length of its cable is not known.`,
    )
    return []
  }
  const metres = k.cutM ?? k.lengthM! * (1 + SPARE_PART)
  if (k.singles)
    return k.cores.map((c): Wanted => {
      const own = c.role === 'pe' ? (k.protectiveSize ?? size) : size
      const { colour } = c
      const words = wireColours[colour].name
      return {
        id: `conductor ${type} ${own} ${colour}`,
        kind: 'conductor',
        what: `${reelWords({ cable: type, size: own })}, ${words}`,
        size: own,
        colour,
        count: metres,
        unit: 'm',
        where,
        at: [k.id],
        price: cablePrice(job, type, own),
        priceName: `${type} ${own}`,
      }
    })
  const cores = liveCores(k)
  return [
    {
      id: `cable ${type} ${size}${cores > 2 ? ` ${cores} cores` : ''}`,
      kind: 'cable',
      what: `${reelWords({ cable: type, size })}${cores > 2 ? `, ${cores} cores` : ''}`,
      size,
      cores,
      count: metres,
      unit: 'm',
      where,
      at: [k.id],
      price: cablePrice(job, type, size),
      priceName: `${type} ${size}`,
    },
  ]
}

/** Straps or clips along a cable, as far apart as the world has them, and one at each end. */
function supportLines(job: Installation, report: Pick<Report, 'circuits'>, k: BuiltCable): Wanted[] {
  if (k.state !== 'new' || k.kind !== 'recorded' || k.singles || k.lengthM === null || k.size === null) return []
  const { levelM } = worlds[job.region].supports
  return [
    {
      id: `support ${k.size}`,
      kind: 'support',
      what: `${worlds[job.region].splitPhase ? 'Cable staples or straps' : 'Cable clips'}, ${formatSize(k.size)}`,
      size: k.size,
      count: Math.floor(k.lengthM / levelM) + 2,
      unit: '',
      where: circuitName(report, k.circuit),
      at: [k.id],
    },
  ]
}

const one = (kind: MaterialKind, id: string, what: string, where: Wanted['where'], at: string, more: Partial<Wanted> = {}): Wanted => ({
  id,
  kind,
  what,
  count: 1,
  unit: '',
  where,
  at: [at],
  ...more,
})

/** The circuits that what is in a box is of, in words. */
const circuitsOf = (report: Pick<Report, 'circuits'>, box: Box): readonly string[] =>
  [...new Set(box.points.map((p) => circuitName(report, p.circuit)))].filter(Boolean)

/** What a box takes: itself, what is fitted in it, its plate, and its joints. What was there already is not bought. */
function boxLines(job: Installation, report: Pick<Report, 'circuits'>, box: Box, unknown: string[]): Wanted[] {
  const record = job.boxes.find((b) => b.id === box.id)
  const where = circuitsOf(report, box)
  // Where something stood before, its box is there, unless another is put in its place.
  const put = box.besides.length === 0 && box.points.every((p) => p.state === 'new')
  const buys = put || record?.planned !== undefined
  const fresh = box.devices.filter((d) => pointOf(box, d)?.state === 'new')
  const touched = buys || fresh.length > 0 || box.cables.some((k) => k.fresh)
  const kind = record ? enclosureOf(job.region, record) : null
  if (buys && !kind) unknown.push(`${box.name}: its box is not chosen.`)
  for (const unit of unitsAhead(box))
    if (pointOf(box, unit)?.state === 'new')
      unknown.push(
        `${pointOf(box, unit)!.name}: the box of its fused connection unit is not chosen. ` +
          'Enter the unit as a point of its own and choose its box there.',
      )
  const gangs = widthsOf(box.devices.map(({ kind: d }) => accessory(d.id))).reduce<number>((n, w) => n + w, 0)
  const { splitPhase } = worlds[job.region]
  // Several switches on one plate are one thing to buy.
  const plates = platesOf(fresh, (d) => accessory(d.kind.id)).flatMap(({ as, on }) => (as === 'plate' && on.length > 1 ? [on] : []))
  const together = new Set(plates.flat())
  const modules = box.devices.filter((d) => accessory(d.kind.id)?.shares === 'grid').length
  const alone = fresh.filter((d) => !together.has(d))
  const plate = box.devices.length === 0 ? 'Blank plate' : splitPhase && gangs > 0 ? `Cover plate, ${gangs} gang` : null
  const priceName = (id: string): PriceName => (accessory(id)?.residual ? 'outlet with residual protection' : 'outlet')
  return [
    ...(buys && kind ? [one('box', `box ${kind.id}`, kind.name, where, box.id, { price: priceOf(job, 'box'), priceName: 'box' })] : []),
    ...plates.map((on) =>
      one(
        'accessory',
        `plate ${on
          .map((d) => d.kind.id)
          .toSorted()
          .join(' ')}`,
        `Plate with ${on.length} switches: ${listed(on.map((d) => uncapitalised(d.kind.name)))}`,
        where,
        box.id,
        { price: priceOf(job, 'outlet'), priceName: 'outlet' },
      ),
    ),
    ...alone.map(({ kind: d, point }) =>
      one('accessory', `accessory ${d.id}`, d.name, circuitName(report, box.points.find((p) => p.id === point)!.circuit), point, {
        price: priceOf(job, priceName(d.id)),
        priceName: priceName(d.id),
      }),
    ),
    ...screwLines(job, box, fresh, put, where, unknown),
    // Modules are bought one by one, their frame and plate with the box or with the first of them.
    ...(modules > 0 && (buys || fresh.length > 0)
      ? [one('plate', `grid ${modules}`, `Grid frame and plate for ${modules} module${modules > 1 ? 's' : ''}`, where, box.id)]
      : []),
    ...((buys || fresh.length > 0) && plate ? [one('plate', `plate ${plate}`, plate, where, box.id)] : []),
    ...(touched ? connectorsIn(job.region, box).map((c) => one('connector', `connector ${c.id}`, c.name, where, box.id)) : []),
  ]
}

/** Screws longer than those that come with an accessory, where its box lies behind the finished face. */
function screwLines(
  job: Installation,
  box: Box,
  fresh: Box['devices'],
  put: boolean,
  where: readonly string[],
  unknown: string[],
): readonly Wanted[] {
  const held = fresh.map(({ kind }) => accessory(kind.id)).filter((a) => a?.kind !== 'light')
  if (held.length === 0) return []
  const setBackMm = job.boxes.find((b) => b.id === box.id)?.mount?.setBackMm
  // A box that is put in is put in flush; one that was there is where it is.
  if (setBackMm == null && !put)
    unknown.push(`${box.name}: how far its box is behind the finished face is not known; longer screws may be needed.`)
  const long = longScrews(job, setBackMm)
  if (!long?.lengthMm) return []
  const plates = worlds[job.region].boxesBy === 'volume' ? held.length : widthsOf(held).length
  const length = formatSmallLength(long.lengthMm, worlds[job.region].units)
  return [
    { ...one('other', `screws ${long.thread} ${long.lengthMm}`, `${long.thread} screws, ${length}`, where, box.id), count: 2 * plates },
  ]
}

/** Connectors of a box: of its joints, and one on each conductor that is capped. */
export const connectorsIn = (region: Installation['region'], { bench, cables }: Box): readonly Connector[] => [
  ...bench.connectors.map((c) => connector(c.kind)).filter((c) => !c.ofBox),
  ...cables
    .flatMap((k) => (k.fresh ? k.ends : []))
    .flatMap((e) => (bench.ends.some((x) => x.end === e.name && x.to === CAP) ? [connectorFor(region, 1, false)] : [])),
]

/** What it takes to leave safe what is taken out. */
function removedLines(job: Installation, unknown: string[]): Wanted[] {
  return removedFrom(job).flatMap((r): Wanted[] => {
    const { point, left, stays } = r
    if (left === null) {
      unknown.push(`${point.name}: what is left where it is taken out is not decided.`)
      return []
    }
    if (left === 'capped' && r.cables === null)
      unknown.push(`${point.name}: how many cables end in its box is not known, so the connectors it takes are not counted.`)
    const connectors = connectorsLeft(job, r)
    const { id } = point.box
    return [
      ...(stays || left === 'made-good' ? [] : [one('plate', 'plate Blank plate', 'Blank plate', point.name, id)]),
      ...(left === 'made-good' ? [one('other', 'making good', 'Filler, or a patch, to make good', point.name, id)] : []),
      ...(connectors
        ? [
            {
              ...one('connector', `connector ${connectors.of.id}`, connectors.of.name, point.name, id),
              count: connectors.count,
            },
          ]
        : []),
    ]
  })
}

/** What is marked in boxes and at boards: tape or sleeve by its colour. */
function markLines(report: Pick<Report, 'circuits'>, boxes: readonly Box[]): Wanted[] {
  return boxes.flatMap((b) => {
    const colours = new Set(
      b.cables.flatMap((k) =>
        k.fresh ? k.ends.flatMap((e) => (b.bench.marked.includes(e.name) && e.conductor.remark ? [e.conductor.remark] : [])) : [],
      ),
    )
    return [...colours].map((c) => ({
      ...one('other', `marking ${c}`, `Marking tape or sleeve, ${wireColours[c].name}`, circuitsOf(report, b), b.id),
      count: 0,
    }))
  })
}

function deviceLines(job: Installation, report: Pick<Report, 'circuits'>, ways: readonly BoardWay[]): Wanted[] {
  const rcd = worlds[job.region].words.rcd
  return ways.flatMap((w): Wanted[] => {
    const d = w.planned
    if (!d) return []
    const own = d.kind === 'breaker-residual'
    const name: PriceName = own ? 'breaker with residual protection' : 'breaker'
    const rating = `${d.curve ?? ''}${d.ratingA} A, ${d.poles} pole${d.poles > 1 ? 's' : ''}`
    const type = d.type ? ` type ${d.type}` : ''
    return [
      one(
        'device',
        `breaker ${d.curve ?? ''}${d.ratingA} ${d.poles} ${own}`,
        `Breaker, ${rating}${own ? `, with ${rcd} ${d.tripMa ?? '?'} mA${type}` : ''}`,
        circuitName(report, w.circuit),
        w.id,
        { ratingA: d.ratingA!, poles: d.poles, price: priceOf(job, name), priceName: name },
      ),
    ]
  })
}

/** The pipe of a raceway by length, with its fittings. */
export function racewayLines(job: Installation, built: readonly BuiltRaceway[], reports: Report['raceways'], unknown: string[]): Wanted[] {
  const { splitPhase } = worlds[job.region]
  return built.flatMap(({ raceway, runsM, piecesM }): Wanted[] => {
    const pipe = splitPhase ? raceway.kind.toUpperCase() : 'Conduit'
    const size = splitPhase ? raceway.tradeSize : `${raceway.conduitMm} mm`
    const key = splitPhase ? `${raceway.kind} ${raceway.tradeSize}` : `conduit ${raceway.conduitMm}`
    if (runsM === null || piecesM === null) {
      unknown.push(`${raceway.name}: the length of its pipe is not known.`)
      return []
    }
    if (worlds[job.region].racewayFill !== 'area')
      unknown.push(`${raceway.name}: its saddles are not counted; space them as the maker of the conduit says.`)
    const of = { raceway, runsM, piecesM }
    const report = reports.find((r) => r.raceway.id === raceway.id)
    return [
      {
        ...one('raceway', `raceway ${key}`, `${pipe}, ${size}`, raceway.name, raceway.id, {
          price: priceOf(job, 'conduit, a metre'),
          priceName: 'conduit, a metre',
        }),
        count: runsM.reduce((sum, m) => sum + m, 0),
        unit: 'm',
      },
      ...fittingsOf(job, of, report).map((f): Wanted => {
        const kind = f.key === 'strap' || f.key === 'anchor' ? 'support' : f.key === 'cement' ? 'other' : 'fitting'
        const id = kind === 'fitting' ? `fitting ${f.key}` : f.key
        return {
          ...one(kind, f.sized ? `${id} ${key}` : id, f.sized ? `${pipe} ${f.words}, ${size}` : f.words, raceway.name, raceway.id),
          // A tin serves all pipes.
          count: f.key === 'cement' ? 0 : f.count,
        }
      }),
    ]
  })
}

/** New cables of extra-low voltage and telecommunication, by kind and cores. */
function signalLines(job: Installation, unknown: string[]): Wanted[] {
  const { kindNames } = worlds[job.region].separation
  return (job.record.signalCables ?? []).flatMap((k): Wanted[] => {
    if (k.state !== 'new') return []
    const labels = { ...one('label', 'label cable', 'Cable labels', k.name, k.id), count: 2 }
    if (k.lengthM === null) {
      unknown.push(`${k.name}: its length is not known.`)
      return [labels]
    }
    const cores = k.cores === null ? '' : `, ${k.cores} ${k.kind === 'data' || k.kind === 'telephone' ? 'pairs' : 'conductors'}`
    return [
      {
        ...one('cable', `signal ${k.kind} ${k.cores ?? ''}`, `${kindNames[k.kind]}${cores}`, k.name, k.id),
        count: k.lengthM * (1 + SPARE_PART),
        unit: 'm',
      },
      labels,
    ]
  })
}

/** Everything that will be there and is not there yet, counted from the build, what is alike together. */
export function materialsOf(job: Installation, report: Pick<Report, 'circuits' | 'raceways'>): Materials {
  const unknown: string[] = []
  const built = build(job, report.circuits)
  for (const { circuit, ends } of report.circuits)
    if (circuit.kind !== 'feeder' && ends.some((e) => !e.joint && !e.fitted)) unknown.push(`${circuit.name}: no accessory is chosen.`)
  const wanted: Wanted[] = [
    ...deviceLines(
      job,
      report,
      built.boards.flatMap((b) => b.ways),
    ),
    ...built.cables.flatMap((k) => cableLines(job, report, k, unknown)),
    ...built.boxes.flatMap((b) => boxLines(job, report, b, unknown)),
    ...racewayLines(job, built.raceways, report.raceways, unknown),
    ...signalLines(job, unknown),
    ...removedLines(job, unknown),
    ...built.cables.flatMap((k) => supportLines(job, report, k)),
    ...markLines(report, built.boxes),
    ...built.cables.flatMap((k) =>
      k.kind === 'recorded' && k.state === 'new'
        ? [{ ...one('label', 'label cable', 'Cable labels', circuitName(report, k.circuit), k.id), count: 2 }]
        : [],
    ),
  ]
  return { lines: gathered(job, wanted), unknown: [...new Set(unknown)] }
}

function gathered(job: Installation, wanted: readonly Wanted[]): readonly Material[] {
  const lines = new Map<string, Material>()
  for (const { where, at, price = null, priceName = null, ...w } of wanted) {
    const known = lines.get(w.id)
    const usual = priceName !== null && job.prices[priceName] === undefined
    lines.set(w.id, {
      ...w,
      count: (known?.count ?? 0) + w.count,
      where: [...new Set([...(known?.where ?? []), ...[where].flat()])].filter(Boolean),
      at: [...new Set([...(known?.at ?? []), ...at])],
      price,
      priceName,
      usual,
    })
  }
  // A roll of tape serves all ends.
  return [...lines.values()].map((l) => ({ ...l, count: l.unit === 'm' ? Math.ceil(l.count * 10) / 10 : Math.max(1, l.count) }))
}

/** How much of it, in the reader’s units. */
export const amountWords = ({ count, unit }: Pick<Material, 'count' | 'unit'>, units: UnitSystem): string =>
  unit === 'm' ? formatLength(count, units) : String(count)

/** A quotation as it was accepted, with what was agreed since, against what the design comes to now. */
export interface Agreed {
  readonly total: number
  /** What the design comes to now beyond what is agreed; below zero where it is less. */
  readonly notAgreed: number
}
/** Null while nothing was accepted. */
export function agreedOf({ accepted, variations }: DayRecord, now: Pick<Offer, 'total'>): Agreed | null {
  if (!accepted) return null
  const total = accepted.total + (variations ?? []).reduce((sum, v) => sum + v.amount, 0)
  return { total, notAgreed: now.total - total }
}

export interface Offer {
  readonly labourH: number
  readonly labour: number
  readonly materials: number
  readonly margin: number
  readonly tax: number
  readonly total: number
  /** Something in it is a usual figure of ours, or is not known: no offer to sign. */
  readonly usual: boolean
  readonly unknown: readonly string[]
}

const unpriced = (lines: readonly Material[]): readonly string[] => {
  const without = lines.filter((l) => l.price === null).map((l) => l.what)
  return without.length ? [`No price is known for: ${listed(without, 4, '; ')}.`] : []
}

/** What the work comes to, by the firm's own figures where it has them; usual ones are said to be such. */
export function offerOf(job: Installation, { lines, unknown }: Materials, tasks: readonly Task[]): Offer {
  const hours =
    tasks.reduce((sum, t) => sum + (t.kind === 'trade' || t.kind === 'break' || t.kind === 'delivery' ? 0 : t.minutes * t.people), 0) / 60
  const hour = priceOf(job, 'an hour')
  const labour = hours * hour
  const materials = lines.reduce((sum, l) => sum + l.count * (l.price ?? 0), 0)
  const margin = ((labour + materials) * (job.day?.marginPercent ?? 0)) / 100
  const tax = ((labour + materials + margin) * (job.day?.taxPercent ?? 0)) / 100
  return {
    labourH: hours,
    labour,
    materials,
    margin,
    tax,
    total: labour + materials + margin + tax,
    usual: job.prices['an hour'] === undefined || lines.some((l) => l.usual),
    unknown: [
      ...unknown,
      ...unpriced(lines),
      ...tasks.flatMap((t) => (t.presumed ? [`${t.name}: ${t.presumed}.`] : [])),
      ...(job.day?.marginPercent == null ? ['No markup entered; none is included.'] : []),
      ...(job.day?.taxPercent == null ? ['No tax entered; none is included.'] : []),
    ],
  }
}
