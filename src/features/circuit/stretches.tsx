'use client'
import clsx from 'clsx'
import { Plus, Trash2 } from 'lucide-react'
import type { Edit } from '@/core/job/edits'
import { newStretch } from '@/core/job/design'
import { type Cable, cableM, runPlaces, type Stretch } from '@/core/job/cable'
import { cableName, runPlaceNames, stretchName } from '@/core/design/stretch-names'
import type { SegmentReport } from '@/core/design/work'
import type { CircuitReport } from '@/core/evaluate/evaluate'
import type { LaidStretch } from '@/core/installation/installation'
import { sentence } from '@/core/job/part'
import { formatA, formatLength, formatSize, type UnitSystem } from '@/core/base/format'
import { celsiusFromFahrenheit, fahrenheitFromCelsius } from '@/core/base/units'
import { methodNames } from '@/core/region/vocabulary'
import { SelectField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section } from '@/ui/panel'
import { useCircuit, useJob, useUnits } from '../sync/context'
import { LengthField, SmallLengthField } from '../fields/measure-fields'
import { worlds } from '@/core/region/worlds'

/** What names a stretch among those of all cables of its circuit. */
export const stretchKey = ({ cable, id }: LaidStretch): string => `${cable} ${id}`

/** A cable in its stretches, with what is known of each. */
interface Divided {
  readonly cable: Cable
  /** Which it is; null for the one run of one load. */
  readonly name: string | null
  readonly parts: readonly { readonly stretch: LaidStretch; readonly report: SegmentReport | undefined; readonly governs: boolean }[]
}

function dividedOf({ circuit, chosen }: CircuitReport): Divided[] {
  const { design, stretches, governing } = chosen
  const reportOf = (s: LaidStretch) => stretches.findIndex(({ conditions: c }) => c.cable === s.cable && c.segment === s.id)
  return circuit.cables.flatMap((cable) => {
    const parts = design.stretches
      .filter((s) => s.cable === cable.id)
      .map((stretch) => {
        const at = reportOf(stretch)
        return { stretch, report: stretches[at], governs: stretches.length > 1 && at === governing }
      })
    return parts.length > 0 ? [{ cable, name: cableName(circuit, cable), parts }] : []
  })
}

/** Each divided cable in its stretches: as long and as high as what it carries; the one that governs, and what moving it would win. */
export function StretchesAlong({ picked, onPick }: { picked: string | null; onPick: (key: string) => void }) {
  const report = useCircuit()
  const units = useUnits()
  const commit = useJob((s) => s.commit)
  const { circuit, chosen } = report
  const { design, stretches, governing, without, result } = chosen
  const divided = dividedOf(report)
  const decides = divided.find((d) => d.parts.some((p) => p.governs))
  if (divided.length === 0) return null
  const shown = divided.find((d) => d.parts.some((p) => stretchKey(p.stretch) === picked)) ?? decides ?? divided[0]!
  const most = Math.max(1, ...stretches.map((s) => s.ampacityA))
  const governs = stretches.length > 1 ? stretches[governing] : undefined
  const size = result?.size ? formatSize(result.size) : null
  const add = ({ cable }: Divided) => {
    const next = newStretch(design, crypto.randomUUID())
    commit({ kind: 'cable.set', id: cable.id, patch: { stretches: [...cable.stretches, next] } })
    onPick(stretchKey({ ...next, cable: cable.id }))
  }
  return (
    <section aria-label="Sections of the cable">
      <div className="flex flex-wrap items-center gap-2 border-b border-rule pb-1">
        <h2 className="mr-2 text-[1rem]">Sections of the cable</h2>
        <button type="button" className="btn no-print" onClick={() => add(shown)}>
          <Plus size={16} aria-hidden /> Next section{shown.name === null ? '' : ` ${shown.name}`}
        </button>
        {shown.name === null && <InAll cable={shown.cable} units={units} />}
      </div>
      <ul>
        {divided.map((d) => (
          <li key={d.cable.id}>
            {d.name !== null && (
              <CableRow divided={d} open={d === shown} units={units} onOpen={() => onPick(stretchKey(d.parts[0]!.stretch))} />
            )}
            {d === shown && <StretchBar {...{ picked, onPick, most, units }} divided={d} />}
          </li>
        ))}
      </ul>
      <p className="mt-1">
        {governs && size ? (
          <>
            <b>{governingWords(report, decides)}</b> governs: there {size} carries <b>{formatA(governs.ampacityA)}</b>.{' '}
            {without
              ? `Run it as the rest is run, and ${formatSize(without)} would do instead of ${size}.`
              : 'Moving it does not reduce the size: another section, voltage drop or loop impedance needs as much.'}
          </>
        ) : (
          circuit.points.length === 0 &&
          design.stretches.length > 1 &&
          'Which one governs is known once every section has its length and the load is known.'
        )}
      </p>
    </section>
  )
}

/** "2, in the attic, to the stage", or what lies in one manner. */
function governingWords({ circuit, chosen }: CircuitReport, decides: Divided | undefined): string {
  const words = stretchName(circuit, chosen.design, chosen.stretches[chosen.governing]!.conditions)
  const at = decides?.parts.findIndex((p) => p.governs) ?? -1
  return at < 0 ? sentence(words) : `${at + 1}, ${words}`
}

function InAll({ cable, units }: { cable: Cable; units: UnitSystem }) {
  const m = cableM(cable)
  return (
    <p className="text-ink-2">
      {m === null ? (
        'A length is not known.'
      ) : (
        <>
          In all <b>{formatLength(m, units)}</b>.
        </>
      )}
    </p>
  )
}

/** One of several divided cables in a line: how long, in how many stretches, and the least it carries. */
function CableRow({ divided, open, units, onOpen }: { divided: Divided; open: boolean; units: UnitSystem; onOpen: () => void }) {
  const { cable, name, parts } = divided
  const m = cableM(cable)
  const carried = parts.flatMap((p) => (p.report ? [p.report.ampacityA] : []))
  return (
    <button
      type="button"
      aria-expanded={open}
      className="flex min-h-11 w-full flex-wrap items-center gap-x-3 border-b border-rule text-left hover:bg-wash"
      onClick={onOpen}
    >
      <b>Cable {name}</b>
      <span>
        {m === null ? 'length ?' : formatLength(m, units)} in {parts.length} {parts.length === 1 ? 'section' : 'sections'}
      </span>
      <span className="ml-auto">
        {carried.length < parts.length ? '?' : `${formatA(Math.min(...carried))} at the least`}
        {parts.some((p) => p.governs) && ', governs'}
      </span>
    </button>
  )
}

/** How long a divided cable is, and the way to its stretches. */
export function CableInStretches({ cable, onPick }: { cable: Cable; onPick: (key: string) => void }) {
  const units = useUnits()
  const m = cableM(cable)
  return (
    <div>
      <p className="text-[0.9rem] text-ink-2">Cable from there</p>
      <button type="button" className="tap text-left" onClick={() => onPick(stretchKey({ ...cable.stretches[0]!, cable: cable.id }))}>
        <b>{m === null ? '?' : formatLength(m, units)}</b> in{' '}
        {cable.stretches.length === 1 ? 'one section' : `${cable.stretches.length} sections`}
      </button>
    </div>
  )
}

/** A cable laid in one manner is divided where part of it lies in the attic, in insulation, in conduit with others or in the sun. */
export function DivideIt({ cable, onPick }: { cable: Cable | undefined; onPick: (key: string) => void }) {
  const { chosen } = useCircuit()
  const commit = useJob((s) => s.commit)
  const { design } = chosen
  if (!cable || cable.stretches.length > 0) return null
  const begin = () => {
    const first = { ...newStretch(design, crypto.randomUUID()), lengthM: cable.lengthM, insulationMm: design.insulationMm }
    commit({ kind: 'cable.set', id: cable.id, patch: { stretches: [first], lengthM: null } })
    onPick(stretchKey({ ...first, cable: cable.id }))
  }
  return (
    <button
      type="button"
      className="btn no-print mt-3"
      title="Where part of it lies in the attic, in insulation, in conduit with others or in the sun: the worst section decides the size"
      onClick={begin}
    >
      <Plus size={16} aria-hidden /> Divide into sections
    </button>
  )
}

/** A cable to scale, each stretch as high as what it carries; one is picked to change it. */
function StretchBar({
  divided: { parts, name },
  most,
  units,
  picked,
  onPick,
}: {
  divided: Divided
  most: number
  units: UnitSystem
  picked: string | null
  onPick: (key: string) => void
}) {
  const total = parts.reduce((sum, { stretch }) => sum + (stretch.lengthM ?? 0), 0)
  return (
    <div
      className="flex h-44 items-end overflow-x-auto border-b-2 border-ink"
      role="group"
      aria-label={`What each section${name === null ? '' : ` ${name}`} carries`}
    >
      {parts.map(({ stretch: s, report, governs }, i) => (
        <button
          key={s.id}
          type="button"
          aria-pressed={stretchKey(s) === picked}
          data-opens
          className={clsx('min-w-24 px-px text-center hover:bg-wash', stretchKey(s) === picked && 'bg-wash')}
          style={{ flexGrow: Math.max(s.lengthM ?? 0, total / 40), flexBasis: 0 }}
          onClick={() => onPick(stretchKey(s))}
        >
          <span className="block truncate font-bold">{report ? formatA(report.ampacityA) : '?'}</span>
          <span
            className={clsx('block border-ink bg-wash', governs ? 'border-4' : 'border')}
            style={{ height: `${report ? (72 * report.ampacityA) / most : 30}px` }}
          />
          <span className="block truncate text-[0.85rem]">
            {i + 1}, {runPlaceNames[s.place].toLowerCase()}
          </span>
          <span className="block truncate text-[0.85rem]">{s.lengthM === null ? 'length ?' : formatLength(s.lengthM, units)}</span>
        </button>
      ))}
    </div>
  )
}

/** One stretch: where it lies and how it is run there. */
export function StretchFields({ stretch: s, onGone }: { stretch: LaidStretch; onGone: () => void }) {
  const report = useCircuit()
  const region = useJob((r) => r.job.region)
  const commit = useJob((r) => r.commit)
  const fahrenheit = useUnits() === 'imperial'
  const { design } = report.chosen
  const divided = dividedOf(report).find((d) => d.cable.id === s.cable)!
  const { cable, name, parts } = divided
  const index = parts.findIndex((p) => p.stretch.id === s.id)
  const { report: own, governs } = parts[index]!
  const set = (patch: Extract<Edit, { kind: 'cable.set' }>['patch']) => commit({ kind: 'cable.set', id: cable.id, patch })
  const change = (patch: Partial<Stretch>) => set({ stretches: cable.stretches.map((x) => (x.id === s.id ? { ...x, ...patch } : x)) })
  const remove = () => {
    const last = cable.stretches.length === 1
    set({ stretches: cable.stretches.filter((x) => x.id !== s.id), ...(last ? { lengthM: cableM(cable) } : {}) })
    onGone()
  }
  const methods = worlds[region].metric?.cables[design.cable]?.methods ?? []
  return (
    <Section title={`Section ${index + 1}${name === null ? '' : ` ${name}`}${governs ? ', governs' : ''}`}>
      {own && (
        <p className="mb-2 text-ink-2">
          Carries {formatA(own.ampacityA)}
          {own.size && `, alone asks for ${formatSize(own.size)}`}.
        </p>
      )}
      <FieldGrid>
        <SelectField
          label="Where"
          value={s.place}
          options={runPlaces.map((p) => ({ value: p, label: runPlaceNames[p] }))}
          onCommit={(place) => change({ place })}
        />
        <LengthField label="Length" optional placeholder="?" value={s.lengthM} max={10_000} onCommit={(lengthM) => change({ lengthM })} />
        <NumberField
          label="Ambient temperature"
          unit={fahrenheit ? '°F' : '°C'}
          digits={1}
          min={-50}
          max={fahrenheit ? 200 : 95}
          value={fahrenheit ? fahrenheitFromCelsius(s.ambientC) : s.ambientC}
          onCommit={(v) => v !== null && change({ ambientC: fahrenheit ? celsiusFromFahrenheit(v) : v })}
        />
        {worlds[region].metric === null ? (
          <NumberField
            label="Loaded conductors"
            whole
            min={1}
            max={100}
            value={s.loadedConductors}
            onCommit={(v) => v && change({ loadedConductors: v })}
          />
        ) : (
          <NumberField
            label="Circuits grouped"
            whole
            min={1}
            max={100}
            value={s.groupedCircuits}
            onCommit={(v) => v && change({ groupedCircuits: v })}
          />
        )}
        {methods.length > 0 && (
          <SelectField
            label="How it is run"
            wide
            value={s.method ?? ''}
            options={methods.map((m) => ({ value: m, label: methodNames[m] ?? m }))}
            onCommit={(method) => change({ method, ...(method === 'clipped-direct' ? {} : { insulationMm: 0 }) })}
          />
        )}
        {s.method !== null && s.method === worlds[region].metric?.cables[design.cable]?.data.insulation?.method && (
          <SmallLengthField
            label="Wholly in insulation"
            value={s.insulationMm}
            max={100_000}
            onCommit={(v) => v !== null && change({ insulationMm: v })}
          />
        )}
      </FieldGrid>
      <button type="button" className="btn no-print mt-3" title="Undo brings it back" onClick={remove}>
        <Trash2 size={15} aria-hidden /> Remove section {index + 1}
      </button>
    </Section>
  )
}
