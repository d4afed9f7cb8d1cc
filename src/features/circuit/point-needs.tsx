'use client'
import { Say } from '@/ui/worded'
import clsx from 'clsx'
import { Check, Minus } from 'lucide-react'
import { applianceKinds, natureOf } from '@/core/catalogue/appliances'
import { chosenDesign, type CircuitPoint, type Site as Stands } from '@/core/installation/installation'
import type { RegionId } from '@/core/region/types'
import type { PointNeeds } from '@/core/rules'
import { needNames, needWords } from '@/core/documents/needs-table'
import type { PointVerdict } from '@/core/rules/point-rule'
import { byStandard } from '@/core/rules/points'
import { CheckField, SelectField } from '@/ui/fields'
import { Section } from '@/ui/panel'
import { Table } from '@/ui/table'
import { VerdictMark } from '@/ui/verdict'
import { useCircuit, useJob } from '../sync/context'
import type { PatchOfPoint } from '../fields/patches'
import { FittedFields, SiteFields } from './site-fields'

/** One verdict in a word or two. */
function Need({ need }: { need: PointVerdict | undefined }) {
  if (!need) return <span className="text-ink-2">–</span>
  const Plain = need.state === 'given' ? Check : Minus
  return (
    <span
      className={clsx('flex items-center gap-1', need.state === 'free' && 'text-ink-2')}
      title={`${need.severity ? `${need.words} ` : ''}${need.clause}`}
    >
      {need.severity ? <VerdictMark of={need.severity} size={16} label="" /> : <Plain size={15} aria-hidden />}
      <Say>{needWords(need)}</Say>
    </span>
  )
}

/** What each point needs by its world, its place and what it feeds, and whether it has it. */
export function NeedsTable({
  needs,
  region,
  picked,
  onPick,
}: {
  needs: PointNeeds
  region: RegionId
  picked: string | null
  onPick: (id: string | null) => void
}) {
  const names = needNames(region)
  if (needs.types.length === 0) return null
  return (
    <Section title="What each point needs">
      <Table minRem={14 + 6 * needs.types.length} label="What each point needs" heads={['Point', ...needs.types.map((t) => names[t])]}>
        {needs.rows.map(({ site, needs: of }) => (
          <tr key={site.point?.id ?? 'end'} className={clsx('border-b border-rule', site.point && site.point.id === picked && 'bg-wash')}>
            <td className="py-1 pr-3 font-bold">
              {site.point ? (
                <button
                  type="button"
                  className="tap text-left hover:underline"
                  aria-pressed={site.point.id === picked}
                  onClick={() => onPick(site.point!.id === picked ? null : site.point!.id)}
                >
                  {site.name}
                </button>
              ) : (
                site.name
              )}
            </td>
            {needs.types.map((t) => (
              <td key={t} className="pr-3 text-[0.92rem] whitespace-nowrap">
                <Need need={of[t]} />
              </td>
            ))}
          </tr>
        ))}
      </Table>
    </Section>
  )
}

/** Facts about the point in hand, or about all of a circuit. */
export function PointNeedFields({ point, needs }: { point: CircuitPoint | null; needs: PointNeeds }) {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const { circuit } = useCircuit()
  const setPoint = (patch: PatchOfPoint) => point && commit({ kind: 'point.set', id: point.id, patch })
  const ofCircuit: Stands = { ...circuit, environment: circuit.environment ?? job.brief.environment }
  const design = chosenDesign(circuit)
  const rows = needs.rows.filter((r) => point === null || r.site.point?.id === point.id)
  const reach = rows.some(({ needs: of }) => of.tamper && of.tamper.words !== byStandard)
  const names = needNames(job.region)
  const without = reach ? [] : (['tamper'] as const)
  return (
    <Section title={point ? point.name : circuit.points.length ? `All points of ${circuit.name}` : `Where ${circuit.name} ends`}>
      {point ? (
        <SiteFields region={job.region} value={point} above={ofCircuit} from="the circuit" reach={reach} onCommit={setPoint} />
      ) : (
        <SiteFields
          region={job.region}
          value={circuit}
          above={{ place: null, environment: job.brief.environment, nearWater: null, outOfReach: null }}
          from="the brief"
          reach={reach}
          onCommit={(patch) => commit({ kind: 'circuit.set', circuit: circuit.id, patch })}
        />
      )}
      <div className="mt-2.5">
        {point && <PointFeeds point={point} onCommit={setPoint} />}
        {point && (
          <CheckField
            label="Fitted as along the circuit"
            value={point.fitted === null}
            onCommit={(on) => setPoint({ fitted: on ? null : design.fitted })}
          />
        )}
        {point?.fitted && <FittedFields without={without} value={point.fitted} onCommit={(fitted) => setPoint({ fitted })} />}
        {!point && (
          <FittedFields
            without={without}
            value={design.fitted}
            onCommit={(fitted) => commit({ kind: 'design.set', circuit: circuit.id, design: circuit.chosen, patch: { fitted } })}
          />
        )}
      </div>
      {rows.length === 1 && (
        <dl className="mt-2 border-t border-rule text-[0.92rem]">
          {needs.types.map((t) => {
            const need = rows[0]!.needs[t]
            return (
              need && (
                <div key={t} className="grid grid-cols-[5.5rem_1fr] gap-2 border-b border-rule py-1">
                  <dt className="text-ink-2 first-letter:uppercase">{names[t]}</dt>
                  <dd>
                    <Need need={need} />
                    <span className="text-[0.85rem] text-ink-2">{need.clause}</span>
                  </dd>
                </div>
              )
            )
          })}
        </dl>
      )}
    </Section>
  )
}

/** What a point feeds; its usual watts are taken where none were said. */
export function PointFeeds({ point, onCommit }: { point: CircuitPoint; onCommit: (patch: PatchOfPoint) => void }) {
  const region = useJob((s) => s.job.region)
  const kinds = applianceKinds(region).filter((k) => natureOf(k) !== 'lighting' || point.outlets === 0)
  return (
    <SelectField
      label="It feeds"
      wide
      value={point.appliance ?? 'any'}
      options={[{ value: 'any', label: 'Anything' }, ...kinds.map((k) => ({ value: k.id, label: k.name }))]}
      onCommit={(id) => {
        const kind = kinds.find((k) => k.id === id)
        onCommit({ appliance: kind?.id ?? null, ...(kind && point.watts === null ? { watts: kind.watts } : {}) })
      }}
    />
  )
}
