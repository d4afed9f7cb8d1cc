import type { Metadata } from 'next'
import { headers } from 'next/headers'
import { notFound } from 'next/navigation'
import type { ReactNode } from 'react'
import { JobShell } from '@/features/shell/shell'
import { storageTroubleHere, store } from '@/server/data'
import { loadJob, NotFoundError } from '@/store/jobs'
import { photographRows } from '@/store/photographs'

interface Props {
  children: ReactNode
  params: Promise<{ id: string }>
}

function load(id: string) {
  try {
    return { ...loadJob(store(), id), photographs: photographRows(store(), id) }
  } catch (e) {
    if (e instanceof NotFoundError) notFound()
    throw e
  }
}

/** The page without its job, as a device keeps it: what stands in the job it reads from its own store. */
const isShell = async (): Promise<boolean> => (await headers()).get('x-synthema-shell') === '1'

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { id } = await params
  if (await isShell()) return {}
  try {
    return { title: load(id).job.title }
  } catch (e) {
    // The page itself says what is wrong with the storage.
    if (storageTroubleHere(e)) return {}
    throw e
  }
}

export default async function JobLayout({ children, params }: Props) {
  const { id } = await params
  const loaded = (await isShell()) ? null : load(id)
  return (
    <JobShell key={id} id={id} loaded={loaded}>
      {children}
    </JobShell>
  )
}
