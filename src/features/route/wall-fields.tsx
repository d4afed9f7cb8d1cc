'use client'
import { Trash2 } from 'lucide-react'
import { type FormEvent, useState } from 'react'
import { type Room, type Side, sideLength } from '@/core/building/house'
import { platesOfWay } from '@/core/installation/building'
import type { Part } from '@/core/building/steps'
import { elevationDrawing } from '@/core/drawing/elevation'
import { type Hidden, hiddenKinds, type WallRecord } from '@/core/job/room'
import { pieceStarts } from '@/core/survey/walls'
import { worlds } from '@/core/region/worlds'
import { formatLength } from '@/core/base/format'
import { FittingDrawing, type Moved } from '@/ui/drawing'
import { CheckField, ChoiceField, SelectField } from '@/ui/fields'
import { FieldGrid, Section } from '@/ui/panel'
import { useJob, useUnits } from '../sync/context'
import { LengthField, SmallLengthField } from '../fields/measure-fields'
import { Filled, SpacingFields } from './spacing-fields'
import { USUAL_NOGGING_M, usualSpacingM } from './usual'
import type { Building } from './use-building'

const none: readonly never[] = []

/** The wall that is picked, unfolded under the plan as one faces it. */
export function WallElevation({
  building: { job, read, names },
  room,
  side,
  parts = none,
  pipes,
  onMove,
}: {
  building: Building
  room: Room
  side: Side
  parts?: readonly Part[]
  pipes?: ReadonlySet<number>
  /** Studs and noggings can be moved to where they were found, by a pointer. */
  onMove?: (part: string, by: Moved, settled: boolean) => void
}) {
  const units = useUnits()
  const [touched, setTouched] = useState<string | null>(null)
  const { input } = read
  if (!input) return null
  return (
    <figure>
      <figcaption className="mb-1 font-bold">
        {names.get(room.id)}, {side} wall, as you face it
      </figcaption>
      <FittingDrawing
        draw={(format) =>
          elevationDrawing({
            input,
            rooms: read.rooms,
            room,
            side,
            names,
            parts,
            plates: platesOfWay(job.record, parts),
            ...(pipes ? { pipes } : {}),
            units,
            region: job.region,
            format,
          })
        }
        {...(onMove ? { onMove, selected: touched, onSelect: setTouched } : {})}
        dragsWideOnly
        className="w-full max-w-[60rem]"
      />
    </figure>
  )
}

const kinds = [
  { value: 'door', label: 'Door' },
  { value: 'window', label: 'Window' },
  { value: 'cabinets', label: 'Base cabinets' },
  { value: 'stairs', label: 'Stairs' },
  { value: 'fixed', label: 'Fixed' },
] as const
type Kind = (typeof kinds)[number]['value']
const usual: Record<Kind, { widthM: number | null; sillM: number; headM: number | null }> = {
  door: { widthM: null, sillM: 0, headM: 2.03 },
  window: { widthM: null, sillM: 0.9, headM: 2.03 },
  cabinets: { widthM: null, sillM: 0, headM: 0.9 },
  stairs: { widthM: null, sillM: 0, headM: null },
  fixed: { widthM: null, sillM: 0, headM: null },
}

/** What is in a wall, by its distance from the left, and the next thing to put in. */
export function WallFields({ building: { job, names }, room, side }: { building: Building; room: Room; side: Side }) {
  const units = useUnits()
  const commit = useJob((s) => s.commit)
  const wall = job.record.walls.find((w) => w.room === room.id && w.side === side)
  const [kind, setKind] = useState<Kind>('door')
  const [at, setAt] = useState<number | null>(null)
  const [width, setWidth] = useState<number | null>(null)
  const [sill, setSill] = useState(usual.door.sillM)
  const [head, setHead] = useState<number | null>(usual.door.headM)
  const whole = sideLength(room, side)
  const ready = at !== null && width !== null && at + width <= whole + 1e-6
  const add = (e: FormEvent) => {
    e.preventDefault()
    if (!ready) return
    const piece = { id: crypto.randomUUID(), what: kind, lengthM: width, sillM: sill, ...(head === null ? {} : { headM: head }) }
    commit({ kind: 'wall.open', room: room.id, side, wall: crypto.randomUUID(), piece, atM: at })
    setAt(null)
    setWidth(null)
  }
  const starts = wall ? pieceStarts(wall) : []
  const remove = (i: number) => {
    const pieces = wall!.pieces.map((p, k) => (k === i ? { id: p.id, what: 'wall' as const, lengthM: p.lengthM } : p))
    commit({ kind: 'wall.set', id: wall!.id, patch: { pieces } })
  }
  return (
    <Section title={`${names.get(room.id)}, ${side} wall`}>
      {wall?.pieces.some((p) => p.what !== 'wall') ? (
        <ul className="mb-3">
          {wall.pieces.map((p, i) =>
            p.what === 'wall' ? null : (
              <li key={p.id} className="flex items-center gap-2 border-b border-rule py-1">
                <span className="min-w-0 flex-1">
                  {p.what}, {formatLength(p.lengthM, units)} wide, {formatLength(starts[i]!, units)} from the left
                </span>
                {p.what === 'cabinets' && (
                  <SmallLengthField
                    label="Behind its drawers"
                    optional
                    placeholder="?"
                    value={p.behindMm ?? null}
                    max={1000}
                    onCommit={(behindMm) =>
                      commit({
                        kind: 'wall.set',
                        id: wall.id,
                        patch: { pieces: wall.pieces.map((x, k) => (k === i ? { ...x, behindMm } : x)) },
                      })
                    }
                  />
                )}
                <button
                  type="button"
                  className="btn px-2"
                  aria-label={`Remove the ${p.what}`}
                  title="Undo brings it back"
                  onClick={() => remove(i)}
                >
                  <Trash2 size={15} aria-hidden />
                </button>
              </li>
            ),
          )}
        </ul>
      ) : (
        <p className="mb-2 text-ink-2">No obstructions entered in this wall.</p>
      )}
      <form onSubmit={add}>
        <FieldGrid>
          <ChoiceField
            label="Obstruction"
            value={kind}
            options={kinds}
            onCommit={(k) => (setKind(k), setSill(usual[k].sillM), setHead(usual[k].headM))}
          />
          <LengthField label="From the left" optional placeholder="?" value={at} max={whole} onCommit={setAt} />
          <LengthField label="Width" optional placeholder="?" value={width} max={whole} onCommit={setWidth} />
          <LengthField label="From the floor" value={sill} max={20} onCommit={(v) => v !== null && setSill(v)} />
          <LengthField label="up to" optional placeholder="ceiling" value={head} max={20} onCommit={setHead} />
        </FieldGrid>
        {at !== null && width !== null && !ready && (
          <p className="mt-1 font-bold text-error">The wall is {formatLength(whole, units)} long.</p>
        )}
        <button type="submit" className="btn mt-2" disabled={!ready}>
          Put it in
        </button>
      </form>
      <Inside key={`${room.id} ${side}`} wall={wall} room={room} side={side} whole={whole} />
    </Section>
  )
}

const hiddenWords: Readonly<Record<Hidden['what'], string>> = { pipe: 'Pipe', duct: 'Duct', cables: 'Cables', flue: 'Flue' }

/** What was found of the inside of a wall: a stud, which gives the others; what is hidden in it; and whether its face stays closed. */
function Inside({ wall, room, side, whole }: { wall: WallRecord | undefined; room: Room; side: Side; whole: number }) {
  const units = useUnits()
  const commit = useJob((s) => s.commit)
  const region = useJob((s) => s.job.region)
  const others = useJob((s) => s.job.building?.walls)
  const own = wall?.built ?? null
  const timber = (own ?? others)?.kind === 'timber'
  const [what, setWhat] = useState<Hidden['what']>('pipe')
  const [at, setAt] = useState<number | null>(null)
  const [width, setWidth] = useState<number | null>(null)
  const hidden = wall?.hidden ?? []
  const set = (patch: Pick<WallRecord, 'built' | 'studAtM' | 'noggingAtM' | 'closed' | 'hidden'>) =>
    commit({ kind: 'wall.inside', room: room.id, side, wall: crypto.randomUUID(), patch })
  const ready = at !== null && width !== null && at + width <= whole + 1e-6
  const add = (e: FormEvent) => {
    e.preventDefault()
    if (!ready) return
    set({ hidden: [...hidden, { id: crypto.randomUUID(), what, atM: at, widthM: width, sillM: 0 }] })
    setAt(null)
    setWidth(null)
  }
  return (
    <div className="mt-4">
      <h3 className="mb-1 font-bold">Inside it</h3>
      <FieldGrid>
        <ChoiceField
          label="It is built"
          value={own?.kind ?? 'as'}
          options={[
            { value: 'as', label: 'As the others' },
            { value: 'timber', label: 'Hollow, on studs' },
            { value: 'masonry', label: 'Solid' },
          ]}
          onCommit={(v) =>
            set({ built: v === 'as' ? null : v === 'masonry' ? { kind: v } : { kind: v, studM: usualSpacingM(region), depthMm: null } })
          }
        />
        {own?.kind === 'timber' && (
          <SpacingFields
            of="stud"
            spacing={{ apartM: own.studM, depthMm: own.depthMm }}
            onCommit={({ apartM, depthMm }) => set({ built: { ...own, studM: apartM, depthMm } })}
          />
        )}
        {own?.kind === 'timber' && (
          <Filled label="It is filled with insulation" value={own.filled} onCommit={(filled) => set({ built: { ...own, filled } })} />
        )}
        {timber && (
          <LengthField
            label="A stud was found, from the left"
            hint="The others are spaced from it"
            optional
            placeholder="not looked for"
            value={wall?.studAtM ?? null}
            max={whole}
            onCommit={(studAtM) => set({ studAtM })}
          />
        )}
        {timber && (
          <>
            <ChoiceField
              label={`Its ${worlds[region].words.noggings}`}
              value={wall?.noggingAtM == null ? 'as' : wall.noggingAtM === 'none' ? 'none' : 'found'}
              options={[
                { value: 'as', label: 'As elsewhere' },
                { value: 'none', label: 'None' },
                { value: 'found', label: 'Found' },
              ]}
              onCommit={(v) => set({ noggingAtM: v === 'as' ? null : v === 'none' ? v : USUAL_NOGGING_M })}
            />
            {typeof wall?.noggingAtM === 'number' && (
              <LengthField
                label="They are above the floor"
                value={wall.noggingAtM}
                min={0.05}
                max={room.head - room.foot}
                onCommit={(noggingAtM) => noggingAtM !== null && set({ noggingAtM })}
              />
            )}
          </>
        )}
        <CheckField label="Its face is finished and stays closed" value={wall?.closed ?? false} onCommit={(closed) => set({ closed })} />
      </FieldGrid>
      {hidden.length > 0 && (
        <ul className="my-2">
          {hidden.map((h) => (
            <li key={h.id} className="flex items-center gap-2 border-b border-rule py-1">
              <span className="min-w-0 flex-1">
                {hiddenWords[h.what]}, {formatLength(h.widthM, units)} wide, {formatLength(h.atM, units)} from the left
              </span>
              <button
                type="button"
                className="btn px-2"
                aria-label={`Remove the ${hiddenWords[h.what].toLowerCase()} inside`}
                title="Undo brings it back"
                onClick={() => set({ hidden: hidden.filter((x) => x.id !== h.id) })}
              >
                <Trash2 size={15} aria-hidden />
              </button>
            </li>
          ))}
        </ul>
      )}
      <form onSubmit={add} className="no-print mt-2">
        <FieldGrid>
          <SelectField
            label="Found inside"
            value={what}
            options={hiddenKinds.map((k) => ({ value: k, label: hiddenWords[k] }))}
            onCommit={setWhat}
          />
          <LengthField label="It begins, from the left" optional placeholder="?" value={at} max={whole} onCommit={setAt} />
          <LengthField label="How wide" optional placeholder="?" value={width} max={whole} onCommit={setWidth} />
        </FieldGrid>
        {at !== null && width !== null && !ready && (
          <p className="mt-1 font-bold text-error">The wall is {formatLength(whole, units)} long.</p>
        )}
        <button type="submit" className="btn mt-2" disabled={!ready}>
          It is inside
        </button>
      </form>
      <p className="mt-1 text-[0.9rem] text-ink-2">
        No route goes through what is hidden; the wall face may still be used. A detector finds only some of it: what was not checked is
        unknown.
      </p>
    </div>
  )
}
