import { dxfLines } from '../core/building/dxf-lines'

/** Reads a drawing off the main thread; each answer names the question it belongs to. */
addEventListener('message', ({ data: { ask, question } }: MessageEvent<{ ask: number; question: string }>) => {
  postMessage({ ask, answer: dxfLines(question) })
})
