'use client'
import clsx from 'clsx'
import { Plus, Trash2 } from 'lucide-react'
import { useState } from 'react'
import { newSignalCable, type SignalCable } from '@/core/job/signal-cable'
import { signalKinds } from '@/core/region/types'
import { worlds } from '@/core/region/worlds'
import { sharedName, signalFindings, signalWords } from '@/core/rules/signal'
import { CheckField, ChoiceField, SelectField, TextField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { Findings } from '../fields/findings'
import { LengthField, SmallLengthField } from '../fields/measure-fields'
import { useLed } from '../fields/use-led'
import { useJob, useUnits } from '../sync/context'

/** Cables of extra-low voltage and telecommunication: where they run, what they share with power, and how far apart they stay. */
export function SignalSheet() {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const units = useUnits()
  const [picked, setPicked] = useState<string | null>(null)
  useLed('route', 'signal', (_, id) => setPicked(id))
  const cables = job.record.signalCables ?? []
  const cable = cables.find((k) => k.id === picked) ?? cables[0]
  const { kindNames, along } = worlds[job.region].separation
  const add = () => {
    const item = newSignalCable(crypto.randomUUID(), `${kindNames.data} ${cables.length + 1}`)
    commit({ kind: 'signal-cable.add', item })
    setPicked(item.id)
  }
  return (
    <Stage
      title="Route"
      drawing={
        <div className="flex flex-col gap-3">
          <div>
            <button type="button" className="btn" onClick={add}>
              <Plus size={16} aria-hidden /> Data or control cable
            </button>
          </div>
          {cables.length === 0 ? (
            <p className="max-w-prose text-ink-2">
              No thermostat, bell, telephone, data or aerial cable is entered. Add each that is run with this work, or that the work comes
              near: it is then counted in the materials, labelled at both ends, and checked against the power cables near it.
            </p>
          ) : (
            <ul className="border-t border-rule">
              {cables.map((k) => (
                <li key={k.id} className="border-b border-rule">
                  <button
                    type="button"
                    className={clsx('tap w-full px-2 py-2 text-left hover:bg-wash', k.id === cable?.id && 'bg-wash')}
                    aria-pressed={k.id === cable?.id}
                    onClick={() => setPicked(k.id)}
                  >
                    <b>{k.name}</b>{' '}
                    <span className="text-ink-2">
                      {kindNames[k.kind]}
                      {k.state === 'existing' ? ', found' : ''}
                    </span>
                    <span className="block">{signalWords(job, k, units)}</span>
                  </button>
                </li>
              ))}
            </ul>
          )}
          <p className="max-w-prose text-[0.9rem] text-ink-2">{along}</p>
        </div>
      }
      working={
        cable ? (
          <>
            <SignalFields key={cable.id} cable={cable} />
            <Section title="Findings">
              <Findings
                stage="route"
                findings={signalFindings(job).filter((f) => f.about === `signal:${cable.id}`)}
                empty="Kept apart from power as entered."
                standing={`signal:${cable.id}`}
              />
            </Section>
          </>
        ) : (
          <p className="text-ink-2">Where each runs, what it shares, and how far it stays from power cables.</p>
        )
      }
    />
  )
}

/** Of a fact that may not be known. */
const yesNo = [
  { value: 'unknown', label: 'Not known' },
  { value: 'yes', label: 'Yes' },
  { value: 'no', label: 'No' },
] as const
const asFact = (v: boolean | null) => (v === null ? 'unknown' : v ? 'yes' : 'no')
const fromFact = (v: (typeof yesNo)[number]['value']): boolean | null => (v === 'unknown' ? null : v === 'yes')

function SignalFields({ cable }: { cable: SignalCable }) {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const { kindNames, insulationServes, apartMm } = worlds[job.region].separation
  const set = (patch: Partial<Omit<SignalCable, 'id'>>) => commit({ kind: 'signal-cable.set', id: cable.id, patch })
  const [sharesSome, setSharesSome] = useState((cable.shares?.length ?? 0) > 0)
  // “Yes” alone does not say with what: that stays not known.
  const shares = cable.shares === null ? (sharesSome ? 'yes' : 'unknown') : cable.shares.length > 0 ? 'yes' : 'no'
  const pairs = cable.kind === 'data' || cable.kind === 'telephone'
  const possible = [...job.raceways.map((r) => r.id), ...new Set(job.points.map((p) => p.box.id))]
  return (
    <Section title={cable.name || 'Data or control cable'}>
      <FieldGrid>
        <TextField label="Name" value={cable.name} onCommit={(name) => set({ name })} />
        <SelectField
          label="What it is"
          value={cable.kind}
          options={signalKinds.map((value) => ({ value, label: kindNames[value] }))}
          onCommit={(kind) => set({ kind })}
        />
        <TextField label="From" value={cable.from} onCommit={(from) => set({ from })} />
        <TextField label="To" value={cable.to} onCommit={(to) => set({ to })} />
        <LengthField label="Length" value={cable.lengthM} min={0} max={2000} onCommit={(lengthM) => set({ lengthM })} />
        {cable.kind !== 'aerial' && (
          <NumberField
            label={pairs ? 'Pairs' : 'Conductors'}
            value={cable.cores}
            whole
            min={1}
            max={30}
            onCommit={(cores) => set({ cores })}
          />
        )}
        <ChoiceField
          label="It is"
          value={cable.state}
          options={[
            { value: 'new', label: 'New' },
            { value: 'existing', label: 'Found' },
          ]}
          onCommit={(state) => set({ state })}
        />
        <ChoiceField
          label="In a raceway or box with power conductors"
          value={shares}
          options={[...yesNo]}
          onCommit={(v) => {
            setSharesSome(v === 'yes')
            if (v !== 'yes' || cable.shares !== null) set({ shares: v === 'no' ? [] : null })
          }}
        />
        {shares === 'yes' && (
          <div
            className="col-span-full max-h-52 overflow-y-auto border border-rule px-2"
            tabIndex={0}
            role="region"
            aria-label="What it shares"
          >
            {possible.length === 0 && <p className="py-2 text-ink-2">No raceway and no box is in this job yet.</p>}
            {possible.map((id) => (
              <CheckField
                key={id}
                label={capitalised(sharedName(job, id))}
                value={cable.shares?.includes(id) ?? false}
                onCommit={(on) => {
                  const left = on ? [...(cable.shares ?? []), id] : (cable.shares ?? []).filter((x) => x !== id)
                  setSharesSome(true)
                  set({ shares: left.length ? left : null })
                }}
              />
            ))}
          </div>
        )}
        {shares === 'yes' && insulationServes && (
          <ChoiceField
            label="Insulated for the highest voltage present"
            value={asFact(cable.insulated)}
            options={[...yesNo]}
            onCommit={(v) => set({ insulated: fromFact(v) })}
          />
        )}
        {(shares === 'yes' || apartMm !== null) && (
          <ChoiceField
            label="A barrier or divider is between them"
            value={asFact(cable.barrier)}
            options={[...yesNo]}
            onCommit={(v) => set({ barrier: fromFact(v) })}
          />
        )}
        <SmallLengthField
          label="Least distance to power cables"
          value={cable.apartMm}
          min={0}
          max={10_000}
          onCommit={(v) => set({ apartMm: v })}
        />
      </FieldGrid>
      <button
        type="button"
        className="btn mt-2"
        title="Undo brings it back"
        onClick={() => commit({ kind: 'signal-cable.remove', id: cable.id })}
      >
        <Trash2 size={15} aria-hidden /> <span className="truncate">Remove {cable.name}</span>
      </button>
    </Section>
  )
}
const capitalised = (words: string): string => `${words[0]!.toUpperCase()}${words.slice(1)}`
