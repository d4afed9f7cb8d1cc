import type { Metadata } from 'next'
import { headers } from 'next/headers'
import Link from 'next/link'
import { notFound } from 'next/navigation'
import type { ReactNode } from 'react'
import { JobShell } from '@/features/shell/shell'
import { storageTroubleHere, store } from '@/server/data'
import { loadJob, NotFoundError } from '@/store/jobs'
import { SetAsideError } from '@/store/bring-up'
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

/** The job, or why it was set aside. */
function loadOr(id: string) {
  try {
    return load(id)
  } catch (e) {
    if (e instanceof SetAsideError) return e
    throw e
  }
}

/** The page without its job, as a device keeps it: what is in the job it reads from its own store. */
const isShell = async (): Promise<boolean> => (await headers()).get('x-synthema-shell') === '1'

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { id } = await params
  if (await isShell()) return {}
  try {
    return { title: load(id).job.title }
  } catch (e) {
    // The page itself says what is wrong with the storage, or with the job.
    if (e instanceof SetAsideError || storageTroubleHere(e)) return {}
    throw e
  }
}

/** Says why a job of an older version is not opened, and gives it as it is. */
const SetAside = ({ id, reason }: { id: string; reason: string }) => (
  <main className="mx-auto max-w-[44rem] px-5 py-10">
    <h1 className="text-xl">This job was set aside</h1>
    <p role="alert" className="mt-2">
      {reason}
    </p>
    <p className="mt-4 flex gap-3">
      <a className="btn btn-ink" href={`/api/jobs/${id}/older`} download>
        Download it as it is
      </a>
      <Link className="btn" href="/" prefetch={false}>
        All jobs
      </Link>
    </p>
  </main>
)

export default async function JobLayout({ children, params }: Props) {
  const { id } = await params
  const shell = await isShell()
  const loaded = shell ? null : loadOr(id)
  if (loaded instanceof SetAsideError) return <SetAside id={id} reason={loaded.message} />
  return (
    <JobShell key={id} id={id} loaded={loaded}>
      {children}
    </JobShell>
  )
}
