'use client'
import clsx from 'clsx'
import { Plus, X } from 'lucide-react'
import { compareDesigns } from '@/core/choose/compare'
import type { CircuitReport } from '@/core/evaluate/evaluate'
import { worstSeverity } from '@/core/base/finding'
import { TextField } from '@/ui/fields'
import { VerdictMark } from '@/ui/verdict'
import { useJob, useUnits } from '../sync/context'

const names = ['A', 'B', 'C']

/** Up to three ways to build the circuit, side by side; only what differs is listed. */
export function Alternatives({ report }: { report: CircuitReport }) {
  const { circuit, designs } = report
  const units = useUnits()
  const commit = useJob((s) => s.commit)
  const region = useJob((s) => s.job.region)
  const rows = compareDesigns(region, designs, units)
  const differing = rows.filter((r) => r.differs)
  const at = { circuit: circuit.id }
  const add = () => {
    const name = names.find((n) => !circuit.designs.some((d) => d.name === n)) ?? 'New'
    const id = crypto.randomUUID()
    commit({ kind: 'design.copy', ...at, design: circuit.chosen, id, name })
    commit({ kind: 'design.choose', ...at, design: id })
  }
  return (
    <section aria-label="Alternatives" className="mt-1">
      <div className="flex flex-wrap items-center gap-2 border-b border-rule pb-1">
        <h2 className="mr-2 text-[1rem]">Alternatives</h2>
        {designs.length < 3 && (
          <button type="button" className="btn" onClick={add}>
            <Plus size={16} aria-hidden /> Add option
          </button>
        )}
        {designs.length === 1 && (
          <p className="text-[0.9rem] text-ink-2">One design so far. Another starts as its copy; change a value and see what differs.</p>
        )}
      </div>
      {designs.length > 1 && (
        <div className="overflow-x-auto">
          <table className="w-full table-fixed">
            <thead>
              <tr>
                <th scope="col" className="w-36 max-md:w-24 py-1 text-left text-[0.85rem] font-normal text-ink-2">
                  {rows.length - differing.length} values are the same
                </th>
                {designs.map((d) => {
                  const chosen = d.design.id === circuit.chosen
                  const worst = worstSeverity(d.findings.filter((f) => f.severity !== 'note'))
                  return (
                    <th key={d.design.id} scope="col" className={clsx('px-2 py-1 text-left', chosen && 'bg-wash')}>
                      <span className="flex items-center gap-x-2 max-md:gap-x-0.5">
                        <label className="flex tap flex-1 items-center gap-2 max-md:gap-1">
                          <input
                            type="radio"
                            name={`chosen-${circuit.id}`}
                            className="size-4 accent-[var(--ink)]"
                            checked={chosen}
                            onChange={() => commit({ kind: 'design.choose', ...at, design: d.design.id })}
                          />
                          {d.design.name}
                          {chosen && <span className="font-normal text-ink-2 max-md:sr-only">chosen</span>}
                        </label>
                        <VerdictMark of={worst ?? (d.result ? 'met' : 'unknown')} />
                        <button
                          type="button"
                          aria-label={`Remove alternative ${d.design.name}`}
                          className="grid size-8 place-items-center hover:bg-paper hand:h-[44px] max-md:w-9"
                          onClick={() => commit({ kind: 'design.remove', ...at, design: d.design.id })}
                        >
                          <X size={15} aria-hidden />
                        </button>
                      </span>
                    </th>
                  )
                })}
              </tr>
            </thead>
            <tbody>
              {differing.map((r) => (
                <tr key={r.name} className="border-t border-rule align-top">
                  <th scope="row" className="py-0.5 pr-2 text-left font-normal text-ink-2">
                    {r.name}
                  </th>
                  {r.values.map((v, i) => (
                    <td
                      key={designs[i]!.design.id}
                      className={clsx(
                        'px-2 py-0.5 break-words',
                        r.outcome && 'font-bold',
                        designs[i]!.design.id === circuit.chosen && 'bg-wash',
                      )}
                    >
                      {v}
                    </td>
                  ))}
                </tr>
              ))}
              {differing.length === 0 && (
                <tr className="border-t border-rule">
                  <td colSpan={designs.length + 1} className="py-1 text-ink-2">
                    They are the same so far. Change a value of the chosen one.
                  </td>
                </tr>
              )}
            </tbody>
          </table>
        </div>
      )}
      {designs.length > 1 && (
        <div className="mt-2 max-w-xl">
          <TextField
            label="Why this one"
            value={circuit.reason}
            onCommit={(reason) => commit({ kind: 'circuit.set', ...at, patch: { reason } })}
          />
        </div>
      )}
    </section>
  )
}
