import 'server-only'
import { createConnection } from 'node:net'
import { SIMULATED } from '@/core/meters/scpi'

/** An instrument that was named when the server started; nothing else is ever connected to. */
interface Instrument {
  readonly name: string
  readonly host: string
  readonly port: number
}
/** Those of `SYNTHEMA_INSTRUMENTS`: `host:port`, with commas between. What is no such address is left out. */
export function instruments(from = process.env.SYNTHEMA_INSTRUMENTS ?? ''): readonly Instrument[] {
  return from.split(',').flatMap((part): Instrument[] => {
    const m = /^\s*(\[[0-9a-fA-F:]+\]|[\w.-]+):(\d{1,5})\s*$/.exec(part)
    const port = Number(m?.[2])
    return m && port > 0 && port < 65_536 ? [{ name: `${m[1]}:${port}`, host: m[1]!.replaceAll(/[[\]]/g, ''), port }] : []
  })
}

export class InstrumentError extends Error {}
const CONNECT_MS = 3000
const ANSWER_MS = 5000
/** A clock that goes off so much too late stood still together with this machine; an answer may have come meanwhile. */
const LATE_MS = 500
/** A line that is longer than this is babble. */
const MOST_BYTES = 1024

/** A line to an instrument, kept open while it is listened to. */
export interface Link {
  /** Sends a line; where it is a question, gives the answer. @throws InstrumentError where it hangs, babbles or hangs up. */
  readonly ask: (line: string) => Promise<string>
  readonly end: () => void
  readonly simulated: boolean
}

/** @throws InstrumentError */
export async function linkTo({ name, host, port }: Instrument): Promise<Link> {
  const socket = createConnection({ host, port })
  socket.setNoDelay(true)
  let held = ''
  let waiting: { readonly resolve: (line: string) => void; readonly reject: (e: Error) => void } | null = null
  const fail = (why: string) => {
    waiting?.reject(new InstrumentError(`${name} ${why}`))
    waiting = null
    socket.destroy()
  }
  const answer = <T>(ms: number, why: string, begin: (resolve: (x: T) => void, reject: (e: Error) => void) => void): Promise<T> =>
    new Promise<T>((resolve, reject) => {
      const wait = (): NodeJS.Timeout => {
        const due = performance.now() + ms
        return setTimeout(() => {
          if (performance.now() - due > LATE_MS) timer = wait()
          else fail(why)
        }, ms)
      }
      let timer = wait()
      const done =
        <X>(then: (x: X) => void) =>
        (x: X) => {
          clearTimeout(timer)
          then(x)
        }
      begin(done(resolve), done(reject))
    })
  socket.on('error', () => fail('cannot be reached.'))
  socket.on('close', () => fail('hung up.'))
  socket.on('data', (bytes) => {
    held += bytes.toString('latin1')
    if (held.length > MOST_BYTES) return fail('says more than an instrument does; it was cut off.')
    const end = held.indexOf('\n')
    if (end < 0) return
    const line = held.slice(0, end).trim()
    held = held.slice(end + 1)
    waiting?.resolve(line)
    waiting = null
  })
  await answer<void>(CONNECT_MS, 'does not answer.', (resolve, reject) => {
    waiting = { resolve: () => resolve(), reject }
    socket.once('connect', () => {
      waiting = null
      resolve()
    })
  })
  const ask = (line: string): Promise<string> =>
    answer<string>(ANSWER_MS, 'does not answer.', (resolve, reject) => {
      if (waiting) return reject(new InstrumentError(`${name} is still asked for something else.`))
      if (socket.destroyed) return reject(new InstrumentError(`${name} hung up.`))
      // What came unasked for is no answer to this.
      held = ''
      socket.write(`${line}\n`)
      if (!line.endsWith('?')) return resolve('')
      waiting = { resolve, reject }
    })
  const who = await ask('*IDN?')
  return { ask, end: () => socket.destroy(), simulated: who.startsWith(SIMULATED) }
}

/** Milliseconds between two readings of one instrument. */
const EVERY_MS = 600

export interface Listener {
  /** What is asked of it. */
  readonly query: string
  /** Where the probes are, for one that is simulated. */
  readonly probes: string
  readonly shown: (text: string) => void
  readonly trouble: (why: string) => void
}
const hubs = new Map<string, Set<Listener>>()

/** Asks for all who listen, one after the other, over one connection, until nobody does. */
async function serve(instrument: Instrument, listeners: Set<Listener>): Promise<void> {
  try {
    const link = await linkTo(instrument)
    try {
      let at = ''
      while (listeners.size > 0) {
        for (const key of new Set([...listeners].map((l) => `${l.probes}\n${l.query}`))) {
          const those = () => [...listeners].filter((l) => `${l.probes}\n${l.query}` === key)
          const [first] = those()
          if (!first) continue
          if (link.simulated && first.probes !== at) await link.ask((at = first.probes))
          const text = await link.ask(first.query)
          for (const l of those()) l.shown(text)
        }
        await new Promise((r) => setTimeout(r, EVERY_MS))
      }
    } finally {
      link.end()
    }
  } catch (e) {
    if (!(e instanceof InstrumentError)) throw e
    for (const l of listeners) l.trouble(e.message)
    listeners.clear()
  }
}

/** Listens to an instrument with all others who do, over one connection. @returns how to stop */
export function listenTo(instrument: Instrument, listener: Listener): () => void {
  const known = hubs.get(instrument.name)
  const listeners = known ?? new Set<Listener>()
  listeners.add(listener)
  if (!known) {
    hubs.set(instrument.name, listeners)
    void serve(instrument, listeners).finally(() => hubs.get(instrument.name) === listeners && hubs.delete(instrument.name))
  }
  return () => void listeners.delete(listener)
}
