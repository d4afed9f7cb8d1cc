import { listed } from '../base/finding'
import { trim } from '../base/format'
import type { CircuitReport } from '../evaluate/evaluate'
import type { Installation } from '../installation/installation'
import type { Judged } from '../verify/judge'
import { worlds } from '../region/worlds'

/** Why a conductor that should be dead still shows a voltage: what the record knows of, the likeliest first. */
export interface StillLive {
  /** What was read, in words. */
  readonly read: string
  readonly voltage: 'full' | 'part'
  readonly causes: readonly string[]
}

/** From this part of the nominal voltage it is fed, and no conductor that floats. */
const FED_PART = 0.8

const volts = (value: number): string => `${trim(value, value < 10 ? 1 : 0)} V`

/** What a reading of the isolation says of a circuit that is not dead; null while every one that was taken is within its limit. */
export function stillLive(job: Installation, { circuit, ends, testReport }: CircuitReport): StillLive | null {
  const off = testReport.judged.filter(isLive)
  const [worst] = off.toSorted((a, b) => (b.reading?.value ?? 0) - (a.reading?.value ?? 0))
  if (!worst) return null
  const { lineV, words } = worlds[job.region]
  const highest = worst.reading?.value ?? 0
  const fed = highest >= FED_PART * lineV
  const boxes = [...new Map(ends.flatMap((e) => (e.built ? [[e.built.id, e.built] as const] : []))).values()]
  const others = [...new Set(boxes.flatMap((b) => b.cables.flatMap((k) => (k.circuit === circuit.id ? [] : [k.circuitName]))))]
  const unknown = boxes.filter((b) => b.besides.length > 0).map((b) => b.name)
  const sources = job.ways.filter((w) => w.kind === 'source').map((w) => w.label)
  const neutral = off.some((j) => j.test.id === 'iso-dead-n-e')
  return {
    read: listed(off.map((j) => `${j.test.title.replace(/^Dead between/, 'between')}: ${volts(j.reading?.value ?? 0)}`)),
    voltage: fed ? 'full' : 'part',
    causes: [
      ...(fed
        ? [
            `The ${words.breaker} that was switched off is not the one that feeds it. Switch off one ` +
              `${words.breaker} at a time, with the tester on these conductors, until it goes dead; then correct the label.`,
          ]
        : [
            'A conductor that floats beside a live one picks up part of its voltage. Press the button of the two-pole tester, so that it ' +
              'draws current: what falls away was picked up, what stays is fed. Until then it is live.',
          ]),
      ...(others.length
        ? [
            others.length === 1
              ? `${others[0]} comes into the same box: isolate it too.`
              : `${listed(others)} come into the same box: isolate them too.`,
          ]
        : []),
      ...(unknown.length ? [`What else is in the box of ${listed(unknown)} is not traced to a circuit: trace it first.`] : []),
      ...(sources.length ? [`${listed(sources)} also feeds the board: switch off and lock every source.`] : []),
      ...(neutral ? [`The ${words.neutral} shows a voltage: it may be shared with a circuit that is on. Do not open it under load.`] : []),
      'Two cables may have been exchanged at the board, or the point is fed from two places: trace both ends.',
      'The reading may be wrong: prove the tester on a known source, and read again.',
    ],
  }
}

const isLive = ({ test, verdict }: Judged): boolean => test.id.startsWith('iso-dead-') && verdict === 'off'
