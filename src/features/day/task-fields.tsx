'use client'
import { clock } from '@/core/job/day'
import { useState } from 'react'
import { type Placed } from '@/core/workday/plan'
import type { Task } from '@/core/workday/tasks'
import { TextField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { useJob } from '../sync/context'
import { Photographs } from '../photographs/photographs'
import { ClockField } from './day-fields'
import { useDay } from './use-day'

interface Shown {
  task: Task
  at: Placed | null
  /** Why it may not begin. */
  shut: string | null
  done: ReadonlySet<string>
  doing: ReadonlySet<string>
  /** It is fixed to its time on the day, or let go again. */
  onHold: (earliestMin: number | null) => void
}

/** One task: how long it takes here, why it comes when it does, and its begin and end on the day. */
export function TaskFields({ task, at, shut, done, doing, onHold }: Shown) {
  const commit = useJob((s) => s.commit)
  const { day } = useDay()
  const [note, setNote] = useState('')
  const rows = day.log.filter((r) => r.task === task.id)
  const took = rows.reduce((n, r) => n + (r.endedAt === null ? 0 : (Date.parse(r.endedAt) - Date.parse(r.startedAt)) / 60_000), 0)
  const now = () => new Date().toISOString()
  return (
    <>
      <Section title={task.name}>
        {at && (
          <p className="mb-2">
            {clock(at.startMin)} to {clock(at.endMin)}
            {at.people.length > 0 && `, ${at.people.map((i) => day.people[i]?.name || `person ${i + 1}`).join(' and ')}`}
            {at.why && `: ${at.why}`}.
          </p>
        )}
        <FieldGrid>
          {task.from !== 'own' ? (
            <NumberField
              label="Takes here"
              unit="min"
              whole
              min={1}
              max={10_000}
              value={task.minutes}
              onCommit={(minutes) => minutes && commit({ kind: 'task.minutes', task: task.id, minutes })}
            />
          ) : null}
          {task.from !== 'own' && <ClockField label="Not before" optional value={task.earliestMin} onCommit={onHold} />}
        </FieldGrid>
        {task.from === 'said' && (
          <button type="button" className="btn mt-2" onClick={() => commit({ kind: 'task.minutes', task: task.id, minutes: null })}>
            As the table says
          </button>
        )}
        {doing.has(task.id) ? (
          <div className="mt-3">
            <TextField label="What was other than thought" value={note} onCommit={setNote} />
            <button
              type="button"
              className="btn btn-ink mt-2"
              onClick={() => commit({ kind: 'task.end', task: task.id, endedAt: now(), note: note.slice(0, 400) })}
            >
              Done
            </button>
          </div>
        ) : (
          !done.has(task.id) &&
          (shut ? (
            <p className="mt-3 flex items-start gap-2">
              <VerdictMark of="error" /> <span>{shut} See the sheet “Isolation”.</span>
            </p>
          ) : (
            <button
              type="button"
              className="btn btn-ink mt-3"
              onClick={() =>
                commit({ kind: 'task.start', row: { task: task.id, expectedMin: task.minutes, startedAt: now(), endedAt: null, note: '' } })
              }
            >
              Begin
            </button>
          ))
        )}
        {done.has(task.id) && (
          <p className="mt-2">
            It took <b>{Math.round(took)} min</b>, {rows[0]!.expectedMin} were thought
            {rows.some((r) => r.note) &&
              `: ${rows
                .map((r) => r.note)
                .filter(Boolean)
                .join('; ')}`}
            .
          </p>
        )}
      </Section>
      <Photographs of={{ kind: 'task', id: task.id }} hint="The work as it was left, what is covered afterwards." />
    </>
  )
}
