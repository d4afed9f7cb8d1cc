'use client'
import { trim } from '@/core/base/format'
import { estimateTime, timeQuestions } from '@/core/workday/estimate'
import { ChoiceField } from '@/ui/fields'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { useDay } from '../day/use-day'
import { useLog } from '../day/use-log'
import { useJob } from '../sync/context'

const hours = (h: number): string => `${trim(h, h < 10 ? 1 : 0)} h`

/** How long it will really take: six questions, three figures, and the two facts that would narrow them. */
export function TimeSheet() {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const { answers } = job
  const { tasks } = useDay()
  const estimate = estimateTime(job, tasks, useLog() ?? [])
  const { bestH, likelyH, worstH, expectedH } = estimate
  const at = (h: number) => `${(100 * h) / Math.max(worstH, 1)}%`
  return (
    <Stage
      title="Survey"
      drawing={
        <>
          <p className="text-ink-2">From {estimate.basis.join(', ')}.</p>
          <div className="my-6 max-w-3xl" role="img" aria-label={`Best ${hours(bestH)}, likely ${hours(likelyH)}, worst ${hours(worstH)}`}>
            {/* Side by side and not where they are on the bar, so that two that are near are read apart. */}
            <p className="flex justify-between gap-3 leading-tight">
              {(
                [
                  ['best', bestH],
                  ['likely', likelyH],
                  ['worst', worstH],
                ] as const
              ).map(([name, h]) => (
                <span key={name} className="flex flex-col last:items-end">
                  <b className="text-lg">{hours(h)}</b>
                  <span className="text-[0.85rem] text-ink-2">{name}</span>
                </span>
              ))}
            </p>
            <div className="relative h-16 border-b-2 border-ink">
              <div className="absolute bottom-0 h-8 border-2 border-ink bg-wash" style={{ left: at(bestH), right: 0 }} />
              <div className="absolute bottom-0 h-14 w-1 bg-ink" style={{ left: at(likelyH) }} />
            </div>
            <p className="mt-1 flex justify-between text-[0.85rem] text-ink-2">
              <span>0</span>
              <span>hours of one person</span>
              <span>{hours(worstH)}</span>
            </p>
          </div>
          <p className="mb-5">
            Plan with <b>{hours(expectedH)}</b> (weighted average: best + 4 × likely + worst, divided by 6).
          </p>
          <Section title="Biggest unknowns">
            <ol className="mt-1">
              {estimate.wideners.map((w) => (
                <li key={w.question.id} className="border-b border-rule py-1.5">
                  <b>{w.question.ask}</b> {w.answer ? `Answered: ${w.answer.toLowerCase()}.` : 'Not answered yet.'} It makes{' '}
                  {hours(w.hours)} of the range.
                </li>
              ))}
            </ol>
          </Section>
          <p className="text-[0.9rem] text-ink-2">
            Minutes of the day’s tasks, with what these questions add: one range, in the offer too.
          </p>
        </>
      }
      working={
        <Section title="Six questions before a price is given">
          <FieldGrid>
            {timeQuestions.map((q) => (
              <ChoiceField
                key={q.id}
                label={q.ask}
                value={answers[q.id] ?? null}
                options={q.choices.map((c) => ({ value: c.id, label: c.label }))}
                onCommit={(v) => commit({ kind: 'survey.set', patch: { answers: { ...answers, [q.id]: v } } })}
              />
            ))}
          </FieldGrid>
        </Section>
      }
    />
  )
}
