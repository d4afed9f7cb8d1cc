'use client'
import { Trash2 } from 'lucide-react'
import { useState } from 'react'
import { TextField } from '@/ui/fields'
import { FieldGrid } from '@/ui/panel'
import { useSettings } from '@/ui/settings'

/** How the firm shortens words on labels that are too long for their place; the same in all its jobs. */
export function Abbreviations() {
  const { settings, change } = useSettings()
  const { abbreviations } = settings
  const [word, setWord] = useState('')
  const [short, setShort] = useState('')
  const known = abbreviations.some((a) => a.word.toLowerCase() === word.trim().toLowerCase())
  const add = () => {
    change({ abbreviations: [...abbreviations, { word: word.trim().slice(0, 60), short: short.trim().slice(0, 30) }] })
    setWord('')
    setShort('')
  }
  return (
    <details className="mt-2">
      <summary className="tap cursor-pointer">The firm’s abbreviations{abbreviations.length ? ` (${abbreviations.length})` : ''}</summary>
      <p className="text-[0.9rem] text-ink-2">Used in all jobs, on tape, where a label is too long for its place.</p>
      <ul>
        {abbreviations.map((a) => (
          <li key={a.word} className="flex items-center gap-2 border-b border-rule">
            <span className="min-w-0 flex-1">
              {a.word}: <b>{a.short}</b>
            </span>
            <button
              type="button"
              className="btn px-2"
              aria-label={`Remove ${a.word}`}
              onClick={() => change({ abbreviations: abbreviations.filter((x) => x !== a) })}
            >
              <Trash2 size={15} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      <FieldGrid>
        <TextField label="Word" value={word} onCommit={setWord} />
        <TextField
          label="Written as"
          value={short}
          onCommit={setShort}
          {...(known ? { error: 'This word has an abbreviation already.' } : {})}
        />
      </FieldGrid>
      <button
        type="button"
        className="btn mt-1"
        disabled={!word.trim() || !short.trim() || known || abbreviations.length >= 200}
        onClick={add}
      >
        Add abbreviation
      </button>
    </details>
  )
}
