'use client'
import { ChoiceField } from '@/ui/fields'
import { SmallLengthField } from '../fields/measure-fields'

interface Spacing {
  readonly apartM: number
  readonly depthMm: number | null
}

/** How far members of a row are apart, and how deep they are. */
export function SpacingFields({ of, spacing, onCommit }: { of: 'stud' | 'joist'; spacing: Spacing; onCommit: (s: Spacing) => void }) {
  const called = of === 'stud' ? 'Stud spacing' : 'Joist spacing'
  const [least, most] = of === 'stud' ? [30, 400] : [50, 600]
  return (
    <>
      <SmallLengthField
        label={called}
        value={spacing.apartM * 1000}
        min={200}
        max={1500}
        onCommit={(v) => v && onCommit({ ...spacing, apartM: v / 1000 })}
      />
      <SmallLengthField
        label={`Depth of a ${of}`}
        optional
        placeholder="?"
        value={spacing.depthMm}
        min={least}
        max={most}
        onCommit={(depthMm) => onCommit({ ...spacing, depthMm })}
      />
    </>
  )
}

const answers = [
  { value: 'unknown', label: 'Not checked' },
  { value: 'no', label: 'No' },
  { value: 'yes', label: 'Yes' },
] as const
/** Whether there is insulation where a cable lies. */
export function Filled({
  label,
  value,
  onCommit,
}: {
  label: string
  value: boolean | null | undefined
  onCommit: (v: boolean | null) => void
}) {
  return (
    <ChoiceField
      label={label}
      value={value == null ? 'unknown' : value ? 'yes' : 'no'}
      options={answers}
      onCommit={(v) => onCommit(v === 'unknown' ? null : v === 'yes')}
    />
  )
}
