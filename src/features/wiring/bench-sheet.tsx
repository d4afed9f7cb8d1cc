'use client'
import { inRegion } from '@/core/region/spelling'
import { Printer } from 'lucide-react'
import { useState } from 'react'
import { deviceWords, endWords } from '@/core/build/words'
import { benchDrawing, endPart, placePart } from '@/core/drawing/bench'
import { formatSmallLength, formatSize, formatTorque } from '@/core/base/format'
import { tailsLeft } from '@/core/build/steps'
import { FittingDrawing } from '@/ui/drawing'
import { Section, Stage } from '@/ui/panel'
import { FindingList } from '@/ui/verdict'
import { useCircuit, useJob, useUnits } from '../sync/context'
import { SchoolFields } from '../fields/schools'
import { PaperLink } from '../fields/paper-link'
import { BoxContents } from './box-contents'
import { endsIn, EndCard } from './end-card'
import { Outlets, Trips } from './live-list'
import { Staying } from './staying'
import { Switches } from './switches'
import { type Bench, useBench } from './use-bench'

/** One box of the circuit opened: conductors to their terminals, and the whole job solved as it stands. */
export function BenchSheet() {
  const bench = useBench()
  const { box } = bench
  if (!box)
    return (
      <Stage
        title="Wiring"
        drawing={
          <p className="m-auto max-w-sm text-center text-ink-2">
            A box opens here once the circuit has its breaker and cable. A feeder ends in a board, which is wired as a board.
          </p>
        }
        working={<p className="text-ink-2">Nothing to wire yet.</p>}
      />
    )
  return <Opened key={box.id} bench={bench} box={box} />
}

function Opened({ bench, box }: { bench: Bench; box: NonNullable<Bench['box']> }) {
  const { boxes, live, findings, tried, house } = bench
  const { circuit } = useCircuit()
  const units = useUnits()
  const tails = tailsLeft(
    bench.job,
    units,
    box.cables.some((k) => !k.singles),
  )
  const id = useJob((s) => s.id)
  const ends = endsIn(box)
  const [end, setEnd] = useState<string | null>(null)
  const inHand = ends.find((e) => e === end) ?? null
  const isHere = (point: string) => box.points.some((p) => p.id === point)
  const here = findings.filter((f) => isHere(f.point))
  const now = tried.filter((f) => isHere(f.point))
  const elsewhere = findings.filter((f) => !isHere(f.point) && f.severity === 'error')
  const select = (part: string) => {
    const name = part.slice(part.indexOf(' ') + 1)
    if (part === endPart(name)) return setEnd(name === inHand ? null : name)
    if (part === placePart(name) && inHand !== null) {
      bench.connect(inHand, name)
      setEnd(null)
    }
  }
  /** A conductor drawn to where it goes, or the screw to the conductor. */
  const pull = (from: string, to: string) => {
    const [a, b] = [from, to].map((part) => part.slice(part.indexOf(' ') + 1)) as [string, string]
    if (from === endPart(a) && to === placePart(b)) bench.connect(a, b)
    else if (from === placePart(a) && to === endPart(b)) bench.connect(b, a)
    else return
    setEnd(null)
  }
  return (
    <Stage
      title="Wiring"
      drawing={
        <div className="flex min-h-full flex-col gap-2">
          <div className="no-print flex flex-wrap items-center gap-2">
            {boxes.length > 1 && (
              <>
                <label className="sr-only" htmlFor="box-in-hand">
                  Box you work on
                </label>
                <select id="box-in-hand" className="field min-w-0 max-w-96" value={box.id} onChange={(e) => bench.pick(e.target.value)}>
                  {boxes.map((b) => (
                    <option key={b.id} value={b.id}>
                      {b.name}
                      {b.usual ? '' : ', by hand'}
                    </option>
                  ))}
                </select>
              </>
            )}
            <p className="text-ink-2">{box.usual ? 'Standard wiring.' : 'Wired by hand.'}</p>
            <span className="flex-1" />
            <PaperLink className="btn" job={id} file={`boxes.pdf?circuit=${circuit.id}`} name="Boxes, opened">
              <Printer size={16} aria-hidden /> Page to stick up
            </PaperLink>
          </div>
          <Trips live={live} house={house} />
          <p className="no-print min-h-6 text-[0.95rem]" aria-live="polite">
            {inHand === null ? (
              <span className="text-ink-2">
                Draw a conductor from its letters to the screw or connector it goes to, or take one, then the other.
              </span>
            ) : (
              <>
                Picked up: <b>{endWords(box, inHand)}</b>. Now choose the terminal or connector it goes to.
              </>
            )}
          </p>
          <div className="flex shrink-0 overflow-x-auto" tabIndex={0} role="region" aria-label="The box, opened">
            <FittingDrawing
              draw={(format) => benchDrawing(box, live, format)}
              selected={inHand === null ? null : endPart(inHand)}
              onSelect={select}
              onPull={pull}
              narrowBelow="xl"
              className="w-full max-w-[48rem] max-xl:max-w-[30rem]"
            />
          </div>
          <Switches bench={bench} box={box} />
        </div>
      }
      working={
        <>
          <EndCard bench={bench} box={box} end={inHand} onEnd={setEnd} />
          <Section title="What is wrong here">
            <FindingList findings={here} empty="None shown by the wiring. This is calculated, not measured." />
            {elsewhere.length > 0 && (
              <div className="mt-2">
                <h4 className="font-bold">In other boxes</h4>
                <FindingList
                  findings={elsewhere.slice(0, 6)}
                  empty=""
                  linkOf={({ point }) =>
                    boxes.some((b) => b.points.some((p) => p.id === point)) ? { words: 'Open it', follow: () => bench.pick(point) } : null
                  }
                />
                {elsewhere.length > 6 && <p className="text-ink-2">and {elsewhere.length - 6} more in other boxes</p>}
              </div>
            )}
          </Section>
          {now.length > 0 && (
            <Section title="While this is tried">
              <FindingList findings={now} empty="" />
            </Section>
          )}
          <Outlets bench={bench} box={box} />
          <BoxContents bench={bench} box={box} />
          <Section title="By hand">
            <ul className="list-disc pl-5">
              <li>
                {tails.text} {tails.clause}
              </li>
              {box.devices.map((d) => (
                <li key={d.id}>
                  {deviceWords(box, d)}: strip {formatSmallLength(d.kind.stripMm, units)}, conductors up to {formatSize(d.kind.largestSize)}
                  , {d.torqueNm ? formatTorque(d.torqueNm, units) : 'torque as marked on it: not read yet'}
                </li>
              ))}
              {box.bench.marked.length > 0 && <li>{box.bench.marked.map((m) => endWords(box, m)).join('; ')}: marked, at both ends</li>}
              <li>
                {inRegion(bench.job.region, 'Earth first, neutral next, line last; tug every joint. Take apart in the reverse order.')}
              </li>
            </ul>
            <p className="mt-2 mb-1 text-[0.9rem] text-ink-2">Both methods are accepted:</p>
            <SchoolFields of={['joints', 'tails']} />
          </Section>
          <Staying bench={bench} />
          {house.notes.length > 0 && (
            <Section title="Assumptions">
              <ul className="list-disc pl-5 text-ink-2">
                {house.notes.map((n) => (
                  <li key={n}>{n}</li>
                ))}
              </ul>
            </Section>
          )}
        </>
      }
    />
  )
}
