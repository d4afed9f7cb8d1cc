import type { Accessory } from '../catalogue/accessories'
import { protectiveOf } from '../design/protective'
import { singleCores } from '../design/conditions'
import type { Installation } from '../installation/installation'
import { type Cable, cableM, type End } from '../job/cable'
import { tailEndName } from '../job/bench'
import type { Conductor } from '../region/colours'
import type { Box } from './box'
import { type BuiltRaceway, builtRaceways } from './raceways'
import { builtBoards, type BuiltBoard } from './boards'
import { coresOf, isPutIn, loadCable, type Worked } from './cores'

/* What will be there when the work is finished, worked out once: boards, boxes, cables, raceways. Whatever reports it reads this. */

/** A cable as built: of the record, from a device to its appliance, or a pigtail inside one box. */
export interface BuiltCable {
  readonly id: string
  readonly kind: 'recorded' | 'appliance' | 'pigtail'
  readonly circuit: string | null
  readonly from: End | { readonly kind: 'appliance' | 'box'; readonly id: string }
  readonly to: End | { readonly kind: 'appliance' | 'box'; readonly id: string }
  readonly state: Cable['state']
  /** Kind of cable; null: not recorded, or the cord that comes with an appliance. */
  readonly type: string | null
  readonly size: string | null
  readonly protectiveSize: string | null
  readonly cores: readonly Conductor[]
  /** Null: not known, never zero. */
  readonly lengthM: number | null
  /** As its route asks for it to be cut; null: no route was chosen. */
  readonly cutM: number | null
  /** Its cores are single conductors drawn into a raceway. */
  readonly singles: boolean
  /** The raceway it is in; null: none, or not said which. */
  readonly raceway: string | null
}
export interface Build {
  readonly boards: readonly BuiltBoard[]
  readonly boxes: readonly Box[]
  readonly cables: readonly BuiltCable[]
  readonly raceways: readonly BuiltRaceway[]
}
/** A circuit with its boxes. */
export interface BuiltCircuit extends Worked {
  readonly ends: readonly { readonly fitted: Accessory | undefined; readonly built: Box | null }[]
}

/** The whole of what will be there. Pure: of the record, read, and its circuits worked out. */
export function build(job: Installation, circuits: readonly BuiltCircuit[]): Build {
  const boxes = new Map<string, Box>()
  for (const c of circuits) for (const e of c.ends) if (e.built && !boxes.has(e.built.id)) boxes.set(e.built.id, e.built)
  const recorded = circuits.flatMap((c) =>
    c.circuit.cables.filter((k) => k.state !== 'removed' && k.inside !== 'joint').map((k) => recordedCable(job, c, k)),
  )
  const inBoxes = [...boxes.values()].flatMap((b) => [...applianceCables(b, circuits), ...pigtails(b)])
  const found = job.foundCables.filter((k) => k.circuit === null).map(foundCable)
  return {
    boards: builtBoards(job, circuits),
    boxes: [...boxes.values()],
    cables: [...recorded, ...inBoxes, ...found],
    raceways: builtRaceways(job),
  }
}

function recordedCable(job: Installation, report: Worked, k: Cable): BuiltCable {
  const { circuit, chosen } = report
  const { design, result } = chosen
  const fresh = isPutIn(job, report, k)
  const type = k.type ?? (k.state === 'existing' ? null : design.cable)
  const singles = singleCores.includes(type ?? design.cable)
  const inRaceway = job.raceways.filter((r) => r.circuits.includes(circuit.id))
  return {
    id: k.id,
    kind: k.inside ? 'pigtail' : 'recorded',
    circuit: circuit.id,
    from: k.from,
    to: k.to,
    state: fresh ? 'new' : 'existing',
    type,
    size: k.size ?? (k.state === 'existing' ? null : (result?.size ?? null)),
    protectiveSize: k.state === 'existing' || !result ? null : protectiveOf(job.region, design.cable, result, k.size),
    cores: coresOf(job, report, k),
    lengthM: cableM(k),
    cutM: k.route?.cutM ?? null,
    singles,
    raceway: inRaceway.length === 1 ? inRaceway[0]!.id : null,
  }
}

const foundCable = (k: Cable): BuiltCable => ({
  id: k.id,
  kind: 'recorded',
  circuit: null,
  from: k.from,
  to: k.to,
  state: k.state,
  type: k.type,
  size: k.size,
  protectiveSize: null,
  cores: [],
  lengthM: cableM(k),
  cutM: null,
  singles: false,
  raceway: null,
})

function applianceCables(box: Box, circuits: readonly Worked[]): readonly BuiltCable[] {
  return box.cables
    .filter((k) => k.id === loadCable(k.point))
    .map((k) => ({
      id: k.id,
      kind: 'appliance' as const,
      circuit: k.circuit,
      from: { kind: 'point' as const, id: k.point },
      to: { kind: 'appliance' as const, id: `appliance:${k.point}` },
      state: k.fresh ? ('new' as const) : ('existing' as const),
      // A cord comes with its appliance.
      type: k.size === null ? null : (circuits.find((c) => c.circuit.id === k.circuit)?.chosen.design.cable ?? null),
      size: k.size,
      protectiveSize: k.protectiveSize,
      cores: k.ends.map((e) => e.conductor),
      lengthM: null,
      cutM: null,
      singles: false,
      raceway: null,
    }))
}

export const pigtailId = (box: Box, tail: string): string => `${box.id}:${tail}`
const pigtails = (box: Box): readonly BuiltCable[] =>
  box.bench.tails.map((t) => {
    const at = box.bench.ends.find((e) => e.end === tailEndName(t.id, 'a'))?.to
    const like = box.cables
      .flatMap((k) => k.ends.map((e) => ({ e, k })))
      .find(({ e }) => box.bench.ends.some((x) => x.end === e.name && x.to === at))
    const role = like?.e.conductor.role ?? 'line'
    return {
      id: pigtailId(box, t.id),
      kind: 'pigtail' as const,
      circuit: like?.k.circuit ?? box.points[0]?.circuit ?? null,
      from: { kind: 'box' as const, id: box.id },
      to: { kind: 'box' as const, id: box.id },
      state: 'new' as const,
      type: null,
      size: like ? (role === 'pe' ? like.k.protectiveSize : like.k.size) : null,
      protectiveSize: null,
      cores: [{ id: 'link', role, colour: t.colour }],
      lengthM: null,
      cutM: null,
      singles: true,
      raceway: null,
    }
  })
