import { dxfLines } from '../core/building/dxf-lines'
import { type Line, roomsFromLines } from '../core/building/from-lines'

/** Reads a drawing, and makes out rooms in its lines, off the main thread; each answer names the question it belongs to. */
addEventListener('message', ({ data: { ask, question } }: MessageEvent<{ ask: number; question: string | readonly Line[] }>) => {
  postMessage({ ask, answer: typeof question === 'string' ? dxfLines(question) : roomsFromLines(question) })
})
