'use client'
import { lengthFrom } from '@/core/installation/building'
import { endingsOf, whereEnding } from '@/core/design/endings'
import type { CircuitReport } from '@/core/evaluate/evaluate'
import type { Edit } from '@/core/job/edits'
import type { Circuit, Design } from '@/core/installation/installation'
import { residualTypes } from '@/core/job/fields'
import { formatSize } from '@/core/base/format'
import { celsiusFromFahrenheit, fahrenheitFromCelsius } from '@/core/base/units'
import { breakerTypes } from '@/core/region/types'
import { cableNames, methodNames } from '@/core/region/vocabulary'
import { type GuardFit, guardFits, guardsDownstream } from '@/core/design/guards'
import { CheckField, ChoiceField, SelectField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid } from '@/ui/panel'
import { useJob, useUnits } from '../sync/context'
import { LoadNameplate } from '../fields/load-fields'
import { LengthField, SmallLengthField } from '../fields/measure-fields'
import { AccessoryField } from './accessory-field'
import { FittedFields } from './site-fields'
import { worlds } from '@/core/region/worlds'

export type Part = 'breaker' | 'cable' | 'outlet' | 'cord' | 'load'
export const partNames: Record<Part, string> = {
  breaker: 'Breaker and protection',
  cable: 'Cable and its run',
  outlet: 'What the cable ends on',
  cord: 'Plug and cord',
  load: 'The load',
}

interface Fields {
  report: CircuitReport
  set: (patch: Partial<Omit<Design, 'id'>>, fit?: readonly GuardFit[]) => void
  show: (patch: Partial<Omit<Design, 'id'>>) => void
}

/** The values of the selected link, each redrawing the chain while it is typed. */
export function LinkFields({ part, report }: { part: Part; report: CircuitReport }) {
  const commit = useJob((s) => s.commit)
  const preview = useJob((s) => s.show)
  const { circuit } = report
  const edit = (patch: Partial<Omit<Design, 'id'>>, fit: readonly GuardFit[] = []): Edit => ({
    kind: 'design.set',
    circuit: circuit.id,
    design: circuit.chosen,
    patch,
    ...(fit.length ? { fit: [...fit] } : {}),
  })
  const fields: Fields = { report, set: (patch, fit) => commit(edit(patch, fit)), show: (patch) => preview(edit(patch)) }
  if (part === 'breaker') return <BreakerFields {...fields} />
  if (part === 'cable') return <CableFields {...fields} />
  if (part === 'outlet') return <OutletFields {...fields} />
  if (part === 'cord') return <CordFields {...fields} />
  return <LoadFields report={report} />
}

function BreakerFields({ report, set, show }: Fields) {
  const region = useJob((s) => s.job.region)
  const { design } = report.chosen
  const words = worlds[region].words
  return (
    <FieldGrid>
      <NumberField
        label="Minimum breaker"
        unit="A"
        optional
        value={design.wantedBreakerA}
        placeholder="as the load needs"
        onPreview={(wantedBreakerA) => show({ wantedBreakerA })}
        onCommit={(wantedBreakerA) => set({ wantedBreakerA })}
        max={1000}
      />
      {worlds[region].typedBreakers && (
        <ChoiceField
          wide={false}
          label="Type"
          value={design.breakerType}
          options={breakerTypes.map((t) => ({ value: t, label: t }))}
          onCommit={(breakerType) => set({ breakerType })}
        />
      )}
      <ChoiceField
        label={`${words.rcd} protection`}
        value={design.residual.at}
        options={[
          { value: 'none', label: 'None' },
          { value: 'board', label: `At the ${words.board}` },
          ...(guardsDownstream(report.circuit) && (design.accessories > 1 || report.circuit.points.length > 1)
            ? [{ value: 'first' as const, label: 'In the first outlet' }]
            : []),
          { value: 'outlet', label: 'At the outlet' },
        ]}
        onCommit={(at) => set({ residual: { ...design.residual, at } }, guardFits(report.circuit, design, at) ?? [])}
      />
      {design.residual.at !== 'none' && <ResidualCurrent circuit={report.circuit} design={design} set={set} />}
      {design.residual.at === 'board' && <BehindField circuit={report.circuit} />}
      {design.residual.at !== 'none' && worlds[region].typedBreakers && <ResidualType circuit={report.circuit} design={design} set={set} />}
      <NumberField
        label={worlds[region].splitPhase ? 'Interrupting rating (AIC)' : 'Breaking capacity'}
        unit="kA"
        optional
        value={design.breakingKa}
        placeholder="read it"
        min={0.5}
        max={200}
        onCommit={(breakingKa) => set({ breakingKa })}
      />
      {worlds[region].boardManner === 'rail' && design.residual.at === 'board' && (
        <p className="col-span-full text-[0.9rem] text-ink-2">
          The circuit returns on the neutral bar of that device; on any other bar the device trips.
        </p>
      )}
    </FieldGrid>
  )
}

const typeHints: Record<(typeof residualTypes)[number], string> = {
  AC: 'Type AC: a.c.',
  A: 'Type A: a.c. and pulsating d.c.',
  F: 'Type F: as A, and mixed frequencies',
  B: 'Type B: as F, and smooth d.c.',
}

/** What the residual device sees, as its mark says. */
export function ResidualType({ circuit, design, set }: OfResidual) {
  const device = useDevice(circuit, design)
  const commit = useJob((s) => s.commit)
  const mark = (type: Design['residual']['type']) =>
    device ? commit({ kind: 'residual-device.set', id: device.id, patch: { type } }) : set({ residual: { ...design.residual, type } })
  return (
    <SelectField
      label="Type marked on it"
      value={design.residual.type ?? 'unknown'}
      options={[{ value: 'unknown', label: 'Not checked' }, ...residualTypes.map((t) => ({ value: t, label: typeHints[t] }))]}
      onCommit={(type) => mark(type === 'unknown' ? null : type)}
    />
  )
}

/** What it trips at: of a listed device the device’s own figure, for all that are behind it. */
function ResidualCurrent({ circuit, design, set }: OfResidual) {
  const device = useDevice(circuit, design)
  const commit = useJob((s) => s.commit)
  const reckon = (ma: number) => set({ residual: { ...design.residual, ma } })
  return (
    <div>
      <NumberField
        label="Rated residual current"
        unit="mA"
        optional={device !== undefined}
        placeholder="not read"
        hint={device && `Of ${device.name}, for all behind it`}
        value={device ? device.tripMa : design.residual.ma}
        min={1}
        max={1000}
        onCommit={(ma) =>
          device ? commit({ kind: 'residual-device.set', id: device.id, patch: { tripMa: ma || null } }) : ma && reckon(ma)
        }
      />
      {device?.tripMa != null && device.tripMa !== design.reckonedMa && (
        <button type="button" className="btn mt-1" onClick={() => reckon(device.tripMa!)}>
          Use {device.tripMa} mA, not {design.reckonedMa}
        </button>
      )}
    </div>
  )
}

type OfResidual = Pick<Fields, 'set'> & { circuit: Circuit; design: Design }
/** The device of the board that the circuit is behind, once it is said which. */
function useDevice({ behind }: Circuit, { residual }: Design) {
  const devices = useJob((s) => s.job.residualDevices)
  return residual.at === 'board' ? devices.find((d) => d.id === behind) : undefined
}

/** Which device of the board it is behind, where the board has such devices. */
export function BehindField({ circuit }: { circuit: Circuit }) {
  const all = useJob((s) => s.job.residualDevices)
  const guards = all.filter((d) => d.board === circuit.board)
  const commit = useJob((s) => s.commit)
  if (guards.length === 0 || circuit.feeder !== null) return null
  return (
    <SelectField
      label="Protected by"
      value={circuit.behind ?? 'unknown'}
      options={[
        { value: 'unknown', label: 'Not said' },
        { value: 'own', label: 'A device of its own' },
        { value: 'none', label: 'None' },
        ...guards.map((g) => ({ value: g.id, label: `${g.name}, ${g.tripMa ?? '?'} mA` })),
      ]}
      onCommit={(residual) => commit({ kind: 'circuit.connect', circuit: circuit.id, residual })}
    />
  )
}

function CableFields({ report, set, show }: Fields) {
  const commit = useJob((s) => s.commit)
  const preview = useJob((s) => s.show)
  const ofRun = (lengthM: number): Edit => ({ kind: 'run.set', circuit: report.circuit.id, patch: { lengthM } })
  const region = useJob((s) => s.job.region)
  const units = useUnits()
  const { design } = report.chosen
  const { metric, cables, sizes: sizesOf } = worlds[region]
  const feet = units === 'imperial'
  const sizes = sizesOf(design.cable, design.conductor)
  const chooseCable = (cable: string) => {
    const methods = metric && metric.cables[cable]!.methods
    set({
      cable,
      minSize: null,
      ...(methods && !methods.includes(design.method ?? '') ? { method: methods.at(-1)!, insulationMm: 0 } : {}),
    })
  }
  const { invalid } = report.chosen
  const run = report.circuit.cables.find((k) => k.from.kind !== 'point')
  const from = run ? lengthFrom(run) : null
  const at = (path: string) => (invalid?.path === path ? invalid.message : null)
  return (
    <FieldGrid>
      <SelectField
        wide
        label="Cable"
        value={design.cable}
        options={cables.map((c) => ({ value: c, label: cableNames[c] ?? c }))}
        onCommit={chooseCable}
      />
      {report.circuit.points.length ? (
        <p className="self-end pb-1.5 text-[0.9rem]">Its lengths stand with its points.</p>
      ) : design.stretches.length ? (
        <p className="self-end pb-1.5 text-[0.9rem]">
          Its {design.stretches.length} sections are listed below the chain
          {from?.way ? ', as its route through the building gives them' : ''}.
        </p>
      ) : (
        <LengthField
          label="Length, one way"
          hint={from && (from.way ? 'from its way through the building' : 'typed; its way through the building differs')}
          value={design.lengthM}
          max={10_000}
          onPreview={(lengthM) => lengthM !== null && preview(ofRun(lengthM))}
          onCommit={(lengthM) => lengthM !== null && commit(ofRun(lengthM))}
        />
      )}
      <SelectField
        label="Smallest size"
        value={design.minSize ?? 'any'}
        options={[{ value: 'any', label: 'as the load needs' }, ...sizes.map((s) => ({ value: s, label: formatSize(s) }))]}
        onCommit={(s) => set({ minSize: s === 'any' ? null : s })}
      />
      {metric && <MethodField {...{ report, set, show }} error={at('run.method')} />}
      <NumberField
        label="Ambient temperature"
        unit={feet ? '°F' : '°C'}
        value={feet ? fahrenheitFromCelsius(design.ambientC) : design.ambientC}
        digits={1}
        min={feet ? -50 : -45}
        max={feet ? 200 : 95}
        error={at('run.ambientC')}
        onPreview={(v) => v !== null && show({ ambientC: feet ? celsiusFromFahrenheit(v) : v })}
        onCommit={(v) => v !== null && set({ ambientC: feet ? celsiusFromFahrenheit(v) : v })}
      />
      {metric === null ? (
        <>
          <NumberField
            label="Loaded conductors together"
            value={design.loadedConductors}
            whole
            min={1}
            max={100}
            onPreview={(loadedConductors) => loadedConductors && show({ loadedConductors })}
            onCommit={(loadedConductors) => loadedConductors && set({ loadedConductors })}
          />
          <ChoiceField
            wide={false}
            label="Terminals"
            value={String(design.terminalC) as '60' | '75'}
            options={[
              { value: '60', label: '60 °C' },
              { value: '75', label: '75 °C' },
            ]}
            onCommit={(c) => set({ terminalC: c === '60' ? 60 : 75 })}
          />
          <ChoiceField
            wide={false}
            label="Conductor"
            value={design.conductor}
            options={[
              { value: 'copper', label: 'Copper' },
              { value: 'aluminium', label: 'Aluminum' },
            ]}
            onCommit={(conductor) => set({ conductor, minSize: null })}
          />
        </>
      ) : (
        <NumberField
          label="Circuits grouped"
          value={design.groupedCircuits}
          whole
          min={1}
          max={100}
          error={at('run.groupedCircuits')}
          onPreview={(groupedCircuits) => groupedCircuits && show({ groupedCircuits })}
          onCommit={(groupedCircuits) => groupedCircuits && set({ groupedCircuits })}
        />
      )}
    </FieldGrid>
  )
}

function MethodField({ report, set, show, error }: Fields & { error: string | null }) {
  const { metric } = worlds[useJob((s) => s.job.region)]
  const { design } = report.chosen
  const insulation = metric?.cables[design.cable]?.data.insulation
  return (
    <>
      <SelectField
        wide
        label="How it is run"
        error={error}
        value={design.method ?? ''}
        options={(metric?.cables[design.cable]?.methods ?? []).map((m) => ({ value: m, label: methodNames[m] ?? m }))}
        onCommit={(method) => set({ method, ...(insulation && method !== insulation.method ? { insulationMm: 0 } : {}) })}
      />
      {insulation && design.method === insulation.method && (
        <SmallLengthField
          label="Length wholly in insulation"
          value={design.insulationMm}
          max={100_000}
          onPreview={(insulationMm) => insulationMm !== null && show({ insulationMm })}
          onCommit={(insulationMm) => insulationMm !== null && set({ insulationMm })}
        />
      )}
    </>
  )
}

function OutletFields({ report, set, show }: Fields) {
  const region = useJob((s) => s.job.region)
  const { design } = report.chosen
  const endings = endingsOf(report.circuit, design)
  const others = endings.filter((e) => e.fitted.id !== design.accessory)
  return (
    <FieldGrid>
      <AccessoryField label="Accessory" value={design.accessory} onCommit={(chosen) => set({ accessory: chosen?.id ?? null })} />
      {others.length > 0 && (
        <p className="col-span-full text-[0.9rem] text-ink-2">
          Elsewhere on it: {others.map((e) => `${e.fitted.name} (${whereEnding(e, endings)})`).join('; ')}. The accessory of each point is
          set under Points.
        </p>
      )}
      {report.circuit.points.length === 0 && (
        <NumberField
          label="How many on this circuit"
          value={design.accessories}
          whole
          min={1}
          max={100}
          onPreview={(accessories) => accessories && show({ accessories })}
          onCommit={(accessories) => accessories && set({ accessories })}
        />
      )}
      {worlds[region].fusedUnits && (
        <SelectField
          label="Fuse in it"
          value={design.fuseA === null ? 'none' : String(design.fuseA)}
          options={[
            { value: 'none', label: 'None, or not looked' },
            ...worlds[region].pointFusesA.map((f) => ({ value: String(f), label: `${f} A` })),
          ]}
          onCommit={(v) => set({ fuseA: v === 'none' ? null : Number(v) })}
        />
      )}
      <FittedFields value={design.fitted} onCommit={(fitted) => set({ fitted })} />
    </FieldGrid>
  )
}

function CordFields({ report, set, show }: Fields) {
  const region = useJob((s) => s.job.region)
  const { design } = report.chosen
  const sizes = worlds[region].cordSizes
  return (
    <FieldGrid>
      <CheckField
        label="There is a cord between outlet and appliance"
        value={design.cordA !== null}
        onCommit={(on) => set({ cordA: on ? 15 : null })}
      />
      {design.cordA !== null && (
        <NumberField
          label="The cord is good for"
          unit="A"
          value={design.cordA}
          min={0.5}
          max={1000}
          onPreview={(cordA) => cordA && show({ cordA })}
          onCommit={(cordA) => cordA && set({ cordA })}
          hint="The lowest of plug, cord and connector."
        />
      )}
      <CheckField
        label="Through an extension cord"
        value={design.extension !== null}
        onCommit={(on) => set({ extension: on ? { ratingA: 13, lengthM: 5, size: sizes[1]! } : null })}
      />
      {design.extension && (
        <>
          <NumberField
            label="Extension good for"
            unit="A"
            value={design.extension.ratingA}
            min={0.5}
            max={1000}
            onCommit={(ratingA) => ratingA && set({ extension: { ...design.extension!, ratingA } })}
          />
          <LengthField
            label="Its length"
            value={design.extension.lengthM}
            max={200}
            onCommit={(lengthM) => lengthM !== null && set({ extension: { ...design.extension!, lengthM } })}
          />
          <SelectField
            label="Its size"
            value={design.extension.size}
            options={sizes.map((x) => ({ value: x, label: formatSize(x) }))}
            onCommit={(size) => set({ extension: { ...design.extension!, size } })}
          />
        </>
      )}
    </FieldGrid>
  )
}

function LoadFields({ report }: { report: CircuitReport }) {
  const commit = useJob((s) => s.commit)
  const { circuit, chosen } = report
  return (
    <FieldGrid>
      <LoadNameplate />
      {chosen.design.cordA === null && circuit.load.connection === 'plug' && (
        <button
          type="button"
          className="btn col-span-full"
          onClick={() => commit({ kind: 'design.set', circuit: circuit.id, design: circuit.chosen, patch: { cordA: 15 } })}
        >
          Add its plug and cord to the chain
        </button>
      )}
    </FieldGrid>
  )
}
