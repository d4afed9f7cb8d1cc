'use client'
import type { Box } from '@/core/build/box'
import { House } from '@/core/wired/house'
import { LIVE_V, type Live, type OutletState } from '@/core/wired/live'
import { potentialWords } from '@/core/drawing/bench'
import { Section } from '@/ui/panel'
import { Say } from '@/ui/worded'
import { VerdictMark } from '@/ui/verdict'
import type { Bench } from './use-bench'

const causes = { residual: 'current leaks to earth', overload: 'too much current', magnetic: 'a short circuit' } as const
const seconds = (s: number): string =>
  s === Number.POSITIVE_INFINITY
    ? 'perhaps never'
    : s >= 120
      ? `${Math.round(s / 60)} min`
      : s >= 1
        ? `${Math.round(s)} s`
        : `${s.toFixed(2)} s`

/** What opened by itself, in order. */
export function Trips({ live, house }: { live: Live | null; house: House }) {
  if (!live || live.trips.length === 0) return null
  const names = new Map(house.switching.map((s) => [s.element, s.name]))
  return (
    <ol className="border-2 border-error p-2" aria-label="What trips">
      {live.trips.map((t) => (
        <li key={t.id} className="flex items-start gap-2">
          <VerdictMark of="error" />
          <span>
            <b>{names.get(t.id) ?? 'A device'}</b> trips: {causes[t.cause]}
            {t.toS === Number.POSITIVE_INFINITY ? ', perhaps after an hour or more' : `, within ${seconds(t.toS)}`}. The values shown are
            after that.
          </span>
        </li>
      ))}
    </ol>
  )
}

/** What each outlet or load of the box shows. */
export function Outlets({ bench, box }: { bench: Bench; box: Box }) {
  const { house, live } = bench
  const names = new Map(house.switching.map((s) => [s.element, s.name]))
  const here = house.outlets.filter((o) => box.points.some((p) => p.id === o.point))
  if (here.length === 0) return null
  return (
    <Section title="Power and protection">
      <ul>
        {here.map((o) => {
          const s = live?.outlets[o.id]
          return (
            <li key={o.id} className="border-b border-rule py-1.5">
              <b>{o.name}</b>
              <span className="block">{s ? <Say>{stateWords(s)}</Say> : 'Working it out…'}</span>
              {s && (
                <span className="block text-ink-2">
                  <Say>
                    {s.guardedBy === null
                      ? 'Dead. Its protection shows only when it is live.'
                      : s.guardedBy.length
                        ? `An earth fault here trips ${s.guardedBy.map((g) => names.get(g) ?? g).join(' and ')}.`
                        : 'No residual current device trips on an earth fault here.'}
                  </Say>
                </span>
              )}
            </li>
          )
        })}
      </ul>
    </Section>
  )
}
function stateWords(s: OutletState): string {
  const sides = `${potentialWords(s.line)} and ${potentialWords(s.other)} to earth`
  const alive = s.across > LIVE_V
  if (!alive && Math.max(s.line ?? 0, s.other ?? 0) < LIVE_V) return `Dead (${sides})${s.earthed ? ', earthed' : ', no earth'}.`
  const load = s.watts >= 1 ? `, ${Math.round(s.watts)} W` : ''
  return `${potentialWords(s.across)} across${load} (${sides})${s.earthed ? ', earthed' : ', no earth'}.`
}
