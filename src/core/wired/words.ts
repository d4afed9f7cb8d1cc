import type { Box } from '../build/box'
import { CAP, tailEndName, terminalName } from '../job/bench'
import { colourName } from '../build/plan'

/** "black of the cable to Counter": what a hand looks for. */
export const endWords = (box: Box, name: string): string => {
  for (const k of box.cables)
    for (const e of k.ends)
      if (e.name === name) return `${colourName(e.conductor.colour)} of the cable ${k.side === 'feed' ? 'from' : 'to'} ${k.to}`
  const tail = box.bench.tails.find((t) => name === tailEndName(t.id, 'a') || name === tailEndName(t.id, 'b'))
  return tail ? `${colourName(tail.colour)} pigtail` : 'a conductor'
}
/** "brass screw HOT upper" or "joint 2". */
export const placeWords = (box: Box, to: string): string => {
  if (to === CAP) return 'capped'
  const n = box.bench.connectors.findIndex((c) => c.id === to)
  if (n >= 0) return `joint ${n + 1}`
  for (const d of box.devices)
    for (const t of d.kind.terminals) if (terminalName(d.id, t.id) === to) return `${t.mark}${t.screw === 'plain' ? '' : ` (${t.screw})`}`
  return 'nowhere'
}
