import { listed } from '../finding'
import type { Installation } from '../installation/installation'
import type { CircuitFacts, Raised, Rule } from './engine'

type Environment = NonNullable<Installation['brief']['environment']>
type RunPlace = CircuitFacts['design']['stretches'][number]['place']

/** Where a cable may not be laid, and where its points may not stand unless it ends on the dry side. */
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
  'nm-b': { name: 'NM-B cable', never: ['buried', 'outdoors'], doubtful: [], points: ['damp', 'wet', 'outdoors'], clause: '334.12(B)(4)', instead: 'UF-B cable, or THWN-2 conductors in conduit' },
  'mc-thhn': { name: 'MC cable with THHN conductors', never: ['buried', 'outdoors'], doubtful: [], points: ['wet', 'outdoors'], clause: '330.10(A)(11); 330.12', instead: 'MC cable that is listed for wet places, or THWN-2 conductors in conduit' },
  'twin-earth': { name: 'Flat twin and earth', never: ['buried'], doubtful: ['outdoors'], points: [], clause: '522.8.10; 522.11', instead: 'armoured cable, or singles in conduit' },
  'flat-twin-earth': { name: 'Flat twin and earth', never: ['buried'], doubtful: ['outdoors'], points: [], clause: 'SANS 10142-1 external influences, buried cables', instead: 'armoured cable, or singles in conduit' },
}
const inPlace: Partial<Record<RunPlace, string>> = { buried: 'buried', outdoors: 'outdoors' }

/** Methods of running in which the cable is hidden in a wall. */
const inWall = new Set(['stud-wall-insulated-touching', 'stud-wall-insulated-not-touching', 'conduit-in-insulated-wall'])

function outOfBounds({ design, sites }: CircuitFacts): Raised | null {
  const of = bounds[design.cable]
  if (!of) return null
  const { clause } = of
  const there = (places: readonly RunPlace[]) => design.stretches.find((s) => places.includes(s.place))
  const never = there(of.never)
  if (never) return { severity: 'error', clause, message: `${of.name} is not made to lie ${inPlace[never.place]}, as one stretch of the run does. Take ${of.instead} there, joined in a box.` }
  const doubtful = there(of.doubtful)
  if (doubtful) return { severity: 'warning', clause, message: `${of.name} suffers ${inPlace[doubtful.place]} from sun, wet and knocks. Take ${of.instead} there, or shelter it along the whole stretch.` }
  const wet = sites.filter((s) => s.environment !== null && of.points.includes(s.environment))
  if (wet.length === 0) return null
  const named = wet.length === sites.length ? '' : `${listed(wet.map((s) => s.name))}: `
  return { severity: 'warning', clause, message: `${named}${of.name} is for dry places, and it ends in one that is ${[...new Set(wet.map((s) => s.environment))].join(' or ')}. Take ${of.instead}, unless all of its run and the back of its box are dry.` }
}

/** Rules on the cable in the places it is laid through. */
export const runRules: readonly Rule[] = [
  {
    id: 'cable-not-for-place',
    about: 'The kind of cable against the places it is laid through and ends in.',
    clause: { 'north-america': '334.12(B); 330.12; 300.5; 300.9', 'united-kingdom': '522.8.10; 522.11', 'southern-africa': 'SANS 10142-1 external influences, buried cables' },
    severity: 'error',
    looksAt: [],
    raised: outOfBounds,
  },
  {
    id: 'concealed-cable',
    about: 'A cable hidden in a wall stands behind a residual device.',
    clause: { 'united-kingdom': '522.6.202; 522.6.203' },
    severity: 'warning',
    looksAt: [],
    applies: ({ design }) => (design.stretches.length ? design.stretches.some((s) => s.place === 'wall') : design.method !== null && inWall.has(design.method)),
    // A device in an outlet does not see a nail in the cable that feeds it.
    raised: ({ design: { residual } }) => (residual.at === 'board' && residual.ma <= 30 ? null : 'Where it is hidden in a wall less than 50 mm deep, or in one with metal in it, the cable stands behind an RCD of 30 mA or less at the consumer unit, besides keeping to the prescribed zones. Put it behind one, unless it lies deeper all the way or in earthed metal.'),
  },
]
