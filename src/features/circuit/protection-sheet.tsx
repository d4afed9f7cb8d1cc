'use client'
import { guardFits } from '@/core/design/guards'
import clsx from 'clsx'
import dynamic from 'next/dynamic'
import { useState } from 'react'
import { type Curves, timeCurrent } from '@/core/choose/curves'
import { placements } from '@/core/choose/placements'
import { arcPlaces } from '@/core/job/design'
import type { Design } from '@/core/installation/installation'
import { formatA } from '@/core/base/format'
import { formatMoney } from '@/core/region/money'
import { pointNeeds } from '@/core/rules'
import { pointRules } from '@/core/rules/points'
import { protectionRules } from '@/core/rules/protection'
import type { ChartOption, Inks } from '@/ui/chart'
import { ChoiceField, SelectField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section } from '@/ui/panel'
import { Table } from '@/ui/table'
import { useCircuit, useJob, useSeenJob } from '../sync/context'
import { useLed } from '../fields/use-led'
import { Findings } from '../fields/findings'
import { CircuitStage } from './circuit-stage'
import { BehindField, ResidualType } from './link-fields'
import { NeedsTable, PointNeedFields } from './point-needs'
import { Say } from '@/ui/worded'
import { worlds } from '@/core/region/worlds'

const Chart = dynamic(() => import('@/ui/chart').then((m) => m.Chart), { ssr: false })
const rules = new Set([
  ...[...pointRules, ...protectionRules].map((r) => r.id),
  'start-trips',
  'concealed-cable',
  'lampholders-on-breaker',
  'room-circuit-rating',
  'zs-too-high',
  'point-loop-too-high',
])

/** What each rule asks of this circuit's protection, where it may sit, and the curves of all that meets in it. */
export function ProtectionSheet() {
  const job = useSeenJob()
  const commit = useJob((s) => s.commit)
  const { circuit, chosen } = useCircuit()
  const { design, result } = chosen
  const placeAt = (at: Design['residual']['at']) => {
    const fit = guardFits(circuit, design, at) ?? []
    const patch = { residual: { ...design.residual, at } }
    commit({ kind: 'design.set', circuit: circuit.id, design: circuit.chosen, patch, ...(fit.length ? { fit: [...fit] } : {}) })
  }
  const set = (patch: Partial<Omit<Design, 'id'>>) => commit({ kind: 'design.set', circuit: circuit.id, design: circuit.chosen, patch })
  const curves = timeCurrent(job, circuit, design, result)
  const words = worlds[job.region].words
  const [picked, setPicked] = useState<string | null>(null)
  useLed('circuit', 'protection', (_, id) => setPicked(id))
  const needs = pointNeeds({ job, circuit, design, result, worked: chosen })
  const point = circuit.points.find((p) => p.id === picked) ?? null
  return (
    <CircuitStage
      working={
        <>
          <PointNeedFields key={point?.id} point={point} needs={needs} />
          <Section title="What the rules need to know">
            <FieldGrid>
              <NumberField
                label="Fault current at the board"
                unit="kA"
                optional
                value={job.supply.pscKa}
                placeholder="not known"
                min={0.01}
                max={200}
                onCommit={(pscKa) => commit({ kind: 'supply.set', patch: { pscKa } })}
              />
              <NumberField
                label="Its breaker breaks"
                unit="kA"
                optional
                value={design.breakingKa}
                placeholder="read it"
                min={0.5}
                max={200}
                onCommit={(breakingKa) => set({ breakingKa })}
              />
              <NumberField
                label="Selective up to"
                unit="kA"
                optional
                value={design.selectiveKa}
                placeholder="makers’ tables"
                min={0.05}
                max={200}
                onCommit={(selectiveKa) => set({ selectiveKa })}
              />
              {chosen.fed ? (
                <p className="col-span-full text-ink-2">
                  <Say>{`Fed from the board at the end of ${chosen.fed.name}, protected by ${
                    job.supply.upstream ? `its ${job.supply.upstream.ratingA} A breaker` : 'a breaker that is not chosen yet'
                  }.`}</Say>
                </p>
              ) : (
                <>
                  <UpstreamFields />
                </>
              )}
              {design.residual.at === 'board' && <BehindField circuit={circuit} />}
              {design.residual.at !== 'none' && worlds[job.region].typedBreakers && (
                <ResidualType circuit={circuit} design={design} set={set} />
              )}
              <ChoiceField
                label="Arc-fault protection"
                value={design.arcFault}
                options={arcPlaces.map((a) => ({
                  value: a,
                  label: a === 'none' ? 'None' : a === 'board' ? 'At the board' : 'At the first outlet',
                }))}
                onCommit={(arcFault) => set({ arcFault })}
              />
            </FieldGrid>
          </Section>
          <Section title="Findings">
            <Findings
              stage="circuit"
              findings={chosen.findings.filter((f) => rules.has(f.rule))}
              empty="Nothing is missing in the protection of this circuit as it is described."
            />
          </Section>
          {curves && (
            <p className="text-[0.9rem] text-ink-2">
              The magnetic release may trip from {formatA(curves.magnetic.from * result!.breakerA!)} and always trips by{' '}
              {formatA(curves.magnetic.sure * result!.breakerA!)}.
            </p>
          )}
        </>
      }
    >
      <NeedsTable needs={needs} region={job.region} picked={point?.id ?? null} onPick={setPicked} />
      {curves ? (
        <>
          <Chart
            label="Time against current of breaker, cable, load and fault"
            className="h-[25rem] w-full"
            option={(inks) => curveOption(curves, inks)}
          />
          <p className="text-[0.9rem] text-ink-2">{worlds[job.region].says.curves}</p>
        </>
      ) : (
        <p className="text-ink-2">The curves are drawn once the circuit is worked out.</p>
      )}
      <Section title={`Where ${words.rcd} protection sits`}>
        <Table minRem={40} heads={['Place', 'Protects', 'Loses power', ['Costs more', 'w-24 text-right']]}>
          {placements(job, circuit, design).map((p) => (
            <tr key={p.at} className={clsx('border-b border-rule', p.at === design.residual.at && 'bg-wash')}>
              <td className="py-1 pr-3">
                <label className="flex tap items-center gap-2 font-bold">
                  <input
                    type="radio"
                    name={`residual-${circuit.id}`}
                    className="size-4 accent-[var(--ink)]"
                    checked={p.at === design.residual.at}
                    onChange={() => placeAt(p.at)}
                  />
                  <Say>{p.words}</Say>
                </label>
              </td>
              <td className="pr-3">
                <Say>{p.guards}</Say>
              </td>
              <td className="pr-3">
                <Say>{p.dark}</Say>
              </td>
              <td className="text-right">{formatMoney(p.cost, job.region)}</td>
            </tr>
          ))}
        </Table>
      </Section>
    </CircuitStage>
  )
}

/** The shortest time the chart can show a mark at. */
const BRIEFEST_S = 0.013
const seconds = (t: number): string => (t >= 1 ? `${Math.round(t)} s` : `${Math.round(t * 1000)} ms`)

/** Log against log; ink alone, distinguished by line and by the word at its end. */
function curveOption(c: Curves, inks: Inks): ChartOption {
  const line = (name: string, data: readonly (readonly number[])[], more: object) => ({
    type: 'line' as const,
    name,
    data: data.map((p) => [...p]),
    showSymbol: false,
    silent: true,
    lineStyle: { color: inks.ink, width: 2, ...more },
    endLabel: { show: false },
  })
  const label = (words: string, at: readonly number[], position: 'top' | 'right' | 'left' | 'bottom' = 'right') => ({
    type: 'scatter' as const,
    data: [[...at]],
    symbolSize: 1,
    silent: true,
    itemStyle: { color: inks.ink },
    label: { show: true, formatter: words, position, color: inks.ink, fontSize: 13, fontFamily: 'inherit' },
  })
  /** A current as an upright line, its name written up along it, so that lines beside it stay clear. */
  const vertical = (words: string, amps: number, type: 'solid' | 'dashed' | 'dotted', y: number) => [
    line(
      words,
      [
        [amps, 7200],
        [amps, 0.01],
      ],
      { type, width: 1.5 },
    ),
    {
      ...label(words, [amps, y]),
      label: {
        ...label(words, [amps, y]).label,
        rotate: 90,
        align: 'left' as const,
        verticalAlign: 'bottom' as const,
        position: [-4, 0] as [number, number],
      },
    },
  ]
  /** Where the name of the curve upstream is: half a decade of time or more from those of the breaker's own. */
  const ahead = ({ holds }: { readonly holds: Curves['breaker']['holds'] }) => {
    const taken = [c.breaker.holds[34]![1], c.breaker.trips[14]![1]]
    const clear = (p: readonly number[]) => taken.every((t) => Math.abs(Math.log10(p[1]! / t)) > 0.5)
    return [20, 26, 14, 32, 8, 38].flatMap((i) => (holds[i] ? [holds[i]] : [])).find(clear) ?? holds[20]!
  }
  const from = Math.min(c.loadA, c.breaker.holds[0]![0]) / 2
  const to = Math.max(...[c.faultA, c.boardFaultA, c.start?.amps].map((x) => x ?? 0), c.breaker.trips.at(-2)![0]) * 3
  const axis = {
    axisLabel: { color: inks['ink-2'], fontFamily: 'inherit' },
    axisLine: { lineStyle: { color: inks.ink } },
    splitLine: { lineStyle: { color: inks.rule } },
    nameTextStyle: { color: inks['ink-2'], fontFamily: 'inherit' },
  }
  return {
    animation: false,
    grid: { left: 72, right: 20, top: 20, bottom: 44 },
    xAxis: {
      type: 'log',
      min: 10 ** Math.floor(Math.log10(Math.max(from, 1))),
      max: 10 ** Math.ceil(Math.log10(to)),
      name: 'A',
      nameLocation: 'middle',
      nameGap: 26,
      ...axis,
    },
    yAxis: { type: 'log', min: 0.01, max: 10_000, ...axis, axisLabel: { ...axis.axisLabel, formatter: (t: number) => seconds(t) } },
    series: [
      line('holds', c.breaker.holds, { width: 2 }),
      line('trips', c.breaker.trips, { width: 3.5 }),
      label('may trip', c.breaker.holds[34]!, 'right'),
      label('has tripped', [c.breaker.trips[14]![0], c.breaker.trips[14]![1]], 'right'),
      ...(c.upstream
        ? [line('ahead', c.upstream.holds, { type: 'dashed', width: 1.5 }), label(c.upstream.words, ahead(c.upstream), 'right')]
        : []),
      ...(c.cable.length
        ? [
            line('cable', c.cable, { type: 'dotted', width: 3 }),
            label(
              'conductor damage',
              c.cable.findLast((p) => p[0]! < 10 ** Math.ceil(Math.log10(to)) / 8 && p[1]! > 0.03) ?? c.cable[0]!,
              'right',
            ),
          ]
        : []),
      ...vertical('load', c.loadA, 'solid', 0.02),
      ...(c.faultA ? vertical('far-end fault', c.faultA, 'dashed', 400) : []),
      ...(c.boardFaultA ? vertical('fault at the origin', c.boardFaultA, 'dashed', 400) : []),
      ...(c.start
        ? [
            {
              type: 'scatter' as const,
              data: [[c.start.amps, Math.max(c.start.seconds, BRIEFEST_S)]],
              symbol: 'diamond',
              symbolSize: 14,
              silent: true,
              itemStyle: { color: inks.ink },
              label: {
                show: true,
                formatter: `switching on${c.start.given ? '' : ', usual'}`,
                position: c.start.seconds > BRIEFEST_S ? ('bottom' as const) : ('top' as const),
                color: inks.ink,
                fontSize: 13,
                fontFamily: 'inherit',
              },
            },
          ]
        : []),
    ],
  }
}

/** What is upstream of the board: of a kind and a rating, or not known; a rating is read, never supposed. */
function UpstreamFields() {
  const upstream = useJob((s) => s.job.supply.upstream)
  const commit = useJob((s) => s.commit)
  const [seen, setSeen] = useState<'breaker' | 'fuse' | 'unknown'>('unknown')
  const kind = upstream?.kind ?? seen
  const set = (next: typeof upstream) => commit({ kind: 'supply.set', patch: { upstream: next } })
  return (
    <>
      <SelectField
        label="Upstream of the board"
        value={kind}
        options={[
          { value: 'unknown', label: 'Not checked' },
          { value: 'breaker', label: 'A breaker' },
          { value: 'fuse', label: 'A fuse' },
        ]}
        onCommit={(to) => {
          setSeen(to)
          if (upstream) set(to === 'unknown' ? null : { ...upstream, kind: to })
        }}
      />
      {kind !== 'unknown' && (
        <NumberField
          label="Its rating"
          unit="A"
          optional
          placeholder="read it"
          value={upstream?.ratingA ?? null}
          min={1}
          max={1000}
          onCommit={(ratingA) => (ratingA ? set({ kind, ratingA }) : upstream && set(null))}
        />
      )}
    </>
  )
}
