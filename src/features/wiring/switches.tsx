'use client'
import type { Box } from '@/core/build/box'
import { positionKey, type Trial } from '@/core/wired/laid'
import type { Bench } from './use-bench'

const PLUGS = [0, 100, 1500] as const

/** What is tried, with one device more open, or closed again. */
export const flipped = (t: Trial, element: string): Trial => ({
  ...t,
  open: t.open.includes(element) ? t.open.filter((o) => o !== element) : [...t.open, element],
})

/** What a hand can open, turn or plug in, to see what follows; nothing of it is kept. */
export function Switches({ bench, box }: { bench: Bench; box: Box }) {
  const { house, trial, setTrial, live, boxes } = bench
  const isHere = (point: string) => box.points.some((p) => p.id === point)
  const guards = new Set(house.outlets.flatMap((o) => (isHere(o.point) ? (live?.outlets[o.id]?.guardedBy ?? []) : [])))
  const concerns = (s: (typeof house.switching)[number]): boolean =>
    s.kind === 'main' || (s.point ? isHere(s.point) : box.points.some((p) => p.circuit === s.circuit)) || guards.has(s.element)
  // What tripped or was opened is in sight until it is closed again.
  const shown = house.switching.filter((s) => concerns(s) || trial.open.includes(s.element) || live?.trips.some((t) => t.id === s.element))
  return (
    <div className="no-print flex flex-wrap gap-1.5" role="group" aria-label="Switches, to try">
      {shown.map((s) => {
        const tripped = live?.trips.some((t) => t.id === s.element) ?? false
        const open = trial.open.includes(s.element)
        const leaking = live?.residualMa[s.element] ?? 0
        return (
          <button
            key={s.element}
            type="button"
            className="btn whitespace-normal"
            aria-pressed={!open}
            onClick={() => setTrial((t) => flipped(t, s.element))}
          >
            {s.name}: <b className="ml-1">{open ? 'off' : tripped ? 'tripped' : 'on'}</b>
            {leaking >= 0.1 && <span className="ml-1 font-normal">{leaking.toFixed(1)} mA</span>}
          </button>
        )
      })}
      {boxes.flatMap((b) =>
        b.devices.flatMap((d) =>
          d.kind.actuators.map((a) => {
            const key = positionKey(b.id, d.id, a.id)
            const at = trial.positions[key] ?? 0
            return (
              <button
                key={key}
                type="button"
                className="btn whitespace-normal"
                onClick={() => setTrial((t) => ({ ...t, positions: { ...t.positions, [key]: (at + 1) % a.positions.length } }))}
              >
                {boxes.length > 1 ? `${b.name}, ${a.name}` : a.name}: <b className="ml-1">{a.positions[at]}</b>
              </button>
            )
          }),
        ),
      )}
      {house.outlets
        .filter((o) => o.socket && isHere(o.point))
        .map((o) => {
          const watts = trial.plugged[o.id] ?? 0
          const next = PLUGS[(PLUGS.indexOf(watts as 0) + 1) % PLUGS.length]!
          return (
            <button
              key={o.id}
              type="button"
              className="btn whitespace-normal"
              onClick={() => setTrial((t) => ({ ...t, plugged: { ...t.plugged, [o.id]: next } }))}
            >
              {o.name.startsWith(`${box.name}, `) ? o.name.slice(box.name.length + 2) : o.name}:{' '}
              <b className="ml-1">{watts === 0 ? 'empty' : `${watts} W`}</b>
            </button>
          )
        })}
    </div>
  )
}
