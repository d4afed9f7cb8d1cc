'use client'
import { Trash2 } from 'lucide-react'
import { useState } from 'react'
import { compareTraces, snapshot } from '@/core/survey/kept'
import { Section } from '@/ui/panel'
import { formatDate } from '@/ui/when'
import { useJob } from '../sync/context'

const marks = { new: 'New', gone: 'Gone', moved: 'Moved', learnt: 'Learnt', lost: 'No longer known' } as const

/** Traces as they stood on earlier days, each compared with what is known now. */
export function KeptTraces() {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const [title, setTitle] = useState('')
  const [restart, setRestart] = useState(false)
  const [open, setOpen] = useState<string | null>(null)
  const { traces } = job
  const shown = traces.find((t) => t.id === open)
  const changes = shown ? compareTraces(shown, snapshot(job, 'now', shown.at, 'now')) : []
  const keep = () => {
    const at = new Date().toISOString()
    commit({ kind: 'trace.keep', trace: snapshot(job, crypto.randomUUID(), at, title.trim() || `Trace of ${formatDate(at)}`), restart })
    setTitle('')
    setRestart(false)
  }
  return (
    <Section title="Earlier traces">
      {traces.length === 0 && (
        <p className="text-ink-2">None is kept. Keep one before work begins, and what the work changed can be shown afterwards.</p>
      )}
      <ul>
        {traces.toReversed().map((t) => (
          <li key={t.id} className="flex items-center gap-2 border-b border-rule py-1">
            <button
              type="button"
              className="tap min-w-0 flex-1 truncate text-left hover:underline"
              aria-expanded={open === t.id}
              onClick={() => setOpen(open === t.id ? null : t.id)}
            >
              <b>{t.title}</b>, {formatDate(t.at)}: {t.points.filter((p) => p.parent !== null).length} of {t.points.length} known
            </button>
            <button
              type="button"
              className="btn px-2"
              aria-label={`Forget ${t.title}`}
              title="Forget it (undo brings it back)"
              onClick={() => commit({ kind: 'trace.forget', id: t.id })}
            >
              <Trash2 size={15} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      {shown && (
        <div className="border-l-4 border-ink bg-paper px-3 py-2" role="region" aria-label={`What changed since ${shown.title}`}>
          <h3 className="text-[0.95rem]">Since {shown.title}</h3>
          {changes.length === 0 && <p>Nothing has changed.</p>}
          <ul>
            {changes.map((c) => (
              <li key={c.point + c.what} className="border-t border-rule py-1">
                <b>{marks[c.what]}:</b> {c.point}, {c.words}
              </li>
            ))}
          </ul>
        </div>
      )}
      {job.points.length > 0 && (
        <form
          className="mt-2 flex flex-wrap items-center gap-2"
          aria-label="Keep this trace"
          onSubmit={(e) => (e.preventDefault(), keep())}
        >
          <input
            className="field min-w-0 flex-1"
            aria-label="Name of the trace"
            placeholder="Before the work"
            maxLength={120}
            value={title}
            onChange={(e) => setTitle(e.target.value)}
          />
          <button type="submit" className="btn">
            Keep it
          </button>
          <label className="flex tap w-full items-center gap-2">
            <input
              type="checkbox"
              className="size-5 accent-[var(--ink)]"
              checked={restart}
              onChange={(e) => setRestart(e.target.checked)}
            />
            and start again
          </label>
        </form>
      )}
    </Section>
  )
}
