'use client'
import { useEffect, useState } from 'react'
import { api } from '@/ui/api'
import { SidePanel } from '@/ui/side-panel'
import { formatWhen } from '@/ui/when'
import { useJob } from '../sync/context'

interface ChangeLine {
  revision: number
  kind: string
  label: string
  at: string
  by: string
}

export function HistoryPanel({ onClose }: { onClose: () => void }) {
  const id = useJob((s) => s.id)
  const revision = useJob((s) => s.saved.revision)
  const restore = useJob((s) => s.restore)
  const [lines, setLines] = useState<ChangeLine[] | null>(null)
  const [problem, setProblem] = useState<string | null>(null)
  useEffect(() => {
    api<ChangeLine[]>('GET', `/api/jobs/${id}/history`).then(setLines, (e: Error) => setProblem(e.message))
  }, [id, revision])
  return (
    <SidePanel open onClose={onClose} title="History of this job">
      {problem && <p role="alert">{problem}</p>}
      {!lines && !problem && <p className="text-ink-2">Reading…</p>}
      <ol className="space-y-0">
        {lines?.map((l) => (
          <li key={l.revision} className="flex gap-3 border-b border-rule py-2">
            <span className="w-8 shrink-0 text-right text-ink-2">{l.revision}</span>
            <div className="min-w-0 flex-1">
              <p className="break-words">{l.label}</p>
              <p className="text-[0.85rem] text-ink-2">
                {l.by}, {formatWhen(l.at)}
              </p>
            </div>
            {l.revision === revision ? (
              <span className="text-[0.85rem] text-ink-2">now</span>
            ) : (
              <button
                type="button"
                className="btn px-2 text-[0.85rem]"
                onClick={() => void restore(l.revision)}
                aria-label={`Go back to revision ${l.revision}`}
              >
                Go back
              </button>
            )}
          </li>
        ))}
      </ol>
    </SidePanel>
  )
}
