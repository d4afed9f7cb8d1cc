'use client'
import { useEffect, useState } from 'react'
import { queryFor, readingOf } from '@/core/meters/scpi'
import type { Test } from '@/core/verify/tests'
import { readingWords } from '@/core/verify/words'
import type { Reading } from '@/core/job/reading'
import { api, fetched } from '@/ui/api'

type Draft = Pick<Reading, 'value' | 'mark'>
/** Asked for once: they are named when the server starts. */
let known: Promise<readonly string[]> | null = null
const named = (): Promise<readonly string[]> =>
  (known ??= api<{ instruments: string[] }>('GET', '/api/instruments').then(
    (a) => a.instruments,
    () => {
      known = null
      return []
    },
  ))

interface Said {
  readonly shown?: string
  readonly trouble?: string
}
/** What an instrument says, line by line, until it ends or is left. */
async function listenOnce(asked: object, signal: AbortSignal, heard: (said: Said) => void): Promise<void> {
  const response = await fetched('/api/instruments', signal, asked)
  const reader = response.body!.pipeThrough(new TextDecoderStream()).getReader()
  let held = ''
  for (let part = await reader.read(); !part.done; part = await reader.read()) {
    const lines = (held + part.value).split('\n')
    held = lines.pop()!
    for (const line of lines) heard(JSON.parse(line) as Said)
  }
}

/** Listened to from test to test, until somebody stops it. */
let lastTo: string | null = null

/** What an instrument on the network shows, as long as somebody listens; recorded by a press, never by itself. */
export function FromInstrument({
  test,
  circuit,
  onRecord,
}: {
  test: Test
  circuit: string
  onRecord: (draft: Draft, instrument: string) => void
}) {
  const [names, setNames] = useState<readonly string[]>([])
  const [to, listen] = useState<string | null>(lastTo)
  const setTo = (name: string | null) => {
    lastTo = name
    listen(name)
  }
  const [shown, setShown] = useState<{ readonly test: string; readonly draft: Draft | null } | null>(null)
  const [trouble, setTrouble] = useState<string | null>(null)
  useEffect(() => void named().then(setNames), [])
  useEffect(() => {
    if (to === null) return
    const leaving = new AbortController()
    listenOnce({ name: to, unit: test.unit, circuit, test: test.id }, leaving.signal, (said) => {
      if (said.trouble !== undefined) {
        // It is asked again by a hand, not by itself.
        setTrouble(said.trouble)
        lastTo = null
        listen(null)
      } else setShown({ test: test.id, draft: readingOf(said.shown ?? '', test.unit) })
    }).catch(() => setShown(null))
    return () => {
      leaving.abort()
      setShown(null)
    }
  }, [to, test.id, test.unit, circuit])
  if (names.length === 0 || queryFor(test.unit) === null) return null
  const now = shown?.test === test.id ? shown.draft : null
  return (
    <div className="mt-3 border border-rule-2 p-2" role="group" aria-label="From an instrument">
      <div className="flex flex-wrap items-center gap-2">
        {names.map((name) => (
          <button
            key={name}
            type="button"
            className="btn"
            aria-pressed={to === name}
            onClick={() => {
              setTrouble(null)
              setTo(to === name ? null : name)
            }}
          >
            {to === name ? `Listening to ${name}: stop` : `Listen to ${name}`}
          </button>
        ))}
      </div>
      {to !== null && (
        <div className="mt-2 flex items-center gap-2">
          <p className="flex-1 text-lg font-bold" aria-live="off">
            {now ? readingWords({ ...now, unit: test.unit }) : shown ? 'it shows nothing for this test' : 'waiting for it…'}
          </p>
          <button type="button" className="btn btn-ink" disabled={!now} onClick={() => now && onRecord(now, to)}>
            Record what it shows
          </button>
        </div>
      )}
      {trouble && (
        <p role="alert" className="mt-2 font-bold text-error">
          {trouble}
        </p>
      )}
    </div>
  )
}
