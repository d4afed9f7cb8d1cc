import type { Accessory, AccessoryKind, WiringPattern } from './accessory'
import { defaults } from './makers'

/** What switches, lights and fans are called in a world. */
interface LightingWords {
  readonly twoWay: string
  readonly intermediate: string
  readonly twoWayDimmer: string
  readonly pendant: string
  readonly recessed: string
  readonly lampholder: string
  readonly bathroom: string
  readonly outside: string
  readonly fan: string
  readonly overrun: string
}
interface LightingCautions {
  /** Near a bath or shower. */
  readonly zones: string
  /** Under insulation. */
  readonly insulation: string
  /** A fan on two lines. */
  readonly overrun: string
}
type Figures = Pick<Accessory, 'region' | 'ratingA' | 'volts' | 'boxDepthMm' | 'stripMm' | 'largestSize'>

/** As the 230 V worlds call them. */
export const metricWords: LightingWords = {
  twoWay: 'Two-way plate switch',
  intermediate: 'Intermediate plate switch',
  twoWayDimmer: 'Two-way dimmer',
  pendant: 'Pendant light on a ceiling rose',
  recessed: 'Downlight, recessed',
  lampholder: 'Batten lampholder',
  bathroom: 'Bathroom light, sealed',
  outside: 'Outdoor light, weatherproof',
  fan: 'Extract fan',
  overrun: 'Extract fan with overrun timer',
}
export const metricCautions: Omit<LightingCautions, 'zones'> = {
  insulation:
    'Insulation is kept off it unless its marking allows it to be covered, and its driver lies clear of it (maker’s instructions).',
  overrun: 'It needs a permanent line as well as the switched one; one isolator opens both lines and the neutral.',
}

/**
 * Switches, lights and fans of a world: the same everywhere but for their figures and names; their terminals are those of their pattern,
 * in `devices.ts`. `of` makes one more that a world has alone.
 */
export function lightingOf({
  prefix,
  words,
  cautions,
  sharesPlates,
  ...figures
}: Figures & {
  readonly prefix: string
  readonly words: LightingWords
  readonly cautions: LightingCautions
  readonly sharesPlates: boolean
}) {
  const of = (id: string, name: string, kind: AccessoryKind, pattern: WiringPattern, extra: Partial<Accessory> = {}): Accessory => ({
    ...defaults,
    ...figures,
    id: `${prefix}-${id}`,
    name,
    kind,
    system: 'line-neutral',
    outlets: 0,
    poles: kind === 'light' ? 0 : 1,
    boxDepthMm: kind === 'light' ? 0 : figures.boxDepthMm,
    onward: kind === 'light' ? 'none' : 'cable',
    terminals: [],
    pattern,
    // A sensor, a timer or a fan controller takes a plate of its own.
    ...((pattern === 'two-way' || pattern === 'intermediate' || id === 'dimmer') && sharesPlates ? { shares: 'plate' } : {}),
    ...extra,
  })
  const all: readonly Accessory[] = [
    of('two-way', words.twoWay, 'switch', 'two-way'),
    of('intermediate', words.intermediate, 'switch', 'intermediate'),
    of('two-way-dimmer', words.twoWayDimmer, 'switch', 'two-way', {
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
    of('light-pendant', words.pendant, 'light', 'light'),
    of('light-ceiling', 'Ceiling light, surface', 'light', 'light'),
    of('light-wall', 'Wall light', 'light', 'light'),
    of('light-recessed', words.recessed, 'light', 'light', { caution: cautions.insulation }),
    of('lampholder', words.lampholder, 'light', 'light'),
    of('light-bathroom', words.bathroom, 'light', 'light', { caution: cautions.zones }),
    of('light-outside', words.outside, 'light', 'light'),
    of('light-emergency', 'Emergency light, not maintained', 'light', 'light', {
      caution: 'It is fed all the time, from the lighting circuit of its area, and through a switch that only a test turns off.',
    }),
    of('fan', words.fan, 'light', 'fan'),
    of('fan-overrun', words.overrun, 'light', 'fan-overrun', { caution: cautions.overrun }),
    of('ceiling-fan', 'Ceiling fan, no light', 'light', 'fan'),
    of('fan-light', 'Ceiling fan with light', 'light', 'fan-light'),
  ]
  return { of, all }
}
