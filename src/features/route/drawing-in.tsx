'use client'
import { Upload } from 'lucide-react'
import { useMemo, useRef, useState } from 'react'
import { type DxfLines, type DxfRead, MOST_BYTES } from '@/core/building/dxf-lines'
import { asEntered, type FromLines, type Line, roomsFromLines } from '@/core/building/from-lines'
import { type BuildingInput, placed } from '@/core/building/house'
import { noWay, planDrawing } from '@/core/drawing/plan'
import { sentence } from '@/core/job/part'
import { FittingDrawing } from '@/ui/drawing'
import { SelectField, TextField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid } from '@/ui/panel'
import { useWorker } from '@/ui/use-worker'
import { useJob, useUnits } from '../sync/context'
import { LengthField } from '../fields/measure-fields'
import { bare } from './plan-view'
import { sideWords } from './side-words'
import type { useBuilding } from './use-building'

const begin = () => new Worker(new URL('../../workers/dxf.ts', import.meta.url), { type: 'module' })
const notHere = (): DxfRead => ({ wrong: 'It could not be read: the page has not all it needs for that while it has no connection.' })

const units = [
  { value: '0.001', label: 'millimetres' },
  { value: '0.01', label: 'centimetres' },
  { value: '1', label: 'metres' },
  { value: '0.0254', label: 'inches' },
  { value: '0.3048', label: 'feet' },
] as const

/** Rooms out of somebody's drawing: the file, what is made out in it, and what is taken of that. */
export function DrawingIn({ building }: { building: ReturnType<typeof useBuilding> }) {
  const picker = useRef<HTMLInputElement>(null)
  const [file, setFile] = useState<{ readonly name: string; readonly text: string } | null>(null)
  const [wrong, setWrong] = useState('')
  const { answer, thinking } = useWorker(begin, file?.text ?? null, notHere)
  const open = async (chosen: File | undefined) => {
    if (!chosen) return
    setWrong('')
    if (chosen.size > MOST_BYTES) return setWrong(`${chosen.name} is larger than 10 MB: leave out of the drawing what is not walls.`)
    setFile({ name: chosen.name, text: await chosen.text() })
  }
  const drop = () => setFile(null)
  return (
    <div className="no-print">
      {!file && (
        <button type="button" className="btn" onClick={() => picker.current?.click()}>
          <Upload size={16} aria-hidden /> Rooms from a DXF drawing
        </button>
      )}
      <input
        ref={picker}
        type="file"
        accept=".dxf"
        className="hidden"
        aria-label="DXF drawing"
        onChange={(e) => (void open(e.target.files?.[0]), (e.target.value = ''))}
      />
      {wrong && (
        <p role="alert" className="mt-1 font-bold text-error">
          {wrong}
        </p>
      )}
      {file && (
        <section className="border border-rule px-3 py-2" aria-label="Rooms from a drawing">
          <div className="flex items-center gap-2">
            <h3 className="min-w-0 flex-1 truncate font-bold">{file.name}</h3>
            <button type="button" className="btn" onClick={drop}>
              Drop it
            </button>
          </div>
          {thinking || !answer ? (
            <p aria-live="polite">Reading…</p>
          ) : 'wrong' in answer ? (
            <p role="alert" className="font-bold text-error">
              {answer.wrong} Nothing was changed.
            </p>
          ) : (
            <Preview key={file.name} read={answer} building={building} onDone={drop} />
          )}
        </section>
      )}
    </div>
  )
}

const plural = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : 's'}`
/** What is left out, and what was done to the rest, in words. */
const leftWords = (read: DxfLines, found: FromLines): string =>
  [
    ...(found.doorways ? [`${plural(found.doorways, 'doorway')} closed`] : []),
    ...(found.turned ? [`turned by ${found.turned}°`] : []),
    ...(found.jagged ? [`left out: ${plural(found.jagged, 'place')} of too many corners`] : []),
    ...(found.loose ? [`left out: ${plural(found.loose, 'thing')} that ${found.loose === 1 ? 'stands' : 'stand'} in a room`] : []),
    ...(found.askew ? [`left out: ${plural(found.askew, 'line')} askew`] : []),
    ...read.leftOut.map(([kind, n]) => `left out: ${plural(n, kind)}`),
  ].join('; ')

/** The rooms that were found, laid out as they would be entered, under numbers. */
function laidOut(found: FromLines): { readonly input: BuildingInput; readonly rooms: ReturnType<typeof placed> } {
  const input: BuildingInput = {
    ...bare,
    rooms: asEntered(found.rooms).map(({ found: n, beside, ...size }) => ({
      id: String(n),
      floor: 0,
      heightM: 2.4,
      ...size,
      ...(beside ? { beside: { ...beside, room: String(beside.room) } } : {}),
    })),
  }
  return { input, rooms: input.rooms.length ? placed(input) : [] }
}

function Preview({ read, building, onDone }: { read: DxfLines; building: ReturnType<typeof useBuilding>; onDone: () => void }) {
  const shownIn = useUnits()
  const commit = useJob((s) => s.commit)
  const [unit, setUnit] = useState(read.unitM === null ? '' : String(read.unitM))
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set())
  const [names, setNames] = useState<Readonly<Record<number, string>>>({})
  const [heightM, setHeight] = useState<number | null>(null)
  const [floor, setFloor] = useState(0)
  const measured = building.job.rooms.filter((r) => r.measured)
  const [by, setBy] = useState(measured.at(-1)?.id ?? '')
  const [side, setSide] = useState<keyof typeof sideWords>('east')
  const lines = useMemo(() => {
    const m = Number(unit)
    if (!m) return null
    const at = ([x, y]: Line['a']): Line['a'] => [x * m, y * m]
    return read.layers.flatMap((l) => (left.has(l.name) ? [] : l.lines.map(({ a, b }) => ({ a: at(a), b: at(b) }))))
  }, [read, unit, left])
  const { answer: found, thinking } = useWorker<readonly Line[], FromLines>(begin, lines, roomsFromLines)
  const taken = new Set(building.job.rooms.map((r) => r.name))
  const nameOf = (i: number): string => {
    if (names[i] !== undefined) return names[i]
    for (let n = i + 1; ; n++) if (!taken.has(`Room ${n}`)) return `Room ${n}`
  }
  const all = found?.rooms.map((_, i) => nameOf(i).trim()) ?? []
  const twice = all.find((n, i) => n === '' || taken.has(n) || all.indexOf(n) !== i)
  const ready = found !== null && !thinking && found.rooms.length > 0 && heightM !== null && twice === undefined
  const take = () => {
    if (!ready) return
    const ids = found.rooms.map(() => crypto.randomUUID())
    commit({
      kind: 'room.draw',
      rooms: asEntered(found.rooms).map(({ found: n, beside, lengthM, widthM }) => ({
        id: ids[n]!,
        name: all[n]!,
        floor,
        measured: {
          lengthM,
          widthM,
          heightM,
          beside: beside
            ? { ...beside, room: ids[beside.room]! }
            : measured.some((r) => r.id === by)
              ? { room: by, side, shiftM: 0, northM: 0 }
              : null,
        },
      })),
    })
    onDone()
  }
  const laid = useMemo(() => (found ? laidOut(found) : null), [found])
  const told = new Map(all.map((n, i) => [String(i), n]))
  return (
    <div className="mt-2 flex flex-col gap-3">
      <FieldGrid>
        <SelectField label="It is drawn in" value={unit} placeholder="The drawing does not say" options={units} onCommit={setUnit} />
        <LengthField label="Height of the rooms" optional placeholder="?" value={heightM} min={0.5} max={20} onCommit={setHeight} />
        <NumberField
          label="Floor"
          hint="0 is the ground"
          value={floor}
          whole
          min={-3}
          max={20}
          onCommit={(f) => f !== null && setFloor(f)}
        />
        {measured.length > 0 && (
          <>
            <SelectField
              label="The largest lies"
              value={side}
              options={Object.entries(sideWords).map(([value, label]) => ({ value: value as keyof typeof sideWords, label }))}
              onCommit={setSide}
            />
            <SelectField label="which room" value={by} options={measured.map((r) => ({ value: r.id, label: r.name }))} onCommit={setBy} />
          </>
        )}
      </FieldGrid>
      {read.layers.length > 1 && (
        <fieldset>
          <legend className="text-[0.9rem] text-ink-2">Layers that are walls</legend>
          <div className="flex max-h-40 flex-wrap gap-x-4 overflow-y-auto">
            {read.layers.map((l) => (
              <label key={l.name} className="tap flex items-center gap-2">
                <input
                  type="checkbox"
                  className="size-5 accent-[var(--ink)]"
                  checked={!left.has(l.name)}
                  onChange={(e) => setLeft(new Set(e.target.checked ? [...left].filter((n) => n !== l.name) : [...left, l.name]))}
                />
                <span>
                  {l.name} ({plural(l.lines.length, 'line')})
                </span>
              </label>
            ))}
          </div>
        </fieldset>
      )}
      {!found ? (
        <p aria-live="polite">{lines ? 'Rooms are being made out…' : 'Choose its unit: the drawing does not give one.'}</p>
      ) : (
        <>
          {found.wrong && (
            <p role="alert" className="font-bold text-error">
              {found.wrong}
            </p>
          )}
          {laid && laid.rooms.length > 0 && (
            <FittingDrawing
              draw={(format) =>
                planDrawing({ view: 'plan', floor: 0, ...laid, names: told, ...noWay, region: building.job.region, units: shownIn, format })
              }
              className="w-full max-w-[48rem]"
            />
          )}
          <p className="text-[0.9rem] text-ink-2">
            {sentence(leftWords(read, found) || 'nothing was left out')}. Walls have no thickness here: rooms are as wide as they were drawn
            inside.
          </p>
          {found.rooms.length > 0 && (
            <FieldGrid>
              {found.rooms.map((r, i) => (
                <TextField
                  key={i}
                  label={r.openTo === null ? `Name of ${i + 1}` : `Name of ${i + 1}, open to ${r.openTo + 1}`}
                  value={nameOf(i)}
                  onCommit={(v) => setNames({ ...names, [i]: v.slice(0, 120) })}
                />
              ))}
            </FieldGrid>
          )}
          {twice !== undefined && (
            <p className="font-bold text-error">{twice === '' ? 'Each room needs a name.' : `There is a room called ${twice} already.`}</p>
          )}
          {found.rooms.length > 0 && heightM === null && <p>How high are the rooms? The drawing does not say.</p>}
          <button type="button" className="btn btn-ink self-start" disabled={!ready} onClick={take}>
            Take {plural(found.rooms.length, 'room')}
          </button>
        </>
      )}
    </div>
  )
}
