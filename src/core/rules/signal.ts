import { type Finding, listedWords } from '../base/finding'
import { formatLength, formatSmallLength, type UnitSystem } from '../base/format'
import { atLeast } from '../base/tolerance'
import type { Installation } from '../installation/installation'
import type { SignalCable } from '../job/signal-cable'
import type { SignalKind } from '../region/types'
import { worlds } from '../region/worlds'

/**
 * Cables of extra-low voltage and telecommunication against those of power: not together in one raceway or box unless they are parted or
 * insulated for it, and a distance apart along the way. NFPA 70 725.136; BS 7671 528.1, 528.2.
 */
export function signalFindings(job: Installation): readonly Finding[] {
  return (job.record.signalCables ?? []).flatMap((k) => [...together(job, k), ...apart(job, k)])
}

function together(job: Installation, k: SignalCable): readonly Finding[] {
  const { separation } = worlds[job.region]
  const say = (rule: string, severity: Finding['severity'], message: string): Finding => ({
    rule,
    severity,
    clause: separation.clause,
    message: `${k.name}: ${message}`,
    about: `signal:${k.id}`,
  })
  if (k.shares === null)
    return [
      say(
        'signal-sharing-unknown',
        'unknown',
        'whether it runs in a raceway or box together with power conductors is not said. Look, or decide, and enter it.',
      ),
    ]
  if (k.shares.length === 0) return []
  const names = listedWords(k.shares.map((id) => sharedName(job, id)))
  const parted = k.barrier === true || (separation.insulationServes && k.insulated === true)
  if (parted) return []
  const known = k.barrier === false && (!separation.insulationServes || k.insulated === false)
  const mend = separation.insulationServes
    ? 'Part them by a barrier or a compartment of its own, use cable insulated for the highest voltage present, or run it apart.'
    : 'Part them by a barrier, or run it apart.'
  return [
    known
      ? say(
          'signal-with-power',
          k.state === 'new' ? 'error' : 'warning',
          `it shares ${names} with power conductors and nothing parts them. ${mend}`,
        )
      : say('signal-parting-unknown', 'unknown', `it shares ${names} with power conductors, and what parts them is not known. ${mend}`),
  ]
}

function apart(job: Installation, k: SignalCable): readonly Finding[] {
  const { separation, units } = worlds[job.region]
  const { apartMm } = separation
  if (apartMm === null || k.barrier === true || !TELECOMS.has(k.kind)) return []
  const least = formatSmallLength(apartMm, units)
  const of = { clause: separation.clause, about: `signal:${k.id}` }
  if (k.apartMm === null)
    return [
      {
        rule: 'signal-distance-unknown',
        severity: 'unknown',
        message:
          `${k.name}: how near it comes to power cables is not known. Keep ${least} along the run, or a divider between them, and enter ` +
          'the least distance.',
        ...of,
      },
    ]
  if (atLeast(k.apartMm, apartMm)) return []
  return [
    {
      rule: 'signal-too-near',
      severity: 'warning',
      message:
        `${k.name}: it comes within ${formatSmallLength(k.apartMm, units)} of power cables. Keep ${least}, or put a divider between ` +
        'them; cross at a right angle.',
      ...of,
    },
  ]
}

/** Kinds whose distance along the run is asked for. */
const TELECOMS: ReadonlySet<SignalKind> = new Set(['telephone', 'data', 'aerial'])

/** Where a data or control cable runs, how long it is, and how it is kept from power, in words. */
export function signalWords(job: Installation, k: SignalCable, units: UnitSystem): string {
  const { shares, apartMm } = k
  const parting =
    k.barrier === true
      ? ', a barrier between'
      : worlds[job.region].separation.insulationServes && k.insulated === true
        ? ', insulated for the highest voltage present'
        : ''
  return [
    k.from || k.to ? `${k.from || '?'} to ${k.to || '?'}` : 'from where to where is not said',
    k.lengthM === null ? 'length not known' : formatLength(k.lengthM, units),
    shares === null
      ? 'what it shares with power is not known'
      : shares.length === 0
        ? 'apart from power'
        : `with power in ${listedWords(shares.map((id) => sharedName(job, id)))}${parting}`,
    apartMm === null ? '' : `${formatSmallLength(apartMm, units)} from power cables at least`,
  ]
    .filter(Boolean)
    .join('; ')
}

/** A raceway or a box of the job by its name. */
export function sharedName(job: Installation, id: string): string {
  const raceway = job.raceways.find((r) => r.id === id)
  if (raceway) return raceway.name
  const first = job.points.find((p) => p.box.id === id)
  return first ? `the box of ${first.name}` : 'a box'
}
