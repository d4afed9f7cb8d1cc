import type { MessagePort } from 'node:worker_threads'
import { makePaper, type Wanted } from './papers'
import { tellProgress } from './pdf/kit'

/** Makes one paper, off the thread that answers requests, and tells how far it is. */
export default async function make({ name, wanted, port }: { name: string; wanted: Wanted; port?: MessagePort }) {
  let told = 0
  tellProgress((part) => {
    if (part - told < 0.02) return
    told = part
    port?.postMessage(part)
  })
  const made = await makePaper(name, wanted)
  return made && { ...made, body: typeof made.body === 'string' ? made.body : new Uint8Array(made.body) }
}
