'use client'
import clsx from 'clsx'
import { GripVertical, Plus, Trash2 } from 'lucide-react'
import { useMemo, useState } from 'react'
import { listed } from '@/core/base/finding'
import { builtRaceways } from '@/core/build/raceways'
import { racewayDrawing } from '@/core/drawing/raceway'
import { newRaceway, type Raceway } from '@/core/job/raceway'
import { formatLength, formatPercent, formatSize, formatSmallLength, trim } from '@/core/base/format'
import { celsiusFromFahrenheit, fahrenheitFromCelsius } from '@/core/base/units'
import { conduitSizes } from '@/core/calculate/conduit-fill'
import { racewayKinds, tradeSizes } from '@/core/calculate/tables'
import type { RacewayReport } from '@/core/rules/raceway'
import { DrawingView } from '@/ui/drawing'
import { CheckField, SelectField, TextField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { useJob, useUnits } from '../sync/context'
import { Findings, useFollow } from '../fields/findings'
import { useLed } from '../fields/use-led'
import { BendingSheet } from './bending-sheet'
import { LengthField, SmallLengthField } from '../fields/measure-fields'
import { worlds } from '@/core/region/worlds'

const kindNames: Record<Raceway['kind'], string> = {
  emt: 'EMT, thin steel',
  'pvc-40': 'PVC, schedule 40',
  'pvc-80': 'PVC, schedule 80',
  fmc: 'Flexible metal',
}
/** Elsewhere round conduit is of two kinds, by what it is made of. */
const metricKinds = { emt: 'Steel', 'pvc-40': 'Plastic' } as const
type Bend = Raceway['bends'][number]

/** Several circuits in one raceway: how full it is, what they do to each other, its bends and its growth in the sun. */
export function RacewaysSheet() {
  const job = useJob((s) => s.job)
  const reports = useJob((s) => s.report.raceways)
  const commit = useJob((s) => s.commit)
  const [picked, setPicked] = useState<string | null>(null)
  useLed('circuit', 'raceways', (_, id) => setPicked(id))
  const report = reports.find((r) => r.raceway.id === picked) ?? reports[0]
  const na = worlds[job.region].racewayFill === 'area'
  const add = () => {
    const item = newRaceway(crypto.randomUUID(), `${na ? 'Raceway' : 'Conduit'} ${job.raceways.length + 1}`)
    commit({ kind: 'raceway.add', item })
    setPicked(item.id)
  }
  const toggle = (raceway: Raceway, circuit: string, on: boolean) =>
    commit({
      kind: 'raceway.set',
      id: raceway.id,
      patch: { circuits: on ? [...new Set([...raceway.circuits, circuit])] : raceway.circuits.filter((c) => c !== circuit) },
    })
  return (
    <Stage
      title="Circuit"
      drawing={
        <div className="flex flex-col gap-4">
          <div className="flex flex-wrap items-center gap-2">
            <button type="button" className="btn" onClick={add}>
              <Plus size={16} aria-hidden /> {na ? 'Raceway' : 'Conduit'}
            </button>
          </div>
          <div className="flex max-h-44 flex-wrap gap-2 overflow-y-auto" tabIndex={0} role="region" aria-label="Circuits to draw in">
            {job.circuits.map((c) => (
              <span key={c.id} draggable onDragStart={(e) => e.dataTransfer.setData('text/plain', c.id)} className="btn cursor-grab">
                <GripVertical size={15} className="shrink-0" aria-hidden /> <span className="truncate">{c.name}</span>
              </span>
            ))}
          </div>
          {reports.length === 0 && (
            <p className="text-ink-2">No {na ? 'raceway' : 'conduit'} yet. Add one and drag the circuits into it that run together.</p>
          )}
          <ul className="grid gap-3 lg:grid-cols-2">
            {reports.map((r) => (
              <li
                key={r.raceway.id}
                className={clsx('border bg-sheet p-3', r.raceway.id === report?.raceway.id ? 'border-2 border-ink' : 'border-rule-2')}
                onDragOver={(e) => e.preventDefault()}
                onDrop={(e) => {
                  e.preventDefault()
                  toggle(r.raceway, e.dataTransfer.getData('text/plain'), true)
                }}
              >
                <button
                  type="button"
                  className="mb-1 tap w-full text-left font-bold hover:underline"
                  aria-pressed={r.raceway.id === report?.raceway.id}
                  onClick={() => setPicked(r.raceway.id)}
                >
                  {r.raceway.name}
                  {na
                    ? `, ${r.raceway.tradeSize} ${kindNames[r.raceway.kind]}`
                    : worlds[job.region].racewayFill === 'factors'
                      ? `, ${r.raceway.conduitMm} mm`
                      : ''}
                </button>
                <div className="flex flex-col gap-3">
                  {na && (
                    <DrawingView
                      drawing={racewayDrawing(r.raceway.kind, r.raceway.tradeSize, r.conductors)}
                      className="mx-auto w-40 shrink-0"
                      legible
                    />
                  )}
                  <Facts report={r} />
                </div>
              </li>
            ))}
          </ul>
          {report && <BendingSheet key={report.raceway.id} report={report} />}
        </div>
      }
      working={
        report ? (
          <>
            <RacewayFields key={report.raceway.id} report={report} onToggle={(c, on) => toggle(report.raceway, c, on)} />
            {report.raceway.kind !== 'fmc' && <Bends report={report} />}
            <Section title="Findings">
              <Findings stage="circuit" findings={report.findings} empty={fillWords(report)} />
            </Section>
          </>
        ) : (
          <p className="text-ink-2">Fill, grouping, one protective conductor for all, bends and expansion are worked out for each.</p>
        )
      }
    />
  )
}

/** What its list of findings says where it is empty. */
const fillWords = ({ inside, fill, conduit }: RacewayReport): string =>
  inside.length === 0 ? 'Nothing is in it yet.' : fill || conduit ? 'Fill OK.' : 'The fill is not known yet.'

function Facts({ report: r }: { report: RacewayReport }) {
  const units = useUnits()
  const job = useJob((s) => s.job)
  const { region } = job
  const runsM = useMemo(() => builtRaceways(job).find((b) => b.raceway.id === r.raceway.id)?.runsM, [job, r.raceway.id])
  const facts: [string, string][] = [
    ['In it', r.inside.length ? listed(r.inside.map((i) => i.circuit.name)) : 'nothing yet'],
    [
      'Pipe',
      runsM
        ? `${formatLength(
            runsM.reduce((sum, m) => sum + m, 0),
            units,
          )}${runsM.length > 1 ? ` in ${runsM.length} runs` : ''}`
        : 'length not known',
    ],
    ...(r.fill
      ? ([
          ['Filled', `${formatPercent(100 * r.fill.fillFraction)} of ${formatPercent(100 * r.fill.limitFraction)}`],
          ['Smallest that holds it', r.fill.smallestTradeSize ?? 'none listed'],
        ] as [string, string][])
      : []),
    ...(r.conduit
      ? ([
          ['Factors', `${r.conduit.cableFactor} of ${r.conduit.conduitFactor}`],
          ['Smallest that holds it', r.conduit.smallestMm ? `${r.conduit.smallestMm} mm` : 'none listed'],
        ] as [string, string][])
      : []),
    ...(r.protectiveSize ? [[`One ${worlds[region].words.protective} for all`, formatSize(r.protectiveSize)] as [string, string]] : []),
    [
      'Together',
      worlds[region].racewayFill === 'area'
        ? `${r.loadedConductors} loaded conductors${r.groupingFactor === null ? '' : `, × ${trim(r.groupingFactor, 2)}`}`
        : `${r.inside.length} circuits grouped`,
    ],
    ...(r.bends
      ? [['Bends', `${trim(r.bends.totalDegrees, 1)}° of 360°; cut ${formatSmallLength(r.bends.cutLengthMm, units)}`] as [string, string]]
      : []),
    ...(r.expansion ? [['Grows and shrinks', formatSmallLength(r.expansion.changeMm, units)] as [string, string]] : []),
  ]
  return (
    <dl className="min-w-0 flex-1">
      {facts.map(([name, value]) => (
        <div key={name} className="border-b border-rule py-0.5">
          <dt className="text-[0.85rem] text-ink-2">{name}</dt>
          <dd className="font-bold">{value}</dd>
        </div>
      ))}
    </dl>
  )
}

function RacewayFields({ report, onToggle }: { report: RacewayReport; onToggle: (circuit: string, on: boolean) => void }) {
  const { raceway } = report
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const follow = useFollow()
  const { along } = raceway
  const alongCircuit = along && job.circuits.find((c) => c.cables.some((k) => k.id === along.cable))
  const fahrenheit = useUnits() === 'imperial'
  const na = worlds[job.region].racewayFill === 'area'
  const set = (patch: Partial<Omit<Raceway, 'id'>>) => commit({ kind: 'raceway.set', id: raceway.id, patch })
  const temperature = (label: string, key: 'minC' | 'maxC') => (
    <NumberField
      label={label}
      unit={fahrenheit ? '°F' : '°C'}
      digits={1}
      min={-76}
      max={fahrenheit ? 194 : 90}
      value={fahrenheit ? fahrenheitFromCelsius(raceway[key]) : raceway[key]}
      onCommit={(v) => v !== null && set({ [key]: fahrenheit ? celsiusFromFahrenheit(v) : v })}
    />
  )
  return (
    <Section title={raceway.name}>
      <FieldGrid>
        <TextField label="Name" wide value={raceway.name} onCommit={(name) => name.trim() && set({ name: name.slice(0, 120) })} />
        {na && (
          <>
            <SelectField
              label="Kind"
              value={raceway.kind}
              options={racewayKinds.map((k) => ({ value: k, label: kindNames[k] }))}
              onCommit={(kind) => set({ kind })}
            />
            <SelectField
              label="Trade size"
              value={raceway.tradeSize}
              options={tradeSizes.map((s) => ({ value: s, label: s }))}
              onCommit={(tradeSize) => set({ tradeSize })}
            />
          </>
        )}
        {!na && (
          <SelectField
            label="Made of"
            value={raceway.kind === 'pvc-40' ? 'pvc-40' : 'emt'}
            options={(['emt', 'pvc-40'] as const).map((k) => ({ value: k, label: metricKinds[k] }))}
            onCommit={(kind) => set({ kind })}
          />
        )}
        {worlds[job.region].racewayFill === 'factors' && (
          <>
            <SelectField
              label="Size"
              value={raceway.conduitMm}
              options={conduitSizes.map((s) => ({ value: s, label: `${s} mm` }))}
              onCommit={(conduitMm) => set({ conduitMm })}
            />
            <NumberField
              label="Quarter bends in it"
              value={raceway.bendCount}
              whole
              max={20}
              onCommit={(bendCount) => set({ bendCount: bendCount ?? 0 })}
            />
          </>
        )}
        <LengthField
          label={na ? 'Longest straight' : 'Between draw-in points'}
          optional
          placeholder="?"
          value={raceway.lengthM}
          max={1000}
          onCommit={(lengthM) => set({ lengthM })}
        />
        {na && <CheckField label="A nipple, 24 in or less" value={raceway.nipple} onCommit={(nipple) => set({ nipple })} />}
        {(na || raceway.kind === 'pvc-40') && (
          <>
            {temperature('Coldest over the year', 'minC')}
            {temperature('Warmest over the year', 'maxC')}
          </>
        )}
        {along && (
          <div className="col-span-full">
            <p className="text-[0.9rem] text-ink-2">
              Piece {along.piece} of the route{alongCircuit ? ` of ${alongCircuit.name}` : ''}, as marked out there.
            </p>
            <div className="flex flex-wrap gap-2">
              <button
                type="button"
                className="btn"
                onClick={() => follow({ stage: 'route', sheet: 'way', at: `cable:${along.cable}` }, alongCircuit?.id ?? null)}
              >
                Show the route
              </button>
              <button type="button" className="btn" onClick={() => set({ along: null })}>
                Unlink from the route
              </button>
            </div>
          </div>
        )}
        <fieldset className="col-span-full">
          <legend className="text-[0.9rem] text-ink-2">Circuits in it</legend>
          {job.circuits.map((c) => (
            <CheckField
              key={c.id}
              label={c.name || 'without a name'}
              value={raceway.circuits.includes(c.id)}
              onCommit={(on) => onToggle(c.id, on)}
            />
          ))}
        </fieldset>
      </FieldGrid>
      <button
        type="button"
        className="btn mt-2"
        title="Undo brings it back"
        onClick={() => commit({ kind: 'raceway.remove', id: raceway.id })}
      >
        <Trash2 size={15} aria-hidden /> <span className="truncate">Remove {raceway.name}</span>
      </button>
    </Section>
  )
}

/** Bends in order between two pull points, with the marks to make them by. */
function Bends({ report }: { report: RacewayReport }) {
  const { raceway, bends } = report
  const commit = useJob((s) => s.commit)
  const units = useUnits()
  const na = useJob((s) => worlds[s.job.region].racewayFill === 'area')
  const set = (list: Bend[]) => commit({ kind: 'raceway.set', id: raceway.id, patch: { bends: list } })
  const change = (id: string, patch: Partial<Bend>) => set(raceway.bends.map((b) => (b.id === id ? ({ ...b, ...patch } as Bend) : b)))
  const add = (bend: Bend) => set([...raceway.bends, bend])
  const id = () => crypto.randomUUID()
  return (
    <Section title="Bends between two pull points">
      <FieldGrid>
        <LengthField
          label="Lengths the pipe comes in"
          optional
          placeholder="one piece"
          value={raceway.stockM ?? null}
          max={100}
          onCommit={(stockM) => commit({ kind: 'raceway.set', id: raceway.id, patch: { stockM: stockM || null } })}
        />
        {!na && (
          <SmallLengthField
            label="Radius of the former"
            optional
            placeholder="?"
            value={raceway.formerMm ?? null}
            max={2000}
            onCommit={(formerMm) => commit({ kind: 'raceway.set', id: raceway.id, patch: { formerMm: formerMm || null } })}
          />
        )}
      </FieldGrid>
      <ol>
        {raceway.bends.map((b, i) => {
          const marks = bends?.items[i]
          return (
            <li key={b.id} className="border-b border-rule py-1.5">
              <div className="flex items-end gap-2">
                {b.kind === 'offset' && (
                  <>
                    <SmallLengthField
                      label={`${i + 1}. Offset, rise`}
                      value={b.riseMm}
                      min={1}
                      max={5000}
                      onCommit={(riseMm) => riseMm && change(b.id, { riseMm })}
                    />
                    <NumberField
                      label="Angle"
                      unit="°"
                      value={b.angleDeg}
                      min={1}
                      max={90}
                      onCommit={(angleDeg) => angleDeg && change(b.id, { angleDeg })}
                    />
                  </>
                )}
                {b.kind === 'stub-90' && (
                  <SmallLengthField
                    label={`${i + 1}. Stub of 90°, height`}
                    value={b.heightMm}
                    min={1}
                    max={20_000}
                    onCommit={(heightMm) => heightMm && change(b.id, { heightMm })}
                  />
                )}
                {b.kind === 'straight' && (
                  <SmallLengthField
                    label={`${i + 1}. Straight`}
                    value={b.lengthMm}
                    max={100_000}
                    onCommit={(lengthMm) => lengthMm !== null && change(b.id, { lengthMm })}
                  />
                )}
                <button
                  type="button"
                  className="btn px-2"
                  aria-label={`Remove bend ${i + 1}`}
                  onClick={() => set(raceway.bends.filter((x) => x.id !== b.id))}
                >
                  <Trash2 size={15} aria-hidden />
                </button>
              </div>
              {marks?.exact && (
                <p className="text-[0.9rem]">
                  Marks {formatSmallLength(marks.exact.betweenBendsMm, units)} apart, shrinks{' '}
                  {formatSmallLength(marks.exact.shrinkMm, units)}
                  {marks.trade &&
                    ` (by the trade multiplier ${formatSmallLength(marks.trade.betweenBendsMm, units)} and ` +
                      `${formatSmallLength(marks.trade.shrinkMm, units)})`}
                </p>
              )}
              {marks?.markFromEndMm !== undefined && (
                <p className="text-[0.9rem]">Mark {formatSmallLength(marks.markFromEndMm, units)} from the end</p>
              )}
            </li>
          )
        })}
      </ol>
      <div className="mt-2 flex flex-wrap gap-2">
        <button type="button" className="btn" onClick={() => add({ id: id(), kind: 'straight', lengthMm: 914.4 })}>
          Straight
        </button>
        <button type="button" className="btn" onClick={() => add({ id: id(), kind: 'offset', riseMm: 101.6, angleDeg: 30 })}>
          Offset
        </button>
        <button type="button" className="btn" onClick={() => add({ id: id(), kind: 'stub-90', heightMm: 304.8 })}>
          90° stub
        </button>
      </div>
    </Section>
  )
}
