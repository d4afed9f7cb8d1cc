import os from 'node:os'
import type { MessagePort } from 'node:worker_threads'
import type { Wanted } from './paper'
import { makeAsked } from './papers'
import { tellProgress } from './pdf/kit'

/** A third of the share of requests for something else, where both want the processor. */
const NICE = 5
// Linux takes this of the thread alone; elsewhere it would be of the whole server.
if (process.platform === 'linux') os.setPriority(0, NICE)

interface Asked {
  readonly name: string
  readonly wanted: Wanted
  /** Where what is too large to be held in memory is written. */
  readonly folder: string
  readonly port?: MessagePort
}

/** Makes one paper, off the thread that answers requests, and tells how far it is. */
export default async function make({ name, wanted, folder, port }: Asked) {
  let told = 0
  tellProgress((part) => {
    if (part - told < 0.02) return
    told = part
    port?.postMessage(part)
  })
  const made = await makeAsked(name, wanted, folder)
  return made && 'body' in made && typeof made.body !== 'string' ? { ...made, body: new Uint8Array(made.body) } : made
}
