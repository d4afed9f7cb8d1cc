'use client'
import { useState } from 'react'
import { placeNames, observationInWords } from '@/core/survey/words'
import { Section } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { formatWhen } from '@/ui/when'
import { useJob } from '../sync/context'

const instrumentWords = {
  contact: 'contact tester',
  lamp: 'lamp or plug-in tester',
  'non-contact': 'non-contact only, not counted',
  told: 'from a drawing, not proved',
}

/** Every observation ever made, newest first; one may be withdrawn, taken up again, or completed for points listed since. */
export function Sightings() {
  const survey = useJob((s) => s.job)
  const { clash, incomplete } = useJob((s) => s.report.survey)
  const commit = useJob((s) => s.commit)
  const missing = new Map(incomplete.map((i) => [i.id, i.missing]))
  return (
    <Section title="What was seen">
      {survey.observations.length === 0 && <p className="text-ink-2">Nothing yet.</p>}
      <ol>
        {survey.observations.toReversed().map((s) => (
          <li key={s.id} className="border-b border-rule py-1.5">
            <div
              className="flex items-start gap-2"
              {...(clash?.ids.includes(s.id) && { role: 'group', tabIndex: -1, 'aria-label': 'Cannot be true with the others' })}
            >
              {clash?.ids.includes(s.id) && <VerdictMark of="error" label="Cannot be true together with the others marked" />}
              {missing.has(s.id) && <VerdictMark of="unknown" label="Not counted" />}
              <div className={`min-w-0 flex-1 ${s.withdrawn ? 'text-ink-2 line-through' : ''}`}>
                <p>{observationInWords(survey, s.seen)}</p>
                <p className="text-[0.85rem] text-ink-2">
                  {formatWhen(s.at)}, {instrumentWords[s.instrument]}
                </p>
              </div>
              <button
                type="button"
                className="btn px-2 text-[0.85rem]"
                onClick={() => commit({ kind: 'observation.withdraw', id: s.id, withdrawn: !s.withdrawn })}
              >
                {s.withdrawn ? 'Take up' : 'Withdraw'}
              </button>
            </div>
            {missing.has(s.id) && <Complete id={s.id} missing={missing.get(s.id)!} />}
          </li>
        ))}
      </ol>
    </Section>
  )
}

/** What an older test says of points listed since: remembered now, or the test is made again. */
function Complete({ id, missing }: { id: string; missing: readonly string[] }) {
  const survey = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const [dead, setDead] = useState<string[]>([])
  const name = placeNames(survey)
  return (
    <div className="mt-1">
      <p className="text-[0.9rem]">It says nothing of what was listed later, so it does not count. Tap what was dead then, if you know:</p>
      <div className="mt-1 flex flex-wrap gap-1.5">
        {missing.map((p) => (
          <button
            key={p}
            type="button"
            aria-pressed={dead.includes(p)}
            className={`btn ${dead.includes(p) ? 'btn-ink' : ''}`}
            onClick={() => setDead(dead.includes(p) ? dead.filter((d) => d !== p) : [...dead, p])}
          >
            {name(p)} {dead.includes(p) ? 'dead' : 'live'}
          </button>
        ))}
        <button type="button" className="btn font-bold" onClick={() => commit({ kind: 'observation.complete', ids: [id], dead })}>
          So it was
        </button>
      </div>
    </div>
  )
}
