import type { ConductorRole } from '../../region/colours'
import type { RegionId } from '../../region/types'
import type { Accessory, CableSide, ScrewKind, Terminal } from './accessory'

/** A terminal by its mark, its screw, what goes on it and where it is on the back. */
export const t = (mark: string, screw: ScrewKind, cable: CableSide, role: ConductorRole, x: number, y: number): Terminal => ({
  mark,
  screw,
  takes: { cable, role },
  at: [x, y],
})

/** What most accessories are not. */
export const defaults = { residual: false, shutters: false, poles: 0, onward: 'none', joints: [], gangs: 1, boxDepthMm: 0 } as const

const outlet =
  (region: RegionId) =>
  (
    id: string,
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

/** Terminals of what is passed through: supply side and load side. */
export const feedLoadTerminals = (inMark: string, outMark: string): Terminal[] => [
  t(`L ${inMark}`, 'plain', 'feed', 'line', 14, 86),
  t(`N ${inMark}`, 'plain', 'feed', 'neutral', 37, 86),
  t('E', 'plain', 'feed', 'pe', 54, 86),
  t(`L ${outMark}`, 'plain', 'load', 'line', 62, 40),
  t(`N ${outMark}`, 'plain', 'load', 'neutral', 80, 40),
  t('E', 'plain', 'load', 'pe', 94, 40),
]
const twoPole =
  (region: RegionId) =>
  (id: string, name: string, ratingA: number, boxDepthMm: number, largestSize: string, extra: Partial<Accessory> = {}): Accessory => ({
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
const plateSwitch =
  (region: RegionId) =>
  (id: string, name: string, ratingA: number, boxDepthMm: number): Accessory => ({
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
    shares: 'plate',
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
const thermostat =
  (region: RegionId) =>
  (id: string): Accessory => ({
    ...plateSwitch(region)(id, 'Line-voltage thermostat, 16 A', 16, 35),
    kind: 'thermostat',
    terminals: [
      t('L', 'plain', 'feed', 'line', 18, 84),
      t('N', 'plain', 'feed', 'neutral', 40, 84),
      t('LOAD L', 'plain', 'load', 'switched-line', 62, 84),
      t('LOAD N', 'plain', 'load', 'neutral', 84, 84),
    ],
    joints: [{ role: 'pe', pigtail: false }],
  })

/** Makers of what the 230 V worlds have alike, for one of them. */
export const metricMakers = (region: RegionId) => ({
  outlet: outlet(region),
  twoPole: twoPole(region),
  plateSwitch: plateSwitch(region),
  thermostat: thermostat(region),
})
