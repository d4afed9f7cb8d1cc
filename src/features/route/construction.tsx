'use client'
import { Trash2 } from 'lucide-react'
import { type FormEvent, useState } from 'react'
import type { BuildingRecord, ObstacleRecord } from '@/core/job/building'
import { worlds } from '@/core/region/worlds'
import { sentence } from '@/core/job/part'
import { formatLength } from '@/core/base/format'
import { celsiusFromFahrenheit, fahrenheitFromCelsius } from '@/core/base/units'
import { CheckField, ChoiceField, SelectField, TextField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section } from '@/ui/panel'
import { useJob, useUnits } from '../sync/context'
import { LengthField, SmallLengthField } from '../fields/measure-fields'
import { MadeOtherwise } from './otherwise'
import { Filled, SpacingFields } from './spacing-fields'
import { USUAL_NOGGING_M, usualSpacingM } from './usual'

const runsOptions = [
  { value: 'unknown', label: 'Not checked' },
  { value: 'east', label: 'East and west' },
  { value: 'north', label: 'North and south' },
] as const
const looked = [
  { value: 'unknown', label: 'Not checked' },
  { value: 'none', label: 'None' },
  { value: 'there', label: 'There is' },
] as const
const asLooked = (space: 'there' | BuildingRecord['attic'] | BuildingRecord['crawl']) =>
  space === null ? 'unknown' : space === 'none' ? 'none' : 'there'

type SetMade = (patch: Partial<BuildingRecord>) => void
/** Facts of the building in one room: what is known, and how it is set. */
interface Made {
  readonly made: BuildingRecord
  readonly set: SetMade
}

/** What the building is made of, as far as somebody looked. */
export function Construction({ made }: { made: BuildingRecord }) {
  const commit = useJob((s) => s.commit)
  const set: SetMade = (patch) => commit({ kind: 'building.set', patch })
  const { attic, crawl } = made
  const uk = useJob((s) => s.job.region) === 'united-kingdom'
  return (
    <Section title="How it is built">
      <FieldGrid>
        <WallsMade made={made} set={set} />
        <JoistsMade made={made} set={set} />
        <ChoiceField
          label={uk ? 'Accessible loft' : 'Accessible attic'}
          value={asLooked(attic)}
          options={looked}
          onCommit={(v) => set({ attic: v === 'unknown' ? null : v === 'none' ? 'none' : { headM: 1.2, hot: false } })}
        />
        {attic !== null && attic !== 'none' && <InAttic attic={attic} onSet={(to) => set({ attic: to })} />}
        <ChoiceField
          label={uk ? 'Underfloor void or cellar' : 'Crawl space or cellar under it'}
          value={asLooked(crawl)}
          options={looked}
          onCommit={(v) => set({ crawl: v === 'unknown' ? null : v === 'none' ? 'none' : { headM: 0.7 } })}
        />
        {crawl !== null && crawl !== 'none' && (
          <LengthField
            label="Head room there"
            value={crawl.headM}
            min={0.2}
            max={5}
            onCommit={(headM) => headM && set({ crawl: { headM } })}
          />
        )}
        <ChoiceField
          label="Conduit outside"
          value={made.outside ?? 'unknown'}
          options={[
            { value: 'unknown', label: 'Not said' },
            { value: 'none', label: 'Not there' },
            { value: 'there', label: 'Allowed' },
          ]}
          onCommit={(v) => set({ outside: v === 'unknown' ? null : v })}
        />
        <SmallLengthField
          label="Hole size"
          hint="The drill you use"
          value={made.holeMm}
          min={6}
          max={80}
          onCommit={(holeMm) => holeMm && set({ holeMm })}
        />
        <SmallLengthField
          label="The cable, its larger side"
          optional
          placeholder="?"
          hint="For bends, holes and drawers"
          value={made.cableMm ?? null}
          min={3}
          max={80}
          onCommit={(cableMm) => set({ cableMm })}
        />
      </FieldGrid>
      <MadeOtherwise made={made} />
      <InTheWay made={made} />
      {(attic === null || crawl === null) && <p className="mt-2 text-[0.9rem] text-ink-2">Routes avoid spaces that were not checked.</p>}
    </Section>
  )
}

function WallsMade({ made: { walls }, set }: Made) {
  const region = useJob((s) => s.job.region)
  const timber = walls?.kind === 'timber' ? walls : null
  return (
    <>
      <ChoiceField
        label="Walls"
        value={walls?.kind ?? 'unknown'}
        options={[
          { value: 'unknown', label: 'Not checked' },
          { value: 'timber', label: 'Hollow, on studs' },
          { value: 'masonry', label: 'Solid' },
        ]}
        onCommit={(kind) =>
          set({ walls: kind === 'timber' ? { kind, studM: usualSpacingM(region), depthMm: null } : kind === 'masonry' ? { kind } : null })
        }
      />
      {timber && (
        <SpacingFields
          of="stud"
          spacing={{ apartM: timber.studM, depthMm: timber.depthMm }}
          onCommit={({ apartM, depthMm }) => set({ walls: { ...timber, studM: apartM, depthMm } })}
        />
      )}
      {timber && (
        <>
          <Filled label="Filled with insulation" value={timber.filled} onCommit={(filled) => set({ walls: { ...timber, filled } })} />
          <ChoiceField
            label={`${sentence(worlds[region].words.noggings)} between studs`}
            value={asLooked(timber.noggingM == null ? null : timber.noggingM === 'none' ? 'none' : 'there')}
            options={looked.map((o) => (o.value === 'there' ? { ...o, label: 'There are' } : o))}
            onCommit={(v) => set({ walls: { ...timber, noggingM: v === 'unknown' ? null : v === 'none' ? 'none' : USUAL_NOGGING_M } })}
          />
          {typeof timber.noggingM === 'number' && (
            <LengthField
              label="They are above the floor"
              value={timber.noggingM}
              min={0.1}
              max={20}
              onCommit={(noggingM) => noggingM !== null && set({ walls: { ...timber, noggingM } })}
            />
          )}
        </>
      )}
    </>
  )
}

function JoistsMade({ made: { joists }, set }: Made) {
  const region = useJob((s) => s.job.region)
  return (
    <>
      <ChoiceField
        label="Joists run"
        value={joists?.runs ?? 'unknown'}
        options={runsOptions}
        onCommit={(v) => set({ joists: v === 'unknown' ? null : { spacingM: usualSpacingM(region), depthMm: null, ...joists, runs: v } })}
      />
      {joists && (
        <SpacingFields
          of="joist"
          spacing={{ apartM: joists.spacingM, depthMm: joists.depthMm }}
          onCommit={({ apartM, depthMm }) => set({ joists: { ...joists, spacingM: apartM, depthMm } })}
        />
      )}
    </>
  )
}

type Attic = Exclude<BuildingRecord['attic'], null | 'none'>
/** What an attic that one can get into is like. */
function InAttic({ attic, onSet }: { attic: Attic; onSet: (attic: Attic) => void }) {
  const fahrenheit = worlds[useJob((s) => s.job.region)].units === 'imperial'
  const set = (patch: Partial<Attic>) => onSet({ ...attic, ...patch })
  return (
    <>
      <LengthField
        label={attic.roof ? 'Head room under the ridge' : 'Head room in it'}
        value={attic.headM}
        min={0.2}
        max={5}
        onCommit={(headM) => headM && set({ headM })}
      />
      <ChoiceField
        label="The ridge of its roof runs"
        value={attic.roof?.ridge ?? 'unknown'}
        options={runsOptions}
        onCommit={(v) => {
          const { roof, ...rest } = attic
          onSet(v === 'unknown' ? rest : { ...rest, roof: { eavesM: roof?.eavesM ?? null, ridge: v } })
        }}
      />
      {attic.roof && (
        <LengthField
          label="Head room at the eaves"
          hint="Where the rafters come down on the wall"
          optional
          placeholder="?"
          value={attic.roof.eavesM}
          max={attic.headM}
          onCommit={(eavesM) => set({ roof: { ...attic.roof!, eavesM } })}
        />
      )}
      <CheckField label="Hot under the roof" value={attic.hot} onCommit={(hot) => set({ hot })} />
      {attic.hot && (
        <NumberField
          label="How warm it gets there"
          unit={fahrenheit ? '°F' : '°C'}
          digits={0}
          optional
          placeholder="?"
          min={-20}
          max={fahrenheit ? 212 : 100}
          value={attic.ambientC == null ? null : fahrenheit ? fahrenheitFromCelsius(attic.ambientC) : attic.ambientC}
          onCommit={(v) => set({ ambientC: v === null ? null : Math.min(fahrenheit ? celsiusFromFahrenheit(v) : v, 100) })}
        />
      )}
      <Filled label="A cable lies in insulation there" value={attic.filled} onCommit={(filled) => set({ filled })} />
    </>
  )
}

const spaces = [
  { value: 'attic', label: 'In the attic' },
  { value: 'crawl', label: 'Under the floor' },
] as const

/** What is in the attic or under the floor so that no cable goes through it. */
function InTheWay({ made }: { made: BuildingRecord }) {
  const units = useUnits()
  const commit = useJob((s) => s.commit)
  const rooms = useJob((s) => s.job.rooms).filter((r) => r.measured)
  const obstacles = made.obstacles ?? []
  const there = spaces.filter(({ value }) => made[value] !== null && made[value] !== 'none')
  const [open, setOpen] = useState(obstacles.length > 0)
  const [name, setName] = useState('')
  const [space, setSpace] = useState<ObstacleRecord['space']>('attic')
  const [room, setRoom] = useState('')
  const [hot, setHot] = useState<true | undefined>()
  const [size, setSize] = useState<Readonly<Record<'eastM' | 'northM' | 'lengthM' | 'widthM', number | null>>>(noSize)
  const set = (list: readonly ObstacleRecord[]) => commit({ kind: 'building.set', patch: { obstacles: [...list] } })
  if (there.length + obstacles.length === 0 || rooms.length === 0) return null
  const at = rooms.find((r) => r.id === room) ?? rooms[0]!
  const where = there.some((s) => s.value === space) ? space : (there[0]?.value ?? 'attic')
  const { eastM, northM, lengthM, widthM } = size
  const ready = name.trim() !== '' && eastM !== null && northM !== null && lengthM !== null && widthM !== null
  const add = (e: FormEvent) => {
    e.preventDefault()
    if (!ready) return
    const item = {
      id: crypto.randomUUID(),
      name: name.trim().slice(0, 60),
      space: where,
      room: at.id,
      eastM,
      northM,
      lengthM,
      widthM,
      ...(hot ? { hot } : {}),
    }
    set([...obstacles, item])
    setName('')
    setSize(noSize)
  }
  const measure = (key: keyof typeof size, label: string) => (
    <LengthField label={label} optional placeholder="?" value={size[key]} max={200} onCommit={(v) => setSize({ ...size, [key]: v })} />
  )
  return (
    <details className="mt-3" open={open} onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="tap cursor-pointer font-bold">Obstacles{obstacles.length > 0 && `: ${obstacles.length}`}</summary>
      <ul className="my-1">
        {obstacles.map((o) => (
          <li key={o.id} className="flex items-center gap-2 border-b border-rule py-1">
            <span className="min-w-0 flex-1">
              {o.name}
              {o.hot && ' (hot)'}, {o.space === 'attic' ? 'above' : 'below'} {rooms.find((r) => r.id === o.room)?.name ?? 'a room'}:{' '}
              {formatLength(o.lengthM, units)} × {formatLength(o.widthM, units)}
            </span>
            <button
              type="button"
              className="btn px-2"
              aria-label={`Remove ${o.name}`}
              title="Undo brings it back"
              onClick={() => set(obstacles.filter((x) => x.id !== o.id))}
            >
              <Trash2 size={15} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      {open && there.length > 0 && (
        <form onSubmit={add} className="no-print">
          <FieldGrid>
            <TextField wide label="What it is" placeholder="duct, tank, no way past" value={name} onCommit={setName} />
            {there.length > 1 && <SelectField label="Where" value={where} options={there} onCommit={setSpace} />}
            <SelectField
              label="Over or under"
              value={at.id}
              options={rooms.map((r) => ({ value: r.id, label: r.name }))}
              onCommit={setRoom}
            />
            {measure('eastM', 'Off the west wall')}
            {measure('northM', 'Off the south wall')}
            {measure('lengthM', 'West to east')}
            {measure('widthM', 'South to north')}
            <CheckField label="It gets hot" value={hot === true} onCommit={(v) => setHot(v || undefined)} />
          </FieldGrid>
          <button type="submit" className="btn mt-2" disabled={!ready}>
            It is in the way
          </button>
        </form>
      )}
    </details>
  )
}
const noSize = { eastM: null, northM: null, lengthM: null, widthM: null }
