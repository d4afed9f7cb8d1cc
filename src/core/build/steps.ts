import { connector } from '../catalogue/connectors'
import { followed } from '../catalogue/schools'
import { grouped } from '../base/grouped'
import { formatSize, formatSmallLength, type UnitSystem } from '../base/format'
import type { Installation } from '../installation/installation'
import { CAP, tailEndName } from '../job/bench'
import { sentence } from '../job/part'
import { listedWords } from '../base/finding'
import type { ConductorRole } from '../region/colours'
import { naFreeConductor } from '../region/north-america/awg'
import { worlds } from '../region/worlds'
import type { Box } from './box'
import { colourName, endsWords, endWords, placeWords, roleOfEnd } from './words'

/* The order of work in a box: what is marked, joined, connected and capped, conductor by conductor, as its wiring has it. */

/** A step of the work. `ends` are the conductor ends that it makes off, by their name in the box. */
export interface WorkStep {
  readonly id: string
  readonly text: string
  readonly clause?: string
  readonly ends?: readonly string[]
}

/** Protective conductor first, neutral next, line last; taking apart goes the other way. */
const order: readonly ConductorRole[] = ['pe', 'neutral', 'line-2', 'line', 'switched-line', 'traveller', 'spare']

/** A hand tool's length more than the least. */
const WORKING_TAIL_MM = 203.2

/** How much sheath and conductor is left in a box, by the method that is followed; `sheathed`: a cable with a sheath comes into it. */
export function tailsLeft({ region, brief }: Installation, units: UnitSystem, sheathed: boolean): Pick<WorkStep, 'text' | 'clause'> {
  const working = followed(brief.schools, 'tails') === 'working' ? formatSmallLength(WORKING_TAIL_MM, units) : null
  if (worlds[region].boxesBy === 'volume') {
    const free =
      `${working ?? `at least ${formatSmallLength(naFreeConductor.minFromSheathMm, units)}`} of free conductor, ` +
      `${formatSmallLength(naFreeConductor.minOutsideBoxMm, units)} of it past the box front.`
    if (!sheathed) return { text: `Leave ${free}`, clause: '300.14' }
    return {
      text: `Sheath at least ${formatSmallLength(naFreeConductor.minSheathInsideBoxMm, units)} inside the box; ${free}`,
      clause: '314.17; 300.14',
    }
  }
  return {
    text:
      'Sheath just inside the box, through a grommet or gland, and single conductors through a bushed conduit entry; leave ' +
      `${working === null ? 'enough conductor' : `${working} of conductor`} to draw the accessory forward and work on it.`,
    clause: worlds[region].cites.cableEntry,
  }
}

/** Where the other end of a pigtail goes. */
function tailsTo(box: Box, joint: string): readonly string[] {
  const target = new Map(box.bench.ends.map((e) => [e.end, e.to]))
  return box.bench.tails.flatMap((t) => {
    const [a, b] = [target.get(tailEndName(t.id, 'a')), target.get(tailEndName(t.id, 'b'))]
    return a === joint && b !== undefined ? [b] : b === joint && a !== undefined ? [a] : []
  })
}

const pinWords: Readonly<Record<string, string>> = {
  cord: 'Turn it so that its cord leaves downward without a sharp bend.',
  up: 'Ground pin up.',
  down: 'Ground pin down.',
}

/** Where conductors are joined to each other; the terminal of a metal box is a terminal. */
const jointsOf = ({ bench }: Box) => bench.connectors.filter((c) => !connector(c.kind).ofBox)

/** The steps at the conductors: one for each joint, each connection to a terminal, and each cap. */
function atConductors(job: Installation, box: Box): readonly (WorkStep & { readonly role: ConductorRole })[] {
  const isTail = new Set(box.bench.tails.flatMap((t) => [tailEndName(t.id, 'a'), tailEndName(t.id, 'b')]))
  const joints = new Map(jointsOf(box).map((c) => [c.id, c]))
  const byPlace = grouped(
    box.bench.ends.filter((e) => e.to !== CAP),
    (e) => e.to,
  )
  const steps: (WorkStep & { role: ConductorRole })[] = []
  for (const [to, list] of byPlace) {
    const ends = list.map((e) => e.end)
    const joint = joints.get(to)
    const role = roleOfEnd(box, ends.find((e) => !isTail.has(e)) ?? ends[0]!)
    if (joint) steps.push({ id: `joint ${to}`, role, ends, text: jointWords(job, box, joint, ends, isTail) })
    else {
      const own = ends.filter((e) => !isTail.has(e))
      const links = ends.filter((e) => isTail.has(e) && !joints.has(otherSide(box, e)))
      const text = own.length
        ? `Connect the ${endsWords(box, own)} to ${placeWords(box, to)}. Tighten, tug, tighten again.`
        : links.length
          ? `Link ${placeWords(box, to)} to ${placeWords(box, otherSide(box, links[0]!))} with a ${endWords(box, links[0]!)}.`
          : `Connect the ${endWords(box, ends[0]!)} from ${placeWords(box, otherSide(box, ends[0]!))} to ` +
            `${placeWords(box, to)}. Tighten, tug, tighten again.`
      steps.push({ id: `to ${to}`, role, ends, text })
    }
  }
  const made = new Set(box.bench.ends.map((e) => e.end))
  const loose = [...box.cables.flatMap((k) => k.ends.map((e) => e.name)), ...isTail].filter((e) => !made.has(e))
  const last = (end: string, text: string) => steps.push({ id: capStep(end), role: 'spare', ends: [end], text })
  for (const { end } of box.bench.ends.filter((e) => e.to === CAP))
    last(end, `Cap the ${endWords(box, end)} and coil it; do not cut it off.`)
  for (const end of loose) last(end, `Terminate or cap the ${endWords(box, end)}: it is not connected.`)
  // A joint is made before its pigtail is connected.
  const later = (s: WorkStep) => (s.id.startsWith('joint ') ? 0 : 1)
  return steps.toSorted((a, b) => order.indexOf(a.role) - order.indexOf(b.role) || later(a) - later(b))
}

function otherSide(box: Box, end: string): string {
  const tail = box.bench.tails.find((t) => end === tailEndName(t.id, 'a') || end === tailEndName(t.id, 'b'))
  const other = tail ? tailEndName(tail.id, end === tailEndName(tail.id, 'a') ? 'b' : 'a') : end
  return box.bench.ends.find((e) => e.end === other)?.to ?? ''
}

function jointWords(
  job: Installation,
  box: Box,
  joint: Box['bench']['connectors'][number],
  ends: readonly string[],
  isTail: ReadonlySet<string>,
): string {
  const own = ends.filter((e) => !isTail.has(e))
  const [size] = box.cables.flatMap((k) => (k.size && k.ends.some((e) => own.includes(e.name)) ? [k.size] : []))
  const tails = tailsTo(box, joint.id)
  const kind = connector(joint.kind)
  const listed = ` listed for ${ends.length} conductors${size ? ` of ${formatSize(size)}` : ''}`
  const either = followed(job.brief.schools, 'joints') === 'either' && !kind.twisted
  const of = kind.twisted
    ? 'a twist-on connector'
    : kind.id === 'block'
      ? 'a connector block'
      : either
        ? 'a connector (lever or twist-on)'
        : 'a lever connector'
  return (
    `${sentence(placeWords(box, joint.id))}: ${own.length > 0 ? `join the ${endsWords(box, own)} in` : 'fit'} ${of}${listed}` +
    `${tails.length ? pigtailWords(tails.map((t) => placeWords(box, t))) : ''}. ` +
    'Tug each one.'
  )
}

const pigtailWords = (to: readonly string[]): string => `, with ${to.length === 1 ? 'a pigtail' : 'pigtails'} to ${listedWords(to)}`

/** One step for all ends that are marked alike. */
function markSteps({ region }: Installation, box: Box): readonly WorkStep[] {
  const { line, neutral } = worlds[region].words
  const marked = box.cables.flatMap((k) => k.ends.filter((e) => box.bench.marked.includes(e.name)))
  const byColours = grouped(marked, (e) => `${e.conductor.colour} ${e.conductor.remark ?? ''}`)
  return [...byColours.values()].map((list, i): WorkStep => {
    const { remark, clause, role } = list[0]!.conductor
    const which = endsWords(
      box,
      list.map((e) => e.name),
    )
    const as = remark ? colourName(remark) : 'its own colour'
    const text =
      role === 'pe'
        ? `Sleeve the ${which} ${as}.`
        : `Mark the ${which} with ${as}, here and at the other end: it is a ${role === 'neutral' ? neutral : line} conductor.`
    return { id: `mark ${i + 1}`, text, ...(clause ? { clause } : {}), ends: list.map((e) => e.name) }
  })
}

/** The ids of the order of work, without its words: what is counted of every box of a job. */
export function stepIds(box: Box): readonly string[] {
  const { bench, cables } = box
  const places = new Set<string>()
  const caps: string[] = []
  const made = new Set<string>()
  for (const { end, to } of bench.ends) {
    made.add(end)
    if (to === CAP) caps.push(end)
    else places.add(to)
  }
  const joints = new Set(jointsOf(box).map((c) => c.id))
  const colours = new Set<string>()
  const marked = new Set(bench.marked)
  for (const k of cables)
    for (const e of k.ends) {
      if (!made.has(e.name)) caps.push(e.name)
      if (marked.has(e.name)) colours.add(`${e.conductor.colour} ${e.conductor.remark ?? ''}`)
    }
  for (const t of bench.tails) for (const s of ['a', 'b'] as const) if (!made.has(tailEndName(t.id, s))) caps.push(tailEndName(t.id, s))
  return [
    'dead',
    'enter',
    ...[...colours].map((_, i) => `mark ${i + 1}`),
    'strip',
    ...[...places].map((to) => (joints.has(to) ? `joint ${to}` : `to ${to}`)),
    ...caps.map(capStep),
    'torque',
    'picture',
  ]
}
const capStep = (end: string): string => `cap ${end}`.slice(0, 64)

/** The order of work in a box, from proving dead to folding in. */
export function workSteps(job: Installation, box: Box, units: UnitSystem): readonly WorkStep[] {
  const { cites, words, boxesBy } = worlds[job.region]
  const fitted = box.points.some((p) => p.fitted)
  const strip = box.devices.map((d) => d.kind.stripMm)
  const stripped = [...new Set(strip)].map((mm) => formatSmallLength(mm, units)).join(' or ')
  const outlet = box.devices.some((d) => d.kind.inside.some((x) => x.kind === 'socket'))
  return [
    { id: 'dead', text: 'Prove it dead here, between every pair of conductors, before you touch any.', clause: cites.provedDead },
    {
      id: 'enter',
      ...tailsLeft(
        job,
        units,
        box.cables.some((k) => !k.singles),
      ),
    },
    ...markSteps(job, box),
    {
      id: 'strip',
      text:
        `Strip ${stripped ? `${stripped}, by the gauge on the device where it has one` : 'as the connector says'}. No nick in the ` +
        'copper, no bare live metal outside the terminal.',
      clause: cites.joints,
    },
    ...atConductors(job, box).map(({ role: _, ...s }) => s),
    {
      id: 'torque',
      text:
        (strip.length > 0
          ? `Set every terminal to the torque on the device. Fold the conductors in, ${words.protective} deepest, then check every ` +
            'screw again.'
          : `Fold the conductors in, ${words.protective} deepest.`) +
        (followed(job.brief.schools, 'tape') === 'yes' ? ' Tape round the terminals before it goes back.' : '') +
        (boxesBy === 'volume' && outlet && fitted ? ` ${pinWords[followed(job.brief.schools, 'ground-pin')]}` : ''),
      clause: cites.torque,
    },
    { id: 'picture', text: 'Leave this drawing in the box or behind the plate for the next person.' },
  ]
}

const isOld = (id: string): boolean => id.startsWith('terminal-') || id.startsWith('joint-')
const atEnds = (id: string): boolean => /^(to|joint|cap|mark) /.test(id)
/** The steps that are done. Files of older versions name terminals by their order: there, folded in means that each was made. */
export function doneSteps(steps: readonly string[], done: readonly string[]): readonly string[] {
  if (done.length === 0) return done
  const older = done.includes('torque') && done.some(isOld)
  return steps.filter((id) => done.includes(id) || (older && atEnds(id)))
}
