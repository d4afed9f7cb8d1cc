'use client'
import { useId, useState } from 'react'
import { readTyped } from '@/core/base/typed'
import { FieldShell, type Shell, useDraft } from './fields'

export interface NumberFieldProps extends Shell {
  value: number | null
  onCommit: (v: number | null) => void
  /** Called while typing, with every value that could be committed. */
  onPreview?: (v: number | null) => void
  min?: number
  max?: number
  whole?: boolean
  optional?: boolean
  placeholder?: string
  digits?: number
}

/** The number typed, in the unit of its field, or why it is none. */
function readNumber(
  text: string,
  { min = 0, max, whole, optional, unit }: Pick<NumberFieldProps, 'min' | 'max' | 'whole' | 'optional' | 'unit'>,
): { value: number | null } | { error: string } {
  const typed = readTyped(text, unit ?? null)
  if ('error' in typed) return typed
  const { value, mark } = typed
  if (mark !== null) return { error: 'A figure alone is wanted here.' }
  if (value === null) return optional ? { value } : { error: 'A number is needed here.' }
  if (whole && !Number.isInteger(value)) return { error: 'A whole number is needed.' }
  if (value < min) return { error: min === 0 ? 'It cannot be less than nothing.' : `It cannot be less than ${min}.` }
  if (max !== undefined && value > max) return { error: `It cannot be more than ${max}.` }
  return { value }
}

export function NumberField({
  value,
  onCommit,
  onPreview,
  min,
  max,
  whole,
  optional,
  placeholder,
  digits = 3,
  ...shell
}: NumberFieldProps) {
  const id = useId()
  const limits = { min, max, whole, optional, unit: shell.unit }
  const [complaint, setComplaint] = useState<string | null>(null)
  const shown = value === null ? '' : String(Number(value.toFixed(digits)))
  const draft = useDraft(
    shown,
    (typed) => {
      const read = readNumber(typed, limits)
      setComplaint('error' in read ? read.error : null)
      if ('value' in read) onCommit(read.value)
    },
    (typed) => {
      const read = readNumber(typed, limits)
      if ('value' in read) {
        setComplaint(null)
        onPreview?.(read.value)
      }
    },
  )
  const error = complaint ?? shell.error ?? null
  return (
    <FieldShell id={id} {...shell} error={error}>
      <input
        id={id}
        className="field"
        inputMode="decimal"
        autoComplete="off"
        placeholder={placeholder}
        value={draft.text}
        aria-invalid={Boolean(error)}
        aria-describedby={error ? `${id}-error` : undefined}
        onChange={(e) => draft.type(e.target.value)}
        onBlur={() => draft.leave('error' in readNumber(draft.text, limits))}
        onKeyDown={(e) => e.key === 'Enter' && draft.leave('error' in readNumber(draft.text, limits))}
      />
    </FieldShell>
  )
}
