import type { CircuitSystem, ConductorRole } from '../region/colours'
import type { RegionId } from '../region/types'

/** What a screw looks like, so that it can be found with the device in the hand. */
export type ScrewKind = 'brass' | 'silver' | 'green' | 'dark' | 'plain'
/** The cable a conductor comes from: the feed, or the one that goes on to the load. */
export type CableSide = 'feed' | 'load'

export interface Terminal {
  readonly mark: string
  readonly screw: ScrewKind
  readonly takes: { readonly cable: CableSide; readonly role: ConductorRole }
  /** Place on the back of the device, in percent of its width and height. */
  readonly at: readonly [x: number, y: number]
}

export interface Joint {
  /** Conductors of the feed and of the load that meet in a connector, without touching the device. */
  readonly role: ConductorRole
  /** A short tail goes from the joint to the device too. */
  readonly pigtail: boolean
}

export type AccessoryKind = 'outlet' | 'switch' | 'isolator' | 'connection-unit' | 'thermostat' | 'light'

export interface Accessory {
  readonly id: string
  readonly name: string
  readonly region: RegionId
  readonly kind: AccessoryKind
  readonly ratingA: number
  readonly volts: number
  readonly system: CircuitSystem
  /** Outlets a plug can be put into; 0 where nothing is plugged in. */
  readonly outlets: 0 | 1 | 2
  readonly gangs: 1 | 2
  readonly residual: boolean
  /** Shutters behind its face by the standard it is made to, as household outlets of the 230 V worlds have. */
  readonly shutters: boolean
  readonly poles: 0 | 1 | 2
  readonly stripMm: number
  /** The largest conductor its terminals take. */
  readonly largestSize: string
  /** Least depth of box behind it with one cable of up to 4 mm². Metric worlds. */
  readonly boxDepthMm: number
  /** What runs on from it: nothing, another cable, or the appliance's flexible cord. */
  readonly onward: 'none' | 'cable' | 'cord' | 'optional-cable'
  readonly terminals: readonly Terminal[]
  readonly joints: readonly Joint[]
  readonly caution?: string
  /** What it is wired as; its terminals are then those of that pattern, in `devices.ts`. */
  readonly pattern?: WiringPattern
  /** Switches of this kind go several on one plate of a single gang. Metric worlds. */
  readonly plate?: true
}

/** How the terminals of a device are wired, where its screws do not say it by themselves. */
export type WiringPattern = 'two-way' | 'intermediate' | 'light' | 'fan' | 'fan-light' | 'fan-overrun' | 'speed' | 'timer'

const t = (mark: string, screw: ScrewKind, cable: CableSide, role: ConductorRole, x: number, y: number): Terminal => ({
  mark,
  screw,
  takes: { cable, role },
  at: [x, y],
})

const defaults = { residual: false, shutters: false, poles: 0, onward: 'none', joints: [], gangs: 1, boxDepthMm: 0 } as const

/** Terminals of an ordinary 120 V receptacle seen from behind: silver at the left, brass at the right. */
const receptacleTerminals = [
  t('N', 'silver', 'feed', 'neutral', 8, 42),
  t('HOT', 'brass', 'feed', 'line', 92, 42),
  t('GND', 'green', 'feed', 'pe', 14, 88),
]
const na120 = (id: string, name: string, ratingA: 15 | 20, outlets: 1 | 2): Accessory => ({
  ...defaults,
  id,
  name,
  region: 'north-america',
  kind: 'outlet',
  ratingA,
  volts: 125,
  system: 'line-neutral',
  outlets,
  stripMm: 16,
  largestSize: '10 AWG',
  terminals: receptacleTerminals,
})
const na240 = (id: string, ratingA: 20 | 30 | 50, largestSize: string, gangs: 1 | 2): Accessory => ({
  ...defaults,
  id,
  name: `${ratingA} A 240 V receptacle, three-wire`,
  region: 'north-america',
  kind: 'outlet',
  ratingA,
  volts: 250,
  system: 'line-line',
  outlets: 1,
  gangs,
  stripMm: ratingA === 20 ? 16 : 19,
  largestSize,
  terminals: [t('X', 'brass', 'feed', 'line', 92, 42), t('Y', 'brass', 'feed', 'line-2', 8, 42), t('G', 'green', 'feed', 'pe', 50, 90)],
})
const naFourWire = (id: string, ratingA: 30 | 50, largestSize: string): Accessory => ({
  ...defaults,
  id,
  name: `${ratingA} A appliance receptacle, four-wire`,
  region: 'north-america',
  kind: 'outlet',
  ratingA,
  volts: 250,
  system: 'line-line-neutral',
  outlets: 1,
  gangs: 2,
  stripMm: 19,
  largestSize,
  terminals: [
    t('X', 'brass', 'feed', 'line', 90, 40),
    t('Y', 'brass', 'feed', 'line-2', 10, 40),
    t('W', 'silver', 'feed', 'neutral', 50, 90),
    t('G', 'green', 'feed', 'pe', 50, 12),
  ],
  caution: 'Neutral and ground are separate here, and stay separate in the appliance: take its bonding strap off (250.140, 250.142(B)).',
})
const naGfci = (id: string, ratingA: 15 | 20): Accessory => ({
  ...na120(id, `${ratingA} A GFCI receptacle, line and load side`, ratingA, 2),
  residual: true,
  onward: 'optional-cable',
  joints: [{ role: 'pe', pigtail: true }],
  terminals: [
    t('LINE N', 'silver', 'feed', 'neutral', 8, 64),
    t('LINE HOT', 'brass', 'feed', 'line', 92, 64),
    t('LOAD N', 'silver', 'load', 'neutral', 8, 26),
    t('LOAD HOT', 'brass', 'load', 'line', 92, 26),
    t('GND', 'green', 'feed', 'pe', 50, 94),
  ],
  caution: 'The feed goes on LINE. On LOAD it would leave its own outlet unguarded or refuse to reset (210.8; maker’s instructions).',
})

const metricOutlet = (
  id: string,
  region: RegionId,
  name: string,
  ratingA: number,
  outlets: 1 | 2,
  boxDepthMm: number,
  largestSize: string,
  extra: Partial<Accessory> = {},
): Accessory => ({
  ...defaults,
  id,
  name,
  region,
  kind: 'outlet',
  shutters: true,
  ratingA,
  volts: 230,
  system: 'line-neutral',
  outlets,
  gangs: outlets === 2 ? 2 : 1,
  stripMm: 10,
  largestSize,
  boxDepthMm,
  terminals: [t('L', 'plain', 'feed', 'line', 22, 82), t('N', 'plain', 'feed', 'neutral', 78, 82), t('E', 'plain', 'feed', 'pe', 50, 12)],
  ...extra,
})

const feedLoadTerminals = (inMark: string, outMark: string): Terminal[] => [
  t(`L ${inMark}`, 'plain', 'feed', 'line', 14, 86),
  t(`N ${inMark}`, 'plain', 'feed', 'neutral', 37, 86),
  t('E', 'plain', 'feed', 'pe', 54, 86),
  t(`L ${outMark}`, 'plain', 'load', 'line', 62, 40),
  t(`N ${outMark}`, 'plain', 'load', 'neutral', 80, 40),
  t('E', 'plain', 'load', 'pe', 94, 40),
]
const twoPole = (
  id: string,
  region: RegionId,
  name: string,
  ratingA: number,
  boxDepthMm: number,
  largestSize: string,
  extra: Partial<Accessory> = {},
): Accessory => ({
  ...defaults,
  id,
  name,
  region,
  kind: 'isolator',
  ratingA,
  volts: 230,
  system: 'line-neutral',
  outlets: 0,
  poles: 2,
  stripMm: 10,
  largestSize,
  boxDepthMm,
  onward: 'cable',
  terminals: feedLoadTerminals('IN', 'OUT'),
  caution: 'Which terminals are IN and OUT differs by maker: read the back, or test it open and closed before it is wired.',
  ...extra,
})
const metricSwitch = (id: string, region: RegionId, name: string, ratingA: number, boxDepthMm: number): Accessory => ({
  ...defaults,
  id,
  name,
  region,
  kind: 'switch',
  ratingA,
  volts: 230,
  system: 'line-neutral',
  outlets: 0,
  poles: 1,
  stripMm: 8,
  largestSize: '2.5 mm2',
  boxDepthMm,
  plate: true,
  onward: 'cable',
  terminals: [
    t('COM', 'plain', 'feed', 'line', 50, 20),
    t('L1', 'plain', 'load', 'switched-line', 25, 78),
    t('E', 'plain', 'feed', 'pe', 78, 78),
  ],
  joints: [
    { role: 'neutral', pigtail: false },
    { role: 'pe', pigtail: true },
  ],
})
const metricThermostat = (id: string, region: RegionId): Accessory => ({
  ...metricSwitch(id, region, 'Line-voltage thermostat, 16 A', 16, 35),
  kind: 'thermostat',
  terminals: [
    t('L', 'plain', 'feed', 'line', 18, 84),
    t('N', 'plain', 'feed', 'neutral', 40, 84),
    t('LOAD L', 'plain', 'load', 'switched-line', 62, 84),
    t('LOAD N', 'plain', 'load', 'neutral', 84, 84),
  ],
  joints: [{ role: 'pe', pigtail: false }],
})

const naSwitch = (id: string, name: string, poles: 1 | 2, ratingA: number): Accessory => ({
  ...defaults,
  id,
  name,
  region: 'north-america',
  kind: 'switch',
  ratingA,
  volts: poles === 2 ? 240 : 120,
  system: poles === 2 ? 'line-line' : 'line-neutral',
  outlets: 0,
  poles,
  stripMm: 16,
  largestSize: '10 AWG',
  onward: 'cable',
  terminals:
    poles === 1
      ? [
          t('HOT', 'brass', 'feed', 'line', 92, 30),
          t('SW', 'brass', 'load', 'switched-line', 92, 72),
          t('GND', 'green', 'feed', 'pe', 14, 88),
        ]
      : [
          t('1', 'brass', 'feed', 'line', 92, 72),
          t('3', 'brass', 'feed', 'line-2', 8, 72),
          t('2', 'brass', 'load', 'line', 92, 28),
          t('4', 'brass', 'load', 'line-2', 8, 28),
          t('GND', 'green', 'feed', 'pe', 50, 92),
        ],
  joints:
    poles === 1
      ? [
          { role: 'neutral', pigtail: false },
          { role: 'pe', pigtail: true },
        ]
      : [{ role: 'pe', pigtail: true }],
})

const fixed: readonly Accessory[] = [
  na120('na-single-15', 'Single receptacle, 15 A', 15, 1),
  na120('na-duplex-15', 'Duplex receptacle, 15 A', 15, 2),
  na120('na-single-20', 'Single receptacle, 20 A', 20, 1),
  na120('na-duplex-20', 'Duplex receptacle, 20 A', 20, 2),
  { ...na120('na-usb-15', 'Duplex receptacle with USB, 15 A', 15, 2), largestSize: '12 AWG' },
  { ...na120('na-usb-20', 'Duplex receptacle with USB, 20 A', 20, 2), largestSize: '12 AWG' },
  na120('na-lock-15', 'Locking receptacle, 15 A', 15, 1),
  na120('na-lock-20', 'Locking receptacle, 20 A', 20, 1),
  naGfci('na-gfci-15', 15),
  naGfci('na-gfci-20', 20),
  na240('na-20-240', 20, '10 AWG', 1),
  na240('na-30-240', 30, '8 AWG', 1),
  na240('na-50-240', 50, '4 AWG', 2),
  naFourWire('na-30-4w', 30, '8 AWG'),
  naFourWire('na-50-4w', 50, '4 AWG'),
  naSwitch('na-switch-1p', 'Single-pole switch, 20 A', 1, 20),
  naSwitch('na-switch-15', 'Single-pole switch, 15 A', 1, 15),
  naSwitch('na-switch-2p-20', 'Two-pole switch, 20 A', 2, 20),
  naSwitch('na-switch-2p', 'Two-pole switch, 30 A', 2, 30),
  naSwitch('na-pull-cord', 'Pull-cord switch, 15 A', 1, 15),
  {
    ...naSwitch('na-thermostat-2p', 'Line-voltage thermostat, two-pole, 22 A', 2, 22),
    kind: 'thermostat',
    terminals: [
      t('L1', 'plain', 'feed', 'line', 20, 82),
      t('L2', 'plain', 'feed', 'line-2', 40, 82),
      t('T1', 'plain', 'load', 'line', 62, 82),
      t('T2', 'plain', 'load', 'line-2', 84, 82),
    ],
    joints: [{ role: 'pe', pigtail: false }],
  },
  metricOutlet('uk-socket-13', 'united-kingdom', '13 A socket-outlet, single switched', 13, 1, 25, '4 mm2'),
  metricOutlet('uk-socket-13-twin', 'united-kingdom', '13 A socket-outlet, twin switched', 13, 2, 25, '4 mm2'),
  metricOutlet('uk-socket-13-rcd', 'united-kingdom', '13 A socket-outlet with RCD, single', 13, 1, 35, '4 mm2', {
    residual: true,
    caution: 'The feed goes on the terminals marked IN or supply, as the maker shows; the test button must trip it.',
  }),
  metricOutlet('uk-socket-13-twin-rcd', 'united-kingdom', '13 A socket-outlet with RCD, twin', 13, 2, 35, '4 mm2', {
    residual: true,
    caution: 'The feed goes on the terminals marked IN or supply, as the maker shows; the test button must trip it.',
  }),
  metricOutlet('uk-socket-13-usb', 'united-kingdom', '13 A socket-outlet, twin switched with USB', 13, 2, 35, '4 mm2', {
    caution: 'Its charger is unplugged by nothing: switch it off, or part it, before an insulation test at 500 V.',
  }),
  metricOutlet('uk-socket-13-outside', 'united-kingdom', '13 A socket-outlet, weatherproof, single', 13, 1, 35, '4 mm2'),
  metricOutlet('uk-socket-13-twin-outside', 'united-kingdom', '13 A socket-outlet, weatherproof, twin', 13, 2, 35, '4 mm2'),
  metricOutlet('uk-socket-16', 'united-kingdom', '16 A industrial socket-outlet', 16, 1, 55, '4 mm2', { shutters: false }),
  metricOutlet('uk-socket-32', 'united-kingdom', '32 A industrial socket-outlet', 32, 1, 55, '10 mm2', { shutters: false }),
  twoPole('uk-fcu', 'united-kingdom', '13 A switched fused connection unit, flex outlet', 13, 35, '4 mm2', {
    kind: 'connection-unit',
    onward: 'cord',
    terminals: feedLoadTerminals('SUPPLY', 'LOAD'),
    caution: 'The fuse suits the appliance and its flex: 3, 5 or 13 A, not the one that came in the box (533.1).',
  }),
  twoPole('uk-fcu-rcd', 'united-kingdom', '13 A fused connection unit with RCD', 13, 35, '4 mm2', {
    kind: 'connection-unit',
    poles: 0,
    residual: true,
    onward: 'cord',
    terminals: feedLoadTerminals('SUPPLY', 'LOAD'),
    caution: 'The feed goes on SUPPLY. On LOAD everything it feeds would be unprotected; the test button must trip it (643.10).',
  }),
  twoPole('uk-fcu-plain', 'united-kingdom', '13 A fused connection unit, unswitched', 13, 35, '4 mm2', {
    kind: 'connection-unit',
    poles: 0,
    onward: 'cord',
    terminals: feedLoadTerminals('SUPPLY', 'LOAD'),
    caution: 'The fuse suits the appliance and its flex: 3, 5 or 13 A (533.1). It opens nothing: another device isolates what it feeds.',
  }),
  twoPole('uk-dp-20', 'united-kingdom', '20 A two-pole switch, flex outlet', 20, 35, '4 mm2', { onward: 'cord' }),
  twoPole('uk-dp-45', 'united-kingdom', '45 A two-pole switch', 45, 47, '16 mm2'),
  twoPole('uk-dp-32', 'united-kingdom', '32 A two-pole switch', 32, 35, '10 mm2'),
  twoPole('uk-dp-50', 'united-kingdom', '50 A two-pole switch', 50, 47, '16 mm2'),
  metricSwitch('uk-switch-1p', 'united-kingdom', 'Single-pole plate switch, 10 A', 10, 16),
  {
    ...metricSwitch('uk-pull-cord', 'united-kingdom', 'Pull-cord switch, 6 A', 6, 25),
    caution: 'In a room with a bath or shower the pull-cord switch stands outside zones 1 and 2 and only its cord hangs in (701.512.3).',
  },
  metricThermostat('uk-thermostat', 'united-kingdom'),
  metricOutlet('za-socket-16', 'southern-africa', '16 A socket-outlet, single switched', 16, 1, 35, '6 mm2'),
  metricOutlet('za-socket-16-double', 'southern-africa', '16 A socket-outlet, double switched', 16, 2, 35, '6 mm2'),
  metricOutlet('za-socket-16-usb', 'southern-africa', '16 A socket-outlet, single switched with USB', 16, 1, 50, '4 mm2', {
    caution: 'Its charger is unplugged by nothing: switch it off, or part it, before an insulation test at 500 V.',
  }),
  metricOutlet('za-socket-16-outside', 'southern-africa', '16 A socket-outlet, weatherproof, single', 16, 1, 35, '6 mm2'),
  metricOutlet('za-socket-16-industrial', 'southern-africa', '16 A industrial socket-outlet', 16, 1, 55, '4 mm2', { shutters: false }),
  metricOutlet('za-socket-32-industrial', 'southern-africa', '32 A industrial socket-outlet', 32, 1, 55, '10 mm2', { shutters: false }),
  metricOutlet('za-socket-16-compact', 'southern-africa', '16 A compact socket-outlet, single', 16, 1, 35, '4 mm2'),
  twoPole('za-isolator-20', 'southern-africa', '20 A two-pole isolator, flex outlet', 20, 35, '6 mm2', { onward: 'cord' }),
  twoPole('za-isolator-30', 'southern-africa', '30 A two-pole isolator', 30, 35, '10 mm2'),
  twoPole('za-isolator-45', 'southern-africa', '45 A two-pole isolator', 45, 50, '16 mm2'),
  twoPole('za-isolator-60', 'southern-africa', '60 A two-pole isolator', 60, 50, '16 mm2'),
  metricSwitch('za-switch-1p', 'southern-africa', 'Single-pole switch, 16 A', 16, 35),
  metricSwitch('za-pull-cord', 'southern-africa', 'Pull-cord switch, 10 A', 10, 35),
  metricThermostat('za-thermostat', 'southern-africa'),
]

/** What of an accessory is the same in every world but for its figures; its terminals are those of its pattern, in `devices.ts`. */
const switched = (
  region: RegionId,
  prefix: string,
  { ratingA, volts, boxDepthMm, stripMm, largestSize }: Pick<Accessory, 'ratingA' | 'volts' | 'boxDepthMm' | 'stripMm' | 'largestSize'>,
): readonly Accessory[] => {
  const na = region === 'north-america'
  const of = (id: string, name: string, kind: AccessoryKind, pattern: WiringPattern, extra: Partial<Accessory> = {}): Accessory => ({
    ...defaults,
    id: `${prefix}-${id}`,
    name,
    region,
    kind,
    ratingA,
    volts,
    system: 'line-neutral',
    outlets: 0,
    poles: kind === 'light' ? 0 : 1,
    stripMm,
    largestSize,
    boxDepthMm: kind === 'light' ? 0 : boxDepthMm,
    onward: kind === 'light' ? 'none' : 'cable',
    terminals: [],
    pattern,
    ...(kind === 'switch' && !na ? { plate: true } : {}),
    ...extra,
  })
  const zones = na
    ? 'Within 3 ft of a tub or shower and up to 8 ft above it nothing hangs from a cord, chain or track; a light there is ' +
      'listed for damp or wet locations (410.10(D)).'
    : region === 'united-kingdom'
      ? 'In zones 1 and 2 of a room with a bath or shower it is IPX4 at least, and suits the zone by its maker’s data ' +
        '(701.512.2, 701.55).'
      : 'Near a bath or shower its protection against water suits the zone, by its maker’s data (SANS 10142-1).'
  const insulation = na
    ? 'Where insulation lies over it, it is marked for contact with insulation (Type IC); otherwise insulation keeps 3 in ' +
      'clear (410.116).'
    : 'Insulation is kept off it unless its marking allows it to be covered, and its driver lies clear of it (maker’s instructions).'
  return [
    of('two-way', na ? 'Three-way switch, 15 A' : 'Two-way plate switch', 'switch', 'two-way'),
    of('intermediate', na ? 'Four-way switch, 15 A' : 'Intermediate plate switch', 'switch', 'intermediate'),
    of('two-way-dimmer', na ? 'Three-way dimmer' : 'Two-way dimmer', 'switch', 'two-way', {
      caution: 'One dimmer in a set of switches, and only lamps that its maker lists for it, within its least and greatest load.',
    }),
    of('dimmer', 'Dimmer', 'switch', 'speed', {
      caution: 'Only lamps that its maker lists for it, within its least and greatest load; several side by side carry less each.',
    }),
    of('speed', 'Fan speed controller', 'switch', 'speed'),
    of('timer', 'Timer that needs a neutral', 'switch', 'timer'),
    of('motion', 'Motion sensor that needs a neutral', 'switch', 'timer'),
    of('dusk', 'Dusk sensor that needs a neutral', 'switch', 'timer'),
    of('light', 'Light', 'light', 'light'),
    of('light-pendant', na ? 'Pendant light' : 'Pendant light on a ceiling rose', 'light', 'light'),
    of('light-ceiling', 'Ceiling light, surface', 'light', 'light'),
    of('light-wall', 'Wall light', 'light', 'light'),
    of('light-recessed', na ? 'Recessed light' : 'Downlight, recessed', 'light', 'light', { caution: insulation }),
    of('lampholder', na ? 'Lampholder, keyless' : 'Batten lampholder', 'light', 'light'),
    of('light-bathroom', na ? 'Bathroom light, listed for damp locations' : 'Bathroom light, sealed', 'light', 'light', { caution: zones }),
    of('light-outside', na ? 'Outdoor light, listed for wet locations' : 'Outdoor light, weatherproof', 'light', 'light'),
    of('light-emergency', 'Emergency light, not maintained', 'light', 'light', {
      caution: 'It is fed all the time, from the lighting circuit of its area, and through a switch that only a test turns off.',
    }),
    of('fan', na ? 'Exhaust fan' : 'Extract fan', 'light', 'fan'),
    of('fan-overrun', na ? 'Exhaust fan with run-on timer' : 'Extract fan with overrun timer', 'light', 'fan-overrun', {
      caution: na
        ? 'It needs a hot that is never switched besides the switched one; one disconnect opens both (422.31).'
        : 'It needs a line that is never switched besides the switched one; one isolator opens both lines and the neutral.',
    }),
    of('ceiling-fan', 'Ceiling fan, no light', 'light', 'fan'),
    of('fan-light', 'Ceiling fan with light', 'light', 'fan-light'),
  ]
}
export const accessories: readonly Accessory[] = [
  ...fixed,
  ...switched('north-america', 'na', { ratingA: 15, volts: 120, boxDepthMm: 0, stripMm: 16, largestSize: '12 AWG' }),
  ...switched('united-kingdom', 'uk', { ratingA: 10, volts: 230, boxDepthMm: 25, stripMm: 8, largestSize: '2.5 mm2' }),
  ...switched('southern-africa', 'za', { ratingA: 16, volts: 230, boxDepthMm: 35, stripMm: 8, largestSize: '2.5 mm2' }),
]

export const accessoriesFor = (region: RegionId): Accessory[] => accessories.filter((a) => a.region === region)
/** Whether there is an accessory of this world that can guard what hangs beyond it: one with a residual device and load terminals. */
export const guardsFromOutlets = (region: RegionId): boolean => accessoriesFor(region).some(hasGuardedLoad)
/** A residual device with terminals of its own for what it guards beyond its own outlets. */
export const hasGuardedLoad = ({ residual, onward }: Accessory): boolean => residual && onward !== 'none'
/** The same outlet with a residual device in it, and load terminals where what hangs beyond is to be guarded; undefined: none is listed. */
export const guardingKind = (like: Accessory, guardsOn: boolean): Accessory | undefined =>
  accessories.find(
    (a) =>
      a.region === like.region &&
      a.kind === like.kind &&
      a.system === like.system &&
      a.ratingA === like.ratingA &&
      a.outlets === like.outlets &&
      a.residual &&
      (!guardsOn || hasGuardedLoad(a)),
  )
const byId = new Map(accessories.map((a) => [a.id, a]))
/** What a point of a kind has where no accessory is chosen for it. */
export const plainAccessory = (region: RegionId, kind: 'light' | 'switch'): Accessory =>
  accessories.find((a) => a.region === region && a.kind === kind && a.id.endsWith(kind === 'light' ? '-light' : '-switch-1p'))!
export const accessory = (id: string | null): Accessory | undefined => (id === null ? undefined : byId.get(id))
