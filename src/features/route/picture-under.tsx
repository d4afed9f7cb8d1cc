'use client'
import { ImagePlus } from 'lucide-react'
import { type ChangeEvent, type KeyboardEvent, type MouseEvent, useId, useState } from 'react'
import { along, type Room, type Side, sideLength, sides } from '@/core/building/house'
import { LEAST_APART, type OnGround, type OnPicture } from '@/core/building/picture'
import type { PictureRecord } from '@/core/job/building'
import { formatLength } from '@/core/base/format'
import { SelectField } from '@/ui/fields'
import { Section } from '@/ui/panel'
import { useJob, useUnits } from '../sync/context'
import { LengthField } from '../fields/measure-fields'
import { pictureOf } from '../photographs/picture'
import { usePhotographs } from '../photographs/use-photographs'
import type { Building } from './use-building'

/** The picture that lies under a storey, with where it is read from; undefined: none does, or it was put away. */
export function usePictureUnder({ made }: Building, floor: number) {
  const photographs = usePhotographs(null)
  const laid = made.pictures?.find((p) => p.floor === floor)
  const src = laid && photographs.find((p) => p.photograph === laid.photograph && !p.out)?.src
  return laid && src ? { ...laid, src } : undefined
}

interface Chosen {
  readonly data: string
  readonly aspect: number
}

/** A photograph of a plan laid under this storey, by two places on it whose distance is known. */
export function PictureUnder({ building, floor }: { building: Building; floor: number }) {
  const commit = useJob((s) => s.commit)
  const input = useId()
  const [chosen, setChosen] = useState<Chosen | null>(null)
  const [problem, setProblem] = useState('')
  const under = building.made.pictures?.find((p) => p.floor === floor)
  const choose = async ({ target }: ChangeEvent<HTMLInputElement>) => {
    const [file] = target.files ?? []
    target.value = ''
    if (!file) return
    setProblem('')
    try {
      const data = await pictureOf(file)
      const image = new Image()
      image.src = `data:image/jpeg;base64,${data}`
      await image.decode()
      setChosen({ data, aspect: image.naturalHeight / image.naturalWidth })
    } catch (e) {
      setProblem((e as Error).message)
    }
  }
  if (chosen) return <Marking key={chosen.data.length} building={building} floor={floor} chosen={chosen} onDone={() => setChosen(null)} />
  return (
    <div className="no-print flex flex-wrap items-center gap-2">
      <input
        id={input}
        type="file"
        accept="image/*"
        className="peer sr-only"
        onChange={(e) => void choose(e)}
        aria-describedby={problem ? `${input}-p` : undefined}
      />
      <label htmlFor={input} className="btn inline-flex cursor-pointer peer-focus-visible:outline-2">
        <ImagePlus size={16} aria-hidden /> {under ? 'Another picture under it' : 'A picture under the plan'}
      </label>
      {under && (
        <button
          type="button"
          className="btn"
          title="It stays among the photographs of the job. Undo brings it back"
          onClick={() => commit({ kind: 'building.set', patch: { pictures: building.made.pictures!.filter((p) => p !== under) } })}
        >
          Take the picture away
        </button>
      )}
      {problem && (
        <p id={`${input}-p`} role="alert" className="font-bold text-error">
          {problem}
        </p>
      )}
    </div>
  )
}

/** What the two marks are: the ends of a side of a room, or so far apart on a level line. */
type Known = { readonly room: Room; readonly side: Side } | null
const keyOf = (k: Known): string => (k ? `${k.side}:${k.room.id}` : 'length')
/** The west or the south end of a side, and the other. */
const endsOf = ({ room, side }: NonNullable<Known>): readonly [OnGround, OnGround] => [
  along(room, side, 0),
  along(room, side, sideLength(room, side)),
]

const FIRST: readonly [OnPicture, OnPicture] = [
  [0.25, 0.5],
  [0.75, 0.5],
]
/** So far an arrow key moves a mark, of the width of the picture. */
const STEP = 0.005
const arrows: Readonly<Record<string, OnPicture>> = {
  ArrowLeft: [-STEP, 0],
  ArrowRight: [STEP, 0],
  ArrowUp: [0, -STEP],
  ArrowDown: [0, STEP],
}

function Marking({
  building: { read, names, made },
  floor,
  chosen: { data, aspect },
  onDone,
}: {
  building: Building
  floor: number
  chosen: Chosen
  onDone: () => void
}) {
  const units = useUnits()
  const commit = useJob((s) => s.commit)
  const add = useJob((s) => s.addPhotograph)
  const [marks, setMarks] = useState(FIRST)
  const [next, setNext] = useState<0 | 1>(0)
  const rooms = read.rooms.filter((r) => r.floor === floor)
  const walls = rooms.flatMap((room) => sides.map((side) => ({ room, side })))
  const [known, setKnown] = useState<Known>(walls[0] ?? null)
  const [lengthM, setLengthM] = useState<number | null>(null)
  const level = known !== null && (known.side === 'north' || known.side === 'south')
  const ends = known === null ? ['Its beginning', 'Its end'] : level ? ['West end', 'East end'] : ['South end', 'North end']
  const set = (which: 0 | 1, to: OnPicture) => {
    const at: OnPicture = [Math.min(Math.max(to[0], 0), 1), Math.min(Math.max(to[1], 0), aspect)]
    setMarks(which === 0 ? [at, marks[1]] : [marks[0], at])
  }
  const touch = (e: MouseEvent<HTMLDivElement>) => {
    const box = e.currentTarget.getBoundingClientRect()
    set(next, [(e.clientX - box.left) / box.width, (e.clientY - box.top) / box.width])
    setNext(next === 0 ? 1 : 0)
  }
  const apart = Math.hypot(marks[0][0] - marks[1][0], marks[0][1] - marks[1][1])
  const places = (): readonly [OnGround, OnGround] => {
    if (known) return endsOf(known)
    // A length that is typed lies on the sheet as it is drawn, its first end where the building begins.
    const from: OnGround = rooms.length ? [Math.min(...rooms.map((r) => r.west)), Math.min(...rooms.map((r) => r.south))] : [0, 0]
    const by = lengthM! / apart
    return [from, [from[0] + (marks[1][0] - marks[0][0]) * by, from[1] + (marks[0][1] - marks[1][1]) * by]]
  }
  const ready = apart >= LEAST_APART && (known !== null || (lengthM !== null && lengthM >= 0.2))
  const lay = () => {
    const photograph = crypto.randomUUID()
    add({ id: photograph, photograph, of: { kind: 'job', id: 'job' }, words: 'A plan, laid under the building', out: false, data })
    const [from, to] = places()
    const picture: PictureRecord = {
      floor,
      photograph,
      aspect,
      marks: [[...marks[0]], [...marks[1]]],
      places: [[...from], [...to]],
    }
    commit({ kind: 'building.set', patch: { pictures: [...(made.pictures ?? []).filter((p) => p.floor !== floor), picture] } })
    onDone()
  }
  const nudge = (which: 0 | 1) => (e: KeyboardEvent) => {
    const by = arrows[e.key]
    if (!by) return
    e.preventDefault()
    set(which, [marks[which][0] + by[0], marks[which][1] + by[1]])
  }
  return (
    <section aria-label="A picture under the plan" className="no-print border border-rule px-3 py-2">
      <Section title="A picture under the plan">
        <p className="mb-2">
          Touch two places on it that you know. <b>Next: {ends[next]!.toLowerCase()}.</b>
        </p>
        <div className="relative w-full max-w-[44rem] cursor-crosshair" onClick={touch}>
          <img src={`data:image/jpeg;base64,${data}`} alt="The picture that was chosen" className="block w-full" draggable={false} />
          {([0, 1] as const).map((which) => (
            <button
              key={which}
              type="button"
              className="absolute size-11 -translate-1/2 rounded-full border-2 border-ink font-bold"
              style={{ left: `${marks[which][0] * 100}%`, top: `${(marks[which][1] / aspect) * 100}%` }}
              aria-label={`${ends[which]}: arrow keys move it`}
              aria-pressed={next === which}
              onClick={(e) => (e.stopPropagation(), setNext(which))}
              onKeyDown={nudge(which)}
            >
              <span aria-hidden className="absolute top-1/2 left-1/2 size-1.5 -translate-1/2 rounded-full bg-ink" />
              <span className="absolute -top-1 left-9 border border-ink bg-sheet px-1 leading-tight">{which + 1}</span>
            </button>
          ))}
        </div>
        <div className="mt-2 flex flex-wrap items-end gap-3">
          <div className="min-w-56">
            <SelectField
              label="What they are"
              value={keyOf(known)}
              options={[
                ...walls.map((w) => ({
                  value: keyOf(w),
                  label: `Ends of ${names.get(w.room.id) ?? 'a room'}, ${w.side} wall: ${formatLength(sideLength(w.room, w.side), units)}`,
                })),
                { value: 'length', label: 'A length that I type' },
              ]}
              onCommit={(v) => setKnown(walls.find((w) => keyOf(w) === v) ?? null)}
            />
          </div>
          {known === null && (
            <LengthField label="So far apart" optional placeholder="?" value={lengthM} min={0.2} max={200} onCommit={setLengthM} />
          )}
          <button type="button" className="btn btn-ink" disabled={!ready} onClick={lay}>
            Lay it under
          </button>
          <button type="button" className="btn" onClick={onDone}>
            Drop it
          </button>
          {rooms.length === 0 && <p className="text-ink-2">It shows once the first room of this storey is entered.</p>}
        </div>
        {apart < LEAST_APART && <p className="mt-1 font-bold text-error">The two places are too near to each other.</p>}
      </Section>
    </section>
  )
}
