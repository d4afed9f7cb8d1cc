'use client'
import { Copy, Plus, Trash2 } from 'lucide-react'
import { type FormEvent, useId, useRef, useState } from 'react'
import { blankPoint, pointKinds } from '@/core/job/point'
import { type Point, pointsThere } from '@/core/installation/installation'
import { proofOf } from '@/core/survey/traced'
import { placeNames, proofInWords } from '@/core/survey/words'
import { type Option } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { Section } from '@/ui/panel'
import { Table } from '@/ui/table'
import { useJob } from '../sync/context'

export const kindNames: Record<Point['kind'], string> = {
  outlet: 'Outlet',
  switch: 'Switch',
  light: 'Light',
  fixed: 'Fixed appliance',
  box: 'Box',
}
export const kindOptions: Option<Point['kind']>[] = pointKinds.map((k) => ({ value: k, label: kindNames[k] }))

/** Rooms and points: a name and Enter adds one; room and kind stay as they were, for the next. */
export function PointsTable({ picked, onPick }: { picked: string | null; onPick: (id: string) => void }) {
  const survey = useJob((s) => s.job)
  const { trace, suspected, loads } = useJob((s) => s.report.survey)
  const proofs = new Map(loads.map((l) => [l.way.id, proofInWords[proofOf(l)]]))
  const commit = useJob((s) => s.commit)
  const name = placeNames(survey)
  const set = (id: string, patch: Partial<Omit<Point, 'id'>>) => commit({ kind: 'point.set', id, patch })
  return (
    <Section title="Points">
      <AddPoint />
      {survey.points.length + survey.standing.length === 0 ? (
        <p className="mt-2 text-ink-2">No points yet. Walk round and name them as you see them.</p>
      ) : (
        <Table
          minRem={44}
          heads={[
            'Point',
            'Fed by',
            'From',
            ['Load', 'w-30'],
            ['Must stay on', 'w-14 px-1 leading-tight'],
            ['Hidden', 'w-16 px-1'],
            ['Remove', 'sr-only'],
          ]}
        >
          {[...survey.points, ...survey.standing.filter((p) => p.state === 'removed')].map((p) => {
            const [feed, parent] = [trace.feeds[p.id] ?? null, trace.parents[p.id] ?? null]
            return (
              <tr key={p.id} className={`border-b border-rule ${picked === p.id ? 'bg-wash' : ''}`}>
                <td>
                  <button
                    type="button"
                    className="tap w-full text-left hover:underline"
                    aria-pressed={picked === p.id}
                    onClick={() => onPick(p.id)}
                  >
                    <b>{p.name}</b>{' '}
                    <span className="text-[0.85rem] text-ink-2">
                      {[p.room, kindNames[p.kind].toLowerCase(), p.state === 'removed' ? 'to be taken out' : ''].filter(Boolean).join(', ')}
                    </span>
                  </button>
                </td>
                <td className="pr-2">
                  {feed !== null ? (
                    <>
                      {name(feed)} <span className="text-[0.85rem] text-ink-2">{proofs.get(feed)}</span>
                    </>
                  ) : (
                    <span className="text-ink-2">
                      {p.planned ? 'new' : suspected[p.id] ? `${suspected[p.id]!.map(name).join(' or ')}? Not confirmed` : 'not known'}
                    </span>
                  )}
                </td>
                <td className="pr-2">
                  {parent === null ? <span className="text-ink-2">{p.planned ? '' : 'not known'}</span> : name(parent)}
                </td>
                <td className="[&_label]:sr-only">
                  <NumberField
                    label={`Load at ${p.name}`}
                    unit="W"
                    optional
                    placeholder="?"
                    value={p.watts}
                    max={1_000_000}
                    onCommit={(watts) => set(p.id, { watts })}
                  />
                </td>
                <td>
                  <Tick label={`${p.name} must not lose power`} value={p.mustHold} onChange={(mustHold) => set(p.id, { mustHold })} />
                </td>
                <td>
                  <Tick label={`${p.name} is hidden`} value={p.hidden} onChange={(hidden) => set(p.id, { hidden })} />
                </td>
                <td className="text-right">
                  <button
                    type="button"
                    className="btn no-print px-2"
                    aria-label={`Remove ${p.name}`}
                    title="Remove (undo brings it back)"
                    onClick={() => commit({ kind: 'point.remove', id: p.id })}
                  >
                    <Trash2 size={15} aria-hidden />
                  </button>
                </td>
              </tr>
            )
          })}
        </Table>
      )}
    </Section>
  )
}

function Tick({ label, value, onChange }: { label: string; value: boolean; onChange: (v: boolean) => void }) {
  return (
    <label className="grid size-9 place-items-center hand:size-[44px]">
      <span className="sr-only">{label}</span>
      <input type="checkbox" className="size-5 accent-[var(--ink)]" checked={value} onChange={(e) => onChange(e.target.checked)} />
    </label>
  )
}

/** "Outlet" → "Outlet 2" → "Outlet 3". */
const nextName = (name: string): string => (/ \d+$/.test(name) ? name.replace(/\d+$/, (n) => String(Number(n) + 1)) : `${name} 2`)

function AddPoint() {
  const commit = useJob((s) => s.commit)
  const last = useJob((s) => pointsThere(s.job.points).at(-1))
  const survey = useJob((s) => s.job)
  const [name, setName] = useState('')
  const [room, setRoom] = useState('')
  const [kind, setKind] = useState<Point['kind']>('outlet')
  const [complaint, setComplaint] = useState('')
  const ids = { name: useId(), room: useId(), kind: useId() }
  const input = useRef<HTMLInputElement>(null)
  const add = (e: FormEvent) => {
    e.preventDefault()
    if (!name.trim()) {
      setComplaint('A point needs a name.')
      input.current?.focus()
      return
    }
    setComplaint('')
    commit({ kind: 'point.add', points: [blankPoint(crypto.randomUUID(), name.trim(), { room: room.trim(), kind })] })
    setName('')
    input.current?.focus()
  }
  const again = () => {
    if (!last) return
    // What was seen of the one is not seen of the next.
    const { planned: _, box: __, ...like } = last
    const next = { id: crypto.randomUUID(), name: nextName(last.name).slice(0, 120), hidden: false, condition: null, wall: null }
    commit({ kind: 'point.add', points: [{ ...like, ...next }] })
  }
  return (
    <form
      onSubmit={add}
      className="no-print grid grid-cols-[1fr_1fr_auto_auto_auto] items-end gap-2 max-md:grid-cols-2"
      aria-label="Add a point"
    >
      <div>
        <label htmlFor={ids.name} className="mb-0.5 block text-[0.9rem] text-ink-2">
          Name
        </label>
        <input
          ref={input}
          id={ids.name}
          className="field"
          maxLength={120}
          value={name}
          onChange={(e) => setName(e.target.value)}
          aria-invalid={Boolean(complaint)}
          placeholder="left of the door"
        />
      </div>
      <div>
        <label htmlFor={ids.room} className="mb-0.5 block text-[0.9rem] text-ink-2">
          Room
        </label>
        <input
          id={ids.room}
          list={`${ids.room}-list`}
          className="field"
          maxLength={120}
          value={room}
          onChange={(e) => setRoom(e.target.value)}
        />
        <datalist id={`${ids.room}-list`}>
          {[...new Set([...survey.rooms.map((r) => r.name), ...survey.points.map((p) => p.room)])].filter(Boolean).map((r) => (
            <option key={r} value={r} />
          ))}
        </datalist>
      </div>
      <div>
        <label htmlFor={ids.kind} className="mb-0.5 block text-[0.9rem] text-ink-2">
          Kind
        </label>
        <select id={ids.kind} className="field" value={kind} onChange={(e) => setKind(e.target.value as Point['kind'])}>
          {kindOptions.map((o) => (
            <option key={o.value} value={o.value}>
              {o.label}
            </option>
          ))}
        </select>
      </div>
      <button type="submit" className="btn btn-ink">
        <Plus size={16} aria-hidden /> Add
      </button>
      <button
        type="button"
        className="btn"
        disabled={!last}
        onClick={again}
        title={last ? `Add ${nextName(last.name)}, like ${last.name}` : 'Nothing to repeat yet'}
      >
        <Copy size={16} aria-hidden /> Same again
      </button>
      {complaint && (
        <p role="alert" className="col-span-full font-bold text-error">
          {complaint}
        </p>
      )}
    </form>
  )
}
