import { followed } from '../catalogue/schools'
import { listed } from '../base/finding'
import { boardProtection, protectedAtBoard } from '../installation/protection'
import { formatA, formatOhm, formatSize, trim } from '../base/format'
import { atLeast } from '../base/tolerance'
import { areaMm2 } from '../design/prices'
import { magneticFrom, magneticSure } from './circuit'
import type { CircuitFacts, Rule } from './engine'
import { aDevice } from './points'
import { behindFirst } from '../design/guards'
import { worlds } from '../region/worlds'
import { smallestBehindBreaker } from '../region/breaker-energy'
import { dataOf } from '../region/metric'

/** Outlets with a device of their own that are said to guard what is fed beyond. */
const guardingOutlets = ({ circuit, sites }: CircuitFacts): string[] =>
  sites
    .filter(
      (s) => s.point?.guardsOn && s.residual === 'own' && s.kind?.onward !== 'none' && circuit.points.some((p) => p.from === s.point!.id),
    )
    .map((s) => s.name)
const guarded = ({ design, sites }: CircuitFacts): boolean => design.residual.at !== 'none' || sites.every((s) => s.residual !== null)

/** What an instrument shows as 0.00. */
const LEAST_READ_OHM = 0.005
/** Nominal voltage to earth. */
const FAULT_V = 230
/** How long a fault lasts, in seconds: cleared by the magnetic release, or by a residual device. */
const AT_ONCE_S = 0.1
const RESIDUAL_S = 0.3
/**
 * The longest that a fault may last, in seconds: in a final circuit, in one that feeds a board; on an earth rod less. BS 7671 Table 41.1,
 * 411.3.2.2 to 411.3.2.4.
 */
const disconnectionS = ({ job, circuit: { kind } }: CircuitFacts): number =>
  job.supply.earthing === 'tt' ? (kind === 'feeder' ? 1 : 0.2) : kind === 'feeder' ? 5 : 0.4
/** Earth fault loops of a circuit, in ohms: at its points, or at its one end. */
const loopsOf = (f: CircuitFacts): readonly number[] =>
  f.worked.layout ? f.worked.layout.points.flatMap((p) => p.zsOhm ?? []) : f.result!.zsOhm == null ? [] : [f.result!.zsOhm]

/** Rules on protection that look at the circuit as a whole. */
export const protectionRules: readonly Rule[] = [
  {
    id: 'tt-needs-residual-device',
    about: 'On an earth rod the whole circuit has residual protection.',
    clause: { 'united-kingdom': '411.5.2', 'southern-africa': 'IEC 60364-4-41 clause 411.5; SANS 10142-1 governs' },
    severity: 'error',
    looksAt: [],
    applies: (f) => f.job.supply.earthing === 'tt',
    raised: (f) => {
      const there = protectedAtBoard(f.job, f.circuit, f.design)
      if (there) return null
      const message = 'On an earth rod the whole circuit, not the outlet alone, needs a residual current device at the board.'
      return there === null ? { severity: 'unknown', message: `${message} Choose its residual device.` } : message
    },
  },
  {
    id: 'breaking-capacity',
    about: 'What the breaker can break against the fault it may meet.',
    clause: { 'north-america': '110.9', 'united-kingdom': '434.5.1', 'southern-africa': 'SANS 10142-1 prospective short-circuit current' },
    severity: 'error',
    looksAt: ['psc', 'breaking'],
    raised: (f) => {
      const [psc, ka] = [f.job.supply.pscKa!, f.design.breakingKa!]
      return atLeast(ka, psc)
        ? null
        : `A fault at the board may reach ${trim(psc, 2)} kA and the breaker breaks ${trim(ka, 2)} kA. Fit one marked for more, or ` +
            'have the supply checked.'
    },
  },
  {
    id: 'selectivity',
    about: 'Whether the device upstream stays in when this one trips.',
    clause: { 'north-america': '240.12', 'united-kingdom': '536.4', 'southern-africa': 'SANS 10142-1 coordination' },
    severity: 'warning',
    looksAt: ['upstream', 'breaker', 'psc'],
    raised: (f) => {
      const up = f.job.supply.upstream!
      const mine = f.result!.breakerA!
      if (mine >= up.ratingA)
        return (
          `The ${mine} A breaker is supplied through ${up.ratingA} A: an overload trips the one upstream as well. There is no ` +
          'selectivity (discrimination). Keep it smaller than the one upstream.'
        )
      const [selective, faultKa] = [f.design.selectiveKa, f.job.supply.pscKa!]
      if (selective !== null)
        return atLeast(selective, faultKa)
          ? null
          : {
              severity: 'note',
              message:
                `By the makers’ tables only the ${mine} A breaker trips up to ${trim(selective, 2)} kA; above that, and up to ` +
                `${trim(faultKa, 2)} kA can flow here, the ${up.ratingA} A device may go too.`,
            }
      if (up.kind === 'fuse')
        return {
          severity: 'unknown',
          message:
            `Behind a ${up.ratingA} A fuse it discriminates on overload; on a short-circuit only the makers’ tables of both say up ` +
            'to what current. Look them up, and enter it under Protection.',
        }
      const faultA = f.job.supply.pscKa! * 1000
      const limit = magneticFrom(f) * up.ratingA
      return !atLeast(faultA, limit)
        ? null
        : {
            severity: 'note',
            message:
              `On overload only the ${mine} A breaker trips. A short-circuit above about ${formatA(limit)} may trip the ` +
              `${up.ratingA} A device ahead too; up to ${trim(faultA / 1000, 1)} kA can flow here. Makers’ tables may promise more.`,
          }
    },
  },
  {
    id: 'neutral-bar',
    about: 'A circuit behind a residual device returns on that device’s own neutral bar.',
    clause: { 'united-kingdom': '314.4; 531.3', 'southern-africa': 'SANS 10142-1 earth leakage protection, neutral' },
    severity: 'note',
    looksAt: [],
    applies: (f) => f.circuit.behind === 'own' || f.job.residualDevices.some((d) => d.id === f.circuit.behind),
    raised: (f) => {
      const { behind } = f.circuit
      if (behind === 'own')
        return 'It has a device of its own: its neutral goes on the terminal of that, and the device’s own tail on the main bar.'
      const of = f.job.residualDevices.find((d) => d.id === behind)!
      return `Its neutral goes on the neutral bar of ${of.name}; on any other bar the device trips.`
    },
  },
  {
    id: 'residual-device-not-said',
    about: 'A residual device at the board that is counted on is one that is there.',
    clause: {
      'north-america': '210.8; 110.3(B)',
      'united-kingdom': '411.3.3; 531.3',
      'southern-africa': 'SANS 10142-1 earth leakage protection',
    },
    severity: 'error',
    looksAt: [],
    applies: (f) => f.design.residual.at === 'board' && f.circuit.kind !== 'feeder',
    raised: (f) => {
      const { kind } = boardProtection(f.job, f.circuit)
      const { rcd } = worlds[f.job.region].words
      if (kind === 'none')
        return (
          `This circuit needs ${aDevice(f)} at the board, and its way has none. Put it behind one, give it a breaker ` +
          'that has its own, or protect each outlet.'
        )
      if (kind !== 'not-said') return null
      const there = f.job.residualDevices.filter((d) => d.board === f.circuit.board)
      const which = there.length
        ? 'The board has ' +
          `${listed(there.map((d) => `${d.name} (${d.tripMa === null ? 'trip current not read' : `${trim(d.tripMa, 0)} mA`})`))}`
        : `The board has no ${rcd} that was noted`
      return {
        severity: 'unknown',
        message:
          `This circuit needs ${aDevice(f)} at the board, and which one is not chosen. ${which}. Until one is chosen under ` +
          'Protection, “Protected by”, the circuit is planned and priced with one in its own breaker.',
      }
    },
  },
  {
    id: 'residual-rating-differs',
    about: 'The residual current of the design against that of the device on the board.',
    clause: { 'united-kingdom': '411.3.3; 531.3', 'southern-africa': 'SANS 10142-1 earth leakage protection' },
    severity: 'error',
    looksAt: [],
    applies: (f) => f.design.residual.at === 'board' && f.circuit.feeder === null,
    raised: (f) => {
      const of = f.job.residualDevices.find((g) => g.id === f.circuit.behind)
      return of && of.tripMa !== null && of.tripMa !== f.design.reckonedMa
        ? `${of.name} trips at ${trim(of.tripMa, 0)} mA, and this circuit is designed for ${trim(f.design.reckonedMa, 0)} mA. ` +
            'Correct one of them, or give it a device of its own.'
        : null
    },
  },
  {
    id: 'residual-device-overloaded',
    about: 'The rating of a residual device against the breaker of a circuit behind it.',
    clause: { 'united-kingdom': '536.4.3.2', 'southern-africa': 'SANS 10142-1 earth leakage protection, rating' },
    severity: 'error',
    looksAt: ['breaker'],
    applies: (f) => f.job.residualDevices.some((g) => g.id === f.circuit.behind),
    raised: (f) => {
      const of = f.job.residualDevices.find((g) => g.id === f.circuit.behind)!
      if (of.ratingA === null)
        return {
          severity: 'unknown',
          message:
            `The rated current of ${of.name} was not read, so whether it carries its circuits is not judged. Read it from ` +
            'its front and enter it on the board.',
          about: `device:${of.id}`,
        }
      return f.result!.breakerA! > of.ratingA!
        ? `${of.name} is rated ${formatA(of.ratingA!)} and the breaker behind it ${f.result!.breakerA} A: it may burn before the ` +
            'breaker acts. Put the circuit behind a larger one, or give it a device of its own.'
        : null
    },
  },
  {
    id: 'protective-conductor-too-small',
    about: 'The protective conductor against what the breaker lets through in a fault, or the time it takes.',
    clause: { 'united-kingdom': '543.1.3', 'southern-africa': 'IEC 60364-5-54 clause 543.1.2; SANS 10142-1 governs' },
    severity: 'error',
    looksAt: ['ze', 'breaker'],
    applies: (f) => Boolean(f.result?.size && f.result.protectiveSize),
    raised: (f) => {
      const ze = f.job.supply.zeOhm!
      if (ze < LEAST_READ_OHM)
        return {
          severity: 'unknown',
          message: `A loop of ${formatOhm(ze)} is not a possible reading of a supply. Measure Ze again.`,
        }
      const [size, ratingA] = [f.result!.protectiveSize!, f.result!.breakerA!]
      const k = dataOf(worlds[f.job.region].metric!, f.design.cable).adiabaticK
      const enlarge = 'Fit a larger one, or show by the maker’s let-through energy (I²t) that this one is enough.'
      const originA = FAULT_V / ze
      const atOnceA = magneticSure(f) * ratingA
      if (originA >= atOnceA) {
        const least = smallestBehindBreaker(f.design.breakerType, ratingA, originA, k)
        if (least === null && !atLeast(areaMm2(size), Math.sqrt(originA ** 2 * AT_ONCE_S) / k))
          return {
            severity: 'unknown',
            message:
              `A fault at the board is ${formatA(originA)}, and no published table gives the let-through energy of a ${ratingA} A type ` +
              `${f.design.breakerType} breaker there. Check ${formatSize(size)} against the maker’s let-through energy (I²t).`,
          }
        if (least !== null && !atLeast(areaMm2(size), least))
          return (
            `A fault at the board is ${formatA(originA)}; behind a ${ratingA} A type ${f.design.breakerType} breaker of energy class 3 ` +
            `the protective conductor is at least ${trim(least, 2)} mm², and this is ${formatSize(size)}. ${enlarge}`
          )
      }
      // A fault along the run that the breaker does not clear at once lasts as long as the circuit may take to go off.
      const slow = loopsOf(f)
        .map((ohm) => FAULT_V / ohm)
        .filter((a) => a < atOnceA)
      if (slow.length === 0) return null
      const [faultA, seconds] = [Math.max(...slow), protectedAtBoard(f.job, f.circuit, f.design) ? RESIDUAL_S : disconnectionS(f)]
      const least = Math.sqrt(faultA ** 2 * seconds) / k
      return atLeast(areaMm2(size), least)
        ? null
        : `A fault of ${formatA(faultA)} does not trip the breaker at once; cleared in ${trim(seconds, 1)} s it asks for a protective ` +
            `conductor of ${trim(least, 2)} mm², and this is ${formatSize(size)}. ${enlarge}`
    },
  },
  {
    id: 'cooking-ahead-of-residual',
    about: 'Cooker-type loads ahead of the residual device or behind it.',
    clause: { 'north-america': '210.8', 'united-kingdom': '411.3.3; 531.3', 'southern-africa': 'SANS 10142-1 earth leakage protection' },
    severity: 'warning',
    looksAt: [],
    applies: (f) => f.circuit.load.nature === 'cooking' && worlds[f.job.region].metric !== null,
    raised: (f) =>
      guarded(f)
        ? null
        : {
            severity: followed(f.job.brief.schools, 'cooking') === 'ahead' ? ('note' as const) : ('warning' as const),
            message:
              `It is upstream of the ${worlds[f.job.region].words.rcd}, as was common, so that damp elements do not trip it. Behind ` +
              'it a fault to the frame is cut off at once, which is safer and is the default here. ' +
              (followed(f.job.brief.schools, 'cooking') === 'ahead'
                ? 'This job follows those who leave it ahead: see the brief.'
                : 'If it stays ahead, say so in the brief.'),
          },
  },
  {
    id: 'first-outlet-guards',
    about: 'A protective outlet guards those downstream only if line and load sides are not swapped.',
    clause: {
      'north-america': '210.8; maker’s instructions',
      'united-kingdom': '531.3; maker’s instructions',
      'southern-africa': 'SANS 10142-1; maker’s instructions',
    },
    severity: 'note',
    looksAt: [],
    applies: (f) => f.design.residual.at === 'first' || guardingOutlets(f).length > 0,
    raised: (f) => {
      const { kind, points } = f.circuit
      const behind = behindFirst(f.circuit)
      const left = points.filter((p) => !behind.has(p.id)).map((p) => p.name)
      if (kind === 'shared-neutral')
        return {
          severity: 'warning',
          message:
            'Two lines share the neutral: on the load side of a device in one outlet the other line’s current comes back through ' +
            `it, and it trips at once. Put ${aDevice(f)} with two poles at the board, or one in each outlet.`,
        }
      if (f.design.residual.at !== 'first')
        return (
          `The feed goes on the line side of ${guardingOutlets(f).join(', ')}, and the points downstream on the load side; swapped, it ` +
          'protects nothing downstream and may still reset. Test each of those points with the button of a tester, and label it.'
        )
      if (kind === 'ring')
        return {
          severity: 'warning',
          message:
            'A ring is fed from both ends: a device in its first outlet guards that outlet and its spurs, and no other. Put it ' +
            'at the board, or in each outlet.',
        }
      if (points.length === 0 && f.design.accessories <= 1 && !f.endings[0]?.fitted.residual)
        return { severity: 'warning', message: 'A first outlet that guards others asks for others: there is only one on this circuit.' }
      const not = left.length ? ` It does not guard ${left.join(', ')}, fed past it.` : ''
      return (
        'The feed goes on the line side of the first outlet, and everything downstream on its load side; swapped, it guards ' +
        `nothing and may still reset. Test each point downstream with the button of a tester, and label them.${not}`
      )
    },
  },
]
