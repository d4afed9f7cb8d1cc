'use client'
import { useMemo, useState } from 'react'
import { JOINT_MIN } from '@/core/building/breaking'
import { sideLength } from '@/core/building/house'
import { type Route, waysOfAll } from '@/core/building/route'
import { type Broken, breakWanted, brokenBy } from '@/core/installation/break-in'
import { turned } from '@/core/installation/building'
import { formatLength, formatMark } from '@/core/base/format'
import type { RegionId } from '@/core/region/types'
import { Section } from '@/ui/panel'
import { useWorker } from '@/ui/use-worker'
import { Working } from '@/ui/working'
import { useJob, useUnits } from '../sync/context'
import type { Building } from './use-building'
import { minutes, beginWays } from './ways-worker'

const clause: Readonly<Record<RegionId, string>> = {
  'north-america': '300.15; 314.29',
  'united-kingdom': '526.3',
  'southern-africa': 'SANS 10142-1 joints',
}

/** A point fed from the middle of a cable of its circuit, in place of from where it is led now. */
export function BreakIn({ building, branch, from, best }: { building: Building; branch: string; from: string; best: Route | undefined }) {
  const { job } = building
  const wanted = useMemo(() => breakWanted(job.record, branch), [job.record, branch])
  const [open, setOpen] = useState(false)
  if (!wanted) return null
  return (
    <Section title="Or out of a cable that is there">
      {open ? (
        <Found building={building} branch={branch} from={from} best={best} wanted={wanted} />
      ) : (
        <button type="button" className="btn no-print" onClick={() => setOpen(true)}>
          Look where a joint box would do
        </button>
      )}
    </Section>
  )
}

function Found({
  building: { job, read, names },
  branch,
  from,
  best,
  wanted,
}: {
  building: Building
  branch: string
  from: string
  best: Route | undefined
  wanted: NonNullable<ReturnType<typeof breakWanted>>
}) {
  const units = useUnits()
  const commit = useJob((s) => s.commit)
  const asked = useMemo(() => [wanted], [wanted])
  const { answer, thinking, ...at } = useWorker(beginWays, asked, waysOfAll)
  if (thinking || at.stopped || !answer) return <Working words="looking…" again="Look again" at={at} />
  const [found] = answer
  const route = found && 'routes' in found ? found.routes[0] : undefined
  const owner = job.record.cables.find((k) => k.id === branch)?.circuit
  const broken = route && brokenBy(job.record, branch, route)
  if (!broken) {
    const why = found && ('wrong' in found ? found.wrong : found.findings[0]?.message)
    return <p className="text-ink-2">{why ?? 'Nowhere along these cables.'}</p>
  }
  const { spot } = broken
  const room = read.rooms.find((r) => r.id === spot.room)!
  const beyond = job.record.cables.find((k) => k.id === broken.cable)!.to.id
  const left = 'side' in spot ? turned(spot.side, sideLength(room, spot.side), spot.atM) : 0
  const where =
    'side' in spot
      ? `the ${spot.side} wall of ${names.get(room.id) ?? 'a room'}, ${formatMark(left, units)} from its left corner as you face it, ` +
        `${formatMark(spot.heightM, units)} above the floor`
      : `the attic over ${names.get(room.id) ?? 'a room'}, ${formatMark(spot.eastM, units)} off its west wall and ` +
        `${formatMark(spot.northM, units)} off its south wall`
  const cut = best?.pieces.reduce((sum, p) => sum + p.lengthM, 0)
  return (
    <>
      <p>
        In {where}, in the cable to {names.get(beyond) || 'a point'}: <b>{formatLength(broken.way.cutM, units)}</b>,{' '}
        {minutes(broken.minutes)}, and {minutes(JOINT_MIN)} for the box, while{' '}
        {job.circuits.find((c) => c.id === owner)?.name || 'the circuit'} is off.
        {best && cut !== undefined && ` From ${from} it takes ${formatLength(cut, units)}, ${minutes(best.minutes)}.`}
        {best && ` As you weigh them it counts for ${Math.round(broken.cost)}, from there for ${Math.round(best.cost)}.`}
      </p>
      <p className="text-[0.9rem] text-ink-2">
        The cable is cut dead: isolated, and proved dead at both sides of the cut. The joint stays in reach behind a cover, and the box
        holds all that enters it. ({clause[job.region]})
      </p>
      <button type="button" className="btn no-print mt-1" onClick={() => commit(edit(broken, branch, left, names.get(beyond) ?? ''))}>
        Put a joint box there
      </button>
    </>
  )
}

/** A joint box as an edit. */
function edit({ cable, spot, toJoint, onward, way }: Broken, branch: string, left: number, beyond: string) {
  const at = new Date().toISOString()
  return {
    kind: 'route.break' as const,
    cable,
    branch,
    joint: { id: crypto.randomUUID(), name: `Joint before ${beyond || 'a point'}`.slice(0, 120) },
    room: spot.room,
    spot:
      'side' in spot
        ? { side: spot.side, atM: left, heightMm: spot.heightM * 1000, wall: crypto.randomUUID() }
        : { eastM: spot.eastM, northM: spot.northM },
    toJoint: { ...toJoint, at },
    onward: { ...onward, at },
    way: { ...way, at },
  }
}
