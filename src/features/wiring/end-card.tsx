'use client'
import { ChevronLeft, ChevronRight } from 'lucide-react'
import type { Box } from '@/core/build/box'
import { deviceWords, endWords, placeWords } from '@/core/build/words'
import { CAP, tailEndName, terminalName } from '@/core/job/bench'
import { FieldGrid, Section } from '@/ui/panel'
import { CheckField, SelectField } from '@/ui/fields'
import { nodeOf } from '@/core/wired/laid'
import { potentialWords } from '@/core/drawing/bench'
import type { Bench } from './use-bench'

/** Every end in a box, in the order of the work: cable by cable, then tails. */
export const endsIn = (box: Box): readonly string[] => [
  ...box.cables.flatMap((k) => k.ends.map((e) => e.name)),
  ...box.bench.tails.flatMap((t) => [tailEndName(t.id, 'a'), tailEndName(t.id, 'b')]),
]

const LOOSE = 'loose'
/** Where an end may go: terminals, connectors, a cap, or nowhere yet. */
function placesOf(box: Box): readonly { readonly value: string; readonly label: string; readonly group?: string }[] {
  return [
    { value: LOOSE, label: 'nowhere yet' },
    { value: CAP, label: 'a cap of its own' },
    ...box.devices.flatMap((d) =>
      d.kind.terminals.map((t) => ({
        value: terminalName(d.id, t.id),
        label: placeWords(box, terminalName(d.id, t.id)),
        group: deviceWords(box, d),
      })),
    ),
    ...box.bench.connectors.map((c) => ({ value: c.id, label: placeWords(box, c.id), group: 'Connectors' })),
  ]
}

/** One end at a time: what it is, where it goes, and the next; and all of them in a list. */
export function EndCard({ bench, box, end, onEnd }: { bench: Bench; box: Box; end: string | null; onEnd: (end: string | null) => void }) {
  const ends = endsIn(box)
  const made = new Map(box.bench.ends.map((e) => [e.end, e.to]))
  const step = (by: 1 | -1) => {
    const at = end === null ? (by === 1 ? -1 : 0) : ends.indexOf(end)
    onEnd(ends[(at + by + ends.length) % ends.length] ?? null)
  }
  const marked = end !== null && box.bench.marked.includes(end)
  const loose = end !== null && bench.trial.loose.includes(nodeOf(box.id, end))
  const tryLoose = (on: boolean) => {
    const node = nodeOf(box.id, end!)
    bench.setTrial((t) => ({ ...t, loose: on ? [...t.loose, node] : t.loose.filter((l) => l !== node) }))
  }
  return (
    <Section title="Conductor ends">
      <div className="flex items-center gap-2">
        <button type="button" className="btn" aria-label="Previous end" onClick={() => step(-1)}>
          <ChevronLeft size={18} aria-hidden />
        </button>
        <p className="min-w-0 flex-1 text-center font-bold first-letter:uppercase">{end === null ? 'none selected' : endWords(box, end)}</p>
        <button type="button" className="btn" aria-label="Next end" onClick={() => step(1)}>
          <ChevronRight size={18} aria-hidden />
        </button>
      </div>
      {end !== null && (
        <div className="mt-2">
          <FieldGrid>
            <SelectField
              wide
              label="Goes to"
              value={made.get(end) ?? LOOSE}
              options={placesOf(box)}
              onCommit={(to) => bench.connect(end, to === LOOSE ? null : to)}
            />
            <CheckField
              label="Re-marked as a line conductor"
              value={marked}
              onCommit={(on) =>
                bench.take({ ...box.bench, marked: on ? [...box.bench.marked, end] : box.bench.marked.filter((m) => m !== end) })
              }
            />
            <CheckField label="Try it loose (not saved)" value={loose} onCommit={tryLoose} />
          </FieldGrid>
        </div>
      )}
      <ul className="mt-2" aria-label="All conductor ends">
        {ends.map((e) => {
          const to = made.get(e)
          const at = bench.live?.potentials[nodeOf(box.id, e)]
          return (
            <li key={e} className="border-b border-rule">
              <button
                type="button"
                aria-pressed={e === end}
                className={`flex tap w-full items-center gap-2 py-1 text-left ${e === end ? 'bg-wash font-bold' : ''}`}
                onClick={() => onEnd(e === end ? null : e)}
              >
                <span className="min-w-0 flex-1">
                  <span className="block first-letter:uppercase">{endWords(box, e)}</span>
                  <span className={to ? 'block text-ink-2' : 'block font-bold text-error'}>
                    {to === CAP ? 'capped' : to ? `to ${placeWords(box, to)}` : 'not connected'}
                  </span>
                </span>
                <span className="w-14 shrink-0 text-right text-ink-2">{potentialWords(at)}</span>
              </button>
            </li>
          )
        })}
      </ul>
    </Section>
  )
}
