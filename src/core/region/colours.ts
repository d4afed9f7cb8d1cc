import type { RegionId } from './types'

/** Insulation colours as they are drawn. `stripe` is a second colour; `bare` is uninsulated copper. */
export const wireColours = {
  black: { name: 'black', fill: '#1b1b1b', letter: 'BK' },
  red: { name: 'red', fill: '#c8201f', letter: 'RD' },
  white: { name: 'white', fill: '#fbfbf8', letter: 'WH' },
  bare: { name: 'bare copper', fill: '#c98a4b', letter: 'BARE' },
  green: { name: 'green', fill: '#1f8a3b', letter: 'GN' },
  brown: { name: 'brown', fill: '#7a4a21', letter: 'BN' },
  yellow: { name: 'yellow', fill: '#e3c21c', letter: 'YE' },
  blue: { name: 'blue', fill: '#1f62c0', letter: 'BU' },
  grey: { name: 'grey', fill: '#8c9196', letter: 'GY' },
  greenYellow: { name: 'green-and-yellow', fill: '#2f9a3a', stripe: '#f2d62e', letter: 'GNYE' },
} as const
export type WireColour = keyof typeof wireColours

/**
 * What a conductor is for. `switched-line` leaves a switch, a `traveller` joins two switches of a two-way set, `pe` is the protective
 * conductor; a `spare` core is connected to nothing and capped at both ends.
 */
export const conductorRoles = ['line', 'line-2', 'neutral', 'pe', 'switched-line', 'traveller', 'spare'] as const
export type ConductorRole = (typeof conductorRoles)[number]

export interface Conductor {
  readonly id: string
  readonly role: ConductorRole
  readonly colour: WireColour
  /** Sleeve or tape the conductor must carry because its own colour says something else. */
  readonly remark?: WireColour
  readonly clause?: string
}

/** How the supply to the accessory is made up. */
export type CircuitSystem = 'line-neutral' | 'line-line' | 'line-line-neutral'

const na = (role: ConductorRole, colour: WireColour, remark?: WireColour): Conductor => ({
  id: role,
  role,
  colour,
  ...(remark ? { remark, clause: '200.7(C)' } : {}),
})

const naMakeup: Record<CircuitSystem, readonly Conductor[]> = {
  'line-neutral': [na('line', 'black'), na('neutral', 'white'), na('pe', 'bare')],
  'line-line': [na('line', 'black'), na('line-2', 'white', 'red'), na('pe', 'bare')],
  'line-line-neutral': [na('line', 'black'), na('line-2', 'red'), na('neutral', 'white'), na('pe', 'bare')],
}

const sleeved: Conductor = { id: 'pe', role: 'pe', colour: 'bare', remark: 'greenYellow', clause: '514.4.2' }
const metricMakeup: Record<Exclude<RegionId, 'north-america'>, Record<'new' | 'old', readonly Conductor[]>> = {
  'united-kingdom': {
    new: [{ id: 'line', role: 'line', colour: 'brown' }, { id: 'neutral', role: 'neutral', colour: 'blue' }, sleeved],
    old: [{ id: 'line', role: 'line', colour: 'red' }, { id: 'neutral', role: 'neutral', colour: 'black' }, sleeved],
  },
  'southern-africa': {
    new: [
      { id: 'line', role: 'line', colour: 'brown' },
      { id: 'neutral', role: 'neutral', colour: 'blue' },
      { ...sleeved, clause: 'SANS 10142-1: protective conductors green-and-yellow at terminations' },
    ],
    old: [
      { id: 'line', role: 'line', colour: 'red' },
      { id: 'neutral', role: 'neutral', colour: 'black' },
      { ...sleeved, clause: 'SANS 10142-1: protective conductors green-and-yellow at terminations' },
    ],
  },
}

/** Cores of a cable besides its protective one: two, or three for switched legs and strappers. */
export const coreCounts = ['two', 'three'] as const
export type CoreCount = (typeof coreCounts)[number]
const three = (...colours: readonly [WireColour, WireColour, WireColour]): readonly Conductor[] =>
  (['line', 'line-2', 'neutral'] as const).map((role, i) => ({ id: role, role, colour: colours[i]! }))

/** North American wire has one colour code; the metric worlds have an older one still in walls and on reels. */
export const hasOldColours = (region: RegionId): boolean => region !== 'north-america'

/** The cores of a cable with three, as they lie in it; what each is for is for the wiring to say. */
export const threeCores = (region: RegionId, colours: 'new' | 'old'): readonly Conductor[] =>
  region === 'north-america'
    ? naMakeup['line-line-neutral']
    : [...(colours === 'old' ? three('red', 'yellow', 'blue') : three('brown', 'black', 'grey')), ...metricMakeup[region][colours].slice(2)]

/** The conductors of a new cable that ends at an accessory, in this world's colours. */
export function cableConductors(region: RegionId, system: CircuitSystem, colours: 'new' | 'old'): readonly Conductor[] {
  return region === 'north-america' ? naMakeup[system] : metricMakeup[region][colours]
}

const drawnInColours: Readonly<
  Record<'split' | 'metric', Readonly<Record<'neutral' | 'pe', WireColour> & { line: readonly WireColour[] }>>
> = {
  // Any colour but those of neutral and ground; each conductor its own, so that they are distinguished.
  split: { neutral: 'white', pe: 'green', line: ['black', 'red', 'blue', 'yellow', 'brown'] },
  metric: { neutral: 'blue', pe: 'greenYellow', line: ['brown'] },
}
/**
 * Single conductors drawn into a raceway, one for each role: bought in the colour that says what they are, so that none is re-marked.
 * NFPA 70 200.6, 250.119; BS 7671 Table 51.
 */
export function drawnInConductors(region: RegionId, roles: readonly Exclude<ConductorRole, 'pe' | 'spare'>[]): readonly Conductor[] {
  const { neutral, pe, line } = drawnInColours[region === 'north-america' ? 'split' : 'metric']
  let n = 0
  const lines = roles.map((role): Conductor => {
    if (role === 'neutral') return { id: 'neutral', role, colour: neutral }
    n++
    return { id: n === 1 ? 'line' : `line-${n}`, role, colour: line[(n - 1) % line.length]! }
  })
  return [...lines, { id: 'pe', role: 'pe', colour: pe }]
}

/** Colours that mean neutral and line, in a world and in wiring of an age; what else is coloured is neither. */
export function meaningOf(region: RegionId, colours: 'new' | 'old', colour: WireColour): 'line' | 'neutral' | 'protective' | 'other' {
  if (colour === 'bare' || colour === 'green' || colour === 'greenYellow') return 'protective'
  if (region === 'north-america') return colour === 'white' || colour === 'grey' ? 'neutral' : 'line'
  if (colour === (colours === 'old' ? 'black' : 'blue')) return 'neutral'
  return colour === (colours === 'old' ? 'red' : 'brown') ? 'line' : 'other'
}

const markClause: Readonly<Record<RegionId, string>> = {
  'north-america': '200.7(C)',
  'united-kingdom': '514.3; Table 51',
  'southern-africa': 'SANS 10142-1: identification of conductors',
}
/** The tape or sleeve of a core whose colour says something else than it carries, with its clause; none where its colour is right. */
export function markOf(
  region: RegionId,
  colours: 'new' | 'old',
  colour: WireColour,
  role: ConductorRole,
): Pick<Conductor, 'remark' | 'clause'> {
  if (role === 'pe' || role === 'spare') return {}
  const wanted = role === 'neutral' ? 'neutral' : 'line'
  if (meaningOf(region, colours, colour) === wanted) return {}
  const old = colours === 'old'
  const remark: WireColour =
    region === 'north-america'
      ? wanted === 'line'
        ? 'red'
        : 'white'
      : wanted === 'line'
        ? old
          ? 'red'
          : 'brown'
        : old
          ? 'black'
          : 'blue'
  return { remark, clause: markClause[region] }
}
