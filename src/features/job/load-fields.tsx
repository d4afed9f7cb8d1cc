'use client'
import { designLoad, doubtedAmount, usualStart } from '@/core/design/load'
import type { Edit } from '@/core/job/edits'
import { type Load, loadBases, loadNatures } from '@/core/job/load'
import { formatA, trim } from '@/core/quantity/format'
import { CheckField, ChoiceField, SelectField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { useCircuit, useJob } from './context'

const basisNames: Record<Load['basis'], string> = { watts: 'W', va: 'VA', amps: 'A', kwh: 'kWh' }
const amountNames: Record<Load['basis'], string> = { watts: 'Power', va: 'Apparent power', amps: 'Current', kwh: 'Energy used' }
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

/** What the nameplate says, as it says it, and what follows from the kind of load. */
export function LoadNameplate() {
  const { circuit } = useCircuit()
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const show = useJob((s) => s.show)
  const { load } = circuit
  const edit = (patch: Partial<Load>): Edit => ({ kind: 'load.set', circuit: circuit.id, patch })
  const designed = designLoad(job, circuit)
  const several = circuit.points.length > 0
  const doubted = doubtedAmount(load, job.region)
  return (
    <>
      {several ? (
        <p className="col-span-full">
          Its {circuit.points.length} points say what it draws{designed && `: ${formatA(designed.amps)} in all`}. They stand along the
          circuit.
        </p>
      ) : (
        <>
          <ChoiceField
            wide={false}
            label="Nameplate gives"
            value={load.basis}
            options={loadBases.map((b) => ({ value: b, label: basisNames[b] }))}
            onCommit={(basis) => commit(edit(changeBasis(load, basis)))}
          />
          <NumberField
            label={amountNames[load.basis]}
            unit={basisNames[load.basis]}
            value={load.amount}
            onPreview={(amount) => show(edit({ amount }))}
            onCommit={(amount) => commit(edit({ amount }))}
            max={1_000_000}
          />
          {doubted !== null && (
            <p role="alert" className="col-span-full">
              {`${trim(load.amount!, 3)} ${basisNames[load.basis]} is little for ` +
                `${circuit.load.name || natureNames[load.nature].toLowerCase()}. `}
              <button type="button" className="btn" onClick={() => commit(edit({ amount: doubted }))}>
                It is {trim(doubted / 1000, 3)} k{basisNames[load.basis]}
              </button>
            </p>
          )}
        </>
      )}
      {!several && load.basis === 'kwh' && (
        <NumberField
          label="in so many hours"
          unit="h"
          optional
          value={load.hours}
          placeholder="?"
          min={0.01}
          max={8760}
          onCommit={(hours) => commit(edit({ hours }))}
        />
      )}
      <NumberField
        label="Voltage"
        unit="V"
        value={load.volts}
        onPreview={(volts) => volts && show(edit({ volts }))}
        onCommit={(volts) => commit(edit({ volts }))}
        min={1}
        max={1000}
        hint={
          designed === null || several
            ? undefined
            : designed.amps === designed.nameplateA
              ? `It draws ${formatA(designed.amps)}.`
              : `It draws ${formatA(designed.nameplateA)}; the circuit is made for ${formatA(designed.amps)}.`
        }
      />
      {!several && (load.basis === 'watts' || load.basis === 'kwh') && (
        <NumberField
          label="Power factor"
          optional
          value={load.powerFactor}
          placeholder="1"
          min={0.1}
          max={1}
          onCommit={(powerFactor) => commit(edit({ powerFactor }))}
        />
      )}
      <SelectField
        label="Kind of load"
        value={load.nature}
        options={loadNatures.map((n) => ({ value: n, label: natureNames[n] }))}
        onCommit={(nature) =>
          commit(
            edit({ nature, ...(nature === 'charging' ? { continuous: true } : {}), ...(nature === 'lighting' ? { lighting: true } : {}) }),
          )
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
          onCommit={(startFactor) => commit(edit({ startFactor }))}
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
          onCommit={(duty) => commit(edit({ duty: duty === null ? null : duty / 100 }))}
        />
      )}
      <ChoiceField
        wide={false}
        label="Connected by"
        value={load.connection}
        options={[
          { value: 'plug', label: 'Plug' },
          { value: 'fixed', label: 'Fixed' },
        ]}
        onCommit={(connection) => commit(edit({ connection }))}
      />
      <CheckField
        label="Runs three hours or more at a stretch"
        value={load.continuous}
        onCommit={(continuous) => commit(edit({ continuous }))}
      />
      <CheckField label="It is lighting" value={load.lighting} onCommit={(lighting) => commit(edit({ lighting }))} />
      {designed?.steps.map((s) => (
        <p key={s.words} className="col-span-full text-[0.9rem]">
          {s.words} <span className="text-ink-2">{s.clause}</span>
        </p>
      ))}
    </>
  )
}

/** The same load told in another unit, where it can be; between kWh and the rest it is asked anew. */
function changeBasis(load: Load, basis: Load['basis']): Partial<Load> {
  const { amount, volts } = load
  if (amount === null || volts === null || basis === load.basis || basis === 'kwh' || load.basis === 'kwh') return { basis }
  const watts = load.basis === 'amps' ? amount * volts : amount
  return { basis, amount: Number((basis === 'amps' ? watts / volts : watts).toFixed(3)) }
}
