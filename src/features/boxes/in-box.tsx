'use client'
import { type Circuit, pointsThere } from '@/core/installation/installation'
import { SelectField } from '@/ui/fields'
import { FieldGrid, Section } from '@/ui/panel'
import { useJob } from '../sync/context'

const added = [
  { value: 'outlet', label: 'an outlet' },
  { value: 'switch', label: 'a switch' },
  { value: 'light', label: 'a light' },
  { value: 'fixed', label: 'a fixed appliance' },
] as const
const called = { outlet: 'Outlet', switch: 'Switch', light: 'Light', fixed: 'Fixed appliance' } as const

/** What is in the box in hand: points of one circuit or several; another is added beside them, or one of them gets a box of its own. */
export function InBox({ box, from, circuit }: { box: string; from: string | null; circuit: Circuit | null }) {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const here = job.points.filter((p) => p.box.id === box)
  const others = job.points.filter((p) => p.box.id !== box)
  // What was found in a box of its own is put into no box that is still to be fitted.
  const found = pointsThere(here).length > 0
  const offered = others.filter((p) => found || p.planned)
  const nameOf = (id: string) => job.circuits.find((c) => c.id === job.circuitOfPoint.get(id))?.name ?? 'no circuit of this job'
  const add = (kind: keyof typeof called) => {
    const name = `${called[kind]} beside ${here[0]?.name ?? 'it'}`.slice(0, 120)
    const made = { id: crypto.randomUUID(), name, kind, outlets: kind === 'outlet' ? 1 : 0, box }
    if (!circuit) return
    if (circuit.points.length > 0) return commit({ kind: 'circuit-point.add', circuit: circuit.id, points: [{ ...made, from }] })
    // What the circuit ended on so far gets a name, and is the first of two.
    const { load } = circuit
    const lengthM = circuit.designs.find((d) => d.id === circuit.chosen)?.lengthM ?? null
    const first = {
      id: crypto.randomUUID(),
      name: here[0]?.name ?? circuit.name,
      from: null,
      lengthM,
      watts: load.basis === 'watts' ? load.amount : null,
    }
    commit({ kind: 'circuit-point.add', circuit: circuit.id, points: [first, { ...made, from: first.id }] })
  }
  return (
    <Section title="In this box">
      <ul aria-label="Contents of this box">
        {here.map((p) => (
          <li key={p.id} className="flex items-center gap-2 border-b border-rule py-1">
            <span className="min-w-0 flex-1">
              <b>{p.name}</b>
              <span className="block text-[0.9rem] text-ink-2">{nameOf(p.id)}</span>
            </span>
            {here.length > 1 && (
              <button type="button" className="btn" onClick={() => commit({ kind: 'box.share', point: p.id, box: null })}>
                Own box<span className="sr-only"> for {p.name}</span>
              </button>
            )}
          </li>
        ))}
      </ul>
      <div className="mt-2">
        <FieldGrid>
          {circuit !== null && circuit.kind !== 'feeder' && (
            <SelectField
              wide
              label="Add in this box"
              value=""
              placeholder="Choose what"
              options={added.map((o) => ({ ...o, label: `${o.label}, on ${circuit.name}` }))}
              onCommit={add}
            />
          )}
          {offered.length > 0 && (
            <SelectField
              wide
              label="Move in from another box"
              value=""
              placeholder="Choose a point"
              options={offered.map((p) => ({ value: p.id, label: p.name, group: nameOf(p.id) }))}
              onCommit={(id) => commit({ kind: 'box.share', point: id, box })}
            />
          )}
        </FieldGrid>
      </div>
    </Section>
  )
}
