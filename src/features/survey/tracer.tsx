'use client'
import { useEffect, useState } from 'react'
import { listed as named } from '@/core/base/finding'
import type { Point } from '@/core/installation/installation'
import { instruments, type ObservationRecord } from '@/core/job/observation'
import { cablesAt, practiceBuilding, probe } from '@/core/practice/practice'
import { type Goal, isUnlooked, type NextTest, proofOf } from '@/core/survey/traced'
import { placeNames, testInWords } from '@/core/survey/words'
import type { Observation, TraceTest } from '@/core/trace/types'
import { ChoiceField, SelectField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { Act, FieldGrid, Section } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { useJob } from '../sync/context'
import { useLed } from '../fields/use-led'
import { ListPoints } from '../fields/list-points'
import { useNextTests } from './use-next-tests'

const instrumentNames: Record<(typeof instruments)[number], string> = {
  contact: 'Contact tester',
  lamp: 'Lamp or plug-in tester',
  'non-contact': 'Non-contact only',
  told: 'Drawing, or seen laid open',
}
const keyOf = (test: TraceTest): string => (test.kind === 'breaker-off' ? `b:${test.breaker}` : `p:${test.point}`)

interface Draft {
  test: string
  dead: string[]
  instrument: ObservationRecord['instrument']
  cables: number | null
  /** `all`, or the one question asked: `feeds:ID`, `parents:ID`. */
  goal: string
}
const goalOf = (key: string): Goal | null => {
  const [want, point] = key.split(':')
  return point && (want === 'feeds' || want === 'parents') ? { want, points: [point] } : null
}

const blank: Draft = { test: '', dead: [], instrument: 'contact', cables: null, goal: 'all' }

const keptAt = (key: string): Draft => ({ ...blank, ...(JSON.parse(localStorage.getItem(key) ?? '{}') as Partial<Draft>) })

/** What was tapped is kept on the device until it is recorded, whatever happens to the page or the connection. */
function useDraft(jobId: string): [Draft, (patch: Partial<Draft>) => void, () => void] {
  const key = `synthema.trace.${jobId}`
  const [draft, setDraft] = useState<Draft>(blank)
  useEffect(() => setDraft(keptAt(key)), [key])
  // Who is led to the test of a breaker finds it asked for, unless another was begun.
  useLed('survey', 'trace', (kind, id) => {
    const kept = keptAt(key)
    if (kind === 'way' && kept.dead.length === 0) setDraft({ ...kept, test: `b:${id}`, goal: 'all' })
  })
  const change = (patch: Partial<Draft>) => {
    const next = { ...draft, ...patch }
    setDraft(next)
    localStorage.setItem(key, JSON.stringify(next))
  }
  const clear = () => {
    const next = { ...blank, instrument: draft.instrument, goal: draft.goal }
    setDraft(next)
    localStorage.setItem(key, JSON.stringify(next))
  }
  return [draft, change, clear]
}

export function Tracer() {
  const id = useJob((s) => s.id)
  const survey = useJob((s) => s.job)
  const there = survey.standing
  const report = useJob((s) => s.report.survey)
  const commit = useJob((s) => s.commit)
  const [draft, change, clear] = useDraft(id)
  const goal = goalOf(draft.goal)
  const { tests, thinking } = useNextTests(goal && survey.points.some((p) => p.id === goal.points[0]) ? goal : null)
  const next = tests ?? []
  const done = goal ? report.trace[goal.want][goal.points[0]!] != null : report.untraced === 0
  const unlooked = new Set(report.loads.flatMap((l) => (isUnlooked(l) ? [l.way.id] : [])))
  const told = new Set(report.loads.flatMap((l) => (proofOf(l) === 'told' ? [l.way.id] : [])))
  // Any test may be made, the suggested ones first; one that is answered already may be done again.
  const listed = new Map(next.map((n) => [keyOf(n.test), n]))
  const all: TraceTest[] = [
    ...next.map((n) => n.test),
    ...survey.ways
      .toSorted((a, b) => Number(unlooked.has(b.id)) - Number(unlooked.has(a.id)))
      .map((w): TraceTest => ({ kind: 'breaker-off', breaker: w.id }))
      .filter((t) => !listed.has(keyOf(t))),
    ...there.map((p): TraceTest => ({ kind: 'disconnected', point: p.id })).filter((t) => !listed.has(keyOf(t))),
  ]
  const test = all.find((t) => keyOf(t) === draft.test) ?? all[0]
  const readings = usePracticeReadings(test, draft.instrument)
  const [looked, setLooked] = useState('')
  if (survey.ways.length === 0 || there.length === 0 || !test)
    return (
      <Section title="Trace">
        <div role="group" aria-label="Test to make" tabIndex={-1}>
          <p className="text-ink-2">With at least one way and one point listed, the most telling test is asked for here.</p>
          <ListPoints />
        </div>
      </Section>
    )
  const note = listed.get(keyOf(test))
  const standing = (t: TraceTest): string => {
    if (listed.has(keyOf(t))) return ''
    if (goal) return ' (not needed for this)'
    if (t.kind === 'breaker-off' && unlooked.has(t.breaker)) return ' (not done yet)'
    return t.kind === 'breaker-off' && told.has(t.breaker) ? ' (told, not seen)' : ' (known already)'
  }
  const self = test.kind === 'disconnected' ? test.point : null
  const shown = readings && looked === keyOf(test) + draft.instrument ? readings : null
  const dead = draft.dead.filter((d) => d !== self)
  const record = () => {
    commit({ kind: 'observation.add', items: observed(test, dead, draft) })
    clear()
    setLooked('')
  }
  return (
    <Section
      title={done && !report.clash ? (goal ? 'Answered' : 'Every point is traced') : thinking ? 'Working out the next test…' : 'Next test'}
    >
      <Incomplete />
      {done && !goal && unlooked.size > 0 && (
        <p className="mb-2 flex items-baseline gap-1.5">
          <VerdictMark of="unknown" size={14} />
          <span>
            Not switched off: {named(survey.ways.flatMap((w) => (unlooked.has(w.id) ? [w.label] : [])))}. Its load is not known; these
            points are assigned to it only because no other breaker switched them off.
          </span>
        </p>
      )}
      <GoalField value={draft.goal} onChange={(g) => change({ goal: g, test: '' })} />
      {/* While the next test is worked out, the previous one stays, but cannot be answered. */}
      <div inert={thinking}>
        <div className="mt-2 mb-1">
          <select
            aria-label="Test to make"
            className="field font-bold"
            value={keyOf(test)}
            onChange={(e) => change({ test: e.target.value, dead: [], cables: null })}
          >
            {all.map((t) => (
              <option key={keyOf(t)} value={keyOf(t)}>
                {testInWords(survey, t)}
                {standing(t)}
              </option>
            ))}
          </select>
        </div>
        <TestAdvice test={test} note={note} />
        {readings && (
          <button type="button" className="btn mb-2 w-full" onClick={() => setLooked(keyOf(test) + draft.instrument)}>
            Make this test in the practice building
          </button>
        )}
        <Taps
          points={there.filter((p) => p.id !== self)}
          dead={draft.dead}
          seen={shown?.points ?? null}
          onTap={(point) =>
            change({ test: keyOf(test), dead: draft.dead.includes(point) ? draft.dead.filter((d) => d !== point) : [...draft.dead, point] })
          }
        />
        {shown && shown.cables !== null && (
          <p className="mt-1.5">
            In the opened box: <b>{shown.cables}</b> onward {shown.cables === 1 ? 'cable' : 'cables'}.
          </p>
        )}
        <div className="mt-3">
          <SeenWith test={test} draft={draft} onChange={change} />
        </div>
        <Act>
          <button type="button" className="btn btn-ink w-full max-md:min-h-14" onClick={record}>
            Record: {dead.length === 0 ? 'nothing died' : `${dead.length} dead, the rest live`}
          </button>
        </Act>
      </div>
    </Section>
  )
}

/** What a test showed, as it is kept: what went dead, and how many cables were counted in the opened box. */
function observed(test: TraceTest, dead: readonly string[], { instrument, cables }: Draft): Omit<ObservationRecord, 'later'>[] {
  const seen: Observation[] = [
    { ...test, dead: [...dead] },
    ...(test.kind === 'disconnected' && cables !== null ? [{ kind: 'cables' as const, point: test.point, onward: cables }] : []),
  ]
  return seen.map((s) => ({ id: crypto.randomUUID(), at: new Date().toISOString(), instrument, withdrawn: false, seen: s }))
}

/** The points, to be tapped where they went dead; in the practice building with what the tester shows. */
function Taps({
  points,
  dead,
  seen,
  onTap,
}: {
  points: readonly Point[]
  dead: readonly string[]
  seen: Readonly<Record<string, 'live' | 'dead'>> | null
  onTap: (point: string) => void
}) {
  return (
    <ul className="grid grid-cols-2 gap-1.5" aria-label="What went dead">
      {points.map((p) => {
        const isDead = dead.includes(p.id)
        return (
          <li key={p.id}>
            <button
              type="button"
              aria-pressed={isDead}
              onClick={() => onTap(p.id)}
              className={
                'h-full min-h-12 w-full border-2 px-2 py-1 text-left leading-tight ' +
                (isDead ? 'border-ink bg-ink text-sheet' : 'border-rule-2 bg-sheet hover:bg-wash')
              }
            >
              <span className="block font-bold wrap-anywhere">{p.name}</span>
              <span className="block text-[0.82rem] wrap-anywhere">
                {isDead ? 'dead' : 'live'}
                {seen ? `; tester: ${seen[p.id] === 'dead' ? 'dark' : 'lit'}` : p.room && `, ${p.room}`}
              </span>
            </button>
          </li>
        )
      })}
    </ul>
  )
}

/** With what it was seen, and the cables counted in an opened box. */
function SeenWith({ test, draft, onChange }: { test: TraceTest; draft: Draft; onChange: (patch: Partial<Draft>) => void }) {
  return (
    <FieldGrid>
      <ChoiceField
        label="Seen with"
        value={draft.instrument}
        options={instruments.map((i) => ({ value: i, label: instrumentNames[i] }))}
        onCommit={(instrument) => onChange({ instrument })}
      />
      {draft.instrument === 'non-contact' && (
        <p className="col-span-full text-[0.9rem]">
          Kept as a hint where to look next, and not counted: beside other live cable it shows live, and its silence proves nothing. Confirm
          with a contact tester.
        </p>
      )}
      {test.kind === 'disconnected' && (
        <NumberField
          key={keyOf(test)}
          wide
          label="Outgoing cables in the box, if counted"
          value={draft.cables}
          whole
          optional
          max={20}
          onPreview={(cables) => onChange({ test: keyOf(test), cables })}
          onCommit={(cables) => onChange({ test: keyOf(test), cables })}
        />
      )}
    </FieldGrid>
  )
}

/** Tests made before a point was listed: what they say of it is asked, never assumed. */
function Incomplete() {
  const incomplete = useJob((s) => s.report.survey.incomplete)
  const survey = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  if (incomplete.length === 0) return null
  const name = placeNames(survey)
  const later = [...new Set(incomplete.flatMap((i) => i.missing))]
  const tests = incomplete.length === 1 ? 'One test was' : `${incomplete.length} tests were`
  return (
    <div role="status" className="mb-3 border-l-4 border-ink bg-paper px-3 py-2">
      <p>
        {tests} made before {later.map(name).join(', ')} {later.length === 1 ? 'was' : 'were'} listed, and{' '}
        {incomplete.length === 1 ? 'does' : 'do'} not count until {incomplete.length === 1 ? 'it says' : 'they say'} whether{' '}
        {later.length === 1 ? 'it' : 'they'} died. Make them again, or complete them below.
      </p>
      <button
        type="button"
        className="btn mt-1"
        onClick={() => commit({ kind: 'observation.complete', ids: incomplete.map((i) => i.id), dead: [] })}
      >
        {later.length === 1 ? 'It was' : 'They were'} live in {incomplete.length === 1 ? 'it' : 'all of them'}, I looked
      </button>
    </div>
  )
}

/** Everything, or one question alone: then only the tests that answer it are asked. */
function GoalField({ value, onChange }: { value: string; onChange: (goal: string) => void }) {
  const survey = useJob((s) => s.job)
  const { trace } = useJob((s) => s.report.survey)
  const name = placeNames(survey)
  const goal = goalOf(value)
  /** A label that ends in a mark of its own needs no full stop. */
  const stop = (label: string) => (/[.?!]$/.test(label) ? '' : '.')
  const answer = goal ? trace[goal.want][goal.points[0]!] : null
  const asks = survey.standing.flatMap((p) => [
    { value: `feeds:${p.id}`, label: `What feeds ${p.name}?`, group: 'Which breaker' },
    { value: `parents:${p.id}`, label: `What does ${p.name} come from?`, group: 'Which point before it' },
  ])
  return (
    <>
      <SelectField
        label="To be found out"
        value={value}
        options={[{ value: 'all', label: 'Everything' }, ...asks.toSorted((a, b) => a.group.localeCompare(b.group))]}
        onCommit={onChange}
      />
      {goal && answer != null && (
        <p role="status" className="mt-2 border-l-4 border-ink bg-paper px-3 py-2">
          {goal.want === 'feeds' ? (
            <>
              {name(goal.points[0]!)} is fed by <b>{name(answer)}</b>
              {stop(name(answer))}
            </>
          ) : (
            <>
              {name(goal.points[0]!)} comes from <b>{name(answer)}</b>
              {stop(name(answer))}
            </>
          )}{' '}
          Prove it dead all the same before you touch it.
        </p>
      )}
    </>
  )
}

function TestAdvice({ test, note }: { test: TraceTest; note: NextTest | undefined }) {
  const points = useJob((s) => s.job.points)
  return (
    <>
      {note && note.holds.length > 0 && (
        <p className="mb-1 font-bold">
          This may black out {note.holds.map((h) => points.find((p) => p.id === h)?.name).join(', ')}, which must not lose power.
        </p>
      )}
      <p className="mb-2 text-[0.9rem] text-ink-2">
        {test.kind === 'breaker-off'
          ? 'That one alone off, all others on. Tell people first.'
          : 'Isolate and prove dead before the box is opened; disconnect every outgoing cable, make safe, switch on, and check.'}{' '}
        Then tap what went dead.
      </p>
    </>
  )
}

/** What the practice building would show for a test; null on a real job. */
function usePracticeReadings(test: TraceTest | undefined, instrument: string) {
  const practice = useJob((s) => s.job.practice)
  if (!practice || !test || instrument === 'told') return null
  const building = practiceBuilding(practice.seed)
  return {
    points: probe(building, test, instrument, practice.misleading, practice.seed),
    cables: test.kind === 'disconnected' ? cablesAt(building, test.point) : null,
  }
}
