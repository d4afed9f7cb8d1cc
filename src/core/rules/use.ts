import { applianceManner } from '../catalogue/appliances'
import { voltsAt } from '../design/load'
import { listed } from '../base/finding'
import { formatA, formatV } from '../base/format'
import { atMost } from '../base/tolerance'
import { type CircuitFacts, type Rule, aboutPoint } from './engine'
import type { Site } from './sites'

type Place = NonNullable<Site['place']>
/** Rooms of dwellings whose outlets have 20 A circuits of their own. NFPA 70 210.11(C), 210.52(B). */
const ownCircuit: Partial<Record<Place, { readonly words: string; readonly clause: string }>> = {
  kitchen: { words: 'a kitchen', clause: '210.11(C)(1); 210.52(B)' },
  laundry: { words: 'a laundry', clause: '210.11(C)(2)' },
  bathroom: { words: 'a bathroom', clause: '210.11(C)(3)' },
  garage: { words: 'a garage', clause: '210.11(C)(4)' },
}
const volts120 = ({ circuit }: CircuitFacts): boolean => circuit.load.volts === 120
const householdOutlets = (f: CircuitFacts): Site[] => f.sites.filter((s) => s.outlet && s.ratingA <= 20)
/** Outlets of rooms whose circuits serve no other. */
const roomOutlets = (f: CircuitFacts): Site[] =>
  householdOutlets(f).filter((s) => s.place !== null && s.place !== 'garage' && ownCircuit[s.place])
/** One appliance that is named, on a circuit that serves nothing else. */
const individual = ({ sites, design }: CircuitFacts): boolean =>
  sites.length === 1 && design.accessories === 1 && sites[0]!.appliance !== null

/** What may be plugged in or wired beside other things on a 15 or 20 A circuit, as shares of its rating. NFPA 70 (2023) 210.23(B). */
const SHARE = { plugged: 0.8, fixed: 0.5 } as const

/** Lampholders of the common kinds are used on circuits of at most this, in amperes. BS 7671 559.5.1.204; NFPA 70 210.21(A). */
const lampholderA = { 'north-america': 20, 'united-kingdom': 16 } as const
const FIXED_ON_RING_W = 2000

/** Rules on what one circuit may serve. */
export const useRules: readonly Rule[] = [
  {
    id: 'room-circuit-rating',
    about: 'Outlets of kitchens, laundries, bathrooms and garages of dwellings have 20 A circuits.',
    clause: { 'north-america': '210.11(C)' },
    severity: 'error',
    looksAt: ['premises', 'breaker'],
    applies: (f) => volts120(f) && !individual(f) && householdOutlets(f).some((s) => s.place !== null && ownCircuit[s.place]),
    raised: (f) => {
      const { breakerA } = f.result!
      if (f.job.brief.premises !== 'dwelling' || breakerA! >= 20) return null
      const room = ownCircuit[householdOutlets(f).find((s) => s.place !== null && ownCircuit[s.place])!.place!]!
      return {
        severity: f.circuit.work === 'altered' ? 'warning' : 'error',
        clause: room.clause,
        message:
          `Outlets of ${room.words} in a dwelling are on a 20 A circuit, and this one has ${breakerA} A. Ask for a 20 A breaker, ` +
          'with its cable.',
      }
    },
  },
  {
    id: 'room-circuit-alone',
    about: 'The 20 A circuits of kitchens, laundries and bathrooms of dwellings serve no other room.',
    clause: { 'north-america': '210.11(C); 210.52(B)(2)' },
    severity: 'warning',
    looksAt: ['premises'],
    applies: (f) => volts120(f) && f.circuit.points.length > 1 && roomOutlets(f).length > 0,
    raised: (f) => {
      if (f.job.brief.premises !== 'dwelling') return null
      const first = roomOutlets(f)[0]!
      const others = f.sites.filter((s) => s.place !== null && s.place !== first.place)
      return others.length
        ? {
            severity: 'warning',
            ...(others[0]!.point ? { about: `point:${others[0]!.point.id}` } : {}),
            clause: ownCircuit[first.place!]!.clause,
            message:
              `The circuit for the outlets of ${ownCircuit[first.place!]!.words} serves no other ` +
              `room${first.place === 'kitchen' ? ' but dining room and pantry' : ''}; ${listed(others.map((s) => s.name))} ` +
              `${others.length === 1 ? 'stands' : 'stand'} elsewhere. Give ${others.length === 1 ? 'it' : 'them'} another circuit.`,
          }
        : null
    },
  },
  {
    id: 'share-of-circuit',
    about: 'What is plugged in, or fastened in place, on a 15 or 20 A circuit that serves other things too.',
    clause: { 'north-america': '210.23(B)(1), (2)' },
    severity: 'error',
    looksAt: ['breaker'],
    applies: (f) =>
      f.circuit.kind !== 'feeder' && f.circuit.load.volts !== null && (f.result?.breakerA ?? 0) <= 20 && f.circuit.points.length > 1,
    raised: (f) => {
      const breakerA = f.result!.breakerA!
      const amps = (s: Site) => (s.point!.watts ?? 0) / voltsAt(f.circuit, s.point)
      const heavy = f.sites.filter((s) => s.outlet && s.point!.outlets === 1 && !atMost(amps(s), SHARE.plugged * breakerA))
      if (heavy.length)
        return aboutPoint(
          heavy[0]!.point,
          `${heavy.map((s) => `${s.name} (${formatA(amps(s))} at ${formatV(voltsAt(f.circuit, s.point))})`).join(', ')}: one ` +
            `appliance with a plug draws no more than 80 % of a ${breakerA} A circuit that serves others too, ` +
            `${formatA(SHARE.plugged * breakerA)}. Give it a circuit of its own.`,
        )
      const fixed = f.sites.filter((s) => !s.outlet && applianceManner(s.appliance)?.nature !== 'lighting' && !f.circuit.load.lighting)
      const served = f.sites.some((s) => s.outlet)
      const fixedA = fixed.reduce((sum, s) => sum + amps(s), 0)
      return served && !atMost(fixedA, SHARE.fixed * breakerA)
        ? aboutPoint(
            fixed[0]!.point,
            `What is fastened in place (${listed(fixed.map((s) => s.name))}) draws ${formatA(fixedA)}, more than half of a ` +
              `${breakerA} A circuit that feeds outlets as well. Give it a circuit of its own.`,
          )
        : null
    },
  },
  {
    id: 'lampholders-on-breaker',
    about: 'Lampholders against the breaker of their circuit.',
    clause: { 'north-america': '210.21(A)', 'united-kingdom': '559.5.1.204' },
    severity: 'error',
    looksAt: ['breaker'],
    applies: (f) => f.circuit.load.lighting && f.sites.some((s) => !s.outlet),
    raised: (f) => {
      const most = lampholderA[f.job.region as keyof typeof lampholderA]
      return atMost(f.result!.breakerA!, most)
        ? null
        : `Common lampholders may be protected at ${most} A at most, and this circuit has ${f.result!.breakerA} A. Divide ` +
            'the lights, or use only fittings made for more.'
    },
  },
  {
    id: 'fixed-load-on-ring',
    about: 'Heavy fixed loads on a ring.',
    clause: { 'united-kingdom': '433.1.204; Appendix 15' },
    severity: 'warning',
    looksAt: [],
    applies: (f) => f.circuit.kind === 'ring',
    raised: (f) => {
      const heavy = f.circuit.points.filter(
        (p) => p.appliance === 'water-heater-storage' || (p.outlets === 0 && (p.watts ?? 0) > FIXED_ON_RING_W),
      )
      return heavy.length
        ? aboutPoint(
            heavy[0],
            `${listed(heavy.map((p) => p.name))}: storage water heaters, heating and other fixed loads over 2 kW leave a ring no ` +
              `room for what is plugged in. Give ${heavy.length === 1 ? 'it a radial of its' : 'each a radial of its'} own.`,
          )
        : null
    },
  },
]
