import { worlds } from '../region/worlds'
import { singleCores } from '../design/conditions'
import { listed } from '../base/finding'
import { formatTemperature } from '../base/format'
import type { Installation } from '../installation/installation'
import type { CircuitFacts, Raised, Rule } from './engine'

type Environment = NonNullable<Installation['brief']['environment']>
type RunPlace = CircuitFacts['design']['stretches'][number]['place']

/** Where a cable may not be laid, and where its points may not be fitted unless it ends on the dry side. */
interface Bounds {
  readonly name: string
  /** Stretches of these kinds are forbidden. */
  readonly never: readonly RunPlace[]
  /** Stretches of these kinds are doubtful. */
  readonly doubtful: readonly RunPlace[]
  readonly points: readonly Environment[]
  readonly clause: string
  readonly instead: string
}
const bounds: Readonly<Record<string, Bounds>> = {
  'nm-b': {
    name: 'NM-B cable',
    never: ['buried', 'outdoors'],
    doubtful: [],
    points: ['damp', 'wet', 'outdoors'],
    clause: '334.12(B)(4)',
    instead: 'UF-B cable, or THWN-2 conductors in conduit',
  },
  'mc-thhn': {
    name: 'MC cable with THHN conductors',
    never: ['buried', 'outdoors'],
    doubtful: [],
    points: ['wet', 'outdoors'],
    clause: '330.10(A)(11); 330.12',
    instead: 'MC cable that is listed for wet places, or THWN-2 conductors in conduit',
  },
  'twin-earth': {
    name: 'Flat twin and earth',
    never: ['buried'],
    doubtful: ['outdoors'],
    points: [],
    clause: '522.8.10; 522.11',
    instead: 'armoured cable, or singles in conduit',
  },
  'flat-twin-earth': {
    name: 'Flat twin and earth',
    never: ['buried'],
    doubtful: ['outdoors'],
    points: [],
    clause: 'SANS 10142-1 external influences, buried cables',
    instead: 'armoured cable, or singles in conduit',
  },
}
const inPlace: Partial<Record<RunPlace, string>> = { buried: 'buried', outdoors: 'outdoors' }

/** Methods of running in which the cable is hidden in a wall. */
const inWall = new Set(['stud-wall-insulated-touching', 'stud-wall-insulated-not-touching', 'conduit-in-insulated-wall'])

/** Whether a cable of a circuit lies in one manner: as the design has it. */
const undivided = ({ cables }: CircuitFacts['circuit']): boolean => cables.some((k) => k.stretches.length === 0)

function outOfBounds({ design, sites }: CircuitFacts): Raised | null {
  const of = bounds[design.cable]
  if (!of) return null
  const { clause } = of
  const there = (places: readonly RunPlace[]) => design.stretches.find((s) => places.includes(s.place))
  const never = there(of.never)
  if (never)
    return {
      severity: 'error',
      clause,
      message: `${of.name} is not made to lie ${inPlace[never.place]}, as a section of it does. Take ${of.instead} there, joined in a box.`,
    }
  const doubtful = there(of.doubtful)
  if (doubtful)
    return {
      severity: 'warning',
      clause,
      message:
        `${of.name} suffers ${inPlace[doubtful.place]} from sun, wet and knocks. Take ${of.instead} there, or shelter it along the ` +
        'whole section.',
    }
  const wet = sites.filter((s) => s.environment !== null && of.points.includes(s.environment))
  if (wet.length === 0) return null
  const named = wet.length === sites.length ? '' : `${listed(wet.map((s) => s.name))}: `
  return {
    severity: 'warning',
    clause,
    message:
      `${named}${of.name} is for dry places, and it ends in one that is ` +
      `${[...new Set(wet.map((s) => s.environment))].join(' or ')}. Take ${of.instead}, unless all of its run and the back of its ` +
      'box are dry.',
  }
}

/** Manners of running that are of a cable on a surface or in the open. */
const openMethods = new Set(['clipped-direct', 'C'])
/** Places where a cable is shut in, so that it cannot carry what it does on a surface. */
const shutIn: readonly RunPlace[] = ['insulation', 'conduit', 'wall']
/** An attic under a roof in the sun is seldom cooler than this in its warmest hours, in degrees Celsius. */
const ATTIC_C = 35

/** Rules on the cable in the places it is laid through. */
export const runRules: readonly Rule[] = [
  {
    id: 'cable-not-for-place',
    about: 'The kind of cable against the places it is laid through and ends in.',
    clause: {
      'north-america': '334.12(B); 330.12; 300.5; 300.9',
      'united-kingdom': '522.8.10; 522.11',
      'southern-africa': 'SANS 10142-1 external influences, buried cables',
    },
    severity: 'error',
    looksAt: [],
    raised: outOfBounds,
  },
  {
    id: 'method-not-for-cable',
    about: 'The installation method against the type of cable and its place.',
    clause: { 'united-kingdom': '521.10.1; 523.9; Table 4A2', 'southern-africa': 'IEC 60364-5-52 Table A.52.3; SANS 10142-1 governs' },
    severity: 'error',
    looksAt: [],
    applies: ({ design }) => design.stretches.length > 0 || design.method !== null,
    raised: ({ circuit, design }) => {
      const methods = [...design.stretches.map((s) => s.method), ...(undivided(circuit) ? [design.method] : [])]
      if (singleCores.includes(design.cable) && methods.some((m) => m !== null && openMethods.has(m)))
        return (
          'Single-core cables without a sheath are never clipped to a surface: they lie in conduit or trunking, and carry less ' +
          'there. Say in which, and the size follows.'
        )
      const wrong = design.stretches.find(
        (s) => shutIn.includes(s.place) && s.method !== null && openMethods.has(s.method) && s.insulationMm === 0,
      )
      return wrong
        ? {
            severity: 'warning',
            message:
              'A section that lies ' +
              `${wrong.place === 'conduit' ? 'in conduit' : wrong.place === 'wall' ? 'in a wall' : 'in insulation'} is rated as if ` +
              'it were clipped to a surface in the open. Choose how it is run there, or the length that is wholly in insulation: ' +
              'it carries less.',
          }
        : null
    },
  },
  {
    id: 'attic-ambient',
    about: 'The warmest air of an attic that a cable is laid through.',
    clause: {
      'north-america': '310.15(B); 310.10',
      'united-kingdom': '523.1; 522.1.1',
      'southern-africa': 'IEC 60364-5-52 clause 523; SANS 10142-1 governs',
    },
    severity: 'unknown',
    looksAt: [],
    applies: ({ design }) => design.stretches.some((s) => s.place === 'attic'),
    raised: ({ job, design }) => {
      const attic = job.building?.attic
      // As it was found: how warm it gets there, or that it is not hot.
      const found = attic && attic !== 'none' ? (attic.ambientC ?? (attic.hot ? null : 0)) : null
      const cool = design.stretches.find((s) => s.place === 'attic' && s.ambientC < (found ?? ATTIC_C))
      return cool
        ? `The section in the attic is calculated at ${formatTemperature(cool.ambientC, worlds[job.region].units)}; under a roof in the ` +
            'sun it is hotter. Measure it on a warm day, or enter the usual temperature there.'
        : null
    },
  },
  {
    id: 'length-not-known',
    about: 'Every cable of the circuit has a length before drop and loop are judged.',
    clause: {
      'north-america': '210.19(A) informational note',
      'united-kingdom': '525; 411.4',
      'southern-africa': 'SANS 10142-1 voltage drop; loop impedance',
    },
    severity: 'unknown',
    looksAt: [],
    raised: ({ circuit, design }) => {
      const open = circuit.points.filter((p) => p.lengthM === null).map((p) => p.name)
      const single = circuit.points.length === 0
      const run = single && design.lengthM === null && design.stretches.length === 0
      const part = single && design.stretches.some((s) => s.lengthM === null)
      const back = circuit.kind === 'ring' && circuit.points.length > 0 && circuit.closeM === null
      if (!open.length && !run && !part && !back) return null
      const what = [
        ...(run ? ['the run from the board'] : []),
        ...(part ? ['a section of the run'] : []),
        ...(open.length ? [`the cable to ${listed(open)}`] : []),
        ...(back ? ['the way back to the board'] : []),
      ].join(', ')
      return `Length not known: ${what}. Voltage drop and loop are not checked from there on. Measure or pace it, and enter it.`
    },
  },
  {
    id: 'ring-not-usual',
    about: 'A ring final circuit where rings are not usual.',
    clause: { 'north-america': '210.3; 210.23', 'southern-africa': 'SANS 10142-1 socket-outlet circuits' },
    severity: 'error',
    looksAt: [],
    applies: ({ circuit }) => circuit.kind === 'ring',
    raised: () =>
      'Ring final circuits are not made here: cable, breaker and outlets are not rated for one, and the next person does not ' +
      'expect two feeds. Run it as a radial.',
  },
  {
    id: 'concealed-cable',
    about: 'A cable hidden in a wall has residual protection.',
    clause: { 'united-kingdom': '522.6.202; 522.6.203' },
    severity: 'warning',
    looksAt: [],
    applies: ({ circuit, design }) =>
      design.stretches.some((s) => s.place === 'wall') || (undivided(circuit) && design.method !== null && inWall.has(design.method)),
    // A device in an outlet does not see a nail in the cable that feeds it.
    raised: ({ design: { residual } }) =>
      residual.at === 'board' && residual.ma <= 30
        ? null
        : 'Where it is hidden in a wall less than 50 mm deep, or in one with metal in it, the cable needs an RCD of 30 mA ' +
          'or less at the consumer unit, as well as keeping to the prescribed zones. Put it behind one, unless it lies deeper all the ' +
          'way or in earthed metal.',
  },
]
