'use client'
import { Say } from '@/ui/worded'
import { Printer } from 'lucide-react'
import { PaperLink } from '../fields/paper-link'
import { benchDrawing } from '@/core/drawing/bench'
import { formatSmallLength, formatSize } from '@/core/base/format'
import { hasOldColours } from '@/core/region/colours'
import { workSteps } from '@/core/build/steps'
import { listedWords } from '@/core/base/finding'
import { colourName } from '@/core/build/words'
import { FittingDrawing } from '@/ui/drawing'
import { ChoiceField } from '@/ui/fields'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { useCircuit, useJob, useUnits } from '../sync/context'
import { useEnd } from '../fields/end-picker'

export function WiringView() {
  const { circuit } = useCircuit()
  const id = useJob((s) => s.id)
  const job = useJob((s) => s.job)
  const { region } = job
  const commit = useJob((s) => s.commit)
  const units = useUnits()
  const { end, picker } = useEnd('wiring', 'order')
  const { fitted, done, where, built } = end
  const steps = built && (fitted || end.joint) ? workSteps(job, built, units) : null
  const left = steps ? steps.map((s) => s.id).filter((s) => !done.includes(s)) : []
  const remarked = built
    ? built.cables.flatMap((k) => k.ends.filter((e) => built.bench.marked.includes(e.name)).map((e) => e.conductor))
    : []
  return (
    <Stage
      title="Wiring"
      drawing={
        <div className="flex min-h-full flex-col gap-2">
          <div className="no-print flex flex-wrap items-center gap-2">
            {picker}
            <span className="flex-1" />
            {fitted && (
              <PaperLink className="btn" job={id} file={`wiring.pdf?circuit=${circuit.id}`} name="Sheet to stick up">
                <Printer size={16} aria-hidden /> Sheet to stick up
              </PaperLink>
            )}
          </div>
          {built && steps ? (
            <>
              <p className="text-lg font-bold">
                {listedWords(built.points.map((p) => p.fitted?.name ?? 'Joint box'))}
                {(where || built.points.length > 1) && <span className="block text-[0.95rem] font-normal text-ink-2">{built.name}</span>}
              </p>
              <div className="flex shrink-0 overflow-x-auto" tabIndex={0} role="region" aria-label="The wiring, drawn">
                <FittingDrawing draw={(format) => benchDrawing(built, null, format)} className="max-h-[38rem] w-full" />
              </div>
            </>
          ) : (
            <p className="m-auto max-w-sm text-center text-ink-2">
              No accessory chosen. Choose it in the circuit stage; its terminals and conductors are then drawn here.
            </p>
          )}
        </div>
      }
      working={
        steps ? (
          <>
            {fitted?.caution && <p className="mb-3 border-l-4 border-ink pl-2 font-bold">{fitted.caution}</p>}
            <Section title="At a glance">
              <dl className="grid grid-cols-2 gap-x-3 gap-y-1">
                <dt className="text-ink-2">Strip</dt>
                <dd className="font-bold">{fitted ? formatSmallLength(fitted.stripMm, units) : 'as the connector says'}</dd>
                <dt className="text-ink-2">Terminals take up to</dt>
                <dd className="font-bold">{fitted ? formatSize(fitted.largestSize) : 'as the connector says'}</dd>
                <dt className="text-ink-2">Mark</dt>
                <dd className="font-bold">
                  {remarked.length
                    ? [...new Set(remarked.map((c) => `${colourName(c.colour)} as ${colourName(c.remark!)}`))].join(', ')
                    : 'nothing'}
                </dd>
              </dl>
              {hasOldColours(region) && (
                <div className="mt-2">
                  <FieldGrid>
                    <ChoiceField
                      label="Colours of the cable in the wall"
                      value={circuit.colours}
                      options={[
                        { value: 'new', label: 'Brown, blue' },
                        { value: 'old', label: 'Red, black' },
                      ]}
                      onCommit={(colours) => commit({ kind: 'circuit.set', circuit: circuit.id, patch: { colours } })}
                    />
                  </FieldGrid>
                  {circuit.colours === 'old' && (
                    <p className="mt-1 text-[0.9rem] text-ink-2">
                      Black is neutral here. Where both colours meet, say so on the board (514.14 or its local like).
                    </p>
                  )}
                </div>
              )}
            </Section>
            <Section title="Order of work">
              <ol aria-label="Order of work" tabIndex={-1}>
                {steps.map((s, i) => (
                  <li key={s.id} className="border-b border-rule">
                    <label className="flex tap cursor-pointer items-start gap-2 py-1.5">
                      <input
                        type="checkbox"
                        className="mt-0.5 size-5 shrink-0 accent-[var(--ink)]"
                        checked={done.includes(s.id)}
                        onChange={(e) => built && commit({ kind: 'wiring.step', boxes: [built.id], step: s.id, done: e.target.checked })}
                      />
                      <span className="w-4 shrink-0 text-right text-ink-2">{i + 1}</span>
                      <span>
                        {s.text} {s.clause && <span className="text-[0.85rem] text-ink-2">{s.clause}</span>}
                      </span>
                    </label>
                  </li>
                ))}
              </ol>
              {left.length > 1 && (
                <button
                  type="button"
                  className="btn mt-2 w-full"
                  onClick={() => built && commit({ kind: 'wiring.done', boxes: [built.id], steps: left })}
                >
                  All {left.length} remaining steps are done as written
                </button>
              )}
              <p className="mt-1 text-[0.85rem] text-ink-2">
                <Say>Take it apart in the reverse order: line first, earth last.</Say>
              </p>
            </Section>
          </>
        ) : (
          <p className="text-ink-2">Nothing to wire yet.</p>
        )
      }
    />
  )
}
