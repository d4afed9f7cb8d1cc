'use client'
import { useMemo, useState } from 'react'
import { type BoxFinding, carriedIn, checkBox, checkLive } from '@/core/wired/check'
import { type Box, boxPoints } from '@/core/build/box'
import { houseOf } from '@/core/wired/house'
import { noTrial, type Trial } from '@/core/wired/laid'
import { liveOf } from '@/core/wired/live'
import { type BenchRecord, madeOff } from '@/core/job/bench'
import { worlds } from '@/core/region/worlds'
import { useWorker } from '@/ui/use-worker'
import { useCircuit, useJob } from '../sync/context'
import { useLed } from '../fields/use-led'

const begin = () => new Worker(new URL('../../workers/bench.ts', import.meta.url), { type: 'module' })

/** The boxes of the circuit in hand on the bench, with the whole job solved as it stands under what is tried. */
export function useBench() {
  const job = useJob((s) => s.job)
  const circuits = useJob((s) => s.report.circuits)
  const commit = useJob((s) => s.commit)
  const circuit = useCircuit()
  const [trial, setTrial] = useState<Trial>(noTrial)
  const [picked, setPicked] = useState<string | null>(null)
  useLed('wiring', 'bench', (_, id) => setPicked(id))
  const house = useMemo(() => houseOf(job, circuits, trial), [job, circuits, trial])
  const asked = useMemo(() => ({ input: house.input, outlets: house.outlets }), [house])
  const { answer: live, thinking } = useWorker(begin, asked, liveOf)
  const own = boxPoints(circuit).map((p) => p.id)
  const boxes = house.boxes.filter((b) => b.points.some((p) => own.includes(p.id)))
  const box: Box | undefined = boxes.find((b) => b.id === picked || b.points.some((p) => p.id === picked)) ?? boxes[0]
  const findings = useMemo(() => {
    const carried = carriedIn(house)
    const { lineV } = worlds[job.region]
    // The answer belongs to the wiring before while the next is worked out.
    const solved = live && house.outlets.every((o) => live.outlets[o.id]) ? live : null
    return house.boxes.flatMap((b): BoxFinding[] => [...checkBox(job, b, carried), ...(solved ? checkLive(house, solved, b, lineV) : [])])
  }, [house, live, job])
  return {
    job,
    house,
    boxes,
    box,
    pick: setPicked,
    live,
    thinking,
    findings,
    trial,
    setTrial,
    take: (bench: BenchRecord) => box && commit({ kind: 'bench.take', box: box.id, bench }),
    connect: (end: string, to: string | null) => {
      if (!box) return
      // The first conductor that is moved takes the usual wiring over as one's own.
      if (box.usual) commit({ kind: 'bench.take', box: box.id, bench: madeOff(box.bench, end, to) })
      else commit({ kind: 'bench.connect', box: box.id, end, to })
    },
    drop: () => box && commit({ kind: 'bench.drop', box: box.id }),
  }
}
export type Bench = ReturnType<typeof useBench>
