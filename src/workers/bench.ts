import { type LiveAsked, liveOf } from '../core/bench/live'

/** Solves wiring off the main thread; each answer names the question it belongs to. */
addEventListener('message', ({ data: { ask, question } }: MessageEvent<{ ask: number; question: LiveAsked }>) => {
  postMessage({ ask, answer: liveOf(question) })
})
