'use client'
import clsx from 'clsx'
import { ArrowDown, ArrowUp, Plus, Trash2 } from 'lucide-react'
import { useState } from 'react'
import { type Accessory, accessory } from '@/core/catalogue/accessories'
import { fittedAt } from '@/core/design/endings'
import { voltsAt } from '@/core/design/load'
import { pointWorkings } from '@/core/documents/sheet'
import { isMeasured } from '@/core/design/layout'
import { profileDrawing } from '@/core/drawing/profile'
import type { CircuitReport } from '@/core/evaluate/evaluate'
import { type Circuit, type CircuitPoint, type Design } from '@/core/installation/installation'
import { formatA, formatOhm, formatPercent, formatSize } from '@/core/base/format'
import { guardsDownstream } from '@/core/design/guards'
import { FittingDrawing } from '@/ui/drawing'
import { CheckField, ChoiceField, SelectField, TextField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section } from '@/ui/panel'
import { Table } from '@/ui/table'
import { pointKinds } from '@/core/job/point'
import { useCircuit, useJob, useSeenJob, useUnits } from '../sync/context'
import { Photographs } from '../photographs/photographs'
import { LoadSourceField } from '../fields/load-source'
import type { PatchOfPoint } from '../fields/patches'
import { AccessoryField } from './accessory-field'
import { LengthField } from '../fields/measure-fields'
import { PointFeeds } from './point-needs'
import { CableInStretches, DivideIt } from './stretches'
import { WorkingCard } from './working-card'
import { Say } from '@/ui/worded'
import { worlds } from '@/core/region/worlds'

/** What may be added along the cable: the next point, one that is there already, a branch or spur from the one picked. */
export function PointTools({ picked, onPick }: { picked: string | null; onPick: (id: string) => void }) {
  const { circuit } = useCircuit()
  const job = useSeenJob()
  const commit = useJob((s) => s.commit)
  const point = circuit.points.find((p) => p.id === picked)
  const radial = circuit.kind !== 'ring'
  const last = circuit.points.at(-1)
  const design = circuit.designs.find((d) => d.id === circuit.chosen)
  // What was found and what is to be put in alike, unless a circuit reaches it or it is taken out.
  const surveyed = circuit.kind === 'feeder' ? [] : job.points.filter((p) => p.state !== 'removed' && !job.circuitOfPoint.has(p.id))
  const add = (from: string | null, box?: string) => {
    const made = {
      id: crypto.randomUUID(),
      name: `Point ${circuit.points.length + 1}`,
      from,
      ...(box === undefined ? {} : { box }),
      // It continues on the line of the one before; how far it is from there is for somebody to measure.
      ...(last
        ? { watts: last.watts, leg: last.leg }
        : // The first is where the run led.
          { lengthM: design?.lengthM ?? null, watts: circuit.load.basis === 'watts' ? circuit.load.amount : null }),
    }
    commit({ kind: 'circuit-point.add', circuit: circuit.id, points: [made] })
    onPick(made.id)
  }
  const take = (id: string) => {
    commit({ kind: 'circuit-point.take', circuit: circuit.id, points: [{ id, from: radial ? (last?.id ?? null) : null, lengthM: null }] })
    onPick(id)
  }
  return (
    <div className="no-print flex flex-wrap items-center gap-2">
      <button type="button" className="btn" onClick={() => add(radial ? (last?.id ?? null) : null)}>
        <Plus size={16} aria-hidden /> {radial ? 'Next point' : 'Next point of the ring'}
      </button>
      {surveyed.length > 0 && (
        <select
          className="field w-auto max-w-64"
          aria-label="Point from the survey"
          value=""
          onChange={(e) => e.target.value && take(e.target.value)}
        >
          <option value="">Point from the survey…</option>
          {surveyed.map((p) => (
            <option key={p.id} value={p.id}>
              {p.name}
              {p.room && `, ${p.room}`}
            </option>
          ))}
        </select>
      )}
      {point && (
        <button type="button" className="btn" onClick={() => add(point.id)}>
          <Plus size={16} aria-hidden />{' '}
          <span className="truncate">
            {radial ? 'Branch' : 'Spur'} from {point.name}
          </span>
        </button>
      )}
      {point && (
        <button type="button" className="btn" onClick={() => add(point.id, point.box.id)}>
          <Plus size={16} aria-hidden /> <span className="truncate">In the box of {point.name}</span>
        </button>
      )}
    </div>
  )
}

/** Points along the circuit, each with what it draws; drop, capacity and loop at every one, the worst named. */
export function PointsAlong({ picked, onPick }: { picked: string | null; onPick: (id: string) => void }) {
  const report = useCircuit()
  const region = useJob((s) => s.job.region)
  const commit = useJob((s) => s.commit)
  const units = useUnits()
  const { circuit, chosen } = report
  const { layout } = chosen
  if (circuit.points.length === 0)
    return circuit.kind === 'ring' ? (
      <p className="text-ink-2">A ring passes its points and comes back to the board: name them in order.</p>
    ) : null
  return (
    <>
      {layout?.points.some(isMeasured) && (
        <div className="overflow-x-auto" tabIndex={0} role="region" aria-label="Voltage along the circuit">
          <FittingDrawing
            draw={(format) => profileDrawing(circuit, layout, worlds[region].drop.percent(circuit.load.lighting), units, format)}
            selected={picked ? `stop:${picked}` : null}
            onSelect={(p) => onPick(p.replace('stop:', ''))}
            className="w-full"
          />
        </div>
      )}
      {layout?.legsA && (
        <p>
          The leg that leaves first carries <b>{formatA(Math.abs(layout.legsA.out))}</b>, the one that comes back{' '}
          <b>{formatA(Math.abs(layout.legsA.back))}</b>.
        </p>
      )}
      {layout?.linesA && (
        <p>
          Line A carries <b>{formatA(layout.linesA.A)}</b>, line B <b>{formatA(layout.linesA.B)}</b>, the neutral{' '}
          <b>{formatA(layout.linesA.neutral)}</b>.
        </p>
      )}
      <PointList report={report} picked={picked} onPick={onPick} />
      {circuit.kind === 'ring' && (
        <div className="w-64">
          <LengthField
            label="From the last point back to the board"
            optional
            value={circuit.closeM}
            max={10_000}
            placeholder="?"
            onCommit={(closeM) => commit({ kind: 'run.set', circuit: circuit.id, patch: { closeM } })}
          />
        </div>
      )}
    </>
  )
}

/** The point picked: its fields, and how its figures came about. */
export function PointPanel({
  point,
  onGone,
  onPickStretch,
}: {
  point: CircuitPoint
  onGone: () => void
  onPickStretch: (key: string) => void
}) {
  const report = useCircuit()
  const job = useSeenJob()
  const { circuit, chosen } = report
  return (
    <>
      <PointFields key={point.id} {...{ point, report, onGone, onPickStretch }} />
      <Photographs of={{ kind: 'point', id: point.id }} hint="The place before, the cable as it lies, the box when it is terminated." />
      {chosen.layout &&
        pointWorkings(job, circuit, chosen)
          .filter((w) => w.title.endsWith(` at ${point.name}`))
          .map((w) => <WorkingCard key={w.title} working={w} />)}
    </>
  )
}

function PointList({ report, picked, onPick }: { report: CircuitReport; picked: string | null; onPick: (id: string) => void }) {
  const { circuit, chosen } = report
  const commit = useJob((s) => s.commit)
  const figures = new Map(chosen.layout?.points.map((p) => [p.point.id, p]))
  const within = new Set(circuit.cables.flatMap((k) => (k.inside ? [k.to.id] : [])))
  return (
    <Table minRem={40} heads={['Point', 'From', 'Cable', 'Through it', 'Good for', 'Drop', 'Loop', '']}>
      {circuit.points.map((p, i) => {
        const f = figures.get(p.id)
        return (
          <tr key={p.id} className={clsx('border-b border-rule', p.id === picked && 'bg-wash')}>
            <td>
              <button
                type="button"
                className="tap w-full text-left font-bold hover:underline"
                aria-pressed={p.id === picked}
                data-opens
                onClick={() => onPick(p.id)}
              >
                {p.name}
                {p.fuseA && <span className="font-normal text-ink-2"> through {p.fuseA} A</span>}
              </button>
              {p.accessory && <span className="block pb-1 text-[0.85rem] text-ink-2">{fittedAt(chosen.design, p)?.name}</span>}
            </td>
            <td>
              {p.from === null ? (
                <Say>{circuit.kind === 'ring' ? 'the ring' : 'the board'}</Say>
              ) : (
                (circuit.points.find((x) => x.id === p.from)?.name ?? '?')
              )}
            </td>
            <td className="whitespace-nowrap">{within.has(p.id) ? 'same box' : f ? formatSize(f.size) : '?'}</td>
            <td className="whitespace-nowrap">{f && f.throughA !== null ? formatA(f.throughA) : '?'}</td>
            <td className="whitespace-nowrap">{f ? formatA(f.ampacityA) : '?'}</td>
            <td className={clsx('whitespace-nowrap', f && f === chosen.layout?.worstDrop && 'font-bold')}>
              {f && f.dropPercent !== null ? formatPercent(f.dropPercent) : '?'}
            </td>
            <td className={clsx('whitespace-nowrap', f && f === chosen.layout?.worstLoop && 'font-bold')}>
              {f?.zsOhm != null ? formatOhm(f.zsOhm) : f?.distanceM === null && chosen.layout?.loopLimit != null ? '?' : '–'}
            </td>
            <td className="no-print text-right whitespace-nowrap">
              {circuit.kind === 'ring' && p.from === null && (
                <>
                  <button
                    type="button"
                    className="btn px-1.5"
                    aria-label={`${p.name} earlier`}
                    disabled={i === 0}
                    onClick={() => commit({ kind: 'circuit-point.move', circuit: circuit.id, id: p.id, to: i - 1 })}
                  >
                    <ArrowUp size={14} aria-hidden />
                  </button>
                  <button
                    type="button"
                    className="btn px-1.5"
                    aria-label={`${p.name} later`}
                    disabled={i === circuit.points.length - 1}
                    onClick={() => commit({ kind: 'circuit-point.move', circuit: circuit.id, id: p.id, to: i + 1 })}
                  >
                    <ArrowDown size={14} aria-hidden />
                  </button>
                </>
              )}
            </td>
          </tr>
        )
      })}
    </Table>
  )
}

/**
 * Outlets there once another accessory is there: none without a face for a plug, as many as its face at least; as they were while
 * it is not chosen.
 */
const outletsWith = (kind: Accessory | undefined, { outlets }: CircuitPoint): { outlets?: number } =>
  kind ? { outlets: kind.outlets && Math.max(kind.outlets, outlets) } : {}

/** What a point draws, read off its plate in watts (or volt-amperes, which count the same) or in amperes. */
function PointLoad({
  circuit,
  point,
  onPreview,
  onCommit,
}: {
  circuit: Circuit
  point: CircuitPoint
  onPreview: (watts: number) => void
  onCommit: (watts: number | null) => void
}) {
  const [inAmps, setInAmps] = useState(false)
  const perUnit = inAmps && circuit.load.volts !== null ? voltsAt(circuit, point) : 1
  return (
    <>
      <NumberField
        key={String(inAmps)}
        label="Draws"
        unit={inAmps ? 'A' : 'W'}
        optional
        placeholder="?"
        value={point.watts === null ? null : point.watts / perUnit}
        max={1_000_000}
        onPreview={(v) => v !== null && onPreview(v * perUnit)}
        onCommit={(v) => onCommit(v === null ? null : v * perUnit)}
      />
      {circuit.load.volts !== null && (
        <ChoiceField
          wide={false}
          label="Given in"
          value={inAmps ? 'A' : 'W'}
          options={[
            { value: 'W', label: 'W, VA' },
            { value: 'A', label: 'A' },
          ]}
          onCommit={(unit) => setInAmps(unit === 'A')}
        />
      )}
    </>
  )
}

const pointKindNames: Readonly<Record<CircuitPoint['kind'], string>> = {
  outlet: 'Outlet',
  switch: 'Switch',
  light: 'Light',
  fixed: 'Fixed appliance',
  box: 'Joint box',
}

/** What a switch turns on and off; where nothing is ticked, what is fed beyond it, or else the light it is fed from. */
function Controls({
  point,
  others,
  design,
  onCommit,
}: {
  point: CircuitPoint
  others: readonly CircuitPoint[]
  design: Pick<Design, 'accessory'>
  onCommit: (controls: string[]) => void
}) {
  const chosen = point.controls ?? []
  const loads = others.filter((p) => p.kind !== 'box' && fittedAt(design, p)?.kind !== 'switch')
  if (loads.length === 0) return null
  return (
    <fieldset className="col-span-full">
      <legend className="text-[0.9rem] text-ink-2">Switches on and off</legend>
      {loads.map((p) => (
        <CheckField
          key={p.id}
          label={p.name}
          value={chosen.includes(p.id)}
          onCommit={(on) => onCommit(on ? [...chosen, p.id] : chosen.filter((id) => id !== p.id))}
        />
      ))}
      {chosen.length === 0 && (
        <p className="text-[0.85rem] text-ink-2">
          If none is ticked, it switches everything fed beyond it, or the light its cable comes from.
        </p>
      )}
    </fieldset>
  )
}

function PointFields({
  point,
  report,
  onGone,
  onPickStretch,
}: {
  point: CircuitPoint
  report: CircuitReport
  onGone: () => void
  onPickStretch: (key: string) => void
}) {
  const region = useJob((s) => s.job.region)
  const commit = useJob((s) => s.commit)
  const show = useJob((s) => s.show)
  const { circuit, chosen } = report
  const edit = (patch: PatchOfPoint) => ({ kind: 'circuit-point.set' as const, circuit: circuit.id, id: point.id, patch })
  const set = (patch: PatchOfPoint) => commit(edit(patch))
  const { design } = chosen
  const kind = fittedAt(design, point)
  const unit = kind?.kind === 'connection-unit'
  const draws = point.kind !== 'switch' && point.kind !== 'box'
  const sizes = worlds[region].sizes(design.cable, design.conductor)
  const others = circuit.points.filter((p) => p.id !== point.id)
  const cable = circuit.cables.find((k) => k.to.id === point.id)
  return (
    <Section title={point.name}>
      <FieldGrid>
        <TextField label="Name" wide value={point.name} onCommit={(name) => name.trim() && set({ name: name.slice(0, 120) })} />
        <SelectField
          label="Fed from"
          value={point.from ?? 'board'}
          options={[
            { value: 'board', label: circuit.kind === 'ring' ? 'The ring itself' : 'The board' },
            ...others.map((p) => ({ value: p.id, label: p.name })),
          ]}
          onCommit={(v) => set({ from: v === 'board' ? null : v })}
        />
        {cable?.inside ? (
          <p className="self-end pb-2 text-[0.9rem] text-ink-2">In the same box: joined there, no cable between.</p>
        ) : cable && cable.stretches.length > 0 ? (
          <CableInStretches cable={cable} onPick={onPickStretch} />
        ) : (
          <LengthField
            label={circuit.kind === 'ring' && point.from === null ? 'From the one before' : 'Cable from there'}
            optional
            placeholder="?"
            value={point.lengthM}
            max={10_000}
            onPreview={(lengthM) => lengthM !== null && show(edit({ lengthM }))}
            onCommit={(lengthM) => set({ lengthM })}
          />
        )}
        <div className="col-span-full">
          <PointFeeds point={point} onCommit={set} />
        </div>
        <SelectField
          label="Kind of point"
          value={point.kind}
          options={pointKinds.map((k) => ({ value: k, label: pointKindNames[k] }))}
          // What the point before it draws is no load of a switch or of a joint.
          onCommit={(k) =>
            set({ kind: k, ...(k === 'outlet' ? {} : { outlets: 0 }), ...(k === 'switch' || k === 'box' ? { watts: null } : {}) })
          }
        />
        {point.kind !== 'box' && (
          <AccessoryField
            label="Accessory here"
            value={point.accessory}
            above={design.accessory}
            onCommit={(own) => set({ accessory: own?.id ?? null, ...outletsWith(own ?? accessory(design.accessory), point) })}
          />
        )}
        {kind?.residual && kind.onward !== 'none' && guardsDownstream(circuit) && circuit.points.some((p) => p.from === point.id) && (
          <CheckField label="Its load side feeds the points downstream" value={point.guardsOn} onCommit={(guardsOn) => set({ guardsOn })} />
        )}
        {(draws || !!point.watts) && (
          <>
            <PointLoad circuit={circuit} point={point} onPreview={(watts) => show(edit({ watts }))} onCommit={(watts) => set({ watts })} />
            <LoadSourceField value={point.wattsFrom} onCommit={(wattsFrom) => set({ wattsFrom })} />
          </>
        )}
        {(draws || point.outlets > 0) && (
          <NumberField label="Outlets there" value={point.outlets} whole max={20} onCommit={(outlets) => set({ outlets: outlets ?? 0 })} />
        )}
        <SelectField
          label="Cable size"
          value={point.size ?? 'same'}
          options={[{ value: 'same', label: 'as the circuit' }, ...sizes.map((s) => ({ value: s, label: formatSize(s) }))]}
          onCommit={(v) => set({ size: v === 'same' ? null : v })}
        />
        {worlds[region].pointFusesA.length > 0 && (draws || point.fuseA !== null) && (
          <SelectField
            label={unit ? 'Fuse in it' : 'Through a fuse'}
            value={point.fuseA === null ? 'none' : String(point.fuseA)}
            options={[
              { value: 'none', label: unit ? 'Not checked' : 'None' },
              ...worlds[region].pointFusesA.map((f) => ({ value: String(f), label: `${f} A` })),
            ]}
            onCommit={(v) => set({ fuseA: v === 'none' ? null : Number(v) })}
          />
        )}
        {kind?.kind === 'switch' && <Controls point={point} others={others} design={design} onCommit={(controls) => set({ controls })} />}
        {circuit.kind === 'shared-neutral' && (
          <ChoiceField
            wide={false}
            label="On line"
            value={point.leg}
            options={[
              { value: 'A', label: 'A' },
              { value: 'B', label: 'B' },
              { value: 'AB', label: 'Both' },
            ]}
            onCommit={(leg) => set({ leg })}
          />
        )}
      </FieldGrid>
      {!cable?.inside && <DivideIt cable={cable} onPick={onPickStretch} />}
      <button
        type="button"
        className="btn mt-3"
        title="Undo brings it back"
        onClick={() => {
          commit({ kind: 'circuit-point.remove', circuit: circuit.id, id: point.id })
          onGone()
        }}
      >
        <Trash2 size={15} aria-hidden /> <span className="truncate">Take {point.name} off</span>
      </button>
    </Section>
  )
}
