import type { Cable } from '../job/cable'
import type { Installation } from './installation'

const touching = new WeakMap<readonly Cable[], ReadonlyMap<string, readonly Cable[]>>()
/** Every cable that enters the box of a point to end there. */
export function cablesAt({ cables }: Pick<Installation, 'cables'>, point: string): readonly Cable[] {
  let map = touching.get(cables)
  if (!map) {
    const made = new Map<string, Cable[]>()
    for (const k of cables)
      for (const end of [k.from, k.to]) {
        if (end.kind !== 'point' || k.state === 'removed' || k.inside === 'joint') continue
        const list = made.get(end.id)
        if (list) list.push(k)
        else made.set(end.id, [k])
      }
    touching.set(cables, (map = made))
  }
  return map.get(point) ?? []
}
