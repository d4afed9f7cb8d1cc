'use client'
import { oldQuestionsFor, oldWorkRules } from '@/core/rules/old-work'
import { ChoiceField } from '@/ui/fields'
import { Section } from '@/ui/panel'
import { FindingList } from '@/ui/verdict'
import { useCircuit, useJob } from '../job/context'
import { CircuitStage } from './circuit-stage'

const ids = new Set(oldWorkRules.map((r) => r.id))

/** What stays of an older circuit: what may be kept, what must change, what stops the job. */
export function OldSheet() {
  const { circuit, chosen } = useCircuit()
  const region = useJob((s) => s.job.region)
  const commit = useJob((s) => s.commit)
  return (
    <CircuitStage
      working={
        <Section title="What follows">
          {circuit.work === 'altered' && (
            <p className="mb-2 text-[0.9rem] text-ink-2">Isolate and prove dead before a box is opened to look.</p>
          )}
          <FindingList
            findings={chosen.findings.filter((f) => ids.has(f.rule))}
            empty={circuit.work === 'new' ? 'Nothing: it is new work.' : 'Nothing stands against building on it, as it was answered.'}
          />
        </Section>
      }
    >
      <div className="max-w-3xl">
        {circuit.work === 'new' ? (
          <>
            <p>
              <b>{circuit.name}</b> is new from end to end, so nothing old stays in it.
            </p>
            <p>
              <button
                type="button"
                className="btn"
                onClick={() => commit({ kind: 'circuit.set', circuit: circuit.id, patch: { work: 'altered' } })}
              >
                It alters a circuit that is there
              </button>
            </p>
          </>
        ) : (
          <ul>
            {oldQuestionsFor(region).map((q) => (
              <li key={q.id} className="border-b border-rule py-2">
                <ChoiceField
                  label={q.ask}
                  value={circuit.old[q.id] ?? null}
                  options={[
                    { value: 'yes', label: 'Yes' },
                    { value: 'no', label: 'No' },
                    { value: 'unknown', label: 'Not looked' },
                  ]}
                  onCommit={(answer) => commit({ kind: 'old.answer', circuit: circuit.id, question: q.id, answer })}
                />
              </li>
            ))}
          </ul>
        )}
      </div>
    </CircuitStage>
  )
}
