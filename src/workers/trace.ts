import { nextTestsOf, type NextTestsAsked } from '../core/survey/traced'

/** Works out the next tests off the main thread; each answer names the question it belongs to. */
addEventListener('message', ({ data: { ask, question } }: MessageEvent<{ ask: number; question: NextTestsAsked }>) => {
  postMessage({ ask, answer: nextTestsOf(question) })
})
