import type { RegionId } from '../../region/types'
import type { Accessory } from './accessory'
import { lightingOf, metricCautions, metricWords } from './lighting'
import { metricMakers } from './makers'

const region: RegionId = 'southern-africa'
const { outlet, twoPole, plateSwitch, thermostat } = metricMakers(region)
const lighting = lightingOf({
  region,
  prefix: 'za',
  ratingA: 16,
  volts: 230,
  boxDepthMm: 35,
  stripMm: 8,
  largestSize: '2.5 mm2',
  sharesPlates: true,
  words: metricWords,
  cautions: {
    ...metricCautions,
    zones: 'Near a bath or shower its protection against water suits the zone, by its maker’s data (SANS 10142-1).',
  },
})

/** Accessories of southern Africa. */
export const southernAfrica: readonly Accessory[] = [
  outlet('za-socket-16', '16 A socket-outlet, single switched', 16, 1, 35, '6 mm2'),
  outlet('za-socket-16-double', '16 A socket-outlet, double switched', 16, 2, 35, '6 mm2'),
  outlet('za-socket-16-usb', '16 A socket-outlet, single switched with USB', 16, 1, 50, '4 mm2', {
    caution: 'Its charger is unplugged by nothing: switch it off, or part it, before an insulation test at 500 V.',
  }),
  outlet('za-socket-16-outside', '16 A socket-outlet, weatherproof, single', 16, 1, 35, '6 mm2'),
  outlet('za-socket-16-industrial', '16 A industrial socket-outlet', 16, 1, 55, '4 mm2', { shutters: false }),
  outlet('za-socket-32-industrial', '32 A industrial socket-outlet', 32, 1, 55, '10 mm2', { shutters: false }),
  outlet('za-socket-16-compact', '16 A compact socket-outlet, single', 16, 1, 35, '4 mm2'),
  twoPole('za-isolator-20', '20 A two-pole isolator, flex outlet', 20, 35, '6 mm2', { onward: 'cord' }),
  twoPole('za-isolator-30', '30 A two-pole isolator', 30, 35, '10 mm2'),
  twoPole('za-isolator-45', '45 A two-pole isolator', 45, 50, '16 mm2'),
  twoPole('za-isolator-60', '60 A two-pole isolator', 60, 50, '16 mm2'),
  plateSwitch('za-switch-1p', 'Single-pole switch, 16 A', 16, 35),
  plateSwitch('za-pull-cord', 'Pull-cord switch, 10 A', 10, 35),
  thermostat('za-thermostat'),
  ...lighting.all,
]
