import { randomUUID } from 'node:crypto'
import { getIronSession } from 'iron-session'
import { cookies } from 'next/headers'
import { RateLimiterMemory } from 'rate-limiter-flexible'
import { requests } from '@/server/requests'
import { readBody, route } from '@/server/respond'
import { deviceOptions, door, endSession, type KnownDevice, passes, type Person, sessionOptions, sourceOf } from '@/server/sign-in'

const SLOW_S = 10

/**
 * Guesses are counted before they are checked, those of one source first: from each a few in a quarter of an hour, and after those one
 * every ten seconds, so that a person with the right word waits and is not locked out. What a source is refused is not counted against
 * others.
 * Over all sources that are not known a few checks a second, as addresses are easily borrowed; a device at which somebody signed in before
 * is counted by itself.
 */
const few = new RateLimiterMemory({ points: 8, duration: 15 * 60 })
const slow = new RateLimiterMemory({ points: 1, duration: SLOW_S })
const all = new RateLimiterMemory({ points: 20, duration: 5 })

async function mayTry(source: string, known: boolean): Promise<boolean> {
  const counted = (limiter: RateLimiterMemory, key: string) =>
    limiter.consume(key).then(
      () => true,
      () => false,
    )
  return ((await counted(few, source)) || (await counted(slow, source))) && (known || (await counted(all, 'door')))
}

const refuse = (status: number, path: string, message: string) => Response.json({ error: { path, message } }, { status })

export const POST = route(async (request) => {
  const here = door()
  if (!here) return refuse(404, '', 'This server has no door: it listens on its own machine only.')
  const { name, passphrase } = await readBody(request, requests.signIn)
  const device = await getIronSession<KnownDevice>(await cookies(), deviceOptions(here, request.headers))
  const source = device.device ?? sourceOf(request.headers)
  if (!(await mayTry(source, device.device !== undefined)))
    return refuse(429, 'passphrase', `Too many tries at once. Wait ${SLOW_S} seconds, and try again.`)
  if (!(await passes(here, passphrase))) return refuse(401, 'passphrase', 'That is not the passphrase.')
  await few.delete(source)
  device.device ??= randomUUID()
  await device.save()
  const session = await getIronSession<Person>(await cookies(), sessionOptions(here, request.headers))
  session.name = name
  session.session = randomUUID()
  await session.save()
  return { name }
})

export const DELETE = route(async (request) => {
  const here = door()
  if (!here) return
  const session = await getIronSession<Person>(await cookies(), sessionOptions(here, request.headers))
  if (session.session) endSession(session.session)
  session.destroy()
})
