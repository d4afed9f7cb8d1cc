import { z } from 'zod'
import { connectorIds } from '../catalogue/connectors'
import { device } from '../catalogue/devices'
import { idField, word } from './fields'
import { edits, EditError, inList } from './part'
import type { RegionId } from '../region/types'
import { type WireColour, wireColours } from '../region/colours'

/** What an end of a conductor is called: a core of a cable at this place, or a side of a tail. */
const endName = word(140).min(1)
const colours = Object.keys(wireColours) as [WireColour, ...WireColour[]]

/** Where an end is terminated. `cap`: closed off by itself, on purpose. */
const madeSchema = z.strictObject({ end: endName, to: word(140).min(1) })

/** One box as it is wired: what is in it, and where each end goes. An end that is not in it lies loose. */
export const benchSchema = z.strictObject({
  /** `pairing`: which way the terminals of one with numbers were found to join; none: not tested. */
  devices: z
    .array(
      z.strictObject({
        id: idField,
        /** The point it is for; none: the one the box was made for. */
        point: idField.optional(),
        kind: word(64).min(1),
        broken: z.array(idField).max(8),
        pairing: z.int().min(0).max(2).optional(),
        /** As marked on the one in the hand, in newton metres; none: not read. */
        torqueNm: z.number().positive().max(100).optional(),
      }),
    )
    .max(8),
  connectors: z.array(z.strictObject({ id: idField, kind: z.enum(connectorIds) })).max(24),
  tails: z.array(z.strictObject({ id: idField, colour: z.enum(colours) })).max(24),
  ends: z.array(madeSchema).max(200),
  /** Ends that were re-marked, by their name. */
  marked: z.array(endName).max(60),
})
export type BenchRecord = z.infer<typeof benchSchema>

export const CAP = 'cap'
/** The end of a core at the place it comes to. */
export const coreEndName = (cable: string, core: string): string => `${cable} ${core}`
export const tailEndName = (tail: string, side: 'a' | 'b'): string => `${tail} ${side}`
export const terminalName = (deviceId: string, terminal: string): string => `${deviceId} ${terminal}`

/** An end terminated somewhere, or loose again. */
export const madeOff = (bench: BenchRecord, end: string, to: string | null): BenchRecord => ({
  ...bench,
  ends: [...bench.ends.filter((e) => e.end !== end), ...(to === null ? [] : [{ end, to }])],
})

/** What a bench names that is not on it, or null. */
export function faultOfBench(region: RegionId, bench: BenchRecord): { readonly path: string; readonly message: string } | null {
  const ids = [...bench.devices, ...bench.connectors, ...bench.tails].map((x) => x.id)
  if (new Set(ids).size < ids.length) return { path: 'devices', message: 'Two things in this box have one name.' }
  if (new Set(bench.ends.map((e) => e.end)).size < bench.ends.length) return { path: 'ends', message: 'An end is terminated twice.' }
  const places = new Set<string>([CAP, ...bench.connectors.map((c) => c.id)])
  for (const [i, d] of bench.devices.entries()) {
    const kind = device(d.kind)
    if (!kind?.regions.includes(region)) return { path: `devices.${i}.kind`, message: 'This is not listed for where the job is.' }
    for (const t of kind.terminals) places.add(terminalName(d.id, t.id))
    const tabs = new Set(kind.inside.flatMap((x) => (x.kind === 'tab' ? [x.id] : [])))
    if (d.broken.some((b) => !tabs.has(b))) return { path: `devices.${i}.broken`, message: 'This device has no such tab.' }
  }
  const at = bench.ends.findIndex((e) => !places.has(e.to))
  return at < 0 ? null : { path: `ends.${at}.to`, message: `There is no ${bench.ends[at]!.to} in this box.` }
}

interface Doc {
  region: RegionId
  boxes: { id: string; bench?: BenchRecord | undefined }[]
}
const edit = edits<Doc>()
const sound = ({ region }: Doc, bench: BenchRecord, path: string): BenchRecord => {
  const fault = faultOfBench(region, bench)
  if (fault) throw new EditError(`${path}.${fault.path}`, fault.message)
  return bench
}

export const benchEdits = {
  /** The wiring of a box as it is now, in place of the usual one. */
  'bench.take': edit(
    { box: idField, bench: benchSchema },
    (job, { box, bench }) => void (inList(job.boxes, box, 'box', 'box').bench = sound(job, bench, 'bench')),
    ({ box, bench }, say) =>
      `Box of ${say.name(box, 'a point')} wired: ${bench.ends.length} ${bench.ends.length === 1 ? 'end' : 'ends'} terminated`,
  ),
  'bench.connect': edit(
    { box: idField, end: endName, to: word(140).min(1).nullable() },
    (job, { box, end, to }) => {
      const at = inList(job.boxes, box, 'box', 'box')
      if (!at.bench) throw new EditError('box', 'This box has standard wiring; edit it first.')
      at.bench = sound(job, madeOff(at.bench, end, to), 'bench')
    },
    ({ box, to }, say) => `${say.name(box, 'A box')}: a conductor ${to === null ? 'taken off' : to === CAP ? 'capped' : 'terminated'}`,
  ),
  /** Wired the usual way again. */
  'bench.drop': edit(
    { box: idField },
    (job, { box }) => void delete inList(job.boxes, box, 'box', 'box').bench,
    ({ box }, say) => `Box of ${say.name(box, 'a point')}: standard wiring`,
  ),
}
