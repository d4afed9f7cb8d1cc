'use client'
import { Say } from '@/ui/worded'
import { useState } from 'react'
import { type Sign, signs } from '@/core/faults/campaign'
import { diagnose, type Known, liveShut, metAt, questionOf, type Read } from '@/core/faults/diagnose'
import type { Shown } from '@/core/meters/measure'
import { meets } from '@/core/meters/measure'
import { readOf } from '@/core/faults/read'
import { type StillLive, stillLive } from '@/core/faults/still-live'
import { trim } from '@/core/base/format'
import { expectedWords } from '@/core/verify/words'
import type { Test } from '@/core/verify/tests'
import { Section, Stage } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { Working } from '@/ui/working'
import { InHand } from './in-hand'
import { useSeenJob } from '../sync/context'
import { useFaults } from './use-faults'

const shownWords = (shown: Shown, unit: string): string =>
  typeof shown === 'number'
    ? `${shown >= 200 && unit === 'MΩ' ? '>200' : trim(shown, shown < 10 ? 2 : 1)} ${unit}`
    : shown === 'open'
      ? 'open circuit'
      : shown

const complaints: Readonly<Record<Sign, string>> = {
  dead: 'It is dead, there or beyond',
  'trips-at-once': 'It trips as soon as it is switched on',
  'trips-loaded': 'It trips when something is used',
  shock: 'Metal gives a shock',
  warm: 'A plate is warm, or smells',
  uneven: 'Half of the lights dim, and others are too bright',
}

/** What readings that are off say: the wrong connections that explain all of them, and what to measure next; or a planted fault to find. */
export function FaultSheet() {
  const { asked, report, found, at } = useFaults('readings')
  const [planted, setPlanted] = useState<number | null>(null)
  const [practised, setPractised] = useState<readonly Read[]>([])
  const [said, setSaid] = useState<string | null>(null)
  const [complained, setComplained] = useState<readonly Sign[]>([])
  const job = useSeenJob()
  const known = found?.known ?? null
  const live = <NotDead found={stillLive(job, report)} />
  if (!asked || !known)
    return (
      <Stage
        title="Test"
        drawing={
          <>
            {live}
            {asked ? (
              <Working
                words={`What each wrong connection of ${report.circuit.name} would show is being worked out…`}
                again="Go on"
                at={at}
              />
            ) : (
              <p className="text-ink-2">
                Faults are looked for on the wiring of the circuit: its lengths, size and what it ends on come first.
              </p>
            )}
          </>
        }
        working={<p className="text-ink-2">Nothing yet.</p>}
      />
    )
  const reads = planted === null ? report.testReport.judged.flatMap(readOf) : practised
  // A planted fault gives its symptoms; there is no complaint of what it does not do.
  const felt = planted === null ? complained : known.signs[planted]!
  const diagnosis = diagnose(known, reads, felt)
  const plant = () => {
    const telling = known.shown.flatMap((row, i) => (i > 0 && row.some((s, k) => !meets(known.tests[k]!, s)) ? [i] : []))
    setPlanted(telling[Math.floor(Math.random() * telling.length)] ?? null)
    setPractised([])
    setSaid(null)
  }
  const right = planted !== null && said !== null && (said === known.hypotheses[planted]!.id || sameShown(known, planted, said))
  const mend = () => {
    setPlanted(SOUND)
    setPractised([])
    setSaid(null)
  }
  const measure = (test: string, point: string | null) => {
    const shown = known.questions.find((q) => q.test.id === test && q.point === point)!.shown[planted!]!
    setPractised([...practised.filter((r) => r.test !== test || (r.point ?? null) !== point), { test, shown, point }])
  }
  return (
    <Stage
      title="Test"
      drawing={
        <div className="flex max-w-[56rem] flex-col gap-4">
          {planted === null && live}
          <div className="no-print flex flex-wrap gap-1.5">
            <button type="button" className="btn" onClick={plant}>
              {planted === null ? 'Practise: plant a fault' : 'Plant another'}
            </button>
            {planted !== null && (
              <button type="button" className="btn" onClick={() => setPlanted(null)}>
                Back to the readings of this circuit
              </button>
            )}
          </div>
          {planted === null && (
            <fieldset className="no-print">
              <legend className="text-[0.9rem] text-ink-2">Reported symptoms</legend>
              <div className="flex flex-wrap gap-x-5">
                {signs.map((s) => (
                  <label key={s} className="tap flex items-center gap-2">
                    <input
                      type="checkbox"
                      className="size-5 accent-[var(--ink)]"
                      checked={complained.includes(s)}
                      onChange={(e) => setComplained(e.target.checked ? [...complained, s] : complained.filter((x) => x !== s))}
                    />
                    <span>{complaints[s]}</span>
                  </label>
                ))}
              </div>
            </fieldset>
          )}
          {planted !== null && (
            <p className="border-l-4 border-ink pl-2">
              {planted !== SOUND ? (
                <>
                  {felt.length > 0 && <b>{felt.map((f) => `“${complaints[f]}.” `)}</b>}A wrong connection is planted in{' '}
                  {report.circuit.name}, unseen. Measure, and say what it is. Nothing of this goes into the record.
                </>
              ) : known.tests.every((t) => practised.some((r) => r.test === t.id && (r.point ?? null) === null && meets(t, r.shown))) ? (
                <b>Every test holds: tell those who are there, and switch it on, one circuit at a time, from the board outward.</b>
              ) : (
                'It is put right. What was opened is tested again, dead first, before it is switched on.'
              )}
            </p>
          )}
          <Readings
            known={known}
            reads={reads}
            next={diagnosis.next}
            nameOf={(point) => asked.wiring.places.find((p) => p.id === point)?.name ?? ''}
            onMeasure={planted === null ? null : measure}
          />
          <InHand
            key={planted ?? 'sound'}
            wiring={asked.wiring}
            difference={planted === null || planted === SOUND ? null : known.hypotheses[planted]!.difference}
            shut={liveShut(known, reads)}
          />
        </div>
      }
      working={
        <Causes
          diagnosis={diagnosis}
          reads={reads.length + felt.length}
          onSay={planted === null || planted === SOUND ? null : setSaid}
          onMend={right ? mend : null}
          answer={
            said === null || planted === null
              ? null
              : said === known.hypotheses[planted]!.id
                ? `Right: ${known.hypotheses[planted]!.words}. Found in ${practised.length} measurements.`
                : sameShown(known, planted, said)
                  ? `As good as right: it was “${known.hypotheses[planted]!.words}”, and no test of the plan tells the two apart.`
                  : 'It is something else: measure on.'
          }
        />
      }
    />
  )
}

/** An isolation that did not make dead what is worked on: nothing else is measured before it is mended. */
function NotDead({ found }: { found: StillLive | null }) {
  if (!found) return null
  return (
    <section aria-label="It is not dead" className="mb-3 max-w-[56rem] border-2 border-ink p-3">
      <p className="flex items-center gap-2 font-bold">
        <VerdictMark of="error" /> It is not dead: {found.read}
      </p>
      <p className="mt-1">
        Stop. Touch nothing, cover what is open, and keep others away.{' '}
        {found.voltage === 'full' ? 'This is the voltage of the supply.' : 'This is part of the voltage of the supply.'} What may explain
        it:
      </p>
      <ol className="mt-1 list-decimal pl-6">
        {found.causes.map((c) => (
          <li key={c} className="py-0.5">
            {c}
          </li>
        ))}
      </ol>
    </section>
  )
}

/** The first of what may be the matter: nothing. */
const SOUND = 0

/** Whether two faults show the same of every test. */
function sameShown({ hypotheses, shown }: Known, a: number, id: string): boolean {
  const b = hypotheses.findIndex((h) => h.id === id)
  return b >= 0 && shown[a]!.every((s, i) => s === shown[b]![i] || (typeof s === 'number' && Math.abs(s - Number(shown[b]![i])) < 0.02))
}

function Readings({
  known,
  reads,
  next,
  nameOf,
  onMeasure,
}: {
  known: Known
  reads: readonly Read[]
  next: ReturnType<typeof diagnose>['next']
  nameOf: (point: string) => string
  onMeasure: ((test: string, point: string | null) => void) | null
}) {
  const shut = liveShut(known, reads)
  const row = (t: Test) => {
    const taken = reads.flatMap((r) => {
      const question = r.test === t.id ? questionOf(known, r) : undefined
      return question ? [{ point: question.point, shown: r.shown, met: metAt(question, r.shown) }] : []
    })
    const whole = taken.find((r) => r.point === null)
    const told = next?.test === t.id ? next : null
    const closed = t.phase === 'live' && shut
    const button = (point: string | null) => (
      <button
        type="button"
        className={`btn ${told?.point === point ? 'btn-ink' : ''}`}
        aria-label={`Measure: ${t.title}${point === null ? '' : ` at ${nameOf(point)}`}`}
        onClick={() => onMeasure!(t.id, point)}
      >
        {point === null ? 'Measure' : `At ${nameOf(point)}`}
      </button>
    )
    return (
      <tr key={t.id} className="border-b border-rule">
        <td className="w-8 py-1 pl-1">
          {taken.length === 0 ? <VerdictMark of="unknown" /> : <VerdictMark of={taken.every((r) => r.met) ? 'met' : 'error'} />}
        </td>
        <td className="py-1">
          <Say>{t.title}</Say>
          {told && <b> · tells most now{told.point === null ? '' : `, at ${nameOf(told.point)}`}</b>}
        </td>
        <td className="px-2 py-1 text-ink-2">{expectedWords(t)}</td>
        <td className="py-1 text-right font-bold">
          {taken.map((r) => (
            <span key={r.point ?? ''} className="block">
              {r.point !== null && <span className="font-normal text-ink-2">{nameOf(r.point)}: </span>}
              {shownWords(r.shown, t.unit)}
            </span>
          ))}
          {onMeasure && !whole && closed && <span className="font-normal text-ink-2">shut</span>}
          {onMeasure && !whole && !closed && button(null)}
          {onMeasure && told && told.point !== null && !closed && button(told.point)}
        </td>
      </tr>
    )
  }
  return (
    <table className="cards w-full">
      <thead className="sr-only">
        <tr>
          <th>Verdict</th>
          <th>Test</th>
          <th>Expected</th>
          <th>Shown</th>
        </tr>
      </thead>
      <tbody>{known.tests.map(row)}</tbody>
    </table>
  )
}

function Causes({
  diagnosis: { causes, next, several },
  reads,
  onSay,
  onMend,
  answer,
}: {
  diagnosis: ReturnType<typeof diagnose>
  reads: number
  onSay: ((id: string) => void) | null
  /** It was named: it can be put right. */
  onMend: (() => void) | null
  answer: string | null
}) {
  return (
    <>
      {answer && (
        <p role="status" className="mb-3 border-2 border-ink p-2 font-bold">
          {answer}
        </p>
      )}
      {onMend && (
        <button type="button" className="btn btn-ink mb-3" onClick={onMend}>
          Put it right, and test again
        </button>
      )}
      <Section title="What explains it">
        {reads === 0 ? (
          <p className="text-ink-2">Nothing is measured yet.</p>
        ) : several ? (
          <p className="flex items-start gap-2">
            <VerdictMark of="unknown" />{' '}
            <span>No single fault explains these readings. Repeat the last reading; if it is the same, look for two faults.</span>
          </p>
        ) : (
          <ol>
            {causes.slice(0, 8).map((c) => (
              <li key={c.id ?? 'sound'} className="border-b border-rule py-1.5">
                <span className="mb-1 block h-2 border border-ink" aria-hidden>
                  <span className="block h-full bg-ink" style={{ width: `${Math.round(100 * c.belief)}%` }} />
                </span>
                <span className="block first-letter:uppercase">
                  {c.words} <span className="text-ink-2">{Math.round(100 * c.belief)} %</span>
                </span>
                {onSay && (
                  <button type="button" className="btn mt-1" aria-label={`It is this: ${c.words}`} onClick={() => onSay(c.id ?? '')}>
                    It is this
                  </button>
                )}
              </li>
            ))}
            {causes.length > 8 && <li className="py-1 text-ink-2">and {causes.length - 8} more, less likely</li>}
          </ol>
        )}
      </Section>
      <p className="text-[0.9rem] text-ink-2">
        {next
          ? 'The test that tells most now is marked. Live tests stay shut while a dead one is off or not made.'
          : 'No test that may be made now tells these apart any further.'}{' '}
        It is worked out for one wrong connection at a time, on the wiring as designed.
      </p>
    </>
  )
}
