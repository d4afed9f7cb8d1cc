import { scrypt, timingSafeEqual } from 'node:crypto'
import { appendFileSync, existsSync, readFileSync } from 'node:fs'
import path from 'node:path'
import type { SessionOptions } from 'iron-session'

/** Who is signed in: the name chosen at the door, which stands on each of their edits. */
export interface Person {
  name?: string
  /** Names the session, so that it can be ended here and not only in the browser. */
  session?: string
}

interface Door {
  readonly salt: string
  readonly hash: string
  readonly seal: string
}

/**
 * The door of a server that listens beyond the loopback, or null where there is none. The starter puts salt, scrypt hash
 * and the key of the session cookie there; the passphrase itself never reaches this process.
 */
export function door(): Door | null {
  const [salt, hash, seal] = (process.env.SYNTHEMA_DOOR ?? '').split(':')
  return salt && hash && seal ? { salt, hash, seal } : null
}

type Headed = Pick<Headers, 'get'>

const cookie = (secure: boolean): SessionOptions['cookieOptions'] => ({ httpOnly: true, sameSite: 'strict', secure, path: '/' })
export const sessionOptions = ({ seal }: Door, headers?: Headed): SessionOptions => ({
  password: seal,
  cookieName: 'synthema-person',
  ttl: 30 * 24 * 3600,
  cookieOptions: cookie(headers !== undefined && schemeOf(headers) === 'https'),
})
/** A device at which somebody signed in before: nobody else's tries shut it out. */
export interface KnownDevice {
  device?: string
}
export const deviceOptions = ({ seal }: Door, headers: Headed): SessionOptions => ({
  password: seal,
  cookieName: 'synthema-device',
  ttl: 366 * 24 * 3600,
  cookieOptions: cookie(schemeOf(headers) === 'https'),
})

/** The fingerprint of the authority that signs this server's certificate, or null where TLS is not ours. */
export const authority = (): string | null => process.env.SYNTHEMA_TLS || null
/**
 * How a request reached this server. What is said of it is believed only where our own front said it, which hears it from the connection or
 * from the proxy that TRUSTED_PROXY names.
 */
export const schemeOf = (headers: Headed): 'http' | 'https' =>
  process.env.SYNTHEMA_FAR === '1' && headers.get('x-forwarded-proto') === 'https' ? 'https' : 'http'

/** Where a request comes from, as our own front says it. Of IPv6 a household has a whole network: it counts as one. */
export function sourceOf(headers: Headed): string {
  const said = process.env.SYNTHEMA_FAR === '1' ? headers.get('x-forwarded-for') : null
  if (said === null) return 'here'
  const plain = said.replace(/^::ffff:/i, '')
  return plain.includes(':') ? `${wholeIpv6(plain).slice(0, 4).join(':')}::/64` : plain
}
/** The eight groups of an IPv6 address. */
function wholeIpv6(address: string): readonly string[] {
  const [head = '', tail = ''] = address.toLowerCase().split('::')
  const [a, b] = [head.split(':').filter(Boolean), tail.split(':').filter(Boolean)]
  return [...a, ...Array.from({ length: Math.max(0, 8 - a.length - b.length) }, () => '0'), ...b]
}

export function passes({ salt, hash }: Door, passphrase: string): Promise<boolean> {
  return new Promise((resolve, reject) =>
    scrypt(passphrase.normalize('NFC'), salt, 32, (problem, key) =>
      problem ? reject(problem) : resolve(timingSafeEqual(key, Buffer.from(hash, 'hex'))),
    ),
  )
}

/** Sessions that were signed out of, by name: kept in the data folder, so that no restart opens them again. */
const holder = globalThis as typeof globalThis & { synthemaEnded?: Set<string> }
const endedFile = (): string => path.resolve(/* turbopackIgnore: true */ process.env.SYNTHEMA_DATA ?? 'data', 'ended-sessions')
function ended(): Set<string> {
  holder.synthemaEnded ??= new Set(existsSync(endedFile()) ? readFileSync(endedFile(), 'utf8').split('\n').filter(Boolean) : [])
  return holder.synthemaEnded
}

/** Ends a session for good: anyone who holds a copy of its cookie is outside as well. */
export function endSession(session: string): void {
  ended().add(session)
  appendFileSync(endedFile(), `${session}\n`, { mode: 0o600 })
}

/** The name of the holder of this session, or null: not signed in, or signed out since. */
export const personOf = ({ name, session }: Person): string | null => (name && session && !ended().has(session) ? name : null)
