'use client'
import clsx from 'clsx'
import { History, Keyboard, Redo2, Search, Smartphone, Undo2 } from 'lucide-react'
import Link from 'next/link'
import { CircuitPicker } from './circuit-picker'
import { useJob } from '../sync/context'
import { HowSaved } from './how-saved'
import { stepInWords } from '@/core/evaluate/edit-stages'
import { worlds } from '@/core/region/worlds'

export function TopBar({ onOpen }: { onOpen: (what: 'history' | 'palette' | 'shortcuts' | 'phone') => void }) {
  const job = useJob((s) => s.job)
  const { undo: undone, redo: redone } = useJob((s) => s.saved)
  const undo = useJob((s) => s.undo)
  const redo = useJob((s) => s.redo)
  return (
    <header
      className={clsx(
        'no-print flex min-h-13 items-center gap-2 border-b border-rule bg-sheet px-3',
        'max-md:flex-wrap max-md:gap-1 max-md:p-1',
      )}
    >
      <Link href="/" prefetch={false} className="btn border-0 px-2 font-bold" title="All jobs">
        Jobs
      </Link>
      <span aria-hidden className="h-6 border-l border-rule" />
      <div className="min-w-0 flex-1">
        <h1 className="truncate text-[1.05rem] leading-tight">{job.title}</h1>
        <p className="truncate text-[0.82rem] leading-tight text-ink-2">
          {[job.place, worlds[job.region].words.name].filter(Boolean).join(' · ')}
        </p>
      </div>
      <CircuitPicker />
      <HowSaved />
      <button
        type="button"
        className="btn px-2"
        onClick={() => void undo()}
        disabled={!undone}
        aria-label={undone ? stepInWords('Undo', undone) : 'Nothing to undo'}
        title={undone ? `${stepInWords('Undo', undone)} (Ctrl+Z)` : 'Nothing to undo'}
      >
        <Undo2 size={18} aria-hidden />
      </button>
      <button
        type="button"
        className="btn px-2"
        onClick={() => void redo()}
        disabled={!redone}
        aria-label={redone ? stepInWords('Redo', redone) : 'Nothing to redo'}
        title={redone ? `${stepInWords('Redo', redone)} (Ctrl+Shift+Z)` : 'Nothing to redo'}
      >
        <Redo2 size={18} aria-hidden />
      </button>
      <button
        type="button"
        className="btn px-2 max-md:hidden"
        onClick={() => onOpen('history')}
        aria-label="History"
        title="History (G then Y)"
      >
        <History size={18} aria-hidden />
      </button>
      <button
        type="button"
        className="btn px-2"
        onClick={() => onOpen('palette')}
        aria-label="Find a command"
        title="Find a command (Ctrl+K)"
      >
        <Search size={18} aria-hidden />
      </button>
      <button
        type="button"
        className="btn px-2 max-md:hidden"
        onClick={() => onOpen('phone')}
        aria-label="Open it on the phone"
        title="Open it on the phone"
      >
        <Smartphone size={18} aria-hidden />
      </button>
      <button
        type="button"
        className="btn px-2 max-md:hidden"
        onClick={() => onOpen('shortcuts')}
        aria-label="Keyboard shortcuts"
        title="Keyboard shortcuts (?)"
      >
        <Keyboard size={18} aria-hidden />
      </button>
    </header>
  )
}
