import type { Metadata } from 'next'

export const metadata: Metadata = { title: 'Not here · Synthema' }

/** An address that leads to nothing: a job deleted for good, one of another server, a page mistyped. */
export default function NotHere() {
  return (
    <main className="mx-auto max-w-[40rem] p-6">
      <h1 className="text-xl font-bold">There is nothing at this address</h1>
      <p className="mt-3">
        If a label or a link brought you here, its job may be on another server. A deleted job can be restored from the list of deleted
        jobs.
      </p>
      <div className="mt-4 flex flex-wrap gap-2">
        <a className="btn btn-ink" href="/">
          All jobs
        </a>
        <a className="btn" href="/?deleted=1">
          Deleted jobs
        </a>
      </div>
    </main>
  )
}
