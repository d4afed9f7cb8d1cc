'use client'
import Link from 'next/link'
import { useEffect, useState } from 'react'
import { api } from '@/ui/api'
import { formatWhen } from '@/ui/when'
import { Section } from '@/ui/panel'
import { useJob } from '../sync/context'

type Earlier = readonly { readonly id: string; readonly title: string; readonly updatedAt: string }[]

/** Other jobs at the same place, where there are any and the server is heard. */
export function SamePlace() {
  const id = useJob((s) => s.id)
  const place = useJob((s) => s.saved.job.place)
  const [jobs, setJobs] = useState<Earlier>([])
  useEffect(() => {
    let current = true
    api<Earlier>('GET', `/api/jobs/${id}/same-place`).then(
      (found) => current && setJobs(found),
      () => current && setJobs([]),
    )
    return () => void (current = false)
  }, [id, place])
  if (jobs.length === 0) return null
  return (
    <Section title="Other jobs at this place">
      <ul>
        {jobs.map((j) => (
          <li key={j.id} className="border-b border-rule">
            <Link
              href={`/jobs/${j.id}`}
              prefetch={false}
              className="flex tap flex-wrap items-center justify-between gap-x-3 py-1 hover:underline"
            >
              <b>{j.title}</b> <span className="text-ink-2">{formatWhen(j.updatedAt)}</span>
            </Link>
          </li>
        ))}
      </ul>
    </Section>
  )
}
