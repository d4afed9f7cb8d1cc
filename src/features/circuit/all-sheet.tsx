'use client'
import clsx from 'clsx'
import { PaperLink } from '../fields/paper-link'
import { Plus, Trash2 } from 'lucide-react'
import { loopOfFeeders } from '@/core/design/fed'
import type { CircuitReport } from '@/core/evaluate/evaluate'
import { severities, worstSeverity } from '@/core/base/finding'
import type { Circuit } from '@/core/installation/installation'
import { MAIN_BOARD } from '@/core/job/board'
import { feederBoardId } from '@/core/job/cable'
import { circuitKinds, circuitWorks } from '@/core/job/circuit'
import { formatA, formatPercent, formatSize } from '@/core/base/format'
import { ChoiceField, SelectField, TextField } from '@/ui/fields'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { Table } from '@/ui/table'
import { useCircuit, useJob } from '../sync/context'
import { Findings } from '../fields/findings'
import { DemandTable } from '../fields/demand-table'
import { placeOptions } from './places'
import { sentence } from '@/core/job/part'
import type { RegionId } from '@/core/region/types'
import { useWorded } from '@/ui/worded'
import { worlds } from '@/core/region/worlds'

/** What a kind of circuit is called there. */
function kindName(region: RegionId, kind: Circuit['kind']): string {
  if (kind === 'ring') return 'Ring'
  return kind === 'shared-neutral' ? 'Multiwire branch circuit' : sentence(worlds[region].words[kind])
}

const gravity = (c: CircuitReport): number => {
  const worst = worstSeverity(c.findings.filter((f) => f.severity !== 'note'))
  return worst ? severities.indexOf(worst) : severities.length
}

/** Every circuit of the job, what is wrong first, and what the service is asked for with them. */
export function AllSheet() {
  const report = useJob((s) => s.report)
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const pick = useJob((s) => s.pickCircuit)
  const worded = useWorded()
  const { circuit } = useCircuit()
  const id = useJob((s) => s.id)
  const kinds = circuitKinds.filter((k) =>
    k === 'ring' ? worlds[job.region].rings : k === 'shared-neutral' ? worlds[job.region].sharedNeutrals : true,
  )
  const add = (kind: Circuit['kind']) => {
    const made = crypto.randomUUID()
    commit({ kind: 'circuit.add', id: made, name: `${kindName(job.region, kind)} ${job.circuits.length + 1}`, of: kind })
    pick(made)
  }
  const common = report.stages.find((s) => s.id === 'circuit')!.findings.filter((f) => f.circuit === null)
  return (
    <Stage
      title="Circuit"
      drawing={
        <>
          <div className="no-print mb-3 flex flex-wrap gap-2">
            {kinds.map((k) => (
              <button key={k} type="button" className="btn" onClick={() => add(k)}>
                <Plus size={16} aria-hidden /> {kindName(job.region, k)}
              </button>
            ))}
            <PaperLink className="btn" job={id} file="design.pdf" name="Design sheets">
              Design sheets
            </PaperLink>
          </div>
          <div className="mb-6">
            <Table minRem={44} heads={[['', 'w-8'], 'Circuit', 'Kind', 'Way', 'Load', 'Breaker, size', 'Worst drop']}>
              {report.circuits
                .toSorted((a, b) => gravity(a) - gravity(b))
                .map((c) => {
                  const { result, load, layout } = c.chosen
                  const worst = worstSeverity(c.findings.filter((f) => f.severity !== 'note'))
                  return (
                    <tr key={c.circuit.id} className={clsx('border-b border-rule', c.circuit.id === circuit.id && 'bg-wash')}>
                      <td className="pl-1">
                        <VerdictMark of={worst ?? (result && !c.open.some((o) => o.stage === 'circuit') ? 'met' : 'unknown')} />
                      </td>
                      <td>
                        <button
                          type="button"
                          className="tap w-full py-1 pr-3 text-left hover:underline"
                          aria-pressed={c.circuit.id === circuit.id}
                          onClick={() => pick(c.circuit.id)}
                        >
                          <b>{c.circuit.name || 'without a name'}</b>
                          {c.findings.some((f) => f.severity === 'error') && (
                            <span className="block text-[0.85rem] text-ink-2">
                              {c.findings
                                .filter((f) => f.severity === 'error')
                                .map((f) => worded(f.rule.replaceAll('-', ' ')))
                                .join(', ')}
                            </span>
                          )}
                        </button>
                      </td>
                      <td className="pr-3">
                        {kindName(job.region, c.circuit.kind)}
                        {c.circuit.points.length > 0 &&
                          `, ${c.circuit.points.length} ${c.circuit.points.length === 1 ? 'point' : 'points'}`}
                        {c.circuit.work === 'altered' && ', altered'}
                        {c.upstream.fed && <span className="block text-[0.85rem] text-ink-2">from {c.upstream.fed.name}</span>}
                      </td>
                      <td className="pr-3 whitespace-nowrap">{c.circuit.way || '?'}</td>
                      <td className="pr-3 whitespace-nowrap">{load ? formatA(load.amps) : '?'}</td>
                      <td className="pr-3 font-bold whitespace-nowrap">
                        {result?.size ? `${result.breakerA} A, ${formatSize(result.size)}` : '?'}
                      </td>
                      <td>
                        {result?.dropPercent == null ? '?' : formatPercent(result.dropPercent)}
                        {result?.dropPercent != null && layout?.worstDrop && (
                          <span className="block text-[0.85rem] text-ink-2">{layout.worstDrop.point.name}</span>
                        )}
                      </td>
                    </tr>
                  )
                })}
            </Table>
          </div>
          <Section title="The service with all of them">
            <DemandTable />
          </Section>
        </>
      }
      working={
        <>
          <CircuitFields />
          <Section title="Findings about all of them">
            <Findings
              stage="circuit"
              findings={common}
              empty="Nothing is wrong between the circuits or with the service as it is described."
            />
          </Section>
        </>
      }
    />
  )
}

function CircuitFields() {
  const { circuit } = useCircuit()
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const set = (patch: Partial<Pick<Circuit, 'name' | 'kind' | 'work' | 'place'>>) =>
    commit({ kind: 'circuit.set', circuit: circuit.id, patch })
  const kinds = circuitKinds.filter((k) =>
    k === 'ring' ? worlds[job.region].rings : k === 'shared-neutral' ? worlds[job.region].sharedNeutrals : true,
  )
  const feeders = job.circuits.filter((c) => c.kind === 'feeder' && loopOfFeeders(job.circuits, circuit.id, c.id) === null)
  return (
    <Section title={circuit.name || 'Circuit'}>
      <FieldGrid>
        <TextField label="Name" wide value={circuit.name} onCommit={(name) => set({ name: name.slice(0, 120) })} />
        <SelectField
          label="Kind"
          value={circuit.kind}
          options={kinds.map((k) => ({ value: k, label: kindName(job.region, k) }))}
          onCommit={(kind) => set({ kind })}
        />
        {feeders.length > 0 && (
          <SelectField
            label="Fed from"
            wide
            value={circuit.feeder ?? 'main'}
            options={[
              { value: 'main', label: job.supply.board || `The ${worlds[job.region].words.board}` },
              ...feeders.map((c) => ({ value: c.id, label: `The board at the end of ${c.name}` })),
            ]}
            onCommit={(v) => commit({ kind: 'circuit.connect', circuit: circuit.id, board: v === 'main' ? MAIN_BOARD : feederBoardId(v) })}
          />
        )}
        <TextField
          label="Way"
          value={circuit.way}
          onCommit={(way) => commit({ kind: 'circuit.connect', circuit: circuit.id, way: way.slice(0, 40) })}
        />
        <ChoiceField
          wide={false}
          label="It is"
          value={circuit.work}
          options={circuitWorks.map((w) => ({ value: w, label: w === 'new' ? 'New' : 'Altered' }))}
          onCommit={(work) => set({ work })}
        />
        <SelectField
          label="Room of its points"
          value={circuit.place ?? ''}
          placeholder="Not said yet"
          options={placeOptions}
          onCommit={(place) => set({ place })}
        />
      </FieldGrid>
      {job.circuits.length > 1 && (
        <button
          type="button"
          className="btn mt-3"
          title="Undo brings it back"
          onClick={() => commit({ kind: 'circuit.remove', circuit: circuit.id })}
        >
          <Trash2 size={15} aria-hidden /> <span className="truncate">Remove {circuit.name}</span>
        </button>
      )}
    </Section>
  )
}
