'use client'
import { Trash2 } from 'lucide-react'
import { useId, useState } from 'react'
import type { Due } from '@/core/job/due'
import { worlds } from '@/core/region/worlds'
import { FieldShell } from '@/ui/fields'
import { FieldGrid, Section } from '@/ui/panel'
import { useJob } from '../sync/context'

const dayWords = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric', timeZone: 'UTC' })

/** What is to be inspected or tested again after the job, and when; listed over all jobs on a page of its own. */
export function DueAgain() {
  const due = useJob((s) => s.job.record.due) ?? []
  const region = useJob((s) => s.job.region)
  const commit = useJob((s) => s.commit)
  const [what, setWhat] = useState('')
  const [on, setOn] = useState('')
  const ids = { what: useId(), on: useId(), list: useId() }
  const add = () => {
    commit({ kind: 'due.add', item: { id: crypto.randomUUID(), what: what.trim(), on, doneOn: null } })
    setWhat('')
    setOn('')
  }
  return (
    <Section title="Due again">
      {due.length === 0 && (
        <p className="text-ink-2">Nothing is entered. The rules and the maker say how soon; local practice may ask for more.</p>
      )}
      <ul>
        {due.map((d) => (
          <Item key={d.id} due={d} />
        ))}
      </ul>
      <FieldGrid>
        <FieldShell id={ids.what} label="What">
          <input id={ids.what} className="field" list={ids.list} maxLength={120} value={what} onChange={(e) => setWhat(e.target.value)} />
        </FieldShell>
        <FieldShell id={ids.on} label="Due on">
          <input id={ids.on} type="date" className="field" value={on} onChange={(e) => setOn(e.target.value)} />
        </FieldShell>
      </FieldGrid>
      <datalist id={ids.list}>
        <option value="Inspection and test" />
        <option value={`Test button of each ${worlds[region].words.rcd}`} />
      </datalist>
      <button type="button" className="btn mt-2" disabled={what.trim() === '' || on === ''} onClick={add}>
        Add
      </button>
    </Section>
  )
}

function Item({ due }: { due: Due }) {
  const commit = useJob((s) => s.commit)
  const today = () => new Date().toISOString().slice(0, 10)
  return (
    <li className="flex flex-wrap items-center gap-2 border-b border-rule py-1">
      <span className="min-w-0 flex-1">
        {due.what}
        <span className="block text-ink-2">
          {due.doneOn ? `done on ${dayWords.format(new Date(due.doneOn))}` : `due on ${dayWords.format(new Date(due.on))}`}
        </span>
      </span>
      <button
        type="button"
        className="btn"
        aria-label={due.doneOn ? `${due.what}: due again` : `${due.what}: done today`}
        onClick={() => commit({ kind: 'due.set', id: due.id, patch: { doneOn: due.doneOn ? null : today() } })}
      >
        {due.doneOn ? 'Not done' : 'Done today'}
      </button>
      <button
        type="button"
        className="btn px-2"
        title="Undo brings it back"
        aria-label={`Remove ${due.what}`}
        onClick={() => commit({ kind: 'due.remove', id: due.id })}
      >
        <Trash2 size={15} aria-hidden />
      </button>
    </li>
  )
}
