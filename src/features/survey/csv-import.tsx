'use client'
import { Upload } from 'lucide-react'
import { type ReactNode, useId, useRef, useState } from 'react'
import type { CsvRow } from '@/core/survey/csv'
import { Section } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'

interface Props<T> {
  title: string
  /** What may be pasted, in one line. */
  columns: string
  example: string
  read: (csv: string) => CsvRow<T>[]
  show: (item: T) => ReactNode
  what: (n: number) => string
  onTake: (items: T[]) => void
}

/** Rows pasted or brought in from a file, looked at before anything is taken; a bad row is named and left out. */
export function CsvImport<T>({ title, columns, example, read, show, what, onTake }: Props<T>) {
  const [csv, setCsv] = useState('')
  const [problem, setProblem] = useState('')
  const picker = useRef<HTMLInputElement>(null)
  const id = useId()
  const rows = csv.trim() ? read(csv) : []
  const good = rows.flatMap((r) => (r.item === null ? [] : [r.item]))
  const open = async (file: File | undefined) => {
    if (!file) return
    if (file.size > 1024 * 1024) return setProblem(`${file.name} is larger than 1 MB.`)
    setProblem('')
    setCsv(await file.text())
  }
  return (
    <Section title={title}>
      <label htmlFor={id} className="mb-0.5 block text-[0.9rem] text-ink-2">
        {columns}
      </label>
      <textarea
        id={id}
        className="field font-mono text-[0.85rem]"
        rows={4}
        placeholder={example}
        value={csv}
        onChange={(e) => setCsv(e.target.value)}
        onDrop={(e) => (e.preventDefault(), void open(e.dataTransfer.files[0]))}
      />
      {problem && (
        <p role="alert" className="font-bold text-error">
          {problem}
        </p>
      )}
      <input
        ref={picker}
        type="file"
        accept=".csv,.tsv,.txt,text/csv"
        className="hidden"
        aria-label={`${title}: file`}
        onChange={(e) => (void open(e.target.files?.[0]), (e.target.value = ''))}
      />
      {rows.length === 0 ? (
        <button type="button" className="btn mt-1.5" onClick={() => picker.current?.click()}>
          <Upload size={16} aria-hidden /> From a file
        </button>
      ) : (
        <>
          <ul className="mt-2 max-h-64 overflow-y-auto border-y border-rule" aria-label="What was read">
            {rows.map((r) => (
              <li key={r.line} className="flex gap-2 border-b border-rule py-1 last:border-0">
                <span className="w-8 shrink-0 text-right text-ink-2">{r.line}</span>
                {r.item === null ? (
                  <p className="flex gap-1.5">
                    <VerdictMark of="error" size={16} label="Left out:" />
                    <span>
                      line {r.line}: {r.problem}
                    </span>
                  </p>
                ) : (
                  <p className="min-w-0">{show(r.item)}</p>
                )}
              </li>
            ))}
          </ul>
          <div className="mt-2 flex gap-2">
            <button type="button" className="btn btn-ink flex-1" disabled={good.length === 0} onClick={() => (onTake(good), setCsv(''))}>
              Take {what(good.length)}
              {rows.length > good.length && `, leave out ${rows.length - good.length}`}
            </button>
            <button type="button" className="btn" onClick={() => setCsv('')}>
              Drop it
            </button>
          </div>
        </>
      )}
    </Section>
  )
}
