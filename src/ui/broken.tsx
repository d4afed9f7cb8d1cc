'use client'

/** Instead of a page that could not be shown: nothing done is lost, and what a browser kept of the page can be cleared. */
export function Broken({ message, retry }: { message: string; retry: () => void }) {
  const clear = async () => {
    // Code and pages are fetched again; what waits to be sent, and the jobs of this device, stay.
    if ('caches' in window) for (const name of await caches.keys()) await caches.delete(name)
    window.location.reload()
  }
  return (
    <main className="mx-auto max-w-[40rem] p-6">
      <h1 className="text-xl font-bold">This page could not be shown</h1>
      <p role="alert" className="mt-3">
        What you did is kept on this device. Try again; where that does not help and there is a connection, clear what the browser kept of
        the page.
      </p>
      <div className="mt-4 flex flex-wrap gap-2">
        <button type="button" className="btn btn-ink" onClick={retry}>
          Try again
        </button>
        <button type="button" className="btn" onClick={() => void clear()}>
          Clear and reload
        </button>
        <a className="btn" href="/">
          All jobs
        </a>
      </div>
      <p className="mt-4 text-[0.85rem] text-ink-2">{message}</p>
    </main>
  )
}
