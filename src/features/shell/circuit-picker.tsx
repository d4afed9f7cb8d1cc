'use client'
import { Plus } from 'lucide-react'
import { useCircuit, useJob } from '../sync/context'

/** Which circuit is in hand, chosen in this one place; a job holds any number. */
export function CircuitPicker() {
  const circuits = useJob((s) => s.report.circuits)
  const { circuit } = useCircuit()
  const pick = useJob((s) => s.pickCircuit)
  const commit = useJob((s) => s.commit)
  return (
    <div className="flex min-w-0 items-center gap-1.5 max-md:order-last max-md:w-full">
      <label className="sr-only" htmlFor="circuit-in-hand">
        Current circuit
      </label>
      <select
        id="circuit-in-hand"
        className="field min-w-0 flex-1 font-bold md:max-lg:w-44 lg:w-64"
        value={circuit.id}
        onChange={(e) => pick(e.target.value)}
      >
        {circuits.map((c) => {
          const errors = c.findings.filter((f) => f.severity === 'error').length
          return (
            <option key={c.circuit.id} value={c.circuit.id}>
              {c.circuit.name || 'Circuit without a name'}
              {errors ? ` (${errors} ${errors === 1 ? 'error' : 'errors'})` : ''}
            </option>
          )
        })}
      </select>
      <button
        type="button"
        className="btn px-2"
        aria-label="Add a circuit"
        title="Add a circuit"
        onClick={() => {
          const id = crypto.randomUUID()
          commit({ kind: 'circuit.add', id, name: `Circuit ${circuits.length + 1}` })
          pick(id)
        }}
      >
        <Plus size={18} aria-hidden />
      </button>
    </div>
  )
}
