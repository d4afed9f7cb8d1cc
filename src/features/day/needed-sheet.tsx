'use client'
import { Download } from 'lucide-react'
import { amountWords, materialsOf } from '@/core/day/materials'
import { Section, Stage } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { useJob, useUnits } from '../job/context'
import { PaperLink } from '../job/paper-link'

/** What the design asks for, counted from it; on a phone a list to go shopping with, which opens without a connection. */
export function NeededSheet() {
  const id = useJob((s) => s.id)
  const job = useJob((s) => s.job)
  const report = useJob((s) => s.report)
  const units = useUnits()
  const { lines, unknown } = materialsOf(job, report)
  const asTable = (
    <PaperLink
      job={id}
      file="needed.csv"
      name="What is needed, CSV"
      className="no-print tap flex items-center gap-1 text-ink-2 hover:text-ink"
    >
      <Download size={15} aria-hidden /> As a table
    </PaperLink>
  )
  return (
    <Stage
      title="Day"
      drawing={
        lines.length === 0 ? (
          <p className="text-ink-2">Nothing can be counted yet: breaker, cable, boxes and accessories come from the circuits.</p>
        ) : (
          <Section title="What is needed" aside={asTable}>
            <table className="cards w-full">
              <thead>
                <tr className="text-left text-ink-2">
                  <th className="py-1 font-normal">What</th>
                  <th className="py-1 text-right font-normal">How many</th>
                  <th className="px-2 py-1 font-normal">Where</th>
                </tr>
              </thead>
              <tbody>
                {lines.map((l) => (
                  <tr key={l.id} className="border-b border-rule align-top">
                    <td className="py-1.5 font-bold">{l.what}</td>
                    <td className="py-1.5 text-right whitespace-nowrap">{amountWords(l, units)}</td>
                    <td className="px-2 py-1.5 text-ink-2">{l.where.join(', ')}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </Section>
        )
      }
      working={
        <>
          {unknown.length > 0 && (
            <Section title="Cannot be counted yet">
              <ul>
                {unknown.map((u) => (
                  <li key={u} className="flex items-start gap-2 py-0.5">
                    <VerdictMark of="unknown" /> <span>{u}</span>
                  </li>
                ))}
              </ul>
            </Section>
          )}
          <p className="mb-3 text-[0.9rem] text-ink-2">
            Cable is counted by its way where one was taken, else by the length given and a tenth more. Connectors, fixings and glands are
            not counted: they come from the van.
          </p>
        </>
      }
    />
  )
}
