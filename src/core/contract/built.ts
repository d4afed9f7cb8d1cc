import { accessory } from '../catalogue/accessories'
import { widthsOf } from '../build/choose-box'
import { z } from 'zod'
import { terminalRole, terminalRoles } from '../build/roles'
import { type BoardDevice, builtBoards } from '../build/boards'
import type { Box, DeviceAt } from '../build/box'
import { build, type Build, type BuiltCable, pigtailId } from '../build/build'
import { workSteps } from '../build/steps'
import { connector } from '../catalogue/connectors'
import type { Inside } from '../catalogue/devices'
import { removalSteps, removedFrom } from '../build/removed'
import { circuitLabels, otherLabels } from '../documents/labels'
import type { Report } from '../evaluate/evaluate'
import type { Installation } from '../installation/installation'
import { CAP, tailEndName, terminalName } from '../job/bench'
import { newDay } from '../job/day'
import { seenBy } from '../design/fed'
import { type WireColour, wireColours } from '../region/colours'
import { worlds } from '../region/worlds'
import { isolationCards } from '../workday/isolation'
import { materialKinds, materialsOf, racewayLines } from '../workday/materials'
import { tasksOf } from '../workday/tasks'
import { isolating } from '../wired/isolate'

/* What will be there, as the calculator `job` answers it: in SI units, by the ids of the file. */

const text = z.string()
const device = z
  .strictObject({
    kind: z.enum(['breaker', 'breaker-residual']),
    ratingA: z.number().nullable(),
    curve: text.nullable(),
    poles: z.number(),
    tripMa: z.number().nullable(),
    type: text.nullable(),
  })
  .nullable()
const pair = z.tuple([text, text])
const role = z.enum(terminalRoles)
export const builtOutput = z.strictObject({
  boards: z.array(
    z.strictObject({
      id: text,
      bars: z.array(z.strictObject({ id: text, role: text })),
      ways: z.array(
        z.strictObject({
          id: text,
          found: device,
          planned: device,
          poles: z.number(),
          lands: z.array(z.strictObject({ cable: text, core: text, to: text })),
        }),
      ),
    }),
  ),
  boxes: z.array(
    z.strictObject({
      id: text,
      points: z.array(text),
      gangs: z.number(),
      accessories: z.array(
        z.strictObject({
          id: text,
          kind: text,
          point: text.nullable(),
          terminals: z.array(z.strictObject({ id: text, role })),
          joins: z.array(pair),
          contacts: z.array(z.strictObject({ id: text, positions: z.array(z.array(pair)) })),
        }),
      ),
      ends: z.array(z.strictObject({ cable: text, core: text, to: text, marked: text.nullable() })),
      joints: z.array(z.strictObject({ id: text, kind: text, maintenanceFree: z.boolean(), reachable: z.boolean() })),
      fill: z.strictObject({ required: z.number(), available: z.number(), unit: z.enum(['cm3', 'mm']), conductors: z.number() }).nullable(),
    }),
  ),
  cables: z.array(
    z.strictObject({
      id: text,
      from: text,
      to: text,
      type: text.nullable(),
      state: text,
      cores: z.array(z.strictObject({ id: text, role: text, colour: text })),
      lengthM: z.number().nullable(),
      raceway: text.nullable(),
    }),
  ),
  raceways: z.array(
    z.strictObject({
      id: text,
      pieces: z.array(z.strictObject({ lengthM: z.number() })),
      fittings: z.array(z.strictObject({ kind: text, count: z.number() })),
    }),
  ),
})
export const stepsOutput = z.array(
  z.strictObject({
    box: text,
    n: z.int(),
    cable: text,
    core: text,
    do: z.enum(['terminal', 'joint', 'cap', 'mark']),
    to: text.optional(),
    as: text.optional(),
  }),
)
export const labelsOutput = z.array(z.strictObject({ at: text, cable: text.nullable(), core: text.nullable(), lines: z.array(text) }))
export const materialsOutput = z.array(
  z.strictObject({
    what: text,
    kind: z.enum(materialKinds),
    size: text.optional(),
    cores: z.number().optional(),
    colour: text.optional(),
    poles: z.number().optional(),
    ratingA: z.number().optional(),
    quantity: z.number(),
    unit: z.enum(['m', 'each']),
    where: z.array(text),
  }),
)
export const isolationOutput = z.array(
  z.strictObject({
    tasks: z.array(text),
    opens: z.array(text),
    live: z.array(text),
    dead: z.array(text),
    proved: z.boolean(),
    signed: z.boolean(),
  }),
)

export const removedOutput = z.array(
  z.strictObject({ point: text, box: text, left: text.nullable(), feeds: z.array(text), steps: z.array(text) }),
)

/** A place in a box by a name that no other box has. */
const placeId = (box: Box, to: string): string => (to === CAP ? CAP : `${box.id}:${to}`)

/** A conductor end in a box: which cable, which core. */
interface EndOf {
  readonly name: string
  readonly cable: string
  readonly core: string
}
function endsIn(box: Box, cables: ReadonlyMap<string, BuiltCable>): readonly EndOf[] {
  return [
    ...box.cables.flatMap((k) => k.ends.map((e) => ({ name: e.name, ...coreId(cables.get(k.id), k.id, e.core) }))),
    ...box.bench.tails.flatMap((t) =>
      (['a', 'b'] as const).map((side) => ({ name: tailEndName(t.id, side), cable: pigtailId(box, t.id), core: 'link' })),
    ),
  ]
}
/** A single conductor in a raceway is a cable of one core. */
const coreId = (k: BuiltCable | undefined, id: string, core: string) =>
  k?.singles && k.kind === 'recorded' ? { cable: `${id} ${core}`, core } : { cable: id, core }

const joinsOf = (box: Box, d: DeviceAt): [string, string][] =>
  d.kind.inside.flatMap((x: Inside): [string, string][] =>
    x.kind === 'joined' || (x.kind === 'tab' && !d.broken.includes(x.id)) ? [[name(box, d, x.a), name(box, d, x.b)]] : [],
  )
const name = (box: Box, d: DeviceAt, t: string): string => placeId(box, terminalName(d.id, t))

/** What each position of a switch, a fuse or a residual device joins; contacts that one finger moves are one. */
function contactsOf(box: Box, d: DeviceAt) {
  const by = new Map<string, [string, string][][]>()
  const add = (id: string, positions: readonly (readonly (readonly [string, string])[])[]) => {
    const known = by.get(id) ?? positions.map(() => [])
    for (const [i, p] of positions.entries()) known[i]!.push(...p.map(([a, b]): [string, string] => [name(box, d, a), name(box, d, b)]))
    by.set(id, known)
  }
  for (const x of d.kind.inside) {
    if (x.kind === 'pole')
      add(
        x.by,
        x.joins.map((j) => (j ? [j] : [])),
      )
    else if (x.kind === 'fuse') add('fuse', [[], [[x.a, x.b]]])
    else if (x.kind === 'residual') add('residual', [[], x.poles.map((p) => [p.line, p.load] as const)])
    else if (x.kind === 'numbered' && d.pairing !== undefined) add(x.by, [[], x.ways[d.pairing]!])
  }
  return [...by].map(([id, positions]) => ({ id: placeId(box, `${d.id} ${id}`), positions }))
}

const colourOf = (c: WireColour): string => wireColours[c].name
function boxOut(
  job: Installation,
  report: Report,
  box: Box,
  cables: ReadonlyMap<string, BuiltCable>,
): z.infer<typeof builtOutput>['boxes'][number] {
  const made = new Map(box.bench.ends.map((e) => [e.end, e.to]))
  const remark = new Map(box.cables.flatMap((k) => k.ends.map((e) => [e.name, e.conductor.remark] as const)))
  const [first] = box.points
  const end = first && report.byCircuit.get(first.circuit)?.ends.find((e) => e.points.includes(first.id))
  const { fill, depth } = end?.boxReport ?? { fill: null, depth: null }
  const conductors = box.cables.reduce((n, k) => n + (k.size === null ? 0 : k.ends.length), 0)
  const hidden = job.boxes.find((b) => b.id === box.id)?.hidden ?? false
  return {
    id: box.id,
    points: [...box.points.map((p) => p.id), ...box.besides],
    gangs:
      end?.boxReport.kind?.gangs ??
      Math.max(
        1,
        widthsOf(box.devices.map((d) => accessory(d.kind.id))).reduce<number>((n, w) => n + w, 0),
      ),
    accessories: box.devices.map((d) => ({
      id: placeId(box, d.id),
      kind: d.kind.id,
      point: d.point,
      terminals: d.kind.terminals.map((t) => ({ id: name(box, d, t.id), role: terminalRole(d.kind, t) })),
      joins: joinsOf(box, d),
      contacts: contactsOf(box, d),
    })),
    ends: endsIn(box, cables).map(({ name: end_, cable, core }) => {
      const to = made.get(end_) ?? CAP
      const colour = box.bench.marked.includes(end_) ? (remark.get(end_) ?? null) : null
      return { cable, core, to: placeId(box, to), marked: colour ? colourOf(colour) : null }
    }),
    joints: box.bench.connectors.map((c) => ({
      id: placeId(box, c.id),
      kind: connector(c.kind).id,
      maintenanceFree: !connector(c.kind).twisted && c.kind !== 'block' && worlds[job.region].boxesBy === 'depth',
      reachable: !hidden,
    })),
    fill: fill
      ? { required: fill.output.requiredCm3, available: fill.output.availableCm3, unit: 'cm3', conductors }
      : depth
        ? { required: depth.neededMm, available: depth.availableMm, unit: 'mm', conductors }
        : null,
  }
}

type CableOut = z.infer<typeof builtOutput>['cables'][number]
const protective = (r: string): string => (r === 'pe' ? 'protective' : r)
function cableOut(boxOf: ReadonlyMap<string, string>, k: BuiltCable): CableOut[] {
  const at = ({ kind, id }: BuiltCable['from']): string => (kind === 'point' ? (boxOf.get(id) ?? id) : id)
  const whole = { id: k.id, from: at(k.from), to: at(k.to), type: k.type, state: k.state, lengthM: k.lengthM, raceway: k.raceway }
  const cores = k.cores.map((c) => ({ id: c.id, role: protective(c.role), colour: colourOf(c.colour) }))
  return k.singles && k.kind === 'recorded' ? cores.map((c) => ({ ...whole, id: `${k.id} ${c.id}`, cores: [c] })) : [{ ...whole, cores }]
}

const deviceOut = (d: BoardDevice | null) => d && { ...d }

function stepsOut(job: Installation, built: Build, cables: ReadonlyMap<string, BuiltCable>): z.infer<typeof stepsOutput> {
  return built.boxes.flatMap((box) => {
    const changes = box.points.some((p) => p.state === 'new') || !box.usual || box.cables.some((k) => k.fresh)
    if (!changes) return []
    const made = new Map(box.bench.ends.map((e) => [e.end, e.to]))
    const joints = new Set(box.bench.connectors.map((c) => c.id))
    const ends = new Map(endsIn(box, cables).map((e) => [e.name, e]))
    const remark = new Map(box.cables.flatMap((k) => k.ends.map((e) => [e.name, e.conductor.remark] as const)))
    let n = 0
    return workSteps(job, box, worlds[job.region].units).flatMap((step) =>
      (step.ends ?? []).flatMap((end): z.infer<typeof stepsOutput> => {
        const of = ends.get(end)
        if (!of) return []
        const { cable, core } = of
        if (step.id.startsWith('mark ')) {
          const colour = remark.get(end)
          return [{ box: box.id, n: ++n, cable, core, do: 'mark', ...(colour ? { as: colourOf(colour) } : {}) }]
        }
        const to = made.get(end) ?? CAP
        if (to === CAP) return [{ box: box.id, n: ++n, cable, core, do: 'cap' }]
        return [{ box: box.id, n: ++n, cable, core, do: joints.has(to) ? 'joint' : 'terminal', to: placeId(box, to) }]
      }),
    )
  })
}

function isolationOut(job: Installation, report: Report): z.infer<typeof isolationOutput> {
  const tasks = tasksOf(job, report)
  return isolationCards(job, report, job.day ?? newDay(), tasks).map((card) => {
    const ids = new Set(card.circuits.map((c) => c.circuit.id))
    const found = isolating(job, report.circuits, card.places)
    const opens = (found.opens ?? []).flatMap((s) =>
      s.kind === 'main'
        ? [`main:${job.boards[0]!.id}`]
        : s.kind === 'residual'
          ? [s.element.replace(/^rcd /, '')]
          : (s.ways ?? [s.element]),
    )
    const live = [...found.ways].flatMap(([id, state]) => (state === 'live' ? [id] : []))
    return {
      tasks: tasks.filter((t) => t.power === 'off' && t.circuit !== null && ids.has(t.circuit)).map((t) => t.id),
      opens: [...new Set(opens)],
      live,
      dead: [...new Set([...card.places.points.filter((p) => !found.missing.includes(p)), ...found.loses])],
      proved: card.proved,
      signed: card.signatures.length > 0,
    }
  })
}

/** All that will be there and what follows from it, of a job that was evaluated. */
export function builtOf(job: Installation, report: Report) {
  const built = build(job, report.circuits)
  const cables = new Map(built.cables.map((k) => [k.id, k]))
  const boxOf = new Map(built.boxes.flatMap((b) => b.points.map((p) => [p.id, b.id] as const)))
  const { units } = worlds[job.region]
  const labels = [...report.circuits.flatMap((c) => circuitLabels(seenBy(job, c), c, '', units)), ...otherLabels(job, '')]
  return {
    built: {
      boards: builtBoards(job, report.circuits).map(({ board, bars, ways }) => ({
        id: board.id,
        bars: [...bars],
        ways: ways.map((w) => ({
          id: w.id,
          found: deviceOut(w.found),
          planned: deviceOut(w.planned),
          poles: w.poles,
          lands: w.lands.map(({ cable, core, to }) => ({ ...coreId(cables.get(cable), cable, core), to })),
        })),
      })),
      boxes: built.boxes.map((b) => boxOut(job, report, b, cables)),
      cables: built.cables.flatMap((k) => cableOut(boxOf, k)),
      raceways: built.raceways.map((r) => {
        const bending = report.raceways.find((x) => x.raceway.id === r.raceway.id)?.bending
        return {
          id: r.raceway.id,
          pieces:
            bending && r.runsM?.length === 1
              ? bending.pieces.map((p) => ({ lengthM: p.lengthMm / 1000 }))
              : (r.piecesM ?? []).map((lengthM) => ({ lengthM })),
          fittings: racewayLines(job, [r], report.raceways, []).flatMap((l) =>
            l.kind === 'fitting' || l.kind === 'support' ? [{ kind: l.id.split(' ').slice(0, 2).join(' '), count: l.count }] : [],
          ),
        }
      }),
    },
    steps: stepsOut(job, built, cables),
    labels: labels.map(({ at, cable, lines }) => ({ at, cable, core: null, lines: [...lines] })),
    materials: materialsOf(job, report).lines.map((l) => ({
      what: l.what,
      kind: l.kind,
      ...(l.size === undefined ? {} : { size: l.size }),
      ...(l.cores === undefined ? {} : { cores: l.cores }),
      ...(l.colour === undefined ? {} : { colour: colourOf(l.colour) }),
      ...(l.poles === undefined ? {} : { poles: l.poles }),
      ...(l.ratingA === undefined ? {} : { ratingA: l.ratingA }),
      quantity: l.count,
      unit: l.unit === 'm' ? ('m' as const) : ('each' as const),
      where: [...l.at],
    })),
    isolation: isolationOut(job, report),
    removed: removedFrom(job).map((r) => ({
      point: r.point.id,
      box: r.point.box.id,
      left: r.left,
      feeds: r.through.map((p) => p.id),
      steps: removalSteps(job, r).map((s) => s.text),
    })),
  }
}
