import type { Asked, Heard, Told } from '@/core/base/told'

/** So often, in milliseconds, the page hears how far it is. */
const EVERY_MS = 100

/** Answers what the page asks, off its thread. */
export function answering<Q, A>(work: (question: Q, told: Told) => A): void {
  addEventListener('message', ({ data: { ask, question } }: MessageEvent<Asked<Q>>) => {
    const say = (heard: Heard<A>) => postMessage(heard)
    let last = performance.now()
    const answer = work(question, (part) => {
      const now = performance.now()
      if (now - last < EVERY_MS) return
      last = now
      say({ ask, part })
    })
    say({ ask, answer })
  })
}
