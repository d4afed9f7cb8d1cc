'use client'
import { useState } from 'react'
import { describeEdit } from '@/core/job/edits'
import type { Job } from '@/core/job/schema'
import { VerdictMark } from '@/ui/verdict'
import { formatWhen } from '@/ui/when'
import { useJob } from '../sync/context'
import type { Act } from '../sync/act'

function wordsOf(base: Job, act: Act): string {
  if (act.kind === 'edit') return describeEdit(base, act.edit)
  return act.kind === 'reading' ? act.reading.test : act.kind === 'stock' ? act.move.what : 'A photograph'
}

/** What must be seen on every stage: the job is stopped, two versions are, or something was refused. */
export function Banners() {
  const stop = useJob((s) => s.report.stop)
  const problem = useJob((s) => s.problem)
  const dismiss = useJob((s) => s.dismiss)
  return (
    <>
      {stop && (
        <div role="status" className="flex items-start gap-2 border-b-2 border-error bg-sheet px-4 py-2">
          <VerdictMark of="error" size={20} />
          <p>
            <b>This job is stopped.</b> {stop}
          </p>
        </div>
      )}
      <ConflictBanner />
      <RefusedBanner />
      <GoneBanner />
      {problem && (
        <div role="alert" className="flex items-center gap-3 border-b border-rule-2 bg-sheet px-4 py-2">
          <p className="flex-1">{problem}</p>
          <button type="button" className="btn" onClick={dismiss}>
            Understood
          </button>
        </div>
      )}
    </>
  )
}

function ConflictBanner() {
  const conflict = useJob((s) => s.conflict)
  const base = useJob((s) => s.saved.job)
  const settle = useJob((s) => s.settleConflict)
  if (!conflict) return null
  return (
    <section aria-label="Two versions" className="border-b-2 border-warning bg-sheet px-4 py-3">
      <h2 className="flex items-center gap-2">
        <VerdictMark of="warning" size={20} /> This job was changed elsewhere while you worked on it. Neither version is lost.
      </h2>
      <div className="mt-2 grid gap-4 md:grid-cols-2">
        <div>
          <h3 className="text-[0.9rem] text-ink-2">Yours, not saved yet</h3>
          <ul className="list-disc pl-5">
            {conflict.mine.map((e, i) => (
              <li key={i}>{wordsOf(base, e)}</li>
            ))}
            {conflict.mine.length === 0 && <li>Undo, redo or going back</li>}
          </ul>
        </div>
        <div>
          <h3 className="text-[0.9rem] text-ink-2">Theirs, saved</h3>
          <ul className="list-disc pl-5">
            {conflict.since.map((c) => (
              <li key={c.revision}>
                {c.label}{' '}
                <span className="text-ink-2">
                  ({c.by}, {formatWhen(c.at)})
                </span>
              </li>
            ))}
          </ul>
        </div>
      </div>
      <div className="mt-3 flex flex-wrap gap-2">
        <button type="button" className="btn btn-ink" onClick={() => settle('mine')} disabled={conflict.mine.length === 0}>
          Put mine on top of theirs
        </button>
        <button type="button" className="btn" onClick={() => settle('theirs')}>
          Keep theirs, drop mine
        </button>
      </div>
    </section>
  )
}

/** What the server would not take: it stays on this device until somebody sends it again, keeps it as a file or gives it up. */
function RefusedBanner() {
  const refused = useJob((s) => s.refused)
  const job = useJob((s) => s.saved.job)
  const settle = useJob((s) => s.settleRefused)
  const [giving, setGiving] = useState(false)
  if (refused.length === 0) return null
  const much = refused.length === 1 ? 'one thing' : `${refused.length} things`
  const file = () => {
    const blob = new Blob([JSON.stringify({ job: job.title, refused }, null, 2)], { type: 'application/json' })
    const link = document.createElement('a')
    link.href = URL.createObjectURL(blob)
    link.download = 'not-saved.json'
    link.click()
    URL.revokeObjectURL(link.href)
  }
  return (
    <section aria-label="Not saved" className="border-b-2 border-warning bg-sheet px-4 py-3">
      <h2 className="flex items-center gap-2">
        <VerdictMark of="warning" size={20} /> The server did not take {much} done here. It is kept on this device.
      </h2>
      <ul className="mt-1 list-disc pl-9">
        {refused.map(({ act, why }) => (
          <li key={act.id}>
            {wordsOf(job, act)} <span className="text-ink-2">({formatWhen(act.at)})</span>: {why}
          </li>
        ))}
      </ul>
      <div className="mt-3 flex flex-wrap gap-2">
        <button type="button" className="btn btn-ink" onClick={() => settle('again')}>
          Send again
        </button>
        <button type="button" className="btn" onClick={file}>
          Keep as a file
        </button>
        {giving ? (
          <button type="button" className="btn" onClick={() => settle('drop')}>
            Discard {refused.length === 1 ? 'it' : 'them'} for good
          </button>
        ) : (
          <button type="button" className="btn" onClick={() => setGiving(true)}>
            Discard…
          </button>
        )}
      </div>
    </section>
  )
}

function GoneBanner() {
  const gone = useJob((s) => s.gone)
  const bringBack = useJob((s) => s.bringBack)
  if (!gone) return null
  return (
    <div role="alert" className="flex items-center gap-3 border-b-2 border-warning bg-sheet px-4 py-2">
      <VerdictMark of="warning" size={20} />
      <p className="flex-1">This job was deleted on another device. Restore it to send the changes kept here.</p>
      <button type="button" className="btn btn-ink" onClick={() => void bringBack()}>
        Restore
      </button>
    </div>
  )
}
