'use client'
import { useEffect, useRef, useState } from 'react'
import type { Asked, Heard, Told } from '@/core/base/told'

/** What runs longer than this, in milliseconds, is not waited for when something else is asked. */
const PATIENT_MS = 300

/** For so long, in milliseconds, a worker is kept that nobody asks. */
const KEPT_MS = 60_000

/*
 * A worker whose asker has gone waits for the next one of its kind: to begin one takes longer than most answers do.
 */
const resting = new Map<() => Worker, { readonly worker: Worker; readonly end: ReturnType<typeof setTimeout> }>()
function wake(make: () => Worker): Worker {
  const kept = resting.get(make)
  if (!kept) return make()
  clearTimeout(kept.end)
  resting.delete(make)
  return kept.worker
}
function rest(make: () => Worker, worker: Worker): void {
  if (resting.has(make)) return worker.terminate()
  const end = setTimeout(() => {
    resting.delete(make)
    worker.terminate()
  }, KEPT_MS)
  resting.set(make, { worker, end })
}

export interface Thinking<A> {
  /** While it thinks, the answer is the one of before, or null at first: it may be shown, not acted on. */
  readonly answer: A | null
  readonly thinking: boolean
  /** How far it is, from 0 to 1; null while nobody said. */
  readonly part: number | null
  /** Given up: nothing is worked out until it is asked to go on, or something else is asked. */
  readonly stopped: boolean
  readonly stop: () => void
  readonly again: () => void
}

/**
 * The answer to a question, worked out in a worker of the page. `alone` answers where the worker did not arrive, the connection being
 * lost. No question, no answer.
 */
export function useWorker<Q, A>(make: () => Worker, question: Q | null, alone: (question: Q, told?: Told) => A): Thinking<A> {
  const worker = useRef<Worker | null>(null)
  /** It has answered all that it was asked. */
  const idle = useRef(true)
  const asked = useRef(0)
  const means = useRef({ make, alone })
  const [told, setTold] = useState<{ readonly question: Q; readonly answer: A } | null>(null)
  const [part, setPart] = useState<{ readonly question: Q; readonly part: number } | null>(null)
  const [given, setGiven] = useState<Q | null>(null)
  const stopped = question !== null && given === question
  useEffect(() => {
    if (question === null || stopped) return
    const { make: begin, alone: byHand } = means.current
    const thinking = (worker.current ??= wake(begin))
    const ask = ++asked.current
    const since = performance.now()
    let answered = false
    const hear = ({ data }: MessageEvent<Heard<A>>) => {
      if (data.ask !== ask) return
      if ('part' in data) return setPart({ question, part: data.part })
      answered = idle.current = true
      setTold({ question, answer: data.answer })
    }
    const end = () => {
      thinking.terminate()
      worker.current = null
    }
    // It will answer nothing else either.
    const failed = () => {
      answered = true
      end()
      setTold({ question, answer: byHand(question) })
    }
    thinking.addEventListener('message', hear)
    thinking.addEventListener('error', failed)
    idle.current = false
    thinking.postMessage({ ask, question } satisfies Asked<Q>)
    return () => {
      thinking.removeEventListener('message', hear)
      thinking.removeEventListener('error', failed)
      if (!answered && performance.now() - since >= PATIENT_MS) end()
    }
  }, [question, stopped])
  useEffect(
    () => () => {
      if (worker.current && idle.current) rest(means.current.make, worker.current)
      else worker.current?.terminate()
      worker.current = null
    },
    [],
  )
  const thinking = question !== null && !stopped && told?.question !== question
  return {
    answer: question === null ? null : (told?.answer ?? null),
    thinking,
    part: thinking && part?.question === question ? part.part : null,
    stopped: stopped && told?.question !== question,
    stop: () => setGiven(question),
    again: () => setGiven(null),
  }
}
