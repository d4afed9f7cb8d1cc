'use client'
import { cablesTraced } from '@/core/survey/traced'
import { Section } from '@/ui/panel'
import { useJob } from '../sync/context'

const proofWords = { seen: 'seen', told: 'told by someone', 'left-over': 'left over, not switched off' } as const

/** What the trace found, taken into the record as cables that are there, each with what proves it. */
export function TakenOver() {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const traced = cablesTraced(job)
  if (traced.length === 0 && job.foundCables.length === 0) return null
  const known = new Map(job.foundCables.filter((k) => k.circuit === null).map((k) => [k.to.id, k]))
  const fresh = traced.filter(({ point, from, proof }) => {
    const k = known.get(point)
    return !k || k.from.id !== from.id || k.proof !== proof
  })
  const count = (proof: keyof typeof proofWords) => fresh.filter((k) => k.proof === proof).length
  const parts = (['seen', 'told', 'left-over'] as const).flatMap((proof) => (count(proof) ? [`${count(proof)} ${proofWords[proof]}`] : []))
  return (
    <Section title="Cables in the record">
      <p>
        {known.size === 0
          ? 'No cable is in the record yet.'
          : `${known.size} ${known.size === 1 ? 'cable is' : 'cables are'} in the record.`}
        {fresh.length > 0 && ` Traced since: ${parts.join(', ')}.`}
      </p>
      {fresh.length > 0 && (
        <button type="button" className="btn mt-1 w-full" onClick={() => commit({ kind: 'trace.take', cables: fresh })}>
          {fresh.length === 1 ? 'Take this cable over' : `Take these ${fresh.length} cables over`}
        </button>
      )}
    </Section>
  )
}
