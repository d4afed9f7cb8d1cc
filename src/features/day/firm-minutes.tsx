'use client'
import type { Learnt } from '@/core/workday/log'
import { taskKinds, type TaskKind } from '@/core/workday/task-kinds'
import { usualMinutes } from '@/core/workday/tasks'
import { trim } from '@/core/base/format'
import { M_PER_FT } from '@/core/base/units'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section } from '@/ui/panel'
import { useSettings } from '@/ui/settings'
import { useUnits } from '../sync/context'
import { useLog } from './use-log'

const kindNames: Readonly<Record<TaskKind, string>> = {
  bore: 'Boring a way',
  pull: 'Pulling',
  close: 'Making good',
  run: 'Cable run',
  remove: 'A point taken out',
  box: 'A box set',
  fit: 'An end connected',
  board: 'A circuit at its board',
  dead: 'A dead test',
  live: 'A live test',
  label: 'Labels of a circuit',
  clear: 'Clearing up',
}
const tabled = taskKinds.filter((k): k is keyof typeof usualMinutes => k in usualMinutes)

/** The firm’s own table of minutes, for all its jobs, and what its log says of it. */
export function FirmMinutes() {
  const { settings, change } = useSettings()
  const feet = useUnits() === 'imperial'
  // Cable is run by the length: by the metre in what is kept, by the foot where it is measured so.
  const perOf = (kind: TaskKind) => (kind === 'run' && feet ? M_PER_FT : 1)
  const labelOf = (kind: TaskKind) => (kind === 'run' ? `${kindNames.run}, a ${feet ? 'foot' : 'metre'}` : kindNames[kind])
  const said = new Map(useLog()?.map((l) => [l.kind, l]))
  const set = (kind: TaskKind, minutes: number | null) => {
    const { [kind]: _, ...rest } = settings.minutes
    change({ minutes: minutes === null ? rest : { ...rest, [kind]: minutes } })
  }
  return (
    <Section title="The firm’s minutes">
      <p className="mb-2 text-[0.9rem] text-ink-2">For all jobs. If a field is empty, a typical figure is used and marked as typical.</p>
      <FieldGrid>
        {tabled.map((k) => (
          <NumberField
            key={k}
            label={labelOf(k)}
            unit="min"
            optional
            placeholder={trim(usualMinutes[k] * perOf(k), 2)}
            value={settings.minutes[k] === undefined ? null : settings.minutes[k] * perOf(k)}
            min={0.01}
            max={600}
            digits={k === 'run' ? 2 : 1}
            onCommit={(v) => set(k, v === null ? null : v / perOf(k))}
            hint={
              <FromLog of={said.get(k)} now={(settings.minutes[k] ?? usualMinutes[k]) * perOf(k)} onTake={(v) => set(k, v / perOf(k))} />
            }
          />
        ))}
      </FieldGrid>
    </Section>
  )
}

function FromLog({ of, now, onTake }: { of: Learnt | undefined; now: number; onTake: (minutes: number) => void }) {
  if (!of) return null
  const minutes = Math.round(now * of.factor * 100) / 100
  return (
    <>
      Took {of.factor.toFixed(2)} times what was thought, {of.low.toFixed(2)} to {of.high.toFixed(2)}: {of.times} times in {of.jobs}{' '}
      {of.jobs === 1 ? 'job' : 'jobs'}
      {of.leftOut > 0 && `, ${of.leftOut} far off left out`}.{' '}
      {of.enough ? (
        <button type="button" className="underline" onClick={() => onTake(minutes)}>
          Take {minutes} min
        </button>
      ) : (
        'Too few to learn from yet.'
      )}
    </>
  )
}
