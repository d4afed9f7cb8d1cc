'use client'
import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react'
import { type DrawnMark, photographMarks } from '@/core/drawing/photograph-marks'
import type { Mark, Spot } from '@/core/verify/photograph'
import { Shapes } from '@/ui/drawing'
import { useUnits } from '../sync/context'
import type { SeenPhotograph } from './use-photographs'

/** A mark that is being placed: it has no name yet, and a length no figure. */
export type Draft = { readonly kind: Mark['kind']; readonly from: Spot; readonly to: Spot }

const within = (n: number): number => Math.min(Math.max(n, 0), 1)
/** How far an arrow key moves what is being placed: a part of the picture. */
const STEP = 0.02
const keys: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
}
const moved = ([x, y]: Spot, [dx, dy]: readonly [number, number]): Spot => [within(x + dx), within(y + dy)]

/** Draws a draft as the mark that it will be. */
const asMark = ({ kind, from, to }: Draft): DrawnMark =>
  kind === 'words'
    ? { id: 'draft', kind, words: '…', from }
    : kind === 'length'
      ? { id: 'draft', kind, words: '', from, to, lengthM: null }
      : { id: 'draft', kind, words: '', from, to }

/** A photograph with its marks over it, and the one that is being placed: dragged by a pointer, or moved with the arrow keys. */
export function MarkedPicture({
  photograph: p,
  draft = null,
  onDraft,
  className,
}: {
  photograph: SeenPhotograph
  draft?: Draft | null
  onDraft?: (draft: Draft) => void
  className?: string
}) {
  const units = useUnits()
  // One that waits on this device was not measured yet.
  const [natural, setNatural] = useState<{ w: number; h: number } | null>(null)
  const started = useRef<Spot | null>(null)
  const { w, h } = natural ?? { w: p.widthPx, h: p.heightPx }
  const marks = photographMarks(p.marks, h / w, units)
  const placing = draft && photographMarks([asMark(draft)], h / w, units)
  const spotOf = (e: PointerEvent<SVGSVGElement>): Spot => {
    const { x, y } = new DOMPoint(e.clientX, e.clientY).matrixTransform(e.currentTarget.getScreenCTM()!.inverse())
    return [within(x / marks.width), within(y / marks.height)]
  }
  const drag = (e: PointerEvent<SVGSVGElement>) => {
    const from = started.current
    if (from && draft && onDraft) onDraft({ ...draft, from: draft.kind === 'words' ? spotOf(e) : from, to: spotOf(e) })
  }
  const nudge = (e: KeyboardEvent) => {
    const by = keys[e.key]
    if (!by || !draft || !onDraft) return
    e.preventDefault()
    onDraft({ ...draft, ...(e.shiftKey ? {} : { from: moved(draft.from, by) }), to: moved(draft.to, by) })
  }
  return (
    <>
      <img
        src={p.src}
        alt={p.words || 'No caption yet'}
        className="hidden"
        onLoad={({ currentTarget: { naturalWidth, naturalHeight } }) => setNatural({ w: naturalWidth, h: naturalHeight })}
      />
      <svg
        viewBox={`0 0 ${marks.width} ${marks.height}`}
        className={`${className ?? ''} ${draft ? 'touch-none cursor-crosshair' : ''}`}
        role="img"
        aria-label={[p.words || 'No caption yet', marks.title].filter(Boolean).join('. ')}
        tabIndex={draft ? 0 : undefined}
        onKeyDown={nudge}
        onPointerDown={(e) => {
          if (!draft) return
          e.currentTarget.setPointerCapture(e.pointerId)
          started.current = spotOf(e)
          drag(e)
        }}
        onPointerMove={drag}
        onPointerUp={() => (started.current = null)}
        onPointerCancel={() => (started.current = null)}
      >
        <image href={p.src} width={marks.width} height={marks.height} />
        <Shapes shapes={marks.shapes} />
        {placing && (
          <g opacity={0.75} data-draft={draft.kind}>
            <Shapes shapes={placing.shapes} />
          </g>
        )}
      </svg>
    </>
  )
}
