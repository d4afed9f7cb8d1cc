import { listedWords } from '../base/finding'
import { uncapitalised } from '../base/format'
import { grouped } from '../base/grouped'
import { connector } from '../catalogue/connectors'
import { CAP, tailEndName, terminalName } from '../job/bench'
import { type ConductorRole, type WireColour, wireColours } from '../region/colours'
import type { Box, DeviceAt } from './box'
import { type CableAt, TO_ITS_LOAD } from './cores'

export const colourName = (c: WireColour): string => wireColours[c].name
const tailOf = (box: Box, name: string) => box.bench.tails.find((t) => name === tailEndName(t.id, 'a') || name === tailEndName(t.id, 'b'))

/** Where a cable leads, in words: "from the panel"; where cables of several circuits meet, of which it is. */
export function leadsWords(box: Box, k: CableAt): string {
  const several = new Set(box.cables.map((c) => c.circuit)).size > 1
  return `${k.side === 'feed' ? 'from' : 'to'} ${k.to}${several ? ` (${k.circuitName})` : ''}`
}

/** What a conductor end is called: its colour, and which cable it is of or, where it runs by itself in a raceway, where it leads. */
interface Called {
  readonly colour: string
  /** "from the panel"; empty: a pigtail. */
  readonly where: string
  readonly of: 'cable' | 'raceway' | 'cord' | 'pigtail'
}
function called(box: Box, name: string): Called | null {
  for (const k of box.cables)
    for (const e of k.ends)
      if (e.name === name) {
        const colour = colourName(e.conductor.colour)
        if (k.recorded === null && k.to !== TO_ITS_LOAD) return { colour, where: k.to, of: 'cord' }
        return { colour, where: leadsWords(box, k), of: k.singles ? 'raceway' : 'cable' }
      }
  const tail = tailOf(box, name)
  return tail ? { colour: colourName(tail.colour), where: '', of: 'pigtail' } : null
}
const joinWords = ({ colour, of }: Called, where: readonly string[]): string => {
  const s = where.length > 1 ? 's' : ''
  if (of === 'pigtail') return `${colour} pigtail`
  if (of === 'cord') return `${colour} of the ${listedWords(where)}`
  return of === 'cable' ? `${colour} of the cable${s} ${listedWords(where)}` : `${colour} conductor${s} ${listedWords(where)}`
}

/** "black of the cable to Counter", "black conductor from the panel" in a raceway, "brown pigtail". */
export function endWords(box: Box, name: string): string {
  const of = called(box, name)
  return of ? joinWords(of, [of.where]) : 'a conductor'
}

/** Ends of cores, to follow "the", alike ones together: "bare copper of the cables from the panel and to Counter". */
export function endsWords(box: Box, names: readonly string[]): string {
  const groups = grouped(
    names.flatMap((n) => called(box, n) ?? []),
    (c) => `${c.colour} ${c.of}`,
  )
  return listedWords(
    [...groups.values()].map((list, i) => {
      const words = joinWords(
        list[0]!,
        list.map((c) => c.where),
      )
      return i === 0 ? words : `the ${words}`
    }),
  )
}

/** A device by its kind; in a box of several points by its point too. */
export const deviceWords = (box: Box, d: Pick<DeviceAt, 'kind' | 'point'>): string =>
  box.points.length > 1 ? `${d.kind.name}, ${box.points.find((p) => p.id === d.point)?.name ?? ''}` : d.kind.name

/** "joint 2", counted among the joints of the box; or the terminal of the metal box itself. */
export function jointName({ bench }: Box, of: Box['bench']['connectors'][number]): string {
  const kind = connector(of.kind)
  return kind.ofBox
    ? `the ${uncapitalised(kind.name)}`
    : `joint ${bench.connectors.filter((c) => !connector(c.kind).ofBox).indexOf(of) + 1}`
}

/** "brass screw HOT upper" or "joint 2". */
export function placeWords(box: Box, to: string): string {
  if (to === CAP) return 'capped'
  const joined = box.bench.connectors.find((c) => c.id === to)
  if (joined) return jointName(box, joined)
  for (const d of box.devices)
    for (const t of d.kind.terminals)
      if (terminalName(d.id, t.id) === to) {
        const which = box.devices.length > 1 ? ` of ${deviceWords(box, d)}` : ''
        return `${t.mark}${t.screw === 'plain' ? '' : ` (${t.screw} screw)`}${which}`
      }
  return 'nowhere'
}

/** What a conductor end is for; a pigtail is for what it is joined with. */
export function roleOfEnd(box: Box, name: string): ConductorRole {
  const own = box.cables.flatMap((k) => k.ends).find((e) => e.name === name)
  if (own) return own.conductor.role
  const tail = tailOf(box, name)
  if (!tail) return 'spare'
  const places = (['a', 'b'] as const).flatMap((s) => box.bench.ends.find((e) => e.end === tailEndName(tail.id, s))?.to ?? [])
  const met = box.bench.ends
    .filter((e) => places.includes(e.to))
    .flatMap((e) => box.cables.flatMap((k) => k.ends).find((x) => x.name === e.end) ?? [])
  return met[0]?.conductor.role ?? (tail.colour === 'greenYellow' || tail.colour === 'bare' || tail.colour === 'green' ? 'pe' : 'line')
}
