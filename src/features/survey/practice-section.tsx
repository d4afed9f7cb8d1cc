'use client'
import { useState } from 'react'
import { compareWithTruth, practiceBuilding } from '@/core/practice/practice'
import { placeNames } from '@/core/survey/words'
import { Section } from '@/ui/panel'
import { useJob } from '../sync/context'

/** On a practice job: that it is one, and how what was found compares with the hidden wiring. */
export function PracticeSection() {
  const survey = useJob((s) => s.job)
  const parents = useJob((s) => s.report.survey.trace.parents)
  const [compared, setCompared] = useState(false)
  if (!survey.practice) return null
  const building = practiceBuilding(survey.practice.seed)
  const name = placeNames(survey)
  const { right, wrong, open } = compareWithTruth(building, parents)
  const tests = survey.observations.filter((s) => !s.withdrawn && s.seen.kind !== 'cables').length
  return (
    <Section
      title="Practice building"
      aside={
        <button type="button" className="btn" aria-pressed={compared} onClick={() => setCompared(!compared)}>
          {compared ? 'Hide the truth' : 'Compare with the truth'}
        </button>
      }
    >
      <p className="text-[0.9rem] text-ink-2">
        Nothing here is real; its labels may lie
        {survey.practice.misleading && ', and a non-contact detector lights up beside any live cable'}. {tests}{' '}
        {tests === 1 ? 'test' : 'tests'} made.
      </p>
      {compared && (
        <div role="status">
          <p className="font-bold">
            {right} of {building.points.length} right{wrong.length > 0 && `, ${wrong.length} wrong`}
            {open > 0 && `, ${open} still open`}.
          </p>
          {wrong.map((p) => (
            <p key={p}>
              {name(p)}: found from {name(parents[p]!)}, is from {name(building.house.parent[p]!)}.
            </p>
          ))}
        </div>
      )}
    </Section>
  )
}
