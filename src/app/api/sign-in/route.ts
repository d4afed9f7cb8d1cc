import { getIronSession } from 'iron-session'
import { cookies } from 'next/headers'
import { RateLimiterMemory } from 'rate-limiter-flexible'
import { z } from 'zod'
import { readBody, route } from '@/server/respond'
import { door, passes, type Person, sessionOptions } from '@/server/sign-in'

const body = z.strictObject({
  name: z.string().trim().min(1, 'Say who you are: the name stands on what you change.').max(120),
  passphrase: z.string().max(1000),
})
/** Wrong tries in a quarter of an hour, over everybody: addresses are easily borrowed in a house. */
const tries = new RateLimiterMemory({ points: 8, duration: 15 * 60 })
const KEY = 'door'

const refuse = (status: number, path: string, message: string) => Response.json({ error: { path, message } }, { status })

export const POST = route(async (request) => {
  const here = door()
  if (!here) return refuse(404, '', 'This server has no door: it listens on its own machine only.')
  const { name, passphrase } = await readBody(request, body)
  const state = await tries.get(KEY)
  if (state && state.remainingPoints <= 0)
    return refuse(429, 'passphrase', `Too many wrong tries. Wait ${Math.ceil(state.msBeforeNext / 60_000)} minutes.`)
  if (!(await passes(here, passphrase))) {
    await tries.consume(KEY).catch(() => null)
    return refuse(401, 'passphrase', 'That is not the passphrase.')
  }
  const session = await getIronSession<Person>(await cookies(), sessionOptions(here))
  session.name = name
  await session.save()
  return { name }
})

export const DELETE = route(async () => {
  const here = door()
  if (here) (await getIronSession<Person>(await cookies(), sessionOptions(here))).destroy()
})
