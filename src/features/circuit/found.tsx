'use client'
import { Plus } from 'lucide-react'
import { listed } from '@/core/base/finding'
import type { CircuitReport } from '@/core/evaluate/evaluate'
import type { Circuit } from '@/core/installation/installation'
import type { Way } from '@/core/job/board'
import { type Cable, cableM } from '@/core/job/cable'
import { typedWay } from '@/core/job/circuit'
import { formatA, formatSize } from '@/core/base/format'
import { cableNames } from '@/core/region/vocabulary'
import { worlds } from '@/core/region/worlds'
import { cablesThatStay, foundWays, onItsWays } from '@/core/rules/existing'
import { oldQuestionsFor } from '@/core/rules/old-work'
import { ChoiceField, SelectField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section } from '@/ui/panel'
import { useCircuit, useJob } from '../sync/context'
import { ListPoints } from '../fields/list-points'
import { LengthField } from '../fields/measure-fields'

const cableWords = ({ size, type }: Pick<Cable, 'size' | 'type'>): string =>
  `${size === null ? 'size not read' : formatSize(size)}, ${type === null ? 'kind not read' : (cableNames[type] ?? type)}`

/** What an altered circuit has today beside what it becomes, link by link; what was not looked at is said so. */
export function FoundBeside({ report, onPick }: { report: CircuitReport; onPick: () => void }) {
  const job = useJob((s) => s.job)
  const { circuit, chosen } = report
  const [way] = foundWays(circuit)
  if (!way && circuit.work === 'new') return null
  const { design, result, load } = chosen
  const { words, typedBreakers } = worlds[job.region]
  const device = way && job.residualDevices.find((d) => d.id === way.residual)
  const there = way ? onItsWays(job, circuit).already : null
  const cables = cablesThatStay(job, circuit)
  const behind = !way
    ? '?'
    : device
      ? `${device.name}, ${device.tripMa ?? '?'} mA`
      : { none: `no ${words.rcd}`, own: `its own ${words.rcd}`, unknown: 'not checked' }[way.residual as 'none' | 'own' | 'unknown']
  const { at, ma } = design.residual
  const rows: [name: string, found: string, becomes: string][] = [
    [
      'Breaker',
      way?.ratingA == null ? 'not read' : `${formatA(way.ratingA)}${typedBreakers ? ` type ${way.curve ?? 'not read'}` : ''}`,
      result?.breakerA == null ? '?' : `${result.breakerA} A${typedBreakers ? ` type ${design.breakerType}` : ''}`,
    ],
    ['Protected by', behind, at === 'none' ? `no ${words.rcd}` : `${words.rcd} ${ma} mA`],
    [
      'Cable',
      cables.length ? listed(cables.map(cableWords)) : 'not read',
      result?.size ? `${formatSize(result.size)}, ${cableNames[design.cable] ?? design.cable}` : '?',
    ],
    [
      'Load',
      there === null || there.points === 0
        ? 'not traced'
        : `${formatA(there.amps)}${there.unknown ? `, and ${there.unknown} not read` : ''}`,
      load === null
        ? '?'
        : there?.points
          ? `${formatA(there.amps + load.nameplateA)} with what is added`
          : `${formatA(load.nameplateA)} by what is listed on it`,
    ],
  ]
  return (
    <section aria-label="As it is found and as it becomes">
      <div className="flex flex-wrap items-center gap-2 border-b border-rule pb-1">
        <h2 className="mr-2 text-[1rem]">As found, as it becomes</h2>
        <button type="button" className="btn no-print" onClick={onPick}>
          What is there
        </button>
      </div>
      <table className="w-full table-fixed">
        <thead>
          <tr className="text-left text-[0.85rem] text-ink-2">
            <th scope="col" className="w-32 font-normal max-md:w-24" />
            <th scope="col" className="font-normal">
              {way ? `Found: ${way.label}` : 'Found: its breaker is not recorded'}
            </th>
            <th scope="col" className="font-normal">
              Becomes
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, found, becomes]) => (
            <tr key={name} className="border-b border-rule align-top">
              <th scope="row" className="py-1 text-left font-normal text-ink-2">
                {name}
              </th>
              <td className="py-1 pr-2">{found}</td>
              <td className="py-1 font-bold">{becomes}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  )
}

/** What stays of an older circuit, asked for where it is needed: its breaker, what it is behind, its cable, its old parts. */
export function FoundPanel() {
  const { circuit } = useCircuit()
  const region = useJob((s) => s.job.region)
  const commit = useJob((s) => s.commit)
  const [way] = foundWays(circuit)
  return (
    <Section title="What is there">
      <p className="mb-2 text-[0.9rem] text-ink-2">Isolate and prove dead before a box is opened to look.</p>
      {way ? <WayThere way={way} /> : <OnWhichWay circuit={circuit} />}
      {circuit.work === 'altered' && (
        <ul className="mt-3">
          {oldQuestionsFor(region).map((q) => (
            <li key={q.id} className="border-b border-rule py-2">
              <ChoiceField
                label={q.ask}
                value={circuit.old[q.id] ?? null}
                options={[
                  { value: 'yes', label: 'Yes' },
                  { value: 'no', label: 'No' },
                  { value: 'unknown', label: 'Not checked' },
                ]}
                onCommit={(answer) => commit({ kind: 'old.answer', circuit: circuit.id, question: q.id, answer })}
              />
            </li>
          ))}
        </ul>
      )}
    </Section>
  )
}

/** Which breaker of the board an altered circuit sits on, while nobody said. */
function OnWhichWay({ circuit }: { circuit: Circuit }) {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const ways = job.ways.filter((w) => w.board === circuit.board)
  if (ways.length === 0) return <p className="mb-3">Its way is not recorded, and no way of the board is listed: add it in the survey.</p>
  return (
    <SelectField
      label="The way it sits on"
      value=""
      placeholder="Not said yet"
      options={ways.map((w) => ({ value: w.id, label: `${w.position ?? '?'} ${w.label}` }))}
      onCommit={(id) => commit({ kind: 'circuit.connect', circuit: circuit.id, way: typedWay(job, { ways: [id] }) })}
    />
  )
}

function WayThere({ way }: { way: Way }) {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const { circuit } = useCircuit()
  const { words } = worlds[job.region]
  const cables = cablesThatStay(job, circuit)
  const led = new Set(job.foundCables.filter((k) => k.circuit === null).map((k) => k.to.id))
  const ends = job.points.filter((p) => p.state !== 'new' && !led.has(p.id))
  return (
    <>
      <FieldGrid>
        <NumberField
          label="Breaker that is there"
          unit="A"
          optional
          placeholder="read it"
          value={way.ratingA}
          max={1000}
          onCommit={(ratingA) => commit({ kind: 'way.set', id: way.id, patch: { ratingA: ratingA || null } })}
        />
        <SelectField
          label="Protected by"
          value={way.residual}
          options={[
            { value: 'unknown', label: 'Not checked' },
            { value: 'none', label: `No ${words.rcd}` },
            { value: 'own', label: `Its own ${words.rcd}` },
            ...job.residualDevices
              .filter((d) => d.board === way.board)
              .map((d) => ({ value: d.id, label: `${d.name}, ${d.tripMa ?? '?'} mA` })),
          ]}
          onCommit={(residual) => commit({ kind: 'way.set', id: way.id, patch: { residual } })}
        />
      </FieldGrid>
      {cables.map((k) => (
        <CableThere key={k.id} cable={k} />
      ))}
      {ends.length > 0 ? (
        <label className="mt-3 block">
          <span className="block text-[0.9rem] text-ink-2">
            <Plus size={14} aria-hidden className="mr-1 inline" />
            {cables.length ? 'Another cable that stays leads to' : 'The cable that stays leads to'}
          </span>
          <select
            className="field w-full"
            value=""
            onChange={(e) => e.target.value && commit({ kind: 'cable.find', id: crypto.randomUUID(), way: way.id, point: e.target.value })}
          >
            <option value="">Choose the point…</option>
            {ends.map((p) => (
              <option key={p.id} value={p.id}>
                {p.name}
                {p.room && `, ${p.room}`}
              </option>
            ))}
          </select>
        </label>
      ) : (
        cables.length === 0 && (
          <div role="group" aria-label="The cable that stays leads to" tabIndex={-1} className="mt-3">
            <p className="text-[0.9rem] text-ink-2">
              The cable that stays is entered by the point it leads to: list that point in the survey first.
            </p>
            <ListPoints />
          </div>
        )
      )}
    </>
  )
}

function CableThere({ cable }: { cable: Cable }) {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const { cables, sizes } = worlds[job.region]
  const to = job.points.find((p) => p.id === cable.to.id)?.name ?? 'a point'
  const set = (patch: Partial<Pick<Cable, 'type' | 'size' | 'metal' | 'lengthM'>>) => commit({ kind: 'cable.set', id: cable.id, patch })
  const metal = cable.metal ?? 'copper'
  return (
    <fieldset className="mt-3 border-t border-rule pt-2">
      <legend className="text-[0.9rem] text-ink-2">Cable to {to}</legend>
      <FieldGrid>
        <SelectField
          label="Kind of the cable there"
          value={cable.type ?? '?'}
          options={[{ value: '?', label: 'Not read' }, ...cables.map((c) => ({ value: c, label: cableNames[c] ?? c }))]}
          onCommit={(v) => set({ type: v === '?' ? null : v, ...(v === '?' ? {} : { size: null }) })}
        />
        <SelectField
          label="Its size"
          value={cable.size ?? '?'}
          options={[
            { value: '?', label: 'Not read' },
            ...sizes(cable.type ?? cables[0]!, metal).map((s) => ({ value: s, label: formatSize(s) })),
          ]}
          onCommit={(v) => set({ size: v === '?' ? null : v })}
        />
        <LengthField
          label="Its length"
          optional
          placeholder="?"
          value={cableM(cable)}
          max={10_000}
          onCommit={(lengthM) => set({ lengthM })}
        />
      </FieldGrid>
    </fieldset>
  )
}
