'use client'
import clsx from 'clsx'
import { Plus, Trash2 } from 'lucide-react'
import type { Edit } from '@/core/job/edits'
import { newStretch } from '@/core/job/design'
import { runPlaces, type Stretch } from '@/core/job/cable'
import { formatA, formatLength, formatSize, type UnitSystem } from '@/core/quantity/format'
import { celsiusFromFahrenheit, fahrenheitFromCelsius } from '@/core/quantity/units'
import { methodNames } from '@/core/region/vocabulary'
import { SelectField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section } from '@/ui/panel'
import { useCircuit, useJob, useUnits } from '../job/context'
import { LengthField, SmallLengthField } from '../job/measure-fields'
import { worlds } from '@/core/region/worlds'

export const runPlaceNames: Record<(typeof runPlaces)[number], string> = {
  surface: 'Along a wall, clipped',
  wall: 'In a wall',
  insulation: 'In insulation',
  attic: 'In the attic',
  underfloor: 'Under the floor',
  conduit: 'In conduit with others',
  buried: 'Buried',
  outdoors: 'Outdoors',
}

/** The cable in its stretches: each as long and as high as what it carries; the one that governs, and what moving it would win. */
export function StretchesAlong({ picked, onPick }: { picked: string | null; onPick: (id: string) => void }) {
  const { circuit, chosen } = useCircuit()
  const units = useUnits()
  const commit = useJob((s) => s.commit)
  const { design, stretches, governing, without, result } = chosen
  if (design.stretches.length === 0) return null
  const shown = stretches.length === design.stretches.length ? stretches : []
  const governs = shown.length > 1 ? design.stretches[governing] : undefined
  const total = design.stretches.reduce((sum, s) => sum + (s.lengthM ?? 0), 0)
  const add = () => {
    const next = newStretch(design, crypto.randomUUID())
    commit({ kind: 'run.set', circuit: circuit.id, patch: { stretches: [...design.stretches, next] } })
    onPick(next.id)
  }
  return (
    <section aria-label="Stretches of the cable">
      <div className="flex flex-wrap items-center gap-2 border-b border-rule pb-1">
        <h2 className="mr-2 text-[1rem]">Stretches of the cable</h2>
        <button type="button" className="btn no-print" onClick={add}>
          <Plus size={16} aria-hidden /> Next stretch
        </button>
        <p className="text-ink-2">
          In all <b>{formatLength(total, units)}</b>.
        </p>
      </div>
      <StretchBar
        stretches={design.stretches}
        report={shown}
        governing={governs ? governing : -1}
        units={units}
        picked={picked}
        onPick={onPick}
      />
      <p className="mt-1">
        {governs && result?.size ? (
          <>
            <b>
              {governing + 1}, {runPlaceNames[governs.place].toLowerCase()}
            </b>{' '}
            governs: there {formatSize(result.size)} carries <b>{formatA(shown[governing]!.ampacityA)}</b>.{' '}
            {without
              ? `Run it as the rest is run, and ${formatSize(without)} would do instead of ${formatSize(result.size)}.`
              : 'Moving it wins no size: the other stretches, the drop or the loop ask for as much.'}
          </>
        ) : (
          design.stretches.length > 1 && 'Which one governs is known once every stretch has its length and the load is known.'
        )}
      </p>
    </section>
  )
}

/** The cable laid in one manner is divided where part of it lies in the attic, in insulation, in conduit with others or in the sun. */
export function DivideIt({ onPick }: { onPick: (id: string) => void }) {
  const { circuit, chosen } = useCircuit()
  const commit = useJob((s) => s.commit)
  const { design } = chosen
  if (design.stretches.length > 0) return null
  const begin = () => {
    const first = { ...newStretch(design, crypto.randomUUID()), lengthM: design.lengthM, insulationMm: design.insulationMm }
    commit({ kind: 'run.set', circuit: circuit.id, patch: { stretches: [first] } })
    onPick(first.id)
  }
  return (
    <button
      type="button"
      className="btn no-print mt-3"
      title="Where part of it lies in the attic, in insulation, in conduit with others or in the sun: the worst stretch decides the size"
      onClick={begin}
    >
      <Plus size={16} aria-hidden /> Divide it into stretches
    </button>
  )
}

/** The cable to scale, each stretch as high as what it carries; one is picked to change it. */
function StretchBar({
  stretches,
  report,
  governing,
  units,
  picked,
  onPick,
}: {
  stretches: readonly Stretch[]
  report: readonly { ampacityA: number }[]
  governing: number
  units: UnitSystem
  picked: string | null
  onPick: (id: string) => void
}) {
  const total = stretches.reduce((sum, s) => sum + (s.lengthM ?? 0), 0)
  const most = Math.max(1, ...report.map((r) => r.ampacityA))
  return (
    <div className="flex h-44 items-end overflow-x-auto border-b-2 border-ink" role="group" aria-label="What each stretch carries">
      {stretches.map((s, i) => (
        <button
          key={s.id}
          type="button"
          aria-pressed={s.id === picked}
          data-opens
          className={clsx('min-w-24 px-px text-center hover:bg-wash', s.id === picked && 'bg-wash')}
          style={{ flexGrow: Math.max(s.lengthM ?? 0, total / 40), flexBasis: 0 }}
          onClick={() => onPick(s.id)}
        >
          <span className="block truncate font-bold">{report[i] ? formatA(report[i].ampacityA) : '?'}</span>
          <span
            className={clsx('block border-ink bg-wash', i === governing ? 'border-4' : 'border')}
            style={{ height: `${report[i] ? (72 * report[i].ampacityA) / most : 30}px` }}
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
export function StretchFields({ stretch: s, onGone }: { stretch: Stretch; onGone: () => void }) {
  const { circuit, chosen } = useCircuit()
  const region = useJob((r) => r.job.region)
  const commit = useJob((r) => r.commit)
  const fahrenheit = useUnits() === 'imperial'
  const { design, stretches, governing } = chosen
  const index = design.stretches.findIndex((x) => x.id === s.id)
  const report = stretches.length === design.stretches.length ? stretches[index] : undefined
  const governs = stretches.length > 1 && index === governing
  const set = (patch: Extract<Edit, { kind: 'run.set' }>['patch']) => commit({ kind: 'run.set', circuit: circuit.id, patch })
  const change = (patch: Partial<Stretch>) => set({ stretches: design.stretches.map((x) => (x.id === s.id ? { ...x, ...patch } : x)) })
  const remove = () => {
    set({
      stretches: design.stretches.filter((x) => x.id !== s.id),
      ...(design.stretches.length === 1 ? { lengthM: s.lengthM } : {}),
    })
    onGone()
  }
  const methods = worlds[region].metric?.cables[design.cable]?.methods ?? []
  return (
    <Section title={`Stretch ${index + 1}${governs ? ', governs' : ''}`}>
      {report && (
        <p className="mb-2 text-ink-2">
          Carries {formatA(report.ampacityA)}
          {report.size && `, alone asks for ${formatSize(report.size)}`}.
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
          label="Warmest ambient"
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
            label="Circuits bunched"
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
        <Trash2 size={15} aria-hidden /> Remove stretch {index + 1}
      </button>
    </Section>
  )
}
