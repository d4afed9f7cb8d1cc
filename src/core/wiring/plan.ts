import { followed, type Schools } from '../catalogue/schools'
import type { Accessory, CableSide, Joint, Terminal } from '../catalogue/accessories'
import { remembered } from '../memory'
import { formatSmallLength, formatSize, type UnitSystem } from '../quantity/format'
import { cableConductors, type Conductor, type ConductorRole, type WireColour, wireColours } from '../region/colours'
import { naFreeConductor } from '../region/north-america/awg'
import type { RegionId } from '../region/types'
import { worlds } from '../region/worlds'

export interface Connection {
  readonly terminal: Terminal
  readonly conductor: Conductor
}
export interface JointMade {
  readonly joint: Joint
  readonly conductors: readonly Conductor[]
}
export interface WiringStep {
  readonly id: string
  readonly text: string
  readonly clause?: string
}

export interface WiringPlan {
  readonly feed: readonly Conductor[]
  readonly load: readonly Conductor[]
  readonly connections: readonly Connection[]
  readonly joints: readonly JointMade[]
  readonly steps: readonly WiringStep[]
}

const cordConductors: readonly Conductor[] = [
  { id: 'cord-line', role: 'line', colour: 'brown' },
  { id: 'cord-neutral', role: 'neutral', colour: 'blue' },
  { id: 'cord-pe', role: 'pe', colour: 'greenYellow' },
]

/** The cable that leaves the accessory: the appliance's cord, a switched leg, or more of the same. */
function onwardConductors(region: RegionId, fitted: Accessory, colours: 'new' | 'old'): readonly Conductor[] {
  if (fitted.onward === 'none') return []
  if (fitted.onward === 'cord') return cordConductors
  const same = cableConductors(region, fitted.system, colours).map((c) => ({ ...c, id: `load-${c.id}` }))
  const switched = fitted.terminals.some((t) => t.takes.role === 'switched-line')
  return switched ? same.map((c) => (c.role === 'line' ? { ...c, role: 'switched-line' as const } : c)) : same
}

/** Conductor on terminal, joint by joint, for an accessory at the end of a new cable in this world's colours. */
export function wiringPlan(
  region: RegionId,
  fitted: Accessory,
  colours: 'new' | 'old',
  size: string | null,
  units: UnitSystem,
  schools?: Schools,
): WiringPlan {
  const feed = cableConductors(region, fitted.system, colours)
  const load = onwardConductors(region, fitted, colours)
  const bySide: Record<CableSide, readonly Conductor[]> = { feed, load }
  const find = (side: CableSide, role: ConductorRole) => bySide[side].find((c) => c.role === role)
  const joints = fitted.joints.map((joint) => ({
    joint,
    conductors: [find('feed', joint.role), find('load', joint.role)].filter((c): c is Conductor => c !== undefined),
  }))
  const inJoint = new Set(joints.flatMap((j) => j.conductors.map((c) => c.id)))
  const connections = fitted.terminals.flatMap((terminal) => {
    const conductor = find(terminal.takes.cable, terminal.takes.role)
    return conductor && !inJoint.has(conductor.id) ? [{ terminal, conductor }] : []
  })
  return { feed, load, connections, joints, steps: steps(region, fitted, connections, joints, size, units, [...feed, ...load], schools) }
}

const stepIds = remembered<Accessory, readonly string[]>()

/** The ids of the steps of a wiring plan, which depend on neither size nor units; remembered, as whole jobs ask for them. */
export function wiringStepIds(region: RegionId, fitted: Accessory, colours: 'new' | 'old'): readonly string[] {
  return stepIds(fitted, [region, colours], () => wiringPlan(region, fitted, colours, null, 'metric').steps.map((s) => s.id))
}

/** Earth first, neutral next, line last; taking apart goes the other way. */
const order: readonly ConductorRole[] = ['pe', 'neutral', 'line-2', 'line', 'switched-line']

export const colourName = (c: WireColour): string => wireColours[c].name

/** "white, marked red": what the hand looks for. */
export function conductorInWords(c: Conductor): string {
  return c.remark ? `${colourName(c.colour)}, marked ${colourName(c.remark)}` : colourName(c.colour)
}

/** What a hand has to work with, beyond the least: about a hand’s breadth more. */
const WORKING_TAIL_MM = 203.2

/** How much sheath and conductor is left in a box, by the school that is followed. */
export function tailsLeft(region: RegionId, units: UnitSystem, schools: Schools | undefined): Pick<WiringStep, 'text' | 'clause'> {
  const working = followed(schools, 'tails') === 'working' ? formatSmallLength(WORKING_TAIL_MM, units) : null
  if (worlds[region].boxesBy === 'volume')
    return {
      text:
        `Sheath at least ${formatSmallLength(naFreeConductor.minSheathInsideBoxMm, units)} inside the box; ` +
        `${working ?? `at least ${formatSmallLength(naFreeConductor.minFromSheathMm, units)}`} of free conductor, ` +
        `${formatSmallLength(naFreeConductor.minOutsideBoxMm, units)} of it past the box front.`,
      clause: '314.17; 300.14',
    }
  return {
    text:
      'Sheath just inside the box, through a grommet or gland; leave ' +
      `${working === null ? 'enough conductor' : `${working} of conductor`} to draw the accessory forward and work on it.`,
    clause: worlds[region].cites.cableEntry,
  }
}
const connectorWords: Readonly<Record<string, string>> = {
  either: 'a connector, lever or twist-on,',
  lever: 'a lever connector',
  twist: 'a twist-on connector',
}
const pinWords: Readonly<Record<string, string>> = {
  cord: 'Turn it so that its cord leaves downward without a sharp bend.',
  up: 'Ground pin up.',
  down: 'Ground pin down.',
}

const sentence = (s: string): string => s.charAt(0).toUpperCase() + s.slice(1)

function steps(
  region: RegionId,
  fitted: Accessory,
  connections: readonly Connection[],
  joints: readonly JointMade[],
  size: string | null,
  units: UnitSystem,
  all: readonly Conductor[],
  schools: Schools | undefined,
): WiringStep[] {
  const words = worlds[region].words
  const remarked = all.filter((c) => c.remark)
  const rank = (role: ConductorRole) => order.indexOf(role)
  const made = [
    ...joints.map((j) => ({
      role: j.joint.role,
      id: `joint-${j.joint.role}`,
      text:
        `Join ${j.conductors.map((c) => colourName(c.colour)).join(' and ')} in ` +
        `${connectorWords[followed(schools, 'joints')]} listed for ` +
        `${j.conductors.length + (j.joint.pigtail ? 1 : 0)} ` +
        `conductors${size ? ` of ${formatSize(size)}` : ''}` +
        (j.joint.pigtail ? `, with a tail to the device’s ${words.protectiveVerb} terminal. ` : '. ') +
        'Tug each one.',
    })),
    ...connections.map(({ terminal, conductor }, i) => ({
      role: conductor.role,
      id: `terminal-${i}`,
      text:
        (fitted.onward === 'optional-cable' && terminal.takes.cable === 'load' ? 'Onward cable, if there is one: ' : '') +
        `${sentence(conductorInWords(conductor))} ` +
        `on ${terminal.mark}${terminal.screw === 'plain' ? '' : ` (${terminal.screw} screw)`}. Tighten, wiggle, tighten again.`,
    })),
  ].toSorted((a, b) => rank(a.role) - rank(b.role))
  return [
    {
      id: 'dead',
      text: `Prove it dead here, between every pair of conductors, before a hand goes in.`,
      clause: worlds[region].cites.provedDead,
    },
    { id: 'enter', ...tailsLeft(region, units, schools) },
    ...(remarked.length
      ? [
          {
            id: 'remark',
            text:
              `Mark ${[...new Set(remarked.map((c) => `${colourName(c.colour)} with ${colourName(c.remark!)}`))].join(', ')}, at ` +
              'this end and at the other.',
            clause: remarked[0]!.clause,
          } as WiringStep,
        ]
      : []),
    {
      id: 'strip',
      text:
        `Strip ${formatSmallLength(fitted.stripMm, units)}, by the gauge on the device where it has one. No nick in the copper, no ` +
        'bare live metal outside the terminal.',
      clause: worlds[region].cites.joints,
    },
    ...made.map(({ id, text }) => ({ id, text })),
    ...(fitted.onward === 'optional-cable'
      ? [
          {
            id: 'cap',
            text: 'Nothing onward? Leave the load terminals closed, tape over them, and cap any spare conductor; do not cut it off.',
          },
        ]
      : []),
    {
      id: 'torque',
      text:
        `Set every terminal to the torque on the device. Fold the conductors in, ${words.protective} deepest, then check every ` +
        'screw again.' +
        (followed(schools, 'tape') === 'yes' ? ' Tape round the terminals before it goes back.' : '') +
        (worlds[region].boxesBy === 'volume' && fitted.outlets > 0 ? ` ${pinWords[followed(schools, 'ground-pin')]}` : ''),
      clause: worlds[region].cites.torque,
    },
    { id: 'picture', text: 'Leave this drawing in the box or behind the plate for the next person.' },
  ]
}
