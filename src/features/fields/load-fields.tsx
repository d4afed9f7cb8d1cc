'use client'
import { type DesignLoad, designLoad, doubtedAmount, shaftHp, usualStart } from '@/core/design/load'
import type { Edit } from '@/core/job/edits'
import { basisNames, type Load, loadBases, loadNatures, motorOverloads } from '@/core/job/load'
import { formatA, trim } from '@/core/base/format'
import { CheckField, ChoiceField, SelectField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { W_PER_HP } from '@/core/region/north-america/motors'
import { worlds } from '@/core/region/worlds'
import { useCircuit, useJob } from '../sync/context'

const overloadNames: Record<(typeof motorOverloads)[number], string> = {
  'built-in': 'Thermal protector in the motor',
  separate: 'Overload relay in its starter',
  none: 'None',
}
const amountNames: Record<Load['basis'], string> = {
  watts: 'Power',
  va: 'Apparent power',
  amps: 'Current',
  kwh: 'Energy used',
  hp: 'Output',
  'kw-shaft': 'Output',
}
export const natureNames: Record<Load['nature'], string> = {
  general: 'General',
  heating: 'Heating',
  lighting: 'Lighting',
  motor: 'Motor',
  cooking: 'Cooking',
  duty: 'On and off by duty',
  charging: 'Charging',
  electronic: 'Electronic',
}

/** The load of the circuit in hand, and how it is shown and set. */
function useLoad() {
  const { circuit } = useCircuit()
  const commit = useJob((s) => s.commit)
  const show = useJob((s) => s.show)
  const edit = (patch: Partial<Load>): Edit => ({ kind: 'load.set', circuit: circuit.id, patch })
  return {
    circuit,
    load: circuit.load,
    set: (patch: Partial<Load>) => commit(edit(patch)),
    preview: (patch: Partial<Load>) => show(edit(patch)),
  }
}

/** What the nameplate says, as it says it, and what follows from the kind of load. */
export function LoadNameplate() {
  const { circuit, load, set } = useLoad()
  const designed = designLoad(
    useJob((s) => s.job),
    circuit,
  )
  const several = circuit.points.length > 0
  const metric = useJob((s) => worlds[s.job.region].motorRow === undefined)
  return (
    <>
      {several ? (
        <p className="col-span-full">
          Its {circuit.points.length} points say what it draws{designed && `: ${formatA(designed.amps)} in all`}. They stand along the
          circuit.
        </p>
      ) : (
        <Amount />
      )}
      <Voltage drawn={several ? null : designed} />
      {!several && (load.basis === 'watts' || load.basis === 'kwh' || (load.basis === 'kw-shaft' && metric)) && (
        <NumberField
          label="Power factor"
          optional
          value={load.powerFactor}
          placeholder={load.nature === 'motor' ? '?' : '1'}
          min={0.1}
          max={1}
          onCommit={(powerFactor) => set({ powerFactor })}
        />
      )}
      {!several && shaftHp(load) !== null && <MotorPlate />}
      <KindOfLoad />
      <ChoiceField
        wide={false}
        label="Connected by"
        value={load.connection}
        options={[
          { value: 'plug', label: 'Plug' },
          { value: 'fixed', label: 'Fixed' },
        ]}
        onCommit={(connection) => set({ connection })}
      />
      <CheckField label="Runs three hours or more continuously" value={load.continuous} onCommit={(continuous) => set({ continuous })} />
      <CheckField label="It is lighting" value={load.lighting} onCommit={(lighting) => set({ lighting })} />
      {designed?.steps.map((s) => (
        <p key={s.words} className="col-span-full text-[0.9rem]">
          {s.words} <span className="text-ink-2">{s.clause}</span>
        </p>
      ))}
    </>
  )
}

/** How much it draws, by what the nameplate gives. */
function Amount() {
  const { circuit, load, set, preview } = useLoad()
  const doubted = doubtedAmount(
    load,
    useJob((s) => s.job.region),
  )
  return (
    <>
      <ChoiceField
        wide={false}
        label="Nameplate gives"
        value={load.basis}
        options={loadBases.map((b) => ({ value: b, label: basisNames[b] }))}
        onCommit={(basis) => set({ ...changeBasis(load, basis), ...(basis === 'hp' || basis === 'kw-shaft' ? { nature: 'motor' } : {}) })}
      />
      <NumberField
        label={amountNames[load.basis]}
        unit={basisNames[load.basis]}
        value={load.amount}
        onPreview={(amount) => preview({ amount })}
        onCommit={(amount) => set({ amount })}
        max={1_000_000}
      />
      {doubted !== null && (
        <p role="alert" className="col-span-full">
          {`${trim(load.amount!, 3)} ${basisNames[load.basis]} is little for ` +
            `${circuit.load.name || natureNames[load.nature].toLowerCase()}. `}
          <button type="button" className="btn" onClick={() => set({ amount: doubted })}>
            It is {trim(doubted / 1000, 3)} k{basisNames[load.basis]}
          </button>
        </p>
      )}
      {load.basis === 'kwh' && (
        <NumberField
          label="in so many hours"
          unit="h"
          optional
          value={load.hours}
          placeholder="?"
          min={0.01}
          max={8760}
          onCommit={(hours) => set({ hours })}
        />
      )}
    </>
  )
}

function Voltage({ drawn }: { drawn: DesignLoad | null }) {
  const { load, set, preview } = useLoad()
  return (
    <NumberField
      label="Voltage"
      unit="V"
      value={load.volts}
      onPreview={(volts) => volts && preview({ volts })}
      onCommit={(volts) => set({ volts })}
      min={1}
      max={1000}
      hint={
        drawn === null
          ? undefined
          : drawn.amps === drawn.nameplateA
            ? `It draws ${formatA(drawn.amps)}.`
            : `It draws ${formatA(drawn.nameplateA)}; the circuit is made for ${formatA(drawn.amps)}.`
      }
    />
  )
}

/** What else is read from the plate of a motor that is rated by its output. */
function MotorPlate() {
  const { load, set } = useLoad()
  const byTable = useJob((s) => worlds[s.job.region].motorRow !== undefined)
  return (
    <>
      {!byTable && (
        <NumberField
          label="Efficiency"
          unit="%"
          optional
          value={load.efficiency === null ? null : Number(trim(load.efficiency * 100, 1))}
          placeholder="?"
          min={10}
          max={100}
          onCommit={(efficiency) => set({ efficiency: efficiency === null ? null : efficiency / 100 })}
        />
      )}
      <SelectField
        label="Overload protection"
        value={load.overload ?? ''}
        options={[{ value: '', label: 'Not checked' }, ...motorOverloads.map((o) => ({ value: o, label: overloadNames[o] }))]}
        onCommit={(overload) => set({ overload: overload === '' ? null : overload })}
      />
      <NumberField
        label="Current on the plate"
        unit="A"
        optional
        value={load.plateA}
        placeholder="?"
        min={0.1}
        max={1000}
        hint={byTable ? 'Sets the overload protection; the circuit goes by the table.' : 'Sets the overload protection.'}
        onCommit={(plateA) => set({ plateA })}
      />
      {byTable && (
        <NumberField
          label="Service factor"
          optional
          value={load.serviceFactor}
          placeholder="none marked"
          min={1}
          max={2}
          onCommit={(serviceFactor) => set({ serviceFactor })}
        />
      )}
    </>
  )
}

/** What kind of load it is, and what is asked of that kind alone. */
function KindOfLoad() {
  const { load, set } = useLoad()
  return (
    <>
      <SelectField
        label="Kind of load"
        value={load.nature}
        options={loadNatures.map((n) => ({ value: n, label: natureNames[n] }))}
        onCommit={(nature) =>
          set({ nature, ...(nature === 'charging' ? { continuous: true } : {}), ...(nature === 'lighting' ? { lighting: true } : {}) })
        }
      />
      {usualStart[load.nature].factor > 1 && (
        <NumberField
          label="Switching on draws"
          unit="times"
          optional
          value={load.startFactor}
          placeholder={`${usualStart[load.nature].factor}, usual`}
          min={1}
          max={40}
          onCommit={(startFactor) => set({ startFactor })}
        />
      )}
      {load.nature === 'duty' && (
        <NumberField
          label="On for"
          unit="% of the time"
          optional
          value={load.duty === null ? null : Number(trim(load.duty * 100, 1))}
          placeholder="?"
          min={1}
          max={100}
          onCommit={(duty) => set({ duty: duty === null ? null : duty / 100 })}
        />
      )}
    </>
  )
}

/** The same load in another unit, where it can be; between kWh, a motor’s output and the rest it is asked again. */
function changeBasis(load: Load, basis: Load['basis']): Partial<Load> {
  const { amount, volts } = load
  const outputs: readonly Load['basis'][] = ['hp', 'kw-shaft']
  if (basis !== load.basis && (outputs.includes(basis) || outputs.includes(load.basis))) {
    const hp = shaftHp(load)
    if (hp === null || !outputs.includes(basis)) return { basis, amount: null }
    return { basis, amount: Number((basis === 'hp' ? hp : (hp * W_PER_HP) / 1000).toFixed(3)) }
  }
  if (amount === null || volts === null || basis === load.basis || basis === 'kwh' || load.basis === 'kwh') return { basis }
  const watts = load.basis === 'amps' ? amount * volts : amount
  return { basis, amount: Number((basis === 'amps' ? watts / volts : watts).toFixed(3)) }
}
