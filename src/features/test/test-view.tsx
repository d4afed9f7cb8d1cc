'use client'
import { Say } from '@/ui/worded'
import clsx from 'clsx'
import { Lock } from 'lucide-react'
import { useEffect, useState } from 'react'
import type { Judged } from '@/core/verify/judge'
import { type Phase, phases } from '@/core/verify/tests'
import { Stage } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { useCircuit } from '../sync/context'
import { useLed } from '../fields/use-led'
import { expectedWords, readingWords } from '@/core/verify/words'
import { PasteReadings } from './paste-readings'
import { TestWorking } from './test-working'
import { Unnoticed } from './unnoticed'

/** Whether so many milliseconds have gone since the view was opened. */
function useQuiet(ms: number): boolean {
  const [quiet, setQuiet] = useState(false)
  useEffect(() => {
    const later = setTimeout(() => setQuiet(true), ms)
    return () => clearTimeout(later)
  }, [ms])
  return quiet
}

const phaseNames: Record<Phase, string> = { isolation: 'Isolate', dead: 'Dead tests', live: 'Live tests' }
const verdictMarks = { met: 'met', off: 'error', unknown: 'unknown' } as const

export function TestView() {
  const { testReport } = useCircuit()
  const [picked, setPicked] = useState<string | null>(null)
  /** A reading was just recorded: the next is in hand. */
  const [goingOn, setGoingOn] = useState(false)
  const quiet = useQuiet(1000)
  useLed('test', 'tests', (_, id) => (setPicked(id), setGoingOn(false)))
  const next = testReport.judged.find((j) => j.verdict !== 'met' && !j.test.optional)
  const selected = testReport.judged.find((j) => j.test.id === picked) ?? next ?? testReport.judged[0]
  return (
    <Stage
      title="Test"
      drawing={
        <div className="flex flex-col gap-3">
          {next && (
            <p className="text-ink-2">
              Next: <Say>{next.test.title}</Say>
            </p>
          )}
          {testReport.judged.length === 0 && (
            <div role="group" aria-label="Shut" tabIndex={-1} className="m-auto mt-20 max-w-sm text-center text-ink-2">
              The tests and what they should read follow from the circuit. Finish the circuit stage first: load, length, accessory.
            </div>
          )}
          {testReport.judged.length > 0 &&
            phases.map((phase) => (
              <PhaseTable
                key={phase}
                phase={phase}
                judged={testReport.judged.filter((j) => j.test.phase === phase)}
                gate={testReport.phase[phase]}
                selected={selected?.test.id ?? null}
                onSelect={(id) => (setPicked(id), setGoingOn(false))}
              />
            ))}
          {testReport.judged.length > 0 && <PasteReadings />}
          {quiet && testReport.judged.length > 0 && <Unnoticed />}
        </div>
      }
      working={
        selected ? (
          <TestWorking
            key={selected.test.id}
            judged={selected}
            gate={testReport.phase[selected.test.phase]}
            focus={goingOn}
            onNext={() => (setPicked(null), setGoingOn(true))}
          />
        ) : (
          <p className="text-ink-2">No tests yet.</p>
        )
      }
    />
  )
}

interface Gate {
  open: boolean
  met: boolean
  why: string
}

function PhaseTable({
  phase,
  judged,
  gate,
  selected,
  onSelect,
}: {
  phase: Phase
  judged: readonly Judged[]
  gate: Gate
  selected: string | null
  onSelect: (id: string) => void
}) {
  const done = judged.filter((j) => j.verdict === 'met').length
  return (
    <section aria-label={phaseNames[phase]}>
      <h2 className="flex items-center gap-2 border-b-2 border-ink text-[1rem]">
        {!gate.open && <Lock size={15} aria-hidden />}
        {phaseNames[phase]}
        <span className="font-normal text-ink-2">
          {done} of {judged.length}
        </span>
      </h2>
      {!gate.open && <p className="py-1 text-ink-2">Shut: {gate.why}</p>}
      <table className="w-full table-fixed">
        <colgroup>
          <col className="w-8" />
          <col />
          <col className="w-48 max-md:hidden low:hidden" />
          <col className="w-28" />
        </colgroup>
        <thead className="sr-only">
          <tr>
            <th>Verdict</th>
            <th>Test</th>
            <th className="low:hidden">Expected</th>
            <th>Reading</th>
          </tr>
        </thead>
        <tbody>
          {judged.map((j) => (
            <tr key={j.test.id} className={clsx('border-b border-rule', selected === j.test.id && 'bg-wash')}>
              <td className="py-0.5 pl-1">
                <VerdictMark of={verdictMarks[j.verdict]} label={j.message} />
              </td>
              <td className="py-0.5">
                <button
                  type="button"
                  onClick={() => onSelect(j.test.id)}
                  aria-pressed={selected === j.test.id}
                  className={clsx('w-full py-1 text-left hover:underline hand:min-h-[44px]', !gate.open && 'text-ink-2')}
                >
                  <Say>{j.test.title}</Say>
                  {j.test.optional && <span className="text-ink-2"> (if wanted)</span>}
                </button>
              </td>
              <td className="px-1 py-0.5 text-ink-2 max-md:hidden low:hidden">{expectedWords(j.test)}</td>
              <td className="py-0.5 pr-2 text-right font-bold">{j.reading ? readingWords(j.reading) : ''}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}
