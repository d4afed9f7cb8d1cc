'use client'
import { Say } from '@/ui/worded'
import { Trash2 } from 'lucide-react'
import { formatA } from '@/core/base/format'
import { TextField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { Section } from '@/ui/panel'
import { useJob } from '../sync/context'
import { worlds } from '@/core/region/worlds'

/** The board: its ways as labelled, and what was found to hang on each. */
export function WaysTable({ board: boardId }: { board: string }) {
  const board = useJob((s) => worlds[s.job.region].words.board)
  const all = useJob((s) => s.report.survey.loads)
  const loads = all.filter((l) => l.way.board === boardId)
  const commit = useJob((s) => s.commit)
  return (
    <Section title={`Ways of the ${board}`}>
      {loads.length === 0 && (
        <p className="text-ink-2">
          <Say>No ways yet. Labels found at the board are a start, not proof.</Say>
        </p>
      )}
      <ul>
        {loads.map(({ way, amps, points, unknown }) => (
          <li key={way.id} className="flex items-end gap-2 border-b border-rule py-1.5">
            <div className="min-w-0 flex-1">
              <TextField label="Label" value={way.label} onCommit={(label) => commit({ kind: 'way.set', id: way.id, patch: { label } })} />
            </div>
            <div className="w-24">
              <NumberField
                label="Breaker"
                unit="A"
                optional
                value={way.ratingA}
                max={1000}
                onCommit={(ratingA) => commit({ kind: 'way.set', id: way.id, patch: { ratingA: ratingA || null } })}
              />
            </div>
            <p className="w-32 pb-1.5 text-[0.85rem] leading-tight text-ink-2">
              {points.length} {points.length === 1 ? 'point' : 'points'}
              {points.length > 0 && (
                <>
                  <br />
                  <b className="text-ink">{formatA(amps)}</b>
                  {unknown > 0 && ` + ${unknown} ?`}
                </>
              )}
            </p>
            <button
              type="button"
              className="btn no-print px-2"
              aria-label={`Remove ${way.label}`}
              title="Remove (undo brings it back)"
              onClick={() => commit({ kind: 'way.remove', id: way.id })}
            >
              <Trash2 size={15} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
    </Section>
  )
}
