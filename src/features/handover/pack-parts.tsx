'use client'
import { useState } from 'react'
import { packParts, usualParts } from '@/core/documents/pack-parts'
import { inRegion } from '@/core/region/spelling'
import { Section } from '@/ui/panel'
import { PaperLink } from '../fields/paper-link'
import { useJob } from '../sync/context'

/** The pack of chosen parts. */
export function PackParts() {
  const id = useJob((s) => s.id)
  const region = useJob((s) => s.job.region)
  const [chosen, setChosen] = useState<readonly string[]>(usualParts)
  return (
    <Section title="What goes into the pack">
      <div className="grid gap-x-4 sm:grid-cols-2">
        {packParts.map((p) => (
          <label key={p.id} className="tap flex items-center gap-2">
            <input
              type="checkbox"
              className="size-5 accent-[var(--ink)]"
              checked={chosen.includes(p.id)}
              onChange={(e) => setChosen(e.target.checked ? [...chosen, p.id] : chosen.filter((x) => x !== p.id))}
            />
            {inRegion(region, p.name)}
          </label>
        ))}
      </div>
      <PaperLink job={id} file={`pack.pdf?parts=${chosen.join(',')}`} name="Handover pack" className="btn btn-ink mt-2">
        Make the pack
      </PaperLink>
    </Section>
  )
}
