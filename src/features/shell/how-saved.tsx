'use client'
import clsx from 'clsx'
import dayjs from 'dayjs'
import { useJob } from '../sync/context'

const saying = {
  looking: '',
  saved: 'Saved',
  saving: 'Saving…',
  unreachable: 'Kept here, not saved yet',
  refused: 'Not saved',
  conflict: 'Two versions',
} as const

/** The state of what was done: saved, waiting and since when, or what an undo took back. On a phone it is said where the thumb is. */
export function HowSaved() {
  const saving = useJob((s) => s.saving)
  const revision = useJob((s) => s.saved.revision)
  const said = useJob((s) => s.said)
  const waiting = useJob((s) => s.pending.length)
  const oldest = useJob((s) => s.pending[0]?.at)
  const connected = useJob((s) => s.connected)
  const asOf = useJob((s) => s.asOf)
  const away = !connected && saving === 'saved'
  return (
    <p
      aria-live="polite"
      className={clsx(
        'max-w-56 truncate text-[0.85rem]',
        'max-md:fixed max-md:inset-x-0 max-md:bottom-16 max-md:z-20 max-md:h-5 max-md:max-w-none max-md:border-t max-md:border-rule ' +
          'max-md:bg-sheet max-md:px-3 max-md:text-center max-md:leading-5',
        away || ['unreachable', 'refused', 'conflict'].includes(saving) ? 'font-bold' : 'text-ink-2',
      )}
      title={`Revision ${revision}`}
    >
      {said ??
        (away
          ? `No connection: as at ${dayjs(asOf).format(dayjs(asOf).isSame(dayjs(), 'day') ? 'HH:mm' : 'D MMM HH:mm')}`
          : saying[saving])}
      {saving === 'unreachable' && oldest && `: ${waiting}, since ${dayjs(oldest).format('HH:mm')}`}
    </p>
  )
}
