import { frequencyDriven, protectedAppliances, heatsByElectronics } from '../catalogue/appliances'
import type { Installation } from '../installation/installation'
import { residualTypes } from '../job/fields'
import type { CircuitFacts } from './engine'
import type { PointRule } from './point-rule'
import type { Placement, Site } from './sites'
import { worlds } from '../region/worlds'

type Place = NonNullable<Site['place']>
/** Places whose outlets need a GFCI however dry; outside dwellings, of a basement its unfinished parts. NFPA 70 210.8(A), (B). */
const gfciPlaces: readonly Place[] = ['kitchen', 'bathroom', 'laundry', 'garage', 'basement', 'outdoors']
/** NFPA 70 210.12(B). */
const arcPlaces: readonly Place[] = ['kitchen', 'living', 'bedroom', 'laundry', 'other', 'hall']
/** Whom 406.12 guards besides dwellings: of halls those where the public waits, plays or listens. */
const childrenCome: readonly NonNullable<Installation['brief']['premises']>[] = ['dwelling', 'hall']

const device = ({ job }: CircuitFacts): string => worlds[job.region].words.rcd
/** The world's residual device, with its article. */
export const aDevice = (f: CircuitFacts): string => `${worlds[f.job.region].says.aResidual}`
const na = (f: CircuitFacts): boolean => worlds[f.job.region].splitPhase

const placementWords: Record<Placement, string> = {
  board: 'at the board',
  first: 'in the first outlet',
  ahead: 'in an outlet ahead',
  own: 'in the outlet',
}
const protectedBy = (_: CircuitFacts, s: Site): string | null => s.residual && placementWords[s.residual]
const protectedAt30 = (_: CircuitFacts, s: Site): string | null =>
  s.residual === null || s.residualMa === null || s.residualMa > 30 ? null : placementWords[s.residual]
const fits = (type: Site['fitted'][number], words: string) => (_: CircuitFacts, s: Site) => (s.fitted.includes(type) ? words : null)
const wet = ({ environment }: Site): boolean => environment === 'wet' || environment === 'outdoors'
/** Places as a sentence says them, after "in". */
const placeWords: Record<Place, string> = {
  living: 'a living room',
  bedroom: 'a bedroom',
  kitchen: 'a kitchen',
  bathroom: 'a bathroom',
  laundry: 'a laundry',
  garage: 'a garage',
  basement: 'a basement',
  workshop: 'a workshop',
  hall: 'a hall',
  outdoors: 'a place outdoors',
  other: 'a room',
}
const inWords = ({ environment, place }: Site): string =>
  environment === 'outdoors'
    ? placeWords.outdoors
    : environment === 'damp' || environment === 'wet'
      ? `a ${environment} place`
      : placeWords[place ?? 'other']
const askSite = (what: string): { severity: 'unknown'; message: string } => ({
  severity: 'unknown',
  message: `${what}: say so under Protection.`,
})

/** A resistive load, known to draw no direct current. */
const isPlainHeat = (s: Site): boolean =>
  (s.nature === 'heating' || s.nature === 'cooking') && !(s.appliance !== null && heatsByElectronics.has(s.appliance))

/** The least type of residual device that sees what may leak there. IEC 60755; BS 7671 531.3.3. */
function leastType(s: Site): (typeof residualTypes)[number] {
  if (s.nature === 'charging') return 'B'
  if (s.appliance !== null && frequencyDriven.has(s.appliance)) return 'F'
  return isPlainHeat(s) && !s.outlet ? 'AC' : 'A'
}
const sees = (type: (typeof residualTypes)[number], least: (typeof residualTypes)[number]): boolean =>
  residualTypes.indexOf(type) >= residualTypes.indexOf(least)

/** How an outlet is said to have what every outlet of its kind has. */
export const byStandard = 'by its standard'

/** Rules on the protection and the type of accessory that each point needs. */
export const pointRules: readonly PointRule[] = [
  {
    id: 'residual-protection-needed',
    type: 'residual',
    about: 'Whether an outlet needs a GFCI.',
    clause: { 'north-america': '210.8(A), (B)' },
    severity: 'error',
    looksAt: [],
    asksOfPoint: true,
    applies: (_, s) => s.outlet && s.ratingA <= 50,
    given: protectedBy,
    needs: (f, s) => {
      const remedy = `Fit ${aDevice(f)} breaker, or the outlet behind ${aDevice(f)} receptacle.`
      if ((s.environment !== null && s.environment !== 'dry') || (s.place !== null && gfciPlaces.includes(s.place)))
        return `An outlet in ${inWords(s)} needs ${device(f)} protection. ${remedy}`
      if (s.nearWater) return `An outlet within 1.8 m (6 ft) of a sink, bath or shower needs ${device(f)} protection. ${remedy}`
      if (s.environment === null || s.place === null)
        return askSite(`Whether this outlet needs ${aDevice(f)} depends on its room and on whether that is dry`)
      if (s.place === 'workshop')
        return {
          severity: 'warning',
          message:
            `A workshop that is a garage, or a building of its own with its floor at ground level, needs ${device(f)} protection. ` +
            `${remedy} Leave it out only where it is neither, and the inspector agrees.`,
        }
      return s.nearWater === null
        ? askSite(`Whether this outlet needs ${aDevice(f)} depends on whether a sink, bath or shower is within 1.8 m (6 ft)`)
        : null
    },
  },
  {
    id: 'appliance-residual-protection',
    type: 'residual',
    about: 'Appliances that need a GFCI wherever they stand, plugged in or wired.',
    clause: { 'north-america': '210.8(D); 422.5(A)' },
    severity: 'error',
    looksAt: [],
    applies: (_, s) => s.appliance !== null && protectedAppliances.has(s.appliance),
    given: protectedBy,
    needs: (f) =>
      `What it feeds is of a kind that needs ${device(f)} protection wherever it is. Fit ${aDevice(f)} breaker, or a ` +
      `${device(f)} device that stays within reach.`,
  },
  {
    id: 'socket-residual-protection',
    type: 'residual',
    about: 'Socket-outlets are protected by a residual current device of 30 mA or less.',
    clause: { 'united-kingdom': '411.3.3', 'southern-africa': 'SANS 10142-1 earth leakage protection of socket-outlets, 30 mA' },
    severity: 'error',
    looksAt: [],
    applies: (_, s) => s.outlet && s.ratingA <= 32,
    given: protectedAt30,
    needs: (f, s) =>
      s.residual !== null && s.residualMa === null
        ? {
            severity: 'unknown',
            message:
              `At what current the ${device(f)} trips was not read; a socket-outlet needs 30 mA or less. Read the mark on it and ` +
              'enter it on the board.',
          }
        : s.residual !== null
          ? `The ${device(f)} is of ${s.residualMa} mA; a socket-outlet needs one of 30 mA or less.`
          : `A socket-outlet needs ${aDevice(f)} of 30 mA or less. Put the circuit behind ` +
            `one${f.result?.breakerA ? `, as a ${f.result.breakerA} A breaker with residual protection,` : ''} or fit an outlet ` +
            'that has its own.',
  },
  {
    id: 'lighting-residual-protection',
    type: 'residual',
    about: 'Lighting circuits in dwellings are protected by a residual current device.',
    clause: { 'united-kingdom': '411.3.4' },
    severity: 'error',
    looksAt: ['premises'],
    applies: (f, s) => f.circuit.load.lighting && !s.outlet,
    given: protectedAt30,
    needs: (f) =>
      f.job.brief.premises === 'dwelling'
        ? 'A lighting circuit in a dwelling needs an RCD of 30 mA or less. Put it behind one at the consumer unit.'
        : null,
  },
  {
    id: 'bathroom-residual-protection',
    type: 'residual',
    about: 'All circuits of a room with a bath or shower are protected by a residual current device.',
    clause: { 'united-kingdom': '701.411.3.3', 'southern-africa': 'IEC 60364-7-701 clause 701.415.1; SANS 10142-1 governs' },
    severity: 'error',
    looksAt: [],
    asksOfPoint: true,
    applies: (f, s) => (s.place === 'bathroom' || s.place === null) && !s.outlet && f.circuit.kind !== 'feeder',
    given: protectedAt30,
    needs: (f, s) =>
      s.place === null
        ? askSite(`Whether this needs ${aDevice(f)} depends on its room: everything in one with a bath or shower does`)
        : `Everything in a room with a bath or shower needs ${aDevice(f)} of 30 mA or less, fixed loads and lights too. ` +
          'Put the circuit behind one at the board.',
  },
  {
    id: 'residual-type',
    type: 'residual-type',
    about: 'Whether the residual device sees what the load may leak: type AC, A, F or B.',
    clause: { 'united-kingdom': '531.3.3', 'southern-africa': 'IEC 60364-5-53 clause 531.3.3; SANS 10142-1 governs' },
    severity: 'error',
    looksAt: [],
    asksOfPoint: true,
    applies: (f, s) => s.residual !== null || (s.presumed && f.design.residual.at === 'board'),
    given: (f, s) =>
      f.design.residual.type !== null && sees(f.design.residual.type, leastType(s)) ? `type ${f.design.residual.type}` : null,
    needs: (f, s) => {
      const { type } = f.design.residual
      const least = leastType(s)
      if (type === null)
        return {
          severity: 'unknown',
          message:
            `The type of the ${device(f)} is not known; ` +
            (least === 'AC'
              ? 'any type serves what is connected here'
              : `here it must be ${least} or better, since electronics leak current that a plain type does not see`) +
            '. ' +
            'Read the mark on the device and enter it.',
        }
      if (least === 'B')
        return {
          severity: 'warning',
          message:
            `A charger may leak smooth direct current, which a type ${type} device does not see and which blinds it. Fit type B, ` +
            'or have it in writing that the charger itself cuts off at 6 mA d.c. (722.531.3).',
        }
      if (least === 'F')
        return sees(type, 'A')
          ? {
              severity: 'warning',
              message:
                `If its drive is frequency-controlled, as the plate or the maker tells, a type ${type} device may trip without ` +
                'cause or not at all. Fit type F.',
            }
          : `A type ${type} device does not see what its drive may leak. Fit type F, or A where the maker allows it.`
      const words = `A type ${type} device does not see the pulsating direct current that electronics leak. Fit type A or better.`
      return f.circuit.work === 'altered' && isPlainHeat(s)
        ? {
            severity: 'note',
            message:
              `An existing type ${type} device may stay where everything it protects is known to draw no direct current, such as plain ` +
              'heating. A new one must be type A or better. LED lights and electronics do not qualify.',
          }
        : words
    },
  },
  {
    id: 'arc-fault-protection',
    type: 'arc-fault',
    about: 'Arc-fault protection of outlets.',
    clause: { 'north-america': '210.12(B)', 'united-kingdom': '421.1.7' },
    severity: 'error',
    looksAt: ['premises'],
    asksOfPoint: true,
    applies: (f, s) => (na(f) ? f.circuit.kind !== 'feeder' && f.circuit.load.volts === 120 && (f.result?.breakerA ?? 0) <= 20 : s.outlet),
    given: (_, s) => s.arcFault && placementWords[s.arcFault],
    needs: (f, s) => {
      if (!na(f))
        return {
          severity: 'note',
          message:
            'Arc fault detection is recommended for socket circuits, and required in some kinds of premises (higher-risk ' +
            'residential, shared houses, student rooms, care homes). Say whether this is one.',
        }
      if (f.job.brief.premises !== 'dwelling') return null
      if (s.place === null) return askSite('Whether a 15 or 20 A circuit of a dwelling needs arc-fault protection here depends on the room')
      return arcPlaces.includes(s.place)
        ? `A 15 or 20 A circuit to outlets in ${inWords(s)} of a dwelling needs arc-fault protection. Fit an AFCI breaker, or an ` +
            'AFCI receptacle first on the circuit.'
        : null
    },
  },
  {
    id: 'tamper-resistant',
    type: 'tamper',
    about: 'Receptacles that children cannot poke into.',
    clause: { 'north-america': '406.12' },
    severity: 'error',
    looksAt: ['premises'],
    applies: (_, s) => s.outlet && s.ratingA <= 20,
    given: (f, s) => fits('tamper', 'fitted')(f, s) ?? (s.outOfReach ? 'out of reach' : null),
    needs: (f) => {
      const { premises } = f.job.brief
      if (!childrenCome.includes(premises!)) return null
      if (premises === 'dwelling')
        return 'A 15 or 20 A receptacle in a dwelling must be tamper-resistant. Fit that type, and note it as fitted.'
      return {
        severity: 'warning',
        message:
          'In halls where the public waits, plays or listens a 15 or 20 A receptacle is tamper-resistant. Fit that type and note ' +
          'it as fitted, unless it is higher than 1.7 m (5½ ft) or the inspector says that this hall is none of those.',
      }
    },
  },
  {
    id: 'shuttered-outlet',
    type: 'tamper',
    about: 'Socket-outlets of dwellings have shutters.',
    clause: { 'united-kingdom': '553.1', 'southern-africa': 'SANS 164; SANS 10142-1 socket-outlets' },
    severity: 'warning',
    looksAt: ['premises'],
    applies: (_, s) => s.outlet && s.ratingA > 0,
    given: (f, s) => (s.kind?.shutters ? byStandard : (fits('tamper', 'fitted')(f, s) ?? (s.outOfReach ? 'out of reach' : null))),
    needs: (f) =>
      f.job.brief.premises === 'dwelling'
        ? 'An industrial socket-outlet has no shutters. In a dwelling fit one of the household pattern, or set it out of ' +
          'children’s reach and say so.'
        : null,
  },
  {
    id: 'weather-resistant',
    type: 'weather',
    about: 'Accessories fit for the wet.',
    clause: { 'north-america': '406.9(A), (B)', 'united-kingdom': '512.2', 'southern-africa': 'SANS 10142-1 external influences' },
    severity: 'error',
    looksAt: [],
    asksOfPoint: true,
    applies: (f, s) => f.circuit.kind !== 'feeder' && (s.outlet || s.kind !== undefined),
    given: fits('weather', 'fitted'),
    needs: (f, s) => {
      if (s.environment === null && s.place !== 'outdoors')
        return askSite('Which accessory withstands the place depends on whether it is dry, damp, wet or outdoors')
      const out = wet(s) || s.place === 'outdoors'
      if (!na(f)) {
        if (out)
          return (
            'In the wet or outdoors the accessory is made for it: splash-proof (IP44) or better with the plug in. Fit that type, ' +
            'and note it as fitted.'
          )
        return s.environment === 'damp'
          ? {
              severity: 'note',
              message:
                'In a damp place water may drip on it: an enclosure that keeps drops out (IPX1) or better suits it. Fit that ' +
                'type, and note it as fitted.',
            }
          : null
      }
      if (!out && s.environment !== 'damp') return null
      if (!s.outlet)
        return out
          ? {
              severity: 'error',
              clause: '404.4; 110.28',
              message:
                'In a wet place or outdoors, switches and similar devices go in a weatherproof enclosure. Fit one, and note it as fitted.',
            }
          : null
      if (s.ratingA > 20)
        return out
          ? {
              severity: 'error',
              clause: '406.9(B)(2)',
              message:
                'In a wet place or outdoors a receptacle over 20 A has an enclosure that keeps water out with the plug in; while ' +
                'closed is enough only where somebody attends while it is used. Fit it, and note it as fitted.',
            }
          : {
              severity: 'warning',
              clause: '406.9(A)',
              message:
                'In a damp place a receptacle has an enclosure that keeps water out while nothing is plugged in. Fit it, and ' +
                'note it as fitted.',
            }
      return out
        ? {
            severity: 'error',
            clause: '406.9(B)(1)',
            message:
              'In a wet place or outdoors the receptacle is weather-resistant and its cover keeps water out while it is in use. ' +
              'Fit both, and note them as fitted.',
          }
        : {
            severity: 'warning',
            clause: '406.9(A)',
            message:
              'In a damp place the receptacle is weather-resistant, with a cover that keeps water out while nothing is plugged ' +
              'in. Fit that type, and note it as fitted.',
          }
    },
  },
  {
    id: 'surge-protection',
    type: 'surge',
    about: 'Protection against surges.',
    clause: { 'north-america': '230.67; 215.18', 'united-kingdom': '443.4.1', 'southern-africa': 'SANS 10142-1 surge protection' },
    severity: 'note',
    looksAt: [],
    applies: (f, s) => f.circuit.work === 'new' && (s.nature === 'electronic' || f.circuit.kind === 'feeder'),
    given: fits('surge', 'a surge device'),
    needs: () =>
      'What it feeds suffers from surges. A surge device at the board protects it and all else; say it is fitted where it is, or ' +
      'that the owner declined it.',
  },
  {
    id: 'socket-near-bath',
    type: 'place',
    about: 'Socket-outlets of a room with a bath or shower stand well away from it.',
    clause: { 'united-kingdom': '701.512.3', 'southern-africa': 'IEC 60364-7-701 clause 701.512.3; SANS 10142-1 governs' },
    severity: 'error',
    looksAt: [],
    asksOfPoint: true,
    applies: (_, s) => s.outlet && (s.place === 'bathroom' || s.place === null),
    given: (_, s) => (s.nearWater === false ? 'far enough' : null),
    needs: (_, s) =>
      s.place === null
        ? askSite('Whether a socket-outlet may stand here depends on its room, and on how far any bath or shower is')
        : s.nearWater
          ? 'No socket-outlet may be within 2.5 m of the edge of zone 1 of a bath or shower, a shaver unit excepted. Move it, or ' +
            'feed the appliance from outside the room.'
          : askSite(
              'Whether a socket-outlet is allowed in this room depends on whether it is 2.5 m or more from the edge of zone 1 of ' +
                'the bath or shower',
            ),
  },
]
