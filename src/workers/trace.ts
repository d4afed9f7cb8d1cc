import type { Installation } from '../core/installation/installation'
import { type Goal, nextTests } from '../core/survey/traced'

/** Works out the next tests off the main thread; each answer names the question it belongs to. */
addEventListener('message', ({ data }: MessageEvent<{ ask: number; survey: Installation; goal: Goal | null }>) => {
  postMessage({ ask: data.ask, tests: nextTests(data.survey, data.goal) })
})
