'use client'
import { followed, type SchoolId, schoolsFor } from '@/core/catalogue/schools'
import { SelectField } from '@/ui/fields'
import { FieldGrid } from '@/ui/panel'
import { useJob } from '../sync/context'

/** Matters in which good practice differs, and which way this job follows; nothing said follows the first. */
export function SchoolFields({ of }: { of?: readonly SchoolId[] }) {
  const region = useJob((s) => s.job.region)
  const chosen = useJob((s) => s.job.brief.schools)
  const commit = useJob((s) => s.commit)
  return (
    <FieldGrid>
      {schoolsFor(region)
        .filter((s) => !of || of.includes(s.id as SchoolId))
        .map((s) => (
          <SelectField
            key={s.id}
            wide
            label={s.ask}
            hint={s.why}
            value={followed(chosen, s.id as SchoolId)}
            options={s.options.map((o) => ({ value: o.id, label: o.words }))}
            onCommit={(option) => commit({ kind: 'school.choose', school: s.id, option })}
          />
        ))}
    </FieldGrid>
  )
}
