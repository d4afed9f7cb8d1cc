import { type IsolationAsked, isolationAsked } from '../core/day/isolation'

/** Asks the wiring what makes a place dead, off the main thread; each answer names the question it belongs to. */
addEventListener('message', ({ data: { ask, question } }: MessageEvent<{ ask: number; question: IsolationAsked }>) => {
  postMessage({ ask, answer: isolationAsked(question) })
})
