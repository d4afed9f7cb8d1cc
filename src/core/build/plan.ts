import { followed, type Schools } from '../catalogue/schools'
import type { Accessory, CableSide, Joint, Terminal } from '../catalogue/accessories'
import { sentence } from '../job/part'
import { remembered } from '../base/memory'
import { formatSmallLength, formatSize, type UnitSystem } from '../base/format'
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
  const work = { region, fitted, units, schools }
  const steps = stepsOf(work, made(work, joints, connections, size), [...feed, ...load])
  return { feed, load, connections, joints, steps }
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

/** What is wired at one place, and how whoever wires it works. */
interface Work {
  readonly region: RegionId
  readonly fitted: Accessory
  readonly units: UnitSystem
  readonly schools: Schools | undefined
}

/** Joints and terminals in the order they are made. */
function made({ region, fitted, schools }: Work, joints: readonly JointMade[], connections: readonly Connection[], size: string | null) {
  const rank = (role: ConductorRole) => order.indexOf(role)
  const joined = joints.map(({ joint, conductors }) => {
    const together = conductors.length + (joint.pigtail ? 1 : 0)
    return {
      role: joint.role,
      id: `joint-${joint.role}`,
      text:
        `Join ${conductors.map((c) => colourName(c.colour)).join(' and ')} in ${connectorWords[followed(schools, 'joints')]} listed for ` +
        `${together} conductors${size ? ` of ${formatSize(size)}` : ''}` +
        (joint.pigtail ? `, with a tail to the device’s ${worlds[region].words.protectiveVerb} terminal. ` : '. ') +
        'Tug each one.',
    }
  })
  const landed = connections.map(({ terminal, conductor }, i) => ({
    role: conductor.role,
    id: `terminal-${i}`,
    text:
      (fitted.onward === 'optional-cable' && terminal.takes.cable === 'load' ? 'Onward cable, if there is one: ' : '') +
      `${sentence(conductorInWords(conductor))} ` +
      `on ${terminal.mark}${terminal.screw === 'plain' ? '' : ` (${terminal.screw} screw)`}. Tighten, wiggle, tighten again.`,
  }))
  return [...joined, ...landed].toSorted((a, b) => rank(a.role) - rank(b.role)).map(({ id, text }) => ({ id, text }))
}

function remarkStep(remarked: readonly Conductor[]): WiringStep[] {
  const [first] = remarked
  if (!first) return []
  const which = [...new Set(remarked.map((c) => `${colourName(c.colour)} with ${colourName(c.remark!)}`))].join(', ')
  return [
    { id: 'remark', text: `Mark ${which}, at this end and at the other.`, ...(first.clause === undefined ? {} : { clause: first.clause }) },
  ]
}

/** The last screw, and folding it all in. */
function torqueStep({ region, fitted, schools }: Work): WiringStep {
  const { cites, words, boxesBy } = worlds[region]
  return {
    id: 'torque',
    text:
      `Set every terminal to the torque on the device. Fold the conductors in, ${words.protective} deepest, then check every ` +
      'screw again.' +
      (followed(schools, 'tape') === 'yes' ? ' Tape round the terminals before it goes back.' : '') +
      (boxesBy === 'volume' && fitted.outlets > 0 ? ` ${pinWords[followed(schools, 'ground-pin')]}` : ''),
    clause: cites.torque,
  }
}

const PROVED_DEAD = 'Prove it dead here, between every pair of conductors, before a hand goes in.'
const NOTHING_ONWARD = 'Nothing onward? Leave the load terminals closed, tape over them, and cap any spare conductor; do not cut it off.'

/** What is done between what comes in and what is folded away. */
function stepsOf(work: Work, parts: readonly WiringStep[], all: readonly Conductor[]): WiringStep[] {
  const { region, fitted, units, schools } = work
  const { cites } = worlds[region]
  return [
    { id: 'dead', text: PROVED_DEAD, clause: cites.provedDead },
    { id: 'enter', ...tailsLeft(region, units, schools) },
    ...remarkStep(all.filter((c) => c.remark)),
    {
      id: 'strip',
      text:
        `Strip ${formatSmallLength(fitted.stripMm, units)}, by the gauge on the device where it has one. No nick in the copper, no ` +
        'bare live metal outside the terminal.',
      clause: cites.joints,
    },
    ...parts,
    ...(fitted.onward === 'optional-cable' ? [{ id: 'cap', text: NOTHING_ONWARD }] : []),
    torqueStep(work),
    { id: 'picture', text: 'Leave this drawing in the box or behind the plate for the next person.' },
  ]
}
