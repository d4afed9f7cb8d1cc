'use client'
import { Circle, MoveUpRight, RotateCcw, Ruler, Trash2, Type } from 'lucide-react'
import { useState } from 'react'
import { markWords } from '@/core/drawing/photograph-marks'
import { type Mark, MOST_MARKS } from '@/core/verify/photograph'
import { LengthField } from '../fields/measure-fields'
import { useJob, useUnits } from '../sync/context'
import type { Draft } from './marked-picture'
import type { SeenPhotograph } from './use-photographs'
import { rowOf } from './row-of'

const tools = [
  { kind: 'arrow', label: 'Arrow', Icon: MoveUpRight },
  { kind: 'ring', label: 'Ring', Icon: Circle },
  { kind: 'words', label: 'Words', Icon: Type },
  { kind: 'length', label: 'Measured length', Icon: Ruler },
] as const

/** Where a mark is before it is dragged to its place. */
const start: Readonly<Record<Mark['kind'], Pick<Draft, 'from' | 'to'>>> = {
  arrow: { from: [0.3, 0.7], to: [0.5, 0.5] },
  ring: { from: [0.4, 0.4], to: [0.6, 0.6] },
  words: { from: [0.5, 0.5], to: [0.5, 0.5] },
  length: { from: [0.3, 0.5], to: [0.7, 0.5] },
}

const askedFor: Readonly<Record<Mark['kind'], string>> = {
  arrow: 'What the arrow points at',
  ring: 'What is in the ring',
  words: 'Words on the picture',
  length: 'What was measured',
}

/** The mark that a draft becomes; null while it has no words, or a length no figure. */
function markFrom({ kind, from, to }: Draft, words: string, lengthM: number | null): Mark | null {
  const said = { id: crypto.randomUUID(), words: words.trim().slice(0, 80) }
  if (kind === 'words') return said.words ? { ...said, kind, from } : null
  if (kind === 'length') return lengthM ? { ...said, kind, from, to, lengthM } : null
  return { ...said, kind, from, to }
}

/** Marks of a photograph: put on with a tool, listed, taken off and put back. */
export function MarkIt({
  photograph: p,
  draft,
  onDraft,
}: {
  photograph: SeenPhotograph
  draft: Draft | null
  onDraft: (draft: Draft | null) => void
}) {
  const add = useJob((s) => s.addPhotograph)
  const [words, setWords] = useState('')
  const [lengthM, setLengthM] = useState<number | null>(null)
  const finish = () => (onDraft(null), setWords(''), setLengthM(null))
  const put = () => {
    if (!draft) return
    const mark = markFrom(draft, words, lengthM)
    if (mark) {
      add({ ...rowOf(p), mark })
      finish()
    }
  }
  const missing = draft?.kind === 'words' ? !words.trim() : draft?.kind === 'length' && !lengthM
  return (
    <div className="flex flex-col gap-2">
      <div className="flex flex-wrap items-center gap-2" role="group" aria-label="Mark the picture">
        {tools.map(({ kind, label, Icon }) => (
          <button
            key={kind}
            type="button"
            className="btn"
            aria-pressed={draft?.kind === kind}
            disabled={p.marks.length >= MOST_MARKS}
            onClick={() => (draft?.kind === kind ? finish() : onDraft({ kind, ...start[kind] }))}
          >
            <Icon size={16} aria-hidden /> {label}
          </button>
        ))}
      </div>
      {draft && (
        <div className="flex flex-wrap items-end gap-2">
          <label className="flex min-w-48 flex-1 flex-col text-[0.9rem]">
            {askedFor[draft.kind]}
            <input
              className="field"
              value={words}
              maxLength={80}
              onChange={(e) => setWords(e.target.value)}
              onKeyDown={(e) => e.key === 'Enter' && put()}
            />
          </label>
          {draft.kind === 'length' && (
            <LengthField label="Length" optional placeholder="?" value={lengthM} max={10_000} onCommit={setLengthM} />
          )}
          <button type="button" className="btn btn-ink" disabled={missing} onClick={put}>
            Add mark
          </button>
          <button type="button" className="btn" onClick={finish}>
            Cancel
          </button>
          <p className="w-full text-[0.85rem] text-ink-2">Drag on the picture to place it, or move it with the arrow keys.</p>
        </div>
      )}
      {!draft && <MarkList photograph={p} />}
    </div>
  )
}

/** The marks that are on it: each can be taken off, and the last taken off put back. */
function MarkList({ photograph: p }: { photograph: SeenPhotograph }) {
  const add = useJob((s) => s.addPhotograph)
  const units = useUnits()
  const [gone, setGone] = useState<Mark | null>(null)
  if (p.marks.length === 0 && !gone) return null
  return (
    <ul className="flex flex-wrap gap-2" aria-label="Marks on it">
      {p.marks.map((m) => (
        <li key={m.id}>
          <button
            type="button"
            className="btn"
            aria-label={`Remove ${markWords(m, units)}`}
            onClick={() => (add({ ...rowOf(p), unmarked: m.id }), setGone(m))}
          >
            <Trash2 size={15} aria-hidden /> {markWords(m, units)}
          </button>
        </li>
      ))}
      {gone && !p.marks.some((m) => m.id === gone.id) && (
        <li>
          <button type="button" className="btn" onClick={() => (add({ ...rowOf(p), mark: gone }), setGone(null))}>
            <RotateCcw size={15} aria-hidden /> Restore {markWords(gone, units)}
          </button>
        </li>
      )}
    </ul>
  )
}
