import type { Circuit, Installation } from '../installation/installation'
import type { Way } from '../job/board'
import type { Cable } from '../job/cable'
import { formatA } from '../base/format'
import { atMost } from '../base/tolerance'
import { evaluateSurvey, type WayLoad } from '../survey/traced'
import type { CircuitFacts, OnItsWays, Rule } from './engine'

/** Ways that were found, which the circuit stays on or continues from. */
export const foundWays = ({ ways }: Pick<Circuit, 'ways'>): Way[] => ways.filter((w) => w.state !== 'new')
const perWorld = (na: string, uk: string, za: string) => ({ 'north-america': na, 'united-kingdom': uk, 'southern-africa': za })

/** Cables that were found on the ways it stays on. */
export const cablesThatStay = (job: Installation, circuit: Pick<Circuit, 'ways'>): Cable[] =>
  job.foundCables.filter((k) => k.circuit === null && foundWays(circuit).some((w) => k.from.id === w.id))

export const onNone: OnItsWays = { already: null, proved: false }

/** What was traced on the ways of a circuit besides its own points. */
export function onItsWays(job: Installation, circuit: Circuit): OnItsWays {
  const found = foundWays(circuit)
  if (found.length === 0) return onNone
  const { loads, proved } = evaluateSurvey(job)
  const there: WayLoad[] = loads.filter((l) => found.some((w) => w.id === l.way.id))
  if (there.length === 0) return { already: null, proved: proved.has(found[0]!.id) }
  const own = new Set(circuit.points.map((p) => p.id))
  const points = job.points.filter((p) => !own.has(p.id) && there.some((l) => l.points.includes(p.id)))
  const perWatt = there[0]!.watts > 0 ? there[0]!.amps / there[0]!.watts : 1 / (circuit.load.volts ?? 230)
  return {
    already: {
      amps: points.reduce((sum, p) => sum + (p.watts ?? 0), 0) * perWatt,
      unknown: points.filter((p) => p.watts === null).length,
      unread: points.find((p) => p.watts === null)?.id ?? null,
      points: points.length,
    },
    proved: proved.has(found[0]!.id),
  }
}

/** What the way it stays on is called: by its label, or without one as the circuit. */
const calledIn = ({ circuit }: CircuitFacts): string => foundWays(circuit)[0]!.label || circuit.name || `way ${circuit.way}`
const onFound = (f: CircuitFacts): boolean => foundWays(f.circuit).length > 0

/** Rules on what is there and stays: the breaker, the load and the way that an altered or extended circuit sits on. */
export const existingRules: readonly Rule[] = [
  {
    id: 'existing-breaker',
    about: 'The breaker that is there against the cable and the load of what is lengthened or added.',
    clause: perWorld('240.4; 210.20', '433.1.1; 132.16', 'SANS 10142-1 overload protection; alterations'),
    severity: 'error',
    looksAt: [],
    applies: onFound,
    raised: (f) => {
      const [way] = foundWays(f.circuit)
      if (way!.ratingA === null)
        return {
          severity: 'unknown',
          message:
            `The rating of the breaker that is there (${calledIn(f)}) was not read: whether it protects the cable is not judged. ` +
            'Read it, and enter it on the board.',
        }
      const { result } = f
      if (!result?.breakerA || !result.ampacityA) return null
      if (way!.ratingA > result.breakerA && !atMost(way!.ratingA, result.ampacityA))
        return (
          `The breaker that is there (${calledIn(f)}) is ${formatA(way!.ratingA)}; the cable carries ${formatA(result.ampacityA)} ` +
          `and this circuit is made for ${result.breakerA} A: it overheats before the breaker trips. Change the breaker to ` +
          `${result.breakerA} A and enter it, or make the circuit for ${formatA(way!.ratingA)}.`
        )
      if (way!.ratingA < result.requiredA && !atMost(result.requiredA, way!.ratingA))
        return (
          `The breaker that is there (${calledIn(f)}) is ${formatA(way!.ratingA)} and this circuit asks for ` +
          `${formatA(result.requiredA)}: it trips. Move load elsewhere, or have breaker and cable enlarged together.`
        )
      return way!.ratingA === result.breakerA
        ? null
        : {
            severity: 'warning',
            message:
              `The breaker that is there (${calledIn(f)}) is ${formatA(way!.ratingA)}; this circuit is worked out for ` +
              `${result.breakerA} A. Enter which of them it will be: as the breaker of the way, or as the one wanted.`,
          }
    },
  },
  {
    id: 'way-already-loaded',
    about: 'The existing load of the way, with the addition.',
    clause: perWorld('210.23; 220.11', '433.1.1; 132.16', 'SANS 10142-1 overload protection; alterations'),
    severity: 'error',
    looksAt: ['load'],
    applies: (f) => onFound(f) && f.circuit.kind !== 'feeder',
    raised: (f) => {
      const [way] = foundWays(f.circuit)
      const { already: there, proved } = f.there
      const added = f.worked.load!.nameplateA
      const unknown = (message: string, about = `way:${way!.id}`) => ({ severity: 'unknown' as const, message, about })
      if (there === null || there.points === 0)
        return proved
          ? null
          : unknown(
              `The existing load of ${calledIn(f)} was not traced: whether it carries ${formatA(added)} more is not known. ` +
                'Switch it off and look what dies.',
            )
      if (way!.ratingA !== null && !atMost(there.amps + added, way!.ratingA))
        return (
          `${there.points === 1 ? 'One point is' : `${there.points} points are`} on ${calledIn(f)} already and can draw ` +
          `${formatA(there.amps)}; with this circuit it carries ${formatA(there.amps + added)}, over its ${formatA(way!.ratingA)}. ` +
          'Give it a circuit of its own, or move something away.'
        )
      if (there.unknown)
        return {
          ...unknown(
            `What ${there.unknown} of the points on ${calledIn(f)} draw is not known, so whether it carries ${formatA(added)} ` +
              'more is not judged. Read their nameplates.',
            `point:${there.unread}`,
          ),
          asks: ['pointLoads'],
        }
      return proved
        ? null
        : unknown(
            `The existing load of ${calledIn(f)} was reported or left over, not proved by switching off. It may feed more: whether it ` +
              `carries ${formatA(added)} more is not known. Switch it off and look what dies.`,
          )
    },
  },
  {
    id: 'existing-cable-not-known',
    about: 'The cable that stays in an altered circuit, or is used in a new one.',
    clause: perWorld('110.12; 240.4', '132.16; 641.5', 'SANS 10142-1 alterations'),
    severity: 'unknown',
    looksAt: [],
    applies: (f) => f.circuit.work === 'altered' || f.circuit.cables.some((k) => k.state === 'existing'),
    raised: (f) => {
      const seen = f.circuit.work === 'altered' ? cablesThatStay(f.job, f.circuit) : f.circuit.cables.filter((k) => k.state === 'existing')
      const unread = seen.filter((k) => k.size === null || k.type === null)
      if (seen.length && unread.length === 0) return null
      return (
        'The size and kind of the cable that stays is not known. Open a box, read it, and enter it: the breaker must protect the ' +
        'thinnest of it.'
      )
    },
  },
  {
    id: 'breaker-over-main',
    about: 'The breaker of a circuit against the main switch of its board.',
    clause: perWorld('408.36; 230.79', '536.4.202', 'SANS 10142-1 main switch'),
    severity: 'error',
    looksAt: ['breaker'],
    applies: (f) => f.circuit.feeder === null && f.job.boards.some((b) => b.id === f.circuit.board && b.mainA !== null),
    raised: (f) => {
      const board = f.job.boards.find((b) => b.id === f.circuit.board)!
      return atMost(f.result!.breakerA!, board.mainA!)
        ? null
        : {
            severity: 'error',
            message: `The breaker is ${f.result!.breakerA} A and the main of its board ${formatA(board.mainA!)}. The board cannot feed it.`,
            about: `board:${board.id}`,
          }
    },
  },
]
