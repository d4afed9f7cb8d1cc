import 'server-only'
import { EventEmitter } from 'node:events'

const holder = globalThis as typeof globalThis & { synthemaWatchers?: EventEmitter }
/** Whoever looks at a job now; one for the process, however its modules are bundled. */
function watchers(): EventEmitter {
  holder.synthemaWatchers ??= new EventEmitter().setMaxListeners(0)
  return holder.synthemaWatchers
}

/** Tells everybody who looks at a job that it changed. */
export const tell = (job: string): void => void watchers().emit(job)

/** Calls `changed` at each change of a job, until what it returns is called. */
export function watch(job: string, changed: () => void): () => void {
  watchers().on(job, changed)
  return () => void watchers().off(job, changed)
}
