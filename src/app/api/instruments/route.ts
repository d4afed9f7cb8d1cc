import { probesWords, queryFor } from '@/core/meters/scpi'
import { instruments, listenTo } from '@/server/instruments'
import { requests } from '@/server/requests'
import { readBody, route } from '@/server/respond'

/** The instruments named at the start. */
export const GET = route(() => ({ instruments: instruments().map((i) => i.name) }))

/** What one of them shows, a line each time, as long as somebody listens. It measures for that: no other site may ask for it. */
export const POST = route(async (request) => {
  const { name, unit, circuit, test } = await readBody(request, requests.instrument)
  const instrument = instruments().find((i) => i.name === name)
  const query = queryFor(unit as Parameters<typeof queryFor>[0])
  if (!instrument || query === null)
    return Response.json({ error: { path: 'name', message: 'There is no such instrument, or it does not measure this.' } }, { status: 404 })
  const encoder = new TextEncoder()
  let stop = () => {}
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      let open = true
      const send = (what: object) => open && controller.enqueue(encoder.encode(`${JSON.stringify(what)}\n`))
      const end = () => {
        if (open) controller.close()
        open = false
      }
      const leave = listenTo(instrument, {
        query,
        probes: probesWords(circuit, test),
        shown: (shown) => send({ shown }),
        trouble: (trouble) => {
          send({ trouble })
          end()
        },
      })
      stop = () => {
        leave()
        open = false
      }
      request.signal.addEventListener('abort', () => stop(), { once: true })
    },
    cancel: () => stop(),
  })
  return new Response(body, {
    headers: { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store, no-transform', 'x-accel-buffering': 'no' },
  })
})
