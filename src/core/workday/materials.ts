import { accessory } from '../catalogue/accessories'
import { boxKind } from '../catalogue/boxes'
import { cablePrice, priceOf, type PriceName } from '../design/prices'
import { systemOf } from '../design/endings'
import { runLengthM, singleCores } from '../design/conditions'
import { cableConductors } from '../region/colours'
import { reelWords } from './pieces'
import type { CircuitReport, Report } from '../evaluate/evaluate'
import type { Installation } from '../installation/installation'
import { formatLength, type UnitSystem } from '../base/format'
import { worlds } from '../region/worlds'
import type { Task } from './tasks'

export interface Material {
  readonly id: string
  readonly what: string
  readonly count: number
  readonly unit: '' | 'm'
  /** Where it is used. */
  readonly where: readonly string[]
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

interface Wanted {
  readonly id: string
  readonly what: string
  readonly count: number
  readonly unit: '' | 'm'
  readonly where: string
  readonly price: number | null
  readonly priceName: string | null
}

function breakerOf(job: Installation, { circuit, chosen }: CircuitReport): Wanted[] {
  const { result, design } = chosen
  const there = circuit.ways.some((w) => w.state !== 'new' && w.ratingA !== null)
  if (!result?.breakerA || there || circuit.feeder !== null) return []
  const guarded = design.residual.at === 'board' && (circuit.behind === 'own' || circuit.behind === 'none' || circuit.behind === null)
  const name: PriceName = guarded ? 'breaker with residual protection' : 'breaker'
  const type = worlds[job.region].typedBreakers ? design.breakerType : ''
  const what = `Breaker, ${type}${result.breakerA} A${guarded ? `, with residual protection ${design.residual.ma} mA` : ''}`
  return [
    {
      id: `breaker ${type}${result.breakerA} ${guarded}`,
      what,
      count: 1,
      unit: '',
      where: circuit.name,
      price: priceOf(job, name),
      priceName: name,
    },
  ]
}

/** How many conductors lie side by side where they are drawn in one by one; 1 for a cable, null while it is not known. */
function coresOf(job: Installation, { circuit, chosen, ends }: CircuitReport): number | null {
  if (!singleCores.includes(chosen.design.cable)) return 1
  if (circuit.kind === 'feeder') return null
  return ends.some((e) => e.fitted) ? cableConductors(job.region, systemOf(job.region, circuit, ends), 'new').length : null
}

/** The cable of a circuit: each piece as its way asks for it, or the length that was given; null while one is not known. */
function metresOf({ circuit, chosen }: CircuitReport): number | null {
  const fresh = circuit.cables.filter((k) => k.state !== 'existing')
  if (fresh.length > 0 && fresh.every((k) => k.route)) return fresh.reduce((sum, k) => sum + k.route!.cutM, 0)
  if (circuit.points.length === 0) return runLengthM(circuit, chosen.design)
  const run = runLengthM(circuit, chosen.design)
  const closing = circuit.kind === 'ring' ? circuit.closeM : 0
  return circuit.points.reduce<number | null>(
    (sum, p) => (sum === null || p.lengthM === null ? null : sum + (p.state === 'existing' ? 0 : p.lengthM)),
    run === null || closing === null ? null : run + (circuit.work === 'altered' ? 0 : closing),
  )
}

function endsOf(job: Installation, { circuit, ends, chosen }: CircuitReport): Wanted[] {
  const listed = new Map(job.points.map((p) => [p.id, p]))
  return ends.flatMap((e): Wanted[] => {
    const fresh = e.points.filter((id) => listed.get(id)?.state !== 'existing').length
    if (fresh === 0) return []
    const box = boxKind(e.box.kind)
    const fitted = accessory(e.fitted?.id ?? null)
    const guarded = chosen.design.residual.at === 'outlet' || fitted?.id.includes('gfci')
    const name: PriceName = guarded ? 'outlet with residual protection' : 'outlet'
    return [
      ...(box
        ? [
            {
              id: `box ${box.id}`,
              what: box.name,
              count: fresh,
              unit: '' as const,
              where: circuit.name,
              price: priceOf(job, 'box'),
              priceName: 'box',
            },
          ]
        : []),
      ...(fitted
        ? [
            {
              id: `accessory ${fitted.id}`,
              what: fitted.name,
              count: fresh,
              unit: '' as const,
              where: circuit.name,
              price: priceOf(job, name),
              priceName: name,
            },
          ]
        : []),
    ]
  })
}

/** Everything the design asks for, counted from it, those of one kind together. */
export function materialsOf(job: Installation, report: Pick<Report, 'circuits'>): Materials {
  const unknown: string[] = []
  const wanted = report.circuits.flatMap((c): Wanted[] => {
    const { circuit, chosen, ends } = c
    const { result, design } = chosen
    const size = result?.size ?? null
    const metres = metresOf(c)
    if (size === null) unknown.push(`${circuit.name}: the size of its cable is not known yet.`)
    else if (metres === null) unknown.push(`${circuit.name}: the length of its cable is not known.`)
    const cores = coresOf(job, c)
    if (cores === null) unknown.push(`${circuit.name}: how many conductors are drawn in is not known.`)
    if (circuit.kind !== 'feeder' && ends.some((e) => !e.joint && !e.fitted))
      unknown.push(`${circuit.name}: what it ends on is not chosen.`)
    if (circuit.kind !== 'feeder' && ends.some((e) => e.box.kind === null)) unknown.push(`${circuit.name}: a box is not chosen.`)
    const reel = { cable: design.cable, size }
    const cable: Wanted[] =
      size === null || !metres || cores === null
        ? []
        : [
            {
              id: `cable ${design.cable} ${size}`,
              what: reelWords(reel),
              count: cores * metres * (circuit.cables.every((k) => k.route) ? 1 : 1 + SPARE_PART),
              unit: 'm',
              where: circuit.name,
              price: cablePrice(job, design.cable, size),
              priceName: `${design.cable} ${size}`,
            },
          ]
    return [...breakerOf(job, c), ...cable, ...endsOf(job, c)]
  })
  const lines = new Map<string, Material>()
  for (const { where, ...w } of wanted) {
    const known = lines.get(w.id)
    const places = new Set([...(known?.where ?? []), where])
    const usual = w.priceName !== null && job.prices[w.priceName] === undefined
    lines.set(w.id, { ...w, count: (known?.count ?? 0) + w.count, where: [...places], usual })
  }
  const rounded = [...lines.values()].map((l) => ({ ...l, count: l.unit === 'm' ? Math.ceil(l.count * 10) / 10 : l.count }))
  return { lines: rounded, unknown }
}

/** How much of it, in the measures of whoever reads it. */
export const amountWords = ({ count, unit }: Pick<Material, 'count' | 'unit'>, units: UnitSystem): string =>
  unit === 'm' ? formatLength(count, units) : String(count)

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
      ...tasks.flatMap((t) => (t.presumed ? [`${t.name}: ${t.presumed}.`] : [])),
      ...(job.day?.marginPercent == null ? ['No margin is said: none is reckoned with.'] : []),
      ...(job.day?.taxPercent == null ? ['No tax is said: none is reckoned with.'] : []),
    ],
  }
}
