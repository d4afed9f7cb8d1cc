import type { RegionId } from '../../region/types'
import type { Accessory } from './accessory'
import { lightingOf, metricCautions, metricWords } from './lighting'
import { feedLoadTerminals, metricMakers, t } from './makers'

const region: RegionId = 'united-kingdom'
const { outlet, twoPole, plateSwitch, thermostat } = metricMakers(region)
const lighting = lightingOf({
  region,
  prefix: 'uk',
  ratingA: 10,
  volts: 230,
  boxDepthMm: 25,
  stripMm: 8,
  largestSize: '2.5 mm2',
  sharesPlates: true,
  words: metricWords,
  cautions: {
    ...metricCautions,
    zones:
      'In zones 1 and 2 of a room with a bath or shower it is IPX4 at least, and suits the zone by its maker’s data ' +
      '(701.512.2, 701.55).',
  },
})

/** Accessories of the United Kingdom. */
export const unitedKingdom: readonly Accessory[] = [
  outlet('uk-socket-13', '13 A socket-outlet, single switched', 13, 1, 25, '4 mm2'),
  outlet('uk-socket-13-twin', '13 A socket-outlet, twin switched', 13, 2, 25, '4 mm2'),
  outlet('uk-socket-13-rcd', '13 A socket-outlet with RCD, single', 13, 1, 35, '4 mm2', {
    residual: true,
    caution: 'The feed goes on the terminals marked IN or supply, as the maker shows; the test button must trip it.',
  }),
  outlet('uk-socket-13-twin-rcd', '13 A socket-outlet with RCD, twin', 13, 2, 35, '4 mm2', {
    residual: true,
    caution: 'The feed goes on the terminals marked IN or supply, as the maker shows; the test button must trip it.',
  }),
  outlet('uk-socket-13-usb', '13 A socket-outlet, twin switched with USB', 13, 2, 35, '4 mm2', {
    caution: 'Its charger is unplugged by nothing: switch it off, or part it, before an insulation test at 500 V.',
  }),
  outlet('uk-socket-13-outside', '13 A socket-outlet, weatherproof, single', 13, 1, 35, '4 mm2'),
  outlet('uk-socket-13-twin-outside', '13 A socket-outlet, weatherproof, twin', 13, 2, 35, '4 mm2'),
  outlet('uk-socket-16', '16 A industrial socket-outlet', 16, 1, 55, '4 mm2', { shutters: false }),
  outlet('uk-socket-32', '32 A industrial socket-outlet', 32, 1, 55, '10 mm2', { shutters: false }),
  twoPole('uk-fcu', '13 A switched fused connection unit, flex outlet', 13, 35, '4 mm2', {
    kind: 'connection-unit',
    onward: 'cord',
    terminals: feedLoadTerminals('SUPPLY', 'LOAD'),
    caution: 'The fuse suits the appliance and its flex: 3, 5 or 13 A, not the one that came in the box (533.1).',
  }),
  twoPole('uk-fcu-rcd', '13 A fused connection unit with RCD', 13, 35, '4 mm2', {
    kind: 'connection-unit',
    poles: 0,
    residual: true,
    onward: 'cord',
    terminals: feedLoadTerminals('SUPPLY', 'LOAD'),
    caution: 'The feed goes on SUPPLY. On LOAD everything it feeds would be unprotected; the test button must trip it (643.10).',
  }),
  twoPole('uk-fcu-plain', '13 A fused connection unit, unswitched', 13, 35, '4 mm2', {
    kind: 'connection-unit',
    poles: 0,
    onward: 'cord',
    terminals: feedLoadTerminals('SUPPLY', 'LOAD'),
    caution: 'The fuse suits the appliance and its flex: 3, 5 or 13 A (533.1). It opens nothing: another device isolates what it feeds.',
  }),
  twoPole('uk-dp-20', '20 A two-pole switch, flex outlet', 20, 35, '4 mm2', { onward: 'cord' }),
  twoPole('uk-dp-45', '45 A two-pole switch', 45, 47, '16 mm2'),
  twoPole('uk-cooker-45', '45 A cooker control unit with 13 A socket-outlet', 45, 47, '16 mm2', {
    gangs: 2,
    outlets: 1,
    shutters: true,
    caution: 'Its socket-outlet is ahead of its main switch: it stays live with the cooker off, and needs protection as any socket-outlet.',
  }),
  twoPole('uk-fan-isolator', 'Fan isolator, three-pole, 10 A', 10, 25, '2.5 mm2', {
    poles: 3,
    terminals: [
      t('L IN', 'plain', 'feed', 'line', 10, 86),
      t('LT IN', 'plain', 'feed', 'switched-line', 27, 86),
      t('N IN', 'plain', 'feed', 'neutral', 44, 86),
      t('E', 'plain', 'feed', 'pe', 58, 86),
      t('L OUT', 'plain', 'load', 'line', 60, 40),
      t('LT OUT', 'plain', 'load', 'switched-line', 73, 40),
      t('N OUT', 'plain', 'load', 'neutral', 86, 40),
      t('E', 'plain', 'load', 'pe', 96, 40),
    ],
    caution:
      'It opens the permanent line, the switched line and the neutral of a fan together. It is outside zones 0, 1 and 2 (701.512.3).',
  }),
  {
    ...plateSwitch('uk-grid-switch', '20 A grid switch module, single-pole', 20, 35),
    shares: 'grid',
    largestSize: '4 mm2',
  },
  twoPole('uk-grid-dp', '20 A grid switch module, two-pole', 20, 35, '4 mm2', { shares: 'grid' }),
  twoPole('uk-dp-32', '32 A two-pole switch', 32, 35, '10 mm2'),
  twoPole('uk-dp-50', '50 A two-pole switch', 50, 47, '16 mm2'),
  plateSwitch('uk-switch-1p', 'Single-pole plate switch, 10 A', 10, 16),
  {
    ...plateSwitch('uk-pull-cord', 'Pull-cord switch, 6 A', 6, 25),
    caution:
      'In a room with a bath or shower the pull-cord switch is outside zones 1 and 2, and only its cord may hang in them (701.512.3).',
  },
  thermostat('uk-thermostat'),
  ...lighting.all,
  lighting.of('shaver', 'Shaver supply unit, with isolating transformer', 'light', 'shaver', {
    gangs: 2,
    boxDepthMm: 47,
    caution:
      'Only a unit to BS EN 61558-2-5 is for a room with a bath or shower, outside zones 0 and 1 (701.512.3). Unplug what is in it ' +
      'before an insulation test.',
  }),
]
