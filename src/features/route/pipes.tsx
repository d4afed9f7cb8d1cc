'use client'
import type { Part } from '@/core/building/steps'
import { newRaceway } from '@/core/job/raceway'
import { formatLength } from '@/core/base/format'
import { type Tube, tubesOf } from '@/core/calculate/from-way'
import { worlds } from '@/core/region/worlds'
import { Section } from '@/ui/panel'
import { useJob, useUnits } from '../sync/context'
import { useFollow } from '../fields/findings'
import type { Building } from './use-building'

/** How a pipe goes over into what is not on a face, by the part of the way that is next to it. */
const ends: Partial<Record<Part['kind'], string>> = {
  emerge: 'goes into the wall: a bush on the pipe, and the cable goes on inside',
  cabinets: 'goes behind the cabinets',
  'wall-hole': 'goes through the wall: sleeved, and sealed on both sides',
  'ceiling-hole': 'goes through the ceiling: the gap stopped again',
  'floor-hole': 'goes through the floor: the gap stopped again',
  storey: 'goes through the floor: the gap stopped again',
}

/** What of the way shown lies on faces, as pipes to be bent: each put among the conduits of the circuit, with its bends. */
export function Pipes({ parts, cable, title }: { parts: readonly Part[]; cable: Building['job']['cables'][number]; title: string }) {
  const units = useUnits()
  const job = useJob((s) => s.job)
  const commit = useJob((s) => s.commit)
  const follow = useFollow()
  const tubes = tubesOf(parts)
  if (tubes.length === 0 || cable.circuit === null) return null
  const circuit = cable.circuit
  const tube = worlds[job.region].racewayFill === 'area' ? 'Raceway' : 'Conduit'
  const mark = (t: Tube, n: number) => {
    const id = `way-${cable.id}-${n + 1}`.slice(-64)
    const bends = t.items.map((item, i) => ({ id: `b${i + 1}`, ...item }))
    const along = { cable: cable.id, piece: n + 1, lengthM: t.lengthM, bends: t.bends }
    const made = { bends, bendCount: t.bends, lengthM: Math.round(t.lengthM * 1000) / 1000, along }
    if (job.raceways.some((r) => r.id === id)) commit({ kind: 'raceway.set', id, patch: made })
    else {
      const name = `${tube} ${n + 1}, ${title}`.slice(0, 120)
      commit({ kind: 'raceway.add', item: newRaceway(id, name, { ...made, circuits: [circuit] }) })
    }
    follow({ stage: 'circuit', sheet: 'raceways' }, circuit)
  }
  return (
    <Section title="Pipes on faces">
      <ul>
        {tubes.map((t, n) => {
          const [before, after] = [parts[t.from - 1], parts[t.to + 1]].map((p) => p && ends[p.kind])
          return (
            <li key={n} className="border-b border-rule py-1.5">
              <b>{formatLength(t.lengthM, units)}</b>,{' '}
              {t.bends === 0 ? 'straight' : t.bends === 1 ? 'one quarter bend' : `${t.bends} quarter bends`}
              {t.bends > 4 && ', with a pull point between'}.
              {before && <span className="block text-ink-2">At its beginning it {before}.</span>}
              {after && <span className="block text-ink-2">At its end it {after}.</span>}
              <button type="button" className="btn no-print mt-1 flex" onClick={() => mark(t, n)}>
                {job.raceways.some((r) => r.id === `way-${cable.id}-${n + 1}`.slice(-64)) ? 'Mark it out again' : 'Mark it out for bending'}
              </button>
            </li>
          )
        })}
      </ul>
    </Section>
  )
}
