import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react'
import clsx from 'clsx'
import { useWorded } from './worded'
import { nearest } from './arrows'
import type { Backdrop, Drawing, Paint, Shape } from '@/core/drawing/shape'

const paints: Record<string, string> = {
  ink: 'var(--ink)',
  ink2: 'var(--ink-2)',
  ink3: 'var(--ink-3)',
  rule: 'var(--rule)',
  sheet: 'var(--sheet)',
  paper: 'var(--paper)',
  wash: 'var(--wash)',
  error: 'var(--error)',
  warning: 'var(--warning)',
}
const paint = (p: Paint | undefined): string => (p === undefined ? 'none' : (paints[p] ?? p))

function ShapeView({ shape: s }: { shape: Shape }) {
  const worded = useWorded()
  if (s.kind === 'text')
    return (
      <text
        x={s.x}
        y={s.y}
        fontSize={s.size}
        fill={paint(s.fill)}
        textAnchor={s.anchor ?? 'start'}
        fontWeight={s.bold ? 700 : 400}
        fontFamily={s.mono ? 'var(--font-mono)' : undefined}
      >
        {s.written ? s.text : worded(s.text)}
      </text>
    )
  const stroke = { fill: paint(s.fill), stroke: paint(s.stroke), strokeWidth: s.width, strokeDasharray: s.dash }
  if (s.kind === 'rect') return <rect x={s.x} y={s.y} width={s.w} height={s.h} rx={s.r} {...stroke} />
  if (s.kind === 'circle') return <circle cx={s.x} cy={s.y} r={s.r} {...stroke} />
  return <path d={s.d} className={s.moves && `flows-${s.moves}`} strokeLinecap={s.cap} strokeLinejoin="round" {...stroke} />
}

const Under = ({ src, x, y, w, h, turnedDeg }: Backdrop) => (
  <image
    href={src}
    x={x}
    y={y}
    width={w}
    height={h}
    transform={`rotate(${-turnedDeg} ${x} ${y})`}
    preserveAspectRatio="none"
    opacity={0.5}
    className="no-print"
  />
)

export function Shapes({ shapes }: { shapes: readonly Shape[] }) {
  return shapes.map((s, i) => <ShapeView key={i} shape={s} />)
}

/** Where a pointer is, in the drawing's own measure. */
function pointIn(svg: SVGSVGElement, e: PointerEvent): { x: number; y: number } {
  const { x, y } = new DOMPoint(e.clientX, e.clientY).matrixTransform(svg.getScreenCTM()!.inverse())
  return { x, y }
}
const across = (e: PointerEvent): number => pointIn((e.currentTarget as SVGElement).ownerSVGElement!, e).x

/** How far something was moved over a drawing to scale, in metres. */
export interface Moved {
  readonly eastM: number
  readonly northM: number
}
/** Where a part was taken up, and what a pixel was then: the drawing may be another size before it is let go. */
interface TakenUp {
  readonly x: number
  readonly y: number
  readonly metres: number
  readonly moves: boolean
}
function takenUp(e: PointerEvent, { mmPerUnit = 0 }: Drawing): TakenUp {
  const pixels = (e.currentTarget as SVGElement).ownerSVGElement!.getScreenCTM()!.a
  return { x: e.clientX, y: e.clientY, metres: mmPerUnit / 1000 / pixels, moves: false }
}
const movedFrom = ({ x, y, metres }: TakenUp, e: PointerEvent): Moved => ({
  eastM: (e.clientX - x) * metres,
  northM: (y - e.clientY) * metres,
})

interface Pull {
  readonly part: string
  readonly from: { readonly x: number; readonly y: number }
  /** Where the pointer is; none while it has not left the part. */
  readonly to: { readonly x: number; readonly y: number } | null
}
/** A line drawn by a pointer from one part of a drawing to another; a finger scrolls, and taps twice instead. */
function usePull(drawing: Drawing, onPull: ((from: string, to: string) => void) | undefined) {
  const [pull, setPull] = useState<Pull | null>(null)
  if (!onPull) return { pull: null, handlers: {} }
  const partUnder = (e: PointerEvent): string | undefined =>
    (document.elementFromPoint(e.clientX, e.clientY)?.closest('[data-part]') as SVGElement | null)?.dataset.part
  return {
    pull,
    handlers: {
      onPointerDown: (e: PointerEvent) => {
        const part = e.pointerType === 'touch' ? undefined : partUnder(e)
        if (part) setPull({ part, from: middleOf(drawing, part), to: null })
      },
      onPointerMove: (e: PointerEvent<SVGSVGElement>) => {
        if (!pull) return
        const left = pull.to !== null || partUnder(e) !== pull.part
        if (left) setPull({ ...pull, to: pointIn(e.currentTarget, e) })
      },
      onPointerUp: (e: PointerEvent) => {
        const to = partUnder(e)
        if (pull?.to && to && to !== pull.part) onPull(pull.part, to)
        setPull(null)
      },
      onPointerLeave: () => setPull(null),
    },
  }
}

/** Pixels that the smallest text of a drawing has at the least. */
const LEAST_TEXT = 12
/** How large a drawing is at the least for its texts to be read, in pixels. */
export function leastSize({ shapes, width, height }: Drawing): { minWidth: number; minHeight: number } {
  const smallest = Math.min(...shapes.flatMap((s) => (s.kind === 'text' ? [s.size] : [])), 100)
  return { minWidth: (width * LEAST_TEXT) / smallest, minHeight: (height * LEAST_TEXT) / smallest }
}

/** Where a part is, by what is drawn of it. */
function middleOf({ shapes }: Drawing, part: string): { part: string; x: number; y: number } {
  const at = shapes.flatMap((s) => {
    if (s.part !== part || s.kind === 'path') return []
    return [s.kind === 'rect' ? { x: s.x + s.w / 2, y: s.y + s.h / 2 } : { x: s.x, y: s.y }]
  })
  const mean = (of: 'x' | 'y') => at.reduce((sum, p) => sum + p[of], 0) / Math.max(1, at.length)
  return { part, x: mean('x'), y: mean('y') }
}
const places = (drawing: Drawing, parts: readonly (readonly [string, string])[]) => parts.map(([part]) => middleOf(drawing, part))

/** A drawing on the screen. Its parts, where it has any, are buttons: pointer, Tab and Enter all select one, arrows go between them. */
export function DrawingView({
  drawing,
  selected,
  onSelect,
  onDrag,
  onMove,
  onDrop,
  onPull,
  className,
  legible = false,
}: {
  drawing: Drawing
  selected?: string | null
  onSelect?: (part: string) => void
  /** Parts can be moved along; reported during the move, and once it has settled. */
  onDrag?: (part: string, x: number, settled: boolean) => void
  /** Parts can be moved over a drawing to scale: how far from where it was taken up, in metres, up being north. */
  onMove?: (part: string, by: Moved, settled: boolean) => void
  /** Something that carries text was let go over a part. */
  onDrop?: (part: string, carried: string) => void
  /** A line was drawn from one part to another. */
  onPull?: (from: string, to: string) => void
  className?: string
  /** Never so small that a text in it cannot be read: where there is no room for that, it scrolls in what holds it. */
  legible?: boolean
}) {
  const parts = onSelect ? Object.entries(drawing.parts ?? {}) : []
  const moves = onDrag ?? onMove
  const taken = useRef<TakenUp | null>(null)
  const dragging = (part: string) => {
    if (!moves) return {}
    const tell = (e: PointerEvent, settled: boolean) => {
      onDrag?.(part, across(e), settled)
      onMove?.(part, movedFrom(taken.current!, e), settled)
    }
    return {
      onPointerDown: (e: PointerEvent) => {
        e.currentTarget.setPointerCapture(e.pointerId)
        taken.current = takenUp(e, drawing)
        onSelect?.(part)
      },
      onPointerMove: (e: PointerEvent) => {
        const at = taken.current
        // A hand that rests on a part moves a little; that is no drag.
        if (!at || (!at.moves && Math.hypot(e.clientX - at.x, onMove ? e.clientY - at.y : 0) < 4)) return
        taken.current = { ...at, moves: true }
        tell(e, false)
      },
      onPointerUp: (e: PointerEvent) => {
        if (taken.current?.moves) tell(e, true)
        taken.current = null
      },
      onPointerCancel: () => (taken.current = null),
    }
  }
  const { pull, handlers } = usePull(drawing, onPull)
  const loose = parts.length ? drawing.shapes.filter((s) => !s.part) : drawing.shapes
  return (
    <svg
      viewBox={`0 0 ${drawing.width} ${drawing.height}`}
      className={clsx(className, 'print:!min-h-0 print:!min-w-0', onPull && 'select-none')}
      {...handlers}
      style={legible ? leastSize(drawing) : undefined}
      role={parts.length ? 'group' : 'img'}
      aria-label={drawing.title}
    >
      {drawing.backdrop && <Under {...drawing.backdrop} />}
      <Shapes shapes={loose} />
      {parts.map(([part, label]) => (
        <g
          key={part}
          role="button"
          tabIndex={0}
          aria-label={label}
          aria-pressed={selected === part}
          {...dragging(part)}
          onDragOver={onDrop && ((e) => e.preventDefault())}
          onDrop={
            onDrop &&
            ((e) => {
              e.preventDefault()
              onDrop(part, e.dataTransfer.getData('text/plain'))
            })
          }
          className={clsx(
            onDrag && 'cursor-ew-resize',
            onMove && 'cursor-move',
            moves && 'touch-none',
            'outline-none [&:focus-visible>rect.ring]:stroke-ink [&:hover>rect.ring]:stroke-ink-3',
          )}
          onClick={() => onSelect?.(part)}
          data-part={part}
          onKeyDown={(e: KeyboardEvent) => {
            const to = nearest(e.key, middleOf(drawing, part), places(drawing, parts))
            if (to) e.currentTarget.parentElement?.querySelector<SVGElement>(`[data-part="${CSS.escape(to.part)}"]`)?.focus()
            else if (e.key !== 'Enter' && e.key !== ' ') return
            else onSelect?.(part)
            e.preventDefault()
          }}
        >
          <Shapes shapes={drawing.shapes.filter((s) => s.part === part)} />
          <PartRing drawing={drawing} part={part} selected={selected === part} />
        </g>
      ))}
      {pull?.to && (
        <line
          x1={pull.from.x}
          y1={pull.from.y}
          x2={pull.to.x}
          y2={pull.to.y}
          stroke="var(--ink)"
          strokeWidth={3}
          strokeDasharray="6 5"
          pointerEvents="none"
        />
      )}
    </svg>
  )
}

type Format = 'wide' | 'narrow'
/** A drawing that has a layout of its own for a narrow screen; `narrowBelow` is the width of screen it is taken under. */
export function FittingDrawing({
  draw,
  narrowBelow = 'md',
  className,
  onDrag,
  onMove,
  dragsWideOnly = false,
  ...rest
}: Omit<Parameters<typeof DrawingView>[0], 'drawing' | 'legible' | 'onDrag'> & {
  draw: (format: Format) => Drawing
  narrowBelow?: 'md' | 'xl'
  /** Where a part was dragged to is given in the units of the layout it was dragged in. */
  onDrag?: (part: string, x: number, settled: boolean, format: Format) => void
  /** On a narrow screen a finger on a part scrolls, and drags nothing. */
  dragsWideOnly?: boolean
}) {
  const dragged = (format: Format) => ({
    ...(onMove ? { onMove } : {}),
    ...(onDrag ? { onDrag: (part: string, x: number, settled: boolean) => onDrag(part, x, settled, format) } : {}),
  })
  const [wide, narrow] = narrowBelow === 'md' ? ['max-md:hidden', 'md:hidden print:hidden'] : ['max-xl:hidden', 'xl:hidden print:hidden']
  return (
    <>
      <DrawingView {...rest} {...dragged('wide')} drawing={draw('wide')} className={clsx(className, wide, 'print:block')} legible />
      <DrawingView
        {...rest}
        {...(dragsWideOnly ? {} : dragged('narrow'))}
        drawing={draw('narrow')}
        className={clsx(className, narrow)}
        legible
      />
    </>
  )
}

/** A frame round a part: the hit area, the focus ring, and the sign of what is selected. */
function PartRing({ drawing, part, selected }: { drawing: Drawing; part: string; selected: boolean }) {
  const boxes = drawing.shapes.flatMap((s) => (s.part === part && s.kind === 'rect' ? [s] : []))
  if (boxes.length === 0) return null
  const x = Math.min(...boxes.map((b) => b.x))
  const right = Math.max(...boxes.map((b) => b.x + b.w))
  if (drawing.ring === 'box') {
    const y = Math.min(...boxes.map((b) => b.y))
    const bottom = Math.max(...boxes.map((b) => b.y + b.h))
    return (
      <rect
        className="ring"
        x={x - 2}
        y={y - 2}
        width={right - x + 4}
        height={bottom - y + 4}
        rx={4}
        fill="transparent"
        stroke={selected ? 'var(--ink)' : 'transparent'}
        strokeWidth={selected ? 4 : 2}
      />
    )
  }
  return (
    <>
      <rect
        className="ring"
        x={x - 2}
        y={18}
        width={right - x + 4}
        height={drawing.height - 34}
        rx={4}
        fill="transparent"
        stroke="transparent"
        strokeWidth={2}
        strokeDasharray="2 3"
      />
      {selected && <path d={`M${x} ${drawing.height - 4}H${right}`} stroke="var(--ink)" strokeWidth={5} />}
    </>
  )
}
