'use client'
import { applianceKinds } from '@/core/catalogue/appliances'
import { fitnessFor } from '@/core/catalogue/fitness'
import type { Edit } from '@/core/job/edits'
import { type Brief, earthings, premisesKinds } from '@/core/job/brief'
import { environments } from '@/core/job/fields'
import { type Load, loadOfKind } from '@/core/job/load'
import { ChoiceField, type Option, SelectField, TextField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { useCircuit, useJob } from '../sync/context'
import { useAbout } from '../fields/use-about'
import { Findings } from '../fields/findings'
import { Photographs } from '../photographs/photographs'
import { applianceOptions } from '../fields/appliance-options'
import { SchoolFields } from '../fields/schools'
import { LoadNameplate } from '../fields/load-fields'
import { worlds } from '@/core/region/worlds'
import { SamePlace } from './same-place'

const earthingNames: Record<(typeof earthings)[number], string> = { 'tn-c-s': 'TN-C-S', 'tn-s': 'TN-S', tt: 'TT, earth rod' }
const capital = (s: string) => s.charAt(0).toUpperCase() + s.slice(1)
const placeOptions: Option<(typeof environments)[number]>[] = environments.map((e) => ({ value: e, label: capital(e) }))

export function BriefView() {
  const about = useAbout('brief')
  const job = useJob((s) => s.job)
  const stage = useJob((s) => s.report.stages.find((x) => x.id === 'brief')!)
  const commit = useJob((s) => s.commit)
  const { brief } = job
  const set = (patch: Partial<Omit<Brief, 'fitness'>>) => commit({ kind: 'brief.set', patch })
  return (
    <Stage
      title="Brief"
      about={about}
      drawing={
        <div className="mx-auto grid max-w-[62rem] gap-x-6 lg:grid-cols-[0.85fr_1.15fr]">
          <div>
            <Section title="What was asked for">
              <FieldGrid>
                <TextField
                  wide
                  label="In the customer’s words"
                  multiline={3}
                  value={brief.request}
                  onCommit={(request) => set({ request })}
                  placeholder="Power for…"
                />
                <TextField label="Asked by" value={brief.askedBy} onCommit={(askedBy) => set({ askedBy })} />
                <TextField label="Through" value={brief.through} onCommit={(through) => set({ through })} placeholder="directly" />
                <TextField
                  wide
                  label="Existing installation"
                  multiline={2}
                  value={brief.existing}
                  onCommit={(existing) => set({ existing })}
                />
                <TextField wide label="Finish expected" value={brief.finish} onCommit={(finish) => set({ finish })} />
                <TextField wide label="What they may want later" multiline={2} value={brief.later} onCommit={(later) => set({ later })} />
                <ChoiceField
                  label="The place is"
                  value={brief.environment}
                  options={placeOptions}
                  onCommit={(environment) => set({ environment })}
                />
                <SelectField
                  label="Kind of premises"
                  value={brief.premises ?? ''}
                  placeholder="Not said yet"
                  options={premisesKinds.map((p) => ({ value: p, label: capital(p) }))}
                  onCommit={(premises) => set({ premises })}
                />
              </FieldGrid>
            </Section>
            <SamePlace />
          </div>
          <div>
            <Fitness />
          </div>
        </div>
      }
      working={
        <>
          <Section title="To be powered">
            <ApplianceFields />
          </Section>
          <SupplyFields />
          <WaysOfWorking />
          <Photographs of={{ kind: 'job', id: 'job' }} hint="The place as it is, the nameplate, what the customer points at." />
          <Section title="Findings">
            <Findings
              stage="brief"
              findings={stage.findings}
              empty={stage.open.length ? stage.open.map((o) => o.ask).join(' ') : 'Ready to start.'}
            />
          </Section>
        </>
      }
    />
  )
}

function ApplianceFields() {
  const { circuit } = useCircuit()
  const region = useJob((s) => s.job.region)
  const commit = useJob((s) => s.commit)
  const { load } = circuit
  const edit = (patch: Partial<Load>): Edit => ({ kind: 'load.set', circuit: circuit.id, patch })
  const kinds = applianceKinds(region)
  const choose = (id: string) => {
    const kind = kinds.find((k) => k.id === id)!
    commit(edit(loadOfKind(kind)))
  }
  return (
    <FieldGrid>
      <SelectField
        wide
        label="Kind of appliance"
        value={load.kind ?? ''}
        placeholder="Choose, then correct from the nameplate"
        options={applianceOptions(region)}
        onCommit={choose}
      />
      <TextField wide label="Called" value={load.name} onCommit={(name) => commit(edit({ name }))} />
      <LoadNameplate />
      <TextField
        wide
        label="Circuit is called"
        value={circuit.name}
        onCommit={(name) => commit({ kind: 'circuit.set', circuit: circuit.id, patch: { name } })}
      />
    </FieldGrid>
  )
}

function SupplyFields() {
  const { region, supply } = useJob((s) => s.job)
  const { circuit } = useCircuit()
  const commit = useJob((s) => s.commit)
  const show = useJob((s) => s.show)
  return (
    <Section title="Where it comes from">
      <FieldGrid>
        <TextField label="Board" value={supply.board} onCommit={(board) => commit({ kind: 'supply.set', patch: { board } })} />
        <TextField
          label="Way"
          value={circuit.way}
          onCommit={(way) => commit({ kind: 'circuit.connect', circuit: circuit.id, way: way.slice(0, 40) })}
        />
        {worlds[region].metric && (
          <>
            <SelectField
              label="Earthing"
              value={supply.earthing ?? ''}
              options={earthings.map((e) => ({ value: e, label: earthingNames[e] }))}
              onCommit={(earthing) => commit({ kind: 'supply.set', patch: { earthing } })}
            />
            <NumberField
              label="Ze measured at the board"
              unit="Ω"
              optional
              value={supply.zeOhm}
              placeholder="not known"
              onPreview={(zeOhm) => show({ kind: 'supply.set', patch: { zeOhm } })}
              onCommit={(zeOhm) => commit({ kind: 'supply.set', patch: { zeOhm } })}
              max={100000}
            />
          </>
        )}
      </FieldGrid>
    </Section>
  )
}

function Fitness() {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  return (
    <Section title="Before anything is opened">
      <p className="mb-2 text-[0.9rem] text-ink-2">Local code and licensed practice come first. One answer here can stop the job.</p>
      <ul>
        {fitnessFor(job.region).map((q) => {
          const answer = job.brief.fitness[q.id] ?? null
          const stops = answer === q.stopsOn
          return (
            <li key={q.id} className="border-b border-rule py-1.5">
              <fieldset className="flex items-start gap-3 max-md:flex-col max-md:gap-1">
                <legend className="sr-only">{q.ask}</legend>
                <p className="flex-1" aria-hidden>
                  {q.ask}
                </p>
                <div className="flex shrink-0 gap-px">
                  {(['yes', 'no', 'unknown'] as const).map((a) => (
                    <label
                      key={a}
                      className={
                        'flex tap cursor-pointer items-center border px-2 has-focus-visible:outline-2 ' +
                        'has-focus-visible:outline-ink max-md:px-4 ' +
                        (answer === a ? 'border-ink bg-ink text-sheet' : 'border-rule-2 hover:bg-wash')
                      }
                    >
                      <input
                        type="radio"
                        className="sr-only"
                        name={`fitness-${q.id}`}
                        checked={answer === a}
                        onChange={() => commit({ kind: 'fitness.answer', question: q.id, answer: a })}
                      />
                      {a === 'unknown' ? 'not known' : a}
                    </label>
                  ))}
                </div>
              </fieldset>
              {stops && (
                <p className="mt-1 flex gap-2 font-bold">
                  <VerdictMark of="error" />
                  <span>
                    {q.reason} <span className="font-normal text-ink-2">{q.clause}</span>
                  </span>
                </p>
              )}
            </li>
          )
        })}
      </ul>
    </Section>
  )
}

/** Where good practice differs, which way this job follows; nothing said follows the first. */
function WaysOfWorking() {
  return (
    <Section title="Ways of working">
      <p className="mb-2 text-[0.9rem] text-ink-2">
        Good practice differs in these; the steps, tests and findings follow what is chosen here.
      </p>
      <SchoolFields />
    </Section>
  )
}
