'use client'
import type { CircuitPoint, Installation, Site } from '@/core/installation/installation'
import { environments, fittedTypes, placeKinds } from '@/core/job/fields'
import { CheckField, type Option, SelectField } from '@/ui/fields'
import { FieldGrid } from '@/ui/panel'
import { placeNames } from './places'
import { worlds } from '@/core/region/worlds'

export const typeNames: Record<(typeof fittedTypes)[number], string> = {
  tamper: 'Tamper-resistant, or shuttered',
  weather: 'Weather-resistant, in-use cover',
  surge: 'A surge device protects it',
}
const environmentNames: Record<(typeof environments)[number], string> = { dry: 'Dry', damp: 'Damp', wet: 'Wet', outdoors: 'Outdoors' }

interface Named<V extends string> {
  readonly kinds: readonly V[]
  readonly names: Readonly<Record<V, string>>
}
const yesNo: Named<'yes' | 'no'> = { kinds: ['yes', 'no'], names: { yes: 'Yes', no: 'No' } }
const asWords = (value: boolean | null): 'yes' | 'no' | null => (value === null ? null : value ? 'yes' : 'no')

/** A choice that may be left to what is above it, which is then named. */
function Inherited<V extends string>({
  label,
  value,
  above,
  from,
  kinds,
  names,
  wide,
  onCommit,
}: Named<V> & { label: string; value: V | null; above: V | null; from: string; wide?: boolean; onCommit: (value: V | null) => void }) {
  const options: Option<V | 'above'>[] = [
    { value: 'above', label: above === null ? 'Not said yet' : `${names[above]}, as ${from}` },
    ...kinds.map((k) => ({ value: k, label: names[k] })),
  ]
  return (
    <SelectField
      label={label}
      wide={wide}
      value={value ?? 'above'}
      options={options}
      onCommit={(v) => onCommit(v === 'above' ? null : v)}
    />
  )
}

/** Where a point, or all points of a circuit, are: what the rules on types of outlet and cover ask. `reach`: a rule asks for it. */
export function SiteFields({
  region,
  value,
  above,
  from,
  reach,
  onCommit,
}: {
  region: Installation['region']
  value: Site
  above: Site
  from: string
  reach: boolean
  onCommit: (patch: Partial<Site>) => void
}) {
  return (
    <FieldGrid>
      <Inherited
        label="Kind of room"
        kinds={placeKinds}
        names={placeNames}
        value={value.place}
        above={above.place}
        from={from}
        onCommit={(place) => onCommit({ place })}
      />
      <Inherited
        label="The place is"
        kinds={environments}
        names={environmentNames}
        value={value.environment}
        above={above.environment}
        from={from}
        onCommit={(environment) => onCommit({ environment })}
      />
      {(worlds[region].metric === null || (value.place ?? above.place) === 'bathroom') && (
        <Inherited
          {...yesNo}
          wide
          label={worlds[region].says.nearWater}
          value={asWords(value.nearWater)}
          above={asWords(above.nearWater)}
          from={from}
          onCommit={(v) => onCommit({ nearWater: v === null ? null : v === 'yes' })}
        />
      )}
      {reach && (
        <Inherited
          {...yesNo}
          wide
          label={`Higher than ${worlds[region].says.outOfReach}, or behind what stays put`}
          value={asWords(value.outOfReach)}
          above={asWords(above.outOfReach)}
          from={from}
          onCommit={(v) => onCommit({ outOfReach: v === null ? null : v === 'yes' })}
        />
      )}
    </FieldGrid>
  )
}

/** What is fitted, a tick for each type; shutters that every outlet there has need none. */
export function FittedFields({
  value,
  without = [],
  onCommit,
}: {
  without?: readonly (typeof fittedTypes)[number][]
  value: NonNullable<CircuitPoint['fitted']>
  onCommit: (fitted: NonNullable<CircuitPoint['fitted']>) => void
}) {
  return fittedTypes
    .filter((t) => !without.includes(t) || value.includes(t))
    .map((t) => (
      <CheckField
        key={t}
        label={typeNames[t]}
        value={value.includes(t)}
        onCommit={(on) => onCommit(on ? [...value, t] : value.filter((x) => x !== t))}
      />
    ))
}
