'use client'
import { formatA } from '@/core/base/format'
import { serviceDemand } from '@/core/survey/service'
import { useJob } from '../sync/context'
import { worlds } from '@/core/region/worlds'

/** The demand of the service part by part, what is spare of it, and what is wrong; or which fact is missing. */
export function DemandTable() {
  const job = useJob((s) => s.job)
  const { result, ask, connectedA, unsaid } = serviceDemand(job)
  const amount = (v: number) => (worlds[job.region].demandUnit === 'VA' ? `${Math.round(v)} VA` : formatA(v))
  if (!result)
    return (
      <p className="text-ink-2">
        {ask
          ? `Not worked out: ${ask} is missing; it is given in the brief or the survey.`
          : `No allowance is published here: ${formatA(connectedA)} is connected ${unsaid ? `without ${unsaid}` : 'in all'}.`}
      </p>
    )
  return (
    <>
      <table className="w-full max-w-2xl text-[0.92rem]">
        <thead>
          <tr className="border-b border-ink text-left text-ink-2">
            <th className="font-normal">Part</th>
            <th className="text-right font-normal">Connected</th>
            <th className="text-right font-normal">Counted</th>
          </tr>
        </thead>
        <tbody>
          {result.parts.map((p, i) => (
            <tr key={i} className="border-b border-rule">
              <td className="py-0.5 first-letter:uppercase">{p.what}</td>
              <td className="text-right">{amount(p.connected)}</td>
              <td className="text-right">{amount(p.counted)}</td>
            </tr>
          ))}
          <tr className="border-b border-rule font-bold">
            <td className="py-0.5">Demand</td>
            <td />
            <td className="text-right">{formatA(result.demandA)}</td>
          </tr>
          <tr className="font-bold">
            <td className="py-0.5">
              {result.spareA < 0 ? 'Over' : 'Spare of'} a service of {formatA(result.demandA + result.spareA)}
            </td>
            <td />
            <td className="text-right">{formatA(Math.abs(result.spareA))}</td>
          </tr>
        </tbody>
      </table>
      {result.findings.map((f) => (
        <p key={f.rule} className="mt-1 font-bold">
          {f.message} ({f.clause})
        </p>
      ))}
    </>
  )
}
