'use client'
import { Plus, Trash2 } from 'lucide-react'
import { useState } from 'react'
import type { Task } from '@/core/workday/tasks'
import type { OwnTask } from '@/core/job/day'
import { CheckField, ChoiceField, SelectField, TextField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section } from '@/ui/panel'
import { useJob } from '../sync/context'
import { ClockField } from './day-fields'
import { useDay } from './use-day'

const kinds: Readonly<Record<OwnTask['kind'], { readonly name: string; readonly make: Partial<OwnTask> }>> = {
  work: { name: 'Other work', make: { minutes: 30, people: 1 } },
  trade: { name: 'Another trade', make: { minutes: 60, people: 0 } },
  delivery: { name: 'A delivery', make: { minutes: 10, people: 1 } },
  wait: { name: 'A wait: it dries, it cures', make: { minutes: 60, people: 0 } },
  break: { name: 'A break', make: { minutes: 30, power: 'on', earliestMin: 720, latestMin: 765 } },
  promise: { name: 'A promise: live by then', make: { minutes: 1, people: 0, power: 'on' } },
  hold: { name: 'A hold point: inspected before walls are closed', make: { minutes: 30, people: 1 } },
}

/** What else is on that day: other work, other trades, waits, breaks and promises, typed or picked. */
export function OwnTasks({ tasks }: { tasks: readonly Task[] }) {
  const { day } = useDay()
  const commit = useJob((s) => s.commit)
  const [open, setOpen] = useState<string | null>(null)
  const add = (kind: OwnTask['kind']) => {
    const id = crypto.randomUUID()
    const { name, make } = kinds[kind]
    const people = kind === 'break' ? day.people.length : 1
    const item: OwnTask = {
      id,
      name: name.split(':')[0]!,
      kind,
      minutes: 30,
      people,
      power: 'any',
      after: [],
      earliestMin: null,
      latestMin: null,
      ...make,
    }
    commit({ kind: 'task.add', item })
    setOpen(id)
  }
  return (
    <Section title="Also on that day">
      {day.own.map((t) => (
        <details key={t.id} open={open === t.id} className="border-b border-rule py-1">
          <summary className="tap cursor-pointer py-1.5 font-bold">{t.name}</summary>
          <OwnTaskFields task={t} tasks={tasks} />
        </details>
      ))}
      {day.own.length === 0 && <p className="text-ink-2">No tasks of your own yet.</p>}
      <div className="mt-2 flex flex-wrap gap-1.5">
        {(Object.keys(kinds) as OwnTask['kind'][]).map((k) => (
          <button key={k} type="button" className="btn" onClick={() => add(k)}>
            <Plus size={16} aria-hidden /> {kinds[k].name.split(':')[0]}
          </button>
        ))}
      </div>
    </Section>
  )
}

function OwnTaskFields({ task: t, tasks }: { task: OwnTask; tasks: readonly Task[] }) {
  const { day } = useDay()
  const commit = useJob((s) => s.commit)
  const set = (patch: Partial<OwnTask>) => commit({ kind: 'task.set', id: t.id, patch })
  return (
    <div className="pb-2">
      <FieldGrid>
        <TextField wide label="What" value={t.name} onCommit={(name) => name.trim() && set({ name: name.slice(0, 120) })} />
        <NumberField
          label="Takes"
          unit="min"
          whole
          min={1}
          max={10_000}
          value={t.minutes}
          onCommit={(minutes) => minutes && set({ minutes })}
        />
        <NumberField
          label="Of our people"
          hint="0: others do it"
          whole
          max={day.people.length}
          value={t.people}
          onCommit={(people) => people !== null && set({ people })}
        />
        <ClockField label="Not before" optional value={t.earliestMin} onCommit={(earliestMin) => set({ earliestMin })} />
        <ClockField label="Done by" optional value={t.latestMin} onCommit={(latestMin) => set({ latestMin })} />
        <ChoiceField
          label="The supply"
          value={t.power}
          options={[
            { value: 'any', label: 'Either' },
            { value: 'on', label: 'On' },
            { value: 'off', label: 'Off' },
          ]}
          onCommit={(power) => set({ power })}
        />
        {t.kind === 'work' && (
          <>
            <CheckField label="Outside" value={t.outside ?? false} onCommit={(outside) => set({ outside })} />
            <CheckField label="Electrical work" value={t.skilled ?? false} onCommit={(skilled) => set({ skilled })} />
          </>
        )}
        <SelectField
          wide
          label="After"
          value={t.after[0] ?? 'nothing'}
          options={[
            { value: 'nothing', label: 'nothing in particular' },
            ...tasks.filter((x) => x.id !== t.id && x.kind !== 'clear').map((x) => ({ value: x.id, label: x.name })),
          ]}
          onCommit={(after) => set({ after: after === 'nothing' ? [] : [after] })}
        />
      </FieldGrid>
      <button type="button" className="btn mt-2" title="Undo brings it back" onClick={() => commit({ kind: 'task.remove', id: t.id })}>
        <Trash2 size={15} aria-hidden /> Remove from the day
      </button>
    </div>
  )
}
