import type { RegionId } from '../region/types'
import type { Accessory } from './accessories/accessory'
import { northAmerica } from './accessories/north-america'
import { southernAfrica } from './accessories/southern-africa'
import { unitedKingdom } from './accessories/united-kingdom'

export * from './accessories/accessory'

const byWorld: Readonly<Record<RegionId, readonly Accessory[]>> = {
  'north-america': northAmerica,
  'united-kingdom': unitedKingdom,
  'southern-africa': southernAfrica,
}
export const accessories: readonly Accessory[] = Object.values(byWorld).flat()

export const accessoriesFor = (region: RegionId): readonly Accessory[] => byWorld[region]
/** Whether there is an accessory of this world that can guard what is fed beyond it: one with a residual device and load terminals. */
export const guardsFromOutlets = (region: RegionId): boolean => accessoriesFor(region).some(hasGuardedLoad)
/** A residual device with terminals of its own for what it guards beyond its own outlets. */
export const hasGuardedLoad = ({ residual, onward }: Accessory): boolean => residual && onward !== 'none'
/** The same outlet with a residual device in it, and load terminals where it guards what is downstream; undefined: none is listed. */
export const guardingKind = (like: Accessory, guardsOn: boolean): Accessory | undefined =>
  accessories.find(
    (a) =>
      a.region === like.region &&
      a.kind === like.kind &&
      a.system === like.system &&
      a.ratingA === like.ratingA &&
      a.outlets === like.outlets &&
      a.residual &&
      (!guardsOn || hasGuardedLoad(a)),
  )
const byId = new Map(accessories.map((a) => [a.id, a]))
/** What a point of a kind has where no accessory is chosen for it. */
export const plainAccessory = (region: RegionId, kind: 'light' | 'switch'): Accessory =>
  accessories.find((a) => a.region === region && a.kind === kind && a.id.endsWith(kind === 'light' ? '-light' : '-switch-1p'))!
export const accessory = (id: string | null): Accessory | undefined => (id === null ? undefined : byId.get(id))
