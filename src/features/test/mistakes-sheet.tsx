'use client'
import { useState } from 'react'
import type { Effect, Tried } from '@/core/fault/campaign'
import { Section, Stage } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { useFaults } from './use-faults'

const effects: readonly { readonly id: Effect; readonly title: string; readonly mark: 'error' | 'warning' | 'note' }[] = [
  { id: 'dangerous', title: 'Dangerous', mark: 'error' },
  { id: 'trips', title: 'Trips', mark: 'warning' },
  { id: 'dead', title: 'Dead', mark: 'warning' },
  { id: 'unseen', title: 'Seen only when something else fails', mark: 'note' },
]

/** Every single wrong connection of the circuit in hand, tried before power: what it does, and which test catches it. */
export function MistakesSheet() {
  const { asked, report, found } = useFaults('effects')
  const [all, setAll] = useState(false)
  const campaign = found?.campaign
  const presumed = asked?.wiring && !asked.wiring.loopKnown ? asked.wiring.supply : null
  const titles = new Map(report.tests.map((t) => [t.id, t.title]))
  if (!asked)
    return (
      <Stage
        title="Test"
        drawing={
          <p className="text-ink-2">
            Mistakes are tried on the wiring of the circuit: its lengths, size and what it ends on come first. Feeders, and circuits that
            share a neutral or end on different systems, are not tried yet.
          </p>
        }
        working={<p className="text-ink-2">Nothing is tried.</p>}
      />
    )
  if (!campaign)
    return (
      <Stage
        title="Test"
        drawing={<p aria-live="polite">Every wrong connection of {report.circuit.name} is being tried…</p>}
        working={<p className="text-ink-2">A long ring takes some seconds. Leaving the sheet ends it.</p>}
      />
    )
  const missed = campaign.tried.filter((t) => t.caughtBy.length === 0 && t.effect !== 'unseen')
  const extras = [...new Set(missed.flatMap((t) => (t.extra ? [t.extra] : [])))]
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
            {missed.length > 0 && <b>{missed.length} of them pass every test of the plan.</b>}
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
          <Section title="One test more">
            {extras.length === 0 ? (
              <p className="text-ink-2">
                {missed.length === 0 ? 'None is needed for a single mistake.' : 'None that is known here catches the rest.'}
              </p>
            ) : (
              <ul>
                {extras.map((x) => (
                  <li key={x} className="border-b border-rule py-1.5">
                    {x}. <span className="text-ink-2">Catches {missed.filter((t) => t.extra === x).length} of what passes.</span>
                  </li>
                ))}
              </ul>
            )}
          </Section>
          {campaign.notTried.length > 0 && (
            <Section title="Not reckoned with">
              <p className="text-ink-2">
                What these tests catch is not worked out from the wiring: {campaign.notTried.map((id) => titles.get(id) ?? id).join('; ')}.
              </p>
            </Section>
          )}
          {presumed && (
            <p className="mb-2 text-[0.9rem]">
              <b>Presumed:</b> the loop of the supply was not measured. Mistakes are tried on a source of {presumed.sourceOhm} Ω a conductor
              {presumed.electrodeOhm !== undefined && ` and an electrode of ${presumed.electrodeOhm} Ω`}, and no loop reading is expected.
              Give Ze in the brief.
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
            : tried.extra
              ? `Passes every test. It would be caught by: ${tried.extra.charAt(0).toLowerCase()}${tried.extra.slice(1)}.`
              : 'Passes every test.'}
        </p>
      </div>
    </li>
  )
}
