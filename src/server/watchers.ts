import 'server-only'
import { EventEmitter } from 'node:events'

const holder = globalThis as typeof globalThis & { synthemaWatchers?: EventEmitter; synthemaEnding?: boolean }
/** No job has this for its name. */
const ENDING = Symbol('the server stops')

/** The people who look at a job now; one for the process, however its modules are bundled. */
function watchers(): EventEmitter {
  if (!holder.synthemaWatchers) {
    const made = (holder.synthemaWatchers = new EventEmitter().setMaxListeners(0))
    // A server that is told to stop waits for its answers to end, and these would not.
    for (const signal of ['SIGINT', 'SIGTERM'] as const)
      process.once(signal, () => {
        holder.synthemaEnding = true
        made.emit(ENDING)
      })
  }
  return holder.synthemaWatchers
}

/** Tells everybody who looks at a job that it changed. */
export const tell = (job: string): void => void watchers().emit(job)

/** Calls `changed` at each change of a job, and `ended` when the server stops, until what it returns is called. */
export function watch(job: string, changed: () => void, ended: () => void): () => void {
  watchers().on(job, changed).once(ENDING, ended)
  // A request again at once, over a connection that is still open, gets the same answer.
  if (holder.synthemaEnding) queueMicrotask(ended)
  return () => void watchers().off(job, changed).off(ENDING, ended)
}
