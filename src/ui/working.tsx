import type { Thinking } from './use-worker'

/** Long work that goes on: progress and a way to cancel; or cancelled, and a way to resume. */
export function Working({
  words,
  again,
  at: { part, stopped, stop, again: begin },
}: {
  words: string
  again: string
  at: Omit<Thinking<unknown>, 'answer' | 'thinking'>
}) {
  return (
    <div className="no-print flex flex-wrap items-center gap-x-3 gap-y-1" aria-live="polite">
      <span>{stopped ? 'Cancelled.' : words}</span>
      {!stopped && part !== null && (
        <progress className="h-3 w-40 accent-[var(--ink)]" value={part} aria-label={words}>
          {Math.round(part * 100)} %
        </progress>
      )}
      <button type="button" className="btn" onClick={stopped ? begin : stop}>
        {stopped ? again : 'Cancel'}
      </button>
    </div>
  )
}
