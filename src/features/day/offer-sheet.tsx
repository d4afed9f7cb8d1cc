'use client'
import { inRegion } from '@/core/region/spelling'
import { FileText, Trash2 } from 'lucide-react'
import { useMemo, useState } from 'react'
import { estimateTime } from '@/core/workday/estimate'
import { sideBySide } from '@/core/choose/alternatives'
import { agreedOf, amountWords, materialsOf, offerOf } from '@/core/workday/materials'
import { priceOf } from '@/core/design/prices'
import { newDay } from '@/core/job/day'
import { trim } from '@/core/base/format'
import { M_PER_FT } from '@/core/base/units'
import { TextField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { formatWhen } from '@/ui/when'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { useJob, useUnits } from '../sync/context'
import { PaperLink } from '../fields/paper-link'
import { useSettings } from '@/ui/settings'
import { moreWords } from './more-words'
import { useDay } from './use-day'
import { useLog } from './use-log'

const money = (n: number): string => n.toFixed(2)

type Offer = ReturnType<typeof offerOf>
type Materials = ReturnType<typeof materialsOf>

/** What the work comes to: hours, material, margin and tax, each by the firm’s own figure or by a usual one that is said to be such. */
export function OfferSheet() {
  const id = useJob((s) => s.id)
  const { job, report, tasks } = useDay()
  const materials = materialsOf(job, report)
  const offer = offerOf(job, materials, tasks)
  const range = estimateTime(job, tasks, useLog() ?? [])
  return (
    <Stage
      title="Day"
      drawing={
        <div className="flex max-w-[52rem] flex-col gap-4">
          <div className="no-print">
            <PaperLink job={id} file="offer.pdf" name={inRegion(job.region, 'Quotation')} className="btn">
              <FileText size={16} aria-hidden /> {inRegion(job.region, 'Quotation')}, PDF
            </PaperLink>
          </div>
          <Sums offer={offer} kinds={materials.lines.length} />
          <p className="text-ink-2">
            Hours for the design as it is now. With the open questions of the survey and the tracing: {trim(range.bestH, 1)} to{' '}
            {trim(range.worstH, 1)} h, likely {trim(range.likelyH, 1)}.
          </p>
          <ul>
            {offer.usual && (
              <li className="flex items-start gap-2 py-0.5">
                <VerdictMark of="warning" /> <span>This uses typical prices. Enter your own before you send it.</span>
              </li>
            )}
            {offer.unknown.map((u) => (
              <li key={u} className="flex items-start gap-2 py-0.5">
                <VerdictMark of="unknown" /> <span>{u}</span>
              </li>
            ))}
          </ul>
          <SideBySide total={offer.total} />
          <Material lines={materials.lines} />
        </div>
      }
      working={
        <>
          <Acceptance offer={offer} />
          <OwnFigures lines={materials.lines} />
        </>
      }
    />
  )
}

/** Work, material, margin and tax, and what they come to. */
function Sums({ offer, kinds }: { offer: Offer; kinds: number }) {
  const job = useJob((s) => s.job)
  const day = job.day ?? newDay()
  const rows = [
    ['Work', `${trim(offer.labourH, 1)} h at ${money(priceOf(job, 'an hour'))}`, offer.labour],
    ['Materials', `${kinds} items`, offer.materials],
    ['Markup', day.marginPercent === null ? 'not entered' : `${trim(day.marginPercent, 1)} %`, offer.margin],
    ['Tax', day.taxPercent === null ? 'not entered' : `${trim(day.taxPercent, 1)} %`, offer.tax],
  ] as const
  return (
    <table className="w-full">
      <tbody>
        {rows.map(([what, how, sum]) => (
          <tr key={what} className="border-b border-rule">
            <th className="py-1.5 text-left font-normal">{what}</th>
            <td className="px-2 py-1.5 text-ink-2">{how}</td>
            <td className="py-1.5 text-right">{money(sum)}</td>
          </tr>
        ))}
        <tr className="border-t-2 border-ink font-bold">
          <th className="py-1.5 text-left">Total</th>
          <td />
          <td className="py-1.5 text-right">{money(offer.total)}</td>
        </tr>
      </tbody>
    </table>
  )
}

/** Who accepted the quotation, what was agreed since, and what the design comes to beyond that. */
function Acceptance({ offer }: { offer: Offer }) {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const day = job.day ?? newDay()
  const { accepted, variations = [] } = day
  const agreed = agreedOf(day, offer)
  const [by, setBy] = useState('')
  const [words, setWords] = useState('')
  const [amount, setAmount] = useState<number | null>(null)
  const now = () => new Date().toISOString()
  if (!accepted || !agreed)
    return (
      <Section title="Accepted">
        <TextField label="Accepted by" value={by} onCommit={setBy} placeholder="who asked for it" />
        {offer.unknown.length > 0 && (
          <p className="mt-1 text-[0.9rem] text-ink-2">Unknown costs are not included: say so before it is accepted.</p>
        )}
        <button
          type="button"
          className="btn btn-ink mt-2 w-full"
          disabled={by.trim() === ''}
          onClick={() =>
            commit({
              kind: 'quotation.accept',
              accepted: { at: now(), by: by.trim().slice(0, 120), total: Number(offer.total.toFixed(2)) },
            })
          }
        >
          Accepted at {money(offer.total)}
        </button>
      </Section>
    )
  const different = Math.abs(agreed.notAgreed) >= 0.005
  const agree = () => {
    commit({
      kind: 'variation.add',
      item: { id: crypto.randomUUID(), at: now(), words: words.trim().slice(0, 400), amount: amount!, agreedBy: by.trim().slice(0, 120) },
    })
    setWords('')
    setAmount(null)
  }
  return (
    <Section title="Accepted">
      <p>
        <b>{money(accepted.total)}</b> by {accepted.by}, {formatWhen(accepted.at)}.
      </p>
      <ul>
        {variations.map((v) => (
          <li key={v.id} className="flex items-start gap-2 border-b border-rule py-1">
            <span className="flex-1">
              {v.words}
              <span className="block text-[0.85rem] text-ink-2">
                agreed with {v.agreedBy}, {formatWhen(v.at)}
              </span>
            </span>
            <b className="whitespace-nowrap">{signed(v.amount)}</b>
            <button
              type="button"
              className="btn px-2"
              aria-label={`Take off: ${v.words}`}
              onClick={() => commit({ kind: 'variation.remove', id: v.id })}
            >
              <Trash2 size={16} aria-hidden />
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-1">
        Agreed total: <b>{money(agreed.total)}</b>.
      </p>
      {different && (
        <p role="status" className="mt-1 flex items-start gap-2">
          <VerdictMark of="warning" />
          <span>
            The work as designed now comes to {money(offer.total)}: {signed(agreed.notAgreed)} is not agreed.
          </span>
        </p>
      )}
      <div className="mt-3">
        <TextField label="Variation" value={words} onCommit={setWords} placeholder="one more outlet by the sink" />
        <NumberField
          label="Amount (negative if less)"
          optional
          value={amount}
          placeholder={different ? agreed.notAgreed.toFixed(2) : '?'}
          min={-1e9}
          max={1e9}
          digits={2}
          onCommit={setAmount}
        />
        <TextField label="Agreed with" value={by} onCommit={setBy} />
        <button
          type="button"
          className="btn btn-ink mt-2 w-full"
          disabled={words.trim() === '' || by.trim() === '' || amount === null}
          onClick={agree}
        >
          Add variation
        </button>
      </div>
      {variations.length === 0 && (
        <button type="button" className="btn mt-2" onClick={() => commit({ kind: 'quotation.accept', accepted: null })}>
          Not accepted after all
        </button>
      )}
    </Section>
  )
}
const signed = (n: number): string => `${n < 0 ? '−' : '+'}${money(Math.abs(n))}`

/** Other ways to build it, and what each comes to. */
function SideBySide({ total }: { total: number }) {
  const job = useJob((s) => s.job)
  const report = useJob((s) => s.report)
  const { minutes } = useSettings().settings
  const options = useMemo(() => sideBySide(job, report, minutes), [job, report, minutes])
  if (options.length === 0) return null
  return (
    <Section title="Options">
      <table className="cards w-full">
        <tbody>
          {options.map((o) => (
            <tr key={o.id} className="border-b border-rule align-top">
              <td className="py-1.5">
                {o.circuit}: <b>{o.name}</b>
                {o.changes.length > 0 && <span className="block text-[0.9rem] text-ink-2">{o.changes.join('; ')}</span>}
                {o.worse > 0 && (
                  <span className="flex items-start gap-2">
                    <VerdictMark of="warning" /> {o.worse} more {o.worse === 1 ? 'thing is' : 'things are'} wrong or not known with it.
                  </span>
                )}
              </td>
              <td className="px-2 py-1.5 text-right whitespace-nowrap">{o.more === null ? '' : `${money(total + o.more)} in all`}</td>
              <td className="py-1.5 text-right whitespace-nowrap">{moreWords(o)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  )
}

function Material({ lines }: Pick<Materials, 'lines'>) {
  const units = useUnits()
  return (
    <Section title="Materials">
      <table className="cards w-full">
        <tbody>
          {lines.map((l) => (
            <tr key={l.id} className="border-b border-rule">
              <td className="py-1">{l.what}</td>
              <td className="px-2 py-1 text-right whitespace-nowrap">{amountWords(l, units)}</td>
              <td className="py-1 text-right whitespace-nowrap">
                {l.price === null ? 'no price' : money(l.count * l.price)}
                {l.usual && <span className="text-ink-2"> usual</span>}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </Section>
  )
}

/** What the firm takes for an hour, for a thing and on top. */
function OwnFigures({ lines }: Pick<Materials, 'lines'>) {
  const commit = useJob((s) => s.commit)
  const job = useJob((s) => s.job)
  const day = job.day ?? newDay()
  const named = [...new Map(lines.flatMap((l) => (l.priceName ? [[l.priceName, l] as const] : []))).values()]
  const feet = useUnits() === 'imperial'
  /** Prices of lengths are kept by the metre, and shown and typed by the foot where lengths are in feet. */
  const price = (name: string, label: string, usual: number, per = 1) => (
    <NumberField
      key={name}
      label={label}
      optional
      placeholder={`usual ${trim(usual * per, 2)}`}
      value={job.prices[name] === undefined ? null : job.prices[name] * per}
      max={1e6}
      onCommit={(amount) => commit({ kind: 'price.set', name, amount: amount === null ? null : amount / per })}
    />
  )
  return (
    <Section title="Your prices">
      <FieldGrid>
        {price('an hour', 'An hour of work', priceOf({ ...job, prices: {} }, 'an hour'))}
        <NumberField
          label="Markup"
          unit="%"
          optional
          placeholder="?"
          value={day.marginPercent}
          max={500}
          onCommit={(marginPercent) => commit({ kind: 'day.set', patch: { marginPercent } })}
        />
        <NumberField
          label="Tax on all"
          unit="%"
          optional
          placeholder="?"
          value={day.taxPercent}
          max={100}
          onCommit={(taxPercent) => commit({ kind: 'day.set', patch: { taxPercent } })}
        />
        {named.map((l) =>
          l.unit === 'm'
            ? price(l.priceName!, `${l.what}, a ${feet ? 'foot' : 'metre'}`, l.price ?? 0, feet ? M_PER_FT : 1)
            : price(
                l.priceName!,
                l.priceName!.replace(/^./, (x) => x.toUpperCase()),
                l.price ?? 0,
              ),
        )}
      </FieldGrid>
      <p className="mt-2 text-[0.9rem] text-ink-2">In the local currency.</p>
    </Section>
  )
}
