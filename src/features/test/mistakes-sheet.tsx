'use client'
import { useState } from 'react'
import { type Campaign, type Effect, fewestMore, type Tried } from '@/core/faults/campaign'
import { type ExtraTestKind, extraTestKinds } from '@/core/job/circuit'
import { extraTestId, type Test } from '@/core/verify/tests'
import { worlds } from '@/core/region/worlds'
import { Section, Stage } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { Working } from '@/ui/working'
import { useCircuit, useJob } from '../sync/context'
import { useFaults } from './use-faults'

const effects: readonly { readonly id: Effect; readonly title: string; readonly mark: 'error' | 'warning' | 'note' }[] = [
  { id: 'dangerous', title: 'Dangerous', mark: 'error' },
  { id: 'trips', title: 'Trips', mark: 'warning' },
  { id: 'dead', title: 'Dead', mark: 'warning' },
  { id: 'unseen', title: 'Seen only when something else fails', mark: 'note' },
]

/** Every single wrong connection of the circuit in hand, tried before power: what it does, and which test catches it. */
export function MistakesSheet() {
  const { asked, report, found, at } = useFaults('effects')
  const [all, setAll] = useState(false)
  const campaign = found?.campaign
  const presumed = asked?.wiring && !asked.wiring.loopKnown ? asked.wiring.supply : null
  const titles = new Map([...report.tests, ...(asked?.besides ?? [])].map((t) => [t.id, t.title]))
  if (!asked)
    return (
      <Stage
        title="Test"
        drawing={<p className="text-ink-2">Enter the circuit’s lengths, cable size and accessories to check for wiring mistakes.</p>}
        working={<p className="text-ink-2">Nothing is tried.</p>}
      />
    )
  if (!campaign)
    return (
      <Stage
        title="Test"
        drawing={<Working words={`Every wrong connection of ${report.circuit.name} is being tried…`} again="Try them" at={at} />}
        working={<p className="text-ink-2">A long circuit takes some seconds.</p>}
      />
    )
  const missed = campaign.tried.filter((t) => t.caughtBy.length === 0 && t.effect !== 'unseen')
  const shown = all ? campaign.tried : missed
  return (
    <Stage
      title="Test"
      drawing={
        <div className="flex max-w-[56rem] flex-col gap-4">
          <p>
            <b>{campaign.tried.length}</b> single wrong connections were tried on {report.circuit.name}:{' '}
            {effects
              .flatMap((e) => {
                const n = campaign.tried.filter((t) => t.effect === e.id).length
                return n ? [`${n} ${e.title.toLowerCase()}`] : []
              })
              .join(', ')}
            . {missed.length === 0 ? 'Every one that does something is caught by the plan.' : ''}
            {missed.length > 0 && (
              <b>
                {missed.length} of them {missed.length === 1 ? 'passes' : 'pass'} every test of the plan.
              </b>
            )}
          </p>
          <div className="no-print flex flex-wrap gap-1.5" role="group" aria-label="Which are shown">
            <button type="button" className={`btn ${all ? '' : 'border-ink font-bold'}`} aria-pressed={!all} onClick={() => setAll(false)}>
              What passes every test
            </button>
            <button type="button" className={`btn ${all ? 'border-ink font-bold' : ''}`} aria-pressed={all} onClick={() => setAll(true)}>
              All
            </button>
          </div>
          {shown.length === 0 && <p className="text-ink-2">None.</p>}
          {effects.map(({ id, title, mark }) => {
            const list = shown.filter((t) => t.effect === id)
            return list.length === 0 ? null : (
              <Section key={id} title={title}>
                <ul>
                  {list.map((t) => (
                    <Line key={t.id} tried={t} mark={mark} titles={titles} />
                  ))}
                </ul>
              </Section>
            )
          })}
        </div>
      }
      working={
        <>
          <MoreTests campaign={campaign} missed={missed} besides={asked.besides} />
          {campaign.notTried.length > 0 && (
            <Section title="Not included">
              <p className="text-ink-2">
                What these tests catch is not worked out from the wiring: {campaign.notTried.map((id) => titles.get(id) ?? id).join('; ')}.
              </p>
            </Section>
          )}
          {asked.wiring?.residualUnread && (
            <p className="mb-2 text-[0.9rem]">
              <b>Not included:</b> the trip current of its {worlds[asked.wiring.region].words.rcd} was not read, so none is taken to trip.
              It may cut off in time some of what is called dangerous here.
            </p>
          )}
          {presumed && (
            <p className="mb-2 text-[0.9rem]">
              <b>Assumed:</b> Ze was not measured. Mistakes are tried on a source of {presumed.sourceOhm} Ω a conductor
              {presumed.electrodeOhm !== undefined && ` and an electrode of ${presumed.electrodeOhm} Ω`}, and no loop reading is expected.
              Enter Ze.
            </p>
          )}
          <p className="text-[0.9rem] text-ink-2">
            One mistake at a time; a joint is called loose at 1.5 Ω. It is tried on the wiring as designed, and says nothing of what is
            hidden in old work.
          </p>
        </>
      }
    />
  )
}

/** Tests no code asks for: the fewest that catch what is dangerous and passes the plan, each put into it or taken out. */
function MoreTests({ campaign, missed, besides }: { campaign: Campaign; missed: readonly Tried[]; besides: readonly Test[] }) {
  const { circuit, tests } = useCircuit()
  const commit = useJob((s) => s.commit)
  const planned = circuit.extraTests ?? []
  const put = (extra: readonly ExtraTestKind[]) =>
    commit({ kind: 'circuit.set', circuit: circuit.id, patch: { extraTests: extraTestKinds.filter((k) => extra.includes(k)) } })
  const fewest = fewestMore(campaign)
  const wanted = extraTestKinds.filter((k) => fewest.includes(extraTestId(k)))
  const others = besides.filter((t) => !fewest.includes(t.id) && missed.some((m) => m.moreBy.includes(t.id)))
  const catches = (id: string) => missed.filter((m) => m.moreBy.includes(id)).length
  const uncaught = missed.filter((m) => m.effect === 'dangerous' && m.moreBy.length === 0).length
  const row = (kind: ExtraTestKind, title: string, words: string) => (
    <li key={kind} className="border-b border-rule py-1.5">
      {title}. <span className="text-ink-2">{words}</span>
      <button
        type="button"
        className="btn no-print mt-1 flex"
        onClick={() => put(planned.includes(kind) ? planned.filter((k) => k !== kind) : [...planned, kind])}
      >
        {planned.includes(kind) ? 'Take it out of the plan' : 'Put it into the plan'}
      </button>
    </li>
  )
  const kindOf = (id: string) => extraTestKinds.find((k) => extraTestId(k) === id)!
  return (
    <Section title="Extra tests">
      {wanted.length + planned.length + others.length === 0 && (
        <p className="text-ink-2">
          {missed.length === 0 ? 'None is needed for a single mistake.' : 'None that is known here catches the rest.'}
        </p>
      )}
      {wanted.length > 0 && (
        <p>
          The fewest that catch what is dangerous and passes: <b>{wanted.length}</b>.
        </p>
      )}
      <ul>
        {tests.flatMap((t) => (planned.some((k) => extraTestId(k) === t.id) ? [row(kindOf(t.id), t.title, 'In the plan.')] : []))}
        {besides.filter((t) => fewest.includes(t.id)).map((t) => row(kindOf(t.id), t.title, `Catches ${catches(t.id)} of what passes.`))}
        {others.map((t) => row(kindOf(t.id), t.title, `Would catch ${catches(t.id)} of it too.`))}
      </ul>
      {uncaught > 0 && (
        <p className="mt-1 font-bold">{uncaught} dangerous ones are caught by no test known here: look at the joint itself.</p>
      )}
    </Section>
  )
}

function Line({ tried, mark, titles }: { tried: Tried; mark: 'error' | 'warning' | 'note'; titles: ReadonlyMap<string, string> }) {
  return (
    <li className="flex items-start gap-2 border-b border-rule py-1.5">
      <VerdictMark of={mark} />
      <div className="min-w-0 flex-1">
        <p className="first-letter:uppercase">
          {tried.words}: {tried.does}.
        </p>
        <p className="text-[0.9rem] text-ink-2">
          {tried.caughtBy.length > 0
            ? `Caught by ${tried.caughtBy
                .slice(0, 3)
                .map((id) => titles.get(id) ?? id)
                .join('; ')}${tried.caughtBy.length > 3 ? ` and ${tried.caughtBy.length - 3} more` : ''}.`
            : tried.moreBy.length > 0
              ? `Passes every test. It would be caught by: ${tried.moreBy.map((id) => titles.get(id) ?? id).join('; ')}.`
              : 'Passes every test.'}
        </p>
      </div>
    </li>
  )
}
