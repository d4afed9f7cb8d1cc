'use client'
import { Say } from '@/ui/worded'
import { Plus } from 'lucide-react'
import { type FormEvent, useRef, useState } from 'react'
import { sides } from '@/core/building/house'
import { formatLength } from '@/core/base/format'
import { feetFromMetres, metresFromFeet } from '@/core/base/units'
import { readTyped } from '@/core/base/typed'
import { Section, Stage } from '@/ui/panel'
import { useUnits, useJob } from '../sync/context'
import { Findings } from '../fields/findings'
import { useAbout } from '../fields/use-about'
import { useLed } from '../fields/use-led'
import { Construction } from './construction'
import { DrawingIn } from './drawing-in'
import { PictureUnder, usePictureUnder } from './picture-under'
import { PlaceFields } from './place-fields'
import { PlanChoice, type PlanShown, PlanView } from './plan-view'
import { RoomFields } from './room-fields'
import { sideWords } from './side-words'
import { type Building, useBuilding } from './use-building'
import { useMoving } from './use-moving'
import { WallElevation, WallFields } from './wall-fields'
import { standingOf } from './standing'

/** Rooms entered as they are measured; the plan draws itself. What is picked on it has its values beside it. */
export function HouseSheet() {
  const building = useBuilding()
  const findings = useJob((s) => s.report.stages.find((x) => x.id === 'route')!.findings)
  const about = useAbout('route')
  const [picked, setPicked] = useState<string | null>(null)
  const [shown, setShown] = useState<PlanShown>({ view: 'plan', floor: building.read.rooms[0]?.floor ?? 0 })
  useLed('route', 'house', (kind, id) => kind === 'side' && setPicked(`wall:${id}`))
  const picture = usePictureUnder(building, shown.floor)
  const move = useMoving(building)
  const [kind, ...rest] = (picked ?? '').split(':')
  const id = rest.join(':')
  const room = building.read.rooms.find((r) => r.id === (kind === 'wall' || kind === 'dim' ? rest.slice(1).join(':') : id))
  const side = sides.find((s) => kind === 'wall' && s === rest[0])
  return (
    <Stage
      title="Route"
      about={about}
      drawing={
        <div className="flex flex-col gap-3">
          <NextRoom />
          <div className="flex flex-wrap gap-2 [&>section]:basis-full">
            <DrawingIn building={building} />
            {shown.view === 'plan' && <PictureUnder key={shown.floor} building={building} floor={shown.floor} />}
          </div>
          <PlanChoice building={building} shown={shown} onShow={setShown} />
          <PlanView building={building} shown={shown} picture={picture} selected={picked} onSelect={setPicked} onMove={move} />
          {room && side && <WallElevation building={building} room={room} side={side} onMove={move} />}
          <Unplaced building={building} picked={picked} onPick={setPicked} />
        </div>
      }
      working={
        <>
          {room && side && <WallFields key={picked} building={building} room={room} side={side} />}
          {room && (kind === 'room' || kind === 'dim') && (
            <RoomFields
              key={room.id}
              id={room.id}
              typed={kind === 'dim' ? (rest[0] === 'length' ? 'lengthM' : 'widthM') : null}
              onGone={() => setPicked(null)}
              onWall={(w) => setPicked(`wall:${w}:${room.id}`)}
            />
          )}
          {(kind === 'point' || kind === 'board') && (
            <PlaceFields key={`${picked} ${spotOf(building, kind, id)}`} what={kind} id={id} building={building} />
          )}
          <Construction made={building.made} />
          <Section title="Findings">
            {building.read.lacks.length > 0 && <p className="mb-1">{building.read.lacks.join(' ')}</p>}
            <Findings
              stage="route"
              findings={findings.filter((f) => f.circuit === null)}
              empty={building.read.lacks.length ? '' : 'Rooms adjoin.'}
            />
          </Section>
        </>
      }
    />
  )
}

/** Where something is: moved on the plan, its fields start over. */
const spotOf = ({ job }: Building, kind: 'point' | 'board', id: string): string => {
  const thing = standingOf(job, kind, id)
  return JSON.stringify([thing?.wall, thing && 'overhead' in thing ? thing.overhead : null])
}

/** Points and boards without a place yet; routes are searched between those that have one. */
function Unplaced({
  building: { job, read, names },
  picked,
  onPick,
}: {
  building: Building
  picked: string | null
  onPick: (p: string) => void
}) {
  if (read.rooms.length === 0) return null
  const left = [
    ...job.record.boards.filter((b) => !read.standing.has(b.id)).map((b) => `board:${b.id}`),
    ...job.points.filter((p) => !read.standing.has(p.id)).map((p) => `point:${p.id}`),
  ]
  return (
    <Section title="To be placed">
      {left.length === 0 ? (
        <p className="text-ink-2">Every point is on the plan.</p>
      ) : (
        <ul className="flex flex-wrap gap-1.5">
          {left.slice(0, 60).map((key) => (
            <li key={key}>
              <button type="button" className="btn" data-opens aria-pressed={picked === key} onClick={() => onPick(key)}>
                {names.get(key.slice(key.indexOf(':') + 1)) || 'Point'}
              </button>
            </li>
          ))}
          {left.length > 60 && <li className="self-center text-ink-2">and {left.length - 60} more</li>}
        </ul>
      )}
    </Section>
  )
}

/** One room after another, as a tape gives them: name, length, width, height, and what it lies beside. */
function NextRoom() {
  const { job, read } = useBuilding()
  const units = useUnits()
  const commit = useJob((s) => s.commit)
  const form = useRef<HTMLFormElement>(null)
  const [wrong, setWrong] = useState<{ readonly field: string; readonly words: string } | null>(null)
  const unit = units === 'imperial' ? 'ft' : 'm'
  const measured = job.rooms.filter((r) => r.measured)
  const last = measured.at(-1)
  const shownM = (m: number) => String(Number((units === 'imperial' ? feetFromMetres(m) : m).toFixed(2)))
  const submit = (e: FormEvent) => {
    e.preventDefault()
    const data = new FormData(form.current!)
    const get = (key: string) => String(data.get(key) ?? '').trim()
    const length = (key: string, most: number): number | null => {
      const typed = readTyped(get(key), unit)
      const value = 'error' in typed || typed.value === null ? null : units === 'imperial' ? metresFromFeet(typed.value) : typed.value
      if (value !== null && value > 0 && value <= most) return value
      setWrong({ field: key, words: `A ${key} between 0 and ${formatLength(most, units)} is needed.` })
      return null
    }
    if (get('name') === '') return setWrong({ field: 'name', words: 'Which room is it?' })
    const lengthM = length('length', 200)
    if (lengthM === null) return
    const widthM = length('width', 200)
    if (widthM === null) return
    const heightM = length('height', 20)
    if (heightM === null) return
    const by = measured.find((r) => r.id === get('room'))
    const name = get('name').slice(0, 120)
    const own = job.rooms.find((r) => r.name === name)
    const beside = by && by.id !== own?.id ? { room: by.id, side: get('side') as keyof typeof sideWords, shiftM: 0, northM: 0 } : null
    const over = beside?.side === 'over'
    commit({
      kind: 'room.measure',
      name,
      floor: over ? by!.floor + (by!.floor < 0 ? -1 : 1) : (by?.floor ?? own?.floor ?? 0),
      measured: { lengthM, widthM, heightM: Math.max(heightM, 0.5), beside },
    })
    setWrong(null)
    for (const key of ['name', 'length', 'width']) (form.current!.elements.namedItem(key) as HTMLInputElement).value = ''
    ;(form.current!.elements.namedItem('name') as HTMLInputElement).focus()
  }
  const field = (name: string, label: string, props: object = {}) => (
    <div className={name === 'name' ? 'min-w-32 flex-[2]' : 'min-w-16 flex-1'}>
      <label htmlFor={`next-${name}`} className="mb-0.5 block text-[0.9rem] text-ink-2">
        {label}
      </label>
      <input
        id={`next-${name}`}
        name={name}
        className="field"
        autoComplete="off"
        aria-invalid={wrong?.field === name}
        aria-describedby={wrong?.field === name ? 'next-wrong' : undefined}
        {...props}
      />
    </div>
  )
  const unmeasured = job.rooms.filter((r) => !r.measured)
  return (
    <form ref={form} onSubmit={submit} className="no-print border border-rule px-3 py-2" aria-label="Next room">
      <div className="flex flex-wrap items-end gap-2">
        {field('name', 'Room', { list: 'rooms-to-measure', maxLength: 120 })}
        <datalist id="rooms-to-measure">
          {unmeasured.map((r) => (
            <option key={r.id} value={r.name} />
          ))}
        </datalist>
        {field('length', `Length, ${unit}`, { inputMode: 'decimal', title: 'From west to east' })}
        {field('width', `Width, ${unit}`, { inputMode: 'decimal', title: 'From south to north' })}
        {field('height', `Height, ${unit}`, {
          inputMode: 'decimal',
          defaultValue: last ? shownM(last.measured!.heightM) : '',
          key: last?.id,
        })}
        {last && (
          <>
            <div className="min-w-24 flex-1">
              <label htmlFor="next-side" className="mb-0.5 block text-[0.9rem] text-ink-2">
                It lies
              </label>
              <select id="next-side" name="side" className="field" defaultValue="east">
                {Object.entries(sideWords).map(([value, words]) => (
                  <option key={value} value={value}>
                    {words}
                  </option>
                ))}
              </select>
            </div>
            <div className="min-w-28 flex-1">
              <label htmlFor="next-room" className="mb-0.5 block text-[0.9rem] text-ink-2">
                which room
              </label>
              <select id="next-room" name="room" className="field" defaultValue={last.id} key={last.id}>
                {measured.map((r) => (
                  <option key={r.id} value={r.id}>
                    {r.name}
                  </option>
                ))}
              </select>
            </div>
          </>
        )}
        <button type="submit" className="btn btn-ink">
          <Plus size={16} aria-hidden /> Add
        </button>
      </div>
      {wrong ? (
        <p id="next-wrong" role="alert" className="mt-1 font-bold text-error">
          {wrong.words}
        </p>
      ) : (
        read.rooms.length === 0 && (
          <p className="mt-1 text-[0.9rem] text-ink-2">
            <Say>Length is west to east and width south to north, measured inside. Start with the board’s room. Enter adds it.</Say>
          </p>
        )
      )}
    </form>
  )
}
