'use client'
import { Download } from 'lucide-react'
import { useMemo, useState } from 'react'
import { insteadOf } from '@/core/choose/alternatives'
import { amountWords, materialsOf } from '@/core/workday/materials'
import { type Against, againstVan, laidOut, type NeedLayout, shortOf, type StockItem } from '@/core/workday/stock'
import { toolsOf } from '@/core/workday/tools'
import { ChoiceField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { Table } from '@/ui/table'
import { VerdictMark } from '@/ui/verdict'
import { useSettings } from '@/ui/settings'
import { moreWords } from './more-words'
import { useJob, useUnits } from '../sync/context'
import { LengthField } from '../fields/measure-fields'
import { PaperLink } from '../fields/paper-link'
import { useDay } from './use-day'
import { useVan } from './use-van'

/** What the design asks for, counted from it, against the van; on a phone a list to go shopping with, which opens without a connection. */
export function NeededSheet() {
  const id = useJob((s) => s.id)
  const job = useJob((s) => s.job)
  const report = useJob((s) => s.report)
  const van = useVan()
  const { tasks } = useDay()
  const [picked, setPicked] = useState<string | null>(null)
  const [layout, setLayout] = useState<NeedLayout>('all')
  const { lines, unknown } = materialsOf(job, report)
  const against = againstVan(lines, van ?? [], id)
  const line = against.find((l) => l.id === picked)
  const groups = laidOut(against, layout)
  const asTable = (
    <PaperLink job={id} file="needed.csv" name="Materials, CSV" className="no-print tap flex items-center gap-1 text-ink-2 hover:text-ink">
      <Download size={15} aria-hidden /> As a table
    </PaperLink>
  )
  return (
    <Stage
      title="Day"
      drawing={
        lines.length === 0 ? (
          <p className="text-ink-2">Nothing can be counted yet: breaker, cable, boxes and accessories come from the circuits.</p>
        ) : (
          <>
            <Section title="Materials" aside={asTable}>
              <div className="no-print mb-2">
                <ChoiceField
                  label="Laid out"
                  value={layout}
                  options={[
                    { value: 'all', label: 'As counted' },
                    { value: 'shop', label: 'For the shop' },
                    { value: 'where', label: 'By where it goes' },
                  ]}
                  onCommit={setLayout}
                />
              </div>
              {groups.map((g) => (
                <div key={g.title} className="mb-3">
                  {g.title && <h3 className="font-bold">{g.title}</h3>}
                  <NeededTable lines={g.lines} known={van !== null} picked={picked} onPick={setPicked} />
                </div>
              ))}
              {groups.length === 0 && <p className="text-ink-2">Nothing to buy.</p>}
            </Section>
            <Section title="Tools">
              <ul>
                {toolsOf(job, report, tasks).map((t) => (
                  <li key={t.name} className="border-b border-rule py-1">
                    {t.name}
                    {t.second && (
                      <span className="block text-[0.9rem] text-ink-2">Or: {t.second.charAt(0).toLowerCase() + t.second.slice(1)}.</span>
                    )}
                  </li>
                ))}
              </ul>
            </Section>
          </>
        )
      }
      working={
        <>
          {line ? (
            <>
              <InTheVan key={line.id} line={line} known={van !== null} />
              <Instead key={`instead ${line.id}`} line={line} />
            </>
          ) : (
            lines.length > 0 && (
              <p className="mb-4 text-ink-2">Pick a line to take it from the van, to count it there, or to say how many are kept.</p>
            )
          )}
          {van && <Short van={van} />}
          {unknown.length > 0 && (
            <Section title="Cannot be counted yet">
              <ul>
                {unknown.map((u) => (
                  <li key={u} className="flex items-start gap-2 py-0.5">
                    <VerdictMark of="unknown" /> <span>{u}</span>
                  </li>
                ))}
              </ul>
            </Section>
          )}
          <p className="mb-3 text-[0.9rem] text-ink-2">
            Cable is counted along its route where one was chosen, else by its length and a tenth more. Connectors, plates, clips and labels
            are those of the boxes and cables as they will be built.
          </p>
        </>
      }
    />
  )
}

function NeededTable({
  lines,
  known,
  picked,
  onPick,
}: {
  lines: readonly Against[]
  known: boolean
  picked: string | null
  onPick: (id: string) => void
}) {
  const units = useUnits()
  const amount = (count: number, unit: '' | 'm') => amountWords({ count, unit }, units)
  return (
    <Table minRem={30} heads={[['What', 'w-[38%]'], 'How many', 'Taken', 'In the van', 'To buy', 'Where']}>
      {lines.map((l) => (
        <tr key={l.id} className={`border-b border-rule align-top ${picked === l.id ? 'bg-wash' : ''}`}>
          <td>
            <button
              type="button"
              className="tap w-full text-left font-bold hover:underline"
              aria-pressed={picked === l.id}
              data-opens
              onClick={() => onPick(l.id)}
            >
              {l.what}
            </button>
          </td>
          <td className="py-1.5 whitespace-nowrap">{amount(l.count, l.unit)}</td>
          <td className="py-1.5 whitespace-nowrap">{l.taken ? amount(l.taken, l.unit) : ''}</td>
          <td className="py-1.5 whitespace-nowrap">
            {known && l.inVan !== null ? (
              `${l.counted ? '' : 'at least '}${amount(l.inVan, l.unit)}`
            ) : (
              <span className="text-ink-2">not counted</span>
            )}
          </td>
          <td className="py-1.5 font-bold whitespace-nowrap">
            {l.toBuy ? amount(l.toBuy, l.unit) : <span className="font-normal text-ink-2">none</span>}
          </td>
          <td className="py-1.5 text-ink-2">{l.where.join(', ')}</td>
        </tr>
      ))}
    </Table>
  )
}

/** One kind of thing: taken from the van and brought back, bought, counted, and how many are kept of it. */
function InTheVan({ line: l, known }: { line: Against; known: boolean }) {
  const job = useJob((s) => s.id)
  const move = useJob((s) => s.moveStock)
  const units = useUnits()
  const of = { item: l.id, what: l.what, unit: l.unit }
  const lengths = l.items.filter((s) => s.item !== l.id)
  if (lengths.length)
    return (
      <Section title={l.what}>
        <ul>
          {lengths.map((s) => {
            const taken = Math.max(0, s.taken[job] ?? 0)
            return (
              <li key={s.item} className="border-b border-rule py-1.5">
                A length with {amountWords({ count: s.count, unit: 'm' }, units)} left
                {taken > 0 && (
                  <>
                    , {amountWords({ count: taken, unit: 'm' }, units)} taken for this job{' '}
                    <button type="button" className="btn" onClick={() => move({ ...of, item: s.item, kind: 'in', count: taken, job })}>
                      Bring it back
                    </button>
                  </>
                )}
              </li>
            )
          })}
        </ul>
        <p className="mt-2 text-ink-2">Plan the cuts under Route, Cutting: no piece is left too short.</p>
        <FieldGrid>
          <LengthField
            label="To be kept there"
            optional
            placeholder="?"
            value={l.minimum}
            max={100_000}
            onCommit={(n) => n !== null && move({ ...of, kind: 'minimum', count: n, job: null })}
          />
        </FieldGrid>
      </Section>
    )
  const amount = (count: number) => amountWords({ count, unit: l.unit }, units)
  const count = (label: string, value: number | null, commit: (n: number) => void) =>
    l.unit === 'm' ? (
      <LengthField label={label} optional placeholder="?" value={value} max={100_000} onCommit={(n) => n !== null && commit(n)} />
    ) : (
      <NumberField label={label} optional placeholder="?" whole value={value} max={100_000} onCommit={(n) => n !== null && commit(n)} />
    )
  return (
    <Section title={l.what}>
      {!known && (
        <p className="mb-2 text-ink-2">What is in the van is not known without a connection. What is done here waits until there is one.</p>
      )}
      <FieldGrid>
        {count('Counted in the van now', l.counted ? l.inVan : null, (n) => move({ ...of, kind: 'counted', count: n, job: null }))}
        {count('To be kept there', l.minimum, (n) => move({ ...of, kind: 'minimum', count: n, job: null }))}
      </FieldGrid>
      <div className="mt-2 flex flex-wrap gap-2">
        {l.toTake > 0 && (
          <button type="button" className="btn btn-ink" onClick={() => move({ ...of, kind: 'out', count: l.toTake, job })}>
            Take {amount(l.toTake)} for this job
          </button>
        )}
        {l.toBuy > 0 && (
          <button type="button" className="btn" onClick={() => move({ ...of, kind: 'in', count: l.toBuy, job: null })}>
            Bought: {amount(l.toBuy)} into the van
          </button>
        )}
        {l.taken > 0 && (
          <button type="button" className="btn" onClick={() => move({ ...of, kind: 'in', count: l.taken, job })}>
            Bring {amount(l.taken)} back
          </button>
        )}
      </div>
      {l.toTake === 0 && l.toBuy === 0 && <p className="mt-2">All taken for this job.</p>}
      {l.inVan !== null && l.minimum !== null && l.left < l.minimum && (
        <p className="mt-2 flex items-start gap-2">
          <VerdictMark of="warning" />{' '}
          <span>
            This job leaves {amount(l.left)} in the van, and it should keep {amount(l.minimum)}.
          </span>
        </p>
      )}
    </Section>
  )
}

/** How many are offered at once; the rest is dearer. */
const MOST_OFFERED = 6

/** What could replace a line, with what it costs more and what it changes. */
function Instead({ line }: { line: Against }) {
  const job = useJob((s) => s.job)
  const report = useJob((s) => s.report)
  const commit = useJob((s) => s.commit)
  const { settings } = useSettings()
  const others = useMemo(() => insteadOf(job, report, line.id, settings.minutes), [job, report, line.id, settings.minutes])
  return (
    <Section title="Instead">
      {others.length === 0 && <p className="text-ink-2">Nothing else of the catalogue does without more being wrong.</p>}
      <ul>
        {others.slice(0, MOST_OFFERED).map((a) => (
          <li key={a.id} className="border-b border-rule py-1.5">
            <span className="flex items-baseline justify-between gap-2">
              <b>{a.name}</b>
              <span className="whitespace-nowrap">{moreWords(a)}</span>
            </span>
            {a.changes.length > 0 && <span className="block text-[0.9rem] text-ink-2">{a.changes.join('; ')}</span>}
            <button type="button" className="btn mt-1" title="Undo takes it back" onClick={() => commit(a.edit)}>
              Take it
            </button>
          </li>
        ))}
      </ul>
    </Section>
  )
}

/** What the van is short of, whatever job is in hand. */
function Short({ van }: { van: readonly StockItem[] }) {
  const units = useUnits()
  const short = shortOf(van)
  if (short.length === 0) return null
  return (
    <Section title="The van is short of">
      <ul>
        {short.map(({ item: s, short: n }) => (
          <li key={s.item} className="flex justify-between gap-2 border-b border-rule py-0.5">
            <span>{s.what}</span> <b className="whitespace-nowrap">{amountWords({ count: n, unit: s.unit }, units)}</b>
          </li>
        ))}
      </ul>
    </Section>
  )
}
