import type { Circuit } from '@/core/installation/installation'
import { placeKinds } from '@/core/job/fields'
import type { Option } from '@/ui/fields'

export const placeNames: Record<(typeof placeKinds)[number], string> = {
  living: 'Living room',
  bedroom: 'Bedroom',
  kitchen: 'Kitchen',
  bathroom: 'Bathroom',
  laundry: 'Laundry',
  garage: 'Garage',
  basement: 'Cellar or basement',
  workshop: 'Workshop',
  hall: 'Hall',
  outdoors: 'Outdoors',
  other: 'Elsewhere',
}
/** Kinds of place that rules on protection speak of. */
export const placeOptions: readonly Option<NonNullable<Circuit['place']>>[] = placeKinds.map((p) => ({ value: p, label: placeNames[p] }))
