'use client'
import { accessoriesFor } from '@/core/catalogue/accessories'
import type { CircuitReport } from '@/core/evaluate'
import type { Edit } from '@/core/job/edits'
import type { Design, Load } from '@/core/job/schema'
import { formatSize } from '@/core/quantity/format'
import { celsiusFromFahrenheit, fahrenheitFromCelsius, feetFromMetres, inchesFromMillimetres, metresFromFeet, millimetresFromInches } from '@/core/quantity/units'
import { metricRegions } from '@/core/region/metric'
import { naCables, naCableSizes } from '@/core/region/north-america'
import { breakerTypes, type MetricRegionId } from '@/core/region/types'
import { cableNames, methodNames, vocabularies } from '@/core/region/vocabulary'
import { CheckField, ChoiceField, NumberField, SelectField } from '@/ui/fields'
import { FieldGrid } from '@/ui/panel'
import { useJob, useUnits } from '../job/context'

export type Part = 'breaker' | 'cable' | 'outlet' | 'cord' | 'load'
export const partNames: Record<Part, string> = { breaker: 'Breaker and protection', cable: 'Cable and its run', outlet: 'What the cable ends on', cord: 'Plug and cord', load: 'The load' }

interface Fields {
  report: CircuitReport
  set: (patch: Partial<Omit<Design, 'id'>>) => void
  show: (patch: Partial<Omit<Design, 'id'>>) => void
}

/** The values of the selected link, each redrawing the chain while it is typed. */
export function LinkFields({ part, report }: { part: Part; report: CircuitReport }) {
  const commit = useJob((s) => s.commit)
  const preview = useJob((s) => s.show)
  const { circuit } = report
  const edit = (patch: Partial<Omit<Design, 'id'>>): Edit => ({ kind: 'design.set', circuit: circuit.id, design: circuit.chosen, patch })
  const fields: Fields = { report, set: (patch) => commit(edit(patch)), show: (patch) => preview(edit(patch)) }
  if (part === 'breaker') return <BreakerFields {...fields} />
  if (part === 'cable') return <CableFields {...fields} />
  if (part === 'outlet') return <OutletFields {...fields} />
  if (part === 'cord') return <CordFields {...fields} />
  return <LoadFields report={report} />
}

function BreakerFields({ report, set, show }: Fields) {
  const region = useJob((s) => s.job.region)
  const { design } = report.chosen
  const words = vocabularies[region]
  return (
    <FieldGrid>
      <NumberField label="Wanted at least" unit="A" optional value={design.wantedBreakerA} placeholder="as the load needs" onPreview={(wantedBreakerA) => show({ wantedBreakerA })} onCommit={(wantedBreakerA) => set({ wantedBreakerA })} max={1000} />
      {region !== 'north-america' && <ChoiceField wide={false} label="Type" value={design.breakerType} options={breakerTypes.map((t) => ({ value: t, label: t }))} onCommit={(breakerType) => set({ breakerType })} />}
      <ChoiceField
        label={`${words.rcd} protection`}
        value={design.residual.at}
        options={[
          { value: 'none', label: 'None' },
          { value: 'board', label: `At the ${words.board}` },
          { value: 'outlet', label: 'At the outlet' },
        ]}
        onCommit={(at) => set({ residual: { ...design.residual, at } })}
      />
      {design.residual.at !== 'none' && <NumberField label="Rated residual current" unit="mA" value={design.residual.ma} min={1} max={1000} onCommit={(ma) => ma && set({ residual: { ...design.residual, ma } })} />}
      {region !== 'north-america' && design.residual.at === 'board' && <p className="col-span-full text-[0.9rem] text-ink-2">The circuit returns on the neutral bar of that device, and on no other, or it trips for ever.</p>}
    </FieldGrid>
  )
}

function CableFields({ report, set, show }: Fields) {
  const region = useJob((s) => s.job.region)
  const units = useUnits()
  const { design } = report.chosen
  const na = region === 'north-america'
  const feet = units === 'imperial'
  const cables = na ? naCables : Object.keys(metricRegions[region].cables)
  const sizes = na ? naCableSizes(design.cable as (typeof naCables)[number], design.conductor) : Object.keys(metricRegions[region].cables[design.cable]?.rows ?? {})
  const chooseCable = (cable: string) => {
    const methods = na ? null : metricRegions[region as MetricRegionId].cables[cable]!.methods
    set({ cable, minSize: null, ...(methods && !methods.includes(design.method ?? '') ? { method: methods.at(-1)!, insulationMm: 0 } : {}) })
  }
  const { invalid } = report.chosen
  const at = (path: string) => (invalid?.path === path ? invalid.message : null)
  return (
    <FieldGrid>
      <SelectField wide label="Cable" value={design.cable} options={cables.map((c) => ({ value: c, label: cableNames[c] ?? c }))} onCommit={chooseCable} />
      <NumberField
        label="Length, one way"
        unit={feet ? 'ft' : 'm'}
        value={design.lengthM === null ? null : feet ? feetFromMetres(design.lengthM) : design.lengthM}
        digits={feet ? 2 : 3}
        onPreview={(v) => v !== null && show({ lengthM: feet ? metresFromFeet(v) : v })}
        onCommit={(v) => v !== null && set({ lengthM: feet ? metresFromFeet(v) : v })}
        max={feet ? 30000 : 10000}
      />
      <SelectField label="Smallest size" value={design.minSize ?? 'any'} options={[{ value: 'any', label: 'as the load needs' }, ...sizes.map((s) => ({ value: s, label: formatSize(s) }))]} onCommit={(s) => set({ minSize: s === 'any' ? null : s })} />
      {!na && <MethodField {...{ report, set, show }} error={at('run.method')} />}
      <NumberField
        label="Warmest ambient"
        unit={feet ? '°F' : '°C'}
        value={feet ? fahrenheitFromCelsius(design.ambientC) : design.ambientC}
        digits={1}
        min={feet ? -50 : -45}
        max={feet ? 200 : 95}
        error={at('run.ambientC')}
        onPreview={(v) => v !== null && show({ ambientC: feet ? celsiusFromFahrenheit(v) : v })}
        onCommit={(v) => v !== null && set({ ambientC: feet ? celsiusFromFahrenheit(v) : v })}
      />
      {na ? (
        <>
          <NumberField label="Loaded conductors together" value={design.loadedConductors} whole min={1} max={100} onPreview={(loadedConductors) => loadedConductors && show({ loadedConductors })} onCommit={(loadedConductors) => loadedConductors && set({ loadedConductors })} />
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
        <NumberField label="Circuits bunched" value={design.groupedCircuits} whole min={1} max={100} error={at('run.groupedCircuits')} onPreview={(groupedCircuits) => groupedCircuits && show({ groupedCircuits })} onCommit={(groupedCircuits) => groupedCircuits && set({ groupedCircuits })} />
      )}
    </FieldGrid>
  )
}

function MethodField({ report, set, show, error }: Fields & { error: string | null }) {
  const region = useJob((s) => s.job.region) as MetricRegionId
  const units = useUnits()
  const { design } = report.chosen
  const insulation = metricRegions[region].insulation
  const inches = units === 'imperial'
  return (
    <>
      <SelectField
        wide
        label="How it is run"
        error={error}
        value={design.method ?? ''}
        options={(metricRegions[region].cables[design.cable]?.methods ?? []).map((m) => ({ value: m, label: methodNames[m] ?? m }))}
        onCommit={(method) => set({ method, ...(insulation && method !== insulation.method ? { insulationMm: 0 } : {}) })}
      />
      {insulation && design.method === insulation.method && (
        <NumberField
          label="Length wholly in insulation"
          unit={inches ? 'in' : 'mm'}
          value={inches ? inchesFromMillimetres(design.insulationMm) : design.insulationMm}
          digits={2}
          max={100000}
          onPreview={(v) => v !== null && show({ insulationMm: inches ? millimetresFromInches(v) : v })}
          onCommit={(v) => v !== null && set({ insulationMm: inches ? millimetresFromInches(v) : v })}
        />
      )}
    </>
  )
}

const kindNames = { outlet: 'Outlets', switch: 'Switches', isolator: 'Isolators', 'connection-unit': 'Connection units', thermostat: 'Thermostats' }

function OutletFields({ report, set, show }: Fields) {
  const region = useJob((s) => s.job.region)
  const { design } = report.chosen
  return (
    <FieldGrid>
      <SelectField wide label="Accessory" value={design.accessory ?? ''} options={accessoriesFor(region).map((a) => ({ value: a.id, label: a.name, group: kindNames[a.kind] }))} onCommit={(accessory) => set({ accessory })} />
      <NumberField label="How many on this circuit" value={design.accessories} whole min={1} max={100} onPreview={(accessories) => accessories && show({ accessories })} onCommit={(accessories) => accessories && set({ accessories })} />
    </FieldGrid>
  )
}

function CordFields({ report, set, show }: Fields) {
  const { design } = report.chosen
  return (
    <FieldGrid>
      <CheckField label="There is a cord between outlet and appliance" value={design.cordA !== null} onCommit={(on) => set({ cordA: on ? 15 : null })} />
      {design.cordA !== null && <NumberField label="The cord is good for" unit="A" value={design.cordA} min={0.5} max={1000} onPreview={(cordA) => cordA && show({ cordA })} onCommit={(cordA) => cordA && set({ cordA })} hint="The lowest of plug, cord and connector." />}
    </FieldGrid>
  )
}

function LoadFields({ report }: { report: CircuitReport }) {
  const commit = useJob((s) => s.commit)
  const show = useJob((s) => s.show)
  const { circuit, chosen } = report
  const edit = (patch: Partial<Load>): Edit => ({ kind: 'load.set', circuit: circuit.id, patch })
  const design = (patch: Partial<Omit<Design, 'id'>>): Edit => ({ kind: 'design.set', circuit: circuit.id, design: circuit.chosen, patch })
  return (
    <FieldGrid>
      <NumberField label={circuit.load.basis === 'watts' ? 'Power' : 'Current'} unit={circuit.load.basis === 'watts' ? 'W' : 'A'} value={circuit.load.amount} onPreview={(amount) => show(edit({ amount }))} onCommit={(amount) => commit(edit({ amount }))} max={1_000_000} />
      <NumberField label="Voltage" unit="V" value={circuit.load.volts} min={1} max={1000} onPreview={(volts) => volts && show(edit({ volts }))} onCommit={(volts) => commit(edit({ volts }))} />
      <CheckField label="Runs three hours or more at a stretch" value={circuit.load.continuous} onCommit={(continuous) => commit(edit({ continuous }))} />
      {chosen.design.cordA === null && circuit.load.connection === 'plug' && (
        <button type="button" className="btn col-span-full" onClick={() => commit(design({ cordA: 15 }))}>
          Add its plug and cord to the chain
        </button>
      )}
    </FieldGrid>
  )
}
