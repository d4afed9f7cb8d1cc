'use client'
import clsx from 'clsx'
import { Plus, Trash2 } from 'lucide-react'
import type { Edit } from '@/core/job/edits'
import { newStretch } from '@/core/job/design'
import { runPlaces, type Stretch } from '@/core/job/cable'
import { formatA, formatLength, formatSize, type UnitSystem } from '@/core/quantity/format'
import { celsiusFromFahrenheit, fahrenheitFromCelsius } from '@/core/quantity/units'
import { metricRegions } from '@/core/region/metric'
import { methodNames } from '@/core/region/vocabulary'
import { runRules } from '@/core/rules/run'
import { NumberField, SelectField } from '@/ui/fields'
import { Section } from '@/ui/panel'
import { FindingList } from '@/ui/verdict'
import { useCircuit, useJob, useUnits } from '../job/context'
import { CircuitStage } from './circuit-stage'
import { LengthField, SmallLengthField } from '../job/measure-fields'

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

const ofTheRun = new Set([
  ...runRules.map((r) => r.id),
  'no-size-serves',
  'outside-the-tables',
  'voltage-drop-over-3-percent',
  'point-voltage-drop',
])

/** The run in its stretches: what each may carry, which one governs, and what moving it would win. */
export function RunSheet() {
  const { circuit, chosen } = useCircuit()
  const units = useUnits()
  const commit = useJob((s) => s.commit)
  const { design, stretches, governing, without, result } = chosen
  const set = (patch: Extract<Edit, { kind: 'run.set' }>['patch']) => commit({ kind: 'run.set', circuit: circuit.id, patch })
  const begin = () =>
    set({ stretches: [{ ...newStretch(design, crypto.randomUUID()), lengthM: design.lengthM, insulationMm: design.insulationMm }] })
  const add = () => set({ stretches: [...design.stretches, newStretch(design, crypto.randomUUID())] })
  const shown = stretches.length === design.stretches.length ? stretches : []
  const governs = shown.length > 1 ? design.stretches[governing] : undefined
  const total = design.stretches.reduce((sum, s) => sum + (s.lengthM ?? 0), 0)
  return (
    <CircuitStage
      tools={
        <>
          <button type="button" className="btn" onClick={design.stretches.length ? add : begin}>
            <Plus size={16} aria-hidden /> {design.stretches.length ? 'Next stretch' : 'Divide it into stretches'}
          </button>
        </>
      }
      working={
        <>
          <Section title="Which stretch decides">
            {governs && result?.size ? (
              <>
                <p>
                  <b>
                    {governing + 1}, {runPlaceNames[governs.place].toLowerCase()}
                  </b>{' '}
                  governs: there {formatSize(result.size)} carries <b>{formatA(shown[governing]!.ampacityA)}</b>.
                </p>
                <p className="mt-2">
                  {without
                    ? `Run it as the rest is run, and ${formatSize(without)} would do instead of ${formatSize(result.size)}.`
                    : 'Moving it wins no size: the other stretches, the drop or the loop ask for as much.'}
                </p>
              </>
            ) : (
              <p className="text-ink-2">
                {design.stretches.length > 1
                  ? 'Not known until every stretch has its length and the load is known.'
                  : 'With one stretch there is nothing to compare.'}
              </p>
            )}
          </Section>
          <Section title="Findings">
            <FindingList
              findings={chosen.findings.filter((f) => ofTheRun.has(f.rule))}
              empty="Nothing is wrong with the run as it is described."
            />
          </Section>
        </>
      }
    >
      {design.stretches.length === 0 ? (
        <p className="text-ink-2">
          The run is laid in one manner from end to end, as the chain says it. Divide it where part of it lies in the attic, in insulation,
          in conduit with others or in the sun: the worst stretch decides the size.
        </p>
      ) : (
        <>
          <RunBar stretches={design.stretches} report={shown} governing={governs ? governing : -1} units={units} />
          <ol className="border-t border-rule">
            {design.stretches.map((s, i) => (
              <SegmentRow
                key={s.id}
                segment={s}
                index={i}
                carries={shown[i]?.ampacityA ?? null}
                asks={shown[i]?.size ?? null}
                governs={governs?.id === s.id}
                change={(patch) => set({ stretches: design.stretches.map((x) => (x.id === s.id ? { ...x, ...patch } : x)) })}
                remove={() =>
                  set({
                    stretches: design.stretches.filter((x) => x.id !== s.id),
                    ...(design.stretches.length === 1 ? { lengthM: s.lengthM } : {}),
                  })
                }
              />
            ))}
          </ol>
          <p>
            In all <b>{formatLength(total, units)}</b>.
          </p>
        </>
      )}
    </CircuitStage>
  )
}

/** The run to scale, each stretch as high as what it carries. */
function RunBar({
  stretches,
  report,
  governing,
  units,
}: {
  stretches: readonly Stretch[]
  report: readonly { ampacityA: number }[]
  governing: number
  units: UnitSystem
}) {
  const total = stretches.reduce((sum, s) => sum + (s.lengthM ?? 0), 0)
  const most = Math.max(1, ...report.map((r) => r.ampacityA))
  if (total === 0) return null
  return (
    <div className="flex h-44 items-end border-b-2 border-ink" role="img" aria-label="What each stretch carries, along the run">
      {stretches.map((s, i) => (
        <div key={s.id} className="min-w-10 px-px text-center" style={{ flexGrow: Math.max(s.lengthM ?? 0, total / 40), flexBasis: 0 }}>
          <p className="truncate font-bold">{report[i] ? formatA(report[i].ampacityA) : '?'}</p>
          <div
            className={clsx('border-ink bg-wash', i === governing ? 'border-4' : 'border')}
            style={{ height: `${report[i] ? (90 * report[i].ampacityA) / most : 30}px` }}
          />
          <p className="truncate text-[0.85rem]">
            {i + 1}
            {s.lengthM !== null && `, ${formatLength(s.lengthM, units)}`}
          </p>
        </div>
      ))}
    </div>
  )
}

function SegmentRow({
  segment: s,
  index,
  carries,
  asks,
  governs,
  change,
  remove,
}: {
  segment: Stretch
  index: number
  carries: number | null
  asks: string | null
  governs: boolean
  change: (patch: Partial<Stretch>) => void
  remove: () => void
}) {
  const region = useJob((r) => r.job.region)
  const { chosen } = useCircuit()
  const fahrenheit = useUnits() === 'imperial'
  const methods = region === 'north-america' ? [] : (metricRegions[region].cables[chosen.design.cable]?.methods ?? [])
  return (
    <li className={clsx('border-b border-rule py-2', governs && 'border-l-4 border-l-ink pl-2')}>
      <div className="flex items-center gap-2">
        <b>
          {index + 1}
          {governs && ', governs'}
        </b>
        <span className="flex-1 text-ink-2">
          {carries !== null && `carries ${formatA(carries)}${asks ? `, alone asks for ${formatSize(asks)}` : ''}`}
        </span>
        <button
          type="button"
          className="btn no-print px-2"
          aria-label={`Remove stretch ${index + 1}`}
          title="Undo brings it back"
          onClick={remove}
        >
          <Trash2 size={15} aria-hidden />
        </button>
      </div>
      <div className="grid grid-cols-4 gap-x-3 gap-y-2 max-md:grid-cols-2">
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
        {region === 'north-america' ? (
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
          <div className="col-span-2">
            <SelectField
              label="How it is run"
              value={s.method ?? ''}
              options={methods.map((m) => ({ value: m, label: methodNames[m] ?? m }))}
              onCommit={(method) => change({ method, ...(method === 'clipped-direct' ? {} : { insulationMm: 0 }) })}
            />
          </div>
        )}
        {region === 'united-kingdom' && s.method === 'clipped-direct' && (
          <SmallLengthField
            label="Wholly in insulation"
            value={s.insulationMm}
            max={100_000}
            onCommit={(v) => v !== null && change({ insulationMm: v })}
          />
        )}
      </div>
    </li>
  )
}
