'use client'
import { Trash2 } from 'lucide-react'
import { useEffect, useRef } from 'react'
import { type Side, sides } from '@/core/building/house'
import { joistsIn } from '@/core/job/building'
import type { Measured } from '@/core/job/room'
import { CheckField, SelectField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section } from '@/ui/panel'
import { useJob } from '../sync/context'
import { LengthField } from '../fields/measure-fields'

const sideOptions = [
  { value: 'east', label: 'East of it' },
  { value: 'west', label: 'West of it' },
  { value: 'north', label: 'North of it' },
  { value: 'south', label: 'South of it' },
  { value: 'over', label: 'Over or under it' },
] as const

/** A room as it was measured, and what it lies beside; any of it can be measured again. */
export function RoomFields({
  id,
  typed,
  onGone,
  onWall,
}: {
  id: string
  /** The dimension that was picked on the plan: what is typed next is its. */
  typed: 'lengthM' | 'widthM' | null
  onGone: () => void
  onWall: (side: Side) => void
}) {
  const fields = useRef<HTMLDivElement>(null)
  useEffect(() => {
    const field = typed && fields.current?.querySelectorAll('input')[typed === 'lengthM' ? 0 : 1]
    if (!field) return
    // After the press on the drawing has come to its end, which takes the focus itself.
    const later = setTimeout(() => {
      field.focus()
      field.select()
    })
    return () => clearTimeout(later)
  }, [typed])
  const rooms = useJob((s) => s.job.rooms)
  const commit = useJob((s) => s.commit)
  const preview = useJob((s) => s.show)
  const made = useJob((s) => s.job.building)
  const room = rooms.find((r) => r.id === id)
  if (!room?.measured) return null
  const { measured } = room
  const joists = joistsIn(made, room)
  const edit = (patch: Partial<Measured>, floor = room.floor) => ({
    kind: 'room.measure' as const,
    name: room.name,
    floor,
    measured: { ...measured, ...patch },
  })
  const others = rooms.filter((r) => r.measured && r.id !== id)
  const { beside } = measured
  const lies = (patch: Partial<NonNullable<Measured['beside']>>) => {
    const base = beside ?? { room: others[0]!.id, side: 'east' as const, shiftM: 0, northM: 0 }
    commit(edit({ beside: { ...base, ...patch } }))
  }
  const size = (key: 'lengthM' | 'widthM' | 'heightM', label: string, most: number) => (
    <LengthField
      label={label}
      value={measured[key]}
      min={key === 'heightM' ? 0.5 : 0.01}
      max={most}
      onPreview={(v) => v && preview(edit({ [key]: v }))}
      onCommit={(v) => v && commit(edit({ [key]: v }))}
    />
  )
  const level = beside?.side === 'north' || beside?.side === 'south' || beside?.side === 'over'
  return (
    <Section title={room.name}>
      <div ref={fields}>
        <FieldGrid>
          {size('lengthM', 'Length, west to east', 200)}
          {size('widthM', 'Width, south to north', 200)}
          {size('heightM', 'Height', 20)}
          <LengthField
            label="Above its suspended ceiling"
            hint="Head room over the tiles"
            optional
            placeholder="not suspended"
            value={measured.voidM ?? null}
            min={0.05}
            max={5}
            onCommit={(v) => {
              const { voidM: _, ...rest } = measured
              commit({ ...edit({}), measured: v === null ? rest : { ...rest, voidM: v } })
            }}
          />
          <NumberField
            label="Floor"
            hint="0 is the ground"
            value={room.floor}
            whole
            min={-3}
            max={20}
            onCommit={(floor) => floor !== null && commit(edit({}, floor))}
          />
          {others.length > 0 && (
            <>
              <SelectField
                label="It lies beside"
                value={beside?.room ?? ''}
                placeholder="Nothing: the others lie by it"
                options={others.map((r) => ({ value: r.id, label: r.name }))}
                onCommit={(by) => lies({ room: by })}
              />
              <SelectField label="On which side" value={beside?.side ?? ''} options={sideOptions} onCommit={(side) => lies({ side })} />
            </>
          )}
          {beside && (
            <LengthField
              label={level ? 'Its west end farther east by' : 'Its south end farther north by'}
              hint="0: flush with it"
              value={beside.shiftM}
              min={-200}
              max={200}
              onCommit={(shiftM) => shiftM !== null && lies({ shiftM })}
            />
          )}
          {beside && beside.side !== 'over' && (
            <CheckField label="No wall between: one room round a corner" value={beside.open ?? false} onCommit={(open) => lies({ open })} />
          )}
          {beside?.side === 'over' && (
            <LengthField
              label="Its south end farther north by"
              value={beside.northM}
              min={-200}
              max={200}
              onCommit={(northM) => northM !== null && lies({ northM })}
            />
          )}
          {joists && (
            <LengthField
              label={joists.runs === 'east' ? 'A joist was found, off the south wall' : 'A joist was found, off the west wall'}
              hint="The others lie in step with it"
              optional
              placeholder="not looked for"
              value={room.joistAtM ?? null}
              max={joists.runs === 'east' ? measured.widthM : measured.lengthM}
              onCommit={(joistAtM) => commit({ kind: 'room.set', name: room.name, patch: { joistAtM } })}
            />
          )}
        </FieldGrid>
      </div>
      <div className="no-print mt-3 flex flex-wrap items-center gap-1.5" role="group" aria-label="Its walls">
        <span className="text-ink-2">Its walls:</span>
        {sides.map((side) => (
          <button key={side} type="button" className="btn capitalize" onClick={() => onWall(side)}>
            {side}
          </button>
        ))}
      </div>
      <button
        type="button"
        className="btn no-print mt-3"
        title="Its points stay in the job. Undo restores it"
        onClick={() => {
          commit({ kind: 'room.measure', name: room.name, measured: null })
          onGone()
        }}
      >
        <Trash2 size={15} aria-hidden /> <span className="truncate">Take {room.name} off the plan</span>
      </button>
      <button
        type="button"
        className="btn no-print mt-3"
        title="Points and walls in it stay, in no room. Undo brings it back"
        onClick={() => {
          commit({ kind: 'room.remove', id })
          onGone()
        }}
      >
        <Trash2 size={15} aria-hidden /> <span className="truncate">Remove {room.name} from the job</span>
      </button>
    </Section>
  )
}
