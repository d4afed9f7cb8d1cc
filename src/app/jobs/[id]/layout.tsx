import type { Metadata } from 'next'
import { notFound } from 'next/navigation'
import type { ReactNode } from 'react'
import { JobShell } from '@/features/job/shell'
import { store } from '@/server/data'
import { loadJob, NotFoundError } from '@/store/jobs'

interface Props {
  children: ReactNode
  params: Promise<{ id: string }>
}

function load(id: string) {
  try {
    return loadJob(store(), id)
  } catch (e) {
    if (e instanceof NotFoundError) notFound()
    throw e
  }
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  return { title: load((await params).id).job.title }
}

export default async function JobLayout({ children, params }: Props) {
  const loaded = load((await params).id)
  return (
    <JobShell key={loaded.id} loaded={loaded}>
      {children}
    </JobShell>
  )
}
