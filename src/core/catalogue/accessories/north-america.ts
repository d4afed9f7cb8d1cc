import type { RegionId } from '../../region/types'
import type { Accessory } from './accessory'
import { lightingOf } from './lighting'
import { defaults, t } from './makers'

const region: RegionId = 'north-america'

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
  region,
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
  region,
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
  region,
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

const naSwitch = (id: string, name: string, poles: 1 | 2, ratingA: number): Accessory => ({
  ...defaults,
  id,
  name,
  region,
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

/** Accessories of North America. */
export const northAmerica: readonly Accessory[] = [
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
  ...lightingOf({
    region,
    prefix: 'na',
    ratingA: 15,
    volts: 120,
    boxDepthMm: 0,
    stripMm: 16,
    largestSize: '12 AWG',
    sharesPlates: false,
    words: {
      twoWay: 'Three-way switch, 15 A',
      intermediate: 'Four-way switch, 15 A',
      twoWayDimmer: 'Three-way dimmer',
      pendant: 'Pendant light',
      recessed: 'Recessed light',
      lampholder: 'Lampholder, keyless',
      bathroom: 'Bathroom light, listed for damp locations',
      outside: 'Outdoor light, listed for wet locations',
      fan: 'Exhaust fan',
      overrun: 'Exhaust fan with run-on timer',
    },
    cautions: {
      zones:
        'Within 3 ft of a tub or shower and up to 8 ft above it nothing hangs from a cord, chain or track; a light there is ' +
        'listed for damp or wet locations (410.10(D)).',
      insulation:
        'Where insulation lies over it, it is marked for contact with insulation (Type IC); otherwise insulation keeps 3 in ' +
        'clear (410.116).',
      overrun: 'It needs a permanent hot as well as the switched one; one disconnect opens both (422.31).',
    },
  }).all,
]
