'use client'
import { useEffect, useId, useState } from 'react'
import type { Reading } from '@/core/job/reading'
import { judge } from '@/core/verify/judge'
import { guessColumns, type PasteColumns, type PastedRow, readPasted, tableOf } from '@/core/verify/paste'
import { takenOn } from '@/core/verify/taken-on'
import { readingWords } from '@/core/verify/words'
import { SelectField } from '@/ui/fields'
import { FieldGrid } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { useCircuit, useJob } from '../sync/context'

/** The order of an instrument's columns, remembered on this device by how many there are. */
const KEY = 'synthema.paste'
const remembered = (): Record<string, PasteColumns> => {
  try {
    return JSON.parse(localStorage.getItem(KEY) ?? '{}') as Record<string, PasteColumns>
  } catch {
    return {}
  }
}

/** As it would be judged where it is recorded; what is not taken is unknown. */
const markOf = ({ why, test, reading }: PastedRow): 'met' | 'error' | 'unknown' =>
  why !== null || !test || !reading
    ? 'unknown'
    : judge(test, { ...reading, unit: test.unit } as Reading).verdict === 'met'
      ? 'met'
      : 'error'

/** Readings from a file or list of an instrument, looked at row by row before any is recorded. */
export function PasteReadings() {
  const { circuit, testReport } = useCircuit()
  const addReading = useJob((s) => s.addReading)
  const [text, setText] = useState('')
  const [mapped, setMapped] = useState<PasteColumns | null>(null)
  const [said, setSaid] = useState('')
  const id = useId()
  const tests = testReport.judged.map((j) => j.test)
  const rows = tableOf(text)
  const wide = Math.max(0, ...rows.map((r) => r.length))
  useEffect(() => setMapped(wide > 0 ? (remembered()[wide] ?? null) : null), [wide])
  const columns = mapped ?? guessColumns(rows, tests)
  const read = readPasted(rows, columns, tests, (phase) => (testReport.phase[phase].open ? null : testReport.phase[phase].why))
  const good = read.filter((r) => r.why === null && r.test && r.reading)
  const map = (patch: Partial<PasteColumns>) => {
    const next = { ...columns, ...patch }
    setMapped(next)
    localStorage.setItem(KEY, JSON.stringify({ ...remembered(), [wide]: next }))
  }
  const record = () => {
    for (const { test, reading } of good)
      addReading({
        id: crypto.randomUUID(),
        circuit: circuit.id,
        point: null,
        test: test!.id,
        ...reading!,
        unit: test!.unit,
        instrument: '',
        note: 'pasted',
        corrects: testReport.judged.find((j) => j.test.id === test!.id)?.reading?.id ?? null,
        on: takenOn(circuit),
      })
    setSaid(`${good.length} ${good.length === 1 ? 'reading' : 'readings'} recorded.`)
    setText('')
  }
  const options = Array.from({ length: wide }, (_, i) => ({ value: String(i), label: `${i + 1}: ${rows[0]?.[i] ?? ''}`.slice(0, 40) }))
  return (
    <details className="no-print">
      <summary className="tap cursor-pointer font-bold">Paste readings of an instrument</summary>
      <label htmlFor={id} className="mb-0.5 block text-[0.9rem] text-ink-2">
        A row a reading: the test and what was read, from a file or a table
      </label>
      <textarea
        id={id}
        className="field"
        rows={4}
        value={text}
        onChange={(e) => {
          setText(e.target.value.slice(0, 100_000))
          setSaid('')
        }}
      />
      {wide > 2 && (
        <div className="mt-2">
          <FieldGrid>
            <SelectField label="Test column" value={String(columns.test)} options={options} onCommit={(v) => map({ test: Number(v) })} />
            <SelectField
              label="The reading in"
              value={String(columns.reading)}
              options={options}
              onCommit={(v) => map({ reading: Number(v) })}
            />
            <SelectField
              label="Its unit in"
              value={columns.unit === null ? 'none' : String(columns.unit)}
              options={[{ value: 'none', label: 'no column: as the test asks' }, ...options]}
              onCommit={(v) => map({ unit: v === 'none' ? null : Number(v) })}
            />
          </FieldGrid>
        </div>
      )}
      {read.length > 0 && (
        <ul aria-label="Rows as they are read" className="mt-2">
          {read.map((r) => (
            <li key={r.line} className="flex items-start gap-2 border-b border-rule py-1">
              <VerdictMark of={markOf(r)} />
              <span className="min-w-0 flex-1">
                {r.test?.title ?? r.words}
                {r.why !== null && (
                  <span className="block text-ink-2">
                    Row {r.line}: {r.why}
                  </span>
                )}
              </span>
              <b>{r.reading && r.test ? readingWords({ ...r.reading, unit: r.test.unit }) : ''}</b>
            </li>
          ))}
        </ul>
      )}
      {read.length > 0 && (
        <button type="button" className="btn btn-ink mt-2" disabled={good.length === 0} onClick={record}>
          Record the {good.length} that fit
        </button>
      )}
      <p role="status">{said}</p>
    </details>
  )
}
