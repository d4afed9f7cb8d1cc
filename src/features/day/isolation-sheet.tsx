'use client'
import { clock } from '@/core/job/day'
import { useRouter } from 'next/navigation'
import { useMemo, useState } from 'react'
import { type IsolationAsked, isolationAsked } from '@/core/evaluate/isolation-asked'
import { type IsolationCard, type IsolationFound, NOTHING_ISOLATES, stepTitle } from '@/core/workday/isolation'
import { boardDrawing } from '@/core/drawing/board'
import { FittingDrawing } from '@/ui/drawing'
import { useWorker } from '@/ui/use-worker'
import { TextField } from '@/ui/fields'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { formatWhen } from '@/ui/when'
import { expectedWords, readingWords } from '@/core/verify/words'
import { worlds } from '@/core/region/worlds'
import { useJob } from '../sync/context'
import { useDay } from './use-day'

const verdictMarks = { met: 'met', off: 'error', unknown: 'unknown' } as const

const begin = () => new Worker(new URL('../../workers/isolate.ts', import.meta.url), { type: 'module' })
/** What makes the places of a card dead, asked of the wiring in a worker of the page; null while it thinks. */
function useIsolation(places: IsolationCard['places']): IsolationFound | null {
  const job = useJob((s) => s.job.record)
  const key = JSON.stringify(places)
  const asked = useMemo((): IsolationAsked => ({ job, places: JSON.parse(key) as IsolationCard['places'] }), [job, key])
  const { answer, thinking } = useWorker(begin, asked, isolationAsked)
  return thinking ? null : answer
}

/** A card for each outage: what is opened, what stays live beside it, proved dead test by test, signed by each who works under it. */
export function IsolationSheet() {
  const { job, cards } = useDay()
  const [at, setAt] = useState(0)
  const card = cards[Math.min(at, cards.length - 1)]
  return (
    <Stage
      title="Day"
      drawing={
        card ? (
          <div className="flex max-w-[52rem] flex-col gap-4">
            {cards.length > 1 && (
              <div className="no-print flex flex-wrap gap-1.5" role="group" aria-label="Outages">
                {cards.map((c, i) => (
                  <button
                    key={i}
                    type="button"
                    className={`btn ${c === card ? 'border-ink font-bold' : ''}`}
                    aria-pressed={c === card}
                    onClick={() => setAt(i)}
                  >
                    {c.span ? `${clock(c.span.fromMin)} to ${clock(c.span.toMin)}` : `Outage ${i + 1}`}
                  </button>
                ))}
              </div>
            )}
            <Card card={card} />
          </div>
        ) : (
          <p className="text-ink-2">No task on this day needs the power off.</p>
        )
      }
      working={
        <>
          {card && <Sign card={card} />}
          <p className="text-[0.9rem] text-ink-2">
            Everyone who works under this card proves the tester, proves all conductors dead between all pairs and proves the tester again.
            Repeat it after a break, or when anyone else was at the {worlds[job.region].words.board}. Local rules and licensed practice come
            first.
          </p>
        </>
      }
    />
  )
}

function Lines({ title, list, mark }: { title: string; list: readonly string[]; mark?: 'error' | 'warning' | 'unknown' }) {
  if (list.length === 0) return null
  return (
    <Section title={title}>
      <ul>
        {list.map((l) => (
          <li key={l} className="flex items-start gap-2 py-0.5">
            {mark && <VerdictMark of={mark} />}
            <span>{l}</span>
          </li>
        ))}
      </ul>
    </Section>
  )
}

function Card({ card }: { card: IsolationCard }) {
  const id = useJob((s) => s.id)
  const pick = useJob((s) => s.pickCircuit)
  const router = useRouter()
  const found = useIsolation(card.places)
  return (
    <>
      <p className="border-l-4 border-ink pl-2">
        <b>{card.proved ? 'Proved dead.' : 'Not proved dead.'}</b>{' '}
        {card.proved
          ? 'What is worked on was tested as the list says, and the readings stand.'
          : 'Do not start work until the tests below are recorded.'}
      </p>
      <Lines title="Not checked" list={card.unknown} mark="unknown" />
      {found === null ? (
        <p className="text-ink-2">Working out what to isolate…</p>
      ) : (
        <>
          {card.unknown.length === 0 && found.opens && <Lines title="Opened, locked and tagged" list={found.opens} />}
          {found.opens === null && <Lines title="Nothing isolates it" list={[NOTHING_ISOLATES]} mark="error" />}
          <Lines
            title="Not in the wiring, and not judged"
            list={found.notJudged.map((n) => `${n}: prove it dead by itself, whatever is off.`)}
            mark="unknown"
          />
          <OutageBoard found={found} boards={card.places.boards} />
          <Lines title="Stays live there" list={found.staysLive} mark="warning" />
          <Lines title="Off, but must stay on" list={found.mustHold} mark="warning" />
          <Lines title="Stays on, but may trip" list={found.mayTrip} mark="warning" />
          {found.loses.length > 0 && (
            <Section title="Also loses power">
              <p>{found.loses.join(', ')}.</p>
            </Section>
          )}
        </>
      )}
      <Lines title="Proved again after" list={card.breaks} />
      {card.circuits.map((c) => (
        <Section
          key={c.circuit.id}
          title={c.circuit.name}
          aside={
            <button
              type="button"
              className="tap no-print text-ink-2 underline"
              onClick={() => {
                pick(c.circuit.id)
                router.push(`/jobs/${id}/test`)
              }}
            >
              Start tests
            </button>
          }
        >
          <ol>
            {c.testReport.judged
              .filter((j) => j.test.phase === 'isolation')
              .map((j) => (
                <li key={j.test.id} className="flex items-start gap-2 border-b border-rule py-1">
                  <VerdictMark of={verdictMarks[j.verdict]} label={j.message} />
                  <span className="min-w-0 flex-1">{found ? stepTitle(j.test, found) : j.test.title}</span>
                  <span className="text-right whitespace-nowrap text-ink-2">
                    {j.reading ? `${readingWords(j.reading)}, ${formatWhen(j.reading.at)}` : expectedWords(j.test)}
                  </span>
                </li>
              ))}
          </ol>
          {c.testReport.judged.every((j) => j.test.phase !== 'isolation') && (
            <p className="text-ink-2">Its tests follow once the circuit is worked out.</p>
          )}
        </Section>
      ))}
    </>
  )
}

/** The board as it stands in the outage: what is switched off, and what stays alive in the same enclosure. */
function OutageBoard({ found, boards }: { found: IsolationFound; boards: readonly string[] }) {
  const job = useJob((s) => s.job)
  const { boards: reports, survey } = useJob((s) => s.report)
  const report = reports.find((b) => b.board.id === (boards[0] ?? job.boards[0]?.id))
  if (!report || found.opens === null || report.ways.length === 0) return null
  return (
    <Section title={`The ${worlds[job.region].words.board} in this outage`}>
      <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="The board in this outage, drawn">
        <FittingDrawing
          draw={(format) => boardDrawing({ job, report, loads: survey.loads, proved: survey.proved, outage: found.ways }, format)}
          className="w-full max-w-[44rem]"
        />
      </div>
    </Section>
  )
}

function Sign({ card }: { card: IsolationCard }) {
  const commit = useJob((s) => s.commit)
  const [name, setName] = useState('')
  const [told, setTold] = useState('')
  const ready = card.proved && card.unknown.length === 0
  const sign = () => {
    const circuits = card.circuits.map((c) => c.circuit.id)
    commit({
      kind: 'isolation.sign',
      signature: { id: crypto.randomUUID(), circuits, name: name.trim(), told: told.slice(0, 400), at: new Date().toISOString() },
    })
    setName('')
  }
  return (
    <Section title="Signed">
      {card.signatures.map((s) => (
        <p key={s.id} className="border-b border-rule py-1">
          <b>{s.name}</b>, {formatWhen(s.at)}
          {s.told && `; told: ${s.told}`}
        </p>
      ))}
      {card.signatures.length === 0 && <p className="text-ink-2">Not signed yet.</p>}
      {ready ? (
        <div className="mt-2">
          <FieldGrid>
            <TextField wide label="Who works under it" value={name} onCommit={(v) => setName(v.slice(0, 120))} />
            <TextField wide label="Who was informed" value={told} onCommit={setTold} />
          </FieldGrid>
          <button type="button" className="btn btn-ink mt-2" disabled={name.trim() === ''} onClick={sign}>
            Sign
          </button>
        </div>
      ) : (
        <p className="mt-2">Sign it once it is proved dead and everything is checked.</p>
      )}
    </Section>
  )
}
