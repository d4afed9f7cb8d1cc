'use client'
import type { BuildingRecord } from '@/core/job/building'
import { CheckField, ChoiceField } from '@/ui/fields'
import { FieldGrid, Section } from '@/ui/panel'
import { useJob } from '../job/context'
import { LengthField, SmallLengthField } from '../job/measure-fields'

const looked = [
  { value: 'unknown', label: 'Not looked' },
  { value: 'none', label: 'None' },
  { value: 'there', label: 'There is' },
] as const
const asLooked = (space: BuildingRecord['attic'] | BuildingRecord['crawl']) =>
  space === null ? 'unknown' : space === 'none' ? 'none' : 'there'

/** What the building is made of, as far as somebody looked. */
export function Construction({ made }: { made: BuildingRecord }) {
  const commit = useJob((s) => s.commit)
  const set = (patch: Partial<BuildingRecord>) => commit({ kind: 'building.set', patch })
  const { walls, attic, crawl } = made
  const timber = walls?.kind === 'timber' ? walls : null
  return (
    <Section title="How it is built">
      <FieldGrid>
        <ChoiceField
          label="Walls"
          value={walls?.kind ?? 'unknown'}
          options={[
            { value: 'unknown', label: 'Not looked' },
            { value: 'timber', label: 'Hollow, on studs' },
            { value: 'masonry', label: 'Solid' },
          ]}
          onCommit={(kind) =>
            set({ walls: kind === 'timber' ? { kind, studM: 0.4, depthMm: null } : kind === 'masonry' ? { kind } : null })
          }
        />
        {timber && (
          <>
            <SmallLengthField
              label="Stud to stud, middles"
              value={timber.studM * 1000}
              min={200}
              max={1500}
              onCommit={(v) => v && set({ walls: { ...timber, studM: v / 1000 } })}
            />
            <SmallLengthField
              label="Depth of a stud"
              optional
              placeholder="?"
              value={timber.depthMm}
              min={30}
              max={400}
              onCommit={(depthMm) => set({ walls: { ...timber, depthMm } })}
            />
          </>
        )}
        <ChoiceField
          label="Attic one can get into"
          value={asLooked(attic)}
          options={looked}
          onCommit={(v) => set({ attic: v === 'unknown' ? null : v === 'none' ? 'none' : { headM: 1.2, hot: false } })}
        />
        {attic !== null && attic !== 'none' && (
          <>
            <LengthField
              label="Head room in it"
              value={attic.headM}
              min={0.2}
              max={5}
              onCommit={(headM) => headM && set({ attic: { ...attic, headM } })}
            />
            <CheckField label="Hot under the roof" value={attic.hot} onCommit={(hot) => set({ attic: { ...attic, hot } })} />
          </>
        )}
        <ChoiceField
          label="Crawl space or cellar under it"
          value={asLooked(crawl)}
          options={looked}
          onCommit={(v) => set({ crawl: v === 'unknown' ? null : v === 'none' ? 'none' : { headM: 0.7 } })}
        />
        {crawl !== null && crawl !== 'none' && (
          <LengthField
            label="Head room there"
            value={crawl.headM}
            min={0.2}
            max={5}
            onCommit={(headM) => headM && set({ crawl: { headM } })}
          />
        )}
        <SmallLengthField
          label="Bored for a cable"
          hint="The drill you use"
          value={made.holeMm}
          min={6}
          max={80}
          onCommit={(holeMm) => holeMm && set({ holeMm })}
        />
      </FieldGrid>
      {(attic === null || crawl === null) && <p className="mt-2 text-[0.9rem] text-ink-2">No way leads through what nobody looked at.</p>}
    </Section>
  )
}
