import type { RegionId } from '../region/types'
import { type Accessory, accessories, type CableSide, type ScrewKind, type Terminal, type WiringPattern } from './accessories'
import type { ConductorRole } from '../region/colours'

/** A place on a device where conductors are made off. */
export interface DeviceTerminal {
  readonly id: string
  readonly mark: string
  readonly screw: ScrewKind
  readonly at: readonly [x: number, y: number]
  /** What the usual way puts there; null: it is for a person to say. */
  readonly takes: { readonly cable: CableSide; readonly role: ConductorRole } | null
  /** Conductors it is made for. */
  readonly most: number
}

/** What joins the terminals of a device behind its face. */
export type Inside =
  | { readonly kind: 'joined'; readonly a: string; readonly b: string }
  /** Two poles of one actuator whose terminals differ by maker: which two each joins is known once somebody tested it. */
  | {
      readonly kind: 'numbered'
      readonly by: string
      readonly ways: readonly (readonly [readonly [string, string], readonly [string, string]])[]
    }
  /** Joined until somebody breaks it out. */
  | { readonly kind: 'tab'; readonly id: string; readonly name: string; readonly a: string; readonly b: string }
  /** What one actuator joins in each of its positions. */
  | { readonly kind: 'pole'; readonly by: string; readonly joins: readonly (readonly [string, string] | null)[] }
  | { readonly kind: 'residual'; readonly poles: readonly { readonly line: string; readonly load: string }[]; readonly ma: number }
  | { readonly kind: 'fuse'; readonly a: string; readonly b: string; readonly ratingA: number }
  /** Where a plug goes in. */
  | {
      readonly kind: 'socket'
      readonly id: string
      readonly name: string
      readonly line: string
      readonly other: string
      readonly earth: string | null
    }
  /** A load that is built in; `watts` null: as much as is said of the point. */
  | {
      readonly kind: 'load'
      readonly id: string
      readonly name: string
      readonly a: string
      readonly b: string
      readonly watts: number | null
    }

/** Something a finger moves. */
export interface Actuator {
  readonly id: string
  readonly name: string
  readonly positions: readonly string[]
}

/** A thing that is in a box, by its terminals and what joins them. */
export interface DeviceKind {
  readonly id: string
  readonly name: string
  readonly regions: readonly RegionId[]
  readonly terminals: readonly DeviceTerminal[]
  readonly inside: readonly Inside[]
  readonly actuators: readonly Actuator[]
  /** The thickest conductor its terminals take, and the bare length they grip. */
  readonly largestSize: string
  readonly stripMm: number
  /** The terminal that bonds what a hand can touch. */
  readonly body: string | null
  /** How it is wired, where its terminals do not say it by themselves; null: they do. */
  readonly pattern: WiringPattern | null
}

const ON_OFF = ['off', 'on'] as const
const main = (name = 'switch'): Actuator => ({ id: 'main', name, positions: ON_OFF })
const isNorthAmerica = (region: RegionId): boolean => region === 'north-america'
/** A binding screw of North America takes one conductor; a pillar terminal of the metric worlds two or three. */
const mostAt = (region: RegionId, screw: ScrewKind): number =>
  isNorthAmerica(region) && screw !== 'plain' ? 1 : isNorthAmerica(region) ? 2 : 3

const plain = (
  region: RegionId,
  id: string,
  mark: string,
  screw: ScrewKind,
  at: readonly [number, number],
  takes: DeviceTerminal['takes'] = null,
  most = mostAt(region, screw),
): DeviceTerminal => ({ id, mark, screw, at, takes, most })

/** Terminals of an accessory by name; a mark that occurs twice is distinguished by its order. */
function terminalsOf({ region, terminals }: Accessory): readonly DeviceTerminal[] {
  const seen = new Map<string, number>()
  return terminals.map((t: Terminal) => {
    const times = (seen.get(t.mark) ?? 0) + 1
    seen.set(t.mark, times)
    return plain(region, times > 1 ? `${t.mark} ${times}` : t.mark, t.mark, t.screw, t.at, t.takes)
  })
}

/** What a residual device for the protection of persons trips at, in milliamperes. */
const personMa = (region: RegionId): number => (isNorthAmerica(region) ? 5 : 30)

type Named = (cable: CableSide, role: ConductorRole) => string | null
/** What is behind the face of an accessory of the catalogue, by its kind. */
function insideOf(
  a: Accessory,
  on: readonly DeviceTerminal[],
): { readonly inside: readonly Inside[]; readonly actuators: readonly Actuator[] } {
  const at: Named = (cable, role) => on.find((t) => t.takes?.cable === cable && t.takes.role === role)?.id ?? null
  const [line, neutral, pe] = (['line', 'neutral', 'pe'] as const).map((r) => at('feed', r))
  const earths: Inside[] = at('load', 'pe') && pe ? [{ kind: 'joined', a: pe, b: at('load', 'pe')! }] : []
  const pairs = (['line', 'line-2', 'switched-line', 'neutral'] as const).flatMap((role) => {
    const [from, to] = [at('feed', role), at('load', role) ?? (role === 'line' ? at('load', 'switched-line') : null)]
    return from && to ? [[from, to] as const] : []
  })
  if (a.kind === 'outlet') {
    const ma = personMa(a.region)
    // One without load terminals guards its own outlets alone.
    if (a.residual && pairs.length === 0) return guardsItself(a, line!, neutral!, pe ?? null, ma)
    const residual = a.residual
    const side: CableSide = residual ? 'load' : 'feed'
    const sockets: Inside[] = Array.from({ length: Math.max(1, a.outlets) }, (_, i) => ({
      kind: 'socket',
      id: `socket-${i + 1}`,
      name: a.outlets > 1 ? (isNorthAmerica(a.region) ? ['upper', 'lower'][i]! : ['left', 'right'][i]!) : 'outlet',
      line: at(side, 'line')!,
      other: (at(side, 'neutral') ?? at(side, 'line-2'))!,
      earth: pe ?? null,
    }))
    const guards: Inside[] = residual ? [{ kind: 'residual', poles: pairs.map(([l, o]) => ({ line: l, load: o })), ma }] : []
    return { inside: [...guards, ...sockets, ...earths], actuators: [] }
  }
  const poles: Inside[] = pairs.map(([x, y]) => ({ kind: 'pole', by: 'main', joins: [null, [x, y]] }))
  if (a.kind === 'thermostat' && neutral && at('load', 'neutral'))
    return {
      inside: [
        { kind: 'pole', by: 'main', joins: [null, [line!, at('load', 'switched-line')!]] },
        { kind: 'joined', a: neutral, b: at('load', 'neutral')! },
        ...earths,
      ],
      actuators: [main('thermostat')],
    }
  // The outlet of a cooker control unit is ahead of its main switch.
  const ahead: Inside[] =
    a.outlets > 0 ? [{ kind: 'socket', id: 'socket-1', name: 'outlet', line: line!, other: neutral!, earth: pe ?? null }] : []
  return { inside: [...poles, ...ahead, ...earths], actuators: [main(a.kind === 'thermostat' ? 'thermostat' : 'switch')] }
}

/** Places inside a device that are no terminals: behind its residual device, between its switch and its fuse. */
export const insides = { guardedLine: 'guarded line', guardedNeutral: 'guarded neutral', beforeFuse: 'before the fuse' } as const

function guardsItself(a: Accessory, line: string, neutral: string, pe: string | null, ma: number) {
  const { guardedLine, guardedNeutral } = insides
  const sockets = Array.from({ length: Math.max(1, a.outlets) }, (_, i): Inside => ({
    kind: 'socket',
    id: `socket-${i + 1}`,
    name: a.outlets > 1 ? ['left', 'right'][i]! : 'outlet',
    line: guardedLine,
    other: guardedNeutral,
    earth: pe,
  }))
  const poles = [
    { line, load: guardedLine },
    { line: neutral, load: guardedNeutral },
  ]
  return { inside: [{ kind: 'residual', poles, ma } as const, ...sockets], actuators: [] }
}

function deviceFrom(a: Accessory): DeviceKind {
  const terminals = terminalsOf(a)
  const body = terminals.find((t) => t.takes?.role === 'pe')?.id ?? null
  const { id, name, region, largestSize, stripMm } = a
  return { id, name, regions: [region], terminals, ...insideOf(a, terminals), largestSize, stripMm, body, pattern: null }
}

const line = { cable: 'feed', role: 'line' } as const
const neutral = { cable: 'feed', role: 'neutral' } as const
const pe = { cable: 'feed', role: 'pe' } as const
const switched = { cable: 'feed', role: 'switched-line' } as const

/** A duplex receptacle as it is made: two screws a side, joined by a tab that can be broken out. */
function duplex(a: Accessory): DeviceKind {
  const t = (id: string, mark: string, screw: ScrewKind, x: number, y: number, takes: DeviceTerminal['takes']) =>
    plain(a.region, id, mark, screw, [x, y], takes)
  return {
    ...deviceFrom(a),
    terminals: [
      t('hot upper', 'HOT upper', 'brass', 92, 30, line),
      t('hot lower', 'HOT lower', 'brass', 92, 62, line),
      t('n upper', 'N upper', 'silver', 8, 30, neutral),
      t('n lower', 'N lower', 'silver', 8, 62, neutral),
      t('gnd', 'GND', 'green', 14, 92, pe),
    ],
    inside: [
      { kind: 'tab', id: 'hot-tab', name: 'tab of the hot side', a: 'hot upper', b: 'hot lower' },
      { kind: 'tab', id: 'neutral-tab', name: 'tab of the neutral side', a: 'n upper', b: 'n lower' },
      { kind: 'socket', id: 'upper', name: 'upper', line: 'hot upper', other: 'n upper', earth: 'gnd' },
      { kind: 'socket', id: 'lower', name: 'lower', line: 'hot lower', other: 'n lower', earth: 'gnd' },
    ],
    actuators: [],
    body: 'gnd',
  }
}

/** A fused connection unit: its switch or its residual device opens both poles, its fuse is in the line behind it. */
function fusedUnit(a: Accessory): DeviceKind {
  const made = deviceFrom(a)
  const at: Named = (cable, role) => made.terminals.find((t) => t.takes?.cable === cable && t.takes.role === role)!.id
  const [line, neutral] = [at('feed', 'line')!, at('feed', 'neutral')!]
  const onward = at('load', 'neutral')!
  const opens: readonly Inside[] = a.residual
    ? [
        {
          kind: 'residual',
          poles: [
            { line, load: insides.beforeFuse },
            { line: neutral, load: onward },
          ],
          ma: personMa(a.region),
        },
      ]
    : [
        { kind: 'pole', by: 'main', joins: [null, [line, insides.beforeFuse]] },
        { kind: 'pole', by: 'main', joins: [null, [neutral, onward]] },
      ]
  return {
    ...made,
    actuators: a.residual ? [] : made.actuators,
    inside: [
      ...opens,
      { kind: 'fuse', a: insides.beforeFuse, b: at('load', 'line')!, ratingA: a.ratingA },
      { kind: 'joined', a: at('feed', 'pe')!, b: at('load', 'pe')! },
    ],
  }
}
/** How makers number two poles: what is joined while it is closed. */
const numberedWays = [
  [
    ['1', '2'],
    ['3', '4'],
  ],
  [
    ['1', '3'],
    ['2', '4'],
  ],
  [
    ['1', '4'],
    ['2', '3'],
  ],
] as const
type Spot = readonly [id: string, mark: string, x: number, y: number, screw?: ScrewKind, takes?: DeviceTerminal['takes']]
const twoWay: Inside = {
  kind: 'pole',
  by: 'main',
  joins: [
    ['com', 'one'],
    ['com', 'two'],
  ],
}
const patterns: ReadonlySet<string> = new Set<WiringPattern>([
  'two-way',
  'intermediate',
  'light',
  'fan',
  'fan-light',
  'fan-overrun',
  'speed',
  'timer',
  'shaver',
])
const isPattern = (id: string): id is WiringPattern => patterns.has(id)
/** The other kinds, the same in every world but for their marks and screws. */
function further(region: RegionId, prefix: string, strip: number, size: string): readonly DeviceKind[] {
  const na = isNorthAmerica(region)
  const screw = (s: ScrewKind): ScrewKind => (na ? s : 'plain')
  const kind = (
    id: string,
    name: string,
    spots: readonly Spot[],
    inside: readonly Inside[],
    actuators: readonly Actuator[],
  ): DeviceKind => ({
    id: `${prefix}-${id}`,
    name,
    regions: [region],
    terminals: spots.map(([t, mark, x, y, s = 'plain', takes = null]) => plain(region, t, mark, screw(s), [x, y], takes)),
    inside,
    actuators,
    largestSize: size,
    stripMm: strip,
    body: spots.some(([t]) => t === 'e') ? 'e' : null,
    pattern: isPattern(id) ? id : null,
  })
  const earth: Spot = ['e', na ? 'GND' : 'E', na ? 14 : 78, 90, 'green', pe]
  const lamp = (id: string, name: string, a: string, b: string): Inside => ({ kind: 'load', id, name, a, b, watts: null })
  const ways: readonly [string, string] = ['position 1', 'position 2']
  const rocker: Actuator = { id: 'main', name: 'switch', positions: ways }
  return [
    kind(
      'two-way',
      na ? 'Three-way switch, 15 A' : 'Two-way plate switch',
      [
        ['com', 'COM', 92, 24, 'dark'],
        ['one', na ? 'T1' : 'L1', 8, 24, 'brass'],
        ['two', na ? 'T2' : 'L2', na ? 92 : 8, 70, 'brass'],
        earth,
      ],
      [twoWay],
      [rocker],
    ),
    kind(
      'intermediate',
      na ? 'Four-way switch, 15 A' : 'Intermediate plate switch',
      [
        ['in-1', na ? 'IN 1' : 'L1 in', 8, 24, 'dark'],
        ['in-2', na ? 'IN 2' : 'L2 in', 92, 24, 'dark'],
        ['out-1', na ? 'OUT 1' : 'L1 out', 8, 66, 'brass'],
        ['out-2', na ? 'OUT 2' : 'L2 out', 92, 66, 'brass'],
        earth,
      ],
      [
        {
          kind: 'pole',
          by: 'main',
          joins: [
            ['in-1', 'out-1'],
            ['in-1', 'out-2'],
          ],
        },
        {
          kind: 'pole',
          by: 'main',
          joins: [
            ['in-2', 'out-2'],
            ['in-2', 'out-1'],
          ],
        },
      ],
      [rocker],
    ),
    kind(
      'two-switches',
      na ? 'Two switches on one yoke' : 'Plate with two switches',
      [
        ['com', na ? 'HOT' : 'COM', 8, 30, 'dark', line],
        ['one', na ? 'SW 1' : 'L1 left', 92, 24, 'brass'],
        ['two', na ? 'SW 2' : 'L1 right', 92, 62, 'brass'],
        earth,
      ],
      [
        { kind: 'pole', by: 'first', joins: [null, ['com', 'one']] },
        { kind: 'pole', by: 'second', joins: [null, ['com', 'two']] },
      ],
      [
        { id: 'first', name: na ? 'upper switch' : 'left switch', positions: ON_OFF },
        { id: 'second', name: na ? 'lower switch' : 'right switch', positions: ON_OFF },
      ],
    ),
    kind(
      'light',
      'Light',
      [['l', na ? 'BLACK lead' : 'L', 24, 26, 'plain', switched], ['n', na ? 'WHITE lead' : 'N', 76, 26, 'plain', neutral], earth],
      [lamp('lamp', 'lamp', 'l', 'n')],
      [],
    ),
    kind(
      'fan',
      na ? 'Exhaust fan' : 'Extract fan',
      [['l', na ? 'BLACK lead' : 'L', 24, 26, 'plain', switched], ['n', na ? 'WHITE lead' : 'N', 76, 26, 'plain', neutral], earth],
      [lamp('motor', 'fan', 'l', 'n')],
      [],
    ),
    kind(
      'shaver',
      'Shaver supply unit, with isolating transformer',
      [['l', 'L', 24, 26, 'plain', switched], ['n', 'N', 76, 26, 'plain', neutral], earth],
      [lamp('transformer', 'isolating transformer', 'l', 'n')],
      [],
    ),
    kind(
      'fan-overrun',
      na ? 'Exhaust fan with run-on timer' : 'Extract fan with overrun timer',
      [
        ['l', na ? 'HOT lead' : 'L', 12, 26],
        ['sl', na ? 'SWITCHED lead' : 'LT', 50, 26],
        ['n', na ? 'WHITE lead' : 'N', 88, 26, 'plain', neutral],
        earth,
      ],
      [lamp('motor', 'fan', 'sl', 'n'), { kind: 'load', id: 'timer', name: 'overrun timer', a: 'l', b: 'n', watts: 1 }],
      [],
    ),
    kind(
      'fan-light',
      'Ceiling fan with light',
      [
        ['fan', na ? 'FAN lead' : 'L fan', 12, 26],
        ['l', na ? 'LIGHT lead' : 'L light', 50, 26],
        ['n', na ? 'WHITE lead' : 'N', 88, 26, 'plain', neutral],
        earth,
      ],
      [
        { kind: 'load', id: 'fan', name: 'fan', a: 'fan', b: 'n', watts: 70 },
        { kind: 'load', id: 'lamp', name: 'lamp', a: 'l', b: 'n', watts: 40 },
      ],
      [],
    ),
    kind(
      'speed',
      'Fan speed controller',
      [
        ['l', na ? 'HOT' : 'L', 30, 26, 'brass', line],
        ['o', na ? 'FAN' : 'L out', 70, 26, 'brass', { cable: 'load', role: 'switched-line' }],
        earth,
      ],
      [{ kind: 'pole', by: 'main', joins: [null, ['l', 'o']] }],
      [main('controller')],
    ),
    kind(
      'timer',
      'Timer that needs a neutral',
      [
        ['l', na ? 'HOT' : 'L', 16, 26, 'brass', line],
        ['n', 'N', 50, 26, 'silver', neutral],
        ['o', na ? 'LOAD' : 'L out', 84, 26, 'brass', { cable: 'load', role: 'switched-line' }],
        earth,
      ],
      [
        { kind: 'pole', by: 'main', joins: [null, ['l', 'o']] },
        { kind: 'load', id: 'clock', name: 'its own clock', a: 'l', b: 'n', watts: 1 },
      ],
      [main('timer')],
    ),
    kind(
      'numbered',
      na ? 'Disconnect with numbered terminals' : 'Isolator with numbered terminals',
      [['1', '1', 14, 24], ['2', '2', 86, 24], ['3', '3', 14, 64], ['4', '4', 86, 64], earth],
      [{ kind: 'numbered', by: 'main', ways: numberedWays }],
      [main('isolator')],
    ),
    kind(
      'contactor',
      'Contactor, two poles',
      [
        ['a1', 'A1', 10, 20],
        ['a2', 'A2', 90, 20],
        ['1', '1', 22, 55],
        ['3', '3', 62, 55],
        ['2', '2', 22, 88],
        ['4', '4', 62, 88],
      ],
      [
        { kind: 'load', id: 'coil', name: 'coil', a: 'a1', b: 'a2', watts: 4 },
        { kind: 'pole', by: 'main', joins: [null, ['1', '2']] },
        { kind: 'pole', by: 'main', joins: [null, ['3', '4']] },
      ],
      [main('contacts')],
    ),
  ]
}

const more: readonly DeviceKind[] = [
  ...further('north-america', 'na', 16, '12 AWG'),
  ...further('united-kingdom', 'uk', 8, '2.5 mm2'),
  ...further('southern-africa', 'za', 8, '2.5 mm2'),
]
const described = new Set(more.map((d) => d.id))
const byPattern = new Map<string, DeviceKind>(more.flatMap((d) => (d.pattern ? [[`${d.regions[0]} ${d.pattern}`, d] as const] : [])))
/** An accessory that is wired by a pattern has that one's terminals under its own name. */
function patterned({ id, name, region, stripMm, largestSize, pattern }: Accessory): DeviceKind[] {
  const like = byPattern.get(`${region} ${pattern}`)
  return like ? [{ ...like, id, name, stripMm, largestSize }] : []
}
const own = accessories.flatMap((a) =>
  described.has(a.id)
    ? []
    : a.pattern
      ? patterned(a)
      : [a.id.startsWith('na-duplex') ? duplex(a) : a.kind === 'connection-unit' ? fusedUnit(a) : deviceFrom(a)],
)
/** Everything that can be in a box: the accessories of the catalogue, and what is wired besides. */
export const devices: readonly DeviceKind[] = [...own, ...more]
const byId = new Map(devices.map((d) => [d.id, d]))
export const device = (id: string): DeviceKind | undefined => byId.get(id)
export const devicesFor = (region: RegionId): readonly DeviceKind[] => devices.filter((d) => d.regions.includes(region))
