'use client'
import { Trash2 } from 'lucide-react'
import { useState } from 'react'
import type { BuildingRecord, Joists, Otherwise } from '@/core/job/building'
import type { Built } from '@/core/job/room'
import type { RegionId } from '@/core/region/types'
import { CheckField, ChoiceField, SelectField } from '@/ui/fields'
import { FieldGrid } from '@/ui/panel'
import { useJob } from '../sync/context'
import { Filled, SpacingFields } from './spacing-fields'
import { usualSpacingM } from './usual'

const asElsewhere = { value: 'as', label: 'As elsewhere' } as const
const scopeOf = ({ of }: Otherwise): string => ('room' in of ? `room ${of.room}` : `floor ${of.floor}`)

/** Storeys and rooms that are not made as the rest of the building is. */
export function MadeOtherwise({ made }: { made: BuildingRecord }) {
  const commit = useJob((s) => s.commit)
  const rooms = useJob((s) => s.job.rooms).filter((r) => r.measured)
  const list = made.otherwise ?? []
  const [open, setOpen] = useState(list.length > 0)
  const set = (otherwise: readonly Otherwise[]) => commit({ kind: 'building.set', patch: { otherwise: [...otherwise] } })
  const floors = [...new Set(rooms.map((r) => r.floor))].toSorted((a, b) => a - b)
  const scopes = [
    ...(floors.length > 1 ? floors.map((floor) => ({ of: { floor }, label: `Storey ${floor}` })) : []),
    ...(rooms.length > 1 ? rooms.map((r) => ({ of: { room: r.id }, label: r.name })) : []),
  ].map((s) => ({ ...s, value: scopeOf({ id: '', of: s.of }) }))
  const left = scopes.filter((s) => !list.some((o) => scopeOf(o) === s.value))
  if (scopes.length === 0 && list.length === 0) return null
  const change = (o: Otherwise, patch: Partial<Otherwise>) =>
    set(
      list.map((x) =>
        x.id === o.id ? (Object.fromEntries(Object.entries({ ...x, ...patch }).filter(([, v]) => v !== undefined)) as Otherwise) : x,
      ),
    )
  return (
    <details className="mt-3" open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="tap cursor-pointer font-bold">Exceptions by floor and room{list.length > 0 && `: ${list.length}`}</summary>
      {open && (
        <>
          {list.map((o) => (
            <One
              key={o.id}
              made={o}
              name={scopes.find((s) => s.value === scopeOf(o))?.label ?? 'A storey that has no room now'}
              onChange={(patch) => change(o, patch)}
              onGone={() => set(list.filter((x) => x.id !== o.id))}
            />
          ))}
          {list.length === 0 && <p className="my-1 text-ink-2">All of it is taken to be made as said above.</p>}
          {left.length > 0 && (
            <div className="no-print mt-2 max-w-[20rem]">
              <SelectField
                label="Not made as the rest"
                value=""
                options={left}
                onCommit={(v) => {
                  const scope = left.find((s) => s.value === v)
                  if (scope) set([...list, { id: crypto.randomUUID(), of: scope.of }])
                }}
              />
            </div>
          )}
        </>
      )}
    </details>
  )
}

function One({
  made,
  name,
  onChange,
  onGone,
}: {
  made: Otherwise
  name: string
  onChange: (patch: Partial<Otherwise>) => void
  onGone: () => void
}) {
  const region = useJob((s) => s.job.region)
  const { walls, joists, attic, crawl } = made
  return (
    <fieldset className="my-2 border-l-2 border-rule pl-3">
      <legend className="flex w-full items-center gap-2 font-bold">
        <span className="flex-1">{name}</span>
        <button
          type="button"
          className="btn px-2"
          aria-label={`${name}: as the rest after all`}
          title="Undo brings it back"
          onClick={onGone}
        >
          <Trash2 size={15} aria-hidden />
        </button>
      </legend>
      <FieldGrid>
        <ChoiceField
          label={`Walls, ${name}`}
          value={walls?.kind ?? 'as'}
          options={[asElsewhere, { value: 'timber', label: 'Hollow, on studs' }, { value: 'masonry', label: 'Solid' }]}
          onCommit={(v) => onChange({ walls: wallsFor(v, region) })}
        />
        {walls?.kind === 'timber' && (
          <SpacingFields
            of="stud"
            spacing={{ apartM: walls.studM, depthMm: walls.depthMm }}
            onCommit={({ apartM, depthMm }) => onChange({ walls: { ...walls, studM: apartM, depthMm } })}
          />
        )}
        {walls?.kind === 'timber' && (
          <Filled
            label={`Filled with insulation, ${name}`}
            value={walls.filled}
            onCommit={(filled) => onChange({ walls: { ...walls, filled } })}
          />
        )}
        <ChoiceField
          label={`Joists run, ${name}`}
          value={joists?.runs ?? 'as'}
          options={[asElsewhere, { value: 'east', label: 'East and west' }, { value: 'north', label: 'North and south' }]}
          onCommit={(v) => onChange({ joists: joistsFor(v, joists, region) })}
        />
        {joists && (
          <SpacingFields
            of="joist"
            spacing={{ apartM: joists.spacingM, depthMm: joists.depthMm }}
            onCommit={({ apartM, depthMm }) => onChange({ joists: { ...joists, spacingM: apartM, depthMm } })}
          />
        )}
        <CheckField
          label={`${name}: a flat roof, no attic above`}
          value={attic === 'none'}
          onCommit={(v) => onChange({ attic: v ? 'none' : undefined })}
        />
        <CheckField
          label={`${name}: on a slab, no crawl space below`}
          value={crawl === 'none'}
          onCommit={(v) => onChange({ crawl: v ? 'none' : undefined })}
        />
      </FieldGrid>
    </fieldset>
  )
}

const wallsFor = (v: 'as' | Built['kind'], region: RegionId): Built | undefined =>
  v === 'as' ? undefined : v === 'masonry' ? { kind: v } : { kind: v, studM: usualSpacingM(region), depthMm: null }
const joistsFor = (v: 'as' | Joists['runs'], was: Joists | undefined, region: RegionId): Joists | undefined =>
  v === 'as' ? undefined : { spacingM: usualSpacingM(region), depthMm: null, ...was, runs: v }
