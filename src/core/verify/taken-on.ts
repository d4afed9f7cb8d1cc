import { chosenDesign, type Circuit } from '../installation/installation'
import type { Reading } from '../job/reading'

/** FNV-1a, 32 bits, in hexadecimal: the same text gives the same mark, another one all but surely another. */
function mark(text: string): string {
  let hash = 0x811c9dc5
  for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193) >>> 0
  return hash.toString(16).padStart(8, '0')
}

/** The way of a circuit and the cables, accessories and protection it has now: what a reading is taken on. */
export function takenOn(circuit: Circuit): NonNullable<Reading['on']> {
  const { cable, conductor, minSize, accessory, residual } = chosenDesign(circuit)
  const laid = {
    design: [cable, conductor, minSize, accessory, residual.at, circuit.behind, circuit.colours, circuit.kind],
    cables: circuit.cables.map((k) => [k.id, k.from.id, k.to.id, k.type, k.size, k.lengthM, k.stretches.map((s) => [s.place, s.lengthM])]),
    points: (circuit.points.length ? circuit.points : circuit.end ? [circuit.end] : []).map((p) => [
      p.id,
      p.accessory,
      p.fuseA,
      p.leg,
      p.guardsOn,
    ]),
  }
  return { way: `${circuit.board} ${circuit.way || 'no way'}`, laid: mark(JSON.stringify(laid)) }
}

/** Why a reading does not stand for what is there now; null where it does. */
export function outdated({ on }: Reading, phase: 'isolation' | 'dead' | 'live', now: NonNullable<Reading['on']>): string | null {
  if (on === null) return phase === 'isolation' ? 'taken before it was kept which way was isolated: isolate and prove dead again' : null
  if (on.way !== now.way) return `taken on ${wayWords(on.way)}, and the circuit leaves from ${wayWords(now.way)} now: do it again`
  return phase === 'isolation' || on.laid === now.laid ? null : 'cable, accessory or protection was changed since: do it again'
}
const wayWords = (way: string): string => `position ${way.slice(way.indexOf(' ') + 1)}`
