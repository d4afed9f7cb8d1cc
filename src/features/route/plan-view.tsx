'use client'
import { platesOfWay } from '@/core/installation/building'
import { lieOf } from '@/core/building/picture'
import type { PictureRecord } from '@/core/job/building'
import type { Part, Step } from '@/core/building/steps'
import { planDrawing } from '@/core/drawing/plan'
import { FittingDrawing, type Moved } from '@/ui/drawing'
import { useUnits } from '../sync/context'
import type { Building } from './use-building'

export interface PlanShown {
  readonly view: 'plan' | 'section'
  readonly floor: number
}
const nothing: readonly never[] = []

/** Which storey is looked at, or all of them from the south. */
export function PlanChoice({
  building: { read },
  shown,
  onShow,
}: {
  building: Building
  shown: PlanShown
  onShow: (s: PlanShown) => void
}) {
  const floors = [...new Set(read.rooms.map((r) => r.floor))].toSorted((a, b) => b - a)
  const floorName = (f: number) => (f === 0 ? 'Ground' : f > 0 ? `Floor ${f}` : `Below ${-f}`)
  const button = (label: string, s: PlanShown) => (
    <button
      key={label}
      type="button"
      className={`btn ${s.view === shown.view && (s.view === 'section' || s.floor === shown.floor) ? 'border-ink font-bold' : ''}`}
      aria-pressed={s.view === shown.view && (s.view === 'section' || s.floor === shown.floor)}
      onClick={() => onShow(s)}
    >
      {label}
    </button>
  )
  if (read.rooms.length === 0) return null
  return (
    <div className="no-print flex flex-wrap gap-1.5" role="group" aria-label="What is drawn">
      {floors.map((floor) => button(floorName(floor), { view: 'plan', floor }))}
      {button('From the south', { view: 'section', floor: shown.floor })}
    </div>
  )
}

/** The room that what is picked belongs to. */
function roomOf(picked: string | null): string | null {
  const [kind, ...rest] = (picked ?? '').split(':')
  return kind === 'room' ? rest.join(':') : kind === 'dim' || kind === 'wall' ? rest.slice(1).join(':') : null
}
/** The plan with the way through it; what is touched is picked. */
export function PlanView({
  building: { job, read, names },
  shown,
  parts = nothing,
  pipes,
  steps = nothing,
  selected,
  picture,
  onSelect,
  onMove,
}: {
  building: Building
  shown: PlanShown
  parts?: readonly Part[]
  pipes?: ReadonlySet<number>
  steps?: readonly Step[]
  selected: string | null
  picture?: (PictureRecord & { readonly src: string }) | undefined
  onSelect: (part: string) => void
  /** Walls, points and boards can be moved on the plan of a storey, by a pointer; a finger scrolls. */
  onMove?: (part: string, by: Moved, settled: boolean) => void
}) {
  const units = useUnits()
  const { input, rooms } = read
  if (rooms.length === 0) return null
  const plates = platesOfWay(job.record, parts)
  const lie = picture && lieOf(picture)
  const under = lie ? { picture: { ...lie, src: picture.src, aspect: picture.aspect } } : {}
  return (
    <FittingDrawing
      draw={(format) =>
        planDrawing({
          ...shown,
          dimensioned: onMove ? roomOf(selected) : null,
          input: input ?? bare,
          rooms,
          names,
          parts,
          steps,
          plates,
          ...(pipes ? { pipes } : {}),
          region: job.region,
          units,
          format,
          ...under,
        })
      }
      selected={selected}
      onSelect={onSelect}
      {...(onMove && shown.view === 'plan' ? { onMove } : {})}
      dragsWideOnly
      className="w-full max-w-[60rem]"
    />
  )
}
/** A building whose walls were not looked at: its rooms are drawn all the same. */
export const bare = {
  rooms: [],
  openings: [],
  points: [],
  boards: [],
  found: [],
  obstacles: [],
  joists: null,
  foundJoists: [],
  walls: { kind: 'masonry' as const },
  attic: null,
  crawl: null,
  outside: false,
  gridM: 0.6,
}
