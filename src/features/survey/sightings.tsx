'use client'
import { sightingInWords } from '@/core/trace/words'
import { Section } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { formatWhen } from '@/ui/when'
import { useJob } from '../job/context'

const instrumentWords = { contact: 'contact tester', lamp: 'lamp or plug-in tester', 'non-contact': 'non-contact only, not counted', told: 'told by a drawing, not proved' }

/** Every observation ever made, newest first; one may be withdrawn, and taken up again. */
export function Sightings() {
  const survey = useJob((s) => s.job.survey)
  const clash = useJob((s) => s.report.survey.clash)
  const commit = useJob((s) => s.commit)
  return (
    <Section title="What was seen">
      {survey.sightings.length === 0 && <p className="text-ink-2">Nothing yet.</p>}
      <ol>
        {survey.sightings.toReversed().map((s) => (
          <li key={s.id} className="flex items-start gap-2 border-b border-rule py-1.5">
            {clash?.ids.includes(s.id) && <VerdictMark of="error" label="Cannot be true together with the others marked" />}
            <div className={`min-w-0 flex-1 ${s.withdrawn ? 'text-ink-2 line-through' : ''}`}>
              <p>{sightingInWords(survey, s.seen)}</p>
              <p className="text-[0.85rem] text-ink-2">
                {formatWhen(s.at)}, {instrumentWords[s.instrument]}
              </p>
            </div>
            <button type="button" className="btn px-2 text-[0.85rem]" onClick={() => commit({ kind: 'sighting.withdraw', id: s.id, withdrawn: !s.withdrawn })}>
              {s.withdrawn ? 'Take up' : 'Withdraw'}
            </button>
          </li>
        ))}
      </ol>
    </Section>
  )
}
