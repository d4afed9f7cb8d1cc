'use client'
import clsx from 'clsx'
import dynamic from 'next/dynamic'
import { useMemo, useState } from 'react'
import { layOutOptions, type Option } from '@/core/choose/options'
import { cablePrice, type PriceName, priceNames, priceOf } from '@/core/design/prices'
import type { Installation } from '@/core/installation/installation'
import { formatA, formatPercent, formatSize, trim } from '@/core/base/format'
import { M_PER_FT } from '@/core/base/units'
import { cableNames } from '@/core/region/vocabulary'
import { formatMoney } from '@/core/region/money'
import type { ChartOption, Inks } from '@/ui/chart'
import { NumberField } from '@/ui/number-field'
import { Section } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { Table } from '@/ui/table'
import { useCircuit, useJob, useSeenJob, useUnits } from '../sync/context'
import { CircuitStage } from './circuit-stage'
import { worlds } from '@/core/region/worlds'

const Chart = dynamic(() => import('@/ui/chart').then((m) => m.Chart), { ssr: false })

/** The sensible ways to build this circuit, laid out by the application: what each costs, wastes and leaves for later. */
export function ChoicesSheet() {
  const job = useSeenJob()
  const { circuit, chosen } = useCircuit()
  const { design, fed } = chosen
  const options = useMemo(() => layOutOptions(job, circuit, design, fed), [job, circuit, design, fed])
  const [picked, setPicked] = useState<string | null>(null)
  const [all, setAll] = useState(false)
  const good = options?.filter((o) => o.refused.length === 0 && o.beatenBy === null) ?? []
  const shown = all ? (options ?? []) : good
  const option = options?.find((o) => o.id === picked) ?? good[0]
  return (
    <CircuitStage
      working={
        <>
          {option && <Take key={option.id} option={option} />}
          <Prices size={chosen.result?.size ?? null} />
        </>
      }
    >
      {options === null ? (
        <p className="text-ink-2">Ways to build it are laid out once its load, its length and where it ends are known.</p>
      ) : (
        <>
          <Chart
            label={`Cost against what the cable wastes in a year, ${options.length} options`}
            className="h-64 w-full"
            option={(inks) => frontOption(options, option?.id ?? null, job, inks)}
            onPick={(i) => options[i] && setPicked(options[i].id)}
          />
          <Table
            minRem={41}
            heads={[
              'Option',
              ['Cost', 'pl-3 text-right'],
              ['Drop', 'pl-3 text-right'],
              ['Margin', 'pl-3 text-right'],
              ['Wastes', 'pl-3 text-right'],
              ['A year', 'pl-3 text-right'],
              ['Later', 'pl-3 text-right'],
            ]}
          >
            {shown.map((o) => (
              <tr
                key={o.id}
                className={clsx(
                  'border-b border-rule align-top',
                  o.id === option?.id && 'bg-wash',
                  (o.beatenBy || o.refused.length > 0) && 'text-ink-2',
                )}
              >
                <td className="py-0.5 pr-3">
                  <button
                    type="button"
                    className="tap w-full text-left font-bold hover:underline"
                    aria-pressed={o.id === option?.id}
                    onClick={() => setPicked(o.id)}
                  >
                    {o.words}
                  </button>
                  {o.beatenBy && <p className="pb-1 text-[0.85rem]">No better in anything than {o.beatenBy}</p>}
                  {o.refused.length > 0 && (
                    <p className="flex gap-1.5 pb-1 text-[0.85rem]">
                      <VerdictMark of="error" size={15} label="Not allowed:" /> {o.refused[0]!.message}
                    </p>
                  )}
                </td>
                <td className="py-1.5 pl-3 text-right whitespace-nowrap">{formatMoney(o.cost, job.region)}</td>
                <td className="py-1.5 pl-3 text-right whitespace-nowrap">{formatPercent(o.dropPercent)}</td>
                <td className="py-1.5 pl-3 text-right whitespace-nowrap">{formatA(o.marginA)}</td>
                <td className="py-1.5 pl-3 text-right whitespace-nowrap">{trim(o.wattsLost, 0)} W</td>
                <td className="py-1.5 pl-3 text-right whitespace-nowrap">{trim(o.kwhAYear, 1)} kWh</td>
                <td className="py-1.5 pl-3 text-right whitespace-nowrap" title="The largest breaker this cable would stand later">
                  {o.laterA} A
                </td>
              </tr>
            ))}
          </Table>
          {good.length === 0 && <WhyNone options={options} />}
          <label className="flex tap items-center gap-2">
            <input type="checkbox" className="size-5 accent-[var(--ink)]" checked={all} onChange={(e) => setAll(e.target.checked)} />
            Show the {options.length - good.length} that are worse or not allowed
          </label>
        </>
      )}
    </CircuitStage>
  )
}

/** Why none of the options may be used: what refuses most of them first. */
function WhyNone({ options }: { options: readonly Option[] }) {
  const refused = new Map<string, { readonly message: string; readonly count: number }>()
  for (const o of options)
    for (const f of o.refused) refused.set(f.rule, { message: f.message, count: (refused.get(f.rule)?.count ?? 0) + 1 })
  const [most] = [...refused.values()].toSorted((a, b) => b.count - a.count)
  return (
    <p role="status" className="my-2">
      <b>No option is allowed.</b> {most && `${most.message} (${most.count} of ${options.length} options)`}
    </p>
  )
}

function Take({ option: o }: { option: Option }) {
  const { circuit } = useCircuit()
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const [reason, setReason] = useState('')
  const take = () =>
    commit({
      kind: 'design.take',
      circuit: circuit.id,
      design: circuit.chosen,
      id: crypto.randomUUID(),
      name: formatSize(o.size),
      patch: o.patch,
      ...(o.fit.length ? { fit: [...o.fit] } : {}),
      reason: reason.trim(),
    })
  return (
    <Section title={o.words}>
      <p>
        {formatMoney(o.cost, job.region)} with the work. Its cable wastes {trim(o.wattsLost, 0)} W at full load, {trim(o.kwhAYear, 1)} kWh
        in a usual year, and would stand a breaker of {o.laterA} A later.
      </p>
      {o.refused.map((f) => (
        <p key={f.rule} className="mt-1 font-bold">
          {f.message} <span className="font-normal text-ink-2">{f.clause}</span>
        </p>
      ))}
      {o.refused.length === 0 && (
        <>
          <label className="mt-2 mb-0.5 block text-[0.9rem] text-ink-2" htmlFor="choice-reason">
            Why this one
          </label>
          <textarea
            id="choice-reason"
            className="field"
            rows={2}
            maxLength={1000}
            value={reason}
            onChange={(e) => setReason(e.target.value)}
          />
          <button type="button" className="btn btn-ink mt-2 w-full" onClick={take}>
            Use this option
          </button>
        </>
      )}
      {circuit.reason && <p className="mt-2 text-[0.9rem] text-ink-2">Chosen now because: {circuit.reason}</p>}
    </Section>
  )
}

/** Prices behind the costs; one’s own replace the usual ones. */
function Prices({ size }: { size: string | null }) {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const { chosen } = useCircuit()
  const cable = size ? `${chosen.design.cable} ${size}` : null
  const units = useUnits()
  /** Kept by the metre; shown and typed by the foot where lengths are in feet. */
  const [byLength, perM] = units === 'imperial' ? ['foot', M_PER_FT] : ['metre', 1]
  const row = (name: string, label: string, usual: number, per = 1) => (
    <div key={name} className="flex items-end gap-2 border-b border-rule py-1 [&_label]:sr-only">
      <span className="flex-1 pb-1.5">{label}</span>
      <div className="w-36">
        <NumberField
          label={`Price: ${label}`}
          unit={formatMoney(0, job.region).replace(/[\d.\s]+/, '')}
          optional
          placeholder={(usual * per).toFixed(2)}
          value={job.prices[name] === undefined ? null : job.prices[name] * per}
          max={1_000_000}
          onCommit={(amount) => commit({ kind: 'price.set', name, amount: amount === null ? null : amount / per })}
        />
      </div>
    </div>
  )
  const { rcd } = worlds[job.region].words
  const plain: Pick<Installation, 'region' | 'prices'> = { region: job.region, prices: {} }
  return (
    <Section title="Prices behind it">
      <p className="mb-1 text-[0.9rem] text-ink-2">
        Usual ones, ours, in grey. Type your own where you know better; they hold for this job.
      </p>
      {cable &&
        row(
          cable,
          `A ${byLength} of ${formatSize(size!)}, ${cableNames[chosen.design.cable] ?? chosen.design.cable}`,
          cablePrice(plain, chosen.design.cable, size!),
          perM,
        )}
      {priceNames.map((n: PriceName) =>
        row(
          n,
          n.charAt(0).toUpperCase() + n.slice(1).replace('a metre', `a ${byLength}`).replace('residual', rcd),
          priceOf(plain, n),
          n.endsWith('a metre') ? perM : 1,
        ),
      )}
    </Section>
  )
}

/** Cost along, yearly waste up; the front of good ones is joined by a line, the dominated are grey. */
function frontOption(options: readonly Option[], picked: string | null, job: Installation, inks: Inks): ChartOption {
  const points = options.map((o, index) => ({ o, value: [o.cost, o.kwhAYear], index }))
  const good = points.filter(({ o }) => o.refused.length === 0 && o.beatenBy === null).toSorted((a, b) => a.o.cost - b.o.cost)
  const dots = (list: typeof points, symbol: string, size: number, color: string, named: boolean) => ({
    type: 'scatter' as const,
    symbol,
    symbolSize: size,
    data: list.map(({ o, value, index }) => ({
      value,
      index,
      itemStyle: { color: o.id === picked ? inks.ink : color, borderColor: inks.ink, borderWidth: o.id === picked ? 3 : 1.5 },
    })),
    label: {
      show: named,
      formatter: ({ dataIndex: i }: { dataIndex: number }) =>
        list.findIndex(({ o }) => o.size === list[i]!.o.size) === i ? formatSize(list[i]!.o.size) : '',
      position: 'top' as const,
      // It begins over its point: before it are the figures of the axis.
      align: 'left' as const,
      color: inks.ink,
      fontSize: 12,
      fontFamily: 'inherit',
    },
    labelLayout: { hideOverlap: true },
  })
  const axis = {
    axisLabel: { color: inks['ink-2'], fontFamily: 'inherit', hideOverlap: true },
    axisLine: { lineStyle: { color: inks.ink } },
    splitLine: { lineStyle: { color: inks.rule } },
    nameTextStyle: { color: inks['ink-2'], fontFamily: 'inherit' },
    scale: true,
  }
  return {
    animation: false,
    // The label of the highest point is above it, the name of the axis above that.
    grid: { left: 62, right: 30, top: 52, bottom: 52 },
    tooltip: {
      trigger: 'item',
      confine: true,
      formatter: (p) => {
        const { index } = (p as { data: { index?: number } }).data ?? {}
        return index === undefined ? '' : options[index]!.words.replaceAll('<', '')
      },
    },
    xAxis: {
      type: 'value',
      name: 'cost',
      nameLocation: 'middle',
      nameGap: 32,
      ...axis,
      axisLabel: { ...axis.axisLabel, margin: 14, formatter: (v: number) => formatMoney(v, job.region) },
    },
    yAxis: { type: 'value', name: 'kWh a year', nameGap: 36, ...axis },
    series: [
      {
        type: 'line',
        data: good.map((g) => g.value),
        showSymbol: false,
        silent: true,
        lineStyle: { color: inks.ink, width: 1.5, type: 'dashed' },
      },
      dots(
        points.filter(({ o }) => o.refused.length > 0),
        'triangle',
        9,
        inks.sheet,
        false,
      ),
      dots(
        points.filter(({ o }) => o.beatenBy !== null),
        'circle',
        9,
        inks.rule,
        false,
      ),
      dots(good, 'circle', 14, inks.wash, true),
    ],
  }
}
