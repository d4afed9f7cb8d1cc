'use client'
import { Fragment, type Ref, useRef } from 'react'
import { usePathname, useRouter, useParams } from 'next/navigation'
import type { OpenItem, PlacedFinding } from '@/core/evaluate/evaluate'
import type { Finding } from '@/core/base/finding'
import { type Lead, leadOf, leadOfOpen } from '@/features/leads/leads'
import { type StageId, stageOf } from '@/core/report/stages'
import { FindingList } from '@/ui/verdict'
import { useWindowed } from '@/ui/windowed'
import { useWorded } from '@/ui/worded'
import { useJob } from '../sync/context'
import { focusField } from './focus-field'

/** Goes where a lead points: the circuit in hand, the stage with its sheet, what is picked there, and the field. */
export function useFollow(): (lead: Lead, circuit: string | null) => void {
  const { id } = useParams<{ id: string }>()
  const router = useRouter()
  const path = usePathname()
  const lead = useJob((s) => s.lead)
  const worded = useWorded()
  return (to, circuit) => {
    lead(to, circuit)
    const at = `/jobs/${id}/${to.stage}`
    const url = to.sheet ? `${at}?sheet=${to.sheet}` : at
    if (path !== at) router.push(url)
    else if (to.sheet) window.history.replaceState(null, '', url)
    focusField(at, (to.fields ?? []).map(worded))
  }
}

/** Where a lead goes, in a few words: the field, where it is one alone, else the place. */
const leadWords = ({ stage, sheet, fields }: Lead, here: StageId): string => {
  if (fields?.length) return `Go to “${fields[0]}”`
  return sheet && stage === here ? 'Go to where it is put right' : `Go to ${stageOf(stage).name}`
}

/** Findings, each leading to the field that answers it. */
export function Findings({
  findings,
  empty,
  stage,
  standing,
}: {
  findings: readonly (Finding & Partial<Pick<PlacedFinding, 'stage' | 'circuit'>>)[]
  empty: string
  stage: StageId
  /** What is picked already: nobody is sent there again. */
  standing?: string
}) {
  const follow = useFollow()
  const worded = useWorded()
  const names = useJob((s) => s.report.byCircuit)
  const several = useJob((s) => s.report.circuits.length > 1)
  return (
    <FindingList
      findings={findings.map((f) => {
        const name = several && f.circuit ? names.get(f.circuit)?.circuit.name : undefined
        return name && !f.message.includes(name) ? { ...f, message: `${name}: ${f.message}` } : f
      })}
      empty={empty}
      linkOf={(f) => {
        if (f.severity === 'note') return null
        const lead = leadOf(f, f.stage ?? stage)
        if (lead.stage === stage && !lead.fields?.length && (lead.at === standing || !lead.sheet)) return null
        return {
          words: leadWords({ ...lead, ...(lead.fields ? { fields: lead.fields.map(worded) } : {}) }, stage),
          follow: () => follow(lead, f.circuit ?? null),
        }
      }}
    />
  )
}

/** About as high as a thing that is open is. */
const OPEN_PX = 45

/** What is still open, each leading to where it is given. */
export function OpenList({ items, stage }: { items: readonly OpenItem[]; stage: StageId }) {
  const worded = useWorded()
  const follow = useFollow()
  const names = useJob((s) => s.report.byCircuit)
  const several = useJob((s) => s.report.circuits.length > 1)
  const list = useRef<HTMLUListElement>(null)
  const { rows, after, measure, onFocus } = useWindowed(items.length, list, OPEN_PX)
  return (
    <ul ref={list} aria-label="Still open" onFocus={onFocus}>
      {rows.map(({ nth, above }) => {
        const o = items[nth]!
        const name = several && o.circuit !== null ? names.get(o.circuit)?.circuit.name : undefined
        return (
          <Fragment key={`${o.field}-${nth}`}>
            {above > 0 && <li aria-hidden style={{ height: above }} />}
            <li ref={measure as Ref<HTMLLIElement>} data-index={nth} className="border-b border-rule last:border-0">
              <button
                type="button"
                className="flex tap w-full items-baseline gap-2 py-1 text-left hover:underline"
                onClick={() => follow(leadOfOpen(o), o.circuit)}
              >
                {o.stage !== stage && <b>{stageOf(o.stage).name}</b>}
                <span className="min-w-0">
                  {name && `${name}: `}
                  {worded(o.ask)}
                </span>
              </button>
            </li>
          </Fragment>
        )
      })}
      {after > 0 && <li aria-hidden style={{ height: after }} />}
    </ul>
  )
}
