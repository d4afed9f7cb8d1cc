import { type Accessory, accessory, plainAccessory } from '../catalogue/accessories'
import { listed } from '../base/finding'
import type { Circuit, CircuitPoint, Design } from '../installation/installation'
import type { CircuitSystem } from '../region/colours'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'

/** One kind of accessory on a circuit and the points that have it; no point where the circuit has no named ones. */
export interface Ending {
  readonly fitted: Accessory
  readonly points: readonly CircuitPoint[]
}

type Ends = Pick<Design, 'accessory'>

/** What is fitted at a point: its own accessory; a light or a switch by its kind; else that of its circuit. In a joint box nothing. */
export function fittedAt(
  design: Ends,
  point: (Pick<CircuitPoint, 'accessory'> & Partial<Pick<CircuitPoint, 'kind'>>) | null,
): Accessory | undefined {
  if (point?.kind === 'box') return undefined
  const own = accessory(point?.accessory ?? null)
  const usual = accessory(design.accessory)
  if (own || !usual) return own ?? usual
  const kind = point?.kind
  return (kind === 'light' || kind === 'switch') && usual.kind !== kind ? plainAccessory(usual.region, kind) : usual
}

/** Every kind of accessory on a circuit: the one it ends on first, then in the order of its points. */
export function endingsOf({ points }: Pick<Circuit, 'points'>, design: Ends): readonly Ending[] {
  const own = accessory(design.accessory)
  if (points.length === 0) return own ? [{ fitted: own, points }] : []
  const kinds = new Map<Accessory, CircuitPoint[]>(own ? [[own, []]] : [])
  for (const p of points) {
    const fitted = fittedAt(design, p)
    if (!fitted) continue
    const same = kinds.get(fitted)
    if (same) same.push(p)
    else kinds.set(fitted, [p])
  }
  return [...kinds].filter(([, at]) => at.length > 0).map(([fitted, at]) => ({ fitted, points: at }))
}

/**
 * What the cables of a circuit carry: all that anything on it asks for; of a feeder by the voltage of what it feeds, and of one that ends
 * on nothing yet by that of its load.
 */
export function systemOf(
  region: RegionId,
  { kind, load }: Pick<Circuit, 'kind' | 'load'>,
  ends: readonly { readonly fitted: Accessory | undefined }[],
): CircuitSystem {
  const { lineV, splitPhase } = worlds[region]
  const twoLines = load.volts === null ? null : load.volts > 1.5 * lineV
  if (kind === 'feeder') return (twoLines ?? splitPhase) ? 'line-line-neutral' : 'line-neutral'
  if (kind === 'shared-neutral') return 'line-line-neutral'
  let only: CircuitSystem | null = null
  for (const { fitted } of ends) {
    if (!fitted || fitted.system === only) continue
    if (only !== null) return 'line-line-neutral'
    only = fitted.system
  }
  return only ?? (twoLines ? 'line-line' : 'line-neutral')
}

/** Whether every point has its accessory chosen. */
export const allEndsChosen = ({ points }: Pick<Circuit, 'points'>, design: Ends): boolean =>
  (points.length ? points.filter((p) => p.kind !== 'box') : [null]).every((p) => fittedAt(design, p))

/** How many accessories of a circuit have something; of one without named points as many as it says. */
export function countFitted(
  { points }: Pick<Circuit, 'points'>,
  design: Pick<Design, 'accessory' | 'accessories'>,
  has: (fitted: Accessory) => boolean,
): number {
  const at = (p: CircuitPoint | null) => {
    const fitted = fittedAt(design, p)
    return fitted !== undefined && (p === null || fitted.outlets === 0 || p.outlets > 0) && has(fitted)
  }
  return points.length ? points.filter(at).length : at(null) ? design.accessories : 0
}

/** "Counter; Fridge": where an ending is; nothing where all points are alike. */
export const whereEnding = ({ points }: Ending, all: readonly Ending[]): string =>
  all.length > 1
    ? listed(
        points.map((p) => p.name),
        6,
        '; ',
      )
    : ''

/** A circuit that ends in joint boxes alone: its cables are there for later, and nothing draws from them. */
export const endsInJointsOnly = ({ points }: { readonly points: readonly Pick<CircuitPoint, 'kind'>[] }): boolean =>
  points.length > 0 && points.every((p) => p.kind === 'box')

/** What a circuit ends on, in words; with several kinds each with its points. */
export function endingWords(circuit: Pick<Circuit, 'points'>, design: Ends): string {
  const all = endingsOf(circuit, design)
  if (endsInJointsOnly(circuit)) return 'a joint box: nothing is fed from it yet'
  if (all.length === 0) return 'not chosen'
  return all.map((e) => (all.length > 1 ? `${e.fitted.name} (${whereEnding(e, all)})` : e.fitted.name)).join('; ')
}
