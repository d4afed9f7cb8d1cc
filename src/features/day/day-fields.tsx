'use client'
import { clock } from '@/core/job/day'
import { Plus, X } from 'lucide-react'
import { readClock } from '@/core/day/clock'
import { FieldShell, TextField, useDraft } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section } from '@/ui/panel'
import { useId, useState } from 'react'
import { useJob } from '../job/context'
import { useDay } from './use-day'

/** A time of the day as people say it: 8, 8:30, 1630. */
export function ClockField({
  label,
  value,
  onCommit,
  optional,
}: {
  label: string
  value: number | null
  onCommit: (min: number | null) => void
  optional?: boolean
}) {
  const id = useId()
  const [wrong, setWrong] = useState<string | null>(null)
  const draft = useDraft(value === null ? '' : clock(value), (typed) => {
    const min = typed.trim() === '' && optional ? null : readClock(typed)
    if (min === undefined) return setWrong('A time such as 8:30 is needed.')
    setWrong(null)
    onCommit(min)
  })
  return (
    <FieldShell id={id} label={label} error={wrong}>
      <input
        id={id}
        className="field"
        inputMode="numeric"
        autoComplete="off"
        value={draft.text}
        aria-invalid={wrong !== null}
        aria-describedby={wrong ? `${id}-error` : undefined}
        onChange={(e) => draft.type(e.target.value)}
        onBlur={() => draft.leave(wrong !== null)}
        onKeyDown={(e) => e.key === 'Enter' && draft.leave(wrong !== null)}
      />
    </FieldShell>
  )
}

/** When the day is, and who is there. */
export function DayFields() {
  const { job, day } = useDay()
  const commit = useJob((s) => s.commit)
  const date = useId()
  const hold = job.points.filter((p) => p.mustHold)
  const set = (patch: Partial<typeof day>) => commit({ kind: 'day.set', patch })
  return (
    <Section title="The day">
      <FieldGrid>
        <FieldShell id={date} label="Date">
          <input id={date} type="date" className="field" value={day.date ?? ''} onChange={(e) => set({ date: e.target.value || null })} />
        </FieldShell>
        <NumberField
          label="Supply off at most"
          unit="min"
          optional
          whole
          min={1}
          placeholder="as long as it takes"
          value={day.mostOffMin}
          max={10_000}
          onCommit={(mostOffMin) => set({ mostOffMin })}
        />
        <ClockField label="Begins" value={day.startMin} onCommit={(startMin) => startMin !== null && set({ startMin })} />
        <ClockField label="Ends" value={day.endMin} onCommit={(endMin) => endMin !== null && set({ endMin })} />
      </FieldGrid>
      {hold.length > 0 && (
        <p className="mt-1 text-[0.9rem] text-ink-2">Must not lose power for long: {hold.map((p) => p.name).join(', ')}.</p>
      )}
      <ul className="mt-3 flex flex-col gap-2">
        {day.people.map((p, i) => (
          <li key={p.id} className="flex items-end gap-2">
            <div className="flex-1">
              <TextField
                label={`Person ${i + 1}`}
                value={p.name}
                placeholder="name"
                onCommit={(name) => set({ people: day.people.map((x) => (x.id === p.id ? { ...x, name: name.slice(0, 80) } : x)) })}
              />
            </div>
            {day.people.length > 1 && (
              <button
                type="button"
                className="btn px-2"
                aria-label={`Person ${i + 1} is not there`}
                onClick={() => set({ people: day.people.filter((x) => x.id !== p.id) })}
              >
                <X size={16} aria-hidden />
              </button>
            )}
          </li>
        ))}
      </ul>
      {day.people.length < 12 && (
        <button type="button" className="btn mt-2" onClick={() => set({ people: [...day.people, { id: crypto.randomUUID(), name: '' }] })}>
          <Plus size={16} aria-hidden /> Another person
        </button>
      )}
    </Section>
  )
}
