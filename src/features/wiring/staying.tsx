'use client'
import clsx from 'clsx'
import { grouped } from '@/core/base/grouped'
import { LIVE_V } from '@/core/wired/live'
import { potentialWords } from '@/core/drawing/bench'
import { Section } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { flipped } from './switches'
import type { Bench } from './use-bench'

/** Circuits that are there and stay as they are, alive or dead as what is tried leaves them. */
export function Staying({ bench }: { bench: Bench }) {
  const { house, live, trial, setTrial, job } = bench
  const { points, untraced } = house.found
  if (points.length + untraced.length === 0) return null
  const byWay = grouped(points, (p) => p.way)
  return (
    <Section title="What else is in the box">
      <button
        type="button"
        className="btn mb-2 whitespace-normal"
        aria-pressed={trial.drawing}
        onClick={() => setTrial((t) => ({ ...t, drawing: !t.drawing }))}
      >
        Its circuits draw: <b className="ml-1">{trial.drawing ? 'all that was entered' : 'nothing'}</b>
      </button>
      <ul>
        {[...byWay].map(([id, at]) => {
          const way = job.ways.find((w) => w.id === id)
          const device = house.switching.find((s) => s.kind === 'breaker' && s.ways?.includes(id))
          const open = device !== undefined && trial.open.includes(device.element)
          const tripped = device !== undefined && (live?.trips.some((t) => t.id === device.element) ?? false)
          return (
            <li key={id} className="border-b border-rule py-1.5">
              <span className="flex flex-wrap items-center gap-2">
                <b className="min-w-0 flex-1">{way?.label ?? 'A way'}</b>
                {device && (
                  <button type="button" className="btn" aria-pressed={!open} onClick={() => setTrial((t) => flipped(t, device.element))}>
                    {open ? 'off' : tripped ? 'tripped' : 'on'}
                  </button>
                )}
              </span>
              <ul>
                {at.map((p) => {
                  const [line, other] = [live?.potentials[p.line] ?? null, live?.potentials[p.other] ?? null]
                  const alive = Math.max(line ?? 0, other ?? 0) > LIVE_V
                  return (
                    <li key={p.point} className={clsx('flex justify-between gap-2 text-[0.95rem]', !alive && 'text-ink-2')}>
                      <span>
                        {p.name}
                        {p.mustHold && ' (must stay on)'}
                      </span>
                      <span className="whitespace-nowrap">
                        {live ? (alive ? potentialWords(Math.max(line ?? 0, other ?? 0)) : 'dead') : '…'}
                      </span>
                    </li>
                  )
                })}
              </ul>
            </li>
          )
        })}
      </ul>
      {untraced.length > 0 && (
        <p className="mt-1 flex items-start gap-2">
          <VerdictMark of="unknown" /> Not traced, so neither live nor dead here: {untraced.map((u) => u.name).join(', ')}.
        </p>
      )}
    </Section>
  )
}
