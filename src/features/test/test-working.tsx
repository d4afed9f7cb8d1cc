'use client'
import { testSubject } from '@/core/verify/photograph'
import Link from 'next/link'
import { useEffect, useId, useRef, useState } from 'react'
import type { Reading } from '@/core/job/reading'
import { judge, type Judged, type JudgedAt } from '@/core/verify/judge'
import { takenOn } from '@/core/verify/taken-on'
import { trim } from '@/core/base/format'
import { SelectField, TextField } from '@/ui/fields'
import { Section } from '@/ui/panel'
import { useSettings } from '@/ui/settings'
import { VerdictMark } from '@/ui/verdict'
import { formatWhen } from '@/ui/when'
import { WorkingCard } from '../circuit/working-card'
import { useCircuit, useJob, useSeenJob } from '../sync/context'
import { Photographs } from '../photographs/photographs'
import { FromInstrument } from './instrument'
import { readTyped } from '@/core/base/typed'
import { expectedWords, readingWords } from '@/core/verify/words'
import { pointsOfTest, type Test } from '@/core/verify/tests'

/** Remembered on this device, so that it is typed once a day. */
const INSTRUMENT_KEY = 'synthema.instrument'

/** Read for all points at once. */
const WHOLE = 'all points'

type Draft = Pick<Reading, 'value' | 'mark'>

/** "0.52", "370 mΩ", ">999" or "OL": what meters show. */
function readMeter(text: string, unit: Test['unit']): Draft | null {
  const typed = readTyped(text, unit || null)
  if ('error' in typed || (typed.value === null && typed.mark === null) || (typed.value ?? 0) < 0) return null
  return typed
}

export function TestWorking({
  judged,
  gate,
  focus,
  onNext,
}: {
  judged: Judged
  gate: { open: boolean; why: string }
  /** Come to from the test before: a field is ready to be typed in; a step is read first, since a key held too long must not tick it. */
  focus: boolean
  onNext: () => void
}) {
  const { reading: standing, earlier, verdict, message, points } = judged
  const { circuit, chosen } = useCircuit()
  const job = useSeenJob()
  const each = pointsOfTest(job, circuit, chosen, judged.test)
  const places = each.length > 1 ? each : []
  const [place, setPlace] = useState<string | null>(() => points?.find((p) => p.reading === null)?.id ?? null)
  /** A point was read: the next is in hand. */
  const [onward, setOnward] = useState(false)
  const at = places.find((p) => p.id === place)
  const test = at ? { ...judged.test, expect: at.expect } : judged.test
  const here = at ? points?.find((p) => p.id === at.id)?.reading : standing
  const reading = here?.point === (at?.id ?? null) ? here : null
  const { settings, person, change } = useSettings()
  /** Nobody has said yet who measures here; asked once the first reading is about to be taken. */
  const [asked] = useState(person === null && settings.name === '')
  const addReading = useJob((s) => s.addReading)
  const id = useJob((s) => s.id)
  const [note, setNote] = useState('')
  const [instrument, setInstrument] = useState('')
  useEffect(() => setInstrument(localStorage.getItem(INSTRUMENT_KEY) ?? ''), [])
  const record = (draft: Draft, from = instrument) => {
    void addReading({
      id: crypto.randomUUID(),
      circuit: circuit.id,
      point: at?.id ?? null,
      test: test.id,
      ...draft,
      unit: test.unit,
      instrument: test.expect.kind === 'confirm' ? '' : from,
      note,
      corrects: reading?.id ?? null,
      on: takenOn(circuit),
    })
    setNote('')
    if (judge(test, { ...draft, unit: test.unit } as Reading).verdict !== 'met') return
    const left = at ? places.find((p) => p.id !== at.id && !points?.find((x) => x.id === p.id)?.reading) : undefined
    if (!left) return onNext()
    setPlace(left.id)
    setOnward(true)
  }
  const about = useRef<HTMLDivElement>(null)
  useEffect(() => {
    if (focus && (judged.test.expect.kind === 'confirm' || !gate.open)) about.current?.focus()
  }, [focus, judged.test, gate.open])
  return (
    <>
      <div ref={about} tabIndex={-1} className="outline-none focus-visible:outline-2 focus-visible:outline-ink">
        <Section title={test.title}>
          <p>{test.how}</p>
          <p className="mt-1 text-[0.85rem] text-ink-2">{test.clause}</p>
        </Section>
      </div>
      {gate.open ? (
        <>
          {places.length > 0 && (
            <div className="mb-3">
              <SelectField
                label="Read at"
                value={at?.id ?? WHOLE}
                options={[
                  { value: WHOLE, label: test.unit === 'Ω' ? 'All points, by the farthest' : 'All points alike' },
                  ...places.map((p) => ({ value: p.id, label: p.name })),
                ]}
                onCommit={(id) => setPlace(id === WHOLE ? null : id)}
              />
            </div>
          )}
          {test.expect.kind === 'confirm' ? (
            <ConfirmEntry hasReading={reading !== null} onRecord={(draft) => record(draft)} />
          ) : (
            <>
              <MeterEntry
                key={place}
                test={test}
                hasReading={reading !== null}
                focus={focus || onward}
                onRecord={(draft) => record(draft)}
              />
              <FromInstrument test={test} circuit={circuit.id} onRecord={(draft, from) => record(draft, from)} />
            </>
          )}
          <div className="mt-3 mb-5 grid grid-cols-2 gap-3">
            {asked && (
              <TextField
                wide
                label="Measured by"
                value={settings.name}
                placeholder="Your name"
                onCommit={(name) => change({ name: name.slice(0, 120) })}
              />
            )}
            <PlainInput label="Note" value={note} onChange={setNote} />
            {test.expect.kind !== 'confirm' && (
              <PlainInput
                label="Instrument"
                value={instrument}
                onChange={(v) => {
                  setInstrument(v)
                  localStorage.setItem(INSTRUMENT_KEY, v)
                }}
              />
            )}
          </div>
        </>
      ) : (
        <div role="group" aria-label="Shut" tabIndex={-1} className="mb-5 border-l-4 border-ink pl-2">
          <b>Shut.</b> {gate.why}
        </div>
      )}
      {points && <ByPoint points={points} onPick={setPlace} />}
      {standing && (
        <Section title="The reading that counts">
          <p className="flex items-center gap-2">
            <VerdictMark of={verdictMarks[verdict]} />
            <b>{readingWords(standing)}</b> {message}
          </p>
          <ReadingMeta reading={standing} />
          {verdict === 'off' && (
            <Link href={`/jobs/${id}/test?sheet=fault`} className="btn mt-2">
              Find what is wrong
            </Link>
          )}
          {earlier.length > 0 && (
            <details className="mt-2">
              <summary>
                {earlier.length} earlier {earlier.length === 1 ? 'reading' : 'readings'}, kept
              </summary>
              <ul>
                {earlier.map((r) => (
                  <li key={r.id} className="border-t border-rule py-1">
                    <s>{readingWords(r)}</s>
                    <ReadingMeta reading={r} />
                  </li>
                ))}
              </ul>
            </details>
          )}
        </Section>
      )}
      {test.expect.kind === 'unknown' && (
        <Section title="What it should be">
          <p>Not known yet. Enter {test.expect.ask}: a reading is kept, and judged when it is known.</p>
        </Section>
      )}
      {test.expect.kind === 'range' && (
        <Section title="What it should be">
          <p>{test.expect.tolerance}.</p>
          {test.expect.working && (
            <div className="mt-2">
              <WorkingCard working={test.expect.working} />
            </div>
          )}
        </Section>
      )}
      <Photographs
        of={{ kind: 'test', id: testSubject(circuit.id, test.id) }}
        title="Photographs of this test"
        hint="The meter as it reads, its probes where they touch."
      />
      <Photographs of={{ kind: 'circuit', id: circuit.id }} hint="Plates level, slots in line, covers and seals." />
    </>
  )
}

const verdictMarks = { met: 'met', off: 'error', unknown: 'unknown' } as const
/** What is at each point, where it was read point by point. */
function ByPoint({ points, onPick }: { points: readonly JudgedAt[]; onPick: (point: string) => void }) {
  return (
    <Section title="Point by point">
      <ul>
        {points.map((p) => (
          <li key={p.id} className="flex items-center gap-2 border-b border-rule py-1">
            <VerdictMark of={verdictMarks[p.verdict]} label={p.message} />
            <button type="button" className="tap min-w-0 flex-1 text-left hover:underline" onClick={() => onPick(p.id)}>
              {p.name}
              <span className="block text-[0.85rem] text-ink-2">{expectedWords(p.test)}</span>
            </button>
            <b>{p.reading ? readingWords(p.reading) : 'not read'}</b>
          </li>
        ))}
      </ul>
    </Section>
  )
}

function ReadingMeta({ reading: r }: { reading: Reading }) {
  return (
    <p className="text-[0.85rem] text-ink-2">
      {[r.by, formatWhen(r.at), r.instrument, r.note, r.corrects && 'corrects an earlier one'].filter(Boolean).join(' · ')}
    </p>
  )
}

function ConfirmEntry({ hasReading, onRecord }: { hasReading: boolean; onRecord: (d: Draft) => void }) {
  return (
    <div className="flex gap-2">
      <button type="button" className="btn btn-ink flex-1" onClick={() => onRecord({ value: null, mark: 'yes' })}>
        {hasReading ? 'Pass again' : 'Pass'}
      </button>
      <button type="button" className="btn flex-1" onClick={() => onRecord({ value: null, mark: 'no' })}>
        Fail
      </button>
    </div>
  )
}

function MeterEntry({
  test,
  hasReading,
  focus,
  onRecord,
}: {
  test: Test
  hasReading: boolean
  focus: boolean
  onRecord: (d: Draft) => void
}) {
  const id = useId()
  const [typed, setTyped] = useState('')
  const [complaint, setComplaint] = useState<string | null>(null)
  const input = useRef<HTMLInputElement>(null)
  const draft = readMeter(typed, test.unit)
  const submit = () => {
    if (!draft) {
      setComplaint(`Give what the meter shows, as 0.52, >999 or OL${typed.trim() ? `; “${typed.trim()}” is none of these` : ''}.`)
      input.current?.focus()
      return
    }
    setComplaint(null)
    onRecord(draft)
    setTyped('')
  }
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault()
        submit()
      }}
    >
      <RangeBar test={test} value={draft?.value ?? null} />
      <label htmlFor={id} className="mb-0.5 block text-[0.9rem] text-ink-2">
        {hasReading ? 'New reading; the old one is kept' : 'Reading'}
      </label>
      <div className="flex items-center gap-2">
        <input
          ref={input}
          autoFocus={focus}
          id={id}
          className="field text-lg font-bold"
          inputMode="decimal"
          autoComplete="off"
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          aria-invalid={Boolean(complaint)}
          aria-describedby={complaint ? `${id}-error` : undefined}
        />
        <span className="w-8 text-ink-2">{test.unit}</span>
        <button type="submit" className="btn btn-ink">
          Record
        </button>
      </div>
      {complaint && (
        <p id={`${id}-error`} role="alert" className="mt-1 font-bold text-error">
          {complaint}
        </p>
      )}
    </form>
  )
}

/** The band a reading should fall in, and where it falls. */
function RangeBar({ test, value }: { test: Test; value: number | null }) {
  if (test.expect.kind !== 'range') return null
  const { min, max, nominal } = test.expect
  const top = max === null ? (min ?? 1) * 4 : max * 1.25 || 1
  const x = (v: number) => 10 + 300 * Math.min(1, Math.max(0, v / top))
  const [from, to] = [x(min ?? 0), max === null ? 320 : x(max)]
  return (
    <svg viewBox="0 0 330 54" className="mb-1 w-full" role="img" aria-label={`Expected ${min ?? 0} to ${max ?? 'any more'} ${test.unit}`}>
      <path d="M10 26H320" stroke="var(--rule-2)" strokeWidth={2} />
      <rect x={from} y={17} width={Math.max(2, to - from)} height={18} fill="var(--wash)" stroke="var(--ink)" strokeWidth={1.5} />
      {nominal !== null && nominal > 0 && <path d={`M${x(nominal)} 14V38`} stroke="var(--ink)" strokeWidth={2} strokeDasharray="3 2" />}
      {value !== null && <path d={`M${x(value)} 20l-7 -13h14z`} fill="var(--ink)" />}
      <text x={from} y={50} fontSize={12} fill="var(--ink-2)" textAnchor={from < 40 ? 'start' : 'middle'}>
        {trim(min ?? 0, 2)}
      </text>
      {max !== null && to - from > 36 && (
        <text x={to} y={50} fontSize={12} fill="var(--ink-2)" textAnchor="middle">
          {trim(max, 2)}
        </text>
      )}
    </svg>
  )
}

function PlainInput({ label, value, onChange }: { label: string; value: string; onChange: (v: string) => void }) {
  const id = useId()
  return (
    <div>
      <label htmlFor={id} className="mb-0.5 block text-[0.9rem] text-ink-2">
        {label}
      </label>
      <input id={id} className="field" value={value} maxLength={120} onChange={(e) => onChange(e.target.value)} />
    </div>
  )
}
