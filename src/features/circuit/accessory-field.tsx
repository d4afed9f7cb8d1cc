'use client'
import { type Accessory, accessoriesFor, accessory } from '@/core/catalogue/accessories'
import { SelectField } from '@/ui/fields'
import { useJob } from '../sync/context'

const kindNames: Record<Accessory['kind'], string> = {
  outlet: 'Outlets',
  switch: 'Switches',
  isolator: 'Isolators',
  'connection-unit': 'Connection units',
  light: 'Lights',
  thermostat: 'Thermostats',
}

/** An accessory of the job's world; where something above says one too, null is "as that". */
export function AccessoryField({
  label,
  value,
  above,
  onCommit,
}: {
  label: string
  value: string | null
  above?: string | null
  onCommit: (chosen: Accessory | null) => void
}) {
  const region = useJob((s) => s.job.region)
  const like = above === undefined ? [] : [{ value: 'alike', label: `As the circuit: ${accessory(above)?.name ?? 'not chosen'}` }]
  return (
    <SelectField
      wide
      label={label}
      value={value ?? (above === undefined ? '' : 'alike')}
      options={[...like, ...accessoriesFor(region).map((a) => ({ value: a.id, label: a.name, group: kindNames[a.kind] }))]}
      onCommit={(id) => onCommit(accessory(id) ?? null)}
    />
  )
}
