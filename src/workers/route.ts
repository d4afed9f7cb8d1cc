import { waysOfAll, type WaysAsked } from '../core/building/route'

/** Looks for ways off the main thread; each answer names the question it belongs to. */
addEventListener('message', ({ data: { ask, question } }: MessageEvent<{ ask: number; question: readonly WaysAsked[] }>) => {
  postMessage({ ask, answer: waysOfAll(question) })
})
