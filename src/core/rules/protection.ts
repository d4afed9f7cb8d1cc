import { accessory } from '../catalogue/accessories'
import type { Circuit } from '../job/schema'
import { formatA, trim } from '../quantity/format'
import { atLeast } from '../quantity/tolerance'
import { vocabularies } from '../region/vocabulary'
import { magneticFrom } from './circuit'
import type { CircuitFacts, Rule } from './engine'

type Place = NonNullable<Circuit['place']>
/** Places in a dwelling whose outlets need a GFCI whatever the damp. NFPA 70 210.8(A). */
const gfciPlaces: readonly Place[] = ['kitchen', 'bathroom', 'laundry', 'garage', 'basement', 'outdoors']
/** Elsewhere. NFPA 70 210.8(B). */
const gfciElsewhere: readonly Place[] = ['kitchen', 'bathroom', 'laundry', 'garage', 'outdoors']
/** NFPA 70 210.12(B). */
const arcPlaces: readonly Place[] = ['kitchen', 'living', 'bedroom', 'laundry', 'other', 'hall']

/** The world's residual device, with its article. */
const aDevice = ({ job }: CircuitFacts): string => `${job.region === 'north-america' ? 'a' : 'an'} ${vocabularies[job.region].rcd}`
const device = ({ job }: CircuitFacts): string => vocabularies[job.region].rcd

const hasOutlets = ({ design }: CircuitFacts): boolean => (accessory(design.accessory)?.outlets ?? 0) > 0
const guarded = ({ design }: CircuitFacts): boolean => design.residual.at !== 'none' || Boolean(accessory(design.accessory)?.residual)
const damp = ({ job }: CircuitFacts): boolean => job.brief.environment !== null && job.brief.environment !== 'dry'

/** Rules on protection against shock, arcs, surges and faults. */
export const protectionRules: readonly Rule[] = [
  {
    id: 'residual-protection-needed',
    about: 'Whether its outlets need a GFCI.',
    clause: { 'north-america': '210.8(A), (B)' },
    severity: 'error',
    looksAt: ['environment'],
    applies: (f) => hasOutlets(f) && !guarded(f) && accessory(f.design.accessory)!.ratingA <= 50,
    raised: (f) => {
      const { environment, premises } = f.job.brief
      const { place } = f.circuit
      const places = premises === 'dwelling' ? gfciPlaces : gfciElsewhere
      if (damp(f) || (place !== null && places.includes(place)))
        return `An outlet in a ${damp(f) ? (environment === 'outdoors' ? 'place outdoors' : `${environment} place`) : place} needs ${device(f)} protection. Fit ${aDevice(f)} breaker, or the outlet behind ${aDevice(f)} receptacle.`
      return place === null ? { severity: 'unknown', message: `Whether this outlet needs ${aDevice(f)} depends on the room it stands in: say so under protection.` } : null
    },
  },
  {
    id: 'socket-residual-protection',
    about: 'Socket-outlets stand behind a residual device of 30 mA or less.',
    clause: { 'united-kingdom': '411.3.3', 'southern-africa': 'SANS 10142-1 earth leakage protection of socket-outlets, 30 mA' },
    severity: 'error',
    looksAt: [],
    applies: (f) => hasOutlets(f) && accessory(f.design.accessory)!.ratingA <= 32 && !accessory(f.design.accessory)!.residual,
    raised: (f) => {
      const { residual } = f.design
      if (residual.at !== 'none' && residual.ma <= 30) return null
      return residual.at !== 'none' ? `The ${device(f)} is of ${residual.ma} mA; a socket-outlet needs one of 30 mA or less.` : `A socket-outlet needs ${aDevice(f)} of 30 mA or less. Put the circuit behind one${f.result?.breakerA ? `, as a ${f.result.breakerA} A breaker with residual protection,` : ''} or fit an outlet that has its own.`
    },
  },
  {
    id: 'lighting-residual-protection',
    about: 'Lighting circuits in dwellings stand behind a residual device.',
    clause: { 'united-kingdom': '411.3.4' },
    severity: 'error',
    looksAt: ['premises'],
    applies: (f) => f.circuit.load.lighting && !guarded(f),
    raised: (f) => (f.job.brief.premises === 'dwelling' ? 'A lighting circuit in a dwelling stands behind an RCD of 30 mA or less. Put it behind one at the consumer unit.' : null),
  },
  {
    id: 'tt-needs-residual-device',
    about: 'On an earth rod the whole circuit stands behind a residual device.',
    clause: { 'united-kingdom': '411.5.2', 'southern-africa': 'IEC 60364-4-41 clause 411.5; SANS 10142-1 governs' },
    severity: 'error',
    looksAt: [],
    applies: (f) => f.job.supply.earthing === 'tt',
    raised: (f) => (f.design.residual.at === 'board' ? null : 'On an earth rod the whole circuit, not the outlet alone, must stand behind a residual current device at the board.'),
  },
  {
    id: 'arc-fault-protection',
    about: 'Arc-fault protection of outlets.',
    clause: { 'north-america': '210.12(B)', 'united-kingdom': '421.1.7' },
    severity: 'error',
    looksAt: ['premises', 'place'],
    applies: (f) => f.design.arcFault === 'none' && (f.job.region === 'united-kingdom' ? hasOutlets(f) : f.circuit.load.volts === 120 && (f.result?.breakerA ?? 0) <= 20),
    raised: (f) => {
      if (f.job.region === 'united-kingdom') return { severity: 'note', message: 'Arc fault detection is recommended for socket circuits, and required in some kinds of premises (higher-risk residential, shared houses, student rooms, care homes). Say whether this is one.' }
      return f.job.brief.premises === 'dwelling' && arcPlaces.includes(f.circuit.place!) ? `A 15 or 20 A circuit to outlets in a ${f.circuit.place} of a dwelling needs arc-fault protection. Fit an AFCI breaker, or an AFCI receptacle first on the circuit.` : null
    },
  },
  {
    id: 'tamper-resistant',
    about: 'Receptacles that children cannot poke into.',
    clause: { 'north-america': '406.12' },
    severity: 'error',
    looksAt: ['premises'],
    applies: (f) => hasOutlets(f) && accessory(f.design.accessory)!.ratingA <= 20 && !f.design.fitted.includes('tamper'),
    raised: (f) => (f.job.brief.premises === 'dwelling' ? 'A 15 or 20 A receptacle in a dwelling must be tamper-resistant. Fit that type, and note it as fitted.' : null),
  },
  {
    id: 'weather-resistant',
    about: 'Accessories fit for the wet.',
    clause: { 'north-america': '406.9(A), (B)', 'united-kingdom': '512.2', 'southern-africa': 'SANS 10142-1 external influences' },
    severity: 'error',
    looksAt: ['environment'],
    applies: (f) => accessory(f.design.accessory) !== undefined && !f.design.fitted.includes('weather'),
    raised: (f) => {
      const { environment } = f.job.brief
      if (environment === 'dry') return null
      if (environment === 'damp') return f.job.region === 'north-america' && hasOutlets(f) ? { severity: 'warning', message: 'In a damp place the receptacle is weather-resistant, with a cover that keeps water out while nothing is plugged in. Fit that type, and note it as fitted.' } : null
      return f.job.region === 'north-america' ? 'In a wet place or outdoors the receptacle is weather-resistant and its cover keeps water out while it is in use. Fit both, and note them as fitted.' : 'In the wet or outdoors the accessory is made for it: splash-proof (IP44) or better with the plug in. Fit that type, and note it as fitted.'
    },
  },
  {
    id: 'surge-protection',
    about: 'Protection against surges.',
    clause: { 'north-america': '230.67; 215.18', 'united-kingdom': '443.4.1', 'southern-africa': 'SANS 10142-1 surge protection' },
    severity: 'note',
    looksAt: [],
    applies: (f) => f.circuit.work === 'new' && !f.design.fitted.includes('surge') && (f.circuit.load.nature === 'electronic' || f.circuit.kind === 'feeder'),
    raised: () => 'What it feeds suffers from surges. A surge device at the board protects it and all else; say it is fitted where it is, or that the owner declined it.',
  },
  {
    id: 'breaking-capacity',
    about: 'What the breaker can break against the fault it may meet.',
    clause: { 'north-america': '110.9', 'united-kingdom': '434.5.1', 'southern-africa': 'SANS 10142-1 prospective short-circuit current' },
    severity: 'error',
    looksAt: ['psc', 'breaking'],
    raised: (f) => {
      const [psc, ka] = [f.job.supply.pscKa!, f.design.breakingKa!]
      return atLeast(ka, psc) ? null : `A fault at the board may reach ${trim(psc, 2)} kA and the breaker breaks ${trim(ka, 2)} kA. Fit one marked for more, or have the supply looked at.`
    },
  },
  {
    id: 'discrimination',
    about: 'Whether the device ahead stays in when this one trips.',
    clause: { 'north-america': '240.12', 'united-kingdom': '536.4', 'southern-africa': 'SANS 10142-1 coordination' },
    severity: 'warning',
    looksAt: ['upstream', 'breaker', 'psc'],
    raised: (f) => {
      const up = f.job.supply.upstream!
      const mine = f.result!.breakerA!
      if (mine >= up.ratingA) return `The ${mine} A breaker stands behind ${up.ratingA} A: an overload trips the one ahead as well, and all goes dark. Keep it smaller than what is ahead.`
      if (up.kind === 'fuse') return { severity: 'unknown', message: `Behind a ${up.ratingA} A fuse it discriminates on overload; on a short-circuit only the makers’ tables of both say up to what current. Look them up.` }
      const faultA = f.job.supply.pscKa! * 1000
      const limit = magneticFrom(f) * up.ratingA
      return faultA < limit ? null : { severity: 'note', message: `On overload only the ${mine} A breaker trips. A short-circuit above about ${formatA(limit)} may trip the ${up.ratingA} A device ahead too; up to ${trim(faultA / 1000, 1)} kA can flow here. Makers’ tables may promise more.` }
    },
  },
  {
    id: 'neutral-bar',
    about: 'A circuit behind a residual device returns on that device’s own neutral bar.',
    clause: { 'united-kingdom': '314.4; 531.3', 'southern-africa': 'SANS 10142-1 earth leakage protection, neutral' },
    severity: 'note',
    looksAt: [],
    applies: (f) => f.design.residual.at === 'board' && f.job.survey.guards.length > 0,
    raised: (f) => {
      const { guards } = f.job.survey
      return guards.length === 1 ? `Its neutral goes on the neutral bar of ${guards[0]!.name}, or on the main bar if its breaker has a device of its own; on the other it trips for ever.` : { severity: 'unknown', message: `Which residual device it stands behind is not said: its neutral belongs on that one’s bar (${guards.map((g) => g.name).join(', ')}).` }
    },
  },
  {
    id: 'cooking-ahead-of-residual',
    about: 'Cooker-type loads ahead of the residual device or behind it.',
    clause: { 'north-america': '210.8', 'united-kingdom': '411.3.3; 531.3', 'southern-africa': 'SANS 10142-1 earth leakage protection' },
    severity: 'warning',
    looksAt: [],
    applies: (f) => f.circuit.load.nature === 'cooking' && f.job.region !== 'north-america',
    raised: (f) =>
      guarded(f) ? null : `It stands ahead of the ${vocabularies[f.job.region].rcd}, as was common, so that damp elements do not trip it. Behind it a fault to the frame is cut off at once, which is safer and is the default here. If it stays ahead, write down why.`,
  },
  {
    id: 'first-outlet-guards',
    about: 'A protective outlet guards those downstream only if line and load sides are not swapped.',
    clause: { 'north-america': '210.8; maker’s instructions', 'united-kingdom': '531.3; maker’s instructions', 'southern-africa': 'SANS 10142-1; maker’s instructions' },
    severity: 'note',
    looksAt: [],
    applies: (f) => f.design.residual.at === 'first',
    raised: (f) => (accessory(f.design.accessory)?.residual || f.circuit.points.length > 0 || f.design.accessories > 1 ? 'The feed goes on the line side of the first outlet, and everything downstream on its load side; swapped, it guards nothing and may still reset. Test each point downstream with the button of a tester, and label them.' : { severity: 'warning', message: 'A first outlet that guards others asks for others: there is only one on this circuit.' }),
  },
]
