import { randomUUID } from 'node:crypto'
import { getIronSession } from 'iron-session'
import { cookies } from 'next/headers'
import { RateLimiterMemory } from 'rate-limiter-flexible'
import { z } from 'zod'
import { readBody, route } from '@/server/respond'
import { door, endSession, passes, type Person, sessionOptions } from '@/server/sign-in'

const SLOW_S = 10

const body = z.strictObject({
  name: z.string().trim().min(1, 'Say who you are: the name stands on what you change.').max(120),
  passphrase: z.string().max(1000),
})
/**
 * Guesses are counted before they are checked. From one source a few in a quarter of an hour, and after those one every ten seconds, so
 * that whoever has the right word waits and is not locked out. Over all sources a few checks a second: addresses are easily borrowed.
 */
const few = new RateLimiterMemory({ points: 8, duration: 15 * 60 })
const slow = new RateLimiterMemory({ points: 1, duration: SLOW_S })
const all = new RateLimiterMemory({ points: 20, duration: 5 })

async function mayTry(source: string): Promise<boolean> {
  const counted = (limiter: RateLimiterMemory, key: string) =>
    limiter.consume(key).then(
      () => true,
      () => false,
    )
  return (await counted(all, 'door')) && ((await counted(few, source)) || (await counted(slow, source)))
}

const refuse = (status: number, path: string, message: string) => Response.json({ error: { path, message } }, { status })

export const POST = route(async (request) => {
  const here = door()
  if (!here) return refuse(404, '', 'This server has no door: it listens on its own machine only.')
  const { name, passphrase } = await readBody(request, body)
  const source = request.headers.get('x-forwarded-for') ?? 'unknown'
  if (!(await mayTry(source))) return refuse(429, 'passphrase', `Too many tries at once. Wait ${SLOW_S} seconds, and try again.`)
  if (!(await passes(here, passphrase))) return refuse(401, 'passphrase', 'That is not the passphrase.')
  await few.delete(source)
  const session = await getIronSession<Person>(await cookies(), sessionOptions(here))
  session.name = name
  session.session = randomUUID()
  await session.save()
  return { name }
})

export const DELETE = route(async () => {
  const here = door()
  if (!here) return
  const session = await getIronSession<Person>(await cookies(), sessionOptions(here))
  if (session.session) endSession(session.session)
  session.destroy()
})
