import { scrypt, timingSafeEqual } from 'node:crypto'
import type { SessionOptions } from 'iron-session'

/** Who is signed in: the name chosen at the door, which stands on each of their edits. */
export interface Person {
  name?: string
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

export const sessionOptions = ({ seal }: Door): SessionOptions => ({
  password: seal,
  cookieName: 'synthema-person',
  ttl: 30 * 24 * 3600,
  // Plain HTTP in a house: the cookie cannot be Secure, and is kept from scripts and other sites.
  cookieOptions: { httpOnly: true, sameSite: 'strict', secure: false, path: '/' },
})

export function passes({ salt, hash }: Door, passphrase: string): Promise<boolean> {
  return new Promise((resolve, reject) =>
    scrypt(passphrase.normalize('NFC'), salt, 32, (problem, key) =>
      problem ? reject(problem) : resolve(timingSafeEqual(key, Buffer.from(hash, 'hex'))),
    ),
  )
}
