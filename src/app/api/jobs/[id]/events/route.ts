import { store } from '@/server/data'
import { type IdContext, route } from '@/server/respond'
import { readyPapers } from '@/server/paper-pool'
import { watch } from '@/server/watchers'
import { standing } from '@/store/jobs'

const BEAT_MS = 15_000

/** A line at each change of a job, as it happens: its revision and how many readings it has, or that it is gone. Server-sent events. */
export const GET = route<IdContext>(async (request, { params }) => {
  const { id } = await params
  standing(store(), id)
  readyPapers()
  const encoder = new TextEncoder()
  let stop = () => {}
  const body = new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (text: string) => controller.enqueue(encoder.encode(text))
      const say = () => send(`data: ${JSON.stringify(standing(store(), id))}\n\n`)
      const beat = setInterval(() => send(': still here\n\n'), BEAT_MS)
      let open = true
      const end = () => {
        stop()
        if (open) controller.close()
        open = false
      }
      const unwatch = watch(id, say, end)
      stop = () => {
        clearInterval(beat)
        unwatch()
      }
      request.signal.addEventListener('abort', end, { once: true })
      say()
    },
    cancel: () => stop(),
  })
  return new Response(body, {
    headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-store, no-transform', 'x-accel-buffering': 'no' },
  })
})
