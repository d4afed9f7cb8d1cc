'use client'
import { useEffect, useRef, useState } from 'react'

/**
 * The answer to a question, worked out in a worker of the page. While it thinks, the answer is the one of before, or null at first: it may
 * be shown, not acted on. `alone` answers where the worker did not arrive, the connection being lost. No question, no answer.
 */
export function useWorker<Q, A>(
  make: () => Worker,
  question: Q | null,
  alone: (question: Q) => A,
): { answer: A | null; thinking: boolean } {
  const worker = useRef<Worker | null>(null)
  const asked = useRef(0)
  const means = useRef({ make, alone })
  const [told, setTold] = useState<{ readonly question: Q; readonly answer: A } | null>(null)
  useEffect(() => {
    if (question === null) return
    const { make: begin, alone: byHand } = means.current
    const thinking = (worker.current ??= begin())
    const ask = ++asked.current
    const hear = ({ data }: MessageEvent<{ ask: number; answer: A }>) => {
      if (data.ask === ask) setTold({ question, answer: data.answer })
    }
    const failed = () => setTold({ question, answer: byHand(question) })
    thinking.addEventListener('message', hear)
    thinking.addEventListener('error', failed)
    thinking.postMessage({ ask, question })
    return () => {
      thinking.removeEventListener('message', hear)
      thinking.removeEventListener('error', failed)
    }
  }, [question])
  useEffect(
    () => () => {
      worker.current?.terminate()
      worker.current = null
    },
    [],
  )
  return { answer: question === null ? null : (told?.answer ?? null), thinking: question !== null && told?.question !== question }
}
