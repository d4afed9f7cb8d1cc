'use client'
import { removalFindings, removalSteps, removedFrom } from '@/core/build/removed'
import { leftBehind } from '@/core/job/box'
import { useState } from 'react'
import { applianceKinds } from '@/core/catalogue/appliances'
import { formatW } from '@/core/base/format'
import { readPoints } from '@/core/survey/csv'
import { plugIn } from '@/core/survey/plug-in'
import { type State, states } from '@/core/job/fields'
import { conditions } from '@/core/job/point'
import { newRoom, type Room } from '@/core/job/room'
import type { Point } from '@/core/installation/installation'
import { CheckField, SelectField, TextField } from '@/ui/fields'
import { NumberField } from '@/ui/number-field'
import { FieldGrid, Section, Stage } from '@/ui/panel'
import { VerdictMark } from '@/ui/verdict'
import { Table } from '@/ui/table'
import { useJob } from '../sync/context'
import { Photographs } from '../photographs/photographs'
import { useAbout } from '../fields/use-about'
import { useLed } from '../fields/use-led'
import { Findings } from '../fields/findings'
import { LoadSourceField } from '../fields/load-source'
import type { PatchOfPoint } from '../fields/patches'
import { LengthField, SmallLengthField } from '../fields/measure-fields'
import { CsvImport } from './csv-import'
import { kindNames, kindOptions, PointsTable } from './points-table'
import { worlds } from '@/core/region/worlds'

const stateNames: Record<State, string> = {
  existing: 'Is there and stays as it is',
  new: 'New',
  altered: 'Is there and is altered',
  removed: 'Is there and is taken out',
}
const conditionNames: Record<(typeof conditions)[number], string> = { sound: 'Sound', worn: 'Worn', damaged: 'Damaged' }
/** Findings that speak of a point rather than of a board or of the trace. */
const pointRules = new Set(['feed-drawn-out', 'point-damaged', 'hidden-box', 'way-overloaded', 'fed-through-what-goes'])

/** Rooms and points: everything a person notes walking through the building. */
export function PointsSheet() {
  const about = useAbout('survey')
  const survey = useJob((s) => s.job)
  const region = useJob((s) => s.job.region)
  const said = useJob((s) => s.report.survey.findings)
  const findings = [...said, ...removalFindings(survey)]
  const commit = useJob((s) => s.commit)
  const [picked, setPicked] = useState<string | null>(null)
  useLed('survey', 'points', (_, id) => setPicked(id))
  const point = [...survey.points, ...survey.standing].find((p) => p.id === picked)
  return (
    <Stage
      title="Survey"
      about={about}
      drawing={
        <>
          <PointsTable picked={picked} onPick={setPicked} />
          <Rooms />
        </>
      }
      working={
        <>
          {point ? (
            <>
              <PointFields key={point.id} point={point} />
              <Photographs of={{ kind: 'point', id: point.id }} hint="The plate, the box opened, the label of what is plugged in." />
            </>
          ) : (
            survey.points.length > 0 && (
              <p className="mb-4 text-ink-2">Pick a point to note its height, load and state, and to ask what may be plugged in there.</p>
            )
          )}
          <Section title="Findings">
            <Findings
              stage="survey"
              findings={findings.filter((f) => pointRules.has(f.rule))}
              empty="Nothing wrong was noted at the points."
            />
          </Section>
          <CsvImport
            title="Paste or bring in a list"
            columns="Point, room, kind, load, height, condition, cable"
            example={'Point,Room,Kind,Load\nBy the door,Hall,outlet,500'}
            read={(csv) => readPoints(csv, region, () => crypto.randomUUID())}
            show={showPoint}
            what={(n) => `${n} ${n === 1 ? 'point' : 'points'}`}
            onTake={(points) => commit({ kind: 'point.add', points })}
          />
        </>
      }
    />
  )
}

function PointFields({ point }: { point: Point }) {
  const region = useJob((s) => s.job.region)
  const commit = useJob((s) => s.commit)
  const set = (patch: PatchOfPoint) => commit({ kind: 'point.set', id: point.id, patch })
  const kinds = applianceKinds(region)
  return (
    <Section title={point.name}>
      <FieldGrid>
        <TextField label="Name" value={point.name} onCommit={(name) => name.trim() && set({ name: name.slice(0, 120) })} />
        <TextField label="Room" value={point.room} onCommit={(room) => set({ room: room.slice(0, 120) })} />
        <SelectField label="Kind" value={point.kind} options={kindOptions} onCommit={(kind) => set({ kind })} />
        <SmallLengthField
          label="Height of its centre"
          optional
          value={point.heightMm}
          max={20_000}
          onCommit={(heightMm) => set({ heightMm })}
        />
        <SelectField
          label="Appliance there"
          wide
          value={point.appliance ?? 'none'}
          options={[
            { value: 'none', label: 'None, or not known' },
            ...kinds.map((k) => ({ value: k.id, label: `${k.name} (${formatW(k.watts)})` })),
          ]}
          onCommit={(v) =>
            set(v === 'none' ? { appliance: null } : { appliance: v, watts: kinds.find((k) => k.id === v)!.watts, wattsFrom: 'assumed' })
          }
        />
        <NumberField
          label="Load"
          unit="W"
          optional
          placeholder="not known"
          value={point.watts}
          max={1_000_000}
          onCommit={(watts) => set({ watts })}
        />
        <LoadSourceField value={point.wattsFrom} onCommit={(wattsFrom) => set({ wattsFrom })} />
        <SelectField
          label="Condition"
          value={point.condition ?? '?'}
          options={[{ value: '?', label: 'Not checked' }, ...conditions.map((c) => ({ value: c, label: conditionNames[c] }))]}
          onCommit={(v) => set({ condition: v === '?' ? null : v })}
        />
        <TextField
          label="Cable that arrives"
          wide
          value={point.cable}
          onCommit={(cable) => set({ cable: cable.slice(0, 80) })}
          placeholder="size, sheath, colours"
        />
        <SelectField
          label="In this job it"
          wide
          value={point.state}
          options={states.map((s) => ({ value: s, label: stateNames[s] }))}
          onCommit={(state) => set({ state })}
        />
        <InOneBox point={point} />
        <CheckField label="Must not lose power (freezer, alarm)" value={point.mustHold} onCommit={(mustHold) => set({ mustHold })} />
        <CheckField label="Hidden: behind plaster or above a ceiling" value={point.hidden} onCommit={(hidden) => set({ hidden })} />
      </FieldGrid>
      {point.state === 'removed' && <TakenOut point={point} />}
      {point.hidden && (
        <button type="button" className="btn mt-1 w-full" onClick={() => set({ hidden: false })}>
          It can be reached now: blank cover, labelled
        </button>
      )}
      {point.kind === 'outlet' && <WhatIf point={point} />}
    </Section>
  )
}

/** Whether it is in one box with others. */
function InOneBox({ point }: { point: Point }) {
  const all = useJob((s) => s.job.points)
  const commit = useJob((s) => s.commit)
  const others = all.filter((p) => p.id !== point.id && p.planned === point.planned)
  const here = others.filter((p) => p.box.id === point.box.id)
  if (others.length === 0) return null
  return (
    <SelectField
      label="In one box with"
      wide
      value={here[0]?.id ?? ''}
      options={[
        { value: '', label: 'Nothing else: a box of its own' },
        ...others.map((p) => ({ value: p.id, label: p.name, group: p.room || 'No room entered' })),
      ]}
      onCommit={(id) => commit({ kind: 'box.share', point: point.id, box: id ? (others.find((p) => p.id === id)?.box.id ?? null) : null })}
    />
  )
}

const leftNames = {
  capped: 'A joint or capped conductors, under a blank cover',
  'pulled-out': 'Nothing: its cable is drawn out',
  'made-good': 'Nothing: cable and box out, wall made good',
} as const
/** What is left where a point is taken out, and the work that is. */
function TakenOut({ point }: { point: Point }) {
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const removed = removedFrom(job).find((r) => r.point.id === point.id)
  if (!removed) return null
  const steps = removalSteps(job, removed)
  return (
    <div className="mt-3 border-t border-rule pt-2">
      <h3 className="mb-1 text-[0.95rem]">Taken out</h3>
      {removed.stays ? (
        <p className="text-ink-2">Its box stays: other accessories are in it.</p>
      ) : (
        <FieldGrid>
          <SelectField
            label="What is left there"
            wide
            value={removed.left ?? ''}
            placeholder="Not decided"
            options={leftBehind.map((l) => ({ value: l, label: leftNames[l] }))}
            onCommit={(left) => commit({ kind: 'box.set', boxes: [point.box.id], patch: { left } })}
          />
        </FieldGrid>
      )}
      <ol className="mt-2 list-decimal pl-5" aria-label="Work where it is taken out">
        {steps.map((s) => (
          <li key={s.id} className="py-0.5">
            {s.text} {s.clause && <span className="text-[0.85rem] text-ink-2">{s.clause}</span>}
          </li>
        ))}
      </ol>
    </div>
  )
}

const verdictOf = { fits: 'met', 'too-much': 'error', unknown: 'unknown' } as const

/** "What if I plug this in here?", answered before it is tried. */
function WhatIf({ point }: { point: Point }) {
  const job = useJob((s) => s.job)
  const report = useJob((s) => s.report.survey)
  const [kind, setKind] = useState('')
  const [watts, setWatts] = useState<number | null>(null)
  const [continuous, setContinuous] = useState(false)
  const plugs = applianceKinds(job.region).filter((k) => k.connection === 'plug' && k.volts < 1.5 * worlds[job.region].lineV)
  const answer = watts ? plugIn(job, report, point.id, watts, continuous) : null
  return (
    <div className="mt-4 border-t border-rule pt-2">
      <h3 className="mb-1 text-[0.95rem]">What if this is plugged in here?</h3>
      <FieldGrid>
        <SelectField
          label="Appliance"
          wide
          value={kind}
          options={plugs.map((k) => ({ value: k.id, label: `${k.name} (${formatW(k.watts)})` }))}
          placeholder="Choose, or type its watts"
          onCommit={(v) => {
            const chosen = plugs.find((k) => k.id === v)!
            setKind(v)
            setWatts(chosen.watts)
            setContinuous(chosen.continuous)
          }}
        />
        <NumberField label="Draws" unit="W" optional value={watts} max={100_000} onPreview={setWatts} onCommit={setWatts} />
        <CheckField label="Three hours or more continuously" value={continuous} onCommit={setContinuous} />
      </FieldGrid>
      {answer && (
        <p role="status" className="mt-1 flex gap-2">
          <VerdictMark
            of={verdictOf[answer.verdict]}
            label={answer.verdict === 'fits' ? 'It fits:' : answer.verdict === 'too-much' ? 'Too much:' : 'Not known:'}
          />
          <span>{answer.message}</span>
        </p>
      )}
    </div>
  )
}

const blankRoom = (name: string): Room => newRoom('', name)

/** Where each room lies, paced from the board: rough, and enough to compare ways to take power. */
function Rooms() {
  const survey = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const [name, setName] = useState('')
  const names = [...new Set([...survey.rooms.map((r) => r.name), ...survey.points.map((p) => p.room)])].filter(Boolean)
  const add = () => {
    if (name.trim() && !names.includes(name.trim())) commit({ kind: 'room.set', name: name.trim(), patch: {} })
    setName('')
  }
  return (
    <Section title="Rooms, paced from the board">
      {names.length === 0 ? (
        <p className="text-ink-2">Rooms appear here as points are put in them.</p>
      ) : (
        <Table minRem={34} heads={['Room', ['Floors up', 'w-24'], ['Along', 'w-32'], ['Across', 'w-32'], ['Walls', 'w-40']]}>
          {names.map((n) => {
            const room = survey.rooms.find((r) => r.name === n) ?? blankRoom(n)
            const set = (patch: Partial<Room>) => commit({ kind: 'room.set', name: n, patch })
            return (
              <tr key={n} className="border-b border-rule [&_label]:sr-only">
                <td className="py-1 font-bold">{n}</td>
                <td className="pr-3">
                  <NumberField
                    label={`${n}: floors above the board`}
                    whole
                    min={-5}
                    max={50}
                    value={room.floor}
                    onCommit={(floor) => set({ floor: floor ?? 0 })}
                  />
                </td>
                <td className="pr-3">
                  <LengthField
                    label={`${n}: along from the board`}
                    optional
                    placeholder="?"
                    min={-1000}
                    max={1000}
                    value={room.alongM}
                    onCommit={(alongM) => set({ alongM })}
                  />
                </td>
                <td className="pr-3">
                  <LengthField
                    label={`${n}: across from the board`}
                    optional
                    placeholder="?"
                    min={-1000}
                    max={1000}
                    value={room.acrossM}
                    onCommit={(acrossM) => set({ acrossM })}
                  />
                </td>
                <td>
                  <SelectField
                    label={`${n}: walls`}
                    value={room.finished === null ? '?' : room.finished ? 'yes' : 'no'}
                    options={[
                      { value: '?', label: 'Not checked' },
                      { value: 'yes', label: 'Finished' },
                      { value: 'no', label: 'Open' },
                    ]}
                    onCommit={(v) => set({ finished: v === '?' ? null : v === 'yes' })}
                  />
                </td>
              </tr>
            )
          })}
        </Table>
      )}
      <form className="no-print mt-2 flex items-end gap-2" onSubmit={(e) => (e.preventDefault(), add())} aria-label="Add a room">
        <input
          className="field max-w-56"
          aria-label="Name of another room"
          placeholder="Another room"
          maxLength={120}
          value={name}
          onChange={(e) => setName(e.target.value)}
        />
        <button type="submit" className="btn">
          Add the room
        </button>
      </form>
    </Section>
  )
}

const showPoint = (p: Pick<Point, 'name' | 'room' | 'kind' | 'watts'>) => (
  <>
    <b>{p.name}</b> {[p.room, kindNames[p.kind].toLowerCase(), p.watts === null ? '' : formatW(p.watts)].filter(Boolean).join(', ')}
  </>
)
