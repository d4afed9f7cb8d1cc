import type { Accessory } from '../catalogue/accessories'
import { type Ending, whereEnding } from '../design/endings'
import { fedBy, totalDropLimit } from '../design/fed'
import { nameplateW, startOf, voltsAt } from '../design/load'
import { plannedLegs } from '../survey/planned-board'
import { type Finding, listed, severities } from '../base/finding'
import type { CircuitPoint } from '../installation/installation'
import { formatA, formatPercent, formatSize, formatV, trim } from '../base/format'
import { atLeast, atMost } from '../base/tolerance'
import { metricRegions } from '../region/metric'
import type { MetricRegionId } from '../region/types'
import { naReceptaclesOnBreaker, naSizes } from '../region/north-america/awg'
import { voltageDrop } from '../calculate/voltage-drop'
import { type CircuitFacts, facts, type Raised, type Rule, aboutPoint } from './engine'
import { withinNominal } from './switching'
import { worlds } from '../region/worlds'

const metricSizes = ['1.0 mm2', '1.5 mm2', '2.5 mm2', '4 mm2', '6 mm2', '10 mm2', '16 mm2', '25 mm2']
const isLarger = (a: string, b: string): boolean => {
  const order = a.endsWith('AWG') ? naSizes : metricSizes
  return order.indexOf(a) > order.indexOf(b)
}
/** What is said of each kind of accessory on the circuit, with its place if there are several. */
function ofEach({ endings }: CircuitFacts, say: (ending: Ending) => string | null): Raised | null {
  const said = endings.flatMap((e) => {
    const words = say(e)
    return words === null ? [] : [{ first: e.points[0], words: endings.length > 1 ? `${whereEnding(e, endings)}: ${words}` : words }]
  })
  if (said.length === 0) return null
  const words = said.map((x) => x.words).join(' ')
  return endings.length > 1 ? aboutPoint(said[0]!.first, words) : words
}
const givesV = (region: CircuitFacts['job']['region'], { system }: Accessory): readonly number[] =>
  system === 'line-neutral' ? [worlds[region].lineV] : system === 'line-line' ? [240] : [120, 240]
const largerOnPurpose = (f: CircuitFacts, { fitted }: Ending): boolean =>
  fitted.kind === 'outlet' && fitted.outlets > 0 && fitted.ratingA > 16 && f.result?.breakerA != null && fitted.ratingA > f.result.breakerA
const perWorld = (na: string, uk: string, za: string) => ({ 'north-america': na, 'united-kingdom': uk, 'southern-africa': za })
const metric = (uk: string, za: string) => ({ 'united-kingdom': uk, 'southern-africa': za })

/**
 * Least current at which the magnetic release may act, in times the rating: the lower end of each type's band (IEC 60898-1); North
 * American frames, usual.
 */
export const magneticFrom = ({ job, design }: Pick<CircuitFacts, 'job' | 'design'>): number =>
  worlds[job.region].magnetic(design.breakerType).from
export const magneticSure = ({ job, design }: Pick<CircuitFacts, 'job' | 'design'>): number =>
  worlds[job.region].magnetic(design.breakerType).sure

/** Rushes shorter than this are judged by makers’ tables, not by the magnetic band. */
const BRIEF_S = 0.01

const largerWords = ({ result }: CircuitFacts, { fitted }: Ending): string =>
  `The outlet is rated ${formatA(fitted.ratingA)} and the breaker ${result!.breakerA!} A, on purpose: the label inside the cover ` +
  'says so, so that the breaker is not “corrected” before the cable and cord allow it.'

type Judged = Pick<Finding, 'severity' | 'message' | 'about'>

/** A fuse against what it feeds and the cord it protects; in a connection unit, the smallest that carries it is the better one. */
function judgeFuse({ job }: CircuitFacts, fuseA: number | null, amps: number, cordA: number | null, unit: boolean): Judged | null {
  const error = (message: string): Judged => ({ severity: 'error', message })
  if (fuseA === null) return { severity: 'unknown', message: `Whether its fuse suits is not judged: ${facts.fuse.ask}.` }
  // Where fuses of connection units are not listed, only what the fuse carries is judged.
  const sizesA = metricRegions[job.region as MetricRegionId].plugFusesA
  const fitting = sizesA.filter((x) => withinNominal(x, amps) && (cordA === null || atMost(x, cordA)))
  const advice = fitting.length
    ? `Fit ${fitting[0]} A.`
    : sizesA.length
      ? 'No listed fuse suits both: fit a heavier cord, or another connection.'
      : 'Fit one that carries it, if its cable allows.'
  if (!withinNominal(fuseA, amps))
    return error(`A fuse of ${fuseA} A carries less than the ${formatA(amps)} it feeds and will blow. ${advice}`)
  if (cordA !== null && !atMost(fuseA, cordA))
    return error(`A fuse of ${fuseA} A does not protect a cord good for ${formatA(cordA)}. ${advice}`)
  return unit && fitting[0] !== undefined && fuseA > fitting[0]
    ? { severity: 'note', message: `A fuse of ${fuseA} A protects it; ${fitting[0]} A carries ${formatA(amps)} and protects it better.` }
    : null
}

/** A plug with a fuse in it that somebody chose. */
const fusedPlug = ({ circuit, design, endings }: CircuitFacts): boolean =>
  circuit.points.length === 0 &&
  design.fuseA !== null &&
  circuit.load.connection === 'plug' &&
  endings.some((e) => e.fitted.outlets > 0 && e.fitted.shutters)

/** Watts of a point and of all that is on it. */
const hangingW = (points: readonly CircuitPoint[], p: CircuitPoint): number =>
  points.reduce((sum, c) => (c.from === p.id ? sum + hangingW(points, c) : sum), p.watts ?? 0)

/** Appliances are sold with cords for the outlets of circuits up to this; above it the cord is read. */
const ORDINARY_CORD_A = 20

/** Rules on load, cable, accessory, cord and fuse. */
export const circuitRules: readonly Rule[] = [
  {
    id: 'voltage-mismatch',
    about: 'The voltage of the appliance against what its accessory gives.',
    clause: perWorld('110.4; 406.4', '512.1.1', 'SANS 10142-1 rated voltage'),
    severity: 'error',
    looksAt: [],
    applies: (f) => f.circuit.load.volts !== null,
    raised: (f) =>
      ofEach(f, ({ fitted, points }) => {
        const offered = givesV(f.job.region, fitted)
        const wrong = (points.length ? points : [null])
          .map((p) => voltsAt(f.circuit, p))
          .find((volts) => !offered.some((v) => Math.abs(volts - v) <= 0.15 * v))
        return wrong === undefined
          ? null
          : `The appliance wants ${formatV(wrong)} and the ${fitted.name} gives ${offered.map(formatV).join(' and ')}. Choose ` +
              `another ${fitted.outlets ? 'outlet' : 'accessory'}, or check the nameplate.`
      }),
  },
  {
    id: 'plug-needs-outlet',
    about: 'A plug needs an outlet.',
    clause: perWorld('400.10; 406.7', '553.1.7', 'SANS 10142-1 connection of appliances'),
    severity: 'warning',
    looksAt: [],
    applies: (f) => f.circuit.load.connection === 'plug' && f.endings.length > 0 && f.endings.every((e) => e.fitted.kind === 'switch'),
    raised: (f) =>
      `The appliance comes with a plug and the ${f.endings[0]!.fitted.name} has nowhere to put it. Fit an outlet, or say that it ` +
      'is connected permanently.',
  },
  {
    id: 'terminal-too-small',
    about: 'The cable against the range of the accessory’s terminals.',
    clause: perWorld('110.14(A); 110.3(B)', '526.2; maker’s instructions', '526.2; maker’s instructions'),
    severity: 'error',
    looksAt: [],
    applies: (f) => Boolean(f.result?.size),
    raised: (f) =>
      ofEach(f, ({ fitted, points }) => {
        const size = (points.length ? points : [null]).map((p) => p?.size ?? f.result!.size!).find((s) => isLarger(s, fitted.largestSize))
        return size === undefined
          ? null
          : `The terminals of the ${fitted.name} take up to ${formatSize(fitted.largestSize)} and the cable is ` +
              `${formatSize(size)}. Choose an accessory with larger terminals, or join to a smaller tail in a box where the breaker ` +
              'allows it.'
      }),
  },
  {
    id: 'receptacle-of-point',
    about: 'Each kind of receptacle on a circuit with several against its breaker.',
    clause: { 'north-america': '210.21(B)(3)' },
    severity: 'error',
    looksAt: ['breaker'],
    applies: (f) => f.endings.filter((e) => e.fitted.outlets > 0).length > 1,
    raised: (f) => {
      const breakerA = f.result!.breakerA!
      const allowed = naReceptaclesOnBreaker(breakerA)
      // The lowest rated is judged with the chain; where no receptacle is allowed that says it all.
      const lowest = Math.min(...f.endings.flatMap((e) => (e.fitted.outlets > 0 ? [e.fitted.ratingA] : [])))
      if (allowed.length === 0) return null
      return ofEach(f, ({ fitted }) =>
        fitted.outlets === 0 || fitted.ratingA === lowest || allowed.includes(fitted.ratingA)
          ? null
          : `A ${breakerA} A circuit with several outlets takes outlets of ${allowed.join(' or ')} A, not ` +
            `${formatA(fitted.ratingA)}. Change it, or give it a circuit of its own.`,
      )
    },
  },
  {
    id: 'loop-not-known',
    about: 'The earth fault loop against what the breaker needs.',
    clause: metric('411.4.4; 643.7.3', 'IEC 60364-4-41 clause 411.4.4; SANS 10142-1 governs'),
    severity: 'unknown',
    looksAt: ['ze'],
    raised: () => null,
  },
  {
    id: 'outlet-larger-than-breaker',
    about: 'An outlet rated above its breaker is explained on a label.',
    clause: perWorld('210.21(B)(1); 408.4', '514.1; 514.8', 'SANS 10142-1 marking'),
    severity: 'note',
    looksAt: ['breaker'],
    applies: (f) => f.endings.some((e) => largerOnPurpose(f, e)),
    raised: (f) => ofEach(f, (e) => (largerOnPurpose(f, e) ? largerWords(f, e) : null)),
  },
  {
    id: 'start-trips',
    about: 'The current at switching on against the breaker’s magnetic release.',
    clause: perWorld('430.52; 240.6', '533.2.1; IEC 60898-1', 'SANS 10142-1; IEC 60898-1'),
    severity: 'warning',
    looksAt: ['breaker'],
    applies: (f) => f.result?.breakerA != null && startOf(f.circuit, f.job.region) !== null,
    raised: (f) => {
      const start = startOf(f.circuit, f.job.region)!
      const what = start.point ? `Switching on ${start.point.name} while the rest runs` : 'Switching on'
      const rating = f.result!.breakerA!
      if (!atLeast(start.amps, magneticFrom(f) * rating)) return null
      // A rush shorter than the release needs is the makers’ to judge: how many of theirs go on one breaker.
      if (start.seconds < BRIEF_S)
        return {
          severity: start.given ? 'warning' : 'note',
          message:
            `${what} draws about ${formatA(start.amps)} for ${trim(1000 * start.seconds, 0)} ` +
            `ms${start.given ? '' : ' (the usual factor for its kind)'}, which a ${rating} A breaker may or may not ride through. ` +
            'The maker of the lamps or drivers says how many go on one breaker of its type.',
        }
      const { says, typedBreakers } = worlds[f.job.region]
      const remedy = says.inrushCure
      const figure = start.given ? '' : ' (the usual factor for its kind; read the nameplate)'
      return atLeast(start.amps, magneticSure(f) * rating)
        ? {
            severity: 'error',
            message:
              `${what} draws about ${formatA(start.amps)}${figure}; a ${rating} A ` +
              `breaker${typedBreakers ? ` of type ${f.design.breakerType}` : ''} trips from ` +
              `${formatA(magneticSure(f) * rating)}: it will not start. ${remedy}`,
          }
        : `${what} draws about ${formatA(start.amps)}${figure}; a ${rating} A ` +
            `breaker${typedBreakers ? ` of type ${f.design.breakerType}` : ''} may trip from ` +
            `${formatA(magneticFrom(f) * rating)}. ${remedy}`
    },
  },
  {
    id: 'duty-not-known',
    about: 'Duty-cycled equipment heats its cable by its duty.',
    clause: perWorld('630.11(A); 430.22(E)', '523.1', 'IEC 60364-5-52 clause 523'),
    severity: 'unknown',
    looksAt: ['duty'],
    applies: (f) => f.circuit.load.nature === 'duty' && f.circuit.points.length === 0,
    raised: () => null,
  },
  {
    id: 'fuse-not-right',
    about: 'The fuse of a connection unit suits what it feeds and its cord.',
    clause: metric('533.1; 559.5; BS 1362', 'SANS 10142-1 overload protection'),
    severity: 'error',
    looksAt: ['load'],
    applies: (f) =>
      f.endings.some((e) => e.fitted.kind === 'connection-unit') || f.circuit.points.some((p) => p.fuseA !== null) || fusedPlug(f),
    raised: (f) => {
      const { circuit, design } = f
      if (circuit.points.length === 0) return judgeFuse(f, design.fuseA, f.worked.load!.amps, design.cordA, !fusedPlug(f))
      const units = new Set(f.endings.flatMap((e) => (e.fitted.kind === 'connection-unit' ? e.points : [])))
      const said = circuit.points
        .filter((p) => units.has(p) || p.fuseA !== null)
        .flatMap((p): Judged[] => {
          const own = units.has(p)
          const judged = judgeFuse(f, p.fuseA ?? (own ? design.fuseA : null), hangingW(circuit.points, p) / circuit.load.volts!, null, own)
          return judged ? [{ ...judged, message: `${p.name}: ${judged.message}`, about: `point:${p.id}` }] : []
        })
      const gravest = severities.find((s) => said.some((x) => x.severity === s))
      return gravest
        ? {
            severity: gravest,
            about: said.find((x) => x.severity === gravest)!.about,
            message: said
              .filter((x) => x.severity === gravest)
              .map((x) => x.message)
              .join(' '),
          }
        : null
    },
  },
  {
    id: 'cord-not-known',
    about: 'What the cord of a plugged-in appliance carries, where its breaker would let more through than ordinary cords do.',
    clause: { 'north-america': '240.5', 'southern-africa': 'SANS 10142-1 flexible cords' },
    severity: 'unknown',
    looksAt: ['breaker'],
    applies: ({ circuit: { load, points }, design }) =>
      load.connection === 'plug' && points.length === 0 && design.cordA === null && load.kind !== null && load.kind !== 'sockets-general',
    raised: ({ result }) =>
      result!.breakerA! > ORDINARY_CORD_A
        ? `What the plug and cord of the appliance carry is not recorded: behind ${result!.breakerA} A the cord may be the weakest ` +
          'link. Read its marking, and add it to the chain.'
        : null,
  },
  {
    id: 'extension-as-wiring',
    about: 'An extension cord is a link of the chain, and no fixed wiring.',
    clause: perWorld('400.12; 590', '521.9; 543.2', 'SANS 10142-1 flexible cords'),
    severity: 'error',
    looksAt: ['load'],
    applies: (f) => f.design.extension !== null && f.worked.load !== null && f.circuit.load.volts !== null,
    raised: (f) => {
      const ext = f.design.extension!
      const { amps } = f.worked.load!
      if (f.circuit.load.connection === 'fixed')
        return 'An extension cord feeds fixed equipment: put an outlet or a connection at the equipment, in fixed wiring.'
      if (!atLeast(ext.ratingA, amps))
        return (
          `The extension cord is good for ${formatA(ext.ratingA)} and ${formatA(amps)} go through it. Take a heavier one, unwound, ` +
          'or put an outlet nearer.'
        )
      const drop = extensionDropPercent(f, amps)
      if (f.circuit.load.continuous)
        return { severity: 'warning', message: 'An appliance that runs for hours on an extension cord needs an outlet of its own near it.' }
      return drop !== null && !atMost(drop, 3)
        ? {
            severity: 'warning',
            message: `The extension cord alone loses ${trim(drop, 1)} % of the voltage. A thicker or shorter one, or an outlet nearer.`,
          }
        : null
    },
  },
  {
    id: 'shared-neutral-tie',
    about: 'Two lines with a shared neutral open together and are on different legs.',
    clause: { 'north-america': '210.4(B); 200.4' },
    severity: 'error',
    looksAt: ['way'],
    applies: (f) => f.circuit.kind === 'shared-neutral',
    raised: (f) => {
      const spaces = f.circuit.way.match(/\d+/g)?.map(Number) ?? []
      if (spaces.length === 2 && Math.abs(spaces[0]! - spaces[1]!) === 2) return null
      return spaces.length === 2
        ? `Spaces ${spaces.join(' and ')} are not one above the other: both lines may be on one leg and the neutral then ` +
            'carries their sum. Take two spaces in one column with a two-pole breaker.'
        : 'It needs two spaces in one column and a two-pole breaker or a listed handle tie, so that both lines open together.'
    },
  },
  {
    id: 'shared-neutral-overloaded',
    about: 'The neutral that two lines share carries their difference.',
    clause: { 'north-america': '220.61; 310.15(E)' },
    severity: 'error',
    looksAt: [],
    applies: (f) => f.worked.layout?.linesA != null && f.result?.ampacityA != null,
    raised: (f) => {
      const { A, B, neutral } = f.worked.layout!.linesA!
      if (!atMost(neutral, f.result!.ampacityA!))
        return (
          `The neutral carries ${formatA(neutral)} (${formatA(A)} on one line, ${formatA(B)} on the other) and is good for ` +
          `${formatA(f.result!.ampacityA!)}.`
        )
      return A + B > 0 && !atLeast(Math.min(A, B), 0.2 * Math.max(A, B))
        ? {
            severity: 'warning',
            message:
              `Nearly all of it is on one line (${formatA(A)} and ${formatA(B)}): move points across, or the second line serves ` +
              'nothing.',
          }
        : null
    },
  },
  {
    id: 'feeder-four-wire',
    about: 'A feeder to a sub-board keeps neutral and protective conductor apart.',
    clause: perWorld('250.32(B); 408.40', '542.4; 543.4.1', 'SANS 10142-1 sub-distribution boards'),
    severity: 'note',
    looksAt: [],
    applies: (f) => f.circuit.kind === 'feeder',
    raised: (f) => worlds[f.job.region].says.subBoard,
  },
  {
    id: 'total-drop',
    about: 'What a circuit and the feeder ahead of it lose together.',
    clause: perWorld('215.2(A), 210.19(A) informational notes', 'Appendix 4 section 6.4', 'SANS 10142-1 voltage drop'),
    severity: 'error',
    looksAt: ['feederDrop'],
    applies: (f) => f.fed !== null && f.result?.dropPercent != null,
    raised: (f) => {
      const own = f.result!.dropPercent!
      const total = own + f.fed!.dropPercent!
      const limit = totalDropLimit(f.job, f.circuit)
      if (atMost(total, limit)) return null
      const message =
        `${f.fed!.name} loses ${formatPercent(f.fed!.dropPercent!)} and this circuit ${formatPercent(own)}: ` +
        `${formatPercent(total)} from the supply, and the limit is ${limit} %. Enlarge the feeder, which helps every circuit on ` +
        'it, or this cable.'
      return { severity: worlds[f.job.region].drop.severity, message }
    },
  },
  {
    id: 'feeder-load',
    about: 'A feeder against the load of its sub-board.',
    clause: perWorld('215.2(A); 220.40', '433.1.1; 311.1', 'SANS 10142-1 sub-distribution boards; maximum demand'),
    severity: 'warning',
    looksAt: ['load'],
    applies: (f) => f.circuit.kind === 'feeder' && fedBy(f.job, f.circuit).length > 0,
    raised: (f) => {
      const fed = fedBy(f.job, f.circuit)
      const watts = fed.map((c) => nameplateW(c, f.job.region))
      const unknown = fed.filter((_, i) => watts[i] === null)
      if (unknown.length)
        return {
          severity: 'unknown',
          message:
            `What ${listed(unknown.map((c) => c.name))} draws is not known, so whether the feeder carries its whole load is ` +
            'not judged.',
        }
      const legs = worlds[f.job.region].splitPhase ? plannedLegs(f.job, f.circuit) : null
      const amps = legs ? Math.max(legs.A, legs.B) : watts.reduce<number>((sum, w) => sum + w!, 0) / f.circuit.load.volts!
      const made = f.worked.load!.nameplateA
      if (atMost(amps, made)) return null
      const how = legs
        ? ` on leg ${legs.A > legs.B ? 'A' : 'B'} if all runs at once, and ${formatA(Math.min(legs.A, legs.B))} on the other`
        : ` if all runs at once${worlds[f.job.region].splitPhase ? ' and the lines are balanced' : ''}`
      return (
        `Its load draws ${formatA(amps)}${how}; it is designed for ${formatA(made)}. Design it for ` +
        `more${legs ? ', or move a circuit across' : ''}, unless they never run together.`
      )
    },
  },
  {
    id: 'beyond-scope',
    about: 'Circuits larger than the rules here are made for.',
    clause: perWorld('Article 215; 240.6', '433.1', 'SANS 10142-1'),
    severity: 'unknown',
    looksAt: [],
    applies: (f) => f.result?.breakerA != null,
    raised: (f) =>
      f.result!.breakerA! > worlds[f.job.region].checkedToA
        ? `A ${f.result!.breakerA} A circuit is beyond what is checked here (${worlds[f.job.region].checkedToA} A). ` +
          'Have it designed by somebody licensed for it.'
        : null,
  },
]

function extensionDropPercent({ job, circuit, design }: CircuitFacts, amps: number): number | null {
  const ext = design.extension!
  try {
    return voltageDrop({
      region: job.region,
      size: ext.size,
      conductor: 'copper',
      lengthM: ext.lengthM,
      currentA: amps,
      systemV: circuit.load.volts!,
      ...(worlds[job.region].rings ? { ring: false } : {}),
    } as Parameters<typeof voltageDrop>[0]).dropPercent
  } catch {
    return null
  }
}
