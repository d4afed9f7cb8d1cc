import { listedWords } from '../base/finding'
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

/** "black of the cable to Counter", "brown pigtail". */
export function endWords(box: Box, name: string): string {
  for (const k of box.cables)
    for (const e of k.ends) {
      if (e.name !== name) continue
      const where = k.recorded === null && k.to !== TO_ITS_LOAD ? `of the ${k.to}` : `of the cable ${leadsWords(box, k)}`
      return `${colourName(e.conductor.colour)} ${where}`
    }
  const tail = tailOf(box, name)
  return tail ? `${colourName(tail.colour)} pigtail` : 'a conductor'
}

/** Ends of cores, alike ones together: "bare copper of the cables from the panel and to Counter". */
export function endsWords(box: Box, names: readonly string[]): string {
  const parts = names.map((n) => endWords(box, n))
  const of = ' of the cable '
  const groups = new Map<string, string[]>()
  for (const p of parts) {
    const at = p.indexOf(of)
    const [what, where] = at < 0 ? [p, ''] : [p.slice(0, at), p.slice(at + of.length)]
    groups.set(what, [...(groups.get(what) ?? []), where])
  }
  return listedWords(
    [...groups].map(([what, where]) => {
      const named = where.filter(Boolean)
      return named.length ? `${what} of the cable${named.length > 1 ? 's' : ''} ${listedWords(named)}` : what
    }),
  )
}

/** A device by its kind; in a box of several points by its point too. */
export const deviceWords = (box: Box, d: Pick<DeviceAt, 'kind' | 'point'>): string =>
  box.points.length > 1 ? `${d.kind.name}, ${box.points.find((p) => p.id === d.point)?.name ?? ''}` : d.kind.name

/** "brass screw HOT upper" or "joint 2". */
export function placeWords(box: Box, to: string): string {
  if (to === CAP) return 'capped'
  const n = box.bench.connectors.findIndex((c) => c.id === to)
  if (n >= 0) return `joint ${n + 1}`
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
