import type { Accessory } from '../catalogue/accessories'
import { fittedAt } from '../design/endings'
import type { Circuit, Design, Installation } from '../installation/installation'
import { listed } from '../base/finding'
import type { Cable } from '../job/cable'
import type { PointRecord } from '../job/point'

/** Points of a circuit whose boxes and wiring are alike: the same accessory, the same cables, the same box, as far done. */
export interface AlikePoints {
  readonly fitted: Accessory | undefined
  readonly points: readonly PointRecord[]
  /** The cables of the record that enter each of them, those of other circuits too. */
  readonly cables: readonly Cable[]
}

const touching = new WeakMap<readonly Cable[], ReadonlyMap<string, readonly Cable[]>>()
/** Every cable that enters the enclosure of each point. */
export function cablesAt({ cables }: Pick<Installation, 'cables'>, point: string): readonly Cable[] {
  let map = touching.get(cables)
  if (!map) {
    const made = new Map<string, Cable[]>()
    for (const k of cables)
      for (const end of [k.from, k.to]) {
        if (end.kind !== 'point' || k.state === 'removed') continue
        const list = made.get(end.id)
        if (list) list.push(k)
        else made.set(end.id, [k])
      }
    touching.set(cables, (map = made))
  }
  return map.get(point) ?? []
}

/** The points of a circuit, those together that are alike in all that its box and its wiring ask; joints by themselves. */
export function alikePoints(job: Installation, circuit: Circuit, design: Design): AlikePoints[] {
  const groups = new Map<string, { fitted: Accessory | undefined; points: PointRecord[]; cables: readonly Cable[] }>()
  const all: readonly PointRecord[] = circuit.points.length ? circuit.points : circuit.end ? [circuit.end] : []
  for (const p of all) {
    const fitted = p.kind === 'box' ? undefined : fittedAt(design, p)
    const cables = cablesAt(job, p.id)
    if (all.length === 1) return [{ fitted, points: [p], cables }]
    const key = JSON.stringify([
      fitted?.id,
      p.kind === 'box',
      cables.map((k) => [k.size, k.cores, k.circuit === circuit.id]),
      p.bench?.devices.map((d) => d.kind),
      p.box,
      p.done,
      p.environment ?? circuit.environment ?? job.brief.environment,
    ])
    const known = groups.get(key)
    if (known) known.points.push(p)
    else groups.set(key, { fitted, points: [p], cables })
  }
  return [...groups.values()]
}

/** "Counter; Fridge": where alike points stand; nothing where all of the circuit are. */
export const whereAlike = ({ points }: AlikePoints, all: readonly AlikePoints[]): string =>
  all.length > 1
    ? listed(
        points.map((p) => p.name),
        6,
        '; ',
      )
    : ''
