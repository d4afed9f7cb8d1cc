'use client'
import { useState } from 'react'
import { type Side, sides } from '@/core/building/house'
import { sideOf } from '@/core/job/room'
import { CheckField, ChoiceField, SelectField } from '@/ui/fields'
import { FieldGrid, Section } from '@/ui/panel'
import { LengthField, SmallLengthField } from '../fields/measure-fields'
import { useJob } from '../sync/context'
import type { useBuilding } from './use-building'
import { standingOf } from './standing'

type Where = Side | 'ceiling' | 'floor'
const level = (w: Where): w is 'ceiling' | 'floor' => w === 'ceiling' || w === 'floor'
const whereNames: Record<Where, string> = { north: 'North', east: 'East', south: 'South', west: 'West', ceiling: 'Ceiling', floor: 'Floor' }

/** Where a point or a board is: room, wall, how far from its left end, and how high. It is written down once all of it is known. */
export function PlaceFields({
  what,
  id,
  building: { job, names, read },
}: {
  what: 'point' | 'board'
  id: string
  building: ReturnType<typeof useBuilding>
}) {
  const commit = useJob((s) => s.commit)
  const thing = standingOf(job, what, id)
  const wall = job.walls.find((w) => w.id === thing?.wall?.wall)
  const measured = job.rooms.filter((r) => r.measured)
  const known = thing && 'room' in thing ? thing.room : job.record.walls.find((w) => w.id === wall?.id)?.room
  const overhead = thing && 'overhead' in thing ? thing.overhead : undefined
  const [room, setRoom] = useState(measured.some((r) => r.id === known) ? known! : (measured[0]?.id ?? ''))
  const [where, setWhere] = useState<Where>(overhead ? (overhead.underfoot ? 'floor' : 'ceiling') : (wall?.side ?? 'north'))
  const [at, setAt] = useState<number | null>(overhead?.eastM ?? thing?.wall?.atM ?? null)
  const [high, setHigh] = useState<number | null>(overhead ? overhead.northM * 1000 : (thing?.heightMm ?? null))
  const [outside, setOutside] = useState(thing?.wall != null && 'outside' in thing.wall)
  if (!thing) return null
  const put = (next: { room?: string; where?: Where; at?: number | null; high?: number | null; outside?: boolean }) => {
    const { room: r, where: w, at: a, high: h, outside: out } = { room, where, at, high, outside, ...next }
    if (!r || a === null || h === null) return
    const { measured: size } = measured.find((x) => x.id === r)!
    const most = level(w) ? size!.lengthM : sideOf(size!, w)
    if (a > most + 1e-9) return
    const spot = level(w)
      ? { eastM: a, northM: h / 1000, ...(w === 'floor' ? { underfoot: true as const } : {}) }
      : { side: w, atM: a, heightMm: h, wall: crypto.randomUUID(), ...(out ? { outside: true as const } : {}) }
    commit({ kind: 'place.put', what, id, room: r, spot })
  }
  const of = measured.find((r) => r.id === room)?.measured
  const longest = of ? (level(where) ? of.lengthM : sideOf(of, where)) : 200
  return (
    <Section title={names.get(id) || 'Point'}>
      {measured.length === 0 ? (
        <p className="text-ink-2">Measure a room first.</p>
      ) : (
        <FieldGrid>
          <SelectField
            wide
            label="Room"
            value={room}
            options={measured.map((r) => ({ value: r.id, label: r.name }))}
            onCommit={(v) => (setRoom(v), put({ room: v }))}
          />
          <ChoiceField
            label="On the wall"
            value={where}
            options={[...sides, ...(what === 'point' ? (['ceiling', 'floor'] as const) : [])].map((s) => ({
              value: s as Where,
              label: whereNames[s],
            }))}
            onCommit={(v) => (setWhere(v), put({ where: v }))}
          />
          <LengthField
            label={level(where) ? 'From the west wall' : 'From the left, facing it'}
            optional
            placeholder="?"
            value={at}
            max={longest}
            onCommit={(v) => (setAt(v), put({ at: v }))}
          />
          {level(where) ? (
            <LengthField
              label="From the south wall"
              optional
              placeholder="?"
              value={high === null ? null : high / 1000}
              max={of?.widthM ?? 200}
              onCommit={(v) => (setHigh(v === null ? null : v * 1000), put({ high: v === null ? null : v * 1000 }))}
            />
          ) : (
            <SmallLengthField
              label="Its middle above the floor"
              optional
              placeholder="?"
              value={high}
              max={(of?.heightM ?? 20) * 1000}
              onCommit={(v) => (setHigh(v), put({ high: v }))}
            />
          )}
          {what === 'point' && !level(where) && (
            <CheckField label="On the outer face of the wall" value={outside} onCommit={(v) => (setOutside(v), put({ outside: v }))} />
          )}
        </FieldGrid>
      )}
      <p className="mt-2 text-ink-2">
        {read.standing.has(id) ? 'On the plan.' : 'Enter room, wall, distance and height to put it on the plan.'}
      </p>
    </Section>
  )
}
