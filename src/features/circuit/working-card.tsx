'use client'
import { X } from 'lucide-react'
import type { Working } from '@/core/design/working'

/** How a number came about: formula, the same with the numbers in, what went in, and the clauses. */
export function WorkingCard({ working: w, onClose }: { working: Working; onClose?: () => void }) {
  return (
    <section aria-label={`Working: ${w.title}`} className="mb-5 border-l-4 border-ink bg-paper px-3 py-2">
      <div className="flex items-start gap-2">
        <h2 className="flex-1 text-[1rem]">
          {w.title}: {w.result}
        </h2>
        {onClose && (
          <button
            type="button"
            onClick={onClose}
            aria-label="Close the working"
            className="grid size-8 place-items-center hover:bg-wash hand:size-[44px]"
          >
            <X size={16} aria-hidden />
          </button>
        )}
      </div>
      <p className="text-ink-2">{w.formula}</p>
      <p className="my-1 break-words">{w.numbers}</p>
      <dl className="my-1 text-[0.9rem]">
        {w.inputs.map((i) => (
          <div key={i.name} className="flex justify-between gap-3 border-t border-rule py-0.5">
            <dt>{i.name}</dt>
            <dd className="shrink-0">{i.value}</dd>
          </div>
        ))}
      </dl>
      {w.remark && <p className="text-[0.9rem]">{w.remark}</p>}
      <ul className="mt-1 text-[0.85rem] text-ink-2">
        {w.clauses.map((c) => (
          <li key={c}>{c}</li>
        ))}
      </ul>
    </section>
  )
}
