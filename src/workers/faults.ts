import { type FaultsAsked, faultsOf } from '../core/fault/ask'

/** Tries mistakes off the main thread; each answer names the question it belongs to. */
addEventListener('message', ({ data: { ask, question } }: MessageEvent<{ ask: number; question: FaultsAsked }>) => {
  postMessage({ ask, answer: faultsOf(question) })
})
