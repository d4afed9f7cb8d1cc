'use client'
import { useMemo, useState } from 'react'
import { checkLive } from '@/core/wired/check'
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
  const stages = useJob((s) => s.report.stages)
  const commit = useJob((s) => s.commit)
  const circuit = useCircuit()
  const [trial, setTrial] = useState<Trial>(noTrial)
  const picked = useJob((s) => s.boxInHand)
  const pick = useJob((s) => s.pickBox)
  useLed('wiring', 'bench', (_, id) => pick(id))
  const house = useMemo(() => houseOf(job, circuits, trial), [job, circuits, trial])
  const asked = useMemo(() => ({ input: house.input, outlets: house.outlets }), [house])
  const { answer: live, thinking } = useWorker(begin, asked, liveOf)
  const own = boxPoints(circuit).map((p) => p.id)
  const boxes = house.boxes.filter((b) => b.points.some((p) => own.includes(p.id)))
  const box: Box | undefined = boxes.find((b) => b.id === picked || b.points.some((p) => p.id === picked)) ?? boxes[0]
  // What is wrong as it stands is reported in the job's own findings; what shows only while something is tried is listed separately.
  const findings = useMemo(
    () =>
      stages.find((x) => x.id === 'wiring')!.findings.flatMap((f) => (f.about ? [{ ...f, point: f.about.replace(/^point:/, '') }] : [])),
    [stages],
  )
  const tried = useMemo(() => {
    // The answer belongs to the wiring before while the next is worked out.
    const solved = trial !== noTrial && live && house.outlets.every((o) => live.outlets[o.id]) ? live : null
    return solved ? house.boxes.flatMap((b) => checkLive(house, solved, b, worlds[job.region].lineV)) : []
  }, [house, live, job, trial])
  return {
    job,
    house,
    boxes,
    box,
    pick,
    live,
    thinking,
    findings,
    tried,
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
