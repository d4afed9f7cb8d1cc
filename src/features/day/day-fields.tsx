'use client'
import { daylightOn } from '@/core/workday/daylight'
import { clock, type DayRecord, hour, noWishes } from '@/core/job/day'
import { Plus, X } from 'lucide-react'
import { readClock } from '@/core/workday/clock'
import { CheckField, FieldShell, TextField, useDraft } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section } from '@/ui/panel'
import { useId, useState } from 'react'
import { useJob } from '../sync/context'
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
  const person = (id: string, patch: Partial<(typeof day.people)[number]>) =>
    set({ people: day.people.map((x) => (x.id === id ? { ...x, ...patch } : x)) })
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
        <div className="mt-3">
          <h3 className="font-bold">Must not lose power for long</h3>
          <FieldGrid>
            {hold.map((p) => (
              <NumberField
                key={p.id}
                label={p.name}
                hint="off at most"
                unit="min"
                optional
                whole
                min={1}
                max={10_000}
                placeholder="not entered"
                value={day.holds?.[p.id] ?? null}
                onCommit={(minutes) => {
                  const { [p.id]: _, ...others } = day.holds ?? {}
                  set({ holds: minutes === null ? others : { ...others, [p.id]: minutes } })
                }}
              />
            ))}
          </FieldGrid>
        </div>
      )}
      <ul className="mt-3 flex flex-col gap-3">
        {day.people.map((p, i) => (
          <li key={p.id} className="border-b border-rule pb-2">
            <div className="flex items-end gap-2">
              <div className="flex-1">
                <TextField
                  label={`Person ${i + 1}`}
                  value={p.name}
                  placeholder="name"
                  onCommit={(name) => person(p.id, { name: name.slice(0, 80) })}
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
            </div>
            <Hours of={p} onSet={(patch) => person(p.id, patch)} />
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

type Person = DayRecord['people'][number]
/** When somebody is there, and what for: folded away where it is the whole day and everything. */
function Hours({ of: p, onSet }: { of: Person; onSet: (patch: Partial<Person>) => void }) {
  const [open, setOpen] = useState(Boolean(p.helper) || p.fromMin != null || p.untilMin != null)
  return (
    <details className="mt-1" open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="tap cursor-pointer text-[0.9rem]">Hours, and what {p.name || 'this one'} does</summary>
      {open && (
        <>
          <FieldGrid>
            <ClockField label="Comes" optional value={p.fromMin ?? null} onCommit={(fromMin) => onSet({ fromMin })} />
            <ClockField label="Leaves" optional value={p.untilMin ?? null} onCommit={(untilMin) => onSet({ untilMin })} />
          </FieldGrid>
          <CheckField label="Helps, and does no electrical work" value={p.helper ?? false} onCommit={(helper) => onSet({ helper })} />
        </>
      )}
    </details>
  )
}

/** What is wished besides the earliest end: weather, light, and how much either matters. */
export function WishFields() {
  const { day } = useDay()
  const commit = useJob((s) => s.commit)
  const wishes = day.wishes ?? noWishes
  const wish = (patch: Partial<typeof wishes>) => commit({ kind: 'day.set', patch: { wishes: { ...wishes, ...patch } } })
  const place = day.place ?? { north: null, east: null }
  const light = daylightOn(day)
  const matters = { unit: 'of 10', whole: true, min: 0, max: 10 } as const
  const at = (patch: Partial<typeof place>) => commit({ kind: 'day.set', patch: { place: { ...place, ...patch } } })
  return (
    <Section title="Weather and light">
      <p className="mb-2 text-[0.9rem] text-ink-2">When plans tie on finish time and outage, these preferences decide.</p>
      <FieldGrid>
        <ClockField label="Rain from" optional value={wishes.rainFromMin} onCommit={(rainFromMin) => wish({ rainFromMin })} />
        <NumberField
          label="Outside before the rain"
          {...matters}
          value={wishes.outsideBeforeRain}
          onCommit={(n) => n !== null && wish({ outsideBeforeRain: n })}
        />
        <NumberField
          wide
          label="Inside before outside"
          {...matters}
          value={wishes.insideBeforeOutside}
          onCommit={(n) => n !== null && wish({ insideBeforeOutside: n })}
        />
        <NumberField
          label="Latitude"
          hint="south negative"
          optional
          min={-90}
          max={90}
          value={place.north}
          onCommit={(north) => at({ north })}
        />
        <NumberField
          label="Longitude"
          hint="west negative"
          optional
          min={-180}
          max={180}
          value={place.east}
          onCommit={(east) => at({ east })}
        />
      </FieldGrid>
      <p className="mt-1">
        {light
          ? light.untilMin <= light.fromMin
            ? 'The sun does not rise there that day.'
            : `Light from ${clock(light.fromMin)} to ${hour(light.untilMin)}, by this device’s clock.`
          : 'When it is light is not known: it follows from the date and where it is.'}
      </p>
    </Section>
  )
}
