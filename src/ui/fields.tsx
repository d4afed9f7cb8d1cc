'use client'
import clsx from 'clsx'
import { type ReactNode, useEffect, useId, useRef, useState } from 'react'
import { useWorded } from './worded'

/** An edit while typing goes on is shown at once and written down after this pause, or on leaving the field. */
const SETTLE_MS = 700

export interface Shell {
  label: string
  hint?: ReactNode
  error?: string | null
  unit?: string
  wide?: boolean
}

export function FieldShell({ label, hint, error, unit, wide, id, children }: Shell & { id: string; children: ReactNode }) {
  const worded = useWorded()
  return (
    <div className={clsx('min-w-0', wide && 'col-span-full')}>
      <label htmlFor={id} className="mb-0.5 block text-[0.9rem] text-ink-2">
        {worded(label)}
      </label>
      <div className="flex items-center gap-1.5">
        {children}
        {unit && <span className="shrink-0 text-ink-2">{unit}</span>}
      </div>
      {error ? (
        <p id={`${id}-error`} role="alert" className="mt-0.5 font-bold text-error">
          {worded(error)}
        </p>
      ) : (
        hint && <p className="mt-0.5 text-[0.85rem] text-ink-2">{typeof hint === 'string' ? worded(hint) : hint}</p>
      )}
    </div>
  )
}

/** Keeps what is typed, whatever happens elsewhere, until it has settled or the value changes under it. */
export function useDraft(shown: string, onSettle: (draft: string) => void, onType?: (draft: string) => void) {
  const [draft, setDraft] = useState<string | null>(null)
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined)
  const latest = useRef(onSettle)
  /** Typed since the last settling. The value shown may already be a preview of it, so comparing the two says nothing. */
  const fresh = useRef(false)
  useEffect(() => {
    latest.current = onSettle
  })
  useEffect(() => () => clearTimeout(timer.current), [])
  const settle = (value: string) => {
    clearTimeout(timer.current)
    if (!fresh.current) return
    fresh.current = false
    latest.current(value)
  }
  return {
    text: draft ?? shown,
    type: (value: string) => {
      fresh.current = true
      setDraft(value)
      onType?.(value)
      clearTimeout(timer.current)
      timer.current = setTimeout(() => settle(value), SETTLE_MS)
    },
    leave: (keep: boolean) => {
      if (draft !== null) settle(draft)
      if (!keep) setDraft(null)
    },
  }
}

export function TextField({
  value,
  onCommit,
  multiline,
  placeholder,
  ...shell
}: Shell & { value: string; onCommit: (v: string) => void; multiline?: number; placeholder?: string }) {
  const id = useId()
  const draft = useDraft(value, (v) => v !== value && onCommit(v))
  const common = {
    id,
    className: 'field',
    value: draft.text,
    placeholder,
    'aria-invalid': Boolean(shell.error),
    'aria-describedby': shell.error ? `${id}-error` : undefined,
    onBlur: () => draft.leave(false),
  }
  return (
    <FieldShell id={id} {...shell}>
      {multiline ? (
        <textarea {...common} rows={multiline} onChange={(e) => draft.type(e.target.value)} />
      ) : (
        <input {...common} onChange={(e) => draft.type(e.target.value)} onKeyDown={(e) => e.key === 'Enter' && draft.leave(false)} />
      )}
    </FieldShell>
  )
}

export interface Option<V extends string> {
  value: V
  label: string
  group?: string
}

/** The browser's own select: it works by keyboard, by thumb and by voice without help. */
export function SelectField<V extends string>({
  value,
  options,
  onCommit,
  placeholder,
  ...shell
}: Shell & { value: V | ''; options: readonly Option<V>[]; onCommit: (v: V) => void; placeholder?: string }) {
  const id = useId()
  const worded = useWorded()
  const groups = [...new Set(options.map((o) => o.group ?? ''))]
  const items = (group: string) =>
    options
      .filter((o) => (o.group ?? '') === group)
      .map((o) => (
        <option key={o.value} value={o.value}>
          {worded(o.label)}
        </option>
      ))
  return (
    <FieldShell id={id} {...shell}>
      <select
        id={id}
        className="field"
        value={value}
        aria-invalid={Boolean(shell.error)}
        onChange={(e) => e.target.value !== '' && onCommit(e.target.value as V)}
      >
        {value === '' && <option value="">{placeholder ?? 'Choose…'}</option>}
        {groups.map((g) =>
          g === '' ? (
            items(g)
          ) : (
            <optgroup key={g} label={g}>
              {items(g)}
            </optgroup>
          ),
        )}
      </select>
    </FieldShell>
  )
}

export function CheckField({ label, value, onCommit }: { label: string; value: boolean; onCommit: (v: boolean) => void }) {
  const worded = useWorded()
  return (
    <label className="col-span-full flex tap items-center gap-2">
      <input type="checkbox" className="size-5 shrink-0 accent-[var(--ink)]" checked={value} onChange={(e) => onCommit(e.target.checked)} />
      <span>{worded(label)}</span>
    </label>
  )
}

/** A few choices side by side; arrow keys move, as in any radio group. */
export function ChoiceField<V extends string>({
  label,
  value,
  options,
  onCommit,
  wide = true,
}: {
  label: string
  value: V | null
  options: readonly Option<V>[]
  onCommit: (v: V) => void
  wide?: boolean
}) {
  const name = useId()
  const worded = useWorded()
  return (
    <fieldset className={clsx('min-w-0', wide && 'col-span-full')}>
      <legend className="mb-0.5 text-[0.9rem] text-ink-2">{worded(label)}</legend>
      <div className="flex flex-wrap gap-px">
        {options.map((o) => (
          <label
            key={o.value}
            className={clsx(
              'flex tap cursor-pointer items-center border px-3 has-focus-visible:outline-2 ' +
                'has-focus-visible:outline-offset-2 has-focus-visible:outline-ink',
              value === o.value ? 'border-ink bg-ink text-sheet' : 'border-rule-2 bg-sheet hover:bg-wash',
            )}
          >
            <input type="radio" className="sr-only" name={name} checked={value === o.value} onChange={() => onCommit(o.value)} />
            {worded(o.label)}
          </label>
        ))}
      </div>
    </fieldset>
  )
}
