import { z } from 'zod'
import { probesWords, queryFor } from '@/core/meters/scpi'
import { InstrumentError, instruments, linkTo } from '@/server/instruments'
import { route } from '@/server/respond'

const asked = z.object({
  name: z.string().min(1).max(120).optional(),
  unit: z.string().max(12).default(''),
  circuit: z
    .string()
    .regex(/^[^"\r\n]{0,64}$/)
    .default(''),
  test: z
    .string()
    .regex(/^[^"\r\n]{0,64}$/)
    .default(''),
})
const EVERY_MS = 600

/** The instruments named at the start; or, of one of them, what it shows, again and again, as long as somebody listens. */
export const GET = route(async (request) => {
  const { name, unit, circuit, test } = asked.parse(Object.fromEntries(new URL(request.url).searchParams))
  if (name === undefined) return { instruments: instruments().map((i) => i.name) }
  const instrument = instruments().find((i) => i.name === name)
  const query = queryFor(unit as Parameters<typeof queryFor>[0])
  if (!instrument || query === null)
    return Response.json({ error: { path: 'name', message: 'There is no such instrument, or it does not measure this.' } }, { status: 404 })
  const encoder = new TextEncoder()
  const { signal } = request
  const body = new ReadableStream<Uint8Array>({
    start: async (controller) => {
      const send = (what: object) => controller.enqueue(encoder.encode(`data: ${JSON.stringify(what)}\n\n`))
      try {
        const link = await linkTo(instrument)
        signal.addEventListener('abort', link.end, { once: true })
        try {
          if (link.simulated) await link.ask(probesWords(circuit, test))
          while (!signal.aborted) {
            send({ shown: await link.ask(query) })
            await new Promise((r) => setTimeout(r, EVERY_MS))
          }
        } finally {
          link.end()
        }
      } catch (e) {
        if (!(e instanceof InstrumentError)) throw e
        if (!signal.aborted) send({ trouble: e.message })
      }
      if (!signal.aborted) controller.close()
    },
  })
  return new Response(body, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store, no-transform', 'x-accel-buffering': 'no' },
  })
})
