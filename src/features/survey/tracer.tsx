'use client'
import { useEffect, useState } from 'react'
import { instruments, type Sighting } from '@/core/survey/schema'
import { testInWords } from '@/core/trace/words'
import type { Observation, TraceTest } from '@/core/trace/types'
import { ChoiceField, NumberField } from '@/ui/fields'
import { FieldGrid, Section } from '@/ui/panel'
import { useJob } from '../job/context'

const instrumentNames: Record<(typeof instruments)[number], string> = { contact: 'Contact tester', lamp: 'Lamp or plug-in tester', 'non-contact': 'Non-contact only', told: 'Drawing, or seen laid open' }
const keyOf = (test: TraceTest): string => (test.kind === 'breaker-off' ? `b:${test.breaker}` : `p:${test.point}`)

interface Draft {
  test: string
  dead: string[]
  instrument: Sighting['instrument']
  cables: number | null
}

/** What was tapped is kept on the device until it is recorded, whatever happens to the page or the connection. */
function useDraft(jobId: string, first: string | null): [Draft, (patch: Partial<Draft>) => void, () => void] {
  const key = `synthema.trace.${jobId}`
  const blank: Draft = { test: '', dead: [], instrument: 'contact', cables: null }
  const [draft, setDraft] = useState<Draft>(blank)
  useEffect(() => {
    const kept = localStorage.getItem(key)
    if (kept) setDraft(JSON.parse(kept) as Draft)
  }, [key])
  const current = draft.test === '' && first ? { ...draft, test: first } : draft
  const change = (patch: Partial<Draft>) => {
    const next = { ...current, ...patch }
    setDraft(next)
    localStorage.setItem(key, JSON.stringify(next))
  }
  const clear = () => {
    setDraft({ ...blank, instrument: current.instrument })
    localStorage.removeItem(key)
  }
  return [current, change, clear]
}

export function Tracer() {
  const id = useJob((s) => s.id)
  const survey = useJob((s) => s.job.survey)
  const report = useJob((s) => s.report.survey)
  const commit = useJob((s) => s.commit)
  const suggested = report.next[0]
  const [draft, change, clear] = useDraft(id, suggested ? keyOf(suggested.test) : null)
  // Any test may be made, the suggested ones first; one that is answered already may be done again.
  const listed = new Map(report.next.map((n) => [keyOf(n.test), n]))
  const all: TraceTest[] = [
    ...report.next.map((n) => n.test),
    ...survey.ways.map((w): TraceTest => ({ kind: 'breaker-off', breaker: w.id })).filter((t) => !listed.has(keyOf(t))),
    ...survey.points.map((p): TraceTest => ({ kind: 'disconnected', point: p.id })).filter((t) => !listed.has(keyOf(t))),
  ]
  const test = all.find((t) => keyOf(t) === draft.test) ?? all[0]
  if (survey.ways.length === 0 || survey.points.length === 0 || !test)
    return (
      <Section title="Trace">
        <p className="text-ink-2">With at least one way and one point listed, the most telling test is asked for here.</p>
      </Section>
    )
  const note = listed.get(keyOf(test))
  const self = test.kind === 'disconnected' ? test.point : null
  const record = () => {
    const dead = draft.dead.filter((d) => d !== self)
    const seen: Observation[] = [
      test.kind === 'breaker-off' ? { ...test, dead } : { ...test, dead },
      ...(test.kind === 'disconnected' && draft.cables !== null ? [{ kind: 'cables' as const, point: test.point, onward: draft.cables }] : []),
    ]
    commit({ kind: 'sighting.add', sightings: seen.map((s) => ({ id: crypto.randomUUID(), at: new Date().toISOString(), instrument: draft.instrument, withdrawn: false, seen: s })) })
    clear()
  }
  const toggle = (point: string) => change({ test: keyOf(test), dead: draft.dead.includes(point) ? draft.dead.filter((d) => d !== point) : [...draft.dead, point] })
  return (
    <Section title={report.untraced === 0 && !report.clash ? 'Every point is traced' : 'Next test'}>
      <div className="mb-1">
        <select aria-label="Test" className="field font-bold" value={keyOf(test)} onChange={(e) => change({ test: e.target.value, dead: [], cables: null })}>
          {all.map((t) => (
            <option key={keyOf(t)} value={keyOf(t)}>
              {testInWords(survey, t)}
              {listed.has(keyOf(t)) ? '' : ' (known already)'}
            </option>
          ))}
        </select>
      </div>
      {note && note.holds.length > 0 && <p className="mb-1 font-bold">This may black out {note.holds.map((h) => survey.points.find((p) => p.id === h)?.name).join(', ')}, which must not lose power.</p>}
      <p className="mb-2 text-[0.9rem] text-ink-2">
        {test.kind === 'breaker-off' ? 'That one alone off, all others on. Tell people first.' : 'Isolate and prove dead before the box is opened; part every onward cable, make safe, switch on, and look.'} Then tap what went dead.
      </p>
      <ul className="grid grid-cols-2 gap-1.5" aria-label="What went dead">
        {survey.points
          .filter((p) => p.id !== self)
          .map((p) => {
            const dead = draft.dead.includes(p.id)
            return (
              <li key={p.id}>
                <button type="button" aria-pressed={dead} onClick={() => toggle(p.id)} className={`min-h-12 w-full border-2 px-2 py-1 text-left leading-tight ${dead ? 'border-ink bg-ink text-sheet' : 'border-rule-2 bg-sheet hover:bg-wash'}`}>
                  <span className="block truncate font-bold">{p.name}</span>
                  <span className="block truncate text-[0.82rem]">
                    {dead ? 'dead' : 'live'}
                    {p.room && `, ${p.room}`}
                  </span>
                </button>
              </li>
            )
          })}
      </ul>
      <div className="mt-3">
        <FieldGrid>
          <ChoiceField label="Seen with" value={draft.instrument} options={instruments.map((i) => ({ value: i, label: instrumentNames[i] }))} onCommit={(instrument) => change({ instrument })} />
          {draft.instrument === 'non-contact' && <p className="col-span-full text-[0.9rem]">Kept, but not counted: near other live cable it shows live, and its silence proves nothing. Confirm with a contact tester.</p>}
          {test.kind === 'disconnected' && <NumberField key={keyOf(test)} wide label="Onward cables in the box, if counted" value={draft.cables} whole optional max={20} onCommit={(cables) => change({ cables })} />}
        </FieldGrid>
        <button type="button" className="btn btn-ink mt-3 w-full" onClick={record}>
          Record: {draft.dead.filter((d) => d !== self).length === 0 ? 'nothing died' : `${draft.dead.filter((d) => d !== self).length} dead, the rest live`}
        </button>
      </div>
    </Section>
  )
}
