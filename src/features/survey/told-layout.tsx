'use client'
import { useState } from 'react'
import { placeNames } from '@/core/survey/words'
import { toldLayout, toldProblem } from '@/core/survey/told'
import { SelectField } from '@/ui/fields'
import { Section } from '@/ui/panel'
import { useJob } from '../sync/context'

/** A layout known already, from an earlier drawing or from wiring seen laid open: entered for one way at a time. */
export function ToldLayout() {
  const survey = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const [way, setWay] = useState('')
  const [parents, setParents] = useState<Record<string, string>>({})
  const name = placeNames(survey)
  const there = survey.standing
  const begin = (id: string) => {
    setWay(id)
    setParents({})
  }
  const put = (point: string, parent: string) =>
    setParents(Object.fromEntries([...Object.entries(parents).filter(([p]) => p !== point), ...(parent === 'no' ? [] : [[point, parent]])]))
  const problem = way ? toldProblem(survey, way, parents) : null
  const record = () => {
    const at = new Date().toISOString()
    commit({
      kind: 'observation.add',
      items: toldLayout(way, parents).map((seen) => ({ id: crypto.randomUUID(), at, instrument: 'told', withdrawn: false, seen })),
    })
    begin('')
  }
  return (
    <Section title="Known already?">
      <SelectField
        label="Circuit whose layout is known"
        value={way}
        placeholder="Choose a circuit"
        options={survey.ways.map((w) => ({ value: w.id, label: w.label }))}
        onCommit={begin}
      />
      {way && (
        <div className="mt-2 grid gap-1.5">
          <p className="text-[0.9rem] text-ink-2">
            For every point on it: what it is fed from. It is recorded as reported, not as proved; a test still shows whether it is right.
          </p>
          {there.map((p) => (
            <SelectField
              key={p.id}
              label={`${p.name} is fed from`}
              value={parents[p.id] ?? 'no'}
              options={[
                { value: 'no', label: 'Not on this way' },
                { value: way, label: name(way) },
                ...there.filter((q) => q.id !== p.id).map((q) => ({ value: q.id, label: q.name })),
              ]}
              onCommit={(v) => put(p.id, v)}
            />
          ))}
          {problem && (
            <p role="alert" className="font-bold text-error">
              {problem}
            </p>
          )}
          <div className="flex gap-2">
            <button
              type="button"
              className="btn btn-ink flex-1"
              disabled={problem !== null || Object.keys(parents).length === 0}
              onClick={record}
            >
              Record the layout of {name(way)}
            </button>
            <button type="button" className="btn" onClick={() => begin('')}>
              Leave it
            </button>
          </div>
        </div>
      )}
    </Section>
  )
}
