'use client'
import clsx from 'clsx'
import { PaperLink } from '../fields/paper-link'
import { Trash2 } from 'lucide-react'
import { useState } from 'react'
import { readDefects } from '@/core/survey/csv'
import { defectKind, defectKindsFor, sortDefect } from '@/core/catalogue/defects'
import { type Defect, defectCodes, newDefect } from '@/core/job/report'
import { worlds } from '@/core/region/worlds'
import { SelectField, TextField } from '@/ui/fields'
import { Photographs } from '../photographs/photographs'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { useJob } from '../sync/context'
import { CsvImport } from './csv-import'

const stateWords: Record<Defect['state'], string> = {
  open: 'Not answered',
  work: 'Added to this job',
  declined: 'Declined',
  done: 'Put right',
}
const stateMarks = { open: 'unknown', work: 'note', declined: 'note', done: 'met' } as const

/** Somebody's list of faults, each answered: made work on this job, put right, or declined with a reason. */
export function ReportSheet() {
  const survey = useJob((s) => s.job)
  const region = useJob((s) => s.job.region)
  const id = useJob((s) => s.id)
  const commit = useJob((s) => s.commit)
  const [picked, setPicked] = useState<string | null>(null)
  const codes = worlds[region].reportCodes
  const urgency = (d: Defect) => (d.code ? ['C1', 'FI', 'C2', 'C3'].indexOf(d.code) : 4)
  const defects = codes ? survey.defects.toSorted((a, b) => urgency(a) - urgency(b)) : survey.defects
  const defect = defects.find((d) => d.id === picked) ?? defects.find((d) => d.state === 'open') ?? defects[0]
  const count = (state: Defect['state']) => defects.filter((d) => d.state === state).length
  return (
    <Stage
      title="Survey"
      drawing={
        <>
          <div className="mb-3 flex flex-wrap items-end gap-3">
            <div className="w-80 max-w-full">
              <TextField
                label="Whose report it is"
                value={survey.reportBy}
                onCommit={(reportBy) => commit({ kind: 'survey.set', patch: { reportBy: reportBy.slice(0, 200) } })}
                placeholder="inspector, date"
              />
            </div>
            {defects.length > 0 && (
              <PaperLink className="btn no-print" job={id} file="reply.pdf" name="Reply">
                Reply as PDF
              </PaperLink>
            )}
            {defects.length > 0 && (
              <p className="pb-1.5">
                <b>{defects.length - count('open')}</b> of {defects.length} answered, <b>{count('done')}</b> put right
              </p>
            )}
          </div>
          {defects.length === 0 ? (
            <p className="text-ink-2">No findings yet. Add them one by one, or paste the list from the report.</p>
          ) : (
            <ol className="border-t border-rule" aria-label="Findings of the report">
              {defects.map((d, i) => (
                <li key={d.id} className={clsx('border-b border-rule', d.id === defect?.id && 'bg-wash')}>
                  <button
                    type="button"
                    className="flex w-full items-start gap-3 px-2 py-2 text-left"
                    aria-pressed={d.id === defect?.id}
                    onClick={() => setPicked(d.id)}
                  >
                    <span className="w-6 shrink-0 text-right text-ink-2">{i + 1}</span>
                    <span className="min-w-0 flex-1">
                      <span className="block">
                        {d.code && <b>{d.code} </b>}
                        {d.text}
                      </span>
                      <span className="block text-[0.85rem] text-ink-2">
                        {[d.place, defectKind(region, d.kind)?.name ?? 'kind not known'].filter(Boolean).join(' · ')}
                      </span>
                      {d.reason && <span className="block text-[0.9rem]">Because: {d.reason}</span>}
                    </span>
                    <span className="flex w-36 shrink-0 items-center gap-1.5">
                      <VerdictMark of={stateMarks[d.state]} size={16} label="" /> {stateWords[d.state]}
                    </span>
                  </button>
                </li>
              ))}
            </ol>
          )}
          <AddDefect />
        </>
      }
      working={
        <>
          {defect && <DefectFields key={defect.id} defect={defect} onStay={() => setPicked(defect.id)} onGone={() => setPicked(null)} />}
          {defect && <Photographs of={{ kind: 'defect', id: defect.id }} hint="What was found, and the same place when it is put right." />}
          <CsvImport
            title="Paste or bring in a report"
            columns="Finding, place"
            example={'Finding,Place\nSocket cracked,Stage left'}
            read={(csv) => readDefects(csv, () => crypto.randomUUID(), codes !== null)}
            show={showDefect}
            what={(n) => `${n} ${n === 1 ? 'finding' : 'findings'}`}
            onTake={(items) => commit({ kind: 'defect.add', items })}
          />
        </>
      }
    />
  )
}

function DefectFields({ defect, onStay, onGone }: { defect: Defect; onStay: () => void; onGone: () => void }) {
  const region = useJob((s) => s.job.region)
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const [reason, setReason] = useState(defect.reason)
  const [complaint, setComplaint] = useState('')
  const kind = defectKind(region, defect.kind)
  const codes = worlds[region].reportCodes
  const set = (patch: Partial<Pick<Defect, 'text' | 'place' | 'kind' | 'state' | 'reason' | 'code'>>) => {
    onStay()
    commit({ kind: 'defect.set', id: defect.id, patch })
  }
  const decline = () => {
    if (reason.trim() === '') return setComplaint('Say why: the reply gives the reason.')
    setComplaint('')
    set({ state: 'declined', reason: reason.trim().slice(0, 1000) })
  }
  const { work } = defect
  const workName =
    work && (work.kind === 'circuit' ? job.circuits.find((c) => c.id === work.id)?.name : job.points.find((p) => p.id === work.id)?.name)
  return (
    <Section title={stateWords[defect.state]}>
      <FieldGrid>
        <TextField
          label="Finding"
          wide
          multiline={3}
          value={defect.text}
          onCommit={(text) => text.trim() && set({ text: text.slice(0, 1000) })}
        />
        {codes && (
          <SelectField
            label="Code in the report"
            wide
            value={defect.code ?? ''}
            options={[{ value: '', label: 'None, or not entered' }, ...defectCodes.map((c) => ({ value: c, label: `${c}, ${codes[c]}` }))]}
            onCommit={(c) => set({ code: c === '' ? null : c })}
          />
        )}
        <TextField label="Place" wide value={defect.place} onCommit={(place) => set({ place: place.slice(0, 200) })} />
        <SelectField
          label="Kind"
          wide
          value={defect.kind ?? ''}
          placeholder="Not sorted: choose"
          options={defectKindsFor(region).map((k) => ({ value: k.id, label: k.name }))}
          onCommit={(v) => set({ kind: v })}
        />
      </FieldGrid>
      {kind && (
        <div className="mt-3 border-l-4 border-ink bg-paper px-3 py-2">
          <p>{kind.cure}</p>
          <p className="mt-0.5 text-[0.85rem] text-ink-2">{kind.clause[region]}</p>
        </div>
      )}
      {work && workName && (
        <p className="mt-2">
          In this job as the {work.kind} “{workName}”.
        </p>
      )}
      {defect.state === 'open' && (
        <>
          <button
            type="button"
            className="btn btn-ink mt-3 w-full"
            disabled={!kind}
            onClick={() => (onStay(), commit({ kind: 'defect.work', id: defect.id, work: crypto.randomUUID() }))}
          >
            {kind?.makes === 'nothing' || !kind ? 'Make it work on this job' : `Make it work: a ${kind.makes} on this job`}
          </button>
          <div className="mt-3">
            <label className="mb-0.5 block text-[0.9rem] text-ink-2" htmlFor="decline-reason">
              Or decline it, because
            </label>
            <textarea
              id="decline-reason"
              className="field"
              rows={2}
              maxLength={1000}
              aria-invalid={complaint !== ''}
              value={reason}
              onChange={(e) => setReason(e.target.value)}
            />
            {complaint && (
              <p role="alert" className="font-bold text-error">
                {complaint}
              </p>
            )}
            <button type="button" className="btn mt-1.5" onClick={decline}>
              Decline
            </button>
          </div>
        </>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        {defect.state === 'work' && (
          <button type="button" className="btn btn-ink" onClick={() => set({ state: 'done' })}>
            Mark as put right
          </button>
        )}
        {defect.state !== 'open' && (
          <button type="button" className="btn" onClick={() => set({ state: 'open' })}>
            Open it again
          </button>
        )}
        <button
          type="button"
          className="btn"
          title="Undo brings it back"
          onClick={() => {
            commit({ kind: 'defect.remove', id: defect.id })
            onGone()
          }}
        >
          <Trash2 size={15} aria-hidden /> Remove
        </button>
      </div>
    </Section>
  )
}

function AddDefect() {
  const commit = useJob((s) => s.commit)
  const [text, setText] = useState('')
  const [place, setPlace] = useState('')
  const add = () => {
    if (!text.trim()) return
    commit({ kind: 'defect.add', items: [newDefect(crypto.randomUUID(), text.trim(), { place: place.trim(), kind: sortDefect(text) })] })
    setText('')
  }
  return (
    <form className="no-print mt-3 flex flex-wrap items-end gap-2" aria-label="Add a finding" onSubmit={(e) => (e.preventDefault(), add())}>
      <input
        className="field min-w-56 flex-1"
        aria-label="What was found"
        placeholder="What was found"
        maxLength={1000}
        value={text}
        onChange={(e) => setText(e.target.value)}
      />
      <input
        className="field w-48"
        aria-label="Where"
        placeholder="Where"
        maxLength={200}
        value={place}
        onChange={(e) => setPlace(e.target.value)}
      />
      <button type="submit" className="btn" disabled={!text.trim()}>
        Add the finding
      </button>
    </form>
  )
}

function DefectLine({ defect: d }: { defect: Defect }) {
  const region = useJob((s) => s.job.region)
  return (
    <>
      {d.text}{' '}
      <span className="text-ink-2">{[d.place, defectKind(region, d.kind)?.name ?? 'kind not known'].filter(Boolean).join(' · ')}</span>
    </>
  )
}
const showDefect = (d: Defect) => <DefectLine defect={d} />
