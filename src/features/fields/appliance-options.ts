import { applianceKinds } from '@/core/catalogue/appliances'
import { formatW } from '@/core/base/format'
import type { RegionId } from '@/core/region/types'
import type { Option } from '@/ui/fields'

const groupNames = {
  heat: 'Heat',
  cooking: 'Cooking',
  water: 'Water',
  motors: 'Motors and fans',
  cooling: 'Cooling',
  light: 'Light',
  workshop: 'Workshop',
  office: 'Office and sound',
  other: 'Other',
}

/** Kinds of appliance to choose from, each with what it usually draws. */
export const applianceOptions = (region: RegionId): (Option<string> & { group: string })[] =>
  applianceKinds(region).map((k) => ({ value: k.id, label: `${k.name} (${formatW(k.watts)}, ${k.volts} V)`, group: groupNames[k.group] }))
