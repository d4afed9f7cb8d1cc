'use client'
import { Say, useWorded } from '@/ui/worded'
import clsx from 'clsx'
import { useParams, useRouter } from 'next/navigation'
import { useState } from 'react'
import type { Edit } from '@/core/job/edits'
import { chosenDesign } from '@/core/installation/installation'
import { formatA, formatLength } from '@/core/base/format'
import { weightNames, type Weights } from '@/core/job/report'
import { type Candidate, sourceCandidates, whereItStands, wantedBy } from '@/core/survey/sources'
import { SelectField } from '@/ui/fields'
import { Section, Stage } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { Table } from '@/ui/table'
import { useCircuit, useJob, useUnits } from '../sync/context'
import { worlds } from '@/core/region/worlds'

const weightWords: Record<keyof Weights, string> = {
  spare: 'Spare capacity',
  length: 'Short run',
  minutes: 'Little time',
  disturbance: 'Little disturbance',
  protection: 'Protected already',
  later: 'Room for later',
}

/** Where the new circuit takes its power from: every place the survey knows, compared and ranked. */
export function SourceSheet() {
  const job = useJob((s) => s.job)
  const report = useJob((s) => s.report.survey)
  const commit = useJob((s) => s.commit)
  const { circuit } = useCircuit()
  const units = useUnits()
  const stands = whereItStands(job, circuit)
  const [said, setRoom] = useState<string | null>(null)
  const room = said ?? stands?.room ?? ''
  const [picked, setPicked] = useState<string | null>(null)
  const rooms = [...new Set([...job.rooms.map((r) => r.name), ...job.points.map((p) => p.room)])].filter(Boolean)
  const wanted = wantedBy(job, circuit, room || null)
  const candidates = wanted ? sourceCandidates(job, report, wanted) : []
  const chosen = candidates.find((c) => c.id === picked) ?? candidates[0]
  const { weights } = job
  return (
    <Stage
      title="Survey"
      drawing={
        <div className="flex flex-col gap-3">
          <div className="flex flex-wrap items-end gap-3">
            <div className="w-64">
              <SelectField
                label="Room"
                value={room}
                placeholder="Not said yet"
                options={rooms.map((r) => ({ value: r, label: r }))}
                onCommit={setRoom}
              />
            </div>
            {wanted && (
              <p className="pb-1.5">
                {circuit.name} wants <b>{formatA(wanted.amps)}</b> at {wanted.volts} V
              </p>
            )}
          </div>
          {circuit.source && (
            <p className="border-l-4 border-ink bg-sheet px-3 py-2">
              Decided: <b>{circuit.source.words}</b>
              {circuit.source.reason && `, because ${circuit.source.reason}`}.
            </p>
          )}
          {!wanted && (
            <p className="text-ink-2">
              What {circuit.name || 'this circuit'} is to power is not known yet: give its load in the brief, and the places to take it from
              are compared here.
            </p>
          )}
          {candidates.length > 0 && (
            <Table
              minRem={42}
              heads={['Source', ['Spare after', 'w-24'], ['Run', 'w-20'], ['Boxes', 'w-16'], ['Minutes', 'w-20'], ['Score', 'w-32']]}
            >
              {candidates.map((c) => (
                <tr
                  key={c.id}
                  className={clsx('border-b border-rule align-top', c.id === chosen?.id && 'bg-wash', c.refused && 'text-ink-2')}
                >
                  <td className="pr-3">
                    <button
                      type="button"
                      className="tap w-full py-1 text-left font-bold hover:underline"
                      aria-pressed={c.id === chosen?.id}
                      onClick={() => setPicked(c.id)}
                    >
                      {c.words}
                    </button>
                    {c.refused && (
                      <p className="flex gap-1.5 pb-1 text-[0.9rem]">
                        <VerdictMark of="error" size={16} label="Cannot serve:" /> {c.refused}
                      </p>
                    )}
                  </td>
                  <td className="py-1.5">{c.spareA === null ? 'not known' : formatA(c.spareA)}</td>
                  <td className="py-1.5">
                    {c.lengthM === null ? '?' : formatLength(c.lengthM, units)}
                    {c.lengthM !== null && c.run === null && <span className="block text-[0.85rem] text-ink-2">paced</span>}
                  </td>
                  <td className="py-1.5">{c.boxes}</td>
                  <td className="py-1.5">{c.minutes ?? '?'}</td>
                  <td className="py-2.5">{!c.refused && <Standing score={c.score} />}</td>
                </tr>
              ))}
            </Table>
          )}
          {wanted && candidates.length === 1 && (
            <p className="text-ink-2">
              <Say>Only the board is recorded. Points entered under Points become possible sources too.</Say>
            </p>
          )}
        </div>
      }
      working={
        <>
          {chosen && <Chosen key={circuit.id + chosen.id} candidate={chosen} />}
          <Section title="What counts, and how much">
            {weightNames.map((n) => (
              <label key={n} className="flex tap items-center gap-3">
                <span className="w-40">{weightWords[n]}</span>
                <input
                  type="range"
                  min={0}
                  max={5}
                  step={1}
                  value={weights[n]}
                  className="tap flex-1 accent-[var(--ink)]"
                  onChange={(e) => commit({ kind: 'survey.set', patch: { weights: { ...weights, [n]: Number(e.target.value) } } })}
                />
                <span className="w-4 text-right font-bold">{weights[n]}</span>
              </label>
            ))}
            <p className="mt-1 text-[0.85rem] text-ink-2">
              Each part counts as a share of the worst candidate; what is not known counts as the worst.
            </p>
          </Section>
        </>
      }
    />
  )
}

/** A bar that is longer the better it is; with its number. */
function Standing({ score }: { score: number }) {
  const good = Math.round(100 * (1 - score))
  return (
    <span className="flex items-center gap-2">
      <span className="h-3 flex-1 border border-ink-3">
        <span className="block h-full bg-ink" style={{ width: `${good}%` }} />
      </span>
      <span className="w-7 text-right">{good}</span>
    </span>
  )
}

function Chosen({ candidate: c }: { candidate: Candidate }) {
  const worded = useWorded()
  const { circuit } = useCircuit()
  const region = useJob((s) => s.job.region)
  const commit = useJob((s) => s.commit)
  const router = useRouter()
  const { id } = useParams<{ id: string }>()
  const [reason, setReason] = useState(circuit.source?.reason ?? '')
  const take = () => {
    const { residual } = chosenDesign(circuit)
    const { prefill } = c
    const design: Extract<Edit, { kind: 'source.choose' }>['design'] = {
      ...(prefill.wantedBreakerA === null ? {} : { wantedBreakerA: prefill.wantedBreakerA }),
      ...(prefill.residualAt === null
        ? {}
        : {
            residual: {
              ...residual,
              at: prefill.residualAt,
              ma:
                prefill.residualAt === 'board' && worlds[region].start.residual.at === 'board'
                  ? worlds[region].start.residual.ma
                  : residual.ma,
            },
          }),
    }
    commit({
      kind: 'source.choose',
      circuit: circuit.id,
      source: { kind: c.kind, from: c.from, words: c.words.slice(0, 300), reason: reason.trim(), at: new Date().toISOString() },
      ...(prefill.way && (c.kind !== 'board' || circuit.way === '') ? { way: prefill.way } : {}),
      ...(prefill.lengthM === null ? {} : { lengthM: Math.round(prefill.lengthM * 10) / 10 }),
      design,
    })
    router.push(`/jobs/${id}/circuit`)
  }
  const holes = (n: number, what: string) => `${n} ${what}${n === 1 ? '' : 's'}`
  const rows: [string, string][] = [
    [
      'Run',
      c.run
        ? `by the best route through the building: ${holes(c.run.holes, 'hole')}, ${holes(c.run.openings, 'opening')} to make good`
        : c.lengthM === null
          ? 'not known: not paced, and not both ends are placed in the building'
          : 'paced from room to room: what is bored and opened is not known',
    ],
    ['Protection', worded(c.protection)],
    ['Disturbance', worded(c.disturbance)],
    ['Later', c.later],
    ...(c.unknown.length ? [['Not known', c.unknown.join('; ')] as [string, string]] : []),
  ]
  return (
    <Section title={c.words}>
      <dl>
        {rows.map(([name, words]) => (
          <div key={name} className="border-b border-rule py-1">
            <dt className="text-[0.85rem] text-ink-2">{name}</dt>
            <dd>{words}</dd>
          </div>
        ))}
      </dl>
      {!c.refused && (
        <>
          <label className="mt-2 mb-0.5 block text-[0.9rem] text-ink-2" htmlFor="source-reason">
            Why from here
          </label>
          <textarea
            id="source-reason"
            className="field"
            rows={2}
            maxLength={1000}
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
          <button type="button" className="btn btn-ink mt-2 w-full" onClick={take}>
            Use this source
          </button>
        </>
      )}
    </Section>
  )
}
